using OilTag.Core.Bench;
using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>A station with what was read there.</summary>
/// <param name="Index">Its index, from 0.</param>
/// <param name="Station">The station.</param>
/// <param name="Value">The latest reading; null when there is none.</param>
/// <param name="Error">Reading less target; null without reading.</param>
public sealed record RigRow(int Index, RigStation Station, double? Value, double? Error)
{
    /// <summary>True when it was read and is no farther off than allowed.</summary>
    public bool Within => Error is { } e && Math.Abs(e) <= Station.Tolerance * (1 + 1e-9);
}

/// <summary>A figure of a check: twist, dihedral, symmetry, straightness, run-out.</summary>
/// <param name="Words">What it is.</param>
/// <param name="Text">Its value as it is shown.</param>
/// <param name="Value">Its value, radians or metres.</param>
/// <param name="Bad">True when it passes what is allowed.</param>
public sealed record RigFigure(string Words, string Text, double Value, bool Bad);

/// <summary>What to change, and by how much.</summary>
/// <param name="Adjuster">The wire or packing.</param>
/// <param name="Change">By how many of its units; below nought the other way.</param>
public sealed record RigChange(RigAdjuster Adjuster, double Change);

/// <summary>What a check comes to.</summary>
/// <param name="Rows">Stations.</param>
/// <param name="Figures">Twist, dihedral, symmetry and the rest.</param>
/// <param name="Changes">What to change; none when nothing is, or when it is no matter of adjusting.</param>
/// <param name="Advice">A sentence on what to do next.</param>
/// <param name="After">Worst error after the changes, as a share of its tolerance; null without changes.</param>
/// <param name="Sketch">The errors, drawn larger; null while nothing was read.</param>
public sealed record RigResult(IReadOnlyList<RigRow> Rows, IReadOnlyList<RigFigure> Figures, IReadOnlyList<RigChange> Changes, string Advice, double? After, Sketch? Sketch);

/// <summary>Reads and judges rigging checks. Geometry: washout is incidence at the root less that at the tip, dihedral the slope of heights, symmetry left less right.</summary>
public static class RiggingRule
{
    /// <summary>Most stations.</summary>
    public const int MostStations = 60;

    /// <summary>Most adjusters.</summary>
    public const int MostAdjusters = 24;

    private const string HowStation = "name; incidence, height, diagonal, offset or clock; left, right or middle; how far out; target; tolerance, such as upper 1; incidence; left; 60 in; 2.5°; 0.25°";

    private const string HowAdjuster = "name; unit; most; then station, side and what one unit does there, such as Left rear wire; turns; 3; upper 2 left -0.1°";

    /// <summary>Reads stations, one a line.</summary>
    public static IReadOnlyList<RigStation> Stations(string? text, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        HashSet<(StationKind, StationSide, string)> known = [];
        var all = TypedLines.Read<RigStation>(text, problems, "Stations", MostStations, HowStation, 6, 6, (cells, line) =>
        {
            if (cells[0].Length > 40 || !Enum.TryParse<StationKind>(cells[1], true, out var kind) || !Enum.IsDefined(kind) || !Enum.TryParse<StationSide>(cells[2], true, out var side) || !Enum.IsDefined(side))
            {
                return (null, null);
            }

            var quantity = kind == StationKind.Incidence ? Quantity.Angle : Quantity.Length;
            var (at, target, tolerance) = (SignedReader.Read(cells[3], kind == StationKind.Clock ? Quantity.Angle : Quantity.Length), SignedReader.Read(cells[4], quantity), SignedReader.Read(cells[5], quantity));
            var no = at.Refusal ?? target.Refusal ?? tolerance.Refusal ?? (tolerance.Si <= 0 ? "The tolerance must be more than nought." : null) ?? (known.Add((kind, side, cells[0].ToUpperInvariant())) ? null : "it stands there twice.");
            return no is not null ? (null, no) : (new RigStation(cells[0], kind, side, at.Si!.Value, target.Si!.Value, tolerance.Si!.Value, line), null);
        });
        if (all.Count == 0 && problems.Count == 0)
        {
            problems.Add(new Problem("Stations", $"Type at least one station: {HowStation}."));
        }

        return all;
    }

    /// <summary>Reads adjusters, one a line.</summary>
    public static IReadOnlyList<RigAdjuster> Adjusters(string? text, IReadOnlyList<RigStation> stations, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(stations);
        return TypedLines.Read<RigAdjuster>(text, problems, "Adjusters", MostAdjusters, HowAdjuster, 4, int.MaxValue, (cells, line) =>
        {
            if (cells[1].Length is 0 or > 20 || TextRules.Number(cells[2]) is not { } most || most <= 0)
            {
                return (null, null);
            }

            List<RigEffect> effects = [];
            foreach (var cell in cells[3..])
            {
                // "upper 2 left -0.1°": the station's name and side, then the change.
                var index = stations.Select((s, i) => (s, i)).Where(s => cell.StartsWith($"{s.s.Name} {s.s.Side}", StringComparison.OrdinalIgnoreCase)).OrderByDescending(s => s.s.Name.Length).Select(s => (int?)s.i).FirstOrDefault();
                if (index is not { } at)
                {
                    return (null, $"no station is called that: “{TypedLines.Short(cell)}”.");
                }

                var change = SignedReader.Read(cell[$"{stations[at].Name} {stations[at].Side}".Length..], stations[at].IsAngle ? Quantity.Angle : Quantity.Length);
                if (change.Si is not { } by || by == 0)
                {
                    return (null, $"{change.Refusal ?? "one unit must change something there"} (“{TypedLines.Short(cell)}”).");
                }

                effects.Add(new RigEffect(at, by));
            }

            return (new RigAdjuster(cells[0], cells[1], (double)most, effects, line), null);
        });
    }

    /// <summary>Reads what was measured at a station.</summary>
    public static (double? Value, string? Refusal) Reading(RigStation station, string? text)
    {
        ArgumentNullException.ThrowIfNull(station);
        var (si, _, refusal) = SignedReader.Read(text, station.IsAngle ? Quantity.Angle : Quantity.Length);
        return station.IsAngle && si is { } a && Math.Abs(a) >= Math.PI / 4 ? (null, "45 degrees and more is no rigging.") : (si, refusal);
    }

    /// <summary>A value of a station as it is shown.</summary>
    public static string Show(RiggingCheck check, RigStation station, double value) => station?.IsAngle == true ? Reckoning.Degrees(value) : new Reckoning(Imperial(check)).Fine(value);

    /// <summary>Works a check out.</summary>
    /// <param name="check">The check.</param>
    /// <param name="latest">The latest reading of each station by its index; only those that were read.</param>
    public static RigResult Work(RiggingCheck check, IReadOnlyDictionary<int, double> latest)
    {
        ArgumentNullException.ThrowIfNull(check);
        ArgumentNullException.ThrowIfNull(latest);
        List<RigRow> rows = [.. check.Stations.Select((s, i) => latest.TryGetValue(i, out var v) ? new RigRow(i, s, v, v - s.Target) : new RigRow(i, s, null, null))];
        var read = rows.Where(r => r.Error is not null).ToList();
        var r = new Reckoning(Imperial(check));
        List<RigFigure> figures = [];
        foreach (var pair in read.Where(x => x.Station.Side != StationSide.Middle).GroupBy(x => (x.Station.Kind, Name: x.Station.Name.ToUpperInvariant())).Where(g => g.Count() == 2))
        {
            var (left, right) = (pair.First(x => x.Station.Side == StationSide.Left), pair.First(x => x.Station.Side == StationSide.Right));
            var by = left.Value!.Value - right.Value!.Value;
            figures.Add(new RigFigure($"{left.Station.Name}, left less right", Value(left.Station, by, r), by, Math.Abs(by) > Math.Max(left.Station.Tolerance, right.Station.Tolerance) * (1 + 1e-9)));
        }

        foreach (var side in new[] { StationSide.Left, StationSide.Right, StationSide.Middle })
        {
            // By the words before the last one: "upper 1" and "upper 2" are one wing.
            foreach (var wing in read.Where(x => x.Station.Side == side && x.Station.Kind is StationKind.Incidence or StationKind.Height).GroupBy(x => (x.Station.Kind, Wing: Wing(x.Station.Name))).Where(g => g.Select(x => x.Station.Out).Distinct().Count() > 1))
            {
                var (root, tip) = (wing.MinBy(x => x.Station.Out)!, wing.MaxBy(x => x.Station.Out)!);
                var who = $"{side} {wing.Key.Wing}".Trim();
                if (wing.Key.Kind == StationKind.Incidence)
                {
                    var twist = root.Value!.Value - tip.Value!.Value;
                    figures.Add(new RigFigure($"{who}, washout from root to tip", Reckoning.Degrees(twist), twist, Math.Abs(twist - (root.Station.Target - tip.Station.Target)) > (root.Station.Tolerance + tip.Station.Tolerance) * (1 + 1e-9)));
                }
                else
                {
                    var slope = Math.Atan((tip.Value!.Value - root.Value!.Value) / (tip.Station.Out - root.Station.Out));
                    figures.Add(new RigFigure($"{who}, dihedral", Reckoning.Degrees(slope), slope, !root.Within || !tip.Within));
                }
            }
        }

        foreach (var frame in read.Where(x => x.Station.Kind == StationKind.Offset).GroupBy(x => x.Station.Side).Where(g => g.Select(x => x.Station.Out).Distinct().Count() > 2))
        {
            var line = Alignment.Line([.. frame.Select(x => x.Station.Out)], [.. frame.Select(x => x.Value!.Value)]);
            figures.Add(new RigFigure($"Straightness{(frame.Key == StationSide.Middle ? string.Empty : $", {frame.Key.ToString().ToLowerInvariant()}")}: narrowest band", r.Length(line.Band), line.Band, line.Band > frame.Max(x => x.Station.Tolerance) * (1 + 1e-9)));
        }

        foreach (var turn in read.Where(x => x.Station.Kind == StationKind.Clock).GroupBy(x => Wing(x.Station.Name)))
        {
            if (Alignment.Turn([.. turn.Select(x => x.Station.Out)], [.. turn.Select(x => x.Value!.Value)]) is { } fit)
            {
                figures.Add(new RigFigure($"{turn.Key}: out of centre by", r.Length(fit.Eccentricity), fit.Eccentricity, 2 * fit.Eccentricity > turn.Max(x => x.Station.Tolerance) * (1 + 1e-9)));
                figures.Add(new RigFigure($"{turn.Key}: highest at", Reckoning.Degrees((fit.High + (2 * Math.PI)) % (2 * Math.PI)), fit.High, false));
                figures.Add(new RigFigure($"{turn.Key}: out of round by", r.Length(fit.Round), fit.Round, fit.Round > turn.Max(x => x.Station.Tolerance) * (1 + 1e-9)));
            }
        }

        var (changes, advice, after) = Changes(check, rows, read);
        return new RigResult(rows, figures, changes, advice, after, read.Count == 0 ? null : Draw(read, r));
    }

    private static (IReadOnlyList<RigChange> Changes, string Advice, double? After) Changes(RiggingCheck check, List<RigRow> rows, List<RigRow> read)
    {
        if (read.Count < rows.Count)
        {
            return ([], read.Count == 0 ? "Nothing is read yet. Level the machine first, and write down how." : $"{rows.Count - read.Count} of {rows.Count} stations are not read yet.", null);
        }

        if (read.TrueForAll(x => x.Within))
        {
            return ([], "All stations are within their tolerance. Lock it, and let a second person look.", null);
        }

        if (check.Adjusters.Count == 0)
        {
            return ([], "Nobody has said which wire or packing changes what: find out with one turn of one, read again, and write it down.", null);
        }

        double Effect(RigAdjuster a, int station) => a.Effects.Where(e => e.Station == station).Sum(e => e.Change);
        var by = Alignment.Adjust([.. rows.Select(x => (IReadOnlyList<double>)[.. check.Adjusters.Select(a => Effect(a, x.Index))])], [.. rows.Select(x => x.Error!.Value)], [.. rows.Select(x => 1 / x.Station.Tolerance)]);
        List<RigChange> changes = [.. check.Adjusters.Zip(by, (a, b) => new RigChange(a, b)).Where(c => Math.Abs(c.Change) > 0.02)];
        if (changes.Find(c => Math.Abs(c.Change) > c.Adjuster.Most) is { } far)
        {
            return ([], $"{far.Adjuster.Name} would want {Reckoning.N(Math.Abs(far.Change))} {far.Adjuster.Unit}, more than {Reckoning.N(far.Adjuster.Most)}: that is no small error. Look for what is bent, worn or wrongly fitted before anything is turned.", null);
        }

        var after = rows.Max(x => Math.Abs(x.Error!.Value + changes.Sum(c => c.Change * Effect(c.Adjuster, x.Index))) / x.Station.Tolerance);
        return changes.Count == 0
            ? ([], "No wire or packing that is written down changes what is out.", null)
            : (changes, after <= 1 + 1e-9 ? "These changes bring all stations within their tolerance. Turn half of it, read again, then the rest." : "These changes bring it nearer, not all of it within tolerance.", after);
    }

    // Errors as flags over the stations: far out to the sides, up for too much, all by one factor a kind.
    private static Sketch Draw(List<RigRow> read, Reckoning r)
    {
        if (read.TrueForAll(x => x.Station.Kind == StationKind.Clock))
        {
            return Circle(read, r);
        }

        // Each kind on a line of its own.
        var span = Math.Max(read.Max(x => Math.Abs(x.Station.Out)), 1e-3);
        double Across(RigRow x) => x.Station.Side == StationSide.Left ? -x.Station.Out : x.Station.Out;
        var s = new Sketch("The stations from the front, left on the left, each kind on a line: a bar is an error, up for too much, and its box the tolerance; a board stands at its angular error, between the two lines that are allowed.");
        var largest = read.Max(x => Math.Max(Math.Abs(x.Error!.Value) / x.Station.Tolerance, 1));
        var (high, w) = (0.2 * span / largest, span / 40);
        List<string> factors = [];
        foreach (var (kind, row) in read.GroupBy(x => x.Station.Kind).OrderBy(g => g.Key).Select((g, i) => (g, i)))
        {
            var y = -row * 0.85 * span;
            s.Line(SketchStroke.Centre, (-1.05 * span, y), (1.05 * span, y)).Note(0, y + (0.3 * span), kind.Key.ToString().ToLowerInvariant(), NoteSide.Above);
            factors.Add(kind.First().Station.IsAngle ? Boards(s, [.. kind], Across, y, w) : Flags(s, [.. kind], Across, y, w, high, r));
        }

        return s.Not($"Errors are drawn larger; {string.Join("; ", factors)}.");
    }

    // Heights, diagonals and offsets as bars.
    private static string Flags(Sketch s, IReadOnlyList<RigRow> kind, Func<RigRow, double> across, double y, double w, double high, Reckoning r)
    {
        foreach (var x in kind)
        {
            var (at, e) = (across(x), x.Error!.Value / x.Station.Tolerance * high);
            s.Block(SketchStroke.Soft, at - (2 * w), y - high, 4 * w, 2 * high).Block(x.Within ? SketchStroke.Metal : SketchStroke.Bad, at - w, y + Math.Min(0, e), 2 * w, Math.Max(Math.Abs(e), w / 4)).Note(at, y - Math.Max(high, -e), x.Station.Name, NoteSide.Below);
        }

        var tolerance = kind.Max(x => x.Station.Tolerance);
        return $"{kind[0].Station.Kind.ToString().ToLowerInvariant()}: {Reckoning.N(high / tolerance)} times as large, the box is {r.Short(tolerance)} up and down";
    }

    // Angles as level boards seen from the side, tilted by their error; the symmetry and the twist of a wing stand side by side.
    private static string Boards(Sketch s, IReadOnlyList<RigRow> kind, Func<RigRow, double> across, double y, double w)
    {
        const double Steepest = Math.PI / 5;
        var times = Math.Min(Plain.Times(Steepest / 0.12, kind.Max(x => Math.Max(Math.Abs(x.Error!.Value), x.Station.Tolerance))), 500);
        foreach (var x in kind)
        {
            (double X, double Y)[] At(double angle, double half) => [(across(x) - (half * Math.Cos(angle)), y - (half * Math.Sin(angle))), (across(x) + (half * Math.Cos(angle)), y + (half * Math.Sin(angle)))];
            var allowed = Math.Min(x.Station.Tolerance * times, Math.PI / 2.2);
            s.Line(SketchStroke.Thin, At(allowed, 4.6 * w)).Line(SketchStroke.Thin, At(-allowed, 4.6 * w)).Line(x.Within ? SketchStroke.Edge : SketchStroke.Bad, At(x.Error!.Value * times, 4.2 * w)).Note(across(x), y - (3.2 * w), x.Station.Name, NoteSide.Below);
        }

        return $"incidence: {Reckoning.N(times)} times as large, the thin lines are {Reckoning.Degrees(kind.Max(x => x.Station.Tolerance))} up and down";
    }

    private static Sketch Circle(List<RigRow> read, Reckoning r)
    {
        const double Radius = 0.1;
        var most = read.Max(x => Math.Abs(x.Value!.Value));
        var times = Plain.Times(2 * Radius, most);
        (double X, double Y)[] points = [.. read.OrderBy(x => x.Station.Out).Select(x => (Radius + (x.Value!.Value * times)) is var at ? (at * Math.Cos(x.Station.Out), at * Math.Sin(x.Station.Out)) : default)];
        var s = new Sketch("The turn as a circle, dashed, and what the clock showed round it.").Circle(SketchStroke.Hidden, 0, 0, Radius).Shape(SketchStroke.Edge, points).Line(SketchStroke.Centre, (-1.3 * Radius, 0), (1.3 * Radius, 0)).Line(SketchStroke.Centre, (0, -1.3 * Radius), (0, 1.3 * Radius));
        foreach (var ((x, y), row) in points.Zip(read.OrderBy(x => x.Station.Out)))
        {
            s.Note(x, y, r.Short(row.Value!.Value), x >= 0 ? NoteSide.Right : NoteSide.Left);
        }

        return s.Not($"A circle of any size; readings are drawn {Reckoning.N(times)} times as large.");
    }

    // By the unit of the first length that was typed: of a target, else of how far out.
    private static bool Imperial(RiggingCheck check) => check.Stations.Select(s => s.Text.Split(';', StringSplitOptions.TrimEntries)[s.IsAngle ? 3 : 4]).Select(t => SignedReader.Read(t, Quantity.Length).Unit).FirstOrDefault(u => u is not null)?.Imperial ?? false;

    private static string Value(RigStation station, double value, Reckoning r) => station.IsAngle ? Reckoning.Degrees(value) : r.Length(value);

    private static string Wing(string name) => name.LastIndexOf(' ') is > 0 and var at ? name[..at] : name;
}
