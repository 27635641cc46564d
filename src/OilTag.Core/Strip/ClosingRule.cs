using NodaTime;

namespace OilTag.Core.Strip;

/// <summary>Kinds of things that must not be closed over, the worst first.</summary>
public enum OpenKind
{
    /// <summary>A part that would go into the wrong side or position.</summary>
    WrongPlace,

    /// <summary>A plug, rag, clamp, prop, lock or substitute that is in.</summary>
    Temporary,

    /// <summary>A tool that went in and did not come out.</summary>
    Tool,

    /// <summary>A part that is fitted and not fast.</summary>
    Loose,

    /// <summary>A wire, hose, rod, pipe or cable that is not joined.</summary>
    Connection,

    /// <summary>A run that crosses it and is out, or of which nobody knows whether it is live.</summary>
    Run,

    /// <summary>A member of a matched set that is not at hand, though the set is fitted together.</summary>
    SetApart,

    /// <summary>A part that belongs inside and is elsewhere.</summary>
    Elsewhere,

    /// <summary>A finding without a decision.</summary>
    Finding,

    /// <summary>A cause that is neither cured nor accepted.</summary>
    Cause,

    /// <summary>An inspection that nobody has done.</summary>
    Inspection,

    /// <summary>A package that is not closed.</summary>
    Package,

    /// <summary>Bare metal inside.</summary>
    Bare,

    /// <summary>Something that is wanted for it and not here.</summary>
    Demand,
}

/// <summary>Something that would be closed over.</summary>
/// <param name="Kind">Kind.</param>
/// <param name="PlaceId">Where it is.</param>
/// <param name="Sentence">What it is, in a sentence that names it.</param>
/// <param name="Link">Page where it is dealt with, or an empty string.</param>
/// <param name="Who">Who can clear it, in words; empty when anybody can.</param>
public sealed record OpenItem(OpenKind Kind, Guid PlaceId, string Sentence, string Link, string Who = "");

/// <summary>
/// The closing-up check: everything open behind what is about to be closed. It stops the closing with reasons; an inspector may close all the same with a
/// concession, which stays on record.
/// </summary>
public static class ClosingRule
{
    /// <summary>Least length of the reason for a concession, in characters.</summary>
    public const int ShortestReason = 10;

    /// <summary>What would be closed over, worst first, then in the order of the breakdown.</summary>
    /// <param name="inside">Places that go out of reach.</param>
    /// <param name="open">Everything open on the machine.</param>
    /// <param name="map">The machine, for the order of its places.</param>
    public static IReadOnlyList<OpenItem> Behind(IReadOnlySet<Guid> inside, IEnumerable<OpenItem> open, AccessMap map)
    {
        ArgumentNullException.ThrowIfNull(inside);
        ArgumentNullException.ThrowIfNull(open);
        ArgumentNullException.ThrowIfNull(map);
        return [.. open.Where(o => inside.Contains(o.PlaceId)).OrderBy(o => o.Kind).ThenBy(o => map.OrderOf(o.PlaceId)).ThenBy(o => o.Sentence, StringComparer.Ordinal)];
    }

    /// <summary>Checks a concession.</summary>
    /// <param name="open">What is open.</param>
    /// <param name="isInspector">True when the person is an inspector.</param>
    /// <param name="reason">Why it is closed all the same, as typed.</param>
    /// <returns>Empty when it may be closed.</returns>
    public static IReadOnlyList<Problem> WhyNot(IReadOnlyCollection<OpenItem> open, bool isInspector, string? reason)
    {
        ArgumentNullException.ThrowIfNull(open);
        if (open.Count == 0)
        {
            return [];
        }

        var problems = new List<Problem>();
        var said = TextRules.Optional(problems, "Concession", reason, 300);
        if (said.Length == 0)
        {
            problems.Add(new Problem(string.Empty, open.Count == 1 ? open.First().Sentence : $"{open.Count} things would be closed over. Clear them first."));
        }
        else if (!isInspector)
        {
            problems.Add(new Problem("Concession", "Only an inspector may close over open things. Ask one to sign in."));
        }
        else if (said.Length < ShortestReason)
        {
            problems.Add(new Problem("Concession", "Say why it may be closed all the same, and until when."));
        }

        return problems;
    }

    /// <summary>How long metal has been bare, in words; asks for protection from the second day.</summary>
    /// <param name="since">Since when.</param>
    /// <param name="now">Now.</param>
    public static string Bare(Instant since, Instant now)
    {
        var days = (int)Math.Floor((now - since).TotalDays);
        return days < 1 ? "bare since today" : days == 1 ? "bare for a day: protect it" : $"bare for {days} days: protect it";
    }
}
