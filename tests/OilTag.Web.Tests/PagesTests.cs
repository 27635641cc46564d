using System.Diagnostics;
using System.Net;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>Every page on the demo: it answers, is small, asks the database little, and holds nothing that the content policy forbids.</summary>
public sealed partial class PagesTests(Shed shed) : IClassFixture<Shed>
{
    private const int MostCommands = 13;
    private const int MostHtml = 150_000;

    /// <summary>One address of every page, with numbers from the demo.</summary>
    public static async Task<IReadOnlyList<string>> AddressesAsync(Shed shed)
    {
        var tag = await shed.AskAsync(db => db.Tags.Where(t => t.End == null).MaxAsync(t => t.Number));
        var back = await shed.AskAsync(db => db.Tags.Where(t => t.End != null).MaxAsync(t => t.Number));
        var tray = await shed.AskAsync(db => db.TrayItems.Select(i => i.Number).Order().ToListAsync());
        var finding = await shed.AskAsync(db => db.Findings.Where(f => f.Reading != null).MaxAsync(f => f.Number));
        var package = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null).MaxAsync(k => k.Number));
        var card = await shed.AskAsync(db => db.RouteCards.MaxAsync(c => c.Number));
        var remade = await shed.AskAsync(db => (from c in db.RouteCards join k in db.Packages on c.PackageId equals k.Id join t in db.Tags on k.TagId equals t.Id select t.Number).FirstAsync());
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Boiler").Select(p => p.Id).FirstAsync());
        var keel = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Keel").Select(p => p.Id).FirstAsync());
        var cover = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Dome cover").Select(p => p.Id).FirstAsync());
        var milestone = await shed.AskAsync(db => db.Milestones.Select(m => m.Id).FirstAsync());
        var someone = await shed.AskAsync(db => db.People.Where(p => p.Name == "Idris Calloway").Select(p => p.Id).FirstAsync());
        var visit = await shed.AskAsync(db => db.Visits.Select(v => v.Id).FirstAsync());
        var visitor = await shed.AskAsync(db => db.Visits.Where(v => v.Id == visit).Select(v => v.PersonId).FirstAsync());
        var slip = await shed.AskAsync(db => db.DayJobs.Where(j => j.OperationId != null).Select(j => j.Id).FirstAsync());
        var call = await shed.AskAsync(db => db.CallOuts.Select(c => c.Id).FirstAsync());
        var step = await shed.PlanAsync();
        var chine = await shed.AskAsync(db => db.Options.Join(db.Findings, o => o.FindingId, f => f.Id, (o, f) => f.Number).MaxAsync());
        var option = await shed.AskAsync(db => db.Options.Where(o => db.Findings.Any(f => f.Id == o.FindingId && f.Number == chine)).Select(o => o.Id).FirstAsync());
        var template = await shed.AskAsync(db => db.Templates.Select(t => t.Id).FirstAsync());
        var held = (await shed.AskAsync(db => db.Fixtures.AsNoTracking().ToListAsync())).SelectMany(f => f.Holds).First();
        var wants = await shed.AskAsync(db => db.Packages.Where(k => k.Id == held).Select(k => k.Number).SingleAsync());
        var keeps = await shed.AskAsync(db => db.KeptAnswers.Join(db.Findings, k => k.FindingId, f => f.Id, (k, f) => f.Number).FirstAsync());
        var keepsToo = await shed.AskAsync(db => db.KeptAnswers.Join(db.RouteCards, k => k.RouteCardId, c => c.Id, (k, c) => c.Number).FirstAsync());
        return
        [
            $"/w/{wants}", $"/f/{keeps}", $"/r/{keepsToo}", "/", "/machines/M", "/machines/G", "/machines/L", "/machines/B", $"/places/{place}", "/strip", "/strip?m=G", "/strip?s=back", "/strip/take-off", "/strip/take-off?m=M", $"/t/{tag}", $"/t/{back}", $"/t/{tag}/refit", $"/t/{remade}/refit", $"/t/{tag}/refit?Kind=Trial", $"/strip/take-off?m=M&after={tag}&with={tag}",
            $"/places/{keel}/reach", $"/places/{cover}/reach", $"/places/{place}/close", $"/places/{cover}/close", "/machines/M/sequence", "/machines/M/left", "/machines/B/left", "/machines/M/sets", "/machines/B/sets", $"/places/{place}/acts", "/jump?q=Regulater+valv", $"/machines/M?at={cover}", "/machines/M/breakdown", $"/machines/M/breakdown?at={place}", "/machines/L/breakdown?start=true", "/machines/B/sequence", "/machines/M/standing", "/machines/G/standing", "/machines/M/trials", "/machines/G/trials", "/machines/G/trials/1", "/strip/where", "/at/1", "/at/19", "/machines/M/runs", "/machines/L/runs?edit=fuel+feed", "/tray", $"/tray/{tray[0]}", $"/tray/{tray[^1]}", $"/strip/tags?n={tag},{back}", "/machines/G/outline", "/machines/B/outline",
            "/survey", "/survey?m=M&sheet=2", "/survey?by=Wear&wear=Past", "/survey?by=Place&q=worn", $"/survey/new?tag={tag}", $"/survey/new?place={place}", $"/f/{finding}", $"/f/{finding}/edit", $"/f/{chine}", $"/f/{chine}/options", $"/f/{chine}/options?change={option}", "/machines/M/policy", "/survey/donor?m=M", "/survey/donor?m=L&Price=2500&Parts=gearbox+900+90", "/survey/sheets", $"/survey/plan?place={place}", "/s/3", "/s/4?for=Demonstrate&line=2", "/s/5?patterns=true", "/s/5/regions", "/s/5/regions?change=1", "/s/6/matrix", "/s/6/matrix?fill=true", "/s/6/matrix/3-6", "/s/6/checks", $"/survey/matrix?place={place}", $"/survey/point?place={place}", "/c/1", "/c/2", "/survey/templates", "/survey/templates/new", $"/survey/templates/{template}", "/survey/new", "/survey/new?where=plate", "/survey/parts?m=G", "/survey/estimate?m=M", "/survey/complete?m=G", "/survey/complete?m=B", "/survey/looks", "/survey/questions", $"/f/{chine}/follow", "/survey/together?f=1&f=2", "/survey/bring", "/survey/diagnoses", "/d/1", $"/survey/diagnosis?place={place}", "/work", "/work?closed=true", $"/w/{package}", $"/w/{package}/1", $"/w/{package}/steps", $"/w/{package}/steps?fields=true", $"/w/{package}/sheet", $"/w/{package}/sheet?type=true", $"/w/{package}/care", "/w/85/3/torque", "/w/85/3/torque?bolt=5", "/w/85/3/torque?set=true", "/work/tried", "/work/tried?q=stud&trouble=Seized", "/machines/L/service", "/plan/tools", "/me/pin", "/work/new", "/work/new?m=G&from=Riveted", $"/work/new?tag={tag}", $"/work/new?f={finding}", $"/work/new?like={package}&other=true&m=M", "/work/library", "/work/library?from=Turned", $"/work/library?keep={package}", "/work/steps", "/work/steps?m=G", $"/work/steps?milestone={milestone}", "/plan/milestones", "/lifts", "/lifts/1", "/lifts/1/live", "/lifts/2", "/lifts/2/edit", "/lifts/new?m=G", "/lifts/new?m=G&from=1", "/g/7", "/g/7?change=true", $"/survey/rigging?place={place}", "/machines/G/fixtures", "/machines/M/fixtures", "/machines/G/drawings", "/machines/G/schedule", $"/r/{card}/processes", $"/r/{card}/processes?process=Plating", $"/r/{card}/pieces", "/bench/kept", "/bench?for=F6", "/bench/tables", "/bench/tables?q=1/4", "/bench/tables/drills", "/bench/tables/keys?q=44", "/bench/bolt-circle?diameter=200+mm&holes=8&hole=11+mm&for=F6", "/bench/press-fit?diameter=50+mm&hub=100+mm&length=60+mm&interference=0.04+mm", "/make", $"/r/{card}", "/r/9", "/r/6?stage=2", "/r/9/edit", "/r/9/evidence", "/r/9/material", "/r/9/first", "/r/9/shop", "/bench/bars?lengths=500+mm;+400+mm&pieces=3;+2&bar=1.2+m", "/bench/sheets", "/bench", "/bench?q=dew", "/bench?q=nothing+of+that", "/bench/torque", "/bench/torque?thread=1/2-13&grade=5", "/bench/supports?mass=12+tonne&x=0;4;0;4+m&y=0;0;2;2+m&gx=1.7+m&gy=0.9+m", "/bench/jack?load=9+tonne&rated=8+tonne",
            "/plan", "/plan?weeks=6&by=Skill", "/plan?weeks=16&by=Person", "/plan/list", "/plan/try", "/plan/try?kind=holder", "/plan/try?kind=fornow", "/plan/try?kind=shop", "/plan/try?kind=standing", "/plan/try?kind=weight", "/plan/calendar", "/plan/equipment", "/plan/machines", "/plan/machines/M", "/plan/calls", $"/plan/calls/{call}", "/plan/damage", $"/w/{package}/plan", "/plan/promises", $"/plan/why/{step}", $"/w/{package}/needs/1", $"/plan/{milestone}", "/people", "/people/hours", $"/people/{someone}", "/today", "/today/hours", "/today/short", "/today/sheet", $"/today/out/{visit}", $"/today/choose/{visitor}", $"/today/slip/{slip}", "/log", "/log?m=B", "/me", "/me/password", "/me/sign-ins", "/all", "/keys", "/jump?q=door",
        ];
    }

    [Fact]
    public async Task Every_page_answers_small_and_with_few_commands_and_nothing_inline()
    {
        using var una = await shed.AsAsync("una");
        using var commands = new CommandCount();
        foreach (var address in await AddressesAsync(shed))
        {
            (await una.GetAsync(address)).StatusCode.ShouldBe(HttpStatusCode.OK, address);
            commands.Reset();
            var response = await una.GetAsync(address);
            commands.Count.ShouldBeLessThanOrEqualTo(MostCommands, address);
            una.Html.Length.ShouldBeLessThan(MostHtml, address);
            response.Headers.GetValues("Content-Security-Policy").Single().ShouldBe(SecurityHeaders.Policy);
            Forbidden().Matches(una.Html).Select(m => m.Value).ShouldBeEmpty(address);
            una.Page.QuerySelectorAll("script:not([src])").ShouldBeEmpty(address);
            una.Page.QuerySelectorAll("[src^='http'],[href^='http'],[src^='//']").ShouldBeEmpty(address);
            una.Page.QuerySelectorAll("h1").Length.ShouldBe(1, address);
            una.Page.QuerySelectorAll("form[method=post] input[name=__RequestVerificationToken]").Length.ShouldBe(una.Page.QuerySelectorAll("form[method=post]").Length, address);
            Identity().Matches(una.Text).Select(m => m.Value).ShouldBeEmpty(address + " shows an id");
            Repeated(una.Page.QuerySelectorAll("[id]").Select(e => e.Id!)).ShouldBeEmpty(address);
        }
    }

    [Fact]
    public async Task The_policy_allows_nothing_but_this_host()
    {
        SecurityHeaders.Policy.ShouldStartWith("default-src 'none'");
        SecurityHeaders.Policy.ShouldNotContain("unsafe");
        SecurityHeaders.Policy.ShouldNotContain("http");
        using var nobody = await shed.AsAsync(null);
        var response = await nobody.GetAsync("/sign-in");
        response.Headers.GetValues("X-Content-Type-Options").Single().ShouldBe("nosniff");
    }

    [Fact]
    public async Task Navigation_shows_only_areas_that_work()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/");
        var links = una.Page.QuerySelectorAll("nav#areas a").Select(a => a.GetAttribute("href")!).Distinct().ToList();
        links.Count.ShouldBeGreaterThan(8);
        foreach (var link in links)
        {
            await una.OpenAsync(link);
        }

        una.Page.QuerySelector("nav#areas")!.TextContent.ShouldNotContain("Stores");
    }

    [Fact]
    public async Task Health_answers_without_a_sign_in()
    {
        using var nobody = await shed.AsAsync(null);
        (await nobody.GetAsync("/health")).StatusCode.ShouldBe(HttpStatusCode.OK);
        nobody.Html.ShouldContain("\"Healthy\"");
        (await nobody.GetAsync("/health/live")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("/app.css")]
    [InlineData("/app.js")]
    [InlineData("/htmx.min.js")]
    [InlineData("/fonts/5.3.0/league-gothic-latin-400-normal.woff2")]
    public async Task Styles_scripts_and_fonts_ship_with_it(string address)
    {
        using var nobody = await shed.AsAsync(null);
        var response = await nobody.Client.GetAsync(address, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await response.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)).Length.ShouldBeGreaterThan(500);
    }

    [Theory]
    [InlineData("/strip.csv", "tag,machine,name,state")]
    [InlineData("/survey.csv", "finding,machine,place,what")]
    [InlineData("/work.csv", "package,machine,title")]
    [InlineData("/hours.csv", "day,person,machine")]
    [InlineData("/log.csv", "entry,at,person,sentence")]
    public async Task Every_list_exports_to_csv(string address, string head)
    {
        using var una = await shed.AsAsync("una");
        var response = await una.GetAsync(address);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Html.ShouldStartWith(head);
        una.Html.Split('\n').Length.ShouldBeGreaterThan(50);
    }

    private static IEnumerable<string> Repeated(IEnumerable<string> ids) => ids.GroupBy(i => i).Where(g => g.Count() > 1).Select(g => g.Key);

    // Identities of the record, and those that the plan makes up for waits, searches and putting back.
    [GeneratedRegex(@"\b[0-9a-f]{8}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{4}-?[0-9a-f]{12}\b|\b(left|back|wait|cure|damage):[0-9A-Z]", RegexOptions.ExplicitCapture | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking)]
    private static partial Regex Identity();

    [GeneratedRegex("<style|\\sstyle=\"|\\son[a-z]+=\"|hx-on|hx-vals='js|javascript:", RegexOptions.IgnoreCase, matchTimeoutMilliseconds: 2000)]
    private static partial Regex Forbidden();

    /// <summary>Counts the commands that are sent to the database.</summary>
    private sealed class CommandCount : IObserver<DiagnosticListener>, IObserver<KeyValuePair<string, object?>>, IDisposable
    {
        private readonly List<IDisposable> subscriptions = [];
        private int count;

        public CommandCount() => subscriptions.Add(DiagnosticListener.AllListeners.Subscribe(this));

        public int Count => count;

        public void Reset() => count = 0;

        public void OnNext(DiagnosticListener value)
        {
            if (value.Name == DbLoggerCategory.Name)
            {
                subscriptions.Add(value.Subscribe(this));
            }
        }

        public void OnNext(KeyValuePair<string, object?> value)
        {
            if (value.Key == RelationalEventId.CommandExecuted.Name)
            {
                Interlocked.Increment(ref count);
            }
        }

        public void OnCompleted()
        {
        }

        public void OnError(Exception error)
        {
        }

        public void Dispose() => subscriptions.ForEach(s => s.Dispose());
    }
}
