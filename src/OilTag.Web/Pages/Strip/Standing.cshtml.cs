using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Service;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Service;
using OilTag.Data.Strip;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>How a machine stands: may it be moved, run, filled or lowered, and the registers that answer it.</summary>
public sealed class StandingModel(OilTagDb db, AccessLoader accesses, ShedClock clock, IClock time, Me me, RegisterWrites writes) : StripMachinePage(db)
{
    /// <summary>When the page was asked for.</summary>
    public Instant Moment { get; } = time.GetCurrentInstant();

    /// <summary>The acts with the reasons for and against each.</summary>
    public IReadOnlyList<(Acts Act, IReadOnlyList<MoveReason> Reasons)> Answers { get; private set; } = [];

    public IReadOnlyList<(MachineSystem System, string By)> Systems { get; private set; } = [];

    public IReadOnlyList<(TemporaryItem Item, string Place, string By)> Items { get; private set; } = [];

    public IReadOnlyList<(string Place, Guid PlaceId, Surface Surface)> Bare { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Assemblies { get; private set; } = [];

    [BindProperty]
    public Guid? PlaceId { get; set; }

    [BindProperty]
    public TemporaryKind ItemKind { get; set; }

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public Guid Item { get; set; }

    [BindProperty]
    public string? SystemName { get; set; }

    [BindProperty]
    public SystemState State { get; set; }

    [BindProperty]
    public string? Amount { get; set; }

    [BindProperty]
    public List<Acts> Forbids { get; set; } = [];

    [BindProperty]
    public MotionKind Motion { get; set; }

    [BindProperty]
    public bool? Works { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public Guid? MotionPlace { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct) => await LoadAsync(letter, ct) ? Page() : NotFound();

    private Task<IActionResult> DoAsync(string letter, Func<string, Task<Recorded>> write, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(letter, ct), () => write(Machine.Letter));

    public Task<IActionResult> OnPostPutInAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.PutInAsync(Key, me.Id, l, PlaceId, ItemKind, What, ct), ct);

    public Task<IActionResult> OnPostTakeOutAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.TakeOutAsync(Key, me.Id, l, Item, ct), ct);

    public Task<IActionResult> OnPostSystemAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.SetSystemAsync(Key, me.Id, l, SystemName, State, Amount, Forbids.Aggregate(Acts.None, (a, b) => a | b), ct), ct);

    public Task<IActionResult> OnPostMotionAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.SetMotionAsync(Key, me.Id, l, Motion, Works, Note, MotionPlace, ct), ct);

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return false;
        }

        var access = (await accesses.LoadAsync(Machine.Id, ct)).Access;
        var systems = await (from s in Db.Systems.AsNoTracking() join p in Db.People on s.ById equals p.Id where s.MachineId == Machine.Id orderby s.Name select new { s, p.Name }).ToListAsync(ct);
        Systems = [.. systems.Select(s => (s.s, s.Name))];
        var items = await (from t in Db.TemporaryItems.AsNoTracking() join p in Db.People on t.InById equals p.Id where t.MachineId == Machine.Id && t.OutAt == null orderby t.InAt select new { t, p.Name }).ToListAsync(ct);
        Items = [.. items.Select(t => (t.t, access.Name(t.t.PlaceId), t.Name))];
        var at = await Db.Machines.Where(m => m.Id == Machine.Id).Select(m => new
        {
            Loose = (from f in Db.Fittings join s in Db.Places on f.SlotId equals s.Id where s.MachineId == m.Id && f.Until == null && f.Loose != "" select new { f.SlotId, f.Loose }).ToList(),
            Undecided = Db.Findings.Where(FindingQuery.IsOpen(clock.Today))
                .Where(f => f.MachineId == m.Id)
                .OrderBy(f => f.Number)
                .Select(f => f.Number)
                .ToList(),
            Looked = Db.Findings.Any(f => f.MachineId == m.Id)
                || Db.Tags.Any(t => t.MachineId == m.Id)
                || Db.Packages.Any(k => k.MachineId == m.Id),
            Holds = Db.Packages.Where(k => k.MachineId == m.Id && k.ClosedAt == null && k.Operations.Any(o => o.Hold && o.DoneAt == null) && k.Operations.Any(o => o.DoneAt != null)).OrderBy(k => k.Number).Select(k => k.Number).ToList(),
        }).SingleAsync(ct);
        var loose = at.Loose;
        var bare = await Db.Surfaces.AsNoTracking().Where(s => s.MachineId == Machine.Id && s.Until == null && s.State == SurfaceState.Bare).OrderBy(s => s.At).ToListAsync(ct);
        Bare = [.. bare.Select(s => (access.Name(s.PlaceId), s.PlaceId, s))];
        var said = await (from m in Db.Motions.AsNoTracking() join p in Db.People on m.ById equals p.Id where m.MachineId == Machine.Id select new { m, p.Name }).ToListAsync(ct);
        var tree = access.Tree;
        var unsound = access.Off.Concat(loose.Select(l => l.SlotId)).ToHashSet();
        var motions = Enum.GetValues<MotionKind>().Where(k => MoveRule.Applies(k, Machine.Kind)).Select(k =>
        {
            var row = said.Find(s => s.m.Kind == k);
            var offIn = row?.m.PlaceId is { } place ? tree.Within(place).Where(unsound.Contains).OrderBy(access.Map.OrderOf).Select(access.Name).ToList() : [];
            return new MotionFacts(k, row?.m.Works, row?.m.Note ?? string.Empty, row?.Name ?? string.Empty, row is null ? null : clock.Local(row.m.At).Date, offIn);
        }).ToList();
        var service = await ServiceQuery.LoadAsync(Db, Machine.Id, clock.Today, clock.Zone, ct);
        var listed = service.Tasks.Count > 0;
        var structural = access.Structural.Select(s => (Guid?)s).ToList();
        var found = structural.Count == 0 ? [] : await (
            from f in Db.Findings.AsNoTracking()
            where f.MachineId == Machine.Id && structural.Contains(f.PlaceId)
            orderby f.Number
            select new { Finding = f, Cleared = Db.Packages.Any(k => k.ClosedAt != null && k.CancelledWhy == string.Empty && (k.FindingId == f.Id || Db.Decisions.Any(d => d.FindingId == f.Id && d.PackageId == k.Id && !d.Replaced))) }).ToListAsync(ct);

        bool Beyond(Finding f)
        {
            var (standard, setBy) = tree.StandardAt(f.PlaceId, Machine.Standard, Machine.Name);
            return VerdictRule.Judge(f, standard, setBy).Verdict == Verdict.Beyond;
        }

        var facts = new StandFacts
        {
            Motions = motions,
            Systems = [.. Systems.Select(s => s.System)],
            Temporary = [.. Items.Select(i => (i.Item.Kind, i.Item.What, i.Place))],
            Loose = [.. loose.Select(l => (access.Name(l.SlotId), l.Loose))],
            StructureOff = [.. access.Structural.Where(access.Off.Contains).OrderBy(access.Map.OrderOf).Select(access.Name)],
            StructureFound = [.. found.Where(f => !f.Cleared).Select(f => (f.Finding.Number, f.Finding.What, Beyond: Beyond(f.Finding), Open: f.Finding.DecidedOn(clock.Today) is null)).Where(f => f.Open || f.Beyond).Select(f => (f.Number, f.What, f.Beyond))],
            OpenHolds = at.Holds,
            Undecided = at.Undecided,
            Bare = [.. Bare.Select(b => b.Place)],
            Looked = at.Looked,
            Structural = access.Structural.Count,
        };
        Answers = [.. new[] { Acts.Move, Acts.Run, Acts.Lift, Acts.Fuel, Acts.Lower, Acts.Close }.Select(a => (Act: a, Reasons: MoveRule.Of(a, facts)))
            .Select(x => x.Act is Acts.Run or Acts.Move
                ? (x.Act, (IReadOnlyList<MoveReason>)[.. service.Against(x.Act == Acts.Run ? UseKind.Run : UseKind.Move).Select(s => new MoveReason(true, s)), .. x.Reasons, .. x.Act == Acts.Run && !listed ? [new MoveReason(false, "Nobody has written a service list for it.", false)] : Array.Empty<MoveReason>()])
                : x)];
        Places = [new SelectListItem("Choose", string.Empty), .. access.Choices()];
        Assemblies = [new SelectListItem("None in particular", string.Empty), .. access.Map.Places.Where(p => p.Kind == PlaceKind.Assembly).OrderBy(p => access.Map.OrderOf(p.Id)).Select(p => new SelectListItem(p.Name, p.Id.ToString()))];
        return true;
    }
}
