namespace OilTag.Core.Bench.Sketches;

/// <summary>Bends of sheet metal, their blanks, and formed panels.</summary>
internal static class SheetSketches
{
    /// <summary>The bent piece from its end. Legs to the mould line; with none, two legs of six thicknesses beyond the bend.</summary>
    public static Sketch Bend(Reckoning r, double t, double radius, double angle, double setback, IReadOnlyList<double> legs)
    {
        var all = legs.Count > 0 ? legs : [setback + (6 * t) + radius, setback + (6 * t) + radius];

        // Along the outside face: straight, round the bend by R + T, straight again. The inside runs T within it.
        List<(double X, double Y)> outside = [(0, 0)];
        List<(double X, double Y)> inside = [(0, t)];
        var (x, y, heading) = (0.0, 0.0, 0.0);
        var theta = angle * Math.PI / 180;
        List<(double X, double Y)> moulds = [];
        for (var i = 0; i < all.Count; i++)
        {
            var straight = all[i] - ((i == 0 ? 0 : setback) + (i == all.Count - 1 ? 0 : setback));
            (x, y) = (x + (straight * Math.Cos(heading)), y + (straight * Math.Sin(heading)));
            outside.Add((x, y));
            inside.Add((x - (t * Math.Sin(heading)), y + (t * Math.Cos(heading))));
            if (i == all.Count - 1)
            {
                break;
            }

            moulds.Add((x + (setback * Math.Cos(heading)), y + (setback * Math.Sin(heading))));
            var (cx, cy) = (x - ((radius + t) * Math.Sin(heading)), y + ((radius + t) * Math.Cos(heading)));
            var from = heading - (Math.PI / 2);
            outside.AddRange(Sketch.ArcPoints(cx, cy, radius + t, from, from + theta));
            inside.AddRange(Sketch.ArcPoints(cx, cy, radius, from, from + theta));
            heading += theta;
            (x, y) = outside[^1];
        }

        inside.Reverse();
        var s = new Sketch("The bent sheet from its end, with the mould lines to which the legs are measured.").Shape(SketchStroke.Metal, [.. outside, .. inside]);
        foreach (var (mx, my) in moulds)
        {
            s.Circle(SketchStroke.Thin, mx, my, t / 5);
        }

        s.Across(0, all[0], 0, 1, legs.Count > 0 ? r.Short(all[0]) : "leg");
        var bend = moulds[0];
        s.Across(bend.X - setback, bend.X, 0, 2, $"setback {r.Short(setback)}");
        if (legs.Count == 2 && angle == 90)
        {
            s.Up(0, legs[1], all[0], 1, r.Short(legs[1]));
        }

        return s.Note(bend.X - setback - ((radius + t) / 3), t + radius, $"R {r.Short(radius)}, {Reckoning.N(angle)}°", NoteSide.Left);
    }

    /// <summary>The flat blank with its bend lines. A template: one width of a hand, or as long as it is when that is less.</summary>
    public static Sketch Blank(Reckoning r, IReadOnlyList<double> flats, double allowance, double radius)
    {
        var flat = flats.Sum() + ((flats.Count - 1) * allowance);
        var high = Math.Min(0.1, flat);
        var s = new Sketch("The flat blank: thin lines where each bend begins and ends, a long dashed line where the brake’s nose stands.").Block(SketchStroke.Edge, 0, 0, flat, high);
        var x = 0.0;
        for (var i = 0; i < flats.Count - 1; i++)
        {
            x += flats[i];
            s.Line(SketchStroke.Thin, (x, 0), (x, high)).Line(SketchStroke.Thin, (x + allowance, 0), (x + allowance, high));

            // One radius from the line of the leg under the nose.
            if (radius > 0)
            {
                s.Line(SketchStroke.Centre, (x + Math.Min(radius, allowance), 0), (x + Math.Min(radius, allowance), high));
            }

            s.Across(x - flats[i], x, 0, 1, r.Short(flats[i])).Across(x, x + allowance, high, -1, r.Short(allowance));
            x += allowance;
        }

        return s.Across(x, x + flats[^1], 0, 1, r.Short(flats[^1])).Across(0, flat, 0, 2, r.Short(flat));
    }

    /// <summary>The bend in the tool and after it is let go.</summary>
    public static Sketch Springback(Reckoning r, double inner, double outer, double before, double after, double t)
    {
        var leg = 4 * Math.Max(inner, t);
        (double X, double Y)[] Shape(double radius, double angle)
        {
            var a = angle * Math.PI / 180;
            var end = Sketch.ArcPoints(0, radius, radius, -Math.PI / 2, (-Math.PI / 2) + a);
            var (ex, ey) = end[^1];
            return [(-leg, 0), .. end, (ex + (leg * Math.Cos(a)), ey + (leg * Math.Sin(a)))];
        }

        return new Sketch("The inside of the bend in the tool, full, and after it is let go, dashed.").Line(SketchStroke.Edge, Shape(inner, before)).Line(SketchStroke.Hidden, Shape(outer, after))
            .Note(-leg / 2, 0, $"tool R {r.Short(inner)}, {Reckoning.N(before)}°", NoteSide.Above).Note(0, inner * 2, $"free R {r.Short(outer)}, {Reckoning.N(after)}°", NoteSide.Left);
    }

    /// <summary>A flared hole in section.</summary>
    public static Sketch Flare(Reckoning r, double hole, double flared, double t)
    {
        var wide = flared * 0.8;
        var down = Math.Max((flared - hole) / 2, 2 * t);
        return new Sketch("A lightening hole in section, with its flare.")
            .Shape(SketchStroke.Metal, (-wide, 0), (-flared / 2, 0), (-hole / 2, -down), (-(hole / 2) + t, -down), (-(flared / 2) + t, t), (-wide, t))
            .Shape(SketchStroke.Metal, (wide, 0), (flared / 2, 0), (hole / 2, -down), ((hole / 2) - t, -down), ((flared / 2) - t, t), (wide, t))
            .Line(SketchStroke.Centre, (0, -down - t), (0, 3 * t)).Across(-hole / 2, hole / 2, -down, 1, r.Short(hole)).Across(-flared / 2, flared / 2, t, -1, r.Short(flared));
    }

    /// <summary>A window and its screw: how far it moves.</summary>
    public static Sketch PanelHole(Reckoning r, double screw, double hole, double move, double distance) =>
        new Sketch("The screw in the middle of its hole, and how far the panel moves to either side.")
            .Block(SketchStroke.Soft, -hole, -hole, 2 * hole, 2 * hole).Circle(SketchStroke.Edge, 0, 0, hole / 2).Circle(SketchStroke.Metal, 0, 0, screw / 2)
            .Circle(SketchStroke.Hidden, move, 0, screw / 2).Circle(SketchStroke.Hidden, -move, 0, screw / 2)
            .Across(-hole / 2, hole / 2, -hole, 1, $"hole {r.Short(hole)}").Across(-screw / 2, screw / 2, hole, -1, r.Short(screw)).Note(-hole, 0, $"fixed {r.Short(distance)} away", NoteSide.Left);

    /// <summary>A blown dome in section.</summary>
    public static Sketch Dome(Reckoning r, double a, double h, double t)
    {
        var sphere = ((a * a) + (h * h)) / (2 * h);
        var half = Math.Asin(Math.Min(1, a / sphere));
        half = h > sphere ? Math.PI - half : half;
        return new Sketch("The dome in section over its ring.").Shape(SketchStroke.Metal, [.. Sketch.ArcPoints(0, h - sphere, sphere, (Math.PI / 2) + half, (Math.PI / 2) - half), .. Sketch.ArcPoints(0, h - sphere, sphere - Math.Min(t, sphere / 2), (Math.PI / 2) - half, (Math.PI / 2) + half)])
            .Line(SketchStroke.Edge, (-1.2 * a, 0), (-a, 0)).Line(SketchStroke.Edge, (a, 0), (1.2 * a, 0)).Line(SketchStroke.Centre, (0, -0.1 * a), (0, 1.15 * h))
            .Across(0, a, 0, 1, r.Short(a)).Up(0, h, 1.2 * a, 1, r.Short(h)).Note(0, h * 1.15, $"on average {r.Short(t)}", NoteSide.Above);
    }

    /// <summary>A draped panel over its former, and its blank.</summary>
    public static Sketch Drape(Reckoning r, double radius, double t, double angle, double trim, double arc, double blank)
    {
        var half = angle * Math.PI / 360;
        var mid = (Math.PI / 2) + half;
        var s = new Sketch("The panel over its former, and under it the flat blank to the same scale.")
            .Line(SketchStroke.Thin, Sketch.ArcPoints(0, 0, radius, mid, Math.PI - mid)).Shape(SketchStroke.Metal, [.. Sketch.ArcPoints(0, 0, radius + t, mid, Math.PI - mid), .. Sketch.ArcPoints(0, 0, radius, Math.PI - mid, mid)]);
        var y = Math.Min(0, (radius + t) * Math.Cos(half)) - (0.25 * radius);
        return s.Block(SketchStroke.Soft, -blank / 2, y - Math.Max(t, radius / 60), blank, Math.Max(t, radius / 60)).Across(-blank / 2, blank / 2, y - Math.Max(t, radius / 60), 1, r.Short(blank))
            .Note(0, radius + t, $"arc {r.Short(arc)}, {Reckoning.N(angle)}°; trim {r.Short(trim)} each", NoteSide.Above).Note(0, 0, $"R {r.Short(radius)}", NoteSide.Above);
    }
}
