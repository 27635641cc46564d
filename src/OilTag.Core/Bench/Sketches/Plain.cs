using OilTag.Core.Measures;

namespace OilTag.Core.Bench.Sketches;

/// <summary>Sketches of numbers that have no shape: along a scale, as bars, as curves. Each is to scale along its axes.</summary>
internal static class Plain
{
    /// <summary>Values along one scale, each where it lies.</summary>
    /// <param name="words">What is seen.</param>
    /// <param name="marks">Value, words, and whether it is the result.</param>
    public static Sketch Scale(string words, params (double Value, string Text, bool Result)[] marks)
    {
        var (low, high) = (marks.Min(m => m.Value), marks.Max(m => m.Value));
        var span = high > low ? high - low : Math.Max(Math.Abs(high), 1);
        double X(double value) => (value - low) / span;
        var sketch = new Sketch(words).Line(SketchStroke.Edge, (-0.03, 0), (1.03, 0));
        for (var i = 0; i <= 10; i++)
        {
            sketch.Line(SketchStroke.Thin, (i / 10.0, -0.015), (i / 10.0, 0.015));
        }

        // Those that lie near each other stand on steps of their own.
        var level = 0;
        foreach (var m in marks.OrderBy(m => m.Value))
        {
            level++;
            var y = (m.Result ? 1 : -1) * 0.085 * (m.Result ? 1.2 : level);
            sketch.Line(m.Result ? SketchStroke.Edge : SketchStroke.Thin, (X(m.Value), 0), (X(m.Value), y)).Note(X(m.Value), y, m.Text, X(m.Value) > 0.5 ? NoteSide.Left : NoteSide.Right);
        }

        return sketch.Not("To scale along the line.");
    }

    /// <summary>Bars beside each other, from nought or from a base.</summary>
    /// <param name="words">What is seen.</param>
    /// <param name="bars">Value and words; a bar that is to be minded is marked.</param>
    /// <param name="limit">A line across, with its words.</param>
    public static Sketch Bars(string words, IReadOnlyList<(double Value, string Text, bool Bad)> bars, (double Value, string Text)? limit = null)
    {
        var most = Math.Max(bars.Max(b => Math.Abs(b.Value)), limit?.Value ?? 0);
        most = most > 0 ? most : 1;
        var sketch = new Sketch(words);
        for (var i = 0; i < bars.Count; i++)
        {
            var y = -i * 0.14;
            sketch.Block(bars[i].Bad ? SketchStroke.Bad : SketchStroke.Metal, 0, y, Math.Max(bars[i].Value, 0) / most, 0.07).Note(0, y + 0.1, bars[i].Text);
        }

        if (limit is { } l)
        {
            sketch.Line(SketchStroke.Hidden, (l.Value / most, 0.16), (l.Value / most, -(bars.Count - 1) * 0.14)).Note(l.Value / most, 0.16, l.Text, NoteSide.Left);
        }

        return sketch.Line(SketchStroke.Edge, (0, 0.1), (0, -(bars.Count - 1) * 0.14)).Not("Lengths are to scale.");
    }

    /// <summary>Curves over one axis. Each axis is straight and starts where the values start, or at nought.</summary>
    public static Sketch Graph(string words, string across, string up, IReadOnlyList<(SketchStroke Stroke, IReadOnlyList<(double X, double Y)> Points, string Text)> curves, params (double X, double Y, string Text)[] marks)
    {
        const double High = 0.62;
        var all = curves.SelectMany(c => c.Points).Concat(marks.Select(m => (m.X, m.Y))).ToList();
        var (x0, x1, y0, y1) = (all.Min(p => p.X), all.Max(p => p.X), Math.Min(0, all.Min(p => p.Y)), all.Max(p => p.Y));
        if (y0 == 0 && all.Min(p => p.Y) > 0.6 * y1)
        {
            // All of it lies high up: nought is left away.
            y0 = all.Min(p => p.Y) - (0.15 * (y1 - all.Min(p => p.Y)));
        }

        double X(double x) => x1 > x0 ? (x - x0) / (x1 - x0) : 0;
        double Y(double y) => y1 > y0 ? High * (y - y0) / (y1 - y0) : 0;
        var sketch = new Sketch(words).Line(SketchStroke.Edge, (0, High + 0.03), (0, 0), (1.03, 0)).Note(1, 0, across, NoteSide.Below).Note(0, High + 0.03, up, NoteSide.Above);
        foreach (var c in curves)
        {
            sketch.Line(c.Stroke, [.. c.Points.Select(p => (X(p.X), Y(p.Y)))]);
            if (c.Text.Length > 0)
            {
                var at = c.Points[c.Points.Count * 3 / 4];
                sketch.Note(X(at.X), Y(at.Y), c.Text, NoteSide.Above);
            }
        }

        foreach (var (x, y, text) in marks)
        {
            sketch.Line(SketchStroke.Hidden, (X(x), 0), (X(x), Y(y)), (0, Y(y))).Circle(SketchStroke.Metal, X(x), Y(y), 0.012).Note(X(x), Y(y) + 0.05, text, X(x) > 0.5 ? NoteSide.Left : NoteSide.Right);
        }

        return sketch.Not("Each axis is to scale.");
    }

    /// <summary>How many times larger errors must be drawn to be seen: a round number.</summary>
    public static double Times(double size, double error)
    {
        if (error <= 0 || size <= 0)
        {
            return 1;
        }

        var exact = 0.12 * size / error;
        if (exact <= 1)
        {
            return 1;
        }

        var ten = Math.Pow(10, Math.Floor(Math.Log10(exact)));
        return exact / ten >= 5 ? 5 * ten : exact / ten >= 2 ? 2 * ten : ten;
    }

    /// <summary>“Errors are drawn 200 times as large.”</summary>
    public static string Larger(double times) => times > 1 ? $"Small differences are drawn {MeasureFormat.Significant(times, 4)} times as large." : string.Empty;
}
