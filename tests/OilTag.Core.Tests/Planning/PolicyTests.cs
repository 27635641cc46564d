using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Yardstick;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

/// <summary>The order of work is chosen for the chances that are shown, stays where it is while nothing is clearly better, and answers to every lever.</summary>
public sealed class PolicyTests
{
    // Two machines want the same fitter for four of six weeks each, and both want to be ready in the sixth: one of them can.
    private static PlanInput Two(double weightA = 1, double weightB = 1, MachineStanding standingB = MachineStanding.Active, PlanWindow? windowB = null)
    {
        PlanOperation[] jobs = [.. Enumerable.Range(0, 4).SelectMany(i => new[] { ("a", i), ("b", i) }).Select(x => Job($"{x.Item1}{x.i}", 6, x.i == 0 ? string.Empty : $"{x.Item1}{x.i - 1}", skill: "fitter", package: x.Item1) with { Hours = new HoursRange(4, 6, 9) })];
        var input = Of(jobs, [Person("Tobit", "fitter") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.9)] }]);
        return input with
        {
            Machines = [new PlanMachine("A", "A"), new PlanMachine("B", "B", standingB, windowB is null ? null : [windowB])],
            Packages = [new PlanPackage { Id = "a", Machine = "A", Title = "A", Started = true, Opens = true }, new PlanPackage { Id = "b", Machine = "B", Title = "B", Started = true, Opens = true }],
            Milestones =
            [
                new PlanMilestone { Id = "of a", Name = "A", On = FirstSaturday.PlusWeeks(5), Weight = weightA, Packages = ["a"] },
                new PlanMilestone { Id = "of b", Name = "B", On = FirstSaturday.PlusWeeks(5), Weight = weightB, Packages = ["b"] },
            ],
        };
    }

    private static IReadOnlyList<double> Chances(PlanInput input) => [.. PlanSimulation.Run(new Planner(input), 1000, ct: Ct).Milestones.Select(m => m.Chance)];

    /// <summary>Meant for both at half each, neither is likely; the chance of one of them is what can be had.</summary>
    [Fact]
    public void What_counts_more_is_the_likelier_one()
    {
        var a = Chances(Two(weightA: 5));
        var b = Chances(Two(weightB: 5));
        a[0].ShouldBeGreaterThan(a[1] + 0.3);
        b[1].ShouldBeGreaterThan(b[0] + 0.3);
        a[0].ShouldBe(b[1], 0.05);
    }

    [Fact]
    public void A_machine_that_must_leave_goes_before_all_others()
    {
        var before = Chances(Two(weightA: 5));
        var after = Chances(Two(weightA: 5, standingB: MachineStanding.Leaving));
        before[1].ShouldBeLessThan(0.2);
        after[1].ShouldBeGreaterThan(0.8);
    }

    /// <summary>A window counts like a milestone, also for a machine whose work is begun: it is whole on its day when that can be had.</summary>
    [Fact]
    public void A_window_of_a_machine_that_is_open_is_worked_for()
    {
        var running = new PlanWindow(new DaySpan(FirstSaturday.PlusWeeks(6), FirstSaturday.PlusWeeks(6)), "running day");
        double Whole(PlanInput input) => PlanSimulation.Run(new Planner(input), 1000, ct: Ct).Windows.Single().Chance;
        Whole(Two(windowB: running) with { Milestones = [] }).ShouldBeGreaterThan(0.8);
        var torn = Two(weightA: 1, windowB: running);
        Whole(torn with { Milestones = [torn.Milestones[0]] }).ShouldBeGreaterThan(0.8);
    }

    /// <summary>More weight never makes a milestone less likely, beyond what the runs can tell.</summary>
    [Fact]
    public void Every_weight_works_one_way()
    {
        double last = 0;
        foreach (var weight in new[] { 0.1, 0.5, 1, 2, 10 })
        {
            var chance = Chances(Two(weightB: weight))[1];
            chance.ShouldBeGreaterThanOrEqualTo(last - 0.05, $"weight {weight}");
            last = chance;
        }
    }

    /// <summary>Twelve sheds and ten seeds: a chance moves by no more than three hundredths, or the plan says by how much it may.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    [InlineData(5)]
    [InlineData(6)]
    [InlineData(7)]
    [InlineData(8)]
    [InlineData(9)]
    [InlineData(10)]
    [InlineData(11)]
    public void Another_seed_gives_the_same_chances(int shed)
    {
        var input = RandomShed.Make(new ShedSize { Machines = 2 + (shed % 3), Operations = 30 + (3 * shed), People = 8 + shed, OpenLimit = shed % 3 == 0 ? 2 : null, OwnWork = shed % 2 == 1 }, 100 + shed);
        var found = Enumerable.Range(1, 10).Select(seed => PlanSimulation.Run(new Planner(input, seed, 60), 2000, seed, ct: Ct)).ToList();
        for (var k = 0; k < input.Milestones.Count; k++)
        {
            var chances = found.ConvertAll(f => f.Milestones[k].Chance);
            var said = found.Average(f => f.Milestones[k].ChanceError);
            (chances.Max() - chances.Min()).ShouldBeLessThanOrEqualTo(Math.Max(0.03, 5 * said), $"{input.Milestones[k].Name}: {string.Join(' ', chances)}");
        }
    }

    /// <summary>The next plan keeps the order of the last: a small change of the record moves only what it touches.</summary>
    [Fact]
    public void A_small_change_leaves_the_rest_where_it_is()
    {
        for (var seed = 0; seed < 6; seed++)
        {
            var input = RandomShed.Make(new ShedSize { Operations = 50, Machines = 3 }, seed);
            var first = new Planner(input, passes: 60);
            var changed = input with { Operations = [.. input.Operations.Select((o, i) => i == input.Operations.Count - 1 ? o with { Hours = new HoursRange(o.Hours.Low, o.Hours.Likely + 0.5, o.Hours.High + 0.5) } : o)] };
            var next = new Planner(changed, seed + 50, 60, null, first.Policy);
            var now = first.Schedule();
            var moved = next.Schedule().Operations.Zip(now.Operations).Count(x => x.First.Start?.Date != x.Second.Start?.Date);
            moved.ShouldBeLessThanOrEqualTo(6, $"seed {seed}");
            new Planner(input, seed + 50, 60, null, first.Policy).Schedule().Operations.Select(o => o.Start).ShouldBe(now.Operations.Select(o => o.Start));
        }
    }

    /// <summary>Filler work of another machine, put off, makes no difference, and is said to make none.</summary>
    [Fact]
    public void Putting_off_what_only_fills_is_no_difference()
    {
        var input = Two(weightA: 5, standingB: MachineStanding.Filler) with { };
        var compared = PlanCompare.Of(input, [new PutOff("b", FirstDay.PlusDays(200))], 1000, ct: Ct);
        compared.Milestones[0].Told.ShouldBeFalse();
        compared.Milestones[0].After!.Chance.ShouldBe(compared.Milestones[0].Before.Chance, 1e-9);
    }

    /// <summary>An operation that is new, and one that is gone, do not upset the order of the others.</summary>
    [Fact]
    public void An_order_is_kept_when_work_comes_and_goes()
    {
        var input = Two();
        var policy = new Planner(input).Policy;
        var less = input with { Operations = [.. input.Operations.Where(o => o.Id != "a3"), Job("c", 2, "b3", package: "b")] };
        var kept = new Planner(less, 1, 1, null, policy).Policy;
        kept.Where(policy.Contains).ShouldBe(policy.Where(id => id != "a3"));
        kept.Count.ShouldBe(less.Operations.Count);
    }
}
