using Microsoft.AspNetCore.Mvc;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>One milestone: how likely, when, and how that was worked out; what it needs.</summary>
public sealed class MilestoneModel(OilTagDb db, WorkshopLoader workshop, PlanLoader plans, ShedClock clock, Me me, PlanWrites writes, KeeperWrites keeper) : FormPage
{
    public Milestone Milestone { get; private set; } = null!;

    public string Countdown { get; private set; } = string.Empty;

    public IReadOnlyList<(Machine Machine, Forecast Forecast)> Shares { get; private set; } = [];

    public IReadOnlyList<(PackageFacts Package, Machine Machine)> Packages { get; private set; } = [];

    public Totals Totals { get; private set; } = null!;

    /// <summary>What the runs of the plan say of it; null while the plan does not know it.</summary>
    public SimulatedMilestone? Runs { get; private set; }

    [BindProperty]
    public int InTen { get; set; } = 8;

    [BindProperty]
    public string? MilestoneName { get; set; }

    [BindProperty]
    public DateOnly? MilestoneOn { get; set; }

    [BindProperty]
    public bool MilestoneFixed { get; set; }

    [BindProperty]
    public string? MilestoneWeight { get; set; }

    [BindProperty]
    public string? MilestoneWhy { get; set; }

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadAsync(id, ct))
        {
            return NotFound();
        }

        Fill();
        return Page();
    }

    public Task<IActionResult> OnPostChangeAsync(Guid id, CancellationToken ct) => WriteAsync(me.IsKeeper, () => LoadAsync(id, ct), () => keeper.ChangeMilestoneAsync(Key, me.Id, id, MilestoneName, ToDate(MilestoneOn), MilestoneFixed, MilestoneWeight, MilestoneWhy, clock.Today, ct));

    private void Fill() => (MilestoneName, MilestoneOn, MilestoneFixed, MilestoneWeight, MilestoneWhy) = (Milestone.Name, Milestone.On.ToDateOnly(), Milestone.Fixed, Milestone.Weight.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture), Milestone.Why);

    /// <summary>Asks for the smallest changes that bring it to a chance.</summary>
    public Task<IActionResult> OnPostAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.AdviseAsync(Key, me.Id, id, InTen, clock.Today, ct), Fill);

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        var shop = await workshop.LoadAsync(clock.Today, ct: ct);
        if (shop.Milestones.FirstOrDefault(m => m.Id == id) is not { } milestone)
        {
            return false;
        }

        Milestone = milestone;
        Runs = (await plans.PresentAsync(ct)).Plan?.Milestone(id);
        Countdown = shop.Calendar.Count(clock.Today, milestone.On);
        var mine = shop.Packages.Where(p => p.MilestoneId == id).ToList();
        Totals = Totals.Of(mine, await WorkshopQuery.ClosedTotalsAsync(db, db.Packages.Where(k => k.MilestoneId == id), ct));
        Packages = [.. mine.OrderBy(p => p.WaitingOn.Length > 0 ? 0 : 1).ThenByDescending(p => p.Remaining.Likely).Select(p => (p, shop.Machines.First(m => m.Id == p.MachineId)))];
        Shares = [.. shop.Machines.Where(m => mine.Exists(p => p.MachineId == m.Id)).Select(m => (m, shop.Forecast(milestone, m.Id)))];
        return true;
    }
}
