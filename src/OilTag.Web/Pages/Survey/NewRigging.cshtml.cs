using Microsoft.AspNetCore.Mvc;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Begins a rigging check at a place.</summary>
public sealed class NewRiggingModel(OilTagDb db, Me me, RiggingWrites writes) : PlanPage(db)
{
    [BindProperty]
    public string? CheckTitle { get; set; }

    [BindProperty]
    public string? Levelled { get; set; }

    [BindProperty]
    public string? Stations { get; set; }

    [BindProperty]
    public string? Adjusters { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => !me.CanRecord ? Forbid() : await LoadPlaceAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadPlaceAsync(ct), () => writes.SaveAsync(Key, me.Id, null, PlaceId, 0, new RiggingEntry(CheckTitle, Levelled, Stations, Adjusters), ct));
}
