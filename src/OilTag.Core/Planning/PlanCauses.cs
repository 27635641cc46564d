using System.Globalization;
using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>What keeps a milestone from being met sooner.</summary>
public enum CauseKind
{
    /// <summary>Something that has to come.</summary>
    Order,

    /// <summary>Time that passes without hands: away at a shop, a cure, a wait.</summary>
    Elapsed,

    /// <summary>Too few who hold a skill come, or too seldom; without a skill, too few hands of any kind.</summary>
    Hands,

    /// <summary>A tool, jack, bay or bench of which there are too few.</summary>
    Thing,

    /// <summary>The days on which a machine must be whole.</summary>
    Window,

    /// <summary>The limit on packages that are open at once.</summary>
    OpenLimit,

    /// <summary>A package that is put off to a day.</summary>
    PutOff,

    /// <summary>The hours of a step.</summary>
    Work,
}

/// <summary>A cause of a milestone's date, by what its absence would give.</summary>
/// <param name="Milestone">Milestone.</param>
/// <param name="Kind">What it is.</param>
/// <param name="Id">Demand, operation, skill (empty for any hands), thing, machine or package; empty for the limit.</param>
/// <param name="Days">By how many days the milestone is met sooner when it is not there: the mean over the middle eight tenths of the runs.</param>
/// <param name="Error">Standard error of that, days, from pairs of runs with the same luck.</param>
/// <param name="WeekLess">By how many days it is met sooner when a wait is a week shorter; null for what is no wait.</param>
public sealed record PlanCause(string Milestone, CauseKind Kind, string Id, double Days, double Error, double? WeekLess)
{
    /// <summary>What it is, in words.</summary>
    /// <param name="input">The plan.</param>
    public string Words(PlanInput input)
    {
        ArgumentNullException.ThrowIfNull(input);
        string Step() => input.Operations.First(o => o.Id == Id) is var o ? $"{o.Name} ({input.Packages.First(p => p.Id == o.Package).Title})" : string.Empty;
        return Kind switch
        {
            CauseKind.Order => input.Demands.First(d => d.Id == Id) is { Ordered: null } d ? $"{d.What}, not ordered yet" : $"{input.Demands.First(x => x.Id == Id).What}, ordered and not here",
            CauseKind.Elapsed => $"{Step()}: time that passes without hands",
            CauseKind.Hands when Id.Length == 0 => "Too few hands of any kind",
            CauseKind.Hands => PlanCauses.Holders(input, Id),
            CauseKind.Thing => $"One {input.Things.First(t => t.Id == Id).Name} more could be used",
            CauseKind.Window => $"{input.Machines.First(m => m.Id == Id).Name} must be whole in its windows",
            CauseKind.OpenLimit => $"No more than {input.OpenLimit} packages may be open on an assembly",
            CauseKind.PutOff => $"{input.Packages.First(p => p.Id == Id).Title} is put off to {PlanReasons.Day(input.Packages.First(p => p.Id == Id).NotBefore!.Value, input.Today)}",
            _ => $"{Step()}: its {Hours(input.Operations.First(o => o.Id == Id).Hours)}",
        };
    }

    /// <summary>What it would give not to have it, in words.</summary>
    public string Gives() => string.Create(CultureInfo.InvariantCulture, $"Without it {Count(Days)} sooner{(WeekLess >= 0.5 ? $"; a week less of it gives {Count(WeekLess.Value)}" : string.Empty)}");

    private static string Count(double days) => Math.Round(days, MidpointRounding.AwayFromZero) is var d && d <= 1 ? "1 day" : string.Create(CultureInfo.InvariantCulture, $"{d:0} days");

    private static string Hours(HoursRange h) => string.Create(CultureInfo.InvariantCulture, $"{h.Low:0.#} to {h.High:0.#} hours");
}

/// <summary>
/// Finds what fixes the dates. A chain of what waits for what names only the last thing that was missing; here each thing that could be a cause is taken away
/// from a copy of the plan, one at a time, with the same order of work and the same luck, and the one whose absence gives most is the first cause. What two
/// causes hold only together, none of them is charged with.
/// </summary>
public static class PlanCauses
{
    /// <summary>Runs for each cause that is tried, when nothing else is said.</summary>
    public const int UsualRuns = 128;

    /// <summary>Most causes of a milestone that are kept.</summary>
    public const int MostOfEach = 6;

    // What lies on the chain more seldom is not tried.
    private const double Seldom = 0.02;

    private const int MostTried = 48;

    /// <summary>Finds the causes of every milestone.</summary>
    /// <param name="planner">The plan.</param>
    /// <param name="forecast">What its runs said.</param>
    /// <param name="runs">Runs for each cause.</param>
    /// <param name="seed">Seed of the runs.</param>
    /// <param name="ct">Ends it.</param>
    /// <returns>Milestone by milestone, what would give most first; only what gives more than half a day and is told from chance.</returns>
    public static IReadOnlyList<PlanCause> Of(Planner planner, PlanForecast forecast, int runs = UsualRuns, int seed = 1, CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(planner);
        ArgumentNullException.ThrowIfNull(forecast);
        ArgumentOutOfRangeException.ThrowIfLessThan(runs, 2);
        var input = planner.Input;
        if (planner.Stopped || input.Milestones.Count == 0)
        {
            return [];
        }

        var now = Days(planner, runs, seed, ct);
        var found = new List<PlanCause>();
        foreach (var (kind, id) in Candidates(input, forecast))
        {
            ct.ThrowIfCancellationRequested();
            if (Days(With(planner, Without(input, kind, id)), runs, seed, ct) is not { } without)
            {
                continue;
            }

            var less = kind is CauseKind.Order or CauseKind.Elapsed ? Days(With(planner, WeekLess(input, kind, id)), runs, seed, ct) : null;
            for (var k = 0; k < input.Milestones.Count; k++)
            {
                var (days, error) = Gain(now![k], without[k]);
                if (days >= 0.5 && days > 2 * error)
                {
                    found.Add(new PlanCause(input.Milestones[k].Id, kind, id, days, error, less is null ? null : Gain(now[k], less[k]).Days));
                }
            }
        }

        return [.. input.Milestones.SelectMany(m => found.Where(c => c.Milestone == m.Id).OrderByDescending(c => c.Days).ThenBy(c => c.Kind).ThenBy(c => c.Id, StringComparer.Ordinal).Take(MostOfEach))];
    }

    /// <summary>The plan as it would be without a cause: the thing here, the wait over, somebody who always comes, one thing more, no window, no limit, not put off, no hours.</summary>
    public static PlanInput Without(PlanInput input, CauseKind kind, string id)
    {
        ArgumentNullException.ThrowIfNull(input);
        return kind switch
        {
            CauseKind.Order => input with { Demands = [.. input.Demands.Select(d => d.Id == id ? d with { Lead = DaysRange.None, Enquiry = DaysRange.None, Ordered = null } : d)] },
            CauseKind.Elapsed => input with { Operations = [.. input.Operations.Select(o => o.Id == id ? o with { Elapsed = DaysRange.None } : o)] },
            CauseKind.Hands => input with
            {
                People =
                [
                    .. input.People,
                    new PlanPerson
                    {
                        Id = "one more " + id,
                        Name = "One more",
                        Skills = id.Length == 0 ? [] : [new PlanSkill(id)],
                        Attendance = [.. input.Sessions.Select(s => (s.On.DayOfWeek, s.Site)).Distinct().Select(s => new PlanAttendance(s.DayOfWeek, 1, s.Site))],
                        OtherDays = 1,
                    },
                ],
            },
            CauseKind.Thing => input with { Things = [.. input.Things.Select(t => t.Id == id ? t with { Count = t.Count + 1, Out = [] } : t)] },
            CauseKind.Window => input with { Machines = [.. input.Machines.Select(m => m.Id == id ? m with { Windows = [] } : m)] },
            CauseKind.OpenLimit => input with { OpenLimit = null },
            CauseKind.PutOff => input with { Packages = [.. input.Packages.Select(p => p.Id == id ? p with { NotBefore = null } : p)] },
            _ => input with { Operations = [.. input.Operations.Select(o => o.Id == id ? o with { Hours = HoursRange.None } : o)] },
        };
    }

    /// <summary>Who holds a skill and how often they come, in words.</summary>
    internal static string Holders(PlanInput input, string skill)
    {
        var holders = input.People.Where(p => p.Skills.Any(s => s.Skill == skill)).ToList();
        return holders.Count switch
        {
            0 => $"Nobody holds “{skill}”",
            1 => $"{holders[0].Name} alone holds “{skill}” and comes to about {Often(input, holders[0])} in ten sessions",
            _ => $"{holders.Count} hold “{skill}”: {string.Join(" and ", holders.OrderByDescending(h => Often(input, h)).Take(2).Select(h => $"{h.Name} comes to about {Often(input, h)}"))} in ten sessions",
        };
    }

    // In how many sessions of ten of the next half year somebody is expected.
    private static int Often(PlanInput input, PlanPerson person)
    {
        var sessions = input.Sessions.Where(s => s.On < input.Today.PlusDays(182)).ToList();
        return sessions.Count == 0 ? 0 : (int)Math.Round(10 * sessions.Average(s => PlanCalendar.Chance(person, s)), MidpointRounding.AwayFromZero);
    }

    private static PlanInput WeekLess(PlanInput input, CauseKind kind, string id)
    {
        static DaysRange Less(DaysRange d) => new(Math.Max(0, d.Low - 7), Math.Max(0, d.Likely - 7), Math.Max(0, d.High - 7));
        return kind == CauseKind.Order
            ? input with { Demands = [.. input.Demands.Select(d => d.Id == id ? d with { Lead = Less(d.Lead) } : d)] }
            : input with { Operations = [.. input.Operations.Select(o => o.Id == id ? o with { Elapsed = Less(o.Elapsed) } : o)] };
    }

    // The mean of what pairs of runs gain, without the tenth that gains least and the tenth that gains most: a few runs that do not end within the planned
    // weeks would hide the rest.
    private static (double Days, double Error) Gain(double[] now, double[] without)
    {
        var gains = now.Zip(without, (a, b) => a - b).Order().ToList();
        var cut = gains.Count / 10;
        var middle = gains[cut..^cut];
        var mean = middle.Average();
        return (mean, Math.Sqrt(middle.Average(g => (g - mean) * (g - mean)) / Math.Max(1, middle.Count - 1)));
    }

    private static Planner With(Planner planner, PlanInput changed) => Planner.Under(changed, planner.Policy);

    // On which day each milestone is met in each run, as a fraction; the end of the planned weeks where it is not. Null when the plan stops.
    private static double[][]? Days(Planner planner, int runs, int seed, CancellationToken ct)
    {
        if (planner.Stopped)
        {
            return null;
        }

        var m = planner.Model;
        double[][] days = [.. m.Milestones.Select(_ => new double[runs])];
        PlanSimulation.Each(planner, [.. Enumerable.Range(0, runs)], seed, (run, i) =>
        {
            run.Draw(planner.Order.List, seed, i);
            for (var k = 0; k < days.Length; k++)
            {
                days[k][i] = Math.Min(m.Horizon, PlanSimulation.Finish(m, run, k)) / 1440.0;
            }
        }, ct);
        return days;
    }

    private static List<(CauseKind Kind, string Id)> Candidates(PlanInput input, PlanForecast forecast)
    {
        var operations = input.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal);
        var critical = forecast.Operations.Where(o => o.Critical > Seldom).OrderByDescending(o => o.Critical).Select(o => (Step: operations[o.Id], o.Critical)).ToList();
        var packages = critical.Select(c => c.Step.Package).Distinct(StringComparer.Ordinal).Select(id => input.Packages.First(p => p.Id == id)).ToList();
        var found = new List<(CauseKind Kind, string Id)>();
        found.AddRange(forecast.Demands.Where(d => d.Critical > Seldom).OrderByDescending(d => d.Critical).Select(d => (CauseKind.Order, d.Id)).Take(10));
        found.AddRange(critical.Where(c => c.Step.Elapsed.High > 0).Select(c => (CauseKind.Elapsed, c.Step.Id)).Take(10));
        found.AddRange(critical.SelectMany(c => c.Step.Skills).Select(s => s.Skill).Distinct(StringComparer.Ordinal).Select(s => (CauseKind.Hands, s)).Take(10));
        if (critical.Exists(c => c.Step.Hours.High > 0 && c.Step.Skills.Count == 0))
        {
            found.Add((CauseKind.Hands, string.Empty));
        }

        found.AddRange(critical.SelectMany(c => c.Step.Things).Select(t => t.Thing).Distinct(StringComparer.Ordinal).Select(t => (CauseKind.Thing, t)).Take(6));
        found.AddRange(packages.Select(p => p.Machine).Distinct(StringComparer.Ordinal).Where(m => (input.Machines.First(x => x.Id == m).Windows ?? []).Count > 0).Select(m => (CauseKind.Window, m)));
        if (input.OpenLimit is not null)
        {
            found.Add((CauseKind.OpenLimit, string.Empty));
        }

        found.AddRange(packages.Where(p => p.NotBefore is not null).Select(p => (CauseKind.PutOff, p.Id)).Take(4));
        found.AddRange(critical.Where(c => c.Step.Hours.High > 0).OrderByDescending(c => c.Critical * c.Step.Hours.Mean).Select(c => (CauseKind.Work, c.Step.Id)).Take(6));
        return [.. found.Take(MostTried)];
    }
}
