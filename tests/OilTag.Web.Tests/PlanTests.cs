using System.Diagnostics;
using System.Net;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>The plan of the record: what goes into it, who makes it, and what the pages show of it.</summary>
public sealed class PlanTests(Shed shed) : IClassFixture<Shed>
{
    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    private PlanMaker Maker(IClock? clock = null) => new(shed.Services.GetRequiredService<IDbContextFactory<OilTagDb>>(), clock ?? shed.Clock, shed.Services.GetRequiredService<OilTagSettings>().Zone);

    private async Task<ReadyPlan> PresentAsync()
    {
        var maker = Maker();
        await maker.AskAsync(Ct);
        while (await maker.WorkAsync(Ct))
        {
        }

        return (await shed.Services.GetRequiredService<PlanLoader>().PresentAsync(Ct)).Plan!;
    }

    [Fact]
    public async Task An_evenings_signature_counts_for_that_evening_in_the_sheds_own_zone()
    {
        // Half past eight on a Wednesday evening in New York is Thursday in Greenwich.
        var newYork = DateTimeZoneProviders.Tzdb["America/New_York"];
        var at = newYork.AtStrictly(HandClock.Today.PlusDays(-1).At(new LocalTime(20, 30))).ToInstant();
        HandClock.Today.PlusDays(-1).DayOfWeek.ShouldBe(IsoDayOfWeek.Wednesday);
        at.InZone(DateTimeZone.Utc).DayOfWeek.ShouldBe(IsoDayOfWeek.Thursday);
        async Task<double> WednesdaysAsync(DateTimeZone zone)
        {
            var plan = await shed.AskAsync(db => PlanQuery.LoadAsync(db, HandClock.Today.PlusDays(1), zone, Ct));
            return plan.People.Single(p => p.Name == "Lowenna Daw").Attendance.Single(a => a.Day == IsoDayOfWeek.Wednesday).Chance;
        }

        var before = await WednesdaysAsync(newYork);
        await shed.AskAsync(async db =>
        {
            var hold = await db.Operations.Where(o => o.Hold && o.DoneAt == null && !db.SignOffs.Any(s => s.OperationId == o.Id)).OrderBy(o => o.Id).Select(o => o.Id).FirstAsync(Ct);
            var lowenna = await db.People.Where(p => p.Name == "Lowenna Daw").Select(p => p.Id).SingleAsync(Ct);
            db.SignOffs.Add(new SignOff { OperationId = hold, ById = lowenna, At = at, Note = "Looked at." });
            return await db.SaveChangesAsync(Ct);
        });
        (await WednesdaysAsync(newYork)).ShouldBeGreaterThan(before);
        (await WednesdaysAsync(DateTimeZone.Utc)).ShouldBe(before, 1e-12);
    }

    [Fact]
    public async Task With_the_clock_set_back_behind_what_is_recorded_today_and_the_plan_stand()
    {
        await shed.AskAsync(async db =>
        {
            var hold = await db.Operations.Where(o => o.Hold && o.DoneAt == null && !db.SignOffs.Any(s => s.OperationId == o.Id)).OrderBy(o => o.Id).Select(o => o.Id).FirstAsync(Ct);
            var lowenna = await db.People.Where(p => p.Name == "Lowenna Daw").Select(p => p.Id).SingleAsync(Ct);
            db.SignOffs.Add(new SignOff { OperationId = hold, ById = lowenna, At = HandClock.Start, Note = "Looked at." });
            return await db.SaveChangesAsync(Ct);
        });

        // A year back nobody's first day is over yet.
        foreach (var back in new[] { 1, 30, 365 })
        {
            var plan = await shed.AskAsync(db => PlanQuery.LoadAsync(db, HandClock.Today.PlusDays(-back), HandClock.Zone, Ct));
            plan.People.ShouldNotBeEmpty();
            plan.People.ShouldAllBe(p => p.Attendance.All(a => a.Chance >= 0 && a.Chance <= 1));
        }
    }

    [Fact]
    public async Task The_plan_is_made_of_what_is_open()
    {
        var plan = (await PresentAsync()).Input;
        PlanCheck.Of(plan).Where(p => p.Stops).ShouldBeEmpty();
        var open = await shed.AskAsync(db => db.Operations.CountAsync(o => o.DoneAt == null && db.Packages.Any(k => k.Id == o.PackageId && k.ClosedAt == null)));
        plan.Operations.Count(o => !o.Id.StartsWith(PlanQuery.WaitId, StringComparison.Ordinal) && !o.Id.StartsWith(PlanQuery.CureId, StringComparison.Ordinal) && !o.Id.StartsWith(PlanQuery.BackId, StringComparison.Ordinal) && !o.Id.StartsWith(PlanQuery.DamageId, StringComparison.Ordinal)).ShouldBe(open);

        // Hours are those that every other page shows as still to do.
        var facts = await shed.AskAsync(async db => await Data.Machines.WorkshopQuery.PackagesAsync(db, db.Packages.Where(k => k.ClosedAt == null), Ct));
        foreach (var k in facts.Where(k => k.Remaining.High > 0))
        {
            plan.Operations.Where(o => o.Package == k.Number.ToString(System.Globalization.CultureInfo.InvariantCulture)).Sum(o => o.Hours.Likely).ShouldBe(k.Remaining.Likely, 1e-6, k.Title);
        }

        // What is stuck waits, and says so; a hold wants an inspector; steps of a package follow each other.
        var stays = facts.First(k => k.WaitingOn.Contains("copper bar", StringComparison.Ordinal));
        var wait = plan.Operations.Single(o => o.Id == PlanQuery.WaitId + stays.Number);
        wait.Elapsed.ShouldBe(PlanQuery.UnknownWait);
        plan.Operations.Where(o => o.Package == wait.Package && o != wait).ShouldAllBe(o => o.After.Count > 0);
        plan.Operations.Where(o => o.Name == "Marking seen all round").ToList().ShouldHaveSingleItem();
        plan.Operations.Where(o => o.Name == "Marking seen all round").ShouldAllBe(o => o.Skills.Single().Skill == PlanQuery.Inspecting);
        plan.People.Count(p => p.Skills.Any(s => s.Skill == PlanQuery.Inspecting)).ShouldBe(2);
        plan.People.ShouldNotContain(p => p.Name == "Visiting Trustee");

        // Those who come often are counted on more; nobody is certain.
        var chances = plan.People.Select(p => p.Attendance.First(a => a.Day == IsoDayOfWeek.Saturday).Chance).ToList();
        chances.ShouldAllBe(c => c > 0 && c < 1);
        chances.Max().ShouldBeGreaterThan(0.5);
        plan.Sessions.ShouldAllBe(s => s.On >= plan.Today);
    }

    [Fact]
    public async Task The_page_shows_what_the_engine_says()
    {
        var plan = await PresentAsync();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/plan");
        var text = una.Page.Body!.TextContent;
        foreach (var (stone, runs) in plan.Input.Milestones.Zip(plan.Result.Forecast!.Milestones))
        {
            text.ShouldContain($"{stone.Name}");
            text.ShouldContain($"{Math.Round(runs.Chance * 10, MidpointRounding.AwayFromZero)} in 10");
        }

        plan.Result.OrderBy.Count.ShouldBeGreaterThan(2);
        una.Page.QuerySelector("#orders")!.QuerySelectorAll("tbody tr").Length.ShouldBe(plan.Result.OrderBy.Count);
        una.Page.QuerySelectorAll("svg.plan a[href^='/w/']").Length.ShouldBeGreaterThan(10);
        foreach (var address in new[] { "/plan?weeks=0", "/plan?weeks=1", "/plan?weeks=156&by=Person", "/plan?by=Skill&skill=painter", "/plan?weeks=77&from=1999-01-01", "/plan?by=nonsense" })
        {
            (await una.GetAsync(address)).StatusCode.ShouldBe(HttpStatusCode.OK, address);
            var drawings = una.Page.QuerySelectorAll("svg.plan");
            drawings.Length.ShouldBe(2, address);

            // The words and the drawings, not the whole page: the form's random token may well spell it.
            (una.Page.Body!.TextContent + string.Concat(drawings.Select(d => d.OuterHtml))).ShouldNotContain("NaN", Case.Sensitive, address);
        }

        // Every operation can say why; an unknown one is not found.
        var last = plan.Result.Schedule.Operations.Where(o => o.Finish is not null).MaxBy(o => o.Finish)!;
        await una.OpenAsync($"/plan/why/{last.Id}");
        una.Page.QuerySelectorAll("ol.why li").Length.ShouldBe(PlanReasons.Of(plan.Input, plan.Result.Schedule, last.Id).Count);
        (await una.GetAsync("/plan/why/nothing")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_export_reads_back_and_gives_the_same_plan()
    {
        var plan = await PresentAsync();
        using var una = await shed.AsAsync("una");
        var json = await una.Client.GetStringAsync("/plan.json", Ct);
        var exported = JsonDocument.Parse(json).RootElement;
        var (input, problem) = PlanJson.Read(exported.GetProperty("plan").GetRawText());
        problem.ShouldBeNull();
        var same = new Planner(input!, 1, 1, null, plan.Result.Policy);
        var forecast = PlanSimulation.Run(same, PlanMaker.Runs, ct: Ct);
        var again = same.Schedule(forecast);
        again.Operations.Select(o => (o.Id, o.Start, o.Finish)).ShouldBe(plan.Result.Schedule.Operations.Select(o => (o.Id, o.Start, o.Finish)));
        forecast.Milestones.Select(m => m.Chance).ShouldBe(plan.Result.Forecast!.Milestones.Select(m => m.Chance));
        exported.GetProperty("result").GetProperty("operations").GetArrayLength().ShouldBe(input!.Operations.Count);

        // The file keeps to its published schema, as judged by a general library.
        var schema = Json.Schema.JsonSchema.FromText(PlanJson.Schema());
        schema.Evaluate(exported.GetProperty("plan")).IsValid.ShouldBeTrue();
        PlanJson.Schema().ShouldBe(await File.ReadAllTextAsync(Path.Combine(Root(), "docs/formats/plan-1.schema.json"), Ct));

        var csv = await una.Client.GetStringAsync("/plan.csv", Ct);
        csv.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(input.Operations.Count + 1);
    }

    [Fact]
    public async Task A_plan_is_asked_for_once_after_each_record_and_made_by_one_worker()
    {
        await PresentAsync();
        var (first, second) = (Maker(), Maker());
        (await first.AskAsync(Ct)).ShouldBeFalse();

        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/today/hours");
        var job = tobit.Page.QuerySelector("input[name=job]")!.GetAttribute("value")!;
        (await tobit.PostAsync("/today/hours", ("Hours", "1"), ("job", job), ("On", tobit.Page.QuerySelector("input[name=On]")!.GetAttribute("value")!))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var loader = shed.Services.GetRequiredService<PlanLoader>();
        var (old, next) = await loader.PresentAsync(Ct);
        next.Wanted.ShouldBeTrue();
        await tobit.OpenAsync("/plan");
        tobit.Html.ShouldContain("Something was recorded since");

        (await first.AskAsync(Ct)).ShouldBeTrue();
        (await second.AskAsync(Ct)).ShouldBeFalse();
        var made = await Task.WhenAll(first.WorkAsync(Ct), second.WorkAsync(Ct));
        made.Count(m => m).ShouldBe(1);
        var (newer, after) = await loader.PresentAsync(Ct);
        newer!.Stamp.ShouldBeGreaterThan(old!.Stamp);
        after.Wanted.ShouldBeFalse();

        // Somebody who still looks at the older one is told.
        await tobit.OpenAsync($"/plan?handler=Age&seen={old.Id}");
        tobit.Html.ShouldContain("Show the newer plan");
    }

    [Fact]
    public async Task A_plan_whose_worker_went_quiet_is_taken_up_by_another()
    {
        await PresentAsync();
        var id = Guid.CreateVersion7();
        await shed.AskAsync(async db =>
        {
            db.Plans.Add(new KeptPlan { Id = id, Kind = KeptPlanKind.Tried, Changes = "[]", State = KeptPlanState.Running, AskedAt = HandClock.Start, BeatAt = HandClock.Start, Day = new LocalDate(2026, 1, 1) });
            return await db.SaveChangesAsync(Ct);
        });
        (await Maker().WorkAsync(Ct)).ShouldBeFalse();
        (await Maker(new NodaTime.Testing.FakeClock(HandClock.Start + PlanMaker.Quiet + Duration.FromSeconds(1))).WorkAsync(Ct)).ShouldBeTrue();
        (await shed.AskAsync(db => db.Plans.Where(p => p.Id == id).Select(p => p.State).SingleAsync(Ct))).ShouldBe(KeptPlanState.Done);
    }

    [Fact]
    public async Task What_a_step_needs_is_planned_and_a_circle_is_refused()
    {
        await PresentAsync();
        using var una = await shed.AsAsync("una");
        var (first, second) = await shed.AskAsync(async db =>
        {
            var open = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null && o.DoneAt == null && !o.Hold && k.WaitingOn == "" orderby k.Number descending, o.Order select new { k.Number, o.Order, o.PackageId }).ToListAsync(Ct);
            var a = open[0];
            var b = open.First(x => x.PackageId != a.PackageId);
            return ((a.Number, a.Order), (b.Number, b.Order));
        });
        var path = $"/w/{first.Number}/needs/{first.Order}";
        await una.OpenAsync(path);
        (string, string?)[] needs =
        [
            ("Entry.MinCrew", "2"), ("Entry.MaxCrew", "3"), ("Entry.Skills", "fitter"), ("Entry.CureDays", "2"), ("Entry.After", $"{second.Number}.{second.Order}"),
            ("DemandWhat", "gland packing"), ("Quantity", "3"), ("LeadWeeks", "2 4 9"),
        ];
        var key = una.Page.QuerySelector("input[name=key]")!.GetAttribute("value")!;
        (await una.PostAsync(path, [.. needs, ("key", key)])).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync(path, [.. needs, ("key", key)])).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await shed.AskAsync(db => db.Demands.CountAsync(d => d.What == "gland packing", Ct))).ShouldBe(1);

        var plan = (await PresentAsync()).Input;
        var step = plan.Operations.Single(o => o.Demands.Count > 0 && plan.Demands.Any(d => d.Id == o.Demands[0] && d.What == "3 × gland packing"));
        (step.MinCrew, step.MaxCrew, step.Skills[0].Skill).ShouldBe((2, 3, "fitter"));
        step.After.ShouldContain(a => plan.Operations.First(o => o.Id == a.Operation).Package == second.Number.ToString(System.Globalization.CultureInfo.InvariantCulture));
        plan.Demands.Single(d => d.What == "3 × gland packing").Lead.ShouldBe(new DaysRange(14, 28, 63));

        // The other way round they would wait for each other; what was typed is still there.
        await una.OpenAsync($"/w/{second.Number}/needs/{second.Order}");
        (await una.PostAsync($"/w/{second.Number}/needs/{second.Order}", ("Entry.After", $"{first.Number}.{first.Order}"), ("Entry.Skills", "smith"))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Html.ShouldContain("wait for each other in a circle");
        una.Page.QuerySelector("textarea[name='Entry.Skills']")!.TextContent.Trim().ShouldBe("smith");

        // Ordered with one press; then it has no order-by day any more.
        await una.OpenAsync("/plan");
        var demand = await shed.AskAsync(db => db.Demands.SingleAsync(d => d.What == "gland packing", Ct));
        (await una.PostAsync("/plan?handler=Ordered", ("demand", demand.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync("/plan?handler=Ordered", ("demand", demand.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Html.ShouldContain("is ordered already");
        var after = await PresentAsync();
        after.Input.Demands.Single(d => d.Id == PlanQuery.Id(demand.Id)).Ordered.ShouldBe(after.Input.Today);
        after.Result.OrderBy.ShouldNotContain(o => o.Demand == PlanQuery.Id(demand.Id));
    }

    [Fact]
    public async Task Skills_and_absences_are_recorded_and_planned()
    {
        using var una = await shed.AsAsync("una");
        using var rosen = await shed.AsAsync("rosen");
        var (id, other) = await shed.AskAsync(async db => (await db.People.Where(p => p.Name == "Rosen Tarr").Select(p => p.Id).SingleAsync(Ct), await db.People.Where(p => p.Name == "Tobit Crane").Select(p => p.Id).SingleAsync(Ct)));
        var page = $"/people/{id}";
        var today = (await PresentAsync()).Input.Today;
        string Iso(LocalDate d) => d.ToString("uuuu-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        await una.OpenAsync(page);
        (await una.PostAsync(page + "?handler=Grant", ("Skill", " Smith "), ("Until", Iso(today.PlusDays(90))))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        await una.OpenAsync(page);
        (await una.PostAsync(page + "?handler=Grant", ("Skill", ""), ("Until", Iso(today.PlusDays(-1))))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        una.Html.ShouldContain("Say which skill");
        una.Html.ShouldContain("That day is past");

        // Away is said by oneself, not for another.
        await rosen.OpenAsync(page);
        rosen.Page.QuerySelectorAll("form[action*='Grant']").ShouldBeEmpty();
        (await rosen.PostAsync(page + "?handler=Away", ("AwayFrom", Iso(today.PlusDays(3))), ("AwayUntil", Iso(today.PlusDays(9))))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await rosen.PostAsync($"/people/{other}?handler=Away", ("AwayFrom", Iso(today)), ("AwayUntil", Iso(today)))).Headers.Location!.ToString().ShouldContain("not-allowed");
        (await rosen.PostAsync(page + "?handler=Away", ("AwayFrom", Iso(today.PlusDays(9))), ("AwayUntil", Iso(today.PlusDays(3))))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        var planned = (await PresentAsync()).Input.People.Single(p => p.Name == "Rosen Tarr");
        planned.Skills.ShouldContain(new PlanSkill("smith", today.PlusDays(90)));
        planned.Away.ShouldContain(new DaySpan(today.PlusDays(3), today.PlusDays(9)));

        // The same again replaces it; taken back it is gone, and only once.
        await una.OpenAsync(page);
        (await una.PostAsync(page + "?handler=Grant", ("Skill", "smith"), ("Learning", "true"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var held = await shed.AskAsync(db => db.Authorisations.SingleAsync(a => a.PersonId == id && a.Skill == "smith" && a.EndedAt == null, Ct));
        held.Learning.ShouldBeTrue();
        await una.OpenAsync(page);
        (await una.PostAsync(page + "?handler=End", ("authorisation", held.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await una.PostAsync(page + "?handler=End", ("authorisation", held.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await una.PostAsync(page + "?handler=Mark", ("NeverAlone", "true"))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var absence = await shed.AskAsync(db => db.Absences.SingleAsync(a => a.PersonId == id && !a.Cancelled, Ct));
        await rosen.OpenAsync(page);
        (await rosen.PostAsync(page + "?handler=Back", ("absence", absence.Id.ToString()))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var again = (await PresentAsync()).Input.People.Single(p => p.Name == "Rosen Tarr");
        (again.NeverAlone, again.Away.Count, again.Skills.Any(s => s.Skill == "smith"), again.Learns.Contains("smith")).ShouldBe((true, 0, false, false));

        // The log names nobody, so that a name can be taken out.
        (await shed.AskAsync(db => db.LogEntries.Where(l => l.Sentence.Contains("smith") || l.Sentence.Contains("is away")).AllAsync(l => !l.Sentence.Contains("Rosen"), Ct))).ShouldBeTrue();
    }

    [Theory]
    [InlineData("{", 1, "")]
    [InlineData("{\n  \"format\": \"oiltag-plan\",\n  \"version\": 1,\n  \"today\": \"soon\"\n}", 4, "not of the kind that is wanted")]
    [InlineData("{\n  \"format\": \"oiltag-plan\",\n  \"version\": 1,\n  \"colour\": 3\n}", 4, "There is no such name here: colour")]
    [InlineData("{ \"format\": \"oiltag-plan\", \"version\": 1, \"today\": \"2031-03-03\", \"people\": [], \"machines\": [], \"packages\": [], \"operations\": [] }", 1, "milestones")]
    [InlineData("{ \"format\": \"other\", \"version\": 1, \"today\": \"2031-03-03\", \"people\": [], \"machines\": [], \"packages\": [], \"operations\": [], \"milestones\": [] }", 1, "“oiltag-plan” is read here")]
    [InlineData("{\n\"format\": \"oiltag-plan\",\n\"version\": 9, \"today\": \"2031-03-03\", \"people\": [], \"machines\": [], \"packages\": [], \"operations\": [], \"milestones\": [] }", 3, "The version is 9")]
    [InlineData("{ \"format\": \"oiltag-plan\", \"version\": 1, \"today\": \"2031-03-03\", \"weekly\": [\n{ \"day\": \"saturday\", \"from\": \"25:00\", \"until\": \"16:00\" }], \"people\": [], \"machines\": [], \"packages\": [], \"operations\": [], \"milestones\": [] }", 2, "not a clock time")]
    public void A_wrong_plan_file_gets_the_line_and_the_reason(string text, int line, string reason)
    {
        var (plan, problem) = PlanJson.Read(text);
        plan.ShouldBeNull();
        problem!.Line.ShouldBe(line);
        problem.Sentence.ShouldContain(reason);
    }

    [Fact]
    public async Task The_command_plans_both_kinds_of_file_and_prints_nothing_but_JSON()
    {
        var folder = Directory.CreateTempSubdirectory("oiltag-plan").FullName;
        var project = Path.Combine(Root(), "bench/projects/p30-02.sm");
        var (code, output, error) = await RunAsync("plan", project, "--seconds", "0.5");
        (code, error).ShouldBe((0, string.Empty));
        var found = JsonDocument.Parse(output).RootElement;
        var (read, _) = ProjectFile.Read(await File.ReadAllTextAsync(project, Ct));
        var starts = Enumerable.Range(1, read!.Count).Select(j => found.GetProperty("starts").GetProperty(j.ToString(System.Globalization.CultureInfo.InvariantCulture)).GetInt32()).ToList();
        read.WhyNot(starts).ShouldBeNull();
        found.GetProperty("makespan").GetInt32().ShouldBe(starts.Select((s, j) => s + read.Durations[j]).Max());
        found.EnumerateObject().Select(p => p.Name).ShouldBe(["makespan", "starts"]);

        var file = Path.Combine(folder, "plan.json");
        await File.WriteAllTextAsync(file, Example, Ct);
        (code, output, error) = await RunAsync("plan", file, "--simulate", "200", "--seed", "4");
        (code, error).ShouldBe((0, string.Empty));
        var plan = JsonDocument.Parse(output).RootElement;
        plan.GetProperty("milestones")[0].GetProperty("simulation").GetProperty("p80").GetProperty("on").GetString().ShouldNotBeNull();
        (await RunAsync("plan", file, "--simulate", "200", "--seed", "4")).Output.ShouldBe(output);

        foreach (var (arguments, says) in new (string[] Arguments, string Says)[]
        {
            (["plan", Path.Combine(folder, "none.sm")], "is not there"), (["plan", file, "--seed", "x"], "--seed wants a whole number"), (["plan", file, "--simulate", "0"], "--simulate wants a number"), (["plan"], "No file is named"), (["plan", file, "--what"], "is not known here"),
        })
        {
            (code, output, error) = await RunAsync(arguments);
            (code, output).ShouldBe((2, string.Empty));
            error.ShouldContain(says);
        }

        await File.WriteAllTextAsync(file, Example.Replace("\"likely\": 8", "\"likely\": 80", StringComparison.Ordinal), Ct);
        (code, output, error) = await RunAsync("plan", file);
        (code, output).ShouldBe((2, string.Empty));
        error.ShouldContain("not low, likely and high in that order");
        Directory.Delete(folder, recursive: true);
    }

    private const string Example = """
        {
          "format": "oiltag-plan", "version": 1, "today": "2031-03-03", "weeks": 30,
          "weekly": [{ "day": "saturday", "from": "10:00", "until": "16:00" }],
          "people": [{ "id": "una", "name": "Una", "attendance": [{ "day": "saturday", "chance": 0.7 }] }],
          "machines": [{ "id": "M", "name": "Marram" }],
          "packages": [{ "id": "k", "machine": "M", "title": "Stays" }],
          "demands": [{ "id": "d", "what": "stay plugs", "lead": { "low": 14, "likely": 21, "high": 42 } }],
          "operations": [
            { "id": "a", "package": "k", "name": "Drill", "hours": { "low": 4, "likely": 8, "high": 20 } },
            { "id": "b", "package": "k", "name": "Fit", "hours": { "low": 4, "likely": 8, "high": 20 }, "after": [{ "operation": "a" }], "demands": ["d"] }
          ],
          "milestones": [{ "id": "m", "name": "First steam", "on": "2031-05-03", "packages": ["k"] }]
        }
        """;

    private static async Task<(int Code, string Output, string Error)> RunAsync(params string[] arguments)
    {
        var start = new ProcessStartInfo("dotnet") { UseShellExecute = false, RedirectStandardOutput = true, RedirectStandardError = true };
        start.ArgumentList.Add(Path.Combine(AppContext.BaseDirectory, "OilTag.Worker.dll"));
        foreach (var a in arguments)
        {
            start.ArgumentList.Add(a);
        }

        using var process = Process.Start(start)!;
        var (output, error) = (process.StandardOutput.ReadToEndAsync(Ct), process.StandardError.ReadToEndAsync(Ct));
        await process.WaitForExitAsync(Ct);
        return (process.ExitCode, await output, await error);
    }

    private static string Root()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(at.FullName, "OilTag.slnx")))
        {
            at = at.Parent!;
        }

        return at.FullName;
    }
}
