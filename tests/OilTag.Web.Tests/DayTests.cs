using System.Net;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Today;

namespace OilTag.Web.Tests;

/// <summary>A day in the shed: who comes, who does what, who goes, and what stays on record of it. Each test has a shed of its own, at twenty past ten.</summary>
public sealed class DayTests : IAsyncLifetime
{
    private readonly Shed shed = new();

    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        await shed.InitializeAsync();
        shed.Clock.Set(10, 20);
    }

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    [Fact]
    public async Task Signing_in_is_one_tap_and_brings_a_job()
    {
        var bram = await IdAsync("Bram Oakley");
        using var tablet = await shed.AsAsync("tobit");
        await tablet.OpenAsync("/today");
        tablet.Page.QuerySelectorAll(".row1").Length.ShouldBe(6);
        tablet.Page.QuerySelector($".book button[value='{bram}']")!.TextContent.ShouldContain("Bram Oakley");
        (await tablet.PostAsync("/today?handler=SignIn", ("who", bram.ToString()))).Headers.Location!.ToString().ShouldBe($"/today?p={bram}");
        await tablet.OpenAsync($"/today?p={bram}");
        var row = tablet.Page.QuerySelector(".row1.fresh")!;
        row.TextContent.ShouldContain("Bram Oakley");
        row.TextContent.ShouldContain("till 16:00");
        row.QuerySelectorAll("a.strip").Length.ShouldBeGreaterThan(0);

        var visit = await shed.AskAsync(db => db.Visits.SingleAsync(v => v.PersonId == bram));
        visit.Arrived.ShouldBe(new LocalTime(10, 20));
        await tablet.PostAsync("/today?handler=SignIn", ("who", bram.ToString()));
        tablet.Text.ShouldContain("Bram is signed in already.");
        await tablet.PostAsync("/today?handler=SignIn", ("who", Guid.NewGuid().ToString()));
        tablet.Text.ShouldContain("Choose somebody of the team.");

        using var visitor = await shed.AsAsync("visiting");
        await visitor.OpenAsync("/today");
        visitor.Page.QuerySelector(".book").ShouldBeNull();
        (await visitor.PostAsync("/today?handler=SignIn", ("who", bram.ToString()))).Headers.Location!.ToString().ShouldContain("/not-allowed");
    }

    [Theory]
    [InlineData("noon", "Type until when as a clock time")]
    [InlineData("10:22", "is past, or as good as. It is 10:20.")]
    public async Task Until_when_is_a_time_to_come(string until, string sentence)
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/today");
        (await una.PostAsync("/today?handler=SignIn", ("who", (await IdAsync("Una Thorsby")).ToString()), ("Until", until))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Beside("Until").ShouldContain(sentence);
        una.Typed("Until").ShouldBe(until);
    }

    [Fact]
    public async Task Signing_out_confirms_the_hours_and_says_what_is_left()
    {
        var (visit, jobs) = await JobsAsync("Dilys Marrack");
        var step = jobs[0].OperationId!.Value;
        shed.Clock.Set(12, 0);
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/today/out/{visit.Id}");
        tobit.Typed("Hours").ShouldBe("2:00");
        tobit.Page.QuerySelectorAll("button.act.go").Length.ShouldBe(1);

        // Too many hours, no number, nonsense: said beside the field, and kept.
        (await OutAsync(tobit, visit, step, "3", "")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Beside("Hours").ShouldContain("3 h do not fit between 10:00 and 12:00, which is 2 h.");
        tobit.Typed("Hours").ShouldBe("3");
        await OutAsync(tobit, visit, step, "two", "");
        tobit.Beside("Hours").ShouldContain("Type the hours as a number");
        await OutAsync(tobit, visit, step, "2:00", "a lot");
        tobit.Beside("Left").ShouldContain("Type how many hours it still wants");
        tobit.Typed("Left").ShouldBe("a lot");
        (await shed.AskAsync(db => db.Hours.CountAsync(h => h.On == HandClock.Today))).ShouldBe(0);

        (await OutAsync(tobit, visit, step, "2:00", "30")).Headers.Location!.ToString().ShouldBe($"/today?gone={visit.Id}");
        await tobit.OpenAsync($"/today?gone={visit.Id}");
        tobit.Text.ShouldContain("Dilys is signed out at 12:00");
        var hours = await shed.AskAsync(db => db.Hours.SingleAsync(h => h.OperationId == step && h.On == HandClock.Today));
        (hours.PersonId, hours.Minutes, hours.From).ShouldBe((visit.PersonId, 120, new LocalTime(10, 0)));
        hours.RecordedById.ShouldBe(await IdAsync("Tobit Crane"));

        // What is left counts everywhere at once, and hours booked later come off it.
        var package = await shed.AskAsync(db => db.Packages.SingleAsync(k => k.Id == hours.PackageId));
        async Task<double> LeftAsync()
        {
            var said = await shed.AskAsync(db => Data.Machines.WorkshopQuery.SaidAsync(db, db.Packages.Where(k => k.Id == package.Id), Ct));
            var o = said.Single(x => x.Id == step).Hours;
            return PackageRules.Said(o.Hours, o.Left!.Value, o.Since).Likely;
        }

        (await LeftAsync()).ShouldBe(30);
        var log = await shed.AskAsync(db => db.LogEntries.OrderByDescending(l => l.Id).Where(l => l.PackageId == package.Id).Select(l => l.Sentence).Take(2).ToListAsync());
        log.ShouldContain(s => s.StartsWith("wrote down for somebody 2 h on package", StringComparison.Ordinal));
        log.ShouldContain(s => s.Contains("still wants 30 h", StringComparison.Ordinal));
        log.ShouldNotContain(s => s.Contains("Dilys", StringComparison.Ordinal));

        (await OutAsync(tobit, visit, step, "2:00", "")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        tobit.Text.ShouldContain("They are signed out already.");
        (await shed.AskAsync(db => db.Hours.CountAsync(h => h.OperationId == step && h.On == HandClock.Today))).ShouldBe(1);
    }

    [Fact]
    public async Task Done_at_sign_out_ticks_the_step_off()
    {
        var (visit, jobs) = await JobsAsync("Dilys Marrack");
        shed.Clock.Set(11, 0);
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/today/out/{visit.Id}");
        await OutAsync(tobit, visit, jobs[0].OperationId!.Value, "1", "done");
        var step = await shed.AskAsync(db => db.Operations.SingleAsync(o => o.Id == jobs[0].OperationId));
        step.DoneById.ShouldBe(visit.PersonId);

        // The same step is on nobody's board any more.
        (await shed.AskAsync(db => db.DayJobs.CountAsync(j => j.OperationId == step.Id && j.Until > new LocalTime(11, 0)))).ShouldBe(0);
    }

    [Fact]
    public async Task When_one_of_two_goes_home_the_other_is_given_something_else_or_another_hand()
    {
        var (visit, jobs) = await JobsAsync("Wilf Stannard");
        shed.Clock.Set(11, 0);
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/today/out/{visit.Id}");
        await OutAsync(tobit, visit, jobs[0].OperationId!.Value, "1", "");
        await ValidAsync();
    }

    [Fact]
    public async Task A_forgotten_sign_out_is_asked_about()
    {
        var ansel = await IdAsync("Ansel Rudge");
        var today = await TodayAsync();
        var old = new Visit { PersonId = ansel, On = today.PlusDays(-3), Arrived = new LocalTime(10, 0), Until = new LocalTime(16, 0), RecordedById = ansel };
        await shed.AskAsync(db =>
        {
            db.Visits.Add(old);
            return db.SaveChangesAsync(Ct);
        });

        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/today");
        tobit.Text.ShouldContain("Ansel did not sign out on");
        await tobit.OpenAsync($"/today/out/{old.Id}");
        tobit.Typed("Went").ShouldBe("16:00");
        await tobit.PostAsync($"/today/out/{old.Id}", ("Went", "9:00"));
        tobit.Beside("Went").ShouldContain("They came at 10:00; 9:00 is before that.");
        (await tobit.PostAsync($"/today/out/{old.Id}", ("Went", "14:30"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Visits.SingleAsync(v => v.Id == old.Id))).Left.ShouldBe(new LocalTime(14, 30));
        await tobit.OpenAsync("/today");
        tobit.Text.ShouldNotContain("did not sign out");
    }

    [Fact]
    public async Task A_leads_choice_stays_and_the_rest_adapts()
    {
        using var una = await shed.AsAsync("una");
        Visit? visit = null;
        string? other = null;
        foreach (var one in await shed.AskAsync(db => db.Visits.OrderBy(v => v.Id).ToListAsync()))
        {
            var has = await shed.AskAsync(db => db.DayJobs.Where(j => j.PersonId == one.PersonId).Select(j => j.OperationId).ToListAsync());
            await una.OpenAsync($"/today/choose/{one.PersonId}");
            other = una.Page.QuerySelectorAll("input[name=Operation]")
                .Where(i => i.GetAttribute("value") is { Length: > 0 } v && !has.Contains(Guid.Parse(v)))
                .Where(
                    i => !i.ParentElement!.TextContent.Contains("cleared for it", StringComparison.Ordinal) && !i.ParentElement.TextContent.Contains("wants", StringComparison.Ordinal))
                .Select(i => i.GetAttribute("value"))
                .FirstOrDefault();
            if (other is not null)
            {
                visit = one;
                break;
            }
        }

        visit.ShouldNotBeNull("nobody has another job that they can do alone");
        other.ShouldNotBeNull();
        var seen = una.Typed("Seen")!;
        (await una.PostAsync($"/today/choose/{visit.PersonId}", ("Operation", other), ("From", "10:20"), ("Seen", seen))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        async Task<DayJob?> NowAsync() => await shed.AskAsync(db => db.DayJobs.SingleOrDefaultAsync(j => j.PersonId == visit.PersonId && j.From <= new LocalTime(10, 20) && j.Until > new LocalTime(10, 20)));
        (await NowAsync())!.OperationId.ShouldBe(Guid.Parse(other));
        await una.OpenAsync("/today");
        una.Page.QuerySelector($"[data-person='{visit.PersonId}']")!.TextContent.ShouldContain("◆");
        await ValidAsync();

        // Worked out again it stays; let go it may change.
        seen = una.Page.QuerySelector("input[name=Seen]")!.GetAttribute("value")!;
        (await una.PostAsync("/today?handler=Again", ("Seen", seen), ("Dry", "yes"), ("Degrees", "11"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await NowAsync())!.ByLead.ShouldBeTrue();
        await una.OpenAsync("/today");
        una.Page.QuerySelector("input[name=Dry][checked]")!.GetAttribute("value").ShouldBe("yes");
        seen = una.Page.QuerySelector("input[name=Seen]")!.GetAttribute("value")!;
        await una.PostAsync("/today?handler=Again", ("Seen", seen), ("LetGo", "true"));
        (await shed.AskAsync(db => db.DayJobs.CountAsync(j => j.ByLead && j.Until > new LocalTime(10, 20)))).ShouldBe(0);

        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/today");
        (await tobit.PostAsync($"/today/choose/{visit.PersonId}", ("Operation", other), ("Seen", "0"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
    }

    /// <summary>A step whose turn has not come is neither offered nor taken: the inspection is not done before the repair.</summary>
    [Fact]
    public async Task A_step_waits_for_the_one_before_it()
    {
        var facts = await shed.AskAsync(db => DayQuery.LoadAsync(db, null, shed.Clock.Now, HandClock.Zone, Ct));
        var waits = facts.Input.Operations.Where(
            o => facts.Input.Awaits(o, new LocalTime(23, 0), facts.AsGiven.Stretches) is not null).ToList();
        waits.ShouldNotBeEmpty();
        using var una = await shed.AsAsync("una");
        foreach (var step in waits)
        {
            var who = facts.Input.People.FirstOrDefault(p => OilTag.Core.Today.DayWorth.Of(p, step, facts.On) is not null);
            if (who is null)
            {
                continue;
            }

            var id = Guid.Parse(who.Id);
            await una.OpenAsync($"/today/choose/{id}");
            una.Page.QuerySelector($"input[value='{Guid.Parse(step.Id)}']").ShouldBeNull(step.Name);
            await una.PostAsync(
                $"/today/choose/{id}",
                ("Operation", Guid.Parse(step.Id).ToString()),
                ("From", "10:20"),
                ("Seen", una.Typed("Seen")!));
            una.Beside("Operation").ShouldContain("comes before it and is not done");
        }

        (await shed.AskAsync(db => db.DayJobs.CountAsync(j => j.ByLead))).ShouldBe(0);
    }

    [Fact]
    public async Task Two_leads_who_change_the_day_at_once_are_told()
    {
        var (visit, jobs) = await JobsAsync("Tobit Crane");
        using var una = await shed.AsAsync("una");
        using var jory = await shed.AsAsync("jory");
        await una.OpenAsync($"/today/choose/{visit.PersonId}");
        await jory.OpenAsync($"/today/choose/{visit.PersonId}");
        var seen = una.Typed("Seen")!;
        (await una.PostAsync($"/today/choose/{visit.PersonId}", ("Operation", ""), ("From", "10:20"), ("Seen", seen))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await jory.PostAsync($"/today/choose/{visit.PersonId}", ("Operation", jobs[0].OperationId.ToString()!), ("From", "10:30"), ("Seen", seen))).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        jory.Text.ShouldContain("Una Thorsby changed the day’s work since you opened this page.");
        jory.Typed("From").ShouldBe("10:30");
        jory.Page.QuerySelector("input[name=Operation][checked]")!.GetAttribute("value").ShouldBe(jobs[0].OperationId.ToString());

        // The page is as it stands now, so the same press again goes through.
        (await jory.PostAsync($"/today/choose/{visit.PersonId}", ("Operation", jobs[0].OperationId.ToString()!), ("From", "10:30"), ("Seen", jory.Typed("Seen")!))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
    }

    [Fact]
    public async Task Two_change_places_and_a_job_is_given_on()
    {
        var (tobits, tobitsJobs) = await JobsAsync("Tobit Crane");
        var (dilyss, dilyssJobs) = await JobsAsync("Dilys Marrack");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/today");
        (await una.PostAsync("/today?handler=Swap", ("job", tobitsJobs[0].Id.ToString()), ("other", dilyssJobs[0].Id.ToString()), ("Seen", "0"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await NowAsync(tobits)).ShouldBe(dilyssJobs[0].OperationId);
        (await NowAsync(dilyss)).ShouldBe(tobitsJobs[0].OperationId);

        await una.OpenAsync("/today");
        var job = await shed.AskAsync(db => db.DayJobs.FirstAsync(j => j.PersonId == tobits.PersonId && j.From <= new LocalTime(10, 20) && j.Until > new LocalTime(10, 20)));
        (await una.PostAsync("/today?handler=Move", ("job", job.Id.ToString()), ("to", dilyss.PersonId.ToString()), ("Seen", "1"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await NowAsync(dilyss)).ShouldBe(job.OperationId);
        await una.PostAsync("/today?handler=Move", ("job", Guid.NewGuid().ToString()), ("to", dilyss.PersonId.ToString()), ("Seen", "2"));
        una.Text.ShouldContain("That job is not there any more.");
    }

    [Fact]
    public async Task Nobody_inspects_their_own_work_and_minors_keep_off_what_is_for_adults()
    {
        var (nell, _) = await JobsAsync("Nell Garrow");
        var adults = await shed.AskAsync(db => db.Operations.Where(o => o.DoneAt == null && !o.Hold).ToListAsync());
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/today/choose/{nell.PersonId}");
        var offered = una.Page.QuerySelectorAll("input[name=Operation]").Select(i => i.GetAttribute("value")!).Where(v => v.Length > 0).Select(Guid.Parse).ToHashSet();
        offered.ShouldNotBeEmpty();
        adults.Where(o => o.Needs.AdultsOnly).ShouldNotContain(o => offered.Contains(o.Id));
        await una.PostAsync($"/today/choose/{nell.PersonId}", ("Operation", adults.First(o => o.Needs.AdultsOnly).Id.ToString()), ("Seen", "0"));
        una.Beside("Operation").ShouldMatch("under 18|not ready");
    }

    [Fact]
    public async Task The_slip_says_what_with_whom_and_with_what_care()
    {
        var (_, jobs) = await JobsAsync("Dilys Marrack");
        using var dilys = await shed.AsAsync("tobit");
        await dilys.OpenAsync($"/today/slip/{jobs[0].Id}");
        var step = await shed.AskAsync(db => db.Operations.SingleAsync(o => o.Id == jobs[0].OperationId));
        dilys.Page.QuerySelector("h1")!.TextContent.ShouldContain(step.Name);
        foreach (var part in new[] { "Dilys Marrack", "10:00 to", "Where the parts are", "Wants", "Read and write down" })
        {
            dilys.Text.ShouldContain(part);
        }

        foreach (var need in step.Needs.Equipment)
        {
            dilys.Text.ShouldContain(need.Thing);
        }

        (await dilys.PostAsync("/today?handler=Finished", ("job", jobs[0].Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Operations.SingleAsync(o => o.Id == step.Id))).DoneAt.ShouldNotBeNull();
        await ValidAsync();
        await dilys.OpenAsync($"/today/slip/{jobs[0].Id}");
        dilys.Text.ShouldContain("It is done.");
        (await dilys.GetAsync($"/today/slip/{Guid.NewGuid()}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Somebody_with_forty_minutes_takes_a_job()
    {
        var petra = await IdAsync("Petra Hollin");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/today/short?p={petra}&minutes=40");
        var operation = una.Page.QuerySelector("input[name=operation]")!.GetAttribute("value")!;
        (await una.PostAsync($"/today/short?p={petra}&minutes=40", ("operation", operation))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var job = await shed.AskAsync(db => db.DayJobs.SingleAsync(j => j.PersonId == petra));
        (job.OperationId, job.From).ShouldBe((Guid.Parse(operation), new LocalTime(10, 20)));
        job.Until.ShouldBeLessThanOrEqualTo(new LocalTime(11, 0));
        (await shed.AskAsync(db => db.Visits.SingleAsync(v => v.PersonId == petra))).Until.ShouldBe(new LocalTime(11, 0));
        await una.PostAsync("/today/short?minutes=40", ("operation", Guid.NewGuid().ToString()));
        una.Text.ShouldContain("not ready any more");
    }

    [Fact]
    public async Task What_a_lead_says_stays_when_people_come_and_go_and_the_day_always_keeps_the_rules()
    {
        using var una = await shed.AsAsync("una");
        var dice = new Random(5);
        for (var turn = 0; turn < 14; turn++)
        {
            shed.Clock.Set(10 + (turn / 3), 20 * (turn % 3));
            await una.OpenAsync("/today");
            var absent = una.Page.QuerySelectorAll(".book button").Select(b => b.GetAttribute("value")!).ToList();
            var here = await shed.AskAsync(db => db.Visits.Where(v => v.Left == null).OrderBy(v => v.PersonId).ToListAsync());
            if (dice.Next(3) > 0 || here.Count < 3)
            {
                await una.PostAsync("/today?handler=SignIn", ("who", absent[dice.Next(absent.Count)]));
            }
            else
            {
                var visit = here[dice.Next(here.Count)];
                await una.OpenAsync($"/today/out/{visit.Id}");
                var fields = una.Page.QuerySelectorAll("form.signout input[name=Operation], form.signout input[name=Hours], form.signout input[name=Left]").Select(i => (i.GetAttribute("name")!, i.GetAttribute("value"))).ToArray();
                (await una.PostAsync($"/today/out/{visit.Id}", fields)).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
            }

            await ValidAsync();
        }
    }

    private async Task<HttpResponseMessage> OutAsync(Visitor who, Visit visit, Guid step, string hours, string left) =>
        await who.PostAsync($"/today/out/{visit.Id}", ("Operation", step.ToString()), ("Hours", hours), ("Left", left));

    private Task<Guid> IdAsync(string name) => shed.AskAsync(db => db.People.Where(p => p.Name == name).Select(p => p.Id).SingleAsync());

    private Task<LocalDate> TodayAsync() => shed.AskAsync(db => db.Visits.Select(v => v.On).FirstAsync());

    private async Task<Guid?> NowAsync(Visit visit) => (await shed.AskAsync(db => db.DayJobs.SingleAsync(j => j.PersonId == visit.PersonId && j.From <= new LocalTime(10, 20) && j.Until > new LocalTime(10, 20)))).OperationId;

    private async Task<(Visit Visit, List<DayJob> Jobs)> JobsAsync(string name)
    {
        var id = await IdAsync(name);
        var visit = await shed.AskAsync(db => db.Visits.SingleAsync(v => v.PersonId == id));
        var jobs = await shed.AskAsync(db => db.DayJobs.Where(j => j.PersonId == id).OrderBy(j => j.From).ToListAsync());
        jobs.ShouldNotBeEmpty(name);
        return (visit, jobs);
    }

    // From now on everybody who is there has one job at a time, and every job a whole crew.
    private async Task ValidAsync()
    {
        var facts = await shed.AskAsync(db => DayQuery.LoadAsync(db, null, shed.Clock.Now, HandClock.Zone, Ct));
        var operations = facts.Input.Operations.ToDictionary(o => o.Id);
        for (var at = facts.Input.Now; at < new LocalTime(16, 0); at = at.PlusMinutes(5))
        {
            var now = facts.Jobs.Where(j => j.From <= at && at < j.Until && j.OperationId is not null).ToList();
            now.GroupBy(j => j.PersonId).ShouldAllBe(g => g.Count() == 1, $"at {at}");
            now.ShouldAllBe(j => facts.Here.Any(v => v.PersonId == j.PersonId && v.Arrived <= at && at < v.Until), $"at {at}");
            foreach (var crew in now.GroupBy(j => j.OperationId!.Value).Where(g => g.All(j => !j.ByLead) && operations.ContainsKey(DayFacts.Id(g.Key))))
            {
                var o = operations[DayFacts.Id(crew.Key)];
                var people = crew.Select(j => facts.Input.People.Single(p => p.Id == DayFacts.Id(j.PersonId))).ToList();
                people.Count.ShouldBeInRange(o.MinCrew, o.MaxCrew, $"{o.Title} at {at}");
                o.Skills.ShouldAllBe(s => people.Count(p => p.Skills.Contains(s.Skill)) >= s.Count, $"{o.Title} at {at}");
                people.ShouldContain(p => !p.Minor);
                (people.Count > 1 || !people[0].NeverAlone).ShouldBeTrue();
            }
        }
    }
}
