using NodaTime;

namespace OilTag.Core.Lifting;

/// <summary>The plan of a lift or a jacking: what hangs on it, what it stands on, who does what, and when everybody stops. It is signed before anything moves.</summary>
public class LiftPlan
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>What is lifted, and why.</summary>
    public required string Title { get; set; }

    /// <summary>What it weighs: masses on, and taken off.</summary>
    public IReadOnlyList<LiftMass> Masses { get; set; } = [];

    /// <summary>Fuel, oil, water and ballast aboard, in words.</summary>
    public string Fuel { get; set; } = string.Empty;

    /// <summary>Jacks, stands or slings.</summary>
    public IReadOnlyList<LiftSupport> Supports { get; set; } = [];

    /// <summary>Factor for moving: 1.1 for slow hydraulic jacks, 1.25 for a crane (common practice).</summary>
    public double Dynamic { get; set; } = 1.1;

    /// <summary>How much more than planned a load cell may show before everybody stops, in 100.</summary>
    public double Margin { get; set; } = 25;

    /// <summary>The floor under it, and how it was checked.</summary>
    public string Floor { get; set; } = string.Empty;

    /// <summary>Who does what, one a line.</summary>
    public IReadOnlyList<string> People { get; set; } = [];

    /// <summary>Steps in their order.</summary>
    public IReadOnlyList<string> Steps { get; set; } = [];

    /// <summary>When everybody stops.</summary>
    public IReadOnlyList<string> Stops { get; set; } = [];

    /// <summary>Steps that are done, in their order.</summary>
    public IReadOnlyList<LiftStep> Done { get; set; } = [];

    /// <summary>Who wrote it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who signed it; null until then. What is signed is not changed any more.</summary>
    public Guid? SignedById { get; set; }

    /// <summary>When.</summary>
    public Instant? SignedAt { get; set; }

    /// <summary>What was looked at before signing.</summary>
    public string SignedNote { get; set; } = string.Empty;

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>Something that weighs.</summary>
/// <param name="Name">What it is.</param>
/// <param name="Kilograms">Its mass; below nought for what was taken off.</param>
/// <param name="X">Where it lies along, metres from the datum.</param>
/// <param name="Y">And across, metres.</param>
/// <param name="Text">The line as it was typed.</param>
public sealed record LiftMass(string Name, double Kilograms, double X, double Y, string Text);

/// <summary>A jack, a stand or a point of a sling.</summary>
/// <param name="Name">What it is.</param>
/// <param name="X">Where it stands along, metres from the datum.</param>
/// <param name="Y">And across, metres.</param>
/// <param name="Rated">What it is rated for, kilograms.</param>
/// <param name="Cell">Number of the load cell under it; 0 for none.</param>
/// <param name="Under">What it stands on: cribs, plates.</param>
/// <param name="Text">The line as it was typed.</param>
public sealed record LiftSupport(string Name, double X, double Y, double Rated, int Cell, string Under, string Text);

/// <summary>A step that is done.</summary>
/// <param name="ById">Who said so.</param>
/// <param name="At">When.</param>
public sealed record LiftStep(Guid ById, Instant At);

/// <summary>What the load cells showed at one moment.</summary>
public class LiftReading
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Plan.</summary>
    public Guid PlanId { get; init; }

    /// <summary>Kilograms under each support in the order of the plan; null where there is no cell, or it did not answer.</summary>
    public required IReadOnlyList<double?> Kilograms { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who watched.</summary>
    public Guid ById { get; init; }
}

/// <summary>Everybody stopped: a cell passed its limit. It stands until somebody who may says why it goes on.</summary>
public class LiftStop
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Plan.</summary>
    public Guid PlanId { get; init; }

    /// <summary>Which support, from 0.</summary>
    public int Support { get; init; }

    /// <summary>What its cell showed, kilograms.</summary>
    public double Kilograms { get; init; }

    /// <summary>Its limit, kilograms.</summary>
    public double Limit { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who let it go on; null while it stands.</summary>
    public Guid? ClearedById { get; set; }

    /// <summary>When.</summary>
    public Instant? ClearedAt { get; set; }

    /// <summary>What was found, and why it goes on.</summary>
    public string ClearedNote { get; set; } = string.Empty;
}
