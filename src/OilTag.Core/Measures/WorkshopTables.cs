using System.Globalization;
using OilTag.Core.Tables;

namespace OilTag.Core.Measures;

/// <summary>Sizes that go by a number or a letter, from the tables of drills and gauges. All in inches.</summary>
public static class WorkshopTables
{
    private static readonly Dictionary<string, double> Drills = DataTable.Of("drills", r => (Name: r[0], Inches: DataTable.Number(r[1]))).ToDictionary(d => d.Name, d => d.Inches, StringComparer.OrdinalIgnoreCase);

    private static readonly Dictionary<string, double> Gauges = DataTable.Of("gauges", r => (Name: $"{r[0]} {r[1]}", Inches: DataTable.Number(r[2]))).ToDictionary(g => g.Name, g => g.Inches, StringComparer.Ordinal);

    /// <summary>The diameter of a drill by its name in the table, such as <c>#7</c>, <c>F</c> or <c>27/64</c>, or null.</summary>
    public static double? Drill(string name) => Drills.TryGetValue(name, out var inches) ? inches : null;

    /// <summary>The diameter of a number drill, 1 to 80, or null.</summary>
    public static double? NumberDrill(int number) => Drill(string.Create(CultureInfo.InvariantCulture, $"#{number}"));

    /// <summary>The diameter of a letter drill, a to z in either case, or null.</summary>
    public static double? LetterDrill(char letter) => char.IsAsciiLetter(letter) ? Drill(letter.ToString()) : null;

    /// <summary>The thickness of a sheet in standard wire gauge (SWG), 0 to 30, or null.</summary>
    public static double? Swg(int number) => Gauges.TryGetValue(string.Create(CultureInfo.InvariantCulture, $"SWG {number}"), out var inches) ? inches : null;

    /// <summary>The thickness in American wire gauge, 0 to 40, or null. Defined as 0.005 in × 92^((36 − n)/39).</summary>
    public static double? Awg(int number) => number is >= 0 and <= 40 ? 0.005 * Math.Pow(92, (36 - number) / 39.0) : null;
}
