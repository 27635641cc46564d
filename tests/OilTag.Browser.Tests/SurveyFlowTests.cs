using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Web.Tests;
using OpenQA.Selenium;

namespace OilTag.Browser.Tests;

/// <summary>What follows from a survey, in the browser as people do it: the parts book on a phone, series, causes, looks, one decision for many.</summary>
public sealed class SurveyFlowTests(LiveShed shed, OneBrowser browser) : IClassFixture<LiveShed>
{
    private readonly Hand hand = new(browser.Chrome, shed.Address);

    [Fact]
    public async Task The_parts_book_is_walked_on_a_phone_with_the_line_before_the_list()
    {
        hand.Chrome.Phone();
        hand.SignIn("dilys");
        hand.Go("/survey/complete?m=G");
        var (form, table) = (hand.Find("button.act.go").Location.Y, hand.Find("table").Location.Y);
        form.ShouldBeLessThan(table);
        hand.Find(".side .h2").Text.ShouldBe("3-1 Mooring lamp bracket");
        hand.Choose("State", "Present");
        hand.Press("button.act.go");
        hand.Until(() => hand.Find(".side .h2").Text == "3-2 Boat hook clip", "The walk did not go on.");
        hand.Choose("State", "Missing");
        hand.Type("Found", "1");
        hand.Press("button.act.go");
        hand.Until(() => hand.Find(".side .h2").Text == "3-7 Anchor stowage strap", "The walk did not go on.");
        var lines = await shed.AskAsync(db => db.BookLines.Where(l => l.Reference == "3-1" || l.Reference == "3-2").OrderBy(l => l.Reference).ToListAsync());
        lines.Select(l => (l.State, l.Found)).ShouldBe([(BookState.Present, 2), (BookState.Missing, 1)]);
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public void A_series_is_typed_in_and_drawn_with_the_minute_at_which_it_leaves_its_limits()
    {
        hand.Chrome.Laptop();
        hand.SignIn("sefton");
        hand.Go("/c/1");
        hand.Type("Reading", "0 25.0\n5 24.0\n10 22.0\n20 21.0");
        hand.Choose("Evidence", "Measured");
        hand.PressText("button.act", "Record it");
        hand.Until(() => hand.Text.Contains("Falls by 4", StringComparison.Ordinal), "The run was not recorded.");
        hand.Text.ShouldContain("outside its limits after 7.5");
        hand.All("svg.profile polyline").Count.ShouldBeGreaterThan(0);
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_cause_is_found_by_the_cheapest_check_and_its_suspects_are_ruled_out()
    {
        hand.Chrome.Laptop();
        hand.SignIn("sefton");
        hand.Go("/d/1");
        hand.Find(".told b").Text.ShouldBe("Measure the field, cold and warm");
        hand.Press(hand.All("button[name=Shows][value=false]")[0]);
        hand.Until(() => hand.Text.Contains("2 suspects. Next: lift the brushes", StringComparison.OrdinalIgnoreCase) || hand.Text.Contains("2 suspects", StringComparison.Ordinal), "The check was not entered.");
        (await shed.AskAsync(db => db.Diagnoses.SingleAsync(d => d.Number == 1))).Suspects.Count(s => s.State == SuspectState.Open).ShouldBe(2);
    }

    [Fact]
    public async Task Where_else_to_look_is_chosen_at_the_finding_and_ticked_off_on_the_phone()
    {
        hand.Chrome.Laptop();
        hand.SignIn("tobit");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Safety valve" && p.Hand == Core.Machines.Hand.Left).Select(p => p.Id).SingleAsync());
        hand.Go($"/survey/new?place={place}");
        hand.Type("What", "Seat pitted all round");
        hand.Press("button.act.go");
        hand.UntilPath(p => p.StartsWith("/f/", StringComparison.Ordinal));
        hand.PressText("a.plain", "What follows");
        hand.UntilPath(p => p.EndsWith("/follow", StringComparison.Ordinal));
        hand.Press(hand.All("input[name=Looks]")[0]);
        hand.PressText("button.act", "Put them on the list");
        hand.Until(() => hand.Path.StartsWith("/f/", StringComparison.Ordinal) && !hand.Path.EndsWith("handler=Look", StringComparison.Ordinal), "The look was not put on the list.");
        hand.Chrome.Phone();
        hand.Go("/survey/looks");
        hand.Press(hand.All("button[name=Sound][value=true]").Last());
        hand.Until(() => !hand.Text.Contains("Safety valve, right", StringComparison.Ordinal), "The look was not ticked off.");
        (await shed.AskAsync(db => db.Looks.Where(l => db.Places.Any(p => p.Id == l.PlaceId && p.Name == "Safety valve")).SingleAsync())).Sound.ShouldBe(true);
    }

    [Fact]
    public async Task Two_findings_are_ticked_in_the_list_compared_and_decided_together()
    {
        hand.Chrome.Laptop();
        hand.SignIn("una");
        hand.Go("/survey?m=G");
        var ticks = hand.All("input[name=f]").Take(2).ToList();
        var numbers = ticks.Select(t => int.Parse(t.GetAttribute("value")!, System.Globalization.CultureInfo.InvariantCulture)).ToList();
        foreach (var tick in ticks)
        {
            hand.Press(tick);
        }

        hand.PressText("button.act", "Decide about the chosen ones together");
        hand.UntilPath(p => p.StartsWith("/survey/together", StringComparison.Ordinal));
        hand.All("table.rows tbody tr").Count.ShouldBe(2);
        hand.Type("Work", "Renew both");
        hand.Choose("Disposition", "Repair");
        hand.Type("Hours", "20");
        hand.Type("Cost", "100");
        hand.PressText("button.act", "Compare");
        hand.Until(() => hand.Text.Contains("All at once", StringComparison.Ordinal), "It was not compared.");
        hand.Find("[name=Work]").GetAttribute("value").ShouldBe("Renew both");
        hand.Type("Why", "One set-up for both");
        hand.PressText("button.act", "Settle all of them");
        hand.UntilPath(p => p.StartsWith("/w/", StringComparison.Ordinal));
        hand.Text.ShouldContain("Renew both");
        (await shed.AskAsync(db => db.Findings.Where(f => numbers.Contains(f.Number)).Select(f => f.Decided).ToListAsync())).ShouldAllBe(d => d == Disposition.Repair);
        hand.Complaints().ShouldBeEmpty();
    }

    [Fact]
    public async Task What_was_only_told_is_typed_into_a_grid_and_stands_in_brackets()
    {
        hand.Chrome.Laptop();
        hand.SignIn("dilys");
        hand.Go("/s/3");
        hand.Find(".cellpane").Click();
        hand.Press("#cell");
        var field = hand.Find("#cell");
        field.Clear();
        field.SendKeys("1.5 told" + Keys.Enter);
        hand.Press("#save");
        hand.Until(() => hand.Chrome.Url.Contains("saved=", StringComparison.Ordinal) && hand.All("#said").Any(s => s.Text == "Saved."), "The cell was not saved.");
        hand.Text.ShouldContain("Measure these");
        hand.All("svg.cells text").ShouldContain(t => t.Text == "(1.50)");
        (await shed.AskAsync(db => db.Readings.Where(r => r.Evidence == Evidence.Told).CountAsync())).ShouldBe(1);
    }

    [Fact]
    public async Task A_cell_is_filled_on_a_phone_with_large_keys_and_the_next_one_follows()
    {
        hand.Chrome.Phone();
        hand.SignIn("corin");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Rear frames").Select(p => p.Id).SingleAsync());
        hand.Go($"/survey/matrix?place={place}");
        hand.Press(hand.All("input[name=Template]")[0]);
        hand.Type("Title", "Rear frames");
        hand.Type("Positions", "12-13");
        hand.PressText("button.act", "Plan the survey");
        hand.UntilPath(p => p.EndsWith("/matrix", StringComparison.Ordinal));
        hand.PressText("a.act", "Begin at");
        hand.UntilPath(p => p.EndsWith("/matrix/1-1", StringComparison.Ordinal));
        hand.Choose("Mark", "Bad");
        hand.Type("Note", "Cracked from the lightening hole");
        hand.Press("button.act.go");
        hand.UntilPath(p => p.EndsWith("/matrix/1-2", StringComparison.Ordinal));
        hand.Choose("Mark", "Sound");
        hand.Press("button.act.go");
        hand.UntilPath(p => p.EndsWith("/matrix/1-3", StringComparison.Ordinal));
        var cells = await shed.AskAsync(db => db.MatrixCells.Where(c => db.Matrices.Any(m => m.Id == c.MatrixId && m.Title == "Rear frames")).OrderBy(c => c.Check).ToListAsync());
        cells.Select(c => (c.Mark, c.Note)).ShouldBe([(CellMark.Bad, "Cracked from the lightening hole"), (CellMark.Sound, "")]);
    }
}
