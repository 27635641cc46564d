using NodaTime;

namespace OilTag.Core.People;

/// <summary>What a person may do.</summary>
public static class Roles
{
    /// <summary>Logs hours, findings and strip entries.</summary>
    public const string Helper = "helper";

    /// <summary>Plans, decides, issues work.</summary>
    public const string Lead = "lead";

    /// <summary>Lifts hold points.</summary>
    public const string Inspector = "inspector";

    /// <summary>Keeps machines, people, money and settings.</summary>
    public const string Keeper = "keeper";

    /// <summary>Reads only.</summary>
    public const string Visitor = "visitor";

    /// <summary>All roles.</summary>
    public static readonly IReadOnlyList<string> All = [Helper, Lead, Inspector, Keeper, Visitor];
}

/// <summary>A volunteer or visitor. Records point to a person by id alone, so that a name can be taken out.</summary>
public class Person
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Full name.</summary>
    public required string Name { get; set; }

    /// <summary>What they do, in words.</summary>
    public string Skills { get; set; } = string.Empty;

    /// <summary>True for somebody under 18: works beside an adult.</summary>
    public bool Minor { get; set; }

    /// <summary>True for an adult who may not work alone.</summary>
    public bool NeverAlone { get; set; }

    /// <summary>True for an outside shop, which is on record for what it reports by its link and is no member of the team.</summary>
    public bool IsShop { get; init; }

    /// <summary>Secret of their private calendar link; empty while there is none.</summary>
    public string FeedKey { get; set; } = string.Empty;

    /// <summary>When their name was taken out; null while they are known by name.</summary>
    public Instant? RemovedAt { get; set; }

    /// <summary>First name.</summary>
    public string FirstName => Name.Split(' ')[0];

    /// <summary>Initials for the tally, two letters.</summary>
    public string Initials => string.Concat(Name.Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(2).Select(w => w[0]));
}

/// <summary>Hours of one person on one package, or on a machine without one.</summary>
public class HoursEntry
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Package; null for time on the machine without one, such as taking it apart.</summary>
    public Guid? PackageId { get; init; }

    /// <summary>Step of the package; null when it was booked on the package as a whole.</summary>
    public Guid? OperationId { get; init; }

    /// <summary>Who worked.</summary>
    public Guid PersonId { get; init; }

    /// <summary>Day.</summary>
    public LocalDate On { get; init; }

    /// <summary>Start, when it was given.</summary>
    public LocalTime? From { get; init; }

    /// <summary>Minutes worked.</summary>
    public int Minutes { get; init; }

    /// <summary>What was done.</summary>
    public string Note { get; init; } = string.Empty;

    /// <summary>Who wrote it down.</summary>
    public Guid RecordedById { get; init; }

    /// <summary>When it was written down.</summary>
    public Instant At { get; init; }
}

/// <summary>Day and hours at which the shed is open, week by week.</summary>
public class SessionPattern
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Day of the week.</summary>
    public IsoDayOfWeek Day { get; init; }

    /// <summary>Opens.</summary>
    public LocalTime From { get; init; }

    /// <summary>Closes.</summary>
    public LocalTime Until { get; init; }

    /// <summary>Where; empty for the shed itself.</summary>
    public string Site { get; init; } = string.Empty;
}
