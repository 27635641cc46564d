using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.Strip;
using OilTag.Core.Work;
using OilTag.Data;

namespace OilTag.Web.Tests;

/// <summary>
/// Route cards that tests work at, beside those of the demo: a handed pair with evidence that differs, whose first piece waits for an inspector, a set of
/// different parts, a pair that is finished but for fitting, and a part of no hand.
/// </summary>
public static class TestCards
{
    private static readonly string[] Stages = ["Blank", "Formed", "Drilled", "Finished", "Fitted"];

    /// <summary>Puts them into the demo's record, each with a package of its own at the bow of the flying boat.</summary>
    public static Task AddAsync(Shed shed) => shed.AskAsync(async db =>
    {
        var una = db.People.Single(p => p.Name == "Una Thorsby").Id;
        var bow = db.Places.Single(p => p.Name == "Bow skins");
        var plates = db.Places.Where(p => p.ParentId == bow.Id && p.Name == "Bow plate" && p.Position == 1).ToList();
        var tags = plates.ToDictionary(p => p.Hand, p => Off(db, p));

        var pair = Card(db, una, bow, "Bow plate", 1, 1, tags[Hand.Left].Id);
        pair.Material = "6082-T6 sheet 1.2 mm";
        pair.Critical = true;
        (double Low, double Likely, double High)[] minutes = [(15, 25, 45), (60, 90, 180), (20, 30, 50), (15, 20, 40)];
        foreach (var (s, m) in pair.Stages.Zip(minutes))
        {
            (s.PieceLow, s.PieceLikely, s.PieceHigh, s.SetUpMinutes) = (m.Low, m.Likely, m.High, s.Order == 2 ? 60 : 15);
        }

        (pair.Stages[1].Skill, pair.Stages[1].FirstOff, pair.Stages[3].Shop) = ("plates", true, "Crag End Platers");
        var part = new CardEvidence(Guid.CreateVersion7(), EvidenceKind.OriginalPart, "left plate, corroded along the chine", "Rack C2. The outline can still be measured.", una, HandClock.Start);
        var sheet = new CardEvidence(Guid.CreateVersion7(), EvidenceKind.Drawing, "hull sheet 14, revision C", string.Empty, una, HandClock.Start);
        pair.Evidence = [part, sheet, new CardEvidence(Guid.CreateVersion7(), EvidenceKind.Photographs, "bow in the slip, undated", string.Empty, una, HandClock.Start)];
        pair.Conflicts = [new CardConflict(Guid.CreateVersion7(), part.Id, sheet.Id, "Flange is 19 mm on the part, 16 mm on the sheet.", string.Empty, una, null, HandClock.Start)];
        pair.Dimensions = [new CardDimension(Guid.CreateVersion7(), "Flange height", 2, Length("18.5 mm"), Length("19.5 mm"))];
        pair.Tools = [new CardTool("Hammer form, left", 1, 0, 0, 0), new CardTool("Hammer form, right", 0, 0, 0, 0)];
        Count(db, una, pair, Hand.Left, 2);
        Count(db, una, pair, Hand.Right, 1);

        var set = Card(db, una, bow, "Inspection cover", 5, 5, null);
        set.Items = [new CardItem("Bow", 1, 1), new CardItem("Midships", 2, 2), new CardItem("Stern", 2, 2)];

        var done = Card(db, una, bow, "Track pad", 1, 1, null);
        Count(db, una, done, Hand.Left, 4);
        Count(db, una, done, Hand.Right, 4);

        var single = Card(db, una, bow, "Fusible plug", 1, 0, null);
        single.Handed = false;
        Count(db, una, single, Hand.Left, 3);
        await db.SaveChangesAsync();
        return true;
    });

    private static Measure Length(string text) => MeasureReader.Read(text, Quantity.Length).Value!;

    private static Tag Off(OilTagDb db, Place slot)
    {
        if (db.Tags.FirstOrDefault(t => t.SlotId == slot.Id && t.End == null) is { } open)
        {
            return open;
        }

        var part = db.Parts.Add(new Part { MachineId = slot.MachineId, Name = slot.Name, Hand = slot.Hand }).Entity;
        var who = db.People.Single(p => p.Name == "Dilys Marrack").Id;
        var tag = db.Tags.Add(new Tag { MachineId = slot.MachineId, SlotId = slot.Id, PartId = part.Id, OpenedAt = HandClock.Start - NodaTime.Duration.FromDays(30) }).Entity;
        db.Fittings.Add(new Fitting { PartId = part.Id, SlotId = slot.Id, Kind = FittingKind.AsFound, Until = tag.OpenedAt });
        db.StripEntries.Add(new StripEntry { TagId = tag.Id, Order = 900, Reason = "Corroded", ById = who, At = tag.OpenedAt });
        db.Custodies.Add(new Custody { TagId = tag.Id, Kind = CustodyKind.Shelf, Where = "rack C2", From = tag.OpenedAt, ById = who });
        return tag;
    }

    private static RouteCard Card(OilTagDb db, Guid by, Place place, string part, int left, int right, Guid? tag)
    {
        var package = db.Packages.Add(new WorkPackage { MachineId = place.MachineId, PlaceId = place.Id, Title = $"Make {part}, {left} left and {right} right", TagId = tag, OpenedAt = HandClock.Start - NodaTime.Duration.FromDays(20) }).Entity;
        package.Operations.AddRange(StartingSteps.Times(StepText.Read(StartingSteps.Named("Sheet formed")!.Lines, StepWords.None).Steps, left + right).Select((s, i) => StepChange.Make(s, i + 1)));
        (package.Operations[0].DoneAt, package.Operations[0].DoneById) = (HandClock.Start - NodaTime.Duration.FromDays(10), by);
        return db.RouteCards.Add(new RouteCard { PackageId = package.Id, Part = part, Material = "as the old part", Left = left, Right = right, Handed = true, Stages = [.. Stages.Select((n, i) => new Stage { Order = i + 1, Name = n })] }).Entity;
    }

    private static void Count(OilTagDb db, Guid by, RouteCard card, Hand hand, int stages)
    {
        foreach (var stage in card.Stages.Take(stages))
        {
            db.StageMoves.Add(new StageMove { StageId = stage.Id, Hand = hand, Pieces = 1, ById = by, At = HandClock.Start - NodaTime.Duration.FromDays(5) });
        }
    }
}
