namespace OilTag.Core.Survey;

/// <summary>How the cause of a finding ended.</summary>
public enum CauseEnd
{
    /// <summary>It was cured.</summary>
    Cured,

    /// <summary>It was accepted: it stays, and people know.</summary>
    Accepted,
}

/// <summary>When a finding is finished.</summary>
public static class FindingEndRule
{
    /// <summary>What keeps a finding open; empty when it is finished. A cause that is neither cured nor accepted keeps it open whatever was done about the damage.</summary>
    /// <param name="f">The finding.</param>
    /// <param name="decided">The decision that holds, or null.</param>
    /// <param name="openPackages">Numbers of packages from it that are open.</param>
    /// <param name="cleaned">True when it was settled on cleaning and the cleaning is done.</param>
    /// <param name="openQuestions">Numbers of questions about it without an answer.</param>
    public static IReadOnlyList<string> WhyOpen(Finding f, Disposition? decided, IReadOnlyList<int> openPackages, bool cleaned, IReadOnlyList<int> openQuestions)
    {
        ArgumentNullException.ThrowIfNull(f);
        ArgumentNullException.ThrowIfNull(openPackages);
        ArgumentNullException.ThrowIfNull(openQuestions);
        var open = new List<string>();
        if (decided is null)
        {
            open.Add("Nobody has decided about it.");
        }

        open.AddRange(openPackages.Select(n => $"Package {n} is open."));
        open.AddRange(openQuestions.Select(n => $"Question Q{n} has no answer."));
        if (cleaned && f.LookedAgainAt is null)
        {
            open.Add("It was cleaned and nobody has looked again.");
        }

        if (f.Cause.Length > 0 && f.CauseEnd is null)
        {
            open.Add("The cause is neither cured nor accepted.");
        }

        return open;
    }
}
