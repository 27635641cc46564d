using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Coverage, wet film, dew point and recoating. Coverage 10·VS/DFT m²/L; dew point after Magnus with b 17.62 and c 243.12 °C (WMO guide); steel 3 K above it (ISO 8502-4).</summary>
public static class Coatings
{
    private const double B = 17.62;
    private const double C = 243.12;
    private static readonly string[] Care = ["The product’s data sheet comes first.", "Respirator and extraction before spray or blast."];

    private static readonly BenchChoice[] Media = [new("sand", "silica sand"), new("grit", "steel or iron grit"), new("glass", "glass bead"), new("oxide", "aluminium oxide"), new("garnet", "garnet"), new("soda", "soda"), new("plastic", "plastic or nut shell")];
    private static readonly BenchChoice[] Metals = [new("steel", "steel or iron"), new("stainless", "stainless steel"), new("aluminium", "aluminium"), new("magnesium", "magnesium"), new("brass", "brass, bronze or copper")];
    private static readonly BenchChoice[] Coats = [new("bare", "bare or tested clean"), new("unknown", "paint that nobody has tested"), new("hazard", "lead, chromate or asbestos")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("paint", BenchTopic.Coatings, "How much paint", "Litres for an area, and how wet to lay it.", [new BenchField("solids", "Volume solids, in 100?", Hint: "48, from the data sheet."), new BenchField("film", "Dry film of one coat?", Hint: "0.060 mm, 3 thou."), new BenchField("area", "Which area?", Hint: "55 m2, 590 ft2."), new BenchField("coats", "How many coats?", "2"), new BenchField("loss", "How much is lost, in 100?", "30", "Brush and roller 10 to 20, spray 30 to 50: common practice."), new BenchField("thinner", "How much thinner, in 100?", "0")], Paint),
        new("dew-point", BenchTopic.Coatings, "Dew point", "Whether the steel is warm enough to paint.", [new BenchField("air", "How warm is the air?", Hint: "18 °C, 68 F."), new BenchField("humidity", "Relative humidity, in 100?", Hint: "75"), new BenchField("steel", "How warm is the steel?", Hint: "Empty to see the least.", Needed: false)], Dew),
        new("recoat", BenchTopic.Coatings, "When to recoat", "The least time to the next coat in the cold.", [new BenchField("least", "Which time does the data sheet give?", Hint: "4 h."), new BenchField("at", "At which temperature?", "20 °C"), new BenchField("now", "How warm is it?", Hint: "10 °C."), new BenchField("coldest", "Which is the lowest that the data sheet allows?", "5 °C")], Recoat),
        new("media", BenchTopic.Coatings, "Which abrasive", "Whether an abrasive is fit for this metal, thickness and old coating.", [new BenchField("media", "Which abrasive?", "glass", Choices: Media), new BenchField("metal", "Which metal?", "steel", Choices: Metals), new BenchField("thickness", "How thick is it at its thinnest?", Hint: "1.2 mm, 16 swg."), new BenchField("coat", "What is on it?", "unknown", Choices: Coats)], Abrasive),
    ];

    private static BenchAnswer Paint(Asked asked)
    {
        var solids = asked.Value("solids", 1, 100, "Type the volume solids from 1 to 100.");
        var film = asked.Length("film");
        var area = asked.Area("area");
        var coats = asked.Whole("coats", 1, 20, "Type a whole number of coats from 1 to 20.");
        var loss = asked.Value("loss", 0, 90, "Type the loss from 0 to 90.");
        var thinner = asked.Value("thinner", 0, 100, "Type the thinner from 0 to 100.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var um = film * 1e6;
        var theory = 10 * solids / um;
        var practical = theory * (1 - (loss / 100));
        var litres = area * coats / practical;
        var wet = film / (solids / 100) * (1 + (thinner / 100));
        var r = new Reckoning(asked.Imperial ?? false);
        string Cover(double m2) => asked.Imperial == true ? $"{Reckoning.N(m2 * 40.7458)} ft²/US gal, {Reckoning.N(m2)} m²/L" : $"{Reckoning.N(m2)} m²/L, {Reckoning.N(m2 * 40.7458)} ft²/US gal";
        return r.Figure("paint", "Paint", litres / 1000, "m³", $"{Reckoning.N(litres)} L, {Reckoning.N(litres / 3.785411784)} US gal").Figure("coverage", "Covers in theory", theory * 1000, "1/m", Cover(theory)).Figure("practical", "Covers in practice", practical * 1000, "1/m", Cover(practical)).OfLength("wet", "Wet film of one coat", wet)
            .Step($"10 · VS/DFT = 10 · {Reckoning.N(solids)}/{Reckoning.N(um)} µm = {Reckoning.N(theory)} m²/L; less {Reckoning.N(loss)} in 100: {Reckoning.N(practical)}").Step($"{Reckoning.N(area)} m² · {Reckoning.N(coats)}/{Reckoning.N(practical)} = {Reckoning.N(litres)} L").Step($"wet = DFT/(VS/100) · (1 + thinner/100) = {r.Short(wet)}")
            .Draw(Plain.Bars("One coat: wet as it is laid, and dry.", [(wet, $"wet {r.Short(wet)}", false), (film, $"dry {r.Short(film)}", false)]))
            .Done("Volume solids; loss common practice", Care);
    }

    private static BenchAnswer Dew(Asked asked)
    {
        var air = asked.Si("air", Quantity.Temperature) - 273.15;
        var humidity = asked.Value("humidity", 1, 100, "Type the humidity from 1 to 100.");
        var steel = asked.Optional("steel", Quantity.Temperature)?.Si - 273.15;
        if (asked.Good && air is < -45 - 1e-9 or > 60 + 1e-9)
        {
            asked.No("air", "The formula holds from -45 to 60 °C.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var g = Math.Log(humidity / 100) + (B * air / (C + air));
        var dew = C * g / (B - g);
        if (steel < dew + 3 - 1e-9)
        {
            asked.No("steel", $"Do not paint: the steel must be at least {r.Temperature(dew + 3 + 273.15)}, three degrees above the dew point of {r.Temperature(dew + 273.15)}.");
            return BenchAnswer.Refused([]);
        }

        return r.Figure("dew", "Dew point", dew + 273.15, "K", r.Temperature(dew + 273.15)).Figure("least", "Steel, at least", dew + 3 + 273.15, "K", r.Temperature(dew + 3 + 273.15))
            .Step($"g = ln(RH/100) + b T/(c + T) = {Reckoning.N(g)}, b = 17.62, c = 243.12 °C").Step($"Td = c g/(b − g) = {r.Temperature(dew + 273.15)}; steel at least 3 K above it")
            .Warn(humidity > 85, "Above 85 in 100 most paints are not to be used: common practice.")
            .Draw(Plain.Scale("Temperatures: dew point, what the steel needs, air and steel.", [(dew + 273.15, $"dew point {r.Temperature(dew + 273.15)}", false), (dew + 276.15, $"steel at least {r.Temperature(dew + 276.15)}", true), (air + 273.15, $"air {r.Temperature(air + 273.15)}", false), .. steel is { } now ? [(now + 273.15, $"steel {r.Temperature(now + 273.15)}", false)] : Array.Empty<(double, string, bool)>()]))
            .Done("Magnus formula, WMO guide; ISO 8502-4", [.. Care, "Take the dew point where the work is, and again when the weather turns."]);
    }

    private static BenchAnswer Recoat(Asked asked)
    {
        var least = asked.Si("least", Quantity.Duration);
        var at = asked.Si("at", Quantity.Temperature);
        var now = asked.Si("now", Quantity.Temperature);
        var coldest = asked.Si("coldest", Quantity.Temperature);
        if (asked.Good && now < coldest)
        {
            asked.No("now", "That is colder than the data sheet allows: it would not cure.");
        }

        if (asked.Good && Math.Abs(at - now) > 40)
        {
            asked.No("now", "Too far from the data sheet’s temperature for a rule of thumb.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var time = least * Math.Pow(2, (at - now) / 10);
        return r.Figure("time", "Not before", time, "s", $"{Reckoning.N(time / 3600)} h").Step($"t · 2^((T − T now)/10) = {Reckoning.N(least / 3600)} h · 2^{Reckoning.N((at - now) / 10)} = {Reckoning.N(time / 3600)} h")
            .Draw(Plain.Graph("The least time against the temperature: it doubles for each ten degrees colder.", "°C", "hours", [(SketchStroke.Edge, [.. Enumerable.Range(0, 41).Select(i => coldest + ((Math.Max(at, now) - coldest + 5) * i / 40)).Select(t => (t - 273.15, least / 3600 * Math.Pow(2, (at - t) / 10)))], string.Empty)], (now - 273.15, time / 3600, $"{Reckoning.N(time / 3600)} h")))
            .Done("Twice the time for each 10 K colder: common practice", [.. Care, "After the longest time the data sheet gives, abrade before the next coat."]);
    }

    private static BenchAnswer Abrasive(Asked asked)
    {
        var media = asked.Choice("media", Media);
        var metal = asked.Choice("metal", Metals);
        var t = asked.Length("thickness");
        var coat = asked.Choice("coat", Coats);
        if (media == "sand")
        {
            asked.No("media", "Silica sand gives silicosis; dry blasting with it is banned or strictly limited in many countries. Take another.");
        }

        if (media == "grit" && (metal is "aluminium" or "stainless" or "magnesium"))
        {
            asked.No("media", "Iron stays in the surface of this metal and it corrodes from there. Take a medium without iron.");
        }

        if (coat == "hazard")
        {
            asked.No("coat", "Lead, chromate and asbestos are not blasted without a hazard plan and licensed people.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        const double Thin = 1.5e-3;
        var r = new Reckoning(asked.Imperial ?? false);
        var soft = media is "plastic" or "soda";
        var thin = t < Thin * (1 - 1e-9) && !soft;
        return r.Figure("fit", thin ? "Not on this sheet" : "May be used", thin ? 0 : 1, string.Empty, thin ? "it would buckle: soft medium or chemical strip" : soft ? "gentle, leaves no profile for paint" : media == "glass" ? "low profile only, for cleaning" : "gives a profile for paint")
            .OfLength("least", "Least thickness for a hard medium", Thin)
            .Step($"{r.Short(t)} against {r.Short(Thin)}: {(thin ? "thinner" : "thick enough")}; 40 to 75 µm of profile is usual under primer")
            .Warn(coat == "unknown", "Test the old paint for lead and chromate first.").Warn(media == "soda", "Soda leaves salts: wash, and check for chlorides before paint.").Warn(metal == "magnesium", "Magnesium dust burns: ask the fire service and a metals adviser.")
            .Draw(Plain.Bars("Thickness against the least for a hard medium.", [(t, $"this sheet {r.Short(t)}", thin), (Thin, $"least {r.Short(Thin)}", false)]))
            .Done("Common practice", [.. Care, "Cover bearings, journals and data plates; blasting takes what a plate says.", "Air-fed helmet and extraction; local rules come first."]);
    }
}
