using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Lifting;
using OilTag.Core.Machines;
using OilTag.Data;

namespace OilTag.Web.Pages.Lifting;

/// <summary>All plans of lifts, the newest first.</summary>
public sealed class IndexModel(OilTagDb db) : PageModel
{
    public IReadOnlyList<(LiftPlan Plan, Machine Machine, bool Stopped)> Plans { get; private set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var all = await (from l in db.Lifts.AsNoTracking() join m in db.Machines on l.MachineId equals m.Id orderby l.Number descending select new { l, m, Stopped = db.LiftStops.Any(s => s.PlanId == l.Id && s.ClearedAt == null) }).Take(200).ToListAsync(ct);
        Plans = [.. all.Select(x => (x.l, x.m, x.Stopped))];
    }
}
