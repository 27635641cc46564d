using Microsoft.EntityFrameworkCore;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>A lead plans a frame from pasted lines, changes it and prints it; a helper does it on a phone; a reading beyond its limit is accepted.</summary>
public sealed class PackageTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private const string Frame = "1. sketch it with the load\t0.5\t1\t2\n2. HOLD Load agreed\n3. saw the long members 1-2-3 h, 2 people\n4. + saw the braces 1-2 h\n5. drill the base plates 2 h\n    hole 12.0-12.2 mm x 3\n6. tack it square 1-2-4 h\n    diagonals differ max 2 mm\n7. weld it 2-4-8 h, adults only\n8. dress the welds 1 h\n9. HOLD Welds seen\n10. paint the load on it 1 h, over 8 C\ncure 1 d\n11. try it with the load 1 h, 2 people\n12. HOLD Fit for use";

    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task A_frame_of_twelve_steps_from_pasted_lines_to_a_concession_on_a_phone()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/work/new?m=G");
        hand.Type("Title", "Turning frame for the starboard float");
        hand.Chrome.ExecuteScript("const t = document.querySelector('#f-Lines'); t.value = arguments[0]; t.dispatchEvent(new Event('input', { bubbles: true }))", Frame);
        hand.Until(() => hand.All("#read li .disc").Count == 12, "The lines are not read while they are typed.");
        hand.Find("#read").Text.ShouldContain("side by side with 3");
        hand.Find("#read").Text.ShouldContain("3 readings, hole 12.0 to 12.2 mm");

        // A key writes the answer into the line.
        hand.Find("#f-Lines").SendKeys(Keys.Control + Keys.End);
        hand.Find("#f-Lines").SendKeys(Keys.Enter + "lift it with 2 ton hoist 1 h");
        hand.Until(() => hand.All(".asked button").Count == 3, "Nothing is asked.");
        hand.PressText(".asked button", "tonne");
        hand.Until(() => hand.Find("#f-Lines").GetDomProperty("value")!.EndsWith("lift it with 2 tonne hoist 1 h", StringComparison.Ordinal), "The answer is not in the line.");
        hand.PressText("button.act", "Open the package");
        hand.UntilPath(p => p.StartsWith("/w/", StringComparison.Ordinal));
        var package = hand.Path;
        hand.Find("h1").Text.ShouldContain("Turning frame");
        hand.All("svg.stock").Count.ShouldBe(1);

        // Reordered and taken out; what changed is kept with the package.
        hand.PressText("a.plain", "Change the steps");
        hand.UntilPath(p => p.EndsWith("/steps", StringComparison.Ordinal));
        var lines = hand.Find("#f-Lines").GetDomProperty("value")!.Split('\n').ToList();
        var dress = lines.Single(l => l.Contains("Dress the welds", StringComparison.Ordinal));
        lines.Remove(dress);
        lines.RemoveAll(l => l.Contains("2 tonne hoist", StringComparison.Ordinal));
        lines.Insert(lines.FindIndex(l => l.Contains("Paint the load", StringComparison.Ordinal)), dress);
        hand.Chrome.ExecuteScript("document.querySelector('#f-Lines').value = arguments[0]", string.Join('\n', lines));
        hand.PressText("button.act", "Change the steps");
        hand.UntilPath(p => p == package);
        hand.Go(package + "/steps");
        hand.Text.ShouldContain("moved “Dress the welds” behind “Welds seen”; took out “Lift it with 2 tonne hoist”.");
        hand.Go(package + "/sheet");
        hand.Text.ShouldContain("HOLD: Load agreed.");
        hand.All(".wbox").Count.ShouldBe(4);

        // A helper on a phone; the hold is lifted by somebody who did not work on it.
        hand.Chrome.Phone();
        hand.SignIn("tobit");
        hand.Go(package);
        hand.Press(".next form[action*='Done'] button");
        hand.Until(() => hand.Text.Contains("An inspector lifts it", StringComparison.Ordinal), "It does not stop at the hold.");
        hand.SignIn("ismay");
        hand.Go(package);
        hand.Type("Note", "Load and reach agreed with the sketch.");
        hand.PressText("button.act", "Lift the hold");
        hand.Until(() => hand.Text.Contains("Saw the long members", StringComparison.Ordinal) && !hand.Text.Contains("What did you inspect", StringComparison.Ordinal), "The hold is not lifted.");
        hand.SignIn("tobit");
        hand.Go(package);
        hand.Press(".after form[action*='Done'] button");
        hand.Until(() => hand.All(".after form[action*='Done']").Count == 0, "The step beside it is not done.");
        hand.Press(".next form[action*='Done'] button");
        hand.Until(() => hand.All("#reading").Count == 1, "The next step does not ask for its readings.");
        hand.All(".next form[action*='Done']").ShouldBeEmpty();
        foreach (var text in new[] { "12.1", "12.05" })
        {
            var settled = hand.Find(".n3 p b").Text;
            hand.Find("#reading").SendKeys(text + Keys.Enter);
            hand.Until(() => hand.Find(".n3 p b").Text != settled, $"{text} is not kept.");
        }

        hand.Find("#reading").SendKeys("12.4" + Keys.Enter);
        hand.Until(() => hand.Text.Contains("Two ways on", StringComparison.Ordinal), "A reading beyond its limit is kept without a way on.");
        hand.Text.ShouldContain("above the limit");
        hand.Find("#reading").GetDomProperty("value").ShouldBe("12.4");
        hand.PressText(".ways button", "Ask to leave it so");
        hand.Until(() => hand.Text.Contains("Tobit Crane asks to leave 12.4", StringComparison.Ordinal), "Nobody is asked.");
        var step = hand.Path;
        hand.SignIn("ismay");
        hand.Go(step);
        hand.Type("AcceptWhy", "A washer covers it");
        hand.PressText("button.act", "Accept");
        hand.Until(() => hand.Text.Contains("accepted: A washer covers it", StringComparison.Ordinal), "It is not accepted.");
        hand.SignIn("tobit");
        hand.Go(package);
        hand.Press(".next form[action*='Done'] button");
        hand.Until(() => hand.Find(".next h2").Text.Contains("Tack it square", StringComparison.Ordinal), "The step is not finished.");
        hand.Complaints().ShouldBeEmpty();

        // Given up by a lead, with the reason in sight.
        hand.SignIn("una");
        hand.Go(package);
        hand.PressText("summary", "Cancel the package");
        hand.Type("CancelWhy", "The boatyard lends us one");
        hand.PressText("button", "Cancel package");
        hand.Until(() => hand.Text.Contains("cancelled", StringComparison.Ordinal) && hand.Text.Contains("The boatyard lends us one", StringComparison.Ordinal), "It is not cancelled.");
        (await shed.AskAsync(db => db.Packages.Where(k => k.Title.StartsWith("Turning frame for the starboard")).Select(k => k.CancelledWhy).SingleAsync())).ShouldBe("The boatyard lends us one");
    }
}
