using System.Globalization;
using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>Strength of bolts by their grade or class: SAE J429 for inch bolts, ISO 898-1 for metric ones.</summary>
/// <param name="Key">Grade as it is typed.</param>
/// <param name="Words">As it is shown.</param>
/// <param name="Metric">True for the metric classes.</param>
/// <param name="Sizes">Up to which diameter in metres which proof stress and tensile strength in pascals hold, the smallest first.</param>
public sealed record BoltGrade(string Key, string Words, bool Metric, IReadOnlyList<(double UpTo, double Proof, double Tensile)> Sizes)
{
    /// <summary>A thousand pounds-force per square inch, pascals.</summary>
    internal static readonly double Ksi = Unit.Psi.Factor * 1000;

    /// <summary>Every grade and class of the table.</summary>
    public static IReadOnlyList<BoltGrade> All { get; } = [.. DataTable.Find("bolts")!.Rows.GroupBy(r => r[0]).Select(g =>
    {
        var metric = !g.Key.StartsWith("SAE", StringComparison.Ordinal);
        var (length, stress) = metric ? (Unit.Millimetre.Factor, 1e6) : (Unit.Inch.Factor, Ksi);
        return new BoltGrade(g.Key[(g.Key.IndexOf(' ') + 1)..], metric ? $"class {g.Key}" : g.Key.Replace("SAE", "SAE grade", StringComparison.Ordinal), metric, [.. g.Select(r => (DataTable.Number(r[2]) * length, DataTable.Number(r[3]) * stress, DataTable.Number(r[5]) * stress))]);
    })];

    /// <summary>Proof stress in pascals by the nominal diameter in metres; null where the standard has none.</summary>
    public double? Proof(double diameter) => At(diameter)?.Proof;

    /// <summary>Tensile strength in pascals by the nominal diameter in metres; null where the standard has none.</summary>
    public double? Tensile(double diameter) => At(diameter)?.Tensile;

    private (double UpTo, double Proof, double Tensile)? At(double diameter) => Sizes.Where(s => diameter <= s.UpTo + 1e-9).Select(s => ((double, double, double)?)s).FirstOrDefault();
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

        var known = BoltGrade.All.FirstOrDefault(g => g.Key == grade);
        if (grade == "unmarked" && thread is not null)
        {
            known = BoltGrade.All.First(g => g.Key == (thread.IsMetric ? "4.6" : "2"));
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
        var r = new Reckoning(!thread.IsMetric);
        var length = 4 * thread.Diameter;
        return r.Figure("torque", "Torque", torque, "N m", r.Torque(torque)).OfForce("preload", "Pull in the bolt", force).Figure("stressArea", "Stress area", thread.StressArea, "m²", r.Area(thread.StressArea))
            .Step($"As = π/4 · (d − {thread.Factor.ToString(CultureInfo.InvariantCulture)} · p)², p = {(thread.IsMetric ? r.Short(thread.Pitch) : $"1/{thread.PerInch.ToString("0.##", CultureInfo.InvariantCulture)} in")}: {r.Area(thread.StressArea)}")
            .Step($"F = q · Sp · As = {Reckoning.N(q)} · {r.Stress(proof.Value)} · {r.Area(thread.StressArea)} = {r.Force(force)}")
            .Step($"T = K · D · F = {Reckoning.N(k.Value)} · {r.Short(thread.Diameter)} · {r.Force(force)} = {r.Torque(torque)}")
            .Step("A torque wrench leaves the pull within about 25 to 30 in 100 of that: common practice.")
            .Warn(grade == "unmarked", $"A bolt without a mark counts as {known!.Words}.").Warn(q > 0.75, "More than 75 in 100 of proof is for joints that stay together: do not use the bolt again.")
            .Draw(FastenerSketches.Bolt(r, thread, length, r.Force(force), "A bolt of this thread, drawn four diameters long, and its pull."))
            .Done($"{ScrewThread.Source}; proof stress {(known.Metric ? "ISO 898-1" : "SAE J429")}; K and share of proof: common practice", "Stretched (torque-to-yield), copper-ring and locking fasteners are used once: fit new ones.", "Another lubricant changes the pull by a quarter or more at the same torque.", "For clean threads without damage. A higher grade never mends a stretched stud in cast iron.");
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
}
