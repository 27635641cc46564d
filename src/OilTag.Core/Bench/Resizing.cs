using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

namespace OilTag.Core.Bench;

/// <summary>Wear used (the rule of the survey, <see cref="VerdictRule"/>), the next size down or up, hours left, clearance and building up. Sources: common practice.</summary>
public static class Resizing
{
    private static readonly BenchChoice[] Kinds = [new("shaft", "a shaft, it shrinks"), new("bore", "a bore, it grows")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("wear", BenchTopic.Wear, "Wear used", "How much of the allowed wear is gone.", [new BenchField("kind", "What is it?", "shaft", Choices: Kinds), new BenchField("nominal", "Which size was it new?", Hint: "2.4990 in; of a range the side with the most metal."), new BenchField("limit", "Which is the wear limit?", Hint: "2.4960 in."), new BenchField("reading", "What does it measure?", Hint: "The worst reading: 2.4972 in.")], Wear),
        new("resize", BenchTopic.Wear, "Next size", "To which of the maker’s sizes it cleans up.", [new BenchField("kind", "What is it?", "shaft", Choices: Kinds), new BenchField("nominal", "Which size was it new?", Hint: "2.0000 in, 85.00 mm."), new BenchField("reading", "What does it measure?", Hint: "Least of a shaft, most of a bore."), new BenchField("clean", "How much must come off to clean up?", Hint: "On the diameter: 0.002 in, 0.05 mm."), new BenchField("steps", "Which steps does the maker list?", "0.010 + 0.020 + 0.030 + 0.040 + 0.060 in", "Only these may be used.")], Resize),
        new("wear-rate", BenchTopic.Wear, "Hours to the limit", "How long it lasts at this rate.", [new BenchField("first", "What did it measure first?", Hint: "2.4985 in."), new BenchField("firstHours", "At how many hours?", Hint: "1000"), new BenchField("second", "What does it measure now?", Hint: "2.4979 in."), new BenchField("secondHours", "At how many hours?", Hint: "1400"), new BenchField("limit", "Which is the limit?", Hint: "2.4960 in.")], Rate),
        new("clearance", BenchTopic.Wear, "Clearance of a plain bearing", "To which bore a bearing is finished.", [new BenchField("journal", "Which diameter has the journal?", Hint: "4.000 in."), new BenchField("each", "How much for each unit of diameter, in thousandths?", "1", "Pressure-fed engines 1 (0.75 to 1.5); grease and axle boxes 1.5 to 2: common practice."), new BenchField("more", "And how much more?", "0", "Slow and drip-fed: 0.001 in.")], Clearance),
        new("build-up", BenchTopic.Wear, "Build up and turn back", "How many layers, and how much metal.", [new BenchField("undercut", "To which diameter is it undercut?", Hint: "3.875 in."), new BenchField("finish", "Which diameter in the end?", Hint: "4.000 in."), new BenchField("stock", "How much to machine off, a side?", Hint: "1/16 in."), new BenchField("length", "How long?", Hint: "6 in."), new BenchField("layer", "How thick is a layer?", Hint: "3/32 in.")], BuildUp),
    ];

    private static BenchAnswer Wear(Asked asked)
    {
        var kind = asked.Choice("kind", Kinds);
        var nominal = asked.Measure("nominal", Quantity.Length);
        var limit = asked.Measure("limit", Quantity.Length);
        var reading = asked.Measure("reading", Quantity.Length);
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var feature = kind == "shaft" ? Feature.Shaft : Feature.Bore;
        foreach (var problem in VerdictRule.CheckSizes(feature, nominal, limit).Concat(VerdictRule.Doubts(feature, reading!, nominal)))
        {
            asked.No(problem.Field.ToUpperInvariant() switch { "NOMINAL" => "nominal", "LIMIT" => "limit", _ => "reading" }, problem.Sentence);
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var (verdict, used) = VerdictRule.Band(reading!.Si, nominal!.Si, limit!.Si);
        var r = new Reckoning(asked.Imperial ?? false);
        return r.OfNumber("used", "Wear used", used, " in 100").OfNumber("left", "Left", 100 - used, " in 100")
            .Step($"w = 100 · (N − M)/(N − L) = 100 · ({r.Short(nominal.Si)} − {r.Short(reading.Si)})/({r.Short(nominal.Si)} − {r.Short(limit.Si)}) = {Reckoning.N(used)} in 100")
            .Step($"That is {VerdictRule.Word(verdict)}.")
            .Warn(used < 0, "Larger than new: check the reading, for plating, or whether it is the right feature.")
            .Warn(Math.Abs(reading.Si - nominal.Si) > 0.2 * nominal.Si, "The reading is more than a fifth away from new: check both.")
            .Draw(Plain.Scale("The size when new, the limit, and the reading between them.", (nominal.Si, $"new {r.Short(nominal.Si)}", false), (limit.Si, $"limit {r.Short(limit.Si)}", false), (reading.Si, $"now {r.Short(reading.Si)}", true)))
            .Done("Common practice", "Wear is judged on the worst reading, never on the mean.");
    }

    private static BenchAnswer Resize(Asked asked)
    {
        var kind = asked.Choice("kind", Kinds);
        var nominal = asked.Length("nominal");
        var reading = asked.Length("reading");
        var clean = asked.Length("clean");
        var steps = asked.List("steps", Quantity.Length, 1, 20, "Type the maker’s steps with a plus between them, such as 0.010 + 0.020 in.");
        if (asked.Good && (Math.Abs((reading / nominal / 25.4) - 1) < 0.02 || Math.Abs((nominal / reading / 25.4) - 1) < 0.02))
        {
            asked.No("reading", "One of them looks like inches and the other like millimetres.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var sign = kind == "shaft" ? -1 : 1;
        var needed = reading + (sign * clean);
        var step = steps.Order().Where(u => sign * (nominal + (sign * u) - needed) >= -1e-9 * nominal).Select(u => (double?)u).FirstOrDefault();
        if (step is null)
        {
            asked.No("steps", "No listed step cleans up: build up or renew.");
            return BenchAnswer.Refused([]);
        }

        var size = nominal + (sign * step.Value);
        return r.OfLength("size", kind == "shaft" ? "Grind to" : "Bore to", size).OfLength("step", "Step", step.Value).OfLength("needed", "Cleans up at", needed)
            .Step(kind == "shaft" ? $"M − c = {r.Short(reading)} − {r.Short(clean)} = {r.Short(needed)}; N − U must not be above it" : $"M + c = {r.Short(reading)} + {r.Short(clean)} = {r.Short(needed)}; N + U must not be below it")
            .Step($"N {(sign < 0 ? "−" : "+")} U = {r.Short(nominal)} {(sign < 0 ? "−" : "+")} {r.Short(step.Value)} = {r.Short(size)}")
            .Draw(Plain.Scale("The size when new, the reading, where it cleans up, and the size that is chosen.", (nominal, $"new {r.Short(nominal)}", false), (reading, $"now {r.Short(reading)}", false), (needed, $"cleans up {r.Short(needed)}", false), (size, r.Short(size), true)))
            .Done("Common practice", "Nitrided and hardened journals may lose their case; restore the radius at the shoulder.", "Only the maker’s steps.");
    }

    private static BenchAnswer Rate(Asked asked)
    {
        var first = asked.Length("first");
        var second = asked.Length("second");
        var limit = asked.Length("limit");
        var from = asked.Value("firstHours", 0, 1e6, "Type the hours, 0 or more.");
        var until = asked.Value("secondHours", 0, 1e6, "Type the hours, 0 or more.");
        if (asked.Good && until <= from)
        {
            asked.No("secondHours", "The second reading comes after the first.");
        }

        var towards = Math.Sign(limit - first);
        if (asked.Good && (second - first) * towards <= 0)
        {
            asked.No("second", "Between the readings it has not worn towards the limit: there is no rate.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var rate = Math.Abs(second - first) / (until - from);
        var left = Math.Max(0, (limit - second) * towards) / rate;
        return r.OfNumber("hours", "Hours left", left, " h").Figure("rate", "Rate", rate * 1000, "m per 1000 h", r.Length(rate * 1000) + " in 1000 h")
            .Step($"q = |M1 − M2|/(h2 − h1) = {r.Short(Math.Abs(second - first))}/{Reckoning.N(until - from)} h").Step($"h = |M2 − L|/q = {Reckoning.N(left)} h")
            .Warn(left == 0, "It is at or beyond the limit now.")
            .Draw(Plain.Graph("Two readings, and the line through them to the limit.", "hours", "size", [(SketchStroke.Edge, [(from, first), (until, second)], string.Empty), (SketchStroke.Hidden, [(until, second), (until + Math.Max(left, 0), left > 0 ? limit : second)], string.Empty)], (until + left, left > 0 ? limit : second, $"{Reckoning.N(until + left)} h")))
            .Done("Straight line through two readings: common practice", "Wear speeds up as clearance grows: look again at half of that.");
    }

    private static BenchAnswer Clearance(Asked asked)
    {
        var journal = asked.Length("journal");
        var each = asked.Value("each", 0.1, 5, "Type from 0.1 to 5 thousandths.");
        var more = asked.Offset("more");
        if (asked.Good && more < 0)
        {
            asked.No("more", "Type 0 or more.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var clearance = (journal * each / 1000) + more;
        return r.OfLength("bore", "Finished bore", journal + clearance).OfLength("clearance", "Clearance on the diameter", clearance)
            .Step($"C = {Reckoning.N(each)}/1000 · {r.Short(journal)} + {r.Short(more)} = {r.Short(clearance)}")
            .Draw(RoundSketches.Clearance(r, journal, clearance))
            .Done("Common practice", "The maker’s figure comes first.");
    }

    private static BenchAnswer BuildUp(Asked asked)
    {
        var undercut = asked.Length("undercut");
        var finish = asked.Length("finish");
        var stock = asked.Length("stock");
        var length = asked.Length("length");
        var layer = asked.Length("layer");
        if (asked.Good && finish <= undercut)
        {
            asked.No("finish", "The finished diameter must be larger than the undercut.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var deposited = finish + (2 * stock);
        var layers = Math.Ceiling(((deposited - undercut) / (2 * layer)) - 1e-9);
        const double Steel = 0.2836 * 0.45359237 / (0.0254 * 0.0254 * 0.0254);
        var mass = Steel * Math.PI / 4 * ((deposited * deposited) - (undercut * undercut)) * length;
        return r.OfNumber("layers", "Layers", layers).OfLength("deposited", "As deposited", deposited).OfMass("mass", "Metal put on", mass)
            .Step($"Dw = Df + 2 a = {r.Short(deposited)}").Step($"n = ⌈(Dw − Du)/(2 t)⌉ = {Reckoning.N(layers)}").Step($"m = ρ · π/4 · (Dw² − Du²) · L = {r.Mass(mass)}, ρ = 0.2836 lb/in³ (steel)")
            .Draw(RoundSketches.BuildUp(r, undercut, finish, deposited, length))
            .Done("Common practice", "Welding a crankshaft, axle, propeller shaft or any aircraft part needs an approved procedure, preheat and stress relief, and crack testing before and after; build-up lowers fatigue strength.", "Hard chrome has its own approval. Restore the radius at the shoulder.");
    }
}
