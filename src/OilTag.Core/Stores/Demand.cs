using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Strip;

namespace OilTag.Core.Stores;

/// <summary>Why something is wanted.</summary>
public enum DemandSource
{
    /// <summary>It is used once and then replaced.</summary>
    SingleUse,

    /// <summary>It came off seized, broken or rusty.</summary>
    CameOffBad,

    /// <summary>A package needs it.</summary>
    Package,
}

/// <summary>How a demand ended.</summary>
public enum DemandEnd
{
    /// <summary>It is here.</summary>
    Here,

    /// <summary>It is not needed after all.</summary>
    NotNeeded,
}

/// <summary>Something that is wanted.</summary>
public class Demand
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place that it is for.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Tag whose removal asked for it, or null.</summary>
    public Guid? TagId { get; init; }

    /// <summary>What is wanted.</summary>
    public required string What { get; init; }

    /// <summary>How many.</summary>
    public int Quantity { get; init; }

    /// <summary>Why.</summary>
    public DemandSource Source { get; init; }

    /// <summary>When it was asked for.</summary>
    public Instant At { get; init; }

    /// <summary>Days from asking to ordering; null when nobody has said.</summary>
    public DaysRange? Enquiry { get; set; }

    /// <summary>Days from the order until it is here; null when nobody has said.</summary>
    public DaysRange? Lead { get; set; }

    /// <summary>Day on which it was ordered; null when it is not.</summary>
    public LocalDate? OrderedOn { get; set; }

    /// <summary>How it ended; null while it is wanted.</summary>
    public DemandEnd? End { get; set; }

    /// <summary>Who ended it.</summary>
    public Guid? EndedById { get; set; }

    /// <summary>When.</summary>
    public Instant? EndedAt { get; set; }
}

/// <summary>
/// What a removal wants new without being asked. Used once by common practice: split pins, tab and spring washers, lock wire, gaskets, joints, seals
/// and O-rings, copper and crush washers, self-locking nuts, spring pins, drilled-out rivets, and bolts that are stretched when they are torqued
/// (head, big end and main bearing bolts). What came off seized, broken or rusty is wanted one for one.
/// </summary>
public static class SingleUseRule
{
    /// <summary>The source to name beside what the rule gives.</summary>
    public const string Source = "Common practice; the maker’s manual outranks it.";

    private static readonly string[] Once =
    [
        "split pin", "cotter pin", "tab washer", "lock tab", "spring washer", "lock washer", "lock wire", "locking wire", "gasket", "joint ring", "oil seal", "lip seal", "o-ring", "o ring", "sealing ring", "seal kit",
        "copper washer", "crush washer", "sealing washer", "fibre washer", "self-locking nut", "stiff nut", "spring pin", "roll pin", "rivet", "head bolt", "big end bolt", "main bearing bolt", "stretch bolt",
    ];

    // Shapes of a bolt’s head: a square head bolt is no cylinder head bolt.
    private static readonly string[] Shapes = ["square", "hexagon", "hex", "cheese", "round", "cup", "coach", "countersunk", "flat", "pan", "button", "tee", "snap", "dome", "domed", "mushroom", "socket"];

    /// <summary>True when a thing of this name is used once.</summary>
    public static bool IsOnce(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        name = Array.Find(Shapes, s => name.Contains(s + " head bolt", StringComparison.OrdinalIgnoreCase)) is { } shape
            ? name.Replace(shape + " head bolt", "bolt", StringComparison.OrdinalIgnoreCase)
            : name;
        return Array.Exists(Once, w => name.Contains(w, StringComparison.OrdinalIgnoreCase)) || name.Equals("seal", StringComparison.OrdinalIgnoreCase) || name.EndsWith(" seal", StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>What the removal of a part wants new.</summary>
    /// <param name="part">Name of the part.</param>
    /// <param name="fasteners">The fasteners that came with it.</param>
    /// <returns>What, how many and why; all of a kind that is used once, else those that came off bad.</returns>
    public static IReadOnlyList<(string What, int Quantity, DemandSource Source)> Of(string part, IEnumerable<FastenerEntry> fasteners)
    {
        ArgumentNullException.ThrowIfNull(part);
        ArgumentNullException.ThrowIfNull(fasteners);
        var wanted = new List<(string, int, DemandSource)>();
        if (IsOnce(part))
        {
            wanted.Add((part, 1, DemandSource.SingleUse));
        }

        foreach (var f in fasteners)
        {
            if (IsOnce(f.What))
            {
                wanted.Add((f.What.Trim(), f.Count, DemandSource.SingleUse));
            }
            else if (f.Bad > 0)
            {
                wanted.Add((f.What.Trim(), f.Bad, DemandSource.CameOffBad));
            }
        }

        return wanted;
    }
}
