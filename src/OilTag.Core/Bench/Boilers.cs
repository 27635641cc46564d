using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Bookkeeping for plate and stays of riveted boilers: t = P·R·FS/(TS·E), stays on their net section, stayed flat plate, life of a thickness. Sources: 49 CFR Part 230 and early ASME code, recalled.</summary>
public static class Boilers
{
    private const string Inspector = "A licensed boiler inspector or competent person decides; this is bookkeeping, not permission to steam. Never re-rate upward from this page.";

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("shell", BenchTopic.Boilers, "Boiler shell", "Which plate a course needs, and what it may carry.", [new BenchField("pressure", "Which pressure?", Hint: "150 psi, 10 bar."), new BenchField("radius", "Which inside radius?", Hint: "24 in."), new BenchField("strength", "Which tensile strength has the plate?", "50000 psi", "Unknown: steel 50 000 psi, wrought iron 45 000."), new BenchField("joint", "How good is the weakest joint?", Hint: "From 0 to 1: 0.75."), new BenchField("factor", "Which factor of safety?", "4"), new BenchField("thickness", "How thick is the plate now?", Hint: "Empty when only the need is asked for.", Needed: false)], Shell),
        new("stay", BenchTopic.Boilers, "Firebox stay", "Whether a stay bears its load on what is left of it.", [new BenchField("pressure", "Which pressure?", Hint: "150 psi."), new BenchField("across", "Which pitch across?", Hint: "4 in."), new BenchField("up", "Which pitch up?", Hint: "4 in."), new BenchField("diameter", "Which least diameter?", Hint: "Wasted, or at the root of the thread: 0.800 in."), new BenchField("hole", "Which tell-tale hole?", "3/16 in", "0 for none."), new BenchField("allowed", "Which stress is allowed?", "7500 psi")], Stay),
        new("brace", BenchTopic.Boilers, "Diagonal brace", "The stress in a brace that pulls at an angle.", [new BenchField("pressure", "Which pressure?", Hint: "150 psi."), new BenchField("area", "Which area does it hold?", Hint: "40 in2."), new BenchField("angle", "Which angle to the pull?", Hint: "12"), new BenchField("diameter", "Which diameter?", Hint: "1.000 in."), new BenchField("allowed", "Which stress is allowed?", "9000 psi")], Brace),
        new("flat-plate", BenchTopic.Boilers, "Stayed flat plate", "What a flat plate carries between its stays.", [new BenchField("thickness", "How thick is the plate?", Hint: "3/8 in."), new BenchField("pitch", "Which is the largest pitch?", Hint: "4 in.")], Flat),
        new("ligament", BenchTopic.Boilers, "Plate between holes", "Which share of the plate is left in a row of holes.", [new BenchField("pitch", "Which pitch?", Hint: "3 1/4 in."), new BenchField("hole", "Which hole?", Hint: "15/16 in.")], Ligament),
        new("plate-life", BenchTopic.Boilers, "Life of a thickness", "When a plate reaches its limit at this rate.", [new BenchField("before", "How thick was it?", Hint: "0.412 in."), new BenchField("now", "How thick is it now?", Hint: "0.398 in."), new BenchField("years", "How many years lie between?", Hint: "4"), new BenchField("limit", "Which thickness is needed?", Hint: "0.360 in.")], Life),
    ];

    private static BenchAnswer Shell(Asked asked)
    {
        var pressure = asked.Stress("pressure");
        var radius = asked.Length("radius");
        var strength = asked.Stress("strength");
        var joint = asked.Value("joint", 0.01, 1, "Type the efficiency of the joint, above 0 and up to 1.");
        var factor = asked.Value("factor", 4, 20, "Type a factor of safety of 4 or more.");
        var thickness = asked.Optional("thickness", Quantity.Length)?.Si;
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var needed = pressure * radius * factor / (strength * joint);
        if (radius / (thickness ?? needed) < 10 * (1 - 1e-9))
        {
            asked.No("radius", "The radius is less than ten thicknesses: the form for thin walls does not hold.");
            return BenchAnswer.Refused([]);
        }

        r.OfLength("needed", "Thickness needed", needed).Step($"t = P · R · FS/(TS · E) = {r.Stress(pressure)} · {r.Short(radius)} · {Reckoning.N(factor)}/({r.Stress(strength)} · {Reckoning.N(joint)}) = {r.Short(needed)}");
        if (thickness is { } t)
        {
            var may = strength * t * joint / (radius * factor);
            r.OfStress("may", "What this plate may carry", may).Step($"P = TS · t · E/(R · FS) = {r.Stress(may)}").Warn(t < needed * (1 - 1e-9), $"The plate is thinner than the {r.Length(needed)} that this pressure needs.");
        }

        return r.Warn(strength > 70_000 * Unit.Psi.Factor, "More than 70 000 psi needs a certificate of this plate.")
            .Draw(RoundSketches.Shell(r, radius, thickness ?? needed))
            .Done("Locomotive form of the ASME boiler code; 49 CFR 230.24 to 230.26, recalled", Inspector, "A survey of thickness finds general loss, not grooving or cracks.");
    }

    private static BenchAnswer Stay(Asked asked)
    {
        var pressure = asked.Stress("pressure");
        var across = asked.Length("across");
        var up = asked.Length("up");
        var d = asked.Length("diameter");
        var hole = asked.Offset("hole");
        var allowed = asked.Stress("allowed");
        if (asked.Good && (hole < 0 || d <= hole))
        {
            asked.No("hole", "The tell-tale hole must be smaller than the stay; 0 for none.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var force = pressure * across * up;
        var stress = force / (Math.PI / 4 * ((d * d) - (hole * hole)));
        var least = Math.Sqrt((force / (Math.PI / 4 * allowed)) + (hole * hole));
        return r.OfStress("stress", "Stress", stress).OfForce("load", "Load", force).OfLength("least", "Least diameter that passes", least)
            .Step($"F = P · p · p = {r.Stress(pressure)} · {r.Short(across)} · {r.Short(up)} = {r.Force(force)}").Step($"σ = F/(π/4 · (d² − dt²)) = {r.Stress(stress)} against {r.Stress(allowed)}")
            .Warn(stress > allowed * (1 + 1e-9), "The stay does not bear its load.")
            .Draw(PlaceSketches.Stays(r, across, up, d, hole))
            .Done("49 CFR 230.25, recalled; the area is not lessened by the stay", Inspector);
    }

    private static BenchAnswer Brace(Asked asked)
    {
        var pressure = asked.Stress("pressure");
        var area = asked.Area("area");
        var angle = asked.Value("angle", 0, 59.999, "Type an angle below 60 degrees.");
        var d = asked.Length("diameter");
        var allowed = asked.Stress("allowed");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var force = pressure * area / Math.Cos(angle * Math.PI / 180);
        var stress = force / (Math.PI / 4 * d * d);
        return r.OfStress("stress", "Stress", stress).OfForce("load", "Load", force)
            .Step($"F = P · A/cos θ = {r.Force(force)}").Step($"σ = F/(π/4 · d²) = {r.Stress(stress)} against {r.Stress(allowed)}")
            .Warn(angle > 15, "More than 15 degrees from the pull.").Warn(stress > allowed * (1 + 1e-9), "The brace does not bear its load.")
            .Draw(PlaceSketches.Brace(angle, r.Force(force), "pull of the plate"))
            .Done("49 CFR 230.25, recalled", Inspector);
    }

    private static BenchAnswer Flat(Asked asked)
    {
        var t = asked.Length("thickness");
        var pitch = asked.Length("pitch");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var sixteenths = t / Unit.Inch.Factor * 16;
        var c = sixteenths <= 7 * (1 + 1e-9) ? 112 : 120;
        var inches = pitch / Unit.Inch.Factor;
        var pressure = c * sixteenths * sixteenths / (inches * inches) * Unit.Psi.Factor;
        return r.OfStress("pressure", "Pressure", pressure)
            .Step($"P = C · T²/p² = {c} · {Reckoning.N(sixteenths)}²/{Reckoning.N(inches)}² = {r.Stress(pressure)}, T in sixteenths of an inch, p in inches, C = 112 up to 7/16 in and 120 above")
            .Draw(PlaceSketches.Stays(r, pitch, pitch, t, 0))
            .Done("Early ASME code, screwed stays riveted over: from memory", Inspector);
    }

    private static BenchAnswer Ligament(Asked asked)
    {
        var pitch = asked.Length("pitch");
        var hole = asked.Length("hole");
        if (asked.Good && hole >= pitch)
        {
            asked.No("hole", "The hole must be smaller than the pitch.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        return r.OfNumber("efficiency", "Share left", (pitch - hole) / pitch).Step($"E = (p − d)/p = ({r.Short(pitch)} − {r.Short(hole)})/{r.Short(pitch)}")
            .Draw(PlaceSketches.Ligament(r, pitch, hole))
            .Done("Net section of a drilled row", Inspector, "The joint is as good as the least of net plate, rivet shear, bearing and their combinations.");
    }

    private static BenchAnswer Life(Asked asked)
    {
        var before = asked.Length("before");
        var now = asked.Length("now");
        var years = asked.Value("years", 0.01, 200, "Type the years, more than 0.");
        var limit = asked.Length("limit");
        if (asked.Good && now >= before)
        {
            asked.No("now", "It has not become thinner: there is no rate.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var rate = (before - now) / years;
        var left = Math.Max(0, now - limit) / rate;
        return r.OfNumber("years", "Years left", left).Figure("rate", "Rate", rate, "m per year", r.Length(rate) + " a year")
            .Step($"rate = ({r.Short(before)} − {r.Short(now)})/{Reckoning.N(years)}").Step($"life = ({r.Short(now)} − {r.Short(limit)})/rate = {Reckoning.N(left)} years")
            .Warn(now <= limit, "It is at or below the limit now.")
            .Draw(Plain.Graph("Two readings, and the line through them to the limit.", "years", "thickness", [(SketchStroke.Edge, [(0, before), (years, now)], string.Empty), (SketchStroke.Hidden, [(years, now), (years + left, now - (rate * left))], string.Empty)], (years + left, now - (rate * left), $"in {Reckoning.N(left)} years")))
            .Done("Straight line through two surveys", Inspector, "Ultrasonic readings need clean metal, couplant and a step block; laminations in wrought iron read thin.");
    }
}
