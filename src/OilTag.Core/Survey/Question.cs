using NodaTime;

namespace OilTag.Core.Survey;

/// <summary>Something that is asked of others, and what it holds up.</summary>
public class Question
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place that it is about.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Finding that it is about, or null.</summary>
    public Guid? FindingId { get; init; }

    /// <summary>Package that waits for the answer, or null.</summary>
    public Guid? BlocksId { get; init; }

    /// <summary>What is asked.</summary>
    public required string Text { get; init; }

    /// <summary>Who was asked, in words.</summary>
    public required string AskedOf { get; init; }

    /// <summary>Who asked.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>The answer; empty while there is none.</summary>
    public string Answer { get; set; } = string.Empty;

    /// <summary>By what evidence the answer stands, such as a drawing or a memory.</summary>
    public string AnswerRests { get; set; } = string.Empty;

    /// <summary>Who wrote the answer down.</summary>
    public Guid? AnsweredById { get; set; }

    /// <summary>When.</summary>
    public Instant? AnsweredAt { get; set; }
}

/// <summary>An owner's consent to extra cost: asked, and the reply. Until then the package waits.</summary>
public class Consent
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Finding that the cost comes from.</summary>
    public Guid FindingId { get; init; }

    /// <summary>Package that waits.</summary>
    public Guid PackageId { get; init; }

    /// <summary>How much, in pence.</summary>
    public long Pence { get; init; }

    /// <summary>Who asked.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>True when the owner agreed, false when not; null until there is a reply.</summary>
    public bool? Agreed { get; set; }

    /// <summary>How the reply came, such as a letter of a day.</summary>
    public string How { get; set; } = string.Empty;

    /// <summary>Who recorded the reply.</summary>
    public Guid? RepliedById { get; set; }

    /// <summary>When it was recorded.</summary>
    public Instant? RepliedAt { get; set; }
}

/// <summary>Checks questions, answers and consents.</summary>
public static class QuestionRule
{
    /// <summary>Checks a question.</summary>
    public static IReadOnlyList<Problem> Check(string? text, string? askedOf)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "Question", text, "Say what is asked, such as was there a spring here?", 300);
        TextRules.Need(problems, "AskedOf", askedOf, "Say who was asked.", 120);
        return problems;
    }

    /// <summary>Checks an answer.</summary>
    public static IReadOnlyList<Problem> CheckAnswer(string? answer, string? rests)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "Answer", answer, "Write the answer down.", 500);
        TextRules.Need(problems, "AnswerRests", rests, "Say what it rests on: a drawing, a photo, a memory.", 200);
        return problems;
    }

    /// <summary>What a package waits on while a question is open.</summary>
    public static string Waits(int number, string askedOf) => $"Answer to question Q{number.ToString(System.Globalization.CultureInfo.InvariantCulture)} from {askedOf}";

    /// <summary>What a package waits on while an owner has not replied.</summary>
    public static string Waits(string owner, long pence) => $"Consent of {owner} to {Work.Money.Pounds(pence)}";
}
