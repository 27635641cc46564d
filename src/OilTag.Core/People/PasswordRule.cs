using System.Security.Cryptography;
using System.Text;

namespace OilTag.Core.People;

/// <summary>Which passwords are taken.</summary>
public static class PasswordRule
{
    /// <summary>Fewest characters.</summary>
    public const int Shortest = 12;

    /// <summary>Most characters.</summary>
    public const int Longest = 200;

    /// <summary>Bytes that are kept of the SHA-256 of a common password.</summary>
    private const int Kept = 5;

    // Of each common password the list holds the beginning of its SHA-256, in order.
    private static readonly Lazy<byte[]> Common = new(() =>
    {
        using var from = typeof(PasswordRule).Assembly.GetManifestResourceStream("OilTag.Core.People.common-passwords.bin")!;
        using var to = new MemoryStream();
        from.CopyTo(to);
        return to.ToArray();
    });

    /// <summary>How many common passwords are known.</summary>
    public static int Known => Common.Value.Length / Kept;

    /// <summary>Why a password is not taken, in a sentence; null when it is.</summary>
    /// <param name="password">As typed.</param>
    /// <param name="names">Sign-in name and name of the person, which are no secret.</param>
    public static string? WhyNot(string? password, params IReadOnlyList<string> names)
    {
        ArgumentNullException.ThrowIfNull(names);
        var p = password ?? string.Empty;
        if (p.Length < Shortest)
        {
            return $"A password has {Shortest} characters or more. Three or four words that have nothing to do with each other are easy to keep.";
        }

        if (p.Length > Longest)
        {
            return $"A password has {Longest} characters at most.";
        }

        var low = p.ToLowerInvariant();
        if (low.Distinct().Count() < 5 || Repeats(low) || low.All(char.IsAsciiDigit))
        {
            return "That is too easy to guess: a row of digits, or the same few characters again. Choose another.";
        }

        var word = low.Trim([.. low.Where(c => !char.IsLetter(c)).Distinct()]);
        if (IsCommon(low) || IsCommon(word) || IsCommon(Plain(low)) || IsCommon(Plain(word)))
        {
            return "Many people use that one, so it is among the first that are tried. Choose another.";
        }

        return names.SelectMany(n => n.Split(' ')).Any(n => n.Length >= 4 && low.Replace(n.ToLowerInvariant(), string.Empty, StringComparison.Ordinal) is var rest && rest.Length < low.Length && rest.Count(char.IsLetter) < 6)
            ? "That is your name with a little beside it. Choose another."
            : null;
    }

    // Digits and signs that stand for letters.
    private static string Plain(string text) => string.Concat(text.Select(c => c switch { '0' => 'o', '1' or '!' => 'i', '3' => 'e', '4' or '@' => 'a', '5' or '$' => 's', '7' => 't', _ => c }));

    private static bool Repeats(string text) => Enumerable.Range(1, text.Length / 2).Any(n => Enumerable.Range(n, text.Length - n).All(i => text[i] == text[i - n]));

    private static bool IsCommon(string text)
    {
        if (text.Length < 4)
        {
            return false;
        }

        ReadOnlySpan<byte> hash = SHA256.HashData(Encoding.UTF8.GetBytes(text)).AsSpan(0, Kept);
        var (low, high) = (0, Known - 1);
        while (low <= high)
        {
            var middle = (low + high) / 2;
            var order = hash.SequenceCompareTo(Common.Value.AsSpan(middle * Kept, Kept));
            if (order == 0)
            {
                return true;
            }

            (low, high) = order < 0 ? (low, middle - 1) : (middle + 1, high);
        }

        return false;
    }
}
