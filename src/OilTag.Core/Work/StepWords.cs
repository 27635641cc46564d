using NodaTime;

namespace OilTag.Core.Work;

/// <summary>What the like of a step or of a package took us.</summary>
/// <param name="Hours">Person-hours: the least, the middle one, the most.</param>
/// <param name="Jobs">Of how many.</param>
public sealed record PastHours(HoursRange Hours, int Jobs)
{
    /// <summary>Fewest jobs of our own from which anything is said.</summary>
    public const int Fewest = 3;

    /// <summary>The least, the middle one and the most of what our own jobs took; null when they are too few.</summary>
    /// <param name="hours">Person-hours of each.</param>
    public static PastHours? Of(IEnumerable<double> hours)
    {
        ArgumentNullException.ThrowIfNull(hours);
        var all = hours.Where(h => h > 0).Order().ToList();
        if (all.Count < Fewest)
        {
            return null;
        }

        var middle = all.Count % 2 == 1 ? all[all.Count / 2] : (all[(all.Count / 2) - 1] + all[all.Count / 2]) / 2;
        return new PastHours(new HoursRange(Rounded(all[0]), Rounded(middle), Rounded(all[^1])), all.Count);
    }

    // To the quarter of an hour, as hours are written down; never to nothing.
    private static double Rounded(double hours) => Math.Max(0.25, Math.Round(hours * 4, MidpointRounding.AwayFromZero) / 4);
}

/// <summary>The words that a shed knows: who, which skills, which tools and places, and what the like of a step took.</summary>
public sealed record StepWords
{
    /// <summary>No words at all.</summary>
    public static readonly StepWords None = new();

    /// <summary>People of the team, by full name.</summary>
    public IReadOnlyList<string> People { get; init; } = [];

    /// <summary>Skills that somebody holds.</summary>
    public IReadOnlyList<string> Skills { get; init; } = [];

    /// <summary>Tools, jacks, bays and benches.</summary>
    public IReadOnlyList<string> Things { get; init; } = [];

    /// <summary>Other sites.</summary>
    public IReadOnlyList<string> Sites { get; init; } = [];

    /// <summary>What the like of a step took, by its name.</summary>
    public Func<string, PastHours?> Past { get; init; } = _ => null;

    /// <summary>An open step by package and number; null when there is none.</summary>
    public Func<int, int, Guid?> Step { get; init; } = (_, _) => null;

    /// <summary>Package and number of an open step, as in 64.3; null when it is not open.</summary>
    public Func<Guid, string?> NameOf { get; init; } = _ => null;

    /// <summary>The person that a name means: the whole of it, or a first name that only one has.</summary>
    /// <param name="text">The name as typed.</param>
    public string? Person(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var whole = People.FirstOrDefault(p => string.Equals(p, text, StringComparison.OrdinalIgnoreCase));
        var first = People.Where(p => string.Equals(p.Split(' ')[0], text, StringComparison.OrdinalIgnoreCase)).Take(2).ToList();
        return whole ?? (first.Count == 1 ? first[0] : null);
    }

    /// <summary>The skill that a word means: <c>riveter</c> and <c>riveting</c> are one.</summary>
    /// <param name="text">The word as typed.</param>
    public string? Skill(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var exact = Skills.FirstOrDefault(s => string.Equals(s, text, StringComparison.OrdinalIgnoreCase));
        if (exact is not null)
        {
            return exact;
        }

        var stems = Stems(text);
        var like = Skills.Where(s => stems.Length > 0 && Stems(s) == stems).Take(2).ToList();
        return like.Count == 1 ? like[0] : null;
    }

    /// <summary>The tools that a word may mean: the one of that name, else those that have all its words.</summary>
    /// <param name="text">The words as typed.</param>
    public IReadOnlyList<string> ThingsLike(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var exact = Things.FirstOrDefault(t => string.Equals(t, text, StringComparison.OrdinalIgnoreCase));
        if (exact is not null)
        {
            return [exact];
        }

        var words = text.Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return words.Length == 0 ? [] : [.. Things.Where(t => words.All(w => t.Split(' ').Contains(w, StringComparer.OrdinalIgnoreCase)))];
    }

    private static string Stems(string text) => string.Join(' ', text.ToLowerInvariant().Split(' ',
        StringSplitOptions.RemoveEmptyEntries).Select(Stem));

    private static string Stem(string word)
    {
        foreach (var end in (string[])["ing", "ers", "er", "ors", "or", "s"])
        {
            if (word.Length >= end.Length + 4 && word.EndsWith(end, StringComparison.Ordinal))
            {
                return word[..^end.Length];
            }
        }

        return word;
    }
}

/// <summary>A step as it was read from lines.</summary>
public sealed record TypedStep
{
    /// <summary>Line on which it stands, from 0.</summary>
    public int Line { get; init; }

    /// <summary>The number that stood before it: the step that it is now; null for a new one.</summary>
    public int? Was { get; init; }

    /// <summary>What is done; 1 to 120 letters.</summary>
    public required string Name { get; init; }

    /// <summary>Person-hours; null when none were given.</summary>
    public HoursRange? Hours { get; init; }

    /// <summary>True for a hold point.</summary>
    public bool Hold { get; init; }

    /// <summary>True when it can be done beside the step before it.</summary>
    public bool Beside { get; init; }

    /// <summary>What it needs; what a line cannot say is as of a plain step.</summary>
    public OperationNeeds Needs { get; init; } = OperationNeeds.Plain;

    /// <summary>Notes, one a line.</summary>
    public string Note { get; init; } = string.Empty;

    /// <summary>Readings that it asks for.</summary>
    public IReadOnlyList<WantedReading> Readings { get; init; } = [];

    /// <summary>What lies ready before it is begun.</summary>
    public IReadOnlyList<KitItem> Kit { get; init; } = [];
}

/// <summary>An answer to what a line asks.</summary>
/// <param name="Word">What its key says.</param>
/// <param name="Line">The line as the answer makes it; several lines with line feeds between them.</param>
public sealed record StepAnswer(string Word, string Line);

/// <summary>What a line asks. Unanswered it is a note, and nothing is refused.</summary>
/// <param name="Line">The line, from 0.</param>
/// <param name="Sentence">What is asked.</param>
/// <param name="Answers">Answers, three at most.</param>
public sealed record StepQuestion(int Line, string Sentence, IReadOnlyList<StepAnswer> Answers);

/// <summary>How a line was read.</summary>
public enum LineKind
{
    /// <summary>Nothing stands on it.</summary>
    Blank,

    /// <summary>A step.</summary>
    Step,

    /// <summary>It belongs to the step above.</summary>
    Tie,

    /// <summary>Time that passes by itself: a cure.</summary>
    Break,
}

/// <summary>A line as it was read.</summary>
/// <param name="Line">Which, from 0.</param>
/// <param name="Kind">How.</param>
/// <param name="Number">Number of its step, from 1; 0 for none.</param>
/// <param name="Words">What was understood besides the name and the hours.</param>
/// <param name="Step">The step of the line; null for the others.</param>
/// <param name="Hold">Number of the hold that the line made besides; 0 for none.</param>
public sealed record LineRead(int Line, LineKind Kind, int Number, string Words, TypedStep? Step = null, int Hold = 0);

/// <summary>Lines of steps as they were read.</summary>
/// <param name="Steps">The steps in the order of the work: a hold follows all that is done side by side before it.</param>
/// <param name="Lines">Each line.</param>
/// <param name="Questions">What lines ask.</param>
public sealed record ReadSteps(IReadOnlyList<TypedStep> Steps, IReadOnlyList<LineRead> Lines, IReadOnlyList<StepQuestion> Questions);
