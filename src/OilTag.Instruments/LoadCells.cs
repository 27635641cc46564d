using System.Globalization;
using MathNet.Numerics.Distributions;

namespace OilTag.Instruments;

/// <summary>
/// Simulated load cells under jacks. They answer lines: <c>ID</c> with what they are, <c>LOAD 2 1834.5 kg</c> says what a cell bears in the end,
/// <c>CELL 2</c> reads one: <c>CELL 2 1830.2 kg</c>. As with real jacks the load comes on by and by; then the floor gives a little and one of them takes more
/// and more of it. <c>ZERO</c> lets everything down.
/// </summary>
/// <param name="seed">The same seed gives the same readings.</param>
/// <param name="settles">True when one of them takes more than its share after a while.</param>
public sealed class LoadCells(int seed, bool settles = true) : IInstrument
{
    /// <summary>Most cells.</summary>
    public const int Most = 16;

    // Share of what is missing that comes on from one reading to the next.
    private const double Rise = 0.35;

    // Readings after which the floor gives, and the share that the cell takes more with each.
    private const int Steady = 14;
    private const double Give = 0.03;

    private readonly Random dice = new(seed);
    private readonly double[] wanted = new double[Most + 1];
    private readonly double[] borne = new double[Most + 1];
    private readonly int[] read = new int[Most + 1];

    /// <summary>Answers one line.</summary>
    /// <param name="line">The line without its end.</param>
    public string Answer(string line)
    {
        ArgumentNullException.ThrowIfNull(line);
        return line.Trim().Split(' ', StringSplitOptions.RemoveEmptyEntries) switch
        {
            ["ID"] => "ID Load cells, simulated, 16 of 50 t",
            ["CELL", var n] when Number(n) is { } i => Read(i),
            ["LOAD", var n, var load, "kg"] when Number(n) is { } i && double.TryParse(load, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var kg) && kg is >= 0 and <= 50_000 => Bear(i, kg),
            ["ZERO"] => Zero(),
            ["CELL" or "LOAD", ..] => $"ERR cells are 1 to {Most}, loads 0 to 50000 kg",
            _ => "ERR unknown command",
        };
    }

    private static int? Number(string text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is >= 1 and <= Most ? n : null;

    private string Bear(int cell, double kilograms)
    {
        wanted[cell] = kilograms;
        return "OK";
    }

    private string Zero()
    {
        Array.Clear(wanted);
        Array.Clear(borne);
        Array.Clear(read);
        return "OK";
    }

    private string Read(int cell)
    {
        read[cell]++;
        borne[cell] += Rise * (wanted[cell] - borne[cell]);

        // The floor gives under the first cell that bears something.
        var gives = settles && cell == Array.FindIndex(wanted, w => w > 0) && read[cell] > Steady ? 1 + (Give * (read[cell] - Steady)) : 1;
        var value = Math.Max(0, (borne[cell] * gives) + Normal.Sample(dice, 0, 0.002 * wanted[cell]));
        return FormattableString.Invariant($"CELL {cell} {value:0.0} kg");
    }
}
