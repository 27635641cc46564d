using System.Diagnostics;

namespace OilTag.Core.Planning;

/// <summary>The order in which a plan's operations are placed, and what goes with it.</summary>
internal sealed record PlanOrder(int[] List, int[] PackageSpan, int[] PackageRelease, int[][] PackageAfter, int[] Latest)
{
    /// <summary>By how much the chance of each aim, milestones first, differs between two searches: the standard deviation, 0 to 1.</summary>
    public double[] Apart { get; init; } = [];

    /// <summary>The same of windows, by machine and the minute from which it must be whole.</summary>
    public IReadOnlyDictionary<(int Machine, int From), double> WindowsApart { get; init; } = new Dictionary<(int Machine, int From), double>();

    public void Set(PlanRun run)
    {
        PackageSpan.CopyTo(run.PackageSpan, 0);
        PackageRelease.CopyTo(run.PackageRelease, 0);
        PackageAfter.CopyTo(run.PackageAfter, 0);
    }
}

/// <summary>
/// Looks for the order of work that meets the milestones, and has the machines whole in their windows, as surely as can be. Each order is a policy: an
/// operation takes what it wants before those after it, whatever has happened so far. An order is judged by drawn runs, the same for all that are tried
/// (<see cref="PlanAims"/>). First come orders by how late each operation may start, from the beginning and from the end; then the best is changed where
/// something waits, milestone by milestone, package by package and by chance. One that is hardly better does not take its place.
/// </summary>
internal sealed class PlanSearch
{
    private readonly PlanModel m;
    private readonly PlanRun run;
    private readonly PlanAims aims;
    private readonly int[][] after;
    private readonly List<int>[] turns;
    private readonly int n;
    private Judged? judged;
    private PlanOrder? best;

    private PlanSearch(PlanModel model)
    {
        m = model;
        n = model.Operations.Length;
        run = new PlanRun(model);
        aims = new PlanAims(model);
        after = [.. model.Packages.Select(_ => Array.Empty<int>())];
        turns = [.. model.Packages.Select(_ => new List<int>())];
    }

    /// <summary>Passes when nothing else is said: fewer for large plans, so that it stays quick.</summary>
    public static int UsualPasses(PlanModel model) => Math.Clamp(72_000 / Math.Max(1, model.Operations.Length), 24, 320);

    /// <summary>Looks for the best order.</summary>
    /// <param name="model">What is planned.</param>
    /// <param name="seed">Seed of the search.</param>
    /// <param name="passes">How many orders are tried; null for the usual number.</param>
    /// <param name="time">Time that it may take; null for as long as the passes take.</param>
    /// <param name="before">Ids of operations in the order of an earlier plan, which is kept where nothing clearly better is found; null for none.</param>
    public static PlanOrder Best(PlanModel model, int seed, int? passes, TimeSpan? time, IReadOnlyList<string>? before)
    {
        var search = new PlanSearch(model);
        return search.Find(seed, passes ?? (time is null ? UsualPasses(model) : int.MaxValue), time, before);
    }

    /// <summary>An order that is given, ready to be placed: nothing is looked for, and latest starts are not worked out.</summary>
    /// <param name="model">What is planned.</param>
    /// <param name="given">Ids of operations in their order; those that are not in it are put where they can start.</param>
    public static PlanOrder Given(PlanModel model, IReadOnlyList<string> given)
    {
        var search = new PlanSearch(model);
        var latest = search.RoughLatest();
        search.TakeTurns(latest);
        return search.Settled(search.ListBy(search.As(given, latest))) with { Apart = new double[search.aims.Count] };
    }

    private PlanOrder Find(int seed, int passes, TimeSpan? time, IReadOnlyList<string>? before)
    {
        var clock = Stopwatch.StartNew();
        var left = passes;
        bool More() => left-- > 0 && !(clock.Elapsed > time);
        var latest = RoughLatest();
        TakeTurns(latest);
        if (passes <= 1)
        {
            // One order alone is compared with none, so that nothing has to be judged.
            best = Settled(ListBy(before is null ? latest : As(before, latest)));
            return best with { Latest = LatestStarts(), Apart = new double[aims.Count] };
        }

        if (before is not null)
        {
            Try(ListBy(As(before, latest)));
            left--;
        }

        var (kept, was) = (best, judged);

        if (best is null || More())
        {
            Try(ListBy(latest));
        }

        // From the end: what finished last comes first; then from the beginning in the order of the latest starts.
        for (var i = 0; i < 3 && More(); i++)
        {
            Try(ListBy(Backward()));
        }

        // Every aim is given way to by much, by less and by little, then made to wait; the rest is left to chance.
        foreach (var share in new[] { 0.5, 0.2, 0.08, 0.03, -0.1 })
        {
            for (var k = 0; k < aims.Count && More(); k++)
            {
                var keys = Keys();
                Favour(keys, aims.Operations(k), share * n);
                Try(ListBy(keys));
            }
        }

        // Twice from there, each with other dice: the better one is taken, and by how much they differ says what chance in the search is worth.
        var (from, fromJudged) = (best, judged);
        var half = left / 2;
        var dice = new SeededRandom((ulong)seed);
        while (left > half && More())
        {
            Shake(ref dice);
        }

        var (first, firstJudged) = (best, judged);
        (best, judged) = (from, fromJudged);
        dice = new SeededRandom((ulong)seed ^ (1UL << 40));
        while (More())
        {
            Shake(ref dice);
        }

        double[] apart = [.. firstJudged!.Chances.Zip(judged!.Chances, (a, b) => Math.Abs(a - b) / Math.Sqrt(2))];
        if (PlanAims.Gain(judged.Costs, firstJudged.Costs, judged.Costs.Length).Gain > 0)
        {
            (best, judged) = (first, firstJudged);
        }

        // An earlier order is left only for one that is clearly better.
        if (kept is not null && PlanAims.Gain(was!.Costs, judged!.Costs, was.Costs.Length) is var (gain, error) && gain <= Math.Max(2 * error, aims.Hardly))
        {
            (best, judged) = (kept, was);
        }

        return best! with { Latest = LatestStarts(), Apart = apart, WindowsApart = aims.OfWindows(apart) };
    }

    // One of the changes: where something waits, all that an aim needs, a package, or a little of everything.
    private void Change(double[] keys, ref SeededRandom dice)
    {
        switch (dice.Below(8))
        {
            case 0 or 1 when Unblock(keys, ref dice):
                break;
            case 2 when aims.Count > 0:
                Favour(keys, aims.Operations(dice.Below(aims.Count)), Step(ref dice));
                break;
            case 3 or 4:
                Favour(keys, OfPackage(dice.Below(m.Packages.Length)), Step(ref dice));
                break;
            case 5 or 6:
                Favour(keys, [dice.Below(n)], Step(ref dice));
                break;
            default:
                var width = n * (0.01 + (0.06 * dice.Unit()));
                for (var o = 0; o < n; o++)
                {
                    keys[o] += width * (dice.Unit() - 0.5);
                }

                break;
        }
    }

    // Mostly a few places, at times far, forward rather than back.
    private double Step(ref SeededRandom dice)
    {
        var far = n * Math.Pow(10, -2.5 * dice.Unit());
        return dice.Below(3) == 0 ? -far : far;
    }

    private void Shake(ref SeededRandom dice)
    {
        var keys = Keys();
        Change(keys, ref dice);
        Try(ListBy(keys));
    }

    // Where each operation stands in the best order.
    private double[] Keys()
    {
        var keys = new double[n];
        for (var i = 0; i < n; i++)
        {
            keys[best!.List[i]] = i;
        }

        return keys;
    }

    // Where an earlier plan has an operation; one that it does not know stands before what it knows to start later.
    private double[] As(IReadOnlyList<string> before, double[] latest)
    {
        var at = before.Select((id, i) => (id, i)).ToDictionary(x => x.id, x => x.i, StringComparer.Ordinal);
        var keys = new double[n];
        var known = Enumerable.Range(0, n).Where(o => at.ContainsKey(m.Input.Operations[o].Id)).ToList();
        for (var o = 0; o < n; o++)
        {
            if (at.TryGetValue(m.Input.Operations[o].Id, out var i))
            {
                keys[o] = i;
            }
            else
            {
                var later = known.Where(k => latest[k] > latest[o]).Select(k => at[m.Input.Operations[k].Id]).ToList();
                keys[o] = later.Count > 0 ? later.Min() - 0.5 : before.Count;
            }
        }

        return keys;
    }

    private int[] OfPackage(int package) => [.. Enumerable.Range(0, n).Where(o => m.Operations[o].Package == package)];

    // Some operations come earlier, and with them what they follow; or later, when the step is below nought.
    private void Favour(double[] keys, int[] operations, double step)
    {
        foreach (var o in operations)
        {
            keys[o] -= step;
        }

        foreach (var o in m.Order.Reverse())
        {
            foreach (var (p, _) in m.Operations[o].Before)
            {
                keys[p] = Math.Min(keys[p], keys[o] - 0.01);
            }
        }
    }

    // Of the best plan run from its end; what starts later in the plan itself does no harm where it is.
    private int[] LatestStarts()
    {
        var backward = Backward();
        return [.. Enumerable.Range(0, n).Select(o => (int)Math.Clamp(run.Start[o] == PlanModel.Never ? backward[o] : Math.Max(backward[o], run.Start[o]), 0, m.Horizon))];
    }

    // Along the chain that fixes a late milestone: what waits there for somebody, or for a thing, is put before what has them now.
    private bool Unblock(double[] keys, ref SeededRandom dice)
    {
        if (aims.Count == 0)
        {
            return false;
        }

        // One that is not sure, the more so the less sure it is.
        var aim = 0;
        for (var (k, least) = (0, double.MaxValue); k < aims.Count; k++)
        {
            var drawn = (0.05 + judged!.Chances[k]) * (0.05 + dice.Unit());
            if (aims.Operations(k).Length > 0 && drawn < least)
            {
                (aim, least) = (k, drawn);
            }
        }

        if (aims.Operations(aim).Length == 0)
        {
            return false;
        }

        // The chain of one of the runs that judged the best order.
        best!.Set(run);
        if (aims.Draws > 0)
        {
            run.Draw(best.List, PlanAims.Luck, dice.Below(aims.Draws));
        }
        else
        {
            run.Expect(best.List);
        }

        var links = new List<(int Waits, int For)>();
        var at = aims.Operations(aim).MaxBy(o => run.Finish[o]);
        for (var steps = 0; at >= 0 && steps <= n; steps++)
        {
            var (why, of) = (run.Why[at], run.WhyOf[at]);
            if (why is Bind.Hands or Bind.Thing && of >= 0)
            {
                links.Add((at, of));
            }

            at = why is Bind.Follows or Bind.Hands or Bind.Thing ? of : -1;
        }

        if (links.Count == 0)
        {
            return false;
        }

        // One link mostly, now and then several.
        var share = dice.Below(3) == 0 ? 0.5 : 0;
        var one = dice.Below(links.Count);
        for (var i = 0; i < links.Count; i++)
        {
            if (i == one || dice.Unit() < share)
            {
                var (waits, of) = links[i];
                var key = Math.Min(keys[waits], keys[of] - 0.5);
                keys[waits] = key;

                // What it follows has to come before it, and so before what it overtakes.
                var before = new Stack<int>([waits]);
                while (before.TryPop(out var o))
                {
                    foreach (var (p, _) in m.Operations[o].Before)
                    {
                        if (keys[p] > key)
                        {
                            keys[p] = key - 0.01;
                            before.Push(p);
                        }
                    }
                }
            }
        }

        return true;
    }

    private void Try(int[] list)
    {
        var order = Settled(list);
        if (aims.Judge(run, order, judged?.Costs) is not { } now)
        {
            return;
        }

        if (judged is not null && PlanAims.Gain(judged.Costs, now.Costs, now.Costs.Length) is var (gain, error) && gain <= Math.Max(0.2 * error, aims.Hardly / 1000))
        {
            return;
        }

        judged = now;
        best = order;
    }

    private PlanOrder Settled(int[] list)
    {
        Settle(list);
        return new PlanOrder(list, [.. run.PackageSpan], [.. run.PackageRelease], [.. after], []);
    }

    // Places a list until no package that opens its machine lies across a window.
    private void Settle(int[] list)
    {
        after.CopyTo(run.PackageAfter, 0);
        Array.Clear(run.PackageRelease);
        for (var round = 0; ; round++)
        {
            run.Expect(list);
            var again = false;
            for (var p = 0; p < m.Packages.Length; p++)
            {
                var package = m.Packages[p];
                if (!package.Opens || package.Started || run.PackageStart[p] < 0 || run.PackageFinish[p] == PlanModel.Never)
                {
                    continue;
                }

                foreach (var (from, until) in package.Windows)
                {
                    if (run.PackageStart[p] < until && run.PackageFinish[p] > from)
                    {
                        again = true;
                        run.PackageSpan[p] = Math.Max(run.PackageSpan[p], run.PackageFinish[p] - run.PackageStart[p]);
                        if (round >= 6)
                        {
                            run.PackageRelease[p] = Math.Max(run.PackageRelease[p], until);
                        }

                        break;
                    }
                }
            }

            if (!again || round > 40)
            {
                return;
            }
        }
    }

    // Latest start of each operation when the best plan so far is run from its end: every milestone on its day, or when it is met at the soonest.
    private double[] Backward()
    {
        best!.Set(run);
        run.Expect(best.List);
        var end = 0;
        for (var o = 0; o < n; o++)
        {
            end = run.Finish[o] == PlanModel.Never ? m.Horizon : Math.Max(end, run.Finish[o]);
        }

        var due = new int[n];
        Array.Fill(due, int.MaxValue);
        for (var k = 0; k < aims.Count; k++)
        {
            var on = Math.Min(m.Horizon, Math.Max(aims.Due(k), aims.Finish(run, k)));
            end = Math.Max(end, on);
            foreach (var o in aims.Operations(k))
            {
                due[o] = Math.Min(due[o], on);
            }
        }

        // What no milestone needs may go on as long as anything does.
        for (var o = 0; o < n; o++)
        {
            due[o] = Math.Min(due[o], Math.Min(end, m.Horizon));
        }

        var finish = run.Finish.ToArray();
        var back = m.Mirror(due);
        var mirrored = new PlanRun(back);
        var keys = new double[n];
        for (var o = 0; o < n; o++)
        {
            keys[o] = -(double)Math.Min(finish[o], m.Horizon);
        }

        mirrored.Expect(ListBy(keys, back));
        var latest = new double[n];
        for (var o = 0; o < n; o++)
        {
            latest[o] = mirrored.Finish[o] == PlanModel.Never ? 0 : m.Horizon - mirrored.Finish[o];
        }

        return latest;
    }

    // As if there were hands enough: each operation as long as its crew takes in the sessions there are.
    private double[] RoughLatest()
    {
        var minutes = Math.Max(1, Enumerable.Range(0, m.Sessions).Sum(s => (double)(m.SessionEnd[s] - m.SessionStart[s])));
        var stretch = m.Horizon / minutes;
        var latest = new double[n];
        Array.Fill(latest, m.Horizon);
        for (var k = 0; k < aims.Count; k++)
        {
            foreach (var o in aims.Operations(k))
            {
                latest[o] = Math.Min(latest[o], aims.Due(k));
            }
        }

        var order = m.Order;
        for (var i = n - 1; i >= 0; i--)
        {
            var o = order[i];
            var op = m.Operations[o];
            foreach (var (s, lag) in op.After)
            {
                latest[o] = Math.Min(latest[o], latest[s] - lag.Days.Mean);
            }

            var crew = Math.Clamp(op.MaxCrew, op.MinCrew, Math.Max(op.MinCrew, 3));
            latest[o] -= (op.Elapsed.Mean * op.Chance) + (op.Work.Mean * op.Chance * stretch / crew);
        }

        return latest;
    }

    // With a limit on what is open at once, the packages of an assembly take turns in the order of their latest starts; those begun come first.
    private void TakeTurns(double[] latest)
    {
        if (m.Input.OpenLimit is not { } limit)
        {
            return;
        }

        var first = new double[m.Packages.Length];
        Array.Fill(first, double.MaxValue);
        for (var o = 0; o < n; o++)
        {
            var p = m.Operations[o].Package;
            first[p] = Math.Min(first[p], latest[o]);
        }

        limit = Math.Max(1, limit);
        var reach = new PackageReach(m);
        var started = Enumerable.Range(0, m.Packages.Length).Where(p => m.Packages[p].Started).ToList();

        // What is begun comes first, then what it waits for, then the rest.
        List<IGrouping<(int, string), int>> Assemblies() => [.. reach.Sorted(p => (m.Packages[p].Started ? 0 : started.Exists(q => reach.Has(p, q)) ? 1 : 2, first[p]))
            .Where(p => m.Input.Packages[p].Assembly.Length > 0 && first[p] < double.MaxValue)
            .GroupBy(p => (m.Packages[p].Machine, m.Input.Packages[p].Assembly))];
        bool Wait(int package, int turn)
        {
            if (after[package].Contains(turn))
            {
                return true;
            }

            if (reach.Has(package, turn))
            {
                return false;
            }

            after[package] = [.. after[package], turn];
            turns[turn].Add(package);
            reach.Add(turn, package);
            return true;
        }

        // What was begun beyond the limit is finished before anything else is begun.
        foreach (var assembly in Assemblies())
        {
            var begun = assembly.Where(p => m.Packages[p].Started).ToList();
            foreach (var package in assembly.Where(p => !m.Packages[p].Started))
            {
                foreach (var turn in begun.Take(begun.Count - limit + 1))
                {
                    Wait(package, turn);
                }
            }
        }

        // Then one order for the packages of all machines, each after those it depends on, so that turns never wait for each other in a circle.
        foreach (var assembly in Assemblies())
        {
            // Each takes the turn of the one that has been open longest; what waits for it cannot be waited for and stays open beside it.
            var open = assembly.Where(p => m.Packages[p].Started).ToList();
            foreach (var package in assembly.Where(p => !m.Packages[p].Started))
            {
                for (var i = 0; i < open.Count && open.Count >= limit;)
                {
                    if (Wait(package, open[i]))
                    {
                        open.RemoveAt(i);
                    }
                    else
                    {
                        i++;
                    }
                }

                open.Add(package);
            }
        }
    }

    private int[] ListBy(double[] keys) => ListBy(keys, m);

    // All operations, each after what it follows and after the package whose turn comes first: by the machine's standing, then by the key.
    private int[] ListBy(double[] keys, PlanModel model)
    {
        var ready = new PriorityQueue<int, (int, double, int)>();
        var left = new int[n];
        var inPackage = new int[model.Packages.Length];
        var waiting = new List<int>?[model.Packages.Length];
        for (var o = 0; o < n; o++)
        {
            inPackage[model.Operations[o].Package]++;
        }

        bool Held(int p) => !model.Mirrored && Array.Exists(after[p], a => inPackage[a] > 0);
        void Ready(int o)
        {
            var p = model.Operations[o].Package;
            if (Held(p))
            {
                (waiting[p] ??= []).Add(o);
            }
            else
            {
                ready.Enqueue(o, (model.Packages[p].Band, keys[o], o));
            }
        }

        for (var o = 0; o < n; o++)
        {
            left[o] = model.Operations[o].Before.Length;
            if (left[o] == 0)
            {
                Ready(o);
            }
        }

        var list = new int[n];
        for (var i = 0; i < n; i++)
        {
            var o = list[i] = ready.Dequeue();
            var p = model.Operations[o].Package;
            if (--inPackage[p] == 0)
            {
                foreach (var next in turns[p].Where(next => !Held(next)))
                {
                    foreach (var w in waiting[next] ?? [])
                    {
                        ready.Enqueue(w, (model.Packages[next].Band, keys[w], w));
                    }

                    waiting[next] = null;
                }
            }

            foreach (var (s, _) in model.Operations[o].After)
            {
                if (--left[s] == 0)
                {
                    Ready(s);
                }
            }
        }

        return list;
    }
}

/// <summary>Which package must come after which, through their operations and the turns that were given.</summary>
internal sealed class PackageReach
{
    private readonly HashSet<int>[] after;

    public PackageReach(PlanModel model)
    {
        after = [.. model.Packages.Select(_ => new HashSet<int>())];
        foreach (var o in model.Operations)
        {
            foreach (var (next, _) in o.After)
            {
                if (model.Operations[next].Package != o.Package)
                {
                    after[o.Package].Add(model.Operations[next].Package);
                }
            }
        }
    }

    public void Add(int first, int then) => after[first].Add(then);

    /// <summary>True when something of a later package comes after something of an earlier one.</summary>
    public bool Has(int first, int then)
    {
        var seen = new HashSet<int> { first };
        var open = new Stack<int>([first]);
        while (open.TryPop(out var p))
        {
            foreach (var next in after[p])
            {
                if (next == then)
                {
                    return true;
                }

                if (seen.Add(next))
                {
                    open.Push(next);
                }
            }
        }

        return false;
    }

    /// <summary>All packages in the order of a key, but each after those it depends on; those that depend on each other come when their key says.</summary>
    public List<int> Sorted(Func<int, (int, double)> key)
    {
        var left = new int[after.Length];
        foreach (var next in after.SelectMany(a => a))
        {
            left[next]++;
        }

        (int, double)[] keys = [.. Enumerable.Range(0, after.Length).Select(key)];
        var waiting = new SortedSet<((int, double) Key, int Package)>(keys.Select((k, p) => (k, p)));
        var ready = new SortedSet<((int, double) Key, int Package)>(waiting.Where(w => left[w.Package] == 0));
        var sorted = new List<int>();
        while (waiting.Count > 0)
        {
            var next = ready.Count > 0 ? ready.Min : waiting.Min;
            ready.Remove(next);
            waiting.Remove(next);
            sorted.Add(next.Package);
            foreach (var p in after[next.Package])
            {
                if (--left[p] == 0 && waiting.Contains((keys[p], p)))
                {
                    ready.Add((keys[p], p));
                }
            }
        }

        return sorted;
    }
}
