using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>One check of a trial assembly.</summary>
/// <param name="What">What is proven.</param>
/// <param name="Reading">What was read or seen; empty while it is not done.</param>
/// <param name="Good">True when it was as wanted; null while it is not done.</param>
public sealed record TrialCheck(string What, string Reading, bool? Good);

/// <summary>A machine, or part of it, put together to prove that it fits, and taken apart again.</summary>
public class TrialAssembly
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>1, 2, 3 … on its machine.</summary>
    public int Number { get; init; }

    /// <summary>The assembly that is tried.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What it is to prove.</summary>
    public IReadOnlyList<TrialCheck> Checks { get; set; } = [];

    /// <summary>When it began.</summary>
    public Instant StartedAt { get; init; }

    /// <summary>Who began it.</summary>
    public Guid ById { get; init; }

    /// <summary>When it ended; null while it goes on.</summary>
    public Instant? EndedAt { get; set; }

    /// <summary>What it has not proven, one sentence each; filled when it ends.</summary>
    public IReadOnlyList<string> NotProven { get; set; } = [];

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}
