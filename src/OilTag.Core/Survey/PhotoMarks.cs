using System.Globalization;

namespace OilTag.Core.Survey;

/// <summary>
/// Reads and writes what is drawn over a photo. On the wire it is one line a mark: <c>arrow 120 80 300 210</c>, <c>circle 10 10 90 60</c>,
/// <c>words 40 300 crack starts here</c>, all in pixels of the picture from its top left corner.
/// </summary>
public static class PhotoMarks
{
    /// <summary>Most marks over one photo.</summary>
    public const int Most = 40;

    /// <summary>Most letters of a mark.</summary>
    public const int MostLetters = 60;

    /// <summary>Reads the marks.</summary>
    /// <param name="text">The lines; empty for none.</param>
    /// <param name="width">Width of the picture in pixels.</param>
    /// <param name="height">Height of the picture in pixels.</param>
    /// <returns>The marks, or a problem of the field Marks. Points outside the picture are moved to its edge.</returns>
    public static (IReadOnlyList<PhotoMark> Marks, Problem? Problem) Read(string? text, int width, int height)
    {
        var marks = new List<PhotoMark>();
        foreach (var line in (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var words = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
            if (!Enum.TryParse<PhotoMarkKind>(words[0], ignoreCase: true, out var kind) || !char.IsAsciiLetter(words[0][0]) || !Enum.IsDefined(kind))
            {
                return Wrong(line);
            }

            var wanted = kind == PhotoMarkKind.Words ? 2 : 4;
            var at = new int[4];
            if (words.Length < 1 + wanted)
            {
                return Wrong(line);
            }

            for (var i = 0; i < wanted; i++)
            {
                if (!double.TryParse(words[i + 1], NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var v) || !double.IsFinite(v))
                {
                    return Wrong(line);
                }

                at[i] = (int)Math.Clamp(Math.Round(v), 0, i % 2 == 0 ? width : height);
            }

            var said = kind == PhotoMarkKind.Words ? string.Join(' ', words[3..]) : string.Empty;
            if (kind == PhotoMarkKind.Words && (said.Length is 0 or > MostLetters || said.Any(char.IsControl)))
            {
                return ([], new Problem("Marks", $"Words on a photo take 1 to {MostLetters} letters; the caption takes more."));
            }

            if (kind != PhotoMarkKind.Words && words.Length != 5)
            {
                return Wrong(line);
            }

            // A finger that only tapped drew nothing.
            if (kind == PhotoMarkKind.Words || Math.Abs(at[0] - at[2]) + Math.Abs(at[1] - at[3]) > Math.Max(width, height) / 100)
            {
                marks.Add(new PhotoMark(kind, at[0], at[1], at[2], at[3], said));
            }
        }

        return marks.Count > Most ? ([], new Problem("Marks", $"A photo takes {Most} marks. Take some away.")) : (marks, null);

        static (IReadOnlyList<PhotoMark>, Problem?) Wrong(string line) => ([], new Problem("Marks", $"“{(line.Length > 40 ? line[..40] + "…" : line)}” is no mark. Write arrow or circle and four numbers, or words, two numbers and the words."));
    }

    /// <summary>Writes the marks as <see cref="Read"/> takes them.</summary>
    public static string Words(IReadOnlyList<PhotoMark> marks)
    {
        ArgumentNullException.ThrowIfNull(marks);
        return string.Join('\n', marks.Select(m => m.Kind == PhotoMarkKind.Words
            ? string.Create(CultureInfo.InvariantCulture, $"words {m.X1} {m.Y1} {m.Text}")
            : string.Create(CultureInfo.InvariantCulture, $"{m.Kind.ToString().ToLowerInvariant()} {m.X1} {m.Y1} {m.X2} {m.Y2}")));
    }
}
