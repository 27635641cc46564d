using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Survey;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>Dihedral, washout, symmetry, straightness, run-out, sag and cables. Geometry; cable strengths AC 43.13-1B and MIL-W-83420, recalled.</summary>
public static class Rigging
{
    private static readonly IReadOnlyList<(string Key, string Words, double Pounds, double Stainless)> Cables = DataTable.Of("cables", r => (r[0], $"{r[0]} in, {r[1]}", DataTable.Number(r[2]), DataTable.Number(r[3])));
    private static readonly BenchChoice[] CableChoices = [.. Cables.Select(c => new BenchChoice(c.Key, c.Words))];
    private static readonly BenchChoice[] CableSteels = [new("carbon", "carbon steel, galvanised"), new("stainless", "stainless")];
    private static readonly string[] Care = ["Level the machine first and write down jacks and packing; measure left and right within the hour.", "Rig to the maker’s sheet."];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("dihedral", BenchTopic.Rigging, "Dihedral and sweep", "By how much a station stands higher than the root.", [new BenchField("length", "How far out is it?", Hint: "Level, from the root: 14 ft 6 in."), new BenchField("angle", "Which angle?", Hint: "3.5")], Dihedral),
        new("washout", BenchTopic.Rigging, "Washout", "The twist between root and tip, from packed boards.", [new BenchField("board", "How long is the board?", Hint: "24 in, level."), new BenchField("root", "Which packing at the root?", Hint: "1.05 in; 0 for none."), new BenchField("tip", "Which packing at the tip?", Hint: "0.60 in.")], Washout),
        new("symmetry", BenchTopic.Rigging, "Symmetry by diagonals", "How far the tail stands to one side.", [new BenchField("half", "How far is each point from the centre line?", Hint: "180 in."), new BenchField("left", "Which is the left diagonal?", Hint: "262.50 in."), new BenchField("right", "Which is the right diagonal?", Hint: "262.10 in.")], Symmetry),
        new("straight", BenchTopic.Rigging, "Straightness of a frame", "The band that holds all readings along it.", [new BenchField("readings", "Which readings, one after the other?", Hint: "0; 22; 41; 60 thou, at equal steps."), new BenchField("step", "How far apart?", Hint: "8 ft."), new BenchField("tolerance", "How much is allowed?", Hint: "1/8 in.")], Straight),
        new("run-out", BenchTopic.Rigging, "Run-out", "How far a wheel or shaft is out of centre.", [new BenchField("tir", "What does the clock swing in one turn?", Hint: "0.018 in.")], RunOut),
        new("sag", BenchTopic.Rigging, "Sag of a wire", "What to take off readings against a stretched wire.", [new BenchField("mass", "What does the wire weigh, its whole length?", Hint: "0.256 lb."), new BenchField("length", "How long is it?", Hint: "64 ft."), new BenchField("pull", "How hard is it pulled?", Hint: "20 lbf.")], Sag),
        new("cable", BenchTopic.Rigging, "Control cable", "How strong it is, its proof load, and what warmth does to its tension.", [new BenchField("cable", "Which cable?", "1/8", Choices: CableChoices), new BenchField("steel", "Which steel?", "carbon", Choices: CableSteels), new BenchField("frame", "Which frame?", "aluminium", Choices: Frames.Choices), new BenchField("rise", "How much warmer does it get?", "30 °C"), new BenchField("stiffness", "Which stiffness, E times A?", Hint: "95 000 lbf."), new BenchField("tension", "Which tension is it rigged to?", Hint: "Empty when it is not to be checked.", Needed: false)], Cable),
        new("wedge", BenchTopic.Rigging, "Wedge for a level board", "The packing for an angle, and the wedge to cut.", [new BenchField("board", "How long is the board?", Hint: "24 in, level."), new BenchField("angle", "Which angle is wanted?", Hint: "2.5, in degrees: incidence or dihedral.")], Wedge),
    ];

    private static BenchAnswer Dihedral(Asked asked)
    {
        var length = asked.Length("length");
        var angle = asked.Value("angle", -44.999, 44.999, "Type an angle below 45 degrees.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var rise = length * Math.Tan(angle * Math.PI / 180);
        return r.OfLength("rise", "Rise", rise).Step($"L · tan γ = {r.Short(length)} · tan {Reckoning.N(angle)}° = {r.Short(rise)}").Draw(PlaceSketches.Dihedral(r, length, rise, angle)).Done("Geometry; L is level from the root", Care);
    }

    private static BenchAnswer Washout(Asked asked)
    {
        var board = asked.Length("board");
        var root = asked.Offset("root");
        var tip = asked.Offset("tip");
        if (asked.Good && (Math.Abs(root) >= board || Math.Abs(tip) >= board))
        {
            asked.No("board", "The packing is as high as the board is long: 45 degrees and more is no rigging.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var (a, b) = (Math.Atan(root / board), Math.Atan(tip / board));
        return r.OfAngle("washout", a >= b ? "Washout" : "Washin", a - b).OfAngle("root", "Root", a).OfAngle("tip", "Tip", b)
            .Step($"root = atan({r.Short(root)}/{r.Short(board)}) = {Reckoning.Degrees(a)}; tip = atan({r.Short(tip)}/{r.Short(board)}) = {Reckoning.Degrees(b)}")
            .Step("Above nought the tip stands lower.").Draw(PlaceSketches.Boards(r, board, root, tip)).Done("Geometry; the board is level", Care);
    }

    private static BenchAnswer Symmetry(Asked asked)
    {
        var half = asked.Length("half");
        var left = asked.Length("left");
        var right = asked.Length("right");
        if (asked.Good && (Math.Abs(left - right) >= 2 * half || left + right <= 2 * half))
        {
            asked.No("right", "No triangle has these sides: measure again.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var e = ((left * left) - (right * right)) / (4 * half);
        return r.OfLength("offset", e >= 0 ? "To the right by" : "To the left by (below nought)", e).Step($"e = (dL² − dR²)/(4 s) = {r.Short(e)}").Draw(PlaceSketches.Diagonals(r, half, left, right, e)).Done("Exact for a triangle", Care);
    }

    private static BenchAnswer Straight(Asked asked)
    {
        var y = asked.List("readings", Quantity.Length, 3, 200, "Type at least three readings with a semicolon between them, such as 0; 22; 41 thou.", signed: true);
        var step = asked.Length("step");
        var tolerance = asked.Length("tolerance");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var (slope, off, band) = Alignment.Line([.. Enumerable.Range(0, y.Count).Select(i => i * step)], y);
        var r = new Reckoning(asked.Imperial ?? false);
        return r.OfLength("band", "Narrowest band", band).OfLength("spread", "About the mean line", off.Max() - off.Min()).OfLength("highest", "Highest above it", off.Max()).OfLength("lowest", "Lowest below it", off.Min())
            .Step($"Least squares: slope {Reckoning.N(slope)}; from {r.Short(off.Min())} to {r.Short(off.Max())}").Step($"The narrowest band is {r.Short(band)} against {r.Short(tolerance)}: {(band <= tolerance * (1 + 1e-9) ? "it passes" : "it does not pass")}.")
            .Warn(band > tolerance * (1 + 1e-9), "The frame is outside its tolerance.")
            .Draw(PlaceSketches.Straight(r, off, step, band))
            .Done("Least squares, and the minimum zone", [.. Care, "Take the sag of a wire off first."]);
    }

    private static BenchAnswer RunOut(Asked asked)
    {
        var tir = asked.Length("tir");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        return r.OfLength("eccentricity", "Out of centre by", tir / 2).Step($"e = TIR/2 = {r.Short(tir)}/2").Draw(RoundSketches.RunOut(r, tir)).Done("Geometry", "Run-out along the axis is a reading of its own.", "Hands off while it turns.");
    }

    private static BenchAnswer Sag(Asked asked)
    {
        var mass = asked.Si("mass", Quantity.Mass);
        var length = asked.Length("length");
        var pull = asked.Load("pull");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var sag = mass * Asked.Gravity * length / (8 * pull);
        if (sag > length / 8)
        {
            asked.No("pull", "So slack a wire sags by more than an eighth of its length; the form does not hold.");
            return BenchAnswer.Refused([]);
        }

        return r.OfLength("sag", "Sag in the middle", sag).Step($"y = W · L/(8 T) = {r.Force(mass * Asked.Gravity)} · {r.Short(length)}/(8 · {r.Force(pull)}) = {r.Short(sag)}").Draw(PlaceSketches.Sag(r, length, sag)).Done("Flat catenary", "A wire under tension whips when it breaks: guard it.");
    }

    private static BenchAnswer Cable(Asked asked)
    {
        var cable = asked.Pick("cable", Cables, c => c.Key);
        var steel = asked.Choice("steel", CableSteels);
        var frame = asked.Pick("frame", Frames.All, f => f.Key);
        var rise = asked.Si("rise", Quantity.TemperatureDifference);
        var stiffness = asked.Load("stiffness");
        var tension = !asked.Has("tension") ? 0 : asked.Load("tension");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(true);
        var strength = (steel == "stainless" ? cable.Stainless : cable.Pounds) * Unit.PoundForce.Factor;
        var change = (frame.Alpha - 12e-6) * rise * stiffness;
        return r.OfForce("change", "Tension changes by", change).OfForce("strength", "Breaking strength", strength).OfForce("proof", "Proof of a swaged end", 0.6 * strength)
            .Step($"ΔF = (α frame − α cable) · ΔT · E A = ({Reckoning.N(frame.Alpha * 1e6)} − 12) · 10⁻⁶ · {Reckoning.N(rise)} K · {r.Force(stiffness)} = {r.Force(change)}")
            .Step("proof = 0.6 · strength")
            .Warn(tension > 0.2 * strength * (1 + 1e-9), "More than a fifth of its strength: rigging is a few in 100.")
            .Draw(Plain.Bars("Strength of the cable, proof of its ends, and the change of its tension.", [(strength, $"breaks at {r.Force(strength)}", false), (0.6 * strength, $"proof {r.Force(0.6 * strength)}", false), (0.2 * strength, "a fifth: the most for rigging", false), (tension, tension > 0 ? $"rigged to {r.Force(tension)}" : string.Empty, tension > 0.2 * strength), (Math.Abs(change), $"warmth changes it by {r.Force(Math.Abs(change))}", false)]))
            .Done("AC 43.13-1B and MIL-W-83420, recalled: check before quoting", [.. Care, "Not more than three threads show at either end of a turnbuckle; lock it after tensioning."]);
    }

    private static BenchAnswer Wedge(Asked asked)
    {
        var board = asked.Length("board");
        var angle = asked.Value("angle", 0.01, 44.999, "Type an angle above 0 and below 45 degrees.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var packing = board * Math.Tan(angle * Math.PI / 180);
        var wedge = PlaceSketches.Wedge(r, board, packing);
        return r.OfLength("packing", "Packing", packing).OfLength("foot", "Along the slope", board / Math.Cos(angle * Math.PI / 180))
            .Step($"h = b · tan γ = {r.Short(board)} · tan {Reckoning.N(angle)}° = {r.Short(packing)}, b level")
            .Draw(wedge).Template(wedge).Done("Geometry; the board is level", [.. Care, "Check the level on itself first: turn it end for end."]);
    }
}
