using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>Survey sheets: planning one, and filling its cells.</summary>
public sealed class SheetWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Plans a sheet at a place.</summary>
    public Task<Recorded> PlanAsync(Guid key, Guid personId, Guid placeId, SheetPlan plan, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (draft, problems) = SheetRules.Check(plan);
        if (draft is null)
        {
            return Recorded.Refused(problems);
        }

        var machineId = await db.Places.Where(p => p.Id == placeId).Select(p => p.MachineId).SingleAsync(ct);
        return await AddAsync(draft.For(machineId, placeId, personId, today, null), ct);
    }, ct);

    /// <summary>Plans the same sheet again, to see how fast things change.</summary>
    public Task<Recorded> RepeatAsync(Guid key, Guid personId, int number, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var first = await db.Sheets.AsNoTracking().SingleAsync(s => s.Number == number, ct);
        if (first.On == today)
        {
            return Recorded.Refused("It was surveyed today. Read the cells again in this sheet.");
        }

        if (await db.Sheets.Where(s => s.EarlierId == first.Id).Select(s => (int?)s.Number).FirstOrDefaultAsync(ct) is { } begun)
        {
            return Recorded.Refused($"It was begun again already: S{begun}.");
        }

        return await AddAsync(first.For(first.MachineId, first.PlaceId, personId, today, first.Id), ct);
    }, ct);

    /// <summary>Puts what was read into cells. A cell that somebody else filled after the form was loaded is not taken.</summary>
    /// <param name="loaded">When the form was loaded.</param>
    /// <param name="cells">What the cells are to hold.</param>
    public Task<Recorded> FillAsync(Guid key, Guid personId, int number, Instant loaded, IReadOnlyList<CellEntry> cells, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var sheet = await db.Sheets.SingleAsync(s => s.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from survey_sheets where id = {sheet.Id} for update", ct);
        if (cells.Count == 0)
        {
            return Recorded.Refused("Nothing was typed. Type a reading into a cell first.");
        }

        // A cell that was named twice holds what was said last.
        var wanted = cells.GroupBy(c => (c.Row, c.Column)).Select(g => g.Last()).ToList();
        var rows = wanted.Select(c => c.Row).Distinct().ToList();
        var there = (await db.Readings.Where(r => r.SheetId == sheet.Id && rows.Contains(r.Row)).ToListAsync(ct)).ToLookup(r => (r.Row, r.Column));
        var taken = wanted.Where(c => there[(c.Row, c.Column)].Any(r => r.At > loaded && r.ById != personId)).ToList();
        if (taken.Count > 0)
        {
            var names = await db.People.AsNoTracking().ToDictionaryAsync(p => p.Id, p => p.Name, ct);
            return new Recorded(null, [.. taken.Take(5).Select(c => new Problem("Cells", $"{sheet.NameOf(c.Row, c.Column)}: {names[there[(c.Row, c.Column)].First().ById]} put {Said(there[(c.Row, c.Column)])} meanwhile; you have {Said(c)}. Look at the gauge, then press again."))], true);
        }

        var changed = new List<(CellEntry Cell, string Before, string After)>();
        foreach (var c in wanted)
        {
            var old = there[(c.Row, c.Column)].OrderBy(r => r.Turn).ToList();
            if (Said(old) is var before && Said(c) is var after && before == after)
            {
                continue;
            }

            changed.Add((c, before, after));
            db.Readings.RemoveRange(old);
        }

        if (changed.Count == 0)
        {
            return Recorded.To(Page(number));
        }

        await db.SaveChangesAsync(ct);
        foreach (var (c, _, _) in changed)
        {
            db.Readings.AddRange(c.Mark == CellMark.Measured
                ? c.Readings.Select((m, i) => new SheetReading { SheetId = sheet.Id, Row = c.Row, Column = c.Column, Turn = i + 1, Text = m.Text, Si = m.Si, Mark = CellMark.Measured, Evidence = c.Evidence, ById = personId, At = recorder.Now })
                : [new SheetReading { SheetId = sheet.Id, Row = c.Row, Column = c.Column, Turn = 1, Mark = c.Mark, Evidence = Evidence.Seen, ById = personId, At = recorder.Now }]);
        }

        // What is written over stands in the line that wrote over it; a cell that was empty has no before.
        var over = changed.Where(x => x.Before.Length > 0).ToList();
        Dictionary<string, string>? Of(Func<(CellEntry Cell, string Before, string After), string> said) => over.Count == 0 ? null : over.ToDictionary(x => sheet.NameOf(x.Cell.Row, x.Cell.Column), said, StringComparer.Ordinal);
        recorder.Say(
            SurveyLog.Filled(number, sheet.Title, [.. changed.Select(x => (sheet.NameOf(x.Cell.Row, x.Cell.Column), x.After))]), sheet.MachineId, sheet.PlaceId,
            before: Of(x => x.Before), after: Of(x => x.After.Length > 0 ? x.After : "cleared"));
        if (changed.Exists(x => x.Cell.Mark == CellMark.Measured && x.Cell.Readings.Count > 0 && !x.Cell.Evidence.IsOnlySaid()))
        {
            await LooksFilled.EndAsync(db, recorder, sheet.PlaceId, personId, null, ct);
        }

        return Recorded.To(Page(number));
    }, ct);

    /// <summary>Adds a region with a size and limits of its own, which overrules the earlier ones where they overlap.</summary>
    /// <param name="seen">Version of the sheet that the form showed.</param>
    public Task<Recorded> AddRegionAsync(Guid key, Guid personId, int number, uint seen, RegionPlan plan, LocalDate today, CancellationToken ct) => MarkAsync(key, personId, number, seen, sheet =>
    {
        var (region, problems) = SheetRules.CheckRegion(sheet, plan, today.Year);
        if (region is not null)
        {
            sheet.Regions = [.. sheet.Regions, region];
        }

        return (problems, $"set region {region?.Name}");
    }, ct);

    /// <summary>Changes size and limits of a region in its place; the first one, which is the whole sheet, keeps its cells.</summary>
    public Task<Recorded> ChangeRegionAsync(Guid key, Guid personId, int number, uint seen, int index, RegionPlan plan, LocalDate today, CancellationToken ct) => MarkAsync(key, personId, number, seen, sheet =>
    {
        if (index < 0 || index >= sheet.Regions.Count)
        {
            return ([new Problem("RegionName", "There is no such region any more. Load the page again.")], string.Empty);
        }

        var old = sheet.Regions[index];
        var area = index == 0 ? new SheetArea(old.RowFrom, old.RowTo, old.ColumnFrom, old.ColumnTo) : plan.Area;
        var (region, problems) = SheetRules.CheckRegion(sheet, plan with { Area = area }, today.Year, changes: true);
        if (region is not null)
        {
            sheet.Regions = [.. sheet.Regions.Select((r, i) => i == index ? region : r)];
        }

        return (problems, $"changed region {region?.Name}");
    }, ct);

    /// <summary>Marks a source of trouble.</summary>
    public Task<Recorded> AddSourceAsync(Guid key, Guid personId, int number, uint seen, SourceKind? kind, string? name, SheetArea area, CancellationToken ct) => MarkAsync(key, personId, number, seen, sheet =>
    {
        var (source, problems) = SheetRules.CheckSource(sheet, kind, name, area);
        if (source is not null)
        {
            sheet.Sources = [.. sheet.Sources, source];
        }

        return (problems, $"marked {source?.Name} as a source");
    }, ct);

    /// <summary>Takes a region, but never the first one, or a source away.</summary>
    public Task<Recorded> TakeAwayAsync(Guid key, Guid personId, int number, uint seen, bool region, int index, CancellationToken ct) => MarkAsync(key, personId, number, seen, sheet =>
    {
        if (index < (region ? 1 : 0) || index >= (region ? sheet.Regions.Count : sheet.Sources.Count))
        {
            return ([new Problem("Area", "That was taken away already.")], string.Empty);
        }

        var name = region ? sheet.Regions[index].Name : sheet.Sources[index].Name;
        if (region)
        {
            sheet.Regions = [.. sheet.Regions.Where((_, i) => i != index)];
        }
        else
        {
            sheet.Sources = [.. sheet.Sources.Where((_, i) => i != index)];
        }

        return ([], $"took {name} away");
    }, ct);

    /// <summary>Sets the row after which the centre line runs, so that one side is compared with the other; null takes it away.</summary>
    public Task<Recorded> CentreAsync(Guid key, Guid personId, int number, uint seen, int? afterRow, CancellationToken ct) => MarkAsync(key, personId, number, seen, sheet =>
    {
        if (afterRow is { } row && (row < 1 || row >= sheet.Rows.Length))
        {
            return ([new Problem("Centre", $"The centre line runs between two of the {sheet.Rows.Length} rows.")], string.Empty);
        }

        sheet.CentreAfterRow = afterRow;
        return ([], afterRow is { } after ? $"put the centre line after {sheet.Rows[after - 1]}" : "took the centre line away");
    }, ct);

    private Task<Recorded> MarkAsync(Guid key, Guid personId, int number, uint seen, Func<SurveySheet, (IReadOnlyList<Problem> Problems, string Done)> mark, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var sheet = await db.Sheets.SingleAsync(s => s.Number == number, ct);
        if (sheet.Version != seen)
        {
            return new Recorded(null, [new Problem("Area", "Somebody else marked this sheet meanwhile. Look at what is there now, then press again.")], true);
        }

        var before = Marks(sheet);
        var (problems, done) = mark(sheet);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        recorder.Say($"{done} on survey S{number}, {sheet.Title}.", sheet.MachineId, sheet.PlaceId, before: before, after: Marks(sheet));
        return Recorded.To(Page(number) + "/regions");
    }, ct);

    private static object Marks(SurveySheet sheet) => new
    {
        Regions = sheet.Regions.Select(r => $"{r.Name}: {sheet.NameOf(r.RowFrom, r.ColumnFrom)} to {sheet.NameOf(r.RowTo, r.ColumnTo)}, as built {r.Nominal?.Text ?? "not known"}, {string.Join(", ", r.Limits.Select(l => $"{l.Standard} {l.Limit.Text}"))}"),
        Centre = sheet.CentreAfterRow is { } after ? $"after {sheet.Rows[after - 1]}" : "none",
        Sources = sheet.Sources.Select(r => $"{r.Name}: {sheet.NameOf(r.RowFrom, r.ColumnFrom)} to {sheet.NameOf(r.RowTo, r.ColumnTo)}"),
    };

    private static string Page(int number) => "/s/" + number.ToString(CultureInfo.InvariantCulture);

    private async Task<Recorded> AddAsync(SurveySheet sheet, CancellationToken ct)
    {
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == sheet.PlaceId, ct);
        db.Sheets.Add(sheet);
        await db.SaveChangesAsync(ct);
        recorder.Say(SurveyLog.Planned(sheet, place.FullName), sheet.MachineId, sheet.PlaceId);
        return Recorded.To(Page(sheet.Number));
    }

    /// <summary>What the readings of a cell say, as <see cref="SheetEntry"/> reads it.</summary>
    public static string Said(IEnumerable<SheetReading> readings)
    {
        var all = readings.OrderBy(r => r.Turn).ToList();
        return string.Join("; ", all.Select(r => r.Mark == CellMark.Measured ? r.Text : "?")) + Known(all.Count > 0 ? all[0].Evidence : Evidence.Measured);
    }

    /// <summary>What a cell is to say, likewise.</summary>
    public static string Said(CellEntry c) => c.Mark != CellMark.Measured ? "?" : c.Readings.Count == 0 ? string.Empty : string.Join("; ", c.Readings.Select(r => r.Text)) + Known(c.Evidence);

    private static string Known(Evidence e) => e.IsOnlySaid() ? " " + e.ToString().ToLowerInvariant() : string.Empty;
}
