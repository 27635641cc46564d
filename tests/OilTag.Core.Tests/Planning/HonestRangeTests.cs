using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Yardstick;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

/// <summary>A range is as wide as what is known, and the plan stands where work will probably lie.</summary>
public sealed class HonestRangeTests
{
    // Fourteen pieces one after the other at three to nine hours each, one fitter, six hours a Saturday.
    private static PlanInput Pieces(Func<int, string> like)
    {
        var jobs = Enumerable.Range(0, 14).Select(
            i => Job($"p{i}", 6, i == 0 ? string.Empty : $"p{i - 1}") with { Hours = new HoursRange(2, 5, 11), Like = like(i) });
        return Of([.. jobs], [Person("Una")]);
    }

    private static double Weeks(PlanInput input)
    {
        var m = PlanSimulation.Run(new Planner(input, passes: 1), 4000, ct: Ct).Milestones.Single();
        return Period.DaysBetween(m.Even.On!.Value, m.Surer.On!.Value) / 7.0;
    }

    /// <summary>
    /// Standard deviation of one piece √((4 + 25 + 121 − 10 − 22 − 55)/18) = 1.87 h. Apart, fourteen are 7.0 h out; where two go together to a half, √(14 + 14·13·0.49) = 10.2
    /// pieces' worth, 19 h: nine cases of ten reach about 1.28 of these further than half of them, three Saturdays and more than one.
    /// </summary>
    [Fact]
    public void A_first_guess_is_wrong_for_all_of_its_like_together()
    {
        var apart = Weeks(Pieces(_ => string.Empty));
        var alike = Weeks(Pieces(_ => "file the bracket"));
        apart.ShouldBeInRange(1, 2);
        alike.ShouldBeInRange(3, 5);
        Weeks(Pieces(i => $"piece {i}")).ShouldBe(apart, 1e-9);
    }

    /// <summary>What goes together moves no mean: half of the runs end within a week of where they did.</summary>
    [Fact]
    public void The_middle_stays_where_it_is()
    {
        LocalDate Even(PlanInput input) => PlanSimulation.Run(new Planner(input, passes: 1), 4000, ct: Ct)
            .Milestones.Single()
            .Even.On!.Value;
        Math.Abs(Period.DaysBetween(Even(Pieces(_ => string.Empty)), Even(Pieces(_ => "file the bracket")))).ShouldBeLessThanOrEqualTo(7);
    }

    [Theory]
    [InlineData("Drill clamp block 3, left", "drill clamp block")]
    [InlineData("Drill clamp block no. 12 (R)", "drill clamp block")]
    [InlineData("34", "")]
    public void What_is_alike_has_its_name_in_common(string name, string like) => PlanOperation.LikeOf(name).ShouldBe(like);

    /// <summary>
    /// Expected values add up to less than what luck makes of them: the plan that is drawn ends no milestone sooner than half of the runs have met it, none later than
    /// that or than expected values have it, stands nearer to the runs than those, and breaks no rule.
    /// </summary>
    [Fact]
    public void The_plan_stands_where_work_will_probably_lie()
    {
        double plain = 0, drawn = 0;
        for (var seed = 0; seed < 8; seed++)
        {
            var input = RandomShed.Make(new ShedSize { Operations = 50, Machines = 3, People = 10 }, 300 + seed);
            var planner = new Planner(input, passes: 30);
            var forecast = PlanSimulation.Run(planner, 1000, ct: Ct);
            var plan = planner.Schedule(forecast);
            ScheduleValidator.Wrong(input, plan).ShouldBeEmpty($"seed {seed}");
            var asEstimated = planner.Schedule().Milestones.ToDictionary(m => m.Id, m => m.Finish ?? LocalDate.MaxIsoValue);
            foreach (var (met, planned) in forecast.Milestones.Zip(plan.Milestones).Where(x => x.First.Even.On is not null && x.Second.Finish is not null))
            {
                var sooner = Period.DaysBetween(planned.Finish!.Value, met.Even.On!.Value);
                var later = Period.DaysBetween(LocalDate.Max(met.Even.On.Value, asEstimated[met.Id]), planned.Finish.Value);
                sooner.ShouldBeLessThanOrEqualTo(7, $"seed {seed}, {met.Id}");
                later.ShouldBeLessThanOrEqualTo(7, $"seed {seed}, {met.Id}");
            }

            plain += Off(forecast, planner.Schedule());
            drawn += Off(forecast, plan);
        }

        drawn.ShouldBeLessThan(plain);
    }

    /// <summary>Where luck alone makes a start later, the reason says by which day it would be without, and goes on to what fixed that.</summary>
    [Fact]
    public void Luck_is_told_apart_from_the_reason()
    {
        var input = RandomShed.Make(new ShedSize { Operations = 50, Machines = 3, People = 10 }, 301);
        var planner = new Planner(input, passes: 30);
        var plan = planner.Schedule(PlanSimulation.Run(planner, 1000, ct: Ct));
        var late = plan.Operations.First(o => o.AsEstimated < o.Start?.Date && o.Reason is not ReasonKind.AtOnce);
        var link = PlanReasons.Of(input, plan, late.Id)[0];
        link.Sentence.ShouldContain("If all took what was estimated it would be");
        late.Reason.ShouldNotBe(ReasonKind.PutOff);
        late.AsEstimated!.Value.ShouldBeLessThan(late.Start!.Value.Date);
    }

    private static double Off(PlanForecast forecast, PlanSchedule plan) => forecast.Operations.Zip(plan.Operations)
        .Where(x => x.First.Even is not null && x.Second.Finish is not null)
        .Sum(x => Math.Abs(Period.DaysBetween(x.First.Even!.Value, x.Second.Finish!.Value.Date)));
}
