using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Today;
using OilTag.Data.Planning;

namespace OilTag.Data.Today;

/// <summary>Puts the day's work on the board.</summary>
public static class DayWork
{
    /// <summary>Works the rest of the day out and puts it in place of what was proposed. Says what of the leads' choices lacks something.</summary>
    /// <param name="db">The record; the day's board is locked by the caller.</param>
    /// <param name="plan">The newest plan; null while there is none.</param>
    /// <param name="now">Today and now.</param>
    /// <param name="zone">The shed's zone.</param>
    /// <param name="afresh">True when all may change but what leads chose and what has begun.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task<IReadOnlyList<Problem>> PlaceAsync(OilTagDb db, ReadyPlan? plan, LocalDateTime now, DateTimeZone zone, bool afresh, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var facts = await DayQuery.LoadAsync(db, plan, now, zone, ct);
        var from = facts.Input.Now;
        var jobs = await db.DayJobs.Where(j => j.On == facts.On && !j.Confirmed && j.Until > from).OrderBy(j => j.From).ThenBy(j => j.PersonId).ToListAsync(ct);
        var here = facts.Here.Select(v => v.PersonId).ToHashSet();
        var stays = jobs.Where(j => here.Contains(j.PersonId) && (j.ByLead || !afresh || j.From < from)).ToList();
        var day = DayPlanner.Plan(facts.Input with { Kept = [.. stays.Select(j => new DayStretch(DayFacts.Id(j.PersonId), j.OperationId is { } id ? DayFacts.Id(id) : null, j.From, j.Until, j.ByLead))] });
        var wanted = day.Stretches.Select(s => (Person: Guid.ParseExact(s.Person, "N"), Operation: s.Operation is null ? (Guid?)null : Guid.ParseExact(s.Operation, "N"), s.From, s.Until, s.ByLead)).ToList();
        foreach (var j in jobs)
        {
            // What has begun goes on under the same slip.
            var on = wanted.FindIndex(w => w.Person == j.PersonId && w.Operation == j.OperationId && w.ByLead == j.ByLead && (j.From < from ? w.From == from : w.From == j.From));
            if (on >= 0)
            {
                j.Until = wanted[on].Until;
                wanted.RemoveAt(on);
            }
            else if (j.From < from)
            {
                j.Until = from;
            }
            else
            {
                db.DayJobs.Remove(j);
            }
        }

        db.DayJobs.AddRange(wanted.Select(w => new DayJob { On = facts.On, PersonId = w.Person, OperationId = w.Operation, From = w.From, Until = w.Until, ByLead = w.ByLead }));
        await db.SaveChangesAsync(ct);
        return day.Problems;
    }
}
