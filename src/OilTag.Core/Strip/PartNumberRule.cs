using OilTag.Core.Survey;

namespace OilTag.Core.Strip;

/// <summary>Checks a maker's number against the lines of the parts book.</summary>
public static class PartNumberRule
{
    /// <summary>What is pointed out; empty when it fits, or when there is nothing to compare.</summary>
    /// <param name="number">The maker's number on the part.</param>
    /// <param name="machineSerial">Serial number of the machine; empty when it is not known.</param>
    /// <param name="slotId">The slot it is for.</param>
    /// <param name="book">The machine's lines.</param>
    public static IReadOnlyList<string> Check(string number, string machineSerial, Guid slotId, IReadOnlyList<BookLine> book)
    {
        ArgumentNullException.ThrowIfNull(number);
        ArgumentNullException.ThrowIfNull(machineSerial);
        ArgumentNullException.ThrowIfNull(book);
        if (number.Length == 0 || book.Count == 0)
        {
            return [];
        }

        var lines = book.Where(l => l.Reference.Equals(number, StringComparison.OrdinalIgnoreCase)).ToList();
        if (lines.Count == 0)
        {
            return [$"{number} is not in this machine’s parts book."];
        }

        var said = new List<string>();
        var serial = new string([.. machineSerial.Where(char.IsAsciiDigit)]);
        if (lines.TrueForAll(l => l.SerialFrom is not null || l.SerialUntil is not null))
        {
            if (!int.TryParse(serial, System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var n))
            {
                said.Add($"{number} is for {Range(lines[0])}; nobody has said what this machine’s number is.");
            }
            else if (!lines.Exists(l => (l.SerialFrom ?? 0) <= n && n <= (l.SerialUntil ?? int.MaxValue)))
            {
                said.Add($"{number} is for {string.Join(" and ", lines.Select(Range))}; this machine is {n}.");
            }
        }

        if (lines.Find(l => l.SupersededBy.Length > 0) is { } old)
        {
            said.Add($"{number} is superseded by {old.SupersededBy}.");
        }

        if (lines.TrueForAll(l => l.PlaceId is { } at && at != slotId))
        {
            said.Add($"The parts book has {number} at another place.");
        }

        return said;
    }

    private static string Range(BookLine l) => (l.SerialFrom, l.SerialUntil) switch
    {
        ({ } a, { } b) => $"numbers {a} to {b}",
        ({ } a, null) => $"numbers from {a}",
        (null, { } b) => $"numbers up to {b}",
        _ => "all numbers",
    };
}
