using NodaTime;
using OilTag.Core.Planning;
using OilTag.Yardstick;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

public sealed class PlannerTests
{
    [Fact]
    public void Work_fills_sessions_one_after_the_other()
    {
        var plan = Plan(Of([Job("a", 8), Job("b", 3, "a")]));
        plan.Problems.ShouldBeEmpty();
        plan.At("a").Start.ShouldBe(Saturday(0, 10));
        plan.At("a").Finish.ShouldBe(Saturday(1, 12));
        plan.At("a").Stretches.Count.ShouldBe(2);
        plan.At("b").Start.ShouldBe(Saturday(1, 12));
        plan.At("b").Finish.ShouldBe(Saturday(1, 15));
        plan.Milestones[0].ShouldBe(new ScheduledMilestone("aim", FirstSaturday.PlusWeeks(1), "b"));
    }

    [Fact]
    public void Two_people_halve_the_time_but_not_the_hours()
    {
        var plan = Plan(Of([Job("a", 8, crew: 2)], [Person("Una"), Person("Hob")]));
        plan.At("a").Finish.ShouldBe(Saturday(0, 14));
        plan.At("a").Stretches[0].People.Order().ShouldBe(["Hob", "Una"]);
    }

    [Fact]
    public void The_only_holder_is_kept_for_what_only_they_can_do()
    {
        // Hob could be at the hot work only after Una; the plain work goes to him at once.
        var plan = Plan(Of([Job("hot", 6, skill: "hot work"), Job("plain", 6)], [Person("Una", "hot work"), Person("Hob")]));
        plan.At("hot").Stretches.ShouldHaveSingleItem().People.ShouldBe(["Una"]);
        plan.At("plain").Stretches.ShouldHaveSingleItem().People.ShouldBe(["Hob"]);
        plan.At("plain").Finish.ShouldBe(Saturday(0, 16));
    }

    [Fact]
    public void Time_without_hands_and_a_cure_run_by_the_calendar()
    {
        var cure = Job("b", 1) with { After = [new Follows("a", DaysRange.Exactly(10))] };
        var plan = Plan(Of([Job("a", 2), cure, Wait("plating", 21, "b"), Job("c", 1, "plating")]));

        // Done Saturday at 12:00; ten days on is a Tuesday; the next session is the second Saturday after.
        plan.At("b").Start.ShouldBe(Saturday(2, 10));
        plan.At("plating").Start.ShouldBe(Saturday(2, 11));
        plan.At("plating").Finish.ShouldBe(Saturday(5, 11));
        plan.At("c").Start.ShouldBe(Saturday(5, 11));
    }

    [Fact]
    public void A_demand_is_asked_for_at_once_and_waited_for()
    {
        var demand = new PlanDemand { Id = "d", What = "boiler plate", Enquiry = DaysRange.Exactly(7), Lead = DaysRange.Exactly(14) };
        var plan = Plan(Of([Job("a", 1) with { Demands = ["d"] }], demands: [demand]));
        plan.At("a").Start.ShouldBe(Saturday(3, 10));
        plan.At("a").Reason.ShouldBe(ReasonKind.Demand);

        // Ordered ten days ago: there is no enquiry any more, and four days are left.
        Plan(Of([Job("a", 1) with { Demands = ["d"] }], demands: [demand with { Ordered = FirstDay.PlusDays(-10) }])).At("a").Start.ShouldBe(Saturday(0, 10));
    }

    [Fact]
    public void What_cannot_be_interrupted_waits_for_a_session_that_holds_it()
    {
        var plan = Plan(Of([Job("a", 3), Job("pour", 4, "a") with { InOneGo = true }]));
        plan.At("pour").Start.ShouldBe(Saturday(1, 10));
        plan.At("pour").Reason.ShouldBe(ReasonKind.TooShort);
    }

    [Fact]
    public void Nobody_works_on_a_machine_in_its_window_and_what_opens_it_is_not_begun_before()
    {
        var input = Of([Job("a", 13, package: "big"), Job("s", 2, package: "small")], due: 20);
        var window = new PlanWindow(new DaySpan(Saturday(1, 0).Date, Saturday(1, 0).Date.PlusDays(1)), "running weekend");
        input = input with
        {
            Machines = [new PlanMachine("M", "Machine", Windows: [window])],
            Packages = [.. input.Packages.Select(p => p with { Opens = p.Id == "big" })],
        };
        var plan = Plan(input);

        // Thirteen hours are three sessions: they do not fit before the second Saturday.
        plan.At("a").Start!.Value.ShouldBeGreaterThanOrEqualTo(Saturday(2, 10));
        plan.At("s").Finish.ShouldBe(Saturday(0, 12));
        ScheduleValidator.Wrong(input, plan).ShouldBeEmpty();

        // One that is open already is told about.
        var begun = Plan(input with { Packages = [.. input.Packages.Select(p => p with { Started = true })] });
        begun.Problems.ShouldContain(p => p.About == "big" && p.Sentence.Contains("is begun and will not be done by", StringComparison.Ordinal));
    }

    [Fact]
    public void Minors_and_those_who_may_not_work_alone_have_somebody_beside_them()
    {
        var people = new[] { Person("Nell") with { Minor = true }, Person("Wilf") with { NeverAlone = true }, Person("Una") };
        var plan = Plan(Of([Job("a", 6), Job("b", 6), Job("c", 12, crew: 2)], people));
        ScheduleValidator.Wrong(Of([Job("a", 6), Job("b", 6), Job("c", 12, crew: 2)], people), plan).ShouldBeEmpty();
        plan.Operations.SelectMany(o => o.Stretches).ShouldAllBe(s => s.People.Count > 1 || s.People[0] == "Una");
        plan.At("c").Stretches.ShouldAllBe(s => s.People.Any(p => p != "Nell"));
    }

    [Fact]
    public void Tools_are_shared_and_may_be_away()
    {
        var jacks = new PlanThing("j", "35 ton jacks", 1, [new ThingOut(1, new DaySpan(FirstDay, Saturday(0, 0).Date))]);
        var input = Of([Job("a", 6) with { Things = [new ThingNeed("j")] }, Job("b", 6) with { Things = [new ThingNeed("j")] }], [Person("Una"), Person("Hob")]) with { Things = [jacks] };
        var plan = Plan(input);
        plan.Operations.Select(o => o.Start).Order().ShouldBe([Saturday(1, 10), Saturday(2, 10)]);
        plan.Operations.ShouldAllBe(o => o.Reason == ReasonKind.Thing);
    }

    [Fact]
    public void A_skill_holds_until_it_expires()
    {
        var una = Person("Una") with { Skills = [new PlanSkill("boilers", Saturday(0, 0).Date)] };
        var plan = Plan(Of([Job("a", 4, skill: "boilers"), Job("b", 4, "a", skill: "boilers")], [una]));
        plan.At("a").Finish.ShouldBe(Saturday(0, 14));
        plan.At("b").Finish.ShouldBeNull();
        plan.Problems.ShouldContain(p => p.About == "b" && p.Sentence.Contains("does not get done within the planned weeks", StringComparison.Ordinal));
    }

    [Fact]
    public void The_weather_and_the_site_choose_the_session()
    {
        var months = Enumerable.Range(1, 12).Select(m => new MonthWeather(m >= 5 ? 0.7 : 0.3, m >= 4 ? 12 : 4, 2)).ToList();
        var input = Of([Job("paint", 2) with { WarmerThan = 8 }, Job("roof", 2) with { Dry = true }, Job("away", 2) with { Site = "Pier" }]) with { Sites = [new PlanSite(string.Empty, months)] };
        input = input with
        {
            Sessions = [.. input.Sessions, new PlanSession(FirstDay.PlusDays(30), new LocalTime(18, 0), new LocalTime(21, 0), "Pier")],
            People = [Person("Una") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 1), new PlanAttendance(IsoDayOfWeek.Wednesday, 1, "Pier")] }],
        };
        var plan = Plan(input);
        plan.At("paint").Start!.Value.Date.ShouldBe(new LocalDate(2031, 4, 5));
        plan.At("roof").Start!.Value.Date.ShouldBe(new LocalDate(2031, 5, 3));
        plan.At("away").Start.ShouldBe(FirstDay.PlusDays(30).At(new LocalTime(18, 0)));
    }

    [Fact]
    public void A_heavy_lift_is_done_on_its_day_by_those_who_said_yes()
    {
        var day = Saturday(4, 0).Date;
        var people = Enumerable.Range(0, 6).Select(i => Person($"P{i}") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.5)], Replies = [new PlanReply(day, i < 4 ? 0.95 : 0)] }).ToList();
        var input = Of([Job("lift", 8, crew: 4) with { OnDay = day }], people);
        var plan = Plan(input);
        plan.At("lift").Start.ShouldBe(Saturday(4, 10));
        plan.At("lift").Stretches[0].People.Order().ShouldBe(["P0", "P1", "P2", "P3"]);
        Plan(Of([Job("lift", 8, crew: 5) with { OnDay = day }], people)).At("lift").Finish.ShouldBeNull();
    }

    [Fact]
    public void A_filler_takes_only_what_the_others_leave()
    {
        var input = Of([Job("f", 6, package: "f"), Job("m", 6, package: "m")], due: 3);
        input = input with
        {
            Machines = [new PlanMachine("M", "Machine"), new PlanMachine("F", "Filler", MachineStanding.Filler)],
            Packages = [new PlanPackage { Id = "f", Machine = "F", Title = "f" }, new PlanPackage { Id = "m", Machine = "M", Title = "m" }],
        };
        Plan(input).At("m").Start.ShouldBe(Saturday(0, 10));
        Plan(input).At("f").Start.ShouldBe(Saturday(1, 10));
        Plan(input with { Machines = [new PlanMachine("M", "Machine", MachineStanding.Queued), new PlanMachine("F", "Filler", MachineStanding.Filler)] }).At("f").Start.ShouldBe(Saturday(0, 10));
    }

    [Fact]
    public void No_more_packages_are_open_at_once_than_the_team_allows()
    {
        var input = Of([.. Enumerable.Range(0, 6).Select(i => Job($"a{i}", 9, package: $"k{i}"))], [Person("Una"), Person("Hob"), Person("Wilf")]);
        input = input with { OpenLimit = 2, Packages = [.. input.Packages.Select(p => p with { Assembly = "Wing" })] };
        var plan = Plan(input);
        ScheduleValidator.Wrong(input, plan).ShouldBeEmpty();
        plan.At("a0").Stretches.ShouldNotBeEmpty();
        plan.Operations.ShouldContain(o => o.Reason == ReasonKind.Turn);
        ScheduleValidator.Wrong(input, Plan(input with { OpenLimit = null })).ShouldContain(w => w.Contains("packages are open", StringComparison.Ordinal));
    }

    /// <summary>What is not yet found is planned with its expected hours, and tidy sums stand beside the plan.</summary>
    [Fact]
    public void Undiscovered_damage_is_allowed_for_and_limits_show_what_they_cost()
    {
        var plan = Plan(Of([Job("a", 10) with { Chance = 0.3 }]));
        plan.At("a").Finish.ShouldBe(Saturday(0, 13));
        var two = Plan(Of([Job("a", 6), Job("b", 6)]));
        two.DaysWithoutLimits.ShouldBe(5 + (16 / 24.0), 1e-6);
        two.Milestones[0].Finish.ShouldBe(Saturday(1, 0).Date);
    }

    [Fact]
    public void Who_fills_the_sessions_that_are_passed_over_is_the_reason()
    {
        // Una is at a until the third Saturday; b, which came to that before c, waits for Hob as well.
        var both = Job("b", 6, crew: 2) with { Skills = [new SkillNeed("hot work"), new SkillNeed("boilers")] };
        var input = Of([Job("a", 18, skill: "hot work"), both, Job("c", 6, skill: "hot work", package: "later")], [Person("Una", "hot work"), Person("Hob", "boilers") with { Away = [new DaySpan(FirstDay, Saturday(3, 0).Date)] }]);
        input = input with
        {
            Machines = [.. input.Machines, new PlanMachine("N", "Another", MachineStanding.Filler)],
            Packages = [.. input.Packages.Select(p => p.Id == "later" ? p with { Machine = "N" } : p)],
        };
        var c = Plan(input).At("c");
        c.Start.ShouldBe(Saturday(3, 10));
        c.Reason.ShouldBe(ReasonKind.Hands);
        c.ReasonId.ShouldBe("a");
    }

    /// <summary>Sheds in which a begun package waits for others of its assembly, so that turns had once been lost.</summary>
    [Theory]
    [InlineData(2007)]
    [InlineData(2334)]
    [InlineData(4962)]
    public void No_more_packages_are_open_than_the_shed_allows(int seed)
    {
        var dice = new Random(seed);
        var size = new ShedSize { Machines = 1 + dice.Next(4), Operations = 10 + dice.Next(70), People = 6 + dice.Next(12), Sites = 1 + (seed % 4 == 0 ? 1 : 0), OpenLimit = 1 + dice.Next(2), OwnWork = seed % 2 == 1 };
        var input = RandomShed.Make(size, seed);
        input.OpenLimit.ShouldBe(2);
        ScheduleValidator.Wrong(input, new Planner(input, passes: 12).Schedule()).ShouldBeEmpty();
    }

    /// <summary>Thousands of random sheds with everything in them, each checked by a validator that knows nothing of how plans are made.</summary>
    [Fact]
    public void Every_plan_of_a_random_shed_holds()
    {
        var wrong = new System.Collections.Concurrent.ConcurrentBag<string>();
        var planned = 0;
        Parallel.For(0, 3000, seed =>
        {
            var dice = new Random(seed);
            var input = RandomShed.Make(new ShedSize { Machines = 1 + dice.Next(4), Operations = 8 + dice.Next(50), People = 5 + dice.Next(12), Sites = seed % 4 == 0 ? 2 : 1, OpenLimit = seed % 3 == 0 ? 1 + dice.Next(2) : null, OwnWork = seed % 2 == 1 }, seed);
            var plan = new Planner(input, seed, passes: 5).Schedule();
            foreach (var w in ScheduleValidator.Wrong(input, plan))
            {
                wrong.Add($"seed {seed}: {w}");
            }

            Interlocked.Add(ref planned, plan.Operations.Count(o => o.Finish is not null));
        });
        wrong.Take(5).ShouldBeEmpty();
        planned.ShouldBeGreaterThan(60_000);
    }

    /// <summary>The validator itself: each fault, made on purpose, is found.</summary>
    [Fact]
    public void The_validator_finds_what_is_wrong()
    {
        var input = RandomShed.Make(new ShedSize { Operations = 60 }, 5);
        var plan = new Planner(input).Schedule();
        ScheduleValidator.Wrong(input, plan).ShouldBeEmpty();
        var busiest = plan.Operations.Where(o => o.Stretches.Count > 0).MaxBy(o => o.Stretches.Count)!;
        void Finds(string what, Func<ScheduledOperation, ScheduledOperation> change) =>
            string.Join('\n', ScheduleValidator.Wrong(input, plan with { Operations = [.. plan.Operations.Select(o => o.Id == busiest.Id ? change(o) : o)] })).ShouldContain(what);
        Finds("nobody is told why", o => o with { Start = null, Finish = null });
        Finds("person-minutes", o => o with { Stretches = [.. o.Stretches.Skip(1)] });
        Finds("has a crew of 0", o => o with { Stretches = [.. o.Stretches.Select(s => s with { People = [] })] });
        Finds("within a session", o => o with { Stretches = [.. o.Stretches.Select(s => s with { On = s.On.PlusDays(1) })] });
        Finds("start and finish", o => o with { Finish = o.Finish!.Value.PlusDays(1) });

        // Everybody at everything is in two places at once.
        var all = plan with { Operations = [.. plan.Operations.Select(o => o with { Stretches = [.. o.Stretches.Select(s => s with { People = [.. input.People.Select(p => p.Id)], From = new LocalTime(18, 30), Until = new LocalTime(20, 0) })] })] };
        string.Join('\n', ScheduleValidator.Wrong(input, all)).ShouldContain(" and at ");
    }

    /// <summary>An operation that is planned on a day may start on that day, so its latest day is no earlier; and it is no earlier than that of what it follows.</summary>
    [Fact]
    public void The_latest_start_is_never_before_the_start_that_is_planned()
    {
        for (var seed = 0; seed < 60; seed++)
        {
            var input = RandomShed.Make(new ShedSize { Operations = 50, People = 8 }, seed);
            foreach (var passes in new[] { 1, 12 })
            {
                foreach (var o in new Planner(input, seed, passes).Schedule().Operations.Where(o => o.Start is not null))
                {
                    o.Latest.ShouldBeGreaterThanOrEqualTo(o.Start!.Value.Date, $"seed {seed}, {o.Id}");
                }
            }
        }

        // Worked out by hand: six hours are wanted by the tenth Saturday; the last session that holds them is that one.
        Plan(Of([Job("a", 6)])).At("a").Latest.ShouldBe(Saturday(9, 0).Date);
        Plan(Of([Job("a", 6), Job("b", 6, "a")])).At("a").Latest.ShouldBe(Saturday(8, 0).Date);
        Plan(Of([Job("a", 6), Wait("w", 20, "a"), Job("b", 6, "w")])).At("a").Latest.ShouldBe(Saturday(6, 0).Date);
    }

    [Fact]
    public void A_crew_as_large_as_any_is_planned()
    {
        var people = Enumerable.Range(0, 130).Select(i => Person($"P{i}", "hauling") with { NeverAlone = i % 2 == 0 }).ToList();
        var input = Of([Job("haul", 100, crew: 100, skill: "hauling") with { Skills = [new SkillNeed("hauling", 100)] }], people);
        var plan = Plan(input);
        plan.At("haul").Stretches.ShouldHaveSingleItem().People.Count.ShouldBe(100);
        ScheduleValidator.Wrong(input, plan).ShouldBeEmpty();
        PlanCheck.Of(Of([Job("haul", 100) with { Skills = [new SkillNeed("hauling", 60), new SkillNeed("slinging", 60)] }], people)).ShouldContain(p => p.Stops && p.Sentence.Contains("more than 100 holders", StringComparison.Ordinal));
    }

    [Fact]
    public void The_same_plan_comes_out_each_time()
    {
        var input = RandomShed.Make(new ShedSize { Operations = 120, OpenLimit = 2 }, 11);
        var first = new Planner(input, 3).Schedule();
        var second = new Planner(RandomShed.Make(new ShedSize { Operations = 120, OpenLimit = 2 }, 11), 3).Schedule();
        first.Operations.Select(o => (o.Id, o.Start, o.Finish)).ShouldBe(second.Operations.Select(o => (o.Id, o.Start, o.Finish)));
    }

    /// <summary>Passes never leave a plan later than its first order; over many sheds that have more work than hands they bring the milestones forward.</summary>
    [Fact]
    public void Passes_make_plans_less_late()
    {
        double first = 0, improved = 0;
        for (var seed = 0; seed < 12; seed++)
        {
            var input = RandomShed.Make(new ShedSize { Operations = 120, People = 7, Windows = 0 }, seed);
            input = input with { People = [.. input.People.Select(p => p with { Skills = [.. p.Skills.Select(s => s with { Until = null })] })], Milestones = [.. input.Milestones.Select(m => m with { On = input.Today.PlusDays(60) })] };
            double Late(int passes)
            {
                var forecast = PlanSimulation.Run(new Planner(input, 1, passes), 200, ct: Ct);
                return forecast.Milestones.Select((m, i) => (m.MeanDays is { } f ? Math.Max(0, f - 60) : 1000) * (input.Milestones[i].Fixed ? 3 : 1)).Sum();
            }

            var before = Late(1);
            var after = Late(160);
            after.ShouldBeLessThanOrEqualTo(before * 1.03);
            first += before;
            improved += after;
        }

        TestContext.Current.TestOutputHelper?.WriteLine($"{first} days late by the first order, {improved} after 160 passes");
        improved.ShouldBeLessThan(first * 0.985);
    }
}
