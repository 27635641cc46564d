using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>All tags, those that need something first.</summary>
public sealed class IndexModel(OilTagDb db, WorkshopLoader workshop, ShedClock clock) : PageModel
{
    public const int PageSize = 60;

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true, Name = "s")]
    public string? Wanted { get; set; }

    [BindProperty(SupportsGet = true, Name = "sheet")]
    public int Sheet { get; set; } = 1;

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<(TagFacts Tag, StateWords State, Machine Machine)> Tags { get; private set; } = [];

    public IReadOnlyDictionary<PartState, int> Counts { get; private set; } = new Dictionary<PartState, int>();

    public int Total { get; private set; }

    public int Sheets => Math.Max(1, (Total + PageSize - 1) / PageSize);

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var byId = Machines.ToDictionary(m => m.Id);
        var machineId = Machines.FirstOrDefault(m => m.Letter == Letter)?.Id;
        var all = db.Tags.Where(t => machineId == null || t.MachineId == machineId);
        var ended = await all.CountAsync(t => t.End != null, ct);
        var shop = await workshop.LoadAsync(clock.Today, machineId is null ? null : Letter, ct);
        var open = shop.Tags.Select(t => (Tag: t, State: PartStates.Of(t, clock.Today), Machine: byId[t.MachineId])).ToList();
        Counts = open.GroupBy(x => x.State.State).OrderBy(g => g.Key).Select(g => (g.Key, Count: g.Count())).Append((PartState.BackOn, ended)).ToDictionary(g => g.Item1, g => g.Item2);
        if (Wanted == Say.Mark(PartState.BackOn))
        {
            Total = ended;
            Sheet = Math.Clamp(Sheet, 1, Sheets);
            var page = await WorkshopQuery.TagsAsync(db, all.Where(t => t.End != null).OrderByDescending(t => t.Number).Skip((Sheet - 1) * PageSize).Take(PageSize), shop.Packages, clock.Today, ct);
            Tags = [.. page.OrderByDescending(t => t.Number).Select(t => (t, PartStates.Of(t, clock.Today), byId[t.MachineId]))];
            return;
        }

        var shown = open.Where(x => Wanted is null || Say.Mark(x.State.State) == Wanted).OrderBy(x => x.State.State).ThenByDescending(x => x.Tag.Number).ToList();
        Total = shown.Count;
        Sheet = Math.Clamp(Sheet, 1, Sheets);
        Tags = [.. shown.Skip((Sheet - 1) * PageSize).Take(PageSize)];
    }
}
