using NodaTime;

namespace OilTag.Demo;

/// <summary>
/// The story's own calendar: its Saturday is day 0, and everything that is told happened before it. The anchor is the last Saturday on or before
/// today, so the story moves by whole weeks and keeps its weekdays. Local times are shifted, never instants.
/// </summary>
public sealed class StoryCalendar(LocalDate today, DateTimeZone zone)
{
    /// <summary>The zone of the shed.</summary>
    public DateTimeZone Zone => zone;

    /// <summary>Today.</summary>
    public LocalDate Today => today;

    /// <summary>Day 0 of the story.</summary>
    public LocalDate Anchor { get; } = today.DayOfWeek == IsoDayOfWeek.Saturday ? today : today.Previous(IsoDayOfWeek.Saturday);

    /// <summary>A day of the story as a date.</summary>
    public LocalDate Date(int day) => Anchor.PlusDays(day);

    /// <summary>A time on a day of the story. In the hour that a change of the clocks leaves out, the time after it.</summary>
    public Instant At(int day, LocalTime time) => Date(day).At(time).InZoneLeniently(zone).ToInstant();

    /// <summary>A time on a day of the story.</summary>
    public Instant At(int day, int hour, int minute = 0) => At(day, new LocalTime(hour, minute));
}
