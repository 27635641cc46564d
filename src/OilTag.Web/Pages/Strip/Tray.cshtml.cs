using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>The unidentified tray: parts that nobody knows yet.</summary>
public sealed class TrayModel(OilTagDb db, Me me, TrayWrites writes) : FormPage
{
    public IReadOnlyList<(TrayItem Item, Machine? Machine, string By)> Items { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Machines { get; private set; } = [];

    [BindProperty]
    public string? Letter { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public Hand Hand { get; set; }

    [BindProperty]
    public string? MakersNumber { get; set; }

    [BindProperty]
    public string? Marks { get; set; }

    [BindProperty]
    public string? Where { get; set; }

    public async Task OnGetAsync(CancellationToken ct) => await LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.AddAsync(Key, me.Id, Letter, Name, Hand, MakersNumber, Marks, Where, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var rows = await (
            from t in db.TrayItems.AsNoTracking()
            join p in db.People on t.ById equals p.Id
            join m in db.Machines on t.MachineId equals m.Id into ms
            from m in ms.DefaultIfEmpty()
            where t.EndedAt == null
            orderby t.Number
            select new { t, m, p.Name }).ToListAsync(ct);
        Items = [.. rows.Select(r => (r.t, (Machine?)r.m, r.Name))];
        Machines = [new SelectListItem("Nobody can say", string.Empty), .. (await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct)).Select(m => new SelectListItem($"{m.Letter} {m.Name}", m.Letter))];
        return true;
    }
}
