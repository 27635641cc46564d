using OilTag.Core.Bench.Sketches;

namespace OilTag.Core.Bench;

/// <summary>Topics of the bench, in the order in which they are listed.</summary>
public enum BenchTopic
{
    /// <summary>Bolts, studs, threads and torque.</summary>
    Fasteners,

    /// <summary>Solid rivets.</summary>
    Riveting,

    /// <summary>Bends and flat patterns.</summary>
    SheetMetal,

    /// <summary>Patterns and castings.</summary>
    Casting,

    /// <summary>White metal bearings.</summary>
    WhiteMetal,

    /// <summary>Transparent panels.</summary>
    Panels,

    /// <summary>Fits, shafts and keys.</summary>
    Fits,

    /// <summary>Wear and re-sizing.</summary>
    Wear,

    /// <summary>Plate and boilers.</summary>
    Boilers,

    /// <summary>Lifting and jacking.</summary>
    Lifting,

    /// <summary>Rigging and alignment.</summary>
    Rigging,

    /// <summary>Engines and balance.</summary>
    Engine,

    /// <summary>Electrical machines.</summary>
    Electrical,

    /// <summary>Hole patterns.</summary>
    HolePatterns,

    /// <summary>Coatings and dew point.</summary>
    Coatings,

    /// <summary>Stock and time.</summary>
    Stock,
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
    /// <summary>How it looks, to scale; null when it was refused.</summary>
    public Sketch? Sketch { get; init; }

    /// <summary>What can be printed in full size and laid on; null where nothing is.</summary>
    public Sketch? Template { get; init; }

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
    public static IReadOnlyList<Calculator> All { get; } =
    [
        BoltTorque.Calculator, .. Threading.All, .. Riveting.All, SheetBend.Calculator, .. Forming.All, .. Casting.All, .. WhiteMetal.All, .. Panels.All, .. Fits.All, .. Resizing.All, .. Boilers.All, .. Lifting.All, .. Rigging.All, .. Engines.All,
        .. Electrical.All, .. HolePatterns.All, .. Coatings.All, .. Stock.All, .. Cutting.All,
    ];

    /// <summary>A question that has an answer, such as <c>thread=1/2 UNC&amp;grade=5</c>; texts are not escaped.</summary>
    public string Example => Examples.All[Key];

    /// <summary>A calculator by its key; null when there is none.</summary>
    public static Calculator? Find(string key) => All.FirstOrDefault(c => c.Key == key);

    /// <summary>Those in whose words each word of a text stands; all for none.</summary>
    public static IReadOnlyList<Calculator> Search(string? text)
    {
        var words = (text ?? string.Empty).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return [.. All.Where(c => Array.TrueForAll(words, w => $"{c.Key} {Word(c.Topic)} {c.Title} {c.What} {string.Join(' ', c.Fields.Select(f => f.Label))}".Contains(w, StringComparison.OrdinalIgnoreCase)))];
    }

    /// <summary>A topic in words.</summary>
    public static string Word(BenchTopic topic) => topic switch
    {
        BenchTopic.Fasteners => "Fasteners and torque",
        BenchTopic.Riveting => "Riveting",
        BenchTopic.SheetMetal => "Sheet metal",
        BenchTopic.Casting => "Casting",
        BenchTopic.WhiteMetal => "White metal",
        BenchTopic.Panels => "Transparent panels",
        BenchTopic.Fits => "Fits, shafts and keys",
        BenchTopic.Wear => "Wear and re-sizing",
        BenchTopic.Boilers => "Plate and boilers",
        BenchTopic.Lifting => "Lifting and jacking",
        BenchTopic.Rigging => "Rigging and alignment",
        BenchTopic.Engine => "Engines and balance",
        BenchTopic.Electrical => "Electrical machines",
        BenchTopic.HolePatterns => "Hole patterns",
        BenchTopic.Coatings => "Coatings and dew point",
        _ => "Stock and time",
    };

    /// <summary>Works it out from what was typed, by field name. The same text gives the same answer; it never throws.</summary>
    /// <param name="typed">Finds what was typed; null or empty for nothing.</param>
    public BenchAnswer Answer(Func<string, string?> typed)
    {
        ArgumentNullException.ThrowIfNull(typed);
        var asked = new Asked(typed);
        var answer = Work(asked);

        // Numbers beyond all reason, such as a pull of 1e300, give no figure rather than a wrong one.
        if (asked.Good && answer.Figures.Any(f => !double.IsFinite(f.Si)))
        {
            asked.No(Fields[0].Name, "These numbers are too large or too small to work with.");
        }

        return asked.Problems.Count > 0 ? BenchAnswer.Refused([.. asked.Problems]) : answer;
    }
}
