using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>One position of a matrix survey, such as cylinder 3.</summary>
/// <param name="Name">What it is called at the machine.</param>
/// <param name="Hand">Which side, where there are two.</param>
/// <param name="PlaceId">The place of the breakdown that it stands for, or null.</param>
public sealed record MatrixPosition(string Name, Hand Hand, Guid? PlaceId);

/// <summary>What is looked at in every position.</summary>
/// <param name="Name">What it is, such as <c>Bore</c>.</param>
/// <param name="Look">How to look, in a few words; may be empty.</param>
/// <param name="Measured">What a measurement is judged by; null when nothing is measured.</param>
public sealed record MatrixCheck(string Name, string Look, CheckLimits? Measured);

/// <summary>What people suspect behind neighbouring positions, drawn as a bracket over them.</summary>
/// <param name="From">First position, from 1.</param>
/// <param name="To">Last position.</param>
/// <param name="Words">The suspected cause.</param>
public sealed record MatrixCause(int From, int To, string Words);

/// <summary>A survey of positions × checks, as it is carried out on one day.</summary>
public class SurveyMatrix
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database; counted together with survey sheets.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Assembly that is surveyed.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What is surveyed, in words.</summary>
    public required string Title { get; set; }

    /// <summary>What the positions are, such as <c>Cylinder</c>.</summary>
    public string PositionsAre { get; init; } = string.Empty;

    /// <summary>Positions, left to right.</summary>
    public IReadOnlyList<MatrixPosition> Positions { get; init; } = [];

    /// <summary>Checks, top to bottom.</summary>
    public IReadOnlyList<MatrixCheck> Checks { get; set; } = [];

    /// <summary>Suspected causes.</summary>
    public IReadOnlyList<MatrixCause> Causes { get; set; } = [];

    /// <summary>Day of the survey.</summary>
    public LocalDate On { get; init; }

    /// <summary>Who planned it.</summary>
    public Guid ById { get; init; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }

    /// <summary>True when there is such a cell; positions and checks count from 1.</summary>
    public bool Has(int position, int check) => position >= 1 && position <= Positions.Count && check >= 1 && check <= Checks.Count;

    /// <summary>A position in words, such as <c>Cylinder 3</c>.</summary>
    public string NameOf(int position) => (PositionsAre.Length > 0 ? PositionsAre + " " : string.Empty) + Positions[position - 1].Name;

    /// <summary>A cell in words, such as <c>Cylinder 3, bore</c>.</summary>
    public string NameOf(int position, int check) => $"{NameOf(position)}, {Lower(Checks[check - 1].Name)}";

    private static string Lower(string s) => s.Length > 1 && char.IsUpper(s[1]) ? s : char.ToLowerInvariant(s[0]) + s[1..];
}

/// <summary>What one cell of a matrix says.</summary>
public class MatrixCell
{
    /// <summary>Identity; photos hang on it.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Survey.</summary>
    public Guid MatrixId { get; init; }

    /// <summary>Position, from 1.</summary>
    public int Position { get; init; }

    /// <summary>Check, from 1.</summary>
    public int Check { get; init; }

    /// <summary>What was seen; <see cref="CellMark.Measured"/> when only the reading speaks.</summary>
    public CellMark Mark { get; set; }

    /// <summary>The reading, or null.</summary>
    public Measure? Reading { get; set; }

    /// <summary>The other end when it was given as a range, or null.</summary>
    public Measure? ReadingTo { get; set; }

    /// <summary>How it is known.</summary>
    public Evidence Evidence { get; set; }

    /// <summary>Anything else, in words.</summary>
    public string Note { get; set; } = string.Empty;

    /// <summary>Who looked.</summary>
    public Guid ById { get; set; }

    /// <summary>When.</summary>
    public Instant At { get; set; }
}

/// <summary>A set of checks that a team uses again and again.</summary>
public class SurveyTemplate
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Its name, such as <c>Piston engine</c>.</summary>
    public required string Name { get; set; }

    /// <summary>The kind of machine it is offered for first; null for all.</summary>
    public MachineKind? Kind { get; set; }

    /// <summary>What the positions are.</summary>
    public string PositionsAre { get; set; } = string.Empty;

    /// <summary>The positions as they are typed, such as <c>1-6</c>.</summary>
    public string Positions { get; set; } = string.Empty;

    /// <summary>The checks.</summary>
    public IReadOnlyList<MatrixCheck> Checks { get; set; } = [];

    /// <summary>True when it is not offered any more.</summary>
    public bool Retired { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>The templates that a new installation starts with. They carry no limits: those come from the manual of the machine. Checks: common practice.</summary>
public static class StartingTemplates
{
    /// <summary>The templates.</summary>
    public static IReadOnlyList<SurveyTemplate> All() =>
    [
        Of("Piston engine", null, "Cylinder", "1-6",
            ("Bore", "Across the thrust and along it, at the top of the ring travel", "mm"), ("Liner", "Rust, scores, lip at the top", ""), ("Piston", "Crown, skirt, ring grooves", ""), ("Ring gap", "In the bore, pushed square", "mm"),
            ("Inlet valve", "Seat, stem, guide", ""), ("Exhaust valve", "Seat, stem, guide", ""), ("Plug thread", "", ""), ("Compression", "Warm, throttle open", "bar")),
        Of("Axleboxes", MachineKind.SteamLocomotive, "Box", "1L, 1R, 2L, 2R, 3L, 3R",
            ("Crown", "Wiped or cracked white metal", ""), ("Journal", "At both ends and the middle", "mm"), ("Side play", "", "mm"), ("Horn guides", "Wear faces, cracks at the corners", ""), ("Keep and pad", "Oil, water, horsehair", ""), ("Spring", "Broken or shifted leaves", "")),
        Of("Wing ribs or hull frames", MachineKind.Aircraft, "Frame", "1-12",
            ("Flange", "Corrosion, dents, old rivets", ""), ("Web", "Cracks from the holes, corrosion at the lowest point", ""), ("Fasteners", "Pulled, smoking, odd ones", ""), ("Joint to the skin", "Lifted, sealant gone", ""), ("Drain holes", "Open?", "")),
        Of("Track and rollers", MachineKind.Tractor, "Roller", "1L, 1R, 2L, 2R, 3L, 3R, 4L, 4R",
            ("Tread", "Flats, cracks", "mm"), ("Bearing", "Turns, play, noise", ""), ("Seal", "Oil outside, water inside", ""), ("Bracket", "Cracks at the welds", "")),
        Of("Car frame", MachineKind.Carriage, "Pillar", "1L, 1R, 2L, 2R, 3L, 3R, 4L, 4R",
            ("Foot", "Rot: a probe, then a borer", ""), ("Head", "Joint open?", ""), ("Panel edge", "Lifted veneer, rust", ""), ("Ironwork", "Bolts, straps", "")),
    ];

    private static SurveyTemplate Of(string name, MachineKind? kind, string positionsAre, string positions, params (string Name, string Look, string Unit)[] checks) => new()
    {
        Name = name,
        Kind = kind,
        PositionsAre = positionsAre,
        Positions = positions,
        Checks = [.. checks.Select(c => new MatrixCheck(c.Name, c.Look, c.Unit.Length == 0 ? null : new CheckLimits(c.Unit, null, null, null, null)))],
    };
}
