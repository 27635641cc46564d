using System.Globalization;
using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>What a run carries at present.</summary>
public enum RunState
{
    /// <summary>Nobody knows.</summary>
    Unknown,

    /// <summary>Live, charged or under pressure.</summary>
    Live,

    /// <summary>Proved dead, drained or slack.</summary>
    Dead,

    /// <summary>Taken out, or not led yet.</summary>
    Out,
}

/// <summary>A wire, hose, pipe, rod or cable that crosses several places.</summary>
public class Run
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Kind.</summary>
    public ConnectionKind Kind { get; init; }

    /// <summary>Label or name, unique on its machine.</summary>
    public required string Name { get; init; }

    /// <summary>Its ends: from which terminal or union to which.</summary>
    public string Ends { get; set; } = string.Empty;

    /// <summary>What it carries.</summary>
    public RunState State { get; set; }

    /// <summary>Places that it crosses, from one end to the other. One that is a slot is held by that part, and is undone before the part comes off.</summary>
    public IReadOnlyList<Guid> Places { get; set; } = [];

    /// <summary>Minutes to undo it at one place; null when nobody has said.</summary>
    public int? UndoMinutes { get; set; }

    /// <summary>What it is made to, and how far that is.</summary>
    public RunSchedule Schedule { get; set; } = RunSchedule.None;

    /// <summary>When its state was seen.</summary>
    public Instant At { get; set; }

    /// <summary>Who saw it.</summary>
    public Guid ById { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>What a run means for the way in and for closing.</summary>
public static class RunRule
{
    /// <summary>Minutes to undo a run at one place while nobody has said. Assumed.</summary>
    public const int UsualMinutes = 10;

    /// <summary>Most places that one run crosses.</summary>
    public const int MostPlaces = 40;

    /// <summary>The word for a state.</summary>
    public static string Word(RunState s) => s switch { RunState.Live => "live", RunState.Dead => "dead", RunState.Out => "out", _ => "live or dead, nobody knows" };

    /// <summary>Minutes that runs add to the removal of each part that holds them; a run that is out adds none.</summary>
    public static IReadOnlyDictionary<Guid, int> Minutes(IEnumerable<Run> runs)
    {
        ArgumentNullException.ThrowIfNull(runs);
        return runs.Where(r => r.State != RunState.Out).SelectMany(r => r.Places.Distinct().Select(p => (Place: p, Minutes: r.UndoMinutes ?? UsualMinutes)))
            .GroupBy(x => x.Place).ToDictionary(g => g.Key, g => g.Sum(x => x.Minutes));
    }

    /// <summary>What has to be done about the runs that cross what comes off, one sentence each; what may hurt comes first.</summary>
    /// <param name="runs">Runs of the machine.</param>
    /// <param name="slots">Slots whose parts come off.</param>
    /// <param name="target">The place that is reached.</param>
    /// <param name="name">Name of a place.</param>
    public static IReadOnlyList<(Run Run, string Sentence)> InTheWay(IEnumerable<Run> runs, IReadOnlyCollection<Guid> slots, Guid target, Func<Guid, string> name)
    {
        ArgumentNullException.ThrowIfNull(runs);
        ArgumentNullException.ThrowIfNull(slots);
        ArgumentNullException.ThrowIfNull(name);
        var found = new List<(Run, string)>();
        foreach (var r in runs.Where(r => r.State != RunState.Out).OrderBy(r => r.State == RunState.Dead).ThenBy(r => r.Name, StringComparer.Ordinal))
        {
            var held = r.Places.Where(slots.Contains).Distinct().ToList();
            if (held.Count == 0 && !r.Places.Contains(target))
            {
                continue;
            }

            var first = r.State switch
            {
                RunState.Live => "It is live: isolate it, lock it off and prove it dead first.",
                RunState.Unknown => "Nobody knows whether it is live: treat it as live until it is proved dead.",
                _ => "It was proved dead; prove it again before you touch it.",
            };
            found.Add((r, held.Count == 0
                ? $"{Title(r)} crosses {name(target)}. {first}"
                : $"{Title(r)} is held by {string.Join(" and ", held.Select(name))} and is undone there, about {((r.UndoMinutes ?? UsualMinutes) * held.Count).ToString(CultureInfo.InvariantCulture)} min{(r.UndoMinutes is null ? " assumed" : string.Empty)}. {first}"));
        }

        return found;
    }

    /// <summary>What is open about a run where it crosses; null when nothing is.</summary>
    /// <param name="kind">Kind.</param>
    /// <param name="name">Label.</param>
    /// <param name="state">State.</param>
    /// <param name="place">Name of the place.</param>
    public static string? Open(ConnectionKind kind, string name, RunState state, string place) => state switch
    {
        RunState.Unknown => $"{kind} {name} crosses {place}, and nobody knows whether it is live or dead.",
        RunState.Out => $"{kind} {name} belongs through {place} and is not in.",
        _ => null,
    };

    /// <summary>Checks a run as typed.</summary>
    /// <param name="name">Label.</param>
    /// <param name="ends">Ends.</param>
    /// <param name="places">Places that it crosses.</param>
    /// <param name="known">Places of the machine.</param>
    /// <param name="undoMinutes">Minutes to undo it at one place.</param>
    public static IReadOnlyList<Problem> Check(string? name, string? ends, IReadOnlyCollection<Guid> places, IReadOnlySet<Guid> known, int? undoMinutes)
    {
        ArgumentNullException.ThrowIfNull(places);
        ArgumentNullException.ThrowIfNull(known);
        var problems = new List<Problem>();
        TextRules.Need(problems, "RunName", name, "Give it its label or a name, such as red 12 or fuel feed.", 60);
        TextRules.Optional(problems, "Ends", ends, 160);
        if (places.Count == 0)
        {
            problems.Add(new Problem("Crosses", "Choose at least one place that it crosses."));
        }
        else if (places.Count > MostPlaces)
        {
            problems.Add(new Problem("Crosses", $"A run crosses {MostPlaces} places at most. Make two runs of it."));
        }
        else if (places.Any(p => !known.Contains(p)))
        {
            problems.Add(new Problem("Crosses", "One of the places is not on this machine. Choose again."));
        }

        if (undoMinutes is < 1 or > 600)
        {
            problems.Add(new Problem("UndoMinutes", "Give the time in minutes, from 1 to 600, or leave it empty."));
        }

        return problems;
    }

    private static string Title(Run r) => $"{r.Kind} {r.Name}";
}
