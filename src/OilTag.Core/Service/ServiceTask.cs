using NodaTime;
using OilTag.Core.Measures;

namespace OilTag.Core.Service;

/// <summary>What is done with a machine that wears it or shakes it down.</summary>
public enum UseKind
{
    /// <summary>It ran under its own power.</summary>
    Run,

    /// <summary>It was moved: towed, pushed, lifted.</summary>
    Move,

    /// <summary>It was heated: steam raised, an engine warmed through.</summary>
    Heat,
}

/// <summary>A machine was run, moved or heated.</summary>
public class MachineUse
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>What was done.</summary>
    public UseKind Kind { get; init; }

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>Running hours; nought when it did not run.</summary>
    public double Hours { get; init; }

    /// <summary>How far; null when nobody said.</summary>
    public Measure? Distance { get; init; }

    /// <summary>What is worth knowing.</summary>
    public string Note { get; init; } = string.Empty;

    /// <summary>Who wrote it down.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>When it was taken back; null while it counts.</summary>
    public Instant? TakenBackAt { get; set; }

    /// <summary>Who took it back.</summary>
    public Guid? TakenBackById { get; set; }

    /// <summary>Why.</summary>
    public string TakenBackWhy { get; set; } = string.Empty;
}

/// <summary>Something that is due again and again: oil, grease, a filter, a look.</summary>
public class ServiceTask
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; set; }

    /// <summary>What is done, such as "Grease the spring eyes".</summary>
    public required string What { get; set; }

    /// <summary>With what, such as "calcium grease"; empty for nothing.</summary>
    public string With { get; set; } = string.Empty;

    /// <summary>How much, such as "4 strokes each" or "7 pt"; empty when nobody said.</summary>
    public string Amount { get; set; } = string.Empty;

    /// <summary>Days after which it is due again; null when days do not count.</summary>
    public int? EveryDays { get; set; }

    /// <summary>Running hours after which it is due again; null when they do not count.</summary>
    public double? EveryHours { get; set; }

    /// <summary>Distance after which it is due again; null when it does not count.</summary>
    public Measure? EveryDistance { get; set; }

    /// <summary>True when it is due before each run.</summary>
    public bool BeforeRun { get; set; }

    /// <summary>True when it is due before each move.</summary>
    public bool BeforeMove { get; set; }

    /// <summary>True when it is due once after the first run.</summary>
    public bool AfterFirstRun { get; set; }

    /// <summary>Who set it.</summary>
    public Guid ById { get; set; }

    /// <summary>When: what is due by days is counted from here until it is done for the first time.</summary>
    public Instant At { get; init; }

    /// <summary>When it was ended; null while it stands.</summary>
    public Instant? EndedAt { get; set; }

    /// <summary>Why.</summary>
    public string EndedWhy { get; set; } = string.Empty;

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A service task was done.</summary>
public class ServiceDone
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Task.</summary>
    public Guid TaskId { get; init; }

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>What was used or found.</summary>
    public string Note { get; init; } = string.Empty;

    /// <summary>Who did it.</summary>
    public Guid ById { get; init; }

    /// <summary>When it was written down.</summary>
    public Instant At { get; init; }

    /// <summary>When it was taken back; null while it counts.</summary>
    public Instant? TakenBackAt { get; set; }

    /// <summary>Who took it back.</summary>
    public Guid? TakenBackById { get; set; }

    /// <summary>Why.</summary>
    public string TakenBackWhy { get; set; } = string.Empty;
}

/// <summary>Something that is looked at again, once: by a day, after running hours, or after a run, a move or a heat.</summary>
public class Recheck
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Package from which it comes; null when it comes from none.</summary>
    public Guid? PackageId { get; init; }

    /// <summary>What is looked at, such as "Torque of the cover studs".</summary>
    public required string What { get; init; }

    /// <summary>Day on which it is due; null when days do not count.</summary>
    public LocalDate? DueOn { get; init; }

    /// <summary>Running hours from <see cref="At"/> on after which it is due; null when they do not count.</summary>
    public double? AfterHours { get; init; }

    /// <summary>The use after which it is due; null when none counts.</summary>
    public UseKind? AfterUse { get; init; }

    /// <summary>Who asked for it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>When it was done or given up; null while it is open.</summary>
    public Instant? EndedAt { get; set; }

    /// <summary>Who did it or gave it up.</summary>
    public Guid? EndedById { get; set; }

    /// <summary>What was found, or why it was given up.</summary>
    public string Found { get; set; } = string.Empty;

    /// <summary>True when it was given up and not done.</summary>
    public bool GivenUp { get; set; }
}
