using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Core.Stores;

/// <summary>Something that a step waits for, as it is typed; nothing when there is no name.</summary>
/// <param name="What">What.</param>
/// <param name="Quantity">How many; one when nothing is said.</param>
/// <param name="LeadWeeks">Weeks from the order until it is here.</param>
/// <param name="EnquiryWeeks">Weeks of asking before it.</param>
public sealed record DemandEntry(string? What, int? Quantity, string? LeadWeeks, string? EnquiryWeeks);

/// <summary>A demand that was read.</summary>
/// <param name="What">What.</param>
/// <param name="Quantity">How many.</param>
/// <param name="Lead">Days from the order.</param>
/// <param name="Enquiry">Days before it; null for none.</param>
public sealed record ReadDemand(string What, int Quantity, DaysRange Lead, DaysRange? Enquiry);

/// <summary>Reads a demand as it is typed.</summary>
public static class DemandRule
{
    /// <summary>Most of one thing.</summary>
    public const int MostPieces = 100_000;

    /// <summary>Checks what was typed.</summary>
    /// <param name="entry">What was typed.</param>
    /// <param name="problems">Takes what is wrong.</param>
    /// <returns>The demand; null when nothing is wanted or something is wrong.</returns>
    public static ReadDemand? Check(DemandEntry entry, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(entry);
        ArgumentNullException.ThrowIfNull(problems);
        if (string.IsNullOrWhiteSpace(entry.What))
        {
            return null;
        }

        var before = problems.Count;
        var what = TextRules.Optional(problems, "DemandWhat", entry.What, 80);
        if (entry.Quantity is < 1 or > MostPieces)
        {
            problems.Add(new Problem("Quantity", $"Type how many, from 1 to {MostPieces}."));
        }

        if (string.IsNullOrWhiteSpace(entry.LeadWeeks))
        {
            problems.Add(new Problem("LeadWeeks", "Say how many weeks it takes once it is ordered; a guess with a range will do, as in 3 6 12."));
        }

        var lead = NeedsRule.Range(problems, "LeadWeeks", entry.LeadWeeks, 7, "weeks", 520) ?? DaysRange.None;
        var enquiry = NeedsRule.Range(problems, "EnquiryWeeks", entry.EnquiryWeeks, 7, "weeks", 520);
        return problems.Count > before ? null : new ReadDemand(what, entry.Quantity ?? 1, lead, enquiry);
    }
}
