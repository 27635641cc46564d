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
    public Provenance Provenance { get; init; }
}

/// <summary>On what terms a part sits in its slot.</summary>
public enum FittingKind
{
    /// <summary>As it was found.</summary>
    AsFound,

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
}

/// <summary>Words for the ends of a tag.</summary>
public static class TagEnds
{
    /// <summary>The word on the stub.</summary>
    public static string Word(TagEnd e) => e switch { TagEnd.Fitted => "Back on", TagEnd.Scrapped => "Scrapped", _ => "Kept" };
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

    /// <summary>Outside the shed.</summary>
    Away,

    /// <summary>Looked for and not found.</summary>
    NotFound,
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

    /// <summary>Who took it off.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

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

    /// <summary>How many of them are bad: seized, broken or rusty.</summary>
    public int Bad { get; init; }
}

/// <summary>One thing had to be off before another, so it goes on after it.</summary>
public class Precedence
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The slot whose part had to be off first.</summary>
    public Guid FirstSlotId { get; init; }

    /// <summary>The slot that it freed.</summary>
    public Guid ThenSlotId { get; init; }
}
