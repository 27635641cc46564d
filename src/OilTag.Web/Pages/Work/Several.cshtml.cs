using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>Open steps of several packages in one look.</summary>
public sealed class SeveralModel(OilTagDb db, ShedClock clock, StandLoader stands) : PageModel
{
    /// <summary>Most packages in one look.</summary>
    public const int Most = 40;

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true, Name = "milestone")]
    public Guid? Milestone { get; set; }

    /// <summary>Numbers of packages that were chosen.</summary>
    [BindProperty(SupportsGet = true, Name = "k")]
    public IReadOnlyList<int> Numbers { get; set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<(WorkPackage Package, Machine Machine, PackageStand Stand)> Rows { get; private set; } = [];

    public IReadOnlyList<(Guid Id, string Name)> Milestones { get; private set; } = [];

    public int More { get; private set; }

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        Milestones = [.. (await db.Milestones.AsNoTracking().Where(m => m.EndedAt == null).OrderBy(m => m.On).Select(m =>
            new { m.Id, m.Name }).ToListAsync(ct)).Select(m => (m.Id, m.Name))];
        var machine = Machines.FirstOrDefault(m => m.Letter == Letter)?.Id;
        var which = db.Packages.Where(k => k.ClosedAt == null && (machine == null || k.MachineId == machine)
            && (Milestone == null || k.MilestoneId == Milestone) && (Numbers.Count == 0 || Numbers.Contains(k.Number)));
        More = Math.Max(0, await which.CountAsync(ct) - Most);
        var packages = await which.AsNoTracking().Include(k => k.Operations).OrderBy(k => k.Number).Take(Most).ToListAsync(ct);
        var shed = await stands.LoadAsync(db, clock.Now, ct);
        Rows = [.. packages.Select(k => (k, Machines.First(m => m.Id == k.MachineId), PackageStand.Of(k, shed)))];
    }
}
