using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>The closing-up check of a place: what would be buried by its part, or by paint, filler, fabric or lagging over it.</summary>
public sealed class CloseModel(OilTagDb db, AccessLoader accesses, ShedClock clock, IClock now, Me me, RegisterWrites writes) : StripPlacePage(db, accesses)
{
    /// <summary>What would be closed over.</summary>
    public IReadOnlyList<OpenItem> Behind { get; private set; } = [];

    /// <summary>Places that go out of reach.</summary>
    public int Buried { get; private set; }

    public IReadOnlyList<(Closing Closing, string By, string AllowedBy)> Closings { get; private set; } = [];

    public (Surface Surface, string By)? Surface { get; private set; }

    [BindProperty]
    public ClosedWith? With { get; set; }

    [BindProperty]
    public string? Concession { get; set; }

    [BindProperty]
    public Guid Closing { get; set; }

    [BindProperty]
    public SurfaceState? State { get; set; }

    [BindProperty(Name = "SurfaceWith")]
    public string? SurfaceWith { get; set; }

    public bool IsSlot => Place.Kind == PlaceKind.Slot;

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct) => await LoadAsync(id, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostCoverAsync(Guid id, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(id, ct),
        async () => With is { } with ? await writes.CoverAsync(Key, me.Id, await me.IsInspectorNowAsync(ct), id, with, Concession, clock.Today, ct) : Data.Log.Recorded.Refused("Say with what it is covered.", "With"));

    public Task<IActionResult> OnPostUncoverAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.UncoverAsync(Key, me.Id, id, Closing, ct));

    public Task<IActionResult> OnPostSurfaceAsync(Guid id, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(id, ct),
        async () => State is { } state ? await writes.SetSurfaceAsync(Key, me.Id, id, state, SurfaceWith, ct) : Data.Log.Recorded.Refused("Say what the surface is like.", "State"));

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadPlaceAsync(id, ct))
        {
            return false;
        }

        var buried = IsSlot ? Access.Map.BuriedBy(id, Access.Off) : RegisterWrites.Under(Access, id);
        Buried = buried.Count;
        Behind = ClosingRule.Behind(buried, await Accesses.OpenAsync(Machine.Id, clock.Today, now.GetCurrentInstant(), ct), Access.Map);
        var rows = await (
            from c in Db.Closings.AsNoTracking()
            join p in Db.People on c.ById equals p.Id
            join a in Db.People on c.AllowedById equals a.Id into allowed
            from a in allowed.DefaultIfEmpty()
            where c.PlaceId == id
            orderby c.At descending
            select new { c, p.Name, Allowed = (string?)a.Name }).Take(20).ToListAsync(ct);
        Closings = [.. rows.Select(r => (r.c, r.Name, r.Allowed ?? string.Empty))];
        var surface = await (from s in Db.Surfaces.AsNoTracking() join p in Db.People on s.ById equals p.Id where s.PlaceId == id && s.Until == null select new { s, p.Name }).SingleOrDefaultAsync(ct);
        Surface = surface is null ? null : (surface.s, surface.Name);
        return true;
    }
}
