namespace OilTag.Core.Planning;

/// <summary>One milestone in two plans.</summary>
/// <param name="Id">Milestone.</param>
/// <param name="Before">As it is.</param>
/// <param name="After">With the changes; null when they leave no such milestone.</param>
/// <param name="Told">True when the difference of the chances is more than chance in the runs can account for.</param>
public sealed record ComparedMilestone(string Id, SimulatedMilestone Before, SimulatedMilestone? After, bool Told);

/// <summary>A plan with changes beside the plan as it is.</summary>
/// <param name="Changes">The changes.</param>
/// <param name="Plan">The changed input.</param>
/// <param name="Schedule">The changed plan by expected values.</param>
/// <param name="Forecast">What the runs say of it; null when it cannot be planned.</param>
/// <param name="Milestones">Side by side.</param>
/// <param name="KeptAsWas">True when the changes only add and the engine found nothing better than the plan as it is, which is then what they are worth.</param>
public sealed record Comparison(IReadOnlyList<PlanChange> Changes, PlanInput Plan, PlanSchedule Schedule, PlanForecast? Forecast, IReadOnlyList<ComparedMilestone> Milestones, bool KeptAsWas);

/// <summary>
/// What-if: works out a copy of a plan with changes and puts it beside the plan as it is, under the same luck and from the same order of work, so that
/// only what the changes do is told apart. Where the search finds an order for the changed plan that would do the plan as it is good too, both have it.
/// An order of work that places each operation as soon as it can be may end later with more hands (an anomaly of such schedules that is known since the
/// 1960s). A change that only adds leaves the plan as it is possible, so where nothing better is found the plan as it is stands: adding never makes it worse.
/// </summary>
public static class PlanCompare
{
    /// <summary>Compares.</summary>
    /// <param name="input">The plan as it is.</param>
    /// <param name="changes">Changes, made one after the other.</param>
    /// <param name="runs">Runs of each plan.</param>
    /// <param name="seed">Seed of both.</param>
    /// <param name="passes">Orders that are tried for each; null for the usual number.</param>
    /// <param name="policy">The order of work of the plan as it is (<see cref="Planner.Policy"/>); null to look for one.</param>
    /// <param name="ct">Ends it.</param>
    public static Comparison Of(PlanInput input, IReadOnlyList<PlanChange> changes, int runs, int seed = 1, int? passes = null, IReadOnlyList<string>? policy = null, CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(changes);
        var before = new Planner(input, seed, policy is null ? passes : 1, null, policy);
        if (before.Stopped)
        {
            throw new ArgumentException("The plan as it is has problems that stop it.", nameof(input));
        }

        var was = PlanSimulation.Run(before, runs, seed, null, ct);
        var plan = changes.Aggregate(input, (p, change) => change.Apply(p));
        var after = new Planner(plan, seed, passes, null, before.Policy);
        var forecast = after.Stopped ? null : PlanSimulation.Run(after, runs, seed, null, ct);
        var schedule = after.Schedule(forecast);
        if (forecast is not null && !after.Policy.SequenceEqual(before.Policy))
        {
            var other = new Planner(input, seed, 1, null, after.Policy);
            var found = PlanSimulation.Run(other, runs, seed, null, ct);
            if (Worse(found, was, input))
            {
                (before, was) = (other, found);
            }
        }

        var kept = forecast is not null && changes.All(OnlyAdds) && Worse(was, forecast, input);
        if (kept)
        {
            schedule = before.Schedule(was);
            forecast = was;
        }

        return new Comparison(changes, plan, schedule, forecast, [.. was.Milestones.Select(m => Beside(m, forecast?.Milestones.FirstOrDefault(x => x.Id == m.Id)))], kept);
    }

    /// <summary>True for a change after which everything that was possible still is.</summary>
    public static bool OnlyAdds(PlanChange change) => change is MoreSessions or NewHolder or FasterShop or FasterOutside;

    private static ComparedMilestone Beside(SimulatedMilestone before, SimulatedMilestone? after)
    {
        var error = after is null ? 0 : Math.Sqrt((before.ChanceError * before.ChanceError) + (after.ChanceError * after.ChanceError));
        return new ComparedMilestone(before.Id, before, after, after is not null && Math.Abs(after.Chance - before.Chance) > Math.Max(2 * error, 1e-9));
    }

    // Weighed like the plan itself: the chances of the milestones, those that cannot move three times.
    private static bool Worse(PlanForecast was, PlanForecast now, PlanInput input)
    {
        double Worth(PlanForecast f) => input.Milestones.Select((m, i) => m.Weight * (m.Fixed ? 3 : 1) * (f.Milestones[i].Chance - (1e-4 * (f.Milestones[i].MeanDays ?? 10_000)))).Sum();
        return Worth(now) < Worth(was);
    }
}
