using System.Globalization;
using MathNet.Numerics.Distributions;

namespace OilTag.Instruments;

/// <summary>
/// A simulated torque wrench. It answers lines: <c>ID</c> with what it is, <c>TO 122.0 Nm</c> says to what is pulled, <c>PULL</c> is answered by
/// <c>PULL 114.6 Nm</c> while somebody pulls and by <c>LET 122.3 Nm</c> with the most that was reached when they let go. Now and then a pull goes over, as with
/// hands.
/// </summary>
/// <param name="seed">The same seed gives the same pulls.</param>
/// <param name="steady">True when no pull goes over.</param>
public sealed class TorqueWrench(int seed, bool steady = false) : IInstrument
{
    // How far a pull has come from one reading to the next, in shares of what it reaches.
    private static readonly double[] Rise = [0.31, 0.58, 0.79, 0.9, 0.97];

    // Every so many pulls one goes over by a tenth.
    private const int Slips = 17;

    private readonly Random dice = new(seed);
    private double target;
    private double reach;
    private int at;
    private int pulls;

    /// <summary>Answers one line.</summary>
    /// <param name="line">The line without its end.</param>
    public string Answer(string line)
    {
        ArgumentNullException.ThrowIfNull(line);
        return line.Trim().Split(' ', StringSplitOptions.RemoveEmptyEntries) switch
        {
            ["ID"] => "ID Torque wrench, simulated, 5 to 400 N m",
            ["TO", var value, "Nm"] when double.TryParse(value, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var nm)
                && nm is >= 5 and <= 400 => To(nm),
            ["TO", ..] => "ERR it pulls from 5 to 400 Nm",
            ["PULL"] => Pull(),
            _ => "ERR unknown command",
        };
    }

    private string To(double newtonMetres)
    {
        // Said again while somebody pulls, it changes nothing.
        if (at == 0 || newtonMetres != target)
        {
            (target, at) = (newtonMetres, 0);
        }

        return "OK";
    }

    private string Pull()
    {
        if (target <= 0)
        {
            return "ERR say TO first";
        }

        if (at == 0)
        {
            pulls++;
            reach = target * (!steady && pulls % Slips == 0 ? 1.1 : 1 + Math.Clamp(Normal.Sample(dice, 0, 0.006), -0.015, 0.015));
        }

        if (at < Rise.Length)
        {
            return FormattableString.Invariant($"PULL {reach * Rise[at++]:0.0} Nm");
        }

        at = 0;
        return FormattableString.Invariant($"LET {reach:0.0} Nm");
    }
}
