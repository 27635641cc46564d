using System.Globalization;
using OilTag.Core.Measures;
using OilTag.Core.Work;

namespace OilTag.Web.Shared;

/// <summary>Which instrument takes a reading of a step, and what it says.</summary>
public sealed class StepInstruments(Gauge gauge, DigitalLevel level, TorqueWrench wrench)
{
    /// <summary>What the instrument is called; empty when none that is set up takes such a reading.</summary>
    public string NameFor(WantedReading? wanted) => (wanted?.Low ?? wanted?.High)?.Unit.Quantity switch
    {
        Quantity.Length when gauge.Set => "gauge",
        Quantity.Angle when level.Set => "level",
        Quantity.Torque when wrench.Set => "wrench",
        _ => string.Empty,
    };

    /// <summary>Takes one reading, as text; or a sentence that says why there is none.</summary>
    /// <param name="wanted">What is read; a simulated instrument takes the middle of its limits as what lies under it.</param>
    /// <param name="spot">Where.</param>
    public async Task<(string? Text, string? Sentence)> ReadAsync(WantedReading wanted, string spot, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(wanted);
        var middle = wanted is { Low: { } low, High: { } high } ? (low.Si + high.Si) / 2 : (wanted.Low ?? wanted.High)!.Si;
        switch (NameFor(wanted))
        {
            case "gauge":
                var answer = await gauge.ReadAsync((middle / Unit.Millimetre.Factor, spot), ct);
                return (answer.Reading?.Text, answer.Sentence);
            case "level":
                return await level.ReadAsync(middle / Unit.Degree.Factor, spot, ct);
            case "wrench":
                var pull = await wrench.PullAsync(middle, ct);
                return (pull.NewtonMetres?.ToString("0.0 'N m'", CultureInfo.InvariantCulture), pull.Sentence);
            default:
                return (null, "No instrument is set up that reads this. Type it.");
        }
    }
}
