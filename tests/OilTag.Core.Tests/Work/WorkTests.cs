using CsCheck;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Work;

public sealed class PackageRulesTests
{
    [Theory]
    [InlineData(true, false, true)]
    [InlineData(false, false, false)]
    [InlineData(true, true, false)]
    public void Only_an_inspector_who_did_not_do_the_work_signs(bool inspector, bool worked, bool may) =>
        (PackageRules.WhyNotSign(inspector, worked, [], false, false).Count == 0).ShouldBe(may);

    [Fact]
    public void What_comes_before_a_hold_is_done_first_and_a_hold_is_lifted_once()
    {
        PackageRules.WhyNotSign(true, false, ["Drill", "Form"], false, false).Single().Sentence.ShouldBe("Not done yet: drill, form.");
        PackageRules.WhyNotSign(true, false, [], false, false,
            minor: true).Single().Sentence.ShouldBe("Nobody under 18 signs for what others rely on.");
        PackageRules.WhyNotSign(true, false, [], true, false).Single().Sentence.ShouldBe("It is signed already.");
        PackageRules.WhyNotSign(true, false, [], false, true).Single().Sentence.ShouldBe("The package is closed.");
    }

    [Fact]
    public void A_package_closes_only_when_nothing_is_open()
    {
        PackageRules.WhyNotClose([], 0, "", false, []).ShouldBeEmpty();
        PackageRules.WhyNotClose([("Inspect", true)], 0, "", false, []).Single().Sentence.ShouldBe("The hold “Inspect” is not lifted.");
        PackageRules.WhyNotClose([("Drill", false)], 2, "The crane", false, []).Select(p =>
            p.Sentence).ShouldBe(["Not done yet: drill.", "2 pieces on the route card are not finished.", "It waits on the crane."]);
        PackageRules.WhyNotClose([], 0, "", true, []).Single().Sentence.ShouldBe("It is closed already.");
    }

    [Fact]
    public void Hours_first_pay_for_what_is_done_and_an_open_step_never_vanishes()
    {
        StepHours[] steps = [new(new(1, 2, 4), true), new(new(4, 8, 16), false)];
        PackageRules.Remaining(steps, 2).ShouldBe(new HoursRange(4, 8, 16));
        PackageRules.Remaining(steps, 5).ShouldBe(new HoursRange(1, 5, 13));
        PackageRules.Remaining(steps, 500).ShouldBe(new HoursRange(1, 2, 4));
        PackageRules.Remaining([new StepHours(new(1, 2, 4), true)], 9).ShouldBe(HoursRange.None);
    }

    [Fact]
    public void What_somebody_says_is_left_stands_above_the_estimate()
    {
        StepHours[] steps = [new(new(4, 8, 16), false, Left: 20, Booked: 10, Since: 0), new(new(2, 4, 8), false)];
        PackageRules.RemainingBySteps(steps, 10).ShouldBe([new HoursRange(10, 20, 40), new HoursRange(2, 4, 8)]);

        // Three hours more on it come off what was said; hours on the package as a whole come off the other step.
        PackageRules.RemainingBySteps([steps[0] with { Booked = 13, Since = 3 }, steps[1]],
            14).ShouldBe([new HoursRange(8.5, 17, 34), new HoursRange(1, 3, 7)]);

        // However long it takes, what is open is not finished.
        PackageRules.RemainingBySteps([steps[0] with { Booked = 90, Since = 80 }], 90)[0].Likely.ShouldBe(5);
        PackageRules.RemainingBySteps([steps[0] with { Done = true }], 10).ShouldBe([HoursRange.None]);
    }

    [Fact]
    public void More_hours_booked_never_leave_more_to_do_and_the_range_stays_in_order() =>
        Gen.Select(Gen.Double[0, 100], Gen.Double[0, 50], Gen.Double[0, 50], Gen.Double[0, 300],
            Gen.Double[0, 50]).Sample((low, a, b, booked, more) =>
        {
            StepHours[] steps = [new(new(low, low + a, low + a + b), false), new(new(1, 2, 3), true)];
            var now = PackageRules.Remaining(steps, booked);
            var then = PackageRules.Remaining(steps, booked + more);
            return now.Low <= now.Likely && now.Likely <= now.High && then.High <= now.High && then.Low <= now.Low && then.Low >= 0;
        });

    [Fact]
    public void What_is_still_wanted_stands_in_the_way_of_closing_and_a_lead_may_pass_over_it()
    {
        var problem = PackageRules.WhyNotClose([], 0, string.Empty, false, ["140 × rivets"]).ShouldHaveSingleItem();
        (problem.Field, problem.Sentence).ShouldBe((PackageRules.Wanted,
            "140 × rivets is still wanted for it. Say that it is here or not needed."));
    }

    [Fact]
    public void Every_decision_that_needs_work_starts_with_steps_and_ends_in_a_hold_where_something_is_made()
    {
        foreach (var d in Enum.GetValues<Disposition>().Where(Dispositions.NeedsWork))
        {
            var steps = StepText.Read(StartingSteps.For(d)!.Lines, StepWords.None).Steps;
            steps.ShouldAllBe(s => s.Hours!.Low <= s.Hours.Likely && s.Hours.Likely <= s.Hours.High);
            (steps[^1].Hold || !Dispositions.Replaces(d)).ShouldBeTrue(d.ToString());
        }
    }

    [Theory]
    [InlineData("41.50", 4150L)]
    [InlineData("£1280", 128000L)]
    [InlineData("0.01", 1L)]
    [InlineData("1.005", null)]
    [InlineData("-3", null)]
    [InlineData("0", null)]
    [InlineData("1,200", null)]
    [InlineData("much", null)]
    public void Money_is_read_in_pounds(string typed, long? pence) => PackageRules.CheckCost("paint", typed).Pence.ShouldBe(pence);

    [Theory]
    [InlineData(128000, "£1,280")]
    [InlineData(4150, "£41.50")]
    [InlineData(0, "£0")]
    public void Money_is_shown_with_pence_only_where_there_are_any(long pence, string shown) => Money.Pounds(pence).ShouldBe(shown);
}
