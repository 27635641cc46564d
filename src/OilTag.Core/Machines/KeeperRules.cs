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

/// <summary>One line of a typed breakdown.</summary>
/// <param name="Name">Name of the assembly.</param>
/// <param name="Hand">Hand, from "left" or "right" behind a comma.</param>
/// <param name="Under">Index of the line it hangs under, or null at the top.</param>
public sealed record TypedAssembly(string Name, Hand Hand, int? Under);

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
    public static (IReadOnlyList<TypedAssembly> Assemblies, IReadOnlyList<Problem> Problems) Check(MachineEntry e, IReadOnlyCollection<string> letters, LocalDate today)
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

        return (ReadAssemblies(e.Assemblies, problems), problems);
    }

    /// <summary>Reads a breakdown typed as lines, two deep.</summary>
    public static IReadOnlyList<TypedAssembly> ReadAssemblies(string? text, IList<Problem> problems)
    {
        ArgumentNullException.ThrowIfNull(problems);
        var read = new List<TypedAssembly>();
        int? top = null;
        foreach (var line in (text ?? string.Empty).Split('\n').Where(l => !string.IsNullOrWhiteSpace(l)))
        {
            var indented = char.IsWhiteSpace(line[0]);
            var words = line.Trim();
            var hand = Hand.None;
            foreach (var (ending, h) in new[] { (", left", Hand.Left), (", right", Hand.Right) })
            {
                if (words.EndsWith(ending, StringComparison.OrdinalIgnoreCase))
                {
                    (words, hand) = (words[..^ending.Length].TrimEnd(), h);
                }
            }

            if (words.Length is 0 or > 80)
            {
                problems.Add(new Problem("Assemblies", $"Line {read.Count + 1} needs a name of 80 characters at most."));
                return read;
            }

            if (indented && top is null)
            {
                problems.Add(new Problem("Assemblies", "The first line hangs under nothing. Start it at the margin."));
                return read;
            }

            read.Add(new TypedAssembly(words, hand, indented ? top : null));
            top = indented ? top : read.Count - 1;
        }

        if (read.Count > 300)
        {
            problems.Add(new Problem("Assemblies", "Three hundred lines fit at once."));
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
