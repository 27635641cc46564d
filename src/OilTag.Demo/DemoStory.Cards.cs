using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;

namespace OilTag.Demo;

/// <summary>Route cards: what they are made by, how far each stage is, and what was inspected.</summary>
public sealed partial class DemoStory
{
    private sealed record CardRow(
        string Key, string Package, string Part, string Material, int Day, string By, IReadOnlyList<EvidenceRow> Evidence,
        IReadOnlyList<CardStageRow> Stages, int Left = 0, int Right = 0, bool Handed = false, bool Critical = false,
        IReadOnlyList<double>? Size = null, IReadOnlyList<ItemRow>? Items = null, IReadOnlyList<ConflictRow>? Conflicts = null,
        IReadOnlyList<DimensionRow>? Dimensions = null, IReadOnlyList<ToolRow>? Tools = null,
        IReadOnlyList<LotRow>? Lots = null, ProcessRow? Process = null);

    private sealed record EvidenceRow(EvidenceKind Kind, string Title, string Note);

    private sealed record ConflictRow(string What, string Decided);

    private sealed record DimensionRow(string Name, int Stage, string Low, string High);

    private sealed record ToolRow(string Name, int Have, int Life = 0, int Spare = 0);

    private sealed record ItemRow(string Name, int Left, int Right);

    private sealed record LotRow(string Specification, string Form, string Heat, string Certificate, string Supplier, string By, int Day);

    private sealed record ProcessRow(ProcessKind Kind, string By, int Day, Dictionary<string, string> Fields);

    private sealed record CardStageRow(
        string Name, string Minutes, double SetUp = 0, string Skill = "", string Machine = "", string Shop = "", bool FirstOff = false,
        int Done = 0, int DoneRight = 0, int Scrap = 0, string Why = "", IReadOnlyList<Hand>? Passed = null, string Note = "",
        string Inspector = "");

    private void Cards()
    {
        foreach (var (row, i) in StoryJson.Read<IReadOnlyList<CardRow>>("cards.json").OrderBy(c => c.Day).Select((c, i) => (c, i)))
        {
            Card(row, i + 1);
        }
    }

    private void Card(CardRow row, int number)
    {
        var (package, who, at) = (Find<Core.Work.WorkPackage>(row.Package), P(row.By), AtTheEnd(row.Day, 18));
        void Tell(Instant when, Core.People.Person person, string sentence) => Say(when, person, sentence, package.MachineId,
            package.PlaceId, package.TagId, package.Id);
        var evidence = row.Evidence.Select(e => new CardEvidence(record.NewId(), e.Kind, e.Title, e.Note, who.Id, at)).ToList();
        List<CardItem> items = [.. (row.Items ?? []).Select(i => new CardItem(i.Name, i.Left, i.Right))];
        var card = Keyed("card " + row.Key, record.Add(new RouteCard
        {
            Number = number,
            PackageId = package.Id,
            Part = row.Part,
            Material = row.Material,
            Left = items.Count > 0 ? items.Sum(i => i.Left) : row.Left,
            Right = items.Count > 0 ? items.Sum(i => i.Right) : row.Right,
            Handed = row.Handed,
            Items = items,
            Critical = row.Critical,
            Size = row.Size is [var length, var breadth, var height, var weight]
                ? new PartSize(length, breadth, height, weight)
                : PartSize.None,
            Evidence = evidence,
            Conflicts = [.. (row.Conflicts ?? []).Select(c => new CardConflict(record.NewId(), evidence[0].Id, evidence[1].Id, c.What,
                c.Decided, who.Id, c.Decided.Length > 0 ? who.Id : null, at))],
            Dimensions = [.. (row.Dimensions ?? []).Select(d => new CardDimension(record.NewId(), d.Name, d.Stage, Length(d.Low, row.Key)!,
                Length(d.High, row.Key)!))],
            Tools = [.. (row.Tools ?? []).Select(t => new CardTool(t.Name, t.Have, t.Life, t.Spare, 0))],
            Stages = [.. row.Stages.Select((s, i) => Stage(s, i + 1, row.Key))],
        }));
        Tell(at, who, MakeLog.Opened(card));
        foreach (var e in evidence)
        {
            Tell(at, who, MakeLog.Evidence(number, e.Kind, e.Title));
        }

        foreach (var c in card.Conflicts)
        {
            Tell(at, who, MakeLog.Differs(number, c.What, c.Decided));
        }

        foreach (var lot in row.Lots ?? [])
        {
            var taken = record.Add(new MaterialLot
            {
                MachineId = package.MachineId,
                Specification = lot.Specification,
                Form = lot.Form,
                Heat = lot.Heat,
                Certificate = lot.Certificate,
                Supplier = lot.Supplier,
                ById = P(lot.By).Id,
                At = AtTheEnd(lot.Day, 22),
            });
            Tell(taken.At, P(lot.By), MakeLog.TookIn(taken));
        }

        if (row.Process is { } process)
        {
            record.Add(new ProcessRecord
            {
                RouteCardId = card.Id,
                Kind = process.Kind,
                On = calendar.Date(process.Day),
                Fields = [.. process.Fields.Select(f => new ProcessField(f.Key, f.Value))],
                ById = P(process.By).Id,
                At = AtTheEnd(process.Day, 20),
            });
            Tell(AtTheEnd(process.Day, 20), P(process.By), MakeLog.Process(process.Kind, number));
        }

        Counts(row, card, who);
    }

    private Stage Stage(CardStageRow s, int order, string key)
    {
        var (low, likely, high) = Three(s.Minutes, key);
        return record.Named(new Stage
        {
            Order = order,
            Name = s.Name,
            Shop = s.Shop,
            Skill = s.Skill,
            Machine = s.Machine,
            SetUpMinutes = s.SetUp,
            PieceLow = low,
            PieceLikely = likely,
            PieceHigh = high,
            FirstOff = s.FirstOff,
        });
    }

    // How far each kind of piece is; the counts were made on the sessions after the card was opened.
    private void Counts(CardRow row, RouteCard card, Core.People.Person who)
    {
        foreach (var (stage, i) in row.Stages.Select((s, i) => (s, i)))
        {
            var day = Math.Min(-3, row.Day + (7 * (i + 1)));
            var at = AtTheEnd(day, 24);
            foreach (var (line, l) in card.Lines.Select((x, n) => (x, n)))
            {
                var lines = card.Lines.Where(x => x.Hand == line.Hand).ToList();
                var share = line.Hand == Hand.Right ? stage.DoneRight : stage.Done;
                var pieces = Math.Min(line.Wanted, Math.Max(0, share - lines.TakeWhile(x => x != line).Sum(x => x.Wanted)));
                if (pieces > 0)
                {
                    record.Add(new StageMove
                    {
                        StageId = card.Stages[i].Id,
                        Item = line.Item,
                        Hand = line.Hand,
                        Pieces = pieces,
                        ById = who.Id,
                        At = at,
                    });
                }

                if (stage.Scrap > 0 && l == 0)
                {
                    record.Add(new StageMove
                    {
                        StageId = card.Stages[i].Id,
                        Item = line.Item,
                        Hand = line.Hand,
                        Pieces = -stage.Scrap,
                        Kind = MoveKind.Scrap,
                        Why = stage.Why,
                        ById = who.Id,
                        At = at.Plus(Duration.FromMinutes(1)),
                    });
                }

                if (stage.Passed?.Contains(line.Hand) == true && pieces > 0)
                {
                    record.Add(new FirstOff
                    {
                        StageId = card.Stages[i].Id,
                        Item = line.Item,
                        Hand = line.Hand,
                        Passed = true,
                        Note = stage.Note,
                        ById = P(stage.Inspector).Id,
                        At = at.Plus(Duration.FromMinutes(2)),
                    });
                }
            }
        }
    }
}
