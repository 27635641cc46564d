using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Web.Tests;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace OilTag.Browser.Tests;

/// <summary>Filling the cells of a survey in the browser: by keyboard, by paste and from the gauge.</summary>
public sealed class SheetEntryTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    private string Said => hand.Find("#said").Text;

    private string Cell => hand.Find("#cellname").Text;

    private Task<List<(int Row, int Column, int Turn, string Text)>> ReadingsAsync(int number) => shed.AskAsync(async db =>
        (await (from r in db.Readings join s in db.Sheets on r.SheetId equals s.Id where s.Number == number && r.Mark == CellMark.Measured orderby r.Row, r.Column, r.Turn select r).ToListAsync()).ConvertAll(r => (r.Row, r.Column, r.Turn, r.Text)));

    // A new sheet of three strakes by four panels, planned in the browser.
    private int PlanSheet(string title)
    {
        hand.Chrome.Laptop();
        hand.SignIn("dilys");
        var place = shed.AskAsync(db => db.Places.Where(p => p.Name == "Smokebox").Select(p => p.Id).FirstAsync()).GetAwaiter().GetResult();
        hand.Go($"/places/{place}");
        hand.PressText("a.act", "Plan a survey");
        hand.UntilPath(p => p.StartsWith("/survey/plan", StringComparison.Ordinal));
        hand.Type("Title", title);
        hand.Type("RowsAre", "Strake");
        hand.Type("Rows", "A, B, C");
        hand.Type("ColumnsAre", "Panel");
        hand.Type("Columns", "1-4");
        hand.Type("Nominal", "4 mm");
        hand.Type("LimitService", "3 mm");
        hand.PressText("button.act", "Plan the survey");
        hand.UntilPath(p => p.StartsWith("/s/", StringComparison.Ordinal));
        return int.Parse(hand.Path[3..], System.Globalization.CultureInfo.InvariantCulture);
    }

    private void Send(string keys) => new Actions(hand.Chrome).SendKeys(keys).Perform();

    private void Paste(string text) => hand.Chrome.ExecuteScript("const d = new DataTransfer(); d.setData('text', arguments[0]); document.getElementById('cell').dispatchEvent(new ClipboardEvent('paste', { clipboardData: d, bubbles: true, cancelable: true }))", text);

    private void Save()
    {
        hand.Press("#save");
        hand.Until(() => hand.Chrome.Url.Contains("saved=", StringComparison.Ordinal) && hand.All("#said").Any(s => s.Text == "Saved."), "The cells were not saved.");
    }

    [Fact]
    public async Task Cells_are_filled_with_the_arrow_keys_and_judged()
    {
        var number = PlanSheet("By keyboard");
        hand.Find(".cellpane").Click();
        hand.Press("#cell");
        hand.Chrome.ExecuteScript("document.querySelector('.cellpane').focus()");
        Send(Keys.ArrowUp + Keys.ArrowUp + Keys.ArrowLeft + Keys.ArrowLeft + Keys.ArrowLeft + Keys.ArrowLeft);
        Cell.ShouldBe("A, panel 1");

        // A digit in the drawing begins an entry; the arrows keep it and go on; Enter goes on the same way.
        Send("3.9" + Keys.ArrowRight + "3.8" + Keys.Enter + "2.9" + Keys.ArrowDown + "?" + Keys.ArrowLeft);
        Cell.ShouldBe("B, panel 2");
        hand.Find("#save").Text.ShouldBe("Save 4 cells");
        hand.All("svg.cells .typed").Count.ShouldBe(4);
        Send("3.7 3.6" + Keys.ArrowLeft);
        Said.ShouldBe("B, panel 1: empty");
        Save();
        (await ReadingsAsync(number)).ShouldBe([(1, 1, 1, "3.9"), (1, 2, 1, "3.8"), (1, 3, 1, "2.9"), (2, 2, 1, "3.7"), (2, 2, 2, "3.6")]);
        hand.Find("#marks").Text.ShouldContain("Beyond limit: 1");
        hand.Chrome.OtherHosts().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_block_is_pasted_and_a_bad_cell_comes_back_with_what_was_typed()
    {
        var number = PlanSheet("By paste");
        hand.Press("#cell");
        Send(Keys.ArrowDown);
        Paste("3.9\t3.8\t\t3.6\r\n3.5\tthin\t3.4\t3.3\t3.2\r\n");
        Said.ShouldBe("7 cells pasted from B, panel 1 on. 1 lay beside the sheet and were left out. Look, then save.");
        hand.Press("#save");
        hand.Until(() => hand.All(".err").Count > 0, "The bad cell was not refused.");
        hand.Find(".err").Text.ShouldContain("C, panel 2 says “thin”");
        hand.Find("#save").Text.ShouldBe("Save 7 cells");
        (await ReadingsAsync(number)).ShouldBeEmpty();

        // Typed over, it goes.
        hand.Press("#cell");
        Cell.ShouldBe("B, panel 1");
        Send(Keys.ArrowDown + Keys.ArrowRight + "3.45" + Keys.ArrowRight);
        Save();
        (await ReadingsAsync(number)).Select(r => r.Text).ShouldBe(["3.9", "3.8", "3.6", "3.5", "3.45", "3.4", "3.3"]);
    }

    [Fact]
    public async Task What_was_typed_survives_a_closed_page()
    {
        var number = PlanSheet("By accident");
        hand.Press("#cell");
        Send("3.9" + Keys.ArrowRight + "3.8" + Keys.ArrowRight);
        hand.Chrome.ExecuteScript("document.getElementById('fill').dataset.sent = '1'");
        hand.Go("/today");
        hand.Go($"/s/{number}");
        Said.ShouldBe("2 cells from before, not saved yet.");
        Save();
        (await ReadingsAsync(number)).Select(r => r.Text).ShouldBe(["3.9", "3.8"]);
        hand.Go($"/s/{number}");
        hand.Find("#save").Text.ShouldBe("Save");
    }

    [Fact]
    public async Task Readings_come_from_the_gauge_one_by_one_and_a_doubtful_one_is_asked_about()
    {
        var number = PlanSheet("By gauge");
        hand.Press("#cell");
        var (taken, doubts, lost) = (0, 0, 0);
        for (var i = 0; i < 40 && (doubts == 0 || lost == 0 || taken < 4); i++)
        {
            hand.Press("#gauge");
            hand.Until(() => Said.Length > 0 && Said != "Hold the probe still…" && hand.Find("#gauge").GetAttribute("aria-busy") is null, "The gauge did not answer.");
            if (Said.Contains("second echo", StringComparison.Ordinal))
            {
                doubts++;
                hand.Find("#doubt").Displayed.ShouldBeTrue();
                (hand.Find("#cell").GetAttribute("value") ?? string.Empty).ShouldNotContain("8.");
            }
            else if (Said.StartsWith("No contact", StringComparison.Ordinal))
            {
                lost++;
            }
            else
            {
                // A full cell takes no more: go on to the next one, and round again.
                taken++;
                hand.Press("#cell");
                Send(taken % 4 == 0 ? Keys.ArrowDown : Keys.ArrowRight);
            }
        }

        taken.ShouldBeGreaterThanOrEqualTo(4);
        doubts.ShouldBeGreaterThan(0);
        lost.ShouldBeGreaterThan(0);
        Save();
        (await ReadingsAsync(number)).ShouldAllBe(r => r.Text.EndsWith(" mm"));
    }
}
