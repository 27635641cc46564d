using System.Globalization;

namespace OilTag.Core.Work;

/// <summary>Money in the museum's currency, kept in pence.</summary>
public static class Money
{
    /// <summary>"£1,280" or "£41.50": pence only where there are any.</summary>
    public static string Pounds(long pence)
    {
        var text = Math.Abs(pence % 100) == 0
            ? (Math.Abs(pence) / 100).ToString("N0", CultureInfo.InvariantCulture)
            : (Math.Abs(pence) / 100m).ToString("N2", CultureInfo.InvariantCulture);
        return (pence < 0 ? "\u2212£" : "£") + text;
    }

    /// <summary>Reads an amount as it is typed, such as <c>£1,280</c> or <c>41.50</c>.</summary>
    /// <param name="pounds">What was typed.</param>
    /// <param name="most">The most that makes sense, in pounds.</param>
    /// <returns>Pence, rounded to the penny, or null when it cannot be read or is more.</returns>
    public static long? Read(string? pounds, decimal most) =>
        TextRules.Number((pounds ?? string.Empty).Trim().TrimStart('£')) is { } n && n <= most ? (long)decimal.Round(n * 100) : null;
}
