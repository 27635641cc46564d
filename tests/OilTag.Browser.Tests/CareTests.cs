using Microsoft.EntityFrameworkCore;
using OilTag.Demo;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>Bolts pulled with a wrench, two signatures on the shed's tablet, a service list through two rounds, a sheet typed in from paper.</summary>
public sealed class CareTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    // A lead opens a package and is led to it.
    private string Open(string title, string lines)
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/work/new?m=G");
        hand.Type("Title", title);
        hand.Chrome.ExecuteScript("const t = document.querySelector('#f-Lines'); t.value = arguments[0]; t.dispatchEvent(new Event('input', { bubbles: true }))", lines);
        hand.PressText("button.act", "Open the package");
        hand.UntilPath(p => p.StartsWith("/w/", StringComparison.Ordinal));
        return hand.Path;
    }

    [Fact]
    public async Task A_circle_of_studs_is_pulled_by_wire_and_by_hand_stopped_over_and_goes_on()
    {
        hand.Chrome.Laptop();
        hand.SignIn("gil");
        hand.Go("/w/85/3");
        hand.PressText("a.act", "Pull the bolts");
        hand.UntilPath(p => p.EndsWith("/torque", StringComparison.Ordinal));
        hand.Find("h1").Text.ShouldContain("Stud 7 to 36 lb ft");
        hand.Find("svg.bolts").GetAttribute("aria-label")!.ShouldContain("stud 7 is next, pass 2 of 3");

        // The wrench is followed; what it lets go at is kept by itself.
        hand.PressText("a.act", "Follow the wrench");
        hand.Until(() => hand.All(".live").Count == 1, "Nothing is shown while the wrench is pulled.");
        hand.Until(() => hand.Find("h1").Text.Contains("Stud 8", StringComparison.Ordinal), "The pull is not kept.");
        hand.PressText("a.act", "Type it instead");

        // By hand: too far stops the order.
        hand.Until(() => hand.All("#f-pull").Count == 1, "There is no field.");
        hand.Find("#f-pull").SendKeys("30" + Keys.Enter);
        hand.Until(() => hand.Text.Contains("4.0 lb ft short. Pull on", StringComparison.Ordinal), "Short is kept.");
        hand.Find("#f-pull").Clear();
        hand.Find("#f-pull").SendKeys("45" + Keys.Enter);
        hand.Until(() => hand.Find("h1").Text.Contains("Stud 8 is over", StringComparison.Ordinal), "The order goes on.");
        hand.Text.ShouldContain("Nothing else is pulled until this one is dealt with.");
        hand.Find("#f-pull").SendKeys("36.5");
        hand.PressText("button.act", "Slackened, pull 8 again");
        hand.Until(() => hand.Find("h1").Text.Contains("Stud 9", StringComparison.Ordinal), "It does not go on.");
        hand.All("tr.struck").Count.ShouldBe(2, "the demo's and this one");
        hand.Complaints().ShouldBeEmpty();

        // The same on a phone: the drawing first.
        hand.Chrome.Phone();
        hand.Go("/w/85/3/torque");
        hand.Find("svg.bolts").Displayed.ShouldBeTrue();
        ((long)hand.Chrome.ExecuteScript("return document.documentElement.scrollWidth")!).ShouldBeLessThanOrEqualTo(390);
        (await shed.AskAsync(db => db.TorqueReadings.CountAsync(r => r.Pass == 2 && r.StruckAt == null))).ShouldBe(8);
    }

    [Fact]
    public async Task Two_sign_one_after_the_other_on_the_sheds_tablet()
    {
        var package = Open("Signed on the tablet", "fit it 1 h\nHOLD Fit seen\nlock it 1 h\nHOLD Locks seen");
        foreach (var (name, pin) in new[] { ("corin", "80146"), ("ismay", "2590") })
        {
            hand.SignIn(name);
            hand.Go("/me/pin");
            hand.Type("Old", DemoStory.Password);
            hand.Type("Pin", pin);
            hand.Type("PinAgain", pin);
            hand.PressText("button.act", "Choose it");
            hand.UntilPath(p => p == "/me");
        }

        hand.SignIn("tobit");
        await shed.AskAsync(db => db.SignIns.Where(s => db.Users.Any(a => a.Id == s.AccountId && db.People.Any(p => p.Id == a.PersonId
            && p.Name == "Tobit Crane"))).ExecuteUpdateAsync(u => u.SetProperty(s => s.Shared, true)));
        foreach (var (name, pin, words) in new[] { ("Corin Vance", "80146", "Fits without a gap"),
            ("Ismay Pell", "2590", "All six pins in") })
        {
            hand.Go(package);
            hand.Press(".next form[action*='Done'] button");
            hand.Until(() => hand.All(".pinkeys button").Count == 11, "No PIN is asked for.");
            hand.Type("Note", words);
            hand.PressText(".tallies label", name);
            foreach (var digit in pin)
            {
                hand.Press($".pinkeys button[data-digit='{digit}']");
            }

            hand.PressText("button.act", "Lift the hold");
            hand.Until(() => hand.Text.Contains($"“{words}”", StringComparison.Ordinal), $"{name} has not signed.");
        }

        hand.Complaints().ShouldBeEmpty();
        (await shed.AskAsync(db => db.SignOffs.CountAsync(s => s.ByPin))).ShouldBe(2);
    }

    [Fact]
    public void A_service_list_goes_round_twice()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/machines/M/service");
        hand.PressText("summary", "Put something on the service list");
        hand.Type("What", "Oil the motion");
        hand.Chrome.ExecuteScript("const s = document.querySelector('#set select[name=PlaceId]'); s.value = [...s.options].find(o => o.text === 'Frames').value");
        hand.Type("With", "steam oil");
        hand.Type("Amount", "fill the cups");
        hand.Press("input[name=BeforeRun]");
        hand.PressText("button.act", "Put it on the list");
        hand.Until(() => hand.Text.Contains("Oil the motion", StringComparison.Ordinal)
            && hand.Text.Contains("Before the next run", StringComparison.Ordinal), "It is not on the list.");

        hand.Chrome.Phone();
        hand.SignIn("tobit");
        for (var round = 1; round <= 2; round++)
        {
            hand.Go("/today");
            hand.Press("button[aria-label='Done: Oil the motion']");
            hand.Until(() => hand.All("button[aria-label='Done: Oil the motion']").Count == 0, $"It stands on today after round {round}.");
            hand.Go("/machines/M/standing");
            hand.Text.ShouldNotContain("Oil the motion");
            hand.Go("/machines/M/service");
            hand.Type("UseHours", "0.5");
            hand.PressText("button.act", "Write it down");
            hand.Until(() => hand.Text.Contains("Before the next run", StringComparison.Ordinal),
                $"It is not due again after run {round}.");
            hand.Go("/machines/M/standing");
            hand.Text.ShouldContain("Oil the motion, Frames, before the next run");
        }

        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_sheet_that_comes_back_on_paper_is_typed_in_on_one_page()
    {
        var package = Open("On paper", "ream 2 h\n    each 6.35-6.40 mm x 2\ndress 1 h");
        var number = package.Split('/')[^1];
        hand.SignIn("tobit");
        hand.Go(package + "/sheet");
        hand.All("a[href$='/sheet.pdf']").Count.ShouldBe(1);
        hand.PressText("a.act", "Type it in");
        hand.Until(() => hand.All(".sheetrow").Count == 2, "The page has no rows.");
        hand.Find("[name='Sheet']").Clear();
        hand.Type("Sheet", $"OT W{number}-1");
        hand.Chrome.ExecuteScript("const s = document.querySelector('select[name=Who]'); s.value = [...s.options].find(o => o.text === 'Nell Garrow').value");
        hand.Find("[name='Rows[0].Readings[0]']").SendKeys("6.37");
        hand.Find("[name='Rows[0].Readings[1]']").SendKeys("6.38");
        hand.Press("[name='Rows[0].Done']");
        hand.PressText("button.act", "Take the sheet in");
        hand.UntilPath(p => p == package);
        hand.Text.ShouldContain("1 of 2 steps done");
        hand.Complaints().ShouldBeEmpty();
        (await shed.AskAsync(db => db.StepReadings.CountAsync(r => r.Wanted == "each 6.35-6.40 mm x 2" && db.People.Any(p => p.Id == r.ById
            && p.Name == "Nell Garrow")))).ShouldBe(2);
    }
}
