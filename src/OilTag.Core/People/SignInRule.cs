using System.Security.Cryptography;
using NodaTime;

namespace OilTag.Core.People;

/// <summary>Rules of signing in: how often may be tried, for how long a link and a sign-in hold, what a device is called.</summary>
public static class SignInRule
{
    /// <summary>Wrong tries of one name from one device or address, after which these are not listened to until the time is over.</summary>
    public const int MostWrong = 5;

    /// <summary>Time over which wrong tries are counted.</summary>
    public static readonly Duration Window = Duration.FromMinutes(15);

    /// <summary>How long a sign-in holds after it was last used.</summary>
    public static readonly Duration Holds = Duration.FromHours(14);

    /// <summary>How long a keeper's link holds.</summary>
    public static readonly Duration LinkHolds = Duration.FromDays(7);

    /// <summary>How long the second step may follow the first.</summary>
    public static readonly Duration SecondHolds = Duration.FromMinutes(5);

    /// <summary>Recovery codes that are given at once.</summary>
    public const int Codes = 10;

    // No i, l, o or u: what is read from paper is typed as it looks.
    private const string Signs = "0123456789abcdefghjkmnpqrstvwxyz";

    /// <summary>
    /// How long an answer waits after so many wrong tries of one name from anywhere. Nobody is locked out by somebody else's tries; guessing only gets slower.
    /// </summary>
    /// <param name="wrong">Wrong tries within the window, from all devices and addresses.</param>
    public static Duration Wait(int wrong) => Duration.FromMilliseconds(wrong < 10 ? 0 : Math.Min(4000, 250 * (wrong - 9)));

    /// <summary>A new recovery code: 80 random bits as four groups of four.</summary>
    public static string NewCode() => string.Join('-', Enumerable.Range(0, 4).Select(_ => RandomNumberGenerator.GetString(Signs, 4)));

    /// <summary>A recovery code as it was typed, in the way in which it is kept.</summary>
    public static string ReadCode(string? typed)
    {
        var signs = string.Concat((typed ?? string.Empty).ToLowerInvariant().Select(c => c switch { 'o' => '0', 'i' or 'l' => '1', _ => c }).Where(c => Signs.Contains(c, StringComparison.Ordinal)).Take(40));
        return string.Join('-', signs.Chunk(4).Select(c => new string(c)));
    }

    /// <summary>What a device is called in a list, from what its browser says of itself. A guess; it decides nothing.</summary>
    public static string Device(string? userAgent)
    {
        var u = userAgent ?? string.Empty;
        bool Has(string word) => u.Contains(word, StringComparison.OrdinalIgnoreCase);
        var tablet = Has("ipad") || Has("tablet") || (Has("android") && !Has("mobile"));
        return tablet ? "a tablet" : Has("mobile") || Has("android") || Has("iphone") ? "a phone" : Has("windows") || Has("macintosh") || Has("linux") || Has("cros") ? "a computer" : "a device";
    }

    /// <summary>Checks a sign-in name.</summary>
    /// <param name="signIn">As typed.</param>
    /// <param name="taken">Whether somebody has it already.</param>
    public static Problem? CheckName(string? signIn, bool taken)
    {
        var s = (signIn ?? string.Empty).Trim();
        return s.Length is < 2 or > 40 || !s.All(c => char.IsAsciiLetterOrDigit(c) || c is '.' or '-' or '_')
            ? new Problem("SignIn", "A sign-in name has 2 to 40 letters, digits, points or dashes.")
            : taken ? new Problem("SignIn", "Somebody signs in with that name already. Choose another.") : null;
    }
}
