using OilTag.Core.Work;

namespace OilTag.Core.Make;

/// <summary>Work on one stage on one day: minutes that it took, and the pieces that it moved.</summary>
/// <param name="Minutes">Person-minutes.</param>
/// <param name="Pieces">Pieces, 1 or more.</param>
public sealed record PieceSample(double Minutes, int Pieces);

/// <summary>What a piece takes, as far as is known.</summary>
/// <param name="Mean">Minutes a piece.</param>
/// <param name="Deviation">Standard deviation of one piece, minutes.</param>
/// <param name="OfMean">Standard error of the mean, minutes: that of the estimate until pieces are counted, and the same for every piece.</param>
/// <param name="Pieces">Pieces that were learned from; 0 when it is the estimate alone.</param>
public sealed record PieceTime(double Mean, double Deviation, double OfMean, int Pieces);

/// <summary>Minutes a piece, learned from this team's own counts, and what the rest of a batch takes.</summary>
public static class PieceTimes
{
    /// <summary>How many pieces the estimate weighs as much as, once counts come in.</summary>
    public const int EstimateWeight = 3;

    private const double EightInTen = 1.2816;

    /// <summary>Learns from what was counted. The estimate counts as <see cref="EstimateWeight"/> pieces, so that two counts do not overthrow it.</summary>
    /// <param name="low">Estimate at best, minutes a piece, 0 or more.</param>
    /// <param name="likely">Estimate as a rule, minutes a piece; 0 with no estimate.</param>
    /// <param name="high">Estimate at worst, minutes a piece.</param>
    /// <param name="samples">What was counted.</param>
    /// <returns>What is known; null with neither an estimate nor a count.</returns>
    public static PieceTime? Learn(double low, double likely, double high, IReadOnlyList<PieceSample> samples)
    {
        ArgumentNullException.ThrowIfNull(samples);
        var n = samples.Sum(s => s.Pieces);
        var minutes = samples.Sum(s => s.Minutes);
        var estimated = likely > 0;
        if (!estimated && n == 0)
        {
            return null;
        }

        var weight = estimated ? EstimateWeight : 0;
        var mean = ((weight * (low + likely + high) / 3) + minutes) / (weight + n);

        // Variance of one piece: of the triangular estimate, and between the days, each as often as it has pieces.
        var prior = estimated ? ((low * low) + (likely * likely) + (high * high) - (low * likely) - (low * high) - (likely * high)) / 18 : mean * mean / 4;
        var own = samples.Count > 1 ? samples.Sum(s => s.Pieces * Math.Pow((s.Minutes / s.Pieces) - (minutes / n), 2)) / (samples.Count - 1) : 0;
        var variance = ((EstimateWeight * prior) + ((samples.Count > 1 ? samples.Count - 1 : 0) * own)) / (EstimateWeight + (samples.Count > 1 ? samples.Count - 1 : 0));

        // The guess is wrong for all pieces together; what was counted takes the place of it bit by bit.
        var guess = weight / (double)(weight + n);
        var ofMean = (guess * guess * prior) + (n == 0 ? 0 : (1 - guess) * (1 - guess) * variance / n);
        return new PieceTime(mean, Math.Sqrt(variance), Math.Sqrt(ofMean), n);
    }

    /// <summary>
    /// Hours for the rest of a batch: set-ups, then pieces by their mean; the range holds eight cases of ten (normal sum). A doubt about the mean
    /// is a doubt about every piece.
    /// </summary>
    /// <param name="stages">For each stage that is done here: set-up in minutes (0 when it is set up), pieces that are left, and what is known.</param>
    /// <returns>Hours; null when some stage with pieces left has no time at all.</returns>
    public static HoursRange? Rest(IReadOnlyList<(double SetUp, int Left, PieceTime? Time)> stages)
    {
        ArgumentNullException.ThrowIfNull(stages);
        if (stages.Any(s => s.Left > 0 && s.Time is null))
        {
            return null;
        }

        var mean = stages.Sum(s => s.Left > 0 ? s.SetUp + (s.Left * s.Time!.Mean) : 0);
        var variance = stages.Sum(s => s.Left > 0 ? (s.Left * s.Time!.Deviation * s.Time.Deviation) + Math.Pow(s.Left * s.Time.OfMean, 2) : 0);
        var reach = EightInTen * Math.Sqrt(variance);
        return new HoursRange(Math.Max(0, mean - reach) / 60, mean / 60, (mean + reach) / 60);
    }

    /// <summary>Shares out the minutes that one person gave on one day among the stages into which they moved pieces, by what those pieces were expected to take.</summary>
    /// <param name="minutes">Minutes of the person on that day.</param>
    /// <param name="moved">Pieces by stage, with the expected minutes of one; 0 when nobody has said.</param>
    public static IReadOnlyList<(Guid Stage, PieceSample Sample)> Share(double minutes, IReadOnlyList<(Guid Stage, int Pieces, double Expected)> moved)
    {
        ArgumentNullException.ThrowIfNull(moved);
        var real = moved.Where(m => m.Pieces > 0).ToList();
        if (real.Count == 0 || minutes <= 0)
        {
            return [];
        }

        // A stage without an expectation counts as the others do on average.
        var known = real.Where(m => m.Expected > 0).Select(m => m.Expected).DefaultIfEmpty(1).Average();
        double Of((Guid Stage, int Pieces, double Expected) m) => m.Pieces * (m.Expected > 0 ? m.Expected : known);
        var all = real.Sum(Of);
        return [.. real.Select(m => (m.Stage, new PieceSample(minutes * Of(m) / all, m.Pieces)))];
    }
}
