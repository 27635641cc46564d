using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Today;
using OilTag.Yardstick;

namespace OilTag.Core.Tests.Today;

public sealed class DayPlannerTests
{
    private static readonly LocalDate Saturday = new(2031, 3, 8);

    [Fact]
    public void Every_day_keeps_the_rules()
    {
        for (var seed = 0; seed < 600; seed++)
        {
            var day = RandomDay.Make(1 + (seed % 17), 1 + (seed % 41), seed, kept: seed % 2 == 1);
            var plan = DayPlanner.Plan(day);
            DayValidator.Check(day, plan).Take(3).ShouldBeEmpty($"seed {seed}");
        }
    }

    [Fact]
    public void The_validator_finds_faults_made_on_purpose()
    {
        var day = RandomDay.Make(12, 30, 4);
        var plan = DayPlanner.Plan(day);
        DayValidator.Check(day, plan).ShouldBeEmpty();
        var one = plan.Stretches[0];
        DayValidator.Check(day, plan with { Stretches = [.. plan.Stretches, one] }).ShouldNotBeEmpty();
        DayValidator.Check(day, plan with { Stretches = [.. plan.Stretches.Skip(1)] }).ShouldNotBeEmpty();
        DayValidator.Check(day, plan with { Stretches = [one with { Until = new LocalTime(22, 0) }, .. plan.Stretches.Skip(1)] }).ShouldNotBeEmpty();
        DayValidator.Check(day, plan with { MinutesLeft = [.. plan.MinutesLeft.Select(m => m + 5)] }).ShouldNotBeEmpty();
        DayValidator.Check(day with { Things = new Dictionary<string, int>() }, plan).ShouldNotBeEmpty();
        DayValidator.Check(day with { People = [.. day.People.Select(p => p with { Skills = [] })] }, plan).ShouldNotBeEmpty();
        DayValidator.Check(day with { People = [.. day.People.Select(p => p with { Minor = true })] }, plan).ShouldNotBeEmpty();
    }

    [Fact]
    public void Crews_come_close_to_those_of_an_exact_solver()
    {
        int ours = 0, best = 0;
        for (var seed = 0; seed < 60; seed++)
        {
            var problem = DayPlanner.Opening(RandomDay.Make(4 + (seed % 22), 6 + (seed % 50), 1000 + seed));
            var (exact, proven) = ExactCrews.Solve(problem, 20);
            proven.ShouldBeTrue();
            var at = CrewSearch.Solve(problem);
            Enumerable.Range(0, problem.Steps).ShouldAllBe(o => CrewSearch.Whole(problem, at, o));
            problem.Value(at).ShouldBeLessThanOrEqualTo(problem.Value(exact), $"seed {seed}");
            ours += problem.Value(at);
            best += problem.Value(exact);
        }

        TestContext.Current.TestOutputHelper?.WriteLine($"{ours} of {best}");
        ours.ShouldBeGreaterThan((int)(best * 0.995));
    }

    [Fact]
    public void The_same_day_gives_the_same_answer()
    {
        var day = RandomDay.Make(20, 60, 7);
        DayPlanner.Plan(day).Stretches.ShouldBe(DayPlanner.Plan(day).Stretches);
    }

    [Fact]
    public void What_holds_up_a_milestone_comes_before_what_somebody_likes()
    {
        var day = Day([Somebody("Ada") with { Likes = ["G"] }], [Job("liked") with { Machine = "G" }, Job("needed") with { Critical = 0.9, Milestone = "First steam" }]);
        var plan = DayPlanner.Plan(day);
        plan.Stretches.ShouldHaveSingleItem().Operation.ShouldBe("needed");
        DayWords.Why(day.Operations[1], Saturday).ShouldBe("Holds up First steam");
    }

    /// <summary>One of two who may lift holds comes twice in ten sessions: they are given the hold, and not hands at work that anybody can do, on the very package whose hold waits for them.</summary>
    [Fact]
    public void Scarce_people_do_what_only_they_can()
    {
        const string Lifts = OilTag.Core.People.AuthorisationRule.LiftingHolds;
        PlanPerson Member(
            string id,
            double chance,
            params string[] skills) => new() { Id = id, Name = id, Skills = [.. skills.Select(s => new PlanSkill(s))], Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, chance)] };
        PlanOperation Step(
            string id,
            string package,
            params string[] skills) => new() { Id = id, Package = package, Name = id, Hours = new OilTag.Core.Work.HoursRange(1, 2, 3), Skills = [.. skills.Select(s => new SkillNeed(s))] };
        var input = new PlanInput
        {
            Today = Saturday,
            Sessions = [.. Enumerable.Range(1, 20).Select(w => new PlanSession(Saturday.PlusWeeks(w), new LocalTime(10, 0), new LocalTime(16, 0)))],
            People = [Member("Ismay", 0.2, Lifts, "riveter"), Member("Corin", 0.3, Lifts), Member("Dilys", 0.9, "riveter"), Member("Bram", 0.9, "riveter")],
            Machines = [new PlanMachine("M", "M")],
            Packages = [new PlanPackage { Id = "a", Machine = "M", Title = "a" }, new PlanPackage { Id = "b", Machine = "M", Title = "b" }],
            Operations = [Step("rivet", "a", "riveter"), Step("seen", "a", Lifts) with { After = [new Follows("rivet")] }, Step("other hold", "b", Lifts) with { NotBy = ["Corin"] }],
            Milestones = [],
        };
        var scarcity = new DayScarcity(input);
        scarcity.Of(input.Operations[0]).Scarce.ShouldBe(0, 1e-9);
        scarcity.Of(input.Operations[1]).ShouldSatisfyAllConditions(s => s.Skill.ShouldBe(Lifts), s => s.Scarce.ShouldBe(0.75, 1e-9));
        scarcity.Of(input.Operations[2]).Scarce.ShouldBe(0.9, 1e-9);
        scarcity.Bars(input.Operations[0]).ShouldBe(["Ismay", "Corin"]);
        scarcity.Bars(input.Operations[2]).ShouldBeEmpty();
        scarcity.Comes(input.People[0]).ShouldBe(0.2, 1e-9);

        DayOperation Ready(PlanOperation o) => Job(o.Id) with { Package = o.Package, Skills = o.Skills, ScarceSkill = scarcity.Of(o).Skill, Scarce = scarcity.Of(o).Scarce, Bars = scarcity.Bars(o), NotBy = o.NotBy };
        var day = Day(
            [Somebody("Ismay") with { Skills = [Lifts, "riveter"], Comes = 0.2 }, Somebody("Ben")],
            [Ready(input.Operations[0]), Ready(input.Operations[2]) with { Critical = 0 }]);
        DayPlanner.Plan(day).Stretches.First(s => s.Person == "Ismay").Operation.ShouldBe("other hold");
        DayWorth.Of(day.People[0], day.Operations[0], Saturday).ShouldBe(DayWorth.Ready + DayWorth.Holder + DayWorth.Barred);
        DayWords.Lacks(
            day with { People = [Somebody("Ben")], Holders = new Dictionary<string, IReadOnlyList<string>> { [Lifts] = ["Corin Vance", "Ismay Pell"] } },
            day.Operations[1]).ShouldBe($"nobody here is cleared for {Lifts}; Corin Vance, Ismay Pell are");
    }

    [Fact]
    public void A_missing_skill_names_who_holds_it()
    {
        var day = Day([Somebody("Ben")], [Job("hold") with { Skills = [new SkillNeed("lifting holds")] }]);
        DayWords.Lacks(day, day.Operations[0]).ShouldBe("nobody here is cleared for lifting holds");
        DayWords.Lacks(day with { Holders = new Dictionary<string, IReadOnlyList<string>> { ["lifting holds"] = ["Corin Vance", "Ismay Pell"] } }, day.Operations[0]).ShouldBe("nobody here is cleared for lifting holds; Corin Vance, Ismay Pell are");
    }

    [Fact]
    public void A_learner_goes_beside_a_holder()
    {
        var day = Day(
            [Somebody("Ada") with { Skills = ["rivets"] }, Somebody("Ben") with { Learns = ["rivets"] }, Somebody("Cora")],
            [Job("doubler") with { Skills = [new SkillNeed("rivets")], MaxCrew = 2, Minutes = 900 }, Job("sweep")]);
        var at = DayPlanner.Plan(day).Stretches.ToLookup(s => s.Operation, s => s.Person);
        at["doubler"].ShouldBe(["Ada", "Ben"]);
        at["sweep"].ShouldBe(["Cora"]);
    }

    [Fact]
    public void A_learner_alone_is_not_given_it()
    {
        var day = Day([Somebody("Ben") with { Learns = ["rivets"] }], [Job("doubler") with { Skills = [new SkillNeed("rivets")] }]);
        var plan = DayPlanner.Plan(day);
        plan.Stretches.ShouldBeEmpty();
        DayWords.Left(day, plan).ShouldHaveSingleItem().Why.ShouldBe("nobody here is cleared for rivets");
    }

    [Fact]
    public void Nobody_is_alone_where_two_are_wanted()
    {
        var lift = Job("lift") with { MinCrew = 2, MaxCrew = 3, Critical = 1 };
        DayPlanner.Plan(Day([Somebody("Ada")], [lift])).Stretches.ShouldBeEmpty();
        DayPlanner.Plan(Day([Somebody("Ada"), Somebody("Ben")], [lift])).Stretches.Count.ShouldBe(2);
        DayPlanner.Plan(Day([Somebody("Ada") with { NeverAlone = true }], [Job("file")])).Stretches.ShouldBeEmpty();
        DayPlanner.Plan(Day([Somebody("Ada") with { Minor = true }, Somebody("Ben") with { Minor = true }], [Job("file") with { MaxCrew = 2 }])).Stretches.ShouldBeEmpty();
    }

    [Fact]
    public void When_one_of_two_goes_home_the_other_gets_another_job()
    {
        var day = Day([Somebody("Ada"), Somebody("Ben") with { Until = new LocalTime(11, 0) }], [Job("lift") with { MinCrew = 2, MaxCrew = 2, Critical = 1 }, Job("file")]);
        var ada = DayPlanner.Plan(day).Stretches.Where(s => s.Person == "Ada").ToList();
        ada.Select(s => (s.Operation, s.From.Hour)).ShouldBe([("lift", 10), ("file", 11)]);
    }

    [Fact]
    public void After_several_sessions_of_one_dull_job_another_is_offered()
    {
        DayStretch First(int inARow) => DayPlanner.Plan(Day([Somebody("Ada") with { InARow = new Dictionary<string, int> { ["1"] = inARow } }], [Job("scrape") with { Package = "1" }, Job("file") with { Package = "2" }])).Stretches[0];
        First(1).Operation.ShouldBe("scrape");
        First(2).Operation.ShouldBe("scrape");
        First(3).Operation.ShouldBe("file");
    }

    [Fact]
    public void What_must_be_ended_is_not_begun_when_the_time_is_too_short()
    {
        var glue = Job("glue") with { InOneGo = true, Minutes = 240, Critical = 1 };
        var morning = Day([Somebody("Ada") with { Until = new LocalTime(13, 0) }], [glue]);
        DayPlanner.Plan(morning).Stretches.ShouldBeEmpty();
        DayWords.Lacks(morning, glue).ShouldBe("must be ended on the day it is begun; the time is too short");
        DayPlanner.Plan(Day([Somebody("Ada")], [glue])).Stretches.ShouldHaveSingleItem().Until.ShouldBe(new LocalTime(14, 0));
    }

    [Fact]
    public void What_can_follow_on_the_same_day_follows()
    {
        var plan = DayPlanner.Plan(Day([Somebody("Ada")], [Job("first") with { Minutes = 90 }, Job("second") with { Minutes = 60, After = ["first"], Critical = 1 }]));
        plan.Stretches.Select(s => (s.Operation, s.From.ToString("H:mm", null), s.Until.ToString("H:mm", null))).ShouldBe([("first", "10:00", "11:30"), ("second", "11:30", "12:30")]);
        plan.MinutesLeft.ShouldBe([0, 0]);
    }

    [Fact]
    public void A_leads_choice_stays_and_the_rest_adapts()
    {
        var day = Day([Somebody("Ada"), Somebody("Ben")], [Job("hot") with { Critical = 1 }, Job("cold")]);
        DayPlanner.Plan(day).Stretches.ToDictionary(s => s.Person, s => s.Operation)["Ada"].ShouldBe("hot");
        var chosen = DayPlanner.Plan(day with { Kept = [new DayStretch("Ada", "cold", new LocalTime(10, 0), new LocalTime(16, 0), true)] });
        chosen.Stretches.ToDictionary(s => s.Person, s => s.Operation).ShouldBe(new Dictionary<string, string?> { ["Ada"] = "cold", ["Ben"] = "hot" }, ignoreOrder: true);
        chosen.Stretches.Single(s => s.Person == "Ada").ByLead.ShouldBeTrue();
        var idle = DayPlanner.Plan(day with { Kept = [new DayStretch("Ada", null, new LocalTime(10, 0), new LocalTime(12, 0), true)] });
        idle.Stretches.Where(s => s.Person == "Ada").Select(s => s.Operation).ShouldBe([null, "cold"]);
    }

    [Fact]
    public void A_choice_whose_crew_is_not_whole_is_said_and_stays()
    {
        var plan = DayPlanner.Plan(Day([Somebody("Ada")], [Job("lift") with { MinCrew = 2, MaxCrew = 2 }, Job("file")]) with { Kept = [new DayStretch("Ada", "lift", new LocalTime(10, 0), new LocalTime(16, 0), true)] });
        plan.Problems.ShouldHaveSingleItem().ShouldBe(new Problem("lift", "wants 2 people; 1 here"));
        plan.Stretches.ShouldHaveSingleItem().Operation.ShouldBe("lift");
        plan.MinutesLeft[0].ShouldBe(600);
    }

    [Fact]
    public void Work_stops_for_dinner()
    {
        var day = Day([Somebody("Ada")], [Job("file")]) with { Break = DayBreak.Of(new LocalTime(10, 0), new LocalTime(16, 0)) };
        day.Break.ShouldBe(new DayBreak(new LocalTime(13, 0), new LocalTime(13, 30)));
        DayPlanner.Plan(day).Stretches.Select(s => (s.From.ToString("H:mm", null), s.Until.ToString("H:mm", null))).ShouldBe([("10:00", "13:00"), ("13:30", "16:00")]);
        DayBreak.Of(new LocalTime(18, 30), new LocalTime(21, 30)).ShouldBeNull();
    }

    [Fact]
    public void Somebody_with_forty_minutes_is_offered_what_fits()
    {
        var day = Day([Somebody("Ada")], [Job("long") with { Critical = 1 }, Job("quick") with { Minutes = 35 }, Job("weld") with { Skills = [new SkillNeed("welder")] }, Job("two") with { MinCrew = 2 }, Job("later") with { After = ["quick"] }]);
        var jobs = ShortJobs.For(day, DayPlanner.Plan(day), Somebody("Ben") with { Until = new LocalTime(10, 40) }, 40);
        jobs.Select(j => (j.Operation.Id, j.Ends)).ShouldBe([("quick", true)]);
        var shared = day with { Operations = [day.Operations[0] with { MaxCrew = 2, Minutes = 70 }, .. day.Operations.Skip(1)] };
        ShortJobs.For(shared, DayPlanner.Plan(shared), Somebody("Ben"), 40)[0].ShouldBe(new ShortJob(shared.Operations[0], true, "Ada"));
    }

    private static DayPerson Somebody(string name) => new() { Id = name, Name = name, From = new LocalTime(10, 0), Until = new LocalTime(16, 0) };

    private static DayOperation Job(string name) => new() { Id = name, Name = name, Package = name, Title = name, Machine = "M", Minutes = 600 };

    private static DayInput Day(IReadOnlyList<DayPerson> people, IReadOnlyList<DayOperation> operations) => new() { On = Saturday, Now = new LocalTime(10, 0), People = people, Operations = operations };
}
