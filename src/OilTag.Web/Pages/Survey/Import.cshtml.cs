using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>What a file would put into the cells, before it is taken. Nothing is recorded until then.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class ImportModel(OilTagDb db, Me me, IClock time, SheetWrites writes, ImportStore imports) : CellsForm(me, time, writes)
{
    [BindProperty(SupportsGet = true)]
    public Guid Id { get; set; }

    public SurveySheet Sheet { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public SheetEntryResult Result { get; private set; } = null!;

    /// <summary>The sheet as it would be.</summary>
    public SheetAnalysis Analysis { get; private set; } = null!;

    public int Readings { get; private set; }

    /// <summary>Cells that hold something else now.</summary>
    public IReadOnlyList<string> Overwritten { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(Me.CanRecord, () => LoadAsync(ct), async () =>
    {
        var outcome = await FillAsync(Result.Cells, ct);
        if (outcome.Ok)
        {
            imports.Drop(Id);
        }

        return outcome;
    });

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var found = await (from s in db.Sheets.AsNoTracking() join m in db.Machines on s.MachineId equals m.Id where s.Number == Number select new { s, m }).SingleOrDefaultAsync(ct);
        if (found is null || await imports.ReadAsync(Id, ct) is not { } file)
        {
            return false;
        }

        (Sheet, Machine) = (found.s, found.m);
        Result = SheetEntry.ReadFile(Sheet, CsvTable.Read(file).Lines);
        var there = await db.Readings.AsNoTracking().Where(r => r.SheetId == Sheet.Id).ToListAsync(ct);
        var now = there.ToLookup(r => (r.Row, r.Column));
        var changed = Result.Cells.ToDictionary(c => (c.Row, c.Column));
        Readings = Result.Cells.Sum(c => c.Readings.Count);
        Overwritten = [.. Result.Cells.Where(c => now.Contains((c.Row, c.Column)) && SheetWrites.Said(now[(c.Row, c.Column)]) != SheetWrites.Said(c)).Select(c => Sheet.NameOf(c.Row, c.Column))];
        var asItWouldBe = there.Where(r => !changed.ContainsKey((r.Row, r.Column))).Concat(Result.Cells.SelectMany(c => c.Mark == CellMark.Measured
            ? c.Readings.Select((m, i) => new SheetReading { Row = c.Row, Column = c.Column, Turn = i + 1, Text = m.Text, Si = m.Si, Evidence = c.Evidence })
            : [new SheetReading { Row = c.Row, Column = c.Column, Turn = 1, Mark = c.Mark }]));
        Analysis = SheetAnalysis.Of(Sheet, asItWouldBe, (await PlaceWrites.StandardAtAsync(db, Sheet.PlaceId, Machine, ct)).Standard);
        return true;
    }
}
