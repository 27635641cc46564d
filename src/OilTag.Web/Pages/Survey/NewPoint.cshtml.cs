using Microsoft.AspNetCore.Mvc;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Sets up a check point at a place.</summary>
public sealed class NewPointModel(OilTagDb db, Me me, PointWrites writes) : PlanPage(db)
{
    [BindProperty(Name = "")]
    public PointPlan Entry { get; set; } = new();

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => !me.CanRecord ? Forbid() : await LoadPlaceAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadPlaceAsync(ct), () => writes.AddAsync(Key, me.Id, PlaceId, Entry, ct));
}
