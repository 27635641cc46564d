using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Lifting;
using OilTag.Instruments;

namespace OilTag.Web.Tests;

/// <summary>A shed with simulated load cells, a simulated level and a simulated wrench, beside the gauge.</summary>
public class InstrumentShed : GaugeShed
{
    private readonly InstrumentOnTheBench cells = new(new LoadCells(4));
    private readonly InstrumentOnTheBench level = new(new DigitalLevel(4, moving: 0));
    private readonly InstrumentOnTheBench wrench = new(new TorqueWrench(4, steady: true));

    protected override string Cells => cells.Address;

    protected override string Level => level.Address;

    protected override string Wrench => wrench.Address;

    public override async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        await base.DisposeAsync();
        cells.Dispose();
        level.Dispose();
        wrench.Dispose();
    }
}

/// <summary>Lifts through their pages: planned, signed, lifted with load cells, stopped and let go on.</summary>
public sealed class LiftFlowTests : IAsyncLifetime
{
    private readonly InstrumentShed shed = new();

    public ValueTask InitializeAsync() => shed.InitializeAsync();

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    private static (string, string?)[] Plan(string supports, string steps = "Take the weight\nUp one inch, pack") =>
    [
        ("LiftTitle", "Tail up"), ("Masses", "Hull; 1905 kg; 0.64 m; 0"), ("Supports", supports), ("Fuel", "drained"), ("Dynamic", "1.1"), ("Margin", "25"), ("Floor", "slab, sounded"), ("People", "Una calls"), ("Steps", steps), ("Stops", "Anybody calls stop"),
    ];

    private const string Three = "Left; 0; -1.5 m; 3 tonne; 1; crib\nRight; 0; 1.5 m; 3 tonne; 2; crib\nTail; 5 m; 0; 1 tonne; 3; crib";

    private Task<LiftPlan> PlanAsync(int number) => shed.AskAsync(db => db.Lifts.AsNoTracking().SingleAsync(l => l.Number == number));

    [Fact]
    public async Task A_plan_is_written_refused_changed_signed_and_then_stands()
    {
        using var dilys = await shed.AsAsync("dilys");
        await dilys.OpenAsync("/lifts/new?m=G");
        (await dilys.PostAsync("/lifts/new?m=G", Plan("Left; 0; -1.5 m; 3 ton; 1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        dilys.Beside("Supports").ShouldContain("Which ton");
        dilys.Typed("Floor").ShouldBe("slab, sounded");
        var made = await dilys.PostAsync("/lifts/new?m=G", Plan("Left; 0; -1.5 m; 0.7 tonne; 1; crib\nRight; 0; 1.5 m; 3 tonne; 2; crib\nTail; 5 m; 0; 1 tonne; 3; crib"));
        var path = made.Headers.Location!.ToString();
        await dilys.OpenAsync(path);
        dilys.Text.ShouldContain("It cannot be signed.");
        dilys.Text.ShouldContain("Take a larger one");

        // The lift supervisor cannot sign that; with larger jacks she can, a helper cannot.
        using var una = await shed.AsAsync("una");
        await una.OpenAsync(path);
        var number = int.Parse(path.Split('/')[^1], System.Globalization.CultureInfo.InvariantCulture);
        var version = (await PlanAsync(number)).Version.ToString(System.Globalization.CultureInfo.InvariantCulture);
        (await una.PostAsync(path + "?handler=Sign", ("Seen", version), ("Note", "All of it"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await dilys.OpenAsync(path + "/edit");
        (await dilys.PostAsync(path + "/edit", [("Seen", "1"), .. Plan(Three)])).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await dilys.PostAsync(path + "/edit", [("Seen", version), .. Plan(Three)])).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        version = (await PlanAsync(number)).Version.ToString(System.Globalization.CultureInfo.InvariantCulture);
        await dilys.OpenAsync(path);
        await dilys.PostAsync(path + "?handler=Sign", ("Seen", version), ("Note", "All of it"));
        dilys.Text.ShouldContain("A lift supervisor or an inspector signs");
        await una.PostAsync(path + "?handler=Sign", ("Seen", version), ("Note", string.Empty));
        una.Beside("Note").ShouldContain("what you looked at");
        (await una.PostAsync(path + "?handler=Sign", ("Seen", version), ("Note", "Floor, jacks, cribs"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        version = (await PlanAsync(number)).Version.ToString(System.Globalization.CultureInfo.InvariantCulture);
        await dilys.OpenAsync(path + "/edit");
        await dilys.PostAsync(path + "/edit", [("Seen", version), .. Plan(Three)]);
        dilys.Text.ShouldContain("what is signed stands");

        // A new one is written from it.
        await dilys.OpenAsync($"/lifts/new?m=G&from={number}");
        dilys.Typed("Supports").ShouldContain("Tail; 5 m; 0; 1 tonne; 3; crib");
    }

    [Fact]
    public async Task Cells_stop_everybody_until_somebody_who_may_says_why_it_goes_on()
    {
        // The demo's first lift is signed; its cells bear more and more once the floor gives.
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/lifts/1/live");
        tobit.Text.ShouldContain("Step 1 of 5");
        (await tobit.PostAsync("/lifts/1/live?handler=Step", ("Step", "1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync("/lifts/1/live?handler=Step", ("Step", "1"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        var reads = 0;
        while (reads < 60 && !await shed.AskAsync(db => db.LiftStops.AnyAsync()))
        {
            reads++;
            (await tobit.PostAsync("/lifts/1/live?handler=Read")).StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        reads.ShouldBeInRange(15, 40);
        tobit.Page.QuerySelector("[role=alert] b")!.TextContent.ShouldBe("STOP");
        tobit.Text.ShouldContain("Left jack showed");
        await tobit.PostAsync("/lifts/1/live?handler=Step", ("Step", "2"));
        tobit.Text.ShouldContain("Everybody stands still");

        // More readings make no second stop; a helper does not clear it, a lift supervisor does and says why.
        await tobit.PostAsync("/lifts/1/live?handler=Read");
        var stop = await shed.AskAsync(db => db.LiftStops.AsNoTracking().SingleAsync());
        stop.Kilograms.ShouldBeGreaterThan(stop.Limit);
        await tobit.PostAsync("/lifts/1/live?handler=Clear", ("StopId", stop.Id.ToString()), ("ClearNote", "Looks fine"));
        (await shed.AskAsync(db => db.LiftStops.SingleAsync())).ClearedAt.ShouldBeNull();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/lifts/1/live");
        await una.PostAsync("/lifts/1/live?handler=Clear", ("StopId", stop.Id.ToString()), ("ClearNote", string.Empty));
        una.Beside("ClearNote").ShouldContain("why it may go on");
        (await una.PostAsync("/lifts/1/live?handler=Clear", ("StopId", stop.Id.ToString()), ("ClearNote", "Crib had sunk; plate put under it"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/lifts/1/live");
        (await una.PostAsync("/lifts/1/live?handler=Step", ("Step", "2"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/lifts/1");
        una.Text.ShouldContain("Crib had sunk");
        await una.OpenAsync("/log?m=G");
        una.Text.ShouldContain("stopped lift 1: Left jack showed");
    }

    [Fact]
    public async Task What_gauges_show_is_typed_where_there_are_no_cells()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/lifts/1/live");
        await tobit.PostAsync("/lifts/1/live?handler=Typed", ("Typed", "700 kg"), ("Typed", "soup"), ("Typed", string.Empty));
        tobit.Text.ShouldContain("Right jack:");
        tobit.Page.QuerySelector("#f-typed-0")!.GetAttribute("value").ShouldBe("700 kg");
        await tobit.PostAsync("/lifts/1/live?handler=Typed", ("Typed", "700 kg"), ("Typed", "820 kg"), ("Typed", string.Empty));
        (await shed.AskAsync(db => db.LiftReadings.AsNoTracking().SingleAsync())).Kilograms.ShouldBe([700, 820, null]);

        // Nothing is read of a plan that is not signed.
        await tobit.OpenAsync("/lifts/2/live");
        await tobit.PostAsync("/lifts/2/live?handler=Typed", ("Typed", "700 kg"), ("Typed", "820 kg"), ("Typed", string.Empty));
        tobit.Text.ShouldContain("before the plan is signed");
        await tobit.PostAsync("/lifts/2/live?handler=Step", ("Step", "1"));
        tobit.Text.ShouldContain("before the plan is signed");
    }

    [Fact]
    public async Task A_rigging_check_is_begun_read_by_hand_and_by_level_and_says_what_to_change()
    {
        using var dilys = await shed.AsAsync("dilys");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Tail").Select(p => p.Id).FirstAsync());
        (string, string?)[] Form(string stations, string adjusters) => [("place", place.ToString()), ("CheckTitle", "Tail"), ("Levelled", "on the keel"), ("Stations", stations), ("Adjusters", adjusters)];
        await dilys.OpenAsync($"/survey/rigging?place={place}");
        await dilys.PostAsync("/survey/rigging", Form("tail 1; incidence; left", string.Empty));
        dilys.Beside("Stations").ShouldContain("“tail 1; incidence; left”");
        dilys.Typed("Levelled").ShouldBe("on the keel");
        var made = await dilys.PostAsync("/survey/rigging", Form("tail 1; incidence; left; 0.4 m; 1°; 0.3°\ntail 1; incidence; right; 0.4 m; 1°; 0.3°", "Left wire; turns; 6; tail 1 left -0.1°"));
        var path = made.Headers.Location!.ToString();
        await dilys.OpenAsync(path);
        dilys.Text.ShouldContain("Nothing is read yet");
        await dilys.PostAsync(path + "?handler=Read", ("Read", "60°"), ("Read", string.Empty));
        dilys.Text.ShouldContain("no rigging");
        await dilys.PostAsync(path + "?handler=Read", ("Read", "1.45°"), ("Read", string.Empty));
        (await dilys.PostAsync(path + "?handler=Level", ("Station", "1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await dilys.OpenAsync(path);
        var number = int.Parse(path.Split('/')[^1], System.Globalization.CultureInfo.InvariantCulture);
        var readings = await shed.AskAsync(db => db.RigReadings.AsNoTracking().Where(r => db.RiggingChecks.Any(c => c.Number == number && c.Id == r.CheckId)).OrderBy(r => r.Station).ToListAsync());
        readings.Select(r => (r.Station, r.FromLevel)).ShouldBe([(0, false), (1, true)]);
        dilys.Text.ShouldContain("outside.");
        dilys.Text.ShouldContain("Left wire");

        // Stations that were read stand; wires are changed.
        var version = await shed.AskAsync(db => db.RiggingChecks.Where(c => c.Number == number).Select(c => c.Version).SingleAsync());
        await dilys.PostAsync(path + "?handler=Change", [("Seen", version.ToString()), .. Form("tail 2; incidence; left; 0.4 m; 1°; 0.3°", string.Empty)]);
        dilys.Beside("Stations").ShouldContain("They were read already");
        await dilys.OpenAsync("/jump?q=S" + number);
        dilys.Page.QuerySelector("h1")!.TextContent.ShouldContain("Tail");
    }
}

/// <summary>What load cells and the level say, and how it is understood.</summary>
public sealed class InstrumentTests
{
    [Fact]
    public void Simulated_cells_take_their_load_by_and_by_and_then_the_floor_gives()
    {
        var cells = new LoadCells(4);
        cells.Answer("LOAD 1 1000.0 kg").ShouldBe("OK");
        cells.Answer("LOAD 2 500.0 kg").ShouldBe("OK");
        var first = Enumerable.Range(0, 40).Select(_ => Shared.LoadCells.Understand(1, cells.Answer("CELL 1"))!.Value).ToList();
        var second = Enumerable.Range(0, 40).Select(_ => Shared.LoadCells.Understand(2, cells.Answer("CELL 2"))!.Value).ToList();
        first[0].ShouldBeLessThan(450);
        first[12].ShouldBe(1000, 25);
        first[^1].ShouldBeGreaterThan(1250);
        second[^1].ShouldBe(500, 10);

        // The same seed gives the same.
        var again = new LoadCells(4);
        again.Answer("LOAD 1 1000.0 kg");
        again.Answer("LOAD 2 500.0 kg");
        Shared.LoadCells.Understand(1, again.Answer("CELL 1")).ShouldBe(first[0]);
        cells.Answer("ZERO").ShouldBe("OK");
    }

    [Theory]
    [InlineData("CELL 0")]
    [InlineData("CELL 17")]
    [InlineData("LOAD 1 heavy kg")]
    [InlineData("LOAD 1 99999 kg")]
    [InlineData("soup")]
    public void Rubbish_is_answered_with_an_error(string line) => new LoadCells(4).Answer(line).ShouldStartWith("ERR");

    [Theory]
    [InlineData(2, "CELL 2 1834.6 kg", 1834.6)]
    [InlineData(2, "CELL 3 1834.6 kg", null)]
    [InlineData(2, "CELL 2 NaN kg", null)]
    [InlineData(2, "CELL 2 1834.6 lb", null)]
    [InlineData(2, "ERR", null)]
    [InlineData(2, null, null)]
    public void Answers_of_cells_are_understood(int cell, string? answer, double? kilograms) => Shared.LoadCells.Understand(cell, answer).ShouldBe(kilograms);

    [Theory]
    [InlineData("LEVEL 2.62 deg", "2.62°", null)]
    [InlineData("LEVEL -0.40 deg", "-0.40°", null)]
    [InlineData("MOVING", null, "hands off")]
    [InlineData(null, null, "hung up")]
    [InlineData("LEVEL lots deg", null, "cannot be read")]
    public void Answers_of_the_level_are_understood(string? answer, string? text, string? sentence)
    {
        var (read, said) = Shared.DigitalLevel.Understand(answer);
        read.ShouldBe(text);
        (said ?? string.Empty).ShouldContain(sentence ?? string.Empty);
    }

    [Fact]
    public void A_board_is_off_by_a_little_of_its_own()
    {
        var level = new DigitalLevel(4, moving: 0);
        level.Answer("BOARD 2.50 deg S9/3").ShouldBe("OK");
        double Read() => double.Parse(Shared.DigitalLevel.Understand(level.Answer("LEVEL")).Text!.TrimEnd('°'), System.Globalization.CultureInfo.InvariantCulture);
        var (a, b) = (Read(), Read());
        a.ShouldBe(2.5, 0.5);
        b.ShouldBe(a, 0.15);
        level.Answer("BOARD 50 deg").ShouldStartWith("ERR");
    }
}
