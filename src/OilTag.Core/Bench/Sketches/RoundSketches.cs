namespace OilTag.Core.Bench.Sketches;

/// <summary>Things turned and bored: bushes, bearings, fits, keys, shells, wheels.</summary>
internal static class RoundSketches
{
    /// <summary>A hollow bar from its end and from its side.</summary>
    public static Sketch Bush(Reckoning r, double outside, double bore, double length, string words)
    {
        var x = 0.75 * outside;
        var s = new Sketch(words).Circle(SketchStroke.Metal, 0, 0, outside / 2);
        if (bore > 0)
        {
            s.Circle(SketchStroke.Soft, 0, 0, bore / 2).Line(SketchStroke.Hidden, (x, bore / 2), (x + length, bore / 2)).Line(SketchStroke.Hidden, (x, -bore / 2), (x + length, -bore / 2)).Across(-bore / 2, bore / 2, outside / 2, -1, r.Short(bore));
        }

        return s.Block(SketchStroke.Edge, x, -outside / 2, length, outside).Line(SketchStroke.Centre, (-0.6 * outside, 0), (x + length + (0.1 * outside), 0)).Across(-outside / 2, outside / 2, -outside / 2, 1, r.Short(outside)).Across(x, x + length, -outside / 2, 1, r.Short(length));
    }

    /// <summary>A lined bearing, full or half.</summary>
    public static Sketch Bearing(Reckoning r, double shell, double mandrel, bool half)
    {
        var wall = 0.15 * shell;
        var s = new Sketch(half ? "Half a bearing in section: shell, lining, and where the mandrel stands." : "A bearing in section: shell, lining, and where the mandrel stands.");
        if (half)
        {
            s.Shape(SketchStroke.Metal, [.. Sketch.ArcPoints(0, 0, (shell / 2) + wall, Math.PI, 2 * Math.PI), .. Sketch.ArcPoints(0, 0, shell / 2, 2 * Math.PI, Math.PI)])
                .Shape(SketchStroke.Soft, [.. Sketch.ArcPoints(0, 0, shell / 2, Math.PI, 2 * Math.PI), .. Sketch.ArcPoints(0, 0, mandrel / 2, 2 * Math.PI, Math.PI)]);
        }
        else
        {
            s.Circle(SketchStroke.Metal, 0, 0, (shell / 2) + wall).Circle(SketchStroke.Soft, 0, 0, shell / 2).Circle(SketchStroke.Edge, 0, 0, mandrel / 2);
        }

        return s.Line(SketchStroke.Centre, (-0.72 * shell, 0), (0.72 * shell, 0)).Across(-shell / 2, shell / 2, -0.65 * shell, 1, $"shell {r.Short(shell)}").Across(-mandrel / 2, mandrel / 2, half ? 0 : 0.65 * shell, -1, $"mandrel {r.Short(mandrel)}");
    }

    /// <summary>A hub on its shaft.</summary>
    public static Sketch Press(Reckoning r, double d, double hub, double bore, double length)
    {
        var s = new Sketch("A hub on its shaft, from the end and in section along it.").Circle(SketchStroke.Metal, 0, 0, hub / 2).Circle(SketchStroke.Soft, 0, 0, d / 2);
        if (bore > 0)
        {
            s.Circle(SketchStroke.Edge, 0, 0, bore / 2);
        }

        var x = 0.75 * hub;
        return s.Block(SketchStroke.Metal, x, d / 2, length, (hub - d) / 2).Block(SketchStroke.Metal, x, -hub / 2, length, (hub - d) / 2).Block(SketchStroke.Soft, x - (0.15 * hub), -d / 2, length + (0.3 * hub), d)
            .Line(SketchStroke.Centre, (-0.6 * hub, 0), (x + length + (0.25 * hub), 0)).Across(-hub / 2, hub / 2, -hub / 2, 1, r.Short(hub)).Across(-d / 2, d / 2, hub / 2, -1, r.Short(d)).Across(x, x + length, -hub / 2, 1, r.Short(length));
    }

    /// <summary>Shaft, key and keyways in section.</summary>
    /// <param name="r">Writes sizes.</param>
    /// <param name="d">Diameter of the shaft.</param>
    /// <param name="width">Width of the key.</param>
    /// <param name="height">Height of the key.</param>
    /// <param name="inShaft">Depth in the shaft, from its side.</param>
    /// <param name="inHub">Depth in the hub above the shaft; at or below nought when it is not known.</param>
    public static Sketch Key(Reckoning r, double d, double width, double height, double inShaft, double inHub = 0)
    {
        var foot = (d / 2) - inShaft;
        var s = new Sketch("Shaft and key from the end.").Circle(SketchStroke.Soft, 0, 0, 0.85 * d).Circle(SketchStroke.Metal, 0, 0, d / 2).Block(SketchStroke.Edge, -width / 2, foot, width, height);
        if (inHub > 0)
        {
            s.Line(SketchStroke.Hidden, (-width / 2, foot), (-width / 2, (d / 2) + inHub), (width / 2, (d / 2) + inHub), (width / 2, foot)).Up(d / 2, (d / 2) + inHub, 0.85 * d, 1, r.Short(inHub));
        }

        return s.Line(SketchStroke.Centre, (-0.95 * d, 0), (0.95 * d, 0)).Line(SketchStroke.Centre, (0, -0.95 * d), (0, 0.95 * d))
            .Across(-width / 2, width / 2, 0.85 * d, -1, r.Short(width)).Up(foot, foot + height, -0.85 * d, -1, r.Short(height)).Up(foot, d / 2, 0.85 * d, 2, r.Short(inShaft)).Across(-d / 2, d / 2, -0.85 * d, 1, r.Short(d));
    }

    /// <summary>Limits of hole and shaft about the nominal size.</summary>
    public static Sketch Zones(string hole, double holeLow, double holeHigh, string shaft, double shaftLow, double shaftHigh)
    {
        var most = new[] { holeLow, holeHigh, shaftLow, shaftHigh, 0 }.Max() - new[] { holeLow, holeHigh, shaftLow, shaftHigh, 0 }.Min();
        double Y(double um) => um / most * 0.6;
        string Um(double um) => um == 0 ? "0" : $"{(um > 0 ? "+" : "−")}{Reckoning.N(Math.Abs(um))} µm";
        return new Sketch("The limits of the hole and of the shaft, above and below the nominal size.").Line(SketchStroke.Centre, (-0.05, 0), (1.05, 0)).Block(SketchStroke.Soft, 0.12, Y(holeLow), 0.26, Y(holeHigh - holeLow)).Block(SketchStroke.Metal, 0.56, Y(shaftLow), 0.26, Y(shaftHigh - shaftLow))
            .Note(0.25, Y(Math.Max(holeHigh, shaftHigh)), hole, NoteSide.Above).Note(0.69, Y(Math.Max(holeHigh, shaftHigh)), shaft, NoteSide.Above)
            .Note(0.12, Y(holeHigh), Um(holeHigh), NoteSide.Left).Note(0.12, Y(holeLow), Um(holeLow), NoteSide.Left).Note(0.82, Y(shaftHigh), Um(shaftHigh)).Note(0.82, Y(shaftLow), Um(shaftLow)).Note(1.05, 0, "nominal");
    }

    /// <summary>Journal in its bore, the gap drawn larger.</summary>
    public static Sketch Clearance(Reckoning r, double journal, double clearance)
    {
        var times = Plain.Times(journal, clearance);
        var bore = journal + (clearance * times);
        return new Sketch("The journal at the bottom of its bore.").Circle(SketchStroke.Soft, 0, 0, bore * 0.62).Circle(SketchStroke.Edge, 0, 0, bore / 2).Circle(SketchStroke.Metal, 0, -(bore - journal) / 2, journal / 2)
            .Across(-journal / 2, journal / 2, -bore * 0.62, 1, r.Short(journal)).Up(bore / 2 - (clearance * times), bore / 2, bore * 0.62, 1, r.Short(clearance)).Not(Plain.Larger(times));
    }

    /// <summary>A journal cut under, built up and turned back.</summary>
    public static Sketch BuildUp(Reckoning r, double undercut, double finish, double deposited, double length)
    {
        var s = new Sketch("The journal along its axis: cut under, as deposited dashed, and finished.").Block(SketchStroke.Metal, -0.4 * length, -finish / 2 * 1.15, 0.4 * length, finish * 1.15).Block(SketchStroke.Metal, length, -finish / 2 * 1.15, 0.4 * length, finish * 1.15).Block(SketchStroke.Metal, 0, -undercut / 2, length, undercut);
        foreach (var side in new[] { 1, -1 })
        {
            s.Block(SketchStroke.Soft, 0, side > 0 ? undercut / 2 : -finish / 2, length, (finish - undercut) / 2).Line(SketchStroke.Hidden, (0, side * finish / 2), (0, side * deposited / 2), (length, side * deposited / 2), (length, side * finish / 2));
        }

        return s.Line(SketchStroke.Centre, (-0.5 * length, 0), (1.5 * length, 0)).Up(-undercut / 2, undercut / 2, 1.4 * length, 1, r.Short(undercut)).Up(-finish / 2, finish / 2, 1.4 * length, 2, r.Short(finish)).Up(-deposited / 2, deposited / 2, -0.4 * length, -1, r.Short(deposited)).Across(0, length, -deposited / 2, 1, r.Short(length));
    }

    /// <summary>A ring with a wall: a boiler shell.</summary>
    public static Sketch Shell(Reckoning r, double radius, double wall) =>
        new Sketch("The shell from its end, with its wall.").Circle(SketchStroke.Metal, 0, 0, radius + wall).Circle(SketchStroke.Soft, 0, 0, radius).Line(SketchStroke.Centre, (-1.1 * radius, 0), (1.1 * radius, 0)).Line(SketchStroke.Centre, (0, -1.1 * radius), (0, 1.1 * radius))
            .Across(0, radius, -radius - wall, 1, $"R {r.Short(radius)}").Note(radius + wall, 0, $"wall {r.Short(wall)}");

    /// <summary>Run-out on a circle, drawn larger.</summary>
    public static Sketch RunOut(Reckoning r, double tir)
    {
        const double Radius = 0.1;
        var times = Plain.Times(2 * Radius, tir);
        var e = tir / 2 * times;
        return new Sketch("A turning part whose centre stands beside the axis: the dashed circle is where it should be.").Circle(SketchStroke.Hidden, 0, 0, Radius).Circle(SketchStroke.Edge, e, 0, Radius)
            .Line(SketchStroke.Centre, (-1.3 * Radius, 0), (1.4 * Radius, 0)).Line(SketchStroke.Centre, (0, -1.2 * Radius), (0, 1.2 * Radius)).Line(SketchStroke.Thin, (e, -0.2 * Radius), (e, 0.2 * Radius)).Across(0, e, -Radius, 1, $"e {r.Short(tir / 2)}").Note(Radius + e, 0, "high").Note(-Radius, 0, "low", NoteSide.Left)
            .Not($"A circle of any size; the offset is {r.Short(tir / 2)}.");
    }

    /// <summary>An unbalanced rotor.</summary>
    public static Sketch Rotor(Reckoning r, double radius, string mass, string force) =>
        new Sketch("A rotor with a mass off its axis, and the force it makes.").Circle(SketchStroke.Metal, 0, 0, 1.3 * radius).Circle(SketchStroke.Soft, 0, 0, 0.2 * radius).Line(SketchStroke.Centre, (-1.5 * radius, 0), (1.5 * radius, 0)).Circle(SketchStroke.Bad, radius, 0, 0.12 * radius)
            .Line(SketchStroke.Arrow, (radius, 0), (2 * radius, 0)).Note(2 * radius, 0, force).Note(radius, 0.12 * radius, mass, NoteSide.Above).Across(0, radius, -1.3 * radius, 1, r.Short(radius));
}
