using System.Globalization;
using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data.Survey;

namespace OilTag.Web.Tests;

/// <summary>Options for a finding, what is recommended, and decisions that come back or need somebody else.</summary>
public sealed class OptionTests(Shed shed) : IClassFixture<Shed>
{
    private Task<int> ChineAsync() => shed.AskAsync(db => db.Findings.Where(f => f.What.StartsWith("Pitting at the starboard chine")).Select(f => f.Number).SingleAsync());

    private async Task<int> NewFindingAsync(Visitor who, string what, string reading = "7 mm", params (string, string?)[] more)
    {
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Smokebox").Select(p => p.Id).FirstAsync());
        await who.OpenAsync($"/survey/new?place={place}");
        var response = await who.PostAsync($"/survey/new?place={place}", [("What", what), ("Feature", "Thickness"), ("Reading", reading), ("Nominal", "10 mm"), ("Limit", "7.5 mm"), ("LimitFor", "Service"), .. more]);
        response.StatusCode.ShouldBe(HttpStatusCode.Redirect, who.Text);
        var number = int.Parse(response.Headers.Location!.ToString().Split('/')[^1], CultureInfo.InvariantCulture);
        await who.OpenAsync($"/f/{number}");
        return number;
    }

    private static async Task OptionAsync(Visitor who, int finding, string disposition, string cost, string hours, string weeks, string original)
    {
        await who.OpenAsync($"/f/{finding}/options");
        (await who.PostAsync($"/f/{finding}/options", ("Disposition", disposition), ("What", "as usual"), ("Cost", cost), ("Hours", hours), ("Weeks", weeks), ("Original", original))).StatusCode.ShouldBe(HttpStatusCode.Redirect, who.Text);
    }

    [Fact]
    public async Task Options_are_compared_and_the_one_that_is_settled_on_makes_a_package_with_its_hours()
    {
        using var una = await shed.AsAsync("una");
        var number = await NewFindingAsync(una, "Thinned at the bottom");
        await OptionAsync(una, number, "Repair", "300 410 620", "30 38 60", "1", "90");
        await OptionAsync(una, number, "Remake", "900", "20", "2", "0");
        await OptionAsync(una, number, "Leave", "10", "1", "0", "100");
        await una.OpenAsync($"/f/{number}/options");
        una.Text.ShouldContain("Not allowed: it is beyond the limit for Service; to keep it so takes a concession.");
        una.Text.ShouldContain("£300–£620");

        // Marram renews and an hour counts £12: repair 410 + 456 beats 900 + 240.
        una.Text.ShouldContain("Recommended. Repair: as usual. Likely £410 and 38 h");
        una.Text.ShouldContain("Under “leave what is sound” it would be the same.");
        await una.OpenAsync($"/f/{number}");
        var option = una.Page.QuerySelectorAll(".choices input[data-does]").First(i => i.HasAttribute("checked"));
        option.Closest("label")!.TextContent.ShouldContain("Repair, recommended");
        una.Page.QuerySelectorAll("input[name=Disposition]").Count(i => Guid.TryParse(i.GetAttribute("value"), out _)).ShouldBe(2);
        una.Page.QuerySelectorAll("input[name=Disposition][checked]").Length.ShouldBe(1);
        var decided = await una.PostAsync($"/f/{number}?handler=Decide", ("Disposition", option.GetAttribute("value")), ("Why", "Plenty of sound metal"), ("Left", "1"), ("Right", "0"));
        decided.StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var package = int.Parse(decided.Headers.Location!.ToString().Split('/')[^1], CultureInfo.InvariantCulture);
        var likely = await shed.AskAsync(db => db.Packages.Where(k => k.Number == package).SelectMany(k => k.Operations).SumAsync(o => o.Likely));
        likely.ShouldBe(38, 1e-9);
        (await shed.AskAsync(db => db.Packages.Where(k => k.Number == package).Select(k => k.EstimatePence).SingleAsync())).ShouldBe(41_000);
        (await shed.AskAsync(db => (from d in db.Decisions join f in db.Findings on d.FindingId equals f.Id where f.Number == number select d).SingleAsync())).ShouldSatisfyAllConditions(
            d => d.Disposition.ShouldBe(Disposition.Repair),
            d => d.OptionId.ToString().ShouldBe(option.GetAttribute("value")));

        // What was decided for stays in the record.
        (await una.PostAsync($"/f/{number}/options?handler=Away&id={option.GetAttribute("value")}")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("decided for and stays in the record");
    }

    [Fact]
    public async Task An_option_is_changed_taken_away_and_refused_in_words()
    {
        using var una = await shed.AsAsync("una");
        var number = await NewFindingAsync(una, "Grooved");
        await OptionAsync(una, number, "Repair", "100", "5", "0", "90");
        await una.OpenAsync($"/f/{number}/options");
        await una.OpenAsync(una.Page.QuerySelectorAll("a").First(a => a.TextContent == "Change").GetAttribute("href")!);
        una.Typed("Cost").ShouldBe("100");
        var change = una.Page.QuerySelector("form[action*='change=']")!.GetAttribute("action")!;
        (await una.PostAsync(change, ("Disposition", "Repair"), ("What", "as usual"), ("Cost", "500 300"), ("Hours", "many"), ("Original", "120"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Cost").ShouldContain("low, likely, high");
        una.Beside("Hours").ShouldContain("Numbers only");
        una.Beside("Original").ShouldContain("0 to 100");
        una.Typed("Hours").ShouldBe("many");
        (await una.PostAsync(change, ("Disposition", "Repair"), ("What", "<b>bold</b>"), ("Cost", "120"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/f/{number}/options");
        una.Html.ShouldContain("&lt;b&gt;bold&lt;/b&gt;");
        una.Text.ShouldContain("£120");
        (await shed.AskAsync(db => db.LogEntries.CountAsync(l => l.Sentence.StartsWith($"changed an option for F{number}:") && l.Before != null))).ShouldBe(1);
        var id = change.Split("change=")[1];
        (await una.PostAsync($"/f/{number}/options?handler=Away&id={id}")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/f/{number}/options?handler=Away&id={id}")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync(change, ("Disposition", "Repair"), ("What", "late"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("taken away meanwhile");
        (await una.GetAsync("/f/999999/options")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_temporary_repair_needs_its_day_and_comes_back_by_itself()
    {
        using var una = await shed.AsAsync("una");
        var number = await NewFindingAsync(una, "Worn thin under the saddle");
        (await una.PostAsync($"/f/{number}?handler=Decide", ("Disposition", "TemporaryRepair"), ("Why", "to run this season"), ("Left", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("A temporary repair comes back by itself: say on which day");
        una.Typed("Why").ShouldBe("to run this season");
        var day = HandClock.Day(100);
        (await una.PostAsync($"/f/{number}?handler=Decide", ("Disposition", "TemporaryRepair"), ("Why", "to run this season"), ("Left", "1"), ("ReturnOn", day))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/f/{number}");
        una.Text.ShouldContain("Temporary repair until");
        una.Page.QuerySelector(".headline .stuck").ShouldBeNull();

        await una.OpenAsync("/survey");
        var before = Undecided(una);
        await shed.AskAsync(db => db.Decisions.Where(d => d.Why == "to run this season").ExecuteUpdateAsync(s => s.SetProperty(d => d.ReturnOn, new NodaTime.LocalDate(2020, 1, 1))));
        await una.OpenAsync("/survey");
        Undecided(una).ShouldBe(before + 1);
        await una.OpenAsync($"/f/{number}");
        una.Page.QuerySelector(".headline .stuck")!.TextContent.ShouldStartWith("Back again: temporary repair");

        static int Undecided(Visitor v) => int.Parse(v.Page.QuerySelector(".headline .stuck")!.TextContent.Split('\u00A0', ' ')[0], CultureInfo.InvariantCulture);
    }

    [Fact]
    public async Task A_repair_that_was_to_last_until_a_milestone_is_back_after_it()
    {
        using var una = await shed.AsAsync("una");
        var number = await NewFindingAsync(una, "Worn until the open day");
        var milestone = await shed.AskAsync(db => db.Milestones.OrderByDescending(m => m.On).FirstAsync());
        (await una.PostAsync($"/f/{number}?handler=Decide", ("Disposition", "TemporaryRepair"), ("Why", "until then"), ("Left", "1"), ("ReturnAfter", milestone.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Findings.Where(FindingQuery.IsOpen(milestone.On)).AnyAsync(f => f.Number == number))).ShouldBeFalse();
        (await shed.AskAsync(db => db.Findings.Where(FindingQuery.IsOpen(milestone.On.PlusDays(1))).AnyAsync(f => f.Number == number))).ShouldBeTrue();

        // The milestone is put off, and with it the day on which the repair comes back.
        await shed.AskAsync(db => db.Milestones.Where(m => m.Id == milestone.Id).ExecuteUpdateAsync(s => s.SetProperty(m => m.On, milestone.On.PlusDays(10))));
        (await shed.AskAsync(db => db.Findings.Where(FindingQuery.IsOpen(milestone.On.PlusDays(10))).AnyAsync(f => f.Number == number))).ShouldBeFalse();
    }

    [Fact]
    public async Task A_concession_is_given_by_an_inspector_or_keeper_and_by_nobody_else()
    {
        using var una = await shed.AsAsync("una");
        using var ismay = await shed.AsAsync("ismay");
        using var tobit = await shed.AsAsync("tobit");
        var number = await NewFindingAsync(una, "A casting void near the port");
        (string, string?)[] concession = [("Disposition", "Concession"), ("Why", "grinding it out moves the port timing"), ("Left", "1")];
        (await una.PostAsync($"/f/{number}?handler=Decide", concession)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("A concession is an inspector's or a keeper's to give");
        await tobit.OpenAsync($"/f/{number}");
        (await tobit.PostAsync($"/f/{number}?handler=Decide", concession)).Headers.Location!.ToString().ShouldContain("not-allowed", Case.Insensitive);
        await ismay.OpenAsync($"/f/{number}");
        ismay.Page.QuerySelectorAll("input[name=Disposition]").Length.ShouldBe(1);
        (await ismay.PostAsync($"/f/{number}?handler=Decide", ("Disposition", "Repair"), ("Why", "better"), ("Left", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ismay.Text.ShouldContain("A lead decides about it");
        (await ismay.PostAsync($"/f/{number}?handler=Decide", concession)).StatusCode.ShouldBe(HttpStatusCode.Redirect, ismay.Text);
        await una.OpenAsync($"/f/{number}");
        una.Text.ShouldContain("Concession: grinding it out moves the port timing");
    }

    [Fact]
    public async Task The_policy_of_a_machine_is_a_leads_to_set_and_changes_what_is_recommended()
    {
        using var una = await shed.AsAsync("una");
        using var tobit = await shed.AsAsync("tobit");
        (await tobit.GetAsync("/machines/M/policy")).StatusCode.ShouldNotBe(HttpStatusCode.OK);
        var number = await NewFindingAsync(una, "Half worn", "8.6 mm");
        await OptionAsync(una, number, "Leave", "0", "0", "0", "100");
        await OptionAsync(una, number, "Repair", "50", "3", "0", "90");
        await una.OpenAsync($"/f/{number}/options");
        una.Text.ShouldContain("Recommended. Repair");
        await una.OpenAsync("/machines/M/policy");
        (await una.PostAsync("/machines/M/policy", ("Policy", "LeaveWhatIsSound"), ("Approach", "Conserve"), ("Hour", "lots"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Hour").ShouldContain("Pounds an hour");
        (await una.PostAsync("/machines/M/policy", ("Policy", "LeaveWhatIsSound"), ("Approach", "Conserve"), ("Hour", "0"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/f/{number}/options");
        una.Text.ShouldContain("Recommended. Leave");
        una.Text.ShouldContain("Under “replace while apart” it would be repair: £50 more and 3 h more.");
        (await una.PostAsync("/machines/M/policy", ("Policy", "ReplaceWhileApart"), ("Approach", "Renew"), ("Hour", "12"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task A_range_is_kept_as_typed_and_says_that_it_cannot_be_told()
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await NewFindingAsync(tobit, "Somewhere about", "7 to 8 mm", ("Origin", "ByHandling"));
        tobit.Text.ShouldContain("Cannot tell: one end of 7 to 8 mm is beyond limit, the other at limit. Measure it closer.");
        tobit.Text.ShouldContain("It came in handling");
        tobit.Text.ShouldContain("0.276 in to 0.315 in");
        await tobit.OpenAsync($"/f/{number}/edit");
        tobit.Typed("Reading").ShouldBe("7 to 8 mm");
        await tobit.GetAsync("/survey.csv");
        tobit.Html.ShouldContain("7 to 8 mm");
    }

    [Fact]
    public async Task A_donor_machine_is_worked_out_against_wanted_parts_and_nothing_is_recorded()
    {
        using var visiting = await shed.AsAsync("visiting");
        await visiting.OpenAsync("/survey/donor?m=G");
        visiting.Typed("Parts").ShouldContain("Bottom plate 3, right 1280 50");
        var before = await shed.AskAsync(db => db.LogEntries.CountAsync());
        await visiting.OpenAsync("/survey/donor?m=L&Price=2,500&Carriage=600&StripHours=40&Storage=240&Resale=350&Parts=gearbox+900+90%0Acylinder+head+1400+60%0Aaxle+650+80%0Aradiator+and+cowls+2200+50");
        visiting.Text.ShouldContain("Buy it: it gains £280.");
        visiting.Text.ShouldContain("It may cost £2,780 at most.");
        (await visiting.GetAsync("/survey/donor?m=L&Price=cheap&Parts=gearbox")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        visiting.Beside("Price").ShouldContain("A number");
        visiting.Beside("Parts").ShouldContain("gearbox 900 90");
        (await shed.AskAsync(db => db.LogEntries.CountAsync())).ShouldBe(before);
    }

    [Fact]
    public async Task The_demo_compares_five_ways_for_the_chine()
    {
        using var visiting = await shed.AsAsync("visiting");
        await visiting.OpenAsync($"/f/{await ChineAsync()}/options");
        visiting.Text.ShouldContain("Recommended. Repair: Let in two doublers, 0.9 m; keep the plate.");
        visiting.Page.QuerySelectorAll("table.ways tbody tr").Length.ShouldBe(5);
        visiting.Page.QuerySelector("form[method=post]").ShouldBeNull();
    }
}
