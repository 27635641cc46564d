using OilTag.Core.Cautions;
using OilTag.Core.Measures;

namespace OilTag.Core.Tests.Cautions;

/// <summary>Which words raise which entry of the register. Entries and words: common practice; the cases are computed from them.</summary>
public sealed class CautionRulesTests
{
    [Theory]
    [InlineData("Renew clutch lining and rivet on new facings", "1 7 21")]
    [InlineData("Clean compass dial and re-letter", "3")]
    [InlineData("Machine magnesium wheel half, keep swarf", "5 22")]
    [InlineData("Drain petrol tank before welding bracket", "10 12 13")]
    [InlineData("Recharge oleo leg after overhaul", "6")]
    [InlineData("Sandwich lunch rota for open day", "")]
    [InlineData("Stripping and chipping old cab panels", "2 21")]
    [InlineData("Spray two-pack primer over old yellow primer", "14 16")]
    [InlineData("Remove canopy cartridge from seat rail", "8")]
    public void Words_raise_the_entries_of_the_register(string text, string numbers) =>
        string.Join(' ', CautionRules.For(text).Select(c => c.Number)).ShouldBe(numbers);

    [Fact]
    public void Every_caution_ends_with_who_decides_and_none_says_that_it_is_safe()
    {
        var all = CautionRules.For("asbestos red lead radium mercury magnesium oleo spring flare boiler tank jack weld fuel isocyanate pcb chromate beryllium epoxy battery propeller rivet wheel magneto oxygen mould solvent silica roof");
        all.Count.ShouldBe(28);
        all.ShouldAllBe(c => c.Text.EndsWith("decides.", StringComparison.Ordinal) || c.Text.EndsWith("decide.", StringComparison.Ordinal));
        all.ShouldAllBe(c => !c.Text.Contains("is safe", StringComparison.OrdinalIgnoreCase));
    }

    [Theory]
    [InlineData("60 lb", true)]
    [InlineData("24 kg", false)]
    public void A_heavy_part_asks_for_two_people(string weight, bool caution) => (CautionRules.ForWeight(MeasureReader.Read(weight, Quantity.Mass).Value) is not null).ShouldBe(caution);
}
