using System.Globalization;

namespace OilTag.Core.Measures;

/// <summary>
/// A value as somebody typed it, kept for ever beside its SI value. Three columns in the database.
/// </summary>
/// <param name="Text">What was typed, without surrounding blanks.</param>
/// <param name="Si">The value in the SI unit of its quantity, see <see cref="Quantity"/>.</param>
/// <param name="UnitSymbol">The symbol of the unit that was typed, such as <c>in</c>.</param>
public sealed record Measure(string Text, double Si, string UnitSymbol)
{
    /// <summary>The unit that was typed.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public Unit Unit => Unit.BySymbol(UnitSymbol) ?? throw new InvalidOperationException($"Unknown unit {UnitSymbol}.");

    /// <summary>As it was entered, with the unit behind it when only a number was.</summary>
    public string Entered => Text.AsSpan().IndexOfAnyExcept("0123456789.,/+- \u2044\u2212") < 0 ? Text + "\u00A0" + UnitSymbol : Text;

    /// <summary>As entered, then the other system, such as <c>60 thou</c> and <c>1.524 mm</c>; the second is empty where there is none.</summary>
    public (string Entered, string Other) Both() => (Text, MeasureFormat.Other(this));
}

/// <summary>Values written for people: no-break space before the unit, invariant point.</summary>
public static class MeasureFormat
{
    private const char NoBreak = '\u00A0';

    private static readonly Dictionary<string, Unit> Counterparts = new Dictionary<Unit, Unit>
    {
        [Unit.Newton] = Unit.PoundForce,
        [Unit.Kilonewton] = Unit.PoundForce,
        [Unit.KilogramForce] = Unit.PoundForce,
        [Unit.PoundForce] = Unit.Newton,
        [Unit.LongTonForce] = Unit.Kilonewton,
        [Unit.NewtonMetre] = Unit.PoundFoot,
        [Unit.KilogramMetre] = Unit.PoundFoot,
        [Unit.KilogramCentimetre] = Unit.PoundInch,
        [Unit.PoundFoot] = Unit.NewtonMetre,
        [Unit.PoundInch] = Unit.NewtonMetre,
        [Unit.Pascal] = Unit.Psi,
        [Unit.Kilopascal] = Unit.Psi,
        [Unit.Megapascal] = Unit.Psi,
        [Unit.Bar] = Unit.Psi,
        [Unit.KilogramPerSquareCentimetre] = Unit.Psi,
        [Unit.Psi] = Unit.Bar,
        [Unit.InchOfMercury] = Unit.Kilopascal,
        [Unit.Celsius] = Unit.Fahrenheit,
        [Unit.Kelvin] = Unit.Fahrenheit,
        [Unit.Fahrenheit] = Unit.Celsius,
        [Unit.CelsiusDifference] = Unit.FahrenheitDifference,
        [Unit.FahrenheitDifference] = Unit.CelsiusDifference,
        [Unit.Litre] = Unit.ImperialGallon,
        [Unit.Millilitre] = Unit.CubicInch,
        [Unit.ImperialGallon] = Unit.Litre,
        [Unit.UsGallon] = Unit.Litre,
        [Unit.ImperialPint] = Unit.Litre,
        [Unit.UsPint] = Unit.Litre,
        [Unit.CubicInch] = Unit.Millilitre,
        [Unit.Mile] = Unit.Kilometre,
        [Unit.Kilometre] = Unit.Mile,
    }.ToDictionary(p => p.Key.Symbol, p => p.Value, StringComparer.Ordinal);

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

    /// <summary>
    /// The same value in the other system: millimetres for inch units, inches for metric ones, kilograms or pounds for masses, and so on to
    /// four significant digits. Empty for quantities that have one system only: volts, ohms, hours, degrees.
    /// </summary>
    public static string Other(Measure m)
    {
        ArgumentNullException.ThrowIfNull(m);
        var unit = m.Unit;
        if (unit.Quantity == Quantity.Length)
        {
            return unit.Imperial ? Millimetres(m.Si) : Inches(m.Si);
        }

        if (unit.Quantity == Quantity.Mass)
        {
            return unit.Imperial
                ? Number(m.Si, m.Si >= 100 ? 0 : 1) + NoBreak + "kg"
                : Number(m.Si / Unit.Pound.Factor, m.Si >= 100 ? 0 : 1) + NoBreak + "lb";
        }

        return Counterparts.TryGetValue(unit.Symbol, out var other) ? Significant(other.FromSi(m.Si), 4) + NoBreak + other.Symbol : string.Empty;
    }

    /// <summary>
    /// A value written in the unit of another, so that a reading, its nominal and its limit can be compared by eye. A value too small for the unit's decimals shows its
    /// first digit, down to a thousand-millionth.
    /// </summary>
    /// <param name="si">Value in the SI unit.</param>
    /// <param name="like">The unit to write it in.</param>
    public static string In(double si, Unit like)
    {
        ArgumentNullException.ThrowIfNull(like);
        var value = like.FromSi(si);

        // What is there never shows as nought: a value below the last decimal of its unit keeps its first digit.
        var decimals = like.Decimals;
        while (value != 0 && decimals < MostDecimals && Math.Abs(value) < 0.5 * Math.Pow(10, -decimals))
        {
            decimals++;
        }

        return Number(value, decimals) + NoBreak + like.Symbol;
    }

    private const int MostDecimals = 9;

    /// <summary>A proper or mixed fraction in sixty-fourths, reduced, when the value is one; else null.</summary>
    /// <param name="inches">Length in inches.</param>
    public static string? Fraction(double inches)
    {
        if (!double.IsFinite(inches) || inches <= 0 || inches > 10_000)
        {
            return null;
        }

        var sixtyFourths = Math.Round(inches * 64);
        return sixtyFourths < 1 || Math.Abs(inches - (sixtyFourths / 64)) > 0.00001 ? null : InParts((long)sixtyFourths, 64);
    }

    /// <summary>The nearest fraction of an inch and what is left over, such as <c>3/8 in less 5 thou</c>.</summary>
    /// <param name="metres">Length in metres, from nought to 10 000 inches.</param>
    /// <param name="parts">16, 32, 64 or 128.</param>
    /// <returns>The words, or null when the length is out of range.</returns>
    public static string? NearestFraction(double metres, int parts = 64)
    {
        var inches = metres / Unit.Inch.Factor;
        if (!double.IsFinite(inches) || inches <= 0 || inches > 10_000 || parts is not (16 or 32 or 64 or 128))
        {
            return null;
        }

        var n = Math.Round(inches * parts, MidpointRounding.AwayFromZero);
        var residue = (inches - (n / parts)) * 1000;
        var shown = Number(Math.Abs(residue), 3);
        var fraction = (n == 0 ? "0" : InParts((long)n, parts)) + NoBreak + "in";
        return shown == "0" ? fraction : $"{fraction} {(residue < 0 ? "less" : "and")} {shown}{NoBreak}thou";
    }

    /// <summary>A number to so many significant digits, rounded half away from zero, without an exponent below a thousand million million.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The value is not a finite number.</exception>
    public static string Significant(double value, int digits)
    {
        if (value == 0 || !double.IsFinite(value) || Math.Abs(value) >= 1e15)
        {
            return Number(value, 0);
        }

        var before = (int)Math.Floor(Math.Log10(Math.Abs(value))) + 1;
        if (digits >= before)
        {
            return Number(value, Math.Min(digits - before, 20));
        }

        var step = Math.Pow(10, before - digits);
        return Number(Math.Round(value / step, MidpointRounding.AwayFromZero) * step, 0);
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

    private static string InParts(long n, long parts)
    {
        var whole = n / parts;
        n %= parts;
        if (n == 0)
        {
            return whole.ToString(CultureInfo.InvariantCulture);
        }

        while (n % 2 == 0)
        {
            n /= 2;
            parts /= 2;
        }

        return (whole > 0 ? whole.ToString(CultureInfo.InvariantCulture) + NoBreak : string.Empty) + n.ToString(CultureInfo.InvariantCulture) + "\u2044" + parts.ToString(CultureInfo.InvariantCulture);
    }
}
