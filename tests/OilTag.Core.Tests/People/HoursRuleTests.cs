using NodaTime;
using OilTag.Core.People;

namespace OilTag.Core.Tests.People;

public sealed class HoursRuleTests
{
    private static readonly LocalDate Today = new(2026, 3, 14);

    private static HoursCheck Check(string? hours, string? from = null, LocalDate? on = null, params BookedHours[] booked) => HoursRule.Check(hours, from, on ?? Today, (Today, null), booked, null);

    [Theory]
    [InlineData("2", 120)]
    [InlineData("2.5", 150)]
    [InlineData("2,5", 150)]
    [InlineData("2:30", 150)]
    [InlineData("2 1/2", 150)]
    [InlineData("2½", 150)]
    [InlineData("½", 30)]
    [InlineData("0.25 h", 15)]
    [InlineData("2 h 30", 150)]
    [InlineData("2h30", 150)]
    [InlineData("2 h 05 min", 125)]
    [InlineData("2 H", 120)]
    [InlineData("1.5 hours", 90)]
    [InlineData("45 min", 45)]
    [InlineData("90m", 90)]
    [InlineData("2 h 75", null)]
    [InlineData("2:75", null)]
    [InlineData("a bit", null)]
    [InlineData("1e3", null)]
    public void Lengths_are_read_as_people_type_them(string typed, int? minutes) => HoursRule.Minutes(typed).ShouldBe(minutes);

    [Theory]
    [InlineData("24.1", null, "A day has 24 hours")]
    [InlineData("0", null, "more than nothing")]
    [InlineData("-1", null, "more than nothing")]
    [InlineData("3", "22:00", "past midnight")]
    [InlineData("3", "late", "clock time")]
    public void What_no_day_has_is_refused(string hours, string? from, string sentence) => Check(hours, from).Problems.Single().Sentence.ShouldContain(sentence);

    [Fact]
    public void Hours_that_are_still_to_come_today_are_refused()
    {
        HoursCheck At(string hours, string? from, int hour) => HoursRule.Check(hours, from, Today, (Today, new LocalTime(hour, 20)), [], null);
        At("2", "11:00", 10).Problems.Single().Sentence.ShouldBe("That ends at 13:00 and it is 10:20 now. Hours are logged when they are worked.");
        At("2", "8:20", 10).Problems.ShouldBeEmpty();
        At("2", "8:45", 10).Problems.ShouldBeEmpty();
        At("2", null, 10).Problems.ShouldBeEmpty();
        HoursRule.Check("2", "11:00", Today.PlusDays(-1), (Today, new LocalTime(10, 20)), [], null).Problems.ShouldBeEmpty();
    }

    [Fact]
    public void A_person_is_not_in_two_places()
    {
        var morning = new BookedHours(new LocalTime(10, 0), 150, "New smokebox ring");
        Check("2", "12:29", null, morning).Problems.Single().Sentence.ShouldBe("It overlaps with 10:00 for 2 h 30 on New smokebox ring. Nobody is in two places; correct the start or the hours.");
        Check("2", "12:30", null, morning).Problems.ShouldBeEmpty();
        Check("2", "8:00", null, morning).Problems.ShouldBeEmpty();
        Check("8", "9:00", null, morning).Problems.ShouldNotBeEmpty();
        Check("22", null, null, morning).Problems.Single().Sentence.ShouldContain("over 24");
    }

    [Fact]
    public void Days_are_neither_to_come_nor_long_gone()
    {
        Check("1", on: Today.PlusDays(1)).Problems.Single().Field.ShouldBe("On");
        Check("1", on: Today.PlusYears(-3)).Problems.Single().Field.ShouldBe("On");
        HoursRule.Check("1", null, null, (Today, null), [], null).Problems.Single().Field.ShouldBe("On");
        HoursRule.Check("1", null, Today, (Today, null), [], new string('x', 301)).Problems.Single().Field.ShouldBe("Note");
    }
}
