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
    public Guid PlaceId { get; set; }

    /// <summary>What is done.</summary>
    public required string Title { get; set; }

    /// <summary>What it is for, in words; may be empty.</summary>
    public string Purpose { get; set; } = string.Empty;

    /// <summary>Name of the starting steps that it began with; empty for none. What the like took us is told by it.</summary>
    public string StartedFrom { get; set; } = string.Empty;

    /// <summary>Number of its steps as they are written: 1 when it is opened, one more with every change.</summary>
    public int Revision { get; set; } = 1;

    /// <summary>Why it was cancelled; empty when it was not. A cancelled package is closed too.</summary>
    public string CancelledWhy { get; set; } = string.Empty;

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
    public int Order { get; set; }

    /// <summary>What is done.</summary>
    public required string Name { get; set; }

    /// <summary>Person-hours if all goes well.</summary>
    public double Low { get; set; }

    /// <summary>Person-hours most likely.</summary>
    public double Likely { get; set; }

    /// <summary>Person-hours if it goes badly.</summary>
    public double High { get; set; }

    /// <summary>True when work stops here until somebody authorised has inspected.</summary>
    public bool Hold { get; set; }

    /// <summary>True when it can be done beside the step before it.</summary>
    public bool Beside { get; set; }

    /// <summary>A lead's reason for beginning it although something does not lie ready; empty while there is none.</summary>
    public string BegunWithout { get; set; } = string.Empty;

    /// <summary>Notes, one a line.</summary>
    public string Note { get; set; } = string.Empty;

    /// <summary>Readings that it asks for.</summary>
    public IReadOnlyList<WantedReading> Readings { get; set; } = [];

    /// <summary>Parts, hardware and consumables that lie ready before it is begun.</summary>
    public IReadOnlyList<KitItem> Kit { get; set; } = [];

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

/// <summary>A change of the steps of a package, as it was made. Never changed or taken away.</summary>
public class PackageRevision
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Package.</summary>
    public Guid PackageId { get; init; }

    /// <summary>The number of the steps from then on, 2 or more.</summary>
    public int Number { get; init; }

    /// <summary>What changed, a sentence each.</summary>
    public IReadOnlyList<string> Changes { get; init; } = [];

    /// <summary>Why; empty when nothing that was begun changed.</summary>
    public string Why { get; init; } = string.Empty;

    /// <summary>Who.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Starting steps that the group keeps for the next time.</summary>
public class StepSet
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Name, such as "Riveted skin"; one of a name.</summary>
    public required string Name { get; set; }

    /// <summary>What it is for, in a few words.</summary>
    public string Words { get; set; } = string.Empty;

    /// <summary>The steps as they are written, one a line.</summary>
    public required string Lines { get; set; }

    /// <summary>Who kept it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>When it was taken out of the library; null while it is in it.</summary>
    public Instant? EndedAt { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>The signature at a hold point. Never changed or taken away; when what it stands on changes, a <see cref="SignOffVoid"/> stands beside it.</summary>
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

    /// <summary>True when it was signed on the shed's tablet with a PIN.</summary>
    public bool ByPin { get; init; }
}

/// <summary>A signature is void, because what it stood on was changed. Never changed or taken away.</summary>
public class SignOffVoid
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The signature.</summary>
    public Guid SignOffId { get; init; }

    /// <summary>Who changed what it stood on.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Why.</summary>
    public required string Why { get; init; }
}

/// <summary>Something that a step names lies ready, or so much of it does.</summary>
public class LaidOut
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Step.</summary>
    public Guid OperationId { get; init; }

    /// <summary>What, as the step names it.</summary>
    public required string What { get; init; }

    /// <summary>How many lie there, nought or more.</summary>
    public int Here { get; set; }

    /// <summary>Who looked.</summary>
    public Guid ById { get; set; }

    /// <summary>When.</summary>
    public Instant At { get; set; }
}

/// <summary>Somebody read a caution at a step.</summary>
public class CautionRead
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Step.</summary>
    public Guid OperationId { get; init; }

    /// <summary>Number of the caution in the hazards register.</summary>
    public int Caution { get; init; }

    /// <summary>Who.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
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
