using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Machines;

/// <summary>The form that edits a place.</summary>
public sealed record PlaceEdit(string? Name, Hand Hand, int? Position, Guid? ParentId, RestorationStandard? Standard, PaperKinds Papers, uint Version);

/// <summary>Changes to the breakdown.</summary>
public sealed class PlaceWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Loads a machine's breakdown for the rules, or all breakdowns at once when no machine is named.</summary>
    public static async Task<PlaceTree> TreeAsync(OilTagDb db, Guid? machineId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var places = await db.Places.Where(p => machineId == null || p.MachineId == machineId).Select(p => new { p.Id, p.ParentId, p.Name, p.Hand, p.Position, p.Kind, p.Standard }).ToListAsync(ct);
        return new PlaceTree(places.Select(p => new PlaceNode(p.Id, p.ParentId, PlaceNames.Full(p.Name, p.Hand, p.Position), p.Kind, p.Standard)));
    }

    /// <summary>A place with its machine, or null when there is no such place.</summary>
    public static async Task<(Place Place, Machine Machine)?> FindAsync(OilTagDb db, Guid? placeId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await (from p in db.Places.AsNoTracking() join m in db.Machines on p.MachineId equals m.Id where p.Id == placeId select new { p, m }).SingleOrDefaultAsync(ct) is { } x ? (x.p, x.m) : null;
    }

    /// <summary>The standard that holds at a place, and what set it.</summary>
    public static async Task<(RestorationStandard Standard, string SetBy)> StandardAtAsync(OilTagDb db, Guid placeId, Machine machine, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(machine);
        return (await TreeAsync(db, machine.Id, ct)).StandardAt(placeId, machine.Standard, machine.Name);
    }

    public Task<Recorded> EditAsync(Guid key, Guid personId, Guid placeId, PlaceEdit edit, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var place = await db.Places.SingleAsync(p => p.Id == placeId, ct);

        // One change of the tree at a time, so that two moves cannot close a circle between them.
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {place.MachineId} for update", ct);
        var tree = await TreeAsync(db, place.MachineId, ct);
        var problems = tree.CheckEdit(placeId, edit.Name, edit.Position, edit.ParentId);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(place).Property(p => p.Version).OriginalValue = edit.Version;
        var before = new { place.Name, place.Hand, place.Position, place.ParentId, place.Standard, place.Papers };
        place.Name = edit.Name!.Trim();
        place.Hand = edit.Hand;
        place.Position = edit.Position;
        place.ParentId = edit.ParentId;
        place.Standard = edit.Standard;
        place.Papers = edit.Papers & (PaperKinds.Certificate | PaperKinds.TestReport);
        recorder.Say($"changed {place.FullName} in the breakdown.", place.MachineId, place.Id, before: before, after: new { place.Name, place.Hand, place.Position, place.ParentId, place.Standard, place.Papers });
        return Recorded.To($"/places/{placeId}");
    }, ct);

    /// <summary>Sets how a machine's team decides.</summary>
    /// <param name="hour">What an hour counts for, in pounds, as typed.</param>
    public Task<Recorded> SetPolicyAsync(Guid key, Guid personId, Guid machineId, RepairPolicy policy, Approach approach, string? hour, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (Money.Read(string.IsNullOrWhiteSpace(hour) ? "0" : hour, 1000) is not { } pence)
        {
            return Recorded.Refused("Pounds an hour, from 0 to 1000.", "Hour");
        }

        var m = await db.Machines.SingleAsync(x => x.Id == machineId, ct);
        var before = new { m.Policy, m.Approach, m.HourPence };
        (m.Policy, m.Approach, m.HourPence) = (policy, approach, (int)pence);
        recorder.Say($"set the policy for {m.Name}: {OptionRule.Words(policy)}, {(approach == Approach.Conserve ? "conserve" : "renew")}.", m.Id, before: before, after: new { m.Policy, m.Approach, m.HourPence });
        return Recorded.To($"/machines/{m.Letter}");
    }, ct);
}
