using PdfSharp.Drawing;
using PdfSharp.Pdf;

namespace OilTag.Web.Reports;

/// <summary>Writes text, tables and pictures down A4 pages, one under the other. Black on white, 10 mm margins.</summary>
public sealed class ReportPages : IDisposable
{
    private const double Margin = 42;
    private const double Foot = 46;

    private readonly PdfDocument document = new();
    private readonly string foot;
    private XGraphics? graphics;
    private double y;

    /// <param name="title">Title of the document.</param>
    /// <param name="foot">What stands at the foot of every page.</param>
    public ReportPages(string title, string foot)
    {
        ReportFonts.Ready();
        document.Info.Title = title;
        document.Info.Creator = "Oil Tag";
        this.foot = foot;
        NewPage();
    }

    private static double Width => XUnit.FromMillimeter(210).Point - (2 * Margin);

    private static double Bottom => XUnit.FromMillimeter(297).Point - Foot;

    private XGraphics Graphics => graphics!;

    public void NewPage()
    {
        graphics?.Dispose();
        var page = document.AddPage();
        page.Size = PdfSharp.PageSize.A4;
        graphics = XGraphics.FromPdfPage(page);
        y = Margin;
    }

    public void Heading(string text, double size)
    {
        Need(size * 3);
        y += size * 0.3;
        Graphics.DrawString(ReportFonts.Printable(text), Font(size, heading: true), XBrushes.Black, Margin, y + size);
        y += size * 1.25;
        Graphics.DrawLine(new XPen(XColors.Black, 0.8), Margin, y, Margin + Width, y);
        y += 6;
    }

    public void Text(string text, bool bold = false, double size = 10.5)
    {
        var font = Font(size, bold: bold);
        foreach (var line in Lines(ReportFonts.Printable(text), font, Width))
        {
            Need(size * 1.35);
            Graphics.DrawString(line, font, XBrushes.Black, Margin, y + size);
            y += size * 1.35;
        }

        y += 3;
    }

    /// <summary>A table; its head stands again on every page that it runs over.</summary>
    /// <param name="head">Words over the columns.</param>
    /// <param name="shares">Share of the width of each column.</param>
    /// <param name="rows">Rows of cells.</param>
    /// <param name="size">Size of the letters in points.</param>
    public void Table(IReadOnlyList<string> head, IReadOnlyList<double> shares, IEnumerable<IReadOnlyList<string>> rows, double size = 9.5)
    {
        ArgumentNullException.ThrowIfNull(head);
        ArgumentNullException.ThrowIfNull(shares);
        ArgumentNullException.ThrowIfNull(rows);
        var widths = shares.Select(s => s / shares.Sum() * Width).ToArray();
        Row(head, widths, Font(size, bold: true), size, 0.9);
        foreach (var row in rows)
        {
            if (Row(row, widths, Font(size), size, 0.35))
            {
                NewPage();
                Row(head, widths, Font(size, bold: true), size, 0.9);
                Row(row, widths, Font(size), size, 0.35);
            }
        }

        y += 8;
    }

    /// <summary>A picture with what is drawn over it.</summary>
    /// <param name="picture">JPEG or PNG.</param>
    /// <param name="caption">Words under it.</param>
    /// <param name="over">Draws over it; the scale is points for one pixel of the full picture.</param>
    /// <param name="pixels">Width of the full picture in pixels.</param>
    public void Picture(byte[] picture, string caption, Action<XGraphics, double>? over, double pixels)
    {
        using var stream = new MemoryStream(picture);
        using var image = XImage.FromStream(stream);
        var width = Math.Min(Width * 0.55, image.PixelWidth * 0.6);
        var height = width * image.PixelHeight / image.PixelWidth;
        if (height > 220)
        {
            (width, height) = (width * 220 / height, 220);
        }

        Need(height + 24);
        Graphics.DrawImage(image, Margin, y, width, height);
        Graphics.DrawRectangle(new XPen(XColors.Black, 0.8), Margin, y, width, height);
        if (over is not null)
        {
            var state = Graphics.Save();
            Graphics.TranslateTransform(Margin, y);
            over(Graphics, width / pixels);
            Graphics.Restore(state);
        }

        y += height + 3;
        Text(caption, size: 9);
    }

    public byte[] Done()
    {
        graphics?.Dispose();
        graphics = null;
        var font = Font(8.5);
        for (var i = 0; i < document.PageCount; i++)
        {
            using var g = XGraphics.FromPdfPage(document.Pages[i]);
            g.DrawString(ReportFonts.Printable(foot), font, XBrushes.Black, Margin, Bottom + 26);
            var number = $"{i + 1} of {document.PageCount}";
            g.DrawString(number, font, XBrushes.Black, Margin + Width - g.MeasureString(number, font).Width, Bottom + 26);
        }

        using var buffer = new MemoryStream();
        document.Save(buffer);
        return buffer.ToArray();
    }

    public void Dispose()
    {
        graphics?.Dispose();
        document.Dispose();
    }

    private static XFont Font(double size, bool bold = false, bool heading = false) => new(heading ? ReportFonts.Heading : ReportFonts.Text, size, bold ? XFontStyleEx.Bold : XFontStyleEx.Regular);

    // True when the row does not fit on this page and the page is not empty.
    private bool Row(IReadOnlyList<string> cells, double[] widths, XFont font, double size, double line)
    {
        var lines = cells.Select((c, i) => Lines(ReportFonts.Printable(c), font, widths[i] - 6)).ToList();
        var height = (lines.Max(l => l.Count) * size * 1.25) + 5;
        if (y + height > Bottom && y > Margin + 40)
        {
            return true;
        }

        var x = Margin;
        for (var i = 0; i < lines.Count; i++)
        {
            for (var j = 0; j < lines[i].Count; j++)
            {
                Graphics.DrawString(lines[i][j], font, XBrushes.Black, x, y + 2 + (size * (1 + (1.25 * j))));
            }

            x += widths[i];
        }

        y += height;
        Graphics.DrawLine(new XPen(XColors.Black, line), Margin, y, Margin + Width, y);
        return false;
    }

    private List<string> Lines(string text, XFont font, double width)
    {
        var lines = new List<string>();
        var line = string.Empty;
        foreach (var word in text.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var rest = word;

            // A word that is wider than the column is cut.
            while (Graphics.MeasureString(rest, font).Width > width && rest.Length > 1)
            {
                var n = rest.Length - 1;
                while (n > 1 && Graphics.MeasureString(rest[..n], font).Width > width)
                {
                    n--;
                }

                if (line.Length > 0)
                {
                    lines.Add(line);
                    line = string.Empty;
                }

                lines.Add(rest[..n]);
                rest = rest[n..];
            }

            var longer = line.Length == 0 ? rest : line + " " + rest;
            if (Graphics.MeasureString(longer, font).Width > width)
            {
                lines.Add(line);
                longer = rest;
            }

            line = longer;
        }

        lines.Add(line);
        return lines;
    }

    private void Need(double height)
    {
        if (y + height > Bottom)
        {
            NewPage();
        }
    }
}
