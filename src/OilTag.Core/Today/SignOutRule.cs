using System.Globalization;
using NodaTime;
using OilTag.Core.People;

namespace OilTag.Core.Today;

/// <summary>What somebody worked at today, as the board has it: to be confirmed.</summary>
/// <param name="Operation">Step.</param>
/// <param name="From">From.</param>
/// <param name="Minutes">Minutes.</param>
public sealed record WorkedJob(Guid Operation, LocalTime From, int Minutes);

/// <summary>One line of a sign-out as it comes from the form.</summary>
/// <param name="Operation">Step.</param>
/// <param name="Hours">Hours as typed; "0" or empty when they did not do it after all.</param>
/// <param name="Left">Hours that it still wants, as typed; "done" when it is done; empty for no word.</param>
public sealed record SignOutEntry(Guid Operation, string? Hours, string? Left);

/// <summary>One line of a sign-out, checked.</summary>
/// <param name="Operation">Step.</param>
/// <param name="From">From; null when the hours were changed.</param>
/// <param name="Minutes">Minutes; 0 when they did not do it.</param>
/// <param name="Done">True when it is done.</param>
/// <param name="HoursLeft">Person-hours that it still wants; null for no word.</param>
public sealed record SignOutLine(Guid Operation, LocalTime? From, int Minutes, bool Done, double? HoursLeft);

/// <summary>Turns the day's jobs into hours when somebody goes.</summary>
public static class SignOutRule
{
    /// <summary>Most hours that a step is said to want still.</summary>
    public const double MostLeft = 2000;

    /// <summary>Jobs to confirm: what was begun, cut at the moment they go; the same job twice is one line.</summary>
    /// <param name="jobs">Jobs of that person on that day.</param>
    /// <param name="arrived">When they came.</param>
    /// <param name="leaves">When they go.</param>
    public static IReadOnlyList<WorkedJob> Worked(IEnumerable<DayJob> jobs, LocalTime arrived, LocalTime leaves)
    {
        ArgumentNullException.ThrowIfNull(jobs);
        return [.. jobs
            .Where(j => j.OperationId is not null && !j.Confirmed)
            .Select(j => (Operation: j.OperationId!.Value, From: j.From < arrived ? arrived : j.From, Until: j.Until > leaves ? leaves : j.Until))
            .Where(j => j.From < j.Until)
            .OrderBy(j => j.From)
            .GroupBy(j => j.Operation)
            .Select(g => new WorkedJob(g.Key, g.First().From, g.Sum(j => DayPlanner.Minute(j.Until) - DayPlanner.Minute(j.From))))];
    }

    /// <summary>Checks what is confirmed.</summary>
    /// <param name="entries">Lines of the form. Fields are named Hours0, Left0 and so on.</param>
    /// <param name="worked">What the board has.</param>
    /// <param name="arrived">When they came.</param>
    /// <param name="leaves">When they go.</param>
    /// <param name="booked">Minutes that are booked for that person on that day already.</param>
    public static (IReadOnlyList<SignOutLine> Lines, IReadOnlyList<Problem> Problems) Check(IReadOnlyList<SignOutEntry> entries, IReadOnlyList<WorkedJob> worked, LocalTime arrived, LocalTime leaves, IReadOnlyList<BookedHours> booked)
    {
        ArgumentNullException.ThrowIfNull(entries);
        ArgumentNullException.ThrowIfNull(worked);
        ArgumentNullException.ThrowIfNull(booked);
        var lines = new List<SignOutLine>();
        var problems = new List<Problem>();
        for (var i = 0; i < entries.Count; i++)
        {
            var e = entries[i];
            var minutes = string.IsNullOrWhiteSpace(e.Hours) ? 0 : HoursRule.Minutes(e.Hours);
            if (minutes is null or < 0)
            {
                problems.Add(new Problem($"Hours{i}", "Type the hours as a number, such as 2.5 or 2:30; 0 if it was not done."));
                continue;
            }

            var (done, left, problem) = Left(e.Left, $"Left{i}");
            if (problem is not null)
            {
                problems.Add(problem);
                continue;
            }

            // Unchanged hours keep their time of day unless something else is booked then; changed ones are only a length.
            var same = worked.FirstOrDefault(w => w.Operation == e.Operation && w.Minutes == minutes);
            var clash = same is not null && booked.Any(b => b.From is { } f && DayPlanner.Minute(f) < DayPlanner.Minute(same.From) + same.Minutes && DayPlanner.Minute(same.From) < DayPlanner.Minute(f) + b.Minutes);
            if (clash)
            {
                problems.Add(new Problem($"Hours{i}", $"Hours at that time are booked already, on {booked.First(b => b.From is not null).Job}. Put 0 here if they are the same."));
                continue;
            }

            lines.Add(new SignOutLine(e.Operation, same?.From, minutes.Value, done, left));
        }

        var there = DayPlanner.Minute(leaves) - DayPlanner.Minute(arrived);
        var all = lines.Sum(l => l.Minutes);
        if (problems.Count == 0 && all > there)
        {
            problems.Add(new Problem("Hours0", $"{HoursRule.Words(all)} do not fit between {VisitRule.Words(arrived)} and {VisitRule.Words(leaves)}, which is {HoursRule.Words(Math.Max(0, there))}."));
        }
        else if (problems.Count == 0 && all + booked.Sum(b => b.Minutes) > 24 * 60)
        {
            problems.Add(new Problem("Hours0", $"{HoursRule.Words(booked.Sum(b => b.Minutes))} are booked on that day already; a day has 24 hours."));
        }

        return (lines, problems);
    }

    /// <summary>Reads what a step still wants: hours, or "done".</summary>
    /// <param name="text">As typed.</param>
    /// <param name="field">Field, for the problem.</param>
    public static (bool Done, double? Hours, Problem? Problem) Left(string? text, string field)
    {
        var t = (text ?? string.Empty).Trim();
        return t.Length == 0 ? (false, null, null)
            : string.Equals(t, "done", StringComparison.OrdinalIgnoreCase) ? (true, null, null)
            : HoursRule.Minutes(t) is not { } minutes || minutes <= 0 ? (false, null, new Problem(field, "Type how many hours it still wants, such as 6, or choose that it is done."))
            : minutes > MostLeft * 60 ? (false, null, new Problem(field, $"{t} hours are more than a year of one person's work. Check the number."))
            : (false, minutes / 60.0, null);
    }

    /// <summary>Likely answers to "how many hours does it still want?": what the record expects, a half and twice of it.</summary>
    /// <param name="expected">Person-hours that the record expects.</param>
    public static IReadOnlyList<string> LeftKeys(double expected)
    {
        static double Round(double h) => h >= 10 ? Math.Round(h) : Math.Max(0.5, Math.Round(h * 2) / 2);
        return [.. new[] { Round(expected / 2), Round(expected), Round(expected * 2) }.Distinct().Select(h => h.ToString("0.#", CultureInfo.InvariantCulture))];
    }
}
