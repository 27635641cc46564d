using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Bench;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>What must not be forgotten at a package, counted.</summary>
/// <param name="Locks">Things to lock.</param>
/// <param name="Unlocked">Of these, not locked.</param>
/// <param name="Inside">Tools inside.</param>
/// <param name="Tried">What was tried on stuck parts.</param>
/// <param name="Again">What is looked at again.</param>
public sealed record CareCounts(int Locks, int Unlocked, int Inside, int Tried, int Again);

/// <summary>One package: what is next, what comes after, what would make it ready, hours and money, and what keeps it from closing.</summary>
public sealed class PackageModel(OilTagDb db, ShedClock clock, Me me, PackageWrites writes, StepWrites stepWrites, KitWrites kits,
    TroubleWrites troubles, Signer signer, StepInstruments instruments, PlanLoader plans, StandLoader stands) : FormPage
{
    /// <summary>Steps that are listed after the one that is next; more are asked for.</summary>
    public const int MostAfter = 40;

    /// <summary>Open steps that stand beside what would make it ready.</summary>
    public const int MostBeside = 12;

    /// <summary>True when every step is listed.</summary>
    [BindProperty(SupportsGet = true)]
    public bool All { get; set; }

    public WorkPackage Package { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public int? TagNumber { get; private set; }

    public int? FindingNumber { get; private set; }

    public int? CardNumber { get; private set; }

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    /// <summary>Signatures at its holds, newest first, with what made them void; null while they hold.</summary>
    public IReadOnlyList<(SignOff Sign, SignOffVoid? Void)> Signed { get; private set; } = [];

    public IReadOnlyList<(string Name, int Minutes)> Hours { get; private set; } = [];

    public IReadOnlyList<Cost> Costs { get; private set; } = [];

    public IReadOnlyList<Problem> WhyNotClose { get; private set; } = [];

    public IReadOnlyList<Problem> WhyNotSign { get; private set; } = [];

    public HoursRange Remaining { get; private set; } = HoursRange.None;

    public IReadOnlyList<SelectListItem> Milestones { get; private set; } = [];

    public string? MilestoneName { get; private set; }

    public IReadOnlyList<SelectListItem> People => [new SelectListItem("Nobody in particular", string.Empty), .. Names.OrderBy(n => n.Value,
        StringComparer.Ordinal).Select(n => new SelectListItem(n.Value, n.Key.ToString()))];

    public PackageStand Stand { get; private set; } = null!;

    /// <summary>What must not be forgotten at it.</summary>
    public CareCounts Care { get; private set; } = null!;

    /// <summary>Steps at which bolts are set.</summary>
    public IReadOnlySet<Guid> Bolted { get; private set; } = new HashSet<Guid>();

    /// <summary>Those who can sign on the shed's tablet.</summary>
    public IReadOnlyList<(Guid Id, string Name)> Signers { get; private set; } = [];

    public Stock Stock { get; private set; } = null!;

    /// <summary>The step that is next, as it is held in the hand; null when none is or it is a hold.</summary>
    public StepView? Next { get; private set; }

    public IReadOnlyDictionary<Guid, int> OnSteps { get; private set; } = new Dictionary<Guid, int>();

    public IReadOnlyList<KeptView> Kept { get; private set; } = [];

    public IReadOnlyList<StoryLine> Story { get; private set; } = [];

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    public Operation? NextHold => Package.Operations.Where(o => o.Hold && o.DoneAt is null).MinBy(o => o.Order);

    /// <summary>Why it cannot be closed, besides what a lead may pass over with a reason.</summary>
    public bool OnlyWanted => WhyNotClose.Count > 0 && WhyNotClose.All(p => p.Field == PackageRules.Wanted);

    [BindProperty]
    public Guid Step { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    /// <summary>Whose signature it is, on the shed's tablet.</summary>
    [BindProperty]
    public Guid? Who { get; set; }

    [BindProperty]
    public string? Pin { get; set; }

    [BindProperty]
    public string? Without { get; set; }

    [BindProperty]
    public Guid? Milestone { get; set; }

    [BindProperty]
    public string? Title { get; set; }

    [BindProperty]
    public string? Purpose { get; set; }

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

    [BindProperty]
    public string? BeginWhy { get; set; }

    [BindProperty]
    public string? Damaged { get; set; }

    [BindProperty]
    public string? CancelWhy { get; set; }

    [BindProperty]
    public string? ReopenWhy { get; set; }

    [BindProperty]
    public string? UndoWhy { get; set; }

    [BindProperty(Name = "Cautions")]
    public IReadOnlyList<int> Cautioned { get; set; } = [];

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public int Here { get; set; }

    /// <summary>What open steps name, with how many lie ready; null when nobody has looked.</summary>
    public IReadOnlyList<(Operation Step, KitItem Item, int? Here)> Kit { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        Take();
        return Page();
    }

    public Task<IActionResult> OnPostDoneAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanRecord, () => writes.StepDoneAsync(Key, me.Id, number, Step, me.CanLead, Without, ct), ct);

    public Task<IActionResult> OnPostSignAsync(int number, CancellationToken ct) => RunAsync(
        number, signer.MayTry, () => signer.SignAsync(Who, Pin, (who, inspector, pin) => writes.SignAsync(Key, who, inspector, number, Step,
            Note, clock.Today, ct, pin), ct), ct);

    public Task<IActionResult> OnPostUndoAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanLead, () => writes.UndoAsync(Key, me.Id, number, Step, UndoWhy, ct), ct);

    public Task<IActionResult> OnPostCautionAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanRecord, () => stepWrites.ReadCautionsAsync(Key, me.Id, number, Step, Cautioned, ct), ct);

    public Task<IActionResult> OnPostLayAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanRecord, () => stepWrites.LayOutAsync(Key, me.Id, number, Step, What, Here, ct), ct);

    public Task<IActionResult> OnPostBeginAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanLead, () => kits.BeginWithoutAsync(Key, me.Id, number, Step, BeginWhy, ct), ct);

    public Task<IActionResult> OnPostDamagedAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanRecord, () => troubles.DamagedAsync(Key, me.Id, number, Damaged, ct), ct);

    public Task<IActionResult> OnPostCloseAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanLead, () => writes.CloseAsync(Key, me.Id, number, Without, ct), ct);

    public Task<IActionResult> OnPostCancelAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanLead, () => writes.CancelAsync(Key, me.Id, number, CancelWhy, ct), ct);

    public Task<IActionResult> OnPostReopenAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanLead, () => writes.ReopenAsync(Key, me.Id, number, ReopenWhy, ct), ct);

    public Task<IActionResult> OnPostCostAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanLead, () => writes.SpendAsync(Key, me.Id, number, CostWhat, CostPounds, clock.Today, ct), ct);

    public Task<IActionResult> OnPostEditAsync(int number, CancellationToken ct) =>
        RunAsync(number, me.CanLead, () => writes.EditAsync(Key, me.Id, number, new PackageEdit(Title, Purpose, Milestone, WaitingOn,
        WaitingFor, EstimatePounds, Version), clock.Today, ct), ct);

    private void Take()
    {
        (Title, Purpose) = (Package.Title, Package.Purpose);
        Milestone = Package.MilestoneId;
        WaitingOn = Package.WaitingOn;
        WaitingFor = Package.WaitingForId;
        EstimatePounds = (Package.EstimatePence / 100m).ToString("0.##", System.Globalization.CultureInfo.InvariantCulture);
        Version = Package.Version;
    }

    private Task<IActionResult> RunAsync(int number, bool allowed, Func<Task<Recorded>> write, CancellationToken ct) =>
        WriteAsync(allowed, () => LoadAsync(number, ct), write, () =>
    {
        (Title, Purpose) = (Title ?? Package.Title, Purpose ?? Package.Purpose);

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
                Card = db.RouteCards.Where(c => c.PackageId == k.Id).Select(c => (int?)c.Number).FirstOrDefault(),
                Unlocked = db.Lockings.Count(l => l.PackageId == k.Id && l.Locked < l.Count && l.WithoutWhy == string.Empty),
                Locks = db.Lockings.Count(l => l.PackageId == k.Id),
                Inside = db.TemporaryItems.Count(t => t.PlaceId == k.PlaceId && t.Kind == TemporaryKind.Tool && t.OutAt == null),
                Tried = db.Attempts.Count(a => a.PackageId == k.Id && a.StruckAt == null),
                Again = db.Rechecks.Count(r => r.PackageId == k.Id && r.EndedAt == null),
                Bolted = db.BoltGroups.Where(g => k.Operations.Any(o => o.Id == g.OperationId)).Select(g => g.OperationId).ToList(),
                Milestone = db.Milestones.Where(x => x.Id == k.MilestoneId).Select(x => x.Name).FirstOrDefault(),
                Signed = (from o in k.Operations join s in db.SignOffs on o.Id equals s.OperationId join v in db.SignOffVoids on s.Id equals v.SignOffId into vs from v in vs.DefaultIfEmpty() select new { s, v }).ToList(),
            }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Package, Place, Machine, TagNumber, FindingNumber, CardNumber, MilestoneName) = (found.k, found.p, found.m, found.Tag,
            found.Finding, found.Card, found.Milestone);
        Care = new CareCounts(found.Locks, found.Unlocked, found.Inside, found.Tried, found.Again);
        Bolted = found.Bolted.ToHashSet();
        var shed = await stands.LoadAsync(db, clock.Now, ct);
        Names = shed.Names;
        Signed = [.. found.Signed.OrderByDescending(x => x.s.At).Select(x => (x.s, (SignOffVoid?)x.v))];
        var booked = await db.Hours.Where(h => h.PackageId == Package.Id).GroupBy(h => new { h.PersonId, h.OperationId }).Select(g =>
            new { g.Key.PersonId, g.Key.OperationId, Minutes = g.Sum(h => h.Minutes) }).ToListAsync(ct);
        Hours = [.. booked.GroupBy(h => h.PersonId).Select(g => (Name: Names[g.Key], Minutes: g.Sum(h => h.Minutes))).OrderByDescending(h =>
            h.Minutes)];
        OnSteps = booked.Where(h => h.OperationId is not null).GroupBy(h => h.OperationId!.Value).ToDictionary(g => g.Key, g =>
            g.Sum(h => h.Minutes));
        Costs = await db.Costs.AsNoTracking().Where(c => c.PackageId == Package.Id).OrderBy(c => c.On).ToListAsync(ct);
        var minutes = booked.Sum(h => h.Minutes);
        Remaining = Package.ClosedAt is not null ? HoursRange.None : WorkshopQuery.Remaining(Package.Operations,
            Package.Operations.Exists(o => o.Left is not null && o.DoneAt is null)
            ? await WorkshopQuery.SaidAsync(db, db.Packages.Where(k => k.Id == Package.Id), ct) : [], minutes).Aggregate(HoursRange.None,
            (sum, h) => sum + h);
        Stand = PackageStand.Of(Package, shed);
        Stock = Stock.Of(Package.Operations, minutes, OnSteps, Remaining);
        WhyNotClose = Stand.State == PackageState.Complete ? await PackageWrites.WhyNotCloseAsync(db, Package, ct) : [];
        if (me.IsShared && NextHold is not null)
        {
            Signers = await signer.WhoAsync(ct);
        }

        if (me.IsInspector && NextHold is { } hold)
        {
            WhyNotSign = await PackageWrites.WhyNotSignAsync(db, Package, hold, me.Id, true, clock.Today, ct);
        }

        Milestones = me.CanLead && Package.ClosedAt is null ? [new SelectListItem("None", string.Empty),
            .. await MilestoneChoices.OfAsync(db, Machine.Id, ct)] : [];
        Kept = found.HasKept ? await KeptQuery.OfPackageAsync(db, Package.Id, ct) : [];
        Story = await LogQuery.OfPackageAsync(db, Package.Id, ct);
        var path = (await PlaceWrites.TreeAsync(db, Machine.Id, ct)).PathUp(Place.Id).Select(n => n.Name).ToList();
        Cautions = CautionRules.At(Machine.Kind, Machine.Year, path, [Package.Title, Place.Name, found.Words,
            .. Package.Operations.Select(o => o.Name)]);
        var named = Package.ClosedAt is null ? Package.Operations.Where(o => o.DoneAt is null && o.Kit.Count > 0).OrderBy(o =>
            o.Order).ToList() : [];
        var ids = named.ConvertAll(o => o.Id);
        var laid = ids.Count == 0 ? [] : await db.LaidOut.AsNoTracking().Where(l => ids.Contains(l.OperationId)).ToListAsync(ct);
        Kit = [.. named.SelectMany(o => o.Kit.Select(i => (o, i, laid.Find(l => l.OperationId == o.Id && l.What == i.What)?.Here)))];
        Next = await NextAsync(ct) is { } next ? await ViewAsync(next, path, shed, ct) : null;
        return true;
    }

    // Of several steps that can be done side by side the one that most often fixes a date in the plan stands large.
    private async Task<Operation?> NextAsync(CancellationToken ct)
    {
        var next = Stand.Next.Where(o => !o.Hold).ToList();
        if (next.Count < 2)
        {
            return next.FirstOrDefault();
        }

        var critical = (await plans.PresentAsync(ct)).Plan?.Result.Forecast?.Operations.ToDictionary(o => o.Id, o => o.Critical,
            StringComparer.Ordinal) ?? [];
        return next.OrderByDescending(o => critical.GetValueOrDefault(PlanQuery.Id(o.Id))).ThenBy(o => o.Order).First();
    }

    private async Task<StepView> ViewAsync(Operation next, IReadOnlyList<string> path, ShedStand shed, CancellationToken ct)
    {
        var on = clock.Today;
        var jobs = await db.DayJobs.AsNoTracking().Where(j => j.On == on && j.OperationId == next.Id).OrderBy(j => j.From).ToListAsync(ct);
        var taken = next.Readings.Count == 0 ? [] : await db.StepReadings.AsNoTracking().Where(r =>
            r.OperationId == next.Id).ToListAsync(ct);
        var places = ReadingRule.Places(next.Readings, taken);
        var reasons = Stand.Reasons.Where(r => r.Step is null || r.Step.Id == next.Id).ToList();
        var cautions = CautionRules.At(Machine.Kind, Machine.Year, path, [next.Name, next.Note]);
        var view = new StepView
        {
            Package = Package.Number,
            Step = next,
            Bolts = Bolted.Contains(next.Id),
            NotLaid = await KitWrites.WhyNotBeginAsync(db, next, ct),
            Snag = StepView.SnagAt(TagNumber, Place.Id),
            Reasons = reasons,
            Places = places,
            Who = [.. jobs.GroupBy(j => j.PersonId).Select(g => (Names.GetValueOrDefault(g.Key, string.Empty),
                $"at it from {g.Min(j => j.From).ToString("HH:mm", null)}"))],
            WorkedMinutes = OnSteps.GetValueOrDefault(next.Id),
            Cautions = cautions,
            Names = Names,
            AtIt = [.. jobs.Select(j => j.PersonId).Distinct()],
            ReadBy = cautions.Count == 0 ? new Dictionary<int, IReadOnlyList<Guid>>()
                : (await db.CautionReads.AsNoTracking().Where(c => c.OperationId == next.Id).OrderBy(c =>
                c.At).ToListAsync(ct)).GroupBy(c => c.Caution).ToDictionary(g => g.Key, g =>
                (IReadOnlyList<Guid>)[.. g.Select(c => c.ById)]),
            WhyNot = PackageRules.WhyNotFinish(Package,
                next) ?? (shed.Fixtures.GetValueOrDefault(Package.Id) ?? []).FirstOrDefault() ?? ReadingRule.WhyNot(places),
            Missing = reasons.FirstOrDefault(r => r.Kind == StandKind.Part && r.Step?.Id == next.Id)?.What,
        };
        return view with { Line = instruments.NameFor(view.Now?.Wanted) };
    }
}
