using System.Globalization;
using Microsoft.AspNetCore.Html;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Shared;
using PdfSharp.Drawing;
using PdfSharp.Pdf;
using QRCoder;

namespace OilTag.Web.Reports;

/// <summary>What is printed on one tag.</summary>
public sealed record PrintedTag
{
    public required int Number { get; init; }

    public required string Letter { get; init; }

    public required string Machine { get; init; }

    public required string Tin { get; init; }

    public required string Name { get; init; }

    public required string From { get; init; }

    public required string Off { get; init; }

    public string Orientation { get; init; } = string.Empty;

    public IReadOnlyList<int> After { get; init; } = [];

    public IReadOnlyList<int> Before { get; init; } = [];

    public string Weight { get; init; } = string.Empty;

    public IReadOnlyList<string> With { get; init; } = [];
}

/// <summary>Tags on A6 or four to an A4, labels for shelves, and the sheet of one strip session, as PDF.</summary>
public static class TagSheets
{
    /// <summary>Most tags in one print.</summary>
    public const int MostTags = 120;

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/strip/tags.pdf", async (string? n, string? paper, HttpRequest request, OilTagDb db, ShedClock clock, CancellationToken ct) =>
        {
            var (numbers, problem) = StockTakeRule.Read(n);
            if (problem is not null || numbers.Count is 0 or > MostTags)
            {
                return Results.NotFound();
            }

            var tags = await LoadAsync(db, clock, numbers, ct);
            if (tags.Count == 0)
            {
                return Results.NotFound();
            }

            var pdf = paper == "labels" ? Labels(tags, Address(request)) : Tags(tags, Address(request), paper == "A4");
            return Results.File(pdf, "application/pdf", $"tags-{string.Join('-', tags.Take(5).Select(t => t.Number))}.pdf");
        });
        app.MapGet("/strip/labels.pdf", async (HttpRequest request, OilTagDb db, CancellationToken ct) =>
        {
            var places = await db.StorePlaces.AsNoTracking().OrderBy(p => p.Number).ToListAsync(ct);
            return Results.File(Labels([.. places.Select(p => (p.Number, p.Name))], Address(request)), "application/pdf", "labels.pdf");
        });
        app.MapGet("/strip/session.pdf", async (string? m, DateOnly? on, OilTagDb db, ShedClock clock, CancellationToken ct) =>
            await SessionAsync(db, clock, m, on is { } d ? LocalDate.FromDateOnly(d) : null, ct) is { } pdf ? Results.File(pdf, "application/pdf", $"strip-session-{m}.pdf") : Results.NotFound());
    }

    private static string Address(HttpRequest request) => $"{request.Scheme}://{request.Host}";

    /// <summary>What is printed on tags, by number; numbers that are no tag are passed over.</summary>
    public static async Task<IReadOnlyList<PrintedTag>> LoadAsync(OilTagDb db, ShedClock clock, IReadOnlyList<int> numbers, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(clock);
        var rows = await (
            from t in db.Tags
            join m in db.Machines on t.MachineId equals m.Id
            join s in db.Places on t.SlotId equals s.Id
            join a in db.Places on s.ParentId equals a.Id
            join e in db.StripEntries.Include(e => e.Fasteners) on t.Id equals e.TagId
            join p in db.People on e.ById equals p.Id
            where numbers.Contains(t.Number)
            orderby t.Number
            select new { t.Number, t.MachineId, t.SlotId, m, s, a, e, Who = p.Name }).AsNoTracking().ToListAsync(ct);
        var slots = rows.Select(r => r.SlotId).ToList();
        var order = await (
            from c in db.Precedences
            join f in db.Tags.Where(t => t.End == null) on c.FirstSlotId equals f.SlotId into fs
            from f in fs.DefaultIfEmpty()
            join b in db.Tags.Where(t => t.End == null) on c.ThenId equals b.SlotId into bs
            from b in bs.DefaultIfEmpty()
            where slots.Contains(c.FirstSlotId) || slots.Contains(c.ThenId)
            select new { c.FirstSlotId, c.ThenId, First = (int?)f.Number, Then = (int?)b.Number }).ToListAsync(ct);
        return [.. rows.Select(r => new PrintedTag
        {
            Number = r.Number,
            Letter = r.m.Letter,
            Machine = r.m.Name,
            Tin = r.m.Tin,
            Name = r.s.FullName,
            From = $"From {r.a.FullName}",
            Off = $"Off {clock.Local(r.e.At).Date.ToString("d MMM yyyy", CultureInfo.GetCultureInfo("en-GB"))} by {r.Who}",
            Orientation = r.e.Orientation,
            After = [.. order.Where(o => o.FirstSlotId == r.SlotId && o.Then is not null).Select(o => o.Then!.Value).Order()],
            Before = [.. order.Where(o => o.ThenId == r.SlotId && o.First is not null).Select(o => o.First!.Value).Order()],
            Weight = r.e.Weight is { } w ? $"{w.Text} [{w.Both().Other}]" : string.Empty,
            With = [.. r.e.Fasteners.Select(f => $"{f.Count} × {f.What}{(f.Bad > 0 ? $", {f.Bad} bad" : string.Empty)}")],
        })];
    }

    private static double Mm(double mm) => XUnit.FromMillimeter(mm).Point;

    private static XFont Font(string family, double size, bool bold = false) => new(family, size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);

    /// <summary>Tags, one on A6 or four on A4 with lines to cut along.</summary>
    public static byte[] Tags(IReadOnlyList<PrintedTag> tags, string address, bool onA4)
    {
        ArgumentNullException.ThrowIfNull(tags);
        ReportFonts.Ready();
        using var document = new PdfDocument();
        document.Info.Title = "Tags";
        document.Info.Creator = "Oil Tag";
        var perPage = onA4 ? 4 : 1;
        for (var i = 0; i < tags.Count; i += perPage)
        {
            var page = document.AddPage();
            (page.Width, page.Height) = onA4 ? (XUnit.FromMillimeter(210), XUnit.FromMillimeter(297)) : (XUnit.FromMillimeter(105), XUnit.FromMillimeter(148));
            using var g = XGraphics.FromPdfPage(page);
            for (var k = 0; k < perPage && i + k < tags.Count; k++)
            {
                var state = g.Save();
                g.TranslateTransform(onA4 ? Mm(k % 2 * 105) : 0, onA4 ? Mm(k / 2 * 148.5) : 0);
                Tag(g, tags[i + k], address);
                g.Restore(state);
            }

            if (onA4)
            {
                var cut = new XPen(XColors.Black, 0.5) { DashStyle = XDashStyle.Dash };
                g.DrawLine(cut, Mm(105), 0, Mm(105), Mm(297));
                g.DrawLine(cut, 0, Mm(148.5), Mm(210), Mm(148.5));
            }
        }

        return Bytes(document);
    }

    private static void Tag(XGraphics g, PrintedTag t, string address)
    {
        var line = new XPen(XColors.Black, 0.9);
        double left = Mm(5), right = Mm(100), top = Mm(5), bottom = Mm(143);
        g.DrawPolygon(line, XBrushes.White, [new XPoint(left + Mm(13), top), new XPoint(right - Mm(13), top), new XPoint(right, top + Mm(13)), new XPoint(right, bottom), new XPoint(left, bottom), new XPoint(left, top + Mm(13))], XFillMode.Winding);
        g.DrawEllipse(line, Mm(50), top + Mm(4), Mm(6), Mm(6));
        g.DrawString("punch", Font(ReportFonts.Lettering, 9), XBrushes.Black, Mm(58), top + Mm(8.3));
        Lining(g, t.Tin, left + Mm(3), top + Mm(16), bottom - Mm(3));
        double x = left + Mm(9), w = right - Mm(4) - x, y = top + Mm(15);

        // Number as wide as the tag allows, letter and name beside it.
        g.DrawString(t.Letter, Font(ReportFonts.Heading, 40), XBrushes.Black, x, y + 34);
        Fit(g, t.Machine, ReportFonts.Lettering, 11, x, y + 46, Mm(24));
        var number = t.Number.ToString(CultureInfo.InvariantCulture);
        var size = 66.0;
        while (g.MeasureString(number, Font(ReportFonts.Stencil, size)).Width > w - Mm(25))
        {
            size -= 2;
        }

        g.DrawString(number, Font(ReportFonts.Stencil, size), XBrushes.Black, new XRect(x, y - 12, w, 66), XStringFormats.CenterRight);
        y += 54;
        Rule(g, x, w, y, 1.6);
        NameIn(g, t.Name, ReportFonts.Heading, 26, x, y + 27, w);
        y += 35;
        foreach (var words in new[] { t.From, t.Off, t.Orientation.Length > 0 ? "Sat: " + t.Orientation : string.Empty }.Where(s => s.Length > 0))
        {
            Fit(g, words, ReportFonts.Text, 9.5, x, y + 9, w);
            y += 13.5;
        }

        y += 3;
        Rule(g, x, w, y, 0.6);
        Pair(g, "Goes back on after", string.Join(' ', t.After.Take(7)), x, w, ref y, ReportFonts.Stencil, 11);
        Pair(g, "and before", string.Join(' ', t.Before.Take(7)), x, w, ref y, ReportFonts.Stencil, 11);
        y += 4;
        Rule(g, x, w, y, 0.6);
        Pair(g, "Weighs", t.Weight, x, w, ref y, ReportFonts.Text, 9.5);
        foreach (var (with, i) in (t.With.Count == 0 ? ["nothing"] : t.With).Take(4).Select((s, i) => (s, i)))
        {
            Pair(g, i == 0 ? "With it" : string.Empty, with, x, w, ref y, ReportFonts.Text, 9.5);
        }

        var tear = bottom - Mm(36);
        g.DrawLine(new XPen(XColors.Black, 0.8) { DashStyle = XDashStyle.Dot }, left, tear, right, tear);
        Code(g, $"{address}/t/{number}", x, tear + Mm(3), Mm(25));
        g.DrawString("OT " + number, Font(ReportFonts.Stencil, 11), XBrushes.Black, new XRect(x, tear + Mm(28), Mm(25), Mm(5)), XStringFormats.Center);
        var boxes = new[] { "Off place ________", "On bench", "Away to ________", "Ready", "Back on" };
        for (var i = 0; i < boxes.Length; i++)
        {
            var by = tear + Mm(4) + (i * Mm(5.8));
            g.DrawRectangle(line, x + Mm(32), by, Mm(4.2), Mm(4.2));
            g.DrawString(boxes[i], Font(ReportFonts.Lettering, 10.5), XBrushes.Black, x + Mm(38.5), by + Mm(3.4));
        }
    }

    /// <summary>The code of an address as a drawing for a page.</summary>
    public static IHtmlContent Code(string address, string label)
    {
        using var generator = new QRCodeGenerator();
        using var data = generator.CreateQrCode(address, QRCodeGenerator.ECCLevel.M);
        var modules = data.ModuleMatrix;
        var path = string.Concat(Enumerable.Range(0, modules.Count).SelectMany(y => Enumerable.Range(0, modules.Count).Where(x => modules[y][x]).Select(x => string.Create(CultureInfo.InvariantCulture, $"M{x} {y}h1v1h-1z"))));
        return new HtmlString(string.Create(CultureInfo.InvariantCulture, $"<svg class=\"qr\" viewBox=\"0 0 {modules.Count} {modules.Count}\" role=\"img\" aria-label=\"{label}\" shape-rendering=\"crispEdges\"><rect width=\"100%\" height=\"100%\" fill=\"#fff\"/><path d=\"{path}\" fill=\"#000\"/></svg>"));
    }

    private static string Clean(string text) => ReportFonts.Printable(text);

    private static void Rule(XGraphics g, double x, double w, double y, double weight) => g.DrawLine(new XPen(XColors.Black, weight), x, y, x + w, y);

    // Words on one line, shortened by whole characters where they do not fit.
    private static void Fit(XGraphics g, string words, string family, double size, double x, double y, double width)
    {
        var text = Clean(words);
        var font = Font(family, size);
        while (text.Length > 1 && g.MeasureString(text, font).Width > width)
        {
            text = text[..^2].TrimEnd() + "…";
        }

        g.DrawString(text, font, XBrushes.Black, x, y);
    }

    // The name of a part, a little smaller where it does not fit, and shortened before its hand where that is not enough.
    private static void NameIn(XGraphics g, string name, string family, double size, double x, double y, double width)
    {
        while (size > 10 && g.MeasureString(Clean(name), Font(family, size)).Width > width)
        {
            size -= 0.5;
        }

        var font = Font(family, size);
        g.DrawString(PlaceNames.Shortened(Clean(name), n => g.MeasureString(n, font).Width <= width), font, XBrushes.Black, x, y);
    }

    private static void Pair(XGraphics g, string label, string value, double x, double w, ref double y, string family, double size)
    {
        g.DrawString(label, Font(ReportFonts.Lettering, 10.5), XBrushes.Black, x, y + 13);
        var text = value.Length == 0 ? "–" : Clean(value);
        var font = Font(value.Length == 0 ? ReportFonts.Text : family, size);
        while (text.Length > 1 && g.MeasureString(text, font).Width > w - Mm(32))
        {
            text = text[..^1];
        }

        g.DrawString(text, font, XBrushes.Black, new XRect(x, y + 2, w, 14), XStringFormats.CenterRight);
        y += 15.5;
    }

    // The code as runs of rectangles, with its quiet zone of four modules.
    internal static void Code(XGraphics g, string address, double x, double y, double side)
    {
        using var generator = new QRCodeGenerator();
        using var data = generator.CreateQrCode(address, QRCodeGenerator.ECCLevel.M);
        var modules = data.ModuleMatrix;
        var unit = side / modules.Count;
        for (var row = 0; row < modules.Count; row++)
        {
            for (var column = 0; column < modules.Count; column++)
            {
                if (!modules[row][column])
                {
                    continue;
                }

                var from = column;
                while (column + 1 < modules.Count && modules[row][column + 1])
                {
                    column++;
                }

                g.DrawRectangle(XBrushes.Black, x + (from * unit), y + (row * unit), (column - from + 1) * unit, unit * 1.02);
            }
        }
    }

    // The thread of the machine in black: told apart by its rails, blocks and beads.
    internal static void Lining(XGraphics g, string tin, double x, double top, double bottom)
    {
        void Rail(double at, double width) => g.DrawRectangle(XBrushes.Black, x + at, top, width, bottom - top);
        void Along(double pitch, Action<double> draw)
        {
            for (var y = top; y < bottom - 6; y += pitch)
            {
                draw(y);
            }
        }

        switch (tin)
        {
            case "harbour": Rail(0, 6); Rail(8.5, 1.6); break;
            case "peat": Rail(0, 1.6); Rail(3.2, 4.6); Rail(9.4, 1.6); break;
            case "beet": Rail(0, 1.6); Along(9, y => g.DrawRectangle(XBrushes.Black, x + 3.4, y, 7.6, 6)); break;
            case "umber": Rail(0, 2.4); Rail(8.6, 2.4); Along(9, y => g.DrawEllipse(XBrushes.Black, x + 3.6, y + 2, 3.8, 3.8)); break;
            case "teal": Rail(0, 3.5); Rail(7.5, 3.5); break;
            case "plum": Rail(0, 1.6); Rail(9.4, 1.6); Along(6, y => g.DrawRectangle(XBrushes.Black, x, y, 11, 1.6)); break;
            case "ochre": Rail(0, 6); Along(9, y => g.DrawEllipse(XBrushes.Black, x + 7.2, y + 2, 3.6, 3.6)); break;
            default: Rail(0, 2); Rail(4.5, 2); Rail(9, 2); break;
        }
    }

    /// <summary>Labels of places, 24 on an A4 sheet of 70 by 37 mm each.</summary>
    public static byte[] Labels(IReadOnlyList<(int Number, string Name)> places, string address) => LabelSheets(places, (g, place, x, y) =>
    {
        Code(g, $"{address}/at/{place.Number}", x + Mm(3), y + Mm(5), Mm(27));
        g.DrawString("P" + place.Number.ToString(CultureInfo.InvariantCulture), Font(ReportFonts.Heading, 30), XBrushes.Black, x + Mm(32), y + Mm(17));
        Fit(g, place.Name, ReportFonts.Lettering, 13, x + Mm(32), y + Mm(25), Mm(35));
    });

    /// <summary>Labels of tags for bags and small parts, 24 on an A4 sheet of 70 by 37 mm each.</summary>
    public static byte[] Labels(IReadOnlyList<PrintedTag> tags, string address) => LabelSheets(tags, (g, t, x, y) =>
    {
        Code(g, $"{address}/t/{t.Number}", x + Mm(6), y + Mm(6), Mm(24));
        Lining(g, t.Tin, x + Mm(2), y + Mm(4), y + Mm(33));
        g.DrawString(t.Letter, Font(ReportFonts.Heading, 18), XBrushes.Black, x + Mm(32), y + Mm(12));
        g.DrawString(t.Number.ToString(CultureInfo.InvariantCulture), Font(ReportFonts.Stencil, 24), XBrushes.Black, x + Mm(38), y + Mm(12));
        NameIn(g, t.Name, ReportFonts.Lettering, 13, x + Mm(32), y + Mm(18), Mm(36));
        Fit(g, t.From, ReportFonts.Text, 8, x + Mm(32), y + Mm(22.5), Mm(36));
        foreach (var (line, i) in new[] { t.With.Count > 0 ? t.With[0] : string.Empty, t.Orientation.Length > 0 ? "Sat: " + t.Orientation : string.Empty }.Where(l => l.Length > 0).Select((l, i) => (l, i)))
        {
            Fit(g, line, ReportFonts.Text, 8, x + Mm(32), y + Mm(27 + (i * 4)), Mm(36));
        }
    });

    private static byte[] LabelSheets<T>(IReadOnlyList<T> labels, Action<XGraphics, T, double, double> draw)
    {
        ArgumentNullException.ThrowIfNull(labels);
        ReportFonts.Ready();
        using var document = new PdfDocument();
        document.Info.Title = "Labels";
        document.Info.Creator = "Oil Tag";
        if (labels.Count == 0)
        {
            document.AddPage().Size = PdfSharp.PageSize.A4;
        }

        for (var i = 0; i < labels.Count; i += 24)
        {
            var page = document.AddPage();
            page.Size = PdfSharp.PageSize.A4;
            using var g = XGraphics.FromPdfPage(page);
            for (var k = 0; k < 24 && i + k < labels.Count; k++)
            {
                draw(g, labels[i + k], Mm(k % 3 * 70), Mm(0.5 + (k / 3 * 37)));
            }
        }

        return Bytes(document);
    }

    // What came off one machine on one day, with empty boxes for what is found out later.
    private static async Task<byte[]?> SessionAsync(OilTagDb db, ShedClock clock, string? letter, LocalDate? on, CancellationToken ct)
    {
        if (await db.Machines.AsNoTracking().FirstOrDefaultAsync(m => m.Letter == letter, ct) is not { } machine)
        {
            return null;
        }

        var last = await (from e in db.StripEntries join t in db.Tags on e.TagId equals t.Id where t.MachineId == machine.Id orderby e.At descending select (Instant?)e.At).FirstOrDefaultAsync(ct);
        if (on is { Year: < 1900 or > 2200 })
        {
            return null;
        }

        var day = on ?? (last is { } at ? clock.Local(at).Date : clock.Today);
        var (from, until) = (day.AtStartOfDayInZone(clock.Zone).ToInstant(), day.PlusDays(1).AtStartOfDayInZone(clock.Zone).ToInstant());
        var rows = await (
            from e in db.StripEntries.Include(e => e.Fasteners)
            join t in db.Tags on e.TagId equals t.Id
            join s in db.Places on t.SlotId equals s.Id
            join p in db.People on e.ById equals p.Id
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId into cs
            from c in cs.DefaultIfEmpty()
            where t.MachineId == machine.Id && e.At >= @from && e.At < until
            orderby e.Order
            select new { e, t.Number, s, Who = p.Name, Where = (string?)c.Where }).AsNoTracking().ToListAsync(ct);
        using var pages = new ReportPages($"Strip session, {machine.Name}", $"{machine.Name}, {Say.Day(day, clock.Today)}");
        pages.Heading($"{machine.Letter} {machine.Name}: came off {Say.Day(day, clock.Today)}", 22);
        pages.Text(rows.Count == 0 ? "Nothing came off on this day." : $"{rows.Count} {(rows.Count == 1 ? "part" : "parts")}, in the order in which they came off. They go back from the last to the first.");
        pages.Table(["Tag", "What", "Why, and how it sat", "With it", "At", "Back on"], [1, 3, 4, 3, 2, 1.4], rows.Select(r => (IReadOnlyList<string>)
        [
            r.Number.ToString(CultureInfo.InvariantCulture),
            r.s.FullName,
            r.e.Reason + (r.e.Orientation.Length > 0 ? ". " + r.e.Orientation : string.Empty),
            string.Join(", ", r.e.Fasteners.Select(f => $"{f.Count} × {f.What}")),
            r.Where ?? string.Empty,
            string.Empty,
        ]));
        return pages.Done();
    }

    private static byte[] Bytes(PdfDocument document)
    {
        using var buffer = new MemoryStream();
        document.Save(buffer);
        return buffer.ToArray();
    }
}
