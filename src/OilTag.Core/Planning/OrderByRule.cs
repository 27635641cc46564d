using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>By when something has to be ordered.</summary>
/// <param name="Demand">Demand.</param>
/// <param name="Milestone">The milestone that it would make worse first; empty when it is only for a package that is put off.</param>
/// <param name="On">The last day on which asking for it leaves the milestone's day as it is in the chosen share of the runs; before today when it is
/// overdue. Null when it does not matter within the planned weeks.</param>
/// <param name="Overdue">True when that day is past: each day of waiting costs.</param>
/// <param name="Cost">By how many days the milestone's date at the chosen confidence is later when it is asked for today than if it were here.</param>
/// <param name="Slack">Days from today to that day; null when it does not matter within the planned weeks.</param>
public sealed record OrderBy(string Demand, string Milestone, LocalDate? On, bool Overdue, int Cost, int? Slack)
{
    /// <summary>The package that is put off and should be able to begin on its day; empty when it is for a milestone.</summary>
    public string Package { get; init; } = string.Empty;

    /// <summary>Days by which chance in the runs may have moved the day, forward or back: half of its 95 % interval; nought when nothing is left to chance.</summary>
    public int Within { get; init; }

    /// <summary>What it is for, in words.</summary>
    /// <param name="input">The plan.</param>
    public string For(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        return Package.Length == 0 ? input.Milestones.First(m => m.Id == Milestone).Name
            : input.Packages.First(p => p.Id == Package) is var put ? $"{put.Title}, put off to {PlanReasons.Day(put.NotBefore!.Value, input.Today)}" : string.Empty;
    }

    /// <summary>Days in which an order is pressing.</summary>
    public const int Pressing = 14;

    /// <summary>True when it is overdue or falls due within so many days.</summary>
    public bool IsDueWithin(int days) => Overdue || Slack <= days;
}

/// <summary>
/// The last day on which ordering does no harm, at a chosen confidence. Each drawn run of the plan has such a day of its own: the last day of asking on
/// which the milestone is met no later than if the thing were here. It is sought by halving, which takes for granted that asking later never makes the
/// milestone sooner. The rule's day is the one that as many of the runs as the confidence says can bear.
/// </summary>
public static class OrderByRule
{
    /// <summary>Runs for each day that is tried, when nothing else is said.</summary>
    public const int UsualRuns = 200;

    private const int PutOffDraws = 2000;

    private const int FirstStep = 4;

    /// <summary>Works it out for every demand that is not ordered and that a milestone needs.</summary>
    /// <param name="planner">The plan.</param>
    /// <param name="confidence">Share of runs in which the milestone is met on its day, 0.5 to 0.99.</param>
    /// <param name="runs">Runs for each day that is tried.</param>
    /// <param name="seed">Seed.</param>
    /// <param name="progress">Told the share that is done.</param>
    /// <param name="ct">Ends it.</param>
    /// <returns>Overdue ones first, then by day.</returns>
    public static IReadOnlyList<OrderBy> Of(Planner planner, double confidence = 0.8, int runs = UsualRuns, int seed = 1, Action<double>? progress = null, CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(planner);
        ArgumentOutOfRangeException.ThrowIfLessThan(confidence, 0.5);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(confidence, 0.99);
        ArgumentOutOfRangeException.ThrowIfLessThan(runs, 1);
        if (planner.Stopped)
        {
            return [];
        }

        var input = planner.Input;
        var found = new List<OrderBy>();
        var open = Enumerable.Range(0, input.Demands.Count).Where(d => input.Demands[d].Ordered is null).ToList();
        var serves = Serves(planner);
        for (var i = 0; i < open.Count; i++)
        {
            var best = (OrderBy?)null;
            foreach (var milestone in serves[open[i]])
            {
                ct.ThrowIfCancellationRequested();
                var one = One(planner, open[i], milestone, confidence, runs, seed, ct);
                if (best is null || (one.On ?? LocalDate.MaxIsoValue) < (best.On ?? LocalDate.MaxIsoValue) || (one.On == best.On && one.Cost > best.Cost))
                {
                    best = one;
                }
            }

            if ((best ?? ForPutOff(input, input.Demands[open[i]], confidence, seed)) is { } order)
            {
                found.Add(order);
            }

            progress?.Invoke((i + 1) / (double)open.Count);
        }

        return [.. found.OrderByDescending(o => o.Overdue).ThenBy(o => o.On ?? LocalDate.MaxIsoValue).ThenByDescending(o => o.Cost).ThenBy(o => o.Demand, StringComparer.Ordinal)];
    }

    /// <summary>The share of runs in which asking for a demand on a day leaves the milestone's day as if the demand were here.</summary>
    /// <param name="planner">The plan.</param>
    /// <param name="demand">Demand.</param>
    /// <param name="milestone">Milestone.</param>
    /// <param name="day">Days from today, below nought for the past.</param>
    /// <param name="runs">Runs.</param>
    /// <param name="seed">Seed.</param>
    /// <returns>0 to 1.</returns>
    public static double Harmless(Planner planner, string demand, string milestone, int day, int runs, int seed = 1)
    {
        ArgumentNullException.ThrowIfNull(planner);
        var d = planner.Input.Demands.ToList().FindIndex(x => x.Id == demand);
        var k = planner.Input.Milestones.ToList().FindIndex(x => x.Id == milestone);
        var harmless = new bool[runs];
        var list = Upto(planner, k);
        PlanSimulation.Each(planner, [.. Enumerable.Range(0, runs)], seed, (run, i) =>
        {
            var here = Day(planner, run, list, d, k, seed, i, -Longest(planner.Model.Demands[d]));
            harmless[i] = Day(planner, run, list, d, k, seed, i, day) <= here;
        });
        return harmless.Count(h => h) / (double)runs;
    }

    private static OrderBy One(Planner planner, int d, int k, double confidence, int runs, int seed, CancellationToken ct)
    {
        var input = planner.Input;
        var longest = Longest(planner.Model.Demands[d]);
        var beyond = (planner.Model.Horizon / 1440) + 1;
        var list = Upto(planner, k);
        int[] waiting = [.. list.Where(o => planner.Model.Operations[o].Demands.Contains(d))];
        var (here, today, bears) = (new int[runs], new int[runs], new int[runs]);
        PlanSimulation.Each(planner, [.. Enumerable.Range(0, runs)], seed, (run, i) =>
        {
            here[i] = Day(planner, run, list, d, k, seed, i, -longest);

            // When it comes before anything that wants it can start, the run is the same to the minute.
            var first = int.MaxValue;
            foreach (var o in waiting)
            {
                first = Math.Min(first, run.Start[o]);
            }

            bears[i] = first == int.MaxValue ? -longest : Math.Max(-longest, (int)Math.Floor((first - run.LeadTook[d]) / 1440.0));
            today[i] = here[i];
        }, ct);

        // Only the days that can bear least are wanted to the day: those of the rank that is told, and of the ranks around it.
        var at = Math.Max(0, (int)Math.Ceiling(confidence * runs) - 1);
        var width = (int)Math.Ceiling(1.96 * Math.Sqrt(runs * confidence * (1 - confidence)));
        var wanted = Math.Min(runs, runs - at + width);
        int[] byLeast = [.. Enumerable.Range(0, runs).OrderBy(i => bears[i])];
        void Bear(int[] some) =>
            PlanSimulation.Each(
                planner,
                some,
                seed,
                (run, i) => (today[i], bears[i]) = Bears(day => Day(planner, run, list, d, k, seed, i, day), here[i], bears[i], beyond),
                ct);
        int[] low = [.. byLeast.Take(2 * wanted)];
        Bear(low);
        var most = low.Select(i => bears[i]).Order().ElementAt(wanted - 1);
        Bear([.. byLeast.Skip(low.Length).Where(i => bears[i] < Math.Max(0, most))]);
        Array.Sort(here);
        Array.Sort(today);
        Array.Sort(bears);
        var id = input.Demands[d].Id;
        var stone = input.Milestones[k].Id;
        if (here[at] == int.MaxValue || bears[runs - 1 - at] == beyond)
        {
            return new OrderBy(id, stone, null, false, 0, null);
        }

        // The ranks between which the true day lies in 95 of 100 cases.
        var slack = bears[runs - 1 - at];
        var within = (bears[Math.Min(runs - 1, runs - 1 - at + width)] - bears[Math.Max(0, runs - 1 - at - width)] + 1) / 2;
        var cost = today[at] == int.MaxValue ? (planner.Model.Horizon / 1440) - here[at] : today[at] - here[at];
        return new OrderBy(id, stone, input.Today.PlusDays(slack), slack < 0, cost, slack) { Within = within };
    }

    // When a run meets the milestone if it is asked for today, and the last day of asking that it can bear: in steps that double, then by halves.
    private static (int Today, int Bears) Bears(Func<int, int> when, int here, int good, int beyond)
    {
        var today = good >= 0 ? here : when(0);
        var bad = today > here ? 0 : beyond;
        good = today > here ? good : Math.Max(0, good);
        for (var step = FirstStep; good + step < bad; step *= 2)
        {
            if (when(good + step) > here)
            {
                bad = good + step;
                break;
            }

            good += step;
        }

        if (bad == beyond && when(beyond) <= here)
        {
            return (today, beyond);
        }

        while (bad - good > 1)
        {
            var middle = good + ((bad - good) / 2);
            (good, bad) = when(middle) <= here ? (middle, bad) : (good, middle);
        }

        return (today, good);
    }

    // The order of work up to the last that a milestone needs: what comes after takes only what is left and does not matter to it.
    private static int[] Upto(Planner planner, int k)
    {
        var needed = planner.Model.Milestones[k].Operations.ToHashSet();
        return planner.Order.List[..(Array.FindLastIndex(planner.Order.List, needed.Contains) + 1)];
    }

    // Asked for so long ago it is here in every run.
    private static int Longest(DemandModel demand) => (int)Math.Ceiling((demand.Lead.High + demand.Enquiry.High) / 1440) + 1;

    // The day on which one run meets a milestone when a demand is asked for on a day; int.MaxValue beyond the planned weeks. A later hour of the same day is not worse.
    private static int Day(Planner planner, PlanRun run, int[] list, int d, int k, int seed, int i, int asked)
    {
        run.Order[d] = asked * 1440;
        run.Draw(list, seed, i);
        run.Order[d] = int.MinValue;
        var minute = PlanSimulation.Finish(planner.Model, run, k);
        return minute == PlanModel.Never ? int.MaxValue : Math.Max(0, minute - 1) / 1440;
    }

    // What no milestone needs is ordered so that the package that was put off can begin on its day, as after a repair for now: by the sum of asking and
    // lead time at the confidence, from drawn values.
    private static OrderBy? ForPutOff(PlanInput input, PlanDemand demand, double confidence, int seed)
    {
        var waiting = input.Operations.Where(o => o.Demands.Contains(demand.Id)).Select(o => o.Package).ToHashSet(StringComparer.Ordinal);
        if (input.Packages.Where(p => waiting.Contains(p.Id) && p.NotBefore > input.Today).MinBy(p => p.NotBefore) is not { NotBefore: { } begin } package)
        {
            return null;
        }

        var (enquiry, lead) = (Spread.Of(demand.Enquiry.Low, demand.Enquiry.Likely, demand.Enquiry.High), Spread.Of(demand.Lead.Low, demand.Lead.Likely, demand.Lead.High));
        var dice = new SeededRandom((ulong)seed);
        var days = new double[PutOffDraws];
        for (var i = 0; i < days.Length; i++)
        {
            days[i] = enquiry.At(dice.Unit()) + lead.At(dice.Unit());
        }

        Array.Sort(days);
        var takes = (int)Math.Ceiling(days[(int)Math.Ceiling(confidence * days.Length) - 1]);
        var slack = Period.DaysBetween(input.Today, begin) - takes;
        return new OrderBy(demand.Id, string.Empty, input.Today.PlusDays(slack), slack < 0, Math.Max(0, -slack), slack) { Package = package.Id };
    }

    // Which milestones have to wait when a demand is late: those that need an operation that waits for it, or something that follows.
    private static List<int>[] Serves(Planner planner)
    {
        var m = planner.Model;
        var waits = new HashSet<int>[m.Operations.Length];
        foreach (var o in m.Order)
        {
            waits[o] ??= [];
            waits[o].UnionWith(m.Operations[o].Demands);
            foreach (var (next, _) in m.Operations[o].After)
            {
                (waits[next] ??= []).UnionWith(waits[o]);
            }
        }

        return [.. Enumerable.Range(0, m.Demands.Length).Select(d => Enumerable.Range(0, m.Milestones.Length).Where(k => m.Milestones[k].Operations.Any(o => waits[o].Contains(d))).ToList())];
    }
}
