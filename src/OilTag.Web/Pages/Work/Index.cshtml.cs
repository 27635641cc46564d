using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>All packages: stuck ones first, then those at a hold, then the rest.</summary>
public sealed class IndexModel(OilTagDb db, ShedClock clock) : PageModel
{
    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true)]
    public bool Closed { get; set; }

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<(PackageFacts Package, Machine Machine, string Place, string Milestone)> Rows { get; private set; } = [];

    public int Stuck { get; private set; }

    public int AtHold { get; private set; }

    public int ClosedCount { get; private set; }

    public async Task OnGetAsync(CancellationToken ct)
    {
        var shop = await WorkshopQuery.LoadAsync(db, clock.Today, null, ct);
        Machines = shop.Machines;
        var machines = shop.Machines.ToDictionary(m => m.Id);
        var places = shop.Places.ToDictionary(p => p.Id, p => p.FullName);
        var milestones = shop.Milestones.ToDictionary(m => m.Id, m => m.Name);
        var all = shop.Packages.Where(p => Letter is null || machines[p.MachineId].Letter == Letter).ToList();
        Stuck = all.Count(p => !p.Closed && p.WaitingOn.Length > 0);
        AtHold = all.Count(p => !p.Closed && p.AtHold);
        ClosedCount = all.Count(p => p.Closed);
        Rows = [.. all.Where(p => p.Closed == Closed)
            .OrderBy(p => p.WaitingOn.Length > 0 ? 0 : p.AtHold ? 1 : 2).ThenBy(p => machines[p.MachineId].Bay).ThenBy(p => p.Number)
            .Select(p => (p, machines[p.MachineId], places[p.PlaceId], p.MilestoneId is { } id ? milestones[id] : string.Empty))];
    }
}
