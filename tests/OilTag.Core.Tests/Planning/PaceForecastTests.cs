using CsCheck;
using MathNet.Numerics.Distributions;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Planning;

public sealed class PaceForecastTests
{
    private static readonly LocalDate Today = new(2026, 3, 14);

    private static readonly SessionCalendar Weekly = new([(IsoDayOfWeek.Saturday, new LocalTime(10, 0), new LocalTime(16, 0))]);

    private static Forecast Forecast(IReadOnlyList<HoursRange> packages, IReadOnlyList<double> past, int weeks) => PaceForecast.Work(Today, Today.PlusWeeks(weeks), packages, past, Weekly);

    /// <summary>Worked example, computed: the last 4 periods gave 42, 30, 51 and 37 h, 480 h are left: mean 40, so 12.00 periods; range 9.412 to 16.00.</summary>
    [Fact]
    public void Velocity_of_the_worked_example()
    {
        var f = Forecast([new HoursRange(480, 480, 480)], [42, 30, 51, 37], 12);
        f.Working.Steps[1].ShouldContain("gave 40 person-hours each on the mean");
        f.Working.Steps[2].ShouldContain("about 12 at the mean pace");
        f.Working.Steps[2].ShouldContain("9 to 16 sessions");
        f.Chance!.Value.ShouldBe(0.5, 1e-9);
        f.EvenChance.ShouldBe(Today.PlusWeeks(12));
    }

    /// <summary>Moments of the triangular distribution, standard textbook; computed: ranges (2,3,6), (4,6,10), (1,2,3) give mean 12.33 and variance 2.444.</summary>
    [Fact]
    public void Ranges_add_as_triangular_distributions()
    {
        HoursRange[] path = [new(2, 3, 6), new(4, 6, 10), new(1, 2, 3)];
        path.Sum(p => p.Mean).ShouldBe(12.33, 0.005);
        path.Sum(p => p.Variance).ShouldBe(2.444, 0.0005);
    }

    /// <summary>The closed form against a simulation of the same assumptions: independent normal sessions and triangular packages.</summary>
    [Fact]
    public void The_chance_agrees_with_a_simulation_within_its_error()
    {
        HoursRange[] packages = [new(20, 30, 60), new(10, 20, 30), new(30, 40, 90)];
        double[] past = [4, 12, 8, 0, 10, 9, 6, 14, 5, 8];
        var f = Forecast(packages, past, 14);
        var random = new Random(417);
        var mean = past.Average();
        var spread = Math.Sqrt(past.Sum(p => (p - mean) * (p - mean)) / (past.Length - 1));
        var hits = 0;
        const int Runs = 40_000;
        for (var i = 0; i < Runs; i++)
        {
            var toDo = packages.Sum(p => Triangular.Sample(random, p.Low, p.High, p.Likely));
            var done = 0.0;
            for (var s = 0; s < 14; s++)
            {
                done += Normal.Sample(random, mean, spread);
            }

            hits += done >= toDo ? 1 : 0;
        }

        // Three standard errors of the simulation, and a hundredth because three triangles are not quite a normal.
        f.Chance!.Value.ShouldBe((double)hits / Runs, (3 * Math.Sqrt(0.25 / Runs)) + 0.01);
    }

    [Fact]
    public void The_safe_date_is_the_first_session_with_eight_chances_in_ten()
    {
        HoursRange[] packages = [new(40, 60, 120)];
        double[] past = [6, 4, 9, 3, 8];
        var f = Forecast(packages, past, 8);
        ChanceAt(f.SafeDate!.Value).ShouldBeGreaterThanOrEqualTo(0.8);
        ChanceAt(f.SafeDate.Value.PlusWeeks(-1)).ShouldBeLessThan(0.8);
        f.EvenChance!.Value.ShouldBeLessThan(f.SafeDate.Value);
        double ChanceAt(LocalDate d) => PaceForecast.Work(Today, d, packages, past, Weekly).Chance!.Value;
    }

    [Fact]
    public void What_cannot_be_told_is_said_and_no_number_is_shown()
    {
        Forecast([], [1, 2, 3], 4).Working.Result.ShouldBe("Cannot tell: no open package serves this milestone.");
        Forecast([new HoursRange(1, 2, 3)], [1, 2], 4).Working.Result.ShouldContain("3 are the fewest");
        Forecast([new HoursRange(1, 2, 3)], [0, 0, 0], 4).Working.Result.ShouldContain("nobody has worked on it");
        PaceForecast.Work(Today, Today, [new HoursRange(1, 2, 3)], [1, 2, 3], new SessionCalendar([])).Working.Result.ShouldContain("no sessions");
        Forecast([new HoursRange(1e6, 2e6, 3e6)], [1, 0, 1], 4).SafeDate.ShouldBeNull();
    }

    [Fact]
    public void No_number_is_ever_outside_what_it_can_be_and_more_time_never_lowers_the_chance() =>
        Gen.Select(Gen.Double[0, 300], Gen.Double[0, 200], Gen.Double[0, 200], Gen.Double[0, 30].Array[3, 40], Gen.Int[0, 200]).Sample((low, a, b, past, weeks) =>
        {
            HoursRange[] packages = [new(low, low + a, low + a + b)];
            var now = Forecast(packages, past, weeks).Chance;
            var later = Forecast(packages, past, weeks + 10).Chance;
            return now is null || (now is >= 0 and <= 1 && later >= now - 1e-9 && !double.IsNaN(now.Value));
        });

    [Fact]
    public void The_same_input_gives_the_same_answer()
    {
        HoursRange[] packages = [new(20, 30, 60)];
        Forecast(packages, [3, 4, 5, 6], 9).ShouldBeEquivalentTo(Forecast(packages, [3, 4, 5, 6], 9));
    }
}

public sealed class SessionCalendarTests
{
    private static readonly SessionCalendar Shed = new([(IsoDayOfWeek.Saturday, new LocalTime(10, 0), new LocalTime(16, 0)), (IsoDayOfWeek.Wednesday, new LocalTime(18, 30), new LocalTime(21, 30))]);

    [Fact]
    public void Counts_Saturdays_and_evenings()
    {
        Shed.Count(new LocalDate(2026, 3, 14), new LocalDate(2026, 5, 16)).ShouldBe("9 Saturdays and 9 evenings");
        Shed.Count(new LocalDate(2026, 3, 14), new LocalDate(2026, 3, 18)).ShouldBe("1 evening");
        Shed.Count(new LocalDate(2026, 3, 14), new LocalDate(2026, 3, 14)).ShouldBe("no session");
        Shed.Count(new LocalDate(2026, 3, 14), new LocalDate(2026, 1, 1)).ShouldBe("no session");
    }

    [Fact]
    public void The_nth_session_is_the_nth_of_those_between() =>
        Gen.Select(Gen.Int[0, 2000], Gen.Int[1, 300]).Sample((offset, n) =>
        {
            var after = new LocalDate(2024, 1, 1).PlusDays(offset);
            return Shed.Nth(after, n) == Shed.Between(after, after.PlusYears(4)).ElementAt(n - 1).On;
        });
}
