using System.Net;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;

namespace OilTag.Web.Tests;

/// <summary>What the plan is made of besides work, from the pages to the input of the plan. Each test has a shed of its own, at twenty past ten.</summary>
public sealed class PlanShedTests : IAsyncLifetime
{
    private readonly Shed shed = new();

    public async ValueTask InitializeAsync()
    {
        await shed.InitializeAsync();
        shed.Clock.Set(10, 20);
    }

    public ValueTask DisposeAsync() => shed.DisposeAsync();

    [Fact]
    public async Task The_calendar_is_changed_and_the_plan_follows()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/calendar");
        una.Page.QuerySelectorAll("table.month").Length.ShouldBe(3);
        var saturday = Today.PlusWeeks(2).Next(IsoDayOfWeek.Saturday);
        (await InputAsync()).Sessions.ShouldContain(s => s.On == saturday);

        await una.PostAsync("/plan/calendar?handler=Change", ("Open", "false"), ("ChangeFrom", Text(saturday)), ("ChangeUntil", Text(saturday.PlusDays(-1))), ("Why", ""));
        una.Beside("Why").ShouldContain("Say why");
        una.Beside("ChangeUntil").ShouldContain("before the first");
        una.Typed("ChangeFrom").ShouldBe(Text(saturday));
        (await una.PostAsync("/plan/calendar?handler=Change", ("Open", "false"), ("ChangeFrom", Text(saturday)), ("Why", "The hall is let again"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await InputAsync()).Sessions.ShouldNotContain(s => s.On == saturday);
        await una.OpenAsync("/plan/calendar");
        una.Text.ShouldContain("The hall is let again");
        var change = await shed.AskAsync(db => db.CalendarChanges.SingleAsync(c => c.Why == "The hall is let again"));
        await una.PostAsync("/plan/calendar?handler=Undo", ("change", change.Id.ToString()));
        (await InputAsync()).Sessions.ShouldContain(s => s.On == saturday);
        await una.PostAsync("/plan/calendar?handler=Undo", ("change", change.Id.ToString()));
        una.Text.ShouldContain("That was taken back already.");

        // A session of the week comes, clashes, and goes.
        (await una.PostAsync("/plan/calendar?handler=Session", ("SessionDay", "Monday"), ("SessionFrom", "19:00"), ("SessionUntil", "21:00"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.PostAsync("/plan/calendar?handler=Session", ("SessionDay", "Monday"), ("SessionFrom", "20:00"), ("SessionUntil", "22:00"));
        una.Beside("SessionFrom").ShouldContain("at that time already");
        (await InputAsync()).Sessions.ShouldContain(s => s.On.DayOfWeek == IsoDayOfWeek.Monday);
        var monday = await shed.AskAsync(db => db.SessionPatterns.SingleAsync(s => s.Day == IsoDayOfWeek.Monday));
        await una.PostAsync("/plan/calendar?handler=End", ("session", monday.Id.ToString()));
        (await InputAsync()).Sessions.ShouldNotContain(s => s.On.DayOfWeek == IsoDayOfWeek.Monday);
        await una.PostAsync("/plan/calendar?handler=End", ("session", monday.Id.ToString()));
        una.Text.ShouldContain("taken out already");
    }

    [Fact]
    public async Task Sites_weather_and_what_is_agreed_reach_the_plan()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/calendar");
        await una.PostAsync("/plan/calendar?handler=Site", ("SiteName", "Quarry sidings"), ("Weather", "60 4 3"));
        una.Beside("Weather").ShouldContain("Twelve lines");
        una.Typed("SiteName").ShouldBe("Quarry sidings");
        var weather = string.Join('\n', Enumerable.Repeat("60 4 3", 12));
        (await una.PostAsync("/plan/calendar?handler=Site", ("SiteName", "Quarry sidings"), ("Weather", weather))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.PostAsync("/plan/calendar?handler=Session", ("SessionDay", "Sunday"), ("SessionFrom", "10:00"), ("SessionUntil", "15:00"), ("SessionSite", "Nowhere"));
        una.Text.ShouldContain("Choose a site from the list.");
        (await una.PostAsync("/plan/calendar?handler=Session", ("SessionDay", "Sunday"), ("SessionFrom", "10:00"), ("SessionUntil", "15:00"), ("SessionSite", "Quarry sidings"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.PostAsync("/plan/calendar?handler=Agree", ("OpenLimit", "none"), ("BreakMinutes", "45"));
        una.Beside("OpenLimit").ShouldContain("1 to 50");
        (await una.PostAsync("/plan/calendar?handler=Agree", ("OpenLimit", "3"), ("BreakMinutes", "45"), ("BreakAt", "12:15"), ("FloorPounds", "2.50"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var input = await InputAsync();
        input.OpenLimit.ShouldBe(3);
        input.Sites.ShouldContain(s => s.Name == "Quarry sidings" && s.Months.Count == 12 && s.Months[0] == new MonthWeather(0.6, 4, 3));
        input.Sessions.ShouldContain(s => s.Site == "Quarry sidings" && s.On.DayOfWeek == IsoDayOfWeek.Sunday);
        input.People.ShouldAllBe(p => p.Attendance.Any(a => a.Site == "Quarry sidings"));
        (await shed.AskAsync(db => OilTag.Data.Today.DayQuery.LoadAsync(db, null, shed.Clock.Now, HandClock.Zone, default))).Input.Break.ShouldBe(new OilTag.Core.Today.DayBreak(new LocalTime(12, 15), new LocalTime(13, 0)));
        await una.OpenAsync("/plan/machines");
        una.Text.ShouldContain("£160");
    }

    [Fact]
    public async Task Equipment_is_counted_and_goes_away_for_a_time()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/equipment");
        (await una.PostAsync("/plan/equipment", ("Name", "Lathe"), ("Count", "2"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var lathe = await shed.AskAsync(db => db.Equipment.SingleAsync(e => e.Name == "lathe"));
        lathe.Count.ShouldBe(2);
        await una.PostAsync("/plan/equipment", ("Name", ""), ("Count", "-1"));
        una.Beside("Name").ShouldContain("name");
        una.Beside("Count").ShouldContain("0 to 100");
        await una.PostAsync("/plan/equipment?handler=Out", ("Thing", lathe.Id.ToString()), ("OutCount", "3"), ("OutFrom", Text(Today)), ("OutUntil", Text(Today.PlusDays(20))), ("OutWhy", "new bearings"));
        una.Beside("OutCount").ShouldContain("There are 2");
        (await una.PostAsync("/plan/equipment?handler=Out", ("Thing", lathe.Id.ToString()), ("OutCount", "1"), ("OutFrom", Text(Today)), ("OutUntil", Text(Today.PlusDays(20))), ("OutWhy", "new bearings"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await InputAsync()).Things.Single(t => t.Id == "lathe").Out!.ShouldContain(new ThingOut(1, new DaySpan(Today, Today.PlusDays(20))));
        await una.OpenAsync("/plan/equipment");
        una.Text.ShouldContain("Away today: gas tester, lathe");
        await una.PostAsync("/plan/equipment?handler=Back", ("Thing", lathe.Id.ToString()), ("from", Text(Today)), ("why", "new bearings"));
        (await InputAsync()).Things.Single(t => t.Id == "lathe").Out!.ShouldBeEmpty();
        await una.PostAsync("/plan/equipment?handler=Back", ("Thing", lathe.Id.ToString()), ("from", Text(Today)), ("why", "new bearings"));
        una.Text.ShouldContain("That is back already.");
    }

    [Fact]
    public async Task A_machine_stands_otherwise_and_must_be_whole()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/machines/L");
        await una.PostAsync("/plan/machines/L", ("Standing", "Queued"), ("Floor", "wide"), ("KeepHours", "1.5"));
        una.Beside("Floor").ShouldContain("square metres");
        una.Typed("KeepHours").ShouldBe("1.5");
        (await una.PostAsync("/plan/machines/L", ("Standing", "Queued"), ("Floor", "44"), ("KeepHours", "1.5"))).Headers.Location!.ToString().ShouldBe("/plan/machines");
        var day = Today.PlusDays(100);
        await una.PostAsync("/plan/machines/L?handler=Window", ("WindowFrom", Text(day)), ("WindowUntil", Text(day.PlusDays(-1))), ("WindowWhy", "fair"));
        una.Beside("WindowUntil").ShouldContain("before the first");
        una.Typed("Floor").ShouldBe("44");
        (await una.PostAsync("/plan/machines/L?handler=Window", ("WindowFrom", Text(day)), ("WindowUntil", Text(day.PlusDays(1))), ("WindowWhy", "fair"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var machine = (await InputAsync()).Machines.Single(m => m.Id == "L");
        machine.Standing.ShouldBe(MachineStanding.Queued);
        machine.Windows!.ShouldContain(new PlanWindow(new DaySpan(day, day.PlusDays(1)), "fair"));
        await shed.PlanAsync();
        await una.OpenAsync("/plan/machines");
        una.Text.ShouldContain("its turn comes after the others");
        una.Text.ShouldContain("44 m²");
        una.Text.ShouldContain("no steam now until");
        await una.PostAsync("/plan/machines/L?handler=Drop", ("from", Text(day)), ("why", "fair"));
        (await InputAsync()).Machines.Single(m => m.Id == "L").Windows!.ShouldNotContain(w => w.Why == "fair");
        (await una.GetAsync("/plan/machines/Z")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task People_are_called_out_and_answer()
    {
        var step = await shed.AskAsync(db => (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null && o.DoneAt == null && o.Name.StartsWith("Screw stays in by the square") orderby k.Number select o).FirstAsync());
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/calls");
        var sunday = Today.PlusWeeks(3).Next(IsoDayOfWeek.Sunday);
        await una.PostAsync("/plan/calls", ("What", ""), ("Step", step.Id.ToString()), ("On", Text(Today)), ("From", "9:30"), ("Until", "9:00"), ("Wanted", "0"));
        foreach (var field in new[] { "What", "On", "From", "Wanted" })
        {
            una.Beside(field).ShouldNotBeEmpty();
        }

        var address = (await una.PostAsync("/plan/calls", ("What", "Lifting it out"), ("Step", step.Id.ToString()), ("On", Text(sunday)), ("From", "09:30"), ("Until", "13:00"), ("Wanted", "3"))).Headers.Location!.ToString();
        var input = await InputAsync();
        input.Sessions.ShouldContain(new PlanSession(sunday, new LocalTime(9, 30), new LocalTime(13, 0)));
        input.Operations.Single(o => o.Id == PlanQuery.Id(step.Id)).OnDay.ShouldBe(sunday);

        // A helper answers for themselves and for nobody else; the last answer counts.
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync(address);
        var me = await IdAsync("Tobit Crane");
        var hob = await IdAsync("Hob Varley");
        (await tobit.PostAsync(address, ("who", hob.ToString()), ("answer", "Yes"))).Headers.Location!.ToString().ShouldContain("/not-allowed");
        await tobit.PostAsync(address, ("who", me.ToString()), ("answer", "Yes"));
        await tobit.PostAsync(address, ("who", me.ToString()), ("answer", "Perhaps"));
        await una.PostAsync(address, ("who", hob.ToString()), ("answer", "Yes"));
        await una.PostAsync(address, ("who", hob.ToString()), ("answer", "Sometimes"));
        una.Text.ShouldContain("does not fit here");
        input = await InputAsync();
        input.People.Single(p => p.Id == PlanQuery.Id(me)).Replies.ShouldContain(new PlanReply(sunday, 0.5));
        input.People.Single(p => p.Id == PlanQuery.Id(hob)).Replies.ShouldContain(new PlanReply(sunday, 0.95));
        await una.OpenAsync(address);
        una.Text.ShouldContain("1 of 3 say yes");
        una.Text.ShouldContain("Will enough come?");

        await una.PostAsync(address + "?handler=Off");
        input = await InputAsync();
        input.Operations.Single(o => o.Id == PlanQuery.Id(step.Id)).OnDay.ShouldBeNull();
        input.Sessions.ShouldNotContain(s => s.On == sunday);
        await tobit.PostAsync(address, ("who", me.ToString()), ("answer", "Yes"));
        tobit.Text.ShouldContain("It was called off.");
        (await una.GetAsync($"/plan/calls/{Guid.NewGuid()}")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Damage_that_is_not_found_counts_until_it_is_settled()
    {
        var step = await shed.AskAsync(db => (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null && o.DoneAt == null && o.Name.StartsWith("Head both ends, holder-up outside") && k.MilestoneId != null orderby k.Number select new { o.Id, o.Order, k.Number, k.PlaceId, k.MilestoneId }).FirstAsync());
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan/damage");
        await una.PostAsync("/plan/damage", ("Place", step.PlaceId.ToString()), ("What", "cracked web"), ("Percent", "100"), ("Hours", "many"), ("Step", "9999.1"));
        una.Beside("Percent").ShouldContain("What is certain is a finding");
        una.Beside("Hours").ShouldContain("at best, likely, at worst");
        una.Beside("Step").ShouldContain("64.3");
        una.Typed("What").ShouldBe("cracked web");
        (await una.PostAsync("/plan/damage", ("Place", step.PlaceId.ToString()), ("What", "cracked web"), ("Percent", "30"), ("Hours", "10 20 50"), ("Skill", "boilers"), ("Step", $"{step.Number}.{step.Order}"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var damage = await shed.AskAsync(db => db.HiddenDamages.SingleAsync(d => d.What == "cracked web"));
        var id = PlanQuery.DamageId + PlanQuery.Id(damage.Id);
        var input = await InputAsync();
        var planned = input.Operations.Single(o => o.Id == id);
        (planned.Chance, planned.Hours.High, planned.Skills.Single().Skill).ShouldBe((0.3, 50, "boilers"));
        planned.After.ShouldBe([new Follows(PlanQuery.Id(step.Id))]);

        // What follows the step waits for it too, and the milestone counts it.
        input.Operations.Count(o => o.After.Any(a => a.Operation == id)).ShouldBeGreaterThan(0);
        input.Milestones.Single(m => m.Id == PlanQuery.Id(step.MilestoneId!.Value)).Packages.ShouldContain(id);
        PlanCheck.Of(input).ShouldNotContain(p => p.Stops);
        await shed.PlanAsync();
        await una.OpenAsync("/plan");
        una.Html.ShouldNotContain("/w/" + PlanQuery.DamageId);
        await una.OpenAsync($"/plan/why/{Uri.EscapeDataString(id)}");
        una.Text.ShouldContain("Cracked web, not found yet");

        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/plan/damage");
        (await tobit.PostAsync("/plan/damage?handler=Settle", ("damage", damage.Id.ToString()), ("found", "true"))).Headers.Location!.ToString().ShouldBe($"/survey/new?place={damage.PlaceId}");
        (await InputAsync()).Operations.ShouldNotContain(o => o.Id == id);
        await tobit.PostAsync("/plan/damage?handler=Settle", ("damage", damage.Id.ToString()), ("found", "false"));
        tobit.Text.ShouldContain("That is settled already.");
    }

    [Fact]
    public async Task A_package_says_how_it_lies_in_the_plan()
    {
        var numbers = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null && k.Operations.Any(o => o.DoneAt == null)).OrderBy(k => k.Number).Select(k => k.Number).Take(2).ToListAsync());
        var (n, other) = (numbers[0], numbers[1]);
        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/w/{n}/plan");
        await una.PostAsync($"/w/{n}/plan", ("Opens", "true"), ("TakesAway", "the roof"), ("NotBefore", Text(Today)), ("UndoneBy", $"{n} 99999"));
        una.Beside("NotBefore").ShouldContain("a day to come");
        una.Beside("UndoneBy").ShouldNotBeEmpty();
        una.Typed("TakesAway").ShouldBe("the roof");
        var later = Today.PlusDays(90);
        (await una.PostAsync($"/w/{n}/plan", ("Opens", "true"), ("TakesAway", "the roof"), ("NotBefore", Text(later)), ("UndoneBy", other.ToString(System.Globalization.CultureInfo.InvariantCulture)))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var package = (await InputAsync()).Packages.Single(p => p.Id == n.ToString(System.Globalization.CultureInfo.InvariantCulture));
        (package.Opens, package.NotBefore).ShouldBe((true, later));
        package.TakesAway.ShouldBe(["the roof"]);
        package.UndoneBy.ShouldBe([other.ToString(System.Globalization.CultureInfo.InvariantCulture)]);
        await una.OpenAsync($"/w/{n}");
        una.Text.ShouldContain("put off to");
        await una.OpenAsync($"/w/{n}/plan");
        una.Typed("UndoneBy").ShouldBe(other.ToString(System.Globalization.CultureInfo.InvariantCulture));
        (await una.GetAsync("/w/99999/plan")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Steps_say_where_work_may_rest_and_the_plan_who_may_not_inspect()
    {
        var hold = await shed.AskAsync(db => (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null && o.DoneAt == null && o.Hold orderby k.Number select new { o.Id, k.Number, PackageId = k.Id, First = k.Operations.Where(x => x.DoneAt == null && !x.Hold).Min(x => x.Order) }).FirstAsync());
        var ismay = await IdAsync("Ismay Pell");
        await shed.AskAsync(async db =>
        {
            db.Hours.Add(new OilTag.Core.People.HoursEntry { MachineId = await db.Packages.Where(k => k.Id == hold.PackageId).Select(k => k.MachineId).SingleAsync(), PackageId = hold.PackageId, PersonId = ismay, On = Today, Minutes = 60, RecordedById = ismay, At = shed.Clock.GetCurrentInstant() });
            return await db.SaveChangesAsync();
        });
        (await InputAsync()).Operations.Single(o => o.Id == PlanQuery.Id(hold.Id)).NotBy.ShouldContain(PlanQuery.Id(ismay));

        using var una = await shed.AsAsync("una");
        await una.OpenAsync($"/w/{hold.Number}/needs/{hold.First}");
        await una.PostAsync($"/w/{hold.Number}/needs/{hold.First}", ("Entry.MinCrew", "1"), ("Entry.WarmerThan", "12"), ("Entry.ColderThan", "8"), ("Entry.SafeStop", "true"));
        una.Beside("Entry.ColderThan").ShouldContain("Check both");
        (await una.PostAsync($"/w/{hold.Number}/needs/{hold.First}", ("Entry.MinCrew", "1"), ("Entry.ColderThan", "18"), ("Entry.SafeStop", "true"), ("Entry.Site", "Old slipway"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var step = (await InputAsync()).Operations.First(o => o.Package == hold.Number.ToString(System.Globalization.CultureInfo.InvariantCulture) && o.SafeStop);
        (step.ColderThan, step.Site).ShouldBe((18, "Old slipway"));
    }

    [Fact]
    public async Task A_milestone_is_moved_and_counts_more()
    {
        var stone = await shed.AskAsync(db => db.Milestones.FirstAsync(m => m.Name == "First steam"));
        using var keeper = await shed.AsAsync("hesper");
        await keeper.OpenAsync($"/plan/{stone.Id}");
        var day = stone.On.PlusWeeks(3);
        await keeper.PostAsync($"/plan/{stone.Id}?handler=Change", ("MilestoneName", "First steam"), ("MilestoneOn", Text(day)), ("MilestoneWeight", "heavy"));
        keeper.Beside("MilestoneWeight").ShouldContain("2 counts it twice");
        await keeper.PostAsync($"/plan/{stone.Id}?handler=Change", ("MilestoneName", "First steam"), ("MilestoneOn", Text(day)), ("MilestoneFixed", "true"), ("MilestoneWeight", "2"));
        keeper.Beside("MovedWhy").ShouldContain("Say why it is moved");
        (await keeper.PostAsync($"/plan/{stone.Id}?handler=Change", ("MilestoneName", "First steam"), ("MilestoneOn", Text(day)), ("MilestoneFixed", "true"), ("MilestoneWeight", "2"), ("MovedWhy", "The inspector is ill"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await InputAsync()).Milestones.Single(m => m.Name == "First steam").ShouldSatisfyAllConditions(m => m.On.ShouldBe(day), m => m.Weight.ShouldBe(2), m => m.Fixed.ShouldBeTrue());
        await keeper.OpenAsync($"/plan/{stone.Id}");
        keeper.Text.ShouldContain("The inspector is ill");
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync($"/plan/{stone.Id}");
        (await tobit.PostAsync($"/plan/{stone.Id}?handler=Change", ("MilestoneName", "Mine"), ("MilestoneOn", Text(day)))).Headers.Location!.ToString().ShouldContain("/not-allowed");
    }

    [Fact]
    public async Task The_shed_shows_what_the_plan_says_of_a_milestone()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/");
        una.Text.ShouldContain("by the pace alone");
        await shed.PlanAsync();
        await una.OpenAsync("/");
        una.Text.ShouldNotContain("by the pace alone");
        await una.OpenAsync("/machines/M");
        una.Text.ShouldNotContain("by the pace alone");
    }

    [Fact]
    public async Task The_board_tells_another_tablet_that_it_changed()
    {
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/today");
        var look = una.Page.QuerySelector("[data-live]")!.GetAttribute("hx-get")!;
        (await una.GetAsync(look)).Headers.Contains("HX-Refresh").ShouldBeFalse();
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/today");
        await tobit.PostAsync("/today?handler=SignIn", ("who", (await IdAsync("Perran Hext")).ToString()));
        (await una.GetAsync(look)).Headers.Contains("HX-Refresh").ShouldBeTrue();
        await una.OpenAsync("/today");
        (await una.GetAsync(una.Page.QuerySelector("[data-live]")!.GetAttribute("hx-get")!)).Headers.Contains("HX-Refresh").ShouldBeFalse();
    }

    [Fact]
    public async Task Who_comes_to_another_site_works_there()
    {
        await shed.AskAsync(async db =>
        {
            db.CalendarChanges.Add(new CalendarChange { From = Today, Until = Today, Opens = new LocalTime(9, 0), Closes = new LocalTime(15, 0), Why = "Weed", Site = "Old slipway" });
            var open = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null && o.DoneAt == null && !o.Hold && !db.DayJobs.Any(j => j.OperationId == o.Id) orderby k.Number, o.Order select o).ToListAsync();
            var step = open.First(o => o.Needs.Skills.Count == 0 && !open.Exists(b => b.PackageId == o.PackageId && b.Order < o.Order));
            step.Needs = step.Needs with { Site = "Old slipway" };
            db.Entry(step).Property(o => o.Needs).IsModified = true;
            return await db.SaveChangesAsync();
        });
        var perran = await IdAsync("Perran Hext");
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/today");
        await una.PostAsync("/today?handler=SignIn", ("who", perran.ToString()), ("site", "Nowhere"));
        una.Text.ShouldContain("There is no session there today.");
        (await una.PostAsync("/today?handler=SignIn", ("who", perran.ToString()), ("site", "Old slipway"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync("/today");
        una.Text.ShouldContain("till 15:00 at Old slipway");
        var jobs = await shed.AskAsync(db => (from j in db.DayJobs join o in db.Operations on j.OperationId equals o.Id where j.PersonId == perran select o.Needs).ToListAsync());
        jobs.ShouldAllBe(n => n.Site == "Old slipway");
    }

    /// <summary>Somebody who is in hospital for half a year, or a shed that is shut, does not make people seldom comers.</summary>
    [Fact]
    public async Task Attendance_is_learned_from_days_on_which_they_could_have_come()
    {
        var (dilys, tobit) = (await IdAsync("Dilys Marrack"), await IdAsync("Tobit Crane"));
        double Saturday(PlanInput input, Guid person) => input.People.Single(p => p.Id == PlanQuery.Id(person)).Attendance.Single(a => a.Day == IsoDayOfWeek.Saturday && a.Site.Length == 0).Chance;

        // Neither came since the summer: what is on record of them after that goes.
        var summer = Today.PlusWeeks(-20);
        await shed.AskAsync(async db =>
        {
            await db.Visits.Where(v => (v.PersonId == dilys || v.PersonId == tobit) && v.On >= summer && v.On < Today).ExecuteDeleteAsync();
            await db.Hours.Where(h => (h.PersonId == dilys || h.PersonId == tobit) && h.On >= summer && h.On < Today).ExecuteDeleteAsync();
            return 0;
        });
        var input = await InputAsync();
        var (before, other) = (Saturday(input, dilys), Saturday(input, tobit));
        await shed.AskAsync(async db =>
        {
            db.Absences.Add(new OilTag.Core.People.Absence { PersonId = dilys, From = summer, Until = Today.PlusDays(-1) });
            return await db.SaveChangesAsync();
        });
        input = await InputAsync();
        Saturday(input, dilys).ShouldBeGreaterThan(before + 0.2);
        Saturday(input, tobit).ShouldBe(other, 1e-9);
        await shed.AskAsync(async db =>
        {
            db.CalendarChanges.Add(new CalendarChange { From = summer, Until = Today.PlusDays(-1), Why = "roof" });
            return await db.SaveChangesAsync();
        });
        Saturday(await InputAsync(), tobit).ShouldBeGreaterThan(other + 0.2);
    }

    private LocalDate Today => shed.Clock.Now.Date;

    private static string Text(LocalDate day) => day.ToString("uuuu-MM-dd", null);

    private Task<Guid> IdAsync(string name) => shed.AskAsync(db => db.People.Where(p => p.Name == name).Select(p => p.Id).SingleAsync());

    private Task<PlanInput> InputAsync() => shed.AskAsync(db => PlanQuery.LoadAsync(db, Today, HandClock.Zone, default));
}
