using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Core.Make;

/// <summary>Pieces that reached a stage, summed over the moves.</summary>
/// <param name="StageId">Stage.</param>
/// <param name="Item">Index of the item, from 0.</param>
/// <param name="Hand">Hand.</param>
/// <param name="Pieces">How many.</param>
public sealed record StageCount(Guid StageId, int Item, Hand Hand, int Pieces);

/// <summary>How pieces stand at a stage.</summary>
/// <param name="Stage">The stage.</param>
/// <param name="Reached">Pieces that reached it.</param>
/// <param name="Waiting">Pieces that reached the stage before and not this one: what can be worked on now.</param>
/// <param name="Wanted">Pieces that are wanted.</param>
/// <param name="Starved">True when work is left and nothing waits for it.</param>
/// <param name="Held">True when nothing may follow before the first piece is inspected.</param>
public sealed record StageStand(Stage Stage, int Reached, int Waiting, int Wanted, bool Starved, bool Held);

/// <summary>How many pieces of one kind have reached each stage.</summary>
public static class StageCounts
{
    /// <summary>The stages that a handed sheet-metal part goes through; the last is counted by the refit alone.</summary>
    public static readonly IReadOnlyList<string> Starting = ["Blank", "Formed", "Drilled", "Finished", "Fitted"];

    /// <summary>Why a count cannot be moved, or null when it can.</summary>
    /// <param name="reached">Pieces of this kind that have reached each stage, in order.</param>
    /// <param name="wanted">Pieces of this kind that are wanted.</param>
    /// <param name="stage">Index of the stage, from 0.</param>
    /// <param name="pieces">Plus one or minus one.</param>
    /// <param name="byRefit">True when the refit itself counts the last stage.</param>
    /// <param name="held">Whether each stage waits for its first piece to be inspected; null when none does.</param>
    public static Problem? WhyNotMove(IReadOnlyList<(string Name, int Count)> reached, int wanted, int stage, int pieces, bool byRefit = false, IReadOnlyList<bool>? held = null)
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

            if (held is not null && held[stage] && next > 1)
            {
                return new Problem("Count", $"Hold: the first one {Lower(reached[stage].Name)} is inspected before others follow, by somebody who did not make it.");
            }

            if (held is not null && stage > 0 && held[stage - 1])
            {
                return new Problem("Count", $"Hold: what is {Lower(reached[stage - 1].Name)} is not inspected yet, so it cannot go on.");
            }
        }
        else if (stage + 1 < reached.Count && reached[stage + 1].Count > next)
        {
            return new Problem("Count", $"{reached[stage + 1].Count} of this hand {(reached[stage + 1].Count == 1 ? "is" : "are")} {Lower(reached[stage + 1].Name)} already. Move that one back first.");
        }

        return null;
    }

    /// <summary>Why one piece cannot be scrapped or sent back from where it is, or null when it can.</summary>
    /// <param name="reached">Pieces of this kind that have reached each stage, in order.</param>
    /// <param name="from">Index of the stage that it has reached and not passed.</param>
    /// <param name="to">Index of the stage that it goes back to: its work is done again from there; minus one to scrap it.</param>
    public static Problem? WhyNotBack(IReadOnlyList<(string Name, int Count)> reached, int from, int to)
    {
        ArgumentNullException.ThrowIfNull(reached);
        if (from < 0 || from >= reached.Count - 1 || to < -1 || to > from)
        {
            return new Problem("From", from == reached.Count - 1 ? "A fitted piece is taken off the machine first, with a finding." : "Choose where the piece is and where it goes back to.");
        }

        if (to == from)
        {
            return new Problem("Back", "It is there already. Choose an earlier stage, or scrap it.");
        }

        return reached[from].Count - reached[from + 1].Count < 1 ? new Problem("From", $"No piece lies there {Lower(reached[from].Name)}: all of them went on.") : null;
    }

    /// <summary>Why pieces cannot be split off to a card of their own, or null when they can.</summary>
    /// <param name="reached">Pieces of this kind that have reached each stage, in order.</param>
    /// <param name="wanted">Pieces of this kind that are wanted.</param>
    /// <param name="from">Index of the stage at which they lie; minus one for those that are not begun.</param>
    /// <param name="pieces">How many.</param>
    public static Problem? WhyNotSplit(IReadOnlyList<(string Name, int Count)> reached, int wanted, int from, int pieces)
    {
        ArgumentNullException.ThrowIfNull(reached);
        if (from < -1 || from >= reached.Count - 1)
        {
            return new Problem("From", "Choose where the pieces lie now.");
        }

        var there = from < 0 ? wanted - reached[0].Count : reached[from].Count - reached[from + 1].Count;
        return pieces < 1 || pieces > there
            ? new Problem("Pieces", there == 0 ? "No pieces lie there." : $"{there} {(there == 1 ? "lies" : "lie")} there. Give a number from 1 to {there}.")
            : pieces == wanted ? new Problem("Pieces", "That is all of them. A split leaves some on the card.") : null;
    }

    /// <summary>How many wanted pieces have not reached the stage before the last.</summary>
    /// <param name="reached">Pieces at each stage, in order.</param>
    /// <param name="wanted">Pieces wanted.</param>
    public static int Unfinished(IReadOnlyList<int> reached, int wanted)
    {
        ArgumentNullException.ThrowIfNull(reached);
        return reached.Count < 2 ? 0 : Math.Max(0, wanted - reached[^2]);
    }

    /// <summary>How many wanted pieces of a whole card have not reached the stage before the last.</summary>
    /// <param name="card">The card with its stages.</param>
    /// <param name="counts">Its counts.</param>
    public static int Unfinished(RouteCard card, IReadOnlyCollection<StageCount> counts)
    {
        ArgumentNullException.ThrowIfNull(card);
        return card.Lines.Sum(l => Unfinished([.. Reached(card, counts, l).Select(r => r.Count)], l.Wanted));
    }

    /// <summary>Pieces of one kind at each stage, in order.</summary>
    /// <param name="card">The card with its stages.</param>
    /// <param name="counts">Its counts.</param>
    /// <param name="line">Which kind.</param>
    public static IReadOnlyList<(string Name, int Count)> Reached(RouteCard card, IReadOnlyCollection<StageCount> counts, CardLine line)
    {
        ArgumentNullException.ThrowIfNull(card);
        ArgumentNullException.ThrowIfNull(counts);
        return [.. card.Stages.OrderBy(s => s.Order).Select(s => (s.Name, counts.Where(c => c.StageId == s.Id && c.Item == line.Item && c.Hand == line.Hand).Sum(c => c.Pieces)))];
    }

    /// <summary>Whether each stage waits for the inspection of its first piece of one kind.</summary>
    /// <param name="card">The card with its stages.</param>
    /// <param name="inspections">First-off inspections of the card.</param>
    /// <param name="line">Which kind.</param>
    public static IReadOnlyList<bool> Held(RouteCard card, IReadOnlyCollection<FirstOff> inspections, CardLine line)
    {
        ArgumentNullException.ThrowIfNull(card);
        ArgumentNullException.ThrowIfNull(inspections);
        return [.. card.Stages.OrderBy(s => s.Order).Select(s => s.FirstOff && !inspections.Any(f => f.StageId == s.Id && f.Item == line.Item && f.Hand == line.Hand && f.Passed))];
    }

    /// <summary>How the whole card stands, stage by stage: what waits where, and what has nothing to work on.</summary>
    /// <param name="card">The card with its stages.</param>
    /// <param name="counts">Its counts.</param>
    /// <param name="inspections">Its first-off inspections.</param>
    public static IReadOnlyList<StageStand> Stand(RouteCard card, IReadOnlyCollection<StageCount> counts, IReadOnlyCollection<FirstOff> inspections)
    {
        ArgumentNullException.ThrowIfNull(card);
        var stages = card.Stages.OrderBy(s => s.Order).ToList();
        var lines = card.Lines.Select(l => (Line: l, Reached: Reached(card, counts, l), Held: Held(card, inspections, l))).ToList();
        return [.. stages.Select((s, i) =>
        {
            var reached = lines.Sum(l => l.Reached[i].Count);
            var waiting = lines.Sum(l => (i == 0 ? l.Line.Wanted : l.Reached[i - 1].Count) - l.Reached[i].Count);
            var wanted = lines.Sum(l => l.Line.Wanted);
            return new StageStand(s, reached, waiting, wanted, waiting == 0 && reached < wanted, lines.Exists(l => l.Held[i] && l.Reached[i].Count > 0));
        })];
    }

    /// <summary>What to do next on a card, in words: the last stage before one that has nothing to work on, else the first with work.</summary>
    /// <param name="stand">How the card stands.</param>
    /// <returns>A sentence, such as "Form: Drilled has nothing to work on, 6 wait".</returns>
    public static string Next(IReadOnlyList<StageStand> stand)
    {
        ArgumentNullException.ThrowIfNull(stand);
        if (stand.FirstOrDefault(s => s.Held) is { } held)
        {
            return $"Inspect the first one {Lower(held.Stage.Name)}.";
        }

        var work = stand.SkipLast(1).ToList();
        for (var i = work.Count - 1; i > 0; i--)
        {
            if (work[i].Starved && work[i - 1].Waiting > 0)
            {
                return $"{work[i - 1].Waiting} to be {Lower(work[i - 1].Stage.Name)}: {Lower(work[i].Stage.Name)} has nothing to work on.";
            }
        }

        return work.LastOrDefault(s => s.Waiting > 0) is { } next ? $"{next.Waiting} to be {Lower(next.Stage.Name)}."
            : stand.Count > 0 && stand[^1].Waiting > 0 ? $"{stand[^1].Waiting} ready to be {Lower(stand[^1].Stage.Name)}."
            : "All are fitted.";
    }

    /// <summary>What a reading says about the limits of the drawing; exactly at one of them is still within.</summary>
    /// <param name="dimension">The dimension.</param>
    /// <param name="value">The reading.</param>
    public static Verdict VerdictOf(CardDimension dimension, Measure value)
    {
        ArgumentNullException.ThrowIfNull(dimension);
        ArgumentNullException.ThrowIfNull(value);
        const double Same = 1e-9;
        var (low, high) = (value.Si - dimension.Low.Si, dimension.High.Si - value.Si);
        return low < -Same || high < -Same ? Verdict.Beyond : low <= Same || high <= Same ? Verdict.AtLimit : Verdict.Within;
    }

    /// <summary>Why the first piece cannot be passed or turned down; empty when it can.</summary>
    /// <param name="there">Pieces that lie at the stage.</param>
    /// <param name="isInspector">Whether the person is an inspector.</param>
    /// <param name="made">Whether the person moved pieces into the stage.</param>
    /// <param name="passed">True to let others follow.</param>
    /// <param name="measured">Dimensions of the stage, each with the last reading of this kind of piece; null when there is none.</param>
    public static IReadOnlyList<Problem> WhyNotPass(int there, bool isInspector, bool made, bool passed, IReadOnlyList<(CardDimension Dimension, Measure? Value)> measured)
    {
        ArgumentNullException.ThrowIfNull(measured);
        if (there < 1)
        {
            return [new Problem("Note", "No piece has come so far; there is nothing to inspect.")];
        }

        if (!isInspector)
        {
            return [new Problem("Note", "An inspector passes a first piece.")];
        }

        if (made)
        {
            return [new Problem("Note", "You moved pieces into this stage. Somebody who did not make it inspects it.")];
        }

        return passed
            ? [.. measured.Where(m => m.Value is null || VerdictOf(m.Dimension, m.Value) == Verdict.Beyond).Select(m => new Problem("Note", m.Value is null ? $"“{m.Dimension.Name}” is not measured yet." : $"“{m.Dimension.Name}” is {m.Value.Entered}, outside {m.Dimension.Low.Entered} to {m.Dimension.High.Entered}. Send it back or scrap it."))]
            : [];
    }

    private static string Lower(string s) => s.ToLowerInvariant();
}
