using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>One place of a breakdown: an assembly with what hangs under it, or a slot; and its form for a lead.</summary>
public sealed class PlaceModel(OilTagDb db, WorkshopLoader workshop, ShedClock clock, Me me, PlaceWrites writes, KeeperWrites keeper) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public IReadOnlyList<PlaceNode> Path { get; private set; } = [];

    public (RestorationStandard Standard, string SetBy) Holds { get; private set; }

    public IReadOnlyList<AssemblyLine> Children { get; private set; } = [];

    /// <summary>Slots whose part never came off.</summary>
    public IReadOnlyList<Place> Slots { get; private set; } = [];

    public IReadOnlyList<(TagFacts Tag, StateWords State)> Tags { get; private set; } = [];

    public IReadOnlyList<PackageFacts> Packages { get; private set; } = [];

    public IReadOnlyList<(int Number, string What, string Place)> Findings { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Parents { get; private set; } = [];

    public StateWords State { get; private set; } = null!;

    /// <summary>Runs that cross it or something in it.</summary>
    public IReadOnlyList<Run> Runs { get; private set; } = [];

    [BindProperty]
    public List<PaperKinds> Papers { get; set; } = [];

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public Hand Hand { get; set; }

    [BindProperty]
    public int? Position { get; set; }

    [BindProperty]
    public Guid? Parent { get; set; }

    [BindProperty]
    public RestorationStandard? Standard { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    [BindProperty]
    public string? Assemblies { get; set; }

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadAsync(id, ct))
        {
            return NotFound();
        }

        Take();
        return Page();
    }

    // After a change by somebody else the next press is meant for what is there now.
    public Task<IActionResult> OnPostAsync(Guid id, CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(id, ct),
        () => writes.EditAsync(Key, me.Id, id, new PlaceEdit(Name, Hand, Position, Parent, Standard, Papers.Aggregate(PaperKinds.None, (a, b) => a | b), Version), ct),
        () => Version = Stale ? Place.Version : Version);

    public Task<IActionResult> OnPostUnderAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => keeper.AddAssembliesAsync(Key, me.Id, id, Assemblies, ct), Take);

    private void Take()
    {
        (Name, Hand, Position, Parent, Standard, Version) = (Place.Name, Place.Hand, Place.Position, Place.ParentId, Place.Standard, Place.Version);
        Papers = [.. new[] { PaperKinds.Certificate, PaperKinds.TestReport }.Where(k => Place.Papers.HasFlag(k))];
    }

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        var found = await (from p in db.Places.AsNoTracking() join m in db.Machines on p.MachineId equals m.Id where p.Id == id select new { p, m.Letter }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        Place = found.p;
        var view = (await workshop.ViewAsync(clock.Today, found.Letter, ct))!;
        var shop = view.Shop;
        Machine = shop.Machines[0];
        var nodes = shop.Assemblies.Where(p => p.Id != id).Append(Place).Select(p => new PlaceNode(p.Id, p.ParentId, p.FullName, p.Kind, p.Standard));
        var tree = new PlaceTree(nodes);
        Path = [.. tree.PathUp(id).Skip(1).Reverse()];
        Holds = tree.StandardAt(id, Machine.Standard, Machine.Name);
        var within = tree.Within(id).ToList();
        var lines = view.Assemblies();
        Children = [.. lines.Where(l => l.Place.ParentId == id)];
        Runs = [.. (await db.Runs.AsNoTracking().Where(r => r.MachineId == Machine.Id).OrderBy(r => r.Name).ToListAsync(ct)).Where(r => r.Places.Any(within.Contains))];
        Slots = await db.Places.AsNoTracking().Where(p => p.ParentId == id && p.Kind == PlaceKind.Slot && !db.Tags.Any(t => t.SlotId == p.Id)).OrderBy(p => p.Order).ToListAsync(ct);

        // In it is what hangs under its assemblies, or what is at the slot itself.
        var places = db.Places.Where(p => within.Contains(p.Id) || (p.ParentId != null && within.Contains(p.ParentId.Value))).Select(p => p.Id);
        var here = Place.Kind == PlaceKind.Slot;
        Packages = [.. shop.Packages.Where(k => here ? k.PlaceId == id : within.Contains(k.AssemblyId)), .. await WorkshopQuery.PackagesAsync(db, db.Packages.Where(k => k.ClosedAt != null && places.Contains(k.PlaceId)), ct)];
        var ended = await (from t in db.Tags join s in db.Places on t.SlotId equals s.Id where t.End != null && places.Contains(t.SlotId) select new { t.Id, t.Number, t.MachineId, t.SlotId, s.Name, s.Hand, s.Position, t.End, t.OpenedAt }).ToListAsync(ct);
        var tags = shop.Tags.Where(t => here ? t.SlotId == id : within.Contains(t.AssemblyId))
            .Concat(ended.Select(t => new TagFacts { TagId = t.Id, Number = t.Number, MachineId = t.MachineId, SlotId = t.SlotId, Name = PlaceNames.Full(t.Name, t.Hand, t.Position), End = t.End, OpenedAt = t.OpenedAt }));
        Tags = [.. tags.GroupBy(t => t.SlotId).Select(g => g.MaxBy(t => t.OpenedAt)!).Select(t => (Tag: t, State: PartStates.Of(t, clock.Today))).OrderBy(t => t.State.State).ThenBy(t => t.Tag.Number)];
        State = lines.FirstOrDefault(l => l.Place.Id == id)?.State ?? (Tags.Count > 0 ? Tags[0].State : new StateWords(PartState.Fitted, "Fitted", "as found"));
        var rows = await (
            from f in db.Findings.AsNoTracking()
            join p in db.Places on f.PlaceId equals p.Id
            where places.Contains(f.PlaceId)
            orderby f.Number descending
            select new { f.Number, f.What, p.Name, p.Hand, p.Position }).Take(20).ToListAsync(ct);
        Findings = [.. rows.Select(r => (r.Number, r.What, PlaceNames.Full(r.Name, r.Hand, r.Position)))];
        Parents = [new SelectListItem("At the top of the machine", string.Empty), .. lines.Select(l => new SelectListItem(new string('\u2003', l.Depth) + l.Place.FullName, l.Place.Id.ToString()))];
        return true;
    }
}
