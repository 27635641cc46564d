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
}
