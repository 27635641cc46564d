using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Data.Survey;

namespace OilTag.Data.Planning;

/// <summary>Reads what a machine still wants, whatever it is written under.</summary>
public static class LeftQuery
{
    /// <param name="db">The record.</param>
    /// <param name="machineId">Machine.</param>
    /// <param name="access">What is off, and how long removals take.</param>
    /// <param name="today">Today, for decisions that open again.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task<LeftFacts> LoadAsync(OilTagDb db, Guid machineId, Access access, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(access);
        var packages = await WorkshopQuery.PackagesAsync(db, db.Packages.Where(k => k.MachineId == machineId && k.ClosedAt == null), ct);
        var without = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.MachineId == machineId && k.ClosedAt == null && o.DoneAt == null && o.High <= 0 && o.Left == null && !o.Hold select new { k.Id, o.Needs }).ToListAsync(ct);
        without.RemoveAll(o => o.Needs.Elapsed is not null);
        var findings = await (
            from f in db.Findings.Where(FindingQuery.IsOpen(today))
            where f.MachineId == machineId
            orderby f.Number
            select new
            {
                f.PlaceId,
                Ways = db.Options.Where(o => o.FindingId == f.Id).Select(o => new { o.HoursLow, o.HoursLikely, o.HoursHigh }).ToList(),
            }).ToListAsync(ct);
        var settled = db.Findings.Where(FindingQuery.IsSettled(today));
        var work = Enum.GetValues<Disposition>().Where(Dispositions.NeedsWork).Select(d => (Disposition?)d).ToList();
        var sums = await db.Machines.Where(m => m.Id == machineId).Select(m => new
        {
            Settled = settled.Count(),
            Worked = settled.Count(f => work.Contains(f.Decided)),
            Minutes = db.Hours.Where(h => h.MachineId == machineId).Sum(h => (int?)h.Minutes) ?? 0,
            Trials = db.Trials.Count(t => t.MachineId == machineId && t.EndedAt == null),
            Papers = (from t in db.Tags
                      join s in db.Places on t.SlotId equals s.Id
                      where t.MachineId == machineId && t.ClosedAt == null && s.Papers != PaperKinds.None
                      select new { s.Papers, There = db.Papers.Where(x => x.TagId == t.Id && x.WithdrawnAt == null).Select(x => x.Kind).ToList() }).ToList(),
            Rechecks = db.Rechecks.Count(r => r.MachineId == machineId && r.EndedAt == null),
            Damage = (from s in db.HiddenDamages join p in db.Places on s.PlaceId equals p.Id where p.MachineId == machineId && s.EndedAt == null orderby s.Id select new { s.Percent, s.Low, s.Likely, s.High }).ToList(),
            Each = db.Packages.Where(k => k.FindingId != null && k.CancelledWhy == string.Empty)
                .Select(
                    k => new { Low = k.Operations.Sum(o => o.Low), Likely = k.Operations.Sum(o => o.Likely), High = k.Operations.Sum(o => o.High) })
                .Where(k => k.Likely > 0)
                .GroupBy(k => 1)
                .Select(g => new { Count = g.Count(), Low = g.Sum(k => k.Low), Likely = g.Sum(k => k.Likely), High = g.Sum(k => k.High) })
                .ToList(),
        }).SingleAsync(ct);
        var assemblies = await AssemblyQuery.LoadAsync(db, machineId, ct);
        var each = sums.Each.FirstOrDefault();
        return new LeftFacts
        {
            Worked = sums.Minutes / 60.0,
            Packages = [.. packages.Where(p => p.Remaining.High > 0).Select(p => p.Remaining)],
            StepsWithoutHours = without.Count,
            PackagesWithoutHours = without.Select(o => o.Id).Distinct().Count(),
            Off = [.. access.Off.Order().Select(access.Times.Of).Select(t => new OffPart(t.Minutes * Math.Max(1, t.People), t.Assumed))],
            Findings = [.. findings.Select(f => f.Ways.Where(w => w.HoursHigh > 0).ToList() is { Count: > 0 } ways ? new HoursRange(ways.Min(w => w.HoursLow), ways.Average(w => w.HoursLikely), ways.Max(w => w.HoursHigh)) : null)],
            NeedWork = sums.Settled == 0 ? null : sums.Worked / (double)sums.Settled,
            Each = each is null ? null : new HoursRange(each.Low / each.Count, each.Likely / each.Count, each.High / each.Count),
            Damage = [.. sums.Damage.Select(s => new LikelyDamage(s.Percent / 100.0, new HoursRange(s.Low, s.Likely, s.High)))],
            Settled = sums.Settled,
            Assemblies = assemblies.Rest,
            Rechecks = sums.Rechecks,
            Trials = sums.Trials,
            Certificates = sums.Papers.Count(p => p.Papers.HasFlag(PaperKinds.Certificate) && !p.There.Contains(PaperKinds.Certificate)),
            Tests = sums.Papers.Count(p => p.Papers.HasFlag(PaperKinds.TestReport) && !p.There.Contains(PaperKinds.TestReport)),
        };
    }
}
