using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>Last chance to measure: irreversible acts at a place, and what cannot be known after them.</summary>
public sealed class ActsModel(OilTagDb db, Me me, ActWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public RestorationStandard Standard { get; private set; }

    public IReadOnlyList<(IrreversibleAct Act, string By, string Second, string DoneBy)> Acts { get; private set; } = [];

    [BindProperty]
    public ActKind? Kind { get; set; }

    [BindProperty]
    public string? More { get; set; }

    [BindProperty]
    public Guid Act { get; set; }

    [BindProperty]
    public int Item { get; set; }

    [BindProperty]
    public string? Result { get; set; }

    [BindProperty]
    public bool Waived { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct) => await LoadAsync(id, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostPlanAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.PlanAsync(Key, me.Id, id, Kind, More, ct));

    public Task<IActionResult> OnPostKnowAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.KnowAsync(Key, me.Id, id, Act, Item, Result, Waived, Version, ct));

    public Task<IActionResult> OnPostSecondAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.SecondAsync(Key, me.Id, id, Act, ct));

    public Task<IActionResult> OnPostDoneAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.DoneAsync(Key, me.Id, id, Act, Standard, ct));

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (await PlaceWrites.FindAsync(db, id, ct) is not { } found)
        {
            return false;
        }

        (Place, Machine) = found;
        Standard = (await PlaceWrites.StandardAtAsync(db, id, Machine, ct)).Standard;
        var acts = await db.IrreversibleActs.AsNoTracking().Where(a => a.PlaceId == id).OrderByDescending(a => a.At).Take(12).ToListAsync(ct);
        var who = acts.SelectMany(a => new[] { a.ById, a.SecondById ?? a.ById, a.DoneById ?? a.ById }).Distinct().ToList();
        var names = await db.People.Where(p => who.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        Acts = [.. acts.Select(a => (a, names[a.ById], a.SecondById is { } s ? names[s] : string.Empty, a.DoneById is { } d ? names[d] : string.Empty))];
        return true;
    }
}
