using System.Globalization;
using System.Text;

namespace OilTag.Core.Measures;

/// <summary>What came of reading a typed value: a measure, or a sentence that says what to type instead. Never both.</summary>
/// <param name="Value">The measure, when it could be read.</param>
/// <param name="Refusal">Why it could not be read, or the question that settles it.</param>
public sealed record MeasureReading(Measure? Value, string? Refusal)
{
    internal static MeasureReading Refuse(string why) => new(null, why);
}

/// <summary>
/// Reads what people type in a workshop: <c>5/16 in</c>, <c>60 thou</c>, <c>7.2 mm</c>, <c>1 3/4"</c>, <c>64 ft 0 1/8 in</c>.
/// Anything that could mean two things is asked about, never guessed. Never throws.
/// </summary>
public static class MeasureReader
{
    private const int Longest = 40;

    private static readonly Dictionary<char, string> VulgarFractions = new()
    {
        ['¼'] = "1/4",
        ['½'] = "1/2",
        ['¾'] = "3/4",
        ['⅐'] = "1/7",
        ['⅑'] = "1/9",
        ['⅒'] = "1/10",
        ['⅓'] = "1/3",
        ['⅔'] = "2/3",
        ['⅕'] = "1/5",
        ['⅖'] = "2/5",
        ['⅗'] = "3/5",
        ['⅘'] = "4/5",
        ['⅙'] = "1/6",
        ['⅚'] = "5/6",
        ['⅛'] = "1/8",
        ['⅜'] = "3/8",
        ['⅝'] = "5/8",
        ['⅞'] = "7/8",
    };

    private static readonly Dictionary<string, Unit> Words = new(StringComparer.Ordinal)
    {
        ["mm"] = Unit.Millimetre,
        ["millimetre"] = Unit.Millimetre,
        ["millimetres"] = Unit.Millimetre,
        ["cm"] = Unit.Centimetre,
        ["m"] = Unit.Metre,
        ["metre"] = Unit.Metre,
        ["metres"] = Unit.Metre,
        ["in"] = Unit.Inch,
        ["ins"] = Unit.Inch,
        ["inch"] = Unit.Inch,
        ["inches"] = Unit.Inch,
        ["\""] = Unit.Inch,
        ["thou"] = Unit.Thou,
        ["th"] = Unit.Thou,
        ["ft"] = Unit.Foot,
        ["foot"] = Unit.Foot,
        ["feet"] = Unit.Foot,
        ["'"] = Unit.Foot,
        ["g"] = Unit.Gram,
        ["kg"] = Unit.Kilogram,
        ["kilo"] = Unit.Kilogram,
        ["kilos"] = Unit.Kilogram,
        ["kgs"] = Unit.Kilogram,
        ["tonne"] = Unit.Tonne,
        ["tonnes"] = Unit.Tonne,
        ["lb"] = Unit.Pound,
        ["lbs"] = Unit.Pound,
        ["pound"] = Unit.Pound,
        ["pounds"] = Unit.Pound,
        ["oz"] = Unit.Ounce,
        ["long ton"] = Unit.LongTon,
        ["long tons"] = Unit.LongTon,
        ["short ton"] = Unit.ShortTon,
        ["short tons"] = Unit.ShortTon,
        ["long cwt"] = Unit.LongHundredweight,
        ["short cwt"] = Unit.ShortHundredweight,
    };

    private static readonly Dictionary<string, string> Questions = new(StringComparer.Ordinal)
    {
        ["mil"] = "Is that thousandths of an inch or millimetres? Type thou or mm.",
        ["mils"] = "Is that thousandths of an inch or millimetres? Type thou or mm.",
        ["ton"] = "Which ton: long ton (2240 lb), short ton (2000 lb) or tonne (1000 kg)? Type it out.",
        ["tons"] = "Which ton: long ton (2240 lb), short ton (2000 lb) or tonne (1000 kg)? Type it out.",
        ["t"] = "Which ton: long ton (2240 lb), short ton (2000 lb) or tonne (1000 kg)? Type it out.",
        ["cwt"] = "Which hundredweight: long cwt (112 lb) or short cwt (100 lb)? Type it out.",
        ["gauge"] = "Which gauge: the same number differs between makers' tables. Measure the sheet and type it in mm or thou.",
        ["ga"] = "Which gauge: the same number differs between makers' tables. Measure the sheet and type it in mm or thou.",
        ["swg"] = "Gauge tables are not kept here yet. Measure the sheet and type it in mm or thou.",
        ["tenths"] = "Tenths of what: of a thou or of an inch? Type it in thou or inches, such as 0.3 thou.",
        ["tenth"] = "Tenths of what: of a thou or of an inch? Type it in thou or inches, such as 0.3 thou.",
    };

    private static readonly HashSet<string> OtherQuantities = new(StringComparer.Ordinal)
    {
        "v", "volt", "volts", "a", "amp", "amps", "psi", "bar", "mpa", "l", "litre", "litres", "gal", "gallon", "gallons", "pint", "pints",
        "nm", "c", "f", "degc", "degf", "deg", "h", "hour", "hours", "min", "rpm", "hp", "kw", "ohm", "ohms",
    };

    /// <summary>Reads one typed value.</summary>
    /// <param name="text">What was typed.</param>
    /// <param name="quantity">What the field asks for.</param>
    /// <param name="bare">The unit of a bare number, or null when a bare number must be asked about.</param>
    /// <returns>A measure with a value above zero, or a refusal in one sentence.</returns>
    public static MeasureReading Read(string? text, Quantity quantity, Unit? bare = null)
    {
        var entered = (text ?? string.Empty).Trim();
        var example = quantity == Quantity.Length ? "7.2 mm, 60 thou or 5/16 in" : "12 kg or 26 lb";
        if (entered.Length == 0)
        {
            return MeasureReading.Refuse($"Type a value with its unit, such as {example}.");
        }

        if (entered.Length > Longest)
        {
            return MeasureReading.Refuse($"That is too long for one value. Type just the number and its unit, such as {example}.");
        }

        var tokens = Tokens(entered);
        if (tokens is null)
        {
            return MeasureReading.Refuse($"“{entered}” is not a value that can be read. Type it like {example}.");
        }

        if (tokens.Exists(t => t.Kind == Kind.Minus && tokens[0] == t))
        {
            return MeasureReading.Refuse("It is below nothing: a " + (quantity == Quantity.Length ? "length" : "weight") + " cannot be negative. Type it without the minus.");
        }

        var segments = new List<(double Value, Unit Unit, bool Given)>();
        var i = 0;
        while (i < tokens.Count)
        {
            var number = ReadNumber(tokens, ref i);
            if (number.Refusal is not null)
            {
                return MeasureReading.Refuse(number.Refusal);
            }

            var unit = ReadUnit(tokens, ref i, quantity, entered);
            if (unit.Refusal is not null)
            {
                return MeasureReading.Refuse(unit.Refusal);
            }

            segments.Add((number.Value, unit.Unit ?? bare ?? Unit.Metre, unit.Unit is not null));
        }

        if (segments.Count == 1 && !segments[0].Given && bare is null)
        {
            return MeasureReading.Refuse(quantity == Quantity.Length
                ? $"{entered} what? Add the unit: mm, in or thou."
                : $"{entered} what? Add the unit: kg or lb.");
        }

        if (segments.Count == 0 || segments.Count > 2 || (segments.Count == 2 && !CanFollow(segments[0], segments[1])))
        {
            return MeasureReading.Refuse($"“{entered}” reads as more than one value. Type one, such as {example}.");
        }

        // In "5 ft 10" the second number is inches.
        var si = segments[0].Value * segments[0].Unit.Factor;
        if (segments.Count == 2)
        {
            si += segments[1].Value * (segments[1].Given ? segments[1].Unit : Minor(segments[0].Unit)).Factor;
        }

        if (!double.IsFinite(si) || si > 1_000_000)
        {
            return MeasureReading.Refuse("That is larger than anything in the shed. Check the number and its unit.");
        }

        if (si <= 0)
        {
            return MeasureReading.Refuse("It comes to nothing. Type a value above zero.");
        }

        return new MeasureReading(new Measure(entered, si, segments[^1].Given || segments.Count == 1 ? segments[^1].Unit.Symbol : Minor(segments[0].Unit).Symbol), null);
    }

    private static Unit Minor(Unit major) => major == Unit.Foot ? Unit.Inch : Unit.Ounce;

    private static bool CanFollow((double Value, Unit Unit, bool Given) first, (double Value, Unit Unit, bool Given) second) =>
        first.Given
        && (first.Unit == Unit.Foot || first.Unit == Unit.Pound)
        && Math.Abs(first.Value - Math.Round(first.Value)) < 1e-12
        && (!second.Given || second.Unit == Minor(first.Unit));

    private static (Unit? Unit, string? Refusal) ReadUnit(List<Token> tokens, ref int i, Quantity quantity, string entered)
    {
        if (i >= tokens.Count || tokens[i].Kind != Kind.Word)
        {
            return (null, null);
        }

        var word = tokens[i].Text;
        if (i + 1 < tokens.Count && tokens[i + 1].Kind == Kind.Word && word is "long" or "short")
        {
            word = i + 1 < tokens.Count ? word + " " + tokens[++i].Text : word;
        }

        i++;
        if (Words.TryGetValue(word, out var unit))
        {
            return unit.Quantity == quantity
                ? (unit, null)
                : (null, quantity == Quantity.Length
                    ? $"{entered} is a weight; this asks for a length, such as 7.2 mm."
                    : $"{entered} is a length; this asks for a weight, such as 12 kg.");
        }

        if (Questions.TryGetValue(word, out var question))
        {
            var mass = word is "ton" or "tons" or "t" or "cwt";
            return mass == (quantity == Quantity.Mass)
                ? (null, question)
                : (null, quantity == Quantity.Length
                    ? $"{entered} is a weight; this asks for a length, such as 7.2 mm."
                    : $"{entered} is a length; this asks for a weight, such as 12 kg.");
        }

        return OtherQuantities.Contains(word)
            ? (null, $"“{word}” is not a unit of {(quantity == Quantity.Length ? "length" : "weight")}. Type {(quantity == Quantity.Length ? "mm, cm, m, in, thou or ft" : "kg, g, lb or oz")}.")
            : (null, $"“{word}” is not a unit that is known here. Type {(quantity == Quantity.Length ? "mm, cm, m, in, thou or ft" : "kg, g, lb or oz")}.");
    }

    private static (double Value, string? Refusal) ReadNumber(List<Token> tokens, ref int i)
    {
        if (i >= tokens.Count || tokens[i].Kind != Kind.Number)
        {
            return (0, "Start with the number, then its unit, such as 7.2 mm.");
        }

        var first = tokens[i];
        var firstValue = Decimal(first.Text);
        if (firstValue.Refusal is not null)
        {
            return firstValue;
        }

        i++;
        if (i < tokens.Count && tokens[i].Kind == Kind.Slash)
        {
            return Quotient(tokens, ref i, first.Text);
        }

        var j = i;
        var joined = j < tokens.Count && tokens[j].Kind is Kind.Minus or Kind.And;
        if (joined)
        {
            j++;
        }

        if (j + 1 < tokens.Count && tokens[j].Kind == Kind.Number && tokens[j + 1].Kind == Kind.Slash)
        {
            if (!IsWhole(first.Text))
            {
                return (0, $"“{first.Text} {tokens[j].Text}/…” mixes a decimal and a fraction. Type one or the other.");
            }

            var numerator = tokens[j].Text;
            i = j + 1;
            var fraction = Quotient(tokens, ref i, numerator);
            if (fraction.Refusal is not null)
            {
                return fraction;
            }

            return fraction.Value >= 1
                ? (0, $"In “{first.Text} {numerator}/…” the fraction is one or more. Type it as a mixed number, such as 1 3/4 in.")
                : (firstValue.Value + fraction.Value, null);
        }

        return joined
            ? (0, "That reads as a range. Type one value; if you only know the range, say so in words and leave the value empty.")
            : firstValue;
    }

    private static (double Value, string? Refusal) Quotient(List<Token> tokens, ref int i, string numerator)
    {
        i++;
        if (i >= tokens.Count || tokens[i].Kind != Kind.Number)
        {
            return (0, "There is a stroke with nothing below it. Type the fraction whole, such as 5/16 in.");
        }

        var denominator = tokens[i].Text;
        i++;
        if (!IsWhole(numerator) || !IsWhole(denominator))
        {
            return (0, "A fraction takes whole numbers, such as 5/16 in.");
        }

        var n = double.Parse(numerator, CultureInfo.InvariantCulture);
        var d = double.Parse(denominator, CultureInfo.InvariantCulture);
        if (d == 0)
        {
            return (0, $"{numerator}/{denominator} divides by nothing. Check the fraction.");
        }

        if (i < tokens.Count && tokens[i].Kind is Kind.Slash or Kind.Minus)
        {
            return (0, "That looks like a thread or a date, not a length. Type just the size, such as 1/2 in.");
        }

        return (n / d, null);
    }

    private static bool IsWhole(string s) => s.All(char.IsAsciiDigit);

    private static (double Value, string? Refusal) Decimal(string s)
    {
        var commas = s.Count(c => c == ',');
        var points = s.Count(c => c == '.');
        if (commas + points > 1)
        {
            return (0, $"“{s}” has more than one comma or point. Type it with one point, such as 1250.5.");
        }

        if (commas == 1)
        {
            var after = s.Length - s.IndexOf(',', StringComparison.Ordinal) - 1;
            var before = s.Length - after - 1;
            if (after == 3 && before is > 0 and <= 3 && !s.StartsWith('0'))
            {
                return (0, $"Is {s} one and a bit, or thousands? Type it with a point, such as 1.25 or 1250.");
            }

            s = s.Replace(',', '.');
        }

        return double.TryParse(s, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var v) && double.IsFinite(v)
            ? (v, null)
            : (0, $"“{s}” is not a number.");
    }

    private enum Kind
    {
        Number,
        Word,
        Slash,
        Minus,
        And,
    }

    private sealed record Token(Kind Kind, string Text);

    private static List<Token>? Tokens(string entered)
    {
        var s = Plain(entered);
        var tokens = new List<Token>();
        var i = 0;
        while (i < s.Length)
        {
            var c = s[i];
            if (c == ' ')
            {
                i++;
            }
            else if (char.IsAsciiDigit(c) || ((c is '.' or ',') && i + 1 < s.Length && char.IsAsciiDigit(s[i + 1])))
            {
                var start = i;
                while (i < s.Length && (char.IsAsciiDigit(s[i]) || ((s[i] is '.' or ',') && i + 1 < s.Length && char.IsAsciiDigit(s[i + 1]))))
                {
                    i++;
                }

                tokens.Add(new Token(Kind.Number, s[start..i]));
            }
            else if (char.IsAsciiLetter(c))
            {
                var start = i;
                while (i < s.Length && char.IsAsciiLetter(s[i]))
                {
                    i++;
                }

                // "7.2 mm." ends a sentence; the point is not part of the unit.
                if (i < s.Length && s[i] == '.' && i == s.Length - 1)
                {
                    tokens.Add(new Token(Kind.Word, s[start..i]));
                    return tokens;
                }

                tokens.Add(new Token(Kind.Word, s[start..i]));
            }
            else
            {
                var kind = c switch { '/' => Kind.Slash, '-' => Kind.Minus, '&' => Kind.And, '"' or '\'' => Kind.Word, _ => (Kind?)null };
                if (kind is null)
                {
                    return null;
                }

                tokens.Add(new Token(kind.Value, c.ToString()));
                i++;
            }
        }

        return tokens;
    }

    private static string Plain(string entered)
    {
        var b = new StringBuilder(entered.Length + 8);
        foreach (var c in entered)
        {
            if (VulgarFractions.TryGetValue(c, out var fraction))
            {
                b.Append(' ').Append(fraction).Append(' ');
                continue;
            }

            b.Append(c switch
            {
                '\u2044' or '\u2215' => '/',
                '\u2032' or '\u2018' or '\u2019' => '\'',
                '\u2033' or '\u201C' or '\u201D' => '"',
                '\u2212' or '\u2013' or '\u2014' => '-',
                '\t' or '\u00A0' or '\u2009' or '\u202F' => ' ',
                _ => char.ToLowerInvariant(c),
            });
        }

        return b.Replace("''", "\"").ToString();
    }
}
