using NodaTime;
using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>Where a part came from.</summary>
public enum Provenance
{
    /// <summary>Came with the machine.</summary>
    Original,

    /// <summary>Made by us or for us.</summary>
    NewMade,

    /// <summary>From a donor machine.</summary>
    Donor,

    /// <summary>Bought.</summary>
    Bought,

    /// <summary>Swapped with others for something of ours.</summary>
    Swapped,

    /// <summary>Lent to us; it goes back.</summary>
    Lent,
}

/// <summary>A physical thing.</summary>
public class Part
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine it belongs to.</summary>
    public Guid MachineId { get; init; }

    /// <summary>What it is.</summary>
    public required string Name { get; set; }

    /// <summary>Which hand it was made for.</summary>
    public Hand Hand { get; init; }

    /// <summary>Where it came from.</summary>
    public Provenance Provenance { get; set; }

    /// <summary>From whom, or under which papers; empty when nobody has said.</summary>
    public string FromWhom { get; set; } = string.Empty;

    /// <summary>The maker's number on it; empty when there is none or nobody has read it.</summary>
    public string MakersNumber { get; set; } = string.Empty;

    /// <summary>Its own serial number; empty when there is none.</summary>
    public string Serial { get; set; } = string.Empty;

    /// <summary>When a part that is lent to us goes back; null when no day was said or it is not lent.</summary>
    public LocalDate? ReturnBy { get; set; }
}

/// <summary>On what terms a part sits in its slot.</summary>
public enum FittingKind
{
    /// <summary>As it was found.</summary>
    AsFound,

    /// <summary>In for a trial assembly; it comes out again.</summary>
    Trial,

    /// <summary>Finally refitted.</summary>
    Final,
}

/// <summary>A part in a slot, from … to ….</summary>
public class Fitting
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Part.</summary>
    public Guid PartId { get; init; }

    /// <summary>Slot.</summary>
    public Guid SlotId { get; init; }

    /// <summary>As found or final.</summary>
    public FittingKind Kind { get; init; }

    /// <summary>When it went in; null when it was found there.</summary>
    public Instant? From { get; init; }

    /// <summary>When it came out; null while it is in.</summary>
    public Instant? Until { get; set; }

    /// <summary>Who fitted it; null when it was found there.</summary>
    public Guid? FittedById { get; init; }

    /// <summary>The trial assembly that it is in for; null otherwise.</summary>
    public Guid? TrialId { get; init; }

    /// <summary>What it still wants before it is fast: split pins, torque, supports; empty when it is fast.</summary>
    public string Loose { get; set; } = string.Empty;
}

/// <summary>How a tag's life ended.</summary>
public enum TagEnd
{
    /// <summary>The part, or its successor, is back on.</summary>
    Fitted,

    /// <summary>Scrapped; the tag stays in the record.</summary>
    Scrapped,

    /// <summary>Kept as a reference.</summary>
    Kept,

    /// <summary>Put on display.</summary>
    OnDisplay,

    /// <summary>Sold.</summary>
    Sold,

    /// <summary>Given to others.</summary>
    Given,

    /// <summary>Returned to whom it was borrowed from.</summary>
    Returned,

    /// <summary>Sent away as a sample.</summary>
    Sample,

    /// <summary>The tag was a mistake; its number is never given again.</summary>
    Void,
}

/// <summary>Words for the ends of a tag.</summary>
public static class TagEnds
{
    /// <summary>The word on the stub.</summary>
    public static string Word(TagEnd e) => e switch
    {
        TagEnd.Fitted => "Back on",
        TagEnd.Scrapped => "Scrapped",
        TagEnd.Kept => "Kept as reference",
        TagEnd.OnDisplay => "On display",
        TagEnd.Sold => "Sold",
        TagEnd.Given => "Given away",
        TagEnd.Returned => "Returned",
        TagEnd.Sample => "Sent as sample",
        _ => "Void",
    };
}

/// <summary>The number that stands for one removed part for its whole absence.</summary>
public class Tag
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database, unique over the whole museum.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Slot the part came out of.</summary>
    public Guid SlotId { get; init; }

    /// <summary>The part that came off.</summary>
    public Guid PartId { get; init; }

    /// <summary>When it came off.</summary>
    public Instant OpenedAt { get; init; }

    /// <summary>When its life ended.</summary>
    public Instant? ClosedAt { get; set; }

    /// <summary>How it ended.</summary>
    public TagEnd? End { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>What kind of place a removed part is at.</summary>
public enum CustodyKind
{
    /// <summary>Shelf, rack, bin or floor.</summary>
    Shelf,

    /// <summary>On a bench, in hand.</summary>
    Bench,

    /// <summary>Outside the shed, at a shop.</summary>
    Away,

    /// <summary>A person has it, at home or in the van.</summary>
    Person,

    /// <summary>Lent to others.</summary>
    Lent,

    /// <summary>In another building of ours.</summary>
    Building,

    /// <summary>Looked for and not found.</summary>
    NotFound,
}

/// <summary>Words and rules about where things are.</summary>
public static class Custodies
{
    /// <summary>True for what is promised back on a day.</summary>
    public static bool IsPromised(CustodyKind k) => k is CustodyKind.Away or CustodyKind.Person or CustodyKind.Lent;

    /// <summary>True for what is not at hand: it is promised back, or nobody can find it.</summary>
    public static bool IsGone(CustodyKind k) => IsPromised(k) || k == CustodyKind.NotFound;

    /// <summary>The kind in words.</summary>
    public static string Word(CustodyKind k) => k switch
    {
        CustodyKind.Shelf => "On a shelf",
        CustodyKind.Bench => "On bench",
        CustodyKind.Away => "At a shop",
        CustodyKind.Person => "With a person",
        CustodyKind.Lent => "Lent out",
        CustodyKind.Building => "In another building",
        _ => "Not found",
    };
}

/// <summary>Where a tagged part is, from … to ….</summary>
public class Custody
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Tag.</summary>
    public Guid TagId { get; init; }

    /// <summary>Kind of place.</summary>
    public CustodyKind Kind { get; init; }

    /// <summary>The place in words, such as "rack C2" or the name of a shop.</summary>
    public required string Where { get; init; }

    /// <summary>When it is promised back, if it is away.</summary>
    public LocalDate? DueBack { get; init; }

    /// <summary>From when.</summary>
    public Instant From { get; init; }

    /// <summary>Until when; null while it is there.</summary>
    public Instant? Until { get; set; }

    /// <summary>Who put it there.</summary>
    public Guid ById { get; init; }
}

/// <summary>The record of one removal.</summary>
public class StripEntry
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The tag it opened.</summary>
    public Guid TagId { get; init; }

    /// <summary>Order of removal on this machine, 1…n.</summary>
    public int Order { get; init; }

    /// <summary>Why it came off.</summary>
    public required string Reason { get; init; }

    /// <summary>Which way it sat: up, forward, shims, which end.</summary>
    public string Orientation { get; init; } = string.Empty;

    /// <summary>Marks found or made on it.</summary>
    public string Marks { get; init; } = string.Empty;

    /// <summary>Weight as typed, or null.</summary>
    public Measures.Measure? Weight { get; init; }

    /// <summary>Spanner, puller or special tool that it took, for the next time.</summary>
    public string Tools { get; init; } = string.Empty;

    /// <summary>Minutes that it took; null when nobody timed it.</summary>
    public int? Minutes { get; init; }

    /// <summary>Hands that it took; null when nobody said.</summary>
    public int? People { get; init; }

    /// <summary>Who took it off.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Which bolt belongs in which hole, where lengths differ.</summary>
    public IReadOnlyList<BoltHole> Bolts { get; set; } = [];

    /// <summary>True when the part never came off here: it was off when its tag was written, so its order and its time say nothing.</summary>
    public bool WasOff { get; init; }

    /// <summary>Fasteners that came with it.</summary>
    public List<Fastener> Fasteners { get; init; } = [];
}

/// <summary>A bag of like fasteners from one removal.</summary>
public class Fastener
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Removal it belongs to.</summary>
    public Guid StripEntryId { get; init; }

    /// <summary>What they are, such as "1/2 BSF stud".</summary>
    public required string What { get; init; }

    /// <summary>How many came off.</summary>
    public int Count { get; init; }

    /// <summary>How many of them are bad.</summary>
    public int Bad { get; init; }

    /// <summary>What they are like; what is the matter with the bad ones, when there are any.</summary>
    public BagCondition Condition { get; init; }

    /// <summary>How many went in when the part went back on, old and new; null while it is off.</summary>
    public int? BackOn { get; set; }

    /// <summary>How many of those were new.</summary>
    public int? BackOnNew { get; set; }

    /// <summary>Why the counts differ; empty when they do not.</summary>
    public string Difference { get; set; } = string.Empty;
}

/// <summary>
/// One thing has to be off before another can be reached, so it goes on after it. What follows may be a slot or an assembly; then it holds for everything in
/// it, as a panel closes over what is behind it.
/// </summary>
public class Precedence
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The slot whose part has to be off first.</summary>
    public Guid FirstSlotId { get; init; }

    /// <summary>The place that it frees.</summary>
    public Guid ThenId { get; init; }

    /// <summary>0 when it must be off whatever way is taken; 1, 2 … for one of several ways in. What has the same number goes together.</summary>
    public int Way { get; init; }

    /// <summary>Who said so; null when a removal did.</summary>
    public Guid? ById { get; init; }
}

/// <summary>Words about parts.</summary>
public static class PartWords
{
    /// <summary>Where a part came from, in words.</summary>
    public static string Of(Provenance p) => p switch
    {
        Provenance.Original => "original",
        Provenance.NewMade => "new-made",
        Provenance.Donor => "from a donor",
        Provenance.Bought => "bought",
        Provenance.Swapped => "swapped",
        _ => "lent to us",
    };
}
