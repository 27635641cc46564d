using NodaTime;

namespace OilTag.Core.Survey;

/// <summary>What a line of the parts book comes to at the machine.</summary>
public enum BookState
{
    /// <summary>Nobody has looked yet, or it could not be told.</summary>
    Unknown,

    /// <summary>There, and the right one.</summary>
    Present,

    /// <summary>Not there, or not all of it.</summary>
    Missing,

    /// <summary>There, but not what belongs there. A verdict of its own, whatever its condition.</summary>
    Incorrect,
}

/// <summary>A line of the parts book: what belongs at a place in the configuration that the machine is restored to.</summary>
public class BookLine
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place of the breakdown, or null while nobody has said.</summary>
    public Guid? PlaceId { get; set; }

    /// <summary>Order in the book.</summary>
    public int Order { get; init; }

    /// <summary>Figure and item, as the book has it.</summary>
    public string Reference { get; init; } = string.Empty;

    /// <summary>What it is called there.</summary>
    public required string Name { get; init; }

    /// <summary>How many belong there.</summary>
    public int Quantity { get; init; } = 1;

    /// <summary>The correct item in words, and by what evidence it is known; empty when the book's own name is enough.</summary>
    public string Correct { get; set; } = string.Empty;

    /// <summary>First serial number of the machine that it is for; null when it is for all before.</summary>
    public int? SerialFrom { get; init; }

    /// <summary>Last serial number that it is for; null when it is for all after.</summary>
    public int? SerialUntil { get; init; }

    /// <summary>Reference of the line that took its place; empty while it holds.</summary>
    public string SupersededBy { get; init; } = string.Empty;

    /// <summary>What it comes to.</summary>
    public BookState State { get; set; }

    /// <summary>How many of them are there.</summary>
    public int Found { get; set; }

    /// <summary>What is there instead, or anything else.</summary>
    public string Note { get; set; } = string.Empty;

    /// <summary>Who looked last.</summary>
    public Guid? ById { get; set; }

    /// <summary>When.</summary>
    public Instant? At { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A line of the parts book as it was read from what was typed or pasted.</summary>
/// <param name="Reference">Figure and item.</param>
/// <param name="Name">Name.</param>
/// <param name="Quantity">How many belong there.</param>
/// <param name="Correct">The correct item with its evidence.</param>
/// <param name="SerialFrom">First serial number that it is for, or null.</param>
/// <param name="SerialUntil">Last serial number that it is for, or null.</param>
/// <param name="SupersededBy">Reference of the line that took its place, or an empty string.</param>
public sealed record BookEntry(string Reference, string Name, int Quantity, string Correct, int? SerialFrom = null, int? SerialUntil = null, string SupersededBy = "");

/// <summary>Reads lines of the parts book, and checks what was found.</summary>
public static class BookRule
{
    /// <summary>Most lines of one machine's book.</summary>
    public const int Most = 5000;

    /// <summary>Reads lines of reference, name, quantity and, if it matters, the correct item; commas, tabs or semicolons between them.</summary>
    /// <param name="table">Lines of cells.</param>
    /// <returns>The lines, or problems of the field Lines, one for each line that cannot be read.</returns>
    public static (IReadOnlyList<BookEntry> Lines, IReadOnlyList<Problem> Problems) Read(IReadOnlyList<IReadOnlyList<string>> table)
    {
        ArgumentNullException.ThrowIfNull(table);
        var (lines, problems) = (new List<BookEntry>(), new List<Problem>());
        foreach (var (cells, i) in table.Select((c, i) => (c, i + 1)))
        {
            if (cells.All(string.IsNullOrWhiteSpace) || (i == 1 && cells.Count > 2 && cells[2].Trim().Equals("quantity", StringComparison.OrdinalIgnoreCase)))
            {
                continue;
            }

            void Wrong(string sentence) => problems.Add(new Problem("Lines", $"Line {i}: {sentence}"));
            if (cells.Count < 3)
            {
                Wrong("a line is reference, name and quantity, such as 12-3, Hinge pin, 2.");
            }
            else if (cells[1].Trim().Length is 0 or > 80 || cells[0].Trim().Length > 20)
            {
                Wrong("the name takes 1 to 80 letters, the reference 20.");
            }
            else if (TextRules.Number(cells[2]) is not { } n || n < 1 || n > 9999 || n != decimal.Truncate(n))
            {
                Wrong($"“{cells[2].Trim()}” is no quantity from 1 to 9999.");
            }
            else if (cells.Count > 3 && string.Join(", ", cells.Skip(3)).Trim().Length > 200)
            {
                Wrong("the correct item takes 200 letters.");
            }
            else
            {
                var rest = cells.Skip(3).Select(c => c.Trim()).Where(c => c.Length > 0).ToList();
                var (from, until) = Serials(rest);
                lines.Add(new BookEntry(cells[0].Trim(), cells[1].Trim(), (int)n, string.Join(", ", rest.Where(c => !c.StartsWith(SerialWord, StringComparison.OrdinalIgnoreCase) && !c.StartsWith(SupersededWord, StringComparison.OrdinalIgnoreCase))), from, until, rest.Find(c => c.StartsWith(SupersededWord, StringComparison.OrdinalIgnoreCase))?[SupersededWord.Length..].Trim() ?? string.Empty));
            }
        }

        if (lines.Count == 0 && problems.Count == 0)
        {
            problems.Add(new Problem("Lines", "Type or paste lines of the parts book first."));
        }

        return problems.Count > 0 ? ([], [.. problems.Take(20)]) : (lines, []);
    }

    private const string SerialWord = "serial ";

    private const string SupersededWord = "superseded by ";

    // "serial 101-250", "serial 101-" and "serial -250": the numbers of the machines that a line is for.
    private static (int? From, int? Until) Serials(List<string> cells)
    {
        if (cells.Find(c => c.StartsWith(SerialWord, StringComparison.OrdinalIgnoreCase)) is not { } cell)
        {
            return (null, null);
        }

        var ends = cell[SerialWord.Length..].Split(['-', '–']).Select(e => int.TryParse(e.Trim(), System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var n) ? n : (int?)null).ToList();
        return (ends[0], ends.Count > 1 ? ends[1] : ends[0]);
    }

    /// <summary>Checks what was found at a line.</summary>
    /// <param name="line">The line.</param>
    /// <param name="state">What it comes to.</param>
    /// <param name="found">How many are there, as typed; empty means all, or none when it is missing.</param>
    /// <param name="note">What is there instead.</param>
    public static (int Found, IReadOnlyList<Problem> Problems) Check(BookLine line, BookState? state, string? found, string? note)
    {
        ArgumentNullException.ThrowIfNull(line);
        var problems = new List<Problem>();
        if (state is null || !Enum.IsDefined(state.Value))
        {
            problems.Add(new Problem("State", "Say what is there."));
        }

        var count = state == BookState.Missing || state == BookState.Unknown ? 0 : line.Quantity;
        if (!string.IsNullOrWhiteSpace(found))
        {
            if (TextRules.Number(found) is { } n && n <= 9999 && n == decimal.Truncate(n))
            {
                count = (int)n;
            }
            else
            {
                problems.Add(new Problem("Found", "Count them: 0 to 9999."));
            }
        }

        if (state == BookState.Missing && count >= line.Quantity)
        {
            problems.Add(new Problem("Found", $"All {line.Quantity} are there, so nothing is missing. Check the count."));
        }

        if (state == BookState.Incorrect && string.IsNullOrWhiteSpace(note))
        {
            problems.Add(new Problem("Note", "Say what is there instead, such as a later instrument."));
        }

        TextRules.Optional(problems, "Note", note, 200);
        return (count, problems);
    }
}
