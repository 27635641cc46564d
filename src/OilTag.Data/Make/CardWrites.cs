using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.Survey;

namespace OilTag.Data.Make;

/// <summary>A route card as it is typed.</summary>
/// <param name="Left">Pieces for the left, or without hand, when there are no items.</param>
/// <param name="Right">Pieces for the right.</param>
public sealed record CardEntry(string? Part, string? Material, bool Critical, bool Handed, string? Left, string? Right, string? Items, string? Dimensions, string? Tools, string? Size, bool Numbered, IReadOnlyList<StageEntry> Stages);

/// <summary>Everything that is recorded on route cards.</summary>
public sealed class CardWrites(OilTagDb db, Recorder recorder, PhotoStore files)
{
    private sealed record Held(RouteCard Card, WorkPackage Package, IReadOnlyList<Stage> Stages);

    /// <summary>Moves one piece of one kind into a stage or back out of it.</summary>
    /// <param name="seen">The count that the page showed; another by now means that somebody else moved one.</param>
    public Task<Recorded> MoveAsync(Guid key, Guid personId, int number, Guid stageId, int item, Hand hand, int pieces, int seen, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        return h.Card.Numbered ? Singly(number)
            : await CountAsync(h, stageId, item, hand, pieces, seen, MoveKind.Count, string.Empty, ct) is { } refused
            ? refused
            : Recorded.To($"/r/{number}");
    }, ct);

    /// <summary>Moves one numbered piece on by a stage, starting it when it is new, or back by one.</summary>
    /// <param name="piece">Its number; nought for a new one of the kind.</param>
    /// <param name="reached">The stage that it had reached on the page, by order; another by now means that somebody else moved it.</param>
    /// <param name="forward">True to the next stage, false back to the one before.</param>
    public Task<Recorded> PieceAsync(Guid key, Guid personId, int number, int piece, int item, Hand hand, int reached, bool forward, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var all = await PiecesAsync(db, h.Card.Id, h.Stages, ct);
        var at = all.FirstOrDefault(p => p.Number == piece);
        if (!h.Card.Numbered || (piece > 0 && (at is null || at.Scrapped || at.Reached != reached)) || (piece == 0 && reached != 0))
        {
            return Recorded.Changed;
        }

        if (at is not null)
        {
            (item, hand) = (at.Item, at.Hand);
        }

        // The last stage is counted when the part is put back on.
        var to = forward ? reached + 1 : reached;
        if (to < 1 || to >= h.Stages.Count || await LineAsync(h, item, hand, ct) is not { } l)
        {
            return Recorded.Refused("It cannot go there. Open the card again.", "Piece");
        }

        var n = piece > 0 ? piece : PieceRule.Next(all);
        return await CountAsync(h, h.Stages[to - 1].Id, item, hand, forward ? 1 : -1, l.Reached[to - 1].Count, MoveKind.Count, string.Empty, ct, n) is { } refused ? refused : Recorded.To($"/r/{number}/pieces");
    }, ct);

    /// <summary>Scraps one numbered piece. Its number is never given again.</summary>
    public Task<Recorded> ScrapPieceAsync(Guid key, Guid personId, int number, int piece, string? why, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        if (!h.Card.Numbered || (await PiecesAsync(db, h.Card.Id, h.Stages, ct)).FirstOrDefault(p => p.Number == piece) is not { Scrapped: false } at || at.Reached == 0 || at.Reached == h.Stages.Count)
        {
            return Recorded.Changed;
        }

        if (Closed(h) is { } closed)
        {
            return closed;
        }

        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "Why", why, "Say what is wrong with it, so that the next one is not.", 200);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        foreach (var s in h.Stages.Where(s => s.Order <= at.Reached))
        {
            Add(s, at.Item, at.Hand, -1, MoveKind.Scrap, reason, piece);
        }

        Say(h, $"scrapped piece {PieceRule.Mark(number, piece)} that was {h.Stages[at.Reached - 1].Name.ToLowerInvariant()}: {reason.TrimEnd('.')}.");
        return Recorded.To($"/r/{number}/pieces");
    }, ct);

    /// <summary>Where the numbered pieces of a card are.</summary>
    public static async Task<IReadOnlyList<Piece>> PiecesAsync(OilTagDb db, Guid cardId, IReadOnlyList<Stage> stages, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (from m in db.StageMoves join s in db.Stages on m.StageId equals s.Id where s.RouteCardId == cardId && m.Piece > 0 group m by new { m.Piece, m.Item, m.Hand, m.StageId } into g select new { g.Key, Sum = g.Sum(m => m.Pieces), Scrapped = g.Any(m => m.Kind == MoveKind.Scrap) }).ToListAsync(ct);
        return PieceRule.Stand(stages, rows.Select(r => new PieceMoves(r.Key.Piece, r.Key.Item, r.Key.Hand, r.Key.StageId, r.Sum, r.Scrapped)));
    }

    /// <summary>Scrap, or back to be done again: one piece that lies at a stage.</summary>
    /// <param name="from">Order of the stage at which it lies.</param>
    /// <param name="to">Order of the stage to which it goes back; nought to scrap it.</param>
    public Task<Recorded> BackAsync(Guid key, Guid personId, int number, int item, Hand hand, int? from, int? to, string? why, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "Why", why, "Say what is wrong with it, so that the next one is not.", 200);
        if (h.Card.Numbered)
        {
            return Singly(number);
        }

        if (await LineAsync(h, item, hand, ct) is not { } l)
        {
            return Recorded.Refused("That piece is not on this card. Open the card again.", "Line");
        }

        if (Closed(h) is { } closed)
        {
            return closed;
        }

        if (StageCounts.WhyNotBack(l.Reached, (from ?? 0) - 1, (to ?? -1) == 0 ? -1 : (to ?? from ?? 0) - 1) is { } wrong)
        {
            problems.Add(wrong);
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        foreach (var s in h.Stages.Where(s => s.Order <= from && s.Order > to))
        {
            Add(s, item, hand, -1, to == 0 ? MoveKind.Scrap : MoveKind.Rework, reason);
        }

        Say(h, to == 0
            ? $"scrapped one{Kind(h, l.Line)} of R{number} that was {h.Stages[from!.Value - 1].Name.ToLowerInvariant()}: {reason.TrimEnd('.')}."
            : $"sent one{Kind(h, l.Line)} of R{number} back from {h.Stages[from!.Value - 1].Name.ToLowerInvariant()} to {h.Stages[to!.Value - 1].Name.ToLowerInvariant()}: {reason.TrimEnd('.')}.");
        return Recorded.To($"/r/{number}");
    }, ct);

    /// <summary>Splits pieces off to a card of their own, such as those that another shop makes.</summary>
    /// <param name="from">Order of the stage at which they lie; nought for those that are not begun.</param>
    public Task<Recorded> SplitAsync(Guid key, Guid personId, int number, int item, Hand hand, int? from, string? pieces, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        if (await LineAsync(h, item, hand, ct) is not { } l)
        {
            return Recorded.Refused("That piece is not on this card. Open the card again.", "Line");
        }

        if (Closed(h) is { } closed)
        {
            return closed;
        }

        if (h.Card.Numbered)
        {
            return Recorded.Refused("Its pieces are followed singly and stay on one card.", "SplitLine");
        }

        var n = CardEdit.Whole(pieces) ?? 0;
        if (StageCounts.WhyNotSplit(l.Reached, l.Line.Wanted, (from ?? 0) - 1, n) is { } wrong)
        {
            return Recorded.Refused([wrong]);
        }

        var c = h.Card;
        var (left, right) = hand == Hand.Right ? (0, n) : (n, 0);
        var card = new RouteCard
        {
            PackageId = c.PackageId,
            Part = c.Part,
            Material = c.Material,
            Critical = c.Critical,
            Handed = c.Handed,
            Left = left,
            Right = right,
            Items = c.Items.Count > 0 ? [c.Items[item] with { Left = left, Right = right }] : [],
            SplitFromId = c.Id,
            Evidence = [.. c.Evidence.Select(e => e with { Id = Guid.CreateVersion7() })],
            Dimensions = [.. c.Dimensions.Select(d => d with { Id = Guid.CreateVersion7() })],
            Tools = c.Tools,
            Stages = [.. h.Stages.Select(s => new Stage { Order = s.Order, Name = s.Name, Shop = s.Shop, Skill = s.Skill, Machine = s.Machine, SetUpMinutes = s.SetUpMinutes, PieceLow = s.PieceLow, PieceLikely = s.PieceLikely, PieceHigh = s.PieceHigh, FirstOff = s.FirstOff })],
        };
        db.RouteCards.Add(card);
        (c.Left, c.Right) = (c.Left - left, c.Right - right);
        c.Items = [.. c.Items.Select((x, i) => i == item ? x with { Left = x.Left - left, Right = x.Right - right } : x)];
        await db.SaveChangesAsync(ct);
        foreach (var s in h.Stages.Where(s => s.Order <= (from ?? 0)))
        {
            Add(s, item, hand, -n, MoveKind.Split, $"to R{card.Number}");
            Add(card.Stages.Single(x => x.Order == s.Order), 0, hand, n, MoveKind.Split, $"from R{number}");
        }

        // What passed its first-off inspection here has passed it there.
        var ids = h.Stages.ToDictionary(s => s.Id, s => s.Order);
        foreach (var f in await db.FirstOffs.AsNoTracking().Where(f => ids.Keys.Contains(f.StageId) && f.Item == item && f.Hand == hand && f.Passed).ToListAsync(ct))
        {
            db.FirstOffs.Add(new FirstOff { StageId = card.Stages.Single(x => x.Order == ids[f.StageId]).Id, Hand = hand, Passed = true, Note = $"On R{number}: {f.Note}", ById = f.ById, At = f.At });
        }

        Say(h, $"split {n}{Kind(h, l.Line)} of R{number} off to R{card.Number}.");
        return Recorded.To($"/r/{card.Number}");
    }, ct);

    /// <summary>Changes what a card says: part, pieces, stages, dimensions and tools.</summary>
    public Task<Recorded> EditAsync(Guid key, Guid personId, int number, uint version, CardEntry e, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var (card, problems) = (h.Card, new List<Problem>());
        if (card.Version != version)
        {
            return Recorded.Changed;
        }

        if (Closed(h) is { } closed)
        {
            return closed;
        }

        var part = TextRules.Need(problems, "Part", e.Part, "What is made?", 80);
        var material = TextRules.Optional(problems, "Material", e.Material, 120);
        var stages = CardEdit.Stages(e.Stages, problems);
        var items = CardEdit.Items(e.Items, e.Handed, problems);
        var left = items.Count > 0 ? items.Sum(i => i.Left) : CardEdit.Whole(e.Left);
        var right = items.Count > 0 ? items.Sum(i => i.Right) : e.Handed ? CardEdit.Whole(e.Right) : 0;
        if (left is null || right is null || left + right is < 1 or > CardEdit.MostPieces)
        {
            problems.Add(new Problem("Left", $"How many pieces? From 1 to {CardEdit.MostPieces}."));
        }

        var tools = CardEdit.Tools(e.Tools, problems);
        var dimensions = CardEdit.Dimensions(e.Dimensions, [.. stages.Select(s => s.Name)], card.Dimensions, problems);
        var size = CardEdit.Size(e.Size, problems);
        var counts = await CountsAsync(db, [card.Id], ct);
        if (e.Numbered != card.Numbered && counts.Any(c => c.Pieces > 0))
        {
            problems.Add(new Problem("Numbered", card.Numbered ? "Its pieces have numbers already." : "Pieces were counted already without a number. Split those that are not begun off to a card of their own."));
        }

        var known = h.Stages.ToDictionary(s => s.Id);
        if (stages.Any(s => s.Id is { } id && !known.ContainsKey(id)))
        {
            return Recorded.Changed;
        }

        var gone = h.Stages.Where(s => !stages.Any(x => x.Id == s.Id)).ToList();
        if (gone.Find(g => counts.Any(c => c.StageId == g.Id && c.Pieces != 0)) is { } full)
        {
            problems.Add(new Problem(string.Empty, $"Pieces have reached “{full.Name}”, so that stage stays on the card."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        // A new order must not put more pieces behind a stage than have come through it.
        var again = new RouteCard { PackageId = card.PackageId, Part = part, Left = left!.Value, Right = right!.Value, Handed = e.Handed, Items = items, Stages = [.. stages.Select((s, i) => new Stage { Id = s.Id ?? Guid.CreateVersion7(), Order = i + 1, Name = s.Name })] };
        var lines = again.Lines;
        if (counts.Any(c => c.Pieces > 0 && !lines.Any(l => l.Item == c.Item && l.Hand == c.Hand))
            || lines.Any(l => StageCounts.Reached(again, counts, l) is var r && (r[0].Count > l.Wanted || r.Zip(r.Skip(1)).Any(p => p.Second.Count > p.First.Count))))
        {
            return Recorded.Refused("More pieces are made already than that leaves, or they would be past a stage that they have not been through. Count them back, or change less.");
        }

        // A stage that was ever moved into keeps its moves; one that never was goes.
        var touched = await db.StageMoves.Where(m => gone.Select(g => g.Id).Contains(m.StageId)).Select(m => m.StageId).Distinct().ToListAsync(ct);
        if (gone.Find(g => touched.Contains(g.Id)) is { } used)
        {
            return Recorded.Refused($"“{used.Name}” has a history of pieces and stays on the card.");
        }

        (card.Part, card.Material, card.Critical, card.Handed, card.Left, card.Right, card.Items, card.Dimensions, card.Tools) = (part, material, e.Critical, e.Handed, left.Value, right.Value, items, dimensions, tools);
        (card.Size, card.Numbered) = (size, e.Numbered);
        db.Stages.RemoveRange(gone);
        foreach (var (s, i) in stages.Select((s, i) => (s, i)))
        {
            var stage = s.Id is { } id ? known[id] : new Stage { RouteCardId = card.Id, Name = s.Name };
            (stage.Order, stage.Name, stage.Shop, stage.Skill, stage.Machine, stage.SetUpMinutes, stage.PieceLow, stage.PieceLikely, stage.PieceHigh, stage.FirstOff) = (i + 1, s.Name, s.Shop, s.Skill, s.Machine, s.SetUp, s.Low, s.Likely, s.High, s.FirstOff);
            if (s.Id is null)
            {
                db.Stages.Add(stage);
            }
        }

        Say(h, $"changed route card R{number}: {CardWords.Pieces(card)}, {stages.Count} stages.");
        return Recorded.To($"/r/{number}");
    }, ct);

    /// <summary>Reads a dimension on the first piece of a kind.</summary>
    public Task<Recorded> ReadAsync(Guid key, Guid personId, int number, Guid dimensionId, int item, Hand hand, string? value, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var d = h.Card.Dimensions.FirstOrDefault(x => x.Id == dimensionId);
        if (d is null || await LineAsync(h, item, hand, ct) is not { } l)
        {
            return Recorded.Refused("That is not on this card. Open the card again.", "Value");
        }

        if (Closed(h) is { } closed)
        {
            return closed;
        }

        var read = MeasureReader.Read(value, Quantity.Length);
        if (read.Refusal is { } why)
        {
            return Recorded.Refused(why, "Value");
        }

        db.CardReadings.Add(new CardReading { RouteCardId = h.Card.Id, DimensionId = d.Id, Item = item, Hand = hand, Value = read.Value!, ById = personId, At = recorder.Now });
        Say(h, $"measured {d.Name} of the first{Kind(h, l.Line)} of R{number}: {read.Value!.Entered}.");
        return Recorded.To($"/r/{number}/first");
    }, ct);

    /// <summary>Passes the first piece of a kind at a stage, or turns it down.</summary>
    /// <param name="isInspector">Whether the database, not the cookie, says that they are an inspector.</param>
    public Task<Recorded> InspectAsync(Guid key, Guid personId, bool isInspector, int number, Guid stageId, int item, Hand hand, bool passed, string? note, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var stage = h.Stages.FirstOrDefault(s => s.Id == stageId);
        if (stage is not { FirstOff: true } || await LineAsync(h, item, hand, ct) is not { } l)
        {
            return Recorded.Refused("That stage needs no first-off inspection. Open the card again.", "Note");
        }

        if (Closed(h) is { } closed)
        {
            return closed;
        }

        var problems = new List<Problem>();
        var words = TextRules.Need(problems, "Note", note, "Say what you looked at and found.", 300);
        var made = await db.StageMoves.AnyAsync(m => m.StageId == stageId && m.ById == personId && m.Kind != MoveKind.Shop && m.Pieces > 0, ct);
        var readings = await db.CardReadings.AsNoTracking().Where(r => r.RouteCardId == h.Card.Id && r.Item == item && r.Hand == hand).OrderBy(r => r.At).ToListAsync(ct);
        problems.AddRange(StageCounts.WhyNotPass(l.Reached[stage.Order - 1].Count - l.Reached[stage.Order].Count, isInspector, made, passed, [.. h.Card.Dimensions.Where(d => d.Stage == stage.Order).Select(d => (d, (Measure?)readings.LastOrDefault(r => r.DimensionId == d.Id)?.Value))]));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.FirstOffs.Add(new FirstOff { StageId = stageId, Item = item, Hand = hand, Passed = passed, Note = words, ById = personId, At = recorder.Now });
        Say(h, $"{(passed ? "passed" : "turned down")} the first{Kind(h, l.Line)} {stage.Name.ToLowerInvariant()} of R{number}: {words.TrimEnd('.')}.");
        return Recorded.To($"/r/{number}");
    }, ct);

    /// <summary>Adds what the shape is known from, or a newer version of its file.</summary>
    /// <param name="evidenceId">Evidence that gets a newer file; null for new evidence.</param>
    /// <param name="fileName">Name of the file; null when none came.</param>
    public async Task<Recorded> AddEvidenceAsync(Guid key, Guid personId, int number, Guid? evidenceId, EvidenceKind? kind, string? title, string? note, string? fileName, byte[]? file, CancellationToken ct)
    {
        if ((file is not null || evidenceId is not null) && CardFileRule.Check(file) is { } wrong)
        {
            return Recorded.Refused([wrong]);
        }

        var type = file is null ? string.Empty : CardFileRule.TypeOf(file)!;
        if (type.StartsWith("image/", StringComparison.Ordinal) && type != "image/vnd.dxf")
        {
            var (picture, no) = await PhotoStore.CleanAsync(file!, ct);
            if (picture is null)
            {
                return Recorded.Refused(no!.Sentence, "File");
            }

            file = picture.Bytes;
        }

        var id = Guid.CreateVersion7();
        return await recorder.RecordAsync(key, personId, async () =>
        {
            var h = await LockAsync(number, ct);
            var problems = new List<Problem>();
            var evidence = h.Card.Evidence.FirstOrDefault(e => e.Id == evidenceId);
            if (evidenceId is not null && evidence is null)
            {
                return Recorded.Changed;
            }

            if (evidence is null)
            {
                if (kind is not { } k || !Enum.IsDefined(k))
                {
                    problems.Add(new Problem("EvidenceKind", "What is it known from?"));
                }

                var what = TextRules.Need(problems, "Title", title, "Say which: sheet and revision, where the part lies, whose photo.", 120);
                var more = TextRules.Optional(problems, "Note", note, 300);
                if (problems.Count > 0)
                {
                    return Recorded.Refused(problems);
                }

                evidence = new CardEvidence(Guid.CreateVersion7(), kind!.Value, what, more, personId, recorder.Now);
                h.Card.Evidence = [.. h.Card.Evidence, evidence];
                Say(h, MakeLog.Evidence(number, evidence.Kind, what));
            }

            if (file is not null)
            {
                var edition = await db.CardFiles.CountAsync(f => f.EvidenceId == evidence.Id, ct) + 1;
                var name = Path.GetFileName(fileName ?? string.Empty) is { Length: > 0 } n ? string.Concat(n.Where(c => !char.IsControl(c)).Take(120)) : "file";
                recorder.Undo(() => files.RemovePaper(id));
                await files.SavePaperAsync(id, file, ct);
                db.CardFiles.Add(new CardFile { Id = id, RouteCardId = h.Card.Id, EvidenceId = evidence.Id, Order = edition, Name = name, ContentType = type, Bytes = file.Length, ById = personId, At = recorder.Now });
                Say(h, $"added version {edition} of “{evidence.Title}” to R{number}.");
            }

            return Recorded.To($"/r/{number}/evidence");
        }, ct);
    }

    /// <summary>Records where two pieces of evidence differ, or decides about it.</summary>
    /// <param name="conflictId">The difference that is decided; null for a new one.</param>
    public Task<Recorded> DifferAsync(Guid key, Guid personId, bool isLead, int number, Guid? conflictId, Guid? first, Guid? second, string? what, string? decided, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var problems = new List<Problem>();
        if (conflictId is { } id)
        {
            var conflict = h.Card.Conflicts.FirstOrDefault(c => c.Id == id);
            if (conflict is null || conflict.Decided.Length > 0)
            {
                return Recorded.Changed;
            }

            var words = TextRules.Need(problems, "Decided", decided, "Say what is made, and why.", 300);
            if (problems.Count > 0)
            {
                return Recorded.Refused(problems);
            }

            h.Card.Conflicts = [.. h.Card.Conflicts.Select(c => c.Id == id ? c with { Decided = words, DecidedById = personId } : c)];
            Say(h, $"decided on R{number}: {words.TrimEnd('.')}.");
            return Recorded.To($"/r/{number}/evidence");
        }

        var difference = TextRules.Need(problems, "What", what, "Say where they differ, with both sizes.", 300);
        var known = h.Card.Evidence.Select(e => e.Id).ToHashSet();
        if (first is not { } a || second is not { } b || a == b || !known.Contains(a) || !known.Contains(b))
        {
            problems.Add(new Problem("Second", "Choose the two that differ."));
        }

        var made = isLead ? TextRules.Optional(problems, "Decided", decided, 300) : string.Empty;
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        h.Card.Conflicts = [.. h.Card.Conflicts, new CardConflict(Guid.CreateVersion7(), first!.Value, second!.Value, difference, made, personId, made.Length > 0 ? personId : null, recorder.Now)];
        Say(h, MakeLog.Differs(number, difference, made));
        return Recorded.To($"/r/{number}/evidence");
    }, ct);

    /// <summary>Takes in material for the card's machine.</summary>
    public Task<Recorded> TakeInAsync(Guid key, Guid personId, int number, string? specification, string? form, string? heat, string? certificate, string? supplier, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var problems = new List<Problem>();
        var lot = new MaterialLot
        {
            MachineId = h.Package.MachineId,
            Specification = TextRules.Need(problems, "Specification", specification, "What is it by its papers or its marks?", 80),
            Form = TextRules.Need(problems, "Form", form, "Bar, sheet, tube: which size, and how much?", 120),
            Heat = TextRules.Optional(problems, "Heat", heat, 60),
            Certificate = TextRules.Optional(problems, "Certificate", certificate, 120),
            Supplier = TextRules.Optional(problems, "Supplier", supplier, 80),
            ById = personId,
            At = recorder.Now,
        };
        if (h.Card.Critical && lot.Heat.Length == 0)
        {
            problems.Add(new Problem("Heat", "This card is safety-critical: its material has a heat or batch number, or is proved by test first."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.MaterialLots.Add(lot);
        Say(h, MakeLog.TookIn(lot));
        return Recorded.To($"/r/{number}/material");
    }, ct);

    /// <summary>Cuts pieces of the card from a lot.</summary>
    public Task<Recorded> CutAsync(Guid key, Guid personId, int number, Guid? lotId, string? pieces, string? why, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var lot = await db.MaterialLots.AsNoTracking().SingleOrDefaultAsync(l => l.Id == lotId && l.MachineId == h.Package.MachineId, ct);
        if (lot is null)
        {
            return Recorded.Refused("Choose what it was cut from.", "Lot");
        }

        if (Closed(h) is { } closed)
        {
            return closed;
        }

        var back = (pieces ?? string.Empty).Trim().TrimStart('−').StartsWith('-');
        var n = CardEdit.Whole((pieces ?? string.Empty).Trim().TrimStart('-'));
        var cuts = await db.MaterialCuts.AsNoTracking().Where(c => c.RouteCardId == h.Card.Id).ToListAsync(ct);
        var scrapped = await ScrappedAsync(db, h.Stages[0].Id, ct);
        var cut = back ? cuts.Where(c => c.LotId == lot.Id).Sum(c => c.Pieces) : cuts.Sum(c => c.Pieces);
        var problems = MaterialRule.WhyNotCut(h.Card, lot, back ? -n : n, cut, h.Card.Left + h.Card.Right + scrapped, why);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var entry = new MaterialCut { RouteCardId = h.Card.Id, LotId = lot.Id, Pieces = back ? -n!.Value : n!.Value, Substitution = back || MaterialRule.Same(h.Card.Material, lot.Specification) ? string.Empty : (why ?? string.Empty).Trim(), ById = personId, At = recorder.Now };
        db.MaterialCuts.Add(entry);
        Say(h, back ? $"took back that {n} of R{number} were cut from {lot.Specification}." : $"cut {n} of R{number} from {lot.Specification}{(lot.Heat.Length > 0 ? $", heat {lot.Heat}" : string.Empty)}{(entry.Substitution.Length > 0 ? $" instead of {h.Card.Material}: {entry.Substitution.TrimEnd('.')}" : string.Empty)}.");
        return Recorded.To($"/r/{number}/material");
    }, ct);

    /// <summary>An inspector agrees to another material.</summary>
    public Task<Recorded> AgreeAsync(Guid key, Guid personId, bool isInspector, int number, Guid? cutId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var cut = await db.MaterialCuts.SingleOrDefaultAsync(c => c.Id == cutId && c.RouteCardId == h.Card.Id, ct);
        if (cut is null || !MaterialRule.Waits(h.Card.Critical, cut))
        {
            return Recorded.Refused("Nothing waits for your agreement there.", "Cut");
        }

        if (!isInspector || cut.ById == personId)
        {
            return Recorded.Refused(isInspector ? "You cut it. Another inspector agrees to the material." : "An inspector agrees to another material on a safety-critical part.", "Cut");
        }

        cut.AgreedById = personId;
        Say(h, $"agreed to another material on R{number}: {cut.Substitution.TrimEnd('.')}.");
        return Recorded.To($"/r/{number}/material");
    }, ct);

    /// <summary>Gives an outside shop a private link to the card. The secret is returned once and not kept.</summary>
    public async Task<(Recorded Outcome, string? Secret)> GiveLinkAsync(Guid key, Guid personId, int number, string? shop, string? days, CancellationToken ct)
    {
        var secret = LinkSecret.New();
        var outcome = await recorder.RecordAsync(key, personId, async () =>
        {
            var h = await LockAsync(number, ct);
            var n = CardEdit.Whole(days);
            var problems = ShopLinkRule.WhyNot(shop, n, [.. h.Stages.Select(s => s.Shop).Where(s => s.Length > 0)]);
            if (problems.Count > 0)
            {
                return Recorded.Refused(problems);
            }

            var name = shop!.Trim();
            db.ShopLinks.Add(new ShopLink { RouteCardId = h.Card.Id, Shop = name, Hash = LinkSecret.HashOf(secret), ExpiresAt = recorder.Now + Duration.FromDays(n!.Value), ById = personId, At = recorder.Now });
            Say(h, $"gave {name} a private link to R{number} for {n} days.");
            return Recorded.To($"/r/{number}/shop");
        }, ct);
        return (outcome, outcome.Ok && await db.ShopLinks.AnyAsync(l => l.Hash == LinkSecret.HashOf(secret), ct) ? secret : null);
    }

    /// <summary>Takes a link back.</summary>
    public Task<Recorded> RevokeAsync(Guid key, Guid personId, int number, Guid? linkId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var link = await db.ShopLinks.SingleOrDefaultAsync(l => l.Id == linkId && l.RouteCardId == h.Card.Id, ct);
        if (link is null || link.RevokedAt is not null)
        {
            return Recorded.Refused("That link is taken back already.", "Link");
        }

        link.RevokedAt = recorder.Now;
        Say(h, $"took back the link of {link.Shop} to R{number}.");
        return Recorded.To($"/r/{number}/shop");
    }, ct);

    /// <summary>Asks a shop something.</summary>
    public Task<Recorded> AskShopAsync(Guid key, Guid personId, int number, string? shop, string? text, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        var problems = new List<Problem>();
        var name = TextRules.Need(problems, "AskShop", shop, "Which shop?", 80);
        var words = TextRules.Need(problems, "Ask", text, "What do you want to know?", 500);
        if (name.Length > 0 && !h.Stages.Any(s => s.Shop == name))
        {
            problems.Add(new Problem("AskShop", "No stage of this card is done there."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.ShopNotes.Add(new ShopNote { RouteCardId = h.Card.Id, Shop = name, Text = words, ById = personId, At = recorder.Now });
        Say(h, $"asked {name} about R{number}: {words.TrimEnd('.', '?')}?");
        return Recorded.To($"/r/{number}/shop");
    }, ct);

    /// <summary>What a shop reports by its link: pieces that are done there.</summary>
    public async Task<Recorded> ReportAsync(Guid key, ShopLink link, Guid stageId, int item, Hand hand, int pieces, int seen, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(link);
        return await recorder.RecordAsync(key, await ShopAsync(link.Shop, ct), async () =>
        {
            var number = await db.RouteCards.Where(c => c.Id == link.RouteCardId).Select(c => c.Number).SingleAsync(ct);
            var h = await LockAsync(number, ct);
            return ShopLinkRule.WhyNotReport(h.Stages.FirstOrDefault(s => s.Id == stageId), link.Shop) is { } no ? Recorded.Refused([no])
                : h.Card.Numbered ? Singly(h.Card.Number)
                : await CountAsync(h, stageId, item, hand, pieces, seen, MoveKind.Shop, link.Shop, ct) is { } refused ? refused
                : Recorded.To("/");
        }, ct);
    }

    /// <summary>What a shop says by its link: an answer, or a question of its own.</summary>
    public async Task<Recorded> ShopSaysAsync(Guid key, ShopLink link, Guid? answers, string? text, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(link);
        return await recorder.RecordAsync(key, await ShopAsync(link.Shop, ct), async () =>
        {
            var number = await db.RouteCards.Where(c => c.Id == link.RouteCardId).Select(c => c.Number).SingleAsync(ct);
            var h = await LockAsync(number, ct);
            var problems = new List<Problem>();
            var words = TextRules.Need(problems, "Text", text, "Write it down first.", 500);
            if (answers is { } id && !await db.ShopNotes.AnyAsync(n => n.Id == id && n.RouteCardId == h.Card.Id && n.Shop == link.Shop && !n.FromShop, ct))
            {
                problems.Add(new Problem("Text", "That question is not there any more."));
            }

            if (await db.ShopNotes.CountAsync(n => n.RouteCardId == h.Card.Id && n.Shop == link.Shop && n.FromShop, ct) >= 200)
            {
                problems.Add(new Problem("Text", "There are two hundred notes on this card already. Please ring."));
            }

            if (problems.Count > 0)
            {
                return Recorded.Refused(problems);
            }

            db.ShopNotes.Add(new ShopNote { RouteCardId = h.Card.Id, Shop = link.Shop, FromShop = true, AnswersId = answers, Text = words, ById = recorder.PersonId, At = recorder.Now });
            Say(h, $"said by a link about R{number}: {words.TrimEnd('.')}.");
            return Recorded.To("/");
        }, ct);
    }

    /// <summary>Puts the hours that the counts foresee into the open steps of the card's package in proportion to their estimates.</summary>
    public Task<Recorded> ForeseeAsync(Guid key, Guid personId, int number, DateTimeZone zone, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var h = await LockAsync(number, ct);
        if (Closed(h) is { } closed)
        {
            return closed;
        }

        var rest = (await CardQuery.TimesAsync(db, h.Card, h.Stages, await CountsAsync(db, [h.Card.Id], ct), zone, ct)).Rest;
        var open = await db.Operations.Where(o => o.PackageId == h.Package.Id && o.DoneAt == null && !o.Hold).OrderBy(o => o.Order).ToListAsync(ct);
        if (rest is null || open.Count == 0)
        {
            return Recorded.Refused(rest is null ? "Some stage has neither an estimate nor a count. Say what a piece takes." : "No step of the package is open.", "Foresee");
        }

        var likely = open.Sum(o => o.Likely);
        foreach (var o in open)
        {
            var share = likely > 0 ? o.Likely / likely : 1.0 / open.Count;
            (o.Low, o.Likely, o.High, o.Left, o.LeftAt) = (rest.Low * share, rest.Likely * share, rest.High * share, rest.Likely * share, recorder.Now);
        }

        Say(h, $"put {rest.Likely:0.#} h ({rest.Low:0.#} to {rest.High:0.#}) into package {h.Package.Number}, as the counts of R{number} foresee.");
        return Recorded.To($"/r/{number}");
    }, ct);

    /// <summary>Counts of cards, summed by stage, item and hand.</summary>
    public static async Task<IReadOnlyList<StageCount>> CountsAsync(OilTagDb db, IReadOnlyCollection<Guid> cardIds, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (from m in db.StageMoves join s in db.Stages on m.StageId equals s.Id where cardIds.Contains(s.RouteCardId) group m.Pieces by new { m.StageId, m.Item, m.Hand } into g select new { g.Key, Pieces = g.Sum() }).ToListAsync(ct);
        return [.. rows.Select(r => new StageCount(r.Key.StageId, r.Key.Item, r.Key.Hand, r.Pieces))];
    }

    /// <summary>Pieces of a card that were scrapped: each was taken off the first stage once.</summary>
    public static Task<int> ScrappedAsync(OilTagDb db, Guid firstStageId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return db.StageMoves.Where(m => m.StageId == firstStageId && m.Kind == MoveKind.Scrap).SumAsync(m => -m.Pieces, ct);
    }

    private async Task<Recorded?> CountAsync(Held h, Guid stageId, int item, Hand hand, int pieces, int seen, MoveKind kind, string why, CancellationToken ct, int piece = 0)
    {
        if (Closed(h) is { } closed)
        {
            return closed;
        }

        var index = h.Stages.ToList().FindIndex(s => s.Id == stageId);
        if (index < 0 || await LineAsync(h, item, hand, ct) is not { } l)
        {
            return Recorded.Refused("That stage is not on this card. Open the card again.", "Count");
        }

        if (l.Reached[index].Count != seen)
        {
            return new Recorded(null, [new Problem("Count", $"Somebody moved one meanwhile: {l.Reached[index].Count} are {l.Reached[index].Name.ToLowerInvariant()} now. Look, then press again.")], true);
        }

        var ids = h.Stages.Select(s => s.Id).ToList();
        var inspections = await db.FirstOffs.AsNoTracking().Where(f => ids.Contains(f.StageId)).ToListAsync(ct);
        if (StageCounts.WhyNotMove(l.Reached, l.Line.Wanted, index, pieces, held: StageCounts.Held(h.Card, inspections, l.Line)) is { } problem)
        {
            return Recorded.Refused([problem]);
        }

        if (pieces > 0 && index > 0 && h.Card.Critical && (await db.MaterialCuts.AsNoTracking().Where(c => c.RouteCardId == h.Card.Id).ToListAsync(ct)).Exists(c => MaterialRule.Waits(true, c)))
        {
            return Recorded.Refused("Hold: an inspector has not agreed to the other material yet.", "Count");
        }

        var stage = h.Stages[index];
        Add(stage, item, hand, pieces, kind, why, piece);
        var who = kind == MoveKind.Shop ? "reported by a link: " : "moved ";
        var what = piece > 0 ? $"piece {PieceRule.Mark(h.Card.Number, piece)}" : $"one{Kind(h, l.Line)} piece of R{h.Card.Number}";
        Say(h, pieces > 0 ? $"{who}{what} to {stage.Name.ToLowerInvariant()}." : $"{who}{what} back from {stage.Name.ToLowerInvariant()}.");
        return null;
    }

    // A shop stands on record under its own name, never under that of whoever gave it the link.
    private async Task<Guid> ShopAsync(string name, CancellationToken ct)
    {
        await db.Database.ExecuteSqlAsync(
            $"insert into people (id, name, skills, minor, never_alone, feed_key, is_shop) values ({Guid.CreateVersion7()}, {name}, '', false, false, '', true) on conflict (name) where is_shop do nothing", ct);
        return await db.People.Where(p => p.IsShop && p.Name == name).Select(p => p.Id).SingleAsync(ct);
    }

    private static Recorded Singly(int number) => Recorded.Refused($"The pieces of R{number} are followed singly: move them by their numbers.", "Count");

    private void Add(Stage stage, int item, Hand hand, int pieces, MoveKind kind, string why, int piece = 0) =>
        db.StageMoves.Add(new StageMove { StageId = stage.Id, Item = item, Hand = hand, Piece = piece, Pieces = pieces, Kind = kind, Why = why, ById = recorder.PersonId, At = recorder.Now });

    private async Task<Held> LockAsync(int number, CancellationToken ct)
    {
        await db.Database.ExecuteSqlAsync($"select 1 from route_cards where number = {number} for update", ct);
        var card = await db.RouteCards.Include(c => c.Stages).SingleAsync(c => c.Number == number, ct);
        return new Held(card, await db.Packages.AsNoTracking().SingleAsync(p => p.Id == card.PackageId, ct), [.. card.Stages.OrderBy(s => s.Order)]);
    }

    private async Task<(CardLine Line, IReadOnlyList<(string Name, int Count)> Reached)?> LineAsync(Held h, int item, Hand hand, CancellationToken ct) =>
        h.Card.Lines.FirstOrDefault(l => l.Item == item && l.Hand == hand) is { } line
            ? (line, StageCounts.Reached(h.Card, await CountsAsync(db, [h.Card.Id], ct), line))
            : null;

    private static Recorded? Closed(Held h) => h.Package.ClosedAt is null ? null : Recorded.Refused($"Package {h.Package.Number} is closed; its counts stand.", "Count");

    private static string Kind(Held h, CardLine line) => CardWords.Of(h.Card, line) is { Length: > 0 } words ? " " + words : string.Empty;

    private void Say(Held h, string sentence) => recorder.Say(sentence, h.Package.MachineId, h.Package.PlaceId, h.Package.TagId, h.Package.Id);
}
