using System.Diagnostics;
using System.Globalization;
using OilTag.Core.Measures;

namespace OilTag.Core.Tests.Published;

/// <summary>
/// Every unit and every table against GNU units, an independent reference program (Debian package units). Its definitions of the pound, the yard
/// and standard gravity are the same legal ones; what it prints has fifteen digits.
/// </summary>
public sealed class GnuUnits
{
    private static readonly (Unit Unit, string Theirs)[] Names =
    [
        (Unit.Micrometre, "micrometer"), (Unit.Millimetre, "mm"), (Unit.Centimetre, "cm"), (Unit.Metre, "m"), (Unit.Inch, "in"), (Unit.Thou, "mil"), (Unit.Foot, "ft"), (Unit.Yard, "yd"),
        (Unit.Gram, "g"), (Unit.Kilogram, "kg"), (Unit.Tonne, "tonne"), (Unit.Pound, "lb"), (Unit.Ounce, "oz"), (Unit.Stone, "stone"), (Unit.Quarter, "brquarterweight"),
        (Unit.LongHundredweight, "brhundredweight"), (Unit.ShortHundredweight, "ushundredweight"), (Unit.LongTon, "brton"), (Unit.ShortTon, "uston"),
        (Unit.Newton, "N"), (Unit.Kilonewton, "kN"), (Unit.PoundForce, "lbf"), (Unit.KilogramForce, "kgf"), (Unit.LongTonForce, "brton force"),
        (Unit.NewtonMetre, "N m"), (Unit.PoundFoot, "lbf ft"), (Unit.PoundInch, "lbf in"), (Unit.KilogramMetre, "kgf m"), (Unit.KilogramCentimetre, "kgf cm"),
        (Unit.Pascal, "Pa"), (Unit.Kilopascal, "kPa"), (Unit.Megapascal, "MPa"), (Unit.Bar, "bar"), (Unit.Psi, "psi"), (Unit.KilogramPerSquareCentimetre, "kgf/cm^2"), (Unit.InchOfMercury, "inHg"),
        (Unit.Kelvin, "K"), (Unit.CelsiusDifference, "degC"), (Unit.FahrenheitDifference, "degF"),
        (Unit.Litre, "L"), (Unit.Millilitre, "mL"), (Unit.ImperialGallon, "brgallon"), (Unit.UsGallon, "usgallon"), (Unit.ImperialPint, "brpint"), (Unit.UsPint, "uspint"), (Unit.CubicInch, "in^3"),
        (Unit.Volt, "V"), (Unit.Millivolt, "mV"), (Unit.Kilovolt, "kV"), (Unit.Ampere, "A"), (Unit.Milliampere, "mA"), (Unit.Ohm, "ohm"), (Unit.Milliohm, "milliohm"), (Unit.Kiloohm, "kiloohm"), (Unit.Megohm, "megohm"),
        (Unit.Hour, "hour"), (Unit.Minute, "minute"), (Unit.Second, "s"), (Unit.Degree, "degree"), (Unit.ArcMinute, "arcmin"), (Unit.ArcSecond, "arcsec"), (Unit.Mile, "mile"), (Unit.Kilometre, "km"),
    ];

    private static readonly Dictionary<Quantity, string> Si = new()
    {
        [Quantity.Length] = "m",
        [Quantity.Mass] = "kg",
        [Quantity.Force] = "N",
        [Quantity.Torque] = "N m",
        [Quantity.Pressure] = "Pa",
        [Quantity.Temperature] = "K",
        [Quantity.TemperatureDifference] = "K",
        [Quantity.Volume] = "m^3",
        [Quantity.Voltage] = "V",
        [Quantity.Current] = "A",
        [Quantity.Resistance] = "ohm",
        [Quantity.Duration] = "s",
        [Quantity.Angle] = "radian",
        [Quantity.Distance] = "m",
    };

    [Fact]
    public async Task Every_unit_has_their_factor()
    {
        Names.Select(n => n.Unit).ShouldBe(Unit.All.Except([Unit.Celsius, Unit.Fahrenheit]), ignoreOrder: true);
        foreach (var value in new[] { "1", "7.25", "432.5" })
        {
            var theirs = await AskAsync([.. Names.Select(n => ($"{value} ({n.Theirs})", Si[n.Unit.Quantity]))]);
            foreach (var ((unit, name), expected) in Names.Zip(theirs))
            {
                // The inch of mercury is a convention with seven digits.
                var read = MeasureReader.Read($"{value} {unit.Symbol}", unit.Quantity);
                read.Value.ShouldNotBeNull($"{unit.Symbol}: {read.Refusal}").Si.ShouldBe(expected, Math.Abs(expected) * (unit == Unit.InchOfMercury ? 5e-7 : 1e-12), $"{value} {name}");
            }
        }
    }

    [Fact]
    public async Task Temperatures_are_theirs()
    {
        string[] values = ["-40", "0", "32", "100", "371.1", "700"];
        var celsius = await AskAsync([.. values.Select(v => ($"tempC({v})", "K"))]);
        var fahrenheit = await AskAsync([.. values.Select(v => ($"tempF({v})", "K"))]);
        for (var i = 0; i < values.Length; i++)
        {
            MeasureReader.Read(values[i] + " °C", Quantity.Temperature).Value!.Si.ShouldBe(celsius[i], 1e-9);
            MeasureReader.Read(values[i] + " degF", Quantity.Temperature).Value!.Si.ShouldBe(fahrenheit[i], 1e-9);
        }
    }

    [Fact]
    public async Task Drills_and_gauges_are_theirs()
    {
        var numbers = Enumerable.Range(1, 80).ToList();
        var letters = Enumerable.Range(0, 26).Select(i => (char)('A' + i)).ToList();
        var gauges = Enumerable.Range(0, 31).ToList();
        Same(numbers.Select(n => $"No. {n} drill"), await AskAsync([.. numbers.Select(n => ($"drillgauge({n})", "m"))]));
        Same(letters.Select(c => $"letter {c}"), await AskAsync([.. letters.Select(c => ($"drill{c}", "m"))]));
        Same(gauges.Select(n => $"{n} swg"), await AskAsync([.. gauges.Select(n => ($"brwiregauge({n})", "m"))]));
        Same(gauges.Select(n => $"{n} awg"), await AskAsync([.. gauges.Select(n => ($"wiregauge({n})", "m"))]));

        static void Same(IEnumerable<string> typed, IReadOnlyList<double> theirs)
        {
            foreach (var (text, expected) in typed.Zip(theirs))
            {
                MeasureReader.Read(text, Quantity.Length).Value.ShouldNotBeNull(text).Si.ShouldBe(expected, 1e-9, text);
            }
        }
    }

    [Fact]
    public async Task The_other_system_is_theirs_to_four_digits()
    {
        (string Typed, Quantity Quantity, string Have, string Want)[] cases =
        [
            ("75 lb ft", Quantity.Torque, "75 lbf ft", "N m"), ("30 N m", Quantity.Torque, "30 N m", "lbf ft"), ("150 psi", Quantity.Pressure, "150 psi", "bar"),
            ("10 bar", Quantity.Pressure, "10 bar", "psi"), ("40 imp gal", Quantity.Volume, "40 brgallon", "L"), ("40 US gal", Quantity.Volume, "40 usgallon", "L"),
            ("180 L", Quantity.Volume, "180 L", "brgallon"), ("2400 lbf", Quantity.Force, "2400 lbf", "N"), ("700 °F", Quantity.Temperature, "tempF(700)", "tempC"), ("20 °C", Quantity.Temperature, "tempC(20)", "tempF"),
            ("150 °F", Quantity.TemperatureDifference, "150 degF", "degC"),
        ];
        var theirs = await AskAsync([.. cases.Select(c => (c.Have, c.Want))]);
        foreach (var (c, expected) in cases.Zip(theirs))
        {
            var other = MeasureFormat.Other(MeasureReader.Read(c.Typed, c.Quantity).Value!);
            double.Parse(other.Split('\u00A0')[0], CultureInfo.InvariantCulture).ShouldBe(expected, Math.Abs(expected) * 5e-4, c.Typed + ": " + other);
        }
    }

    private static async Task<IReadOnlyList<double>> AskAsync(IReadOnlyList<(string Have, string Want)> conversions)
    {
        using var units = new Process();
        units.StartInfo = new ProcessStartInfo("units", ["-q", "-t", "-d", "15"]) { UseShellExecute = false, RedirectStandardInput = true, RedirectStandardOutput = true };
        units.Start();
        await units.StandardInput.WriteLineAsync(string.Join('\n', conversions.Select(c => c.Have + "\n" + c.Want)));
        units.StandardInput.Close();
        var said = await units.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await units.WaitForExitAsync(TestContext.Current.CancellationToken);
        var lines = said.Split('\n', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        lines.Length.ShouldBe(conversions.Count, said);
        return [.. lines.Select(l => double.Parse(l, CultureInfo.InvariantCulture))];
    }
}
