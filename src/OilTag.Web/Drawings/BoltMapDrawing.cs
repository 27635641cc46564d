using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Strip;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>Which bolt belongs in which hole: holes clockwise from the top left round a plate, each with the letter of its bolt.</summary>
public static class BoltMapDrawing
{
    private const double Width = 320;
    private const double Height = 190;

    /// <summary>Draws the map; it shows the order of the holes and not where they truly lie.</summary>
    public static IHtmlContent Draw(IReadOnlyList<BoltHole> holes)
    {
        ArgumentNullException.ThrowIfNull(holes);
        var kinds = BoltMap.Kinds(holes);
        var letters = kinds.SelectMany(k => k.Holes.Select(h => (h, k.Letter))).ToDictionary(x => x.h, x => x.Letter);
        var r = Math.Clamp(150.0 / Math.Max(6, holes.Count) + 5, 6, 15);
        var words = string.Join("; ", kinds.Select(k => $"{k.Letter}, {k.Bolt}: {BoltMap.Words(k.Holes)}"));
        var b = new StringBuilder();
        b.Append(CultureInfo.InvariantCulture, $"<svg class=\"boltmap\" viewBox=\"0 0 {N(Width)} {N(Height)}\" role=\"img\" aria-label=\"{T("Bolt map. " + words)}\">");
        b.Append(CultureInfo.InvariantCulture, $"<rect x=\"18\" y=\"18\" width=\"{N(Width - 36)}\" height=\"{N(Height - 36)}\" rx=\"22\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.6\"/><rect x=\"58\" y=\"56\" width=\"{N(Width - 116)}\" height=\"{N(Height - 112)}\" rx=\"8\" fill=\"none\" stroke=\"{Rule}\"/>");
        foreach (var (hole, i) in holes.Select((h, i) => (h, i)))
        {
            var (x, y) = At((double)i / holes.Count);
            b.Append(CultureInfo.InvariantCulture, $"<circle cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"{N(r)}\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.6\"/>");
            b.Append(CultureInfo.InvariantCulture, $"<text class=\"w6\" x=\"{N(x)}\" y=\"{N(y + (r * .36))}\" text-anchor=\"middle\" font-size=\"{N(r * 1.05)}\">{T(letters[hole.Hole].ToString())}</text>");
            if (r >= 9)
            {
                var (tx, ty) = (x + (x < 60 ? r + 3 : x > Width - 60 ? -r - 3 : 0), y + (y < 60 ? r + 12 : y > Height - 60 ? -r - 4 : 4));
                b.Append(CultureInfo.InvariantCulture, $"<text x=\"{N(tx)}\" y=\"{N(ty)}\" text-anchor=\"{(x < 60 ? "start" : x > Width - 60 ? "end" : "middle")}\" font-size=\"11\" fill=\"{Pencil}\">{hole.Hole}</text>");
            }
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    // A point on the plate's edge, clockwise from the top left, by the share of the way round.
    private static (double X, double Y) At(double share)
    {
        const double Left = 36;
        const double Top = 36;
        var (w, h) = (Width - 72, Height - 72);
        var d = share * 2 * (w + h);
        return d < w ? (Left + d, Top)
            : d < w + h ? (Left + w, Top + d - w)
            : d < (2 * w) + h ? (Left + w - (d - w - h), Top + h)
            : (Left, Top + h - (d - (2 * w) - h));
    }
}
