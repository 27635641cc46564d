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

        TextRules.Need(problems, "Where", where, AskWhere(kind), 80);
        if (dueBack is { } due && Custodies.IsPromised(kind) && due < today)
        {
            problems.Add(new Problem("DueBack", "The promised date lies before today. Type the date on which it comes back."));
        }

        return problems;
    }

    /// <summary>What is asked when nobody has said where it is.</summary>
    public static string AskWhere(CustodyKind kind) => kind switch
    {
        CustodyKind.Away => "Say which shop has it.",
        CustodyKind.Person => "Say who has it.",
        CustodyKind.Lent => "Say to whom it is lent.",
        CustodyKind.Building => "Say in which building it is, and where there.",
        CustodyKind.NotFound => "Say where it was last seen.",
        _ => "Say where it is, such as rack C2.",
    };

    /// <summary>What is said of a move.</summary>
    /// <param name="kind">Kind of place.</param>
    /// <param name="where">The place in words.</param>
    /// <param name="dueBack">Promised date, or null.</param>
    public static string Sentence(CustodyKind kind, string where, LocalDate? dueBack)
    {
        var due = dueBack is { } d && Custodies.IsPromised(kind) ? ", promised back " + Log.LogWords.Day(d) : string.Empty;
        return kind switch
        {
            CustodyKind.Away => $"sent it to {where}{due}.",
            CustodyKind.Person => $"gave it to {where} to look after{due}.",
            CustodyKind.Lent => $"lent it to {where}{due}.",
            CustodyKind.Bench => $"took it in hand at {where}.",
            CustodyKind.NotFound => $"could not find it; last seen at {where}.",
            _ => $"put it at {where}.",
        };
    }
}
