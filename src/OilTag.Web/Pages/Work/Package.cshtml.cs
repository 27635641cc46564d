using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Bench;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Make;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>One package: its steps and holds, hours, money, and what keeps it from closing.</summary>
public sealed class PackageModel(OilTagDb db, ShedClock clock, Me me, PackageWrites writes) : FormPage
{
    public WorkPackage Package { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public int? TagNumber { get; private set; }

    public int? FindingNumber { get; private set; }

    public int? CardNumber { get; private set; }

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    public IReadOnlyDictionary<Guid, string> SignedNotes { get; private set; } = new Dictionary<Guid, string>();

    public IReadOnlyList<(string Name, int Minutes)> Hours { get; private set; } = [];

    public IReadOnlyList<Cost> Costs { get; private set; } = [];

    public IReadOnlyList<Problem> WhyNotClose { get; private set; } = [];

    public IReadOnlyList<Problem> WhyNotSign { get; private set; } = [];

    public HoursRange Remaining { get; private set; } = HoursRange.None;

    public IReadOnlyList<SelectListItem> Milestones { get; private set; } = [];

    public IReadOnlyList<SelectListItem> People { get; private set; } = [];

    /// <summary>Fixtures that it wants and that do not hold.</summary>
    public IReadOnlyList<string> HeldUp { get; private set; } = [];

    public IReadOnlyList<KeptView> Kept { get; private set; } = [];

    public IReadOnlyList<StoryLine> Story { get; private set; } = [];

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    public Operation? NextHold => Package.Operations.Where(o => o.Hold && o.DoneAt is null).MinBy(o => o.Order);

    [BindProperty]
    public Guid Step { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public Guid? Milestone { get; set; }

    [BindProperty]
    public string? WaitingOn { get; set; }

    [BindProperty]
    public Guid? WaitingFor { get; set; }

    [BindProperty]
    public string? EstimatePounds { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    [BindProperty]
    public string? CostWhat { get; set; }

    [BindProperty]
    public string? CostPounds { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        Take();
        return Page();
    }

    public Task<IActionResult> OnPostDoneAsync(int number, CancellationToken ct) => RunAsync(number, me.CanRecord, () => writes.StepDoneAsync(Key, me.Id, number, Step, ct), ct);

    public Task<IActionResult> OnPostSignAsync(int number, CancellationToken ct) => RunAsync(number, me.IsInspector, async () => await writes.SignAsync(Key, me.Id, await me.IsInspectorNowAsync(ct), number, Step, Note, ct), ct);

    public Task<IActionResult> OnPostCloseAsync(int number, CancellationToken ct) => RunAsync(number, me.CanLead, () => writes.CloseAsync(Key, me.Id, number, ct), ct);

    public Task<IActionResult> OnPostCostAsync(int number, CancellationToken ct) => RunAsync(number, me.CanLead, () => writes.SpendAsync(Key, me.Id, number, CostWhat, CostPounds, clock.Today, ct), ct);

    public Task<IActionResult> OnPostEditAsync(int number, CancellationToken ct) => RunAsync(number, me.CanLead, () => writes.EditAsync(Key, me.Id, number, new PackageEdit(Milestone, WaitingOn, WaitingFor, EstimatePounds, Version), clock.Today, ct), ct);

    private void Take()
    {
        Milestone = Package.MilestoneId;
        WaitingOn = Package.WaitingOn;
        WaitingFor = Package.WaitingForId;
        EstimatePounds = (Package.EstimatePence / 100m).ToString("0.##", System.Globalization.CultureInfo.InvariantCulture);
        Version = Package.Version;
    }

    private Task<IActionResult> RunAsync(int number, bool allowed, Func<Task<Recorded>> write, CancellationToken ct) => WriteAsync(allowed, () => LoadAsync(number, ct), write, () =>
    {
        // The other forms of the page come without these fields; after a change by somebody else the next press is meant for what is there now.
        if (Version == 0)
        {
            Take();
        }
        else if (Stale)
        {
            Version = Package.Version;
        }
    });

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (
            from k in db.Packages.AsNoTracking().Include(k => k.Operations)
            join p in db.Places on k.PlaceId equals p.Id
            join m in db.Machines on k.MachineId equals m.Id
            where k.Number == number
            select new
            {
                k,
                p,
                m,
                Tag = db.Tags.Where(t => t.Id == k.TagId).Select(t => (int?)t.Number).FirstOrDefault(),
                Finding = db.Findings.Where(f => f.Id == k.FindingId).Select(f => (int?)f.Number).FirstOrDefault(),
                Words = db.Findings.Where(f => f.Id == k.FindingId).Select(f => f.What + " " + f.Cause).FirstOrDefault(),
                HasKept = db.KeptAnswers.Any(a => db.Operations.Any(o => o.Id == a.OperationId && o.PackageId == k.Id)),
                HasFixture = k.ClosedAt == null && db.Fixtures.Any(x => x.MachineId == k.MachineId),
                Card = db.RouteCards.Where(c => c.PackageId == k.Id).Select(c => (int?)c.Number).FirstOrDefault(),
                Signed = (from o in k.Operations join s in db.SignOffs on o.Id equals s.OperationId select s).ToList(),
            }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Package, Place, Machine, TagNumber, FindingNumber, CardNumber) = (found.k, found.p, found.m, found.Tag, found.Finding, found.Card);
        Names = await db.People.AsNoTracking().OrderBy(p => p.Name).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        SignedNotes = found.Signed.ToDictionary(s => s.OperationId, s => s.Note);
        var hours = await db.Hours.Where(h => h.PackageId == Package.Id).GroupBy(h => h.PersonId).Select(g => new { g.Key, Minutes = g.Sum(h => h.Minutes) }).ToListAsync(ct);
        Hours = [.. hours.Select(h => (Names[h.Key], h.Minutes)).OrderByDescending(h => h.Minutes)];
        Costs = await db.Costs.AsNoTracking().Where(c => c.PackageId == Package.Id).OrderBy(c => c.On).ToListAsync(ct);
        Remaining = Package.ClosedAt is not null ? HoursRange.None : WorkshopQuery.Remaining(Package.Operations, await WorkshopQuery.SaidAsync(db, db.Packages.Where(k => k.Id == Package.Id), ct), hours.Sum(h => h.Minutes)).Aggregate(HoursRange.None, (sum, h) => sum + h);
        WhyNotClose = await PackageWrites.WhyNotCloseAsync(db, Package, ct);
        if (me.IsInspector && NextHold is { } hold)
        {
            WhyNotSign = await PackageWrites.WhyNotSignAsync(db, Package, hold, me.Id, true, ct);
        }

        Milestones = [new SelectListItem("None", string.Empty), .. await db.Milestones.AsNoTracking().OrderBy(m => m.On).Select(m => new SelectListItem(m.Name, m.Id.ToString())).ToListAsync(ct)];
        People = [new SelectListItem("Nobody in particular", string.Empty), .. Names.Select(n => new SelectListItem(n.Value, n.Key.ToString()))];
        HeldUp = !found.HasFixture ? [] : [.. (await MakingWrites.HeldUpAsync(db, ct))[Package.Id]];
        Kept = found.HasKept ? await KeptQuery.OfPackageAsync(db, Package.Id, ct) : [];
        Story = await LogQuery.OfPackageAsync(db, Package.Id, ct);
        var path = (await PlaceWrites.TreeAsync(db, Machine.Id, ct)).PathUp(Place.Id);
        Cautions = CautionRules.At(Machine.Kind, Machine.Year, [.. path.Select(n => n.Name)], [Package.Title, Place.Name, found.Words, .. Package.Operations.Select(o => o.Name)]);
        return true;
    }
}
