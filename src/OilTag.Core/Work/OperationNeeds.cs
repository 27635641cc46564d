using OilTag.Core.Planning;

namespace OilTag.Core.Work;

/// <summary>What an operation needs besides hours: people, skills, things, weather, time, and what comes before it. Names, not ids, so that a machine that moves to another shed keeps them.</summary>
public sealed record OperationNeeds
{
    /// <summary>One pair of hands, and nothing else.</summary>
    public static readonly OperationNeeds Plain = new();

    /// <summary>Fewest people.</summary>
    public int MinCrew { get; init; } = 1;

    /// <summary>Most people that can work on it at once.</summary>
    public int MaxCrew { get; init; } = 2;

    /// <summary>Skills of which at least so many holders must be there.</summary>
    public IReadOnlyList<SkillNeed> Skills { get; init; } = [];

    /// <summary>Tools, jacks, bays and benches, by name.</summary>
    public IReadOnlyList<ThingNeed> Equipment { get; init; } = [];

    /// <summary>Site; empty for the shed.</summary>
    public string Site { get; init; } = string.Empty;

    /// <summary>True for work outdoors that needs a dry day.</summary>
    public bool Dry { get; init; }

    /// <summary>Coldest at which it may be done, °C.</summary>
    public double? WarmerThan { get; init; }

    /// <summary>Warmest at which it may be done, °C.</summary>
    public double? ColderThan { get; init; }

    /// <summary>True when it must be begun and ended in one session.</summary>
    public bool InOneGo { get; init; }

    /// <summary>True for what minors may not do.</summary>
    public bool AdultsOnly { get; init; }

    /// <summary>True when the package may rest for weeks once it is done: covered, drained, propped.</summary>
    public bool SafeStop { get; init; }

    /// <summary>The only day on which it can be done.</summary>
    public DateOnly? OnDay { get; init; }

    /// <summary>Calendar days that it takes without hands, such as plating; its hours then do not count.</summary>
    public DaysRange? Elapsed { get; init; }

    /// <summary>Chance that it is needed at all; below 1 for damage that is not yet found.</summary>
    public double Chance { get; init; } = 1;

    /// <summary>Days that must pass after the step before it, such as a cure.</summary>
    public DaysRange? Cure { get; init; }

    /// <summary>Coldest at which it cures, °C; null when nobody said.</summary>
    public double? CureOver { get; init; }

    /// <summary>Steps of other packages that must be done before it.</summary>
    public IReadOnlyList<Guid> After { get; init; } = [];

    /// <summary>Demands that must have come.</summary>
    public IReadOnlyList<Guid> Demands { get; init; } = [];
}
