using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>Matched sets, what a part is, and irreversible acts.</summary>
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
        recorder.Say($"said that {string.Join(", ", known.Select(p => p.FullName))} are a matched set, {name!.Trim()}.", m.Id);
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
            select new { p.Id, p.Name, p.Hand, p.Position, Number = (int?)t.Number, Kind = (CustodyKind?)c.Kind, Where = (string?)c.Where }).ToListAsync(ct);
        return [.. sets.Select(s => (s, (IReadOnlyList<SetMember>)[.. rows.Where(r => s.Slots.Contains(r.Id)).Select(r => new SetMember(PlaceNames.Full(r.Name, r.Hand, r.Position), r.Number, r.Kind, r.Where ?? string.Empty))]))];
    }

    /// <summary>Records what a part is: where it came from, its numbers.</summary>
    public Task<Recorded> DescribeAsync(Guid key, Guid personId, int number, Provenance? provenance, string? fromWhom, string? makersNumber, string? serial, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.AsNoTracking().SingleAsync(t => t.Number == number, ct);
        var part = await db.Parts.SingleAsync(p => p.Id == tag.PartId, ct);
        var problems = new List<Problem>();
        var (from, made, own) = (TextRules.Optional(problems, "FromWhom", fromWhom, 120), TextRules.Optional(problems, "MakersNumber", makersNumber, 40), TextRules.Optional(problems, "Serial", serial, 40));
        if (provenance is null)
        {
            problems.Add(new Problem("Provenance", "Say where it came from."));
        }

        if (provenance is Provenance.Lent or Provenance.Swapped or Provenance.Donor && from.Length == 0)
        {
            problems.Add(new Problem("FromWhom", "Say from whom, or off which machine."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var before = new { part.Provenance, part.FromWhom, part.MakersNumber, part.Serial };
        (part.Provenance, part.FromWhom, part.MakersNumber, part.Serial) = (provenance!.Value, from, made, own);
        recorder.Say($"described it: {PartWords.Of(part.Provenance)}{(from.Length > 0 ? $", {from}" : string.Empty)}{(made.Length > 0 ? $", maker’s number {made}" : string.Empty)}{(own.Length > 0 ? $", serial {own}" : string.Empty)}.", tag.MachineId, tag.SlotId, tag.Id, before: before, after: new { part.Provenance, part.FromWhom, part.MakersNumber, part.Serial });
        return Recorded.To($"/t/{number}");
    }, ct);

    /// <summary>Plans an irreversible act: the list of what cannot be known afterwards.</summary>
    /// <param name="more">What the team adds, one a line.</param>
    public Task<Recorded> PlanActAsync(Guid key, Guid personId, Guid placeId, ActKind? kind, string? more, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct);
        var problems = new List<Problem>();
        if (kind is null)
        {
            problems.Add(new Problem("Kind", "Say what is to be done."));
        }

        TextRules.Optional(problems, "More", more, 2000);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var items = LastChanceRule.For(kind!.Value).Concat((more ?? string.Empty).Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0)).Distinct().Take(40).Select(w => new LastChance(w, string.Empty, false)).ToList();
        db.IrreversibleActs.Add(new IrreversibleAct { MachineId = place.MachineId, PlaceId = placeId, Kind = kind.Value, Items = items, At = recorder.Now, ById = personId });
        recorder.Say($"means to {LastChanceRule.Word(kind.Value)} {place.FullName}; {items.Count} things to know first.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    /// <summary>Answers one thing of the list, or waives it with its reason.</summary>
    public Task<Recorded> KnowAsync(Guid key, Guid personId, Guid placeId, Guid actId, int item, string? result, bool waived, uint version, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (act, place) = await FindAsync(placeId, actId, ct);
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, $"Result-{item}", result, waived ? "Say why it is waived." : "Say what was found, or where it is kept.", 160);
        if (act is null || act.DoneAt is not null || item < 0 || item >= act.Items.Count)
        {
            return Recorded.Refused("That act is done already, or gone.");
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(act).Property(a => a.Version).OriginalValue = version;
        var what = act.Items[item].What;
        act.Items = [.. act.Items.Select((x, i) => i == item ? x with { Result = said, Waived = waived } : x)];
        recorder.Say($"{(waived ? "waived" : "noted")} before {LastChanceRule.Word(act.Kind)} {place.FullName}: {what}: {said.TrimEnd('.')}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    /// <summary>A second person has looked at the list.</summary>
    public Task<Recorded> SecondAsync(Guid key, Guid personId, Guid placeId, Guid actId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (act, place) = await FindAsync(placeId, actId, ct);
        if (act is null || act.DoneAt is not null)
        {
            return Recorded.Refused("That act is done already, or gone.");
        }

        if (act.ById == personId)
        {
            return Recorded.Refused("You planned it, so somebody else is the second person.");
        }

        act.SecondById = personId;
        recorder.Say($"looked at the list before {LastChanceRule.Word(act.Kind)} {place.FullName}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    /// <summary>Records that the act is done.</summary>
    public Task<Recorded> DoneAsync(Guid key, Guid personId, Guid placeId, Guid actId, RestorationStandard standard, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (act, place) = await FindAsync(placeId, actId, ct);
        if (act is null)
        {
            return Recorded.Refused("That act is gone.");
        }

        var problems = LastChanceRule.WhyNot(act, standard, personId);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (act.DoneAt, act.DoneById) = (recorder.Now, personId);
        recorder.Say($"did it: {LastChanceRule.Word(act.Kind)} {place.FullName}.", place.MachineId, placeId);
        return Recorded.To($"/places/{placeId}/acts");
    }, ct);

    private async Task<(IrreversibleAct? Act, Place Place)> FindAsync(Guid placeId, Guid actId, CancellationToken ct) =>
        (await db.IrreversibleActs.SingleOrDefaultAsync(a => a.Id == actId && a.PlaceId == placeId, ct), await db.Places.AsNoTracking().SingleAsync(p => p.Id == placeId, ct));
}
