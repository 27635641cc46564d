using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Regions of a sheet with their sizes and limits, and marked sources of trouble.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class RegionsModel(OilTagDb db, Me me, ShedClock clock, SheetWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public int Number { get; set; }

    /// <summary>The region that is changed, from nought; null adds one.</summary>
    [BindProperty(SupportsGet = true, Name = "change")]
    public int? Change { get; set; }

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public string? RegionName { get; set; }

    [BindProperty]
    public int RowFrom { get; set; } = 1;

    [BindProperty]
    public int RowTo { get; set; } = 1;

    [BindProperty]
    public int ColumnFrom { get; set; } = 1;

    [BindProperty]
    public int ColumnTo { get; set; } = 1;

    [BindProperty]
    public string? Nominal { get; set; }

    [BindProperty]
    public string? LimitDisplay { get; set; }

    [BindProperty]
    public string? LimitDemonstrate { get; set; }

    [BindProperty]
    public string? LimitService { get; set; }

    [BindProperty]
    public string? ReplacedIn { get; set; }

    [BindProperty]
    public string? SourceName { get; set; }

    [BindProperty]
    public SourceKind? Kind { get; set; }

    /// <summary>The row after which the centre line runs; nought for none.</summary>
    [BindProperty]
    public int Centre { get; set; }

    public SurveySheet Sheet { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    private SheetArea Area => new(RowFrom, RowTo, ColumnFrom, ColumnTo);

    private RegionPlan Plan => new(RegionName, Area, Nominal, LimitDisplay, LimitDemonstrate, LimitService, ReplacedIn);

    public static string Words(SourceKind kind) => kind switch { SourceKind.Outlet => "Outlet", SourceKind.Drain => "Drain", SourceKind.WaterLine => "Water line", SourceKind.Seam => "Seam or lap", _ => "Another metal" };

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        if (Change is { } i && i >= 0 && i < Sheet.Regions.Count && Sheet.Regions[i] is var r)
        {
            string? Limit(RestorationStandard standard) => r.LimitFor(standard)?.Text;
            (RegionName, Nominal, ReplacedIn) = (r.Name, r.Nominal?.Text, r.ReplacedIn?.ToString(System.Globalization.CultureInfo.InvariantCulture));
            (RowFrom, RowTo, ColumnFrom, ColumnTo) = (r.RowFrom, r.RowTo, r.ColumnFrom, r.ColumnTo);
            (LimitDisplay, LimitDemonstrate, LimitService) = (Limit(RestorationStandard.Display), Limit(RestorationStandard.Demonstrate), Limit(RestorationStandard.Service));
        }
        else
        {
            Change = null;
        }

        return Page();
    }

    public Task<IActionResult> OnPostRegionAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => Change is { } index
        ? writes.ChangeRegionAsync(Key, me.Id, Number, Seen, index, Plan, clock.Today, ct)
        : writes.AddRegionAsync(Key, me.Id, Number, Seen, Plan, clock.Today, ct));

    public Task<IActionResult> OnPostSourceAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.AddSourceAsync(Key, me.Id, Number, Seen, Kind, SourceName, Area, ct));

    public Task<IActionResult> OnPostCentreAsync(CancellationToken ct) =>
        WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.CentreAsync(Key, me.Id, Number, Seen, Centre == 0 ? null : Centre, ct));

    public Task<IActionResult> OnPostAwayAsync(bool region, int index, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.TakeAwayAsync(Key, me.Id, Number, Seen, region, index, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var found = await (from s in db.Sheets.AsNoTracking() join m in db.Machines on s.MachineId equals m.Id where s.Number == Number select new { s, m }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Sheet, Machine) = (found.s, found.m);
        return true;
    }
}
