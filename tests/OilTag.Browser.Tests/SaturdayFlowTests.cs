using Microsoft.EntityFrameworkCore;
using OilTag.Web.Tests;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>A whole Saturday on the tablet, in a shed of its own: what others leave behind decides who has a job.</summary>
public sealed class SaturdayFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
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

    private static string Row(IWebElement strip) => strip.FindElement(By.XPath("ancestor::*[@data-person]")).GetAttribute("data-person")!;

    private static string Words(IWebElement strip) => strip.FindElement(By.CssSelector(".words b")).Text.Replace(" ◆", string.Empty, StringComparison.Ordinal);
}
