using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Core.People;

/// <summary>Checks what is said about what a person may do and when they are away.</summary>
public static class AuthorisationRule
{
    /// <summary>Checks a skill before it is granted.</summary>
    /// <param name="skill">Skill as typed.</param>
    /// <param name="until">Last day on which it holds; null when it does not expire.</param>
    /// <param name="today">Today.</param>
    public static (string Skill, IReadOnlyList<Problem> Problems) Check(string? skill, LocalDate? until, LocalDate today)
    {
        var problems = new List<Problem>();
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
