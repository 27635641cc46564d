using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Work;

/// <summary>What is tried in turn on stuck parts, what worked, and what lies ready before a step is begun.</summary>
public sealed class AttemptRuleTests
{
    private static readonly Guid Place = Guid.NewGuid();

    private static Attempt Tried(AttemptWay way, double hours, AttemptEnd end, string what = "studs", string medium = "", int at = 0,
        Trouble trouble = Trouble.Seized) =>
        new()
        {
            What = what,
            Trouble = trouble,
            Way = way,
            Hours = hours,
            End = end,
            Medium = medium,
            PlaceId = Place,
            At = Instant.FromUnixTimeSeconds(at)
        };

    [Fact]
    public void The_next_way_comes_when_the_tries_or_the_hours_of_the_one_before_are_used_up()
    {
        AttemptRule.Next(Trouble.Seized, []).Rung!.Way.ShouldBe(AttemptWay.Soak);
        AttemptRule.Next(Trouble.Seized, [Tried(AttemptWay.Soak, 14,
            AttemptEnd.Nothing)]).Sentence.ShouldStartWith("Go on: soak it, 2 tries more or until 72 h in all");
        AttemptRule.Next(Trouble.Seized, [Tried(AttemptWay.Soak, 71.9, AttemptEnd.Some)]).Rung!.Way.ShouldBe(AttemptWay.Soak);
        AttemptRule.Next(Trouble.Seized, [Tried(AttemptWay.Soak, 72, AttemptEnd.Nothing)]).Rung!.Way.ShouldBe(AttemptWay.ToAndFro,
            "the hours are used up");
        AttemptRule.Next(Trouble.Seized, Enumerable.Range(0, 3).Select(i => Tried(AttemptWay.Soak, 1, AttemptEnd.Nothing,
            at: i))).Rung!.Way.ShouldBe(AttemptWay.ToAndFro, "the tries are used up");
    }

    [Fact]
    public void What_is_free_ends_it_and_what_broke_goes_to_a_lead()
    {
        AttemptRule.Next(Trouble.Seized, [Tried(AttemptWay.Soak, 1, AttemptEnd.Free)]).ShouldBe(new AttemptAdvice(null, "It is free."));
        AttemptRule.Next(Trouble.Seized, [Tried(AttemptWay.Shock, 1, AttemptEnd.Broke)]).Sentence.ShouldContain("ask a lead");
        var struck = Tried(AttemptWay.Soak, 1, AttemptEnd.Free);
        struck.StruckAt = Instant.FromUnixTimeSeconds(9);
        AttemptRule.Next(Trouble.Seized, [struck]).Rung!.Way.ShouldBe(AttemptWay.Soak, "a struck one does not count");
        AttemptRule.Next(Trouble.Blocked, [Tried(AttemptWay.Soak, 1, AttemptEnd.Free)]).Rung!.Way.ShouldBe(AttemptWay.Flush,
            "another trouble has its own ladder");
    }

    [Fact]
    public void Every_ladder_begins_gently_ends_and_says_how()
    {
        foreach (var trouble in Enum.GetValues<Trouble>())
        {
            var ladder = AttemptRule.Ladder(trouble);
            ladder.Select(r => r.Way).Distinct().Count().ShouldBe(ladder.Count);
            ladder.ShouldAllBe(r => r.Tries > 0 && r.Hours > 0 && r.How.EndsWith('.'));
            var all = ladder.SelectMany(r => Enumerable.Range(0, r.Tries).Select(i => Tried(r.Way, 0.1, AttemptEnd.Nothing, at: i,
                trouble: trouble)));
            AttemptRule.Next(trouble, all).ShouldBe(new AttemptAdvice(null, "All that is usual was tried. A lead decides."));
        }

        foreach (var way in Enum.GetValues<AttemptWay>())
        {
            AttemptRule.Words(way).ShouldNotBeEmpty();
        }
    }

    [Fact]
    public void What_worked_counts_each_part_once_and_the_best_first()
    {
        var worked = AttemptRule.Worked(
        [
            Tried(AttemptWay.Soak, 10, AttemptEnd.Nothing, "a", "Diesel"), Tried(AttemptWay.Soak, 20, AttemptEnd.Free, "a", "diesel"),
                Tried(AttemptWay.Soak, 5, AttemptEnd.Nothing, "b", "diesel"),
            Tried(AttemptWay.Heat, 1, AttemptEnd.Free, "b"), Tried(AttemptWay.Shock, 1, AttemptEnd.Broke, "c"),
        ]);
        worked.Select(w => (w.Way, w.Tried, w.Freed, w.Broke, w.Hours)).ShouldBe([(AttemptWay.Heat, 1, 1, 0, 1.0),
            (AttemptWay.Soak, 2, 1, 0, 30.0), (AttemptWay.Shock, 1, 0, 1, null)]);
    }

    [Fact]
    public void Typed_attempts_are_checked()
    {
        AttemptRule.Check("", "", "700", "").Problems.Select(p => p.Field).ShouldBe(["TriedOn", "TriedHours"]);
        AttemptRule.Check("studs", "oil", "1,5", "").Problems.Single().Field.ShouldBe("TriedHours");
        AttemptRule.Check("studs", "oil", "", "").ShouldSatisfyAllConditions(c => c.Problems.ShouldBeEmpty(), c => c.Hours.ShouldBe(0));
    }

    [Fact]
    public void A_step_is_begun_when_all_that_it_names_lies_ready_or_a_lead_says_why_not()
    {
        var step = new Operation { Name = "Rivet", Kit = [new KitItem(60, "rivets"), new KitItem(1, "jointing")] };
        KitRule.WhyNot(step, []).ShouldBe("Not laid out: 60 × rivets (nobody has looked), 1 × jointing (nobody has looked). A lead may let it begin without.");
        KitRule.WhyNot(step, [new LaidOut { What = "rivets", Here = 59 },
            new LaidOut { What = "jointing",
            Here = 1 }]).ShouldBe("Not laid out: 60 × rivets (59 there). A lead may let it begin without.");
        KitRule.WhyNot(step, [new LaidOut { What = "rivets", Here = 60 }, new LaidOut { What = "jointing", Here = 2 }]).ShouldBeNull();
        step.BegunWithout = "The rest comes on Friday";
        KitRule.WhyNot(step, []).ShouldBeNull();
        KitRule.WhyNot(new Operation { Name = "Look" }, []).ShouldBeNull();
    }
}
