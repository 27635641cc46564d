using OilTag.Core.Bench;
using OilTag.Core.Measures;

namespace OilTag.Core.Tests.Bench;

/// <summary>Threads and torque against published stress areas and worked examples; see the reference values, section 4.</summary>
public sealed class BoltTorqueTests
{
    private const double SquareInch = 0.0254 * 0.0254;

    private static BenchAnswer Ask(string thread, string grade, string k = "0.20", string share = "75") =>
        Calculator.All.First(c => c.Key == "torque").Answer(f => f switch { "thread" => thread, "grade" => grade, "k" => k, "share" => share, _ => null });

    // ASME B1.1, tensile stress areas, square inches.
    [Theory]
    [InlineData("1/4 UNC", 0.0318)]
    [InlineData("5/16 UNC", 0.0524)]
    [InlineData("3/8 UNC", 0.0775)]
    [InlineData("1/2 UNC", 0.1419)]
    [InlineData("3/4 UNC", 0.3345)]
    [InlineData("1 UNC", 0.6057)]
    [InlineData("1/4 UNF", 0.0364)]
    [InlineData("3/8 UNF", 0.0878)]
    [InlineData("1/2 UNF", 0.1600)]
    [InlineData("1 UNF", 0.6630)]
    [InlineData("1 UNS", 0.6799)]
    [InlineData("#10 UNF", 0.01999)]
    [InlineData("1/2 BSW", 0.1385)]
    [InlineData("3/8 BSF", 0.0840)]
    public void Stress_areas_of_inch_threads_are_those_of_the_standard(string thread, double area) => (ScrewThread.Find(thread).ShouldHaveSingleItem().StressArea / SquareInch).ShouldBe(area, 0.00006);

    // ISO 898-1, nominal stress areas, square millimetres.
    [Theory]
    [InlineData("M5", 14.18)]
    [InlineData("M6", 20.12)]
    [InlineData("M8", 36.61)]
    [InlineData("M10", 57.99)]
    [InlineData("M12", 84.27)]
    [InlineData("M16", 156.67)]
    [InlineData("M24", 352.50)]
    [InlineData("M8 x 1", 39.17)]
    [InlineData("M12x1.25", 92.07)]
    [InlineData("M24 × 2", 384.42)]
    public void Stress_areas_of_metric_threads_are_those_of_the_standard(string thread, double area) => (ScrewThread.Find(thread).ShouldHaveSingleItem().StressArea * 1e6).ShouldBe(area, 0.006);

    [Theory]
    [InlineData("1/2 UNC", "5", 75.38, 1.3558179483314)]
    [InlineData("1/4 UNC", "8", 11.93, 1.3558179483314)]
    [InlineData("7/8 UNC", "2", 166.7, 1.3558179483314)]
    [InlineData("1 UNF", "5", 704.5, 1.3558179483314)]
    [InlineData("M10", "8.8", 50.45, 1)]
    [InlineData("M18", "8.8", 311.8, 1)]
    [InlineData("M24 x 2", "12.9", 1342, 1)]
    public void Torques_are_those_of_the_table(string thread, string grade, double torque, double unit) => Ask(thread, grade)["torque"].Si.ShouldBe(torque * unit, torque * unit * 0.001);

    [Fact]
    public void The_worked_examples_come_out()
    {
        // 1/2-13 grade 5, dry, three quarters of proof: 9046 lbf, 75.38 lb ft, 102.2 N m.
        var inch = Ask("1/2-13", "5");
        inch["preload"].Si.ShouldBe(9046 * 4.4482216152605, 9046 * 4.448 * 0.001);
        inch["torque"].Text.ShouldBe("75.38\u00A0lb ft, 102.2\u00A0N m");
        inch.Working!.Steps.Count.ShouldBe(4);

        // M12x1.25 class 10.9, oiled: 57.31 kN, 110.0 N m, tap drill 10.8 mm.
        var metric = Ask("M12 x 1.25", "10.9", "0.16");
        metric["preload"].Si.ShouldBe(57_310, 57.31);
        metric["torque"].Si.ShouldBe(110.0, 0.11);
        ScrewThread.Find("M12 x 1.25")[0].TapDrill!.Value.ShouldBe(0.0108, 1e-12);
    }

    [Theory]
    [InlineData("", "5", "0.2", "75", "thread")]
    [InlineData("1/4-20", "5", "0.2", "75", "thread")]
    [InlineData("7/9 UNC", "5", "0.2", "75", "thread")]
    [InlineData("1/2 UNC", "8.8", "0.2", "75", "grade")]
    [InlineData("M10", "5", "0.2", "75", "grade")]
    [InlineData("1/2 BSW", "5", "0.2", "75", "grade")]
    [InlineData("1/4 UNF", "an", "0.2", "75", "grade")]
    [InlineData("1/2 UNC", "9", "0.2", "75", "grade")]
    [InlineData("1/2 UNC", "5", "0.36", "75", "k")]
    [InlineData("1/2 UNC", "5", "0.07", "75", "k")]
    [InlineData("1/2 UNC", "5", "NaN", "75", "k")]
    [InlineData("1/2 UNC", "5", "0.2", "96", "share")]
    [InlineData("1/2 UNC", "5", "0.2", "0", "share")]
    public void What_lies_outside_is_refused_beside_its_field(string thread, string grade, string k, string share, string field)
    {
        var answer = Ask(thread, grade, k, share);
        answer.Problems.Select(p => p.Field).ShouldBe([field]);
        answer.Figures.ShouldBeEmpty();
        answer.Working.ShouldBeNull();
    }

    [Fact]
    public void Limits_themselves_are_allowed_and_warnings_stand_beside_the_figures()
    {
        Ask("1/2 UNC", "5", "0.35", "95").Warnings.ShouldHaveSingleItem().ShouldContain("do not use the bolt again");
        Ask("1/2 UNC", "5", "0.08", "75").Warnings.ShouldBeEmpty();
        Ask("1/2 UNC", "unmarked").Warnings.ShouldHaveSingleItem().ShouldContain("SAE grade 2");
        Ask("M10", "unmarked")["torque"].Si.ShouldBe(Ask("M10", "4.6")["torque"].Si);
        Ask("1/4-20", "5").Problems[0].Sentence.ShouldBe("That is 1/4-20 UNC or 1/4-20 BSW: the one has 60 degrees, the other 55. Say which.");
    }

    [Fact]
    public void Torque_grows_with_friction_share_and_size_and_the_table_agrees_with_itself()
    {
        foreach (var thread in ScrewThread.All.Where(t => !t.IsWhitworth))
        {
            var grade = thread.IsMetric ? "8.8" : "5";
            var name = thread.IsMetric ? thread.Size : $"{thread.Size} {thread.Series}";
            var one = Ask(name, grade)["torque"].Si;
            Ask(name, grade, "0.30")["torque"].Si.ShouldBe(one * 1.5, one * 1e-9, name);
            Ask(name, grade, share: "37.5")["torque"].Si.ShouldBe(one / 2, one * 1e-9, name);
            Ask(name, grade)["preload"].Si.ShouldBe(one / (0.2 * thread.Diameter), 1e-6, name);

            // A tap drill leaves between half and 85 in 100 of a full thread.
            if (thread.TapDrill is { } drill)
            {
                (100 * (thread.Diameter - drill) / (1.299038 * thread.Pitch)).ShouldBeInRange(50, 85, name);
            }
        }

        foreach (var series in ScrewThread.All.GroupBy(t => t.Series))
        {
            var areas = series.OrderBy(t => t.Diameter).ThenByDescending(t => t.Pitch).Select(t => t.StressArea).ToList();
            areas.ShouldBe(areas.Order().ToList(), series.Key);
        }

        ScrewThread.All.Select(t => t.Name).Distinct().Count().ShouldBe(ScrewThread.All.Count);
    }
}
