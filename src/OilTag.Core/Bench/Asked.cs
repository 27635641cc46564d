using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Reads the fields of a calculator and collects what cannot be read.</summary>
/// <param name="typed">Finds what was typed.</param>
public sealed class Asked(Func<string, string?> typed)
{
    /// <summary>Standard gravity, metres per second squared.</summary>
    public const double Gravity = 9.80665;

    private readonly List<Problem> problems = [];

    /// <summary>True when the first measure that was read is in inches, pounds or their kin; null before one was read.</summary>
    public bool? Imperial { get; private set; }

    /// <summary>What cannot be read, or lies outside the limits, in the order in which it was found.</summary>
    public IReadOnlyList<Problem> Problems => problems;

    /// <summary>True while nothing was refused.</summary>
    public bool Good => problems.Count == 0;

    /// <summary>What was typed, without surrounding blanks.</summary>
    public string Text(string field) => (typed(field) ?? string.Empty).Trim();

    /// <summary>True when something was typed.</summary>
    public bool Has(string field) => Text(field).Length > 0;

    /// <summary>Refuses a field.</summary>
    public void No(string field, string sentence) => problems.Add(new Problem(field, sentence));

    /// <summary>A measure; null when it cannot be read, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="quantity">What it asks for.</param>
    /// <param name="bare">Unit of a bare number; null when it must be said.</param>
    public Measure? Measure(string field, Quantity quantity, Unit? bare = null) => Read(field, Text(field), quantity, bare);

    /// <summary>A measure of a field that may be left empty; null when it is, and when it cannot be read, and then the field is refused.</summary>
    public Measure? Optional(string field, Quantity quantity) => Has(field) ? Measure(field, quantity) : null;

    /// <summary>The SI value of a measure; nought when it cannot be read, and then the field is refused.</summary>
    public double Si(string field, Quantity quantity) => Measure(field, quantity)?.Si ?? 0;

    /// <summary>A length in metres, above nought; nought when it cannot be read, and then the field is refused.</summary>
    public double Length(string field) => Si(field, Quantity.Length);

    /// <summary>A length that may be nought or, with a sign before it, negative, metres.</summary>
    public double Offset(string field) => Signed(field, Text(field), Quantity.Length, null);

    /// <summary>A bare number within limits; nought when it cannot be read, and then the field is refused.</summary>
    public double Value(string field, double least, double most, string sentence) => Number(field, least, most, sentence) ?? 0;

    /// <summary>A pressure or stress in pascals, above nought.</summary>
    public double Stress(string field)
    {
        var value = Si(field, Quantity.Pressure);
        if (value <= 0 && !problems.Exists(p => p.Field == field))
        {
            No(field, "Type more than nought.");
        }

        return value;
    }

    /// <summary>A force in newtons. A mass counts as its weight under standard gravity, since people say pounds and tons for both.</summary>
    public double Load(string field)
    {
        var force = MeasureReader.Read(Text(field), Quantity.Force);
        if (force.Value is { } f)
        {
            Imperial ??= f.Unit.Imperial;
            return f.Si;
        }

        return Si(field, Quantity.Mass) * Gravity;
    }

    /// <summary>Measures with semicolons or pluses between them; one without a unit has that of the last. SI values; empty when they cannot be read, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="quantity">What they are.</param>
    /// <param name="least">Fewest.</param>
    /// <param name="most">Most.</param>
    /// <param name="sentence">What to type.</param>
    /// <param name="signed">True when they may be nought or negative.</param>
    public IReadOnlyList<double> List(string field, Quantity quantity, int least, int most, string sentence, bool signed = false)
    {
        var parts = Parts(field);
        if (parts.Length < least || parts.Length > most)
        {
            No(field, sentence);
            return [];
        }

        // The unit of nought is that of one.
        var unit = parts.Select(p => p.TrimStart('-', '\u2212').Trim()).Select(p => MeasureReader.Read(p.StartsWith("0 ", StringComparison.Ordinal) ? "1" + p[1..] : p, quantity).Value?.Unit).LastOrDefault(u => u is not null);
        var all = new List<double>();
        foreach (var part in parts)
        {
            var before = problems.Count;
            all.Add(signed ? Signed(field, part, quantity, unit) : Read(field, part, quantity, unit)?.Si ?? 0);
            if (problems.Count > before)
            {
                return [];
            }
        }

        return all;
    }

    /// <summary>Numbers with semicolons between them, each 0 or more; empty when they cannot be read, and then the field is refused.</summary>
    public IReadOnlyList<double> Numbers(string field, int most, string sentence)
    {
        var all = Parts(field).Select(p => (double?)TextRules.Number(p)).ToList();
        if (all.Count > 0 && all.Count <= most && all.TrueForAll(n => n is >= 0 and < 1e6))
        {
            return [.. all.Select(n => n!.Value)];
        }

        No(field, sentence);
        return [];
    }

    private string[] Parts(string field) => Text(field).Split([';', '+', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    /// <summary>An area in square metres, such as 120 in2, 2 ft2, 400 cm2; nought when it cannot be read, and then the field is refused.</summary>
    public double Area(string field)
    {
        var text = Text(field).Replace('²', '2').Replace("sq ", "2", StringComparison.OrdinalIgnoreCase);
        var at = text.AsSpan().IndexOfAnyExcept("0123456789.");
        var unit = at < 0 ? string.Empty : text[at..].Trim().Trim('2').Trim();
        if (at > 0 && TextRules.Number(text[..at]) is { } n and > 0 && Unit.BySymbol(unit) is { Quantity: Quantity.Length } of)
        {
            Imperial ??= of.Imperial;
            return (double)n * of.Factor * of.Factor;
        }

        No(field, "Type an area with its unit, such as 120 in2, 2 ft2, 400 cm2 or 0.5 m2.");
        return 0;
    }

    private double Signed(string field, string text, Quantity quantity, Unit? bare)
    {
        var (si, unit, refusal) = SignedReader.Read(text, quantity, bare);
        if (refusal is not null)
        {
            No(field, refusal);
        }

        Imperial ??= unit?.Imperial;
        return si ?? 0;
    }

    private Measure? Read(string field, string text, Quantity quantity, Unit? bare)
    {
        var read = MeasureReader.Read(text, quantity, bare);
        if (read.Refusal is { } why)
        {
            No(field, why);
        }

        Imperial ??= read.Value?.Unit.Imperial;
        return read.Value;
    }

    /// <summary>A bare number within limits; null when it cannot be read, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="least">Least.</param>
    /// <param name="most">Most.</param>
    /// <param name="sentence">What to type instead.</param>
    public double? Number(string field, double least, double most, string sentence)
    {
        // A sign is read where something below nought may be typed.
        var text = Text(field);
        var below = least < 0 && text.Length > 0 && text[0] is '-' or '−';
        if (TextRules.Number(below ? text[1..] : text) is { } n && (below ? -(double)n : (double)n) is var value && value >= least && value <= most)
        {
            return value;
        }

        No(field, sentence);
        return null;
    }

    /// <summary>A whole number within limits; 0 when it is none, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="least">Least.</param>
    /// <param name="most">Most.</param>
    /// <param name="sentence">What to type instead.</param>
    public int Whole(string field, int least, int most, string sentence)
    {
        var n = Number(field, least, most, sentence);
        if (n is { } some && some != Math.Floor(some))
        {
            No(field, sentence);
            return 0;
        }

        return (int)(n ?? 0);
    }

    /// <summary>One of the answers that are offered; null when it is another, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="choices">What is offered.</param>
    public string? Choice(string field, IReadOnlyList<BenchChoice> choices)
    {
        ArgumentNullException.ThrowIfNull(choices);
        var text = Text(field);
        if (choices.FirstOrDefault(c => string.Equals(c.Value, text, StringComparison.OrdinalIgnoreCase)) is { } choice)
        {
            return choice.Value;
        }

        No(field, text.Length == 0 ? "Choose one." : $"“{text}” is not one of the choices.");
        return null;
    }

    /// <summary>The row of a table whose key was chosen; nothing when it is none of them, and then the field is refused.</summary>
    public T? Pick<T>(string field, IReadOnlyList<T> all, Func<T, string> key)
    {
        ArgumentNullException.ThrowIfNull(all);
        ArgumentNullException.ThrowIfNull(key);
        var chosen = Choice(field, [.. all.Select(a => new BenchChoice(key(a), string.Empty))]);
        return chosen is null ? default : all.First(a => key(a) == chosen);
    }
}
