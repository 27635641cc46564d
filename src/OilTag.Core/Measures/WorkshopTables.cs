namespace OilTag.Core.Measures;

/// <summary>Sizes that go by a number or a letter. All in inches.</summary>
public static class WorkshopTables
{
    // ASME B94.11M, number drills 1 to 80.
    private static readonly double[] NumberDrills =
    [
        0.2280, 0.2210, 0.2130, 0.2090, 0.2055, 0.2040, 0.2010, 0.1990, 0.1960,
        0.1935, 0.1910, 0.1890, 0.1850, 0.1820, 0.1800, 0.1770, 0.1730, 0.1695, 0.1660,
        0.1610, 0.1590, 0.1570, 0.1540, 0.1520, 0.1495, 0.1470, 0.1440, 0.1405, 0.1360,
        0.1285, 0.1200, 0.1160, 0.1130, 0.1110, 0.1100, 0.1065, 0.1040, 0.1015, 0.0995,
        0.0980, 0.0960, 0.0935, 0.0890, 0.0860, 0.0820, 0.0810, 0.0785, 0.0760, 0.0730,
        0.0700, 0.0670, 0.0635, 0.0595, 0.0550, 0.0520, 0.0465, 0.0430, 0.0420, 0.0410,
        0.0400, 0.0390, 0.0380, 0.0370, 0.0360, 0.0350, 0.0330, 0.0320, 0.0310, 0.0292,
        0.0280, 0.0260, 0.0250, 0.0240, 0.0225, 0.0210, 0.0200, 0.0180, 0.0160, 0.0145,
        0.0135,
    ];

    // ASME B94.11M, letter drills A to Z.
    private static readonly double[] LetterDrills =
    [
        0.234, 0.238, 0.242, 0.246, 0.250, 0.257, 0.261, 0.266, 0.272, 0.277, 0.281, 0.290, 0.295,
        0.302, 0.316, 0.323, 0.332, 0.339, 0.348, 0.358, 0.368, 0.377, 0.386, 0.397, 0.404, 0.413,
    ];

    // Standard wire gauge 0 to 30, the legal table of 1883; from memory, checked against a general reference program.
    private static readonly double[] StandardWire =
    [
        0.324, 0.300, 0.276, 0.252, 0.232, 0.212, 0.192, 0.176, 0.160, 0.144, 0.128, 0.116, 0.104, 0.092, 0.080, 0.072,
        0.064, 0.056, 0.048, 0.040, 0.036, 0.032, 0.028, 0.024, 0.022, 0.020, 0.018, 0.0164, 0.0148, 0.0136, 0.0124,
    ];

    /// <summary>The diameter of a number drill, 1 to 80, or null.</summary>
    public static double? NumberDrill(int number) => number is >= 1 and <= 80 ? NumberDrills[number - 1] : null;

    /// <summary>The diameter of a letter drill, a to z in either case, or null.</summary>
    public static double? LetterDrill(char letter) => char.ToLowerInvariant(letter) is >= 'a' and <= 'z' and var c ? LetterDrills[c - 'a'] : null;

    /// <summary>The thickness of a sheet in standard wire gauge (SWG), 0 to 30, or null.</summary>
    public static double? Swg(int number) => number is >= 0 and <= 30 ? StandardWire[number] : null;

    /// <summary>The thickness in American wire gauge, 0 to 40, or null. Defined as 0.005 in × 92^((36 − n)/39).</summary>
    public static double? Awg(int number) => number is >= 0 and <= 40 ? 0.005 * Math.Pow(92, (36 - number) / 39.0) : null;
}
