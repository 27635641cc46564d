namespace OilTag.Core.Log;

/// <summary>A number that a thing had in another record and that was taken here: it still finds the thing.</summary>
public class NumberAlias
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine it came with.</summary>
    public Guid MachineId { get; init; }

    /// <summary>What it numbers: T for tags, F findings, W packages, R route cards, S surveys, C check points, Q questions, D diagnoses.</summary>
    public required string Kind { get; init; }

    /// <summary>The number that it had.</summary>
    public int Old { get; init; }

    /// <summary>The number that it has here.</summary>
    public int New { get; init; }
}
