using System.Globalization;
using MathNet.Numerics.Distributions;
using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>When a milestone will be met at the team's pace, and how sure that is.</summary>
/// <param name="ChanceInTen">Chance of the wanted date in tenths, rounded to the nearest; null when it cannot be told.</param>
/// <param name="Chance">The same chance between 0 and 1; null when it cannot be told.</param>
/// <param name="EvenChance">Day by which it is as likely as not; null when it cannot be told.</param>
/// <param name="SafeDate">Day by which it is done in eight cases of ten; null when it cannot be told.</param>
/// <param name="Remaining">Person-hours to do.</param>
/// <param name="Working">How it was worked out.</param>
public sealed record Forecast(int? ChanceInTen, double? Chance, LocalDate? EvenChance, LocalDate? SafeDate, HoursRange Remaining, Working Working);

/// <summary>
/// Forecast from remaining hours and the pace of past sessions. After n sessions the hours done are taken as normal with mean n·m and variance n·s²
/// (m, s: mean and sample standard deviation of hours per session, sessions to which nobody came counted as nought); the hours to do as normal with
/// the summed means and variances of the packages' triangular ranges. The chance of being done after n sessions is Φ((n·m − μ)/√(n·s² + σ²)).
/// Source: velocity forecast and path sums, common practice; triangular moments, standard textbook.
/// </summary>
public static class PaceForecast
{
    /// <summary>Fewest past sessions from which a pace is taken.</summary>
    public const int FewestSessions = 3;

    private const int MostSessions = 2000;

    private const string Source = "Common practice: hours to do against hours done in past sessions. Percentiles are only as good as the estimates.";

    /// <summary>Works out the forecast.</summary>
    /// <param name="today">Today; sessions after it count.</param>
    /// <param name="wanted">Wanted date.</param>
    /// <param name="packages">Remaining hours of each package that the milestone needs.</param>
    /// <param name="pastSessions">Person-hours worked on this in each past session, nought where nobody came.</param>
    /// <param name="calendar">The sessions to come.</param>
    public static Forecast Work(LocalDate today, LocalDate wanted, IReadOnlyList<HoursRange> packages, IReadOnlyList<double> pastSessions, SessionCalendar calendar)
    {
        ArgumentNullException.ThrowIfNull(packages);
        ArgumentNullException.ThrowIfNull(pastSessions);
        ArgumentNullException.ThrowIfNull(calendar);
        var remaining = packages.Aggregate(HoursRange.None, (a, b) => a + b);
        Forecast Cannot(string why) => new(null, null, null, null, remaining, new Working("Cannot tell: " + why, [], Source, []));
        if (packages.Count == 0 || remaining.High <= 0)
        {
            return Cannot("no open package serves this milestone.");
        }

        if (calendar.IsEmpty)
        {
            return Cannot("the shed has no sessions.");
        }

        if (pastSessions.Count < FewestSessions)
        {
            return Cannot($"there are {pastSessions.Count} past sessions; {FewestSessions} are the fewest from which a pace can be taken.");
        }

        var n = pastSessions.Count;
        var mean = pastSessions.Sum() / n;
        if (mean <= 0)
        {
            return Cannot($"nobody has worked on it in the last {n} sessions.");
        }

        var variance = pastSessions.Sum(h => (h - mean) * (h - mean)) / (n - 1);
        var toDo = packages.Sum(p => p.Mean);
        var toDoVariance = packages.Sum(p => p.Variance);
        double ChanceAfter(int sessions) => sessions <= 0 ? 0 : Phi(((sessions * mean) - toDo) / Math.Sqrt((sessions * variance) + toDoVariance));

        var left = calendar.Between(today, wanted).Count();
        var chance = ChanceAfter(left);
        var even = FirstSession(ChanceAfter, 0.5);
        var safe = FirstSession(ChanceAfter, 0.8);
        var (block, worst, best) = BlockPaces(pastSessions);
        string F(double v, int d = 1) => MeasureFormat.Number(v, d);
        var steps = new List<string>
        {
            $"To do: {packages.Count} open {(packages.Count == 1 ? "package" : "packages")}, {F(remaining.Low, 0)} to {F(remaining.High, 0)} person-hours, most likely {F(remaining.Likely, 0)}, mean {F(toDo)}.",
            $"Pace: the last {n} sessions gave {F(mean)} person-hours each on the mean (spread {F(Math.Sqrt(variance))}); the worst {block} in a row {F(worst)}, the best {block} {F(best)}.",
            toDo / worst < MostSessions
                ? $"So {F(toDo / best, 0)} to {F(toDo / worst, 0)} sessions, about {F(toDo / mean, 0)} at the mean pace."
                : $"So {F(toDo / best, 0)} sessions at the best pace, about {F(toDo / mean, 0)} at the mean pace; at the worst it is never done.",
            $"{left} sessions are left to the wanted date. Chance = Φ(({left} × {F(mean)} − {F(toDo)}) ÷ √({left} × {F(variance)} + {F(toDoVariance)})) = {F(chance * 100, 0)} %.",
        };
        return new Forecast(
            (int)Math.Round(chance * 10, MidpointRounding.AwayFromZero),
            chance,
            even is { } e ? calendar.Nth(today, e) : null,
            safe is { } s ? calendar.Nth(today, s) : null,
            remaining,
            new Working(
                $"{Math.Round(chance * 10, MidpointRounding.AwayFromZero).ToString(CultureInfo.InvariantCulture)} in 10 for the wanted date.",
                steps,
                Source,
                ["Waiting, lead times and who holds which skill are not in this forecast: it is the pace alone."]));
    }

    private static int? FirstSession(Func<int, double> chanceAfter, double wanted)
    {
        if (chanceAfter(MostSessions) < wanted)
        {
            return null;
        }

        int low = 0, high = MostSessions;
        while (high - low > 1)
        {
            var mid = (low + high) / 2;
            if (chanceAfter(mid) >= wanted)
            {
                high = mid;
            }
            else
            {
                low = mid;
            }
        }

        return high;
    }

    // Whole blocks of eight sessions, the newest first, or thirds when there are fewer than twenty-four; a rest that fills no block is left out.
    private static (int Block, double Worst, double Best) BlockPaces(IReadOnlyList<double> sessions)
    {
        var block = sessions.Count >= 24 ? 8 : sessions.Count / 3;
        var means = new List<double>();
        for (var end = sessions.Count; end - block >= 0; end -= block)
        {
            means.Add(sessions.Skip(end - block).Take(block).Average());
        }

        return (block, means.Min(), means.Max());
    }

    private static double Phi(double z) => double.IsNaN(z) ? 1 : Normal.CDF(0, 1, z);
}
