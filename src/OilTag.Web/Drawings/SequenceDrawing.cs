using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Strip;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>
/// The reassembly as a drawing: parts stand on a line in the order in which they go on, left to right and row by row, and an arc leads to each one from the part
/// that it waited for.
/// </summary>
public static class SequenceDrawing
{
    private const double Width = 1220;
    private const int PerRow = 8;
    private const double Step = (Width - 20) / PerRow;
    private const double RowHeight = 116;
    private const double BlockHeight = 76;

    public static IHtmlContent Draw(Machine machine, IReadOnlyList<RefitStep> steps, Access access, IReadOnlyDictionary<Guid, (TagFacts Tag, StateWords State)> tags)
    {
        ArgumentNullException.ThrowIfNull(machine);
        ArgumentNullException.ThrowIfNull(steps);
        ArgumentNullException.ThrowIfNull(access);
        ArgumentNullException.ThrowIfNull(tags);
        var rows = (steps.Count + PerRow - 1) / PerRow;
        var height = (rows * RowHeight) + 8;
        var livery = Tin(machine.Tin);
        var at = new Dictionary<Guid, (double X, double Y)>();
        for (var i = 0; i < steps.Count; i++)
        {
            at[steps[i].Slot] = (10 + (i % PerRow * Step), 34 + (i / PerRow * RowHeight));
        }

        var b = new StringBuilder($"<svg class=\"sequence\" viewBox=\"0 0 {N(Width)} {N(height)}\" role=\"group\" aria-label=\"{T(machine.Name)}: the order in which parts go on\">");
        b.Append($"<rect width=\"{N(Width)}\" height=\"{N(height)}\" fill=\"url(#graph)\" opacity=\".5\"/>");
        foreach (var s in steps)
        {
            if (s.Last is { } last && at.TryGetValue(last, out var from) && Math.Abs(from.Y - at[s.Slot].Y) < 1)
            {
                Arc(b, from, at[s.Slot]);
            }
        }

        foreach (var s in steps)
        {
            Block(b, s, at[s.Slot], access, tags.TryGetValue(s.Slot, out var t) ? t : null, s.Last is { } last ? steps.FirstOrDefault(x => x.Slot == last)?.Step : null, livery);
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    // Over the heads of the parts between; a part in another row is named in the block and not drawn to.
    private static void Arc(StringBuilder b, (double X, double Y) from, (double X, double Y) to)
    {
        var x1 = from.X + (Step * 0.72);
        var x2 = to.X + (Step * 0.2);
        var lift = Math.Min(30, 12 + (Math.Abs(x2 - x1) / 40));
        b.Append($"<path d=\"M{N(x1)} {N(from.Y)}C{N(x1)} {N(from.Y - lift)} {N(x2)} {N(to.Y - lift)} {N(x2)} {N(to.Y - 2)}\" fill=\"none\" stroke=\"{Pencil}\" stroke-width=\"1.3\" marker-end=\"url(#ar)\"/>");
    }

    private static void Block(StringBuilder b, RefitStep s, (double X, double Y) p, Access access, (TagFacts Tag, StateWords State)? tag, int? after, string livery)
    {
        var state = tag?.State ?? new StateWords(PartState.Fitted, s.Again ? "On, comes off again" : "Empty", string.Empty);
        var w = Step - 12;
        var name = access.Name(s.Slot);
        var link = tag is { } t ? $"/t/{t.Tag.Number}" : $"/places/{s.Slot}";
        b.Append($"<a href=\"{link}\"><title>{T($"{s.Step}: {(tag is { } x ? x.Tag.Number + " " : string.Empty)}{name}, {state.Word.ToLowerInvariant()}")}</title><g aria-hidden=\"true\">");
        b.Append(Zone($"M{N(p.X)} {N(p.Y)}H{N(p.X + w)}V{N(p.Y + BlockHeight)}H{N(p.X)}Z", state.State, livery));
        b.Append($"<rect x=\"{N(p.X + 3)}\" y=\"{N(p.Y + 3)}\" width=\"{N(w - 6)}\" height=\"{N(BlockHeight - 6)}\" fill=\"{Sheet}\"/>");
        b.Append($"<circle cx=\"{N(p.X + 15)}\" cy=\"{N(p.Y + 16)}\" r=\"11\" fill=\"{Black}\"/><text class=\"w6\" x=\"{N(p.X + 15)}\" y=\"{N(p.Y + 21)}\" font-size=\"15\" text-anchor=\"middle\" fill=\"{Sheet}\">{s.Step}</text>");
        b.Append($"<g color=\"{Stroke(state.State)}\"><svg x=\"{N(p.X + w - 22)}\" y=\"{N(p.Y + 8)}\" width=\"16\" height=\"16\" viewBox=\"0 0 20 20\"><use href=\"#m-{Shared.Say.Mark(state.State)}\"/></svg></g>");
        if (tag is { } numbered)
        {
            b.Append($"<text class=\"st\" x=\"{N(p.X + 32)}\" y=\"{N(p.Y + 22)}\" font-size=\"16\" fill=\"{Black}\">{numbered.Tag.Number}</text>");
        }

        b.Append($"<text class=\"w6\" x=\"{N(p.X + 7)}\" y=\"{N(p.Y + 46)}\" font-size=\"15\" fill=\"{Black}\">{T(Lettering.Fit(name, 15, w - 14))}</text>");
        var waits = after is { } step ? $"after {step}" : s.Last is { } last ? $"after {access.Name(last)}" : s.Again ? "off again first" : string.Empty;
        b.Append($"<text x=\"{N(p.X + 7)}\" y=\"{N(p.Y + 66)}\" font-size=\"15\" fill=\"{Pencil}\">{T(Lettering.Fit(waits, 15, w - 14))}</text></g></a>");
    }
}
