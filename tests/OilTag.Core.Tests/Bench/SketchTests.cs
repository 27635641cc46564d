using OilTag.Core.Bench;
using OilTag.Core.Bench.Sketches;

namespace OilTag.Core.Tests.Bench;

/// <summary>Every calculator is drawn, and what is drawn has the size that was worked out.</summary>
public sealed class SketchTests
{
    private static string Example(string key) => Calculator.Find(key)!.Example;

    public static TheoryData<string> Keys => [.. Calculator.All.Select(c => c.Key)];

    [Theory]
    [MemberData(nameof(Keys))]
    public void Every_calculator_is_drawn(string key)
    {
        var answer = WorkedExamplesTests.Ask(key, Example(key));
        answer.Problems.ShouldBeEmpty();
        var sketch = answer.Sketch.ShouldNotBeNull();
        sketch.Words.ShouldNotBeEmpty();
        sketch.Marks.ShouldNotBeEmpty();
        (sketch.Sizes.Count + sketch.Notes.Count).ShouldBeGreaterThan(0);
        var (left, bottom, right, top) = sketch.Box;
        double[] all = [left, bottom, right, top, .. sketch.Paths.SelectMany(p => p.Points).SelectMany(p => new[] { p.X, p.Y }), .. sketch.Circles.SelectMany(c => new[] { c.X, c.Y, c.Radius })];
        all.ShouldAllBe(v => double.IsFinite(v));
        (right - left + top - bottom).ShouldBeGreaterThan(0);
        sketch.Circles.ShouldAllBe(c => c.Radius > 0);

        // What has a template is laid on in full size: it may not be drawn larger than it is.
        (answer.Template?.Apart ?? string.Empty).ShouldBeEmpty();
    }

    [Fact]
    public void The_blank_of_a_bend_is_as_long_as_its_flat_length()
    {
        var answer = WorkedExamplesTests.Ask("bend", "thickness=0.040 in&radius=0.125 in&legs=1.00 + 2.00 + 1.00 in&k=empirical");
        var (left, _, right, _) = answer.Template!.Box;
        (right - left).ShouldBe(answer["flat"].Si, 1e-12);
        (right - left).ShouldBe(3.788 * 0.0254, 0.0005 * 0.0254);
    }

    [Fact]
    public void The_bent_piece_ends_where_its_legs_say()
    {
        // A right angle of 25 and 40 mm outside: 25 across and 40 up to the mould lines.
        var sketch = WorkedExamplesTests.Ask("bend", "thickness=1 mm&radius=3 mm&legs=25 + 40 mm").Sketch!;
        var points = sketch.Paths.First().Points;
        (points.Max(p => p.X) - points.Min(p => p.X)).ShouldBe(0.025, 1e-9);
        (points.Max(p => p.Y) - points.Min(p => p.Y)).ShouldBe(0.040, 1e-9);
    }

    [Fact]
    public void Holes_of_a_template_lie_where_the_figures_say()
    {
        var answer = WorkedExamplesTests.Ask("bolt-circle", "diameter=200 mm&holes=8&start=22.5&hole=11 mm");
        var holes = answer.Template!.Circles.Where(c => c.Radius < 0.01).ToList();
        holes.Count.ShouldBe(8);
        for (var i = 0; i < 8; i++)
        {
            holes[i].X.ShouldBe(answer[$"x{i + 1}"].Si, 1e-12);
            holes[i].Y.ShouldBe(answer[$"y{i + 1}"].Si, 1e-12);
            holes[i].Radius.ShouldBe(0.0055, 1e-12);
        }
    }

    [Fact]
    public void A_developed_hole_lies_at_its_length_on_the_flat_plate()
    {
        var answer = WorkedExamplesTests.Ask("develop", "radius=24.5 in&thickness=0.5 in&distance=10 in; -5 in&along=0; 3 in&hole=1 in");
        answer["flat"].Si.ShouldBe(9.898 * 0.0254, 0.001 * 0.0254);
        answer.Template!.Circles.Select(c => (c.X, c.Y)).ShouldBe([(answer["flat"].Si, 0), (answer["flat2"].Si, 3 * 0.0254)]);
    }

    [Fact]
    public void Small_errors_are_drawn_a_round_number_of_times_as_large_and_it_says_so()
    {
        var answer = WorkedExamplesTests.Ask("clearance", "journal=100 mm&each=1");
        answer.Sketch!.Apart.ShouldContain("100 times as large");
        var (bore, journal) = (answer.Sketch.Circles.First(c => c.Stroke == SketchStroke.Edge), answer.Sketch.Circles.First(c => c.Stroke == SketchStroke.Metal));
        (2 * (bore.Radius - journal.Radius)).ShouldBe(100 * answer["clearance"].Si, 1e-12);

        // Both touch at the bottom.
        (bore.Y - bore.Radius).ShouldBe(journal.Y - journal.Radius, 1e-12);
    }

    [Fact]
    public void An_arc_keeps_to_its_circle()
    {
        var points = Sketch.ArcPoints(1, 2, 3, 0, Math.PI);
        points.ShouldAllBe(p => Math.Abs(Math.Sqrt(Math.Pow(p.X - 1, 2) + Math.Pow(p.Y - 2, 2)) - 3) < 1e-12);
        var sagitta = points.Zip(points.Skip(1)).Max(p => 3 - Math.Sqrt(Math.Pow(((p.First.X + p.Second.X) / 2) - 1, 2) + Math.Pow(((p.First.Y + p.Second.Y) / 2) - 2, 2)));
        sagitta.ShouldBeLessThan(0.003);
    }
}
