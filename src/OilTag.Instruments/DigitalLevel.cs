using System.Globalization;
using MathNet.Numerics.Distributions;

namespace OilTag.Instruments;

/// <summary>
/// A simulated digital level. It answers lines: <c>ID</c> with what it is, <c>BOARD 2.50 deg S9/3</c> lays it on a simulated board (the angle it should have,
/// and the name of the spot), <c>LEVEL</c> reads it: <c>LEVEL 2.62 deg</c>, or <c>MOVING</c> while somebody touches it.
/// </summary>
/// <param name="seed">The same seed gives the same readings.</param>
/// <param name="moving">Share of readings while it is touched.</param>
public sealed class DigitalLevel(int seed, double moving = 0.05) : IInstrument
{
    /// <summary>Standard deviation of two readings of one spot, degrees.</summary>
    public const double Noise = 0.02;

    private readonly Random dice = new(seed);
    private double angle;

    /// <summary>Answers one line.</summary>
    /// <param name="line">The line without its end.</param>
    public string Answer(string line)
    {
        ArgumentNullException.ThrowIfNull(line);
        return line.Trim().Split(' ', StringSplitOptions.RemoveEmptyEntries) switch
        {
            ["ID"] => "ID Digital level, simulated, 0.01 deg",
            ["LEVEL"] => Read(),
            ["BOARD", var at, "deg", .. var spot] when double.TryParse(at, NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var degrees) && Math.Abs(degrees) < 45 => Lay(degrees, string.Join(' ', spot)),
            ["BOARD", ..] => "ERR a board is from -45 to 45 deg",
            _ => "ERR unknown command",
        };
    }

    // Every spot is off by a little of its own; the same spot is always the same.
    private string Lay(double degrees, string spot)
    {
        angle = degrees + ((Luck.Of(spot) - 0.5) * 0.8);
        return "OK";
    }

    private string Read() => dice.NextDouble() < moving ? "MOVING" : FormattableString.Invariant($"LEVEL {angle + Normal.Sample(dice, 0, Noise):0.00} deg");
}
