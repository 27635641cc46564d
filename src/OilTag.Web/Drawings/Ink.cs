using System.Globalization;
using System.Net;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Machines;

namespace OilTag.Web.Drawings;

/// <summary>The colours of the drawings; the same as the style sheet's tokens.</summary>
public static class Ink
{
    public const string Sheet = "#FAF6EA";
    public const string Black = "#1A1814";
    public const string Pencil = "#574F42";
    public const string Rule = "#8C8069";
    public const string Graph = "#E4D9C1";
    public const string Manila = "#E9D3A0";
    public const string ManilaEdge = "#8F7340";
    public const string BrassInk = "#664807";
    public const string Oxide = "#9C3019";
    public const string Wash = "#F3DDCF";

    public static readonly IReadOnlyDictionary<string, string> Tins = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        ["harbour"] = "#1B4B73",
        ["peat"] = "#235A36",
        ["beet"] = "#7B2457",
        ["umber"] = "#63431C",
        ["teal"] = "#0F5A5E",
        ["plum"] = "#4C3575",
        ["ochre"] = "#755000",
        ["iron"] = "#484E54",
    };

    public static string Tin(string name) => Tins.GetValueOrDefault(name, "#484E54");

    /// <summary>At most one decimal, with a point.</summary>
    public static string N(double v) => Math.Round(v, 1).ToString("0.#", CultureInfo.InvariantCulture);

    /// <summary>Text made safe for SVG and HTML.</summary>
    public static string T(string text) => WebUtility.HtmlEncode(text);

    public static string Fill(PartState s, string livery) => s switch
    {
        PartState.OnBench => "url(#t-bench)",
        PartState.Away => "url(#t-away)",
        PartState.Stuck => "url(#t-stuck)",
        PartState.Ready => "url(#t-ready)",
        PartState.Trial => "url(#t-trial)",
        PartState.Loose => "url(#t-loose)",
        PartState.BackOn => livery,
        PartState.Off or PartState.NotFound => "none",
        _ => Sheet,
    };

    public static string Stroke(PartState s) => s == PartState.Stuck ? Oxide : Black;

    /// <summary>A closed path filled by state.</summary>
    public static string Zone(string d, PartState s, string livery)
    {
        var dash = s switch { PartState.Off => " stroke-dasharray=\"9 3 2 3 2 3\"", PartState.NotFound => " stroke-dasharray=\"3 3\"", _ => string.Empty };
        return $"<path d=\"{d}\" fill=\"{Fill(s, livery)}\" stroke=\"{Stroke(s)}\" stroke-width=\"{(s == PartState.Off ? "1" : "1.4")}\"{dash} stroke-linejoin=\"round\"/>";
    }

    public static string Line(string d, double width = 1) => $"<path d=\"{d}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"{N(width)}\" stroke-linecap=\"round\"/>";

    public static string Circle(double x, double y, double r) => $"M{N(x - r)} {N(y)}a{N(r)} {N(r)} 0 1 0 {N(2 * r)} 0a{N(r)} {N(r)} 0 1 0 {N(-2 * r)} 0Z";

    /// <summary>A dimension line with arrows and words on a board.</summary>
    public static string Dimension(double x1, double x2, double y, string words, double size = 16, bool attention = false)
    {
        var c = attention ? Oxide : Black;
        var marker = attention ? "arx" : "ar";
        var mid = (x1 + x2) / 2;
        var w = Lettering.Width(words, size) + 14;
        return $"<path d=\"M{N(x1)} {N(y - 8)}V{N(y + 8)}M{N(x2)} {N(y - 8)}V{N(y + 8)}\" stroke=\"{c}\"/><path d=\"M{N(x1)} {N(y)}H{N(x2)}\" stroke=\"{c}\" marker-start=\"url(#{marker})\" marker-end=\"url(#{marker})\"/>"
            + $"<rect x=\"{N(mid - (w / 2))}\" y=\"{N(y - 10)}\" width=\"{N(w)}\" height=\"20\" fill=\"{Sheet}\"/><text class=\"w6\" x=\"{N(mid)}\" y=\"{N(y + 5.5)}\" font-size=\"{N(size)}\" text-anchor=\"middle\" fill=\"{c}\">{T(words)}</text>";
    }

    /// <summary>A small tag hung by a cord from a point on a part.</summary>
    public static string Hung(double px, double py, double x, double y, int number)
    {
        var w = 22 + Lettering.NumberWidth(number, 17);
        const double H = 22;
        double ex = x + 8, ey = y + (H / 2);
        return $"<path d=\"M{N(px)} {N(py)}C{N(px)} {N(((py + ey) / 2) + 6)} {N(ex)} {N(((py + ey) / 2) - 6)} {N(ex)} {N(ey)}\" fill=\"none\" stroke=\"{ManilaEdge}\" stroke-width=\"1.2\"/><circle cx=\"{N(px)}\" cy=\"{N(py)}\" r=\"2\" fill=\"{Black}\"/>"
            + $"<path d=\"M{N(x + 5)} {N(y)}H{N(x + w)}V{N(y + H)}H{N(x + 5)}L{N(x)} {N(y + H - 5)}V{N(y + 5)}Z\" fill=\"{Manila}\" stroke=\"{ManilaEdge}\" stroke-width=\"1.2\"/><circle cx=\"{N(ex)}\" cy=\"{N(ey)}\" r=\"2.6\" fill=\"{Sheet}\" stroke=\"{ManilaEdge}\"/>"
            + $"<text class=\"st\" x=\"{N(x + 14)}\" y=\"{N(y + H - 5)}\" font-size=\"17\" fill=\"{Black}\">{number}</text>";
    }

    /// <summary>Ten rivet heads, n of them filled.</summary>
    public static IHtmlContent Rivets(int n, string livery)
    {
        var b = new StringBuilder($"<svg width=\"138\" height=\"13\" viewBox=\"0 0 138 13\" role=\"img\" aria-label=\"{n} in 10\">");
        for (var i = 0; i < 10; i++)
        {
            var x = N(6.5 + (i * 13.8));
            b.Append(i < n
                ? $"<circle cx=\"{x}\" cy=\"6.5\" r=\"5.5\" fill=\"{livery}\"/><circle cx=\"{x}\" cy=\"6.5\" r=\"3.7\" fill=\"none\" stroke=\"{Sheet}\" stroke-width=\".8\"/>"
                : $"<circle cx=\"{x}\" cy=\"6.5\" r=\"4.5\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.3\" stroke-dasharray=\"2.2 2\"/>");
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    /// <summary>A state or verdict mark in the colour of the words beside it.</summary>
    public static IHtmlContent Mark(string name, int size = 20) =>
        new HtmlString($"<svg width=\"{size}\" height=\"{size}\" viewBox=\"0 0 20 20\" aria-hidden=\"true\"><use href=\"#m-{name}\"/></svg>");

    /// <summary>A square filled by state.</summary>
    public static IHtmlContent Swatch(PartState s, string livery, int width = 26, int height = 30) =>
        new HtmlString($"<svg width=\"{width}\" height=\"{height}\" aria-hidden=\"true\">{Zone($"M1 1H{width - 1}V{height - 1}H1Z", s, livery)}</svg>");

    /// <summary>The livery thread along a line.</summary>
    public static IHtmlContent LiningAcross(string tin) =>
        new HtmlString($"<svg class=\"liningbar\" width=\"100%\" height=\"11\" aria-hidden=\"true\"><rect width=\"100%\" height=\"11\" fill=\"url(#lh-{tin})\"/></svg>");

    /// <summary>The livery thread down a tag.</summary>
    public static IHtmlContent LiningDown(string tin) =>
        new HtmlString($"<span class=\"line\" aria-hidden=\"true\"><svg width=\"11\" height=\"100%\"><rect width=\"11\" height=\"100%\" fill=\"url(#lv-{tin})\"/></svg></span>");

    /// <summary>The brass eyelet.</summary>
    public static IHtmlContent Eyelet { get; } = new HtmlString("<span class=\"eye\"><svg width=\"22\" height=\"22\" viewBox=\"0 0 22 22\" aria-hidden=\"true\"><use href=\"#m-eye\"/></svg></span>");

    /// <summary>Textures, marks, linings and arrows that drawings on the page refer to.</summary>
    public static IHtmlContent Defs(IEnumerable<string> tins)
    {
        var b = new StringBuilder("<svg class=\"defs\" width=\"0\" height=\"0\" aria-hidden=\"true\"><defs>");
        b.Append($"<pattern id=\"t-bench\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\" patternTransform=\"rotate(45)\"><rect width=\"6\" height=\"6\" fill=\"{Sheet}\"/><path d=\"M0 0V6\" stroke=\"{Black}\" stroke-width=\"1.5\"/></pattern>");
        b.Append($"<pattern id=\"t-away\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\"><rect width=\"6\" height=\"6\" fill=\"{Sheet}\"/><circle cx=\"1.5\" cy=\"1.5\" r=\"1\" fill=\"{Black}\"/><circle cx=\"4.5\" cy=\"4.5\" r=\"1\" fill=\"{Black}\"/></pattern>");
        b.Append($"<pattern id=\"t-stuck\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\" patternTransform=\"rotate(45)\"><rect width=\"6\" height=\"6\" fill=\"{Wash}\"/><path d=\"M0 0V6M0 0H6\" stroke=\"{Oxide}\" stroke-width=\"1.7\"/></pattern>");
        b.Append($"<pattern id=\"t-ready\" width=\"5\" height=\"5\" patternUnits=\"userSpaceOnUse\"><rect width=\"5\" height=\"5\" fill=\"{Sheet}\"/><path d=\"M0 2.5H5\" stroke=\"{Black}\" stroke-width=\"1.3\"/></pattern>");
        b.Append($"<pattern id=\"t-trial\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\"><rect width=\"6\" height=\"6\" fill=\"{Sheet}\"/><path d=\"M3 0V6\" stroke=\"{Black}\" stroke-width=\"1.2\" stroke-dasharray=\"4 2\"/></pattern>");
        b.Append($"<pattern id=\"t-loose\" width=\"8\" height=\"8\" patternUnits=\"userSpaceOnUse\"><rect width=\"8\" height=\"8\" fill=\"{Sheet}\"/><path d=\"M0 2H8M0 6H8M2 0V8M6 0V8\" stroke=\"{Black}\" stroke-width=\".8\"/></pattern>");
        b.Append($"<pattern id=\"t-near\" width=\"6\" height=\"6\" patternUnits=\"userSpaceOnUse\" patternTransform=\"rotate(45)\"><rect width=\"6\" height=\"6\" fill=\"{Sheet}\"/><path d=\"M0 0V6\" stroke=\"{BrassInk}\" stroke-width=\"1.3\"/></pattern>");
        b.Append($"<pattern id=\"t-past\" width=\"8\" height=\"8\" patternUnits=\"userSpaceOnUse\" patternTransform=\"rotate(45)\"><path d=\"M0 0V8M0 0H8\" stroke=\"{Oxide}\" stroke-width=\".6\"/></pattern>");
        b.Append($"<pattern id=\"graph\" width=\"40\" height=\"40\" patternUnits=\"userSpaceOnUse\"><path d=\"M8 0V40M16 0V40M24 0V40M32 0V40M0 8H40M0 16H40M0 24H40M0 32H40\" stroke=\"{Graph}\" stroke-width=\".6\"/><path d=\"M0 0V40M0 0H40\" stroke=\"{Graph}\" stroke-width=\"1.3\"/></pattern>");
        b.Append($"<marker id=\"ar\" viewBox=\"0 0 10 6\" refX=\"10\" refY=\"3\" markerWidth=\"10\" markerHeight=\"6\" orient=\"auto-start-reverse\" markerUnits=\"userSpaceOnUse\"><path d=\"M0 0.6L10 3L0 5.4Z\" fill=\"{Black}\"/></marker>");
        b.Append($"<marker id=\"arx\" viewBox=\"0 0 10 6\" refX=\"10\" refY=\"3\" markerWidth=\"12\" markerHeight=\"8\" orient=\"auto-start-reverse\" markerUnits=\"userSpaceOnUse\"><path d=\"M0 0.4L10 3L0 5.6Z\" fill=\"{Oxide}\"/></marker>");
        const string K = "currentColor";
        const string Hex = "M10 1.5L17.4 5.75V14.25L10 18.5L2.6 14.25V5.75Z";
        void Symbol(string id, string body) => b.Append($"<symbol id=\"m-{id}\" viewBox=\"0 0 20 20\">{body}</symbol>");
        Symbol("fit", $"<path d=\"{Hex}\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\"/>");
        Symbol("off", $"<circle cx=\"10\" cy=\"10\" r=\"7.2\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\"/><circle cx=\"10\" cy=\"10\" r=\"2.2\" fill=\"{K}\"/>");
        Symbol("bench", $"<path d=\"M2 2H18V18H2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\"/><path d=\"M18 2V18H2Z\" fill=\"{K}\"/>");
        Symbol("away", $"<path d=\"M2 4H11L18 10L11 16H2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\" stroke-linejoin=\"round\"/>");
        Symbol("stuck", $"<path d=\"M2.5 2H17.5L10 10L17.5 18H2.5L10 10Z\" fill=\"{K}\"/>");
        Symbol("ready", $"<path d=\"M10 2L18 13H2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\" stroke-linejoin=\"round\"/><path d=\"M2 17.5H18\" stroke=\"{K}\" stroke-width=\"2.4\"/>");
        Symbol("back", $"<path d=\"{Hex}\" fill=\"{K}\" stroke=\"{K}\" stroke-width=\"2\"/>");
        Symbol("trial", $"<path d=\"{Hex}\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\" stroke-dasharray=\"4 2.4\"/><path d=\"M10 5V15M6.5 8.5L10 5L13.5 8.5M6.5 11.5L10 15L13.5 11.5\" fill=\"none\" stroke=\"{K}\" stroke-width=\"1.8\"/>");
        Symbol("loose", $"<path d=\"{Hex}\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\"/><path d=\"M10 1.5L17.4 5.75V14.25L10 18.5Z\" fill=\"{K}\"/>");
        Symbol("lost", $"<circle cx=\"10\" cy=\"10\" r=\"7.4\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\" stroke-dasharray=\"3.4 3\"/><path d=\"M6 14L14 6\" stroke=\"{K}\" stroke-width=\"2\"/>");
        Symbol("good", $"<path d=\"M2 2H18V18H2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"1.8\"/><path d=\"M5 10.5L8.6 14L15 6\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2.4\"/>");
        Symbol("near", $"<path d=\"M10 2L18.5 17H1.5Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\" stroke-linejoin=\"round\"/><path d=\"M6 12.5H14\" stroke=\"{K}\" stroke-width=\"2\"/>");
        Symbol("under", $"<path d=\"M1.5 3H18.5L10 18Z\" fill=\"{K}\"/>");
        Symbol("wrong", $"<path d=\"M2 2H18V18H2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"1.8\"/><path d=\"M5 8H15M5 12.5H15M13 4.5L7 16\" stroke=\"{K}\" stroke-width=\"2\"/>");
        Symbol("hold", $"<path d=\"M3 1V19M17 1V19\" stroke=\"{K}\" stroke-width=\"3.4\"/><path d=\"M3 7H17M3 13H17\" stroke=\"{K}\" stroke-width=\"2.2\"/>");
        Symbol("blank", $"<path d=\"M2 2H18V18H2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"1.6\" stroke-dasharray=\"2.6 2.4\"/>");
        Symbol("left", $"<path d=\"M16 2V18A9 8 0 0 1 16 2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\"/>");
        Symbol("right", $"<path d=\"M4 2V18A9 8 0 0 0 4 2Z\" fill=\"none\" stroke=\"{K}\" stroke-width=\"2\"/>");
        b.Append($"<symbol id=\"m-eye\" viewBox=\"0 0 22 22\"><circle cx=\"11\" cy=\"11\" r=\"9\" fill=\"#C79E48\" stroke=\"{ManilaEdge}\"/><circle cx=\"11\" cy=\"11\" r=\"5.4\" fill=\"{Sheet}\" stroke=\"{BrassInk}\"/></symbol>");
        foreach (var tin in tins.Distinct(StringComparer.Ordinal))
        {
            var (pitch, body) = Lining(tin);
            b.Append($"<pattern id=\"lv-{tin}\" width=\"11\" height=\"{pitch}\" patternUnits=\"userSpaceOnUse\">{body}</pattern>");
            b.Append($"<pattern id=\"lh-{tin}\" width=\"{pitch}\" height=\"11\" patternUnits=\"userSpaceOnUse\"><g transform=\"translate(0 11) rotate(-90)\">{body}</g></pattern>");
        }

        return new HtmlString(b.Append("</defs></svg>").ToString());
    }

    private static (int Pitch, string Body) Lining(string tin)
    {
        var c = Tin(tin);
        string Rail(double x, double w) => $"<rect x=\"{N(x)}\" width=\"{N(w)}\" height=\"9\" fill=\"{c}\"/>";
        return tin switch
        {
            "harbour" => (9, Rail(0, 6) + Rail(8.5, 1.6)),
            "peat" => (9, Rail(0, 1.6) + Rail(3.2, 4.6) + Rail(9.4, 1.6)),
            "beet" => (9, Rail(0, 1.6) + $"<rect x=\"3.4\" y=\"1\" width=\"7.6\" height=\"6\" fill=\"{c}\"/>"),
            "umber" => (9, Rail(0, 2.4) + Rail(8.6, 2.4) + $"<circle cx=\"5.5\" cy=\"4.5\" r=\"1.9\" fill=\"{c}\"/>"),
            "teal" => (9, Rail(0, 3.5) + Rail(7.5, 3.5)),
            "plum" => (6, $"<rect width=\"1.6\" height=\"6\" fill=\"{c}\"/><rect x=\"9.4\" width=\"1.6\" height=\"6\" fill=\"{c}\"/><rect y=\"2\" width=\"11\" height=\"1.6\" fill=\"{c}\"/>"),
            "ochre" => (9, Rail(0, 6) + $"<circle cx=\"9\" cy=\"4.5\" r=\"1.8\" fill=\"{c}\"/>"),
            _ => (9, Rail(0, 2) + Rail(4.5, 2) + Rail(9, 2)),
        };
    }
}
