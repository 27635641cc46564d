using System.Diagnostics;

namespace OilTag.Core.Planning;

/// <summary>A schedule of a project.</summary>
/// <param name="Makespan">Period in which everything is done.</param>
/// <param name="Starts">Start of each job.</param>
/// <param name="LowerBound">A length that no schedule can go below; equal to the makespan when the schedule is proven to be the shortest.</param>
/// <param name="Tried">How many schedules were built.</param>
public sealed record ProjectSchedule(int Makespan, IReadOnlyList<int> Starts, int LowerBound, int Tried);

/// <summary>
/// Schedules a project with limited resources. Jobs are placed one by one, each as early as it can be (serial placement), in the order of a list; each
/// schedule is pushed to the right and back to the left (double justification); good lists are bred (evolutionary search over lists, crossing where the
/// better parent uses its resources best). Sources: serial placement, justification and the peak crossover are published methods of operations research.
/// The same project, seed and number of schedules give the same answer; a limit in seconds may end it earlier.
/// </summary>
public sealed class ProjectSolver
{
    private const ulong Guard = 0x8000_8000_8000_8000;

    private readonly Project project;
    private readonly int n;
    private readonly int words;
    private readonly ulong[] demand;
    private readonly ulong[] full;
    private readonly ulong[] free;
    private readonly int[] duration;
    private readonly int[][] before;
    private readonly int[][] after;
    private readonly int[] bucket;
    private readonly int[] keys;
    private readonly int[] backwards;
    private readonly int[] marks;
    private readonly int[] needs;
    private readonly int[] placed;
    private readonly int[] follows;
    private readonly int[] areas;
    private readonly List<int> cut = [];
    private readonly PriorityQueue<int, double> ready = new();
    private readonly int lowerBound;
    private readonly int most;
    private readonly long ends;
    private SeededRandom dice;
    private int mark;
    private int tried;

    private int[] bestStarts = [];
    private int best = int.MaxValue;

    private ProjectSolver(Project project, int seed, TimeSpan? time, int schedules)
    {
        this.project = project;
        n = project.Count;
        words = Math.Max(1, (project.Capacities.Length + 3) / 4);
        duration = project.Durations;
        before = project.Predecessors;
        after = project.Successors;
        demand = new ulong[n * words];
        full = new ulong[words];
        for (var w = 0; w < words; w++)
        {
            full[w] = Guard;
        }

        for (var r = 0; r < project.Capacities.Length; r++)
        {
            full[r / 4] |= (ulong)project.Capacities[r] << (16 * (r % 4));
            for (var j = 0; j < n; j++)
            {
                demand[(j * words) + (r / 4)] |= (ulong)Math.Min(project.Demands[j][r], short.MaxValue) << (16 * (r % 4));
            }
        }

        var horizon = duration.Sum() + 1;
        free = new ulong[horizon * words];
        bucket = new int[horizon + 2];
        keys = new int[n];
        marks = new int[n];
        needs = new int[n];
        placed = new int[n];
        follows = new int[n];
        areas = [.. Enumerable.Range(0, n).Select(j => Enumerable.Range(0, project.Capacities.Length).Where(r => project.Capacities[r] > 0).Sum(r => duration[j] * project.Demands[j][r] * 100 / project.Capacities[r]))];
        backwards = [.. project.Order.Reverse()];
        lowerBound = project.LowerBound;
        dice = new SeededRandom((ulong)seed);
        most = schedules;
        ends = time is { } t ? Stopwatch.GetTimestamp() + (long)(t.TotalSeconds * Stopwatch.Frequency) : long.MaxValue;
    }

    /// <summary>Schedules built when nothing else is said: enough for a good answer, and well under two seconds for 120 jobs.</summary>
    public static int UsualSchedules(int jobs) => jobs <= 40 ? 30_000 : jobs <= 80 ? 40_000 : jobs <= 400 ? 60_000 : Math.Max(200, 24_000_000 / jobs);

    /// <summary>Looks for a short schedule.</summary>
    /// <param name="project">The project.</param>
    /// <param name="seed">Seed of the search.</param>
    /// <param name="time">Time it may take, or null for no limit but the number of schedules.</param>
    /// <param name="schedules">Most schedules that are built; null for the usual number when no time is given, and for no limit when one is.</param>
    public static ProjectSchedule Solve(Project project, int seed = 1, TimeSpan? time = null, int? schedules = null)
    {
        ArgumentNullException.ThrowIfNull(project);
        if (project.Count == 0)
        {
            return new ProjectSchedule(0, [], 0, 0);
        }

        var solver = new ProjectSolver(project, seed, time, schedules ?? (time is null ? UsualSchedules(project.Count) : int.MaxValue));
        solver.Search();
        return new ProjectSchedule(solver.best, solver.bestStarts, Math.Min(solver.best, solver.lowerBound), solver.tried);
    }

    private bool Over => best <= lowerBound || tried >= most || (tried > 2 && Stopwatch.GetTimestamp() >= ends);

    private sealed class Member
    {
        public required int[] List { get; init; }

        public required int[] Starts { get; init; }

        public int Makespan { get; set; }

        public long Sum { get; set; }
    }

    private void Search()
    {
        var size = n <= 80 ? 40 : 50;
        var round = 0;
        Member? champion = null;
        while (!Over)
        {
            var people = FirstPeople(size, round % 3 == 2 ? champion : null);
            var winner = Breed(people, size);
            if (champion is null || winner.Makespan < champion.Makespan || (winner.Makespan == champion.Makespan && winner.Sum <= champion.Sum))
            {
                champion = winner;
            }

            round++;
        }
    }

    // Lists drawn at random, jobs that press most first more often; around a good one when there is one.
    private List<Member> FirstPeople(int size, Member? around)
    {
        var latest = project.LatestStarts();
        var rank = new double[n];
        var people = new List<Member>(size);
        for (var i = 0; i < size && (people.Count == 0 || !Over); i++)
        {
            if (around is not null)
            {
                // The champion's order, shaken.
                var width = project.CriticalLength * (0.02 + (0.25 * dice.Unit()));
                for (var j = 0; j < n; j++)
                {
                    rank[j] = around.Starts[j] + (width * (dice.Unit() - 0.5));
                }
            }
            else
            {
                var spread = i == 0 ? 0 : project.CriticalLength * (0.05 + (0.45 * dice.Unit()));
                for (var j = 0; j < n; j++)
                {
                    rank[j] = latest[j] + (spread * dice.Unit());
                }
            }

            people.Add(Live(ListBy(rank)));
        }

        return people;
    }

    // All jobs, each after what it follows, the lowest rank first among those that may come.
    private int[] ListBy(double[] rank)
    {
        var left = new int[n];
        for (var j = 0; j < n; j++)
        {
            left[j] = before[j].Length;
            if (left[j] == 0)
            {
                ready.Enqueue(j, rank[j]);
            }
        }

        var list = new int[n];
        for (var i = 0; i < n; i++)
        {
            list[i] = ready.Dequeue();
            foreach (var s in after[list[i]])
            {
                if (--left[s] == 0)
                {
                    ready.Enqueue(s, rank[s]);
                }
            }
        }

        return list;
    }

    private Member Breed(List<Member> people, int size)
    {
        var still = 0;
        var top = int.MaxValue;
        const int Patience = 14;
        var next = new List<Member>(size * 2);
        while (!Over && still < Patience)
        {
            next.Clear();
            next.AddRange(people);
            for (var i = 0; i < size && !Over; i++)
            {
                var mother = Pick(people);
                var father = Pick(people);
                var list = i % 2 == 0 ? Between(mother, father) : AtPeak(mother, father);
                if (dice.Unit() < 0.35)
                {
                    Shake(list);
                }

                next.Add(Live(list));
            }

            // The best of old and new, none twice.
            next.Sort(static (a, b) => a.Makespan != b.Makespan ? a.Makespan.CompareTo(b.Makespan) : a.Sum.CompareTo(b.Sum));
            people.Clear();
            Member? last = null;
            foreach (var m in next)
            {
                if (people.Count < size && (last is null || m.Makespan != last.Makespan || m.Sum != last.Sum))
                {
                    people.Add(m);
                    last = m;
                }
            }

            if (people[0].Makespan < top)
            {
                top = people[0].Makespan;
                still = 0;
            }
            else
            {
                still++;
            }
        }

        return people[0];
    }

    // The better of two drawn.
    private Member Pick(List<Member> people)
    {
        var a = dice.Below(people.Count);
        var b = dice.Below(people.Count);
        return people[Math.Min(a, b)];
    }

    // A stretch of one list, the rest in the order of the other.
    private int[] Between(Member mother, Member father)
    {
        var p = dice.Below(n);
        var q = dice.Below(n);
        (p, q) = (Math.Min(p, q), Math.Max(p, q) + 1);
        var list = new int[n];
        var taken = Marks();
        var i = 0;
        for (; i < p; i++)
        {
            list[i] = mother.List[i];
            taken[list[i]] = mark;
        }

        foreach (var j in father.List)
        {
            if (i == q)
            {
                break;
            }

            if (taken[j] != mark)
            {
                list[i++] = j;
                taken[j] = mark;
            }
        }

        foreach (var j in mother.List)
        {
            if (taken[j] != mark)
            {
                list[i++] = j;
                taken[j] = mark;
            }
        }

        return list;
    }

    // A stretch in which the mother uses her resources best is kept together; the rest comes in the order of the father.
    private int[] AtPeak(Member mother, Member father)
    {
        var length = Math.Max(2, n / 5);
        var bestAt = dice.Below(n);
        var bestUse = -1.0;
        for (var k = 0; k < 4; k++)
        {
            var at = dice.Below(Math.Max(1, n - length));
            var (from, until, work) = (int.MaxValue, 0, 0L);
            for (var i = at; i < Math.Min(n, at + length); i++)
            {
                var j = mother.List[i];
                from = Math.Min(from, mother.Starts[j]);
                until = Math.Max(until, mother.Starts[j] + duration[j]);
                work += areas[j];
            }

            var use = work / (double)Math.Max(1, until - from);
            if (use > bestUse)
            {
                (bestUse, bestAt) = (use, at);
            }
        }

        var kept = Marks();
        var end = Math.Min(n, bestAt + length);
        for (var i = bestAt; i < end; i++)
        {
            kept[mother.List[i]] = mark;
        }

        // What the father has before the place where the stretch must stand: everything that the stretch follows, and what he has earlier.
        var list = new int[n];
        var needed = Needed(mother, bestAt, end, kept);
        var at2 = 0;
        foreach (var j in father.List)
        {
            if (kept[j] != mark && (needed[j] == mark || (at2 < bestAt && !FollowsKept(j, kept))))
            {
                list[at2++] = j;
                placed[j] = mark;
            }
        }

        for (var i = bestAt; i < end; i++)
        {
            list[at2++] = mother.List[i];
            placed[mother.List[i]] = mark;
        }

        foreach (var j in father.List)
        {
            if (placed[j] != mark)
            {
                list[at2++] = j;
            }
        }

        return list;
    }

    // A job has a mark when its number is the newest one.
    private int[] Marks()
    {
        mark++;
        return marks;
    }

    // Everything that a stretch follows.
    private int[] Needed(Member mother, int from, int until, int[] kept)
    {
        cut.Clear();
        for (var i = from; i < until; i++)
        {
            cut.Add(mother.List[i]);
        }

        while (cut.Count > 0)
        {
            var j = cut[^1];
            cut.RemoveAt(cut.Count - 1);
            foreach (var p in before[j])
            {
                if (kept[p] != mark && needs[p] != mark)
                {
                    needs[p] = mark;
                    cut.Add(p);
                }
            }
        }

        return needs;
    }

    private bool FollowsKept(int j, int[] kept)
    {
        foreach (var p in before[j])
        {
            if (kept[p] == mark || follows[p] == mark)
            {
                follows[j] = mark;
                return true;
            }
        }

        return false;
    }

    // A few jobs change places with others, as far as what follows what allows.
    private void Shake(int[] list)
    {
        var times = 1 + dice.Below(Math.Max(1, n / 12));
        for (var k = 0; k < times; k++)
        {
            var i = dice.Below(n);
            var to = Math.Clamp(i + dice.Below(2 * (n / 4)) - (n / 4), 0, n - 1);
            var j = list[i];
            while (i < to && Array.IndexOf(after[j], list[i + 1]) < 0)
            {
                list[i] = list[i + 1];
                list[++i] = j;
            }

            while (i > to && Array.IndexOf(before[j], list[i - 1]) < 0)
            {
                list[i] = list[i - 1];
                list[--i] = j;
            }
        }
    }

    // Places a list, pushes the schedule right and left again, and keeps the list in the order of its starts.
    private Member Live(int[] list)
    {
        var starts = new int[n];
        var length = Place(list, before, starts);
        var mirrored = new int[n];
        var order = new int[n];
        int shorter;
        do
        {
            shorter = length;

            // From right to left: those that finish last come first, on the mirrored project.
            for (var j = 0; j < n; j++)
            {
                keys[j] = length - (starts[j] + duration[j]);
            }

            Sort(order, backwards, length);
            var right = Place(order, after, mirrored);
            for (var j = 0; j < n; j++)
            {
                keys[j] = right - (mirrored[j] + duration[j]);
            }

            Sort(order, project.Order, right);
            length = Place(order, before, starts);
        }
        while (length < shorter && !Over);

        long sum = 0;
        for (var j = 0; j < n; j++)
        {
            sum += (starts[j] + duration[j]) * (long)(starts[j] + 1);
        }

        if (length < best)
        {
            best = length;
            bestStarts = [.. starts];
        }

        starts.CopyTo(keys, 0);
        Sort(order, project.Order, length);
        return new Member { List = order, Starts = starts, Makespan = length, Sum = sum };
    }

    // A stable sort of the jobs by their keys, from 0 to a length. Jobs without duration share a time with what they follow, so it starts from a valid order.
    private void Sort(int[] order, int[] valid, int length)
    {
        Array.Clear(bucket, 0, length + 2);
        foreach (var key in keys)
        {
            bucket[key + 1]++;
        }

        for (var k = 1; k <= length + 1; k++)
        {
            bucket[k] += bucket[k - 1];
        }

        foreach (var j in valid)
        {
            order[bucket[keys[j]]++] = j;
        }
    }

    // Serial placement: each job of the list as early as what it follows and the resources allow.
    private int Place(int[] list, int[][] follow, int[] starts)
    {
        tried++;
        var length = 0;
        if (words == 1)
        {
            var room = free.AsSpan();
            var clean = 0;
            var whole = full[0];
            foreach (var j in list)
            {
                var t = 0;
                foreach (var p in follow[j])
                {
                    var end = starts[p] + duration[p];
                    if (end > t)
                    {
                        t = end;
                    }
                }

                var d = duration[j];
                if (d > 0)
                {
                    var want = demand[j];
                    if (want != 0)
                    {
                        var sure = t;
                        while (true)
                        {
                            var k = Math.Min(t + d, clean) - 1;
                            while (k >= sure && ((room[k] - want) & Guard) == Guard)
                            {
                                k--;
                            }

                            if (k < sure)
                            {
                                break;
                            }

                            sure = Math.Max(sure, Math.Min(t + d, clean));
                            t = k + 1;
                        }

                        for (; clean < t + d; clean++)
                        {
                            room[clean] = whole;
                        }

                        for (var k = t; k < t + d; k++)
                        {
                            room[k] -= want;
                        }
                    }
                }

                starts[j] = t;
                if (t + d > length)
                {
                    length = t + d;
                }
            }

            return length;
        }

        return PlaceWide(list, follow, starts);
    }

    // The same for more than four resources.
    private int PlaceWide(int[] list, int[][] follow, int[] starts)
    {
        var length = 0;
        var clean = 0;
        foreach (var j in list)
        {
            var t = 0;
            foreach (var p in follow[j])
            {
                t = Math.Max(t, starts[p] + duration[p]);
            }

            var d = duration[j];
            for (var k = t + d - 1; k >= t; k--)
            {
                if (k >= clean)
                {
                    continue;
                }

                for (var w = 0; w < words; w++)
                {
                    if (((free[(k * words) + w] - demand[(j * words) + w]) & Guard) != Guard)
                    {
                        t = k + 1;
                        k = t + d;
                        break;
                    }
                }
            }

            for (; clean < t + d; clean++)
            {
                full.CopyTo(free, clean * words);
            }

            for (var k = t * words; k < (t + d) * words; k++)
            {
                free[k] -= demand[(j * words) + (k % words)];
            }

            starts[j] = t;
            length = Math.Max(length, t + d);
        }

        return length;
    }
}
