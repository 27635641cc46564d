using System.Globalization;
using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;

namespace OilTag.Web.Tests;

/// <summary>What comes off, how it is reached, where it lies, and what stops it from being closed over.</summary>
public sealed class StripFlowTests(Shed shed) : IClassFixture<Shed>
{
    private Task<Guid> SlotAsync(string letter, string assembly, string name, Hand hand = Hand.None, int? position = null) => shed.AskAsync(db => (
        from s in db.Places
        join a in db.Places on s.ParentId equals a.Id
        join m in db.Machines on s.MachineId equals m.Id
        where m.Letter == letter && a.Name == assembly && s.Name == name && (hand == Hand.None || s.Hand == hand) && (position == null || s.Position == position)
        orderby s.Order
        select s.Id).FirstAsync());

    private Task<Guid> AssemblyAsync(string letter, string name) => shed.AskAsync(db => (from s in db.Places join m in db.Machines on s.MachineId equals m.Id where m.Letter == letter && s.Name == name && s.Kind == PlaceKind.Assembly select s.Id).FirstAsync());

    private Task<string> LastLogAsync() => shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Select(l => l.Sentence).FirstAsync());

    /// <summary>Takes a new part off an assembly and gives its number.</summary>
    private static async Task<int> TakeOffAsync(Visitor who, string letter, Guid assembly, string name, params (string, string?)[] more)
    {
        await who.OpenAsync($"/strip/take-off?m={letter}");
        var answer = await who.PostAsync($"/strip/take-off?m={letter}", [.. more, ("AssemblyId", assembly.ToString()), ("Name", name), ("Hand", "None"), ("Reason", "to reach what is behind it"), ("Custody", "Shelf"), ("Where", "rack Z9")]);
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, who.Text);
        return int.Parse(answer.Headers.Location!.ToString()[3..], CultureInfo.InvariantCulture);
    }

    [Fact]
    public async Task A_lead_says_what_shuts_a_place_in_and_the_way_to_it_is_worked_out()
    {
        using var una = await shed.AsAsync("una");
        var seat = await AssemblyAsync("L", "Driver's seat");
        var (pan, spring) = (await SlotAsync("L", "Driver's seat", "Seat pan"), await SlotAsync("L", "Driver's seat", "Seat spring"));
        await una.OpenAsync($"/places/{spring}/reach");
        una.Text.ShouldContain("Nothing is in the way.");
        (await una.PostAsync($"/places/{spring}/reach?handler=Add", ("Chosen", pan.ToString()), ("Way", "0"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await LastLogAsync()).ShouldBe("said that Seat pan is off before Seat spring is reached.");
        await una.OpenAsync($"/places/{spring}/reach");
        una.Text.ShouldContain("One part comes off. About 30 min for one person. 1 of the times is assumed.");
        (await una.PostAsync($"/places/{pan}/reach?handler=Estimate", ("OffMinutes", "75"), ("OffPeople", "2"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/places/{spring}/reach");
        una.Text.ShouldContain("About 1 h 15 for two people.");

        // The other way round would be a circle.
        (await una.PostAsync($"/places/{pan}/reach?handler=Add", ("Chosen", spring.ToString()), ("Way", "0"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("goes round in a circle");
        (await una.PostAsync($"/places/{spring}/reach?handler=Add", ("Chosen", pan.ToString()), ("Way", "0"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("That is on record already.");

        var condition = await shed.AskAsync(db => db.Precedences.Where(p => p.ThenId == spring).Select(p => p.Id).SingleAsync());
        (await una.PostAsync($"/places/{spring}/reach?handler=Remove", ("Condition", condition.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/places/{spring}/reach");
        una.Text.ShouldContain("Nothing is in the way.");
        await una.OpenAsync($"/places/{seat}/reach");
    }

    [Fact]
    public async Task A_removal_keeps_what_was_undone_the_tools_and_the_time()
    {
        using var tobit = await shed.AsAsync("tobit");
        var assembly = await AssemblyAsync("L", "Fuel system");
        var number = await TakeOffAsync(tobit, "L", assembly, "Float bowl", ("ConnectionKinds", "Pipe"), ("ConnectionWhat", "fuel, 3/8 union, over the beam"), ("ConnectionKinds", "Wire"), ("ConnectionWhat", ""), ("Minutes", "25"), ("People", "2"), ("Tools", "crow-foot 5/8"));
        await tobit.OpenAsync($"/t/{number}");
        tobit.Text.ShouldContain("pipe fuel, 3/8 union, over the beam");
        tobit.Text.ShouldContain("crow-foot 5/8");
        tobit.Text.ShouldContain("25 min, 2 people");
        var connection = await shed.AskAsync(db => (from c in db.Connections join t in db.Tags on c.TagId equals t.Id where t.Number == number select c).SingleAsync());
        (connection.Kind, connection.JoinedAt).ShouldBe((ConnectionKind.Pipe, null));
        (await tobit.PostAsync($"/t/{number}?handler=Join", ("Joined", connection.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Connections.Where(c => c.Id == connection.Id).Select(c => c.JoinedById).SingleAsync())).ShouldNotBeNull();
        (await tobit.PostAsync($"/t/{number}?handler=Join", ("Joined", connection.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task The_next_one_off_starts_from_the_last_and_guesses_what_was_in_the_way()
    {
        using var tobit = await shed.AsAsync("tobit");
        var assembly = await AssemblyAsync("L", "Axle beam");
        await tobit.OpenAsync("/strip/take-off?m=L");
        var answer = await tobit.PostAsync("/strip/take-off?m=L", ("AssemblyId", assembly.ToString()), ("Name", "Steering stop"), ("Hand", "None"), ("Reason", "For the full overhaul"), ("Custody", "Shelf"), ("Where", "rack Z8"), ("Next", "true"));
        var next = answer.Headers.Location!.ToString();
        next.ShouldStartWith("/strip/take-off?m=L&after=");
        await tobit.OpenAsync(next);
        var number = next.Split('=')[^1];
        (tobit.Typed("Reason"), tobit.Typed("Where")).ShouldBe(("For the full overhaul", "rack Z8"));
        tobit.Page.QuerySelector($"input[name=FirstTicked][value='{number}']")!.HasAttribute("checked").ShouldBeTrue("it came off the same assembly a moment ago");
        tobit.Page.QuerySelector("a[href^='/strip/tags']")!.GetAttribute("href").ShouldBe($"/strip/tags?n={number}");
    }

    [Fact]
    public async Task Closing_over_open_things_is_stopped_and_only_an_inspector_concedes_it()
    {
        using var tobit = await shed.AsAsync("tobit");
        using var una = await shed.AsAsync("una");
        using var corin = await shed.AsAsync("corin");
        var cab = await AssemblyAsync("B", "Roof lamps");
        var cover = await TakeOffAsync(tobit, "B", cab, "Lamp housing");
        var slot = await shed.AskAsync(db => db.Tags.Where(t => t.Number == cover).Select(t => t.SlotId).SingleAsync());
        var behind = await SlotAsync("B", "Roof lamps", "Lamp bracket", position: 1);
        await una.OpenAsync($"/places/{behind}/reach");
        (await una.PostAsync($"/places/{behind}/reach?handler=Add", ("Chosen", slot.ToString()), ("Way", "0"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await tobit.OpenAsync("/machines/B/standing");
        (await tobit.PostAsync("/machines/B/standing?handler=PutIn", ("ItemKind", "Rag"), ("What", "a rag round the wires"), ("PlaceId", behind.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);

        // The helper is stopped, with the reason; a reason of their own does not help.
        await tobit.OpenAsync($"/t/{cover}/refit");
        tobit.Text.ShouldContain("In Lamp bracket 1: a rag round the wires.");
        (await tobit.PostAsync($"/t/{cover}/refit", ("Kind", "Final"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/t/{cover}/refit", ("Kind", "Final"), ("Concession", "it is only a rag, honestly"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("Only an inspector may close over open things.");

        await corin.OpenAsync($"/t/{cover}/refit");
        (await corin.PostAsync($"/t/{cover}/refit", ("Kind", "Final"), ("Concession", "soon"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await corin.PostAsync($"/t/{cover}/refit", ("Kind", "Final"), ("Concession", "rain tonight; opened again on Saturday"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, corin.Text);
        var closing = await shed.AskAsync(db => db.Closings.SingleAsync(c => c.PlaceId == slot));
        closing.Over.ShouldContain("In Lamp bracket 1: a rag round the wires.");
        closing.AllowedById.ShouldBe(closing.ById);
        await una.OpenAsync($"/places/{slot}/close");
        una.Text.ShouldContain("Concession by Corin Vance: rain tonight; opened again on Saturday");
        (await shed.AskAsync(db => db.Tags.Where(t => t.Number == cover).Select(t => t.End).SingleAsync())).ShouldBe(TagEnd.Fitted);

        // Off again: the closing is open, and the rag still in.
        await tobit.OpenAsync("/strip/take-off?m=B");
        (await tobit.PostAsync("/strip/take-off?m=B", ("SlotId", slot.ToString()), ("Reason", "as conceded"), ("Custody", "Shelf"), ("Where", "rack Z9"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await shed.AskAsync(db => db.Closings.Where(c => c.PlaceId == slot).Select(c => c.OpenedAt).SingleAsync())).ShouldNotBeNull();
    }

    [Fact]
    public async Task Paint_closes_as_a_panel_does()
    {
        using var maud = await shed.AsAsync("maud");
        var keel = await AssemblyAsync("G", "Keel");
        await maud.OpenAsync($"/places/{keel}/close");
        maud.Text.ShouldContain("In Keel: 14 skin clamps.");
        maud.Text.ShouldContain("Keel is not coated: bare for");
        (await maud.PostAsync($"/places/{keel}/close?handler=Cover", ("With", "Paint"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await maud.PostAsync($"/places/{keel}/close?handler=Cover")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        maud.Text.ShouldContain("Say with what it is covered.");
        (await maud.PostAsync($"/places/{keel}/close?handler=Surface", ("State", "Protected"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await maud.PostAsync($"/places/{keel}/close?handler=Surface", ("State", "Protected"), ("SurfaceWith", "etch primer"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await maud.OpenAsync($"/places/{keel}/close");
        maud.Text.ShouldNotContain("is not coated");
        maud.Text.ShouldContain("Protected for now with etch primer");

        var window = await SlotAsync("B", "Windows", "Window sash", Hand.Left, 4);
        await maud.OpenAsync($"/places/{window}/close");
        (await maud.PostAsync($"/places/{window}/close?handler=Cover", ("With", "Paint"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, maud.Text);
        (await maud.PostAsync($"/places/{window}/close?handler=Cover", ("With", "Paint"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        maud.Text.ShouldContain("is under paint already");
        var closing = await shed.AskAsync(db => db.Closings.Where(c => c.PlaceId == window).Select(c => c.Id).SingleAsync());
        (await maud.PostAsync($"/places/{window}/close?handler=Uncover", ("Closing", closing.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await maud.PostAsync($"/places/{window}/close?handler=Uncover", ("Closing", closing.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_part_goes_on_for_a_trial_comes_out_and_goes_on_for_good_with_its_fasteners_counted()
    {
        using var una = await shed.AsAsync("una");
        using var tobit = await shed.AsAsync("tobit");
        var assembly = await AssemblyAsync("L", "Clutch");
        await una.OpenAsync("/machines/L/trials");
        (await una.PostAsync("/machines/L/trials", ("PlaceId", assembly.ToString()), ("Checks", ""))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync("/machines/L/trials", ("PlaceId", assembly.ToString()), ("Checks", "Plate slides on its splines\nFork clears the cover"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await una.PostAsync("/machines/L/trials", ("PlaceId", assembly.ToString()), ("Checks", "Again"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("Trial 1 goes on. End it first.");
        var number = await TakeOffAsync(tobit, "L", assembly, "Thrust race", ("FastenerWhat", "1/4 BSF nut"), ("FastenerCount", "6"), ("FastenerBad", "1"));

        await tobit.OpenAsync($"/t/{number}/refit?Kind=Trial");
        (await tobit.PostAsync($"/t/{number}/refit", ("Kind", "Trial"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        await tobit.OpenAsync($"/t/{number}");
        tobit.Text.ShouldContain("At trial");
        await tobit.OpenAsync("/machines/L/trials/1");
        tobit.Text.ShouldContain("Thrust race");
        var version = tobit.Page.QuerySelector("input[name=Version]")!.GetAttribute("value");
        (await tobit.PostAsync("/machines/L/trials/1?handler=Check", ("Check", "0"), ("Reading", "slides, no step"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync("/machines/L/trials/1?handler=Check", ("Check", "0"), ("Reading", "slides, no step"), ("Good", "true"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync("/machines/L/trials/1?handler=Check", ("Check", "1"), ("Good", "true"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await una.OpenAsync("/machines/L/trials/1");
        (await una.PostAsync("/machines/L/trials/1?handler=End")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Trials.Where(t => t.Number == 1 && db.Machines.Any(m => m.Id == t.MachineId && m.Letter == "L")).Select(t => t.NotProven).SingleAsync())).ShouldContain("Not checked: Fork clears the cover.");
        await tobit.OpenAsync($"/t/{number}");
        tobit.Text.ShouldContain("Off, rack Z9");

        // For good: first loose, then fast, and only with the count.
        await tobit.OpenAsync($"/t/{number}/refit");
        (await tobit.PostAsync($"/t/{number}/refit", ("Kind", "Final"), ("Loose", "nuts finger tight"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        await tobit.OpenAsync($"/t/{number}");
        tobit.Text.ShouldContain("On, loose, nuts finger tight");
        await tobit.OpenAsync("/machines/L/standing");
        tobit.Text.ShouldContain("Thrust race is fitted but loose: nuts finger tight.");
        await tobit.OpenAsync($"/t/{number}/refit");
        var bag = tobit.Page.QuerySelector("input[name=Bag]")!.GetAttribute("value");
        (await tobit.PostAsync($"/t/{number}/refit", ("Kind", "Final"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/t/{number}/refit", ("Kind", "Final"), ("Bag", bag), ("BackOn", "5"), ("New", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("1 fewer went in than came off");
        tobit.Typed("BackOn").ShouldBe("5");
        (await tobit.PostAsync($"/t/{number}/refit", ("Kind", "Final"), ("Bag", bag), ("BackOn", "six"), ("New", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/t/{number}/refit", ("Kind", "Final"), ("Bag", bag), ("BackOn", "6"), ("New", "1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await shed.AskAsync(db => db.Tags.Where(t => t.Number == number).Select(t => t.End).SingleAsync())).ShouldBe(TagEnd.Fitted);
        (await LastLogAsync()).ShouldBe("put Thrust race back on.");
    }

    [Fact]
    public async Task A_part_goes_into_another_place_only_with_a_concession()
    {
        using var tobit = await shed.AsAsync("tobit");
        using var ismay = await shed.AsAsync("ismay");
        var assembly = await AssemblyAsync("B", "Gates");
        var left = await TakeOffAsync(tobit, "B", assembly, "Gate stop", ("Hand", "Left"));
        var right = await TakeOffAsync(tobit, "B", assembly, "Gate stop", ("Hand", "Right"));
        var slot = await shed.AskAsync(db => db.Tags.Where(t => t.Number == right).Select(t => t.SlotId).SingleAsync());
        await tobit.OpenAsync($"/t/{left}/refit?SlotId={slot}");
        tobit.Text.ShouldContain("The slot is right; this part is left.");
        (await tobit.PostAsync($"/t/{left}/refit", ("Kind", "Final"), ("SlotId", slot.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await ismay.OpenAsync($"/t/{left}/refit?SlotId={slot}");
        (await ismay.PostAsync($"/t/{left}/refit", ("Kind", "Final"), ("SlotId", slot.ToString()), ("Concession", "made alike by us, gauged both ways"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, ismay.Text);
        (await shed.AskAsync(db => db.Closings.Where(c => c.PlaceId == slot).Select(c => c.Over).SingleAsync())).ShouldBe(["The slot is right; this part is left."]);
        await tobit.OpenAsync($"/t/{right}/refit");
        tobit.Text.ShouldContain("Gate stop is in Gate stop, right. It comes out first.");
        (await tobit.PostAsync($"/t/{left}/refit", ("Kind", "Final"), ("SlotId", Guid.NewGuid().ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_box_moves_with_what_is_in_it_and_a_walk_finds_what_is_missing()
    {
        using var merryn = await shed.AsAsync("merryn");
        var assembly = await AssemblyAsync("L", "Track");
        var numbers = new List<int>();
        for (var i = 1; i <= 4; i++)
        {
            numbers.Add(await TakeOffAsync(merryn, "L", assembly, $"Guide {i}"));
        }

        await merryn.OpenAsync("/strip/where");
        var answer = await merryn.PostAsync("/strip/where", ("Name", "crate 7"), ("Kind", "Box"));
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, merryn.Text);
        var box = answer.Headers.Location!.ToString();
        (await merryn.PostAsync("/strip/where", ("Name", "CRATE 7"), ("Kind", "Box"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        merryn.Text.ShouldContain("There is a CRATE 7 already.");
        await merryn.OpenAsync(box);
        (await merryn.PostAsync($"{box}?handler=Bring", ("Seen", $"{numbers[0]}, http://shed.example/t/{numbers[1]} OT {numbers[2]} 999999"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        merryn.Text.ShouldContain("999999 is no open tag.");
        merryn.Typed("Seen").ShouldContain("999999");
        (await merryn.PostAsync($"{box}?handler=Bring", ("Seen", $"{numbers[0]}, http://shed.example/t/{numbers[1]} OT {numbers[2]}"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, merryn.Text);
        (await merryn.PostAsync($"{box}?handler=Box", ("Where", "the loft"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, merryn.Text);
        (await LastLogAsync()).ShouldBe("moved crate 7 to the loft with 3 parts in it.");
        await merryn.OpenAsync($"/t/{numbers[0]}");
        merryn.Text.ShouldContain("crate 7, which stands at the loft");

        // One is gone, one that belongs elsewhere lies there, and one number is nobody's.
        await merryn.OpenAsync(box);
        answer = await merryn.PostAsync($"{box}?handler=Walk", ("Ticked", $"{numbers[0]}"), ("Ticked", $"{numbers[1]}"), ("Walked", $"{numbers[3]} 999999"), ("PutHere", "true"), ("MarkMissing", "true"));
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, merryn.Text);
        await merryn.OpenAsync(answer.Headers.Location!.ToString());
        merryn.Text.ShouldContain($"Missing: {numbers[2]}");
        merryn.Text.ShouldContain($"Belong elsewhere: {numbers[3]}");
        merryn.Text.ShouldContain("No open tag: 999999");
        await merryn.OpenAsync($"/t/{numbers[2]}");
        merryn.Text.ShouldContain("Not found, last at crate 7");
        await merryn.OpenAsync($"/t/{numbers[3]}");
        merryn.Text.ShouldContain("crate 7");
        (await merryn.PostAsync($"{box}?handler=Walk", ("Walked", "two"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await merryn.PostAsync("/at/1?handler=Box", ("Where", "the loft"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await merryn.PostAsync($"{box}?handler=Box", ("Where", "P99999"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await merryn.PostAsync($"{box}?handler=Box", ("Where", "box 1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_tag_ends_otherwise_than_by_fitting_and_a_void_number_never_comes_again()
    {
        using var una = await shed.AsAsync("una");
        using var tobit = await shed.AsAsync("tobit");
        var assembly = await AssemblyAsync("L", "Track");
        var number = await TakeOffAsync(tobit, "L", assembly, "Odd bracket");
        (await tobit.PostAsync($"/t/{number}?handler=End", ("End", "Kept"), ("Why", "x"))).Headers.Location!.ToString().ShouldContain("not-allowed");
        await una.OpenAsync($"/t/{number}");
        (await una.PostAsync($"/t/{number}?handler=End", ("End", "Scrapped"), ("Why", "rusted through"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("Nothing is scrapped before its successor is fitted");
        (await una.PostAsync($"/t/{number}?handler=End", ("End", "Sold"), ("Why", "to a collector"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("It is the only one there is.");
        (await una.PostAsync($"/t/{number}?handler=End", ("End", "Void"), ("Why", "tagged twice"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}");
        una.Text.ShouldContain("Void");
        (await LastLogAsync()).ShouldBe($"made tag {number} void: tagged twice. Its number is not given again.");
        (await TakeOffAsync(tobit, "L", assembly, "Another bracket")).ShouldBeGreaterThan(number);
    }

    [Fact]
    public async Task Systems_and_what_it_can_do_answer_whether_it_may_be_moved()
    {
        using var petra = await shed.AsAsync("petra");
        await petra.OpenAsync("/machines/L/standing");
        petra.Text.ShouldContain("It steers: nobody has said.");
        (await petra.PostAsync("/machines/L/standing?handler=Motion", ("Motion", "Steers"), ("Works", "true"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await petra.PostAsync("/machines/L/standing?handler=Motion", ("Motion", "Steers"), ("Works", "true"), ("Note", "tried on skates"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, petra.Text);
        (await petra.PostAsync("/machines/L/standing?handler=System", ("SystemName", "Hydraulic lift"), ("State", "Part"), ("Amount", "2 litres short"), ("Forbids", "Run"), ("Forbids", "Lower"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, petra.Text);
        await petra.OpenAsync("/machines/L/standing");
        petra.Text.ShouldContain("It steers: yes, says Petra Hollin: tried on skates.");
        petra.Text.ShouldContain("Hydraulic lift: part full (2 litres short). Do not lower, or move its supports.");
        await petra.OpenAsync("/machines/M/standing");
        petra.Text.ShouldNotContain("It steers");
        var item = await shed.AskAsync(db => db.TemporaryItems.Where(t => t.What.StartsWith("rag in")).Select(t => t.Id).SingleAsync());
        await petra.OpenAsync("/machines/L/standing");
        (await petra.PostAsync("/machines/L/standing?handler=TakeOut", ("Item", item.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await petra.PostAsync("/machines/L/standing?handler=TakeOut", ("Item", item.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task The_sequence_is_valid_and_every_step_says_why()
    {
        using var una = await shed.AsAsync("una");
        foreach (var letter in new[] { "M", "G", "L", "B" })
        {
            await una.OpenAsync($"/machines/{letter}/sequence");
            una.Text.ShouldNotContain("shut each other in");
            una.Page.QuerySelectorAll("table.rows tbody tr").Length.ShouldBe(una.Page.QuerySelectorAll("svg.sequence a").Length);
        }

        una.Text.ShouldContain("goes back in turn.");
    }

    [Fact]
    public async Task Tags_labels_and_the_sheet_of_a_session_are_printed_and_a_print_is_on_record()
    {
        using var una = await shed.AsAsync("una");
        var numbers = await shed.AskAsync(db => db.Tags.Where(t => t.End == null).OrderByDescending(t => t.Number).Take(5).Select(t => t.Number).ToListAsync());
        foreach (var address in new[] { $"/strip/tags.pdf?n={string.Join(',', numbers)}", $"/strip/tags.pdf?n={numbers[0]}&paper=A4", $"/strip/tags.pdf?n={string.Join(',', numbers)}&paper=labels", "/strip/labels.pdf", "/strip/session.pdf?m=M", "/strip/session.pdf?m=M&on=1990-01-01" })
        {
            var answer = await una.Client.GetAsync(address, TestContext.Current.CancellationToken);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, address);
            (await answer.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken)).AsSpan(0, 5).ToArray().ShouldBe("%PDF-"u8.ToArray());
        }

        // Looking at a tag records nothing; asking for its print does, once.
        (await shed.AskAsync(db => db.LogEntries.CountAsync(l => l.Sentence == "printed its tag."))).ShouldBe(0);
        await una.OpenAsync($"/strip/tags?n={string.Join(',', numbers)}");
        una.Page.QuerySelectorAll(".papertag").Length.ShouldBe(5);
        una.Page.QuerySelectorAll(".papertag svg.qr").Length.ShouldBe(5);
        var key = Guid.CreateVersion7();
        for (var i = 0; i < 2; i++)
        {
            (await una.SendAsync($"/strip/tags?n={string.Join(',', numbers)}", key, ("Paper", "A4"))).Headers.Location!.ToString().ShouldBe($"/strip/tags.pdf?n={string.Join(',', numbers.Order())}&paper=A4");
        }

        (await shed.AskAsync(db => db.LogEntries.CountAsync(l => l.Sentence == "printed its tag."))).ShouldBe(5);
        (await una.PostAsync($"/strip/tags?n={numbers[0]}", ("Paper", "browser"))).Headers.Location!.ToString().ShouldBe($"/strip/tags?n={numbers[0]}&print=true");
        await una.OpenAsync($"/strip/tags?n={numbers[0]}&print=true");
        una.Page.QuerySelector("[data-autoprint]").ShouldNotBeNull();
        (await shed.AskAsync(db => db.LogEntries.CountAsync(l => l.Sentence == "printed its tag."))).ShouldBe(6);
        foreach (var address in new[] { "/strip/tags", "/strip/tags?n=999999", "/strip/tags.pdf", "/strip/tags.pdf?n=none", "/strip/tags.pdf?n=999999", "/strip/session.pdf?m=Q" })
        {
            (await una.GetAsync(address)).StatusCode.ShouldBe(HttpStatusCode.NotFound, address);
        }
    }

    [Fact]
    public async Task A_breakdown_is_pasted_renamed_moved_copied_multiplied_and_what_was_never_used_removed()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/machines/B/breakdown");
        (await una.PostAsync("/machines/B/breakdown?handler=Paste", ("Text", "- Loose pin"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("A part needs an assembly above it.");
        una.Typed("Text").ShouldContain("- Loose pin");
        var answer = await una.PostAsync("/machines/B/breakdown?handler=Paste", ("Text", "Engine shed crane\n  Jib\n    - Sheave x 3\n  - Hook"));
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await LastLogAsync()).ShouldBe("added 6 places to the breakdown: Engine shed crane, Jib, Sheave 1, Sheave 2, Sheave 3, Hook.");
        var crane = Guid.Parse(answer.Headers.Location!.ToString().Split('=')[^1]);
        var jib = await AssemblyAsync("B", "Jib");
        var at = $"/machines/B/breakdown?at={jib}";
        await una.OpenAsync(at);
        var version = una.Page.QuerySelector("input[name=Version]")!.GetAttribute("value");
        (await una.PostAsync(at + "&handler=Rename", ("Name", "Long jib"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await una.PostAsync(at + "&handler=Rename", ("Name", "Short jib"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await una.PostAsync(at + "&handler=Mirror")).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Places.Where(p => p.ParentId == crane && p.Name == "Long jib").OrderBy(p => p.Hand).Select(p => p.Hand).ToListAsync())).ShouldBe([Hand.Left, Hand.Right], ignoreOrder: true);
        (await shed.AskAsync(db => db.Places.CountAsync(p => p.Name == "Sheave" && p.Hand == Hand.Right))).ShouldBe(3);
        (await una.PostAsync(at + "&handler=Mirror")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("is there already");
        var hook = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Hook" && p.ParentId == crane).Select(p => p.Id).SingleAsync());
        var hookAt = $"/machines/B/breakdown?at={hook}";
        (await una.PostAsync(hookAt + "&handler=Multiply", ("Times", "6"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Places.Where(p => p.Name == "Hook" && p.ParentId == crane).OrderBy(p => p.Position).Select(p => p.Position).ToListAsync())).ShouldBe([1, 2, 3, 4, 5, 6]);
        (await una.PostAsync(hookAt + "&handler=Multiply", ("Times", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync(hookAt + "&handler=Move", ("Step", "-1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await una.PostAsync(at + "&handler=Move", ("Step", "0"), ("Under", jib.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("cannot hang under itself");
        (await una.PostAsync($"/machines/B/breakdown?at={crane}&handler=Remove")).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Places.CountAsync(p => p.Id == crane || p.Name == "Long jib"))).ShouldBe(0);
        var tank = await AssemblyAsync("B", "Tank shell");
        (await una.PostAsync($"/machines/B/breakdown?at={tank}&handler=Remove")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("so it stays.");
    }

    [Fact]
    public async Task The_machine_is_drawn_again_only_when_something_was_recorded()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/machines/G");
        var live = una.Page.QuerySelector("#machine")!.GetAttribute("hx-get")!;
        (await una.GetAsync(live)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        using var tobit = await shed.AsAsync("tobit");
        await TakeOffAsync(tobit, "G", await AssemblyAsync("G", "Cockpit"), "Compass bracket");
        (await una.GetAsync(live)).StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Html.ShouldStartWith("<div class=\"two\" id=\"machine\"");
        una.Page.QuerySelector("h1").ShouldBeNull("only the part that changes");
    }

    [Fact]
    public async Task A_set_is_made_told_when_apart_fitted_together_and_void_when_a_member_is_replaced()
    {
        using var una = await shed.AsAsync("una");
        using var tobit = await shed.AsAsync("tobit");
        var assembly = await AssemblyAsync("L", "Idler");
        var (first, second) = (await TakeOffAsync(tobit, "L", assembly, "Pinion"), await TakeOffAsync(tobit, "L", assembly, "Wheel"));
        var slots = await shed.AskAsync(db => db.Tags.Where(t => t.Number == first || t.Number == second).OrderBy(t => t.Number).Select(t => t.SlotId.ToString()).ToListAsync());
        await una.OpenAsync("/machines/L/sets");
        (await una.PostAsync("/machines/L/sets", ("SetName", "Gear pair"), ("Slots", slots[0]))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("A set has 2 to 60 members.");
        (await una.PostAsync("/machines/L/sets", ("SetName", "Gear pair"), ("How", "lapped together"), ("Slots", slots[0]), ("Slots", slots[1]))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await tobit.OpenAsync($"/t/{second}");
        var seen = tobit.Page.QuerySelector("input[name=Seen]")!.GetAttribute("value");
        (await tobit.PostAsync($"/t/{second}?handler=Move", ("Seen", seen), ("Custody", "Away"), ("Where", "Brack Hill engineering"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        await tobit.OpenAsync($"/t/{first}");
        tobit.Text.ShouldContain("Its members are apart: Pinion at rack Z9; Wheel at Brack Hill engineering.");
        await tobit.OpenAsync($"/t/{first}/refit");
        tobit.Text.ShouldContain("Gear pair is fitted together, and Wheel is at Brack Hill engineering.");
        (await tobit.PostAsync($"/t/{first}/refit", ("Kind", "Final"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        // Another part into one of its places, with a concession: the record of the set is void.
        var third = await TakeOffAsync(tobit, "L", assembly, "Pinion", ("Position", "9"));
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/t/{third}/refit?SlotId={slots[0]}");
        (await corin.PostAsync($"/t/{third}/refit", ("Kind", "Final"), ("SlotId", slots[0]), ("Concession", "for the open day, matched again in autumn"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, corin.Text);
        await una.OpenAsync("/machines/L/sets");
        una.Text.ShouldContain("The record is void since");
    }

    [Fact]
    public async Task A_makers_number_is_checked_against_the_parts_book_and_found_again()
    {
        using var una = await shed.AsAsync("una");
        var assembly = await AssemblyAsync("B", "Governor");
        var number = await TakeOffAsync(una, "B", assembly, "Ball arm");
        await una.OpenAsync("/survey/complete?m=B");
        (await una.PostAsync("/survey/complete?m=B&handler=Book", ("Lines", "ZZ-41, Ball arm, 2, serial 101-250, superseded by ZZ-44\nZZ-44, Ball arm, 2"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}");
        (await una.PostAsync($"/t/{number}?handler=Describe", ("Provenance", "Donor"), ("MakersNumber", "ZZ-41"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("Say from whom, or off which machine.");
        una.Typed("MakersNumber").ShouldBe("ZZ-41");
        (await una.PostAsync($"/t/{number}?handler=Describe", ("Provenance", "Donor"), ("FromWhom", "car A, 1987"), ("MakersNumber", "ZZ-41"), ("Serial", "QX-77123"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/t/{number}");
        una.Text.ShouldContain("ZZ-41 is superseded by ZZ-44.");
        una.Text.ShouldContain("ZZ-41 is for numbers 101 to 250");
        foreach (var words in new[] { "QX-77", "ZZ-4" })
        {
            (await una.GetAsync($"/jump?q={words}")).Headers.Location?.ToString().ShouldBe($"/t/{number}", words);
        }
    }

    [Fact]
    public async Task A_misspelt_name_still_finds_and_a_label_leads_to_its_place()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/jump?q=Regulater+valv");
        tobit.Text.ShouldContain("these sound alike");
        tobit.Text.ShouldContain("Regulator valve");
        (await tobit.GetAsync("/jump?q=P10")).Headers.Location!.ToString().ShouldBe("/at/10");
        await tobit.OpenAsync("/jump?q=rack");
        tobit.Text.ShouldContain("where things are kept");
        await tobit.OpenAsync("/jump?q=%25_%25_");
        tobit.Text.ShouldContain("Nothing is called");
    }

    [Fact]
    public async Task Before_an_irreversible_act_all_is_known_or_waived_and_under_conserve_a_second_person_looks()
    {
        using var jory = await shed.AsAsync("jory");
        using var maud = await shed.AsAsync("maud");
        var roof = await SlotAsync("B", "Roof boards", "Canvas");
        var at = $"/places/{roof}/acts";
        await jory.OpenAsync(at);
        (await jory.PostAsync(at + "?handler=Plan")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await jory.PostAsync(at + "?handler=Plan", ("Kind", "CutOff"), ("More", "The tack spacing"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, jory.Text);
        await jory.OpenAsync(at);
        var act = await shed.AskAsync(db => db.IrreversibleActs.SingleAsync(a => a.PlaceId == roof));
        act.Items.Count.ShouldBe(5);
        (await jory.PostAsync(at + "?handler=Done", ("Act", act.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        jory.Text.ShouldContain("Not known yet: The tack spacing.");
        jory.Text.ShouldContain("Under Conserve a second person looks at the list first.");
        for (var i = 0; i < 5; i++)
        {
            await jory.OpenAsync(at);
            var version = jory.Page.QuerySelector("input[name=Version]")!.GetAttribute("value");
            if (i == 0)
            {
                (await jory.PostAsync(at + "?handler=Know", ("Act", act.Id.ToString()), ("Item", "0"), ("Result", ""), ("Waived", "true"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
                jory.Text.ShouldContain("Say why it is waived.");
            }

            (await jory.PostAsync(at + "?handler=Know", ("Act", act.Id.ToString()), ("Item", $"{i}"), ("Result", "38 mm, photographed"), ("Waived", i == 3 ? "true" : "false"), ("Version", version))).StatusCode.ShouldBe(HttpStatusCode.Redirect, jory.Text);
        }

        (await jory.PostAsync(at + "?handler=Second", ("Act", act.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await maud.OpenAsync(at);
        (await maud.PostAsync(at + "?handler=Second", ("Act", act.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, maud.Text);
        (await maud.PostAsync(at + "?handler=Done", ("Act", act.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        maud.Text.ShouldContain("Whoever does it is not the second person.");
        (await jory.PostAsync(at + "?handler=Done", ("Act", act.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect, jory.Text);
        (await LastLogAsync()).ShouldBe("did it: cut off Canvas.");
    }

    [Fact]
    public async Task May_I_open_this_now_is_one_answer_with_its_reasons()
    {
        using var una = await shed.AsAsync("una");
        var shaft = await SlotAsync("L", "Shafts", "Layshaft");
        await una.OpenAsync($"/places/{shaft}/reach");
        una.Text.ShouldContain("May I open this now?");
        una.Text.ShouldContain("Chance that something breaks: 2 %, from Top cover 2 %.");
        una.Text.ShouldContain("To practise on first: the farmer’s spare gear case.");
        var cover = await SlotAsync("L", "Gear case", "Top cover");
        (await una.PostAsync($"/places/{cover}/reach?handler=Estimate", ("OffMinutes", "150"), ("BreakPercent", "120"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync($"/places/{cover}/reach?handler=Estimate", ("OffMinutes", "150"), ("OffPeople", "2"), ("BreakPercent", "12"), ("SpareWeeks", "90"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/places/{shaft}/reach");
        una.Text.ShouldContain("Better not now.");
    }
}
