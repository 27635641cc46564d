using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Springback Ri/Rf = 4q³ − 3q + 1 with q = Ri·Y/(E·T) (standard forming texts, q below 0.5), flares of lightening holes, and outlines of ribs from their ordinates.</summary>
public static class Forming
{
    private const string Ordinates = "Type as many numbers as there are stations, with a semicolon between them; a number below nought lies under the chord.";

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("springback", BenchTopic.SheetMetal, "Springback", "How far a bend opens when it leaves the tool.", [new BenchField("radius", "Which radius has the tool?", Hint: "0.25 in, 6 mm."), new BenchField("thickness", "How thick is the sheet?", Hint: "0.040 in."), new BenchField("yield", "When does it yield?", Hint: "47000 psi, 320 MPa."), new BenchField("modulus", "Which modulus?", Hint: "10500000 psi or 72000 MPa for aluminium, 207000 MPa for steel."), new BenchField("angle", "Which angle has the tool?", "90", "Bent through, in degrees.")], Springback),
        new("flare", BenchTopic.SheetMetal, "Flare of a lightening hole", "How far its edge is stretched, against what the sheet stands.", [new BenchField("hole", "Which hole, before flaring?", Hint: "50 mm."), new BenchField("flared", "Which diameter of the edge, flared?", Hint: "56 mm."), new BenchField("thickness", "How thick is the sheet?", Hint: "0.8 mm."), new BenchField("elongation", "Elongation of this temper, in 100?", Hint: "From its certificate or data: 15.")], Flare),
        new("rib", BenchTopic.SheetMetal, "Outline of a rib", "The true outline from its ordinates, to print and lay on the former block.", [new BenchField("chord", "How long is the chord?", Hint: "36 in, 600 mm."), new BenchField("stations", "At which stations, in 100 of the chord?", Hint: "0; 5; 10; 20; 40; 60; 80; 100"), new BenchField("upper", "How high is the upper side there, in 100?", Hint: "0; 4.2; 5.8; 7.5; 7.8; 5.9; 3.2; 0"), new BenchField("lower", "And the lower side?", Hint: "0; -2; -2.4; -2.5; -2; -1.2; -0.5; 0"), new BenchField("less", "How much is taken off all round?", "0", "For the flange and skin: 0.032 in.")], Rib),
    ];

    private static BenchAnswer Springback(Asked asked)
    {
        var radius = asked.Length("radius");
        var t = asked.Length("thickness");
        var yield = asked.Stress("yield");
        var modulus = asked.Stress("modulus");
        var angle = asked.Value("angle", 1, 179, "Type an angle from 1 to 179 degrees.");
        var q = asked.Good ? radius * yield / (modulus * t) : 0;
        if (q >= 0.5 * (1 - 1e-9))
        {
            asked.No("radius", $"So large a radius springs back nearly flat: Ri · Y/(E · T) is {Reckoning.N(q)}, and the formula holds below 0.5.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var ratio = (4 * q * q * q) - (3 * q) + 1;
        var free = radius / ratio;
        var after = angle * ((2 * radius) + t) / ((2 * free) + t);
        return r.OfAngle("angle", "Angle after", after * Math.PI / 180).OfLength("radius", "Radius after", free).OfNumber("ratio", "Ri/Rf", ratio).OfAngle("over", "Bend the tool to", Math.Min(180, angle * angle / after) * Math.PI / 180)
            .Step($"q = Ri · Y/(E · T) = {Reckoning.N(q)}").Step($"Ri/Rf = 4 q³ − 3 q + 1 = {Reckoning.N(ratio)}; Rf = {r.Short(free)}").Step($"Af = Ai · (2 Ri + T)/(2 Rf + T) = {Reckoning.N(after)}°")
            .Warn(angle * angle / after > 180, "A tool cannot bend that far: form it twice, or coin the bend.")
            .Draw(SheetSketches.Springback(r, radius, free, angle, after, t))
            .Done("Standard forming texts", "Hammer-form blocks are relieved by 2 to 3 degrees: common practice.", "Try it in a strip of the same sheet and temper.");
    }

    private static BenchAnswer Flare(Asked asked)
    {
        var hole = asked.Length("hole");
        var flared = asked.Length("flared");
        var t = asked.Length("thickness");
        var elongation = asked.Value("elongation", 0.1, 80, "Type the elongation from 0.1 to 80 in 100.");
        if (asked.Good && flared <= hole)
        {
            asked.No("flared", "The edge becomes larger by flaring.");
        }

        var stretch = asked.Good ? (flared / hole) - 1 : 0;
        if (asked.Good && stretch * 100 > elongation * (1 + 1e-9))
        {
            asked.No("flared", $"The edge would stretch by {Reckoning.N(stretch * 100)} in 100 and the sheet stands {Reckoning.N(elongation)}: it splits. Make the hole larger before flaring, or anneal.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        return r.OfNumber("stretch", "The edge stretches by", stretch * 100, " in 100").OfLength("least", "Smallest hole for this flare", flared / (1 + (elongation / 100)))
            .Step($"e = D flared/D hole − 1 = {r.Short(flared)}/{r.Short(hole)} − 1 = {Reckoning.N(stretch * 100)} in 100 against {Reckoning.N(elongation)}")
            .Warn(stretch * 100 > 0.8 * elongation, "More than eight tenths of what it stands: polish the edge, and try it in scrap.")
            .Draw(SheetSketches.Flare(r, hole, flared, t))
            .Done("Geometry of the edge", "Deburr and polish before flaring; none where the drawing shows none.");
    }

    private static BenchAnswer Rib(Asked asked)
    {
        var chord = asked.Length("chord");
        var stations = asked.Numbers("stations", 80, "Type up to eighty stations from 0 to 100 with a semicolon between them.");
        var upper = Signed(asked, "upper", stations.Count);
        var lower = Signed(asked, "lower", stations.Count);
        var less = asked.Offset("less");
        if (asked.Good && (stations.Count < 3 || stations[0] != 0 || stations[^1] != 100 || stations.Zip(stations.Skip(1)).Any(p => p.Second <= p.First)))
        {
            asked.No("stations", "Stations start at 0, end at 100, and each is larger than the one before; at least three.");
        }

        if (asked.Good && upper.Zip(lower).Any(p => p.First < p.Second))
        {
            asked.No("lower", "At a station the lower side lies above the upper one. Are the two swapped?");
        }

        var most = asked.Good ? upper.Zip(lower).Max(p => p.First - p.Second) / 100 * chord : 0;
        if (asked.Good && (less < 0 || 2 * less >= most))
        {
            asked.No("less", "Type nought or more, and less than half of the rib’s height.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);

        // What is taken off is taken square to the chord, and never past the middle.
        (double X, double Y) At(int i, double side, double sign)
        {
            var middle = (upper[i] + lower[i]) / 200 * chord;
            var y = side / 100 * chord;
            return (stations[i] / 100 * chord, sign > 0 ? Math.Max(middle, y - less) : Math.Min(middle, y + less));
        }

        var top = Enumerable.Range(0, stations.Count).Select(i => At(i, upper[i], 1)).ToArray();
        var foot = Enumerable.Range(0, stations.Count).Select(i => At(i, lower[i], -1)).ToArray();
        double Along((double X, double Y)[] line) => line.Zip(line.Skip(1)).Sum(p => Math.Sqrt(Math.Pow(p.Second.X - p.First.X, 2) + Math.Pow(p.Second.Y - p.First.Y, 2)));
        var sketch = new Sketch("The outline of the rib on its chord, with its stations.").Shape(SketchStroke.Edge, [.. top, .. foot.Reverse()]).Line(SketchStroke.Centre, (0, 0), (chord, 0)).Across(0, chord, foot.Min(p => p.Y), 1, r.Short(chord));
        for (var i = 1; i < stations.Count - 1; i++)
        {
            sketch.Line(SketchStroke.Thin, foot[i], top[i]);
        }

        var deepest = Enumerable.Range(0, stations.Count).MaxBy(i => top[i].Y - foot[i].Y);
        sketch.Up(foot[deepest].Y, top[deepest].Y, chord, 1, r.Short(top[deepest].Y - foot[deepest].Y));
        return r.OfLength("height", "Largest height", top[deepest].Y - foot[deepest].Y).OfLength("at", "At", stations[deepest] / 100 * chord).OfLength("upper", "Along the upper side", Along(top)).OfLength("lower", "Along the lower side", Along(foot))
            .Step("x = station · chord/100; y = ordinate · chord/100, less what is taken off").Step("Between stations the outline is drawn straight: more stations where it turns fast, at the nose above all.")
            .Draw(sketch).Template(sketch)
            .Done("Geometry", "Lay the template on the former, not on the skin; allow for the bend radius of the flange.", "The drawing’s ordinates come first; an old rib has moved.");
    }

    private static List<double> Signed(Asked asked, string field, int count)
    {
        var all = asked.Text(field).Split([';', '\n'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(p => (Sign: p.StartsWith('-') || p.StartsWith('\u2212') ? -1 : 1, Size: TextRules.Number(p.TrimStart('-', '\u2212', '+')))).ToList();
        if (all.Count != count || all.Exists(p => p.Size is null or > 100))
        {
            asked.No(field, Ordinates);
            return [];
        }

        return [.. all.Select(p => p.Sign * (double)p.Size!.Value)];
    }
}
