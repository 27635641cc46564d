using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Machines;

namespace OilTag.Data.Survey;

/// <summary>Reads what the first parts list and the estimate of a machine rest on.</summary>
public static class ConditionQuery
{
    /// <summary>The first parts list of a machine.</summary>
    public static async Task<IReadOnlyList<WantedPart>> PartsAsync(OilTagDb db, Machine machine, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(machine);
        var places = await db.Places.AsNoTracking().Where(p => p.MachineId == machine.Id).ToDictionaryAsync(p => p.Id, ct);
        var tree = PlaceTree.Of(places.Values);
        var findings = await db.Findings.AsNoTracking().Where(f => f.MachineId == machine.Id).OrderBy(f => f.Number).ToListAsync(ct);
        var packages = (await (
            from k in db.Packages
            where k.MachineId == machine.Id && k.FindingId != null && k.CancelledWhy == string.Empty
            select new { FindingId = k.FindingId!.Value, Closed = k.ClosedAt != null, Pieces = db.RouteCards.Where(c => c.PackageId == k.Id).Select(c => (int?)(c.Left + c.Right)).FirstOrDefault() }).Concat(
            from d in db.Decisions
            join k in db.Packages on d.PackageId equals k.Id
            where k.MachineId == machine.Id && !d.Replaced
            select new { d.FindingId, Closed = k.ClosedAt != null, Pieces = (int?)null }).ToListAsync(ct)).ToLookup(k => k.FindingId);
        var demands = await db.Demands.AsNoTracking().Where(d => d.MachineId == machine.Id && d.End == null).ToListAsync(ct);
        var book = await db.BookLines.AsNoTracking().Where(l => l.MachineId == machine.Id && l.State != BookState.Present).OrderBy(l => l.Order).ToListAsync(ct);
        return PartsListRule.Of(
            findings.Select(f =>
            {
                var (standard, setBy) = tree.StandardAt(f.PlaceId, machine.Standard, machine.Name);
                return new FindingFacts(
                    f.Number, places[f.PlaceId].FullName, f.What, VerdictRule.Judge(f, standard, setBy).Verdict, f.Reading is not null, f.DecidedOn(today),
                    packages[f.Id].Select(k => k.Pieces).FirstOrDefault(p => p > 0), packages[f.Id].Any() && packages[f.Id].All(k => k.Closed), f.PlaceId);
            }),
            demands.Select(d => (d, places[d.PlaceId].FullName)),
            book.Select(l => (l, l.PlaceId is { } p ? places[p].FullName : string.Empty)));
    }

    /// <summary>What the estimate of a machine rests on now, in hours and in pence.</summary>
    public static async Task<(EstimateFacts Hours, EstimateFacts Pence, AssemblyFacts Assemblies)> EstimateAsync(OilTagDb db, Guid machineId, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var jobs = await db.Packages.Where(k => k.CancelledWhy == string.Empty).Select(k => new
        {
            k.MachineId,
            Closed = k.ClosedAt != null,
            k.EstimatePence,
            FromFinding = k.FindingId != null,
            Low = k.Operations.Sum(o => o.Low),
            Likely = k.Operations.Sum(o => o.Likely),
            High = k.Operations.Sum(o => o.High),
            Minutes = db.Hours.Where(h => h.PackageId == k.Id).Sum(h => (int?)h.Minutes) ?? 0,
            Spent = db.Costs.Where(c => c.PackageId == k.Id).Sum(c => (long?)c.Pence) ?? 0,
        }).ToListAsync(ct);

        // How jobs grew is the team's own, whatever the machine; only jobs that were thought to take something count.
        var hours = EstimateRule.Grow([.. jobs.Where(j => j.Closed && j.Likely > 0 && j.Minutes > 0).Select(j => j.Minutes / 60.0 / j.Likely)]);
        var money = EstimateRule.Grow([.. jobs.Where(j => j.Closed && j.EstimatePence > 0 && j.Spent > 0).Select(j => (double)j.Spent / j.EstimatePence)]);
        var here = jobs.Where(j => j.MachineId == machineId).ToList();
        var left = (await WorkshopQuery.PackagesAsync(db, db.Packages.Where(k => k.MachineId == machineId && k.ClosedAt == null), ct)).Aggregate(HoursRange.None, (sum, p) => sum + p.Remaining);
        var owed = here.Where(j => !j.Closed).Sum(j => Math.Max(0, j.EstimatePence - j.Spent));
        var undecided = await FindingQuery.OpenAsync(db, machineId, today, ct);
        var settled = await db.Findings.Where(FindingQuery.IsSettled(today)).GroupBy(f => f.Decided).Select(g => new { g.Key, Count = g.Count() }).ToListAsync(ct);
        var count = settled.Sum(s => s.Count);
        var need = count == 0 ? 0 : (double)settled.Where(s => s.Key is { } d && Dispositions.NeedsWork(d)).Sum(s => s.Count) / count;
        var from = jobs.Where(j => j.FromFinding).ToList();
        var cost = from.Count == 0 ? 0 : from.Average(j => (double)Math.Max(j.EstimatePence, j.Spent));
        var assemblies = await AssemblyQuery.LoadAsync(db, machineId, ct);
        var rest = assemblies.Rest;
        var (pounds, priced) = AssemblyRule.PoundsAnHour(
            [.. jobs.Where(j => j is { Minutes: > 0, Spent: > 0 }).Select(j => (j.Minutes / 60.0, j.Spent / 100.0))]);
        Spread Each(HoursRange h) => new(h.Low, h.Likely, h.High);
        Spread Pence(HoursRange h) => new(100 * h.Low * pounds.Low, 100 * h.Likely * pounds.Likely, 100 * h.High * pounds.High);
        return (
            new EstimateFacts(
                here.Sum(j => j.Minutes) / 60.0,
                new Spread(left.Low, left.Likely, left.High),
                undecided,
                need,
                EstimateRule.Of([.. from.Select(j => new HoursRange(j.Low, j.Likely, j.High))]) ?? Each(WhatIsLeft.UnknownFinding),
                hours)
            {
                Settled = count,
                EachAssumed = from.Count == 0,
                Unseen = rest.Count == 0 ? null : Each(rest.Hours),
                UnseenSource = rest.Source,
            },
            new EstimateFacts(
                here.Sum(j => j.Spent),
                new Spread(owed, owed, owed),
                undecided,
                need,
                cost <= 0 ? Pence(WhatIsLeft.UnknownFinding) : new Spread(cost, cost, cost),
                money)
            {
                Settled = count,
                EachAssumed = cost <= 0,
                Unseen = rest.Count == 0 ? null : Pence(rest.Hours),
                UnseenSource = $"{rest.Source}; {priced}",
            },
            assemblies);
    }
}
