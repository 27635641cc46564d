namespace OilTag.Core;

/// <summary>Reads lists that are typed one a line, with a semicolon between the cells of a line. What cannot be read is quoted in its sentence.</summary>
public static class TypedLines
{
    private const int Quoted = 50;

    /// <summary>Reads the lines that can be read, and says of each other one why it cannot.</summary>
    /// <param name="text">As typed; empty lines do not count.</param>
    /// <param name="problems">Gets what is wrong, under the field.</param>
    /// <param name="field">The field.</param>
    /// <param name="most">Most lines; more are refused as a whole.</param>
    /// <param name="how">What a line looks like, in words.</param>
    /// <param name="least">Fewest cells of a line.</param>
    /// <param name="largest">Most cells of a line.</param>
    /// <param name="read">Makes a row of cells and the whole line, or says why not; null and null when it does not look as it should.</param>
    public static IReadOnlyList<T> Read<T>(string? text, IList<Problem> problems, string field, int most, string how, int least, int largest, Func<string[], string, (T? Row, string? Refusal)> read)
        where T : class
    {
        ArgumentNullException.ThrowIfNull(problems);
        ArgumentNullException.ThrowIfNull(read);
        List<T> all = [];
        var lines = (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (lines.Length > most)
        {
            problems.Add(new Problem(field, $"That is {lines.Length} lines; {most} fit here."));
            return all;
        }

        foreach (var line in lines)
        {
            var cells = line.Split(';', StringSplitOptions.TrimEntries);
            var (row, refusal) = cells.Length < least || cells.Length > largest || cells[0].Length is 0 or > 60 ? (null, null) : read(cells, line);
            if (row is not null)
            {
                all.Add(row);
            }
            else
            {
                problems.Add(new Problem(field, $"“{Short(line)}”: {refusal ?? $"write {how}."}"));
            }
        }

        return all;
    }

    /// <summary>The beginning of a line, to quote it.</summary>
    public static string Short(string line)
    {
        ArgumentNullException.ThrowIfNull(line);
        return line.Length > Quoted ? line[..Quoted] + "…" : line;
    }
}
