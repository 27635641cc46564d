using NodaTime;
using OilTag.Core.Machines;

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

    /// <summary>What it is made of.</summary>
    public string Material { get; set; } = string.Empty;

    /// <summary>Pieces wanted for the left, or of a part without hand.</summary>
    public int Left { get; init; }

    /// <summary>Pieces wanted for the right.</summary>
    public int Right { get; init; }

    /// <summary>False when the part has no hand; its pieces are then counted as left.</summary>
    public bool Handed { get; init; }

    /// <summary>Stages in order.</summary>
    public List<Stage> Stages { get; init; } = [];
}

/// <summary>One stage of a route card.</summary>
public class Stage
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Route card.</summary>
    public Guid RouteCardId { get; init; }

    /// <summary>Order, 1…n.</summary>
    public int Order { get; init; }

    /// <summary>What a piece is after this stage, such as "formed".</summary>
    public required string Name { get; init; }
}

/// <summary>Pieces that moved into a stage. Counts are the sum of the moves and are never stored.</summary>
public class StageMove
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Stage reached.</summary>
    public Guid StageId { get; init; }

    /// <summary>Left or right; left for a part without hand.</summary>
    public Hand Hand { get; init; }

    /// <summary>How many pieces: one forward, minus one back.</summary>
    public int Pieces { get; init; }

    /// <summary>Who moved them.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>How many pieces of one hand have reached each stage.</summary>
public static class StageCounts
{
    /// <summary>The stages that a handed sheet-metal part goes through; the last is counted by the refit alone.</summary>
    public static readonly IReadOnlyList<string> Starting = ["Blank", "Formed", "Drilled", "Finished", "Fitted"];

    /// <summary>Why a count cannot be moved, or null when it can.</summary>
    /// <param name="reached">Pieces of this hand that have reached each stage, in order.</param>
    /// <param name="wanted">Pieces of this hand that are wanted.</param>
    /// <param name="stage">Index of the stage, from 0.</param>
    /// <param name="pieces">Plus one or minus one.</param>
    /// <param name="byRefit">True when the refit itself counts the last stage.</param>
    public static Problem? WhyNotMove(IReadOnlyList<(string Name, int Count)> reached, int wanted, int stage, int pieces, bool byRefit = false)
    {
        ArgumentNullException.ThrowIfNull(reached);
        if (stage < 0 || stage >= reached.Count || pieces is not (1 or -1))
        {
            return new Problem("Count", "That stage is not on this card. Open the card again.");
        }

        if (stage == reached.Count - 1 && !byRefit)
        {
            return new Problem("Count", $"{reached[stage].Name} is counted when the part is put back on. Open its tag.");
        }

        var next = reached[stage].Count + pieces;
        if (next < 0)
        {
            return new Problem("Count", $"No piece is {Lower(reached[stage].Name)}, so none can go back.");
        }

        if (pieces > 0)
        {
            var before = stage == 0 ? wanted : reached[stage - 1].Count;
            if (next > before)
            {
                return new Problem("Count", stage == 0
                    ? $"{wanted} wanted and {reached[0].Count} blanked. More than that are not on this card."
                    : $"Only {before} of this hand {(before == 1 ? "is" : "are")} {Lower(reached[stage - 1].Name)}, so {next} cannot be {Lower(reached[stage].Name)}.");
            }
        }
        else if (stage + 1 < reached.Count && reached[stage + 1].Count > next)
        {
            return new Problem("Count", $"{reached[stage + 1].Count} of this hand {(reached[stage + 1].Count == 1 ? "is" : "are")} {Lower(reached[stage + 1].Name)} already. Move that one back first.");
        }

        return null;
    }

    /// <summary>How many wanted pieces have not reached the stage before the last.</summary>
    /// <param name="reached">Pieces at each stage, in order.</param>
    /// <param name="wanted">Pieces wanted.</param>
    public static int Unfinished(IReadOnlyList<int> reached, int wanted)
    {
        ArgumentNullException.ThrowIfNull(reached);
        return reached.Count < 2 ? 0 : Math.Max(0, wanted - reached[^2]);
    }

    private static string Lower(string s) => s.ToLowerInvariant();
}
