using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace OilTag.Browser.Tests;

/// <summary>Findings in the hand: a photo marked with a finger, options compared and a decision recorded, a matrix filled by keyboard and paste.</summary>
public sealed class FindingTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task On_a_phone_a_photo_is_marked_with_a_finger_the_place_is_picked_and_the_finding_logged()
    {
        var file = Path.Combine(Path.GetTempPath(), $"oiltag-{Guid.NewGuid():N}.jpg");
        await File.WriteAllBytesAsync(file, Pictures.Jpeg(800, 600), TestContext.Current.CancellationToken);
        try
        {
            hand.Chrome.Phone();
            hand.SignIn("tobit");
            hand.Go("/survey");
            hand.PressText("a.act", "Log a finding");
            hand.UntilPath(p => p == "/survey/new");
            hand.Find("[data-tools]").Displayed.ShouldBeFalse();
            hand.Find("#f-photo").SendKeys(file);
            hand.Until(() => hand.All("[data-canvas] svg.over").Count == 1 && hand.Find("[data-tools]").Displayed, "The photo was not shown.");
            Draw(0.25, 0.25, 0.75, 0.75);
            hand.Press(hand.Find("[name=Tool][value=arrow]"));
            Draw(0.1, 0.9, 0.4, 0.6);
            hand.Press(hand.Find("[name=Tool][value=words]"));
            hand.Find("[data-say]").SendKeys("starts here");
            Draw(0.1, 0.9, 0.1, 0.9);
            hand.Find("#f-Where").SendKeys("chimney cap");
            hand.Until(() => hand.All("#where input[name=place]:checked").Count == 1, "The place was not offered.");
            hand.Type("What", "Cracked from the rim to the first bolt");
            hand.PressText("button.act", "Log it now");
            hand.UntilPath(p => p.StartsWith("/f/", StringComparison.Ordinal));
            hand.All(".photos .over path").Count.ShouldBe(4);
            hand.Complaints().ShouldBeEmpty();
            var number = int.Parse(hand.Path[3..], System.Globalization.CultureInfo.InvariantCulture);
            var photo = await shed.AskAsync(db => (from p in db.Photos join f in db.Findings on p.FindingId equals f.Id where f.Number == number select p).SingleAsync());
            photo.Marks.Select(m => m.Kind).ShouldBe([PhotoMarkKind.Circle, PhotoMarkKind.Arrow, PhotoMarkKind.Words]);
            var circle = photo.Marks[0];
            circle.X1.ShouldBeInRange(180, 220);
            circle.Y2.ShouldBeInRange(430, 470);
            photo.Marks[2].Text.ShouldBe("starts here");

            // A mark is taken off again at the photo itself.
            hand.Press(".photos a");
            hand.UntilPath(p => p.EndsWith("/mark", StringComparison.Ordinal));
            hand.Press("[data-undo]");
            hand.PressText("button.act", "Keep the marks");
            hand.UntilPath(p => p.StartsWith("/f/", StringComparison.Ordinal));
            (await shed.AskAsync(db => db.Photos.Where(p => p.Id == photo.Id).SingleAsync())).Marks.Count.ShouldBe(2);
        }
        finally
        {
            File.Delete(file);
        }
    }

    [Fact]
    public async Task Options_are_compared_and_one_is_settled_on()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        var number = await shed.AskAsync(db => (from o in db.Options join f in db.Findings on o.FindingId equals f.Id where f.Decided == null group o by f.Number into g where g.Count() > 2 select g.Key).FirstAsync());
        hand.Go($"/f/{number}");
        hand.PressText("a.plain", "side by side");
        hand.UntilPath(p => p.EndsWith("/options", StringComparison.Ordinal));
        hand.Text.ShouldContain("Recommended");
        hand.Go($"/f/{number}");
        var other = hand.All("input[name=Disposition]").First(o => !o.Selected && Guid.TryParse(o.GetAttribute("value"), out _) && o.GetAttribute("data-does") is "Repair" or "Buy" or "LaterPattern" or "Leave");
        var option = Guid.Parse(other.GetAttribute("value")!);
        hand.Press(other);
        hand.Type("Why", "It keeps the original metal");
        hand.PressText("button.act", "Settle");
        hand.Until(() => !hand.Path.StartsWith("/f/", StringComparison.Ordinal) || hand.Text.Contains("It keeps the original metal", StringComparison.Ordinal), "The decision was not recorded.");
        var decision = await shed.AskAsync(db => db.Decisions.SingleAsync(d => !d.Replaced && db.Findings.Any(f => f.Id == d.FindingId && f.Number == number)));
        decision.OptionId.ShouldBe(option);
        decision.Why.ShouldBe("It keeps the original metal");
    }

    [Fact]
    public async Task What_a_choice_does_not_need_is_not_asked()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        var number = await shed.AskAsync(db => db.Findings.Where(f => f.Decided == null && !db.Options.Any(o => o.FindingId == f.Id)).Select(f => f.Number).FirstAsync());
        hand.Go($"/f/{number}");
        hand.Choose("Disposition", "Leave");
        (hand.Find(".when-until").Displayed, hand.Find(".when-remake").Displayed).ShouldBe((false, false));
        hand.Choose("Disposition", "TemporaryRepair");
        (hand.Find(".when-until").Displayed, hand.Find(".when-remake").Displayed).ShouldBe((true, false));
        hand.Choose("Disposition", "Remake");
        (hand.Find(".when-until").Displayed, hand.Find(".when-remake").Displayed).ShouldBe((false, true));
    }

    [Fact]
    public async Task A_matrix_is_filled_with_the_arrow_keys_and_by_paste()
    {
        hand.Chrome.Laptop();
        hand.SignIn("corin");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Engine" && p.Hand == Core.Machines.Hand.Right).Select(p => p.Id).SingleAsync());
        hand.Go($"/survey/matrix?place={place}");
        hand.Press(hand.All("input[name=Template]")[0]);
        hand.Type("PositionsAre", "Frame");
        hand.Type("Positions", "1-4");
        hand.PressText("button.act", "Plan the survey");
        hand.UntilPath(p => p.EndsWith("/matrix", StringComparison.Ordinal));
        hand.PressText("a.act", "Fill the table");
        hand.UntilPath(p => p.EndsWith("fill=true", StringComparison.Ordinal));
        hand.Press("[data-at='1-1']");
        new Actions(hand.Chrome).SendKeys("s" + Keys.ArrowDown + "d" + Keys.ArrowRight + "b" + Keys.ArrowUp + "?").Perform();
        hand.Chrome.ExecuteScript("const d = new DataTransfer(); d.setData('text', 'd\\tb\\ns\\ts\\n'); document.querySelector(\"[data-at='3-1']\").dispatchEvent(new ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true }))");
        hand.PressText("button.act", "Save the table");
        hand.UntilPath(p => p.EndsWith("/matrix", StringComparison.Ordinal));
        var number = int.Parse(hand.Path.Split('/')[2], System.Globalization.CultureInfo.InvariantCulture);
        var cells = await shed.AskAsync(db => db.MatrixCells.Where(c => db.Matrices.Any(m => m.Id == c.MatrixId && m.Number == number)).OrderBy(c => c.Check).ThenBy(c => c.Position).ToListAsync());
        string.Concat(cells.Select(MatrixRules.Write)).ShouldBe("s?dbdbss");
        hand.All(".matrix td.past").Count.ShouldBe(2);
        hand.Complaints().ShouldBeEmpty();
    }

    // A finger on the picture, from one point to another, in shares of its width and height.
    private void Draw(double x1, double y1, double x2, double y2)
    {
        var over = hand.Find("[data-canvas] svg.over");
        hand.Chrome.ExecuteScript("arguments[0].scrollIntoView({block:'center'})", over);
        var box = (System.Collections.ObjectModel.ReadOnlyCollection<object>)hand.Chrome.ExecuteScript("const r = arguments[0].getBoundingClientRect(); return [r.left, r.top, r.width, r.height].map(String)", over)!;
        var r = box.Select(v => double.Parse((string)v, System.Globalization.CultureInfo.InvariantCulture)).ToArray();
        (int X, int Y) At(double x, double y) => ((int)Math.Round(r[0] + (x * r[2])), (int)Math.Round(r[1] + (y * r[3])));
        var (from, to) = (At(x1, y1), At(x2, y2));
        var finger = new PointerInputDevice(PointerKind.Touch, "finger");
        var move = new ActionSequence(finger)
            .AddAction(finger.CreatePointerMove(CoordinateOrigin.Viewport, from.X, from.Y, TimeSpan.Zero))
            .AddAction(finger.CreatePointerDown(MouseButton.Touch))
            .AddAction(finger.CreatePointerMove(CoordinateOrigin.Viewport, to.X, to.Y, TimeSpan.FromMilliseconds(80)))
            .AddAction(finger.CreatePointerUp(MouseButton.Touch));
        hand.Chrome.PerformActions([move]);
    }
}
