using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>What is to be looked at: because of findings, because it was only said, and the weak spots and load paths behind that.</summary>
public sealed class LooksModel(OilTagDb db, Me me, QuestionWrites writes) : FormPage
{
    private const int MostSaid = 200;

    public sealed record Line(Look Look, string Place, string Letter, string Tin, int? Finding, string By);

    public sealed record SaidLine(string What, Evidence Known, string Link);

    public IReadOnlyList<Line> Open { get; private set; } = [];

    public IReadOnlyList<SaidLine> Said { get; private set; } = [];

    public IReadOnlyList<WeakSpot> Weak { get; private set; } = [];

    public IReadOnlyList<(LoadPath Path, string Letter, string Tin, IReadOnlyList<string> Names)> Paths { get; private set; } = [];

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    [BindProperty]
    public Guid Look { get; set; }

    [BindProperty]
    public bool Sound { get; set; }

    [BindProperty(Name = "")]
    public WeakSpotEntry Entry { get; set; } = new();

    [BindProperty]
    public Guid? Machine { get; set; }

    [BindProperty]
    public string? PathName { get; set; }

    [BindProperty]
    public string? Accident { get; set; }

    [BindProperty]
    public string? Places { get; set; }

    public async Task OnGetAsync(CancellationToken ct) => await LoadAsync(ct);

    public Task<IActionResult> OnPostDoneAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.LookedAsync(Key, me.Id, Look, Sound, "/survey/looks", ct));

    public Task<IActionResult> OnPostWeakAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.WeakSpotAsync(Key, me.Id, Entry, ct));

    public Task<IActionResult> OnPostPathAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.LoadPathAsync(Key, me.Id, Machine ?? Guid.Empty, PathName, Accident, Places, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var byId = Machines.ToDictionary(m => m.Id);
        var rows = await (
            from l in db.Looks.AsNoTracking()
            join p in db.Places on l.PlaceId equals p.Id
            join who in db.People on l.ById equals who.Id
            where l.DoneAt == null
            orderby l.At
            select new { l, p, who.Name, Finding = db.Findings.Where(f => f.Id == l.FindingId).Select(f => (int?)f.Number).FirstOrDefault() }).ToListAsync(ct);
        Open = [.. rows.Select(r => new Line(r.l, r.p.FullName, byId[r.l.MachineId].Letter, byId[r.l.MachineId].Tin, r.Finding, r.Name))];
        var findings = await db.Findings.AsNoTracking().Where(f => (f.Evidence == Evidence.Told || f.Evidence == Evidence.Assumed)
            && !db.Findings.Any(g => g.PlaceId == f.PlaceId && g.Number > f.Number && g.Evidence != Evidence.Told && g.Evidence != Evidence.Assumed)).OrderByDescending(f => f.Number).Take(MostSaid).Select(f => new { f.Number, f.What, f.Evidence }).ToListAsync(ct);
        var cells = await (from c in db.MatrixCells.AsNoTracking() join m in db.Matrices on c.MatrixId equals m.Id where (c.Evidence == Evidence.Told || c.Evidence == Evidence.Assumed) && c.Mark != CellMark.CannotSee && c.Mark != CellMark.NotApplicable select new { c.Position, c.Check, c.Evidence, m }).Take(MostSaid).ToListAsync(ct);
        var readings = await (from x in db.Readings.AsNoTracking() join s in db.Sheets on x.SheetId equals s.Id where (x.Evidence == Evidence.Told || x.Evidence == Evidence.Assumed) && x.Mark == CellMark.Measured select new { x.Row, x.Column, x.Evidence, s.Number, s.Title, Row0 = s.Rows, Column0 = s.Columns }).Take(MostSaid).ToListAsync(ct);
        Said =
        [
            .. findings.Select(f => new SaidLine($"F{f.Number}, {f.What}", f.Evidence, $"/f/{f.Number}")),
            .. cells.Where(c => c.m.Has(c.Position, c.Check)).Select(c => new SaidLine($"S{c.m.Number}, {c.m.NameOf(c.Position, c.Check)}", c.Evidence, $"/s/{c.m.Number}/matrix/{c.Position}-{c.Check}")),
            .. readings.Where(r => r.Row <= r.Row0.Length && r.Column <= r.Column0.Length).Select(r => new SaidLine($"S{r.Number}, {r.Title}: {r.Row0[r.Row - 1]}, {r.Column0[r.Column - 1]}", r.Evidence, $"/s/{r.Number}")),
        ];
        Weak = await db.WeakSpots.AsNoTracking().OrderBy(w => w.Place).ToListAsync(ct);
        var paths = await db.LoadPaths.AsNoTracking().OrderBy(p => p.Name).ToListAsync(ct);
        var ids = paths.SelectMany(p => p.Places).Distinct().ToList();
        var names = ids.Count == 0 ? [] : await db.Places.AsNoTracking().Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.FullName, ct);
        Paths = [.. paths.Select(p => (p, byId[p.MachineId].Letter, byId[p.MachineId].Tin, (IReadOnlyList<string>)[.. p.Places.Select(id => names.GetValueOrDefault(id, "?"))]))];
        return true;
    }
}
