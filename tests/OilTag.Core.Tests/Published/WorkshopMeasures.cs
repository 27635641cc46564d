using OilTag.Core.Measures;

namespace OilTag.Core.Tests.Published;

/// <summary>Exact factors: international yard and pound agreement 1959; NIST SP 811, appendix B (from memory, checked by computing).</summary>
public sealed class WorkshopMeasures
{
    [Theory]
    [InlineData("1 in", 0.0254)]
    [InlineData("1 thou", 0.0000254)]
    [InlineData("1 ft", 0.3048)]
    [InlineData("1 m", 1)]
    [InlineData("1 mm", 0.001)]
    [InlineData("1 cm", 0.01)]
    public void Lengths_have_their_exact_factor(string text, double metres) =>
        MeasureReader.Read(text, Quantity.Length).Value!.Si.ShouldBe(metres, metres * 1e-12);

    [Theory]
    [InlineData("1 lb", 0.45359237)]
    [InlineData("1 oz", 0.028349523125)]
    [InlineData("1 long cwt", 50.80234544)]
    [InlineData("1 short cwt", 45.359237)]
    [InlineData("1 long ton", 1016.0469088)]
    [InlineData("1 short ton", 907.18474)]
    [InlineData("1 tonne", 1000)]
    [InlineData("1 kg", 1)]
    [InlineData("1 g", 0.001)]
    public void Masses_have_their_exact_factor(string text, double kilograms) =>
        MeasureReader.Read(text, Quantity.Mass).Value!.Si.ShouldBe(kilograms, kilograms * 1e-12);

    /// <summary>The check examples of the agreed reference values, computed from the exact factors.</summary>
    [Theory]
    [InlineData("12 ft 7 5/8 in", Quantity.Length, 3.851275)]
    [InlineData("75 lb ft", Quantity.Torque, 101.6863461)]
    [InlineData("900 lb in", Quantity.Torque, 101.6863461)]
    [InlineData("150 psi", Quantity.Pressure, 1034213.594)]
    [InlineData("7 long cwt 2 qr", Quantity.Mass, 381.0175908)]
    [InlineData("40 imp gal", Quantity.Volume, 0.1818436)]
    [InlineData("40 US gal", Quantity.Volume, 0.15141647136)]
    [InlineData("700 degF", Quantity.Temperature, 644.2611111)]
    [InlineData("150 °F", Quantity.TemperatureDifference, 83.33333333)]
    [InlineData("No. 21 drill", Quantity.Length, 0.0040386)]
    [InlineData("letter Q", Quantity.Length, 0.0084328)]
    [InlineData("#30", Quantity.Length, 0.0032639)]
    [InlineData("F drill", Quantity.Length, 0.0065278)]
    [InlineData("16 swg", Quantity.Length, 0.0016256)]
    public void The_worked_examples_come_out(string text, Quantity quantity, double si)
    {
        var read = MeasureReader.Read(text, quantity);
        read.Value.ShouldNotBeNull(read.Refusal).Si.ShouldBe(si, si * 1e-9);
    }

    /// <summary>Sheet gauges of the reference values, in inches: SWG from memory of BS 3737, AWG computed to four decimals.</summary>
    [Theory]
    [InlineData(10, 0.128, 0.1019)]
    [InlineData(12, 0.104, 0.0808)]
    [InlineData(14, 0.080, 0.0641)]
    [InlineData(16, 0.064, 0.0508)]
    [InlineData(18, 0.048, 0.0403)]
    [InlineData(20, 0.036, 0.0320)]
    [InlineData(22, 0.028, 0.0253)]
    [InlineData(24, 0.022, 0.0201)]
    [InlineData(26, 0.018, 0.0159)]
    public void Sheet_gauges_are_the_tabled_ones(int gauge, double swg, double awg)
    {
        WorkshopTables.Swg(gauge)!.Value.ShouldBe(swg, 1e-12);
        WorkshopTables.Awg(gauge)!.Value.ShouldBe(awg, 5e-5);
    }
}
