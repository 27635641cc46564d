using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Setup;
using OilTag.Web.Tests;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>A whole Saturday on the tablet, two leads at once, and a what-if.</summary>
public sealed class DayFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task A_whole_saturday_from_sign_in_to_sign_out()
    {
        // 1. Ten past ten: somebody taps their name and has a job.
        shed.Clock.Set(10, 10);
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/today");
        hand.All(".row1").Count.ShouldBe(6);
        hand.PressText(".book button", "Bram Oakley");
        hand.UntilPath(p => p.StartsWith("/today?p=", StringComparison.Ordinal));
        var bram = hand.Find(".row1.fresh");
        bram.Text.ShouldContain("till 16:00");
        var person = bram.GetAttribute("data-person")!;

        // 2. The lead gives him something else with buttons; it stays.
        hand.Press($"[data-person='{person}'] .change");
        hand.UntilPath(p => p.StartsWith("/today/choose/", StringComparison.Ordinal));
        var choice = hand.All(".choices label").First(l => !l.Text.Contains("beside somebody", StringComparison.Ordinal) && !l.Text.Contains("wants", StringComparison.Ordinal) && !l.Text.Contains("at it", StringComparison.Ordinal));
        var title = choice.Text.Split('\n')[0].Trim();
        hand.Press(choice);
        hand.PressText("button.act.go", "Give Bram this job");
        hand.UntilPath(p => p.StartsWith("/today?p=", StringComparison.Ordinal));
        hand.Find($"[data-person='{person}']").Text.ShouldContain("◆");

        // 3. And changes two about by dragging one job onto the other.
        var strips = hand.All(".row1 a.strip[draggable=true]");
        var mine = strips.First(s => Row(s) != person);
        var theirs = strips.First(s => Row(s) != person && Row(s) != Row(mine) && Words(s) != Words(mine));
        var (one, other, wanted) = (Row(mine), Row(theirs), Words(theirs));
        hand.Chrome.ExecuteScript(
            """
            const [from, to] = arguments, data = new DataTransfer();
            const fire = (el, type) => el.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data }));
            fire(from, "dragstart"); fire(to, "dragover"); fire(to, "drop");
            """, mine, theirs);
        hand.Until(() => hand.All($"[data-person='{one}'] a.strip").Any(s => Words(s) == wanted), "The two were not changed about.");
        hand.Find($"[data-person='{other}']").Text.ShouldContain("◆");

        // 4. The slip, and the day sheet on paper.
        hand.Press($"[data-person='{person}'] a.strip");
        hand.UntilPath(p => p.StartsWith("/today/slip/", StringComparison.Ordinal));
        hand.Text.ShouldContain("Bram Oakley");
        hand.Text.ShouldContain("Where the parts are");
        hand.Go("/today/sheet");
        hand.All(".daysheet tbody tr").Count.ShouldBeGreaterThan(6);

        // 5. Somebody has forty minutes.
        hand.Go("/today/short?minutes=40");
        hand.Find("h1").Text.ShouldBe("40 minutes to spare");

        // 6. He goes at three: his name, and "that is right" are the two taps.
        shed.Clock.Set(15, 0);
        hand.Go("/today");
        hand.Press($"[data-person='{person}'] .out");
        hand.UntilPath(p => p.StartsWith("/today/out/", StringComparison.Ordinal));
        hand.Press("button.act.go");
        hand.UntilPath(p => p.StartsWith("/today?gone=", StringComparison.Ordinal));
        hand.Text.ShouldContain("Bram is signed out at 15:00");
        var id = Guid.Parse(person);
        var hours = await shed.AskAsync(db => db.Hours.Where(h => h.PersonId == id && h.On == HandClock.Today).ToListAsync());
        hours.Sum(h => h.Minutes).ShouldBeInRange(60, 290);
        title.ShouldContain(await shed.AskAsync(db => db.Operations.Where(o => o.Id == hours[0].OperationId).Select(o => o.Name).SingleAsync()));

        // 7. Everybody else goes; the board is empty and the hours are on record.
        shed.Clock.Set(16, 5);
        for (var left = hand.All(".row1").Count; left > 0; left--)
        {
            hand.Go("/today");
            hand.Press(".row1 .out");
            hand.UntilPath(p => p.StartsWith("/today/out/", StringComparison.Ordinal));
            hand.Press("button.act.go");
            hand.UntilPath(p => p.StartsWith("/today?gone=", StringComparison.Ordinal));
        }

        hand.Text.ShouldContain("Nobody is signed in.");
        (await shed.AskAsync(db => db.Visits.CountAsync(v => v.Left == null))).ShouldBe(0);
        (await shed.AskAsync(db => db.Hours.Where(h => h.On == HandClock.Today).Select(h => h.PersonId).Distinct().CountAsync())).ShouldBeGreaterThan(4);
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task Two_leads_plan_at_once_and_the_second_is_told()
    {
        shed.Clock.Set(10, 10);
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/today");
        if (hand.All(".row1").Count == 0)
        {
            hand.PressText(".book button", "Gil Fosdyke");
            hand.UntilPath(p => p.StartsWith("/today?p=", StringComparison.Ordinal));
        }

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

    private static string Row(IWebElement strip) => strip.FindElement(By.XPath("ancestor::*[@data-person]")).GetAttribute("data-person")!;

    private static string Words(IWebElement strip) => strip.FindElement(By.CssSelector(".words b")).Text.Replace(" ◆", string.Empty, StringComparison.Ordinal);
}
