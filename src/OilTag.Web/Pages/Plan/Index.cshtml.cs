using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>The milestones with their forecast, machine by machine.</summary>
public sealed class IndexModel(WorkshopLoader workshop, ShedClock clock) : PageModel
{
    public IReadOnlyList<(Milestone Milestone, string Countdown, IReadOnlyList<(Machine Machine, Forecast Forecast)> Shares)> Rows { get; private set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        var shop = await workshop.LoadAsync(clock.Today, ct: ct);
        Machines = shop.Machines;
        Rows = [.. shop.Milestones.Select(m => (m, shop.Calendar.Count(clock.Today, m.On), Shares(shop, m)))];
    }

    private static IReadOnlyList<(Machine, Forecast)> Shares(Workshop shop, Milestone m) =>
        [.. shop.Machines.Where(x => shop.Packages.Any(p => p.MilestoneId == m.Id && p.MachineId == x.Id)).Select(x => (x, shop.Forecast(m, x.Id)))];
}
