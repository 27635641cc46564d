using System.Diagnostics;
using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Strip;
using OilTag.Web.Tests;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>Apart and together again, in the browser as people do it.</summary>
public sealed class StripFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    private static int NumberIn(string path) => int.Parse(path.Split('/')[2].Split('?')[0], CultureInfo.InvariantCulture);

    // Takes a new part off, with the form as it stands.
    private void Describe(string name, string assembly)
    {
        hand.Until(() => hand.All("[name=Name]").Count == 1, "The form did not come.");
        if (!hand.Find("[name=Name]").Displayed)
        {
            hand.PressText("summary", "not on the list");
        }

        hand.Type("Name", name);
        hand.Select("AssemblyId", assembly);
    }

    private int TakeOff(string letter, string name, string assembly)
    {
        hand.Go($"/strip/take-off?m={letter}");
        Describe(name, assembly);
        hand.Type("Reason", "to reach what is behind it");
        hand.Type("Where", "rack Z9");
        hand.Press("button.act.go");
        hand.UntilPath(p => p.StartsWith("/t/", StringComparison.Ordinal));
        return NumberIn(hand.Path);
    }

    /// <summary>Runs a program of the machine and gives what it printed.</summary>
    private static async Task<string> RunAsync(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true, UseShellExecute = false })!;
        var printed = await process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        return printed;
    }

    [Fact]
    public async Task Five_parts_come_off_in_one_go_on_a_phone_and_their_tags_are_printed_with_codes_that_another_program_reads()
    {
        hand.Chrome.Phone();
        hand.SignIn("tobit");
        hand.Go("/strip/take-off?m=L");
        for (var i = 1; i <= 5; i++)
        {
            Describe($"Tread bolt plate {i}", "Idler");
            if (i == 1)
            {
                hand.Type("Reason", "For the full overhaul");
                hand.Type("Where", "bin T1");
            }

            // From the second on, what the last one said is filled in.
            hand.Find("[name=Reason]").GetAttribute("value").ShouldBe("For the full overhaul");
            var made = hand.All(".tagno[href^='/t/']").Count;
            hand.PressText("button.act", "take the next one off");
            hand.Until(() => hand.Text.Contains("Tagged in one go", StringComparison.Ordinal) && hand.All("p .tagno[href^='/t/']").Count > made, "The next form did not come.");
        }

        var numbers = hand.All("p .tagno[href^='/t/']").Select(a => int.Parse(a.Text, CultureInfo.InvariantCulture)).ToList();
        numbers.Count.ShouldBe(5);
        numbers.ShouldBeInOrder();
        hand.Complaints().ShouldBeEmpty();

        // The page that prints from the browser carries the same codes; the PDF comes through the browser's own session.
        hand.Go(hand.All("a[href^='/strip/tags']").First().GetDomAttribute("href")!);
        hand.All(".papertag svg.qr").Count.ShouldBe(5);
        hand.Text.ShouldContain("Tread bolt plate 3");
        hand.Chrome.ExecuteCdpCommand("Page.addScriptToEvaluateOnNewDocument", new Dictionary<string, object?> { ["source"] = "window.printed = 0; window.print = () => window.printed++;" });
        hand.PressText("button.act", "Print this page");
        hand.UntilPath(p => p.Contains("print=true", StringComparison.Ordinal));
        hand.Until(() => Equals(hand.Chrome.ExecuteScript("return window.printed"), 1L), "The page did not print itself.");
        var link = $"{shed.Address}/strip/tags.pdf?n={string.Join(',', numbers)}";
        using var client = new HttpClient();
        client.DefaultRequestHeaders.Add("Cookie", string.Join("; ", hand.Chrome.Manage().Cookies.AllCookies.Select(c => $"{c.Name}={c.Value}")));
        var folder = Directory.CreateTempSubdirectory("oiltag-tags").FullName;
        try
        {
            foreach (var (paper, pages) in new[] { ("", 5), ("&paper=labels", 1), ("&paper=A4", 2) })
            {
                await File.WriteAllBytesAsync(Path.Combine(folder, "tags.pdf"), await client.GetByteArrayAsync(link + paper, TestContext.Current.CancellationToken), TestContext.Current.CancellationToken);
                await RunAsync("pdftoppm", "-r", "150", "-png", Path.Combine(folder, "tags.pdf"), Path.Combine(folder, "page"));
                var pictures = Directory.GetFiles(folder, "page-*.png").Order().ToList();
                pictures.Count.ShouldBe(pages);
                var read = await RunAsync("zbarimg", ["-q", "--raw", .. pictures]);
                read.Split('\n', StringSplitOptions.RemoveEmptyEntries).Order().ShouldBe(numbers.Select(n => $"{shed.Address}/t/{n}").Order());
                pictures.ForEach(File.Delete);
            }

            var words = await RunAsync("pdftotext", Path.Combine(folder, "tags.pdf"), "-");
            words.ShouldContain("Tread bolt plate 1");
            words.ShouldContain("by Tobit Crane");
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Fact]
    public async Task A_box_is_moved_and_a_missing_part_is_found_by_walking_the_shelf()
    {
        hand.Chrome.Phone();
        hand.SignIn("merryn");
        var (first, second) = (TakeOff("B", "Hinge shim", "Door"), TakeOff("B", "Door stop", "Door"));
        hand.Go("/strip/where");
        hand.Type("Name", "tin 9");
        hand.Select("Kind", "Box or bin");
        hand.PressText("button.act", "Add it");
        hand.UntilPath(p => p.StartsWith("/at/", StringComparison.Ordinal));
        var box = hand.Path;
        hand.Type("Seen", $"OT {first}, {second}");
        hand.PressText("button.act", "Put them here");
        hand.Until(() => hand.Text.Contains("2 parts are here", StringComparison.Ordinal), "They did not come.");
        hand.Type("Where", "the loft");
        hand.PressText("button.act", "Move tin 9");
        hand.Until(() => hand.Text.Contains("It stands at the loft", StringComparison.Ordinal), "The box did not move.");
        hand.PressText("summary", "Walk it");
        hand.Press($"input[name=Ticked][value='{first}']");
        hand.Press("input[name=MarkMissing]");
        hand.PressText("button.act", "That is all that is here");
        hand.Until(() => hand.Text.Contains("Missing:", StringComparison.Ordinal), "The walk was not recorded.");
        hand.Go($"/t/{second}");
        hand.Text.ShouldContain("Not found, last at tin 9");
        (await shed.AskAsync(db => db.StockTakes.OrderByDescending(t => t.At).FirstAsync())).Missing.ShouldBe([second]);
        hand.Go(box);
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task The_way_to_a_hidden_place_is_shown_with_what_else_opens()
    {
        hand.Chrome.Laptop();
        hand.SignIn("dilys");
        var keel = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Keel").Select(p => p.Id).FirstAsync());
        hand.Go($"/places/{keel}");
        hand.PressText("a.plain", "How do I reach it?");
        hand.UntilPath(p => p.EndsWith("/reach", StringComparison.Ordinal));
        hand.All(".wayin li").Count.ShouldBeGreaterThan(0);
        hand.Text.ShouldContain("While it is open");
        hand.Text.ShouldContain("Way 2");
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task Closing_up_is_stopped_conceded_by_an_inspector_and_stays_visible()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        var cover = TakeOff("L", "Inspection plate", "Gear case");
        var (slot, fork) = (
            await shed.AskAsync(db => db.Tags.Where(t => t.Number == cover).Select(t => t.SlotId).SingleAsync()),
            await shed.AskAsync(db => db.Places.Where(p => p.Name == "Selector fork" && p.Position == 1).Select(p => p.Id).SingleAsync()));
        hand.Go($"/places/{fork}/reach");
        hand.PressText("summary", "Say what must be off first");
        hand.Select("Chosen", "Inspection plate");
        hand.PressText("button.act", "Must be off first");
        hand.Until(() => hand.Text.Contains("Always off first", StringComparison.Ordinal), "It was not recorded.");
        hand.Go("/machines/L/standing");
        hand.PressText("summary", "Put something in for a time");
        hand.Choose("ItemKind", "Tool");
        hand.Type("What", "an inspection mirror");
        hand.Select("PlaceId", "Selector fork 1");
        hand.PressText("button.act", "It is in");
        hand.Until(() => hand.Text.Contains("tool in Selector fork 1", StringComparison.Ordinal), "It was not recorded.");

        hand.SignIn("tobit");
        hand.Go($"/t/{cover}/refit");
        hand.Text.ShouldContain("Went into Selector fork 1 and did not come out: an inspection mirror.");
        hand.Find(".act.go").GetAttribute("aria-disabled").ShouldBe("true");
        hand.All("button.act.go").ShouldBeEmpty();

        hand.SignIn("corin");
        hand.Go($"/t/{cover}/refit");
        hand.Type("Concession", "fitted for the weekend only, off again on Monday");
        hand.Press("button.act.go");
        hand.UntilPath(p => p == $"/t/{cover}");
        hand.Go($"/places/{slot}/close");
        hand.Text.ShouldContain("Concession by Corin Vance: fitted for the weekend only, off again on Monday");
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_trial_goes_together_and_apart_and_then_it_is_put_on_for_good()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        var part = TakeOff("B", "Brake beam", "Governor");
        hand.Go("/machines/B/trials");
        hand.Select("PlaceId", "Governor");
        hand.Type("Checks", "It swings free\nThe shoe meets the rail");
        hand.PressText("button.act", "Begin the trial");
        hand.UntilPath(p => p.StartsWith("/machines/B/trials/", StringComparison.Ordinal));
        var trial = hand.Path;
        hand.PressText("a.plain", $"Try {part}");
        hand.UntilPath(p => p.Contains("/refit", StringComparison.Ordinal));
        hand.PressText("button.act.go", $"Try {part}");
        hand.UntilPath(p => p == $"/t/{part}");
        hand.Text.ShouldContain("At trial");
        hand.Go(trial);
        hand.All("input[name=Reading]")[0].SendKeys("free, by hand");
        hand.Press(hand.All("button[name=Good][value=true]")[0]);
        hand.Until(() => hand.Text.Contains("free, by hand", StringComparison.Ordinal) && hand.Text.Contains("It swings free: free, by hand", StringComparison.Ordinal), "The check was not recorded.");
        hand.PressText("button.act", "End trial");
        hand.Until(() => hand.Text.Contains("It ended", StringComparison.Ordinal), "It did not end.");
        hand.Text.ShouldContain("Not checked: The shoe meets the rail.");
        hand.Go($"/t/{part}/refit");
        hand.Press("button.act.go");
        hand.UntilPath(p => p == $"/t/{part}");
        (await shed.AskAsync(db => db.Tags.Where(t => t.Number == part).Select(t => t.End).SingleAsync())).ShouldBe(TagEnd.Fitted);
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task Two_browsers_move_one_part_and_the_second_is_told()
    {
        hand.Chrome.Laptop();
        hand.SignIn("tobit");
        var number = TakeOff("M", "Ash pan flap", "Firebox");
        var profile = Directory.CreateTempSubdirectory("oiltag-second");
        var other = Browser.Chrome.Start(profile.FullName);
        try
        {
            var second = new Hand(other, shed.Address);
            second.SignIn("ansel");
            second.Go($"/t/{number}");
            hand.Go($"/t/{number}");
            hand.Type("Where", "rack C3");
            hand.PressText("button.act", $"Move {number}");
            hand.Until(() => hand.Text.Contains("Off, rack C3", StringComparison.Ordinal), "It was not moved.");
            second.Type("Where", "the loft");
            second.PressText("button.act", $"Move {number}");
            second.Until(() => second.Text.Contains("Somebody moved it to rack C3 meanwhile", StringComparison.Ordinal), "The second was not told.");
            second.Find("[name=Where]").GetAttribute("value").ShouldBe("the loft");
        }
        finally
        {
            other.Quit();
            other.Dispose();
            profile.Delete(recursive: true);
        }

        (await shed.AskAsync(db => (from c in db.Custodies join t in db.Tags on c.TagId equals t.Id where t.Number == number && c.Until == null select c.Where).SingleAsync())).ShouldBe("rack C3");
    }

    [Fact]
    public async Task A_region_is_drawn_on_a_photo_of_the_teams_own_with_taps_and_shows_on_the_machine()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/machines/B/outline");
        var photo = Path.Combine(Path.GetTempPath(), $"oiltag-{Guid.NewGuid():N}.jpg");
        await File.WriteAllBytesAsync(photo, Pictures.Jpeg(800, 400), TestContext.Current.CancellationToken);
        hand.Find("input[type=file][name=File]").SendKeys(photo);
        hand.PressText("button.act", "Bring it");
        hand.Until(() => hand.All("[data-picture] img").Count == 1, "The picture did not come.");
        File.Delete(photo);
        hand.Select("PlaceId", "Door");
        var picture = hand.Find("[data-picture]");
        hand.Chrome.ExecuteScript("arguments[0].scrollIntoView({block:'center'})", picture);
        var (w, h) = (picture.Size.Width, picture.Size.Height);
        foreach (var (x, y) in new[] { (-0.3, -0.3), (0.2, -0.3), (0.2, 0.3), (0.4, 0.4) })
        {
            new OpenQA.Selenium.Interactions.Actions(hand.Chrome).MoveToElement(picture, (int)(x * w), (int)(y * h)).Click().Perform();
        }

        // The last tap went wrong and is taken back.
        hand.PressText("button", "Take the last corner back");
        var corners = hand.Find("[name=Corners]").GetAttribute("value")!.Split(' ');
        corners.Length.ShouldBe(3);
        var first = corners[0].Split(',').Select(v => double.Parse(v, CultureInfo.InvariantCulture)).ToList();
        first[0].ShouldBe(20, 1.5);
        first[1].ShouldBe(20, 1.5);
        hand.PressText("button.act", "This is it");
        hand.Until(() => hand.All(".ownpicture .region").Count == 1, "The region was not kept.");
        hand.Complaints().ShouldBeEmpty();
        hand.Go("/machines/B");
        hand.All("svg.depth image").Count.ShouldBe(1);
        ((bool)hand.Chrome.ExecuteAsyncScript("const done = arguments[arguments.length - 1]; const i = new Image(); i.onload = () => done(i.width === 800); i.onerror = () => done(false); i.src = document.querySelector('svg.depth image').getAttribute('href');")!).ShouldBeTrue();
        (await shed.AskAsync(db => db.Outlines.SingleAsync(TestContext.Current.CancellationToken))).Regions.Count.ShouldBe(1);
    }

    [Fact]
    public void The_section_of_one_assembly_is_drawn_alone_and_larger()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/machines/M");
        var (blocks, width) = (hand.All("svg.depth a").Count, double.Parse(hand.Find("svg.depth").GetAttribute("width")!, CultureInfo.InvariantCulture));
        hand.PressText(".zoombar summary", "Zoom");
        hand.PressText(".zoombar a", "Boiler");
        hand.UntilPath(p => p.Contains("of=", StringComparison.Ordinal));
        hand.All("svg.depth a").Count.ShouldBeLessThan(blocks);
        hand.PressText(".zoombar a", "150 %");
        hand.UntilPath(p => p.Contains("zoom=150", StringComparison.Ordinal) && p.Contains("of=", StringComparison.Ordinal));
        hand.Find("svg.depth a[href*='at=']").GetDomAttribute("href")!.ShouldContain("zoom=150");
        hand.PressText(".zoombar a", "fit");
        hand.UntilPath(p => p.Contains("zoom=0", StringComparison.Ordinal));
        hand.Find("svg.depth").Size.Width.ShouldBeLessThanOrEqualTo(hand.Find(".drawing").Size.Width);
        width.ShouldBeGreaterThan(0);
    }
}
