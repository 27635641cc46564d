using System.Globalization;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>One survey sheet: its cells and what they say, and filling them by keyboard, by paste, from a file or from the gauge.</summary>
[RequestSizeLimit(CsvTable.MostBytes + 100_000)]
public sealed class SheetModel(OilTagDb db, Me me, ShedClock clock, IClock time, SheetWrites writes, Gauge gauge, ImportStore imports) : CellsForm(me, time, writes)
{
    /// <summary>The standard to judge for, when it is not the one that holds.</summary>
    [BindProperty(SupportsGet = true, Name = "for")]
    public RestorationStandard? For { get; set; }

    /// <summary>Row of the profile, from 1.</summary>
    [BindProperty(SupportsGet = true, Name = "line")]
    public int? Line { get; set; }

    /// <summary>Cells that were typed one by one: lines of row, column and text with tabs between them.</summary>
    [BindProperty]
    public string? Cells { get; set; }

    /// <summary>Cells that were typed or pasted as a block, whose corner is at <see cref="Row"/> and <see cref="Column"/>.</summary>
    [BindProperty]
    public string? Block { get; set; }

    [BindProperty]
    public int Row { get; set; } = 1;

    [BindProperty]
    public int Column { get; set; } = 1;

    public SurveySheet Sheet { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public string Readers { get; private set; } = string.Empty;

    /// <summary>The standard that holds at the place, and what set it.</summary>
    public (RestorationStandard Standard, string SetBy) Holds { get; private set; }

    public SheetAnalysis Analysis { get; private set; } = null!;

    public SheetTrend? Trend { get; private set; }

    /// <summary>Earlier surveys of the same cells, newest first.</summary>
    public IReadOnlyList<SurveySheet> Earlier { get; private set; } = [];

    public int? Later { get; private set; }

    public IReadOnlyList<LossPattern>? Patterns { get; private set; }

    /// <summary>What was asked of the readings, in words.</summary>
    public IReadOnlyList<string> Asked => PatternRule.Asked(Analysis);

    public bool HasGauge => gauge.Set;

    public string? GaugeSays { get; private set; }

    /// <summary>The row whose profile is drawn: the chosen one, or that of the worst cell.</summary>
    public int ProfileRow { get; private set; }

    public CellFacts? Worst { get; private set; }

    public async Task<IActionResult> OnGetAsync(bool patterns, CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            // Surveys of positions are counted together with sheets.
            return await db.Matrices.AnyAsync(m => m.Number == Number, ct) ? Redirect($"/s/{Number}/matrix") : NotFound();
        }

        Patterns = patterns ? PatternRule.Find(Analysis) : null;
        return Page();
    }

    /// <summary>The patterns alone, which take longer than the page may.</summary>
    public async Task<IActionResult> OnGetPatternsAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        Patterns = PatternRule.Find(Analysis);
        return Partial("_Patterns", this);
    }

    public Task<IActionResult> OnPostFillAsync(CancellationToken ct) => WriteAsync(Me.CanRecord, () => LoadAsync(ct), async () =>
    {
        var (cells, problems) = Typed();
        if (problems.Count > 0)
        {
            return Recorded.Refused([.. problems.Take(8).Select(p => new Problem("Cells", p.Name.Length > 0 ? $"{p.Name} says “{p.Text}”. {p.Sentence}" : p.Sentence))]);
        }

        var outcome = await FillAsync(cells, ct);
        return outcome.Ok ? outcome with { Result = $"{outcome.Result}?saved={Key}{(For is { } standard ? $"&for={standard}" : string.Empty)}" } : outcome;
    });

    /// <summary>Takes one reading from the gauge. Nothing is recorded: the reading is put where it can be saved.</summary>
    public async Task<IActionResult> OnPostGaugeAsync(CancellationToken ct)
    {
        if (!Me.CanRecord)
        {
            return Forbid();
        }

        if (!await InOneMomentAsync(() => LoadAsync(ct)))
        {
            return NotFound();
        }

        var answer = !Sheet.Has(Row, Column) ? new GaugeAnswer(null, "The sheet has no such cell. Choose another.")
            : await gauge.ReadAsync(Sheet.RegionAt(Row, Column)?.Nominal is { } nominal ? (Unit.Millimetre.FromSi(nominal.Si), $"{Number}/{Sheet.NameOf(Row, Column)}") : null, ct);
        var doubt = answer.Reading is { } r ? EchoRule.Doubt(Analysis, Row, Column, r) : null;
        var text = answer.Reading?.Text ?? string.Empty;
        if (Request.Headers.Accept.ToString().Contains("application/json", StringComparison.Ordinal))
        {
            return new JsonResult(new { text, sentence = answer.Sentence ?? doubt ?? string.Empty });
        }

        GaugeSays = answer.Sentence ?? doubt ?? $"The gauge says {text}.";
        Block = doubt is null && text.Length > 0 ? text : Block;
        ModelState.Clear();
        return Page();
    }

    public Task<IActionResult> OnPostImportAsync(IFormFile? file, CancellationToken ct) => WriteAsync(Me.CanRecord, () => LoadAsync(ct), async () =>
    {
        var (bytes, sentence) = await CsvTable.UploadedAsync(file, ct);
        return sentence is not null ? Recorded.Refused(sentence, "File") : await imports.KeepAsync(bytes!, id => $"/s/{Number}/import/{id}", ct);
    });

    public Task<IActionResult> OnPostRepeatAsync(CancellationToken ct) => WriteAsync(Me.CanRecord, () => LoadAsync(ct), () => Writes.RepeatAsync(Key, Me.Id, Number, clock.Today, ct));

    /// <summary>Rows or columns as choices, numbered from 1.</summary>
    public static IEnumerable<SelectListItem> Lines(string[] names) => names.Select((n, i) => new SelectListItem(n, (i + 1).ToString(CultureInfo.InvariantCulture)));

    /// <summary>What the script of the page needs to know of the sheet.</summary>
    public string Shape() => JsonSerializer.Serialize(
        new { rows = Sheet.Rows, columns = Sheet.Columns, starts = Sheet.RowStarts, ends = Sheet.RowEnds, centre = Sheet.CentreAfterRow ?? 0, columnsAre = Sheet.ColumnsAre.ToLowerInvariant() }, JsonSerializerOptions.Web);

    /// <summary>What each cell holds, for keyboard and screen reader: values with a mark, commas between cells and bars between rows.</summary>
    public string Values()
    {
        var unit = Unit.BySymbol(Sheet.UnitSymbol)!;
        var b = new StringBuilder();
        for (var r = 1; r <= Sheet.Rows.Length; r++)
        {
            b.Append(r > 1 ? "|" : string.Empty);
            for (var c = 1; c <= Sheet.Columns.Length; c++)
            {
                b.Append(c > 1 ? "," : string.Empty);
                if (Analysis[r, c] is { } cell)
                {
                    b.Append(cell.Said is { } told ? $"({MeasureFormat.Number(unit.FromSi(told), unit.Decimals)})" : cell.Count == 0 ? "?" : MeasureFormat.Number(unit.FromSi(cell.Worst), unit.Decimals) + (cell.Verdict switch { Verdict.Beyond => "!", Verdict.AtLimit => "~", _ => string.Empty }) + (cell.Odd ? "*" : string.Empty));
                }
            }
        }

        return b.ToString();
    }

    private (IReadOnlyList<CellEntry> Cells, IReadOnlyList<CellProblem> Problems) Typed()
    {
        var (cells, problems) = (new List<CellEntry>(), new List<CellProblem>());
        foreach (var line in (Cells ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = line.Split('\t', 3);
            if (parts.Length != 3 || !int.TryParse(parts[0], out var row) || !int.TryParse(parts[1], out var column))
            {
                problems.Add(new CellProblem(0, 0, string.Empty, line, "A cell was sent that cannot be read. Load the page again."));
                continue;
            }

            var (cell, problem) = SheetEntry.Read(Sheet, row, column, parts[2]);
            if (cell is not null)
            {
                cells.Add(cell);
            }
            else if (problem is not null)
            {
                problems.Add(problem);
            }
        }

        var block = SheetEntry.ReadBlock(Sheet, Row, Column, [.. (Block ?? string.Empty).Split('\n').Select(l => l.TrimEnd('\r').Split('\t'))]);
        return ([.. cells, .. block.Cells], [.. problems, .. block.Problems]);
    }

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var found = await (
            from s in db.Sheets.AsNoTracking()
            join m in db.Machines on s.MachineId equals m.Id
            join p in db.Places on s.PlaceId equals p.Id
            where s.Number == Number
            select new { s, m, p, Later = db.Sheets.Where(x => x.EarlierId == s.Id).Min(x => (int?)x.Number) }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Sheet, Machine, Place, Later) = (found.s, found.m, found.p, found.Later);
        Holds = await PlaceWrites.StandardAtAsync(db, Place.Id, Machine, ct);
        Earlier = Sheet.EarlierId is { } earlier
            ? await db.Sheets.FromSql($"with recursive chain as (select s.id, s.earlier_id from survey_sheets s where s.id = {earlier} union select s.id, s.earlier_id from survey_sheets s join chain c on s.id = c.earlier_id) select s.*, s.xmin from survey_sheets s join chain c on c.id = s.id").AsNoTracking().OrderByDescending(s => s.On).ToListAsync(ct)
            : [];
        var ids = Earlier.Select(s => s.Id).Append(Sheet.Id).ToList();

        // What the page does not show is not fetched: a sheet may have ten thousand readings.
        var readings = (await db.Readings.Where(r => ids.Contains(r.SheetId)).Select(r => new SheetReading { SheetId = r.SheetId, Row = r.Row, Column = r.Column, Turn = r.Turn, Si = r.Si, Mark = r.Mark, Evidence = r.Evidence, ById = r.ById }).ToListAsync(ct)).ToLookup(r => r.SheetId);
        var readers = readings[Sheet.Id].Select(r => r.ById).Distinct().ToList();
        Readers = readers.Count == 0 ? string.Empty : string.Join(", ", await db.People.Where(p => readers.Contains(p.Id)).OrderBy(p => p.Name).Select(p => p.Name).Take(3).ToListAsync(ct));
        Analysis = SheetAnalysis.Of(Sheet, readings[Sheet.Id], For ?? Holds.Standard);
        Trend = SheetTrend.Of([.. Earlier.Append(Sheet).Select(s => (s, readings[s.Id]))], For ?? Holds.Standard, 3);
        var read = Analysis.Cells.Where(c => c.Count > 0).ToList();
        Worst = read.Count == 0 ? null : read.MaxBy(c => c.Used ?? c.LossPercent ?? (VerdictRule.Shrinks(Sheet.Feature) ? -c.Worst : c.Worst));
        ProfileRow = Line is { } line && line >= 1 && line <= Sheet.Rows.Length ? line : Worst?.Row ?? 0;
        return true;
    }
}
