using CsCheck;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Survey;

/// <summary>A wreck is judged by how bad its assemblies are, and costs neither what a sound machine does nor nothing.</summary>
public sealed class AssemblyRuleTests
{
    private static AssemblyStand Unseen(AssemblyCondition? condition) => new(condition, false, 0);

    [Fact]
    public void With_too_few_of_our_own_the_assumption_is_told()
    {
        var (hours, source) = AssemblyRule.Worn([(AssemblyCondition.Worn, 30), (null, 20)]);
        hours.ShouldBe(AssemblyRule.AssumedWorn);
        source.ShouldBe("8 to 80 h, likely 24, assumed for a worn one, as only 2 of ours are on record");
        AssemblyRule.Worn([]).Source.ShouldContain("as none of ours are on record");
        AssemblyRule.Worn([(null, 0), (null, 0), (null, 0)]).Hours.ShouldBe(
            AssemblyRule.AssumedWorn,
            "three without a single hour say nothing");
    }

    /// <summary>A bad one of 50 hours, a sound one of 6 and a worn one of 20: 76 ÷ (2.5 + 0.3 + 1) = 20 hours for a worn one.</summary>
    [Fact]
    public void A_worn_one_is_learned_from_what_ours_took_by_how_bad_they_were()
    {
        var (hours, source) = AssemblyRule.Worn([(AssemblyCondition.Bad, 50), (AssemblyCondition.Sound, 6), (null, 20)]);
        hours.ShouldBe(new HoursRange(20 / 1.5, 20, 30));
        source.ShouldBe("a worn one takes about 20 h, two thirds to one and a half times that, from 3 assemblies of ours");
    }

    [Fact]
    public void A_wreck_takes_five_times_what_a_worn_one_does_less_what_is_on_record()
    {
        var worn = (new HoursRange(10, 20, 40), "a worn one takes 20 h");
        AssemblyRule.Rest([Unseen(AssemblyCondition.Wreck)], worn).Hours.ShouldBe(new HoursRange(20, 100, 400));
        var rest = AssemblyRule.Rest(
            [new AssemblyStand(AssemblyCondition.Wreck, true, 30), Unseen(null), new AssemblyStand(null, true, 15)],
            worn);
        rest.Hours.ShouldBe(new HoursRange(0, 70 + 10, 370 + 80));
        rest.Count.ShouldBe(2);
        rest.Source.ShouldBe("assemblies nobody has had apart: 1 a wreck, 1 not looked at; a worn one takes 20 h");
    }

    [Fact]
    public void What_somebody_had_apart_stands_by_its_record() =>
        AssemblyRule.Rest(
            [new AssemblyStand(null, true, 0), new AssemblyStand(AssemblyCondition.Sound, true, 500)],
            (new HoursRange(10, 20, 40), "x")).ShouldBe(AssemblyRest.None);

    [Fact]
    public void Pounds_come_from_our_own_jobs_or_are_assumed()
    {
        AssemblyRule.PoundsAnHour([(10, 30), (20, 60), (30, 90)]).Pounds.ShouldBe(new HoursRange(1.5, 3, 6));
        AssemblyRule.PoundsAnHour([(10, 30)]).ShouldSatisfyAllConditions(
            p => p.Pounds.ShouldBe(AssemblyRule.AssumedPounds),
            p => p.Source.ShouldContain("as only 1 of ours has both on record"));
    }

    /// <summary>Worse never takes less, and nothing that is wanted is nothing.</summary>
    [Fact]
    public void Worse_takes_longer() => Gen.Select(Gen.Double[1, 200], Gen.Double[0, 100]).Sample((likely, done) =>
    {
        var worn = (new HoursRange(likely / 2, likely, likely * 2), "own");
        var all = Enum.GetValues<AssemblyCondition>()
            .Select(c => AssemblyRule.Rest([new AssemblyStand(c, true, done)], worn).Hours)
            .ToList();
        return all.Zip(all.Skip(1)).All(x => x.First.Likely <= x.Second.Likely && x.First.High <= x.Second.High)
            && all.TrueForAll(h => h.Low >= 0 && h.Low <= h.Likely && h.Likely <= h.High)
            && AssemblyRule.Rest([Unseen(AssemblyCondition.Sound)], worn).Hours.Likely > 0;
    });
}
