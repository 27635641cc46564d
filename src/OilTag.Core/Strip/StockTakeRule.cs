using System.Globalization;

namespace OilTag.Core.Strip;

/// <summary>What a stock-take found.</summary>
/// <param name="There">Seen, and on record there.</param>
/// <param name="Missing">On record there, and not seen.</param>
/// <param name="Misplaced">Seen, and on record elsewhere.</param>
/// <param name="Unknown">Numbers that are no open tag.</param>
public sealed record StockTakeResult(IReadOnlyList<int> There, IReadOnlyList<int> Missing, IReadOnlyList<int> Misplaced, IReadOnlyList<int> Unknown);

/// <summary>Compares what stands on a shelf with what the record has there.</summary>
public static class StockTakeRule
{
    /// <summary>Numbers on one walk.</summary>
    public const int MostNumbers = 500;

    /// <summary>
    /// Reads what was scanned or typed: numbers, <c>OT 214</c>, <c>M214</c>, or the address on a tag's code such as <c>https://shed.example/t/214</c>, in any
    /// order, with commas, blanks or lines between them. A number that comes twice counts once.
    /// </summary>
    public static (IReadOnlyList<int> Numbers, Problem? Problem) Read(string? text)
    {
        var numbers = new List<int>();
        var seen = new HashSet<int>();
        foreach (var raw in (text ?? string.Empty).Split([' ', ',', ';', '\n', '\r', '\t'], StringSplitOptions.RemoveEmptyEntries))
        {
            if (raw.Equals("OT", StringComparison.OrdinalIgnoreCase))
            {
                continue;
            }

            var word = raw;
            var at = word.LastIndexOf("/t/", StringComparison.OrdinalIgnoreCase);
            if (at >= 0)
            {
                word = word[(at + 3)..].TrimEnd('/');
            }

            var digits = word.StartsWith("OT", StringComparison.OrdinalIgnoreCase) ? word[2..] : word.Length > 1 && char.IsAsciiLetter(word[0]) ? word[1..] : word;
            if (!int.TryParse(digits, NumberStyles.None, CultureInfo.InvariantCulture, out var n) || n < 1)
            {
                return ([], new Problem("Seen", $"“{(raw.Length > 30 ? raw[..30] + "…" : raw)}” is not a tag number. Type numbers with commas, such as 131, 133."));
            }

            if (seen.Add(n))
            {
                numbers.Add(n);
            }
        }

        return numbers.Count > MostNumbers ? ([], new Problem("Seen", $"{MostNumbers} numbers fit on one walk. Take one shelf at a time.")) : (numbers, null);
    }

    /// <summary>Compares.</summary>
    /// <param name="expected">Open tags that the record has there.</param>
    /// <param name="open">All open tags.</param>
    /// <param name="seen">What was seen.</param>
    public static StockTakeResult Compare(IReadOnlyCollection<int> expected, IReadOnlySet<int> open, IReadOnlyCollection<int> seen)
    {
        ArgumentNullException.ThrowIfNull(expected);
        ArgumentNullException.ThrowIfNull(open);
        ArgumentNullException.ThrowIfNull(seen);
        var there = expected.ToHashSet();
        var at = seen.ToHashSet();
        return new StockTakeResult(
            [.. at.Where(there.Contains).Order()],
            [.. there.Where(n => !at.Contains(n)).Order()],
            [.. at.Where(n => !there.Contains(n) && open.Contains(n)).Order()],
            [.. at.Where(n => !there.Contains(n) && !open.Contains(n)).Order()]);
    }
}
