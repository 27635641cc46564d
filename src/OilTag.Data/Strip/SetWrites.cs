using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>Matched sets.</summary>
public sealed class SetWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Makes a set of slots of one machine.</summary>
    public Task<Recorded> MakeAsync(Guid key, Guid personId, string letter, string? name, string? how, IReadOnlyList<Guid> slots, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Letter == letter, ct);
        var known = await db.Places.AsNoTracking().Where(p => p.MachineId == m.Id && p.Kind == PlaceKind.Slot && slots.Contains(p.Id)).ToListAsync(ct);
        var problems = SetRule.Check(name, how, known.Select(p => p.Id).ToList());
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Sets.Add(new MatchedSet { MachineId = m.Id, Name = name!.Trim(), How = (how ?? string.Empty).Trim(), Slots = [.. known.Select(p => p.Id)], At = recorder.Now, ById = personId });
        recorder.Say(StripLog.Set(known.Select(p => p.FullName), name!.Trim()), m.Id);
        return Recorded.To($"/machines/{letter}/sets");
    }, ct);

    /// <summary>Makes the record of the sets void that a slot belongs to, because another part is in it now.</summary>
    internal static async Task VoidAsync(OilTagDb db, Recorder recorder, Guid machineId, Place slot, string why, CancellationToken ct)
    {
        foreach (var set in (await db.Sets.Where(s => s.MachineId == machineId && s.VoidAt == null).ToListAsync(ct)).Where(s => s.Slots.Contains(slot.Id)))
        {
            (set.VoidAt, set.VoidWhy) = (recorder.Now, $"{slot.FullName}: {why}");
            recorder.Say($"the record of the set {set.Name} is void: {slot.FullName}, {why}. Match it again.", machineId, slot.Id);
        }
    }

    /// <summary>The sets that a slot belongs to, with where their members are.</summary>
    public static async Task<IReadOnlyList<(MatchedSet Set, IReadOnlyList<SetMember> Members)>> OfSlotAsync(OilTagDb db, Guid machineId, Guid? slotId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var sets = (await db.Sets.AsNoTracking().Where(s => s.MachineId == machineId).OrderBy(s => s.At).ToListAsync(ct)).Where(s => slotId is null || s.Slots.Contains(slotId.Value)).ToList();
        if (sets.Count == 0)
        {
            return [];
        }

        var slots = sets.SelectMany(s => s.Slots).Distinct().ToList();
        var rows = await (
            from p in db.Places
            join t in db.Tags.Where(t => t.End == null && !db.Fittings.Any(f => f.PartId == t.PartId && f.Until == null)) on p.Id equals t.SlotId into ts
            from t in ts.DefaultIfEmpty()
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId into cs
            from c in cs.DefaultIfEmpty()
            where slots.Contains(p.Id)
            orderby p.Order
            select new { p.Id, p.Name, p.Hand, p.Position, Number = (int?)t.Number, Kind = (CustodyKind?)c.Kind, Where = (string?)c.Where, Open = t != null && (db.Findings.Any(f => f.TagId == t.Id && f.Decided == null) || db.Packages.Any(k => k.TagId == t.Id && k.ClosedAt == null && k.Operations.Any(o => o.Hold && o.DoneAt == null))) }).ToListAsync(ct);
        return [.. sets.Select(s => (s, (IReadOnlyList<SetMember>)[.. rows.Where(r => s.Slots.Contains(r.Id)).Select(r => new SetMember(PlaceNames.Full(r.Name, r.Hand, r.Position), r.Number, r.Kind, r.Where ?? string.Empty, !r.Open))]))];
    }
}
