using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>Doubts about a reading that a thickness gauge sent, before it is put into a cell.</summary>
public static class EchoRule
{
    /// <summary>
    /// The second echo of a plate shows as twice its thickness, paint or a lamination as half of it (common practice; a gauge's own manual says how
    /// it is told from the first).
    /// </summary>
    /// <param name="analysis">The sheet with what was read so far.</param>
    /// <param name="row">Row, from 1.</param>
    /// <param name="column">Column, from 1.</param>
    /// <param name="reading">What the gauge sent.</param>
    /// <returns>A sentence that says what is doubtful, or null.</returns>
    public static string? Doubt(SheetAnalysis analysis, int row, int column, Measure reading)
    {
        ArgumentNullException.ThrowIfNull(analysis);
        ArgumentNullException.ThrowIfNull(reading);
        var sheet = analysis.Sheet;
        if (sheet.Feature != Feature.Thickness || !sheet.Has(row, column))
        {
            return null;
        }

        var near = Near(analysis, row, column);
        var (expected, whose) = near is { } n ? (n, "the cells around it")
            : sheet.RegionAt(row, column)?.Nominal is { } nominal ? (nominal.Si, "the plate as built")
            : (0, string.Empty);
        if (expected <= 0)
        {
            return null;
        }

        var ratio = reading.Si / expected;
        var about = MeasureFormat.In(expected, Unit.BySymbol(sheet.UnitSymbol)!);
        return ratio is > 1.8 and < 2.2 ? $"{reading.Text} is about twice {whose} ({about}): that is likely the second echo. Take it again."
            : ratio is > 0.45 and < 0.55 ? $"{reading.Text} is about half {whose} ({about}): is it paint, or a split in the plate? Take it again."
            : ratio >= 2.2 ? $"{reading.Text} is far more than {whose} ({about}). Take it again."
            : sheet.RegionAt(row, column)?.Nominal is { } built && reading.Si > 1.1 * built.Si ? $"{reading.Text} is more than the plate was as built ({built.Text}): is it a second echo, paint or a patch? Take it again."
            : null;
    }

    private static double? Near(SheetAnalysis analysis, int row, int column)
    {
        var near = new List<double>();
        for (var i = row - 1; i <= row + 1; i++)
        {
            for (var j = column - 1; j <= column + 1; j++)
            {
                if ((i != row || j != column) && analysis.Sheet.Has(i, j) && ReferenceEquals(analysis.Sheet.RegionAt(i, j), analysis.Sheet.RegionAt(row, column)) && analysis[i, j] is { Count: > 0 } c)
                {
                    near.Add(c.Worst);
                }
            }
        }

        near.Sort();
        return near.Count < 3 ? null : near[near.Count / 2];
    }
}
