using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Core.People;

/// <summary>Checks what is said about what a person may do and when they are away.</summary>
public static class AuthorisationRule
{
    /// <summary>Checks a skill before it is granted.</summary>
    /// <param name="skill">Skill as typed.</param>
    /// <param name="from">First day on which it holds; null for today.</param>
    /// <param name="until">Last day on which it holds; null when it does not expire.</param>
    /// <param name="today">Today.</param>
    public static (string Skill, IReadOnlyList<Problem> Problems) Check(string? skill, LocalDate? from, LocalDate? until, LocalDate today)
    {
        var problems = new List<Problem>();
        if (from > until)
        {
            problems.Add(new Problem("HeldFrom", "It begins after it ends."));
        }

        var name = TextRules.Need(problems, "Skill", skill, "Say which skill, such as coded welder.", 60);
        if (until < today)
        {
            problems.Add(new Problem("Until", "That day is past. Leave it empty when it does not expire."));
        }
        else if (until > today.PlusYears(30))
        {
            problems.Add(new Problem("Until", "That is more than thirty years away. Check the year."));
        }

        return (name, problems);
    }

    /// <summary>
    /// Why what somebody holds does not cover a work on a kind of machine on a day, in a sentence; null when it does. The first and the last day count; what is being
    /// learned covers nothing.
    /// </summary>
    /// <param name="held">What they hold; what was taken back is left out.</param>
    /// <param name="work">The work, such as lifting holds.</param>
    /// <param name="kind">The kind of machine.</param>
    /// <param name="day">The day.</param>
    public static string? WhyNotCovered(IEnumerable<Authorisation> held, string work, Machines.MachineKind kind, LocalDate day)
    {
        var of = held.Where(a => a.EndedAt is null && string.Equals(a.Skill, work, StringComparison.OrdinalIgnoreCase)).ToList();
        if (of.Count == 0)
        {
            return $"It wants an authorisation for {work}, and there is none on record. A keeper grants it on the person's page.";
        }

        var fits = of.Where(a => a.Kind is null || a.Kind == kind).ToList();
        if (fits.Count == 0)
        {
            return $"The authorisation for {work} is for another kind of machine.";
        }

        var own = fits.Where(a => !a.Learning).ToList();
        return own.Count == 0 ? $"{char.ToUpperInvariant(work[0])}{work[1..]} is still being learned."
            : own.Exists(a => (a.From is null || a.From <= day) && (a.Until is null || day <= a.Until)) ? null
            : own.Exists(a => a.Until < day)
                ? $"The authorisation for {work} ran out on {Log.LogWords.Day(own.Where(a => a.Until < day).Max(a => a.Until!.Value))}."
            : $"The authorisation for {work} begins on {Log.LogWords.Day(own.Min(a => a.From!.Value))}.";
    }

    /// <summary>The work of an inspector at a hold.</summary>
    public const string LiftingHolds = "lifting holds";

    /// <summary>Checks days on which somebody is away.</summary>
    /// <param name="from">First day.</param>
    /// <param name="until">Last day.</param>
    /// <param name="today">Today.</param>
    public static IReadOnlyList<Problem> CheckAway(LocalDate? from, LocalDate? until, LocalDate today)
    {
        var problems = new List<Problem>();
        ShedRule.Days(problems, "AwayFrom", "AwayUntil", from, until, today);
        return problems;
    }
}
