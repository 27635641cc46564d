using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Core.Today;

/// <summary>
/// Works out who does what today: from the hours of those who are there, it gives at each moment at which somebody comes, goes, finishes or comes back from
/// dinner a job to whoever is free (<see cref="CrewSearch"/>). A job that was begun goes on until it is done, somebody whom it needs goes home, or the break.
/// </summary>
public sealed class DayPlanner
{
    /// <summary>Times are rounded up to so many minutes.</summary>
    public const int Step = 5;

    /// <summary>Nobody begins a job for less than so many minutes.</summary>
    public const int Shortest = 15;

    private readonly DayInput input;
    private readonly int[] from;
    private readonly int[] until;
    private readonly double[] left;
    private readonly int[][] after;
    private readonly int[][] points;
    private readonly (int Skill, int Count)[][] skills;
    private readonly (int Thing, int Count)[][] things;
    private readonly bool[][] holds;
    private readonly int[] available;
    private readonly bool[] minor;
    private readonly bool[] neverAlone;
    private readonly (int Person, int Operation, int From, int Until, bool ByLead)[] kept;
    private readonly List<(int Person, int Operation, int From, int Until, bool ByLead, bool Works)> stretches = [];
    private readonly int[] running;
    private readonly SortedDictionary<int, string> broken = [];
    private readonly (int From, int Until) pause;

    private DayPlanner(DayInput input)
    {
        this.input = input;
        var people = input.People;
        var operations = input.Operations;
        var number = operations.Select((o, i) => (o.Id, i)).ToDictionary(x => x.Id, x => x.i, StringComparer.Ordinal);
        var person = people.Select((p, i) => (p.Id, i)).ToDictionary(x => x.Id, x => x.i, StringComparer.Ordinal);
        var skillNames = operations.SelectMany(o => o.Skills).Select(s => s.Skill).Distinct(StringComparer.Ordinal).ToList();
        var thingNames = operations.SelectMany(o => o.Things).Select(t => t.Thing).Distinct(StringComparer.Ordinal).ToList();
        from = [.. people.Select(p => Minute(p.From))];
        until = [.. people.Select(p => Minute(p.Until))];
        left = [.. operations.Select(o => (double)o.Minutes)];
        after = [.. operations.Select(o => o.After.Where(number.ContainsKey).Select(a => number[a]).ToArray())];
        points = [.. people.Select(p => operations.Select(o => DayWorth.Of(p, o, input.On) ?? 0).ToArray())];
        skills = [.. operations.Select(o => o.Skills.Select(s => (skillNames.IndexOf(s.Skill), s.Count)).ToArray())];
        things = [.. operations.Select(o => o.Things.Select(t => (thingNames.IndexOf(t.Thing), t.Count)).ToArray())];
        holds = [.. people.Select(p => skillNames.Select(p.Skills.Contains).ToArray())];
        available = [.. thingNames.Select(t => input.Things.GetValueOrDefault(t))];
        minor = [.. people.Select(p => p.Minor)];
        neverAlone = [.. people.Select(p => p.NeverAlone)];
        pause = input.Break is { } b ? (Minute(b.From), Minute(b.Until)) : (int.MaxValue, int.MaxValue);
        kept = [.. input.Kept
            .Where(k => person.ContainsKey(k.Person) && (k.Operation is null || number.ContainsKey(k.Operation)))
            .Select(k => (Person: person[k.Person], Operation: k.Operation is null ? CrewProblem.Busy : number[k.Operation], Minute(k.From), Minute(k.Until), k.ByLead))
            .Where(k => k.Operation < 0 || points[k.Person][k.Operation] > 0)];
        running = new int[people.Count];
        Array.Fill(running, -1);
    }

    /// <summary>Works out the day.</summary>
    /// <param name="input">Who is there and what is ready.</param>
    public static DayPlan Plan(DayInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return new DayPlanner(input).Run();
    }

    /// <summary>The crews to find at the beginning, for comparing the search with an exact solver.</summary>
    /// <param name="input">Who is there and what is ready.</param>
    public static CrewProblem Opening(DayInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        var planner = new DayPlanner(input);
        return planner.Problem(RoundUp(Minute(input.Now)), [.. planner.from.Select(_ => -1)], fresh: true, [], []);
    }

    internal static int Minute(LocalTime t) => (t.Hour * 60) + t.Minute;

    private static LocalTime Time(int minute) => minute >= 24 * 60 ? new LocalTime(23, 59) : new LocalTime(minute / 60, minute % 60);

    private static int RoundUp(int minute) => (minute + Step - 1) / Step * Step;

    private DayPlan Run()
    {
        var end = until.DefaultIfEmpty(0).Max();
        var now = new int[from.Length];
        Array.Fill(now, -1);
        var fresh = true;
        for (var t = RoundUp(Minute(input.Now)); t < end;)
        {
            if (pause.From <= t && t < pause.Until)
            {
                t = pause.Until;
                Array.Fill(now, -1);
                fresh = true;
                continue;
            }

            var at = Crews(t, now, fresh);
            var next = Math.Min(end, Next(t, at));
            Work(t, next, at);
            for (var p = 0; p < at.Length; p++)
            {
                now[p] = at[p] >= 0 && left[at[p]] > 0 ? at[p] : -1;
            }

            fresh = false;
            t = next;
        }

        return new DayPlan(
            [.. stretches.OrderBy(s => s.Person).ThenBy(s => s.From).Select(s => new DayStretch(input.People[s.Person].Id, s.Operation < 0 ? null : input.Operations[s.Operation].Id, Time(s.From), Time(s.Until), s.ByLead, s.Works))],
            [.. left.Select(m => (int)Math.Round(m, MidpointRounding.AwayFromZero))],
            [.. broken.Select(b => new Problem(input.Operations[b.Key].Id, b.Value))]);
    }

    // Whoever stays at a step whose crew cannot be made whole is free for another; only a lead's choice stands, and is said.
    private int[] Crews(int t, int[] now, bool fresh)
    {
        var loose = new HashSet<int>();
        var barred = new HashSet<int>();
        while (true)
        {
            var problem = Problem(t, now, fresh, loose, barred);
            var at = CrewSearch.Solve(problem, fresh ? CrewSearch.Rounds : CrewSearch.FewRounds);
            var lacking = at.Where(o => o >= 0).Distinct().Where(o => !CrewSearch.Whole(problem, at, o)).ToList();
            if (lacking.Count == 0)
            {
                return at;
            }

            // One at a time: two that want the same hoist do not both have to go. First those go whom no lead put there, then all.
            bool Chosen(int o) => kept.Any(k => k.Operation == o && k.ByLead && k.From <= t && t < k.Until);
            var least = lacking.OrderBy(Chosen).ThenBy(o => DayWorth.Of(input.Operations[o], input.On)).First();
            if (loose.Add(least))
            {
                continue;
            }

            barred.Add(least);
            if (Chosen(least))
            {
                broken.TryAdd(least, DayWords.Lacks(input, input.Operations[least]));
            }
        }
    }

    private CrewProblem Problem(int t, int[] now, bool fresh, HashSet<int> loose, HashSet<int> barred)
    {
        var n = from.Length;
        var stays = new int[n];
        var rows = new int[n][];
        var ready = Enumerable.Range(0, left.Length).Select(o => left[o] > 0 && after[o].All(a => left[a] <= 0)).ToArray();
        var (min, max) = Sizes(t);
        for (var p = 0; p < n; p++)
        {
            stays[p] = from[p] <= t && t < until[p] ? CrewProblem.Free : CrewProblem.Busy;
            rows[p] = new int[left.Length];
            foreach (var k in kept)
            {
                if (k.Person != p || k.From > t || t >= k.Until || stays[p] != CrewProblem.Free || (k.Operation >= 0 && left[k.Operation] <= 0))
                {
                    continue;
                }

                var can = k.Operation < 0 || (ready[k.Operation] && !barred.Contains(k.Operation) && (k.ByLead || !loose.Contains(k.Operation)));
                if (!can && k.ByLead && !ready[k.Operation])
                {
                    broken.TryAdd(k.Operation, $"waits for “{input.Operations[after[k.Operation].First(a => left[a] > 0)].Name}”");
                }

                stays[p] = can ? k.Operation : k.ByLead ? CrewProblem.Busy : CrewProblem.Free;
            }

            // A job that was begun goes on; after the break it only weighs more.
            if (stays[p] == CrewProblem.Free && !fresh && now[p] >= 0 && !loose.Contains(now[p]))
            {
                stays[p] = now[p];
            }

            var most = stays[p] == CrewProblem.Free ? Span(t, p) : int.MaxValue;
            for (var o = 0; o < left.Length; o++)
            {
                var may = ready[o] && !barred.Contains(o) && points[p][o] > 0 && most >= Shortest && (!input.Operations[o].InOneGo || most * max[o] >= left[o]);
                rows[p][o] = may || stays[p] == o ? points[p][o] + (running[p] == o ? DayWorth.AtIt : 0) : 0;
            }
        }

        return new CrewProblem
        {
            Points = rows,
            Min = min,
            Max = max,
            Skills = skills,
            Holds = holds,
            Things = things,
            Available = available,
            Minor = minor,
            NeverAlone = neverAlone,
            Stays = stays,
        };
    }

    // No more people than find half an hour's work each; what is done in one go gets as many as that takes.
    private (int[] Min, int[] Max) Sizes(int t)
    {
        var min = input.Operations.Select(o => o.MinCrew).ToArray();
        var max = input.Operations.Select((o, i) => Math.Max(o.MinCrew, Math.Min(o.MaxCrew, (int)Math.Ceiling(left[i] / 30)))).ToArray();
        var longest = Enumerable.Range(0, from.Length).Where(p => from[p] <= t).Select(p => Span(t, p)).DefaultIfEmpty(0).Max();
        for (var o = 0; o < left.Length; o++)
        {
            if (input.Operations[o].InOneGo && longest > 0)
            {
                min[o] = Math.Max(min[o], (int)Math.Ceiling(left[o] / longest));
                max[o] = Math.Max(max[o], Math.Min(min[o], input.Operations[o].MaxCrew));
            }
        }

        return (min, max);
    }

    // Minutes of work that somebody has from now on: until they go, without the break.
    private int Span(int t, int p) => Math.Max(0, until[p] - t - (pause.From >= t && pause.From < until[p] ? Math.Min(until[p], pause.Until) - pause.From : 0));

    // The next moment at which somebody comes, goes, finishes or is awaited.
    private int Next(int t, int[] at)
    {
        var next = int.MaxValue;
        void Take(int minute)
        {
            if (minute > t && minute < next)
            {
                next = minute;
            }
        }

        Take(pause.From);
        for (var p = 0; p < from.Length; p++)
        {
            Take(RoundUp(from[p]));
            Take(until[p]);
        }

        foreach (var k in kept)
        {
            Take(RoundUp(k.From));
            Take(k.Until);
        }

        foreach (var crew in at.Where(o => o >= 0).GroupBy(o => o))
        {
            Take(t + Math.Max(Step, RoundUp((int)Math.Ceiling(left[crew.Key] / crew.Count()))));
        }

        return next;
    }

    private void Work(int t, int next, int[] at)
    {
        for (var p = 0; p < at.Length; p++)
        {
            var own = kept.FirstOrDefault(k => k.Person == p && k.From <= t && t < k.Until && k.ByLead && from[p] <= t && t < until[p]);

            // A lead's choice is shown even when its crew is not whole, or when they left somebody to themselves.
            var lead = own.Until > 0 && (own.Operation < 0 || left[own.Operation] > 0);
            var o = at[p] >= 0 ? at[p] : lead ? own.Operation : -1;
            if (o == -1)
            {
                running[p] = -1;
                continue;
            }

            var by = lead && own.Operation == o;
            var works = o < 0 || at[p] == o;
            var last = stretches.FindLastIndex(s => s.Person == p);
            if (last >= 0 && stretches[last] is var s && s.Until == t && s.Operation == o && s.ByLead == by && s.Works == works)
            {
                stretches[last] = s with { Until = next };
            }
            else
            {
                stretches.Add((p, o, t, next, by, works));
            }

            running[p] = at[p];
        }

        foreach (var crew in at.Where(o => o >= 0).GroupBy(o => o))
        {
            left[crew.Key] = Math.Max(0, left[crew.Key] - (crew.Count() * (next - t)));
        }
    }
}
