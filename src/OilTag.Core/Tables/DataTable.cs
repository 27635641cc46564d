using System.Globalization;

namespace OilTag.Core.Tables;

/// <summary>
/// A table of the trade that ships as a data file below <c>Tables</c>: its title in the first line, its source in the second, the names of its columns in the
/// third. A semicolon within a cell is shown as a comma. The calculators read the same rows that people look through.
/// </summary>
/// <param name="Key">Its address below <c>/bench/tables/</c>, the name of its file.</param>
/// <param name="Title">Its name.</param>
/// <param name="Source">Where it comes from, and how far it can be trusted.</param>
/// <param name="Columns">Names of the columns.</param>
/// <param name="Rows">Rows of cells, as many as there are columns.</param>
public sealed record DataTable(string Key, string Title, string Source, IReadOnlyList<string> Columns, IReadOnlyList<IReadOnlyList<string>> Rows)
{
    private const string Folder = "OilTag.Core.Tables.";

    /// <summary>Every table, by its title.</summary>
    public static IReadOnlyList<DataTable> All { get; } = [.. typeof(DataTable).Assembly.GetManifestResourceNames().Where(n => n.StartsWith(Folder, StringComparison.Ordinal) && n.EndsWith(".csv", StringComparison.Ordinal)).Select(n => n[Folder.Length..^4]).Select(Read).OrderBy(t => t.Title, StringComparer.Ordinal)];

    /// <summary>A table by its key; null when there is none.</summary>
    public static DataTable? Find(string key) => All.FirstOrDefault(t => t.Key == key);

    /// <summary>The rows of a table that must be there.</summary>
    /// <param name="key">Key of the table.</param>
    /// <param name="row">Makes something of a row.</param>
    public static IReadOnlyList<T> Of<T>(string key, Func<IReadOnlyList<string>, T> row)
    {
        ArgumentNullException.ThrowIfNull(row);
        return [.. Read(key).Rows.Select(row)];
    }

    /// <summary>A bare number, or a fraction of inches such as <c>1 3/8</c>, of a cell.</summary>
    public static double Number(string cell)
    {
        ArgumentNullException.ThrowIfNull(cell);
        var whole = 0.0;
        var fraction = cell;
        if (cell.Split(' ') is [var inches, var rest])
        {
            (whole, fraction) = (double.Parse(inches, CultureInfo.InvariantCulture), rest);
        }

        return fraction.Split('/') is [var above, var below] ? whole + (double.Parse(above, CultureInfo.InvariantCulture) / double.Parse(below, CultureInfo.InvariantCulture)) : whole + double.Parse(fraction, CultureInfo.InvariantCulture);
    }

    /// <summary>The rows with a cell that is the whole of several words; where there is none, those in which each of its words stands, whatever its case; all for no text.</summary>
    public IReadOnlyList<IReadOnlyList<string>> Search(string? text)
    {
        var words = (text ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        if (words.Length == 0)
        {
            return Rows;
        }

        var whole = string.Join(' ', words);
        List<IReadOnlyList<string>> exact = words.Length == 1 ? [] : [.. Rows.Where(r => r.Any(c => c.Equals(whole, StringComparison.OrdinalIgnoreCase)))];
        return exact.Count > 0 ? exact : [.. Rows.Where(r => Array.TrueForAll(words, w => r.Any(c => Holds(c, w))))];
    }

    // A number must be the whole cell, so that 1/4 does not find 1 1/4, or a word of a cell with words, such as 7 by 19; words may be part of it.
    private static bool Holds(string cell, string word) => char.IsAsciiDigit(word[0]) && cell.Length > 0 && char.IsAsciiDigit(cell[0])
        ? cell.Equals(word, StringComparison.OrdinalIgnoreCase) || (double.TryParse(word, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var asked) && double.TryParse(cell, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var held) && asked == held) || (cell.Any(char.IsAsciiLetter) && cell.Split(' ').Contains(word))
        : cell.Contains(word, StringComparison.OrdinalIgnoreCase);

    private static DataTable Read(string key)
    {
        using var stream = typeof(DataTable).Assembly.GetManifestResourceStream($"{Folder}{key}.csv") ?? throw new ArgumentException($"There is no table {key}.", nameof(key));
        using var reader = new StreamReader(stream);
        var lines = reader.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        static IReadOnlyList<string> Cells(string line) => [.. line.Split(',').Select(c => c.Replace(';', ','))];
        return new DataTable(key, lines[0].TrimStart('#', ' '), lines[1].TrimStart('#', ' '), Cells(lines[2]), [.. lines.Skip(3).Select(Cells)]);
    }
}
