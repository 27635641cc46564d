using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;

namespace OilTag.Core.Tests.People;

/// <summary>Whether an authorisation covers a work on a kind of machine on a day, at both sides of each edge; and PINs.</summary>
public sealed class CoverTests
{
    private static readonly LocalDate Day = new(2026, 11, 28);

    private static Authorisation Held(MachineKind? kind = null, LocalDate? from = null, LocalDate? until = null, bool learning = false) =>
        new() { Skill = "lifting holds", Kind = kind, From = from, Until = until, Learning = learning };

    private static string? Why(params Authorisation[] held) => AuthorisationRule.WhyNotCovered(held, "lifting holds", MachineKind.Aircraft,
        Day);

    [Fact]
    public void The_first_and_the_last_day_count()
    {
        Why(Held()).ShouldBeNull();
        Why(Held(until: Day)).ShouldBeNull();
        Why(Held(until: Day.PlusDays(-1))).ShouldBe("The authorisation for lifting holds ran out on 27 November 2026.");
        Why(Held(from: Day)).ShouldBeNull();
        Why(Held(from: Day.PlusDays(1))).ShouldBe("The authorisation for lifting holds begins on 29 November 2026.");
        Why(Held(until: Day.PlusDays(-1)), Held(from: Day)).ShouldBeNull("a new one stands beside the old");
    }

    [Fact]
    public void Another_kind_of_machine_a_learner_and_what_was_taken_back_cover_nothing()
    {
        Why(Held(MachineKind.Aircraft)).ShouldBeNull();
        Why(Held(MachineKind.Tractor)).ShouldBe("The authorisation for lifting holds is for another kind of machine.");
        Why(Held(learning: true)).ShouldBe("Lifting holds is still being learned.");
        var back = Held();
        back.EndedAt = Instant.FromUnixTimeSeconds(1);
        Why(back).ShouldStartWith("It wants an authorisation for lifting holds, and there is none on record.");
        Why().ShouldNotBeNull();
    }

    [Theory]
    [InlineData("1234", false)]
    [InlineData("4321", false)]
    [InlineData("7777", false)]
    [InlineData("123", false)]
    [InlineData("123456789", false)]
    [InlineData("12a4", false)]
    [InlineData("", false)]
    [InlineData("1235", true)]
    [InlineData("80146", true)]
    [InlineData(" 2590 ", true)]
    public void A_pin_that_anybody_tries_first_is_not_taken(string pin, bool taken) => (PinRule.WhyNot(pin) is null).ShouldBe(taken);

    [Fact]
    public void Every_kind_of_machine_has_words() =>
        Enum.GetValues<MachineKind>().Select(KindWords.Of).Distinct().Count().ShouldBe(Enum.GetValues<MachineKind>().Length);
}
