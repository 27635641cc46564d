using System.Globalization;
using NodaTime;
using OilTag.Core.Measures;
using OilTag.Core.Planning;

namespace OilTag.Core.Torque;

/// <summary>A group of bolts as it is typed.</summary>
/// <param name="Name">What is bolted down.</param>
/// <param name="Noun">What is turned.</param>
/// <param name="Shape">How they lie.</param>
/// <param name="Count">How many; for rows how many in each, such as <c>5 5</c>; for caps how many caps; for own points left out.</param>
/// <param name="Points">Own points, one a line: right and down from the top left of the drawing in 100.</param>
/// <param name="Across">Pitch circle or length; may be empty.</param>
/// <param name="Mark">What does not move.</param>
/// <param name="Order">The book's order; empty for the one that is worked out.</param>
/// <param name="Full">Full torque.</param>
/// <param name="Within">How far from it is right.</param>
/// <param name="Passes">Passes, such as <c>30 60 100</c> or <c>50 100 +90°</c>.</param>
/// <param name="Threads">What is on the threads.</param>
/// <param name="Source">Where the torque comes from.</param>
/// <param name="ToolId">The wrench.</param>
/// <param name="Again">After which use of the machine they are looked at again; null for none.</param>
/// <param name="AgainHours">Running hours after which they are looked at again.</param>
/// <param name="LockedBy">How they are locked.</param>
/// <param name="PhotoId">The photo under own points.</param>
public sealed record BoltGroupEntry(
    string? Name,
    string? Noun,
    BoltShape Shape,
    string? Count,
    string? Points,
    string? Across,
    string? Mark,
    string? Order,
    string? Full,
    string? Within,
    string? Passes,
    string? Threads,
    string? Source,
    Guid? ToolId,
    Service.UseKind? Again,
    string? AgainHours,
    Work.LockWay? LockedBy,
    Guid? PhotoId = null);

/// <summary>How a reading at a bolt stands to what is wanted.</summary>
public enum TorqueEnd
{
    /// <summary>Within.</summary>
    Within,

    /// <summary>Not there yet: pull on.</summary>
    Short,

    /// <summary>Beyond: slacken and pull again.</summary>
    Over,
}

/// <summary>A reading that was judged.</summary>
/// <param name="Value">The value; null when it could not be read.</param>
/// <param name="End">How it stands.</param>
/// <param name="Sentence">What is wrong and what to do, in a sentence; empty within.</param>
public sealed record TorqueCheck(Measure? Value, TorqueEnd End, string Sentence);

/// <summary>Checks groups of bolts, and judges what a wrench says.</summary>
public static class TorqueRule
{
    /// <summary>What may be turned.</summary>
    public static readonly IReadOnlyList<string> Nouns = ["bolt", "stud", "nut", "screw"];

    /// <summary>How far an angle may be off, degrees. Common practice.</summary>
    public const double AngleWithin = 5;

    /// <summary>The passes when nobody says others, in 100 of the full torque. Common practice.</summary>
    public const string UsualPasses = "30 60 100";

    private const int MostPasses = 8;

    private static readonly char[] Apart = [' ', ',', ';', '\n', '\r', '\t', '-', '%'];

    /// <summary>Reads a group as it was typed.</summary>
    /// <param name="e">As typed.</param>
    /// <returns>The group without its step, or what must be changed first.</returns>
    public static (BoltGroup? Group, IReadOnlyList<Problem> Problems) Read(BoltGroupEntry e)
    {
        ArgumentNullException.ThrowIfNull(e);
        var problems = new List<Problem>();
        var name = TextRules.Need(problems, "Name", e.Name, "Say what is bolted down, such as front cover, left.", 80);
        var noun = (e.Noun ?? "bolt").Trim().ToLowerInvariant();
        if (!Nouns.Contains(noun))
        {
            problems.Add(new Problem("Noun", "Choose bolt, stud, nut or screw."));
        }

        var (count, rows, points) = Positions(problems, e);
        var mark = TextRules.Optional(problems, "Mark", e.Mark, 80);
        var full = Need(problems, "Full", e.Full, Quantity.Torque, "Type the full torque with its unit, such as 150 lb ft or 85 N m.",
            null);
        var within = full is null ? null : Need(problems, "Within", e.Within, Quantity.Torque,
            "Say how far from it is right, such as 4 lb ft.", full.Unit);
        if (full is not null && (full.Si <= 0 || full.Si > 20_000))
        {
            problems.Add(new Problem("Full", "A torque is more than nothing and at most 20 000 N m. Check the unit."));
        }

        if (full is not null && within is not null && (within.Si <= 0 || within.Si > full.Si / 2))
        {
            problems.Add(new Problem("Within", "Type more than nothing, and at most half of the torque."));
        }

        var passes = Passes(problems, e.Passes);
        var threads = TextRules.Need(problems, "Threads", e.Threads,
            "Say what is on the threads: dry, oiled with what. The torque holds for that alone.", 80);
        var source = TextRules.Need(problems, "Source", e.Source, "Say where the torque comes from: book and page, or the bench.", 120);
        double? againHours = null;
        if (!string.IsNullOrWhiteSpace(e.AgainHours))
        {
            if (double.TryParse(e.AgainHours.Trim().Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture,
                out var h) && h is > 0 and <= 10_000)
            {
                againHours = h;
            }
            else
            {
                problems.Add(new Problem("AgainHours", "Type running hours as a number, such as 10, or leave it empty."));
            }
        }

        Measure? across = null;
        if (!string.IsNullOrWhiteSpace(e.Across))
        {
            across = Need(problems, "Across", e.Across, Quantity.Length, string.Empty, null);
        }

        var order = Order(problems, e, count, points);
        return problems.Count > 0 ? (null, problems) : (new BoltGroup
        {
            Name = name,
            Noun = noun,
            Shape = e.Shape,
            Count = count,
            Rows = rows,
            Points = e.Shape == BoltShape.Own ? points : [],
            PhotoId = e.Shape == BoltShape.Own ? e.PhotoId : null,
            Across = across,
            Mark = mark,
            Order = order,
            BooksOrder = !string.IsNullOrWhiteSpace(e.Order),
            Full = full!,
            Within = within!,
            Passes = passes,
            Threads = threads,
            Source = source,
            ToolId = e.ToolId,
            Again = e.Again,
            AgainHours = againHours,
            LockedBy = e.LockedBy,
        }, problems);
    }

    /// <summary>What a pass wants: the torque, or the angle, in the unit of the group.</summary>
    /// <param name="group">The group.</param>
    /// <param name="pass">The pass, from 1.</param>
    public static (Measure Target, Measure Within) Wanted(BoltGroup group, int pass)
    {
        ArgumentNullException.ThrowIfNull(group);
        var p = group.Passes[pass - 1];
        return p.Degrees is { } degrees
            ? (Of(degrees * Unit.Degree.Factor, Unit.Degree), Of(AngleWithin * Unit.Degree.Factor, Unit.Degree))
            : (Of(group.Full.Si * p.Share / 100, group.Full.Unit), group.Within);
    }

    /// <summary>Reads and judges what was typed or sent. A bare number is in the unit of the group. On the limit is within it.</summary>
    /// <param name="group">The group.</param>
    /// <param name="pass">The pass, from 1.</param>
    /// <param name="number">Place in the order, from 1.</param>
    /// <param name="text">What was typed.</param>
    public static TorqueCheck Judge(BoltGroup group, int pass, int number, string? text)
    {
        var (target, within) = Wanted(group, pass);
        var read = MeasureReader.Read((text ?? string.Empty).Trim(), target.Unit.Quantity, target.Unit);
        if (read.Value is not { } value)
        {
            return new TorqueCheck(null, TorqueEnd.Short, read.Refusal!);
        }

        // A limit is the same limit whichever unit it was typed in.
        var same = target.Si * 1e-9;
        var off = value.Si - target.Si;
        if (off < -within.Si - same)
        {
            return new TorqueCheck(value, TorqueEnd.Short,
                $"{Difference(target.Si - within.Si - value.Si, target.Unit)} short. Pull on; nothing is kept yet.");
        }

        return off > within.Si + same
            ? new TorqueCheck(value, TorqueEnd.Over,
                $"{Difference(value.Si - target.Si - within.Si, target.Unit)} over. Slacken {group.Noun} {number}, then pull it again.")
            : new TorqueCheck(value, TorqueEnd.Within, string.Empty);
    }

    /// <summary>
    /// Reads what stands on paper for one pass: readings in the order of the numbers, apart by blanks; an <c>x</c> where the sheet says only that the wrench clicked.
    /// </summary>
    /// <param name="group">The group.</param>
    /// <param name="pass">The pass, from 1.</param>
    /// <param name="from">The first number that is open in it.</param>
    /// <param name="text">As typed.</param>
    /// <returns>What was read for each number from there on, or a sentence that says what is wrong.</returns>
    public static (IReadOnlyList<(int Number, Measure Value, bool Ticked)> Pulls, string? Problem) OnPaper(BoltGroup group, int pass,
        int from, string? text)
    {
        ArgumentNullException.ThrowIfNull(group);
        var (target, _) = Wanted(group, pass);
        var words = (text ?? string.Empty).Split([' ', ',', ';', '\t', '\n', '\r'], StringSplitOptions.RemoveEmptyEntries);
        var pulls = new List<(int, Measure, bool)>();
        foreach (var word in words)
        {
            var number = from + pulls.Count;
            if (number > group.Count)
            {
                return ([], $"Pass {pass}: {words.Length} are typed and {group.Count - from + 1} are open.");
            }

            if (word is "x" or "X" or "✓")
            {
                pulls.Add((number, target, true));
                continue;
            }

            var check = Judge(group, pass, number, word);
            if (check.Value is null || check.End != TorqueEnd.Within)
            {
                return ([], $"Pass {pass}, {group.Noun} {number}, “{(word.Length > 12 ? word[..12] + "…" : word)}”: {check.Sentence}");
            }

            pulls.Add((number, check.Value, false));
        }

        return (pulls, null);
    }

    /// <summary>Why a wrench does not do for a group today, in a sentence; null when it does.</summary>
    /// <param name="group">The group.</param>
    /// <param name="tool">The wrench; null when none is chosen.</param>
    /// <param name="today">Today.</param>
    public static string? WhyNotTool(BoltGroup group, MeasuringTool? tool, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(group);
        if (tool is null)
        {
            return "No wrench is chosen.";
        }

        if (ToolRule.WhyNot(tool, today) is { } why)
        {
            return why;
        }

        // Only passes by torque ask what the wrench reads.
        var shares = group.Passes.Where(p => p.Degrees is null).Select(p => group.Full.Si * p.Share / 100).ToList();
        return shares.Count == 0 ? null
            : tool.Low is { } low && shares.Min() < low.Si * (1 - 1e-9) ? $"{tool.Name} reads from {low.Entered} on."
            : tool.High is { } high && shares.Max() > high.Si * (1 + 1e-9) ? $"{tool.Name} reads to {high.Entered}."
            : null;
    }

    private static (int Count, IReadOnlyList<int> Rows, IReadOnlyList<BoltPoint> Points) Positions(List<Problem> problems, BoltGroupEntry e)
    {
        void No(string field, string sentence) => problems.Add(new Problem(field, sentence));
        var numbers = (e.Count ?? string.Empty).Split(Apart, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(t => int.TryParse(t, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : -1).ToList();
        switch (e.Shape)
        {
            case BoltShape.Own:
                return OwnPoints(problems, e.Points);
            case BoltShape.Rows:
                if (numbers.Count == 0 || numbers.Exists(n => n < 1) || numbers.Sum() is < TorqueOrder.Fewest or > TorqueOrder.Most)
                {
                    No("Count", $"Type how many are in each row from the top, such as 5 5; {TorqueOrder.Fewest} to {TorqueOrder.Most} in all.");
                    return (0, [], []);
                }

                return (numbers.Sum(), numbers, TorqueOrder.Rows(numbers));
            case BoltShape.Mains or BoltShape.Rods:
                if (numbers is not [>= 1 and <= TorqueOrder.Most / 2])
                {
                    No("Count", $"Type how many caps there are, 1 to {TorqueOrder.Most / 2}; each has two.");
                    return (0, [], []);
                }

                return (2 * numbers[0], [], TorqueOrder.Rows([numbers[0], numbers[0]]));
            default:
                if (numbers is not [>= TorqueOrder.Fewest and <= TorqueOrder.Most])
                {
                    No("Count", $"Type how many there are, {TorqueOrder.Fewest} to {TorqueOrder.Most}.");
                    return (0, [], []);
                }

                return (numbers[0], [], TorqueOrder.Circle(numbers[0]));
        }
    }

    private static (int Count, IReadOnlyList<int> Rows, IReadOnlyList<BoltPoint> Points) OwnPoints(List<Problem> problems, string? text)
    {
        var points = new List<BoltPoint>();
        foreach (var line in (text ?? string.Empty).Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var ends = line.Split([' ', ',', ';', '\t'], StringSplitOptions.RemoveEmptyEntries);
            if (ends is not [var x, var y] || Percent(x) is not { } right || Percent(y) is not { } down)
            {
                problems.Add(new Problem("Points",
                    $"“{(line.Length > 30 ? line[..30] + "…" : line)}”: type right and down from the top left in 100, such as 12 50."));
                return (0, [], []);
            }

            points.Add(new BoltPoint((right / 50) - 1, (down / 50) - 1));
        }

        if (points.Count is < TorqueOrder.Fewest or > TorqueOrder.Most)
        {
            problems.Add(new Problem("Points", $"Give {TorqueOrder.Fewest} to {TorqueOrder.Most} points, one a line."));
            return (0, [], []);
        }

        if (points.Distinct().Count() < points.Count)
        {
            problems.Add(new Problem("Points", "Two lie at the same point."));
            return (0, [], []);
        }

        return (points.Count, [], points);
    }

    private static double? Percent(string text) =>
        double.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) && n is >= 0 and <= 100 ? n : null;

    private static IReadOnlyList<int> Order(List<Problem> problems, BoltGroupEntry e, int count, IReadOnlyList<BoltPoint> points)
    {
        if (count == 0)
        {
            return [];
        }

        if (string.IsNullOrWhiteSpace(e.Order))
        {
            return TorqueOrder.Of(e.Shape, points);
        }

        var typed = e.Order.Split(Apart, StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        var order = typed.Select(t => int.TryParse(t, NumberStyles.None, CultureInfo.InvariantCulture, out var n) ? n : -1).ToList();
        var fault = order.Contains(-1) ? "Type positions as numbers, such as 1 7 4 10, or leave it empty."
            : TorqueOrder.Fault(order, count);
        if (fault is not null)
        {
            problems.Add(new Problem("Sequence", fault));
        }

        return order;
    }

    private static List<TorquePass> Passes(List<Problem> problems, string? text)
    {
        var passes = new List<TorquePass>();
        var typed = string.IsNullOrWhiteSpace(text) ? UsualPasses : text;
        foreach (var word in typed.Split([' ', ',', ';', '%'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            var angle = word.StartsWith('+') || word.EndsWith('°');
            if (!double.TryParse(word.Trim('+', '°'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var n) || n <= 0
                || (angle ? n > 360 : n > 100))
            {
                problems.Add(new Problem("Passes", "Type the passes in 100 of the torque, such as 30 60 100; a turn further is +90°."));
                return passes;
            }

            passes.Add(angle ? new TorquePass(0, n) : new TorquePass(n));
        }

        var shares = passes.Where(p => p.Degrees is null).Select(p => p.Share).ToList();
        if (passes.Count is 0 or > MostPasses || shares.Zip(shares.Skip(1)).Any(p => p.Second < p.First))
        {
            problems.Add(new Problem("Passes", $"Give 1 to {MostPasses} passes, none with less torque than the one before."));
        }
        else if (passes[0].Degrees is not null)
        {
            problems.Add(new Problem("Passes", "Before a turn by an angle comes a pass by torque."));
        }

        return passes;
    }

    private static Measure? Need(List<Problem> problems, string field, string? text, Quantity quantity, string missing, Unit? unit)
    {
        var t = (text ?? string.Empty).Trim();
        if (t.Length == 0)
        {
            problems.Add(new Problem(field, missing));
            return null;
        }

        var read = MeasureReader.Read(t, quantity, unit);
        if (read.Value is null)
        {
            problems.Add(new Problem(field, read.Refusal!));
        }

        return read.Value;
    }

    private static Measure Of(double si, Unit unit) => new(MeasureFormat.In(si, unit), si, unit.Symbol);

    // To a tenth: finer than any wrench reads.
    private static string Difference(double si, Unit unit)
    {
        var value = Math.Ceiling((unit.FromSi(si) * 10) - 1e-6) / 10;
        return value.ToString("0.0", CultureInfo.InvariantCulture) + "\u00A0" + unit.Symbol;
    }
}
