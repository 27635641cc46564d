using NodaTime;

namespace OilTag.Core.Make;

/// <summary>How far a drawing is.</summary>
public enum DrawingState
{
    /// <summary>It is known to have been, and nobody has it.</summary>
    Missing,

    /// <summary>Somebody has it.</summary>
    Found,

    /// <summary>Drawn anew, from parts, samples or traces.</summary>
    Redrawn,

    /// <summary>Looked through against the part by another.</summary>
    Checked,

    /// <summary>Parts may be made by it.</summary>
    Released,
}

/// <summary>A line of the drawing register of a machine.</summary>
public class DrawingEntry
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place that it shows; null for all of the machine.</summary>
    public Guid? PlaceId { get; set; }

    /// <summary>Its number, unique on its machine with its sheet.</summary>
    public required string Number { get; init; }

    /// <summary>Its sheet.</summary>
    public string Sheet { get; init; } = string.Empty;

    /// <summary>Its revision.</summary>
    public string Revision { get; set; } = string.Empty;

    /// <summary>What it shows.</summary>
    public required string Title { get; set; }

    /// <summary>How far it is.</summary>
    public DrawingState State { get; set; }

    /// <summary>Where it lies or who has it.</summary>
    public string Where { get; set; } = string.Empty;

    /// <summary>Where it and the part, or two drawings, do not agree; empty for nowhere.</summary>
    public string Conflict { get; set; } = string.Empty;

    /// <summary>What was decided about that; empty while it is open.</summary>
    public string Decision { get; set; } = string.Empty;

    /// <summary>Who brought it to where it is.</summary>
    public Guid ById { get; set; }

    /// <summary>When.</summary>
    public Instant At { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>Which way a drawing goes through the register.</summary>
public static class DrawingRule
{
    /// <summary>The word for a state.</summary>
    public static string Word(DrawingState s) => s switch
    {
        DrawingState.Missing => "missing",
        DrawingState.Found => "found",
        DrawingState.Redrawn => "redrawn",
        DrawingState.Checked => "checked",
        _ => "released",
    };

    /// <summary>Why it cannot go there; null when it can.</summary>
    /// <param name="entry">The entry as it is.</param>
    /// <param name="to">Where it goes.</param>
    /// <param name="person">Who brings it there.</param>
    /// <param name="lead">True for leads, keepers and inspectors.</param>
    public static string? WhyNot(DrawingEntry entry, DrawingState to, Guid person, bool lead)
    {
        ArgumentNullException.ThrowIfNull(entry);
        return to switch
        {
            DrawingState.Checked when entry.State is DrawingState.Missing => "Nobody has it: there is nothing to check.",
            DrawingState.Checked when entry.State is DrawingState.Redrawn && entry.ById == person => "You drew it. Somebody else checks it against the part.",
            DrawingState.Released when entry.State is not DrawingState.Checked => "It is released once it has been checked.",
            DrawingState.Released when entry.Conflict.Length > 0 && entry.Decision.Length == 0 => "It does not agree with the part, and nobody has decided yet.",
            DrawingState.Released when !lead => "A lead or an inspector releases it.",
            _ => null,
        };
    }

    /// <summary>What stands open about it; null when nothing does.</summary>
    public static string? Open(DrawingEntry entry)
    {
        ArgumentNullException.ThrowIfNull(entry);
        return entry.Conflict.Length > 0 && entry.Decision.Length == 0 ? "Does not agree, not decided"
            : entry.State == DrawingState.Missing ? "Nobody has it"
            : entry.State == DrawingState.Redrawn ? "Wants checking against the part"
            : null;
    }
}
