using System.Net;
using System.Text.Json;
using Ical.Net;
using Microsoft.EntityFrameworkCore;

namespace OilTag.Web.Tests;

/// <summary>Hours in kind, a person's own data, the private calendar, wishes, and a name that is taken out. Each test has a shed of its own.</summary>
public sealed class PeopleTests : IAsyncLifetime
{
    private readonly Shed shed = new();

    public ValueTask InitializeAsync() => shed.InitializeAsync();

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Hours_are_worth_what_the_group_has_set()
    {
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync("/people/hours");
        hesper.Text.ShouldContain("Worth £");
        hesper.Text.ShouldContain("all other work");
        hesper.Text.ShouldContain("County museums’ table of volunteer rates, general work");
        await hesper.PostAsync("/people/hours", ("Skill", ""), ("Pounds", "free"), ("From", "2026-01-01"), ("Source", ""));
        hesper.Beside("Pounds").ShouldContain("in pounds");
        hesper.Beside("Source").ShouldContain("Say where the rate comes from");
        hesper.Typed("Pounds").ShouldBe("free");
        (await hesper.PostAsync("/people/hours", ("Skill", ""), ("Pounds", "16.20"), ("From", shed.Clock.Now.Date.PlusDays(-30).ToString("uuuu-MM-dd", null)), ("Source", "Letter of the fund"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await hesper.OpenAsync("/people/hours");
        hesper.Text.ShouldContain("Letter of the fund");
        hesper.Text.ShouldContain("£16.20");

        // The list for a grant adds up to what the page says.
        var csv = (await hesper.Client.GetStringAsync("/people/hours.csv", Ct)).Split('\n', StringSplitOptions.RemoveEmptyEntries);
        csv[0].TrimEnd().ShouldBe("day,person,machine,package,title,step,from,hours,kind,rate_pounds,value_pounds,rate_source,rate_since");
        var since = shed.Clock.Now.Date.PlusYears(-1);
        var minutes = await shed.AskAsync(db => db.Hours.Where(h => h.On > since).SumAsync(h => h.Minutes));
        csv.Length.ShouldBe(1 + await shed.AskAsync(db => db.Hours.CountAsync(h => h.On > since)));
        hesper.Text.ShouldContain(Shared.Say.Hours(minutes).Replace('\u00A0', ' '));

        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/people/hours");
        (await una.PostAsync("/people/hours", ("Pounds", "15"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
    }

    [Fact]
    public async Task A_person_has_their_own_data_and_nobody_elses()
    {
        using var tobit = await shed.AsAsync("tobit");
        using var file = JsonDocument.Parse(await tobit.Client.GetStringAsync("/me/data.json", Ct));
        file.RootElement.GetProperty("name").GetString().ShouldBe("Tobit Crane");
        var mine = await shed.AskAsync(db => db.Hours.CountAsync(h => db.People.Any(p => p.Id == h.PersonId && p.Name == "Tobit Crane")));
        file.RootElement.GetProperty("hours").GetArrayLength().ShouldBe(mine);
        file.RootElement.GetProperty("visits").GetArrayLength().ShouldBe(1);
        file.RootElement.GetProperty("mayDo").EnumerateArray().Select(s => s.GetProperty("skill").GetString()).ShouldContain("fitter");
        file.RootElement.GetRawText().ShouldNotContain("Dilys");
        (await tobit.Client.GetStringAsync("/me/hours.csv", Ct)).Split('\n', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(mine + 1);
        using var nobody = await shed.AsAsync(null);
        (await nobody.GetAsync("/me/data.json")).StatusCode.ShouldNotBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task The_calendar_is_behind_a_private_link_that_can_be_made_anew()
    {
        await shed.PlanAsync();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/me");
        (await una.PostAsync("/me?handler=Feed")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/me");
        var first = new Uri(una.Page.QuerySelector("code")!.TextContent).AbsolutePath;
        using var nobody = await shed.AsAsync(null);
        var text = await nobody.Client.GetStringAsync(first, Ct);

        // Read back by the library, as a calendar program would.
        var calendar = Calendar.Load(text)!;
        calendar.Events.Count(e => e.Summary!.StartsWith("The shed is open", StringComparison.Ordinal)).ShouldBeGreaterThan(30);
        calendar.Events.ShouldContain(e => e.Summary!.StartsWith("First steam", StringComparison.Ordinal));
        calendar.Events.ShouldContain(e => e.Summary!.Contains("is whole: ploughing weekend", StringComparison.Ordinal) && (e.DtEnd!.Value - e.DtStart!.Value).TotalDays == 2);
        calendar.Events.ShouldContain(e => e.Summary!.StartsWith("Last day to order: ", StringComparison.Ordinal) || e.Summary.StartsWith("Order now: ", StringComparison.Ordinal));
        calendar.Events.Select(e => e.Uid).ShouldBeUnique();

        // The zone's own rules go with it, summer and winter.
        calendar.TimeZones.ShouldHaveSingleItem()!.TzId.ShouldBe("Europe/London");
        calendar.TimeZones[0]!.TimeZoneInfos.Select(z => z.Name).ToHashSet().ShouldBe(["STANDARD", "DAYLIGHT"], ignoreOrder: true);
        var work = calendar.Events.First(e => e.Summary == "The shed is open: Work weekend");
        (work.DtStart!.Value.Hour, work.DtStart.TzId).ShouldBe((10, "Europe/London"));
        foreach (var name in await shed.AskAsync(db => db.People.Select(p => p.Name).ToListAsync()))
        {
            text.ShouldNotContain(name);
        }

        await una.PostAsync("/me?handler=Feed");
        (await nobody.GetAsync(first)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await nobody.GetAsync("/calendar/x.ics")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await nobody.GetAsync($"/calendar/{new string('0', 40)}.ics")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Wishes_are_kept_and_taken_back()
    {
        var id = await shed.AskAsync(db => db.People.Where(p => p.Name == "Tobit Crane").Select(p => p.Id).SingleAsync());
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/people/{id}");
        (await tobit.PostAsync($"/people/{id}?handler=Likes", ("likes", "M"), ("likes", "riveter"), ("likes", "baking"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync($"/people/{id}");
        tobit.Page.QuerySelectorAll("input[name=likes][checked]").Select(i => i.GetAttribute("value")).ShouldBe(["M", "riveter"], ignoreOrder: true);
        await tobit.PostAsync($"/people/{id}?handler=Likes", ("likes", "M"));
        (await shed.AskAsync(db => db.Wishes.CountAsync(w => w.PersonId == id && w.EndedAt == null))).ShouldBe(1);
        var other = await shed.AskAsync(db => db.People.Where(p => p.Name == "Nell Garrow").Select(p => p.Id).SingleAsync());
        (await tobit.PostAsync($"/people/{other}?handler=Likes", ("likes", "M"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
    }

    [Fact]
    public async Task A_name_is_taken_out_and_the_hours_stay()
    {
        await shed.PlanAsync();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/promises");
        await una.PostAsync("/plan/promises", ("Name", "To the members"));
        var tobit = await shed.AskAsync(db => db.People.Where(p => p.Name == "Tobit Crane").Select(p => p.Id).SingleAsync());
        var minutes = await shed.AskAsync(db => db.Hours.Where(h => h.PersonId == tobit).SumAsync(h => h.Minutes));
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync($"/people/{tobit}");
        await hesper.PostAsync($"/people/{tobit}?handler=Name", ("Typed", "Tobit"));
        hesper.Beside("Typed").ShouldContain("Type Tobit Crane");
        (await hesper.PostAsync($"/people/{tobit}?handler=Name", ("Typed", "tobit crane"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Hours.Where(h => h.PersonId == tobit).SumAsync(h => h.Minutes))).ShouldBe(minutes);
        (await shed.AskAsync(db => db.Users.CountAsync(u => u.PersonId == tobit))).ShouldBe(0);

        // Nowhere in the database does the name stand any more.
        foreach (var table in await shed.AskAsync(db => db.Database.SqlQuery<string>($"select table_name::text as \"Value\" from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'").ToListAsync()))
        {
#pragma warning disable EF1002 // The names of tables come from the database itself.
            var found = await shed.AskAsync(db => db.Database.SqlQueryRaw<int>($"select count(*)::int as \"Value\" from \"{table}\" t where t::text ilike '%Tobit Crane%'").SingleAsync());
#pragma warning restore EF1002
            found.ShouldBe(0, table);
        }

        foreach (var page in new[] { "/", "/today", "/people", "/people/hours", "/log", "/plan", "/plan/promises" })
        {
            await hesper.OpenAsync(page);
            hesper.Text.ShouldNotContain("Tobit Crane", customMessage: page);
        }

        var self = await shed.AskAsync(db => db.People.Where(p => p.Name == "Hesper Lowe").Select(p => p.Id).SingleAsync());
        await hesper.OpenAsync($"/people/{self}");
        await hesper.PostAsync($"/people/{self}?handler=Name", ("Typed", "Hesper Lowe"));
        hesper.Beside("Typed").ShouldContain("Another keeper");
    }
}
