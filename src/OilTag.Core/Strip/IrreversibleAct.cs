using NodaTime;
using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>Acts after which something can never be known again.</summary>
public enum ActKind
{
    /// <summary>Taking paint off.</summary>
    StripPaint,

    /// <summary>Blasting.</summary>
    Blast,

    /// <summary>Cutting off.</summary>
    CutOff,

    /// <summary>Milling or grinding metal away.</summary>
    Mill,

    /// <summary>Drilling.</summary>
    Drill,

    /// <summary>Dismantling what runs.</summary>
    Dismantle,

    /// <summary>Covering with fabric, skin or filler.</summary>
    Cover,
}

/// <summary>One thing that cannot be known afterwards.</summary>
/// <param name="What">What to measure, mark or photograph first.</param>
/// <param name="Result">What was found, or why it was waived; empty while it is open.</param>
/// <param name="Waived">True when it was waived.</param>
public sealed record LastChance(string What, string Result, bool Waived);

/// <summary>An irreversible act with the list of what cannot be known afterwards.</summary>
public class IrreversibleAct
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>Kind.</summary>
    public ActKind Kind { get; init; }

    /// <summary>What cannot be known afterwards.</summary>
    public IReadOnlyList<LastChance> Items { get; set; } = [];

    /// <summary>When it was planned.</summary>
    public Instant At { get; init; }

    /// <summary>Who planned it.</summary>
    public Guid ById { get; init; }

    /// <summary>The second person who has looked at the list; null while nobody has.</summary>
    public Guid? SecondById { get; set; }

    /// <summary>When it was done; null while it is not.</summary>
    public Instant? DoneAt { get; set; }

    /// <summary>Who did it.</summary>
    public Guid? DoneById { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>Last chance to measure. Lists by common practice; a team adds its own.</summary>
public static class LastChanceRule
{
    /// <summary>The act in words: "blast", "take the paint off".</summary>
    public static string Word(ActKind k) => k switch
    {
        ActKind.StripPaint => "take the paint off",
        ActKind.Blast => "blast",
        ActKind.CutOff => "cut off",
        ActKind.Mill => "mill or grind",
        ActKind.Drill => "drill",
        ActKind.Dismantle => "dismantle what runs",
        _ => "cover",
    };

    /// <summary>What cannot be known after an act of a kind.</summary>
    public static IReadOnlyList<string> For(ActKind k) => k switch
    {
        ActKind.StripPaint => ["Layers of paint, scraped back and photographed with a scale", "Lettering and lining, traced or photographed", "Weight with the old paint and filler on", "Filler found under it: where and how thick"],
        ActKind.Blast => ["Stamps and numbers, read and photographed", "Layers of paint, scraped back and photographed with a scale", "Thickness, gauged before", "Threads, bores and machined faces, masked"],
        ActKind.CutOff => ["Where it sat, marked on what stays", "Dimensions and angle as found", "A photograph of it in place", "Whether the piece is kept as the pattern"],
        ActKind.Mill => ["The size as found, at each place that is cut", "Stamps and marks that go with the metal", "The datum from which it is measured afterwards"],
        ActKind.Drill => ["The hole as found: size, shape, position", "What lies behind it", "Whether it can go up one size later"],
        ActKind.Dismantle => ["How it ran: noise, smoke, pressure, temperature", "Settings as found: gaps, timing, tension, shims", "Play and end float before anything is loosened", "Leaks, and where from", "Order and marks of what is matched"],
        _ => ["Where cables, pipes and rods leave it, marked", "A photograph of the inside", "That the inside is coated", "Weight before it is covered"],
    };

    /// <summary>What keeps the act from being done; empty when it may be.</summary>
    /// <param name="act">The act.</param>
    /// <param name="standard">The standard at its place.</param>
    /// <param name="personId">Who wants to do it.</param>
    public static IReadOnlyList<Problem> WhyNot(IrreversibleAct act, RestorationStandard standard, Guid personId)
    {
        ArgumentNullException.ThrowIfNull(act);
        var problems = new List<Problem>();
        if (act.DoneAt is not null)
        {
            problems.Add(new Problem(string.Empty, "It is done already."));
            return problems;
        }

        foreach (var i in act.Items.Where(i => i.Result.Length == 0))
        {
            problems.Add(new Problem(string.Empty, $"Not known yet: {i.What}."));
        }

        if (standard == RestorationStandard.Conserve && (act.SecondById is null || act.SecondById == personId))
        {
            problems.Add(new Problem(string.Empty, act.SecondById is null ? "Under Conserve a second person looks at the list first." : "Whoever does it is not the second person. Ask another."));
        }

        return problems;
    }
}
