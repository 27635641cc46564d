using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;

namespace OilTag.Web.Tests;

/// <summary>Who may do what: denied by default, by role, and by having done the work.</summary>
public sealed class AccessTests(Shed shed) : IClassFixture<Shed>
{
    [Fact]
    public async Task Nobody_sees_a_page_without_signing_in()
    {
        using var nobody = await shed.AsAsync(null);
        foreach (var address in (await PagesTests.AddressesAsync(shed)).Concat(["/strip.csv", "/log.csv", $"/photos/{Guid.NewGuid()}"]))
        {
            var response = await nobody.GetAsync(address);
            response.StatusCode.ShouldBe(HttpStatusCode.Redirect, address);
            response.Headers.Location!.ToString().ShouldContain("/sign-in", Case.Sensitive, address);
        }
    }

    [Fact]
    public async Task An_htmx_request_without_a_sign_in_is_sent_to_the_sign_in_page_and_not_swapped()
    {
        using var nobody = await shed.AsAsync(null);
        using var request = new HttpRequestMessage(HttpMethod.Get, "/survey/verdict?Reading=1");
        request.Headers.Add("HX-Request", "true");
        var response = await nobody.Client.SendAsync(request, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        response.Headers.GetValues("HX-Redirect").Single().ShouldContain("/sign-in");
    }

    [Fact]
    public async Task A_visitor_reads_and_records_nothing()
    {
        using var visitor = await shed.AsAsync("visiting");
        await visitor.OpenAsync("/");
        visitor.Text.ShouldNotContain("Log hours");
        var tag = await shed.FreeTagAsync("M");
        var before = await shed.Database.ScalarAsync<long>("select count(*) from log_entries");
        foreach (var address in new[] { "/strip/take-off?m=M", $"/survey/new?tag={tag}", $"/t/{tag}/refit" })
        {
            var response = await visitor.GetAsync(address);
            response.StatusCode.ShouldBe(HttpStatusCode.Redirect, address);
            response.Headers.Location!.ToString().ShouldContain("/not-allowed");
        }

        await visitor.OpenAsync($"/t/{tag}");
        (await visitor.PostAsync($"/t/{tag}?handler=Move", ("Custody", "Shelf"), ("Where", "rack Z"), ("Seen", Guid.NewGuid().ToString()))).Headers.Location!.ToString().ShouldContain("/not-allowed");
        (await visitor.PostAsync("/today/hours", ("Hours", "2"), ("job", "1"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
        await visitor.GetAsync("/not-allowed?ReturnUrl=%2Fstrip%2Ftake-off");
        visitor.Text.ShouldContain("Visitors read only");
        (await shed.Database.ScalarAsync<long>("select count(*) from log_entries")).ShouldBe(before);
    }

    [Fact]
    public async Task A_helper_does_not_decide_close_or_change_the_breakdown()
    {
        using var tobit = await shed.AsAsync("tobit");
        var finding = await shed.AskAsync(db => db.Findings.Where(f => !db.Decisions.Any(d => d.FindingId == f.Id)).Select(f => f.Number).FirstAsync());
        await tobit.OpenAsync($"/f/{finding}");
        tobit.Page.QuerySelector("input[name=Disposition]").ShouldBeNull();
        (await tobit.PostAsync($"/f/{finding}?handler=Decide", ("Disposition", nameof(Disposition.Leave)), ("Why", "because"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
        var package = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null).Select(k => k.Number).FirstAsync());
        foreach (var handler in new[] { "Close", "Cost", "Edit", "Sign" })
        {
            (await tobit.PostAsync($"/w/{package}?handler={handler}")).Headers.Location!.ToString().ShouldContain("/not-allowed", Case.Sensitive, handler);
        }

        var place = await shed.AskAsync(db => db.Places.Select(p => p.Id).FirstAsync());
        (await tobit.PostAsync($"/places/{place}", ("Name", "Mine now"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
        (await shed.AskAsync(db => db.Places.AnyAsync(p => p.Name == "Mine now"))).ShouldBeFalse();
    }

    [Fact]
    public async Task An_inspector_whose_role_was_taken_away_cannot_sign_with_the_cookie_that_still_has_it()
    {
        var (package, step) = await AtHoldAsync("G", worked: null);
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/w/{package}");
        await shed.Database.RunAsync("delete from account_roles where user_id = (select id from accounts where user_name = 'corin')", asOwner: true);
        try
        {
            var response = await corin.PostAsync($"/w/{package}?handler=Sign", ("Step", step.ToString()), ("Note", "Gauged all of it."));
            response.Headers.Location!.ToString().ShouldContain("/not-allowed");
            (await shed.AskAsync(db => db.SignOffs.CountAsync(s => s.OperationId == step))).ShouldBe(0);
        }
        finally
        {
            await shed.Database.RunAsync("insert into account_roles (user_id, role_id) select a.id, r.id from accounts a, roles r where a.user_name = 'corin' and r.name = 'inspector'", asOwner: true);
        }
    }

    [Fact]
    public async Task An_inspector_cannot_inspect_their_own_work()
    {
        var (package, step) = await AtHoldAsync("M", worked: "Ismay Pell");
        using var ismay = await shed.AsAsync("ismay");
        await ismay.OpenAsync($"/w/{package}");
        ismay.Text.ShouldContain("You worked on this, so somebody else must inspect it.");
        (await ismay.PostAsync($"/w/{package}?handler=Sign", ("Step", step.ToString()), ("Note", "Looked at it myself."))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/w/{package}");
        (await corin.PostAsync($"/w/{package}?handler=Sign", ("Step", step.ToString()), ("Note", "Looked at it, as agreed."))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.SignOffs.CountAsync(s => s.OperationId == step))).ShouldBe(1);
    }

    [Fact]
    public async Task Five_wrong_passwords_are_the_last_for_a_while_and_nothing_tells_which_part_was_wrong()
    {
        using var someone = await shed.AsAsync(null);
        await someone.GetAsync("/sign-in");
        (await someone.PostAsync("/sign-in", ("Name", "nosuch"), ("Password", "whatever-it-is"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var unknown = someone.Page.QuerySelector(".err")!.TextContent;
        for (var i = 0; i < 4; i++)
        {
            await someone.PostAsync("/sign-in", ("Name", "hob"), ("Password", "wrong-every-time"));
            someone.Page.QuerySelector(".err")!.TextContent.ShouldBe(unknown);
        }

        await someone.PostAsync("/sign-in", ("Name", "hob"), ("Password", "wrong-every-time"));
        someone.Text.ShouldContain("do not match");
        await someone.PostAsync("/sign-in", ("Name", "hob"), ("Password", OilTag.Demo.DemoStory.Password));
        someone.Text.ShouldContain("Wait a quarter of an hour");
        someone.Page.QuerySelector("input[type=password]")!.GetAttribute("value").ShouldBeNullOrEmpty();
    }

    [Fact]
    public async Task A_right_password_signs_in_with_a_cookie_that_scripts_cannot_read_and_leads_only_to_our_own_pages()
    {
        using var una = await shed.AsAsync(null);
        await una.GetAsync("/sign-in?returnUrl=https%3A%2F%2Fexample.org%2F");
        var response = await una.PostAsync("/sign-in?returnUrl=https%3A%2F%2Fexample.org%2F", ("Name", "una"), ("Password", OilTag.Demo.DemoStory.Password));
        response.Headers.Location!.ToString().ShouldBe("/");
        var cookie = response.Headers.GetValues("Set-Cookie").Single(c => c.StartsWith("oiltag=", StringComparison.Ordinal));
        cookie.ShouldContain("httponly", Case.Insensitive);
        cookie.ShouldContain("samesite=lax", Case.Insensitive);
    }

    [Fact]
    public async Task A_form_without_its_antiforgery_token_is_refused_in_words()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/today/hours");
        var before = await shed.Database.ScalarAsync<long>("select count(*) from hours");
        using var bare = new FormUrlEncodedContent([KeyValuePair.Create("Hours", "2"), KeyValuePair.Create("key", Guid.NewGuid().ToString())]);
        var response = await una.Client.PostAsync("/today/hours", bare, TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        (await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)).ShouldContain("The form had gone stale");
        (await shed.Database.ScalarAsync<long>("select count(*) from hours")).ShouldBe(before);
    }

    [Fact]
    public async Task An_address_that_is_nothing_says_so()
    {
        using var una = await shed.AsAsync("una");
        (await una.GetAsync("/no/such/page")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        una.Text.ShouldContain("There is nothing at this address");
        foreach (var address in new[] { "/w/99999", "/r/99999", "/f/99999", "/machines/Z", $"/places/{Guid.NewGuid()}", $"/plan/{Guid.NewGuid()}" })
        {
            (await una.GetAsync(address)).StatusCode.ShouldBe(HttpStatusCode.NotFound, address);
        }
    }

    /// <summary>A package that stands at its hold, with or without hours of an inspector on it.</summary>
    private async Task<(int Package, Guid Step)> AtHoldAsync(string letter, string? worked)
    {
        var found = await shed.AskAsync(db => (
            from k in db.Packages
            join m in db.Machines on k.MachineId equals m.Id
            where m.Letter == letter && k.ClosedAt == null && k.Operations.Any(o => o.Hold && o.DoneAt == null)
            orderby k.Number
            select new { k.Id, k.Number, Step = k.Operations.Where(o => o.Hold && o.DoneAt == null).OrderBy(o => o.Order).First().Id }).FirstAsync());
        await shed.Database.RunAsync($"update operations set done_at = '{HandClock.Start}', done_by_id = (select id from people where name = 'Tobit Crane') where package_id = '{found.Id}' and not hold", asOwner: true);
        if (worked is not null)
        {
            await shed.Database.RunAsync($"insert into hours (id, machine_id, package_id, person_id, day, minutes, note, recorded_by_id, at) select gen_random_uuid(), (select machine_id from packages where id = '{found.Id}'), '{found.Id}', id, '{HandClock.Day(-3)}', 60, '', id, '{HandClock.Start}' from people where name = '{worked}'", asOwner: true);
        }

        return (found.Number, found.Step);
    }
}

/// <summary>A real installation: no demo people on the sign-in page, and no door for them.</summary>
public sealed class RealInstallationTests(RealInstallationTests.NoDemo shed) : IClassFixture<RealInstallationTests.NoDemo>
{
    public sealed class NoDemo : Shed
    {
        protected override bool Demo => false;
    }

    /// <summary>From an empty database to the first tag, with nothing but the pages.</summary>
    [Fact]
    public async Task A_keeper_fills_an_empty_shed_and_a_helper_takes_the_first_part_off()
    {
        await using var empty = new EmptyShed();
        await empty.InitializeAsync();
        using var keeper = await empty.WithPasswordAsync("anwen", EmptyShed.Password);
        await keeper.OpenAsync("/");
        keeper.Text.ShouldContain("No machine yet");
        await keeper.OpenAsync("/keep");
        (await keeper.PostAsync("/keep?handler=Machine", ("Letter", "F"), ("Name", "Teasel"), ("Year", "1066"), ("Tin", "gold"), ("Assemblies", "- under nothing"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        keeper.Beside("Letter").ShouldContain("C, D, F, P, R, S and W stand for check points");
        keeper.Beside("What").ShouldContain("Say what it is");
        keeper.Beside("Year").ShouldContain("1700 to");
        keeper.Beside("Assemblies").ShouldContain("A part needs an assembly above it");
        keeper.Typed("Name").ShouldBe("Teasel");
        (await keeper.PostAsync("/keep?handler=Machine", ("Letter", "t"), ("Name", "Teasel"), ("What", "thresher"), ("Year", "1912"), ("Kind", "Other"), ("Standard", "Demonstrate"), ("Tin", "teal"), ("Assemblies", "Drum\n  Beater, left\n  Beater, right\nShaker"))).Headers.Location!.ToString().ShouldBe("/machines/T");
        await keeper.OpenAsync("/machines/T");
        keeper.Page.QuerySelectorAll(".drawing a").Length.ShouldBe(2);
        var drum = await empty.AskAsync(db => db.Places.Where(p => p.Name == "Drum").Select(p => p.Id).SingleAsync());
        await keeper.OpenAsync($"/places/{drum}");
        (await keeper.PostAsync($"/places/{drum}?handler=Under", ("Assemblies", "Concave"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await keeper.OpenAsync("/plan/milestones");
        await keeper.PostAsync("/plan/milestones", ("MilestoneName", "Harvest day"), ("MilestoneOn", "2001-01-01"));
        keeper.Beside("MilestoneOn").ShouldContain("still to come");
        (await keeper.PostAsync("/plan/milestones", ("MilestoneName", "Harvest day"), ("MilestoneOn", HandClock.Day(200)), ("MilestoneFixed", "true"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await keeper.OpenAsync("/plan/calendar");
        await keeper.PostAsync("/plan/calendar?handler=Session", ("SessionDay", "Saturday"), ("SessionFrom", "16:00"), ("SessionUntil", "10:00"));
        keeper.Beside("SessionFrom").ShouldContain("closes before it opens");
        (await keeper.PostAsync("/plan/calendar?handler=Session", ("SessionDay", "Saturday"), ("SessionFrom", "10:00"), ("SessionUntil", "16:00"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await keeper.OpenAsync("/keep");
        await keeper.PostAsync("/keep?handler=Person", ("PersonName", "Bede Hay"), ("SignIn", "anwen"), ("Roles", "king"));
        keeper.Beside("SignIn").ShouldContain("already");
        keeper.Text.ShouldContain("Choose what they do");
        await keeper.PostAsync("/keep?handler=Person", ("PersonName", "Bede Hay"), ("SignIn", "bede"), ("Roles", "helper"));
        var link = new Uri(keeper.Page.QuerySelector(".secret")!.TextContent).AbsolutePath;
        using var bede = await empty.AsAsync(null);
        await bede.GetAsync(link);
        bede.Text.ShouldContain("you sign in as bede");
        (await bede.PostAsync(link, ("Password", "a lamp under the stairs"), ("Again", "a lamp under the stairs"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, bede.Text);
        using var helper = await empty.WithPasswordAsync("bede", "a lamp under the stairs");
        (await helper.GetAsync("/keep")).Headers.Location!.ToString().ShouldContain("/not-allowed");
        await helper.OpenAsync("/strip/take-off?m=T");
        (await helper.PostAsync("/strip/take-off?m=T", ("Name", "Beater bar"), ("AssemblyId", drum.ToString()), ("Reason", "worn"), ("Custody", "Shelf"), ("Where", "rack 1"))).Headers.Location!.ToString().ShouldBe("/t/1");
        foreach (var page in new[] { "/", "/machines/T", "/t/1", "/strip", "/survey", "/work", "/make", "/plan", "/today", "/log" })
        {
            await helper.OpenAsync(page);
        }
    }

    /// <summary>A real installation with nothing in it but its first keeper.</summary>
    public sealed class EmptyShed : Shed
    {
        public const string Password = "a-long-enough-one";

        protected override bool Demo => false;

        protected override async Task<TestDatabase> DatabaseAsync()
        {
            var empty = await TestDatabase.EmptyAsync();
            var settings = TestDatabase.Settings(empty.Owner, empty.App, PhotoFolder, demo: false);
            (await Setup.StartUp.PrepareAsync(settings)).ShouldBeNull();
            await Setup.StartUp.AddKeeperAsync(settings, "Anwen Post", "anwen", Password);
            return empty;
        }

        public async Task<Visitor> WithPasswordAsync(string name, string password)
        {
            var visitor = await AsAsync(null);
            await visitor.GetAsync("/sign-in");
            (await visitor.PostAsync("/sign-in", ("Name", name), ("Password", password))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
            return visitor;
        }
    }

    public sealed class BehindTls : Shed
    {
        protected override bool PlainHttp => false;
    }

    [Fact]
    public async Task Behind_tls_every_cookie_is_for_tls_only()
    {
        await using var tls = new BehindTls();
        await tls.InitializeAsync();
        using var una = await tls.AsAsync(null);
        var page = await una.GetAsync("/sign-in");
        var signedIn = await una.PostAsync("/sign-in", ("Name", "una"), ("Password", OilTag.Demo.DemoStory.Password));
        var cookies = page.Headers.GetValues("Set-Cookie").Concat(signedIn.Headers.GetValues("Set-Cookie")).ToList();
        cookies.Count.ShouldBe(3);
        cookies.ShouldAllBe(c => c.Contains("; secure", StringComparison.OrdinalIgnoreCase) && c.Contains("; httponly", StringComparison.OrdinalIgnoreCase));
    }

    [Fact]
    public async Task The_demo_people_are_not_offered_and_not_let_in()
    {
        using var nobody = await shed.AsAsync(null);
        await nobody.GetAsync("/sign-in");
        nobody.Page.QuerySelectorAll("button[name=person]").ShouldBeEmpty();
        nobody.Text.ShouldNotContain("Una Thorsby");
        var response = await nobody.PostAsync("/sign-in?handler=Demo", ("person", "una"));
        response.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await nobody.GetAsync("/")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }
}
