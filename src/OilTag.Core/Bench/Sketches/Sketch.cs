namespace OilTag.Core.Bench.Sketches;

/// <summary>How a line of a sketch is drawn.</summary>
public enum SketchStroke
{
    /// <summary>An edge that is seen.</summary>
    Edge,

    /// <summary>Metal that is cut through: filled, with an edge.</summary>
    Metal,

    /// <summary>What fills a gap or is laid on: filled lighter, with an edge.</summary>
    Soft,

    /// <summary>A thin helping line.</summary>
    Thin,

    /// <summary>An edge that is hidden, or where something was.</summary>
    Hidden,

    /// <summary>A centre line.</summary>
    Centre,

    /// <summary>A force or a direction, with an arrow head at its last point.</summary>
    Arrow,

    /// <summary>What is outside its limit, or must be minded.</summary>
    Bad,
}

/// <summary>On which side of its point a note stands.</summary>
public enum NoteSide
{
    /// <summary>To the right.</summary>
    Right,

    /// <summary>To the left.</summary>
    Left,

    /// <summary>Above, in the middle.</summary>
    Above,

    /// <summary>Below, in the middle.</summary>
    Below,

    /// <summary>On the point.</summary>
    On,
}

/// <summary>A point of a sketch; metres, x to the right and y up.</summary>
/// <param name="X">To the right.</param>
/// <param name="Y">Up.</param>
public sealed record SketchPoint(double X, double Y);

/// <summary>A line or a circle.</summary>
/// <param name="Stroke">How it is drawn.</param>
public abstract record SketchMark(SketchStroke Stroke);

/// <summary>Points joined by straight lines.</summary>
/// <param name="Stroke">How it is drawn.</param>
/// <param name="Points">Two or more.</param>
/// <param name="Closed">True when the last is joined to the first.</param>
public sealed record SketchPath(SketchStroke Stroke, IReadOnlyList<SketchPoint> Points, bool Closed) : SketchMark(Stroke);

/// <summary>A full circle.</summary>
/// <param name="Stroke">How it is drawn.</param>
/// <param name="X">Centre, to the right.</param>
/// <param name="Y">Centre, up.</param>
/// <param name="Radius">Radius.</param>
public sealed record SketchCircle(SketchStroke Stroke, double X, double Y, double Radius) : SketchMark(Stroke);

/// <summary>A size with its two arrows, outside of what is drawn: below or above it when it is level, beside it when it is upright.</summary>
/// <param name="From">First end.</param>
/// <param name="To">Other end.</param>
/// <param name="Upright">True when it measures up, false when it measures across.</param>
/// <param name="Row">How far out it stands: 1 next to the sketch below (or to the right), -1 above (or to the left).</param>
/// <param name="Text">What it measures.</param>
public sealed record SketchSize(SketchPoint From, SketchPoint To, bool Upright, int Row, string Text);

/// <summary>Words at a point.</summary>
/// <param name="At">The point.</param>
/// <param name="Side">Where the words stand.</param>
/// <param name="Text">The words.</param>
public sealed record SketchNote(SketchPoint At, NoteSide Side, string Text);

/// <summary>
/// A drawing to scale: lines and circles in metres, sizes and words. It holds no letters’ heights and no colours; whoever shows or prints it chooses these.
/// </summary>
/// <param name="words">What is seen, for who cannot see it.</param>
public sealed class Sketch(string words)
{
    private const int Chords = 72;

    private readonly List<SketchMark> marks = [];
    private readonly List<SketchSize> sizes = [];
    private readonly List<SketchNote> notes = [];

    /// <summary>What is seen, for who cannot see it.</summary>
    public string Words { get; } = words;

    /// <summary>How the drawing differs from the true shape, such as errors drawn larger; empty when it is to scale throughout.</summary>
    public string Apart { get; private set; } = string.Empty;

    /// <summary>Lines and circles, in the order in which they are drawn.</summary>
    public IReadOnlyList<SketchMark> Marks => marks;

    /// <summary>The lines.</summary>
    public IEnumerable<SketchPath> Paths => marks.OfType<SketchPath>();

    /// <summary>The circles.</summary>
    public IEnumerable<SketchCircle> Circles => marks.OfType<SketchCircle>();

    /// <summary>Sizes.</summary>
    public IReadOnlyList<SketchSize> Sizes => sizes;

    /// <summary>Words.</summary>
    public IReadOnlyList<SketchNote> Notes => notes;

    /// <summary>The smallest box that holds all lines, circles, and points of notes and sizes: left, bottom, right and top in metres. All nought for an empty sketch.</summary>
    public (double Left, double Bottom, double Right, double Top) Box
    {
        get
        {
            var all = Paths.SelectMany(p => p.Points).Concat(notes.Select(n => n.At)).Concat(sizes.SelectMany(s => new[] { s.From, s.To }))
                .Concat(Circles.SelectMany(c => new[] { new SketchPoint(c.X - c.Radius, c.Y - c.Radius), new SketchPoint(c.X + c.Radius, c.Y + c.Radius) })).ToList();
            return all.Count == 0 ? default : (all.Min(p => p.X), all.Min(p => p.Y), all.Max(p => p.X), all.Max(p => p.Y));
        }
    }

    /// <summary>Lines through points.</summary>
    public Sketch Line(SketchStroke stroke, params (double X, double Y)[] points) => Add(new SketchPath(stroke, [.. points.Select(p => new SketchPoint(p.X, p.Y))], false));

    /// <summary>A closed shape.</summary>
    public Sketch Shape(SketchStroke stroke, params (double X, double Y)[] points) => Add(new SketchPath(stroke, [.. points.Select(p => new SketchPoint(p.X, p.Y))], true));

    /// <summary>A rectangle by its lower left corner.</summary>
    public Sketch Block(SketchStroke stroke, double x, double y, double width, double height) => Shape(stroke, (x, y), (x + width, y), (x + width, y + height), (x, y + height));

    /// <summary>A circle.</summary>
    public Sketch Circle(SketchStroke stroke, double x, double y, double radius)
    {
        marks.Add(new SketchCircle(stroke, x, y, radius));
        return this;
    }

    /// <summary>Part of a circle, from an angle to an angle, radians from the right against the clock.</summary>
    public Sketch Arc(SketchStroke stroke, double x, double y, double radius, double from, double to) => Line(stroke, ArcPoints(x, y, radius, from, to));

    /// <summary>A size across, below (row 1, 2 …) or above (row -1, -2 …).</summary>
    public Sketch Across(double x1, double x2, double y, int row, string text)
    {
        sizes.Add(new SketchSize(new SketchPoint(x1, y), new SketchPoint(x2, y), false, row, text));
        return this;
    }

    /// <summary>A size up, to the right (row 1, 2 …) or left (row -1, -2 …).</summary>
    public Sketch Up(double y1, double y2, double x, int row, string text)
    {
        sizes.Add(new SketchSize(new SketchPoint(x, y1), new SketchPoint(x, y2), true, row, text));
        return this;
    }

    /// <summary>Words at a point.</summary>
    public Sketch Note(double x, double y, string text, NoteSide side = NoteSide.Right)
    {
        notes.Add(new SketchNote(new SketchPoint(x, y), side, text));
        return this;
    }

    /// <summary>Says how it differs from the true shape.</summary>
    public Sketch Not(string apart)
    {
        Apart = apart;
        return this;
    }

    /// <summary>Points along part of a circle; chords stay within a thousandth of the radius.</summary>
    public static (double X, double Y)[] ArcPoints(double x, double y, double radius, double from, double to)
    {
        var n = Math.Max(2, (int)Math.Ceiling(Math.Abs(to - from) / (2 * Math.PI) * Chords));
        return [.. Enumerable.Range(0, n + 1).Select(i => from + ((to - from) * i / n)).Select(a => (x + (radius * Math.Cos(a)), y + (radius * Math.Sin(a))))];
    }

    private Sketch Add(SketchPath path)
    {
        marks.Add(path);
        return this;
    }
}
