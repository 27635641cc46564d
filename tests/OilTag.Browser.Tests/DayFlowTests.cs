using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Setup;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>Two leads at once, and a what-if.</summary>
public sealed class DayFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task Two_leads_plan_at_once_and_the_second_is_told()
    {
        shed.Clock.Set(10, 10);
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/today");
        var person = hand.Find(".row1").GetAttribute("data-person")!;
        hand.Go($"/today/choose/{person}");

        // Jory, at another screen, leaves the same person to themselves meanwhile.
        using (var jory = await shed.AsAsync("jory"))
        {
            await jory.OpenAsync($"/today/choose/{person}");
            (await jory.PostAsync($"/today/choose/{person}", ("Operation", string.Empty), ("From", "10:10"), ("Seen", jory.Typed("Seen")!))).StatusCode.ShouldBe(System.Net.HttpStatusCode.Redirect);
        }

        hand.Press(".choices label");
        hand.Press("button.act.go");
        hand.Until(() => hand.Text.Contains("Jory Pascow changed the day’s work since you opened this page", StringComparison.Ordinal), "The second lead was not told.");
        hand.Press("button.act.go");
        hand.UntilPath(p => p.StartsWith("/today?p=", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_what_if_is_tried_and_stands_beside_the_plan()
    {
        await shed.PlanAsync();
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/plan");
        hand.PressText(".acts a", "What if");
        hand.UntilPath(p => p == "/plan/try");
        hand.PressText("nav .key", "Another priority");
        hand.UntilPath(p => p.Contains("kind=standing", StringComparison.Ordinal));
        hand.Select("Machine", "Gannet");
        hand.Choose("Standing", "Leaving");
        hand.Press("button.act.go");
        hand.UntilPath(p => p.StartsWith("/plan/try/0", StringComparison.Ordinal));
        hand.Text.ShouldContain("Working it out");

        // The page shows it by itself when the worker is through.
        var maker = new PlanMaker(shed.Services.GetRequiredService<IDbContextFactory<OilTagDb>>(), shed.Clock, shed.Services.GetRequiredService<OilTagSettings>().Zone);
        while (await maker.WorkAsync(TestContext.Current.CancellationToken))
        {
        }

        hand.Until(() => hand.All("svg.plan").Count == 1, "The try was not shown when it was done.");
        hand.Text.ShouldContain("Gannet before all others");
        hand.All("table.rows")[0].FindElements(By.CssSelector("tbody tr")).Count.ShouldBe(3);
        hand.PressText(".acts button", "Drop it");
        hand.UntilPath(p => p == "/plan/try");
        hand.Text.ShouldContain("Nothing was tried yet.");
        hand.Complaints().ShouldBeEmpty();
    }
}
