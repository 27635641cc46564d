using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Text;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Instruments;
using OilTag.Web.Shared;

namespace OilTag.Web.Tests;

/// <summary>A simulated instrument on loopback.</summary>
public sealed class InstrumentOnTheBench : IDisposable
{
    private readonly CancellationTokenSource stop = new();
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);

    public InstrumentOnTheBench(IInstrument instrument)
    {
        listener.Start();
        _ = new InstrumentServer(instrument).ServeAsync(listener, stop.Token);
    }

    public string Address => listener.LocalEndpoint.ToString()!;

    public void Dispose()
    {
        stop.Cancel();
        listener.Dispose();
        stop.Dispose();
    }
}

/// <summary>A shed with a simulated gauge on the bench.</summary>
public class GaugeShed : Shed
{
    // Worse than a real one, so that a test of forty readings meets everything that it can do.
    private readonly InstrumentOnTheBench gauge = new(new PlateGauge(4, lost: 0.15, secondEcho: 0.2));

    protected override string Gauge => gauge.Address;

    public override async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        await base.DisposeAsync();
        gauge.Dispose();
    }
}

/// <summary>Survey sheets: planning, filling cells by hand, from a file and from the gauge, limits, and surveying again.</summary>
public sealed class SheetTests(GaugeShed shed) : IClassFixture<GaugeShed>
{
    private static readonly (string Name, string? Value)[] Plan =
    [
        ("Title", "Cab side"), ("Feature", "Thickness"), ("Unit", "mm"), ("RowsAre", "Strake"), ("Rows", "A, B, C, D"), ("ColumnsAre", "Panel"), ("Columns", "1-5"),
        ("Nominal", "3 mm"), ("LimitDemonstrate", "2.2 mm"), ("LimitService", "2.5 mm"), ("Instrument", "Plate gauge 4"),
    ];

    private static string Now => InstantPattern.ExtendedIso.Format(HandClock.Start);

    private Task<Guid> PlaceAsync() => shed.AskAsync(db => db.Places.Where(p => p.Name == "Smokebox").Select(p => p.Id).FirstAsync());

    private async Task<int> NewSheetAsync(Visitor who)
    {
        var place = await PlaceAsync();
        await who.OpenAsync($"/survey/plan?place={place}");
        var response = await who.PostAsync($"/survey/plan?place={place}", Plan);
        response.StatusCode.ShouldBe(HttpStatusCode.Redirect, who.Text);
        var number = int.Parse(response.Headers.Location!.ToString().Split('/')[^1], CultureInfo.InvariantCulture);
        await who.OpenAsync($"/s/{number}");
        return number;
    }

    private Task<List<SheetReading>> ReadingsAsync(int number) => shed.AskAsync(db => (from r in db.Readings join s in db.Sheets on r.SheetId equals s.Id where s.Number == number orderby r.Row, r.Column, r.Turn select r).ToListAsync());

    private static Task<HttpResponseMessage> FillAsync(Visitor who, int number, string? cells, params (string Name, string? Value)[] more) => who.PostAsync($"/s/{number}?handler=Fill", [("Loaded", Now), ("Cells", cells), .. more]);

    [Fact]
    public async Task A_planned_sheet_is_drawn_judged_and_logged()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        dilys.Text.ShouldContain("Nothing read yet");
        (await FillAsync(dilys, number, "1\t1\t2.9\n1\t2\t2.45; 2.52\n2\t1\t?\n3\t3\t98 thou")).StatusCode.ShouldBe(HttpStatusCode.Redirect, dilys.Text);
        var readings = await ReadingsAsync(number);
        readings.Select(r => (r.Row, r.Column, r.Turn, r.Text, r.Mark)).ShouldBe([(1, 1, 1, "2.9", CellMark.Measured), (1, 2, 1, "2.45", CellMark.Measured), (1, 2, 2, "2.52", CellMark.Measured), (2, 1, 1, string.Empty, CellMark.CannotSee), (3, 3, 1, "98 thou", CellMark.Measured)]);
        readings[4].Si.ShouldBe(0.0024892, 1e-12);
        await dilys.OpenAsync($"/s/{number}?for=Service");
        dilys.Text.ShouldContain("2 of 3 cells used up what Service allows");
        dilys.Text.ShouldContain("Beyond limit: 2");
        dilys.Page.QuerySelector("svg.cells")!.GetAttribute("aria-label").ShouldBe("Cab side: 4 by 5 cells, 2 beyond limit, 0 at limit, 1 within limits, 17 not read");
        await dilys.OpenAsync($"/s/{number}?for=Demonstrate");
        dilys.Text.ShouldContain("0 beyond");
        (await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Select(l => l.Sentence).FirstAsync())).ShouldBe($"filled 4 cells of survey S{number}, Cab side: A, panel 1 2.9; A, panel 2 2.45; 2.52; B, panel 1 ?; C, panel 3 98 thou.");
        await dilys.OpenAsync("/survey/sheets");
        dilys.Text.ShouldContain("4 of 20");
        await dilys.OpenAsync($"/jump?q=S{number}");
        dilys.Page.Title!.ShouldContain($"Survey S{number}");
    }

    [Theory]
    [InlineData("Title", "", "Say what is surveyed")]
    [InlineData("Feature", "", "Choose which way it wears")]
    [InlineData("Unit", "bar", "Choose the unit of a bare number")]
    [InlineData("Rows", "A, B, a", "Two rows have the same name")]
    [InlineData("Columns", "1-900", "900 columns; 500 fit")]
    [InlineData("Nominal", "3 volts", "volts")]
    [InlineData("LimitService", "3.2 mm", "limit")]
    [InlineData("LimitService", "2.0 mm", "stricter than Demonstrate")]
    public async Task A_plan_that_cannot_be_is_refused_beside_the_field_and_kept(string field, string value, string sentence)
    {
        using var dilys = await shed.AsAsync("dilys");
        var place = await PlaceAsync();
        await dilys.OpenAsync($"/survey/plan?place={place}");
        var before = await shed.AskAsync(db => db.Sheets.CountAsync());
        (await dilys.PostAsync($"/survey/plan?place={place}", [.. Plan.Where(p => p.Name != field), (field, value)])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Page.QuerySelector(".fl.bad")!.TextContent.ShouldContain(sentence, Case.Insensitive);
        dilys.Page.QuerySelector("input[name=Instrument]")!.GetAttribute("value").ShouldBe("Plate gauge 4");
        (await shed.AskAsync(db => db.Sheets.CountAsync())).ShouldBe(before);
    }

    [Fact]
    public async Task Cells_that_cannot_be_are_named_kept_and_nothing_is_saved()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        (await FillAsync(dilys, number, "1\t1\t2.9\n1\t2\tthick\n9\t9\t2.8\n2\t2\t2.9 in")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Text.ShouldContain("A, panel 2 says “thick”");
        dilys.Text.ShouldContain("9, panel 9 says “2.8”. The sheet has no such cell.");
        dilys.Text.ShouldContain("B, panel 2 says “2.9 in”. 2.9 in beside 3 mm as built cannot be: is it the other unit?");
        dilys.Page.QuerySelector("textarea[name=Cells]")!.TextContent.ShouldContain("1\t2\tthick");
        (await FillAsync(dilys, number, null, ("Block", "2.9\t2.8\n<b>\t2.7"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Page.QuerySelector("textarea[name=Block]")!.TextContent.ShouldContain("<b>");
        (await FillAsync(dilys, number, "garbage")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await FillAsync(dilys, number, null)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Text.ShouldContain("Nothing was typed");
        (await dilys.PostAsync($"/s/{number}?handler=Fill", ("Loaded", "once"), ("Cells", "1\t1\t2.9"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await ReadingsAsync(number)).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_block_is_laid_from_its_corner_and_a_dash_clears_a_cell()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        (await FillAsync(dilys, number, null, ("Row", "3"), ("Column", "4"), ("Block", "2.9\t2.8\n2.7\t\n"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await ReadingsAsync(number)).Select(r => (r.Row, r.Column, r.Text)).ShouldBe([(3, 4, "2.9"), (3, 5, "2.8"), (4, 4, "2.7")]);
        (await FillAsync(dilys, number, "3\t5\t-\n3\t4\t2.9")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await ReadingsAsync(number)).Select(r => (r.Row, r.Column)).ShouldBe([(3, 4), (4, 4)]);

        // What was written over stands in the log.
        var line = await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).FirstAsync());
        line.Sentence.ShouldBe($"filled 1 cell of survey S{number}, Cab side: C, panel 5 cleared.");
        line.Before!.ShouldContain("\"C, panel 5\": \"2.8\"");
        await dilys.OpenAsync("/log");
        dilys.Text.ShouldContain("C, panel 5 cleared");
    }

    [Fact]
    public async Task A_cell_that_somebody_else_filled_meanwhile_is_not_overwritten_unseen()
    {
        using var dilys = await shed.AsAsync("dilys");
        using var tobit = await shed.AsAsync("tobit");
        var number = await NewSheetAsync(dilys);
        var loaded = Now;
        await tobit.OpenAsync($"/s/{number}");
        (await FillAsync(tobit, number, "1\t1\t2.6")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var refused = await dilys.PostAsync($"/s/{number}?handler=Fill", ("Loaded", loaded), ("Cells", "1\t1\t2.9\n1\t2\t2.8"));
        refused.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        dilys.Text.ShouldContain("A, panel 1: Tobit Crane put 2.6 meanwhile; you have 2.9");
        (await ReadingsAsync(number)).Select(r => r.Text).ShouldBe(["2.6"]);

        // The page that came back knows of it: pressing again is a decision.
        var again = dilys.Page.QuerySelector("input[name=Loaded]")!.GetAttribute("value");
        (await dilys.PostAsync($"/s/{number}?handler=Fill", ("Loaded", again), ("Cells", dilys.Page.QuerySelector("textarea[name=Cells]")!.TextContent))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await ReadingsAsync(number)).Select(r => r.Text).ShouldBe(["2.9", "2.8"]);
    }

    [Fact]
    public async Task Cells_that_are_sent_twice_are_recorded_once()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        var key = Guid.CreateVersion7();
        (string, string?)[] form = [("Loaded", Now), ("Cells", "1\t1\t2.9")];
        var first = await dilys.SendAsync($"/s/{number}?handler=Fill", key, form);
        var second = await dilys.SendAsync($"/s/{number}?handler=Fill", key, form);
        second.Headers.Location.ShouldBe(first.Headers.Location);
        (await shed.AskAsync(db => db.LogEntries.CountAsync(l => l.Sentence.StartsWith($"filled 1 cell of survey S{number},")))).ShouldBe(1);
    }

    [Fact]
    public async Task A_visitor_reads_and_fills_nothing()
    {
        using var visiting = await shed.AsAsync("visiting");
        await visiting.OpenAsync("/s/4");
        visiting.Page.QuerySelector("#fill").ShouldBeNull();
        visiting.Page.QuerySelector("form[method=post]").ShouldBeNull();
        foreach (var handler in new[] { "Fill", "Gauge", "Import", "Repeat" })
        {
            (await visiting.PostAsync($"/s/4?handler={handler}", ("Loaded", Now), ("Cells", "1\t1\t0.4"))).Headers.Location!.ToString().ShouldContain("not-allowed", Case.Insensitive, handler);
        }

        (await visiting.GetAsync("/s/4/regions")).StatusCode.ShouldNotBe(HttpStatusCode.OK);
        (await visiting.GetAsync("/s/999999")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_file_is_shown_before_it_is_taken_and_the_export_comes_back_in()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        await FillAsync(dilys, number, "1\t1\t2.9\n2\t2\t2.6; 2.7\n4\t5\t?");
        await dilys.GetAsync($"/s/{number}.csv");
        var csv = dilys.Html;
        await dilys.OpenAsync($"/s/{number}");
        csv.ReplaceLineEndings("\n").ShouldBe(",1,2,3,4,5\nA,2.9,,,,\nB,,2.6; 2.7,,,\nC,,,,,\nD,,,,,?\n");

        var copy = await NewSheetAsync(dilys);
        var preview = await dilys.UploadAsAsync("file", $"/s/{copy}?handler=Import", "S.csv", Encoding.UTF8.GetBytes(csv));
        preview.StatusCode.ShouldBe(HttpStatusCode.Redirect, dilys.Text);
        var page = preview.Headers.Location!.ToString();
        await dilys.OpenAsync(page);
        dilys.Text.ShouldContain("Nothing is taken yet. The file has 3 readings in 3 cells");
        (await ReadingsAsync(copy)).ShouldBeEmpty();
        (await dilys.PostAsync(page, ("Loaded", Now))).StatusCode.ShouldBe(HttpStatusCode.Redirect, dilys.Text);
        (await ReadingsAsync(copy)).Select(r => (r.Row, r.Column, r.Turn, r.Text, r.Mark)).ShouldBe((await ReadingsAsync(number)).Select(r => (r.Row, r.Column, r.Turn, r.Text, r.Mark)));
        (await dilys.GetAsync(page)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_list_with_decimal_commas_and_faults_says_what_it_would_replace_and_what_it_leaves_out()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        await FillAsync(dilys, number, "1\t1\t2.9");
        var file = "Row;Column;Reading\r\nA;1;2,71\r\nA;1;2,74\r\nB;7;2,6\r\nX;1;2,6\r\nC;2;no\r\nC;3\r\n"u8.ToArray();
        var page = (await dilys.UploadAsAsync("file", $"/s/{number}?handler=Import", "list.csv", file)).Headers.Location!.ToString();
        await dilys.OpenAsync(page);
        dilys.Text.ShouldContain("2 readings in 1 cell, and 4 lines or cells that cannot be taken");
        dilys.Text.ShouldContain("1 cell holds something else now and would be replaced: A, panel 1");
        dilys.Text.ShouldContain("The sheet has no such column");
        dilys.Text.ShouldContain("Line 7");
        (await dilys.PostAsync(page, ("Loaded", Now))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await ReadingsAsync(number)).Select(r => r.Si).ShouldBe([0.00271, 0.00274], 1e-12);
    }

    [Theory]
    [InlineData("", "Choose a CSV file first")]
    [InlineData("PK\u0003\u0004 a spreadsheet", "save as CSV")]
    [InlineData("a\0b,c", "not a text file")]
    public async Task A_file_that_is_no_csv_is_refused_in_words(string content, string sentence)
    {
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync("/s/5");
        (await dilys.UploadAsAsync("file", "/s/5?handler=Import", "x.csv", Encoding.UTF8.GetBytes(content))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Page.QuerySelector(".fl.bad")!.TextContent.ShouldContain(sentence);
        (await dilys.GetAsync($"/s/5/import/{Guid.NewGuid()}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public void Csv_of_every_kind_is_read_or_refused_in_a_sentence()
    {
        CsvTable.Read([.. Encoding.UTF8.Preamble, .. "a,b\n1,2"u8]).Lines.ShouldBe([["a", "b"], ["1", "2"]]);
        CsvTable.Read("a\tb\n1\t2"u8.ToArray()).Lines[1].ShouldBe(["1", "2"]);
        CsvTable.Read(Encoding.Latin1.GetBytes("Gr\u00F6\u00DFe;b\n1,5;2")).Lines.ShouldBe([["Gr\u00F6\u00DFe", "b"], ["1,5", "2"]]);
        CsvTable.Read(new byte[CsvTable.MostBytes + 1]).Sentence.ShouldBe("The file is larger than 5 MB. Split it.");
        CsvTable.Read([]).Sentence.ShouldBe("The file is empty.");
        CsvTable.Read(Encoding.UTF8.GetBytes("a,\"" + new string('x', 5000) + "\"")).Sentence!.ShouldContain("far too long");
        CsvTable.Read(Encoding.UTF8.GetBytes(string.Concat(Enumerable.Repeat("1,2\n", CsvTable.MostLines + 1)))).Sentence!.ShouldContain("more than 100,000 lines");
    }

    [Fact]
    public async Task Regions_and_sources_are_set_changed_and_taken_away_and_an_old_form_changes_nothing()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        await FillAsync(dilys, number, "1\t1\t2.4\n2\t2\t4.7");
        var path = $"/s/{number}/regions";
        await dilys.OpenAsync(path);
        string Seen() => dilys.Page.QuerySelector("input[name=Seen]")!.GetAttribute("value")!;
        var old = Seen();
        (string, string?)[] region = [("RegionName", "Doubler"), ("RowFrom", "2"), ("RowTo", "3"), ("ColumnFrom", "2"), ("ColumnTo", "2"), ("Nominal", "5 mm"), ("LimitService", "4 mm"), ("ReplacedIn", "2019")];
        (await dilys.PostAsync(path + "?handler=Region", [.. region, ("Seen", old)])).StatusCode.ShouldBe(HttpStatusCode.Redirect, dilys.Text);
        await dilys.OpenAsync($"/s/{number}?for=Service");
        dilys.Text.ShouldContain("Doubler: cannot tell");
        dilys.Text.ShouldContain("New in 2019");
        dilys.Text.ShouldContain("1 beyond");

        await dilys.OpenAsync(path);
        (await dilys.PostAsync(path + "?handler=Source", ("Seen", old), ("SourceName", "Washout"), ("Kind", "Drain"), ("RowFrom", "4"), ("RowTo", "4"), ("ColumnFrom", "1"), ("ColumnTo", "1"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        dilys.Page.QuerySelector("input[name=SourceName]")!.GetAttribute("value").ShouldBe("Washout");
        (await dilys.PostAsync(path + "?handler=Source", ("Seen", Seen()), ("SourceName", "Washout"), ("Kind", "Drain"), ("RowFrom", "4"), ("RowTo", "2"), ("ColumnFrom", "1"), ("ColumnTo", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Text.ShouldContain("It ends before it begins");
        (await dilys.PostAsync(path + "?handler=Source", ("Seen", Seen()), ("SourceName", "Washout"), ("Kind", "Drain"), ("RowFrom", "4"), ("RowTo", "4"), ("ColumnFrom", "1"), ("ColumnTo", "1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);

        await dilys.OpenAsync(path + "?change=1");
        dilys.Page.QuerySelector("input[name=Nominal]")!.GetAttribute("value").ShouldBe("5 mm");
        (await dilys.PostAsync(path + "?handler=Region&change=1", [.. region.Where(f => f.Item1 != "ReplacedIn"), ("ReplacedIn", "next year"), ("Seen", Seen())])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await dilys.PostAsync(path + "?handler=Region&change=1", [.. region.Where(f => f.Item1 != "LimitService"), ("LimitService", "4.8 mm"), ("Seen", Seen())])).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await dilys.OpenAsync($"/s/{number}?for=Service");
        dilys.Text.ShouldContain("2 beyond");

        await dilys.OpenAsync(path);
        (await dilys.PostAsync(path + "?handler=Away&region=true&index=0", ("Seen", Seen()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await dilys.OpenAsync(path);
        (await dilys.PostAsync(path + "?handler=Away&region=true&index=1", ("Seen", Seen()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await dilys.OpenAsync(path);
        (await dilys.PostAsync(path + "?handler=Away&region=false&index=0", ("Seen", Seen()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var sheet = await shed.AskAsync(db => db.Sheets.SingleAsync(s => s.Number == number));
        (sheet.Regions.Count, sheet.Sources.Count).ShouldBe((1, 0));
        (await shed.AskAsync(db => db.LogEntries.CountAsync(l => l.Sentence.Contains($"on survey S{number}, Cab side.")))).ShouldBe(5);
    }

    /// <summary>Anybody who records can say where the centre line runs: the two sides are then compared, and the page says what was asked.</summary>
    [Fact]
    public async Task A_centre_line_is_set_on_a_page_and_taken_away()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        var rows = (await shed.AskAsync(db => db.Sheets.SingleAsync(s => s.Number == number))).Rows;
        var path = $"/s/{number}/regions";
        await dilys.OpenAsync(path);
        async Task SetAsync(int row, HttpStatusCode wanted) => (await dilys.PostAsync(path + "?handler=Centre", ("Seen", dilys.Page.QuerySelector("input[name=Seen]")!.GetAttribute("value")), ("Centre", row.ToString(System.Globalization.CultureInfo.InvariantCulture)))).StatusCode.ShouldBe(wanted, dilys.Text);
        await SetAsync(rows.Length, HttpStatusCode.UnprocessableEntity);
        dilys.Text.ShouldContain($"The centre line runs between two of the {rows.Length} rows.");
        await SetAsync(2, HttpStatusCode.Redirect);
        await dilys.OpenAsync(path);
        dilys.Page.QuerySelector("#f-centre option[selected]")!.TextContent.ShouldBe($"between {rows[1]} and {rows[2]}");
        (await shed.AskAsync(db => db.Sheets.SingleAsync(s => s.Number == number))).CentreAfterRow.ShouldBe(2);
        await SetAsync(0, HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Sheets.SingleAsync(s => s.Number == number))).CentreAfterRow.ShouldBeNull();
    }

    [Fact]
    public async Task What_was_only_told_is_kept_apart_on_the_page_in_the_file_and_in_the_finding()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        (await FillAsync(dilys, number, "1\t1\t1.1 told\n1\t2\t3.9")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await dilys.OpenAsync($"/s/{number}");
        dilys.Text.ShouldContain("Measure these");
        dilys.Html.ShouldContain(">(1.10)<");
        dilys.Text.ShouldContain("Beyond limit: 0");
        await dilys.GetAsync($"/s/{number}.csv");
        dilys.Html.ShouldContain("1.1 told");
        await dilys.OpenAsync("/survey/looks");
        dilys.Text.ShouldContain($"S{number}, ");
        var place = await shed.AskAsync(db => db.Sheets.Where(s => s.Number == number).Select(s => s.PlaceId).SingleAsync());
        await dilys.OpenAsync($"/survey/new?place={place}&sheet={number}&cell=1-1");
        (dilys.Typed("Reading"), dilys.Typed("Evidence")).ShouldBe(("1.1 mm", "Told"));
    }

    [Fact]
    public async Task A_survey_is_carried_out_again_and_tells_how_fast_it_goes()
    {
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync("/s/3");
        var response = await dilys.PostAsync("/s/3?handler=Repeat");
        response.StatusCode.ShouldBe(HttpStatusCode.Redirect, dilys.Text);
        var number = int.Parse(response.Headers.Location!.ToString().Split('/')[^1], CultureInfo.InvariantCulture);
        await dilys.OpenAsync($"/s/{number}");
        dilys.Text.ShouldNotContain("How fast");
        (await FillAsync(dilys, number, "7\t9\t1.05\n7\t10\t0.90\n4\t1\t1.55")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await dilys.OpenAsync($"/s/{number}?for=Display");
        dilys.Text.ShouldContain("3 cells were read before");
        dilys.Text.ShouldContain("At the limit about");
        (await dilys.PostAsync($"/s/{number}?handler=Repeat")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Text.ShouldContain("It was surveyed today");
        await dilys.OpenAsync("/s/3");
        dilys.Text.ShouldContain($"Surveyed again: S{number}");
        (await dilys.PostAsync("/s/3?handler=Repeat")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Text.ShouldContain($"It was begun again already: S{number}.");
    }

    [Fact]
    public async Task The_patterns_of_the_demo_are_the_ones_that_were_planted()
    {
        using var una = await shed.AsAsync("una");
        (await una.GetAsync("/s/5?handler=Patterns")).StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Text.ShouldContain("Near Water stood here");
        una.Text.ShouldContain("A suggestion to confirm, not a fact");
        await una.GetAsync("/s/3?handler=Patterns");
        una.Text.ShouldContain("Near Steel step shoe");
    }

    [Fact]
    public async Task A_cell_becomes_a_finding_with_its_numbers_filled_in()
    {
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync("/s/4");
        await dilys.OpenAsync(dilys.Page.QuerySelectorAll("a").Single(a => a.TextContent == "Log it as a finding").GetAttribute("href")!);
        string Field(string name) => dilys.Page.QuerySelector($"input[name={name}]")!.GetAttribute("value")!;
        (Field("Nominal"), Field("Limit")).ShouldBe(("3/8 in", "0.280 in"));
        Field("Reading").ShouldEndWith(" in");
        dilys.Text.ShouldContain("Boiler barrel, lower half, 6, station 1 (survey S4)");
    }

    [Fact]
    public async Task The_gauge_is_read_for_a_cell_and_nothing_is_recorded_until_it_is_saved()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await NewSheetAsync(dilys);
        var (texts, sentences) = (new List<string>(), new List<string>());
        for (var i = 0; i < 60; i++)
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, $"/s/{number}?handler=Gauge") { Content = new FormUrlEncodedContent(new Dictionary<string, string> { ["Row"] = "2", ["Column"] = "3", ["__RequestVerificationToken"] = dilys.Token }) };
            request.Headers.Accept.Add(new MediaTypeWithQualityHeaderValue("application/json"));
            using var response = await dilys.Client.SendAsync(request, TestContext.Current.CancellationToken);
            using var answer = JsonDocument.Parse(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
            var (text, sentence) = (answer.RootElement.GetProperty("text").GetString()!, answer.RootElement.GetProperty("sentence").GetString()!);
            (text.Length > 0 || sentence.Length > 0).ShouldBeTrue();
            (sentence.Length == 0 ? texts : sentences).Add(sentence.Length == 0 ? text : sentence);
        }

        // Most readings lie together; lost contact and second echoes are told apart from them.
        texts.Count.ShouldBeGreaterThan(20);
        var values = texts.ConvertAll(t => double.Parse(t.Split(' ')[0], CultureInfo.InvariantCulture));
        (values.Max() - values.Min()).ShouldBeLessThan(0.2);
        sentences.ShouldContain(s => s.StartsWith("No contact"));
        sentences.ShouldContain(s => s.Contains("second echo"));
        (await ReadingsAsync(number)).ShouldBeEmpty();

        // Without scripts the reading lands in the block.
        for (var i = 0; i < 30 && (dilys.Page.QuerySelector("textarea[name=Block]")?.TextContent.Trim().Length ?? 0) == 0; i++)
        {
            (await dilys.PostAsync($"/s/{number}?handler=Gauge", ("Row", "2"), ("Column", "3"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        dilys.Page.QuerySelector("textarea[name=Block]")!.TextContent.ShouldContain(" mm");
        dilys.Text.ShouldContain("The gauge says");
        (await dilys.PostAsync($"/s/{number}?handler=Gauge", ("Row", "40"), ("Column", "3"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        dilys.Text.ShouldContain("no such cell");
    }
}

/// <summary>The gauge as a line protocol: what the page makes of every answer, and of none.</summary>
public sealed class GaugeTests
{
    private static async Task<GaugeAnswer> AnsweredAsync(string? answer)
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        var serve = Task.Run(async () =>
        {
            using var client = await listener.AcceptTcpClientAsync();
            await client.GetStream().ReadExactlyAsync(new byte[5]);
            if (answer is not null)
            {
                await client.GetStream().WriteAsync(Encoding.ASCII.GetBytes(answer));
            }
        });
        var result = await new Gauge(listener.LocalEndpoint.ToString()).ReadAsync(null, CancellationToken.None);
        await serve;
        return result;
    }

    [Theory]
    [InlineData("READ 1.42 mm\n", 0.00142, null)]
    [InlineData("READ 0.056 in\r\n", 0.0014224, null)]
    [InlineData("LOST\n", null, "No contact")]
    [InlineData("ERR battery low\n", null, "The gauge says: battery low.")]
    [InlineData("READ\n", null, "cannot be read")]
    [InlineData("READ -3 mm\n", null, "cannot be read")]
    [InlineData("READ 1e400 mm\n", null, "cannot be read")]
    [InlineData("\u0001\u0002rubbish\n", null, "cannot be read")]
    [InlineData(null, null, "hung up")]
    public async Task Every_answer_is_a_reading_or_a_sentence(string? answer, double? si, string? sentence)
    {
        var result = await AnsweredAsync(answer);
        if (si is { } value)
        {
            result.Reading!.Si.ShouldBe(value, 1e-12);
        }
        else
        {
            result.Reading.ShouldBeNull();
            result.Sentence!.ShouldContain(sentence!);
        }
    }

    [Fact]
    public async Task A_line_without_end_is_given_up()
    {
        var result = await AnsweredAsync(new string('9', 5000));
        result.Reading.ShouldBeNull();
    }

    [Theory]
    [InlineData("", "No gauge is set up")]
    [InlineData("nonsense", "No gauge is set up")]
    [InlineData("127.0.0.1:1", "cannot be reached")]
    public async Task A_gauge_that_is_not_there_is_said(string address, string sentence) =>
        (await new Gauge(address).ReadAsync(null, CancellationToken.None)).Sentence!.ShouldContain(sentence);

    [Fact]
    public async Task A_gauge_that_says_nothing_is_not_waited_for()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        (await new Gauge(listener.LocalEndpoint.ToString()).ReadAsync(null, CancellationToken.None)).Sentence!.ShouldContain("does not answer");
    }

    [Fact]
    public void The_simulated_gauge_repeats_loses_contact_and_doubles_at_the_stated_rates()
    {
        var gauge = new PlateGauge(11);
        gauge.Answer("PLATE 5.000 mm A/1").ShouldBe("OK");
        var answers = Enumerable.Range(0, 4000).Select(_ => gauge.Answer("READ")).ToList();
        (answers.Count(a => a == "LOST") / 4000.0).ShouldBe(PlateGauge.Lost, 0.015);
        var values = answers.Where(a => a != "LOST").Select(a => double.Parse(a.Split(' ')[1], CultureInfo.InvariantCulture)).ToList();
        var single = values.Where(v => v < 7).ToList();
        ((values.Count - single.Count) / 4000.0).ShouldBe(PlateGauge.SecondEcho, 0.015);
        Math.Sqrt(single.Sum(v => Math.Pow(v - single.Average(), 2)) / single.Count).ShouldBe(PlateGauge.Noise, 0.003);
        values.Where(v => v >= 7).Average().ShouldBe(2 * single.Average(), 0.03);
        gauge.Answer("ID").ShouldStartWith("ID Plate gauge 4, simulated");
        gauge.Answer("PLATE 900 mm A/1").ShouldBe("ERR a plate is 0.6 to 250 mm");
        gauge.Answer("FORMAT C:").ShouldBe("ERR unknown command");
    }
}
