using System.Collections.Frozen;

namespace OilTag.Core.Measures;

/// <summary>What a word behind a number means in a field of one quantity: a unit, a table of sizes, or a question.</summary>
/// <param name="Unit">The unit, when it is one.</param>
/// <param name="Question">What must be settled first.</param>
/// <param name="Table">Turns the number of a gauge into inches.</param>
internal sealed record UnitWord(Unit? Unit, string? Question = null, Func<int, double?>? Table = null);

/// <summary>What a field of one quantity is called, how it is typed, and what is out of the question.</summary>
/// <param name="Name">With its article, such as <c>a length</c>.</param>
/// <param name="Example">Three ways to type one.</param>
/// <param name="Units">The units that are taken.</param>
/// <param name="Ask">The units to name when one is missing.</param>
/// <param name="Least">Least SI value.</param>
/// <param name="LeastIsIn">True when the least value itself is taken.</param>
/// <param name="Most">Largest SI value; anything above is a slip.</param>
internal sealed record QuantityFacts(string Name, string Example, string Units, string Ask, double Least, bool LeastIsIn, double Most);

/// <summary>The words that people write behind numbers, by quantity.</summary>
internal static class UnitWords
{
    private const string WhichTon = "Which ton: long ton (2240 lb), short ton (2000 lb) or tonne (1000 kg)? Type it out.";
    private const string WhichHundredweight = "Which hundredweight: long cwt (112 lb) or short cwt (100 lb)? Type it out.";
    private const string WhichMil = "Is that thousandths of an inch or millimetres? Type thou or mm.";
    private const string WhichTenths = "Tenths of what: of a thou (0.3 thou is 0.0003 in) or of an inch (0.3 in)? Type it in thou or inches.";
    private const string WhichGauge = "Which gauge: 16 is 0.064 in as swg, 0.0508 in as awg and 0.0598 in as US steel sheet. Type swg or awg, or measure the sheet.";
    private const string WhichGallon = "Which gallon: imp gal (4.546 L) or US gal (3.785 L)? Type it out.";
    private const string WhichPint = "Which pint: imp pint (0.568 L) or US pint (0.473 L)? Type it out.";
    private const string MassOrForce = "Mass or force? For a force type lbf, kgf, tonf, N or kN.";
    private const string WhichDegrees = "Degrees of which scale? Type °C or °F.";
    private const string WhichOhm = "Milliohm or megohm? Type mΩ or MΩ.";

    private static readonly QuantityFacts[] All =
    [
        new("a length", "7.2 mm, 60 thou or 5/16 in", "mm, cm, m, in, thou or ft", "mm, in or thou", 0, false, 1e6),
        new("a weight", "12 kg or 26 lb", "kg, g, lb, oz, cwt or tons", "kg or lb", 0, false, 1e7),
        new("a force", "2400 lbf or 10.7 kN", "N, kN, lbf, kgf or tonf", "lbf or N", 0, false, 1e9),
        new("a torque", "75 lb ft or 30 N m", "N m, lb ft, lb in or kgf m", "lb ft or N m", 0, false, 1e7),
        new("a pressure", "150 psi or 10 bar", "psi, bar, kPa, MPa or inHg", "psi or bar", 0, true, 1e11),
        new("a temperature", "700 °F or 180 °C", "°C, °F or K", "°C or °F", 0, true, 1e4),
        new("a change of temperature", "150 °F or 80 °C", "°C or °F", "°C or °F", -1e4, true, 1e4),
        new("a volume", "40 imp gal or 180 L", "L, ml, imp gal or US gal", "L or imp gal", 0, false, 1e5),
        new("a voltage", "24 V or 350 mV", "V, mV or kV", "V or mV", -1e6, true, 1e6),
        new("a current", "3.5 A or 40 mA", "A or mA", "A or mA", -1e5, true, 1e5),
        new("a resistance", "0.4 Ω or 2 MΩ", "Ω, mΩ, kΩ or MΩ", "Ω or MΩ", 0, true, 1e13),
        new("a time", "12 h or 1 h 30 min", "h, min or s", "h or min", 0, true, 1e10),
        new("an angle", "3° 20' or 3.5 deg", "degrees and minutes", "degrees", -1e3, true, 1e3),
        new("a distance", "500 mi or 800 km", "mi or km", "mi or km", 0, false, 1e9),
    ];

    private static readonly FrozenDictionary<string, UnitWord>[] Words = Build();

    private static readonly FrozenDictionary<string, UnitWord>.AlternateLookup<ReadOnlySpan<char>>[] Lookups = [.. Words.Select(w => w.GetAlternateLookup<ReadOnlySpan<char>>())];

    public static QuantityFacts Facts(Quantity q) => All[(int)q];

    /// <summary>What the word means in a field of this quantity, first as written, then in small letters.</summary>
    public static UnitWord? Find(Quantity quantity, ReadOnlySpan<char> written, ReadOnlySpan<char> small)
    {
        var lookup = Lookups[(int)quantity];
        return lookup.TryGetValue(written, out var word) || lookup.TryGetValue(small, out word) ? word : null;
    }

    /// <summary>The first other quantity in which the word is a unit or a question, or null.</summary>
    public static Quantity? Elsewhere(Quantity not, ReadOnlySpan<char> written, ReadOnlySpan<char> small)
    {
        for (var q = 0; q < Lookups.Length; q++)
        {
            if (q != (int)not && (Lookups[q].ContainsKey(written) || Lookups[q].ContainsKey(small)))
            {
                return (Quantity)q;
            }
        }

        return null;
    }

    private static FrozenDictionary<string, UnitWord>[] Build()
    {
        var words = Enum.GetValues<Quantity>().Select(_ => new Dictionary<string, UnitWord>(StringComparer.Ordinal)).ToArray();
        void Of(Unit unit, params string[] spelled)
        {
            foreach (var s in spelled.Append(unit.Symbol))
            {
                words[(int)unit.Quantity].TryAdd(s, new UnitWord(unit));
            }
        }

        void Ask(Quantity q, string question, params string[] spelled)
        {
            foreach (var s in spelled)
            {
                words[(int)q].Add(s, new UnitWord(null, question));
            }
        }

        Of(Unit.Micrometre, "um", "micron", "microns", "micrometre", "micrometres");
        Of(Unit.Millimetre, "millimetre", "millimetres", "millimeter", "millimeters");
        Of(Unit.Centimetre, "centimetre", "centimetres");
        Of(Unit.Metre, "metre", "metres", "meter", "meters");
        Of(Unit.Inch, "ins", "inch", "inches", "\"");
        Of(Unit.Thou, "th", "thous");
        Of(Unit.Foot, "foot", "feet", "'");
        Of(Unit.Yard, "yard", "yards", "yds");
        Ask(Quantity.Length, WhichMil, "mil", "mils");
        Ask(Quantity.Length, WhichTenths, "tenth", "tenths");
        Ask(Quantity.Length, WhichGauge, "gauge", "ga", "g gauge");
        words[(int)Quantity.Length].Add("swg", new UnitWord(Unit.Inch, null, WorkshopTables.Swg));
        words[(int)Quantity.Length].Add("awg", new UnitWord(Unit.Inch, null, WorkshopTables.Awg));

        Of(Unit.Gram, "gram", "grams", "gm");
        Of(Unit.Kilogram, "kilo", "kilos", "kgs", "kilogram", "kilograms");
        Of(Unit.Tonne, "tonnes", "metric ton", "metric tons");
        Of(Unit.Pound, "lbs", "pound", "pounds");
        Of(Unit.Ounce, "ounce", "ounces");
        Of(Unit.Stone, "st");
        Of(Unit.Quarter, "qrs", "quarter", "quarters");
        Of(Unit.LongTon, "long tons");
        Of(Unit.ShortTon, "short tons");
        Of(Unit.LongHundredweight);
        Of(Unit.ShortHundredweight);
        Ask(Quantity.Mass, WhichTon, "ton", "tons", "t");
        Ask(Quantity.Mass, WhichHundredweight, "cwt", "cwts", "hundredweight");

        Of(Unit.Newton, "newton", "newtons", "n");
        Of(Unit.Kilonewton, "kn");
        Of(Unit.PoundForce);
        Of(Unit.KilogramForce, "kp");
        Of(Unit.LongTonForce, "long ton force");
        Ask(Quantity.Force, MassOrForce, "lb", "lbs", "pound", "pounds", "kg", "kilo", "kilos");
        Ask(Quantity.Force, WhichTon + " As a force: long tonf.", "ton", "tons", "tonf", "t");

        Of(Unit.NewtonMetre, "n m", "nm", "Nm", "newton metre", "newton metres");
        Of(Unit.PoundFoot, "ft lb", "ft lbs", "lbs ft", "lbf ft", "ft lbf", "foot pound", "foot pounds", "pound foot", "pound feet");
        Of(Unit.PoundInch, "in lb", "in lbs", "lbs in", "lbf in", "in lbf", "inch pound", "inch pounds", "pound inch", "pound inches");
        Of(Unit.KilogramMetre, "kg m", "kgm", "m kg", "kgfm");
        Of(Unit.KilogramCentimetre, "kg cm", "kgcm", "kgfcm");

        Of(Unit.Pascal, "pa");
        Of(Unit.Kilopascal, "kpa");
        Of(Unit.Megapascal, "mpa", "n/mm2", "N/mm2");
        Of(Unit.Bar, "bars");
        Of(Unit.Psi, "lb/in2", "lbf/in2", "lb/sq in", "lb per sq in", "pounds per square inch");
        Of(Unit.KilogramPerSquareCentimetre, "kg/cm2", "at");
        Of(Unit.InchOfMercury, "inhg", "in hg", "in Hg");

        Of(Unit.Celsius, "°c", "° c", "c", "degc", "deg c", "degrees c", "celsius", "centigrade");
        Of(Unit.Fahrenheit, "°f", "° f", "f", "degf", "deg f", "degrees f", "fahrenheit");
        Of(Unit.Kelvin, "k", "kelvin");
        Ask(Quantity.Temperature, WhichDegrees, "°", "deg", "degree", "degrees");
        Of(Unit.CelsiusDifference, "°c", "° c", "c", "degc", "deg c", "degrees c", "k", "kelvin", "c°");
        Of(Unit.FahrenheitDifference, "°f", "° f", "f", "degf", "deg f", "degrees f", "f°");
        Ask(Quantity.TemperatureDifference, WhichDegrees, "°", "deg", "degree", "degrees");

        Of(Unit.Litre, "l", "litre", "litres", "liter", "liters", "ltr");
        Of(Unit.Millilitre, "cc", "cm3", "millilitre", "millilitres");
        Of(Unit.ImperialGallon, "imp gallon", "imp gallons", "imperial gallon", "imperial gallons");
        Of(Unit.UsGallon, "us gal", "us gallon", "us gallons");
        Of(Unit.ImperialPint, "imp pints", "imperial pint", "imperial pints");
        Of(Unit.UsPint, "us pint", "us pints");
        Of(Unit.CubicInch, "in3", "cubic inch", "cubic inches", "cu ins");
        Ask(Quantity.Volume, WhichGallon, "gal", "gals", "gallon", "gallons");
        Ask(Quantity.Volume, WhichPint, "pint", "pints", "pt");

        Of(Unit.Volt, "v", "volt", "volts");
        Of(Unit.Millivolt, "mv", "millivolt", "millivolts");
        Of(Unit.Kilovolt, "kv");
        Of(Unit.Ampere, "a", "amp", "amps", "ampere", "amperes");
        Of(Unit.Milliampere, "ma", "milliamp", "milliamps");
        Of(Unit.Ohm, "ohm", "ohms", "r");
        Of(Unit.Milliohm, "mohm", "mohms", "milliohm", "milliohms");
        Of(Unit.Kiloohm, "kohm", "kohms", "k");
        Of(Unit.Megohm, "Mohm", "Mohms", "megohm", "megohms", "meg");
        Ask(Quantity.Resistance, WhichOhm, "MOHM", "MOHMS", "m", "M");

        Of(Unit.Hour, "hr", "hrs", "hour", "hours");
        Of(Unit.Minute, "mins", "minute", "minutes");
        Of(Unit.Second, "sec", "secs", "second", "seconds");
        Of(Unit.Degree, "deg", "degree", "degrees");
        Of(Unit.ArcMinute, "'", "minute of arc", "minutes of arc");
        Of(Unit.ArcSecond, "\"", "second of arc", "seconds of arc");
        Of(Unit.Mile, "mile", "miles");
        Of(Unit.Kilometre, "kilometre", "kilometres", "kms");
        return [.. words.Select(w => w.ToFrozenDictionary(StringComparer.Ordinal))];
    }
}
