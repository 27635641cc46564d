using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Today;

namespace OilTag.Core.Tests.Today;

public sealed class VisitTests
{
    private static readonly OpenHours Day = new(new LocalTime(10, 0), new LocalTime(16, 0), true);

    private static readonly Guid A = Guid.CreateVersion7();

    private static readonly Guid B = Guid.CreateVersion7();

    [Theory]
    [InlineData(10, 5, 16, 0)]
    [InlineData(15, 29, 16, 0)]
    [InlineData(15, 40, 17, 40)]
    [InlineData(23, 0, 23, 59)]
    public void Who_says_nothing_stays_to_the_end_or_two_hours(int hour, int minute, int untilHour, int untilMinute) =>
        VisitRule.UsualUntil(new LocalTime(hour, minute), Day).ShouldBe(new LocalTime(untilHour, untilMinute));

    [Theory]
    [InlineData("15:30", 15, 30)]
    [InlineData(" 9.45 ", 9, 45)]
    [InlineData("15", 15, 0)]
    public void A_time_is_read_as_it_is_typed(string text, int hour, int minute) => VisitRule.Clock(text).ShouldBe(new LocalTime(hour, minute));

    [Theory]
    [InlineData("noon")]
    [InlineData("25:00")]
    [InlineData("-3")]
    [InlineData("")]
    public void What_is_no_time_is_none(string text) => VisitRule.Clock(text).ShouldBeNull();

    [Fact]
    public void What_was_begun_is_confirmed_and_the_same_job_is_one_line()
    {
        DayJob Job(Guid? step, int from, int until, bool confirmed = false) => new() { PersonId = A, OperationId = step, From = new LocalTime(from, 0), Until = new LocalTime(until, 0), Confirmed = confirmed };
        SignOutRule.Worked([Job(A, 10, 13), Job(A, 14, 16), Job(B, 13, 14), Job(null, 9, 10), Job(B, 8, 9, confirmed: true)], new LocalTime(10, 30), new LocalTime(15, 0))
            .ShouldBe([new WorkedJob(A, new LocalTime(10, 30), 210), new WorkedJob(B, new LocalTime(13, 0), 60)]);
        SignOutRule.Worked([Job(A, 12, 13)], new LocalTime(10, 0), new LocalTime(11, 0)).ShouldBeEmpty();
    }

    [Fact]
    public void Unchanged_hours_keep_their_time_and_changed_ones_are_a_length()
    {
        IReadOnlyList<WorkedJob> worked = [new(A, new LocalTime(10, 0), 120)];
        SignOutRule.Check([new(A, "2:00", "")], worked, new LocalTime(10, 0), new LocalTime(12, 0), []).Lines.ShouldBe([new SignOutLine(A, new LocalTime(10, 0), 120, false, null)]);
        SignOutRule.Check([new(A, "1.5", "6")], worked, new LocalTime(10, 0), new LocalTime(12, 0), []).Lines.ShouldBe([new SignOutLine(A, null, 90, false, 6)]);
        SignOutRule.Check([new(A, "", "Done")], worked, new LocalTime(10, 0), new LocalTime(12, 0), []).Lines.ShouldBe([new SignOutLine(A, null, 0, true, null)]);
    }

    [Fact]
    public void Hours_that_do_not_fit_are_refused_in_a_sentence()
    {
        IReadOnlyList<WorkedJob> worked = [new(A, new LocalTime(10, 0), 120)];
        string Say(string hours, string left, IReadOnlyList<BookedHours>? booked = null) =>
            SignOutRule.Check([new(A, hours, left)], worked, new LocalTime(10, 0), new LocalTime(12, 0), booked ?? []).Problems.ShouldHaveSingleItem().Sentence;
        Say("2:30", "").ShouldBe("2 h 30 do not fit between 10:00 and 12:00, which is 2 h.");
        Say("-1", "").ShouldContain("Type the hours as a number");
        Say("2", "0").ShouldContain("still wants");
        Say("2", "9999").ShouldContain("more than a year");
        Say("2", "", [new BookedHours(new LocalTime(11, 0), 60, "the firebox")]).ShouldContain("already, on the firebox");
        Say("1", "", [new BookedHours(null, 24 * 60, "the firebox")]).ShouldContain("a day has 24 hours");
    }

    [Theory]
    [InlineData(8, "4", "8", "16")]
    [InlineData(0.2, "0.5")]
    [InlineData(21, "10", "21", "42")]
    public void Likely_answers_are_round(double expected, params string[] keys) => SignOutRule.LeftKeys(expected).ShouldBe(keys);
}
