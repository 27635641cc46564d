using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Service;
using OilTag.Core.Strip;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Service;
using OilTag.Data.Strip;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>What must not be forgotten at a package: what is locked, which tools went in, what was tried on stuck parts, what is looked at again.</summary>
public sealed class CareModel(OilTagDb db, Me me, ShedClock clock, TroubleWrites troubles, RegisterWrites registers, ServiceWrites services)
    : FormPage
{
    public WorkPackage Package { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public IReadOnlyList<Locking> Locks { get; private set; } = [];

    /// <summary>Tools that went in at its place, those that are in first.</summary>
    public IReadOnlyList<TemporaryItem> Tools { get; private set; } = [];

    public IReadOnlyList<Attempt> Attempts { get; private set; } = [];

    public IReadOnlyList<Recheck> Rechecks { get; private set; } = [];

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    [BindProperty]
    public Guid Id { get; set; }

    [BindProperty]
    public string? LockWhat { get; set; }

    [BindProperty]
    public LockWay LockWay { get; set; }

    [BindProperty]
    public string? LockCount { get; set; }

    [BindProperty]
    public string? Locked { get; set; }

    [BindProperty]
    public string? LockWithout { get; set; }

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public string? TriedOn { get; set; }

    [BindProperty]
    public Trouble Trouble { get; set; }

    [BindProperty]
    public AttemptWay? TriedWay { get; set; }

    [BindProperty]
    public string? Medium { get; set; }

    [BindProperty]
    public string? TriedHours { get; set; }

    [BindProperty]
    public AttemptEnd? TriedEnd { get; set; }

    [BindProperty]
    public string? TriedNote { get; set; }

    [BindProperty]
    public string? StrikeWhy { get; set; }

    [BindProperty]
    public string? Recheck { get; set; }

    [BindProperty]
    public DateOnly? RecheckOn { get; set; }

    [BindProperty]
    public string? AfterHours { get; set; }

    [BindProperty]
    public UseKind? AfterUse { get; set; }

    /// <summary>What was tried, part by part, with what comes next.</summary>
    public IEnumerable<(string What, Trouble Trouble, IReadOnlyList<Attempt> Tried, AttemptAdvice Next)> Parts => Attempts
        .GroupBy(a => (What: a.What.ToLowerInvariant(), a.Trouble))
        .OrderByDescending(g => g.Max(a => a.At))
        .Select(g => (g.First().What, g.Key.Trouble, (IReadOnlyList<Attempt>)[.. g], AttemptRule.Next(g.Key.Trouble, g)));

    public bool Open => Package.ClosedAt is null;

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostLockAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, () => troubles.LockAsync(Key, me.Id, number, LockWhat, LockWay, LockCount, ct), ct);

    public Task<IActionResult> OnPostLockedAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, () => troubles.LockedAsync(Key, me.Id, number, Id, Locked, ct), ct);

    public Task<IActionResult> OnPostUnlockedAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanLead, number, () => troubles.UnlockedAsync(Key, me.Id, number, Id, LockWithout, ct), ct);

    public Task<IActionResult> OnPostInAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, async () => Lead(await registers.PutInAsync(Key, me.Id, Machine.Letter, Package.PlaceId,
        TemporaryKind.Tool, What, ct), "inside"), ct);

    public Task<IActionResult> OnPostOutAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, async () => Lead(await registers.TakeOutAsync(Key, me.Id, Machine.Letter, Id, ct), "inside"), ct);

    public Task<IActionResult> OnPostTryAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, async () => Lead(await troubles.TryAsync(Key, me.Id, number, new AttemptEntry(TriedOn, Trouble,
            TriedWay, Medium, TriedHours, TriedEnd, TriedNote), ct), "tried"), ct);

    public Task<IActionResult> OnPostStrikeAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, async () => Lead(await troubles.StrikeAsync(Key, me.Id, me.CanLead, number, Id, StrikeWhy, ct),
        "tried"), ct);

    public Task<IActionResult> OnPostAgainAsync(int number, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, () => services.AgainAsync(Key, me.Id, Machine.Letter, number, new RecheckEntry(Recheck,
            Package.PlaceId, ToDate(RecheckOn), AfterHours, AfterUse), clock.Today, $"/w/{number}/care#again", ct), ct);

    private Recorded Lead(Recorded outcome, string part) => outcome.Ok ? Recorded.To($"/w/{Package.Number}/care#{part}") : outcome;

    private Task<IActionResult> RunAsync(bool allowed, int number, Func<Task<Recorded>> write, CancellationToken ct) =>
        WriteAsync(allowed, () => LoadAsync(number, ct), write);

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (from k in db.Packages join p in db.Places on k.PlaceId equals p.Id join m in db.Machines on k.MachineId equals m.Id where k.Number == number select new { k, p, m }).AsNoTracking().SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Package, Place, Machine) = (found.k, found.p, found.m);
        Locks = await db.Lockings.AsNoTracking().Where(l => l.PackageId == Package.Id).OrderBy(l => l.Id).ToListAsync(ct);
        Tools = await db.TemporaryItems.AsNoTracking().Where(t => t.PlaceId == Package.PlaceId && t.Kind == TemporaryKind.Tool
            && (t.OutAt == null || t.InAt >= Package.OpenedAt)).OrderBy(t => t.OutAt != null).ThenByDescending(t => t.InAt).ToListAsync(ct);
        Attempts = await db.Attempts.AsNoTracking().Where(a => a.PackageId == Package.Id).OrderBy(a => a.At).ThenBy(a =>
            a.Id).ToListAsync(ct);
        Rechecks = await db.Rechecks.AsNoTracking().Where(r => r.PackageId == Package.Id).OrderBy(r => r.EndedAt != null).ThenBy(r =>
            r.At).ToListAsync(ct);
        var ids = Locks.Select(l => l.LockedById).OfType<Guid>().Concat(Tools.Select(t => t.InById)).Concat(Attempts.Select(a =>
            a.ById)).Concat(Rechecks.Select(r => r.ById)).Distinct().ToList();
        Names = ids.Count == 0 ? Names : await db.People.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }
}
