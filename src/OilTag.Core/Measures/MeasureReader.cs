using System.Globalization;

namespace OilTag.Core.Measures;

/// <summary>What came of reading a typed value: a measure, or a sentence that says what to type instead. Never both.</summary>
/// <param name="Value">The measure, when it could be read.</param>
/// <param name="Refusal">Why it could not be read, or the question that settles it.</param>
/// <param name="Note">What to look at again although it could be read, or null.</param>
public sealed record MeasureReading(Measure? Value, string? Refusal, string? Note = null)
{
    internal static MeasureReading Refuse(string why) => new(null, why);
}

/// <summary>What came of reading a value or a range: its ends, or a sentence. Both ends are the same for one value.</summary>
/// <param name="Low">The lower end.</param>
/// <param name="High">The upper end.</param>
/// <param name="Refusal">Why it could not be read.</param>
/// <param name="Note">What to look at again, or null.</param>
public sealed record RangeReading(Measure? Low, Measure? High, string? Refusal, string? Note = null);

/// <summary>
/// Reads what people type in a workshop: <c>5/16 in</c>, <c>60 thou</c>, <c>7.2 mm</c>, <c>1 3/4"</c>, <c>64 ft 0 1/8 in</c>, <c>75 lb ft</c>,
/// <c>No. 30 drill</c>, <c>16 swg</c>, <c>3° 20'</c>. Anything that could mean two things is asked about, never guessed. Never throws.
/// </summary>
public static class MeasureReader
{
    private const int Longest = 40;

    // Denominators that are cut into rules and drawn on drawings; another one is taken with a note.
    private static ReadOnlySpan<int> Denominators => [2, 3, 4, 5, 6, 8, 10, 12, 16, 32, 64, 100, 128];

    /// <summary>Reads one typed value.</summary>
    /// <param name="text">What was typed.</param>
    /// <param name="quantity">What the field asks for.</param>
    /// <param name="bare">The unit of a bare number, or null when a bare number must be asked about.</param>
    /// <returns>A measure within the range of its quantity, or a refusal in one sentence.</returns>
    public static MeasureReading Read(string? text, Quantity quantity, Unit? bare = null)
    {
        var entered = (text ?? string.Empty).Trim();
        var facts = UnitWords.Facts(quantity);
        if (entered.Length == 0)
        {
            return MeasureReading.Refuse($"Type a value with its unit, such as {facts.Example}.");
        }

        if (entered.Length > Longest)
        {
            return MeasureReading.Refuse($"That is too long for one value. Type just the number and its unit, such as {facts.Example}.");
        }

        Span<char> plain = stackalloc char[Longest * 6];
        var length = Plain(entered, plain);
        if (length <= 0)
        {
            return MeasureReading.Refuse($"“{entered}” is not a value that can be read. Type it like {facts.Example}.");
        }

        var c = new Cursor(plain[..length]);
        if (quantity == Quantity.Length && ReadDrill(ref c) is { } drill)
        {
            return drill.Size is { } inches ? Accept(entered, Unit.Inch.ToSi(inches), Unit.Inch, facts, null) : MeasureReading.Refuse(drill.Refusal!);
        }

        var sign = 1;
        if (c.Next is '-' or '+')
        {
            sign = c.Next == '-' ? -1 : 1;
            if (sign < 0 && facts.Least >= 0 && quantity != Quantity.Temperature)
            {
                return MeasureReading.Refuse($"It is below nothing: {facts.Name} cannot be negative. Type it without the minus.");
            }

            c.Step();
        }

        Unit? first = null;
        Unit? last = null;
        var si = 0.0;
        var count = 0;
        var open = false;
        var wholeSoFar = true;
        string? note = null;
        while (!c.AtEnd)
        {
            if (ReadNumber(ref c, out var value, ref note) is { } noNumber)
            {
                return MeasureReading.Refuse(noNumber);
            }

            if (ReadUnit(ref c, quantity, facts, entered, out var word) is { } noUnit)
            {
                return MeasureReading.Refuse(noUnit);
            }

            if (word?.Table is { } table)
            {
                if (table(value == Math.Floor(value) && value <= 1000 ? (int)value : -1) is not { } inches || count > 0 || !c.AtEnd)
                {
                    return MeasureReading.Refuse($"There is no such gauge as {entered}. Measure the sheet and type it in mm or thou.");
                }

                return Accept(entered, Unit.Inch.ToSi(inches), Unit.Inch, facts, note);
            }

            var unit = word?.Unit;
            if (count == 0)
            {
                (first, last, open) = (unit, unit ?? bare, unit is null);
                si = last is null ? 0 : last.Factor * value;
            }
            else
            {
                // In "5 ft 10" the second number is inches.
                var follows = unit ?? Minor(last);
                if (count > 2 || open || !wholeSoFar || follows is null || !CanFollow(last!, follows))
                {
                    return MeasureReading.Refuse($"“{entered}” reads as more than one value. Type one, such as {facts.Example}.");
                }

                if (value * follows.Factor >= last!.Factor)
                {
                    note = $"{MeasureFormat.Number(value, 3)} {follows.Symbol} is a whole {last.Symbol} or more. Check what was meant.";
                }

                si += value * follows.Factor;
                open = unit is null;
                last = follows;
            }

            wholeSoFar = value == Math.Floor(value);
            count++;
        }

        if (count == 0)
        {
            return MeasureReading.Refuse($"Start with the number, then its unit, such as {facts.Example}.");
        }

        if (last is null)
        {
            return MeasureReading.Refuse($"{entered} what? Add the unit: {facts.Ask}.");
        }

        return Accept(entered, (sign * si) + last.Offset, last, facts, note);
    }

    /// <summary>Reads one value or a range, such as <c>7 to 8 mm</c> or <c>7-8 mm</c>.</summary>
    /// <param name="text">What was typed.</param>
    /// <param name="quantity">What the field asks for.</param>
    /// <param name="bare">The unit of a bare number, or null.</param>
    public static RangeReading ReadRange(string? text, Quantity quantity, Unit? bare = null)
    {
        var one = Read(text, quantity, bare);
        if (one.Value is not null)
        {
            return new RangeReading(one.Value, one.Value, null, one.Note);
        }

        var entered = (text ?? string.Empty).Trim();
        var at = entered.IndexOf(" to ", StringComparison.OrdinalIgnoreCase);
        var width = 4;
        if (at < 1)
        {
            (at, width) = (entered.IndexOfAny(['-', '–', '—'], Math.Min(1, entered.Length)), 1);
        }

        if (at < 1 || entered.Length > Longest)
        {
            return new RangeReading(null, null, one.Refusal);
        }

        var high = Read(entered[(at + width)..], quantity, bare);
        if (high.Value is null)
        {
            return new RangeReading(null, null, high.Refusal);
        }

        // "7 to 8 mm": the first number borrows the unit of the second.
        var low = Read(entered[..at], quantity, high.Value.Unit);
        if (low.Value is null)
        {
            return new RangeReading(null, null, low.Refusal);
        }

        return low.Value.Si < high.Value.Si
            ? new RangeReading(low.Value, high.Value, null, low.Note ?? high.Note)
            : new RangeReading(null, null, $"“{entered}” runs backwards. Type the smaller one first, such as 7 to 8 mm.");
    }

    private static MeasureReading Accept(string entered, double si, Unit unit, QuantityFacts facts, string? note)
    {
        if (!double.IsFinite(si) || si > facts.Most)
        {
            return MeasureReading.Refuse("That is larger than anything in the shed. Check the number and its unit.");
        }

        if (si < facts.Least || (si <= facts.Least && !facts.LeastIsIn))
        {
            return MeasureReading.Refuse(unit.Quantity switch
            {
                Quantity.Temperature => "That is colder than cold can be. Check the number and its scale.",
                _ when facts.Least < 0 => "That is larger than anything in the shed. Check the number and its unit.",
                _ => "It comes to nothing. Type a value above zero.",
            });
        }

        return new MeasureReading(new Measure(entered, si, unit.Symbol), null, note);
    }

    private static Unit? Minor(Unit? major) => major is null ? null
        : major == Unit.Foot ? Unit.Inch
        : major == Unit.Pound ? Unit.Ounce
        : major == Unit.Hour ? Unit.Minute
        : major == Unit.Degree ? Unit.ArcMinute
        : major == Unit.ArcMinute ? Unit.ArcSecond
        : null;

    private static bool CanFollow(Unit major, Unit minor) =>
        minor == Minor(major)
        || (major == Unit.Yard && minor == Unit.Foot)
        || (major == Unit.LongTon && minor == Unit.LongHundredweight)
        || (major == Unit.LongHundredweight && (minor == Unit.Quarter || minor == Unit.Pound))
        || ((major == Unit.Quarter || major == Unit.Stone) && minor == Unit.Pound);

    private static (double? Size, string? Refusal)? ReadDrill(ref Cursor c)
    {
        var s = c.Rest;
        var i = 0;
        if (s[0] == '#')
        {
            i = 1;
        }
        else if (StartsWithWord(s, "no") || StartsWithWord(s, "number"))
        {
            i = StartsWithWord(s, "no") ? 2 : 6;
            while (i < s.Length && s[i] is ' ' or '.')
            {
                i++;
            }
        }
        else if (StartsWithWord(s, "letter"))
        {
            var left = s[6..].Trim();
            return left.Length == 1 && WorkshopTables.LetterDrill(left[0]) is { } named ? (named, null) : (null, "A letter drill goes from A to Z, such as letter F.");
        }
        else if (char.IsAsciiLetter(s[0]) && s.Length > 2 && s[1] == ' ' && s[2..].Trim().Equals("drill", StringComparison.OrdinalIgnoreCase))
        {
            return (WorkshopTables.LetterDrill(s[0]), null);
        }
        else
        {
            return null;
        }

        var number = s[i..].Trim();
        if (number.EndsWith("drill", StringComparison.OrdinalIgnoreCase))
        {
            number = number[..^5].TrimEnd();
        }

        return int.TryParse(number, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && WorkshopTables.NumberDrill(n) is { } size
            ? (size, null)
            : (null, "A number drill goes from 1 to 80, such as No. 30.");
    }

    private static bool StartsWithWord(ReadOnlySpan<char> s, string word) =>
        s.Length > word.Length && s.StartsWith(word, StringComparison.OrdinalIgnoreCase) && !char.IsAsciiLetter(s[word.Length]);

    // Returns what is wrong, or null; the word is null when there is none.
    private static string? ReadUnit(ref Cursor c, Quantity quantity, QuantityFacts facts, string entered, out UnitWord? word)
    {
        word = null;
        Span<char> written = stackalloc char[Longest];
        var n = c.TakeUnit(written);
        if (n == 0)
        {
            return null;
        }

        written = written[..n];
        Span<char> small = stackalloc char[n];
        for (var i = 0; i < n; i++)
        {
            small[i] = char.IsAsciiLetterUpper(written[i]) ? (char)(written[i] | 0x20) : written[i];
        }

        word = UnitWords.Find(quantity, written, small);
        if (word?.Question is not null)
        {
            return word.Question;
        }

        if (word is not null)
        {
            return null;
        }

        if (small[0] == 'x' && (n == 1 || char.IsAsciiDigit(small[^1])))
        {
            return "That looks like a thread, not a size. Type just the size, such as 12 mm.";
        }

        if (UnitWords.Elsewhere(quantity, written, small) is not { } other)
        {
            return $"“{small}” is not a unit that is known here. Type {facts.Units}.";
        }

        return other is Quantity.Length or Quantity.Mass && quantity is Quantity.Length or Quantity.Mass
            ? $"{entered} is {UnitWords.Facts(other).Name}; this asks for {facts.Name}, such as {facts.Example}."
            : $"“{small}” is not a unit of {facts.Name[(facts.Name.IndexOf(' ', StringComparison.Ordinal) + 1)..]}. Type {facts.Units}.";
    }

    private static string? ReadNumber(ref Cursor c, out double value, ref string? note)
    {
        value = 0;
        var first = c.TakeNumber();
        if (first.Length == 0)
        {
            return "Start with the number, then its unit, such as 7.2 mm.";
        }

        if (Decimal(first, out value) is { } wrong)
        {
            return wrong;
        }

        if (c.Next == '/')
        {
            return Quotient(ref c, first, out value, ref note);
        }

        var before = c;
        var joined = c.Next is '-' or '&';
        if (joined)
        {
            c.Step();
        }

        var numerator = c.TakeNumber();
        if (numerator.Length > 0 && c.Next == '/')
        {
            if (!IsWhole(first))
            {
                return $"“{first} {numerator}/…” mixes a decimal and a fraction. Type one or the other.";
            }

            if (Quotient(ref c, numerator, out var fraction, ref note) is { } refusal)
            {
                return refusal;
            }

            if (fraction >= 1)
            {
                return $"In “{first} {numerator}/…” the fraction is one or more. Type it as a mixed number, such as 1 3/4 in.";
            }

            value += fraction;
            return null;
        }

        c = before;
        return joined ? "That reads as a range. Type one value, or say 7 to 8 mm where a range is taken." : null;
    }

    private static string? Quotient(ref Cursor c, ReadOnlySpan<char> numerator, out double value, ref string? note)
    {
        value = 0;
        c.Step();
        var denominator = c.TakeNumber();
        if (denominator.Length == 0)
        {
            return "There is a stroke with nothing below it. Type the fraction whole, such as 5/16 in.";
        }

        if (!IsWhole(numerator) || !IsWhole(denominator))
        {
            return "A fraction takes whole numbers, such as 5/16 in.";
        }

        var n = double.Parse(numerator, NumberStyles.None, CultureInfo.InvariantCulture);
        var d = double.Parse(denominator, NumberStyles.None, CultureInfo.InvariantCulture);
        if (d == 0)
        {
            return $"{numerator}/{denominator} divides by nothing. Check the fraction.";
        }

        if (c.Next is '/' or '-')
        {
            return "That looks like a thread or a date, not a length. Type just the size, such as 1/2 in.";
        }

        if (d > 128 || !Denominators.Contains((int)d))
        {
            note = $"A {numerator}/{denominator} is not on any rule. Check the fraction.";
        }

        value = n / d;
        return null;
    }

    private static bool IsWhole(ReadOnlySpan<char> s) => !s.ContainsAnyExceptInRange('0', '9');

    private static string? Decimal(ReadOnlySpan<char> s, out double value)
    {
        value = 0;
        var at = s.IndexOfAny('.', ',');
        if (at >= 0 && s[(at + 1)..].IndexOfAny('.', ',') >= 0)
        {
            return $"“{s}” has more than one comma or point. Type it with one point, such as 1250.5.";
        }

        Span<char> pointed = stackalloc char[s.Length];
        s.CopyTo(pointed);
        if (at >= 0 && s[at] == ',')
        {
            if (s.Length - at - 1 == 3 && at is > 0 and <= 3 && s[0] != '0')
            {
                return $"Is {s} one and a bit, or thousands? Type it with a point, such as 1.25 or 1250.";
            }

            pointed[at] = '.';
        }

        return double.TryParse(pointed, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out value) && double.IsFinite(value) ? null : $"“{s}” is not a number.";
    }

    // Quotes, primes, dashes, blanks and built fractions as their plain forms; nothing when a sign is none that a value has.
    private static int Plain(ReadOnlySpan<char> entered, Span<char> to)
    {
        var n = 0;
        foreach (var c in entered)
        {
            if (char.IsAsciiLetterOrDigit(c))
            {
                to[n++] = c;
                continue;
            }

            var plain = c switch
            {
                ' ' or '\t' or '\u00A0' or '\u2009' or '\u202F' => ' ',
                '.' or ',' or '/' or '-' or '&' or '"' or '\'' or '#' or '+' or '°' => c,
                '\u2044' or '\u2215' => '/',
                '\u2032' or '\u2018' or '\u2019' => '\'',
                '\u2033' or '\u201C' or '\u201D' => '"',
                '\u2212' or '\u2013' or '\u2014' => '-',
                'º' => '°',
                'Ω' or '\u2126' or 'ω' => 'Ω',
                'µ' or '\u03BC' => 'µ',
                '²' => '2',
                '³' => '3',
                '·' or '⋅' => ' ',
                _ => '\0',
            };
            if (plain != '\0')
            {
                if (plain == '\'' && n > 0 && to[n - 1] == '\'')
                {
                    to[n - 1] = '"';
                }
                else
                {
                    to[n++] = plain;
                }

                continue;
            }

            if (Vulgar(c) is not { } fraction)
            {
                return 0;
            }

            to[n++] = ' ';
            fraction.CopyTo(to[n..]);
            n += fraction.Length;
            to[n++] = ' ';
        }

        return n;
    }

    private static string? Vulgar(char c) => c switch
    {
        '¼' => "1/4",
        '½' => "1/2",
        '¾' => "3/4",
        '⅐' => "1/7",
        '⅑' => "1/9",
        '⅒' => "1/10",
        '⅓' => "1/3",
        '⅔' => "2/3",
        '⅕' => "1/5",
        '⅖' => "2/5",
        '⅗' => "3/5",
        '⅘' => "4/5",
        '⅙' => "1/6",
        '⅚' => "5/6",
        '⅛' => "1/8",
        '⅜' => "3/8",
        '⅝' => "5/8",
        '⅞' => "7/8",
        _ => null,
    };

    private ref struct Cursor
    {
        private ReadOnlySpan<char> rest;

        public Cursor(ReadOnlySpan<char> text) => rest = text.Trim(' ');

        public readonly bool AtEnd => rest.IsEmpty;

        public readonly ReadOnlySpan<char> Rest => rest;

        public readonly char Next => rest.IsEmpty ? '\0' : rest[0];

        public void Step() => rest = rest[1..].TrimStart(' ');

        public ReadOnlySpan<char> TakeNumber()
        {
            var i = 0;
            while (i < rest.Length && (char.IsAsciiDigit(rest[i]) || (rest[i] is '.' or ',' && i + 1 < rest.Length && char.IsAsciiDigit(rest[i + 1]))))
            {
                i++;
            }

            var number = rest[..i];
            rest = rest[i..].TrimStart(' ');
            return number;
        }

        // Words up to the next number, with one blank between them; points and hyphens count as blanks.
        public int TakeUnit(scoped Span<char> to)
        {
            if (Next is '"' or '\'')
            {
                to[0] = Next;
                Step();
                return 1;
            }

            var n = 0;
            var i = 0;
            var stroke = false;
            for (; i < rest.Length; i++)
            {
                var c = rest[i];
                if (char.IsAsciiLetter(c) || c is '°' or 'Ω' or 'µ' || (c == '/' && n > 0 && i + 1 < rest.Length && char.IsAsciiLetter(rest[i + 1]))
                    || (char.IsAsciiDigit(c) && n > 0 && (stroke || to[0] is 'x' or 'X' || (c == '3' && n == 2)) && char.IsAsciiLetter(rest[i - 1])))
                {
                    stroke |= c == '/';
                    to[n++] = c;
                }
                else if (c is ' ' or '.' or '-' && n > 0 && (i + 1 == rest.Length || rest[i + 1] is ' ' or '.' || char.IsAsciiLetter(rest[i + 1])))
                {
                    if (to[n - 1] != ' ')
                    {
                        to[n++] = ' ';
                    }
                }
                else if (c == ' ')
                {
                    continue;
                }
                else
                {
                    break;
                }
            }

            // "M12x1.25" and "5 X 3" are no units; whatever stands behind the x belongs to it.
            if (n > 0 && to[0] is 'x' or 'X' && i < rest.Length)
            {
                i = rest.Length;
            }

            rest = rest[i..].TrimStart(' ');
            while (n > 0 && to[n - 1] == ' ')
            {
                n--;
            }

            return n;
        }
    }
}
