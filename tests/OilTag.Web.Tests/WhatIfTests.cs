using System.Net;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>Changes tried beside the plan, advice, and what was promised.</summary>
public sealed class WhatIfTests(Shed shed) : IClassFixture<Shed>
{
    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_change_is_tried_kept_built_upon_and_dropped()
    {
        await shed.PlanAsync();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/try");
        var last = shed.Clock.Now.Date.PlusDays(200).ToString("uuuu-MM-dd", null);

        // What was typed stays when it is refused.
        (await una.PostAsync("/plan/try", ("Kind", "sessions"), ("Day", "Sunday"), ("From", "16:00"), ("Until", "10:00"), ("Date", last))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Until").ShouldContain("closes before it opens");
        una.Typed("From").ShouldBe("16:00");
        una.Typed("Date").ShouldBe(last);

        var address = (await una.PostAsync("/plan/try", ("Kind", "sessions"), ("Day", "Sunday"), ("From", "10:00"), ("Until", "16:00"), ("Date", last))).Headers.Location!.ToString();
        var id = Guid.Parse(address.Split('/')[^1]);
        await una.OpenAsync(address);
        una.Text.ShouldContain("It is being worked out.");
        (await una.GetAsync(address + "?handler=State")).Headers.Contains("HX-Refresh").ShouldBeFalse();
        await WorkAsync();
        (await una.GetAsync(address + "?handler=State")).Headers.Contains("HX-Refresh").ShouldBeTrue();
        await una.OpenAsync(address);
        una.Text.ShouldContain("Open on Sundays from 10:00 to 16:00");
        una.Page.QuerySelectorAll("table.rows")[0].QuerySelectorAll("tbody tr").Length.ShouldBe(3);
        una.Page.QuerySelector("svg.plan").ShouldNotBeNull();

        // Six months of Sundays help; the comparison is of one luck, so it can be told.
        var result = System.Text.Json.JsonSerializer.Deserialize<TriedResult>((await shed.AskAsync(db => db.Plans.SingleAsync(p => p.Id == id))).Result, PlanJson.Options)!;
        result.Milestones.ShouldAllBe(m => m.After!.Chance >= m.Before.Chance - 0.02);
        result.Milestones.ShouldContain(m => m.Told && m.After!.Chance > m.Before.Chance);

        // On top of it another; both stay until they are dropped.
        var second = (await una.PostAsync("/plan/try", ("Kind", "standing"), ("On", id.ToString()), ("Machine", "M"), ("Standing", "Leaving"))).Headers.Location!.ToString();
        await WorkAsync();
        await una.OpenAsync(second);
        una.Page.QuerySelectorAll(".changes li").Select(l => l.TextContent).ShouldBe([una.Page.QuerySelectorAll(".changes li")[0].TextContent, "Marram No. 3 before all others"]);
        await una.PostAsync($"{second}?handler=Drop");
        await una.PostAsync($"{address}?handler=Drop");
        (await una.GetAsync(address)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await una.GetAsync(second)).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/plan/try");
        (await tobit.PostAsync("/plan/try", ("Kind", "standing"), ("Machine", "M"), ("Standing", "Leaving"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
    }

    [Fact]
    public async Task Advice_names_changes_and_one_of_them_is_tried()
    {
        await shed.PlanAsync();
        using var una = await shed.AsAsync("una");
        var milestone = await shed.AskAsync(db => db.Milestones.Where(m => m.Name == "First steam").Select(m => m.Id).SingleAsync());
        await una.OpenAsync($"/plan/{milestone}");
        una.Text.ShouldContain("The plan says");
        await una.PostAsync($"/plan/{milestone}", ("InTen", "11"));
        una.Beside("InTen").ShouldContain("nothing is certain");
        var address = (await una.PostAsync($"/plan/{milestone}", ("InTen", "9"))).Headers.Location!.ToString();
        await WorkAsync();
        await una.OpenAsync(address);
        una.Page.QuerySelector("h1")!.TextContent.ShouldBe("What brings First steam to 9 in 10");
        una.Page.QuerySelectorAll("table.rows tbody tr").Length.ShouldBeGreaterThan(0);
        var form = una.Page.QuerySelector("form:has(input[name=suggestion])")!;
        var tried = (await una.PostAsync(form.GetAttribute("action")!, ("suggestion", "0"), ("enough", form.QuerySelector("input[name=enough]")!.GetAttribute("value")!))).Headers.Location!.ToString();
        await WorkAsync();
        await una.OpenAsync(tried);
        una.Page.QuerySelectorAll(".changes li").Length.ShouldBeGreaterThan(0);
        await una.PostAsync(form.GetAttribute("action")!, ("suggestion", "99"), ("enough", "true"));
        una.Text.ShouldContain("That suggestion is not there any more.");
    }

    [Fact]
    public async Task A_promise_stays_and_what_moved_is_explained()
    {
        await shed.PlanAsync();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/promises");
        await una.PostAsync("/plan/promises", ("Name", ""));
        una.Beside("Name").ShouldContain("Say to whom");
        (await una.PostAsync("/plan/promises", ("Name", "To the members"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);

        // A step of the retubing turns out to want four hundred hours.
        var step = await shed.AskAsync(db => (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.Title == "Retube: 98 steel tubes, expand and bead" && o.DoneAt == null orderby o.Order select o).FirstAsync());
        Task StillWantsAsync(double? hours, NodaTime.Instant? at) => shed.AskAsync(db => db.Operations.Where(o => o.Id == step.Id).ExecuteUpdateAsync(u => u.SetProperty(o => o.Left, hours).SetProperty(o => o.LeftAt, at), Ct));
        await StillWantsAsync(400, shed.Clock.GetCurrentInstant());
        await una.OpenAsync("/plan/promises");
        var promise = una.Page.QuerySelector("input[name=promise]")!.GetAttribute("value")!;
        (await una.PostAsync("/plan/promises?handler=Why", ("promise", promise))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await WorkAsync();
        await una.OpenAsync("/plan/promises");
        una.Text.ShouldContain("To the members");
        una.Text.ShouldContain("work takes other hours than was thought");
        una.Text.ShouldContain($"Retube: 98 steel tubes, expand and bead: {step.Name}");
        una.Text.ShouldContain("later");
        await una.PostAsync("/plan/promises?handler=Why", ("promise", Guid.NewGuid().ToString()));
        una.Text.ShouldContain("That promise is not on record.");

        // The others in this shed plan without it.
        await StillWantsAsync(step.Left, step.LeftAt);
    }

    [Fact]
    public void Every_kind_of_change_comes_back_from_the_file_as_it_was()
    {
        var day = shed.Clock.Now.Date;
        IReadOnlyList<PlanChange> changes =
        [
            new MoreSessions(NodaTime.IsoDayOfWeek.Sunday, new NodaTime.LocalTime(10, 0), new NodaTime.LocalTime(16, 30), new DaySpan(day, day.PlusDays(9))), new NewHolder("p", "s"), new PutOff("7", day), new RepairForNow("7", new Core.Work.HoursRange(1, 2, 3), day),
            new FasterShop("d", DaysRange.Weeks(1, 2, 3)), new FasterOutside("o", DaysRange.Exactly(4)), new OtherStanding("M", MachineStanding.Filler), new OtherWeight("m", 4),
        ];
        changes.Select(c => c.GetType()).ShouldBe(typeof(PlanChange).Assembly.GetTypes().Where(t => t.IsSubclassOf(typeof(PlanChange))), ignoreOrder: true);
        System.Text.Json.JsonSerializer.Deserialize<IReadOnlyList<PlanChange>>(System.Text.Json.JsonSerializer.Serialize(changes, PlanJson.Options), PlanJson.Options).ShouldBe(changes);
    }

    private async Task WorkAsync()
    {
        var maker = new PlanMaker(shed.Services.GetRequiredService<IDbContextFactory<OilTagDb>>(), shed.Clock, shed.Services.GetRequiredService<OilTagSettings>().Zone);
        while (await maker.WorkAsync(Ct))
        {
        }
    }
}
