using MathNet.Numerics.Distributions;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Yardstick;
using static OilTag.Core.Tests.Planning.SmallShed;

namespace OilTag.Core.Tests.Planning;

public sealed class PlanSimulationTests
{
    /// <summary>
    /// A simulation that was written apart, with its own draws, sees the same chances under the same order of work: of 24 chances one lies outside twice the error of
    /// both, as one in twenty does by chance, none outside two and a half times it, on twelve sheds with skills, crews, things, orders, shared guesses and people who are barred.
    /// </summary>
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
    public void A_second_simulation_sees_the_same_chances(int shed)
    {
        var made = RandomShed.Make(
            new ShedSize { Machines = 2, Operations = 24 + (2 * shed), People = 8 + (shed / 2), Weeks = 60, Windows = 0, OwnWork = true },
            500 + shed);
        var input = made with
        {
            Sites = [],
            Operations = [.. made.Operations.Select((o, i) => o with { Dry = false, WarmerThan = null, ColderThan = null, Like = shed % 2 == 1 && i % 3 == 0 ? "alike" : string.Empty })],
            Packages = [.. made.Packages.Select(p => p with { Opens = false })],
        };
        var planner = new Planner(input, passes: 1);
        var own = PlanSimulation.Run(planner, 4000, 1, ct: Ct).Milestones;

        // Days that are neither sure nor hopeless: the middle of what the runs say.
        var asked = input with { Milestones = [.. input.Milestones.Zip(own).Select(x => x.Second.Even.On is { } even ? x.First with { On = even } : x.First)] };
        own = PlanSimulation.Run(new Planner(asked, 1, 1, null, planner.Policy), 4000, 1, ct: Ct).Milestones;
        var apart = PolicySimulation.Chances(asked, planner.Policy, 600, 71 + shed);
        foreach (var (a, b, m) in own.Zip(apart, asked.Milestones))
        {
            var error = Math.Sqrt((a.ChanceError * a.ChanceError) + (Math.Max(0.002, b * (1 - b)) / 600));
            Math.Abs(a.Chance - b).ShouldBeLessThanOrEqualTo(2.5 * error, $"{m.Name}: {a.Chance:0.000} and {b:0.000}, error {error:0.000}");
        }
    }

    private const int Runs = 20_000;

    private static SimulatedMilestone Simulate(PlanInput input, int runs = Runs, int seed = 1) => PlanSimulation.Run(new Planner(input), runs, seed, ct: Ct).Milestones[0];

    private static double Cdf(DaysRange r, double x) => x <= r.Low ? 0 : x >= r.High ? 1 : new Triangular(r.Low, r.High, r.Likely).CumulativeDistribution(x);

    // Distribution of a sum of two independent triangulars by numerical convolution: exact to the step.
    private static double SumCdf(DaysRange a, DaysRange b, double x)
    {
        const int Steps = 4000;
        var total = 0.0;
        for (var i = 0; i < Steps; i++)
        {
            var from = a.Low + ((a.High - a.Low) * i / Steps);
            var until = a.Low + ((a.High - a.Low) * (i + 1) / Steps);
            total += (Cdf(a, until) - Cdf(a, from)) * Cdf(b, x - ((from + until) / 2));
        }

        return total;
    }

    /// <summary>One wait alone: the chance of each day is the triangular distribution itself (closed form, standard textbook).</summary>
    [Fact]
    public void One_wait_is_its_triangular_distribution()
    {
        var range = new DaysRange(20, 30, 61);
        var input = Of([Wait("w", 0) with { Elapsed = range }], due: 6);
        var m = Simulate(input);
        var days = Period.DaysBetween(FirstDay, input.Milestones[0].On) + 1;
        m.Chance.ShouldBe(Cdf(range, days), 4 * m.ChanceError);
        m.ChanceError.ShouldBe(Math.Sqrt(m.Chance * (1 - m.Chance) / Runs), 1e-12);
        var triangular = new Triangular(range.Low, range.High, range.Likely);
        foreach (var (day, share) in new[] { (m.Even, 0.5), (m.Safe, 0.8), (m.Surer, 0.9) })
        {
            var exact = FirstDay.PlusDays((int)Math.Floor(triangular.InverseCumulativeDistribution(share)));
            (day.From <= exact && exact <= day.Until).ShouldBeTrue($"{exact} is not between {day.From} and {day.Until}");
        }

        m.MeanDays!.Value.ShouldBe(range.Mean, 4 * Math.Sqrt(triangular.Variance / Runs));
    }

    /// <summary>A chain of two waits: the distribution of the sum of two independent triangulars, by convolution.</summary>
    [Fact]
    public void A_chain_is_the_sum_of_independent_triangulars()
    {
        var (a, b) = (new DaysRange(10, 14, 40), new DaysRange(5, 25, 30));
        var input = Of([Wait("a", 0) with { Elapsed = a }, Wait("b", 0, "a") with { Elapsed = b }], due: 7);
        var m = Simulate(input);
        var days = Period.DaysBetween(FirstDay, input.Milestones[0].On) + 1;
        m.Chance.ShouldBe(SumCdf(a, b, days), 4 * m.ChanceError);
        m.MeanDays!.Value.ShouldBe(a.Mean + b.Mean, 0.2);
        var spread = m.Spread;
        foreach (var at in new[] { 35, 42, 50 })
        {
            var below = spread.Where(s => s.Day < FirstDay.PlusDays(at)).Sum(s => s.Runs) / (double)Runs;
            below.ShouldBe(SumCdf(a, b, at), 4 * Math.Sqrt(0.25 / Runs));
        }
    }

    /// <summary>Two that run beside each other are done when both are: the product of the two distributions (closed form).</summary>
    [Fact]
    public void Merging_paths_multiply_their_chances()
    {
        var range = new DaysRange(10, 30, 60);
        var input = Of([Wait("a", 0) with { Elapsed = range }, Wait("b", 0) with { Elapsed = range }], due: 6);
        var m = Simulate(input);
        var one = Cdf(range, Period.DaysBetween(FirstDay, input.Milestones[0].On) + 1);
        m.Chance.ShouldBe(one * one, 4 * m.ChanceError);
    }

    /// <summary>One person and two jobs: hours add up whatever the order, and the finish follows from them session by session (closed form by convolution).</summary>
    [Fact]
    public void One_person_does_the_sum_of_the_hours()
    {
        var (a, b) = (new HoursRange(5, 8, 20), new HoursRange(3, 9, 12));
        var input = Of([Job("a", 1) with { Hours = a }, Job("b", 1) with { Hours = b }], due: 4);
        var m = Simulate(input);

        // Four Saturdays of six hours.
        m.Chance.ShouldBe(SumCdf(new DaysRange(a.Low, a.Likely, a.High), new DaysRange(b.Low, b.Likely, b.High), 24), 4 * m.ChanceError);
    }

    /// <summary>Somebody who comes with chance p needs a negative binomial number of sessions for n of them (closed form, standard textbook).</summary>
    [Fact]
    public void Attendance_is_drawn_session_by_session()
    {
        var input = Of([Job("a", 18)], [Person("Una") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.6)] }], due: 5);
        var m = Simulate(input);
        m.Chance.ShouldBe(1 - Binomial.CDF(0.6, 5, 2), 4 * m.ChanceError);
    }

    /// <summary>Damage that is found with a chance makes two cases, and only it.</summary>
    [Fact]
    public void Undiscovered_damage_is_there_or_not()
    {
        var m = Simulate(Of([Job("a", 6), Job("damage", 6, "a") with { Chance = 0.3 }], due: 1));
        m.Chance.ShouldBe(0.7, 4 * m.ChanceError);
        m.Spread.Count.ShouldBe(2);
    }

    /// <summary>Weather by its chance: geometric waiting for a dry day (closed form).</summary>
    [Fact]
    public void Dry_days_are_waited_for()
    {
        var months = Enumerable.Repeat(new MonthWeather(0.55, 10, 3), 12).ToList();
        var m = Simulate(Of([Job("roof", 2) with { Dry = true }], due: 3) with { Sites = [new PlanSite(string.Empty, months)] });
        m.Chance.ShouldBe(1 - Math.Pow(0.45, 3), 4 * m.ChanceError);

        var cold = Simulate(Of([Job("paint", 2) with { WarmerThan = 8 }], due: 1) with { Sites = [new PlanSite(string.Empty, months)] });
        cold.Chance.ShouldBe(Normal.CDF(0, 1, 2.0 / 3), 0.01);
    }

    [Fact]
    public void The_same_seed_gives_the_same_answer_on_any_number_of_processors()
    {
        var planner = new Planner(RandomShed.Make(new ShedSize { Operations = 80 }, 4));
        var first = PlanSimulation.Run(planner, 500, 9, ct: Ct);
        var second = PlanSimulation.Run(planner, 500, 9, ct: Ct);
        System.Text.Json.JsonSerializer.Serialize(second).ShouldBe(System.Text.Json.JsonSerializer.Serialize(first));
        var other = PlanSimulation.Run(planner, 500, 10, ct: Ct);
        System.Text.Json.JsonSerializer.Serialize(other).ShouldNotBe(System.Text.Json.JsonSerializer.Serialize(first));

        // Two seeds differ by no more than chance: four standard errors of a share that lies at the half.
        foreach (var (m, n) in first.Milestones.Zip(other.Milestones).Where(x => x.First.Even.On is not null))
        {
            var below = n.Spread.Where(s => s.Day <= m.Even.On).Sum(s => s.Runs) / 500.0;
            below.ShouldBe(m.Spread.Where(s => s.Day <= m.Even.On).Sum(s => s.Runs) / 500.0, 4 * Math.Sqrt(0.5 / 500));
        }
    }

    [Fact]
    public void What_is_always_on_the_chain_is_critical_and_what_moves_the_date_is_named()
    {
        var input = Of([Wait("long", 0) with { Elapsed = new DaysRange(40, 60, 120) }, Wait("short", 0) with { Elapsed = new DaysRange(1, 2, 3) }, Wait("last", 0, "long short") with { Elapsed = new DaysRange(2, 3, 4) }], due: 12);
        var forecast = PlanSimulation.Run(new Planner(input), 4000, ct: Ct);
        forecast.Operations.Select(o => o.Critical).ShouldBe([1, 0, 1]);
        var driver = forecast.Milestones[0].Drivers[0];
        driver.Id.ShouldBe("long");

        // One standard deviation of the triangular (40, 60, 120) is 16.997 days, and the date moves with it day by day.
        driver.Days.ShouldBe(Math.Sqrt(new Triangular(40, 120, 60).Variance), 0.6);
        forecast.Milestones[0].Drivers.ShouldNotContain(d => d.Id == "short");
        forecast.Milestones[0].Drivers.ShouldAllBe(d => d.Days > 3 * d.Error);
    }

    [Fact]
    public void Whoever_holds_the_only_skill_moves_the_date()
    {
        var ansel = Person("Ansel", "lathe") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.5)] };
        var input = Of([.. Enumerable.Range(0, 8).Select(i => Job($"t{i}", 6, skill: "lathe"))], [ansel, Person("Hob")], due: 16);
        var drivers = PlanSimulation.Run(new Planner(input), 2000, ct: Ct).Milestones[0].Drivers;
        drivers.ShouldContain(d => d.Kind == DriverKind.Skill && d.Id == "lathe" && d.Days > 5);
    }

    [Fact]
    public void A_window_is_kept_as_often_as_the_work_before_it_is_done()
    {
        var input = Of([Job("a", 1) with { Hours = new HoursRange(4, 8, 17) }], due: 9);
        input = input with
        {
            Machines = [new PlanMachine("M", "Machine", Windows: [new PlanWindow(new DaySpan(Saturday(2, 0).Date, Saturday(2, 0).Date), "gala")])],
            Packages = [.. input.Packages.Select(p => p with { Opens = true, Started = true })],
        };
        var forecast = PlanSimulation.Run(new Planner(input), Runs, ct: Ct);
        forecast.Windows.ShouldHaveSingleItem().Chance.ShouldBe(Cdf(new DaysRange(4, 8, 17), 12), 4 * Math.Sqrt(0.25 / Runs));
    }

    [Fact]
    public void What_never_gets_done_has_no_day_and_no_chance()
    {
        var m = Simulate(Of([Job("a", 500)], weeks: 20), 200);
        m.Chance.ShouldBe(0);
        m.Even.On.ShouldBeNull();
        m.MeanDays.ShouldBeNull();
    }

    /// <summary>A longer wait or more hours never bring a chain forward, run by run, under the same luck.</summary>
    [Fact]
    public void Longer_leads_never_bring_a_single_chain_forward()
    {
        for (var seed = 0; seed < 40; seed++)
        {
            var dice = new Random(seed);
            PlanInput Make(double factor) => Of(
                [Job("a", 4 + dice.Next(1)), Wait("w", 0, "a") with { Elapsed = new DaysRange(7 * factor, 14 * factor, 40 * factor) }, Job("b", 5, "w") with { Demands = ["d"] }],
                [Person("Una") with { Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 0.7)] }],
                [new PlanDemand { Id = "d", What = "d", Lead = new DaysRange(10 * factor, 20 * factor, 60 * factor) }]);
            var shorter = Simulate(Make(1), 300, seed);
            var longer = Simulate(Make(1.4), 300, seed);
            longer.MeanDays!.Value.ShouldBeGreaterThanOrEqualTo(shorter.MeanDays!.Value);
            longer.Chance.ShouldBeLessThanOrEqualTo(shorter.Chance);
        }
    }
}
