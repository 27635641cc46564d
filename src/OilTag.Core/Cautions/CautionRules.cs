using System.Text.RegularExpressions;
using OilTag.Core.Machines;
using OilTag.Core.Measures;

namespace OilTag.Core.Cautions;

/// <summary>A hazard to keep in mind and who decides.</summary>
/// <param name="Number">Number in the hazards register.</param>
/// <param name="Hazard">What it is.</param>
/// <param name="Text">What to do, ending with who decides.</param>
public sealed record Caution(int Number, string Hazard, string Text);

/// <summary>
/// Raises cautions from the words of a task, part or note. A word triggers with the endings s, es, ed, ing, er and ers, with or without a doubled last letter.
/// Source: common practice; the regulator's text outranks it.
/// </summary>
public static class CautionRules
{
    private static readonly (int Number, string Hazard, string[] Words, string Text)[] Register =
    [
        (1, "Asbestos", ["asbestos", "lagging", "gasket", "lining", "clutch", "brake", "rope seal", "cladding", "arc chute"], "Assume asbestos until a sample says no; no dry brushing, blowing off or blasting. A licensed asbestos surveyor decides."),
        (2, "Lead", ["lead paint", "red lead", "white lead", "sand", "strip", "blast", "burn off", "paint", "babbitt", "white metal", "ballast"], "Old paint and white metal may hold lead: test first, work wet with extraction, no torch, wash before eating. The health regulator and your hygienist decide."),
        (3, "Radium", ["radium", "luminous", "dial", "gauge", "compass", "glow", "instrument"], "Luminous paint may hold radium: do not open or scrape; bag, label, wipe-test, keep a list. A radiation protection adviser decides."),
        (4, "Mercury", ["mercury", "manometer", "tilt switch", "barometer", "rectifier"], "Never vacuum it up; spill kit, ventilate, seal. The environment regulator and a spill specialist decide."),
        (5, "Magnesium", ["magnesium", "swarf", "casting", "grind"], "If it is magnesium: dry class D agent only, no water; keep swarf small and dry; no steel grit. The fire service and a metals adviser decide."),
        (6, "Stored pressure", ["oleo", "strut", "accumulator", "nitrogen", "charge"], "Let the pressure out fully and prove it before a gland is loosened; nitrogen only, never oxygen or air. The maker’s manual and a pressure-systems person decide."),
        (7, "Springs", ["spring", "bungee", "torsion", "valve spring", "clutch"], "Cage or clamp before releasing; stand aside. The maker’s manual and an experienced fitter decide."),
        (8, "Pyrotechnics", ["ejection", "seat", "canopy", "cartridge", "squib", "flare", "starter cartridge"], "If it may hold a cartridge, stop and treat it as live. A qualified armourer or the police decide."),
        (9, "Pressure vessel", ["boiler", "receiver", "reservoir", "safety valve", "hydro", "steam"], "No pressure until it is certified; test with water, not air. A licensed boiler inspector decides."),
        (10, "Confined space", ["tank", "bilge", "firebox", "inside", "hold", "cylinder"], "Gas test, ventilation, somebody outside and a way to get out. Your confined-space person decides."),
        (11, "Lifting", ["jack", "lift", "sling", "crane", "crib", "stand"], "Never under a jacked load; keep others clear. The lift supervisor decides."),
        (12, "Hot work", ["weld", "braze", "brazing", "torch", "grind", "cut", "flame", "solder"], "Permit, extinguisher and a fire watch of 60 minutes after; move or shield what burns. The site fire officer decides."),
        (13, "Fuel vapour", ["fuel", "petrol", "tank", "AVGAS", "gasoline", "carburettor"], "Drain, purge and gas-free before heat; an empty tank is the worst. The gas-free tester decides."),
        (14, "Isocyanates", ["two-pack", "2K", "isocyanate", "polyurethane", "clear coat"], "Air-fed mask, booth, health checks; a sensitised person never returns to it. Occupational health decides."),
        (15, "PCB", ["capacitor", "transformer", "ballast", "PCB"], "Do not open; bag, label, gloves. The environment regulator decides."),
        (16, "Chromate", ["chromate", "zinc", "yellow primer", "conversion"], "Old yellow-green primer causes cancer: no dry sanding; extraction, gloves, hazardous waste. Your hygienist decides."),
        (17, "Beryllium", ["beryllium", "copper spring", "ceramic", "insulator"], "No grinding or polishing; find out what it is first. Your hygienist decides."),
        (18, "Dust and resins", ["foam", "filler", "sand", "glass fibre", "resin", "epoxy"], "Sand wet or extract, wear a mask; dust can explode; never burn off. Your hygienist decides."),
        (19, "Batteries", ["battery", "batteries", "electrolyte", "charging", "cell"], "Ventilate, no sparks, insulated tools, eye wash; never mix types. An electrician decides."),
        (20, "Rotating machinery", ["propeller", "flywheel", "belt", "run-up", "lathe", "drive"], "Treat a propeller as live; guard, isolate, no loose clothing. The maker’s manual and the test supervisor decide."),
        (21, "Noise and vibration", ["rivet", "chip", "needle gun", "grind", "run-up"], "Ear protection; limit trigger time and keep a tool log. Local law and occupational health decide."),
        (22, "Heavy", ["lift", "carry", "head", "wheel", "move"], "Two people or a hoist over about 25 kg, less when reaching; plan the path. The site safety lead decides."),
        (23, "Stored charge", ["traction", "generator", "magneto", "high voltage", "capacitor"], "Isolate, prove dead, discharge; magneto wires earthed before the propeller moves. An electrician decides."),
        (24, "Oxygen and old cylinders", ["oxygen", "cylinder", "extinguisher", "halon"], "No oil near oxygen; a gas cylinder out of test is emptied by a specialist. The gas supplier decides."),
        (25, "Droppings and mould", ["droppings", "nest", "mould", "hornet", "rodent"], "Wet it down, mask, gloves, no dry sweeping; nests may be protected. The health regulator or an ecologist decides."),
        (26, "Unknown fluids", ["solvent", "degreaser", "coolant", "extinguisher", "fluid"], "Find out what it is before it is opened; never mix. The environment regulator decides."),
        (27, "Silica and blast dust", ["silica", "sandblast", "abrasive", "shot blast", "firebrick", "foundry sand"], "No silica; extraction and air-fed helmet; test what is being blasted off first. Your hygienist decides."),
        (28, "Work at height", ["ladder", "scaffold", "staging", "roof", "wing walk"], "Platform with rails before ladders; fragile fabric and glass marked. The site safety lead decides."),
    ];

    // What hides where, whatever the words of a task say: kind of machine (null for all), built before, and words of the place or of an assembly above it.
    private static readonly (int Number, MachineKind? Kind, int Before, string[] Places)[] Hides =
    [
        (1, MachineKind.SteamLocomotive, 2000, ["boiler", "firebox", "barrel", "dome", "smokebox", "steam pipe", "injector", "cylinder"]),
        (1, null, 2000, ["brake", "clutch", "exhaust", "firewall", "furnace"]),
        (2, null, 1980, ["side sheet", "cab", "panel", "tinwork", "bonnet", "mudguard", "body", "hull", "skin", "frame", "roof", "window", "door", "tank"]),
        (3, MachineKind.Aircraft, 1970, ["cockpit", "instrument", "dial", "compass", "switch"]),
        (5, MachineKind.Aircraft, 9999, ["wheel", "casing", "crankcase", "engine", "propeller"]),
        (6, MachineKind.Aircraft, 9999, ["undercarriage", "landing gear", "oleo", "leg"]),
        (7, null, 9999, ["valve gear", "idler", "tension", "suspension", "clutch", "laminated", "bungee"]),
        (8, MachineKind.Aircraft, 9999, ["seat", "canopy"]),
        (9, MachineKind.SteamLocomotive, 9999, ["boiler", "barrel", "firebox", "dome", "safety valve", "water gauge", "injector"]),
        (10, null, 9999, ["tank", "bilge", "firebox", "hull", "smokebox", "float", "hold", "bunker", "tail cone", "bottom skins"]),
        (13, null, 9999, ["fuel", "carburettor", "vaporiser"]),
        (15, null, 1987, ["capacitor", "transformer", "rectifier", "control gear"]),
        (16, MachineKind.Aircraft, 2010, ["hull", "skin", "wing", "float", "tail", "bow", "bottom"]),
        (20, MachineKind.Aircraft, 9999, ["propeller", "engine"]),
        (23, null, 9999, ["magneto", "generator", "dynamo", "traction"]),
        (25, MachineKind.Aircraft, 9999, ["wing", "tail", "hull", "hold"]),
        (28, null, 9999, ["roof", "wing", "upper", "dome", "chimney"]),
    ];

    // Linear in the length of the text whatever it says, so no time limit that a busy machine could pass.
    private static readonly (Regex Pattern, Caution Caution)[] Patterns = [.. Register.Select(r => (
        Pattern(r.Words),
        new Caution(r.Number, r.Hazard, r.Text)))];

    private static readonly (int Number, MachineKind? Kind, int Before, Regex Pattern)[] Hidden = [.. Hides.Select(h => (h.Number, h.Kind, h.Before, Pattern(h.Places)))];

    /// <summary>Mass from which two people or a hoist are wanted, in kilograms (a guide value; less when reaching).</summary>
    public const double TwoPeopleFrom = 25;

    /// <summary>Number of the register's entry about heavy parts.</summary>
    public const int HeavyNumber = 22;

    /// <summary>The cautions that the words raise, in the order of the register.</summary>
    public static IReadOnlyList<Caution> For(params string?[] texts)
    {
        ArgumentNullException.ThrowIfNull(texts);
        var all = string.Join('\n', texts.Where(t => t is not null));
        return [.. Patterns.Where(p => p.Pattern.IsMatch(all)).Select(p => p.Caution)];
    }

    /// <summary>
    /// The cautions that the words raise, and behind them those for what hides at such a place on such a machine: by its kind, its year and the names of the
    /// place and of the assemblies above it. Source: the register's "hides in", common practice; years are when a substance went out of general use, from memory
    /// and on the careful side.
    /// </summary>
    /// <param name="kind">Kind of machine.</param>
    /// <param name="year">Year it was built.</param>
    /// <param name="path">Names of the place and of the assemblies above it.</param>
    /// <param name="texts">Words of the task, part or finding.</param>
    public static IReadOnlyList<Caution> At(MachineKind kind, int year, IReadOnlyList<string> path, params string?[] texts)
    {
        ArgumentNullException.ThrowIfNull(path);
        var said = For([.. texts]);
        var where = string.Join('\n', path);
        var hidden = Hidden.Where(h => (h.Kind is null || h.Kind == kind) && year < h.Before && h.Pattern.IsMatch(where)).Select(h => h.Number).Distinct();
        return [.. said, .. hidden.Where(n => !said.Any(c => c.Number == n)).Order().Select(n => Patterns[n - 1].Caution)];
    }

    /// <summary>The caution for a heavy part, or null when it is light.</summary>
    /// <param name="weight">Weight, or null when unknown.</param>
    public static Caution? ForWeight(Measure? weight) => weight is { } w && w.Si > TwoPeopleFrom
        ? new Caution(HeavyNumber, "Heavy", $"{w.Text} is for two people or a hoist; plan the path first. The site safety lead decides.")
        : null;

    // Whole words with their endings.
    private static Regex Pattern(string[] words) => new(@"(?:^|[^a-z])(?:" + string.Join('|', words.Select(Word)) + @")(?:[^a-z]|$)", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking);

    private static string Word(string w)
    {
        var e = Regex.Escape(w);
        var last = Regex.Escape(w[^1].ToString());
        var bare = w.EndsWith('e') ? "|" + Regex.Escape(w[..^1]) + "(?:ed|ing|er|ers)" : string.Empty;
        return $"{e}(?:{last}?(?:s|es|ed|ing|er|ers))?{bare}";
    }
}
