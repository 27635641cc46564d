using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>One shelf, bench, box or shop: what is there; bring things, move the box, walk it.</summary>
public sealed class AtModel(OilTagDb db, ShedClock clock, Me me, StoreWrites writes) : FormPage
{
    public StorePlace Store { get; private set; } = null!;

    public string StandsAt { get; private set; } = string.Empty;

    public IReadOnlyList<StorePlace> Boxes { get; private set; } = [];

    public IReadOnlyList<(TagFacts Tag, StateWords State, Machine Machine)> Tags { get; private set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    /// <summary>The walk that is shown, with who walked; null when there was none.</summary>
    public (StockTake Walk, string By)? Walk { get; private set; }

    [BindProperty(SupportsGet = true, Name = "walk")]
    public Guid? WalkId { get; set; }

    [BindProperty]
    public string? Seen { get; set; }

    [BindProperty]
    public string? Walked { get; set; }

    [BindProperty]
    public List<int> Ticked { get; set; } = [];

    [BindProperty]
    public bool PutHere { get; set; }

    [BindProperty]
    public bool MarkMissing { get; set; }

    [BindProperty]
    public string? Where { get; set; }

    [BindProperty]
    public DateOnly? DueBack { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostBringAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.BringAsync(Key, me.Id, number, Seen, ToDate(DueBack), clock.Today, ct));

    public Task<IActionResult> OnPostBoxAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.MoveBoxAsync(Key, me.Id, number, Where, ct));

    public Task<IActionResult> OnPostWalkAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.StockTakeAsync(Key, me.Id, number, string.Join(' ', Ticked.Take(StockTakeRule.MostNumbers)) + " " + Walked, PutHere, MarkMissing, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (await db.StorePlaces.AsNoTracking().SingleOrDefaultAsync(p => p.Number == number, ct) is not { } store)
        {
            return false;
        }

        Store = store;
        var related = await db.StorePlaces.AsNoTracking().Where(p => p.Id == store.StandsAtId || p.StandsAtId == store.Id).ToListAsync(ct);
        StandsAt = related.Find(p => p.Id == store.StandsAtId)?.Name ?? string.Empty;
        Boxes = [.. related.Where(p => p.StandsAtId == store.Id).OrderBy(p => p.Name, StringComparer.CurrentCulture)];
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var byId = Machines.ToDictionary(m => m.Id);
        var expected = await StoreWrites.ExpectedAsync(db, store, ct);
        var tags = await WorkshopQuery.TagsAsync(db, db.Tags.Where(t => expected.Contains(t.Number)), [], clock.Today, ct);
        Tags = [.. tags.OrderBy(t => t.Number).Select(t => (t, PartStates.Of(t, clock.Today), byId[t.MachineId]))];
        var walk = await (from w in db.StockTakes.AsNoTracking() join p in db.People on w.ById equals p.Id where w.StorePlaceId == store.Id && (WalkId == null || w.Id == WalkId) orderby w.At descending select new { w, p.Name }).FirstOrDefaultAsync(ct);
        Walk = walk is null ? null : (walk.w, walk.Name);
        return true;
    }
}
