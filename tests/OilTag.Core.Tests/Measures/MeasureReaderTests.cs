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
    [InlineData("25 µm", 0.025)]
    [InlineData("25 μm", 0.025)]
    [InlineData("12 microns", 0.012)]
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
    [InlineData("5 t", "Which ton")]
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

    [Theory]
    [InlineData("75 lb ft", Quantity.Torque, "lb ft")]
    [InlineData("75 ft-lb", Quantity.Torque, "lb ft")]
    [InlineData("75 lbf.ft", Quantity.Torque, "lb ft")]
    [InlineData("30 Nm", Quantity.Torque, "N m")]
    [InlineData("30 N·m", Quantity.Torque, "N m")]
    [InlineData("10,5 bar", Quantity.Pressure, "bar")]
    [InlineData("150 lb/in²", Quantity.Pressure, "psi")]
    [InlineData("1 kg/cm2", Quantity.Pressure, "kgf/cm2")]
    [InlineData("-5 °C", Quantity.Temperature, "°C")]
    [InlineData("371 C", Quantity.Temperature, "°C")]
    [InlineData("5 imperial gallons", Quantity.Volume, "imp gal")]
    [InlineData("500 cm3", Quantity.Volume, "ml")]
    [InlineData("24.3 volts", Quantity.Voltage, "V")]
    [InlineData("-0.2 V", Quantity.Voltage, "V")]
    [InlineData("3.5 amps", Quantity.Current, "A")]
    [InlineData("2 MΩ", Quantity.Resistance, "MΩ")]
    [InlineData("2 Mohm", Quantity.Resistance, "MΩ")]
    [InlineData("2 mohm", Quantity.Resistance, "mΩ")]
    [InlineData("0 ohm", Quantity.Resistance, "Ω")]
    [InlineData("1 h 30", Quantity.Duration, "min")]
    [InlineData("12.5 hours", Quantity.Duration, "h")]
    [InlineData("3° 20'", Quantity.Angle, "arcmin")]
    [InlineData("-3.5 deg", Quantity.Angle, "°")]
    [InlineData("2400 lbf", Quantity.Force, "lbf")]
    [InlineData("12 stone 4 lb", Quantity.Mass, "lb")]
    [InlineData("2 long tons 3 long cwt", Quantity.Mass, "long cwt")]
    [InlineData("6 ft. 2 in.", Quantity.Length, "in")]
    public void Reads_every_quantity(string text, Quantity quantity, string unit)
    {
        var read = MeasureReader.Read(text, quantity);
        read.Value.ShouldNotBeNull(read.Refusal).UnitSymbol.ShouldBe(unit);
    }

    [Theory]
    [InlineData("1 h 30", Quantity.Duration, 5400)]
    [InlineData("3° 20'", Quantity.Angle, 0.05817764173)]
    [InlineData("-40 °F", Quantity.Temperature, 233.15)]
    [InlineData("12 stone 4 lb", Quantity.Mass, 78.01788764)]
    public void Adds_up_what_is_said_in_two_parts(string text, Quantity quantity, double si) => MeasureReader.Read(text, quantity).Value!.Si.ShouldBe(si, si * 1e-9);

    [Theory]
    [InlineData("40 gal", Quantity.Volume, "Which gallon")]
    [InlineData("3 pints", Quantity.Volume, "Which pint")]
    [InlineData("30 lb", Quantity.Force, "Mass or force")]
    [InlineData("30 lb", Quantity.Torque, "not a unit of torque")]
    [InlineData("30 deg", Quantity.Temperature, "which scale")]
    [InlineData("2 MOHM", Quantity.Resistance, "Milliohm or megohm")]
    [InlineData("-300 °C", Quantity.Temperature, "colder than cold")]
    [InlineData("-3 bar", Quantity.Pressure, "cannot be negative")]
    [InlineData("12 V", Quantity.Current, "not a unit of current")]
    [InlineData("3 tons", Quantity.Force, "Which ton")]
    [InlineData("No. 99 drill", Quantity.Length, "from 1 to 80")]
    [InlineData("99 swg", Quantity.Length, "no such gauge")]
    [InlineData("letter 5", Quantity.Length, "from A to Z")]
    [InlineData("12 x 1.25", Quantity.Length, "a thread")]
    [InlineData("1/2-13 in", Quantity.Length, "thread")]
    public void Asks_or_refuses_in_every_quantity(string text, Quantity quantity, string sentence)
    {
        var read = MeasureReader.Read(text, quantity);
        read.Value.ShouldBeNull();
        read.Refusal!.ShouldContain(sentence);
    }

    [Theory]
    [InlineData("3/7 in", "not on any rule")]
    [InlineData("5 ft 14 in", "a whole ft or more")]
    [InlineData("5/16 in", null)]
    public void Takes_with_a_note_what_is_odd(string text, string? note)
    {
        var read = MeasureReader.Read(text, Quantity.Length);
        read.Value.ShouldNotBeNull();
        if (note is null)
        {
            read.Note.ShouldBeNull();
        }
        else
        {
            read.Note!.ShouldContain(note);
        }
    }

    [Theory]
    [InlineData("7 to 8 mm", 0.007, 0.008)]
    [InlineData("7-8 mm", 0.007, 0.008)]
    [InlineData("7 – 8 mm", 0.007, 0.008)]
    [InlineData("1/4 to 5/16 in", 0.00635, 0.0079375)]
    [InlineData("250 thou to 5/16 in", 0.00635, 0.0079375)]
    [InlineData("1-3/4 in", 0.04445, 0.04445)]
    [InlineData("7.2 mm", 0.0072, 0.0072)]
    public void Reads_ranges(string text, double low, double high)
    {
        var read = MeasureReader.ReadRange(text, Quantity.Length);
        read.Refusal.ShouldBeNull();
        read.Low!.Si.ShouldBe(low, 1e-12);
        read.High!.Si.ShouldBe(high, 1e-12);
    }

    [Theory]
    [InlineData("8 to 7 mm", "runs backwards")]
    [InlineData("7 to mm", "Start with the number")]
    [InlineData("7 to 8", "Add the unit")]
    [InlineData("-", "cannot be negative")]
    [InlineData("", "Type a value")]
    public void Refuses_what_is_no_range(string text, string sentence) => MeasureReader.ReadRange(text, Quantity.Length).Refusal!.ShouldContain(sentence);

    [Fact]
    public void Any_text_gives_a_value_in_range_or_a_sentence_and_never_both() =>
        Gen.Select(Gen.String[Gen.Char["0123456789 ./,-'\"&inmthoucfkglbzNVAΩ°¼½⅛′″−<>x#"], 0, 24], Gen.Enum<Quantity>()).Sample(
            (text, quantity) =>
            {
                var read = MeasureReader.Read(text, quantity);
                var range = MeasureReader.ReadRange(text, quantity);
                return (read.Value is { } v ? read.Refusal is null && double.IsFinite(v.Si) && v.Unit.Quantity == quantity : !string.IsNullOrWhiteSpace(read.Refusal))
                    && (range.Low is { } low ? range.Refusal is null && low.Si <= range.High!.Si : !string.IsNullOrWhiteSpace(range.Refusal));
            },
            iter: 200_000,
            seed: "0000000417OT");

    [Theory]
    [InlineData("1° 30'", 1.5)]
    [InlineData("1° 30' 36\"", 1.51)]
    [InlineData("36 arcsec", 0.01)]
    [InlineData("36 seconds of arc", 0.01)]
    public void Reads_angles_down_to_the_second(string text, double degrees)
    {
        var read = MeasureReader.Read(text, Quantity.Angle);
        read.Refusal.ShouldBeNull();
        Unit.Degree.FromSi(read.Value!.Si).ShouldBe(degrees, 1e-9);
    }

    [Fact]
    public void A_text_with_its_unit_reads_the_same_whatever_the_field_would_take_a_bare_number_for() =>
        Gen.Select(Gen.Int[1, 99_999], Gen.Int[0, 3], Gen.OneOfConst([.. Unit.All])).Sample(
            (n, decimals, unit) =>
            {
                var typed = MeasureFormat.Number(n / Math.Pow(10, decimals), decimals) + " " + unit.Symbol;
                var alone = MeasureReader.Read(typed, unit.Quantity).Value;
                return alone is null || Unit.All.Where(u => u.Quantity == unit.Quantity).All(bare => MeasureReader.Read(typed, unit.Quantity, bare).Value == alone);
            },
            iter: 20_000);

    [Fact]
    public void What_is_written_in_a_unit_reads_back_to_the_same_value() =>
        Gen.Select(Gen.Double[0.01, 900], Gen.OneOfConst([.. Unit.All])).Sample(
            (value, unit) =>
            {
                var shown = MeasureFormat.In(unit.ToSi(value), unit);
                var read = MeasureReader.Read(shown, unit.Quantity).Value;
                return read is not null && MeasureFormat.In(read.Si, read.Unit) == shown && Math.Abs(unit.FromSi(read.Si) - value) <= (0.5 * Math.Pow(10, -unit.Decimals)) + 1e-9;
            },
            iter: 50_000);

    [Fact]
    public void What_is_there_never_shows_as_nought()
    {
        MeasureFormat.In(Unit.Thou.ToSi(0.02), Unit.Thou).ShouldBe("0.02\u00A0thou");
        MeasureFormat.In(Unit.Thou.ToSi(-0.004), Unit.Thou).ShouldBe("\u22120.004\u00A0thou");
        MeasureFormat.In(0, Unit.Thou).ShouldBe("0\u00A0thou");
        MeasureFormat.In(Unit.Thou.ToSi(0.16), Unit.Thou).ShouldBe("0.2\u00A0thou");
    }

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
    [InlineData(0.37, 64, "3⁄8 in less 5 thou")]
    [InlineData(0.39370078740157, 64, "25⁄64 in and 3.076 thou")]
    [InlineData(0.375, 16, "3⁄8 in")]
    public void Names_the_nearest_fraction_and_what_is_left(double inches, int parts, string shown) => MeasureFormat.NearestFraction(inches * 0.0254, parts)!.Replace('\u00A0', ' ').ShouldBe(shown);

    [Theory]
    [InlineData(101.6863461, 4, "101.7")]
    [InlineData(1357.246, 3, "1360")]
    [InlineData(0.00012345, 2, "0.00012")]
    [InlineData(0, 4, "0")]
    public void Shows_so_many_significant_digits(double value, int digits, string shown) => MeasureFormat.Significant(value, digits).ShouldBe(shown);

    [Theory]
    [InlineData(0.125, 2, "0.13")]
    [InlineData(-2.5, 0, "−3")]
    [InlineData(7, 3, "7")]
    [InlineData(-2e20, 1, "−2E+20")]
    public void Rounds_half_away_from_zero_for_display(double value, int decimals, string shown) => MeasureFormat.Number(value, decimals).ShouldBe(shown);
}
