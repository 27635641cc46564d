using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>What is known about a part that is to go back on.</summary>
public sealed record RefitFacts
{
    /// <summary>Facts about its tag.</summary>
    public required TagFacts Tag { get; init; }

    /// <summary>Names of packages about it that are still open.</summary>
    public IReadOnlyList<string> OpenPackages { get; init; } = [];

    /// <summary>Numbers of findings without a decision.</summary>
    public IReadOnlyList<int> Undecided { get; init; } = [];

    /// <summary>Tags of parts deeper in, which this one had to be off for: they go on before it.</summary>
    public IReadOnlyList<(int Number, string Name)> GoOnBefore { get; init; } = [];

    /// <summary>Hand of the slot.</summary>
    public Hand SlotHand { get; init; }

    /// <summary>Hand of the part that is to go in.</summary>
    public Hand PartHand { get; init; }

    /// <summary>How many finished pieces of this hand its route card has, or null when it is the part that came off.</summary>
    public int? FinishedPieces { get; init; }

    /// <summary>True when what was decided is a new part (remake, buy, donor), so that the old one may not go back.</summary>
    public bool DecidedToReplace { get; init; }
}

/// <summary>Says what keeps a part from going back on.</summary>
public static class RefitRule
{
    /// <summary>The reasons, worst first; empty when it may go on.</summary>
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

        foreach (var n in f.Undecided)
        {
            Say($"Finding F{n} has no decision yet.");
        }

        foreach (var p in f.OpenPackages)
        {
            Say($"{p} is not closed.");
        }

        foreach (var (number, name) in f.GoOnBefore)
        {
            Say($"{name} {number} goes on before it and is still off.");
        }

        if (f.FinishedPieces is null)
        {
            if (f.DecidedToReplace)
            {
                Say("It was decided to replace this part. Fit the new one, or change the decision first.");
            }

            if (f.Tag.Custody is CustodyKind.Away or CustodyKind.NotFound)
            {
                Say(f.Tag.Custody == CustodyKind.Away ? $"It is still at {f.Tag.Where}." : "Nobody knows where it is.");
            }
        }
        else if (f.FinishedPieces < 1)
        {
            Say("No new piece of this hand is finished.");
        }

        if (f.SlotHand != Hand.None && f.PartHand != Hand.None && f.SlotHand != f.PartHand)
        {
            Say($"The slot is {f.SlotHand.ToString().ToLowerInvariant()}; this part is {f.PartHand.ToString().ToLowerInvariant()}.");
        }

        return problems;
    }
}
