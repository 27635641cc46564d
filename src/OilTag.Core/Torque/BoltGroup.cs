using NodaTime;
using OilTag.Core.Measures;

namespace OilTag.Core.Torque;

/// <summary>How the bolts of a group lie.</summary>
public enum BoltShape
{
    /// <summary>On a circle, the first at the top, counted clockwise.</summary>
    Circle,

    /// <summary>In rows, counted from left to right, the top row first.</summary>
    Rows,

    /// <summary>Two to a bearing cap, main bearings: the middle one first.</summary>
    Mains,

    /// <summary>Two to a bearing cap, connecting rods: one after the other.</summary>
    Rods,

    /// <summary>At points that somebody set.</summary>
    Own,
}

/// <summary>Where a bolt lies in its group. x to the right and y down, both from -1 to 1.</summary>
/// <param name="X">To the right.</param>
/// <param name="Y">Down.</param>
public sealed record BoltPoint(double X, double Y);

/// <summary>One round over all bolts of a group.</summary>
/// <param name="Share">Share of the full torque in 100; nought for a pass by angle.</param>
/// <param name="Degrees">Angle by which each is turned further; null for a pass by torque.</param>
public sealed record TorquePass(double Share, double? Degrees = null);

/// <summary>Bolts, studs or nuts that are tightened together, in an order and in passes, at a step of a package.</summary>
public class BoltGroup
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The step; a step has one group.</summary>
    public Guid OperationId { get; init; }

    /// <summary>What is bolted down, such as "Front cover, left cylinder".</summary>
    public required string Name { get; set; }

    /// <summary>What is turned: bolt, stud, nut or screw.</summary>
    public string Noun { get; set; } = "bolt";

    /// <summary>How they lie.</summary>
    public BoltShape Shape { get; set; }

    /// <summary>How many, 2 to 60.</summary>
    public int Count { get; set; }

    /// <summary>How many are in each row, from the top; empty for other shapes.</summary>
    public IReadOnlyList<int> Rows { get; set; } = [];

    /// <summary>Points that somebody set; empty for other shapes.</summary>
    public IReadOnlyList<BoltPoint> Points { get; set; } = [];

    /// <summary>The photo under the points; null for none.</summary>
    public Guid? PhotoId { get; set; }

    /// <summary>Pitch circle, or the length over the outermost bolts; null when nobody measured it.</summary>
    public Measure? Across { get; set; }

    /// <summary>What does not move and marks the first one, such as "oil hole at the top"; empty for none.</summary>
    public string Mark { get; set; } = string.Empty;

    /// <summary>Position, from 1, of each in the order in which they are tightened.</summary>
    public IReadOnlyList<int> Order { get; set; } = [];

    /// <summary>True when the order is the book's; false when it was worked out.</summary>
    public bool BooksOrder { get; set; }

    /// <summary>The full torque.</summary>
    public required Measure Full { get; set; }

    /// <summary>How far from it is right, to either side.</summary>
    public required Measure Within { get; set; }

    /// <summary>The rounds, in order.</summary>
    public IReadOnlyList<TorquePass> Passes { get; set; } = [];

    /// <summary>What is on threads and faces, such as "dry" or "engine oil"; the torque holds for that.</summary>
    public required string Threads { get; set; }

    /// <summary>Where torque and order come from.</summary>
    public required string Source { get; set; }

    /// <summary>The wrench; null while none is chosen.</summary>
    public Guid? ToolId { get; set; }

    /// <summary>After which use of the machine they are looked at again; null for none.</summary>
    public Service.UseKind? Again { get; set; }

    /// <summary>Running hours after which they are looked at again; null for none.</summary>
    public double? AgainHours { get; set; }

    /// <summary>How they are locked; null when they are not.</summary>
    public Work.LockWay? LockedBy { get; set; }

    /// <summary>Who set it.</summary>
    public Guid ById { get; set; }

    /// <summary>When.</summary>
    public Instant At { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>What a wrench said at one bolt. A wrong one is struck and stays; the new one stands beside it.</summary>
public class TorqueReading
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Group.</summary>
    public Guid GroupId { get; init; }

    /// <summary>Round, from 1.</summary>
    public int Pass { get; init; }

    /// <summary>Place in the order, from 1: the number that is chalked on it.</summary>
    public int Number { get; init; }

    /// <summary>The reading: a torque, or an angle in a pass by angle.</summary>
    public required Measure Value { get; init; }

    /// <summary>True when it lay within.</summary>
    public bool Within { get; init; }

    /// <summary>The wrench, by name.</summary>
    public string Tool { get; init; } = string.Empty;

    /// <summary>True when the wrench sent it; false when it was typed.</summary>
    public bool Sent { get; init; }

    /// <summary>True when a paper sheet says only that the wrench clicked: the value is what it was set to, and nobody read it.</summary>
    public bool Ticked { get; init; }

    /// <summary>Why it was done out of order; empty when it was not.</summary>
    public string OutOfOrder { get; init; } = string.Empty;

    /// <summary>Who.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>When it was struck; null while it counts.</summary>
    public Instant? StruckAt { get; set; }

    /// <summary>Who struck it.</summary>
    public Guid? StruckById { get; set; }

    /// <summary>Why: slackened, taken back, not read right.</summary>
    public string StruckWhy { get; set; } = string.Empty;

    /// <summary>When somebody asked to leave it so; null when nobody did.</summary>
    public Instant? AskedAt { get; set; }

    /// <summary>When that was accepted.</summary>
    public Instant? AcceptedAt { get; set; }

    /// <summary>Who accepted it.</summary>
    public Guid? AcceptedById { get; set; }

    /// <summary>Why it may stay so.</summary>
    public string AcceptedWhy { get; set; } = string.Empty;
}
