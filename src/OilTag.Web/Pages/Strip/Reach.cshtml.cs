using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>How do I reach it: what to take off, other ways, what else can be done while it is open; and for a lead what shuts it in.</summary>
public sealed class ReachModel(OilTagDb db, AccessLoader accesses, ShedClock clock, Me me, AccessWrites writes) : StripPlacePage(db, accesses)
{
    public ReachAnswer Answer { get; private set; } = null!;

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    /// <summary>Runs that cross what comes off or the place itself, with what has to be done.</summary>
    public IReadOnlyList<(Run Run, string Sentence)> Runs { get; private set; } = [];

    /// <summary>The conditions of this very place.</summary>
    public IReadOnlyList<Precedence> Conditions { get; private set; } = [];

    /// <summary>Conditions of assemblies above it, which hold here too.</summary>
    public IReadOnlyList<AccessMap.Gate> Above { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Slots { get; private set; } = [];

    [BindProperty]
    public List<Guid> Chosen { get; set; } = [];

    [BindProperty]
    public int Way { get; set; }

    [BindProperty]
    public Guid Condition { get; set; }

    [BindProperty]
    public int? OffMinutes { get; set; }

    [BindProperty]
    public int? OffPeople { get; set; }

    [BindProperty]
    public bool Structural { get; set; }

    [BindProperty]
    public int? BreakPercent { get; set; }

    [BindProperty]
    public int? SpareWeeks { get; set; }

    [BindProperty]
    public string? Practice { get; set; }

    /// <summary>May it be opened now? Null when nothing is in the way.</summary>
    public OpenNowAnswer? OpenNow { get; private set; }

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadAsync(id, ct))
        {
            return NotFound();
        }

        Take();
        return Page();
    }

    public Task<IActionResult> OnPostAddAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.AddAsync(Key, me.Id, id, [.. Chosen.Where(c => c != Guid.Empty)], Way, ct), Take);

    public Task<IActionResult> OnPostRemoveAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.RemoveAsync(Key, me.Id, id, Condition, ct), Take);

    public Task<IActionResult> OnPostEstimateAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.EstimateAsync(Key, me.Id, id, new StripEstimate(OffMinutes, OffPeople), BreakPercent, SpareWeeks, Practice, Structural, ct));

    private void Take() => (OffMinutes, OffPeople, Structural, BreakPercent, SpareWeeks, Practice) = (Place.OffMinutes, Place.OffPeople, Place.Structural, Place.BreakPercent, Place.SpareWeeks, Place.Practice);

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadPlaceAsync(id, ct))
        {
            return false;
        }

        var machine = Machine.Id;
        var findings = await Db.Findings.Where(f => f.MachineId == machine).Where(FindingQuery.IsOpen(clock.Today)).Select(f => new { f.PlaceId, f.Number, f.What }).ToListAsync(ct);
        var packages = await Db.Packages.Where(k => k.MachineId == machine && k.ClosedAt == null).Select(k => new { k.PlaceId, k.Number, k.Title }).ToListAsync(ct);
        var jobs = findings.Select(f => new Job(f.PlaceId, $"F{f.Number} {f.What}", $"/f/{f.Number}")).Concat(packages.Select(k => new Job(k.PlaceId, $"Package {k.Number} {k.Title}", $"/w/{k.Number}"))).ToList();
        Answer = ReachRule.Of(Access.Map, id, Access.Off, Access.Times, jobs);
        if (Answer.Steps.Count > 0)
        {
            var slots = Answer.Steps.Select(s => s.Slot).ToList();
            var risks = await Db.Places.AsNoTracking().Where(p => slots.Contains(p.Id)).ToListAsync(ct);
            var next = await Db.Milestones.AsNoTracking().Where(m => m.On >= clock.Today && Db.Packages.Any(k => k.MachineId == machine && k.MilestoneId == m.Id)).OrderBy(m => m.On).FirstOrDefaultAsync(ct);
            OpenNow = OpenNowRule.Of([.. risks.OrderBy(p => slots.IndexOf(p.Id)).Select(p => new OpenRisk(p.FullName, p.BreakPercent, p.SpareWeeks, p.Practice))], Answer.Route!.Minutes, next?.On, next?.Name ?? string.Empty, clock.Today);
        }

        Runs = RunRule.InTheWay(Access.Runs, [.. Answer.Steps.Select(s => s.Slot)], id, Access.Name);
        var tree = Access.Tree;
        Cautions = CautionRules.At(Machine.Kind, Machine.Year, [.. tree.PathUp(id).Select(p => p.Name)], [.. Answer.Steps.Select(s => Access.Name(s.Slot))]);
        Conditions = [.. (await Db.Precedences.AsNoTracking().Where(p => p.ThenId == id).ToListAsync(ct)).OrderBy(p => p.Way).ThenBy(p => Access.Map.OrderOf(p.FirstSlotId))];
        Above = [.. Access.Map.GatesAt(id).Where(g => g.PlaceId != id)];
        Slots =
        [
            new SelectListItem("Choose a part", string.Empty),
            .. Near(tree, id).Select(Access.Map.Find).OfType<PlaceNode>().Where(p => p.Kind == PlaceKind.Slot && p.Id != id).OrderBy(p => Access.Map.OrderOf(p.Id)).Select(p => new SelectListItem($"{p.Name} · {(p.ParentId is { } a ? Access.Name(a) : string.Empty)}", p.Id.ToString())),
        ];
        return true;
    }

    // Everything on the machine; on a very large one the widest assembly around the place that a list can hold.
    private IReadOnlySet<Guid> Near(PlaceTree tree, Guid id)
    {
        if (Access.Map.Places.Count <= MostSlots)
        {
            return Access.Map.Places.Select(p => p.Id).ToHashSet();
        }

        IReadOnlySet<Guid> near = new HashSet<Guid> { id };
        foreach (var above in tree.PathUp(id))
        {
            var within = tree.Within(above.Id);
            if (within.Count > MostSlots)
            {
                break;
            }

            near = within;
        }

        return near;
    }

    /// <summary>Parts that the list to choose from holds.</summary>
    private const int MostSlots = 1200;
}
