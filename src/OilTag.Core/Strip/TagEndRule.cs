namespace OilTag.Core.Strip;

/// <summary>What decides whether a tag may end otherwise than by fitting.</summary>
/// <param name="Ended">How it ended already; null while it is open.</param>
/// <param name="End">How it is to end.</param>
/// <param name="SuccessorFitted">True when another part is finally fitted in its slot.</param>
/// <param name="IsIn">True when the part itself is in a slot, for a trial or loose.</param>
/// <param name="HasWork">True when findings or packages are about it.</param>
/// <param name="OnlySample">True when no other part of its name is left on the machine or under a tag.</param>
/// <param name="Copied">True when the person says that a copy or photographs stay here.</param>
public sealed record TagEndFacts(TagEnd? Ended, TagEnd End, bool SuccessorFitted, bool IsIn, bool HasWork, bool OnlySample, bool Copied);

/// <summary>Checks how a tag ends: nothing is scrapped before its successor is fitted, and the only sample does not leave without a copy.</summary>
public static class TagEndRule
{
    /// <summary>Ends by which the part leaves.</summary>
    public static bool Leaves(TagEnd e) => e is TagEnd.Sold or TagEnd.Given or TagEnd.Returned or TagEnd.Sample or TagEnd.Scrapped;

    /// <summary>What keeps it from ending so; empty when it may.</summary>
    /// <param name="f">Facts.</param>
    /// <param name="why">Why, as typed.</param>
    public static IReadOnlyList<Problem> Check(TagEndFacts f, string? why)
    {
        ArgumentNullException.ThrowIfNull(f);
        var problems = new List<Problem>();
        if (f.Ended is { } ended)
        {
            problems.Add(new Problem(string.Empty, $"This tag has ended: {TagEnds.Word(ended).ToLowerInvariant()}."));
            return problems;
        }

        if (f.End == TagEnd.Fitted)
        {
            problems.Add(new Problem("End", "A part that goes back on is put back on from its tag, so that what is behind it is checked."));
        }

        if (f.IsIn)
        {
            problems.Add(new Problem("End", "It is on the machine, for a trial or loose. Take it out first."));
        }

        if (f.End == TagEnd.Void && f.HasWork)
        {
            problems.Add(new Problem("End", "Findings or packages are about this part, so the tag was no mistake. End it another way."));
        }

        if (f.End == TagEnd.Scrapped && !f.SuccessorFitted && !f.Copied)
        {
            problems.Add(new Problem("End", "Nothing is scrapped before its successor is fitted or its copy is made. Keep it as reference until then, or tick that the copy is made."));
        }

        if (Leaves(f.End) && f.OnlySample && !f.SuccessorFitted && !f.Copied)
        {
            problems.Add(new Problem("Copied", "It is the only one there is. Keep a copy, a drawing or photographs here, and tick it."));
        }

        TextRules.Need(problems, "Why", why, "Say why, and to whom it goes.", 200);
        return problems;
    }
}
