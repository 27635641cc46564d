using CsCheck;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Survey;

/// <summary>Options compared in the stated order; every case is worked by hand from that order (common practice).</summary>
public sealed class OptionRuleTests
{
    private static readonly FindingOption Leave = Option(Disposition.Leave, 35, 8, 0, 100);
    private static readonly FindingOption Repair = Option(Disposition.Repair, 410, 38, 5, 90, "rivets");
    private static readonly FindingOption Remake = Option(Disposition.Remake, 1280, 64, 9, 60);
    private static readonly FindingOption Donor = Option(Disposition.Donor, 150, 52, 6, 70);
    private static readonly FindingOption Buy = Option(Disposition.Buy, 2050, 22, 13, 60);
    private static readonly FindingOption ForNow = Option(Disposition.TemporaryRepair, 20, 4, 0, 95);

    private static FindingOption Option(Disposition d, double pounds, double hours, double weeks, int original, string skill = "") =>
        new() { Disposition = d, What = "so", CostLow = (long)(pounds * 80), CostLikely = (long)(pounds * 100), CostHigh = (long)(pounds * 150), HoursLow = hours / 2, HoursLikely = hours, HoursHigh = hours * 2, Weeks = weeks, OriginalPercent = original, Skill = skill };

    private static OptionFacts Facts(Verdict verdict, RepairPolicy policy = RepairPolicy.LeaveWhatIsSound, Approach approach = Approach.Conserve, double? weeks = null, double? used = null, int hour = 0, RestorationStandard standard = RestorationStandard.Demonstrate) =>
        new(verdict, used, standard, policy, approach, weeks, hour, ["rivets, plates", "machinist"]);

    private static Disposition? Best(OptionFacts facts, params FindingOption[] options) => OptionRule.Compare(options, facts).Recommended?.Disposition;

    [Fact]
    public void What_is_sound_is_left_and_the_other_policy_is_told_with_its_cost()
    {
        var c = OptionRule.Compare([Leave, Repair, Remake], Facts(Verdict.Within, used: 60));
        c.Recommended.ShouldBe(Leave);
        c.Other.ShouldBe(Repair);
        c.Working.Steps.ShouldContain("Under “replace while apart” it would be repair: £375 more and 30 h more.");
        c.Working.Result.ShouldBe("Leave: so. Likely £35 and 8 h, nothing to wait for, keeps 100 % of the original. Policy: leave what is sound; conserve.");

        // Hardly worn at all, even the other school leaves it.
        OptionRule.Compare([Leave, Repair], Facts(Verdict.Within, used: 20)).Other.ShouldBe(Leave);
    }

    [Fact]
    public void Beyond_the_limit_nothing_may_stay_without_a_concession()
    {
        var c = OptionRule.Compare([Leave, Repair, Remake, Donor], Facts(Verdict.Beyond));
        c.Recommended.ShouldBe(Repair);
        c.Options[0].WhyNot!.ShouldContain("takes a concession");
        c.Working.Steps.ShouldContain(s => s.StartsWith("Remake", StringComparison.Ordinal) && s.Contains("keeps 60 % of the original, not 90 %"));
        Best(Facts(Verdict.Beyond), Leave).ShouldBeNull();
        OptionRule.Compare([Leave], Facts(Verdict.Beyond)).Working.Result.ShouldBe("None of these is allowed.");
        OptionRule.Compare([], Facts(Verdict.Beyond)).Working.Result.ShouldBe("No option is written down yet.");
    }

    [Fact]
    public void Conserving_goes_by_the_original_and_renewing_by_money_and_hours()
    {
        Best(Facts(Verdict.Beyond, approach: Approach.Conserve), Repair, Donor, Buy).ShouldBe(Disposition.Repair);
        Best(Facts(Verdict.Beyond, approach: Approach.Renew), Repair, Donor, Buy).ShouldBe(Disposition.Donor);

        // With hours at £60: repair 410 + 2,280, donor 150 + 3,120, buy 2,050 + 1,320.
        Best(Facts(Verdict.Beyond, approach: Approach.Renew, hour: 6000), Repair, Donor, Buy).ShouldBe(Disposition.Repair);
    }

    [Fact]
    public void What_comes_too_late_stands_behind_and_what_does_not_last_behind_what_does()
    {
        var c = OptionRule.Compare([Buy, Donor], Facts(Verdict.Beyond, weeks: 7));
        c.Recommended.ShouldBe(Donor);
        c.Working.Steps.ShouldContain("Buy (so): 13 weeks to wait, and the milestone is 7 weeks away.");
        Best(Facts(Verdict.Beyond, weeks: 7), ForNow, Repair).ShouldBe(Disposition.Repair);
        Best(Facts(Verdict.Beyond, weeks: 2), ForNow, Repair).ShouldBe(Disposition.TemporaryRepair);
        OptionRule.Compare([Buy], Facts(Verdict.Beyond, weeks: 7)).Working.Cautions.ShouldContain(w => w.StartsWith("None of them is there in time"));
    }

    [Fact]
    public void Skill_licence_and_missing_numbers_are_cautioned_about()
    {
        OptionRule.Compare([Option(Disposition.Repair, 1, 1, 0, 90, "white metal")], Facts(Verdict.Beyond)).Working.Cautions.ShouldContain("Nobody here has “white metal”. Find somebody, or send it out.");
        OptionRule.Compare([Repair], Facts(Verdict.CannotTell)).Working.Cautions.ShouldContain(c => c.StartsWith("The numbers cannot tell"));
        OptionRule.Compare([Option(Disposition.Concession, 0, 0, 0, 100)], Facts(Verdict.Beyond, standard: RestorationStandard.Service)).Working.Cautions.ShouldContain(c => c.Contains("licensed"));
    }

    [Theory]
    [InlineData(Disposition.LaterPattern, RestorationStandard.Conserve, false)]
    [InlineData(Disposition.LaterPattern, RestorationStandard.Display, true)]
    [InlineData(Disposition.Scrap, RestorationStandard.Display, false)]
    [InlineData(Disposition.Scrap, RestorationStandard.Conserve, true)]
    public void The_standard_allows_or_not(Disposition d, RestorationStandard standard, bool allowed) =>
        (OptionRule.Compare([Option(d, 1, 1, 0, 50)], Facts(Verdict.AtLimit, standard: standard)).Recommended is not null).ShouldBe(allowed);

    [Fact]
    public void The_order_in_which_options_were_written_down_changes_nothing() => Gen.Shuffle(new[] { Leave, Repair, Remake, Donor, Buy, ForNow }).Select(Gen.Int[0, 3], Gen.Bool, Gen.Bool, Gen.Int[0, 20]).Sample((options, verdict, replace, conserve, weeks) =>
    {
        var facts = Facts((Verdict)verdict, replace ? RepairPolicy.ReplaceWhileApart : RepairPolicy.LeaveWhatIsSound, conserve ? Approach.Conserve : Approach.Renew, weeks, verdict == 0 ? weeks * 4.0 : null);
        return OptionRule.Compare(options, facts).Recommended == OptionRule.Compare([.. options.Reverse()], facts).Recommended;
    });

    [Theory]
    [InlineData("410", 41000, 41000, 41000)]
    [InlineData("£300 410 620", 30000, 41000, 62000)]
    [InlineData("1,280", 128000, 128000, 128000)]
    [InlineData("0.5-1-2", 50, 100, 200)]
    [InlineData("", 0, 0, 0)]
    public void Figures_are_one_or_three(string cost, long low, long likely, long high)
    {
        var o = Option(Disposition.Leave, 0, 0, 0, 0);
        OptionRule.Check(new OptionEntry { Disposition = Disposition.Repair, What = "x", Cost = cost }, o).ShouldBeEmpty();
        (o.CostLow, o.CostLikely, o.CostHigh).ShouldBe((low, likely, high));
    }

    [Theory]
    [InlineData("Cost", "400 300 600")]
    [InlineData("Cost", "400 500")]
    [InlineData("Cost", "a lot")]
    [InlineData("Cost", "NaN")]
    [InlineData("Cost", "1,5")]
    [InlineData("Hours", "12,50")]
    [InlineData("Hours", "1e9")]
    [InlineData("Weeks", "-1")]
    [InlineData("Weeks", "soon")]
    [InlineData("Original", "101")]
    [InlineData("What", "")]
    [InlineData("Disposition", null)]
    public void Figures_that_cannot_be_are_refused_at_their_field(string field, string? value)
    {
        var e = new OptionEntry { Disposition = Disposition.Repair, What = "x" };
        e = field switch { "Cost" => e with { Cost = value }, "Hours" => e with { Hours = value }, "Weeks" => e with { Weeks = value }, "Original" => e with { Original = value }, "What" => e with { What = value }, _ => e with { Disposition = null } };
        OptionRule.Check(e, Option(Disposition.Leave, 0, 0, 0, 0)).Single().Field.ShouldBe(field);
    }

    [Theory]
    [InlineData(Disposition.TemporaryRepair, false, null, "ReturnOn")]
    [InlineData(Disposition.Borrow, false, null, "ReturnOn")]
    [InlineData(Disposition.TemporaryRepair, false, -1, "ReturnOn")]
    [InlineData(Disposition.Concession, false, null, "Disposition")]
    [InlineData(Disposition.Concession, true, null, null)]
    [InlineData(Disposition.TemporaryRepair, false, 90, null)]
    public void A_temporary_repair_comes_back_and_a_concession_has_its_giver(Disposition d, bool mayConcede, int? days, string? field)
    {
        var today = new LocalDate(2026, 5, 1);
        FindingRule.CheckDecision(d, "why", 0, 0, mayConcede, days is { } n ? today.PlusDays(n) : null, false, today).Select(p => p.Field).ShouldBe(field is null ? [] : [field]);
        FindingRule.CheckDecision(Disposition.TemporaryRepair, "why", 0, 0, false, null, true, today).ShouldBeEmpty();
    }

    [Fact]
    public void The_steps_of_a_package_share_the_hours_of_the_option()
    {
        var steps = StartingSteps.Share(StepText.Read(StartingSteps.For(Disposition.Repair)!.Lines, StepWords.None).Steps, new HoursRange(30, 38, 60));
        steps.Aggregate(HoursRange.None, (sum, o) => sum + o.Hours!).ShouldSatisfyAllConditions(h => h.Low.ShouldBe(30, 1e-9), h => h.Likely.ShouldBe(38, 1e-9), h => h.High.ShouldBe(60, 1e-9));
        steps.Count(o => o.Hold).ShouldBe(1);
    }
}

/// <summary>A reading as a range gives a verdict only where both ends agree.</summary>
public sealed class RangedReadingTests
{
    private static FindingCheck Check(string reading, string nominal = "10 mm", string limit = "7.5 mm") => FindingRule.Check(new FindingEntry { What = "x", Feature = Feature.Thickness, Reading = reading, Nominal = nominal, Limit = limit });

    private static VerdictResult Judge(string reading)
    {
        var c = Check(reading);
        c.Problems.ShouldBeEmpty();
        return VerdictRule.Judge(new Finding { What = "x", Feature = Feature.Thickness, Reading = c.Reading, ReadingTo = c.ReadingTo, Nominal = c.Nominal, Limit = c.Limit }, RestorationStandard.Service, "x");
    }

    [Theory]
    [InlineData("7 to 8 mm", Verdict.CannotTell)]
    [InlineData("6-7 mm", Verdict.Beyond)]
    [InlineData("8.2 to 9.5 mm", Verdict.Within)]
    [InlineData("9 mm", Verdict.Within)]
    [InlineData("7.6 to 7.9 mm", Verdict.AtLimit)]
    public void Both_ends_decide(string reading, Verdict verdict) => Judge(reading).Verdict.ShouldBe(verdict);

    [Fact]
    public void What_cannot_be_told_says_both_ends() =>
        Judge("7 to 8 mm").Working.Result.ShouldContain("is beyond limit, the other at limit. Measure it closer.");

    [Fact]
    public void The_worse_end_is_shown() => Judge("6 to 7 mm").WearUsed!.Value.ShouldBe(160, 1e-9);

    [Fact]
    public void A_range_is_written_as_it_reads_back()
    {
        var c = Check("7 to 8 mm");
        var text = new Finding { What = "x", Reading = c.Reading, ReadingTo = c.ReadingTo }.ReadingText!;
        Check(text).ReadingTo!.Si.ShouldBe(0.008, 1e-12);
        Check("8 mm").ReadingTo.ShouldBeNull();
    }
}

/// <summary>Whole donor machines.</summary>
public sealed class DonorRuleTests
{
    // Reference worked check: price 2500, carriage 600, 40 h at 0, storage 240, scrap 350.
    [Fact]
    public void The_worked_check_comes_out()
    {
        var (parts, problems) = DonorRule.ReadParts("gearbox 900 90\ncylinder head £1,400 60%\naxle 650 80\nradiator and cowls 2200 50");
        problems.ShouldBeEmpty();
        var r = DonorRule.Work(new DonorMachine(250_000, 60_000, 40, 0, 24_000, 35_000), parts);
        (r.NetPence, r.WorthPence, r.BreakEvenPence, r.Pays).ShouldBe((299_000, 327_000, 278_000, true));
        r.Working.Result.ShouldBe("Buy it: it gains £280.");
    }

    [Fact]
    public void At_the_break_even_price_it_neither_gains_nor_loses() => Gen.Select(Gen.Long[0, 1_000_000], Gen.Int[0, 200], Gen.Int[0, 5000], Gen.Long[0, 500_000], Gen.Int[0, 100]).Sample((carriage, hours, rate, resale, chance) =>
    {
        DonorPart[] parts = [new("gearbox", 90_000, chance / 100.0), new("axle", 2_000_000, 0.5)];
        var even = DonorRule.Work(new DonorMachine(0, carriage, hours, rate, 100, resale), parts).BreakEvenPence;
        var at = DonorRule.Work(new DonorMachine(even, carriage, hours, rate, 100, resale), parts);
        return at.NetPence == at.WorthPence && !at.Pays && DonorRule.Work(new DonorMachine(even - 1, carriage, hours, rate, 100, resale), parts).Pays;
    });

    [Theory]
    [InlineData("gearbox")]
    [InlineData("gearbox 900")]
    [InlineData("gearbox lots 90")]
    [InlineData("gearbox 900 190")]
    [InlineData("900 90")]
    [InlineData("gearbox 2,50 90")]
    [InlineData("gearbox -900 90")]
    public void A_line_that_cannot_be_read_says_so(string line) => DonorRule.ReadParts(line).Problems.Single().Sentence.ShouldContain("such as gearbox 900 90");
}
