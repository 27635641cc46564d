using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Yardstick;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

/// <summary>What cannot be is explained, what waits says on what, and changes are tried on copies.</summary>
public sealed class PlanWordsTests
{
    private static void Refuses(PlanInput input, string about, string sentence, bool stops = false)
    {
        var problem = PlanCheck.Of(input).ShouldHaveSingleItem();
        problem.About.ShouldBe(about);
        problem.Sentence.ShouldContain(sentence);
        problem.Stops.ShouldBe(stops);
        var planner = new Planner(input);
        planner.Stopped.ShouldBe(stops);
        planner.Schedule().Problems.ShouldContain(problem);
    }

    [Fact]
    public void A_circle_is_named_with_its_members() =>
        Refuses(Of([Job("a", 1, "c"), Job("b", 1, "a"), Job("c", 1, "b"), Job("d", 1)]), "a", "wait for each other in a circle: Work a → Work b → Work c → Work a", stops: true);

    [Fact]
    public void What_nobody_can_do_is_left_out_and_said()
    {
        Refuses(Of([Job("a", 1, skill: "coded welder"), Job("b", 1)]), "a", "nobody holds the skill “coded welder”");
        var plan = Plan(Of([Job("a", 1, skill: "coded welder"), Job("b", 1), Job("c", 1, "a")]));
        plan.At("b").Finish.ShouldNotBeNull();
        plan.At("a").Reason.ShouldBe(ReasonKind.Never);
        plan.At("c").Finish.ShouldBeNull();
        plan.Milestones[0].Finish.ShouldBeNull();
    }

    [Fact]
    public void Every_kind_of_impossible_work_has_its_reason()
    {
        Refuses(Of([Job("a", 8) with { InOneGo = true }]), "a", "The longest session has 6");
        Refuses(Of([Job("a", 8, crew: 3)]), "a", "wants 3 people at once, an adult among them; 1 comes");
        Refuses(Of([Job("a", 8) with { Site = "Pier" }]), "a", "Pier has no sessions");
        Refuses(Of([Job("a", 8) with { OnDay = FirstDay }]), "a", "there is no session on that day");
        Refuses(Of([Job("a", 8) with { AdultsOnly = true }], [Person("Nell") with { Minor = true }]), "a", "nobody comes to the shed who may do it");
        Refuses(Of([Job("a", 8) with { Things = [new ThingNeed("j", 2)] }]) with { Things = [new PlanThing("j", "jack", 1)] }, "a", "wants 2 × jack; there is 1");
        Refuses(Of([Job("a", 8) with { ColderThan = -5 }]) with { Sites = [new PlanSite(string.Empty, [.. Enumerable.Repeat(new MonthWeather(0.5, 10, 1), 12)])] }, "a", "no session is colder than -5 °C");
        Refuses(Of([Job("a", 8)]) with { Machines = [new PlanMachine("M", "Machine", Windows: [new PlanWindow(new DaySpan(FirstDay, FirstDay.PlusYears(3)), "the season")])] }, "a", "the windows of Machine (the season) leave no session for it");
        Refuses(Of([Job("a", 8, crew: 2) with { Skills = [new SkillNeed("lathe", 2)] }], [Person("Una", "lathe"), Person("Hob")]), "a", "wants 2 holders of “lathe”; there is 1");
        Refuses(Of([Job("a", 8, skill: "lathe")], [Person("Una") with { Skills = [new PlanSkill("lathe", FirstDay.PlusDays(-1))] }]), "a", "expired, away, or never at");
    }

    [Fact]
    public void Input_that_does_not_hold_together_stops_the_plan()
    {
        Refuses(Of([Job("a", 1), Job("a", 2)]), "a", "There are 2 operations called “a”", stops: true);
        Refuses(Of([Job("a", 1) with { Hours = new HoursRange(5, 2, 9) }]), "a", "not low, likely and high in that order", stops: true);
        Refuses(Of([Job("a", 1) with { Hours = new HoursRange(double.NaN, 2, 9) }]), "a", "not low, likely and high in that order", stops: true);
        Refuses(Of([Job("a", 1, "x")]), "a", "comes after an operation that is not there", stops: true);
        Refuses(Of([Job("a", 1) with { Chance = 1.2 }]), "a", "is not between 0 and 1", stops: true);
        Refuses(Of([Job("a", 1) with { Elapsed = DaysRange.Exactly(3) }]), "a", "takes both hands and mere time", stops: true);
        Refuses(Of([Job("a", 1) with { Demands = ["x"] }]), "a", "waits for a demand that is not there", stops: true);
        Refuses(Of([Job("a", 1) with { MinCrew = 0 }]), "a", "wants from 0 to 1 people", stops: true);
        Refuses(Of([Job("a", 1)]) with { Milestones = [new PlanMilestone { Id = "m", Name = "Gala", On = FirstDay, Packages = ["zz"] }] }, "m", "needs a package that is not there", stops: true);
    }

    [Fact]
    public void The_chain_of_reasons_is_told_in_words()
    {
        var people = new[] { Person("Una", "boilers"), Person("Hob") };
        var input = Of([Wait("plating", 28), Job("fit", 6, "plating", skill: "boilers"), Job("stays", 6, "plating", skill: "boilers")], people) with { };
        var plan = Plan(input);
        var last = plan.Operations.Where(o => o.Id != "plating").MaxBy(o => o.Finish)!;
        var first = last.Id == "fit" ? "stays" : "fit";
        var chain = PlanReasons.Of(input, plan, last.Id);
        chain.Select(c => c.About).ShouldBe([last.Id, first, "plating"]);
        chain[0].Sentence.ShouldBe($"Work {last.Id} (Package k) waits until Sat 12 April for Una, the only one who holds “boilers”: Work {first} (Package k) comes first.");
        chain[1].Sentence.ShouldBe($"Work {first} (Package k) waits for Wait plating (Package k) until Mon 31 March.");
        chain[2].Sentence.ShouldBe("Wait plating (Package k) starts today.");
    }

    [Fact]
    public void Every_operation_of_a_random_shed_can_say_why()
    {
        for (var seed = 0; seed < 40; seed++)
        {
            var input = RandomShed.Make(new ShedSize { Operations = 60, Sites = 1 + (seed % 2), OpenLimit = seed % 3 == 0 ? 1 : null }, seed);
            var plan = new Planner(input, passes: 4).Schedule();
            foreach (var o in plan.Operations)
            {
                var chain = PlanReasons.Of(input, plan, o.Id);
                chain.Count.ShouldBeGreaterThan(0);
                chain.ShouldAllBe(c => c.Sentence.EndsWith('.') && !c.Sentence.Contains("  ", StringComparison.Ordinal));
                if (o.Start is { } start && chain.Count > 1 && chain[1].From is { } before)
                {
                    before.ShouldBeLessThanOrEqualTo(start);
                }
            }
        }
    }

    [Fact]
    public void Changes_are_made_on_a_copy_and_say_what_they_are()
    {
        var input = RandomShed.Make(new ShedSize { Operations = 60 }, 8);
        var before = System.Text.Json.JsonSerializer.Serialize(input);
        PlanChange[] all =
        [
            new MoreSessions(IsoDayOfWeek.Sunday, new LocalTime(10, 0), new LocalTime(16, 0), new DaySpan(input.Today, input.Today.PlusDays(100))),
            new NewHolder("p1", "skill 0"), new PutOff("k1", input.Today.PlusDays(300)), new RepairForNow("k2", new HoursRange(2, 4, 8), input.Today.PlusDays(400)),
            new FasterShop("d0", DaysRange.Weeks(1, 2, 3)), new OtherStanding("M1", MachineStanding.Leaving), new OtherWeight("aim M0", 5),
        ];
        foreach (var change in all)
        {
            var changed = change.Apply(input);
            PlanCheck.Of(changed).Where(p => p.Stops).ShouldBeEmpty();
            change.Words(input).Length.ShouldBeGreaterThan(10);
            ScheduleValidator.Wrong(changed, new Planner(changed, passes: 3).Schedule()).ShouldBeEmpty();
        }

        System.Text.Json.JsonSerializer.Serialize(input).ShouldBe(before);
        all[3].Apply(input).Operations.ShouldContain(o => o.Id == "k2 for now");
    }

    /// <summary>More people, more sessions or a shorter lead never make the plan worse: where the engine finds nothing better the plan as it is stands.</summary>
    [Fact]
    public void Adding_never_makes_it_worse_and_mostly_better()
    {
        var (better, kept, all) = (0, 0, 0);
        for (var seed = 0; seed < 25; seed++)
        {
            var input = RandomShed.Make(new ShedSize { Operations = 50, People = 6 }, seed);
            foreach (var change in new PlanChange[] { new NewHolder("p2", "skill 1"), new MoreSessions(IsoDayOfWeek.Sunday, new LocalTime(10, 0), new LocalTime(16, 0), new DaySpan(input.Today, input.Today.PlusDays(300))), new FasterShop("d1", DaysRange.Weeks(0.5, 1, 2)) })
            {
                var compared = PlanCompare.Of(input, [change], 60, seed, 4, ct: Ct);
                double Worth(Func<ComparedMilestone, SimulatedMilestone> of) => compared.Milestones.Select((m, i) => (input.Milestones[i].Fixed ? 3 : 1) * (of(m).Chance - (1e-4 * (of(m).MeanDays ?? 10_000)))).Sum();
                Worth(m => m.After!).ShouldBeGreaterThanOrEqualTo(Worth(m => m.Before) - 1e-9);
                all++;
                kept += compared.KeptAsWas ? 1 : 0;
                better += Worth(m => m.After!) > Worth(m => m.Before) + 1e-9 ? 1 : 0;
            }
        }

        TestContext.Current.TestOutputHelper?.WriteLine($"{better} of {all} better, {kept} kept as they were");
        better.ShouldBeGreaterThan(all / 2);
    }

    [Fact]
    public void Advice_finds_the_smallest_change_that_is_enough()
    {
        var people = new[] { Person("Ansel", "lathe") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.6)] }, Person("Petra") with { Learns = ["lathe"] } };
        var input = Of([.. Enumerable.Range(0, 10).Select(i => Job($"t{i}", 6, skill: "lathe"))], people, due: 12);
        var advice = PlanAdvice.Of(input, "aim", 0.8, runs: 150, ct: Ct);
        advice.Chance.ShouldBeLessThan(0.2);
        advice.Enough.ShouldNotBeEmpty();
        advice.Enough.Any(s => s.Changes.Contains(new NewHolder("Petra", "lathe"))).ShouldBeTrue();
        advice.Enough.ShouldAllBe(s => s.Chance >= 0.8);
        advice.Enough.Select(s => s.Changes.Sum(c => c.Size)).ShouldBeInOrder();
        PlanAdvice.Of(input, "aim", 0, runs: 50, ct: Ct).Enough.ShouldBeEmpty();

        // What is told has as many runs as the page that asks, and is the same number.
        var planner = new Planner(input);
        var told = PlanAdvice.Of(input, "aim", 0.8, runs: 150, shown: 1000, policy: planner.Policy, ct: Ct);
        told.Chance.ShouldBe(PlanSimulation.Run(planner, 1000, ct: Ct).Milestones[0].Chance);
        told.Best.ShouldAllBe(s => s.Chance > told.Chance);
    }

    [Fact]
    public void A_slip_is_charged_to_its_causes()
    {
        var earlier = Of([Job("a", 12), Job("b", 12, "a") with { Demands = ["d"] }], demands: [new PlanDemand { Id = "d", What = "plate", Lead = DaysRange.Exactly(7) }]);

        // Two weeks on: half of the first job is done, it takes twelve hours more than thought, and there is a new job of six.
        var today = FirstDay.PlusDays(14);
        var later = Of([Job("a", 18), Job("b", 12, "a") with { Demands = ["d"] }, Job("new", 6, "b")], demands: earlier.Demands) with { Today = today };
        later = later with { Sessions = [.. later.Sessions.Where(s => s.On >= today)] };
        var slip = PlanSlip.Explain(earlier, later, 20).ShouldHaveSingleItem();
        slip.Promised.ShouldBe(Saturday(3, 0).Date);
        slip.Now.ShouldBe(Saturday(7, 0).Date);
        slip.Parts.Sum(p => p.Days).ShouldBe(28);
        slip.Parts.Select(p => (p.Cause, p.Days)).ShouldBe([(SlipCause.BehindPlan, 14), (SlipCause.Estimates, 7), (SlipCause.Scope, 7)]);
        slip.Parts[2].About.ShouldBe(["new"]);
    }
}
