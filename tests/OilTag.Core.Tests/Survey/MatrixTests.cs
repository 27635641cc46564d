using CsCheck;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

public sealed class MatrixRulesTests
{
    private static readonly MatrixCheck Bore = new("Bore", "", new CheckLimits("mm", null, null, MeasureReader.Read("95.3 mm", Quantity.Length).Value, null));
    private static readonly MatrixCheck Liner = new("Liner", "", null);

    [Theory]
    [InlineData("s", CellMark.Sound, null, Evidence.Seen)]
    [InlineData("OK", CellMark.Sound, null, Evidence.Seen)]
    [InlineData("d felt", CellMark.Doubtful, null, Evidence.Felt)]
    [InlineData("b told", CellMark.Bad, null, Evidence.Told)]
    [InlineData("?", CellMark.CannotSee, null, Evidence.Seen)]
    [InlineData("n/a", CellMark.NotApplicable, null, Evidence.Seen)]
    [InlineData("95.12", CellMark.Measured, 0.09512, Evidence.Measured)]
    [InlineData("d 95.12 mm", CellMark.Doubtful, 0.09512, Evidence.Measured)]
    [InlineData("b, 3 3/4 in", CellMark.Bad, 0.09525, Evidence.Measured)]
    [InlineData("95 assumed", CellMark.Measured, 0.095, Evidence.Assumed)]
    [InlineData("95 felt", CellMark.Measured, 0.095, Evidence.Measured)]
    public void A_cell_reads_a_mark_a_measurement_or_both(string text, CellMark mark, double? si, Evidence evidence)
    {
        var (said, refusal) = MatrixRules.Read(Bore, text);
        refusal.ShouldBeNull();
        said!.Mark.ShouldBe(mark);
        if (si is { } value)
        {
            said.Reading!.Si.ShouldBe(value, 1e-9);
        }
        else
        {
            said.Reading.ShouldBeNull();
        }

        said.Evidence.ShouldBe(evidence);
    }

    [Theory]
    [InlineData("hello")]
    [InlineData("? 95")]
    [InlineData("n 95")]
    [InlineData("s measured")]
    [InlineData("95 V")]
    [InlineData("95 97 99")]
    public void What_is_no_cell_is_refused_in_words(string text)
    {
        var (said, refusal) = MatrixRules.Read(Bore, text);
        said.ShouldBeNull();
        refusal.ShouldNotBeNullOrWhiteSpace();
    }

    [Fact]
    public void A_check_that_is_not_measured_takes_no_number() => MatrixRules.Read(Liner, "95").Refusal.ShouldStartWith("Liner is not measured in this survey.");

    [Fact]
    public void Nothing_leaves_it_alone_and_a_dash_clears_it()
    {
        MatrixRules.Read(Bore, " ").ShouldBe((null, null));
        MatrixRules.Read(Bore, "-").Said!.Mark.ShouldBeNull();
    }

    [Fact]
    public void A_range_keeps_both_ends()
    {
        var said = MatrixRules.Read(Bore, "d 95 to 96").Said!;
        (said.Reading!.Si, said.ReadingTo!.Si).ShouldBe((0.095, 0.096));
    }

    [Fact]
    public void What_is_written_reads_back_to_the_same() => Gen.Select(
        Gen.Enum<CellMark>(), Gen.Int[1, 999], Gen.Enum<Evidence>(), Gen.Bool).Sample((mark, hundredths, evidence, number) =>
    {
        number = number && mark is not (CellMark.CannotSee or CellMark.NotApplicable) || mark == CellMark.Measured;
        var reading = number ? MeasureReader.Read($"{hundredths / 100.0:0.00}", Quantity.Length, Unit.Millimetre).Value : null;
        evidence = FindingRule.Known(number, evidence);
        var said = MatrixRules.Read(Bore, MatrixRules.Write(mark, reading, null, evidence)).Said!;
        (said.Mark, said.Reading, said.Evidence).ShouldBe((mark, reading, evidence));
    });

    [Fact]
    public void Nothing_that_is_typed_throws() => Gen.String.Sample(text =>
    {
        var (said, refusal) = MatrixRules.Read(Bore, text);
        (said is null || refusal is null).ShouldBeTrue();
    });

    [Fact]
    public void Positions_know_their_hand()
    {
        var problems = new List<Problem>();
        MatrixRules.Positions(problems, "P", "1L, 1R, Left, Middle right, 5, Lid").Select(p => p.Hand).ShouldBe([Hand.Left, Hand.Right, Hand.Left, Hand.Right, Hand.None, Hand.None]);
        MatrixRules.Positions(problems, "P", "1-61").ShouldBeEmpty();
        problems.Single().Sentence.ShouldContain("60 fit");
    }

    [Fact]
    public void Checks_are_refused_beside_their_field()
    {
        var problems = new List<Problem>();
        MatrixRules.Checks(problems, [new() { Name = "Bore", Unit = "mm", High = "tall" }, new(), new() { Low = "3 mm" }, new() { Name = "bore" }]);
        problems.Select(p => p.Field).ShouldBe(["Checks[0].High", "Checks[2].Name", "Checks"]);
        problems.Clear();
        MatrixRules.Checks(problems, []);
        problems.Single().Field.ShouldBe("Checks");
    }

    [Fact]
    public void The_starting_templates_pass_their_own_rules_and_carry_no_limits()
    {
        foreach (var t in StartingTemplates.All())
        {
            var problems = new List<Problem>();
            MatrixRules.Positions(problems, "P", t.Positions).Count.ShouldBeGreaterThan(3);
            t.Checks.Count.ShouldBeGreaterThan(3);
            problems.ShouldBeEmpty();
            t.Checks.ShouldAllBe(c => c.Measured == null || (c.Measured.Low == null && c.Measured.High == null));
        }
    }
}

public sealed class MatrixAnalysisTests
{
    internal static MatrixAnalysis Of(string[][] lines, string hands = "")
    {
        var checks = lines.Select((_, i) => new MatrixCheck("Check " + (i + 1), "", new CheckLimits("mm", Sheets.Of("10 mm"), null, Sheets.Of("11 mm"), null))).ToList();
        var m = new SurveyMatrix { Title = "Test", PositionsAre = "Cylinder", Positions = [.. lines[0].Select((_, i) => new MatrixPosition((i + 1).ToString(), hands.Length > i ? hands[i] == 'L' ? Hand.Left : Hand.Right : Hand.None, null))], Checks = checks };
        var cells = from c in Enumerable.Range(1, lines.Length)
                    from p in Enumerable.Range(1, lines[0].Length)
                    let said = MatrixRules.Read(checks[c - 1], lines[c - 1][p - 1]).Said
                    where said != null
                    select new MatrixCell { Position = p, Check = c, Mark = said.Mark!.Value, Reading = said.Reading, ReadingTo = said.ReadingTo, Evidence = said.Evidence };
        return new MatrixAnalysis(m, cells, RestorationStandard.Service, "the test");
    }

    [Fact]
    public void A_position_is_as_bad_as_its_worst_check_and_open_while_something_was_not_seen()
    {
        var a = Of([["s", "d", "b", "s", "s", "n"], ["s", "s", "d", "?", "s told", "s"]]);
        a.Positions.Select(p => p.Verdict).ShouldBe([Verdict.Within, Verdict.AtLimit, Verdict.Beyond, Verdict.CannotTell, Verdict.CannotTell, Verdict.Within]);
        a.Positions[2].Sentence.ShouldBe("Bad: Check 1.");
        a.Positions[3].Sentence.ShouldBe("Not seen yet, or only said: Check 2.");
        a.OnlySaid.Select(c => c.Cell.Position).ShouldBe([5]);
        a.Unread.ShouldBe(0);
    }

    [Theory]
    [InlineData("10.2", Verdict.Within)]
    [InlineData("10.9", Verdict.AtLimit)]
    [InlineData("11", Verdict.AtLimit)]
    [InlineData("11.001", Verdict.Beyond)]
    [InlineData("s 11.2", Verdict.Beyond)]
    [InlineData("b 10.1", Verdict.Beyond)]
    [InlineData("d 10.1", Verdict.AtLimit)]
    [InlineData("10.5 to 11.5", Verdict.CannotTell)]
    [InlineData("11.2 assumed", Verdict.CannotTell)]
    public void Seen_and_measured_count_as_the_worse_of_both(string cell, Verdict verdict) => Of([[cell, "s"]]).At(1, 1)!.Standing!.Verdict.ShouldBe(verdict);

    [Fact]
    public void Two_bad_neighbours_of_six_are_told_with_an_honest_chance()
    {
        var hint = Of([["s", "s", "b", "b", "s", "s"]]).Hints.Single();
        (hint.From, hint.To, hint.Strength).ShouldBe((3, 4, 1.0));

        // 5 of the 15 pairs are neighbours: counted by hand.
        hint.Chance.ShouldBe(1 / 3.0, 1e-9);
        hint.Sentence.ShouldBe("Cylinder 3 to 4 are worse than the rest. Chance alone does that about 33 times in 100: look there first, but do not count on it.");
    }

    [Fact]
    public void A_band_of_twelve_is_called_a_pattern()
    {
        var hint = Of([["s", "s", "s", "s", "b", "b", "b", "b", "s", "s", "s", "s"]]).Hints[0];
        (hint.From, hint.To).ShouldBe((5, 8));
        hint.Chance.ShouldBeLessThan(MatrixAnalysis.Surely);
        hint.Sentence.ShouldContain("less than 1 time in 20");
    }

    [Fact]
    public void One_side_that_is_worse_is_told()
    {
        var hint = Of([["b", "s", "b", "s", "b", "s", "b", "s"]], "LRLRLRLR").Hints.Single(h => h.From == 0);
        hint.Sentence.ShouldStartWith("The left side is worse than the right");

        // 2 of the 70 ways to share four bad ones out: counted by hand.
        hint.Chance.ShouldBe(2 / 70.0, 0.012);
    }

    [Fact]
    public void Few_positions_or_all_alike_tell_nothing()
    {
        Of([["b", "b", "s"]]).Hints.ShouldBeEmpty();
        Of([["s", "s", "s", "s", "s"]]).Hints.ShouldBeEmpty();
        Of([["?", "?", "?", "?", "?"]]).Hints.ShouldBeEmpty();
    }

    [Fact]
    public void Pure_chance_is_called_a_pattern_no_more_often_than_stated()
    {
        var random = new Random(1911);
        var alarms = 0;
        const int Runs = 400;
        for (var i = 0; i < Runs; i++)
        {
            string[] line = [.. Enumerable.Range(0, 10).Select(_ => random.NextDouble() < 0.35 ? "b" : "s")];
            alarms += Of([line, [.. line.Select(_ => random.NextDouble() < 0.35 ? "d" : "s")]]).Hints.Any(h => h.From > 0 && h.Chance <= MatrixAnalysis.Surely) ? 1 : 0;
        }

        // Five in a hundred, and three standard errors of 400 draws.
        alarms.ShouldBeLessThanOrEqualTo((int)(Runs * (0.05 + (3 * Math.Sqrt(0.05 * 0.95 / Runs)))));
    }

    [Fact]
    public void The_same_survey_gives_the_same_chance()
    {
        string[][] lines = [["s", "b", "b", "s", "d", "s", "b", "s", "s"]];
        Of(lines).Hints.ShouldBe(Of(lines).Hints);
    }
}

public sealed class PhotoMarksTests
{
    [Fact]
    public void Marks_read_and_write_the_same()
    {
        const string Text = "arrow 10 20 300 400\ncircle 50 50 90 80\nwords 5 500 crack starts here";
        var (marks, problem) = PhotoMarks.Read(Text, 800, 600);
        problem.ShouldBeNull();
        PhotoMarks.Words(marks).ShouldBe(Text);
    }

    [Fact]
    public void Points_outside_move_to_the_edge_and_a_tap_draws_nothing()
    {
        PhotoMarks.Read("arrow -50 20 9999 9999", 800, 600).Marks.Single().ShouldBe(new PhotoMark(PhotoMarkKind.Arrow, 0, 20, 800, 600));
        PhotoMarks.Read("circle 50 50 52 51", 800, 600).Marks.ShouldBeEmpty();
        PhotoMarks.Read(null, 800, 600).Marks.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("star 1 2 3 4")]
    [InlineData("1 1 2 3 4")]
    [InlineData("arrow 1 2 3")]
    [InlineData("arrow 1 2 3 4 5")]
    [InlineData("arrow a b c d")]
    [InlineData("arrow NaN 1 100 100")]
    [InlineData("words 1 2")]
    [InlineData("circle 1e99999 2 3 4")]
    public void What_is_no_mark_is_refused(string text)
    {
        var (marks, problem) = PhotoMarks.Read(text, 800, 600);
        marks.ShouldBeEmpty();
        problem!.Field.ShouldBe("Marks");
    }

    [Fact]
    public void Too_many_and_too_long_are_refused()
    {
        PhotoMarks.Read(string.Join('\n', Enumerable.Repeat("arrow 1 2 300 400", 41)), 800, 600).Problem.ShouldNotBeNull();
        PhotoMarks.Read("words 1 2 " + new string('x', 61), 800, 600).Problem.ShouldNotBeNull();
    }

    [Fact]
    public void Nothing_that_is_sent_throws() => Gen.String.Sample(text => PhotoMarks.Read(text, 800, 600).Marks.Count.ShouldBeLessThanOrEqualTo(PhotoMarks.Most));
}

public sealed class KnownTests
{
    [Theory]
    [InlineData(true, Evidence.Seen, Evidence.Measured)]
    [InlineData(true, Evidence.Told, Evidence.Told)]
    [InlineData(true, Evidence.Assumed, Evidence.Assumed)]
    [InlineData(false, Evidence.Measured, Evidence.Seen)]
    [InlineData(false, Evidence.Felt, Evidence.Felt)]
    public void A_number_is_measured_unless_it_was_told_or_assumed(bool number, Evidence chosen, Evidence known) => FindingRule.Known(number, chosen).ShouldBe(known);

    [Fact]
    public void A_told_thickness_is_kept_apart_from_what_was_measured()
    {
        var sheet = Sheets.Make(2, 2);
        var told = Sheets.Reading(1, 1, "5 mm");
        told.Evidence = Evidence.Told;
        var a = SheetAnalysis.Of(sheet, [told, Sheets.Reading(1, 2, "9 mm")], RestorationStandard.Service);
        a.Regions[0].Read.ShouldBe(1);
        a.Regions[0].Min!.Value.Value.ShouldBe(0.009, 1e-12);
        a.Count(Verdict.Beyond).ShouldBe(0);
        a.OnlySaid.Single().Said!.Value.ShouldBe(0.005, 1e-12);
    }

    [Fact]
    public void A_told_thickness_has_no_part_in_how_fast_it_goes()
    {
        var (then, now) = (Sheets.Make(1, 2), Sheets.Make(1, 2));
        var (first, second) = (then.For(Guid.Empty, Guid.Empty, Guid.Empty, new NodaTime.LocalDate(2024, 1, 1), null), now.For(Guid.Empty, Guid.Empty, Guid.Empty, new NodaTime.LocalDate(2026, 1, 1), null));
        var told = Sheets.Reading(1, 1, "3 mm");
        told.Evidence = Evidence.Assumed;
        SheetTrend.Of([(first, [Sheets.Reading(1, 1, "10 mm"), Sheets.Reading(1, 2, "10 mm")]), (second, [told, Sheets.Reading(1, 2, "9.8 mm")])], RestorationStandard.Service, 3)!.Compared.ShouldBe(1);
    }

    [Theory]
    [InlineData("9.5 told", Evidence.Told)]
    [InlineData("9.5 mm ASSUMED", Evidence.Assumed)]
    [InlineData("9.5", Evidence.Measured)]
    public void A_cell_of_a_sheet_says_how_it_is_known(string text, Evidence evidence)
    {
        var (cell, problem) = SheetEntry.Read(Sheets.Make(2, 2), 1, 1, text);
        problem.ShouldBeNull();
        cell!.Evidence.ShouldBe(evidence);
        cell.Readings.Single().Si.ShouldBe(0.0095, 1e-9);
    }
}
