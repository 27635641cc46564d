using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Web.Shared;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>A package drawn as one length of stock: hours along the way, gates at holds, breaks where time passes by itself.</summary>
public static class StockDrawing
{
    private const double Top = 40;
    private const double High = 44;
    private const double Gap = 30;
    private const double Pause = 60;
    private const double Unknown = 44;
    private const int MostLanes = 3;

    /// <param name="stock">The length.</param>
    /// <param name="tin">The livery.</param>
    /// <param name="width">Width to fill; more is taken when the pieces would be too small to tell apart.</param>
    /// <param name="dimensions">False for a length that nobody has worked at.</param>
    public static IHtmlContent Draw(Stock stock, string tin, double width = 805, bool dimensions = true)
    {
        ArgumentNullException.ThrowIfNull(stock);
        var top = dimensions ? Top : 16;
        var fixedWidth = stock.Parts.Sum(p => p.Gate is not null ? Gap : p.Break is not null ? Pause : p.Lanes.All(l => l.Hours is null)
            ? Unknown : 0);
        var hours = stock.Parts.Where(p => p.Lanes.Any(l => l.Hours is not null)).ToList();
        var all = hours.Sum(p => p.Lanes.Max(l => l.Hours?.Likely ?? 0));
        var whole = Math.Max(width, 14 + fixedWidth + (hours.Count * 8));
        var scale = all <= 0 ? 0 : (whole - 14 - fixedWidth - (hours.Count * 4)) / all;
        double Length(StockPiece l) => l.Hours is null ? Unknown : 4 + (l.Hours.Likely * scale);
        var col = Tin(tin);
        var (body, over, under) = (new StringBuilder(), new StringBuilder(), new StringBuilder());
        var x = 12.0;
        var (now, firstOpen) = (-1.0, -1.0);
        var lettered = 0.0;
        void Word(double at, string words, string colour)
        {
            // Words under the length never cross each other: what has no room is in the list below.
            var w = Lettering.Width(words, 15);
            var from = Math.Clamp(at - (w / 2), 0, Math.Max(0, whole - w));
            if (from >= lettered)
            {
                under.Append($"<text x=\"{N(from)}\" y=\"{N(top + High + 24)}\" font-size=\"15\" class=\"w6\" fill=\"{colour}\">{T(words)}</text>");
                lettered = from + w + 10;
            }
        }

        foreach (var part in stock.Parts)
        {
            if (part.Gate is { } gate)
            {
                firstOpen = firstOpen < 0 && !gate.Done ? x : firstOpen;
                over.Append(Gate(x + 4, top, High, gate.Done));
                Word(x + 15, gate.Done ? $"hold {gate.Number}, lifted" : $"hold {gate.Number}", gate.Done ? Pencil : Black);
                x += Gap;
                continue;
            }

            if (part.Break is { } pause)
            {
                body.Append($"<rect x=\"{N(x - 2)}\" y=\"{N(top - 2)}\" width=\"6\" height=\"{N(High + 4)}\" fill=\"{Sheet}\"/>{Long(x - 1, top, High)}<path d=\"M{N(x + 6)} {N(top + (High / 2))}H{N(x + Pause - 8)}\" stroke=\"{Black}\" stroke-width=\"1.6\" stroke-dasharray=\"1.5 4\"/>{Long(x + Pause - 6, top, High)}");
                Word(x + (Pause / 2), $"{pause.Word.ToLowerInvariant()} {Days(pause.Days)}", Black);
                x += Pause;
                continue;
            }

            var lanes = part.Lanes.Take(MostLanes).ToList();
            var longest = lanes.Max(Length);
            for (var i = 0; i < lanes.Count; i++)
            {
                var (l, h) = (lanes[i], High / lanes.Count);
                var (y, w) = (top + (i * h), Length(lanes[i]));
                firstOpen = firstOpen < 0 && !l.Done ? x : firstOpen;
                body.Append(Piece(l, x, y, w, h, col));
                if (l.Now && now < 0)
                {
                    now = x + (w * l.Share);
                }

                over.Append(Label(l, x, y, w, h));
                if (w < longest)
                {
                    body.Append($"<path d=\"M{N(x + w)} {N(y + (h / 2))}H{N(x + longest)}\" stroke=\"{Black}\" stroke-width=\"1.4\" stroke-dasharray=\"1.5 4\"/>");
                }
            }

            if (lanes.Count > 1)
            {
                body.Append($"<path d=\"M{N(x + longest)} {N(top)}V{N(top + High)}\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
            }

            if (part.Lanes.Count > MostLanes)
            {
                Word(x + (longest / 2), $"{part.Lanes.Count - MostLanes} more beside it", Black);
            }

            x += longest;
        }

        now = now < 0 ? (firstOpen < 0 ? x : firstOpen) : now;
        var told = Told(stock);
        var b = new StringBuilder($"<svg class=\"stock\" width=\"{N(whole)}\" height=\"{N(top + High + 32)}\" viewBox=\"0 0 {N(whole)} {N(top + High + 32)}\" role=\"img\" aria-label=\"{T(told)}\">");
        b.Append($"<rect x=\"0\" y=\"{N(top)}\" width=\"12\" height=\"{N(High)}\" fill=\"url(#lv-{tin})\" stroke=\"{Black}\" stroke-width=\"1.4\"/>").Append(body);
        if (dimensions)
        {
            var worked = $"worked {Say.Hours(stock.WorkedMinutes)}";
            var left = ToDo(stock);
            if (stock.WorkedMinutes > 0 && now - 12 > Lettering.Width(worked, 15) + 30)
            {
                b.Append(Dimension(12, now - 1, 20, worked, 15));
            }

            if (x - now > Lettering.Width(left, 15) + 30)
            {
                b.Append(Dimension(now + 1, x, 20, left, 15));
            }

            if (stock.Parts.Count > 0 && firstOpen >= 0)
            {
                b.Append($"<path d=\"M{N(now)} 10V{N(top + High + 8)}\" stroke=\"{BrassInk}\" stroke-width=\"2.4\"/><path d=\"M{N(now - 7)} 5H{N(now + 7)}L{N(now)} 15Z\" fill=\"{BrassInk}\"/>");
            }
        }

        return new HtmlString(b.Append(over).Append(under).Append("</svg>").ToString());
    }

    /// <summary>Hours still to do, with what nobody has estimated.</summary>
    public static string ToDo(Stock stock)
    {
        ArgumentNullException.ThrowIfNull(stock);
        var known = stock.ToDo.High <= 0 ? string.Empty
            : stock.ToDo.High - stock.ToDo.Low < 0.05 ? $"{Say.Number(stock.ToDo.Likely)} h to do"
            : $"{Say.Number(stock.ToDo.Low)} to {Say.Number(stock.ToDo.High)} h to do, likely {Say.Number(stock.ToDo.Likely)}";
        var unknown = stock.Unknown == 0 ? string.Empty : Say.Count(stock.Unknown, "step", "steps") + " without hours";
        return (known.Length, unknown.Length) switch
        {
            (0, 0) => "nothing to do",
            (0, _) => unknown,
            (_, 0) => known,
            _ =>
            $"{known}, and {unknown}"
        };
    }

    /// <summary>A range of hours: solid as far as low, open dashes to high, a tick at likely; dashes for what nobody has given.</summary>
    public static IHtmlContent Range(HoursRange? hours, double scale, double most, bool hold = false, bool words = true)
    {
        const double Y = 9;
        const double H = 22;
        var b = new StringBuilder($"<svg class=\"range\" width=\"{N(most)}\" height=\"40\" viewBox=\"0 0 {N(most)} 40\" aria-hidden=\"true\">");
        var end = 1.0;
        if (hours is null)
        {
            b.Append($"<rect x=\"1\" y=\"{N(Y)}\" width=\"32\" height=\"{N(H)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.4\" stroke-dasharray=\"3 3\"/>");
            end = 33;
        }
        else
        {
            var (low, likely, high) = (Math.Max(3, hours.Low * scale), Math.Max(3, hours.Likely * scale), Math.Max(3, hours.High * scale));
            b.Append($"<rect x=\"1\" y=\"{N(Y)}\" width=\"{N(low)}\" height=\"{N(H)}\" fill=\"{Sheet}\" stroke=\"{Black}\" stroke-width=\"1.4\"/>");
            if (high - low > 0.5)
            {
                b.Append($"<rect x=\"{N(1 + low)}\" y=\"{N(Y)}\" width=\"{N(high - low)}\" height=\"{N(H)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.2\" stroke-dasharray=\"5 3\"/><path d=\"M{N(1 + likely)} {N(Y - 4)}V{N(Y + H + 4)}\" stroke=\"{Black}\" stroke-width=\"2.4\"/>");
            }

            end = 1 + high;
        }

        if (hold)
        {
            b.Append(Gate(end + 8, Y, H, lifted: false, width: 20, up: 6));
            end += 29;
        }

        if (words && hours is not null && end + 90 <= most)
        {
            b.Append($"<text class=\"v\" x=\"{N(end + 9)}\" y=\"25\" font-size=\"14\">{T(Words(hours))}</text>");
        }

        return new HtmlString(b.Append("</svg>").ToString());
    }

    /// <summary>Time that passes by itself, drawn between two long breaks.</summary>
    public static IHtmlContent Pauses(double width = 112, double height = 40) =>
        new HtmlString($"<svg class=\"range\" width=\"{N(width)}\" height=\"{N(height)}\" viewBox=\"0 0 {N(width)} {N(height)}\" aria-hidden=\"true\">{Long(4, height / 4, height / 2)}<path d=\"M12 {N(height / 2)}H{N(width - 12)}\" stroke=\"{Black}\" stroke-width=\"1.8\" stroke-dasharray=\"1.8 4\"/>{Long(width - 8, height / 4, height / 2)}</svg>");

    /// <summary>Hours in the short words of a list: <c>2–3–5 h</c>.</summary>
    public static string Words(HoursRange hours)
    {
        ArgumentNullException.ThrowIfNull(hours);
        static string One(double h) => h.ToString("0.##", CultureInfo.InvariantCulture);
        return hours.High - hours.Low < 0.005 ? One(hours.Likely) + "\u00A0h"
            : $"{One(hours.Low)}\u2013{One(hours.Likely)}\u2013{One(hours.High)}\u00A0h";
    }

    /// <summary>Days in words.</summary>
    public static string Days(DaysRange days)
    {
        ArgumentNullException.ThrowIfNull(days);
        static string One(double d) => d.ToString("0.#", CultureInfo.InvariantCulture);
        var (unit, by) = days.Low >= 14 ? ("weeks", 7.0) : ("days", 1.0);
        return days.High - days.Low < 0.05 ? days.Low < 1 ? $"{One(days.Low * 24)} hours" : days.Low is > 0.95 and < 1.05 ? "1 day"
            : $"{One(days.Low / by)} {unit}" : $"{One(days.Low / by)} to {One(days.High / by)} {unit}";
    }

    private static string Told(Stock stock)
    {
        var done = stock.Parts.SelectMany(p => p.Lanes).Count(l => l.Done);
        var holds = stock.Parts.Select(p => p.Gate).OfType<StockPiece>().ToList();
        return $"The package as a length of hours: worked {Say.Hours(stock.WorkedMinutes)}, {ToDo(stock)}; {done} of {stock.Parts.Sum(p => p.Lanes.Count)} steps done"
            + (holds.Count > 0 ? $", {holds.Count(h => h.Done)} of {holds.Count} holds lifted"
                : string.Empty) + ". The list below says the same.";
    }

    private static string Piece(StockPiece l, double x, double y, double w, double h, string col)
    {
        string Rect(double width, string fill, string stroke, string more = "") =>
            $"<rect x=\"{N(x)}\" y=\"{N(y)}\" width=\"{N(width)}\" height=\"{N(h)}\" fill=\"{fill}\" stroke=\"{stroke}\" stroke-width=\"1.4\"{more}/>";
        return l.Done ? Rect(w, col, Black)
            : l.Hours is null ? Rect(w, Sheet, Black, " stroke-dasharray=\"3 3\"")
            : l.Now ? Rect(w, "url(#t-bench)", Black) + Rect(w * l.Share, col,
                "none") + $"<rect x=\"{N(x)}\" y=\"{N(y)}\" width=\"{N(w)}\" height=\"{N(h)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"3.4\"/>"
            : Rect(w, Sheet, Black);
    }

    // The name inside, else the number alone, else nothing: the list has it.
    private static string Label(StockPiece l, double x, double y, double w, double h)
    {
        var r = h < 30 ? Math.Min(9.5, h / 2) : 12;
        if (w < 22 || h < 14)
        {
            return string.Empty;
        }

        var words = Lettering.Width(l.Name, 15.5);
        var named = !l.Now && w > words + 44 && h >= 20;
        var cx = named ? x + 16 : l.Now ? x + (w * (1 + l.Share) / 2) : x + (w / 2);
        var cy = y + (h / 2);
        var dark = l.Done || l.Now;
        var disc = $"<circle cx=\"{N(cx)}\" cy=\"{N(cy)}\" r=\"{N(r)}\" fill=\"{(dark ? Black : Sheet)}\" stroke=\"{(l.Done ? Sheet : Black)}\" stroke-width=\"1.6\"/><text class=\"st\" x=\"{N(cx)}\" y=\"{N(cy + (r * 0.46))}\" text-anchor=\"middle\" font-size=\"{N(l.Number > 99 ? r * 0.95 : r * 1.25)}\" fill=\"{(dark ? "#F3E3BC" : Black)}\">{l.Number}</text>";
        return named ? disc + $"<text class=\"w6\" x=\"{N(cx + 17)}\" y=\"{N(cy + 5)}\" font-size=\"15.5\" fill=\"{(l.Done ? Sheet : Black)}\">{T(l.Name)}</text>" : disc;
    }

    // Two posts and two rails across the whole bar; lifted, the rails are gone.
    private static string Gate(double x, double y, double h, bool lifted, double width = 22, double up = 9)
    {
        string Post(double at) => $"<rect x=\"{N(at)}\" y=\"{N(y - up)}\" width=\"5\" height=\"{N(h + (2 * up))}\" fill=\"{Black}\"/>";
        return $"<rect x=\"{N(x)}\" y=\"{N(y)}\" width=\"{N(width)}\" height=\"{N(h)}\" fill=\"{Sheet}\"/>" + Post(x) + Post(x + width - 5)
            + (lifted ? string.Empty
                : $"<path d=\"M{N(x)} {N(y + (h * 0.32))}H{N(x + width)}M{N(x)} {N(y + (h * 0.68))}H{N(x + width)}\" stroke=\"{Black}\" stroke-width=\"3\"/>");
    }

    private static string Long(double x, double y, double h)
    {
        string S(double at) =>
            $"<path d=\"M{N(at)} {N(y - 4)}C{N(at + 6)} {N(y + (h * 0.3))} {N(at - 6)} {N(y + (h * 0.62))} {N(at)} {N(y + h + 4)}\" fill=\"none\" stroke=\"{Black}\" stroke-width=\"1.4\"/>";
        return S(x) + S(x + 4);
    }
}
