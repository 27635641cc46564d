using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Survey;

namespace OilTag.Core.Machines;

/// <summary>What a machine, or one assembly of it, is restored for. Ordered from the mildest to the strictest.</summary>
public enum RestorationStandard
{
    /// <summary>Stabilised, kept as found.</summary>
    Conserve,

    /// <summary>Complete, static.</summary>
    Display,

    /// <summary>Runs, taxis, moves in the yard; carries no public.</summary>
    Demonstrate,

    /// <summary>Flies, carries passengers, works the line or road.</summary>
    Service,
}

/// <summary>What kind of machine it is; decides which cautions come up.</summary>
public enum MachineKind
{
    /// <summary>Aeroplane, flying boat, helicopter.</summary>
    Aircraft,

    /// <summary>Steam locomotive.</summary>
    SteamLocomotive,

    /// <summary>Tractor or crawler.</summary>
    Tractor,

    /// <summary>Lift, tramcar or railway carriage.</summary>
    Carriage,

    /// <summary>Anything else.</summary>
    Other,
}

/// <summary>Which side of the machine, looking forward.</summary>
public enum Hand
{
    /// <summary>Not handed.</summary>
    None,

    /// <summary>Left (port on craft).</summary>
    Left,

    /// <summary>Right (starboard on craft).</summary>
    Right,
}

/// <summary>A machine under restoration.</summary>
public class Machine
{
    /// <summary>Identity, made where the machine is made.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>One capital letter, unique over the shed; shown before its tag numbers.</summary>
    public required string Letter { get; set; }

    /// <summary>Its name.</summary>
    public required string Name { get; set; }

    /// <summary>What it is in a few words, such as "0-4-2 tank locomotive".</summary>
    public required string What { get; set; }

    /// <summary>Year it was built.</summary>
    public int Year { get; set; }

    /// <summary>Serial or works number; empty when it is not known.</summary>
    public string Serial { get; set; } = string.Empty;

    /// <summary>Kind of machine.</summary>
    public MachineKind Kind { get; set; }

    /// <summary>What it is restored for.</summary>
    public RestorationStandard Standard { get; set; }

    /// <summary>What is done with what is still good.</summary>
    public RepairPolicy Policy { get; set; }

    /// <summary>What counts more when two ways are open.</summary>
    public Approach Approach { get; set; }

    /// <summary>What an hour of work counts for when ways are compared, in pence; nought when volunteers' hours are not counted as money.</summary>
    public int HourPence { get; set; }

    /// <summary>The date to which it is restored, in words, such as <c>1938, as delivered</c>; empty while nobody has said.</summary>
    public string TargetDate { get; set; } = string.Empty;

    /// <summary>The variant to which it is restored.</summary>
    public string TargetVariant { get; set; } = string.Empty;

    /// <summary>The options that it has then.</summary>
    public string TargetOptions { get; set; } = string.Empty;

    /// <summary>Who owns it and must agree to extra cost; empty when it is the team's own.</summary>
    public string Owner { get; set; } = string.Empty;

    /// <summary>Name of its livery tin, such as "peat".</summary>
    public required string Tin { get; set; }

    /// <summary>Which side view it is drawn with, or an empty string for plain blocks.</summary>
    public string Drawing { get; set; } = string.Empty;

    /// <summary>Where it stands in the shed; bays are drawn in this order.</summary>
    public int Bay { get; set; }

    /// <summary>How it stands among the others when work is planned.</summary>
    public MachineStanding Standing { get; set; } = MachineStanding.Active;

    /// <summary>Floor that it takes with its parts, square metres; null when nobody has said.</summary>
    public double? Floor { get; set; }

    /// <summary>Minutes a month to look after it whether or not it is worked on; null when nobody has said.</summary>
    public int? KeepMinutes { get; set; }

    /// <summary>When it must be whole and out of the shop.</summary>
    public IReadOnlyList<MachineWindow> Windows { get; set; } = [];
}

/// <summary>Days on which a machine must be whole.</summary>
/// <param name="From">First day.</param>
/// <param name="Until">Last day.</param>
/// <param name="Why">Why, such as "running weekend".</param>
public sealed record MachineWindow(DateOnly From, DateOnly Until, string Why);

/// <summary>What a team does with what is still good while it is apart.</summary>
public enum RepairPolicy
{
    /// <summary>What is sound is left alone.</summary>
    LeaveWhatIsSound,

    /// <summary>What is worn is replaced while it can be reached.</summary>
    ReplaceWhileApart,
}

/// <summary>What counts more when two ways are open.</summary>
public enum Approach
{
    /// <summary>Keep the original metal.</summary>
    Conserve,

    /// <summary>Spend the least money and time.</summary>
    Renew,
}

/// <summary>Whether a place holds other places or one part.</summary>
public enum PlaceKind
{
    /// <summary>An assembly: holds assemblies and slots.</summary>
    Assembly,

    /// <summary>A slot for one part.</summary>
    Slot,
}

/// <summary>A node in a machine's breakdown tree.</summary>
public class Place
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The machine it belongs to.</summary>
    public Guid MachineId { get; init; }

    /// <summary>The assembly that holds it; null for the assemblies at the top.</summary>
    public Guid? ParentId { get; set; }

    /// <summary>Assembly or slot.</summary>
    public PlaceKind Kind { get; init; }

    /// <summary>Its name, without hand and position.</summary>
    public required string Name { get; set; }

    /// <summary>Left, right or neither.</summary>
    public Hand Hand { get; set; }

    /// <summary>Position 1…n among its like, or null.</summary>
    public int? Position { get; set; }

    /// <summary>Order among the children of its parent.</summary>
    public int Order { get; set; }

    /// <summary>Its own restoration standard where it differs from the machine's.</summary>
    public RestorationStandard? Standard { get; set; }

    /// <summary>How bad the assembly is, as somebody judges it before it is apart; null when nobody has said, and for slots.</summary>
    public AssemblyCondition? Condition { get; set; }

    /// <summary>Minutes to take it off as a lead estimates; null when nobody has. The team's own times outrank it.</summary>
    public int? OffMinutes { get; set; }

    /// <summary>Hands that it takes to take it off; null when nobody has said.</summary>
    public int? OffPeople { get; set; }

    /// <summary>Chance in percent that it breaks when it is taken off; null when nobody has said.</summary>
    public int? BreakPercent { get; set; }

    /// <summary>Weeks until a spare is here; 0 when one lies here; null when nobody knows.</summary>
    public int? SpareWeeks { get; set; }

    /// <summary>Something that does not matter to practise on; empty when there is none.</summary>
    public string Practice { get; set; } = string.Empty;

    /// <summary>True when the machine stands or holds its shape by it: while it is off nothing is fuelled, lowered or moved.</summary>
    public bool Structural { get; set; }

    /// <summary>Papers that a part must have before it is finally fitted here.</summary>
    public PaperKinds Papers { get; set; }

    /// <summary>Region of the side view that shows it, or an empty string.</summary>
    public string Region { get; set; } = string.Empty;

    /// <summary>Changes with every edit; a stale form is found by it.</summary>
    public uint Version { get; init; }

    /// <summary>Name with hand and position, such as "Cylinder, left" or "Stay 3".</summary>
    public string FullName => PlaceNames.Full(Name, Hand, Position);
}

/// <summary>A dated aim.</summary>
public class Milestone
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Its name, such as "First steam".</summary>
    public required string Name { get; set; }

    /// <summary>The wanted date.</summary>
    public LocalDate On { get; set; }

    /// <summary>True when the date cannot move.</summary>
    public bool Fixed { get; set; }

    /// <summary>1 for the usual weight; 2 counts a day late twice.</summary>
    public double Weight { get; set; } = 1;

    /// <summary>Why it matters, in a sentence.</summary>
    public string Why { get; set; } = string.Empty;

    /// <summary>The machine that is whole, or fit for a stated use, on that day; null when only packages count.</summary>
    public Guid? MachineId { get; set; }

    /// <summary>What that machine is then fit for, such as <c>running in steam</c>; empty for whole.</summary>
    public string FitFor { get; set; } = string.Empty;

    /// <summary>When it was moved, with why; oldest first.</summary>
    public IReadOnlyList<MilestoneMove> Moves { get; set; } = [];

    /// <summary>When it was reached or given up; null while it is wanted.</summary>
    public Instant? EndedAt { get; set; }
}

/// <summary>A milestone was moved.</summary>
/// <param name="From">The day on which it was.</param>
/// <param name="To">The day on which it is.</param>
/// <param name="Why">Why.</param>
/// <param name="By">Who, by name.</param>
/// <param name="On">When that was said.</param>
public sealed record MilestoneMove(DateOnly From, DateOnly To, string Why, string By, DateOnly On);

/// <summary>How places are named in words.</summary>
public static class PlaceNames
{
    /// <summary>Name with position and hand: "Crown stay 3, left".</summary>
    public static string Full(string name, Hand hand, int? position) =>
        name
        + (position is { } p ? " " + p.ToString(System.Globalization.CultureInfo.InvariantCulture) : string.Empty)
        + hand switch { Hand.Left => ", left", Hand.Right => ", right", _ => string.Empty };

    /// <summary>A full name that is too long, shortened before its hand: on a tag the hand must be read whatever else is cut.</summary>
    /// <param name="fullName">The name.</param>
    /// <param name="fits">True for what has room.</param>
    public static string Shortened(string fullName, Func<string, bool> fits)
    {
        ArgumentNullException.ThrowIfNull(fullName);
        ArgumentNullException.ThrowIfNull(fits);
        if (fits(fullName))
        {
            return fullName;
        }

        var hand = HandIn(fullName);
        for (var keep = fullName.Length - hand.Length - 1; keep > 0; keep--)
        {
            var shorter = fullName[..keep].TrimEnd(' ', ',') + "…" + hand;
            if (fits(shorter))
            {
                return shorter;
            }
        }

        return "…" + hand;
    }

    /// <summary>A full name without its position and hand: "Crown stay 3, left" is a crown stay.</summary>
    public static string Bare(string fullName)
    {
        ArgumentNullException.ThrowIfNull(fullName);
        return fullName[..^HandIn(fullName).Length].TrimEnd('0', '1', '2', '3', '4', '5', '6', '7', '8', '9').TrimEnd();
    }

    // The ending that says the hand, with its comma; empty when there is none.
    private static string HandIn(string fullName) => fullName.EndsWith(", left", StringComparison.Ordinal) ? ", left" : fullName.EndsWith(", right", StringComparison.Ordinal) ? ", right" : string.Empty;
}
