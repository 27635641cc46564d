using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Work;

public class StepChangeTests
{
    private static List<Operation> Steps(string lines = "clean 1 h\nform 2-3-5 h, note: slowly\nHOLD Seen\npaint 4 h") =>
        [.. StepText.Read(lines, StepWords.None).Steps.Select((s, i) => StepChange.Make(s, i + 1))];

    private static StepChange Change(List<Operation> steps, string lines, params int[] begun) =>
        StepChange.Of(steps, StepText.Read(lines, StepWords.None), begun.Select(n => steps[n - 1].Id).ToHashSet());

    private static string Now(List<Operation> steps) => StepText.Write(steps.Where(s => s.DoneAt is null).Select(s => StepChange.Typed(s,
        true)), StepWords.None);

    [Fact]
    public void The_same_lines_change_nothing()
    {
        var steps = Steps();
        Change(steps, Now(steps)).ShouldSatisfyAllConditions(c => c.Changes.ShouldBeEmpty(), c =>
            c.Fates.Select(f => f.Existing).ShouldBe(steps), c => c.Removed.ShouldBeEmpty());
    }

    [Theory]
    [InlineData("1. clean 1 h\n2. bend 2-3-5 h, note: slowly\n3. HOLD Seen\n4. paint 4 h", "renamed “Form” to “Bend”")]
    [InlineData("1. clean 1 h\n2. form 3 h, note: slowly\n3. HOLD Seen\n4. paint 4 h", "“Form”: 3 h, was 2-3-5 h")]
    [InlineData("1. clean\n2. form 2-3-5 h, note: slowly\n3. HOLD Seen\n4. paint 4 h", "“Clean”: no hours, was 1 h")]
    [InlineData("4. paint 4 h\n1. clean 1 h\n2. form 2-3-5 h, note: slowly\n3. HOLD Seen", "moved “Paint” to the beginning")]
    [InlineData("2. form 2-3-5 h, note: slowly\n3. HOLD Seen\n1. clean 1 h\n4. paint 4 h", "moved “Clean” behind “Seen”")]
    [InlineData("1. clean 1 h\n2. form 2-3-5 h, note: slowly\n2. form the other one 2 h\n3. HOLD Seen\n4. paint 4 h",
        "split “Form”: added “Form the other one”")]
    [InlineData("1. clean 1 h\n2. form 2-3-5 h, note: slowly\nbend 2 h\n3. HOLD Seen\n4. paint 4 h", "added “Bend”")]
    [InlineData("2. form 2-3-5 h, note: slowly\n3. HOLD Seen\n4. paint 4 h", "took out “Clean”")]
    [InlineData("1. clean 1 h\n2. form 2-3-5 h, note: slowly\n3. HOLD Seen\n4. HOLD Paint 4 h", "made “Paint” a hold")]
    [InlineData("1. clean 1 h\n2. + form 2-3-5 h, note: slowly\n3. HOLD Seen\n4. paint 4 h", "“Form” goes beside the step before it")]
    [InlineData("1. clean 1 h\n2. form 2-3-5 h, note: slowly, 2 people\n3. HOLD Seen\n4. paint 4 h", "changed what “Form” needs")]
    [InlineData("1. clean 1 h\n2. form 2-3-5 h, note: slowly\n   gap max 1 mm\n3. HOLD Seen\n4. paint 4 h",
        "changed the readings of “Form”")]
    public void A_change_is_said_in_one_sentence(string lines, string said) => Change(Steps(), lines).Changes.ShouldBe([said]);

    [Fact]
    public void What_somebody_worked_at_is_named_and_not_taken_out()
    {
        var steps = Steps();
        Change(steps, "1. clean 1 h\n2. bend 2-3-5 h, note: slowly\n3. HOLD Seen\n4. paint 4 h", begun: 2).Begun.ShouldBe(["Form"]);
        Change(steps, "1. clean 2 h\n2. form 2-3-5 h, note: slowly\n3. HOLD Seen\n4. paint 4 h", begun: 2).Begun.ShouldBeEmpty();
        Change(steps, "1. clean 1 h\n3. HOLD Seen\n4. paint 4 h",
            begun: 2).Problems.ShouldHaveSingleItem().Sentence.ShouldBe("Somebody worked at “Form” (2). Keep its line, or finish it first; what was done stays in the record.");
    }

    [Fact]
    public void A_number_that_is_none_of_the_open_steps_is_refused()
    {
        var steps = Steps();
        steps[0].DoneAt = Instant.FromUtc(2026, 11, 1, 0, 0);
        Change(steps, Now(steps)).Changes.ShouldBeEmpty();
        Change(steps, "1. clean 1 h").Problems.Select(p =>
            p.Sentence).ShouldContain("Step 1, “Clean”, is done. Take its line out; a new step stands without a number.");
        Change(steps, "9. clean 1 h").Problems.Select(p =>
            p.Sentence).ShouldContain("There is no open step 9. A new step stands without a number.");
        Change(steps, string.Join('\n', Enumerable.Repeat("clean 1 h",
            301))).Problems[^1].Sentence.ShouldStartWith("That is 302 steps; 300 fit in a package.");
    }

    [Fact]
    public void Hours_that_are_shown_rounded_stay_as_they_were()
    {
        var step = new Operation { Name = "Form", Order = 1, Low = 1.0 / 3, Likely = 2.0 / 3, High = 1 };
        StepChange.Hours(step, StepText.Read(StepText.Write([StepChange.Typed(step, true)], StepWords.None),
            StepWords.None).Steps[0].Hours).Low.ShouldBe(1.0 / 3);
        StepChange.Hours(step, new HoursRange(1, 2, 3)).ShouldBe(new HoursRange(1, 2, 3));
        StepChange.Hours(step, null).ShouldBe(HoursRange.None);
    }

    /// <summary>Whatever order the lines are put into, each step that has its number stays that step, and the fewest are called moved.</summary>
    [Fact]
    public void Steps_keep_themselves_in_every_order()
    {
        var random = new Random(18);
        for (var i = 0; i < 400; i++)
        {
            var steps = Steps("a 1 h\nb 1 h\nc 1 h\nd 1 h\ne 1 h\nf 1 h");
            var order = Enumerable.Range(0, 6).OrderBy(_ => random.Next()).ToArray();
            var lines = Now(steps).Split('\n');
            var change = Change(steps, string.Join('\n', order.Select(n => lines[n])));
            change.Fates.Select(f => f.Existing).ShouldBe(order.Select(n => steps[n]));
            var longest = Enumerable.Range(0, 64).Select(mask => order.Where((_, at) => (mask >> at & 1) == 1).ToArray()).Where(run =>
                run.Zip(run.Skip(1)).All(p => p.First < p.Second)).Max(run => run.Length);
            change.Changes.Count.ShouldBe(6 - longest);
        }
    }
}

public class ReadingRuleTests
{
    private static ReadingCheck Judge(string line, string? text) => ReadingRule.Judge(StepLines.Reading(line)!, text);

    [Theory]
    [InlineData("6.35", true, "")]
    [InlineData("6.40 mm", true, "")]
    [InlineData("1/4 in", true, "")]
    [InlineData("0.252 in", false, "0.00003\u00A0in above the limit")]
    [InlineData("6.46", false, "0.06\u00A0mm above the limit")]
    [InlineData("6.3", false, "0.05\u00A0mm below the limit")]
    public void A_value_is_judged_in_whatever_unit_it_was_typed(string text, bool within, string off) =>
        Judge("each 6.35-6.40 mm x 24", text).ShouldSatisfyAllConditions(c => c.Problem.ShouldBeNull(), c => c.Within.ShouldBe(within), c =>
            c.Off.ShouldBe(off));

    [Theory]
    [InlineData("oil 60-80 C", "83", "3\u00A0°C above the limit")]
    [InlineData("oil 60-80 C", "50 C", "10\u00A0°C below the limit")]
    [InlineData("count 41-48 stays", "40", "1 too few")]
    [InlineData("count 41-48 stays", "50", "2 too many")]
    [InlineData("no weep: yes or no", "no", "It should be yes")]
    [InlineData("gap max 0.1 mm", "0.12", "0.02\u00A0mm above the limit")]
    public void What_lies_beyond_says_by_how_much(string line, string text, string off) =>
        Judge(line, text).ShouldSatisfyAllConditions(c => c.Within.ShouldBeFalse(), c => c.Off.ShouldBe(off));

    [Theory]
    [InlineData("each 6.35-6.40 mm", "")]
    [InlineData("each 6.35-6.40 mm", "6.3 kg")]
    [InlineData("each 6.35-6.40 mm", "NaN")]
    [InlineData("each 6.35-6.40 mm", "1e9")]
    [InlineData("count 41-48", "4.5")]
    [InlineData("count 41-48", "-1")]
    [InlineData("no weep: yes or no", "perhaps")]
    [InlineData("colour in words", " ")]
    public void What_cannot_be_read_gets_a_sentence(string line, string text) =>
        Judge(line, text).Problem.ShouldNotBeNull().Sentence.Length.ShouldBeGreaterThan(10);

    [Fact]
    public void A_step_is_ticked_when_every_position_is_within_or_accepted()
    {
        var wanted = StepLines.Reading("each 6.35-6.40 mm x 2")!;
        StepReading Read(int position, bool within, int minute = 0) => new()
        {
            Wanted = wanted.Text,
            Position = position,
            Within = within,
            At = Instant.FromUtc(2026, 11, 28, 10, minute)
        };
        string? WhyNot(params StepReading[] taken) => ReadingRule.WhyNot(ReadingRule.Places([wanted], taken));
        WhyNot().ShouldBe("2 readings are not taken.");
        WhyNot(Read(1, true)).ShouldBe("1 reading is not taken.");
        WhyNot(Read(1, true), Read(2, false)).ShouldBe("1 reading is beyond the limit and not accepted.");
        WhyNot(Read(1, false)).ShouldBe("1 reading is not taken, 1 beyond the limit.");
        WhyNot(Read(1, true), Read(2, false), Read(2, true, 5)).ShouldBeNull();
        var accepted = Read(2, false);
        accepted.AcceptedAt = accepted.At;
        WhyNot(Read(1, true), accepted).ShouldBeNull();
        var struck = Read(2, true);
        struck.StruckAt = struck.At;
        WhyNot(Read(1, true), struck).ShouldBe("1 reading is not taken.");
        ReadingRule.WhyNot([]).ShouldBeNull();
    }
}
