using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>A part that comes off on the way, with what may break.</summary>
/// <param name="Name">Name.</param>
/// <param name="BreakPercent">Chance that it breaks, in percent; null when nobody has said.</param>
/// <param name="SpareWeeks">Weeks until a spare is here; null when nobody knows; 0 when one lies here.</param>
/// <param name="Practice">Something that does not matter to practise on; empty when there is none.</param>
public sealed record OpenRisk(string Name, int? BreakPercent, int? SpareWeeks, string Practice);

/// <summary>The answer to: may I open this now?</summary>
/// <param name="Advice">The answer in a sentence.</param>
/// <param name="Against">True when it advises against.</param>
/// <param name="Reasons">Its reasons.</param>
public sealed record OpenNowAnswer(string Advice, bool Against, IReadOnlyList<string> Reasons);

/// <summary>May I open this now? Breakage, spares and their lead time, the next date, and something to practise on, in one answer.</summary>
public static class OpenNowRule
{
    /// <summary>Chance of breaking anything, in percent, from which a spare that comes too late speaks against it. A round figure of ours.</summary>
    public const int TooLikely = 10;

    /// <summary>Works it out.</summary>
    /// <param name="risks">What comes off on the way.</param>
    /// <param name="minutes">Minutes that taking off takes; putting on again is taken as long.</param>
    /// <param name="next">The date on which the machine must be whole; null when there is none.</param>
    /// <param name="nextName">What is on that date.</param>
    /// <param name="today">Today.</param>
    public static OpenNowAnswer Of(IReadOnlyList<OpenRisk> risks, int minutes, LocalDate? next, string nextName, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(risks);
        var reasons = new List<string>();
        var against = false;
        var weeksLeft = next is { } on ? Period.DaysBetween(today, on) / 7.0 : (double?)null;
        var whole = 100 * (1 - risks.Aggregate(1.0, (p, r) => p * (1 - ((r.BreakPercent ?? 0) / 100.0))));
        if (risks.Any(r => r.BreakPercent > 0))
        {
            reasons.Add($"Chance that something breaks: {Math.Round(whole):0} %, from {string.Join(", ", risks.Where(r => r.BreakPercent > 0).Select(r => $"{r.Name} {r.BreakPercent} %"))}.");
        }

        foreach (var r in risks.Where(r => r.BreakPercent > 0))
        {
            var late = weeksLeft is { } w && (r.SpareWeeks is null || r.SpareWeeks > w);
            reasons.Add(r.SpareWeeks switch
            {
                0 => $"A spare {r.Name} lies here.",
                null => $"Nobody knows how long a spare {r.Name} takes.",
                { } weeks => $"A spare {r.Name} takes {weeks} {(weeks == 1 ? "week" : "weeks")}{(late ? $", longer than the {Math.Floor(weeksLeft!.Value):0} to {nextName}" : string.Empty)}.",
            });
            against |= late && whole >= TooLikely;
            if (r.Practice.Length > 0)
            {
                reasons.Add($"To practise on first: {r.Practice.TrimEnd('.')}.");
            }
        }

        if (risks.Any(r => r.BreakPercent is null))
        {
            reasons.Add($"Nobody has said how easily {string.Join(", ", risks.Where(r => r.BreakPercent is null).Take(4).Select(r => r.Name))}{(risks.Count(r => r.BreakPercent is null) > 4 ? " and others" : string.Empty)} {(risks.Count(r => r.BreakPercent is null) == 1 ? "breaks" : "break")}.");
        }

        if (weeksLeft is { } left)
        {
            reasons.Add($"{nextName} is {(left < 1 ? "within a week" : $"{Math.Floor(left):0} weeks away")}; off and on again takes about {StripTimes.Words(Math.Max(1, 2 * minutes))}.");
            against |= left < 1;
        }

        var advice = against ? "Better not now." : risks.Count == 0 ? "It is open already." : risks.Any(r => r.BreakPercent > 0 && r.Practice.Length > 0) ? "Yes, after practising." : "Nothing on record speaks against it.";
        return new OpenNowAnswer(advice, against, reasons);
    }
}
