using OilTag.Core.Bench;
using OilTag.Core.Measures;

namespace OilTag.Core.Tests.Bench;

/// <summary>The worked examples of the reference values, each as it is typed and as it must come out, in SI units within a thousandth.</summary>
public sealed class WorkedExamplesTests
{
    private const double Inch = 0.0254;
    private const double Psi = 6894.757293168;
    private const double Lbf = 4.4482216152605;
    private const double Lb = 0.45359237;
    private const double Degree = Math.PI / 180;

    internal static BenchAnswer Ask(string key, string typed)
    {
        var calculator = Calculator.Find(key).ShouldNotBeNull(key);
        var given = typed.Split('&', StringSplitOptions.RemoveEmptyEntries).Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1], StringComparer.Ordinal);
        given.Keys.ShouldBeSubsetOf(calculator.Fields.Select(f => f.Name), key);
        return calculator.Answer(f => given.TryGetValue(f, out var text) ? text : calculator.Fields.First(x => x.Name == f).Usual);
    }

    private static void Comes(string key, string typed, string figure, double si)
    {
        var answer = Ask(key, typed);
        answer.Problems.ShouldBeEmpty(typed);
        answer[figure].Si.ShouldBe(si, Math.Max(Math.Abs(si) * 0.001, 1e-12), $"{key}?{typed} {figure}");
        answer.Working!.Source.ShouldNotBeEmpty(key);
        answer.Working.Steps.ShouldNotBeEmpty(key);
        answer.Working.Cautions.ShouldContain(Calculator.Rank, key);
    }

    // Bolted joints: reference values, section 4.
    [Theory]
    [InlineData("tap-drill", "thread=5/8-11 UNC&percent=65", "drill", 0.5482 * Inch)]
    [InlineData("tap-drill", "thread=1/2 UNC", "usualPercent", 78.18)]
    [InlineData("tap-drill", "thread=M12x1.25&percent=74", "usual", 0.0108)]
    [InlineData("engagement", "thread=M10&grade=8.8&hole=220 MPa", "engagement", 0.01534)]
    [InlineData("engagement", "thread=M10&grade=8.8&hole=220 MPa", "diameters", 1.534)]
    [InlineData("stretch", "thread=3/8-24 UNF&grade=8&length=4 in", "stretch", 0.01200 * Inch)]
    [InlineData("stretch", "thread=3/8-24 UNF&grade=8&length=4 in", "preload", 7905 * Lbf)]

    // Solid rivets: section 5.
    [InlineData("rivet", "stack=0.040 + 0.032 in&dash=4", "wanted", 0.2595 * Inch)]
    [InlineData("rivet", "stack=0.040 + 0.032 in&dash=4", "length", 0.25 * Inch)]
    [InlineData("rivet", "stack=0.040 + 0.032 in&dash=4", "protrusion", 1.424)]
    [InlineData("rivet", "stack=0.063 + 0.063 + 0.063 in&dash=5", "wanted", 0.4234 * Inch)]
    [InlineData("rivet", "stack=0.063 + 0.063 + 0.063 in&dash=5", "protrusion", 1.590)]
    [InlineData("rivet", "stack=1.6 + 1.2 mm&dash=4", "wanted", 0.007563)]
    [InlineData("rivet", "stack=1.6 + 1.2 mm&dash=4", "length", 5 * Inch / 16)]
    [InlineData("rivet-seam", "length=36 in&edge=0.30 in&most=0.75 in&rows=2&dash=4", "each", 49)]
    [InlineData("rivet-seam", "length=36 in&edge=0.30 in&most=0.75 in&rows=2&dash=4", "pitch", 0.7375 * Inch)]
    [InlineData("rivet-seam", "length=36 in&edge=0.30 in&most=0.75 in&rows=2&dash=4", "total", 98)]
    [InlineData("rivet-seam", "length=36 in&edge=0.30 in&most=0.75 in&rows=2&dash=4", "order", 110)]
    [InlineData("rivet-splice", "length=3 in&thickness=0.032 in&dash=4&bearing=500 lbf", "each", 20)]
    [InlineData("rivet-splice", "length=3 in&thickness=0.032 in&dash=4&bearing=500 lbf", "exact", 19.56)]
    [InlineData("rivet-splice", "length=3 in&thickness=0.032 in&dash=4&bearing=500 lbf", "shear", 368.2 * Lbf)]
    [InlineData("hot-rivet", "diameter=3/4 in&hole=13/16 in&grip=1 1/4 in", "length", 2.539 * Inch)]

    // Castings: section 7.
    [InlineData("pattern", "size=14.5 in&metal=grey", "pattern", 14.651 * Inch)]
    [InlineData("pattern", "size=420 mm&metal=al", "pattern", 0.42547)]
    [InlineData("pattern", "size=300 mm&metal=grey&made=al", "pattern", 0.30707)]
    [InlineData("pattern", "size=300 mm&metal=grey&made=al", "scale", 1.02357)]
    [InlineData("cast-bush", "outside=4 in&bore=2 1/2 in&length=5 in&metal=gunmetal&yield=60", "mass", 5.521)]
    [InlineData("cast-bush", "outside=4 in&bore=2 1/2 in&length=5 in&metal=gunmetal&yield=60", "melt", 9.202)]
    [InlineData("cope", "metal=grey&area=120 in2&height=4 in", "lift", 124.0 * Lbf)]
    [InlineData("cope", "metal=grey&area=120 in2&height=4 in", "weights", 186.0 * Lb)]
    [InlineData("iron", "c=3.40&si=2.00&p=0.10", "equivalent", 3.950)]
    [InlineData("iron", "c=3.40&si=2.00&p=0.10", "liquidus", 1179.2 + 273.15)]

    // White metal: section 8, ASTM B23.
    [InlineData("white-metal", "shell=4.75 in&mandrel=3.875 in&length=6 in&grade=2&waste=25", "mass", 9.495 * Lb)]
    [InlineData("white-metal", "shell=4.75 in&mandrel=3.875 in&length=6 in&grade=2&waste=25", "melt", 5.383)]
    [InlineData("white-metal", "shell=90 mm&mandrel=72 mm&length=110 mm&grade=7&shape=half", "melt", 1.532)]
    [InlineData("white-metal", "shell=90 mm&mandrel=72 mm&length=110 mm&grade=2", "pour", 424 + 273.15)]
    [InlineData("clearance", "journal=4.000 in&each=1&more=0.001 in", "bore", 4.005 * Inch)]
    [InlineData("clearance", "journal=3.998 in&each=1", "clearance", 0.003998 * Inch)]

    // Transparent panels: section 9.
    [InlineData("panel-holes", "sheet=pc&frame=steel&distance=600 mm&fitted=20 °C&coldest=-20 °C&hottest=50 °C&screw=5 mm", "movement", 0.001344)]
    [InlineData("panel-holes", "sheet=pc&frame=steel&distance=600 mm&fitted=20 °C&coldest=-20 °C&hottest=50 °C&screw=5 mm", "hole", 0.007688)]
    [InlineData("panel-holes", "sheet=acrylic&frame=aluminium&distance=24 in&fitted=68 °F&coldest=-4 °F&hottest=122 °F&screw=3/16 in", "movement", 0.04512 * Inch)]
    [InlineData("dome", "radius=10 in&height=5 in&thickness=0.250 in", "thickness", 0.2000 * Inch)]
    [InlineData("dome", "radius=10 in&height=5 in&thickness=0.250 in", "sphere", 12.50 * Inch)]
    [InlineData("drape", "radius=400 mm&thickness=4 mm&angle=120&trim=40 mm&shrink=2", "arc", 0.8419)]
    [InlineData("drape", "radius=400 mm&thickness=4 mm&angle=120&trim=40 mm&shrink=2", "blank", 0.9408)]
    [InlineData("mould", "sheet=pc&size=500 mm", "mould", 0.5044)]

    // Fits, shafts and keys: section 10, ISO 286.
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "pressure", 62.10e6)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "tresca", 165.6e6)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "force", 70230)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "torque", 1756)]
    [InlineData("press-fit", "diameter=2 in&hub=4 in&length=2.5 in&interference=0.002 in", "pressure", 11250 * Psi)]
    [InlineData("press-fit", "diameter=2 in&hub=4 in&length=2.5 in&interference=0.002 in", "force", 21210 * Lbf)]
    [InlineData("press-fit", "diameter=2 in&hub=4 in&length=2.5 in&interference=0.002 in", "hoop", 18750 * Psi)]
    [InlineData("press-fit", "diameter=2 in&hub=4 in&length=2.5 in&interference=0.002 in", "torque", 1767 * 1.3558179483314)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "hoop", 103.5e6)]
    [InlineData("press-fit", "diameter=50 mm&hub=90 mm&length=60 mm&interference=0.050 mm&outer=iron", "pressure", 43.48e6)]
    [InlineData("press-fit", "diameter=50 mm&hub=90 mm&length=60 mm&interference=0.050 mm&outer=iron", "hoop", 82.29e6)]
    [InlineData("shrink", "diameter=50 mm&interference=0.040 mm&gap=0.050 mm", "rise", 150.0)]
    [InlineData("shrink", "diameter=50 mm&interference=0.040 mm&gap=0.050 mm", "temperature", 170 + 273.15)]
    [InlineData("shrink", "diameter=3 in&interference=0.0030 in&gap=0.0030 in&room=68 °F", "temperature", (368.0 + 459.67) / 1.8)]
    [InlineData("fit", "diameter=40 mm&hole=H7&shaft=g6", "least", 9e-6)]
    [InlineData("fit", "diameter=40 mm&hole=H7&shaft=g6", "most", 50e-6)]
    [InlineData("fit", "diameter=40 mm&hole=H7&shaft=p6", "least", -42e-6)]
    [InlineData("fit", "diameter=40 mm&hole=H7&shaft=p6", "most", -1e-6)]
    [InlineData("fit", "diameter=90 mm&hole=H7&shaft=s6", "least", -93e-6)]
    [InlineData("fit", "diameter=90 mm&hole=H7&shaft=s6", "most", -36e-6)]
    [InlineData("key", "torque=400 N m&diameter=45 mm&width=14 mm&height=9 mm&length=70 mm", "shear", 18.14e6)]
    [InlineData("key", "torque=400 N m&diameter=45 mm&width=14 mm&height=9 mm&length=70 mm", "bearing", 56.44e6)]

    // Wear and re-sizing: section 2.
    [InlineData("wear", "kind=shaft&nominal=2.4990 in&limit=2.4960 in&reading=2.4972 in", "used", 60.00)]
    [InlineData("wear", "kind=shaft&nominal=63.4746 mm&limit=63.3984 mm&reading=63.42888 mm", "used", 60.00)]
    [InlineData("wear", "kind=bore&nominal=4.0000 in&limit=4.0080 in&reading=4.0095 in", "used", 118.8)]
    [InlineData("wear", "kind=shaft&nominal=1.9990 in&limit=1.9950 in&reading=1.9965 in", "used", 62.50)]
    [InlineData("resize", "kind=shaft&nominal=2.0000 in&reading=1.9868 in&clean=0.002 in", "size", 1.9800 * Inch)]
    [InlineData("resize", "kind=bore&nominal=85.00 mm&reading=85.31 mm&clean=0.05 mm&steps=0.25 + 0.50 + 0.75 + 1.00 mm", "size", 0.0855)]
    [InlineData("wear-rate", "first=2.4985 in&firstHours=1000&second=2.4979 in&secondHours=1400&limit=2.4960 in", "hours", 1267)]
    [InlineData("wear-rate", "first=2.4985 in&firstHours=1000&second=2.4979 in&secondHours=1400&limit=2.4960 in", "rate", 0.0015 * Inch)]
    [InlineData("build-up", "undercut=3.875 in&finish=4.000 in&stock=1/16 in&length=6 in&layer=3/32 in", "layers", 2)]
    [InlineData("build-up", "undercut=3.875 in&finish=4.000 in&stock=1/16 in&length=6 in&layer=3/32 in", "mass", 1.212)]

    // Plate and boilers: section 3, 49 CFR Part 230.
    [InlineData("shell", "pressure=150 psi&radius=24 in&strength=55000 psi&joint=0.75", "needed", 0.3491 * Inch)]
    [InlineData("shell", "pressure=150 psi&radius=24 in&strength=55000 psi&joint=0.75&thickness=0.400 in", "may", 171.9 * Psi)]
    [InlineData("shell", "pressure=1.0342 MPa&radius=609.6 mm&strength=379.2 MPa&joint=0.75", "needed", 0.008867)]
    [InlineData("ligament", "pitch=3.25 in&hole=15/16 in", "efficiency", 0.7115)]
    [InlineData("stay", "pressure=150 psi&across=4 in&up=4 in&diameter=0.800 in", "stress", 5052 * Psi)]
    [InlineData("stay", "pressure=150 psi&across=4 in&up=4 in&diameter=0.650 in", "stress", 7889 * Psi)]
    [InlineData("stay", "pressure=150 psi&across=4 in&up=4 in&diameter=0.650 in", "least", 0.6653 * Inch)]
    [InlineData("brace", "pressure=150 psi&area=40 in2&angle=12&diameter=1.000 in", "stress", 7810 * Psi)]
    [InlineData("flat-plate", "thickness=3/8 in&pitch=4 in", "pressure", 252.0 * Psi)]
    [InlineData("plate-life", "before=0.412 in&now=0.398 in&years=4&limit=0.360 in", "years", 10.86)]

    // Lifting and jacking: section 11.
    [InlineData("supports", "mass=9000 lb&x=0; 8 ft&y=0&gx=3 ft", "r1", 5625 * Lb)]
    [InlineData("supports", "mass=4200 lb&x=0; 0; 200 in&y=-60; 60; 0 in&gx=25 in", "r1", 1838 * Lb)]
    [InlineData("supports", "mass=4200 lb&x=0; 0; 200 in&y=-60; 60; 0 in&gx=25 in", "r3", 525.0 * Lb)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "r1", 3750)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "r2", 2850)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "r3", 3150)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "r4", 2250)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "worst1", 6600)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "highest", 6600)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "worst2", 5100)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "worst3", 5400)]
    [InlineData("supports", "mass=12 tonne&x=0; 4; 0; 4 m&y=0; 0; 2; 2 m&gx=1.7 m&gy=0.9 m", "worst4", 5100)]
    [InlineData("jack", "load=6.6 tonne&rated=8 tonne", "use", 113.4)]
    [InlineData("jack", "load=62500 lb&rated=70000 lb&dynamic=1", "rated", 89.29)]
    [InlineData("jack", "load=62500 lb&rated=70000 lb", "rated", 98.21)]
    [InlineData("jack", "load=62500 lb&rated=70000 lb", "use", 122.8)]
    [InlineData("centre", "masses=4200; -360 lb&places=25; 40 in", "centre", 23.59 * Inch)]
    [InlineData("sling", "mass=3 tonne&angle=60", "first", 1732)]
    [InlineData("sling", "mass=3 tonne&angle=40", "first", 2334)]
    [InlineData("sling", "mass=2000 lb&angle=60&other=45", "first", 1464 * Lb)]
    [InlineData("sling", "mass=2000 lb&angle=60&other=45", "second", 1035 * Lb)]
    [InlineData("crib", "load=20000 lb&width=5.5 in", "stress", 165.3 * Psi)]
    [InlineData("crib", "load=20000 lb&width=5.5 in", "most", 60500 * Lb)]
    [InlineData("crib", "load=20000 lb&width=3.5 in", "most", 24500 * Lb)]

    // Rigging and alignment: section 12.
    [InlineData("dihedral", "length=14 ft 6 in&angle=3.5", "rise", 10.64 * Inch)]
    [InlineData("washout", "board=24 in&root=1.05 in&tip=0.60 in", "washout", 1.073 * Degree)]
    [InlineData("washout", "board=24 in&root=1.05 in&tip=0.60 in", "root", 2.505 * Degree)]
    [InlineData("symmetry", "half=180 in&left=262.50 in&right=262.10 in", "offset", 0.2914 * Inch)]
    [InlineData("straight", "readings=0; 22; 41; 60; 72; 66; 50; 27; 5 thou&step=8 ft&tolerance=1/8 in", "spread", 0.07093 * Inch)]
    [InlineData("straight", "readings=0; 22; 41; 60; 72; 66; 50; 27; 5 thou&step=8 ft&tolerance=1/8 in", "band", 0.06950 * Inch)]
    [InlineData("straight", "readings=0; 22; 41; 60; 72; 66; 50; 27; 5 thou&step=8 ft&tolerance=1/8 in", "highest", 0.03389 * Inch)]
    [InlineData("straight", "readings=0; 22; 41; 60; 72; 66; 50; 27; 5 thou&step=8 ft&tolerance=1/8 in", "lowest", -0.03704 * Inch)]
    [InlineData("run-out", "tir=0.018 in", "eccentricity", 0.009 * Inch)]
    [InlineData("sag", "mass=0.256 lb&length=64 ft&pull=20 lbf", "sag", 1.229 * Inch)]
    [InlineData("cable", "cable=1/8&frame=aluminium&rise=30 °C&stiffness=95000 lbf", "change", 31.35 * Lbf)]
    [InlineData("cable", "cable=1/8&frame=aluminium&rise=30 °C&stiffness=95000 lbf", "proof", 1200 * Lbf)]

    // Engine: section 13, ISO 21940-11.
    [InlineData("compression", "bore=3.500 in&stroke=4.000 in&chamber=105 ml", "ratio", 7.006)]
    [InlineData("compression", "bore=3.500 in&stroke=4.000 in&chamber=105 ml", "swept", 630.6e-6)]
    [InlineData("compression", "bore=3.500 in&stroke=4.000 in&chamber=105 ml&wanted=7.5", "mill", 0.001285)]
    [InlineData("piston", "stroke=4 in&rod=8 in&angle=90", "position", 2.254 * Inch)]
    [InlineData("piston", "stroke=4 in&rod=8 in&angle=60", "position", 1.190 * Inch)]
    [InlineData("piston", "stroke=4 in&rod=8 in&position=3.000 in", "angle", 113.1 * Degree)]
    [InlineData("piston", "stroke=114.3 mm&rod=226.0 mm&position=3.00 mm", "angle", 16.68 * Degree)]
    [InlineData("piston", "stroke=114.3 mm&rod=226.0 mm&position=99.3 mm", "beforeBottom", 48.19 * Degree)]
    [InlineData("ports", "stroke=114.3 mm&rod=226.0 mm&exhaust=27.0 mm&inlet=19.0 mm", "exhaustOpens", 115.0 * Degree)]
    [InlineData("ports", "stroke=114.3 mm&rod=226.0 mm&exhaust=27.0 mm&inlet=19.0 mm", "exhaust", 130.0 * Degree)]
    [InlineData("ports", "stroke=114.3 mm&rod=226.0 mm&exhaust=27.0 mm&inlet=19.0 mm", "inletOpens", 125.7 * Degree)]
    [InlineData("ports", "stroke=114.3 mm&rod=226.0 mm&exhaust=27.0 mm&inlet=19.0 mm", "inlet", 108.6 * Degree)]
    [InlineData("ports", "stroke=114.3 mm&rod=226.0 mm&exhaust=27.0 mm&inlet=19.0 mm", "blowdown", 10.70 * Degree)]
    [InlineData("match", "masses=812; 806; 815; 809 g", "remove1", 0.006)]
    [InlineData("match", "masses=812; 806; 815; 809 g", "remove2", 0)]
    [InlineData("match", "masses=812; 806; 815; 809 g", "remove3", 0.009)]
    [InlineData("unbalance", "mass=10 g&radius=60 mm&speed=3000&rotor=25 kg", "force", 59.22)]
    [InlineData("unbalance", "mass=10 g&radius=60 mm&speed=3000&rotor=25 kg", "allowed", 501.3e-6)]
    [InlineData("pump", "gear=1.2515 in&body=1.2500 in&gaskets=.003; .004; .006 in", "clearance", 0.0025 * Inch)]
    [InlineData("pump", "gear=1.2515 in&body=1.2500 in&gaskets=.003; .004; .006 in", "gasket", 0.004 * Inch)]
    [InlineData("shim", "old=2.65 mm&measured=0.38 mm&wanted=0.30 mm", "shim", 0.00273)]
    [InlineData("winding", "cold=6.000 ohm&warmAt=85 °C", "resistance", 7.532)]
    [InlineData("winding", "cold=6.000 ohm&warmAt=85 °C&metal=copper-iec", "resistance", 7.529)]
    [InlineData("winding", "cold=6.000 ohm&warm=7.400 ohm", "temperature", 79.38 + 273.15)]
    [InlineData("generator", "a=40 V&b=2.0 A&field=6.000 ohm", "cold", 28.00)]
    [InlineData("generator", "a=40 V&b=2.0 A&field=6.000 ohm", "warm", 24.94)]
    [InlineData("generator", "a=40 V&b=2.0 A&field=6.000 ohm", "drop", 10.95)]
    [InlineData("generator", "a=40 V&b=2.0 A&field=6.000 ohm&speed=1.1", "warm", 28.94)]
    [InlineData("generator", "a=40 V&b=2.0 A&field=6.000 ohm", "critical", 20.00)]

    // Hole patterns: section 14.
    [InlineData("develop", "radius=24.5 in&side=outside&thickness=0.5 in&way=tape&distance=10.000 in", "flat", 9.898 * Inch)]
    [InlineData("develop", "radius=24.5 in&side=outside&thickness=0.5 in&way=chord&distance=3.250 in", "flat", 3.219 * Inch)]
    [InlineData("develop", "radius=24.5 in&side=outside&thickness=0.5 in&way=chord&distance=3.250 in", "angle", 7.606 * Degree)]
    [InlineData("develop", "radius=300 mm&side=inside&thickness=6 mm&way=offset&distance=120 mm", "flat", 0.1247)]
    [InlineData("develop", "radius=24.5 in&side=outside&thickness=0.5 in&way=tape&distance=10.000 in", "turn", 152.4 * Inch)]
    [InlineData("chain", "pitches=24&each=0.005 in", "worst", 0.1200 * Inch)]
    [InlineData("chain", "pitches=24&each=0.005 in", "likely", 0.02449 * Inch)]
    [InlineData("chain", "pitches=24&each=0.005 in", "datum", 0.0050 * Inch)]
    [InlineData("bolt-circle", "diameter=200 mm&holes=8&start=22.5", "x1", 0.09239)]
    [InlineData("bolt-circle", "diameter=200 mm&holes=8&start=22.5", "y3", 0.09239)]
    [InlineData("bolt-circle", "diameter=200 mm&holes=8&start=22.5", "x3", -0.03827)]
    [InlineData("bolt-circle", "diameter=200 mm&holes=8&start=22.5", "neighbour", 0.07654)]

    // Coatings: section 17; stock and time: section 15.
    [InlineData("paint", "solids=48&film=0.060 mm&area=55 m2&coats=2&loss=30", "paint", 0.01964)]
    [InlineData("paint", "solids=48&film=0.060 mm&area=55 m2&coats=2&loss=30", "coverage", 8000)]
    [InlineData("paint", "solids=65&film=3 thou&area=100 ft2&coats=1&loss=0", "coverage", 347.6 * 0.09290304 / 0.003785411784)]
    [InlineData("paint", "solids=48&film=0.060 mm&area=55 m2&thinner=10", "wet", 137.5e-6)]
    [InlineData("dew-point", "air=18.0 °C&humidity=75", "dew", 13.50 + 273.15)]
    [InlineData("dew-point", "air=18.0 °C&humidity=75", "least", 16.50 + 273.15)]
    [InlineData("dew-point", "air=68 °F&humidity=60", "dew", 12.00 + 273.15)]
    [InlineData("recoat", "least=4 h&at=20 °C&now=10 °C", "time", 8 * 3600)]
    [InlineData("use-up", "stock=38&use=2.6&from=2027-03-01&lead=3&safety=5", "days", 102)]
    [InlineData("use-up", "stock=38&use=2.6&from=2027-03-01&lead=3&safety=5", "order", 12.80)]
    [InlineData("use-up-sessions", "stock=1400&use=520", "during", 3)]
    [InlineData("learning", "first=20 h&rate=85&pieces=4", "last", 14.45 * 3600)]
    [InlineData("learning", "first=20 h&rate=85&pieces=8", "total", 118.7 * 3600)]
    [InlineData("path", "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3", "mean", 11.67 * 86400)]
    [InlineData("path", "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3", "p80", 12.72 * 86400)]
    [InlineData("path", "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3", "p90", 13.27 * 86400)]
    [InlineData("path", "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3", "deviation", 1.247 * 86400)]
    [InlineData("path", "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3&by=13", "chance", 85.75)]
    [InlineData("path", "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3&shape=triangle", "mean", 12.33 * 86400)]
    [InlineData("path", "low=2; 4; 1&likely=3; 6; 2&high=6; 10; 3&shape=triangle", "p80", 13.65 * 86400)]
    [InlineData("path", "low=4; 2&likely=4; 2&high=4; 2&by=6", "chance", 100)]
    [InlineData("path", "low=4; 2&likely=4; 2&high=4; 2&by=5", "chance", 0)]
    [InlineData("donor", "price=2500&carriage=600&hours=40&rate=0&storage=240&resale=350&values=900; 1400; 650; 2200&chances=90; 60; 80; 50", "even", 2780)]
    [InlineData("donor", "price=2500&carriage=600&hours=40&rate=0&storage=240&resale=350&values=900; 1400; 650; 2200&chances=90; 60; 80; 50", "gain", 280)]
    [InlineData("contingency", "base=420&share=15", "reserve", 63 * 3600)]
    [InlineData("contingency", "base=420&share=15", "all", 483 * 3600)]

    // Springback: section 6, standard forming texts.
    [InlineData("springback", "radius=0.25 in&thickness=0.040 in&yield=47000 psi&modulus=10500000 psi", "ratio", 0.9162)]
    [InlineData("springback", "radius=0.25 in&thickness=0.040 in&yield=47000 psi&modulus=10500000 psi", "radius", 0.2729 * Inch)]
    [InlineData("springback", "radius=0.25 in&thickness=0.040 in&yield=47000 psi&modulus=10500000 psi", "angle", 82.97 * Degree)]

    // Computed: 56/50 − 1.
    [InlineData("flare", "hole=50 mm&flared=56 mm&thickness=0.8 mm&elongation=15", "stretch", 12.0)]

    // AC 43.13-1B, recalled: 1/4-28 in tension 50 to 70 lb in.
    [InlineData("an-torque", "thread=1/4-28", "low", 50 * 0.11298482902762)]
    [InlineData("an-torque", "thread=1/2-20&nut=shear", "high", 410 * 0.11298482902762)]

    // Keys: DIN 6885-1, ANSI B17.1, BS 46 (from memory).
    [InlineData("key-size", "diameter=45 mm", "width", 0.014)]
    [InlineData("key-size", "diameter=45 mm", "inShaft", 0.0055)]
    [InlineData("key-size", "diameter=44 mm", "width", 0.012)]
    [InlineData("key-size", "diameter=1 3/4 in&standard=ANSI B17.1", "width", 3 * Inch / 8)]
    [InlineData("key-size", "diameter=1 3/4 in&standard=BS 46", "height", 5 * Inch / 16)]

    // Weighing: the loads of three jacks of section 11 give the centre back, and 360 lb of fuel at 40 in leaves 23.59 in.
    [InlineData("weighing", "readings=1837.5; 1837.5; 525 lb&places=0; 0; 200 in", "centre", 25 * Inch)]
    [InlineData("weighing", "readings=1837.5; 1837.5; 525 lb&places=0; 0; 200 in&off=360 lb&offAt=40 in", "centre", 23.59 * Inch)]
    [InlineData("weighing", "readings=1837.5; 1837.5; 525 lb&places=0; 0; 200 in&off=360 lb&offAt=40 in", "mass", 3840 * Lb)]

    // The wedge is the board of the washout turned round; the field resistance is the generator turned round.
    [InlineData("wedge", "board=24 in&angle=2.505", "packing", 1.05 * Inch)]
    [InlineData("generator-field", "a=40 V&b=2.0 A&voltage=28 V", "field", 6.000)]
    [InlineData("bob-weight", "rod=620 g&big=420 g&piston=480 g&share=0.5", "bob", 0.760)]
    [InlineData("adjuster", "measured=0.38 mm&wanted=0.30 mm&pitch=1 mm&ratio=1.6", "turns", 0.05)]
    [InlineData("gasket", "outside=180 mm&bore=110 mm&circle=150 mm&holes=6&hole=11 mm", "land", 0.0095)]
    [InlineData("rib", "chord=600 mm&stations=0; 10; 30; 60; 100&upper=0; 6; 8; 6; 0&lower=0; -2; -2.5; -1; 0", "height", 0.063)]
    public void A_worked_example_comes_out(string key, string typed, string figure, double si) => Comes(key, typed, figure, si);

    [Fact]
    public void The_day_on_which_stock_runs_out_is_said() => Ask("use-up", "stock=38&use=2.6&from=2027-03-01&lead=3&safety=5")["days"].Text.ShouldBe("11 June 2027");

    // What must be refused, section by section, and beside which field.
    [Theory]
    [InlineData("tap-drill", "thread=1/2 BSW", "thread")]
    [InlineData("engagement", "thread=M10&grade=5&hole=220 MPa", "grade")]
    [InlineData("rivet", "stack=0.040 + 0.032 in&dash=5&edge=0.30 in&pitch=0.625 in", "edge")]
    [InlineData("rivet", "stack=0.040 + 0.032 in&dash=4&pitch=0.36 in", "pitch")]
    [InlineData("rivet-seam", "length=0.5 in&edge=0.30 in&most=0.75 in", "length")]
    [InlineData("rivet-seam", "length=36 in&edge=0.30 in&most=0.3 in", "most")]
    [InlineData("hot-rivet", "diameter=3/4 in&hole=11/16 in&grip=1 in", "hole")]
    [InlineData("cast-bush", "outside=4 in&bore=4 in&length=5 in", "bore")]
    [InlineData("pour", "alloy=b23-3&pour=400 °C", "pour")]
    [InlineData("pour", "alloy=85-5-5-5&pour=650 °C&melts=720 °C", "pour")]
    [InlineData("pour", "alloy=b23-2&pour=565 °C", "pour")]
    [InlineData("pour", "alloy=magnesium&pour=700 °C", "alloy")]
    [InlineData("iron", "c=3.40&si=2.00&p=0.10&pour=1150 °C", "pour")]
    [InlineData("white-metal", "shell=4 in&mandrel=4 in&length=6 in", "mandrel")]
    [InlineData("white-metal", "shell=4.75 in&mandrel=3.875 in&length=6 in&grade=3&pour=400 °C", "pour")]
    [InlineData("white-metal", "shell=4.75 in&mandrel=3.875 in&length=6 in&grade=1&pour=561 °C", "pour")]
    [InlineData("dome", "radius=10 in&height=10.1 in&thickness=0.25 in", "height")]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=-0.01 mm", "interference")]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm&yield=165 MPa", "interference")]
    [InlineData("press-fit", "diameter=50 mm&hub=50 mm&length=60 mm&interference=0.040 mm", "hub")]
    [InlineData("fit", "diameter=251 mm", "diameter")]
    [InlineData("fit", "diameter=2.9 mm", "diameter")]
    [InlineData("wear", "kind=shaft&nominal=2.4990 in&limit=2.5010 in&reading=2.4972 in", "limit")]
    [InlineData("resize", "kind=shaft&nominal=2.0000 in&reading=1.9300 in&clean=0.002 in", "steps")]
    [InlineData("resize", "kind=shaft&nominal=2.0000 in&reading=50.8 in&clean=0.002 in", "reading")]
    [InlineData("wear-rate", "first=2.4979 in&firstHours=1000&second=2.4985 in&secondHours=1400&limit=2.4960 in", "second")]
    [InlineData("build-up", "undercut=4 in&finish=4 in&stock=1/16 in&length=6 in&layer=3/32 in", "finish")]
    [InlineData("shell", "pressure=150 psi&radius=24 in&joint=0.75&factor=3.9", "factor")]
    [InlineData("shell", "pressure=150 psi&radius=24 in&joint=1.01", "joint")]
    [InlineData("shell", "pressure=150 psi&radius=4 in&joint=0.75&thickness=1/2 in", "radius")]
    [InlineData("stay", "pressure=150 psi&across=4 in&up=4 in&diameter=3/16 in", "hole")]
    [InlineData("brace", "pressure=150 psi&area=40 in2&angle=60&diameter=1 in", "angle")]
    [InlineData("supports", "mass=4200 lb&x=0; 0; 200 in&y=-60; 60; 0 in&gx=-1 in", "gx")]
    [InlineData("supports", "mass=4200 lb&x=0; 100; 200 in&y=0; 0; 0 in&gx=50 in", "y")]
    [InlineData("supports", "mass=9000 lb&x=0; 8 ft&gx=9 ft", "gx")]
    [InlineData("jack", "load=8 tonne&rated=8 tonne", "rated")]
    [InlineData("sling", "mass=3 tonne&angle=29", "angle")]
    [InlineData("crib", "load=20000 lb&height=40 in&base=12 in", "height")]
    [InlineData("centre", "masses=100; -100 lb&places=1; 2 ft", "masses")]
    [InlineData("symmetry", "half=180 in&left=900 in&right=262 in", "right")]
    [InlineData("straight", "readings=0; 1 thou&step=8 ft&tolerance=1/8 in", "readings")]
    [InlineData("dihedral", "length=14 ft&angle=45", "angle")]
    [InlineData("dihedral", "length=14 ft&angle=-45", "angle")]
    [InlineData("dihedral", "length=14 ft&angle=--2", "angle")]
    [InlineData("contingency", "base=420&share=-5", "share")]
    [InlineData("compression", "bore=3.5 in&stroke=4 in&chamber=105 ml&wanted=6", "wanted")]
    [InlineData("piston", "stroke=4 in&rod=2 in&angle=90", "rod")]
    [InlineData("piston", "stroke=4 in&rod=8 in&position=4.1 in", "position")]
    [InlineData("piston", "stroke=4 in&rod=8 in&angle=90&position=1 in", "angle")]
    [InlineData("pump", "gear=1.2515 in&body=1.2500 in&gaskets=.010; .012 in", "gaskets")]
    [InlineData("generator", "a=40 V&b=2.0 A&field=20 ohm", "field")]
    [InlineData("develop", "radius=10 in&thickness=0.5 in&way=chord&distance=20.1 in", "distance")]
    [InlineData("develop", "radius=10 in&thickness=10 in&distance=1 in", "thickness")]
    [InlineData("bolt-circle", "diameter=200 mm&holes=1", "holes")]
    [InlineData("dew-point", "air=18.0 °C&humidity=75&steel=15.0 °C", "steel")]
    [InlineData("dew-point", "air=61 °C&humidity=75", "air")]
    [InlineData("recoat", "least=4 h&now=4 °C", "now")]
    [InlineData("paint", "solids=0.5&film=0.060 mm&area=55 m2", "solids")]
    [InlineData("use-up", "stock=38&use=2.6&from=yesterday", "from")]
    [InlineData("path", "low=5&likely=3&high=6", "likely")]
    [InlineData("rivet", "stack=0.032 + 0.040 in&dash=4&head=countersunk", "head")]
    [InlineData("springback", "radius=10 in&thickness=0.040 in&yield=47000 psi&modulus=10500000 psi", "radius")]
    [InlineData("flare", "hole=50 mm&flared=60 mm&thickness=0.8 mm&elongation=15", "flared")]
    [InlineData("rib", "chord=600 mm&stations=0; 50; 100&upper=0; 6; 0&lower=0; 7; 0", "lower")]
    [InlineData("rib", "chord=600 mm&stations=0; 50; 40; 100&upper=0; 6; 6; 0&lower=0; 0; 0; 0", "stations")]
    [InlineData("key-size", "diameter=6 mm", "diameter")]
    [InlineData("key-size", "diameter=151 mm", "diameter")]
    [InlineData("weighing", "readings=100; 100 lb&places=0; 100 in&off=200 lb&offAt=50 in", "off")]
    [InlineData("generator-field", "a=40 V&b=2.0 A&voltage=40 V", "voltage")]
    [InlineData("generator-field", "a=40 V&b=2.0 A&voltage=28 V&winding=7 ohm", "winding")]
    [InlineData("bob-weight", "rod=420 g&big=620 g&piston=480 g", "big")]
    [InlineData("media", "media=sand&metal=steel&thickness=3 mm", "media")]
    [InlineData("media", "media=grit&metal=aluminium&thickness=3 mm", "media")]
    [InlineData("media", "media=glass&metal=steel&thickness=3 mm&coat=hazard", "coat")]
    [InlineData("gasket", "outside=180 mm&bore=110 mm&circle=170 mm&holes=6&hole=11 mm", "circle")]
    [InlineData("match-holes", "x1=0; 100 mm&y1=0; 0 mm&x2=0; 100 mm&y2=0; 0 mm&hole=10 mm&bolt=10 mm", "bolt")]
    [InlineData("wedge", "board=24 in&angle=45", "angle")]
    public void What_lies_outside_is_refused_beside_its_field(string key, string typed, string field)
    {
        var answer = Ask(key, typed);
        answer.Figures.ShouldBeEmpty();
        answer.Working.ShouldBeNull();
        var problem = answer.Problems.ShouldHaveSingleItem($"{key}?{typed}");
        problem.Field.ShouldBe(field);
        problem.Sentence[^1].ShouldBeOneOf('.', '?');
    }

    // Inclusive limits pass at equality; a sign is read where one makes sense.
    [Theory]
    [InlineData("dihedral", "length=4 m&angle=-2.5")]
    [InlineData("bolt-circle", "diameter=200 mm&holes=6&start=−30")]
    [InlineData("jack", "load=8 tonne&rated=8 tonne&dynamic=1&allowance=100")]
    [InlineData("dew-point", "air=18 °C&humidity=100&steel=21 °C")]
    [InlineData("rivet", "stack=0.040 + 0.032 in&dash=4&edge=1/4 in&pitch=3/8 in")]
    [InlineData("dome", "radius=10 in&height=10 in&thickness=0.25 in")]
    [InlineData("sling", "mass=3 tonne&angle=30")]
    [InlineData("shell", "pressure=150 psi&radius=24 in&joint=1&factor=4")]
    public void At_the_limit_there_is_an_answer(string key, string typed) => Ask(key, typed).Problems.ShouldBeEmpty();

    [Theory]
    [InlineData("jack", "load=6.6 tonne&rated=8 tonne", "reserve")]
    [InlineData("sling", "mass=3 tonne&angle=40", "Flatter than 45")]
    [InlineData("stay", "pressure=150 psi&across=4 in&up=4 in&diameter=0.650 in", "does not bear")]
    [InlineData("tap-drill", "thread=1/2 UNC&percent=90", "breaks taps")]
    [InlineData("pour", "alloy=al-si7&pour=790 °C", "dross")]
    [InlineData("pour", "alloy=al-si7&pour=640 °C", "may not fill")]
    [InlineData("shrink", "diameter=50 mm&interference=0.1 mm&gap=0.05 mm", "temper")]
    [InlineData("winding", "cold=6 ohm&warm=10 ohm", "shorted turns")]
    [InlineData("media", "media=glass&metal=aluminium&thickness=2 mm&coat=unknown", "Test the old paint")]
    [InlineData("match-holes", "x1=0; 100; 100; 0 mm&y1=0; 0; 60; 60 mm&x2=0; 100; 103; 0 mm&y2=0; 0; 60; 60 mm&hole=10.5 mm&bolt=10 mm", "do not pass")]
    public void A_warning_stands_beside_the_figure(string key, string typed, string words) => Ask(key, typed).Warnings.ShouldContain(w => w.Contains(words, StringComparison.Ordinal));

    [Fact]
    public void Keys_are_their_own_and_nothing_typed_is_refused_beside_fields_that_there_are()
    {
        Calculator.All.Select(c => c.Key).ShouldBeUnique();
        foreach (var c in Calculator.All)
        {
            c.Fields.Select(f => f.Name).ShouldBeUnique(c.Key);
            var answer = c.Answer(_ => null);
            answer.Problems.ShouldNotBeEmpty(c.Key);
            answer.Problems.Select(p => p.Field).ShouldBeSubsetOf(c.Fields.Select(f => f.Name), c.Key);
            Calculator.Search(c.Title).ShouldContain(c);
        }

        Calculator.Search("relative humidity").ShouldHaveSingleItem().Key.ShouldBe("dew-point");
        Calculator.Search("zeppelin").ShouldBeEmpty();
    }

    /// <summary>Whatever is typed, there is either an answer with finite figures or a refusal, and the same text gives the same.</summary>
    [Fact]
    public void Anything_may_be_typed()
    {
        var dice = new Random(6);
        string[] scraps = ["", "0", "1", "-1", "1e300", "NaN", "∞", "3/16", "1/0", "2 in", "0 in", "-5 mm", "12.5 mm", "1000000 m", "0.0001 thou", "5 ton", "5 tonne", "90", "89.999", "20 °C", "-300 °C", "1;2;3", "0; 0; 0 in", "1; -1 lb", "4 + 4 mm", ";;;", "M12", "1/2 UNC", "8.8", "steel", "2027-03-01", "<b>", "55 m2", "6 ohm", "40 V", "2 A", "7 N m", "150 psi", "4 h", "105 ml", "10 days"];
        foreach (var c in Calculator.All)
        {
            for (var i = 0; i < 400; i++)
            {
                var typed = c.Fields.ToDictionary(f => f.Name, f => dice.Next(4) == 0 ? f.Usual : f.Choices is { } choices && dice.Next(3) > 0 ? choices[dice.Next(choices.Count)].Value : scraps[dice.Next(scraps.Length)], StringComparer.Ordinal);
                var answer = c.Answer(f => typed[f]);
                var what = $"{c.Key}: {string.Join('&', typed.Select(t => $"{t.Key}={t.Value}"))}";
                (answer.Figures.Count > 0).ShouldBe(answer.Problems.Count == 0, what);
                answer.Figures.ShouldAllBe(f => double.IsFinite(f.Si) && f.Text.Length > 0 && !f.Text.Contains("NaN", StringComparison.Ordinal), what);
                answer.Problems.Select(p => p.Field).ShouldBeSubsetOf(typed.Keys, what);
                (answer.Sketch is not null).ShouldBe(answer.Figures.Count > 0, what);
                var (left, bottom, right, top) = answer.Sketch?.Box ?? default;
                double.IsFinite(left + bottom + right + top).ShouldBeTrue(what);
                c.Answer(f => typed[f]).Figures.Select(f => f.Si).ShouldBe(answer.Figures.Select(f => f.Si), what);
            }
        }
    }

    /// <summary>The same joint in both systems of units, to a thousand-millionth; a convention of each system is named beside it.</summary>
    [Theory]
    [InlineData("hot-rivet", "diameter=3/4 in&hole=13/16 in&grip=1 1/4 in", "diameter=19.05 mm&hole=20.6375 mm&grip=31.75 mm")]
    [InlineData("cast-bush", "outside=4 in&bore=2.5 in&length=5 in", "outside=101.6 mm&bore=63.5 mm&length=127 mm")]
    [InlineData("white-metal", "shell=4.75 in&mandrel=3.875 in&length=6 in", "shell=120.65 mm&mandrel=98.425 mm&length=152.4 mm")]
    [InlineData("dome", "radius=10 in&height=5 in&thickness=0.25 in", "radius=254 mm&height=127 mm&thickness=6.35 mm")]
    [InlineData("resize", "kind=shaft&nominal=2 in&reading=1.9868 in&clean=0.002 in", "kind=shaft&nominal=50.8 mm&reading=50.46472 mm&clean=0.0508 mm&steps=0.254 + 0.508 + 0.762 mm")]
    [InlineData("supports", "mass=100 lb&x=0; 4; 0; 4 ft&y=0; 0; 2; 2 ft&gx=1.7 ft&gy=0.9 ft", "mass=45.359237 kg&x=0; 1.2192; 0; 1.2192 m&y=0; 0; 0.6096; 0.6096 m&gx=0.51816 m&gy=0.27432 m")]
    [InlineData("crib", "load=20000 lb", "load=9071.8474 kg&width=139.7 mm")]
    [InlineData("dihedral", "length=10 ft&angle=3.5", "length=3.048 m&angle=3.5")]
    [InlineData("symmetry", "half=180 in&left=262.5 in&right=262.1 in", "half=4.572 m&left=6.6675 m&right=6.65734 m")]
    [InlineData("piston", "stroke=4 in&rod=8 in&angle=77", "stroke=101.6 mm&rod=203.2 mm&angle=77")]
    [InlineData("develop", "radius=24.5 in&thickness=0.5 in&distance=10 in", "radius=622.3 mm&thickness=12.7 mm&distance=254 mm")]
    [InlineData("stay", "pressure=150 psi&across=4 in&up=4 in&diameter=0.8 in", "pressure=1.0342135939752 MPa&across=101.6 mm&up=101.6 mm&diameter=20.32 mm&hole=4.7625 mm&allowed=51.71067969876 MPa")]
    public void Both_systems_of_units_agree(string key, string inches, string metric)
    {
        var (a, b) = (Ask(key, inches), Ask(key, metric));
        a.Problems.ShouldBeEmpty();
        b.Problems.ShouldBeEmpty();
        a.Figures.Select(f => f.Name).ShouldBe(b.Figures.Select(f => f.Name));
        foreach (var (x, y) in a.Figures.Zip(b.Figures))
        {
            x.Si.ShouldBe(y.Si, Math.Max(1e-15, Math.Abs(y.Si) * 1e-9), x.Name);
        }
    }

    public static TheoryData<string> Asked => [.. Calculator.All.Select(c => c.Key).Except(["stretch", "press-fit"])];

    /// <summary>What was asked in inches, pounds or millimetres is asked again in metres, kilograms, pascals and newtons: dimensions are consistent throughout. Two have a modulus that differs by convention, 207 GPa or 30 000 000 psi.</summary>
    [Theory]
    [MemberData(nameof(Asked))]
    public void The_same_in_metres_kilograms_and_pascals_gives_the_same(string key)
    {
        var calculator = Calculator.Find(key)!;
        var given = calculator.Example.Split('&').Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1], StringComparer.Ordinal);
        string Of(string field) => given.TryGetValue(field, out var text) ? text : calculator.Fields.First(f => f.Name == field).Usual;
        var (a, b) = (calculator.Answer(Of), calculator.Answer(f => calculator.Fields.First(x => x.Name == f).Choices is null ? InSi(Of(f)) : Of(f)));
        b.Problems.ShouldBeEmpty();
        foreach (var figure in a.Figures)
        {
            b[figure.Name].Si.ShouldBe(figure.Si, Math.Max(1e-12, Math.Abs(figure.Si) * 1e-9), figure.Name);
        }
    }

    private static readonly (Quantity Quantity, string Unit)[] Bases = [(Quantity.Length, "m"), (Quantity.Mass, "kg"), (Quantity.Pressure, "Pa"), (Quantity.Force, "N"), (Quantity.Torque, "N m"), (Quantity.Volume, "L")];

    private static string InSi(string text)
    {
        // A list of measures of one unit, or one measure, or something that is no measure.
        var parts = text.Split([';', '+'], StringSplitOptions.TrimEntries);
        var unit = parts[^1].AsSpan().IndexOfAnyExcept("-+0123456789./ ") is > 0 and var at ? " " + parts[^1][at..] : string.Empty;
        foreach (var (quantity, symbol) in Bases)
        {
            if (unit.Length > 0 && MeasureReader.Read("1" + unit, quantity) is { Value: { } one } && !text.Contains("ft ", StringComparison.Ordinal))
            {
                return string.Join(text.Contains('+', StringComparison.Ordinal) ? " + " : "; ", parts.Select(p =>
                {
                    var (sign, plain) = p.StartsWith('-') ? ("-", p[1..].Trim()) : (string.Empty, p);
                    var si = plain == "0" || plain.StartsWith("0 ", StringComparison.Ordinal) ? 0 : MeasureReader.Read(plain.EndsWith(unit, StringComparison.Ordinal) ? plain : plain + unit, quantity).Value!.Si;
                    return string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{sign}{(decimal)(symbol == "L" ? si * 1000 : si)} {symbol}");
                }));
            }
        }

        return text;
    }

    [Fact]
    public void A_pattern_that_was_only_shifted_and_turned_matches_without_rest()
    {
        const double Turn = 3 * Degree;
        (double X, double Y)[] holes = [(0, 0), (120, 0), (120, 60), (40, 90)];
        var moved = holes.Select(h => ((h.X * Math.Cos(Turn)) - (h.Y * Math.Sin(Turn)) + 12, (h.X * Math.Sin(Turn)) + (h.Y * Math.Cos(Turn)) - 7)).ToList();
        static string List(IEnumerable<double> all) => string.Join("; ", all.Select(v => v.ToString("0.0000000000", System.Globalization.CultureInfo.InvariantCulture))) + " mm";
        var answer = Ask("match-holes", $"x1={List(holes.Select(h => h.X))}&y1={List(holes.Select(h => h.Y))}&x2={List(moved.Select(h => h.Item1))}&y2={List(moved.Select(h => h.Item2))}&hole=11 mm&bolt=10 mm");
        answer["worst"].Si.ShouldBe(0, 1e-9);
        answer["turn"].Si.ShouldBe(-Turn, 1e-9);
        answer.Warnings.ShouldBeEmpty();
    }

    [Fact]
    public void The_angle_of_a_position_is_that_of_the_angle()
    {
        for (var degrees = 1; degrees < 180; degrees += 7)
        {
            var position = Ask("piston", $"stroke=100 mm&rod=180 mm&angle={degrees}")["position"].Si;
            var back = Ask("piston", FormattableString.Invariant($"stroke=100 mm&rod=180 mm&position={position * 1000:0.000000000} mm"))["angle"].Si;
            back.ShouldBe(degrees * Degree, 1e-6);
        }
    }

    [Fact]
    public void More_load_never_lightens_a_jack_and_a_colder_day_never_shortens_the_wait()
    {
        double Use(int tonnes) => Ask("jack", $"load={tonnes} tonne&rated=100 tonne")["use"].Si;
        double Wait(int degrees) => Ask("recoat", $"least=4 h&now={degrees} °C")["time"].Si;
        for (var i = 6; i < 30; i++)
        {
            Use(i + 1).ShouldBeGreaterThan(Use(i));
            Wait(i).ShouldBeGreaterThan(Wait(i + 1));
        }
    }
}
