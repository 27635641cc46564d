using System.Globalization;
using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Service;
using OilTag.Core.Torque;
using OilTag.Core.Work;

namespace OilTag.Demo;

/// <summary>Tools that measure, bolts to a torque, what is locked, what was tried, service lists and what machines did.</summary>
public sealed partial class DemoStory
{
    private sealed class MeasuringRow
    {
        public required string Name { get; init; }

        public required Quantity Quantity { get; init; }

        public required string Low { get; init; }

        public required string High { get; init; }

        public required int Weeks { get; init; }

        public required string Paper { get; init; }
    }

    private sealed class BoltsRow
    {
        public required string Step { get; init; }

        public required string Name { get; init; }

        public required string Noun { get; init; }

        public required BoltShape Shape { get; init; }

        public required string Count { get; init; }

        public required string Across { get; init; }

        public required string Mark { get; init; }

        public required string Full { get; init; }

        public required string Within { get; init; }

        public required string Passes { get; init; }

        public required string Threads { get; init; }

        public required string Source { get; init; }

        public required string Tool { get; init; }

        public UseKind? Again { get; init; }

        public required string Hours { get; init; }

        public LockWay? Locked { get; init; }

        public required string Who { get; init; }

        public required int Day { get; init; }

        public required int Pulls { get; init; }
    }

    private sealed class LockRow
    {
        public required string Package { get; init; }

        public required string What { get; init; }

        public required LockWay Way { get; init; }

        public required int Count { get; init; }

        public required int Locked { get; init; }

        public required string Who { get; init; }

        public int? Day { get; init; }
    }

    private sealed class TriedRow
    {
        public required string Package { get; init; }

        public required string What { get; init; }

        public required Trouble Trouble { get; init; }

        public required AttemptWay Way { get; init; }

        public required string Medium { get; init; }

        public required double Hours { get; init; }

        public required AttemptEnd End { get; init; }

        public required string Note { get; init; }

        public required string Who { get; init; }

        public required int Day { get; init; }
    }

    private sealed class ServiceRow
    {
        public required string Machine { get; init; }

        public required string At { get; init; }

        public required string What { get; init; }

        public required string With { get; init; }

        public required string Amount { get; init; }

        public required string Days { get; init; }

        public required string Hours { get; init; }

        public required string Distance { get; init; }

        public required string Run { get; init; }

        public required string Move { get; init; }

        public required string First { get; init; }

        public required string Done { get; init; }
    }

    private sealed class UseRow
    {
        public required string Machine { get; init; }

        public required UseKind Kind { get; init; }

        public required int Day { get; init; }

        public double? Hours { get; init; }

        public required string Distance { get; init; }

        public required string Note { get; init; }

        public required string Who { get; init; }
    }

    private sealed class RecheckRow
    {
        public required string Machine { get; init; }

        public required string At { get; init; }

        public required string Package { get; init; }

        public required string What { get; init; }

        public int? Days { get; init; }

        public double? Hours { get; init; }

        public UseKind? Use { get; init; }

        public required string Who { get; init; }

        public required int Day { get; init; }
    }

    private void Care()
    {
        var keeper = P("Hesper Lowe");
        foreach (var name in new[] { "Ismay Pell", "Corin Vance" })
        {
            record.Add(new Authorisation
            {
                PersonId = P(name).Id,
                Skill = AuthorisationRule.LiftingHolds,
                Until = calendar.Date(7 * 44),
                GrantedById = keeper.Id,
                GrantedAt = calendar.At(-420, 19)
            });
        }

        Tools();
        Bolts();
        Locks();
        foreach (var row in StoryTable.Read<TriedRow>("tried.csv"))
        {
            var package = Find<WorkPackage>(row.Package);
            record.Add(new Attempt
            {
                MachineId = package.MachineId,
                PlaceId = package.PlaceId,
                PackageId = package.Id,
                What = row.What,
                Trouble = row.Trouble,
                Way = row.Way,
                Medium = row.Medium,
                Hours = row.Hours,
                End = row.End,
                Note = row.Note,
                ById = P(row.Who).Id,
                At = AtTheEnd(row.Day, 20)
            });
        }

        Service();

        // What the plate gauge wants lies beside it.
        var operation = Find<Operation>("G19/4");
        record.Add(new LaidOut
        {
            OperationId = operation.Id,
            What = operation.Kit[0].What,
            Here = operation.Kit[0].Count,
            ById = P("Tamsin Reeve").Id,
            At = AtTheEnd(-3, 90)
        });
    }

    private void Tools()
    {
        foreach (var row in StoryTable.Read<MeasuringRow>("tools.csv"))
        {
            var (tool, problems) = ToolRule.Read(new ToolEntry(row.Name, row.Quantity, row.Low, row.High, calendar.Date(7 * row.Weeks),
                row.Paper), calendar.Date(0));
            Keyed($"tool {row.Name}", tool ?? throw Wrong(row.Name, problems[0].Sentence));
            record.Add(tool);
        }
    }

    private void Bolts()
    {
        foreach (var row in StoryTable.Read<BoltsRow>("bolts.csv"))
        {
            var (group, problems) = TorqueRule.Read(new BoltGroupEntry(row.Name, row.Noun, row.Shape, row.Count, null, row.Across, row.Mark,
                null, row.Full, row.Within, row.Passes, row.Threads, row.Source, Find<MeasuringTool>($"tool {row.Tool}").Id, row.Again,
                row.Hours, row.Locked));
            if (group is null)
            {
                throw Wrong(row.Step, problems[0].Sentence);
            }

            var who = P(row.Who);
            var set = new BoltGroup
            {
                OperationId = Find<Operation>(row.Step).Id,
                Name = group.Name,
                Noun = group.Noun,
                Shape = group.Shape,
                Count = group.Count,
                Across = group.Across,
                Mark = group.Mark,
                Order = group.Order,
                Full = group.Full,
                Within = group.Within,
                Passes = group.Passes,
                Threads = group.Threads,
                Source = group.Source,
                ToolId = group.ToolId,
                Again = group.Again,
                AgainHours = group.AgainHours,
                LockedBy = group.LockedBy,
                ById = who.Id,
                At = AtTheEnd(row.Day, 80),
            };
            record.Add(set);
            for (var i = 0; i < row.Pulls; i++)
            {
                var (pass, number) = ((i / set.Count) + 1, (i % set.Count) + 1);
                var target = TorqueRule.Wanted(set, pass).Target;

                // One was pulled too far; it was slackened and pulled again.
                if (pass == 2 && number == 5)
                {
                    Pull(set, pass, number, target.Si + (1.4 * set.Within.Si), who,
                        AtTheEnd(row.Day, 60) + Duration.FromSeconds((i * 40) - 20), row.Tool, "slackened and pulled again");
                }

                var off = (((i * 7) % 11) - 5) / 6.0 * set.Within.Si;
                Pull(set, pass, number, target.Si + off, who, AtTheEnd(row.Day, 60) + Duration.FromSeconds(i * 40), row.Tool, string.Empty);
            }
        }
    }

    private void Pull(BoltGroup group, int pass, int number, double si, Person who, Instant at, string tool, string struck)
    {
        var rounded = Math.Round(group.Full.Unit.FromSi(si), 1);
        var text = $"{rounded.ToString("0.0", CultureInfo.InvariantCulture)} {group.Full.UnitSymbol}";
        var check = TorqueRule.Judge(group, pass, number, text);
        record.Add(new TorqueReading
        {
            GroupId = group.Id,
            Pass = pass,
            Number = number,
            Value = check.Value!,
            Within = check.End == TorqueEnd.Within,
            Tool = tool,
            Sent = true,
            ById = who.Id,
            At = at,
            StruckAt = struck.Length > 0 ? at.Plus(Duration.FromSeconds(15)) : null,
            StruckById = struck.Length > 0 ? who.Id : null,
            StruckWhy = struck,
        });
    }

    private void Locks()
    {
        foreach (var row in StoryTable.Read<LockRow>("locks.csv"))
        {
            var package = Find<WorkPackage>(row.Package);
            record.Add(new Locking
            {
                PackageId = package.Id,
                What = row.What,
                Way = row.Way,
                Count = row.Count,
                Locked = row.Locked,
                LockedById = row.Who.Length > 0 ? P(row.Who).Id : null,
                LockedAt = row.Day is { } day ? AtTheEnd(day, 25) : null,
                ById = P(LeadOf(row.Package[..1])).Id,
                At = AtTheEnd((row.Day ?? -3) - 7, 25),
            });
        }
    }

    private void Service()
    {
        foreach (var row in StoryTable.Read<ServiceRow>("service.csv"))
        {
            var place = At(row.Machine, row.At);
            var (read, problems) = ServiceRule.Read(new ServiceEntry(row.What, place.Id, row.With, row.Amount, row.Days, row.Hours,
                row.Distance, row.Run.Length > 0, row.Move.Length > 0, row.First.Length > 0));
            if (read is null)
            {
                throw Wrong(row.What, problems[0].Sentence);
            }

            var task = record.Add(new ServiceTask
            {
                MachineId = place.MachineId,
                PlaceId = place.Id,
                What = read.What,
                With = read.With,
                Amount = read.Amount,
                EveryDays = read.EveryDays,
                EveryHours = read.EveryHours,
                EveryDistance = read.EveryDistance,
                BeforeRun = read.BeforeRun,
                BeforeMove = read.BeforeMove,
                AfterFirstRun = read.AfterFirstRun,
                ById = P(LeadOf(row.Machine)).Id,
                At = calendar.At(-220, 12),
            });
            if (StoryTable.Several(row.Done) is [var day, var who])
            {
                var on = int.Parse(day, CultureInfo.InvariantCulture);
                record.Add(new ServiceDone { TaskId = task.Id, On = calendar.Date(on), ById = P(who).Id, At = AtTheEnd(on, 30) });
            }
        }

        foreach (var row in StoryTable.Read<UseRow>("uses.csv"))
        {
            record.Add(new MachineUse
            {
                MachineId = machines[row.Machine].Id,
                Kind = row.Kind,
                On = calendar.Date(row.Day),
                Hours = row.Hours ?? 0,
                Distance = row.Distance.Length == 0 ? null : MeasureReader.Read(row.Distance, Quantity.Distance).Value,
                Note = row.Note,
                ById = P(row.Who).Id,
                At = AtTheEnd(row.Day, 40),
            });
        }

        foreach (var row in StoryTable.Read<RecheckRow>("rechecks.csv"))
        {
            var place = At(row.Machine, row.At);
            record.Add(new Recheck
            {
                MachineId = place.MachineId,
                PlaceId = place.Id,
                PackageId = row.Package.Length > 0 ? Find<WorkPackage>(row.Package).Id : null,
                What = row.What,
                DueOn = row.Days is { } days ? calendar.Date(days) : null,
                AfterHours = row.Hours,
                AfterUse = row.Use,
                ById = P(row.Who).Id,
                At = AtTheEnd(row.Day, 30),
            });
        }
    }
}
