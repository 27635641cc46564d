using NodaTime;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>An answer of the bench that is kept with a finding, an operation, a route card or a part. One of the four is set.</summary>
public class KeptAnswer
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Machine.</summary>
    public Guid MachineId { get; init; }

    /// <summary>Finding it is kept with.</summary>
    public Guid? FindingId { get; init; }

    /// <summary>Operation it is kept with.</summary>
    public Guid? OperationId { get; init; }

    /// <summary>Route card it is kept with.</summary>
    public Guid? RouteCardId { get; init; }

    /// <summary>Part it is kept with.</summary>
    public Guid? PartId { get; init; }

    /// <summary>Key of the calculator.</summary>
    public required string Calculator { get; init; }

    /// <summary>What was typed, field by field, with what of the record each follows.</summary>
    public required IReadOnlyList<KeptInput> Inputs { get; init; }

    /// <summary>The first figure in words, such as <c>Torque: 75.38 lb ft, 102.2 N m</c>.</summary>
    public required string Result { get; init; }

    /// <summary>The first figure in its SI unit.</summary>
    public double Si { get; init; }

    /// <summary>What it is for; empty when nobody has said.</summary>
    public string Note { get; init; } = string.Empty;

    /// <summary>Who kept it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }
}

/// <summary>One thing that was typed into a calculator.</summary>
/// <param name="Field">Name of the field.</param>
/// <param name="Text">What was typed.</param>
/// <param name="Follows">Which value of the record it was, such as <c>F12 reading</c>; empty for none.</param>
public sealed record KeptInput(string Field, string Text, string Follows);

/// <summary>A value of the record that an input may follow.</summary>
/// <param name="Name">Its name, such as <c>F12 reading</c>; it stays the same when the value changes.</param>
/// <param name="Words">As it is said, such as <c>the reading of F12</c>.</param>
/// <param name="Text">The value as it stands now.</param>
public sealed record RecordValue(string Name, string Words, string Text);

/// <summary>Keeps answers, and says when they no longer fit.</summary>
public static class KeptRule
{
    /// <summary>Longest note.</summary>
    public const int MostNote = 200;

    // Two answers are the same when they differ by less than this share.
    private const double Same = 1e-9;

    /// <summary>The inputs with what each follows: a value of the record that is the very same measure or text. Of two such values the first is taken.</summary>
    /// <param name="calculator">Calculator.</param>
    /// <param name="typed">What was typed, by field.</param>
    /// <param name="values">Values of the record.</param>
    public static IReadOnlyList<KeptInput> Inputs(Calculator calculator, Func<string, string> typed, IReadOnlyList<RecordValue> values)
    {
        ArgumentNullException.ThrowIfNull(calculator);
        ArgumentNullException.ThrowIfNull(typed);
        ArgumentNullException.ThrowIfNull(values);
        return [.. calculator.Fields.Select(f => (f.Name, Text: typed(f.Name).Trim(), f.Choices)).Where(f => f.Text.Length > 0)
            .Select(f => new KeptInput(f.Name, f.Text, f.Choices is null ? values.FirstOrDefault(v => IsSame(v.Text, f.Text))?.Name ?? string.Empty : string.Empty))];
    }

    /// <summary>Why a kept answer no longer fits, in sentences; none while it does.</summary>
    /// <param name="kept">The answer.</param>
    /// <param name="values">Values of the record as they are now.</param>
    public static IReadOnlyList<string> Stale(KeptAnswer kept, IReadOnlyList<RecordValue> values)
    {
        ArgumentNullException.ThrowIfNull(kept);
        ArgumentNullException.ThrowIfNull(values);
        List<string> why = [];
        foreach (var input in kept.Inputs.Where(i => i.Follows.Length > 0))
        {
            if (values.FirstOrDefault(v => v.Name == input.Follows) is not { } now)
            {
                why.Add($"{input.Follows} was {input.Text}; it is not there any more.");
            }
            else if (!IsSame(now.Text, input.Text))
            {
                why.Add($"{Capital(now.Words)} was {input.Text} and is {now.Text} now.");
            }
        }

        if (Calculator.Find(kept.Calculator) is not { } calculator)
        {
            why.Add("There is no such calculation any more.");
        }
        else if (calculator.Answer(f => kept.Inputs.FirstOrDefault(i => i.Field == f)?.Text ?? string.Empty) is var again && (again.Figures.Count == 0 || Math.Abs(again.Figures[0].Si - kept.Si) > Same * Math.Abs(kept.Si)))
        {
            why.Add(again.Figures.Count == 0 ? $"The same is refused now: {again.Problems[0].Sentence}" : $"The same gives {again.Figures[0].Text} now: the calculation or its table has changed.");
        }

        return why;
    }

    /// <summary>What to ask again: the inputs with the values of the record as they are now.</summary>
    public static IReadOnlyList<KeptInput> Again(KeptAnswer kept, IReadOnlyList<RecordValue> values)
    {
        ArgumentNullException.ThrowIfNull(kept);
        ArgumentNullException.ThrowIfNull(values);
        return [.. kept.Inputs.Select(i => i.Follows.Length > 0 && values.FirstOrDefault(v => v.Name == i.Follows) is { } now ? i with { Text = now.Text } : i)];
    }

    private static bool IsSame(string a, string b)
    {
        static string Plain(string text) => text.Replace('\u00A0', ' ').Trim();
        if (string.Equals(Plain(a), Plain(b), StringComparison.OrdinalIgnoreCase))
        {
            return true;
        }

        var (x, y) = (MeasureReader.Read(a, Quantity.Length).Value, MeasureReader.Read(b, Quantity.Length).Value);
        return x is not null && y is not null && Math.Abs(x.Si - y.Si) <= Same * Math.Abs(y.Si);
    }

    private static string Capital(string words) => char.ToUpperInvariant(words[0]) + words[1..];
}
