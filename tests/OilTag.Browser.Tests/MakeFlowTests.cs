using Microsoft.EntityFrameworkCore;

namespace OilTag.Browser.Tests;

/// <summary>A handed pair is made: its first piece is inspected, and an outside shop reports by its link and sees nothing else.</summary>
public sealed class MakeFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task A_pair_is_inspected_finished_by_a_shop_and_counted()
    {
        var n = await shed.AskAsync(db => db.RouteCards.Where(c => c.Part == "Bow plate").MaxAsync(c => c.Number));
        hand.Chrome.Phone();
        hand.SignIn("dilys");
        hand.Go($"/r/{n}");
        hand.Press("button[aria-label='One more left drilled']");
        hand.Until(() => hand.All("#counts .err").Count == 1, "Nothing was refused.");
        hand.Find("#counts .err").Text.ShouldContain("not inspected yet");
        hand.Press("button[aria-label='One more right formed']");
        hand.Until(() => hand.All("table.counts tbody tr")[1].Text.Count(c => c == '1') >= 4, "The right one is not formed.");

        // The inspector measures both and lets them go on.
        hand.SignIn("corin");
        foreach (var kind in new[] { "Left", "Right" })
        {
            hand.Go($"/r/{n}/first");
            var field = hand.Find($"input[aria-label='Flange height, {kind}']");
            field.SendKeys("19 mm");
            hand.Press($"button[aria-label='Write down Flange height, {kind}']");
            hand.Until(() => hand.All("td b").Any(b => b.Text == "19 mm"), "The reading does not stand there.");
            hand.Find($"input[id='n-2-0-{kind}']").SendKeys("Even, no cracks");
            hand.Press($"button[aria-label='Others may follow: {kind}, Formed']");
            hand.UntilPath(p => p == $"/r/{n}");
        }

        hand.SignIn("dilys");
        hand.Go($"/r/{n}");
        foreach (var (side, column) in new[] { ("left", 0), ("right", 1) })
        {
            hand.Press($"button[aria-label='One more {side} drilled']");
            hand.Until(() => hand.All("table.counts tbody tr")[2].FindElements(OpenQA.Selenium.By.CssSelector(".val"))[column].Text.StartsWith('1'), $"{side} is not drilled.");
        }

        // The lead gives the shop its link; without a sign-in it opens this card alone.
        hand.SignIn("una");
        hand.Go($"/r/{n}/shop");
        hand.PressText("button", "Make the link");
        hand.Until(() => hand.All(".secret").Count == 1, "There is no link.");
        var link = new Uri(hand.Find(".secret").Text.Trim()).AbsolutePath;
        hand.Chrome.Manage().Cookies.DeleteAllCookies();
        hand.Go(link);
        hand.Text.ShouldContain("Bow plate");
        hand.Press("button[aria-label='One more left finished']");
        hand.Until(() => hand.All("table.counts .val").Count > 0 && hand.All("table.counts .val")[0].Text.StartsWith('1'), "The shop's count did not move.");
        hand.Go($"/r/{n}");
        hand.Path.ShouldStartWith("/sign-in");

        hand.SignIn("una");
        hand.Go($"/r/{n}");
        hand.Text.ShouldContain("Crag End Platers reported finished (left): +1");
        hand.Complaints().ShouldBeEmpty();
    }
}
