using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>Windows and canopies of polycarbonate and acrylic: movement |αp − αf|·x·ΔT, domes (a² + h²)/a², drape blanks R·θ. Properties from memory.</summary>
public static class Panels
{
    private static readonly IReadOnlyList<(string Key, string Words, double Alpha, double Glass)> Sheets = DataTable.Of("panels", r => (r[0], r[1], DataTable.Number(r[2]) * 1e-6, DataTable.Number(r[3])));
    private static readonly BenchChoice[] SheetChoices = [.. Sheets.Select(s => new BenchChoice(s.Key, s.Words))];
    private static readonly string[] Care = ["No solvents and no anaerobic thread lock near polycarbonate; no countersunk screws; never clamp tight: washers and sleeves.", "Windows of airworthy machines need approved material."];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("panel-holes", BenchTopic.Panels, "Holes in a window", "How much a panel moves in its frame, and how large the holes must be.", [new BenchField("sheet", "Which sheet?", "pc", Choices: SheetChoices), new BenchField("frame", "Which frame?", "steel", Choices: Frames.Choices), new BenchField("distance", "How far from the fixed point?", Hint: "600 mm, 24 in."), new BenchField("fitted", "How warm is it when fitted?", "20 °C"), new BenchField("coldest", "How cold does it get?", "-20 °C"), new BenchField("hottest", "How hot does it get?", "50 °C"), new BenchField("screw", "Which screw?", "5 mm")], Holes),
        new("dome", BenchTopic.Panels, "Blown dome", "How thin the sheet becomes.", [new BenchField("radius", "Which radius has the ring?", Hint: "10 in."), new BenchField("height", "How high is the dome?", Hint: "5 in."), new BenchField("thickness", "How thick is the sheet?", Hint: "0.250 in.")], Dome),
        new("drape", BenchTopic.Panels, "Blank for a draped panel", "How long the flat sheet must be before it is formed.", [new BenchField("radius", "Which radius has the former?", Hint: "400 mm."), new BenchField("thickness", "How thick is the sheet?", Hint: "4 mm."), new BenchField("angle", "Which angle does it go round?", Hint: "120"), new BenchField("trim", "How much trim at each edge?", "40 mm"), new BenchField("shrink", "How much does it shrink at first heating, in 100?", "2", "Measure a sample.")], Drape),
        new("mould", BenchTopic.Panels, "Mould for a formed panel", "How much larger the mould is than the panel.", [new BenchField("sheet", "Which sheet?", "pc", Choices: SheetChoices), new BenchField("size", "Which size has the panel?", Hint: "500 mm.")], Mould),
    ];

    private static BenchAnswer Holes(Asked asked)
    {
        var sheet = asked.Pick("sheet", Sheets, s => s.Key);
        var frame = asked.Pick("frame", Frames.All, f => f.Key);
        var distance = asked.Length("distance");
        var fitted = asked.Si("fitted", Quantity.Temperature);
        var coldest = asked.Si("coldest", Quantity.Temperature);
        var hottest = asked.Si("hottest", Quantity.Temperature);
        var screw = asked.Length("screw");
        if (asked.Good && (coldest > fitted || hottest < fitted || hottest == coldest))
        {
            asked.No("fitted", "It is fitted between the coldest and the hottest, and these differ.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var rise = Math.Max(hottest - fitted, fitted - coldest);
        var move = Math.Abs(sheet.Alpha - frame.Alpha) * distance * rise;
        var hole = screw + (2 * move);
        return r.OfLength("hole", "Hole, at least", hole).OfLength("movement", "Moves by", move)
            .Step($"ΔT = {r.Rise(rise)}, the larger of up and down")
            .Step($"u = |αp − αf| · x · ΔT = |{Reckoning.N(sheet.Alpha * 1e6)} − {Reckoning.N(frame.Alpha * 1e6)}| · 10⁻⁶ · {r.Short(distance)} · {Reckoning.N(rise)} = {r.Short(move)}")
            .Step($"hole = d + 2 u = {r.Short(hole)}, up to the next drill; leave as much at the far edge")
            .Draw(SheetSketches.PanelHole(r, screw, hole, move, distance))
            .Done("Expansion from memory; handbooks ask for 1/8 in over the screw in aircraft glazing", Care);
    }

    private static BenchAnswer Dome(Asked asked)
    {
        var a = asked.Length("radius");
        var h = asked.Length("height");
        var t = asked.Length("thickness");
        if (asked.Good && h > a * (1 + 1e-9))
        {
            asked.No("height", "Higher than the ring’s radius the wall falls below half of the sheet.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var ratio = ((a * a) + (h * h)) / (a * a);
        return r.OfLength("thickness", "Thickness on average", t / ratio).OfNumber("ratio", "Area grows by", ratio, " times").OfLength("sphere", "Radius of the dome", ((a * a) + (h * h)) / (2 * h))
            .Step($"(a² + h²)/a² = {Reckoning.N(ratio)}; t/{Reckoning.N(ratio)} = {r.Short(t / ratio)}")
            .Step("The top is thinner than the average, the foot thicker.")
            .Draw(SheetSketches.Dome(r, a, h, t / ratio))
            .Done("Geometry of a cap", [.. Care, "Above 205 °C polycarbonate, above 190 °C acrylic blisters; polycarbonate over 1.5 mm must be dried first."]);
    }

    private static BenchAnswer Drape(Asked asked)
    {
        var radius = asked.Length("radius");
        var t = asked.Length("thickness");
        var angle = asked.Value("angle", 0.1, 360, "Type an angle up to 360 degrees.");
        var trim = asked.Offset("trim");
        var shrink = asked.Value("shrink", 0, 10, "Type a share from 0 to 10.");
        if (asked.Good && trim < 0)
        {
            asked.No("trim", "Trim is 0 or more.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var arc = (radius + (t / 2)) * angle * Math.PI / 180;
        var blank = (arc + (2 * trim)) / (1 - (shrink / 100));
        return r.OfLength("blank", "Blank", blank).OfLength("arc", "Arc", arc)
            .Step($"arc = (R + t/2) · θ = ({r.Short(radius)} + {r.Short(t / 2)}) · {Reckoning.N(angle)} · π/180 = {r.Short(arc)}")
            .Step($"blank = (arc + 2 · {r.Short(trim)})/(1 − {Reckoning.N(shrink / 100)}) = {r.Short(blank)}")
            .Draw(SheetSketches.Drape(r, radius, t, angle, trim, arc, blank))
            .Done("Geometry; shrinking from memory", Care);
    }

    private static BenchAnswer Mould(Asked asked)
    {
        var sheet = asked.Pick("sheet", Sheets, s => s.Key);
        var size = asked.Length("size");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var contraction = sheet.Alpha * (sheet.Glass - 20);
        return r.OfLength("mould", "Mould", size * (1 + contraction)).OfNumber("contraction", "Contraction", contraction * 100, " in 100")
            .Step($"α · (Tg − 20) = {Reckoning.N(sheet.Alpha * 1e6)} · 10⁻⁶ · ({Reckoning.N(sheet.Glass)} − 20) = {Reckoning.N(contraction * 100)} in 100")
            .Step($"{r.Short(size)} · (1 + {Reckoning.N(contraction)}) = {r.Short(size * (1 + contraction))}")
            .Draw(PlaceSketches.Pattern(r, size, size * (1 + contraction)))
            .Done("Expansion and glass transition from memory", Care);
    }
}
