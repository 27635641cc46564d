using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>Milestones that are wanted, and those that were; leads set them.</summary>
public sealed class MilestonesModel(OilTagDb db, Me me, ShedClock clock, MilestoneWrites writes) : FormPage
{
    public IReadOnlyList<(Milestone Milestone, string Machine, int Open)> Rows { get; private set; } = [];

    public IReadOnlyList<Milestone> Ended { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Machines { get; private set; } = [];

    [BindProperty]
    public MilestoneForm Form { get; set; } = new();

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.SetAsync(Key, me.Id, Form.Entry(), clock.Today, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        Machines = [new SelectListItem("Packages alone", string.Empty), .. machines.Select(m => new SelectListItem(m.Name, m.Id.ToString()))];
        var all = await db.Milestones.AsNoTracking().OrderBy(m => m.On).ThenBy(m => m.Id).ToListAsync(ct);
        var open = await db.Packages.Where(k => k.ClosedAt == null && k.MilestoneId != null).GroupBy(k => k.MilestoneId!.Value).Select(g => new { g.Key, Count = g.Count() }).ToDictionaryAsync(g => g.Key, g => g.Count, ct);
        Rows = [.. all.Where(m => m.EndedAt is null).Select(m => (m, machines.Find(x => x.Id == m.MachineId)?.Name ?? string.Empty, open.GetValueOrDefault(m.Id)))];
        Ended = [.. all.Where(m => m.EndedAt is not null).OrderByDescending(m => m.EndedAt)];
        return true;
    }
}
