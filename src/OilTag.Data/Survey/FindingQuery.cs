using System.Linq.Expressions;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Data.Survey;

/// <summary>Where a finding stands.</summary>
public enum FindingState
{
    /// <summary>Nobody has decided yet, or the decision has come back.</summary>
    Open,

    /// <summary>Decided.</summary>
    Settled,
}

/// <summary>How much of the allowed wear a reading has used, as the list can be asked for.</summary>
public enum WearBand
{
    /// <summary>Past the limit.</summary>
    Past,

    /// <summary>Four fifths and more.</summary>
    Near,

    /// <summary>Less.</summary>
    Less,

    /// <summary>No reading, size as built or limit.</summary>
    None,
}

/// <summary>In which order findings are listed.</summary>
public enum FindingOrder
{
    /// <summary>Undecided first, the newest first.</summary>
    Open,

    /// <summary>By place in the breakdown.</summary>
    Place,

    /// <summary>Most worn first.</summary>
    Wear,

    /// <summary>By decision.</summary>
    Decision,

    /// <summary>Oldest first.</summary>
    Age,
}

/// <summary>What is asked of the list of findings.</summary>
/// <param name="MachineId">One machine, or null.</param>
/// <param name="Places">Places that count, or null for all.</param>
/// <param name="State">Undecided or settled, or null.</param>
/// <param name="Disposition">One disposition, or null.</param>
/// <param name="Wear">A band of wear, or null.</param>
/// <param name="Words">Words that it says, or null.</param>
/// <param name="Order">The order.</param>
public sealed record FindingFilter(Guid? MachineId, IReadOnlyCollection<Guid>? Places, FindingState? State, Disposition? Disposition, WearBand? Wear, string? Words, FindingOrder Order);

/// <summary>A finding of the list with its tag and its decision that holds.</summary>
public sealed record ListedFinding(Finding Finding, int? TagNumber, Disposition? Decided);

/// <summary>Reads the list of findings.</summary>
public static class FindingQuery
{
    private const double Near = VerdictRule.AtLimitFrom / 100;

    private const double Slack = 1e-9;

    /// <summary>A page of the list, and how many there are in all.</summary>
    public static async Task<(IReadOnlyList<ListedFinding> Rows, int Total)> ListAsync(OilTagDb db, FindingFilter filter, LocalDate today, int skip, int take, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(filter);
        var findings = db.Findings.AsNoTracking().Where(f => filter.MachineId == null || f.MachineId == filter.MachineId);
        if (filter.Places is { } places)
        {
            findings = findings.Where(f => places.Contains(f.PlaceId));
        }

        if (filter.Words is { Length: > 0 } words)
        {
            var like = OilTagDb.Containing(words.ToLowerInvariant());
            findings = findings.Where(f => EF.Functions.Like(EF.Property<string>(f, "Words"), like));
        }

        findings = filter.Wear switch
        {
            WearBand.None => findings.Where(f => f.WearShare == null),
            WearBand.Past => findings.Where(f => f.WearShare > 1 + Slack),
            WearBand.Near => findings.Where(f => f.WearShare <= 1 + Slack && f.WearShare >= Near - Slack),
            WearBand.Less => findings.Where(f => f.WearShare < Near - Slack),
            _ => findings,
        };
        if (filter.Disposition is { } disposition)
        {
            findings = findings.Where(f => f.Decided == disposition);
        }

        findings = filter switch { { State: FindingState.Open } => findings.Where(IsOpen(today)), { State: FindingState.Settled } or { Disposition: not null } => findings.Where(IsSettled(today)), _ => findings };
        List<Guid> ids;
        int total;
        if (filter.Words is { Length: > 0 })
        {
            // Reading the words is what takes time, so it is done once: for the count and for the page.
            var all = await Ordered(db, findings, filter, today).ToListAsync(ct);
            (total, ids) = (all.Count, all.GetRange(Math.Min(skip, all.Count), Math.Min(take, Math.Max(0, all.Count - skip))));
        }
        else
        {
            total = filter.State == FindingState.Open ? await CountOpenAsync(findings, today, ct) : await findings.CountAsync(ct);
            ids = await PageAsync(db, findings, filter, today, skip, take, ct);
        }

        var page = await (
            from f in db.Findings.AsNoTracking()
            join t in db.Tags on f.TagId equals t.Id into ts
            from t in ts.DefaultIfEmpty()
            where ids.Contains(f.Id)
            select new { f, Tag = (int?)t.Number }).ToListAsync(ct);
        var byId = page.ToDictionary(r => r.f.Id);
        return ([.. ids.Select(id => byId[id]).Select(r => new ListedFinding(r.f, r.Tag, r.f.DecidedOn(today)))], total);
    }

    private static async Task<List<Guid>> PageAsync(OilTagDb db, IQueryable<Finding> findings, FindingFilter filter, LocalDate today, int skip, int take, CancellationToken ct)
    {
        if (filter.Order == FindingOrder.Open && filter.State is null && filter.Disposition is null)
        {
            // The undecided stand first: they are few and have an index; the rest follows by number.
            var ids = await OpenIdsAsync(findings, today, skip, take, ct);
            if (ids.Count < take)
            {
                var undecided = ids.Count > 0 ? skip + ids.Count : await CountOpenAsync(findings, today, ct);
                ids.AddRange(await findings.Where(IsSettled(today)).OrderByDescending(f => f.Number).Skip(Math.Max(0, skip - undecided)).Take(take - ids.Count).Select(f => f.Id).ToListAsync(ct));
            }

            return ids;
        }

        // Only numbers are sorted; what a page shows is fetched afterwards.
        return filter is { Order: FindingOrder.Open, State: FindingState.Open }
            ? await OpenIdsAsync(findings, today, skip, take, ct)
            : await Ordered(db, findings, filter, today).Skip(skip).Take(take).ToListAsync(ct);
    }

    private static IQueryable<Guid> Ordered(OilTagDb db, IQueryable<Finding> findings, FindingFilter filter, LocalDate today) => filter.Order switch
    {
        FindingOrder.Place =>
            from f in findings
            join p in db.Places on f.PlaceId equals p.Id
            orderby f.MachineId, (p.Kind == PlaceKind.Slot ? p.ParentId : null) ?? p.Id, p.Kind == PlaceKind.Slot, p.Order, f.Number descending
            select f.Id,
        FindingOrder.Wear when filter.Wear is not null and not WearBand.None => findings.OrderByDescending(f => f.WearShare).ThenByDescending(f => f.Number).Select(f => f.Id),
        FindingOrder.Wear => findings.OrderBy(f => f.WearShare == null ? 1 : 0).ThenByDescending(f => f.WearShare).ThenByDescending(f => f.Number).Select(f => f.Id),
        FindingOrder.Decision => findings.OrderBy(f => f.Decided == null || f.OpensOn <= today ? string.Empty : f.Decided.ToString()).ThenByDescending(f => f.Number).Select(f => f.Id),
        FindingOrder.Age => findings.OrderBy(f => f.FoundAt).ThenBy(f => f.Number).Select(f => f.Id),
        _ when filter.State is null && filter.Disposition is null => findings.OrderBy(f => f.Decided == null || f.OpensOn <= today ? 0 : 1).ThenByDescending(f => f.Number).Select(f => f.Id),
        _ => findings.OrderByDescending(f => f.Number).Select(f => f.Id),
    };

    /// <summary>The packages that a finding led to: its own, and one that it shares with others that were decided together.</summary>
    public static IQueryable<WorkPackage> PackagesOf(OilTagDb db, Guid findingId)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.Packages.Where(k => k.FindingId == findingId || db.Decisions.Any(d => d.FindingId == findingId && !d.Replaced && d.PackageId == k.Id));
    }

    /// <summary>The packages about the part of a tag, those that its findings share with others among them.</summary>
    public static IQueryable<WorkPackage> PackagesOfTag(OilTagDb db, Guid tagId)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.Packages.Where(k => k.TagId == tagId || db.Decisions.Any(d => !d.Replaced && d.PackageId == k.Id && db.Findings.Any(f => f.Id == d.FindingId && f.TagId == tagId)));
    }

    /// <summary>True for a finding that nobody has decided about, or whose decision has come back by a day.</summary>
    public static Expression<Func<Finding, bool>> IsOpen(LocalDate today) => f => f.Decided == null || (f.OpensOn != null && f.OpensOn <= today);

    /// <summary>The opposite of <see cref="IsOpen"/>.</summary>
    public static Expression<Func<Finding, bool>> IsSettled(LocalDate today) => f => f.Decided != null && (f.OpensOn == null || f.OpensOn > today);

    /// <summary>The newest findings at a place, so that one damage is not logged twice.</summary>
    /// <param name="except">A finding that is left out, or null.</param>
    public static async Task<IReadOnlyList<(int Number, string What)>> AtPlaceAsync(OilTagDb db, Guid placeId, Guid? except, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var here = await db.Findings.Where(f => f.PlaceId == placeId && f.Id != except).OrderByDescending(f => f.Number).Take(6).Select(f => new { f.Number, f.What }).ToListAsync(ct);
        return [.. here.Select(f => (f.Number, f.What))];
    }

    /// <summary>How many findings nobody has decided about.</summary>
    public static Task<int> OpenAsync(OilTagDb db, Guid? machineId, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return CountOpenAsync(db.Findings.Where(f => machineId == null || f.MachineId == machineId), today, ct);
    }

    // Never decided, and decided but come back: each part has an index of its own.
    private static Task<int> CountOpenAsync(IQueryable<Finding> findings, LocalDate today, CancellationToken ct) =>
        findings.Where(f => f.Decided == null).Select(f => f.Id).Concat(findings.Where(f => f.OpensOn <= today).Select(f => f.Id)).CountAsync(ct);

    private static async Task<List<Guid>> OpenIdsAsync(IQueryable<Finding> findings, LocalDate today, int skip, int take, CancellationToken ct)
    {
        var never = await findings.Where(f => f.Decided == null).OrderByDescending(f => f.Number).Take(skip + take).Select(f => new { f.Id, f.Number }).ToListAsync(ct);
        var again = await findings.Where(f => f.OpensOn <= today).OrderByDescending(f => f.Number).Take(skip + take).Select(f => new { f.Id, f.Number }).ToListAsync(ct);
        return [.. never.Concat(again).OrderByDescending(f => f.Number).Skip(skip).Take(take).Select(f => f.Id)];
    }
}
