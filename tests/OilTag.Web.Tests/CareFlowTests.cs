using System.Globalization;
using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Measures;
using OilTag.Core.Planning;
using OilTag.Core.Torque;
using OilTag.Core.Work;
using OilTag.Instruments;

namespace OilTag.Web.Tests;

/// <summary>A shed with a simulated torque wrench that never slips.</summary>
public sealed class WrenchShed : Shed
{
    private readonly InstrumentOnTheBench wrench = new(new TorqueWrench(4, steady: true));

    protected override string Wrench => wrench.Address;

    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        wrench.Dispose();
    }
}

/// <summary>Bolts pulled, things locked, tools in and out, what was tried, service and rechecks, signatures by PIN, hours without a package.</summary>
public sealed class CareFlowTests(WrenchShed shed) : IClassFixture<WrenchShed>
{
    private const string Nobody = "00000000-0000-7000-8000-000000000001";

    private const string Hostile = "<script>alert(1)</script>";

    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    private Task<WorkPackage> PackageAsync(int number) => shed.AskAsync(db => db.Packages.AsNoTracking().Include(k =>
        k.Operations.OrderBy(o => o.Order)).SingleAsync(k => k.Number == number));

    private static async Task<int> OpenAsync(Visitor una, string title, string lines, string machine = "G")
    {
        await una.OpenAsync($"/work/new?m={machine}");
        var answer = await una.PostAsync("/work/new", ("m", machine), ("Title", title), ("Lines", lines));
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        return int.Parse(answer.Headers.Location!.ToString().Split('/')[^1], CultureInfo.InvariantCulture);
    }

    private Task<Guid> ToolAsync(string name) => shed.AskAsync(db => db.MeasuringTools.Where(t => t.Name == name).Select(t =>
        t.Id).SingleAsync(Ct));

    private static async Task TakesAsync(Visitor who, string path, params (string, string?)[] fields) =>
        (await who.PostAsync(path, fields)).StatusCode.ShouldBe(HttpStatusCode.Redirect, who.Text);

    private static async Task RefusesAsync(Visitor who, string path, string words, params (string, string?)[] fields)
    {
        (await who.PostAsync(path, fields)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, who.Text);
        who.Text.ShouldContain(words);
    }

    private static (string, string?)[] Bolts(Guid tool, params (string, string?)[] more) =>
    [
        ("Name", "Front cover"), ("Noun", "stud"), ("Shape", "Circle"), ("Count", "4"), ("Full", "50 lb ft"), ("Within", "2 lb ft"),
            ("Passes", "50 100"), ("Threads", "engine oil"), ("Source", "book 88"),
        ("ToolId", tool.ToString()), ("Again", "Heat"), ("AgainHours", "10"), ("LockedBy", "TabWasher"), .. more,
    ];

    [Fact]
    public async Task Bolts_are_set_pulled_in_order_stopped_over_and_followed_by_locking_and_a_recheck()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Cover on", "cover on 2 h\nHOLD Seen");
        var k = await PackageAsync(number);
        var (step, path) = (k.Operations[0].Id.ToString(), $"/w/{number}/1/torque");
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync(path);
        tobit.Text.ShouldContain("No bolts are set for this step.");
        await una.OpenAsync(path);
        await RefusesAsync(una, $"{path}?handler=Set", "Say what is on the threads",
            Bolts(await ToolAsync("Wrench 1"), ("Threads", "")).Where(f => f != ("Threads", "engine oil")).ToArray());
        una.Typed("Full").ShouldBe("50 lb ft");
        await RefusesAsync(una, $"{path}?handler=Set", "Wrench 3 is out of calibration", Bolts(await ToolAsync("Wrench 3")));
        await TakesAsync(una, $"{path}?handler=Set", Bolts(await ToolAsync("Wrench 1")));
        var set = await shed.AskAsync(db => db.BoltGroups.SingleAsync(g => g.OperationId == k.Operations[0].Id, Ct));
        set.Order.ShouldBe([1, 3, 2, 4]);
        await RefusesAsync(tobit, $"/w/{number}?handler=Done", "8 of 8 pulls of Front cover are not done.", ("Step", step));

        // Short is not kept; out of order wants a reason; twice is once.
        await tobit.OpenAsync(path);
        tobit.Text.ShouldContain("Stud 1 to 25 lb ft");
        await RefusesAsync(tobit, $"{path}?handler=Pull", "2.0 lb ft short. Pull on; nothing is kept yet.", ("Pass", "1"), ("Turned", "1"),
            ("Pull", "21"));
        tobit.Typed("Pull").ShouldBe("21");
        await RefusesAsync(tobit, $"{path}?handler=Pull", "stud 1 comes next. Say why this one is done before it.", ("Pass", "1"),
            ("Turned", "3"), ("Pull", "25"));
        var key = Guid.CreateVersion7();
        (await tobit.SendAsync($"{path}?handler=Pull", key, ("Pass", "1"), ("Turned", "1"),
            ("Pull", "25"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await tobit.SendAsync($"{path}?handler=Pull", key, ("Pass", "1"), ("Turned", "1"),
            ("Pull", "25"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync($"{path}?handler=Pull", ("Pass", "1"), ("Turned", "1"),
            ("Pull", "25"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await TakesAsync(tobit, $"{path}?handler=Pull", ("Pass", "1"), ("Turned", "3"), ("Pull", "25"), ("Why", Hostile));
        (await tobit.PostAsync($"{path}?handler=Pull", ("Pass", "2"), ("Turned", "1"),
            ("Pull", "50"))).StatusCode.ShouldBe(HttpStatusCode.Conflict, "a pass is not begun before its time");

        // Over stops the order, whatever comes.
        await TakesAsync(tobit, $"{path}?handler=Pull", ("Pass", "1"), ("Turned", "2"), ("Pull", "40 N m"));
        await tobit.OpenAsync(path);
        tobit.Html.ShouldNotContain("<script>alert");
        tobit.Text.ShouldContain("Stud 2 is over");
        tobit.Text.ShouldContain("Slacken stud 2, then pull it again.");
        await RefusesAsync(tobit, $"{path}?handler=Pull", "Stud 2 is over. Slacken it first.", ("Pass", "1"), ("Turned", "4"),
            ("Pull", "25"));
        var over = await shed.AskAsync(db => db.TorqueReadings.SingleAsync(r => r.GroupId == set.Id && !r.Within, Ct));
        await TakesAsync(tobit, $"{path}?handler=Ask", ("ReadingId", over.Id.ToString()));
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync(path);
        await RefusesAsync(corin, $"{path}?handler=Answer", "Say why it may not stay so.", ("ReadingId", over.Id.ToString()),
            ("Accept", "false"));
        await TakesAsync(corin, $"{path}?handler=Answer", ("ReadingId", over.Id.ToString()), ("Accept", "false"),
            ("AcceptWhy", "Pull it again"));
        (await tobit.PostAsync($"{path}?handler=Answer", ("ReadingId", over.Id.ToString()), ("Accept", "true"),
            ("AcceptWhy", "mine"))).Headers.Location!.ToString().ShouldContain("not-allowed");
        await TakesAsync(tobit, $"{path}?handler=Pull", ("Pass", "1"), ("Turned", "2"), ("Pull", "25"));
        (await shed.AskAsync(db => db.TorqueReadings.Where(r => r.Id == over.Id).Select(r =>
            r.StruckWhy).SingleAsync(Ct))).ShouldBe("slackened and pulled again");

        // Taken back by the one who pulled it, with a reason; then the rest.
        using var dilys = await shed.AsAsync("dilys");
        var last = await shed.AskAsync(db => db.TorqueReadings.OrderByDescending(r => r.At).FirstAsync(r => r.GroupId == set.Id
            && r.StruckAt == null, Ct));
        await dilys.OpenAsync(path);
        await RefusesAsync(dilys, $"{path}?handler=Strike", "Somebody else pulled it.", ("ReadingId", last.Id.ToString()),
            ("StrikeWhy", "no"));
        await TakesAsync(tobit, $"{path}?handler=Strike", ("ReadingId", last.Id.ToString()), ("StrikeWhy", "not read right"));
        (await tobit.PostAsync($"{path}?handler=Strike", ("ReadingId", last.Id.ToString()),
            ("StrikeWhy", "again"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        foreach (var (pass, n) in new[] { (1, 2), (1, 4), (2, 1), (2, 2), (2, 3), (2, 4) })
        {
            await TakesAsync(tobit, $"{path}?handler=Pull", ("Pass", $"{pass}"), ("Turned", $"{n}"),
                ("Pull", pass == 1 ? "25" : "50.5 lb ft"));
        }

        await tobit.OpenAsync(path);
        tobit.Text.ShouldContain("Front cover: all 4 done");
        tobit.Text.ShouldContain("Looked at again after the next heat and after 10 running hours.");
        (await shed.AskAsync(db => db.Rechecks.SingleAsync(r => r.PackageId == k.Id, Ct))).ShouldSatisfyAllConditions(r =>
            r.What.ShouldBe("Torque of Front cover: 50 lb ft, engine oil"), r => r.AfterHours.ShouldBe(10));
        (await una.PostAsync($"{path}?handler=Set",
            Bolts(await ToolAsync("Wrench 1")))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, "pulls are on record");
        await TakesAsync(tobit, $"/w/{number}?handler=Done", ("Step", step));

        // What the bolts are locked by keeps the package from closing until it is done.
        await TakesAsync(corin, $"/w/{number}?handler=Sign", ("Step", k.Operations[1].Id.ToString()), ("Note", "Seen"));
        await RefusesAsync(una, $"/w/{number}?handler=Close", "Front cover: none of 4 is locked by tab washer.");
        var locking = await shed.AskAsync(db => db.Lockings.SingleAsync(l => l.PackageId == k.Id, Ct));
        await RefusesAsync(tobit, $"/w/{number}/care?handler=Locked", "whole number from 0 to 4", ("Id", locking.Id.ToString()),
            ("Locked", "5"));
        await TakesAsync(tobit, $"/w/{number}/care?handler=Locked", ("Id", locking.Id.ToString()), ("Locked", "4"));
        await TakesAsync(una, $"/w/{number}?handler=Close");
    }

    [Fact]
    public async Task A_step_goes_with_its_bolts_until_one_is_pulled()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Taken out", "clean 1 h\ncover on 2 h\nlook 1 h");
        var path = $"/w/{number}/2/torque";
        await una.OpenAsync(path);
        await TakesAsync(una, $"{path}?handler=Set", Bolts(await ToolAsync("Wrench 1")));
        await una.OpenAsync($"/w/{number}/steps");
        await TakesAsync(una, $"/w/{number}/steps", ("Lines", "1. Clean 1 h\n3. Look 1 h"), ("Seen", "1"));
        var step = (await PackageAsync(number)).Operations.Select(o => o.Name).ToList();
        step.ShouldBe(["Clean", "Look"]);

        await una.OpenAsync($"/w/{number}/2/torque");
        await TakesAsync(una, $"{path}?handler=Set", Bolts(await ToolAsync("Wrench 1")));
        await TakesAsync(una, $"{path}?handler=Pull", ("Pass", "1"), ("Turned", "1"), ("Pull", "25"));
        await una.OpenAsync($"/w/{number}/steps");
        await RefusesAsync(una, $"/w/{number}/steps", "Keep its line, or finish it first", ("Lines", "1. Clean 1 h"), ("Seen", "2"));
    }

    [Fact]
    public async Task The_wrench_is_followed_and_what_it_lets_go_at_is_kept()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Followed", "cover on 2 h");
        var path = $"/w/{number}/1/torque";
        await una.OpenAsync(path);
        await TakesAsync(una, $"{path}?handler=Set", Bolts(await ToolAsync("Wrench 1")));
        await una.OpenAsync($"{path}?wrench=true");
        await TakesAsync(una, $"{path}?handler=Wrench");
        var group = await shed.AskAsync(db => db.BoltGroups.SingleAsync(g => db.Operations.Any(o => o.Id == g.OperationId
            && db.Packages.Any(p => p.Id == o.PackageId && p.Number == number)), Ct));
        (await shed.AskAsync(db => db.TorqueReadings.SingleAsync(r => r.GroupId == group.Id, Ct))).ShouldSatisfyAllConditions(r =>
            r.Sent.ShouldBeTrue(), r => r.Within.ShouldBeTrue(), r => r.Tool.ShouldBe("Wrench 1"), r =>
            r.Value.Unit.ShouldBe(Unit.PoundFoot));
        HttpResponseMessage answer;
        var shown = 0;
        var key = Guid.CreateVersion7();
        do
        {
            answer = await una.SendAsync($"{path}?handler=Live", key, ("Wrench", "true"));
            answer.StatusCode.ShouldBe(HttpStatusCode.OK);
            shown.ShouldBeLessThan(10);
            shown++;
        }
        while (!answer.Headers.Contains("HX-Redirect"));
        shown.ShouldBeGreaterThan(3);
        (await shed.AskAsync(db => db.TorqueReadings.CountAsync(r => r.GroupId == group.Id, Ct))).ShouldBe(2);
    }

    [Fact]
    public async Task Pulls_from_a_paper_sheet_are_typed_in_on_its_page_and_bolts_lie_on_a_photo()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/f/1");
        (await una.UploadAsync("/f/1?handler=Photo", "photo.jpg", Pictures.Jpeg(320, 200),
            ("Caption", "cover"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var photo = await shed.AskAsync(db =>
            (from p in db.Photos join f in db.Findings on p.FindingId equals f.Id join m in db.Machines on f.MachineId equals m.Id orderby p.Id select new { p.Id, m.Letter }).FirstAsync(Ct));
        var number = await OpenAsync(una, "From paper", "cover on 2 h", photo.Letter);
        var path = $"/w/{number}/1/torque";
        await una.OpenAsync(path);
        (string, string?)[] own = [.. Bolts(await ToolAsync("Wrench 1")).Where(f => f.Item1 is not ("Shape" or "Count")), ("Shape", "Own"),
            ("Points", "10 50\n90 50\n50 20")];
        await RefusesAsync(una, $"{path}?handler=Set", "What you typed is still here.", [.. own, ("PhotoId", Nobody)]);
        await TakesAsync(una, $"{path}?handler=Set", [.. own, ("PhotoId", photo.Id.ToString())]);
        await una.OpenAsync(path);
        una.Page.QuerySelector("svg.bolts image")!.GetAttribute("href").ShouldBe($"/photos/{photo.Id}");

        var sheet = $"/w/{number}/sheet";
        await una.OpenAsync($"{sheet}?type=true");
        var step = (await PackageAsync(number)).Operations[0].Id.ToString();
        var nell = await shed.AskAsync(db => db.People.Where(p => p.Name == "Nell Garrow").Select(p => p.Id.ToString()).SingleAsync(Ct));
        (string, string?)[] Form(string first, string second, bool done = true) =>
            [("Sheet", "1"), ("Who", nell), ("Rows[0].Step", step), ("Rows[0].Done", done ? "true" : "false"), ("Rows[0].Pulls[0]", first),
            ("Rows[0].Pulls[1]", second)];
        await RefusesAsync(una, sheet, "Step 1. Pass 2, stud 2, “60”: 8.0 lb ft over.", Form("25 25 x", "50 60 50"));
        una.Typed("Rows[0].Pulls[0]").ShouldBe("25 25 x");
        await RefusesAsync(una, sheet, "Step 1. Pass 2 is not on: pass 1 is.", Form("", "50 50 50"));
        await RefusesAsync(una, sheet, "pulls of Front cover are not done", Form("25 25 x", ""));
        (await shed.AskAsync(db => db.TorqueReadings.CountAsync(r => db.BoltGroups.Any(g => g.Id == r.GroupId
            && g.OperationId.ToString() == step), Ct))).ShouldBe(0, "all of it or nothing");
        await TakesAsync(una, sheet, Form("25 25 x", "50 50.5 49"));
        var pulled = await shed.AskAsync(db => db.TorqueReadings.Where(r => db.BoltGroups.Any(g => g.Id == r.GroupId
            && g.OperationId.ToString() == step)).OrderBy(r => r.Pass).ThenBy(r => r.Number).ToListAsync(Ct));
        pulled.Select(r => (r.Pass, r.Number, r.Ticked, r.ById.ToString())).ShouldBe([(1, 1, false, nell), (1, 2, false, nell),
            (1, 3, true, nell), (2, 1, false, nell), (2, 2, false, nell), (2, 3, false, nell)]);
        (await PackageAsync(number)).Operations[0].DoneAt.ShouldNotBeNull();
        await una.OpenAsync($"{path}?bolt=3");
        una.Text.ShouldContain("clicked at");
    }

    [Fact]
    public async Task A_reading_is_taken_from_the_instruments_line_and_judged_at_once()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Read by wire", "nip it 1 h\n    each 40-60 N m x 2\ngauge it 1 h\n    each 2-3 mm x 2");
        await una.OpenAsync($"/w/{number}/1");
        una.Text.ShouldContain("Read the wrench");
        await TakesAsync(una, $"/w/{number}/1?handler=Instrument", ("Wanted", "each 40-60 N m x 2"), ("Position", "1"));
        var read = await shed.AskAsync(db => db.StepReadings.OrderByDescending(r => r.At).FirstAsync(Ct));
        (read.Within, read.Instrument, read.Value!.UnitSymbol).ShouldBe((true, "wrench", "N m"));
        read.Value.Si.ShouldBe(50, 1);
        await una.OpenAsync($"/w/{number}/2");
        una.Text.ShouldNotContain("Read the gauge", customMessage: "none is set up here");
        await RefusesAsync(una, $"/w/{number}/2?handler=Instrument", "No instrument is set up that reads this. Type it.",
            ("Wanted", "each 2-3 mm x 2"), ("Position", "1"));
    }

    [Fact]
    public async Task Tools_go_in_and_out_attempts_are_kept_and_damage_is_a_finding_in_one_tap()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Space", "look inside 1 h");
        using var tobit = await shed.AsAsync("tobit");
        var care = $"/w/{number}/care";
        await tobit.OpenAsync(care);
        await RefusesAsync(tobit, $"{care}?handler=In", "Say what it is and how many", ("What", ""));
        await TakesAsync(tobit, $"{care}?handler=In", ("What", Hostile));
        var k = await PackageAsync(number);
        await TakesAsync(tobit, $"/w/{number}?handler=Done", ("Step", k.Operations[0].Id.ToString()));
        await RefusesAsync(una, $"/w/{number}?handler=Close", "went in and is not out.");
        var item = await shed.AskAsync(db => db.TemporaryItems.OrderByDescending(t => t.InAt).Select(t => t.Id).FirstAsync(Ct));
        await TakesAsync(tobit, $"{care}?handler=Out", ("Id", item.ToString()));
        (await tobit.PostAsync($"{care}?handler=Out", ("Id", item.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        await RefusesAsync(tobit, $"{care}?handler=Try", "Choose what was tried.", ("TriedOn", "studs"));
        await TakesAsync(tobit, $"{care}?handler=Try", ("TriedOn", "Test studs"), ("Trouble", "Seized"), ("TriedWay", "Soak"),
            ("Medium", "diesel"), ("TriedHours", "72"), ("TriedEnd", "Nothing"));
        await tobit.OpenAsync(care);
        tobit.Html.ShouldNotContain("<script>alert");
        tobit.Text.ShouldContain("Try next: work it to and fro.");
        await TakesAsync(tobit, $"{care}?handler=Try", ("TriedOn", "Test studs"), ("Trouble", "Seized"), ("TriedWay", "ToAndFro"),
            ("TriedHours", "0.5"), ("TriedEnd", "Free"));
        await tobit.OpenAsync("/work/tried?q=test+studs");
        tobit.Text.ShouldContain("Work it to and fro freed 1 of 1 part, in 0.5 h on average.");
        var tried = await shed.AskAsync(db => db.Attempts.Where(a => a.What == "Test studs").OrderByDescending(a => a.At).FirstAsync(Ct));
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync(care);
        await RefusesAsync(dilys, $"{care}?handler=Strike", "Somebody else wrote it down.", ("Id", tried.Id.ToString()),
            ("StrikeWhy", "no"));
        await TakesAsync(tobit, $"{care}?handler=Strike", ("Id", tried.Id.ToString()), ("StrikeWhy", "another stud"));
        await tobit.OpenAsync("/work/tried?q=test+studs");
        tobit.Text.ShouldContain("Nothing of it freed a part yet.");

        var before = await shed.AskAsync(db => db.Findings.CountAsync(Ct));
        var key = Guid.CreateVersion7();
        (await tobit.SendAsync($"/w/{number}?handler=Damaged", key)).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await tobit.SendAsync($"/w/{number}?handler=Damaged", key)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Findings.CountAsync(Ct))).ShouldBe(before + 1);
        (await shed.AskAsync(db => db.Findings.OrderByDescending(f => f.Number).FirstAsync(Ct))).ShouldSatisfyAllConditions(f =>
            f.Origin.ShouldBe(Core.Survey.Origin.ByUs), f => f.What.ShouldBe($"Damaged by us, package {number}. Somebody adds what"));
    }

    [Fact]
    public async Task A_lock_stays_open_until_it_is_locked_or_a_lead_says_why_not()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Locks", "pin it 1 h");
        using var tobit = await shed.AsAsync("tobit");
        var care = $"/w/{number}/care";
        await tobit.OpenAsync(care);
        await RefusesAsync(tobit, $"{care}?handler=Lock", "Say what is locked", ("LockWhat", ""), ("LockCount", "0"),
            ("LockWay", "SplitPin"));
        await TakesAsync(tobit, $"{care}?handler=Lock", ("LockWhat", "Hinge pins"), ("LockCount", "6"), ("LockWay", "SplitPin"));
        var id = await shed.AskAsync(db => db.Lockings.Where(l => l.What == "Hinge pins").Select(l => l.Id).SingleAsync(Ct));
        (await tobit.PostAsync($"{care}?handler=Unlocked", ("Id", id.ToString()),
            ("LockWithout", "no"))).Headers.Location!.ToString().ShouldContain("not-allowed");
        await una.OpenAsync(care);
        await RefusesAsync(una, $"{care}?handler=Unlocked", "Say why it stays unlocked.", ("Id", id.ToString()));
        await TakesAsync(una, $"{care}?handler=Unlocked", ("Id", id.ToString()), ("LockWithout", "Glued for the trial"));
        await una.OpenAsync(care);
        una.Text.ShouldContain("All is locked, no tool is inside.");
        (await una.PostAsync($"{care}?handler=Locked", ("Id", Nobody), ("Locked", "1"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_service_list_goes_round_twice_stops_the_run_and_stands_on_today()
    {
        using var una = await shed.AsAsync("una");
        using var tobit = await shed.AsAsync("tobit");
        const string Path = "/machines/B/service";
        await una.OpenAsync(Path);
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Upper axle").Select(p => p.Id).FirstAsync(Ct));
        await RefusesAsync(una, $"{Path}?handler=Set", "Say when it is due", ("What", "Grease test"), ("PlaceId", place.ToString()));
        await RefusesAsync(una, $"{Path}?handler=Set", "Choose a place of this machine.", ("What", "Grease test"), ("PlaceId", Nobody),
            ("EveryDays", "30"));
        await TakesAsync(una, $"{Path}?handler=Set", ("What", "Grease test"), ("PlaceId", place.ToString()), ("With", "calcium grease"),
            ("Amount", "2 strokes"), ("EveryHours", "2"), ("BeforeRun", "true"));
        var task = await shed.AskAsync(db => db.ServiceTasks.SingleAsync(t => t.What == "Grease test", Ct));
        await una.OpenAsync("/machines/B/standing");
        una.Text.ShouldContain("Service: Grease test, Upper axle, before the next run.");
        await tobit.OpenAsync("/today");
        tobit.Text.ShouldContain("Grease test");
        await TakesAsync(tobit, "/today?handler=Service", ("ServiceId", task.Id.ToString()));
        (await tobit.PostAsync("/today?handler=Service", ("ServiceId", task.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Conflict,
            "somebody did it meanwhile");
        await una.OpenAsync("/machines/B/standing");
        una.Text.ShouldNotContain("Grease test");

        // It runs: due again; done with minutes, which are hours given.
        await tobit.OpenAsync(Path);
        await RefusesAsync(tobit, $"{Path}?handler=Use", "Type the running hours", ("UseKind", "Run"), ("UseOn", HandClock.Day(0)),
            ("UseHours", ""));
        tobit.Typed("UseOn").ShouldBe(HandClock.Day(0));
        await TakesAsync(tobit, $"{Path}?handler=Use", ("UseKind", "Run"), ("UseOn", HandClock.Day(0)), ("UseHours", "2.5"),
            ("UseDistance", "1 mi"));
        await tobit.OpenAsync(Path);
        tobit.Text.ShouldContain("2.5 h of 2 h run");
        var done = await shed.AskAsync(db => db.ServicesDone.SingleAsync(d => d.TaskId == task.Id, Ct));
        await TakesAsync(tobit, $"{Path}?handler=Done", ("Id", task.Id.ToString()), ("Seen", done.Id.ToString()),
            ("Note", "left nipple blocked, rodded"), ("Minutes", "25"));
        (await shed.AskAsync(db => db.Hours.SingleAsync(h => h.Note == "Grease test", Ct))).ShouldSatisfyAllConditions(h =>
            h.Minutes.ShouldBe(25), h => h.PackageId.ShouldBeNull());
        var second = await shed.AskAsync(db => db.ServicesDone.OrderByDescending(d => d.At).FirstAsync(d => d.TaskId == task.Id, Ct));
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync(Path);
        await RefusesAsync(dilys, $"{Path}?handler=NotDone", "Somebody else did it.", ("Id", second.Id.ToString()), ("BackWhy", "no"));
        await TakesAsync(tobit, $"{Path}?handler=NotDone", ("Id", second.Id.ToString()), ("BackWhy", "the wrong nipple"));
        var use = await shed.AskAsync(db => db.MachineUses.OrderByDescending(u => u.At).FirstAsync(Ct));
        await TakesAsync(tobit, $"{Path}?handler=NotUsed", ("Id", use.Id.ToString()), ("BackWhy", "it was pushed"));
        (await tobit.PostAsync($"{Path}?handler=NotUsed", ("Id", use.Id.ToString()),
            ("BackWhy", "again"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await TakesAsync(una, $"{Path}?handler=Set&change={task.Id}", ("What", "Grease test"), ("PlaceId", place.ToString()),
            ("EveryDays", "30"), ("Version", $"{task.Version}"));
        (await una.PostAsync($"{Path}?handler=Set&change={task.Id}", ("What", "Grease test"), ("PlaceId", place.ToString()),
            ("EveryDays", "60"), ("Version", $"{task.Version}"))).StatusCode.ShouldBe(HttpStatusCode.Conflict, "stale");
        await TakesAsync(una, $"{Path}?handler=End&change={task.Id}", ("EndWhy", "Sealed bearings now"));
        (await una.PostAsync($"{Path}?handler=End&change={task.Id}", ("EndWhy", "again"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        // A place with a service list stays in the breakdown.
        await una.OpenAsync("/machines/B/breakdown");
        var bare = await shed.AskAsync(async db =>
        {
            var p = new Core.Machines.Place { MachineId = task.MachineId, Kind = Core.Machines.PlaceKind.Assembly, Name = "Service test", Order = 90 };
            db.Places.Add(p);
            await db.SaveChangesAsync(Ct);
            return p.Id;
        });
        await TakesAsync(una, $"{Path}?handler=Set", ("What", "Oil the test"), ("PlaceId", bare.ToString()), ("EveryDays", "9"));
        await RefusesAsync(una, "/machines/B/breakdown?handler=Remove", "Something is on record about Service test", ("At", bare.ToString()));

        // A recheck comes by itself after the next run.
        await TakesAsync(tobit, $"{Path}?handler=Again", ("Recheck", "Test nuts"), ("RecheckPlace", place.ToString()), ("AfterUse", "Run"));
        await TakesAsync(tobit, $"{Path}?handler=Use", ("UseKind", "Run"), ("UseOn", HandClock.Day(0)), ("UseHours", "0.5"));
        await una.OpenAsync("/machines/B/standing");
        una.Text.ShouldContain("Recheck: Test nuts, Upper axle, since the run on 26 November 2026.");
        var recheck = await shed.AskAsync(db => db.Rechecks.Where(r => r.What == "Test nuts").Select(r => r.Id).SingleAsync(Ct));
        await tobit.OpenAsync("/today");
        await RefusesAsync(tobit, "/today?handler=Checked", "Say what you found", ("ServiceId", recheck.ToString()));
        await RefusesAsync(tobit, $"{Path}?handler=Checked", "A lead gives a recheck up.", ("Id", recheck.ToString()), ("GiveUp", "true"),
            ("Found", "no time"));
        await TakesAsync(tobit, "/today?handler=Checked", ("ServiceId", recheck.ToString()), ("Found", "all within"));
        await una.OpenAsync("/machines/B/standing");
        una.Text.ShouldNotContain("Test nuts");
    }

    [Fact]
    public async Task On_the_sheds_tablet_a_signature_asks_for_a_pin_and_two_sign_one_after_the_other()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "By PIN", "work 1 h\nHOLD First\nwork on 1 h\nHOLD Second");
        var steps = (await PackageAsync(number)).Operations.Select(o => o.Id.ToString()).ToList();
        foreach (var (name, pin) in new[] { ("corin", "80146"), ("ismay", "2590") })
        {
            using var who = await shed.AsAsync(name);
            await who.OpenAsync("/me/pin");
            await RefusesAsync(who, "/me/pin", "That is the first that anybody tries.", ("Old", Demo.DemoStory.Password), ("Pin", "1234"),
                ("PinAgain", "1234"));
            who.Html.ShouldNotContain("1234");
            await RefusesAsync(who, "/me/pin", "That is not your password now.", ("Old", "wrong"), ("Pin", pin), ("PinAgain", pin));
            await TakesAsync(who, "/me/pin", ("Old", Demo.DemoStory.Password), ("Pin", pin), ("PinAgain", pin));
        }

        // A keeper makes Tobit's sign-in the shed's tablet.
        using var tablet = await shed.AsAsync("tobit");
        await tablet.OpenAsync($"/w/{number}");
        await TakesAsync(tablet, $"/w/{number}?handler=Done", ("Step", steps[0]));
        var (tobit, signIn) = await shed.AskAsync(async db =>
        {
            var s = await (from x in db.SignIns join a in db.Users on x.AccountId equals a.Id join p in db.People on a.PersonId equals p.Id where p.Name == "Tobit Crane" orderby x.At descending select new { x.Id, p = p.Id }).FirstAsync(Ct);
            return (s.p, s.Id);
        });
        using var hesper = await shed.AsAsync("hesper");
        await hesper.OpenAsync($"/keep/accounts/{tobit}");
        await TakesAsync(hesper, $"/keep/accounts/{tobit}?handler=Shared", ("signIn", signIn.ToString()), ("shared", "true"));
        await tablet.OpenAsync($"/w/{number}");
        tablet.Text.ShouldContain("Whose signature is it?");
        var people = await shed.AskAsync(db => db.People.ToDictionaryAsync(p => p.Name, p => p.Id.ToString(), Ct));
        var sign = $"/w/{number}?handler=Sign";
        await RefusesAsync(tablet, sign, "Choose whose signature it is.", ("Step", steps[1]), ("Note", "seen"));
        await RefusesAsync(tablet, sign, "That PIN does not fit the name.", ("Step", steps[1]), ("Note", "seen"),
            ("Who", people["Corin Vance"]), ("Pin", "2590"));
        tablet.Typed("Note").ShouldBe("seen");
        tablet.Html.ShouldNotContain("2590");
        await RefusesAsync(tablet, sign, "That PIN does not fit the name.", ("Step", steps[1]), ("Note", "seen"),
            ("Who", people["Una Thorsby"]), ("Pin", "80146"));
        await TakesAsync(tablet, sign, ("Step", steps[1]), ("Note", "First looked at"), ("Who", people["Corin Vance"]), ("Pin", "80146"));
        await TakesAsync(tablet, $"/w/{number}?handler=Done", ("Step", steps[2]));

        // Five wrong tries, then the right one is not listened to either, until a keeper frees it.
        for (var i = 0; i < 5; i++)
        {
            await RefusesAsync(tablet, sign, "That PIN does not fit the name.", ("Step", steps[3]), ("Note", "seen"),
                ("Who", people["Ismay Pell"]), ("Pin", "0000"));
        }

        await RefusesAsync(tablet, sign, "this PIN rests for five minutes", ("Step", steps[3]), ("Note", "seen"),
            ("Who", people["Ismay Pell"]), ("Pin", "2590"));
        await hesper.OpenAsync($"/keep/accounts/{people["Ismay Pell"]}");
        await TakesAsync(hesper, $"/keep/accounts/{people["Ismay Pell"]}?handler=Unlock");
        await TakesAsync(tablet, sign, ("Step", steps[3]), ("Note", "Second looked at"), ("Who", people["Ismay Pell"]), ("Pin", "2590"));
        var signed = await shed.AskAsync(db => db.SignOffs.Where(s => steps.Contains(s.OperationId.ToString())).OrderBy(s =>
            s.At).Select(s => new { s.ById, s.ByPin, s.Note }).ToListAsync(Ct));
        signed.Select(s => (s.ById.ToString(), s.ByPin, s.Note)).ShouldBe([(people["Corin Vance"], true, "First looked at"),
            (people["Ismay Pell"], true, "Second looked at")]);
        await tablet.OpenAsync($"/w/{number}");
        tablet.Text.ShouldContain("“Second looked at”");
        (await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Select(l =>
            l.Sentence).FirstAsync(Ct))).ShouldEndWith("Signed on the shed’s tablet with a PIN.");
    }

    [Fact]
    public async Task An_inspector_signs_only_what_an_authorisation_covers_on_that_day()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Covered", "work 1 h\nHOLD Looked at");
        var steps = (await PackageAsync(number)).Operations.Select(o => o.Id.ToString()).ToList();
        await TakesAsync(una, $"/w/{number}?handler=Done", ("Step", steps[0]));
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/w/{number}");
        corin.Text.ShouldContain("Lift the hold");
        var who = await shed.AskAsync(db => db.People.Where(p => p.Name == "Corin Vance").Select(p => p.Id).SingleAsync(Ct));
        var held = await shed.AskAsync(db => db.Authorisations.Where(a => a.PersonId == who && a.Skill == "lifting holds"
            && a.EndedAt == null).Select(a => a.Id).SingleAsync(Ct));
        await una.OpenAsync($"/people/{who}");
        await TakesAsync(una, $"/people/{who}?handler=End", ("authorisation", held.ToString()));
        await RefusesAsync(corin, $"/w/{number}?handler=Sign", "It wants an authorisation for lifting holds, and there is none on record.",
            ("Step", steps[1]), ("Note", "seen"));
        await RefusesAsync(una, $"/people/{who}?handler=Grant", "It begins after it ends.", ("Skill", "lifting holds"),
            ("HeldFrom", HandClock.Day(9)), ("Until", HandClock.Day(8)));
        await TakesAsync(una, $"/people/{who}?handler=Grant", ("Skill", "lifting holds"), ("Kind", "Tractor"));
        await RefusesAsync(corin, $"/w/{number}?handler=Sign", "The authorisation for lifting holds is for another kind of machine.",
            ("Step", steps[1]), ("Note", "seen"));
        await TakesAsync(una, $"/people/{who}?handler=Grant", ("Skill", "lifting holds"), ("Kind", "Aircraft"),
            ("HeldFrom", HandClock.Day(1)));
        await RefusesAsync(corin, $"/w/{number}?handler=Sign", "The authorisation for lifting holds begins on 27 November 2026.",
            ("Step", steps[1]), ("Note", "seen"));
        await TakesAsync(una, $"/people/{who}?handler=Grant", ("Skill", "lifting holds"), ("Until", HandClock.Day(0)));
        await TakesAsync(corin, $"/w/{number}?handler=Sign", ("Step", steps[1]), ("Note", "Seen on the last day"));
    }

    [Fact]
    public async Task Minutes_at_a_removal_and_time_without_a_package_are_hours_given()
    {
        using var tobit = await shed.AsAsync("tobit");
        var (me, nell) = await shed.AskAsync(async db => (await db.People.Where(p => p.Name == "Tobit Crane").Select(p =>
            p.Id).SingleAsync(Ct), await db.People.Where(p => p.Name == "Nell Garrow").Select(p => p.Id).SingleAsync(Ct)));
        var assembly = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Gear case"
            && p.Kind == Core.Machines.PlaceKind.Assembly).Select(p => p.Id).SingleAsync(Ct));
        await tobit.OpenAsync("/strip/take-off?m=L");
        tobit.Page.QuerySelector($"input[name=Hands][value='{me}']")!.HasAttribute("checked").ShouldBeTrue();
        await TakesAsync(tobit, "/strip/take-off?m=L", ("m", "L"), ("AssemblyId", assembly.ToString()), ("Name", "Timed lid"),
            ("Reason", "to see"), ("Custody", "Shelf"), ("Where", "Shelf 1"), ("Minutes", "25"), ("Hands", me.ToString()),
            ("Hands", nell.ToString()), ("Hands", Nobody));
        var given = await shed.AskAsync(db => db.Hours.Where(h => h.Note == "Took off Timed lid").OrderBy(h => h.Id).ToListAsync(Ct));
        given.Select(h => h.PersonId).ShouldBe([me, nell], ignoreOrder: true);
        given.ShouldAllBe(h => h.Minutes == 25 && h.PackageId == null && h.On == HandClock.Today);

        await tobit.OpenAsync("/today/hours");
        await RefusesAsync(tobit, "/today/hours", "Say what you did: there is no package that says it.", ("job", "L"), ("Hours", "1"),
            ("On", HandClock.Day(0)));
        await TakesAsync(tobit, "/today/hours", ("job", "L"), ("HoursTyped", "1.5"), ("On", HandClock.Day(0)), ("Note", Hostile));
        (await tobit.PostAsync("/today/hours", ("job", "Q"), ("Hours", "1"), ("On", HandClock.Day(0)),
            ("Note", "x"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await tobit.OpenAsync("/today/hours");
        tobit.Html.ShouldNotContain("<script>alert");
        (await tobit.GetAsync("/me/hours.csv")).StatusCode.ShouldBe(HttpStatusCode.OK);
        tobit.Html.ShouldContain("Took off Timed lid");
    }

    [Fact]
    public async Task Tools_that_measure_are_listed_changed_and_taken_out_of_use()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/tools");
        una.Text.ShouldContain("Not to be used: Wrench 3.");
        await RefusesAsync(una, "/plan/tools", "Give it the name that is on it", ("Name", ""), ("Quantity", "Torque"));
        await RefusesAsync(una, "/plan/tools", "A tool with that name is listed already.", ("Name", "wrench 2"), ("Quantity", "Torque"));
        await TakesAsync(una, "/plan/tools", ("Name", "Wrench 9"), ("Quantity", "Torque"), ("Low", "5 N m"), ("High", "60 N m"),
            ("Until", HandClock.Day(200)), ("Paper", Hostile));
        var tool = await shed.AskAsync(db => db.MeasuringTools.SingleAsync(t => t.Name == "Wrench 9", Ct));
        await una.OpenAsync($"/plan/tools?tool={tool.Id}");
        una.Html.ShouldNotContain("<script>alert");
        una.Typed("High").ShouldBe("60 N m");
        await TakesAsync(una, $"/plan/tools?tool={tool.Id}", ("Name", "Wrench 9"), ("Quantity", "Torque"), ("Until", HandClock.Day(-1)),
            ("Version", $"{tool.Version}"));
        (await una.PostAsync($"/plan/tools?tool={tool.Id}", ("Name", "Wrench 9"), ("Quantity", "Torque"),
            ("Version", $"{tool.Version}"))).StatusCode.ShouldBe(HttpStatusCode.Conflict, "stale");
        await una.OpenAsync("/plan/tools");
        una.Text.ShouldContain("Wrench 9 is out of calibration since 26 November 2026.");
        await TakesAsync(una, $"/plan/tools?tool={tool.Id}&handler=End", ("EndWhy", "dropped"));
        (await una.PostAsync($"/plan/tools?tool={tool.Id}&handler=End", ("EndWhy", "again"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }
}
