namespace OilTag.Core.Bench.Sketches;

/// <summary>Bolts, tapped holes and rivets in section.</summary>
internal static class FastenerSketches
{
    // Teeth of a thread, from the crest inwards, along one side.
    private static (double X, double Y)[] Teeth(double x, double from, double to, double pitch, double depth)
    {
        var n = Math.Clamp((int)Math.Round(Math.Abs(to - from) / pitch), 2, 60);
        return [.. Enumerable.Range(0, (2 * n) + 1).Select(i => (x + (i % 2 == 1 ? depth : 0), from + ((to - from) * i / (2 * n))))];
    }

    /// <summary>A bolt with its head, thread and pull.</summary>
    public static Sketch Bolt(Reckoning r, ScrewThread thread, double length, string pull, string words)
    {
        var (d, p) = (thread.Diameter, thread.Pitch);
        var depth = 0.6134 * p;
        var s = new Sketch(words).Shape(SketchStroke.Metal, (-0.8 * d, length), (0.8 * d, length), (0.8 * d, length + (0.65 * d)), (-0.8 * d, length + (0.65 * d)));
        var left = Teeth(-d / 2, 1.5 * d, 0, p, depth);
        var right = Teeth(d / 2, 0, 1.5 * d, p, -depth);
        s.Shape(SketchStroke.Metal, [(-d / 2, length), .. left, .. right, (d / 2, length)]);
        return s.Line(SketchStroke.Centre, (0, -0.3 * d), (0, length + (0.95 * d))).Line(SketchStroke.Arrow, (0, 0), (0, -0.9 * d)).Note(0, -0.9 * d, pull)
            .Across(-d / 2, d / 2, 0, 2, r.Short(d)).Up(0, length, 0.8 * d, 1, r.Short(length));
    }

    /// <summary>A tapped hole: the drill and the thread.</summary>
    public static Sketch Tapped(Reckoning r, ScrewThread thread, double drill)
    {
        var d = thread.Diameter;
        var depth = (d - drill) / 2;
        var deep = 1.5 * d;
        return new Sketch("A tapped hole in section: the drill, and the thread that is cut into its wall.")
            .Shape(SketchStroke.Metal, [(-1.2 * d, 0), .. Teeth(-drill / 2, 0, deep, thread.Pitch, -depth), (-1.2 * d, deep)])
            .Shape(SketchStroke.Metal, [(1.2 * d, 0), .. Teeth(drill / 2, 0, deep, thread.Pitch, depth), (1.2 * d, deep)])
            .Line(SketchStroke.Centre, (0, -0.2 * d), (0, deep + (0.2 * d)))
            .Across(-drill / 2, drill / 2, 0, 1, $"drill {r.Short(drill)}").Across(-d / 2, d / 2, deep, -1, r.Short(d));
    }

    /// <summary>A stud in its hole.</summary>
    public static Sketch Stud(Reckoning r, ScrewThread thread, double engagement)
    {
        var d = thread.Diameter;
        var below = engagement + (0.6 * d);
        return new Sketch("A stud in its hole, with the least depth of thread.")
            .Block(SketchStroke.Metal, -1.4 * d, -below, 2.8 * d, below).Block(SketchStroke.Soft, -d / 2, -engagement, d, engagement + (1.4 * d))
            .Line(SketchStroke.Thin, Teeth(-d / 2, -engagement, 0, thread.Pitch, 0.5 * thread.Pitch)).Line(SketchStroke.Thin, Teeth(d / 2, -engagement, 0, thread.Pitch, -0.5 * thread.Pitch))
            .Line(SketchStroke.Centre, (0, -below - (0.1 * d)), (0, 1.6 * d))
            .Up(-engagement, 0, 1.4 * d, 1, r.Short(engagement)).Across(-d / 2, d / 2, 1.4 * d, -1, r.Short(d));
    }

    /// <summary>A bolt at rest and pulled.</summary>
    public static Sketch Stretched(Reckoning r, ScrewThread thread, double length, double stretch)
    {
        var d = thread.Diameter;
        var times = Plain.Times(length, stretch);
        var s = new Sketch("The same bolt at rest and pulled, one beside the other.");
        foreach (var (x, more, words) in new[] { (0.0, 0.0, "at rest"), (3 * d, stretch * times, "pulled") })
        {
            s.Block(SketchStroke.Metal, x - (d / 2), -more, d, length + more).Block(SketchStroke.Metal, x - (0.8 * d), length, 1.6 * d, 0.65 * d).Note(x, length + (0.65 * d), words, NoteSide.Above);
        }

        return s.Line(SketchStroke.Thin, (-0.8 * d, 0), (4.2 * d, 0)).Up(-stretch * times, 0, 3.8 * d, 1, r.Short(stretch)).Up(0, length, -0.8 * d, -1, r.Short(length)).Not(Plain.Larger(times));
    }

    /// <summary>A driven rivet in its sheets.</summary>
    public static Sketch Rivet(Reckoning r, IReadOnlyList<double> stack, double d, double hole, double length, double edge, bool countersunk)
    {
        var grip = stack.Sum();
        var s = new Sketch("A rivet in its sheets: the head as bought above, the shank before it is driven below, and the driven head.");
        var (left, right, y) = (-edge, edge, 0.0);
        var tones = new[] { SketchStroke.Metal, SketchStroke.Soft };
        for (var i = 0; i < stack.Count; i++)
        {
            // The first sheet lies under the head.
            y -= stack[i];
            s.Block(tones[i % 2], left, y, edge - (hole / 2), stack[i]).Block(tones[i % 2], hole / 2, y, right - (hole / 2), stack[i]);
        }

        if (countersunk)
        {
            s.Shape(SketchStroke.Edge, (-0.9 * d, 0), (0.9 * d, 0), (d / 2, -Math.Min(0.42 * d, stack[0])), (-d / 2, -Math.Min(0.42 * d, stack[0])));
        }
        else
        {
            s.Shape(SketchStroke.Metal, [(-d, 0), .. Sketch.ArcPoints(0, -0.6 * d, 1.17 * d, Math.PI - 0.54, 0.54), (d, 0)]);
        }

        return s.Block(SketchStroke.Edge, -d / 2, -grip, d, grip)
            .Line(SketchStroke.Hidden, (-d / 2, -grip), (-d / 2, -length), (d / 2, -length), (d / 2, -grip))
            .Shape(SketchStroke.Metal, (-0.75 * d, -grip - (0.06 * d)), (-0.62 * d, -grip), (0.62 * d, -grip), (0.75 * d, -grip - (0.06 * d)), (0.75 * d, -grip - (0.44 * d)), (0.62 * d, -grip - (0.5 * d)), (-0.62 * d, -grip - (0.5 * d)), (-0.75 * d, -grip - (0.44 * d)))
            .Line(SketchStroke.Centre, (0, d), (0, -length - (0.2 * d)))
            .Up(-length, 0, right, 1, r.Short(length)).Up(-grip, 0, left, -1, r.Short(grip)).Across(0, right, -length, 1, $"edge {r.Short(edge)}").Across(-0.75 * d, 0.75 * d, -length, 2, $"driven head {r.Short(1.5 * d)}");
    }

    /// <summary>The first and last rivets of a seam, seen from above.</summary>
    public static Sketch Seam(Reckoning r, double length, double edge, double pitch, int each, int rows, double d)
    {
        var s = new Sketch($"The seam from above, {each} rivets in each of {rows} rows.");
        var gap = rows > 1 ? Math.Max(0.75 * pitch, 2.5 * d) : 0;
        var high = (2 * edge) + ((rows - 1) * gap);

        // A long seam is broken: both its ends to scale.
        var few = Math.Min(each, 9);
        var broken = few < each;
        var last = edge + ((few - 1) * pitch);
        var width = broken ? last + edge + pitch : length;
        s.Block(SketchStroke.Soft, 0, 0, width, high);
        for (var row = 0; row < rows; row++)
        {
            for (var i = 0; i < few; i++)
            {
                s.Circle(SketchStroke.Metal, broken && i >= 6 ? width - edge - ((few - 1 - i) * pitch) : edge + (i * pitch), edge + (row * gap), d / 2);
            }
        }

        if (broken)
        {
            var at = edge + (6.0 * pitch);
            s.Line(SketchStroke.Thin, (at, -edge), (at + (0.2 * edge), high / 2), (at - (0.2 * edge), high / 2), (at, high + edge)).Not("The middle of the seam is left out.");
        }

        s.Across(0, edge, 0, 1, r.Short(edge)).Up(0, edge, width, 1, r.Short(edge));
        return each > 1 ? s.Across(edge, edge + pitch, high, -1, r.Short(pitch)).Across(0, width, 0, 2, r.Short(length)) : s;
    }

    /// <summary>Rivets on both sides of damage.</summary>
    public static Sketch Splice(Reckoning r, double length, double d, int each)
    {
        var rows = Math.Min(4, each);
        var perRow = (int)Math.Ceiling(each / (double)rows);
        var (pitch, edge) = (4 * d, 2 * d);
        var wide = Math.Max(length, ((perRow - 1) * pitch) + (2 * edge));
        var deep = ((rows - 1) * 3 * d) + (2 * edge);
        var s = new Sketch($"The damage in the middle and {each} rivets on each side of it, set out at four diameters.")
            .Block(SketchStroke.Soft, -wide / 2, -deep, wide, 2 * deep).Line(SketchStroke.Bad, (-length / 2, 0), (length / 2, 0));
        for (var i = 0; i < each; i++)
        {
            var (row, at) = (i / perRow, i % perRow);
            var inRow = Math.Min(perRow, each - (row * perRow));
            var x = (at - ((inRow - 1) / 2.0)) * pitch;
            s.Circle(SketchStroke.Metal, x, edge + (row * 3 * d), d / 2).Circle(SketchStroke.Metal, x, -edge - (row * 3 * d), d / 2);
        }

        return s.Across(-length / 2, length / 2, -deep, 1, $"damage {r.Short(length)}").Note(0, deep, $"{each} each side", NoteSide.Above);
    }

    /// <summary>A hot rivet before it is driven.</summary>
    public static Sketch Hot(Reckoning r, double d, double hole, double grip, double length) =>
        new Sketch("A hot rivet in its hole, before it is driven, and the button head that is formed.")
            .Block(SketchStroke.Metal, -2 * d, -grip, (2 * d) - (hole / 2), grip).Block(SketchStroke.Metal, hole / 2, -grip, (2 * d) - (hole / 2), grip)
            .Block(SketchStroke.Soft, -d / 2, -length, d, length)
            .Shape(SketchStroke.Soft, [.. Sketch.ArcPoints(0, -0.135 * d, 0.885 * d, Math.PI - 0.153, 0.153)])
            .Line(SketchStroke.Hidden, Sketch.ArcPoints(0, -grip + (0.135 * d), 0.885 * d, Math.PI + 0.153, (2 * Math.PI) - 0.153))
            .Line(SketchStroke.Centre, (0, d), (0, -length - (0.2 * d)))
            .Up(-length, 0, 2 * d, 1, r.Short(length)).Up(-grip, 0, -2 * d, -1, r.Short(grip)).Across(-hole / 2, hole / 2, 0, -1, $"hole {r.Short(hole)}").Across(-0.875 * d, 0.875 * d, -length, 1, $"head {r.Short(1.75 * d)}");
}
