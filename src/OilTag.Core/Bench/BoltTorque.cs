using System.Globalization;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Strength of bolts by their grade or class.</summary>
/// <param name="Key">Grade as it is typed.</param>
/// <param name="Words">As it is shown.</param>
/// <param name="Metric">True for the metric classes.</param>
/// <param name="Proof">Proof stress, pascals, by nominal diameter in metres; null where the standard has none.</param>
/// <param name="Tensile">Tensile strength, pascals, by nominal diameter in metres, where there is a proof stress.</param>
public sealed record BoltGrade(string Key, string Words, bool Metric, Func<double, double?> Proof, Func<double, double> Tensile)
{
    /// <summary>A thousand pounds-force per square inch, pascals.</summary>
    internal static readonly double Ksi = Unit.Psi.Factor * 1000;

    /// <summary>SAE J429 for inch bolts, ISO 898-1 for metric ones.</summary>
    public static IReadOnlyList<BoltGrade> All { get; } =
    [
        new("2", "SAE grade 2", false, d => d <= In(0.75) ? 55 * Ksi : d <= In(1.5) ? 33 * Ksi : null, d => (d <= In(0.75) ? 74 : 60) * Ksi),
        new("5", "SAE grade 5", false, d => d <= In(1) ? 85 * Ksi : d <= In(1.5) ? 74 * Ksi : null, d => (d <= In(1) ? 120 : 105) * Ksi),
        new("8", "SAE grade 8", false, d => d <= In(1.5) ? 120 * Ksi : null, _ => 150 * Ksi),
        new("4.6", "class 4.6", true, d => d <= 0.024 + 1e-9 ? 225e6 : null, _ => 400e6),
        new("5.8", "class 5.8", true, d => d <= 0.024 + 1e-9 ? 380e6 : null, _ => 520e6),
        new("8.8", "class 8.8", true, d => d <= 0.016 + 1e-9 ? 580e6 : 600e6, d => d <= 0.016 + 1e-9 ? 800e6 : 830e6),
        new("10.9", "class 10.9", true, d => d <= 0.024 + 1e-9 ? 830e6 : null, _ => 1040e6),
        new("12.9", "class 12.9", true, d => d <= 0.024 + 1e-9 ? 970e6 : null, _ => 1220e6),
    ];

    private static double In(double inches) => (inches * Unit.Inch.Factor) + 1e-9;
}

/// <summary>
/// Torque for a bolt from its proof load: F = q·Sp·As, T = K·D·F. Sources: stress areas ASME B1.1 and ISO 898-1, proof stresses SAE J429 and ISO 898-1; nut
/// factors and shares of proof are common practice. K from 0.08 to 0.35, q up to 0.95.
/// </summary>
public static class BoltTorque
{
    internal static readonly BenchChoice[] Known = [.. BoltGrade.All.Select(g => new BenchChoice(g.Key, g.Words))];

    private static readonly BenchChoice[] Grades = [.. Known, new BenchChoice("an", "aircraft AN steel"), new BenchChoice("unmarked", "no mark on the head")];

    /// <summary>The calculator.</summary>
    public static Calculator Calculator { get; } = new(
        "torque",
        BenchTopic.Fasteners,
        "Torque for a bolt",
        "How tight, and what pull that gives.",
        [
            new BenchField("thread", "Which thread?", Hint: "1/2 UNC, 3/8-24 UNF, M12 x 1.25; M12 alone is coarse."),
            new BenchField("grade", "Which grade?", Choices: Grades),
            new BenchField("k", "Nut factor K?", "0.20", "0.20 dry as supplied, 0.18 plated, 0.15 to 0.17 oiled, 0.12 to 0.14 with molybdenum or copper paste: common practice."),
            new BenchField("share", "Share of proof load, in 100?", "75", "75 for what is taken apart again, 90 for what stays: common practice."),
        ],
        Work);

    private static BenchAnswer Work(Asked asked)
    {
        var thread = ReadThread(asked, "thread");
        var grade = asked.Choice("grade", Grades);
        var k = asked.Number("k", 0.08, 0.35, "Type a nut factor from 0.08 to 0.35; dry steel is about 0.20.");
        var share = asked.Number("share", 1, 95, "Type a share of the proof load from 1 to 95 in 100; above 95 the bolt may stretch for good.");
        if (grade == "an")
        {
            asked.No("grade", "Aircraft bolts have a torque table of their own; the nut factor does not hold for them. Use that table.");
        }

        var warnings = new List<string>();
        var known = BoltGrade.All.FirstOrDefault(g => g.Key == grade);
        if (grade == "unmarked" && thread is not null)
        {
            known = BoltGrade.All.First(g => g.Key == (thread.IsMetric ? "4.6" : "2"));
            warnings.Add($"A bolt without a mark counts as {known.Words}.");
        }

        if (thread is not null && known is not null && (thread.IsWhitworth || known.Metric != thread.IsMetric))
        {
            asked.No("grade", thread.IsWhitworth ? "Whitworth bolts have neither SAE grades nor metric classes; ask for the steel they are made of." : known.Metric ? "Metric classes are for metric threads; inch bolts have SAE grades." : "SAE grades are for inch threads; metric bolts have classes such as 8.8.");
        }

        var proof = thread is not null ? known?.Proof(thread.Diameter) : null;
        if (asked.Good && proof is null)
        {
            asked.No("grade", $"{known!.Words} is not made in {thread!.Name}.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var q = share!.Value / 100;
        var force = q * proof!.Value * thread!.StressArea;
        var torque = k!.Value * thread.Diameter * force;
        if (q > 0.75)
        {
            warnings.Add("More than 75 in 100 of proof is for joints that stay together: do not use the bolt again.");
        }

        string Area() => thread.IsMetric ? $"{N(thread.StressArea * 1e6)} mm²" : $"{N(thread.StressArea / (Unit.Inch.Factor * Unit.Inch.Factor))} in²";
        string Force() => thread.IsMetric ? $"{N(force / 1000)} kN" : $"{N(force / Unit.PoundForce.Factor)} lbf";
        string Torque() => thread.IsMetric ? $"{N(torque)} N m, {N(torque / Unit.PoundFoot.Factor)} lb ft" : $"{N(torque / Unit.PoundFoot.Factor)} lb ft, {N(torque)} N m";
        string Proof() => thread.IsMetric ? $"{N(proof.Value / 1e6)} MPa" : $"{N(proof.Value / BoltGrade.Ksi)} ksi";
        var pitch = thread.IsMetric ? $"{N(thread.Pitch * 1000)} mm" : $"1/{thread.PerInch.ToString("0.##", CultureInfo.InvariantCulture)} in";
        return new BenchAnswer(
            [
                new BenchFigure("torque", "Torque", torque, "N m", Torque()),
                new BenchFigure("preload", "Pull in the bolt", force, "N", Force()),
                new BenchFigure("stressArea", "Stress area", thread.StressArea, "m²", Area()),
            ],
            new Working(
                Torque(),
                [
                    $"As = π/4 · (d − {thread.Factor.ToString(CultureInfo.InvariantCulture)} · p)², p = {pitch}: {Area()}",
                    $"F = q · Sp · As = {N(q)} · {Proof()} · {Area()} = {Force()}",
                    $"T = K · D · F = {N(k.Value)} · {thread.Name.Split('-')[0].Split('x')[0]} · {Force()} = {Torque()}",
                    "A torque wrench leaves the pull within about 25 to 30 in 100 of that: common practice.",
                ],
                $"{ScrewThread.Source}; proof stress {(known!.Metric ? "ISO 898-1" : "SAE J429")}; K and share of proof: common practice",
                ["Stretched (torque-to-yield), copper-ring and locking fasteners are used once: fit new ones.", "Another lubricant changes the pull by a quarter or more at the same torque.", "For clean threads without damage. A higher grade never mends a stretched stud in cast iron.", Calculator.Rank]),
            warnings,
            []);
    }

    internal static ScrewThread? ReadThread(Asked asked, string field)
    {
        var text = asked.Text(field);
        var found = ScrewThread.Find(text);
        if (found.Count == 1)
        {
            return found[0];
        }

        asked.No(field, text.Length == 0 ? "Type the thread, such as 1/2 UNC or M12."
            : found.Count > 1 ? $"That is {string.Join(" or ", found.Select(t => t.Name))}: the one has 60 degrees, the other 55. Say which."
            : $"“{(text.Length > 20 ? text[..20] + "…" : text)}” is not in the table of threads. Type it like 1/2 UNC, 3/8-24 UNF or M12 x 1.25.");
        return null;
    }

    private static string N(double value) => MeasureFormat.Significant(value, 4);
}
