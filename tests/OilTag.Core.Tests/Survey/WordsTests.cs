using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

/// <summary>Small rules of words: what is asked, answered and written beside numbers.</summary>
public sealed class WordsTests
{
    [Theory]
    [InlineData("25.1", "25.1\u00A0V")]
    [InlineData("25.1 V", "25.1 V")]
    [InlineData("-3", "-3\u00A0V")]
    [InlineData("25,1", "25,1\u00A0V")]
    public void A_bare_number_is_shown_with_its_unit(string text, string shown) => new Measure(text, 25.1, "V").Entered.ShouldBe(shown);

    [Theory]
    [InlineData("3/16", "3/16\u00A0in")]
    [InlineData("3/16\"", "3/16\"")]
    [InlineData("1 3/4 in", "1 3/4 in")]
    public void A_bare_fraction_too(string text, string shown) => new Measure(text, 0.0047625, "in").Entered.ShouldBe(shown);

    [Theory]
    [InlineData("95 mm", "95.3 mm", "95 mm to 95.3 mm")]
    [InlineData("95", null, "95\u00A0mm or more")]
    [InlineData(null, "95.3", "95.3\u00A0mm or less")]
    [InlineData(null, null, "")]
    public void Limits_are_told_in_words(string? low, string? high, string words)
    {
        var problems = new List<Problem>();
        CheckRule.Read(problems, "mm", null, low, high, null)!.Words.ShouldBe(words);
    }

    [Theory]
    [InlineData("", "", 2)]
    [InlineData("Was there a spring here?", "", 1)]
    [InlineData("", "the last driver", 1)]
    [InlineData("Was there a spring here?", "the last driver", 0)]
    public void A_question_says_what_and_whom(string text, string of, int problems) => QuestionRule.Check(text, of).Count.ShouldBe(problems);

    [Theory]
    [InlineData("", "", 2)]
    [InlineData("Yes", "", 1)]
    [InlineData("Yes", "a photo of 1951", 0)]
    public void An_answer_says_what_it_rests_on(string answer, string rests, int problems) => QuestionRule.CheckAnswer(answer, rests).Count.ShouldBe(problems);

    [Fact]
    public void What_a_package_waits_on_fits_its_field()
    {
        QuestionRule.Waits(3, "the last driver").ShouldBe("Answer to question Q3 from the last driver");
        QuestionRule.Waits("the estate", 50_000).ShouldBe("Consent of the estate to £500");
    }

    [Fact]
    public void Too_long_a_question_is_refused() => QuestionRule.Check(new string('x', 301), "y").Single().Field.ShouldBe("Question");

    [Theory]
    [InlineData("1-3", "1|2|3")]
    [InlineData("P4-P1, S1-S2", "P4|P3|P2|P1|S1|S2")]
    [InlineData("1L, 1R", "1L|1R")]
    [InlineData("Lid", "Lid")]
    public void Positions_are_named_as_people_name_them(string text, string names)
    {
        var problems = new List<Problem>();
        string.Join('|', MatrixRules.Positions(problems, "P", text).Select(p => p.Name)).ShouldBe(names);
        problems.ShouldBeEmpty();
    }

    [Fact]
    public void A_cause_lies_over_positions_that_are_there()
    {
        var m = new SurveyMatrix { Title = "x", Positions = [new("1", Hand.None, null), new("2", Hand.None, null)] };
        MatrixRules.CheckCause(m, 1, 2, "Rain").Cause.ShouldBe(new MatrixCause(1, 2, "Rain"));
        MatrixRules.CheckCause(m, 2, 1, "Rain").Problems.Single().Field.ShouldBe("CauseFrom");
        MatrixRules.CheckCause(m, 0, 2, "Rain").Problems.Single().Field.ShouldBe("CauseFrom");
        MatrixRules.CheckCause(m, 1, 3, "Rain").Problems.Single().Field.ShouldBe("CauseFrom");
        MatrixRules.CheckCause(m, 1, 2, " ").Problems.Single().Field.ShouldBe("CauseWords");
        m.Causes = [.. Enumerable.Repeat(new MatrixCause(1, 1, "x"), MatrixRules.MostCauses)];
        MatrixRules.CheckCause(m, 1, 2, "Rain").Problems.Single().Field.ShouldBe("CauseWords");
    }

    [Fact]
    public void A_check_that_confirms_names_its_finding_and_fits()
    {
        var check = MatrixRules.Confirm(188, new string('x', 300));
        check.Name.ShouldBe("Confirm F188");
        check.Look.Length.ShouldBe(120);
        check.Measured.ShouldBeNull();
    }

    [Fact]
    public void Cells_are_named_as_they_are_called()
    {
        var m = new SurveyMatrix { Title = "x", PositionsAre = "Cylinder", Positions = [new("1", Hand.None, null)], Checks = [new("Bore", "", null), new("PCB test", "", null)] };
        m.NameOf(1).ShouldBe("Cylinder 1");
        m.NameOf(1, 1).ShouldBe("Cylinder 1, bore");
        m.NameOf(1, 2).ShouldBe("Cylinder 1, PCB test");
        (m.Has(1, 2), m.Has(0, 1), m.Has(2, 1), m.Has(1, 3)).ShouldBe((true, false, false, false));
    }

    [Theory]
    [InlineData(Disposition.Clean, true)]
    [InlineData(Disposition.Leave, false)]
    [InlineData(Disposition.Concession, false)]
    public void Only_what_needs_work_opens_a_package(Disposition d, bool work) => Dispositions.NeedsWork(d).ShouldBe(work);

    [Fact]
    public void A_finding_that_was_told_is_not_judged_and_says_what_it_would_be()
    {
        var f = new Finding { What = "x", Evidence = Evidence.Told, Feature = Feature.Thickness, Reading = Sheets.Of("5 mm"), Nominal = Sheets.Of("10 mm"), Limit = Sheets.Of("6 mm") };
        var told = VerdictRule.Judge(f, RestorationStandard.Service, "x");
        told.Verdict.ShouldBe(Verdict.CannotTell);
        told.Working.Result.ShouldContain("It would be beyond limit.");
        f.Evidence = Evidence.Measured;
        VerdictRule.Judge(f, RestorationStandard.Service, "x").Verdict.ShouldBe(Verdict.Beyond);
    }

    [Fact]
    public void The_tree_of_recorded_places_knows_their_standard_and_full_names()
    {
        var top = new Place { Name = "Engine", Hand = Hand.Left, Kind = PlaceKind.Assembly, Standard = RestorationStandard.Demonstrate };
        var slot = new Place { Name = "Cylinder", Position = 3, ParentId = top.Id, Kind = PlaceKind.Slot };
        var tree = PlaceTree.Of([top, slot]);
        tree.StandardAt(slot.Id, RestorationStandard.Display, "Boat").ShouldBe((RestorationStandard.Demonstrate, "Engine, left"));
        tree.PathUp(slot.Id).Select(n => n.Name).ShouldBe(["Cylinder 3", "Engine, left"]);
    }

    [Fact]
    public void A_diagnosis_that_is_cured_is_closed_at_the_moment_of_the_cure()
    {
        var now = Instant.FromUtc(2026, 3, 1, 12, 0);
        var d = new Diagnosis { Symptom = "x", Suspects = [new("Belt", SuspectState.Open, ""), new("Brush", SuspectState.Open, "")] };
        DiagnosisRule.Cure(d, 1, new TriedCure("New brush", 1, 500, true, new DateOnly(2026, 3, 1)), now);
        (d.ClosedAt, d.Suspects[0].State, d.Suspects[1].State).ShouldBe((now, SuspectState.Open, SuspectState.RuledIn));
    }
}
