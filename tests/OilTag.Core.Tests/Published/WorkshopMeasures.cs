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
}
