using System.Globalization;
using NodaTime;
using OilTag.Core.Make;

namespace OilTag.Core.Planning;

/// <summary>A place with sessions of its own. The shed itself has no name here; only its weather is kept.</summary>
public class Site
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Name; empty for the shed itself.</summary>
    public string Name { get; init; } = string.Empty;

    /// <summary>The weather to expect in each of the twelve months; empty when it does not matter.</summary>
    public IReadOnlyList<MonthWeather> Months { get; set; } = [];
}

/// <summary>A change of the weekly pattern of sessions: a closure, or a session that is not in the pattern.</summary>
public class CalendarChange
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>First day.</summary>
    public LocalDate From { get; init; }

    /// <summary>Last day.</summary>
    public LocalDate Until { get; init; }

    /// <summary>Opens at; null for a closure.</summary>
    public LocalTime? Opens { get; init; }

    /// <summary>Closes at; null for a closure.</summary>
    public LocalTime? Closes { get; init; }

    /// <summary>Why, such as "work weekend".</summary>
    public required string Why { get; init; }

    /// <summary>Where; empty for the shed itself.</summary>
    public string Site { get; init; } = string.Empty;

    /// <summary>True when it was taken back.</summary>
    public bool Cancelled { get; set; }
}

/// <summary>A kind of tool, jack, bay or bench of which there are only so many.</summary>
public class Equipment
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Its name, such as "35 ton jack".</summary>
    public required string Name { get; set; }

    /// <summary>How many there are.</summary>
    public int Count { get; set; }

    /// <summary>What it takes, for a machine tool or an oven.</summary>
    public MachineSizes Sizes { get; set; } = MachineSizes.None;

    /// <summary>When some are away.</summary>
    public IReadOnlyList<EquipmentOut> Out { get; set; } = [];

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>Some of a kind of equipment are away.</summary>
/// <param name="Count">How many.</param>
/// <param name="From">First day.</param>
/// <param name="Until">Last day.</param>
/// <param name="Why">Why: repair, calibration, lent.</param>
public sealed record EquipmentOut(int Count, DateOnly From, DateOnly Until, string Why);

/// <summary>What the group has agreed on for all its work. There is one of it.</summary>
public class ShedSettings
{
    /// <summary>The only identity.</summary>
    public const int Only = 1;

    /// <summary>Identity.</summary>
    public int Id { get; init; } = Only;

    /// <summary>Most packages that are open at once on one assembly; null for no limit.</summary>
    public int? OpenLimit { get; set; }

    /// <summary>When the break of a long day begins; null for the middle of it.</summary>
    public LocalTime? BreakAt { get; set; }

    /// <summary>How long it is, minutes; nought for none.</summary>
    public int BreakMinutes { get; set; } = 30;

    /// <summary>What a square metre of floor costs in a month, pence; nought when it is not counted.</summary>
    public int FloorPence { get; set; }
}

/// <summary>Checks what is said about the calendar, the sites and the shed's agreements.</summary>
public static class ShedRule
{
    /// <summary>Most packages open at once that can be agreed on.</summary>
    public const int MostOpen = 50;

    /// <summary>Longest break, minutes.</summary>
    public const int LongestBreak = 180;

    /// <summary>Checks a closure or a special session.</summary>
    /// <param name="from">First day.</param>
    /// <param name="until">Last day; null for the same.</param>
    /// <param name="open">True for a special session.</param>
    /// <param name="opens">When it opens, for a special session.</param>
    /// <param name="closes">When it closes, for a special session.</param>
    /// <param name="why">Why.</param>
    /// <param name="today">Today.</param>
    public static IReadOnlyList<Problem> CheckChange(LocalDate? from, LocalDate? until, bool open, LocalTime? opens, LocalTime? closes, string? why, LocalDate today)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "Why", why, open ? "Say what it is, such as work weekend." : "Say why the shed is closed, such as the hall is let.", 80);
        var last = until ?? from;
        if (from is null)
        {
            problems.Add(new Problem("ChangeFrom", "Choose the first day."));
        }
        else if (last < today)
        {
            problems.Add(new Problem("ChangeFrom", "That is past."));
        }
        else if (last < from)
        {
            problems.Add(new Problem("ChangeUntil", "The last day is before the first."));
        }
        else if (last > today.PlusYears(5))
        {
            problems.Add(new Problem("ChangeUntil", "That is more than five years away. Check the year."));
        }
        else if (open && Period.DaysBetween(from.Value, last!.Value) > 30)
        {
            problems.Add(new Problem("ChangeUntil", "A special session is open every day from the first to the last; that is more than a month. Add a session of the week instead."));
        }

        if (open && (opens is null || closes is null))
        {
            problems.Add(new Problem("Opens", "Type when it opens and when it closes."));
        }
        else if (open && closes <= opens)
        {
            problems.Add(new Problem("Opens", "It closes before it opens. Check both times."));
        }

        return problems;
    }

    /// <summary>Reads the weather of a site as twelve lines: chance of a dry day in 100, degrees, and by how much they vary.</summary>
    /// <param name="text">"60 4 3" for each month, January first; empty for weather that does not matter.</param>
    public static (IReadOnlyList<MonthWeather> Months, IReadOnlyList<Problem> Problems) ReadWeather(string? text)
    {
        var lines = (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (lines.Length == 0)
        {
            return ([], []);
        }

        if (lines.Length != 12)
        {
            return ([], [new Problem("Weather", $"Twelve lines are wanted, one a month from January; {lines.Length} stand there.")]);
        }

        var months = new List<MonthWeather>();
        foreach (var (line, i) in lines.Select((l, i) => (l, i)))
        {
            var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            if (words.Length != 3 || !Number(words[0], out var dry) || !Number(words[1], out var degrees) || !Number(words[2], out var spread) || dry is < 0 or > 100 || degrees is < -60 or > 60 || spread is < 0 or > 30)
            {
                return ([], [new Problem("Weather", $"{CultureInfo.GetCultureInfo("en-GB").DateTimeFormat.GetMonthName(i + 1)} wants three numbers: dry days in 100, degrees Celsius, and by how much these vary, such as 60 4 3.")]);
            }

            months.Add(new MonthWeather(dry / 100, degrees, spread));
        }

        return (months, []);
    }

    /// <summary>The weather as it is typed.</summary>
    public static string WriteWeather(IReadOnlyList<MonthWeather> months)
    {
        ArgumentNullException.ThrowIfNull(months);
        return string.Join('\n', months.Select(m => string.Create(CultureInfo.InvariantCulture, $"{m.Dry * 100:0.##} {m.Degrees:0.##} {m.Spread:0.##}")));
    }

    /// <summary>Checks what the group agrees on.</summary>
    /// <param name="openLimit">Most open packages on an assembly, as typed; empty for no limit.</param>
    /// <param name="breakAt">When the break begins, as a clock time; empty for the middle.</param>
    /// <param name="breakMinutes">How long it is.</param>
    /// <param name="floorPounds">What a square metre costs in a month, pounds; empty when it is not counted.</param>
    public static (ShedSettings Settings, IReadOnlyList<Problem> Problems) Check(string? openLimit, LocalTime? breakAt, string? breakMinutes, string? floorPounds)
    {
        var problems = new List<Problem>();
        var settings = new ShedSettings { BreakAt = breakAt };
        if (!string.IsNullOrWhiteSpace(openLimit))
        {
            if (Whole(openLimit, 1, MostOpen) is { } n)
            {
                settings.OpenLimit = n;
            }
            else
            {
                problems.Add(new Problem("OpenLimit", $"Type a number from 1 to {MostOpen}, or leave it empty for no limit."));
            }
        }

        if (Whole(string.IsNullOrWhiteSpace(breakMinutes) ? "0" : breakMinutes, 0, LongestBreak) is { } minutes)
        {
            settings.BreakMinutes = minutes;
        }
        else
        {
            problems.Add(new Problem("BreakMinutes", $"Type how many minutes, 0 to {LongestBreak}."));
        }

        if (!string.IsNullOrWhiteSpace(floorPounds))
        {
            if (TextRules.Number(floorPounds) is { } pounds and <= 1000)
            {
                settings.FloorPence = (int)Math.Round(pounds * 100, MidpointRounding.AwayFromZero);
            }
            else
            {
                problems.Add(new Problem("FloorPounds", "Type pounds for a square metre in a month, such as 3.50, or leave it empty."));
            }
        }

        return (settings, problems);
    }

    /// <summary>Checks some of a kind of equipment being away.</summary>
    /// <param name="count">How many, as typed.</param>
    /// <param name="of">How many there are.</param>
    /// <param name="from">First day.</param>
    /// <param name="until">Last day.</param>
    /// <param name="why">Why.</param>
    /// <param name="today">Today.</param>
    public static (EquipmentOut? Out, IReadOnlyList<Problem> Problems) CheckOut(string? count, int of, LocalDate? from, LocalDate? until, string? why, LocalDate today)
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "OutWhy", why, "Say why: for repair, for its test, lent.", 80);
        var n = Whole(string.IsNullOrWhiteSpace(count) ? "1" : count, 1, of);
        if (n is null)
        {
            problems.Add(new Problem("OutCount", of == 1 ? "There is one of it." : $"There are {of}. Type how many of them are away."));
        }

        Days(problems, "OutFrom", "OutUntil", from, until, today);
        return (problems.Count > 0 ? null : new EquipmentOut(n!.Value, from!.Value.ToDateOnly(), until!.Value.ToDateOnly(), said), problems);
    }

    /// <summary>Checks days of the future with a first and a last.</summary>
    /// <param name="problems">Takes what is wrong.</param>
    /// <param name="fromField">Field of the first day.</param>
    /// <param name="untilField">Field of the last day.</param>
    /// <param name="from">First day.</param>
    /// <param name="until">Last day.</param>
    /// <param name="today">Today.</param>
    public static void Days(IList<Problem> problems, string fromField, string untilField, LocalDate? from, LocalDate? until, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(problems);
        if (from is null)
        {
            problems.Add(new Problem(fromField, "Choose the first day."));
        }

        if (until is null)
        {
            problems.Add(new Problem(untilField, "Choose the last day."));
        }
        else if (until < today)
        {
            problems.Add(new Problem(untilField, "That day is past."));
        }
        else if (until < from)
        {
            problems.Add(new Problem(untilField, "The last day is before the first."));
        }
        else if (until > today.PlusYears(5))
        {
            problems.Add(new Problem(untilField, "That is more than five years away. Check the year."));
        }
    }

    /// <summary>A whole number within bounds, or null.</summary>
    public static int? Whole(string? text, int least, int most) =>
        int.TryParse((text ?? string.Empty).Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n >= least && n <= most ? n : null;

    private static bool Number(string text, out double value) => double.TryParse(text, NumberStyles.AllowLeadingSign | NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out value) && double.IsFinite(value);
}
