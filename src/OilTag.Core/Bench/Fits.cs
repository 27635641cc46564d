using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>Press and shrink fits after Lamé, keys, and fits of ISO 286 (table <c>fits</c>).</summary>
public static class Fits
{
    // Modulus and Poisson’s ratio; expansion per kelvin; from memory.
    private static readonly IReadOnlyList<(string Key, string Words, double E, double Nu, double Alpha)> Metals = DataTable.Of("expansion", r => (r[0], r[1], DataTable.Number(r[3]) * 1e9, DataTable.Number(r[4]), DataTable.Number(r[2]) * 1e-6));

    private static readonly BenchChoice[] MetalChoices = [.. Metals.Select(m => new BenchChoice(m.Key, m.Words))];

    private static readonly IReadOnlyList<(double Over, double UpTo, string Zone, double Lower, double Upper)> Zones = DataTable.Of("fits", r => (DataTable.Number(r[0]), DataTable.Number(r[1]), r[2], DataTable.Number(r[3]), DataTable.Number(r[4])));

    private static readonly BenchChoice[] Holes = [new("H6", "H6"), new("H7", "H7"), new("H8", "H8")];
    private static readonly BenchChoice[] Shafts = [.. new[] { "f7", "g6", "h6", "k6", "n6", "p6", "s6" }.Select(z => new BenchChoice(z, z))];

    private static readonly DataTable Keys = DataTable.Find("keys")!;
    private static readonly BenchChoice[] KeyTables = [new("DIN 6885", "metric, DIN 6885"), new("ANSI B17.1", "inch square, ANSI B17.1"), new("BS 46", "inch rectangular, BS 46: from memory")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new(
            "press-fit",
            BenchTopic.Fits,
            "Press or shrink fit",
            "How hard it grips, what the hub bears, and what pushes it home.",
            [
                new BenchField("diameter", "Which diameter?", Hint: "50 mm, 2 in."), new BenchField("hub", "Which outside diameter has the hub?", Hint: "100 mm."), new BenchField("bore", "Which bore has the shaft?", "0", "0 for a solid one."), new BenchField("length", "How long is the fit?", Hint: "60 mm."), new BenchField("interference", "How much interference, on the diameter?", Hint: "0.040 mm, 2 thou."),
                new BenchField("outer", "Which metal is the hub?", "steel", Choices: MetalChoices), new BenchField("inner", "Which metal is the shaft?", "steel", Choices: MetalChoices), new BenchField("friction", "Which friction?", "0.12", "0.08 to 0.15 for oiled steel: common practice."), new BenchField("yield", "When does the hub yield?", Hint: "250 MPa, 36000 psi. Empty when it is not known; then it is not checked.", Needed: false),
            ],
            Press),
        new("shrink", BenchTopic.Fits, "Heat to shrink a hub on", "How warm the hub must be to slip over.", [new BenchField("diameter", "Which diameter?", Hint: "50 mm."), new BenchField("interference", "How much interference?", Hint: "0.040 mm."), new BenchField("gap", "How much room to slip?", Hint: "0.05 mm; a thousandth of the diameter is usual."), new BenchField("outer", "Which metal is the hub?", "steel", Choices: MetalChoices), new BenchField("room", "How warm is the shop?", "20 °C")], Shrink),
        new("key", BenchTopic.Fits, "Key", "How a key bears its torque.", [new BenchField("torque", "Which torque?", Hint: "400 N m, 300 lb ft."), new BenchField("diameter", "Which shaft?", Hint: "45 mm."), new BenchField("width", "How wide is the key?", Hint: "14 mm."), new BenchField("height", "How high is the key?", Hint: "9 mm."), new BenchField("length", "How long is it?", Hint: "70 mm.")], Key),
        new("fit", BenchTopic.Fits, "Limits of a fit", "What clearance or interference a fit of ISO 286 gives.", [new BenchField("diameter", "Which diameter?", Hint: "From 3 to 250 mm: 40 mm."), new BenchField("hole", "Which hole?", "H7", Choices: Holes), new BenchField("shaft", "Which shaft?", "g6", Choices: Shafts)], Limits),
        new("key-size", BenchTopic.Fits, "Which key for a shaft", "Width, height and depths by the shaft, from three tables.", [new BenchField("diameter", "Which shaft?", Hint: "45 mm, 1 3/4 in."), new BenchField("standard", "Which table?", "DIN 6885", Choices: KeyTables)], KeySize),
    ];

    private static BenchAnswer Press(Asked asked)
    {
        var d = asked.Length("diameter");
        var hub = asked.Length("hub");
        var bore = asked.Offset("bore");
        var length = asked.Length("length");
        var interference = asked.Offset("interference");
        var outer = asked.Pick("outer", Metals, m => m.Key);
        var inner = asked.Pick("inner", Metals, m => m.Key);
        var friction = asked.Value("friction", 0.02, 0.5, "Type a friction from 0.02 to 0.5; oiled steel is about 0.12.");
        var yield = asked.Has("yield") ? asked.Stress("yield") : (double?)null;
        if (asked.Good && interference <= 0)
        {
            asked.No("interference", interference < 0 ? "Less than nought is a clearance, not a press fit." : "Without interference nothing grips.");
        }

        if (asked.Good && hub <= d)
        {
            asked.No("hub", "The hub must be larger than the shaft.");
        }

        if (asked.Good && (bore < 0 || bore >= d))
        {
            asked.No("bore", "The bore must be smaller than the shaft; 0 for a solid one.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        double Sum(double large, double small) => ((large * large) + (small * small)) / ((large * large) - (small * small));

        // Where nothing is known but steel on steel both have the modulus of the system that was typed: 207 GPa or 30 000 000 psi.
        double E(double of) => of == 207e9 && asked.Imperial == true ? 30e6 * Unit.Psi.Factor : of;
        var pressure = interference / (d * (((Sum(hub, d) + outer.Nu) / E(outer.E)) + ((Sum(d, bore) - inner.Nu) / E(inner.E))));
        var hoop = pressure * Sum(hub, d);
        var tresca = hoop + pressure;
        if (yield <= tresca || yield <= pressure)
        {
            asked.No("interference", $"The hub yields: {r.Stress(tresca)} (Tresca) against {r.Stress(yield!.Value)}.");
            return BenchAnswer.Refused([]);
        }

        var force = friction * pressure * Math.PI * d * length;
        return r.OfStress("pressure", "Pressure in the fit", pressure).OfStress("hoop", "Hoop stress in the hub", hoop).OfStress("tresca", "Hub, Tresca", tresca).OfForce("force", "Push", force).Figure("torque", "Torque it holds", force * d / 2, "N m", r.Torque(force * d / 2))
            .Step($"p = δ / (d · [((D² + d²)/(D² − d²) + νo)/Eo + ((d² + di²)/(d² − di²) − νi)/Ei]) = {r.Stress(pressure)}")
            .Step($"σ = p · (D² + d²)/(D² − d²) = {r.Stress(hoop)}; σ + p = {r.Stress(tresca)}")
            .Step($"F = μ · p · π · d · L = {Reckoning.N(friction)} · {r.Stress(pressure)} · π · {r.Short(d)} · {r.Short(length)} = {r.Force(force)}; T = F · d/2")
            .Warn(length / d < 0.3, "Shorter than a third of the diameter: it will not sit square.")
            .Warn(yield is null, "The hub was not checked against its yield.")
            .Draw(RoundSketches.Press(r, d, hub, bore, length))
            .Done("Lamé, elastic; friction common practice, moduli from memory", "Stress of the fit adds to that of service; keep the hoop tension in a cast-iron hub to about a third of what steel would carry.", "Push is within about half of that.");
    }

    private static BenchAnswer Shrink(Asked asked)
    {
        var d = asked.Length("diameter");
        var interference = asked.Length("interference");
        var gap = asked.Length("gap");
        var metal = asked.Pick("outer", Metals, m => m.Key);
        var room = asked.Si("room", Quantity.Temperature);
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var rise = (interference + gap) / (metal.Alpha * d);
        var most = metal.Key == "aluminium" ? 150 : 250;
        return r.Figure("temperature", "Heat the hub to", room + rise, "K", r.Temperature(room + rise)).Figure("rise", "Rise", rise, "K", r.Rise(rise))
            .Step($"ΔT = (δ + c)/(α · d) = ({r.Short(interference)} + {r.Short(gap)})/({Reckoning.N(metal.Alpha * 1e6)} · 10⁻⁶ · {r.Short(d)}) = {r.Rise(rise)}")
            .Warn(room + rise > most + 273.15, $"Above {most} °C {metal.Words} may lose its temper: use less interference, or cool the shaft as well.")
            .Draw(Plain.Scale("Temperatures of the hub: the shop, what it must have, and where it may lose its temper.", (room, $"shop {r.Temperature(room)}", false), (most + 273.15, $"not above {r.Temperature(most + 273.15)}", false), (room + rise, $"hub {r.Temperature(room + rise)}", true)))
            .Done("Expansion from memory; room to slip common practice", "Heating spoils temper, white metal and rubber nearby. Dry gloves, and a stop to drop on to: there is one try.");
    }

    private static BenchAnswer Key(Asked asked)
    {
        var torque = asked.Si("torque", Quantity.Torque);
        var d = asked.Length("diameter");
        var w = asked.Length("width");
        var h = asked.Length("height");
        var l = asked.Length("length");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var shear = 2 * torque / (d * w * l);
        var bearing = 4 * torque / (d * h * l);
        return r.OfStress("shear", "Shear in the key", shear).OfStress("bearing", "Pressure on its side", bearing)
            .Step($"τ = 2 T/(d · w · l) = {r.Stress(shear)}").Step($"σ = 4 T/(d · h · l) = {r.Stress(bearing)}")
            .Warn(w > d / 2, "The key is more than half as wide as the shaft.")
            .Draw(RoundSketches.Key(r, d, w, h, h / 2))
            .Done("Equilibrium of the key", "Shock and reversal want several times the strength; a keyway takes strength from the shaft.");
    }

    private static BenchAnswer Limits(Asked asked)
    {
        var d = asked.Length("diameter") * 1000;
        var hole = asked.Choice("hole", Holes);
        var shaft = asked.Choice("shaft", Shafts);
        (double Over, double UpTo, string Zone, double Lower, double Upper) Find(string zone) => Zones.FirstOrDefault(z => z.Zone == zone && d > z.Over * (1 + 1e-12) && d <= z.UpTo * (1 + 1e-12));
        if (asked.Good && (d < 3 || Find(shaft!).Zone is null))
        {
            asked.No("diameter", "The table holds for diameters over 3 and up to 250 mm (0.12 to 9.84 in).");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var (h, s) = (Find(hole!), Find(shaft!));
        var (least, most) = (h.Lower - s.Upper, h.Upper - s.Lower);
        string Um(double um) => $"{Reckoning.N(um)} µm, {Reckoning.N(um * 1e-6 / Unit.Thou.Factor)} thou";
        r.Figure("least", least < 0 ? "Most interference" : "Least clearance", least * 1e-6, "m", Um(Math.Abs(least))).Figure("most", most < 0 ? "Least interference" : "Most clearance", most * 1e-6, "m", Um(Math.Abs(most)))
            .Figure("holeLower", "Hole, from", (d / 1000) + (h.Lower * 1e-6), "m", r.Length((d / 1000) + (h.Lower * 1e-6))).Figure("holeUpper", "Hole, to", (d / 1000) + (h.Upper * 1e-6), "m", r.Length((d / 1000) + (h.Upper * 1e-6)))
            .Figure("shaftLower", "Shaft, from", (d / 1000) + (s.Lower * 1e-6), "m", r.Length((d / 1000) + (s.Lower * 1e-6))).Figure("shaftUpper", "Shaft, to", (d / 1000) + (s.Upper * 1e-6), "m", r.Length((d / 1000) + (s.Upper * 1e-6)));
        return r.Step($"{hole} over {Reckoning.N(h.Over)} to {Reckoning.N(h.UpTo)} mm: {h.Lower:+0;-0;0} to {h.Upper:+0;-0;0} µm").Step($"{shaft} over {Reckoning.N(s.Over)} to {Reckoning.N(s.UpTo)} mm: {s.Lower:+0;-0;0} to {s.Upper:+0;-0;0} µm")
            .Step("Clearance is above nought, interference below.")
            .Draw(RoundSketches.Zones(hole!, h.Lower, h.Upper, shaft!, s.Lower, s.Upper))
            .Done("ISO 286-1 and 286-2, recalled", "Old machines were fitted by the maker’s own limits: go by the drawing where there is one.");
    }

    private static BenchAnswer KeySize(Asked asked)
    {
        var d = asked.Length("diameter");
        var standard = asked.Choice("standard", KeyTables);
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var rows = Keys.Rows.Where(r => r[0] == standard).ToList();
        var unit = (rows[0][7] == "in" ? Unit.Inch : Unit.Millimetre).Factor;
        double Of(IReadOnlyList<string> row, int column) => DataTable.Number(row[column]) * unit;
        var row = rows.Find(r => d > Of(r, 1) * (1 + 1e-12) && d <= Of(r, 2) * (1 + 1e-12));
        if (row is null)
        {
            var show = new Reckoning(unit > 0.01);
            asked.No("diameter", $"This table goes from over {show.Short(Of(rows[0], 1))} to {show.Short(Of(rows[^1], 2))}.");
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var (w, h) = (Of(row, 3), Of(row, 4));

        // The inch tables leave the depths to the rule of half the height at the side of the key.
        var given = row[5].Length > 0;
        var inShaft = given ? Of(row, 5) : (h / 2) + ((d - Math.Sqrt((d * d) - (w * w))) / 2);
        var inHub = given ? Of(row, 6) : h - inShaft;
        return r.Figure("width", "Key", w, "m", $"{r.Short(w)} wide, {r.Short(h)} high").OfLength("height", "Height", h).OfLength("inShaft", "Depth in the shaft, from its top", inShaft).OfLength("inHub", "Depth in the hub, above the shaft", inHub)
            .Step($"{standard}, over {row[1]} up to {row[2]} {row[7]}: {row[3]} × {row[4]}")
            .Step(given ? "Depths by the table; the hub’s has room above the key." : "Depth: half of the key’s height at its side, so t = h/2 + (d − √(d² − w²))/2 from the top of the shaft; room above the key comes on top in the hub.")
            .Draw(RoundSketches.Key(r, d, w, h, inShaft, inHub))
            .Done(standard == "BS 46" ? "BS 46, from memory: verify before cutting" : Keys.Source, "An old machine’s own keyway comes first: measure it, and fit the key to it.", "Break the corners; a keyway with sharp corners starts cracks.");
    }
}
