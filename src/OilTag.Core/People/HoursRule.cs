using System.Globalization;
using System.Text.RegularExpressions;
using NodaTime;

namespace OilTag.Core.People;

/// <summary>Hours that a person has booked on a day already.</summary>
/// <param name="From">Start, or null when only the length was given.</param>
/// <param name="Minutes">Minutes.</param>
/// <param name="Job">What it was booked on.</param>
public sealed record BookedHours(LocalTime? From, int Minutes, string Job);

/// <summary>Checked hours.</summary>
/// <param name="Minutes">Minutes worked.</param>
/// <param name="From">Start, or null.</param>
/// <param name="Problems">What must be changed first.</param>
public sealed record HoursCheck(int Minutes, LocalTime? From, IReadOnlyList<Problem> Problems);

/// <summary>Checks hours before they are booked.</summary>
public static class HoursRule
{
    // Who logs while putting the tools away is not early.
    private const int Ahead = 30;

    /// <summary>Checks the length, the start and the day against what the person has booked.</summary>
    /// <param name="hours">Hours as typed: 2, 2.5, 2,5, 2:30, 2 h 30, 45 min or 2 1/2.</param>
    /// <param name="from">Start as typed, such as 10:15; may be empty.</param>
    /// <param name="on">Day.</param>
    /// <param name="now">Today and the time of day; null for the time when any time of today will do.</param>
    /// <param name="booked">What the person has booked on that day.</param>
    /// <param name="note">Note.</param>
    public static HoursCheck Check(string? hours, string? from, LocalDate? on, (LocalDate Today, LocalTime? Time) now, IReadOnlyList<BookedHours> booked, string? note)
    {
        ArgumentNullException.ThrowIfNull(booked);
        var problems = new List<Problem>();
        TextRules.Optional(problems, "Note", note, 300);
        if (on is null)
        {
            problems.Add(new Problem("On", "Choose the day."));
        }
        else if (on > now.Today)
        {
            problems.Add(new Problem("On", "That day is still to come. Hours are logged when they are worked."));
        }
        else if (on < now.Today.PlusYears(-2))
        {
            problems.Add(new Problem("On", "That day is more than two years ago. Check the year."));
        }

        var minutes = Minutes(hours);
        if (minutes is null)
        {
            problems.Add(new Problem("Hours", "Type the hours as a number, such as 2.5 or 2:30."));
        }
        else if (minutes <= 0)
        {
            problems.Add(new Problem("Hours", "Type more than nothing: a quarter of an hour is 0.25."));
        }
        else if (minutes > 24 * 60)
        {
            problems.Add(new Problem("Hours", $"A day has 24 hours; {hours!.Trim()} do not fit. Split them over the days on which they were worked."));
        }

        LocalTime? start = null;
        if (!string.IsNullOrWhiteSpace(from))
        {
            if (TimeOnly.TryParseExact(from.Trim(), ["H:mm", "HH:mm", "H.mm", "H:mm:ss"], CultureInfo.InvariantCulture, DateTimeStyles.None, out var t))
            {
                start = new LocalTime(t.Hour, t.Minute);
            }
            else
            {
                problems.Add(new Problem("From", "Type the start as a clock time, such as 10:15, or leave it empty."));
            }
        }

        if (problems.Count > 0 || minutes is null)
        {
            return new HoursCheck(minutes ?? 0, start, problems);
        }

        var already = booked.Sum(b => b.Minutes);
        if (already + minutes > 24 * 60)
        {
            problems.Add(new Problem("Hours", $"{Words(already)} are booked on that day already; with {Words(minutes.Value)} more it has over 24."));
        }

        if (start is { } s)
        {
            var begin = MinuteOfDay(s);
            if (begin + minutes > 24 * 60)
            {
                problems.Add(new Problem("Hours", "That runs past midnight. Log the hours after midnight on the next day."));
            }

            if (on == now.Today && now.Time is { } clock && begin + minutes > MinuteOfDay(clock) + Ahead && begin + minutes <= 24 * 60)
            {
                problems.Add(new Problem("From", $"That ends at {Clock(begin + minutes.Value)} and it is {Clock(MinuteOfDay(clock))} now. Hours are logged when they are worked."));
            }

            var clash = booked.FirstOrDefault(b => b.From is { } f && begin < MinuteOfDay(f) + b.Minutes && MinuteOfDay(f) < begin + minutes);
            if (clash is not null)
            {
                problems.Add(new Problem("From", $"It overlaps with {clash.From!.Value.ToString("H:mm", CultureInfo.InvariantCulture)} for {Words(clash.Minutes)} on {clash.Job}. Nobody is in two places; correct the start or the hours."));
            }
        }

        return new HoursCheck(minutes.Value, start, problems);
    }

    /// <summary>Minutes in a typed length, or null when it is not one. Rounded to the minute.</summary>
    public static int? Minutes(string? hours)
    {
        var t = (hours ?? string.Empty).Trim().ToLowerInvariant();
        if (t.Length > 16)
        {
            return null;
        }

        // 2 h 30, 2h30, 2 h 30 min, 45 min.
        if (Spoken.Match(t) is { Success: true } spoken)
        {
            int Of(string group) => spoken.Groups[group].Success ? int.Parse(spoken.Groups[group].ValueSpan, NumberStyles.None, CultureInfo.InvariantCulture) : 0;
            var rest = Of("more") + Of("alone");
            return rest >= 60 && spoken.Groups["more"].Success ? null : (Of("hours") * 60) + rest;
        }

        t = t.Replace("hours", string.Empty, StringComparison.Ordinal).Replace("hour", string.Empty, StringComparison.Ordinal).TrimEnd('h').Trim();
        if (t.Length is 0 or > 10)
        {
            return null;
        }

        var parts = t.Split(':');
        if (parts.Length == 2 && int.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var h) && int.TryParse(parts[1], NumberStyles.None, CultureInfo.InvariantCulture, out var m) && m < 60 && h < 100)
        {
            return (h * 60) + m;
        }

        var half = t.EndsWith('½') || t.EndsWith(" 1/2", StringComparison.Ordinal);
        if (half)
        {
            t = t.Replace("½", string.Empty, StringComparison.Ordinal).Replace(" 1/2", string.Empty, StringComparison.Ordinal).Trim();
            t = t.Length == 0 ? "0" : t;
        }

        return decimal.TryParse(t.Replace(',', '.'), NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var d) && Math.Abs(d) < 10_000
            ? (int)Math.Round((d + (half ? 0.5m : 0)) * 60, MidpointRounding.AwayFromZero)
            : null;
    }

    /// <summary>Minutes in words, such as "2 h 30".</summary>
    public static string Words(int minutes) => minutes % 60 == 0 ? $"{minutes / 60} h" : $"{minutes / 60} h {minutes % 60:00}";

    private static readonly Regex Spoken = new(@"^(?:(?<hours>\d{1,2}) ?h(?:ours?|rs?)? ?(?<more>\d{1,2}) ?(?:m(?:in(?:utes?|s)?)?)?|(?<alone>\d{1,3}) ?m(?:in(?:utes?|s)?)?)$", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, TimeSpan.FromSeconds(1));

    private static string Clock(int minute) => FormattableString.Invariant($"{minute / 60}:{minute % 60:00}");

    private static int MinuteOfDay(LocalTime t) => (t.Hour * 60) + t.Minute;
}
