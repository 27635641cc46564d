using NodaTime;

namespace OilTag.Core.Work;

/// <summary>A plannable piece of work on one place.</summary>
public class WorkPackage
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place it works on.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What is done.</summary>
    public required string Title { get; set; }

    /// <summary>Finding it clears, if it came from one.</summary>
    public Guid? FindingId { get; init; }

    /// <summary>Tag of the part it is about, if any.</summary>
    public Guid? TagId { get; init; }

    /// <summary>Milestone it serves.</summary>
    public Guid? MilestoneId { get; set; }

    /// <summary>What it waits on, or an empty string.</summary>
    public string WaitingOn { get; set; } = string.Empty;

    /// <summary>Who can free it.</summary>
    public Guid? WaitingForId { get; set; }

    /// <summary>Since when it waits.</summary>
    public LocalDate? WaitingSince { get; set; }

    /// <summary>Expected cost of material and outside work, in pence.</summary>
    public long EstimatePence { get; set; }

    /// <summary>True when the machine is not whole from its first step to its last.</summary>
    public bool Opens { get; set; }

    /// <summary>Day before which it is not begun; null when it may be begun at once.</summary>
    public LocalDate? NotBefore { get; set; }

    /// <summary>What does not work from its first step to its last: water, brakes.</summary>
    public IReadOnlyList<string> TakesAway { get; set; } = [];

    /// <summary>Packages that will undo part of this work.</summary>
    public IReadOnlyList<Guid> UndoneBy { get; set; } = [];

    /// <summary>When it was opened.</summary>
    public Instant OpenedAt { get; init; }

    /// <summary>When it was closed; null while open.</summary>
    public Instant? ClosedAt { get; set; }

    /// <summary>Who closed it.</summary>
    public Guid? ClosedById { get; set; }

    /// <summary>Operations, in order.</summary>
    public List<Operation> Operations { get; init; } = [];

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A step in a package.</summary>
public class Operation
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Package.</summary>
    public Guid PackageId { get; init; }

    /// <summary>Order in the package, 1…n.</summary>
    public int Order { get; init; }

    /// <summary>What is done.</summary>
    public required string Name { get; init; }

    /// <summary>Person-hours if all goes well.</summary>
    public double Low { get; set; }

    /// <summary>Person-hours most likely.</summary>
    public double Likely { get; set; }

    /// <summary>Person-hours if it goes badly.</summary>
    public double High { get; set; }

    /// <summary>True when work stops here until somebody authorised has inspected.</summary>
    public bool Hold { get; init; }

    /// <summary>What it needs besides hours.</summary>
    public OperationNeeds Needs { get; set; } = OperationNeeds.Plain;

    /// <summary>Person-hours that somebody who worked at it said it still wants; null while nobody has. It stands above the estimate.</summary>
    public double? Left { get; set; }

    /// <summary>When that was said: hours booked on it later come off.</summary>
    public Instant? LeftAt { get; set; }

    /// <summary>When it was done; for a hold point, when it was signed for.</summary>
    public Instant? DoneAt { get; set; }

    /// <summary>Who did it; for a hold point, who signed.</summary>
    public Guid? DoneById { get; set; }
}

/// <summary>The signature at a hold point. Never changed or taken away.</summary>
public class SignOff
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The hold point.</summary>
    public Guid OperationId { get; init; }

    /// <summary>Who signed.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>What was inspected and found.</summary>
    public required string Note { get; init; }
}

/// <summary>Money spent on a package.</summary>
public class Cost
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Package.</summary>
    public Guid PackageId { get; init; }

    /// <summary>What was paid for.</summary>
    public required string What { get; init; }

    /// <summary>How much, in pence.</summary>
    public long Pence { get; init; }

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>Who entered it.</summary>
    public Guid ById { get; init; }
}
