using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;

namespace OilTag.Web.Tests;

/// <summary>Surveys of positions, check points and marked photos over HTTP, on the demo.</summary>
public sealed class MatrixTests(Shed shed) : IClassFixture<Shed>
{
    [Fact]
    public async Task A_matrix_is_planned_from_a_template_walked_cell_by_cell_and_judged()
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await PlanAsync(tobit);
        await tobit.OpenAsync($"/s/{number}");
        tobit.Page.QuerySelectorAll(".matrix tbody tr").Length.ShouldBe(8);
        tobit.Text.ShouldContain("24 cells are empty");
        tobit.Page.QuerySelector(".headline .act")!.TextContent.ShouldBe("Begin at Cylinder 1, bore");
        await tobit.OpenAsync($"/s/{number}/matrix/1-1");
        var loaded = tobit.Typed("Loaded");
        var next = await tobit.PostAsync($"/s/{number}/matrix/1-1", ("Loaded", loaded), ("Reading", "104.5"), ("Evidence", "Seen"), ("On", "true"));
        next.Headers.Location!.ToString().ShouldBe($"/s/{number}/matrix/1-2");
        (await tobit.PostAsync($"/s/{number}/matrix/1-2", ("Loaded", loaded), ("Mark", "Bad"), ("Evidence", "Felt"), ("Note", "Lip of a millimetre"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync($"/s/{number}/matrix");
        tobit.Text.ShouldContain("Bad: Cylinder 1.");
        var cells = await shed.AskAsync(db => db.MatrixCells.Where(c => db.Matrices.Any(m => m.Id == c.MatrixId && m.Number == number)).OrderBy(c => c.Check).ToListAsync());
        cells.Select(c => (c.Mark, c.Reading?.Si, c.Evidence, c.Note)).ShouldBe([(CellMark.Measured, 0.1045, Evidence.Measured, ""), (CellMark.Bad, null, Evidence.Felt, "Lip of a millimetre")]);
    }

    [Fact]
    public async Task The_whole_table_is_filled_at_once_and_bad_cells_keep_what_was_typed()
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await PlanAsync(tobit);
        await tobit.OpenAsync($"/s/{number}/matrix?fill=true");
        var (loaded, was) = (tobit.Typed("Loaded"), tobit.Typed("Was"));
        var refused = await tobit.PostAsync($"/s/{number}/matrix?handler=Fill", ("Loaded", loaded), ("Was", was), ("c1-1", "104.1"), ("c2-2", "rusty"), ("c3-8", "7.5 bar"));
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("c1-1").ShouldBe("104.1");
        tobit.Typed("c2-2").ShouldBe("rusty");
        tobit.Text.ShouldContain("Cylinder 2, liner: Liner is not measured in this survey");
        (await tobit.PostAsync($"/s/{number}/matrix?handler=Fill", ("Loaded", loaded), ("Was", was), ("c1-1", "104.1"), ("c2-2", "b"), ("c3-8", "7.5 bar told"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync($"/s/{number}/matrix");
        tobit.Text.ShouldContain("Cylinder 3, compression was told.");
        (await tobit.GetAsync($"/s/{number}/matrix.csv")).StatusCode.ShouldBe(HttpStatusCode.OK);
        tobit.Html.ShouldContain("Bore,104.1,,");
        tobit.Html.ShouldContain("Compression,,,7.5 bar told");
    }

    [Fact]
    public async Task Two_people_in_one_cell_do_not_write_over_each_other_unseen()
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await PlanAsync(tobit);
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/s/{number}/matrix/1-2");
        var loaded = una.Typed("Loaded");
        await tobit.OpenAsync($"/s/{number}/matrix/1-2");
        (await tobit.PostAsync($"/s/{number}/matrix/1-2", ("Loaded", tobit.Typed("Loaded")), ("Mark", "Sound"), ("Evidence", "Seen"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/s/{number}/matrix/1-2", ("Loaded", loaded), ("Mark", "Bad"), ("Evidence", "Seen"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        una.Text.ShouldContain("Tobit Crane put s meanwhile; you have b.");
        una.Typed("Mark").ShouldBe("Bad");
    }

    [Theory]
    [InlineData("1-2", "Mark", null, null, "Say what it is like.")]
    [InlineData("1-1", "Reading", null, "tall", "")]
    [InlineData("1-1", "Reading", "CannotSee", "104", "out of reach")]
    public async Task A_cell_that_cannot_be_is_refused_beside_its_field(string cell, string field, string? mark, string? reading, string sentence)
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await PlanAsync(tobit);
        await tobit.OpenAsync($"/s/{number}/matrix/{cell}");
        (await tobit.PostAsync($"/s/{number}/matrix/{cell}", ("Loaded", tobit.Typed("Loaded")), ("Mark", mark), ("Reading", reading), ("Evidence", "Seen"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside(field).ShouldContain(sentence);
        tobit.Beside(field).ShouldNotBeEmpty();
    }

    [Fact]
    public async Task Limits_are_set_causes_are_drawn_and_names_of_checks_stay()
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await PlanAsync(tobit);
        await tobit.OpenAsync($"/s/{number}/checks");
        var seen = tobit.Typed("Seen");
        var lines = tobit.Page.QuerySelectorAll("input[name^='Checks['][name$='.Name']").Select(e => e.GetAttribute("value") ?? string.Empty).Where(v => v.Length > 0).ToList();
        (string, string?)[] Form(string first, string high) => [("Seen", seen), .. lines.SelectMany((n, i) => new (string, string?)[] { ($"Checks[{i}].Name", i == 0 ? first : n), ($"Checks[{i}].Unit", i == 0 ? "mm" : ""), ($"Checks[{i}].High", i == 0 ? high : "") })];
        (await tobit.PostAsync($"/s/{number}/checks?handler=Checks", Form("Width", "95.3"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("keep their names and their order");
        (await tobit.PostAsync($"/s/{number}/checks?handler=Checks", Form("Bore", "tall"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("Checks[0].High").ShouldBe("tall");
        (await tobit.PostAsync($"/s/{number}/checks?handler=Checks", Form("Bore", "95.3"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync($"/s/{number}/checks?handler=Cause", ("Seen", seen), ("CauseFrom", "1"), ("CauseTo", "2"), ("CauseWords", "Rain ran in"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await tobit.OpenAsync($"/s/{number}/checks");
        seen = tobit.Typed("Seen");
        (await tobit.PostAsync($"/s/{number}/checks?handler=Cause", ("Seen", seen), ("CauseFrom", "2"), ("CauseTo", "1"), ("CauseWords", "Rain"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/s/{number}/checks?handler=Cause", ("Seen", seen), ("CauseFrom", "1"), ("CauseTo", "2"), ("CauseWords", "Rain ran in"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync($"/s/{number}/matrix");
        tobit.Page.QuerySelector(".bracket")!.TextContent.ShouldBe("Rain ran in");
        tobit.Text.ShouldContain("95.3 mm or less");
    }

    [Fact]
    public async Task A_cell_with_a_photo_keeps_it_and_the_photo_takes_marks()
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await PlanAsync(tobit);
        await tobit.OpenAsync($"/s/{number}/matrix/2-2");
        (await tobit.UploadAsync($"/s/{number}/matrix/2-2", "liner.jpg", Pictures.Jpeg(400, 300), ("Loaded", tobit.Typed("Loaded")), ("Mark", "Bad"), ("Evidence", "Seen"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync($"/s/{number}/matrix");
        var mark = tobit.Page.QuerySelector(".photos a")!.GetAttribute("href")!;
        await tobit.OpenAsync(mark);
        var version = tobit.Typed("Version");
        (await tobit.PostAsync(mark, ("Version", version), ("Marks", "star 1 2 3 4"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("Marks").ShouldBe("star 1 2 3 4");
        (await tobit.PostAsync(mark, ("Version", version), ("Marks", "circle 100 100 220 180\nwords 20 280 <b>lip</b>"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync(mark, ("Version", version), ("Marks", ""))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await tobit.OpenAsync($"/s/{number}/matrix");
        tobit.Page.QuerySelector(".photos .over path").ShouldNotBeNull();
        tobit.Html.ShouldContain("&lt;b&gt;lip");
        (await tobit.GetAsync(mark.Replace("/mark", ".svg", StringComparison.Ordinal))).Content.Headers.ContentType!.MediaType.ShouldBe("image/svg+xml");
        await tobit.OpenAsync($"/s/{number}/matrix?fill=true");
        (await tobit.PostAsync($"/s/{number}/matrix?handler=Fill", ("Loaded", tobit.Typed("Loaded")), ("Was", tobit.Typed("Was")), ("c2-2", ""))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("there is a photo of it");
    }

    [Fact]
    public async Task Templates_are_the_teams_own()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/survey/templates/new");
        (await una.PostAsync("/survey/templates/new", ("Name", "Piston engine"), ("Positions", "1-4"), ("Checks[0].Name", "Bore"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Name").ShouldContain("already");
        (await una.PostAsync("/survey/templates/new", ("Name", "Doors"), ("Positions", "1-4"), ("Checks[0].Name", "Hinge"), ("Checks[0].Unit", "mm"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var id = await shed.AskAsync(db => db.Templates.Where(t => t.Name == "Doors").Select(t => t.Id).SingleAsync());
        await una.OpenAsync($"/survey/templates/{id}");
        var version = una.Typed("Version");
        (await una.PostAsync($"/survey/templates/{id}", ("Version", version), ("Name", "Doors"), ("Positions", "1-4"), ("Checks[0].Name", "Hinge"), ("Retired", "True"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/survey/templates/{id}", ("Version", version), ("Name", "Doors"), ("Positions", "1-4"), ("Checks[0].Name", "Latch"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        var place = await EngineAsync();
        await una.OpenAsync($"/survey/matrix?place={place}");
        una.Text.ShouldNotContain("hinge");
        (await una.GetAsync("/survey/templates/nothing")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        using var tobit = await shed.AsAsync("tobit");
        (await tobit.GetAsync($"/survey/templates/{id}")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task The_engine_of_the_demo_points_at_the_two_lowest_cylinders()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/s/6");
        una.Text.ShouldContain("Bad: Cylinder 3, Cylinder 4.");
        una.Text.ShouldContain("Cylinder 3 to 4 are worse than the rest.");
        una.Page.QuerySelectorAll(".matrix td.past").Length.ShouldBe(6);
        await una.OpenAsync("/s/6/matrix/3-1");
        una.Text.ShouldContain("Beyond limit: above by 0.06 mm.");
        await una.OpenAsync(una.Page.QuerySelector("a[href^='/survey/new']")!.GetAttribute("href")!);
        (una.Typed("Reading"), una.Typed("Nominal"), una.Typed("Limit"), una.Typed("Feature")).ShouldBe(("104.31", "104 mm", "104.25 mm", "Bore"));
        una.Typed("Cause").ShouldBe("Rain ran in through the lowest exhaust stubs");
    }

    [Fact]
    public async Task The_dynamo_of_the_demo_sags_when_it_is_warm()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/jump?q=C1");
        una.Text.ShouldContain("Falls by 5 V (20 %) in 50 min; outside its limits after 9.1 min.");
        una.Text.ShouldContain("It settles near 19.8 V");
        await una.OpenAsync("/c/2");
        una.Text.ShouldContain("a year");
        una.Text.ShouldContain("At the limit about");
        (await una.GetAsync("/c/1.csv")).StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Html.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(10);
    }

    [Fact]
    public async Task A_check_point_is_set_up_read_and_changed()
    {
        using var tobit = await shed.AsAsync("tobit");
        var place = await EngineAsync();
        await tobit.OpenAsync($"/survey/point?place={place}");
        (await tobit.PostAsync("/survey/point", ("place", place), ("Title", "Oil pressure"), ("Unit", "psi"), ("Low", "60"), ("High", "40"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("High").ShouldContain("not above the lower one");
        tobit.Typed("Title").ShouldBe("Oil pressure");
        var made = await tobit.PostAsync("/survey/point", ("place", place), ("Title", "Oil pressure"), ("Unit", "psi"), ("Low", "40"), ("High", "60"));
        var page = made.Headers.Location!.ToString();
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("Not measured yet.");
        (await tobit.PostAsync(page + "?handler=Read", ("Reading", "50"), ("On", "2999-01-01"), ("Evidence", "Measured"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Typed("Reading").ShouldBe("50");
        tobit.Beside("On").ShouldBe("That day is not there yet.");
        (await tobit.PostAsync(page + "?handler=Read", ("Reading", "38 to 42"), ("On", "2026-01-05"), ("Evidence", "Measured"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("one end of 38 to 42 is");
        (await tobit.PostAsync(page + "?handler=Read", ("Reading", "55"), ("On", "2026-02-05"), ("Evidence", "Assumed"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("the number was assumed, not measured");
        var version = tobit.Typed("Version");
        (await tobit.PostAsync(page + "?handler=Edit", ("Version", version), ("Title", "Oil"), ("Unit", "V"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync(page + "?handler=Edit", ("Version", version), ("Title", "Oil, hot"), ("Unit", "psi"), ("Low", "40"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync(page + "?handler=Edit", ("Version", version), ("Title", "Oil, cold"), ("Unit", "psi"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_finding_without_a_place_asks_for_it_and_takes_a_tag_or_a_name()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/survey/new");
        (await tobit.PostAsync("/survey/new", ("What", "Dent in the edge"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Where").ShouldBe("Say where it was found.");
        tobit.Typed("What").ShouldBe("Dent in the edge");
        (await tobit.PostAsync("/survey/new", ("What", "Dent in the edge"), ("Where", "plate"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Page.QuerySelectorAll("input[name=place]").Length.ShouldBeGreaterThan(1);
        var tag = await shed.FreeTagAsync("M");
        var logged = await tobit.PostAsync("/survey/new", ("What", "Dent in the edge"), ("Where", tag.ToString()));
        logged.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync(logged.Headers.Location!.ToString());
        tobit.Page.QuerySelector(".tagno")!.TextContent.ShouldBe(tag.ToString());
        (await tobit.GetAsync("/survey/new?handler=Where&Where=chimney")).StatusCode.ShouldBe(HttpStatusCode.OK);
        tobit.Html.ShouldContain("M Chimney cap");
    }

    [Fact]
    public async Task What_was_only_told_becomes_a_check_of_the_next_survey()
    {
        using var tobit = await shed.AsAsync("tobit");
        var told = await shed.AskAsync(db => db.Findings.Where(f => f.Evidence == Evidence.Told).OrderBy(f => f.Number).Select(f => new { f.Number, f.PlaceId }).FirstAsync());
        var template = (await shed.AskAsync(db => db.Templates.Where(t => t.Name == "Wing ribs or hull frames").Select(t => t.Id).SingleAsync())).ToString();
        await tobit.OpenAsync($"/survey/matrix?place={told.PlaceId}");
        var planned = await tobit.PostAsync("/survey/matrix", ("place", told.PlaceId.ToString()), ("Template", template), ("Title", "Keel"), ("Positions", "1-2"));
        await tobit.OpenAsync(planned.Headers.Location!.ToString());
        tobit.Page.QuerySelectorAll(".matrix tbody th")[^1].TextContent.ShouldBe($"Confirm F{told.Number}");
    }

    [Fact]
    public async Task A_visitor_changes_nothing()
    {
        using var visitor = await shed.AsAsync("visiting");
        await visitor.OpenAsync("/s/6/matrix");
        visitor.Page.QuerySelectorAll(".headline .act").ShouldBeEmpty();
        (await visitor.PostAsync("/s/6/matrix/1-1", ("Mark", "Bad"))).Headers.Location!.ToString().ShouldContain("not-allowed");
        (await visitor.PostAsync("/s/6/matrix?handler=Fill", ("c1-1", "b"))).Headers.Location!.ToString().ShouldContain("not-allowed");
        (await visitor.PostAsync("/c/1?handler=Read", ("Reading", "3"))).Headers.Location!.ToString().ShouldContain("not-allowed");
    }

    private async Task<string> EngineAsync() => (await shed.AskAsync(db => db.Places.Where(p => p.Name == "Engine" && p.Hand == Core.Machines.Hand.Right).Select(p => p.Id).SingleAsync())).ToString();

    private async Task<int> PlanAsync(Visitor tobit)
    {
        var place = await EngineAsync();
        var template = (await shed.AskAsync(db => db.Templates.Where(t => t.Name == "Piston engine").Select(t => t.Id).SingleAsync())).ToString();
        await tobit.OpenAsync($"/survey/matrix?place={place}");
        var planned = await tobit.PostAsync("/survey/matrix", ("place", place), ("Template", template), ("Title", "Starboard engine"), ("PositionsAre", "Cylinder"), ("Positions", "1-3"));
        planned.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        return int.Parse(planned.Headers.Location!.ToString().Split('/')[2]);
    }
}
