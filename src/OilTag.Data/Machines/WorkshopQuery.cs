using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Work;

namespace OilTag.Data.Machines;

/// <summary>Loads what the shed, a machine, an assembly and a milestone are worked out from, in eight commands whatever the size.</summary>
public static class WorkshopQuery
{
    public static async Task<Workshop> LoadAsync(OilTagDb db, LocalDate today, string? letter = null, CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(db);
        var machines = await db.Machines.AsNoTracking().Where(m => letter == null || m.Letter == letter).OrderBy(m => m.Bay).ToListAsync(ct);
        var ids = machines.Select(m => m.Id).ToList();
        var places = await db.Places.AsNoTracking().Where(p => ids.Contains(p.MachineId)).ToListAsync(ct);
        var packages = await PackagesAsync(db, db.Packages.Where(k => ids.Contains(k.MachineId)), ct);
        var tags = await TagsAsync(db, db.Tags.Where(t => ids.Contains(t.MachineId)), packages, ct);
        var from = today.PlusWeeks(-Workshop.PaceWeeks);
        var worked = await (
            from h in db.Hours
            join p in db.Packages on h.PackageId equals p.Id
            where h.On >= @from && ids.Contains(p.MachineId)
            group h by new { p.MachineId, h.On } into g
            select new WorkedDay(g.Key.MachineId, g.Key.On, g.Sum(h => h.Minutes))).ToListAsync(ct);
        return new Workshop
        {
            Today = today,
            Machines = machines,
            Places = places,
            Tags = tags,
            Packages = packages,
            Milestones = await db.Milestones.AsNoTracking().OrderBy(m => m.On).ToListAsync(ct),
            Calendar = await CalendarAsync(db, ct),
            Worked = worked,
        };
    }

    public static async Task<SessionCalendar> CalendarAsync(OilTagDb db, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var weekly = await db.SessionPatterns.AsNoTracking().ToListAsync(ct);
        return new SessionCalendar(weekly.Select(w => (w.Day, w.From, w.Until)));
    }

    /// <summary>Who worked last, newest first.</summary>
    public static async Task<IReadOnlyList<LateWorker>> LateWorkersAsync(OilTagDb db, LocalDate today, int most, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var from = today.PlusDays(-14);
        var rows = await (
            from h in db.Hours
            join p in db.People on h.PersonId equals p.Id
            where h.On >= @from
            group h by new { p.Id, p.Name, h.On } into g
            select new LateWorker(g.Key.Id, g.Key.Name, g.Key.On, g.Sum(h => h.Minutes))).ToListAsync(ct);
        return [.. rows.GroupBy(r => r.PersonId).Select(g => g.MaxBy(r => r.On)!).OrderByDescending(r => r.On).ThenByDescending(r => r.Minutes).Take(most)];
    }

    /// <summary>Facts about tags; the packages must hold those that are about them.</summary>
    public static async Task<IReadOnlyList<TagFacts>> TagsAsync(OilTagDb db, IQueryable<Tag> which, IReadOnlyList<PackageFacts> packages, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (
            from t in which
            join s in db.Places on t.SlotId equals s.Id
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId into cs
            from c in cs.DefaultIfEmpty()
            join p in db.People on c.ById equals p.Id into ps
            from p in ps.DefaultIfEmpty()
            select new
            {
                t.Id, t.Number, t.MachineId, t.SlotId, s.Name, s.Hand, s.Position, t.End, t.OpenedAt,
                Kind = (CustodyKind?)c.Kind, Where = (string?)c.Where, Due = (LocalDate?)c.DueBack, Who = (string?)p.Name,
                Undecided = db.Findings.Count(f => f.TagId == t.Id && !db.Decisions.Any(d => d.FindingId == f.Id && !d.Replaced)),
            }).ToListAsync(ct);
        var byTag = packages.Where(p => p.TagId is not null).ToLookup(p => p.TagId!.Value);
        return [.. rows.Select(r => new TagFacts
        {
            TagId = r.Id,
            Number = r.Number,
            MachineId = r.MachineId,
            SlotId = r.SlotId,
            Name = PlaceNames.Full(r.Name, r.Hand, r.Position),
            End = r.End,
            Custody = r.Kind ?? CustodyKind.Shelf,
            Where = r.Where ?? string.Empty,
            DueBack = r.Due,
            Who = r.Kind == CustodyKind.Bench ? (r.Who ?? string.Empty).Split(' ')[0] : string.Empty,
            Undecided = r.Undecided,
            OpenPackages = byTag[r.Id].Count(p => !p.Closed),
            ClosedPackages = byTag[r.Id].Count(p => p.Closed),
            WaitingOn = byTag[r.Id].FirstOrDefault(p => !p.Closed && p.WaitingOn.Length > 0)?.WaitingOn ?? string.Empty,
            OpenedAt = r.OpenedAt,
        })];
    }

    /// <summary>Facts about packages.</summary>
    public static async Task<IReadOnlyList<PackageFacts>> PackagesAsync(OilTagDb db, IQueryable<WorkPackage> which, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (
            from k in which
            join p in db.People on k.WaitingForId equals p.Id into ps
            from p in ps.DefaultIfEmpty()
            orderby k.Number
            select new
            {
                k.Id, k.Number, k.MachineId, k.PlaceId, k.Title, k.TagId, k.MilestoneId, k.WaitingOn, WaitingFor = (string?)p.Name, k.WaitingSince, k.ClosedAt, k.EstimatePence,
                Booked = db.Hours.Where(h => h.PackageId == k.Id).Sum(h => (int?)h.Minutes) ?? 0,
                Spent = db.Costs.Where(c => c.PackageId == k.Id).Sum(c => (long?)c.Pence) ?? 0,
            }).ToListAsync(ct);
        var operations = await (
            from o in db.Operations
            join k in which on o.PackageId equals k.Id
            orderby o.Order
            select new { o.PackageId, o.Low, o.Likely, o.High, Done = o.DoneAt != null, o.Hold }).ToListAsync(ct);
        var byPackage = operations.ToLookup(o => o.PackageId);
        return [.. rows.Select(r => new PackageFacts
        {
            Id = r.Id,
            Number = r.Number,
            MachineId = r.MachineId,
            PlaceId = r.PlaceId,
            Title = r.Title,
            TagId = r.TagId,
            MilestoneId = r.MilestoneId,
            WaitingOn = r.WaitingOn,
            WaitingFor = (r.WaitingFor ?? string.Empty).Split(' ')[0],
            WaitingSince = r.WaitingSince,
            Closed = r.ClosedAt is not null,
            Remaining = r.ClosedAt is not null ? HoursRange.None : PackageRules.Remaining(byPackage[r.Id].Select(o => (new HoursRange(o.Low, o.Likely, o.High), o.Done)), r.Booked / 60.0),
            BookedMinutes = r.Booked,
            SpentPence = r.Spent,
            EstimatePence = r.EstimatePence,
            Steps = byPackage[r.Id].Count(),
            StepsDone = byPackage[r.Id].Count(o => o.Done),
            AtHold = byPackage[r.Id].FirstOrDefault(o => !o.Done)?.Hold ?? false,
        })];
    }
}
