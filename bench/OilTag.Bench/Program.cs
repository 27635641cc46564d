using System.Diagnostics;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Survey;

// Times the core alone, on one core of the machine: medians of rounds in one run.
string[] typed = ["5/16 in", "60 thou", "7.2 mm", "1 3/4\"", "1,5 mm", "3 lb 4 oz", "35 psi", "14 SWG", "20 °C", "No. 30 drill", "1-3/4 in", "12.7", "⅝ in", "2 ft 6 in", "40 lb ft"];
Quantity[] wanted = [Quantity.Length, Quantity.Length, Quantity.Length, Quantity.Length, Quantity.Length, Quantity.Mass, Quantity.Pressure, Quantity.Length, Quantity.Temperature, Quantity.Length, Quantity.Length, Quantity.Length, Quantity.Length, Quantity.Length, Quantity.Torque];
const int Inputs = 300_000;

// The first rounds warm the compiler up and do not count.
double Median(Func<double> round, int rounds) => Enumerable.Range(0, rounds + 40).Select(_ => round()).Skip(40).Order().ElementAt(rounds / 2);

var taken = 0;
double Parse()
{
    var clock = Stopwatch.StartNew();
    for (var i = 0; i < Inputs; i++)
    {
        taken += MeasureReader.Read(typed[i % typed.Length], wanted[i % typed.Length], Unit.Millimetre).Value is null ? 0 : 1;
    }

    return Inputs / clock.Elapsed.TotalSeconds;
}

_ = Parse();
Console.WriteLine($"\ncore alone\nmeasures read a second, one core                    {Median(Parse, 9):N0}");

// A million strings that nobody would type: none may throw.
const string Letters = "0123456789/.,-–\"' °½¾minthousfcgkwlbpar#No()~?\t\u0000\u00A0ÆΩ∞";
var dice = new Random(417);
var (refused, understood) = (0, 0);
var letters = new char[24];
for (var i = 0; i < 1_000_000; i++)
{
    var length = dice.Next(letters.Length + 1);
    for (var k = 0; k < length; k++)
    {
        letters[k] = Letters[dice.Next(Letters.Length)];
    }

    var read = MeasureReader.Read(new string(letters, 0, length), (Quantity)dice.Next(Enum.GetValues<Quantity>().Length), null);
    if (read.Value is { } value)
    {
        understood += double.IsFinite(value.Si) ? 1 : throw new InvalidOperationException($"Not a number: {value.Text}");
    }
    else
    {
        refused++;
    }
}

Console.WriteLine($"random strings                                       1,000,000: {understood:N0} understood, {refused:N0} refused in a sentence, none threw");

var sheet = new SurveySheet
{
    Title = "Timing",
    UnitSymbol = "mm",
    Rows = [.. Enumerable.Range(1, 100).Select(n => n.ToString(System.Globalization.CultureInfo.InvariantCulture))],
    Columns = [.. Enumerable.Range(1, 100).Select(n => n.ToString(System.Globalization.CultureInfo.InvariantCulture))],
    Regions = [new SheetRegion("All", 1, 100, 1, 100, MeasureReader.Read("10 mm", Quantity.Length).Value, [new RegionLimit(RestorationStandard.Service, MeasureReader.Read("8 mm", Quantity.Length).Value!)])],
};
var readings = Enumerable.Range(0, 10_000).Select(i => new SheetReading { Row = (i / 100) + 1, Column = (i % 100) + 1, Turn = 1, Si = 0.0097 - (0.0003 * dice.NextDouble()) - (i / 100 == 40 ? 0.0016 : 0) }).ToList();
var analysis = SheetAnalysis.Of(sheet, readings, RestorationStandard.Service);
double Timed(Action work)
{
    var clock = Stopwatch.StartNew();
    work();
    return clock.Elapsed.TotalMilliseconds;
}

Console.WriteLine($"judging 10,000 readings                              {Median(() => Timed(() => SheetAnalysis.Of(sheet, readings, RestorationStandard.Service)), 15):0.0} ms");
Console.WriteLine($"patterns in 10,000 readings                          {Median(() => Timed(() => PatternRule.Find(analysis)), 15):0.0} ms");
return taken > 0 ? 0 : 1;
