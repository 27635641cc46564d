using OilTag.Core.Cautions;
using OilTag.Core.Machines;
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

    // The register's "hides in": lagging on boilers, luminous dials in cockpits, primers on skins (common practice).
    [Theory]
    [InlineData(MachineKind.SteamLocomotive, 1911, "Barrel|Boiler", "1 9")]
    [InlineData(MachineKind.SteamLocomotive, 2008, "Barrel|Boiler", "9")]
    [InlineData(MachineKind.Aircraft, 1938, "Control column, left|Cockpit|Bow", "3 16")]
    [InlineData(MachineKind.Aircraft, 1985, "Control column, left|Cockpit", "")]
    [InlineData(MachineKind.Tractor, 1949, "Clutch plate|Clutch|Gearbox", "1 7")]
    [InlineData(MachineKind.Carriage, 1904, "Corner post|Body frame|Car body", "2")]
    [InlineData(MachineKind.Tractor, 2015, "Seat pan|Driver's seat", "")]
    public void What_hides_at_a_place_is_raised_by_kind_year_and_assembly(MachineKind kind, int year, string path, string numbers) =>
        string.Join(' ', CautionRules.At(kind, year, path.Split('|')).Select(c => c.Number)).ShouldBe(numbers);

    [Theory]
    [InlineData("Detail plate")]
    [InlineData("Elbow")]
    [InlineData("Threshold")]
    public void Only_whole_words_of_a_place_count(string name) => CautionRules.At(MachineKind.Aircraft, 1938, [name]).ShouldBeEmpty();

    [Fact]
    public void Every_place_caution_is_one_of_the_register()
    {
        var all = CautionRules.At(MachineKind.Aircraft, 1938, ["Cockpit", "Hull", "Engine", "Propeller", "Seat", "Fuel tank", "Magneto", "Wing", "Undercarriage", "Brake"]);
        all.Select(c => c.Number).ShouldBeUnique();
        all.ShouldAllBe(c => c.Number >= 1 && c.Number <= 28 && c.Text.Length > 0);
        all.Select(c => c.Number).ShouldBe([1, 2, 3, 5, 6, 8, 10, 13, 16, 20, 23, 25, 28]);
    }

    [Fact]
    public void What_the_words_say_stands_first_and_nothing_stands_twice() =>
        CautionRules.At(MachineKind.SteamLocomotive, 1911, ["Boiler"], "Weld the boiler seam").Select(c => c.Number).ShouldBe([9, 12, 1]);

    [Theory]
    [InlineData("60 lb", true)]
    [InlineData("24 kg", false)]
    public void A_heavy_part_asks_for_two_people(string weight, bool caution) => (CautionRules.ForWeight(MeasureReader.Read(weight, Quantity.Mass).Value) is not null).ShouldBe(caution);
}
