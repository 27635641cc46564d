using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>What a run of readings over minutes shows.</summary>
/// <param name="Change">Last less first, in SI units.</param>
/// <param name="ChangePercent">The same in percent of the first; null when that is nought.</param>
/// <param name="OutAt">Minutes at which it first leaves the limits, or null when it stays inside.</param>
/// <param name="Settles">The value that it settles at, in SI units; null when it has not settled or does not follow such a curve.</param>
/// <param name="TimeConstant">Minutes in which about two thirds of the change is done, likewise.</param>
/// <param name="Working">How it was worked out.</param>
public sealed record SeriesResult(double Change, double? ChangePercent, double? OutAt, double? Settles, double? TimeConstant, Working Working);

/// <summary>
/// What readings over minutes do: how far they move, when they leave the limits (straight between two readings), and where they settle, from
/// y = S + (y₀ − S) e^(−t/τ) by least squares. A winding that warms follows that curve: common practice.
/// </summary>
public static class SeriesRule
{
    /// <summary>Fewest readings from which a curve is fitted.</summary>
    public const int LeastForCurve = 5;

    /// <summary>A curve that explains less than this share of the spread is not told.</summary>
    public const double LeastShare = 0.95;

    private const string Source = "Leaves the limits: straight between the two readings. Settles: y = S + (y₀ − S) e^(−t/τ) by least squares over τ; told from five readings, when the run lasted at least 1.5 τ and the curve explains 95 % of the spread (common practice).";

    /// <summary>Looks at one run.</summary>
    /// <param name="run">Minutes and values in SI units, two or more, at different minutes.</param>
    /// <param name="low">Lower limit in SI units, or null.</param>
    /// <param name="high">Upper limit in SI units, or null.</param>
    /// <param name="unit">The unit to write values in.</param>
    /// <returns>The result, or null with fewer than two readings.</returns>
    public static SeriesResult? Of(IReadOnlyList<(double Minutes, double Value)> run, double? low, double? high, Unit unit)
    {
        ArgumentNullException.ThrowIfNull(run);
        ArgumentNullException.ThrowIfNull(unit);
        var points = run.OrderBy(p => p.Minutes).ToList();
        if (points.Count < 2 || points[0].Minutes >= points[^1].Minutes)
        {
            return null;
        }

        string In(double si) => MeasureFormat.In(si, unit);
        string By(double si) => MeasureFormat.Number(Math.Abs(si) / unit.Factor, unit.Decimals) + "\u00A0" + unit.Symbol;
        string Minutes(double m) => MeasureFormat.Number(m, m < 10 ? 1 : 0) + "\u00A0min";
        var (first, last) = (points[0], points[^1]);
        var change = last.Value - first.Value;
        double? percent = unit.Offset == 0 && first.Value != 0 ? 100 * change / Math.Abs(first.Value) : null;
        var steps = new List<string>
        {
            $"{points.Count} readings over {Minutes(last.Minutes - first.Minutes)}: {In(first.Value)} at {Minutes(first.Minutes)}, {In(last.Value)} at {Minutes(last.Minutes)}.",
        };
        double? outAt = null;
        for (var i = 0; i < points.Count && outAt is null; i++)
        {
            var past = low is { } l && points[i].Value < l ? l : high is { } h && points[i].Value > h ? h : (double?)null;
            if (past is { } limit)
            {
                outAt = i == 0 ? points[0].Minutes
                    : points[i - 1].Minutes + ((limit - points[i - 1].Value) / (points[i].Value - points[i - 1].Value) * (points[i].Minutes - points[i - 1].Minutes));
                steps.Add(i == 0 ? $"It is outside the limits from the first reading." : $"It passes {In(limit)} after {Minutes(outAt.Value)}, between {In(points[i - 1].Value)} at {Minutes(points[i - 1].Minutes)} and {In(points[i].Value)} at {Minutes(points[i].Minutes)}.");
            }
        }

        var (settles, tau) = Curve(points);
        if (settles is { } s)
        {
            steps.Add($"It settles near {MeasureFormat.Significant(unit.FromSi(s), 3)}\u00A0{unit.Symbol}; two thirds of the change is done in {Minutes(tau!.Value)}.");
        }
        else if (points.Count >= LeastForCurve && change != 0)
        {
            steps.Add("It has not settled by the end, or does not settle on a curve: run it longer.");
        }

        var result = change == 0 ? $"Stays at {In(first.Value)}." : $"{(change < 0 ? "Falls" : "Rises")} by {By(change)}{(percent is { } p ? $" ({MeasureFormat.Number(Math.Abs(p), 0)} %)" : string.Empty)} in {Minutes(last.Minutes - first.Minutes)}{(outAt is { } o ? $"; outside its limits {(o <= first.Minutes ? "from the start" : "after " + Minutes(o))}" : low is null && high is null ? string.Empty : "; inside its limits all the time")}.";
        return new SeriesResult(change, percent, outAt, settles, tau, new Working(result, steps, Source, []));
    }

    // For each τ the best S and height are linear; τ is searched on a grid that grows by a fixed ratio, then between its neighbours.
    private static (double? Settles, double? Tau) Curve(List<(double Minutes, double Value)> p)
    {
        var span = p[^1].Minutes - p[0].Minutes;
        var mean = p.Average(x => x.Value);
        var all = p.Sum(x => (x.Value - mean) * (x.Value - mean));
        if (p.Count < LeastForCurve || all <= 0)
        {
            return (null, null);
        }

        (double Left, double Settles, double Tau) Fit(double tau)
        {
            var e = p.ConvertAll(x => Math.Exp(-(x.Minutes - p[0].Minutes) / tau));
            var meanE = e.Average();
            var see = e.Sum(x => (x - meanE) * (x - meanE));
            if (see <= 0)
            {
                return (double.MaxValue, mean, tau);
            }

            var height = e.Zip(p, (x, y) => (x - meanE) * (y.Value - mean)).Sum() / see;
            var settles = mean - (height * meanE);
            return (e.Zip(p, (x, y) => Math.Pow(y.Value - settles - (height * x), 2)).Sum(), settles, tau);
        }

        var (from, ratio) = (span / 50, Math.Pow(500, 1.0 / 200));
        var best = Enumerable.Range(0, 201).Select(i => Fit(from * Math.Pow(ratio, i))).MinBy(f => f.Left);
        var (a, b) = (best.Tau / ratio, best.Tau * ratio);
        for (var i = 0; i < 60; i++)
        {
            var (x, y) = (a + ((b - a) / 3), b - ((b - a) / 3));
            (a, b) = Fit(x).Left < Fit(y).Left ? (a, y) : (x, b);
        }

        best = Fit((a + b) / 2);
        return best.Left <= (1 - LeastShare) * all && span >= 1.5 * best.Tau ? (best.Settles, best.Tau) : (null, null);
    }
}
