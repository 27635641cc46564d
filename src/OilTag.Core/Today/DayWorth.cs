using NodaTime;

namespace OilTag.Core.Today;

/// <summary>
/// What an hour of one person at one step is worth, in points, so that the hours of the day go where they matter most. The weights are common practice
/// of this tool, not of a standard: what holds up a milestone weighs more than anything a person likes, and what a person likes more than chance.
/// </summary>
public static class DayWorth
{
    /// <summary>Any ready work.</summary>
    public const int Ready = 20;

    /// <summary>What is on the chain to a milestone in every run of the plan.</summary>
    public const int Holding = 60;

    /// <summary>What should have begun by today; falls to nothing at four weeks in hand.</summary>
    public const int Late = 30;

    /// <summary>A learner beside a holder.</summary>
    public const int Learning = 8;

    /// <summary>A holder of what it wants.</summary>
    public const int Holder = 6;

    /// <summary>A machine or a skill that they like.</summary>
    public const int Liked = 12;

    /// <summary>A holder of what hardly anybody can do; half of it for somebody who is always there.</summary>
    public const int Scarce = 18;

    /// <summary>Work that would bar them from lifting a hold that hardly anybody else can lift.</summary>
    public const int Barred = -15;

    /// <summary>They know the job from last time.</summary>
    public const int Known = 5;

    /// <summary>For each session in a row on one job beyond the second.</summary>
    public const int Dull = -12;

    /// <summary>They were at it when the break began.</summary>
    public const int AtIt = 10;

    /// <summary>Points of the step itself.</summary>
    /// <param name="o">The step.</param>
    /// <param name="today">Today.</param>
    public static int Of(DayOperation o, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(o);
        var late = o.Latest is { } latest ? Late * Math.Clamp(28 - Period.DaysBetween(today, latest), 0, 28) / 28 : 0;
        return Ready + (int)Math.Round(Holding * o.Critical, MidpointRounding.AwayFromZero) + late;
    }

    /// <summary>Points of an hour of one person at it, at least 1; null when they may not do it.</summary>
    /// <param name="p">The person.</param>
    /// <param name="o">The step.</param>
    /// <param name="today">Today.</param>
    public static int? Of(DayPerson p, DayOperation o, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(p);
        ArgumentNullException.ThrowIfNull(o);
        if (p.Site != o.Site || (p.Minor && o.AdultsOnly) || o.NotBy.Contains(p.Id))
        {
            return null;
        }

        var points = Of(o, today);
        points += o.Skills.Any(s => p.Skills.Contains(s.Skill)) ? Holder : o.Skills.Any(s => p.Learns.Contains(s.Skill)) ? Learning : 0;
        points += p.Likes.Contains(o.Machine) || o.Skills.Any(s => p.Likes.Contains(s.Skill)) ? Liked : 0;
        points += p.Skills.Contains(o.ScarceSkill)
            ? (int)Math.Round(Scarce * o.Scarce * (1 - (Math.Clamp(p.Comes, 0, 1) / 2)), MidpointRounding.AwayFromZero)
            : 0;
        points += o.Bars.Contains(p.Id) ? Barred : 0;
        var row = p.InARow.GetValueOrDefault(o.Package);
        points += row > 2 ? Dull * Math.Min(row - 2, 5) : row > 0 ? Known : 0;
        return Math.Max(1, points);
    }
}
