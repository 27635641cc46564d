using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>What a machine takes of the shed while it stands there: floor, and hours.</summary>
/// <param name="Floor">Square metres; null when nobody has said.</param>
/// <param name="FloorPence">What they cost in a month; null when it is not counted.</param>
/// <param name="KeepMinutes">Minutes a month to look after it whether or not it is worked on; null when nobody has said.</param>
/// <param name="RecentMinutes">Minutes worked on it in the last weeks.</param>
/// <param name="Share">Their share of all that were worked in those weeks, 0 to 1; null when nobody worked.</param>
/// <param name="Remaining">Hours of its open packages still to do.</param>
/// <param name="Weeks">Weeks that the remaining hours take at the rate of those weeks; null when nobody worked on it.</param>
public sealed record MachineCost(double? Floor, int? FloorPence, int? KeepMinutes, int RecentMinutes, double? Share, HoursRange Remaining, double? Weeks)
{
    /// <summary>Weeks of the past that are looked at.</summary>
    public const int RecentWeeks = 12;

    /// <summary>Longest side of what can stand in a shed: the floor of one machine, square metres.</summary>
    public const double MostFloor = 2000;

    /// <summary>Works it out.</summary>
    /// <param name="floor">Square metres, or null.</param>
    /// <param name="keepMinutes">Minutes a month to look after it, or null.</param>
    /// <param name="pencePerMetre">What a square metre costs in a month, pence; nought when it is not counted.</param>
    /// <param name="recentMinutes">Minutes worked on it in the last weeks.</param>
    /// <param name="allMinutes">Minutes worked on all machines in those weeks.</param>
    /// <param name="remaining">Hours still to do.</param>
    public static MachineCost Of(double? floor, int? keepMinutes, int pencePerMetre, int recentMinutes, int allMinutes, HoursRange remaining)
    {
        ArgumentNullException.ThrowIfNull(remaining);
        return new MachineCost(
            floor,
            floor is { } f && pencePerMetre > 0 ? (int)Math.Round(f * pencePerMetre, MidpointRounding.AwayFromZero) : null,
            keepMinutes,
            recentMinutes,
            allMinutes > 0 ? recentMinutes / (double)allMinutes : null,
            remaining,
            recentMinutes > 0 ? remaining.Likely / (recentMinutes / 60.0 / RecentWeeks) : null);
    }

    /// <summary>Checks what is said about a machine among the others.</summary>
    /// <param name="floor">Square metres, as typed; empty when nobody knows.</param>
    /// <param name="keepHours">Hours a month, as typed; empty when nobody knows.</param>
    public static (double? Floor, int? KeepMinutes, IReadOnlyList<Problem> Problems) Check(string? floor, string? keepHours)
    {
        var problems = new List<Problem>();
        var metres = string.IsNullOrWhiteSpace(floor) ? null : TextRules.Number(floor);
        if (!string.IsNullOrWhiteSpace(floor) && metres is not (> 0 and <= (decimal)MostFloor))
        {
            problems.Add(new Problem("Floor", $"Type square metres, such as 42, up to {MostFloor:N0}."));
        }

        var hours = string.IsNullOrWhiteSpace(keepHours) ? null : TextRules.Number(keepHours);
        if (!string.IsNullOrWhiteSpace(keepHours) && hours is not <= 500)
        {
            problems.Add(new Problem("KeepHours", "Type hours a month, such as 1.5, up to 500."));
        }

        return ((double?)metres, hours is { } h ? (int)Math.Round(h * 60, MidpointRounding.AwayFromZero) : null, problems);
    }

    /// <summary>Checks days on which a machine must be whole.</summary>
    /// <param name="from">First day.</param>
    /// <param name="until">Last day.</param>
    /// <param name="why">Why.</param>
    /// <param name="today">Today.</param>
    public static IReadOnlyList<Problem> CheckWindow(LocalDate? from, LocalDate? until, string? why, LocalDate today)
    {
        var problems = new List<Problem>();
        TextRules.Need(problems, "WindowWhy", why, "Say why it must be whole, such as running weekend.", 60);
        ShedRule.Days(problems, "WindowFrom", "WindowUntil", from, until, today);
        return problems;
    }
}
