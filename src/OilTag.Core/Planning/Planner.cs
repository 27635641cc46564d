using System.Collections.Concurrent;
using System.Numerics;
using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>
/// Plans a shed: what is done in which session by whom, so that the milestones are as little late as can be. The same input and seed give the same plan.
/// </summary>
public sealed class Planner
{
    private const int Rounds = 12;

    // How many operations the end of a milestone counts as when the plan is set to where work will probably lie.
    private const int OfMilestone = 20;

    private readonly IReadOnlyList<PlanProblem> problems;
    private readonly PlanModel? model;
    private readonly PlanOrder? order;

    /// <summary>Checks the input and works out the order of work.</summary>
    /// <param name="input">What is planned.</param>
    /// <param name="seed">Seed of the search for a good order.</param>
    /// <param name="passes">How many orders are tried; null for the usual number.</param>
    /// <param name="time">Time that the search for a good order may take; null for as long as the passes take.</param>
    /// <param name="before">Ids of operations in the order of an earlier plan (<see cref="Policy"/>), which is kept where nothing clearly better is found.</param>
    public Planner(PlanInput input, int seed = 1, int? passes = null, TimeSpan? time = null, IReadOnlyList<string>? before = null)
    {
        ArgumentNullException.ThrowIfNull(input);
        Input = input;
        problems = PlanCheck.Of(input);
        if (problems.Any(p => p.Stops))
        {
            return;
        }

        model = PlanModel.Of(input, problems.Select(p => p.About).ToHashSet(StringComparer.Ordinal));
        order = PlanSearch.Best(model, seed, passes, time, before);
    }

    private Planner(PlanInput input, IReadOnlyList<string> given)
    {
        Input = input;
        problems = PlanCheck.Of(input);
        if (problems.Any(p => p.Stops))
        {
            return;
        }

        model = PlanModel.Of(input, problems.Select(p => p.About).ToHashSet(StringComparer.Ordinal));
        order = PlanSearch.Given(model, given);
    }

    /// <summary>A plan under an order that is given, for its runs alone: it has no latest starts and no schedule.</summary>
    internal static Planner Under(PlanInput input, IReadOnlyList<string> given) => new(input, given);

    /// <summary>What is planned.</summary>
    public PlanInput Input { get; }

    /// <summary>What is wrong or cannot be.</summary>
    public IReadOnlyList<PlanProblem> Problems => problems;

    /// <summary>True when something has to be put right before anything can be planned.</summary>
    public bool Stopped => model is null;

    /// <summary>Runs of this plan that nobody uses now: they are large, and are made once for as many as work at the same time.</summary>
    internal ConcurrentBag<PlanRun> Idle { get; } = [];

    internal PlanModel Model => model ?? throw new InvalidOperationException("The plan has problems that stop it.");

    internal PlanOrder Order => order ?? throw new InvalidOperationException("The plan has problems that stop it.");

    /// <summary>The order of work, as ids of operations: each takes what it wants before those after it. Empty when the plan is stopped.</summary>
    public IReadOnlyList<string> Policy => order is null ? [] : [.. order.List.Select(o => Input.Operations[o].Id)];

    /// <summary>
    /// The plan by expected values. With a forecast nothing begins before the day on which half of its runs have begun it, so that work stands where it will
    /// probably lie: expected values alone add up to less than what luck makes of them.
    /// </summary>
    /// <param name="forecast">What was simulated of this plan; null for expected values alone.</param>
    public PlanSchedule Schedule(PlanForecast? forecast = null)
    {
        if (Stopped)
        {
            return new PlanSchedule { Operations = [], Milestones = [], Problems = problems, DaysWithoutLimits = 0 };
        }

        var stretches = new List<Stretch>();
        var run = new PlanRun(Model) { Stretches = stretches };
        Order.Set(run);
        run.Expect(Order.List);
        var plain = Input.Operations.Select((_, i) => (Start: run.Start[i], Why: run.Why[i], Of: run.WhyOf[i])).ToArray();
        if (forecast is not null)
        {
            Settle(run, forecast);
        }

        var byOperation = stretches.ToLookup(s => s.Operation);
        var operations = Input.Operations.Select((o, i) => new ScheduledOperation
        {
            Id = o.Id,
            Start = Time(run.Start[i]),
            Finish = Time(run.Finish[i]),
            Latest = Input.Today.PlusDays(Order.Latest[i] / 1440),
            Stretches = [.. byOperation[i].Select(Work)],
            AsEstimated = run.Start[i] / 1440 == plain[i].Start / 1440 ? null : Time(plain[i].Start)?.Date,
            Reason = run.Finish[i] == PlanModel.Never && Model.Operations[i].LeftOut ? ReasonKind.Never : Kind(Why(i).Bind),
            ReasonId = Model.Operations[i].LeftOut ? null : About(Why(i).Bind, Why(i).Of),
        }).ToList();

        // What fixed it by expected values, where luck alone put it off further.
        (Bind Bind, int Of) Why(int i) =>
            run.Why[i] == Bind.Release && run.OperationRelease[i] > 0 ? (plain[i].Why, plain[i].Of) : (run.Why[i], run.WhyOf[i]);
        return new PlanSchedule
        {
            Operations = operations,
            Milestones = [.. Model.Milestones.Select((m, i) => Met(i, m, run))],
            Problems = [.. problems, .. Late(run)],
            DaysWithoutLimits = WithoutLimits(),
        };
    }

    // Begins everything where half of the runs have begun it, then moves the beginnings by what is between the end and the day by which half of the runs have
    // ended, a few times, and keeps the best of these: hands that are wanted twice push things further than either.
    private void Settle(PlanRun run, PlanForecast forecast)
    {
        int? Minute(LocalDate? day) => day is { } d ? Period.DaysBetween(Input.Today, d) * 1440 : null;
        var ends = forecast.Operations.Select(o => Minute(o.Even)).ToArray();
        var release = forecast.Operations.Select(o => Minute(o.Begun) ?? 0).ToArray();
        var counts = ends.Select(_ => 1).ToArray();
        var (best, least) = (release, long.MaxValue);

        // Something is the last of a milestone, and that ends when the milestone does, later than each of what it needs by itself.
        foreach (var (m, k) in Model.Milestones.Select((m, k) => (m, k)).Where(x => x.m.Operations.Length > 0))
        {
            var last = m.Operations.MaxBy(o => run.Finish[o]);
            counts[last] = OfMilestone;
            ends[last] = Minute(forecast.Milestones[k].Even.On) is { } met && !(ends[last] > met) ? met : ends[last];
        }
        for (var round = 0; round <= Rounds; round++)
        {
            (round == Rounds ? best : release).CopyTo(run.OperationRelease, 0);
            run.Expect(Order.List);
            if (round == Rounds)
            {
                return;
            }

            long off = 0;
            var next = (int[])release.Clone();
            for (var o = 0; o < ends.Length; o++)
            {
                if (ends[o] is { } end)
                {
                    var by = run.Finish[o] == PlanModel.Never ? end - Model.Horizon : end - (Math.Max(0, run.Finish[o] - 1) / 1440 * 1440);
                    off += counts[o] * Math.Abs(by / 1440);
                    next[o] = Math.Max(0, release[o] + by);
                }
            }

            if (off < least)
            {
                (best, least) = (release, off);
            }

            release = next;
        }
    }

    private ScheduledMilestone Met(int i, MilestoneModel m, PlanRun run)
    {
        if (m.Operations.Length == 0)
        {
            return new ScheduledMilestone(Input.Milestones[i].Id, Input.Today, null);
        }

        var last = m.Operations.MaxBy(o => run.Finish[o]);
        return new ScheduledMilestone(Input.Milestones[i].Id, Time(run.Finish[last])?.Date, Input.Operations[last].Id);
    }

    // What the plan cannot keep: packages open across a window, and what does not get done within the planned weeks.
    private IEnumerable<PlanProblem> Late(PlanRun run)
    {
        for (var p = 0; p < Model.Packages.Length; p++)
        {
            var (package, named) = (Model.Packages[p], Input.Packages[p]);
            if (run.PackageStart[p] < 0 || !package.Opens)
            {
                continue;
            }

            foreach (var (from, until) in package.Windows.Where(w => run.PackageStart[p] < w.Until && run.PackageFinish[p] > w.From))
            {
                var machine = Input.Machines[package.Machine];
                var why = machine.Windows!.First(w => w.When.From <= Input.Today.PlusDays(from / 1440) && w.When.Until >= Input.Today.PlusDays((until / 1440) - 1)).Why;
                yield return new PlanProblem(named.Id, package.Started
                    ? $"{named.Title} is begun and will not be done by {Input.Today.PlusDays(from / 1440):d MMMM yyyy}, when {machine.Name} must be whole: {why}."
                    : $"{named.Title} takes longer than {machine.Name} is free between its windows, so it lies across {why} on {Input.Today.PlusDays(from / 1440):d MMMM yyyy}.", false);
            }
        }

        foreach (var rest in PlanOpen.UnsafeRests(Input, [.. Enumerable.Range(0, Model.Operations.Length).Select(o => (Time(run.Start[o]), Time(run.Finish[o])))]))
        {
            yield return new PlanProblem(rest.Package, PlanReasons.Rest(rest, Input), false);
        }

        var at = Input.Packages.Select((p, i) => (p.Id, i)).ToDictionary(p => p.Id, p => p.i, StringComparer.Ordinal);
        foreach (var (named, p) in Input.Packages.Select((p, i) => (p, i)))
        {
            foreach (var other in named.UndoneBy.Select(u => at[u]).Where(other => run.PackageFinish[p] > 0 && run.PackageFinish[other] > run.PackageFinish[p]))
            {
                yield return new PlanProblem(named.Id, $"{named.Title} is planned before {Input.Packages[other].Title}, which will undo some of it. Do it after, or accept that it is done twice.", false);
            }
        }

        for (var o = 0; o < Model.Operations.Length; o++)
        {
            var op = Model.Operations[o];
            if (run.Finish[o] == PlanModel.Never && !op.LeftOut && !Array.Exists(op.Before, b => run.Finish[b.Operation] == PlanModel.Never))
            {
                yield return new PlanProblem(Input.Operations[o].Id, $"{Input.Operations[o].Name} does not get done within the planned weeks: {Words(o, run)}.", false);
            }
        }
    }

    private string Words(int o, PlanRun run) => Kind(run.Why[o]) switch
    {
        ReasonKind.Hands or ReasonKind.Absent => "who it wants has no hours left",
        ReasonKind.Thing => "what it wants is always in use or away",
        ReasonKind.Weather => "the weather never allows it",
        ReasonKind.OnDay => "what comes before it is not done by its day, or nobody is free on it",
        ReasonKind.TooShort => "no session has enough time left for it in one go",
        ReasonKind.Window => "the windows leave no session",
        _ => "it would have to start after the last session",
    };

    private LocalDateTime? Time(int minute) => minute == PlanModel.Never ? null : Input.Today.AtMidnight().PlusMinutes(minute);

    private WorkStretch Work(Stretch s)
    {
        var session = Input.Sessions[Model.SessionOf[s.Session]];
        var people = new List<string>();
        for (var w = 0; w < s.Crew.Length; w++)
        {
            for (var bits = s.Crew[w]; bits != 0; bits &= bits - 1)
            {
                people.Add(Input.People[Model.PersonOf[(w << 6) + BitOperations.TrailingZeroCount(bits)]].Id);
            }
        }

        return new WorkStretch(session.On, Time(s.From)!.Value.TimeOfDay, Time(s.Until)!.Value.TimeOfDay, session.Site, people, [.. s.Things.Select(u =>
        {
            var thing = Array.FindLastIndex(Model.ThingFirst, f => f <= u);
            while (Model.ThingFirst[thing + 1] == Model.ThingFirst[thing])
            {
                thing--;
            }

            return new ThingUse(Input.Things[thing].Id, u - Model.ThingFirst[thing] + 1);
        })]);
    }

    private static ReasonKind Kind(Bind bind) => bind switch
    {
        Bind.Follows => ReasonKind.Follows,
        Bind.Demand => ReasonKind.Demand,
        Bind.Release => ReasonKind.PutOff,
        Bind.Window => ReasonKind.Window,
        Bind.Turn => ReasonKind.Turn,
        Bind.Hands => ReasonKind.Hands,
        Bind.Absent => ReasonKind.Absent,
        Bind.Thing => ReasonKind.Thing,
        Bind.Weather => ReasonKind.Weather,
        Bind.Day => ReasonKind.OnDay,
        Bind.TooShort => ReasonKind.TooShort,
        _ => ReasonKind.AtOnce,
    };

    private string? About(Bind bind, int of) => of < 0 ? null : bind switch
    {
        Bind.Follows or Bind.Hands or Bind.Thing => Input.Operations[of].Id,
        Bind.Demand => Input.Demands[of].Id,
        Bind.Absent => Model.Skills[of],
        Bind.Turn => Input.Packages[of].Id,
        _ => null,
    };

    // Each operation by its largest crew in every session of its site, as if nobody and nothing had to be waited for.
    private double WithoutLimits()
    {
        var done = new int[Model.Operations.Length];
        foreach (var o in Model.Order)
        {
            var op = Model.Operations[o];
            var at = Math.Max(0, Model.Packages[op.Package].Release);
            foreach (var (before, lag) in op.Before)
            {
                at = Math.Max(at, done[before] + lag.Days.Mean);
            }

            at += (int)(op.Elapsed.Mean * op.Chance);
            var left = (int)Math.Ceiling(op.Work.Mean * op.Chance / op.MaxCrew);
            for (var s = 0; s < Model.Sessions && left > 0; s++)
            {
                if (Model.SessionSite[s] == op.Site && Model.SessionEnd[s] > at)
                {
                    var from = Math.Max(at, Model.SessionStart[s]);
                    var minutes = Math.Min(left, Model.SessionEnd[s] - from);
                    left -= minutes;
                    at = from + minutes;
                }
            }

            done[o] = at;
        }

        return done.DefaultIfEmpty().Max() / 1440.0;
    }
}
