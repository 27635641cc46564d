using System.Collections.Concurrent;
using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>A day that is met with a given certainty, and how far chance in the simulation may have moved it.</summary>
/// <param name="On">The day; null when it lies beyond the planned weeks.</param>
/// <param name="From">Earliest day of the 95 % interval; null when beyond the planned weeks.</param>
/// <param name="Until">Latest day of the 95 % interval; null when beyond the planned weeks.</param>
public sealed record SimulatedDay(LocalDate? On, LocalDate? From, LocalDate? Until);

/// <summary>What moves a milestone's date, and by how much.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Id">Operation, demand or skill.</param>
/// <param name="Days">By how many days the milestone is later when it is one standard deviation worse, by linear regression over the runs.</param>
/// <param name="Error">Standard error of that, days; what is under three of them is not told from chance.</param>
public sealed record Driver(DriverKind Kind, string Id, double Days, double Error);

/// <summary>What a driver is.</summary>
public enum DriverKind
{
    /// <summary>The hours or days of an operation, undiscovered damage among them.</summary>
    Operation,

    /// <summary>The lead time of a demand.</summary>
    Demand,

    /// <summary>How often those who hold a skill come.</summary>
    Skill,
}

/// <summary>In how many runs something is done on a day.</summary>
/// <param name="Day">Day.</param>
/// <param name="Runs">Runs.</param>
public sealed record SpreadDay(LocalDate Day, int Runs);

/// <summary>How sure a milestone is.</summary>
public sealed record SimulatedMilestone
{
    // Up to so large a standard error a chance is told as one number.
    private const double Sure = 0.015;

    /// <summary>Milestone.</summary>
    public required string Id { get; init; }

    /// <summary>Share of the runs in which it is met on its day or before.</summary>
    public required double Chance { get; init; }

    /// <summary>The chance in tenths, as rivets show it; ten only when it was met in every run.</summary>
    public int InTen => Tenths(Chance);

    /// <summary>The chance in words: "6 in 10", or "6 to 7 in 10" where it is not so sure and its 95 % interval holds both.</summary>
    public string Words => Told(Chance, ChanceError);

    /// <summary>A chance in words: "6 in 10", or "6 to 7 in 10" where it is not so sure and its 95 % interval holds both.</summary>
    /// <param name="chance">Chance, 0 to 1.</param>
    /// <param name="error">Its standard error.</param>
    internal static string Told(double chance, double error)
    {
        var from = Tenths(Math.Max(0, chance - (2 * error)));
        var until = chance < 1 ? Tenths(Math.Min(0.999, chance + (2 * error))) : 10;
        return error > Sure && from < until ? $"{from} to {until} in 10" : $"{Tenths(chance)} in 10";
    }

    /// <summary>A chance in tenths, as rivets show it.</summary>
    public static int Tenths(double chance) => chance < 1 ? Math.Min(9, (int)Math.Round(chance * 10, MidpointRounding.AwayFromZero)) : 10;

    /// <summary>Standard error of the chance: √(p(1 − p)/n) of the n runs, and by how much it differs between two searches for the order of work, squared and added.</summary>
    public required double ChanceError { get; init; }

    /// <summary>Day by which it is met in half of the runs.</summary>
    public required SimulatedDay Even { get; init; }

    /// <summary>Day by which it is met in eight runs of ten.</summary>
    public required SimulatedDay Safe { get; init; }

    /// <summary>Day by which it is met in nine runs of ten.</summary>
    public required SimulatedDay Surer { get; init; }

    /// <summary>In how many runs it is met on each day, counted from today.</summary>
    public required IReadOnlyList<SpreadDay> Spread { get; init; }

    /// <summary>Mean of the finish, in days from today; null when some runs do not finish within the planned weeks.</summary>
    public required double? MeanDays { get; init; }

    /// <summary>What moves its date most.</summary>
    public required IReadOnlyList<Driver> Drivers { get; init; }
}

/// <summary>How an operation runs over all runs.</summary>
/// <param name="Id">Operation.</param>
/// <param name="Critical">Share of the runs in which it lies on the chain that fixes the date of a milestone, the highest over the milestones.</param>
/// <param name="Even">Day by which it is done in half of the runs; null beyond the planned weeks.</param>
/// <param name="Safe">Day by which it is done in eight runs of ten; null beyond the planned weeks.</param>
/// <param name="Begun">Day by which it is begun in half of the runs, of the first 256; null beyond the planned weeks.</param>
public sealed record SimulatedOperation(string Id, double Critical, LocalDate? Even, LocalDate? Safe, LocalDate? Begun = null);

/// <summary>How often something that has to come fixes a date.</summary>
/// <param name="Id">Demand.</param>
/// <param name="Critical">Share of the runs in which the chain that fixes the date of a milestone waits for it, the highest over the milestones.</param>
public sealed record SimulatedDemand(string Id, double Critical);

/// <summary>How sure it is that a machine is whole when a window begins.</summary>
/// <param name="Machine">Machine.</param>
/// <param name="Window">The window.</param>
/// <param name="Chance">Share of the runs in which no package that opens it is open then.</param>
/// <param name="ChanceError">Standard error of the chance, with how much it differs between two searches for the order of work.</param>
public sealed record SimulatedWindow(string Machine, PlanWindow Window, double Chance, double ChanceError = 0)
{
    /// <summary>The chance in words.</summary>
    public string Words => SimulatedMilestone.Told(Chance, ChanceError);
}

/// <summary>What many runs of the plan with drawn hours, lead times, damage, weather and attendance say.</summary>
public sealed record PlanForecast
{
    /// <summary>How many runs.</summary>
    public required int Runs { get; init; }

    /// <summary>Seed of the runs.</summary>
    public required int Seed { get; init; }

    /// <summary>Milestones, in the order of the input.</summary>
    public required IReadOnlyList<SimulatedMilestone> Milestones { get; init; }

    /// <summary>Operations, in the order of the input.</summary>
    public required IReadOnlyList<SimulatedOperation> Operations { get; init; }

    /// <summary>Windows of machines that packages open.</summary>
    public required IReadOnlyList<SimulatedWindow> Windows { get; init; }

    /// <summary>Demands that fix the date of a milestone in some runs.</summary>
    public IReadOnlyList<SimulatedDemand> Demands { get; init; } = [];
}

/// <summary>
/// Runs a plan many times with drawn values. Hours (those of a first guess together with their like, <see cref="PlanOperation.Like"/>), days and lead times are drawn from triangular ranges, people come by their chance, the weather is
/// as likely as its month, damage is found or not. Every value is drawn from the seed, the run and the id of what it is for, so that the same plan
/// gives the same answer on any number of processors, and two plans that differ in one thing are compared under the same luck.
/// </summary>
public static class PlanSimulation
{
    /// <summary>Most runs.</summary>
    public const int MostRuns = 100_000;

    private const int MostDrivers = 12;

    // Runs that are made in one go by one of those who work: few where each takes long or there are few.
    private const int Many = 32;

    private const int Few = 8;

    /// <summary>Simulates a plan.</summary>
    /// <param name="planner">The plan.</param>
    /// <param name="runs">How many runs, from 1.</param>
    /// <param name="seed">Seed.</param>
    /// <param name="progress">Told the share that is done, from several threads.</param>
    /// <param name="ct">Ends it.</param>
    public static PlanForecast Run(Planner planner, int runs, int seed = 1, Action<double>? progress = null, CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(planner);
        ArgumentOutOfRangeException.ThrowIfLessThan(runs, 1);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(runs, MostRuns);
        var m = planner.Model;
        var until = Reach(planner);
        var all = Batches(planner, runs, () => new Tally(m, until), (tally, run, i) =>
        {
            run.Draw(planner.Order.List, seed, i);
            tally.Add(run, i);
        }, progress, ct);
        var total = all[0];
        foreach (var other in all.Skip(1))
        {
            total.Add(other);
        }

        return total.Sum(planner, runs, seed);
    }

    /// <summary>Has something done with some of the runs, several at a time; the run has the plan's order, and draws what it is asked to.</summary>
    internal static void Each(Planner planner, int[] numbers, int seed, Action<PlanRun, int> each, CancellationToken ct = default) =>
        Batches(planner, numbers.Length, () => 0, (_, run, i) => each(run, numbers[i]), null, ct, Few);

    internal static int Finish(PlanModel m, PlanRun run, int milestone)
    {
        var finish = 0;
        foreach (var o in m.Milestones[milestone].Operations)
        {
            finish = Math.Max(finish, run.Finish[o]);
        }

        return finish;
    }

    // Sessions before the last milestone is met by expected values: those in which it matters who comes.
    private static int Reach(Planner planner)
    {
        var m = planner.Model;
        var run = new PlanRun(m);
        planner.Order.Set(run);
        run.Expect(planner.Order.List);
        var last = Enumerable.Range(0, m.Milestones.Length).Select(k => Finish(m, run, k)).Where(f => f != PlanModel.Never).DefaultIfEmpty().Max();
        return Array.FindLastIndex(m.SessionStart, s => s < last) + 1;
    }

    private static List<T> Batches<T>(Planner planner, int runs, Func<T> make, Action<T, PlanRun, int> each, Action<double>? progress, CancellationToken ct, int batch = Many)
    {
        var done = 0;
        var tallies = new ConcurrentBag<T>();

        // As many of these as work at the same time; one that is put back is used again.
        var idle = new ConcurrentBag<(PlanRun Run, T Tally)>();
        (PlanRun, T) Begin()
        {
            if (idle.TryTake(out var worker))
            {
                return worker;
            }

            var run = planner.Idle.TryTake(out var used) ? used : new PlanRun(planner.Model);
            planner.Order.Set(run);
            var tally = make();
            tallies.Add(tally);
            return (run, tally);
        }

        Parallel.For(0, (runs + batch - 1) / batch, new ParallelOptions { CancellationToken = ct }, Begin, (number, _, worker) =>
        {
            var (run, tally) = worker;
            var until = Math.Min(runs, (number + 1) * batch);
            for (var i = number * batch; i < until; i++)
            {
                each(tally, run, i);
            }

            progress?.Invoke(Interlocked.Add(ref done, until - (number * batch)) / (double)runs);
            return worker;
        }, idle.Add);
        foreach (var (run, _) in idle)
        {
            planner.Idle.Add(run);
        }

        return [.. tallies];
    }

    // Sums over runs, all of them whole numbers, so that they are the same in whatever order the runs were made.
    private sealed class Tally
    {
        private const int Keep = 16;
        private readonly PlanModel m;
        private readonly int n;
        private readonly int days;
        private readonly int factors;
        private readonly int[][] finishDay;
        private readonly int[][] critical;
        private readonly int[][] awaited;
        private readonly int[] operationDay;
        private readonly List<short[]> starts = [];
        private readonly int[] kept;
        private readonly long[] sum;
        private readonly long[] square;
        private readonly long[][] cross;
        private readonly long[] finishSum;
        private readonly long[] finishSquare;
        private readonly int[] unfinished;
        private readonly int[] values;
        private readonly int comingUntil;
        private readonly int[] onChain;
        private readonly int[][] windowOpen;
        private int chain;
        private int keeps;

        public Tally(PlanModel model, int until)
        {
            m = model;
            n = m.Operations.Length;
            days = (m.Horizon / 1440) + 2;
            factors = n + m.Demands.Length + m.Skills.Length;
            comingUntil = until;
            var k = m.Milestones.Length;
            finishDay = [.. Enumerable.Range(0, k).Select(_ => new int[days + 1])];
            critical = [.. Enumerable.Range(0, k).Select(_ => new int[n])];
            awaited = [.. Enumerable.Range(0, k).Select(_ => new int[m.Demands.Length])];
            operationDay = new int[n * (days + 1)];
            kept = new int[Keep * n];
            sum = new long[factors];
            square = new long[factors];
            cross = [.. Enumerable.Range(0, k).Select(_ => new long[factors])];
            finishSum = new long[k];
            finishSquare = new long[k];
            unfinished = new int[k];
            values = new int[factors];
            onChain = new int[n];
            windowOpen = [.. m.Input.Machines.Select(x => new int[(x.Windows ?? []).Count])];
        }

        public void Add(PlanRun run, int number)
        {
            if (number < SeededRandom.Strata)
            {
                starts.Add([.. run.Start.Select(s => (short)(s == PlanModel.Never ? days : Math.Min(days - 1, s / 1440)))]);
            }

            if (keeps == Keep)
            {
                Count();
            }

            var at = keeps++ * n;
            for (var o = 0; o < n; o++)
            {
                kept[at + o] = DayOf(run.Finish[o]);
            }

            run.Took.CopyTo(values, 0);
            run.LeadTook.CopyTo(values, n);
            for (var k = 0; k < m.Skills.Length; k++)
            {
                values[n + m.Demands.Length + k] = run.Came(k, comingUntil);
            }

            for (var f = 0; f < factors; f++)
            {
                sum[f] += values[f];
                square[f] += (long)values[f] * values[f];
            }

            for (var k = 0; k < m.Milestones.Length; k++)
            {
                var finish = Finish(m, run, k);
                finishDay[k][DayOf(finish)]++;
                if (finish == PlanModel.Never)
                {
                    unfinished[k]++;
                    finish = m.Horizon;
                }

                finishSum[k] += finish;
                finishSquare[k] += (long)finish * finish;
                var into = cross[k];
                for (var f = 0; f < factors; f++)
                {
                    into[f] += (long)values[f] * finish;
                }

                Trace(run, k);
            }

            CountWindows(run);
        }

        // The days of some runs are counted together, operation by operation: that stays within a few pages of memory.
        private void Count()
        {
            for (var o = 0; o < n; o++)
            {
                var counts = operationDay.AsSpan(o * (days + 1), days + 1);
                for (var i = 0; i < keeps; i++)
                {
                    counts[kept[(i * n) + o]]++;
                }
            }

            keeps = 0;
        }

        private int DayOf(int minute) => minute == PlanModel.Never ? days : Math.Min(days - 1, Math.Max(0, minute - 1) / 1440);

        // From the last operation of a milestone back along what fixed each start.
        private void Trace(PlanRun run, int k)
        {
            chain++;
            var last = -1;
            foreach (var o in m.Milestones[k].Operations)
            {
                if (last < 0 || run.Finish[o] > run.Finish[last])
                {
                    last = o;
                }
            }

            while (last >= 0 && onChain[last] != chain)
            {
                onChain[last] = chain;
                critical[k][last]++;

                // What had the hands or the thing; else, through the sessions in which who is wanted was not there, what it could not start before.
                var (why, of) = run.Why[last] is Bind.Hands or Bind.Thing && run.WhyOf[last] >= 0 ? (run.Why[last], run.WhyOf[last]) : (run.Since[last], run.SinceOf[last]);
                if (why == Bind.Demand)
                {
                    awaited[k][of]++;
                }

                last = why is Bind.Follows or Bind.Hands or Bind.Thing ? of : why == Bind.Turn ? LastOf(run, of) : -1;
            }
        }

        private int LastOf(PlanRun run, int package)
        {
            var last = -1;
            for (var o = 0; o < n; o++)
            {
                if (m.Operations[o].Package == package && (last < 0 || run.Finish[o] > run.Finish[last]))
                {
                    last = o;
                }
            }

            return last;
        }

        private void CountWindows(PlanRun run)
        {
            for (var machine = 0; machine < windowOpen.Length; machine++)
            {
                var windows = m.Input.Machines[machine].Windows;
                for (var w = 0; w < windowOpen[machine].Length; w++)
                {
                    var from = Period.DaysBetween(m.Input.Today, windows![w].When.From) * 1440;
                    for (var p = 0; p < m.Packages.Length; p++)
                    {
                        if (m.Packages[p].Machine == machine && m.Packages[p].Opens && run.PackageStart[p] >= 0 && run.PackageStart[p] < from && run.PackageFinish[p] > from)
                        {
                            windowOpen[machine][w]++;
                            break;
                        }
                    }
                }
            }
        }

        public void Add(Tally other)
        {
            other.Count();
            void Ints(int[] a, int[] b)
            {
                for (var i = 0; i < a.Length; i++)
                {
                    a[i] += b[i];
                }
            }

            void Longs(long[] a, long[] b)
            {
                for (var i = 0; i < a.Length; i++)
                {
                    a[i] += b[i];
                }
            }

            for (var k = 0; k < finishDay.Length; k++)
            {
                Ints(finishDay[k], other.finishDay[k]);
                Ints(critical[k], other.critical[k]);
                Ints(awaited[k], other.awaited[k]);
                Longs(cross[k], other.cross[k]);
            }

            for (var x = 0; x < windowOpen.Length; x++)
            {
                Ints(windowOpen[x], other.windowOpen[x]);
            }

            Ints(operationDay, other.operationDay);
            starts.AddRange(other.starts);
            Ints(unfinished, other.unfinished);
            Longs(sum, other.sum);
            Longs(square, other.square);
            Longs(finishSum, other.finishSum);
            Longs(finishSquare, other.finishSquare);
        }

        public PlanForecast Sum(Planner planner, int runs, int seed)
        {
            Count();
            var input = planner.Input;
            LocalDate? Day(int d) => d >= days ? null : input.Today.PlusDays(d);
            var milestones = input.Milestones.Select((stone, k) =>
            {
                var counts = finishDay[k];
                var due = Period.DaysBetween(input.Today, stone.On);
                var met = due < 0 ? 0 : counts.Take(Math.Min(days, due + 1)).Sum();
                var chance = met / (double)runs;
                return new SimulatedMilestone
                {
                    Id = stone.Id,
                    Chance = chance,
                    ChanceError = Math.Sqrt((chance * (1 - chance) / runs) + (planner.Order.Apart[k] * planner.Order.Apart[k])),
                    Even = At(counts, 0.5),
                    Safe = At(counts, 0.8),
                    Surer = At(counts, 0.9),
                    Spread = [.. Enumerable.Range(0, days).Where(d => counts[d] > 0).Select(d => new SpreadDay(input.Today.PlusDays(d), counts[d]))],
                    MeanDays = unfinished[k] > 0 ? null : finishSum[k] / (double)runs / 1440,
                    Drivers = Drivers(input, k, runs),
                };
            }).ToList();

            // The value below which a share of the runs lies, and the ranks between which the true one lies in 95 of 100 cases.
            SimulatedDay At(int[] counts, double share)
            {
                var middle = (int)Math.Ceiling(share * runs);
                var width = 1.96 * Math.Sqrt(runs * share * (1 - share));
                return new SimulatedDay(Day(Rank(counts, middle)), Day(Rank(counts, Math.Max(1, (int)Math.Floor((share * runs) - width)))), Day(Rank(counts, Math.Min(runs, (int)Math.Ceiling((share * runs) + width)))));
            }

            return new PlanForecast
            {
                Runs = runs,
                Seed = seed,
                Milestones = milestones,
                Operations = [.. input.Operations.Select((o, i) => new SimulatedOperation(
                    o.Id,
                    critical.Select(c => c[i]).DefaultIfEmpty().Max() / (double)runs,
                    Day(Rank(operationDay.AsSpan(i * (days + 1), days + 1), (int)Math.Ceiling(0.5 * runs))),
                    Day(Rank(operationDay.AsSpan(i * (days + 1), days + 1), (int)Math.Ceiling(0.8 * runs))),
                    Day(starts.Select(s => s[i]).Order().ElementAt((starts.Count - 1) / 2))))],
                Demands = [.. input.Demands.Select((d, i) => new SimulatedDemand(d.Id, awaited.Select(a => a[i]).DefaultIfEmpty().Max() / (double)runs)).Where(d => d.Critical > 0)],
                Windows = [.. input.Machines.SelectMany((x, i) => (x.Windows ?? []).Select((w, j) => (Machine: x, Window: w, At: (i, j))))
                    .Where(w => w.Window.When.From > input.Today && Array.Exists(m.Packages, p => p.Opens && p.Machine == w.At.i))
                    .Select(w =>
                    {
                        var chance = 1 - (windowOpen[w.At.i][w.At.j] / (double)runs);
                        var apart = planner.Order.WindowsApart.GetValueOrDefault(
                            (w.At.i, Period.DaysBetween(input.Today, w.Window.When.From) * 1440));
                        return new SimulatedWindow(
                            w.Machine.Id,
                            w.Window,
                            chance,
                            Math.Sqrt((chance * (1 - chance) / runs) + (apart * apart)));
                    })],
            };
        }

        private static int Rank(ReadOnlySpan<int> counts, int rank)
        {
            var seen = 0;
            for (var d = 0; d < counts.Length; d++)
            {
                seen += counts[d];
                if (seen >= rank)
                {
                    return d;
                }
            }

            return counts.Length - 1;
        }

        private List<Driver> Drivers(PlanInput input, int k, int runs)
        {
            var drivers = new List<Driver>();
            if (runs < 30)
            {
                return drivers;
            }

            var mean = finishSum[k] / (double)runs;
            var variance = (finishSquare[k] / (double)runs) - (mean * mean);
            if (variance < 1)
            {
                return drivers;
            }

            for (var f = 0; f < factors; f++)
            {
                var average = sum[f] / (double)runs;
                var spread = (square[f] / (double)runs) - (average * average);
                if (spread <= 1e-6 * Math.Max(1, average))
                {
                    continue;
                }

                var correlation = Math.Clamp(((cross[k][f] / (double)runs) - (average * mean)) / Math.Sqrt(spread * variance), -1, 1);
                var (kind, id) = f < n ? (DriverKind.Operation, input.Operations[f].Id)
                    : f < n + m.Demands.Length ? (DriverKind.Demand, input.Demands[f - n].Id)
                    : (DriverKind.Skill, m.Skills[f - n - m.Demands.Length]);

                // More hours and longer leads make it later, more who come make it sooner.
                var later = (kind == DriverKind.Skill ? -correlation : correlation) * Math.Sqrt(variance) / 1440;
                var error = Math.Sqrt((1 - (correlation * correlation)) * variance / (runs - 2)) / 1440;
                if (later > 3 * error)
                {
                    drivers.Add(new Driver(kind, id, later, error));
                }
            }

            return [.. drivers.OrderByDescending(d => d.Days).ThenBy(d => d.Id, StringComparer.Ordinal).Take(MostDrivers)];
        }
    }
}
