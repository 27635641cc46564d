using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>How loss lies over a sheet.</summary>
public enum PatternKind
{
    /// <summary>Along a run of rows.</summary>
    RowBand,

    /// <summary>Along a run of columns.</summary>
    ColumnBand,

    /// <summary>In a patch.</summary>
    Cluster,

    /// <summary>More on one side of the centre line.</summary>
    Sides,

    /// <summary>Near a marked source.</summary>
    Source,

    /// <summary>Growing from one end or corner to the other.</summary>
    Slope,

    /// <summary>On every second row, column or cell.</summary>
    Alternation,

    /// <summary>Along a slanting run.</summary>
    Diagonal,
}

/// <summary>A way in which the loss does not lie as if by accident. A suggestion of a cause to confirm, not a fact.</summary>
/// <param name="Kind">What kind.</param>
/// <param name="Where">Where it is, in the names of the sheet.</param>
/// <param name="Strength">
/// From 0 to 1: the share of all variance that the band, patch, slope, alternation or slanting run explains, the share of pairs that differ the same way, or the rank correlation
/// with the nearness to the source or with lying on it, whichever is larger.
/// </param>
/// <param name="Chance">How likely accident alone gives as much, after Holm's correction for the number of questions asked.</param>
/// <param name="Suggestion">What to look for.</param>
/// <param name="RowFrom">First row.</param>
/// <param name="RowTo">Last row.</param>
/// <param name="ColumnFrom">First column.</param>
/// <param name="ColumnTo">Last column.</param>
public sealed record LossPattern(PatternKind Kind, string Where, double Strength, double Chance, string Suggestion, int RowFrom, int RowTo, int ColumnFrom, int ColumnTo);

/// <summary>
/// Looks for patterns in the loss of a sheet by permutation tests: the same readings are dealt over the same cells in random order, and a pattern is
/// reported when few of these deals show as strong a one. The seed is fixed, so the same sheet gives the same answer. With all questions taken
/// together, pure noise gives a false alarm at most one time in twenty (Holm, Scand. J. Statist. 6, 1979).
/// </summary>
public static class PatternRule
{
    /// <summary>The stated rate of false alarms.</summary>
    public const double Alarm = 0.05;

    /// <summary>Fewest readings to look at.</summary>
    public const int Fewest = 12;

    // Fewest rows or columns for a slope, and for what comes on every second one; fewest of both for what slants.
    private const int FewestForSlope = 4;

    private const int FewestForSlant = 4;

    /// <summary>The question whether one side lost more, in words.</summary>
    public const string TheSides = "the two sides";

    private const ulong Seed = 417;

    private const int Chunks = 8;

    /// <summary>Finds the patterns of a judged sheet, strongest first.</summary>
    /// <param name="analysis">The sheet; cells of an unknown size as built count by their reading.</param>
    public static IReadOnlyList<LossPattern> Find(SheetAnalysis analysis)
    {
        ArgumentNullException.ThrowIfNull(analysis);
        var grid = Grid.Of(analysis);
        if (grid is null)
        {
            return [];
        }

        var questions = Ask(grid);
        var deals = grid.Count > 2500 ? 400 : 1000;
        var asStrong = new int[Chunks, questions.Count];
        Parallel.For(0, Chunks, chunk =>
        {
            var dice = new Dice(Seed + (ulong)chunk);
            var order = Enumerable.Range(0, grid.Count).ToArray();
            var dealt = new double[grid.Count];
            for (var deal = 0; deal < deals / Chunks; deal++)
            {
                dice.Shuffle(order);
                for (var i = 0; i < order.Length; i++)
                {
                    dealt[i] = grid.Loss[order[i]];
                }

                for (var q = 0; q < questions.Count; q++)
                {
                    if (questions[q].Measure(dealt, order) >= questions[q].Observed - 1e-12)
                    {
                        asStrong[chunk, q]++;
                    }
                }
            }
        });

        var chances = questions.Select((q, k) => (Question: q, Chance: (1.0 + Enumerable.Range(0, Chunks).Sum(c => asStrong[c, k])) / (1 + (deals / Chunks * Chunks)))).OrderBy(x => x.Chance).ToList();
        var found = new List<LossPattern>();
        var adjusted = 0.0;
        for (var k = 0; k < chances.Count; k++)
        {
            adjusted = Math.Max(adjusted, Math.Min(1, chances[k].Chance * (chances.Count - k)));
            if (adjusted > Alarm)
            {
                break;
            }

            if (chances[k].Question.Describe(adjusted) is { } pattern)
            {
                found.Add(pattern);
            }
        }

        return [.. Named(found).OrderByDescending(f => f.Strength)];
    }

    /// <summary>What is asked of a sheet, in words; empty when it has too few readings or all are the same.</summary>
    /// <param name="analysis">The sheet.</param>
    public static IReadOnlyList<string> Asked(SheetAnalysis analysis)
    {
        ArgumentNullException.ThrowIfNull(analysis);
        return Grid.Of(analysis) is { } grid ? [.. Ask(grid).Select(q => q.Word).Distinct(StringComparer.Ordinal)] : [];
    }

    // One difference answers to several questions: a step between the sides to bands and to a slope, a slope to bands. It is named once, as what it is most.
    private static IEnumerable<LossPattern> Named(List<LossPattern> found)
    {
        // What a pattern explains of the variance, as far as that can be compared.
        static double Share(LossPattern p) => p.Kind == PatternKind.Source ? p.Strength * p.Strength : p.Strength;
        var sides = found.Find(p => p.Kind == PatternKind.Sides);
        bool Less(LossPattern p, params PatternKind[] than) => found.Exists(o => o != p && than.Contains(o.Kind) && Share(o) >= Share(p));
        return found.Where(p => p.Kind switch
        {
            PatternKind.RowBand => !(sides is not null && p.RowFrom >= sides.RowFrom && p.RowTo <= sides.RowTo)
                && !Less(p, PatternKind.Slope, PatternKind.Alternation, PatternKind.Diagonal),
            PatternKind.ColumnBand => !Less(p, PatternKind.Slope, PatternKind.Alternation, PatternKind.Diagonal),
            PatternKind.Slope => sides is null
                && !Less(p, PatternKind.RowBand, PatternKind.ColumnBand, PatternKind.Cluster, PatternKind.Source, PatternKind.Diagonal),
            PatternKind.Diagonal => sides is null
                && !Less(p, PatternKind.RowBand, PatternKind.ColumnBand, PatternKind.Cluster, PatternKind.Source, PatternKind.Slope),
            PatternKind.Alternation => !Less(p, PatternKind.RowBand, PatternKind.ColumnBand, PatternKind.Diagonal),
            PatternKind.Cluster => !Less(p, PatternKind.Slope, PatternKind.Diagonal),
            _ => true,
        });
    }

    private static List<Question> Ask(Grid g)
    {
        var rows = new LineScan(g, g.Rows, g.RowCount, g.Columns, g.ColumnCount);
        var columns = new LineScan(g, g.Columns, g.ColumnCount, g.Rows, g.RowCount);
        var questions = new List<Question>
        {
            new(
                "bands",
                rows.Strongest(g.Loss, out _),
                (v, order) => rows.Strongest(v, out _),
                chance => Band(g, rows, chance, PatternKind.RowBand)),
            new(
                "bands",
                columns.Strongest(g.Loss, out _),
                (v, order) => columns.Strongest(v, out _),
                chance => Band(g, columns, chance, PatternKind.ColumnBand)),
            new("patches", g.Togetherness(g.Loss), (v, _) => g.Togetherness(v), chance => Patch(g, chance)),
        };
        if (SlopeScan.Of(g) is { } slope)
        {
            questions.Add(new("a slope", slope.Explained(g.Loss), (v, _) => slope.Explained(v), slope.Describe));
        }

        if (Alternating.Of(g) is { Count: > 0 } ways)
        {
            double Most(double[] v) => ways.Max(w => w.Explained(v));
            questions.Add(
                new("every second one", Most(g.Loss), (v, _) => Most(v), chance => ways.MaxBy(w => w.Explained(g.Loss))!.Describe(chance)));
        }

        if (g.RowCount >= FewestForSlant && g.ColumnCount >= FewestForSlant)
        {
            var lines = g.RowCount + g.ColumnCount - 1;
            var down = new LineScan(
                g,
                [.. Enumerable.Range(0, g.Count).Select(i => g.Rows[i] - g.Columns[i] + g.ColumnCount - 1)],
                lines,
                g.Columns,
                g.ColumnCount);
            var up = new LineScan(
                g,
                [.. Enumerable.Range(0, g.Count).Select(i => g.Rows[i] + g.Columns[i])],
                lines,
                g.Columns,
                g.ColumnCount);
            questions.Add(
                new("slanting runs", Math.Max(down.Strongest(g.Loss, out _), up.Strongest(g.Loss, out _)), (v, order) => Math.Max(down.Strongest(v, out _), up.Strongest(v, out _)), chance => Slant(g, down, up, chance)));
        }

        if (g.Pairs.Count >= 6)
        {
            questions.Add(new(TheSides, g.SideDifference(g.Loss), (v, _) => g.SideDifference(v), chance => Sides(g, chance)));
        }

        var ranks = Ranks(g.Loss);
        foreach (var source in g.Analysis.Sheet.Sources)
        {
            // Either the loss falls off with the distance, or it lies on the source and nowhere else.
            var distances = Enumerable.Range(0, g.Count).Select(i => Distance(g.Rows[i] + 1, g.Columns[i] + 1, source)).ToArray();
            var near = new[] { Ranks([.. distances.Select(d => -d)]), Ranks([.. distances.Select(d => d == 0 ? 1.0 : 0)]) }
                .Select(n => (Near: n, Scale: Math.Sqrt(n.Sum(x => x * x) * ranks.Sum(x => x * x)))).Where(w => w.Scale > 0).ToArray();
            if (near.Length == 0)
            {
                continue;
            }

            double Correlation(int[] order)
            {
                var most = -1.0;
                foreach (var (ranked, scale) in near)
                {
                    var sum = 0.0;
                    for (var i = 0; i < order.Length; i++)
                    {
                        sum += ranked[i] * ranks[order[i]];
                    }

                    most = Math.Max(most, sum / scale);
                }

                return most;
            }

            var observed = Correlation([.. Enumerable.Range(0, g.Count)]);
            questions.Add(
                new($"nearness to {source.Name}", observed, (_, order) => Correlation(order), chance => Near(source, observed, chance)));
        }

        return questions;
    }

    private static LossPattern? Band(Grid g, LineScan scan, double chance, PatternKind kind)
    {
        var strength = scan.Strongest(g.Loss, out var at);

        // A patch makes a row stand out too; a band has to run on over three quarters of the sheet.
        if (scan.Continuity(g.Loss, at) < 0.75)
        {
            return null;
        }

        var sheet = g.Analysis.Sheet;
        var names = kind == PatternKind.RowBand ? sheet.Rows : sheet.Columns;
        var what = (kind == PatternKind.RowBand ? sheet.RowsAre : sheet.ColumnsAre) is { Length: > 0 } said ? said : kind == PatternKind.RowBand ? "Row" : "Column";
        var where = at.From == at.To ? $"{what} {names[at.From]}" : $"{what} {names[at.From]} to {names[at.To]}";
        return kind == PatternKind.RowBand
            ? new LossPattern(kind, where, strength, chance, "A band along it: look for a water line, a level at which something stood, a lap or a heat line.", at.From + 1, at.To + 1, 1, g.ColumnCount)
            : new LossPattern(kind, where, strength, chance, "A band across: look for a frame, a joint, a strap or a support behind it.", 1, g.RowCount, at.From + 1, at.To + 1);
    }

    private static LossPattern? Patch(Grid g, double chance)
    {
        var patch = g.LargestPatch();
        var sheet = g.Analysis.Sheet;
        if (patch.Count < 3)
        {
            return null;
        }

        var (r1, r2) = (patch.Min(i => g.Rows[i]), patch.Max(i => g.Rows[i]));
        var (c1, c2) = (patch.Min(i => g.Columns[i]), patch.Max(i => g.Columns[i]));
        if (r2 - r1 + 1 > Math.Max(2, 0.6 * g.RowCount) || c2 - c1 + 1 > Math.Max(2, 0.6 * g.ColumnCount))
        {
            return null;
        }

        var outside = patch.Count < g.Count ? (g.Loss.Sum() - patch.Sum(i => g.Loss[i])) / (g.Count - patch.Count) : 0;
        var inside = patch.Average(i => g.Loss[i]);
        var strength = Math.Clamp(patch.Count * (g.Count - patch.Count) / (double)g.Count * (inside - outside) * (inside - outside) / g.Variance, 0, 1);
        return new LossPattern(
            PatternKind.Cluster, $"{sheet.Rows[r1]} to {sheet.Rows[r2]}, {(sheet.ColumnsAre.Length > 0 ? sheet.ColumnsAre.ToLowerInvariant() + " " : string.Empty)}{sheet.Columns[c1]} to {sheet.Columns[c2]}", strength, chance,
            "A patch: look above and behind it for an outlet, a leak, a blocked drain or something that held the wet.", r1 + 1, r2 + 1, c1 + 1, c2 + 1);
    }

    private static LossPattern Sides(Grid g, double chance)
    {
        var upper = g.MeanDifference(g.Loss) > 0;
        var more = g.Pairs.Count(p => upper ? g.Loss[p.Upper] > g.Loss[p.Lower] : g.Loss[p.Upper] < g.Loss[p.Lower]) / (double)g.Pairs.Count;
        var sheet = g.Analysis.Sheet;
        var centre = sheet.CentreAfterRow!.Value;
        var (from, to) = upper ? (1, centre) : (centre + 1, sheet.Rows.Length);
        return new LossPattern(PatternKind.Sides, $"The side of {sheet.Rows[from - 1]} to {sheet.Rows[to - 1]}", more, chance, "One side lost more than the other: how did it stand or list, and which side has the exhaust or the weather?", from, to, 1, g.ColumnCount);
    }

    private static LossPattern Near(SheetSource source, double correlation, double chance) => new(
        PatternKind.Source, $"Near {source.Name}", Math.Clamp(correlation, 0, 1), chance,
        source.Kind switch
        {
            SourceKind.Outlet => "The nearer to the outlet, the more is lost: where does it run down, and can it be led away?",
            SourceKind.Drain => "The nearer to the drain, the more is lost: is it blocked, or too high to empty?",
            SourceKind.WaterLine => "The nearer to the water line, the more is lost: can it stand dry, or be painted there?",
            SourceKind.Seam => "The nearer to the seam, the more is lost: does it weep?",
            _ => "The nearer to the other metal, the more is lost: is there jointing compound between the two?",
        },
        source.RowFrom, source.RowTo, source.ColumnFrom, source.ColumnTo);

    private static double Distance(int row, int column, SheetSource s)
    {
        double dr = Math.Max(0, Math.Max(s.RowFrom - row, row - s.RowTo));
        double dc = Math.Max(0, Math.Max(s.ColumnFrom - column, column - s.ColumnTo));
        return Math.Sqrt((dr * dr) + (dc * dc));
    }

    // Mean ranks, centred on nought.
    private static double[] Ranks(double[] values)
    {
        var order = Enumerable.Range(0, values.Length).OrderBy(i => values[i]).ToArray();
        var ranks = new double[values.Length];
        for (var i = 0; i < order.Length;)
        {
            var j = i;
            while (j + 1 < order.Length && values[order[j + 1]] == values[order[i]])
            {
                j++;
            }

            for (var k = i; k <= j; k++)
            {
                ranks[order[k]] = ((i + j) / 2.0) - ((values.Length - 1) / 2.0);
            }

            i = j + 1;
        }

        return ranks;
    }

    // A slanting run goes on over most of the columns that it crosses.
    private static LossPattern? Slant(Grid g, LineScan down, LineScan up, double chance)
    {
        var scan = down.Strongest(g.Loss, out _) >= up.Strongest(g.Loss, out _) ? down : up;
        var strength = scan.Strongest(g.Loss, out var at);
        if (scan.Continuity(g.Loss, at) < 0.75)
        {
            return null;
        }

        var on = Enumerable.Range(0, g.Count).Where(i => scan.On(i, at)).ToList();
        var sheet = g.Analysis.Sheet;
        var (first, last) = (on.MinBy(i => g.Columns[i]), on.MaxBy(i => g.Columns[i]));
        return new LossPattern(
            PatternKind.Diagonal, $"Slanting from {sheet.NameOf(g.Rows[first] + 1, g.Columns[first] + 1)} to {sheet.NameOf(g.Rows[last] + 1, g.Columns[last] + 1)}", strength, chance,
            "It slants across: look for a run of water, a brace, a rope or a spray that lay so.", on.Min(i => g.Rows[i]) + 1, on.Max(i => g.Rows[i]) + 1, on.Min(i => g.Columns[i]) + 1, on.Max(i => g.Columns[i]) + 1);
    }

    private sealed record Question(
        string Word,
        double Observed,
        Func<double[], int[], double> Measure,
        Func<double, LossPattern?> Describe);

    /// <summary>The readings as a list: where each lies, and its loss less the mean loss.</summary>
    private sealed class Grid
    {
        public required SheetAnalysis Analysis { get; init; }

        public required int RowCount { get; init; }

        public required int ColumnCount { get; init; }

        public required int[] Rows { get; init; }

        public required int[] Columns { get; init; }

        public required double[] Loss { get; init; }

        public required int[] FirstOfPair { get; init; }

        public required int[] SecondOfPair { get; init; }

        public required IReadOnlyList<(int Upper, int Lower)> Pairs { get; init; }

        public int Count => Loss.Length;

        public double Variance { get; private init; }

        public static Grid? Of(SheetAnalysis analysis)
        {
            var sheet = analysis.Sheet;
            var sign = VerdictRule.Shrinks(sheet.Feature) ? -1 : 1;
            var read = analysis.Cells.Where(c => c.Count > 0).ToList();
            if (read.Count < Fewest)
            {
                return null;
            }

            // Loss in percent where the size as built is known everywhere, else the reading itself.
            var known = read.TrueForAll(c => c.LossPercent is not null);
            var loss = read.Select(c => known ? c.LossPercent!.Value : sign * c.Worst).ToArray();
            var mean = loss.Average();
            for (var i = 0; i < loss.Length; i++)
            {
                loss[i] -= mean;
            }

            var variance = loss.Sum(x => x * x);
            if (variance <= 0)
            {
                return null;
            }

            var at = read.Select((c, i) => (c.Row, c.Column, i)).ToDictionary(x => (x.Row, x.Column), x => x.i);
            var touching = read.SelectMany((c, i) => new[] { (c.Row + 1, c.Column), (c.Row, c.Column + 1) }.Where(at.ContainsKey).Select(n => (i, at[n]))).ToList();
            var pairs = sheet.CentreAfterRow is { } centre
                ? read.Select((c, i) => (c, i)).Where(x => x.c.Row <= centre && at.ContainsKey(((2 * centre) + 1 - x.c.Row, x.c.Column))).Select(x => (x.i, at[((2 * centre) + 1 - x.c.Row, x.c.Column)])).ToList()
                : [];
            return new Grid
            {
                Analysis = analysis,
                RowCount = sheet.Rows.Length,
                ColumnCount = sheet.Columns.Length,
                Rows = [.. read.Select(c => c.Row - 1)],
                Columns = [.. read.Select(c => c.Column - 1)],
                Loss = loss,
                FirstOfPair = [.. touching.Select(t => t.i)],
                SecondOfPair = [.. touching.Select(t => t.Item2)],
                Pairs = pairs,
                Variance = variance,
            };
        }

        /// <summary>Moran's I without its constant factor: how much neighbours are alike.</summary>
        public double Togetherness(double[] v)
        {
            var sum = 0.0;
            for (var i = 0; i < FirstOfPair.Length; i++)
            {
                sum += v[FirstOfPair[i]] * v[SecondOfPair[i]];
            }

            return sum;
        }

        public double SideDifference(double[] v) => Math.Abs(MeanDifference(v));

        public double MeanDifference(double[] v)
        {
            var sum = 0.0;
            foreach (var (upper, lower) in Pairs)
            {
                sum += v[upper] - v[lower];
            }

            return sum / Pairs.Count;
        }

        /// <summary>The largest group of touching cells that lie more than one standard deviation above the mean.</summary>
        public List<int> LargestPatch()
        {
            var above = Math.Sqrt(Variance / (Count - 1));
            var neighbours = new List<int>[Count];
            for (var i = 0; i < Count; i++)
            {
                neighbours[i] = [];
            }

            for (var i = 0; i < FirstOfPair.Length; i++)
            {
                neighbours[FirstOfPair[i]].Add(SecondOfPair[i]);
                neighbours[SecondOfPair[i]].Add(FirstOfPair[i]);
            }

            var seen = new bool[Count];
            List<int> largest = [];
            for (var start = 0; start < Count; start++)
            {
                if (seen[start] || Loss[start] <= above)
                {
                    continue;
                }

                var group = new List<int>();
                var open = new Stack<int>([start]);
                seen[start] = true;
                while (open.TryPop(out var i))
                {
                    group.Add(i);
                    foreach (var n in neighbours[i].Where(n => !seen[n] && Loss[n] > above))
                    {
                        seen[n] = true;
                        open.Push(n);
                    }
                }

                largest = group.Count > largest.Count ? group : largest;
            }

            return largest;
        }
    }

    /// <summary>How much of the variance a plane through the readings explains (linear regression on row and column).</summary>
    private sealed class SlopeScan
    {
        private readonly Grid grid;
        private readonly double[] rows;
        private readonly double[] columns;
        private readonly double rr;
        private readonly double cc;
        private readonly double rc;

        private SlopeScan(Grid g)
        {
            grid = g;
            rows = Centred(g.Rows);
            columns = Centred(g.Columns);
            (rr, cc, rc) = (rows.Sum(x => x * x), columns.Sum(x => x * x), rows.Zip(columns).Sum(x => x.First * x.Second));
        }

        public static SlopeScan? Of(Grid g)
        {
            return g.RowCount >= FewestForSlope || g.ColumnCount >= FewestForSlope ? new SlopeScan(g) : null;
        }

        public double Explained(double[] v)
        {
            Slopes(v, out var explained);
            return explained / grid.Variance;
        }

        public LossPattern? Describe(double chance)
        {
            var (r, c) = Slopes(grid.Loss, out var explained);
            var sheet = grid.Analysis.Sheet;

            // What each of the two directions adds over the whole sheet.
            var (alongRows, alongColumns) = (r * (grid.RowCount - 1), c * (grid.ColumnCount - 1));
            var byRows = Math.Abs(alongRows) >= Math.Abs(alongColumns) / 3;
            var byColumns = Math.Abs(alongColumns) >= Math.Abs(alongRows) / 3;
            string End(bool high) =>
                sheet.NameOf((alongRows > 0) == high ? sheet.Rows.Length : 1, (alongColumns > 0) == high ? sheet.Columns.Length : 1);
            string Row(bool high) => sheet.Rows[(alongRows > 0) == high ? ^1 : 0];
            string Column(bool high) => sheet.Columns[(alongColumns > 0) == high ? ^1 : 0];
            var across = sheet.ColumnsAre.Length > 0 ? sheet.ColumnsAre.ToLowerInvariant() : "column";
            var along = sheet.RowsAre.Length > 0 ? sheet.RowsAre.ToLowerInvariant() : "row";
            var where = byRows && byColumns ? $"Growing from {End(false)} to {End(true)}"
                : byRows ? $"Growing from {along} {Row(false)} to {along} {Row(true)}" : $"Growing from {across} {Column(false)} to {across} {Column(true)}";
            return new LossPattern(
                PatternKind.Slope,
                where,
                explained / grid.Variance,
                chance,
                "It grows evenly to one end: which end stood lower, wetter or hotter, and was it rolled or worn to a taper?",
                1,
                grid.RowCount,
                1,
                grid.ColumnCount);
        }

        // Slopes a row and a column, by least squares; one alone where the sheet is one line.
        private (double Row, double Column) Slopes(double[] v, out double explained)
        {
            var (vr, vc) = (0.0, 0.0);
            for (var i = 0; i < v.Length; i++)
            {
                vr += v[i] * rows[i];
                vc += v[i] * columns[i];
            }

            var det = (rr * cc) - (rc * rc);
            var (r, c) = det > 1e-9 * rr * cc
                ? (((vr * cc) - (vc * rc)) / det, ((vc * rr) - (vr * rc)) / det)
                : rr >= cc
                ? (vr / rr, 0.0)
                : (0.0, vc / cc);
            explained = (r * vr) + (c * vc);
            return (r, c);
        }

        private static double[] Centred(int[] at)
        {
            var mean = at.Average();
            return [.. at.Select(x => x - mean)];
        }
    }

    /// <summary>How much of the variance it explains that every second line has lost more than the others.</summary>
    private sealed class Alternating(Grid grid, bool[] second, string where)
    {
        private readonly int count = second.Count(x => x);

        public static IReadOnlyList<Alternating> Of(Grid g)
        {
            var sheet = g.Analysis.Sheet;
            var ways = new List<Alternating>();
            void Add(bool asked, Func<int, int> line, string where)
            {
                bool[] second = [.. Enumerable.Range(0, g.Count).Select(i => line(i) % 2 == 1)];
                if (asked && second.Count(x => x) is >= 3 and var n && n <= g.Count - 3)
                {
                    ways.Add(new Alternating(g, second, where));
                }
            }

            Add(g.RowCount >= FewestForSlope, i => g.Rows[i], sheet.RowsAre.Length > 0 ? sheet.RowsAre.ToLowerInvariant() : "row");
            Add(
                g.ColumnCount >= FewestForSlope,
                i => g.Columns[i],
                sheet.ColumnsAre.Length > 0 ? sheet.ColumnsAre.ToLowerInvariant() : "column");
            Add(g.RowCount > 1 && g.ColumnCount > 1, i => g.Rows[i] + g.Columns[i], "cell");
            return ways;
        }

        public double Explained(double[] v)
        {
            var sum = 0.0;
            for (var i = 0; i < v.Length; i++)
            {
                sum += second[i] ? v[i] : 0;
            }

            return sum * sum * v.Length / ((double)count * (v.Length - count)) / grid.Variance;
        }

        public LossPattern Describe(double chance) => new(
            PatternKind.Alternation, $"Every second {where}", Explained(grid.Loss), chance,
            "It comes and goes by twos: look for what stands at every second one, such as a frame, a row of rivets or the way two people measured.", 1, grid.RowCount, 1, grid.ColumnCount);
    }

    /// <summary>The run of neighbouring lines that explains most of the variance by having lost more than the rest.</summary>
    private sealed class LineScan(Grid grid, int[] lineOf, int lines, int[] crossOf, int crosses)
    {
        private readonly int[] counts = Counted(lineOf, lines);

        public double Strongest(double[] v, out (int From, int To) at)
        {
            Span<double> sums = lines <= 256 ? stackalloc double[lines] : new double[lines];
            for (var i = 0; i < v.Length; i++)
            {
                sums[lineOf[i]] += v[i];
            }

            at = default;
            var best = 0.0;
            var widest = Math.Min(Math.Max(1, lines / 2), 12);
            for (var from = 0; from < lines; from++)
            {
                var (sum, n) = (0.0, 0);
                for (var to = from; to < Math.Min(lines, from + widest); to++)
                {
                    sum += sums[to];
                    n += counts[to];
                    if (sum <= 0 || n < 3 || n > v.Length - 3)
                    {
                        continue;
                    }

                    // Sum of squares between the run and the rest; the mean of all is nought.
                    var between = sum * sum * v.Length / ((double)n * (v.Length - n));
                    if (between > best)
                    {
                        (best, at) = (between, (from, to));
                    }
                }
            }

            return best / grid.Variance;
        }

        public bool On(int i, (int From, int To) at) => lineOf[i] >= at.From && lineOf[i] <= at.To;

        /// <summary>The share of crossing lines on which the run has lost more than the rest of that line.</summary>
        public double Continuity(double[] v, (int From, int To) at)
        {
            var (sumIn, sumOut, nIn, nOut) = (new double[crosses], new double[crosses], new int[crosses], new int[crosses]);
            for (var i = 0; i < v.Length; i++)
            {
                var c = crossOf[i];
                if (lineOf[i] >= at.From && lineOf[i] <= at.To)
                {
                    sumIn[c] += v[i];
                    nIn[c]++;
                }
                else
                {
                    sumOut[c] += v[i];
                    nOut[c]++;
                }
            }

            var both = Enumerable.Range(0, crosses).Where(c => nIn[c] > 0 && nOut[c] > 0).ToList();
            return both.Count == 0 ? 0 : both.Count(c => sumIn[c] / nIn[c] > sumOut[c] / nOut[c]) / (double)both.Count;
        }

        private static int[] Counted(int[] lineOf, int lines)
        {
            var n = new int[lines];
            foreach (var l in lineOf)
            {
                n[l]++;
            }

            return n;
        }
    }

    /// <summary>SplitMix64 (Steele, Lea and Flood, OOPSLA 2014): small, fast, the same everywhere.</summary>
    private struct Dice(ulong seed)
    {
        private ulong state = seed * 0x9E3779B97F4A7C15;

        public void Shuffle(int[] order)
        {
            for (var i = order.Length - 1; i > 0; i--)
            {
                var j = (int)Math.BigMul(Next(), (ulong)(i + 1), out _);
                (order[i], order[j]) = (order[j], order[i]);
            }
        }

        private ulong Next()
        {
            var z = state += 0x9E3779B97F4A7C15;
            z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
            z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
            return z ^ (z >> 31);
        }
    }
}
