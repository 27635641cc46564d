using NodaTime;

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
/// <param name="Inspected">False while a finding on it has no decision, or a package about it waits for an inspection.</param>
public sealed record SetMember(string Name, int? Number, CustodyKind? Custody, string Where, bool Inspected = true);

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

    /// <summary>What is said when some of its members were looked at and others were not; null when all were, or none.</summary>
    public static string? HalfInspected(IReadOnlyList<SetMember> members)
    {
        ArgumentNullException.ThrowIfNull(members);
        var open = members.Where(m => !m.Inspected).Select(m => m.Name).ToList();
        return open.Count == 0 || open.Count == members.Count ? null : $"It is inspected together; still to do: {string.Join(", ", open)}.";
    }

    /// <summary>Members that keep a set from being fitted together: those that are outside or not found, and those that still wait for their inspection.</summary>
    public static IReadOnlyList<string> NotTogether(IReadOnlyList<SetMember> members)
    {
        ArgumentNullException.ThrowIfNull(members);
        return [.. members.Where(m => m.Custody is { } c && Custodies.IsGone(c)).Select(m => m.Custody != CustodyKind.NotFound ? $"{m.Name} is at {m.Where}" : $"{m.Name} is not found")
            .Concat(members.Where(m => !m.Inspected).Select(m => $"{m.Name} still waits for its inspection"))];
    }
}
