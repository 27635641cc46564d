using System.Globalization;
using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;

namespace OilTag.Web.Tests;

/// <summary>The list of findings: filtered, sorted and grouped, against the same question asked of the record another way.</summary>
public sealed class FindingListTests(Shed shed) : IClassFixture<Shed>
{
    private static List<int> Numbers(Visitor v) => [.. v.Page.QuerySelectorAll("table[data-walk] a.link").Select(a => int.Parse(a.GetAttribute("href")!.Split('/')[^1], CultureInfo.InvariantCulture))];

    private static int Total(Visitor v) => int.Parse(v.Page.QuerySelector(".headline p")!.TextContent.Split('\u00A0')[0].Replace(",", string.Empty, StringComparison.Ordinal), CultureInfo.InvariantCulture);

    // Of a range the end that has worn most counts.
    private static double? Used(Finding f) => f is { Reading: { } r, Nominal: { } n, Limit: { } l } && n.Si != l.Si ? new[] { r, f.ReadingTo ?? r }.Max(m => (n.Si - m.Si) / (n.Si - l.Si)) : null;

    private Task<List<Finding>> AllAsync() => shed.AskAsync(db => db.Findings.AsNoTracking().ToListAsync());

    [Fact]
    public async Task Bands_of_wear_split_all_findings_and_each_row_belongs_to_its_band()
    {
        using var visiting = await shed.AsAsync("visiting");
        var all = await AllAsync();
        var sum = 0;
        foreach (var (band, belongs) in new (string, Func<double?, bool>)[] { ("Past", u => u >= 1 - 1e-9), ("Near", u => u is >= 0.8 - 1e-9 and < 1 - 1e-9), ("Less", u => u < 0.8 - 1e-9), ("None", u => u is null) })
        {
            await visiting.OpenAsync($"/survey?wear={band}");
            Total(visiting).ShouldBe(all.Count(f => belongs(Used(f))), band);
            Numbers(visiting).ShouldAllBe(n => belongs(Used(all.Single(f => f.Number == n))));
            sum += Total(visiting);
        }

        sum.ShouldBe(all.Count);
    }

    [Fact]
    public async Task Undecided_and_decided_split_them_too_and_a_decision_is_asked_for_by_name()
    {
        using var visiting = await shed.AsAsync("visiting");
        var all = await AllAsync();
        await visiting.OpenAsync("/survey?state=Open");
        var open = Total(visiting);
        visiting.Page.QuerySelectorAll("table[data-walk] tbody tr").ShouldAllBe(r => r.TextContent.Contains("Not decided"));
        await visiting.OpenAsync("/survey?state=Settled");
        (open + Total(visiting)).ShouldBe(all.Count);
        await visiting.OpenAsync("/survey?d=Remake&m=G");
        Total(visiting).ShouldBe(await shed.AskAsync(db => (from d in db.Decisions join f in db.Findings on d.FindingId equals f.Id join m in db.Machines on f.MachineId equals m.Id where !d.Replaced && d.Disposition == Disposition.Remake && m.Letter == "G" select f.Id).CountAsync()));
    }

    [Fact]
    public async Task An_assembly_holds_what_is_below_it()
    {
        using var visiting = await shed.AsAsync("visiting");
        var boiler = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Boiler" && p.Kind == PlaceKind.Assembly).SingleAsync());
        var places = await shed.AskAsync(db => db.Places.Where(p => p.MachineId == boiler.MachineId).ToListAsync());
        bool Within(Guid? id) => id is { } x && (x == boiler.Id || Within(places.Single(p => p.Id == x).ParentId));
        await visiting.OpenAsync($"/survey?m=M&a={boiler.Id}");
        var expected = (await AllAsync()).Where(f => f.MachineId == boiler.MachineId && Within(f.PlaceId)).Select(f => f.Number).ToList();
        expected.Count.ShouldBeGreaterThan(3);
        Numbers(visiting).Order().ShouldBe(expected.Order());
    }

    [Fact]
    public async Task Orders_put_headings_above_their_groups()
    {
        using var visiting = await shed.AsAsync("visiting");
        var all = await AllAsync();
        await visiting.OpenAsync("/survey?by=Wear");
        var used = Numbers(visiting).ConvertAll(n => Used(all.Single(f => f.Number == n)) ?? double.MinValue);
        used.ShouldBe(used.OrderDescending());
        visiting.Page.QuerySelector(".grouphead")!.TextContent.ShouldBe("Past the limit");
        await visiting.OpenAsync("/survey?by=Age");
        var found = Numbers(visiting).ConvertAll(n => all.Single(f => f.Number == n).FoundAt);
        found.ShouldBe(found.Order());
        foreach (var by in new[] { "Place", "Decision" })
        {
            await visiting.OpenAsync($"/survey?by={by}&m=M");
            var headings = visiting.Page.QuerySelectorAll(".grouphead").Select(h => h.TextContent).ToList();
            headings.Count.ShouldBeGreaterThan(2);
            headings.Distinct().Count().ShouldBe(headings.Count, by);
        }
    }

    [Fact]
    public async Task Words_are_searched_as_they_are()
    {
        using var visiting = await shed.AsAsync("visiting");
        await visiting.OpenAsync("/survey?q=starboard+chine");
        Total(visiting).ShouldBe(1);
        await visiting.OpenAsync("/survey?q=100%25");
        visiting.Text.ShouldContain("None like that");
        await visiting.OpenAsync("/survey?q=%3Cscript%3E'%22\\_");
        visiting.Page.QuerySelector("script:not([src])").ShouldBeNull();
        visiting.Typed("q").ShouldBe("<script>'\"\\_");
    }

    [Theory]
    [InlineData("/survey?by=nonsense&state=x&wear=y&d=z")]
    [InlineData("/survey?sheet=9999")]
    [InlineData("/survey?sheet=-3")]
    [InlineData("/survey?a=00000000-0000-0000-0000-000000000001")]
    public async Task What_cannot_be_asked_is_left_aside(string address)
    {
        using var visiting = await shed.AsAsync("visiting");
        (await visiting.GetAsync(address)).StatusCode.ShouldBe(HttpStatusCode.OK);
        Numbers(visiting).ShouldNotBeEmpty();
    }

    [Fact]
    public async Task A_second_finding_at_a_place_points_at_the_first()
    {
        using var tobit = await shed.AsAsync("tobit");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Smokebox").Select(p => p.Id).FirstAsync());
        var numbers = new List<int>();
        foreach (var what in new[] { "Wasted at the foot", "Thin at the foot" })
        {
            await tobit.OpenAsync($"/survey/new?place={place}");
            tobit.Text.Contains("Found here before", StringComparison.Ordinal).ShouldBe(numbers.Count > 0);
            numbers.Add(int.Parse((await tobit.PostAsync($"/survey/new?place={place}", ("What", what))).Headers.Location!.ToString().Split('/')[^1], CultureInfo.InvariantCulture));
        }

        await tobit.OpenAsync($"/f/{numbers[1]}");
        tobit.Text.ShouldContain($"F{numbers[0]} Wasted at the foot");
        tobit.Page.QuerySelector("a[rel=next]")!.GetAttribute("href").ShouldBe($"/f/{numbers[0]}");
    }
}
