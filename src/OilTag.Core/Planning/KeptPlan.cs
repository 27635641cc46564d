using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>What a kept plan is for.</summary>
public enum KeptPlanKind
{
    /// <summary>The plan of the record as it stands.</summary>
    Present,

    /// <summary>A copy with changes that are tried.</summary>
    Tried,

    /// <summary>A plan that was promised: later ones are compared with it.</summary>
    Promised,

    /// <summary>What would bring a milestone to a wanted chance.</summary>
    Advised,

    /// <summary>Why the dates moved since a promise.</summary>
    Slipped,
}

/// <summary>How far a kept plan is.</summary>
public enum KeptPlanState
{
    /// <summary>It waits for a worker.</summary>
    Waiting,

    /// <summary>A worker is at it.</summary>
    Running,

    /// <summary>It is worked out.</summary>
    Done,

    /// <summary>It could not be worked out.</summary>
    Failed,
}

/// <summary>A plan that was worked out by a worker, with what it was worked out from, for pages to read.</summary>
public class KeptPlan
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>What it is for.</summary>
    public KeptPlanKind Kind { get; init; }

    /// <summary>How far it is.</summary>
    public KeptPlanState State { get; set; }

    /// <summary>The record's stamp that it was worked out at.</summary>
    public long Stamp { get; set; }

    /// <summary>Its first day.</summary>
    public LocalDate Day { get; set; }

    /// <summary>Name of a promise or of what is tried; empty for the present plan.</summary>
    public string Name { get; set; } = string.Empty;

    /// <summary>Who asked for it; null for the worker itself.</summary>
    public Guid? AskedById { get; init; }

    /// <summary>When.</summary>
    public Instant AskedAt { get; init; }

    /// <summary>When a worker last said that it is at it.</summary>
    public Instant? BeatAt { get; set; }

    /// <summary>When it was done.</summary>
    public Instant? DoneAt { get; set; }

    /// <summary>Share that is done, 0 to 1.</summary>
    public double Progress { get; set; }

    /// <summary>How long it took, milliseconds.</summary>
    public int TookMs { get; set; }

    /// <summary>The input, as a plan file.</summary>
    public string Input { get; set; } = string.Empty;

    /// <summary>What is asked, as JSON: the changes of a tried plan, the milestone and chance of advice, the promise whose dates moved; empty for others.</summary>
    public string Changes { get; init; } = string.Empty;

    /// <summary>The result, as JSON.</summary>
    public string Result { get; set; } = string.Empty;

    /// <summary>Why it failed, as a sentence.</summary>
    public string Why { get; set; } = string.Empty;
}

/// <summary>A change of the weekly pattern of sessions: a closure, or a session that is not in the pattern.</summary>
public class CalendarChange
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>First day.</summary>
    public LocalDate From { get; init; }

    /// <summary>Last day.</summary>
    public LocalDate Until { get; init; }

    /// <summary>Opens at; null for a closure.</summary>
    public LocalTime? Opens { get; init; }

    /// <summary>Closes at; null for a closure.</summary>
    public LocalTime? Closes { get; init; }

    /// <summary>Why, such as "work weekend".</summary>
    public required string Why { get; init; }

    /// <summary>Where; empty for the shed itself.</summary>
    public string Site { get; init; } = string.Empty;

    /// <summary>True when it was taken back.</summary>
    public bool Cancelled { get; set; }
}

/// <summary>A kind of tool, jack, bay or bench of which there are only so many.</summary>
public class Equipment
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Its name, such as "35 ton jack".</summary>
    public required string Name { get; set; }

    /// <summary>How many there are.</summary>
    public int Count { get; set; }

    /// <summary>When some are away.</summary>
    public IReadOnlyList<EquipmentOut> Out { get; set; } = [];

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>Some of a kind of equipment are away.</summary>
/// <param name="Count">How many.</param>
/// <param name="From">First day.</param>
/// <param name="Until">Last day.</param>
/// <param name="Why">Why: repair, calibration, lent.</param>
public sealed record EquipmentOut(int Count, DateOnly From, DateOnly Until, string Why);
