using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Measures;
using OilTag.Core.Work;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>The readings of a step as they lie in the part, and one reading between its limits.</summary>
public static class ReadingDrawing
{
    private const int MostDrawn = 60;

    /// <summary>Positions in a row: filled when settled, a point down when beyond its limit, a ring round the one that is next.</summary>
    /// <param name="places">Positions of one reading.</param>
    /// <param name="now">Position that is next, or 0.</param>
    /// <param name="width">Width.</param>
    public static IHtmlContent Row(IReadOnlyList<ReadingPlace> places, int now, double width = 546)
    {
        ArgumentNullException.ThrowIfNull(places);
        var settled = places.Count(p => p.Settled);
        var beyond = places.Count(p => p.Reading is not null && !p.Settled);
        var told = $"{settled} of {places.Count} readings settled{(beyond > 0 ? $", {beyond} beyond the limit" : string.Empty)}{(now > 0 ? $", {now} is next" : string.Empty)}";
        if (places.Count > MostDrawn)
        {
            return new HtmlString($"<svg width=\"{N(width)}\" height=\"32\" viewBox=\"0 0 {N(width)} 32\" role=\"img\" aria-label=\"{T(told)}\"><path d=\"M1 8H{N(width - 1)}V24H1Z\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.4\"/><path d=\"M1 8H{N(1 + ((width - 2) * settled / places.Count))}V24H1Z\" fill=\"{Black}\"/></svg>");
        }

        var first = places[0].Position.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var last = places[^1].Position.ToString(System.Globalization.CultureInfo.InvariantCulture);
        var (left, right) = (Lettering.Width(first, 15) + 8, width - Lettering.Width(last, 15) - 8);
        var step = (right - left) / places.Count;
        var r = Math.Clamp(step * 0.32, 2.5, 6.4);
        var b = new StringBuilder($"<svg width=\"{N(width)}\" height=\"32\" viewBox=\"0 0 {N(width)} 32\" role=\"img\" aria-label=\"{T(told)}\"><path d=\"M{N(left)} 2H{N(right)}V30H{N(left)}Z\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.4\"/><path d=\"M{N(left)} 16H{N(right)}\" stroke=\"{Black}\" stroke-width=\".8\" stroke-dasharray=\"18 4 4 4\"/>");
        foreach (var (p, i) in places.Select((p, i) => (p, i)))
        {
            var x = left + (step * (i + 0.5));
            b.Append(p.Reading is not null && !p.Settled
                ? $"<path d=\"M{N(x - r - 2)} {N(16 - r)}H{N(x + r + 2)}L{N(x)} {N(16 + r + 2)}Z\" fill=\"{Oxide}\"/>"
                : p.Settled ? $"<circle cx=\"{N(x)}\" cy=\"16\" r=\"{N(r)}\" fill=\"{Black}\"/>"
                : p.Position == now ? $"<circle cx=\"{N(x)}\" cy=\"16\" r=\"{N(Math.Min(11, r + 4.6))}\" fill=\"#fff\" stroke=\"{Black}\" stroke-width=\"3\"/>" + (step > 15 ? $"<text class=\"st\" x=\"{N(x)}\" y=\"21\" font-size=\"{(now > 99 ? 10 : 14)}\" text-anchor=\"middle\">{now}</text>" : string.Empty)
                : $"<circle cx=\"{N(x)}\" cy=\"16\" r=\"{N(r - 0.6)}\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
        }

        return new HtmlString(b.Append($"<text x=\"0\" y=\"21\" font-size=\"15\" class=\"w6\">{first}</text><text x=\"{N(width)}\" y=\"21\" font-size=\"15\" class=\"w6\" text-anchor=\"end\">{last}</text></svg>").ToString());
    }

    /// <summary>A value between its limits, with those that were read before.</summary>
    /// <param name="wanted">The reading.</param>
    /// <param name="before">Values read before, SI.</param>
    /// <param name="value">The one that was typed.</param>
    /// <param name="position">Its position.</param>
    /// <param name="width">Width.</param>
    public static IHtmlContent Scale(WantedReading wanted, IReadOnlyList<double> before, Measure value, int position, double width = 366)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(value);
        var unit = (wanted.Low ?? wanted.High)!.Unit;
        double[] ends = [.. new[] { wanted.Low?.Si, wanted.High?.Si, value.Si }.OfType<double>()];
        var (min, max) = (ends.Concat(before).Min(), ends.Concat(before).Max());
        var pad = Math.Max((max - min) * 0.3, Math.Abs(max) * 1e-4);
        (min, max) = (min - pad, max + pad);
        double X(double si) => 4 + ((si - min) / (max - min) * (width - 8));
        var (low, high) = (wanted.Low is { } l ? X(l.Si) : 4, wanted.High is { } h ? X(h.Si) : width - 4);
        var at = X(value.Si);
        var told = $"{value.Entered} at {position}; the limit is {StepLines.Words(wanted)}";
        var b = new StringBuilder($"<svg class=\"scale\" width=\"{N(width)}\" height=\"62\" viewBox=\"0 0 {N(width)} 62\" role=\"img\" aria-label=\"{T(told)}\">");
        b.Append($"<path d=\"M4 20H{N(width - 4)}V38H4Z\" fill=\"url(#t-past)\"/><path d=\"M{N(low)} 18H{N(high)}V40H{N(low)}Z\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"2.4\"/>");
        foreach (var v in before)
        {
            b.Append($"<path d=\"M{N(X(v) - 2.5)} 26.5h5v5h-5Z\" fill=\"{Black}\"/>");
        }

        b.Append($"<path d=\"M{N(at - 8)} 4H{N(at + 8)}L{N(at)} 17Z\" fill=\"{Oxide}\"/><path d=\"M{N(at)} 16V40\" stroke=\"{Oxide}\" stroke-width=\"2\"/>");
        var taken = new List<(double From, double To)>();
        foreach (var (x, words, c) in new[] { (at, MeasureFormat.In(value.Si, unit), Oxide),
            (low, wanted.Low is { } lo ? MeasureFormat.In(lo.Si, unit) : string.Empty, Black),
            (high, wanted.High is { } hi ? MeasureFormat.In(hi.Si, unit) : string.Empty, Black) })
        {
            // A number that another one would cover is left to the words above.
            var w = words.Length * 8.4;
            var from = Math.Clamp(x - (w / 2), 0, width - w);
            if (words.Length > 0 && taken.TrueForAll(t => from > t.To + 4 || from + w < t.From - 4))
            {
                b.Append($"<text class=\"v\" x=\"{N(from)}\" y=\"57\" font-size=\"14\" fill=\"{c}\">{T(words)}</text>");
                taken.Add((from, from + w));
            }
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }
}
