using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Stores;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Survey;

namespace OilTag.Data.Strip;

/// <summary>Removals, moves and refits.</summary>
public sealed class StripWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Takes a part off: opens its tag, writes the strip entry, where it was put and what had to be off first.</summary>
    public Task<Recorded> TakeOffAsync(Guid key, Guid personId, Guid machineId, TakeOffEntry e, string? firstOff, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        // Two removals on one machine wait for each other, so that the strip order has no gap and no tie.
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {machineId} for update", ct);
        var places = await db.Places.AsNoTracking().Where(p => p.MachineId == machineId).ToListAsync(ct);
        var nodes = places.Select(p => new PlaceNode(p.Id, p.ParentId, p.FullName, p.Kind, p.Standard)).ToList();
        var tags = await db.Tags.AsNoTracking().Where(t => t.MachineId == machineId).Select(t => new { t.Number, t.SlotId, t.End }).ToListAsync(ct);
        var off = tags.Where(t => t.End == null).ToDictionary(t => t.SlotId, t => t.Number);
        var check = TakeOffRule.Check(e, new TakeOffContext(new PlaceTree(nodes), nodes.ToDictionary(n => n.Id), off));
        var problems = check.Problems.ToList();
        var (numbers, unreadable) = PrecedenceRule.ReadNumbers(firstOff);
        if (unreadable is not null)
        {
            problems.Add(unreadable);
        }

        var firstSlots = new List<(int Number, Guid Slot)>();
        foreach (var n in numbers)
        {
            if (tags.FirstOrDefault(t => t.Number == n) is { } t)
            {
                firstSlots.Add((n, t.SlotId));
            }
            else
            {
                problems.Add(new Problem("First", $"There is no tag {n} on this machine."));
            }
        }

        var slot = e.SlotId is { } known ? places.FirstOrDefault(p => p.Id == known) : null;
        var edges = await (from p in db.Precedences join s in db.Places on p.FirstSlotId equals s.Id where s.MachineId == machineId select new { p.FirstSlotId, p.ThenId }).ToListAsync(ct);
        if (slot is not null)
        {
            foreach (var (n, first) in firstSlots.Where(f => PrecedenceRule.ClosesCircle(f.Slot, slot.Id, edges.Select(x => (x.FirstSlotId, x.ThenId)))))
            {
                problems.Add(new Problem("First", $"{n} cannot be off before {slot.FullName}: it is on record that {slot.FullName} comes off before {n}."));
            }
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        slot ??= AddSlot(machineId, e, places);
        var fitting = await db.Fittings.SingleOrDefaultAsync(f => f.SlotId == slot.Id && f.Until == null, ct);
        Guid partId;
        if (fitting is null)
        {
            var part = new Part { MachineId = machineId, Name = slot.Name, Hand = slot.Hand };
            db.Parts.Add(part);
            db.Fittings.Add(new Fitting { PartId = part.Id, SlotId = slot.Id, Kind = FittingKind.AsFound, Until = recorder.Now });
            partId = part.Id;
        }
        else
        {
            fitting.Until = recorder.Now;
            partId = fitting.PartId;
        }

        var tag = new Tag { MachineId = machineId, SlotId = slot.Id, PartId = partId, OpenedAt = recorder.Now };
        db.Tags.Add(tag);
        var order = tags.Count + 1;
        db.StripEntries.Add(new StripEntry
        {
            TagId = tag.Id,
            Order = order,
            Reason = e.Reason!.Trim(),
            Orientation = (e.Orientation ?? string.Empty).Trim(),
            Marks = (e.Marks ?? string.Empty).Trim(),
            Weight = check.Weight,
            ById = personId,
            At = recorder.Now,
            Fasteners = [.. e.Fasteners.Select(f => new Fastener { What = f.What.Trim(), Count = f.Count, Bad = f.Bad })],
        });
        db.Custodies.Add(new Custody { TagId = tag.Id, Kind = e.Custody, Where = e.Where!.Trim(), From = recorder.Now, ById = personId });
        foreach (var (_, first) in firstSlots.Where(f => !edges.Exists(x => x.FirstSlotId == f.Slot && x.ThenId == slot.Id)))
        {
            db.Precedences.Add(new Precedence { FirstSlotId = first, ThenId = slot.Id });
        }

        var wanted = SingleUseRule.Of(slot.Name, e.Fasteners);
        db.Demands.AddRange(wanted.Select(w => new Demand { MachineId = machineId, PlaceId = slot.Id, TagId = tag.Id, What = w.What, Quantity = w.Quantity, Source = w.Source, At = recorder.Now }));
        await db.SaveChangesAsync(ct);
        var bags = e.Fasteners.Count == 0 ? string.Empty : " With it " + string.Join(", ", e.Fasteners.Select(f => $"{f.Count} × {f.What.Trim()}{(f.Bad > 0 ? $" ({f.Bad} bad)" : string.Empty)}")) + ".";
        var before = firstSlots.Count == 0 ? string.Empty : $" Off before it: {string.Join(", ", firstSlots.Select(f => f.Number))}.";
        var news = wanted.Count == 0 ? string.Empty : $" Wanted new: {string.Join(", ", wanted.Select(w => $"{w.Quantity} × {w.What}"))}.";
        recorder.Say($"took off {slot.FullName}: {e.Reason!.Trim().TrimEnd('.')}.{bags}{before} Put it at {e.Where!.Trim()}.{news}", machineId, slot.Id, tag.Id);
        return Recorded.To($"/t/{tag.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Records where a tagged part is now.</summary>
    /// <param name="seen">The custody that the form showed; another one by now means that somebody else moved it.</param>
    public Task<Recorded> MoveAsync(Guid key, Guid personId, int number, Guid seen, CustodyKind kind, string? where, LocalDate? dueBack, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.SingleAsync(t => t.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from tags where id = {tag.Id} for update", ct);
        var problems = CustodyRule.Check(tag.End, kind, where, dueBack, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var now = await db.Custodies.SingleAsync(c => c.TagId == tag.Id && c.Until == null, ct);
        if (now.Id != seen)
        {
            return new Recorded(null, [new Problem("Where", $"Somebody moved it to {now.Where} meanwhile. Check, then press again.")], true);
        }

        now.Until = recorder.Now;
        await db.SaveChangesAsync(ct);
        db.Custodies.Add(new Custody { TagId = tag.Id, Kind = kind, Where = where!.Trim(), DueBack = kind == CustodyKind.Away ? dueBack : null, From = recorder.Now, ById = personId });
        recorder.Say(
            kind switch
            {
                CustodyKind.Away => $"sent it to {where.Trim()}{(dueBack is { } d ? ", promised back " + d.ToString("d MMMM", CultureInfo.GetCultureInfo("en-GB")) : string.Empty)}.",
                CustodyKind.Bench => $"took it in hand at {where.Trim()}.",
                CustodyKind.NotFound => $"could not find it; last seen at {where.Trim()}.",
                _ => $"put it at {where.Trim()}.",
            },
            tag.MachineId, tag.SlotId, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);

    /// <summary>Loads what keeps a part from going back on.</summary>
    /// <param name="useNew">True when a new piece from the route card goes in instead of the part that came off.</param>
    public static async Task<RefitFacts> RefitFactsAsync(OilTagDb db, Tag tag, bool useNew, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(tag);
        var packages = await WorkshopQuery.PackagesAsync(db, FindingQuery.PackagesOfTag(db, tag.Id), ct);
        var facts = (await WorkshopQuery.TagsAsync(db, db.Tags.Where(t => t.Id == tag.Id), packages, today, ct))[0];
        var findings = await (
            from f in db.Findings
            where f.TagId == tag.Id
            orderby f.Number
            select new { f.Number, Decided = f.OpensOn != null && f.OpensOn <= today ? null : f.Decided }).ToListAsync(ct);
        var before = await (
            from p in db.Precedences
            join t in db.Tags on p.ThenId equals t.SlotId
            join s in db.Places on t.SlotId equals s.Id
            where p.FirstSlotId == tag.SlotId && t.End == null
            orderby t.Number
            select new { t.Number, s.Name, s.Hand, s.Position }).ToListAsync(ct);
        var hands = await (from s in db.Places from p in db.Parts where s.Id == tag.SlotId && p.Id == tag.PartId select new { Slot = s.Hand, Part = p.Hand }).SingleAsync(ct);
        int? finished = useNew ? 0 : null;
        if (useNew && await CardOfAsync(db, tag.Id, ct) is { } card)
        {
            finished = await FreePiecesAsync(db, card, hands.Slot, ct);
        }

        return new RefitFacts
        {
            Tag = facts,
            OpenPackages = [.. packages.Where(p => !p.Closed).Select(p => $"Package {p.Number}")],
            Undecided = [.. findings.Where(f => f.Decided is null).Select(f => f.Number)],
            GoOnBefore = [.. before.Select(b => (b.Number, PlaceNames.Full(b.Name, b.Hand, b.Position)))],
            SlotHand = hands.Slot,
            PartHand = useNew ? hands.Slot : hands.Part,
            FinishedPieces = finished,
            DecidedToReplace = findings.Exists(f => f.Decided is { } d && Dispositions.Replaces(d)),
        };
    }

    /// <summary>Puts a part back on and ends the tag.</summary>
    public Task<Recorded> RefitAsync(Guid key, Guid personId, int number, bool useNew, string? note, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.SingleAsync(t => t.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from tags where id = {tag.Id} for update", ct);
        await db.Entry(tag).ReloadAsync(ct);
        var problems = RefitRule.Check(await RefitFactsAsync(db, tag, useNew, today, ct)).ToList();
        TextRules.Optional(problems, "Note", note, 300);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var slot = await db.Places.AsNoTracking().SingleAsync(p => p.Id == tag.SlotId, ct);
        var partId = tag.PartId;
        if (useNew)
        {
            var card = (await CardOfAsync(db, tag.Id, ct))!;
            var part = new Part { MachineId = tag.MachineId, Name = slot.Name, Hand = slot.Hand, Provenance = Provenance.NewMade };
            db.Parts.Add(part);
            partId = part.Id;
            db.StageMoves.Add(new StageMove { StageId = card.Stages.OrderBy(s => s.Order).Last().Id, Hand = CountedHand(card, slot.Hand), Pieces = 1, ById = personId, At = recorder.Now });
        }

        db.Fittings.Add(new Fitting { PartId = partId, SlotId = slot.Id, Kind = FittingKind.Final, From = recorder.Now, FittedById = personId });
        tag.End = TagEnd.Fitted;
        tag.ClosedAt = recorder.Now;
        var custody = await db.Custodies.SingleAsync(c => c.TagId == tag.Id && c.Until == null, ct);
        custody.Until = recorder.Now;
        var remark = string.IsNullOrWhiteSpace(note) ? string.Empty : $" {note.Trim().TrimEnd('.')}.";
        recorder.Say((useNew ? $"put a new {slot.FullName} on; the old one is kept as reference." : $"put {slot.FullName} back on.") + remark, tag.MachineId, slot.Id, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);

    /// <summary>The hand under which a card counts pieces for a slot.</summary>
    private static Hand CountedHand(RouteCard card, Hand slot) => card.Handed && slot == Hand.Right ? Hand.Right : Hand.Left;

    private static Task<RouteCard?> CardOfAsync(OilTagDb db, Guid tagId, CancellationToken ct) => (
        from c in db.RouteCards.Include(c => c.Stages)
        join k in db.Packages on c.PackageId equals k.Id
        where k.TagId == tagId
        orderby c.Number descending
        select c).FirstOrDefaultAsync(ct);

    private static async Task<int> FreePiecesAsync(OilTagDb db, RouteCard card, Hand hand, CancellationToken ct)
    {
        var stages = card.Stages.OrderBy(s => s.Order).ToList();
        var counted = CountedHand(card, hand);
        var last = stages[^1].Id;
        var finished = stages[^2].Id;
        var sums = await db.StageMoves.Where(m => m.Hand == counted && (m.StageId == last || m.StageId == finished))
            .GroupBy(m => m.StageId).Select(g => new { g.Key, Count = g.Sum(m => m.Pieces) }).ToListAsync(ct);
        return sums.Where(s => s.Key == finished).Sum(s => s.Count) - sums.Where(s => s.Key == last).Sum(s => s.Count);
    }

    private Place AddSlot(Guid machineId, TakeOffEntry e, List<Place> places)
    {
        var slot = new Place
        {
            MachineId = machineId,
            ParentId = e.AssemblyId,
            Kind = PlaceKind.Slot,
            Name = e.Name!.Trim(),
            Hand = e.Hand,
            Position = e.Position,
            Order = places.Where(p => p.ParentId == e.AssemblyId).Select(p => p.Order).DefaultIfEmpty().Max() + 1,
        };
        db.Places.Add(slot);
        return slot;
    }
}
