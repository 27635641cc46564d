using NodaTime;

namespace OilTag.Core.People;

/// <summary>A skill or authorisation that a person holds or learns.</summary>
public class Authorisation
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Who.</summary>
    public Guid PersonId { get; init; }

    /// <summary>Which, such as "coded welder".</summary>
    public required string Skill { get; init; }

    /// <summary>Kind of machine for which it holds; null for every kind.</summary>
    public Machines.MachineKind? Kind { get; init; }

    /// <summary>First day on which it holds; null for the day on which it was granted.</summary>
    public LocalDate? From { get; init; }

    /// <summary>True while it is being learned: may help a holder.</summary>
    public bool Learning { get; init; }

    /// <summary>Last day on which it holds; null when it does not expire.</summary>
    public LocalDate? Until { get; init; }

    /// <summary>Who granted it.</summary>
    public Guid GrantedById { get; init; }

    /// <summary>When.</summary>
    public Instant GrantedAt { get; init; }

    /// <summary>When it was taken back or replaced; null while it stands.</summary>
    public Instant? EndedAt { get; set; }
}

/// <summary>Days on which a person is away.</summary>
public class Absence
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Who.</summary>
    public Guid PersonId { get; init; }

    /// <summary>First day.</summary>
    public LocalDate From { get; init; }

    /// <summary>Last day.</summary>
    public LocalDate Until { get; init; }

    /// <summary>True when it was taken back.</summary>
    public bool Cancelled { get; set; }
}

/// <summary>
/// How likely somebody comes, learned from when they came. The share of past sessions is drawn towards what is usual while there are few of them:
/// (came + 4 × 0.4)/(sessions + 4), the mean of a beta distribution. The rule is standard; that a newcomer comes to 4 sessions in 10, weighed like
/// 4 sessions, is common practice.
/// </summary>
public static class AttendanceRule
{
    /// <summary>Chance that somebody of whom nothing is known comes.</summary>
    public const double Usual = 0.4;

    /// <summary>As how many sessions that counts.</summary>
    public const double Weight = 4;

    /// <summary>The chance.</summary>
    /// <param name="came">Sessions to which they came.</param>
    /// <param name="sessions">Sessions to which they could have come.</param>
    public static double Chance(int came, int sessions)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(came);
        ArgumentOutOfRangeException.ThrowIfLessThan(sessions, came);
        return (came + (Weight * Usual)) / (sessions + Weight);
    }
}
