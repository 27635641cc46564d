using OilTag.Core.Survey;

namespace OilTag.Core.Tests.Survey;

/// <summary>Rigging checks: stations, what they come to, and what to change.</summary>
public sealed class RiggingRuleTests
{
    private const double Degree = Math.PI / 180;

    private static RiggingCheck Check(string stations, string adjusters = "")
    {
        List<Problem> problems = [];
        var all = RiggingRule.Stations(stations, problems);
        var check = new RiggingCheck { Title = "Rig", Stations = all, Adjusters = RiggingRule.Adjusters(adjusters, all, problems) };
        problems.ShouldBeEmpty();
        return check;
    }

    private static RigResult Work(RiggingCheck check, params string[] read) => RiggingRule.Work(check, read.Select((t, i) => (t, i)).Where(x => x.t.Length > 0).ToDictionary(x => x.i, x => RiggingRule.Reading(check.Stations[x.i], x.t).Value!.Value));

    [Fact]
    public void Washout_dihedral_and_symmetry_come_from_the_readings()
    {
        // Reference values, section 12: washout 2.505 − 1.432 = 1.073°; dihedral 10.64 in on 14 ft 6 in is 3.5°.
        var result = Work(Check("wing 1; incidence; left; 20 in; 2.5°; 0.25°\nwing 2; incidence; left; 160 in; 1.4°; 0.25°\nspar 1; height; left; 0; 0; 1/4 in\nspar 2; height; left; 174 in; 10.64 in; 1/4 in\nspar 2; height; right; 174 in; 10.64 in; 1/4 in"), "2.505°", "1.432°", "0", "10.64 in", "10.5 in");
        result.Figures.Single(f => f.Words.Contains("washout", StringComparison.Ordinal)).Value.ShouldBe(1.073 * Degree, 1e-6);
        result.Figures.Single(f => f.Words == "Left spar, dihedral").Value.ShouldBe(3.5 * Degree, 0.001 * Degree);
        result.Figures.Single(f => f.Words == "spar 2, left less right").Value.ShouldBe(0.14 * 0.0254, 1e-9);
        result.Rows.ShouldAllBe(r => r.Within);
        result.Advice.ShouldStartWith("All stations are within");
        result.Sketch!.Apart.ShouldContain("times as large");
    }

    [Fact]
    public void Straightness_is_the_narrowest_band()
    {
        // Reference values, section 12: readings every 8 ft; minimum zone 69.50 thou, tolerance 125.
        var stations = string.Join('\n', Enumerable.Range(0, 9).Select(i => $"frame {i}; offset; middle; {8 * i} ft; 0; 125 thou"));
        var result = Work(Check(stations), "0", "22 thou", "41 thou", "60 thou", "72 thou", "66 thou", "50 thou", "27 thou", "5 thou");
        var band = result.Figures.Single(f => f.Words.StartsWith("Straightness", StringComparison.Ordinal));
        band.Value.ShouldBe(0.0695 * 0.0254, 1e-7);
        band.Bad.ShouldBeFalse();
    }

    [Fact]
    public void A_wheel_out_of_centre_shows_by_how_much_and_where()
    {
        // A pure eccentricity of 9 thou at 60°: the clock swings 18 thou (TIR), and nothing is left out of round.
        var check = Check(string.Join('\n', Enumerable.Range(0, 8).Select(i => $"rim {i}; clock; middle; {45 * i}°; 0; 0.020 in")));
        string[] read = [.. Enumerable.Range(0, 8).Select(i => 0.009 * Math.Cos((45 * i * Degree) - (60 * Degree))).Select(v => FormattableString.Invariant($"{(v < 0 ? "-" : string.Empty)}{Math.Abs(v):0.000000000} in"))];
        var result = Work(check, read);
        result.Figures.Single(f => f.Words == "rim: out of centre by").Value.ShouldBe(0.009 * 0.0254, 1e-9);
        result.Figures.Single(f => f.Words == "rim: highest at").Value.ShouldBe(60 * Degree, 1e-6);
        result.Figures.Single(f => f.Words == "rim: out of round by").Value.ShouldBe(0, 1e-9);
        result.Sketch!.Apart.ShouldContain("A circle of any size");
    }

    [Fact]
    public void A_small_error_is_put_right_by_the_smallest_changes()
    {
        var check = Check("upper 2; incidence; left; 4 m; 2°; 0.25°\nupper 2; incidence; right; 4 m; 2°; 0.25°", "Left wire; turns; 4; upper 2 left -0.1°\nRight wire; turns; 4; upper 2 right -0.1°");
        var result = Work(check, "2.3°", "2.05°");
        result.Changes.Select(c => (c.Adjuster.Name, Math.Round(c.Change, 3))).ShouldBe([("Left wire", 3.0), ("Right wire", 0.5)]);
        result.After!.Value.ShouldBe(0, 1e-9);
    }

    [Fact]
    public void A_large_error_is_no_matter_of_turning()
    {
        var result = Work(Check("upper 2; incidence; left; 4 m; 2°; 0.25°", "Left wire; turns; 4; upper 2 left -0.1°"), "2.6°");
        result.Changes.ShouldBeEmpty();
        result.Advice.ShouldContain("no small error");
    }

    [Fact]
    public void Until_all_is_read_nothing_is_advised()
    {
        var check = Check("upper 1; incidence; left; 1 m; 2°; 0.25°\nupper 2; incidence; left; 4 m; 2°; 0.25°");
        Work(check).Advice.ShouldContain("Nothing is read yet");
        Work(check, "3°").Advice.ShouldBe("1 of 2 stations are not read yet.");
        Work(check, "3°", "2°").Advice.ShouldContain("Nobody has said which wire");
    }

    [Theory]
    [InlineData("upper 1; incidence; left; 1 m; 2°", "write name")]
    [InlineData("upper 1; guess; left; 1 m; 2°; 1°", "write name")]
    [InlineData("upper 1; incidence; left; 1 m; 2 in; 1°", "angle")]
    [InlineData("upper 1; incidence; left; 1 m; 2°; 0", "more than nought")]
    [InlineData("a 1; incidence; left; 1 m; 2°; 1°\nA 1; incidence; left; 2 m; 2°; 1°", "twice")]
    public void A_station_that_cannot_be_read_is_quoted(string lines, string why)
    {
        List<Problem> problems = [];
        RiggingRule.Stations(lines, problems);
        problems.ShouldHaveSingleItem().Sentence.ShouldContain(why);
    }

    [Theory]
    [InlineData("wire; turns; 3; upper 9 left 1°", "no station is called that")]
    [InlineData("wire; turns; 0; upper 1 left 1°", "write name")]
    [InlineData("wire; turns; 3; upper 1 left 0", "must change something")]
    public void An_adjuster_that_cannot_be_read_is_quoted(string line, string why)
    {
        List<Problem> problems = [];
        RiggingRule.Adjusters(line, Check("upper 1; incidence; left; 1 m; 2°; 0.25°").Stations, problems);
        problems.ShouldHaveSingleItem().Sentence.ShouldContain(why);
    }

    [Fact]
    public void An_angle_that_is_no_rigging_is_refused() => RiggingRule.Reading(Check("upper 1; incidence; left; 1 m; 2°; 0.25°").Stations[0], "50°").Refusal.ShouldNotBeNull();
}
