using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Html;

namespace OilTag.Web.Shared;

/// <summary>Makes the numbers of packages, findings and route cards in a sentence of the log lead there.</summary>
public static partial class StoryWords
{
    public static IHtmlContent Linked(string sentence)
    {
        // Encoded first: what comes after only ever adds links around digits.
        var safe = HtmlEncoder.Default.Encode(sentence);
        return new HtmlString(Numbers().Replace(safe, m => m.Groups["p"].Success
            ? $"<a href=\"/w/{m.Groups["p"].Value}\">package {m.Groups["p"].Value}</a>"
            : m.Groups["s"].Success ? $"survey <a href=\"/s/{m.Groups["s"].Value}\">S{m.Groups["s"].Value}</a>"
            : m.Groups["f"].Success ? $"<a href=\"/f/{m.Groups["f"].Value}\">F{m.Groups["f"].Value}</a>" : $"<a href=\"/r/{m.Groups["r"].Value}\">R{m.Groups["r"].Value}</a>"));
    }

    [GeneratedRegex(@"\bpackage (?<p>\d{1,9})\b|\bsurvey S(?<s>\d{1,9})\b|(?<![&#\w])F(?<f>\d{1,9})\b|(?<![&#\w])R(?<r>\d{1,9})\b", RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant, matchTimeoutMilliseconds: Timeout.Infinite)]
    private static partial Regex Numbers();
}
