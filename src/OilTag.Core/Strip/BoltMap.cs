using System.Globalization;

namespace OilTag.Core.Strip;

/// <summary>One hole of a part and the bolt that belongs in it.</summary>
/// <param name="Hole">Its number, counted clockwise from the top left.</param>
/// <param name="Bolt">Size and length, such as 5/16 BSF × 1 3/4.</param>
public sealed record BoltHole(int Hole, string Bolt);

/// <summary>Reads and orders bolt maps: which length belongs in which hole.</summary>
public static class BoltMap
{
    /// <summary>Most holes on one map.</summary>
    public const int MostHoles = 120;

    /// <summary>Reads lines such as <c>1-4, 9: 5/16 BSF x 1 3/4</c>.</summary>
    /// <param name="text">As typed; empty for no map.</param>
    /// <returns>Holes in order, or a problem with the first line that cannot be read.</returns>
    public static (IReadOnlyList<BoltHole> Holes, Problem? Problem) Read(string? text)
    {
        var holes = new SortedDictionary<int, string>();
        foreach (var line in (text ?? string.Empty).Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            Problem Wrong(string why) => new("Bolts", $"“{(line.Length > 40 ? line[..40] + "…" : line)}”: {why}");
            var colon = line.IndexOf(':', StringComparison.Ordinal);
            if (colon < 1)
            {
                return ([], Wrong("put the numbers of the holes, a colon, then the bolt, such as 1-4: M8 x 40."));
            }

            var bolt = line[(colon + 1)..].Trim();
            if (bolt.Length is 0 or > 60)
            {
                return ([], Wrong("say in 60 characters or fewer which bolt goes there."));
            }

            foreach (var piece in line[..colon].Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
            {
                var ends = piece.Split(['-', '–'], 2, StringSplitOptions.TrimEntries);
                if (!int.TryParse(ends[0], NumberStyles.None, CultureInfo.InvariantCulture, out var from) || !int.TryParse(ends[^1], NumberStyles.None, CultureInfo.InvariantCulture, out var to) || from < 1 || to < from || to > MostHoles)
                {
                    return ([], Wrong($"holes are counted from 1 to {MostHoles}, such as 1-4 or 7."));
                }

                for (var h = from; h <= to; h++)
                {
                    if (!holes.TryAdd(h, bolt))
                    {
                        return ([], Wrong($"hole {h} has a bolt already."));
                    }
                }
            }
        }

        return ([.. holes.Select(h => new BoltHole(h.Key, h.Value))], null);
    }

    /// <summary>The bolts of a map with the letter that stands for each in its drawing, and their holes; in the order of their first hole.</summary>
    public static IReadOnlyList<(char Letter, string Bolt, IReadOnlyList<int> Holes)> Kinds(IReadOnlyList<BoltHole> holes)
    {
        ArgumentNullException.ThrowIfNull(holes);
        return [.. holes.GroupBy(h => h.Bolt, StringComparer.OrdinalIgnoreCase).OrderBy(g => g.Min(h => h.Hole)).Select((g, i) => ((char)(i < 26 ? 'A' + i : 'a' + Math.Min(25, i - 26)), g.First().Bolt, (IReadOnlyList<int>)[.. g.Select(h => h.Hole).Order()]))];
    }

    /// <summary>A list of numbers with runs drawn together: 1 to 4, 9.</summary>
    public static string Words(IReadOnlyList<int> numbers)
    {
        ArgumentNullException.ThrowIfNull(numbers);
        var words = new List<string>();
        for (var i = 0; i < numbers.Count;)
        {
            var j = i;
            while (j + 1 < numbers.Count && numbers[j + 1] == numbers[j] + 1)
            {
                j++;
            }

            words.Add(j > i + 1 ? string.Create(CultureInfo.InvariantCulture, $"{numbers[i]} to {numbers[j]}") : string.Join(", ", numbers.Skip(i).Take(j - i + 1)));
            i = j + 1;
        }

        return string.Join(", ", words);
    }
}
