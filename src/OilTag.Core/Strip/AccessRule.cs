using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>Checks what a lead says about access.</summary>
public static class AccessRule
{
    /// <summary>Greatest number of a way.</summary>
    public const int MostWays = 9;

    /// <summary>What is wrong with new conditions; empty when they can be recorded.</summary>
    /// <param name="map">The machine as it is.</param>
    /// <param name="placeId">The place that is to be reached.</param>
    /// <param name="slots">Slots whose parts must be off.</param>
    /// <param name="way">0 for always; 1 to 9 for one of several ways.</param>
    /// <param name="fresh">The conditions that are not on record yet.</param>
    public static IReadOnlyList<Problem> Check(AccessMap map, Guid placeId, IReadOnlyList<Guid> slots, int way, IReadOnlyList<Precedence> fresh)
    {
        ArgumentNullException.ThrowIfNull(map);
        ArgumentNullException.ThrowIfNull(slots);
        ArgumentNullException.ThrowIfNull(fresh);
        if (slots.Count == 0)
        {
            return [new Problem("Slots", "Choose what must be off.")];
        }

        if (way is < 0 or > MostWays)
        {
            return [new Problem("Way", $"Ways are numbered from 1 to {MostWays}.")];
        }

        foreach (var slot in slots)
        {
            if (map.Find(slot) is not { Kind: PlaceKind.Slot } node)
            {
                return [new Problem("Slots", "That is no part of this machine. Choose it again.")];
            }

            if (slot == placeId)
            {
                return [new Problem("Slots", $"{node.Name} cannot be off before itself.")];
            }
        }

        if (fresh.Count == 0)
        {
            return [new Problem("Slots", "That is on record already.")];
        }

        var after = map.With(fresh);
        return after.Circle() is { } circle
            ? [new Problem("Slots", $"That goes round in a circle: {string.Join(", ", circle.Select(s => map.Find(s)!.Name))} would each wait for the other.")]
            : [];
    }
}
