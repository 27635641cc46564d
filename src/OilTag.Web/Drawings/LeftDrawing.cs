using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Planning;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>What is left of a machine as one length of stock: what is worked in its livery, what is settled in outline, what is not in dashes, and how far it may run on.</summary>
public static class LeftDrawing
{
    private const double Width = 1225;
    private const double Top = 44;
    private const double High = 46;
    private const double WorkedWidth = 156;
    private const double Least = 30;

    /// <param name="left">What is left.</param>
    /// <param name="worked">Hours worked.</param>
    /// <param name="tin">The livery.</param>
    public static IHtmlContent Draw(Left left, double worked, string tin)
    {
        ArgumentNullException.ThrowIfNull(left);
        var b = new StringBuilder($"<svg class=\"stock\" width=\"{N(Width)}\" height=\"118\" viewBox=\"0 0 {N(Width)} 118\" role=\"img\" aria-label=\"{T(Told(left, worked))}\">");
        b.Append($"<rect x=\"0\" y=\"{N(Top)}\" width=\"12\" height=\"{N(High)}\" fill=\"url(#lv-{tin})\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
        b.Append($"<rect x=\"12\" y=\"{N(Top)}\" width=\"{N(WorkedWidth - 12)}\" height=\"{N(High)}\" fill=\"{Tin(tin)}\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
        b.Append($"<text x=\"24\" y=\"{N(Top + 19)}\" font-size=\"15\" class=\"w6\" fill=\"{Sheet}\">worked</text><text x=\"24\" y=\"{N(Top + 38)}\" font-size=\"16\" class=\"v\" fill=\"{Sheet}\">{T(WhatIsLeft.Hours(worked))}</text>");
        b.Append($"<rect x=\"{N(WorkedWidth - 26)}\" y=\"{N(Top - 2)}\" width=\"6\" height=\"{N(High + 4)}\" fill=\"{Sheet}\"/><path d=\"M{N(WorkedWidth - 27)} {N(Top - 5)}q5 13 0 26t0 30M{N(WorkedWidth - 20)} {N(Top - 5)}q5 13 0 26t0 30\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");

        // The mean ends before the sheet does, so that the rest of the range has room.
        var end = Math.Max(left.High, left.Likely * 1.05);
        var room = Width - WorkedWidth - 10 - (left.Rows.Count * 4);
        var scale = end <= 0 ? 0 : room / end;
        var x = WorkedWidth;
        var told = 0.0;
        foreach (var row in left.Rows)
        {
            var w = Math.Max(6, row.Hours.Mean * scale);
            var open = row.Kind is LeftKind.Findings or LeftKind.NotFound or LeftKind.NoHours;
            b.Append($"<rect x=\"{N(x)}\" y=\"{N(Top)}\" width=\"{N(w)}\" height=\"{N(High)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.4\"{(open ? $" stroke-dasharray=\"{(row.Kind == LeftKind.Findings ? "5 3" : "3 3")}\"" : string.Empty)}/>");
            var words = Short(row.Kind);
            var hours = WhatIsLeft.Hours(row.Hours.Mean);
            if (Lettering.Width(words, 15) + 14 <= w && w > Least)
            {
                b.Append($"<text x=\"{N(x + 7)}\" y=\"{N(Top + 19)}\" font-size=\"15\" class=\"w6\">{T(words)}</text><text x=\"{N(x + 7)}\" y=\"{N(Top + 38)}\" font-size=\"15\" class=\"v\">{T(hours)}</text>");
            }
            else
            {
                // Under the length, one behind the other; what has no room is in the list below.
                var label = $"{words} {hours}";
                var at = Math.Max(told, x);
                if (at + Lettering.Width(label, 14) <= Width && at < x + 220)
                {
                    b.Append($"<path d=\"M{N(x + (w / 2))} {N(Top + High)}V{N(Top + High + 8)}\" stroke=\"{Black}\"/><text x=\"{N(at)}\" y=\"{N(Top + High + 23)}\" font-size=\"14\" class=\"w6\">{T(label)}</text>");
                    told = at + Lettering.Width(label, 14) + 14;
                }
            }

            x += w;
        }

        b.Append(Dimension(WorkedWidth + 1, x, 24, $"{WhatIsLeft.Hours(left.Likely)} left, as we think now", 16));
        b.Append($"<path d=\"M{N(WorkedWidth)} 12V{N(Top + High + 8)}\" stroke=\"{BrassInk}\" stroke-width=\"2.4\"/>");
        if (Width - 8 - x > 20)
        {
            b.Append($"<path d=\"M{N(x)} {N(Top)}H{N(Width - 8)}M{N(x)} {N(Top + High)}H{N(Width - 8)}\" stroke=\"{Black}\" stroke-width=\"1.4\" stroke-dasharray=\"3 3\"/><path d=\"M{N(Width - 9)} {N(Top - 5)}q5 13 0 26t0 30\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
            if (Width - 14 - x > Lettering.Width("may run on", 15) + 10)
            {
                b.Append($"<text x=\"{N(x + 10)}\" y=\"{N(Top + 19)}\" font-size=\"15\" class=\"w6\" fill=\"{Pencil}\">may run on</text><text x=\"{N(x + 10)}\" y=\"{N(Top + 38)}\" font-size=\"15\" class=\"v\" fill=\"{Pencil}\">to {T(WhatIsLeft.Hours(left.High))}</text>");
            }
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    private static string Short(LeftKind kind) => kind switch
    {
        LeftKind.PuttingBack => "Putting back",
        LeftKind.Findings => "Findings",
        LeftKind.NotFound => "Not found",
        LeftKind.Rechecks => "Look again",
        LeftKind.Papers => "Papers, tests",
        LeftKind.NoHours => "No hours",
        _ => "Packages",
    };

    private static string Told(Left left, double worked) =>
        $"{WhatIsLeft.Hours(worked)} worked, about {WhatIsLeft.Hours(left.Likely)} left: {string.Join(", ", left.Rows.Select(r => $"{Short(r.Kind).ToLowerInvariant()} {WhatIsLeft.Hours(r.Hours.Mean)}"))}. It may run on to {WhatIsLeft.Hours(left.High)}.";
}
