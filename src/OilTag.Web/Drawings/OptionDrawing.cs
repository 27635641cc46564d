using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Survey;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>The wait for an option as a bar against the milestone, and the original that stays as rivets.</summary>
public static class OptionDrawing
{
    private const int Wide = 150;

    /// <summary>A bar of weeks; the chain line is the milestone.</summary>
    /// <param name="weeks">Weeks to wait.</param>
    /// <param name="left">Weeks to the milestone, or null.</param>
    /// <param name="most">The longest that any bar of the page shows.</param>
    public static IHtmlContent Weeks(double weeks, double? left, double most)
    {
        double X(double w) => 2 + (Math.Min(w, most) / Math.Max(most, 1) * (Wide - 6));
        var late = left is { } l && weeks > l;
        var b = new StringBuilder($"<svg width=\"{Wide}\" height=\"24\" viewBox=\"0 0 {Wide} 24\" role=\"img\" aria-label=\"{N(weeks)} weeks{(late ? ", too late" : string.Empty)}\">");
        b.Append(weeks > 0
            ? $"<rect x=\"2\" y=\"10\" width=\"{N(X(weeks) - 2)}\" height=\"10\" fill=\"url(#{(late ? "t-stuck" : "t-bench")})\" stroke=\"{(late ? Oxide : Black)}\" stroke-width=\"1.4\"/>"
            : $"<path d=\"M2 8v14\" stroke=\"{Black}\" stroke-width=\"2\"/>");
        if (left is { } at && at <= most)
        {
            b.Append($"<path d=\"M{N(X(at))} 1V23\" stroke=\"{Oxide}\" stroke-width=\"2\" stroke-dasharray=\"10 3 2 3\"/>");
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    /// <summary>Ten rivets, one for each tenth of the original that stays.</summary>
    public static IHtmlContent Original(int percent)
    {
        var b = new StringBuilder($"<svg width=\"112\" height=\"14\" viewBox=\"0 0 112 14\" role=\"img\" aria-label=\"{percent} percent of the original stays\">");
        for (var i = 0; i < 10; i++)
        {
            var full = (percent + 5) / 10 > i;
            b.Append(CultureInfo.InvariantCulture, $"<circle cx=\"{6 + (i * 11)}\" cy=\"7\" r=\"4.2\" fill=\"{(full ? Black : "none")}\" stroke=\"{Black}\"{(full ? string.Empty : " stroke-dasharray=\"2 1.6\"")}/>");
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }
}
