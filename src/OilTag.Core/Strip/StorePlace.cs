using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>Kinds of places that things are kept at.</summary>
public enum StoreKind
{
    /// <summary>Shelf, rack or floor.</summary>
    Shelf,

    /// <summary>Bench.</summary>
    Bench,

    /// <summary>Box or bin that is moved with what is in it.</summary>
    Box,

    /// <summary>An outside shop.</summary>
    Away,

    /// <summary>A person who has things at home or in the van.</summary>
    Person,

    /// <summary>Somebody to whom things are lent.</summary>
    Borrower,

    /// <summary>Another building of ours.</summary>
    Building,
}

/// <summary>A place that things are kept at, with a number on its label.</summary>
public class StorePlace
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number on its label, shown as P12.</summary>
    public int Number { get; init; }

    /// <summary>Name, unique whatever the capitals: rack C2, box 4, Farlow Plating.</summary>
    public required string Name { get; set; }

    /// <summary>Kind.</summary>
    public StoreKind Kind { get; init; }

    /// <summary>Where a box stands; null when nobody has said, or for what does not move.</summary>
    public Guid? StandsAtId { get; set; }
}

/// <summary>A walk along one shelf: what was there, what was missing, what belonged elsewhere.</summary>
public class StockTake
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The shelf.</summary>
    public Guid StorePlaceId { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who walked it.</summary>
    public Guid ById { get; init; }

    /// <summary>Numbers that were seen.</summary>
    public IReadOnlyList<int> Seen { get; init; } = [];

    /// <summary>Tags that the record had there and that were not seen.</summary>
    public IReadOnlyList<int> Missing { get; init; } = [];

    /// <summary>Tags that were seen and that the record had elsewhere.</summary>
    public IReadOnlyList<int> Misplaced { get; init; } = [];

    /// <summary>Numbers that are no open tag.</summary>
    public IReadOnlyList<int> Unknown { get; init; } = [];
}
