using System.Collections.Concurrent;
using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace OilTag.Demo;

/// <summary>Reads the tables of the story: a head of names, one row a line, cells kept apart by upright bars. A row that does not fit says so.</summary>
public static class StoryTable
{
    /// <summary>The rows of a table.</summary>
    /// <param name="file">Its name below the story's folder, such as M/findings.csv.</param>
    public static IReadOnlyList<T> Read<T>(string file) => (IReadOnlyList<T>)Kept.GetOrAdd(file, _ => Parse<T>(file));

    // The tables do not change while the program runs.
    private static readonly ConcurrentDictionary<string, object> Kept = new(StringComparer.Ordinal);

    private static List<T> Parse<T>(string file)
    {
        using var csv = new CsvReader(new StringReader(Text(file)), new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = "|",
            Mode = CsvMode.NoEscape,
            TrimOptions = TrimOptions.Trim,
            PrepareHeaderForMatch = h => h.Header.Replace(" ", string.Empty, StringComparison.Ordinal).ToLowerInvariant(),
        });
        return [.. csv.GetRecords<T>()];
    }

    /// <summary>A file of the story as it is.</summary>
    public static string Text(string file)
    {
        using var stream = typeof(StoryTable).Assembly.GetManifestResourceStream("Story/" + file)
            ?? throw new InvalidOperationException($"The story has no {file}.");
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }

    /// <summary>The words of a cell that holds several, kept apart by semicolons.</summary>
    public static string[] Several(string cell)
    {
        ArgumentNullException.ThrowIfNull(cell);
        return cell.Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
    }
}
