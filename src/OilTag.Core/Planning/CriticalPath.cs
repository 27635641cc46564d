namespace OilTag.Core.Planning;

/// <summary>When a job can and must run when resources do not count.</summary>
/// <param name="EarlyStart">Earliest start, from 0.</param>
/// <param name="EarlyFinish">Earliest finish.</param>
/// <param name="LateStart">Latest start that does not make the project longer.</param>
/// <param name="LateFinish">Latest finish that does not.</param>
/// <param name="TotalFloat">Late start less early start.</param>
/// <param name="FreeFloat">By how much it may be late without making another job late; to the project's end for a job that nothing follows.</param>
public sealed record JobTimes(int EarlyStart, int EarlyFinish, int LateStart, int LateFinish, int TotalFloat, int FreeFloat)
{
    /// <summary>True when it cannot be late at all.</summary>
    public bool Critical => TotalFloat == 0;
}

/// <summary>The critical path method. Source: standard textbook.</summary>
public static class CriticalPath
{
    /// <summary>Times of every job.</summary>
    public static IReadOnlyList<JobTimes> Of(Project project)
    {
        ArgumentNullException.ThrowIfNull(project);
        var (early, late) = (project.Heads(), project.LatestStarts());
        return [.. Enumerable.Range(0, project.Count).Select(j => new JobTimes(
            early[j],
            early[j] + project.Durations[j],
            late[j],
            late[j] + project.Durations[j],
            late[j] - early[j],
            project.Successors[j].Select(s => early[s]).DefaultIfEmpty(project.CriticalLength).Min() - early[j] - project.Durations[j]))];
    }
}

/// <summary>Three-point estimates along a path.</summary>
public static class ThreePoint
{
    /// <summary>Mean of the PERT estimate (a + 4m + b)/6.</summary>
    public static double PertMean(double low, double likely, double high) => (low + (4 * likely) + high) / 6;

    /// <summary>Variance of the PERT estimate ((b − a)/6)².</summary>
    public static double PertVariance(double low, double high) => (high - low) * (high - low) / 36;

    /// <summary>Value that a sum of independent estimates does not exceed with a probability, taking the sum as normal: μ + zσ.</summary>
    /// <param name="mean">Sum of the means.</param>
    /// <param name="variance">Sum of the variances.</param>
    /// <param name="probability">Between 0 and 1.</param>
    public static double Percentile(double mean, double variance, double probability) => mean + (Math.Sqrt(variance) * MathNet.Numerics.Distributions.Normal.InvCDF(0, 1, probability));
}
