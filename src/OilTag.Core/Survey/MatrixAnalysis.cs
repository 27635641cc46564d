using OilTag.Core.Machines;

namespace OilTag.Core.Survey;

/// <summary>What a cell, a position or a check comes to.</summary>
/// <param name="Verdict">Within is sound, at limit doubtful, beyond bad; cannot tell when it was not seen, or only told or assumed.</param>
/// <param name="Sentence">Why, in a sentence.</param>
public sealed record Standing(Verdict Verdict, string Sentence);

/// <summary>A cell that was filled, judged.</summary>
/// <param name="Cell">The cell.</param>
/// <param name="Standing">What it comes to; null when the check does not apply there.</param>
/// <param name="Measured">The verdict on its reading with the working, or null.</param>
public sealed record JudgedCell(MatrixCell Cell, Standing? Standing, VerdictResult? Measured);

/// <summary>A suggestion of where to look for a cause.</summary>
/// <param name="From">First position, from 1; nought when it is about the hands.</param>
/// <param name="To">Last position.</param>
/// <param name="Strength">How much worse they are than the rest: nought for not at all, one for bad against sound.</param>
/// <param name="Chance">How often chance alone would make so strong a difference.</param>
/// <param name="Sentence">It in words.</param>
public sealed record MatrixHint(int From, int To, double Strength, double Chance, string Sentence);

/// <summary>A matrix survey judged under the standard that holds.</summary>
public sealed class MatrixAnalysis
{
    /// <summary>At or below this chance a difference is called a pattern.</summary>
    public const double Surely = 0.05;

    /// <summary>Differences below this strength, or that chance makes more often than every other time, are not told.</summary>
    public const double Least = 0.25;

    private const int Shuffles = 1999;

    private const int ExactUpTo = 7;

    private const int Seed = 417;

    private readonly Dictionary<(int Position, int Check), JudgedCell> cells;

    /// <summary>Judges the cells.</summary>
    /// <param name="matrix">The survey.</param>
    /// <param name="filled">Its cells.</param>
    /// <param name="standard">The standard that holds at the place.</param>
    /// <param name="setBy">What set it.</param>
    public MatrixAnalysis(SurveyMatrix matrix, IEnumerable<MatrixCell> filled, RestorationStandard standard, string setBy)
    {
        ArgumentNullException.ThrowIfNull(matrix);
        ArgumentNullException.ThrowIfNull(filled);
        Matrix = matrix;
        cells = filled.Where(c => matrix.Has(c.Position, c.Check)).ToDictionary(c => (c.Position, c.Check), c => Judge(matrix, c, standard, setBy));
        Positions = [.. Enumerable.Range(1, matrix.Positions.Count).Select(p => Sum(Enumerable.Range(1, matrix.Checks.Count).Select(c => (At(p, c), matrix.Checks[c - 1].Name))))];
        Checks = [.. Enumerable.Range(1, matrix.Checks.Count).Select(c => Sum(Enumerable.Range(1, matrix.Positions.Count).Select(p => (At(p, c), matrix.Positions[p - 1].Name))))];
        Hints = Look();
    }

    /// <summary>The survey.</summary>
    public SurveyMatrix Matrix { get; }

    /// <summary>What each position comes to, in order.</summary>
    public IReadOnlyList<Standing> Positions { get; }

    /// <summary>What each check comes to, in order.</summary>
    public IReadOnlyList<Standing> Checks { get; }

    /// <summary>Where to look for a cause, the strongest first.</summary>
    public IReadOnlyList<MatrixHint> Hints { get; }

    /// <summary>Cells that nobody has filled.</summary>
    public int Unread => (Matrix.Positions.Count * Matrix.Checks.Count) - cells.Count;

    /// <summary>A cell, or null while it is empty.</summary>
    public JudgedCell? At(int position, int check) => cells.GetValueOrDefault((position, check));

    /// <summary>How many cells come to a verdict.</summary>
    public int Count(Verdict v) => cells.Values.Count(c => c.Standing?.Verdict == v);

    /// <summary>Cells that were only told or assumed: they want looking at.</summary>
    public IEnumerable<JudgedCell> OnlySaid => cells.Values.Where(c => c.Cell.Evidence.IsOnlySaid() && c.Cell.Mark is not (CellMark.CannotSee or CellMark.NotApplicable)).OrderBy(c => c.Cell.Position).ThenBy(c => c.Cell.Check);

    /// <summary>The word for a standing.</summary>
    public static string Word(Verdict v) => v switch { Verdict.Within => "Sound", Verdict.AtLimit => "Doubtful", Verdict.Beyond => "Bad", _ => "Cannot tell" };

    private static JudgedCell Judge(SurveyMatrix matrix, MatrixCell c, RestorationStandard standard, string setBy)
    {
        var check = matrix.Checks[c.Check - 1];
        var measured = c.Reading is { } r && check.Measured is { } limits && r.Unit.Quantity == limits.Unit.Quantity ? CheckRule.Judge(limits, r, c.ReadingTo, c.Evidence, standard, setBy) : null;
        var said = c.Evidence.IsOnlySaid();
        Standing? standing = c.Mark switch
        {
            CellMark.NotApplicable => null,
            CellMark.CannotSee => new Standing(Verdict.CannotTell, "Cannot be seen yet."),
            CellMark.Measured => new Standing(measured?.Verdict ?? Verdict.CannotTell, measured?.Working.Result ?? "Cannot tell: the check takes no such measurement any more."),
            _ when said => new Standing(Verdict.CannotTell, $"Cannot tell: {MatrixRules.Word(c.Mark).ToLowerInvariant()} was {c.Evidence.ToString().ToLowerInvariant()}. Look."),
            _ => Worse(new Standing(c.Mark switch { CellMark.Sound => Verdict.Within, CellMark.Doubtful => Verdict.AtLimit, _ => Verdict.Beyond }, $"{MatrixRules.Word(c.Mark)}, {c.Evidence.ToString().ToLowerInvariant()}."), measured),
        };
        return new JudgedCell(c, standing, measured);
    }

    // What people saw stands where the number cannot be judged; else the worse of both.
    private static Standing Worse(Standing seen, VerdictResult? measured) =>
        measured is { Verdict: Verdict.AtLimit or Verdict.Beyond } m && m.Verdict > seen.Verdict ? new Standing(m.Verdict, m.Working.Result) : seen;

    private static Standing Sum(IEnumerable<(JudgedCell? Cell, string Name)> line)
    {
        var all = line.Where(x => x.Cell is null || x.Cell.Standing is not null).Select(x => (Verdict: x.Cell?.Standing?.Verdict ?? Verdict.CannotTell, x.Name)).ToList();
        string Names(Verdict v) => string.Join(", ", all.Where(x => x.Verdict == v).Select(x => x.Name));
        if (all.Count == 0)
        {
            return new Standing(Verdict.CannotTell, "No check applies.");
        }

        foreach (var v in new[] { Verdict.Beyond, Verdict.AtLimit, Verdict.CannotTell })
        {
            if (all.Exists(x => x.Verdict == v))
            {
                return new Standing(v, v == Verdict.CannotTell ? $"Not seen yet, or only said: {Names(v)}." : $"{Word(v)}: {Names(v)}.");
            }
        }

        return new Standing(Verdict.Within, "Everything was seen and is sound.");
    }

    private List<MatrixHint> Look()
    {
        // How bad a position is: the mean of what was seen there, nought for sound and one for bad.
        var scores = Enumerable.Range(1, Matrix.Positions.Count).Select(p =>
        {
            var seen = Enumerable.Range(1, Matrix.Checks.Count).Select(c => At(p, c)?.Standing?.Verdict).OfType<Verdict>().Where(v => v != Verdict.CannotTell).ToList();
            return (Position: p, Seen: seen.Count > 0, Score: seen.Count > 0 ? seen.Average(v => v switch { Verdict.Beyond => 1, Verdict.AtLimit => 0.5, _ => 0.0 }) : 0);
        }).Where(s => s.Seen).ToList();
        var hints = new List<MatrixHint>();
        if (scores.Count < 4)
        {
            return hints;
        }

        var values = scores.Select(s => s.Score).ToArray();
        var best = Window(values);
        Tell(best.Strength, Chance(values, v => Window(v).Strength, best.Strength), scores[best.From].Position, scores[best.To].Position, $"{Matrix.NameOf(scores[best.From].Position)} to {Matrix.Positions[scores[best.To].Position - 1].Name} are worse than the rest");
        var hands = scores.Select(s => Matrix.Positions[s.Position - 1].Hand).ToArray();
        if (hands.Count(h => h == Hand.Left) >= 2 && hands.Count(h => h == Hand.Right) >= 2)
        {
            double Side(double[] v) => Mean(v, i => hands[i] == Hand.Left) - Mean(v, i => hands[i] == Hand.Right);
            var side = Side(values);
            Tell(Math.Abs(side), Chance(values, v => Math.Abs(Side(v)), Math.Abs(side)), 0, 0, $"The {(side > 0 ? "left" : "right")} side is worse than the {(side > 0 ? "right" : "left")}");
        }

        return [.. hints.OrderByDescending(h => h.Strength)];

        void Tell(double strength, double chance, int from, int to, string what)
        {
            if (strength >= Least && chance <= 0.5)
            {
                hints.Add(new MatrixHint(from, to, strength, chance, chance <= Surely
                    ? $"{what}. Chance alone does that less than 1 time in 20: look for what acts there, and confirm it."
                    : string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{what}. Chance alone does that about {Math.Round(100 * chance)} times in 100: look there first, but do not count on it.")));
            }
        }
    }

    // The run of neighbours, of two to half of all, that differs most from the others.
    private static (double Strength, int From, int To) Window(double[] v)
    {
        (double Strength, int From, int To) best = (double.MinValue, 0, 0);
        for (var length = 2; length <= v.Length / 2; length++)
        {
            for (var from = 0; from + length <= v.Length; from++)
            {
                var to = from + length - 1;
                var strength = Mean(v, i => i >= from && i <= to) - Mean(v, i => i < from || i > to);
                if (strength > best.Strength + 1e-12)
                {
                    best = (strength, from, to);
                }
            }
        }

        return best;
    }

    private static double Mean(double[] v, Func<int, bool> of)
    {
        var (sum, n) = (0.0, 0);
        for (var i = 0; i < v.Length; i++)
        {
            if (of(i))
            {
                (sum, n) = (sum + v[i], n + 1);
            }
        }

        return n == 0 ? 0 : sum / n;
    }

    // Every order of few values, or 1,999 of many: how often the difference is as large by chance.
    private static double Chance(double[] values, Func<double[], double> strength, double found)
    {
        var work = (double[])values.Clone();
        var (hits, all) = (0, 0);
        if (work.Length <= ExactUpTo)
        {
            Orders(work, 0);
            return (double)hits / all;
        }

        var random = new Random(Seed);
        for (var i = 0; i < Shuffles; i++)
        {
            random.Shuffle(work);
            hits += strength(work) >= found - 1e-9 ? 1 : 0;
        }

        return (1.0 + hits) / (1 + Shuffles);

        void Orders(double[] v, int from)
        {
            if (from == v.Length)
            {
                (hits, all) = (hits + (strength(v) >= found - 1e-9 ? 1 : 0), all + 1);
                return;
            }

            for (var i = from; i < v.Length; i++)
            {
                (v[from], v[i]) = (v[i], v[from]);
                Orders(v, from + 1);
                (v[from], v[i]) = (v[i], v[from]);
            }
        }
    }
}
