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
        new("develop", BenchTopic.HolePatterns, "Hole on a rolled plate", "Where a hole of the rolled plate lies on the flat one.", [new BenchField("radius", "Which radius?", Hint: "Of the side that is measured: 24.5 in."), new BenchField("side", "Which side is measured?", "outside", Choices: Sides), new BenchField("thickness", "How thick is the plate?", Hint: "0.5 in."), new BenchField("way", "How is it measured?", "tape", Choices: Ways), new BenchField("distance", "Which distance?", Hint: "From the datum line: 10.000 in.")], Develop),
        new("bolt-circle", BenchTopic.HolePatterns, "Bolt circle", "Where the holes lie, and how far apart.", [new BenchField("diameter", "Which circle?", Hint: "200 mm, centre to centre."), new BenchField("holes", "How many holes?", Hint: "8"), new BenchField("start", "At which angle is the first?", "0", "From the right, against the clock.")], Circle),
        new("chain", BenchTopic.HolePatterns, "Tolerance of a row of holes", "What small errors come to from hole to hole, and from one datum.", [new BenchField("pitches", "How many pitches?", Hint: "24"), new BenchField("each", "How much is each out?", Hint: "0.005 in.")], Chain),
    ];

    private static BenchAnswer Develop(Asked asked)
    {
        var radius = asked.Length("radius");
        var side = asked.Choice("side", Sides);
        var t = asked.Length("thickness");
        var way = asked.Choice("way", Ways);
        var distance = asked.Offset("distance");
        if (asked.Good && side == "outside" && t >= radius)
        {
            asked.No("thickness", "The plate is thicker than its radius.");
        }

        if (asked.Good && ((way == "chord" && Math.Abs(distance) > 2 * radius) || (way == "offset" && Math.Abs(distance) > radius)))
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
        var phi = way switch { "chord" => 2 * Math.Asin(distance / (2 * radius)), "offset" => Math.Asin(distance / radius), _ => distance / radius };
        return r.OfLength("flat", "On the flat plate", neutral * phi).OfAngle("angle", "Angle", phi).OfLength("neutral", "Radius of the neutral line", neutral).OfLength("turn", "A full turn", 2 * Math.PI * neutral)
            .Step($"Rn = Ri + K · t = {r.Short(inside)} + {Reckoning.N(k)} · {r.Short(t)} = {r.Short(neutral)}")
            .Step(way switch { "chord" => $"φ = 2 · asin(c/(2 R)) = {Reckoning.Degrees(phi)}", "offset" => $"φ = asin(x/R) = {Reckoning.Degrees(phi)}", _ => $"φ = s/R = {Reckoning.Degrees(phi)}" })
            .Step($"s = Rn · φ = {r.Short(neutral * phi)}; along the axis nothing changes")
            .Done("Geometry of a cylinder; K common practice", [.. Care, "For cones and double curvature use a template: this unrolls cylinders only."]);
    }

    private static BenchAnswer Circle(Asked asked)
    {
        var d = asked.Length("diameter");
        var holes = asked.Value("holes", 2, 72, "Type a whole number of holes from 2 to 72.");
        var start = asked.Value("start", -360, 360, "Type an angle from -360 to 360 degrees.");
        if (asked.Good && holes != Math.Floor(holes))
        {
            asked.No("holes", "Type a whole number of holes from 2 to 72.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var n = (int)holes;
        r.OfLength("neighbour", "To the next hole", d * Math.Sin(Math.PI / n)).OfLength("second", "To the next but one", d * Math.Sin(2 * Math.PI / n));
        for (var i = 0; i < n; i++)
        {
            var a = (start * Math.PI / 180) + (2 * Math.PI * i / n);
            var (x, y) = (d / 2 * Math.Cos(a), d / 2 * Math.Sin(a));
            r.Figure($"x{i + 1}", $"Hole {i + 1}, right", x, "m", r.Length(x)).Figure($"y{i + 1}", $"Hole {i + 1}, up", y, "m", r.Length(y));
        }

        return r.Step("x = R cos(a + 360 i/n), y = R sin(a + 360 i/n)").Step($"to the next: D · sin(180/n) = {r.Short(d * Math.Sin(Math.PI / n))}").Done("Geometry", Care);
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
            .Step($"n · τ = {Reckoning.N(pitches)} · {r.Short(each)}; √n · τ; τ").Step("Measure from one datum, never hole to hole.").Done("Sum of errors; square root of the sum of squares", Care);
    }
}
