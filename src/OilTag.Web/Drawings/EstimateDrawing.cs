using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>Estimates as dimension lines on one scale, the oldest on top, so that one sees how they grew.</summary>
public static class EstimateDrawing
{
    private const double Width = 770;
    private const double Left = 190;
    private const double Right = 70;
    private const double Row = 46;

    /// <summary>The words for a stage.</summary>
    public static string Stage(EstimateStage s) => s switch { EstimateStage.BeforeTeardown => "Before teardown", EstimateStage.AfterSurvey => "After survey", _ => "Underway" };

    /// <param name="rows">Name and range of each.</param>
    /// <param name="unit"><c>h</c> or <c>£</c>.</param>
    public static IHtmlContent Draw(IReadOnlyList<(string Name, Spread Spread)> rows, string unit)
    {
        ArgumentNullException.ThrowIfNull(rows);
        var most = Math.Max(rows.Max(r => r.Spread.High), 1e-9);
        double X(double v) => Left + (v / most * (Width - Left - Right));
        string Write(double v) => unit == "£" ? "£" + MeasureFormat.Number(v, 0) : MeasureFormat.Number(v, 0) + "\u00A0" + unit;
        var height = (rows.Count * Row) + 14;
        var told = string.Join("; ", rows.Select(r => $"{r.Name}: {Write(r.Spread.Low)} to {Write(r.Spread.High)}, likely {Write(r.Spread.Likely)}"));
        var b = new StringBuilder($"<svg class=\"profile\" width=\"{N(Width)}\" height=\"{N(height)}\" viewBox=\"0 0 {N(Width)} {N(height)}\" role=\"img\" aria-label=\"{T(told)}\">");
        b.Append($"<rect x=\"{N(Left)}\" y=\"2\" width=\"{N(Width - Left - Right)}\" height=\"{N(height - 4)}\" fill=\"url(#graph)\" opacity=\".5\"/><path d=\"M{N(Left)} 2V{N(height - 2)}\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
        foreach (var (row, i) in rows.Select((r, i) => (r, i)))
        {
            var y = 30 + (i * Row);
            var (low, likely, high) = (X(row.Spread.Low), X(row.Spread.Likely), X(row.Spread.High));
            var last = i == rows.Count - 1;
            b.Append($"<text class=\"w6\" x=\"0\" y=\"{N(y + 6)}\" font-size=\"16\"{(last ? " font-weight=\"700\"" : string.Empty)}>{T(row.Name)}</text>");
            b.Append($"<path d=\"M{N(low)} {N(y - 7)}v14M{N(high)} {N(y - 7)}v14M{N(low)} {N(y)}H{N(high)}\" stroke=\"{Black}\" stroke-width=\"1.2\"/><path d=\"M{N(likely)} {N(y - 9)}v18\" stroke=\"{Black}\" stroke-width=\"{(last ? "5" : "3.4")}\"/>");
            b.Append($"<text class=\"v\" x=\"{N(likely)}\" y=\"{N(y - 12)}\" font-size=\"15\" text-anchor=\"middle\">{T(Write(row.Spread.Likely))}</text>");
            b.Append($"<text class=\"v\" x=\"{N(high + 6)}\" y=\"{N(y + 5)}\" font-size=\"15\" fill=\"{Pencil}\">{T(Write(row.Spread.High))}</text>");
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }
}
