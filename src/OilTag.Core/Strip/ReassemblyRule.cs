namespace OilTag.Core.Strip;

/// <summary>One step of putting a machine together again.</summary>
/// <param name="Step">1 for the first.</param>
/// <param name="Slot">The slot whose part goes on.</param>
/// <param name="StripOrder">The how-manieth removal it was; null when the part has no strip entry.</param>
/// <param name="Last">The part behind it that goes on last before it; null when nothing has to be on before.</param>
/// <param name="Shuts">The place that it shuts, when <paramref name="Last"/> is behind that.</param>
/// <param name="Again">True when it is on now and has to come off once more first.</param>
public sealed record RefitStep(int Step, Guid Slot, int? StripOrder, Guid? Last, Guid? Shuts, bool Again);

/// <summary>The order in which everything that is off goes back on.</summary>
/// <param name="Steps">Steps in order.</param>
/// <param name="OffFirst">Parts that are on and in the way: they come off again before the first step, in this order.</param>
/// <param name="Impossible">Slots that shut each other in, so that no order exists for them.</param>
public sealed record Reassembly(IReadOnlyList<RefitStep> Steps, IReadOnlyList<Guid> OffFirst, IReadOnlyList<Guid> Impossible);

/// <summary>
/// Derives the reassembly: the strip order reversed, corrected so that nothing goes on while something behind it is still to be fitted. It takes the machine
/// apart in thought, always the part that came off earliest among those that can come off, and reads the result backwards; so each step can be
/// reached when its turn comes.
/// </summary>
public static class ReassemblyRule
{
    /// <summary>Derives the order.</summary>
    /// <param name="map">The machine.</param>
    /// <param name="off">Slots whose parts are off, with the order of their removal where there is one.</param>
    /// <param name="minutes">Minutes to take a part off, for parts that are in the way.</param>
    public static Reassembly Of(AccessMap map, IReadOnlyCollection<(Guid Slot, int? StripOrder)> off, Func<Guid, int> minutes)
    {
        ArgumentNullException.ThrowIfNull(map);
        ArgumentNullException.ThrowIfNull(off);
        var strip = off.ToDictionary(o => o.Slot, o => o.StripOrder);
        var again = new List<Guid>();
        var impossible = new HashSet<Guid>();
        while (true)
        {
            var (order, flow) = TakeApart(map, strip);
            var stuck = strip.Keys.Where(s => !impossible.Contains(s)).Except(order).OrderBy(s => strip[s] ?? int.MaxValue).ThenBy(map.OrderOf).ToList();
            if (stuck.Count == 0)
            {
                // What came off again for one part may be needless once more is off for another.
                foreach (var s in again.OrderByDescending(minutes).ThenBy(map.OrderOf).ToList())
                {
                    strip.Remove(s);
                    var (less, other) = TakeApart(map, strip);
                    if (strip.Keys.Where(k => !impossible.Contains(k)).Except(less).Any())
                    {
                        strip[s] = null;
                        continue;
                    }

                    again.Remove(s);
                    (order, flow) = (less, other);
                }

                return new Reassembly(Steps(map, strip, order, flow, again), [.. order.Where(again.Contains)], [.. impossible.OrderBy(map.OrderOf)]);
            }

            // Something that is on shuts it in: the cheapest of it comes off again.
            var route = WayIn.Find(map, stuck[0], strip.Keys.ToHashSet(), minutes);
            if (route is null || route.Slots.Count == 0)
            {
                impossible.Add(stuck[0]);
                continue;
            }

            foreach (var s in route.Slots)
            {
                again.Add(s);
                strip[s] = null;
            }
        }
    }

    private static (List<Guid> Order, AccessMap.Flow Flow) TakeApart(AccessMap map, Dictionary<Guid, int?> strip)
    {
        var flow = new AccessMap.Flow(map, strip.Keys);
        var ready = new PriorityQueue<Guid, (int, int)>();
        void Add(Guid s)
        {
            if (strip.TryGetValue(s, out var order))
            {
                ready.Enqueue(s, (order ?? int.MaxValue, map.OrderOf(s)));
            }
        }

        foreach (var s in strip.Keys.Where(flow.IsOpen))
        {
            Add(s);
        }

        flow.Opened = Add;
        var taken = new List<Guid>();
        while (ready.TryDequeue(out var slot, out _))
        {
            taken.Add(slot);
            flow.TakeOff(slot);
        }

        return (taken, flow);
    }

    private static List<RefitStep> Steps(AccessMap map, Dictionary<Guid, int?> strip, List<Guid> order, AccessMap.Flow flow, List<Guid> again)
    {
        var at = new Dictionary<Guid, int>();
        for (var i = 0; i < order.Count; i++)
        {
            at[order[i]] = i;
        }

        // For each part the one behind it that came off soonest after it, which is the one that goes on last before it.
        var last = new Dictionary<Guid, (Guid Slot, Guid Place)>();
        foreach (var behind in order)
        {
            foreach (var gate in map.GatesAt(behind))
            {
                foreach (var front in gate.Always.Concat(flow.WayTaken(gate.PlaceId) is { } w ? gate.Ways[w] : []))
                {
                    if (at.ContainsKey(front) && (!last.TryGetValue(front, out var known) || at[behind] < at[known.Slot]))
                    {
                        last[front] = (behind, gate.PlaceId);
                    }
                }
            }
        }

        var steps = new List<RefitStep>();
        for (var i = order.Count - 1; i >= 0; i--)
        {
            var behind = last.TryGetValue(order[i], out var l) ? l : ((Guid Slot, Guid Place)?)null;
            steps.Add(new RefitStep(order.Count - i, order[i], strip[order[i]], behind?.Slot, behind?.Place, again.Contains(order[i])));
        }

        return steps;
    }
}
