using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>
/// Bend allowance, setback and flat length of bent sheet. Geometric BA = A·(R + K·T) with the angle bent through in radians, or the empirical
/// BA = (0.01743·R + 0.0078·T)·A in degrees (source: FAA airframe handbook); SB = tan(A/2)·(R + T); BD = 2·SB − BA. K by default from R/T: common practice.
/// </summary>
public static class SheetBend
{
    private const double LeastThickness = 0.005;
    private const double MostThickness = 0.5;

    // Least inside radius of a right angle across the grain, in thicknesses: the low and the high end of what is usual. Common practice.
    private static readonly IReadOnlyList<(string Key, string Words, double Low, double High)> Metals = DataTable.Of("bend-radii", r => (r[0], r[1], DataTable.Number(r[2]), DataTable.Number(r[3])));

    private static readonly BenchChoice[] MetalChoices = [new BenchChoice("other", "another metal"), .. Metals.Select(m => new BenchChoice(m.Key, m.Words))];

    /// <summary>The calculator.</summary>
    public static Calculator Calculator { get; } = new(
        "bend",
        BenchTopic.SheetMetal,
        "Bend in sheet metal",
        "How long the flat piece is, and where the bend lies.",
        [
            new BenchField("thickness", "How thick is the sheet?", Hint: "0.040 in, 1 mm, 16 swg."),
            new BenchField("radius", "Which inside radius?", Hint: "1/8 in, 3 mm; 0 for none."),
            new BenchField("angle", "Which angle is it bent through?", "90", "In degrees, from flat: not the angle left between the legs."),
            new BenchField("legs", "Which legs, outside?", Hint: "25 + 40 mm; each to the mould line, bends between them.", Needed: false),
            new BenchField("k", "Which K?", Hint: "Empty for the usual by radius and thickness; a number from 0.3 to 0.5; or “empirical”.", Needed: false),
            new BenchField("metal", "Which metal?", "other", Choices: MetalChoices),
        ],
        Work);

    private static BenchAnswer Work(Asked asked)
    {
        var thickness = asked.Measure("thickness", Quantity.Length);
        if (thickness is not null && (thickness.Si < LeastThickness * Unit.Inch.Factor - 1e-12 || thickness.Si > MostThickness * Unit.Inch.Factor + 1e-12))
        {
            asked.No("thickness", "This holds for sheet from 0.005 to 0.5 in (0.127 to 12.7 mm).");
        }

        // Nothing is a radius too: a sharp fold.
        var sharp = asked.Text("radius") is "0";
        var radius = sharp ? 0 : asked.Measure("radius", Quantity.Length)?.Si;
        var angle = asked.Number("angle", double.Epsilon, 179.999, "Type the angle bent through, above 0 and below 180 degrees.");
        var legs = Legs(asked);
        var metal = asked.Choice("metal", MetalChoices);
        var empirical = string.Equals(asked.Text("k"), "empirical", StringComparison.OrdinalIgnoreCase);
        var typedK = empirical || !asked.Has("k") ? null : asked.Number("k", 0.3, 0.5, "Type a K from 0.3 to 0.5, “empirical”, or leave it empty.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var (t, r, a) = (thickness!.Si, radius!.Value, angle!.Value);
        var k = typedK ?? UsualK(r / t);
        var radians = a * Math.PI / 180;
        var allowance = empirical ? ((0.01743 * r) + (0.0078 * t)) * a : radians * (r + (k * t));
        var setback = Math.Tan(radians / 2) * (r + t);
        var deduction = (2 * setback) - allowance;
        List<double> flats = [.. legs.Select((leg, i) => leg - ((i == 0 ? 0 : setback) + (i == legs.Count - 1 ? 0 : setback)))];
        var show = new Reckoning(thickness.Unit.Imperial);

        // A leg at the end loses one setback, one between two bends loses two.
        if (flats.Exists(f => f <= 0))
        {
            asked.No("legs", $"A leg is shorter than its bend: with this radius each end leg needs more than {show.Short(setback)}, one between two bends more than {show.Short(2 * setback)}.");
            return BenchAnswer.Refused([]);
        }

        var flat = legs.Sum() - ((legs.Count - 1) * deduction);
        if (legs.Count > 0)
        {
            show.OfLength("flat", "Flat length", flat);
        }

        show.OfLength("allowance", "Bend allowance", allowance).OfLength("setback", "Setback", setback).OfLength("deduction", "Bend deduction", deduction);
        if (!empirical && typedK is null)
        {
            show.Step($"K = {Reckoning.N(k)} for an inside radius of {Reckoning.N(r / t)} thicknesses: common practice");
        }

        show.Step(empirical
                ? $"BA = (0.01743 · R + 0.0078 · T) · A = (0.01743 · {show.Short(r)} + 0.0078 · {show.Short(t)}) · {Reckoning.N(a)} = {show.Short(allowance)}"
                : $"BA = A · π/180 · (R + K · T) = {Reckoning.N(a)} · π/180 · ({show.Short(r)} + {Reckoning.N(k)} · {show.Short(t)}) = {show.Short(allowance)}")
            .Step($"SB = tan(A/2) · (R + T) = {show.Short(setback)}")
            .Step($"BD = 2 · SB − BA = {show.Short(deduction)}");
        for (var i = 0; i < flats.Count; i++)
        {
            show.OfLength($"flat{i + 1}", $"Flat of leg {i + 1}", flats[i]);
        }

        if (legs.Count > 0)
        {
            show.Step($"flat = {string.Join(" + ", legs.Select(show.Short))} − {legs.Count - 1} · BD = {show.Short(flat)}").Template(SheetSketches.Blank(show, flats, allowance, r));
        }

        if (Metals.FirstOrDefault(m => m.Key == metal) is { Key: not null } known && r < known.High * t * (1 - 1e-9))
        {
            show.Warn(true, r < known.Low * t * (1 - 1e-9)
                ? $"The radius is below the least for {known.Words}, {Reckoning.N(known.Low)} to {Reckoning.N(known.High)} thicknesses across the grain: it will crack."
                : $"The least radius for {known.Words} is {Reckoning.N(known.Low)} to {Reckoning.N(known.High)} thicknesses across the grain, more along it: it may crack.");
        }

        return show.Draw(SheetSketches.Bend(show, t, r, a, setback, legs))
            .Done(empirical ? "FAA airframe handbook" : "Geometry of the neutral line; K and least radii: common practice", "The angle is the one bent through, not the one left between the legs.", "Mind the grain. Bend a test strip of the same sheet, measure it, then correct K.", "Bend lines scribed on clad sheet start cracks: use a pencil, outside the part only.");
    }

    // K by the inside radius in thicknesses: common practice. With a little slack, so that the same bend has the same K in both systems of units.
    internal static double UsualK(double thicknesses) => (thicknesses * (1 + 1e-9)) switch { < 2 => 0.33, < 4 => 0.42, < 8 => 0.45, _ => 0.50 };

    // "25 + 40 mm": a leg without a unit has that of the last one.
    private static List<double> Legs(Asked asked)
    {
        var parts = asked.Text("legs").Split('+', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
        if (parts.Length == 0)
        {
            return [];
        }

        if (parts.Length is 1 or > 12)
        {
            asked.No("legs", "Type two to twelve legs with a plus between them, such as 25 + 40 mm.");
            return [];
        }

        var last = MeasureReader.Read(parts[^1], Quantity.Length);
        if (last.Value is null)
        {
            asked.No("legs", last.Refusal!);
            return [];
        }

        var legs = new List<double>();
        foreach (var part in parts)
        {
            var read = MeasureReader.Read(part, Quantity.Length, last.Value.Unit);
            if (read.Value is null)
            {
                asked.No("legs", read.Refusal!);
                return [];
            }

            legs.Add(read.Value.Si);
        }

        return legs;
    }
}
