namespace OilTag.Core.Bench.Sketches;

/// <summary>Cylinders, cranks, timing and clearances of engines.</summary>
internal static class EngineSketches
{
    /// <summary>A cylinder with its volume above the piston.</summary>
    public static Sketch Cylinder(Reckoning r, double bore, double stroke, double chamber)
    {
        var above = chamber / (Math.PI / 4 * bore * bore);
        return new Sketch("A cylinder in section: the volume left above the piston as a flat chamber, and the stroke below it.").Line(SketchStroke.Edge, (-bore / 2, -stroke - (0.4 * bore)), (-bore / 2, above), (bore / 2, above), (bore / 2, -stroke - (0.4 * bore))).Block(SketchStroke.Soft, -bore / 2, 0, bore, above)
            .Block(SketchStroke.Metal, -bore / 2, -0.45 * bore, bore, 0.45 * bore).Line(SketchStroke.Hidden, (-bore / 2, -stroke), (bore / 2, -stroke)).Line(SketchStroke.Centre, (0, above + (0.1 * bore)), (0, -stroke - (0.4 * bore))).Across(-bore / 2, bore / 2, -stroke - (0.4 * bore), 1, r.Short(bore)).Up(-stroke, 0, bore / 2, 1, r.Short(stroke)).Up(0, above, bore / 2, 2, r.Short(above));
    }

    /// <summary>Crank, rod and piston at an angle.</summary>
    public static Sketch Crank(Reckoning r, double radius, double rod, double angle, double position)
    {
        var (x, y) = (radius * Math.Sin(angle), radius * Math.Cos(angle));
        var pin = y + Math.Sqrt((rod * rod) - (x * x));
        var top = radius + rod;
        var w = 0.55 * radius;
        return new Sketch("Crank, rod and piston from the end of the engine.").Circle(SketchStroke.Thin, 0, 0, radius).Line(SketchStroke.Edge, (0, 0), (x, y), (0, pin)).Circle(SketchStroke.Metal, 0, 0, 0.09 * radius).Circle(SketchStroke.Metal, x, y, 0.09 * radius).Block(SketchStroke.Metal, -w, pin - (0.3 * radius), 2 * w, 0.6 * radius)
            .Line(SketchStroke.Hidden, (-w, top + (0.3 * radius)), (w, top + (0.3 * radius))).Line(SketchStroke.Centre, (0, -1.1 * radius), (0, top + (0.5 * radius))).Up(pin + (0.3 * radius), top + (0.3 * radius), Math.Max(w, radius), 1, r.Short(position)).Note(x, y, Reckoning.Degrees(angle), x >= 0 ? NoteSide.Right : NoteSide.Left);
    }

    /// <summary>Port timing as a circle, top dead centre at the top, turning with the clock.</summary>
    public static Sketch Timing(double exhaust, double inlet)
    {
        static (double X, double Y) On(double theta, double radius) => (radius * Math.Sin(theta), radius * Math.Cos(theta));
        static double Angle(double theta) => (Math.PI / 2) - theta;
        var s = new Sketch("A turn of the crank as a circle, top dead centre above: the outer arc is the exhaust open, the inner one the inlet.").Circle(SketchStroke.Thin, 0, 0, 1).Line(SketchStroke.Centre, (0, -1.1), (0, 1.1)).Line(SketchStroke.Centre, (-1.1, 0), (1.1, 0))
            .Arc(SketchStroke.Bad, 0, 0, 0.92, Angle(exhaust), Angle((2 * Math.PI) - exhaust)).Arc(SketchStroke.Edge, 0, 0, 0.74, Angle(inlet), Angle((2 * Math.PI) - inlet));
        foreach (var (theta, radius, words) in new[] { (exhaust, 1.0, "exhaust"), (inlet, 0.74, "inlet") })
        {
            s.Line(SketchStroke.Thin, (0, 0), On(theta, radius)).Line(SketchStroke.Thin, (0, 0), On((2 * Math.PI) - theta, radius));
            var (x, y) = On(theta, 1);
            s.Note(x, radius < 1 ? y - 0.12 : y, $"{words} {Reckoning.Degrees(theta)}");
        }

        return s.Note(0, 1.1, "top", NoteSide.Above).Note(0, -1.1, "bottom", NoteSide.Below).Note(On((2 * Math.PI) - exhaust, 1).X, On(exhaust, 1).Y, "closes", NoteSide.Left);
    }

    /// <summary>Gear, body and gasket of a pump.</summary>
    public static Sketch Pump(Reckoning r, double gear, double body, double gasket)
    {
        var times = Plain.Times(body, Math.Max(Math.Abs(gear - body), gasket));
        var (stands, thick) = ((gear - body) * times, gasket * times);
        return new Sketch("The pump in section: gear in its body, gasket on the joint, cover above.").Block(SketchStroke.Metal, -body, -0.2 * body, 2 * body, 0.2 * body).Block(SketchStroke.Metal, -body, 0, 0.3 * body, body).Block(SketchStroke.Metal, 0.7 * body, 0, 0.3 * body, body).Block(SketchStroke.Soft, -0.6 * body, 0, 1.2 * body, body + stands)
            .Block(SketchStroke.Edge, -body, body, 0.3 * body, thick).Block(SketchStroke.Edge, 0.7 * body, body, 0.3 * body, thick).Block(SketchStroke.Metal, -body, body + thick, 2 * body, 0.2 * body)
            .Up(body + stands, body + thick, body, 1, $"clearance {r.Short(gasket - (gear - body))}").Up(body, body + thick, -body, -1, $"gasket {r.Short(gasket)}").Up(0, body, body, 2, r.Short(body)).Not(Plain.Larger(times));
    }
}
