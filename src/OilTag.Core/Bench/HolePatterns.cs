using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Holes carried from an old rolled plate to a flat new one, bolt circles, and what tolerances add up to. Geometry; a neutral line at half the thickness for R/t from 10, else by the usual K.</summary>
public static class HolePatterns
{
    private static readonly BenchChoice[] Sides = [new("outside", "outside"), new("inside", "inside")];
    private static readonly BenchChoice[] Ways = [new("tape", "with a tape round it"), new("chord", "straight across, as a chord"), new("offset", "from the centre line, square on")];
    private static readonly string[] Care = ["Drill under size from the developed marks, roll, clamp, then ream in place.", "The old plate is distorted: take the mean of left and right, and keep it until the new one is bolted."];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("develop", BenchTopic.HolePatterns, "Holes on a rolled plate", "Where holes of the rolled plate lie on the flat one.", [new BenchField("radius", "Which radius?", Hint: "Of the side that is measured: 24.5 in."), new BenchField("side", "Which side is measured?", "outside", Choices: Sides), new BenchField("thickness", "How thick is the plate?", Hint: "0.5 in."), new BenchField("way", "How is it measured?", "tape", Choices: Ways), new BenchField("distance", "Which distances?", Hint: "From the datum line, one for each hole: 10.000 in; 12.5 in."), new BenchField("along", "And along the axis?", Hint: "As many; empty when all lie on one line.", Needed: false), new BenchField("hole", "How large are the holes?", Hint: "For the template; empty for crosses only.", Needed: false)], Develop),
        new("bolt-circle", BenchTopic.HolePatterns, "Bolt circle", "Where the holes lie, and how far apart.", [new BenchField("diameter", "Which circle?", Hint: "200 mm, centre to centre."), new BenchField("holes", "How many holes?", Hint: "8"), new BenchField("start", "At which angle is the first?", "0", "From the right, against the clock."), new BenchField("hole", "How large are the holes?", Hint: "For the template; empty for crosses only.", Needed: false)], Circle),
        new("chain", BenchTopic.HolePatterns, "Tolerance of a row of holes", "What small errors come to from hole to hole, and from one datum.", [new BenchField("pitches", "How many pitches?", Hint: "24"), new BenchField("each", "How much is each out?", Hint: "0.005 in.")], Chain),
        new("gasket", BenchTopic.HolePatterns, "Round gasket", "A gasket to print and cut: outside, bore and bolt holes.", [new BenchField("outside", "Which outside diameter?", Hint: "180 mm."), new BenchField("bore", "Which bore?", Hint: "120 mm; a little over the pipe’s."), new BenchField("circle", "Which bolt circle?", Hint: "150 mm."), new BenchField("holes", "How many holes?", Hint: "6"), new BenchField("hole", "How large are the holes?", Hint: "11 mm."), new BenchField("start", "At which angle is the first?", "0", "From the right, against the clock.")], Gasket),
        new("match-holes", BenchTopic.HolePatterns, "Do two hole patterns match", "The best shift and turn of one pattern on the other, and whether the bolts pass.", [new BenchField("x1", "First pattern, to the right?", Hint: "0; 100; 100; 0 mm."), new BenchField("y1", "And up?", Hint: "0; 0; 60; 60 mm."), new BenchField("x2", "Second pattern, to the right?", Hint: "In the same order: 0.3; 100.1; 99.9; 0.2 mm."), new BenchField("y2", "And up?", Hint: "0.1; 0; 60.2; 60.1 mm."), new BenchField("hole", "How large are the holes?", Hint: "10.5 mm."), new BenchField("bolt", "How large are the bolts?", Hint: "10 mm.")], Match),
    ];

    private static BenchAnswer Develop(Asked asked)
    {
        var radius = asked.Length("radius");
        var side = asked.Choice("side", Sides);
        var t = asked.Length("thickness");
        var way = asked.Choice("way", Ways);
        var distances = asked.List("distance", Quantity.Length, 1, 200, "Type the distances with a semicolon between them, such as 10 in; 12.5 in.", signed: true);
        var along = !asked.Has("along") ? [.. distances.Select(_ => 0.0)] : asked.List("along", Quantity.Length, 1, 200, "Type as many as there are distances.", signed: true);
        var hole = asked.Optional("hole", Quantity.Length)?.Si ?? 0;
        if (asked.Good && along.Count != distances.Count)
        {
            asked.No("along", $"There are {distances.Count} distances and {along.Count} along the axis.");
        }

        if (asked.Good && side == "outside" && t >= radius)
        {
            asked.No("thickness", "The plate is thicker than its radius.");
        }

        if (asked.Good && distances.Any(d => (way == "chord" && Math.Abs(d) > 2 * radius) || (way == "offset" && Math.Abs(d) > radius)))
        {
            asked.No("distance", way == "chord" ? "A chord is never longer than the diameter." : "That is farther out than the plate.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var inside = side == "outside" ? radius - t : radius;
        var k = inside / t >= 10 * (1 - 1e-9) ? 0.5 : SheetBend.UsualK(inside / t);
        var neutral = inside + (k * t);
        List<double> angles = [.. distances.Select(d => way switch { "chord" => 2 * Math.Asin(d / (2 * radius)), "offset" => Math.Asin(d / radius), _ => d / radius })];
        var phi = angles[0];
        r.OfLength("flat", distances.Count == 1 ? "On the flat plate" : "Hole 1, on the flat plate", neutral * phi);
        for (var i = 1; i < angles.Count; i++)
        {
            r.OfLength($"flat{i + 1}", $"Hole {i + 1}", neutral * angles[i]);
        }

        return r.OfAngle("angle", "Angle", phi).OfLength("neutral", "Radius of the neutral line", neutral).OfLength("turn", "A full turn", 2 * Math.PI * neutral)
            .Step($"Rn = Ri + K · t = {r.Short(inside)} + {Reckoning.N(k)} · {r.Short(t)} = {r.Short(neutral)}")
            .Step(way switch { "chord" => $"φ = 2 · asin(c/(2 R)) = {Reckoning.Degrees(phi)}", "offset" => $"φ = asin(x/R) = {Reckoning.Degrees(phi)}", _ => $"φ = s/R = {Reckoning.Degrees(phi)}" })
            .Step($"s = Rn · φ = {r.Short(neutral * phi)}; along the axis nothing changes")
            .Warn(hole > 0 && Nearest(angles, along, neutral) < 1.5 * hole, "Two holes stand nearer than one and a half diameters.")
            .Draw(PlaceSketches.Develop(r, inside, t, phi, neutral)).Template(PlaceSketches.FlatHoles(r, [.. angles.Zip(along, (a, y) => (neutral * a, y))], hole))
            .Done("Geometry of a cylinder; K common practice", [.. Care, "For cones and double curvature use a template: this unrolls cylinders only."]);
    }

    private static double Nearest(IReadOnlyList<double> angles, IReadOnlyList<double> along, double neutral) =>
        angles.SelectMany((a, i) => angles.Skip(i + 1).Select((b, j) => Math.Sqrt(Math.Pow(neutral * (a - b), 2) + Math.Pow(along[i] - along[i + 1 + j], 2)))).DefaultIfEmpty(double.MaxValue).Min();

    private static BenchAnswer Circle(Asked asked)
    {
        var d = asked.Length("diameter");
        var n = asked.Whole("holes", 2, 72, "Type a whole number of holes from 2 to 72.");
        var start = asked.Value("start", -360, 360, "Type an angle from -360 to 360 degrees.");
        var hole = asked.Optional("hole", Quantity.Length)?.Si ?? 0;
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        r.OfLength("neighbour", "To the next hole", d * Math.Sin(Math.PI / n)).OfLength("second", "To the next but one", d * Math.Sin(2 * Math.PI / n));
        for (var i = 0; i < n; i++)
        {
            var a = (start * Math.PI / 180) + (2 * Math.PI * i / n);
            var (x, y) = (d / 2 * Math.Cos(a), d / 2 * Math.Sin(a));
            r.Figure($"x{i + 1}", $"Hole {i + 1}, right", x, "m", r.Length(x)).Figure($"y{i + 1}", $"Hole {i + 1}, up", y, "m", r.Length(y));
        }

        return r.Step("x = R cos(a + 360 i/n), y = R sin(a + 360 i/n)").Step($"to the next: D · sin(180/n) = {r.Short(d * Math.Sin(Math.PI / n))}").Draw(PlaceSketches.BoltCircle(r, d, n, start * Math.PI / 180, hole, 0, 0)).Template(PlaceSketches.BoltCircle(r, d, n, start * Math.PI / 180, hole, 0, 0)).Done("Geometry", Care);
    }

    private static BenchAnswer Chain(Asked asked)
    {
        var pitches = asked.Value("pitches", 1, 10_000, "Type a whole number of pitches.");
        var each = asked.Length("each");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        return r.OfLength("worst", "At worst, hole to hole", pitches * each).OfLength("likely", "By chance, hole to hole", each * Math.Sqrt(pitches)).OfLength("datum", "From one datum", each)
            .Step($"n · τ = {Reckoning.N(pitches)} · {r.Short(each)}; √n · τ; τ").Step("Measure from one datum, never hole to hole.").Draw(Plain.Bars("How far the last hole may be out.", [(pitches * each, $"at worst {r.Short(pitches * each)}", false), (each * Math.Sqrt(pitches), $"by chance {r.Short(each * Math.Sqrt(pitches))}", false), (each, $"from one datum {r.Short(each)}", false)])).Done("Sum of errors; square root of the sum of squares", Care);
    }

    private static BenchAnswer Gasket(Asked asked)
    {
        var outside = asked.Length("outside");
        var bore = asked.Length("bore");
        var d = asked.Length("circle");
        var n = asked.Whole("holes", 0, 72, "Type a whole number of holes from 0 to 72; not 1.");
        var hole = asked.Length("hole");
        var start = asked.Value("start", -360, 360, "Type an angle from -360 to 360 degrees.");
        if (asked.Good && n == 1)
        {
            asked.No("holes", "Type a whole number of holes from 0 to 72; not 1.");
        }

        if (asked.Good && bore >= outside)
        {
            asked.No("bore", "The bore must be smaller than the outside.");
        }
        else if (asked.Good && n > 0 && (d + hole >= outside || d - hole <= bore))
        {
            asked.No("circle", d + hole >= outside ? "The holes would cut through the outside edge." : "The holes would cut into the bore.");
        }
        else if (asked.Good && n > 1 && d * Math.Sin(Math.PI / n) <= hole)
        {
            asked.No("holes", "So many holes run into each other.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var area = Math.PI / 4 * ((outside * outside) - (bore * bore) - (n * hole * hole));
        var land = n == 0 ? (outside - bore) / 2 : Math.Min((outside - d - hole) / 2, (d - hole - bore) / 2);
        var sketch = n == 0
            ? new Sketch("The gasket from above.").Circle(SketchStroke.Edge, 0, 0, outside / 2).Circle(SketchStroke.Edge, 0, 0, bore / 2).Line(SketchStroke.Centre, (-outside / 2, 0), (outside / 2, 0)).Line(SketchStroke.Centre, (0, -outside / 2), (0, outside / 2)).Across(-outside / 2, outside / 2, -outside / 2, 1, r.Short(outside))
            : PlaceSketches.BoltCircle(r, d, n, start * Math.PI / 180, hole, outside, bore);
        return r.OfLength("land", "Least width beside a hole", land).Figure("area", "Area", area, "m²", r.Area(area))
            .Step($"land = the smaller of (Do − D − h)/2 and (D − h − Di)/2 = {r.Short(land)}").Step($"A = π/4 · (Do² − Di² − n · h²) = {r.Area(area)}")
            .Warn(land < 0.75 * hole && n > 0, "Little is left beside the holes: it may tear when it is cut.")
            .Draw(sketch).Template(sketch)
            .Done("Geometry", "Old gaskets may hold asbestos: test before you scrape one off.", "Check the template on the flange before you cut the sheet.");
    }

    private static BenchAnswer Match(Asked asked)
    {
        const string How = "Type two to sixty places with a semicolon between them, such as 0; 100; 100; 0 mm.";
        List<IReadOnlyList<double>> all = [.. new[] { "x1", "y1", "x2", "y2" }.Select(f => asked.List(f, Quantity.Length, 2, 60, How, signed: true))];
        var hole = asked.Length("hole");
        var bolt = asked.Length("bolt");
        if (asked.Good && all.Find(l => l.Count != all[0].Count) is { } odd)
        {
            asked.No(new[] { "x1", "y1", "x2", "y2" }[all.IndexOf(odd)], $"There are {all[0].Count} holes in the first row of numbers and {odd.Count} here.");
        }

        if (asked.Good && bolt >= hole)
        {
            asked.No("bolt", "The bolts must be smaller than the holes.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        // Least squares: the middles come together, then the turn that leaves the smallest sum of squares.
        var n = all[0].Count;
        var (x1, y1, x2, y2) = (all[0].Average(), all[1].Average(), all[2].Average(), all[3].Average());
        var (dot, cross) = (0.0, 0.0);
        for (var i = 0; i < n; i++)
        {
            var (ax, ay, bx, by) = (all[0][i] - x1, all[1][i] - y1, all[2][i] - x2, all[3][i] - y2);
            dot += (bx * ax) + (by * ay);
            cross += (bx * ay) - (by * ax);
        }

        var turn = Math.Atan2(cross, dot);
        var (c, s) = (Math.Cos(turn), Math.Sin(turn));
        List<(double X, double Y)> moved = [.. Enumerable.Range(0, n).Select(i => (x1 + (c * (all[2][i] - x2)) - (s * (all[3][i] - y2)), y1 + (s * (all[2][i] - x2)) + (c * (all[3][i] - y2))))];
        List<double> rest = [.. moved.Select((p, i) => Math.Sqrt(Math.Pow(p.X - all[0][i], 2) + Math.Pow(p.Y - all[1][i], 2)))];
        var allowed = (hole - bolt) / 2;
        var r = new Reckoning(asked.Imperial ?? false);
        r.OfLength("worst", "Worst hole is out by", rest.Max()).OfLength("allowed", "May be out by", allowed).OfLength("right", "Shift to the right", x1 - x2).OfLength("up", "Shift up", y1 - y2).OfAngle("turn", "Turn, against the clock", turn);
        for (var i = 0; i < n; i++)
        {
            r.OfLength($"out{i + 1}", $"Hole {i + 1} out by", rest[i]);
        }

        var times = Plain.Times(Math.Max(all[0].Max() - all[0].Min(), all[1].Max() - all[1].Min()), rest.Max());
        var sketch = new Sketch("The first pattern, and the second laid on it: an arrow from hole to hole.").Not(Plain.Larger(times));
        for (var i = 0; i < n; i++)
        {
            sketch.Circle(SketchStroke.Edge, all[0][i], all[1][i], hole / 2).Line(rest[i] > allowed * (1 + 1e-9) ? SketchStroke.Bad : SketchStroke.Thin, (all[0][i], all[1][i]), (all[0][i] + ((moved[i].X - all[0][i]) * times), all[1][i] + ((moved[i].Y - all[1][i]) * times))).Note(all[0][i], all[1][i] + (hole / 2), (i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture), NoteSide.Above);
        }

        return r.Step("The middles of both patterns are brought together; turn = atan2(Σ(b × a), Σ(b · a)), the least sum of squares.").Step($"each hole may be out by (hole − bolt)/2 = {r.Short(allowed)}")
            .Warn(rest.Max() > allowed * (1 + 1e-9), $"{rest.Count(e => e > allowed * (1 + 1e-9))} of {n} bolts do not pass.")
            .Draw(sketch).Done("Least squares of a shift and a turn", Care);
    }
}
