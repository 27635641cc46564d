using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Core.Work;
using OilTag.Data.Machines;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>All packages: stuck ones first, then those at a hold, then the rest.</summary>
public sealed class IndexModel(OilTagDb db, ShedClock clock, StandLoader stands) : PageModel
{
    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Closed { get; set; }

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<(PackageFacts Package, Machine Machine, string Milestone, PackageStand? Stand)> Rows { get; private set; } = [];

    public int Stuck { get; private set; }

    public int AtHold { get; private set; }

    public int Ready { get; private set; }

    public int ClosedCount { get; private set; }

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var machines = Machines.ToDictionary(m => m.Id);
        var milestones = await db.Milestones.AsNoTracking().ToDictionaryAsync(m => m.Id, m => m.Name, ct);
        var machineId = Machines.FirstOrDefault(m => m.Letter == Letter)?.Id;
        var all = db.Packages.Where(k => machineId == null || k.MachineId == machineId);
        ClosedCount = await all.CountAsync(k => k.ClosedAt != null, ct);
        var rows = await WorkshopQuery.PackagesAsync(db, all.Where(k => Closed ? k.ClosedAt != null : k.ClosedAt == null), ct);
        var stood = new Dictionary<Guid, PackageStand>();
        if (!Closed)
        {
            var shed = await stands.LoadAsync(db, clock.Now, ct);
            stood = (await all.AsNoTracking().Where(k => k.ClosedAt == null).Include(k => k.Operations).ToListAsync(ct)).ToDictionary(k =>
                k.Id, k => PackageStand.Of(k, shed));
        }

        Stuck = stood.Values.Count(s => s.State == PackageState.Waiting);
        AtHold = stood.Values.Count(s => s.State == PackageState.Held);
        Ready = stood.Values.Count(s => s.State == PackageState.Ready);
        Rows = [.. rows
            .OrderBy(p => !stood.TryGetValue(p.Id, out var s) ? 3 : s.State == PackageState.Waiting ? 0 : s.State == PackageState.Held ? 1
                : 2).ThenBy(p => machines[p.MachineId].Bay).ThenBy(p => p.Number)
            .Select(p => (p, machines[p.MachineId], p.MilestoneId is { } id ? milestones[id] : string.Empty,
                stood.GetValueOrDefault(p.Id)))];
    }
}
