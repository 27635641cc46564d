using System.Globalization;
using MathNet.Numerics.Distributions;

namespace OilTag.Instruments;

/// <summary>
/// A simulated ultrasonic thickness gauge. It answers lines: <c>ID</c> with what it is, <c>PLATE 1.63 mm S3/11</c> lays the probe on a simulated
/// plate (size as built and name of the spot), <c>READ</c> takes one reading: <c>READ 1.42 mm</c>, or <c>LOST</c> when there is no contact. Now and
/// then the second echo of a thin plate is read and shows twice its thickness, as real gauges do (common practice).
/// </summary>
/// <param name="seed">The same seed gives the same readings.</param>
/// <param name="lost">Share of readings without contact.</param>
/// <param name="secondEcho">Share of readings that are the second echo.</param>
public sealed class PlateGauge(int seed, double lost = PlateGauge.Lost, double secondEcho = PlateGauge.SecondEcho) : IInstrument
{
    /// <summary>Standard deviation of two readings of one spot, in millimetres.</summary>
    public const double Noise = 0.02;

    /// <summary>Share of readings without contact.</summary>
    public const double Lost = 0.05;

    /// <summary>Share of readings that are the second echo.</summary>
    public const double SecondEcho = 0.04;

    private readonly Random dice = new(seed);

    private double plate = 6;

    /// <summary>Answers one line.</summary>
    /// <param name="line">The line without its end.</param>
    public string Answer(string line)
    {
        ArgumentNullException.ThrowIfNull(line);
        var words = line.Trim().Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return words switch
        {
            ["ID"] => "ID Plate gauge 4, simulated, 0.6 to 250 mm",
            ["READ"] => Read(),
            ["PLATE", var size, "mm", .. var spot] when double.TryParse(size, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var mm) && mm is >= 0.6 and <= 250 => Lay(mm, string.Join(' ', spot)),
            ["PLATE", ..] => "ERR a plate is 0.6 to 250 mm",
            _ => "ERR unknown command",
        };
    }

    // Most spots are nearly as built, a few are far gone; the same spot is always the same.
    private string Lay(double millimetres, string spot)
    {
        plate = millimetres * (0.985 - (0.4 * Math.Pow(Luck.Of(spot), 8)));
        return "OK";
    }

    private string Read()
    {
        var luck = dice.NextDouble();
        var value = Math.Max(0.3, plate + Normal.Sample(dice, 0, Noise)) * (luck < lost + secondEcho ? 2 : 1);
        return luck < lost ? "LOST" : FormattableString.Invariant($"READ {value:0.00} mm");
    }
}
