using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>Parts of one name in one assembly or in its left and right twins, as one block of the depth section.</summary>
public sealed class DepthGroup
{
    /// <summary>Their slots, in the order of the breakdown.</summary>
    public required IReadOnlyList<Guid> Slots { get; init; }

    /// <summary>Name without position, such as "Stay plug".</summary>
    public required string Name { get; init; }

    /// <summary>The assembly at the top of the machine that they belong to.</summary>
    public required Guid TopId { get; init; }

    /// <summary>0 with nothing over it, else 1 + the deepest that must come off before it.</summary>
    public required int Depth { get; init; }

    /// <summary>The group that lies over it; null when nothing does.</summary>
    public DepthGroup? Over { get; internal set; }
}

/// <summary>
/// A section through a machine from the outside in. The row of a part is 0 with nothing over it, else 1 + the deepest thing that must come off before it; where it
/// has several ways in, the shallowest way counts.
/// </summary>
public static class DepthSection
{
    /// <summary>Works out the groups: everything that lies under something or over something. Parts that lie open with nothing behind them are left out.</summary>
    public static IReadOnlyList<DepthGroup> Of(AccessMap map)
    {
        ArgumentNullException.ThrowIfNull(map);
        var depth = Depths(map);
        var closing = map.Gates.SelectMany(g => g.Closing).ToHashSet();
        var slots = map.Places.Where(p => p.Kind == PlaceKind.Slot && (closing.Contains(p.Id) || depth[p.Id].Depth > 0)).OrderBy(p => map.OrderOf(p.Id)).ToList();
        var tree = new PlaceTree(map.Places);
        var groups = slots.GroupBy(p => (map.Find(p.ParentId ?? Guid.Empty)?.ParentId, PlaceNames.Bare(map.Find(p.ParentId ?? Guid.Empty)?.Name ?? string.Empty), Name: PlaceNames.Bare(p.Name))).Select(g => new DepthGroup
        {
            Slots = [.. g.Select(p => p.Id)],
            Name = g.Count() == 1 ? g.First().Name : g.Key.Name,
            TopId = tree.PathUp(g.First().Id)[^1].Id,
            Depth = g.Max(p => depth[p.Id].Depth),
        }).ToList();
        var of = groups.SelectMany(g => g.Slots.Select(s => (s, g))).ToDictionary(x => x.s, x => x.g);
        foreach (var g in groups.Where(g => g.Depth > 0))
        {
            var deepest = g.Slots.First(s => depth[s].Depth == g.Depth);

            // Under the deepest of its covers; a cover of its own name, or one that lies as deep through a twin, is none.
            g.Over = depth[deepest].Covers.Select(c => of[c]).Where(o => o != g && o.Depth < g.Depth).OrderByDescending(o => o.Depth).ThenBy(o => map.OrderOf(o.Slots[0])).FirstOrDefault();
        }

        return groups;
    }

    /// <summary>How deep each slot lies, and what lies over it on the way that counts.</summary>
    private static Dictionary<Guid, (int Depth, IReadOnlyList<Guid> Covers)> Depths(AccessMap map)
    {
        var known = new Dictionary<Guid, (int, IReadOnlyList<Guid>)>();
        var open = new HashSet<Guid>();
        (int Depth, IReadOnlyList<Guid> Covers) Of(Guid slot)
        {
            if (known.TryGetValue(slot, out var k))
            {
                return k;
            }

            // What goes round in a circle lies nowhere; it is told elsewhere and counts as open here.
            if (!open.Add(slot))
            {
                return (0, []);
            }

            var covers = new List<Guid>();
            foreach (var gate in map.GatesAt(slot))
            {
                covers.AddRange(gate.Always);
                if (gate.Ways.Count > 0)
                {
                    covers.AddRange(gate.Ways.MinBy(w => w.Max(s => Of(s).Depth))!);
                }
            }

            var depth = covers.Count == 0 ? 0 : 1 + covers.Max(c => Of(c).Depth);
            open.Remove(slot);
            return known[slot] = (depth, covers);
        }

        foreach (var p in map.Places.Where(p => p.Kind == PlaceKind.Slot))
        {
            Of(p.Id);
        }

        return known;
    }
}
