using System.Globalization;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.Measures;

namespace OilTag.Core.Service;

/// <summary>How a service task or a recheck stands.</summary>
public enum DueState
{
    /// <summary>It is not due.</summary>
    NotDue,

    /// <summary>It is due within a week or the last tenth of its hours or distance.</summary>
    Soon,

    /// <summary>It is due, and what it comes before may still wait for it.</summary>
    Due,

    /// <summary>It should have been done.</summary>
    Overdue,
}

/// <summary>How a service task or a recheck stands, and why.</summary>
/// <param name="State">How it stands.</param>
/// <param name="Words">Why, in a few words: what the sum is.</param>
/// <param name="NextOn">Day on which it is due by days; null when days do not count.</param>
public sealed record DueStand(DueState State, string Words, LocalDate? NextOn);

/// <summary>A service task as it is typed.</summary>
/// <param name="What">What is done.</param>
/// <param name="PlaceId">Where.</param>
/// <param name="With">With what.</param>
/// <param name="Amount">How much.</param>
/// <param name="EveryDays">Days.</param>
/// <param name="EveryHours">Running hours.</param>
/// <param name="EveryDistance">Distance.</param>
/// <param name="BeforeRun">Before each run.</param>
/// <param name="BeforeMove">Before each move.</param>
/// <param name="AfterFirstRun">Once after the first run.</param>
public sealed record ServiceEntry(string? What, Guid? PlaceId, string? With, string? Amount, string? EveryDays, string? EveryHours,
    string? EveryDistance, bool BeforeRun, bool BeforeMove, bool AfterFirstRun);

/// <summary>When service is due. Hours and distance are counted from what was run since it was last done; days from that day.</summary>
public static class ServiceRule
{
    /// <summary>Days before it is due from which on it is said.</summary>
    public const int SoonDays = 7;

    /// <summary>Share of hours or distance from which on it is said.</summary>
    public const double SoonShare = 0.9;

    /// <summary>How a task stands.</summary>
    /// <param name="task">The task.</param>
    /// <param name="done">When it was done; what was taken back is left out.</param>
    /// <param name="uses">What the machine did; what was taken back is left out.</param>
    /// <param name="today">Today.</param>
    /// <param name="set">Day on which the task was set.</param>
    public static DueStand Of(ServiceTask task, IEnumerable<ServiceDone> done, IEnumerable<MachineUse> uses, LocalDate today, LocalDate set)
    {
        ArgumentNullException.ThrowIfNull(task);
        var last = done.Where(d => d.TakenBackAt is null).OrderBy(d => d.On).ThenBy(d => d.At).LastOrDefault();
        var counted = uses.Where(u => u.TakenBackAt is null).ToList();
        var since = counted.Where(u => last is null || u.On > last.On || (u.On == last.On && u.At > last.At)).ToList();
        var stands = new List<DueStand>();
        if (task.EveryDays is { } days)
        {
            stands.Add(ByDay((last?.On ?? set).PlusDays(days), today, last is null ? "never done on record; " : string.Empty));
        }

        if (task.EveryHours is { } hours)
        {
            stands.Add(ByAmount(since.Sum(u => u.Hours), hours, h => $"{h.ToString("0.#", CultureInfo.InvariantCulture)} h", "run"));
        }

        if (task.EveryDistance is { } far)
        {
            stands.Add(ByAmount(since.Sum(u => u.Distance?.Si ?? 0), far.Si, m => MeasureFormat.In(m, far.Unit), "gone"));
        }

        if (task.BeforeRun && !Done(UseKind.Run))
        {
            stands.Add(new DueStand(DueState.Due, "before the next run", null));
        }

        if (task.BeforeMove && !Done(UseKind.Move))
        {
            stands.Add(new DueStand(DueState.Due, "before the next move", null));
        }

        if (task.AfterFirstRun && last is null)
        {
            var first = counted.Where(u => u.Kind == UseKind.Run).OrderBy(u => u.On).FirstOrDefault();
            stands.Add(first is null ? new DueStand(DueState.NotDue, "after the first run", null)
                : new DueStand(DueState.Overdue, $"since the first run on {LogWords.Day(first.On)}", null));
        }

        var worst = stands.OrderByDescending(s => s.State).FirstOrDefault() ?? new DueStand(DueState.NotDue, "done", null);
        return worst with { NextOn = stands.Select(s => s.NextOn).FirstOrDefault(d => d is not null) };

        // Done since the last use of that kind: what was done holds for the next one.
        bool Done(UseKind kind) => last is not null && !since.Exists(u => u.Kind == kind);
    }

    /// <summary>How a recheck stands.</summary>
    /// <param name="recheck">The recheck.</param>
    /// <param name="uses">What the machine did; what was taken back is left out.</param>
    /// <param name="today">Today.</param>
    public static DueStand Of(Recheck recheck, IEnumerable<MachineUse> uses, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(recheck);
        if (recheck.EndedAt is not null)
        {
            return new DueStand(DueState.NotDue, recheck.GivenUp ? "given up" : "done", null);
        }

        var since = uses.Where(u => u.TakenBackAt is null && u.At > recheck.At).ToList();
        var stands = new List<DueStand>();
        if (recheck.DueOn is { } on)
        {
            stands.Add(ByDay(on, today, string.Empty));
        }

        if (recheck.AfterHours is { } hours)
        {
            stands.Add(ByAmount(since.Sum(u => u.Hours), hours, h => $"{h.ToString("0.#", CultureInfo.InvariantCulture)} h", "run"));
        }

        if (recheck.AfterUse is { } kind)
        {
            var first = since.Where(u => u.Kind == kind).OrderBy(u => u.On).FirstOrDefault();
            stands.Add(first is null ? new DueStand(DueState.NotDue, $"after the next {Word(kind)}", null)
                : new DueStand(DueState.Overdue, $"since the {Word(kind)} on {LogWords.Day(first.On)}", null));
        }

        return stands.OrderByDescending(s => s.State).First();
    }

    /// <summary>What a use is called.</summary>
    /// <param name="kind">Kind.</param>
    public static string Word(UseKind kind) => kind switch
    {
        UseKind.Run => "run",
        UseKind.Move => "move",
        UseKind.Heat => "heat",
        _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, "Not a use."),
    };

    /// <summary>How often a task is due, in words.</summary>
    /// <param name="task">The task.</param>
    public static string Often(ServiceTask task)
    {
        ArgumentNullException.ThrowIfNull(task);
        var words = new List<string>();
        if (task.EveryDays is { } d)
        {
            words.Add(d == 1 ? "every day" : $"every {d} days");
        }

        if (task.EveryHours is { } h)
        {
            words.Add($"every {h.ToString("0.#", CultureInfo.InvariantCulture)} running hours");
        }

        if (task.EveryDistance is { } far)
        {
            words.Add($"every {far.Entered}");
        }

        if (task.BeforeRun)
        {
            words.Add("before each run");
        }

        if (task.BeforeMove)
        {
            words.Add("before each move");
        }

        if (task.AfterFirstRun)
        {
            words.Add("once after the first run");
        }

        return string.Join(", ", words);
    }

    /// <summary>Reads a task as it was typed.</summary>
    /// <param name="e">As typed.</param>
    public static (ServiceTask? Task, IReadOnlyList<Problem> Problems) Read(ServiceEntry e)
    {
        ArgumentNullException.ThrowIfNull(e);
        var problems = new List<Problem>();
        var what = TextRules.Need(problems, "What", e.What, "Say what is done, such as grease the spring eyes.", 120);
        var with = TextRules.Optional(problems, "With", e.With, 80);
        var amount = TextRules.Optional(problems, "Amount", e.Amount, 60);
        if (e.PlaceId is null)
        {
            problems.Add(new Problem("PlaceId", "Choose the place."));
        }

        int? days = null;
        if (!string.IsNullOrWhiteSpace(e.EveryDays))
        {
            if (int.TryParse(e.EveryDays.Trim(), NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is >= 1 and <= 7300)
            {
                days = n;
            }
            else
            {
                problems.Add(new Problem("EveryDays", "Type days as a whole number, such as 30; twenty years at most."));
            }
        }

        double? hours = null;
        if (!string.IsNullOrWhiteSpace(e.EveryHours))
        {
            hours = (double?)TextRules.Number(e.EveryHours);
            if (hours is null or <= 0 or > 100_000)
            {
                problems.Add(new Problem("EveryHours", "Type running hours as a number, such as 25."));
            }
        }

        Measure? far = null;
        if (!string.IsNullOrWhiteSpace(e.EveryDistance))
        {
            far = Far(problems, "EveryDistance", e.EveryDistance);
        }

        if (problems.Count == 0 && days is null && hours is null && far is null && !e.BeforeRun && !e.BeforeMove && !e.AfterFirstRun)
        {
            problems.Add(new Problem("EveryDays", "Say when it is due: by days, hours, distance, or before or after what."));
        }

        return problems.Count > 0 ? (null, problems) : (new ServiceTask
        {
            What = what,
            PlaceId = e.PlaceId!.Value,
            With = with,
            Amount = amount,
            EveryDays = days,
            EveryHours = hours,
            EveryDistance = far,
            BeforeRun = e.BeforeRun,
            BeforeMove = e.BeforeMove,
            AfterFirstRun = e.AfterFirstRun,
        }, problems);
    }

    /// <summary>Checks a use as it was typed.</summary>
    /// <param name="kind">What was done.</param>
    /// <param name="on">Day.</param>
    /// <param name="hours">Running hours.</param>
    /// <param name="distance">How far.</param>
    /// <param name="note">Note.</param>
    /// <param name="today">Today.</param>
    public static (double Hours, Measure? Distance, string Note, IReadOnlyList<Problem> Problems) CheckUse(UseKind kind, LocalDate? on,
        string? hours, string? distance, string? note, LocalDate today)
    {
        var problems = new List<Problem>();
        var words = TextRules.Optional(problems, "UseNote", note, 300);
        if (on is null || on > today || on < today.PlusYears(-2))
        {
            problems.Add(new Problem("UseOn", on is null ? "Choose the day." : on > today ? "That day is still to come."
                : "That day is more than two years ago. Check the year."));
        }

        double h = 0;
        if (kind == UseKind.Run || !string.IsNullOrWhiteSpace(hours))
        {
            h = (double?)TextRules.Number(hours) ?? -1;
            if (h is <= 0 or > 24)
            {
                problems.Add(new Problem("UseHours", "Type the running hours as a number, such as 0.5; a day has 24."));
            }
        }

        var far = string.IsNullOrWhiteSpace(distance) ? null : Far(problems, "UseDistance", distance);
        return (h, far, words, problems);
    }

    /// <summary>Checks a recheck as it was typed.</summary>
    /// <param name="what">What is looked at.</param>
    /// <param name="place">Where.</param>
    /// <param name="on">Day.</param>
    /// <param name="afterHours">Running hours.</param>
    /// <param name="afterUse">Use.</param>
    /// <param name="today">Today.</param>
    public static (string What, double? Hours, IReadOnlyList<Problem> Problems) CheckRecheck(string? what, Guid? place, LocalDate? on,
        string? afterHours, UseKind? afterUse, LocalDate today)
    {
        var problems = new List<Problem>();
        var words = TextRules.Need(problems, "Recheck", what, "Say what is looked at again, such as torque of the cover studs.", 120);
        if (place is null)
        {
            problems.Add(new Problem("RecheckPlace", "Choose the place."));
        }

        if (on < today || on > today.PlusYears(20))
        {
            problems.Add(new Problem("RecheckOn", on < today ? "That day is past."
                : "That is more than twenty years away. Check the year."));
        }

        double? hours = null;
        if (!string.IsNullOrWhiteSpace(afterHours))
        {
            hours = (double?)TextRules.Number(afterHours);
            if (hours is null or <= 0 or > 100_000)
            {
                problems.Add(new Problem("AfterHours", "Type running hours as a number, such as 10."));
            }
        }

        if (problems.Count == 0 && on is null && hours is null && afterUse is null)
        {
            problems.Add(new Problem("RecheckOn", "Say when: a day, running hours, or after a run, a move or a heat."));
        }

        return (words, hours, problems);
    }

    // Miles or kilometres, and not a slip.
    private static Measure? Far(List<Problem> problems, string field, string text)
    {
        var read = MeasureReader.Read(text.Trim(), Quantity.Distance);
        if (read.Value is not { } value)
        {
            problems.Add(new Problem(field, read.Refusal!));
            return null;
        }

        if (value.Si is <= 0 or > 1e8)
        {
            problems.Add(new Problem(field, "Type a distance such as 500 mi or 800 km."));
            return null;
        }

        return value;
    }

    private static DueStand ByDay(LocalDate on, LocalDate today, string before)
    {
        var days = Period.DaysBetween(today, on);
        return days < 0 ? new DueStand(DueState.Overdue, $"{before}due since {LogWords.Day(on)}", on)
            : days == 0 ? new DueStand(DueState.Due, $"{before}due today", on)
            : new DueStand(days <= SoonDays ? DueState.Soon : DueState.NotDue, $"{before}due on {LogWords.Day(on)}", on);
    }

    private static DueStand ByAmount(double used, double every, Func<double, string> words, string how)
    {
        // Twenty runs of half an hour are ten hours.
        var state = used >= every * (1 - 1e-9) ? DueState.Overdue : used >= every * SoonShare ? DueState.Soon : DueState.NotDue;
        return new DueStand(state, $"{words(used)} of {words(every)} {how}", null);
    }
}
