using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>Tap drills, engagement and stretch. Drill = D − 1.299038·p·x (ISO and unified form, 60 degrees); stripping by the form of ASME B1.1 and FED-STD-H28; stretch F·L/(E·As).</summary>
public static class Threading
{
    private const double PerPitch = 1.299038;

    private static readonly DataTable AnTable = DataTable.Find("an-torques")!;
    private static readonly BenchChoice[] AnThreads = [.. AnTable.Rows.Select(r => new BenchChoice(r[0], r[0]))];
    private static readonly BenchChoice[] AnNuts = [new("tension", "tension nut"), new("shear", "shear nut, thin")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new(
            "tap-drill",
            BenchTopic.Fasteners,
            "Drill for a tapped hole",
            "Which drill gives how much thread.",
            [new BenchField("thread", "Which thread?", Hint: "5/8 UNC, M12 x 1.25."), new BenchField("percent", "How much of the full thread, in 100?", "75", "65 in hard steel, 75 as a rule.")],
            Drill),
        new(
            "engagement",
            BenchTopic.Fasteners,
            "How deep a stud must go",
            "The least engagement at which the bolt breaks before the hole strips.",
            [new BenchField("thread", "Which thread?", Hint: "M10, 3/8-24 UNF."), new BenchField("grade", "Which grade is the bolt?", Choices: BoltTorque.Known), new BenchField("hole", "How strong is the metal of the hole?", Hint: "Its tensile strength: 220 MPa, 32000 psi.")],
            Engagement),
        new(
            "stretch",
            BenchTopic.Fasteners,
            "Stretch of a bolt",
            "By how much a bolt grows when it is pulled to its share of proof.",
            [new BenchField("thread", "Which thread?", Hint: "3/8-24 UNF."), new BenchField("grade", "Which grade?", Choices: BoltTorque.Known), new BenchField("share", "Share of proof load, in 100?", "75"), new BenchField("length", "How long is what stretches?", Hint: "From under the head to the nut: 4 in, 100 mm.")],
            Stretch),
        new(
            "an-torque",
            BenchTopic.Fasteners,
            "Torque of an AN bolt",
            "The range of the table for aircraft bolts, with the running torque of the nut.",
            [new BenchField("thread", "Which thread?", "1/4-28", Choices: AnThreads), new BenchField("nut", "Which nut?", "tension", Choices: AnNuts), new BenchField("running", "Which torque turns the nut before it seats?", "0 lbf in", "Measure it with the nut half on; 0 for a plain nut.")],
            An),
    ];

    private static BenchAnswer Drill(Asked asked)
    {
        var thread = BoltTorque.ReadThread(asked, "thread");
        var percent = asked.Value("percent", 1, 100, "Type a share from 1 to 100.");
        if (thread is { IsWhitworth: true })
        {
            asked.No("thread", "This is for threads of 60 degrees; the tap drill of a Whitworth thread is in its table.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(!thread!.IsMetric);
        var drill = thread.Diameter - (PerPitch * thread.Pitch * percent / 100);
        r.OfLength("drill", "Drill", drill);
        r.Step($"drill = D − 1.299038 · p · {Reckoning.N(percent)}/100 = {r.Short(thread.Diameter)} − 1.299038 · {r.Short(thread.Pitch)} · {Reckoning.N(percent / 100)} = {r.Short(drill)}");
        if (thread.TapDrill is { } usual)
        {
            var of = 100 * (thread.Diameter - usual) / (PerPitch * thread.Pitch);
            r.OfLength("usual", $"Usual drill, {thread.Drill}", usual).OfNumber("usualPercent", "Thread with that drill", of, " in 100");
            r.Step($"with {thread.Drill}: 100 · (D − drill)/(1.299038 · p) = {Reckoning.N(of)} in 100");
        }

        return r.Warn(percent > 85, "More than 85 in 100 breaks taps and adds next to no strength.").Warn(percent < 50, "Less than 50 in 100 may strip.")
            .Draw(FastenerSketches.Tapped(r, thread, drill))
            .Done($"{ScrewThread.Source}; usual drills from handbook tables, recalled", "A drill cuts a little over its size: try it in scrap of the same metal.");
    }

    private static BenchAnswer Engagement(Asked asked)
    {
        var (thread, grade, _) = Bolt(asked);
        var hole = asked.Stress("hole");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(!thread!.IsMetric);
        var tensile = grade!.Tensile(thread.Diameter)!.Value;
        var depth = 2 * thread.StressArea * tensile / (hole * 0.875 * Math.PI * thread.Diameter);
        return r.OfLength("engagement", "Least engagement", depth).OfNumber("diameters", "In diameters", depth / thread.Diameter)
            .Step($"Le = 2 · As · Sut / (Sut hole · 0.875 π D) = 2 · {Reckoning.N(thread.StressArea * 1e6)} mm² · {r.Stress(tensile)} / ({r.Stress(hole)} · 0.875 π · {r.Short(thread.Diameter)}) = {r.Short(depth)}")
            .Step("The shear strength of the hole is taken as half its tensile strength.")
            .Step("Usual: 1 D in steel, 1.5 D in cast iron and bronze, 2 D in aluminium, and one or two threads beyond the nut: common practice.")
            .Draw(FastenerSketches.Stud(r, thread, depth))
            .Done("Form of ASME B1.1 and FED-STD-H28; tensile strength SAE J429, ISO 898-1", "For clean threads of full form. Old cast iron and corroded light alloy are weaker than new metal.");
    }

    private static BenchAnswer Stretch(Asked asked)
    {
        var (thread, _, proof) = Bolt(asked);
        var share = asked.Value("share", 1, 95, "Type a share of the proof load from 1 to 95 in 100.");
        var length = asked.Length("length");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(!thread!.IsMetric);
        var e = thread.IsMetric ? 207e9 : 30e6 * Unit.Psi.Factor;
        var force = share / 100 * proof * thread.StressArea;
        var stretch = force * length / (e * thread.StressArea);
        return r.OfLength("stretch", "Stretch", stretch).OfForce("preload", "Pull", force)
            .Step($"F = q · Sp · As = {Reckoning.N(share / 100)} · {r.Stress(proof)} · {Reckoning.N(thread.StressArea * 1e6)} mm² = {r.Force(force)}")
            .Step($"δ = F · L / (E · As) = {r.Length(stretch)}, E = {(thread.IsMetric ? "207 GPa" : "30 000 000 psi")}")
            .Step("For thread all along; a plain shank stretches less, by the ratio of the areas.")
            .Draw(FastenerSketches.Stretched(r, thread, length, stretch))
            .Done("Elastic stretch; proof stress SAE J429, ISO 898-1", "Stretch is measured from end to end before and after with the same micrometer.");
    }

    private static (ScrewThread? Thread, BoltGrade? Grade, double Proof) Bolt(Asked asked)
    {
        var thread = BoltTorque.ReadThread(asked, "thread");
        var key = asked.Choice("grade", BoltTorque.Known);
        var grade = BoltGrade.All.FirstOrDefault(g => g.Key == key);
        if (thread is null || grade is null)
        {
            return (thread, grade, 0);
        }

        if (thread.IsWhitworth || grade.Metric != thread.IsMetric)
        {
            asked.No("grade", "SAE grades are for inch threads of 60 degrees, classes such as 8.8 for metric ones.");
        }
        else if (grade.Proof(thread.Diameter) is { } proof)
        {
            return (thread, grade, proof);
        }
        else
        {
            asked.No("grade", $"{grade.Words} is not made in {thread.Name}.");
        }

        return (thread, grade, 0);
    }

    private static BenchAnswer An(Asked asked)
    {
        var row = asked.Pick("thread", AnTable.Rows, r => r[0]);
        var nut = asked.Choice("nut", AnNuts);
        var plain = asked.Text("running") is "0" || asked.Text("running").StartsWith("0 ", StringComparison.Ordinal);
        var running = plain ? 0 : asked.Si("running", Quantity.Torque);
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        const double PoundInch = 0.11298482902762;
        var first = nut == "shear" ? 3 : 1;
        var (low, high) = (DataTable.Number(row![first]) * PoundInch, DataTable.Number(row[first + 1]) * PoundInch);
        string T(double newtonMetres) => $"{Reckoning.N(newtonMetres / PoundInch)}\u00A0lb in, {Reckoning.N(newtonMetres)}\u00A0N m";
        return new Reckoning(true).Figure("low", "From", low + running, "N m", T(low + running)).Figure("high", "To", high + running, "N m", T(high + running)).Figure("table", "By the table", low, "N m", $"{row[first]} to {row[first + 1]} lb in")
            .Step($"table + running torque = {row[first]} to {row[first + 1]} lb in + {T(running)}")
            .Warn(running > high, "The nut runs harder than its bolt is tightened: it is damaged, or the wrong one.")
            .Draw(Plain.Scale("Torque: the range of the table, and with the running torque of the nut.", (low, "table from", false), (high, "table to", false), (low + running, $"from {Reckoning.N((low + running) / PoundInch)} lb in", true), (high + running, $"to {Reckoning.N((high + running) / PoundInch)} lb in", true)))
            .Done(AnTable.Source, "For dry threads and steel nuts. The maker’s manual comes first; a nut factor does not hold for these bolts.", "Lock what must be locked, and let a second person look.");
    }
}
