using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>All machines at once.</summary>
public sealed class ShedModel(OilTagDb db, WorkshopLoader workshop, ShedClock clock) : PageModel
{
    public IReadOnlyList<Bay> Bays { get; private set; } = [];

    public IReadOnlyList<LateWorker> Late { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        var shop = await workshop.LoadAsync(clock.Today, ct: ct);
        Bays = shop.Bays();
        Late = await WorkshopQuery.LateWorkersAsync(db, clock.Today, 8, ct);
    }
}
