using CsCheck;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

/// <summary>Wear used w = 100 (N − M)/(N − L) % (common practice); the worked cases are computed from it.</summary>
public sealed class VerdictRuleTests
{
    private static Measure Of(string text) => MeasureReader.Read(text, Quantity.Length).Value!;

    private static VerdictResult Judge(Feature feature, string reading, string nominal, string limit, RestorationStandard? limitFor = null, RestorationStandard standard = RestorationStandard.Service) =>
        VerdictRule.Judge(feature, Of(reading), Of(nominal), Of(limit), limitFor, standard, "Marram No. 3");

    [Theory]
    [InlineData(Feature.Shaft, "2.4972 in", "2.4990 in", "2.4960 in", 60.00, Verdict.Within)]
    [InlineData(Feature.Bore, "4.0095 in", "4.0000 in", "4.0080 in", 118.75, Verdict.Beyond)]
    [InlineData(Feature.Shaft, "1.9965 in", "1.9990 in", "1.9950 in", 62.50, Verdict.Within)]
    [InlineData(Feature.Thickness, "0.88 mm", "1.63 mm", "1.22 mm", 182.93, Verdict.Beyond)]
    [InlineData(Feature.Thickness, "1.29 mm", "1.63 mm", "1.22 mm", 82.93, Verdict.AtLimit)]
    [InlineData(Feature.Thickness, "1.55 mm", "1.63 mm", "1.22 mm", 19.51, Verdict.Within)]
    [InlineData(Feature.Clearance, "14 thou", "3 thou", "15 thou", 91.67, Verdict.AtLimit)]
    public void Judges_worked_cases(Feature feature, string reading, string nominal, string limit, double used, Verdict verdict)
    {
        var result = Judge(feature, reading, nominal, limit);
        result.Verdict.ShouldBe(verdict);
        result.WearUsed!.Value.ShouldBe(used, 0.005);
    }

    [Fact]
    public void Both_unit_systems_give_the_same_percentage()
    {
        var inches = Judge(Feature.Shaft, "2.4972 in", "2.4990 in", "2.4960 in").WearUsed!.Value;
        var metric = Judge(Feature.Shaft, "63.42888 mm", "63.4746 mm", "63.3984 mm").WearUsed!.Value;
        metric.ShouldBe(inches, 1e-6);
        Judge(Feature.Thickness, "5/16 in", "9.525 mm", "280 thou").WearUsed!.Value.ShouldBe(100 * (9.525 - 7.9375) / (9.525 - 7.112), 1e-6);
    }

    [Theory]
    [InlineData("6 mm", Verdict.AtLimit)]
    [InlineData("5.999 mm", Verdict.Beyond)]
    [InlineData("6.4 mm", Verdict.AtLimit)]
    [InlineData("6.41 mm", Verdict.Within)]
    public void What_may_not_be_below_a_size_may_be_that_size(string reading, Verdict verdict) =>
        Judge(Feature.Thickness, reading, "8 mm", "6 mm").Verdict.ShouldBe(verdict);

    [Fact]
    public void The_working_shows_formula_values_standard_and_source()
    {
        var w = Judge(Feature.Thickness, "7.2 mm", "8 mm", "6 mm").Working;
        w.Result.ShouldStartWith("Within limits: 40 % of the allowed wear is used");
        w.Steps[0].ShouldBe("Standard: Service, set by Marram No. 3.");
        w.Steps[1].Replace('\u00A0', ' ').ShouldBe("Wear used = (as built − reading) ÷ (as built − limit) = (8 mm − 7.2 mm) ÷ (8 mm − 6 mm) = 40 %.");
        w.Source.ShouldStartWith("Common practice");
        w.Cautions.ShouldContain(c => c.Contains("licensed"));
    }

    [Theory]
    [InlineData(RestorationStandard.Service, RestorationStandard.Display, "5.7 mm", Verdict.CannotTell)]
    [InlineData(RestorationStandard.Service, RestorationStandard.Display, "7.2 mm", Verdict.Within)]
    [InlineData(RestorationStandard.Display, RestorationStandard.Service, "5.7 mm", Verdict.Beyond)]
    [InlineData(RestorationStandard.Display, RestorationStandard.Service, "7.2 mm", Verdict.CannotTell)]
    [InlineData(RestorationStandard.Conserve, RestorationStandard.Conserve, "5.7 mm", Verdict.Beyond)]
    public void A_limit_of_another_standard_settles_only_what_it_can(RestorationStandard limitFor, RestorationStandard standard, string reading, Verdict verdict) =>
        Judge(Feature.Thickness, reading, "8 mm", "6 mm", limitFor, standard).Verdict.ShouldBe(verdict);

    [Fact]
    public void What_is_missing_is_said()
    {
        VerdictRule.Judge(null, null, null, null, null, RestorationStandard.Service, "x").Working.Result.ShouldContain("nothing was measured");
        VerdictRule.Judge(Feature.Shaft, Of("1 in"), Of("1.1 in"), null, null, RestorationStandard.Service, "x").Working.Result.ShouldContain("there is no limit");
        VerdictRule.Judge(Feature.Shaft, Of("1 in"), Of("1.1 in"), null, null, RestorationStandard.Conserve, "x").Working.Result.ShouldContain("Conserve sets no limit");
        VerdictRule.Judge(Feature.Shaft, Of("1 in"), null, Of("0.9 in"), null, RestorationStandard.Service, "x").Working.Result.ShouldContain("size as built is missing");
        Judge(Feature.Shaft, "1.11 in", "1 in", "0.9 in").Working.Result.ShouldContain("larger than new");
        Judge(Feature.Bore, "0.89 in", "1 in", "1.1 in").Working.Result.ShouldContain("smaller than new");
        Judge(Feature.Thickness, "9 mm", "8 mm", "6 mm").Working.Result.ShouldContain("larger than new");
    }

    /// <summary>A little over new is as new in a finding and in a cell of a sheet, and is told; more than can be cannot be told in either.</summary>
    [Theory]
    [InlineData(Feature.Thickness, "8.3 mm", "8 mm", "6 mm", Verdict.Within)]
    [InlineData(Feature.Thickness, "8.81 mm", "8 mm", "6 mm", Verdict.CannotTell)]
    [InlineData(Feature.Shaft, "8.3 mm", "8 mm", "7.6 mm", Verdict.Within)]
    [InlineData(Feature.Shaft, "8.5 mm", "8 mm", "7.6 mm", Verdict.CannotTell)]
    [InlineData(Feature.Bore, "7.9 mm", "8 mm", "8.2 mm", Verdict.Within)]
    [InlineData(Feature.Bore, "7.7 mm", "8 mm", "8.2 mm", Verdict.CannotTell)]
    public void A_little_over_new_is_the_same_in_findings_and_sheets(
        Feature feature,
        string reading,
        string nominal,
        string limit,
        Verdict verdict)
    {
        var finding = Judge(feature, reading, nominal, limit);
        finding.Verdict.ShouldBe(verdict);
        if (verdict == Verdict.Within)
        {
            finding.Working.Result.ShouldStartWith("Within limits: 0 % of the allowed wear is used");
            finding.Working.Steps[^1].ShouldContain("than as built, less than what may wear");
        }

        var sheet = new SurveySheet
        {
            Title = "t",
            Feature = feature,
            UnitSymbol = "mm",
            Rows = ["1"],
            Columns = ["1"],
            Regions = [new SheetRegion("All", 1, 1, 1, 1, Of(nominal), [new RegionLimit(RestorationStandard.Service, Of(limit))])],
        };
        SheetAnalysis.Of(
            sheet,
            [new SheetReading { Row = 1, Column = 1, Text = reading, Si = Of(reading).Si }],
            RestorationStandard.Service)[1, 1]!.Verdict.ShouldBe(verdict);
    }

    /// <summary>0.4 mm left of 10 is one part in twenty-five, as inches typed for millimetres would be: it is asked, and can be insisted on.</summary>
    [Fact]
    public void What_looks_like_the_wrong_unit_can_be_insisted_on()
    {
        var entry = new FindingEntry { What = "wasted", Feature = Feature.Thickness, Reading = "0.4 mm", Nominal = "10 mm", Limit = "8 mm" };
        FindingRule.Check(entry).Problems.Select(p => p.Field).ShouldBe(["Reading", "Insists"]);
        FindingRule.Check(entry with { Insists = true }).Problems.ShouldBeEmpty();
        var judged = Judge(Feature.Thickness, "0.4 mm", "10 mm", "8 mm");
        judged.Verdict.ShouldBe(Verdict.Beyond);
        judged.Working.Cautions.ShouldContain(c => c.Contains("differ by 25.4"));
    }

    [Fact]
    public void A_reading_far_from_new_asks_to_measure_again() => Judge(Feature.Thickness, "5 mm", "8 mm", "6 mm").Working.Cautions.ShouldContain(c => c.Contains("Measure again"));

    [Fact]
    public void More_wear_is_never_judged_better() =>
        Gen.Select(Gen.Int[1, 2000], Gen.Int[1, 2000]).Sample((a, b) =>
        {
            var (less, more) = (Math.Min(a, b), Math.Max(a, b));
            Verdict At(int microns) => VerdictRule.Judge(Feature.Thickness, new Measure("x", 0.008 - (microns * 1e-6), "mm"), Of("8 mm"), Of("7 mm"), null, RestorationStandard.Service, "x").Verdict;
            return At(less) <= At(more);
        });

    [Theory]
    [InlineData("", null, "What")]
    [InlineData("x", "8 mm", "Reading")]
    public void A_finding_needs_words_and_a_reading_where_there_is_a_nominal(string what, string? nominal, string field) =>
        FindingRule.Check(new FindingEntry { What = what, Nominal = nominal }).Problems.ShouldContain(p => p.Field == field);

    [Fact]
    public void A_reading_needs_to_say_what_was_measured() => FindingRule.Check(new FindingEntry { What = "x", Reading = "7 mm" }).Problems.Single().Field.ShouldBe("Feature");

    [Theory]
    [InlineData(Disposition.Remake, "why", 0, 0, "Pieces")]
    [InlineData(Disposition.Remake, "why", -1, 2, "Pieces")]
    [InlineData(Disposition.Remake, "why", 1000, 0, "Pieces")]
    [InlineData(Disposition.Leave, "", 0, 0, "Why")]
    [InlineData(null, "why", 0, 0, "Disposition")]
    public void A_decision_says_what_why_and_how_many(Disposition? d, string why, int left, int right, string field) =>
        FindingRule.CheckDecision(d, why, left, right, true, null, false, new NodaTime.LocalDate(2026, 5, 1)).Single().Field.ShouldBe(field);
}

public sealed class PhotoRuleTests
{
    [Fact]
    public void Only_pictures_are_taken_for_pictures()
    {
        PhotoRule.Kind("GIF89a...."u8).ShouldBe(PictureKind.Unknown);
        PhotoRule.Kind([0xFF, 0xD8, 0xFF, 0xE0, 0]).ShouldBe(PictureKind.Jpeg);
        PhotoRule.WithoutMetadata("nothing"u8).ShouldBeNull();
        PhotoRule.CheckSize(0)!.Sentence.ShouldContain("empty");
        PhotoRule.CheckSize(40L * 1024 * 1024)!.Sentence.ShouldBe("The photo is 40 MB; 25 MB fit. Send a smaller one.");
        PhotoRule.CheckSize(PhotoRule.LargestFile).ShouldBeNull();
    }

    [Fact]
    public void Segments_that_tell_where_and_who_go_and_the_colour_profile_stays()
    {
        byte[] Segment(byte marker, params byte[] body) => [0xFF, marker, (byte)((body.Length + 2) >> 8), (byte)(body.Length + 2), .. body];
        byte[] profile = Segment(0xE2, [.. "ICC_PROFILE\0"u8, 1, 1, 9, 9]);
        byte[] scan = [0xFF, 0xDA, 0, 2, 1, 2, 3, 0xFF, 0xD9];
        byte[] file = [0xFF, 0xD8, .. Segment(0xE0, 1, 2), .. Segment(0xE1, 7, 7), .. profile, .. Segment(0xFE, 8, 8), .. Segment(0xED, 5), .. Segment(0xDB, 4), .. scan, 66, 66];
        byte[] kept = [0xFF, 0xD8, .. Segment(0xE0, 1, 2), .. profile, .. Segment(0xDB, 4), .. scan];
        PhotoRule.WithoutMetadata(file).ShouldBe(kept);
        PhotoRule.WithoutMetadata(file[..^3]).ShouldBeNull();
        PhotoRule.WithoutMetadata(file[..20]).ShouldBeNull();
    }

    [Fact]
    public void Text_chunks_go_from_a_png()
    {
        byte[] Chunk(string type, params byte[] body) => [0, 0, 0, (byte)body.Length, .. System.Text.Encoding.ASCII.GetBytes(type), .. body, 0, 0, 0, 0];
        byte[] head = [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A];
        byte[] file = [.. head, .. Chunk("IHDR", 1), .. Chunk("eXIf", 2), .. Chunk("tEXt", 3), .. Chunk("gAMA", 4), .. Chunk("IDAT", 5), .. Chunk("IEND"), 1, 2];
        PhotoRule.WithoutMetadata(file).ShouldBe([.. head, .. Chunk("IHDR", 1), .. Chunk("gAMA", 4), .. Chunk("IDAT", 5), .. Chunk("IEND")]);
        PhotoRule.WithoutMetadata(file[..40]).ShouldBeNull();
    }
}
