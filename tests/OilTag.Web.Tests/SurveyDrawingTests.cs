using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using System.Xml.Linq;
using Microsoft.AspNetCore.Html;
using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Web.Drawings;
using OilTag.Web.Reports;
using OilTag.Web.Shared;

namespace OilTag.Web.Tests;

/// <summary>Drawings of series, estimates and photos, and the pages of a report: well formed, finite, inside their frame, whatever they are given.</summary>
public sealed class SurveyDrawingTests
{
    private static readonly LocalDate Day = new(2026, 3, 1);

    private static string Html(IHtmlContent content)
    {
        using var writer = new StringWriter(CultureInfo.InvariantCulture);
        content.WriteTo(writer, HtmlEncoder.Default);
        return writer.ToString();
    }

    private static XElement Drawn(IHtmlContent content)
    {
        var text = Html(content);
        text.ShouldNotContain("NaN");
        text.ShouldNotContain("Infinity");
        text.ShouldNotContain("style=");
        return XElement.Parse(text.Replace("loading=\"lazy\">", "loading=\"lazy\"/>", StringComparison.Ordinal));
    }

    private static CheckPoint Point(string unit, string? nominal, string? low, string? high)
    {
        var problems = new List<Core.Problem>();
        return new CheckPoint { Title = "Output <b>", Limits = CheckRule.Read(problems, unit, nominal, low, high, null)! };
    }

    private static PointReading At(double? minutes, string text, Unit unit, int days = 0) => new() { On = Day.PlusDays(days), Minutes = minutes, Value = MeasureReader.Read(text, unit.Quantity, unit).Value! };

    [Theory]
    [InlineData("25", "23", "28.5")]
    [InlineData(null, "23", null)]
    [InlineData(null, null, "28.5")]
    [InlineData(null, null, null)]
    public void A_series_is_drawn_with_the_limits_that_it_has(string? nominal, string? low, string? high)
    {
        var svg = Drawn(SeriesDrawing.OverMinutes(Point("V", nominal, low, high), [At(0, "25.1", Unit.Volt), At(10, "22.8", Unit.Volt), At(50, "20.1", Unit.Volt)]));
        svg.Attribute("aria-label")!.Value.ShouldStartWith("Output <b>: 3 readings, 25.1\u00A0V first, 20.1\u00A0V last");
        svg.Descendants("text").Select(t => t.Value).Count(t => t.StartsWith("Not ", StringComparison.Ordinal)).ShouldBe((low is null ? 0 : 1) + (high is null ? 0 : 1));
        var points = svg.Descendants("polyline").Single().Attribute("points")!.Value.Split(' ').Select(p => p.Split(',').Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToArray()).ToList();
        points.ShouldAllBe(p => p[0] >= 0 && p[0] <= 760 && p[1] >= 0 && p[1] <= 250);
        points.Select(p => p[0]).ShouldBeInOrder();
    }

    [Fact]
    public void What_lies_outside_is_a_mark_of_its_own_and_not_a_colour_alone()
    {
        var svg = Html(SeriesDrawing.OverMinutes(Point("V", null, "23", null), [At(0, "25", Unit.Volt), At(5, "20", Unit.Volt)]));
        svg.ShouldContain("h12l-6 10z");
        svg.ShouldContain("width=\"8\" height=\"8\"");
        svg.ShouldContain("1 outside the limits");
    }

    [Theory]
    [InlineData("25", "25")]
    [InlineData("0", "0")]
    [InlineData("-5", "-5")]
    public void Readings_that_do_not_move_are_drawn_too(string one, string other) => Drawn(SeriesDrawing.OverMinutes(Point("V", null, null, null), [At(0, one, Unit.Volt), At(5, other, Unit.Volt)]));

    [Fact]
    public void Days_are_named_by_their_month()
    {
        var svg = Drawn(SeriesDrawing.OverDays(Point("mm", "101.6", "101.2", null), [At(null, "101.51", Unit.Millimetre), At(null, "101.4", Unit.Millimetre, 365)]));
        svg.Descendants("text").Select(t => t.Value).ShouldContain("Mar 2026");
        svg.Descendants("text").Select(t => t.Value).ShouldContain("Mar 2027");
    }

    [Fact]
    public void Estimates_share_one_scale_and_the_later_stands_below()
    {
        var svg = Drawn(EstimateDrawing.Draw([("Before <i>", new Spread(420, 640, 980)), ("Now", new Spread(1177, 1349, 1797))], "h"));
        var texts = svg.Descendants("text").ToList();
        texts.Select(t => t.Value).ShouldContain("640\u00A0h");
        double Y(string word) => double.Parse(texts.First(t => t.Value == word).Attribute("y")!.Value, CultureInfo.InvariantCulture);
        double X(string word) => double.Parse(texts.First(t => t.Value == word).Attribute("x")!.Value, CultureInfo.InvariantCulture);
        Y("Now").ShouldBeGreaterThan(Y("Before <i>"));
        X("1349\u00A0h").ShouldBeGreaterThan(X("640\u00A0h"));
        svg.Attribute("aria-label")!.Value.ShouldContain("Now: 1177\u00A0h to 1797\u00A0h, likely 1349\u00A0h");
    }

    [Fact]
    public void An_estimate_of_nothing_is_drawn() => Drawn(EstimateDrawing.Draw([("Now", new Spread(0, 0, 0))], "£")).Descendants("text").Select(t => t.Value).ShouldContain("£0");

    [Fact]
    public void Marks_lie_over_the_picture_and_their_words_are_no_markup()
    {
        var photo = new Photo { ContentType = "image/jpeg", Width = 800, Height = 600, Marks = [new(PhotoMarkKind.Arrow, 10, 10, 200, 100), new(PhotoMarkKind.Circle, 300, 300, 100, 200), new(PhotoMarkKind.Words, 790, 0, 0, 0, "<script>")] };
        var shell = Drawn(PhotoDrawing.Draw(photo, "A \"plate\"", small: true));
        shell.Element("img")!.Attribute("alt")!.Value.ShouldBe("A \"plate\". Marked: an arrow, a circle, <script>");
        var over = shell.Element("svg")!;
        over.Attribute("viewBox")!.Value.ShouldBe("0 0 800 600");
        over.Elements("path").Count().ShouldBe(4);
        var words = over.Element("text")!;
        words.Value.ShouldBe("<script>");
        double.Parse(words.Attribute("x")!.Value, CultureInfo.InvariantCulture).ShouldBeLessThan(790);
        double.Parse(words.Attribute("y")!.Value, CultureInfo.InvariantCulture).ShouldBeGreaterThan(0);
    }

    [Fact]
    public void A_photo_without_marks_is_a_plain_picture()
    {
        var photo = new Photo { ContentType = "image/png", Width = 80, Height = 60 };
        Drawn(PhotoDrawing.Draw(photo, "Plate", small: false)).Name.LocalName.ShouldBe("img");
    }

    [Fact]
    public void A_marked_photo_as_a_file_holds_the_untouched_picture()
    {
        byte[] picture = [1, 2, 3, 4];
        var file = XElement.Parse(PhotoDrawing.File(new Photo { ContentType = "image/jpeg", Width = 80, Height = 60, Caption = "Rim & bolt", Marks = [new(PhotoMarkKind.Arrow, 1, 1, 50, 50)] }, picture));
        XNamespace svg = "http://www.w3.org/2000/svg";
        file.Element(svg + "title")!.Value.ShouldBe("Rim & bolt");
        Convert.FromBase64String(file.Element(svg + "image")!.Attribute("href")!.Value.Split(',')[1]).ShouldBe(picture);
    }

    [Theory]
    [InlineData("12-3, Hinge pin, 2", 3)]
    [InlineData("12-3;Hinge pin;2", 3)]
    [InlineData("12-3\tHinge pin\t2", 3)]
    [InlineData("12-3,\"Pin, long\",2", 3)]
    [InlineData("", 0)]
    public void Pasted_lines_are_read_as_a_file_would_be(string text, int cells)
    {
        var lines = CsvTable.Typed(text);
        (lines.Count == 0 ? 0 : lines[0].Length).ShouldBe(cells);
    }

    [Fact]
    public void A_quoted_cell_keeps_its_comma() => CsvTable.Typed("12-3,\"Pin, long\",2")[0][1].ShouldBe("Pin, long");

    [Fact]
    public void A_report_runs_over_as_many_pages_as_it_needs_and_numbers_them()
    {
        using var pages = new ReportPages("Title", "Foot");
        pages.Heading("Heading with ⅛ and ▼", 26);
        pages.Text(string.Join(' ', Enumerable.Repeat("words", 2000)));
        pages.Table(["A", "B"], [1, 3], Enumerable.Range(0, 200).Select(i => (IReadOnlyList<string>)[i.ToString(CultureInfo.InvariantCulture), new string('x', 300)]));
        var pdf = pages.Done();
        using var read = PdfSharp.Pdf.IO.PdfReader.Open(new MemoryStream(pdf), PdfSharp.Pdf.IO.PdfDocumentOpenMode.Import);
        read.PageCount.ShouldBeInRange(12, 60);
        read.Info.Title.ShouldBe("Title");
    }

    [Fact]
    public void A_row_that_is_longer_than_a_page_does_not_run_for_ever()
    {
        using var pages = new ReportPages("Title", "Foot");
        pages.Table(["A"], [1], [[string.Join(' ', Enumerable.Repeat("words", 4000))], ["after"]]);
        Encoding.ASCII.GetString(pages.Done(), 0, 5).ShouldBe("%PDF-");
    }

    [Fact]
    public void A_picture_with_marks_is_printed()
    {
        using var pages = new ReportPages("Title", "Foot");
        var drawn = 0;
        for (var i = 0; i < 6; i++)
        {
            pages.Picture(Pictures.Jpeg(800, 600), "Rim", (_, scale) =>
            {
                scale.ShouldBeInRange(0.1, 1);
                drawn++;
            }, 800);
        }

        drawn.ShouldBe(6);
        pages.Done().Length.ShouldBeGreaterThan(5000);
    }
}
