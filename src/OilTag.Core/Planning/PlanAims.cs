using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>
/// What an order of work is judged by: the milestones, and the windows in which machines must be whole that packages begun by now could still lie across.
/// What counts is how surely each is met in drawn runs, by its weight; then by how much it is late, then how soon all is done. The runs are the same for
/// every order, so that two orders differ only by what they do. Where nothing is left to chance, the run by expected values judges alone.
/// </summary>
internal sealed class PlanAims
{
    // Drawn runs that judge an order: fewer where each takes longer.
    private const int MostDraws = 256;

    private const int LeastDraws = 48;

    /// <summary>A window counts like a milestone that cannot move.</summary>
    public const double WindowWeight = 3;

    // Runs that are made before it is looked whether an order can still be worth the rest.
    private const int Batch = 16;

    // Runs that are made beside each other, where there are processors for it.
    private const int Beside = 4;

    // A run that meets an aim by a day tells hardly more than one that misses it by a day: what lies within so many days counts in part.
    private const double Edge = 6;

    private const double LateDay = 0.0003;

    private const double AnyDay = 0.00005;

    private readonly PlanModel m;
    private readonly int milestones;
    private readonly (int Machine, int From, int[] Packages, int[] Operations)[] windows;
    private readonly double[] weights;
    private readonly bool certain;
    private readonly int draws;

    // Made when the first order is judged: they are large.
    private PlanRun[] runs = [];

    public PlanAims(PlanModel model)
    {
        m = model;
        milestones = model.Milestones.Length;
        windows = [.. Enumerable.Range(0, model.Packages.Length)
            .Where(p => model.Packages[p].Opens)
            .SelectMany(p => model.Packages[p].Windows.Where(w => w.From > 0).Select(w => (Package: p, w.From)))
            .GroupBy(x => (model.Packages[x.Package].Machine, x.From))
            .OrderBy(g => g.Key.From).ThenBy(g => g.Key.Machine)
            .Select(g =>
            {
                int[] packages = [.. g.Select(x => x.Package).Distinct().Order()];
                return (g.Key.Machine, g.Key.From, packages, (int[])[.. Enumerable.Range(0, model.Operations.Length).Where(o => packages.Contains(model.Operations[o].Package) && model.Packages[model.Operations[o].Package].Started)]);
            })];
        weights = [.. model.Milestones.Select(x => x.Weight), .. windows.Select(_ => WindowWeight)];
        certain = Certain(model);
        draws = Math.Clamp(80_000 / Math.Max(1, model.Operations.Length), LeastDraws, MostDraws) / Batch * Batch;
    }

    public int Count => milestones + windows.Length;

    /// <summary>What belongs to the windows among values of all aims, by machine and the minute from which it must be whole.</summary>
    public IReadOnlyDictionary<(int Machine, int From), double> OfWindows(double[] values) =>
        windows.Select((w, k) => (w.Machine, w.From, Value: values[milestones + k])).ToDictionary(w => (w.Machine, w.From), w => w.Value);

    /// <summary>A difference of cost that is hardly one: a hundredth of the chance of what counts most.</summary>
    public double Hardly => certain ? 0 : 0.01 * weights.Append(1).Max();

    /// <summary>How many drawn runs judge.</summary>
    public int Draws => certain ? 0 : draws;

    /// <summary>The operations that an aim needs; for a window those of packages that are begun.</summary>
    public int[] Operations(int k) => k < milestones ? m.Milestones[k].Operations : windows[k - milestones].Operations;

    /// <summary>The minute before which an aim must be met.</summary>
    public int Due(int k) => k < milestones ? m.Milestones[k].Due : windows[k - milestones].From;

    /// <summary>When an aim is met in a run; for a window when the last package that is open then is closed, 0 when none is.</summary>
    public int Finish(PlanRun run, int k)
    {
        var finish = 0;
        if (k < milestones)
        {
            foreach (var o in m.Milestones[k].Operations)
            {
                finish = Math.Max(finish, run.Finish[o]);
            }

            return finish;
        }

        var (_, from, packages, _) = windows[k - milestones];
        foreach (var p in packages)
        {
            if (run.PackageFinish[p] > from && (m.Packages[p].Started || (run.PackageStart[p] >= 0 && run.PackageStart[p] < from)))
            {
                finish = Math.Max(finish, run.PackageFinish[p]);
            }
        }

        return finish;
    }

    /// <summary>Judges an order.</summary>
    /// <param name="expected">The run of it by expected values.</param>
    /// <param name="order">The order.</param>
    /// <param name="best">What the best order so far costs in each run; null for none.</param>
    /// <returns>What it costs in each run and how sure each aim is; null when the first runs tell that it is no better than the best.</returns>
    public Judged? Judge(PlanRun expected, PlanOrder order, double[]? best)
    {
        if (certain)
        {
            return new Judged([Cost(expected)], [.. Enumerable.Range(0, Count).Select(k => Finish(expected, k) <= Due(k) ? 1.0 : 0.0)]);
        }

        runs = runs.Length > 0 ? runs : [.. Enumerable.Range(0, Beside).Select(_ => new PlanRun(m))];
        foreach (var run in runs)
        {
            order.Set(run);
        }

        var costs = new double[draws];
        var met = new bool[draws * Count];
        for (var done = Batch; done <= draws; done += Batch)
        {
            var until = done;
            Parallel.For(0, runs.Length, r =>
            {
                for (var i = until - Batch + r; i < until; i += runs.Length)
                {
                    runs[r].Draw(order.List, Luck, i);
                    costs[i] = Cost(runs[r]);
                    for (var k = 0; k < Count; k++)
                    {
                        met[(i * Count) + k] = Finish(runs[r], k) <= Due(k);
                    }
                }
            });

            if (best is not null && done < draws && Gain(best, costs, done) is var (gain, error) && (gain < -error || (gain <= 0 && done >= draws / 4)))
            {
                return null;
            }
        }

        return new Judged(costs, [.. Enumerable.Range(0, Count).Select(k => Enumerable.Range(0, draws).Count(i => met[(i * Count) + k]) / (double)draws)]);
    }

    /// <summary>By how much an order costs less than another in the first runs of both, and the standard error of that.</summary>
    public static (double Gain, double Error) Gain(double[] was, double[] now, int count)
    {
        var (sum, square) = (0.0, 0.0);
        for (var i = 0; i < count; i++)
        {
            sum += was[i] - now[i];
            square += (was[i] - now[i]) * (was[i] - now[i]);
        }

        var mean = sum / count;
        return (mean, Math.Sqrt(Math.Max(0, (square / count) - (mean * mean)) / count));
    }

    /// <summary>Seed of the runs that judge.</summary>
    public const int Luck = -1;

    private double Cost(PlanRun run)
    {
        double cost = 0;
        for (var k = 0; k < Count; k++)
        {
            var finish = Finish(run, k);
            var late = ((finish == PlanModel.Never ? m.Horizon : finish) - Due(k)) / 1440.0;
            cost += weights[k] * ((certain ? 0 : finish == 0 ? 0 : Math.Clamp((late + Edge) / (2 * Edge), 0, 1)) + (LateDay * Math.Max(0, late)) + (finish == PlanModel.Never ? 1 : 0));
            cost += k < milestones ? weights[k] * AnyDay * Math.Min(finish, m.Horizon) / 1440.0 : 0;
        }

        long sum = 0;
        for (var o = 0; o < m.Operations.Length; o++)
        {
            sum += Math.Min(run.Finish[o], m.Horizon);
        }

        return cost + (AnyDay * 0.1 * sum / 1440 / Math.Max(1, m.Operations.Length));
    }

    private static bool Certain(PlanModel m)
    {
        static bool One(in Spread s) => s.Split > 1;
        return m.Operations.All(o => o.Chance >= 1 && One(o.Work) && One(o.Elapsed) && !o.NeedsWeather && o.Before.All(b => One(b.Lag.Days)))
            && m.Demands.All(d => One(d.Lead) && One(d.Enquiry))
            && m.Coming.All(c => c is 0 or 65536);
    }
}

/// <summary>What an order costs in each of the runs that judge it, and how sure each aim is.</summary>
internal sealed record Judged(double[] Costs, double[] Chances)
{
    public double Cost { get; } = Costs.Average();
}
