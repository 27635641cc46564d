using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;

namespace OilTag.Web.Tests;

/// <summary>Every write of survey and strip, one by one: who may, twice is once, and words are never markup.</summary>
public sealed class EveryWriteTests(Shed shed) : IClassFixture<Shed>
{
    private const string Nobody = "00000000-0000-7000-8000-000000000001";

    private const string Hostile = "<script>alert(1)</script><img src=x>";

    /// <summary>Handlers that record something, each with a form that is filled well enough to reach the rule of who may.</summary>
    public static TheoryData<string, bool> Handlers => new()
    {
        // Path, and whether only a lead may.
        { "/bench/torque?thread=1%2F2-13&grade=5&handler=Keep", false },
        { "/bench/kept?handler=LetGo", false },
        { "/log?handler=Diary", false },
        { "/lifts/new?m=G", false },
        { "/lifts/2/edit", false },
        { "/lifts/2?handler=Sign", false },
        { "/lifts/1/live?handler=Read", false },
        { "/lifts/1/live?handler=Typed", false },
        { "/lifts/1/live?handler=Step", false },
        { "/lifts/1/live?handler=Clear", false },
        { "/g/7?handler=Read", false },
        { "/g/7?handler=Level", false },
        { "/g/7?handler=Change", false },
        { "/r/9/pieces", false },
        { "/r/9/pieces?handler=Scrap", false },
        { "/r/9/processes?process=Casting", false },
        { "/r/9/processes?handler=Check", false },
        { "/machines/G/fixtures", true },
        { "/machines/G/fixtures?handler=Stands", true },
        { "/machines/G/fixtures?handler=Read", false },
        { "/machines/G/drawings", false },
        { "/machines/G/schedule", false },
        { "/f/1/follow?handler=Look", false },
        { "/f/1/follow?handler=Ask", false },
        { "/f/1/follow?handler=Again", false },
        { "/f/1/follow?handler=Cause", true },
        { "/f/1/follow?handler=Reply", true },
        { "/s/6/matrix?handler=Fill", false },
        { "/s/6/matrix/1-1", false },
        { "/s/6/checks?handler=Checks", false },
        { "/s/6/checks?handler=Cause", false },
        { "/s/6/checks?handler=Drop", false },
        { "/c/1?handler=Read", false },
        { "/c/1?handler=Edit", false },
        { "/d/1?handler=Suspect", false },
        { "/d/1?handler=Check", false },
        { "/d/1?handler=Enter", false },
        { "/d/1?handler=Cure", false },
        { "/d/1?handler=Again", false },
        { "/d/1?handler=Look", true },
        { "/survey/looks?handler=Done", false },
        { "/survey/looks?handler=Weak", true },
        { "/survey/looks?handler=Path", true },
        { "/survey/questions?handler=Answer", false },
        { "/survey/parts?handler=End", true },
        { "/survey/estimate", true },
        { "/survey/complete?handler=Line", false },
        { "/survey/complete?handler=Book", true },
        { "/survey/complete?handler=Target", true },
        { "/survey/templates/new", true },
        { "/survey/together", true },
        { "/survey/together?handler=Compare", true },
        { "/t/100?handler=Move", false },
        { "/t/100?handler=Join", false },
        { "/t/100?handler=Out", false },
        { "/t/100?handler=End", true },
        { "/machines/M/standing?handler=PutIn", false },
        { "/machines/M/standing?handler=TakeOut", false },
        { "/machines/M/standing?handler=System", false },
        { "/machines/M/standing?handler=Motion", false },
        { "/machines/G/trials", true },
        { "/machines/G/trials/1?handler=Check", false },
        { "/machines/G/trials/1?handler=End", true },
        { "/strip/where", false },
        { "/today?handler=SignIn", false },
        { "/today?handler=Finished", false },
        { "/today?handler=Again", true },
        { "/today?handler=Move", true },
        { "/today?handler=Swap", true },
        { "/today/short", false },
        { "/plan/try", true },
        { "/plan/promises", true },
        { "/plan/promises?handler=Why", true },
        { "/t/100?handler=Describe", false },
        { "/machines/M/sets", true },
        { "/machines/M/breakdown?handler=Paste", true },
        { "/machines/M/breakdown?handler=Rename", true },
        { "/machines/M/breakdown?handler=Move", true },
        { "/machines/M/breakdown?handler=Mirror", true },
        { "/machines/M/breakdown?handler=Multiply", true },
        { "/machines/M/breakdown?handler=Remove", true },
        { "/machines/M/runs", false },
        { "/tray", false },
        { "/tray/430?handler=Known", false },
        { "/tray/430?handler=Go", true },
        { "/t/100?handler=Paper", false },
        { "/t/100?handler=Withdraw", true },
        { "/machines/M/outline?handler=Choose", true },
        { "/machines/M/outline?handler=Tie", true },
        { "/machines/M/outline?handler=Bring", true },
        { "/machines/M/outline?handler=Draw", true },
        { "/machines/M/outline?handler=Erase", true },
        { "/at/1?handler=Bring", false },
        { "/at/1?handler=Box", false },
        { "/at/1?handler=Walk", false },
        { "/w/1/needs/1", true },
        { "/w/1/plan", true },
        { "/plan/calendar?handler=Session", true },
        { "/plan/calendar?handler=End", true },
        { "/plan/calendar?handler=Change", true },
        { "/plan/calendar?handler=Undo", true },
        { "/plan/calendar?handler=Site", true },
        { "/plan/calendar?handler=Agree", true },
        { "/plan/equipment", true },
        { "/plan/equipment?handler=Out", true },
        { "/plan/equipment?handler=Back", true },
        { "/plan/machines/M", true },
        { "/plan/machines/M?handler=Window", true },
        { "/plan/machines/M?handler=Drop", true },
        { "/plan/calls", true },
        { $"/plan/calls/{Nobody}", true },
        { $"/plan/calls/{Nobody}?handler=Off", true },
        { "/plan/damage", true },
        { "/plan/damage?handler=Settle", false },
        { $"/plan/{Nobody}", true },
        { $"/plan/{Nobody}?handler=Change", true },
        { $"/plan/{Nobody}?handler=Split", true },
        { $"/plan/{Nobody}?handler=End", true },
        { "/plan/milestones", true },
        { "/work/new?m=G", true },
        { "/work/library", true },
        { $"/work/library?set={Nobody}&handler=End", true },
        { "/w/40/steps", true },
        { "/w/40?handler=Begin", true },
        { "/w/40?handler=Damaged", false },
        { "/w/40/care?handler=Lock", false },
        { "/w/40/care?handler=Locked", false },
        { "/w/40/care?handler=Unlocked", true },
        { "/w/40/care?handler=In", false },
        { "/w/40/care?handler=Out", false },
        { "/w/40/care?handler=Try", false },
        { "/w/40/care?handler=Strike", false },
        { "/w/40/care?handler=Again", false },
        { "/w/85/3/torque?handler=Set", true },
        { "/w/85/3/torque?handler=Pull", false },
        { "/w/85/3/torque?handler=Strike", false },
        { "/w/85/3/torque?handler=Ask", false },
        { "/w/85/3/torque?handler=Tool", false },
        { "/machines/L/service?handler=Set", true },
        { "/machines/L/service?handler=End", true },
        { "/machines/L/service?handler=Done", false },
        { "/machines/L/service?handler=NotDone", false },
        { "/machines/L/service?handler=Use", false },
        { "/machines/L/service?handler=NotUsed", false },
        { "/machines/L/service?handler=Again", false },
        { "/machines/L/service?handler=Checked", false },
        { "/plan/tools", true },
        { "/plan/tools?handler=End", true },
        { "/me/pin", false },
        { "/w/40/steps?handler=Fields", true },
        { "/w/40/1?handler=Reading", false },
        { "/w/40/sheet", false },
        { "/w/40?handler=Caution", false },
        { "/w/40?handler=Lay", false },
        { "/w/40/1?handler=Strike", false },
        { "/w/40?handler=Cancel", true },
        { "/w/40?handler=Reopen", true },
        { "/w/40?handler=Undo", true },
        { "/f/1?handler=TakeBack", true },
        { "/r/9?handler=Move", false },
        { "/r/9?handler=Back", false },
        { "/r/9?handler=Split", true },
        { "/r/9?handler=Foresee", true },
        { "/r/9/edit", true },
        { "/r/9/evidence", false },
        { "/r/9/evidence?handler=File", false },
        { "/r/9/evidence?handler=Differ", false },
        { "/r/9/evidence?handler=Decide", true },
        { "/r/9/material", false },
        { "/r/9/material?handler=Cut", false },
        { "/r/9/material?handler=Agree", false },
        { "/r/9/first", false },
        { "/r/9/first?handler=Read", false },
        { "/r/9/shop", true },
        { "/r/9/shop?handler=Ask", false },
        { "/r/9/shop?handler=Revoke", true },
        { $"/today/out/{Nobody}", false },
        { $"/today/out/{Nobody}?handler=Stay", false },
        { $"/today/choose/{Nobody}", true },
        { $"/people/{Nobody}?handler=Likes", true },
        { $"/people/{Nobody}?handler=Name", true },
        { "/plan?handler=Ordered", true },
        { $"/people/{Nobody}?handler=Grant", true },
        { $"/people/{Nobody}?handler=End", true },
        { $"/people/{Nobody}?handler=Away", true },
        { $"/people/{Nobody}?handler=Back", true },
        { $"/people/{Nobody}?handler=Mark", true },
    };

    [Theory]
    [MemberData(nameof(Handlers))]
    public async Task A_visitor_may_not_and_a_helper_only_what_is_a_helpers(string path, bool lead)
    {
        var before = await shed.AskAsync(db => db.LogEntries.CountAsync());
        using var visitor = await shed.AsAsync("visiting");
        await visitor.OpenAsync("/survey");
        (string, string?)[] form = [("Number", "1"), ("f", "1"), ("f", "2")];
        (await visitor.PostAsync(path, form)).Headers.Location?.ToString().ShouldContain("not-allowed", Case.Insensitive, path);
        using var nobody = await shed.AsAsync(null);
        await nobody.GetAsync("/sign-in");
        (await nobody.PostAsync(path, form)).Headers.Location?.ToString().ShouldContain("sign-in", Case.Insensitive, path);
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/survey");
        var answer = await tobit.PostAsync(path, form);
        (answer.Headers.Location?.ToString().Contains("not-allowed", StringComparison.Ordinal) == true).ShouldBe(lead, path);
        if (lead)
        {
            (await shed.AskAsync(db => db.LogEntries.CountAsync())).ShouldBe(before, path);
        }
    }

    [Theory]
    [MemberData(nameof(Handlers))]
    public async Task Without_the_token_of_the_page_nothing_is_taken(string path, bool lead)
    {
        _ = lead;
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/survey");
        using var bare = new FormUrlEncodedContent([KeyValuePair.Create("key", Guid.CreateVersion7().ToString())]);
        (await una.Client.PostAsync(path, bare, TestContext.Current.CancellationToken)).StatusCode.ShouldBe(HttpStatusCode.BadRequest);
    }

    [Theory]
    [MemberData(nameof(Handlers))]
    public async Task An_empty_form_is_refused_in_words_and_writes_nothing(string path, bool lead)
    {
        _ = lead;
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/survey");
        var before = await shed.AskAsync(db => db.LogEntries.CountAsync());
        var answer = await una.PostAsync(path, ("Number", "0"));

        // What needs no words (looked again, open a package) is recorded; everything else says what is missing.
        if (answer.StatusCode != HttpStatusCode.Redirect)
        {
            new[] { HttpStatusCode.UnprocessableEntity, HttpStatusCode.Conflict, HttpStatusCode.NotFound, HttpStatusCode.OK }.ShouldContain(answer.StatusCode, path);
            (await shed.AskAsync(db => db.LogEntries.CountAsync())).ShouldBe(before, path);
            una.Html.ShouldNotContain("Exception");
        }
    }

    [Fact]
    public async Task A_form_that_is_sent_twice_records_once()
    {
        using var una = await shed.AsAsync("una");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Whistle").Select(p => p.Id).FirstAsync());
        var template = (await shed.AskAsync(db => db.Templates.Select(t => t.Id).FirstAsync())).ToString();
        var finding = await shed.AskAsync(db => db.Findings.Where(f => f.Cause != "").MinAsync(f => f.Number));
        await una.OpenAsync($"/survey/new?place={place}");
        (string Path, (string, string?)[] Form, Func<OilTagDb, Task<int>> Count)[] writes =
        [
            ("/survey/matrix", [("place", place.ToString()), ("Template", template), ("Title", "Twice"), ("Positions", "1-2")], db => db.Matrices.CountAsync()),
            ("/survey/point", [("place", place.ToString()), ("Title", "Twice"), ("Unit", "mm")], db => db.Points.CountAsync()),
            ("/survey/diagnosis", [("place", place.ToString()), ("Symptom", "Leaks twice")], db => db.Diagnoses.CountAsync()),
            ($"/f/{finding}/follow?handler=Ask", [("Question", "Twice?"), ("AskedOf", "anybody"), ("Block", "False")], db => db.Questions.CountAsync()),
            ("/survey/estimate?m=B", [("Stage", "Underway"), ("Hours", "5"), ("Cost", "10"), ("Basis", "Twice")], db => db.Estimates.CountAsync()),
            ("/survey/looks?handler=Weak", [("Spot", "Whistle"), ("Weak", "Twice")], db => db.WeakSpots.CountAsync()),
            ("/survey/complete?m=L&handler=Book", [("Lines", "9-9, Twice, 1")], db => db.BookLines.CountAsync()),
            ("/log?handler=Diary", [("Line", "Twice in the rain")], db => db.LogEntries.CountAsync()),
            ("/c/2?handler=Read", [("Reading", "101.3 mm"), ("On", "2026-01-05"), ("Evidence", "Measured")], db => db.PointReadings.CountAsync()),
            ("/survey/templates/new", [("Name", "Twice"), ("Positions", "1-4"), ("Checks[0].Name", "Hinge")], db => db.Templates.CountAsync()),
        ];
        foreach (var (path, form, count) in writes)
        {
            var before = await shed.AskAsync(count);
            var key = Guid.CreateVersion7();
            var first = await una.SendAsync(path, key, form);
            first.StatusCode.ShouldBe(HttpStatusCode.Redirect, path + una.Text);
            var second = await una.SendAsync(path, key, form);
            second.Headers.Location.ShouldBe(first.Headers.Location, path);
            (await shed.AskAsync(count)).ShouldBe(before + 1, path);
            await una.OpenAsync("/survey/new?place=" + place);
        }
    }

    [Fact]
    public async Task Words_are_never_markup()
    {
        using var una = await shed.AsAsync("una");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Injector" && p.Hand == Core.Machines.Hand.Right).Select(p => p.Id).FirstAsync());
        var template = (await shed.AskAsync(db => db.Templates.Where(t => t.Name == "Piston engine").Select(t => t.Id).SingleAsync())).ToString();
        await una.OpenAsync($"/survey/new?place={place}");
        async Task<string> Made(string path, params (string, string?)[] form)
        {
            var answer = await una.PostAsync(path, form);
            answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, path + una.Text);
            return answer.Headers.Location!.ToString();
        }

        var finding = await Made($"/survey/new?place={place}", ("What", Hostile), ("Cause", Hostile));
        var matrix = await Made("/survey/matrix", ("place", place.ToString()), ("Template", template), ("Title", Hostile[..30]), ("PositionsAre", "<b>Box</b>"), ("Positions", "<i>, 2"));
        var point = await Made("/survey/point", ("place", place.ToString()), ("Title", Hostile), ("How", Hostile), ("Unit", "mm"), ("High", "9 mm"));
        await Made(point + "?handler=Read", ("Reading", "8 mm"), ("On", "2026-01-05"), ("Evidence", "Measured"), ("Note", Hostile));
        var diagnosis = await Made("/survey/diagnosis", ("place", place.ToString()), ("Symptom", Hostile), ("Suspects", Hostile + "\nOther"));
        await Made(finding + "/follow?handler=Ask", ("Question", Hostile), ("AskedOf", Hostile), ("Block", "False"));
        await Made(finding + "/follow?handler=Cause", ("CauseEnd", "Accepted"), ("CauseNote", Hostile));
        await Made("/log?handler=Diary", ("Line", Hostile));
        await Made("/survey/looks?handler=Weak", ("Spot", Hostile), ("Weak", Hostile), ("Type", "<u>"));
        await Made("/survey/complete?m=M&handler=Book", ("Lines", $"1;{Hostile};2;{Hostile}"));
        await Made("/survey/estimate?m=M", ("Stage", "Underway"), ("Hours", "5"), ("Cost", "10"), ("Basis", Hostile));
        foreach (var page in new[] { finding, finding + "/follow", matrix, matrix + "?fill=true", point, diagnosis, "/survey/looks", "/survey/questions", "/survey/diagnoses", "/survey/complete?m=M", "/survey/estimate?m=M", "/survey/parts?m=M", "/survey/sheets", "/survey?m=M", "/log?m=M" })
        {
            await una.OpenAsync(page);
            una.Html.ShouldNotContain("<script>alert");
            una.Html.ShouldNotContain("<img src=x");
            una.Page.QuerySelectorAll("h1").Length.ShouldBe(1, page);
        }
    }

    [Fact]
    public async Task What_is_not_there_is_not_found()
    {
        using var una = await shed.AsAsync("una");
        foreach (var path in new[] { "/s/9999/matrix", "/s/9999", "/s/6/matrix/9-1", "/s/6/matrix/1-99", "/s/3/matrix", "/c/9999", "/c/9999.csv", "/d/9999", "/f/999999/follow", $"/photos/{Guid.NewGuid()}/mark", $"/photos/{Guid.NewGuid()}.svg", $"/survey/bring/{Guid.NewGuid()}", "/survey/parts?m=Z", "/survey/parts.csv?m=Z", "/survey/estimate?m=Z", "/survey/complete?m=Z", $"/survey/templates/{Guid.NewGuid()}", $"/survey/matrix?place={Guid.NewGuid()}", $"/survey/point?place={Guid.NewGuid()}", $"/survey/diagnosis?place={Guid.NewGuid()}", "/s/9999/matrix.csv", "/s/9999/checks", "/lifts/9999", "/lifts/9999/live", "/lifts/9999/edit", "/lifts/new?m=Z", "/g/9999", "/machines/Z/fixtures", "/machines/Z/drawings", "/machines/Z/schedule", "/r/9999/pieces", "/r/9999/processes", "/bench/tables/9999" })
        {
            (await una.GetAsync(path)).StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
        }

        foreach (var (typed, said) in new[] { ("C9999", "No check point C9999."), ("D9999", "No diagnosis D9999."), ("S9999", "No survey S9999.") })
        {
            (await una.GetAsync("/jump?q=" + typed)).StatusCode.ShouldBe(HttpStatusCode.NotFound, typed);
            una.Text.ShouldContain(said);
        }
    }
}
