using MathNet.Numerics.Distributions;
using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Work;

namespace OilTag.Core.Survey;

/// <summary>When an estimate was made.</summary>
public enum EstimateStage
{
    /// <summary>From outside, before anything came off.</summary>
    BeforeTeardown,

    /// <summary>When it was apart and surveyed.</summary>
    AfterSurvey,

    /// <summary>Later, while the work went on.</summary>
    Underway,
}

/// <summary>Low, likely and high: one time in ten below, one time in ten above.</summary>
/// <param name="Low">Low.</param>
/// <param name="Likely">Likely.</param>
/// <param name="High">High.</param>
public sealed record Spread(double Low, double Likely, double High);

/// <summary>An estimate of a whole machine as it was made on a day. It is never changed; a new one stands beside it.</summary>
public class MachineEstimate
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>When in the job.</summary>
    public EstimateStage Stage { get; init; }

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>Person-hours, all in all.</summary>
    public double HoursLow { get; init; }

    /// <summary>Person-hours, likely.</summary>
    public double HoursLikely { get; init; }

    /// <summary>Person-hours, high.</summary>
    public double HoursHigh { get; init; }

    /// <summary>Money, all in all, in pence.</summary>
    public long CostLow { get; init; }

    /// <summary>Money, likely, in pence.</summary>
    public long CostLikely { get; init; }

    /// <summary>Money, high, in pence.</summary>
    public long CostHigh { get; init; }

    /// <summary>What it rests on.</summary>
    public string Basis { get; init; } = string.Empty;

    /// <summary>Who made it.</summary>
    public Guid ById { get; init; }
}

/// <summary>How this team's estimates grow.</summary>
/// <param name="Jobs">Finished jobs that it rests on.</param>
/// <param name="Factor">What a likely estimate is multiplied with; one in ten is lower than low and one in ten higher than high.</param>
/// <param name="Deviation">Standard deviation of the natural logarithm.</param>
/// <param name="Step">It in words.</param>
public sealed record Growth(int Jobs, Spread Factor, double Deviation, string Step);

/// <summary>What the estimate rests on now.</summary>
/// <param name="Done">Hours booked, or pence spent.</param>
/// <param name="Left">What the open packages still want.</param>
/// <param name="Undecided">Findings that nobody has decided about.</param>
/// <param name="NeedWork">Share of the settled findings that led to work, 0 to 1.</param>
/// <param name="Each">What such a finding wanted; an assumption when none is on record.</param>
/// <param name="Growth">How this team's estimates grow.</param>
public sealed record EstimateFacts(double Done, Spread Left, int Undecided, double NeedWork, Spread Each, Growth Growth)
{
    /// <summary>How many findings are settled; with none, all of those that are not are taken to want work, and <see cref="Each"/> is an assumption.</summary>
    public int Settled { get; init; }

    /// <summary>True when no finding led to work that is on record, so that <see cref="Each"/> is an assumption.</summary>
    public bool EachAssumed { get; init; }

    /// <summary>What assemblies want that nobody has had apart; null when there are none.</summary>
    public Spread? Unseen { get; init; }

    /// <summary>Where that comes from, in words without a full stop.</summary>
    public string UnseenSource { get; init; } = string.Empty;
}

/// <summary>
/// Estimates of hours and money. Growth: the ratio of what jobs took to what they were thought to take is taken as lognormal, with a prior worth four
/// jobs at 1.5 times and a spread of 0.4 in the logarithm (from memory and common practice: the estimate after teardown is nearly always higher),
/// which the team's own finished jobs outweigh as they come in.
/// </summary>
public static class EstimateRule
{
    /// <summary>The growth that is expected before the team has any history.</summary>
    public const double PriorFactor = 1.5;

    /// <summary>How many jobs the prior is worth.</summary>
    public const double PriorJobs = 4;

    /// <summary>Spread of the prior in the natural logarithm.</summary>
    public const double PriorDeviation = 0.4;

    private const string Source = "Growth: lognormal, prior worth 4 jobs at 1.5 times (from memory; common practice), outweighed by this team’s finished jobs. Low and high: one in ten.";

    // One in ten on each side.
    private static readonly double Z = Normal.InvCDF(0, 1, 0.9);

    /// <summary>How estimates grow, from finished jobs.</summary>
    /// <param name="ratios">What each took, divided by what it was likely to take; those that are not above nought are left out.</param>
    public static Growth Grow(IReadOnlyList<double> ratios)
    {
        ArgumentNullException.ThrowIfNull(ratios);
        var logs = ratios.Where(r => r > 0 && double.IsFinite(r)).Select(r => Math.Log(r)).ToList();
        var weight = PriorJobs + logs.Count;
        var mean = ((PriorJobs * Math.Log(PriorFactor)) + logs.Sum()) / weight;
        var spread = Math.Sqrt(((PriorJobs * (Math.Pow(PriorDeviation, 2) + Math.Pow(Math.Log(PriorFactor) - mean, 2))) + logs.Sum(l => Math.Pow(l - mean, 2))) / weight);
        var factor = new Spread(Math.Exp(mean - (Z * spread)), Math.Exp(mean), Math.Exp(mean + (Z * spread)));
        string F(double v) => MeasureFormat.Number(v, 2);
        return new Growth(logs.Count, factor, spread, logs.Count == 0
            ? $"No finished job yet, so the prior alone: likely {F(factor.Likely)} times, {F(factor.Low)} to {F(factor.High)}."
            : $"{logs.Count} finished {(logs.Count == 1 ? "job" : "jobs")} took {F(Math.Exp(logs.Average()))} times what they were thought to take in the mean; with the prior, likely {F(factor.Likely)} times, {F(factor.Low)} to {F(factor.High)}.");
    }

    /// <summary>The whole as it stands now.</summary>
    /// <param name="facts">What is known.</param>
    /// <param name="write">Writes hours or money.</param>
    public static (Spread Total, Working Working) Now(EstimateFacts facts, Func<double, string> write)
    {
        ArgumentNullException.ThrowIfNull(facts);
        ArgumentNullException.ThrowIfNull(write);
        string Range(Spread s) => $"{write(s.Low)} to {write(s.High)}, likely {write(s.Likely)}";
        var steps = new List<string> { $"Done: {write(facts.Done)}." };
        var seen = facts.Left;
        steps.Add($"Open packages still want {Range(seen)}.");
        if (facts.Undecided > 0)
        {
            var n = facts.Undecided * (facts.Settled == 0 ? 1 : facts.NeedWork);
            var more = new Spread(n * facts.Each.Low, n * facts.Each.Likely, n * facts.Each.High);
            var rate = facts.Settled == 0
                ? "none is settled, so all of them are taken to want work"
                : $"{MeasureFormat.Number(100 * facts.NeedWork, 0)} % of {facts.Settled} settled ones led to work";
            steps.Add(
                $"{facts.Undecided} findings are not decided; {rate}, {Range(facts.Each)} {(facts.EachAssumed ? "assumed for each, as none is on record" : "each")}: {Range(more)}.");
            seen = new Spread(seen.Low + more.Low, seen.Likely + more.Likely, seen.High + more.High);
        }

        if (seen.High <= 0 && facts.Unseen is null)
        {
            var whole = new Spread(facts.Done, facts.Done, facts.Done);
            return (whole, new Working($"{write(facts.Done)}; nothing is left that anybody knows of.", steps, Source, []));
        }

        steps.Add("What nobody has seen yet: " + facts.Growth.Step);

        // Both spreads are taken as lognormal and independent, so their squares add up.
        var own = seen.High > seen.Low && seen.Low > 0 ? Math.Log(seen.High / seen.Low) / (2 * Z) : 0;
        var deviation = Math.Sqrt((own * own) + (facts.Growth.Deviation * facts.Growth.Deviation));
        var likely = seen.Likely * facts.Growth.Factor.Likely;
        steps.Add($"So to come: {write(seen.Likely)} × {MeasureFormat.Number(facts.Growth.Factor.Likely, 2)} = {write(likely)} likely.");

        // What nobody has had apart is a guess already and does not grow; the distances of the two from likely add up in squares.
        var unseen = facts.Unseen ?? new Spread(0, 0, 0);
        if (facts.Unseen is not null)
        {
            var from = facts.UnseenSource;
            steps.Add($"{char.ToUpperInvariant(from[0])}{from[1..]}: {Range(unseen)}.");
        }

        var (down, up) = (likely - (likely * Math.Exp(-Z * deviation)), (likely * Math.Exp(Z * deviation)) - likely);
        var middle = facts.Done + likely + unseen.Likely;
        var total = new Spread(
            middle - Math.Sqrt((down * down) + Math.Pow(unseen.Likely - unseen.Low, 2)),
            middle,
            middle + Math.Sqrt((up * up) + Math.Pow(unseen.High - unseen.Likely, 2)));
        return (total, new Working($"{Range(total)}, all in all.", steps, Source, ["An estimate is only as good as the survey behind it; what is closed was not seen."]));
    }

    /// <summary>How an estimate has grown since an earlier one, in words that follow it; null when there is nothing to compare.</summary>
    /// <param name="now">Likely, now.</param>
    /// <param name="before">Likely, then.</param>
    public static string? Grown(double now, double before)
    {
        if (!(before > 0) || !double.IsFinite(now))
        {
            return null;
        }

        var times = now / before;
        return Math.Abs(times - 1) < 0.05 ? "about the same now" : times > 1 ? $"{MeasureFormat.Number(times, 1)} times that now" : $"{MeasureFormat.Number(100 * (1 - times), 0)} % less now";
    }

    /// <summary>Checks an estimate as it is typed.</summary>
    /// <returns>Hours and pounds; null with problems of the fields Hours, Cost and Basis.</returns>
    public static ((Spread Hours, Spread Pounds, string Basis)? Estimate, IReadOnlyList<Problem> Problems) Check(string? hours, string? cost, string? basis)
    {
        var problems = new List<Problem>();
        var h = OptionRule.Three(problems, "Hours", hours, 1_000_000);
        var c = OptionRule.Three(problems, "Cost", cost, OptionRule.MostPounds);
        if (problems.Count == 0 && h.High <= 0)
        {
            problems.Add(new Problem("Hours", "Say how many hours: low, likely, high."));
        }

        var said = TextRules.Need(problems, "Basis", basis, "Say what it rests on, such as one day with the covers off.", 200);
        Spread Of((decimal Low, decimal Likely, decimal High) x) => new((double)x.Low, (double)x.Likely, (double)x.High);
        return problems.Count > 0 ? (null, problems) : ((Of(h), Of(c), said), []);
    }

    /// <summary>Low, middle and high of a list, one in ten on each side; null when it is empty.</summary>
    public static Spread? Of(IReadOnlyList<HoursRange> ranges)
    {
        ArgumentNullException.ThrowIfNull(ranges);
        return ranges.Count == 0 ? null : new Spread(ranges.Average(r => r.Low), ranges.Average(r => r.Likely), ranges.Average(r => r.High));
    }
}
