using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Work;

/// <summary>What a word on a line means in this shed, and when it means nothing that can be said for sure.</summary>
public class StepWordsTests
{
    private static readonly StepWords Shed = new()
    {
        People = ["Dilys Marrack", "Nell Garrow", "Nell Pascow"],
        Skills = ["boilers", "machining", "machinist's mate", "riveter"],
        Things = ["Reamer 1/4", "Reamer 1/4 adjustable", "Long bench", "Lathe"],
    };

    [Theory]
    [InlineData("Dilys", "Dilys Marrack")]
    [InlineData("dilys marrack", "Dilys Marrack")]
    [InlineData("Nell Pascow", "Nell Pascow")]
    [InlineData("Nell", null)]
    [InlineData("Marrack", null)]
    [InlineData("", null)]
    public void A_first_name_means_somebody_only_where_one_has_it(string typed, string? person) => Shed.Person(typed).ShouldBe(person);

    [Theory]
    [InlineData("riveting", "riveter")]
    [InlineData("Riveter", "riveter")]
    [InlineData("riveters", "riveter")]
    [InlineData("boiler", "boilers")]
    [InlineData("machining", "machining")]
    [InlineData("rivet", "riveter")]
    [InlineData("ring", null)]
    [InlineData("welder", null)]
    [InlineData("", null)]
    public void A_skill_is_known_by_its_stem(string typed, string? skill) => Shed.Skill(typed).ShouldBe(skill);

    [Theory]
    [InlineData("lathe", new[] { "Lathe" })]
    [InlineData("reamer 1/4", new[] { "Reamer 1/4" })]
    [InlineData("reamer", new[] { "Reamer 1/4", "Reamer 1/4 adjustable" })]
    [InlineData("adjustable reamer", new[] { "Reamer 1/4 adjustable" })]
    [InlineData("mill", new string[0])]
    [InlineData("  ", new string[0])]
    public void A_tool_is_known_by_its_words_and_all_that_fit_are_named(string typed, string[] things) =>
        Shed.ThingsLike(typed).ShouldBe(things);

    [Fact]
    public void A_word_that_two_skills_share_means_neither() =>
        new StepWords { Skills = ["turner", "turning"] }.Skill("turners").ShouldBeNull();

    // What ships is read again as it is written, so that nothing of a set is lost when somebody changes one word of it.
    [Fact]
    public void Every_set_is_the_same_after_it_was_read_and_written()
    {
        foreach (var set in StartingSteps.All)
        {
            var read = StepText.Read(set.Lines, StepWords.None);
            read.Questions.ShouldBeEmpty(set.Name);
            read.Steps.ShouldAllBe(s => s.Hold || s.Hours != null || s.Needs.Elapsed != null, set.Name);
            var again = StepText.Read(StepText.Write(read.Steps, StepWords.None), StepWords.None);
            again.Steps.Select(s => (s.Name, s.Hours, s.Hold, s.Beside, s.Note)).ShouldBe(read.Steps.Select(s => (s.Name, s.Hours, s.Hold,
                s.Beside, s.Note)), set.Name);
            read.Steps.Where(s => s.Hours is not null).ShouldAllBe(s => s.Hours!.Low <= s.Hours.Likely && s.Hours.Likely <= s.Hours.High,
                set.Name);
        }
    }

    [Fact]
    public void A_length_of_stock_shows_gates_lanes_cures_and_what_nobody_estimated()
    {
        var read = StepText.Read("ream 2-4-6 h\n+ dress 1 h\nHOLD Gauged\nglue 1 h\ncure 7 d over 8C\nlook it over", StepWords.None);
        var steps = read.Steps.Select((s, i) => StepChange.Make(s, i + 1)).ToList();
        var stock = Stock.Of(steps, 90, new Dictionary<Guid, int> { [steps[0].Id] = 90 }, new HoursRange(3, 5, 8));
        stock.Parts.Select(p => p.Gate is not null ? "gate" : p.Break is not null ? "break"
            : string.Join('+', p.Lanes.Select(l => l.Number))).ShouldBe(["1+2", "gate", "4", "break", "5"]);
        stock.Parts[0].Lanes[0].Share.ShouldBe(1.5 / 4, 1e-9);
        stock.Parts[0].Lanes[0].Now.ShouldBeTrue();
        stock.Parts[0].Lanes[1].Now.ShouldBeFalse();
        stock.Parts[3].Break!.Value.Days.Likely.ShouldBe(7);
        stock.Unknown.ShouldBe(1);
        stock.ToDo.ShouldBe(new HoursRange(3, 5, 8));
    }
}
