using System.Globalization;
using CsCheck;
using OilTag.Core.Measures;

namespace OilTag.Core.Tests.Measures;

/// <summary>What people type in a workshop. Values are computed by definition of the inch.</summary>
public sealed class MeasureReaderTests
{
    [Theory]
    [InlineData("3/16\"", 4.7625)]
    [InlineData("3/16 in", 4.7625)]
    [InlineData("5/16 in", 7.9375)]
    [InlineData("5/32\"", 3.96875)]
    [InlineData("1 3/4 in", 44.45)]
    [InlineData("1-3/4\"", 44.45)]
    [InlineData("1 & 3/4 in", 44.45)]
    [InlineData("1¾\"", 44.45)]
    [InlineData("7/4 in", 44.45)]
    [InlineData("60 thou", 1.524)]
    [InlineData("60 th", 1.524)]
    [InlineData("0.060\"", 1.524)]
    [InlineData(".060 in", 1.524)]
    [InlineData("2 1/2 thou", 0.0635)]
    [InlineData("64 ft 0 1/8 in", 19510.375)]
    [InlineData("64' 0 1/8\"", 19510.375)]
    [InlineData("5' 10\"", 1778)]
    [InlineData("5ft10", 1778)]
    [InlineData("5 ft 10 in", 1778)]
    [InlineData("5′ 10″", 1778)]
    [InlineData("12 ft 7 5/8 in", 3851.275)]
    [InlineData("6 ft", 1828.8)]
    [InlineData("12.5mm", 12.5)]
    [InlineData("7,2 mm", 7.2)]
    [InlineData("7.2 mm.", 7.2)]
    [InlineData("3.2 m", 3200)]
    [InlineData("45 cm", 450)]
    [InlineData("1⁄2 in", 12.7)]
    [InlineData("3\u00A0/\u00A08 in", 9.525)]
    [InlineData("1000 mm", 1000)]
    [InlineData("0,125 mm", 0.125)]
    public void Reads_lengths(string text, double millimetres)
    {
        var read = MeasureReader.Read(text, Quantity.Length);
        read.Refusal.ShouldBeNull();
        read.Value!.Si.ShouldBe(millimetres / 1000, 1e-12 * Math.Max(1, millimetres));
        read.Value.Text.ShouldBe(text);
    }

    [Theory]
    [InlineData("", "Type a value with its unit")]
    [InlineData("7.2", "7.2 what? Add the unit")]
    [InlineData("3/0 in", "divides by nothing")]
    [InlineData("5-6 in", "reads as a range")]
    [InlineData("1/2-13", "thread or a date")]
    [InlineData("M12x1.25", "Start with the number")]
    [InlineData("4-6-0", "range")]
    [InlineData("1 3/4 1/8 in", "more than one value")]
    [InlineData("7/4 3 in", "more than one value")]
    [InlineData("-3 mm", "cannot be negative")]
    [InlineData("−3 mm", "cannot be negative")]
    [InlineData("60 mil", "thousandths of an inch or millimetres")]
    [InlineData("5 ton", "is a weight; this asks for a length")]
    [InlineData("3 lb", "is a weight; this asks for a length")]
    [InlineData("1,250 mm", "one and a bit, or thousands")]
    [InlineData("16 gauge", "Which gauge")]
    [InlineData("3 tenths", "Tenths of what")]
    [InlineData("150 psi", "not a unit of length")]
    [InlineData("7 furlongs", "not a unit that is known here")]
    [InlineData("1.5 3/4 in", "mixes a decimal and a fraction")]
    [InlineData("1 5/4 in", "one or more")]
    [InlineData("1.2.3 mm", "more than one comma or point")]
    [InlineData("1/2.5 in", "whole numbers")]
    [InlineData("1/ in", "nothing below it")]
    [InlineData("0 mm", "comes to nothing")]
    [InlineData("5 m 3'", "more than one value")]
    [InlineData("99999999999999999999 m", "larger than anything")]
    [InlineData("<b>7 mm</b>", "not a value that can be read")]
    [InlineData("12345678901234567890123456789012345678901 mm", "too long")]
    public void Refuses_or_asks_in_a_sentence(string text, string sentence)
    {
        var read = MeasureReader.Read(text, Quantity.Length);
        read.Value.ShouldBeNull();
        read.Refusal!.ShouldContain(sentence);
    }

    [Theory]
    [InlineData("5 ton", "Which ton")]
    [InlineData("7 cwt", "Which hundredweight")]
    [InlineData("12 mm", "is a length; this asks for a weight")]
    [InlineData("12", "Add the unit: kg or lb")]
    public void Asks_about_weights(string text, string sentence) => MeasureReader.Read(text, Quantity.Mass).Refusal!.ShouldContain(sentence);

    [Theory]
    [InlineData("5 long tons", 5080.234544)]
    [InlineData("5 short tons", 4535.9237)]
    [InlineData("5 tonnes", 5000)]
    [InlineData("4 lb 8 oz", 2.0411656650)]
    public void Reads_weights(string text, double kilograms) => MeasureReader.Read(text, Quantity.Mass).Value!.Si.ShouldBe(kilograms, 1e-9 * kilograms);

    [Fact]
    public void A_bare_number_takes_the_unit_of_the_field_when_it_has_one()
    {
        var read = MeasureReader.Read("7.2", Quantity.Length, Unit.Millimetre).Value!;
        read.Si.ShouldBe(0.0072, 1e-15);
        read.UnitSymbol.ShouldBe("mm");
    }

    [Fact]
    public void Any_text_gives_a_value_above_nought_or_a_sentence_and_never_both() =>
        Gen.String[Gen.Char["0123456789 ./,-'\"&inmthoucfkglbz¼½⅛′″−<>x#"], 0, 24].Sample(
            text =>
            {
                foreach (var quantity in new[] { Quantity.Length, Quantity.Mass })
                {
                    var read = MeasureReader.Read(text, quantity);
                    if (read.Value is { } v ? read.Refusal is not null || !double.IsFinite(v.Si) || v.Si <= 0 : string.IsNullOrWhiteSpace(read.Refusal))
                    {
                        return false;
                    }
                }

                return true;
            },
            iter: 100_000,
            seed: "0000000417OT");

    [Fact]
    public void Random_text_of_any_characters_never_throws() =>
        Gen.String.Sample(text => MeasureReader.Read(text, Quantity.Length) is not null, iter: 50_000);

    [Fact]
    public void A_decimal_in_any_unit_reads_back_to_its_value() =>
        Gen.Select(Gen.Int[1, 999_999], Gen.OneOfConst(Unit.Millimetre, Unit.Inch, Unit.Thou, Unit.Centimetre)).Sample((n, unit) =>
        {
            var typed = (n / 1000m).ToString("0.000", CultureInfo.InvariantCulture) + " " + unit.Symbol;
            return Math.Abs(MeasureReader.Read(typed, Quantity.Length).Value!.Si - (n / 1000.0 * unit.Factor)) <= 1e-12 * n * unit.Factor;
        });

    [Fact]
    public void What_is_shown_as_a_fraction_reads_back_to_the_same_value() =>
        Gen.Int[1, 64 * 200].Sample(sixtyFourths =>
        {
            var shown = MeasureFormat.Inches(sixtyFourths / 64.0 * Unit.Inch.Factor);
            return Math.Abs((MeasureReader.Read(shown, Quantity.Length).Value!.Si / Unit.Inch.Factor) - (sixtyFourths / 64.0)) < 1e-9;
        });
}

public sealed class MeasureFormatTests
{
    [Theory]
    [InlineData("60 thou", "1.524 mm")]
    [InlineData("5/16 in", "7.938 mm")]
    [InlineData("7.2 mm", "0.283 in")]
    [InlineData("9.525 mm", "3⁄8 in")]
    [InlineData("44.45 mm", "1 3⁄4 in")]
    [InlineData("64 ft 0 1/8 in", "19510 mm")]
    [InlineData("0.88 mm", "0.0346 in")]
    public void Shows_the_other_system(string typed, string other) =>
        MeasureFormat.Other(MeasureReader.Read(typed, Quantity.Length).Value!).Replace('\u00A0', ' ').ShouldBe(other);

    [Theory]
    [InlineData(0.37, null)]
    [InlineData(0.375, "3⁄8")]
    [InlineData(2, "2")]
    [InlineData(1.015625, "1 1⁄64")]
    [InlineData(double.NaN, null)]
    [InlineData(-0.5, null)]
    public void A_fraction_is_shown_only_where_it_is_one(double inches, string? shown) => MeasureFormat.Fraction(inches)?.Replace('\u00A0', ' ').ShouldBe(shown);

    [Theory]
    [InlineData(0.125, 2, "0.13")]
    [InlineData(-2.5, 0, "−3")]
    [InlineData(7, 3, "7")]
    [InlineData(-2e20, 1, "−2E+20")]
    public void Rounds_half_away_from_zero_for_display(double value, int decimals, string shown) => MeasureFormat.Number(value, decimals).ShouldBe(shown);
}
