using OilTag.Core.Bench;

namespace OilTag.Core.Tests.Bench;

public sealed class CuttingTests
{
    private static BenchAnswer Ask(string key, string typed)
    {
        var pairs = typed.Split('&').Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1]);
        var c = Calculator.Find(key)!;
        return c.Answer(f => pairs.GetValueOrDefault(f) ?? c.Fields.First(x => x.Name == f).Usual);
    }

    [Theory]
    [InlineData("lengths=500 mm; 400 mm&pieces=3; 2&bar=1.2 m&kerf=3 mm&allowance=0 mm", 3)]
    [InlineData("lengths=500 mm; 400 mm&pieces=3; 2&bar=2.3 m&kerf=3 mm&allowance=0 mm", 2)]
    [InlineData("lengths=12 in&pieces=4&bar=4 ft&kerf=0 mm&allowance=0 mm", 1)]
    [InlineData("lengths=12 in&pieces=4&bar=4 ft&kerf=1/8 in&allowance=0 mm", 2)]
    public void Bars_are_counted_by_hand_as_well(string typed, double bars) => Ask("bars", typed)["bars"].Si.ShouldBe(bars);

    [Theory]
    [InlineData("widths=500 mm&heights=250 mm&pieces=16&width=2 m&height=1 m&gap=0 mm", 1)]
    [InlineData("widths=500 mm&heights=250 mm&pieces=16&width=2 m&height=1 m&gap=3 mm", 2)]
    [InlineData("widths=0.9 m&heights=1.5 m&pieces=1&width=2 m&height=1 m&gap=0 mm", 1)]
    public void Sheets_are_counted_by_hand_as_well(string typed, double sheets) => Ask("sheets", typed)["sheets"].Si.ShouldBe(sheets);

    [Theory]
    [InlineData("section=round&across=25 mm", 3.853)] // steel handbooks: 3.85 kg a metre
    [InlineData("section=square&across=25 mm", 4.906)] // 4.91
    [InlineData("section=hexagon&across=24 mm", 3.916)] // 3.92
    [InlineData("section=flat&across=50 mm&thick=6 mm", 2.355)] // 2.36
    [InlineData("section=tube&across=48.3 mm&thick=3.2 mm", 3.559)] // EN 10220: 3.56
    [InlineData("section=round&across=25 mm&material=brass", 4.158)] // 4.16
    public void A_metre_of_bar_weighs_what_the_handbook_says(string section, double kilograms)
    {
        var a = Ask("bars", "lengths=500 mm&pieces=2&bar=1 m&kerf=0 mm&allowance=0 mm&" + section);
        a["mass"].Si.ShouldBe(kilograms, 0.001);
        a["netMass"].Si.ShouldBe(kilograms, 0.001);
        a.Working!.Steps.ShouldContain(s => s.Contains("ρ · A · L", StringComparison.Ordinal));
    }

    [Fact]
    public void Weight_and_cost_stand_beside_sheets_and_bars()
    {
        // One square metre of 1 mm steel weighs 7.85 kg; two of them, half of which become blanks.
        const string Sheet = "widths=500 mm&heights=1 m&pieces=2&width=1 m&height=1 m&gap=3 mm&thick=1 mm";
        var a = Ask("sheets", Sheet);
        a["sheets"].Si.ShouldBe(2);
        a["mass"].Si.ShouldBe(15.7, 1e-9);
        a["sheetMass"].Si.ShouldBe(7.85, 1e-9);
        a["netMass"].Si.ShouldBe(7.85, 1e-9);
        a.Figures.ShouldNotContain(f => f.Name == "cost");
        Ask("sheets", Sheet + "&price=12.50")["cost"].Si.ShouldBe(25, 1e-9);
        Ask("sheets", Sheet + "&price=2&per=kilogram")["cost"].Si.ShouldBe(31.4, 1e-9);
        Ask("sheets", Sheet + "&price=12.50&per=metre")["cost"].Text.ShouldBe("£25.00");
        const string Bar = "lengths=900 mm&pieces=3&bar=2 m&kerf=0 mm&allowance=0 mm";
        Ask("bars", Bar + "&price=8")["cost"].Si.ShouldBe(16, 1e-9);
        Ask("bars", Bar + "&price=8&per=metre")["cost"].Si.ShouldBe(32, 1e-9);
        Ask("bars", Bar + "&price=8&per=kilogram&section=square&across=20 mm")["cost"].Si.ShouldBe(4 * 0.0004 * 7850 * 8, 1e-9);
        Ask("bars", Bar).Figures.ShouldNotContain(f => f.Name == "mass" || f.Name == "cost");
    }

    [Fact]
    public void Making_pays_from_where_the_saved_pounds_pay_the_tools()
    {
        // 400 of tools and set-up, 15 saved a piece: 27 pieces (400/15 = 26.7).
        var a = Ask("make-or-buy", "pieces=20&tooling=300&setup=100&make=10&makeWeeks=6&buy=25&buyWeeks=12");
        a["even"].Si.ShouldBe(27);
        a["make"].Label.ShouldBe("Buy");
        a["make"].Si.ShouldBe(600);
        a["buy"].Si.ShouldBe(500);
        Ask("make-or-buy", "pieces=27&tooling=300&setup=100&make=10&makeWeeks=6&buy=25&buyWeeks=12")["make"].Label.ShouldBe("Make");
        var late = Ask("make-or-buy", "pieces=20&tooling=300&setup=100&make=10&makeWeeks=6&buy=25&buyWeeks=12&need=8");
        late["make"].Label.ShouldBe("Make");
        late.Warnings.ShouldHaveSingleItem().ShouldContain("Bought, it comes after 12 weeks");
        Ask("make-or-buy", "pieces=2&make=10&makeWeeks=6")["make"].Label.ShouldBe("Make");
    }

    [Fact]
    public void A_part_at_the_very_swing_fits_and_one_beyond_does_not()
    {
        const string Machine = "&swing=410 mm&saddle=250 mm&between=1.5 m&most=250 kg";
        Ask("machine-fit", "diameter=410 mm&length=1.5 m&mass=250 kg" + Machine)["fits"].Si.ShouldBe(1);
        var no = Ask("machine-fit", "diameter=411 mm&length=1.6 m&mass=251 kg" + Machine);
        no["fits"].Si.ShouldBe(0);
        no["fits"].Text.ShouldContain("too large for the bed");
        no["fits"].Text.ShouldContain("too long");
        no["fits"].Text.ShouldContain("too heavy");
        Ask("machine-fit", "diameter=300 mm&length=1 m&mass=20 kg" + Machine).Warnings.ShouldHaveSingleItem().ShouldContain("saddle cannot pass");
    }

    [Theory]
    [InlineData("bars", "lengths=4 m&pieces=1&bar=3 m", "bar")]
    [InlineData("bars", "lengths=1 m; 2 m&pieces=1&bar=3 m", "pieces")]
    [InlineData("bars", "lengths=1 m&pieces=1.5&bar=3 m", "pieces")]
    [InlineData("bars", "lengths=1 m&pieces=501&bar=3 m", "pieces")]
    [InlineData("bars", "lengths=1 m&pieces=1&bar=3 m&kerf=-1 mm", "kerf")]
    [InlineData("sheets", "widths=1.5 m&heights=0.9 m&pieces=1&width=1 m&height=2 m&grain=keep", "width")]
    [InlineData("sheets", "widths=1 m&heights=1 m; 2 m&pieces=1&width=2 m&height=1 m", "heights")]
    [InlineData("bars", "lengths=1 m&pieces=1&bar=3 m&section=round", "across")]
    [InlineData("bars", "lengths=1 m&pieces=1&bar=3 m&section=tube&across=20 mm&thick=10 mm", "thick")]
    [InlineData("bars", "lengths=1 m&pieces=1&bar=3 m&section=flat&across=6 mm&thick=50 mm", "thick")]
    [InlineData("bars", "lengths=1 m&pieces=1&bar=3 m&price=-1", "price")]
    [InlineData("bars", "lengths=1 m&pieces=1&bar=3 m&price=2&per=kilogram", "section")]
    [InlineData("sheets", "widths=1 m&heights=1 m&pieces=1&width=2 m&height=1 m&price=2&per=kilogram", "thick")]
    [InlineData("sheets", "widths=1 m&heights=1 m&pieces=1&width=2 m&height=1 m&thick=x", "thick")]
    [InlineData("make-or-buy", "pieces=1.5&make=10&makeWeeks=6", "pieces")]
    [InlineData("make-or-buy", "pieces=2&make=10&makeWeeks=6&buy=x&buyWeeks=2", "buy")]
    [InlineData("machine-fit", "diameter=1 m&length=1 m&mass=1 kg&swing=300 mm&saddle=400 mm&between=1 m&most=9 kg", "saddle")]
    public void What_lies_outside_is_refused_beside_its_field(string key, string typed, string field) => Ask(key, typed).Problems.ShouldContain(p => p.Field == field);

    [Fact]
    public void Tooling_that_serves_other_machines_is_shared()
    {
        // 600 pounds of pattern for 8 pieces at 30, bought at 90: alone making costs 840 against 720, shared by three machines 440.
        const string Ask = "pieces=8&tooling=600&make=30&makeWeeks=6&buy=90&buyWeeks=4";
        WorkedExamplesTests.Ask("make-or-buy", Ask)["make"].Label.ShouldBe("Buy");
        var shared = WorkedExamplesTests.Ask("make-or-buy", Ask + "&machines=3");
        shared["make"].Label.ShouldBe("Make");
        shared["make"].Si.ShouldBe(440, 1e-9);
        WorkedExamplesTests.Ask("make-or-buy", Ask + "&machines=1.5").Problems.ShouldHaveSingleItem().Field.ShouldBe("machines");
    }
}
