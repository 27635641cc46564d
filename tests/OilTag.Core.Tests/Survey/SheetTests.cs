using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

internal static class Sheets
{
    internal static Measure Of(string text) => MeasureReader.Read(text, Quantity.Length).Value!;

    internal static SurveySheet Make(int rows, int columns, string? nominal = "10 mm", string? limit = "8 mm", int? centre = null, IReadOnlyList<SheetSource>? sources = null, IReadOnlyList<SheetRegion>? more = null, string unit = "mm", Feature feature = Feature.Thickness) => new()
    {
        Title = "Test",
        Feature = feature,
        UnitSymbol = unit,
        Rows = [.. Enumerable.Range(1, rows).Select(i => "r" + i.ToString(CultureInfo.InvariantCulture))],
        Columns = [.. Enumerable.Range(1, columns).Select(i => "c" + i.ToString(CultureInfo.InvariantCulture))],
        CentreAfterRow = centre,
        Sources = sources ?? [],
        Regions = [new SheetRegion("All", 1, rows, 1, columns, nominal is null ? null : Of(nominal), limit is null ? [] : [new RegionLimit(RestorationStandard.Service, Of(limit))]), .. more ?? []],
    };

    internal static SheetReading Reading(int row, int column, string text, int turn = 1) => new() { Row = row, Column = column, Turn = turn, Text = text, Si = Of(text).Si, Mark = CellMark.Measured };

    internal static List<SheetReading> Fill(SurveySheet sheet, Func<int, int, double> millimetres) =>
        [.. from r in Enumerable.Range(1, sheet.Rows.Length) from c in Enumerable.Range(1, sheet.Columns.Length) where sheet.Has(r, c) select new SheetReading { Row = r, Column = c, Turn = 1, Si = millimetres(r, c) / 1000, Mark = CellMark.Measured }];

    internal static double Noise(Random random) => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
}

/// <summary>The worked survey of the agreed reference values, section 3: figures computed there from the stated formulas.</summary>
public sealed class SheetAnalysisTests
{
    private static readonly string[] Survey =
    [
        "0.492 0.488 0.490 0.485 0.491 0.489",
        "0.470 0.462 0.455 0.448 0.466 0.472",
        "0.430 0.402 0.384 0.379 0.396 0.421",
        "0.455 0.431 0.405 0.398 0.418 0.447",
        "0.486 0.480 0.474 0.471 0.477 0.483",
    ];

    private static SheetAnalysis Worked()
    {
        var sheet = Sheets.Make(5, 6, "0.500 in", "0.400 in", unit: "in");
        var readings = Survey.SelectMany((line, i) => line.Split(' ').Select((v, j) => Sheets.Reading(i + 1, j + 1, v + " in")));
        return SheetAnalysis.Of(sheet, readings, RestorationStandard.Service);
    }

    [Fact]
    public void The_figures_of_the_worked_survey_come_out()
    {
        var all = Worked().Regions[0];
        all.Read.ShouldBe(30);
        (all.Mean / 0.0254).ShouldBe(0.4515, 0.00005);
        (all.Min!.Value.Value / 0.0254).ShouldBe(0.379, 1e-9);
        (all.Min.Value.Row, all.Min.Value.Column).ShouldBe((3, 4));
        (all.Max / 0.0254).ShouldBe(0.492, 1e-9);
        (all.Deviation!.Value / 0.0254).ShouldBe(0.03597, 0.000005);
        all.MeanLoss!.Value.ShouldBe(9.700, 0.005);
        all.WorstLoss!.Value.ShouldBe(24.20, 0.005);
        all.Verdict.ShouldBe(Verdict.Beyond);
    }

    [Fact]
    public void Its_group_its_band_and_its_cells_past_the_limit_come_out()
    {
        var a = Worked();
        var group = a.Groups.ShouldHaveSingleItem();
        group.Cells.Count.ShouldBe(8);
        group.Rows.ShouldBe((3, 4));
        group.Columns.ShouldBe((2, 6));
        group.MeanLoss.ShouldBe(19.93, 0.005);
        a.RowBands.ShouldBe([3]);
        a.ColumnBands.ShouldBeEmpty();
        a.Cells.Where(c => c.Verdict == Verdict.Beyond).Select(c => (c.Row, c.Column)).ShouldBe([(3, 3), (3, 4), (3, 5), (4, 4)]);
        a[3, 2]!.LossPercent!.Value.ShouldBe(19.60, 0.005);
        a[3, 2]!.Verdict.ShouldBe(Verdict.AtLimit);
    }

    [Fact]
    public void The_worst_of_several_readings_decides()
    {
        var sheet = Sheets.Make(1, 1);
        var a = SheetAnalysis.Of(sheet, [Sheets.Reading(1, 1, "9.9 mm"), Sheets.Reading(1, 1, "7.9 mm", 2), Sheets.Reading(1, 1, "9.8 mm", 3)], RestorationStandard.Service);
        a[1, 1]!.Worst.ShouldBe(0.0079, 1e-12);
        a[1, 1]!.Count.ShouldBe(3);
        a[1, 1]!.Verdict.ShouldBe(Verdict.Beyond);
        var bore = Sheets.Make(1, 1, "100 mm", "100.5 mm", feature: Feature.Bore);
        SheetAnalysis.Of(bore, [Sheets.Reading(1, 1, "100.1 mm"), Sheets.Reading(1, 1, "100.6 mm", 2)], RestorationStandard.Service)[1, 1]!.Verdict.ShouldBe(Verdict.Beyond);
    }

    [Fact]
    public void Cannot_tell_says_what_is_missing()
    {
        RegionFacts All(SurveySheet s, params SheetReading[] r) => SheetAnalysis.Of(s, r, RestorationStandard.Service).Regions[0];
        All(Sheets.Make(2, 2)).Rule.ShouldContain("Nothing was read");
        All(Sheets.Make(2, 2, nominal: null, limit: null), Sheets.Reading(1, 1, "9 mm")).Rule.ShouldContain("size as built is missing");
        All(Sheets.Make(2, 2, limit: null), Sheets.Reading(1, 1, "9 mm")).Rule.ShouldContain("no limit for Service");
        All(Sheets.Make(2, 2), Sheets.Reading(1, 1, "9.9 mm")).Rule.ShouldContain("3 of 4 cells were not read");
        All(Sheets.Make(1, 1), Sheets.Reading(1, 1, "9.9 mm")).Verdict.ShouldBe(Verdict.Within);
        All(Sheets.Make(1, 1), Sheets.Reading(1, 1, "8.3 mm")).Verdict.ShouldBe(Verdict.AtLimit);
        SheetAnalysis.Of(Sheets.Make(1, 1), [Sheets.Reading(1, 1, "11.2 mm")], RestorationStandard.Service)[1, 1]!.Verdict.ShouldBe(Verdict.CannotTell);
        SheetAnalysis.Of(Sheets.Make(1, 1), [Sheets.Reading(1, 1, "9 mm")], RestorationStandard.Conserve)[1, 1]!.Verdict.ShouldBe(Verdict.CannotTell);
    }

    [Fact]
    public void A_lone_jump_is_odd_and_kept_and_a_slope_or_a_band_is_not()
    {
        var sheet = Sheets.Make(8, 12);
        var random = new Random(3);
        double Slope(int r, int c) => 9.9 - (0.05 * c) - (r == 5 ? 0.8 : 0) + (0.01 * Sheets.Noise(random));
        var readings = Sheets.Fill(sheet, (r, c) => r == 2 && c == 7 ? 4.7 : Slope(r, c));
        var a = SheetAnalysis.Of(sheet, readings, RestorationStandard.Service);
        a[2, 7]!.Odd.ShouldBeTrue();
        a[2, 7]!.Worst.ShouldBe(0.0047, 1e-12);
        a.Regions[0].Read.ShouldBe(96);
        a.Cells.Count(c => c.Odd && c.Row != 5).ShouldBe(1);
    }

    [Fact]
    public void A_replaced_plate_has_its_own_size_and_limit()
    {
        var plate = new SheetRegion("New plate", 1, 1, 2, 3, Sheets.Of("12 mm"), [new RegionLimit(RestorationStandard.Service, Sheets.Of("9.6 mm"))], 2021);
        var sheet = Sheets.Make(2, 3, more: [plate]);
        var a = SheetAnalysis.Of(sheet, Sheets.Fill(sheet, (r, c) => r == 1 && c >= 2 ? 11.9 : 9.5), RestorationStandard.Service);
        a[1, 2]!.LossPercent!.Value.ShouldBe(0.8333, 0.001);
        a.Regions[1].Read.ShouldBe(2);
        a.Regions[0].Read.ShouldBe(6);
        a.Cells.ShouldAllBe(c => c.Verdict == Verdict.Within);
    }

    [Fact]
    public void Cells_outside_the_shape_are_left_aside()
    {
        var sheet = new SurveySheet { Title = "Bow", UnitSymbol = "mm", Rows = ["P1", "P2"], Columns = ["1", "2", "3"], ColumnsAre = "Frame", RowStarts = [1, 2], RowEnds = [3, 2], Regions = [new SheetRegion("All", 1, 2, 1, 3, null, [])] };
        sheet.Has(2, 1).ShouldBeFalse();
        sheet.Has(2, 2).ShouldBeTrue();
        sheet.NameOf(2, 2).ShouldBe("P2, frame 2");
        SheetAnalysis.Of(sheet, [Sheets.Reading(2, 1, "9 mm"), Sheets.Reading(2, 2, "9 mm")], RestorationStandard.Service).Regions[0].ShouldSatisfyAllConditions(r => r.Cells.ShouldBe(4), r => r.Read.ShouldBe(1));
    }
}

public sealed class PatternRuleTests
{
    private static IReadOnlyList<LossPattern> Find(SurveySheet sheet, Func<int, int, double> millimetres) => PatternRule.Find(SheetAnalysis.Of(sheet, Sheets.Fill(sheet, millimetres), RestorationStandard.Service));

    [Fact]
    public void A_planted_band_along_two_rows_is_found()
    {
        var random = new Random(1);
        var found = Find(Sheets.Make(9, 16), (r, c) => 9.6 - (r is 5 or 6 ? 0.4 : 0) + (0.15 * Sheets.Noise(random)));
        var band = found.ShouldHaveSingleItem();
        band.Kind.ShouldBe(PatternKind.RowBand);
        (band.RowFrom, band.RowTo).ShouldBe((5, 6));
        band.Chance.ShouldBeLessThan(0.01);
        band.Strength.ShouldBeInRange(0.3, 0.9);
        band.Suggestion.ShouldContain("look for a water line");
    }

    [Fact]
    public void A_planted_band_along_a_column_is_found()
    {
        var random = new Random(2);
        var found = Find(Sheets.Make(9, 16), (r, c) => 9.6 - (c == 11 ? 0.5 : 0) + (0.15 * Sheets.Noise(random)));
        found.ShouldContain(p => p.Kind == PatternKind.ColumnBand && p.ColumnFrom == 11 && p.ColumnTo == 11);
        found.ShouldNotContain(p => p.Kind == PatternKind.RowBand);
    }

    [Fact]
    public void A_planted_patch_is_found_as_a_patch()
    {
        var random = new Random(5);
        var found = Find(Sheets.Make(10, 20), (r, c) => 9.6 - (r is >= 3 and <= 5 && c is >= 12 and <= 15 ? 0.6 : 0) + (0.15 * Sheets.Noise(random)));
        var patch = found.ShouldHaveSingleItem();
        patch.Kind.ShouldBe(PatternKind.Cluster);
        patch.RowFrom.ShouldBeInRange(2, 4);
        patch.ColumnTo.ShouldBeInRange(14, 16);
    }

    [Fact]
    public void A_planted_difference_between_the_sides_is_found()
    {
        var random = new Random(7);
        var found = Find(Sheets.Make(8, 12, centre: 4), (r, c) => 9.6 - (r > 4 ? 0.25 : 0) + (0.2 * Sheets.Noise(random)));
        found.ShouldHaveSingleItem().ShouldSatisfyAllConditions(
            p => p.Kind.ShouldBe(PatternKind.Sides, "a step between the sides is neither a band nor a slope"),
            p => p.RowFrom.ShouldBe(5),
            p => p.RowTo.ShouldBe(8));
    }

    /// <summary>A plane of 0.05 mm a column, with noise of 0.15: named as a slope from its thin end on, and as nothing else.</summary>
    [Theory]
    [InlineData(0, 0.05, "Growing from column c1 to column c12")]
    [InlineData(0.08, 0, "Growing from row r1 to row r8")]
    [InlineData(-0.08, 0, "Growing from row r8 to row r1")]
    [InlineData(0.06, -0.04, "Growing from r1, c12 to r8, c1")]
    public void A_planted_slope_is_named(double byRow, double byColumn, string where)
    {
        var random = new Random(11);
        var slope = Find(
            Sheets.Make(8, 12),
            (r, c) => 9.6 - (byRow * r) - (byColumn * c) + (0.15 * Sheets.Noise(random))).ShouldHaveSingleItem();
        slope.Kind.ShouldBe(PatternKind.Slope);
        slope.Where.ShouldBe(where);
        slope.Strength.ShouldBeInRange(0.3, 0.95);
    }

    [Theory]
    [InlineData("row", "Every second row")]
    [InlineData("column", "Every second column")]
    [InlineData("cell", "Every second cell")]
    public void A_planted_alternation_is_named(string way, string where)
    {
        var random = new Random(13);
        var found = Find(
            Sheets.Make(8, 12),
            (r, c) => 9.6 - ((way == "row" ? r : way == "column" ? c : r + c) % 2 == 0 ? 0.3 : 0) + (0.15 * Sheets.Noise(random)));
        found.ShouldHaveSingleItem().ShouldSatisfyAllConditions(
            p => p.Kind.ShouldBe(PatternKind.Alternation),
            p => p.Where.ShouldBe(where));
    }

    [Theory]
    [InlineData(true, "Slanting from r1, c1 to r10, c10")]
    [InlineData(false, "Slanting from r10, c1 to r1, c10")]
    public void A_planted_slant_is_named(bool down, string where)
    {
        var random = new Random(17);
        var found = Find(Sheets.Make(10, 10), (r, c) => 9.6 - ((down ? r == c : r + c == 11) ? 0.6 : 0) + (0.1 * Sheets.Noise(random)));
        found.ShouldHaveSingleItem().ShouldSatisfyAllConditions(p => p.Kind.ShouldBe(PatternKind.Diagonal), p => p.Where.ShouldBe(where));
    }

    /// <summary>Nothing is denied that was not asked: a sheet without a centre line was not compared side by side, one of three rows has no slant.</summary>
    [Fact]
    public void What_was_asked_is_told()
    {
        IReadOnlyList<string> Asked(SurveySheet sheet) =>
            PatternRule.Asked(
                SheetAnalysis.Of(sheet, Sheets.Fill(sheet, (r, c) => 9 + (0.1 * ((r * c) % 3))), RestorationStandard.Service));
        Asked(Sheets.Make(8, 12, centre: 4)).ShouldBe(
            ["bands", "patches", "a slope", "every second one", "slanting runs", PatternRule.TheSides]);
        Asked(Sheets.Make(3, 12)).ShouldBe(["bands", "patches", "a slope", "every second one"]);
        Asked(Sheets.Make(2, 3)).ShouldBeEmpty("six readings are too few");
    }

    [Fact]
    public void A_planted_nearness_to_a_source_is_found_and_a_source_far_away_is_not()
    {
        var random = new Random(9);
        SheetSource[] sources = [new(SourceKind.Outlet, "the exhaust outlet", 4, 4, 5, 5), new(SourceKind.Drain, "the aft drain", 12, 12, 20, 20)];
        var found = Find(Sheets.Make(12, 20, sources: sources), (r, c) => 9.8 - (0.9 * Math.Exp(-(Math.Pow(r - 4, 2) + Math.Pow(c - 5, 2)) / 30)) + (0.1 * Sheets.Noise(random)));
        found.ShouldContain(p => p.Kind == PatternKind.Source && p.Where == "Near the exhaust outlet");
        found.ShouldNotContain(p => p.Kind == PatternKind.Source && p.Where == "Near the aft drain");
    }

    [Fact]
    public void Pure_noise_gives_false_alarms_no_more_often_than_stated()
    {
        // 300 grids; with the stated rate of 0.05, more than 27 alarms would come one time in a thousand (binomial).
        SheetSource[] sources = [new(SourceKind.Seam, "a seam", 3, 3, 1, 12)];
        var alarms = 0;
        for (var seed = 1; seed <= 300; seed++)
        {
            var random = new Random(seed);
            alarms += Find(Sheets.Make(8, 12, centre: 4, sources: sources), (_, _) => 9.5 + (0.2 * Sheets.Noise(random))).Count > 0 ? 1 : 0;
        }

        alarms.ShouldBeLessThanOrEqualTo(27);
    }

    [Fact]
    public void The_same_sheet_gives_the_same_answer()
    {
        IReadOnlyList<LossPattern> Once()
        {
            var random = new Random(11);
            return Find(Sheets.Make(9, 16), (r, c) => 9.6 - (r == 5 ? 0.2 : 0) + (0.2 * Sheets.Noise(random)));
        }

        Once().ShouldBe(Once());
    }

    [Fact]
    public void Nothing_is_said_of_few_or_equal_readings()
    {
        Find(Sheets.Make(2, 5), (r, c) => r + c).ShouldBeEmpty();
        Find(Sheets.Make(6, 6), (_, _) => 9.5).ShouldBeEmpty();
    }
}

public sealed class WearTrendTests
{
    private static string Inches(double v) => MeasureFormat.Number(v, 4) + " in";

    /// <summary>The worked life of the agreed reference values, section 3: 3.500 thou a year, 10.86 years.</summary>
    [Fact]
    public void Two_surveys_give_the_worked_rate_and_life()
    {
        var trend = WearTrend.Of([(new LocalDate(2020, 1, 1), 0.412), (new LocalDate(2024, 1, 1), 0.398)], 0.360, 0.002, Inches)!;
        trend.PerYear.ShouldBe(-0.0035, 0.0035 * 0.001);
        trend.YearsLeft!.Value.ShouldBe(10.86, 0.01);
        trend.On!.Value.Year.ShouldBe(2034);
        trend.Earliest!.Value.ShouldBeLessThan(trend.On.Value);
        trend.Latest!.Value.ShouldBeGreaterThan(trend.On.Value);
    }

    [Fact]
    public void Without_knowing_how_well_the_gauge_repeats_no_range_is_shown()
    {
        var trend = WearTrend.Of([(new LocalDate(2020, 1, 1), 0.412), (new LocalDate(2024, 1, 1), 0.398)], 0.360, null, Inches)!;
        trend.Earliest.ShouldBeNull();
        trend.Working.Cautions.ShouldContain(c => c.Contains("nobody knows", StringComparison.Ordinal));
    }

    [Fact]
    public void What_does_not_wear_or_has_one_date_gives_no_day()
    {
        WearTrend.Of([(new LocalDate(2020, 1, 1), 0.412)], 0.36, 0.002, Inches).ShouldBeNull();
        WearTrend.Of([(new LocalDate(2020, 1, 1), 0.412), (new LocalDate(2020, 1, 1), 0.4)], 0.36, 0.002, Inches).ShouldBeNull();
        WearTrend.Of([(new LocalDate(2020, 1, 1), 0.398), (new LocalDate(2024, 1, 1), 0.412)], 0.36, 0.002, Inches)!.On.ShouldBeNull();
        WearTrend.Of([(new LocalDate(2020, 1, 1), 0.4), (new LocalDate(2024, 1, 1), 0.4)], 0.36, 0.002, Inches)!.On.ShouldBeNull();
        WearTrend.Of([(new LocalDate(2020, 1, 1), 0.4), (new LocalDate(2024, 1, 1), 0.399)], 0.36, 0.05, Inches)!.Working.Cautions.ShouldContain(c => c.Contains("cannot be bounded", StringComparison.Ordinal));
    }

    [Fact]
    public void Nine_times_in_ten_the_true_day_lies_in_the_interval()
    {
        // True line 10 − 0.2 a year, limit 7 after 15 years; five surveys two years apart with a spread of 0.05.
        var (random, start, inside, all) = (new Random(4), new LocalDate(2010, 1, 1), 0, 0);
        var truth = start.PlusDays((int)Math.Round(15 * 365.25));
        for (var i = 0; i < 600; i++)
        {
            var values = Enumerable.Range(0, 5).Select(k => (start.PlusDays(k * 730), 10 - (0.2 * k * 730 / 365.25) + (0.05 * Sheets.Noise(random)))).ToList();
            var trend = WearTrend.Of(values, 7, null, Inches)!;
            all++;
            inside += trend.Earliest <= truth && trend.Latest >= truth ? 1 : 0;
        }

        // 0.90 ± three standard errors of 600 trials.
        (inside / (double)all).ShouldBeInRange(0.863, 0.937);
    }
}

public sealed class SheetEntryTests
{
    private static readonly SurveySheet Sheet = Sheets.Make(3, 4);

    [Theory]
    [InlineData("9.5", 1, 0.0095)]
    [InlineData("9,5", 1, 0.0095)]
    [InlineData("3/8 in", 1, 0.009525)]
    [InlineData("9.5 9.4 9.1", 3, 0.0091)]
    [InlineData("9.5; 370 thou", 2, 0.009398)]
    public void Reads_one_or_several_readings_of_a_cell(string text, int count, double last)
    {
        var (cell, problem) = SheetEntry.Read(Sheet, 1, 1, text);
        problem.ShouldBeNull();
        cell!.Readings.Count.ShouldBe(count);
        cell.Readings[^1].Si.ShouldBe(last, 1e-12);
    }

    [Theory]
    [InlineData("0.37", "the other unit")]
    [InlineData("abc", "Start with the number")]
    [InlineData("1 2 3 4 5 6 7 8 9 10", "9 readings at most")]
    [InlineData("-3", "cannot be negative")]
    [InlineData(";", "no number")]
    public void Says_what_is_wrong_with_a_cell(string text, string sentence) => SheetEntry.Read(Sheet, 1, 1, text).Problem!.Sentence.ShouldContain(sentence);

    [Fact]
    public void A_question_mark_is_cannot_see_a_dash_clears_and_a_blank_leaves()
    {
        SheetEntry.Read(Sheet, 1, 1, "?").Cell!.Mark.ShouldBe(CellMark.CannotSee);
        SheetEntry.Read(Sheet, 1, 1, "-").Cell!.Readings.ShouldBeEmpty();
        SheetEntry.Read(Sheet, 1, 1, "  ").ShouldBe((null, null));
    }

    [Fact]
    public void A_block_that_runs_over_the_edge_is_taken_where_it_fits()
    {
        var result = SheetEntry.ReadBlock(Sheet, 3, 3, [["9.1", "9.2", "9.3"], ["9.4"]]);
        result.Cells.Select(c => (c.Row, c.Column)).ShouldBe([(3, 3), (3, 4)]);
        result.Problems.Count.ShouldBe(2);
        result.Problems[0].Sentence.ShouldContain("no such cell");
    }

    [Fact]
    public void A_table_finds_its_rows_and_columns_by_name()
    {
        var result = SheetEntry.ReadTable(Sheet, [["", "C2", "c9", "c1"], ["r2", "9.2", "9.9", "9.1"], ["r7", "1"], ["", "", "", ""], ["R1", "", "", "x"]]);
        result.Cells.Select(c => (c.Row, c.Column)).ShouldBe([(2, 2), (2, 1)]);
        result.Problems.Select(p => p.Sentence).ShouldBe(["The sheet has no such column.", "Line 3: the sheet has no such row.", "Start with the number, then its unit, such as 7.2 mm."], ignoreOrder: true);
        SheetEntry.ReadTable(Sheet, [["", "c1"]]).Problems.ShouldHaveSingleItem();
    }
}
