using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>One piece of real work from "this came off" to "it is back on and signed for", on a laptop and on a phone.</summary>
public sealed class StoryTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task From_coming_off_to_back_on_and_signed_for(bool phone)
    {
        if (phone)
        {
            hand.Chrome.Phone();
        }
        else
        {
            hand.Chrome.Laptop();
        }

        var name = phone ? "Steam dome stay" : "Lubricator bracket";

        // 1. A lead signs in and sees the shed: machines, open assemblies, next milestone with days left, who worked lately, what is stuck and on what.
        hand.SignIn("una");
        hand.Find("h1").Text.ShouldBe("The shed");
        hand.All(".bay").Count.ShouldBe(4);
        hand.All(".bay").ShouldAllBe(b => b.Text.Contains("in 10", StringComparison.Ordinal));
        hand.Text.ShouldContain("Worked lately");
        hand.Text.ShouldContain("First steam");
        hand.All(".bay svg.countdown").ShouldAllBe(c => c.GetAttribute("aria-label")!.Contains(" days: ", StringComparison.Ordinal));
        hand.Text.ShouldContain("36 ft of 1 1/8 in copper bar, not ordered");

        // 2. Opens a machine: its breakdown as a drawing with the state of each assembly, beside its tags.
        hand.Go("/machines/M");
        hand.All(".drawing svg a").Count.ShouldBeGreaterThan(25);
        var blocks = hand.All(".drawing a title").Select(t => t.GetAttribute("textContent")!).ToList();
        blocks.ShouldContain(b => b.StartsWith("Boiler, stuck, 36 ft of 1 1/8 in copper bar", StringComparison.Ordinal));
        blocks.Count(b => b.StartsWith("Cylinders, on bench", StringComparison.Ordinal)).ShouldBe(1);
        hand.All("a.tag").Count.ShouldBeGreaterThan(10);

        // 3. Takes a part off.
        hand.Press("a[href^='/strip/take-off']");
        var number = int.Parse(hand.Find(".bigtag").Text, CultureInfo.InvariantCulture);
        hand.Type("Name", name);
        hand.Select("AssemblyId", "Boiler fittings");
        hand.Choose("Hand", "Left");
        hand.Press("button[data-fill='To reach what is behind it']");
        var first = hand.Find("input[name='FirstTicked']");
        var before = first.GetAttribute("value")!;
        hand.Press(first);
        hand.Type("FastenerWhat", "3/8 BSW bolt");
        hand.Type("FastenerCount", "4");
        hand.Type("FastenerBad", "1");
        hand.Type("Orientation", "Chamfer to the inside");
        hand.Type("Marks", "Two file nicks");
        hand.Choose("Custody", "Shelf");
        hand.Type("Where", "rack C2");
        hand.Press("button.go");
        hand.UntilPath(p => p == $"/t/{number}");
        hand.Text.ShouldContain("Chamfer to the inside");
        hand.Text.ShouldContain("3/8 BSW bolt, 1 bad");
        hand.Text.ShouldContain("rack C2");
        hand.All("dl.facts a.tagno").Select(a => a.Text).ShouldContain(before);

        // Its partner on the other side comes off as well, to be made alike.
        hand.Go("/strip/take-off?m=M");
        hand.Type("Name", name);
        hand.Select("AssemblyId", "Boiler fittings");
        hand.Choose("Hand", "Right");
        hand.Press("button[data-fill='To reach what is behind it']");
        hand.Choose("Custody", "Shelf");
        hand.Type("Where", "rack C2");
        hand.Press("button.go");
        hand.UntilPath(p => p.StartsWith("/t/", StringComparison.Ordinal));
        var partner = int.Parse(hand.Path[3..], CultureInfo.InvariantCulture);

        // The jump box takes the number from anywhere.
        hand.Go("/work");
        if (!phone)
        {
            hand.Find("body").SendKeys("/");
            hand.Chrome.SwitchTo().ActiveElement().GetAttribute("id").ShouldBe("jump");
        }

        hand.Find("#jump").SendKeys(number.ToString(CultureInfo.InvariantCulture) + Keys.Enter);
        hand.UntilPath(p => p == $"/t/{number}");

        // 4. A helper logs a finding with a measured value as people type it; the verdict comes with its working.
        hand.SignIn("dilys");
        hand.Go($"/t/{number}");
        hand.Press("a[href^='/survey/new']");
        hand.Type("What", "Pitted along the lower edge");
        hand.Choose("Feature", "Thickness");
        hand.Type("Reading", "0.26 in");
        hand.Type("Nominal", "3/8 in");
        hand.Type("Limit", "5/16 in");
        hand.Until(() => hand.Find("#verdict").Text.Contains("Beyond limit", StringComparison.Ordinal), "The verdict did not show while typing.");
        var photo = Path.Combine(Path.GetTempPath(), $"oiltag-{Guid.NewGuid():N}.jpg");
        await File.WriteAllBytesAsync(photo, Web.Tests.Pictures.JpegWithPlace(Web.Tests.Pictures.Jpeg(320, 240)), TestContext.Current.CancellationToken);
        hand.Find("input[name=photo]").SendKeys(photo);
        hand.Press("button.go");
        hand.UntilPath(p => p.StartsWith("/f/", StringComparison.Ordinal));
        File.Delete(photo);
        var finding = hand.Path;
        hand.Find(".working .result").Text.ShouldContain("Beyond limit: 184 % of the allowed wear is used");
        hand.Text.ShouldContain("Standard: Service, set by Marram No. 3.");
        hand.Until(() => (bool)hand.Chrome.ExecuteScript("const i = document.querySelector('.photos img'); i.scrollIntoView(); return i.complete && i.naturalWidth > 0")!, "The photo does not show.");

        // 5. A lead settles on remaking a handed pair: a package with steps and a route card with counts for left and right.
        hand.SignIn("una");
        hand.Go(finding);
        hand.Choose("Disposition", "Remake");
        hand.Type("Left", "1");
        hand.Type("Right", "1");
        hand.Select("StartFrom", "Sheet formed, ribs, brackets, panels over a form");
        hand.Type("Why", "Too far gone, and the pair shall match");
        hand.Select("Milestone", "First steam");
        hand.Press("form[action*='Decide'] button.act");
        hand.UntilPath(p => p.StartsWith("/w/", StringComparison.Ordinal));
        var package = hand.Path;
        hand.Find("h1").Text.ShouldContain($"Make {name}, 1 left and 1 right");
        hand.All(".readylist > li").Count.ShouldBe(7);
        var card = hand.Find("a[href^='/r/']").GetDomAttribute("href")!;

        // What the shape is known from stands first: the part itself, and that its drawing is missing.
        hand.Go(card + "/evidence");
        hand.Text.ShouldContain("Nothing says yet what it looked like.");
        hand.Select("Kind", "the part itself");
        hand.Type("Title", "left one, pitted at the lower edge");
        hand.PressText("button", "Add it");
        hand.Until(() => hand.Text.Contains("A part without its drawing.", StringComparison.Ordinal), "The evidence is not kept.");

        // 6. The milestone's forecast counts it and says how it was worked out.
        var milestone = await shed.AskAsync(db => db.Milestones.Where(m => m.Name == "First steam").Select(m => m.Id).SingleAsync());
        hand.Go($"/plan/{milestone}");
        hand.Text.ShouldContain(name);
        hand.Text.ShouldContain("in 10 for the wanted date");
        hand.Text.ShouldContain("Safe date");
        hand.Text.ShouldContain("sessions gave");
        hand.Text.ShouldContain("open packages,");

        // 7. A helper logs hours in three taps on a phone and moves the counts.
        hand.SignIn("tobit");
        hand.Go(package);
        var taps = 0;
        void Tap(string css)
        {
            hand.Press(css);
            taps++;
        }

        Tap("a[href^='/today/hours?job=']");
        Tap("input[name=Hours][value='2'] + span, label:has(input[name=Hours][value='2'])");
        Tap("button.go");
        taps.ShouldBe(3);
        hand.UntilPath(p => p.Contains("logged=", StringComparison.Ordinal));
        hand.Text.ShouldContain("2 h logged");
        hand.Go(card);
        var stages = new[] { "blank", "formed", "drilled", "finished" };
        foreach (var side in new[] { "left", "right" })
        {
            foreach (var stage in stages)
            {
                hand.Press($"button[aria-label='One more {side} {stage}']");
                hand.Until(() => hand.All("table.counts tbody tr")[Array.IndexOf(stages, stage)].FindElements(By.CssSelector(".val"))[side == "left" ? 0 : 1].Text.StartsWith('1'), $"{side} {stage} did not move.");
            }
        }

        hand.Press("button[aria-label='One more left blank']");
        hand.Until(() => hand.Text.Contains("1 wanted and 1 blanked", StringComparison.Ordinal), "A count over the pieces was not refused.");
        hand.Go(package);
        for (var i = 0; i < 6; i++)
        {
            var done = hand.All("ol.steps li.done").Count;
            hand.Press("form[action*='Done'] button");
            hand.Until(() => hand.All("ol.steps li.done").Count == done + 1, "The step is not done.");
        }

        // 8. An inspector who did not do the work signs the hold; only then may the package close.
        hand.SignIn("una");
        hand.Go(package);
        hand.Text.ShouldContain("An inspector lifts it, who has not worked on it.");
        hand.All("form[action*='Close']").ShouldBeEmpty();
        hand.SignIn("ismay");
        hand.Go(package);
        hand.Type("Note", "Both gauged against the old part. Good.");
        hand.PressText("button.act", "Lift the hold");
        hand.Until(() => hand.Text.Contains("lifted by Ismay Pell", StringComparison.Ordinal), "The hold is not lifted.");
        hand.SignIn("una");
        hand.Go(package);
        hand.PressText("button.act", "Close package");
        hand.Until(() => hand.Text.Contains("Closed by Una Thorsby", StringComparison.Ordinal), "The package is not closed.");

        // 9. The part is refitted; its life reads as a story; machine, assembly and milestone show hours, money and progress; the log has every step.
        hand.SignIn("tobit");
        hand.Go($"/t/{number}");
        hand.PressText("a.act", "Put it back on");
        hand.UntilPath(p => p.EndsWith("/refit", StringComparison.Ordinal));
        hand.Find("input[name=UseNew][value=true]").Selected.ShouldBeTrue();
        hand.Press("button.go");
        hand.UntilPath(p => p == $"/t/{number}");
        var story = hand.All("ol.story li").Select(l => l.Text).ToList();
        string[] expected =
        [
            $"Una Thorsby took off {name}, left", "Dilys Marrack logged finding", "Dilys Marrack added a photo", "Una Thorsby settled", "Una Thorsby opened package", "Una Thorsby opened route card",
            "Tobit Crane worked 2 h", "Tobit Crane moved one left piece", "Tobit Crane moved one right piece", "Tobit Crane finished “Take the shape off the old part”", "Ismay Pell lifted the hold", "Una Thorsby closed package", $"Tobit Crane put a new {name}, left on",
        ];
        var at = -1;
        foreach (var line in expected)
        {
            at = story.FindIndex(at + 1, l => l.Contains(line, StringComparison.Ordinal));
            at.ShouldBeGreaterThanOrEqualTo(0, line);
        }

        hand.Find(".tag .stub").Text.ShouldBe("Back on");
        IReadOnlyList<string> Fitted() => [.. hand.All("table.counts tbody tr")[4].FindElements(By.CssSelector(".val")).Select(v => v.Text[..1])];
        hand.Go(card);
        Fitted().ShouldBe(["1", "0"]);

        // The right-hand piece of the same card goes on where the partner hung.
        hand.Go($"/t/{partner}/refit");
        hand.Find("input[name=UseNew][value=false]").Selected.ShouldBeTrue();
        hand.Choose("UseNew", "true");

        // The other choice is not what the key would record until it is checked.
        hand.Find("button.go").Enabled.ShouldBeFalse();
        hand.PressText("button", "Check this");
        hand.UntilPath(p => p.Contains("UseNew=true", StringComparison.Ordinal));
        hand.Find("button.go").Text.ShouldBe($"Put the new piece on for {partner}");
        hand.Press("button.go");
        hand.UntilPath(p => p == $"/t/{partner}");
        hand.Go(card);
        Fitted().ShouldBe(["1", "1"]);
        hand.Go($"/t/{partner}/refit?UseNew=true");
        hand.Text.ShouldContain("has ended");
        hand.Go("/log");
        hand.All("ol.story li").First().Text.ShouldContain($"Tobit Crane put a new {name}, right on");
        var assembly = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Boiler fittings").Select(p => p.Id).SingleAsync());
        foreach (var page in new[] { "/machines/M", $"/places/{assembly}", $"/plan/{milestone}" })
        {
            hand.Go(page);
            var facts = hand.Find("dl.facts").Text;
            facts.ShouldContain("worked,");
            facts.ShouldContain("spent of");
            facts.ShouldContain("done");
        }

        var tag = await shed.AskAsync(db => db.Tags.SingleAsync(t => t.Number == number));
        tag.End.ShouldBe(TagEnd.Fitted);
        var fitted = await shed.AskAsync(db => (from f in db.Fittings join p in db.Parts on f.PartId equals p.Id where f.SlotId == tag.SlotId && f.Until == null select p).SingleAsync());
        (fitted.Provenance, fitted.Hand, fitted.Id == tag.PartId).ShouldBe((Provenance.NewMade, Core.Machines.Hand.Left, false));
        hand.Complaints().ShouldBeEmpty();
        hand.Chrome.OtherHosts().ShouldBeEmpty();
    }
}
