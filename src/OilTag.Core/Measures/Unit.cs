namespace OilTag.Core.Measures;

/// <summary>What a field asks for. The SI value of each is kept in the unit named here.</summary>
public enum Quantity
{
    /// <summary>A length, in metres; above zero.</summary>
    Length,

    /// <summary>A mass, in kilograms; above zero.</summary>
    Mass,

    /// <summary>A force, in newtons; above zero.</summary>
    Force,

    /// <summary>A torque, in newton metres; above zero.</summary>
    Torque,

    /// <summary>A gauge pressure, in pascals; zero or above.</summary>
    Pressure,

    /// <summary>A temperature, in kelvins; not below absolute zero.</summary>
    Temperature,

    /// <summary>A rise or fall of temperature, in kelvins; may be negative.</summary>
    TemperatureDifference,

    /// <summary>A volume of liquid or gas, in cubic metres; above zero.</summary>
    Volume,

    /// <summary>An electrical tension, in volts; may be negative.</summary>
    Voltage,

    /// <summary>An electrical current, in amperes; may be negative.</summary>
    Current,

    /// <summary>An electrical resistance, in ohms; zero or above.</summary>
    Resistance,

    /// <summary>A time that something took or ran, in seconds; zero or above.</summary>
    Duration,

    /// <summary>An angle, in radians; may be negative.</summary>
    Angle,

    /// <summary>How far something went, in metres; above zero.</summary>
    Distance,
}

/// <summary>A unit that people type. SI value = value × <paramref name="Factor"/> + <paramref name="Offset"/>.</summary>
/// <param name="Symbol">How it is written behind a number, such as <c>mm</c>; unique.</param>
/// <param name="Quantity">What it measures.</param>
/// <param name="Factor">SI units in one of these.</param>
/// <param name="Imperial">True for inches, pounds, °F and their kin.</param>
/// <param name="Decimals">Most decimals that are shown of a value in it.</param>
/// <param name="Offset">SI value of nought in this unit; only temperatures have one.</param>
public sealed record Unit(string Symbol, Quantity Quantity, double Factor, bool Imperial, int Decimals = 3, double Offset = 0)
{
    /// <summary>Millimetre.</summary>
    public static readonly Unit Millimetre = new("mm", Quantity.Length, UnitsNet.Length.FromMillimeters(1).Meters, false);

    /// <summary>Centimetre.</summary>
    public static readonly Unit Centimetre = new("cm", Quantity.Length, UnitsNet.Length.FromCentimeters(1).Meters, false);

    /// <summary>Metre.</summary>
    public static readonly Unit Metre = new("m", Quantity.Length, 1, false);

    /// <summary>Inch, exactly 25.4 mm (international yard and pound agreement, 1959).</summary>
    public static readonly Unit Inch = new("in", Quantity.Length, UnitsNet.Length.FromInches(1).Meters, true, 4);

    /// <summary>A thousandth of a millimetre; a micron.</summary>
    public static readonly Unit Micrometre = new("µm", Quantity.Length, UnitsNet.Length.FromMicrometers(1).Meters, false, 1);

    /// <summary>A thousandth of an inch, exactly 0.0254 mm.</summary>
    public static readonly Unit Thou = new("thou", Quantity.Length, UnitsNet.Length.FromMils(1).Meters, true, 1);

    /// <summary>Foot, exactly 0.3048 m.</summary>
    public static readonly Unit Foot = new("ft", Quantity.Length, UnitsNet.Length.FromFeet(1).Meters, true);

    /// <summary>Yard, exactly 0.9144 m.</summary>
    public static readonly Unit Yard = new("yd", Quantity.Length, UnitsNet.Length.FromYards(1).Meters, true);

    /// <summary>Gram.</summary>
    public static readonly Unit Gram = new("g", Quantity.Mass, UnitsNet.Mass.FromGrams(1).Kilograms, false);

    /// <summary>Kilogram.</summary>
    public static readonly Unit Kilogram = new("kg", Quantity.Mass, 1, false);

    /// <summary>Tonne, 1000 kg.</summary>
    public static readonly Unit Tonne = new("tonne", Quantity.Mass, UnitsNet.Mass.FromTonnes(1).Kilograms, false);

    /// <summary>Pound avoirdupois, exactly 0.45359237 kg.</summary>
    public static readonly Unit Pound = new("lb", Quantity.Mass, UnitsNet.Mass.FromPounds(1).Kilograms, true);

    /// <summary>Ounce, a sixteenth of a pound.</summary>
    public static readonly Unit Ounce = new("oz", Quantity.Mass, UnitsNet.Mass.FromOunces(1).Kilograms, true);

    /// <summary>Stone, 14 lb.</summary>
    public static readonly Unit Stone = new("stone", Quantity.Mass, 14 * UnitsNet.Mass.FromPounds(1).Kilograms, true);

    /// <summary>Quarter, 28 lb, a quarter of a long hundredweight.</summary>
    public static readonly Unit Quarter = new("qr", Quantity.Mass, 28 * UnitsNet.Mass.FromPounds(1).Kilograms, true);

    /// <summary>Long hundredweight, 112 lb.</summary>
    public static readonly Unit LongHundredweight = new("long cwt", Quantity.Mass, UnitsNet.Mass.FromLongHundredweight(1).Kilograms, true);

    /// <summary>Short hundredweight, 100 lb.</summary>
    public static readonly Unit ShortHundredweight = new("short cwt", Quantity.Mass, UnitsNet.Mass.FromShortHundredweight(1).Kilograms, true);

    /// <summary>Long ton, 2240 lb.</summary>
    public static readonly Unit LongTon = new("long ton", Quantity.Mass, UnitsNet.Mass.FromLongTons(1).Kilograms, true);

    /// <summary>Short ton, 2000 lb.</summary>
    public static readonly Unit ShortTon = new("short ton", Quantity.Mass, UnitsNet.Mass.FromShortTons(1).Kilograms, true);

    /// <summary>Newton.</summary>
    public static readonly Unit Newton = new("N", Quantity.Force, 1, false);

    /// <summary>Kilonewton.</summary>
    public static readonly Unit Kilonewton = new("kN", Quantity.Force, UnitsNet.Force.FromKilonewtons(1).Newtons, false);

    /// <summary>Pound-force under standard gravity, 4.4482216152605 N.</summary>
    public static readonly Unit PoundForce = new("lbf", Quantity.Force, UnitsNet.Force.FromPoundsForce(1).Newtons, true);

    /// <summary>Kilogram-force, 9.80665 N.</summary>
    public static readonly Unit KilogramForce = new("kgf", Quantity.Force, UnitsNet.Force.FromKilogramsForce(1).Newtons, false);

    /// <summary>Long ton-force, 2240 lbf.</summary>
    public static readonly Unit LongTonForce = new("long tonf", Quantity.Force, 2240 * UnitsNet.Force.FromPoundsForce(1).Newtons, true);

    /// <summary>Newton metre.</summary>
    public static readonly Unit NewtonMetre = new("N m", Quantity.Torque, 1, false);

    /// <summary>Pound foot, 1.3558179483314 N m.</summary>
    public static readonly Unit PoundFoot = new("lb ft", Quantity.Torque, UnitsNet.Force.FromPoundsForce(1).Newtons * UnitsNet.Length.FromFeet(1).Meters, true);

    /// <summary>Pound inch, a twelfth of a pound foot.</summary>
    public static readonly Unit PoundInch = new("lb in", Quantity.Torque, UnitsNet.Force.FromPoundsForce(1).Newtons * UnitsNet.Length.FromInches(1).Meters, true);

    /// <summary>Kilogram-force metre, 9.80665 N m.</summary>
    public static readonly Unit KilogramMetre = new("kgf m", Quantity.Torque, UnitsNet.Torque.FromKilogramForceMeters(1).NewtonMeters, false);

    /// <summary>Kilogram-force centimetre.</summary>
    public static readonly Unit KilogramCentimetre = new("kgf cm", Quantity.Torque, UnitsNet.Torque.FromKilogramForceCentimeters(1).NewtonMeters, false);

    /// <summary>Pascal.</summary>
    public static readonly Unit Pascal = new("Pa", Quantity.Pressure, 1, false);

    /// <summary>Kilopascal.</summary>
    public static readonly Unit Kilopascal = new("kPa", Quantity.Pressure, UnitsNet.Pressure.FromKilopascals(1).Pascals, false);

    /// <summary>Megapascal.</summary>
    public static readonly Unit Megapascal = new("MPa", Quantity.Pressure, UnitsNet.Pressure.FromMegapascals(1).Pascals, false);

    /// <summary>Bar, 100 000 Pa.</summary>
    public static readonly Unit Bar = new("bar", Quantity.Pressure, UnitsNet.Pressure.FromBars(1).Pascals, false);

    /// <summary>Pound-force per square inch, 6894.757293168 Pa.</summary>
    public static readonly Unit Psi = new("psi", Quantity.Pressure, UnitsNet.Force.FromPoundsForce(1).Newtons / (UnitsNet.Length.FromInches(1).Meters * UnitsNet.Length.FromInches(1).Meters), true);

    /// <summary>Kilogram-force per square centimetre, 98 066.5 Pa.</summary>
    public static readonly Unit KilogramPerSquareCentimetre = new("kgf/cm2", Quantity.Pressure, UnitsNet.Pressure.FromKilogramsForcePerSquareCentimeter(1).Pascals, false);

    /// <summary>Inch of mercury at 0 °C, 3386.389 Pa (conventional).</summary>
    public static readonly Unit InchOfMercury = new("inHg", Quantity.Pressure, 3386.389, true);

    /// <summary>Degree Celsius.</summary>
    public static readonly Unit Celsius = new("°C", Quantity.Temperature, 1, false, 2, 273.15);

    /// <summary>Degree Fahrenheit.</summary>
    public static readonly Unit Fahrenheit = new("°F", Quantity.Temperature, 1 / 1.8, true, 2, 459.67 / 1.8);

    /// <summary>Kelvin.</summary>
    public static readonly Unit Kelvin = new("K", Quantity.Temperature, 1, false, 2);

    /// <summary>A difference of one degree Celsius.</summary>
    public static readonly Unit CelsiusDifference = new("C°", Quantity.TemperatureDifference, 1, false, 2);

    /// <summary>A difference of one degree Fahrenheit, 1/1.8 K.</summary>
    public static readonly Unit FahrenheitDifference = new("F°", Quantity.TemperatureDifference, 1 / 1.8, true, 2);

    /// <summary>Litre.</summary>
    public static readonly Unit Litre = new("L", Quantity.Volume, UnitsNet.Volume.FromLiters(1).CubicMeters, false);

    /// <summary>Millilitre.</summary>
    public static readonly Unit Millilitre = new("ml", Quantity.Volume, UnitsNet.Volume.FromMilliliters(1).CubicMeters, false);

    /// <summary>Imperial gallon, exactly 4.54609 L.</summary>
    public static readonly Unit ImperialGallon = new("imp gal", Quantity.Volume, 4.54609e-3, true);

    /// <summary>US liquid gallon, exactly 3.785411784 L.</summary>
    public static readonly Unit UsGallon = new("US gal", Quantity.Volume, 3.785411784e-3, true);

    /// <summary>Imperial pint, an eighth of a gallon.</summary>
    public static readonly Unit ImperialPint = new("imp pint", Quantity.Volume, 4.54609e-3 / 8, true);

    /// <summary>US liquid pint, an eighth of a gallon.</summary>
    public static readonly Unit UsPint = new("US pint", Quantity.Volume, 3.785411784e-3 / 8, true);

    /// <summary>Cubic inch.</summary>
    public static readonly Unit CubicInch = new("cu in", Quantity.Volume, UnitsNet.Volume.FromCubicInches(1).CubicMeters, true);

    /// <summary>Volt.</summary>
    public static readonly Unit Volt = new("V", Quantity.Voltage, 1, false);

    /// <summary>Millivolt.</summary>
    public static readonly Unit Millivolt = new("mV", Quantity.Voltage, 1e-3, false);

    /// <summary>Kilovolt.</summary>
    public static readonly Unit Kilovolt = new("kV", Quantity.Voltage, 1e3, false);

    /// <summary>Ampere.</summary>
    public static readonly Unit Ampere = new("A", Quantity.Current, 1, false);

    /// <summary>Milliampere.</summary>
    public static readonly Unit Milliampere = new("mA", Quantity.Current, 1e-3, false);

    /// <summary>Ohm.</summary>
    public static readonly Unit Ohm = new("Ω", Quantity.Resistance, 1, false);

    /// <summary>Milliohm.</summary>
    public static readonly Unit Milliohm = new("mΩ", Quantity.Resistance, 1e-3, false);

    /// <summary>Kiloohm.</summary>
    public static readonly Unit Kiloohm = new("kΩ", Quantity.Resistance, 1e3, false);

    /// <summary>Megohm.</summary>
    public static readonly Unit Megohm = new("MΩ", Quantity.Resistance, 1e6, false);

    /// <summary>Hour.</summary>
    public static readonly Unit Hour = new("h", Quantity.Duration, 3600, false, 2);

    /// <summary>Minute of time.</summary>
    public static readonly Unit Minute = new("min", Quantity.Duration, 60, false, 1);

    /// <summary>Second of time.</summary>
    public static readonly Unit Second = new("s", Quantity.Duration, 1, false, 1);

    /// <summary>Degree of arc.</summary>
    public static readonly Unit Degree = new("°", Quantity.Angle, Math.PI / 180, false);

    /// <summary>Minute of arc.</summary>
    public static readonly Unit ArcMinute = new("arcmin", Quantity.Angle, Math.PI / 180 / 60, false, 2);

    /// <summary>Second of arc.</summary>
    public static readonly Unit ArcSecond = new("arcsec", Quantity.Angle, Math.PI / 180 / 3600, false, 1);

    /// <summary>Mile, exactly 1609.344 m.</summary>
    public static readonly Unit Mile = new("mi", Quantity.Distance, UnitsNet.Length.FromMiles(1).Meters, true, 1);

    /// <summary>Kilometre.</summary>
    public static readonly Unit Kilometre = new("km", Quantity.Distance, 1000, false, 1);

    /// <summary>All units the reader knows.</summary>
    public static readonly IReadOnlyList<Unit> All =
    [
        Micrometre, Millimetre, Centimetre, Metre, Inch, Thou, Foot, Yard,
        Gram, Kilogram, Tonne, Pound, Ounce, Stone, Quarter, LongHundredweight, ShortHundredweight, LongTon, ShortTon,
        Newton, Kilonewton, PoundForce, KilogramForce, LongTonForce,
        NewtonMetre, PoundFoot, PoundInch, KilogramMetre, KilogramCentimetre,
        Pascal, Kilopascal, Megapascal, Bar, Psi, KilogramPerSquareCentimetre, InchOfMercury,
        Celsius, Fahrenheit, Kelvin, CelsiusDifference, FahrenheitDifference,
        Litre, Millilitre, ImperialGallon, UsGallon, ImperialPint, UsPint, CubicInch,
        Volt, Millivolt, Kilovolt, Ampere, Milliampere, Ohm, Milliohm, Kiloohm, Megohm,
        Hour, Minute, Second, Degree, ArcMinute, ArcSecond, Mile, Kilometre,
    ];

    private static readonly Dictionary<string, Unit> Symbols = All.ToDictionary(u => u.Symbol, StringComparer.Ordinal);

    /// <summary>The unit with this symbol, or null.</summary>
    public static Unit? BySymbol(string? symbol) => symbol is not null && Symbols.TryGetValue(symbol, out var unit) ? unit : null;

    /// <summary>The SI value of a value in this unit.</summary>
    public double ToSi(double value) => (value * Factor) + Offset;

    /// <summary>The value in this unit of an SI value.</summary>
    public double FromSi(double si) => (si - Offset) / Factor;
}
