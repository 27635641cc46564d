using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>Damage that may come to light, with the step that shows it.</summary>
/// <param name="Damage">What, how likely and how much.</param>
/// <param name="Letter">Machine.</param>
/// <param name="Tin">Its livery.</param>
/// <param name="Place">Where.</param>
/// <param name="Shown">The step that shows it, as 64.3 and its name; empty for none.</param>
/// <param name="Due">True when that step is done: it is known by now.</param>
public sealed record DamageLine(HiddenDamage Damage, string Letter, string Tin, string Place, string Shown, bool Due);

/// <summary>What nobody has found yet: with a chance and a size it counts in the plan until it is found or ruled out.</summary>
public sealed class DamageModel(OilTagDb db, Me me, CallWrites writes) : FormPage
{
    public IReadOnlyList<DamageLine> Lines { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Skills { get; private set; } = [];

    [BindProperty(SupportsGet = true)]
    public Guid? Place { get; set; }

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public string? Percent { get; set; }

    [BindProperty]
    public string? Hours { get; set; }

    [BindProperty]
    public string? Skill { get; set; }

    [BindProperty]
    public string? Step { get; set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.ExpectAsync(Key, me.Id, Place ?? Guid.Empty, What, Percent, Hours, Skill, Step, ct));

    public Task<IActionResult> OnPostSettleAsync(Guid damage, bool found, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.SettleAsync(Key, me.Id, damage, found, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var rows = await (
            from d in db.HiddenDamages
            join p in db.Places on d.PlaceId equals p.Id
            join m in db.Machines on p.MachineId equals m.Id
            join o in db.Operations on d.AfterId equals o.Id into os
            from o in os.DefaultIfEmpty()
            join k in db.Packages on o.PackageId equals k.Id into ks
            from k in ks.DefaultIfEmpty()
            where d.EndedAt == null
            orderby m.Bay, d.Percent descending, d.Id
            select new { d, m.Letter, m.Tin, p.Name, p.Hand, p.Position, Step = (string?)o.Name, Order = (int?)o.Order, Number = (int?)k.Number, Done = o.DoneAt != null || k.ClosedAt != null }).AsNoTracking().ToListAsync(ct);
        Lines = [.. rows.Select(r => new DamageLine(r.d, r.Letter, r.Tin, PlaceNames.Full(r.Name, r.Hand, r.Position), r.Step is null ? string.Empty : $"{r.Number}.{r.Order} {r.Step}", r.Step is not null && r.Done))];
        var asked = Place;
        var places = await (from p in db.Places join m in db.Machines on p.MachineId equals m.Id where p.Kind == PlaceKind.Assembly || p.Id == asked orderby m.Bay, p.ParentId != null, p.Order select new { p.Id, p.Name, p.Hand, p.Position, m.Letter }).AsNoTracking().ToListAsync(ct);
        Places = [.. places.Select(p => new SelectListItem($"{p.Letter} {PlaceNames.Full(p.Name, p.Hand, p.Position)}", p.Id.ToString()))];
        Skills = [new SelectListItem("No skill", string.Empty), .. (await db.Authorisations.Where(a => a.EndedAt == null).Select(a => a.Skill).Distinct().OrderBy(s => s).ToListAsync(ct)).Select(s => new SelectListItem(s, s))];
        return true;
    }
}
