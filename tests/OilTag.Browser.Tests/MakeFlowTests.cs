using System.Text;
using Microsoft.EntityFrameworkCore;

namespace OilTag.Browser.Tests;

/// <summary>A handed pair is made: its first piece is inspected, and an outside shop reports by its link and sees nothing else.</summary>
public sealed class MakeFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task A_pair_is_inspected_finished_by_a_shop_and_counted()
    {
        await OilTag.Web.Tests.TestCards.AddAsync(shed);
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

    [Fact]
    public void Files_of_evidence_are_seen_beside_their_links()
    {
        var folder = Directory.CreateTempSubdirectory("oiltag-files");
        try
        {
            hand.Chrome.Laptop();
            hand.SignIn("una");
            Keep("Scan", "block as scanned", "block.stl", Encoding.ASCII.GetBytes(Block(80, 60, 40)));
            Keep("Drawing", "plate as drawn", "plate.dxf", Encoding.ASCII.GetBytes(Plate(300, 100)));
            Keep("Drawing", "hostile drawing", "bad.dxf", Encoding.ASCII.GetBytes("0\nSECTION\n2\nENTITIES\n0\nLINE\n8\n0\n10\nx\n0\nENDSEC\n0\nEOF\n"));
            hand.Chrome.ExecuteScript("document.querySelector('[data-preview=stl]').scrollIntoView()");
            hand.Until(() => hand.All("[data-preview=stl][data-done]").Count == 1, "The solid is not there.");
            hand.Find("[data-preview=stl] figcaption").Text.ShouldStartWith("80 × 60 × 40. The file states no unit.");
            hand.All("[data-preview=stl] canvas").Count.ShouldBe(1);
            var first = Seen();
            hand.PressText("[data-preview=stl] button", "Turn left");
            hand.Until(() => Seen() != first, "The solid does not turn.");
            foreach (var box in hand.All("[data-preview=dxf]"))
            {
                hand.Chrome.ExecuteScript("arguments[0].scrollIntoView()", box);
                hand.Until(() => box.GetDomAttribute("data-done") is not null, "The drawing is not there.");
            }

            var words = hand.All("[data-preview=dxf] figcaption").Select(f => f.Text).ToList();
            words.ShouldContain(w => w.StartsWith("300 × 100 mm by the file.", StringComparison.Ordinal));
            words.ShouldContain("Nothing in this file could be drawn. Open it with the link.");
            hand.All("[data-preview=dxf] canvas").Count.ShouldBe(1);
            hand.Complaints().ShouldBeEmpty();
        }
        finally
        {
            folder.Delete(recursive: true);
        }

        string Seen() => (string)hand.Chrome.ExecuteScript("return document.querySelector('[data-preview=stl] canvas').toDataURL()")!;

        void Keep(string kind, string title, string name, byte[] file)
        {
            File.WriteAllBytes(Path.Combine(folder.FullName, name), file);
            hand.Go("/r/6/evidence");
            hand.Select("Kind", kind == "Scan" ? "scan" : "drawing");
            hand.Type("Title", title);
            hand.Find("#file").SendKeys(Path.Combine(folder.FullName, name));
            hand.PressText("button", "Add it");
            hand.Until(() => hand.All("h2").Any(h => h.Text.EndsWith(title, StringComparison.Ordinal)), title + " is not kept.");
        }
    }

    // A block by its twelve triangles, as text.
    private static string Block(int x, int y, int z)
    {
        (int X, int Y, int Z)[] corners = [(0, 0, 0), (x, 0, 0), (x, y, 0), (0, y, 0), (0, 0, z), (x, 0, z), (x, y, z), (0, y, z)];
        int[][] faces = [[0, 2, 1], [0, 3, 2], [4, 5, 6], [4, 6, 7], [0, 1, 5], [0, 5, 4], [1, 2, 6], [1, 6, 5], [2, 3, 7], [2, 7, 6], [3, 0, 4], [3, 4, 7]];
        return $"solid block\n{string.Concat(faces.Select(f => $"facet normal 0 0 0\nouter loop\n{string.Concat(f.Select(i => $"vertex {corners[i].X} {corners[i].Y} {corners[i].Z}\n"))}endloop\nendfacet\n"))}endsolid block\n";
    }

    // A rectangle in millimetres.
    private static string Plate(int x, int y)
    {
        string Line(int a, int b, int c, int d) => $"0\nLINE\n8\n0\n10\n{a}\n20\n{b}\n11\n{c}\n21\n{d}\n";
        return $"0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n{Line(0, 0, x, 0)}{Line(x, 0, x, y)}{Line(x, y, 0, y)}{Line(0, y, 0, 0)}0\nENDSEC\n0\nEOF\n";
    }
}
