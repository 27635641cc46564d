namespace OilTag.Core.Measures;

/// <summary>Reads measures that may be nought or, with a sign before them, negative: places along a datum, offsets, masses taken off.</summary>
public static class SignedReader
{
    /// <summary>The SI value, or why it cannot be read. Never both, never throws.</summary>
    /// <param name="text">What was typed, such as <c>-60 in</c>, <c>0</c> or <c>12.5 mm</c>.</param>
    /// <param name="quantity">What is asked for.</param>
    /// <param name="bare">Unit of a bare number; null when it must be said.</param>
    public static (double? Si, Unit? Unit, string? Refusal) Read(string? text, Quantity quantity, Unit? bare = null)
    {
        var plain = (text ?? string.Empty).Trim().Replace('\u2212', '-').TrimStart('+');
        var sign = plain.StartsWith('-') ? -1 : 1;
        plain = plain.TrimStart('-').Trim();

        // Nought in any unit, or without one, with as many noughts behind the point as people like.
        var unit = plain.AsSpan().IndexOfAnyExcept("0.") is >= 0 and var at ? plain[at..] : string.Empty;
        if (plain.StartsWith('0') && TextRules.Number(plain[..^unit.Length]) == 0)
        {
            if (unit.Length == 0)
            {
                return (0, null, null);
            }

            if (MeasureReader.Read("1 " + unit.Trim(), quantity, bare).Value is { } one)
            {
                return (0, one.Unit, null);
            }
        }

        var read = MeasureReader.Read(plain, quantity, bare);
        return read.Value is { } value ? (sign * value.Si, value.Unit, null) : (null, null, read.Refusal);
    }
}
