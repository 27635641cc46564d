using OilTag.Core.Machines;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>Draws a team's own picture into the box of the side views, 290 × 170, on the ground at 165.</summary>
public static class OwnOutlineDrawing
{
    private const double Width = 290;
    private const double Height = 163;

    /// <summary>Where the picture lies in the box.</summary>
    public static (double X, double Y, double Width, double Height) Box(Outline o)
    {
        ArgumentNullException.ThrowIfNull(o);
        var scale = Math.Min(Width / o.Width, Height / o.Height);
        return ((Width - (o.Width * scale)) / 2, Height - (o.Height * scale), o.Width * scale, o.Height * scale);
    }

    /// <summary>The picture with its regions.</summary>
    public static string Draw(Outline own, IReadOnlyDictionary<Guid, PartState> states, string tin)
    {
        ArgumentNullException.ThrowIfNull(own);
        ArgumentNullException.ThrowIfNull(states);
        var (x, y, w, h) = Box(own);
        var livery = Tin(tin);
        return Line("M0 165H290", 2)
            + $"<image href=\"/outlines/{own.Id}\" x=\"{N(x)}\" y=\"{N(y)}\" width=\"{N(w)}\" height=\"{N(h)}\" preserveAspectRatio=\"xMidYMid meet\"/>"
            + string.Concat(own.Regions.Select(r =>
            {
                var state = states.TryGetValue(r.PlaceId, out var s) ? s : PartState.Fitted;

                // What is fitted is the picture itself; a state that fills lets it shine through.
                var zone = Zone(Path(r.Points, x, y, w, h), state, livery);
                return state == PartState.Fitted ? zone.Replace($"fill=\"{Sheet}\"", "fill=\"none\"", StringComparison.Ordinal) : $"<g fill-opacity=\".62\">{zone}</g>";
            }));
    }

    /// <summary>A region as a path in the box.</summary>
    public static string Path(IReadOnlyList<double> points, double x, double y, double w, double h)
    {
        ArgumentNullException.ThrowIfNull(points);
        return string.Concat(Enumerable.Range(0, points.Count / 2).Select(i => $"{(i == 0 ? "M" : "L")}{N(x + (points[2 * i] * w / 100))} {N(y + (points[(2 * i) + 1] * h / 100))}")) + "Z";
    }

    /// <summary>The middle of the first region of an assembly in the box; null when it has none.</summary>
    public static (double X, double Y)? Anchor(Outline o, Guid placeId)
    {
        ArgumentNullException.ThrowIfNull(o);
        if (o.Regions.FirstOrDefault(r => r.PlaceId == placeId) is not { } region)
        {
            return null;
        }

        var (x, y, w, h) = Box(o);
        var xs = region.Points.Where((_, i) => i % 2 == 0).ToList();
        var ys = region.Points.Where((_, i) => i % 2 == 1).ToList();
        return (x + ((xs.Min() + xs.Max()) / 200 * w), y + ((ys.Min() + ys.Max()) / 200 * h));
    }
}
