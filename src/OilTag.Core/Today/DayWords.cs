using System.Globalization;
using NodaTime;

namespace OilTag.Core.Today;

/// <summary>Something that could be done, but not today.</summary>
/// <param name="Operation">The step.</param>
/// <param name="Why">What it lacks, as the end of a sentence.</param>
public sealed record NotToday(DayOperation Operation, string Why);

/// <summary>Says why a job matters, and why another is not done today.</summary>
public static class DayWords
{
    /// <summary>Why the turn of a step has not come.</summary>
    /// <param name="before">What stands before it.</param>
    /// <param name="until">Until when somebody is on that; null when nobody is.</param>
    public static string Awaits(DayOperation before, LocalTime? until)
    {
        ArgumentNullException.ThrowIfNull(before);
        return $"“{before.Name}” comes before it and is not done{(until is { } t ? $"; somebody is on it until {VisitRule.Words(t)}" : string.Empty)}. Choose that, or something else.";
    }

    /// <summary>Why a job matters, as a short sentence without a full stop.</summary>
    /// <param name="o">The step.</param>
    /// <param name="today">Today.</param>
    public static string Why(DayOperation o, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(o);
        return o.Critical >= 0.5 && o.Milestone.Length > 0 ? $"Holds up {o.Milestone}"
            : o.Latest < today ? $"Should have begun by {Day(o.Latest.Value)}"
            : o.Latest <= today.PlusDays(14) && o.Milestone.Length > 0 ? $"{o.Milestone} needs it begun by {Day(o.Latest.Value)}"
            : o.Next.Length > 0 ? $"Then “{o.Next}” can start"
            : $"Last step of package {o.Package}";
    }

    /// <summary>What keeps a step from being done by those who are there; "no hands are left" when nothing else does.</summary>
    /// <param name="input">The day.</param>
    /// <param name="o">The step.</param>
    public static string Lacks(DayInput input, DayOperation o)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(o);
        var may = input.People.Where(p => DayWorth.Of(p, o, input.On) is not null).ToList();
        foreach (var need in o.Skills)
        {
            var here = may.Count(p => p.Skills.Contains(need.Skill));
            if (here < need.Count)
            {
                var holders = input.Holders.GetValueOrDefault(need.Skill) ?? [];
                return here > 0 ? $"wants {need.Count} for {need.Skill}; {here} here"
                    : $"nobody here is cleared for {need.Skill}{(holders.Count is > 0 and <= 3 ? $"; {string.Join(", ", holders)} {(holders.Count == 1 ? "is" : "are")}" : string.Empty)}";
            }
        }

        if (may.Count < o.MinCrew)
        {
            return may.Count == 0 ? o.AdultsOnly ? "wants an adult" : "nobody here may do it" : $"wants {o.MinCrew} people; {may.Count} here";
        }

        if (!may.Exists(p => !p.Minor))
        {
            return "wants an adult";
        }

        foreach (var need in o.Things)
        {
            var there = input.Things.GetValueOrDefault(need.Thing);
            if (there < need.Count)
            {
                return there == 0 ? $"no {need.Thing} here today" : $"wants {need.Count} × {need.Thing}; {there} here";
            }
        }

        if (o.InOneGo)
        {
            var most = may.Max(p => DayPlanner.Minute(p.Until) - Math.Max(DayPlanner.Minute(p.From), DayPlanner.Minute(input.Now)));
            if (most * Math.Min(o.MaxCrew, may.Count) < o.Minutes)
            {
                return "must be ended on the day it is begun; the time is too short";
            }
        }

        return "no hands are left";
    }

    /// <summary>Steps that are ready and that nobody is given, those worth most first.</summary>
    /// <param name="input">The day.</param>
    /// <param name="plan">What came of it.</param>
    public static IReadOnlyList<NotToday> Left(DayInput input, DayPlan plan)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(plan);
        var given = plan.Stretches.Select(s => s.Operation).ToHashSet();
        return [.. input.Operations
            .Where(o => !given.Contains(o.Id) && o.After.Count == 0)
            .OrderByDescending(o => DayWorth.Of(o, input.On))
            .Select(o => new NotToday(o, Lacks(input, o)))];
    }

    private static string Day(LocalDate day) => day.ToString("ddd d MMM", CultureInfo.GetCultureInfo("en-GB"));
}
