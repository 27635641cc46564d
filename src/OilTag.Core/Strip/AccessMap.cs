using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>
/// What must be off before what, over one machine: its breakdown with every <see cref="Precedence"/>. A condition of an assembly holds for everything in it,
/// except for the parts that close it. Pure; the caller loads places and conditions.
/// </summary>
public sealed class AccessMap
{
    private readonly Dictionary<Guid, PlaceNode> places;
    private readonly Dictionary<Guid, int> order;
    private readonly Dictionary<Guid, Gate> gates;
    private readonly Dictionary<Guid, IReadOnlyList<Gate>> gatesAt = [];
    private readonly List<Precedence> conditions;

    /// <summary>Builds the map.</summary>
    /// <param name="places">Places of one machine in the order of its breakdown.</param>
    /// <param name="conditions">What must be off before what. A condition that names a place which is not there is passed over.</param>
    public AccessMap(IEnumerable<PlaceNode> places, IEnumerable<Precedence> conditions)
    {
        ArgumentNullException.ThrowIfNull(places);
        ArgumentNullException.ThrowIfNull(conditions);
        this.places = [];
        order = [];
        foreach (var p in places)
        {
            this.places[p.Id] = p;
            order[p.Id] = order.Count;
        }

        this.conditions = [.. conditions];
        gates = this.conditions
            .Where(c => this.places.ContainsKey(c.FirstSlotId) && this.places.ContainsKey(c.ThenId) && c.FirstSlotId != c.ThenId)
            .GroupBy(c => c.ThenId)
            .ToDictionary(g => g.Key, g => new Gate(
                g.Key,
                [.. g.Where(c => c.Way == 0).Select(c => c.FirstSlotId).Distinct().OrderBy(s => order[s])],
                [.. g.Where(c => c.Way > 0).GroupBy(c => c.Way).OrderBy(w => w.Key).Select(w => (IReadOnlyList<Guid>)[.. w.Select(c => c.FirstSlotId).Distinct().OrderBy(s => order[s])])],
                g.Select(c => c.FirstSlotId).ToHashSet()));
    }

    /// <summary>The conditions of one place.</summary>
    /// <param name="PlaceId">Place.</param>
    /// <param name="Always">Slots whose parts must be off whatever way is taken.</param>
    /// <param name="Ways">Ways in, each a set of slots that must be off together; one of them must be open. Empty when there is no choice.</param>
    /// <param name="Closing">All slots of these conditions; they are not behind themselves.</param>
    public sealed record Gate(Guid PlaceId, IReadOnlyList<Guid> Always, IReadOnlyList<IReadOnlyList<Guid>> Ways, IReadOnlySet<Guid> Closing);

    /// <summary>The same machine with more conditions.</summary>
    public AccessMap With(IEnumerable<Precedence> more) => new(places.Values.OrderBy(p => order[p.Id]), conditions.Concat(more));

    /// <summary>All places.</summary>
    public IReadOnlyCollection<PlaceNode> Places => places.Values;

    /// <summary>Places that have conditions.</summary>
    public IReadOnlyCollection<Gate> Gates => gates.Values;

    /// <summary>A place, or null when it is not on this machine.</summary>
    public PlaceNode? Find(Guid id) => places.GetValueOrDefault(id);

    /// <summary>Where a place stands in the breakdown; decides ties.</summary>
    public int OrderOf(Guid id) => order.GetValueOrDefault(id, int.MaxValue);

    /// <summary>The conditions that hold at a place: its own and those of the assemblies above it.</summary>
    public IReadOnlyList<Gate> GatesAt(Guid id)
    {
        if (gatesAt.TryGetValue(id, out var known))
        {
            return known;
        }

        var found = new List<Gate>();
        var seen = new HashSet<Guid>();
        Guid? at = id;
        while (at is { } g && seen.Add(g) && places.TryGetValue(g, out var node))
        {
            if (gates.TryGetValue(g, out var gate) && !gate.Closing.Contains(id))
            {
                found.Add(gate);
            }

            at = node.ParentId;
        }

        return gatesAt[id] = found;
    }

    /// <summary>
    /// The places that can be reached with these parts off and no others. A part that is off opens nothing while something shuts in the place it came from.
    /// </summary>
    /// <param name="off">Slots whose parts are off.</param>
    public IReadOnlySet<Guid> Reachable(IReadOnlySet<Guid> off)
    {
        var flow = new Flow(this);
        foreach (var slot in off)
        {
            flow.TakeOff(slot);
        }

        return places.Keys.Where(flow.IsOpen).ToHashSet();
    }

    /// <summary>What goes out of reach when the part of a slot goes on: reached now, and not with it on.</summary>
    /// <param name="slot">The slot whose part goes on.</param>
    /// <param name="off">Slots whose parts are off now.</param>
    public IReadOnlySet<Guid> BuriedBy(Guid slot, IReadOnlySet<Guid> off)
    {
        ArgumentNullException.ThrowIfNull(off);
        var before = Reachable(off.Append(slot).ToHashSet());
        var after = Reachable(off.Where(s => s != slot).ToHashSet());
        return before.Where(p => !after.Contains(p) && p != slot).ToHashSet();
    }

    /// <summary>The places that have a gate with this slot in it and everything that hangs under them: what it closes over, whatever else is open.</summary>
    public IReadOnlySet<Guid> ClosedOverBy(Guid slot) => places.Keys.Where(p => p != slot && GatesAt(p).Any(g => g.Closing.Contains(slot))).ToHashSet();

    /// <summary>
    /// Slots that always shut each other in, so that neither can come off first; null when there are none. Only what must always be off counts: among ways
    /// there is a choice.
    /// </summary>
    public IReadOnlyList<Guid>? Circle()
    {
        var state = new Dictionary<Guid, int>();
        var path = new List<Guid>();
        IReadOnlyList<Guid>? Visit(Guid slot)
        {
            state[slot] = 1;
            path.Add(slot);
            foreach (var first in GatesAt(slot).SelectMany(g => g.Always))
            {
                if (state.GetValueOrDefault(first) == 1)
                {
                    return path[path.IndexOf(first)..];
                }

                if (state.GetValueOrDefault(first) == 0 && Visit(first) is { } circle)
                {
                    return circle;
                }
            }

            path.RemoveAt(path.Count - 1);
            state[slot] = 2;
            return null;
        }

        foreach (var slot in gates.Values.SelectMany(g => g.Closing).Distinct().OrderBy(OrderOf))
        {
            if (state.GetValueOrDefault(slot) == 0 && Visit(slot) is { } circle)
            {
                return circle;
            }
        }

        return null;
    }

    /// <summary>
    /// Follows what opens as parts come off one after the other. Each part and each condition is looked at once, so the whole is linear in the conditions.
    /// </summary>
    public sealed class Flow
    {
        private readonly AccessMap map;
        private readonly HashSet<Guid> off = [];
        private readonly HashSet<Guid> openGates = [];
        private readonly Dictionary<Guid, int> always = [];
        private readonly Dictionary<Guid, int[]> ways = [];
        private readonly Dictionary<Guid, List<Gate>> gatesOf = [];
        private readonly Dictionary<Guid, List<Guid>> slotsBehind = [];
        private readonly Dictionary<Guid, int> shutBy = [];
        private readonly HashSet<Guid> through = [];
        private readonly Dictionary<Guid, int> wayTaken = [];

        /// <summary>Nothing is off yet.</summary>
        /// <param name="map">The machine.</param>
        /// <param name="watched">Slots to hear of when they open, beside those that conditions name.</param>
        public Flow(AccessMap map, IEnumerable<Guid>? watched = null)
        {
            ArgumentNullException.ThrowIfNull(map);
            this.map = map;
            foreach (var gate in map.gates.Values)
            {
                always[gate.PlaceId] = gate.Always.Count + (gate.Ways.Count > 0 ? 1 : 0);
                ways[gate.PlaceId] = [.. gate.Ways.Select(w => w.Count)];
                foreach (var slot in gate.Closing)
                {
                    if (!gatesOf.TryGetValue(slot, out var list))
                    {
                        gatesOf[slot] = list = [];
                    }

                    list.Add(gate);
                }
            }

            foreach (var slot in gatesOf.Keys.Concat(watched ?? []).Distinct())
            {
                var at = map.GatesAt(slot);
                shutBy[slot] = at.Count;
                foreach (var gate in at)
                {
                    if (!slotsBehind.TryGetValue(gate.PlaceId, out var list))
                    {
                        slotsBehind[gate.PlaceId] = list = [];
                    }

                    list.Add(slot);
                }
            }
        }

        /// <summary>Called with each watched slot that opens after the start.</summary>
        public Action<Guid>? Opened { get; set; }

        /// <summary>True when nothing shuts the place in.</summary>
        public bool IsOpen(Guid place) => shutBy.TryGetValue(place, out var n) ? n == 0 : map.GatesAt(place).All(g => openGates.Contains(g.PlaceId));

        /// <summary>The way by which a place with ways was opened first, as an index; null when it has none or is shut.</summary>
        public int? WayTaken(Guid place) => wayTaken.TryGetValue(place, out var w) ? w : null;

        /// <summary>Records that the part of a slot is off.</summary>
        public void TakeOff(Guid slot)
        {
            if (off.Add(slot) && IsOpen(slot))
            {
                Pass(slot);
            }
        }

        // A slot that is off and open lets through; what that opens may let through in turn.
        private void Pass(Guid start)
        {
            var queue = new Queue<Guid>([start]);
            while (queue.TryDequeue(out var slot))
            {
                if (!through.Add(slot) || !gatesOf.TryGetValue(slot, out var shut))
                {
                    continue;
                }

                foreach (var gate in shut)
                {
                    Release(gate, slot, queue);
                }
            }
        }

        private void Release(Gate gate, Guid slot, Queue<Guid> queue)
        {
            if (gate.Always.Contains(slot))
            {
                always[gate.PlaceId]--;
            }

            for (var w = 0; w < gate.Ways.Count; w++)
            {
                if (gate.Ways[w].Contains(slot) && --ways[gate.PlaceId][w] == 0 && wayTaken.TryAdd(gate.PlaceId, w))
                {
                    always[gate.PlaceId]--;
                }
            }

            if (always[gate.PlaceId] > 0 || !openGates.Add(gate.PlaceId))
            {
                return;
            }

            foreach (var behind in slotsBehind.GetValueOrDefault(gate.PlaceId) ?? [])
            {
                if (--shutBy[behind] > 0)
                {
                    continue;
                }

                Opened?.Invoke(behind);
                if (off.Contains(behind))
                {
                    queue.Enqueue(behind);
                }
            }
        }
    }
}
