using System.Globalization;

namespace OilTag.Core.Make;

/// <summary>What the log says of route cards, fixtures, drawings and special processes.</summary>
public static class MakeLog
{
    /// <summary>A route card was opened.</summary>
    public static string Opened(RouteCard card)
    {
        ArgumentNullException.ThrowIfNull(card);
        return $"opened route card R{Number(card.Number)} for {(card.Handed ? $"{Number(card.Left)} left and {Number(card.Right)} right" : Number(card.Left))}.";
    }

    /// <summary>What there is to make it by.</summary>
    public static string Evidence(int card, EvidenceKind kind, string title) =>
        $"added evidence to R{Number(card)}: {EvidenceRank.Word(kind)}, {End(title)}.";

    /// <summary>Two pieces of evidence differ.</summary>
    public static string Differs(int card, string what, string decided) =>
        $"found on R{Number(card)} that the evidence differs: {End(what)}.{(decided.Length > 0 ? $" Decided: {End(decided)}." : string.Empty)}";

    /// <summary>A fixture was written down.</summary>
    public static string Fixture(string title, int points, IReadOnlyList<int> packages)
    {
        ArgumentNullException.ThrowIfNull(packages);
        return $"wrote down a fixture: {End(title)}, {Number(points)} hard points{(packages.Count > 0 ? $", wanted by {string.Join(", ", packages.Select(n => $"W{Number(n)}"))}" : string.Empty)}.";
    }

    /// <summary>A fixture stands, or was taken away.</summary>
    public static string FixtureStands(string title, bool stands) => $"{(stands ? "set up" : "took away")} the fixture {End(title)}.";

    /// <summary>Hard points of a fixture were read.</summary>
    public static string FixtureRead(string title, int points) => $"read {Number(points)} hard points of the fixture {End(title)}.";

    /// <summary>A sheet of the drawing register.</summary>
    /// <param name="number">Number of the drawing.</param>
    /// <param name="sheet">Its sheet, or empty.</param>
    /// <param name="was">State before; null when it is new.</param>
    /// <param name="state">State now.</param>
    public static string Drawing(string number, string sheet, DrawingState? was, DrawingState state) =>
        $"{(was is null ? "put into the drawing register" : was != state ? $"brought on from {DrawingRule.Word(was.Value)}" : "changed in the drawing register")}: {number}{(sheet.Length > 0 ? $" sheet {sheet}" : string.Empty)}, {DrawingRule.Word(state)}.";

    /// <summary>A special process was written down.</summary>
    public static string Process(ProcessKind kind, int card) =>
        $"wrote down {ProcessRule.Word(kind).ToLowerInvariant()} for R{Number(card)}.";

    /// <summary>Material came in.</summary>
    public static string TookIn(MaterialLot lot)
    {
        ArgumentNullException.ThrowIfNull(lot);
        return $"took in {lot.Specification}, {lot.Form}{(lot.Heat.Length > 0 ? $", heat {lot.Heat}" : string.Empty)}.";
    }

    private static string End(string words) => words.Trim().TrimEnd('.');

    private static string Number(int n) => n.ToString(CultureInfo.InvariantCulture);
}
