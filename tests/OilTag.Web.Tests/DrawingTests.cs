using System.Globalization;
using System.Text.Encodings.Web;
using System.Xml.Linq;
using Microsoft.AspNetCore.Html;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Drawings;
using OilTag.Web.Shared;

namespace OilTag.Web.Tests;

/// <summary>Drawings are well-formed, keep their words inside, and never take words for markup.</summary>
public sealed class DrawingTests(Shed shed) : IClassFixture<Shed>
{
    private static string Html(IHtmlContent content)
    {
        using var writer = new StringWriter(CultureInfo.InvariantCulture);
        content.WriteTo(writer, HtmlEncoder.Default);
        return writer.ToString();
    }

    private async Task<Workshop> ShopAsync() => await shed.Services.GetRequiredService<WorkshopLoader>().LoadAsync(shed.Services.GetRequiredService<ShedClock>().Today, ct: TestContext.Current.CancellationToken);

    [Fact]
    public async Task Every_machine_of_the_demo_is_drawn_with_its_assemblies_and_what_lies_deep_and_no_block_over_another()
    {
        var shop = await ShopAsync();
        foreach (var machine in shop.Machines)
        {
            var view = new MachineView(shop, machine);
            var access = (await shed.Services.GetRequiredService<AccessLoader>().LoadAsync(machine.Id, TestContext.Current.CancellationToken)).Access;
            var svg = XElement.Parse(Html(DepthDrawing.Draw(new DepthView { Bay = view.Bay(), Groups = access.Section, StateOf = _ => (new StateWords(PartState.Off, "Off", "rack C2"), 214), Hung = [("boiler", 214)] })));
            var blocks = svg.Descendants("a").ToList();
            blocks.Count.ShouldBe(view.Bay().Assemblies.Count + access.Section.Count, machine.Name);
            blocks.Select(b => b.Element("title")!.Value).ShouldAllBe(t => t.Length > 10);
            var width = double.Parse(svg.Attribute("width")!.Value, CultureInfo.InvariantCulture);
            var boxes = blocks.Select(b => Box(b.Descendants("path").First().Attribute("d")!.Value)).ToList();
            for (var i = 0; i < boxes.Count; i++)
            {
                boxes[i].Left.ShouldBeGreaterThanOrEqualTo(0);
                boxes[i].Right.ShouldBeLessThanOrEqualTo(width);
                for (var j = i + 1; j < boxes.Count; j++)
                {
                    var apart = boxes[i].Right <= boxes[j].Left || boxes[j].Right <= boxes[i].Left || boxes[i].Bottom <= boxes[j].Top || boxes[j].Bottom <= boxes[i].Top;
                    apart.ShouldBeTrue($"{machine.Name}: {blocks[i].Element("title")!.Value} lies over {blocks[j].Element("title")!.Value}");
                }
            }

            XElement.Parse(Html(ShedDrawing.Draw(view.Bay()))).Attribute("aria-label")!.Value.ShouldStartWith(machine.Name);
        }
    }

    [Fact]
    public void A_state_is_told_by_texture_and_line_and_not_by_colour_alone()
    {
        var drawn = Enum.GetValues<PartState>().Select(s => Ink.Zone("M0 0H9", s, "#235A36")).ToList();
        drawn.Distinct().Count().ShouldBe(drawn.Count);
        Ink.Zone("M0 0H9", PartState.Stuck, "#235A36").ShouldContain("t-stuck");
        Ink.Zone("M0 0H9", PartState.Off, "#235A36").ShouldContain("stroke-dasharray");
    }

    [Theory]
    [InlineData("locomotive")]
    [InlineData("flyingboat")]
    [InlineData("halftrack")]
    [InlineData("liftcar")]
    [InlineData("no such drawing")]
    public void A_side_view_fills_each_region_by_its_state(string drawing)
    {
        var top = new[] { new AssemblyLine(new Place { Name = "Boiler" }, 0, new StateWords(PartState.BackOn, "Back on", string.Empty), 1, 1) };
        string Draw(PartState s) => SideViews.Draw(drawing, "peat", new Dictionary<string, PartState> { ["boiler"] = s, ["hold"] = s, ["engine"] = s, ["body"] = s }, top);
        XElement.Parse($"<svg>{Draw(PartState.BackOn)}</svg>").Descendants("path").Count().ShouldBeGreaterThan(1);
        Draw(PartState.BackOn).ShouldContain(Ink.Tin("peat"));
        if (SideViews.Anchor(drawing, "wheels") is not null || drawing is "flyingboat" or "halftrack")
        {
            Draw(PartState.Fitted).ShouldNotContain(Ink.Tin("peat"));
        }
    }

    [Theory]
    [InlineData("Smokebox door", 200, "Smokebox door")]
    [InlineData("Smokebox door ring", 70, "Smokebox…")]
    public void Words_are_shortened_at_a_word_when_they_do_not_fit(string words, double width, string shown)
    {
        Lettering.Fit(words, 16, width).ShouldBe(shown);
        Lettering.Width(shown, 16).ShouldBeLessThanOrEqualTo(width);
    }

    [Fact]
    public void A_single_long_word_is_cut_so_that_it_fits()
    {
        var fitted = Lettering.Fit("Counterbalance", 16, 30);
        fitted.ShouldEndWith("…");
        Lettering.Width(fitted, 16).ShouldBeLessThanOrEqualTo(30);
    }

    [Fact]
    public void Numbers_in_a_sentence_lead_there_and_markup_in_it_stays_text()
    {
        var html = Html(StoryWords.Linked("settled F31 on remake: <b>&F7 package 12</b>, see R8 and OTF9."));
        html.ShouldContain("<a href=\"/f/31\">F31</a>");
        html.ShouldContain("<a href=\"/w/12\">package 12</a>");
        html.ShouldContain("<a href=\"/r/8\">R8</a>");
        html.ShouldNotContain("/f/9");
        html.ShouldNotContain("<b>");
    }

    [Fact]
    public async Task A_kept_result_is_used_until_somebody_records_something_on_this_node_or_another()
    {
        var clock = shed.Services.GetRequiredService<ShedClock>();
        var here = shed.Services.GetRequiredService<WorkshopLoader>();
        var other = new WorkshopLoader(shed.Services.GetRequiredService<IDbContextFactory<OilTagDb>>());
        var first = await here.LoadAsync(clock.Today, "M", TestContext.Current.CancellationToken);
        (await here.LoadAsync(clock.Today, "M", TestContext.Current.CancellationToken)).ShouldBeSameAs(first);
        (await other.LoadAsync(clock.Today, "M", TestContext.Current.CancellationToken)).ShouldNotBeSameAs(first);
        (await here.LoadAsync(clock.Today.PlusDays(1), "M", TestContext.Current.CancellationToken)).ShouldNotBeSameAs(first);

        var tag = await shed.FreeTagAsync("M");
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/t/{tag}");
        await tobit.PostAsync($"/t/{tag}?handler=Move", ("Custody", "NotFound"), ("Where", "rack C2"), ("Seen", tobit.Typed("Seen")));
        foreach (var node in new[] { here, other })
        {
            var now = await node.LoadAsync(clock.Today, "M", TestContext.Current.CancellationToken);
            now.Tags.Single(t => t.Number == tag).Custody.ShouldBe(CustodyKind.NotFound);
        }

        await tobit.OpenAsync("/machines/M");
        tobit.Text.ShouldContain("1 not found");
        (await other.LoadAsync(clock.Today, "Z", TestContext.Current.CancellationToken)).Machines.ShouldBeEmpty();
    }

    private static (double Left, double Top, double Right, double Bottom) Box(string d)
    {
        // M left top H right V bottom H left Z
        var n = d.Split(['M', 'H', 'V', 'Z', ' '], StringSplitOptions.RemoveEmptyEntries).Select(x => double.Parse(x, CultureInfo.InvariantCulture)).ToList();
        return (n[0], n[1], n[2], n[3]);
    }
}
