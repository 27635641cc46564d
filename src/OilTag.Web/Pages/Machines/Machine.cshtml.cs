using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>One machine: its drawing with the breakdown, beside its tags.</summary>
public sealed class MachineModel(OilTagDb db, WorkshopLoader workshop, ShedClock clock) : PageModel
{
    public const int MostTags = 24;

    public Bay Bay { get; private set; } = null!;

    public IReadOnlyList<AssemblyLine> Lines { get; private set; } = [];

    public IReadOnlyList<(TagFacts Tag, StateWords State)> Open { get; private set; } = [];

    public IReadOnlyList<(string Region, int Number)> Hung { get; private set; } = [];

    public Totals Totals { get; private set; } = null!;

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        var shop = await workshop.LoadAsync(clock.Today, letter.ToUpperInvariant(), ct: ct);
        if (shop.Machines.Count == 0)
        {
            return NotFound();
        }

        var view = new MachineView(shop, shop.Machines[0]);
        Bay = view.Bay();
        Lines = view.Assemblies();
        Open = [.. shop.Tags.Select(t => (Tag: t, State: PartStates.Of(t, clock.Today))).OrderBy(x => x.State.State).ThenByDescending(x => x.Tag.Number)];
        var id = Bay.Machine.Id;
        Totals = Totals.Of(shop.Packages, await WorkshopQuery.ClosedTotalsAsync(db, db.Packages.Where(k => k.MachineId == id), ct));
        Hung = [.. Lines.Where(l => l.Place.Region.Length > 0)
            .Select(l => (l.Place.Region, Worst: view.TagsWithin(l.Place.Id).OrderBy(t => t.State.State).ThenByDescending(t => t.Tag.Number).Select(t => t.Tag.Number).FirstOrDefault()))
            .Where(x => x.Worst > 0)
            .Select(x => (x.Region, x.Worst))
            .DistinctBy(x => x.Worst)
            .Take(7)];
        return Page();
    }
}
