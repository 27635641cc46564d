using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>How the machines stand among each other: what each takes of the floor and the hours, when it is open, and what is gone meanwhile.</summary>
public sealed class MachinesModel(OilTagDb db, WorkshopLoader workshop, PlanLoader plans, ShedClock clock) : PageModel
{
    public Workshop Shop { get; private set; } = null!;

    public ReadyPlan? Plan { get; private set; }

    /// <summary>How sure it is that a machine is whole when a window begins, in words; null where nothing that opens it is planned.</summary>
    public string? Whole(string letter, MachineWindow window)
    {
        ArgumentNullException.ThrowIfNull(window);
        return Plan?.Result.Forecast?.Windows.FirstOrDefault(
            w => w.Machine == letter && w.Window.When.From == LocalDate.FromDateOnly(window.From))?.Words;
    }

    public IReadOnlyList<(Machine Machine, MachineCost Cost)> Lines { get; private set; } = [];

    public ILookup<string, TakenAway> Taken { get; private set; } = Array.Empty<TakenAway>().ToLookup(t => t.Machine);

    public async Task OnGetAsync(CancellationToken ct)
    {
        (Plan, _) = await plans.PresentAsync(ct);
        Shop = await workshop.LoadAsync(clock.Today, ct: ct);
        var floor = await db.Settings.AsNoTracking().Select(s => s.FloorPence).SingleOrDefaultAsync(ct);
        var since = clock.Today.PlusWeeks(-MachineCost.RecentWeeks);
        var minutes = Shop.Worked.Where(w => w.On >= since).ToLookup(w => w.MachineId, w => w.Minutes);
        var all = minutes.Sum(g => g.Sum());
        Lines = [.. Shop.Machines.Select(m => (m, MachineCost.Of(m.Floor, m.KeepMinutes, floor, minutes[m.Id].Sum(), all, Shop.Packages.Where(p => p.MachineId == m.Id).Aggregate(HoursRange.None, (sum, p) => sum + p.Remaining))))];
        Taken = Plan is null ? Taken : PlanOpen.TakenAway(Plan.Input, Plan.Result.Schedule).ToLookup(t => t.Machine, StringComparer.Ordinal);
    }
}
