using OilTag.Core.Measures;

namespace OilTag.Web.Shared;

/// <summary>What a gauge answered: a reading, or a sentence that says why there is none.</summary>
public sealed record GaugeAnswer(Measure? Reading, string? Sentence);

/// <summary>
/// Asks the thickness gauge over its line protocol: <c>READ</c> is answered by <c>READ 1.234 mm</c>, <c>LOST</c> or <c>ERR words</c>. The address is
/// set by configuration; without one there is no gauge.
/// </summary>
public sealed class Gauge(string? address)
{
    private readonly InstrumentLine line = new(address, "gauge", "Type the reading.");

    public bool Set => line.Set;

    /// <summary>Takes one reading.</summary>
    /// <param name="plate">Thickness as built in millimetres and the name of the spot, which a simulated gauge takes as its plate; a real one leaves it aside.</param>
    public async Task<GaugeAnswer> ReadAsync((double Millimetres, string Spot)? plate, CancellationToken ct)
    {
        var (answers, sentence) = await line.AskAsync(plate is { } p ? [FormattableString.Invariant($"PLATE {p.Millimetres:0.000} mm {Ascii(p.Spot)}"), "READ"] : ["READ"], ct);
        return sentence is not null ? new GaugeAnswer(null, sentence) : Understand(answers[^1]);
    }

    /// <summary>Reads an answer of the gauge.</summary>
    public static GaugeAnswer Understand(string? line)
    {
        if (line is null)
        {
            return new GaugeAnswer(null, "The gauge hung up. Press again.");
        }

        if (line == "LOST")
        {
            return new GaugeAnswer(null, "No contact. Clean the spot, put couplant on it, and press again.");
        }

        if (line.StartsWith("READ ", StringComparison.Ordinal) && MeasureReader.Read(line[5..], Quantity.Length) is { Value: { } value })
        {
            return new GaugeAnswer(value, null);
        }

        return new GaugeAnswer(null, line.StartsWith("ERR ", StringComparison.Ordinal) ? $"The gauge says: {line[4..]}." : "The gauge said something that cannot be read. Press again.");
    }

    private static string Ascii(string s) => new([.. s.Where(c => char.IsAsciiLetterOrDigit(c) || c is '-' or '/')]);
}
