using System.Globalization;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>What one cell is to hold.</summary>
/// <param name="Row">Row, from 1.</param>
/// <param name="Column">Column, from 1.</param>
/// <param name="Mark">What it says.</param>
/// <param name="Readings">The readings, worst or not, in the order taken.</param>
/// <param name="Evidence">How they are known; what was only told or assumed is kept apart from what was measured.</param>
public sealed record CellEntry(int Row, int Column, CellMark Mark, IReadOnlyList<Measure> Readings, Evidence Evidence = Evidence.Measured);

/// <summary>A cell that could not be taken.</summary>
/// <param name="Row">Row, from 1.</param>
/// <param name="Column">Column, from 1.</param>
/// <param name="Name">The cell in the names of the sheet.</param>
/// <param name="Text">What it said.</param>
/// <param name="Sentence">Why not.</param>
public sealed record CellProblem(int Row, int Column, string Name, string Text, string Sentence);

/// <summary>What came of reading typed or pasted cells.</summary>
/// <param name="Cells">Cells that can be taken.</param>
/// <param name="Problems">Cells that cannot.</param>
public sealed record SheetEntryResult(IReadOnlyList<CellEntry> Cells, IReadOnlyList<CellProblem> Problems);

/// <summary>Reads cells as they are typed, pasted from a spreadsheet, or imported.</summary>
public static class SheetEntry
{
    /// <summary>Most readings of one cell.</summary>
    public const int MostTurns = 9;

    /// <summary>Most rows or columns of a sheet.</summary>
    public const int MostLines = 500;

    /// <summary>Most cells of a sheet.</summary>
    public const int MostCells = 60_000;

    /// <summary>
    /// Reads one cell: nothing (left as it is), <c>?</c> (cannot be seen yet), <c>-</c> (cleared), one reading, or several with semicolons or blanks
    /// between bare numbers. <c>told</c> or <c>assumed</c> at the end says that nobody measured it.
    /// </summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="row">Row, from 1.</param>
    /// <param name="column">Column, from 1.</param>
    /// <param name="text">What the cell says.</param>
    /// <returns>What it is to hold, a problem, or neither when it is left as it is.</returns>
    public static (CellEntry? Cell, CellProblem? Problem) Read(SurveySheet sheet, int row, int column, string? text)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        var said = (text ?? string.Empty).Trim();
        if (said.Length == 0)
        {
            return (null, null);
        }

        CellProblem Wrong(string sentence) => new(row, column, sheet.NameOf(row, column), said.Length > 40 ? said[..40] + "…" : said, sentence);
        if (!sheet.Has(row, column))
        {
            return (null, Wrong("The sheet has no such cell."));
        }

        if (said is "?" or "–?" or "cannot see")
        {
            return (new CellEntry(row, column, CellMark.CannotSee, []), null);
        }

        if (said is "-" or "–" or "clear")
        {
            return (new CellEntry(row, column, CellMark.Measured, []), null);
        }

        var evidence = Evidence.Measured;
        foreach (var e in new[] { Evidence.Told, Evidence.Assumed })
        {
            if (said.EndsWith(" " + e, StringComparison.OrdinalIgnoreCase))
            {
                (said, evidence) = (said[..^(e.ToString().Length + 1)].TrimEnd(), e);
            }
        }

        var unit = Unit.BySymbol(sheet.UnitSymbol)!;
        var parts = said.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (parts.Length == 1 && said.Contains(' ', StringComparison.Ordinal) && said.Split(' ', StringSplitOptions.RemoveEmptyEntries) is { Length: > 1 } numbers
            && Array.TrueForAll(numbers, n => double.TryParse(n, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out _)))
        {
            parts = numbers;
        }

        if (parts.Length > MostTurns)
        {
            return (null, Wrong($"A cell takes {MostTurns} readings at most."));
        }

        var readings = new List<Measure>();
        foreach (var part in parts)
        {
            var read = MeasureReader.Read(part, unit.Quantity, unit);
            if (read.Value is not { } value)
            {
                return (null, Wrong(read.Refusal!));
            }

            if (sheet.RegionAt(row, column)?.Nominal is { } nominal && sheet.Feature != Feature.Clearance && value.Si / nominal.Si is > 10 or < 0.04)
            {
                return (null, Wrong($"{part} beside {nominal.Text} as built cannot be: is it the other unit?"));
            }

            readings.Add(value);
        }

        return readings.Count == 0 ? (null, Wrong("There is no number in it.")) : (new CellEntry(row, column, CellMark.Measured, readings, evidence), null);
    }

    /// <summary>Reads a block of cells whose top left corner lies at a cell of the sheet.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="row">Row of the corner, from 1.</param>
    /// <param name="column">Column of the corner, from 1.</param>
    /// <param name="block">Lines of cells.</param>
    public static SheetEntryResult ReadBlock(SurveySheet sheet, int row, int column, IReadOnlyList<IReadOnlyList<string>> block)
    {
        ArgumentNullException.ThrowIfNull(block);
        var (cells, problems) = (new List<CellEntry>(), new List<CellProblem>());
        for (var i = 0; i < block.Count; i++)
        {
            for (var j = 0; j < block[i].Count; j++)
            {
                var (cell, problem) = Read(sheet, row + i, column + j, block[i][j]);
                if (cell is not null)
                {
                    cells.Add(cell);
                }
                else if (problem is not null)
                {
                    problems.Add(problem);
                }
            }
        }

        return new SheetEntryResult(cells, problems);
    }

    /// <summary>
    /// Reads the lines of a file: a list when its headings are row, column and reading (lines of one cell become its readings), else a table.
    /// </summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="table">Lines of cells, the first one with headings.</param>
    public static SheetEntryResult ReadFile(SurveySheet sheet, IReadOnlyList<IReadOnlyList<string>> table)
    {
        ArgumentNullException.ThrowIfNull(table);
        return table.Count > 0 && table[0].Count == 3 && table[0][2].Trim().Equals("reading", StringComparison.OrdinalIgnoreCase) ? ReadList(sheet, table) : ReadTable(sheet, table);
    }

    /// <summary>Reads a list of lines that name a row, a column and a reading. Lines of one cell become its readings in their order.</summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="lines">The lines, the first one with headings.</param>
    public static SheetEntryResult ReadList(SurveySheet sheet, IReadOnlyList<IReadOnlyList<string>> lines)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(lines);
        var problems = new List<CellProblem>();
        var (rows, columns) = (Numbers(sheet.Rows), Numbers(sheet.Columns));
        var order = new List<(int, int)>();
        var cells = new Dictionary<(int Row, int Column), CellEntry>();
        for (var i = 1; i < lines.Count; i++)
        {
            var line = lines[i];
            if (line.All(string.IsNullOrWhiteSpace))
            {
                continue;
            }

            void Wrong(string sentence) => problems.Add(new CellProblem(0, 0, $"Line {i + 1}", string.Join(", ", line), sentence));
            if (line.Count < 3)
            {
                Wrong("It does not name a row, a column and a reading.");
            }
            else if (!rows.TryGetValue(line[0].Trim(), out var row))
            {
                Wrong("The sheet has no such row.");
            }
            else if (!columns.TryGetValue(line[1].Trim(), out var column))
            {
                Wrong("The sheet has no such column.");
            }
            else if (Read(sheet, row, column, line[2]) is var (cell, problem) && problem is not null)
            {
                problems.Add(problem with { Name = $"Line {i + 1}, {problem.Name}" });
            }
            else if (cell is not null)
            {
                if (!cells.TryGetValue((row, column), out var before))
                {
                    order.Add((row, column));
                    cells.Add((row, column), cell);
                }
                else if (before.Readings.Count + cell.Readings.Count > MostTurns)
                {
                    Wrong($"A cell takes {MostTurns} readings at most.");
                }
                else
                {
                    cells[(row, column)] = cell.Readings.Count == 0 ? before : cell with { Readings = [.. before.Readings, .. cell.Readings] };
                }
            }
        }

        return new SheetEntryResult([.. order.Select(o => cells[o])], problems);
    }

    /// <summary>
    /// Reads a table with headings: the first line names columns and the first cell of each line names a row, in any order. Names that the sheet
    /// does not have are problems.
    /// </summary>
    /// <param name="sheet">The sheet.</param>
    /// <param name="table">Lines of cells, the first one with headings.</param>
    public static SheetEntryResult ReadTable(SurveySheet sheet, IReadOnlyList<IReadOnlyList<string>> table)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        ArgumentNullException.ThrowIfNull(table);
        var (cells, problems) = (new List<CellEntry>(), new List<CellProblem>());
        if (table.Count < 2)
        {
            return new SheetEntryResult(cells, [new CellProblem(0, 0, string.Empty, string.Empty, "There is nothing below the headings.")]);
        }

        var (rowNumbers, columnNumbers) = (Numbers(sheet.Rows), Numbers(sheet.Columns));
        var columns = table[0].Select(name => columnNumbers.GetValueOrDefault(name.Trim())).ToList();
        for (var j = 1; j < columns.Count; j++)
        {
            if (columns[j] == 0)
            {
                problems.Add(new CellProblem(0, 0, table[0][j], table[0][j], "The sheet has no such column."));
            }
        }

        for (var i = 1; i < table.Count; i++)
        {
            var line = table[i];
            if (line.All(string.IsNullOrWhiteSpace))
            {
                continue;
            }

            if (!rowNumbers.TryGetValue(line[0].Trim(), out var row))
            {
                problems.Add(new CellProblem(0, 0, line[0], line[0], $"Line {i + 1}: the sheet has no such row."));
                continue;
            }

            for (var j = 1; j < line.Count && j < columns.Count; j++)
            {
                if (columns[j] == 0)
                {
                    continue;
                }

                var (cell, problem) = Read(sheet, row, columns[j], line[j]);
                if (cell is not null)
                {
                    cells.Add(cell);
                }
                else if (problem is not null)
                {
                    problems.Add(problem);
                }
            }
        }

        return new SheetEntryResult(cells, problems);
    }

    private static Dictionary<string, int> Numbers(string[] names)
    {
        var numbers = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        for (var i = 0; i < names.Length; i++)
        {
            numbers.TryAdd(names[i], i + 1);
        }

        return numbers;
    }
}
