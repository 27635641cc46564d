using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>A kind of equipment with who wants it.</summary>
/// <param name="Thing">The kind; one that steps name and the shed has not got counts nought and has no id.</param>
/// <param name="There">How many are there today.</param>
/// <param name="Wanted">Open steps that want it.</param>
/// <param name="Most">Most that one step wants at once.</param>
/// <param name="Hours">Hours of those steps.</param>
public sealed record EquipmentLine(Equipment Thing, int There, int Wanted, int Most, double Hours);

/// <summary>Tools, jacks, bays and benches of which there are only so many, and when some are away.</summary>
public sealed class EquipmentModel(OilTagDb db, Me me, ShedClock clock, ShedWrites writes) : FormPage
{
    public IReadOnlyList<EquipmentLine> Lines { get; private set; } = [];

    public IEnumerable<SelectListItem> Things => Lines.Where(l => l.Thing.Id != Guid.Empty).Select(l => new SelectListItem(l.Thing.Name, l.Thing.Id.ToString()));

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Count { get; set; }

    [BindProperty]
    public string? Swing { get; set; }

    [BindProperty]
    public string? Between { get; set; }

    [BindProperty]
    public string? Throat { get; set; }

    [BindProperty]
    public string? Oven { get; set; }

    [BindProperty]
    public string? Carries { get; set; }

    [BindProperty]
    public Guid? Thing { get; set; }

    [BindProperty]
    public string? OutCount { get; set; }

    [BindProperty]
    public DateOnly? OutFrom { get; set; }

    [BindProperty]
    public DateOnly? OutUntil { get; set; }

    [BindProperty]
    public string? OutWhy { get; set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.SetEquipmentAsync(Key, me.Id, Name, Count, Swing, Between, Throat, Oven, Carries, ct));

    public Task<IActionResult> OnPostOutAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.EquipmentOutAsync(Key, me.Id, Thing ?? Guid.Empty, OutCount, ToDate(OutFrom), ToDate(OutUntil), OutWhy, clock.Today, ct));

    public Task<IActionResult> OnPostBackAsync(DateOnly from, string? why, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.EquipmentBackAsync(Key, me.Id, Thing ?? Guid.Empty, from, why, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var today = clock.Today.ToDateOnly();
        var things = await db.Equipment.AsNoTracking().OrderBy(e => e.Name).ToListAsync(ct);
        var steps = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.DoneAt == null && k.ClosedAt == null select new { o.Needs, o.Likely }).AsNoTracking().ToListAsync(ct);
        var wants = steps.SelectMany(s => s.Needs.Equipment.Select(n => (n.Thing, n.Count, s.Likely))).ToLookup(x => x.Thing, StringComparer.Ordinal);
        Lines = [.. things.Concat(wants.Select(w => w.Key).Where(w => !things.Exists(t => t.Name == w)).Select(w => new Equipment { Id = Guid.Empty, Name = w }))
            .Select(t => new EquipmentLine(t, Math.Max(0, t.Count - t.Out.Where(o => o.From <= today && today <= o.Until).Sum(o => o.Count)), wants[t.Name].Count(), wants[t.Name].Select(w => w.Count).DefaultIfEmpty(0).Max(), wants[t.Name].Sum(w => w.Likely)))
            .OrderBy(l => l.Thing.Id != Guid.Empty).ThenBy(l => l.Thing.Name, StringComparer.OrdinalIgnoreCase)];
        return true;
    }
}
