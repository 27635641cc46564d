using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>A set of changes and what it brings.</summary>
/// <param name="Changes">The changes.</param>
/// <param name="Chance">Chance of the milestone with them.</param>
/// <param name="ChanceError">Its standard error.</param>
/// <param name="Others">Chance of every milestone with them, by id, so that one sees whom it costs.</param>
public sealed record Suggestion(IReadOnlyList<PlanChange> Changes, double Chance, double ChanceError, IReadOnlyDictionary<string, double> Others)
{
    /// <summary>The chance in tenths, as rivets show it; ten only when it was met in every run.</summary>
    public int InTen => SimulatedMilestone.Tenths(Chance);
}

/// <summary>What would bring a milestone to the wanted chance.</summary>
/// <param name="Milestone">Milestone.</param>
/// <param name="Chance">Chance as it is.</param>
/// <param name="Wanted">Chance that is wanted.</param>
/// <param name="Enough">Sets that reach it, the smallest first; empty when none was found or none is needed.</param>
/// <param name="Best">The single changes that help at all, the best first.</param>
public sealed record Advice(string Milestone, double Chance, double Wanted, IReadOnlyList<Suggestion> Enough, IReadOnlyList<Suggestion> Best);

/// <summary>
/// Tries changes on copies of the plan, one by one and then on top of the best, and keeps the smallest sets that bring a milestone to the wanted chance.
/// All are tried under the same luck, so that they can be compared with fewer runs than each would need alone.
/// </summary>
public static class PlanAdvice
{
    /// <summary>Runs for each change, when nothing else is said.</summary>
    public const int UsualRuns = 200;

    private const int MostTogether = 3;

    /// <summary>Looks for the smallest changes.</summary>
    /// <param name="input">The plan as it is.</param>
    /// <param name="milestone">Milestone.</param>
    /// <param name="wanted">Wanted chance, 0 to 1.</param>
    /// <param name="candidates">Changes that may be made; null for those that the plan itself suggests.</param>
    /// <param name="runs">Runs for each change while looking.</param>
    /// <param name="shown">Runs for the chances that are told, as of the page that asks; null for those of the looking.</param>
    /// <param name="seed">Seed.</param>
    /// <param name="policy">The order of work of the plan as it is (<see cref="Planner.Policy"/>); null to look for one.</param>
    /// <param name="progress">Told the share that is done.</param>
    /// <param name="ct">Ends it.</param>
    public static Advice Of(
        PlanInput input,
        string milestone,
        double wanted,
        IReadOnlyList<PlanChange>? candidates = null,
        int runs = UsualRuns,
        int? shown = null,
        int seed = 1,
        IReadOnlyList<string>? policy = null,
        Action<double>? progress = null,
        CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentOutOfRangeException.ThrowIfNegative(wanted);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(wanted, 1);
        var planner = new Planner(input, seed, policy is null ? null : 1, null, policy);
        if (planner.Stopped)
        {
            return new Advice(milestone, 0, wanted, [], []);
        }

        var told = PlanSimulation.Run(planner, shown ?? runs, seed, null, ct).Milestones.First(m => m.Id == milestone).Chance;
        if (told >= wanted)
        {
            return new Advice(milestone, told, wanted, [], []);
        }

        var forecast = PlanSimulation.Run(planner, runs, seed, null, ct);
        var now = forecast.Milestones.First(m => m.Id == milestone).Chance;

        var all = (candidates ?? Candidates(planner, forecast, milestone)).ToList();
        var steps = all.Count * MostTogether;
        var done = 0;
        Suggestion? Try(IReadOnlyList<PlanChange> changes, int with)
        {
            ct.ThrowIfCancellationRequested();
            progress?.Invoke(Math.Min(1, ++done / (double)Math.Max(1, steps)));
            var changed = new Planner(changes.Aggregate(input, (plan, change) => change.Apply(plan)), seed, TryPasses, null, planner.Policy);
            if (changed.Stopped)
            {
                return null;
            }

            var result = PlanSimulation.Run(changed, with, seed, null, ct);
            var of = result.Milestones.First(m => m.Id == milestone);
            return new Suggestion(changes, of.Chance, of.ChanceError, result.Milestones.ToDictionary(m => m.Id, m => m.Chance, StringComparer.Ordinal));
        }

        // What is within the noise of the runs is not news.
        var noise = 2 * Math.Sqrt(Math.Max(0.25 / runs, now * (1 - now) / runs) / 2);
        var single = all.Select(c => Try([c], runs))
            .OfType<Suggestion>()
            .Where(s => s.Chance > now + noise)
            .OrderByDescending(s => s.Chance)
            .ThenBy(s => s.Changes[0].Size)
            .ToList();
        var enough = single.Where(s => s.Chance >= wanted).ToList();
        var reached = single.FirstOrDefault();
        for (var together = 2; together <= MostTogether && enough.Count == 0 && reached is not null; together++)
        {
            var on = reached;
            var next = single.Where(s => !on.Changes.Contains(s.Changes[0]))
                .Take(6)
                .Select(s => Try([.. on.Changes, s.Changes[0]], runs))
                .OfType<Suggestion>()
                .OrderByDescending(s => s.Chance)
                .ToList();
            enough.AddRange(next.Where(s => s.Chance >= wanted));
            reached = next.FirstOrDefault() is { } better && better.Chance > on.Chance ? better : null;
        }

        // What is told is told by as many runs as the page has; what does not hold by them is not told.
        List<Suggestion> Told(IEnumerable<Suggestion> some) => [.. some.Select(s => shown is { } with && with != runs ? Try(s.Changes, with) : s).OfType<Suggestion>()];
        var reach = Told(enough.OrderBy(s => s.Changes.Sum(c => c.Size)).ThenByDescending(s => s.Chance).Take(5));
        return new Advice(
            milestone,
            told,
            wanted,
            [.. reach.Where(s => s.Chance >= wanted)],
            [.. Told(single.Take(8)).Where(s => s.Chance > told).OrderByDescending(s => s.Chance).ThenBy(s => s.Changes[0].Size)]);
    }

    private const int TryPasses = 24;

    /// <summary>Changes that bear on what moves the milestone: more sessions, new holders of the skills it waits for, faster shops, what can be put off, its weight.</summary>
    public static IReadOnlyList<PlanChange> Candidates(Planner planner, PlanForecast forecast, string milestone)
    {
        ArgumentNullException.ThrowIfNull(planner);
        ArgumentNullException.ThrowIfNull(forecast);
        var input = planner.Input;
        var stone = input.Milestones.First(m => m.Id == milestone);
        var needed = stone.Packages.ToHashSet(StringComparer.Ordinal);
        var critical = forecast.Operations.Where(o => o.Critical > 0.05).OrderByDescending(o => o.Critical).Select(o => o.Id).ToList();
        var operations = input.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal);
        var found = new List<PlanChange> { new OtherWeight(milestone, stone.Weight * 4) };
        found.AddRange(input.Packages.Where(p => needed.Contains(p.Id)).Select(p => p.Machine).Distinct(StringComparer.Ordinal)
            .Where(m => input.Machines.First(x => x.Id == m).Standing != MachineStanding.Leaving)
            .Select(m => new OtherStanding(m, MachineStanding.Leaving)));

        // One more day a week, the first on which nobody comes yet, as long as the longest session.
        var until = LocalDate.Max(stone.On, input.Today.PlusWeeks(1));
        var used = input.Sessions.Where(s => s.Site.Length == 0).Select(s => s.On.DayOfWeek).ToHashSet();
        if (input.Sessions.Count > 0)
        {
            var longest = input.Sessions.MaxBy(s => s.Minutes)!;
            var evening = input.Sessions.MinBy(s => s.Minutes)!;
            foreach (var day in new[] { IsoDayOfWeek.Sunday, IsoDayOfWeek.Thursday, IsoDayOfWeek.Monday }.Where(d => !used.Contains(d)))
            {
                var like = day == IsoDayOfWeek.Sunday ? longest : evening;
                found.Add(new MoreSessions(day, like.From, like.Until, new DaySpan(input.Today, until)));
            }
        }

        // A new holder of each skill that the critical work wants: one who learns it, else who comes most often.
        foreach (var skill in critical.SelectMany(o => operations[o].Skills).Select(s => s.Skill).Distinct(StringComparer.Ordinal).Take(4))
        {
            var next = input.People.Where(p => !p.Minor && !p.Skills.Any(s => s.Skill == skill)).OrderByDescending(p => p.Learns.Contains(skill)).ThenByDescending(p => p.Attendance.Sum(a => a.Chance)).ThenBy(p => p.Id, StringComparer.Ordinal).FirstOrDefault();
            if (next is not null)
            {
                found.Add(new NewHolder(next.Id, skill));
            }
        }

        foreach (var demand in critical.SelectMany(o => operations[o].Demands).Distinct(StringComparer.Ordinal).Select(d => input.Demands.First(x => x.Id == d)).Where(d => d.Lead.High > 0).Take(4))
        {
            found.Add(new FasterShop(demand.Id, new DaysRange(demand.Lead.Low * 0.6, demand.Lead.Likely * 0.6, demand.Lead.High * 0.6)));
        }

        foreach (var o in critical.Select(c => operations[c]).Where(o => o.Elapsed.High > 0).Take(4))
        {
            found.Add(new FasterOutside(o.Id, new DaysRange(o.Elapsed.Low * 0.6, o.Elapsed.Likely * 0.6, o.Elapsed.High * 0.6)));
        }

        // What other machines want of the same people, and the milestone's own packages that are on the chain.
        var put = critical.Select(o => operations[o].Package).Distinct(StringComparer.Ordinal)
            .Where(p => !input.Packages.First(x => x.Id == p).Started)
            .OrderBy(p => needed.Contains(p)).Take(6);
        found.AddRange(put.Select(p => new PutOff(p, stone.On.PlusDays(1))));
        return found;
    }
}
