using System.Globalization;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>A screw thread of the table.</summary>
/// <param name="Series">UNC, UNF, UNS, BSW, BSF, MC (metric coarse) or MF (metric fine).</param>
/// <param name="Size">Nominal size, such as <c>1/2</c> or <c>M12x1.75</c>.</param>
/// <param name="Diameter">Nominal diameter, metres.</param>
/// <param name="Pitch">Pitch, metres.</param>
/// <param name="TapDrill">Diameter of the tap drill, metres; null when the table has none.</param>
/// <param name="Drill">The drill by its name; empty when the table has none.</param>
public sealed record ScrewThread(string Series, string Size, double Diameter, double Pitch, double? TapDrill, string Drill)
{
    // What is taken from the diameter, as a share of the pitch, to give that of the stress area.
    private const double Unified = 0.9743;
    private const double Iso = 0.9382;
    private const double Whitworth = 0.960491;

    /// <summary>Where the table comes from.</summary>
    public const string Source = "ASME B1.1; ISO 261, 724 and 898-1; BS 84";

    /// <summary>The table.</summary>
    public static IReadOnlyList<ScrewThread> All { get; } = DataTable.Of("threads", Read);

    /// <summary>True for metric threads.</summary>
    public bool IsMetric => Series is "MC" or "MF";

    /// <summary>True for the Whitworth form of 55 degrees.</summary>
    public bool IsWhitworth => Series is "BSW" or "BSF";

    /// <summary>Threads per inch; of a metric thread what that would be.</summary>
    public double PerInch => Unit.Inch.Factor / Pitch;

    /// <summary>As it is said, such as <c>1/2-13 UNC</c>.</summary>
    public string Name => IsMetric ? Size : string.Create(CultureInfo.InvariantCulture, $"{Size}-{PerInch:0.##} {Series}");

    /// <summary>What is taken from the diameter for the stress area, as a share of the pitch.</summary>
    public double Factor => IsWhitworth ? Whitworth : IsMetric ? Iso : Unified;

    /// <summary>Tensile stress area π/4·(d − factor·p)², square metres. Source: ASME B1.1, ISO 898-1; Whitworth by analogy, the mean of effective and core diameters.</summary>
    public double StressArea => Math.PI / 4 * Math.Pow(Diameter - (Factor * Pitch), 2);

    /// <summary>
    /// The threads that a text may mean, as people type it: <c>1/2 UNC</c>, <c>1/2-13</c>, <c>M12</c> (coarse), <c>M12 x 1.25</c>. Two for <c>1/4-20</c>, which
    /// is cut to 60 and to 55 degrees.
    /// </summary>
    public static IReadOnlyList<ScrewThread> Find(string? text)
    {
        var t = Plain(text);
        return t.Length == 0 ? [] : [.. All.Where(x => Spellings(x).Contains(t))];
    }

    private static IEnumerable<string> Spellings(ScrewThread t)
    {
        var size = Plain(t.Size);
        if (t.IsMetric)
        {
            yield return size;
            if (t.Series == "MC")
            {
                yield return size.Split('X')[0];
            }

            yield break;
        }

        var perInch = t.PerInch.ToString("0.##", CultureInfo.InvariantCulture);
        yield return size + t.Series;
        yield return $"{size}-{perInch}{t.Series}";
        yield return $"{size}-{perInch}";
    }

    private static string Plain(string? text) => string.Concat((text ?? string.Empty).ToUpperInvariant().Replace('×', 'X').Replace("NO.", "#", StringComparison.Ordinal).Where(c => !char.IsWhiteSpace(c) && c is not '"'));

    private static ScrewThread Read(IReadOnlyList<string> cells)
    {
        var metric = cells[0] is "MC" or "MF";
        var (d, p) = (DataTable.Number(cells[2]), DataTable.Number(cells[3]));
        return new ScrewThread(cells[0], cells[1], d * (metric ? Unit.Millimetre : Unit.Inch).Factor, metric ? p * Unit.Millimetre.Factor : Unit.Inch.Factor / p, Drilled(cells[4], metric), cells[4]);
    }

    private static double? Drilled(string drill, bool metric) => drill.Length == 0 ? null : metric ? DataTable.Number(drill) * Unit.Millimetre.Factor : WorkshopTables.Drill(drill) * Unit.Inch.Factor;
}
