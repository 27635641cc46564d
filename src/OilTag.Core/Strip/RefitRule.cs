using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>What became of one bag, as typed.</summary>
/// <param name="FastenerId">The bag.</param>
/// <param name="BackOn">How many went in.</param>
/// <param name="New">How many of those were new.</param>
/// <param name="Explained">Why they differ.</param>
public sealed record BagEntry(Guid FastenerId, int BackOn, int New, string? Explained);

/// <summary>What the form that puts a part on was filled with.</summary>
public sealed record RefitEntry
{
    /// <summary>True when a finished piece of the route card goes in and not the part that came off.</summary>
    public bool UseNew { get; init; }

    /// <summary>For a trial or for good.</summary>
    public FittingKind Kind { get; init; } = FittingKind.Final;

    /// <summary>The slot it goes into; null for the one that it came out of.</summary>
    public Guid? SlotId { get; init; }

    /// <summary>What it still wants before it is fast; empty when it is fast.</summary>
    public string? Loose { get; init; }

    /// <summary>Anything worth knowing.</summary>
    public string? Note { get; init; }

    /// <summary>Why it may be done all the same.</summary>
    public string? Concession { get; init; }

    /// <summary>What became of its fasteners.</summary>
    public IReadOnlyList<BagEntry> Bags { get; init; } = [];

    /// <summary>Connections that are joined now.</summary>
    public IReadOnlyList<Guid> Joined { get; init; } = [];
}

/// <summary>What decides whether a part may go back on.</summary>
public sealed record RefitFacts
{
    /// <summary>The tag.</summary>
    public required TagFacts Tag { get; init; }

    /// <summary>True when it is for a trial: findings, packages and what is behind it do not keep it off then.</summary>
    public bool Trial { get; init; }

    /// <summary>Open packages about it.</summary>
    public IReadOnlyList<string> OpenPackages { get; init; } = [];

    /// <summary>Numbers of findings on it without a decision.</summary>
    public IReadOnlyList<int> Undecided { get; init; } = [];

    /// <summary>Parts that are on and shut its place in: they come off first.</summary>
    public IReadOnlyList<string> ShutInBy { get; init; } = [];

    /// <summary>Another part that is in the slot; empty when it is free.</summary>
    public string InTheWay { get; init; } = string.Empty;

    /// <summary>What would be closed over.</summary>
    public IReadOnlyList<OpenItem> Behind { get; init; } = [];

    /// <summary>Matched sets that it belongs to, with what keeps each from being fitted together.</summary>
    public IReadOnlyList<(string Set, string Why)> SetsApart { get; init; } = [];

    /// <summary>The slot it goes into.</summary>
    public Guid SlotId { get; init; }

    /// <summary>Name of the slot it goes into.</summary>
    public string SlotName { get; init; } = string.Empty;

    /// <summary>Name of the slot it came out of.</summary>
    public string OwnSlotName { get; init; } = string.Empty;

    /// <summary>Hand of the slot.</summary>
    public Hand SlotHand { get; init; }

    /// <summary>Hand of the part that is to go in.</summary>
    public Hand PartHand { get; init; }

    /// <summary>How many finished pieces of this hand its route card has, or null when it is the part that came off.</summary>
    public int? FinishedPieces { get; init; }

    /// <summary>What its own place still wants, a sentence each: inspections and packages there, metal that is bare.</summary>
    public IReadOnlyList<string> Unfinished { get; init; } = [];

    /// <summary>Papers that are wanted and not there, in words.</summary>
    public IReadOnlyList<string> MissingPapers { get; init; } = [];

    /// <summary>True when what was decided is a new part (remake, buy, donor), so that the old one may not go back.</summary>
    public bool DecidedToReplace { get; init; }
}

/// <summary>Says what keeps a part from going back on.</summary>
public static class RefitRule
{
    /// <summary>The reasons that nobody can set aside, worst first; empty when it may go on.</summary>
    public static IReadOnlyList<Problem> Check(RefitFacts f)
    {
        ArgumentNullException.ThrowIfNull(f);
        var problems = new List<Problem>();
        void Say(string s) => problems.Add(new Problem(string.Empty, s));
        if (f.Tag.End is not null)
        {
            Say($"Tag {f.Tag.Number} has ended: {TagEnds.Word(f.Tag.End.Value).ToLowerInvariant()}.");
            return problems;
        }

        if (!f.Trial)
        {
            foreach (var n in f.Undecided)
            {
                Say($"Finding F{n} has no decision yet.");
            }

            foreach (var p in f.OpenPackages)
            {
                Say($"{p} is not closed.");
            }

            foreach (var u in f.Unfinished)
            {
                Say(u);
            }

            foreach (var paper in f.MissingPapers)
            {
                Say($"Its {paper} is not here. Add it under the tag.");
            }
        }

        if (f.InTheWay.Length > 0)
        {
            Say($"{f.InTheWay} is in {f.SlotName}. It comes out first.");
        }

        foreach (var name in f.ShutInBy)
        {
            Say($"{name} is on and shuts it in. It comes off first.");
        }

        if (f.FinishedPieces is null)
        {
            if (f.DecidedToReplace && !f.Trial)
            {
                Say("It was decided to replace this part. Fit the new one, or change the decision first.");
            }

            if (Custodies.IsGone(f.Tag.Custody))
            {
                Say(f.Tag.Custody != CustodyKind.NotFound ? $"It is still at {f.Tag.Where}." : "Nobody knows where it is.");
            }
        }
        else if (f.FinishedPieces < 1)
        {
            Say("No new piece of this hand is finished.");
        }

        return problems;
    }

    /// <summary>What only an inspector can set aside with a concession: a wrong hand or position, and, when it is for good, what it would close over.</summary>
    public static IReadOnlyList<OpenItem> Concedable(RefitFacts f)
    {
        ArgumentNullException.ThrowIfNull(f);
        var open = new List<OpenItem>();
        if (f.SlotHand != Hand.None && f.PartHand != Hand.None && f.SlotHand != f.PartHand)
        {
            open.Add(new OpenItem(OpenKind.WrongPlace, f.SlotId, $"The slot is {f.SlotHand.ToString().ToLowerInvariant()}; this part is {f.PartHand.ToString().ToLowerInvariant()}.", string.Empty));
        }
        else if (f.FinishedPieces is null && f.OwnSlotName.Length > 0 && f.SlotName != f.OwnSlotName)
        {
            open.Add(new OpenItem(OpenKind.WrongPlace, f.SlotId, $"It came out of {f.OwnSlotName} and would go into {f.SlotName}.", string.Empty));
        }

        return f.Trial ? open : [.. open, .. f.SetsApart.Select(s => new OpenItem(OpenKind.SetApart, f.SlotId, $"{s.Set} is fitted together, and {s.Why}.", string.Empty)), .. f.Behind];
    }
}
