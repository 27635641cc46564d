namespace OilTag.Core.Strip;

/// <summary>What became of one bag of fasteners when its part went back on.</summary>
/// <param name="What">What they are.</param>
/// <param name="CameOff">How many came off.</param>
/// <param name="Bad">How many of them were bad and do not go back.</param>
/// <param name="BackOn">How many went in, old and new together.</param>
/// <param name="New">How many of those were new.</param>
public sealed record BagCount(string What, int CameOff, int Bad, int BackOn, int New)
{
    /// <summary>Holes that stayed empty; below nought when more went in than came off.</summary>
    public int Missing => CameOff - BackOn;

    /// <summary>Good old ones that are left in the bag; below nought when more old ones went in than were good.</summary>
    public int Left => CameOff - Bad - (BackOn - New);
}

/// <summary>Counts fasteners at reassembly: nothing left and nothing missing, or the difference is explained.</summary>
public static class FastenerBalance
{
    /// <summary>What does not come out, in a sentence; null when it does.</summary>
    public static string? Difference(BagCount b)
    {
        ArgumentNullException.ThrowIfNull(b);
        var parts = new List<string>();
        if (b.Missing != 0)
        {
            parts.Add(b.Missing > 0 ? $"{b.Missing} fewer went in than came off" : $"{-b.Missing} more went in than came off");
        }

        if (b.Left != 0)
        {
            parts.Add(b.Left > 0 ? $"{b.Left} good {(b.Left == 1 ? "one is" : "ones are")} left in the bag" : $"{-b.Left} of the bad ones went back in, or new ones were not counted");
        }

        return parts.Count == 0 ? null : $"{b.What}: {string.Join(", and ", parts)}.";
    }

    /// <summary>Checks one bag as typed.</summary>
    /// <param name="b">Counts.</param>
    /// <param name="explained">Why they differ, as typed.</param>
    /// <param name="field">Field to put the sentence beside.</param>
    public static IReadOnlyList<Problem> Check(BagCount b, string? explained, string field)
    {
        ArgumentNullException.ThrowIfNull(b);
        var problems = new List<Problem>();
        if (b.BackOn is < 0 or > 9999 || b.New < 0 || b.New > b.BackOn)
        {
            problems.Add(new Problem(field, $"{b.What}: count how many went in, and how many of those were new."));
            return problems;
        }

        TextRules.Optional(problems, field, explained, 200);
        if (Difference(b) is { } difference && string.IsNullOrWhiteSpace(explained))
        {
            problems.Add(new Problem(field, difference + " Count again, or say why."));
        }

        return problems;
    }
}
