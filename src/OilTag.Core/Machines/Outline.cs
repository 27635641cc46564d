using System.Globalization;

namespace OilTag.Core.Machines;

/// <summary>A region that a team drew over its own picture of a machine.</summary>
/// <param name="PlaceId">The assembly whose state it shows.</param>
/// <param name="Points">Corners in percent of the width and of the height of the picture, x and y in turn.</param>
public sealed record OutlineRegion(Guid PlaceId, IReadOnlyList<double> Points);

/// <summary>A team's own picture of a machine with regions over it.</summary>
public class Outline
{
    /// <summary>What a machine has instead of the name of a shipped drawing while its own picture is shown.</summary>
    public const string Own = "own";

    /// <summary>Identity; also the name of its file.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>image/jpeg, image/png or image/svg+xml.</summary>
    public required string ContentType { get; init; }

    /// <summary>Width of the picture in its own points.</summary>
    public int Width { get; init; }

    /// <summary>Height of the picture in its own points.</summary>
    public int Height { get; init; }

    /// <summary>Regions in the order in which they were drawn.</summary>
    public IReadOnlyList<OutlineRegion> Regions { get; set; } = [];

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>Reads the corners of a region as a page sends them or as they are typed.</summary>
public static class OutlineRule
{
    /// <summary>Most regions over one picture.</summary>
    public const int MostRegions = 60;

    /// <summary>Most corners of one region.</summary>
    public const int MostCorners = 80;

    /// <summary>Reads pairs of percentages such as <c>10,20 40,20 40,60</c>.</summary>
    /// <param name="text">As typed or drawn.</param>
    /// <returns>Corners, or a problem.</returns>
    public static (IReadOnlyList<double> Points, Problem? Problem) ReadCorners(string? text)
    {
        var points = new List<double>();
        foreach (var pair in (text ?? string.Empty).Split([' ', '\n', '\r', '\t', ';'], StringSplitOptions.RemoveEmptyEntries))
        {
            var xy = pair.Split(',');
            if (xy.Length != 2 || Read(xy[0]) is not { } x || Read(xy[1]) is not { } y)
            {
                return ([], new Problem("Corners", "Give corners as pairs of percent across and down, such as 10,20 40,20 40,60, or draw them on the picture."));
            }

            points.Add(x);
            points.Add(y);
        }

        return points.Count switch
        {
            < 6 => ([], new Problem("Corners", "A region has at least three corners. Tap the picture at each of them.")),
            > MostCorners * 2 => ([], new Problem("Corners", $"A region has at most {MostCorners} corners.")),
            _ when Area(points) < 0.05 => ([], new Problem("Corners", "The corners lie on one line. Draw round the region.")),
            _ => (points, null),
        };
    }

    /// <summary>Corners as they are read again.</summary>
    public static string Words(IReadOnlyList<double> points)
    {
        ArgumentNullException.ThrowIfNull(points);
        return string.Join(' ', Enumerable.Range(0, points.Count / 2).Select(i => string.Create(CultureInfo.InvariantCulture, $"{points[2 * i]:0.##},{points[(2 * i) + 1]:0.##}")));
    }

    // Shoelace formula; in percent of the picture's width times percent of its height, over 100.
    private static double Area(List<double> p)
    {
        var twice = 0.0;
        for (var i = 0; i < p.Count; i += 2)
        {
            var j = (i + 2) % p.Count;
            twice += (p[i] * p[j + 1]) - (p[j] * p[i + 1]);
        }

        return Math.Abs(twice) / 200;
    }

    private static double? Read(string s) => double.TryParse(s, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var v) && v is >= 0 and <= 100 ? Math.Round(v, 2) : null;
}
