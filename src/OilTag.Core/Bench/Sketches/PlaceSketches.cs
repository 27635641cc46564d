namespace OilTag.Core.Bench.Sketches;

/// <summary>Lifting, rigging, plates with holes, layouts: things seen from above, from the front or from the side.</summary>
internal static class PlaceSketches
{
    /// <summary>Masses along a datum and where they balance.</summary>
    public static Sketch Centre(Reckoning r, IReadOnlyList<double> masses, IReadOnlyList<double> places, double at)
    {
        var (low, high) = (Math.Min(0, places.Min()), Math.Max(0, places.Max()));
        var span = Math.Max(high - low, 1e-6);
        var most = masses.Max(Math.Abs);
        var s = new Sketch("Masses along their datum, each block as large as its mass, and where they balance.").Line(SketchStroke.Edge, (low, 0), (high + (0.02 * span), 0)).Line(SketchStroke.Thin, (0, -0.03 * span), (0, 0.03 * span)).Note(0, -0.03 * span, "datum", NoteSide.Below);
        for (var i = 0; i < masses.Count; i++)
        {
            var side = 0.14 * span * Math.Sqrt(Math.Abs(masses[i]) / most);
            s.Block(masses[i] < 0 ? SketchStroke.Hidden : SketchStroke.Metal, places[i] - (side / 2), 0, side, side).Note(places[i], side + (i % 2 * 0.05 * span), r.Mass(masses[i]).Split(',')[0], NoteSide.Above);
        }

        return s.Shape(SketchStroke.Bad, (at, 0), (at - (0.03 * span), -0.06 * span), (at + (0.03 * span), -0.06 * span)).Across(0, at, -0.06 * span, 1, r.Short(at));
    }

    /// <summary>Supports and centre of gravity from above, with what each bears.</summary>
    public static Sketch Supports(Reckoning r, IReadOnlyList<double> x, IReadOnlyList<double> y, double gx, double gy, IReadOnlyList<string> bears)
    {
        var size = Math.Max(Math.Max(x.Max() - x.Min(), y.Max() - y.Min()), 1e-6);
        var s = new Sketch("The supports from above with what each bears, and the centre of gravity between them.");
        var hull = Hull([.. x.Zip(y)]);
        if (hull.Count > 2)
        {
            s.Shape(SketchStroke.Soft, [.. hull]);
        }
        else
        {
            s.Line(SketchStroke.Thin, [.. hull]);
        }

        for (var i = 0; i < x.Count; i++)
        {
            s.Block(SketchStroke.Metal, x[i] - (0.03 * size), y[i] - (0.03 * size), 0.06 * size, 0.06 * size).Note(x[i], y[i] + ((y[i] >= gy ? 1 : -1) * 0.04 * size), $"{i + 1}: {bears[i]}", y[i] >= gy ? NoteSide.Above : NoteSide.Below);
        }

        return s.Circle(SketchStroke.Bad, gx, gy, 0.025 * size).Line(SketchStroke.Centre, (gx - (0.07 * size), gy), (gx + (0.07 * size), gy)).Line(SketchStroke.Centre, (gx, gy - (0.07 * size)), (gx, gy + (0.07 * size))).Across(x.Min(), gx, Math.Min(y.Min(), gy) - (0.12 * size), 1, r.Short(gx - x.Min()));
    }

    /// <summary>Two sling legs on a hook.</summary>
    public static Sketch Sling(double a, double b, string first, string second, string load)
    {
        var (ra, rb) = (a * Math.PI / 180, b * Math.PI / 180);
        var (xa, xb) = (a < 90 ? 1 / Math.Tan(ra) : 0.02, b < 90 ? 1 / Math.Tan(rb) : 0.02);
        return new Sketch("Two legs from the hook to the load, at their angles.").Line(SketchStroke.Edge, (0, 0), (-xa, -1)).Line(SketchStroke.Edge, (0, 0), (xb, -1)).Circle(SketchStroke.Metal, 0, 0.03, 0.03).Block(SketchStroke.Metal, -xa - 0.1, -1.25, xa + xb + 0.2, 0.25)
            .Note(-xa / 2, -0.5, first, NoteSide.Left).Note(xb / 2, -0.5, second).Note((xb - xa) / 2, -1.125, load, NoteSide.On).Note(-xa + 0.12, -0.98, $"{Reckoning.N(a)}°").Note(xb - 0.12, -0.98, $"{Reckoning.N(b)}°", NoteSide.Left);
    }

    /// <summary>A crib from its side.</summary>
    public static Sketch Crib(Reckoning r, double width, double height, double floor)
    {
        var across = floor > 0 ? floor : 6 * width;
        var layers = Math.Clamp((int)Math.Round((height > 0 ? height : 6 * width) / width), 2, 30);
        var s = new Sketch("The crib from its side, layer on layer.");
        for (var i = 0; i < layers; i++)
        {
            if (i % 2 == 0)
            {
                s.Block(SketchStroke.Metal, 0, i * width, across, width);
            }
            else
            {
                s.Block(SketchStroke.Soft, 0.1 * across, i * width, width, width).Block(SketchStroke.Soft, (0.9 * across) - width, i * width, width, width);
            }
        }

        s.Line(SketchStroke.Edge, (-0.2 * across, 0), (1.2 * across, 0)).Up(0, layers * width, across, 1, r.Short(height > 0 ? height : layers * width)).Line(SketchStroke.Arrow, (across / 2, (layers * width) + (0.2 * across)), (across / 2, layers * width));
        return s.Across(0, across, 0, 1, floor > 0 ? r.Short(floor) : "base").Across(0.1 * across, (0.1 * across) + width, width, 2, r.Short(width));
    }

    /// <summary>Wings from the front, with their dihedral.</summary>
    public static Sketch Dihedral(Reckoning r, double length, double rise, double angle)
    {
        var body = 0.14 * length;
        var s = new Sketch("Two pairs of wings from the front, rising from the root.").Circle(SketchStroke.Metal, 0, -0.02 * length, body);
        var gap = 0.34 * length;
        foreach (var side in new[] { 1, -1 })
        {
            s.Line(SketchStroke.Edge, (side * body, 0), (side * (body + length), rise)).Line(SketchStroke.Edge, (side * body, gap), (side * (body + length), gap + rise))
                .Line(SketchStroke.Thin, (side * (body + (0.75 * length)), 0.75 * rise), (side * (body + (0.75 * length)), gap + (0.75 * rise)));
        }

        return s.Line(SketchStroke.Edge, (-body, gap), (body, gap)).Line(SketchStroke.Hidden, (body, 0), (body + length, 0)).Up(0, rise, body + length, 1, r.Short(rise)).Across(body, body + length, -body, 1, r.Short(length)).Note(body + (0.45 * length), 0, $"{Reckoning.N(angle)}°", NoteSide.Below);
    }

    /// <summary>The boards at root and tip.</summary>
    public static Sketch Boards(Reckoning r, double board, double root, double tip)
    {
        var s = new Sketch("The level board at the root above and at the tip below, with their packing.");
        foreach (var (y, packing, words) in new[] { (0.0, root, "root"), (-0.45 * board, tip, "tip") })
        {
            s.Line(SketchStroke.Hidden, (0, y), (board, y)).Shape(SketchStroke.Soft, (0, y), (board, y), (board, y + packing)).Note(0, y, words, NoteSide.Left).Up(y, y + packing, board, 1, r.Short(Math.Abs(packing)));
        }

        return s.Across(0, board, -0.45 * board, 1, r.Short(board));
    }

    /// <summary>A wedge between a level board and the wing: as template.</summary>
    public static Sketch Wedge(Reckoning r, double board, double packing) =>
        new Sketch("The wedge from its side: its foot lies on the wing’s chord, its top is level.").Shape(SketchStroke.Edge, (0, 0), (board, 0), (board, packing)).Across(0, board, 0, 1, r.Short(board)).Up(0, packing, board, 1, r.Short(packing));

    /// <summary>Diagonals from the wings to the tail, from above.</summary>
    public static Sketch Diagonals(Reckoning r, double half, double left, double right, double offset)
    {
        // How far back the tail stands, from the triangle.
        var back = Math.Sqrt(Math.Max(0, (right * right) - Math.Pow(half - offset, 2)));
        var times = Plain.Times(half, Math.Abs(offset));
        return new Sketch("From above, nose up: the points on the wings, the tail, and the two diagonals.").Line(SketchStroke.Edge, (-half, 0), (half, 0)).Line(SketchStroke.Centre, (0, 0.1 * half), (0, -back * 1.08)).Line(SketchStroke.Thin, (-half, 0), (offset * times, -back)).Line(SketchStroke.Thin, (half, 0), (offset * times, -back)).Circle(SketchStroke.Bad, offset * times, -back, 0.03 * half)
            .Note(-half / 2, -back / 2, r.Short(left), NoteSide.Left).Note(half / 2, -back / 2, r.Short(right)).Across(-half, 0, 0.1 * half, -1, r.Short(half)).Note(offset * times, -back * 1.08, $"{r.Short(Math.Abs(offset))} to the {(offset >= 0 ? "right" : "left")}", NoteSide.Below).Not(Plain.Larger(times));
    }

    /// <summary>Readings along a frame about their mean line.</summary>
    public static Sketch Straight(Reckoning r, IReadOnlyList<double> off, double step, double band)
    {
        var length = (off.Count - 1) * step;
        var times = Plain.Times(length, off.Max(Math.Abs));
        (double X, double Y)[] points = [.. off.Select((o, i) => (i * step, o * times))];
        var s = new Sketch("Each reading along the frame, above or below the mean line.").Line(SketchStroke.Centre, (0, 0), (length, 0)).Line(SketchStroke.Edge, points);
        foreach (var (x, y) in points)
        {
            s.Line(SketchStroke.Thin, (x, 0), (x, y)).Circle(SketchStroke.Metal, x, y, length / 120);
        }

        return s.Across(0, length, off.Min() * times, 1, r.Short(length)).Note(0, off.Max() * times, $"band {r.Short(band)}", NoteSide.Above).Not(Plain.Larger(times));
    }

    /// <summary>A hanging wire.</summary>
    public static Sketch Sag(Reckoning r, double length, double sag)
    {
        var times = Plain.Times(length, sag);
        (double X, double Y)[] points = [.. Enumerable.Range(0, 41).Select(i => (length * i / 40, -4 * sag * times * (i / 40.0) * (1 - (i / 40.0))))];
        return new Sketch("The wire between its ends, and how far it hangs in the middle.").Line(SketchStroke.Centre, (0, 0), (length, 0)).Line(SketchStroke.Edge, points).Up(-sag * times, 0, length, 1, r.Short(sag)).Line(SketchStroke.Thin, (length / 2, -sag * times), (length, -sag * times)).Across(0, length, -sag * times, 1, r.Short(length)).Not(Plain.Larger(times));
    }

    /// <summary>Holes on a circle. With no sizes but the crosses it is a template.</summary>
    public static Sketch BoltCircle(Reckoning r, double d, int n, double start, double hole, double outside, double bore)
    {
        var s = new Sketch($"{n} holes on their circle.").Circle(SketchStroke.Centre, 0, 0, d / 2);
        var mark = hole > 0 ? 0.75 * hole : d / 40;
        if (outside > 0)
        {
            s.Circle(SketchStroke.Edge, 0, 0, outside / 2);
        }

        if (bore > 0)
        {
            s.Circle(SketchStroke.Edge, 0, 0, bore / 2);
        }

        s.Line(SketchStroke.Thin, (-mark, 0), (mark, 0)).Line(SketchStroke.Thin, (0, -mark), (0, mark));
        for (var i = 0; i < n; i++)
        {
            var a = start + (2 * Math.PI * i / n);
            var (x, y) = (d / 2 * Math.Cos(a), d / 2 * Math.Sin(a));
            s.Line(SketchStroke.Thin, (x - mark, y), (x + mark, y)).Line(SketchStroke.Thin, (x, y - mark), (x, y + mark));
            if (hole > 0)
            {
                s.Circle(SketchStroke.Edge, x, y, hole / 2);
            }

            if (n <= 24)
            {
                s.Note(x * 1.03, y * 1.03, (i + 1).ToString(System.Globalization.CultureInfo.InvariantCulture), x >= 0 ? NoteSide.Right : NoteSide.Left);
            }
        }

        var most = Math.Max(d, outside) / 2;
        s.Across(-d / 2, d / 2, -most, 1, r.Short(d));
        return outside > 0 ? s.Across(-outside / 2, outside / 2, -most, 2, r.Short(outside)) : s;
    }

    /// <summary>Holes on the rolled plate and on the flat one.</summary>
    public static Sketch Develop(Reckoning r, double radius, double t, double phi, double neutral)
    {
        var spread = Math.Clamp(Math.Abs(phi) * 1.25, 0.2, Math.PI);
        var mid = Math.PI / 2;
        var s = new Sketch("The rolled plate from its end with the hole, and under it the flat plate with the same hole.")
            .Shape(SketchStroke.Metal, [.. Sketch.ArcPoints(0, 0, radius, mid + spread, mid - spread), .. Sketch.ArcPoints(0, 0, radius + t, mid - spread, mid + spread)])
            .Line(SketchStroke.Centre, (0, radius * 0.6), (0, radius + (3 * t))).Line(SketchStroke.Bad, ((radius - t) * Math.Sin(phi), (radius - t) * Math.Cos(phi)), ((radius + (2 * t)) * Math.Sin(phi), (radius + (2 * t)) * Math.Cos(phi)));
        var y = Math.Min((radius * Math.Cos(spread)) - (0.2 * radius), 0.5 * radius);
        return s.Block(SketchStroke.Metal, -neutral * spread, y - t, 2 * neutral * spread, t).Line(SketchStroke.Centre, (0, y - (2 * t)), (0, y + t)).Line(SketchStroke.Bad, (neutral * phi, y - (1.6 * t)), (neutral * phi, y + (0.6 * t)))
            .Across(0, neutral * phi, y - (1.6 * t), 1, r.Short(Math.Abs(neutral * phi))).Note(0, radius * 0.6, Reckoning.Degrees(phi), NoteSide.Below);
    }

    /// <summary>The flat pattern of holes: a template.</summary>
    public static Sketch FlatHoles(Reckoning r, IReadOnlyList<(double X, double Y)> holes, double hole)
    {
        var (left, right, low, high) = (Math.Min(0, holes.Min(h => h.X)), Math.Max(0, holes.Max(h => h.X)), Math.Min(0, holes.Min(h => h.Y)), Math.Max(0, holes.Max(h => h.Y)));
        var mark = hole > 0 ? 0.75 * hole : Math.Clamp((right - left) / 40, 0.003, 0.02);
        var s = new Sketch("The holes on the flat plate, from the datum lines.").Line(SketchStroke.Centre, (0, low - (2 * mark)), (0, high + (2 * mark))).Line(SketchStroke.Centre, (left - (2 * mark), 0), (right + (2 * mark), 0));
        var i = 0;
        foreach (var (x, y) in holes)
        {
            i++;
            s.Line(SketchStroke.Thin, (x - mark, y), (x + mark, y)).Line(SketchStroke.Thin, (x, y - mark), (x, y + mark)).Note(x + (0.6 * mark), y + (0.6 * mark), i.ToString(System.Globalization.CultureInfo.InvariantCulture));
            if (hole > 0)
            {
                s.Circle(SketchStroke.Edge, x, y, hole / 2);
            }
        }

        return s.Across(left, right, low - (2 * mark), 1, r.Short(right - left));
    }

    /// <summary>Stays on their pitch.</summary>
    public static Sketch Stays(Reckoning r, double across, double up, double diameter, double hole)
    {
        var s = new Sketch("Nine stays on their pitch; the middle one holds the shaded area.").Block(SketchStroke.Soft, -across / 2, -up / 2, across, up);
        for (var i = -1; i <= 1; i++)
        {
            for (var j = -1; j <= 1; j++)
            {
                s.Circle(SketchStroke.Metal, i * across, j * up, diameter / 2);
                if (hole > 0)
                {
                    s.Circle(SketchStroke.Soft, i * across, j * up, hole / 2);
                }
            }
        }

        return s.Across(0, across, -up - (diameter / 2), 1, r.Short(across)).Up(0, up, across + (diameter / 2), 1, r.Short(up)).Note(0, up + (diameter / 2), r.Short(diameter), NoteSide.Above);
    }

    /// <summary>A brace at its angle.</summary>
    public static Sketch Brace(double angle, string force, string pull)
    {
        var a = angle * Math.PI / 180;
        return new Sketch("A brace that holds a plate at an angle.").Block(SketchStroke.Metal, -0.05, -0.3, 0.05, 1).Line(SketchStroke.Edge, (0, 0.2), (1.1 * Math.Cos(a), 0.2 - (1.1 * Math.Sin(a)))).Line(SketchStroke.Hidden, (0, 0.2), (1.1, 0.2)).Line(SketchStroke.Arrow, (0, 0.2), (-0.4, 0.2))
            .Note(-0.4, 0.2, pull, NoteSide.Above).Note(0.55 * Math.Cos(a), 0.2 - (0.55 * Math.Sin(a)), force, NoteSide.Below).Note(0.5, 0.2, $"{Reckoning.N(angle)}°", NoteSide.Above);
    }

    /// <summary>A row of holes with the plate between them.</summary>
    public static Sketch Ligament(Reckoning r, double pitch, double hole)
    {
        var s = new Sketch("Four holes in their row; what is left between them carries.").Block(SketchStroke.Metal, -pitch / 2, -pitch / 2, 4 * pitch, pitch);
        for (var i = 0; i < 4; i++)
        {
            s.Circle(SketchStroke.Soft, i * pitch, 0, hole / 2);
        }

        return s.Across(0, pitch, -pitch / 2, 1, r.Short(pitch)).Across((2 * pitch) + (hole / 2), (3 * pitch) - (hole / 2), pitch / 2, -1, $"left {r.Short(pitch - hole)}");
    }

    /// <summary>A casting and its pattern, one over the other.</summary>
    public static Sketch Pattern(Reckoning r, double size, double pattern)
    {
        var times = Plain.Times(size, (pattern - size) / 2);
        var large = size + ((pattern - size) * times);
        return new Sketch("The casting in its pattern.").Block(SketchStroke.Soft, -large / 2, -large / 4, large, large / 2).Block(SketchStroke.Metal, -size / 2, -size / 4, size, size / 2).Across(-size / 2, size / 2, -large / 4, 1, $"casting {r.Short(size)}").Across(-large / 2, large / 2, large / 4, -1, $"pattern {r.Short(pattern)}").Not(Plain.Larger(times));
    }

    /// <summary>Metal standing over a joint.</summary>
    public static Sketch Cope(Reckoning r, double area, double height)
    {
        var side = Math.Sqrt(area);
        return new Sketch("The mould in section: the metal stands in the pouring cup above the joint and lifts the cope.").Block(SketchStroke.Soft, -0.9 * side, -0.6 * side, 1.8 * side, 0.6 * side).Block(SketchStroke.Soft, -0.9 * side, 0, 1.8 * side, height)
            .Block(SketchStroke.Metal, -side / 2, -0.3 * side, side, 0.3 * side).Block(SketchStroke.Metal, 0.62 * side, -0.1 * side, 0.1 * side, height + (0.1 * side)).Block(SketchStroke.Metal, side / 2, -0.1 * side, 0.2 * side, 0.08 * side)
            .Line(SketchStroke.Arrow, (0, 0), (0, 0.5 * height)).Up(0, height, 0.9 * side, 1, r.Short(height)).Note(0, 0.5 * height, "lift").Line(SketchStroke.Edge, (-0.9 * side, 0), (0.9 * side, 0));
    }

    /// <summary>What is cut from each bar.</summary>
    public static Sketch Bars(Reckoning r, IReadOnlyList<(int Count, IReadOnlyList<double> Lengths)> bars, double bar, double kerf)
    {
        var high = bar / 28;
        var s = new Sketch("Each way of cutting a bar, with the pieces that come from it.");
        for (var i = 0; i < bars.Count; i++)
        {
            var (y, x) = (-i * 2.6 * high, 0.0);
            s.Block(SketchStroke.Hidden, 0, y, bar, high);
            foreach (var length in bars[i].Lengths)
            {
                s.Block(SketchStroke.Metal, x, y, length, high);
                x += length + kerf;
            }

            s.Note(0, y + (0.5 * high), $"{bars[i].Count} ×", NoteSide.Left);
        }

        return s.Across(0, bar, -(bars.Count - 1) * 2.6 * high, 1, r.Short(bar));
    }

    /// <summary>Blanks on the first sheet.</summary>
    public static Sketch Sheets(Reckoning r, IReadOnlyList<(string Name, double X, double Y, double Width, double Height)> placed, double width, double height)
    {
        var s = new Sketch("The blanks on the first sheet.").Block(SketchStroke.Soft, 0, 0, width, height);
        foreach (var (name, x, y, w, h) in placed)
        {
            s.Block(SketchStroke.Metal, x, y, w, h).Note(x + (w / 2), y + (h / 2), name, NoteSide.On);
        }

        return s.Across(0, width, 0, 1, r.Short(width)).Up(0, height, width, 1, r.Short(height));
    }

    /// <summary>A part between the centres of a lathe.</summary>
    public static Sketch Lathe(Reckoning r, double diameter, double length, double swing, double saddle, double between)
    {
        var bad = diameter > swing || length > between;
        return new Sketch("The part between centres over bed and saddle.").Line(SketchStroke.Edge, (0, -swing / 2), (between, -swing / 2)).Line(SketchStroke.Hidden, (0.3 * between, -saddle / 2), (0.6 * between, -saddle / 2)).Line(SketchStroke.Edge, (0, -swing / 2), (0, swing / 2)).Line(SketchStroke.Edge, (between, -swing / 2), (between, swing / 4))
            .Block(bad ? SketchStroke.Bad : SketchStroke.Metal, 0, -diameter / 2, length, diameter).Line(SketchStroke.Centre, (-0.03 * between, 0), (Math.Max(between, length) * 1.03, 0))
            .Up(-diameter / 2, diameter / 2, Math.Max(between, length), 1, r.Short(diameter)).Across(0, length, -swing / 2, 1, r.Short(length)).Across(0, between, -swing / 2, 2, $"between centres {r.Short(between)}").Up(-swing / 2, swing / 2, 0, -1, $"swing {r.Short(swing)}");
    }

    // The outline of points, against the clock.
    private static List<(double X, double Y)> Hull(List<(double X, double Y)> points)
    {
        var all = points.Distinct().OrderBy(p => p.X).ThenBy(p => p.Y).ToList();
        if (all.Count < 3)
        {
            return all;
        }

        static List<(double X, double Y)> Half(IEnumerable<(double X, double Y)> along)
        {
            List<(double X, double Y)> half = [];
            foreach (var p in along)
            {
                while (half.Count > 1 && ((half[^1].X - half[^2].X) * (p.Y - half[^2].Y)) - ((half[^1].Y - half[^2].Y) * (p.X - half[^2].X)) <= 0)
                {
                    half.RemoveAt(half.Count - 1);
                }

                half.Add(p);
            }

            half.RemoveAt(half.Count - 1);
            return half;
        }

        return [.. Half(all), .. Half(Enumerable.Reverse(all))];
    }
}
