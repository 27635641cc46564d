using NodaTime;
using OilTag.Core.Bench;
using OilTag.Core.Measures;

namespace OilTag.Core.Make;

/// <summary>What holds a thing in shape while something that carries is out: hard points at known distances.</summary>
public class Fixture
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place that it holds.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What it is.</summary>
    public required string Title { get; set; }

    /// <summary>Its hard points.</summary>
    public IReadOnlyList<HardPoint> Points { get; set; } = [];

    /// <summary>Packages that may only be worked on while it holds.</summary>
    public IReadOnlyList<Guid> Holds { get; set; } = [];

    /// <summary>When it was set up; null until then.</summary>
    public Instant? SetAt { get; set; }

    /// <summary>When it was taken away; null until then.</summary>
    public Instant? StruckAt { get; set; }

    /// <summary>Who wrote it down.</summary>
    public Guid ById { get; init; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A hard point with the distance that it keeps.</summary>
/// <param name="Name">Between what and what.</param>
/// <param name="Target">The distance, metres.</param>
/// <param name="Tolerance">How far it may be off, metres.</param>
/// <param name="Text">The line as it was typed.</param>
public sealed record HardPoint(string Name, double Target, double Tolerance, string Text);

/// <summary>A reading at a hard point. Never changed: a later one stands for it.</summary>
public class FixtureReading
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Fixture.</summary>
    public Guid FixtureId { get; init; }

    /// <summary>Index of the point, from 0.</summary>
    public int Point { get; init; }

    /// <summary>What was read, metres.</summary>
    public double Value { get; init; }

    /// <summary>As it was typed.</summary>
    public required string Text { get; init; }

    /// <summary>Who read it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>How a fixture stands.</summary>
public enum FixtureState
{
    /// <summary>Not set up yet.</summary>
    Planned,

    /// <summary>Set up, and not read at every point since.</summary>
    Unread,

    /// <summary>A point is farther off than allowed.</summary>
    Off,

    /// <summary>It holds.</summary>
    Holds,

    /// <summary>Taken away.</summary>
    Struck,
}

/// <summary>A point with its first reading after setting up and its latest.</summary>
/// <param name="Point">The point.</param>
/// <param name="Before">First reading since it was set up, metres; null when there is none.</param>
/// <param name="Now">Latest reading, metres; null when there is none.</param>
public sealed record PointStand(HardPoint Point, double? Before, double? Now)
{
    /// <summary>How far it moved; null while it was read once or never.</summary>
    public double? Moved => Now - Before;

    /// <summary>True when the latest reading is no farther off than allowed.</summary>
    public bool Within => Now is { } n && Math.Abs(n - Point.Target) <= Point.Tolerance * (1 + 1e-9);
}

/// <summary>Reads fixtures and says whether they hold.</summary>
public static class FixtureRule
{
    /// <summary>Most hard points.</summary>
    public const int Most = 40;

    private const string How = "name; distance; tolerance, such as frame 3 to keel; 812 mm; 1 mm";

    /// <summary>Reads hard points, one a line: name; distance; tolerance.</summary>
    public static IReadOnlyList<HardPoint> Points(string? text, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var before = problems.Count;
        var all = TypedLines.Read<HardPoint>(text, problems, "Points", Most, How, 3, 3, (cells, line) =>
        {
            // Twist and flatness are nought where they should be; a bare number is in the unit of the tolerance.
            var tolerance = MeasureReader.Read(cells[2], Quantity.Length);
            var target = SignedReader.Read(cells[1], Quantity.Length, tolerance.Value?.Unit);
            return target.Si is null || tolerance.Value is null ? (null, target.Refusal ?? tolerance.Refusal) : (new HardPoint(cells[0], target.Si.Value, tolerance.Value.Si, line), null);
        });
        if (all.Count == 0 && problems.Count == before)
        {
            problems.Add(new Problem("Points", $"Type at least one hard point: {How}."));
        }

        return all;
    }

    /// <summary>Reads what was typed at a point; a bare number is in the unit of the point.</summary>
    /// <param name="point">The point.</param>
    /// <param name="text">What was typed.</param>
    /// <returns>Metres, or why it cannot be read.</returns>
    public static (double? Si, string? Refusal) Read(HardPoint point, string? text)
    {
        ArgumentNullException.ThrowIfNull(point);
        var unit = MeasureReader.Read(point.Text.Split(';', StringSplitOptions.TrimEntries)[^1], Quantity.Length).Value?.Unit;
        var read = SignedReader.Read(text, Quantity.Length, unit);
        return (read.Si, read.Refusal);
    }

    /// <summary>Each point with its readings since it was set up.</summary>
    public static IReadOnlyList<PointStand> Stand(Fixture fixture, IEnumerable<FixtureReading> readings)
    {
        ArgumentNullException.ThrowIfNull(fixture);
        var since = readings.Where(r => fixture.SetAt is { } set && r.At >= set).OrderBy(r => r.At).ToLookup(r => r.Point, r => r.Value);
        return [.. fixture.Points.Select((p, i) => new PointStand(p, since[i].Select(v => (double?)v).FirstOrDefault(), since[i].Select(v => (double?)v).LastOrDefault()))];
    }

    /// <summary>How it stands.</summary>
    public static FixtureState State(Fixture fixture, IReadOnlyList<PointStand> stand)
    {
        ArgumentNullException.ThrowIfNull(fixture);
        ArgumentNullException.ThrowIfNull(stand);
        return fixture.StruckAt is not null ? FixtureState.Struck
            : fixture.SetAt is null ? FixtureState.Planned
            : stand.Any(p => p.Now is not null && !p.Within) ? FixtureState.Off
            : stand.Any(p => p.Now is null) ? FixtureState.Unread
            : FixtureState.Holds;
    }

    /// <summary>Why work that wants it may not go on; null when it may.</summary>
    public static string? WhyNot(Fixture fixture, IReadOnlyList<PointStand> stand)
    {
        ArgumentNullException.ThrowIfNull(fixture);
        ArgumentNullException.ThrowIfNull(stand);
        return State(fixture, stand) switch
        {
            FixtureState.Holds => null,
            FixtureState.Planned => $"{fixture.Title} is not set up yet. Set it up and read every hard point first.",
            FixtureState.Unread => $"{fixture.Title} is set up; {stand.Count(p => p.Now is null)} of its hard points are not read yet.",
            FixtureState.Off => $"{fixture.Title} does not hold: {stand.First(p => p.Now is not null && !p.Within).Point.Name} has moved. Stop, and bring it back first.",
            _ => $"{fixture.Title} was taken away. This work wants it.",
        };
    }

    /// <summary>A length in the system in which its point was typed.</summary>
    public static string Show(HardPoint point, double metres) => new Reckoning(point?.Text.Contains(" mm", StringComparison.OrdinalIgnoreCase) == false && !point.Text.EndsWith(" m", StringComparison.OrdinalIgnoreCase)).Fine(metres);
}
