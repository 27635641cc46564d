using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Machines;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>A machine's side view with its breakdown projected beneath it: one column a top assembly, what hangs under it below.</summary>
public static class BreakdownDrawing
{
    private const double Width = 812;
    private const double Scale = 1.45;
    private const double ViewTop = -14;
    private const double FirstRow = 268;
    private const double RowHeight = 54;
    private const double BlockHeight = 49;

    /// <param name="bay">The machine with the states of its regions.</param>
    /// <param name="lines">All assemblies, each below its parent.</param>
    /// <param name="hung">Tags to hang on the side view, with the region each belongs to.</param>
    public static IHtmlContent Draw(Bay bay, IReadOnlyList<AssemblyLine> lines, IReadOnlyList<(string Region, int Number)> hung)
    {
        ArgumentNullException.ThrowIfNull(bay);
        ArgumentNullException.ThrowIfNull(lines);
        var m = bay.Machine;
        var livery = Tin(m.Tin);
        var columns = Columns(lines, m.Drawing);
        var rows = columns.Count == 0 ? 1 : columns.Max(c => c.Count);
        var height = FirstRow + (rows * RowHeight) + 6;
        var left = (Width - (290 * Scale)) / 2;
        double X(double v) => left + (v * Scale);
        double Y(double v) => ViewTop + (v * Scale);
        var b = new StringBuilder($"<svg viewBox=\"0 0 {N(Width)} {N(height)}\" role=\"group\" aria-label=\"{T(m.Name)}: side view and breakdown\">");
        b.Append($"<rect width=\"{N(Width)}\" height=\"{N(height)}\" fill=\"url(#graph)\" opacity=\".5\"/><text class=\"w6\" x=\"6\" y=\"22\" font-size=\"16\" fill=\"{Pencil}\">Side view, as it stands today</text>");
        b.Append($"<g transform=\"translate({N(left)} {N(ViewTop)}) scale({Scale.ToString(System.Globalization.CultureInfo.InvariantCulture)})\" aria-hidden=\"true\">{SideViews.Draw(m.Drawing, m.Tin, bay.Regions, bay.Assemblies)}</g>");
        var widths = Widths(columns);
        var x = 4.0;
        for (var i = 0; i < columns.Count; i++)
        {
            if (SideViews.Anchor(m.Drawing, columns[i][0].Place.Region) is { } anchor)
            {
                b.Append($"<path d=\"M{N(X(anchor.X))} {N(Y(168))}L{N(x + (widths[i] / 2))} {N(FirstRow - 3)}\" stroke=\"{Rule}\" stroke-width=\".9\" stroke-dasharray=\"5 3\"/>");
            }

            for (var row = 0; row < columns[i].Count; row++)
            {
                Block(b, columns[i][row], x, FirstRow + (row * RowHeight), widths[i] - 4, livery, row == 0);
            }

            x += widths[i];
        }

        Hang(b, m.Drawing, hung, X, Y);
        return new HtmlString(b.Append("</svg>").ToString());
    }

    /// <summary>One column a top assembly, in the order in which they lie along the machine, so that projection lines fan out and do not cross.</summary>
    private static List<List<AssemblyLine>> Columns(IReadOnlyList<AssemblyLine> lines, string drawing)
    {
        var columns = new List<List<AssemblyLine>>();
        foreach (var line in lines)
        {
            if (line.Depth == 0)
            {
                columns.Add([]);
            }

            if (columns.Count > 0)
            {
                columns[^1].Add(line);
            }
        }

        return [.. columns.OrderBy(c => SideViews.Anchor(drawing, c[0].Place.Region)?.X ?? double.MaxValue)];
    }

    private static double[] Widths(List<List<AssemblyLine>> columns)
    {
        // As wide as their words, then shared out so that the row is full; never over the sheet.
        var wanted = columns.Select(c => Math.Max(76, c.Max(l => Lettering.Width(l.Place.Name + (l.Place.Position is { } p ? " " + p : string.Empty), 16)) + 20)).ToArray();
        var sum = wanted.Sum();
        return [.. wanted.Select(w => w * (Width - 8) / sum)];
    }

    private static void Block(StringBuilder b, AssemblyLine line, double x, double y, double w, string livery, bool top)
    {
        var s = line.State;
        var solid = s.State == PartState.BackOn;
        var colour = solid ? Sheet : Stroke(s.State);
        var name = Lettering.Fit(line.Place.Name + (line.Place.Position is { } p ? $" {p}" : string.Empty), 16, w - 12);
        var hand = line.Place.Hand switch { Hand.Left => "L", Hand.Right => "R", _ => string.Empty };
        var indent = line.Depth > 1 ? 4 : 0;
        var fact = line.Tags == 0 ? string.Empty : $"{line.BackOn} of {line.Tags}";
        var factRoom = w - 34 - (hand.Length > 0 ? 22 : 0);
        fact = Lettering.Width(fact, 15.5) <= factRoom ? fact : string.Empty;
        b.Append($"<a href=\"/places/{line.Place.Id}\"><title>{T($"{line.Place.FullName}, {s.Word.ToLowerInvariant()}{(s.Detail.Length > 0 ? ", " + s.Detail : string.Empty)}, {line.BackOn} of {line.Tags} tagged parts back on")}</title><g aria-hidden=\"true\">");
        b.Append(Zone($"M{N(x + indent)} {N(y)}H{N(x + w)}V{N(y + BlockHeight)}H{N(x + indent)}Z", s.State, livery));
        if (top)
        {
            b.Append($"<path d=\"M{N(x)} {N(y)}H{N(x + w)}\" stroke=\"{Stroke(s.State)}\" stroke-width=\"3.4\"/>");
        }

        if (!solid && s.State is not (PartState.Fitted or PartState.Off or PartState.NotFound))
        {
            var words = Math.Max(Lettering.Width(name, 16), 20 + (hand.Length > 0 ? 24 : 0) + Lettering.Width(fact, 15.5)) + 8;
            b.Append($"<rect x=\"{N(x + indent + 4)}\" y=\"{N(y + 5)}\" width=\"{N(Math.Min(w - indent - 8, words))}\" height=\"40\" fill=\"{Sheet}\"/>");
        }

        var lineX = x + indent + 8;
        b.Append($"<g color=\"{colour}\"><svg x=\"{N(lineX)}\" y=\"{N(y + 7)}\" width=\"16\" height=\"16\" viewBox=\"0 0 20 20\"><use href=\"#m-{Shared.Say.Mark(s.State)}\"/></svg>");
        lineX += 21;
        if (hand.Length > 0)
        {
            b.Append($"<svg x=\"{N(lineX - 3)}\" y=\"{N(y + 7)}\" width=\"16\" height=\"16\" viewBox=\"0 0 20 20\"><use href=\"#m-{(hand == "L" ? "left" : "right")}\"/></svg>");
            b.Append($"<text class=\"ml\" x=\"{N(lineX + 14)}\" y=\"{N(y + 20)}\" font-size=\"15\" fill=\"{colour}\">{hand}</text>");
            lineX += 27;
        }

        b.Append($"</g><text class=\"w6\" x=\"{N(lineX)}\" y=\"{N(y + 20.5)}\" font-size=\"15.5\" fill=\"{(solid ? Sheet : s.State == PartState.Stuck ? Oxide : Pencil)}\">{T(fact)}</text>");
        b.Append($"<text class=\"w6\" x=\"{N(x + indent + 8)}\" y=\"{N(y + 40)}\" font-size=\"16\" fill=\"{colour}\">{T(name)}</text></g></a>");
    }

    private static void Hang(StringBuilder b, string drawing, IReadOnlyList<(string Region, int Number)> hung, Func<double, double> x, Func<double, double> y)
    {
        // Each tag hangs just above its point; a point too near the last one goes without, so that no tag lies over another.
        var points = hung.Select(h => (h.Number, At: SideViews.Anchor(drawing, h.Region))).Where(h => h.At is not null).OrderBy(h => h.At!.Value.X).ToList();
        var free = double.MinValue;
        foreach (var (number, at) in points)
        {
            var px = x(at!.Value.X);
            var py = y(at.Value.Y);
            var left = px + 10;
            if (left < free + 12)
            {
                continue;
            }

            free = left + 22 + Lettering.NumberWidth(number, 17);
            b.Append($"<g aria-hidden=\"true\">{Hung(px, py, left, Math.Max(4, py - 44), number)}</g>");
        }
    }
}
