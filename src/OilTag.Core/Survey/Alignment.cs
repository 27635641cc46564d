using MathNet.Numerics.LinearAlgebra;

namespace OilTag.Core.Survey;

/// <summary>A straight line through readings along something.</summary>
/// <param name="Slope">Slope of the line of least squares.</param>
/// <param name="Off">How far each reading lies above it.</param>
/// <param name="Band">The narrowest band that holds all readings (minimum zone).</param>
public sealed record StraightLine(double Slope, IReadOnlyList<double> Off, double Band);

/// <summary>A turn under a clock.</summary>
/// <param name="Eccentricity">How far the centre lies beside the axis.</param>
/// <param name="High">Angle at which it stands highest, radians.</param>
/// <param name="Round">What is left when that is taken away: from the least to the most, out of round.</param>
public sealed record TurnFit(double Eccentricity, double High, double Round);

/// <summary>Geometry of rigging and alignment: lines, bands and turns through readings. Lengths in one unit, angles in radians.</summary>
public static class Alignment
{
    /// <summary>The line through readings, and the narrowest band; it needs two different places.</summary>
    public static StraightLine Line(IReadOnlyList<double> x, IReadOnlyList<double> y)
    {
        ArgumentNullException.ThrowIfNull(x);
        ArgumentNullException.ThrowIfNull(y);
        var n = y.Count;
        var (mx, my) = (x.Average(), y.Average());
        var slope = x.Zip(y, (a, b) => (a - mx) * (b - my)).Sum() / x.Sum(a => (a - mx) * (a - mx));
        double[] off = [.. x.Zip(y, (a, b) => b - my - (slope * (a - mx)))];

        // The narrowest band lies along a side of the hull: through two readings with all others on one side.
        var band = double.MaxValue;
        for (var i = 0; i < n; i++)
        {
            for (var j = i + 1; j < n; j++)
            {
                if (x[i] == x[j])
                {
                    continue;
                }

                var s = (y[j] - y[i]) / (x[j] - x[i]);
                double[] d = [.. x.Zip(y, (a, b) => b - y[i] - (s * (a - x[i])))];
                var (low, high) = (d.Min(), d.Max());
                if (low >= -1e-12 || high <= 1e-12)
                {
                    band = Math.Min(band, high - low);
                }
            }
        }

        return new StraightLine(slope, off, band);
    }

    /// <summary>The first harmonic through readings round a turn, by least squares; null for fewer than three angles.</summary>
    /// <param name="angle">Angles of the turn, radians.</param>
    /// <param name="read">What the clock shows at each.</param>
    public static TurnFit? Turn(IReadOnlyList<double> angle, IReadOnlyList<double> read)
    {
        ArgumentNullException.ThrowIfNull(angle);
        ArgumentNullException.ThrowIfNull(read);
        if (angle.Select(a => Math.Round(Math.IEEERemainder(a, 2 * Math.PI), 9)).Distinct().Count() < 3)
        {
            return null;
        }

        var m = Matrix<double>.Build.Dense(angle.Count, 3, (i, j) => j == 0 ? 1 : j == 1 ? Math.Cos(angle[i]) : Math.Sin(angle[i]));
        var v = Vector<double>.Build.DenseOfEnumerable(read);
        var fit = m.QR().Solve(v);
        var rest = v - (m * fit);
        return new TurnFit(Math.Sqrt((fit[1] * fit[1]) + (fit[2] * fit[2])), Math.Atan2(fit[2], fit[1]), rest.Maximum() - rest.Minimum());
    }

    /// <summary>The smallest changes that bring errors nearest to nought, by least squares.</summary>
    /// <param name="effect">Effect of one unit of each adjuster at each station: rows are stations.</param>
    /// <param name="error">Error at each station.</param>
    /// <param name="weight">Weight of each station, such as one over its tolerance.</param>
    public static IReadOnlyList<double> Adjust(IReadOnlyList<IReadOnlyList<double>> effect, IReadOnlyList<double> error, IReadOnlyList<double> weight)
    {
        ArgumentNullException.ThrowIfNull(effect);
        ArgumentNullException.ThrowIfNull(error);
        ArgumentNullException.ThrowIfNull(weight);
        var m = Matrix<double>.Build.Dense(effect.Count, effect[0].Count, (i, j) => effect[i][j] * weight[i]);
        var v = Vector<double>.Build.Dense(error.Count, i => -error[i] * weight[i]);
        return [.. m.PseudoInverse() * v];
    }
}
