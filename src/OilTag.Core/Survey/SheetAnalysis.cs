using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>A cell that was read or marked.</summary>
/// <param name="Row">Row, from 1.</param>
/// <param name="Column">Column, from 1.</param>
/// <param name="Count">How many readings it has.</param>
/// <param name="Worst">The worst reading, in SI units; nought when it has none.</param>
/// <param name="Verdict">What the numbers say.</param>
/// <param name="LossPercent">100 × (as built − reading) ÷ as built, never clamped; null when the size as built is not known.</param>
/// <param name="Used">Share of the allowed wear that is used, in percent, or null.</param>
/// <param name="Odd">True when it differs so much from its neighbours that it should be read again.</param>
/// <param name="Said">A value that was only told or assumed, in SI units; null when it was measured or has none. It is never judged or counted.</param>
public sealed record CellFacts(int Row, int Column, int Count, double Worst, Verdict Verdict, double? LossPercent, double? Used, bool Odd, double? Said = null);

/// <summary>The figures of a region.</summary>
/// <param name="Region">The region.</param>
/// <param name="Limit">The limit that holds, or null.</param>
/// <param name="Cells">Cells that it has.</param>
/// <param name="Read">Cells that were read.</param>
/// <param name="Min">Smallest reading and its cell, or null when nothing was read.</param>
/// <param name="Max">Largest reading.</param>
/// <param name="Mean">Mean of the worst readings of the cells.</param>
/// <param name="Deviation">Sample standard deviation (n − 1), or null below three cells.</param>
/// <param name="MeanLoss">Mean loss in percent of the size as built, or null.</param>
/// <param name="WorstLoss">Largest loss in percent, or null.</param>
/// <param name="AtLimit">Cells at the limit.</param>
/// <param name="Beyond">Cells beyond the limit.</param>
/// <param name="Verdict">Verdict on the region.</param>
/// <param name="Rule">The rule that gave the verdict, or what is missing.</param>
public sealed record RegionFacts(
    SheetRegion Region, Measure? Limit, int Cells, int Read, (double Value, int Row, int Column)? Min, double Max, double Mean, double? Deviation, double? MeanLoss, double? WorstLoss, int AtLimit, int Beyond, Verdict Verdict, string Rule);

/// <summary>Cells that touch by an edge and have all used much of their allowance.</summary>
/// <param name="Cells">The cells.</param>
/// <param name="MeanLoss">Mean loss in percent.</param>
/// <param name="WorstLoss">Largest loss in percent.</param>
public sealed record LossGroup(IReadOnlyList<(int Row, int Column)> Cells, double MeanLoss, double WorstLoss)
{
    /// <summary>First and last row.</summary>
    public (int From, int To) Rows => (Cells.Min(c => c.Row), Cells.Max(c => c.Row));

    /// <summary>First and last column.</summary>
    public (int From, int To) Columns => (Cells.Min(c => c.Column), Cells.Max(c => c.Column));
}

/// <summary>What a survey sheet says under a standard.</summary>
public sealed class SheetAnalysis
{
    /// <summary>From this share of the allowed loss a cell belongs to a group, in percent (IACS UR Z7: "substantial corrosion" is above 75 % of the allowed wastage).</summary>
    public const double GroupFrom = 75;

    /// <summary>A robust score above this is odd (Iglewicz and Hoaglin, How to detect and handle outliers, 1993).</summary>
    public const double OddFrom = 3.5;

    private readonly CellFacts?[,] cells;

    private SheetAnalysis(SurveySheet sheet, RestorationStandard standard, CellFacts?[,] cells)
    {
        (Sheet, Standard, this.cells) = (sheet, standard, cells);
        var all = new List<CellFacts>(cells.Length);
        for (var i = 0; i < cells.GetLength(0); i++)
        {
            for (var j = 0; j < cells.GetLength(1); j++)
            {
                if (cells[i, j] is { } c)
                {
                    all.Add(c);
                }
            }
        }

        Cells = all;
        Regions = [.. sheet.Regions.Select(Of)];
        Groups = [.. FindGroups().OrderByDescending(g => g.WorstLoss)];
        RowBands = Bands(sheet.Rows.Length, sheet.Columns.Length, (i, j) => this[i, j]);
        ColumnBands = Bands(sheet.Columns.Length, sheet.Rows.Length, (i, j) => this[j, i]);
    }

    /// <summary>The sheet.</summary>
    public SurveySheet Sheet { get; }

    /// <summary>The standard it is judged for.</summary>
    public RestorationStandard Standard { get; }

    /// <summary>Figures of each region, in the order of the sheet.</summary>
    public IReadOnlyList<RegionFacts> Regions { get; }

    /// <summary>Groups of two cells and more, worst first.</summary>
    public IReadOnlyList<LossGroup> Groups { get; }

    /// <summary>Rows whose mean use of the allowance reaches the threshold of a group.</summary>
    public IReadOnlyList<int> RowBands { get; }

    /// <summary>Columns whose mean use of the allowance reaches the threshold of a group.</summary>
    public IReadOnlyList<int> ColumnBands { get; }

    /// <summary>The cell, or null when it was neither read nor marked.</summary>
    public CellFacts? this[int row, int column] => cells[row - 1, column - 1];

    /// <summary>All cells that were read or marked, row by row.</summary>
    public IReadOnlyList<CellFacts> Cells { get; }

    /// <summary>Cells that the sheet has and that have no reading.</summary>
    public int Unread => Regions.Count == 0 ? 0 : Regions[0].Cells - Regions[0].Read;

    /// <summary>Cells whose value was only told or assumed: they want measuring.</summary>
    public IEnumerable<CellFacts> OnlySaid => Cells.Where(c => c.Said is not null);

    /// <summary>How many cells have a verdict.</summary>
    public int Count(Verdict verdict) => Cells.Count(c => c.Count > 0 && c.Verdict == verdict);

    /// <summary>How many cells are beyond the limit of another standard; null when the sheet has no limit for it.</summary>
    public int? BeyondFor(RestorationStandard standard) => Sheet.Regions.Any(r => r.LimitFor(standard) is not null)
        ? Cells.Count(c => c.Count > 0 && Judge(Sheet, standard, c.Row, c.Column, c.Count, c.Worst, c.Odd).Verdict == Verdict.Beyond)
        : null;

    /// <summary>Judges a sheet under a standard.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="readings">Its readings; those outside the sheet are left aside.</param>
    /// <param name="standard">The standard to judge for.</param>
    public static SheetAnalysis Of(SurveySheet sheet, IEnumerable<SheetReading> readings, RestorationStandard standard)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(readings);
        var (rows, columns) = (sheet.Rows.Length, sheet.Columns.Length);
        var count = new int[rows, columns];
        var worst = new double[rows, columns];
        var marked = new bool[rows, columns];
        var told = new Dictionary<(int Row, int Column), double>();
        var shrinks = VerdictRule.Shrinks(sheet.Feature);
        foreach (var r in readings)
        {
            if (!sheet.Has(r.Row, r.Column))
            {
                continue;
            }

            var (i, j) = (r.Row - 1, r.Column - 1);
            marked[i, j] = true;
            if (r.Mark == CellMark.Measured && r.Evidence.IsOnlySaid())
            {
                told[(r.Row, r.Column)] = r.Si;
            }
            else if (r.Mark == CellMark.Measured)
            {
                worst[i, j] = count[i, j]++ == 0 ? r.Si : shrinks ? Math.Min(worst[i, j], r.Si) : Math.Max(worst[i, j], r.Si);
            }
        }

        var odd = Odd(sheet, count, worst);
        var judged = new CellFacts?[rows, columns];
        for (var i = 0; i < rows; i++)
        {
            for (var j = 0; j < columns; j++)
            {
                if (marked[i, j])
                {
                    judged[i, j] = Judge(sheet, standard, i + 1, j + 1, count[i, j], worst[i, j], odd[i, j]) with { Said = count[i, j] == 0 && told.TryGetValue((i + 1, j + 1), out var said) ? said : null };
                }
            }
        }

        return new SheetAnalysis(sheet, standard, judged);
    }

    private static CellFacts Judge(SurveySheet sheet, RestorationStandard standard, int row, int column, int count, double worst, bool odd)
    {
        var region = sheet.RegionAt(row, column);
        if (count == 0 || region?.Nominal is not { } nominal)
        {
            return new CellFacts(row, column, count, worst, Verdict.CannotTell, null, null, odd);
        }

        var loss = 100 * (VerdictRule.Shrinks(sheet.Feature) ? nominal.Si - worst : worst - nominal.Si) / nominal.Si;

        if (region.LimitFor(standard) is not { } limit || limit.Si == nominal.Si)
        {
            return new CellFacts(row, column, count, worst, Verdict.CannotTell, loss, null, odd);
        }

        // The same as in a finding: more over new than may wear is a patch, paint or a wrong echo.
        var (verdict, used) = VerdictRule.Band(worst, nominal.Si, limit.Si);
        if (VerdictRule.OtherThanNew(sheet.Feature, worst, nominal.Si, used))
        {
            return new CellFacts(row, column, count, worst, Verdict.CannotTell, loss, null, odd);
        }

        return new CellFacts(row, column, count, worst, verdict, loss, used, odd);
    }

    // How far a reading lies off the median of the cells around it, against the spread of all such differences. A cell that is like the ones beside it
    // in its row or in its column belongs to a slope or a band and is not odd.
    private static bool[,] Odd(SurveySheet sheet, int[,] count, double[,] worst)
    {
        var (rows, columns) = (count.GetLength(0), count.GetLength(1));
        var odd = new bool[rows, columns];
        var several = sheet.Regions.Count > 1;
        var residuals = new List<(int Row, int Column, double Value, double Nearest)>();
        Span<double> around = stackalloc double[8];
        Span<double> along = stackalloc double[2];
        Span<double> across = stackalloc double[2];
        for (var i = 0; i < rows; i++)
        {
            for (var j = 0; j < columns; j++)
            {
                if (count[i, j] == 0)
                {
                    continue;
                }

                var (n, inRow, inColumn) = (0, 0, 0);
                var own = several ? sheet.RegionAt(i + 1, j + 1) : null;
                for (var a = Math.Max(0, i - 1); a <= Math.Min(rows - 1, i + 1); a++)
                {
                    for (var b = Math.Max(0, j - 1); b <= Math.Min(columns - 1, j + 1); b++)
                    {
                        if ((a == i && b == j) || count[a, b] == 0 || (several && !ReferenceEquals(own, sheet.RegionAt(a + 1, b + 1))))
                        {
                            continue;
                        }

                        around[n++] = worst[a, b];
                        if (a == i)
                        {
                            along[inRow++] = worst[a, b];
                        }
                        else if (b == j)
                        {
                            across[inColumn++] = worst[a, b];
                        }
                    }
                }

                if (n >= 3)
                {
                    var off = worst[i, j] - Median(around[..n]);
                    var nearest = off;
                    var (offRow, offColumn) = (worst[i, j] - Mean(along[..inRow]), worst[i, j] - Mean(across[..inColumn]));
                    nearest = Math.Abs(offRow) < Math.Abs(nearest) ? offRow : nearest;
                    nearest = Math.Abs(offColumn) < Math.Abs(nearest) ? offColumn : nearest;
                    residuals.Add((i, j, off, nearest));
                }
            }
        }

        if (residuals.Count < 8)
        {
            return odd;
        }

        var values = residuals.Select(r => r.Value).ToArray();
        var middle = Median(values.ToArray());
        var deviations = values.Select(v => Math.Abs(v - middle)).ToArray();

        // Where more than half are alike the median deviation is nought and the mean deviation stands in (the same source).
        var spread = Median(deviations.ToArray()) / 0.6745;
        if (spread <= 0)
        {
            spread = deviations.Average() * 1.253314;
        }

        if (spread > 0)
        {
            foreach (var (i, j, _, v) in residuals)
            {
                odd[i, j] = Math.Abs(v - middle) / spread > OddFrom;
            }
        }

        return odd;
    }

    private static double Mean(ReadOnlySpan<double> values) => values.Length switch { 0 => double.NaN, 1 => values[0], _ => (values[0] + values[1]) / 2 };

    private static double Median(Span<double> values)
    {
        var n = values.Length;
        if (n > 8)
        {
            values.Sort();
        }
        else
        {
            // So few are sorted faster in place than by a general sort.
            for (var i = 1; i < n; i++)
            {
                var (v, k) = (values[i], i - 1);
                for (; k >= 0 && values[k] > v; k--)
                {
                    values[k + 1] = values[k];
                }

                values[k + 1] = v;
            }
        }

        return n % 2 == 1 ? values[n / 2] : (values[(n / 2) - 1] + values[n / 2]) / 2;
    }

    private RegionFacts Of(SheetRegion region)
    {
        var whole = ReferenceEquals(region, Sheet.Regions[0]);
        var have = 0;
        var read = new List<CellFacts>();
        for (var i = region.RowFrom; i <= Math.Min(region.RowTo, Sheet.Rows.Length); i++)
        {
            for (var j = region.ColumnFrom; j <= Math.Min(region.ColumnTo, Sheet.Columns.Length); j++)
            {
                // The first region is the whole sheet; the others own the cells that no later one overrules.
                if (Sheet.Has(i, j) && (whole || ReferenceEquals(Sheet.RegionAt(i, j), region)))
                {
                    have++;
                    if (this[i, j] is { Count: > 0 } c)
                    {
                        read.Add(c);
                    }
                }
            }
        }

        var limit = region.LimitFor(Standard);
        if (read.Count == 0)
        {
            return new RegionFacts(region, limit, have, 0, null, 0, 0, null, null, null, 0, 0, Verdict.CannotTell, "Nothing was read yet.");
        }

        var mean = read.Average(c => c.Worst);
        var least = read.MinBy(c => c.Worst)!;
        double? deviation = read.Count < 3 ? null : Math.Sqrt(read.Sum(c => (c.Worst - mean) * (c.Worst - mean)) / (read.Count - 1));
        var (atLimit, beyond) = (read.Count(c => c.Verdict == Verdict.AtLimit), read.Count(c => c.Verdict == Verdict.Beyond));
        var losses = read.Select(c => c.LossPercent).OfType<double>().ToList();
        var (verdict, rule) = beyond > 0 ? (Verdict.Beyond, $"{beyond} of {read.Count} cells used up what {Standard} allows; the worst cell decides, not the mean.")
            : read.Exists(c => c.Used is null) ? (Verdict.CannotTell, region.Nominal is null ? "The size as built is missing." : $"There is no limit for {Standard}.")
            : atLimit > 0 ? (Verdict.AtLimit, $"{atLimit} of {read.Count} cells used 80 % or more of what {Standard} allows.")
            : read.Count < have ? (Verdict.CannotTell, $"{have - read.Count} of {have} cells were not read; those that were are within limits.")
            : (Verdict.Within, $"All {read.Count} cells are within what {Standard} allows.");
        return new RegionFacts(
            region, limit, have, read.Count, (least.Worst, least.Row, least.Column), read.Max(c => c.Worst), mean, deviation,
            losses.Count == read.Count ? losses.Average() : null, losses.Count > 0 ? losses.Max() : null, atLimit, beyond, verdict, rule);
    }

    private IEnumerable<LossGroup> FindGroups()
    {
        var seen = new bool[Sheet.Rows.Length, Sheet.Columns.Length];
        bool Marked(int i, int j) => i >= 0 && j >= 0 && i < seen.GetLength(0) && j < seen.GetLength(1) && cells[i, j] is { Used: >= GroupFrom * (1 - 1e-9) };
        for (var i = 0; i < seen.GetLength(0); i++)
        {
            for (var j = 0; j < seen.GetLength(1); j++)
            {
                if (seen[i, j] || !Marked(i, j))
                {
                    continue;
                }

                var group = new List<CellFacts>();
                var open = new Stack<(int I, int J)>([(i, j)]);
                seen[i, j] = true;
                while (open.TryPop(out var at))
                {
                    group.Add(cells[at.I, at.J]!);
                    foreach (var (a, b) in new[] { (at.I - 1, at.J), (at.I + 1, at.J), (at.I, at.J - 1), (at.I, at.J + 1) })
                    {
                        if (Marked(a, b) && !seen[a, b])
                        {
                            seen[a, b] = true;
                            open.Push((a, b));
                        }
                    }
                }

                if (group.Count >= 2)
                {
                    yield return new LossGroup([.. group.Select(c => (c.Row, c.Column)).Order()], group.Average(c => c.LossPercent!.Value), group.Max(c => c.LossPercent!.Value));
                }
            }
        }
    }

    private static List<int> Bands(int along, int across, Func<int, int, CellFacts?> at)
    {
        var bands = new List<int>();
        for (var i = 1; i <= along; i++)
        {
            var (n, sum) = (0, 0.0);
            for (var j = 1; j <= across; j++)
            {
                if (at(i, j)?.Used is { } used)
                {
                    (n, sum) = (n + 1, sum + used);
                }
            }

            if (n >= 2 && sum / n > GroupFrom)
            {
                bands.Add(i);
            }
        }

        return bands;
    }
}
