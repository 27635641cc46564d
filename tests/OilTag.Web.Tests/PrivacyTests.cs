using System.Net;
using Microsoft.EntityFrameworkCore;

namespace OilTag.Web.Tests;

/// <summary>What a visitor, a helper and the public read of people, as the table in the guide says.</summary>
public sealed class PrivacyTests(Shed shed) : IClassFixture<Shed>
{
    // Words that say of somebody that they are under 18, work with others only, or are away.
    private static readonly string[] Private = ["under 18", "not alone", "does not work alone", "neverAlone", "\"minor\"", "somebody is away", "is there after all", "with whom somebody works", "AwayFrom"];

    private static readonly string[] Lists = ["/log.csv", "/hours.csv", "/strip.csv", "/survey.csv", "/work.csv", "/plan.csv", "/make.csv", "/people/hours.csv"];

    [Fact]
    public async Task A_visitor_reads_nobodys_age_nor_who_is_away_nor_with_whom_somebody_works()
    {
        using var una = await shed.AsAsync("una");
        var who = await shed.AskAsync(db => db.People.Where(p => p.Name == "Tobit Crane").Select(p => p.Id).SingleAsync());
        var minor = await shed.AskAsync(db => db.People.Where(p => p.Minor).OrderBy(p => p.Name).Select(p => p.Id).FirstAsync());
        await una.OpenAsync($"/people/{who}");
        (await una.PostAsync($"/people/{who}?handler=Away", ("AwayFrom", HandClock.Day(20)), ("AwayUntil", HandClock.Day(30)))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/people/{who}?handler=Mark", ("NeverAlone", "true"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var addresses = (await PagesTests.AddressesAsync(shed)).Concat([$"/people/{who}", $"/people/{minor}", "/plan.json", .. Lists]).ToList();
        using var visitor = await shed.AsAsync("visiting");
        using var tobit = await shed.AsAsync("tobit");
        var told = new List<string>();
        foreach (var address in addresses)
        {
            var answer = await visitor.GetAsync(address);
            if (answer.StatusCode == HttpStatusCode.OK)
            {
                told.AddRange(Private.Where(p => Seen(visitor, answer).Contains(p, StringComparison.OrdinalIgnoreCase)).Select(p => $"{address}: {p}"));
            }
        }

        told.ShouldBeEmpty();

        // A helper, who works beside them, does read it; so the words above are the ones that are used.
        var known = new HashSet<string>();
        foreach (var address in new[] { "/people", $"/people/{who}", $"/people/{minor}", "/log", "/log.csv", "/plan.json" })
        {
            var answer = await tobit.GetAsync(address);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, address);
            known.UnionWith(Private.Where(p => Seen(tobit, answer).Contains(p, StringComparison.OrdinalIgnoreCase)));
        }

        known.ShouldContain("under 18");
        known.ShouldContain("not alone");
        known.ShouldContain("neverAlone");
        known.ShouldContain("somebody is away");
        known.ShouldContain("with whom somebody works");
        (await visitor.GetAsync("/plan.json")).Headers.Location!.ToString().ShouldContain("/not-allowed");
        var call = await shed.AskAsync(db => db.CallOuts.Select(c => c.Id).FirstAsync());
        (await visitor.GetAsync($"/plan/calls/{call}")).Headers.Location!.ToString().ShouldContain("/not-allowed");
    }

    // What stands on a page; the label of a box that nobody ticked says nothing of anybody.
    private static string Seen(Visitor v, HttpResponseMessage answer) => answer.Content.Headers.ContentType?.MediaType == "text/html" ? v.Page.QuerySelector("#sheet")!.TextContent.Replace('\u00A0', ' ') : v.Html;

    [Fact]
    public async Task The_public_reads_nobodys_name()
    {
        var names = await shed.AskAsync(db => db.People.Select(p => p.Name).ToListAsync());
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/me");
        await una.PostAsync("/me?handler=Feed");
        await una.OpenAsync("/me");
        var feed = new Uri(una.Page.QuerySelector("code.val")!.TextContent).AbsolutePath;
        await una.OpenAsync("/r/9/edit");
        using var nobody = await shed.AsAsync(null);
        foreach (var address in new[] { feed, "/health", "/health/live", "/not-there" })
        {
            await nobody.GetAsync(address);
            names.ShouldAllBe(n => !nobody.Html.Contains(n, StringComparison.Ordinal));
        }
    }

    [Fact]
    public async Task A_helper_takes_only_their_own_option_away_and_enters_no_money()
    {
        var finding = await shed.AskAsync(db => db.Findings.Where(f => f.Decided == null && !db.Options.Any(o => o.FindingId == f.Id)).OrderBy(f => f.Number).Select(f => f.Number).FirstAsync());
        var page = $"/f/{finding}/options";
        using var tobit = await shed.AsAsync("tobit");
        using var una = await shed.AsAsync("una");
        async Task<Guid> LastAsync() => await shed.AskAsync(db => db.Options.OrderByDescending(o => o.At).Select(o => o.Id).FirstAsync());
        await una.OpenAsync(page);
        (await una.PostAsync(page, ("Disposition", "Repair"), ("What", "Let in two doublers"), ("Cost", "300 410 600"), ("Hours", "38"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var hers = await LastAsync();
        await tobit.OpenAsync(page);
        tobit.Page.QuerySelector("[name=Cost]").ShouldBeNull();
        (await tobit.PostAsync(page, ("Disposition", "Remake"), ("What", "Make it new"), ("Cost", "900"), ("Hours", "60"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("A lead or the keeper enters money");
        (await tobit.PostAsync(page, ("Disposition", "Remake"), ("What", "Make it new"), ("Hours", "60"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        var his = await LastAsync();
        (await tobit.PostAsync($"{page}?handler=Away&id={hers}")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("Somebody else wrote that option down");
        (await tobit.PostAsync($"{page}?change={hers}", ("Disposition", "Remake"), ("What", "Something else"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        // A lead prices his; he changes the rest of it, and the price stays.
        (await una.PostAsync($"{page}?change={his}", ("Disposition", "Remake"), ("What", "Make it new"), ("Cost", "880"), ("Hours", "60"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await tobit.PostAsync($"{page}?change={his}", ("Disposition", "Remake"), ("What", "Make it new, of the same gauge"), ("Hours", "66"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await shed.AskAsync(db => db.Options.Where(o => o.Id == his).Select(o => o.CostLikely).SingleAsync())).ShouldBe(88_000);
        (await tobit.PostAsync($"{page}?handler=Away&id={his}")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"{page}?handler=Away&id={hers}")).StatusCode.ShouldBe(HttpStatusCode.Redirect);

        // The same for what a cure cost.
        var seen = await shed.AskAsync(db => db.Diagnoses.Where(d => d.Number == 1).Select(d => d.Version).SingleAsync());
        await tobit.OpenAsync("/d/1");
        await tobit.PostAsync("/d/1?handler=Cure", ("Seen", seen.ToString(System.Globalization.CultureInfo.InvariantCulture)), ("Cure", "New seal"), ("Suspect", "0"), ("CureCost", "12"), ("Worked", "False"));
        tobit.Text.ShouldContain("A lead or the keeper enters money");
    }

    [Fact]
    public async Task What_a_shop_reports_stands_under_its_name_and_the_lead_who_gave_the_link_has_not_worked_on_it()
    {
        using var una = await shed.AsAsync("una");
        var card = await shed.AskAsync(db => db.RouteCards.Include(c => c.Stages).SingleAsync(c => c.Number == 9));
        await una.OpenAsync("/r/9/shop");
        var shop = card.Stages.Select(s => s.Shop).FirstOrDefault(s => s.Length > 0);
        if (shop is null)
        {
            shop = "Crag End Platers";
            await shed.Database.RunAsync($"update stages set shop = '{shop}' where id = '{card.Stages.OrderBy(s => s.Order).First().Id}'", asOwner: true);
        }

        await una.PostAsync("/r/9/shop", ("LinkShop", shop), ("LinkDays", "30"));
        var secret = una.Page.QuerySelector(".secret")!.TextContent.Trim()[^40..];
        using var outside = await shed.AsAsync(null);
        await outside.GetAsync($"/shop/{secret}");
        (await outside.PostAsync($"/shop/{secret}?handler=Say", ("Text", "The drawing says 4.2, the sample 4.6."))).StatusCode.ShouldBe(HttpStatusCode.Redirect, outside.Text);
        await una.OpenAsync("/log");
        var line = una.Page.QuerySelectorAll("#sheet *").Last(e => e.TextContent.Contains("said by a link about R9", StringComparison.Ordinal));
        line.ParentElement!.TextContent.ShouldContain(shop);
        line.ParentElement.TextContent.ShouldNotContain("Una");
        var by = await shed.AskAsync(db => db.ShopNotes.OrderByDescending(n => n.At).Select(n => n.ById).FirstAsync());
        (await shed.AskAsync(db => db.People.Where(p => p.Id == by).Select(p => new { p.Name, p.IsShop }).SingleAsync())).ShouldBe(new { Name = shop, IsShop = true });

        // A shop is nobody of the team.
        (await una.GetAsync($"/people/{by}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await una.OpenAsync("/people");
        una.Text.ShouldNotContain(shop);
    }
}
