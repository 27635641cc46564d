using NodaTime;

namespace OilTag.Core.Today;

/// <summary>Somebody is there on a day: the line in the sign-in book.</summary>
public class Visit
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Who.</summary>
    public Guid PersonId { get; init; }

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>From when.</summary>
    public LocalTime Arrived { get; init; }

    /// <summary>Until when they mean to stay.</summary>
    public LocalTime Until { get; set; }

    /// <summary>When they went; null while they are there, or when they forgot to sign out.</summary>
    public LocalTime? Left { get; set; }

    /// <summary>Where; empty for the shed itself.</summary>
    public string Site { get; init; } = string.Empty;

    /// <summary>Who signed them in.</summary>
    public Guid RecordedById { get; init; }
}

/// <summary>A job of one person on one day: proposed, or chosen by a lead. What was really worked is an <see cref="People.HoursEntry"/>.</summary>
public class DayJob
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>Who.</summary>
    public Guid PersonId { get; init; }

    /// <summary>Step of a package; null when a lead left them to themselves.</summary>
    public Guid? OperationId { get; init; }

    /// <summary>From.</summary>
    public LocalTime From { get; init; }

    /// <summary>Until.</summary>
    public LocalTime Until { get; set; }

    /// <summary>True when a lead chose it: it stays when the rest is worked out again.</summary>
    public bool ByLead { get; init; }

    /// <summary>True when its hours were confirmed.</summary>
    public bool Confirmed { get; set; }
}

/// <summary>The day's work as a whole, so that two leads who change it at once are told.</summary>
public class DayBoard
{
    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>Moved by every change of a lead.</summary>
    public int Version { get; set; }

    /// <summary>True when it is dry enough to work outdoors; null while nobody has said.</summary>
    public bool? Dry { get; set; }

    /// <summary>Temperature in the shed, °C; null while nobody has said.</summary>
    public double? Degrees { get; set; }

    /// <summary>Who changed it last; null when nobody has.</summary>
    public Guid? ById { get; set; }

    /// <summary>When.</summary>
    public Instant? At { get; set; }
}

/// <summary>What somebody likes to work on.</summary>
public class Wish
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Who.</summary>
    public Guid PersonId { get; init; }

    /// <summary>A machine; null when it is a skill.</summary>
    public Guid? MachineId { get; init; }

    /// <summary>A skill that they like to use or learn; empty when it is a machine.</summary>
    public string Skill { get; init; } = string.Empty;

    /// <summary>When it was said.</summary>
    public Instant At { get; init; }

    /// <summary>When it was taken back; null while it stands.</summary>
    public Instant? EndedAt { get; set; }
}
