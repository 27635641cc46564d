using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>All tags, those that need something first.</summary>
public sealed class IndexModel(OilTagDb db, ShedClock clock) : PageModel
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
        var shop = await WorkshopQuery.LoadAsync(db, clock.Today, null, ct);
        Machines = shop.Machines;
        var byId = shop.Machines.ToDictionary(m => m.Id);
        var all = shop.Tags.Select(t => (Tag: t, State: PartStates.Of(t, clock.Today), Machine: byId[t.MachineId]))
            .Where(x => Letter is null || x.Machine.Letter == Letter).ToList();
        Counts = all.GroupBy(x => x.State.State).OrderBy(g => g.Key).ToDictionary(g => g.Key, g => g.Count());
        var shown = all.Where(x => Wanted is null ? x.Tag.End is null : Say.Mark(x.State.State) == Wanted).OrderBy(x => x.State.State).ThenByDescending(x => x.Tag.Number).ToList();
        Total = shown.Count;
        Sheet = Math.Clamp(Sheet, 1, Sheets);
        Tags = [.. shown.Skip((Sheet - 1) * PageSize).Take(PageSize)];
    }
}
