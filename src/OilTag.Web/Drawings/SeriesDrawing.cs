using System.Text;
using Microsoft.AspNetCore.Html;
using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>Readings of a check point over minutes or over days, with its limits.</summary>
public static class SeriesDrawing
{
    private const double Width = 760;
    private const double Height = 250;
    private const double Left = 84;
    private const double Right = 20;
    private const double Top = 14;
    private const double Foot = 34;

    /// <summary>One run.</summary>
    public static IHtmlContent OverMinutes(CheckPoint point, IReadOnlyList<PointReading> run)
    {
        ArgumentNullException.ThrowIfNull(run);
        return Draw(point, run, r => r.Minutes ?? 0, x => MeasureFormat.Number(x, 0), "minutes");
    }

    /// <summary>One value a day.</summary>
    public static IHtmlContent OverDays(CheckPoint point, IReadOnlyList<PointReading> dated)
    {
        ArgumentNullException.ThrowIfNull(dated);
        var first = dated[0].On;
        return Draw(point, dated, r => Period.DaysBetween(first, r.On), x => first.PlusDays((int)x).ToString("MMM yyyy", System.Globalization.CultureInfo.GetCultureInfo("en-GB")), string.Empty);
    }

    private static IHtmlContent Draw(CheckPoint point, IReadOnlyList<PointReading> readings, Func<PointReading, double> at, Func<double, string> name, string unitOfX)
    {
        var unit = point.Limits.Unit;
        var (low, high, nominal) = (point.Limits.Low?.Si, point.Limits.High?.Si, point.Limits.Nominal?.Si);
        var all = readings.Select(r => r.Value.Si).Concat(new[] { low, high, nominal }.OfType<double>()).ToList();
        var (bottom, top) = (all.Min(), all.Max());
        var margin = Math.Max((top - bottom) * 0.12, Math.Max(Math.Abs(top), 1e-9) * 1e-4);
        (bottom, top) = (bottom - margin, top + margin);
        var (from, to) = (at(readings[0]), at(readings[^1]));
        double X(double v) => Left + (to > from ? (v - from) / (to - from) * (Width - Left - Right) : 0);
        double Y(double v) => Top + ((top - v) / (top - bottom) * (Height - Top - Foot));
        var (x0, x1, y0, y1) = (N(Left), N(Width - Right), N(Top), N(Height - Foot));
        bool Out(double v) => v < low || v > high;
        var b = new StringBuilder($"<svg class=\"profile\" width=\"{N(Width)}\" height=\"{N(Height)}\" viewBox=\"0 0 {N(Width)} {N(Height)}\" role=\"img\" aria-label=\"{T($"{point.Title}: {readings.Count} readings, {readings[0].Value.Entered} first, {readings[^1].Value.Entered} last, {readings.Count(r => Out(r.Value.Si))} outside the limits")}\">");
        b.Append($"<rect x=\"{x0}\" y=\"{y0}\" width=\"{N(Width - Left - Right)}\" height=\"{N(Height - Top - Foot)}\" fill=\"url(#graph)\" opacity=\".5\"/>");
        void Limit(double? si, bool above, string words)
        {
            if (si is { } v)
            {
                b.Append($"<path d=\"M{x0} {N(Y(v))}H{x1}V{(above ? y0 : y1)}H{x0}Z\" fill=\"url(#t-past)\"/><path d=\"M{x0} {N(Y(v))}H{x1}\" stroke=\"{Oxide}\" stroke-width=\"2.2\"/>");
                Board(b, Y(v) + (above ? -23 : 3), words + " " + (above ? point.Limits.High! : point.Limits.Low!).Entered, Oxide);
            }
        }

        Limit(high, true, "Not above");
        Limit(low, false, "Not below");
        if (nominal is { } n)
        {
            b.Append($"<path d=\"M{x0} {N(Y(n))}H{x1}\" stroke=\"{Black}\" stroke-dasharray=\"18 4 4 4\"/>");
            Board(b, Y(n) - 23, "As built " + point.Limits.Nominal!.Entered, Black);
        }

        b.Append($"<path d=\"M{x0} {y0}V{y1}H{x1}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
        b.Append($"<polyline points=\"{string.Join(' ', readings.Select(r => $"{N(X(at(r)))},{N(Y(r.Value.Si))}"))}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"2\"/>");
        foreach (var r in readings)
        {
            var (x, y) = (X(at(r)), Y(r.Value.Si));
            b.Append(Out(r.Value.Si)
                ? $"<path d=\"M{N(x - 6)} {N(y - 5)}h12l-6 10z\" fill=\"{Oxide}\" stroke=\"{Sheet}\"/>"
                : $"<rect x=\"{N(x - 4)}\" y=\"{N(y - 4)}\" width=\"8\" height=\"8\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.6\"/>");
        }

        b.Append($"<g class=\"v\" font-size=\"15\" text-anchor=\"end\">");
        foreach (var v in new[] { readings.Max(r => r.Value.Si), readings.Min(r => r.Value.Si) }.Distinct())
        {
            b.Append($"<text x=\"{N(Left - 6)}\" y=\"{N(Y(v) + 5)}\">{T(MeasureFormat.In(v, unit))}</text>");
        }

        b.Append("</g><g class=\"v\" font-size=\"15\">");
        var ticks = to > from ? Enumerable.Range(0, 5).Select(i => from + ((to - from) * i / 4)).ToList() : [from];
        foreach (var (x, i) in ticks.Select((x, i) => (x, i)))
        {
            var anchor = i == 0 ? "start" : i == ticks.Count - 1 ? "end" : "middle";
            b.Append($"<path d=\"M{N(X(x))} {y1}v6\" stroke=\"{Black}\"/><text x=\"{N(X(x))}\" y=\"{N(Height - 10)}\" text-anchor=\"{anchor}\">{T(name(x) + (i == ticks.Count - 1 && unitOfX.Length > 0 ? " " + unitOfX : string.Empty))}</text>");
        }

        return new HtmlString(b.Append("</g></svg>").ToString());
    }

    private static void Board(StringBuilder b, double y, string words, string colour)
    {
        var w = Lettering.Width(words, 15.5) + 8;
        b.Append($"<rect x=\"{N(Left + 4)}\" y=\"{N(y)}\" width=\"{N(w)}\" height=\"20\" fill=\"{Sheet}\"/><text class=\"w6\" x=\"{N(Left + 8)}\" y=\"{N(y + 15)}\" font-size=\"15.5\" fill=\"{colour}\">{T(words)}</text>");
    }
}
