using Microsoft.AspNetCore.Mvc;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Plans a survey sheet at a place.</summary>
public sealed class PlanModel(OilTagDb db, Me me, ShedClock clock, SheetWrites writes) : PlanPage(db)
{
    [BindProperty]
    public string? Title { get; set; }

    [BindProperty]
    public Feature? Feature { get; set; } = Core.Survey.Feature.Thickness;

    [BindProperty]
    public string? Unit { get; set; } = "mm";

    [BindProperty]
    public string? RowsAre { get; set; }

    [BindProperty]
    public string? Rows { get; set; }

    [BindProperty]
    public string? ColumnsAre { get; set; }

    [BindProperty]
    public string? Columns { get; set; }

    [BindProperty]
    public string? Nominal { get; set; }

    [BindProperty]
    public string? LimitDisplay { get; set; }

    [BindProperty]
    public string? LimitDemonstrate { get; set; }

    [BindProperty]
    public string? LimitService { get; set; }

    [BindProperty]
    public string? Instrument { get; set; }

    [BindProperty]
    public string? Repeatability { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => !me.CanRecord ? Forbid() : await LoadPlaceAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadPlaceAsync(ct),
        () => writes.PlanAsync(
            Key, me.Id, PlaceId,
            new SheetPlan
            {
                Title = Title,
                Feature = Feature,
                Unit = Unit,
                RowsAre = RowsAre,
                Rows = Rows,
                ColumnsAre = ColumnsAre,
                Columns = Columns,
                Nominal = Nominal,
                LimitDisplay = LimitDisplay,
                LimitDemonstrate = LimitDemonstrate,
                LimitService = LimitService,
                Instrument = Instrument,
                Repeatability = Repeatability,
            },
            clock.Today, ct));
}
