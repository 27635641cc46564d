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
            var svg = XElement.Parse(Html(DepthDrawing.Draw(new DepthView { Bay = view.Bay(), Groups = access.Section, StateOf = _ => (new StateWords(PartState.Off, "Off", "rack C2"), 214), Hung = [(view.Bay().Assemblies[0].Place, 214)] })));
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

    public static TheoryData<string> Views => [.. SideViews.All.Select(v => v.Key)];

    [Fact]
    public void A_dozen_kinds_of_machines_ship_with_a_side_view()
    {
        SideViews.All.Count.ShouldBe(16);
        SideViews.All.Select(v => v.Title).ShouldBeUnique();
        foreach (var key in new[] { "biplane", "monoplane", "flyingboat", "helicopter", "locomotive", "tenderlocomotive", "diesel", "carriage", "tractor", "crawler", "lorry", "boat", "engine", "machinetool" })
        {
            SideViews.Find(key).ShouldNotBeNull(key);
        }
    }

    [Theory]
    [MemberData(nameof(Views))]
    public void A_side_view_fills_each_region_by_its_own_state_and_stays_in_its_box(string key)
    {
        var view = SideViews.Find(key)!;
        view.Regions.Count.ShouldBeInRange(6, 16);
        foreach (var (region, at) in view.Regions)
        {
            at.X.ShouldBeInRange(8, 282, region);
            at.Y.ShouldBeInRange(4, 164, region);
            string Draw(PartState s) => SideViews.Draw(key, "peat", new Dictionary<string, PartState> { [region] = s }, []);
            XElement.Parse($"<svg>{Draw(PartState.BackOn)}</svg>").Descendants("path").Count(p => p.Attribute("fill")!.Value == Ink.Tin("peat")).ShouldBe(view.Strokes.Count(s => s.Region == region), region);
            Draw(PartState.Fitted).ShouldNotContain(Ink.Tin("peat"));
            Draw(PartState.Stuck).ShouldContain("t-stuck");
        }

        foreach (var n in view.Strokes.SelectMany(s => s.Path.Split(['M', 'L', 'H', 'V', 'C', 'Z', ' '], StringSplitOptions.RemoveEmptyEntries)).Select(v => double.Parse(v, CultureInfo.InvariantCulture)))
        {
            n.ShouldBeInRange(0, 290);
        }
    }

    [Fact]
    public void Without_a_side_view_blocks_stand_on_the_ground()
    {
        var top = new[] { new AssemblyLine(new Place { Name = "Boiler" }, 0, new StateWords(PartState.BackOn, "Back on", string.Empty), 1, 1) };
        var drawn = SideViews.Draw("no such drawing", "peat", new Dictionary<string, PartState>(), top);
        XElement.Parse($"<svg>{drawn}</svg>").Descendants("path").Count().ShouldBe(2);
        drawn.ShouldContain(Ink.Tin("peat"));
        SideViews.Anchor("no such drawing", "boiler").ShouldBeNull();
    }

    [Fact]
    public void A_picture_of_the_teams_own_is_fitted_into_the_box_with_its_regions_over_it()
    {
        var (boiler, cab) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        var own = new Outline { ContentType = "image/jpeg", Width = 1000, Height = 500, Regions = [new OutlineRegion(boiler, [10, 20, 40, 20, 40, 80]), new OutlineRegion(cab, [60, 0, 100, 0, 100, 100])] };

        // 1000 × 500 in 290 × 163 is 290 × 145, standing on the ground.
        OwnOutlineDrawing.Box(own).ShouldBe((0, 18, 290, 145));
        OwnOutlineDrawing.Anchor(own, boiler)!.Value.X.ShouldBe(72.5, 0.001);
        OwnOutlineDrawing.Anchor(own, boiler)!.Value.Y.ShouldBe(18 + 72.5, 0.001);
        OwnOutlineDrawing.Anchor(own, Guid.CreateVersion7()).ShouldBeNull();
        var svg = XElement.Parse($"<svg>{OwnOutlineDrawing.Draw(own, new Dictionary<Guid, PartState> { [boiler] = PartState.Stuck }, "peat")}</svg>");
        svg.Descendants("image").Single().Attribute("href")!.Value.ShouldBe($"/outlines/{own.Id}");
        svg.Descendants("path").Count(p => p.Attribute("fill")!.Value == "url(#t-stuck)").ShouldBe(1);
        svg.Descendants("path").Count(p => p.Attribute("d")!.Value == "M174 18L290 18L290 163Z" && p.Attribute("fill")!.Value == "none").ShouldBe(1);
    }

    [Fact]
    public void A_bolt_map_gives_each_length_its_letter()
    {
        var holes = Core.Strip.BoltMap.Read("1-3, 6: 1/4 BSF x 1\n4-5: 1/4 BSF x 1 1/2").Holes;
        var svg = XElement.Parse(Html(BoltMapDrawing.Draw(holes)));
        svg.Descendants("circle").Count().ShouldBe(6);
        string.Concat(svg.Descendants("text").Where(t => t.Attribute("class")?.Value == "w6").Select(t => t.Value)).ShouldBe("AAABBA");
        svg.Attribute("aria-label")!.Value.ShouldBe("Bolt map. A, 1/4 BSF x 1: 1 to 3, 6; B, 1/4 BSF x 1 1/2: 4, 5");
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
