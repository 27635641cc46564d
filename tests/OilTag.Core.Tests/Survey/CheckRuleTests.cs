using CsCheck;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

public sealed class CheckRuleTests
{
    private static Measure Of(string text, Unit unit) => MeasureReader.Read(text, unit.Quantity, unit).Value!;

    private static CheckLimits Volts(string? nominal, string? low, string? high, RestorationStandard? standard = null)
    {
        var problems = new List<Problem>();
        var limits = CheckRule.Read(problems, "V", nominal, low, high, standard);
        problems.ShouldBeEmpty();
        return limits!;
    }

    private static VerdictResult Judge(CheckLimits limits, string text, Evidence evidence = Evidence.Measured, RestorationStandard standard = RestorationStandard.Demonstrate, string? to = null) =>
        CheckRule.Judge(limits, Of(text, limits.Unit), to is null ? null : Of(to, limits.Unit), evidence, standard, "the test");

    // Arithmetic: as built 25, 23 to 28.5. Below: (25 − M)/2; above: (M − 25)/3.5. At limit from 80 % (common practice).
    [Theory]
    [InlineData("25 V", Verdict.Within, 0)]
    [InlineData("24 V", Verdict.Within, 50)]
    [InlineData("23.4 V", Verdict.AtLimit, 80)]
    [InlineData("23 V", Verdict.AtLimit, 100)]
    [InlineData("22.99 V", Verdict.Beyond, 100.5)]
    [InlineData("20.1 V", Verdict.Beyond, 245)]
    [InlineData("27.7 V", Verdict.Within, 77.142857)]
    [InlineData("27.8 V", Verdict.AtLimit, 80)]
    [InlineData("28.5 V", Verdict.AtLimit, 100)]
    [InlineData("-3 V", Verdict.Beyond, 1400)]
    public void Limits_on_both_sides_count_from_the_value_as_built(string reading, Verdict verdict, double used)
    {
        var result = Judge(Volts("25 V", "23 V", "28.5 V"), reading);
        result.Verdict.ShouldBe(verdict);
        result.WearUsed!.Value.ShouldBe(used, 1e-6);
    }

    [Fact]
    public void Without_a_value_as_built_the_middle_counts()
    {
        Judge(Volts(null, "20 V", "30 V"), "25 V").WearUsed.ShouldBe(0);
        Judge(Volts(null, "20 V", "30 V"), "29 V").Verdict.ShouldBe(Verdict.AtLimit);
        Judge(Volts(null, "20 V", "30 V"), "21 V").Verdict.ShouldBe(Verdict.AtLimit);
    }

    [Fact]
    public void With_one_limit_and_no_value_as_built_it_says_inside_or_outside_and_no_share()
    {
        var result = Judge(Volts(null, "7 V", null), "7.1 V");
        result.Verdict.ShouldBe(Verdict.Within);
        result.WearUsed.ShouldBeNull();
        result.Working.Steps.ShouldContain(s => s.Contains("cannot be said how near", StringComparison.Ordinal));
        Judge(Volts(null, "7 V", null), "7 V").Verdict.ShouldBe(Verdict.AtLimit, "not below 7 may be 7");
        Judge(Volts(null, "7 V", null), "6.99 V").Verdict.ShouldBe(Verdict.Beyond);
    }

    [Fact]
    public void On_the_side_without_a_limit_nothing_is_used() => Judge(Volts("25 V", "23 V", null), "60 V").WearUsed.ShouldBe(0);

    [Fact]
    public void Without_limits_it_cannot_tell() => Judge(Volts("25 V", null, null), "25 V").Working.Result.ShouldBe("Cannot tell: there is no limit. Look it up in the manual and add it.");

    [Theory]
    [InlineData(RestorationStandard.Service, RestorationStandard.Display, "20 V", Verdict.CannotTell)]
    [InlineData(RestorationStandard.Service, RestorationStandard.Display, "25 V", Verdict.Within)]
    [InlineData(RestorationStandard.Display, RestorationStandard.Service, "20 V", Verdict.Beyond)]
    [InlineData(RestorationStandard.Display, RestorationStandard.Service, "25 V", Verdict.CannotTell)]
    public void Limits_of_another_standard_tell_only_what_follows_from_them(RestorationStandard limitsFor, RestorationStandard holds, string reading, Verdict verdict) =>
        Judge(Volts("25 V", "23 V", "28.5 V", limitsFor), reading, standard: holds).Verdict.ShouldBe(verdict);

    [Theory]
    [InlineData(Evidence.Told)]
    [InlineData(Evidence.Assumed)]
    public void What_was_only_told_or_assumed_is_not_judged(Evidence evidence)
    {
        var result = Judge(Volts("25 V", "23 V", "28.5 V"), "20 V", evidence);
        result.Verdict.ShouldBe(Verdict.CannotTell);
        result.Working.Result.ShouldBe($"Cannot tell: the number was {evidence.ToString().ToLowerInvariant()}, not measured. It would be beyond limit. Measure it.");
    }

    [Fact]
    public void A_range_is_judged_only_where_both_ends_agree()
    {
        Judge(Volts("25 V", "23 V", "28.5 V"), "22 V", to: "24 V").Verdict.ShouldBe(Verdict.CannotTell);
        Judge(Volts("25 V", "23 V", "28.5 V"), "24 V", to: "25 V").Verdict.ShouldBe(Verdict.Within);
    }

    [Fact]
    public void A_gap_of_degrees_is_a_difference()
    {
        var problems = new List<Problem>();
        var limits = CheckRule.Read(problems, "°C", "80 °C", null, "95 °C", null)!;
        CheckRule.Judge(limits, Of("90 °C", Unit.Celsius), null, Evidence.Measured, RestorationStandard.Service, "x").Working.Result.ShouldBe("Within limits: 5\u00A0°C is left.");
    }

    [Theory]
    [InlineData(null, "5 V", null, null, "Unit")]
    [InlineData("ell", null, null, null, "Unit")]
    [InlineData("V", "22 V", "23 V", null, "Nominal")]
    [InlineData("V", "29 V", null, "28 V", "Nominal")]
    [InlineData("V", null, "28 V", "23 V", "High")]
    [InlineData("V", null, "28 mm", null, "Low")]
    public void Limits_that_cannot_be_are_refused_beside_their_field(string? unit, string? nominal, string? low, string? high, string field)
    {
        var problems = new List<Problem>();
        CheckRule.Read(problems, unit, nominal, low, high, null, "x.").ShouldBeNull();
        problems.ShouldContain(p => p.Field == "x." + field);
    }

    [Fact]
    public void A_reading_inside_is_never_beyond_and_one_outside_always_is() => Gen.Select(Gen.Double[-50, 50], Gen.Double[0.1, 20], Gen.Double[0.1, 20], Gen.Double[-120, 120]).Sample((nominal, below, above, value) =>
    {
        var (verdict, used) = CheckRule.Band(value, nominal, nominal - below, nominal + above);
        var outside = value <= nominal - below || value >= nominal + above;
        double.IsFinite(used!.Value).ShouldBeTrue();

        // Within a millionth of the limit the arithmetic may fall either way, on the careful side.
        if (outside || Math.Abs(used.Value - 100) > 1e-4)
        {
            (verdict == Verdict.Beyond).ShouldBe(outside);
        }
    });

    [Fact]
    public void A_limit_of_nought_is_met_by_the_dust_of_the_arithmetic() =>
        new[] { 6.2e-68, -6.2e-68 }.ShouldAllBe(v => CheckRule.Band(v, 14, 0, 19.96).Verdict == Verdict.AtLimit);
}

public sealed class SeriesRuleTests
{
    private static SeriesResult? Of(IEnumerable<(double, double)> run, double? low = null, double? high = null) => SeriesRule.Of([.. run], low, high, Unit.Volt);

    // The stated facts of the trade: a generator that falls from 25 to 20 V as its winding warms (common practice).
    [Fact]
    public void A_generator_that_sags_is_told_with_the_minute_it_leaves_its_limits()
    {
        var result = Of([(0, 25), (5, 24), (10, 22), (20, 20)], 23, 28)!;
        result.Change.ShouldBe(-5);
        result.ChangePercent.ShouldBe(-20);
        result.OutAt!.Value.ShouldBe(7.5, 1e-9);
        result.Working.Result.ShouldBe("Falls by 5\u00A0V (20 %) in 20\u00A0min; outside its limits after 7.5\u00A0min.");
    }

    [Theory]
    [InlineData(20, 12, 60)]
    [InlineData(19.5, 30, 90)]
    [InlineData(31, 7, 25)]
    public void A_curve_that_was_made_is_found_again(double settles, double tau, double span)
    {
        var run = Enumerable.Range(0, 12).Select(i => i * span / 11).Select(t => (t, settles + ((25 - settles) * Math.Exp(-t / tau))));
        var result = Of(run)!;
        result.Settles!.Value.ShouldBe(settles, 0.01);
        result.TimeConstant!.Value.ShouldBe(tau, 0.05);
    }

    [Fact]
    public void A_straight_line_does_not_settle() => Of(Enumerable.Range(0, 10).Select(i => ((double)i, 25 - (0.3 * i))))!.Settles.ShouldBeNull();

    [Fact]
    public void A_run_that_was_too_short_does_not_settle() => Of(Enumerable.Range(0, 8).Select(i => (i * 0.5, 20 + (5 * Math.Exp(-i * 0.5 / 30)))))!.Settles.ShouldBeNull();

    [Fact]
    public void Nothing_is_said_of_one_reading()
    {
        Of([(0, 25)]).ShouldBeNull();
        Of([]).ShouldBeNull();
    }

    [Fact]
    public void Steady_and_outside_from_the_start_are_told()
    {
        Of([(0, 25), (5, 25)])!.Working.Result.ShouldBe("Stays at 25\u00A0V.");
        Of([(0, 20), (5, 21)], 23)!.OutAt.ShouldBe(0);
    }
}

public sealed class PointRulesTests
{
    private static readonly CheckLimits Volts = new("V", null, null, null, null);

    [Fact]
    public void One_reading_a_range_and_a_series_are_told_apart()
    {
        PointRules.Read(Volts, "24.1").Readings.Single().ShouldSatisfyAllConditions(r => r.Minutes.ShouldBeNull(), r => r.Value.Si.ShouldBe(24.1), r => r.To.ShouldBeNull());
        PointRules.Read(Volts, "24 to 25 V").Readings.Single().To!.Si.ShouldBe(25);
        PointRules.Read(Volts, "10\t24\n0 25.1 V\n\n5; 24.6").Readings.Select(r => (r.Minutes, r.Value.Si)).ShouldBe([(0, 25.1), (5, 24.6), (10, 24)]);
    }

    [Theory]
    [InlineData("", "Type what you measured.")]
    [InlineData("warm", null)]
    [InlineData("0 25\nlater 24", null)]
    [InlineData("0 25\n0 24", "Minute 0 stands there twice.")]
    [InlineData("0 25\n5 mm", null)]
    [InlineData("0 25\n99999999 24", null)]
    [InlineData("0 25\n-5 24", null)]
    public void What_is_no_reading_is_refused(string text, string? sentence)
    {
        var (readings, problems) = PointRules.Read(Volts, text);
        readings.ShouldBeEmpty();
        var problem = problems.ShouldHaveSingleItem();
        problem.Field.ShouldBe("Reading");
        if (sentence is not null)
        {
            problem.Sentence.ShouldBe(sentence);
        }
    }

    [Fact]
    public void Too_long_a_series_is_refused() => PointRules.Read(Volts, string.Join('\n', Enumerable.Range(0, 501).Select(i => $"{i} 25"))).Problems.ShouldHaveSingleItem();

    [Fact]
    public void A_point_needs_a_title_and_a_unit()
    {
        PointRules.Check(new PointPlan()).Problems.Select(p => p.Field).ShouldBe(["Title", "Unit"]);
        PointRules.Check(new PointPlan { Title = "Oil", Unit = "°C", Repeatability = "0.5" }).Point!.Value.Repeatability!.Value.ShouldBe(0.5, 1e-9);
    }
}
