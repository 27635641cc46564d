using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>What a lead says about access: what must be off first, how long it takes, what carries the machine.</summary>
public sealed class AccessWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Says that parts must be off before a place can be reached.</summary>
    /// <param name="placeId">The place.</param>
    /// <param name="slots">The slots whose parts must be off.</param>
    /// <param name="way">0 whatever way is taken; 1 to 9 for one of several ways.</param>
    public Task<Recorded> AddAsync(Guid key, Guid personId, Guid placeId, IReadOnlyList<Guid> slots, int way, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {place.MachineId} for update", ct);
        var access = await AccessQuery.LoadAsync(db, place.MachineId, ct);
        var existing = await db.Precedences.AsNoTracking().Where(p => p.ThenId == placeId).ToListAsync(ct);
        var fresh = slots.Distinct().Where(s => !existing.Exists(e => e.FirstSlotId == s && e.Way == way)).Select(s => new Precedence { FirstSlotId = s, ThenId = placeId, Way = way, ById = personId }).ToList();
        if (AccessRule.Check(access.Map, placeId, slots, way, fresh) is { Count: > 0 } problems)
        {
            return Recorded.Refused(problems);
        }

        db.Precedences.AddRange(fresh);
        recorder.Say($"said that {string.Join(" and ", slots.Distinct().Select(access.Name))} {(slots.Count == 1 ? "is" : "are")} off before {place.FullName} is reached{(way > 0 ? $", by way {way}" : string.Empty)}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/reach");
    }, ct);

    /// <summary>Takes a condition back.</summary>
    public Task<Recorded> RemoveAsync(Guid key, Guid personId, Guid placeId, Guid conditionId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var condition = await db.Precedences.SingleOrDefaultAsync(p => p.Id == conditionId && p.ThenId == placeId, ct);
        if (condition is null)
        {
            return Recorded.Refused("That is gone already.");
        }

        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        var first = await db.Places.AsNoTracking().SingleAsync(p => p.Id == condition.FirstSlotId, ct);
        db.Precedences.Remove(condition);
        recorder.Say($"took back that {first.FullName} is off before {place.FullName} is reached.", place.MachineId, placeId, before: new { First = first.FullName, condition.Way });
        return Recorded.To($"/places/{placeId}/reach");
    }, ct);

    /// <summary>Estimates how long a slot's part takes to take off and how easily it breaks, and says whether the machine stands by it.</summary>
    public Task<Recorded> EstimateAsync(Guid key, Guid personId, Guid placeId, StripEstimate estimate, int? breakPercent, int? spareWeeks, string? practice, bool structural, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(estimate);
        var (minutes, people) = (estimate.Minutes, estimate.People);
        var place = await db.Places.SingleAsync(p => p.Id == placeId, ct);
        var problems = new List<Problem>();
        if (breakPercent is < 0 or > 100)
        {
            problems.Add(new Problem("BreakPercent", "Give the chance in percent, from 0 to 100, or leave it empty."));
        }

        if (spareWeeks is < 0 or > 520)
        {
            problems.Add(new Problem("SpareWeeks", "Give the weeks, from 0 to 520, or leave it empty."));
        }

        var toPractise = TextRules.Optional(problems, "Practice", practice, 120);
        if (place.Kind != PlaceKind.Slot)
        {
            problems.Add(new Problem(string.Empty, "Only a part is taken off and timed. Choose one in this assembly."));
        }

        if (minutes is < 1 or > 6000)
        {
            problems.Add(new Problem("OffMinutes", "Give the time in minutes, from 1 to 6000, or leave it empty."));
        }

        if (people is < 1 or > 20)
        {
            problems.Add(new Problem("OffPeople", "Count the people, from 1 to 20, or leave it empty."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var before = new { place.OffMinutes, place.OffPeople, place.Structural, place.BreakPercent, place.SpareWeeks, place.Practice };
        (place.BreakPercent, place.SpareWeeks, place.Practice) = (breakPercent, spareWeeks, toPractise);
        (place.OffMinutes, place.OffPeople, place.Structural) = (minutes, people, structural);
        recorder.Say($"estimated the removal of {place.FullName}: {(minutes is { } m ? StripTimes.Words(m) : "no time")}, {people?.ToString(System.Globalization.CultureInfo.InvariantCulture) ?? "no count of"} people{(structural ? "; the machine stands by it" : string.Empty)}.", place.MachineId, placeId, before: before, after: new { minutes, people, structural, breakPercent, spareWeeks, Practice = toPractise });
        return Recorded.To($"/places/{placeId}/reach");
    }, ct);
}
