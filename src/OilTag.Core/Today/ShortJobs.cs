using NodaTime;

namespace OilTag.Core.Today;

/// <summary>A job for somebody with little time.</summary>
/// <param name="Operation">The step.</param>
/// <param name="Ends">True when it can be finished in that time.</param>
/// <param name="Beside">Who is at it already and would be joined; null when it is done alone.</param>
public sealed record ShortJob(DayOperation Operation, bool Ends, string? Beside);

/// <summary>What somebody can do who has only so many minutes.</summary>
public static class ShortJobs
{
    /// <summary>The jobs: what can be finished first, then what can be joined, then what can be carried on with; each by what it is worth.</summary>
    /// <param name="input">The day.</param>
    /// <param name="plan">Who is at what.</param>
    /// <param name="person">Who asks; they need not be among those who are there.</param>
    /// <param name="minutes">How long they have.</param>
    public static IReadOnlyList<ShortJob> For(DayInput input, DayPlan plan, DayPerson person, int minutes)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(person);
        ArgumentOutOfRangeException.ThrowIfLessThan(minutes, 1);
        var jobs = new List<(ShortJob Job, int Points)>();
        foreach (var o in input.Operations.Where(o => o.After.Count == 0))
        {
            if (DayWorth.Of(person, o, input.On) is not { } points)
            {
                continue;
            }

            var now = plan.Stretches.Where(s => s.Operation == o.Id && s.Person != person.Id && s.From <= input.Now && input.Now < s.Until).Select(s => s.Person).Distinct(StringComparer.Ordinal).ToList();
            if (now.Count > 0)
            {
                if (now.Count < o.MaxCrew)
                {
                    jobs.Add((new ShortJob(o, (now.Count + 1) * minutes >= o.Minutes, now[0]), points));
                }

                continue;
            }

            var alone = o.MinCrew == 1 && !person.Minor && !person.NeverAlone && o.Skills.All(s => s.Count == 1 && person.Skills.Contains(s.Skill)) && o.Things.All(t => t.Count <= input.Things.GetValueOrDefault(t.Thing) - Used(input, plan, t.Thing));
            if (alone && (!o.InOneGo || o.Minutes <= minutes))
            {
                jobs.Add((new ShortJob(o, o.Minutes <= minutes, null), points));
            }
        }

        return [.. jobs.OrderByDescending(j => j.Job.Ends).ThenByDescending(j => j.Job.Beside is not null).ThenByDescending(j => j.Points).Select(j => j.Job)];
    }

    private static int Used(DayInput input, DayPlan plan, string thing)
    {
        var busy = plan.Stretches.Where(s => s.From <= input.Now && input.Now < s.Until).Select(s => s.Operation).ToHashSet();
        return input.Operations.Where(o => busy.Contains(o.Id)).SelectMany(o => o.Things).Where(t => t.Thing == thing).Sum(t => t.Count);
    }
}
