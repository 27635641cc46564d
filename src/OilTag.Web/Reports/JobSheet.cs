using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Cautions;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Torque;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Drawings;
using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace OilTag.Web.Reports;

/// <summary>What stands on a job sheet.</summary>
/// <param name="Package">The package with its steps.</param>
/// <param name="Machine">The machine.</param>
/// <param name="Place">The place.</param>
/// <param name="Cautions">Cautions that fit it.</param>
/// <param name="Tags">Tags of its parts with where they lie.</param>
/// <param name="Bolts">Bolts of its steps.</param>
/// <param name="From">Papers and tools that it names: drawings with their revision, where torques come from, wrenches.</param>
public sealed record JobSheetFacts(
    WorkPackage Package,
    Machine Machine,
    string Place,
    IReadOnlyList<Caution> Cautions,
    IReadOnlyList<(int Number, string Name, string Where)> Tags,
    IReadOnlyDictionary<Guid, BoltGroup> Bolts,
    IReadOnlyList<string> From);

/// <summary>The job sheet on A4, to be written on beside the work: black on white, for a laser and a copier.</summary>
public static class JobSheet
{
    private const double Left = 10;
    private const double Width = 190;
    private const double Bottom = 272;

    // Where the columns of the steps begin, millimetres from the left edge.
    private const double AtStep = 21;
    private const double AtRight = 101;
    private const double AtWrite = 134;
    private const double AtDone = 164;
    private const double AtWho = 176;

    /// <summary>The number of the steps on a sheet, as typed or read by the camera: 4, 63-4 or OT W63-4; 0 when it is no sheet of that package.</summary>
    public static int Revision(string? text, int package)
    {
        var typed = (text ?? string.Empty).Trim().ToUpperInvariant();
        foreach (var before in new[] { "OT", "W" })
        {
            typed = typed.StartsWith(before, StringComparison.Ordinal) ? typed[before.Length..].TrimStart() : typed;
        }

        static int? Whole(string t) => t.Length <= 9 && int.TryParse(t, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n
            : null;
        return typed.Split('-') switch
        {
            [var revision] => Whole(revision) ?? 0,
            [var number, var revision] when Whole(number) == package => Whole(revision) ?? 0,
            _ => 0,
        };
    }

    /// <summary>Loads what stands on the sheet of a package; null when there is no such package.</summary>
    public static async Task<JobSheetFacts?> LoadAsync(OilTagDb db, int number, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var found = await (
            from k in db.Packages.AsNoTracking().Include(k => k.Operations)
            join p in db.Places on k.PlaceId equals p.Id
            join m in db.Machines on k.MachineId equals m.Id
            where k.Number == number
            select new
            {
                k,
                p,
                m,
                Finding = db.Findings.Where(f => f.Id == k.FindingId).Select(f => (int?)f.Number).FirstOrDefault(),
                Card = db.RouteCards.Where(c => c.PackageId == k.Id).Select(c => (int?)c.Number).FirstOrDefault(),
                Bolts = db.BoltGroups.Where(g => k.Operations.Any(o => o.Id == g.OperationId)).ToList(),
            }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return null;
        }

        var package = found.k;
        var above = (await PlaceWrites.TreeAsync(db, found.m.Id, ct)).PathUp(found.p.Id);
        var path = above.Select(n => n.Name).ToList();
        var at = above.Select(n => (Guid?)n.Id).ToList();
        var drawings = await db.Drawings.AsNoTracking().Where(d => d.MachineId == found.m.Id && at.Contains(d.PlaceId))
            .OrderBy(d => d.Number).ThenBy(d => d.Sheet).Take(8).ToListAsync(ct);
        var open = package.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order);
        var cautions = CautionRules.At(found.m.Kind, found.m.Year, path,
            [package.Title, found.p.Name, .. open.SelectMany(o => new[] { o.Name, o.Note })]);
        var (tag, place) = (package.TagId, found.p.Id);
        var tags = await (
            from t in db.Tags
            join s in db.Places on t.SlotId equals s.Id
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId into cs
            from c in cs.DefaultIfEmpty()
            where t.End == null && (t.Id == tag || t.SlotId == place || s.ParentId == place)
            orderby t.Number
            select new { t.Number, s.Name, s.Hand, s.Position, Where = (string?)c.Where }).Take(12).ToListAsync(ct);
        var ids = found.Bolts.Select(b => b.ToolId).OfType<Guid>().ToList();
        var tools = ids.Count == 0 ? [] : await db.MeasuringTools.AsNoTracking().Where(t => ids.Contains(t.Id)).OrderBy(t =>
            t.Name).ToListAsync(ct);
        List<string> from =
        [
            .. found.Finding is { } f ? [$"Finding F{f}"] : Array.Empty<string>(),
            .. found.Card is { } card ? [$"Route card R{card}"] : Array.Empty<string>(),
            .. drawings.Select(d => $"Drawing {d.Number}{(d.Sheet.Length > 0 ? $" sheet {d.Sheet}" : string.Empty)}{(d.Revision.Length > 0 ? $", rev {d.Revision}" : ", no revision said")}"
                + $"{(DrawingRule.Open(d) is null ? string.Empty : ": not settled")}{(d.Where.Length > 0 ? $"; {d.Where}" : string.Empty)}"),
            .. found.Bolts.Select(b => b.Source.TrimEnd('.')).Distinct(),
            .. tools.Select(t => t.Until is { } until && until >= today ? $"{t.Name}, till {LogWords.Day(until)}"
                : $"{t.Name}: out of calibration, take another"),
        ];
        return new JobSheetFacts(
            package,
            found.m,
            found.p.FullName,
            cautions,
            [.. tags.Select(t => (t.Number, PlaceNames.Full(t.Name, t.Hand, t.Position), t.Where ?? string.Empty))],
            found.Bolts.ToDictionary(b => b.OperationId),
            from);
    }

    /// <summary>Makes the sheet.</summary>
    /// <param name="facts">What stands on it.</param>
    /// <param name="now">When it is printed.</param>
    /// <param name="by">Who prints it.</param>
    public static byte[] Pdf(JobSheetFacts facts, LocalDateTime now, string by)
    {
        ArgumentNullException.ThrowIfNull(facts);
        ReportFonts.Ready();
        using var document = new PdfDocument();
        document.Info.Title = $"Job sheet {facts.Package.Number}-{facts.Package.Revision}";
        document.Info.Creator = "Oil Tag";
        var sheet = new Paper(document, facts);
        sheet.Begin();
        sheet.Cautions();
        sheet.Papers();
        sheet.Steps();
        sheet.Ends();
        sheet.Feet($"Printed {LogWords.Day(now.Date)}, {now.ToString("HH:mm", CultureInfo.InvariantCulture)}, by {by}. If the page says a number behind the dash above {facts.Package.Revision}, this one is old.");
        using var bytes = new MemoryStream();
        document.Save(bytes);
        return bytes.ToArray();
    }

    private static double Mm(double mm) => XUnit.FromMillimeter(mm).Point;

    // Draws down the pages, in millimetres from the top left.
    private sealed class Paper(PdfDocument document, JobSheetFacts facts)
    {
        private readonly List<XGraphics> pages = [];
        private double y;

        private XGraphics G => pages[^1];

        public void Begin()
        {
            var page = document.AddPage();
            page.Size = PdfSharp.PageSize.A4;
            pages.Add(XGraphics.FromPdfPage(page));
            var (k, m) = (facts.Package, facts.Machine);
            TagSheets.Lining(G, m.Tin, Mm(Left), Mm(9), Mm(36));
            Words(m.Letter, ReportFonts.Stencil, 46, Left + 6, 31, 16);
            TagSheets.Code(G, $"OT W{k.Number}-{k.Revision}", Mm(Left + Width - 24), Mm(9), Mm(24));
            Words($"{k.Number}-{k.Revision}", ReportFonts.Stencil, 26, 138, 18, 36);
            Words($"Package {k.Number}, sheet {k.Revision}{(pages.Count > 1 ? $", {pages.Count}" : string.Empty)}", ReportFonts.Lettering,
                11, 138, 24, 36);
            y = 12;
            foreach (var line in Lines(k.Title, ReportFonts.Heading, 26, 106).Take(2))
            {
                y += 8.6;
                Words(line, ReportFonts.Heading, 26, 30, y - 2, 106);
            }

            var holds = k.Operations.Where(o => o.Hold && o.DoneAt is null).OrderBy(o => o.Order).Select(o => o.Order).ToList();
            foreach (var line in Lines($"{m.Name}, {facts.Place}.{(k.Purpose.Length > 0 ? $" {k.Purpose.TrimEnd('.')}." : string.Empty)}{(holds.Count > 0 ? $" Stop at a hold: {(holds.Count == 1 ? "step" : "steps")} {string.Join(" and ", holds)} {(holds.Count == 1 ? "waits" : "wait")} for somebody else." : string.Empty)}", ReportFonts.Text, 10.5, 106).Take(3))
            {
                y += 4.6;
                Words(line, ReportFonts.Text, 10.5, 30, y - 1, 106);
            }

            y = Math.Max(y + 3, 39);
        }

        public void Cautions()
        {
            foreach (var pair in facts.Cautions.Take(6).Chunk(2))
            {
                var height = pair.Max(c => Lines($"{c.Hazard}. {c.Text}", ReportFonts.Text, 9.5, 84).Count) * 4.2 + 3;
                Need(height + 2);
                foreach (var (c, i) in pair.Select((c, i) => (c, i)))
                {
                    var x = Left + (i * 96);
                    G.DrawRectangle(new XPen(XColors.Black, 1.4), Mm(x), Mm(y), Mm(94), Mm(height));
                    Hatch(x, y, 4, height);
                    foreach (var (line, n) in Lines($"{c.Hazard}. {c.Text}", ReportFonts.Text, 9.5, 84).Select((l, n) => (l, n)))
                    {
                        // What it is about stands out; what to do about it is read.
                        var head = n == 0 && line.StartsWith(c.Hazard, StringComparison.Ordinal)
                            ? line[..Math.Min(line.Length, c.Hazard.Length + 1)] : string.Empty;
                        var after = head.Length == 0 ? 0 : G.MeasureString(head + " ", Font(ReportFonts.Text, 9.5,
                            bold: true)).Width / Mm(1);
                        Words(head, ReportFonts.Text, 9.5, x + 7, y + 4.6 + (n * 4.2), 86, bold: true);
                        Words(line[head.Length..].TrimStart(), ReportFonts.Text, 9.5, x + 7 + after, y + 4.6 + (n * 4.2), 86 - after);
                    }
                }

                y += height + 2;
            }
        }

        public void Papers()
        {
            Need(14);
            var top = y + 6;
            Words("Tags: tick when it lies here", ReportFonts.Heading, 15, Left, top, 92);
            Words("From these", ReportFonts.Heading, 15, 113, top, 80);
            Rule(Left, 98, top + 1.6);
            Rule(113, 87, top + 1.6);
            var (a, b) = (top + 2.5, top + 2.5);
            foreach (var t in facts.Tags)
            {
                if (a > Bottom - 8)
                {
                    break;
                }

                G.DrawRectangle(new XPen(XColors.Black, 1), Mm(Left), Mm(a), Mm(19), Mm(7));
                Words(t.Number.ToString(CultureInfo.InvariantCulture), ReportFonts.Stencil, 14, Left + 3, a + 5.4, 16);
                Words(t.Name, ReportFonts.Text, 10, Left + 21, a + 5, 42, bold: true);
                Words(t.Where, ReportFonts.Lettering, 10.5, Left + 65, a + 5, 20);
                G.DrawRectangle(new XPen(XColors.Black, 1.4), Mm(Left + 89), Mm(a + 0.2), Mm(6.5), Mm(6.5));
                a += 8.4;
            }

            if (facts.Tags.Count == 0)
            {
                Words("No part of it is off.", ReportFonts.Text, 10, Left, a + 4.4, 90);
                a += 8;
            }

            foreach (var from in facts.From.Count > 0 ? facts.From : ["Nothing is named."])
            {
                Words(from, ReportFonts.Text, 10, 113, b + 4.6, 87);
                b += 6.4;
            }

            y = Math.Max(a, b) + 2;
        }

        public void Steps()
        {
            Need(22);
            Head();
            foreach (var o in facts.Package.Operations.OrderBy(o => o.Order))
            {
                if (facts.Bolts.TryGetValue(o.Id, out var bolts) && o.DoneAt is null)
                {
                    Step(o);
                    Bolts(bolts);
                    continue;
                }

                Step(o);
            }
        }

        // What was signed for, by whom, in three boxes.
        public void Ends()
        {
            Need(26);
            y += 4;
            foreach (var (words, i) in new[] { "Did the work", "Looked at it, not the one who did", "Typed into Oil Tag" }.Select((w, i) =>
                (w, i)))
            {
                var x = Left + (i * 64.5);
                G.DrawRectangle(new XPen(XColors.Black, 0.8), Mm(x), Mm(y), Mm(61), Mm(17));
                Words(words, ReportFonts.Lettering, 11, x + 2, y + 5, 58);
                Words("name, day", ReportFonts.Lettering, 10, x + 2, y + 15, 58);
            }

            y += 20;
        }

        public void Feet(string printed)
        {
            foreach (var (g, i) in pages.Select((g, i) => (g, i)))
            {
                g.DrawLine(new XPen(XColors.Black, 2), Mm(Left), Mm(280), Mm(Left + Width), Mm(280));
                foreach (var (line, n) in Lines(printed, ReportFonts.Lettering, 10, 110).Select((l, n) => (l, n)))
                {
                    g.DrawString(line, Font(ReportFonts.Lettering, 10), XBrushes.Black, Mm(Left), Mm(285 + (n * 4)));
                }

                g.DrawString("Anything wrong: on the back, with the step’s number.", Font(ReportFonts.Lettering, 10), XBrushes.Black,
                    Mm(125), Mm(285));
                g.DrawString($"{i + 1} of {pages.Count}. Local rules and licensed people outrank this sheet.",
                    Font(ReportFonts.Lettering, 10), XBrushes.Black, Mm(125), Mm(289));
                g.Dispose();
            }
        }

        private void Head()
        {
            foreach (var (words, x) in new[] { ("Step", AtStep), ("Right is", AtRight), ("Write it here", AtWrite), ("Done", AtDone + 1),
                ("Who", AtWho + 2) })
            {
                Words(words, ReportFonts.Lettering, 11, x, y + 5, 32);
            }

            y += 7;
            Rule(Left, Width, y);
        }

        private void Step(Operation o)
        {
            var wide = (o.Readings.Count == 0 ? AtDone : AtRight) - AtStep - 3;
            var name = Lines((o.Hold ? "Hold: " : string.Empty) + o.Name, ReportFonts.Text, 10.5, wide);
            var under = string.Join("; ", new[]
            {
                o.Needs.Cure is { } cure ? $"after {StockDrawing.Days(cure)} of cure" : string.Empty, o.Beside ? "beside the one before"
                    : string.Empty, o.Kit.Count > 0 ? "lay out " + string.Join(", ", o.Kit.Select(i => $"{i.Count} × {i.What}"))
                    : string.Empty, o.Note.Replace('\n', ' '),
            }.Where(w => w.Length > 0));
            var below = Lines(under, ReportFonts.Lettering, 10, wide);
            var boxes = o.Readings.Sum(w => Math.Min(w.Positions, Pages.Work.SheetModel.MostBoxes));
            var height = Math.Max(12, Math.Max((name.Count * 4.6) + (below.Count * 4.2) + 4, o.Readings.Count == 0 ? 12 : boxes == 1 ? 12
                : 6));
            Need(height + (boxes > 1 ? 13 : 0));
            if (o.Hold)
            {
                G.DrawLine(new XPen(XColors.Black, 2.4), Mm(Left), Mm(y), Mm(Left + Width), Mm(y));
            }

            Words(o.Order.ToString(CultureInfo.InvariantCulture), ReportFonts.Stencil, 17, Left + 1, y + (height / 2) + 2.4, 10);
            foreach (var (line, n) in name.Select((l, n) => (l, n)))
            {
                Words(line, ReportFonts.Text, 10.5, AtStep, y + 5 + (n * 4.6), wide + 2, bold: true);
            }

            foreach (var (line, n) in below.Select((l, n) => (l, n)))
            {
                Words(line, ReportFonts.Lettering, 10, AtStep, y + 5 + (name.Count * 4.6) + (n * 4.2), wide + 2);
            }

            var line2 = 0.0;
            foreach (var w in o.Readings.Take(2))
            {
                foreach (var words in new[] { $"{(w.Name == "each" ? string.Empty : w.Name + " ")}{StepLines.Words(w)}",
                    StepLines.Other(w) is { Length: > 0 } other ? $"[{other}]" : string.Empty }.Where(t => t.Length > 0))
                {
                    Words(words, ReportFonts.Lettering, 10.5, AtRight, y + 5 + line2, boxes > 1 ? 62 : 32);
                    line2 += 4.4;
                }
            }

            if (o.DoneAt is not null)
            {
                Words("done", ReportFonts.Lettering, 11, AtDone + 1.5, y + 7.5, 12);
            }
            else
            {
                if (boxes == 1)
                {
                    Box(AtWrite, y, AtDone - AtWrite, height, UnitOf(o.Readings[0]), string.Empty);
                }

                G.DrawRectangle(new XPen(XColors.Black, 1.4), Mm(AtDone + 2.5), Mm(y + (height / 2) - 3.5), Mm(7), Mm(7));
                G.DrawRectangle(new XPen(XColors.Black, 0.7), Mm(AtWho), Mm(y), Mm(Left + Width - AtWho), Mm(height));
            }

            y += height;
            if (o.DoneAt is null && boxes > 1)
            {
                Boxes(o);
            }

            if (o.Hold)
            {
                G.DrawLine(new XPen(XColors.Black, 2.4), Mm(Left), Mm(y), Mm(Left + Width), Mm(y));
            }
            else
            {
                Rule(Left, Width, y);
            }
        }

        // Boxes of 24 mm for readings at several positions, seven in a row.
        private void Boxes(Operation o)
        {
            foreach (var w in o.Readings)
            {
                foreach (var row in Enumerable.Range(1, Math.Min(w.Positions, Pages.Work.SheetModel.MostBoxes)).Chunk(7))
                {
                    Need(13);
                    foreach (var (p, i) in row.Select((p, i) => (p, i)))
                    {
                        Box(AtStep + (i * 25), y, 25, 12, UnitOf(w), w.Positions > 1 ? p.ToString(CultureInfo.InvariantCulture) : w.Name);
                    }

                    y += 12;
                }
            }
        }

        private void Bolts(BoltGroup g)
        {
            var height = Math.Max(46, (g.Passes.Count * 15) + 12);
            Need(height);
            var top = y;
            var (cx, cy, r) = (Left + 23, top + 25, 20.0);
            var points = TorqueOrder.PointsOf(g);
            if (g.Shape == BoltShape.Circle)
            {
                G.DrawEllipse(new XPen(XColors.Black, 1.4), Mm(cx - r), Mm(cy - r), Mm(2 * r), Mm(2 * r));
            }
            else
            {
                G.DrawRectangle(new XPen(XColors.Black, 1.4), Mm(cx - r), Mm(cy - (r * 0.6)), Mm(2 * r), Mm(r * 1.2));
            }

            var dot = Math.Clamp(48.0 / g.Count, 1.6, 3);
            foreach (var (position, n) in g.Order.Select((p, i) => (p, i + 1)))
            {
                var p = points[position - 1];
                var (x, z) = (cx + (p.X * (r - 4)), cy + (p.Y * (r - 4)));
                G.DrawEllipse(new XPen(XColors.Black, 0.7), XBrushes.White, Mm(x - dot), Mm(z - dot), Mm(2 * dot), Mm(2 * dot));
                G.DrawString(n.ToString(CultureInfo.InvariantCulture), Font(ReportFonts.Stencil, dot * 3.2), XBrushes.Black,
                    new XRect(Mm(x - dot), Mm(z - dot), Mm(2 * dot), Mm(2 * dot)), XStringFormats.Center);
            }

            if (g.Mark.Length > 0)
            {
                G.DrawString(ReportFonts.Printable(g.Mark), Font(ReportFonts.Lettering, 8), XBrushes.Black,
                    new XRect(Mm(cx - 13), Mm(cy - 3), Mm(26), Mm(6)), XStringFormats.Center);
            }

            Words($"{g.Name}: {g.Threads} on threads and faces", ReportFonts.Lettering, 11, 56, top + 4.4, 144);
            var (from, wide) = (82.0, (Left + Width - 82 - 14) / g.Count);
            var size = Math.Min(11, wide * 2);
            for (var n = 1; n <= g.Count; n++)
            {
                G.DrawString(n.ToString(CultureInfo.InvariantCulture), Font(ReportFonts.Stencil, size), XBrushes.Black,
                    new XRect(Mm(from + ((n - 1) * wide)), Mm(top + 5), Mm(wide), Mm(5)), XStringFormats.Center);
            }

            Words("Who", ReportFonts.Lettering, 10.5, Left + Width - 12, top + 9, 12);
            for (var pass = 1; pass <= g.Passes.Count; pass++)
            {
                var (target, within) = TorqueRule.Wanted(g, pass);
                var at = top + 10 + ((pass - 1) * 15);
                Words($"{TorqueDrawing.Number(target.Si, target.Unit)} {target.UnitSymbol}", ReportFonts.Text, 11, 56, at + 6, 26,
                    bold: true);
                Words($"{TorqueDrawing.Number(target.Si - within.Si, target.Unit)} to {TorqueDrawing.Number(target.Si + within.Si, target.Unit)}", ReportFonts.Lettering, 10, 56, at + 10.6, 26);
                for (var n = 0; n < g.Count; n++)
                {
                    G.DrawRectangle(new XPen(XColors.Black, 0.7), Mm(from + (n * wide)), Mm(at), Mm(wide), Mm(15));
                }

                G.DrawRectangle(new XPen(XColors.Black, 0.7), Mm(Left + Width - 14), Mm(at), Mm(14), Mm(15));
            }

            y = top + height;
            Rule(Left, Width, y);
        }

        private void Need(double millimetres)
        {
            if (y + millimetres > Bottom)
            {
                Begin();
                Head();
            }
        }

        private void Box(double x, double top, double width, double height, string unit, string position)
        {
            G.DrawRectangle(new XPen(XColors.Black, 0.7), Mm(x), Mm(top), Mm(width), Mm(height));
            Words(position, ReportFonts.Lettering, 9, x + 1, top + 3.6, width - 2);
            G.DrawString(ReportFonts.Printable(unit), Font(ReportFonts.Lettering, 10), XBrushes.Black,
                new XRect(Mm(x), Mm(top), Mm(width - 1.4), Mm(height - 1)), XStringFormats.BottomRight);
        }

        private void Hatch(double x, double top, double width, double height)
        {
            var state = G.Save();
            G.IntersectClip(new XRect(Mm(x), Mm(top), Mm(width), Mm(height)));
            for (var at = top - width; at < top + height + width; at += 2.6)
            {
                G.DrawLine(new XPen(XColors.Black, 3), Mm(x - 1), Mm(at + width), Mm(x + width + 1), Mm(at));
            }

            G.Restore(state);
        }

        private void Rule(double x, double width, double at) => G.DrawLine(new XPen(XColors.Black, 0.7), Mm(x), Mm(at), Mm(x + width),
            Mm(at));

        // Words on one line, shortened where they do not fit.
        private void Words(string words, string family, double size, double x, double baseline, double width, bool bold = false)
        {
            var font = Font(family, size, bold);
            var text = ReportFonts.Printable(words);
            while (text.Length > 1 && G.MeasureString(text, font).Width > Mm(width))
            {
                text = text[..^2].TrimEnd() + "…";
            }

            G.DrawString(text, font, XBrushes.Black, Mm(x), Mm(baseline));
        }

        private List<string> Lines(string words, string family, double size, double width)
        {
            var font = Font(family, size, bold: family == ReportFonts.Text);
            var lines = new List<string>();
            var line = string.Empty;
            foreach (var word in ReportFonts.Printable(words).Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                var longer = line.Length == 0 ? word : $"{line} {word}";
                if (line.Length > 0 && G.MeasureString(longer, font).Width > Mm(width))
                {
                    lines.Add(line);
                    longer = word;
                }

                line = longer;
            }

            return line.Length > 0 ? [.. lines, line] : lines;
        }

        private static string UnitOf(WantedReading w) => w.Kind switch
        {
            ReadingKind.Value => (w.Low ?? w.High)?.UnitSymbol ?? string.Empty,
            ReadingKind.YesNo => "yes / no",
            _ => string.Empty,
        };

        private static XFont Font(string family, double size, bool bold = false) =>
            new(family, size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);
    }
}
