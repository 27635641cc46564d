namespace OilTag.Core.Strip;

/// <summary>A way to a place: what to take off, in an order in which it comes off.</summary>
/// <param name="Slots">Slots whose parts come off, in order; parts that are off already are not among them.</param>
/// <param name="Minutes">Minutes for all of it, at the minutes that were given for each slot.</param>
/// <param name="Exact">True when no other set costs less; false when the search was stopped first, so that this is only the best that was found.</param>
public sealed record AccessRoute(IReadOnlyList<Guid> Slots, int Minutes, bool Exact);

/// <summary>Another way, beside the cheapest.</summary>
/// <param name="Place">The place that has several ways.</param>
/// <param name="Through">The slots of this way.</param>
/// <param name="Route">The cheapest route that takes it.</param>
/// <param name="IsOpen">True when its parts are off already.</param>
public sealed record OtherRoute(Guid Place, IReadOnlyList<Guid> Through, AccessRoute Route, bool IsOpen = false);

/// <summary>
/// The cheapest set of parts to take off so that a place can be reached. Where a place has several ways, every choice is weighed: branch and bound over the
/// choices with a lower bound that shares the cost of a part among the places that could use it, so the answer is exact unless the search is stopped.
/// </summary>
public static class WayIn
{
    /// <summary>Choices that are looked at before the search stops and says so.</summary>
    public const int MostSteps = 60_000;

    /// <summary>Finds the cheapest route.</summary>
    /// <param name="map">The machine.</param>
    /// <param name="target">The place to reach.</param>
    /// <param name="off">Slots whose parts are off already. They cost nothing, but what shuts them in still counts.</param>
    /// <param name="minutes">Minutes to take the part of a slot off; nought or more.</param>
    /// <param name="through">Ways that must be taken, by place; null for free choice.</param>
    /// <param name="mostSteps">Choices to look at before stopping.</param>
    /// <param name="mostMinutes">Routes that take longer are not looked for.</param>
    /// <returns>The route, or null when parts shut each other in so that there is none, or none that is short enough.</returns>
    public static AccessRoute? Find(AccessMap map, Guid target, IReadOnlySet<Guid> off, Func<Guid, int> minutes, IReadOnlyDictionary<Guid, int>? through = null, int mostSteps = MostSteps, int mostMinutes = int.MaxValue)
    {
        ArgumentNullException.ThrowIfNull(map);
        ArgumentNullException.ThrowIfNull(off);
        ArgumentNullException.ThrowIfNull(minutes);
        return new Search(map, target, off, minutes).Run(through, mostSteps, mostMinutes);
    }

    /// <summary>Finds the cheapest route and the other ways beside it, in one go over what lies about the place.</summary>
    /// <param name="map">The machine.</param>
    /// <param name="target">The place to reach.</param>
    /// <param name="off">Slots whose parts are off already.</param>
    /// <param name="minutes">Minutes to take the part of a slot off.</param>
    /// <param name="most">How many other ways to give at most.</param>
    /// <returns>The route, or null when parts shut each other in, and the other ways.</returns>
    public static (AccessRoute? Best, IReadOnlyList<OtherRoute> Others) FindAll(AccessMap map, Guid target, IReadOnlySet<Guid> off, Func<Guid, int> minutes, int most = 4)
    {
        ArgumentNullException.ThrowIfNull(map);
        ArgumentNullException.ThrowIfNull(off);
        ArgumentNullException.ThrowIfNull(minutes);
        var search = new Search(map, target, off, minutes);
        var best = search.Run();
        return (best, best is null ? [] : Others(map, target, off, best, most, search));
    }

    /// <summary>
    /// True when a place surely takes longer than a limit: what must come off whatever way is taken is longer already. Looks no further than the limit reaches, so it
    /// is quick where the search is not.
    /// </summary>
    /// <param name="map">The machine.</param>
    /// <param name="target">The place to reach.</param>
    /// <param name="off">Slots whose parts are off already.</param>
    /// <param name="minutes">Minutes to take the part of a slot off.</param>
    /// <param name="limit">Minutes.</param>
    public static bool SurelyLonger(AccessMap map, Guid target, IReadOnlySet<Guid> off, Func<Guid, int> minutes, int limit)
    {
        ArgumentNullException.ThrowIfNull(map);
        ArgumentNullException.ThrowIfNull(off);
        ArgumentNullException.ThrowIfNull(minutes);
        var seen = new HashSet<Guid>();
        var open = new Stack<Guid>([target]);
        var sum = 0;
        while (open.TryPop(out var at))
        {
            foreach (var gate in map.GatesAt(at))
            {
                foreach (var slot in gate.Always)
                {
                    if (!seen.Add(slot))
                    {
                        continue;
                    }

                    sum += off.Contains(slot) ? 0 : Math.Max(0, minutes(slot));
                    if (sum > limit)
                    {
                        return true;
                    }

                    open.Push(slot);
                }
            }
        }

        return false;
    }

    /// <summary>Places with a choice that are looked at for other ways, the nearest to the target first.</summary>
    public const int MostChoices = 4;

    // The other ways at the places nearest to the target where the cheapest route makes a choice, cheapest first; a way that comes to the same parts is left out unless its own are off.
    private static IReadOnlyList<OtherRoute> Others(AccessMap map, Guid target, IReadOnlySet<Guid> off, AccessRoute best, int most, Search search)
    {
        var others = new List<OtherRoute>();
        var seen = new List<HashSet<Guid>> { best.Slots.ToHashSet() };
        foreach (var gate in best.Slots.Append(target).Reverse().SelectMany(map.GatesAt).DistinctBy(g => g.PlaceId).Where(g => g.Ways.Count > 1).Take(MostChoices))
        {
            for (var w = 0; w < gate.Ways.Count; w++)
            {
                // A way that the cheapest route opens anyway leads to that route again; one that is open is told even so.
                var isOpen = gate.Ways[w].All(off.Contains);
                if (!isOpen && gate.Ways[w].All(s => seen[0].Contains(s) || off.Contains(s)))
                {
                    continue;
                }

                var forced = new Dictionary<Guid, int> { [gate.PlaceId] = w };
                if (search.Run(forced) is { } route && (isOpen || !seen.Exists(s => s.SetEquals(route.Slots))))
                {
                    seen.Add(route.Slots.ToHashSet());
                    others.Add(new OtherRoute(gate.PlaceId, gate.Ways[w], route, isOpen));
                }
            }
        }

        return [.. others.OrderBy(o => o.Route.Minutes).ThenBy(o => o.Route.Slots.Count).Take(most)];
    }

    // Slots and gates that matter for one target, numbered from nought. A gate is reached by a node: a slot, or the target itself, which is the last node.
    private sealed class Search
    {
        private readonly AccessMap map;
        private readonly List<Guid> slots = [];
        private readonly Dictionary<Guid, int> index = [];
        private readonly List<AccessMap.Gate> gates = [];
        private readonly Dictionary<Guid, int> gateIndex = [];
        private readonly List<int[]> gatesOfNode = [];
        private readonly int[] cost;
        private readonly int[][] always;
        private readonly int[][][] ways;

        // All that a way takes whatever else is chosen: its slots and what must always be off before them.
        private readonly int[][][] closures;
        private readonly int[] users;
        private readonly int[] waits;
        private readonly int[] stack;
        private readonly int?[] forced;
        private readonly int target;
        private int mostSteps;
        private int steps;
        private int best;
        private bool[]? bestNeeded;
        private int[]? bestChoice;

        public Search(AccessMap map, Guid targetId, IReadOnlySet<Guid> off, Func<Guid, int> minutes)
        {
            this.map = map;

            // Breadth first from the target over everything that any way could ask for.
            var open = new Queue<(Guid Id, int? Slot)>();
            int Slot(Guid id)
            {
                if (!index.TryGetValue(id, out var i))
                {
                    i = index[id] = slots.Count;
                    slots.Add(id);
                    gatesOfNode.Add([]);
                    open.Enqueue((id, i));
                }

                return i;
            }

            int[] targetGates = [];
            open.Enqueue((targetId, null));
            while (open.TryDequeue(out var node))
            {
                var at = new List<int>();
                foreach (var gate in map.GatesAt(node.Id))
                {
                    if (!gateIndex.TryGetValue(gate.PlaceId, out var g))
                    {
                        g = gateIndex[gate.PlaceId] = gates.Count;
                        gates.Add(gate);
                        foreach (var s in gate.Always.Concat(gate.Ways.SelectMany(w => w)))
                        {
                            Slot(s);
                        }
                    }

                    at.Add(g);
                }

                if (node.Slot is { } i)
                {
                    gatesOfNode[i] = [.. at];
                }
                else
                {
                    targetGates = [.. at];
                }
            }

            target = slots.Count;
            gatesOfNode.Add(targetGates);
            cost = [.. slots.Select(s => off.Contains(s) ? 0 : Math.Max(0, minutes(s))), 0];
            always = [.. gates.Select(g => g.Always.Select(s => index[s]).ToArray())];
            ways = [.. gates.Select(g => g.Ways.Select(w => w.Select(s => index[s]).ToArray()).ToArray())];
            forced = new int?[gates.Count];
            Off = [.. slots.Select(off.Contains), false];
            users = new int[target + 1];
            waits = new int[target + 1];
            stack = new int[target + 1];
            closures = [.. ways.Select(g => g.Select(Closure).ToArray())];
        }

        private bool[] Off { get; }

        public AccessRoute? Run(IReadOnlyDictionary<Guid, int>? through = null, int most = MostSteps, int mostMinutes = int.MaxValue)
        {
            for (var g = 0; g < gates.Count; g++)
            {
                forced[g] = through is not null && through.TryGetValue(gates[g].PlaceId, out var way) ? way : null;
            }

            (mostSteps, steps, bestNeeded, bestChoice) = (most, 0, null, null);
            best = mostMinutes == int.MaxValue ? int.MaxValue : mostMinutes + 1;
            var needed = new bool[target + 1];
            var choice = new int[gates.Count];
            Array.Fill(choice, -1);
            var spent = Need(target, needed);
            if (!Circular(needed, choice))
            {
                Branch(needed, choice, spent);
            }

            if (bestNeeded is null)
            {
                return null;
            }

            return new AccessRoute([.. Order(bestNeeded, bestChoice!).Where(i => !Off[i]).Select(i => slots[i])], best, steps < mostSteps);
        }

        // Marks a node and all that must always be off before it, and says what that adds.
        private int Need(int node, bool[] needed)
        {
            var minutes = 0;
            var open = new Stack<int>([node]);
            while (open.TryPop(out var at))
            {
                if (needed[at])
                {
                    continue;
                }

                needed[at] = true;
                minutes += cost[at];
                foreach (var g in gatesOfNode[at])
                {
                    foreach (var s in always[g])
                    {
                        open.Push(s);
                    }
                }
            }

            return minutes;
        }

        private int[] Closure(int[] way)
        {
            var all = new bool[target + 1];
            foreach (var s in way)
            {
                Need(s, all);
            }

            return [.. Enumerable.Range(0, target).Where(i => all[i])];
        }

        private void Branch(bool[] needed, int[] choice, int spent)
        {
            if (steps++ >= mostSteps || spent + Bound(needed, choice, out var gate) >= best)
            {
                return;
            }

            if (gate < 0)
            {
                (best, bestNeeded, bestChoice) = (spent, needed, [.. choice]);
                return;
            }

            var tries = new List<(int Way, bool[] Needed, int Minutes)>();
            for (var w = 0; w < ways[gate].Length; w++)
            {
                if (forced[gate] is { } only && only != w)
                {
                    continue;
                }

                var more = (bool[])needed.Clone();
                var minutes = 0;
                foreach (var s in ways[gate][w])
                {
                    minutes += Need(s, more);
                }

                tries.Add((w, more, minutes));
            }

            foreach (var (way, more, minutes) in tries.OrderBy(t => t.Minutes).ThenBy(t => t.Way))
            {
                choice[gate] = way;
                if (!Circular(more, choice))
                {
                    Branch(more, choice, spent + minutes);
                }

                choice[gate] = -1;
            }
        }

        /// <summary>
        /// What the open choices cost at the least: each takes its cheapest way with all that this always takes, and the cost of a part is shared among the
        /// choices that could use it. Names the open choice whose two best ways differ most, so that a wrong turn is soon too dear.
        /// </summary>
        private int Bound(bool[] needed, int[] choice, out int gate)
        {
            gate = -1;
            var open = new List<int>();
            var seen = new bool[gates.Count];
            for (var i = 0; i <= target; i++)
            {
                if (!needed[i])
                {
                    continue;
                }

                foreach (var g in gatesOfNode[i])
                {
                    if (ways[g].Length > 0 && choice[g] < 0 && !seen[g])
                    {
                        seen[g] = true;
                        open.Add(g);
                    }
                }
            }

            if (open.Count == 0)
            {
                return 0;
            }

            Array.Clear(users);
            var last = new int[target + 1];
            foreach (var g in open)
            {
                foreach (var way in closures[g])
                {
                    foreach (var s in way)
                    {
                        // Once a choice, in however many of its ways it stands.
                        if (last[s] != g + 1)
                        {
                            last[s] = g + 1;
                            users[s]++;
                        }
                    }
                }
            }

            var sum = 0.0;
            var widest = -1.0;
            foreach (var g in open)
            {
                double least = double.MaxValue, second = double.MaxValue;
                for (var w = 0; w < closures[g].Length; w++)
                {
                    if (forced[g] is { } only && only != w)
                    {
                        continue;
                    }

                    var c = 0.0;
                    foreach (var s in closures[g][w])
                    {
                        c += needed[s] ? 0 : (double)cost[s] / users[s];
                    }

                    (least, second) = c < least ? (c, least) : (least, Math.Min(second, c));
                }

                sum += least;
                var gap = second == double.MaxValue ? double.MaxValue : second - least;
                if (gap > widest)
                {
                    (widest, gate) = (gap, g);
                }
            }

            return (int)Math.Ceiling(sum - 1e-6);
        }

        private IEnumerable<int> Before(int node, int[] choice)
        {
            foreach (var g in gatesOfNode[node])
            {
                foreach (var s in always[g])
                {
                    yield return s;
                }

                if (choice[g] >= 0)
                {
                    foreach (var s in ways[g][choice[g]])
                    {
                        yield return s;
                    }
                }
            }
        }

        // True when some of the needed slots wait for each other: taking off one after the other does not come to an end of them.
        private bool Circular(bool[] needed, int[] choice)
        {
            // Each slot waits for how many; those that wait for none come off and free the others. The edges run from a slot to what it waits for, so it is done
            // from the far end: a slot is finished when all that wait for it are.
            Array.Clear(waits);
            var count = 0;
            for (var i = 0; i < target; i++)
            {
                if (needed[i])
                {
                    count++;
                    foreach (var s in Before(i, choice))
                    {
                        waits[s]++;
                    }
                }
            }

            var top = 0;
            for (var i = 0; i < target; i++)
            {
                if (needed[i] && waits[i] == 0)
                {
                    stack[top++] = i;
                }
            }

            while (top > 0)
            {
                var at = stack[--top];
                count--;
                foreach (var s in Before(at, choice))
                {
                    if (--waits[s] == 0 && needed[s])
                    {
                        stack[top++] = s;
                    }
                }
            }

            return count > 0;
        }

        // The needed slots, each after what must be off before it; shorter when some shut each other in. Ties follow the breakdown.
        private List<int> Order(bool[] needed, int[] choice)
        {
            var open = new int[target + 1];
            var frees = new Dictionary<int, List<int>>();
            for (var i = 0; i < target; i++)
            {
                if (needed[i])
                {
                    foreach (var s in Before(i, choice).Distinct())
                    {
                        open[i]++;
                        if (!frees.TryGetValue(s, out var list))
                        {
                            frees[s] = list = [];
                        }

                        list.Add(i);
                    }
                }
            }

            var ready = new PriorityQueue<int, int>();
            for (var i = 0; i < target; i++)
            {
                if (needed[i] && open[i] == 0)
                {
                    ready.Enqueue(i, map.OrderOf(slots[i]));
                }
            }

            var order = new List<int>();
            while (ready.TryDequeue(out var at, out _))
            {
                order.Add(at);
                foreach (var next in frees.GetValueOrDefault(at) ?? [])
                {
                    if (--open[next] == 0)
                    {
                        ready.Enqueue(next, map.OrderOf(slots[next]));
                    }
                }
            }

            return order;
        }
    }
}
