using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Survey;

/// <summary>What the finding form was filled with.</summary>
public sealed record FindingEntry
{
    /// <summary>What was found.</summary>
    public string? What { get; init; }

    /// <summary>Suspected cause.</summary>
    public string? Cause { get; init; }

    /// <summary>Which way the feature wears.</summary>
    public Feature? Feature { get; init; }

    /// <summary>Reading as typed.</summary>
    public string? Reading { get; init; }

    /// <summary>Nominal as typed.</summary>
    public string? Nominal { get; init; }

    /// <summary>Limit as typed.</summary>
    public string? Limit { get; init; }

    /// <summary>The standard the limit belongs to.</summary>
    public RestorationStandard? LimitFor { get; init; }
}

/// <summary>A checked finding.</summary>
/// <param name="Reading">Reading, or null when none was typed.</param>
/// <param name="Nominal">Nominal, or null.</param>
/// <param name="Limit">Limit, or null.</param>
/// <param name="Problems">What must be changed first.</param>
public sealed record FindingCheck(Measure? Reading, Measure? Nominal, Measure? Limit, IReadOnlyList<Problem> Problems);

/// <summary>Checks a finding before it is recorded.</summary>
public static class FindingRule
{
    /// <summary>Reads the measures and checks that they fit each other.</summary>
    public static FindingCheck Check(FindingEntry e)
    {
        ArgumentNullException.ThrowIfNull(e);
        var problems = new List<Problem>();
        TextRules.Need(problems, "What", e.What, "Say what you found, such as pitted along the lower edge.", 1000);
        TextRules.Optional(problems, "Cause", e.Cause, 500);
        var reading = Read(problems, "Reading", e.Reading);
        var nominal = Read(problems, "Nominal", e.Nominal);
        var limit = Read(problems, "Limit", e.Limit);
        if (reading is not null && e.Feature is null)
        {
            problems.Add(new Problem("Feature", "Say what was measured: a thickness, a shaft, a bore or a clearance. It decides which way is worn."));
        }

        if (reading is null && string.IsNullOrWhiteSpace(e.Reading) && (nominal is not null || limit is not null))
        {
            problems.Add(new Problem("Reading", "There is a nominal or a limit but no reading. Type what you measured, or empty the other two."));
        }

        if (problems.Count == 0 && reading is not null && e.Feature is { } feature)
        {
            problems.AddRange(VerdictRule.CheckSizes(feature, reading, nominal, limit));
        }

        return new FindingCheck(reading, nominal, limit, problems);
    }

    private static Measure? Read(List<Problem> problems, string field, string? text)
    {
        if (string.IsNullOrWhiteSpace(text))
        {
            return null;
        }

        var read = MeasureReader.Read(text, Quantity.Length);
        if (read.Refusal is not null)
        {
            problems.Add(new Problem(field, read.Refusal));
        }

        return read.Value;
    }

    /// <summary>Checks a decision about a finding.</summary>
    public static IReadOnlyList<Problem> CheckDecision(Disposition? disposition, string? why, int left, int right)
    {
        var problems = new List<Problem>();
        if (disposition is null || !Enum.IsDefined(disposition.Value))
        {
            problems.Add(new Problem("Disposition", "Choose what is to be done."));
        }

        TextRules.Need(problems, "Why", why, "Say why in a few words; somebody will ask in five years.", 500);
        if (disposition == Disposition.Remake)
        {
            if (left is < 0 or > 999 || right is < 0 or > 999)
            {
                problems.Add(new Problem("Pieces", "Pieces count from 0 to 999 on each hand."));
            }
            else if (left + right == 0)
            {
                problems.Add(new Problem("Pieces", "Say how many to make, left and right."));
            }
        }

        return problems;
    }
}
