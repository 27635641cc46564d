using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Html;
using OilTag.Core.Survey;
using static OilTag.Web.Drawings.Ink;

namespace OilTag.Web.Drawings;

/// <summary>A photo with what is drawn over it. The marks are a drawing of their own: the picture below is untouched.</summary>
public static class PhotoDrawing
{
    /// <param name="photo">The photo.</param>
    /// <param name="told">What it shows, in words.</param>
    /// <param name="small">The small picture, for lists.</param>
    public static IHtmlContent Draw(Photo photo, string told, bool small)
    {
        ArgumentNullException.ThrowIfNull(photo);
        var source = $"/photos/{photo.Id}{(small ? "?small=true" : string.Empty)}";
        var alt = T(photo.Marks.Count == 0 ? told : $"{told}. Marked: {Told(photo.Marks)}");
        return new HtmlString(photo.Marks.Count == 0
            ? $"<img src=\"{source}\" alt=\"{alt}\" width=\"{photo.Width}\" height=\"{photo.Height}\" loading=\"lazy\">"
            : $"<span class=\"marked\"><img src=\"{source}\" alt=\"{alt}\" width=\"{photo.Width}\" height=\"{photo.Height}\" loading=\"lazy\">{Over(photo.Marks, photo.Width, photo.Height)}</span>");
    }

    /// <summary>The marks as a drawing that lies over the picture.</summary>
    public static string Over(IReadOnlyList<PhotoMark> marks, int width, int height) =>
        $"<svg class=\"over\" viewBox=\"0 0 {width} {height}\" preserveAspectRatio=\"none\" aria-hidden=\"true\">{Body(marks, width, height)}</svg>";

    /// <summary>A file of its own: the picture and the marks over it.</summary>
    public static string File(Photo photo, byte[] picture)
    {
        ArgumentNullException.ThrowIfNull(photo);
        return $"<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{photo.Width}\" height=\"{photo.Height}\" viewBox=\"0 0 {photo.Width} {photo.Height}\"><title>{T(photo.Caption)}</title><image width=\"{photo.Width}\" height=\"{photo.Height}\" href=\"data:{photo.ContentType};base64,{Convert.ToBase64String(picture)}\"/>{Body(photo.Marks, photo.Width, photo.Height)}</svg>";
    }

    private static string Told(IReadOnlyList<PhotoMark> marks) => string.Join(", ", marks.Select(m => m.Kind == PhotoMarkKind.Words ? m.Text : m.Kind == PhotoMarkKind.Arrow ? "an arrow" : "a circle"));

    // Ink with a light edge, so that a mark shows on dark and on light metal.
    private static string Body(IReadOnlyList<PhotoMark> marks, int width, int height)
    {
        var line = Math.Max(2.0, Math.Max(width, height) / 220.0);
        var b = new StringBuilder();
        foreach (var m in marks)
        {
            if (m.Kind == PhotoMarkKind.Words)
            {
                var size = line * 8;
                var x = Math.Min(m.X1, Math.Max(0, width - (size * 0.52 * m.Text.Length)));
                b.Append($"<text x=\"{N(x)}\" y=\"{N(Math.Max(size, m.Y1))}\" font-size=\"{N(size)}\" font-family=\"Barlow Condensed, sans-serif\" font-weight=\"600\" fill=\"{Black}\" stroke=\"{Sheet}\" stroke-width=\"{N(line * 1.6)}\" paint-order=\"stroke\">{T(m.Text)}</text>");
                continue;
            }

            var d = m.Kind == PhotoMarkKind.Arrow ? Arrow(m, line) : Ellipse(m);
            b.Append($"<path d=\"{d}\" fill=\"none\" stroke=\"{Sheet}\" stroke-width=\"{N(line * 2.4)}\" stroke-linecap=\"round\"/><path d=\"{d}\" fill=\"none\" stroke=\"{Oxide}\" stroke-width=\"{N(line)}\" stroke-linecap=\"round\"/>");
        }

        return b.ToString();
    }

    private static string Ellipse(PhotoMark m)
    {
        var (rx, ry) = (Math.Abs(m.X2 - m.X1) / 2.0, Math.Abs(m.Y2 - m.Y1) / 2.0);
        return string.Create(CultureInfo.InvariantCulture, $"M{Math.Min(m.X1, m.X2)} {N((m.Y1 + m.Y2) / 2.0)}a{N(rx)} {N(ry)} 0 1 0 {N(2 * rx)} 0a{N(rx)} {N(ry)} 0 1 0 {N(-2 * rx)} 0");
    }

    private static string Arrow(PhotoMark m, double line)
    {
        var angle = Math.Atan2(m.Y2 - m.Y1, m.X2 - m.X1);
        string Barb(double turn) => $"M{m.X2} {m.Y2}L{N(m.X2 - (line * 7 * Math.Cos(angle + turn)))} {N(m.Y2 - (line * 7 * Math.Sin(angle + turn)))}";
        return $"M{m.X1} {m.Y1}L{m.X2} {m.Y2}{Barb(0.45)}{Barb(-0.45)}";
    }
}
