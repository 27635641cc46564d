using System.Globalization;

namespace OilTag.Core.Measures;

/// <summary>What a field asks for.</summary>
public enum Quantity
{
    /// <summary>A length; SI unit metre.</summary>
    Length,

    /// <summary>A mass; SI unit kilogram.</summary>
    Mass,
}

/// <summary>A unit that people type, with its exact factor to the SI unit of its quantity.</summary>
/// <param name="Symbol">How it is written behind a number, such as <c>mm</c>.</param>
/// <param name="Quantity">What it measures.</param>
/// <param name="Factor">SI units in one of these.</param>
/// <param name="Imperial">True for inches, feet, pounds and their kin.</param>
public sealed record Unit(string Symbol, Quantity Quantity, double Factor, bool Imperial)
{
    /// <summary>Millimetre.</summary>
    public static readonly Unit Millimetre = new("mm", Quantity.Length, UnitsNet.Length.FromMillimeters(1).Meters, false);

    /// <summary>Centimetre.</summary>
    public static readonly Unit Centimetre = new("cm", Quantity.Length, UnitsNet.Length.FromCentimeters(1).Meters, false);

    /// <summary>Metre.</summary>
    public static readonly Unit Metre = new("m", Quantity.Length, 1, false);

    /// <summary>Inch, exactly 25.4 mm (international yard and pound agreement, 1959).</summary>
    public static readonly Unit Inch = new("in", Quantity.Length, UnitsNet.Length.FromInches(1).Meters, true);

    /// <summary>A thousandth of an inch, exactly 0.0254 mm.</summary>
    public static readonly Unit Thou = new("thou", Quantity.Length, UnitsNet.Length.FromMils(1).Meters, true);

    /// <summary>Foot, exactly 0.3048 m.</summary>
    public static readonly Unit Foot = new("ft", Quantity.Length, UnitsNet.Length.FromFeet(1).Meters, true);

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

    /// <summary>Long hundredweight, 112 lb.</summary>
    public static readonly Unit LongHundredweight = new("long cwt", Quantity.Mass, UnitsNet.Mass.FromLongHundredweight(1).Kilograms, true);

    /// <summary>Short hundredweight, 100 lb.</summary>
    public static readonly Unit ShortHundredweight = new("short cwt", Quantity.Mass, UnitsNet.Mass.FromShortHundredweight(1).Kilograms, true);

    /// <summary>Long ton, 2240 lb.</summary>
    public static readonly Unit LongTon = new("long ton", Quantity.Mass, UnitsNet.Mass.FromLongTons(1).Kilograms, true);

    /// <summary>Short ton, 2000 lb.</summary>
    public static readonly Unit ShortTon = new("short ton", Quantity.Mass, UnitsNet.Mass.FromShortTons(1).Kilograms, true);

    /// <summary>All units the reader knows.</summary>
    public static readonly IReadOnlyList<Unit> All =
    [
        Millimetre, Centimetre, Metre, Inch, Thou, Foot,
        Gram, Kilogram, Tonne, Pound, Ounce, LongHundredweight, ShortHundredweight, LongTon, ShortTon,
    ];

    /// <summary>The unit with this symbol, or null.</summary>
    public static Unit? BySymbol(string? symbol) => All.FirstOrDefault(u => string.Equals(u.Symbol, symbol, StringComparison.Ordinal));
}

/// <summary>
/// A value as somebody typed it, kept for ever beside its SI value. Three columns in the database.
/// </summary>
/// <param name="Text">What was typed, without surrounding blanks.</param>
/// <param name="Si">The value in metres or kilograms.</param>
/// <param name="UnitSymbol">The symbol of the unit that was typed, such as <c>in</c>.</param>
public sealed record Measure(string Text, double Si, string UnitSymbol)
{
    /// <summary>The unit that was typed.</summary>
    public Unit Unit => Unit.BySymbol(UnitSymbol) ?? throw new InvalidOperationException($"Unknown unit {UnitSymbol}.");

    /// <summary>As entered, then the other system, such as <c>60 thou</c> and <c>1.524 mm</c>.</summary>
    public (string Entered, string Other) Both() => (Text, MeasureFormat.Other(this));
}

/// <summary>Values written for people: no-break space before the unit, invariant point.</summary>
public static class MeasureFormat
{
    private const char NoBreak = '\u00A0';

    /// <summary>A length in millimetres, with as many decimals as a workshop reads (at most three).</summary>
    /// <param name="metres">Length in metres.</param>
    public static string Millimetres(double metres)
    {
        var mm = metres / Unit.Millimetre.Factor;
        return Number(mm, Math.Abs(mm) >= 1000 ? 0 : Math.Abs(mm) >= 100 ? 1 : 3) + NoBreak + "mm";
    }

    /// <summary>A length in inches; a fraction only where it is one within a hundredth of a thou, else three or four decimals.</summary>
    /// <param name="metres">Length in metres.</param>
    public static string Inches(double metres)
    {
        var inches = metres / Unit.Inch.Factor;
        return (Fraction(inches) ?? Number(inches, Math.Abs(inches) < 0.1 ? 4 : 3)) + NoBreak + "in";
    }

    /// <summary>The same value in the other system: millimetres for inch units, inches for metric ones, kilograms or pounds for masses.</summary>
    public static string Other(Measure m)
    {
        var unit = m.Unit;
        if (unit.Quantity == Quantity.Length)
        {
            return unit.Imperial ? Millimetres(m.Si) : Inches(m.Si);
        }

        return unit.Imperial
            ? Number(m.Si, m.Si >= 100 ? 0 : 1) + NoBreak + "kg"
            : Number(m.Si / Unit.Pound.Factor, m.Si >= 100 ? 0 : 1) + NoBreak + "lb";
    }

    /// <summary>A value written in the unit of another, so that a reading, its nominal and its limit can be compared by eye.</summary>
    /// <param name="si">Value in the SI unit.</param>
    /// <param name="like">The unit to write it in.</param>
    public static string In(double si, Unit like)
    {
        var v = si / like.Factor;
        return Number(v, like == Unit.Inch ? 4 : like == Unit.Thou ? 1 : 3) + NoBreak + like.Symbol;
    }

    /// <summary>A proper or mixed fraction in sixty-fourths, reduced, when the value is one; else null.</summary>
    /// <param name="inches">Length in inches.</param>
    public static string? Fraction(double inches)
    {
        if (!double.IsFinite(inches) || inches <= 0 || inches > 10_000)
        {
            return null;
        }

        var sixtyFourths = Math.Round(inches * 64);
        if (sixtyFourths < 1 || Math.Abs(inches - (sixtyFourths / 64)) > 0.00001)
        {
            return null;
        }

        var whole = (long)sixtyFourths / 64;
        var n = (long)sixtyFourths % 64;
        if (n == 0)
        {
            return whole.ToString(CultureInfo.InvariantCulture);
        }

        var d = 64L;
        while (n % 2 == 0)
        {
            n /= 2;
            d /= 2;
        }

        return (whole > 0 ? whole.ToString(CultureInfo.InvariantCulture) + NoBreak : string.Empty) + n.ToString(CultureInfo.InvariantCulture) + "\u2044" + d.ToString(CultureInfo.InvariantCulture);
    }

    /// <summary>A number rounded half away from zero, without trailing zeros, with a true minus; from a thousand million million on as a power of ten.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The value is not a finite number: it must be caught before it is shown.</exception>
    public static string Number(double value, int decimals)
    {
        if (!double.IsFinite(value))
        {
            throw new ArgumentOutOfRangeException(nameof(value), "Not a finite number.");
        }

        if (Math.Abs(value) >= 1e15)
        {
            return value.ToString("0.#E+0", CultureInfo.InvariantCulture).Replace('-', '\u2212');
        }

        var rounded = Math.Round((decimal)value, decimals, MidpointRounding.AwayFromZero);
        var text = Math.Abs(rounded).ToString("0." + new string('#', decimals), CultureInfo.InvariantCulture);
        return rounded < 0 ? "\u2212" + text : text;
    }
}
