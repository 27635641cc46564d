using System.Net;
using System.Text.Json;
using OilTag.Core.Bench;

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
}
