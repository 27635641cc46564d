using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>One milestone: how likely, when, and how that was worked out; what it needs.</summary>
public sealed class MilestoneModel(OilTagDb db, WorkshopLoader workshop, ShedClock clock) : PageModel
{
    public Milestone Milestone { get; private set; } = null!;

    public string Countdown { get; private set; } = string.Empty;

    public IReadOnlyList<(Machine Machine, Forecast Forecast)> Shares { get; private set; } = [];

    public IReadOnlyList<(PackageFacts Package, Machine Machine)> Packages { get; private set; } = [];

    public Totals Totals { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        var shop = await workshop.LoadAsync(clock.Today, ct: ct);
        if (shop.Milestones.FirstOrDefault(m => m.Id == id) is not { } milestone)
        {
            return NotFound();
        }

        Milestone = milestone;
        Countdown = shop.Calendar.Count(clock.Today, milestone.On);
        var mine = shop.Packages.Where(p => p.MilestoneId == id).ToList();
        Totals = Totals.Of(mine, await WorkshopQuery.ClosedTotalsAsync(db, db.Packages.Where(k => k.MilestoneId == id), ct));
        Packages = [.. mine.OrderBy(p => p.WaitingOn.Length > 0 ? 0 : 1).ThenByDescending(p => p.Remaining.Likely).Select(p => (p, shop.Machines.First(m => m.Id == p.MachineId)))];
        Shares = [.. shop.Machines.Where(m => mine.Exists(p => p.MachineId == m.Id)).Select(m => (m, shop.Forecast(milestone, m.Id)))];
        return Page();
    }
}
