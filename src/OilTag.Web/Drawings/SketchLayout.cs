using OilTag.Core.Bench.Sketches;

namespace OilTag.Web.Drawings;

/// <summary>A line or a circle as it is laid out; page units, y down.</summary>
/// <param name="Stroke">How it is drawn; null for the filled head of an arrow.</param>
public abstract record LaidMark(SketchStroke? Stroke);

/// <summary>A line of a sketch as it is laid out.</summary>
/// <param name="Stroke">How it is drawn; null for the filled head of an arrow.</param>
/// <param name="Points">Its points.</param>
/// <param name="Closed">True when the last point is joined to the first.</param>
public sealed record LaidPath(SketchStroke? Stroke, IReadOnlyList<(double X, double Y)> Points, bool Closed) : LaidMark(Stroke);

/// <summary>A circle as it is laid out.</summary>
public sealed record LaidCircle(SketchStroke? Stroke, double X, double Y, double Radius) : LaidMark(Stroke);

/// <summary>Words as they are laid out: the middle of the line of letters, and from -1 (starts there) over 0 to 1 (ends there).</summary>
public sealed record LaidText(string Text, double X, double Y, int Anchor, bool Upright);

/// <summary>A sketch in page units: millimetres on paper, pixels on the screen.</summary>
/// <param name="Marks">Lines and circles, in the order in which they are drawn.</param>
/// <param name="Texts">Words.</param>
/// <param name="Box">What all of it takes: left, top, right, bottom.</param>
/// <param name="Shape">What the shape alone takes.</param>
public sealed record LaidSketch(IReadOnlyList<LaidMark> Marks, IReadOnlyList<LaidText> Texts, (double Left, double Top, double Right, double Bottom) Box, (double Left, double Top, double Right, double Bottom) Shape)
{
    /// <summary>Lays a sketch out.</summary>
    /// <param name="sketch">The sketch.</param>
    /// <param name="scale">Page units for a metre.</param>
    /// <param name="letters">Height of the letters in page units.</param>
    public static LaidSketch Of(Sketch sketch, double scale, double letters)
    {
        ArgumentNullException.ThrowIfNull(sketch);
        var (left, bottom, right, top) = sketch.Box;
        double X(double x) => (x - left) * scale;
        double Y(double y) => (top - y) * scale;
        var (w, h) = ((right - left) * scale, (top - bottom) * scale);
        var head = 0.55 * letters;
        List<LaidMark> marks = [];
        List<LaidText> texts = [];
        foreach (var mark in sketch.Marks)
        {
            if (mark is SketchCircle c)
            {
                marks.Add(new LaidCircle(c.Stroke, X(c.X), Y(c.Y), c.Radius * scale));
            }
            else if (mark is SketchPath p)
            {
                List<(double X, double Y)> points = [.. p.Points.Select(q => (X(q.X), Y(q.Y)))];
                marks.Add(new LaidPath(p.Stroke, points, p.Closed));
                if (p.Stroke == SketchStroke.Arrow)
                {
                    marks.Add(Head(points[^1], points[^2], head));
                }
            }
        }

        foreach (var n in sketch.Notes.Where(n => n.Text.Length > 0 && n.Side != NoteSide.On))
        {
            var gap = 0.45 * letters;
            var (x, y) = (X(n.At.X), Y(n.At.Y));
            texts.Add(n.Side switch
            {
                NoteSide.Right => new LaidText(n.Text, x + gap, y, -1, false),
                NoteSide.Left => new LaidText(n.Text, x - gap, y, 1, false),
                NoteSide.Above => new LaidText(n.Text, x, y - gap - (letters / 2), 0, false),
                _ => new LaidText(n.Text, x, y + gap + (letters / 2), 0, false),
            });
        }

        // Words at one height that would run into each other stand one under the other.
        for (var i = 1; i < texts.Count; i++)
        {
            for (var tries = 0; tries < 12 && texts.Take(i).Any(t => Meet(t, texts[i], letters)); tries++)
            {
                texts[i] = texts[i] with { Y = texts[i].Y + (1.15 * letters) };
            }
        }

        // What stands on its place is left away where something stands already.
        foreach (var on in sketch.Notes.Where(n => n.Side == NoteSide.On).Select(n => new LaidText(n.Text, X(n.At.X), Y(n.At.Y), 0, false)).Where(on => !texts.Exists(t => Meet(t, on, letters))))
        {
            texts.Add(on);
        }

        var around = Extent(w, h, texts, letters);
        var row = 1.75 * letters;
        foreach (var s in sketch.Sizes)
        {
            var (x1, y1, x2, y2) = (X(s.From.X), Y(s.From.Y), X(s.To.X), Y(s.To.Y));
            if (s.Upright)
            {
                var x = s.Row > 0 ? around.Right + (s.Row * row) : around.Left + (s.Row * row);
                marks.Add(Thin((x1, y1), (x + (Math.Sign(s.Row) * head), y1)));
                marks.Add(Thin((x2, y2), (x + (Math.Sign(s.Row) * head), y2)));
                marks.AddRange(Arrowed((x, y1), (x, y2), head));
                texts.Add(new LaidText(s.Text, x - (0.62 * letters), (y1 + y2) / 2, 0, true));
            }
            else
            {
                var y = s.Row > 0 ? around.Bottom + (s.Row * row) : around.Top + (s.Row * row);
                marks.Add(Thin((x1, y1), (x1, y + (Math.Sign(s.Row) * head))));
                marks.Add(Thin((x2, y2), (x2, y + (Math.Sign(s.Row) * head))));
                marks.AddRange(Arrowed((x1, y), (x2, y), head));
                texts.Add(new LaidText(s.Text, (x1 + x2) / 2, y - (0.62 * letters), 0, false));
            }
        }

        // Of two sizes whose words would run into each other the later one’s words move along.
        for (var i = 1; i < texts.Count; i++)
        {
            for (var tries = 0; tries < 8 && texts.Take(i).Any(t => t.Upright == texts[i].Upright && Meet(t, texts[i], letters)); tries++)
            {
                texts[i] = texts[i].Upright ? texts[i] with { Y = texts[i].Y + letters } : texts[i] with { X = texts[i].X + letters };
            }
        }

        var all = Extent(w, h, texts, letters);
        var ends = marks.OfType<LaidPath>().SelectMany(p => p.Points).ToList();
        var box = ends.Count == 0 ? all : (Math.Min(all.Left, ends.Min(p => p.X)), Math.Min(all.Top, ends.Min(p => p.Y)), Math.Max(all.Right, ends.Max(p => p.X)), Math.Max(all.Bottom, ends.Max(p => p.Y)));
        return new LaidSketch(marks, texts, box, (0, 0, w, h));
    }

    private static LaidPath Thin((double X, double Y) a, (double X, double Y) b) => new(SketchStroke.Thin, [a, b], false);

    // A line with a head at each end; when it is short the heads point inwards from outside.
    private static IEnumerable<LaidPath> Arrowed((double X, double Y) a, (double X, double Y) b, double head)
    {
        var length = Math.Sqrt(Math.Pow(b.X - a.X, 2) + Math.Pow(b.Y - a.Y, 2));
        var (ux, uy) = length > 0 ? ((b.X - a.X) / length, (b.Y - a.Y) / length) : a.X == b.X ? (0.0, 1.0) : (1.0, 0.0);
        if (length >= 3 * head)
        {
            return [Thin(a, b), Head(a, b, head), Head(b, a, head)];
        }

        (double X, double Y) Out((double X, double Y) p, double sign) => (p.X + (sign * 2.2 * head * ux), p.Y + (sign * 2.2 * head * uy));
        var (before, after) = (Out(a, -1), Out(b, 1));
        return [Thin(before, a), Thin(b, after), Head(a, before, head), Head(b, after, head)];
    }

    // The head at a point of a line that comes from another.
    private static LaidPath Head((double X, double Y) at, (double X, double Y) from, double size)
    {
        var length = Math.Max(1e-9, Math.Sqrt(Math.Pow(from.X - at.X, 2) + Math.Pow(from.Y - at.Y, 2)));
        var (ux, uy) = ((from.X - at.X) / length * size, (from.Y - at.Y) / length * size);
        return new LaidPath(null, [at, (at.X + ux - (0.33 * uy), at.Y + uy + (0.33 * ux)), (at.X + ux + (0.33 * uy), at.Y + uy - (0.33 * ux))], true);
    }

    private static (double Left, double Top, double Right, double Bottom) BoxOf(LaidText t, double letters)
    {
        var (half, high) = (Lettering.Width(t.Text, letters) / 2, letters / 2);
        return t.Upright ? (t.X - high, t.Y - half, t.X + high, t.Y + half) : (t.X + ((-t.Anchor - 1) * half), t.Y - high, t.X + ((-t.Anchor + 1) * half), t.Y + high);
    }

    private static bool Meet(LaidText a, LaidText b, double letters)
    {
        var (p, q) = (BoxOf(a, letters), BoxOf(b, letters));
        return p.Left < q.Right + 2 && q.Left < p.Right + 2 && p.Top < q.Bottom && q.Top < p.Bottom;
    }

    private static (double Left, double Top, double Right, double Bottom) Extent(double w, double h, List<LaidText> texts, double letters)
    {
        var boxes = texts.Select(t => BoxOf(t, letters)).ToList();
        return boxes.Count == 0 ? (0, 0, w, h) : (Math.Min(0, boxes.Min(b => b.Left)), Math.Min(0, boxes.Min(b => b.Top)), Math.Max(w, boxes.Max(b => b.Right)), Math.Max(h, boxes.Max(b => b.Bottom)));
    }
}
