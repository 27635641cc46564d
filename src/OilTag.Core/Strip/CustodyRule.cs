using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>Checks a move of a tagged part.</summary>
public static class CustodyRule
{
    /// <summary>Checks where it goes and, for a part that goes away, when it is promised back.</summary>
    /// <param name="end">How the tag ended, or null while it is open.</param>
    /// <param name="kind">Kind of place.</param>
    /// <param name="where">The place in words.</param>
    /// <param name="dueBack">Promised date, or null.</param>
    /// <param name="today">Today.</param>
    public static IReadOnlyList<Problem> Check(TagEnd? end, CustodyKind kind, string? where, LocalDate? dueBack, LocalDate today)
    {
        var problems = new List<Problem>();
        if (end is not null)
        {
            problems.Add(new Problem(string.Empty, "This tag's life has ended, so there is nothing to move."));
        }

        TextRules.Need(problems, "Where", where, kind switch
        {
            CustodyKind.Away => "Say which shop has it.",
            CustodyKind.NotFound => "Say where it was last seen.",
            _ => "Say where it is, such as rack C2.",
        }, 80);
        if (dueBack is { } due && kind == CustodyKind.Away && due < today)
        {
            problems.Add(new Problem("DueBack", "The promised date lies before today. Type the date on which it comes back."));
        }

        return problems;
    }
}
