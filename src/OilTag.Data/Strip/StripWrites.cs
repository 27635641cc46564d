using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Make;
using OilTag.Core.Stores;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Data.Log;
using OilTag.Data.People;
using OilTag.Data.Machines;
using OilTag.Data.Make;
using OilTag.Data.Survey;

namespace OilTag.Data.Strip;

/// <summary>Removals, moves and refits.</summary>
public sealed class StripWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Takes a part off: opens its tag, writes the strip entry, where it was put and what had to be off first.</summary>
    public Task<Recorded> TakeOffAsync(Guid key, Guid personId, Guid machineId, TakeOffEntry e, string? firstOff, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
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
        var edges = await (from p in db.Precedences join s in db.Places on p.FirstSlotId equals s.Id where s.MachineId == machineId select new { p.FirstSlotId, p.ThenId, p.Way }).ToListAsync(ct);
        if (slot is not null)
        {
            foreach (var (n, first) in firstSlots.Where(f => PrecedenceRule.ClosesCircle(f.Slot, slot.Id, edges.Where(x => x.Way == 0).Select(x => (x.FirstSlotId, x.ThenId)))))
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
            Tools = (e.Tools ?? string.Empty).Trim(),
            Minutes = e.Minutes,
            People = e.People,
            Weight = check.Weight,
            ById = personId,
            At = recorder.Now,
            Bolts = BoltMap.Read(e.Bolts).Holes,
            WasOff = e.WasOff,
            Fasteners = [.. e.Fasteners.Select(f => new Fastener { What = f.What.Trim(), Count = f.Count, Bad = f.Bad, Condition = f.Condition })],
        });
        db.Custodies.Add(new Custody { TagId = tag.Id, Kind = e.Custody, Where = e.Where!.Trim(), From = recorder.Now, ById = personId });
        foreach (var (_, first) in firstSlots.Where(f => !edges.Exists(x => x.FirstSlotId == f.Slot && x.ThenId == slot.Id && x.Way == 0)))
        {
            db.Precedences.Add(new Precedence { FirstSlotId = first, ThenId = slot.Id });
        }

        db.Connections.AddRange(e.Connections.Select(c => new Connection { TagId = tag.Id, SlotId = slot.Id, Kind = c.Kind, What = c.What.Trim() }));
        var given = e is { Minutes: { } minutes, WasOff: false } ? await GiveAsync(machineId, slot, minutes, e.Hands, today, ct) : string.Empty;
        await OpenAgainAsync(slot.Id, ct);
        await StoreWrites.NameAsync(db, e.Custody, e.Where!, ct);
        var wanted = SingleUseRule.Of(slot.Name, e.Fasteners);
        db.Demands.AddRange(wanted.Select(w => new Demand { MachineId = machineId, PlaceId = slot.Id, TagId = tag.Id, What = w.What, Quantity = w.Quantity, Source = w.Source, At = recorder.Now }));
        await db.SaveChangesAsync(ct);
        recorder.Say(
            StripLog.TookOff(slot.FullName, e.WasOff, e.Reason!, e.Fasteners, [.. e.Connections.Select(c => (c.Kind, c.What))], [.. firstSlots.Select(f => f.Number)], e.Where!, [.. wanted.Select(w => (w.What, w.Quantity))]) + given,
            machineId, slot.Id, tag.Id);
        return Recorded.To($"/t/{tag.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    // Minutes at a removal are hours given on the machine, to each of those who did it.
    private async Task<string> GiveAsync(Guid machineId, Place slot, int minutes, IReadOnlyList<Guid> hands, LocalDate today, CancellationToken ct)
    {
        var who = await PeopleQuery.Team(db).Where(p => hands.Contains(p.Id)).OrderBy(p => p.Name).Select(p => new { p.Id, p.Name }).ToListAsync(ct);
        db.Hours.AddRange(who.Select(w => new HoursEntry { MachineId = machineId, PersonId = w.Id, On = today, Minutes = minutes, Note = $"Took off {slot.FullName}", RecordedById = recorder.PersonId, At = recorder.Now }));
        return who.Count == 0 ? string.Empty : $" {HoursRule.Words(minutes)} each: {string.Join(", ", who.Select(w => w.Name.Split(' ')[0]))}.";
    }

    /// <summary>Puts a print of tags on record, so that a second tag with the same number on the floor can be explained.</summary>
    /// <param name="paper">A6, A4 or labels for a PDF; browser when the page itself is printed.</param>
    public Task<Recorded> PrintedAsync(Guid key, Guid personId, IReadOnlyList<int> numbers, string? paper, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tags = await db.Tags.AsNoTracking().Where(t => numbers.Contains(t.Number)).OrderBy(t => t.Number).ToListAsync(ct);
        foreach (var t in tags)
        {
            recorder.Say("printed its tag.", t.MachineId, t.SlotId, t.Id);
        }

        var all = string.Join(',', tags.Select(t => t.Number));
        return Recorded.To(paper == "browser" ? $"/strip/tags?n={all}&print=true" : $"/strip/tags.pdf?n={all}{(paper is "A4" or "labels" ? "&paper=" + paper : string.Empty)}");
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
        await StoreWrites.NameAsync(db, kind, where!, ct);
        db.Custodies.Add(new Custody { TagId = tag.Id, Kind = kind, Where = where!.Trim(), DueBack = Custodies.IsPromised(kind) ? dueBack : null, From = recorder.Now, ById = personId });
        recorder.Say(CustodyRule.Sentence(kind, where.Trim(), dueBack), tag.MachineId, tag.SlotId, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);

    /// <summary>Loads what keeps a part from going back on.</summary>
    /// <param name="access">The machine as it is.</param>
    /// <param name="useNew">True when a new piece from the route card goes in instead of the part that came off.</param>
    /// <param name="kind">For a trial or for good.</param>
    /// <param name="slotId">The slot it goes into; null for the one that it came out of.</param>
    /// <param name="known">Everything that is open on the machine, when that is known already; null to load it.</param>
    public static async Task<RefitFacts> RefitFactsAsync(OilTagDb db, Access access, Tag tag, bool useNew, FittingKind kind, Guid? slotId, LocalDate today, Instant now, IReadOnlyList<OpenItem>? known, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(access);
        ArgumentNullException.ThrowIfNull(tag);
        var slot = slotId ?? tag.SlotId;
        var packages = await WorkshopQuery.PackagesAsync(db, FindingQuery.PackagesOfTag(db, tag.Id), ct);
        var facts = (await WorkshopQuery.TagsAsync(db, db.Tags.Where(t => t.Id == tag.Id), packages, today, ct))[0];
        var hands = await (
            from s in db.Places
            from o in db.Places
            from p in db.Parts
            where s.Id == slot && o.Id == tag.SlotId && p.Id == tag.PartId
            select new
            {
                Slot = s.Hand,
                Part = p.Hand,
                s.Papers,
                There = db.Papers.Where(x => x.TagId == tag.Id && x.WithdrawnAt == null && (useNew ? x.PartId == null : x.PartId == tag.PartId)).Select(x => x.Kind).ToList(),
                Findings = db.Findings.Where(f => f.TagId == tag.Id).OrderBy(f => f.Number).Select(f => new { f.Number, Decided = f.OpensOn != null && f.OpensOn <= today ? null : f.Decided }).ToList(),
                In = db.Fittings.Where(f => f.SlotId == slot && f.Until == null && f.PartId != tag.PartId).Select(f => (Guid?)f.PartId).FirstOrDefault(),
                InName = (from f in db.Fittings join x in db.Parts on f.PartId equals x.Id where f.SlotId == slot && f.Until == null && f.PartId != tag.PartId select x.Name).FirstOrDefault(),
            }).SingleAsync(ct);
        int? finished = useNew ? 0 : null;
        if (useNew && await CardOfAsync(db, tag.Id, hands.Slot, ct) is { } made)
        {
            finished = made.Free.Sum(f => f.Pieces);
        }

        var sets = kind == FittingKind.Trial ? [] : await SetWrites.OfSlotAsync(db, tag.MachineId, slot, ct);
        var open = kind == FittingKind.Trial ? [] : known ?? await AccessQuery.OpenAsync(db, access, tag.MachineId, today, now, ct);
        return new RefitFacts
        {
            Tag = facts,
            Trial = kind == FittingKind.Trial,
            OpenPackages = [.. packages.Where(p => !p.Closed).Select(p => $"Package {p.Number}")],
            Undecided = [.. hands.Findings.Where(f => f.Decided is null).Select(f => f.Number)],
            ShutInBy = ShutIn(access, slot),
            Unfinished = [.. open.Where(o => o.PlaceId == slot && o.Kind is OpenKind.Inspection or OpenKind.Package or OpenKind.Bare && !packages.Any(p => o.Link == $"/w/{p.Number.ToString(CultureInfo.InvariantCulture)}")).Select(o => o.Sentence)],
            MissingPapers = kind == FittingKind.Trial ? [] : PaperRule.Missing(hands.Papers, hands.There),
            InTheWay = hands.In is null ? string.Empty : hands.InName ?? "Another part",
            Behind = ClosingRule.Behind(access.Map.BuriedBy(slot, access.Off), open, access.Map),
            SetsApart = [.. sets.SelectMany(s => SetRule.NotTogether([.. s.Members.Where(m => m.Number != tag.Number)]).Select(why => (s.Set.Name, why)))],
            SlotId = slot,
            SlotName = access.Name(slot),
            OwnSlotName = access.Name(tag.SlotId),
            SlotHand = hands.Slot,
            PartHand = useNew ? hands.Slot : hands.Part,
            FinishedPieces = finished,
            DecidedToReplace = hands.Findings.Exists(f => f.Decided is { } d && Dispositions.Replaces(d)),
        };
    }

    // What is on and has to come off before the slot can be reached.
    private static List<string> ShutIn(Access access, Guid slot) =>
        WayIn.Find(access.Map, slot, access.Off, access.Minutes) is not { } route ? ["Something that shuts itself in"] : [.. route.Slots.Select(access.Name)];

    /// <summary>Puts a part back on: for a trial, for good but loose, or for good, which ends the tag.</summary>
    public Task<Recorded> RefitAsync(Guid key, Guid personId, bool isInspector, int number, RefitEntry e, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(e);
        var tag = await db.Tags.SingleAsync(t => t.Number == number, ct);

        // What goes on and what is taken off a machine wait for each other: the check behind a panel holds until it is on.
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {tag.MachineId} for update", ct);
        await db.Entry(tag).ReloadAsync(ct);
        if (e.SlotId is { } named && !await db.Places.AnyAsync(p => p.Id == named && p.MachineId == tag.MachineId && p.Kind == PlaceKind.Slot, ct))
        {
            return Recorded.Refused("That slot is not on this machine. Choose it again.", "SlotId");
        }

        var facts = await RefitFactsAsync(db, await AccessQuery.LoadAsync(db, tag.MachineId, ct), tag, e.UseNew, e.Kind, e.SlotId, today, recorder.Now, null, ct);
        var problems = RefitRule.Check(facts).ToList();
        var over = RefitRule.Concedable(facts);
        problems.AddRange(ClosingRule.WhyNot(over, isInspector, e.Concession));
        TextRules.Optional(problems, "Note", e.Note, 300);
        var loose = TextRules.Optional(problems, "Loose", e.Loose, 200);
        var strip = await db.StripEntries.Include(s => s.Fasteners).FirstOrDefaultAsync(s => s.TagId == tag.Id, ct);
        var fast = e.Kind == FittingKind.Final && loose.Length == 0;
        var bags = fast && strip is not null ? Bags(strip, e.Bags, problems) : [];
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var slot = await db.Places.AsNoTracking().SingleAsync(p => p.Id == facts.SlotId, ct);
        await JoinAsync(tag.Id, e.Joined, personId, ct);
        var partId = tag.PartId;
        if (e.UseNew)
        {
            var (card, free) = (await CardOfAsync(db, tag.Id, slot.Hand, ct))!.Value;
            var part = new Part { MachineId = tag.MachineId, Name = slot.Name, Hand = slot.Hand, Provenance = Provenance.NewMade };
            db.Parts.Add(part);
            partId = part.Id;
            await db.Papers.Where(p => p.TagId == tag.Id && p.PartId == null).ExecuteUpdateAsync(u => u.SetProperty(p => p.PartId, partId), ct);
            var item = free.FirstOrDefault(f => f.Pieces > 0 && card.AllItems[f.Item].Name == slot.Name, free.FirstOrDefault(f => f.Pieces > 0)).Item;
            db.StageMoves.Add(new StageMove { StageId = card.Stages.OrderBy(s => s.Order).Last().Id, Item = item, Hand = CountedHand(card, slot.Hand), Piece = await PieceAsync(card, item, CountedHand(card, slot.Hand), ct), Pieces = 1, ById = personId, At = recorder.Now });
        }

        await FitAsync(tag, partId, slot.Id, e.Kind, loose, personId, ct);
        foreach (var (bag, entry) in bags)
        {
            (bag.BackOn, bag.BackOnNew, bag.Difference) = (entry.BackOn, entry.New, FastenerBalance.Difference(Count(bag, entry)) is null ? string.Empty : entry.Explained!.Trim());
        }

        if (e.Kind == FittingKind.Final && (e.UseNew || facts.SlotId != tag.SlotId))
        {
            await SetWrites.VoidAsync(db, recorder, tag.MachineId, slot, "another part is in it", ct);
        }

        if (e.Kind == FittingKind.Final)
        {
            await CloseAsync(tag.MachineId, slot.Id, over, e.Concession, personId, ct);
        }

        if (fast)
        {
            await EndAsync(tag, TagEnd.Fitted, ct);
        }

        recorder.Say(Told(slot, e, loose, over), tag.MachineId, slot.Id, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);

    // Of numbered pieces the one with the lowest number that is ready goes on.
    private async Task<int> PieceAsync(RouteCard card, int item, Hand hand, CancellationToken ct) => !card.Numbered ? 0
        : (await Make.CardWrites.PiecesAsync(db, card.Id, card.Stages, ct)).FirstOrDefault(p => !p.Scrapped && p.Item == item && p.Hand == hand && p.Reached == card.Stages.Count - 1)?.Number ?? 0;

    private static string Told(Place slot, RefitEntry e, string loose, IReadOnlyList<OpenItem> over)
    {
        var done = StripLog.PutOn(slot.FullName, e.Kind, loose, e.UseNew);
        var remark = string.IsNullOrWhiteSpace(e.Note) ? string.Empty : $" {e.Note.Trim().TrimEnd('.')}.";
        var differences = e.Bags.Where(b => !string.IsNullOrWhiteSpace(b.Explained)).Select(b => b.Explained!.Trim().TrimEnd('.')).ToList();
        var counted = loose.Length == 0 && differences.Count > 0 ? $" Fasteners differ: {string.Join("; ", differences)}." : string.Empty;
        var conceded = over.Count == 0 ? string.Empty : $" With a concession over {over.Count} open {(over.Count == 1 ? "thing" : "things")}: {e.Concession!.Trim().TrimEnd('.')}.";
        return done + remark + counted + conceded;
    }

    private static List<(Fastener Bag, BagEntry Entry)> Bags(StripEntry strip, IReadOnlyList<BagEntry> typed, List<Problem> problems)
    {
        var counted = new List<(Fastener, BagEntry)>();
        foreach (var bag in strip.Fasteners)
        {
            if (typed.FirstOrDefault(t => t.FastenerId == bag.Id) is not { } entry)
            {
                problems.Add(new Problem($"Bag-{bag.Id}", $"{bag.What}: count how many went in, and how many of those were new."));
                continue;
            }

            problems.AddRange(FastenerBalance.Check(Count(bag, entry), entry.Explained, $"Bag-{bag.Id}"));
            counted.Add((bag, entry));
        }

        return counted;
    }

    private static BagCount Count(Fastener bag, BagEntry entry) => new(bag.What, bag.Count, bag.Bad, entry.BackOn, entry.New);

    private async Task FitAsync(Tag tag, Guid partId, Guid slotId, FittingKind kind, string loose, Guid personId, CancellationToken ct)
    {
        // It may be in already, for a trial or loose: the same part in the same slot on better terms.
        var now = await db.Fittings.SingleOrDefaultAsync(f => f.SlotId == slotId && f.Until == null, ct);
        if (now is not null && now.Kind == kind && kind == FittingKind.Final)
        {
            now.Loose = loose;
            return;
        }

        if (now is not null)
        {
            now.Until = recorder.Now;
            await db.SaveChangesAsync(ct);
        }

        var trial = kind == FittingKind.Trial ? await OpenTrialAsync(tag.MachineId, ct) : null;
        db.Fittings.Add(new Fitting { PartId = partId, SlotId = slotId, Kind = kind, From = recorder.Now, FittedById = personId, TrialId = trial, Loose = kind == FittingKind.Final ? loose : string.Empty });
    }

    private Task<Guid?> OpenTrialAsync(Guid machineId, CancellationToken ct) =>
        db.Trials.Where(t => t.MachineId == machineId && t.EndedAt == null).OrderByDescending(t => t.Number).Select(t => (Guid?)t.Id).FirstOrDefaultAsync(ct);

    private async Task JoinAsync(Guid tagId, IReadOnlyList<Guid> joined, Guid personId, CancellationToken ct)
    {
        foreach (var c in await db.Connections.Where(c => c.TagId == tagId && c.JoinedAt == null && joined.Contains(c.Id)).ToListAsync(ct))
        {
            (c.JoinedAt, c.JoinedById) = (recorder.Now, personId);
        }
    }

    private async Task CloseAsync(Guid machineId, Guid slotId, IReadOnlyList<OpenItem> over, string? concession, Guid personId, CancellationToken ct)
    {
        if (over.Count > 0 || await db.Precedences.AnyAsync(p => p.FirstSlotId == slotId, ct))
        {
            db.Closings.Add(new Closing
            {
                MachineId = machineId,
                PlaceId = slotId,
                With = ClosedWith.Part,
                At = recorder.Now,
                ById = personId,
                Over = [.. over.Select(o => o.Sentence)],
                Concession = over.Count == 0 ? string.Empty : concession!.Trim(),
                AllowedById = over.Count == 0 ? null : personId,
            });
        }
    }

    private async Task EndAsync(Tag tag, TagEnd end, CancellationToken ct)
    {
        tag.End = end;
        tag.ClosedAt = recorder.Now;
        if (await db.Custodies.SingleOrDefaultAsync(c => c.TagId == tag.Id && c.Until == null, ct) is { } custody)
        {
            custody.Until = recorder.Now;
        }
    }

    /// <summary>Ticks connections that are joined now.</summary>
    public Task<Recorded> JoinAsync(Guid key, Guid personId, int number, IReadOnlyList<Guid> joined, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.SingleAsync(t => t.Number == number, ct);
        var open = await db.Connections.Where(c => c.TagId == tag.Id && c.JoinedAt == null && joined.Contains(c.Id)).ToListAsync(ct);
        if (open.Count == 0)
        {
            return Recorded.Refused("Tick what is joined now.", "Joined");
        }

        await JoinAsync(tag.Id, joined, personId, ct);
        recorder.Say($"joined {string.Join("; ", open.Select(c => $"{c.Kind.ToString().ToLowerInvariant()} {c.What}"))}.", tag.MachineId, tag.SlotId, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);

    /// <summary>Takes a part that is in for a trial, or loose, out again under the tag that it has.</summary>
    public Task<Recorded> TakeOutAsync(Guid key, Guid personId, int number, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.SingleAsync(t => t.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {tag.MachineId} for update", ct);
        var fitting = await db.Fittings.SingleOrDefaultAsync(f => f.PartId == tag.PartId && f.Until == null, ct);
        if (fitting is null || tag.End is not null)
        {
            return Recorded.Refused(tag.End is null ? $"{number} is off already." : "It is on for good. Take it off with a new tag.");
        }

        fitting.Until = recorder.Now;
        await OpenAgainAsync(fitting.SlotId, ct);
        recorder.Say("took it out again.", tag.MachineId, tag.SlotId, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);

    private async Task OpenAgainAsync(Guid slotId, CancellationToken ct)
    {
        foreach (var c in await db.Closings.Where(c => c.PlaceId == slotId && c.OpenedAt == null).ToListAsync(ct))
        {
            c.OpenedAt = recorder.Now;
        }
    }

    /// <summary>Ends a tag otherwise than by fitting, or voids one that was a mistake.</summary>
    public Task<Recorded> EndTagAsync(Guid key, Guid personId, int number, TagEnd end, string? why, bool copied, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var tag = await db.Tags.SingleAsync(t => t.Number == number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from tags where id = {tag.Id} for update", ct);
        await db.Entry(tag).ReloadAsync(ct);
        var slot = await db.Places.AsNoTracking().SingleAsync(p => p.Id == tag.SlotId, ct);
        var facts = new TagEndFacts(
            tag.End,
            end,
            await db.Fittings.AnyAsync(f => f.SlotId == tag.SlotId && f.Until == null && f.PartId != tag.PartId && f.Kind == FittingKind.Final, ct),
            await db.Fittings.AnyAsync(f => f.PartId == tag.PartId && f.Until == null, ct),
            await db.Findings.AnyAsync(f => f.TagId == tag.Id, ct) || await db.Packages.AnyAsync(k => k.TagId == tag.Id, ct),
            await db.Parts.CountAsync(p => p.MachineId == tag.MachineId && p.Name == slot.Name && p.Id != tag.PartId && (db.Fittings.Any(f => f.PartId == p.Id && f.Until == null) || db.Tags.Any(t => t.PartId == p.Id && t.End == null)), ct) == 0,
            copied);
        var problems = TagEndRule.Check(facts, why);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (end == TagEnd.Void)
        {
            // The part never came off: it is in its slot as it was found.
            db.Fittings.Add(new Fitting { PartId = tag.PartId, SlotId = tag.SlotId, Kind = FittingKind.AsFound });
        }

        await EndAsync(tag, end, ct);
        recorder.Say(StripLog.Ended(number, end, why!), tag.MachineId, tag.SlotId, tag.Id);
        return Recorded.To($"/t/{number}");
    }, ct);

    /// <summary>The hand under which a card counts pieces for a slot.</summary>
    private static Hand CountedHand(RouteCard card, Hand slot) => card.Handed && slot == Hand.Right ? Hand.Right : Hand.Left;

    /// <summary>
    /// The cards that make a piece for the place of a tag: those of its own packages first, then those of the machine that make the same part. A pair or a
    /// set is made on one card, and each of its pieces goes on where another tag hangs.
    /// </summary>
    public static async Task<IReadOnlyList<(RouteCard Card, bool Own)>> CardsForAsync(OilTagDb db, Guid tagId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var cards = await (
            from c in db.RouteCards.Include(c => c.Stages)
            join k in db.Packages on c.PackageId equals k.Id
            join t in db.Tags on k.MachineId equals t.MachineId
            join s in db.Places on t.SlotId equals s.Id
            where t.Id == tagId && (k.TagId == tagId || c.Part == s.Name || k.ClosedAt == null)
            select new { Card = c, s.Name, Own = k.TagId == tagId }).ToListAsync(ct);
        return [.. cards.Where(c => c.Own || string.Equals(c.Card.Part, c.Name, StringComparison.OrdinalIgnoreCase) || c.Card.Items.Any(i => string.Equals(i.Name, c.Name, StringComparison.OrdinalIgnoreCase))).OrderByDescending(c => c.Own).ThenByDescending(c => c.Card.Number).Select(c => (c.Card, c.Own))];
    }

    /// <summary>The card that makes a tag's new piece, with its finished pieces of that hand that are not fitted, by item: of several cards the first that has one, else the newest.</summary>
    private static async Task<(RouteCard Card, IReadOnlyList<(int Item, int Pieces)> Free)?> CardOfAsync(OilTagDb db, Guid tagId, Hand hand, CancellationToken ct)
    {
        var cards = await CardsForAsync(db, tagId, ct);
        if (cards.Count == 0)
        {
            return null;
        }

        var counts = await CardWrites.CountsAsync(db, [.. cards.Select(c => c.Card.Id)], ct);
        IReadOnlyList<(int Item, int Pieces)> Free(RouteCard card) => [.. card.Lines.Where(l => l.Hand == CountedHand(card, hand)).Select(l => StageCounts.Reached(card, counts, l) is var r ? (l.Item, r[^2].Count - r[^1].Count) : default)];
        var chosen = cards.Select(c => c.Card).FirstOrDefault(c => Free(c).Any(f => f.Pieces > 0), cards[0].Card);
        return (chosen, Free(chosen));
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
