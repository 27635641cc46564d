using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Work;

public sealed class NeedsRuleTests
{
    private static readonly LocalDate Today = new(2031, 3, 3);

    private static readonly Guid Known = Guid.CreateVersion7();

    private static (OperationNeeds Needs, IReadOnlyList<Problem> Problems) Check(NeedsEntry entry) =>
        NeedsRule.Check(entry, Today, (package, step) => (package, step) == (64, 3) ? Known : null, OperationNeeds.Plain);

    [Fact]
    public void What_is_typed_in_a_shop_is_read()
    {
        var (needs, problems) = Check(new NeedsEntry
        {
            MinCrew = "2",
            MaxCrew = "4",
            Skills = "boilers\n2 x coded welder",
            Equipment = "pair of 10 ton jacks\n 3 × trestle ",
            WarmerThan = "8 °C",
            AwayWeeks = "10 14 20",
            CureDays = "3",
            Chance = "30 %",
            After = "64.3",
            OnDay = new DateOnly(2031, 4, 5),
            InOneGo = true
        });
        problems.ShouldBeEmpty();
        (needs.MinCrew, needs.MaxCrew, needs.InOneGo).ShouldBe((2, 4, true));
        needs.Skills.ShouldBe([new SkillNeed("boilers"), new SkillNeed("coded welder", 2)]);
        needs.Equipment.ShouldBe([new ThingNeed("pair of 10 ton jacks"), new ThingNeed("trestle", 3)]);
        needs.Elapsed.ShouldBe(new DaysRange(70, 98, 140));
        needs.Cure.ShouldBe(DaysRange.Exactly(3));
        needs.WarmerThan.ShouldBe(8);
        needs.Chance.ShouldBe(0.3, 1e-12);
        needs.After.ShouldBe([Known]);
    }

    [Fact]
    public void Nothing_typed_is_one_pair_of_hands()
    {
        var (needs, problems) = Check(new NeedsEntry());
        problems.ShouldBeEmpty();
        (needs.MinCrew, needs.MaxCrew, needs.Chance, needs.Elapsed, needs.Cure).ShouldBe((1, 2, 1.0, null, null));
    }

    [Theory]
    [InlineData("MinCrew", "none", "from 1 to 40")]
    [InlineData("MinCrew", "0", "from 1 to 40")]
    [InlineData("MaxCrew", "1", "no fewer than 3")]
    [InlineData("Skills", "99 x welder", "is not a skill")]
    [InlineData("Skills", "welder\nWelder", "stands there twice")]
    [InlineData("WarmerThan", "warm", "temperature from -30 to 40")]
    [InlineData("AwayWeeks", "20 14 10", "must rise")]
    [InlineData("AwayWeeks", "10 20", "Type one number of weeks, or three")]
    [InlineData("AwayWeeks", "NaN", "Type one number of weeks, or three")]
    [InlineData("CureDays", "1e9", "Type one number of days, or three")]
    [InlineData("Chance", "0", "above 0 and up to 100")]
    [InlineData("Chance", "101", "above 0 and up to 100")]
    [InlineData("After", "64", "is not a step")]
    [InlineData("After", "64.9", "Package 64 has no open step 9")]
    public void What_cannot_be_is_refused_beside_its_field(string field, string typed, string sentence)
    {
        var entry = new NeedsEntry { MinCrew = field == "MaxCrew" ? "3" : null };
        typeof(NeedsEntry).GetProperty(field)!.SetValue(entry, typed);
        var problem = Check(entry).Problems.ShouldHaveSingleItem();
        problem.Field.ShouldBe(field);
        problem.Sentence.ShouldContain(sentence);
    }

    [Fact]
    public void A_day_that_is_past_is_refused() => Check(new NeedsEntry
    {
        OnDay = new DateOnly(2031, 3,
        2)
    }).Problems.ShouldHaveSingleItem().Field.ShouldBe("OnDay");
}
