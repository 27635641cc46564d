using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>Patterns, melts and pours. Pattern = casting·(1 + s/12); m = ρ·V; lift of the cope ρ·g·A·h. Contractions common practice, densities and pouring ranges from memory, ASTM B23 for the white metals.</summary>
public static class Casting
{
    private sealed record Metal(string Key, string Words, double Contraction, double Density);

    private static readonly IReadOnlyList<Metal> Metals = DataTable.Of("metals", r => new Metal(r[0], r[1], DataTable.Number(r[2]), DataTable.Number(r[3]) * 1000));

    // Liquidus and usual pouring range, degrees Celsius; from memory but for the white metals.
    private static readonly IReadOnlyList<(string Key, string Words, double Liquidus, double Low, double High)> Pours = DataTable.Of("pours", r => (r[0], r[1], DataTable.Number(r[2]), DataTable.Number(r[3]), DataTable.Number(r[4])));

    private static readonly BenchChoice[] Choices = [.. Metals.Select(m => new BenchChoice(m.Key, m.Words))];
    private static readonly BenchChoice[] PatternChoices = [new("wood", "wood, resin or print"), .. Choices];
    private static readonly BenchChoice[] PourChoices = [.. Pours.Select(p => new BenchChoice(p.Key, p.Words)), new BenchChoice("magnesium", "magnesium alloy"), new BenchChoice("steel", "steel")];
    private static readonly string[] Heat = ["A wet mould, ladle or piece of scrap is a steam explosion.", "Zinc and lead fume: extraction, and no food near it.", "Full face shield and leathers; never molten metal over concrete."];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("pattern", BenchTopic.Casting, "Size of a pattern", "How large the pattern must be for the casting to come out right.", [new BenchField("size", "Which size has the casting?", Hint: "With what is machined off: 14.5 in, 420 mm."), new BenchField("metal", "Which metal is cast?", "grey", Choices: Choices), new BenchField("made", "What is the pattern made of?", "wood", "A pattern that is cast itself shrinks too.", PatternChoices)], Pattern),
        new("cast-bush", BenchTopic.Casting, "Metal for a bush", "What a hollow bar weighs, and how much to melt.", [new BenchField("outside", "Which outside diameter?", Hint: "4 in."), new BenchField("bore", "Which bore?", Hint: "2 1/2 in; 0 for solid."), new BenchField("length", "How long?", Hint: "5 in."), new BenchField("metal", "Which metal?", "gunmetal", Choices: Choices), new BenchField("yield", "Which share of the melt is the casting, in 100?", "60", "Iron 60 to 75, aluminium 45 to 60, bronze 55 to 70: common practice.")], Bush),
        new("cope", BenchTopic.Casting, "Weights on a cope", "What the metal lifts, and what must lie on the box.", [new BenchField("metal", "Which metal?", "grey", Choices: Choices), new BenchField("area", "Which area at the joint?", Hint: "Seen from above: 120 in2, 800 cm2."), new BenchField("height", "How high does the metal stand above it?", Hint: "To the top of the pouring cup: 4 in.")], Cope),
        new("pour", BenchTopic.Casting, "Pouring temperature", "Whether the metal is hot enough, and not too hot.", [new BenchField("alloy", "Which alloy?", Choices: PourChoices), new BenchField("pour", "How hot is it poured?", Hint: "424 °C, 800 F."), new BenchField("melts", "When is it all liquid, by your own papers?", Hint: "Empty to go by the table.", Needed: false)], Pour),
        new("iron", BenchTopic.Casting, "Grey iron by its analysis", "When it is all liquid, and whether the pour is hot enough.", [new BenchField("c", "Carbon, in 100?", Hint: "3.40"), new BenchField("si", "Silicon, in 100?", Hint: "2.00"), new BenchField("p", "Phosphorus, in 100?", "0.10"), new BenchField("pour", "How hot is it poured?", Hint: "1380 °C. Empty to see the liquidus only.", Needed: false)], Iron),
    ];

    private static Metal? Chosen(Asked asked, string field) => asked.Pick(field, Metals, m => m.Key);

    private static BenchAnswer Pattern(Asked asked)
    {
        var size = asked.Length("size");
        var metal = Chosen(asked, "metal");
        var made = asked.Choice("made", PatternChoices);
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var second = made == "wood" ? null : Metals.FirstOrDefault(m => m.Key == made);
        var factor = (1 + (metal!.Contraction / 12)) * (1 + ((second?.Contraction ?? 0) / 12));
        r.OfLength("pattern", second is null ? "Pattern" : "Master pattern", size * factor).Figure("scale", "Scale", factor, string.Empty, factor.ToString("0.00000", System.Globalization.CultureInfo.InvariantCulture))
            .Step($"1 + s/12, s = {Reckoning.N(metal.Contraction)} in to the foot for {metal.Words}: {Reckoning.N(100 * metal.Contraction / 12)} in 100");
        if (second is not null)
        {
            r.Step($"and 1 + s/12, s = {Reckoning.N(second.Contraction)} in to the foot for a pattern of {second.Words}");
        }

        return r.Step($"{r.Short(size)} · {factor.ToString("0.00000", System.Globalization.CultureInfo.InvariantCulture)} = {r.Short(size * factor)}")
            .Draw(PlaceSketches.Pattern(r, size, size * factor))
            .Done("Contraction: common practice", "The range is wide: cores and ribs hold a casting back. Ask the foundry.", "Add what is machined off first, then scale. Usual per face up to 12 in: iron 3/32, steel 1/8, non-ferrous 1/16 in; draft 1 to 2 degrees.");
    }

    private static BenchAnswer Bush(Asked asked)
    {
        var outside = asked.Length("outside");
        var bore = asked.Offset("bore");
        var length = asked.Length("length");
        var metal = Chosen(asked, "metal");
        var yield = asked.Value("yield", 20, 100, "Type a share from 20 to 100.");
        if (asked.Good && (bore < 0 || bore >= outside))
        {
            asked.No("bore", "The bore must be smaller than the outside; 0 for solid.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var volume = Math.PI / 4 * ((outside * outside) - (bore * bore)) * length;
        var mass = volume * metal!.Density;
        return r.OfMass("mass", "Casting", mass).OfMass("melt", "To melt", mass / (yield / 100)).Figure("volume", "Volume", volume, "m³", r.Volume(volume))
            .Step($"V = π/4 · (D² − d²) · L = {r.Volume(volume)}")
            .Step($"m = ρ · V, ρ = {Reckoning.N(metal.Density / 1000)} g/cm³ = {r.Mass(mass)}")
            .Step($"melt = m / {Reckoning.N(yield / 100)} = {r.Mass(mass / (yield / 100))}")
            .Draw(RoundSketches.Bush(r, outside, bore, length, "The bush from its end and from its side."))
            .Done("Densities from memory, within 2 in 100; yield common practice", Heat);
    }

    private static BenchAnswer Cope(Asked asked)
    {
        var metal = Chosen(asked, "metal");
        var area = asked.Area("area");
        var height = asked.Length("height");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var force = metal!.Density * Asked.Gravity * area * height;
        return r.OfForce("lift", "Lift on the cope", force).OfMass("weights", "Weights, at least", 1.5 * force / Asked.Gravity)
            .Step($"F = ρ · g · A · h = {Reckoning.N(metal.Density)} kg/m³ · 9.807 m/s² · {Reckoning.N(area * 1e4)} cm² · {r.Short(height)} = {r.Force(force)}")
            .Step("weights = 1.5 · F: common practice")
            .Draw(PlaceSketches.Cope(r, area, height))
            .Done("Pressure of a liquid; density from memory", [.. Heat, "Cores float too: they need their own prints or chaplets."]);
    }

    private static BenchAnswer Pour(Asked asked)
    {
        var key = asked.Choice("alloy", PourChoices);
        var pour = asked.Measure("pour", Quantity.Temperature);
        var melts = asked.Optional("melts", Quantity.Temperature);
        if (key is "magnesium" or "steel")
        {
            asked.No("alloy", $"Pouring {key} is work for a specialist foundry; this gives no figure for it.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var alloy = Pours.FirstOrDefault(p => p.Key == key);
        var r = new Reckoning(asked.Imperial ?? false);
        var liquidus = alloy.Liquidus + 273.15;
        if (melts is not null && pour!.Si <= melts.Si)
        {
            asked.No("pour", $"That is not above {r.Temperature(melts.Si)}, where you say it melts. Are the two swapped?");
        }
        else if (pour!.Si <= liquidus)
        {
            asked.No("pour", $"{alloy.Words} is all liquid only above {r.Temperature(liquidus)}: it would not fill the mould.");
        }
        else if (key!.StartsWith("b23-", StringComparison.Ordinal) && alloy.High == 560 && pour.Si > 560 + 273.15)
        {
            asked.No("pour", $"Above {r.Temperature(560 + 273.15)} the tin burns.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var aluminium = key!.StartsWith("al-si", StringComparison.Ordinal);
        return r.Figure("over", "Above the liquidus", pour!.Si - liquidus, "K", r.Rise(pour.Si - liquidus)).Figure("liquidus", "All liquid at", liquidus, "K", r.Temperature(liquidus)).Figure("low", "Usual from", alloy.Low + 273.15, "K", r.Temperature(alloy.Low + 273.15)).Figure("high", "Usual to", alloy.High + 273.15, "K", r.Temperature(alloy.High + 273.15))
            .Step($"{r.Temperature(pour.Si)} − {r.Temperature(liquidus)} = {r.Rise(pour.Si - liquidus)}")
            .Warn(pour.Si < alloy.Low + 273.15, "Below the usual range: thin sections may not fill.")
            .Warn(aluminium ? pour.Si > 780 + 273.15 : pour.Si > liquidus + 300, aluminium ? "Above 780 °C aluminium takes up gas and makes dross." : "More than 300 degrees above the liquidus.")
            .Draw(Plain.Scale("Temperatures: all liquid, the usual range, and the pour.", (liquidus, $"liquid {r.Temperature(liquidus)}", false), (alloy.Low + 273.15, "usual from", false), (alloy.High + 273.15, "usual to", false), (pour.Si, $"pour {r.Temperature(pour.Si)}", true)))
            .Done(key.StartsWith("b23-", StringComparison.Ordinal) ? "ASTM B23, appendix" : "From memory: ask the supplier of the metal", Heat);
    }

    private static BenchAnswer Iron(Asked asked)
    {
        var c = asked.Value("c", 2, 4.5, "Type the carbon from 2 to 4.5.");
        var si = asked.Value("si", 0, 4, "Type the silicon from 0 to 4.");
        var p = asked.Value("p", 0, 1.5, "Type the phosphorus from 0 to 1.5.");
        var pour = asked.Optional("pour", Quantity.Temperature);
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var equivalent = c + (si / 4) + (p / 2);
        if (equivalent is < 3.4 - 1e-9 or > 4.25 + 1e-9)
        {
            asked.No("c", $"C + Si/4 + P/2 is {Reckoning.N(equivalent)}; the formula holds from 3.4 to 4.25.");
            return BenchAnswer.Refused([]);
        }

        var liquidus = 1669 - (124 * equivalent) + 273.15;
        if (pour is not null && pour.Si <= liquidus)
        {
            asked.No("pour", $"This iron is all liquid only above {r.Temperature(liquidus)}: it would not fill the mould.");
            return BenchAnswer.Refused([]);
        }

        return r.Figure("liquidus", "All liquid at", liquidus, "K", r.Temperature(liquidus)).OfNumber("equivalent", "Carbon equivalent", equivalent)
            .Step($"CEL = C + Si/4 + P/2 = {Reckoning.N(equivalent)}").Step($"liquidus = 1669 − 124 · CEL = {r.Temperature(liquidus)}")
            .Warn(pour is not null && pour.Si < 1300 + 273.15, "Below the usual 1300 °C: thin sections may not fill.")
            .Draw(Plain.Scale("Temperatures of grey iron.", [(liquidus, $"liquid {r.Temperature(liquidus)}", pour is null), (1300 + 273.15, "usual from", false), (1430 + 273.15, "usual to", false), .. pour is null ? Array.Empty<(double, string, bool)>() : [(pour.Si, $"pour {r.Temperature(pour.Si)}", true)]]))
            .Done("From memory", Heat);
    }
}
