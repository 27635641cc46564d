using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>All machines at once.</summary>
public sealed class ShedModel(OilTagDb db, WorkshopLoader workshop, PlanLoader plans, ShedClock clock) : PageModel
{
    public IReadOnlyList<Bay> Bays { get; private set; } = [];

    public IReadOnlyList<LateWorker> Late { get; private set; } = [];

    private ReadyPlan? plan;

    /// <summary>What the plan's runs say of a milestone.</summary>
    public SimulatedMilestone? Runs(Guid milestone) => plan?.Milestone(milestone);

    public async Task OnGetAsync(CancellationToken ct)
    {
        (plan, _) = await plans.PresentAsync(ct);
        var shop = await workshop.LoadAsync(clock.Today, ct: ct);
        Bays = shop.Bays();
        Late = await WorkshopQuery.LateWorkersAsync(db, clock.Today, 8, ct);
    }
}
