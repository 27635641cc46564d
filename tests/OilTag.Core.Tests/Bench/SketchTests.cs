using OilTag.Core.Bench;
using OilTag.Core.Bench.Sketches;

namespace OilTag.Core.Tests.Bench;

/// <summary>Every calculator is drawn, and what is drawn has the size that was worked out.</summary>
public sealed class SketchTests
{
    /// <summary>One good question for each calculator; the list is complete or the test fails.</summary>
    internal static readonly IReadOnlyDictionary<string, string> Good = new Dictionary<string, string>(StringComparer.Ordinal)
    {
        ["torque"] = "thread=1/2 UNC&grade=5",
        ["tap-drill"] = "thread=M12x1.25",
        ["engagement"] = "thread=M10&grade=8.8&hole=220 MPa",
        ["stretch"] = "thread=3/8-24 UNF&grade=8&length=4 in",
        ["an-torque"] = "thread=1/4-28&running=8 lbf in",
        ["rivet"] = "stack=0.040 + 0.032 in&dash=4&edge=0.3 in",
        ["rivet-seam"] = "length=36 in&edge=0.30 in&most=0.75 in&rows=2",
        ["rivet-splice"] = "length=3 in&thickness=0.032 in&bearing=500 lbf",
        ["hot-rivet"] = "diameter=3/4 in&hole=13/16 in&grip=1 1/4 in",
        ["bend"] = "thickness=1 mm&radius=3 mm&legs=25 + 40 mm",
        ["springback"] = "radius=0.25 in&thickness=0.040 in&yield=47000 psi&modulus=10500000 psi",
        ["flare"] = "hole=50 mm&flared=56 mm&thickness=0.8 mm&elongation=15",
        ["rib"] = "chord=600 mm&stations=0; 10; 30; 60; 100&upper=0; 6; 8; 6; 0&lower=0; -2; -2.5; -1; 0",
        ["pattern"] = "size=14.5 in",
        ["cast-bush"] = "outside=4 in&bore=2 1/2 in&length=5 in",
        ["cope"] = "area=120 in2&height=4 in",
        ["pour"] = "alloy=b23-2&pour=424 °C",
        ["iron"] = "c=3.4&si=2&pour=1380 °C",
        ["white-metal"] = "shell=4 3/4 in&mandrel=3 7/8 in&length=6 in",
        ["panel-holes"] = "distance=600 mm",
        ["dome"] = "radius=10 in&height=5 in&thickness=0.25 in",
        ["drape"] = "radius=400 mm&thickness=4 mm&angle=120",
        ["mould"] = "size=500 mm",
        ["press-fit"] = "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.04 mm",
        ["shrink"] = "diameter=50 mm&interference=0.04 mm&gap=0.05 mm",
        ["key"] = "torque=400 N m&diameter=45 mm&width=14 mm&height=9 mm&length=70 mm",
        ["key-size"] = "diameter=45 mm",
        ["fit"] = "diameter=40 mm",
        ["wear"] = "nominal=2.4990 in&limit=2.4960 in&reading=2.4972 in",
        ["resize"] = "nominal=2.0000 in&reading=1.9868 in&clean=0.002 in",
        ["wear-rate"] = "first=2.4985 in&firstHours=1000&second=2.4979 in&secondHours=1400&limit=2.4960 in",
        ["clearance"] = "journal=4 in&more=0.001 in",
        ["build-up"] = "undercut=3.875 in&finish=4 in&stock=1/16 in&length=6 in&layer=3/32 in",
        ["shell"] = "pressure=150 psi&radius=24 in&strength=55000 psi&joint=0.75&thickness=0.4 in",
        ["stay"] = "pressure=150 psi&across=4 in&up=4 in&diameter=0.8 in",
        ["brace"] = "pressure=150 psi&area=40 in2&angle=12&diameter=1 in",
        ["flat-plate"] = "thickness=3/8 in&pitch=4 in",
        ["ligament"] = "pitch=3 1/4 in&hole=15/16 in",
        ["plate-life"] = "before=0.412 in&now=0.398 in&years=4&limit=0.36 in",
        ["centre"] = "masses=4200; -360 lb&places=25; 40 in",
        ["supports"] = "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m",
        ["jack"] = "load=6.6 tonne&rated=8 tonne",
        ["sling"] = "mass=3 tonne&angle=60",
        ["crib"] = "load=20000 lb&height=30 in&base=36 in",
        ["weighing"] = "readings=1820; 1835; 540 lb&places=0; 0; 200 in&off=360 lb&offAt=40 in",
        ["dihedral"] = "length=14 ft 6 in&angle=3.5",
        ["washout"] = "board=24 in&root=1.05 in&tip=0.60 in",
        ["symmetry"] = "half=180 in&left=262.5 in&right=262.1 in",
        ["straight"] = "readings=0; 22; 41; 60; 72; 66; 50; 27; 5 thou&step=8 ft&tolerance=1/8 in",
        ["run-out"] = "tir=0.018 in",
        ["sag"] = "mass=0.256 lb&length=64 ft&pull=20 lbf",
        ["cable"] = "stiffness=95000 lbf&tension=60 lbf",
        ["wedge"] = "board=24 in&angle=2.5",
        ["compression"] = "bore=3.5 in&stroke=4 in&chamber=105 ml&wanted=7.5",
        ["piston"] = "stroke=4 in&rod=8 in&angle=90",
        ["ports"] = "stroke=114.3 mm&rod=226 mm&exhaust=27 mm&inlet=19 mm",
        ["match"] = "masses=812; 806; 815; 809 g",
        ["unbalance"] = "mass=10 g&radius=60 mm&speed=3000&rotor=25 kg",
        ["pump"] = "gear=1.2515 in&body=1.25 in&gaskets=0.003; 0.004; 0.006 in",
        ["shim"] = "old=2.65 mm&measured=0.38 mm&wanted=0.3 mm",
        ["bob-weight"] = "rod=620 g&big=420 g&piston=480 g",
        ["adjuster"] = "measured=0.38 mm&wanted=0.3 mm&pitch=1 mm",
        ["winding"] = "cold=6 ohm&warmAt=85 °C",
        ["generator"] = "a=40 V&b=2 A&field=6 ohm&warmAt=85 °C",
        ["generator-field"] = "a=40 V&b=2 A&voltage=28 V&winding=4.5 ohm",
        ["develop"] = "radius=24.5 in&thickness=0.5 in&distance=10 in; 12.5 in&along=0; 3 in&hole=13/16 in",
        ["bolt-circle"] = "diameter=200 mm&holes=8&start=22.5&hole=11 mm",
        ["chain"] = "pitches=24&each=0.005 in",
        ["gasket"] = "outside=180 mm&bore=110 mm&circle=150 mm&holes=6&hole=11 mm",
        ["match-holes"] = "x1=0; 100; 100; 0 mm&y1=0; 0; 60; 60 mm&x2=0.3; 100.1; 99.9; 0.2 mm&y2=0.1; 0; 60.2; 60.1 mm&hole=10.5 mm&bolt=10 mm",
        ["paint"] = "solids=48&film=0.06 mm&area=55 m2",
        ["dew-point"] = "air=18 °C&humidity=75&steel=17 °C",
        ["recoat"] = "least=4 h&now=10 °C",
        ["media"] = "media=glass&metal=aluminium&thickness=2 mm",
        ["use-up"] = "stock=38&use=2.6&from=2027-03-01&safety=5",
        ["use-up-sessions"] = "stock=1400&use=520",
        ["learning"] = "first=20 h&pieces=8",
        ["path"] = "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3",
        ["donor"] = "price=2500&carriage=600&hours=40&storage=240&resale=350&values=900; 1400; 650; 2200&chances=90; 60; 80; 50",
        ["contingency"] = "base=420",
        ["bars"] = "lengths=120 mm; 80 mm&pieces=8; 4&bar=1 m",
        ["sheets"] = "widths=300 mm; 120 mm&heights=200 mm; 80 mm&pieces=4; 10&width=2 m&height=1 m",
        ["make-or-buy"] = "pieces=8&tooling=400&setup=50&make=30&makeWeeks=6&buy=120&buyWeeks=12",
        ["machine-fit"] = "diameter=410 mm&length=1.2 m&mass=85 kg&swing=500 mm&saddle=300 mm&between=1.5 m&most=250 kg",
    };

    public static TheoryData<string> Keys => [.. Calculator.All.Select(c => c.Key)];

    [Theory]
    [MemberData(nameof(Keys))]
    public void Every_calculator_is_drawn(string key)
    {
        var answer = WorkedExamplesTests.Ask(key, Good[key]);
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
