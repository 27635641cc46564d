using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>Why a date moved.</summary>
public enum SlipCause
{
    /// <summary>Less was done since than was planned.</summary>
    BehindPlan,

    /// <summary>Work took other hours than were thought, or is thought to.</summary>
    Estimates,

    /// <summary>There is work that was not known, or what was known is no longer wanted.</summary>
    Scope,

    /// <summary>Other lead times and orders.</summary>
    Supplies,

    /// <summary>Other people, skills, sessions and replies.</summary>
    People,

    /// <summary>Everything else: things, windows, standing, weights, order of work.</summary>
    Rest,
}

/// <summary>Part of a slip.</summary>
/// <param name="Cause">Why.</param>
/// <param name="Days">By how many days it moved the date; below nought when it brought it forward; at least so many where the date is beyond the planned weeks.</param>
/// <param name="About">What it was, by id: operations, demands or people that changed, at most eight.</param>
public sealed record SlipPart(SlipCause Cause, int Days, IReadOnlyList<string> About);

/// <summary>How a milestone moved between two plans.</summary>
/// <param name="Milestone">Milestone.</param>
/// <param name="Promised">Day of the even chance in the earlier plan.</param>
/// <param name="Now">Day of the even chance in the later plan.</param>
/// <param name="Parts">Because of what, in the order in which the causes were put in; they add up to the difference.</param>
public sealed record Slip(string Milestone, LocalDate? Promised, LocalDate? Now, IReadOnlyList<SlipPart> Parts);

/// <summary>
/// Compares a plan with an earlier one: the causes are put into the earlier plan one after the other, and each is charged with what the day of the even
/// chance moves by. The order is always the same, so two comparisons charge alike; what two causes do together falls to the later one.
/// </summary>
public static class PlanSlip
{
    /// <summary>Explains the slip of every milestone that both plans have.</summary>
    /// <param name="earlier">The plan that was promised.</param>
    /// <param name="later">The plan as it is now.</param>
    /// <param name="runs">Runs for each step.</param>
    /// <param name="seed">Seed.</param>
    public static IReadOnlyList<Slip> Explain(PlanInput earlier, PlanInput later, int runs = 200, int seed = 1)
    {
        ArgumentNullException.ThrowIfNull(earlier);
        ArgumentNullException.ThrowIfNull(later);
        var was = earlier.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal);
        var wasDemand = earlier.Demands.ToDictionary(d => d.Id, StringComparer.Ordinal);
        var still = later.Operations.Where(o => was.ContainsKey(o.Id)).ToList();
        var added = later.Operations.Where(o => !was.ContainsKey(o.Id)).ToList();

        // What is still open of the earlier plan, seen from today, with its own hours, people and supplies.
        var packages = still.Select(o => was[o.Id].Package).ToHashSet(StringComparer.Ordinal);
        var ids = still.Select(o => o.Id).ToHashSet(StringComparer.Ordinal);
        var behind = earlier with
        {
            Today = later.Today,
            Sessions = [.. earlier.Sessions.Where(s => s.On >= later.Today)],
            Packages = [.. earlier.Packages.Where(p => packages.Contains(p.Id))],
            Operations = [.. still.Select(o => was[o.Id]).Select(o => o with { After = [.. o.After.Where(a => ids.Contains(a.Operation))] })],
            Milestones = [.. earlier.Milestones.Select(m => m with { Packages = [.. m.Packages.Where(packages.Contains)] })],
        };
        var hours = behind with { Operations = [.. still.Select(o => was[o.Id] with { Hours = o.Hours, Elapsed = o.Elapsed, Chance = o.Chance, After = [.. was[o.Id].After.Where(a => ids.Contains(a.Operation))] })] };
        var scope = hours with
        {
            Machines = [.. earlier.Machines, .. later.Machines.Where(m => earlier.Machines.All(x => x.Id != m.Id))],
            Things = [.. earlier.Things, .. later.Things.Where(t => earlier.Things.All(x => x.Id != t.Id))],
            Packages = later.Packages,
            Operations = later.Operations,
            Demands = [.. later.Demands.Select(d => wasDemand.GetValueOrDefault(d.Id, d))],
            Milestones = later.Milestones,
        };
        var supplies = scope with { Demands = later.Demands };
        var people = supplies with { People = later.People, Sessions = later.Sessions, Sites = later.Sites };
        var steps = new (SlipCause Cause, PlanInput Plan, IReadOnlyList<string> About)[]
        {
            (SlipCause.BehindPlan, behind, [.. still.Select(o => o.Id).Take(8)]),
            (SlipCause.Estimates, hours, [.. still.Where(o => was[o.Id].Hours != o.Hours || was[o.Id].Elapsed != o.Elapsed || Math.Abs(was[o.Id].Chance - o.Chance) > 1e-12).Select(o => o.Id).Take(8)]),
            (SlipCause.Scope, scope, [.. added.Select(o => o.Id).Take(8)]),
            (SlipCause.Supplies, supplies, [.. later.Demands.Where(d => wasDemand.TryGetValue(d.Id, out var x) && x != d).Select(d => d.Id).Take(8)]),
            (SlipCause.People, people, [.. later.People.Where(p => earlier.People.FirstOrDefault(x => x.Id == p.Id) is not { } x || !Same(x, p)).Select(p => p.Id).Take(8)]),
            (SlipCause.Rest, later, []),
        };
        var (policy, first) = Even(earlier, runs, seed, null);
        var days = new List<Dictionary<string, LocalDate?>> { first };
        foreach (var step in steps)
        {
            // Each keeps the order of work of the one before where it can, so that no cause is charged for another order.
            (policy, var even) = Even(step.Plan, runs, seed, policy);
            days.Add(even);
        }

        // What is not met within the planned weeks counts as met on the day after them.
        var beyond = later.Sessions.Concat(earlier.Sessions).Select(x => x.On).DefaultIfEmpty(later.Today).Max().PlusDays(1);
        return [.. later.Milestones.Where(m => earlier.Milestones.Any(x => x.Id == m.Id)).Select(m => new Slip(
            m.Id,
            days[0].GetValueOrDefault(m.Id),
            days[^1].GetValueOrDefault(m.Id),
            [.. steps.Select((s, i) => new SlipPart(s.Cause, Between(i, m.Id), s.About)).Where(p => p.Days != 0)]))];

        int Between(int i, string id) => days[i].ContainsKey(id) && days[i + 1].ContainsKey(id) ? Period.DaysBetween(days[i][id] ?? beyond, days[i + 1][id] ?? beyond) : 0;
    }

    // The order of work, and the day of the even chance of every milestone; null beyond the planned weeks.
    private static (IReadOnlyList<string>? Policy, Dictionary<string, LocalDate?> Even) Even(PlanInput plan, int runs, int seed, IReadOnlyList<string>? policy)
    {
        var planner = new Planner(plan, seed, policy is null ? null : 8, null, policy);
        return planner.Stopped ? (policy, []) : (planner.Policy, PlanSimulation.Run(planner, runs, seed).Milestones.ToDictionary(m => m.Id, m => m.Even.On, StringComparer.Ordinal));
    }

    private static bool Same(PlanPerson a, PlanPerson b) =>
        a.Skills.SequenceEqual(b.Skills) && a.Attendance.SequenceEqual(b.Attendance) && a.Away.SequenceEqual(b.Away) && a.Replies.SequenceEqual(b.Replies) && a.Minor == b.Minor && a.NeverAlone == b.NeverAlone;
}
