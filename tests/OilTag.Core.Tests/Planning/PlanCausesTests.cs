using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Yardstick;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

/// <summary>Causes that are planted are named first, and what is named first moves the date when it is taken away.</summary>
public sealed class PlanCausesTests
{
    private static readonly PlanPerson Often = Person("Una") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.9)] };

    // Three steps of half a day and one that waits for what is planted; a second package takes hands from time to time.
    private static PlanInput Shed(Func<PlanInput, PlanInput> plant)
    {
        var input = Of(
            [
                Job("a", 3) with { Hours = new HoursRange(2, 3, 5) },
                Job("b", 4, "a") with { Hours = new HoursRange(3, 4, 6) },
                Job("c", 2, "b") with { Hours = new HoursRange(1, 2, 3) },
            ],
            [Often, Person("Hob") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.8)] }],
            due: 12);
        return plant(input);
    }

    private static PlanCause First(PlanInput input)
    {
        var planner = new Planner(input, passes: 30);
        return PlanCauses.Of(planner, PlanSimulation.Run(planner, 500, ct: Ct), ct: Ct)[0];
    }

    [Fact]
    public void An_order_that_is_late_is_named_first()
    {
        var input = Shed(i => i with { Demands = [new PlanDemand { Id = "tubes", What = "98 tubes", Lead = new DaysRange(60, 90, 150) }], Operations = [.. i.Operations.Select(o => o.Id == "b" ? o with { Demands = ["tubes"] } : o)] });
        var cause = First(input);
        (cause.Kind, cause.Id).ShouldBe((CauseKind.Order, "tubes"));
        cause.Words(input).ShouldBe("98 tubes, not ordered yet");

        // The mean of the triangle from 60 over 90 to 150 is 100 days; the work before it takes a week or two of them. A week less gives about a week.
        cause.Days.ShouldBeInRange(80, 100);
        cause.WeekLess!.Value.ShouldBe(7, 1.5);
        cause.Gives().ShouldStartWith($"Without it {Math.Round(cause.Days):0} days sooner; a week less of it gives ");
    }

    [Fact]
    public void A_wait_at_a_shop_is_named_first()
    {
        var cause = First(Shed(i => i with { Operations = [.. i.Operations.Where(o => o.Id != "c"), Wait("plating", 0, "a") with { Elapsed = new DaysRange(40, 60, 90) }, Job("c", 2, "b plating")] }));
        (cause.Kind, cause.Id).ShouldBe((CauseKind.Elapsed, "plating"));
    }

    /// <summary>The step could start long before; who can do it comes to two sessions in ten.</summary>
    [Fact]
    public void A_skill_of_one_who_seldom_comes_is_named_first()
    {
        var input = Shed(i => i with
        {
            People = [.. i.People, Person("Alder", "white metal") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.2)] }],
            Operations = [.. i.Operations.Select(o => o.Id is "b" or "c" ? o with { Skills = [new SkillNeed("white metal")] } : o)],
        });
        var cause = First(input);
        (cause.Kind, cause.Id).ShouldBe((CauseKind.Hands, "white metal"));
        cause.Words(input).ShouldBe("Alder alone holds “white metal” and comes to about 2 in ten sessions");
    }

    [Fact]
    public void A_thing_that_another_package_has_is_named_first()
    {
        var cause = First(Shed(i => i with
        {
            Things = [new PlanThing("jack", "jack", 1)],
            Packages = [.. i.Packages, new PlanPackage { Id = "other", Machine = "M", Title = "Other", Started = true }],
            Milestones = [i.Milestones[0], new PlanMilestone { Id = "first", Name = "First", On = FirstSaturday.PlusWeeks(6), Weight = 9, Packages = ["other"] }],
            Operations = [.. i.Operations.Select(o => o.Id == "b" ? o with { Things = [new ThingNeed("jack")] } : o), .. Enumerable.Range(0, 8).Select(n => Job($"x{n}", 5, n == 0 ? string.Empty : $"x{n - 1}", package: "other") with { Things = [new ThingNeed("jack")] })],
        }));
        (cause.Milestone, cause.Kind, cause.Id).ShouldBe(("aim", CauseKind.Thing, "jack"));
    }

    [Fact]
    public void A_window_that_keeps_the_machine_whole_is_named_first()
    {
        var cause = First(Shed(i => i with { Machines = [new PlanMachine("M", "Machine", Windows: [new PlanWindow(new DaySpan(FirstDay, FirstDay.PlusWeeks(9)), "season")])] }));
        (cause.Kind, cause.Id).ShouldBe((CauseKind.Window, "M"));
    }

    /// <summary>On random sheds: without what is named first the date at even chance is sooner, by runs of another seed, in nine of ten.</summary>
    [Fact]
    public void What_is_named_first_moves_the_date()
    {
        var (moved, all) = (0, 0);
        for (var seed = 0; seed < 20; seed++)
        {
            var input = RandomShed.Make(new ShedSize { Operations = 40, Machines = 2, People = 9, OpenLimit = seed % 4 == 0 ? 1 : null }, 300 + seed);
            var planner = new Planner(input, passes: 24);
            var causes = PlanCauses.Of(planner, PlanSimulation.Run(planner, 300, ct: Ct), 64, ct: Ct);
            foreach (var milestone in input.Milestones)
            {
                if (causes.FirstOrDefault(c => c.Milestone == milestone.Id) is not { } first)
                {
                    continue;
                }

                var was = PlanSimulation.Run(planner, 600, 99, ct: Ct).Milestones.First(m => m.Id == milestone.Id);
                var now = PlanSimulation.Run(new Planner(PlanCauses.Without(input, first.Kind, first.Id), 1, 1, null, planner.Policy), 600, 99, ct: Ct).Milestones.First(m => m.Id == milestone.Id);
                all++;
                moved += (now.Even.On ?? LocalDate.MaxIsoValue) < (was.Even.On ?? LocalDate.MaxIsoValue) || now.MeanDays < was.MeanDays - 0.5 ? 1 : 0;
            }
        }

        all.ShouldBeGreaterThan(25);
        moved.ShouldBeGreaterThanOrEqualTo((int)Math.Ceiling(0.9 * all));
    }

    /// <summary>The chain goes on through the sessions in which who is wanted does not come, to what they wait for.</summary>
    [Fact]
    public void The_chain_does_not_stop_at_somebody_who_is_away()
    {
        var input = Shed(i => i with
        {
            People = [.. i.People, Person("Alder", "white metal") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.5)] }],
            Demands = [new PlanDemand { Id = "tubes", What = "98 tubes", Lead = new DaysRange(60, 90, 150) }],
            Operations = [.. i.Operations.Select(o => o.Id == "b" ? o with { Demands = ["tubes"] } : o.Id == "c" ? o with { Skills = [new SkillNeed("white metal")] } : o)],
        });
        var forecast = PlanSimulation.Run(new Planner(input, passes: 20), 500, ct: Ct);
        forecast.Demands.ShouldHaveSingleItem().Critical.ShouldBeGreaterThan(0.95);
        forecast.Operations.First(o => o.Id == "b").Critical.ShouldBeGreaterThan(0.95);

        // In the plan itself the step after the wait is charged to the wait, not to who did not come in its last week.
        var plan = new Planner(input, passes: 20).Schedule();
        plan.At("b").Reason.ShouldBe(ReasonKind.Demand);
    }
}
