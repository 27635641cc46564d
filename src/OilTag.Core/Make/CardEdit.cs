using System.Globalization;
using OilTag.Core.Measures;

namespace OilTag.Core.Make;

/// <summary>A stage as it is typed.</summary>
/// <param name="Id">The stage that it is; null for a new one.</param>
/// <param name="Order">Where it stands among the others, such as 2 or 2.5.</param>
/// <param name="Name">What a piece is after it; empty takes the stage away.</param>
/// <param name="Shop">Outside shop; empty for here.</param>
/// <param name="Skill">Skill.</param>
/// <param name="Machine">The shed's own machine.</param>
/// <param name="SetUp">Minutes to set up.</param>
/// <param name="Minutes">Minutes a piece: one figure, or low, likely and high.</param>
/// <param name="FirstOff">Whether the first piece is inspected.</param>
public sealed record StageEntry(Guid? Id, string? Order, string? Name, string? Shop, string? Skill, string? Machine, string? SetUp, string? Minutes, bool FirstOff);

/// <summary>A stage that was read.</summary>
/// <param name="Id">The stage that it is; null for a new one.</param>
/// <param name="Name">Name.</param>
/// <param name="Shop">Outside shop.</param>
/// <param name="Skill">Skill.</param>
/// <param name="Machine">Machine.</param>
/// <param name="SetUp">Minutes to set up.</param>
/// <param name="Low">Minutes a piece at best.</param>
/// <param name="Likely">Minutes a piece as a rule.</param>
/// <param name="High">Minutes a piece at worst.</param>
/// <param name="FirstOff">Whether the first piece is inspected.</param>
public sealed record StageRead(Guid? Id, string Name, string Shop, string Skill, string Machine, double SetUp, double Low, double Likely, double High, bool FirstOff);

/// <summary>Reads a route card as it is typed.</summary>
public static class CardEdit
{
    /// <summary>Most stages of a card.</summary>
    public const int MostStages = 30;

    /// <summary>Most items of a set.</summary>
    public const int MostItems = 60;

    /// <summary>Most pieces of one item and hand.</summary>
    public const int MostPieces = 2000;

    /// <summary>Reads stages in their order. Problems stand under <c>Stage1</c>, <c>Stage2</c> …, by the row that was typed.</summary>
    /// <param name="rows">Rows as typed.</param>
    /// <param name="problems">Gets what is wrong.</param>
    public static IReadOnlyList<StageRead> Stages(IReadOnlyList<StageEntry> rows, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(rows);
        ArgumentNullException.ThrowIfNull(problems);
        var read = new List<(double Order, StageRead Stage)>();
        foreach (var (row, i) in rows.Select((r, i) => (r, i)))
        {
            var field = $"Stage{i + 1}";
            var name = TextRules.Optional(problems, field, row.Name, 40);
            if (name.Length == 0)
            {
                continue;
            }

            var order = TextRules.Number(row.Order);
            if (order is null or > 1000)
            {
                problems.Add(new Problem(field, $"Where does “{name}” stand? Type a number such as 2, or 2.5 for between 2 and 3."));
            }

            var setUp = string.IsNullOrWhiteSpace(row.SetUp) ? 0 : TextRules.Number(row.SetUp);
            if (setUp is null or > 60_000)
            {
                problems.Add(new Problem(field, $"How many minutes does it take to set up “{name}”? Type a number."));
            }

            var (low, likely, high) = Three(row.Minutes);
            if (double.IsNaN(likely))
            {
                problems.Add(new Problem(field, $"How many minutes does a piece take to be {name.ToLowerInvariant()}? Type one number, or best, usual and worst such as 10 15 30."));
            }

            read.Add(((double)(order ?? 0), new StageRead(row.Id, name, TextRules.Optional(problems, field, row.Shop, 80), TextRules.Optional(problems, field, row.Skill, 60), TextRules.Optional(problems, field, row.Machine, 60), (double)(setUp ?? 0), low, likely, high, row.FirstOff)));
        }

        var stages = read.OrderBy(r => r.Order).Select(r => r.Stage).ToList();
        if (stages.Count is < 2 or > MostStages)
        {
            problems.Add(new Problem(string.Empty, $"A card has from 2 to {MostStages} stages; the last is the one in which the part is put on."));
        }

        if (stages.GroupBy(s => s.Name, StringComparer.OrdinalIgnoreCase).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            problems.Add(new Problem(string.Empty, $"Two stages are called “{twice.Key}”. Give each its own name."));
        }

        if (stages.Count > 0 && (stages[^1].FirstOff || stages[^1].Shop.Length > 0))
        {
            problems.Add(new Problem(string.Empty, $"“{stages[^1].Name}” is the last stage: the part is put on here, and its refit is inspected by itself."));
        }

        return stages;
    }

    /// <summary>Reads the items of a set, one a line: name, pieces for the left, pieces for the right.</summary>
    /// <param name="text">Such as "Rib 1; 4" or "Rib 1; 2; 2".</param>
    /// <param name="handed">Whether the pieces have hands.</param>
    /// <param name="problems">Gets what is wrong, under <c>Items</c>.</param>
    public static IReadOnlyList<CardItem> Items(string? text, bool handed, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var items = new List<CardItem>();
        foreach (var line in (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = line.Split(';', StringSplitOptions.TrimEntries);
            var left = parts.Length > 1 ? Whole(parts[1]) : null;
            var right = parts.Length > 2 ? Whole(parts[2]) : 0;
            if (parts.Length != (handed ? 3 : 2) || parts[0].Length is 0 or > 40 || left is null || right is null || left + right < 1)
            {
                problems.Add(new Problem("Items", handed ? $"“{line}” is not name; left; right, such as Rib 4; 2; 2." : $"“{line}” is not name; pieces, such as Rib 4; 4."));
                return [];
            }

            items.Add(new CardItem(parts[0], left.Value, right.Value));
        }

        if (items.Count > MostItems)
        {
            problems.Add(new Problem("Items", $"A set has at most {MostItems} different parts. Make two cards of it."));
        }

        if (items.GroupBy(i => i.Name, StringComparer.OrdinalIgnoreCase).Any(g => g.Count() > 1))
        {
            problems.Add(new Problem("Items", "Two of them have the same name."));
        }

        return items;
    }

    /// <summary>Items as they are typed.</summary>
    public static string ItemsText(RouteCard card)
    {
        ArgumentNullException.ThrowIfNull(card);
        return string.Join('\n', card.Items.Select(i => card.Handed ? $"{i.Name}; {i.Left}; {i.Right}" : $"{i.Name}; {i.Left}"));
    }

    /// <summary>Reads dimensions, one a line: name; least; most; stage.</summary>
    /// <param name="text">Such as "Flange height; 0.48 in; 0.52 in; Formed".</param>
    /// <param name="stages">Names of the stages in order.</param>
    /// <param name="before">Dimensions that are there, which keep their identity by name.</param>
    /// <param name="problems">Gets what is wrong, under <c>Dimensions</c>.</param>
    public static IReadOnlyList<CardDimension> Dimensions(string? text, IReadOnlyList<string> stages, IReadOnlyList<CardDimension> before, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(stages);
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(problems);
        var all = new List<CardDimension>();
        foreach (var line in (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = line.Split(';', StringSplitOptions.TrimEntries);
            if (parts.Length != 4 || parts[0].Length is 0 or > 60)
            {
                problems.Add(new Problem("Dimensions", $"“{line}” is not name; least; most; stage, such as Flange height; 0.48 in; 0.52 in; Formed."));
                return all;
            }

            var low = MeasureReader.Read(parts[1], Quantity.Length);
            var high = MeasureReader.Read(parts[2], Quantity.Length);
            var stage = Enumerable.Range(0, stages.Count).FirstOrDefault(i => string.Equals(stages[i], parts[3], StringComparison.OrdinalIgnoreCase), -1);
            if ((low.Refusal ?? high.Refusal) is { } why)
            {
                problems.Add(new Problem("Dimensions", $"“{parts[0]}”: {why}"));
            }
            else if (low.Value!.Si > high.Value!.Si)
            {
                problems.Add(new Problem("Dimensions", $"“{parts[0]}”: the least is larger than the most."));
            }
            else if (stage < 0 || stage == stages.Count - 1)
            {
                problems.Add(new Problem("Dimensions", $"“{parts[0]}”: {parts[3]} is no stage of this card before the last."));
            }
            else
            {
                all.Add(new CardDimension(before.FirstOrDefault(d => d.Name == parts[0])?.Id ?? Guid.CreateVersion7(), parts[0], stage + 1, low.Value, high.Value));
            }
        }

        if (all.GroupBy(d => d.Name, StringComparer.OrdinalIgnoreCase).Any(g => g.Count() > 1) || all.Count > 60)
        {
            problems.Add(new Problem("Dimensions", "Up to 60 dimensions, each with its own name."));
        }

        return all;
    }

    /// <summary>Dimensions as they are typed.</summary>
    public static string DimensionsText(RouteCard card)
    {
        ArgumentNullException.ThrowIfNull(card);
        return string.Join('\n', card.Dimensions.Select(d => $"{d.Name}; {d.Low.Entered}; {d.High.Entered}; {card.Stages.Find(s => s.Order == d.Stage)?.Name}"));
    }

    /// <summary>Reads tools, one a line: name; how many there are; pieces that one makes; spares; card that makes it.</summary>
    /// <param name="text">Such as "Hammer form, left; 1" or "Tap 1/2 fine; 2; 40; 1".</param>
    /// <param name="problems">Gets what is wrong, under <c>Tools</c>.</param>
    public static IReadOnlyList<CardTool> Tools(string? text, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var tools = new List<CardTool>();
        foreach (var line in (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries))
        {
            var parts = line.Split(';', StringSplitOptions.TrimEntries);
            int?[] numbers = [.. parts.Skip(1).Select(p => Whole(p.TrimStart('R', 'r')))];
            if (parts.Length is < 2 or > 5 || parts[0].Length is 0 or > 80 || numbers.Contains(null))
            {
                problems.Add(new Problem("Tools", $"“{line}” is not name; how many there are; pieces that one makes; spares; its own route card, such as Tap 1/2 fine; 2; 40; 1."));
                return tools;
            }

            int At(int i) => i < numbers.Length ? numbers[i]!.Value : 0;
            tools.Add(new CardTool(parts[0], At(0), At(1), At(2), At(3)));
        }

        return tools;
    }

    /// <summary>Tools as they are typed.</summary>
    public static string ToolsText(RouteCard card)
    {
        ArgumentNullException.ThrowIfNull(card);
        return string.Join('\n', card.Tools.Select(t => $"{t.Name}; {t.Have}; {t.Life}; {t.Spare}{(t.Card > 0 ? $"; R{t.Card}" : string.Empty)}"));
    }

    /// <summary>Minutes a piece as they are typed.</summary>
    public static string MinutesText(Stage s)
    {
        ArgumentNullException.ThrowIfNull(s);
        string N(double d) => d.ToString("0.##", CultureInfo.InvariantCulture);
        return s.PieceLikely <= 0 ? string.Empty : s.PieceLow == s.PieceHigh ? N(s.PieceLikely) : $"{N(s.PieceLow)} {N(s.PieceLikely)} {N(s.PieceHigh)}";
    }

    /// <summary>A whole number from nought to <see cref="MostPieces"/>, or null.</summary>
    public static int? Whole(string? text) => TextRules.Number(text) is { } n && n == decimal.Truncate(n) && n <= MostPieces ? (int)n : null;

    private static (double Low, double Likely, double High) Three(string? text)
    {
        var parts = (text ?? string.Empty).Split([' ', '/', ';'], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries).Where(p => p is not ("to" or "-" or "–")).Select(p => (double?)TextRules.Number(p)).ToList();
        return parts switch
        {
            [] => (0, 0, 0),
            [{ } one] when one is > 0 and <= 60_000 => (one, one, one),
            [{ } l, { } m, { } h] when l > 0 && l <= m && m <= h && h <= 60_000 => (l, m, h),
            _ => (double.NaN, double.NaN, double.NaN),
        };
    }

    /// <summary>Reads how large a piece is: length; width or diameter; height; mass, the last two when they matter. Nothing for nothing.</summary>
    public static PartSize Size(string? text, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var cells = (text ?? string.Empty).Split(';', StringSplitOptions.TrimEntries);
        if (string.IsNullOrWhiteSpace(text))
        {
            return PartSize.None;
        }

        if (cells.Length is < 2 or > 4)
        {
            problems.Add(new Problem("Size", "Type length; width or diameter; height; mass, such as 1.2 m; 410 mm; ; 85 kg. The last two may be left out."));
            return PartSize.None;
        }

        double Of(int i, Quantity quantity)
        {
            if (i >= cells.Length || cells[i].Length == 0)
            {
                return 0;
            }

            var read = MeasureReader.Read(cells[i], quantity);
            if (read.Refusal is { } no)
            {
                problems.Add(new Problem("Size", no));
            }

            return read.Value?.Si ?? 0;
        }

        return new PartSize(Of(0, Quantity.Length), Of(1, Quantity.Length), Of(2, Quantity.Length), Of(3, Quantity.Mass));
    }

    /// <summary>How large a piece is, as it is typed.</summary>
    public static string SizeText(PartSize size)
    {
        ArgumentNullException.ThrowIfNull(size);
        static string M(double metres) => metres > 0 ? MeasureFormat.Significant(metres * 1000, 6) + " mm" : string.Empty;
        return size == PartSize.None ? string.Empty : string.Join("; ", M(size.Length), M(size.Width), M(size.Height), size.Kilograms > 0 ? MeasureFormat.Significant(size.Kilograms, 5) + " kg" : string.Empty).TrimEnd(' ', ';');
    }

    /// <summary>Reads what a machine takes: swing; length; throat; oven width; height; depth; mass, those that matter.</summary>
    public static MachineSizes Machine(string? swing, string? between, string? throat, string? oven, string? carries, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        double Of(string field, string? text, Quantity quantity)
        {
            if (string.IsNullOrWhiteSpace(text))
            {
                return 0;
            }

            var read = MeasureReader.Read(text, quantity);
            if (read.Refusal is { } no)
            {
                problems.Add(new Problem(field, no));
            }

            return read.Value?.Si ?? 0;
        }

        var sides = (oven ?? string.Empty).Split(';', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (sides.Length is not (0 or 3))
        {
            problems.Add(new Problem("Oven", "Type width; height; depth, such as 600 mm; 500 mm; 900 mm."));
        }

        var inside = sides.Length == 3 ? sides.Select(s => Of("Oven", s, Quantity.Length)).ToArray() : [0, 0, 0];
        return new MachineSizes(Of("Swing", swing, Quantity.Length), Of("Between", between, Quantity.Length), Of("Throat", throat, Quantity.Length), inside[0], inside[1], inside[2], Of("Carries", carries, Quantity.Mass));
    }
}
