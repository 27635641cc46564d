using System.Globalization;
using NodaTime;

namespace OilTag.Core.Today;

/// <summary>When the shed is open on a day.</summary>
/// <param name="From">From.</param>
/// <param name="Until">Until.</param>
/// <param name="InCalendar">False when the calendar has no session that day and somebody came all the same.</param>
public sealed record OpenHours(LocalTime From, LocalTime Until, bool InCalendar)
{
    /// <summary>A day that is not in the calendar.</summary>
    public static readonly OpenHours Other = new(new LocalTime(10, 0), new LocalTime(16, 0), false);
}

/// <summary>Checks when somebody comes and until when they stay.</summary>
public static class VisitRule
{
    /// <summary>Shortest stay that is written down, minutes.</summary>
    public const int Shortest = 5;

    /// <summary>Until when somebody stays who says nothing: to the end of the session, or two hours when that is over or nearly so.</summary>
    /// <param name="now">When they come.</param>
    /// <param name="hours">When the shed is open.</param>
    public static LocalTime UsualUntil(LocalTime now, OpenHours hours)
    {
        ArgumentNullException.ThrowIfNull(hours);
        return now < hours.Until.PlusMinutes(-30) ? hours.Until : Later(now, 120);
    }

    /// <summary>A clock time so many minutes later, at most a minute to midnight.</summary>
    public static LocalTime Later(LocalTime time, int minutes) =>
        (time.Hour * 60) + time.Minute + minutes >= 24 * 60 ? new LocalTime(23, 59) : time.PlusMinutes(minutes);

    /// <summary>Reads until when somebody stays.</summary>
    /// <param name="until">As typed, such as 15:30; empty for the usual.</param>
    /// <param name="now">When they come.</param>
    /// <param name="hours">When the shed is open.</param>
    public static (LocalTime Until, IReadOnlyList<Problem> Problems) Check(string? until, LocalTime now, OpenHours hours)
    {
        var usual = UsualUntil(now, hours);
        if (string.IsNullOrWhiteSpace(until))
        {
            return (usual, []);
        }

        return Clock(until) is not { } time ? (usual, [new Problem("Until", "Type until when as a clock time, such as 15:30.")])
            : time < Later(now, Shortest) ? (usual, [new Problem("Until", $"{Words(time)} is past, or as good as. It is {Words(now)}.")])
            : (time, []);
    }

    /// <summary>When somebody goes: now, or as it was typed, or the end of their stay when they forgot to sign out.</summary>
    /// <param name="visit">Their stay.</param>
    /// <param name="went">As typed; empty for the usual.</param>
    /// <param name="now">Today and now.</param>
    public static (LocalTime Leaves, Problem? Problem) Leaves(Visit visit, string? went, LocalDateTime now)
    {
        ArgumentNullException.ThrowIfNull(visit);
        var today = visit.On == now.Date;
        var clock = new LocalTime(now.Hour, now.Minute);
        var usual = !today ? visit.Until : clock < visit.Arrived ? visit.Arrived : clock;
        return string.IsNullOrWhiteSpace(went) ? (usual, null)
            : Clock(went) is not { } time ? (usual, new Problem("Went", "Type when they went as a clock time, such as 15:30."))
            : time < visit.Arrived ? (usual, new Problem("Went", $"They came at {Words(visit.Arrived)}; {Words(time)} is before that."))
            : today && time > usual ? (usual, new Problem("Went", $"It is {Words(clock)} now."))
            : (time, null);
    }

    /// <summary>A clock time as typed, or null.</summary>
    public static LocalTime? Clock(string? text) =>
        TimeOnly.TryParseExact((text ?? string.Empty).Trim(), ["H:mm", "HH:mm", "H.mm", "%H", "HH:mm:ss"], CultureInfo.InvariantCulture, DateTimeStyles.None, out var t) ? new LocalTime(t.Hour, t.Minute) : null;

    /// <summary>A clock time as the shed says it.</summary>
    public static string Words(LocalTime time) => time.ToString("H:mm", CultureInfo.InvariantCulture);
}
