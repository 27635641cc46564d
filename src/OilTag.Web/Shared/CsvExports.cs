using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;

namespace OilTag.Web.Shared;

/// <summary>Lists as CSV, on the path of their page with .csv behind it.</summary>
public static class CsvExports
{
    private static readonly CsvConfiguration Settings = new(CultureInfo.InvariantCulture)
    {
        // A cell that starts like a formula is written so that a spreadsheet shows it and does not run it.
        InjectionOptions = InjectionOptions.Escape,
    };

    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/strip.csv", async (OilTagDb db, ShedClock clock, CancellationToken ct) =>
        {
            var letters = await LettersAsync(db, ct);
            var packages = await WorkshopQuery.PackagesAsync(db, db.Packages.Where(k => k.ClosedAt == null), ct);
            return Csv("tags.csv", (await WorkshopQuery.TagsAsync(db, db.Tags, packages, clock.Today, ct)).OrderBy(t => t.Number).Select(t => (t, s: PartStates.Of(t, clock.Today))).Select(x => new
            {
                tag = "OT " + x.t.Number.ToString(CultureInfo.InvariantCulture),
                machine = letters[x.t.MachineId],
                name = x.t.Name,
                state = x.s.Word,
                detail = x.s.Detail,
                place = x.t.Where,
                off_on = Iso(clock.Local(x.t.OpenedAt).Date),
            }));
        });
        app.MapGet("/work.csv", async (OilTagDb db, CancellationToken ct) =>
        {
            var letters = await LettersAsync(db, ct);
            return Csv("packages.csv", (await WorkshopQuery.PackagesAsync(db, db.Packages, ct)).Select(p => new
            {
                package = p.Number,
                machine = letters[p.MachineId],
                title = p.Title,
                closed = p.Closed,
                booked_hours = p.BookedMinutes / 60m,
                left_low_hours = Math.Round(p.Remaining.Low, 2),
                left_likely_hours = Math.Round(p.Remaining.Likely, 2),
                left_high_hours = Math.Round(p.Remaining.High, 2),
                spent_pounds = p.SpentPence / 100m,
                waits_on = p.WaitingOn,
            }));
        });
        app.MapGet("/s/{number:int}.csv", async (int number, OilTagDb db, CancellationToken ct) =>
        {
            if (await db.Sheets.AsNoTracking().SingleOrDefaultAsync(s => s.Number == number, ct) is not { } sheet)
            {
                return Results.NotFound();
            }

            // A table that the page of the sheet takes in again.
            var readings = (await db.Readings.AsNoTracking().Where(r => r.SheetId == sheet.Id).ToListAsync(ct)).ToLookup(r => (r.Row, r.Column));
            return Table($"survey-S{number}.csv", Enumerable.Range(0, sheet.Rows.Length + 1).Select(r => Enumerable.Range(0, sheet.Columns.Length + 1).Select(c =>
                r == 0 ? (c == 0 ? string.Empty : sheet.Columns[c - 1])
                : c == 0 ? sheet.Rows[r - 1]
                : string.Join("; ", readings[(r, c)].OrderBy(x => x.Turn).Select(x => x.Mark == CellMark.Measured ? x.Text : "?")))));
        });
        app.MapGet("/survey.csv", async (OilTagDb db, ShedClock clock, CancellationToken ct) =>
        {
            var rows = await (from f in db.Findings.AsNoTracking() join p in db.Places on f.PlaceId equals p.Id join m in db.Machines on f.MachineId equals m.Id orderby f.Number select new { f, p, m.Letter }).ToListAsync(ct);
            return Csv("findings.csv", rows.Select(r => new
            {
                finding = "F" + r.f.Number.ToString(CultureInfo.InvariantCulture),
                machine = r.Letter,
                place = r.p.FullName,
                what = r.f.What,
                reading = r.f.ReadingText,
                reading_metres = r.f.Reading?.Si,
                as_built = r.f.Nominal?.Text,
                limit = r.f.Limit?.Text,
                limit_for = r.f.LimitFor?.ToString(),
                cause = r.f.Cause,
                found_on = Iso(clock.Local(r.f.FoundAt).Date),
            }));
        });
        app.MapGet("/hours.csv", async (OilTagDb db, CancellationToken ct) =>
        {
            var rows = await (from h in db.Hours.AsNoTracking() join p in db.People on h.PersonId equals p.Id join k in db.Packages on h.PackageId equals k.Id join m in db.Machines on k.MachineId equals m.Id orderby h.On, p.Name select new { h.On, p.Name, m.Letter, k.Number, k.Title, h.From, h.Minutes }).ToListAsync(ct);
            return Csv("hours.csv", rows.Select(r => new { day = Iso(r.On), person = r.Name, machine = r.Letter, package = r.Number, title = r.Title, from = r.From?.ToString("HH:mm", CultureInfo.InvariantCulture), hours = r.Minutes / 60m }));
        });
        app.MapGet("/log.csv", async (OilTagDb db, ShedClock clock, CancellationToken ct) =>
        {
            var rows = await (from l in db.LogEntries.AsNoTracking() join p in db.People on l.PersonId equals p.Id orderby l.Id select new { l.Id, l.At, p.Name, l.Sentence, l.Before, l.After }).ToListAsync(ct);
            return Csv("log.csv", rows.Select(r => new { entry = r.Id, at = clock.Local(r.At).ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture), person = r.Name, sentence = r.Sentence, before = r.Before, after = r.After }));
        });
    }

    private static Task<Dictionary<Guid, string>> LettersAsync(OilTagDb db, CancellationToken ct) => db.Machines.ToDictionaryAsync(m => m.Id, m => m.Letter, ct);

    private static string Iso(LocalDate d) => d.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static IResult Table(string name, IEnumerable<IEnumerable<string>> lines) => Written(name, csv =>
    {
        foreach (var line in lines)
        {
            foreach (var cell in line)
            {
                csv.WriteField(cell);
            }

            csv.NextRecord();
        }
    });

    private static IResult Csv<T>(string name, IEnumerable<T> rows) => Written(name, csv => csv.WriteRecords(rows));

    private static IResult Written(string name, Action<CsvWriter> write)
    {
        var stream = new MemoryStream();
        using (var writer = new StreamWriter(stream, leaveOpen: true))
        using (var csv = new CsvWriter(writer, Settings))
        {
            write(csv);
        }

        stream.Position = 0;
        return Results.File(stream, "text/csv; charset=utf-8", name);
    }
}
