using NodaTime;
using OilTag.Core.Strip;

namespace OilTag.Core.Machines;

/// <summary>The ten states of a part; an assembly takes the one that most hinders it. Ordered so that the smallest hinders most.</summary>
public enum PartState
{
    /// <summary>Cannot go on; always says on what.</summary>
    Stuck,

    /// <summary>Looked for, not there.</summary>
    NotFound,

    /// <summary>Outside the shed.</summary>
    Away,

    /// <summary>Someone has it in hand.</summary>
    OnBench,

    /// <summary>Removed; has a place.</summary>
    Off,

    /// <summary>Done; waits its turn to go back.</summary>
    Ready,

    /// <summary>In for a trial; comes out again.</summary>
    Trial,

    /// <summary>On for good, but not fast yet.</summary>
    Loose,

    /// <summary>On the machine as found; not begun.</summary>
    Fitted,

    /// <summary>Refitted.</summary>
    BackOn,
}

/// <summary>The facts about one tag from which its state follows.</summary>
public sealed record TagFacts
{
    /// <summary>Tag's identity.</summary>
    public required Guid TagId { get; init; }

    /// <summary>Number on the tag.</summary>
    public required int Number { get; init; }

    /// <summary>Machine.</summary>
    public required Guid MachineId { get; init; }

    /// <summary>The slot it came from.</summary>
    public required Guid SlotId { get; init; }

    /// <summary>The assembly that holds the slot.</summary>
    public Guid AssemblyId { get; init; }

    /// <summary>What the slot is called, with hand and position.</summary>
    public required string Name { get; init; }

    /// <summary>How the tag ended, or null while it is open.</summary>
    public TagEnd? End { get; init; }

    /// <summary>Where it is.</summary>
    public CustodyKind Custody { get; init; }

    /// <summary>The place or shop it is at.</summary>
    public string Where { get; init; } = string.Empty;

    /// <summary>When it is promised back from outside, if it is away.</summary>
    public LocalDate? DueBack { get; init; }

    /// <summary>First names of who has it in hand, if anybody.</summary>
    public string Who { get; init; } = string.Empty;

    /// <summary>Number of findings on it without a decision.</summary>
    public int Undecided { get; init; }

    /// <summary>Number of open packages about it.</summary>
    public int OpenPackages { get; init; }

    /// <summary>True when a package about it was done and closed.</summary>
    public bool WorkDone { get; init; }

    /// <summary>What an open package about it waits on, or an empty string.</summary>
    public string WaitingOn { get; init; } = string.Empty;

    /// <summary>When it came off.</summary>
    public Instant OpenedAt { get; init; }

    /// <summary>On what terms it is in a slot, for a trial or loose; null while it is off.</summary>
    public FittingKind? In { get; init; }

    /// <summary>What it still wants before it is fast; empty when it is fast or off.</summary>
    public string Loose { get; init; } = string.Empty;
}

/// <summary>A state with the words that must come with it.</summary>
/// <param name="State">The state.</param>
/// <param name="Word">The word on the stub, such as "Stuck".</param>
/// <param name="Detail">What comes with it: on what, who, where.</param>
public sealed record StateWords(PartState State, string Word, string Detail);

/// <summary>Works out states. States follow from facts and are never stored.</summary>
public static class PartStates
{
    /// <summary>The word for a state.</summary>
    public static string Word(PartState s) => s switch
    {
        PartState.Stuck => "Stuck",
        PartState.NotFound => "Not found",
        PartState.Away => "Away",
        PartState.OnBench => "On bench",
        PartState.Off => "Off",
        PartState.Ready => "Ready",
        PartState.Trial => "At trial",
        PartState.Loose => "On, loose",
        PartState.BackOn => "Back on",
        _ => "Fitted",
    };

    /// <summary>The state of a tagged part.</summary>
    /// <param name="t">Facts.</param>
    /// <param name="today">Today, for promises from outside.</param>
    public static StateWords Of(TagFacts t, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(t);
        StateWords Say(PartState s, string detail) => new(s, Word(s), detail);
        if (t.End is TagEnd.Fitted)
        {
            return Say(PartState.BackOn, string.Empty);
        }

        if (t.End is not null)
        {
            return new StateWords(PartState.Off, TagEnds.Word(t.End.Value), string.Empty);
        }

        if (t.In is { } kind)
        {
            return kind == FittingKind.Trial ? Say(PartState.Trial, "comes out again") : Say(PartState.Loose, t.Loose);
        }

        if (t.WaitingOn.Length > 0)
        {
            return Say(PartState.Stuck, t.WaitingOn);
        }

        if (t.Custody == CustodyKind.NotFound)
        {
            return Say(PartState.NotFound, "last at " + t.Where);
        }

        if (Custodies.IsPromised(t.Custody))
        {
            return t.DueBack is { } due && due < today
                ? Say(PartState.Stuck, $"overdue from {t.Where}")
                : Say(PartState.Away, t.DueBack is { } d ? $"{Weeks(today, d)}, {t.Where}" : t.Where);
        }

        if (t.Custody == CustodyKind.Bench || t.OpenPackages > 0)
        {
            return Say(PartState.OnBench, t.Who.Length > 0 ? t.Who : t.Where);
        }

        return t.Undecided == 0 && t.WorkDone ? Say(PartState.Ready, t.Where) : Say(PartState.Off, t.Where);
    }

    /// <summary>The state of an assembly from the states of the tags within it and from what its own packages wait on.</summary>
    /// <param name="open">States of the open tags in it and below.</param>
    /// <param name="back">How many parts in it and below are back on.</param>
    /// <param name="waitingOn">What an open package on it waits on, or an empty string.</param>
    public static StateWords OfAssembly(IReadOnlyCollection<StateWords> open, int back, string waitingOn)
    {
        ArgumentNullException.ThrowIfNull(open);
        if (waitingOn.Length > 0)
        {
            return new StateWords(PartState.Stuck, Word(PartState.Stuck), waitingOn);
        }

        if (open.Count == 0)
        {
            return back == 0
                ? new StateWords(PartState.Fitted, Word(PartState.Fitted), "not begun")
                : new StateWords(PartState.BackOn, Word(PartState.BackOn), $"{back} of {back}");
        }

        var worst = open.MinBy(s => s.State)!;
        return worst.State switch
        {
            PartState.Ready => worst with { Detail = "to go on" },
            PartState.Away => worst with { Detail = worst.Detail.Split(',')[0] },
            _ => worst,
        };
    }

    private static string Weeks(LocalDate from, LocalDate to)
    {
        var days = Period.DaysBetween(from, to);
        var weeks = (days + 6) / 7;
        return weeks <= 1 ? "this week" : $"{weeks} weeks";
    }
}
