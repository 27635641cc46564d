using OilTag.Core.Planning;

namespace OilTag.Core.Work;

/// <summary>A piece of the length of stock that stands for a package: one step.</summary>
/// <param name="Number">Number of the step.</param>
/// <param name="Name">Its name.</param>
/// <param name="Hours">Its estimate; null when nobody has given any.</param>
/// <param name="Done">True when it is done.</param>
/// <param name="Now">True when it comes next and is begun.</param>
/// <param name="Share">Share of it that is worked, 0 to 1.</param>
public sealed record StockPiece(int Number, string Name, HoursRange? Hours, bool Done, bool Now, double Share);

/// <summary>What follows along the length: pieces side by side, a gate, or time that passes by itself.</summary>
/// <param name="Lanes">Pieces side by side, one or more; empty for a gate or a break.</param>
/// <param name="Gate">The hold; null when it is none.</param>
/// <param name="Break">Days that pass by themselves, with the word under them; null when none do.</param>
public sealed record StockPart(IReadOnlyList<StockPiece> Lanes, StockPiece? Gate, (DaysRange Days, string Word)? Break);

/// <summary>A package as one length of stock: hours along the way of the work.</summary>
/// <param name="Parts">Parts from left to right.</param>
/// <param name="WorkedMinutes">Minutes booked on the package.</param>
/// <param name="ToDo">Hours still to do.</param>
/// <param name="Unknown">Open steps that nobody has estimated.</param>
public sealed record Stock(IReadOnlyList<StockPart> Parts, int WorkedMinutes, HoursRange ToDo, int Unknown)
{
    /// <summary>The length of a package as it stands.</summary>
    /// <param name="steps">Its steps.</param>
    /// <param name="bookedMinutes">Minutes booked on it.</param>
    /// <param name="onSteps">Minutes booked on each step.</param>
    /// <param name="toDo">Hours still to do.</param>
    public static Stock Of(IEnumerable<Operation> steps, int bookedMinutes, IReadOnlyDictionary<Guid, int> onSteps, HoursRange toDo)
    {
        ArgumentNullException.ThrowIfNull(steps);
        ArgumentNullException.ThrowIfNull(onSteps);
        var all = steps.ToList();
        var next = StepOrder.Next(all).Select(o => o.Id).ToHashSet();
        var parts = new List<StockPart>();
        foreach (var group in StepOrder.Groups(all))
        {
            if (group[0].Needs.Cure is { } cure)
            {
                parts.Add(new StockPart([], null, (cure, "cures")));
            }

            if (group[0].Hold)
            {
                parts.Add(new StockPart([], Piece(group[0]), null));
                continue;
            }

            var lanes = group.Where(o => o.Needs.Elapsed is null).Select(Piece).ToList();
            if (lanes.Count > 0)
            {
                parts.Add(new StockPart(lanes, null, null));
            }

            parts.AddRange(group.Where(o => o.Needs.Elapsed is not null).Select(o => new StockPart([], null, (o.Needs.Elapsed!, o.Name))));
        }

        return new Stock(parts, bookedMinutes, toDo, all.Count(o => o.DoneAt is null && o.High <= 0 && o.Needs.Elapsed is null && !o.Hold));

        StockPiece Piece(Operation o)
        {
            var worked = onSteps.GetValueOrDefault(o.Id);
            return new StockPiece(
                o.Order, o.Name, o.High > 0 ? new HoursRange(o.Low, o.Likely, o.High) : null, o.DoneAt is not null, o.DoneAt is null
                    && next.Contains(o.Id) && worked > 0,
                o.Likely > 0 ? Math.Min(0.95, worked / 60.0 / o.Likely) : 0);
        }
    }
}
