using NodaTime;

namespace OilTag.Core.Machines;

/// <summary>What the keeper typed to add a machine.</summary>
public sealed record MachineEntry
{
    /// <summary>One capital letter.</summary>
    public string? Letter { get; init; }

    /// <summary>Its name.</summary>
    public string? Name { get; init; }

    /// <summary>What it is, in a few words.</summary>
    public string? What { get; init; }

    /// <summary>Year it was built.</summary>
    public int? Year { get; init; }

    /// <summary>Livery tin.</summary>
    public string? Tin { get; init; }

    /// <summary>Its first assemblies, one a line; a line that starts with blanks hangs under the last that does not.</summary>
    public string? Assemblies { get; init; }
}

/// <summary>Checks what the keeper adds.</summary>
public static class KeeperRules
{
    /// <summary>Letters that are not a machine's, because the jump box takes them for check points, diagnoses, findings, places, route cards, surveys and packages.</summary>
    public const string TakenLetters = "CDFPRSW";

    /// <summary>The tins of the livery, in the order in which they are handed out.</summary>
    public static readonly IReadOnlyList<string> Tins = ["harbour", "peat", "beet", "umber", "teal", "plum", "ochre", "iron"];

    /// <summary>Checks a new machine.</summary>
    /// <param name="e">What was typed.</param>
    /// <param name="letters">Letters of the machines that are there.</param>
    /// <param name="today">Today.</param>
    /// <returns>The assemblies that were typed, and problems.</returns>
    public static (IReadOnlyList<TypedPlace> Assemblies, IReadOnlyList<Problem> Problems) Check(MachineEntry e, IReadOnlyCollection<string> letters, LocalDate today)
    {
        ArgumentNullException.ThrowIfNull(e);
        ArgumentNullException.ThrowIfNull(letters);
        var problems = new List<Problem>();
        var letter = (e.Letter ?? string.Empty).Trim().ToUpperInvariant();
        if (letter.Length != 1 || letter[0] is < 'A' or > 'Z')
        {
            problems.Add(new Problem("Letter", "Give it one letter from A to Z; it stands before its tag numbers."));
        }
        else if (TakenLetters.Contains(letter, StringComparison.Ordinal))
        {
            problems.Add(new Problem("Letter", "C, D, F, P, R, S and W stand for check points, diagnoses, findings, places where things are kept, route cards, surveys and packages. Choose another letter."));
        }
        else if (letters.Contains(letter))
        {
            problems.Add(new Problem("Letter", $"{letter} is another machine’s letter. Choose a free one."));
        }

        TextRules.Need(problems, "Name", e.Name, "Give the machine its name.", 60);
        TextRules.Need(problems, "What", e.What, "Say what it is, such as 0-4-2 tank locomotive.", 80);
        if (e.Year is null || e.Year < 1700 || e.Year > today.Year)
        {
            problems.Add(new Problem("Year", $"Type the year it was built, 1700 to {today.Year}."));
        }

        if (!Tins.Contains(e.Tin))
        {
            problems.Add(new Problem("Tin", "Choose its livery."));
        }

        return (ReadAssemblies(e.Assemblies, problems, above: false), problems);
    }

    /// <summary>Reads a breakdown as it is typed or pasted, see <see cref="BreakdownText"/>; nothing is none.</summary>
    /// <param name="text">As typed.</param>
    /// <param name="problems">What cannot be read is added here.</param>
    /// <param name="above">True when all of it hangs under an assembly that is there.</param>
    public static IReadOnlyList<TypedPlace> ReadAssemblies(string? text, IList<Problem> problems, bool above)
    {
        ArgumentNullException.ThrowIfNull(problems);
        if (string.IsNullOrWhiteSpace(text))
        {
            return [];
        }

        var (read, problem) = BreakdownText.Read(text, "Assemblies");
        if (problem is null && !above && read.Any(t => t is { Under: null, Kind: PlaceKind.Slot }))
        {
            problem = new Problem("Assemblies", "A part needs an assembly above it. Put a line without a dash before it.");
        }

        if (problem is not null)
        {
            problems.Add(problem);
            return [];
        }

        return read;
    }

    /// <summary>Checks a milestone.</summary>
    /// <param name="name">Its name.</param>
    /// <param name="on">Its day.</param>
    /// <param name="weight">How much a day late counts, as typed; empty for 1.</param>
    /// <param name="why">Why that day.</param>
    /// <param name="today">Today.</param>
    public static IReadOnlyList<Problem> CheckMilestone(string? name, LocalDate? on, string? weight, string? why, LocalDate today)
    {
        var problems = new List<Problem>();
        if (!string.IsNullOrWhiteSpace(weight) && Weight(weight) is null)
        {
            problems.Add(new Problem("MilestoneWeight", WeightWords));
        }

        TextRules.Need(problems, "MilestoneName", name, "Give the milestone its name, such as First steam.", 60);
        TextRules.Optional(problems, "MilestoneWhy", why, 200);
        if (on is null || on <= today)
        {
            problems.Add(new Problem("MilestoneOn", "Type a date that is still to come."));
        }
        else if (on > today.PlusYears(30))
        {
            problems.Add(new Problem("MilestoneOn", "That is more than thirty years ahead. Check the year."));
        }

        return problems;
    }

    /// <summary>What is said beside a weight that cannot be.</summary>
    public const string WeightWords = "Type how much a day late counts: 1 is usual, 2 counts it twice, up to 10.";

    /// <summary>The weight of a milestone as typed, or null.</summary>
    public static double? Weight(string? text) => TextRules.Number(text) is { } w and >= 0.1m and <= 10m ? (double)w : null;

    /// <summary>Checks a new session of the week.</summary>
    public static IReadOnlyList<Problem> CheckSession(LocalTime? from, LocalTime? until) =>
        from is null || until is null ? [new Problem("SessionFrom", "Type when the shed opens and when it closes.")]
        : from >= until ? [new Problem("SessionFrom", "The shed closes before it opens. Check both times.")]
        : [];
}
