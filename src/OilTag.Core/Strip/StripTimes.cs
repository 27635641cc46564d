using System.Collections.Concurrent;

namespace OilTag.Core.Strip;

/// <summary>How long a removal takes and where the figure comes from.</summary>
/// <param name="Minutes">Minutes from start to finish.</param>
/// <param name="People">Hands that it took or takes.</param>
/// <param name="Source">In words: this part's own time, its like, the lead's estimate, or an assumption.</param>
/// <param name="Assumed">True when nobody timed or estimated it.</param>
public sealed record StripTime(int Minutes, int People, string Source, bool Assumed);

/// <summary>A removal that was timed.</summary>
/// <param name="Slot">Slot.</param>
/// <param name="Name">Name of the part, without hand and position.</param>
/// <param name="Minutes">Minutes that it took.</param>
/// <param name="People">Hands; null when nobody said.</param>
/// <param name="At">Order in time; the greatest is the latest.</param>
public sealed record TimedRemoval(Guid Slot, string Name, int Minutes, int? People, long At);

/// <summary>A lead's estimate for a slot.</summary>
/// <param name="Minutes">Minutes; null when there is none.</param>
/// <param name="People">Hands; null when there is none.</param>
public sealed record StripEstimate(int? Minutes, int? People);

/// <summary>
/// How long it takes to take parts off: the last time that this part was timed, else the middle of the times of parts of the same name on this machine, else
/// what the lead estimated, else a stated assumption. Runs that a part holds are undone first; their minutes are added unless its own time, which holds them,
/// is known.
/// </summary>
public sealed class StripTimes
{
    /// <summary>Minutes that are assumed for a part that nobody timed or estimated. A round figure of ours, shown as an assumption.</summary>
    public const int AssumedMinutes = 30;

    private readonly Dictionary<Guid, TimedRemoval> own;
    private readonly ILookup<string, TimedRemoval> alike;
    private readonly IReadOnlyDictionary<Guid, (string Name, StripEstimate Estimate)> slots;
    private readonly IReadOnlyDictionary<Guid, int> runs;
    private readonly ConcurrentDictionary<Guid, StripTime> known = new();

    /// <param name="timed">Removals that were timed.</param>
    /// <param name="slots">Name and estimate of every slot.</param>
    /// <param name="runs">Minutes that runs add, by the slot that holds them.</param>
    public StripTimes(IEnumerable<TimedRemoval> timed, IReadOnlyDictionary<Guid, (string Name, StripEstimate Estimate)> slots, IReadOnlyDictionary<Guid, int>? runs = null)
    {
        ArgumentNullException.ThrowIfNull(timed);
        var all = timed.ToList();
        own = all.GroupBy(t => t.Slot).ToDictionary(g => g.Key, g => g.MaxBy(t => t.At)!);
        alike = all.ToLookup(t => t.Name, StringComparer.OrdinalIgnoreCase);
        this.slots = slots;
        this.runs = runs ?? new Dictionary<Guid, int>();
    }

    /// <summary>The time for one slot.</summary>
    public StripTime Of(Guid slot) => known.GetOrAdd(slot, s =>
    {
        var part = OfPart(s);
        return !own.ContainsKey(s) && runs.TryGetValue(s, out var more)
            ? part with { Minutes = part.Minutes + more, Source = $"{part.Source}, and {more} min for the runs that it holds" }
            : part;
    });

    private StripTime OfPart(Guid slot)
    {
        var (name, estimate) = slots.TryGetValue(slot, out var s) ? s : (string.Empty, new StripEstimate(null, null));
        if (own.TryGetValue(slot, out var last))
        {
            return new StripTime(last.Minutes, last.People ?? estimate.People ?? 1, "timed here before", false);
        }

        var like = alike[name].Select(t => t.Minutes).Order().ToList();
        if (like.Count > 0)
        {
            var middle = like.Count % 2 == 1 ? like[like.Count / 2] : (like[(like.Count / 2) - 1] + like[like.Count / 2] + 1) / 2;
            return new StripTime(middle, alike[name].Max(t => t.People) ?? estimate.People ?? 1, like.Count == 1 ? "one like it took so long" : $"middle of {like.Count} like it", false);
        }

        return estimate.Minutes is { } m
            ? new StripTime(m, estimate.People ?? 1, "estimated", false)
            : new StripTime(AssumedMinutes, estimate.People ?? 1, "assumed; nobody has timed it", true);
    }

    /// <summary>Minutes in words: 45 min, 2 h, 5 h 30.</summary>
    public static string Words(int minutes) =>
        minutes < 60 ? $"{minutes} min"
        : minutes % 60 == 0 ? $"{minutes / 60} h"
        : FormattableString.Invariant($"{minutes / 60} h {minutes % 60:00}");
}
