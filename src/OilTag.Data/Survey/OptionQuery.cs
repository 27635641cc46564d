using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Survey;

namespace OilTag.Data.Survey;

/// <summary>Loads the options of a finding and compares them.</summary>
public static class OptionQuery
{
    /// <summary>Compares what is written down for a finding; null when nothing is.</summary>
    /// <param name="standard">The standard that holds at the place.</param>
    public static async Task<(OptionComparison? Options, (string Name, double Weeks)? Next)> CompareAsync(OilTagDb db, Finding finding, Machine machine, VerdictResult verdict, RestorationStandard standard, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(finding);
        ArgumentNullException.ThrowIfNull(machine);
        ArgumentNullException.ThrowIfNull(verdict);
        var options = await db.Options.AsNoTracking().Where(o => o.FindingId == finding.Id).OrderBy(o => o.At).ToListAsync(ct);
        if (options.Count == 0)
        {
            return (null, null);
        }

        var next = await db.Milestones.Where(m => m.On >= today && db.Packages.Any(k => k.MachineId == machine.Id && k.MilestoneId == m.Id)).OrderBy(m => m.On).Select(m => new { m.Name, m.On }).FirstOrDefaultAsync(ct);
        var weeks = next is null ? (double?)null : Period.DaysBetween(today, next.On) / 7.0;
        var skills = await db.People.Where(p => p.Skills != string.Empty).Select(p => p.Skills).ToListAsync(ct);
        return (OptionRule.Compare(options, new OptionFacts(verdict.Verdict, verdict.WearUsed, standard, machine.Policy, machine.Approach, weeks, machine.HourPence, skills)), next is null ? null : (next.Name, weeks!.Value));
    }
}
