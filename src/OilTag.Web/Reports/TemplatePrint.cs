using System.Globalization;
using System.Text;
using OilTag.Core.Bench.Sketches;
using OilTag.Web.Drawings;
using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace OilTag.Web.Reports;

/// <summary>
/// Prints a template in full size, with two lines to check the printer by: 100 mm and 4 in. What is larger than a sheet goes over several that are laid edge to
/// edge by their crosses.
/// </summary>
public static class TemplatePrint
{
    /// <summary>Most sheets of a print; a larger template is for a plotter or a screen.</summary>
    public const int MostSheets = 40;

    // Millimetres.
    private const double Margin = 12;
    private const double Ruler = 24;
    private const double Letters = 3.4;

    /// <summary>Sheets, in millimetres, the smallest first.</summary>
    private static readonly (double Width, double Height)[] Sizes = [(210, 297), (297, 210), (297, 420), (420, 297)];

    /// <summary>The template as a drawing of so many millimetres, one unit each.</summary>
    public static string Svg(string title, string typed, Sketch template)
    {
        ArgumentNullException.ThrowIfNull(template);
        var laid = LaidSketch.Of(template, 1000, Letters);
        var width = Math.Max(laid.Box.Right - laid.Box.Left, 130) + (2 * Margin);
        var height = laid.Box.Bottom - laid.Box.Top + (2 * Margin) + Ruler + 12;
        string N(double n) => n.ToString("0.###", CultureInfo.InvariantCulture);
        var b = new StringBuilder($"<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{N(width)}mm\" height=\"{N(height)}mm\" viewBox=\"0 0 {N(width)} {N(height)}\"><title>{Ink.T(title)}</title>");
        b.Append("<style>path,circle{fill:none;stroke:#000;stroke-width:.25}.sk-thin,.sk-centre,.sk-hidden{stroke-width:.15}.sk-centre{stroke-dasharray:6 1 1 1}.sk-hidden{stroke-dasharray:2 1}.sk-head{fill:#000;stroke:none}text{font-family:sans-serif;fill:#000}</style>");
        b.Append($"<text x=\"{N(Margin)}\" y=\"{N(Margin + 2)}\" font-size=\"5\">{Ink.T(title)}</text><text x=\"{N(Margin)}\" y=\"{N(Margin + 8)}\" font-size=\"{N(Letters)}\">{Ink.T(typed)}</text>");
        b.Append($"<g transform=\"translate({N(Margin - laid.Box.Left)} {N(Margin + 12 - laid.Box.Top)})\">");
        SketchDrawing.Body(b, laid, Letters);
        b.Append("</g>");
        var y = height - Margin - 8;
        b.Append($"<path id=\"ruler\" d=\"M{N(Margin)} {N(y)}H{N(Margin + 100)}\"/>");
        for (var i = 0; i <= 10; i++)
        {
            b.Append($"<path d=\"M{N(Margin + (10 * i))} {N(y)}v-{(i % 5 == 0 ? 4 : 2)}\"/>");
        }

        b.Append($"<text x=\"{N(Margin)}\" y=\"{N(y + 5)}\" font-size=\"{N(Letters)}\">100 mm. Measure this line before you use the template.</text>");
        return b.Append("</svg>").ToString();
    }

    /// <summary>How many sheets it takes, and how large they are in millimetres.</summary>
    public static (double Width, double Height, int Across, int Down) Sheets(LaidSketch laid)
    {
        ArgumentNullException.ThrowIfNull(laid);
        var (w, h) = (laid.Box.Right - laid.Box.Left, laid.Box.Bottom - laid.Box.Top);
        foreach (var (width, height) in Sizes)
        {
            if (w <= width - (2 * Margin) && h <= height - (2 * Margin) - Ruler)
            {
                return (width, height, 1, 1);
            }
        }

        // Over several A4 sheets, the way that takes fewer.
        return Sizes.Take(2).Select(s => (s.Width, s.Height, Across: (int)Math.Ceiling(w / (s.Width - (2 * Margin))), Down: (int)Math.Ceiling(h / (s.Height - (2 * Margin) - Ruler)))).MinBy(s => s.Across * s.Down);
    }

    /// <summary>The template as a PDF; null when it takes more than <see cref="MostSheets"/> sheets.</summary>
    /// <param name="title">What it is.</param>
    /// <param name="typed">What was typed.</param>
    /// <param name="template">The template.</param>
    public static byte[]? Pdf(string title, string typed, Sketch template)
    {
        ReportFonts.Ready();
        var laid = LaidSketch.Of(template, 1000, Letters);
        var (width, height, across, down) = Sheets(laid);
        if (across * down > MostSheets)
        {
            return null;
        }

        using var document = new PdfDocument();
        document.Info.Title = title;
        document.Info.Creator = "Oil Tag";
        var (tileWidth, tileHeight) = (width - (2 * Margin), height - (2 * Margin) - Ruler);
        for (var row = 0; row < down; row++)
        {
            for (var column = 0; column < across; column++)
            {
                var page = document.AddPage();
                page.Width = XUnit.FromMillimeter(width);
                page.Height = XUnit.FromMillimeter(height);
                using var g = XGraphics.FromPdfPage(page);
                var state = g.Save();
                g.IntersectClip(new XRect(P(Margin), P(Margin), P(tileWidth), P(tileHeight)));
                Body(g, laid, Margin - laid.Box.Left - (column * tileWidth), Margin - laid.Box.Top - (row * tileHeight));
                g.Restore(state);
                var pages = across * down == 1 ? string.Empty : $" Sheet {(row * across) + column + 1} of {across * down}: row {row + 1}, column {column + 1}. Cut at the crosses and lay edge to edge.";
                Foot(g, title, typed + pages, width, height);
                if (across * down > 1)
                {
                    foreach (var (x, y) in new[] { (Margin, Margin), (Margin + tileWidth, Margin), (Margin, Margin + tileHeight), (Margin + tileWidth, Margin + tileHeight) })
                    {
                        g.DrawLine(Pen(0.2), P(x - 4), P(y), P(x + 4), P(y));
                        g.DrawLine(Pen(0.2), P(x), P(y - 4), P(x), P(y + 4));
                    }
                }
            }
        }

        using var buffer = new MemoryStream();
        document.Save(buffer);
        return buffer.ToArray();
    }

    private static double P(double millimetres) => XUnit.FromMillimeter(millimetres).Point;

    private static XPen Pen(double millimetres, XDashStyle dash = XDashStyle.Solid) => new(XColors.Black, P(millimetres)) { DashStyle = dash };

    private static XPen PenOf(SketchStroke? stroke) => stroke switch
    {
        SketchStroke.Thin => Pen(0.15),
        SketchStroke.Centre => Pen(0.15, XDashStyle.DashDot),
        SketchStroke.Hidden => Pen(0.15, XDashStyle.Dash),
        _ => Pen(0.25),
    };

    private static void Body(XGraphics g, LaidSketch laid, double dx, double dy)
    {
        foreach (var mark in laid.Marks)
        {
            if (mark is LaidCircle c)
            {
                g.DrawEllipse(PenOf(c.Stroke), P(c.X - c.Radius + dx), P(c.Y - c.Radius + dy), P(2 * c.Radius), P(2 * c.Radius));
                continue;
            }

            var p = (LaidPath)mark;
            var points = p.Points.Select(q => new XPoint(P(q.X + dx), P(q.Y + dy))).ToArray();
            if (p.Stroke is null)
            {
                g.DrawPolygon(XBrushes.Black, points, XFillMode.Winding);
            }
            else if (p.Closed)
            {
                g.DrawPolygon(PenOf(p.Stroke), points);
            }
            else
            {
                g.DrawLines(PenOf(p.Stroke), points);
            }
        }

        var font = new XFont(ReportFonts.Text, P(Letters * 0.85));
        foreach (var t in laid.Texts)
        {
            var text = ReportFonts.Printable(t.Text);
            var (x, y) = (P(t.X + dx), P(t.Y + dy));
            var state = g.Save();
            if (t.Upright)
            {
                g.RotateAtTransform(-90, new XPoint(x, y));
            }

            g.DrawString(text, font, XBrushes.Black, x, y, t.Anchor < 0 ? XStringFormats.CenterLeft : t.Anchor > 0 ? XStringFormats.CenterRight : XStringFormats.Center);
            g.Restore(state);
        }
    }

    private static void Foot(XGraphics g, string title, string typed, double width, double height)
    {
        var y = height - Margin - 10;
        g.DrawLine(Pen(0.25), P(Margin), P(y), P(Margin + 100), P(y));
        for (var i = 0; i <= 10; i++)
        {
            g.DrawLine(Pen(0.2), P(Margin + (10 * i)), P(y), P(Margin + (10 * i)), P(y - (i % 5 == 0 ? 4 : 2)));
        }

        const double inch = 25.4;
        var from = Margin + 100 - (4 * inch);
        g.DrawLine(Pen(0.25), P(from), P(y + 4), P(from + (4 * inch)), P(y + 4));
        for (var i = 0; i <= 4; i++)
        {
            g.DrawLine(Pen(0.2), P(from + (i * inch)), P(y + 4), P(from + (i * inch)), P(y + 6));
        }

        var (small, large) = (new XFont(ReportFonts.Text, 7.5), new XFont(ReportFonts.Heading, 15));
        g.DrawString("100 mm above, 4 in below. Measure them before you use the template.", small, XBrushes.Black, P(Margin), P(y + 9.5));
        g.DrawString(ReportFonts.Printable(title), large, XBrushes.Black, P(Margin), P(y - 7));
        g.DrawString(ReportFonts.Printable(typed.Length > 150 ? typed[..150] + "…" : typed), small, XBrushes.Black, new XRect(P(Margin + 60), P(y - 11), P(width - (2 * Margin) - 60), P(5)), XStringFormats.CenterRight);
    }
}
