using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Topics of the bench, in the order in which they are listed.</summary>
public enum BenchTopic
{
    /// <summary>Bolts, studs, threads and torque.</summary>
    Fasteners,

    /// <summary>Bends and flat patterns.</summary>
    SheetMetal,
}

/// <summary>One of the answers that a field offers.</summary>
/// <param name="Value">As it stands in an address.</param>
/// <param name="Words">As it is shown.</param>
public sealed record BenchChoice(string Value, string Words);

/// <summary>One thing that a calculator asks for.</summary>
/// <param name="Name">Name in the address, such as <c>thickness</c>.</param>
/// <param name="Label">The question.</param>
/// <param name="Usual">What stands there at first; empty for nothing.</param>
/// <param name="Hint">What to type.</param>
/// <param name="Choices">Answers to choose from; empty for a field that is typed into.</param>
/// <param name="Needed">False when it may stay empty.</param>
public sealed record BenchField(string Name, string Label, string Usual = "", string Hint = "", IReadOnlyList<BenchChoice>? Choices = null, bool Needed = true);

/// <summary>One figure of an answer.</summary>
/// <param name="Name">Name in the JSON twin, such as <c>torque</c>.</param>
/// <param name="Label">What it is.</param>
/// <param name="Si">Its value in SI units; a bare number where it has none.</param>
/// <param name="Unit">The SI unit, such as <c>N m</c>; empty for a bare number.</param>
/// <param name="Text">As it is shown, in the system of units that was typed, with the other behind it.</param>
public sealed record BenchFigure(string Name, string Label, double Si, string Unit, string Text);

/// <summary>What a calculator answers: figures with their working, or the fields that are refused. Never both.</summary>
/// <param name="Figures">The figures, the one that was asked for first.</param>
/// <param name="Working">How they were reached; null when it was refused.</param>
/// <param name="Warnings">What stands beside the figures and cannot be hidden.</param>
/// <param name="Problems">Why it was refused, beside its fields.</param>
public sealed record BenchAnswer(IReadOnlyList<BenchFigure> Figures, Working? Working, IReadOnlyList<string> Warnings, IReadOnlyList<Problem> Problems)
{
    /// <summary>A refusal.</summary>
    public static BenchAnswer Refused(IReadOnlyList<Problem> problems) => new([], null, [], problems);

    /// <summary>A figure by its name.</summary>
    public BenchFigure this[string name] => Figures.First(f => f.Name == name);
}

/// <summary>A calculator of the bench. It reads what people type, refuses what lies outside its limits, and shows its working.</summary>
/// <param name="Key">Its address below <c>/bench/</c>.</param>
/// <param name="Topic">Where it is listed.</param>
/// <param name="Title">Its name.</param>
/// <param name="What">What it answers, in a sentence.</param>
/// <param name="Fields">What it asks for.</param>
/// <param name="Work">Works it out.</param>
public sealed record Calculator(string Key, BenchTopic Topic, string Title, string What, IReadOnlyList<BenchField> Fields, Func<Asked, BenchAnswer> Work)
{
    /// <summary>Stands on every calculator.</summary>
    public const string Rank = "Nothing here approves work. The maker’s drawing or manual, then the regulator’s approved data, then the qualified person outrank every figure.";

    /// <summary>Every calculator, topic by topic.</summary>
    public static IReadOnlyList<Calculator> All { get; } = [BoltTorque.Calculator, SheetBend.Calculator];

    /// <summary>Works it out from what was typed, by field name. The same text gives the same answer; it never throws.</summary>
    /// <param name="typed">Finds what was typed; null or empty for nothing.</param>
    public BenchAnswer Answer(Func<string, string?> typed)
    {
        ArgumentNullException.ThrowIfNull(typed);
        var asked = new Asked(typed);
        var answer = Work(asked);
        return asked.Problems.Count > 0 ? BenchAnswer.Refused([.. asked.Problems]) : answer;
    }
}

/// <summary>Reads the fields of a calculator and collects what cannot be read.</summary>
/// <param name="typed">Finds what was typed.</param>
public sealed class Asked(Func<string, string?> typed)
{
    private readonly List<Problem> problems = [];

    /// <summary>What cannot be read, or lies outside the limits, in the order in which it was found.</summary>
    public IReadOnlyList<Problem> Problems => problems;

    /// <summary>True while nothing was refused.</summary>
    public bool Good => problems.Count == 0;

    /// <summary>What was typed, without surrounding blanks.</summary>
    public string Text(string field) => (typed(field) ?? string.Empty).Trim();

    /// <summary>Refuses a field.</summary>
    public void No(string field, string sentence) => problems.Add(new Problem(field, sentence));

    /// <summary>A measure; null when it cannot be read, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="quantity">What it asks for.</param>
    /// <param name="bare">Unit of a bare number; null when it must be said.</param>
    public Measure? Measure(string field, Quantity quantity, Unit? bare = null)
    {
        var read = MeasureReader.Read(Text(field), quantity, bare);
        if (read.Refusal is { } why)
        {
            No(field, why);
        }

        return read.Value;
    }

    /// <summary>A bare number within limits; null when it cannot be read, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="least">Least.</param>
    /// <param name="most">Most.</param>
    /// <param name="sentence">What to type instead.</param>
    public double? Number(string field, double least, double most, string sentence)
    {
        if (TextRules.Number(Text(field)) is { } n && (double)n >= least && (double)n <= most)
        {
            return (double)n;
        }

        No(field, sentence);
        return null;
    }

    /// <summary>One of the answers that are offered; null when it is another, and then the field is refused.</summary>
    /// <param name="field">Field.</param>
    /// <param name="choices">What is offered.</param>
    public string? Choice(string field, IReadOnlyList<BenchChoice> choices)
    {
        ArgumentNullException.ThrowIfNull(choices);
        var text = Text(field);
        if (choices.FirstOrDefault(c => string.Equals(c.Value, text, StringComparison.OrdinalIgnoreCase)) is { } choice)
        {
            return choice.Value;
        }

        No(field, text.Length == 0 ? "Choose one." : $"“{text}” is not one of the choices.");
        return null;
    }
}
