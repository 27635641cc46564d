using CsCheck;
using OilTag.Core.Planning;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Planning;

/// <summary>Everything that is left counts, with its share and its source, and what nobody estimated is named.</summary>
public sealed class WhatIsLeftTests
{
    private static readonly LeftFacts Nothing = new() { Packages = [], Off = [], Findings = [], Damage = [] };

    private static LeftRow Row(Left left, LeftKind kind) => left.Rows.Single(r => r.Kind == kind);

    /// <summary>A structural part and four others off, ten findings that nobody decided about, and no package: that is not nothing.</summary>
    [Fact]
    public void A_machine_without_packages_is_not_done()
    {
        var left = WhatIsLeft.Of(Nothing with { Off = [new OffPart(120, false), .. Enumerable.Repeat(new OffPart(30, true), 4)], Findings = new HoursRange?[10] });

        // Four hours came off; one, one and a half and three times that go back.
        Row(left, LeftKind.PuttingBack).Hours.ShouldBe(new HoursRange(4, 6, 12));
        Row(left, LeftKind.PuttingBack).Source.ShouldContain("for 4 nobody timed or estimated it and half an hour is assumed");
        Row(left, LeftKind.Findings).Hours.ShouldBe(new HoursRange(0, 40, 160));
        Row(left, LeftKind.Findings).Source.ShouldBe("no way is written for 10 and none like them is on record; up to two days each are assumed");
        left.Rows.Sum(r => r.Share).ShouldBe(100);
        left.Unsettled.ShouldBe(Row(left, LeftKind.Findings).Share);
        left.Likely.ShouldBe((22.0 / 3) + (200.0 / 3), 1e-9);
        left.Working.Result.ShouldStartWith("About 74 h are left; in 8 runs of 10 between ");
    }

    [Fact]
    public void Nothing_is_said_to_be_nothing_that_anybody_knows_of()
    {
        var left = WhatIsLeft.Of(Nothing);
        left.Rows.ShouldBeEmpty();
        (left.Likely, left.Low, left.High, left.Unsettled).ShouldBe((0, 0, 0, 0));
        left.Working.Result.ShouldBe("Nothing is left that anybody knows of.");
    }

    [Fact]
    public void Findings_are_judged_by_their_ways_and_else_by_those_before_them()
    {
        var left = WhatIsLeft.Of(
            Nothing with { Findings = [new HoursRange(2, 5, 20), null, null], NeedWork = 0.5, Settled = 6, Each = new HoursRange(4, 8, 12) });
        Row(left, LeftKind.Findings).Hours.ShouldBe(new HoursRange(2, 5 + 8, 20 + 24));
        Row(left, LeftKind.Findings).Source.ShouldBe(
            "from the shortest way to the longest of 1; no way is written for 2; 50 in 100 of 6 settled ones led to work of 8 h each");
    }

    [Fact]
    public void What_nobody_saw_counts_as_what_was_seen()
    {
        var left = WhatIsLeft.Of(
            Nothing with { Assemblies = new AssemblyRest(4, new HoursRange(4, 40, 400), "4 not looked at"), Damage = [new LikelyDamage(0.25, new HoursRange(10, 20, 40))] });
        Row(left, LeftKind.NotFound).Hours.ShouldBe(new HoursRange(4, 5 + 40, 40 + 400));
        Row(left, LeftKind.NotFound).Count.ShouldBe(5);
        Row(left, LeftKind.NotFound).Source.ShouldBe("1 that somebody thinks likely; 4 not looked at");
    }

    [Fact]
    public void Steps_without_hours_and_things_to_look_at_again_are_named()
    {
        var left = WhatIsLeft.Of(Nothing with { Packages = [new HoursRange(10, 20, 30)], StepsWithoutHours = 3, PackagesWithoutHours = 2, Rechecks = 2 });
        Row(left, LeftKind.NoHours).Hours.ShouldBe(new HoursRange(3, 12, 48));
        Row(left, LeftKind.NoHours).Source.ShouldContain("in 2 packages");
        Row(left, LeftKind.Rechecks).Hours.ShouldBe(new HoursRange(0.5, 1, 2));
        left.Unsettled.ShouldBe(Row(left, LeftKind.NoHours).Share);
    }

    [Fact]
    public void Papers_tests_and_trials_that_are_wanted_count()
    {
        var left = WhatIsLeft.Of(Nothing with { Certificates = 2, Tests = 1, Trials = 1 });
        Row(left, LeftKind.Papers).Hours.ShouldBe(new HoursRange(0.5 + 0.5 + 1, 1 + 1.5 + 2, 2 + 4 + 6));
        Row(left, LeftKind.Papers).Count.ShouldBe(4);
        Row(left, LeftKind.Papers).Source.ShouldBe(
            "2 certificates wanted before a part is fitted, up to an hour each assumed; 1 test report wanted, half an hour to four hours each assumed; 1 trial is not ended, one to six hours each assumed");
    }

    /// <summary>One source alone: the tenth of its triangle (closed form), within what 4,096 draws leave.</summary>
    [Fact]
    public void The_range_of_one_source_is_that_of_its_triangle()
    {
        var left = WhatIsLeft.Of(Nothing with { Packages = [new HoursRange(100, 160, 400)] });
        left.Likely.ShouldBe(220);
        left.Low.ShouldBe(100 + Math.Sqrt(0.1 * 300 * 60), 4);
        left.High.ShouldBe(400 - Math.Sqrt(0.1 * 300 * 240), 6);
    }

    [Fact]
    public void More_is_never_less_and_no_number_is_outside_what_it_can_be() =>
        Gen.Select(Gen.Int[0, 400].Array[0, 30], Gen.Int[0, 30].Array[6]).Sample((off, n) =>
        {
            var facts = Nothing with { Off = [.. off.Select(m => new OffPart(m, m % 3 == 0))], Findings = new HoursRange?[n[0]], Assemblies = new AssemblyRest(n[1], new HoursRange(n[1], n[1] + n[2], n[1] + n[2] + n[3]), "some"), StepsWithoutHours = n[4], Rechecks = n[5] };
            var left = WhatIsLeft.Of(facts);
            var more = WhatIsLeft.Of(facts with { StepsWithoutHours = facts.StepsWithoutHours + 1, Off = [.. facts.Off, new OffPart(60, false)] });
            return left.Rows.All(r => r.Count > 0 && r.Hours.Low >= 0 && r.Hours.Low <= r.Hours.High && double.IsFinite(r.Hours.High) && r.Source.Length > 0)
                && (left.Likely <= 0 || left.Rows.Sum(r => r.Share) == 100)
                && left.Low <= left.High + 1e-9 && left.Unsettled is >= 0 and <= 100
                && more.Likely > left.Likely;
        });
}
