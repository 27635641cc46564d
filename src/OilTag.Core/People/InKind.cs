using System.Globalization;
using NodaTime;

namespace OilTag.Core.People;

/// <summary>What an hour of a kind of work is worth in a claim, from a day on. The group sets it and says where it comes from.</summary>
public class HourRate
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Skill that the step wants; empty for all other work.</summary>
    public string Skill { get; init; } = string.Empty;

    /// <summary>Pence for an hour.</summary>
    public int Pence { get; init; }

    /// <summary>First day on which it holds.</summary>
    public LocalDate From { get; init; }

    /// <summary>Where the rate comes from.</summary>
    public required string Source { get; init; }

    /// <summary>Who set it.</summary>
    public Guid SetById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Hours of one person on one day at one kind of work.</summary>
/// <param name="Person">Who.</param>
/// <param name="On">Day.</param>
/// <param name="From">Start; null when only the length is known.</param>
/// <param name="Minutes">Minutes.</param>
/// <param name="Skill">Skill that the step wants; empty for none.</param>
public sealed record ClaimedHours(string Person, LocalDate On, LocalTime? From, int Minutes, string Skill);

/// <summary>One line of a claim.</summary>
/// <param name="Skill">Kind of work; empty for all other.</param>
/// <param name="Minutes">Minutes that count.</param>
/// <param name="Pence">Rate for an hour.</param>
/// <param name="Since">Since when the rate holds.</param>
/// <param name="Source">Where the rate comes from.</param>
public sealed record ClaimLine(string Skill, int Minutes, int Pence, LocalDate Since, string Source)
{
    /// <summary>Value in pence, rounded to the penny.</summary>
    public long Value => (long)Math.Round(Minutes * (decimal)Pence / 60, MidpointRounding.AwayFromZero);
}

/// <summary>What hours are worth in kind.</summary>
/// <param name="Lines">By kind of work and rate.</param>
/// <param name="LeftOut">Minutes that are left out because there is no rate for their day, or twice for the same time.</param>
/// <param name="Flags">What whoever signs the claim should look at, as sentences.</param>
public sealed record InKindClaim(IReadOnlyList<ClaimLine> Lines, int LeftOut, IReadOnlyList<string> Flags)
{
    /// <summary>Minutes that count.</summary>
    public int Minutes => Lines.Sum(l => l.Minutes);

    /// <summary>Value in pence.</summary>
    public long Value => Lines.Sum(l => l.Value);
}

/// <summary>
/// Works out what hours given are worth. For one person and day the union of times counts, so that a shift written down twice counts once. The funder's
/// own rules govern what may be claimed.
/// </summary>
public static class InKindRule
{
    /// <summary>Hours of one mechanic in a year: 50 weeks of 40 hours. Common practice.</summary>
    public const double MechanicYear = 2000;

    /// <summary>Hours on one day above which it is asked about.</summary>
    public const int LongDay = 12 * 60;

    /// <summary>Minutes of the union of stretches within one day.</summary>
    /// <param name="stretches">From and minutes.</param>
    public static int Union(IEnumerable<(LocalTime From, int Minutes)> stretches)
    {
        ArgumentNullException.ThrowIfNull(stretches);
        int sum = 0, reached = 0;
        foreach (var (from, minutes) in stretches.Select(s => ((s.From.Hour * 60) + s.From.Minute, s.Minutes)).Order())
        {
            sum += Math.Max(0, from + minutes - Math.Max(from, reached));
            reached = Math.Max(reached, from + minutes);
        }

        return sum;
    }

    /// <summary>Splits a shift that runs past midnight.</summary>
    /// <param name="from">From.</param>
    /// <param name="until">Until; on the next day when it is before <paramref name="from"/>.</param>
    /// <returns>Minutes before and after midnight.</returns>
    public static (int Today, int Tomorrow) AtMidnight(LocalTime from, LocalTime until)
    {
        int a = (from.Hour * 60) + from.Minute, b = (until.Hour * 60) + until.Minute;
        return b >= a ? (b - a, 0) : ((24 * 60) - a, b);
    }

    /// <summary>The value of hours at the rates that hold on their days.</summary>
    /// <param name="hours">Hours.</param>
    /// <param name="rates">All rates that were ever set.</param>
    public static InKindClaim Work(IReadOnlyList<ClaimedHours> hours, IReadOnlyList<HourRate> rates)
    {
        ArgumentNullException.ThrowIfNull(hours);
        ArgumentNullException.ThrowIfNull(rates);
        var lines = new List<(HourRate Rate, int Minutes)>();
        var flags = new List<string>();
        var left = 0;
        foreach (var day in hours.GroupBy(h => (h.Person, h.On)).OrderBy(g => g.Key.On).ThenBy(g => g.Key.Person, StringComparer.Ordinal))
        {
            // What begins later gives way to what it overlaps.
            var reached = 0;
            var counted = 0;
            foreach (var h in day.OrderBy(h => h.From is null).ThenBy(h => h.From))
            {
                var minutes = h.Minutes;
                if (h.From is { } from)
                {
                    var start = (from.Hour * 60) + from.Minute;
                    minutes = Math.Max(0, start + h.Minutes - Math.Max(start, reached));
                    reached = Math.Max(reached, start + h.Minutes);
                }

                if (minutes < h.Minutes)
                {
                    left += h.Minutes - minutes;
                    flags.Add($"{day.Key.Person}, {Say(day.Key.On)}: {HoursRule.Words(h.Minutes - minutes)} are written down twice and count once.");
                }

                counted += minutes;
                if (Rate(rates, h.Skill, h.On) is { } rate)
                {
                    lines.Add((rate, minutes));
                }
                else
                {
                    left += minutes;
                }
            }

            if (counted > LongDay)
            {
                flags.Add($"{day.Key.Person}, {Say(day.Key.On)}: {HoursRule.Words(counted)} on one day.");
            }
        }

        return new InKindClaim(
            [.. lines.Where(l => l.Minutes > 0).GroupBy(l => l.Rate).OrderBy(g => g.Key.Skill, StringComparer.Ordinal).ThenBy(g => g.Key.From).Select(g => new ClaimLine(g.Key.Skill, g.Sum(l => l.Minutes), g.Key.Pence, g.Key.From, g.Key.Source))],
            left,
            flags);
    }

    /// <summary>The rate for a kind of work on a day: its own, else the one for all other work; the latest that has begun.</summary>
    public static HourRate? Rate(IReadOnlyList<HourRate> rates, string skill, LocalDate on)
    {
        ArgumentNullException.ThrowIfNull(rates);
        return rates.Where(r => r.From <= on && (r.Skill == skill || r.Skill.Length == 0))
            .OrderByDescending(r => r.Skill == skill).ThenByDescending(r => r.From).ThenByDescending(r => r.At).FirstOrDefault();
    }

    /// <summary>Checks a rate before it is set.</summary>
    /// <param name="pounds">Rate for an hour as typed, pounds.</param>
    /// <param name="from">First day.</param>
    /// <param name="source">Where it comes from.</param>
    public static (int Pence, string Source, IReadOnlyList<Problem> Problems) CheckRate(string? pounds, LocalDate? from, string? source)
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Source", source, "Say where the rate comes from: a funder's table, a pay survey, a letter.", 200);
        if (from is null)
        {
            problems.Add(new Problem("From", "Choose from which day on it holds."));
        }

        var text = (pounds ?? string.Empty).Trim().TrimStart('£');
        var read = decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var value) && value > 0 && value <= 500 && decimal.Round(value, 2) == value;
        if (!read)
        {
            problems.Add(new Problem("Pounds", "Type what an hour is worth in pounds, such as 15.00; more than nothing, 500 at most, two decimals."));
        }

        return (read ? (int)(value * 100) : 0, said, problems);
    }

    private static string Say(LocalDate day) => day.ToString("ddd d MMM yyyy", CultureInfo.GetCultureInfo("en-GB"));
}
