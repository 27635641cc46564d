using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>Puts an answer together: each figure is written in the system that was typed, with the other behind it.</summary>
/// <param name="imperial">True for inches and pounds first.</param>
internal sealed class Reckoning(bool imperial)
{
    private readonly List<BenchFigure> figures = [];
    private readonly List<string> steps = [];
    private readonly List<string> warnings = [];
    private Sketch? sketch;
    private Sketch? template;

    public static string N(double value) => MeasureFormat.Significant(value, 4);

    public string Length(double metres) => In(metres, Unit.Inch, Unit.Millimetre);

    public string Mass(double kilograms) => In(kilograms, Unit.Pound, kilograms is < 1 and > -1 ? Unit.Gram : Unit.Kilogram);

    public string Force(double newtons) => In(newtons, Unit.PoundForce, Math.Abs(newtons) < 1000 ? Unit.Newton : Unit.Kilonewton);

    public string Stress(double pascals) => In(pascals, Unit.Psi, Unit.Megapascal);

    public string Torque(double newtonMetres) => In(newtonMetres, Unit.PoundFoot, Unit.NewtonMetre);

    public string Temperature(double kelvins)
    {
        var (c, f) = ($"{N(kelvins - 273.15)}\u00A0°C", $"{N((kelvins * 1.8) - 459.67)}\u00A0°F");
        return imperial ? $"{f}, {c}" : $"{c}, {f}";
    }

    public string Area(double squareMetres)
    {
        var (i, m) = ($"{N(squareMetres / (Unit.Inch.Factor * Unit.Inch.Factor))}\u00A0in²", $"{N(squareMetres * 1e6)}\u00A0mm²");
        return imperial ? $"{i}, {m}" : $"{m}, {i}";
    }

    public string Rise(double kelvins) => In(kelvins, Unit.FahrenheitDifference, Unit.CelsiusDifference);

    public string Volume(double cubicMetres)
    {
        var (i, c) = ($"{N(cubicMetres / Math.Pow(Unit.Inch.Factor, 3))}\u00A0in³", $"{N(cubicMetres * 1e6)}\u00A0cm³");
        return imperial ? $"{i}, {c}" : $"{c}, {i}";
    }

    /// <summary>A length in the system that was typed only.</summary>
    public string Short(double metres) => Written(metres, 4);

    /// <summary>A length with six figures, for what was read and must not lose its last one.</summary>
    public string Fine(double metres) => Written(metres, 6);

    /// <summary>Money to the penny, such as £1,280.00.</summary>
    public static string Pounds(double pounds) => "£" + pounds.ToString("N2", System.Globalization.CultureInfo.InvariantCulture);

    public static string Degrees(double radians) => $"{N(radians * 180 / Math.PI)}°";

    public Reckoning Figure(string name, string label, double si, string unit, string text)
    {
        figures.Add(new BenchFigure(name, label, si, unit, text));
        return this;
    }

    public Reckoning OfLength(string name, string label, double metres) => Figure(name, label, metres, "m", Length(metres));

    public Reckoning OfForce(string name, string label, double newtons) => Figure(name, label, newtons, "N", Force(newtons));

    public Reckoning OfMass(string name, string label, double kilograms) => Figure(name, label, kilograms, "kg", Mass(kilograms));

    public Reckoning OfStress(string name, string label, double pascals) => Figure(name, label, pascals, "Pa", Stress(pascals));

    public Reckoning OfAngle(string name, string label, double radians) => Figure(name, label, radians, "rad", Degrees(radians));

    public Reckoning OfNumber(string name, string label, double value, string behind = "") => Figure(name, label, value, string.Empty, N(value) + behind);

    public Reckoning OfDays(string name, string label, double days) => Figure(name, label, days * 86400, "s", $"{N(days)} days");

    public Reckoning Step(string step)
    {
        steps.Add(step);
        return this;
    }

    public Reckoning Warn(bool when, string sentence)
    {
        if (when)
        {
            warnings.Add(sentence);
        }

        return this;
    }

    /// <summary>How it looks, to scale.</summary>
    public Reckoning Draw(Sketch of)
    {
        sketch = of;
        return this;
    }

    /// <summary>What is cut out and laid on, in full size.</summary>
    public Reckoning Template(Sketch of)
    {
        template = of;
        return this;
    }

    /// <summary>The answer; the first figure is its result.</summary>
    public BenchAnswer Done(string source, params string[] cautions) =>
        new([.. figures], new Working($"{figures[0].Label}: {figures[0].Text}", [.. steps], source, [.. cautions, Calculator.Rank]), [.. warnings], []) { Sketch = sketch, Template = template };

    private string In(double si, Unit inch, Unit metric)
    {
        string Of(Unit unit) => $"{N(si / unit.Factor)}\u00A0{unit.Symbol}";
        return imperial ? $"{Of(inch)}, {Of(metric)}" : $"{Of(metric)}, {Of(inch)}";
    }

    private string Written(double metres, int figures) => imperial ? $"{MeasureFormat.Significant(metres / Unit.Inch.Factor, figures)}\u00A0in" : $"{MeasureFormat.Significant(metres * 1000, figures)}\u00A0mm";
}
