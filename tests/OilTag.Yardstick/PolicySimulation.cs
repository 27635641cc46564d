using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Yardstick;

/// <summary>
/// A second simulation of a shed, written from what a plan means and sharing nothing with the planner but its input and its order of work: run by run it draws
/// hours, lead times and who comes from a stream of its own, and lets one operation after the other take the first hands and things that are free. Slow and
/// plain. For sheds of one site without weather, windows and limits on open packages.
/// </summary>
public sealed class PolicySimulation
{
    private const int Least = 15;

    // In which share of the runs hours fall as those of their like do.
    private const double Alike = 0.7;

    private readonly PlanInput input;
    private readonly Random dice;
    private readonly List<PlanSession> sessions;
    private readonly Dictionary<string, PlanOperation> operations;
    private readonly Dictionary<string, PlanPackage> packages;
    private readonly HashSet<string> alike;

    // Minutes for which somebody whose skills are wanted is spared: up to an hour, by how many hours of what they hold fall on them.
    private readonly Dictionary<PlanPerson, double> spared;

    private PolicySimulation(PlanInput input, int seed)
    {
        this.input = input;
        dice = new Random(seed);
        sessions = [.. input.Sessions.OrderBy(s => s.On).ThenBy(s => s.From)];
        operations = input.Operations.ToDictionary(o => o.Id);
        packages = input.Packages.ToDictionary(p => p.Id);
        double Load(string skill) =>
            input.Operations.Sum(
                o => o.Skills.Where(n => n.Skill == skill).Sum(n => n.Count * o.Hours.Mean * o.Chance / o.MinCrew)) / Math.Max(1, input.People.Count(p => p.Skills.Any(k => k.Skill == skill)));
        var load = input.People.ToDictionary(p => p, p => p.Skills.Sum(k => Load(k.Skill)));
        var most = Math.Max(1e-9, load.Values.Max());
        spared = load.ToDictionary(x => x.Key, x => Math.Floor(60 * x.Value / most));
        alike = [.. input.Operations.Where(o => o.Like.Length > 0).GroupBy(o => o.Like).Where(g => g.Count() > 1).Select(g => g.Key)];
    }

    /// <summary>The share of runs in which each milestone is met on its day or before, in the order of the input.</summary>
    /// <param name="input">The shed.</param>
    /// <param name="policy">The order of work, as ids of operations.</param>
    /// <param name="runs">How many runs.</param>
    /// <param name="seed">Seed.</param>
    public static IReadOnlyList<double> Chances(PlanInput input, IReadOnlyList<string> policy, int runs, int seed)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(policy);
        var simulation = new PolicySimulation(input, seed);
        var met = new int[input.Milestones.Count];
        for (var run = 0; run < runs; run++)
        {
            var done = simulation.Once(policy);
            for (var k = 0; k < met.Length; k++)
            {
                var stone = input.Milestones[k];
                met[k] += input.Operations.Where(o => stone.Packages.Contains(o.Package)).All(
                    o => done[o.Id] is { } minute && minute <= simulation.Minute(stone.On.PlusDays(1), LocalTime.Midnight)) ? 1 : 0;
            }
        }

        return [.. met.Select(m => m / (double)runs)];
    }

    private double Minute(LocalDate on, LocalTime at) => (Period.DaysBetween(input.Today, on) * 1440) + (at.Hour * 60) + at.Minute;

    // Inverse of the triangular distribution (any handbook of statistics).
    private static double Triangle(double low, double likely, double high, double u)
    {
        if (high <= low)
        {
            return low;
        }

        var split = (likely - low) / (high - low);
        return u < split ? low + Math.Sqrt(u * (high - low) * (likely - low)) : high - Math.Sqrt((1 - u) * (high - low) * (high - likely));
    }

    private double Days(DaysRange? range) => range is null ? 0 : 1440 * Triangle(range.Low, range.Likely, range.High, dice.NextDouble());

    private Dictionary<string, double?> Once(IReadOnlyList<string> policy)
    {
        var together = alike.ToDictionary(l => l, _ => dice.NextDouble());
        var arrives = input.Demands.ToDictionary(
            d => d.Id,
            d => Math.Max(0, (d.Ordered is { } on ? Minute(on, LocalTime.Midnight) : Days(d.Enquiry)) + Days(d.Lead)));
        var free = sessions.Select(
            s => input.People.Where(p => dice.NextDouble() < PlanCalendar.Chance(p, s)).ToDictionary(p => p, _ => Minute(s.On, s.From))).ToList();
        var things = sessions.Select(
            s => input.Things.ToDictionary(t => t.Id, t => Enumerable.Repeat(Minute(s.On, s.From), Math.Max(0, t.Count - (t.Out ?? []).Where(x => x.When.Has(s.On)).Sum(x => x.Count))).ToArray())).ToList();
        var done = new Dictionary<string, double?>();
        foreach (var o in policy.Select(id => operations[id]))
        {
            var at = packages[o.Package].NotBefore is { } day ? Math.Max(0, Minute(day, LocalTime.Midnight)) : 0;
            foreach (var a in o.After)
            {
                at = done[a.Operation] is { } before ? Math.Max(at, before + Days(a.Lag)) : double.MaxValue;
            }

            at = o.Demands.Aggregate(at, (latest, d) => Math.Max(latest, arrives[d]));
            var needed = o.Chance >= 1 || dice.NextDouble() < o.Chance;
            var u = alike.Contains(o.Like) && dice.NextDouble() < Alike ? together[o.Like] : dice.NextDouble();
            var hands = needed ? 60 * Triangle(o.Hours.Low, o.Hours.Likely, o.Hours.High, u) : 0;
            var time = needed ? Days(o.Elapsed) : 0;
            done[o.Id] = at == double.MaxValue ? null : hands <= 0 ? at + time : Work(o, at, Math.Ceiling(hands), free, things);
        }

        return done;
    }

    private double? Work(
        PlanOperation o,
        double soonest,
        double left,
        List<Dictionary<PlanPerson, double>> free,
        List<Dictionary<string, double[]>> things)
    {
        for (var s = 0; s < sessions.Count; s++)
        {
            var (from, end) = (Math.Max(soonest, Minute(sessions[s].On, sessions[s].From)), Minute(sessions[s].On, sessions[s].Until));
            if (end <= soonest || sessions[s].Site != o.Site || Crew(o, sessions[s], from, end, left, free[s], things[s]) is not { } found)
            {
                continue;
            }

            var workers = Math.Min(found.Crew.Count, o.MaxCrew);
            var length = Math.Ceiling(left / workers);
            var room = end - found.At;
            if (room < Math.Min(Least, length) || (o.InOneGo && length > room))
            {
                continue;
            }

            var until = found.At + Math.Min(length, room);
            found.Crew.ForEach(p => free[s][p] = until);
            foreach (var need in o.Things)
            {
                var units = things[s][need.Thing];
                Array.Sort(units);
                Array.Fill(units, until, 0, need.Count);
            }

            left -= workers * (until - found.At);
            if (left <= 0)
            {
                return until;
            }
        }

        return null;
    }

    // The crew that can begin in a session and when: holders, then hands up to the fewest, then more while nothing waits for them.
    private (List<PlanPerson> Crew, double At)? Crew(
        PlanOperation o,
        PlanSession session,
        double from,
        double end,
        double left,
        Dictionary<PlanPerson, double> free,
        Dictionary<string, double[]> things)
    {
        var crew = new List<PlanPerson>();
        var at = from;
        foreach (var need in o.Things)
        {
            var units = things[need.Thing].Order().ToArray();
            if (units.Length < need.Count || units[need.Count - 1] > end - Least)
            {
                return null;
            }

            at = Math.Max(at, units[need.Count - 1]);
        }

        bool Holds(PlanPerson p, string skill) => p.Skills.Any(k => k.Skill == skill && !(session.On > k.Until));
        bool Join(Func<PlanPerson, bool> who)
        {
            // Who can begin soonest, those who are wanted elsewhere as much later.
            var p = free.Keys.Where(
                p => !crew.Contains(p) && free[p] <= end - Least && !o.NotBy.Contains(p.Id) && !(o.AdultsOnly && p.Minor) && who(p))
                .OrderBy(p => Math.Max(from, free[p]) + spared[p]).ThenBy(p => p.Id, StringComparer.Ordinal).FirstOrDefault();
            if (p is null)
            {
                return false;
            }

            crew.Add(p);
            at = Math.Max(at, free[p]);
            return true;
        }

        foreach (var need in o.Skills)
        {
            while (crew.Count(p => Holds(p, need.Skill)) < need.Count)
            {
                if (!Join(p => Holds(p, need.Skill)))
                {
                    return null;
                }
            }
        }

        while (crew.Count < o.MinCrew || crew.TrueForAll(p => p.Minor) || (crew.Count == 1 && (crew[0].NeverAlone || crew[0].Minor)))
        {
            var first = crew.Count == 0 && o.MinCrew <= 1;
            if (!Join(p => first ? !p.NeverAlone && !p.Minor : !crew.TrueForAll(c => c.Minor) || !p.Minor))
            {
                return null;
            }
        }

        var most = Math.Min(o.MaxCrew, Math.Max(crew.Count, (int)((left + 29) / 30)));
        foreach (var p in free.Keys.Where(p => !crew.Contains(p) && free[p] <= Math.Min(at, end - Least) && !o.NotBy.Contains(p.Id) && !(o.AdultsOnly && p.Minor)).OrderBy(p => spared[p]).ToList())
        {
            if (crew.Count >= most)
            {
                break;
            }

            crew.Add(p);
        }

        return (crew, at);
    }
}
