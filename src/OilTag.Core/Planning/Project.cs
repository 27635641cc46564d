namespace OilTag.Core.Planning;

/// <summary>
/// A project with limited resources in whole periods: jobs with fixed durations, one way to do each, what must be finished before what, and how many
/// units of each resource there are in every period. Jobs are numbered from 0.
/// </summary>
public sealed class Project
{
    /// <summary>The longest a project may be: a sum of durations that plans of this size never reach.</summary>
    public const int LongestHorizon = 10_000_000;

    /// <summary>A project.</summary>
    /// <param name="durations">Periods of each job, nought or more.</param>
    /// <param name="demands">Units of each resource that a job takes while it runs, by job and resource.</param>
    /// <param name="capacities">Units of each resource, by resource, up to 32,767.</param>
    /// <param name="successors">What cannot start before the job has finished, by job.</param>
    /// <exception cref="ArgumentException">When the arrays do not fit together, a number is out of its range, a job wants more than there is, or the
    /// order runs in a circle.</exception>
    public Project(IReadOnlyList<int> durations, IReadOnlyList<int[]> demands, IReadOnlyList<int> capacities, IReadOnlyList<int[]> successors)
    {
        ArgumentNullException.ThrowIfNull(durations);
        ArgumentNullException.ThrowIfNull(demands);
        ArgumentNullException.ThrowIfNull(capacities);
        ArgumentNullException.ThrowIfNull(successors);
        if (WhatIsWrong(durations, demands, capacities, successors) is { } wrong)
        {
            throw new ArgumentException(wrong, nameof(durations));
        }

        Durations = [.. durations];
        Demands = [.. demands.Select(d => d.ToArray())];
        Capacities = [.. capacities];
        Successors = [.. successors.Select(s => s.Distinct().ToArray())];
        var before = Durations.Select(_ => new List<int>()).ToArray();
        for (var j = 0; j < Successors.Length; j++)
        {
            foreach (var s in Successors[j])
            {
                before[s].Add(j);
            }
        }

        Predecessors = [.. before.Select(b => b.ToArray())];
        Order = TopologicalOrder(Successors)!;
        CriticalLength = Heads().Zip(Durations, (h, d) => h + d).DefaultIfEmpty().Max();
    }

    /// <summary>How many jobs there are.</summary>
    public int Count => Durations.Length;

    /// <summary>Periods of each job.</summary>
    public int[] Durations { get; }

    /// <summary>Units wanted, by job and resource.</summary>
    public int[][] Demands { get; }

    /// <summary>Units there are, by resource.</summary>
    public int[] Capacities { get; }

    /// <summary>What follows each job.</summary>
    public int[][] Successors { get; }

    /// <summary>What each job follows.</summary>
    public int[][] Predecessors { get; }

    /// <summary>All jobs, each after what it follows.</summary>
    public int[] Order { get; }

    /// <summary>Length of the longest chain: no schedule is shorter, however many hands there are.</summary>
    public int CriticalLength { get; }

    /// <summary>
    /// A length that no schedule can go below: the longest chain, or the work on one resource divided by its units, whichever is more. Source: standard textbook.
    /// </summary>
    public int LowerBound => Enumerable.Range(0, Capacities.Length)
        .Where(r => Capacities[r] > 0)
        .Select(r => (int)((Enumerable.Range(0, Count).Sum(j => (long)Durations[j] * Demands[j][r]) + Capacities[r] - 1) / Capacities[r]))
        .Append(CriticalLength)
        .Max();

    /// <summary>Earliest start of each job when resources do not count.</summary>
    public int[] Heads()
    {
        var head = new int[Count];
        foreach (var j in Order)
        {
            foreach (var s in Successors[j])
            {
                head[s] = Math.Max(head[s], head[j] + Durations[j]);
            }
        }

        return head;
    }

    /// <summary>Latest start of each job for the length of the longest chain, when resources do not count.</summary>
    public int[] LatestStarts()
    {
        var latest = new int[Count];
        for (var i = Count - 1; i >= 0; i--)
        {
            var j = Order[i];
            latest[j] = Successors[j].Select(s => latest[s]).DefaultIfEmpty(CriticalLength).Min() - Durations[j];
        }

        return latest;
    }

    /// <summary>What is wrong with a schedule; null when every job starts after what it follows and no period takes more than there is.</summary>
    /// <param name="starts">Start of each job.</param>
    public string? WhyNot(IReadOnlyList<int> starts)
    {
        ArgumentNullException.ThrowIfNull(starts);
        if (starts.Count != Count)
        {
            return $"There are {starts.Count} starts for {Count} jobs.";
        }

        for (var j = 0; j < Count; j++)
        {
            if (starts[j] < 0)
            {
                return $"Job {j + 1} starts before the beginning.";
            }

            foreach (var s in Successors[j])
            {
                if (starts[s] < starts[j] + Durations[j])
                {
                    return $"Job {s + 1} starts before job {j + 1} has finished.";
                }
            }
        }

        for (var r = 0; r < Capacities.Length; r++)
        {
            // Use only rises at a start, so it is enough to look there.
            foreach (var t in starts.Distinct())
            {
                var used = Enumerable.Range(0, Count).Where(j => starts[j] <= t && t < starts[j] + Durations[j]).Sum(j => (long)Demands[j][r]);
                if (used > Capacities[r])
                {
                    return $"In period {t} resource {r + 1} is wanted {used} times; there are {Capacities[r]}.";
                }
            }
        }

        return null;
    }

    /// <summary>The jobs of one circle in what follows what, in order; empty when there is none.</summary>
    /// <param name="successors">What follows each job.</param>
    public static IReadOnlyList<int> Circle(IReadOnlyList<int[]> successors)
    {
        ArgumentNullException.ThrowIfNull(successors);
        var state = new byte[successors.Count];
        var path = new List<int>();
        var at = new List<int>();
        for (var root = 0; root < successors.Count; root++)
        {
            if (state[root] != 0)
            {
                continue;
            }

            path.Add(root);
            at.Add(0);
            state[root] = 1;
            while (path.Count > 0)
            {
                var j = path[^1];
                if (at[^1] == successors[j].Length)
                {
                    state[j] = 2;
                    path.RemoveAt(path.Count - 1);
                    at.RemoveAt(at.Count - 1);
                    continue;
                }

                var next = successors[j][at[^1]++];
                if (state[next] == 1)
                {
                    return path.GetRange(path.IndexOf(next), path.Count - path.IndexOf(next));
                }

                if (state[next] == 0)
                {
                    state[next] = 1;
                    path.Add(next);
                    at.Add(0);
                }
            }
        }

        return [];
    }

    internal static int[]? TopologicalOrder(IReadOnlyList<int[]> successors)
    {
        var left = new int[successors.Count];
        foreach (var s in successors.SelectMany(s => s))
        {
            left[s]++;
        }

        var order = new int[successors.Count];
        var (done, read) = (0, 0);
        for (var j = 0; j < left.Length; j++)
        {
            if (left[j] == 0)
            {
                order[done++] = j;
            }
        }

        while (read < done)
        {
            foreach (var s in successors[order[read++]])
            {
                if (--left[s] == 0)
                {
                    order[done++] = s;
                }
            }
        }

        return done == order.Length ? order : null;
    }

    private static string? WhatIsWrong(IReadOnlyList<int> durations, IReadOnlyList<int[]> demands, IReadOnlyList<int> capacities, IReadOnlyList<int[]> successors)
    {
        var n = durations.Count;
        if (demands.Count != n || successors.Count != n)
        {
            return "Durations, demands and successors are not of the same jobs.";
        }

        if (durations.Any(d => d < 0) || durations.Sum(d => (long)d) > LongestHorizon)
        {
            return $"A duration is below nought, or all of them are more than {LongestHorizon:N0} periods.";
        }

        if (capacities.Any(c => c is < 0 or > short.MaxValue))
        {
            return "A resource has fewer than no units or more than 32,767.";
        }

        for (var j = 0; j < n; j++)
        {
            if (demands[j].Length != capacities.Count || demands[j].Any(d => d < 0))
            {
                return $"Job {j + 1} does not name a demand of nought or more for each resource.";
            }

            for (var r = 0; r < capacities.Count; r++)
            {
                if (demands[j][r] > capacities[r] && durations[j] > 0)
                {
                    return $"Job {j + 1} wants {demands[j][r]} of resource {r + 1}; there are {capacities[r]}, so it is never feasible.";
                }
            }

            if (successors[j].Any(s => s < 0 || s >= n))
            {
                return $"Job {j + 1} is followed by a job that is not there.";
            }
        }

        var circle = Circle(successors);
        return circle.Count == 0 ? null : $"Jobs {string.Join(", ", circle.Select(j => j + 1))} follow each other in a circle.";
    }
}
