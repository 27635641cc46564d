using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>What does not work on a machine for a time: it is not whole, or something that its work takes away is gone.</summary>
/// <param name="Machine">Machine.</param>
/// <param name="What">What is gone, such as "brakes"; empty when the machine as a whole is open.</param>
/// <param name="From">First day; today when it is so already.</param>
/// <param name="Until">Day on which it is back; null when that is not within the planned weeks.</param>
/// <param name="Packages">Packages that take it away, by id.</param>
public sealed record TakenAway(string Machine, string What, LocalDate From, LocalDate? Until, IReadOnlyList<string> Packages);

/// <summary>Where a package lies when nobody comes for long and it may not rest there.</summary>
/// <param name="Package">Package.</param>
/// <param name="At">The step that was begun last; null when none of those to come was.</param>
/// <param name="From">Day of the last session before.</param>
/// <param name="Until">Day of the first session after.</param>
/// <param name="Before">The last step before it after which the package may rest; null when there is none to come.</param>
/// <param name="After">The next step after which it may rest; null when that is the end of the package.</param>
public sealed record UnsafeRest(string Package, string? At, LocalDate From, LocalDate Until, string? Before, string? After);

/// <summary>Works out from a plan when machines are open, what is gone meanwhile, and where work would rest that should not.</summary>
public static class PlanOpen
{
    /// <summary>Nobody comes for so many days: then work should lie where it may rest. Common practice.</summary>
    public const int LongRest = 14;

    /// <summary>What is taken away, machine by machine in the order of the plan; spans that touch are one.</summary>
    /// <param name="input">What was planned.</param>
    /// <param name="schedule">The plan.</param>
    public static IReadOnlyList<TakenAway> TakenAway(PlanInput input, PlanSchedule schedule)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(schedule);
        var steps = input.Operations.Zip(schedule.Operations).ToLookup(x => x.First.Package, x => x.Second, StringComparer.Ordinal);
        var spans = new List<(string Machine, string What, LocalDate From, LocalDate? Until, string Package)>();
        foreach (var p in input.Packages.Where(p => steps[p.Id].Any() && (p.Started || steps[p.Id].Any(o => o.Start is not null))))
        {
            var from = p.Started ? input.Today : steps[p.Id].Where(o => o.Start is not null).Min(o => o.Start!.Value.Date);
            LocalDate? until = steps[p.Id].All(o => o.Finish is not null) ? steps[p.Id].Max(o => o.Finish!.Value.Date) : null;
            spans.AddRange(p.TakesAway.Select(w => (p.Machine, w, from, until, p.Id)));
            if (p.Opens)
            {
                spans.Add((p.Machine, string.Empty, from, until, p.Id));
            }
        }

        var found = new List<TakenAway>();
        foreach (var machine in input.Machines)
        {
            foreach (var g in spans.Where(s => s.Machine == machine.Id).GroupBy(s => s.What, StringComparer.Ordinal).OrderBy(g => g.Key, StringComparer.Ordinal))
            {
                var own = new List<TakenAway>();
                foreach (var s in g.OrderBy(s => s.From).ThenBy(s => s.Until ?? LocalDate.MaxIsoValue))
                {
                    if (own.Count > 0 && (own[^1].Until is not { } end || s.From <= end.PlusDays(1)))
                    {
                        var last = own[^1];
                        own[^1] = last with { Until = last.Until is { } a && s.Until is { } b ? LocalDate.Max(a, b) : null, Packages = [.. last.Packages, s.Package] };
                    }
                    else
                    {
                        own.Add(new TakenAway(s.Machine, s.What, s.From, s.Until, [s.Package]));
                    }
                }

                found.AddRange(own);
            }
        }

        return found;
    }

    /// <summary>Packages that lie over a long time without sessions at a step after which they may not rest, by day.</summary>
    /// <param name="input">What was planned.</param>
    /// <param name="schedule">When each operation starts and is done, in the order of the input; null when it is not.</param>
    public static IReadOnlyList<UnsafeRest> UnsafeRests(PlanInput input, IReadOnlyList<(LocalDateTime? Start, LocalDateTime? Finish)> schedule)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(schedule);
        var rests = new List<(string Site, LocalDate From, LocalDate Until)>();
        foreach (var g in input.Sessions.GroupBy(s => s.Site, StringComparer.Ordinal))
        {
            var days = g.Select(s => s.On).Prepend(input.Today).Distinct().Order().ToList();
            rests.AddRange(days.Zip(days.Skip(1)).Where(d => Period.DaysBetween(d.First, d.Second) > LongRest).Select(d => (g.Key, d.First, d.Second)));
        }

        var steps = input.Operations.Select((o, i) => (Step: o, Times: schedule[i])).ToLookup(x => x.Step.Package, StringComparer.Ordinal);
        var found = new List<UnsafeRest>();
        foreach (var p in input.Packages)
        {
            var own = steps[p.Id].ToList();
            if (own.Count == 0 || (p.RestsSafely && !own.Exists(x => x.Step.SafeStop)))
            {
                continue;
            }

            var site = own[0].Step.Site;
            foreach (var (_, from, until) in rests.Where(r => r.Site == site))
            {
                var begun = own.FindLastIndex(x => x.Times.Start is { } start && start.Date <= from);
                if (begun < 0 ? p.RestsSafely : own.TrueForAll(x => x.Times.Finish?.Date <= from) || (own[begun].Step.SafeStop && own[begun].Times.Finish?.Date <= from))
                {
                    continue;
                }

                var before = begun <= 0 ? -1 : own.FindLastIndex(begun - 1, x => x.Step.SafeStop);
                var after = own.FindIndex(Math.Max(0, begun), x => x.Step.SafeStop);
                found.Add(new UnsafeRest(p.Id, begun < 0 ? null : own[begun].Step.Name, from, until, before < 0 ? null : own[before].Step.Name, after < 0 ? null : own[after].Step.Name));
            }
        }

        return [.. found.OrderBy(f => f.From).ThenBy(f => f.Package, StringComparer.Ordinal)];
    }
}
