using OilTag.Core.Measures;

namespace OilTag.Core.Work;

/// <summary>What kind of thing is read at a step.</summary>
public enum ReadingKind
{
    /// <summary>A value with a unit.</summary>
    Value,

    /// <summary>A whole number of things.</summary>
    Count,

    /// <summary>Yes or no; yes is right.</summary>
    YesNo,

    /// <summary>Words; somebody judges them.</summary>
    Words,
}

/// <summary>A reading that a step asks for, at one or several positions.</summary>
/// <param name="Text">The line as it was typed, such as <c>each 6.35-6.40 mm x 24</c>.</param>
/// <param name="Name">What is read, such as <c>each</c> or <c>gap</c>.</param>
/// <param name="Kind">What kind of thing.</param>
/// <param name="Low">Least that is right; null when there is no least.</param>
/// <param name="High">Most that is right; null when there is no most.</param>
/// <param name="Least">Least count that is right; null when there is no least.</param>
/// <param name="Most">Most that is right; null when there is no most.</param>
/// <param name="Positions">At how many positions, 1 to 999.</param>
public sealed record WantedReading(string Text, string Name, ReadingKind Kind, Measure? Low = null, Measure? High = null, int? Least = null,
    int? Most = null, int Positions = 1);

/// <summary>A part, hardware or consumable that lies ready before a step is begun.</summary>
/// <param name="Count">How many, 1 or more.</param>
/// <param name="What">What.</param>
public sealed record KitItem(int Count, string What);

/// <summary>Reads the lines that belong to a step: readings with limits, and what is laid out. Never throws.</summary>
public static class StepLines
{
    /// <summary>Most positions of one reading.</summary>
    public const int MostPositions = 999;

    private static readonly Quantity[] Quantities =
    [
        Quantity.Length, Quantity.Torque, Quantity.Mass, Quantity.Force, Quantity.Pressure, Quantity.Temperature, Quantity.Volume,
            Quantity.Voltage,
        Quantity.Current, Quantity.Resistance, Quantity.Angle, Quantity.Duration,
    ];

    /// <summary>
    /// A reading with its limits: <c>each 6.35-6.40 mm x 24</c>, <c>gap max 0.1 mm</c>, <c>wall at least 0.19 in</c>, <c>count 41-48 stays</c>,
    /// <c>no weep: yes or no</c>, <c>colour in words</c>. Null for a line that is something else; a value alone is no limit.
    /// </summary>
    /// <param name="line">The line.</param>
    public static WantedReading? Reading(string? line)
    {
        var text = (line ?? string.Empty).Trim();
        var rest = text;
        var positions = 1;
        if (LastTimes(rest) is { } times)
        {
            (rest, positions) = times;
        }

        foreach (var (end, kind) in new[] { ("yes or no", ReadingKind.YesNo), ("yes/no", ReadingKind.YesNo),
            ("in words", ReadingKind.Words) })
        {
            if (rest.EndsWith(end, StringComparison.OrdinalIgnoreCase) && Named(rest[..^end.Length]) is { Length: > 0 } name)
            {
                return new WantedReading(text, name, kind, Positions: positions);
            }
        }

        if (rest.StartsWith("count ", StringComparison.OrdinalIgnoreCase))
        {
            return Counted(text, rest[6..].Trim(), positions);
        }

        var words = rest.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        for (var i = 0; i < Math.Min(words.Length, 12); i++)
        {
            if (Limits(string.Join(' ', words[i..])) is { } found)
            {
                var name = Named(string.Join(' ', words[..i]));
                return new WantedReading(text, name.Length == 0 ? "each" : name, ReadingKind.Value, found.Low, found.High,
                    Positions: positions);
            }
        }

        return null;
    }

    /// <summary>What lies ready: <c>needs 60 rivets 5/32, jointing</c>; null for a line that is something else.</summary>
    /// <param name="line">The line.</param>
    public static IReadOnlyList<KitItem>? Kit(string? line)
    {
        var text = (line ?? string.Empty).Trim();
        if (!text.StartsWith("needs ", StringComparison.OrdinalIgnoreCase))
        {
            return null;
        }

        var items = new List<KitItem>();
        foreach (var part in text[6..].Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var space = part.IndexOf(' ', StringComparison.Ordinal);
            items.Add(space > 0 && int.TryParse(part.AsSpan(0, space), System.Globalization.NumberStyles.None,
                System.Globalization.CultureInfo.InvariantCulture, out var n) && n is > 0 and <= 100_000
                ? new KitItem(n, part[(space + 1)..].Trim().TrimStart('x', '×').Trim() is { Length: > 0 } what ? what : part)
                : new KitItem(1, part));
        }

        return items.Count == 0 ? null : items;
    }

    /// <summary>What lies ready as it is typed; what <see cref="Kit"/> reads back as the same.</summary>
    /// <param name="items">What lies ready.</param>
    public static string Write(IReadOnlyList<KitItem> items) =>
        "needs " + string.Join(", ", items.Select(i => i.Count == 1 && !(i.What.Length > 0 && char.IsAsciiDigit(i.What[0])) ? i.What
            : $"{i.Count.ToString(System.Globalization.CultureInfo.InvariantCulture)} {i.What}"));

    /// <summary>Limits in words, in the unit in which they were given.</summary>
    /// <param name="wanted">The reading.</param>
    public static string Words(WantedReading wanted)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        return wanted.Kind switch
        {
            ReadingKind.YesNo => "yes",
            ReadingKind.Words => "in words",
            ReadingKind.Count => (wanted.Least, wanted.Most) switch
            {
                ({ } a, { } b) when a == b => $"{a}",
                ({ } a, { } b) => $"{a} to {b}",
                ({ } a, null) => $"{a} or more",
                (_, { } b) => $"{b} or fewer",
                _ => "a number",
            },
            _ => (wanted.Low, wanted.High) switch
            {
                ({ } a, { } b) => $"{Bare(a, b)} to {b.Entered}",
                ({ } a, null) => $"{a.Entered} or more",
                (_, { } b) => $"{b.Entered} at most",
                _ => "a value",
            },
        };
    }

    /// <summary>The same limits in the other system, in brackets; empty where there is none.</summary>
    /// <param name="wanted">The reading.</param>
    public static string Other(WantedReading wanted)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var (a, b) = (wanted.Low is { } low ? MeasureFormat.Other(low) : string.Empty, wanted.High is { } high ? MeasureFormat.Other(high)
            : string.Empty);
        return (a.Length, b.Length) switch
        {
            (0, 0) => string.Empty,
            ( > 0, > 0) => $"[{a} to {b}]",
            _ => $"[{a}{b}]",
        };
    }

    private static string Bare(Measure low, Measure high) =>
        low.UnitSymbol == high.UnitSymbol && low.Text.EndsWith(low.UnitSymbol, StringComparison.Ordinal)
            ? low.Text[..^low.UnitSymbol.Length].Trim() : low.Text;

    private static WantedReading? Counted(string text, string rest, int positions)
    {
        var space = rest.IndexOf(' ', StringComparison.Ordinal);
        var (number, name) = space > 0 ? (rest[..space], rest[space..].Trim()) : (rest, string.Empty);
        var ends = number.Split(['-', '–']);
        if (ends.Length > 2 || Array.Exists(ends, e => e.Length is 0 or > 6 || !e.All(char.IsAsciiDigit)))
        {
            return null;
        }

        var (a, b) = (int.Parse(ends[0], System.Globalization.CultureInfo.InvariantCulture),
            int.Parse(ends[^1], System.Globalization.CultureInfo.InvariantCulture));
        return a > b ? null : new WantedReading(text, name.Length == 0 ? "count" : name, ReadingKind.Count, Least: a, Most: b,
            Positions: positions);
    }

    private static (Measure? Low, Measure? High)? Limits(string text)
    {
        foreach (var (word, least) in new[] { ("max ", false), ("at most ", false), ("up to ", false), ("min ", true),
            ("at least ", true) })
        {
            if (text.StartsWith(word, StringComparison.OrdinalIgnoreCase))
            {
                return One(text[word.Length..], least);
            }
        }

        foreach (var (word, least) in new[] { (" at most", false), (" max", false), (" or less", false), (" at least", true),
            (" min", true), (" or more", true) })
        {
            if (text.EndsWith(word, StringComparison.OrdinalIgnoreCase) && One(text[..^word.Length], least) is { } end)
            {
                return end;
            }
        }

        if (text.Length == 0 || !(char.IsAsciiDigit(text[0]) || text[0] is '-' or '.'))
        {
            return null;
        }

        foreach (var q in Quantities)
        {
            if (MeasureReader.ReadRange(text, q) is { Refusal: null, Low: { } low, High: { } high } && low.Si < high.Si)
            {
                return (low, high);
            }
        }

        return null;
    }

    private static (Measure? Low, Measure? High)? One(string text, bool least)
    {
        foreach (var q in Quantities)
        {
            if (MeasureReader.Read(text, q).Value is { } value)
            {
                return least ? (value, null) : (null, value);
            }
        }

        return null;
    }

    // "x 24" at the end.
    private static (string Before, int Positions)? LastTimes(string text)
    {
        var at = text.LastIndexOfAny(['x', '×']);
        return at > 0 && text[at - 1] == ' ' && int.TryParse(text.AsSpan(at + 1).Trim(), System.Globalization.NumberStyles.None,
            System.Globalization.CultureInfo.InvariantCulture, out var n) && n is > 0 and <= MostPositions
            ? (text[..at].TrimEnd(), n)
            : null;
    }

    private static string Named(string text) => text.Trim().TrimEnd(':', ',').Trim();
}
