using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A finding as a row of the list.</summary>
public sealed record FindingRow(Finding Finding, Machine Machine, string Place, int? TagNumber, Disposition? Decided, VerdictResult Verdict);

/// <summary>All findings, the undecided first.</summary>
public sealed class IndexModel(OilTagDb db, ShedClock clock) : PageModel
{
    public const int PageSize = 50;

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true, Name = "sheet")]
    public int Sheet { get; set; } = 1;

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public IReadOnlyList<FindingRow> Rows { get; private set; } = [];

    public int Total { get; private set; }

    public int Undecided { get; private set; }

    public int Sheets => Math.Max(1, (Total + PageSize - 1) / PageSize);

    public async Task OnGetAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var machine = Machines.FirstOrDefault(m => m.Letter == Letter);
        var machineId = machine?.Id;
        var all = db.Findings.AsNoTracking().Where(f => machineId == null || f.MachineId == machineId);
        Total = await all.CountAsync(ct);
        Undecided = await all.CountAsync(f => !db.Settled(clock.Today).Any(d => d.FindingId == f.Id), ct);
        Sheet = Math.Clamp(Sheet, 1, Sheets);
        var page = await (
            from f in all
            join t in db.Tags on f.TagId equals t.Id into ts
            from t in ts.DefaultIfEmpty()
            join d in db.Settled(clock.Today) on f.Id equals d.FindingId into ds
            from d in ds.DefaultIfEmpty()
            orderby d == null ? 0 : 1, f.Number descending
            select new { f, Tag = (int?)t.Number, Decided = (Disposition?)d.Disposition }).Skip((Sheet - 1) * PageSize).Take(PageSize).ToListAsync(ct);
        var places = await db.Places.AsNoTracking().Where(p => machineId == null || p.MachineId == machineId).ToListAsync(ct);
        var byId = places.ToDictionary(p => p.Id);
        var trees = places.GroupBy(p => p.MachineId).ToDictionary(g => g.Key, g => new PlaceTree(g.Select(p => new PlaceNode(p.Id, p.ParentId, p.FullName, p.Kind, p.Standard))));
        Rows = [.. page.Select(r =>
        {
            var m = Machines.First(x => x.Id == r.f.MachineId);
            var (standard, setBy) = trees[m.Id].StandardAt(r.f.PlaceId, m.Standard, m.Name);
            return new FindingRow(r.f, m, byId[r.f.PlaceId].FullName, r.Tag, r.Decided, VerdictRule.Judge(r.f, standard, setBy));
        })];
    }
}
