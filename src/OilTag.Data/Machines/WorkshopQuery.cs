using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Work;
using OilTag.Data.Survey;

namespace OilTag.Data.Machines;

/// <summary>
/// Loads what the shed, a machine, an assembly and a milestone are worked out from, in nine commands whatever the size. The work and the places
/// are read at the same time over two connections, as of one moment. What was loaded is kept until something is recorded: every write moves the
/// record's stamp on.
/// </summary>
public sealed class WorkshopLoader(IDbContextFactory<OilTagDb> contexts)
{
    // As many as there are machines and one more; a letter that is no machine's is never kept.
    private readonly ConcurrentDictionary<string, (long Stamp, Workshop Shop, ConcurrentDictionary<Guid, MachineView> Views)> kept = new(StringComparer.Ordinal);

    /// <param name="today">Today.</param>
    /// <param name="letter">One machine, or null for all.</param>
    public async Task<Workshop> LoadAsync(LocalDate today, string? letter = null, CancellationToken ct = default) => (await KeptAsync(today, letter, ct)).Shop;

    /// <summary>A machine with what was worked out of it, kept as long as what it was worked out from; null when there is no such machine.</summary>
    /// <param name="today">Today.</param>
    /// <param name="letter">Its letter.</param>
    public async Task<MachineView?> ViewAsync(LocalDate today, string letter, CancellationToken ct)
    {
        var (shop, views) = await KeptAsync(today, letter, ct);
        return shop.Machines is [var machine] ? views.GetOrAdd(machine.Id, _ => new MachineView(shop, machine)) : null;
    }

    private async Task<(Workshop Shop, ConcurrentDictionary<Guid, MachineView> Views)> KeptAsync(LocalDate today, string? letter, CancellationToken ct)
    {
        await using var db = await contexts.CreateDbContextAsync(ct);
        if (kept.TryGetValue(letter ?? string.Empty, out var last) && last.Shop.Today == today
            && last.Stamp == await db.Database.SqlQuery<long>($"select version as \"Value\" from record_stamp").SingleAsync(ct))
        {
            return (last.Shop, last.Views);
        }

        await using var moment = await db.MomentAsync(ct);
        var at = await db.Database.SqlQuery<Moment>($"select version, pg_export_snapshot() as snapshot from record_stamp").SingleAsync(ct);
        var shop = await ReadAsync(db, at.Snapshot, today, letter, ct);
        var views = new ConcurrentDictionary<Guid, MachineView>();
        if (shop.Machines.Count > 0)
        {
            kept[letter ?? string.Empty] = (at.Version, shop, views);
        }

        return (shop, views);
    }

    /// <summary>A moment of the record, which a second connection can join while the first one holds it.</summary>
    private sealed record Moment(long Version, string Snapshot);

    private async Task<Workshop> ReadAsync(OilTagDb db, string snapshot, LocalDate today, string? letter, CancellationToken ct)
    {
        var machines = await db.Machines.AsNoTracking().Where(m => letter == null || m.Letter == letter).OrderBy(m => m.Bay).ToListAsync(ct);
        var one = letter is not null && machines.Count == 1 ? machines[0].Id : (Guid?)null;
        var work = WorkAsync(snapshot, one, today, ct);
        var from = today.PlusWeeks(-Workshop.PaceWeeks);
        var shop = new Workshop
        {
            Today = today,
            Machines = machines,
            Assemblies = await db.Places.AsNoTracking().Where(p => p.Kind == PlaceKind.Assembly && (one == null || p.MachineId == one)).ToListAsync(ct),
            Tags = [],
            Packages = [],
            Outlines = machines.Exists(m => m.Drawing == Outline.Own) ? await db.Outlines.AsNoTracking().ToListAsync(ct) : [],
            BackOn = await WorkshopQuery.BackOnAsync(db, one, ct),
            Milestones = await db.Milestones.AsNoTracking().Where(m => m.EndedAt == null).OrderBy(m => m.On).ToListAsync(ct),
            Calendar = await WorkshopQuery.CalendarAsync(db, ct),
            Worked = await (
                from h in db.Hours
                where h.On >= @from && (one == null || h.MachineId == one)
                group h by new { h.MachineId, h.On } into g
                select new WorkedDay(g.Key.MachineId, g.Key.On, g.Sum(h => h.Minutes))).ToListAsync(ct),
        };
        var (packages, tags) = await work;
        return shop with { Packages = packages, Tags = tags };
    }

    private async Task<(IReadOnlyList<PackageFacts> Packages, IReadOnlyList<TagFacts> Tags)> WorkAsync(string snapshot, Guid? one, LocalDate today, CancellationToken ct)
    {
        await using var db = await contexts.CreateDbContextAsync(ct);
        await using var moment = await db.MomentAsync(ct);
#pragma warning disable EF1002 // The server made this name a moment ago, and this statement takes no parameters.
        await db.Database.ExecuteSqlRawAsync($"set transaction snapshot '{snapshot}'", ct);
#pragma warning restore EF1002
        var packages = await WorkshopQuery.PackagesAsync(db, db.Packages.Where(k => k.ClosedAt == null && (one == null || k.MachineId == one)), ct);
        return (packages, await WorkshopQuery.TagsAsync(db, db.Tags.Where(t => t.End == null && (one == null || t.MachineId == one)), packages, today, ct));
    }
}

/// <summary>Facts about tags and packages, and sums of what is closed.</summary>
public static class WorkshopQuery
{
    /// <summary>How many slots of each assembly have their part back on and not off again.</summary>
    internal static Task<Dictionary<Guid, int>> BackOnAsync(OilTagDb db, Guid? machineId, CancellationToken ct) => (
        from f in db.Fittings
        join s in db.Places on f.SlotId equals s.Id
        where f.Kind == FittingKind.Final && f.Until == null && s.ParentId != null && (machineId == null || s.MachineId == machineId)
        group f by s.ParentId!.Value into g
        select new { g.Key, Count = g.Count() }).ToDictionaryAsync(g => g.Key, g => g.Count, ct);

    /// <summary>Closed packages added up in the database.</summary>
    public static async Task<Totals> ClosedTotalsAsync(OilTagDb db, IQueryable<WorkPackage> which, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var closed = which.Where(k => k.ClosedAt != null);
        var sums = await db.Machines.OrderBy(m => m.Bay).Take(1).Select(_ => new
        {
            Packages = closed.Count(),
            Estimate = closed.Sum(k => (long?)k.EstimatePence) ?? 0,
            Booked = db.Hours.Where(h => closed.Any(k => k.Id == h.PackageId)).Sum(h => (int?)h.Minutes) ?? 0,
            Spent = db.Costs.Where(c => closed.Any(k => k.Id == c.PackageId)).Sum(c => (long?)c.Pence) ?? 0,
            Steps = db.Operations.Count(o => closed.Any(k => k.Id == o.PackageId && k.CancelledWhy == string.Empty)),
        }).SingleAsync(ct);
        return new Totals(sums.Packages, sums.Packages, sums.Booked, HoursRange.None, sums.Spent, sums.Estimate, sums.Steps, sums.Steps);
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

    /// <summary>Facts about tags; the packages must hold the open ones that are about them.</summary>
    public static async Task<IReadOnlyList<TagFacts>> TagsAsync(OilTagDb db, IQueryable<Tag> which, IReadOnlyList<PackageFacts> packages, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);

        // Joined to sets and not asked row by row: with few rows in the tables the planner would read a table whole for every tag.
        var undecided =
            from f in db.Findings.Where(FindingQuery.IsOpen(today))
            where f.TagId != null
            group f by f.TagId into g
            select new { TagId = g.Key, Count = g.Count() };
        var done = db.Packages.Where(k => k.ClosedAt != null && k.CancelledWhy == string.Empty && k.TagId != null).Select(k => k.TagId).Distinct();
        var rows = await (
            from t in which
            join s in db.Places on t.SlotId equals s.Id
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId into cs
            from c in cs.DefaultIfEmpty()
            join p in db.People on c.ById equals p.Id into ps
            from p in ps.DefaultIfEmpty()
            join u in undecided on t.Id equals u.TagId into us
            from u in us.DefaultIfEmpty()
            join d in done on t.Id equals d into ds
            from d in ds.DefaultIfEmpty()
            join f in db.Fittings.Where(f => f.Until == null && (f.Kind == FittingKind.Trial || f.Loose != "")) on t.PartId equals f.PartId into fs
            from f in fs.DefaultIfEmpty()
            select new
            {
                t.Id,
                t.Number,
                t.MachineId,
                t.SlotId,
                s.ParentId,
                s.Name,
                s.Hand,
                s.Position,
                t.End,
                t.OpenedAt,
                Kind = (CustodyKind?)c.Kind,
                Where = (string?)c.Where,
                Due = (LocalDate?)c.DueBack,
                Who = (string?)p.Name,
                Undecided = (int?)u.Count ?? 0,
                Done = d != null,
                In = (FittingKind?)f.Kind,
                Loose = (string?)f.Loose,
            }).ToListAsync(ct);
        var byTag = packages.Where(p => p.TagId is not null && !p.Closed).ToLookup(p => p.TagId!.Value);
        return [.. rows.Select(r => new TagFacts
        {
            TagId = r.Id,
            Number = r.Number,
            MachineId = r.MachineId,
            SlotId = r.SlotId,
            AssemblyId = r.ParentId ?? r.SlotId,
            Name = PlaceNames.Full(r.Name, r.Hand, r.Position),
            End = r.End,
            Custody = r.Kind ?? CustodyKind.Shelf,
            Where = r.Where ?? string.Empty,
            DueBack = r.Due,
            Who = r.Kind == CustodyKind.Bench ? (r.Who ?? string.Empty).Split(' ')[0] : string.Empty,
            Undecided = r.Undecided,
            OpenPackages = byTag[r.Id].Count(),
            WorkDone = r.Done,
            WaitingOn = byTag[r.Id].FirstOrDefault(p => p.WaitingOn.Length > 0)?.WaitingOn ?? string.Empty,
            OpenedAt = r.OpenedAt,
            In = r.End == null ? r.In : null,
            Loose = r.Loose ?? string.Empty,
        })];
    }

    /// <summary>Facts about packages, in the order of their numbers.</summary>
    public static async Task<IReadOnlyList<PackageFacts>> PackagesAsync(OilTagDb db, IQueryable<WorkPackage> which, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var booked = from h in db.Hours join k in which on h.PackageId equals (Guid?)k.Id group h by k.Id into g select new { g.Key, Minutes = g.Sum(h => h.Minutes) };
        var spent = from c in db.Costs join k in which on c.PackageId equals k.Id group c by c.PackageId into g select new { g.Key, Pence = g.Sum(c => c.Pence) };

        // The next open step is the one with the least order; doubled, so that one more can tell that it is a hold.
        var steps =
            from o in db.Operations
            join k in which on o.PackageId equals k.Id
            group o by o.PackageId into g
            select new
            {
                g.Key,
                Count = g.Count(),
                Done = g.Count(o => o.DoneAt != null),
                Low = g.Sum(o => o.DoneAt == null && o.Left == null ? o.Low : 0),
                Likely = g.Sum(o => o.DoneAt == null && o.Left == null ? o.Likely : 0),
                High = g.Sum(o => o.DoneAt == null && o.Left == null ? o.High : 0),
                DoneLikely = g.Sum(o => o.DoneAt != null ? o.Likely : 0),
                Next = g.Min(o => o.DoneAt == null ? (o.Order * 2) + (o.Hold ? 1 : 0) : 1_000_000),
            };
        var rows = await (
            from k in which
            join at in db.Places on k.PlaceId equals at.Id
            join p in db.People on k.WaitingForId equals p.Id into ps
            from p in ps.DefaultIfEmpty()
            join b in booked on k.Id equals b.Key into bs
            from b in bs.DefaultIfEmpty()
            join c in spent on k.Id equals c.Key into cs
            from c in cs.DefaultIfEmpty()
            join o in steps on k.Id equals o.Key into os
            from o in os.DefaultIfEmpty()
            orderby k.Number
            select new
            {
                k.Id,
                k.Number,
                k.MachineId,
                k.PlaceId,
                AssemblyId = at.Kind == PlaceKind.Assembly ? at.Id : at.ParentId ?? at.Id,
                at.Name,
                at.Hand,
                at.Position,
                k.Title,
                k.TagId,
                k.MilestoneId,
                k.WaitingOn,
                WaitingFor = (string?)p.Name,
                k.WaitingSince,
                Closed = k.ClosedAt != null,
                k.CancelledWhy,
                k.EstimatePence,
                Booked = (int?)b.Minutes ?? 0,
                Spent = (long?)c.Pence ?? 0,
                Count = (int?)o.Count ?? 0,
                Done = (int?)o.Done ?? 0,
                Low = (double?)o.Low ?? 0,
                Likely = (double?)o.Likely ?? 0,
                High = (double?)o.High ?? 0,
                DoneLikely = (double?)o.DoneLikely ?? 0,
                Next = (int?)o.Next ?? 0,
            }).ToListAsync(ct);
        var said = (await SaidAsync(db, which, ct)).ToLookup(o => o.PackageId);
        return [.. rows.Select(r => new PackageFacts
        {
            Id = r.Id,
            Number = r.Number,
            MachineId = r.MachineId,
            PlaceId = r.PlaceId,
            AssemblyId = r.AssemblyId,
            Place = PlaceNames.Full(r.Name, r.Hand, r.Position),
            Title = r.Title,
            TagId = r.TagId,
            MilestoneId = r.MilestoneId,
            WaitingOn = r.WaitingOn,
            WaitingFor = (r.WaitingFor ?? string.Empty).Split(' ')[0],
            WaitingSince = r.WaitingSince,
            Closed = r.Closed,
            Cancelled = r.CancelledWhy.Length > 0,
            Remaining = r.Closed ? HoursRange.None : said[r.Id].Aggregate(
                PackageRules.Remaining(new HoursRange(r.Low, r.Likely, r.High), r.DoneLikely, (r.Booked / 60.0) - said[r.Id].Sum(o => o.Hours.Booked)),
                (sum, o) => sum + PackageRules.Said(o.Hours.Hours, o.Hours.Left!.Value, o.Hours.Since)),
            BookedMinutes = r.Booked,
            SpentPence = r.Spent,
            EstimatePence = r.EstimatePence,
            Steps = r.Count,
            StepsDone = r.Done,
            AtHold = r.Next is > 0 and < 1_000_000 && r.Next % 2 == 1,
        })];
    }
    /// <summary>Open steps for which somebody said what they still want, with the hours booked on each.</summary>
    public static async Task<IReadOnlyList<(Guid Id, Guid PackageId, StepHours Hours)>> SaidAsync(OilTagDb db, IQueryable<WorkPackage> which, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (
            from o in db.Operations
            join k in which on o.PackageId equals k.Id
            where o.DoneAt == null && o.Left != null
            orderby k.Number, o.Order
            select new
            {
                o.Id,
                o.PackageId,
                o.Low,
                o.Likely,
                o.High,
                o.Left,
                Booked = db.Hours.Where(h => h.OperationId == o.Id).Sum(h => (int?)h.Minutes) ?? 0,
                Since = db.Hours.Where(h => h.OperationId == o.Id && h.At > o.LeftAt).Sum(h => (int?)h.Minutes) ?? 0,
            }).ToListAsync(ct);
        return [.. rows.Select(r => (r.Id, r.PackageId, new StepHours(new HoursRange(r.Low, r.Likely, r.High), false, r.Left, r.Booked / 60.0, r.Since / 60.0)))];
    }

    /// <summary>Hours still to do of each open step of a package.</summary>
    public static IReadOnlyList<HoursRange> Remaining(IReadOnlyList<Operation> steps, IEnumerable<(Guid Id, Guid PackageId, StepHours Hours)> said, int bookedMinutes)
    {
        ArgumentNullException.ThrowIfNull(steps);
        var by = said.ToDictionary(s => s.Id, s => s.Hours);
        return PackageRules.RemainingBySteps([.. steps.Select(o => by.GetValueOrDefault(o.Id) ?? new StepHours(new HoursRange(o.Low, o.Likely, o.High), o.DoneAt is not null))], bookedMinutes / 60.0);
    }
}
