using NodaTime;
using OilTag.Core.People;

namespace OilTag.Core.Tests.People;

/// <summary>Checks named “reference” are worked examples of the design's reference book, section 16 (computed there).</summary>
public sealed class InKindTests
{
    private static readonly LocalDate Day = new(2031, 3, 8);

    private static readonly HourRate Fitter = new() { Skill = "fitter", Pence = 2850, From = Day.PlusYears(-1), Source = "survey" };

    private static readonly HourRate Other = new() { Pence = 1500, From = Day.PlusYears(-1), Source = "survey" };

    // Reference: 09:00-12:30, 11:30-15:00, 16:00-17:15 are 7.25 h, not 8.25.
    [Fact]
    public void Times_that_overlap_count_once() =>
        InKindRule.Union([(new LocalTime(9, 0), 210), (new LocalTime(11, 30), 210), (new LocalTime(16, 0), 75)]).ShouldBe(435);

    // Reference: 22:30-01:15 is 1.5 h and 1.25 h.
    [Fact]
    public void A_shift_past_midnight_is_split() => InKindRule.AtMidnight(new LocalTime(22, 30), new LocalTime(1, 15)).ShouldBe((90, 75));

    // Reference: 17,350 h are 8.675 years of 2,000 h.
    [Fact]
    public void Hours_in_years_of_a_mechanic() => (17_350 / InKindRule.MechanicYear).ShouldBe(8.675);

    // Reference: fitter 310 h at 28.50 and labourer 545 h at 15.00 are 17,010.00.
    [Fact]
    public void The_value_of_two_kinds_of_work()
    {
        var hours = Enumerable.Range(0, 62).Select(d => new ClaimedHours("Ada", Day.PlusDays(-d), null, 300, "fitter")).Concat(Enumerable.Range(0, 109).Select(d => new ClaimedHours("Ben", Day.PlusDays(-d), null, 300, "sweeping"))).ToList();
        var claim = InKindRule.Work(hours, [Fitter, Other]);
        claim.Lines.Select(l => (l.Skill, l.Minutes, l.Value)).ShouldBe([("", 545 * 60, 817_500), ("fitter", 310 * 60, 883_500)]);
        claim.Value.ShouldBe(1_701_000);
        claim.Flags.ShouldBeEmpty();
    }

    [Fact]
    public void A_shift_written_down_twice_counts_once_and_is_said()
    {
        var claim = InKindRule.Work([new("Ada", Day, new LocalTime(9, 0), 210, ""), new("Ada", Day, new LocalTime(11, 30), 210, ""), new("Ben", Day, new LocalTime(9, 0), 210, "")], [Other]);
        claim.Minutes.ShouldBe(360 + 210);
        claim.LeftOut.ShouldBe(60);
        claim.Flags.ShouldHaveSingleItem().ShouldBe("Ada, Sat 8 Mar 2031: 1 h are written down twice and count once.");
    }

    [Fact]
    public void The_rate_of_the_day_counts_and_days_without_one_are_left_out()
    {
        var raised = new HourRate { Pence = 1600, From = Day, Source = "letter" };
        var claim = InKindRule.Work([new("Ada", Day.PlusDays(-1), null, 60, ""), new("Ada", Day, null, 60, ""), new("Ada", Day.PlusYears(-2), null, 60, "")], [Other, raised]);
        claim.Lines.Select(l => (l.Pence, l.Minutes)).ShouldBe([(1500, 60), (1600, 60)]);
        claim.LeftOut.ShouldBe(60);
    }

    [Fact]
    public void A_long_day_is_asked_about() =>
        InKindRule.Work([new("Ada", Day, null, 800, "")], [Other]).Flags.ShouldHaveSingleItem().ShouldContain("13 h 20 on one day");

    [Theory]
    [InlineData("15", 1500)]
    [InlineData("£28.50", 2850)]
    public void A_rate_is_read_in_pounds(string text, int pence) => InKindRule.CheckRate(text, Day, "a survey").Pence.ShouldBe(pence);

    [Theory]
    [InlineData("0", "a survey", "Pounds")]
    [InlineData("501", "a survey", "Pounds")]
    [InlineData("15.005", "a survey", "Pounds")]
    [InlineData("lots", "a survey", "Pounds")]
    [InlineData("15", "", "Source")]
    public void A_rate_without_sense_or_source_is_refused(string pounds, string source, string field) =>
        InKindRule.CheckRate(pounds, Day, source).Problems.ShouldContain(p => p.Field == field);
}
