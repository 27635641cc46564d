using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Survey;

/// <summary>Where a suspect stands.</summary>
public enum SuspectState
{
    /// <summary>It may be it.</summary>
    Open,

    /// <summary>It is it.</summary>
    RuledIn,

    /// <summary>It is not.</summary>
    RuledOut,
}

/// <summary>Something that may be behind a symptom.</summary>
/// <param name="Name">What it is.</param>
/// <param name="State">Where it stands.</param>
/// <param name="Why">Why it was ruled in or out; empty while it is open.</param>
public sealed record Suspect(string Name, SuspectState State, string Why);

/// <summary>A check that separates suspects.</summary>
/// <param name="Name">What is done.</param>
/// <param name="Hours">Person-hours.</param>
/// <param name="Points">Places of the suspects, from nought, that it would point to when it shows something.</param>
/// <param name="Shows">True when it showed something, false when not; null until it is done.</param>
/// <param name="Note">What was seen.</param>
public sealed record DiagnosisCheck(string Name, double Hours, IReadOnlyList<int> Points, bool? Shows, string Note);

/// <summary>A cure that was tried.</summary>
/// <param name="What">What was done.</param>
/// <param name="Hours">Person-hours that it took.</param>
/// <param name="Pence">What it cost.</param>
/// <param name="Worked">True when the symptom went away, false when it did not or came back.</param>
/// <param name="On">Day.</param>
public sealed record TriedCure(string What, double Hours, long Pence, bool Worked, DateOnly On);

/// <summary>A symptom, its suspects, and the checks that separate them.</summary>
public class Diagnosis
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Number, given by the database.</summary>
    public int Number { get; init; }

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Place.</summary>
    public Guid PlaceId { get; init; }

    /// <summary>What is wrong, as it shows.</summary>
    public required string Symptom { get; init; }

    /// <summary>Suspects.</summary>
    public IReadOnlyList<Suspect> Suspects { get; set; } = [];

    /// <summary>Checks.</summary>
    public IReadOnlyList<DiagnosisCheck> Checks { get; set; } = [];

    /// <summary>Cures that were tried.</summary>
    public IReadOnlyList<TriedCure> Cures { get; set; } = [];

    /// <summary>How often the symptom has come back.</summary>
    public int CameBack { get; set; }

    /// <summary>The package that opens the place to look, or null.</summary>
    public Guid? PackageId { get; set; }

    /// <summary>Who opened it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>When the symptom was gone; null while it is open.</summary>
    public Instant? ClosedAt { get; set; }

    /// <summary>Changes with every edit.</summary>
    public uint Version { get; init; }
}

/// <summary>A check that would still separate suspects.</summary>
/// <param name="Index">Its place, from nought.</param>
/// <param name="Check">The check.</param>
/// <param name="Leaves">Suspects left when it shows something, and when it shows nothing.</param>
public sealed record NextCheck(int Index, DiagnosisCheck Check, (int Shows, int Nothing) Leaves);

/// <summary>
/// Finding the cause: the cheapest check that still separates the suspects comes first, ties by how evenly it parts them. What a check points away from
/// is ruled out; nothing is ruled in by itself. Source: common practice.
/// </summary>
public static class DiagnosisRule
{
    /// <summary>Most suspects, checks or cures.</summary>
    public const int Most = 30;

    /// <summary>The checks that still separate open suspects, the one to do next first.</summary>
    public static IReadOnlyList<NextCheck> Next(Diagnosis d)
    {
        ArgumentNullException.ThrowIfNull(d);
        var open = Open(d);
        return [.. d.Checks.Select((c, i) => (c, i)).Where(x => x.c.Shows is null)
            .Select(x => new NextCheck(x.i, x.c, (open.Count(x.c.Points.Contains), open.Count(s => !x.c.Points.Contains(s)))))
            .Where(n => n.Leaves is { Shows: > 0, Nothing: > 0 })
            .OrderBy(n => n.Check.Hours).ThenBy(n => Math.Abs(n.Leaves.Shows - n.Leaves.Nothing)).ThenBy(n => n.Index)];
    }

    /// <summary>Enters what a check showed: what it points away from is ruled out.</summary>
    public static void Enter(Diagnosis d, int check, bool shows, string note)
    {
        ArgumentNullException.ThrowIfNull(d);
        var c = d.Checks[check];
        d.Checks = [.. d.Checks.Select((x, i) => i == check ? x with { Shows = shows, Note = note } : x)];
        d.Suspects = [.. d.Suspects.Select((s, i) => s.State == SuspectState.Open && c.Points.Contains(i) != shows ? s with { State = SuspectState.RuledOut, Why = $"{c.Name}: {(shows ? note.Length > 0 ? note : "it showed something else" : "nothing")}" } : s)];
    }

    /// <summary>Enters a cure. One that worked closes the diagnosis and rules the suspect in; one that did not is cost and knowledge, and rules it out.</summary>
    /// <param name="d">The diagnosis.</param>
    /// <param name="suspect">Place of the suspect that it was for, from nought.</param>
    /// <param name="cure">The cure.</param>
    /// <param name="now">The moment.</param>
    public static void Cure(Diagnosis d, int suspect, TriedCure cure, Instant now)
    {
        ArgumentNullException.ThrowIfNull(d);
        ArgumentNullException.ThrowIfNull(cure);
        d.Cures = [.. d.Cures, cure];
        d.Suspects = [.. d.Suspects.Select((s, i) => i == suspect ? s with { State = cure.Worked ? SuspectState.RuledIn : SuspectState.RuledOut, Why = $"{cure.What}: {(cure.Worked ? "the symptom went away" : "the symptom stayed")}" } : s)];
        d.ClosedAt = cure.Worked ? now : null;
    }

    /// <summary>The symptom is back: what was ruled in is open again, and the cure that seemed to work did not.</summary>
    public static void Again(Diagnosis d)
    {
        ArgumentNullException.ThrowIfNull(d);
        (d.ClosedAt, d.CameBack) = (null, d.CameBack + 1);
        d.Suspects = [.. d.Suspects.Select(s => s.State == SuspectState.RuledIn ? s with { State = SuspectState.Open, Why = "It was cured, and the symptom came back" } : s)];
        d.Cures = [.. d.Cures.Select(c => c with { Worked = false })];
    }

    /// <summary>How it stands, in a sentence.</summary>
    public static string Told(Diagnosis d)
    {
        ArgumentNullException.ThrowIfNull(d);
        var open = Open(d);
        if (d.Suspects.FirstOrDefault(s => s.State == SuspectState.RuledIn) is { } it)
        {
            return $"It was {Lower(it.Name)}.";
        }

        return open.Count switch
        {
            0 => d.Suspects.Count == 0 ? "Nobody is suspected yet." : "Every suspect is ruled out: look for another.",
            1 => $"Only {Lower(d.Suspects[open[0]].Name)} is left. Prove it before it is taken for the cause.",
            _ when Next(d) is { Count: > 0 } next => $"{open.Count} suspects. Next: {Lower(next[0].Check.Name)}, {Measures.MeasureFormat.Number(next[0].Check.Hours, 1)} h.",
            _ => $"{open.Count} suspects, and no check that would part them.",
        };
    }

    /// <summary>Hours and pence that went into cures that did not work.</summary>
    public static (double Hours, long Pence) Lost(Diagnosis d)
    {
        ArgumentNullException.ThrowIfNull(d);
        return (d.Cures.Where(c => !c.Worked).Sum(c => c.Hours), d.Cures.Where(c => !c.Worked).Sum(c => c.Pence));
    }

    /// <summary>Steps of a package that opens a place to look; its result is findings.</summary>
    public const string StepsToLook = "open it 1-2-6 h\nlook and measure 0.5-1-3 h\nlog what is found 0.25-0.5-1 h";

    /// <summary>Reads a check as it is typed.</summary>
    /// <param name="problems">Takes what is wrong.</param>
    /// <param name="name">What is done.</param>
    /// <param name="hours">Hours as typed.</param>
    /// <param name="points">Places of suspects that it would point to.</param>
    /// <param name="suspects">How many suspects there are.</param>
    public static DiagnosisCheck? Check(IList<Problem> problems, string? name, string? hours, IReadOnlyList<int> points, int suspects)
    {
        ArgumentNullException.ThrowIfNull(problems);
        ArgumentNullException.ThrowIfNull(points);
        var before = problems.Count;
        var said = TextRules.Need(problems, "CheckName", name, "Say what is checked, such as swap the magnetos.", 120);
        if (TextRules.Number(hours) is not { } h || h > 1000)
        {
            problems.Add(new Problem("CheckHours", "Hours, such as 0.5."));
            h = 0;
        }

        var to = points.Distinct().Where(p => p >= 0 && p < suspects).Order().ToList();
        if (to.Count == 0 || to.Count == suspects)
        {
            problems.Add(new Problem("Points", "Say which suspects it would point to: at least one, and not all, else it parts nothing."));
        }

        return problems.Count > before ? null : new DiagnosisCheck(said, (double)h, to, null, string.Empty);
    }

    private static List<int> Open(Diagnosis d) => [.. d.Suspects.Select((s, i) => (s, i)).Where(x => x.s.State == SuspectState.Open).Select(x => x.i)];

    private static string Lower(string s) => s.Length > 1 && char.IsUpper(s[1]) ? s : char.ToLowerInvariant(s[0]) + s[1..];
}
