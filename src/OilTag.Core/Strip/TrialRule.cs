namespace OilTag.Core.Strip;

/// <summary>What a trial assembly leaves unproven when it ends.</summary>
public static class TrialRule
{
    /// <summary>Checks at most on one trial.</summary>
    public const int MostChecks = 40;

    /// <summary>Checks that a trial is often made for, to start the list with. Common practice.</summary>
    public static readonly IReadOnlyList<string> Usual =
    [
        "Every hole lines up without force", "It moves through its whole travel and touches nothing", "Left and right measure alike", "What leaves it has its way out marked: cables, pipes, rods", "Clearances are as wanted",
    ];

    /// <summary>Reads checks typed one a line.</summary>
    public static (IReadOnlyList<string> Checks, Problem? Problem) Read(string? text)
    {
        var lines = (text ?? string.Empty).Split('\n').Select(l => l.Trim()).Where(l => l.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        return lines.Count == 0 ? ([], new Problem("Checks", "Say what it is to prove, one check a line."))
            : lines.Count > MostChecks ? ([], new Problem("Checks", $"{MostChecks} checks fit on one trial."))
            : lines.Exists(l => l.Length > 160) ? ([], new Problem("Checks", "A check has 160 characters at most."))
            : (lines, null);
    }

    /// <summary>What the trial has not proven: checks not done or not as wanted, and parts of the assembly that were never in.</summary>
    /// <param name="checks">Its checks.</param>
    /// <param name="neverIn">Slots of the assembly whose part was not in at any time of the trial, by name.</param>
    public static IReadOnlyList<string> NotProven(IEnumerable<TrialCheck> checks, IEnumerable<string> neverIn)
    {
        ArgumentNullException.ThrowIfNull(checks);
        ArgumentNullException.ThrowIfNull(neverIn);
        return
        [
            .. checks.Where(c => c.Good == false).Select(c => $"Not as wanted: {c.What}{(c.Reading.Length > 0 ? $" ({c.Reading})" : string.Empty)}."),
            .. checks.Where(c => c.Good is null).Select(c => $"Not checked: {c.What}."),
            .. neverIn.Select(n => $"{n} was not in."),
        ];
    }
}
