using OilTag.Core.Lifting;

namespace OilTag.Core.Tests.Lifting;

/// <summary>Plans of lifts: what they come to, and when nobody may sign. Figures: reference values, section 11.</summary>
public sealed class LiftRuleTests
{
    private const double Lb = 0.45359237;

    private static LiftPlan Plan(string masses, string supports, double dynamic = 1.1)
    {
        List<Problem> problems = [];
        var plan = new LiftPlan { Title = "Lift", Masses = LiftRule.Masses(masses, problems), Supports = LiftRule.Supports(supports, problems), Dynamic = dynamic, Fuel = "drained", Floor = "slab", People = ["Una calls"], Steps = ["Up"], Stops = ["Anybody calls stop"] };
        problems.ShouldBeEmpty();
        return plan;
    }

    [Fact]
    public void Three_jacks_bear_what_the_worked_example_says()
    {
        var result = LiftRule.Work(Plan("Airframe; 4200 lb; 25 in; 0", "Left; 0; -60 in; 3 tonne; 1; crib\nRight; 0; 60 in; 3 tonne; 2; crib\nTail; 200 in; 0; 1 tonne; 3; crib"));
        result.WhyNot.ShouldBeEmpty();
        result.Warnings.ShouldBeEmpty();
        result.Loads.Select(l => l.Kilograms / Lb).ShouldBe([1837.5, 1837.5, 525], 0.01);
        result.Sketch.ShouldNotBeNull();

        // A cell stops at the planned worst and a quarter, or at the working share where that is less.
        result.Loads[0].Limit.ShouldBe(1837.5 * Lb * 1.25, 1e-6);
    }

    [Fact]
    public void Four_jacks_are_sized_by_the_worst_that_packing_makes_of_it()
    {
        var result = LiftRule.Work(Plan("Engine; 12 tonne; 1.7 m; 0.9 m", "1; 0; 0; 8 tonne; 1; plate\n2; 4 m; 0; 8 tonne; 2; plate\n3; 0; 2 m; 8 tonne; 3; plate\n4; 4 m; 2 m; 8 tonne; 4; plate"));
        result.Loads.Select(l => l.Kilograms).ShouldBe([3750, 2850, 3150, 2250], 0.001);
        result.Loads.Select(l => l.Worst).ShouldBe([6600, 5100, 5400, 5100], 0.001);
        result.Loads[0].Use.ShouldBe(113.4, 0.05);
        result.WhyNot.ShouldBeEmpty();
        result.Warnings.ShouldContain(w => w.Contains("carries more than its working share: 113", StringComparison.Ordinal));
    }

    [Fact]
    public void What_was_taken_off_counts_with_a_minus()
    {
        var result = LiftRule.Work(Plan("As weighed; 4200 lb; 25 in; 0\nFuel; -360 lb; 40 in; 0", "Left; 0; -60 in; 3 tonne; 0; crib\nRight; 0; 60 in; 3 tonne; 0; crib\nTail; 200 in; 0; 1 tonne; 0; crib"));
        result.Kilograms.ShouldBe(3840 * Lb, 1e-6);
        result.X.ShouldBe(23.59 * 0.0254, 0.0001);
    }

    [Theory]
    [InlineData("", "a; 0; 0; 1 tonne\nb; 1 m; 0; 1 tonne", "Weigh first")]
    [InlineData("m; 100 kg; 0.5 m; 0", "a; 0; 0; 1 tonne", "fewer than two")]
    [InlineData("m; 100 kg; 0.5 m; 0\nn; -100 kg; 0.5 m; 0", "a; 0; 0; 1 tonne\nb; 1 m; 0; 1 tonne", "Nothing is left")]
    [InlineData("m; 100 kg; 1.5 m; 0", "a; 0; 0; 1 tonne\nb; 1 m; 0; 1 tonne", "it tips")]
    [InlineData("m; 100 kg; 0.5 m; 0.2 m", "a; 0; 0; 1 tonne\nb; 1 m; 0; 1 tonne", "on the line between them")]
    [InlineData("m; 100 kg; 0.5 m; 0", "a; 0; 0; 1 tonne\nb; 1 m; 0; 1 tonne\nc; 2 m; 0; 1 tonne", "roll over")]
    [InlineData("m; 4 tonne; 0.5 m; 0", "a; 0; 0; 2 tonne\nb; 1 m; 0; 2 tonne", "Take a larger one")]
    [InlineData("m; 100 kg; 0.5 m; 0", "a; 0; 0; 1 tonne; 2\nb; 1 m; 0; 1 tonne; 2", "under two supports")]
    public void It_cannot_be_signed(string masses, string supports, string why) => LiftRule.Work(Plan(masses, supports)).WhyNot.ShouldContain(w => w.Contains(why, StringComparison.Ordinal));

    [Fact]
    public void A_plan_without_people_steps_stops_and_floor_cannot_be_signed() =>
        LiftRule.Work(new LiftPlan { Title = "Lift", Masses = Plan("m; 100 kg; 0.5 m; 0", string.Empty).Masses, Supports = Plan(string.Empty, "a; 0; 0; 1 tonne\nb; 1 m; 0; 1 tonne").Supports }).WhyNot.Count.ShouldBe(4);

    // A jack at its rating passes with its factor, a hair more does not: "shall not exceed".
    [Theory]
    [InlineData(2.0, true)]
    [InlineData(2.001, false)]
    public void At_the_rating_it_passes(double tonnes, bool passes) => (LiftRule.Work(Plan(FormattableString.Invariant($"m; {tonnes} tonne; 0.5 m; 0"), "a; 0; 0; 1.1 tonne\nb; 1 m; 0; 1.1 tonne")).WhyNot.Count == 0).ShouldBe(passes);

    [Fact]
    public void The_cell_that_is_furthest_over_its_limit_is_named()
    {
        var result = LiftRule.Work(Plan("m; 1000 kg; 0.5 m; 0", "a; 0; 0; 2 tonne; 1\nb; 1 m; 0; 2 tonne; 2"));
        result.Loads[0].Limit.ShouldBe(625, 1e-9);
        LiftRule.Over(result, [625, null]).ShouldBeNull();
        LiftRule.Over(result, [626, 640]).ShouldBe(1);
    }

    [Theory]
    [InlineData("Masses", "Airframe; 4200; 25 in; 0", "Masses")]
    [InlineData("Masses", "Airframe; 0 kg; 25 in; 0", "Masses")]
    [InlineData("Masses", "Airframe", "Masses")]
    [InlineData("Supports", "jack; 0; 0; 3 ton", "Supports")]
    [InlineData("Supports", "jack; 0; 0; 3 tonne; hundred", "Supports")]
    public void Lines_that_cannot_be_read_are_quoted(string field, string line, string beside)
    {
        List<Problem> problems = [];
        if (field == "Masses")
        {
            LiftRule.Masses(line, problems).ShouldBeEmpty();
        }
        else
        {
            LiftRule.Supports(line, problems).ShouldBeEmpty();
        }

        problems.ShouldHaveSingleItem().Field.ShouldBe(beside);
        problems[0].Sentence.ShouldStartWith($"“{line}”");
    }

    /// <summary>Forces and both moments balance whatever the supports, and no share is below nought: 2,000 random bodies that stand.</summary>
    [Fact]
    public void Shares_balance()
    {
        var dice = new Random(3);
        var stood = 0;
        for (var i = 0; i < 4000; i++)
        {
            var n = dice.Next(3, Statics.Most + 1);
            double[] x = [.. Enumerable.Range(0, n).Select(_ => dice.NextDouble() * 10)];
            double[] y = [.. Enumerable.Range(0, n).Select(_ => dice.NextDouble() * 4)];
            var (gx, gy) = (x.Average() + (dice.NextDouble() - 0.5), y.Average() + (0.4 * (dice.NextDouble() - 0.5)));
            if (Statics.On(x, y, gx, gy).Loads is not { } loads)
            {
                continue;
            }

            stood++;
            loads.Shares.Sum().ShouldBe(1, 1e-9);
            loads.Shares.Zip(x, (s, v) => s * v).Sum().ShouldBe(gx, 1e-8);
            loads.Shares.Zip(y, (s, v) => s * v).Sum().ShouldBe(gy, 1e-8);
            loads.Shares.Min().ShouldBeGreaterThan(-1e-9);
            loads.Worst.Max().ShouldBeLessThanOrEqualTo(1 + 1e-9);
        }

        stood.ShouldBeGreaterThan(2000);
    }
}
