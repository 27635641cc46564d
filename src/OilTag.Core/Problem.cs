using System.Globalization;

namespace OilTag.Core;

/// <summary>Something the person must change before it can be recorded: which field, and a sentence a volunteer understands.</summary>
/// <param name="Field">The name of the field it belongs to, or an empty string when it is about the whole entry.</param>
/// <param name="Sentence">A plain sentence that says what is wrong and what to do.</param>
public sealed record Problem(string Field, string Sentence);

/// <summary>Checks of plain text that every entry shares.</summary>
public static class TextRules
{
    /// <summary>Adds a problem when the text is empty or longer than allowed.</summary>
    /// <returns>The text without surrounding blanks, or an empty string.</returns>
    public static string Need(IList<Problem> problems, string field, string? text, string whenEmpty, int longest)
    {
        var t = Optional(problems, field, text, longest);
        if (t.Length == 0)
        {
            problems.Add(new Problem(field, whenEmpty));
        }

        return t;
    }

    /// <summary>Adds a problem when the text is longer than allowed or holds control characters.</summary>
    /// <returns>The text without surrounding blanks, or an empty string.</returns>
    public static string Optional(IList<Problem> problems, string field, string? text, int longest)
    {
        var t = (text ?? string.Empty).Trim();
        if (t.Length > longest)
        {
            problems.Add(new Problem(field, $"That is {t.Length:N0} characters; {longest:N0} fit here. Keep the first lines and put the rest in a note."));
        }
        else if (t.Any(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t')))
        {
            problems.Add(new Problem(field, "There are characters in it that cannot be printed. Type it again."));
        }

        return t;
    }

    /// <summary>
    /// A number as it is typed: a point before the decimals, commas only between groups of three. <c>1,5</c> is not one and a half, so it is no
    /// number here.
    /// </summary>
    /// <returns>The number, nought or more, or null when it cannot be read.</returns>
    public static decimal? Number(string? text)
    {
        var t = (text ?? string.Empty).Trim();
        if (t.Contains(',', StringComparison.Ordinal))
        {
            var whole = t.Split('.')[0].Split(',');
            if (whole[0].Length is 0 or > 3 || Array.Exists(whole[1..], g => g.Length != 3))
            {
                return null;
            }

            t = t.Replace(",", string.Empty, StringComparison.Ordinal);
        }

        return decimal.TryParse(t, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) ? n : null;
    }
}
