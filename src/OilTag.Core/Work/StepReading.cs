using System.Globalization;
using NodaTime;
using OilTag.Core.Measures;

namespace OilTag.Core.Work;

/// <summary>A reading that was taken at a step. A wrong one is struck and stays; the new one stands beside it.</summary>
public class StepReading
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; } = Guid.CreateVersion7();

    /// <summary>Step.</summary>
    public Guid OperationId { get; init; }

    /// <summary>Which reading of the step, by the line that asks for it.</summary>
    public required string Wanted { get; init; }

    /// <summary>Position, from 1.</summary>
    public int Position { get; init; }

    /// <summary>The value, if it has a unit.</summary>
    public Measure? Value { get; init; }

    /// <summary>The count, if it is one.</summary>
    public int? Count { get; init; }

    /// <summary>Yes or no, if it is that.</summary>
    public bool? Yes { get; init; }

    /// <summary>Words, if it is words.</summary>
    public string Words { get; init; } = string.Empty;

    /// <summary>True when it lay within its limits as they were then.</summary>
    public bool Within { get; init; }

    /// <summary>Who took it.</summary>
    public Guid ById { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>What it was taken with; empty when nobody said.</summary>
    public string Instrument { get; init; } = string.Empty;

    /// <summary>When it was struck; null while it counts.</summary>
    public Instant? StruckAt { get; set; }

    /// <summary>Who struck it.</summary>
    public Guid? StruckById { get; set; }

    /// <summary>Why it was struck.</summary>
    public string StruckWhy { get; set; } = string.Empty;

    /// <summary>The finding that it became, if it was snagged.</summary>
    public Guid? FindingId { get; set; }

    /// <summary>When somebody asked to leave it so; null when nobody did.</summary>
    public Instant? AskedAt { get; set; }

    /// <summary>When that was accepted.</summary>
    public Instant? AcceptedAt { get; set; }

    /// <summary>Who accepted it.</summary>
    public Guid? AcceptedById { get; set; }

    /// <summary>Why it may stay so.</summary>
    public string AcceptedWhy { get; set; } = string.Empty;
}

/// <summary>A reading as it was typed, judged at once.</summary>
/// <param name="Value">The value, if it has a unit.</param>
/// <param name="Count">The count, if it is one.</param>
/// <param name="Yes">Yes or no, if it is that.</param>
/// <param name="Words">Words, if it is words.</param>
/// <param name="Within">True within its limits.</param>
/// <param name="Off">How far beyond, such as <c>0.06 mm above the limit</c>; empty within.</param>
/// <param name="Problem">Why it cannot be read; null when it can.</param>
public sealed record ReadingCheck(Measure? Value, int? Count, bool? Yes, string Words, bool Within, string Off, Problem? Problem)
{
    internal static ReadingCheck Refused(string sentence) => new(null, null, null, string.Empty, false, string.Empty, new Problem("Reading",
        sentence));
}

/// <summary>A position of a reading as it stands.</summary>
/// <param name="Wanted">The reading.</param>
/// <param name="Position">Position, from 1.</param>
/// <param name="Reading">The reading that counts; null when none was taken.</param>
public sealed record ReadingPlace(WantedReading Wanted, int Position, StepReading? Reading)
{
    /// <summary>True when it is taken and within, or accepted as it is.</summary>
    public bool Settled => Reading is { Within: true } or { AcceptedAt: not null };
}

/// <summary>Judges readings, and says which are still wanted.</summary>
public static class ReadingRule
{
    /// <summary>Longest words of a reading.</summary>
    public const int LongestWords = 200;

    /// <summary>Reads and judges what was typed. A bare number is taken in the unit of the limit. On the limit is within it.</summary>
    /// <param name="wanted">What is asked for.</param>
    /// <param name="text">What was typed.</param>
    public static ReadingCheck Judge(WantedReading wanted, string? text)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var t = (text ?? string.Empty).Trim();
        switch (wanted.Kind)
        {
            case ReadingKind.YesNo:
                return t.ToUpperInvariant() switch
                {
                    "YES" or "Y" => new ReadingCheck(null, null, true, string.Empty, true, string.Empty, null),
                    "NO" or "N" => new ReadingCheck(null, null, false, string.Empty, false, "It should be yes", null),
                    _ => ReadingCheck.Refused("Answer yes or no."),
                };
            case ReadingKind.Words:
                var problems = new List<Problem>();
                var words = TextRules.Need(problems, "Reading", t, "Say in words what is there.", LongestWords);
                return problems.Count > 0 ? ReadingCheck.Refused(problems[0].Sentence)
                    : new ReadingCheck(null, null, null, words, true, string.Empty, null);
            case ReadingKind.Count:
                if (!int.TryParse(t, NumberStyles.None, CultureInfo.InvariantCulture, out var n) || n > 100_000)
                {
                    return ReadingCheck.Refused("Type a whole number, such as 14.");
                }

                var short_ = wanted.Least is { } least && n < least ? least - n : 0;
                var more = wanted.Most is { } most && n > most ? n - most : 0;
                return new ReadingCheck(null, n, null, string.Empty, short_ + more == 0, short_ > 0 ? $"{short_} too few" : more > 0
                    ? $"{more} too many" : string.Empty, null);
            default:
                var limit = wanted.Low ?? wanted.High;
                if (limit is null)
                {
                    return ReadingCheck.Refused("The step gives no limit for it. A lead changes the step.");
                }

                var read = MeasureReader.Read(t, limit.Unit.Quantity, limit.Unit);
                if (read.Value is not { } value)
                {
                    return ReadingCheck.Refused(read.Refusal!);
                }

                // A value in the last digit of a unit is the same as its limit whichever unit it was typed in.
                const double Same = 1e-9;
                var below = wanted.Low is { } low && value.Si < low.Si - (Math.Abs(low.Si) * Same) ? low.Si - value.Si : 0;
                var above = wanted.High is { } high && value.Si > high.Si + (Math.Abs(high.Si) * Same) ? value.Si - high.Si : 0;
                return new ReadingCheck(
                    value, null, null, string.Empty, below + above == 0, below > 0 ? $"{Difference(below, value.Unit)} below the limit"
                        : above > 0 ? $"{Difference(above, value.Unit)} above the limit" : string.Empty, null);
        }
    }

    /// <summary>A reading in words, as it was entered.</summary>
    /// <param name="reading">The reading.</param>
    public static string Words(StepReading reading)
    {
        ArgumentNullException.ThrowIfNull(reading);
        return reading.Value is { } v ? v.Entered : reading.Count is { } n ? n.ToString(CultureInfo.InvariantCulture)
            : reading.Yes is { } yes ? yes ? "yes" : "no" : reading.Words;
    }

    /// <summary>Every position that a step asks for, with the reading that counts there: the newest that was not struck.</summary>
    /// <param name="wanted">Readings of the step.</param>
    /// <param name="taken">What was taken at it.</param>
    public static IReadOnlyList<ReadingPlace> Places(IReadOnlyList<WantedReading> wanted, IEnumerable<StepReading> taken)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var by = taken.Where(r => r.StruckAt is null).GroupBy(r => (r.Wanted, r.Position)).ToDictionary(g => g.Key, g =>
            g.OrderBy(r => r.At).ThenBy(r => r.Id).Last());
        return [.. wanted.SelectMany(w => Enumerable.Range(1, w.Positions).Select(p => new ReadingPlace(w, p, by.GetValueOrDefault((w.Text,
            p)))))];
    }

    /// <summary>Why a step cannot be ticked for its readings, as a sentence; null when nothing is wanted.</summary>
    /// <param name="places">Its positions.</param>
    public static string? WhyNot(IReadOnlyList<ReadingPlace> places)
    {
        ArgumentNullException.ThrowIfNull(places);
        var missing = places.Count(p => p.Reading is null);
        var beyond = places.Count(p => p.Reading is not null && !p.Settled);
        return (missing, beyond) switch
        {
            (0, 0) => null,
            ( > 0, 0) => $"{Counted(missing)} not taken.",
            (0, _) => $"{Counted(beyond)} beyond the limit and not accepted.",
            _ => $"{Counted(missing)} not taken, {beyond} beyond the limit.",
        };
    }

    private static string Counted(int n) => n == 1 ? "1 reading is" : $"{n} readings are";

    // A difference has no offset: 3 °C more is 3 °C, not 276 K less than nothing.
    private static string Difference(double si, Unit unit)
    {
        var plain = unit with { Offset = 0 };
        return MeasureFormat.In(si, plain);
    }
}
