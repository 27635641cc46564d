using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Survey;

namespace OilTag.Core.Strip;

/// <summary>Parts that were balanced, matched or bored together: they travel, fit and are inspected together.</summary>
public class MatchedSet
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Name, such as Crank and flywheel.</summary>
    public required string Name { get; init; }

    /// <summary>How they were matched: balanced, bored in line, weighed; with the figures.</summary>
    public string How { get; init; } = string.Empty;

    /// <summary>Slots of its members.</summary>
    public IReadOnlyList<Guid> Slots { get; init; } = [];

    /// <summary>When somebody said so.</summary>
    public Instant At { get; init; }

    /// <summary>Who.</summary>
    public Guid ById { get; init; }

    /// <summary>Since when its record is void, because a member was replaced; null while it holds.</summary>
    public Instant? VoidAt { get; set; }

    /// <summary>Why it is void.</summary>
    public string VoidWhy { get; set; } = string.Empty;
}

/// <summary>Where a member of a set is.</summary>
/// <param name="Name">Name of its slot.</param>
/// <param name="Number">Open tag; null when it is on the machine.</param>
/// <param name="Custody">Where it is; null when it is on the machine.</param>
/// <param name="Where">The place in words.</param>
public sealed record SetMember(string Name, int? Number, CustodyKind? Custody, string Where);

/// <summary>Checks of matched sets.</summary>
public static class SetRule
{
    /// <summary>Checks a new set.</summary>
    public static IReadOnlyList<Problem> Check(string? name, string? how, IReadOnlyCollection<Guid> slots)
    {
        ArgumentNullException.ThrowIfNull(slots);
        var problems = new List<Problem>();
        TextRules.Need(problems, "SetName", name, "Name the set, such as Crank and flywheel.", 80);
        TextRules.Optional(problems, "How", how, 200);
        if (slots.Distinct().Count() is < 2 or > 60)
        {
            problems.Add(new Problem("Slots", "A set has 2 to 60 members. Choose them."));
        }

        return problems;
    }

    /// <summary>What is said when its members are at different places; null when they are together.</summary>
    public static string? Apart(IReadOnlyList<SetMember> members)
    {
        ArgumentNullException.ThrowIfNull(members);
        var places = members.GroupBy(m => m.Custody is null ? "on the machine" : m.Custody == CustodyKind.NotFound ? "not found" : m.Where, StringComparer.OrdinalIgnoreCase).ToList();
        return places.Count < 2 ? null : $"Its members are apart: {string.Join("; ", places.Select(g => $"{string.Join(", ", g.Select(m => m.Name))} {(g.First().Custody is null or CustodyKind.NotFound ? g.Key : "at " + g.Key)}"))}.";
    }

    /// <summary>Members that keep a set from being fitted together: those that are outside or not found.</summary>
    public static IReadOnlyList<string> NotAtHand(IReadOnlyList<SetMember> members)
    {
        ArgumentNullException.ThrowIfNull(members);
        return [.. members.Where(m => m.Custody is CustodyKind.Away or CustodyKind.NotFound).Select(m => m.Custody == CustodyKind.Away ? $"{m.Name} is at {m.Where}" : $"{m.Name} is not found")];
    }
}

/// <summary>Checks a maker's number against the lines of the parts book.</summary>
public static class PartNumberRule
{
    /// <summary>What is pointed out; empty when it fits, or when there is nothing to compare.</summary>
    /// <param name="number">The maker's number on the part.</param>
    /// <param name="machineSerial">Serial number of the machine; empty when it is not known.</param>
    /// <param name="slotId">The slot it is for.</param>
    /// <param name="book">The machine's lines.</param>
    public static IReadOnlyList<string> Check(string number, string machineSerial, Guid slotId, IReadOnlyList<BookLine> book)
    {
        ArgumentNullException.ThrowIfNull(number);
        ArgumentNullException.ThrowIfNull(machineSerial);
        ArgumentNullException.ThrowIfNull(book);
        if (number.Length == 0 || book.Count == 0)
        {
            return [];
        }

        var lines = book.Where(l => l.Reference.Equals(number, StringComparison.OrdinalIgnoreCase)).ToList();
        if (lines.Count == 0)
        {
            return [$"{number} is not in this machine’s parts book."];
        }

        var said = new List<string>();
        var serial = new string([.. machineSerial.Where(char.IsAsciiDigit)]);
        if (lines.TrueForAll(l => l.SerialFrom is not null || l.SerialUntil is not null))
        {
            if (!int.TryParse(serial, System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var n))
            {
                said.Add($"{number} is for {Range(lines[0])}; nobody has said what this machine’s number is.");
            }
            else if (!lines.Exists(l => (l.SerialFrom ?? 0) <= n && n <= (l.SerialUntil ?? int.MaxValue)))
            {
                said.Add($"{number} is for {string.Join(" and ", lines.Select(Range))}; this machine is {n}.");
            }
        }

        if (lines.Find(l => l.SupersededBy.Length > 0) is { } old)
        {
            said.Add($"{number} is superseded by {old.SupersededBy}.");
        }

        if (lines.TrueForAll(l => l.PlaceId is { } at && at != slotId))
        {
            said.Add($"The parts book has {number} at another place.");
        }

        return said;
    }

    private static string Range(BookLine l) => (l.SerialFrom, l.SerialUntil) switch
    {
        ({ } a, { } b) => $"numbers {a} to {b}",
        ({ } a, null) => $"numbers from {a}",
        (null, { } b) => $"numbers up to {b}",
        _ => "all numbers",
    };
}

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

/// <summary>A part that comes off on the way, with what may break.</summary>
/// <param name="Name">Name.</param>
/// <param name="BreakPercent">Chance that it breaks, in percent; null when nobody has said.</param>
/// <param name="SpareWeeks">Weeks until a spare is here; null when nobody knows; 0 when one lies here.</param>
/// <param name="Practice">Something that does not matter to practise on; empty when there is none.</param>
public sealed record OpenRisk(string Name, int? BreakPercent, int? SpareWeeks, string Practice);

/// <summary>The answer to: may I open this now?</summary>
/// <param name="Advice">The answer in a sentence.</param>
/// <param name="Against">True when it advises against.</param>
/// <param name="Reasons">Its reasons.</param>
public sealed record OpenNowAnswer(string Advice, bool Against, IReadOnlyList<string> Reasons);

/// <summary>May I open this now? Breakage, spares and their lead time, the next date, and something to practise on, in one answer.</summary>
public static class OpenNowRule
{
    /// <summary>Chance of breaking anything, in percent, from which a spare that comes too late speaks against it. A round figure of ours.</summary>
    public const int TooLikely = 10;

    /// <summary>Works it out.</summary>
    /// <param name="risks">What comes off on the way.</param>
    /// <param name="minutes">Minutes that taking off takes; putting on again is taken as long.</param>
    /// <param name="next">The date on which the machine must be whole; null when there is none.</param>
    /// <param name="nextName">What is on that date.</param>
    /// <param name="today">Today.</param>
    public static OpenNowAnswer Of(IReadOnlyList<OpenRisk> risks, int minutes, LocalDate? next, string nextName, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(risks);
        var reasons = new List<string>();
        var against = false;
        var weeksLeft = next is { } on ? Period.DaysBetween(today, on) / 7.0 : (double?)null;
        var whole = 100 * (1 - risks.Aggregate(1.0, (p, r) => p * (1 - ((r.BreakPercent ?? 0) / 100.0))));
        if (risks.Any(r => r.BreakPercent > 0))
        {
            reasons.Add($"Chance that something breaks: {Math.Round(whole):0} %, from {string.Join(", ", risks.Where(r => r.BreakPercent > 0).Select(r => $"{r.Name} {r.BreakPercent} %"))}.");
        }

        foreach (var r in risks.Where(r => r.BreakPercent > 0))
        {
            var late = weeksLeft is { } w && (r.SpareWeeks is null || r.SpareWeeks > w);
            reasons.Add(r.SpareWeeks switch
            {
                0 => $"A spare {r.Name} lies here.",
                null => $"Nobody knows how long a spare {r.Name} takes.",
                { } weeks => $"A spare {r.Name} takes {weeks} {(weeks == 1 ? "week" : "weeks")}{(late ? $", longer than the {Math.Floor(weeksLeft!.Value):0} to {nextName}" : string.Empty)}.",
            });
            against |= late && whole >= TooLikely;
            if (r.Practice.Length > 0)
            {
                reasons.Add($"To practise on first: {r.Practice.TrimEnd('.')}.");
            }
        }

        if (risks.Any(r => r.BreakPercent is null))
        {
            reasons.Add($"Nobody has said how easily {string.Join(", ", risks.Where(r => r.BreakPercent is null).Take(4).Select(r => r.Name))}{(risks.Count(r => r.BreakPercent is null) > 4 ? " and others" : string.Empty)} {(risks.Count(r => r.BreakPercent is null) == 1 ? "breaks" : "break")}.");
        }

        if (weeksLeft is { } left)
        {
            reasons.Add($"{nextName} is {(left < 1 ? "within a week" : $"{Math.Floor(left):0} weeks away")}; off and on again takes about {StripTimes.Words(Math.Max(1, 2 * minutes))}.");
            against |= left < 1;
        }

        var advice = against ? "Better not now." : risks.Count == 0 ? "It is open already." : risks.Any(r => r.BreakPercent > 0 && r.Practice.Length > 0) ? "Yes, after practising." : "Nothing on record speaks against it.";
        return new OpenNowAnswer(advice, against, reasons);
    }
}
