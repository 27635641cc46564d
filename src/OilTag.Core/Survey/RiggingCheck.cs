using NodaTime;

namespace OilTag.Core.Survey;

/// <summary>What is read at a station of a rigging check.</summary>
public enum StationKind
{
    /// <summary>The angle of a level board on the chord, root to tip.</summary>
    Incidence,

    /// <summary>The height of a station above the level through the root.</summary>
    Height,

    /// <summary>A distance between two points, the same on both sides.</summary>
    Diagonal,

    /// <summary>The offset of a frame from a stretched wire or a line of sight, along it.</summary>
    Offset,

    /// <summary>What a clock shows at an angle of the turn.</summary>
    Clock,
}

/// <summary>Which side a station is on.</summary>
public enum StationSide
{
    /// <summary>Left.</summary>
    Left,

    /// <summary>Right.</summary>
    Right,

    /// <summary>In the middle, or of a thing without sides.</summary>
    Middle,
}

/// <summary>Whether a machine is in rig: stations with targets and tolerances, read again and again. It has a number of the surveys.</summary>
public class RiggingCheck
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database, one row with the other surveys.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place that is checked.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What is checked.</summary>
    public required string Title { get; set; }

    /// <summary>How it was levelled: jacks, packing, trestles.</summary>
    public string Levelled { get; set; } = string.Empty;

    /// <summary>Where it is read.</summary>
    public IReadOnlyList<RigStation> Stations { get; set; } = [];

    /// <summary>Wires and packings that change it, and what each does.</summary>
    public IReadOnlyList<RigAdjuster> Adjusters { get; set; } = [];

    /// <summary>Who began it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A station. Angles in radians, lengths in metres.</summary>
/// <param name="Name">Its name, the same on both sides, such as "upper 2".</param>
/// <param name="Kind">What is read.</param>
/// <param name="Side">Side.</param>
/// <param name="Out">How far out from the middle or along, metres; of a clock the angle of the turn, radians.</param>
/// <param name="Target">What it should be.</param>
/// <param name="Tolerance">How far it may be off.</param>
/// <param name="Text">The line as it was typed.</param>
public sealed record RigStation(string Name, StationKind Kind, StationSide Side, double Out, double Target, double Tolerance, string Text)
{
    /// <summary>True for what is read as an angle.</summary>
    public bool IsAngle => Kind == StationKind.Incidence;
}

/// <summary>A wire, strut or packing that can be changed.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Unit">In what it is changed: turns, mm of packing.</param>
/// <param name="Most">The most by which it is changed for a small error.</param>
/// <param name="Effects">What one unit does at which station: index from 0, and the change there, radians or metres.</param>
/// <param name="Text">The line as it was typed.</param>
public sealed record RigAdjuster(string Name, string Unit, double Most, IReadOnlyList<RigEffect> Effects, string Text);

/// <summary>What one unit of an adjuster does at a station.</summary>
/// <param name="Station">Index of the station, from 0.</param>
/// <param name="Change">The change there, radians or metres.</param>
public sealed record RigEffect(int Station, double Change);

/// <summary>A reading at a station. Never changed: a later one stands for it.</summary>
public class RigReading
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Check.</summary>
    public Guid CheckId { get; init; }

    /// <summary>Index of the station, from 0.</summary>
    public int Station { get; init; }

    /// <summary>What was read, radians or metres.</summary>
    public double Value { get; init; }

    /// <summary>As it was typed, or came from the level.</summary>
    public required string Text { get; init; }

    /// <summary>True when it came from the digital level.</summary>
    public bool FromLevel { get; init; }

    /// <summary>Who read it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}
