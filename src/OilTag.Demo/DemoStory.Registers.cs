using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Measures;
using OilTag.Core.Strip;
using OilTag.Core.Survey;

namespace OilTag.Demo;

/// <summary>What closes over what, systems, temporary things, runs, sets, the tray, boxes, a trial, and what goes round them.</summary>
public sealed partial class DemoStory
{
    private sealed class CoverRow
    {
        public required string Machine { get; init; }

        public required string First { get; init; }

        public required string Then { get; init; }

        public required int Way { get; init; }
    }

    private sealed class TemporaryRow
    {
        public required string Machine { get; init; }

        public required string At { get; init; }

        public required TemporaryKind Kind { get; init; }

        public required string What { get; init; }

        public required int Day { get; init; }

        public required string Who { get; init; }
    }

    private sealed class SystemRow
    {
        public required string Machine { get; init; }

        public required string Name { get; init; }

        public required SystemState State { get; init; }

        public required string Amount { get; init; }

        public required string Forbids { get; init; }

        public required int Day { get; init; }

        public required string Who { get; init; }
    }

    private sealed class MotionRow
    {
        public required string Machine { get; init; }

        public required MotionKind Kind { get; init; }

        public required string Works { get; init; }

        public required string Note { get; init; }

        public required string At { get; init; }

        public required int Day { get; init; }
    }

    private sealed class SurfaceRow
    {
        public required string Machine { get; init; }

        public required string At { get; init; }

        public required int Day { get; init; }

        public required string Who { get; init; }
    }

    private sealed class RunOfRow
    {
        public required string Machine { get; init; }

        public required ConnectionKind Kind { get; init; }

        public required string Name { get; init; }

        public required string Ends { get; init; }

        public required RunState State { get; init; }

        public int? Minutes { get; init; }

        public required string Who { get; init; }

        public required int Day { get; init; }

        public required string Across { get; init; }

        public required string Length { get; init; }

        public int? Count { get; init; }

        public required string Of { get; init; }

        public required string First { get; init; }

        public required string Second { get; init; }

        public int? Made { get; init; }

        public int? Proved { get; init; }

        public required string Load { get; init; }
    }

    private sealed class ConnectionRow
    {
        public required string Part { get; init; }

        public required ConnectionKind Kind { get; init; }

        public required string What { get; init; }
    }

    private sealed class SetRow
    {
        public required string Machine { get; init; }

        public required string Name { get; init; }

        public required string How { get; init; }

        public required string Who { get; init; }

        public required int Day { get; init; }

        public required string Members { get; init; }
    }

    private sealed class TrayRow
    {
        public required string Machine { get; init; }

        public required string Name { get; init; }

        public required Hand Hand { get; init; }

        public required string Marks { get; init; }

        public required string Where { get; init; }

        public required int Day { get; init; }
    }

    private sealed class DrawingRow
    {
        public required string Machine { get; init; }

        public required string Number { get; init; }

        public required string Sheet { get; init; }

        public required string Title { get; init; }

        public required string Revision { get; init; }

        public required DrawingState State { get; init; }

        public required string Where { get; init; }

        public required string Conflict { get; init; }

        public required string Decision { get; init; }
    }

    private sealed class PaperRow
    {
        public required string At { get; init; }

        public required string Papers { get; init; }
    }

    private sealed record ConditionRow(
        IReadOnlyList<QuestionRow> Questions, IReadOnlyList<PathRow> Paths, IReadOnlyList<LookRow> Looks, IReadOnlyList<ActRow> Acts,
        IReadOnlyList<TrialRow> Trials, IReadOnlyList<LentRow> Lent, IReadOnlyList<KnownRow> Known,
        IReadOnlyList<BoltRow> Bolts, IReadOnlyList<BoxRow> Boxes);

    private sealed record QuestionRow(int Number, string Finding, string Text, string Of, string By, int Day);

    private sealed record PathRow(string Machine, string Name, string Accident, string By, int Day, string[] Places);

    private sealed record LookRow(string At, string Finding, string Why, LookSource Source, string By, int Day);

    private sealed record ActRow(string At, ActKind Kind, string By, int Day, Dictionary<int, string> Known);

    private sealed record TrialRow(string At, int Number, string By, int Day, IReadOnlyList<TrialCheckRow> Checks, string[] Parts);

    private sealed record TrialCheckRow(string What, string Read, bool? Good);

    private sealed record LentRow(string Part, string From, int Day);

    private sealed record KnownRow(string Part, string Number, string Serial);

    private sealed record BoltRow(string Part, string Holes);

    private sealed record BoxRow(string Name, string Stands, int Day, string[] Parts);

    private sealed record FixtureRow(string At, string Title, string[] Holds, string By, int Day, string Reader, string[] Points,
        IReadOnlyList<RoundRow> Rounds);

    private sealed record RoundRow(int Day, string[] Values);

    // Parts and places that are put right by a scene name their tag.
    private TaggedPart Tagged(string key) => tagOf.GetValueOrDefault(At(key[..1], key[2..]).Id) ?? throw Wrong(key, "it has no tag.");

    private Part PartOf(string key)
    {
        var id = Tagged(key).Tag.PartId;
        return record.Of<Part>().Single(p => p.Id == id);
    }

    private void Registers()
    {
        var told = StoryJson.Read<ConditionRow>("condition.json");
        Covers();
        States();
        Runs();
        Scenes(told);
        Boxes(told.Boxes);
        Fixtures();
    }

    private void Covers()
    {
        var known = new HashSet<(Guid, Guid)>();
        foreach (var row in StoryTable.Read<CoverRow>("covers.csv"))
        {
            var firsts = StoryTable.Several(row.First).SelectMany(f => Matching($"{row.Machine}:{f}")).ToList();
            foreach (var then in Matching($"{row.Machine}:{row.Then}"))
            {
                // A part on one side closes over its own side only, and one with a number over its own number where both have as many.
                foreach (var first in firsts.Where(f => f.Id != then.Id && (f.Hand == then.Hand || f.Hand == Hand.None || then.Hand == Hand.None)))
                {
                    if (known.Add((first.Id, then.Id)) && !known.Contains((then.Id, first.Id)))
                    {
                        record.Add(new Precedence { FirstSlotId = first.Id, ThenId = then.Id, Way = row.Way, ById = P("Una Thorsby").Id });
                    }
                }
            }
        }
    }

    private void States()
    {
        foreach (var r in StoryTable.Read<TemporaryRow>("temporary.csv"))
        {
            var place = At(r.Machine, r.At);
            var item = record.Add(new TemporaryItem
            {
                MachineId = place.MachineId,
                PlaceId = place.Id,
                Kind = r.Kind,
                What = r.What,
                InAt = AtTheEnd(r.Day, 14),
                InById = P(r.Who).Id,
            });
            Say(item.InAt, P(r.Who), StripLog.PutIn(r.Kind, r.What, place.FullName), place.MachineId, place.Id);
        }

        foreach (var r in StoryTable.Read<SystemRow>("systems.csv"))
        {
            var machine = machines[r.Machine];
            var forbids = StoryTable.Several(r.Forbids).Aggregate(Acts.None, (all, a) => all | Enum.Parse<Acts>(a));
            record.Add(new MachineSystem
            {
                MachineId = machine.Id,
                Name = r.Name,
                State = r.State,
                Amount = r.Amount,
                Forbids = forbids,
                At = AtTheEnd(r.Day, 15),
                ById = P(r.Who).Id,
            });
            Say(AtTheEnd(r.Day, 15), P(r.Who), StripLog.System(r.Name, r.State, r.Amount), machine.Id);
        }

        foreach (var r in StoryTable.Read<MotionRow>("motions.csv"))
        {
            var place = At(r.Machine, r.At);
            record.Add(new Motion
            {
                MachineId = place.MachineId,
                Kind = r.Kind,
                Works = r.Works.Length > 0,
                Note = r.Note,
                PlaceId = place.Id,
                At = AtTheEnd(r.Day, 16),
                ById = P("Una Thorsby").Id,
            });
            Say(AtTheEnd(r.Day, 16), P("Una Thorsby"), StripLog.Motion(machines[r.Machine].Name, r.Kind, r.Works.Length > 0, r.Note),
                place.MachineId, place.Id);
        }

        foreach (var r in StoryTable.Read<SurfaceRow>("surfaces.csv"))
        {
            var place = At(r.Machine, r.At);
            record.Add(new Surface
            {
                MachineId = place.MachineId,
                PlaceId = place.Id,
                State = SurfaceState.Bare,
                At = AtTheEnd(r.Day, 17),
                ById = P(r.Who).Id,
            });
            Say(AtTheEnd(r.Day, 17), P(r.Who), StripLog.Surface(place.FullName, SurfaceState.Bare, string.Empty), place.MachineId,
                place.Id);
        }

        foreach (var r in StoryTable.Read<PaperRow>("papers.csv"))
        {
            At(r.At[..1], r.At[2..]).Papers = Enum.Parse<PaperKinds>(r.Papers);
        }
    }

    private void Runs()
    {
        foreach (var r in StoryTable.Read<RunOfRow>("runs.csv"))
        {
            var across = StoryTable.Several(r.Across).Select(a => At(r.Machine, a)).ToList();
            var at = AtTheEnd(r.Day, 19);
            record.Add(new Run
            {
                MachineId = machines[r.Machine].Id,
                Kind = r.Kind,
                Name = r.Name,
                Ends = r.Ends,
                State = r.State,
                UndoMinutes = r.Minutes,
                Places = [.. across.Select(p => p.Id)],
                Schedule = r.Length.Length == 0 ? RunSchedule.None : new RunSchedule(
                    Length(r.Length, r.Name), r.Count ?? 0, r.Of, r.First, r.Second, r.Made ?? 1,
                    r.Proved is { } made ? calendar.Date(made) : null, r.Load, r.Proved is { } proved ? calendar.Date(proved + 4) : null,
                    r.Proved is null ? null : P("Perran Hext").Id),
                At = at,
                ById = P(r.Who).Id,
            });
            Say(at, P(r.Who), StripLog.Run(r.Kind, r.Name, r.State, across.Count), machines[r.Machine].Id, across[0].Id);
        }

        foreach (var r in StoryTable.Read<ConnectionRow>("connections.csv"))
        {
            var part = Tagged(r.Part);
            record.Add(new Connection { TagId = part.Tag.Id, SlotId = part.Slot.Id, Kind = r.Kind, What = r.What });
        }

        foreach (var r in StoryTable.Read<SetRow>("sets.csv"))
        {
            var members = StoryTable.Several(r.Members).SelectMany(m => Matching($"{r.Machine}:{m}")).ToList();
            record.Add(new MatchedSet
            {
                MachineId = machines[r.Machine].Id,
                Name = r.Name,
                How = r.How,
                Slots = [.. members.Select(p => p.Id)],
                At = AtTheEnd(r.Day, 21),
                ById = P(r.Who).Id,
            });
            Say(AtTheEnd(r.Day, 21), P(r.Who), StripLog.Set(members.Select(p => p.FullName), r.Name), machines[r.Machine].Id);
        }

        var number = tagOf.Values.Max(t => t.Tag.Number);
        foreach (var r in StoryTable.Read<TrayRow>("tray.csv"))
        {
            var machine = machines.GetValueOrDefault(r.Machine)?.Id;
            var item = record.Add(new TrayItem
            {
                Number = ++number,
                MachineId = machine,
                Name = r.Name,
                Hand = r.Hand,
                Marks = r.Marks,
                Where = r.Where,
                At = AtTheEnd(r.Day, 22),
                ById = P("Merryn Stoke").Id,
            });
            Say(item.At, P("Merryn Stoke"), StripLog.IntoTray(r.Name, number), machine);
        }

        foreach (var r in StoryTable.Read<DrawingRow>("drawings.csv"))
        {
            record.Add(new DrawingEntry
            {
                MachineId = machines[r.Machine].Id,
                Number = r.Number,
                Sheet = r.Sheet,
                Title = r.Title,
                Revision = r.Revision,
                State = r.State,
                Where = r.Where,
                Conflict = r.Conflict,
                Decision = r.Decision,
                ById = P("Dilys Marrack").Id,
                At = AtTheEnd(-14, 20),
            });
            Say(AtTheEnd(-14, 20), P("Dilys Marrack"), MakeLog.Drawing(r.Number, r.Sheet, null, r.State), machines[r.Machine].Id);
        }
    }

    private void Scenes(ConditionRow told)
    {
        foreach (var q in told.Questions)
        {
            var finding = Find<Finding>(q.Finding);
            record.Add(new Question
            {
                Number = q.Number,
                MachineId = finding.MachineId,
                PlaceId = finding.PlaceId,
                FindingId = finding.Id,
                Text = q.Text,
                AskedOf = q.Of,
                ById = P(q.By).Id,
                At = AtTheEnd(q.Day, 10),
            });
            Say(AtTheEnd(q.Day, 10), P(q.By), SurveyLog.Asked(q.Of, q.Number, q.Text), finding.MachineId, finding.PlaceId, finding.TagId);
        }

        foreach (var p in told.Paths)
        {
            record.Add(new LoadPath
            {
                MachineId = machines[p.Machine].Id,
                Name = p.Name,
                Accident = p.Accident,
                Places = [.. p.Places.Select(x => At(p.Machine, x).Id)],
            });
            Say(AtTheEnd(p.Day, 11), P(p.By), SurveyLog.LoadPath(p.Name, p.Accident), machines[p.Machine].Id);
        }

        foreach (var l in told.Looks)
        {
            var (place, finding) = (At(l.At[..1], l.At[2..]), Find<Finding>(l.Finding));
            record.Add(new Look
            {
                MachineId = place.MachineId,
                PlaceId = place.Id,
                Why = $"{l.Why}, as F{finding.Number}",
                Source = l.Source,
                FindingId = finding.Id,
                ById = P(l.By).Id,
                At = AtTheEnd(l.Day, 12),
            });
            Say(AtTheEnd(l.Day, 12), P(l.By), SurveyLog.WantsLook([place.FullName], finding.Number), place.MachineId, place.Id);
        }

        foreach (var a in told.Acts)
        {
            var place = At(a.At[..1], a.At[2..]);
            var items = LastChanceRule.For(a.Kind)
                .Select((w, i) => new LastChance(w, a.Known.GetValueOrDefault(i, string.Empty), false))
                .ToList();
            record.Add(new IrreversibleAct
            {
                MachineId = place.MachineId,
                PlaceId = place.Id,
                Kind = a.Kind,
                At = AtTheEnd(a.Day, 8),
                ById = P(a.By).Id,
                Items = items,
            });
            Say(AtTheEnd(a.Day, 8), P(a.By), StripLog.Means(a.Kind, place.FullName, items.Count), place.MachineId, place.Id);
        }

        foreach (var t in told.Trials)
        {
            Trial(t);
        }

        foreach (var l in told.Lent)
        {
            var part = PartOf(l.Part);
            (part.Provenance, part.FromWhom, part.ReturnBy) = (Provenance.Lent, l.From, calendar.Date(l.Day));
        }

        foreach (var k in told.Known)
        {
            var part = PartOf(k.Part);
            (part.MakersNumber, part.Serial) = (k.Number, k.Serial);
        }

        foreach (var b in told.Bolts)
        {
            var id = Tagged(b.Part).Tag.Id;
            record.Of<StripEntry>().Single(e => e.TagId == id).Bolts = BoltMap.Read(b.Holes).Holes;
        }
    }

    private void Trial(TrialRow t)
    {
        var (place, lead) = (At(t.At[..1], t.At[2..]), P(t.By));
        var at = IsSaturday(t.Day) ? calendar.At(t.Day, 14) : calendar.At(t.Day, 19);
        var trial = record.Add(new TrialAssembly
        {
            MachineId = place.MachineId,
            Number = t.Number,
            PlaceId = place.Id,
            StartedAt = at,
            ById = lead.Id,
            Checks = [.. t.Checks.Select(c => new TrialCheck(c.What, c.Read, c.Good))],
        });
        Say(at, lead, StripLog.BeganTrial(t.Number, place.FullName, t.Checks.Count), place.MachineId, place.Id);
        foreach (var key in t.Parts)
        {
            var part = Tagged($"{t.At[..1]}:{key}");
            record.Add(new Fitting
            {
                PartId = part.Tag.PartId,
                SlotId = part.Slot.Id,
                Kind = FittingKind.Trial,
                From = at,
                FittedById = lead.Id,
                TrialId = trial.Id,
            });
            Say(at.Plus(Duration.FromMinutes(20)), lead, StripLog.PutOn(part.Slot.FullName, FittingKind.Trial, string.Empty, false),
                place.MachineId, part.Slot.Id, part.Tag.Id);
        }

        foreach (var c in t.Checks.Where(c => c.Good is not null))
        {
            Say(at.Plus(Duration.FromMinutes(50)), lead, StripLog.Checked(t.Number, c.What, c.Good!.Value, c.Read), place.MachineId,
                place.Id);
        }
    }

    // Every shelf, bench and shop that something lies at has a number, and two boxes stand on their shelves.
    private void Boxes(IReadOnlyList<BoxRow> boxes)
    {
        var stores = new Dictionary<string, StorePlace>(StringComparer.OrdinalIgnoreCase);
        foreach (var (box, part) in boxes.SelectMany(b => b.Parts.Select(p => (b, p))))
        {
            var tagged = Tagged(part);
            var at = AtTheEnd(box.Day, 24);
            if (tagged.Tag.ClosedAt is null)
            {
                Put(tagged, CustodyKind.Shelf, box.Name, at, P("Merryn Stoke"));
                Say(at, P("Merryn Stoke"), CustodyRule.Sentence(CustodyKind.Shelf, box.Name, null), tagged.Machine.Id, tagged.Slot.Id,
                    tagged.Tag.Id);
            }
        }

        foreach (var name in record.Of<Custody>().Where(c => c.Kind != CustodyKind.NotFound)
            .GroupBy(c => c.Where, StringComparer.OrdinalIgnoreCase)
            .OrderBy(g => g.Key, StringComparer.Ordinal))
        {
            var box = boxes.FirstOrDefault(b => b.Name == name.Key);
            var kind = box is not null ? StoreKind.Box : name.OrderByDescending(c => c.From).First().Kind switch
            {
                CustodyKind.Bench => StoreKind.Bench,
                CustodyKind.Away => StoreKind.Away,
                CustodyKind.Lent => StoreKind.Borrower,
                _ => StoreKind.Shelf,
            };
            stores[name.Key] = record.Add(new StorePlace { Number = stores.Count + 1, Name = name.Key, Kind = kind });
        }

        foreach (var box in boxes)
        {
            stores[box.Name].StandsAtId = stores[box.Stands].Id;
        }
    }

    private void Fixtures()
    {
        foreach (var row in StoryJson.Read<IReadOnlyList<FixtureRow>>("fixtures.json"))
        {
            List<Core.Problem> problems = [];
            var (place, who) = (At(row.At[..1], row.At[2..]), P(row.By));
            var held = row.Holds.Select(Find<Core.Work.WorkPackage>).ToList();
            var fixture = record.Add(new Fixture
            {
                MachineId = place.MachineId,
                PlaceId = place.Id,
                Title = row.Title,
                Points = FixtureRule.Points(string.Join('\n', row.Points), problems),
                Holds = [.. held.Select(k => k.Id)],
                SetAt = AtTheEnd(row.Day, 12),
                ById = who.Id,
            });
            if (problems.Count > 0)
            {
                throw Wrong(row.Title, problems[0].Sentence);
            }

            Say(AtTheEnd(row.Day, 11), who, MakeLog.Fixture(row.Title, fixture.Points.Count, [.. held.Select(k => k.Number)]),
                place.MachineId, place.Id);
            Say(AtTheEnd(row.Day, 12), who, MakeLog.FixtureStands(row.Title, true), place.MachineId, place.Id);
            foreach (var round in row.Rounds)
            {
                foreach (var (value, i) in round.Values.Select((v, i) => (v, i)))
                {
                    record.Add(new FixtureReading
                    {
                        FixtureId = fixture.Id,
                        Point = i,
                        Value = Length(value, row.Title)!.Si,
                        Text = value,
                        ById = P(row.Reader).Id,
                        At = AtTheEnd(round.Day, 13),
                    });
                }

                Say(AtTheEnd(round.Day, 13), P(row.Reader), MakeLog.FixtureRead(row.Title, round.Values.Length), place.MachineId, place.Id);
            }
        }
    }
}
