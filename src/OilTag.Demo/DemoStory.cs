using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.People;

namespace OilTag.Demo;

/// <summary>
/// The story of an invented island museum, told in the tables below Story/: nobody and nothing in it exists. The same story on every day, moved by whole
/// weeks. Scenes name keys; nothing looks for the first that fits.
/// </summary>
public sealed partial class DemoStory
{
    private readonly DemoRecord record = new();
    private readonly StoryCalendar calendar;
    private readonly Dictionary<string, Machine> machines = new(StringComparer.Ordinal);

    private DemoStory(LocalDate today, DateTimeZone zone) => calendar = new StoryCalendar(today, zone);

    /// <summary>Tells the story as of a day.</summary>
    /// <param name="today">The day.</param>
    /// <param name="zone">The zone of the shed.</param>
    public static DemoRecord Build(LocalDate today, DateTimeZone zone)
    {
        var story = new DemoStory(today, zone);
        story.People();
        story.Machines();
        story.Parts();
        story.Findings();
        story.Wants();
        story.Packages();
        story.Cards();
        story.Surveys();
        story.Condition();
        story.Registers();
        story.Shed();
        story.Lifts();
        story.Diary();
        story.Since();
        story.Care();
        return story.record;
    }

    private static InvalidOperationException Wrong(string key, string why) => new($"The story is wrong at {key}: {why}");

    private static Measure? Length(string text, string key) =>
        text.Length == 0 ? null : MeasureReader.Read(text, Quantity.Length).Value ?? throw Wrong(key, $"“{text}” is no length.");

    private T Keyed<T>(string key, T row)
        where T : class
    {
        if (!record.Keys.TryAdd(key, row))
        {
            throw Wrong(key, "the key stands twice.");
        }

        return record.Named(row);
    }

    private T Find<T>(string key)
        where T : class => record.Keys.TryGetValue(key, out var row) && row is T found
            ? found
            : throw Wrong(key, $"there is no such {typeof(T).Name}.");

    private Person P(string name) => Find<Person>(name);

    private void Say(Instant at, Person who, string sentence, Guid? machineId = null, Guid? placeId = null, Guid? tagId = null,
        Guid? packageId = null) =>
        record.Say(new LogEntry
        {
            At = at,
            PersonId = who.Id,
            Sentence = sentence,
            MachineId = machineId,
            PlaceId = placeId,
            TagId = tagId,
            PackageId = packageId,
        });

    // Saturdays are spent from ten to four, Wednesday evenings from half past six to half past nine.
    private static bool IsSaturday(int day) => ((day % 7) + 7) % 7 == 0;

    private Instant During(int day, string key) =>
        IsSaturday(day)
            ? calendar.At(day, 10 + Filler.Of(5, "hour", key), Filler.Of(60, "minute", key))
            : calendar.At(day, 18 + Filler.Of(2, "hour", key), 30 + Filler.Of(30, "minute", key));

    private Instant AtTheEnd(int day, int minute) =>
        (IsSaturday(day) ? calendar.At(day, 15, 10) : calendar.At(day, 20, 50)).Plus(Duration.FromMinutes(minute));

    private string LeadOf(string letter) => letter is "M" or "G" ? "Una Thorsby" : "Jory Pascow";
}
