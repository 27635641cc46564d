using System.Globalization;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>One check as it is typed in the table of a template.</summary>
public sealed record MatrixCheckEntry
{
    /// <summary>What it is; an empty one is no check.</summary>
    public string? Name { get; init; }

    /// <summary>How to look.</summary>
    public string? Look { get; init; }

    /// <summary>Unit of a bare number; empty when nothing is measured.</summary>
    public string? Unit { get; init; }

    /// <summary>Value as built.</summary>
    public string? Nominal { get; init; }

    /// <summary>Lower limit.</summary>
    public string? Low { get; init; }

    /// <summary>Upper limit.</summary>
    public string? High { get; init; }

    /// <summary>The standard that the limits belong to.</summary>
    public RestorationStandard? For { get; init; }
}

/// <summary>What a cell of a matrix is to hold.</summary>
/// <param name="Mark">What was seen; null clears the cell.</param>
/// <param name="Reading">Reading, or null.</param>
/// <param name="ReadingTo">Other end of a range, or null.</param>
/// <param name="Evidence">How it is known.</param>
public sealed record MatrixSaid(CellMark? Mark, Measure? Reading, Measure? ReadingTo, Evidence Evidence);

/// <summary>Checks matrix surveys, their templates and what is typed into their cells.</summary>
public static class MatrixRules
{
    /// <summary>Most positions of a matrix.</summary>
    public const int MostPositions = 60;

    /// <summary>Most checks of a matrix.</summary>
    public const int MostChecks = 40;

    /// <summary>Most cells of a matrix.</summary>
    public const int MostCells = 900;

    /// <summary>Most suspected causes of a matrix.</summary>
    public const int MostCauses = 12;

    private static readonly Dictionary<string, CellMark> Marks = new(StringComparer.OrdinalIgnoreCase)
    {
        ["s"] = CellMark.Sound,
        ["sound"] = CellMark.Sound,
        ["ok"] = CellMark.Sound,
        ["d"] = CellMark.Doubtful,
        ["doubtful"] = CellMark.Doubtful,
        ["b"] = CellMark.Bad,
        ["bad"] = CellMark.Bad,
        ["?"] = CellMark.CannotSee,
        ["n"] = CellMark.NotApplicable,
        ["na"] = CellMark.NotApplicable,
        ["n/a"] = CellMark.NotApplicable,
    };

    /// <summary>Most findings that a new survey takes as checks because they were only told or assumed.</summary>
    public const int MostConfirmed = 6;

    /// <summary>The check that confirms a finding which was only told or assumed.</summary>
    /// <param name="number">Number of the finding.</param>
    /// <param name="what">What it says.</param>
    public static MatrixCheck Confirm(int number, string what)
    {
        ArgumentNullException.ThrowIfNull(what);
        return new MatrixCheck($"Confirm F{number.ToString(CultureInfo.InvariantCulture)}", what.Length > 120 ? what[..119] + "…" : what, null);
    }

    /// <summary>The word for a mark.</summary>
    public static string Word(CellMark m) => m switch { CellMark.Sound => "Sound", CellMark.Doubtful => "Doubtful", CellMark.Bad => "Bad", CellMark.CannotSee => "Cannot see yet", CellMark.NotApplicable => "Not applicable", _ => "Measured" };

    /// <summary>Reads the names of positions; a name that ends with L or R behind a number, or with left or right, is handed.</summary>
    /// <returns>The positions, empty when they cannot be read.</returns>
    public static IReadOnlyList<MatrixPosition> Positions(IList<Problem> problems, string field, string? text)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var names = SheetRules.Names(problems, field, text, "positions");
        if (names.Length > MostPositions)
        {
            problems.Add(new Problem(field, $"That makes {names.Length:N0} positions; {MostPositions} fit. Split the survey."));
            return [];
        }

        return [.. names.Select(n => new MatrixPosition(n, HandOf(n), null))];

        static Hand HandOf(string name) =>
            name.EndsWith("left", StringComparison.OrdinalIgnoreCase) || (name.Length > 1 && name[^1] is 'L' && char.IsAsciiDigit(name[^2])) ? Hand.Left
            : name.EndsWith("right", StringComparison.OrdinalIgnoreCase) || (name.Length > 1 && name[^1] is 'R' && char.IsAsciiDigit(name[^2])) ? Hand.Right
            : Hand.None;
    }

    /// <summary>Reads the table of checks; lines without a name are left out.</summary>
    /// <param name="problems">Takes what is wrong; fields are named by their line, such as <c>Checks[2].Low</c>.</param>
    /// <param name="lines">The lines.</param>
    public static IReadOnlyList<MatrixCheck> Checks(IList<Problem> problems, IReadOnlyList<MatrixCheckEntry> lines)
    {
        ArgumentNullException.ThrowIfNull(problems);
        ArgumentNullException.ThrowIfNull(lines);
        var checks = new List<MatrixCheck>();
        foreach (var (line, i) in lines.Select((l, i) => (l, i)))
        {
            var at = $"Checks[{i.ToString(CultureInfo.InvariantCulture)}].";
            if (string.IsNullOrWhiteSpace(line.Name))
            {
                if (!string.IsNullOrWhiteSpace(line.Look) || !string.IsNullOrWhiteSpace(line.Nominal) || !string.IsNullOrWhiteSpace(line.Low) || !string.IsNullOrWhiteSpace(line.High))
                {
                    problems.Add(new Problem(at + "Name", "Name the check, or empty the line."));
                }

                continue;
            }

            var name = TextRules.Need(problems, at + "Name", line.Name, "Name the check.", 40);
            var look = TextRules.Optional(problems, at + "Look", line.Look, 120);
            checks.Add(new MatrixCheck(name, look, CheckRule.Read(problems, line.Unit, line.Nominal, line.Low, line.High, line.For, at)));
        }

        if (checks.Count == 0)
        {
            problems.Add(new Problem("Checks", "Name at least one check, such as Bore."));
        }
        else if (checks.Count > MostChecks)
        {
            problems.Add(new Problem("Checks", $"A survey takes {MostChecks} checks. Split it."));
        }
        else if (checks.GroupBy(c => c.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            problems.Add(new Problem("Checks", $"“{twice.Key}” stands there twice."));
        }

        return checks;
    }

    /// <summary>
    /// Reads one cell as it is typed: a mark (<c>s</c> sound, <c>d</c> doubtful, <c>b</c> bad, <c>?</c> cannot be seen yet, <c>n</c> not applicable),
    /// a measurement, or both, and at the end how it is known when it was not measured or seen (<c>felt</c>, <c>told</c>, <c>assumed</c>). A dash clears it.
    /// </summary>
    /// <param name="check">The check of the cell.</param>
    /// <param name="text">What was typed.</param>
    /// <returns>What it is to hold; a sentence when it cannot be read; neither when nothing was typed.</returns>
    public static (MatrixSaid? Said, string? Refusal) Read(MatrixCheck check, string? text)
    {
        ArgumentNullException.ThrowIfNull(check);
        var said = (text ?? string.Empty).Trim();
        if (said.Length == 0)
        {
            return (null, null);
        }

        if (said is "-" or "–")
        {
            return (new MatrixSaid(null, null, null, Evidence.Seen), null);
        }

        if (said.Length > 60)
        {
            return (null, "That is too long for a cell. Put words into the note.");
        }

        var words = said.Split([' ', '\t', '\u00A0'], StringSplitOptions.RemoveEmptyEntries);
        CellMark? mark = Marks.TryGetValue(words[0].TrimEnd(',', ';'), out var m) ? m : null;
        var (from, to) = (mark is null ? 0 : 1, words.Length);
        Evidence? known = null;
        if (to > from && Enum.TryParse<Evidence>(words[to - 1], ignoreCase: true, out var e) && Enum.IsDefined(e) && !char.IsAsciiDigit(words[to - 1][0]))
        {
            (known, to) = (e, to - 1);
        }

        if (from == to)
        {
            return mark is null ? (null, "Say what it is: s, d, b, ? or n, or a measurement.")
                : known == Evidence.Measured ? (null, "It says measured, but there is no measurement.")
                : (new MatrixSaid(mark, null, null, known ?? Evidence.Seen), null);
        }

        if (check.Measured is null)
        {
            return (null, $"{check.Name} is not measured in this survey. Type s (sound), d (doubtful), b (bad), ? (cannot see yet) or n (not applicable).");
        }

        if (mark is CellMark.CannotSee or CellMark.NotApplicable)
        {
            return (null, "It cannot be measured and out of reach at once. Leave one of them away.");
        }

        var read = MeasureReader.ReadRange(string.Join(' ', words[from..to]), check.Measured.Unit.Quantity, check.Measured.Unit);
        if (read.Low is not { } low)
        {
            return (null, read.Refusal ?? "That cannot be read.");
        }

        // Felt or seen numbers do not exist: what was read off is measured.
        return (new MatrixSaid(mark ?? CellMark.Measured, low, read.High is { } high && high.Si > low.Si ? high : null, known?.IsOnlySaid() == true ? known.Value : Evidence.Measured), null);
    }

    /// <summary>Writes a cell as <see cref="Read"/> takes it.</summary>
    public static string Write(CellMark mark, Measure? reading, Measure? to, Evidence evidence)
    {
        var letter = mark switch { CellMark.Sound => "s", CellMark.Doubtful => "d", CellMark.Bad => "b", CellMark.CannotSee => "?", CellMark.NotApplicable => "n", _ => string.Empty };
        var number = reading is null ? string.Empty : to is null ? reading.Text : $"{reading.Text} to {to.Text}";
        var known = reading is null ? (evidence == Evidence.Seen ? string.Empty : evidence.ToString().ToLowerInvariant()) : evidence == Evidence.Measured ? string.Empty : evidence.ToString().ToLowerInvariant();
        return string.Join(' ', new[] { letter, number, known }.Where(x => x.Length > 0));
    }

    /// <summary>Writes a cell as <see cref="Read"/> takes it.</summary>
    public static string Write(MatrixCell cell)
    {
        ArgumentNullException.ThrowIfNull(cell);
        return Write(cell.Mark, cell.Reading, cell.ReadingTo, cell.Evidence);
    }

    /// <summary>Checks a suspected cause.</summary>
    public static (MatrixCause? Cause, IReadOnlyList<Problem> Problems) CheckCause(SurveyMatrix matrix, int from, int to, string? words)
    {
        ArgumentNullException.ThrowIfNull(matrix);
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "CauseWords", words, "Say what may have caused it, such as rain through the exhaust outlet.", 80);
        if (from < 1 || to > matrix.Positions.Count)
        {
            problems.Add(new Problem("CauseFrom", "The survey has no such position."));
        }
        else if (from > to)
        {
            problems.Add(new Problem("CauseFrom", "It ends before it begins. Choose the left position first."));
        }

        if (matrix.Causes.Count >= MostCauses)
        {
            problems.Add(new Problem("CauseWords", $"A survey takes {MostCauses} suspected causes. Take one away first."));
        }

        return problems.Count > 0 ? (null, problems) : (new MatrixCause(from, to, said), []);
    }
}
