using System.Globalization;
using System.Net;
using System.Text.Json;
using System.Xml.Linq;
using OilTag.Core.Bench;
using PdfSharp.Pdf;
using PdfSharp.Pdf.Content;
using PdfSharp.Pdf.Content.Objects;
using PdfSharp.Pdf.IO;

namespace OilTag.Web.Tests;

/// <summary>The bench: pages, their JSON twins, and the description of these.</summary>
public sealed class BenchTests(Shed shed) : IClassFixture<Shed>
{
    [Fact]
    public async Task A_calculator_shows_its_figures_and_working_and_keeps_what_was_typed_in_its_address()
    {
        using var una = await shed.AsAsync("una");
        await una.GetAsync("/bench/torque");
        una.Page.QuerySelector("#answer .empty").ShouldNotBeNull();
        await una.GetAsync("/bench/torque?thread=1%2F2-13&grade=5");
        una.Page.QuerySelector(".bench-figures .first dd")!.TextContent.ShouldBe("75.38\u00A0lb ft, 102.2\u00A0N m");
        una.Page.QuerySelector("#answer .working")!.TextContent.ShouldContain("T = K · D · F");
        una.Page.QuerySelector("input[name=thread]")!.GetAttribute("value").ShouldBe("1/2-13");
        una.Page.QuerySelector("input[name=k]")!.GetAttribute("value").ShouldBe("0.20");
    }

    [Fact]
    public async Task What_is_refused_stands_beside_its_field_with_what_was_typed()
    {
        using var una = await shed.AsAsync("una");
        await una.GetAsync("/bench/jack?load=9+tonne&rated=8+tonne");
        una.Page.QuerySelector(".bench-figures").ShouldBeNull();
        una.Page.QuerySelector("#f-rated")!.GetAttribute("aria-invalid").ShouldBe("true");
        una.Page.QuerySelector("#f-rated")!.GetAttribute("value").ShouldBe("8 tonne");
        una.Page.QuerySelector("#answer")!.TextContent.ShouldContain("This is not a plan");

        // What is hostile comes back as text.
        await una.GetAsync("/bench/torque?grade=5&thread=" + Uri.EscapeDataString("\"><script>1</script>" + new string('x', 5000)));
        una.Page.QuerySelectorAll("script:not([src])").ShouldBeEmpty();
        (await una.GetAsync("/bench/torques")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_twin_answers_in_si_and_refuses_by_field()
    {
        using var una = await shed.AsAsync("una");
        var good = await una.GetAsync("/bench/torque.json?thread=1%2F2-13&grade=5");
        using (var answer = JsonDocument.Parse(await good.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)))
        {
            var torque = answer.RootElement.GetProperty("figures").EnumerateArray().First(f => f.GetProperty("name").GetString() == "torque");
            torque.GetProperty("si").GetDouble().ShouldBe(102.2, 0.05);
            torque.GetProperty("unit").GetString().ShouldBe("N m");
            answer.RootElement.GetProperty("working").GetProperty("source").GetString()!.ShouldContain("SAE J429");
        }

        var bad = await una.GetAsync("/bench/torque.json?thread=soup&grade=5");
        bad.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        bad.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        using (var refusal = JsonDocument.Parse(await bad.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)))
        {
            refusal.RootElement.GetProperty("errors").GetProperty("thread")[0].GetString()!.ShouldContain("not in the table");
        }

        (await una.GetAsync("/bench/soup.json")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Every_calculator_is_described_with_its_fields()
    {
        using var una = await shed.AsAsync("una");
        using var described = JsonDocument.Parse(await (await una.GetAsync("/openapi.json")).Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
        described.RootElement.GetProperty("openapi").GetString().ShouldBe("3.0.3");
        var paths = described.RootElement.GetProperty("paths");
        paths.EnumerateObject().Count().ShouldBe(Calculator.All.Count);
        foreach (var c in Calculator.All)
        {
            var parameters = paths.GetProperty($"/bench/{c.Key}.json").GetProperty("get").GetProperty("parameters").EnumerateArray().ToList();
            parameters.Select(p => p.GetProperty("name").GetString()).ShouldBe(c.Fields.Select(f => f.Name));
        }
    }

    [Fact]
    public async Task The_list_is_searched()
    {
        using var una = await shed.AsAsync("una");
        await una.GetAsync("/bench?q=rivet+seam");
        una.Page.QuerySelectorAll(".bench-topics a").Select(a => a.GetAttribute("href")).ShouldBe(["/bench/rivet-seam"]);
        await una.GetAsync("/bench");
        una.Page.QuerySelectorAll(".bench-topics a").Length.ShouldBe(Calculator.All.Count);
    }

    /// <summary>The template’s own geometry, read back from the file: what is 100 mm on paper is 100 mm in it, and so is all else.</summary>
    [Fact]
    public async Task A_template_is_printed_in_full_size()
    {
        using var una = await shed.AsAsync("una");
        var answer = await una.GetAsync("/bench/bend/template.pdf?thickness=1+mm&radius=3+mm&legs=25+%2B+40+mm&k=0.45");
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        using var pdf = PdfReader.Open(new MemoryStream(await answer.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)), PdfDocumentOpenMode.Import);
        pdf.PageCount.ShouldBe(1);
        pdf.Pages[0].Width.Millimeter.ShouldBe(210, 0.01);
        pdf.Pages[0].Height.Millimeter.ShouldBe(297, 0.01);
        var lines = Lines(pdf.Pages[0]);

        // The ruler, and four inches.
        lines.ShouldContain(l => Math.Abs(l - 100) < 0.005);
        lines.ShouldContain(l => Math.Abs(l - 101.6) < 0.005);

        // The blank: reference values, section 6: legs of 25 + 40 mm, flat 62.42 mm.
        lines.ShouldContain(l => Math.Abs(l - 62.42) < 0.01);
    }

    [Fact]
    public async Task A_large_template_goes_over_sheets_that_are_laid_edge_to_edge()
    {
        using var una = await shed.AsAsync("una");
        var answer = await una.GetAsync("/bench/bolt-circle/template.pdf?diameter=600+mm&holes=12&hole=22+mm");
        using var pdf = PdfReader.Open(new MemoryStream(await answer.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)), PdfDocumentOpenMode.Import);
        pdf.PageCount.ShouldBe(12);
        foreach (var page in pdf.Pages)
        {
            Lines(page).ShouldContain(l => Math.Abs(l - 100) < 0.005);
        }

        // What no printer takes is refused with the way out.
        var large = await una.GetAsync("/bench/bolt-circle/template.pdf?diameter=9+m&holes=12");
        large.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await large.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("plotter");
        (await una.GetAsync("/bench/torque/template.pdf?thread=1%2F2-13&grade=5")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await una.GetAsync("/bench/bend/template.pdf?thickness=soup")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_template_is_drawn_in_millimetres_for_programs()
    {
        using var una = await shed.AsAsync("una");
        var answer = await una.GetAsync("/bench/gasket/template.svg?outside=180+mm&bore=110+mm&circle=150+mm&holes=6&hole=11+mm");
        var svg = XDocument.Parse(await answer.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).Root!;
        var box = svg.Attribute("viewBox")!.Value.Split(' ').Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToArray();
        svg.Attribute("width")!.Value.ShouldBe(box[2].ToString(CultureInfo.InvariantCulture) + "mm");
        svg.Attribute("height")!.Value.ShouldBe(box[3].ToString(CultureInfo.InvariantCulture) + "mm");
        var ruler = svg.Descendants().First(e => e.Attribute("id")?.Value == "ruler").Attribute("d")!.Value.TrimStart('M').Split(' ', 'H');
        (double.Parse(ruler[2], CultureInfo.InvariantCulture) - double.Parse(ruler[0], CultureInfo.InvariantCulture)).ShouldBe(100, 1e-9);
        var radii = svg.Descendants().Where(e => e.Name.LocalName == "circle").Select(e => double.Parse(e.Attribute("r")!.Value, CultureInfo.InvariantCulture)).ToList();
        radii.Count(r => r == 5.5).ShouldBe(6);
        radii.ShouldContain(90);
        radii.ShouldContain(55);
    }

    [Fact]
    public async Task An_answer_is_drawn_with_its_sizes_and_says_where_it_is_not_to_scale()
    {
        using var una = await shed.AsAsync("una");
        await una.GetAsync("/bench/bend?thickness=1+mm&radius=3+mm&legs=25+%2B+40+mm");
        una.Page.QuerySelector("svg.sketch")!.GetAttribute("aria-label")!.ShouldContain("mould lines");
        una.Page.QuerySelectorAll("svg.sketch text").Select(t => t.TextContent).ShouldContain("25\u00A0mm");
        una.Page.QuerySelector(".bench-sketch figcaption")!.TextContent.ShouldBe("Drawn to scale.");
        una.Page.QuerySelector("a[href^='/bench/bend/template.pdf?']").ShouldNotBeNull();
        await una.GetAsync("/bench/run-out?tir=0.018+in");
        una.Page.QuerySelector(".bench-sketch figcaption")!.TextContent.ShouldContain("A circle of any size");
    }

    [Fact]
    public async Task Tables_are_looked_through_and_taken_along()
    {
        using var una = await shed.AsAsync("una");
        await una.GetAsync("/bench/tables?q=gunmetal");
        una.Page.QuerySelectorAll(".areas a").Select(a => a.GetAttribute("href")).ShouldBe(["/bench/tables/metals?q=gunmetal", "/bench/tables/pours?q=gunmetal", "/bench/tables/stock?q=gunmetal"]);
        await una.GetAsync("/bench/tables/keys?q=DIN+45");
        una.Page.QuerySelector("#rows")!.TextContent.ShouldContain("No row");
        await una.GetAsync("/bench/tables/keys?q=DIN+44");
        una.Page.QuerySelectorAll("#rows tbody tr").Length.ShouldBe(2);
        una.Page.QuerySelector(".headline")!.TextContent.ShouldContain("DIN 6885-1");
        (await una.GetAsync("/bench/tables/soup")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var csv = await (await una.GetAsync("/bench/tables/drills.csv")).Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        csv.ShouldStartWith("Drill,Inches,Millimetres");
        csv.ShouldContain("F,0.257,6.5278");
    }

    // Lengths in millimetres of all straight lines of a page. Whatever turns or mirrors the page keeps its lengths, or the test fails.
    private static List<double> Lines(PdfPage page)
    {
        List<double> lengths = [];
        var (x, y) = (0.0, 0.0);
        Walk(ContentReader.ReadContent(page));
        return lengths;

        void Walk(CSequence all)
        {
            foreach (var item in all)
            {
                if (item is CSequence inner)
                {
                    Walk(inner);
                }
                else if (item is COperator { OpCode.OpCodeName: var name } op)
                {
                    double Of(int i) => op.Operands[i] switch { CReal r => r.Value, CInteger n => n.Value, _ => double.NaN };
                    switch (name)
                    {
                        case OpCodeName.cm:
                            Math.Abs((Of(0) * Of(3)) - (Of(1) * Of(2))).ShouldBe(1, 1e-3);
                            break;
                        case OpCodeName.m:
                            (x, y) = (Of(0), Of(1));
                            break;
                        case OpCodeName.l:
                            lengths.Add(Math.Sqrt(Math.Pow(Of(0) - x, 2) + Math.Pow(Of(1) - y, 2)) * 25.4 / 72);
                            (x, y) = (Of(0), Of(1));
                            break;
                    }
                }
            }
        }
    }
}
