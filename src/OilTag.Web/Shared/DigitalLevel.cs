using System.Globalization;

namespace OilTag.Web.Shared;

/// <summary>
/// Asks the digital level over its line protocol: <c>LEVEL</c> is answered by <c>LEVEL 2.62 deg</c>, <c>MOVING</c> or <c>ERR words</c>. Before that the angle that
/// the board should have is said, which a simulated level takes as its board; a real one leaves it aside.
/// </summary>
public sealed class DigitalLevel(string? address)
{
    private readonly InstrumentLine line = new(address, "level", "Type the reading.");

    public bool Set => line.Set;

    /// <summary>Degrees as text, or a sentence that says why there are none.</summary>
    public async Task<(string? Text, string? Sentence)> ReadAsync(double degrees, string spot, CancellationToken ct)
    {
        var (answers, sentence) = await line.AskAsync([FormattableString.Invariant($"BOARD {degrees:0.00} deg {spot.Replace(' ', '-')}"), "LEVEL"], ct);
        return sentence is not null ? (null, sentence) : Understand(answers[^1]);
    }

    /// <summary>Reads an answer of the level.</summary>
    public static (string? Text, string? Sentence) Understand(string? answer) => (answer ?? string.Empty).Split(' ') switch
    {
        ["MOVING"] => (null, "The level is moving. Take your hands off, wait a moment, and press again."),
        ["LEVEL", var value, "deg"] when double.TryParse(value, NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var degrees) && Math.Abs(degrees) < 90 => (value + "°", null),
        [""] => (null, "The level hung up. Press again."),
        _ => (null, "The level said something that cannot be read. Press again."),
    };
}
