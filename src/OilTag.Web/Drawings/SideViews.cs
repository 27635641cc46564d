using System.Globalization;
using System.Text;
using OilTag.Core.Machines;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>One stroke of a side view: a region that is filled by the state of its assembly, a plain piece, or a line.</summary>
/// <param name="Region">Name of the region; empty for what has no state.</param>
/// <param name="Path">Path with absolute commands M, L, H, V, C, Z only.</param>
/// <param name="Width">Width of a line; nought for a closed piece.</param>
public sealed record Stroke(string Region, string Path, double Width = 0);

/// <summary>A side view that ships.</summary>
/// <param name="Key">Name by which a machine keeps it.</param>
/// <param name="Title">What it shows, in words.</param>
/// <param name="Strokes">Its strokes, the hindmost first.</param>
/// <param name="Points">Points on regions whose middle lies under something else.</param>
public sealed record SideView(string Key, string Title, IReadOnlyList<Stroke> Strokes, IReadOnlyDictionary<string, (double X, double Y)>? Points = null)
{
    /// <summary>Its regions, in the order in which they are drawn, each with a point on it: the middle of its first piece unless another is named.</summary>
    public IReadOnlyDictionary<string, (double X, double Y)> Regions { get; } = Strokes.Where(s => s.Region.Length > 0).GroupBy(s => s.Region, StringComparer.Ordinal)
        .ToDictionary(g => g.Key, g => Points is not null && Points.TryGetValue(g.Key, out var point) ? point : Middle(g.First().Path), StringComparer.Ordinal);

    // The middle of the box round all points of a path.
    private static (double X, double Y) Middle(string path)
    {
        var (xs, ys) = (new List<double>(), new List<double>());
        foreach (var piece in System.Text.RegularExpressions.Regex.EnumerateSplits(path, "(?=[MLHVCZ])"))
        {
            var text = path[piece].Trim();
            if (text.Length < 2)
            {
                continue;
            }

            var n = text[1..].Split([' ', ','], StringSplitOptions.RemoveEmptyEntries).Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToList();
            switch (text[0])
            {
                case 'H':
                    xs.AddRange(n);
                    break;
                case 'V':
                    ys.AddRange(n);
                    break;
                default:
                    xs.AddRange(n.Where((_, i) => i % 2 == 0));
                    ys.AddRange(n.Where((_, i) => i % 2 == 1));
                    break;
            }
        }

        return ((xs.Min() + xs.Max()) / 2, (ys.Min() + ys.Max()) / 2);
    }
}

/// <summary>Side views in a box of 290 × 170 with the ground at 165, looking to the left. Every region is closed and filled by the state of its assembly.</summary>
public static class SideViews
{
    private static readonly Dictionary<string, SideView> Known = new[] { AirViews.All, RailViews.All, RoadViews.All, StandingViews.All }.SelectMany(v => v).ToDictionary(v => v.Key, StringComparer.Ordinal);

    /// <summary>All that ship, by kind.</summary>
    public static IReadOnlyCollection<SideView> All => Known.Values;

    /// <summary>A side view by its key; null when none has it.</summary>
    public static SideView? Find(string key) => Known.GetValueOrDefault(key);

    /// <summary>A point on a region from which a cord or a projection line starts; null when the drawing has no such region.</summary>
    public static (double X, double Y)? Anchor(string drawing, string region) =>
        Known.TryGetValue(drawing, out var v) && v.Regions.TryGetValue(region, out var p) ? p : null;

    /// <summary>A point on what the drawing of a machine shows of an assembly; null when it does not show it.</summary>
    public static (double X, double Y)? Anchor(Bay bay, Place assembly)
    {
        ArgumentNullException.ThrowIfNull(bay);
        ArgumentNullException.ThrowIfNull(assembly);
        return bay.Outline is { } own ? OwnOutlineDrawing.Anchor(own, assembly.Id) : Anchor(bay.Machine.Drawing, assembly.Region);
    }

    /// <summary>The side view of a machine, its team's own picture, or plain blocks on the ground line when it has neither.</summary>
    public static string Draw(Bay bay)
    {
        ArgumentNullException.ThrowIfNull(bay);
        return bay.Outline is { } own ? OwnOutlineDrawing.Draw(own, bay.OutlineStates, bay.Machine.Tin) : Draw(bay.Machine.Drawing, bay.Machine.Tin, bay.Regions, bay.Assemblies);
    }

    /// <summary>The side view by its key, or plain blocks on the ground line when there is none of that key.</summary>
    public static string Draw(string drawing, string tin, IReadOnlyDictionary<string, PartState> regions, IReadOnlyList<AssemblyLine> top)
    {
        ArgumentNullException.ThrowIfNull(regions);
        ArgumentNullException.ThrowIfNull(top);
        var livery = Tin(tin);
        return Known.TryGetValue(drawing, out var view)
            ? string.Concat(view.Strokes.Select(s =>
                s.Region.Length > 0 ? Zone(s.Path, regions.TryGetValue(s.Region, out var state) ? state : PartState.Fitted, livery)
                : s.Width > 0 ? Line(s.Path, s.Width)
                : $"<path d=\"{s.Path}\" fill=\"{Sheet}\" stroke=\"{Black}\"/>"))
            : Blocks(top, livery);
    }

    /// <summary>A region in words.</summary>
    public static string Word(string region) => region switch { "rad" => "radiator", "tin" => "tinwork", "cyl" => "cylinders", "under" => "underframe", _ => region };

    /// <summary>Numbers of the regions of a side view, in the order in which they are listed.</summary>
    public static string Numbers(SideView view)
    {
        ArgumentNullException.ThrowIfNull(view);
        return string.Concat(view.Regions.Values.Select((p, i) => $"<circle cx=\"{N(p.X)}\" cy=\"{N(p.Y)}\" r=\"7\" fill=\"{Sheet}\" stroke=\"{Black}\"/><text class=\"w6\" x=\"{N(p.X)}\" y=\"{N(p.Y + 3.4)}\" font-size=\"10\" text-anchor=\"middle\">{i + 1}</text>"));
    }

    private static string Blocks(IReadOnlyList<AssemblyLine> top, string livery)
    {
        var b = new StringBuilder(Line("M0 165H290", 2));
        var count = Math.Clamp(top.Count, 1, 12);
        var w = 280.0 / Math.Min(count, 6);
        for (var i = 0; i < count && i < top.Count; i++)
        {
            var x = 5 + (i % 6 * w);
            var y = 165 - (56 * ((i / 6) + 1));
            b.Append(Zone($"M{N(x)} {N(y)}H{N(x + w - 3)}V{N(y + 55)}H{N(x)}Z", top[i].State.State, livery));
        }

        return b.ToString();
    }

    /// <summary>A region.</summary>
    internal static Stroke Z(string region, string path) => new(region, path);

    /// <summary>A round region.</summary>
    internal static Stroke O(string region, double x, double y, double r) => new(region, Round(x, y, r));

    /// <summary>A line.</summary>
    internal static Stroke L(string path, double width = 1) => new(string.Empty, path, width);

    /// <summary>A piece without a state.</summary>
    internal static Stroke P(string path) => new(string.Empty, path);

    /// <summary>A round piece without a state.</summary>
    internal static Stroke Hub(double x, double y, double r) => new(string.Empty, Round(x, y, r));

    /// <summary>The ground.</summary>
    internal static Stroke Ground => L("M0 165H290", 2);

    // A circle of four arcs; 0.5523 of the radius is the usual handle for a quarter.
    private static string Round(double x, double y, double r)
    {
        var k = r * .5523;
        return $"M{N(x - r)} {N(y)}C{N(x - r)} {N(y - k)} {N(x - k)} {N(y - r)} {N(x)} {N(y - r)}C{N(x + k)} {N(y - r)} {N(x + r)} {N(y - k)} {N(x + r)} {N(y)}C{N(x + r)} {N(y + k)} {N(x + k)} {N(y + r)} {N(x)} {N(y + r)}C{N(x - k)} {N(y + r)} {N(x - r)} {N(y + k)} {N(x - r)} {N(y)}Z";
    }
}
