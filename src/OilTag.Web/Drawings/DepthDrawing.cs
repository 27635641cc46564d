using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>What the drawing of a machine shows.</summary>
public sealed record DepthView
{
    /// <summary>The machine with the states of its regions.</summary>
    public required Bay Bay { get; init; }

    /// <summary>Blocks of the section.</summary>
    public required IReadOnlyList<DepthGroup> Groups { get; init; }

    /// <summary>The state of a slot, with its tag number where it has one.</summary>
    public required Func<Guid, (StateWords State, int? Number)> StateOf { get; init; }

    /// <summary>Tags to hang on the side view, with the assembly each belongs to.</summary>
    public IReadOnlyList<(Place Place, int Number)> Hung { get; init; } = [];

    /// <summary>The chosen slot; null when none is.</summary>
    public Guid? Chosen { get; init; }

    /// <summary>The one assembly at the top whose section is drawn; null for all of them.</summary>
    public Guid? Only { get; init; }

    /// <summary>How large it is drawn: 1 as it comes, 0 to fit its frame.</summary>
    public double Zoom { get; init; } = 1;

    /// <summary>What the address of a chosen block carries on: <c>&amp;of=…&amp;zoom=…</c>, or an empty string.</summary>
    public string Carry { get; init; } = string.Empty;

    /// <summary>What comes off to reach it, in order.</summary>
    public IReadOnlyList<Guid> WayIn { get; init; } = [];

    /// <summary>What would be buried if the chosen part went on now.</summary>
    public IReadOnlySet<Guid> Buried { get; init; } = new HashSet<Guid>();
}

/// <summary>A machine's side view, and beneath it a section from the outside in: down is deeper, and what lies above a part comes off first.</summary>
public static class DepthDrawing
{
    private const double Scale = 1.45;
    private const double ViewTop = -14;
    private const double TopRow = 268;
    private const double TopHeight = 49;
    private const double FirstRow = TopRow + TopHeight + 6;
    private const double RowHeight = 62;
    private const double BlockHeight = 56;
    private const double Leaf = 88;
    private const double Least = 812;

    public static IHtmlContent Draw(DepthView v)
    {
        ArgumentNullException.ThrowIfNull(v);
        var bay = v.Bay;
        var m = bay.Machine;
        var livery = Tin(m.Tin);
        var columns = bay.Assemblies.Where(a => v.Only is null || a.Place.Id == v.Only).OrderBy(a => SideViews.Anchor(bay, a.Place)?.X ?? double.MaxValue).ToList();
        var groups = v.Only is { } one ? [.. v.Groups.Where(g => Root(g).TopId == one)] : v.Groups;
        var children = groups.Where(g => g.Over is not null).ToLookup(g => g.Over!);
        var roots = groups.Where(g => g.Over is null).ToLookup(g => g.TopId);
        double Leaves(DepthGroup g) => children[g].Any() ? children[g].Sum(Leaves) : 1;
        var wanted = columns.Select(c => Math.Max(Math.Max(76, Lettering.Width(c.Place.Name, 16) + 20), roots[c.Place.Id].Sum(Leaves) * Leaf)).ToList();
        var width = Math.Max(Least, wanted.Sum() + 60);
        var stretch = (width - 60) / wanted.Sum();
        var rows = groups.Count == 0 ? 0 : groups.Max(g => g.Depth) + 1;
        var height = FirstRow + (rows * RowHeight) + 8;
        const double left = 26;
        double X(double x) => left + (x * Scale);
        double Y(double y) => ViewTop + (y * Scale);
        var b = new StringBuilder($"<svg class=\"depth{(v.Zoom == 0 ? " fit" : string.Empty)}\" width=\"{N(width * (v.Zoom == 0 ? 1 : v.Zoom))}\" viewBox=\"0 0 {N(width)} {N(height)}\" role=\"group\" aria-label=\"{T(m.Name)}: side view, and section from the outside in\">");
        b.Append($"<rect width=\"{N(width)}\" height=\"{N(height)}\" fill=\"url(#graph)\" opacity=\".5\"/><text class=\"w6\" x=\"{N(left + (290 * Scale) + 12)}\" y=\"22\" font-size=\"16\" fill=\"{Pencil}\">Side view, as it stands today</text>");
        b.Append($"<g transform=\"translate({N(left)} {N(ViewTop)}) scale({Scale.ToString(System.Globalization.CultureInfo.InvariantCulture)})\" aria-hidden=\"true\">{SideViews.Draw(bay)}</g>");
        var at = new Dictionary<DepthGroup, (double X, double Width)>();
        var x = 4.0;
        for (var i = 0; i < columns.Count; i++)
        {
            var w = wanted[i] * stretch;
            if (SideViews.Anchor(bay, columns[i].Place) is { } anchor)
            {
                b.Append($"<path d=\"M{N(X(anchor.X))} {N(Y(168))}L{N(x + (w / 2))} {N(TopRow - 3)}\" stroke=\"{Rule}\" stroke-width=\".9\" stroke-dasharray=\"5 3\"/>");
            }

            Top(b, columns[i], x, w - 4, livery);
            var share = roots[columns[i].Place.Id].Sum(Leaves);
            var from = x;
            foreach (var g in roots[columns[i].Place.Id])
            {
                Place(g, from, (w * Leaves(g) / Math.Max(1, share)), children, Leaves, at);
                from += w * Leaves(g) / Math.Max(1, share);
            }

            x += w;
        }

        for (var row = 0; row < rows; row++)
        {
            b.Append($"<text class=\"w6\" x=\"{N(width - 52)}\" y=\"{N(FirstRow + (row * RowHeight) + 33)}\" font-size=\"15\" fill=\"{Pencil}\">{(row == 0 ? "Outside" : $"{row} deep")}</text>");
        }

        foreach (var (g, (gx, gw)) in at)
        {
            Block(b, v, g, gx, FirstRow + (g.Depth * RowHeight), gw - 4, livery);
        }

        Way(b, v, at);
        HangTags(b, bay, v.Hung, X, Y);
        return new HtmlString(b.Append("</svg>").ToString());
    }

    // A block hangs in the column of what lies outermost over it.
    private static DepthGroup Root(DepthGroup g)
    {
        while (g.Over is { } over)
        {
            g = over;
        }

        return g;
    }

    private static void Place(DepthGroup g, double x, double width, ILookup<DepthGroup, DepthGroup> children, Func<DepthGroup, double> leaves, Dictionary<DepthGroup, (double, double)> at)
    {
        at[g] = (x, width);
        var sum = children[g].Sum(leaves);
        foreach (var c in children[g])
        {
            var w = width * leaves(c) / sum;
            Place(c, x, w, children, leaves, at);
            x += w;
        }
    }

    private static void Top(StringBuilder b, AssemblyLine line, double x, double w, string livery)
    {
        var s = line.State;
        var solid = s.State == PartState.BackOn;
        var colour = solid ? Sheet : Stroke(s.State);
        var fact = line.Tags == 0 ? string.Empty : $"{line.BackOn} of {line.Tags}";
        b.Append($"<a href=\"/places/{line.Place.Id}\"><title>{T($"{line.Place.FullName}, {s.Word.ToLowerInvariant()}{(s.Detail.Length > 0 ? ", " + s.Detail : string.Empty)}, {line.BackOn} of {line.Tags} tagged parts back on")}</title><g aria-hidden=\"true\">");
        b.Append(Zone($"M{N(x)} {N(TopRow)}H{N(x + w)}V{N(TopRow + TopHeight)}H{N(x)}Z", s.State, livery));
        b.Append($"<path d=\"M{N(x)} {N(TopRow)}H{N(x + w)}\" stroke=\"{Stroke(s.State)}\" stroke-width=\"3.4\"/>");
        Board(b, s.State, x, TopRow, w, Math.Max(Lettering.Width(line.Place.Name, 16), 24 + Lettering.Width(fact, 15.5)), TopHeight);
        b.Append($"<g color=\"{colour}\">{Mark(s.State, x + 8, TopRow + 7)}</g><text class=\"w6\" x=\"{N(x + 29)}\" y=\"{N(TopRow + 20.5)}\" font-size=\"15.5\" fill=\"{(solid ? Sheet : Pencil)}\">{T(Lettering.Fit(fact, 15.5, w - 34))}</text>");
        b.Append($"<text class=\"w6\" x=\"{N(x + 8)}\" y=\"{N(TopRow + 40)}\" font-size=\"16\" fill=\"{colour}\">{T(Lettering.Fit(line.Place.Name, 16, w - 12))}</text></g></a>");
    }

    private static string Mark(PartState s, double x, double y) => $"<svg x=\"{N(x)}\" y=\"{N(y)}\" width=\"16\" height=\"16\" viewBox=\"0 0 20 20\"><use href=\"#m-{Shared.Say.Mark(s)}\"/></svg>";

    // Words stand on a plain board where the fill would make them hard to read.
    private static void Board(StringBuilder b, PartState s, double x, double y, double w, double words, double height)
    {
        if (s is not (PartState.BackOn or PartState.Fitted or PartState.Off or PartState.NotFound))
        {
            b.Append($"<rect x=\"{N(x + 4)}\" y=\"{N(y + 4)}\" width=\"{N(Math.Min(w - 8, words + 10))}\" height=\"{N(height - 8)}\" fill=\"{Sheet}\"/>");
        }
    }

    private static void Block(StringBuilder b, DepthView v, DepthGroup g, double x, double y, double w, string livery)
    {
        var states = g.Slots.Select(s => (Slot: s, v.StateOf(s).State, v.StateOf(s).Number)).OrderBy(s => s.State.State).ToList();
        var (slot, state, number) = states[0];
        var solid = state.State == PartState.BackOn;
        var colour = solid ? Sheet : Stroke(state.State);
        var chosen = v.Chosen is { } c && g.Slots.Contains(c);
        var buried = g.Slots.Any(v.Buried.Contains);
        var at = chosen ? v.Chosen!.Value : slot;
        var name = g.Slots.Count == 1 ? g.Name : $"{g.Name} × {g.Slots.Count}";
        var words = $"{(number is { } n ? n + " " : string.Empty)}{name}, {state.Word.ToLowerInvariant()}{(state.Detail.Length > 0 ? ", " + state.Detail : string.Empty)}, {(g.Depth == 0 ? "outside" : g.Depth + " deep")}{(chosen ? ", chosen" : string.Empty)}{(buried ? ", would be buried" : string.Empty)}";
        b.Append($"<a href=\"/machines/{v.Bay.Machine.Letter}?at={at}{v.Carry}\"{(chosen ? " data-chosen" : string.Empty)}><title>{T(words)}</title><g aria-hidden=\"true\">");
        b.Append(Zone($"M{N(x)} {N(y)}H{N(x + w)}V{N(y + BlockHeight)}H{N(x)}Z", state.State, livery));
        var line = Lettering.Fit(name, 15.5, w - 12);
        var numberWidth = number is { } k ? Lettering.NumberWidth(k, 16) + 6 : 0;
        Board(b, state.State, x, y, w, Math.Max(Lettering.Width(line, 15.5), numberWidth + 18), BlockHeight);
        if (number is { } tag)
        {
            b.Append($"<text class=\"st\" x=\"{N(x + 7)}\" y=\"{N(y + 22)}\" font-size=\"16\" fill=\"{colour}\">{tag}</text>");
        }

        b.Append($"<g color=\"{colour}\">{Mark(state.State, x + 7 + numberWidth, y + 8)}</g>");
        var room = w - numberWidth - 36;
        var place = state.State is PartState.Fitted or PartState.BackOn ? string.Empty : state.Detail;
        if (room > 30)
        {
            b.Append($"<text class=\"w6\" x=\"{N(x + numberWidth + 28)}\" y=\"{N(y + 21)}\" font-size=\"15\" fill=\"{(state.State == PartState.Stuck ? Oxide : Pencil)}\">{T(Lettering.Width(place, 15) <= room ? place : string.Empty)}</text>");
        }

        b.Append($"<text class=\"w6\" x=\"{N(x + 7)}\" y=\"{N(y + 45)}\" font-size=\"15.5\" fill=\"{colour}\">{T(line)}</text>");
        if (buried)
        {
            b.Append($"<rect x=\"{N(x + 1)}\" y=\"{N(y + 1)}\" width=\"{N(w - 2)}\" height=\"{N(BlockHeight - 2)}\" fill=\"none\" stroke=\"{Oxide}\" stroke-width=\"3\" stroke-dasharray=\"12 3 2 3\"/>");
        }

        if (chosen)
        {
            b.Append($"<rect x=\"{N(x + 1.7)}\" y=\"{N(y + 1.7)}\" width=\"{N(w - 3.4)}\" height=\"{N(BlockHeight - 3.4)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"3.4\"/>");
        }

        b.Append("</g></a>");
    }

    // From outside down to the chosen block, with a numbered disc on each block that still has to come off.
    private static void Way(StringBuilder b, DepthView v, Dictionary<DepthGroup, (double X, double Width)> at)
    {
        if (v.Chosen is not { } chosen || at.Keys.FirstOrDefault(g => g.Slots.Contains(chosen)) is not { } target || target.Depth == 0)
        {
            return;
        }

        var (tx, tw) = at[target];
        var x = tx + (tw / 2);
        b.Append($"<g aria-hidden=\"true\"><path d=\"M{N(x)} {N(FirstRow - 4)}V{N(FirstRow + (target.Depth * RowHeight) - 2)}\" stroke=\"{Black}\" stroke-width=\"5\" fill=\"none\"/><path d=\"M{N(x - 8)} {N(FirstRow + (target.Depth * RowHeight) - 11)}L{N(x)} {N(FirstRow + (target.Depth * RowHeight))}L{N(x + 8)} {N(FirstRow + (target.Depth * RowHeight) - 11)}Z\" fill=\"{Black}\"/>");
        foreach (var (g, (gx, gw)) in at)
        {
            var step = v.WayIn.Select((s, i) => (s, i)).Where(p => g.Slots.Contains(p.s)).Select(p => p.i + 1).ToList();
            if (step.Count > 0)
            {
                var cx = gx <= x && x <= gx + gw ? x : gx + gw - 20;
                var cy = FirstRow + (g.Depth * RowHeight) + (BlockHeight / 2);
                b.Append($"<circle cx=\"{N(cx)}\" cy=\"{N(cy)}\" r=\"14\" fill=\"{Black}\" stroke=\"{Sheet}\" stroke-width=\"1.5\"/><text class=\"w6\" x=\"{N(cx)}\" y=\"{N(cy + 6)}\" font-size=\"17\" text-anchor=\"middle\" fill=\"{Sheet}\">{step[0]}</text>");
            }
        }

        b.Append("</g>");
    }

    // Each tag hangs just above its point; a point too near the last one goes without, so that no tag lies over another.
    private static void HangTags(StringBuilder b, Bay bay, IReadOnlyList<(Place Place, int Number)> hung, Func<double, double> x, Func<double, double> y)
    {
        var points = hung.Select(h => (h.Number, At: SideViews.Anchor(bay, h.Place))).Where(h => h.At is not null).OrderBy(h => h.At!.Value.X).ToList();
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
