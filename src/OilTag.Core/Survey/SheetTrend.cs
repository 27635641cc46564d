using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>How one cell changes from survey to survey.</summary>
/// <param name="Row">Row, from 1.</param>
/// <param name="Column">Column, from 1.</param>
/// <param name="Trend">Its trend towards the limit.</param>
public sealed record CellTrend(int Row, int Column, WearTrend Trend);

/// <summary>What repeated surveys of the same cells say about time.</summary>
/// <param name="Compared">Cells that were read on two days and more.</param>
/// <param name="MeanPerYear">Mean change a year over these cells, in SI units; negative when it gets smaller.</param>
/// <param name="Soonest">The cells that reach their limit first, soonest first. Cells past it are not among them.</param>
public sealed record SheetTrend(int Compared, double MeanPerYear, IReadOnlyList<CellTrend> Soonest)
{
    /// <summary>Compares surveys of the same cells. Readings from before a plate was replaced are left out.</summary>
    /// <param name="surveys">Sheets with their readings, in any order, of the same rows and columns.</param>
    /// <param name="standard">Standard whose limits count.</param>
    /// <param name="most">How many cells to work out in full.</param>
    /// <returns>The trend, or null when no cell was read on two days.</returns>
    public static SheetTrend? Of(IReadOnlyList<(SurveySheet Sheet, IEnumerable<SheetReading> Readings)> surveys, RestorationStandard standard, int most)
    {
        ArgumentNullException.ThrowIfNull(surveys);
        if (surveys.Count < 2)
        {
            return null;
        }

        var latest = surveys.MaxBy(s => s.Sheet.On).Sheet;
        var shrinks = VerdictRule.Shrinks(latest.Feature);
        var cells = new Dictionary<(int Row, int Column), SortedDictionary<LocalDate, double>>();
        foreach (var (sheet, readings) in surveys)
        {
            foreach (var r in readings)
            {
                // In the year of the new plate only a survey that knows of it is of the new plate.
                if (r.Mark != CellMark.Measured || r.Evidence.IsOnlySaid() || !latest.Has(r.Row, r.Column)
                    || (latest.RegionAt(r.Row, r.Column)?.ReplacedIn is { } year && sheet.On.Year <= year && sheet.RegionAt(r.Row, r.Column)?.ReplacedIn != year))
                {
                    continue;
                }

                if (!cells.TryGetValue((r.Row, r.Column), out var days))
                {
                    cells.Add((r.Row, r.Column), days = []);
                }

                days[sheet.On] = days.TryGetValue(sheet.On, out var v) ? shrinks ? Math.Min(v, r.Si) : Math.Max(v, r.Si) : r.Si;
            }
        }

        var rates = new List<((int Row, int Column) At, double PerYear, double? Years)>();
        foreach (var (at, days) in cells)
        {
            if (days.Count < 2)
            {
                continue;
            }

            var (first, last) = (days.First(), days.Last());
            var perYear = (last.Value - first.Value) / (Period.DaysBetween(first.Key, last.Key) / 365.25);
            var left = latest.RegionAt(at.Row, at.Column)?.LimitFor(standard) is { } limit ? limit.Si - last.Value : (double?)null;
            rates.Add((at, perYear, left is { } l && l * perYear > 0 && l < 0 == shrinks ? l / perYear : null));
        }

        if (rates.Count == 0)
        {
            return null;
        }

        var unit = Unit.BySymbol(latest.UnitSymbol)!;
        var soonest = rates.Where(r => r.Years is not null).OrderBy(r => r.Years).ThenBy(r => r.At).Take(most).Select(r => (r.At, Trend: WearTrend.Of(
            [.. cells[r.At].Select(d => (d.Key, d.Value))], latest.RegionAt(r.At.Row, r.At.Column)!.LimitFor(standard)!.Si, latest.Repeatability, v => MeasureFormat.In(v, unit))))
            .Where(r => r.Trend is not null).Select(r => new CellTrend(r.At.Row, r.At.Column, r.Trend!)).ToList();
        return new SheetTrend(rates.Count, rates.Average(r => r.PerYear), soonest);
    }
}
