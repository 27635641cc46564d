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
