using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Warm windings, R2/R1 = (k + T2)/(k + T1), k 234.5 or 235 (IEC 60034-1) for copper, 225 for aluminium; and shunt generators on a saturation curve E = n·a·I/(b + I).</summary>
public static class Electrical
{
    private static readonly (string Key, string Words, double K)[] Metals = [("copper", "copper, k 234.5", 234.5), ("copper-iec", "copper, k 235 (IEC 60034-1)", 235), ("aluminium", "aluminium, k 225", 225)];
    private static readonly BenchChoice[] Choices = [.. Metals.Select(m => new BenchChoice(m.Key, m.Words))];
    private const string Care = "Isolate, prove dead and discharge before measuring. A sagging generator may also be brushes, belt or residual field: measure before blaming heat.";

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("winding", BenchTopic.Electrical, "Warm winding", "The resistance at a temperature, or the temperature from a resistance.", [new BenchField("cold", "Which resistance cold?", Hint: "6.000 ohm."), new BenchField("coldAt", "At which temperature?", "20 °C"), new BenchField("warmAt", "At which temperature is it wanted?", Hint: "85 °C. Empty when the warm resistance is known.", Needed: false), new BenchField("warm", "Which resistance warm?", Hint: "7.400 ohm. Empty when the temperature is known.", Needed: false), new BenchField("metal", "Which metal?", "copper", Choices: Choices)], Winding),
        new("generator", BenchTopic.Electrical, "Shunt generator", "What it gives without load, cold and warm, and when it will not build up.", [new BenchField("a", "Saturation voltage a?", Hint: "40 V"), new BenchField("b", "Field current at half of it, b?", Hint: "2.0 A"), new BenchField("speed", "Speed, as a share of that of the curve?", "1"), new BenchField("field", "Field resistance with rheostat, cold?", Hint: "6.000 ohm."), new BenchField("coldAt", "At which temperature?", "20 °C"), new BenchField("warmAt", "How warm does the field get?", "85 °C")], Generator),
        new("generator-field", BenchTopic.Electrical, "Field resistance for a voltage", "Which resistance of field and rheostat together holds a voltage without load.", [new BenchField("a", "Saturation voltage a?", Hint: "40 V"), new BenchField("b", "Field current at half of it, b?", Hint: "2.0 A"), new BenchField("speed", "Speed, as a share of that of the curve?", "1"), new BenchField("voltage", "Which voltage is wanted?", Hint: "28 V"), new BenchField("winding", "Which resistance has the field winding alone?", Hint: "4.5 ohm, at its working warmth. Empty when not known.", Needed: false)], FieldFor),
    ];

    private static BenchAnswer Winding(Asked asked)
    {
        var cold = asked.Si("cold", Quantity.Resistance);
        var coldAt = asked.Si("coldAt", Quantity.Temperature) - 273.15;
        var toTemperature = asked.Has("warm");
        if (toTemperature == asked.Has("warmAt"))
        {
            asked.No("warm", "Type either the warm resistance or the temperature.");
        }

        var warm = toTemperature ? asked.Si("warm", Quantity.Resistance) : 1;
        var warmAt = toTemperature ? 0 : asked.Si("warmAt", Quantity.Temperature) - 273.15;
        var metal = asked.Pick("metal", Metals, m => m.Key);
        if (asked.Good && (cold <= 0 || warm <= 0))
        {
            asked.No(cold <= 0 ? "cold" : "warm", "The resistance must be more than nought.");
        }

        if (asked.Good && (coldAt <= -metal.K || warmAt <= -metal.K))
        {
            asked.No("coldAt", "So cold the rule does not hold.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var k = metal.K;
        if (!toTemperature)
        {
            var then = cold * (k + warmAt) / (k + coldAt);
            return r.Figure("resistance", "Warm resistance", then, "Ω", $"{Reckoning.N(then)}\u00A0Ω").Step($"R2 = R1 · (k + T2)/(k + T1) = {Reckoning.N(cold)} · ({k} + {Reckoning.N(warmAt)})/({k} + {Reckoning.N(coldAt)}) = {Reckoning.N(then)} Ω").Draw(Warming(cold, coldAt, k, coldAt + (warmAt > coldAt ? 1.2 : -1.2) * Math.Abs(warmAt - coldAt), warmAt, then)).Done("IEC 60034-1 has k = 235; 234.5 is North American usage", Care);
        }

        var ratio = warm / cold;
        var at = (ratio * (k + coldAt)) - k;
        return r.Figure("temperature", "Temperature", at + 273.15, "K", r.Temperature(at + 273.15)).OfNumber("ratio", "R2/R1", ratio).Step($"T2 = (R2/R1)(k + T1) − k = {Reckoning.N(ratio)} · ({k} + {Reckoning.N(coldAt)}) − {k} = {r.Temperature(at + 273.15)}")
            .Warn(ratio is < 0.7 or > 1.6, "An odd ratio: shorted turns, a wrong lead, or a wrong reading.")
            .Draw(Warming(cold, coldAt, k, coldAt + (at > coldAt ? 1.2 : -1.2) * Math.Abs(at - coldAt), at, warm))
            .Done("IEC 60034-1 has k = 235; 234.5 is North American usage", Care);
    }

    private static BenchAnswer Generator(Asked asked)
    {
        var a = asked.Si("a", Quantity.Voltage);
        var b = asked.Si("b", Quantity.Current);
        var n = asked.Value("speed", 0.05, 5, "Type the share of the speed, such as 1 or 1.1.");
        var field = asked.Si("field", Quantity.Resistance);
        var coldAt = asked.Si("coldAt", Quantity.Temperature) - 273.15;
        var warmAt = asked.Si("warmAt", Quantity.Temperature) - 273.15;
        if (asked.Good && (a <= 0 || b <= 0 || field <= 0))
        {
            asked.No(a <= 0 ? "a" : b <= 0 ? "b" : "field", "Type more than nought.");
        }

        if (asked.Good && (coldAt <= -234.5 || warmAt <= -234.5))
        {
            asked.No("coldAt", "So cold the rule does not hold.");
        }

        var critical = asked.Good ? n * a / b : 0;
        if (asked.Good && field >= critical * (1 - 1e-9))
        {
            asked.No("field", $"It will not build up: the critical resistance is {Reckoning.N(critical)} Ω.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        var hot = field * (234.5 + warmAt) / (234.5 + coldAt);
        var cold = (n * a) - (b * field);
        var warm = (n * a) - (b * hot);
        string V(double v) => $"{Reckoning.N(v)}\u00A0V";
        return r.Figure("cold", "Cold", cold, "V", V(cold)).Figure("warm", "Warm", Math.Max(0, warm), "V", warm > 0 ? V(warm) : "it does not build up").OfNumber("drop", "Drop", 100 * (cold - Math.Max(0, warm)) / cold, " in 100").Figure("critical", "Critical resistance", critical, "Ω", $"{Reckoning.N(critical)}\u00A0Ω")
            .Step($"V = n · a − b · R = {Reckoning.N(n)} · {Reckoning.N(a)} − {Reckoning.N(b)} · {Reckoning.N(field)} = {V(cold)}").Step($"warm: R = {Reckoning.N(field)} · (234.5 + {Reckoning.N(warmAt)})/(234.5 + {Reckoning.N(coldAt)}) = {Reckoning.N(hot)} Ω, V = {V(warm)}")
            .Draw(Curve(n, a, b, field, hot))
            .Done("No load; saturation curve E = n · a · I/(b + I)", Care);
    }

    private static Sketch Warming(double cold, double coldAt, double k, double until, double at, double ohms) => Plain.Graph("The resistance of the winding against its temperature.", "°C", "ohm", [(SketchStroke.Edge, [(coldAt, cold), (until, cold * (k + until) / (k + coldAt))], string.Empty)], (at, ohms, $"{Reckoning.N(ohms)} Ω at {Reckoning.N(at)} °C"));

    // The saturation curve, and the field’s own line cold and warm: it runs where they cross.
    private static Sketch Curve(double n, double a, double b, double field, double hot)
    {
        var most = Math.Max(b, (n * a / field) - b) * 1.2;
        (double, double)[] On(Func<double, double> of) => [.. Enumerable.Range(0, 41).Select(i => most * i / 40).Select(x => (x, of(x)))];
        var top = n * a * most / (b + most);
        var at = (n * a / field) - b;
        return Plain.Graph("The saturation curve and the straight lines of the field, cold and warm dashed; it gives the voltage at which they cross.", "field A", "V", [(SketchStroke.Edge, On(x => n * a * x / (b + x)), string.Empty), (SketchStroke.Thin, [(0, 0), (Math.Min(most, top / field), Math.Min(most * field, top))], string.Empty), (SketchStroke.Hidden, [(0, 0), (Math.Min(most, top / hot), Math.Min(most * hot, top))], string.Empty)], (at, field * at, $"{Reckoning.N(field * at)} V cold"));
    }

    private static BenchAnswer FieldFor(Asked asked)
    {
        var a = asked.Si("a", Quantity.Voltage);
        var b = asked.Si("b", Quantity.Current);
        var n = asked.Value("speed", 0.05, 5, "Type the share of the speed, such as 1 or 1.1.");
        var voltage = asked.Si("voltage", Quantity.Voltage);
        var winding = asked.Optional("winding", Quantity.Resistance)?.Si ?? 0;
        if (asked.Good && (a <= 0 || b <= 0 || voltage <= 0))
        {
            asked.No(a <= 0 ? "a" : b <= 0 ? "b" : "voltage", "Type more than nought.");
        }

        if (asked.Good && voltage >= n * a * (1 - 1e-9))
        {
            asked.No("voltage", $"At this speed it never gives more than {Reckoning.N(n * a)} V.");
        }

        var field = asked.Good ? ((n * a) - voltage) / b : 0;
        if (asked.Good && winding > field)
        {
            asked.No("winding", $"The winding alone has more than the {Reckoning.N(field)} Ω that the voltage needs: turn it faster.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? false);
        r.Figure("field", "Field with rheostat", field, "Ω", $"{Reckoning.N(field)}\u00A0Ω").Figure("current", "Field current", voltage / field, "A", $"{Reckoning.N(voltage / field)}\u00A0A");
        if (winding > 0)
        {
            r.Figure("rheostat", "Rheostat", field - winding, "Ω", $"{Reckoning.N(field - winding)}\u00A0Ω");
        }

        return r.Step($"R = (n · a − V)/b = ({Reckoning.N(n)} · {Reckoning.N(a)} − {Reckoning.N(voltage)})/{Reckoning.N(b)} = {Reckoning.N(field)} Ω").Draw(Curve(n, a, b, field, field)).Done("No load; saturation curve E = n · a · I/(b + I)", Care);
    }
}
