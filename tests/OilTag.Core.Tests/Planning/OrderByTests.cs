using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Yardstick;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

public sealed class OrderByTests
{
    private static PlanDemand Demand(double low, double likely, double high) => new() { Id = "d", What = "ash planks", Lead = new DaysRange(low, likely, high) };

    /// <summary>Worked out by hand: needed on the fourth Saturday, three weeks under way, so it is asked for in the week before the first.</summary>
    [Fact]
    public void Known_times_give_the_day_by_hand()
    {
        var input = Of([Job("a", 18), Job("b", 6, "a") with { Demands = ["d"] }], demands: [Demand(21, 21, 21)]);
        var order = OrderByRule.Of(new Planner(input), runs: 20, ct: Ct).ShouldHaveSingleItem();

        // Saturday 29 March less 21 days is Saturday 8 March; asked for at midnight it is there at midnight.
        order.On.ShouldBe(FirstSaturday);
        order.Overdue.ShouldBeFalse();
        order.Slack.ShouldBe(5);
    }

    [Fact]
    public void What_is_late_already_says_what_it_costs()
    {
        var input = Of([Job("a", 6), Job("b", 6, "a") with { Demands = ["d"] }], demands: [Demand(21, 21, 21)]);
        var order = OrderByRule.Of(new Planner(input), runs: 20, ct: Ct).ShouldHaveSingleItem();
        order.Overdue.ShouldBeTrue();
        order.On.ShouldBe(Saturday(1, 0).Date.PlusDays(-21));

        // FirstDay is a Monday; three weeks on is the Monday before the fourth Saturday, two weeks after the second.
        order.Cost.ShouldBe(14);
    }

    [Fact]
    public void What_is_ordered_or_serves_nothing_is_not_listed()
    {
        var input = Of([Job("a", 6) with { Demands = ["d"] }, Job("x", 1, package: "other") with { Demands = ["e"] }], demands: [Demand(5, 5, 5) with { Ordered = FirstDay }, Demand(9, 9, 9) with { Id = "e" }]);
        input = input with { Milestones = [input.Milestones[0] with { Packages = ["k"] }] };
        OrderByRule.Of(new Planner(input), runs: 20, ct: Ct).ShouldBeEmpty();
    }

    /// <summary>Against brute force: every day is tried, and the rule's is the last that as many runs bear as the confidence says.</summary>
    [Fact]
    public void The_day_is_the_last_one_that_brute_force_finds()
    {
        var compared = 0;
        for (var seed = 0; seed < 24; seed++)
        {
            var dice = new Random(seed);
            var people = new[] { Person("Una", "lathe") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.8)] }, Person("Hob") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.6)] } };
            var low = 10 + dice.Next(30);
            var input = Of(
                [Job("a", 4 + dice.Next(20)), Job("b", 3 + dice.Next(10), "a", skill: "lathe"), Job("c", 6, "b") with { Demands = ["d"] }, Job("e", 2 + dice.Next(8), "c"), Job("f", 4 + dice.Next(30), skill: "lathe")],
                people,
                [Demand(low, low + dice.Next(20), low + 20 + dice.Next(40))]);
            var planner = new Planner(input, passes: 12);
            const int Tries = 60;
            var confidence = seed % 2 == 0 ? 0.8 : 0.5;
            var rule = OrderByRule.Of(planner, confidence, Tries, seed, ct: Ct).ShouldHaveSingleItem();
            var days = Enumerable.Range(-110, 110 + 300).ToList();
            var harmless = days.Select(d => OrderByRule.Harmless(planner, "d", "aim", d, Tries, seed)).ToList();
            harmless[0].ShouldBe(1);

            // Halving takes for granted that asking later is never sooner. Where hands make an anomaly it may stop a little short.
            var last = days[harmless.FindLastIndex(h => h >= confidence - 1e-9)];
            if (harmless.Zip(harmless.Skip(1)).All(x => x.Second <= x.First))
            {
                rule.Slack.ShouldBe(last, $"seed {seed}");
                compared++;
            }
            else
            {
                rule.Slack!.Value.ShouldBeLessThanOrEqualTo(last);
            }
        }

        compared.ShouldBeGreaterThan(15);
    }

    /// <summary>Another seed moves the day by no more than the rule says that chance may have moved it, nor by more than a week.</summary>
    [Fact]
    public void The_day_hardly_depends_on_the_luck_of_the_runs()
    {
        var input = Of(
            [Job("a", 30) with { Hours = new HoursRange(20, 30, 55) }, Job("c", 6, "a") with { Demands = ["d"] }],
            [Person("Una") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.7)] }],
            [Demand(14, 30, 70)]);
        var planner = new Planner(input);
        var found = Enumerable.Range(1, 10).Select(seed => OrderByRule.Of(planner, seed: seed, ct: Ct).Single()).ToList();
        (found.Max(o => o.Slack!.Value) - found.Min(o => o.Slack!.Value)).ShouldBeLessThanOrEqualTo(7);
        found.ShouldAllBe(o => o.Within >= 1 && o.Within <= 7);
    }

    [Fact]
    public void Overdue_ones_come_first_then_the_soonest()
    {
        var input = RandomShed.Make(new ShedSize { Operations = 60, Demands = 10 }, 3);
        var orders = OrderByRule.Of(new Planner(input, passes: 10), runs: 40, ct: Ct);
        orders.Count.ShouldBeGreaterThan(3);
        orders.Select(o => o.Overdue ? 0 : 1).ShouldBeInOrder();
        orders.Where(o => !o.Overdue).Select(o => o.On ?? LocalDate.MaxIsoValue).ShouldBeInOrder();
        orders.ShouldAllBe(o => o.Overdue == (o.On < input.Today));
    }

    [Fact]
    public void What_a_put_off_package_needs_is_ordered_so_that_it_can_begin()
    {
        // A repair for now; the proper one may begin in forty weeks and serves no milestone. Asking takes 2 weeks, the lead time is 10 to 20: known spans have
        // no spread, so the day is simply counted back; with a spread the triangular distribution from 10 over 15 to 20 has its 80 % point at 16.84 weeks.
        var proper = FirstDay.PlusWeeks(40);
        PlanInput Shed(DaysRange lead)
        {
            var input = Of([Job("a", 2), Job("b", 6, package: "p") with { Demands = ["d"] }], demands: [new PlanDemand { Id = "d", What = "casting", Enquiry = DaysRange.Exactly(14), Lead = lead }]);
            return input with { Packages = [.. input.Packages.Select(p => p.Id == "p" ? p with { NotBefore = proper } : p)], Milestones = [input.Milestones[0] with { Packages = ["k"] }] };
        }

        var order = OrderByRule.Of(new Planner(Shed(DaysRange.Exactly(70))), ct: Ct).ShouldHaveSingleItem();
        order.ShouldSatisfyAllConditions(o => o.On.ShouldBe(proper.PlusDays(-84)), o => o.Overdue.ShouldBeFalse(), o => o.Package.ShouldBe("p"), o => o.For(Shed(DaysRange.Exactly(70))).ShouldBe("Package p, put off to Mon 8 December"));
        var spread = OrderByRule.Of(new Planner(Shed(DaysRange.Weeks(10, 15, 20))), ct: Ct).ShouldHaveSingleItem();
        Period.DaysBetween(spread.On!.Value, proper).ShouldBeInRange(14 + 116, 14 + 120);
        var late = OrderByRule.Of(new Planner(Shed(DaysRange.Exactly(300))), ct: Ct).ShouldHaveSingleItem();
        late.ShouldSatisfyAllConditions(o => o.Overdue.ShouldBeTrue(), o => o.Cost.ShouldBe(314 - 280));
    }
}
