using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Compression, timing, weights and clearances of engines: geometry of the slider crank, ISO 21940-11 for balance, the rest common practice.</summary>
public static class Engines
{
    private const string Turn = "Turn the engine by hand two full turns after any milling or change of timing.";

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("compression", BenchTopic.Engine, "Compression ratio", "The ratio, and how much to mill for another.", [new BenchField("bore", "Which bore?", Hint: "3.500 in."), new BenchField("stroke", "Which stroke?", Hint: "4.000 in."), new BenchField("chamber", "Which volume above the piston at the top?", Hint: "By burette, with gasket and crown: 105 ml."), new BenchField("wanted", "Which ratio is wanted?", Hint: "Empty to see the present one.", Needed: false)], Compression),
        new("piston", BenchTopic.Engine, "Piston and crank", "Where the piston stands at an angle, or the angle at a position.", [new BenchField("stroke", "Which stroke?", Hint: "4 in."), new BenchField("rod", "How long is the rod?", Hint: "8 in, centre to centre."), new BenchField("angle", "Which angle after top dead centre?", Hint: "90. Empty when the position is known.", Needed: false), new BenchField("position", "How far below the top?", Hint: "3.000 in. Empty when the angle is known.", Needed: false)], Piston),
        new("ports", BenchTopic.Engine, "Port timing", "When ports in the wall open and close.", [new BenchField("stroke", "Which stroke?", Hint: "114.3 mm."), new BenchField("rod", "How long is the rod?", Hint: "226.0 mm."), new BenchField("exhaust", "How high is the exhaust port above the crown at the bottom?", Hint: "27.0 mm."), new BenchField("inlet", "And the inlet port?", Hint: "19.0 mm.")], Ports),
        new("match", BenchTopic.Engine, "Match by weight", "What to take off each of a set.", [new BenchField("masses", "What do they weigh?", Hint: "812; 806; 815; 809 g.")], Match),
        new("unbalance", BenchTopic.Engine, "Unbalance", "The force of an unbalanced mass, and what may be left.", [new BenchField("mass", "Which mass is off?", Hint: "10 g."), new BenchField("radius", "At which radius?", Hint: "60 mm."), new BenchField("speed", "How many turns a minute?", Hint: "3000"), new BenchField("rotor", "How heavy is the rotor?", Hint: "25 kg."), new BenchField("grade", "Which grade of balance, mm/s?", "6.3")], Unbalance),
        new("pump", BenchTopic.Engine, "Gasket for an oil pump", "Which gasket gives the end clearance.", [new BenchField("gear", "How high is the gear?", Hint: "1.2515 in."), new BenchField("body", "How deep is the body?", Hint: "1.2500 in."), new BenchField("gaskets", "Which gaskets are there?", Hint: "0.003; 0.004; 0.006 in, as compressed."), new BenchField("least", "Least clearance?", "0.002 in"), new BenchField("most", "Most clearance?", "0.004 in")], Pump),
        new("shim", BenchTopic.Engine, "Valve shim", "Which shim gives the clearance.", [new BenchField("old", "Which shim is in?", Hint: "2.65 mm."), new BenchField("measured", "Which clearance was measured?", Hint: "0.38 mm."), new BenchField("wanted", "Which is specified?", Hint: "0.30 mm; the maker’s only.")], Shim),
        new("bob-weight", BenchTopic.Engine, "Bob-weight for balancing", "What is hung on a crank pin: what turns, and a share of what goes up and down.", [new BenchField("rod", "What does a whole rod weigh?", Hint: "620 g, with its bolts."), new BenchField("big", "And its big end, on the scales?", Hint: "420 g: rod level, small end on a pivot."), new BenchField("shells", "Big-end shells of one rod?", "0 g"), new BenchField("piston", "Piston with pin, rings and clips?", Hint: "480 g."), new BenchField("rods", "How many rods on the pin?", "1"), new BenchField("share", "Which share of what goes up and down?", "0.5", "From the maker; 0.5 to 0.6 for one cylinder, 0.5 for a V8 of 90 degrees: common practice.")], BobWeight),
        new("adjuster", BenchTopic.Engine, "Turns of a valve adjuster", "How far to turn the screw for the clearance.", [new BenchField("measured", "Which clearance was measured?", Hint: "0.38 mm."), new BenchField("wanted", "Which is specified?", Hint: "0.30 mm; the maker’s only."), new BenchField("pitch", "Which pitch has the screw?", Hint: "1 mm; 1/32 in for 32 threads."), new BenchField("ratio", "Rocker ratio?", "1", "1 when it is measured where it is adjusted; the ratio when measured at the valve and adjusted at the pushrod.")], Adjuster),
    ];

    private static BenchAnswer Compression(Asked asked)
    {
        var bore = asked.Length("bore");
        var stroke = asked.Length("stroke");
        var chamber = asked.Si("chamber", Quantity.Volume);
        var wanted = !asked.Has("wanted") ? 0 : asked.Value("wanted", 1.01, 40, "Type a ratio from 1.01 to 40.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var face = Math.PI / 4 * bore * bore;
        var swept = face * stroke;
        var ratio = (swept + chamber) / chamber;
        r.OfNumber("ratio", "Ratio", ratio, " to 1").Figure("swept", "Swept volume", swept, "m³", r.Volume(swept))
            .Step($"Vs = π/4 · B² · S = {r.Volume(swept)}").Step($"CR = (Vs + Vc)/Vc = {Reckoning.N(ratio)}");
        if (wanted > 0)
        {
            var target = swept / (wanted - 1);
            var mill = (chamber - target) / face;
            if (mill < 0)
            {
                asked.No("wanted", "That is less than it has now: milling cannot lower it; a thicker gasket can.");
                return BenchAnswer.Refused([]);
            }

            r.OfLength("mill", "Mill off", mill).Figure("target", "Volume then", target, "m³", r.Volume(target))
                .Step($"Vc = Vs/(CR − 1) = {r.Volume(target)}").Step($"m = (Vc now − Vc then)/A = {r.Short(mill)}, A = area of the bore")
                .Warn(mill > 2.5e-3, "More than 2.5 mm (0.1 in): valves may meet the piston, and the head may become too thin.").Warn(true, "Where the wall of the chamber slopes, the volume changes faster: measure it by burette as you go.");
        }

        return r.Draw(EngineSketches.Cylinder(r, bore, stroke, chamber)).Done("Geometry", Turn, "Check chambers with a burette, not by geometry.", "No run-up without guards, brakes and fire cover.");
    }

    private static (double Radius, double Rod) Crank(Asked asked)
    {
        var stroke = asked.Length("stroke");
        var rod = asked.Length("rod");
        if (asked.Good && rod <= stroke / 2)
        {
            asked.No("rod", "The rod is shorter than the throw.");
        }

        return (stroke / 2, rod);
    }

    private static double At(double radius, double rod, double angle) => (radius * (1 - Math.Cos(angle))) + rod - Math.Sqrt((rod * rod) - Math.Pow(radius * Math.Sin(angle), 2));

    private static double AngleAt(double radius, double rod, double position)
    {
        var d = radius + rod - position;
        return Math.Acos(Math.Clamp(((d * d) + (radius * radius) - (rod * rod)) / (2 * d * radius), -1, 1));
    }

    private static BenchAnswer Piston(Asked asked)
    {
        var (radius, rod) = Crank(asked);
        var byAngle = asked.Has("angle");
        if (byAngle == asked.Has("position"))
        {
            asked.No("angle", "Type either the angle or the position.");
        }

        var angle = byAngle ? asked.Value("angle", 0, 360, "Type an angle from 0 to 360 degrees.") * Math.PI / 180 : 0;
        var position = byAngle ? 0 : asked.Offset("position");
        if (asked.Good && !byAngle && (position < 0 || position > 2 * radius * (1 + 1e-9)))
        {
            asked.No("position", "The piston goes from 0 to the stroke.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        if (byAngle)
        {
            var x = At(radius, rod, angle);
            return r.OfLength("position", "Below the top", x).Step($"x = r(1 − cos θ) + l − √(l² − r² sin² θ) = {r.Short(x)}, r = {r.Short(radius)}, l = {r.Short(rod)}").Draw(EngineSketches.Crank(r, radius, rod, angle, x)).Done("Slider crank, no pin offset", Turn);
        }

        var theta = AngleAt(radius, rod, Math.Min(position, 2 * radius));
        return r.OfAngle("angle", "After top dead centre", theta).OfAngle("beforeBottom", "Before bottom dead centre", Math.PI - theta).Step($"d = r + l − x; θ = acos((d² + r² − l²)/(2 d r)) = {Reckoning.Degrees(theta)}").Step("As far before the top on the way up.").Draw(EngineSketches.Crank(r, radius, rod, theta, position)).Done("Slider crank, no pin offset", Turn);
    }

    private static BenchAnswer Ports(Asked asked)
    {
        var (radius, rod) = Crank(asked);
        var exhaust = asked.Length("exhaust");
        var inlet = asked.Length("inlet");
        if (asked.Good && (exhaust >= 2 * radius || inlet >= 2 * radius))
        {
            asked.No(exhaust >= 2 * radius ? "exhaust" : "inlet", "The port is higher than the stroke.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var e = AngleAt(radius, rod, (2 * radius) - exhaust);
        var i = AngleAt(radius, rod, (2 * radius) - inlet);
        return r.OfAngle("exhaustOpens", "Exhaust opens, after top", e).OfAngle("exhaust", "Exhaust open for", (2 * Math.PI) - (2 * e)).OfAngle("inletOpens", "Inlet opens, after top", i).OfAngle("inlet", "Inlet open for", (2 * Math.PI) - (2 * i)).OfAngle("blowdown", "Blowdown", i - e)
            .Step("x = S − h; the port opens at θ(x) after the top and closes as far before it.").Step("Chamfers are not counted.")
            .Warn(i <= e, "The inlet opens before the exhaust: exhaust gas goes back into it.")
            .Draw(EngineSketches.Timing(e, i))
            .Done("Slider crank, no pin offset", Turn);
    }

    private static BenchAnswer Match(Asked asked)
    {
        var masses = asked.List("masses", Quantity.Mass, 2, 48, "Type two or more weights with a semicolon between them, such as 812; 806; 815 g.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var least = masses.Min();
        r.OfMass("spread", "Spread", masses.Max() - least);
        for (var i = 0; i < masses.Count; i++)
        {
            r.OfMass($"remove{i + 1}", $"Off number {i + 1}", masses[i] - least);
        }

        return r.Step($"Each down to the lightest, {r.Mass(least)}.").Warn(masses.Max() - least > 0.002 * (1 + 1e-9), "Sets of small engines are usually within 2 g.").Draw(Plain.Bars("What each weighs above the lightest.", [.. masses.Select((m, i) => (m - least, $"{i + 1}: {r.Mass(m)}", false))])).Done("Common practice", "Take metal only where the maker does, from balance pads; never from the big-end cap bolts or the crown.");
    }

    private static BenchAnswer Unbalance(Asked asked)
    {
        var mass = asked.Si("mass", Quantity.Mass);
        var radius = asked.Length("radius");
        var speed = asked.Value("speed", 1, 100_000, "Type the turns a minute, from 1 to 100 000.");
        var rotor = asked.Si("rotor", Quantity.Mass);
        var grade = asked.Value("grade", 0.1, 4000, "Type a grade of balance from 0.1 to 4000, such as 6.3.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var omega = 2 * Math.PI * speed / 60;
        var force = mass * radius * omega * omega;
        var allowed = grade / 1000 * rotor / omega;
        return r.OfForce("force", "Force", force).Figure("unbalance", "Unbalance", mass * radius, "kg m", $"{Reckoning.N(mass * radius * 1e6)} g mm").Figure("allowed", "May be left", allowed, "kg m", $"{Reckoning.N(allowed * 1e6)} g mm")
            .Step($"F = m · r · ω², ω = 2π · {Reckoning.N(speed)}/60 = {Reckoning.N(omega)} rad/s: {r.Force(force)}").Step($"U = G · m/ω = {Reckoning.N(grade)} mm/s · {Reckoning.N(rotor)} kg/ω = {Reckoning.N(allowed * 1e6)} g mm")
            .Warn(mass * radius > allowed * (1 + 1e-9), "More unbalance than the grade allows.")
            .Draw(RoundSketches.Rotor(r, radius, $"{Reckoning.N(mass * 1000)} g", r.Force(force)))
            .Done("ISO 21940-11", "Guards on before anything turns.");
    }

    private static BenchAnswer Pump(Asked asked)
    {
        var gear = asked.Length("gear");
        var body = asked.Length("body");
        var gaskets = asked.List("gaskets", Quantity.Length, 1, 12, "Type the gaskets with a semicolon between them, such as 0.003; 0.004 in.");
        var least = asked.Length("least");
        var most = asked.Length("most");
        if (asked.Good && most <= least)
        {
            asked.No("most", "The most must be more than the least.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var stands = gear - body;
        var middle = (least + most) / 2;
        (double Thickness, string Words)? Best(IEnumerable<(double Thickness, string Words)> of) => of.Where(g => g.Thickness - stands >= least * (1 - 1e-9) && g.Thickness - stands <= most * (1 + 1e-9))
            .OrderBy(g => Math.Round(Math.Abs(g.Thickness - stands - middle), 9)).ThenBy(g => g.Thickness).Select(g => ((double, string)?)g).FirstOrDefault();
        var r = new Reckoning(asked.Imperial ?? false);
        var chosen = Best(gaskets.Select(g => (g, r.Short(g)))) ?? Best(gaskets.SelectMany((a, i) => gaskets.Skip(i).Select(b => (a + b, $"{r.Short(a)} and {r.Short(b)}"))));
        if (chosen is not { } gasket)
        {
            asked.No("gaskets", $"None, and no two of them, give a clearance from {r.Short(least)} to {r.Short(most)}: the gear stands {r.Short(stands)} above the body.");
            return BenchAnswer.Refused([]);
        }

        return r.Figure("gasket", "Gasket", gasket.Thickness, "m", gasket.Words).OfLength("clearance", "End clearance", gasket.Thickness - stands).OfLength("stands", "The gear stands", stands)
            .Step($"p = gear − body = {r.Short(stands)}").Step($"c = gasket − p = {r.Short(gasket.Thickness)} − {r.Short(stands)} = {r.Short(gasket.Thickness - stands)}; the nearest to the middle, {r.Short(middle)}, is chosen, one gasket before two")
            .Draw(EngineSketches.Pump(r, gear, body, gasket.Thickness))
            .Done("Common practice; window 0.002 to 0.004 in (0.05 to 0.10 mm)", "Gaskets as compressed: measure one that was used.");
    }

    private static BenchAnswer Shim(Asked asked)
    {
        var old = asked.Length("old");
        var measured = asked.Offset("measured");
        var wanted = asked.Length("wanted");
        if (asked.Good && measured < 0)
        {
            asked.No("measured", "A clearance is 0 or more.");
        }

        if (asked.Good && old + measured - wanted <= 0)
        {
            asked.No("wanted", "No shim is thin enough.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        return r.OfLength("shim", "New shim", old + measured - wanted).Step($"new = old + measured − specified = {r.Short(old)} + {r.Short(measured)} − {r.Short(wanted)}").Draw(Plain.Bars("The old shim and the new one.", [(old, $"old {r.Short(old)}", false), (old + measured - wanted, $"new {r.Short(old + measured - wanted)}", false)])).Done("Geometry of a shim under the follower", Turn, "Only the maker’s clearance.");
    }

    private static BenchAnswer BobWeight(Asked asked)
    {
        var rod = asked.Si("rod", Quantity.Mass);
        var big = asked.Si("big", Quantity.Mass);
        var shells = asked.Text("shells") is "0" || asked.Text("shells").StartsWith("0 ", StringComparison.Ordinal) ? 0 : asked.Si("shells", Quantity.Mass);
        var piston = asked.Si("piston", Quantity.Mass);
        var rods = asked.Whole("rods", 1, 4, "Type how many rods share the pin, a whole number from 1 to 4.");
        var share = asked.Value("share", 0, 1, "Type a share from 0 to 1.");
        if (asked.Good && big >= rod)
        {
            asked.No("big", "The big end cannot weigh as much as the whole rod. Are the two swapped?");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var small = rod - big;
        var (turning, moving) = (rods * (big + shells), rods * (small + piston));
        return r.OfMass("bob", "Bob-weight", turning + (share * moving)).OfMass("small", "Small end", small).OfMass("turning", "What turns", turning).OfMass("moving", "What goes up and down", moving)
            .Step($"small end = rod − big end = {r.Mass(rod)} − {r.Mass(big)} = {r.Mass(small)}").Step($"turning + k · up and down = {r.Mass(turning)} + {Reckoning.N(share)} · {r.Mass(moving)} = {r.Mass(turning + (share * moving))}")
            .Draw(Plain.Bars("What hangs on the pin.", [(turning, $"turns {r.Mass(turning)}", false), (moving, $"up and down {r.Mass(moving)}", false), (turning + (share * moving), $"bob-weight {r.Mass(turning + (share * moving))}", false)]))
            .Done("Weighing of rod ends; the share is the maker’s, else common practice", "Oil in the crank counts too. Match rods and pistons by weight first.", Turn);
    }

    private static BenchAnswer Adjuster(Asked asked)
    {
        var measured = asked.Offset("measured");
        var wanted = asked.Length("wanted");
        var pitch = asked.Length("pitch");
        var ratio = asked.Value("ratio", 0.5, 3, "Type a ratio from 0.5 to 3.");
        if (asked.Good && measured < 0)
        {
            asked.No("measured", "A clearance is 0 or more.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var turns = (measured - wanted) / (ratio * pitch);
        return r.OfNumber("turns", turns >= 0 ? "Turns in" : "Turns out (below nought)", turns).OfAngle("angle", "That is", turns * 2 * Math.PI)
            .Step($"turns = (measured − specified)/(ratio · pitch) = ({r.Short(measured)} − {r.Short(wanted)})/({Reckoning.N(ratio)} · {r.Short(pitch)}) = {Reckoning.N(turns)}")
            .Draw(Plain.Scale("The clearance as measured and as specified.", (0, "closed", false), (measured, $"measured {r.Short(measured)}", false), (wanted, $"specified {r.Short(wanted)}", true)))
            .Done("Geometry of screw and rocker", Turn, "Measure again after the locknut is tight: it pulls the screw.");
    }
}
