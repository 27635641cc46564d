using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Survey;
using OilTag.Core.Tables;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.People;
using OilTag.Data.Planning;
using OilTag.Data.Survey;

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
        app.MapGet("/bench/tables/{key}.csv", (string key) => DataTable.Find(key) is { } table ? Lines($"{key}.csv", [table.Columns, .. table.Rows]) : Results.NotFound());
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
        app.MapGet("/plan.csv", async (PlanLoader plans, CancellationToken ct) =>
        {
            if ((await plans.PresentAsync(ct)).Plan is not { } plan)
            {
                return Results.NotFound();
            }

            var packages = plan.Input.Packages.ToDictionary(p => p.Id, StringComparer.Ordinal);
            var names = plan.Input.People.ToDictionary(p => p.Id, p => p.Name, StringComparer.Ordinal);
            return Csv("plan.csv", plan.Input.Operations.Select((o, i) => (o, s: plan.Result.Schedule.Operations[i], r: plan.Result.Forecast?.Operations[i])).Select(x => new
            {
                machine = packages[x.o.Package].Machine,
                package = x.o.Package,
                title = packages[x.o.Package].Title,
                operation = x.o.Name,
                start = x.s.Start?.ToString("uuuu-MM-dd HH:mm", CultureInfo.InvariantCulture) ?? string.Empty,
                finish = x.s.Finish?.ToString("uuuu-MM-dd HH:mm", CultureInfo.InvariantCulture) ?? string.Empty,
                p50 = x.r?.Even is { } even ? Iso(even) : string.Empty,
                p80 = x.r?.Safe is { } safe ? Iso(safe) : string.Empty,
                critical = x.r?.Critical,
                latest_start = Iso(x.s.Latest),
                people = string.Join("; ", x.s.Stretches.SelectMany(s => s.People).Distinct(StringComparer.Ordinal).Select(p => names[p])),
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
                : SheetWrites.Said(readings[(r, c)]))));
        });
        app.MapGet("/s/{number:int}/matrix.csv", async (int number, OilTagDb db, CancellationToken ct) =>
        {
            if (await db.Matrices.AsNoTracking().SingleOrDefaultAsync(s => s.Number == number, ct) is not { } m)
            {
                return Results.NotFound();
            }

            // As the table of the survey is typed, so that a block of it can be pasted there again.
            var cells = (await db.MatrixCells.AsNoTracking().Where(c => c.MatrixId == m.Id).ToListAsync(ct)).ToDictionary(c => (c.Position, c.Check));
            return Table($"survey-S{number}.csv", Enumerable.Range(0, m.Checks.Count + 1).Select(c => Enumerable.Range(0, m.Positions.Count + 1).Select(p =>
                c == 0 ? (p == 0 ? m.PositionsAre : m.Positions[p - 1].Name)
                : p == 0 ? m.Checks[c - 1].Name
                : cells.TryGetValue((p, c), out var cell) ? MatrixRules.Write(cell) + (cell.Note.Length > 0 ? " (" + cell.Note + ")" : string.Empty) : string.Empty)));
        });
        app.MapGet("/c/{number:int}.csv", async (int number, OilTagDb db, CancellationToken ct) =>
        {
            if (await db.Points.AsNoTracking().SingleOrDefaultAsync(p => p.Number == number, ct) is not { } point)
            {
                return Results.NotFound();
            }

            var people = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, ct);
            return Csv($"check-point-C{number}.csv", (await db.PointReadings.AsNoTracking().Where(r => r.PointId == point.Id).OrderBy(r => r.On).ThenBy(r => r.At).ThenBy(r => r.Minutes).ToListAsync(ct)).Select(r => new
            {
                day = Iso(r.On),
                minutes = r.Minutes,
                reading = r.Value.Text,
                to = r.ValueTo?.Text,
                si = r.Value.Si,
                known = r.Evidence.ToString().ToLowerInvariant(),
                who = people[r.ById],
                note = r.Note,
            }));
        });
        app.MapGet("/survey/parts.csv", async (string? m, OilTagDb db, ShedClock clock, CancellationToken ct) =>
            await db.Machines.AsNoTracking().Where(x => m == null || x.Letter == m).OrderBy(x => x.Bay).FirstOrDefaultAsync(ct) is { } machine
                ? Csv($"first-parts-list-{machine.Letter}.csv", (await ConditionQuery.PartsAsync(db, machine, clock.Today, ct)).Select(l => new { certainty = l.Certainty.ToString(), what = l.What, quantity = l.Quantity, where = l.Where, why = l.Why }))
                : Results.NotFound());
        app.MapGet("/survey.csv", async (OilTagDb db, ShedClock clock, CancellationToken ct) =>
        {
            var rows = await (from f in db.Findings.AsNoTracking() join p in db.Places on f.PlaceId equals p.Id join m in db.Machines on f.MachineId equals m.Id orderby f.Number select new { f, p, m.Letter }).ToListAsync(ct);
            return Csv("findings.csv", rows.Select(r => new
            {
                finding = "F" + r.f.Number.ToString(CultureInfo.InvariantCulture),
                machine = r.Letter,
                place = r.p.FullName,
                what = r.f.What,
                feature = r.f.Feature?.ToString(),
                reading = r.f.ReadingText,
                reading_metres = r.f.Reading?.Si,
                as_built = r.f.Nominal?.Text,
                limit = r.f.Limit?.Text,
                limit_for = r.f.LimitFor?.ToString(),
                cause = r.f.Cause,
                known = r.f.Evidence.ToString(),
                decision = r.f.DecidedOn(clock.Today) is { } d ? Dispositions.Word(d) : string.Empty,
                found_on = Iso(clock.Local(r.f.FoundAt).Date),
            }));
        });
        app.MapGet("/hours.csv", async (OilTagDb db, CancellationToken ct) =>
        {
            var rows = await (from h in db.Hours.AsNoTracking() join p in db.People on h.PersonId equals p.Id join m in db.Machines on h.MachineId equals m.Id join k in db.Packages on h.PackageId equals (Guid?)k.Id into ks from k in ks.DefaultIfEmpty() orderby h.On, p.Name select new { h.On, p.Name, m.Letter, Number = k == null ? (int?)null : k.Number, Title = k == null ? h.Note : k.Title, h.From, h.Minutes }).ToListAsync(ct);
            return Csv("hours.csv", rows.Select(r => new { day = Iso(r.On), person = r.Name, machine = r.Letter, package = r.Number, title = r.Title, from = r.From?.ToString("HH:mm", CultureInfo.InvariantCulture), hours = r.Minutes / 60m }));
        });
        app.MapGet("/people/hours.csv", async (DateOnly? since, DateOnly? to, OilTagDb db, ShedClock clock, CancellationToken ct) =>
        {
            var last = to is { } t ? LocalDate.FromDateOnly(t) : clock.Today;
            var hours = await InKindQuery.HoursAsync(db, since is { } s ? LocalDate.FromDateOnly(s) : last.PlusYears(-1).PlusDays(1), last, null, ct);
            var rates = await db.HourRates.AsNoTracking().ToListAsync(ct);
            return Csv("hours-given.csv", hours.Select(h => (h, r: InKindRule.Rate(rates, h.Skill, h.On))).Select(x => new
            {
                day = Iso(x.h.On),
                person = x.h.Name,
                machine = x.h.Letter,
                package = x.h.Package,
                title = x.h.Title,
                step = x.h.Step,
                from = x.h.From?.ToString("HH:mm", CultureInfo.InvariantCulture),
                hours = x.h.Minutes / 60m,
                kind = x.h.Skill,
                rate_pounds = x.r?.Pence / 100m,
                value_pounds = x.r is null ? null : (decimal?)Math.Round(x.h.Minutes * (decimal)x.r.Pence / 6000, 2, MidpointRounding.AwayFromZero),
                rate_source = x.r?.Source,
                rate_since = x.r is null ? null : Iso(x.r.From),
            }));
        });
        app.MapGet("/me/hours.csv", async (OilTagDb db, Me me, ShedClock clock, CancellationToken ct) =>
            Csv("my-hours.csv", (await InKindQuery.HoursAsync(db, clock.Today.PlusYears(-200), clock.Today, me.Id, ct)).Select(h => new { day = Iso(h.On), machine = h.Letter, package = h.Package, title = h.Title, step = h.Step, from = h.From?.ToString("HH:mm", CultureInfo.InvariantCulture), hours = h.Minutes / 60m })));
        app.MapGet("/log.csv", async (OilTagDb db, ShedClock clock, Me me, CancellationToken ct) =>
        {
            var all = me.CanRecord;
            var rows = await (
                from l in LogQuery.Readable(db, all)
                join p in db.People on l.PersonId equals p.Id
                orderby l.Id
                select new { l.Id, l.At, p.Name, l.Sentence, Before = all || l.MachineId != null ? l.Before : null, After = all || l.MachineId != null ? l.After : null }).ToListAsync(ct);
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

    // With a mark at the beginning, by which spreadsheets know that the letters are UTF-8.
    private static readonly Encoding Marked = new UTF8Encoding(encoderShouldEmitUTF8Identifier: true);

    private static IResult Lines(string name, IReadOnlyList<IReadOnlyList<string>> lines) => Written(name, csv =>
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
        using (var writer = new StreamWriter(stream, Marked, leaveOpen: true))
        using (var csv = new CsvWriter(writer, Settings))
        {
            write(csv);
        }

        stream.Position = 0;
        return Results.File(stream, "text/csv; charset=utf-8", name);
    }
}
