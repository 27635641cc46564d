using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Bench.Sketches;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>Draws a sketch of the bench on the screen, to scale, as large as its column allows.</summary>
public static class SketchDrawing
{
    private const double Width = 270;
    private const double Height = 250;
    private const double Letters = 15;

    public static IHtmlContent Draw(Sketch sketch)
    {
        ArgumentNullException.ThrowIfNull(sketch);
        var (left, bottom, right, top) = sketch.Box;
        var scale = Math.Min(Width / Math.Max(right - left, 1e-9), Height / Math.Max(top - bottom, 1e-9));
        var laid = LaidSketch.Of(sketch, scale, Letters);
        const double around = 6;
        var (x, y) = (laid.Box.Left - around, laid.Box.Top - around);
        var b = new StringBuilder(string.Create(CultureInfo.InvariantCulture, $"<svg class=\"sketch\" viewBox=\"{x:0.#} {y:0.#} {laid.Box.Right - x + around:0.#} {laid.Box.Bottom - y + around:0.#}\" role=\"img\" aria-label=\"{T(sketch.Words)}\">"));
        b.Append("<defs><pattern id=\"cut\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\" patternTransform=\"rotate(45)\"><rect width=\"6\" height=\"6\" class=\"sk-ground\"/><path class=\"sk-hatch\" d=\"M0 0V6\"/></pattern></defs>");
        Body(b, laid, Letters);
        return new HtmlString(b.Append("</svg>").ToString());
    }

    /// <summary>The lines and words, in page units, with classes for their looks.</summary>
    internal static void Body(StringBuilder b, LaidSketch laid, double letters)
    {
        foreach (var mark in laid.Marks)
        {
            var look = mark.Stroke?.ToString().ToLowerInvariant() ?? "head";
            if (mark is LaidCircle c)
            {
                b.Append(CultureInfo.InvariantCulture, $"<circle class=\"sk-{look}\" cx=\"{c.X:0.###}\" cy=\"{c.Y:0.###}\" r=\"{c.Radius:0.###}\"/>");
            }
            else if (mark is LaidPath p)
            {
                b.Append(CultureInfo.InvariantCulture, $"<path class=\"sk-{look}{(p.Closed ? string.Empty : " sk-open")}\" d=\"M");
                b.AppendJoin('L', p.Points.Select(q => string.Create(CultureInfo.InvariantCulture, $"{q.X:0.###} {q.Y:0.###}"))).Append(p.Closed ? "Z\"/>" : "\"/>");
            }
        }

        foreach (var t in laid.Texts)
        {
            var turn = t.Upright ? string.Create(CultureInfo.InvariantCulture, $" transform=\"rotate(-90 {t.X:0.##} {t.Y:0.##})\"") : string.Empty;
            b.Append(CultureInfo.InvariantCulture, $"<text x=\"{t.X:0.##}\" y=\"{t.Y + (0.35 * letters):0.##}\" font-size=\"{letters:0.##}\" text-anchor=\"{(t.Anchor < 0 ? "start" : t.Anchor > 0 ? "end" : "middle")}\"{turn}>{T(t.Text)}</text>");
        }
    }
}
