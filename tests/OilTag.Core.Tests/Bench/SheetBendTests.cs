using CsCheck;
using OilTag.Core.Bench;

namespace OilTag.Core.Tests.Bench;

/// <summary>Bends against worked examples (FAA airframe handbook and the reference values, section 6).</summary>
public sealed class SheetBendTests
{
    private const double Inch = 0.0254;

    private static BenchAnswer Ask(string thickness, string radius, string angle = "90", string legs = "", string k = "", string metal = "other") =>
        Calculator.All.First(c => c.Key == "bend").Answer(f => f switch { "thickness" => thickness, "radius" => radius, "angle" => angle, "legs" => legs, "k" => k, "metal" => metal, _ => null });

    [Fact]
    public void A_right_angle_by_the_handbook()
    {
        var a = Ask("0.040 in", "0.125 in", k: "empirical");
        (a["allowance"].Si / Inch).ShouldBe(0.2242, 0.00005);
        (a["setback"].Si / Inch).ShouldBe(0.1650, 0.00005);
        (a["deduction"].Si / Inch).ShouldBe(0.1058, 0.00005);
        (Ask("0.040 in", "0.125 in", k: "0.4475")["allowance"].Si / Inch).ShouldBe(0.2245, 0.00005);
    }

    [Fact]
    public void A_channel_and_its_flats()
    {
        var a = Ask("0.040 in", "0.125 in", legs: "1.00 + 2.00 + 1.00 in", k: "empirical");
        (a["flat"].Si / Inch).ShouldBe(3.788, 0.0005);
        (a["flat1"].Si / Inch).ShouldBe(0.8350, 0.00005);
        (a["flat2"].Si / Inch).ShouldBe(1.670, 0.0005);
        (a["flat3"].Si / Inch).ShouldBe(0.8350, 0.00005);
        a.Working!.Result.ShouldStartWith("Flat length: 3.788");
    }

    [Fact]
    public void Sixty_degrees_and_millimetres()
    {
        var sixty = Ask("0.063 in", "0.190 in", "60", k: "empirical");
        (sixty["allowance"].Si / Inch).ShouldBe(0.2282, 0.00005);
        (sixty["setback"].Si / Inch).ShouldBe(0.1461, 0.00005);
        var metric = Ask("1 mm", "3 mm", legs: "25 + 40 mm", k: "0.45");
        (metric["allowance"].Si * 1000).ShouldBe(5.419, 0.0005);
        (metric["setback"].Si * 1000).ShouldBe(4.000, 0.0005);
        (metric["deduction"].Si * 1000).ShouldBe(2.581, 0.0005);
        (metric["flat"].Si * 1000).ShouldBe(62.42, 0.005);
    }

    // K by radius in thicknesses: common practice.
    [Theory]
    [InlineData("1 mm", 0.33)]
    [InlineData("2 mm", 0.42)]
    [InlineData("4 mm", 0.45)]
    [InlineData("8 mm", 0.50)]
    public void K_is_chosen_by_the_radius(string radius, double k)
    {
        var a = Ask("1 mm", radius);
        a["allowance"].Si.ShouldBe(Ask("1 mm", radius, k: k.ToString(System.Globalization.CultureInfo.InvariantCulture))["allowance"].Si, 1e-15);
        a.Working!.Steps[0].ShouldContain("common practice");
    }

    [Theory]
    [InlineData("", "3 mm", "90", "", "", "thickness")]
    [InlineData("0.004 in", "3 mm", "90", "", "", "thickness")]
    [InlineData("0.6 in", "3 mm", "90", "", "", "thickness")]
    [InlineData("1 mm", "", "90", "", "", "radius")]
    [InlineData("1 mm", "-3 mm", "90", "", "", "radius")]
    [InlineData("1 mm", "3 mm", "0", "", "", "angle")]
    [InlineData("1 mm", "3 mm", "180", "", "", "angle")]
    [InlineData("1 mm", "3 mm", "90", "3 + 40 mm", "", "legs")]
    [InlineData("1 mm", "3 mm", "90", "25 + 7 + 25 mm", "", "legs")]
    [InlineData("1 mm", "3 mm", "90", "25 mm", "", "legs")]
    [InlineData("1 mm", "3 mm", "90", "25 + 40", "", "legs")]
    [InlineData("1 mm", "3 mm", "90", "", "0.29", "k")]
    [InlineData("1 mm", "3 mm", "90", "", "0.51", "k")]
    [InlineData("1 mm", "3 mm", "90", "", "NaN", "k")]
    public void What_lies_outside_is_refused_beside_its_field(string thickness, string radius, string angle, string legs, string k, string field) =>
        Ask(thickness, radius, angle, legs, k).Problems.Select(p => p.Field).ShouldBe([field]);

    [Fact]
    public void A_radius_that_cracks_is_warned_of()
    {
        Ask("1 mm", "2 mm", metal: "2024-t3").Warnings.ShouldHaveSingleItem().ShouldContain("will crack");
        Ask("1 mm", "4 mm", metal: "2024-t3").Warnings.ShouldHaveSingleItem().ShouldContain("may crack");
        Ask("1 mm", "5 mm", metal: "2024-t3").Warnings.ShouldBeEmpty();
        Ask("1 mm", "0", metal: "6061-o").Warnings.ShouldHaveSingleItem();
        Ask("1 mm", "0")["setback"].Si.ShouldBe(0.001, 1e-15);
    }

    [Fact]
    public void The_same_bend_in_both_systems_is_the_same_and_more_angle_takes_more_sheet() =>
        Gen.Select(Gen.Double[0.13, 12.7], Gen.Double[0.1, 50], Gen.Double[1, 170]).Sample((t, r, a) =>
        {
            string Text(double v) => v.ToString("0.############", System.Globalization.CultureInfo.InvariantCulture);
            var mm = Ask(Text(t) + " mm", Text(r) + " mm", Text(a));
            var inch = Ask(Text(t / 25.4) + " in", Text(r / 25.4) + " in", Text(a));
            if (mm.Problems.Count > 0 || inch.Problems.Count > 0)
            {
                // At the very limit of a thickness the twelfth decimal decides.
                return t is < 0.1271 or > 12.699;
            }

            var more = Ask(Text(t) + " mm", Text(r) + " mm", Text(a + 1));
            return Math.Abs(mm["allowance"].Si - inch["allowance"].Si) < 1e-9 && Math.Abs(mm["deduction"].Si - inch["deduction"].Si) < 1e-9
                && more["allowance"].Si > mm["allowance"].Si && more["setback"].Si > mm["setback"].Si;
        }, iter: 2000, threads: 1);
}
