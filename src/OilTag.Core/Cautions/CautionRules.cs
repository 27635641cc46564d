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
/// Raises cautions from the words of a task, part or note. A word triggers as a whole word, with the endings s, es, ed, ing, er and ers, with or without a doubled last letter;
/// words that mean something else on another kind of machine count on their own kind alone. A caution that comes with everything is not read, so a word that mostly means something
/// harmless is none. Source: common practice; the regulator's text outranks it.
/// </summary>
public static class CautionRules
{
    private static readonly (int Number, string Hazard, string[] Words, string Text)[] Register =
    [
        (1, "Asbestos", ["asbestos", "lagging", "gasket", "brake lining", "clutch lining", "friction lining", "brake shoe", "brake band", "rope seal", "cladding", "arc chute"], "Assume asbestos until a sample says no; no dry brushing, blowing off or blasting. A licensed asbestos surveyor decides."),
        (2, "Lead", ["lead paint", "red lead", "white lead", "old paint", "paint off", "stripping", "strip paint", "sand", "blast", "burn off", "babbitt", "white metal", "lead ballast"], "Old paint and white metal may hold lead: test first, work wet with extraction, no torch, wash before eating. The health regulator and your hygienist decide."),
        (3, "Radium", ["radium", "luminous", "compass", "glow dial"], "Luminous paint may hold radium: do not open or scrape; bag, label, wipe-test, keep a list. A radiation protection adviser decides."),
        (4, "Mercury", ["mercury", "manometer", "tilt switch", "barometer", "rectifier"], "Never vacuum it up; spill kit, ventilate, seal. The environment regulator and a spill specialist decide."),
        (5, "Magnesium", ["magnesium"], "If it is magnesium: dry class D agent only, no water; keep swarf small and dry; no steel grit. The fire service and a metals adviser decide."),
        (6, "Stored pressure", ["oleo", "hydraulic accumulator", "air accumulator", "nitrogen", "gas strut"], "Let the pressure out fully and prove it before a gland is loosened; nitrogen only, never oxygen or air. The maker’s manual and a pressure-systems person decide."),
        (7, "Springs", ["spring", "bungee", "torsion bar", "clutch"], "Cage or clamp before releasing; stand aside. The maker’s manual and an experienced fitter decide."),
        (8, "Pyrotechnics", ["ejection seat", "ejector seat", "ejection gun", "squib", "distress flare", "flare pistol", "starter cartridge", "cartridge starter"], "If it may hold a cartridge, stop and treat it as live. A qualified armourer or the police decide."),
        (9, "Pressure vessel", ["boiler", "air receiver", "air reservoir", "main reservoir", "safety valve", "hydraulic test", "raise steam", "raising steam", "in steam", "steam test"], "No pressure until it is certified; test with water, not air. A licensed boiler inspector decides."),
        (10, "Confined space", ["tank", "bilge", "firebox", "smokebox", "confined space"], "Gas test, ventilation, somebody outside and a way to get out. Your confined-space person decides."),
        (11, "Lifting", ["jack", "jack up", "lifting", "lift out", "lift off", "lift the", "sling", "crane", "hoist", "crib"], "Never under a jacked load; keep others clear. The lift supervisor decides."),
        (12, "Hot work", ["weld", "braze", "brazing", "blowtorch", "cutting torch", "gas cutting", "gas cut", "flame cut", "burn out", "solder", "angle grinder"], "Permit, extinguisher and a fire watch of 60 minutes after; move or shield what burns. The site fire officer decides."),
        (13, "Fuel vapour", ["fuel", "petrol", "AVGAS", "gasoline", "carburettor"], "Drain, purge and gas-free before heat; an empty tank is the worst. The gas-free tester decides."),
        (14, "Isocyanates", ["two-pack", "2K", "isocyanate", "polyurethane", "clear coat"], "Air-fed mask, booth, health checks; a sensitised person never returns to it. Occupational health decides."),
        (15, "PCB", ["capacitor", "transformer", "lamp ballast", "PCB"], "Do not open; bag, label, gloves. The environment regulator decides."),
        (16, "Chromate", ["chromate", "yellow primer", "yellow-green primer"], "Old yellow-green primer causes cancer: no dry sanding; extraction, gloves, hazardous waste. Your hygienist decides."),
        (17, "Beryllium", ["beryllium"], "No grinding or polishing; find out what it is first. Your hygienist decides."),
        (18, "Dust and resins", ["body filler", "filler coat", "sand", "glass fibre", "resin", "epoxy"], "Sand wet or extract, wear a mask; dust can explode; never burn off. Your hygienist decides."),
        (19, "Batteries", ["battery", "batteries", "electrolyte"], "Ventilate, no sparks, insulated tools, eye wash; never mix types. An electrician decides."),
        (20, Turning, ["flywheel", "drive belt", "fan belt", "vee belt", "run the engine", "engine run", "lathe"], "Guard it, isolate it, no loose clothing; nobody reaches in while it turns. The maker’s manual and the test supervisor decide."),
        (21, "Noise and vibration", ["rivet", "chipping", "needle gun", "angle grinder"], "Ear protection; limit trigger time and keep a tool log. Local law and occupational health decide."),
        (22, "Heavy", ["heavy", "manhandle"], "One person lifts about 25 kg at most, less when reaching; plan the path. The site safety lead decides."),
        (23, "Stored charge", ["traction motor", "generator", "magneto", "high voltage", "high tension", "capacitor"], "Isolate, prove dead, discharge. An electrician decides."),
        (24, "Oxygen and old cylinders", ["oxygen", "gas cylinder", "gas bottle", "extinguisher", "halon"], "No oil near oxygen; a gas cylinder out of test is emptied by a specialist. The gas supplier decides."),
        (25, "Droppings and mould", ["droppings", "nest", "mould growth", "hornet", "rodent"], "Wet it down, mask, gloves, no dry sweeping; nests may be protected. The health regulator or an ecologist decides."),
        (26, "Unknown fluids", ["solvent", "degreaser", "coolant", "unknown fluid", "hydraulic fluid"], "Find out what it is before it is opened; never mix. The environment regulator decides."),
        (27, "Silica and blast dust", ["silica", "sandblast", "abrasive blast", "shot blast", "firebrick", "foundry sand"], "No silica; extraction and air-fed helmet; test what is being blasted off first. Your hygienist decides."),
        (28, "Work at height", ["ladder", "scaffold", "staging", "on the roof", "wing walk"], "Platform with rails before ladders; fragile fabric and glass marked. The site safety lead decides."),
    ];

    private const string Turning = "Rotating machinery";

    private const string Propeller = "Treat a propeller as live; guard, isolate, no loose clothing. The maker’s manual and the test supervisor decide.";

    private const string Magneto = "Isolate, prove dead, discharge; magneto wires earthed before the propeller moves. An electrician decides.";

    // Words that count on one kind of machine alone.
    private static readonly (int Number, MachineKind Kind, string[] Words)[] OfKind =
    [
        (3, MachineKind.Aircraft, ["dial", "instrument panel"]),
        (5, MachineKind.Aircraft, ["casting", "swarf"]),
        (6, MachineKind.Aircraft, ["recharge"]),
        (8, MachineKind.Aircraft, ["cartridge", "canopy jettison"]),
        (9, MachineKind.SteamLocomotive, ["steam"]),
        (13, MachineKind.Aircraft, ["tank"]),
        (13, MachineKind.Tractor, ["tank", "vaporiser"]),
        (20, MachineKind.Aircraft, ["propeller", "run-up"]),
    ];

    // Phrases in which a word of the register means something harmless; they are taken out before the words are looked for.
    private static readonly string[] Harmless =
    [
        "spring washer", "spring pin", "spring clip", "spring balance", "spring-back", "springs back", "sprang back", "circlip", "dial gauge", "dial indicator", "header tank", "expansion tank",
        "tank cap", "tank strap", "blast nozzle", "blast pipe", "blast cap", "sand box", "sandbox", "sand pipe", "sanding gear", "sand dome", "lathe dog", "jack plug", "crane fly", "rivet list", "rivets to order",
        "inspection lamp", "clutch bag", "boiler suit", "boiler certificate", "magneto drawing", "gasket list", "fuel bill", "fuel cost",
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
        (7, null, 9999, ["suspension", "clutch", "laminated spring", "recoil spring", "bungee"]),
        (9, MachineKind.SteamLocomotive, 9999, ["boiler", "barrel", "firebox", "dome", "safety valve", "water gauge", "injector"]),
        (10, null, 9999, ["tank", "bilge", "firebox", "hull", "smokebox", "float", "hold", "bunker", "tail cone", "bottom skins"]),
        (13, null, 9999, ["fuel", "carburettor", "vaporiser"]),
        (15, null, 1987, ["capacitor", "transformer", "rectifier", "control gear"]),
        (16, MachineKind.Aircraft, 2010, ["hull", "skin", "wing", "float", "tail", "bow", "bottom"]),
        (20, MachineKind.Aircraft, 9999, ["propeller"]),
        (23, null, 9999, ["magneto", "generator", "dynamo", "traction"]),
        (25, MachineKind.Aircraft, 9999, ["wing", "tail", "hull", "hold"]),
        (28, null, 9999, ["roof", "wing", "dome", "chimney"]),
    ];

    // An ejection seat came into use after 1945; what is built later may have one, and the explosive cord of its canopy.
    private const int EjectionSeats = 1946;

    // Linear in the length of the text whatever it says, so no time limit that a busy machine could pass.
    private static readonly (Regex Pattern, Caution Caution)[] Patterns = [.. Register.Select(r => (
        Pattern(r.Words),
        new Caution(r.Number, r.Hazard, r.Text)))];

    private static readonly (int Number, MachineKind Kind, Regex Pattern)[] Own = [.. OfKind.Select(o => (o.Number, o.Kind, Pattern(o.Words)))];

    private static readonly (int Number, MachineKind? Kind, int Before, Regex Pattern)[] Hidden = [.. Hides.Select(h => (h.Number, h.Kind, h.Before, Pattern(h.Places)))];

    private static readonly Regex Seats = Pattern(["seat", "seat pan", "canopy rail", "seat rail"]);

    private static readonly Regex NoSeat = Pattern(["bearing", "valve", "cushion", "cover", "belt", "trim", "spring", "bench", "passenger"]);

    private static readonly Regex NotMeant = new(@"(?:^|[^a-z])(?:" + string.Join('|', Harmless.Select(Regex.Escape)) + @")(?:s|es)?(?:[^a-z]|$)", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant | RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture);

    /// <summary>What one person lifts at most, in kilograms: a guide value of common practice, from memory; less when reaching, and local rules outrank it.</summary>
    public const double OneLifts = 25;

    /// <summary>What two lift together at most, in kilograms: two thirds of what they lift one by one, as they cannot share it evenly (common practice, from memory).</summary>
    public const double TwoLift = 2 * OneLifts * 2 / 3;

    /// <summary>Number of the register's entry about heavy parts.</summary>
    public const int HeavyNumber = 22;

    /// <summary>Entries of the register.</summary>
    public static int Count => Register.Length;

    /// <summary>What an entry of the register is about.</summary>
    /// <param name="number">Its number, from 1.</param>
    public static string Hazard(int number) => Register[number - 1].Hazard;

    /// <summary>The cautions that the words raise on any machine, in the order of the register.</summary>
    public static IReadOnlyList<Caution> For(params string?[] texts) => Said(null, texts);

    /// <summary>The cautions that the words raise on a kind of machine, in the order of the register.</summary>
    /// <param name="kind">Kind of machine.</param>
    /// <param name="texts">Words of the task, part or note.</param>
    public static IReadOnlyList<Caution> For(MachineKind kind, params string?[] texts) => Said(kind, texts);

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
        var said = Said(kind, texts);
        var where = string.Join('\n', path);
        var hidden = Hidden.Where(h => (h.Kind is null || h.Kind == kind) && year < h.Before && h.Pattern.IsMatch(where)).Select(h => h.Number);
        if (kind == MachineKind.Aircraft && year >= EjectionSeats && path.Any(p => Seats.IsMatch(p) && !NoSeat.IsMatch(p)))
        {
            hidden = hidden.Append(8);
        }

        return [.. said, .. hidden.Distinct().Where(n => !said.Any(c => c.Number == n)).Order().Select(n => Worded(Patterns[n - 1].Caution, kind))];
    }

    /// <summary>The caution for a heavy part, or null when one person lifts it. Above what two may lift it is for a hoist or a crane.</summary>
    /// <param name="weight">Weight, or null when unknown.</param>
    public static Caution? ForWeight(Measure? weight) => weight switch
    {
        { Si: > TwoLift } w => new Caution(HeavyNumber, "Heavy", $"{w.Text} is for a hoist or a crane with its plan, not for hands. The lift supervisor decides."),
        { Si: > OneLifts } w => new Caution(HeavyNumber, "Heavy", $"{w.Text} is for two people or a hoist; plan the path first. The site safety lead decides."),
        _ => null,
    };

    private static List<Caution> Said(MachineKind? kind, string?[] texts)
    {
        ArgumentNullException.ThrowIfNull(texts);
        var all = NotMeant.Replace(string.Join('\n', texts.Where(t => t is not null)), " \n ");
        return [.. Patterns.Where(p => p.Pattern.IsMatch(all) || Own.Any(o => o.Number == p.Caution.Number && o.Kind == kind && o.Pattern.IsMatch(all))).Select(p => Worded(p.Caution, kind))];
    }

    // On an aircraft what turns is a propeller, and a magneto turns it.
    private static Caution Worded(Caution c, MachineKind? kind) => kind != MachineKind.Aircraft ? c : c.Number switch
    {
        20 => c with { Text = Propeller },
        23 => c with { Text = Magneto },
        _ => c,
    };

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
