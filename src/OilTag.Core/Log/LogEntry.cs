using NodaTime;

namespace OilTag.Core.Log;

/// <summary>One line of the record: who did what and when. Only ever added; the database refuses to change or remove one.</summary>
public class LogEntry
{
    /// <summary>Order of the record, given by the database.</summary>
    public long Id { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who, by id alone.</summary>
    public Guid PersonId { get; init; }

    /// <summary>Machine it is about, if any.</summary>
    public Guid? MachineId { get; init; }

    /// <summary>Place it is about, if any.</summary>
    public Guid? PlaceId { get; init; }

    /// <summary>Tag it belongs to, if any.</summary>
    public Guid? TagId { get; init; }

    /// <summary>Package it belongs to, if any.</summary>
    public Guid? PackageId { get; init; }

    /// <summary>What happened, in the past tense, without the name of who did it.</summary>
    public required string Sentence { get; init; }

    /// <summary>What it was before, as JSON, when something was changed.</summary>
    public string? Before { get; init; }

    /// <summary>What it is after, as JSON, when something was changed.</summary>
    public string? After { get; init; }
}
