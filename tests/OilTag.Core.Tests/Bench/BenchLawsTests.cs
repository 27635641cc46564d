using System.Globalization;
using System.Text.RegularExpressions;
using CsCheck;
using OilTag.Core.Bench;

namespace OilTag.Core.Tests.Bench;

/// <summary>What must hold of the calculators whatever the numbers: scale, direction, balance, and the way back.</summary>
public sealed partial class BenchLawsTests
{
    private const double Degree = Math.PI / 180;

    private static BenchAnswer Ask(string key, string typed) => WorkedExamplesTests.Ask(key, typed);

    private static string N(double value) => value.ToString("0.############", CultureInfo.InvariantCulture);

    // More of one thing gives more (or less) of another: mechanics, or plain arithmetic. The field that stands as {} takes the values in turn.
    [Theory]
    [InlineData("torque", "thread=1/2 UNC&grade=5&share={}", "40|60|75|80", "torque", 1)]
    [InlineData("tap-drill", "thread=M12x1.25&percent={}", "50|60|70|80", "drill", -1)]
    [InlineData("engagement", "thread=M10&grade=8.8&hole={} MPa", "150|200|250|300", "engagement", -1)]
    [InlineData("stretch", "thread=3/8-24 UNF&grade=8&length={} in", "2|3|4|6", "stretch", 1)]
    [InlineData("rivet-seam", "length={} in&edge=0.30 in&most=0.75 in", "10|20|36|50", "each", 1)]
    [InlineData("rivet-seam", "length=36 in&edge=0.30 in&most={} in", "0.5|0.75|1|1.5", "each", -1)]
    [InlineData("hot-rivet", "diameter=3/4 in&hole=13/16 in&grip={} in", "1|1.25|1.5|2", "length", 1)]
    [InlineData("bend", "thickness=1 mm&radius={} mm&legs=25 + 40 mm", "1|2|3|5", "flat", -1)]
    [InlineData("bend", "thickness=1 mm&radius=3 mm&legs={} + 40 mm", "20|25|30|60", "flat", 1)]
    [InlineData("springback", "radius={} in&thickness=0.040 in&yield=47000 psi&modulus=10500000 psi", "0.2|0.25|0.3|0.4", "over", 1)]
    [InlineData("flare", "hole=50 mm&flared={} mm&thickness=0.8 mm&elongation=30", "52|54|56|60", "stretch", 1)]
    [InlineData("cast-bush", "outside=4 in&bore={} in&length=5 in", "0|1|2|3.5", "mass", -1)]
    [InlineData("cast-bush", "outside=4 in&bore=1 in&length=5 in&yield={}", "40|60|80|100", "melt", -1)]
    [InlineData("cope", "area=120 in2&height={} in", "1|4|8|12", "lift", 1)]
    [InlineData("iron", "c={}&si=2.00", "2.9|3.1|3.3|3.5", "liquidus", -1)]
    [InlineData("white-metal", "shell=4.75 in&mandrel={} in&length=6 in", "3.7|3.875|4|4.5", "melt", -1)]
    [InlineData("dome", "radius=10 in&height={} in&thickness=0.25 in", "1|3|5|9", "thickness", -1)]
    [InlineData("drape", "radius=400 mm&thickness=4 mm&angle={}", "30|60|120|170", "blank", 1)]
    [InlineData("panel-holes", "distance={} mm", "100|300|600|900", "hole", 1)]
    [InlineData("press-fit", "diameter=50 mm&hub={} mm&length=60 mm&interference=0.040 mm", "70|100|150|200", "pressure", 1)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference={} mm", "0.01|0.02|0.03|0.05", "force", 1)]
    [InlineData("shrink", "diameter=50 mm&interference={} mm&gap=0.05 mm", "0.01|0.02|0.04|0.06", "temperature", 1)]
    [InlineData("key", "torque={} N m&diameter=45 mm&width=14 mm&height=9 mm&length=70 mm", "100|200|400|800", "shear", 1)]
    [InlineData("key", "torque=400 N m&diameter=45 mm&width=14 mm&height=9 mm&length={} mm", "30|50|70|90", "bearing", -1)]
    [InlineData("wear", "nominal=2.4990 in&limit=2.4960 in&reading={} in", "2.4988|2.4980|2.4972|2.4961", "used", 1)]
    [InlineData("clearance", "journal={} in&more=0.001 in", "1|2|4|6", "clearance", 1)]
    [InlineData("build-up", "undercut={} in&finish=4 in&stock=1/16 in&length=6 in&layer=3/32 in", "3.5|3.7|3.8|3.9", "mass", -1)]
    [InlineData("shell", "pressure={} psi&radius=24 in&joint=0.75&thickness=0.4 in", "50|100|150|160", "needed", 1)]
    [InlineData("stay", "pressure=150 psi&across=4 in&up=4 in&diameter={} in", "0.7|0.8|0.9|1", "stress", -1)]
    [InlineData("brace", "pressure=150 psi&area=40 in2&angle={}&diameter=1 in", "0|12|20|30", "stress", 1)]
    [InlineData("flat-plate", "thickness=3/8 in&pitch={} in", "3|4|5|6", "pressure", -1)]
    [InlineData("ligament", "pitch=3.25 in&hole={} in", "0.5|0.75|1|1.5", "efficiency", -1)]
    [InlineData("plate-life", "before=0.412 in&now={} in&years=4&limit=0.36 in", "0.408|0.400|0.395|0.370", "years", -1)]
    [InlineData("sling", "mass=3 tonne&angle={}", "30|45|60|85", "first", -1)]
    [InlineData("crib", "load={} lb", "5000|10000|20000|25000", "stress", 1)]
    [InlineData("weighing", "readings=1820; 1835; {} lb&places=0; 0; 200 in", "100|300|540|900", "centre", 1)]
    [InlineData("dihedral", "length=14 ft&angle={}", "0.5|1|3.5|8", "rise", 1)]
    [InlineData("washout", "board=24 in&root={} in&tip=0.60 in", "0.7|0.9|1.05|1.5", "washout", 1)]
    [InlineData("wedge", "board=24 in&angle={}", "0.5|1|2.5|5", "packing", 1)]
    [InlineData("symmetry", "half=180 in&left={} in&right=262.1 in", "262.2|262.5|263|264", "offset", 1)]
    [InlineData("sag", "mass=0.256 lb&length=64 ft&pull={} lbf", "10|20|40|80", "sag", -1)]
    [InlineData("cable", "stiffness=95000 lbf&tension=60 lbf&rise={} °C", "5|10|20|40", "change", 1)]
    [InlineData("compression", "bore=3.5 in&stroke=4 in&chamber={} ml", "60|80|105|200", "ratio", -1)]
    [InlineData("ports", "stroke=114.3 mm&rod=226 mm&exhaust={} mm&inlet=19 mm", "21|24|27|30", "exhaust", 1)]
    [InlineData("unbalance", "mass=10 g&radius=60 mm&speed={}&rotor=25 kg", "500|1000|3000|6000", "force", 1)]
    [InlineData("winding", "cold=6 ohm&warmAt={} °C", "30|60|85|120", "resistance", 1)]
    [InlineData("generator", "a=40 V&b=2 A&field={} ohm", "2|4|6|10", "cold", -1)]
    [InlineData("chain", "pitches={}&each=0.005 in", "2|10|24|50", "worst", 1)]
    [InlineData("develop", "radius=24.5 in&thickness={} in&distance=10 in", "0.1|0.25|0.5|1", "flat", -1)]
    [InlineData("bolt-circle", "diameter=200 mm&holes={}", "4|6|8|12", "neighbour", -1)]
    [InlineData("dew-point", "air=18 °C&humidity={}", "20|50|75|95", "dew", 1)]
    [InlineData("paint", "solids={}&film=0.060 mm&area=55 m2", "30|48|60|100", "paint", -1)]
    [InlineData("jack", "load=6 tonne&rated={} tonne", "8|10|12|20", "use", -1)]
    [InlineData("learning", "first=20 h&rate={}&pieces=8", "70|80|90|100", "total", 1)]
    [InlineData("use-up", "stock=38&use={}&from=2027-03-01", "1|2|4|8", "days", -1)]
    [InlineData("contingency", "base=420&share={}", "5|10|15|30", "all", 1)]
    public void More_of_one_gives_more_or_less_of_the_other(string key, string typed, string values, string figure, int way)
    {
        var figures = values.Split('|').Select(v => Of(key, typed.Replace("{}", v, StringComparison.Ordinal), figure)).ToList();
        foreach (var (before, after) in figures.Zip(figures.Skip(1)))
        {
            ((after - before) * way).ShouldBeGreaterThan(0, $"{key}: {string.Join(", ", figures)}");
        }
    }

    // All lengths twice as large: a length is twice as large, an area four times, a volume or mass eight times, a stress, angle or share the same.
    [Theory]
    [InlineData("bend", "thickness=1 mm&radius=3 mm&legs=25 + 40 mm", "flat", 1)]
    [InlineData("springback", "radius=6 mm&thickness=1 mm&yield=320 MPa&modulus=72000 MPa", "ratio", 0)]
    [InlineData("flare", "hole=50 mm&flared=56 mm&thickness=0.8 mm&elongation=15", "stretch", 0)]
    [InlineData("rib", "chord=600 mm&stations=0; 10; 30; 60; 100&upper=0; 6; 8; 6; 0&lower=0; -2; -2.5; -1; 0", "height", 1)]
    [InlineData("pattern", "size=420 mm", "pattern", 1)]
    [InlineData("cast-bush", "outside=100 mm&bore=60 mm&length=120 mm", "mass", 3)]
    [InlineData("white-metal", "shell=120 mm&mandrel=100 mm&length=150 mm", "melt", 3)]
    [InlineData("dome", "radius=250 mm&height=125 mm&thickness=6 mm", "thickness", 1)]
    [InlineData("drape", "radius=400 mm&thickness=4 mm&angle=120&trim=40 mm", "blank", 1)]
    [InlineData("panel-holes", "distance=600 mm&screw=5 mm", "movement", 1)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "pressure", 0)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "force", 2)]
    [InlineData("press-fit", "diameter=50 mm&hub=100 mm&length=60 mm&interference=0.040 mm", "torque", 3)]
    [InlineData("shrink", "diameter=50 mm&interference=0.040 mm&gap=0.050 mm", "rise", 0)]
    [InlineData("key", "torque=400 N m&diameter=40 mm&width=12 mm&height=8 mm&length=60 mm", "shear", -3)]
    [InlineData("wear", "nominal=63.5 mm&limit=63.4 mm&reading=63.44 mm", "used", 0)]
    [InlineData("build-up", "undercut=90 mm&finish=100 mm&stock=2 mm&length=150 mm&layer=3 mm", "mass", 3)]
    [InlineData("shell", "pressure=1 MPa&radius=600 mm&joint=0.75", "needed", 1)]
    [InlineData("stay", "pressure=1 MPa&across=100 mm&up=100 mm&diameter=22 mm&hole=4 mm", "stress", 0)]
    [InlineData("ligament", "pitch=80 mm&hole=24 mm", "efficiency", 0)]
    [InlineData("supports", "mass=1905 kg&x=0; 0; 5080 mm&y=-1524; 1524; 0 mm&gx=635 mm", "r3", 0)]
    [InlineData("centre", "masses=4200; 360 lb&places=250; 1000 mm", "centre", 1)]
    [InlineData("dihedral", "length=4200 mm&angle=3.5", "rise", 1)]
    [InlineData("washout", "board=600 mm&root=27 mm&tip=15 mm", "washout", 0)]
    [InlineData("symmetry", "half=4500 mm&left=6560 mm&right=6550 mm", "offset", 1)]
    [InlineData("straight", "readings=0; 22; 41; 30; 5 mm&step=2400 mm&tolerance=3 mm", "band", 1)]
    [InlineData("run-out", "tir=0.46 mm", "eccentricity", 1)]
    [InlineData("piston", "stroke=100 mm&rod=180 mm&angle=77", "position", 1)]
    [InlineData("ports", "stroke=114 mm&rod=226 mm&exhaust=27 mm&inlet=19 mm", "blowdown", 0)]
    [InlineData("pump", "gear=31.79 mm&body=31.75 mm&gaskets=0.08; 0.10; 0.15 mm&least=0.05 mm&most=0.10 mm", "clearance", 1)]
    [InlineData("shim", "old=2.65 mm&measured=0.38 mm&wanted=0.30 mm", "shim", 1)]
    [InlineData("adjuster", "measured=0.38 mm&wanted=0.30 mm&pitch=1 mm", "turns", 0)]
    [InlineData("develop", "radius=620 mm&thickness=12 mm&distance=250 mm", "flat", 1)]
    [InlineData("bolt-circle", "diameter=200 mm&holes=8", "neighbour", 1)]
    [InlineData("gasket", "outside=180 mm&bore=110 mm&circle=150 mm&holes=6&hole=11 mm", "area", 2)]
    [InlineData("chain", "pitches=24&each=0.12 mm", "likely", 1)]
    [InlineData("unbalance", "mass=10 g&radius=60 mm&speed=3000&rotor=25 kg", "force", 1)]
    [InlineData("bars", "lengths=120; 80 mm&pieces=8; 4&bar=1000 mm&kerf=3 mm&allowance=3 mm&section=round&across=25 mm", "mass", 3)]
    [InlineData("sheets", "widths=300; 120 mm&heights=200; 80 mm&pieces=4; 10&width=2000 mm&height=1000 mm&gap=3 mm&thick=1.2 mm", "mass", 3)]
    [InlineData("machine-fit", "diameter=410 mm&length=1200 mm&mass=85 kg&swing=500 mm&saddle=300 mm&between=1500 mm&most=250 kg", "room", 1)]
    [InlineData("wedge", "board=600 mm&angle=2.5", "packing", 1)]
    public void A_machine_of_twice_the_size_follows_the_law_of_scale(string key, string typed, string figure, int power)
    {
        var twice = string.Join('&', typed.Split('&').Select(p => p.EndsWith("mm", StringComparison.Ordinal) ? p.Split('=')[0] + "=" + Number().Replace(p.Split('=')[1], m => N(2 * double.Parse(m.Value, CultureInfo.InvariantCulture))) : p));
        twice.ShouldNotBe(typed);
        Of(key, twice, figure).ShouldBe(Math.Pow(2, power) * Of(key, typed, figure), Math.Abs(Of(key, typed, figure)) * Math.Pow(2, power) * 1e-9, $"{key} {figure}");
    }

    /// <summary>Whatever is lifted, its supports bear it: forces and moments balance, and weighing it there finds the centre again.</summary>
    [Fact]
    public void Supports_balance_and_weighing_is_the_way_back() => Gen.Select(Gen.Double[200, 20_000], Gen.Double[0.05, 0.95], Gen.Double[1.5, 9]).Sample(
        (mass, share, span) =>
        {
            var at = share * span;
            var a = Ask("supports", $"mass={N(mass)} kg&x=0; {N(span)} m&gx={N(at)} m");
            (a["r1"].Si + a["r2"].Si).ShouldBe(mass, mass * 1e-9);
            (a["r2"].Si * span).ShouldBe(mass * at, mass * span * 1e-9);
            var back = Ask("weighing", $"readings={N(a["r1"].Si)}; {N(a["r2"].Si)} kg&places=0; {N(span)} m");
            back["mass"].Si.ShouldBe(mass, mass * 1e-6);
            back["centre"].Si.ShouldBe(at, span * 1e-6);
        },
        iter: 200);

    /// <summary>The legs of a sling together carry the load and no more, upright, and pull against each other.</summary>
    [Fact]
    public void Legs_of_a_sling_balance() => Gen.Select(Gen.Double[100, 9000], Gen.Double[30, 89], Gen.Double[30, 89]).Sample(
        (mass, first, second) =>
        {
            var a = Ask("sling", $"mass={N(mass)} kg&angle={N(first)}&other={N(second)}");
            ((a["first"].Si * Math.Sin(first * Degree)) + (a["second"].Si * Math.Sin(second * Degree))).ShouldBe(mass, mass * 1e-9);
            (a["first"].Si * Math.Cos(first * Degree)).ShouldBe(a["second"].Si * Math.Cos(second * Degree), mass * 1e-9);
        },
        iter: 200);

    [Fact]
    public void What_is_milled_off_gives_the_ratio_that_was_wanted() => Gen.Select(Gen.Double[50, 120], Gen.Double[50, 150], Gen.Double[5, 9]).Sample(
        (bore, stroke, ratio) =>
        {
            var swept = Math.PI / 4 * bore * bore * stroke / 1000;
            var chamber = swept / (ratio - 1);
            var a = Ask("compression", $"bore={N(bore)} mm&stroke={N(stroke)} mm&chamber={N(chamber)} ml&wanted={N(ratio + 0.3)}");
            a["ratio"].Si.ShouldBe(ratio, 1e-6);
            Ask("compression", $"bore={N(bore)} mm&stroke={N(stroke)} mm&chamber={N(chamber - (a["mill"].Si * Math.PI / 4 * bore * bore))} ml")["ratio"].Si.ShouldBe(ratio + 0.3, 1e-6);
        },
        iter: 100);

    [Fact]
    public void A_wedge_makes_the_angle_and_a_board_reads_it_back() => Gen.Select(Gen.Double[200, 900], Gen.Double[0.2, 8]).Sample(
        (board, angle) =>
        {
            var packing = Ask("wedge", $"board={N(board)} mm&angle={N(angle)}")["packing"].Si;
            Ask("washout", $"board={N(board)} mm&root={N(packing * 1000)} mm&tip=0 mm")["root"].Si.ShouldBe(angle * Degree, 1e-8);
        },
        iter: 100);

    [Fact]
    public void The_field_that_gives_a_voltage_gives_it() => Gen.Select(Gen.Double[20, 60], Gen.Double[1, 4], Gen.Double[0.3, 0.9]).Sample(
        (a, b, share) =>
        {
            var field = Ask("generator-field", $"a={N(a)} V&b={N(b)} A&voltage={N(a * share)} V")["field"].Si;
            Ask("generator", $"a={N(a)} V&b={N(b)} A&field={N(field)} ohm")["cold"].Si.ShouldBe(a * share, 1e-6 * a);
        },
        iter: 100);

    [Fact]
    public void A_winding_comes_back_to_its_temperature() => Gen.Select(Gen.Double[0.5, 90], Gen.Double[25, 150]).Sample(
        (cold, warm) =>
        {
            var resistance = Ask("winding", $"cold={N(cold)} ohm&warmAt={N(warm)} °C")["resistance"].Si;
            var back = Ask("winding", $"cold={N(cold)} ohm&warm={N(resistance)} ohm").Figures[0];
            back.Si.ShouldBe(warm + 273.15, 1e-6);
        },
        iter: 100);

    [Theory]
    [InlineData(2, 0)]
    [InlineData(3, 90)]
    [InlineData(8, 22.5)]
    [InlineData(17, -45)]
    [InlineData(72, 1)]
    public void Holes_lie_on_their_circle_at_equal_steps(int holes, double start)
    {
        var a = Ask("bolt-circle", $"diameter=300 mm&holes={holes}&start={N(start)}");
        var shown = a.Figures.Count(f => f.Name.StartsWith('x'));
        for (var i = 1; i <= shown; i++)
        {
            var (x, y) = (a[$"x{i}"].Si, a[$"y{i}"].Si);
            Math.Sqrt((x * x) + (y * y)).ShouldBe(0.15, 1e-12);
            Math.IEEERemainder(Math.Atan2(y, x) - (start * Degree) - ((i - 1) * 2 * Math.PI / holes), 2 * Math.PI / holes).ShouldBe(0, 1e-9);
        }

        a["neighbour"].Si.ShouldBe(0.3 * Math.Sin(Math.PI / holes), 1e-12);
    }

    /// <summary>Air that holds all the water it can has its dew point at its own temperature; below that, Magnus’ formula is turned round again.</summary>
    [Fact]
    public void The_dew_point_gives_the_humidity_back() => Gen.Select(Gen.Double[-5, 40], Gen.Double[20, 100]).Sample(
        (air, humidity) =>
        {
            var dew = Ask("dew-point", $"air={N(air)} °C&humidity={N(humidity)}")["dew"].Si - 273.15;
            double Pressure(double celsius) => Math.Exp(17.62 * celsius / (243.12 + celsius));
            (100 * Pressure(dew) / Pressure(air)).ShouldBe(humidity, 0.6);
            dew.ShouldBeLessThanOrEqualTo(air + 1e-9);
        },
        iter: 200);

    [Fact]
    public void Nothing_is_learned_at_a_hundred_and_a_doubling_leaves_the_rate()
    {
        Ask("learning", "first=20 h&rate=100&pieces=8")["total"].Si.ShouldBe(8 * 20 * 3600, 1e-6);
        foreach (var rate in new[] { 70, 80, 85, 95 })
        {
            foreach (var pieces in new[] { 1, 2, 4, 16 })
            {
                double Last(int n) => Ask("learning", $"first=20 h&rate={rate}&pieces={n}")["last"].Si;
                (Last(2 * pieces) / Last(pieces)).ShouldBe(rate / 100.0, 1e-9);
            }
        }
    }

    /// <summary>At the break-even the two cost the same or making is cheaper, and one piece fewer is cheaper to buy.</summary>
    [Fact]
    public void From_the_break_even_on_making_is_no_dearer() => Gen.Select(Gen.Int[50, 2000], Gen.Int[1, 40], Gen.Int[45, 150]).Sample(
        (tooling, make, buy) =>
        {
            var even = Ask("make-or-buy", $"pieces=1&tooling={tooling}&make={make}&makeWeeks=6&buy={buy}&buyWeeks=6")["even"].Si;
            (tooling + (even * make)).ShouldBeLessThanOrEqualTo((even * buy) + 1e-9);
            (tooling + ((even - 1) * make)).ShouldBeGreaterThan((even - 1) * buy);
        },
        iter: 200);

    /// <summary>What is left of a resized shaft is nearest below what cleans it up; one step larger would not clean up.</summary>
    [Fact]
    public void The_next_size_cleans_up_and_no_larger_one_does() => Gen.Int[1, 37].Sample(
        thousandths =>
        {
            var a = Ask("resize", $"kind=shaft&nominal=2.0000 in&reading={N(2 - (thousandths / 1000.0))} in&clean=0.002 in");
            a["size"].Si.ShouldBeLessThanOrEqualTo(a["needed"].Si + 1e-9);
            (a["size"].Si + (0.010 * 0.0254)).ShouldBeGreaterThan(a["needed"].Si - 1e-9);
        },
        iter: 60);

    [Fact]
    public void Matched_masses_are_all_as_light_as_the_lightest() => Gen.Double[700, 900].Array[2, 8].Sample(
        masses =>
        {
            var a = Ask("match", $"masses={string.Join("; ", masses.Select(N))} g");
            a["spread"].Si.ShouldBe((masses.Max() - masses.Min()) / 1000, 1e-9);
            for (var i = 0; i < masses.Length; i++)
            {
                ((masses[i] / 1000) - a[$"remove{i + 1}"].Si).ShouldBe(masses.Min() / 1000, 1e-9);
            }
        },
        iter: 100);

    /// <summary>The line through readings of a straight, tilted frame leaves nothing over, and the band of a bent one is never more than its spread about the fitted line.</summary>
    [Fact]
    public void A_tilted_frame_is_straight_and_the_narrowest_band_is_the_least() => Gen.Select(Gen.Double[-3, 3], Gen.Double[-2, 2].Array[4, 9]).Sample(
        (slope, bumps) =>
        {
            string Readings(IEnumerable<double> all) => string.Join("; ", all.Select(v => v.ToString("0.#########", CultureInfo.InvariantCulture))) + " mm";
            Ask("straight", $"readings={Readings(bumps.Select((_, i) => slope * i))}&step=500 mm&tolerance=3 mm")["band"].Si.ShouldBe(0, 1e-9);
            var a = Ask("straight", $"readings={Readings(bumps)}&step=500 mm&tolerance=3 mm");
            a["band"].Si.ShouldBeLessThanOrEqualTo(a["spread"].Si + 1e-12);
            a["band"].Si.ShouldBeLessThanOrEqualTo(((bumps.Max() - bumps.Min()) / 1000) + 1e-9);
        },
        iter: 150);

    /// <summary>Bars hold what was asked for, whatever the lengths: nothing is lost, no bar is overfull, and no two half-empty ones could be one.</summary>
    [Fact]
    public void Weight_of_bars_is_that_of_their_number() => Gen.Select(Gen.Int[50, 900], Gen.Int[1, 40], Gen.Int[5, 60]).Sample(
        (length, pieces, across) =>
        {
            var a = Ask("bars", $"lengths={length} mm&pieces={pieces}&bar=1000 mm&section=square&across={across} mm&price=3&per=metre");
            a["bars"].Si.ShouldBe(Math.Ceiling(pieces / Math.Floor((1000.0 + 3) / (length + 6))), $"{length} {pieces}");
            a["mass"].Si.ShouldBe(a["bars"].Si * across * across * 1e-6 * 7850, 1e-6);
            a["cost"].Si.ShouldBe(3 * a["bars"].Si, 1e-9);
        },
        iter: 200);

    private static double Of(string key, string typed, string figure)
    {
        var answer = Ask(key, typed);
        answer.Problems.ShouldBeEmpty($"{key}?{typed}");
        return answer[figure].Si;
    }

    [GeneratedRegex(@"[0-9.]+", RegexOptions.NonBacktracking)]
    private static partial Regex Number();
}
