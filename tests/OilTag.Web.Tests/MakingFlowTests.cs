using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Make;

namespace OilTag.Web.Tests;

/// <summary>Kept answers, special processes, fixtures, drawings, schedules, numbered pieces and sizes of machines through their pages.</summary>
public sealed class MakingFlowTests : IAsyncLifetime
{
    private readonly Shed shed = new();

    public async ValueTask InitializeAsync()
    {
        await shed.InitializeAsync();
        await TestCards.AddAsync(shed);
        shed.Clock.Set(11, 0);
    }

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    [Fact]
    public async Task An_answer_is_kept_with_a_finding_and_says_when_its_reading_has_changed()
    {
        using var dilys = await shed.AsAsync("dilys");
        var finding = await shed.AskAsync(db => db.Findings.AsNoTracking().Where(f => f.Feature == Core.Survey.Feature.Bore && f.Reading != null && f.ReadingTo == null).OrderBy(f => f.Number).FirstAsync());
        var ask = $"/bench/wear?kind=bore&nominal={Uri.EscapeDataString(finding.Nominal!.Text)}&limit={Uri.EscapeDataString(finding.Limit!.Text)}&reading={Uri.EscapeDataString(finding.Reading!.Text)}";
        await dilys.OpenAsync(ask + $"&for=F{finding.Number}");
        dilys.Typed("With").ShouldBe($"F{finding.Number}");
        await dilys.PostAsync(ask + "&handler=Keep", ("With", "F99999"));
        dilys.Beside("With").ShouldContain("There is no “F99999”");
        (await dilys.PostAsync(ask + "&handler=Keep", ("With", $"f {finding.Number}"), ("Note", "before it is bored"))).Headers.Location!.ToString().ShouldBe($"/f/{finding.Number}#kept");
        await dilys.OpenAsync($"/f/{finding.Number}");
        dilys.Page.QuerySelector(".kept")!.TextContent.ShouldContain("Wear used");
        dilys.Page.QuerySelector(".kept .say").ShouldBeNull();

        // The reading is put right: the answer says what it used, and asks again with the new one.
        await shed.AskAsync(db => db.Database.ExecuteSqlAsync($"update findings set reading_text = '4.0070 in', reading_si = {4.0070 * 0.0254} where number = {finding.Number}"));
        await dilys.OpenAsync($"/f/{finding.Number}");
        dilys.Page.QuerySelector(".kept .say")!.TextContent.ShouldContain($"The reading of F{finding.Number} was {finding.Reading.Text} and is 4.0070 in now.");
        dilys.Page.QuerySelector(".kept a.act")!.GetAttribute("href")!.ShouldContain("reading=4.0070%20in");
        await dilys.OpenAsync("/bench/kept");
        dilys.Text.ShouldContain($"Open F{finding.Number}");
        var kept = await shed.AskAsync(db => db.KeptAnswers.Where(k => k.FindingId == finding.Id).Select(k => k.Id).SingleAsync());
        (await dilys.PostAsync("/bench/kept?handler=LetGo", ("Id", kept.ToString()), ("Back", "https://elsewhere.example/"))).Headers.Location!.ToString().ShouldBe("/bench/kept");
        (await dilys.PostAsync("/bench/kept?handler=LetGo", ("Id", kept.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Answers_are_kept_with_steps_cards_and_parts_too()
    {
        using var dilys = await shed.AsAsync("dilys");
        var package = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null && k.Operations.Count > 1).Select(k => k.Number).FirstAsync());
        var tag = await shed.AskAsync(db => db.Tags.Where(t => t.End == null).Select(t => t.Number).FirstAsync());
        const string Ask = "/bench/torque?thread=1%2F2-13&grade=5";
        foreach (var (with, page) in new[] { ($"W{package} step 2", $"/w/{package}"), ("R9", "/r/9"), ($"OT {tag}", $"/t/{tag}") })
        {
            await dilys.OpenAsync(Ask);
            (await dilys.PostAsync(Ask + "&handler=Keep", ("With", with))).Headers.Location!.ToString().ShouldBe(page + "#kept");
            await dilys.OpenAsync(page);
            dilys.Page.QuerySelector("#kept")!.TextContent.ShouldContain("75.38");
        }

        // Nothing is kept without an answer.
        await dilys.OpenAsync("/bench/torque?thread=soup&grade=5");
        await dilys.PostAsync("/bench/torque?thread=soup&grade=5&handler=Keep", ("With", "R9"));
        (await shed.AskAsync(db => db.KeptAnswers.CountAsync(k => k.Calculator == "torque"))).ShouldBe(3);
    }

    [Fact]
    public async Task A_melt_is_written_down_and_checked_by_another()
    {
        using var dilys = await shed.AsAsync("dilys");
        var card = await shed.AskAsync(db => db.RouteCards.Where(c => c.Part == "Bow plate").Select(c => c.Number).SingleAsync());
        await dilys.OpenAsync($"/r/{card}/processes?process=Casting");
        (string, string?)[] Melt(string pour) => [("On", "2026-01-05"), ("alloy", "88-10-2"), ("charge", "6 kg"), ("degassed", "not"), ("mould", "sand"), ("pour", pour)];
        await dilys.PostAsync($"/r/{card}/processes?process=Casting", Melt("900 °C"));
        dilys.Beside("pour").ShouldContain("all liquid only above 999 °C");
        dilys.Typed("charge").ShouldBe("6 kg");
        (await dilys.PostAsync($"/r/{card}/processes?process=Casting", Melt("1150 °C"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var record = await shed.AskAsync(db => db.Processes.Where(p => p.Passed == null).OrderByDescending(p => p.At).Select(p => p.Id).FirstAsync());

        // The plug is critical: a helper does not check it, an inspector does, once.
        await dilys.OpenAsync($"/r/{card}/processes");
        dilys.Text.ShouldContain("an inspector checks it");
        await dilys.PostAsync($"/r/{card}/processes?handler=Check", ("Record", record.ToString()), ("Passed", "true"), ("CheckNote", "fine"));
        using var ismay = await shed.AsAsync("ismay");
        await ismay.OpenAsync($"/r/{card}/processes");
        await ismay.PostAsync($"/r/{card}/processes?handler=Check", ("Record", record.ToString()), ("Passed", "false"), ("CheckNote", string.Empty));
        ismay.Text.ShouldContain("Say how it was checked");
        (await ismay.PostAsync($"/r/{card}/processes?handler=Check", ("Record", record.ToString()), ("Passed", "false"), ("CheckNote", "Porous when sawn"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await ismay.OpenAsync($"/r/{card}/processes");
        ismay.Text.ShouldContain("checked, not good");
        await ismay.PostAsync($"/r/{card}/processes?handler=Check", ("Record", record.ToString()), ("Passed", "true"), ("CheckNote", "Better"));
        ismay.Text.ShouldContain("checked, not good");
    }

    [Fact]
    public async Task Work_that_wants_a_fixture_waits_while_it_does_not_hold()
    {
        using var una = await shed.AsAsync("una");
        var package = await shed.AskAsync(db => db.Packages.AsNoTracking().Include(k => k.Operations).SingleAsync(k => k.Title == "Chine doublers and bottom plates"));
        await una.OpenAsync($"/w/{package.Number}");
        una.Text.ShouldNotContain("It waits.");
        var cradle = await shed.AskAsync(db => db.Fixtures.Select(f => f.Id).SingleAsync());
        await una.OpenAsync("/machines/G/fixtures");
        await una.PostAsync("/machines/G/fixtures?handler=Read", ("Id", cradle.ToString()), ("Read", "812.1 mm"), ("Read", "far"), ("Read", string.Empty));
        una.Text.ShouldContain("Frame 11 to keel:");
        (await una.PostAsync("/machines/G/fixtures?handler=Read", ("Id", cradle.ToString()), ("Read", "815 mm"), ("Read", string.Empty), ("Read", string.Empty))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/w/{package.Number}");
        una.Text.ShouldContain("Frame 7 to keel has moved");
        var step = package.Operations.Where(o => o.DoneAt is null && !o.Hold).MinBy(o => o.Order)!;
        await una.PostAsync($"/w/{package.Number}?handler=Done", ("Step", step.Id.ToString()));
        una.Text.ShouldContain("Stop, and bring it back first");
        (await shed.AskAsync(db => db.Operations.Where(o => o.Id == step.Id).Select(o => o.DoneAt).SingleAsync())).ShouldBeNull();

        // It is not taken away under open work.
        await una.OpenAsync("/machines/G/fixtures");
        await una.PostAsync("/machines/G/fixtures?handler=Stands", ("Id", cradle.ToString()), ("Set", "false"));
        una.Text.ShouldContain("wants it and is still open");

        // Another is written down, set up and read.
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Keel" && p.Kind == Core.Machines.PlaceKind.Assembly).Select(p => p.Id).FirstAsync());
        await una.PostAsync("/machines/G/fixtures", ("FixtureTitle", "Strongback"), ("FixturePlace", place.ToString()), ("Points", "a; 1 m; 1 mm"), ("FixtureHolds", "W9999"));
        una.Beside("FixtureHolds").ShouldContain("no package of this machine");
        (await una.PostAsync("/machines/G/fixtures", ("FixtureTitle", "Strongback"), ("FixturePlace", place.ToString()), ("Points", "a; 1 m; 1 mm"), ("FixtureHolds", string.Empty))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var strongback = await shed.AskAsync(db => db.Fixtures.Where(f => f.Title == "Strongback").Select(f => f.Id).SingleAsync());
        await una.OpenAsync("/machines/G/fixtures");
        await una.PostAsync("/machines/G/fixtures?handler=Read", ("Id", strongback.ToString()), ("Read", "1 m"));
        una.Text.ShouldContain("It does not stand");
        (await una.PostAsync("/machines/G/fixtures?handler=Stands", ("Id", strongback.ToString()), ("Set", "true"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync("/machines/G/fixtures?handler=Stands", ("Id", strongback.ToString()), ("Set", "false"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task A_drawing_is_redrawn_checked_by_another_and_released()
    {
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync("/machines/G/drawings");
        (string, string?)[] Line(string state, string? seen = null, string conflict = "", string decision = "") => [("DrawingNumber", "float"), ("Sheet", "1"), ("DrawingTitle", "Keel strip"), ("State", state), ("Conflict", conflict), ("Decision", decision), ("Seen", seen ?? "0")];
        (await dilys.PostAsync("/machines/G/drawings", Line("Redrawn"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await dilys.PostAsync("/machines/G/drawings", Line("Found"));
        dilys.Text.ShouldContain("It stands in the register already");
        var id = await shed.AskAsync(db => db.Drawings.Where(d => d.Number == "float").Select(d => d.Id).SingleAsync());
        async Task<string> SeenAsync() => (await shed.AskAsync(db => db.Drawings.Where(d => d.Id == id).Select(d => d.Version).SingleAsync())).ToString(System.Globalization.CultureInfo.InvariantCulture);
        await dilys.PostAsync($"/machines/G/drawings?edit={id}", Line("Checked", await SeenAsync()));
        dilys.Text.ShouldContain("You drew it");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/machines/G/drawings");
        (await una.PostAsync($"/machines/G/drawings?edit={id}", Line("Checked", await SeenAsync(), "3 mm too long"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/machines/G/drawings?edit={id}", Line("Released", "1"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await una.PostAsync($"/machines/G/drawings?edit={id}", Line("Released", await SeenAsync(), "3 mm too long"));
        una.Text.ShouldContain("nobody has decided yet");
        (await una.PostAsync($"/machines/G/drawings?edit={id}", Line("Released", await SeenAsync(), "3 mm too long", "Cut to the keel"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/machines/G/drawings");
        una.Text.ShouldContain("Decided: Cut to the keel");
    }

    [Fact]
    public async Task A_cable_is_measured_made_and_proved()
    {
        using var dilys = await shed.AsAsync("dilys");
        var run = await shed.AskAsync(db => db.Runs.AsNoTracking().SingleAsync(r => r.Name == "rudder cable, upper"));
        (string, string?)[] Line(string? length, string proof, string? proofOn, uint seen) => [("Seen", seen.ToString()), ("Length", length), ("Size", "1/8 7 by 19"), ("FirstEnd", "fork"), ("SecondEnd", "eye"), ("Count", "2"), ("MadeOn", "2026-02-01"), ("Proof", proof), ("ProofOn", proofOn)];
        var path = $"/machines/G/schedule?run={run.Id}";
        await dilys.OpenAsync(path);
        await dilys.PostAsync(path, Line(null, string.Empty, null, run.Version));
        dilys.Beside("Length").ShouldContain("take that first");
        await dilys.PostAsync(path, Line("4.9 m", "900 lbf", "2026-02-03", run.Version));
        dilys.Beside("Proof").ShouldContain("six tenths");
        await dilys.PostAsync(path, Line("4.9 m", "1200 lbf", "2026-01-03", run.Version));
        dilys.Beside("ProofOn").ShouldContain("after it is made");
        (await dilys.PostAsync(path, Line("4.9 m", "1200 lbf", "2026-02-03", run.Version))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await dilys.PostAsync(path, Line("4.9 m", "1200 lbf", "2026-02-03", run.Version))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await dilys.OpenAsync("/machines/G/schedule");
        dilys.Text.ShouldContain("1200 lbf");
        dilys.Text.ShouldContain("2 side by side");
    }

    [Fact]
    public async Task Numbered_pieces_are_moved_by_their_numbers_and_no_number_is_given_twice()
    {
        using var una = await shed.AsAsync("una");
        // Pieces that were counted cannot get numbers afterwards; those that are not begun are split off and can.
        var counted = await shed.AskAsync(db => db.RouteCards.AsNoTracking().SingleAsync(c => c.Part == "Inspection cover"));
        await una.OpenAsync($"/r/{counted.Number}");
        var split = await una.PostAsync($"/r/{counted.Number}?handler=Split", ("SplitLine", "1-Left"), ("SplitAt", "0"), ("HowMany", "1"));
        var n = int.Parse(split.Headers.Location!.ToString().Split('/')[^1], System.Globalization.CultureInfo.InvariantCulture);
        var card = await shed.AskAsync(db => db.RouteCards.AsNoTracking().Include(c => c.Stages).SingleAsync(c => c.Number == n));
        await una.OpenAsync($"/r/{n}/edit");
        async Task<HttpResponseMessage> EditAsync(string numbered) => await una.PostAsync($"/r/{n}/edit", [("Seen", (await shed.AskAsync(db => db.RouteCards.Where(c => c.Number == n).Select(c => c.Version).SingleAsync())).ToString()), ("Part", card.Part), ("Handed", "true"), ("Critical", "false"), ("Left", "2"), ("Right", "1"), ("Numbered", numbered), ("Size", "400 mm; 380 mm; 60 mm; 12 kg"), .. card.Stages.OrderBy(s => s.Order).SelectMany((s, i) => new (string, string?)[] { ($"Rows[{i}].Id", s.Id.ToString()), ($"Rows[{i}].Order", s.Order.ToString()), ($"Rows[{i}].Name", s.Name), ($"Rows[{i}].Machine", i == 1 ? "lathe" : string.Empty) })]);
        (await EditAsync("true")).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/r/{n}");
        una.Text.ShouldContain("Its pieces are followed singly.");
        una.Text.ShouldContain("lathe takes 360 mm over the bed; the part has 380 mm.");
        await una.PostAsync($"/r/{n}?handler=Move", ("StageId", card.Stages.MinBy(s => s.Order)!.Id.ToString()), ("Item", "0"), ("Hand", "Left"), ("Pieces", "1"), ("Seen", "0"));
        una.Text.ShouldContain("move them by their numbers");

        await una.OpenAsync($"/r/{n}/pieces");
        (string, string?)[] Go(int piece, int reached, bool forward, string hand = "Left") => [("Piece", piece.ToString()), ("Item", "0"), ("Hand", hand), ("Reached", reached.ToString()), ("Forward", forward ? "true" : "false")];
        (await una.PostAsync($"/r/{n}/pieces", Go(0, 0, true))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await una.PostAsync($"/r/{n}/pieces", Go(0, 0, true))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.PostAsync($"/r/{n}/pieces", Go(0, 0, true));
        una.Text.ShouldContain("Not moved");
        (await una.PostAsync($"/r/{n}/pieces", Go(0, 0, true, "Right"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/r/{n}/pieces", Go(1, 1, true))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await una.PostAsync($"/r/{n}/pieces", Go(1, 1, true))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await una.PostAsync($"/r/{n}/pieces?handler=Scrap", ("Piece", "2"), ("Why", string.Empty));
        una.Text.ShouldContain("Say what is wrong with it");
        (await una.PostAsync($"/r/{n}/pieces?handler=Scrap", ("Piece", "2"), ("Why", "Cracked"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync($"/r/{n}/pieces", Go(0, 0, true))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/r/{n}/pieces");
        foreach (var mark in new[] { $"R{n}-1", $"R{n}-2", $"R{n}-3", $"R{n}-4" })
        {
            una.Text.ShouldContain(mark);
        }

        una.Text.ShouldContain("scrapped");
        (await EditAsync("false")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task What_a_machine_takes_is_said_with_the_equipment()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/equipment");
        await una.PostAsync("/plan/equipment", ("Name", "oven"), ("Count", "1"), ("Oven", "600 mm; 500 mm"));
        una.Beside("Oven").ShouldContain("width; height; depth");
        (await una.PostAsync("/plan/equipment", ("Name", "oven"), ("Count", "1"), ("Oven", "600 mm; 500 mm; 900 mm"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/plan/equipment");
        una.Text.ShouldContain("inside 600 mm by 500 mm by 900 mm");
        una.Text.ShouldContain("swing 360 mm");
    }

    [Fact]
    public async Task Make_or_buy_takes_its_weeks_from_the_plan()
    {
        using var una = await shed.AsAsync("una");
        (await una.GetAsync("/r/9999?handler=MakeOrBuy")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await shed.PlanAsync();
        var to = (await una.GetAsync("/r/9?handler=MakeOrBuy")).Headers.Location!.ToString();
        to.ShouldStartWith("/bench/make-or-buy?pieces=");
        to.ShouldContain("&makeWeeks=");
        to.ShouldContain("&need=");
        await una.OpenAsync(to + "&make=30&buy=90&buyWeeks=4");
        una.Typed("With").ShouldBe("R9");
        una.Page.QuerySelector(".bench-figures .first").ShouldNotBeNull(una.Text);
    }
}
