using OilTag.Core.Bench;

namespace OilTag.Core.Tests.Bench;

/// <summary>Kept answers: what they follow, and when they no longer fit.</summary>
public sealed class KeptRuleTests
{
    private static readonly Calculator Resize = Calculator.Find("resize")!;

    private static readonly Dictionary<string, string> Typed = new(StringComparer.Ordinal) { ["kind"] = "shaft", ["nominal"] = "2.0000 in", ["reading"] = "1.9868 in", ["clean"] = "0.002 in", ["steps"] = "0.010 + 0.020 + 0.030 in" };

    private static RecordValue Value(string name, string text) => new($"F1 {name}", $"the {name} of F1", text);

    private static KeptAnswer Keep(params RecordValue[] values)
    {
        var answer = Resize.Answer(f => Typed[f]);
        return new KeptAnswer { Calculator = "resize", Inputs = KeptRule.Inputs(Resize, f => Typed[f], values), Result = answer.Figures[0].Text, Si = answer.Figures[0].Si };
    }

    [Fact]
    public void An_input_follows_the_value_of_the_record_that_it_is()
    {
        // The size as built is the same measure in other words; a choice follows nothing.
        var kept = Keep(Value("reading", "1.9868 in"), Value("size as built", "2 in"), Value("kind", "shaft"));
        kept.Inputs.Where(i => i.Follows.Length > 0).Select(i => (i.Field, i.Follows)).ShouldBe([("nominal", "F1 size as built"), ("reading", "F1 reading")]);
        KeptRule.Stale(kept, [Value("reading", "1.9868 in"), Value("size as built", "2 in")]).ShouldBeEmpty();
    }

    [Fact]
    public void It_says_what_has_changed_and_what_to_ask_again()
    {
        var kept = Keep(Value("reading", "1.9868 in"));
        var now = new[] { Value("reading", "1.9790 in") };
        KeptRule.Stale(kept, now).ShouldBe(["The reading of F1 was 1.9868 in and is 1.9790 in now."]);
        var again = KeptRule.Again(kept, now);
        again.Single(i => i.Field == "reading").Text.ShouldBe("1.9790 in");
        again.Single(i => i.Field == "nominal").Text.ShouldBe("2.0000 in");
        Resize.Answer(f => again.FirstOrDefault(i => i.Field == f)?.Text)["step"].Si.ShouldBe(0.030 * 0.0254, 1e-9);
    }

    [Fact]
    public void The_same_size_in_other_units_is_no_change() => KeptRule.Stale(Keep(Value("reading", "1.9868 in")), [Value("reading", "50.46472 mm")]).ShouldBeEmpty();

    [Fact]
    public void What_is_gone_is_said() => KeptRule.Stale(Keep(Value("reading", "1.9868 in")), []).ShouldBe(["F1 reading was 1.9868 in; it is not there any more."]);

    [Fact]
    public void A_calculation_that_gives_something_else_by_now_is_said()
    {
        var kept = Keep();
        var other = new KeptAnswer { Calculator = "resize", Inputs = kept.Inputs, Result = kept.Result, Si = kept.Si * 1.01 };
        KeptRule.Stale(other, []).ShouldHaveSingleItem().ShouldContain("the calculation or its table has changed");
        KeptRule.Stale(new KeptAnswer { Calculator = "alchemy", Inputs = kept.Inputs, Result = kept.Result, Si = 1 }, []).ShouldBe(["There is no such calculation any more."]);
        KeptRule.Stale(new KeptAnswer { Calculator = "resize", Inputs = [new KeptInput("kind", "shaft", string.Empty)], Result = string.Empty, Si = 1 }, []).ShouldHaveSingleItem().ShouldStartWith("The same is refused now");
    }
}
