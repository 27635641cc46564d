using System.Globalization;
using System.Net;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Web.Tests;

/// <summary>A lead plans packages: written as lines, changed, cancelled, taken back; the library; milestones.</summary>
public sealed class PlanningFlowTests(Shed shed) : IClassFixture<Shed>
{
    private const string Strip = "drill out old rivets 3-4-6, 2 people\nream the lower holes 2-3-5 h, riveter, HOLD\n    each 6.35-6.40 mm x 3\n+ dress the flange 1-2, Jory\ncure 7 d over 8C\nrivet wet 8-12-18, Dilys + holder up\n    needs 60 rivets 5/32, jointing";

    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    private static int Number(HttpResponseMessage answer) => int.Parse(answer.Headers.Location!.ToString().Split('/')[^1],
        CultureInfo.InvariantCulture);

    private Task<WorkPackage> PackageAsync(int number) => shed.AskAsync(db => db.Packages.AsNoTracking().Include(k =>
        k.Operations.OrderBy(o => o.Order)).SingleAsync(k => k.Number == number));

    private async Task<int> OpenAsync(Visitor una, string title, string lines = Strip, params (string, string?)[] more)
    {
        await una.OpenAsync("/work/new?m=G");
        var answer = await una.PostAsync("/work/new", [("m", "G"), ("Title", title), ("Lines", lines), .. more]);
        answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        return Number(answer);
    }

    [Fact]
    public async Task A_lead_opens_a_package_from_lines_and_all_of_it_is_kept()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Keel strip, starboard float", Strip, ("Purpose", "The old one is thin at the heel"),
            ("from", "Riveted"));
        var k = await PackageAsync(number);
        (k.Title, k.Purpose, k.StartedFrom, k.Revision).ShouldBe(("Keel strip, starboard float", "The old one is thin at the heel",
            "Riveted", 1));
        k.Operations.Select(o => o.Name).ShouldBe(["Drill out old rivets", "Ream the lower holes", "Dress the flange",
            "Inspect: ream the lower holes", "Rivet wet"]);
        k.Operations[1].Readings.Single().Positions.ShouldBe(3);
        (k.Operations[2].Beside, k.Operations[3].Hold, k.Operations[4].Needs.CureOver).ShouldBe((true, true, 8));
        k.Operations[4].Kit.ShouldBe([new KitItem(60, "rivets 5/32"), new KitItem(1, "jointing")]);
        await una.OpenAsync($"/w/{number}");
        una.Text.ShouldContain($"Package {number}, ready.");
        una.Text.ShouldContain("0 of 5 steps done, 15 to 32 h to do, likely 21.");
        una.Text.ShouldContain("The old one is thin at the heel");
        (await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Select(l =>
            l.Sentence).FirstAsync(Ct))).ShouldBe($"opened package {number}: Keel strip, starboard float.");
    }

    [Fact]
    public async Task Lines_are_read_beside_what_is_typed_and_keys_write_into_them_without_a_script()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/work/new?m=G");
        (await una.PostAsync("/work/new?handler=Read", ("m", "G"), ("Title", "Kept"),
            ("Lines", "lift it with 2 ton hoist 1-2-4\nweep test"))).StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Typed("Title").ShouldBe("Kept");
        una.Text.ShouldContain("Two lines ask you something");
        una.Text.ShouldContain("Which ton?");
        una.Text.ShouldContain("and 1 step without hours");
        await una.PostAsync("/work/new?handler=Answer", ("m", "G"), ("Lines", "lift it with 2 ton hoist 1-2-4\nweep test"),
            ("Answer", "0.1"));
        una.Typed("Lines").Trim().ShouldBe("lift it with 2 tonne hoist 1-2-4\nweep test");
        foreach (var hostile in new[] { "9.9", "x", "0.1.2", "-1.0", null })
        {
            (await una.PostAsync("/work/new?handler=Answer", ("m", "G"), ("Lines", "weep test"),
                ("Answer", hostile))).StatusCode.ShouldBe(HttpStatusCode.OK, hostile);
            una.Typed("Lines").Trim().ShouldBe("weep test");
        }

        await una.PostAsync("/work/new?handler=Start", ("m", "G"), ("Lines", "weep test"), ("Choose", "Clean"));
        una.Typed("Lines").Replace("\r", string.Empty,
            StringComparison.Ordinal).Trim().ShouldBe("weep test\nclean 1-2-4 h\nlook again and protect 0.5-1-2 h");
    }

    [Fact]
    public async Task Bad_input_gets_its_sentence_and_keeps_what_was_typed()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/work/new?m=G");
        var before = await shed.AskAsync(db => db.Packages.CountAsync(Ct));
        async Task Refused(string field, string sentence, params (string, string?)[] form)
        {
            (await una.PostAsync("/work/new", [("m", "G"), .. form])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, sentence);
            (field.Length > 0 ? una.Beside(field) : una.Text).ShouldContain(sentence);
        }

        await Refused("Title", "Say what is done", ("Lines", "turn 2 h"));
        una.Typed("Lines").Trim().ShouldBe("turn 2 h");
        await Refused("Title", "120 fit here", ("Title", new string('x', 121)));
        await Refused(string.Empty, "300 fit in a package", ("Title", "x"),
            ("Lines", string.Join('\n', Enumerable.Repeat("turn 2 h", 301))));
        var finding = await shed.AskAsync(db => db.Findings.Where(f => f.Decided != null && f.OpensOn == null && db.Machines.Any(m =>
            m.Id == f.MachineId && m.Letter == "G")).Select(f => f.Number).FirstAsync(Ct));
        await Refused(string.Empty, $"F{finding} is decided already", ("Title", "x"), ("Purpose", "x"),
            ("f", finding.ToString(CultureInfo.InvariantCulture)));
        (await shed.AskAsync(db => db.Packages.CountAsync(Ct))).ShouldBe(before);
        using var tobit = await shed.AsAsync("tobit");
        (await tobit.GetAsync("/work/new?m=G")).Headers.Location!.ToString().ShouldContain("not-allowed");
        var number = await OpenAsync(una, "<script>alert(1)</script>", "<b>turn</b> 2 h, <i>x</i>");
        await una.OpenAsync($"/w/{number}");
        una.Page.QuerySelectorAll("script").ShouldAllBe(s => s.TextContent.Length == 0);
        una.Page.QuerySelectorAll(".next b b, .next i, h1 script").ShouldBeEmpty();
    }

    [Fact]
    public async Task Findings_that_it_is_for_are_decided_with_it_and_open_again_when_it_is_cancelled()
    {
        using var una = await shed.AsAsync("una");
        var open = await shed.AskAsync(db => db.Findings.Where(f => f.Decided == null && db.Machines.Any(m => m.Id == f.MachineId
            && m.Letter == "G")).OrderBy(f => f.Number).Select(f => f.Number).Take(2).ToListAsync(Ct));
        var form = open.Select(f => ("f", (string?)f.ToString(CultureInfo.InvariantCulture))).ToArray();
        await una.OpenAsync("/work/new?" + string.Join('&', open.Select(f => $"f={f}")));
        (await una.PostAsync("/work/new", [("Title", "Put both right"), ("Lines", "do it 2 h"),
            .. form])).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Purpose").ShouldContain("reason of the decision");
        var number = Number(await una.PostAsync("/work/new", [("Title", "Put both right"), ("Purpose", "They leak"), ("Lines", "do it 2 h"),
            .. form]));
        (await shed.AskAsync(db => db.Findings.Where(f => open.Contains(f.Number)).Select(f =>
            f.Decided).Distinct().ToListAsync(Ct))).ShouldBe([Disposition.Repair]);
        await una.OpenAsync($"/w/{number}");
        await una.PostAsync($"/w/{number}?handler=Cancel", ("CancelWhy", " "));
        una.Beside("CancelWhy").ShouldContain("Say why it is given up");
        (await una.PostAsync($"/w/{number}?handler=Cancel", ("CancelWhy",
            "The donor has a whole one"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Findings.CountAsync(f => open.Contains(f.Number) && f.Decided == null, Ct))).ShouldBe(2);
        await una.OpenAsync($"/w/{number}");
        una.Text.ShouldContain($"Package {number}, cancelled.");
        una.Text.ShouldContain("The donor has a whole one");
        (await shed.AskAsync(db => db.LogEntries.Where(l =>
            l.Sentence.Contains("is open again, because package " + number)).CountAsync(Ct))).ShouldBe(2);
        (await una.PostAsync($"/w/{number}?handler=Cancel", ("CancelWhy",
            "again"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await una.PostAsync($"/w/{number}?handler=Reopen", ("ReopenWhy", "The donor is sold"));
        (await PackageAsync(number)).ShouldSatisfyAllConditions(k => k.ClosedAt.ShouldBeNull(), k => k.CancelledWhy.ShouldBeEmpty());
    }

    [Fact]
    public async Task A_decision_is_taken_back_while_nothing_was_done()
    {
        using var una = await shed.AsAsync("una");
        var finding = await shed.AskAsync(db => db.Findings.Where(f => f.Decided == null && db.Machines.Any(m => m.Id == f.MachineId
            && m.Letter == "L")).Select(f => f.Number).FirstAsync(Ct));
        await una.OpenAsync($"/f/{finding}");
        var number = Number(await una.PostAsync($"/f/{finding}?handler=Decide", ("Disposition", "Remake"), ("Why", "Too thin"),
            ("Left", "7"), ("Right", "7"), ("Seen", ""), ("What", "rib"), ("StartFrom", "Wood")));
        var k = await PackageAsync(number);
        (k.Title, k.StartedFrom).ShouldBe(("Make rib, 7 left and 7 right", "Wood"));
        (await shed.AskAsync(db => db.RouteCards.Where(c => c.PackageId == k.Id).Select(c => new
        {
            c.Part,
            Stages = c.Stages.OrderBy(s =>
            s.Order).Select(s => s.Name).ToList()
        }).SingleAsync(Ct))).ShouldSatisfyAllConditions(
            c => c.Part.ShouldBe("rib"), c => c.Stages.ShouldBe(["Cut", "Shaped", "Joined", "Finished", "Fitted"]));
        await una.OpenAsync($"/f/{finding}");
        var seen = una.Typed("Seen");
        (await una.PostAsync($"/f/{finding}?handler=TakeBack", ("Seen", Guid.NewGuid().ToString()),
            ("BackWhy", "Wrong one"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await una.PostAsync($"/f/{finding}?handler=TakeBack", ("Seen", seen),
            ("BackWhy", ""))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync($"/f/{finding}?handler=TakeBack", ("Seen", seen),
            ("BackWhy", "Measured the wrong one"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Findings.Where(f => f.Number == finding).Select(f => f.Decided).SingleAsync(Ct))).ShouldBeNull();
        (await PackageAsync(number)).CancelledWhy.ShouldBe("Measured the wrong one");
        var said = await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Select(l => l.Sentence).Take(3).ToListAsync(Ct));
        said.ShouldContain(s => s.StartsWith($"took the decision about F{finding} back"));
        said.ShouldContain(s => s.StartsWith($"cancelled package {number}"));

        // With hours on it, it is cancelled and not taken back.
        await una.OpenAsync($"/f/{finding}");
        var second = Number(await una.PostAsync($"/f/{finding}?handler=Decide", ("Disposition", "Repair"), ("Why", "Enough is left"),
            ("Left", "1"), ("Right", "0"), ("Seen", "")));
        await una.OpenAsync("/today/hours");
        await una.PostAsync("/today/hours", ("Hours", "1"), ("job", second.ToString(CultureInfo.InvariantCulture)),
            ("On", una.Typed("On")));
        await una.OpenAsync($"/f/{finding}");
        (await una.PostAsync($"/f/{finding}?handler=TakeBack", ("Seen", una.Typed("Seen")),
            ("BackWhy", "No"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("BackWhy").ShouldContain($"Package {second} has begun: hours are booked");
    }

    [Fact]
    public async Task Steps_are_changed_moved_split_and_taken_out_and_every_change_is_kept()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Steps change", "clean 1 h\nform 2-3-5 h\nHOLD Seen\npaint 4 h");
        var ids = (await PackageAsync(number)).Operations.Select(o => o.Id).ToList();
        await una.OpenAsync($"/w/{number}/steps");
        una.Typed("Lines").Replace("\r", string.Empty,
            StringComparison.Ordinal).Trim().ShouldBe("1. Clean 1 h\n2. Form 2-3-5 h\n3. HOLD Seen 0.5-0.5-1 h\n4. Paint 4 h");
        (string, string?)[] change = [("Lines", "2. bend 2-3-5 h\n2. bend the other 2 h\n1. clean 1 h\n3. HOLD Seen 0.5-0.5-1 h\ndry 3 h"),
            ("Seen", "1")];
        var key = Guid.CreateVersion7();
        (await una.SendAsync($"/w/{number}/steps", key, change)).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/w/{number}/steps");
        (await una.SendAsync($"/w/{number}/steps", key, change)).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var k = await PackageAsync(number);
        k.Operations.Select(o => o.Name).ShouldBe(["Bend", "Bend the other", "Clean", "Seen", "Dry"]);
        k.Operations.Select(o => ids.IndexOf(o.Id)).ShouldBe([1, -1, 0, 2, -1]);
        (k.Revision, k.Operations.Select(o => o.Order).ToList()).ShouldSatisfyAllConditions(x => x.Revision.ShouldBe(2), x =>
            x.Item2.ShouldBe([1, 2, 3, 4, 5]));
        var revision = await shed.AskAsync(db => db.PackageRevisions.SingleAsync(r => r.PackageId == k.Id, Ct));
        revision.Changes.ShouldBe(["renamed “Form” to “Bend”", "split “Form”: added “Bend the other”",
            "moved “Clean” behind “Bend the other”", "added “Dry”", "took out “Paint”"]);
        await una.OpenAsync($"/w/{number}/steps");
        una.Text.ShouldContain($"{number}-2");
        una.Text.ShouldContain("took out “Paint”");

        // Stale: somebody changed them meanwhile.
        (await una.PostAsync($"/w/{number}/steps", change)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        una.Text.ShouldContain("The steps are now:");
        (await una.PostAsync($"/w/{number}/steps", ("Lines",
            "1. Bend 2-3-5 h\n2. Bend the other 2 h\n3. Clean 1 h\n4. HOLD Seen 0.5-0.5-1 h\n5. Dry 3 h"),
            ("Seen", "2"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Lines").Length.ShouldBe(0);
        una.Text.ShouldContain("Nothing is different yet.");
    }

    [Fact]
    public async Task What_somebody_worked_at_changes_only_with_a_reason_and_what_is_done_stays()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Begun", "clean 1 h\nform 2-3-5 h\npaint 4 h");
        var k = await PackageAsync(number);
        await una.PostAsync($"/w/{number}?handler=Done", ("Step", k.Operations[0].Id.ToString()));
        await shed.AskAsync(async db =>
        {
            db.Hours.Add(new Core.People.HoursEntry
            {
                MachineId = k.MachineId,
                PackageId = k.Id,
                OperationId = k.Operations[1].Id,
                PersonId = await db.People.Select(p => p.Id).FirstAsync(Ct),
                On = HandClock.Today,
                Minutes = 30,
                RecordedById = await db.People.Select(p => p.Id).FirstAsync(Ct),
                At = HandClock.Start
            });
            return await db.SaveChangesAsync(Ct);
        });
        await una.OpenAsync($"/w/{number}/steps");
        una.Typed("Lines").Trim().ShouldStartWith("2. Form");
        await una.PostAsync($"/w/{number}/steps", ("Lines", "2. Form 5 h\n3. Paint 4 h"), ("Seen", "1"));
        una.Beside("Why").ShouldContain("Somebody has worked at “Form”");
        (await una.PostAsync($"/w/{number}/steps", ("Lines", "3. Paint 4 h"),
            ("Seen", "1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("Keep its line, or finish it first");
        (await una.PostAsync($"/w/{number}/steps", ("Lines", "3. Paint 4 h\n2. Form 5 h"), ("Seen", "1"),
            ("Why", "The paint must go under it"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await PackageAsync(number)).Operations.Select(o => o.Name).ShouldBe(["Clean", "Paint", "Form"]);
    }

    [Fact]
    public async Task Steps_are_changed_with_plain_fields_too()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "By fields", "clean 1 h\nform 2-3-5 h, riveter\npaint 4 h");
        await una.OpenAsync($"/w/{number}/steps?fields=true");
        (string, string?)[] Form(string hours) =>
        [
            ("Seen", "1"), ("Lines", una.Typed("Lines")),
            ("Fields[0].Number", "2.5"), ("Fields[0].Name", "Clean"), ("Fields[0].Low", hours),
            ("Fields[1].Number", "2"), ("Fields[1].Name", "Form the flange"), ("Fields[1].Low", "2"), ("Fields[1].Likely", "3"),
                ("Fields[1].High", "5"),
            ("Fields[2].Number", "3"), ("Fields[2].Name", ""), ("Fields[3].Number", "4"), ("Fields[3].Name", "Look"),
                ("Fields[3].Hold", "true"),
        ];
        (await una.PostAsync($"/w/{number}/steps?handler=Fields", Form("many"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Text.ShouldContain("The hours of “Clean” are not numbers that can be read");
        (await una.PostAsync($"/w/{number}/steps?handler=Fields", Form("1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var k = await PackageAsync(number);
        k.Operations.Select(o => o.Name).ShouldBe(["Form the flange", "Clean", "Look"]);
        k.Operations[0].Needs.Skills.ShouldBe([new Core.Planning.SkillNeed("riveter")]);
        k.Operations[2].Hold.ShouldBeTrue();
    }

    [Fact]
    public async Task What_was_done_is_taken_back_with_a_reason_and_voids_what_was_signed_after_it()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Signed", "clean 1 h\nHOLD Seen\npaint 1 h");
        var k = await PackageAsync(number);
        await una.PostAsync($"/w/{number}?handler=Done", ("Step", k.Operations[0].Id.ToString()));
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/w/{number}");
        (await corin.PostAsync($"/w/{number}?handler=Sign", ("Step", k.Operations[1].Id.ToString()),
            ("Note", "Clean to the metal."))).StatusCode.ShouldBe(HttpStatusCode.Redirect, corin.Text);
        await una.OpenAsync($"/w/{number}");
        await una.PostAsync($"/w/{number}?handler=Undo", ("Step", k.Operations[0].Id.ToString()), ("UndoWhy", ""));
        una.Text.ShouldContain("Say why it is not done after all.");
        (await una.PostAsync($"/w/{number}?handler=Undo", ("Step", k.Operations[0].Id.ToString()),
            ("UndoWhy", "Rust under the clip"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PackageAsync(number)).Operations.ShouldAllBe(o => o.DoneAt == null);
        await una.OpenAsync($"/w/{number}");
        una.Text.ShouldContain("Void: the signature of Corin Vance");
        una.Text.ShouldContain("“Clean to the metal.” Rust under the clip.");
        await una.PostAsync($"/w/{number}?handler=Done", ("Step", k.Operations[0].Id.ToString()));
        await corin.OpenAsync($"/w/{number}");
        (await corin.PostAsync($"/w/{number}?handler=Sign", ("Step", k.Operations[1].Id.ToString()),
            ("Note", "Now it is."))).StatusCode.ShouldBe(HttpStatusCode.Redirect, corin.Text);
        (await shed.AskAsync(db => db.SignOffs.CountAsync(s => s.OperationId == k.Operations[1].Id, Ct))).ShouldBe(2);
    }

    [Fact]
    public async Task The_library_keeps_steps_changes_them_and_lets_them_go()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "For the library", Strip);
        await una.OpenAsync($"/work/library?keep={number}");
        var lines = una.Typed("Lines");
        lines.ShouldContain("each 6.35-6.40 mm x 3");
        lines.ShouldNotContain("1. ");
        (await una.PostAsync("/work/library", ("Name", "Keel strip"), ("About", "of a float"),
            ("Lines", lines))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync("/work/library");
        una.Text.ShouldContain("Keel strip");
        (await una.PostAsync("/work/library", ("Name", "keel STRIP"), ("Lines",
            lines))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Name").ShouldContain("already");
        var set = await shed.AskAsync(db => db.StepSets.SingleAsync(s => s.Name == "Keel strip", Ct));
        await una.OpenAsync($"/work/library?set={set.Id}");
        (await una.PostAsync("/work/library", ("set", set.Id.ToString()), ("Version", "1"), ("Name", "Keel strip"),
            ("Lines", "turn 1 h"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await una.PostAsync("/work/library", ("set", set.Id.ToString()), ("Version", set.Version.ToString(CultureInfo.InvariantCulture)),
            ("Name", "Keel strip"), ("Lines", "turn 1 h, after 64.3"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync("/work/new?m=G&from=Keel+strip&times=3");
        una.Typed("Lines").Trim().ShouldStartWith("Turn 3 h");
        (await una.PostAsync("/work/library?handler=End", ("set", set.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/work/library");
        una.Page.QuerySelectorAll("td.head b").Select(b => b.TextContent).ShouldNotContain("Keel strip");
    }

    [Fact]
    public async Task A_package_is_used_again_for_the_other_hand()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Left bracket", "cut the left plate 1 h\nturn the port pin 2 h");
        await una.OpenAsync($"/work/new?like={number}&other=true&m=G");
        una.Typed("Title").ShouldBe("Right bracket");
        una.Typed("Lines").Replace("\r", string.Empty,
            StringComparison.Ordinal).Trim().ShouldBe("Cut the right plate 1 h\nTurn the starboard pin 2 h");
    }

    [Fact]
    public async Task What_is_still_wanted_stops_a_step_and_a_closing_but_for_a_leads_reason()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Wanting", "fit it 1 h");
        await una.OpenAsync($"/w/{number}/needs/1");
        (await una.PostAsync($"/w/{number}/needs/1", ("Entry.MinCrew", "1"), ("Entry.MaxCrew", "2"), ("DemandWhat", "gasket set"),
            ("Quantity", "1"), ("LeadWeeks", "2"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var step = (await PackageAsync(number)).Operations[0].Id.ToString();
        await una.OpenAsync($"/w/{number}");
        una.Text.ShouldContain($"Package {number}, waiting.");
        una.Text.ShouldContain("Gasket set. It is not ordered.");
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/w/{number}");
        (await tobit.PostAsync($"/w/{number}?handler=Done", ("Step", step))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("gasket set is still wanted for “Fit it”. Say that it is here, or ask a lead.");
        (await tobit.PostAsync($"/w/{number}?handler=Done", ("Step", step),
            ("Without", "never mind"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync($"/w/{number}?handler=Done", ("Step", step),
            ("Without", "The old one is whole"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        await una.OpenAsync($"/w/{number}");
        una.Text.ShouldContain("gasket set is still wanted for it.");
        (await una.PostAsync($"/w/{number}?handler=Close")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync($"/w/{number}?handler=Close", ("Without",
            "It comes for the shelf"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
    }

    [Fact]
    public async Task Readings_are_kept_judged_struck_snagged_and_accepted()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Gauged", "ream 2 h\n    each 6.35-6.40 mm x 3\nHOLD Seen");
        var step = (await PackageAsync(number)).Operations[0];
        using var tobit = await shed.AsAsync("tobit");
        var path = $"/w/{number}/1?handler=Reading";
        (string, string?)[] Form(int position, string text, params (string, string?)[] more) =>
            [("Wanted", step.Readings[0].Text), ("Position", position.ToString(CultureInfo.InvariantCulture)), ("Reading", text), .. more];
        await tobit.OpenAsync($"/w/{number}");
        tobit.Text.ShouldContain("off: 3 readings are not taken.");
        (await tobit.PostAsync(path, Form(1, "6.37"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await tobit.PostAsync(path, Form(2, "wide"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Page.QuerySelector("#reading")!.GetAttribute("value").ShouldBe("wide");

        // Beyond the limit nothing is kept until a way is chosen.
        (await tobit.PostAsync(path, Form(2, "6.46"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Page.QuerySelector(".n4 .say")!.TextContent.Trim().ShouldBe("0.06\u00A0mm above the limit. Nothing is kept yet: read it again, or choose a way on.");
        tobit.Text.ShouldContain("Two ways on");
        (await shed.AskAsync(db => db.StepReadings.CountAsync(r => r.OperationId == step.Id, Ct))).ShouldBe(1);
        (await tobit.PostAsync(path, Form(2, "6.46", ("Way", "Snag")))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        var snag = await shed.AskAsync(db => db.Findings.OrderByDescending(f => f.Number).FirstAsync(Ct));
        snag.What.ShouldBe($"reading 2 at “Ream”: 6.46\u00A0mm; the limit is 6.35 to 6.40 mm. Package {number}.");
        (await tobit.PostAsync(path, Form(3, "6.41", ("Way", "Ask")))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await tobit.PostAsync($"/w/{number}?handler=Done", ("Step",
            step.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("“Ream” cannot be finished: 2 readings are beyond the limit and not accepted.");

        // Somebody else's reading is not struck by a helper; one's own is, with a reason, and stays.
        using var dilys = await shed.AsAsync("dilys");
        var second = await shed.AskAsync(db => db.StepReadings.SingleAsync(r => r.OperationId == step.Id && r.Position == 2, Ct));
        await dilys.OpenAsync($"/w/{number}/1");
        (await dilys.PostAsync($"/w/{number}/1?handler=Strike", ("ReadingId", second.Id.ToString()),
            ("StrikeWhy", "no"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/w/{number}/1?handler=Strike", ("ReadingId", second.Id.ToString()),
            ("StrikeWhy", ""))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/w/{number}/1?handler=Strike", ("ReadingId", second.Id.ToString()),
            ("StrikeWhy", "swarf in the hole"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await tobit.PostAsync($"/w/{number}/1?handler=Strike", ("ReadingId", second.Id.ToString()),
            ("StrikeWhy", "again"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await tobit.PostAsync(path, Form(2, "1/4 in"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        await tobit.OpenAsync($"/w/{number}/1");
        tobit.Page.QuerySelectorAll("s.val").Select(s => s.TextContent).ShouldBe(["6.46\u00A0mm"]);
        tobit.Text.ShouldContain("struck: swarf in the hole");

        // The concession is an inspector's who did not do the work.
        var third = await shed.AskAsync(db => db.StepReadings.SingleAsync(r => r.OperationId == step.Id && r.Position == 3, Ct));
        (await tobit.PostAsync($"/w/{number}/1?handler=Answer", ("ReadingId", third.Id.ToString()), ("Accept", "true"),
            ("AcceptWhy", "mine"))).Headers.Location!.ToString().ShouldContain("not-allowed");
        using var corin = await shed.AsAsync("corin");
        await corin.OpenAsync($"/w/{number}/1");
        corin.Text.ShouldContain("Tobit Crane asks to leave 6.41 mm as it is.");
        (await corin.PostAsync($"/w/{number}/1?handler=Answer", ("ReadingId", third.Id.ToString()), ("Accept", "true"),
            ("AcceptWhy", ""))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await corin.PostAsync($"/w/{number}/1?handler=Answer", ("ReadingId", third.Id.ToString()), ("Accept", "true"),
            ("AcceptWhy", "One hole of three, and the pin is oversize"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, corin.Text);
        (await tobit.PostAsync($"/w/{number}?handler=Done", ("Step", step.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect,
            tobit.Text);
        (await tobit.PostAsync(path, Form(1, "6.38"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync(path, Form(9, "6.38"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_sheet_that_came_back_on_paper_is_typed_in_whole_and_an_old_one_is_known()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "On paper", "ream 2 h\n    each 6.35-6.40 mm x 2\ndress 1 h\nHOLD Seen\npaint 1 h");
        var steps = (await PackageAsync(number)).Operations;
        await una.OpenAsync($"/w/{number}/sheet");
        una.Page.QuerySelectorAll(".wbox").Length.ShouldBe(2);
        una.Page.QuerySelectorAll(".gate").Length.ShouldBe(1);
        una.Page.QuerySelector(".code svg")!.GetAttribute("aria-label").ShouldBe($"Code of sheet {number}-1");
        var nell = (await shed.AskAsync(db => db.People.Where(p => p.Name == "Nell Garrow").Select(p => p.Id).SingleAsync(Ct))).ToString();
        (string, string?)[] Form(string sheet, string first, string second, params (string, string?)[] more) =>
        [
            ("Sheet", sheet), ("Who", nell), ("Rows[0].Step", steps[0].Id.ToString()), ("Rows[0].Done", "true"),
                ("Rows[0].Readings[0]", first), ("Rows[0].Readings[1]", second),
            ("Rows[1].Step", steps[1].Id.ToString()), .. more,
        ];
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/w/{number}/sheet?type=true");
        var path = $"/w/{number}/sheet";
        (await tobit.PostAsync(path, Form("1", "6.36", "6.46"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("Step 1, reading 2");
        tobit.Typed("Rows[0].Readings[1]").ShouldBe("6.46");
        (await shed.AskAsync(db => db.StepReadings.CountAsync(r => r.OperationId == steps[0].Id, Ct))).ShouldBe(0);
        (await tobit.PostAsync(path, Form("9", "6.36", "6.37"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Sheet").ShouldContain($"There is no sheet {number}-9");

        (await tobit.PostAsync(path, Form("OT W1-1", "6.36", "6.37"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Sheet").ShouldContain($"That is no sheet of package {number}.");
        tobit.Typed("Sheet").ShouldBe("OT W1-1");
        using (var pdf = PdfSharp.Pdf.IO.PdfReader.Open(new MemoryStream(await (await una.GetAsync($"/w/{number}/sheet.pdf")).Content.ReadAsByteArrayAsync(Ct))))
        {
            pdf.PageCount.ShouldBe(1);
            pdf.Info.Title.ShouldBe($"Job sheet {number}-1");
        }

        (await una.GetAsync("/w/99999/sheet.pdf")).StatusCode.ShouldBe(HttpStatusCode.NotFound);

        // The steps changed while the sheet was in the shed.
        await una.OpenAsync($"/w/{number}/steps");
        (await una.PostAsync($"/w/{number}/steps", ("Lines", una.Typed("Lines").Replace("2. Dress 1 h", "2. Dress both edges 1 h",
            StringComparison.Ordinal)), ("Seen", "1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await tobit.PostAsync(path, Form("1", "6.36", "6.37"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain($"{number}-1 is old.");
        tobit.Text.ShouldContain("renamed “Dress” to “Dress both edges”");
        tobit.Typed("Rows[0].Readings[0]").ShouldBe("6.36");
        var key = Guid.CreateVersion7();
        (await tobit.SendAsync(path, key, Form($"OT W{number}-1", "6.36", "6.37", ("Compared",
            "true")))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        await tobit.OpenAsync($"/w/{number}/sheet?type=true");
        (await tobit.SendAsync(path, key, Form("1", "6.36", "6.37", ("Compared", "true")))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var step = (await PackageAsync(number)).Operations[0];
        step.DoneAt.ShouldNotBeNull();
        step.DoneById.ToString().ShouldBe(nell);
        (await shed.AskAsync(db => db.StepReadings.Where(r => r.OperationId == step.Id).Select(r =>
            r.ById.ToString()).ToListAsync(Ct))).ShouldBe([nell, nell]);
        (await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Select(l =>
            l.Sentence).FirstAsync(Ct))).ShouldBe($"typed in sheet {number}-1: 2 readings and 1 step, done by Nell Garrow.");
    }

    [Fact]
    public async Task What_a_step_names_is_laid_out_and_a_caution_is_read()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "Laid out", "weld the bracket 1 h\n    needs 60 rivets 5/32, jointing");
        var step = (await PackageAsync(number)).Operations[0].Id.ToString();
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/w/{number}");
        tobit.Text.ShouldContain("nobody has looked");
        (await tobit.PostAsync($"/w/{number}?handler=Lay", ("Step", step), ("What", "rivets 5/32"),
            ("Here", "-1"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await tobit.PostAsync($"/w/{number}?handler=Lay", ("Step", step), ("What", "nothing of it"),
            ("Here", "1"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await tobit.PostAsync($"/w/{number}?handler=Done", ("Step", step))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("Not laid out: 60 × rivets 5/32 (nobody has looked), 1 × jointing (nobody has looked). A lead may let it begin without.");
        (await tobit.PostAsync($"/w/{number}?handler=Lay", ("Step", step), ("What", "rivets 5/32"),
            ("Here", "40"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        (await tobit.PostAsync($"/w/{number}?handler=Lay", ("Step", step), ("What", "rivets 5/32"),
            ("Here", "40"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, "counted twice, wanted once");
        var wanted = (await PackageAsync(number)).Operations[0].Needs.Demands.Single();
        (await shed.AskAsync(db => db.Demands.SingleAsync(d => d.Id == wanted, Ct))).ShouldSatisfyAllConditions(d =>
            d.What.ShouldBe("rivets 5/32"), d => d.Quantity.ShouldBe(20));
        await una.OpenAsync($"/w/{number}");
        una.Text.ShouldContain("20 × rivets 5/32. It is not ordered.");
        (await tobit.PostAsync($"/w/{number}?handler=Begin", ("Step", step),
            ("BeginWhy", "The rest comes on Friday"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await PackageAsync(number)).Operations[0].BegunWithout.ShouldBeEmpty("a helper is led away");
        (await una.PostAsync($"/w/{number}?handler=Begin", ("Step", step),
            ("BeginWhy", " "))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync($"/w/{number}?handler=Begin", ("Step", step),
            ("BeginWhy", "The rest comes on Friday"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await PackageAsync(number)).Operations[0].BegunWithout.ShouldBe("The rest comes on Friday");
        (await tobit.PostAsync($"/w/{number}?handler=Caution", ("Step", step),
            ("Cautions", "99"))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await tobit.PostAsync($"/w/{number}?handler=Caution", ("Step", step), ("Cautions", "12"),
            ("Cautions", "12"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, tobit.Text);
        await una.OpenAsync($"/w/{number}");
        una.Text.ShouldContain("Read by Tobit.");
    }

    [Fact]
    public async Task A_milestone_is_set_tied_to_a_machine_split_and_ended_by_a_lead()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/milestones");
        var gannet = await shed.AskAsync(db => db.Machines.Where(m => m.Letter == "G").Select(m => m.Id).SingleAsync(Ct));
        var set = await una.PostAsync("/plan/milestones", ("MilestoneName", "Taxi trials"), ("MilestoneOn", HandClock.Day(300)),
            ("MilestoneMachine", gannet.ToString()), ("FitFor", "taxiing"));
        set.StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        var id = Guid.Parse(set.Headers.Location!.ToString().Split('/')[^1]);
        await una.OpenAsync($"/plan/{id}");
        una.Text.ShouldContain("Besides, before it is fit for taxiing");
        una.Text.ShouldContain("parts off");
        (await una.PostAsync($"/plan/{id}?handler=Split")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        await shed.AskAsync(async db =>
        {
            foreach (var letter in new[] { "G", "M" })
            {
                (await db.Packages.FirstAsync(k => k.ClosedAt == null && db.Machines.Any(m => m.Id == k.MachineId && m.Letter == letter),
                    Ct)).MilestoneId = id;
            }

            return await db.SaveChangesAsync(Ct);
        });
        (await una.PostAsync($"/plan/{id}?handler=Split")).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Milestones.Where(m => m.Name.StartsWith("Taxi trials")).OrderBy(m => m.Name).Select(m =>
            m.Name).ToListAsync(Ct))).ShouldBe(["Taxi trials, Gannet", "Taxi trials, Marram No. 3"]);
        (await una.PostAsync($"/plan/{id}?handler=End", ("Reached", "true"),
            ("EndWhy", ""))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync($"/plan/{id}?handler=End", ("Reached", "false"),
            ("EndWhy", "The bay is silted up"))).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await shed.AskAsync(db => db.Packages.CountAsync(k => k.MilestoneId == id && k.ClosedAt == null, Ct))).ShouldBe(0);
        (await una.PostAsync($"/plan/{id}?handler=End", ("Reached", "false"),
            ("EndWhy", "again"))).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Steps_of_several_packages_stand_in_one_look()
    {
        using var una = await shed.AsAsync("una");
        var number = await OpenAsync(una, "In one look", "fit the odd thing");
        await una.OpenAsync($"/work/steps?k={number}");
        una.Page.QuerySelectorAll(".severalsteps li").Length.ShouldBe(1);
        una.Text.ShouldContain("Fit the odd thing");
        una.Text.ShouldContain("no hours");
        await una.OpenAsync("/work/steps?m=G");
        una.Page.QuerySelectorAll("section.several").Length.ShouldBeGreaterThan(5);
    }
}
