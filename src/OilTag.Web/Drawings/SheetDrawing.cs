using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>A survey sheet as cells with values and verdicts, and one of its lines as a profile.</summary>
public static class SheetDrawing
{
    public const int CellWidth = 44;
    public const int CellHeight = 41;
    private const int Left = 10;
    private const int Top = 30;
    private const int CentreGap = 6;

    /// <param name="a">The judged sheet.</param>
    /// <param name="line">Row to mark, from 1; nought marks none.</param>
    public static IHtmlContent Draw(SheetAnalysis a, int line)
    {
        ArgumentNullException.ThrowIfNull(a);
        var sheet = a.Sheet;
        var (rows, columns) = (sheet.Rows.Length, sheet.Columns.Length);
        var right = (int)Math.Ceiling(sheet.Rows.Max(r => Lettering.Width(r, 16)) + 16);
        var (width, height) = (Left + (columns * CellWidth) + right, Top + (rows * CellHeight) + (sheet.CentreAfterRow is null ? 0 : CentreGap) + 8);
        var unit = Unit.BySymbol(sheet.UnitSymbol)!;

        // Inches go without the nought before the point, as on a drawing, so that three places fit.
        var format = unit == Unit.Inch ? ".000" : unit == Unit.Millimetre ? "0.00" : "0.0";
        int X(int column) => Left + ((column - 1) * CellWidth);
        int Y(int row) => Top + ((row - 1) * CellHeight) + (sheet.CentreAfterRow is { } centre && row > centre ? CentreGap : 0);
        var b = new StringBuilder(256 + (rows * columns * 60));
        b.Append(CultureInfo.InvariantCulture, $"<svg class=\"cells\" width=\"{width}\" height=\"{height}\" viewBox=\"0 0 {width} {height}\" role=\"img\" aria-label=\"{T(Told(a))}\" data-x=\"{Left}\" data-y=\"{Top}\" data-gap=\"{CentreGap}\">");
        b.Append(CultureInfo.InvariantCulture, $"<rect width=\"{width}\" height=\"{height}\" fill=\"url(#graph)\" opacity=\".5\"/>");
        Ground(b, sheet, X, Y);
        var (values, bold, contour) = (new StringBuilder(), new StringBuilder(), new StringBuilder());
        bool Beyond(int r, int c) => r >= 1 && r <= rows && c >= 1 && c <= columns && a[r, c] is { Verdict: Verdict.Beyond, Count: > 0 };
        foreach (var c in a.Cells)
        {
            var (x, y) = (X(c.Column), Y(c.Row));
            if (c.Count == 0)
            {
                b.Append(CultureInfo.InvariantCulture, $"<rect x=\"{x + 4}\" y=\"{y + 4}\" width=\"{CellWidth - 8}\" height=\"{CellHeight - 8}\" fill=\"none\" stroke=\"{Black}\" stroke-dasharray=\"3 3\"/>");
                if (c.Said is { } told)
                {
                    // In brackets: told or assumed, not measured.
                    values.Append(CultureInfo.InvariantCulture, $"<text x=\"{x + (CellWidth / 2)}\" y=\"{y + 25}\" font-size=\"13\">({unit.FromSi(told).ToString(format, CultureInfo.InvariantCulture)})</text>");
                }

                continue;
            }

            if (c.Verdict == Verdict.Beyond)
            {
                b.Append(CultureInfo.InvariantCulture, $"<rect x=\"{x}\" y=\"{y}\" width=\"{CellWidth}\" height=\"{CellHeight}\" fill=\"{Wash}\"/><path d=\"M{x + CellWidth - 12} {y + CellHeight - 10}h9l-4.5 7.5z\" fill=\"{Oxide}\"/>");
                Edge(contour, Beyond, c.Row, c.Column, x, y);
            }
            else if (c.Verdict == Verdict.AtLimit)
            {
                b.Append(CultureInfo.InvariantCulture, $"<rect x=\"{x}\" y=\"{y}\" width=\"{CellWidth}\" height=\"{CellHeight}\" fill=\"url(#t-near)\"/><rect x=\"{x + 2}\" y=\"{y + 9}\" width=\"{CellWidth - 4}\" height=\"21\" fill=\"{Sheet}\"/><path d=\"M{x + CellWidth - 7.5} {y + CellHeight - 10}l4.5 7.5h-9z\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.1\"/>");
            }

            if (c.Odd)
            {
                b.Append(CultureInfo.InvariantCulture, $"<circle cx=\"{x + (CellWidth / 2)}\" cy=\"{y + 20}\" r=\"18\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.2\" stroke-dasharray=\"3 2\"/>");
            }

            (c.Verdict == Verdict.Beyond ? bold : values).Append(CultureInfo.InvariantCulture, $"<text x=\"{x + (CellWidth / 2)}\" y=\"{y + 25}\">{unit.FromSi(c.Worst).ToString(format, CultureInfo.InvariantCulture)}</text>");
        }

        b.Append(CultureInfo.InvariantCulture, $"<g class=\"v\" font-size=\"15\" text-anchor=\"middle\">{values}</g><g class=\"v\" font-size=\"15\" font-weight=\"700\" fill=\"{Oxide}\" text-anchor=\"middle\">{bold}</g>");
        b.Append(CultureInfo.InvariantCulture, $"<path d=\"{contour}\" fill=\"none\" stroke=\"{Oxide}\" stroke-width=\"3.2\" stroke-linecap=\"square\"/>");
        Names(b, sheet, X, Y, line);
        return new HtmlString(b.Append("<rect class=\"cursor\" width=\"44\" height=\"41\" fill=\"none\" visibility=\"hidden\"/></svg>").ToString());
    }

    /// <summary>The values along one row, with the size as built and the limit; null when the row has fewer than two.</summary>
    public static IHtmlContent? Profile(SheetAnalysis a, int row)
    {
        ArgumentNullException.ThrowIfNull(a);
        var sheet = a.Sheet;
        var points = Enumerable.Range(1, sheet.Columns.Length).Where(c => a[row, c] is { Count: > 0 }).Select(c => a[row, c]!).ToList();
        if (points.Count < 2)
        {
            return null;
        }

        var unit = Unit.BySymbol(sheet.UnitSymbol)!;
        var region = sheet.RegionAt(row, points[0].Column);
        var (nominal, limit) = (region?.Nominal, region?.LimitFor(a.Standard));
        var all = points.Select(p => p.Worst).Concat(new[] { nominal?.Si, limit?.Si }.OfType<double>()).ToList();
        var (low, high) = (all.Min(), all.Max());
        var margin = Math.Max((high - low) * 0.12, high * 1e-6);
        (low, high) = (low - margin, high + margin);
        var (width, shrinks) = (Left + (sheet.Columns.Length * CellWidth) + 20, VerdictRule.Shrinks(sheet.Feature));
        double X(int column) => Left + ((column - 0.5) * CellWidth);
        double Y(double v) => 10 + ((high - v) / (high - low) * 118);
        var (from, to) = (Left, Left + (sheet.Columns.Length * CellWidth));
        var worst = shrinks ? points.MinBy(p => p.Worst)! : points.MaxBy(p => p.Worst)!;
        var b = new StringBuilder($"<svg class=\"profile\" width=\"{width}\" height=\"146\" viewBox=\"0 0 {width} 146\" role=\"img\" aria-label=\"Row {T(sheet.Rows[row - 1])}: worst {T(MeasureFormat.In(worst.Worst, unit))} at {T(sheet.NameOf(row, worst.Column))}\">");
        b.Append(CultureInfo.InvariantCulture, $"<rect x=\"{from}\" y=\"10\" width=\"{to - from}\" height=\"118\" fill=\"url(#graph)\" opacity=\".5\"/><path d=\"M{from} 10V128H{to}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.2\"/>");
        if (limit is not null)
        {
            b.Append($"<path d=\"M{from} {N(Y(limit.Si))}H{to}V{(shrinks ? "128" : "10")}H{from}Z\" fill=\"url(#t-past)\"/><path d=\"M{from} {N(Y(limit.Si))}H{to}\" stroke=\"{Oxide}\" stroke-width=\"2.2\"/>");
        }

        if (nominal is not null)
        {
            b.Append($"<path d=\"M{from} {N(Y(nominal.Si))}H{to}\" stroke=\"{Black}\" stroke-dasharray=\"18 4 4 4\"/>");
        }

        b.Append($"<polyline points=\"{string.Join(' ', points.Select(p => $"{N(X(p.Column))},{N(Y(p.Worst))}"))}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"2\"/>");
        foreach (var p in points)
        {
            var (x, y) = (X(p.Column), Y(p.Worst));
            b.Append(p.Verdict == Verdict.Beyond
                ? $"<path d=\"M{N(x - 6)} {N(y - 5)}h12l-6 10z\" fill=\"{Oxide}\" stroke=\"{Sheet}\"/>"
                : $"<rect x=\"{N(x - 4)}\" y=\"{N(y - 4)}\" width=\"8\" height=\"8\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.6\"/>");
        }

        void Board(double y, string words, string colour)
        {
            var w = Lettering.Width(words, 15.5) + 8;
            b.Append($"<rect x=\"{from + 4}\" y=\"{N(y + 3)}\" width=\"{N(w)}\" height=\"20\" fill=\"{Sheet}\"/><text class=\"w6\" x=\"{from + 8}\" y=\"{N(y + 18)}\" font-size=\"15.5\" fill=\"{colour}\">{T(words)}</text>");
        }

        if (nominal is not null)
        {
            Board(Y(nominal.Si), "As built " + nominal.Text, Black);
            if (worst.LossPercent is > 0 && Math.Abs(Y(worst.Worst) - Y(nominal.Si)) > 40)
            {
                var x = worst.Column > sheet.Columns.Length * 0.7 ? X(worst.Column) - 34 : X(worst.Column) + 34;
                var words = MeasureFormat.In(Math.Abs(nominal.Si - worst.Worst), unit) + (shrinks ? " lost" : " worn");
                var w = Lettering.Width(words, 16) + 8;
                var at = x > width - w - 10 ? x - w - 6 : x + 6;
                b.Append($"<path d=\"M{N(x)} {N(Y(nominal.Si))}V{N(Y(worst.Worst))}\" stroke=\"{Black}\" marker-start=\"url(#ar)\" marker-end=\"url(#ar)\"/><rect x=\"{N(at)}\" y=\"{N(((Y(nominal.Si) + Y(worst.Worst)) / 2) - 12)}\" width=\"{N(w)}\" height=\"22\" fill=\"{Sheet}\"/><text class=\"w6\" x=\"{N(at + 4)}\" y=\"{N(((Y(nominal.Si) + Y(worst.Worst)) / 2) + 5)}\" font-size=\"16\">{T(words)}</text>");
            }
        }

        if (limit is not null)
        {
            Board(Y(limit.Si), "Limit " + limit.Text, Oxide);
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    private static string Told(SheetAnalysis a) =>
        $"{a.Sheet.Title}: {a.Sheet.Rows.Length} by {a.Sheet.Columns.Length} cells, {a.Count(Verdict.Beyond)} beyond limit, {a.Count(Verdict.AtLimit)} at limit, {a.Count(Verdict.Within)} within limits, {a.Unread} not read";

    // Lines between cells, and the heavy outline of the shape.
    private static void Ground(StringBuilder b, SurveySheet sheet, Func<int, int> x, Func<int, int> y)
    {
        var (lines, outline) = (new StringBuilder(), new StringBuilder());
        for (var r = 1; r <= sheet.Rows.Length; r++)
        {
            var (first, last) = (sheet.RowStarts.Length >= r ? sheet.RowStarts[r - 1] : 1, sheet.RowEnds.Length >= r ? sheet.RowEnds[r - 1] : sheet.Columns.Length);
            var w = (last - first + 1) * CellWidth;
            b.Append(CultureInfo.InvariantCulture, $"<rect x=\"{x(first)}\" y=\"{y(r)}\" width=\"{w}\" height=\"{CellHeight}\" fill=\"{Sheet}\"/>");
            lines.Append(CultureInfo.InvariantCulture, $"M{x(first)} {y(r)}h{w}M{x(first)} {y(r) + CellHeight}h{w}");
            for (var c = first + 1; c <= last; c++)
            {
                lines.Append(CultureInfo.InvariantCulture, $"M{x(c)} {y(r)}v{CellHeight}");
            }

            outline.Append(CultureInfo.InvariantCulture, $"M{x(first)} {y(r)}v{CellHeight}M{x(last) + CellWidth} {y(r)}v{CellHeight}");
            for (var c = first; c <= last; c++)
            {
                if (!sheet.Has(r - 1, c))
                {
                    outline.Append(CultureInfo.InvariantCulture, $"M{x(c)} {y(r)}h{CellWidth}");
                }

                if (!sheet.Has(r + 1, c))
                {
                    outline.Append(CultureInfo.InvariantCulture, $"M{x(c)} {y(r) + CellHeight}h{CellWidth}");
                }
            }
        }

        b.Append($"<path d=\"{lines}\" stroke=\"{Rule}\" stroke-width=\".7\"/><path d=\"{outline}\" stroke=\"{Black}\" stroke-width=\"3.4\" stroke-linecap=\"square\"/>");
    }

    private static void Edge(StringBuilder contour, Func<int, int, bool> beyond, int row, int column, int x, int y)
    {
        if (!beyond(row - 1, column))
        {
            contour.Append(CultureInfo.InvariantCulture, $"M{x} {y}h{CellWidth}");
        }

        if (!beyond(row + 1, column))
        {
            contour.Append(CultureInfo.InvariantCulture, $"M{x} {y + CellHeight}h{CellWidth}");
        }

        if (!beyond(row, column - 1))
        {
            contour.Append(CultureInfo.InvariantCulture, $"M{x} {y}v{CellHeight}");
        }

        if (!beyond(row, column + 1))
        {
            contour.Append(CultureInfo.InvariantCulture, $"M{x + CellWidth} {y}v{CellHeight}");
        }
    }

    private static void Names(StringBuilder b, SurveySheet sheet, Func<int, int> x, Func<int, int> y, int line)
    {
        b.Append("<g class=\"w6\" font-size=\"16\" text-anchor=\"middle\">");
        for (var c = 1; c <= sheet.Columns.Length; c++)
        {
            b.Append(CultureInfo.InvariantCulture, $"<text x=\"{x(c) + (CellWidth / 2)}\" y=\"20\">{T(sheet.Columns[c - 1])}</text>");
        }

        b.Append("</g><g class=\"w6\" font-size=\"16\">");
        var end = x(sheet.Columns.Length) + CellWidth + 10;
        for (var r = 1; r <= sheet.Rows.Length; r++)
        {
            b.Append(CultureInfo.InvariantCulture, $"<text x=\"{end}\" y=\"{y(r) + 26}\">{T(sheet.Rows[r - 1])}</text>");
            if (r == line)
            {
                b.Append(CultureInfo.InvariantCulture, $"<rect x=\"{end - 5}\" y=\"{y(r) + 6}\" width=\"{N(Lettering.Width(sheet.Rows[r - 1], 16) + 10)}\" height=\"28\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"2\"/>");
            }
        }

        b.Append("</g>");
        if (sheet.CentreAfterRow is { } centre && centre < sheet.Rows.Length)
        {
            var middle = y(centre) + CellHeight + (CentreGap / 2);
            b.Append(CultureInfo.InvariantCulture, $"<path d=\"M2 {middle}H{end}\" stroke=\"{Black}\" stroke-width=\"1.2\" stroke-dasharray=\"18 4 4 4\"/>");
        }
    }
}
