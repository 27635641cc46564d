using OilTag.Core.Planning;

namespace OilTag.Core.Today;

/// <summary>
/// Finds crews for a <see cref="CrewProblem"/>: builds them one after the other, then moves, swaps and breaks up crews as long as that helps, from several
/// starts with a fixed seed. Not exact; the tests compare it with an exact solver.
/// </summary>
public sealed class CrewSearch
{
    /// <summary>Rounds of a search in which everybody may be given something else.</summary>
    public const int Rounds = 60;

    /// <summary>Rounds of a search in which most go on with what they do.</summary>
    public const int FewRounds = 6;

    private readonly CrewProblem m;
    private readonly int[] at;
    private readonly int[] crew;
    private readonly int[] adults;
    private readonly int[] alone;
    private readonly int[][] holders;
    private readonly int[] used;
    private readonly int[][] steps;
    private readonly int[] order;
    private int value;

    private CrewSearch(CrewProblem problem)
    {
        m = problem;
        at = new int[m.People];
        Array.Fill(at, -1);
        crew = new int[m.Steps];
        adults = new int[m.Steps];
        alone = new int[m.Steps];
        holders = [.. m.Skills.Select(s => new int[s.Length])];
        used = new int[m.Available.Length];
        steps = [.. m.Points.Select((row, p) => Enumerable.Range(0, m.Steps).Where(o => row[o] > 0).OrderByDescending(o => row[o]).ToArray())];
        order = [.. Enumerable.Range(0, m.Steps).OrderByDescending(o => Enumerable.Range(0, m.People).Select(p => m.Points[p][o]).DefaultIfEmpty().Max())];
    }

    /// <summary>Step of each person; -1 for none. Those who stay are where they stay, even when their crew cannot be made whole.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="rounds">How often crews are broken up and found anew.</param>
    /// <param name="seed">Seed of the search.</param>
    public static int[] Solve(CrewProblem problem, int rounds = Rounds, int seed = 1)
    {
        ArgumentNullException.ThrowIfNull(problem);
        return new CrewSearch(problem).Run(rounds, seed);
    }

    /// <summary>True when the crew of a step is whole.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="at">Step of each person.</param>
    /// <param name="step">The step.</param>
    public static bool Whole(CrewProblem problem, int[] at, int step)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(at);
        var search = new CrewSearch(problem);
        for (var p = 0; p < at.Length; p++)
        {
            if (at[p] >= 0)
            {
                search.Put(p, at[p]);
            }
        }

        return search.Stands(step);
    }

    private int[] Run(int rounds, int seed)
    {
        var random = new SeededRandom((ulong)seed);
        for (var p = 0; p < m.People; p++)
        {
            if (m.Stays[p] >= 0)
            {
                Put(p, m.Stays[p]);
            }
        }

        // Crews of those who stay are made whole first, whatever it costs the rest.
        foreach (var o in m.Stays.Where(o => o >= 0).Distinct().Where(o => !Stands(o)))
        {
            TryForm(o, always: true);
        }

        Fill();
        Improve();
        if (m.People == 0)
        {
            return at;
        }

        var best = (int[])at.Clone();
        var bestValue = value;
        for (var round = 0; round < rounds; round++)
        {
            for (var n = 1 + random.Below(3); n > 0; n--)
            {
                BreakUp(ref random);
            }

            Fill();
            Improve();
            if (value > bestValue)
            {
                bestValue = value;
                Array.Copy(at, best, best.Length);
            }
            else if (value < bestValue)
            {
                Restore(best);
            }
        }

        return best;
    }

    // The crew of somebody is dissolved; those who stay in it get others.
    private void BreakUp(ref SeededRandom random)
    {
        var o = at[random.Below(m.People)];
        if (o < 0)
        {
            return;
        }

        for (var p = 0; p < m.People; p++)
        {
            if (at[p] == o && m.Stays[p] < 0)
            {
                Take(p);
            }
        }

        if (!Stands(o))
        {
            TryForm(o, always: true);
        }
    }

    private void Fill()
    {
        foreach (var o in order)
        {
            if (crew[o] == 0 && Gains(o))
            {
                TryForm(o, always: false);
            }
        }
    }

    private void Improve()
    {
        for (var again = true; again;)
        {
            again = false;
            for (var p = 0; p < m.People; p++)
            {
                again |= IsFree(p) && Move(p);
            }

            for (var p = 0; p < m.People; p++)
            {
                for (var q = p + 1; q < m.People; q++)
                {
                    again |= IsFree(p) && IsFree(q) && (Swap(p, q) || Push(p, q) || Push(q, p));
                }
            }

            foreach (var o in order)
            {
                again |= crew[o] == 0 && Gains(o) && TryForm(o, always: false);
            }
        }
    }

    // Without anybody who is worth more there than where they are, a crew cannot bring more.
    private bool Gains(int o)
    {
        for (var p = 0; p < m.People; p++)
        {
            if (IsFree(p) && m.Points[p][o] > (at[p] < 0 ? 0 : m.Points[p][at[p]]))
            {
                return true;
            }
        }

        return false;
    }

    private bool IsFree(int p) => m.Stays[p] == CrewProblem.Free;

    // The best step that one person can go to without breaking a crew.
    private bool Move(int p)
    {
        var from = at[p];
        var now = from < 0 ? 0 : m.Points[p][from];
        if (from >= 0)
        {
            Take(p);
            if (!Stands(from))
            {
                Put(p, from);
                return false;
            }
        }

        foreach (var o in steps[p])
        {
            if (m.Points[p][o] <= now)
            {
                break;
            }

            if (o == from)
            {
                continue;
            }

            Put(p, o);
            if (Stands(o))
            {
                return true;
            }

            Take(p);
        }

        if (from >= 0)
        {
            Put(p, from);
        }

        return false;
    }

    private bool Swap(int p, int q)
    {
        int a = at[p], b = at[q];
        if (a == b || (a >= 0 && m.Points[q][a] == 0) || (b >= 0 && m.Points[p][b] == 0))
        {
            return false;
        }

        var gain = (a < 0 ? 0 : m.Points[q][a] - m.Points[p][a]) + (b < 0 ? 0 : m.Points[p][b] - m.Points[q][b]);
        if (gain <= 0)
        {
            return false;
        }

        Change(p, b);
        Change(q, a);
        if ((a < 0 || Stands(a)) && (b < 0 || Stands(b)))
        {
            return true;
        }

        Change(p, a);
        Change(q, b);
        return false;
    }

    // One person takes the place of another, who goes to the best that is left.
    private bool Push(int p, int q)
    {
        int from = at[p], o = at[q], before = value;
        if (o < 0 || o == from || m.Points[p][o] <= (from < 0 ? 0 : m.Points[p][from]))
        {
            return false;
        }

        Take(q);
        Change(p, o);
        if (Stands(o) && (from < 0 || Stands(from)))
        {
            Move(q);
            if (value > before)
            {
                return true;
            }

            if (at[q] >= 0)
            {
                Take(q);
            }
        }

        Change(p, from);
        Put(q, o);
        return false;
    }

    // Makes a whole crew for a step out of those who lose least by it; those whose crew breaks go where they can. Undone when the sum is no better.
    private bool TryForm(int o, bool always)
    {
        var before = value;
        var saved = (int[])at.Clone();
        if (!Gather(o))
        {
            Restore(saved);
            return false;
        }

        foreach (var other in saved.Where(x => x >= 0 && x != o).Distinct())
        {
            if (crew[other] > 0 && !Stands(other) && !MakeWhole(other))
            {
                for (var p = 0; p < m.People; p++)
                {
                    if (at[p] == other && m.Stays[p] < 0)
                    {
                        Take(p);
                    }
                }
            }
        }

        for (var p = 0; p < m.People; p++)
        {
            if (IsFree(p) && at[p] < 0)
            {
                Move(p);
            }
        }

        if (always ? Stands(o) : value > before)
        {
            return true;
        }

        Restore(saved);
        return false;
    }

    // Fills a crew that has lost somebody from those who have nothing to do.
    private bool MakeWhole(int o)
    {
        while (!Stands(o))
        {
            var p = Next(o, idleOnly: true);
            if (p < 0)
            {
                return false;
            }

            Put(p, o);
        }

        return true;
    }

    private bool Gather(int o)
    {
        while (!Stands(o) || crew[o] == 0)
        {
            var p = Next(o, idleOnly: false);
            if (p < 0)
            {
                return false;
            }

            Change(p, o);
        }

        return true;
    }

    // Who goes to a step next: a holder of what is missing, an adult, or anyone; the one who loses least.
    private int Next(int o, bool idleOnly)
    {
        if (crew[o] >= m.Max[o])
        {
            return -1;
        }

        var missing = -1;
        for (var k = 0; k < m.Skills[o].Length && missing < 0; k++)
        {
            missing = holders[o][k] < m.Skills[o][k].Count ? m.Skills[o][k].Skill : -1;
        }

        var wantsAdult = missing < 0 && crew[o] > 0 && adults[o] == 0 && crew[o] >= m.Min[o];
        int best = -1, bestLoss = int.MaxValue;
        for (var p = 0; p < m.People; p++)
        {
            if (!IsFree(p) || at[p] == o || m.Points[p][o] == 0 || (idleOnly && at[p] >= 0) || (missing >= 0 && !m.Holds[p][missing]) || (wantsAdult && m.Minor[p]))
            {
                continue;
            }

            var loss = (at[p] < 0 ? 0 : m.Points[p][at[p]]) - m.Points[p][o];
            if (loss < bestLoss)
            {
                (best, bestLoss) = (p, loss);
            }
        }

        return best;
    }

    private bool Stands(int o)
    {
        if (crew[o] == 0)
        {
            return true;
        }

        if (crew[o] < m.Min[o] || crew[o] > m.Max[o] || adults[o] == 0 || (alone[o] > 0 && crew[o] < 2))
        {
            return false;
        }

        for (var k = 0; k < m.Skills[o].Length; k++)
        {
            if (holders[o][k] < m.Skills[o][k].Count)
            {
                return false;
            }
        }

        foreach (var (thing, _) in m.Things[o])
        {
            if (used[thing] > m.Available[thing])
            {
                return false;
            }
        }

        return true;
    }

    private void Change(int p, int o)
    {
        if (at[p] >= 0)
        {
            Take(p);
        }

        if (o >= 0)
        {
            Put(p, o);
        }
    }

    private void Put(int p, int o)
    {
        at[p] = o;
        value += m.Points[p][o];
        Count(p, o, 1);
    }

    private void Take(int p)
    {
        var o = at[p];
        at[p] = -1;
        value -= m.Points[p][o];
        Count(p, o, -1);
    }

    private void Count(int p, int o, int by)
    {
        if ((by > 0 && crew[o] == 0) || (by < 0 && crew[o] == 1))
        {
            foreach (var (thing, count) in m.Things[o])
            {
                used[thing] += by * count;
            }
        }

        crew[o] += by;
        adults[o] += m.Minor[p] ? 0 : by;
        alone[o] += m.NeverAlone[p] ? by : 0;
        for (var k = 0; k < m.Skills[o].Length; k++)
        {
            holders[o][k] += m.Holds[p][m.Skills[o][k].Skill] ? by : 0;
        }
    }

    private void Restore(int[] saved)
    {
        for (var p = 0; p < at.Length; p++)
        {
            if (at[p] != saved[p] && at[p] >= 0)
            {
                Take(p);
            }
        }

        for (var p = 0; p < at.Length; p++)
        {
            if (at[p] != saved[p])
            {
                Put(p, saved[p]);
            }
        }
    }
}
