using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Survey;
using PdfSharp.Drawing;

namespace OilTag.Web.Reports;

/// <summary>The survey report of a machine: cover, surveys, findings with photos, first parts list and estimate, as PDF.</summary>
public static class SurveyReport
{
    /// <summary>Most photos of a report; the newest findings come first.</summary>
    public const int MostPhotos = 60;

    /// <summary>Most columns of a survey sheet that one table of the report takes; wider sheets run on in a second one.</summary>
    private const int MostColumns = 16;

    private static readonly CultureInfo British = CultureInfo.GetCultureInfo("en-GB");

    /// <summary>Makes the report.</summary>
    public static async Task<byte[]> MakeAsync(OilTagDb db, PhotoStore photos, Machine m, LocalDate today, DateTimeZone zone, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(photos);
        ArgumentNullException.ThrowIfNull(m);
        var places = await db.Places.AsNoTracking().Where(p => p.MachineId == m.Id).ToDictionaryAsync(p => p.Id, ct);
        var tree = PlaceTree.Of(places.Values);
        (RestorationStandard Standard, string SetBy) Holds(Guid place) => tree.StandardAt(place, m.Standard, m.Name);
        var findings = await db.Findings.AsNoTracking().Where(f => f.MachineId == m.Id).OrderByDescending(f => f.Number).ToListAsync(ct);
        var judged = findings.ConvertAll(f => (Finding: f, VerdictRule.Judge(f, Holds(f.PlaceId).Standard, Holds(f.PlaceId).SetBy).Verdict, Decided: f.DecidedOn(today)));
        var parts = await ConditionQuery.PartsAsync(db, m, today, ct);
        var (hours, pence, _) = await ConditionQuery.EstimateAsync(db, m.Id, today, ct);
        var (hoursNow, penceNow) = (EstimateRule.Now(hours, v => MeasureFormat.Number(v, 0) + " h"), EstimateRule.Now(pence, v => Money.Pounds((long)Math.Round(v / 100) * 100)));
        var day = today.ToString("d MMMM yyyy", British);
        using var pages = new ReportPages($"Survey report, {m.Name}", $"Survey report of {m.Name}, {day}. A record of what was found; the person licensed for the machine decides.");
        pages.Heading($"Survey report: {m.Name}", 34);
        pages.Text($"{m.What}, {m.Year}{(m.Serial.Length > 0 ? $", no. {m.Serial}" : string.Empty)}. Restored for {m.Standard}{(m.TargetDate.Length > 0 ? $", to {m.TargetDate}{(m.TargetVariant.Length > 0 ? ", " + m.TargetVariant : string.Empty)}" : string.Empty)}.", size: 13);
        pages.Text($"As of {day}.", size: 13);
        pages.Text($"{findings.Count} findings: {judged.Count(j => j.Verdict == Verdict.Beyond)} beyond their limit, {judged.Count(j => j.Verdict == Verdict.AtLimit)} at it; {judged.Count(j => j.Decided is null)} wait for a decision.");
        pages.Text($"Wanted: {parts.Count(p => p.Certainty == Certainty.Certain)} lines for certain, {parts.Count(p => p.Certainty == Certainty.Likely)} likely, {parts.Count(p => p.Certainty == Certainty.CannotTell)} that nobody can tell yet.");
        pages.Text($"Hours: {hoursNow.Working.Result}");
        pages.Text($"Money: {penceNow.Working.Result}");
        await MatricesAsync(db, pages, m, Holds, ct);
        await SheetsAsync(db, pages, m, Holds, ct);
        await FindingsAsync(db, photos, pages, judged, places, zone, ct);
        Parts(pages, parts);
        await EstimatesAsync(db, pages, m, hoursNow.Working, penceNow.Working, ct);
        return pages.Done();
    }

    private static async Task MatricesAsync(OilTagDb db, ReportPages pages, Machine m, Func<Guid, (RestorationStandard Standard, string SetBy)> holds, CancellationToken ct)
    {
        var matrices = await db.Matrices.AsNoTracking().Where(x => x.MachineId == m.Id).OrderBy(x => x.Number).ToListAsync(ct);
        var ids = matrices.ConvertAll(x => x.Id);
        var cells = (await db.MatrixCells.AsNoTracking().Where(c => ids.Contains(c.MatrixId)).ToListAsync(ct)).ToLookup(c => c.MatrixId);
        foreach (var x in matrices)
        {
            var (standard, setBy) = holds(x.PlaceId);
            var a = new MatrixAnalysis(x, cells[x.Id], standard, setBy);
            pages.Heading($"S{x.Number} {x.Title}", 20);
            pages.Text($"{x.On.ToString("d MMMM yyyy", British)}, judged for {standard}. {string.Join(" ", a.Positions.Select((p, i) => $"{x.NameOf(i + 1)}: {MatrixAnalysis.Word(p.Verdict).ToLowerInvariant()}."))}");
            for (var from = 1; from <= x.Positions.Count; from += MostColumns)
            {
                var across = Enumerable.Range(from, Math.Min(MostColumns, x.Positions.Count - from + 1)).ToList();
                pages.Table(
                    [x.PositionsAre, .. across.Select(p => x.Positions[p - 1].Name)], [2, .. across.Select(_ => 1.0)],
                    Enumerable.Range(1, x.Checks.Count).Select(c => (IReadOnlyList<string>)[x.Checks[c - 1].Name, .. across.Select(p => a.At(p, c) is { } cell ? Say(cell) : string.Empty)]), 8.5);
            }

            foreach (var c in x.Causes)
            {
                pages.Text($"Suspected over {x.NameOf(c.From)} to {x.Positions[c.To - 1].Name}: {c.Words}.");
            }
        }

        static string Say(JudgedCell c) => (c.Standing is null ? "-" : MatrixAnalysis.Word(c.Standing.Verdict)) + (c.Cell.Reading is { } r ? $" {r.Entered}" : string.Empty);
    }

    private static async Task SheetsAsync(OilTagDb db, ReportPages pages, Machine m, Func<Guid, (RestorationStandard Standard, string SetBy)> holds, CancellationToken ct)
    {
        // The newest survey of each thing; the earlier ones stand behind it in the record.
        var sheets = await db.Sheets.AsNoTracking().Where(s => s.MachineId == m.Id && !db.Sheets.Any(later => later.EarlierId == s.Id)).OrderBy(s => s.Number).ToListAsync(ct);
        foreach (var s in sheets)
        {
            var (standard, _) = holds(s.PlaceId);
            var a = SheetAnalysis.Of(s, await db.Readings.AsNoTracking().Where(r => r.SheetId == s.Id).ToListAsync(ct), standard);
            var unit = Unit.BySymbol(s.UnitSymbol)!;
            var format = unit == Unit.Inch ? "0.000" : unit == Unit.Millimetre ? "0.00" : "0.0";
            pages.Heading($"S{s.Number} {s.Title}", 20);
            pages.Text($"{s.On.ToString("d MMMM yyyy", British)}, judged for {standard}, in {unit.Symbol}. {a.Count(Verdict.Beyond)} cells beyond limit (marked !), {a.Count(Verdict.AtLimit)} at it (marked ~), {a.Count(Verdict.Within)} within, {a.Unread} not read. {s.Instrument}");
            foreach (var r in a.Regions.Where((r, i) => i == 0 || r.Cells > 0))
            {
                pages.Text($"{r.Region.Name}: {VerdictRule.Word(r.Verdict).ToLowerInvariant()}. {r.Rule}");
            }

            if (s.Rows.Length * s.Columns.Length > 1500)
            {
                pages.Text($"The sheet has {s.Rows.Length} rows and {s.Columns.Length} columns; its values are in the file survey-S{s.Number}.csv.");
                continue;
            }

            for (var from = 1; from <= s.Columns.Length; from += MostColumns)
            {
                var across = Enumerable.Range(from, Math.Min(MostColumns, s.Columns.Length - from + 1)).ToList();
                pages.Table(
                    [s.RowsAre, .. across.Select(c => s.Columns[c - 1])], [1.4, .. across.Select(_ => 1.0)],
                    Enumerable.Range(1, s.Rows.Length).Select(r => (IReadOnlyList<string>)[s.Rows[r - 1], .. across.Select(c => a[r, c] is { } cell ? Say(cell) : string.Empty)]), 8);
            }

            string Say(CellFacts c) => c.Said is { } said ? $"({unit.FromSi(said).ToString(format, CultureInfo.InvariantCulture)})"
                : c.Count == 0 ? "?" : unit.FromSi(c.Worst).ToString(format, CultureInfo.InvariantCulture) + c.Verdict switch { Verdict.Beyond => " !", Verdict.AtLimit => " ~", _ => string.Empty };
        }
    }

    private static async Task FindingsAsync(OilTagDb db, PhotoStore photos, ReportPages pages, List<(Finding Finding, Verdict Verdict, Disposition? Decided)> judged, Dictionary<Guid, Place> places, DateTimeZone zone, CancellationToken ct)
    {
        if (judged.Count == 0)
        {
            return;
        }

        pages.NewPage();
        pages.Heading("Findings", 26);
        pages.Table(
            ["Finding", "Place", "What was found", "Measured", "Verdict", "Decision"], [0.8, 1.7, 3.2, 1.2, 1.2, 1.2],
            judged.OrderBy(j => j.Decided is not null).ThenBy(j => j.Verdict switch { Verdict.Beyond => 0, Verdict.AtLimit => 1, Verdict.CannotTell => 2, _ => 3 }).ThenByDescending(j => j.Finding.Number).Select(j => (IReadOnlyList<string>)
            [
                $"F{j.Finding.Number}", places[j.Finding.PlaceId].FullName, j.Finding.What.TrimEnd('.') + (j.Finding.Cause.Length > 0 ? $". Suspected cause: {j.Finding.Cause}." : string.Empty),
                j.Finding.ReadingText ?? j.Finding.Evidence.ToString().ToLowerInvariant(), VerdictRule.Word(j.Verdict), j.Decided is { } d ? Dispositions.Word(d) : "Not decided",
            ]));
        var ids = judged.ConvertAll(j => j.Finding.Id);
        var taken = await db.Photos.AsNoTracking().Where(p => p.FindingId != null && ids.Contains(p.FindingId.Value)).OrderByDescending(p => p.At).Take(MostPhotos).ToListAsync(ct);
        if (taken.Count == 0)
        {
            return;
        }

        pages.Heading("Photos", 20);
        foreach (var p in taken)
        {
            var path = photos.PathOf(p.Id, small: true);
            if (File.Exists(path))
            {
                var f = judged.First(j => j.Finding.Id == p.FindingId).Finding;
                pages.Picture(await File.ReadAllBytesAsync(path, ct), $"F{f.Number}, {places[f.PlaceId].FullName}: {(p.Caption.Length > 0 ? p.Caption : f.What)} ({p.At.InZone(zone).Date.ToString("d MMMM yyyy", British)})", p.Marks.Count == 0 ? null : (g, scale) => Draw(g, scale, p), p.Width);
            }
        }
    }

    private static void Draw(XGraphics g, double scale, Photo photo)
    {
        var pen = new XPen(XColor.FromArgb(0x9C, 0x30, 0x19), 1.6);
        foreach (var m in photo.Marks)
        {
            var (x1, y1, x2, y2) = (m.X1 * scale, m.Y1 * scale, m.X2 * scale, m.Y2 * scale);
            switch (m.Kind)
            {
                case PhotoMarkKind.Circle:
                    g.DrawEllipse(pen, Math.Min(x1, x2), Math.Min(y1, y2), Math.Abs(x2 - x1), Math.Abs(y2 - y1));
                    break;
                case PhotoMarkKind.Arrow:
                    var angle = Math.Atan2(y2 - y1, x2 - x1);
                    g.DrawLine(pen, x1, y1, x2, y2);
                    g.DrawLine(pen, x2, y2, x2 - (8 * Math.Cos(angle + 0.45)), y2 - (8 * Math.Sin(angle + 0.45)));
                    g.DrawLine(pen, x2, y2, x2 - (8 * Math.Cos(angle - 0.45)), y2 - (8 * Math.Sin(angle - 0.45)));
                    break;
                default:
                    var font = new XFont(ReportFonts.Text, 9, XFontStyleEx.Bold);
                    var words = ReportFonts.Printable(m.Text);
                    var size = g.MeasureString(words, font);
                    g.DrawRectangle(XBrushes.White, x1, y1 - 9, size.Width + 4, 11);
                    g.DrawString(words, font, XBrushes.Black, x1 + 2, y1);
                    break;
            }
        }
    }

    private static void Parts(ReportPages pages, IReadOnlyList<WantedPart> parts)
    {
        pages.NewPage();
        pages.Heading("First parts list", 26);
        foreach (var (certainty, word) in new[] { (Certainty.Certain, "Certain"), (Certainty.Likely, "Likely"), (Certainty.CannotTell, "Cannot tell yet") })
        {
            var lines = parts.Where(p => p.Certainty == certainty).ToList();
            if (lines.Count > 0)
            {
                pages.Text(word, bold: true, size: 12);
                pages.Table(["What", "How many", "Where", "Why"], [2.6, 0.8, 2, 2.6], lines.Select(l => (IReadOnlyList<string>)[l.What, l.Quantity.ToString(British), l.Where, l.Why]));
            }
        }
    }

    private static async Task EstimatesAsync(OilTagDb db, ReportPages pages, Machine m, Core.Working hours, Core.Working money, CancellationToken ct)
    {
        pages.Heading("Estimate", 26);
        var kept = await db.Estimates.AsNoTracking().Where(e => e.MachineId == m.Id).OrderBy(e => e.On).ToListAsync(ct);
        if (kept.Count > 0)
        {
            pages.Table(
                ["When", "Hours: low, likely, high", "Pounds: low, likely, high", "It rests on"], [1.6, 2, 2, 2.4],
                kept.Select(e => (IReadOnlyList<string>)[$"{Drawings.EstimateDrawing.Stage(e.Stage)}, {e.On.ToString("d MMM yyyy", British)}", $"{e.HoursLow:0}, {e.HoursLikely:0}, {e.HoursHigh:0}", $"{Money.Pounds(e.CostLow)}, {Money.Pounds(e.CostLikely)}, {Money.Pounds(e.CostHigh)}", e.Basis]));
        }

        foreach (var (name, w) in new[] { ("Hours now", hours), ("Money now", money) })
        {
            pages.Text($"{name}: {w.Result}", bold: true);
            foreach (var step in w.Steps.Concat(w.Cautions))
            {
                pages.Text(step);
            }
        }

        pages.Text(hours.Source, size: 9);
    }
}
