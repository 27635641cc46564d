using Microsoft.EntityFrameworkCore;

namespace OilTag.Browser.Tests;

/// <summary>The bench beside the work: an answer is kept with a step and goes stale, and a lift is stopped by its load cells.</summary>
public sealed class BenchFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task An_answer_kept_with_a_step_is_flagged_when_the_reading_is_put_right()
    {
        var (package, finding) = await shed.AskAsync(db => (from k in db.Packages join f in db.Findings on k.FindingId equals f.Id where k.ClosedAt == null && f.Feature == Core.Survey.Feature.Shaft && f.Reading != null select new { Package = k.Number, Finding = f.Number }).FirstAsync()) is var x ? (x.Package, x.Finding) : default;
        var was = await shed.AskAsync(db => db.Findings.AsNoTracking().SingleAsync(f => f.Number == finding));
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go($"/w/{package}");
        hand.PressText("a", "Work something out for it on the bench");
        hand.UntilPath(p => p.StartsWith("/bench?for=", StringComparison.Ordinal));
        hand.PressText("a span", "Wear used");
        hand.UntilPath(p => p.StartsWith("/bench/wear", StringComparison.Ordinal));

        // What is typed is worked out while it is typed; the drawing stands beside it.
        foreach (var (field, text) in new[] { ("nominal", was.Nominal!.Text), ("limit", was.Limit!.Text), ("reading", was.Reading!.Text) })
        {
            hand.Find($"input[name='{field}']").SendKeys(text);
        }

        hand.Until(() => hand.All("#answer svg.sketch").Count == 1 && hand.Path.Contains("reading=", StringComparison.Ordinal), "There is no answer.");
        hand.Find("#answer .first dd").Text.ShouldContain("in 100");
        hand.Find("input[name='With']").GetAttribute("value")!.ShouldStartWith($"W{package} step");
        hand.PressText("button", "Keep this answer");
        hand.UntilPath(p => p.StartsWith($"/w/{package}", StringComparison.Ordinal));
        hand.Find(".kept").Text.ShouldContain("Wear used");
        hand.All(".kept .say").ShouldBeEmpty();

        // Somebody measures again and puts the finding right.
        hand.Go($"/f/{finding}/edit");
        var reading = hand.Find("input[name='Reading']");
        reading.Clear();
        reading.SendKeys("2.4970 in");
        hand.Press(hand.All("main form button.act, form button.act").Last(b => b.Displayed));
        hand.UntilPath(p => p == $"/f/{finding}");
        hand.Go($"/w/{package}");
        hand.Find(".kept .say").Text.ShouldContain($"The reading of F{finding} was {was.Reading.Text} and is 2.4970 in now.");
        hand.PressText("a", "Work it out again");
        hand.UntilPath(p => p.StartsWith("/bench/wear", StringComparison.Ordinal));
        hand.Find("input[name='reading']").GetAttribute("value").ShouldBe("2.4970 in");
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_cell_over_its_limit_stops_everybody()
    {
        hand.Chrome.Phone();
        hand.SignIn("tobit");
        hand.Go("/lifts/1/live");
        hand.Text.ShouldContain("Nothing is read yet.");

        // The page reads by itself; pressing makes it quicker.
        for (var i = 0; i < 60 && hand.All(".haltword").Count == 0; i++)
        {
            hand.Chrome.ExecuteScript("document.querySelector('#cells form button')?.click()");
            await Task.Delay(250, TestContext.Current.CancellationToken);
        }

        hand.Find(".haltword").Text.ShouldStartWith("STOP");
        hand.Find(".haltword").GetAttribute("role").ShouldBe("alert");
        var size = hand.Find(".haltword b").GetCssValue("font-size");
        double.Parse(size.Replace("px", string.Empty, StringComparison.Ordinal), System.Globalization.CultureInfo.InvariantCulture).ShouldBeGreaterThan(60);
        hand.Go("/lifts/1/live");
        hand.Text.ShouldContain("A lift supervisor or an inspector says when it goes on.");
        hand.All("form[action*='handler=Step']").ShouldBeEmpty();

        // The lift supervisor says why it goes on.
        hand.SignIn("una");
        hand.Go("/lifts/1/live");
        hand.Find("textarea[name='ClearNote'], input[name='ClearNote']").SendKeys("The crib had sunk; a plate lies under it now");
        hand.PressText("button", "It goes on");
        hand.Until(() => hand.All(".haltword").Count == 0, "The stop still stands.");
        hand.Complaints().ShouldBeEmpty();
    }
}
