using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>People are called out for a day on which many hands are wanted at once, such as a heavy lift.</summary>
public class CallOut
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>The step it is for; null when it is for the day as a whole.</summary>
    public Guid? OperationId { get; init; }

    /// <summary>What for.</summary>
    public required string What { get; init; }

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>From when.</summary>
    public LocalTime From { get; init; }

    /// <summary>Until when.</summary>
    public LocalTime Until { get; init; }

    /// <summary>How many people are wanted.</summary>
    public int Wanted { get; init; }

    /// <summary>Skills of which holders must be among them.</summary>
    public IReadOnlyList<SkillNeed> Skills { get; init; } = [];

    /// <summary>Who called.</summary>
    public Guid AskedById { get; init; }

    /// <summary>When.</summary>
    public Instant AskedAt { get; init; }

    /// <summary>When it was called off; null while it stands.</summary>
    public Instant? EndedAt { get; set; }
}

/// <summary>An answer to a call-out.</summary>
public enum CallAnswer
{
    /// <summary>Comes.</summary>
    Yes,

    /// <summary>Comes perhaps.</summary>
    Perhaps,

    /// <summary>Does not come.</summary>
    No,
}

/// <summary>What somebody answered; a later answer takes its place.</summary>
public class CallReply
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Call-out.</summary>
    public Guid CallOutId { get; init; }

    /// <summary>Who.</summary>
    public Guid PersonId { get; init; }

    /// <summary>Answer.</summary>
    public CallAnswer Answer { get; set; }

    /// <summary>Who wrote it down.</summary>
    public Guid RecordedById { get; set; }

    /// <summary>When.</summary>
    public Instant At { get; set; }
}

/// <summary>Somebody of the team as a call-out sees them.</summary>
/// <param name="Chance">How likely they come, 0 to 1.</param>
/// <param name="Skills">What they hold on that day.</param>
public sealed record CalledPerson(double Chance, IReadOnlyCollection<string> Skills);

/// <summary>What answers are worth, and how sure it is that enough come.</summary>
public static class CallOutRule
{
    /// <summary>Most people who can be called.</summary>
    public const int MostWanted = 40;

    /// <summary>What a yes, a perhaps and a no are worth. Common practice: one in twenty who says yes cannot come after all.</summary>
    public static double Chance(CallAnswer answer) => answer switch { CallAnswer.Yes => 0.95, CallAnswer.Perhaps => 0.5, _ => 0 };

    /// <summary>
    /// The chance that at least so many come and among them holders enough of each skill, when each comes or not by themselves: the exact sum over who
    /// comes, person by person (for no skills, the Poisson-binomial distribution). One person counts for every skill they hold.
    /// </summary>
    /// <param name="people">Who is called.</param>
    /// <param name="wanted">How many are wanted.</param>
    /// <param name="skills">Holders wanted.</param>
    public static double Enough(IReadOnlyList<CalledPerson> people, int wanted, IReadOnlyList<SkillNeed> skills)
    {
        ArgumentNullException.ThrowIfNull(people);
        ArgumentNullException.ThrowIfNull(skills);

        // How many are there, and of each skill: no more is told apart than is wanted.
        var limits = skills.Select(s => s.Count).Prepend(wanted).ToArray();
        var width = new int[limits.Length];
        var size = 1;
        for (var i = 0; i < limits.Length; i++)
        {
            width[i] = size;
            size = checked(size * (limits[i] + 1));
        }

        var chance = new double[size];
        chance[0] = 1;
        foreach (var p in people)
        {
            var adds = Enumerable.Range(0, limits.Length).Select(i => i == 0 || p.Skills.Contains(skills[i - 1].Skill)).ToArray();
            var next = new double[size];
            for (var state = 0; state < size; state++)
            {
                if (chance[state] == 0)
                {
                    continue;
                }

                var to = state;
                for (var i = 0; i < limits.Length; i++)
                {
                    if (adds[i] && state / width[i] % (limits[i] + 1) < limits[i])
                    {
                        to += width[i];
                    }
                }

                next[state] += chance[state] * (1 - p.Chance);
                next[to] += chance[state] * p.Chance;
            }

            chance = next;
        }

        return Math.Clamp(chance[^1], 0, 1);
    }

    /// <summary>Checks a call-out.</summary>
    /// <param name="what">What for.</param>
    /// <param name="on">Day.</param>
    /// <param name="from">From when.</param>
    /// <param name="until">Until when.</param>
    /// <param name="wanted">How many, as typed.</param>
    /// <param name="today">Today.</param>
    public static (int Wanted, IReadOnlyList<Problem> Problems) Check(string? what, LocalDate? on, LocalTime? from, LocalTime? until, string? wanted, LocalDate today)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "What", what, "Say what for, such as lifting the boiler out.", 120);
        if (on is null || on <= today || on > today.PlusYears(2))
        {
            problems.Add(new Problem("On", on is null ? "Choose the day." : "Choose a day to come, within two years."));
        }

        if (from is null || until is null)
        {
            problems.Add(new Problem("From", "Type from when and until when."));
        }
        else if (until <= from)
        {
            problems.Add(new Problem("From", "It ends before it begins. Check both times."));
        }

        var n = ShedRule.Whole(wanted, 1, MostWanted);
        if (n is null)
        {
            problems.Add(new Problem("Wanted", $"Type how many people are wanted, 1 to {MostWanted}."));
        }

        return (n ?? 0, problems);
    }
}
