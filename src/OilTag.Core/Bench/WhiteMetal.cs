using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>White metal linings: m = ρ·π/4·(D² − d²)·L·f·(1 + waste); pour 70 K above the liquidus. Alloys and densities: ASTM B23, appendix, recalled; settings common practice.</summary>
public static class WhiteMetal
{
    private static readonly IReadOnlyList<(string Key, string Words, double Density, double Liquidus)> Grades = DataTable.Of("white-metals", r => (r[0], r[1], DataTable.Number(r[2]) * 1000, DataTable.Number(r[4])));

    private static readonly BenchChoice[] GradeChoices = [.. Grades.Select(g => new BenchChoice(g.Key, g.Words))];
    private static readonly BenchChoice[] Shapes = [new("full", "full round"), new("half", "one half")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("white-metal", BenchTopic.WhiteMetal, "White metal for a bearing", "How much metal, how hot, and how thick the lining is.", [new BenchField("shell", "Which bore has the shell?", Hint: "4 3/4 in, 90 mm."), new BenchField("mandrel", "Which mandrel?", Hint: "3 7/8 in, 72 mm."), new BenchField("length", "How long is the bearing?", Hint: "6 in."), new BenchField("grade", "Which alloy?", "2", Choices: GradeChoices), new BenchField("shape", "Full or half?", "full", Choices: Shapes), new BenchField("waste", "How much waste, in 100?", "25"), new BenchField("pour", "How hot is it poured?", Hint: "Empty for 70 degrees above the liquidus.", Needed: false)], Lining),
    ];

    private static BenchAnswer Lining(Asked asked)
    {
        var shell = asked.Length("shell");
        var mandrel = asked.Length("mandrel");
        var length = asked.Length("length");
        var key = asked.Choice("grade", GradeChoices);
        var shape = asked.Choice("shape", Shapes);
        var waste = asked.Value("waste", 0, 200, "Type the waste from 0 to 200.");
        var typed = asked.Optional("pour", Quantity.Temperature);
        if (asked.Good && mandrel >= shell)
        {
            asked.No("mandrel", "The mandrel must be smaller than the bore of the shell.");
        }

        var grade = Grades.FirstOrDefault(g => g.Key == key);
        var r = new Reckoning(asked.Imperial ?? false);
        if (asked.Good && typed is not null && typed.Si <= grade.Liquidus + 273.15)
        {
            asked.No("pour", $"This alloy is all liquid only above {r.Temperature(grade.Liquidus + 273.15)}.");
        }
        else if (asked.Good && typed is not null && key is "1" or "2" or "3" && typed?.Si > 560 + 273.15)
        {
            asked.No("pour", $"Above {r.Temperature(560 + 273.15)} the tin burns.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var pour = typed?.Si ?? (grade.Liquidus + 70 + 273.15);
        var lining = (shell - mandrel) / 2;
        var volume = Math.PI / 4 * ((shell * shell) - (mandrel * mandrel)) * length * (shape == "half" ? 0.5 : 1);
        var mass = volume * grade.Density;
        return r.OfMass("melt", "Metal to melt", mass * (1 + (waste / 100))).OfMass("mass", "Metal in the bearing", mass).Figure("pour", "Pour at", pour, "K", r.Temperature(pour)).OfLength("lining", "Lining as poured", lining).Figure("volume", "Volume", volume, "m³", r.Volume(volume))
            .Step($"V = π/4 · (D² − d²) · L{(shape == "half" ? " · ½" : string.Empty)} = {r.Volume(volume)}")
            .Step($"m = ρ · V, ρ = {Reckoning.N(grade.Density / 1000)} g/cm³ = {r.Mass(mass)}; with {Reckoning.N(waste)} in 100 waste {r.Mass(mass * (1 + (waste / 100)))}")
            .Step(typed is null ? $"pour = liquidus {r.Temperature(grade.Liquidus + 273.15)} and 70 K" : $"liquidus {r.Temperature(grade.Liquidus + 273.15)}")
            .Step("Degrease and bake dry above 100 °C; tin at 260 to 300 °C and pour while the tin is liquid, above 232 °C; mandrel 150 to 300 °C, smoked. Bore 1.5 to 3 mm (1/16 to 1/8 in) a side: common practice.")
            .Warn(lining < Unit.Inch.Factor / 32 * (1 - 1e-9) || lining > 0.75 * Unit.Inch.Factor * (1 + 1e-9), "Linings are usually from 1/32 to 3/4 in (0.8 to 19 mm) thick.")
            .Draw(RoundSketches.Bearing(r, shell, mandrel, shape == "half"))
            .Done("ASTM B23, appendix, recalled; settings and waste common practice", "Any moisture explodes: shell, mandrel, ladle and scrap must be hot and dry.", "Lead, antimony and, in old metal, cadmium fume: extraction, no food, wash.", "Never melt an unknown white metal as a tin grade; never bring antimony alloys near acid.", "Keep the torch off the melt.");
    }
}
