using System.Globalization;
using NodaTime;
using OilTag.Core.Machines;

namespace OilTag.Core.Strip;

/// <summary>A part that lies in the unidentified tray. Its number is out of the roll of tags, so that its label stays when it is known.</summary>
public class TrayItem
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Tag number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine that it most likely belongs to; null when nobody can say.</summary>
    public Guid? MachineId { get; init; }

    /// <summary>What it looks like.</summary>
    public required string Name { get; init; }

    /// <summary>Which hand it is, if one can tell.</summary>
    public Hand Hand { get; init; }

    /// <summary>A number on it; empty when there is none.</summary>
    public string MakersNumber { get; init; } = string.Empty;

    /// <summary>Marks, size, fasteners, smell: whatever may help.</summary>
    public string Marks { get; init; } = string.Empty;

    /// <summary>Where it lies.</summary>
    public required string Where { get; init; }

    /// <summary>When it was found.</summary>
    public Instant At { get; init; }

    /// <summary>Who found it.</summary>
    public Guid ById { get; init; }

    /// <summary>When somebody knew it, or it was let go; null while it lies there.</summary>
    public Instant? EndedAt { get; set; }

    /// <summary>Why it was let go without being known; empty otherwise.</summary>
    public string EndedWhy { get; set; } = string.Empty;
}

/// <summary>A place that lacks its part.</summary>
/// <param name="SlotId">Slot.</param>
/// <param name="MachineId">Machine.</param>
/// <param name="Name">Full name of the slot.</param>
/// <param name="Hand">Its hand.</param>
/// <param name="Numbers">Numbers that the parts book or the part that was there gives.</param>
/// <param name="Marks">Marks of the part that was there.</param>
/// <param name="TagNumber">Tag of the part that is not found; null when none ever had one.</param>
public sealed record MissingPart(Guid SlotId, Guid MachineId, string Name, Hand Hand, IReadOnlyList<string> Numbers, string Marks, int? TagNumber);

/// <summary>A place where an unknown part may belong.</summary>
/// <param name="Part">What is missing.</param>
/// <param name="Score">0 to 100; orders candidates and is no probability.</param>
/// <param name="Reasons">Why, in words.</param>
public sealed record Candidate(MissingPart Part, int Score, IReadOnlyList<string> Reasons);

/// <summary>Proposes what an unknown part may be, from what is missing.</summary>
public static class TrayRule
{
    /// <summary>Least likeness of two names that counts, in percent of letter pairs.</summary>
    public const int LeastLike = 30;

    /// <summary>Candidates, the likeliest first. A part of the other hand is none.</summary>
    /// <param name="item">The part.</param>
    /// <param name="missing">What is missing on all machines.</param>
    /// <param name="most">How many are given.</param>
    public static IReadOnlyList<Candidate> Candidates(TrayItem item, IEnumerable<MissingPart> missing, int most = 8)
    {
        ArgumentNullException.ThrowIfNull(item);
        ArgumentNullException.ThrowIfNull(missing);
        var found = new List<Candidate>();
        foreach (var m in missing.Where(m => item.Hand == Hand.None || m.Hand == Hand.None || m.Hand == item.Hand))
        {
            var reasons = new List<string>();
            var score = 0;
            if (item.MakersNumber.Length > 0 && m.Numbers.Any(n => PlainNumber(n) == PlainNumber(item.MakersNumber)))
            {
                score += 60;
                reasons.Add($"its number is {item.MakersNumber}");
            }

            var like = Likeness(item.Name, PlaceNames.Bare(m.Name));
            if (like >= LeastLike)
            {
                score += like * 25 / 100;
                reasons.Add(like == 100 ? "it has that name" : "the name is like it");
            }

            var marks = item.Marks.Length > 0 && m.Marks.Length > 0 ? Likeness(item.Marks, m.Marks) : 0;
            if (marks >= LeastLike)
            {
                score += marks * 10 / 100;
                reasons.Add("the marks are like it");
            }

            if (score == 0)
            {
                continue;
            }

            if (item.MachineId == m.MachineId)
            {
                score += 3;
                reasons.Add("it is missing on that machine");
            }

            if (m.TagNumber is { } t)
            {
                score += 2;
                reasons.Add(string.Create(CultureInfo.InvariantCulture, $"tag {t} is looked for"));
            }

            found.Add(new Candidate(m, Math.Min(100, score), reasons));
        }

        return [.. found.OrderByDescending(c => c.Score).ThenBy(c => c.Part.Name, StringComparer.Ordinal).ThenBy(c => c.Part.SlotId).Take(most)];
    }

    /// <summary>
    /// How alike two names are, in percent: twice the pairs of neighbouring letters that both have, over all pairs (Dice’s coefficient over bigrams). Words may
    /// stand in another order.
    /// </summary>
    public static int Likeness(string a, string b)
    {
        ArgumentNullException.ThrowIfNull(a);
        ArgumentNullException.ThrowIfNull(b);
        var (x, y) = (Pairs(a), Pairs(b));
        if (x.Count == 0 || y.Count == 0)
        {
            return 0;
        }

        var (total, both) = (x.Count + y.Count, 0);
        foreach (var p in x)
        {
            both += y.Remove(p) ? 1 : 0;
        }

        return 200 * both / total;
    }

    private static List<string> Pairs(string text) => [.. text.ToLowerInvariant().Split([' ', ',', '-', '/', '.', ';', ':'], StringSplitOptions.RemoveEmptyEntries)
        .SelectMany(w => w.Length == 1 ? [w] : Enumerable.Range(0, w.Length - 1).Select(i => w.Substring(i, 2)))];

    private static string PlainNumber(string n) => string.Concat(n.Where(char.IsLetterOrDigit)).ToUpperInvariant();
}
