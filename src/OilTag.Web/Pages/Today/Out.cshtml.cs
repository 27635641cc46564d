using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>Somebody goes home: the hours of their jobs are confirmed, in one tap when the board is right.</summary>
public sealed class OutModel(OilTagDb db, ShedClock clock, Me me, DayWrites writes) : FormPage
{
    /// <summary>One job to confirm.</summary>
    public sealed record Line(DayStep Step, string Hours, string? Left, double Expected, bool Done);

    public Visit Visit { get; private set; } = null!;

    public string Name { get; private set; } = string.Empty;

    public LocalTime Leaves { get; private set; }

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>Minutes that are on record for that day already.</summary>
    public int Booked { get; private set; }

    [BindProperty]
    public string? Went { get; set; }

    [BindProperty]
    public List<Guid> Operation { get; set; } = [];

    [BindProperty]
    public List<string?> Hours { get; set; } = [];

    [BindProperty]
    public List<string?> Left { get; set; } = [];

    public string FirstName => Name.Split(' ')[0];

    public bool Forgotten => Visit.On < clock.Today;

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct) =>
        await LoadAsync(id, ct) ? Visit.Left is null ? Page() : Redirect($"/today?gone={id}") : NotFound();

    public Task<IActionResult> OnPostAsync(Guid id, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(id, ct),
        () => writes.SignOutAsync(Key, me.Id, id, Went, [.. Operation.Select((o, i) => new SignOutEntry(o, Hours.ElementAtOrDefault(i), Left.ElementAtOrDefault(i)))], clock.Now, ct));

    /// <summary>They stay longer after all.</summary>
    public Task<IActionResult> OnPostStayAsync(Guid id, string? until, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.StayAsync(Key, me.Id, id, until, clock.Now, ct));

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (await db.Visits.AsNoTracking().SingleOrDefaultAsync(v => v.Id == id, ct) is not { } visit)
        {
            return false;
        }

        Visit = visit;
        Name = await db.People.Where(p => p.Id == visit.PersonId).Select(p => p.Name).SingleAsync(ct);
        var now = new LocalTime(clock.Now.Hour, clock.Now.Minute);
        var usual = Forgotten ? visit.Until : now < visit.Arrived ? visit.Arrived : now;
        Leaves = VisitRule.Clock(Went) is { } typed && typed >= visit.Arrived ? typed : usual;
        var jobs = await db.DayJobs.AsNoTracking().Where(j => j.On == visit.On && j.PersonId == visit.PersonId).ToListAsync(ct);
        var worked = SignOutRule.Worked(jobs, visit.Arrived, Leaves);
        Booked = await db.Hours.Where(h => h.PersonId == visit.PersonId && h.On == visit.On).SumAsync(h => (int?)h.Minutes, ct) ?? 0;
        var ids = worked.Select(w => w.Operation).ToList();
        var steps = await DayQuery.StepsAsync(db, db.Operations.Where(o => ids.Contains(o.Id)), ct);
        var open = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where db.Operations.Any(x => ids.Contains(x.Id) && x.PackageId == k.Id) orderby o.Order select o).AsNoTracking().ToListAsync(ct);
        var packages = open.Select(o => o.PackageId).Distinct().ToList();
        var said = await WorkshopQuery.SaidAsync(db, db.Packages.Where(k => packages.Contains(k.Id)), ct);
        var booked = await db.Hours.Where(h => packages.Contains(h.PackageId)).GroupBy(h => h.PackageId).Select(g => new { g.Key, Minutes = g.Sum(h => h.Minutes) }).ToDictionaryAsync(g => g.Key, g => g.Minutes, ct);
        var left = packages.SelectMany(k => open.Where(o => o.PackageId == k).Zip(WorkshopQuery.Remaining([.. open.Where(o => o.PackageId == k)], said.Where(s => s.PackageId == k), booked.GetValueOrDefault(k)))).ToDictionary(x => x.First.Id, x => x.Second.Likely);
        var done = open.Where(o => o.DoneAt is not null).Select(o => o.Id).ToHashSet();
        Lines = [.. worked.Where(w => steps.ContainsKey(w.Operation)).Select(w =>
        {
            var i = Operation.IndexOf(w.Operation);
            return new Line(steps[w.Operation], i >= 0 ? Hours.ElementAtOrDefault(i) ?? string.Empty : Typed(w.Minutes), i >= 0 ? Left.ElementAtOrDefault(i) : null, Math.Max(0.5, left.GetValueOrDefault(w.Operation) - (w.Minutes / 60.0)), done.Contains(w.Operation));
        })];
        return true;
    }

    private static string Typed(int minutes) => string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{minutes / 60}:{minutes % 60:00}");
}
