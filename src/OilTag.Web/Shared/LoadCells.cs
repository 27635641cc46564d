using System.Globalization;

namespace OilTag.Web.Shared;

/// <summary>
/// Asks load cells over their line protocol: <c>CELL 2</c> is answered by <c>CELL 2 1834.6 kg</c> or <c>ERR words</c>. Before that the load that is planned on a
/// cell is said, which simulated cells take as what they bear; real ones leave it aside.
/// </summary>
public sealed class LoadCells(string? address)
{
    private readonly InstrumentLine line = new(address, "load cells’ box", "Read the cells by eye and type them.");

    public bool Set => line.Set;

    /// <summary>Kilograms on each cell, null for one that does not answer; or a sentence that says why there are none.</summary>
    /// <param name="cells">Number of each cell with the load that is planned on it, kilograms; a cell of 0 is none.</param>
    public async Task<(IReadOnlyList<double?> Kilograms, string? Sentence)> ReadAsync(IReadOnlyList<(int Cell, double Planned)> cells, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(cells);
        List<string> ask = [.. cells.Where(c => c.Cell > 0).SelectMany(c => new[] { FormattableString.Invariant($"LOAD {c.Cell} {c.Planned:0.0} kg"), FormattableString.Invariant($"CELL {c.Cell}") })];
        var (answers, sentence) = await line.AskAsync(ask, ct);
        if (sentence is not null)
        {
            return ([], sentence);
        }

        var at = -1;
        return ([.. cells.Select(c => c.Cell == 0 ? null : Understand(c.Cell, answers[at += 2]))], null);
    }

    /// <summary>Reads an answer of a cell; null when it is none.</summary>
    public static double? Understand(int cell, string? answer) =>
        (answer ?? string.Empty).Split(' ') is ["CELL", var n, var value, "kg"] && n == cell.ToString(CultureInfo.InvariantCulture) && double.TryParse(value, NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var kg) && Math.Abs(kg) < 1e6 ? kg : null;
}
