using System.Runtime.InteropServices;
using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>
/// A plan's input as arrays of numbers, made once and read by many runs at the same time. Times are minutes from the midnight at which the plan's
/// first day begins. A mirrored model runs from the end to the beginning and is used to find out how late each operation may start.
/// </summary>
internal sealed class PlanModel
{
    /// <summary>Finish of what cannot be done within the planned weeks.</summary>
    public const int Never = int.MaxValue;

    /// <summary>Shortest time for which somebody takes up a job, minutes.</summary>
    public const int LeastMinutes = 15;

    /// <summary>In which share of the runs an operation is as far from its guess as its like are, 0 to 1: two of them then go together to its square, about a half. Common practice.</summary>
    public const double Alike = 0.7;

    private int[]? sorted;

    private PlanModel(PlanInput input)
    {
        Input = input;
    }

    public PlanInput Input { get; }

    public required int[] SessionStart { get; init; }

    public required int[] SessionEnd { get; init; }

    public required int[] SessionSite { get; init; }

    /// <summary>The midnight of the day on which it is, as the calendar has it.</summary>
    public required int[] SessionDay { get; init; }

    /// <summary>The weather to expect, by session; null when nothing is known.</summary>
    public required MonthWeather?[] Weather { get; init; }

    /// <summary>Which session of the input it is; for a mirrored model they run backwards.</summary>
    public required int[] SessionOf { get; init; }

    /// <summary>First session that ends after the beginning of a day.</summary>
    public required int[] FirstOfDay { get; init; }

    /// <summary>Which person of the input each bit stands for: those whose skills are wanted least come first.</summary>
    public required int[] PersonOf { get; init; }

    public required int Words { get; init; }

    /// <summary>Chance that a person comes to a session, in 65,536ths, by session and person; a few more at the end, as four are read at a time.</summary>
    public required long[] Coming { get; init; }

    /// <summary>Who is counted on in the plan itself, by session and word.</summary>
    public required ulong[] Expected { get; init; }

    /// <summary>A number for each person that makes their draws; a few more at the end, as four are read at a time.</summary>
    public required ulong[] PersonKeys { get; init; }

    public required ulong[] Adults { get; init; }

    public required ulong[] Alone { get; init; }

    /// <summary>Minutes by which somebody whose skills are wanted is left free for them, by person.</summary>
    public required int[] Spare { get; init; }

    public required string[] Skills { get; init; }

    /// <summary>Who holds a skill in a session, by skill, session and word.</summary>
    public required ulong[][] Holders { get; init; }

    /// <summary>What operations look for in sessions, each once: hands of a kind, or a thing.</summary>
    public required WantModel[] Wants { get; init; }

    public required int[] ThingFirst { get; init; }

    /// <summary>How many of a thing are there in a session, by session and thing.</summary>
    public required int[] ThingThere { get; init; }

    public required int Units { get; init; }

    public required OperationModel[] Operations { get; init; }

    /// <summary>All operations, each after what it follows.</summary>
    public int[] Order => sorted ??= Project.TopologicalOrder([.. Operations.Select(o => o.After.Select(a => a.Operation).ToArray())])!;

    public required PackageModel[] Packages { get; init; }

    /// <summary>True where a machine must be whole, by machine and session.</summary>
    public required bool[][] Blocked { get; init; }

    public required DemandModel[] Demands { get; init; }

    public required MilestoneModel[] Milestones { get; init; }

    public required int Horizon { get; init; }

    public required bool Mirrored { get; init; }

    public int People => PersonOf.Length;

    public int Sessions => SessionStart.Length;

    public static PlanModel Of(PlanInput input, IReadOnlySet<string> leftOut)
    {
        ArgumentNullException.ThrowIfNull(input);
        var today = input.Today;
        int Minutes(LocalDate day, LocalTime time) => (Period.DaysBetween(today, day) * 1440) + (time.Hour * 60) + time.Minute;
        int Day(LocalDate day) => Period.DaysBetween(today, day) * 1440;
        var sessions = input.Sessions.Select((s, i) => (s, i)).OrderBy(s => s.s.On).ThenBy(s => s.s.From).ThenBy(s => s.s.Site, StringComparer.Ordinal).ToList();
        var sites = input.Sessions.Select(s => s.Site).Concat(input.Operations.Select(o => o.Site)).Distinct(StringComparer.Ordinal).Select((s, i) => (s, i)).ToDictionary(s => s.s, s => s.i, StringComparer.Ordinal);
        var skills = input.Operations.SelectMany(o => o.Skills).Select(s => s.Skill).Distinct(StringComparer.Ordinal).ToArray();
        var skillOf = skills.Select((s, i) => (s, i)).ToDictionary(s => s.s, s => s.i, StringComparer.Ordinal);

        // A skill is wanted the more the more of its hours fall on each who holds it.
        var wanted = new double[skills.Length];
        foreach (var o in input.Operations)
        {
            foreach (var n in o.Skills)
            {
                wanted[skillOf[n.Skill]] += o.Hours.Mean * o.Chance * n.Count / o.MinCrew;
            }
        }

        double Wanted(PlanPerson p) => p.Skills.Where(s => skillOf.ContainsKey(s.Skill)).Sum(s => wanted[skillOf[s.Skill]] / Math.Max(1, input.People.Count(q => q.Skills.Any(t => t.Skill == s.Skill))));
        var people = input.People.Select((p, i) => (p, i, w: Wanted(p))).OrderBy(p => p.w).ThenBy(p => p.p.Id, StringComparer.Ordinal).ToList();
        var most = people.Count == 0 ? 0 : people.Max(p => p.w);
        var words = Math.Max(1, (people.Count + 63) / 64);
        var count = sessions.Count;
        var coming = new long[(count * people.Count) + 4];
        var expected = new ulong[count * words];
        var holders = skills.Select(_ => new ulong[count * words]).ToArray();
        for (var p = 0; p < people.Count; p++)
        {
            var person = people[p].p;

            // Comes as often as their chance says, evenly spread.
            var owed = SeededRandom.Mix(SeededRandom.Key(person.Id)) / (double)ulong.MaxValue;
            for (var s = 0; s < count; s++)
            {
                var session = sessions[s].s;
                var chance = PlanCalendar.Chance(person, session);
                coming[(s * people.Count) + p] = (long)Math.Round(chance * 65536, MidpointRounding.AwayFromZero);
                var bit = 1UL << (p & 63);
                var at = (s * words) + (p >> 6);
                if (person.Replies.Any(r => r.On == session.On))
                {
                    expected[at] |= chance >= 0.5 ? bit : 0;
                }
                else
                {
                    owed += chance;
                    if (owed >= 1)
                    {
                        owed -= 1;
                        expected[at] |= bit;
                    }
                }

                foreach (var skill in person.Skills)
                {
                    if (skillOf.TryGetValue(skill.Skill, out var k) && !(session.On > skill.Until))
                    {
                        holders[k][at] |= bit;
                    }
                }
            }
        }

        ulong[] Mask(Func<PlanPerson, bool> which)
        {
            var mask = new ulong[words];
            for (var p = 0; p < people.Count; p++)
            {
                mask[p >> 6] |= which(people[p].p) ? 1UL << (p & 63) : 0;
            }

            return mask;
        }

        var thingOf = input.Things.Select((t, i) => (t.Id, i)).ToDictionary(t => t.Id, t => t.i, StringComparer.Ordinal);
        var thingFirst = new int[input.Things.Count + 1];
        for (var t = 0; t < input.Things.Count; t++)
        {
            thingFirst[t + 1] = thingFirst[t] + input.Things[t].Count;
        }

        var there = new int[count * input.Things.Count];
        for (var s = 0; s < count; s++)
        {
            for (var t = 0; t < input.Things.Count; t++)
            {
                there[(s * input.Things.Count) + t] = PlanCalendar.Units(input.Things[t], sessions[s].s.On);
            }
        }

        var machineOf = input.Machines.Select((m, i) => (m.Id, i)).ToDictionary(m => m.Id, m => m.i, StringComparer.Ordinal);
        var packageOf = input.Packages.Select((p, i) => (p.Id, i)).ToDictionary(p => p.Id, p => p.i, StringComparer.Ordinal);
        var demandOf = input.Demands.Select((d, i) => (d.Id, i)).ToDictionary(d => d.Id, d => d.i, StringComparer.Ordinal);
        var operationOf = input.Operations.Select((o, i) => (o.Id, i)).ToDictionary(o => o.Id, o => o.i, StringComparer.Ordinal);
        var packages = input.Packages.Select(p =>
        {
            var machine = input.Machines[machineOf[p.Machine]];
            return new PackageModel
            {
                Machine = machineOf[p.Machine],
                Band = machine.Standing switch { MachineStanding.Leaving => 0, MachineStanding.Active => 1, MachineStanding.Filler => 2, _ => 3 },
                Opens = p.Opens && (machine.Windows ?? []).Count > 0,
                Started = p.Started,
                Release = p.NotBefore is { } d ? Math.Max(0, Day(d)) : 0,
                Windows = [.. (machine.Windows ?? []).Where(w => w.When.Until >= today).OrderBy(w => w.When.From).Select(w => (Day(w.When.From), Day(w.When.Until.PlusDays(1))))],
            };
        }).ToArray();
        var wants = new List<WantModel>();
        int Want(int skill, int thing, ulong[]? may)
        {
            var at = wants.FindIndex(w => w.Skill == skill && w.Thing == thing && (w.May is null ? may is null : may is not null && w.May.AsSpan().SequenceEqual(may)));
            if (at < 0)
            {
                at = wants.Count;
                wants.Add(new WantModel(skill, thing, may));
            }

            return at;
        }

        var alike = input.Operations.Where(o => o.Like.Length > 0)
            .GroupBy(o => o.Like, StringComparer.Ordinal)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .ToHashSet(StringComparer.Ordinal);
        var successors = input.Operations.Select(_ => new List<(int, LagModel)>()).ToArray();
        var operations = input.Operations.Select((o, i) =>
        {
            var may = o.AdultsOnly || o.NotBy.Count > 0 ? Mask(p => !(o.AdultsOnly && p.Minor) && !o.NotBy.Contains(p.Id)) : null;
            (int Skill, int Count)[] holding = [.. o.Skills.Select(s => (skillOf[s.Skill], s.Count)).OrderBy(s => Bits(holders[s.Item1]))];
            (int Thing, int Count)[] things = [.. o.Things.Select(t => (thingOf[t.Thing], t.Count))];
            var model = new OperationModel
            {
                Key = SeededRandom.Key(o.Id),
                Shared = alike.Contains(o.Like) ? SeededRandom.Key("like " + o.Like) | 1 : 0,
                Package = packageOf[o.Package],
                LeftOut = leftOut.Contains(o.Id),
                Work = Spread.Of(o.Hours.Low * 60, o.Hours.Likely * 60, o.Hours.High * 60),
                Elapsed = Spread.Of(o.Elapsed.Low * 1440, o.Elapsed.Likely * 1440, o.Elapsed.High * 1440),
                Chance = o.Chance,
                MinCrew = Math.Max(o.MinCrew, o.Skills.Count == 0 ? 1 : o.Skills.Max(s => s.Count)),
                MaxCrew = o.MaxCrew,
                Skills = holding,
                Things = things,
                Wants =
                [
                    .. things.Select(t => Want(-1, t.Thing, null)),
                    .. holding.Length == 0 ? [Want(-1, -1, may)] : holding.Select(s => Want(s.Skill, -1, may)),
                ],
                Site = sites[o.Site],
                NeedsWeather = o.Dry || o.WarmerThan is not null || o.ColderThan is not null,
                Dry = o.Dry,
                WarmerThan = o.WarmerThan,
                ColderThan = o.ColderThan,
                InOneGo = o.InOneGo,
                May = may,
                Day = o.OnDay is { } d ? Day(d) : -1,
                Before = [.. o.After.Select(a => (operationOf[a.Operation], LagModel.Of(a.Lag, SeededRandom.Key(o.Id) ^ SeededRandom.Mix(SeededRandom.Key(a.Operation)))))],
                Demands = [.. o.Demands.Select(x => demandOf[x])],
            };
            foreach (var (p, lag) in model.Before)
            {
                successors[p].Add((i, lag));
            }

            return model;
        }).ToArray();
        for (var i = 0; i < operations.Length; i++)
        {
            operations[i].After = [.. successors[i]];
        }

        var horizonDays = count == 0 ? 1 : Period.DaysBetween(today, sessions[^1].s.On) + 1;
        var starts = sessions.Select(s => Minutes(s.s.On, s.s.From)).ToArray();
        var ends = sessions.Select(s => Minutes(s.s.On, s.s.Until)).ToArray();
        return new PlanModel(input)
        {
            SessionStart = starts,
            SessionEnd = ends,
            SessionSite = [.. sessions.Select(s => sites[s.s.Site])],
            SessionDay = [.. sessions.Select(s => Day(s.s.On))],
            Weather = [.. sessions.Select(s => PlanCalendar.Weather(input, s.s))],
            SessionOf = [.. sessions.Select(s => s.i)],
            FirstOfDay = Index(ends, horizonDays),
            PersonOf = [.. people.Select(p => p.i)],
            Words = words,
            Coming = coming,
            Expected = expected,
            PersonKeys = [.. people.Select(p => SeededRandom.Key(p.p.Id)), 0, 0, 0, 0],
            Adults = Mask(p => !p.Minor),
            Alone = Mask(p => p is { Minor: false, NeverAlone: false }),
            Spare = [.. people.Select(p => most <= 0 ? 0 : (int)(60 * p.w / most))],
            Skills = skills,
            Holders = holders,
            Wants = [.. wants],
            ThingFirst = thingFirst,
            ThingThere = there,
            Units = people.Count + thingFirst[^1],
            Operations = operations,
            Packages = packages,
            Blocked = [.. input.Machines.Select(m => sessions.Select(s => (m.Windows ?? []).Any(w => w.When.Has(s.s.On))).ToArray())],
            Demands = [.. input.Demands.Select(d => new DemandModel
            {
                Key = SeededRandom.Key(d.Id),
                Lead = Spread.Of(d.Lead.Low * 1440, d.Lead.Likely * 1440, d.Lead.High * 1440),
                Enquiry = d.Ordered is null ? Spread.Of(d.Enquiry.Low * 1440, d.Enquiry.Likely * 1440, d.Enquiry.High * 1440) : Spread.Of(0, 0, 0),
                Ordered = d.Ordered is { } on ? Day(on) : 0,
            })],
            Milestones = [.. input.Milestones.Select(m =>
            {
                var needed = m.Packages.Select(p => packageOf[p]).ToHashSet();
                return new MilestoneModel
                {
                    Due = Day(m.On.PlusDays(1)),
                    Weight = m.Weight * (m.Fixed ? 3 : 1),
                    Operations = [.. Enumerable.Range(0, operations.Length).Where(i => needed.Contains(operations[i].Package))],
                };
            })],
            Horizon = horizonDays * 1440,
            Mirrored = false,
        };
    }

    /// <summary>The same plan from its end to its beginning. Nothing may start, so seen, before a milestone's day, or before it is met at the soonest.</summary>
    /// <param name="due">Latest finish of each operation.</param>
    public PlanModel Mirror(int[] due)
    {
        var order = Enumerable.Range(0, Sessions).OrderBy(s => Horizon - SessionEnd[s]).ThenByDescending(s => s).ToArray();
        T[] Turn<T>(T[] of, int each)
        {
            var turned = new T[of.Length];
            for (var i = 0; i < order.Length; i++)
            {
                Array.Copy(of, order[i] * each, turned, i * each, each);
            }

            return turned;
        }

        var ends = order.Select(s => Horizon - SessionStart[s]).ToArray();
        var operations = Operations.Select((o, i) => o.Mirror(Math.Max(0, Horizon - due[i]))).ToArray();
        return new PlanModel(Input)
        {
            SessionStart = [.. order.Select(s => Horizon - SessionEnd[s])],
            SessionEnd = ends,
            SessionSite = Turn(SessionSite, 1),
            SessionDay = Turn(SessionDay, 1),
            Weather = Turn(Weather, 1),
            SessionOf = Turn(SessionOf, 1),
            FirstOfDay = Index(ends, Horizon / 1440),
            PersonOf = PersonOf,
            Words = Words,
            Coming = Turn(Coming, People),
            Expected = Turn(Expected, Words),
            PersonKeys = PersonKeys,
            Adults = Adults,
            Alone = Alone,
            Spare = Spare,
            Skills = Skills,
            Holders = [.. Holders.Select(h => Turn(h, Words))],
            Wants = Wants,
            ThingFirst = ThingFirst,
            ThingThere = Turn(ThingThere, ThingFirst.Length - 1),
            Units = Units,
            Operations = operations,
            Packages = [.. Packages.Select(p => p with { Release = 0, Windows = [.. p.Windows.Select(w => (Horizon - w.Until, Horizon - w.From)).Reverse()], Started = false, Opens = false })],
            Blocked = [.. Blocked.Select(b => Turn(b, 1))],
            Demands = [],
            Milestones = [],
            Horizon = Horizon,
            Mirrored = true,
        };
    }

    private static int Bits(ulong[] mask) => mask.Sum(m => System.Numerics.BitOperations.PopCount(m));

    private static int[] Index(int[] ends, int days)
    {
        var first = new int[days + 1];
        var s = 0;
        for (var d = 0; d <= days; d++)
        {
            while (s < ends.Length && ends[s] <= d * 1440)
            {
                s++;
            }

            first[d] = s;
        }

        return first;
    }
}

/// <summary>A triangular spread, in minutes.</summary>
[StructLayout(LayoutKind.Auto)]
internal readonly record struct Spread(double Low, double High, double Split, double Left, double Right, int Mean)
{
    public static Spread Of(double low, double likely, double high) => high <= low
        ? new Spread(low, low, 2, 0, 0, (int)Math.Ceiling(low - 1e-9))
        : new Spread(low, high, (likely - low) / (high - low), (high - low) * (likely - low), (high - low) * (high - likely), (int)Math.Ceiling(((low + likely + high) / 3) - 1e-9));

    /// <summary>The value below which a share of the outcomes lies.</summary>
    public double At(double u) => Split > 1 ? Low : u < Split ? Low + Math.Sqrt(u * Left) : High - Math.Sqrt((1 - u) * Right);
}

[StructLayout(LayoutKind.Auto)]
internal readonly record struct LagModel(Spread Days, ulong Key)
{
    public static LagModel Of(DaysRange? lag, ulong key) => new(lag is null ? Spread.Of(0, 0, 0) : Spread.Of(lag.Low * 1440, lag.Likely * 1440, lag.High * 1440), key);
}

/// <summary>What an operation looks for in a session.</summary>
/// <param name="Skill">The skill of the hands; −1 for any hands.</param>
/// <param name="Thing">The thing; −1 for hands.</param>
/// <param name="May">Whose hands; null for everybody's.</param>
internal sealed record WantModel(int Skill, int Thing, ulong[]? May);

internal sealed record OperationModel
{
    public required ulong Key { get; init; }

    /// <summary>Draws the hours of all of its like; 0 when it has none of its like.</summary>
    public required ulong Shared { get; init; }

    public required int Package { get; init; }

    public required bool LeftOut { get; init; }

    public required Spread Work { get; init; }

    public required Spread Elapsed { get; init; }

    public required double Chance { get; init; }

    public required int MinCrew { get; init; }

    public required int MaxCrew { get; init; }

    public required (int Skill, int Count)[] Skills { get; init; }

    public required (int Thing, int Count)[] Things { get; init; }

    /// <summary>Index of what it looks for: its things, then its skills, or any hands where it wants no skill.</summary>
    public required int[] Wants { get; init; }

    public required int Site { get; init; }

    public required bool Dry { get; init; }

    public required double? WarmerThan { get; init; }

    public required double? ColderThan { get; init; }

    public required bool InOneGo { get; init; }

    /// <summary>Who may do it; null for everybody.</summary>
    public required ulong[]? May { get; init; }

    /// <summary>The only day on which it can be done, in minutes; −1 when any will do.</summary>
    public required int Day { get; init; }

    public required (int Operation, LagModel Lag)[] Before { get; init; }

    public (int Operation, LagModel Lag)[] After { get; set; } = [];

    public required int[] Demands { get; init; }

    /// <summary>Not before this minute, apart from everything else; used when mirrored.</summary>
    public int Release { get; init; }

    public bool NeedsWeather { get; init; }

    public OperationModel Mirror(int release) => this with { Before = After, After = Before, Demands = [], Release = release };
}

internal sealed record PackageModel
{
    public required int Machine { get; init; }

    /// <summary>What comes first: 0 leaving, 1 active, 2 filler, 3 queued.</summary>
    public required int Band { get; init; }

    public required bool Opens { get; init; }

    public required bool Started { get; init; }

    public required int Release { get; init; }

    public required (int From, int Until)[] Windows { get; init; }
}

internal sealed record DemandModel
{
    public required ulong Key { get; init; }

    public required Spread Lead { get; init; }

    public required Spread Enquiry { get; init; }

    public required int Ordered { get; init; }
}

internal sealed record MilestoneModel
{
    public required int Due { get; init; }

    public required double Weight { get; init; }

    public required int[] Operations { get; init; }
}
