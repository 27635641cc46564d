using MathNet.Numerics.Distributions;
using NodaTime;

namespace OilTag.Core.Survey;

/// <summary>How fast something wears, and when it reaches its limit.</summary>
/// <param name="PerYear">Change a year in the unit of the values; positive when it gets larger.</param>
/// <param name="YearsLeft">Years from the last reading to the limit, or null when it does not move towards it.</param>
/// <param name="On">The day on which the limit is reached, or null.</param>
/// <param name="Earliest">With nine chances in ten not before this day; null when the spread is not known or too wide.</param>
/// <param name="Latest">With nine chances in ten not after this day; null likewise.</param>
/// <param name="Working">How it was worked out.</param>
public sealed record WearTrend(double PerYear, double? YearsLeft, LocalDate? On, LocalDate? Earliest, LocalDate? Latest, Working Working)
{
    private const double DaysAYear = 365.25;

    private const string Source = "Straight line by least squares; its crossing with the limit as an interval after Fieller (J. R. Stat. Soc. B 16, 1954), 90 %.";

    /// <summary>
    /// The trend of dated values towards a limit. With two dates the spread comes from how well the instrument repeats; with three and more from
    /// how far the values lie off the line.
    /// </summary>
    /// <param name="values">Values with their dates, two or more on different days, in any one unit.</param>
    /// <param name="limit">The limit, or null.</param>
    /// <param name="repeatability">Standard deviation of one value, or null when it is not known. Used with two dates only.</param>
    /// <param name="write">Writes a value with its unit.</param>
    /// <returns>The trend, or null when there are not two different days.</returns>
    public static WearTrend? Of(IReadOnlyList<(LocalDate On, double Value)> values, double? limit, double? repeatability, Func<double, string> write)
    {
        ArgumentNullException.ThrowIfNull(values);
        ArgumentNullException.ThrowIfNull(write);
        var dated = values.OrderBy(v => v.On).ToList();
        if (dated.Count < 2 || dated[0].On == dated[^1].On)
        {
            return null;
        }

        var origin = dated[0].On;
        var points = dated.ConvertAll(v => (X: Period.DaysBetween(origin, v.On) / DaysAYear, Y: v.Value));
        var (meanX, meanY) = (points.Average(p => p.X), points.Average(p => p.Y));
        var sxx = points.Sum(p => (p.X - meanX) * (p.X - meanX));
        var slope = points.Sum(p => (p.X - meanX) * (p.Y - meanY)) / sxx;
        var steps = new List<string> { $"{dated.Count} surveys from {Day(dated[0].On)} to {Day(dated[^1].On)}: {write(dated[0].Value)} to {write(dated[^1].Value)}, {(slope < 0 ? "less" : "more")} by {write(Math.Abs(slope))} a year." };
        var cautions = new List<string> { "A straight line through the past; it does not know about a new leak or a new coat of paint." };
        WearTrend Told(string result, double? years = null, LocalDate? on = null, LocalDate? earliest = null, LocalDate? latest = null) =>
            new(slope, years, on, earliest, latest, new Working(result, steps, Source, cautions));
        if (limit is not { } l)
        {
            return Told($"Changes by {write(Math.Abs(slope))} a year; there is no limit to reach.");
        }

        // On the line at the last survey, so that one odd last reading does not move the whole.
        var last = points[^1].X;
        var now = meanY + (slope * (last - meanX));
        var left = l - now;
        if (slope == 0 || left * slope <= 0)
        {
            return Told(left == 0 ? "It is at the limit." : slope == 0 ? "It does not change." : "It does not move towards the limit, or is past it.");
        }

        var years = left / slope;
        steps.Add($"Left to the limit {write(l)}: {write(Math.Abs(left))}, so {Measures.MeasureFormat.Number(years, 2)} years.");
        if (years > 200)
        {
            return Told("More than two hundred years at this pace.", years);
        }

        var on = origin.PlusDays((int)Math.Round((last + years) * DaysAYear));
        var (spread, t) = points.Count > 2
            ? (Math.Sqrt(points.Sum(p => Math.Pow(p.Y - meanY - (slope * (p.X - meanX)), 2)) / (points.Count - 2)), StudentT.InvCDF(0, 1, points.Count - 2, 0.95))
            : (repeatability ?? 0, Normal.InvCDF(0, 1, 0.95));
        if (points.Count == 2 && repeatability is null)
        {
            cautions.Add("Two readings and nobody knows how well the gauge repeats: the day can be far off.");
            return Told($"At the limit about {Day(on)}.", years, on);
        }

        // (y0 − ȳ − b d)² ≤ t² s² (1/n + d²/Sxx), solved for d = x − x̄.
        var k = t * t * spread * spread;
        var (a, b, c) = ((slope * slope) - (k / sxx), slope * (l - meanY), ((l - meanY) * (l - meanY)) - (k / points.Count));
        var root = (b * b) - (a * c);
        if (a <= 0 || root < 0)
        {
            cautions.Add("The readings scatter as much as they change: the day cannot be bounded. Survey again in a year.");
            return Told($"At the limit about {Day(on)}, but it could be any time.", years, on);
        }

        var (low, high) = (meanX + ((b - Math.Sqrt(root)) / a), meanX + ((b + Math.Sqrt(root)) / a));
        if (low > high)
        {
            (low, high) = (high, low);
        }

        LocalDate? At(double x) => x is > -200 and < 400 ? origin.PlusDays((int)Math.Round(x * DaysAYear)) : null;
        var (earliest, latest) = (At(low), At(high));
        return Told($"At the limit about {Day(on)}; nine in ten between {(earliest is { } e ? Day(e) : "long ago")} and {(latest is { } f ? Day(f) : "never")}.", years, on, earliest, latest);
    }

    private static string Day(LocalDate d) => d.ToString("MMMM yyyy", System.Globalization.CultureInfo.GetCultureInfo("en-GB"));
}
