using OilTag.Core.People;

namespace OilTag.Core.Tests.People;

public sealed class AttendanceRuleTests
{
    /// <summary>Mean of the beta distribution after so many successes, prior weight 4 at 0.4 (common practice): 8 of 10 give 9.6/14.</summary>
    [Fact]
    public void The_share_is_drawn_towards_the_usual_while_there_is_little_to_learn_from()
    {
        AttendanceRule.Chance(0, 0).ShouldBe(0.4, 1e-12);
        AttendanceRule.Chance(8, 10).ShouldBe(9.6 / 14, 1e-12);
        AttendanceRule.Chance(52, 52).ShouldBe(53.6 / 56, 1e-12);
        AttendanceRule.Chance(0, 52).ShouldBe(1.6 / 56, 1e-12);
    }

    [Fact]
    public void Coming_more_often_never_lowers_it()
    {
        for (var sessions = 1; sessions < 60; sessions++)
        {
            for (var came = 1; came <= sessions; came++)
            {
                AttendanceRule.Chance(came, sessions).ShouldBeGreaterThan(AttendanceRule.Chance(came - 1, sessions));
            }
        }

        Should.Throw<ArgumentOutOfRangeException>(() => AttendanceRule.Chance(3, 2));
        Should.Throw<ArgumentOutOfRangeException>(() => AttendanceRule.Chance(-1, 2));
    }
}
