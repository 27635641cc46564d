using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Measures;
using OilTag.Core.Torque;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>
/// A group of bolts as it lies, each with the number that is chalked on it, which is its place in the order. What is done shows twice: by strokes and by a texture.
/// Only the one to do now stands out.
/// </summary>
public static class TorqueDrawing
{
    private const double Size = 600;

    /// <summary>The group, to scale.</summary>
    /// <param name="group">The group.</param>
    /// <param name="stand">How far it is.</param>
    /// <param name="link">Address of a bolt's readings by its number; null for none.</param>
    /// <param name="photo">The photo under own points with its size in pixels; null for none.</param>
    public static IHtmlContent Group(BoltGroup group, TorqueStand stand, Func<int, string>? link = null,
        (Guid Id, int Width, int Height)? photo = null)
    {
        ArgumentNullException.ThrowIfNull(group);
        ArgumentNullException.ThrowIfNull(stand);
        var circle = group.Shape == BoltShape.Circle;
        var (points, height) = photo is { Width: > 0 } picture ? OnPhoto(group, picture.Width, picture.Height) : Placed(group);
        var near = Nearest(points);
        var r = Math.Clamp(near * 0.24, 9, 24);
        var disc = Math.Clamp(near * 0.42, 22, 50);
        var said = stand.Done ? "all done" : stand.Over is { } o ? $"{group.Noun} {o.Number} is over"
            : $"{group.Noun} {stand.Number} is next, pass {stand.Pass} of {group.Passes.Count}";
        var b = new StringBuilder($"<svg class=\"bolts\" viewBox=\"0 0 {N(Size)} {N(height)}\" role=\"{(link is null ? "img" : "group")}\" aria-label=\"{T($"{group.Count} {group.Noun}s of {group.Name}: {said}")}\">");
        if (photo is { Width: > 0 } under)
        {
            b.Append($"<image href=\"/photos/{under.Id}\" x=\"0\" y=\"0\" width=\"{N(Size)}\" height=\"{N(height)}\" preserveAspectRatio=\"none\"/><rect width=\"{N(Size)}\" height=\"{N(height)}\" fill=\"{Sheet}\" opacity=\".35\"/>");
        }
        else
        {
            Outline(b, group, points, height, circle);
        }

        foreach (var (position, number) in group.Order.Select((p, i) => (p, i + 1)))
        {
            var (x, y) = points[position - 1];
            Bolt(b, group, stand, number, x, y, r, disc, circle, height, link);
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    /// <summary>A nut with the mark of a pass, for the list of passes.</summary>
    /// <param name="pass">The pass, from 1.</param>
    /// <param name="passes">How many there are.</param>
    public static IHtmlContent Mark(int pass, int passes)
    {
        var strokes = string.Concat(Enumerable.Range(0, Math.Min(pass, 5)).Select(i =>
            $"M{N(22 - ((Math.Min(pass, 5) - 1) * 3) + (i * 6))} 2V14"));
        return new HtmlString($"<svg width=\"44\" height=\"60\" viewBox=\"0 0 44 60\" aria-hidden=\"true\"><path d=\"{strokes}\" stroke=\"{Black}\" stroke-width=\"2.6\"/>{Nut(22, 38, 19, Fill(pass, passes))}</svg>");
    }

    /// <summary>The reading on its way: an arrow from nought, the band that is right, and cross lines beyond it.</summary>
    /// <param name="target">What is wanted.</param>
    /// <param name="within">How far from it is right.</param>
    /// <param name="si">The reading, in the SI unit; null for none.</param>
    public static IHtmlContent Line(Measure target, Measure within, double? si)
    {
        ArgumentNullException.ThrowIfNull(target);
        ArgumentNullException.ThrowIfNull(within);
        const double W = 380;
        var most = target.Si * 1.28;
        double X(double v) => 6 + (Math.Clamp(v, 0, most) / most * (W - 12));
        var (low, high) = (X(target.Si - within.Si), X(target.Si + within.Si));
        var (lowWords, highWords) = (Number(target.Si - within.Si, target.Unit), Number(target.Si + within.Si, target.Unit));
        var at = si is { } v ? X(v) : 6;
        var told = si is { } reading ? $"{MeasureFormat.In(reading, target.Unit)} of {MeasureFormat.In(target.Si, target.Unit)}"
            : $"{lowWords} to {highWords} {target.UnitSymbol} is right";
        return new HtmlString($"<svg class=\"pullline\" viewBox=\"0 0 {N(W)} 92\" role=\"img\" aria-label=\"{T(told)}\">"
            + $"<path d=\"M{N(high)} 30H{N(W - 6)}V62H{N(high)}Z\" fill=\"url(#t-past)\" stroke=\"{Oxide}\"/><path d=\"M{N(low)} 30H{N(high)}V62H{N(low)}Z\" fill=\"#fff\"/>"
            + $"<path d=\"M{N(low)} 24V68M{N(high)} 24V68\" stroke=\"{Black}\" stroke-width=\"4\"/><path d=\"M6 36V56\" stroke=\"{Black}\" stroke-width=\"1.4\"/>"
            + (si is null ? string.Empty
                : $"<path d=\"M6 46H{N(Math.Max(8, at - 10))}\" stroke=\"{Black}\" stroke-width=\"5\"/><path d=\"M{N(Math.Max(8, at - 12))} 36L{N(Math.Max(20, at))} 46L{N(Math.Max(8, at - 12))} 56Z\" fill=\"{Black}\"/>")
            + $"<text class=\"v\" x=\"{N(low - 3)}\" y=\"18\" font-size=\"17\" text-anchor=\"end\">{lowWords}</text><text class=\"v\" x=\"{N(high + 3)}\" y=\"18\" font-size=\"17\">{highWords}</text>"
            + $"<text x=\"6\" y=\"86\" font-size=\"16\" fill=\"{Pencil}\">{T(target.UnitSymbol)}</text><text class=\"w6\" x=\"{N(low - 3)}\" y=\"86\" font-size=\"16\" text-anchor=\"end\">within</text>"
            + $"<text class=\"w6\" x=\"{N(high + 5)}\" y=\"86\" font-size=\"16\" fill=\"{Oxide}\">slacken</text></svg>");
    }

    /// <summary>At most one decimal: as fine as a wrench reads.</summary>
    public static string Number(double si, Unit unit)
    {
        ArgumentNullException.ThrowIfNull(unit);
        return Math.Round(unit.FromSi(si), 1, MidpointRounding.AwayFromZero).ToString("0.#", CultureInfo.InvariantCulture);
    }

    private static (IReadOnlyList<(double X, double Y)> Points, double Height) Placed(BoltGroup group)
    {
        var points = TorqueOrder.PointsOf(group);
        var reach = Math.Max(points.Max(p => Math.Abs(p.Y)), 0.12);
        var half = group.Shape == BoltShape.Circle ? 236 : 244;
        var height = group.Shape == BoltShape.Circle ? Size : (2 * reach * half) + 150;
        return ([.. points.Select(p => ((Size / 2) + (p.X * half), (height / 2) + (p.Y * half)))], height);
    }

    // Points were set as shares of the photo.
    private static (IReadOnlyList<(double X, double Y)> Points, double Height) OnPhoto(BoltGroup group, int width, int height)
    {
        var high = Size * height / width;
        return ([.. group.Points.Select(p => ((p.X + 1) / 2 * Size, (p.Y + 1) / 2 * high))], high);
    }

    private static void Outline(StringBuilder b, BoltGroup group, IReadOnlyList<(double X, double Y)> points, double height, bool circle)
    {
        if (circle)
        {
            b.Append($"<path d=\"{Circle(300, 300, 284)}\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"3\"/><path d=\"{Circle(300, 300, 236)}\" fill=\"none\" stroke=\"{Rule}\" stroke-dasharray=\"18 5 3 5\"/>");
        }
        else
        {
            b.Append($"<rect x=\"6\" y=\"20\" width=\"{N(Size - 12)}\" height=\"{N(height - 40)}\" rx=\"16\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"3\"/>");
            if (group.Shape is BoltShape.Mains or BoltShape.Rods)
            {
                // Each pair belongs to one cap.
                for (var i = 0; i < group.Count / 2; i++)
                {
                    var (a, c) = (points[i], points[i + (group.Count / 2)]);
                    b.Append($"<path d=\"M{N(a.X)} {N(a.Y)}V{N(c.Y)}\" stroke=\"{Rule}\" stroke-width=\"18\" stroke-linecap=\"round\"/>");
                }
            }
        }
    }

    private static void Bolt(StringBuilder b, BoltGroup group, TorqueStand stand, int number, double x, double y, double r, double disc,
        bool circle, double height, Func<int, string>? link)
    {
        var mark = stand.Marks[number - 1];
        var word = string.Empty;
        var (ux, uy) = circle ? ((x - 300) / 236, (y - 300) / 236) : (0, y < height / 2 ? -1.0 : 1.0);
        if (link is not null)
        {
            b.Append($"<a href=\"{T(link(number))}\" aria-label=\"{T($"{group.Noun} {number}: readings")}\"><circle cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"38\" fill=\"transparent\"/>");
        }

        if (number == stand.Number)
        {
            var over = stand.Over?.Number == number;
            var c = over ? Oxide : Black;
            b.Append($"<circle cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"{N(disc)}\" fill=\"{c}\"/><circle cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"{N(disc + 4)}\" fill=\"none\" stroke=\"{c}\" stroke-width=\"3.4\"{(over ? " stroke-dasharray=\"4 3\"" : string.Empty)}/>");
            if (over)
            {
                b.Append($"<path d=\"M{N(x - 9)} {N(y - disc - 22)}h18l-9 14Z\" fill=\"{Oxide}\"/>");
            }

            b.Append($"<text class=\"st\" x=\"{N(x)}\" y=\"{N(y + (disc * 0.44))}\" font-size=\"{N(disc * 1.25)}\" text-anchor=\"middle\" fill=\"{Manila}\">{number}</text>");
        }
        else if (number == stand.Next && stand.Over is null)
        {
            var ring = disc * 0.74;
            b.Append($"<circle cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"{N(ring)}\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"2\" stroke-dasharray=\"5 4\"/><text class=\"st\" x=\"{N(x)}\" y=\"{N(y + (ring * 0.4))}\" font-size=\"{N(ring)}\" text-anchor=\"middle\" fill=\"{Pencil}\">{number}</text>");
            word = $"<text class=\"w6\" x=\"{N(x - (ux * (ring + 24)))}\" y=\"{N(y - (uy * (ring + 18)) + 5)}\" font-size=\"17\" text-anchor=\"middle\">next</text>";
        }
        else
        {
            b.Append(Nut(x, y, r, mark == 0 ? Sheet : Fill(mark, group.Passes.Count)));
            var (sx, sy) = (x + (ux * (r + 4)), y + (uy * (r + 4)));
            for (var i = 0; i < Math.Min(mark, 5); i++)
            {
                // Strokes stand side by side, out from the middle.
                var side = ((Math.Min(mark, 5) - 1) / -2.0) + i;
                var (ox, oy) = (-uy * side * 6, ux * side * 6);
                b.Append($"<path d=\"M{N(sx + ox)} {N(sy + oy)}L{N(sx + ox + (ux * 15))} {N(sy + oy + (uy * 15))}\" stroke=\"{Black}\" stroke-width=\"2.6\"/>");
            }

            var size = Math.Clamp(r * 1.15, 14, 28);
            b.Append($"<text class=\"st\" x=\"{N(x - (ux * (r + size)))}\" y=\"{N(y - (uy * (r + (size * 0.75))) + (size * 0.36))}\" font-size=\"{N(size)}\" text-anchor=\"middle\">{number}</text>");
        }

        if (link is not null)
        {
            b.Append("</a>");
        }

        b.Append(word);
    }

    private static string Fill(int pass, int passes) => pass == passes ? Black : pass == 1 ? "url(#t-ready)" : "url(#t-loose)";

    private static string Nut(double x, double y, double r, string fill) =>
        $"<path d=\"M{string.Join('L', Enumerable.Range(0, 6).Select(i => $"{N(x + (r * Math.Sin(Math.PI * i / 3)))} {N(y - (r * Math.Cos(Math.PI * i / 3)))}"))}Z\" fill=\"{fill}\" stroke=\"{Black}\" stroke-width=\"1.6\"/>";

    private static double Nearest(IReadOnlyList<(double X, double Y)> points)
    {
        var near = double.MaxValue;
        for (var i = 0; i < points.Count; i++)
        {
            for (var j = 0; j < i; j++)
            {
                near = Math.Min(near, Math.Sqrt(Math.Pow(points[i].X - points[j].X, 2) + Math.Pow(points[i].Y - points[j].Y, 2)));
            }
        }

        return near;
    }
}
