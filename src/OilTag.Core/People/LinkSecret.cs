using System.Security.Cryptography;
using System.Text;

namespace OilTag.Core.People;

/// <summary>Secrets of private links: of outside shops, calendars, and those with which a password is chosen.</summary>
public static class LinkSecret
{
    /// <summary>A new secret: 160 random bits as 40 characters, safe in an address.</summary>
    public static string New() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(20));

    /// <summary>What is kept of a secret, or of a code on paper: its SHA-256.</summary>
    /// <param name="secret">The secret as it was given out.</param>
    public static byte[] HashOf(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));
}
