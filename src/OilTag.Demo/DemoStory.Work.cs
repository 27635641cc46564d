using System.Collections.Concurrent;
using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Stores;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Demo;

/// <summary>Work packages with their steps, what they need, who did what on which evening, and what was paid.</summary>
public sealed partial class DemoStory
{
    private readonly List<(PackageRow Row, WorkPackage Package, IReadOnlyList<StepRow> Steps)> jobs = [];

    // Minutes that each has worked on each day of the story, so that nobody is in two places.
    private readonly Dictionary<(string Name, int Day), int> worked = [];

    private sealed class PackageRow
    {
        public required string Key { get; init; }

        public required string At { get; init; }

        public required string Title { get; init; }

        public required int Opened { get; init; }

        public int? Closed { get; init; }

        public required string Findings { get; init; }

        public required string Wait { get; init; }

        public required string Whose { get; init; }

        public int? Since { get; init; }

        public required int Expected { get; init; }

        public required int Spent { get; init; }

        public required string Takes { get; init; }

        public required string From { get; init; }
    }

    // What a step asks for besides: readings, what lies ready, and whether it goes beside the one before it.
    private sealed class StepLineRow
    {
        public required string Step { get; init; }

        public required string Beside { get; init; }

        public required string Lines { get; init; }

        public required string Kit { get; init; }

        public required string By { get; init; }

        public int? Day { get; init; }

        public required string Taken { get; init; }
    }

    private sealed class StepRow
    {
        public required string Package { get; init; }

        public required string N { get; init; }

        public required string Words { get; init; }

        public required double Low { get; init; }

        public required double Likely { get; init; }

        public required double High { get; init; }

        public required string Skills { get; init; }

        public required int People { get; init; }

        public required string Tool { get; init; }

        public required string Hold { get; init; }

        public required string Cure { get; init; }

        public required string After { get; init; }

        public required string Rests { get; init; }

        public required string Done { get; init; }

        public required string Who { get; init; }

        public required string Reading { get; init; }

        public int? Day => int.TryParse(Done, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var day) ? day : null;

        public bool Begun => Done == "begun";
    }

    private sealed class WantRow
    {
        public required string What { get; init; }

        public required int Quantity { get; init; }

        public required string Step { get; init; }

        public required double Low { get; init; }

        public required double Likely { get; init; }

        public required double High { get; init; }

        public int? Ordered { get; init; }

        public required string Here { get; init; }

        public required string Source { get; init; }

        public required int Pounds { get; init; }
    }

    // Demands by the step that waits for them.
    private readonly Dictionary<string, List<Demand>> wants = new(StringComparer.Ordinal);

    private void Wants()
    {
        foreach (var (letter, want) in Letters.SelectMany(l => StoryTable.Read<WantRow>(l + "/wants.csv").Select(w => (l, w))))
        {
            var asked = Math.Min(-10, (want.Ordered ?? -21) - 7);
            var demand = record.Add(new Demand
            {
                MachineId = machines[letter].Id,
                PlaceId = PlaceOfPackage(letter, want.Step.Split('/')[0]).Id,
                What = want.What,
                Quantity = want.Quantity,
                Source = DemandSource.Package,
                At = AtTheEnd(asked, 5),
                Enquiry = DaysRange.Weeks(0.5, 1, 2),
                Lead = DaysRange.Weeks(want.Low, want.Likely, want.High),
                OrderedOn = want.Ordered is { } day ? calendar.Date(day) : null,
                End = want.Here.Length > 0 ? DemandEnd.Here : null,
                EndedAt = want.Here.Length > 0 ? AtTheEnd(want.Ordered!.Value + 28, 5) : null,
                EndedById = want.Here.Length > 0 ? P("Merryn Stoke").Id : null,
            });
            (wants.TryGetValue(want.Step, out var list) ? list : wants[want.Step] = []).Add(demand);
            if (want.Ordered is { } on)
            {
                Say(AtTheEnd(on, 10), P("Merryn Stoke"), WorkLog.Ordered(want.Quantity, want.What), demand.MachineId, demand.PlaceId);
            }
        }
    }

    private Place PlaceOfPackage(string letter, string key) =>
        At(letter, (packageRows ??= Letters.SelectMany(l => StoryTable.Read<PackageRow>(l + "/packages.csv")).ToDictionary(p => p.Key))[key].At);

    private Dictionary<string, PackageRow>? packageRows;

    private void Packages()
    {
        var steps = Letters.SelectMany(l => StoryTable.Read<StepRow>(l + "/steps.csv")).ToLookup(s => s.Package);
        var number = 0;
        var packageOf = new Dictionary<string, Guid>(StringComparer.Ordinal);
        foreach (var row in packageRows!.Values.OrderBy(p => p.Opened).ThenBy(p => p.Key, StringComparer.Ordinal))
        {
            var package = Package(row, ++number, [.. steps[row.Key]]);
            foreach (var key in StoryTable.Several(row.Findings))
            {
                packageOf[key] = package.Id;
            }
        }

        Decide(packageOf);
        foreach (var (row, package, own) in jobs)
        {
            Follow(package, own);
            Sign(row, package, own);
            Pay(row, package);
        }
    }

    private WorkPackage Package(PackageRow row, int number, List<StepRow> steps)
    {
        var letter = row.Key[..1];
        var place = At(letter, row.At);
        var opened = IsSaturday(row.Opened) ? calendar.At(row.Opened, 10, 30) : calendar.At(row.Opened, 18, 45);
        var first = StoryTable.Several(row.Findings).Select(Find<Finding>).FirstOrDefault();
        var tag = first?.TagId is { } id ? tagOf.Values.Single(t => t.Tag.Id == id).Tag : null;
        var closed = row.Closed is { } day ? AtTheEnd(day, 40) : (Instant?)null;
        var package = Keyed(row.Key, record.Add(new WorkPackage
        {
            Number = number,
            MachineId = place.MachineId,
            PlaceId = place.Id,
            Title = row.Title,
            StartedFrom = row.From,
            FindingId = first?.Id,
            TagId = tag is not null && (tag.ClosedAt is null || (closed is not null && tag.ClosedAt >= closed)) ? tag.Id : null,
            MilestoneId = notFor.Contains(row.Key) ? null : serves[letter],
            OpenedAt = opened,
            EstimatePence = row.Expected * 100L,
            Opens = steps.Count > 4,
            TakesAway = row.Takes.Length > 0 ? [row.Takes] : [],
            WaitingOn = row.Wait,
            WaitingForId = row.Wait.Length > 0 ? P(row.Whose).Id : null,
            WaitingSince = row.Since is { } since ? calendar.Date(since) : null,
            ClosedAt = closed,
            ClosedById = closed is null ? null : P(LeadOf(letter)).Id,
        }));
        foreach (var (step, i) in steps.Select((s, i) => (s, i)))
        {
            package.Operations.Add(Keyed($"{row.Key}/{step.N}", new Operation
            {
                Order = i + 1,
                Name = step.Words,
                Low = step.Low,
                Likely = step.Likely,
                High = step.High,
                Hold = step.Hold.Length > 0,
                Needs = Needs(step, place),
            }));
        }

        foreach (var line in StoryTable.Read<StepLineRow>("step-lines.csv").Where(s => s.Step.Split('/')[0] == row.Key))
        {
            Line(package, line);
        }

        jobs.Add((row, package, steps));
        Say(opened, P(LeadOf(letter)), WorkLog.Opened(number, row.Title), place.MachineId, place.Id, package.TagId, package.Id);
        if (row.Wait.Length > 0)
        {
            Say(AtTheEnd(row.Since!.Value, 30), P(row.Whose), WorkLog.Stuck(number, row.Wait), place.MachineId, place.Id, package.TagId,
                package.Id);
        }

        return package;
    }

    private void Line(WorkPackage package, StepLineRow line)
    {
        var operation = Find<Operation>(line.Step);
        operation.Beside = line.Beside.Length > 0;
        operation.Readings = line.Lines.Length == 0 ? [] : [StepLines.Reading(line.Lines) ?? throw new InvalidOperationException($"{line.Step}: {line.Lines} is no reading.")];
        operation.Kit = line.Kit.Length == 0 ? [] : StepLines.Kit("needs " + line.Kit)!;
        foreach (var (text, i) in StoryTable.Several(line.Taken).Select((t, i) => (t, i)))
        {
            var check = ReadingRule.Judge(operation.Readings[0], text);
            record.Add(new StepReading
            {
                OperationId = operation.Id,
                Wanted = operation.Readings[0].Text,
                Position = i + 1,
                Value = check.Value,
                Within = check.Within,
                ById = P(line.By).Id,
                At = AtTheEnd(line.Day!.Value, 60 - (i * 2)),
                Instrument = "plate gauge 4",
            });
        }

        if (line.Taken.Length > 0)
        {
            Say(AtTheEnd(line.Day!.Value, 45), P(line.By), $"read {StoryTable.Several(line.Taken).Length} positions at “{operation.Name}”.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        }
    }

    // Equipment of the shed that a step's tools name.
    private static readonly string[] Equipment =
    [
        "pair of 10 ton jacks", "overhead hoist", "pit", "lathe", "paint booth", "20 ton press", "small mill", "boring bar", "welding bay",
        "engine stand", "load cells", "gas tester", "bead roller", "wheeling machine", "rolls", "plate gauge 4", "forge",
    ];

    private OperationNeeds Needs(StepRow step, Place place)
    {
        var tools = step.Tool
            .Replace("20-ton press", "20 ton press", StringComparison.Ordinal)
            .Replace("gas meter", "gas tester", StringComparison.Ordinal);
        var skills = StoryTable.Several(step.Skills);
        var crew = step.People;
        return new OperationNeeds
        {
            MinCrew = Math.Max(Math.Min(crew, 6), Math.Min(skills.Length, 6)),
            MaxCrew = Math.Max(crew, skills.Length),
            Skills = [.. skills.Select(s => new SkillNeed(s))],
            Equipment = [.. Equipment.Where(e => tools.Contains(e, StringComparison.OrdinalIgnoreCase)).Select(e => new ThingNeed(e))],
            Site = tools.Contains("Old slipway", StringComparison.Ordinal) ? "Old slipway" : string.Empty,
            WarmerThan = tools.Contains("above 15 °C", StringComparison.Ordinal) ? 15
                : tools.Contains("above 10 °C", StringComparison.Ordinal) ? 10
                : null,
            AdultsOnly = skills.Any(s => s is "coded welder" or "hot work" or "boilers" or "smith" or "white metal" or "lift supervisor"),
            SafeStop = step.Rests.Length > 0,
            Cure = step.Cure.Length == 0 ? null : Span(step),
            Demands = [.. wants.GetValueOrDefault($"{step.Package}/{step.N}", []).Select(d => d.Id)],
        };
    }

    // "2-3-5 weeks" or "7-7-7 days".
    private static DaysRange Span(StepRow step)
    {
        var words = step.Cure.Split(' ');
        var (low, likely, high) = Three(words[0], $"{step.Package}/{step.N}");
        return words[1] == "weeks" ? DaysRange.Weeks(low, likely, high) : new DaysRange(low, likely, high);
    }

    private void Follow(WorkPackage package, IReadOnlyList<StepRow> steps)
    {
        foreach (var (step, i) in steps.Select((s, i) => (s, i)).Where(s => s.s.After.Length > 0))
        {
            var operation = package.Operations[i];
            operation.Needs = operation.Needs with { After = [.. StoryTable.Several(step.After).Select(k => Find<Operation>(k).Id)] };
        }
    }

    private void Sign(PackageRow row, WorkPackage package, IReadOnlyList<StepRow> steps)
    {
        var letter = row.Key[..1];
        var from = row.Opened;
        foreach (var (step, i) in steps.Select((s, i) => (s, i)))
        {
            var operation = package.Operations[i];
            var who = StoryTable.Several(step.Who);
            if (step.Begun)
            {
                Book(package, operation, step, who, row.Opened, from, -3, step.Likely / 2);
                continue;
            }

            if (step.Day is not { } day)
            {
                continue;
            }

            var at = AtTheEnd(day, 5 + i);
            operation.DoneAt = at;
            if (operation.Hold)
            {
                var inspector = P(step.Hold);
                var note = step.Reading.Length > 0 ? char.ToUpperInvariant(step.Reading[0]) + step.Reading[1..] + "." : "Looked at, as agreed.";
                operation.DoneById = inspector.Id;
                record.Add(new SignOff { OperationId = operation.Id, ById = inspector.Id, At = at, Note = note });
                Say(at, inspector, WorkLog.Lifted(operation.Name, package.Number, note), package.MachineId, package.PlaceId, package.TagId,
                    package.Id);
                continue;
            }

            var hand = P(who.Length > 0 ? who[0] : LeadOf(letter));
            operation.DoneById = hand.Id;
            Book(package, operation, step, who, row.Opened, from, day, step.Likely);
            Say(at, hand, WorkLog.Finished(operation.Name, package.Number), package.MachineId, package.PlaceId, package.TagId, package.Id);
            from = day;
        }

        if (package.ClosedAt is { } closed)
        {
            Say(closed, P(LeadOf(letter)), WorkLog.Closed(package.Number, package.Title), package.MachineId, package.PlaceId, package.TagId,
                package.Id);
        }
    }

    // Hours of a step lie on the sessions up to the day on which it was done: first on those since the step before it on which its people came anyway,
    // then on the others, then on earlier ones of the package. What its people have no time for, other hands of the machine do. Work takes a little
    // longer than it was thought to.
    private void Book(WorkPackage package, Operation operation, StepRow step, string[] who, int opened, int from, int until, double hours)
    {
        if (who.Length == 0)
        {
            return;
        }

        var took = hours * (0.9 + (0.05 * Filler.Of(9, "took", step.Package, step.N)));
        var sessions = Enumerable.Range(opened, until - opened + 1).Reverse().Where(d => IsSaturday(d) || IsSaturday(d + 3)).ToList();
        var rest = 0;
        foreach (var name in who)
        {
            rest += Book(package, operation, name, sessions, from, until, (int)Math.Round(took * 4 / who.Length) * 15,
                name == who[0] && !step.Begun ? step.Reading : string.Empty);
        }

        foreach (var name in Hands[step.Package[..1]].Except(who).TakeWhile(_ => rest >= 15))
        {
            rest = Book(package, operation, name, sessions, from, until, rest, string.Empty);
        }
    }

    // Books what one person has time for, and says how many minutes are left.
    private int Book(WorkPackage package, Operation operation, string name, List<int> sessions, int from, int until, int left,
        string reading)
    {
        var person = P(name);
        foreach (var day in sessions
            .Where(d => d >= from && (d == until || Came(name, d)))
            .Concat(sessions.Where(d => d >= from && d != until && !Came(name, d)))
            .Concat(sessions.Where(d => d < from)))
        {
            if (left < 15)
            {
                break;
            }

            var used = worked.GetValueOrDefault((name, day));
            var minutes = Math.Min(left, (IsSaturday(day) ? 300 : 165) - used) / 15 * 15;
            if (minutes < 15)
            {
                continue;
            }

            var session = IsSaturday(day) ? new LocalTime(10, 0) : new LocalTime(18, 30);
            var at = calendar.At(day, IsSaturday(day) ? new LocalTime(15, 45) : new LocalTime(21, 25))
                .Plus(Duration.FromMinutes(Filler.Of(5, "booked", name, operation.Name, $"{day}")));
            record.Add(new HoursEntry
            {
                MachineId = package.MachineId,
                PackageId = package.Id,
                OperationId = operation.Id,
                PersonId = person.Id,
                On = calendar.Date(day),
                From = session.PlusMinutes(used),
                Minutes = minutes,
                Note = day == until ? reading : string.Empty,
                RecordedById = person.Id,
                At = at,
            });
            Say(at, person, WorkLog.Worked(minutes, package.Number, operation.Name), package.MachineId, package.PlaceId, package.TagId,
                package.Id);
            worked[(name, day)] = used + minutes;
            left -= minutes;
        }

        return left;
    }

    private static readonly ConcurrentDictionary<(string Name, int Day), bool> Attended = new();

    // Whether somebody came anyway; the same for as long as the program runs, and asked for often.
    private static bool Came(string name, int day) =>
        Attended.GetOrAdd(
            (name, day),
            static k => Filler.Of(100, "came", k.Name, k.Day.ToString(CultureInfo.InvariantCulture)) < (IsSaturday(k.Day) ? 70 : 45));

    private void Pay(PackageRow row, WorkPackage package)
    {
        var who = P(LeadOf(row.Key[..1]));
        var last = row.Closed ?? -3;
        var first = row.Spent > 60 ? row.Spent * 2 / 3 : row.Spent;
        var spent = new[] { (first, "material and castings", 0.35), (row.Spent - first, "fastenings, paint and carriage", 0.8) };
        foreach (var (pounds, what, share) in spent.Where(p => p.Item1 > 0))
        {
            var day = row.Opened + (int)((last - row.Opened) * share);
            while (!IsSaturday(day) && !IsSaturday(day + 3))
            {
                day--;
            }

            day = Math.Max(day, row.Opened);
            record.Add(new Cost { PackageId = package.Id, What = what, Pence = pounds * 100L, On = calendar.Date(day), ById = who.Id });
            Say(AtTheEnd(day, 32), who, WorkLog.Spent(pounds * 100L, what, package.Number), package.MachineId, package.PlaceId,
                package.TagId, package.Id);
        }
    }
}
