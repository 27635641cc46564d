namespace OilTag.Core.Strip;

/// <summary>A finding or package at a place, for what could be done while it is open.</summary>
/// <param name="PlaceId">Place.</param>
/// <param name="What">What it is, in words.</param>
/// <param name="Link">Page.</param>
public sealed record Job(Guid PlaceId, string What, string Link);

/// <summary>One part that comes off.</summary>
/// <param name="Slot">Slot.</param>
/// <param name="Time">How long and where the figure comes from.</param>
public sealed record ReachStep(Guid Slot, StripTime Time);

/// <summary>A place that can be reached for a little more.</summary>
/// <param name="PlaceId">Place.</param>
/// <param name="Route">What more comes off.</param>
/// <param name="Jobs">What could be done there.</param>
public sealed record ForMore(Guid PlaceId, AccessRoute Route, IReadOnlyList<Job> Jobs);

/// <summary>How to reach a place.</summary>
/// <param name="Route">The cheapest route; null when parts shut each other in.</param>
/// <param name="Steps">Its parts in order.</param>
/// <param name="People">Most hands that one of them takes.</param>
/// <param name="Others">Other ways.</param>
/// <param name="AtOnce">What becomes reachable with it and was not before.</param>
/// <param name="More">What could be reached for a little more, cheapest first.</param>
public sealed record ReachAnswer(AccessRoute? Route, IReadOnlyList<ReachStep> Steps, int People, IReadOnlyList<OtherRoute> Others, IReadOnlyList<Job> AtOnce, IReadOnlyList<ForMore> More);

/// <summary>Answers: how do I reach it, and what else can be done while it is open?</summary>
public static class ReachRule
{
    /// <summary>What counts as a little more, in minutes; a longer job allows a third of itself.</summary>
    public const int LittleMore = 60;

    /// <summary>Works it out.</summary>
    /// <param name="map">The machine.</param>
    /// <param name="target">The place to reach.</param>
    /// <param name="off">Slots whose parts are off.</param>
    /// <param name="times">How long removals take.</param>
    /// <param name="jobs">Open findings and packages of the machine.</param>
    /// <param name="mostMore">How many places for a little more are given.</param>
    public static ReachAnswer Of(AccessMap map, Guid target, IReadOnlySet<Guid> off, StripTimes times, IReadOnlyCollection<Job> jobs, int mostMore = 5)
    {
        ArgumentNullException.ThrowIfNull(map);
        ArgumentNullException.ThrowIfNull(off);
        ArgumentNullException.ThrowIfNull(times);
        ArgumentNullException.ThrowIfNull(jobs);
        int Minutes(Guid s) => times.Of(s).Minutes;
        var (found, others) = WayIn.FindAll(map, target, off, Minutes);
        if (found is not { } route)
        {
            return new ReachAnswer(null, [], 0, [], [], []);
        }

        var steps = route.Slots.Select(s => new ReachStep(s, times.Of(s))).ToList();
        var then = off.Concat(route.Slots).ToHashSet();

        // Only the places where something waits are asked, before the route and after it.
        var waiting = jobs.Where(j => map.Find(j.PlaceId) is not null).GroupBy(j => j.PlaceId).ToList();
        var flow = new AccessMap.Flow(map);
        foreach (var s in off)
        {
            flow.TakeOff(s);
        }

        var shut = waiting.Where(g => !flow.IsOpen(g.Key)).ToList();
        foreach (var s in route.Slots)
        {
            flow.TakeOff(s);
        }

        // As soon as enough are known, nothing that takes longer than the last of them is looked for any more.
        var limit = Math.Max(LittleMore, route.Minutes / 3);
        var cheapest = new List<ForMore>();
        foreach (var g in shut.Where(g => !flow.IsOpen(g.Key)))
        {
            if (!WayIn.SurelyLonger(map, g.Key, then, Minutes, limit) && WayIn.Find(map, g.Key, then, Minutes, mostMinutes: limit) is { } further)
            {
                cheapest.Add(new ForMore(g.Key, further, [.. g]));
                if (cheapest.Count >= mostMore)
                {
                    limit = Math.Min(limit, cheapest.Select(x => x.Route.Minutes).Order().ElementAt(mostMore - 1));
                }
            }
        }

        var more = cheapest.OrderBy(x => x.Route.Minutes).ThenByDescending(x => x.Jobs.Count).ThenBy(x => map.OrderOf(x.PlaceId)).Take(mostMore).ToList();
        return new ReachAnswer(
            route,
            steps,
            steps.Count == 0 ? 0 : steps.Max(s => s.Time.People),
            others,
            [.. shut.Where(g => flow.IsOpen(g.Key)).SelectMany(g => g).OrderBy(j => map.OrderOf(j.PlaceId))],
            more);
    }
}
