using System.Net;
using System.Text;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Stores;
using OilTag.Core.Survey;

namespace OilTag.Web.Tests;

/// <summary>What follows from a survey, over HTTP on the demo: parts, estimate, parts book, causes, questions, consent, looks, one decision for many, files.</summary>
public sealed class ConditionTests(Shed shed) : IClassFixture<Shed>
{
    [Fact]
    public async Task What_comes_off_and_is_used_once_is_wanted_new_without_being_asked()
    {
        using var tobit = await shed.AsAsync("tobit");
        var assembly = (await shed.AskAsync(db => db.Places.Where(p => p.Name == "Chimney" && p.ParentId != null).Select(p => p.Id).SingleAsync())).ToString();
        await tobit.OpenAsync("/strip/take-off?m=M");
        var off = await tobit.PostAsync("/strip/take-off?m=M", ("place", assembly), ("AssemblyId", assembly), ("Name", "Cowl clamp"), ("Reason", "To reach the cap"), ("Custody", "Shelf"), ("Where", "rack C2"), ("FastenerWhat", "tab washer"), ("FastenerCount", "6"), ("FastenerBad", "0"), ("FastenerWhat", "7/16 bolt"), ("FastenerCount", "6"), ("FastenerBad", "2"));
        off.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var wanted = await shed.AskAsync(db => db.Demands.Where(d => db.Places.Any(p => p.Id == d.PlaceId && p.Name == "Cowl clamp")).OrderBy(d => d.Quantity).ToListAsync());
        wanted.Select(d => (d.What, d.Quantity, d.Source)).ShouldBe([("7/16 bolt", 2, DemandSource.CameOffBad), ("tab washer", 6, DemandSource.SingleUse)]);
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/survey/parts?m=M");
        una.Text.ShouldContain("7/16 bolt");
        (await una.GetAsync("/survey/parts.csv?m=M")).StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Html.ShouldContain("Certain,7/16 bolt,2,");
        await una.OpenAsync("/survey/parts?m=M");
        (await una.PostAsync("/survey/parts?m=M&handler=End", ("What", "7/16 BOLT"), ("End", "Here"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync("/survey/parts?m=M&handler=End", ("What", "7/16 bolt"), ("End", "Here"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await una.OpenAsync("/survey/parts?m=M");
        una.Text.ShouldNotContain("7/16 bolt");
    }

    [Fact]
    public async Task An_estimate_is_kept_beside_the_earlier_ones_and_never_changed()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/survey/estimate?m=M");
        una.Text.ShouldContain("it was thought to take");
        una.Page.QuerySelectorAll(".drawing svg").Length.ShouldBe(2);
        una.Text.ShouldContain("finished jobs took");
        (await una.PostAsync("/survey/estimate?m=M", ("Stage", "Underway"), ("Hours", "900 700 1200"), ("Cost", "100"), ("Basis", "Tubes out"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Typed("Hours").ShouldBe("900 700 1200");
        una.Beside("Hours").ShouldContain("low, likely, high");
        (await una.PostAsync("/survey/estimate?m=M", ("Stage", "Underway"), ("Hours", "700 900 1200"), ("Cost", "8000 9500 12,000"), ("Basis", "Tubes out"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Estimates.Where(e => e.Basis == "Tubes out").Select(e => new { e.HoursLikely, e.CostHigh }).SingleAsync())).ShouldBe(new { HoursLikely = 900.0, CostHigh = 1_200_000L });
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/survey/estimate?m=M");
        (await tobit.PostAsync("/survey/estimate?m=M", ("Hours", "1"))).Headers.Location!.ToString().ShouldContain("not-allowed");
    }

    [Fact]
    public async Task The_parts_book_is_put_in_and_walked_line_by_line()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/survey/complete?m=B");
        (await una.PostAsync("/survey/complete?m=B&handler=Book", ("Lines", "4-1, Door handle, 2\n4-2, Sash strap, many"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Typed("Lines").ShouldContain("Sash strap, many");
        una.Text.ShouldContain("Line 2: “many” is no quantity");
        (await shed.AskAsync(db => db.BookLines.CountAsync(l => l.Name == "Door handle"))).ShouldBe(0);
        (await una.PostAsync("/survey/complete?m=B&handler=Book", ("Lines", "4-1, Door handle, 2\n4-2, Sash strap, 8, leather, as the stub"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync("/survey/complete?m=B&handler=Book", ("Lines", "4-1, Door handle, 2"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.BookLines.CountAsync(l => l.Name == "Door handle"))).ShouldBe(1);
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/survey/complete?m=B");
        tobit.Page.QuerySelector(".side .h2")!.TextContent.ShouldBe("4-1 Door handle");
        var seen = tobit.Typed("Seen");
        var id = await shed.AskAsync(db => db.BookLines.Where(l => l.Name == "Door handle").Select(l => l.Id).SingleAsync());
        var page = $"/survey/complete?m=B&line={id}&handler=Line";
        (await tobit.PostAsync(page, ("Seen", seen), ("State", "Incorrect"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Note").ShouldContain("what is there instead");
        tobit.Typed("State").ShouldBe("Incorrect");
        var saved = await tobit.PostAsync(page, ("Seen", seen), ("State", "Incorrect"), ("Note", "two of another pattern"));
        saved.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await tobit.PostAsync(page, ("Seen", seen), ("State", "Present"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        await tobit.OpenAsync(saved.Headers.Location!.ToString());
        tobit.Page.QuerySelector(".side .h2")!.TextContent.ShouldBe("4-2 Sash strap");
        await una.OpenAsync("/survey/parts?m=B");
        una.Text.ShouldContain("Incorrect: two of another pattern (book 4-1)");
    }

    [Fact]
    public async Task A_cause_is_cured_or_accepted_and_until_then_the_finding_is_not_finished()
    {
        using var una = await shed.AsAsync("una");
        var number = await shed.AskAsync(db => db.Findings.Where(f => f.Cause != "" && f.Decided == Disposition.Leave).Select(f => f.Number).FirstAsync());
        await una.OpenAsync($"/f/{number}");
        una.Text.ShouldContain("The cause is neither cured nor accepted.");
        await una.OpenAsync($"/f/{number}/follow");
        una.Text.ShouldContain("Not finished: The cause is neither cured nor accepted.");
        (await una.PostAsync($"/f/{number}/follow?handler=Cause", ("CauseEnd", "Cured"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Typed("CauseEnd").ShouldBe("Cured");
        (await una.PostAsync($"/f/{number}/follow?handler=Cause", ("CauseEnd", "Cured"), ("CauseNote", "A drain at the lowest point"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/f/{number}/follow");
        una.Text.ShouldContain("It is finished.");
    }

    [Fact]
    public async Task A_question_holds_a_package_up_until_it_is_answered()
    {
        using var una = await shed.AsAsync("una");
        var (number, package) = await shed.AskAsync(async db =>
        {
            var k = await db.Packages.Where(k => k.FindingId != null && k.ClosedAt == null && k.WaitingOn == "").OrderBy(k => k.Number).FirstAsync();
            return (await db.Findings.Where(f => f.Id == k.FindingId).Select(f => f.Number).SingleAsync(), k.Number);
        });
        await una.OpenAsync($"/f/{number}/follow");
        (await una.PostAsync($"/f/{number}/follow?handler=Ask", ("Question", "Was there a spring here?"), ("Block", "True"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Typed("Question").ShouldBe("Was there a spring here?");
        (await una.PostAsync($"/f/{number}/follow?handler=Ask", ("Question", "Was there a spring here?"), ("AskedOf", "the last driver"), ("Block", "True"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync($"/w/{package}");
        una.Text.ShouldContain("from the last driver");
        var q = await shed.AskAsync(db => db.Questions.MaxAsync(x => x.Number));
        await una.OpenAsync("/survey/questions");
        (await una.PostAsync("/survey/questions?handler=Answer", ("Number", q.ToString()), ("Answer", "Yes, a leaf spring"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("Say what it rests on");
        (await una.PostAsync("/survey/questions?handler=Answer", ("Number", q.ToString()), ("Answer", "Yes, a leaf spring"), ("AnswerRests", "a photo of 1951"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync("/survey/questions?handler=Answer", ("Number", q.ToString()), ("Answer", "No"), ("AnswerRests", "a memory"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await shed.AskAsync(db => db.Packages.Where(k => k.Number == package).Select(k => k.WaitingOn).SingleAsync())).ShouldBeEmpty();
    }

    [Fact]
    public async Task An_owner_is_asked_for_extra_cost_and_the_package_waits_for_the_reply()
    {
        using var jory = await shed.AsAsync("jory");
        var (number, option) = await shed.AskAsync(async db =>
        {
            var ludd = await db.Machines.SingleAsync(m => m.Letter == "L");
            var place = await db.Places.Where(p => p.MachineId == ludd.Id).Select(p => p.Id).FirstAsync();
            var who = await db.People.Select(p => p.Id).FirstAsync();
            var f = new Finding { MachineId = ludd.Id, PlaceId = place, What = "Cracked in two", FoundById = who, FoundAt = HandClock.Start };
            db.Findings.Add(f);
            await db.SaveChangesAsync();
            var o = new FindingOption { FindingId = f.Id, What = "A new one", Disposition = Disposition.Buy, CostLow = 30000, CostLikely = 40000, CostHigh = 50000, ById = who };
            db.Options.Add(o);
            await db.SaveChangesAsync();
            return (await db.Findings.Where(x => x.Id == f.Id).Select(x => x.Number).SingleAsync(), o.Id.ToString());
        });
        await jory.OpenAsync($"/f/{number}");
        var settled = await jory.PostAsync($"/f/{number}?handler=Decide", ("Disposition", option), ("Why", "It cannot be mended"));
        settled.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var package = settled.Headers.Location!.ToString();
        await jory.OpenAsync(package);
        jory.Text.ShouldContain("Consent of the Merrow estate to £500");
        (await jory.PostAsync(package + "?handler=Edit", ("WaitingOn", ""), ("Version", jory.Typed("Version")))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        jory.Text.ShouldContain("Record the reply at the finding");
        var consent = (await shed.AskAsync(db => db.Consents.Where(c => db.Findings.Any(f => f.Id == c.FindingId && f.Number == number)).Select(c => c.Id).SingleAsync())).ToString();
        await jory.OpenAsync($"/f/{number}/follow");
        (await jory.PostAsync($"/f/{number}/follow?handler=Reply", ("ConsentId", consent), ("Agreed", "True"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await jory.PostAsync($"/f/{number}/follow?handler=Reply", ("ConsentId", consent), ("Agreed", "True"), ("How", "Letter of 3 May"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await jory.OpenAsync(package);
        jory.Text.ShouldNotContain("Consent of");
        await jory.OpenAsync($"/f/{number}/follow");
        jory.Text.ShouldContain("£500: agreed (Letter of 3 May).");
    }

    [Fact]
    public async Task After_a_finding_the_mirror_place_is_looked_at_and_what_is_found_there_is_logged()
    {
        using var tobit = await shed.AsAsync("tobit");
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Injector" && p.Hand == Core.Machines.Hand.Left).Select(p => p.Id).SingleAsync());
        await tobit.OpenAsync($"/survey/new?place={place}");
        var logged = await tobit.PostAsync($"/survey/new?place={place}", ("What", "Cone worn oval"));
        var number = logged.Headers.Location!.ToString().Split('/')[^1];
        await tobit.OpenAsync($"/f/{number}/follow");
        var mirror = tobit.Page.QuerySelectorAll(".choices label").Single(l => l.TextContent.Contains("The other side of", StringComparison.Ordinal));
        mirror.TextContent.ShouldContain("Injector, right");
        (await tobit.PostAsync($"/f/{number}/follow?handler=Look")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/f/{number}/follow?handler=Look", ("Looks", mirror.QuerySelector("input")!.GetAttribute("value")))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync("/survey/looks");
        var row = tobit.Page.QuerySelectorAll("tbody tr").Single(r => r.TextContent.Contains("Injector, right", StringComparison.Ordinal));
        var look = row.QuerySelector("input[name=Look]")!.GetAttribute("value");
        var found = await tobit.PostAsync("/survey/looks?handler=Done", ("Look", look), ("Sound", "false"));
        found.Headers.Location!.ToString().ShouldStartWith("/survey/new?place=");
        (await tobit.PostAsync("/survey/looks?handler=Done", ("Look", look), ("Sound", "true"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("Somebody looked there already.");
    }

    /// <summary>What was looked at in another way, by logging what is there or by filling a survey of it, leaves the list by itself; what was only told does not end it.</summary>
    [Fact]
    public async Task What_was_filled_leaves_the_list()
    {
        using var tobit = await shed.AsAsync("tobit");
        var place = await shed.AskAsync(
            db => db.Places.Where(p => p.Name == "Injector" && p.Hand == Core.Machines.Hand.Left).SingleAsync());
        await shed.AskAsync(async db =>
        {
            db.Looks.Add(
                new Core.Survey.Look { MachineId = place.MachineId, PlaceId = place.Id, Why = "A look of the test", ById = await db.People.Where(p => p.Name == "Tobit Crane").Select(p => p.Id).SingleAsync() });
            return await db.SaveChangesAsync();
        });
        async Task LogAsync(string what, string known)
        {
            await tobit.OpenAsync($"/survey/new?place={place.Id}");
            (await tobit.PostAsync($"/survey/new?place={place.Id}", ("What", what), ("Evidence", known))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
            await tobit.OpenAsync("/survey/looks");
        }

        await LogAsync("Said to leak", "Told");
        tobit.Text.ShouldContain("A look of the test");
        await LogAsync("Sound, clean and reuse", "Seen");
        tobit.Text.ShouldNotContain("A look of the test");
        tobit.Text.ShouldNotContain("Said to leak");
        (await shed.AskAsync(db => db.Looks.SingleAsync(l => l.Why == "A look of the test"))).Sound.ShouldBe(true);
    }

    /// <summary>0.4 mm left of 10 looks like inches typed for millimetres: it is asked beside the field, what was typed stays, and a tick takes it as it is.</summary>
    [Fact]
    public async Task A_doubtful_reading_is_asked_and_can_be_insisted_on()
    {
        using var tobit = await shed.AsAsync("tobit");
        var place = await shed.AskAsync(
            db => db.Places.Where(p => p.Name == "Injector" && p.Hand == Core.Machines.Hand.Right).Select(p => p.Id).SingleAsync());
        await tobit.OpenAsync($"/survey/new?place={place}");
        (string, string?)[] typed = [("What", "Wasted away"), ("Feature", "Thickness"), ("Reading", "0.4 mm"), ("Nominal", "10 mm"), ("Limit", "8 mm"), ("Evidence", "Measured")];
        (await tobit.PostAsync($"/survey/new?place={place}", typed)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Reading").ShouldContain("differ by 25.4");
        tobit.Typed("Reading").ShouldBe("0.4 mm");
        tobit.Page.QuerySelector("input[name=Insists]").ShouldNotBeNull();
        (await tobit.PostAsync($"/survey/new?place={place}", [.. typed, ("Insists", "true")])).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await shed.AskAsync(db => db.Findings.SingleAsync(f => f.What == "Wasted away"))).Reading!.Text.ShouldBe("0.4 mm");
    }

    [Fact]
    public async Task Weak_spots_and_load_paths_are_the_groups_own()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/survey/looks");
        una.Text.ShouldContain("Said to have run warm in its last summer");
        una.Text.ShouldContain("S6, Cylinder 5, compression");
        (await una.PostAsync("/survey/looks?handler=Weak", ("Spot", "Injector"), ("YearFrom", "long ago"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Typed("Spot").ShouldBe("Injector");
        (await una.PostAsync("/survey/looks?handler=Weak", ("Spot", "Whistle"), ("Weak", "Cracks in the thread"), ("YearTo", "1920"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var marram = (await shed.AskAsync(db => db.Machines.Where(m => m.Letter == "M").Select(m => m.Id).SingleAsync())).ToString();
        await una.OpenAsync("/survey/looks");
        (await una.PostAsync("/survey/looks?handler=Path", ("Machine", marram), ("PathName", "Draw gear"), ("Places", "Drag box\nNothing"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Places").ShouldBe("No place of this machine is called “Nothing”.");
        (await una.PostAsync("/survey/looks?handler=Path", ("Machine", marram), ("PathName", "Draw gear"), ("Places", "Drag box\nBrake gear"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/survey/looks");
        una.Text.ShouldContain("Drag box › Brake gear");
    }

    [Fact]
    public async Task Many_findings_are_decided_by_one_work()
    {
        using var una = await shed.AsAsync("una");
        var numbers = new List<string>();
        var place = await shed.AskAsync(db => db.Places.Where(p => p.Name == "Cab sides").Select(p => p.Id).SingleAsync());
        foreach (var what in new[] { "Wire chafed", "Wire bare", "Wire burnt" })
        {
            await una.OpenAsync($"/survey/new?place={place}");
            numbers.Add((await una.PostAsync($"/survey/new?place={place}", ("What", what))).Headers.Location!.ToString().Split('/')[^1]);
        }

        await una.OpenAsync("/survey?m=M");
        una.Page.QuerySelectorAll("input[name=f]").Length.ShouldBeGreaterThan(2);
        var chosen = string.Join('&', numbers.Select(n => $"f={n}"));
        await una.OpenAsync($"/survey/together?{chosen}");
        (string, string?)[] Form(params (string, string?)[] more) => [.. numbers.Select(n => ("f", (string?)n)), .. more];
        (await una.PostAsync("/survey/together?handler=Compare", Form(("Hours", "24"), ("Cost", "180"), ("Weeks", "2")))).StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Text.ShouldContain("No option is written down for any of the 3");
        (await una.PostAsync("/survey/together", Form(("Work", "Renew the cab wiring"), ("Hours", "24"), ("Cost", "180")))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Typed("Work").ShouldBe("Renew the cab wiring");
        var settled = await una.PostAsync("/survey/together", Form(("Work", "Renew the cab wiring"), ("Disposition", "Remake"), ("Hours", "16 24 40"), ("Cost", "180"), ("Why", "Thirty repairs would be worse")));
        settled.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync(settled.Headers.Location!.ToString());
        una.Text.ShouldContain("Renew the cab wiring");
        await una.OpenAsync($"/f/{numbers[1]}");
        una.Text.ShouldContain("Renew the cab wiring");
        una.Text.ShouldContain("Remake");
        (await una.PostAsync("/survey/together", Form(("Work", "Again"), ("Disposition", "Repair"), ("Why", "x")))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("is decided already");

        // The package that they share counts as the package of each of them.
        var version = await shed.AskAsync(db => db.Decisions.Where(d => db.Findings.Any(f => f.Id == d.FindingId && f.Number.ToString() == numbers[0])).Select(d => d.Id).SingleAsync());
        await una.OpenAsync($"/f/{numbers[0]}");
        (await una.PostAsync($"/f/{numbers[0]}?handler=Decide", ("Disposition", "Leave"), ("Why", "No need"), ("Seen", version.ToString()))).StatusCode.ShouldNotBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/survey/parts?m=M");
        una.Text.ShouldContain("Wire chafed");
        await shed.AskAsync(db => db.Packages.Where(k => k.Title == "Renew the cab wiring").ExecuteUpdateAsync(k => k.SetProperty(x => x.ClosedAt, HandClock.Start)));
        await una.OpenAsync("/survey/parts?m=M");
        una.Text.ShouldNotContain("Wire chafed");
        var likely = await shed.AskAsync(db => db.Packages.Where(k => k.Title == "Renew the cab wiring").SelectMany(k => k.Operations).SumAsync(o => o.Likely));
        likely.ShouldBe(24, 1e-6);
    }

    [Fact]
    public async Task A_part_whose_finding_shares_an_open_package_does_not_go_back_on()
    {
        using var una = await shed.AsAsync("una");
        var free = await shed.AskAsync(db => db.Tags
            .Where(t => t.End == null && !db.Findings.Any(f => f.TagId == t.Id) && !db.Packages.Any(k => k.TagId == t.Id) && !db.Precedences.Any(p => p.FirstSlotId == t.SlotId || p.ThenId == t.SlotId) && db.Custodies.Any(c => c.TagId == t.Id && c.Until == null && c.Kind == Core.Strip.CustodyKind.Shelf))
            .OrderByDescending(t => t.Number).Select(t => new { t.MachineId, t.Number }).ToListAsync());
        var tags = free.GroupBy(t => t.MachineId).First(g => g.Count() >= 2).Take(2).Select(t => t.Number).ToArray();
        var numbers = new List<string>();
        foreach (var tag in tags)
        {
            await una.OpenAsync($"/survey/new?tag={tag}");
            numbers.Add((await una.PostAsync($"/survey/new?tag={tag}", ("What", "Old rivets"))).Headers.Location!.ToString().Split('/')[^1]);
        }

        await una.OpenAsync($"/survey/together?f={numbers[0]}&f={numbers[1]}");
        var settled = await una.PostAsync("/survey/together", ("f", numbers[0]), ("f", numbers[1]), ("Work", "Rivet both anew"), ("Disposition", "Repair"), ("Why", "One set-up"));
        var package = settled.Headers.Location!.ToString().Split('/')[^1];
        await una.OpenAsync($"/t/{tags[0]}/refit");
        una.Text.ShouldContain($"Package {package}");
        (await una.PostAsync($"/t/{tags[0]}/refit", ("Which", "old"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await una.OpenAsync($"/t/{tags[1]}");
        una.Text.ShouldContain("Rivet both anew");
    }

    [Fact]
    public async Task Findings_come_from_a_file_after_a_look_at_every_line()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/survey/bring");
        (await tobit.UploadAsAsync("file", "/survey/bring", "x.csv", [0x50, 0x4B, 3, 4, 0, 0])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("That is a spreadsheet, not a CSV file.");
        var tag = await shed.FreeTagAsync("M", 2);
        var csv = $"machine,place,what,feature,reading,as_built,limit,known\nM,Chimney cap,Rim split,,,,,seen\nM,{tag},Worn thin,thickness,7 mm,10 mm,6 mm,\nX,Door,No such machine,,,,,\nM,Nowhere,No such place,,,,,\nM,Chimney cap,Too thick,thickness,12 mm,10 mm,6 mm,\nM,Chimney cap,,,,,,\n";
        var kept = await tobit.UploadAsAsync("file", "/survey/bring", "findings.csv", Encoding.UTF8.GetBytes(csv));
        kept.StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var page = kept.Headers.Location!.ToString();
        var before = await shed.AskAsync(db => db.Findings.CountAsync());
        await tobit.OpenAsync(page);
        tobit.Text.ShouldContain("2 findings can be logged, 4 lines cannot");
        tobit.Text.ShouldContain("There is no machine “X”.");
        (await shed.AskAsync(db => db.Findings.CountAsync())).ShouldBe(before);
        var key = Guid.CreateVersion7();
        (await tobit.SendAsync(page + "?handler=Log", key)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Findings.CountAsync())).ShouldBe(before + 2);
        (await tobit.SendAsync(page + "?handler=Log", key)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var worn = await shed.AskAsync(db => db.Findings.SingleAsync(f => f.What == "Worn thin"));
        (worn.TagId is not null, worn.Evidence, worn.Reading!.Si).ShouldBe((true, Evidence.Measured, 0.007));
        await tobit.OpenAsync("/survey/bring");
        var empty = await tobit.UploadAsAsync("file", "/survey/bring", "findings.csv", Encoding.UTF8.GetBytes("a,b\n1,2\n"));
        await tobit.OpenAsync(empty.Headers.Location!.ToString());
        tobit.Text.ShouldContain("The first line names the columns");

        // What the list exports is taken in again.
        await tobit.GetAsync("/survey.csv");
        var exported = tobit.Html.Split('\n');
        var wornLine = Array.Find(exported, l => l.Contains("Worn thin", StringComparison.Ordinal))!;
        await tobit.OpenAsync("/survey/bring");
        var back = await tobit.UploadAsAsync("file", "/survey/bring", "findings.csv", Encoding.UTF8.GetBytes(exported[0] + "\n" + wornLine));
        await tobit.OpenAsync(back.Headers.Location!.ToString());
        tobit.Text.ShouldContain("1 finding can be logged");
    }

    [Fact]
    public async Task A_cleaned_part_is_looked_at_again()
    {
        using var tobit = await shed.AsAsync("tobit");
        var number = await shed.AskAsync(db => db.Findings.Where(f => f.Decided == Disposition.Clean && db.Packages.Any(k => k.FindingId == f.Id) && db.Packages.Where(k => k.FindingId == f.Id).All(k => k.ClosedAt != null)).Select(f => f.Number).FirstAsync());
        await tobit.OpenAsync($"/f/{number}/follow");
        tobit.Text.ShouldContain("Look again before it is coated.");
        (await tobit.PostAsync($"/f/{number}/follow?handler=Again")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await tobit.OpenAsync($"/f/{number}/follow");
        tobit.Text.ShouldContain("nothing new.");
    }

    [Fact]
    public async Task The_report_is_a_pdf_that_can_be_read_back()
    {
        using var visitor = await shed.AsAsync("visiting");
        foreach (var letter in new[] { "G", "M", "B" })
        {
            var response = await visitor.Client.GetAsync($"/survey/report.pdf?m={letter}", TestContext.Current.CancellationToken);
            response.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
            var pdf = await response.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken);
            Encoding.ASCII.GetString(pdf, 0, 5).ShouldBe("%PDF-");
            using var read = PdfSharp.Pdf.IO.PdfReader.Open(new MemoryStream(pdf), PdfSharp.Pdf.IO.PdfDocumentOpenMode.Import);
            read.PageCount.ShouldBeGreaterThan(2);
            read.Info.Title.ShouldStartWith("Survey report, ");
            read.Pages[0].Width.Millimeter.ShouldBe(210, 0.5);
        }

        (await visitor.GetAsync("/survey/report.pdf?m=Z")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        Reports.ReportFonts.Printable("5⅛ in ▼ 3 − 1").ShouldBe("5? in ? 3 − 1");
    }

    [Fact]
    public async Task A_helper_does_not_decide_and_a_visitor_records_nothing()
    {
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/survey");
        (await tobit.GetAsync("/survey/together?f=1&f=2")).Headers.Location!.ToString().ShouldContain("not-allowed");
        (await tobit.PostAsync("/survey/complete?m=B&handler=Target", ("Owner", "me"))).Headers.Location!.ToString().ShouldContain("not-allowed");
        using var visitor = await shed.AsAsync("visiting");
        await visitor.OpenAsync("/survey");
        (await visitor.GetAsync("/survey/bring")).Headers.Location!.ToString().ShouldContain("not-allowed");
        (await visitor.PostAsync("/f/1/follow?handler=Ask", ("Question", "x"), ("AskedOf", "y"))).Headers.Location!.ToString().ShouldContain("not-allowed");
    }
}
