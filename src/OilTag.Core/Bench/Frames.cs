using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>What a frame is made of, and its expansion for each kelvin: metals by the table, wood along its grain from memory.</summary>
internal static class Frames
{
    /// <summary>Every kind of frame.</summary>
    public static IReadOnlyList<(string Key, string Words, double Alpha)> All { get; } =
        [.. DataTable.Of("expansion", r => (Key: r[0], Words: r[1], Alpha: DataTable.Number(r[2]) * 1e-6)).Where(m => m.Key is "steel" or "aluminium"), ("wood", "wood, along the grain", 5e-6)];

    /// <summary>The choices of a field.</summary>
    public static IReadOnlyList<BenchChoice> Choices { get; } = [.. All.Select(f => new BenchChoice(f.Key, f.Words))];
}
