using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Make;

/// <summary>The ordered stages to make a part, with counts per stage.</summary>
public class RouteCard
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Package it belongs to.</summary>
    public Guid PackageId { get; init; }

    /// <summary>What is made.</summary>
    public required string Part { get; set; }

    /// <summary>What it is to be made of: specification, form and size.</summary>
    public string Material { get; set; } = string.Empty;

    /// <summary>Pieces wanted for the left, or of a part without hand; of all items together.</summary>
    public int Left { get; set; }

    /// <summary>Pieces wanted for the right; of all items together.</summary>
    public int Right { get; set; }

    /// <summary>False when the part has no hand; its pieces are then counted as left.</summary>
    public bool Handed { get; set; }

    /// <summary>The different parts of a set; empty when all pieces are alike but for the hand.</summary>
    public IReadOnlyList<CardItem> Items { get; set; } = [];

    /// <summary>True when a failure could hurt somebody: another material then needs an inspector.</summary>
    public bool Critical { get; set; }

    /// <summary>How large one piece is.</summary>
    public PartSize Size { get; set; } = PartSize.None;

    /// <summary>True when each piece has a number of its own and is followed singly.</summary>
    public bool Numbered { get; set; }

    /// <summary>The card from which its pieces were split off.</summary>
    public Guid? SplitFromId { get; init; }

    /// <summary>What the shape is known from.</summary>
    public IReadOnlyList<CardEvidence> Evidence { get; set; } = [];

    /// <summary>Where two of them do not agree, and what was decided.</summary>
    public IReadOnlyList<CardConflict> Conflicts { get; set; } = [];

    /// <summary>What is measured on a piece.</summary>
    public IReadOnlyList<CardDimension> Dimensions { get; set; } = [];

    /// <summary>What has to be there to make it.</summary>
    public IReadOnlyList<CardTool> Tools { get; set; } = [];

    /// <summary>Stages in order.</summary>
    public List<Stage> Stages { get; init; } = [];

    /// <summary>Changes with every edit of the card itself; counts do not change it.</summary>
    public uint Version { get; init; }

    /// <summary>The items of the card; one without a name when all pieces are alike.</summary>
    public IReadOnlyList<CardItem> AllItems => Items.Count > 0 ? Items : [new CardItem(string.Empty, Left, Right)];

    /// <summary>Hands that are counted.</summary>
    public IReadOnlyList<Hand> Hands => Handed ? [Hand.Left, Hand.Right] : [Hand.Left];

    /// <summary>Every kind of piece with how many are wanted, in the order in which they are shown.</summary>
    public IReadOnlyList<CardLine> Lines => [.. AllItems.SelectMany((item, i) => Hands.Select(h => new CardLine(i, item.Name, h, h == Hand.Right ? item.Right : item.Left)).Where(l => l.Wanted > 0 || Items.Count == 0))];
}

/// <summary>One of the different parts of a set.</summary>
/// <param name="Name">Its name, such as "Rib 4".</param>
/// <param name="Left">Pieces wanted for the left, or without hand.</param>
/// <param name="Right">Pieces wanted for the right.</param>
public sealed record CardItem(string Name, int Left, int Right);

/// <summary>Pieces of one item and hand.</summary>
/// <param name="Item">Index of the item, from 0.</param>
/// <param name="Name">Name of the item; empty when the card has one only.</param>
/// <param name="Hand">Hand under which they are counted.</param>
/// <param name="Wanted">How many are wanted.</param>
public sealed record CardLine(int Item, string Name, Hand Hand, int Wanted);

/// <summary>One stage of a route card.</summary>
public class Stage
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Route card.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>Order, 1…n.</summary>
    public int Order { get; set; }

    /// <summary>What a piece is after this stage, such as "formed".</summary>
    public required string Name { get; set; }

    /// <summary>The shop that does it; empty when it is done here.</summary>
    public string Shop { get; set; } = string.Empty;

    /// <summary>Skill that it takes; empty for any.</summary>
    public string Skill { get; set; } = string.Empty;

    /// <summary>The shed's own machine that it takes, by the name of the equipment; empty for none.</summary>
    public string Machine { get; set; } = string.Empty;

    /// <summary>Minutes to set up, once a batch; 0 to 60,000.</summary>
    public double SetUpMinutes { get; set; }

    /// <summary>Minutes a piece at best; 0 when nobody has said.</summary>
    public double PieceLow { get; set; }

    /// <summary>Minutes a piece as a rule.</summary>
    public double PieceLikely { get; set; }

    /// <summary>Minutes a piece at worst.</summary>
    public double PieceHigh { get; set; }

    /// <summary>True when the first piece is inspected before others follow.</summary>
    public bool FirstOff { get; set; }
}

/// <summary>Why pieces were counted.</summary>
public enum MoveKind
{
    /// <summary>A piece reached the stage, or was counted back by hand.</summary>
    Count,

    /// <summary>A piece was scrapped: it is taken off every stage that it had reached.</summary>
    Scrap,

    /// <summary>A piece went back to be done again.</summary>
    Rework,

    /// <summary>Pieces went over to another card.</summary>
    Split,

    /// <summary>An outside shop said so by its link.</summary>
    Shop,
}

/// <summary>Pieces that moved into a stage. Counts are the sum of the moves and are never stored.</summary>
public class StageMove
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Stage reached.</summary>
    public Guid StageId { get; init; }

    /// <summary>Index of the item, from 0.</summary>
    public int Item { get; init; }

    /// <summary>Left or right; left for a part without hand.</summary>
    public Hand Hand { get; init; }

    /// <summary>Number of the piece on a card whose pieces are followed singly; 0 elsewhere.</summary>
    public int Piece { get; init; }

    /// <summary>How many pieces: one forward, minus one back.</summary>
    public int Pieces { get; init; }

    /// <summary>Why.</summary>
    public MoveKind Kind { get; init; }

    /// <summary>What was wrong with it, or who said so; empty for a plain count.</summary>
    public string Why { get; init; } = string.Empty;

    /// <summary>Who moved them; for a shop's report, who gave the shop its link.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>The inspection of the first piece of a stage, before others follow.</summary>
public class FirstOff
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Stage.</summary>
    public Guid StageId { get; init; }

    /// <summary>Index of the item, from 0.</summary>
    public int Item { get; init; }

    /// <summary>Hand.</summary>
    public Hand Hand { get; init; }

    /// <summary>True when others may follow.</summary>
    public bool Passed { get; init; }

    /// <summary>What was looked at and found.</summary>
    public required string Note { get; init; }

    /// <summary>Who inspected; never one who moved pieces into the stage.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Something that is measured on a piece, with its limits from the drawing.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">What, such as "flange height".</param>
/// <param name="Stage">Order of the stage after which it is measured.</param>
/// <param name="Low">Least that is allowed.</param>
/// <param name="High">Most that is allowed.</param>
public sealed record CardDimension(Guid Id, string Name, int Stage, Measure Low, Measure High);

/// <summary>A reading of a dimension on a piece.</summary>
public class CardReading
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Route card.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>Which dimension of the card.</summary>
    public Guid DimensionId { get; init; }

    /// <summary>Index of the item, from 0.</summary>
    public int Item { get; init; }

    /// <summary>Hand.</summary>
    public Hand Hand { get; init; }

    /// <summary>What was read.</summary>
    public required Measure Value { get; init; }

    /// <summary>Who read it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>Pattern, core box, hammer form, jig or special tap that a card needs.</summary>
/// <param name="Name">What it is.</param>
/// <param name="Have">How many there are.</param>
/// <param name="Life">Pieces that one makes before it is worn out; 0 when it does not wear.</param>
/// <param name="Spare">How many more to have for breakage.</param>
/// <param name="Card">Number of the route card that makes it; 0 when it is bought or there.</param>
public sealed record CardTool(string Name, int Have, int Life, int Spare, int Card)
{
    /// <summary>How many are needed for so many pieces, with those for breakage.</summary>
    /// <param name="pieces">Pieces still to be made; none need no tool.</param>
    public int Needed(int pieces) => pieces <= 0 ? 0 : (Life > 0 ? (pieces + Life - 1) / Life : 1) + Spare;
}
