using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Stores;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>What a step needs besides hours: people, skills, tools, weather, time away, and what has to come first.</summary>
public sealed class NeedsModel(OilTagDb db, Me me, ShedClock clock, PackageWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    public WorkPackage Package { get; private set; } = null!;

    public Operation Step { get; private set; } = null!;

    public IReadOnlyList<string> Skills { get; private set; } = [];

    public IReadOnlyList<string> Equipment { get; private set; } = [];

    /// <summary>The shed and the other sites.</summary>
    public IReadOnlyList<SelectListItem> Sites { get; private set; } = [];

    public IReadOnlyList<Demand> Demands { get; private set; } = [];

    [BindProperty]
    public NeedsEntry Entry { get; set; } = new();

    [BindProperty]
    public string? DemandWhat { get; set; }

    [BindProperty]
    public int? Quantity { get; set; }

    [BindProperty]
    public string? LeadWeeks { get; set; }

    [BindProperty]
    public string? EnquiryWeeks { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, int order, CancellationToken ct)
    {
        if (!await LoadAsync(number, order, ct))
        {
            return NotFound();
        }

        var first = Step.Needs.After;
        var names = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where first.Contains(o.Id) select new { o.Id, k.Number, o.Order }).ToDictionaryAsync(o => o.Id, o => $"{o.Number}.{o.Order}", ct);
        Entry = NeedsRule.Type(Step.Needs, names.GetValueOrDefault);
        return Page();
    }

    public Task<IActionResult> OnPostAsync(int number, int order, CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(number, order, ct),
        () => writes.NeedsAsync(Key, me.Id, number, Step.Id, Entry, new DemandEntry(DemandWhat, Quantity, LeadWeeks, EnquiryWeeks),
            clock.Today, ct));

    private async Task<bool> LoadAsync(int number, int order, CancellationToken ct)
    {
        var package = await db.Packages.AsNoTracking().Include(p => p.Operations).SingleOrDefaultAsync(p => p.Number == number, ct);
        if (package?.Operations.Find(o => o.Order == order) is not { } step)
        {
            return false;
        }

        (Package, Step) = (package, step);
        Machine = await db.Machines.AsNoTracking().SingleAsync(m => m.Id == package.MachineId, ct);
        Skills = await db.Authorisations.Where(a => a.EndedAt == null && !a.Learning).Select(a => a.Skill).Distinct().OrderBy(s =>
            s).ToListAsync(ct);
        Equipment = await db.Equipment.Select(e => e.Name).OrderBy(n => n).ToListAsync(ct);
        Sites = [new SelectListItem("The shed", string.Empty), .. (await db.Sites.Where(s => s.Name != string.Empty).OrderBy(s =>
            s.Name).Select(s => s.Name).ToListAsync(ct)).Select(s => new SelectListItem(s, s))];
        var ids = step.Needs.Demands;
        Demands = ids.Count == 0 ? [] : await db.Demands.AsNoTracking().Where(d => ids.Contains(d.Id)).OrderBy(d => d.Id).ToListAsync(ct);
        return true;
    }
}
