using NodaTime;
using OilTag.Core.Machines;

namespace OilTag.Core.Survey;

/// <summary>Why a place is to be looked at.</summary>
public enum LookSource
{
    /// <summary>The mirror place.</summary>
    Mirror,

    /// <summary>Another position of the same kind.</summary>
    OtherPosition,

    /// <summary>The same place on a machine of the same type.</summary>
    SisterMachine,

    /// <summary>A weak spot that the group knows.</summary>
    WeakSpot,

    /// <summary>It carries the same load.</summary>
    LoadPath,
}

/// <summary>A place that is to be looked at because of something else.</summary>
public class Look
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Why, in words.</summary>
    public required string Why { get; init; }

    /// <summary>Why, as a kind.</summary>
    public LookSource Source { get; init; }

    /// <summary>The finding that it follows from, or null.</summary>
    public Guid? FindingId { get; init; }

    /// <summary>Who put it on the list.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>True when it was sound, false when something was found; null while nobody has looked.</summary>
    public bool? Sound { get; set; }

    /// <summary>Who looked.</summary>
    public Guid? DoneById { get; set; }

    /// <summary>When.</summary>
    public Instant? DoneAt { get; set; }
}

/// <summary>A weak spot that the group knows from its own experience.</summary>
public class WeakSpot
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Words of the machine that it holds for, such as <c>tank locomotive</c>; empty for all.</summary>
    public string Type { get; init; } = string.Empty;

    /// <summary>Built in this year or later, or null.</summary>
    public int? YearFrom { get; init; }

    /// <summary>Built in this year or before, or null.</summary>
    public int? YearTo { get; init; }

    /// <summary>Serial number from, or null.</summary>
    public int? SerialFrom { get; init; }

    /// <summary>Serial number to, or null.</summary>
    public int? SerialTo { get; init; }

    /// <summary>Words of the place, such as <c>axlebox</c>.</summary>
    public required string Place { get; init; }

    /// <summary>What goes wrong there.</summary>
    public required string What { get; init; }

    /// <summary>Who wrote it down.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Places that carry one load, in their order; with an accident, the way that its blow went.</summary>
public class LoadPath
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>What it is, such as <c>port float to wing</c>.</summary>
    public required string Name { get; init; }

    /// <summary>The accident, such as <c>heavy landing of 1952</c>; empty when there was none.</summary>
    public string Accident { get; init; } = string.Empty;

    /// <summary>The places, from where the load comes in.</summary>
    public Guid[] Places { get; init; } = [];
}

/// <summary>A place of the breakdown as the rule needs it.</summary>
/// <param name="Place">The place.</param>
/// <param name="Machine">Its machine.</param>
/// <param name="Above">Name of the assembly that holds it, without hand; empty at the top.</param>
public sealed record LookPlace(Place Place, Machine Machine, string Above);

/// <summary>A place that should be looked at.</summary>
/// <param name="Place">The place.</param>
/// <param name="Source">Why, as a kind.</param>
/// <param name="Why">Why, in words.</param>
public sealed record LookProposal(LookPlace Place, LookSource Source, string Why);

/// <summary>
/// Where else to look after a finding: the mirror place, the other positions, the same place on a machine of the same type, known weak spots of the
/// same name, and what shares its load. Source: common practice.
/// </summary>
public static class LookRule
{
    /// <summary>Most places that are proposed at once.</summary>
    public const int Most = 16;

    /// <summary>True when a weak spot is about a place of a machine.</summary>
    public static bool Holds(WeakSpot w, LookPlace p)
    {
        ArgumentNullException.ThrowIfNull(w);
        ArgumentNullException.ThrowIfNull(p);
        var serial = int.TryParse(new string([.. p.Machine.Serial.Where(char.IsAsciiDigit)]), out var n) ? n : (int?)null;
        return (w.Type.Length == 0 || p.Machine.What.Contains(w.Type, StringComparison.OrdinalIgnoreCase) || p.Machine.Name.Contains(w.Type, StringComparison.OrdinalIgnoreCase))
            && !(p.Machine.Year < w.YearFrom) && !(p.Machine.Year > w.YearTo)
            && ((w.SerialFrom is null && w.SerialTo is null) || (serial is { } s && !(s < w.SerialFrom) && !(s > w.SerialTo)))
            && p.Place.Name.Contains(w.Place, StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>Proposes where to look.</summary>
    /// <param name="at">The place of the finding.</param>
    /// <param name="number">Number of the finding.</param>
    /// <param name="all">Places of the machine and of its sisters.</param>
    /// <param name="weak">Weak spots that the group knows.</param>
    /// <param name="paths">Load paths of the machine.</param>
    public static IReadOnlyList<LookProposal> Of(LookPlace at, int number, IReadOnlyList<LookPlace> all, IReadOnlyList<WeakSpot> weak, IReadOnlyList<LoadPath> paths)
    {
        ArgumentNullException.ThrowIfNull(at);
        ArgumentNullException.ThrowIfNull(all);
        ArgumentNullException.ThrowIfNull(weak);
        ArgumentNullException.ThrowIfNull(paths);
        var f = "F" + number.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var found = new List<LookProposal>();
        void Add(LookPlace p, LookSource s, string why)
        {
            if (p.Place.Id != at.Place.Id && !found.Exists(x => x.Place.Place.Id == p.Place.Id))
            {
                found.Add(new LookProposal(p, s, why));
            }
        }

        bool Same(LookPlace p) => string.Equals(p.Place.Name, at.Place.Name, StringComparison.OrdinalIgnoreCase) && string.Equals(p.Above, at.Above, StringComparison.OrdinalIgnoreCase);
        foreach (var path in paths.Where(p => p.Places.Contains(at.Place.Id)))
        {
            var i = Array.IndexOf(path.Places, at.Place.Id);

            // A blow goes the whole way; a load that only wears goes to the neighbours.
            foreach (var (id, j) in path.Places.Select((id, j) => (id, j)).Where(x => path.Accident.Length > 0 || Math.Abs(x.j - i) == 1))
            {
                if (all.FirstOrDefault(p => p.Place.Id == id) is { } partner)
                {
                    Add(partner, LookSource.LoadPath, path.Accident.Length > 0 ? $"On the path of the {path.Accident}, as {f}" : $"Carries the same load as {f} ({path.Name})");
                }
            }
        }

        foreach (var p in all.Where(p => p.Machine.Id == at.Machine.Id && Same(p) && p.Place.Hand != at.Place.Hand && p.Place.Hand != Hand.None && at.Place.Hand != Hand.None && p.Place.Position == at.Place.Position))
        {
            Add(p, LookSource.Mirror, $"The other side of {f}");
        }

        foreach (var p in all.Where(p => p.Machine.Id == at.Machine.Id && Same(p)).OrderBy(p => p.Place.Hand != at.Place.Hand).ThenBy(p => Math.Abs((p.Place.Position ?? 0) - (at.Place.Position ?? 0))))
        {
            Add(p, LookSource.OtherPosition, $"Another of its kind, as {f}");
        }

        foreach (var p in all.Where(p => p.Machine.Id != at.Machine.Id && p.Machine.Kind == at.Machine.Kind && string.Equals(p.Machine.What, at.Machine.What, StringComparison.OrdinalIgnoreCase) && Same(p) && p.Place.Hand == at.Place.Hand && p.Place.Position == at.Place.Position))
        {
            Add(p, LookSource.SisterMachine, $"The same place on {p.Machine.Name}");
        }

        foreach (var p in all.Where(p => p.Machine.Id == at.Machine.Id))
        {
            if (weak.FirstOrDefault(w => Holds(w, p) && at.Place.Name.Contains(w.Place, StringComparison.OrdinalIgnoreCase)) is { } w)
            {
                Add(p, LookSource.WeakSpot, $"Known weak spot: {w.What}");
            }
        }

        return [.. found.Take(Most)];
    }
}

/// <summary>A weak spot as it is typed.</summary>
public sealed record WeakSpotEntry
{
    /// <summary>Words of the machine; empty for all.</summary>
    public string? Type { get; init; }

    /// <summary>First year.</summary>
    public string? YearFrom { get; init; }

    /// <summary>Last year.</summary>
    public string? YearTo { get; init; }

    /// <summary>First serial number.</summary>
    public string? SerialFrom { get; init; }

    /// <summary>Last serial number.</summary>
    public string? SerialTo { get; init; }

    /// <summary>Words of the place.</summary>
    public string? Spot { get; init; }

    /// <summary>What goes wrong there.</summary>
    public string? Weak { get; init; }
}

/// <summary>Checks weak spots.</summary>
public static class WeakSpotRule
{
    /// <summary>Checks a weak spot and makes it.</summary>
    /// <returns>The weak spot, or null with problems named by field.</returns>
    public static (WeakSpot? Spot, IReadOnlyList<Problem> Problems) Check(WeakSpotEntry e, Guid byId, Instant at)
    {
        ArgumentNullException.ThrowIfNull(e);
        var problems = new List<Problem>();
        var type = TextRules.Optional(problems, "Type", e.Type, 60);
        var place = TextRules.Need(problems, "Spot", e.Spot, "Say where it is, such as axlebox.", 60);
        var what = TextRules.Need(problems, "Weak", e.Weak, "Say what goes wrong there.", 200);
        int? Whole(string field, string? text, int low, int high, string sentence)
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                return null;
            }

            if (int.TryParse(text.Trim(), System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var n) && n >= low && n <= high)
            {
                return n;
            }

            problems.Add(new Problem(field, sentence));
            return null;
        }

        var (y1, y2) = (Whole("YearFrom", e.YearFrom, 1700, 2200, "A year, such as 1938."), Whole("YearTo", e.YearTo, 1700, 2200, "A year, such as 1938."));
        var (s1, s2) = (Whole("SerialFrom", e.SerialFrom, 0, int.MaxValue, "The digits of a serial number."), Whole("SerialTo", e.SerialTo, 0, int.MaxValue, "The digits of a serial number."));
        if (y1 > y2)
        {
            problems.Add(new Problem("YearTo", "The last year lies before the first."));
        }

        if (s1 > s2)
        {
            problems.Add(new Problem("SerialTo", "The last number lies before the first."));
        }

        return problems.Count > 0 ? (null, problems) : (new WeakSpot { Type = type, YearFrom = y1, YearTo = y2, SerialFrom = s1, SerialTo = s2, Place = place, What = what, ById = byId, At = at }, []);
    }
}
