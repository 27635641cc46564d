using System.Text.RegularExpressions;

namespace OilTag.Core.Strip;

/// <summary>What is the matter with the bad ones of a bag.</summary>
public enum BagCondition
{
    /// <summary>Nobody has said.</summary>
    Unsaid,

    /// <summary>Clean and good.</summary>
    Good,

    /// <summary>Rusty.</summary>
    Rusty,

    /// <summary>Worn or stretched.</summary>
    Worn,

    /// <summary>Thread damaged.</summary>
    Crossed,

    /// <summary>Seized, and cut or drilled out.</summary>
    Seized,

    /// <summary>Broken.</summary>
    Broken,
}

/// <summary>Reads size and thread out of what a bag is called, so that nobody types them twice.</summary>
public static partial class FastenerSize
{
    /// <summary>The size and the thread in a description such as <c>1/2 BSF stud</c>.</summary>
    /// <param name="what">As typed.</param>
    /// <returns>Size with its unit and the series of the thread; both empty when they cannot be told.</returns>
    public static (string Size, string Thread) Read(string what)
    {
        ArgumentNullException.ThrowIfNull(what);
        if (Metric().Match(what) is { Success: true } m)
        {
            return (m.Groups["d"].Value + " mm", m.Groups["p"].Success ? $"metric, pitch {m.Groups["p"].Value} mm" : "metric");
        }

        if (Ba().Match(what) is { Success: true } ba)
        {
            return ("no. " + ba.Groups["n"].Value, "BA");
        }

        if (Number().Match(what) is { Success: true } n)
        {
            return ("no. " + n.Groups["n"].Value, n.Groups["t"].Value.ToUpperInvariant());
        }

        return Inch().Match(what) is { Success: true } i ? (i.Groups["d"].Value + " in", Series(i.Groups["t"].Value)) : (string.Empty, string.Empty);
    }

    /// <summary>Size, thread and condition of a bag in words; empty when none of them is known.</summary>
    public static string Words(string what, BagCondition condition)
    {
        var (size, thread) = Read(what);
        return string.Join(", ", new[] { size, thread, condition switch { BagCondition.Unsaid => string.Empty, BagCondition.Crossed => "thread damaged", BagCondition.Worn => "worn or stretched", _ => condition.ToString().ToLowerInvariant() } }.Where(w => w.Length > 0));
    }

    private static string Series(string typed) => typed.ToUpperInvariant() switch { "WHIT" or "WHITWORTH" => "BSW", "CYCLE" => "BSC", var t => t };

    [GeneratedRegex(@"\bM\s?(?<d>\d{1,2}(\.\d)?)(\s?[x×]\s?(?<p>[01]?\.\d{1,2}|[1-6](\.\d{1,2})?)(?!\d)(?!\s*mm\b)(?=\s*([x×]|$|[a-z])))?", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Metric();

    [GeneratedRegex(@"\b(?<n>\d{1,2})\s?BA\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Ba();

    [GeneratedRegex(@"(\bno\.?\s?|#)(?<n>\d{1,2})\s*(-\s*\d{2}\s*)?(?<t>UNC|UNF)\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Number();

    [GeneratedRegex(@"(?<![\d/.])(?<d>\d{1,2}([ -]\d{1,2}/\d{1,2})?|\d{1,2}/\d{1,2}|\d?\.\d{1,4})\s*(in\.?|inch|"")?\s*(-\s*\d{2}\s*)?(?<t>BSW|BSF|BSP|BSC|BSB|UNC|UNF|UNEF|WHITWORTH|WHIT|CYCLE)\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Inch();
}
