using System.Diagnostics;
using NodaTime;
using OilTag.Core.Bench;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Tables;
using OilTag.Core.Work;

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

// Every calculator with its own example, and a table of 5,000 lines.
var questions = Calculator.All.Select(c => (Calculator: c, Typed: c.Example.Split('&').Select(p => p.Split('=', 2)).ToDictionary(p => p[0], p => p[1], StringComparer.Ordinal))).ToList();
List<(string Key, double Microseconds)> answered = [.. questions.Select(q => (q.Calculator.Key, Median(
    () =>
    {
        var clock = Stopwatch.StartNew();
        _ = q.Calculator.Answer(f => q.Typed.TryGetValue(f, out var text) ? text : q.Calculator.Fields.First(x => x.Name == f).Usual);
        return clock.Elapsed.TotalMicroseconds;
    },
    201)))];
var slowest = answered.MaxBy(a => a.Microseconds);
Console.WriteLine($"calculators, {answered.Count}, microseconds an answer              median {answered.Select(a => a.Microseconds).Order().ElementAt(answered.Count / 2):0}, slowest {slowest.Key} {slowest.Microseconds:0}");
var lines = new DataTable("lines", "Lines", "made up", ["Size", "Name", "Inches"], [.. Enumerable.Range(0, 5000).Select(i => (IReadOnlyList<string>)[$"{i}/64", $"part {i % 97} of kind {i % 13}", (i / 64.0).ToString("0.0000", System.Globalization.CultureInfo.InvariantCulture)])]);
double Searched(string words) => Median(
    () =>
    {
        var clock = Stopwatch.StartNew();
        _ = lines.Search(words);
        return clock.Elapsed.TotalMilliseconds;
    },
    101);
Console.WriteLine($"a table of 5,000 lines searched, milliseconds             {Searched("kind 7"):0.00} by words, {Searched("12.5"):0.00} by a number");

// Steps as people write them: the lines of the library, a package of 300 steps, and where 2,000 packages stand.
var sets = StartingSteps.All.Select(set => set.Lines).ToList();
var written = sets.Sum(text => text.Split('\n').Count(line => line.Trim().Length > 0));
var many = string.Join('\n', Enumerable.Range(1, 300).Select(n => $"ream row {n} 2-3-5 h, riveter, 2 people, tool: reamer 1/4"));
var now = new LocalDateTime(2026, 11, 26, 12, 0);
var shed = new ShedStand { Now = now, Local = at => at.WithOffset(Offset.Zero).LocalDateTime, NextSession = now.Date, Expected = new Dictionary<string, int>(StringComparer.Ordinal) { ["riveter"] = 1 } };
var packages = Enumerable.Range(0, 2000).Select(n => new WorkPackage
{
    Title = "Timing",
    Operations = [.. StepText.Read(sets[n % sets.Count], StepWords.None).Steps.Select((step, k) => StepChange.Make(step, k + 1))],
}).ToList();
double Timed(Action work)
{
    var clock = Stopwatch.StartNew();
    work();
    return clock.Elapsed.TotalMilliseconds;
}

Console.WriteLine($"a line of steps read, of {written}                          {Median(() => Timed(() => sets.ForEach(text => StepText.Read(text, StepWords.None))), 101) * 1000 / written:0.0} µs");
Console.WriteLine($"300 steps read                                       {Median(() => Timed(() => StepText.Read(many, StepWords.None)), 51):0.0} ms");
Console.WriteLine($"where 2,000 packages stand                           {Median(() => Timed(() => packages.ForEach(package => PackageStand.Of(package, shed))), 51):0.0} ms");

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
Console.WriteLine($"judging 10,000 readings                              {Median(() => Timed(() => SheetAnalysis.Of(sheet, readings, RestorationStandard.Service)), 15):0.0} ms");
Console.WriteLine($"patterns in 10,000 readings                          {Median(() => Timed(() => PatternRule.Find(analysis)), 15):0.0} ms");

// A machine of 500 assemblies with four parts each: covers over covers, and 40 places with two ways in, all of them on the way to the deepest part.
var (map, deepest, access) = Tangled();
int Minutes(Guid s) => 10 + (BitConverter.ToInt32(s.ToByteArray()) % 50);
var off = new HashSet<Guid>(access.Where((_, i) => i % 3 == 0));
var route = WayIn.Find(map, deepest, new HashSet<Guid>(), Minutes)!;
Console.WriteLine($"way in, {route.Slots.Count} parts to take off, {(route.Exact ? "exact" : "not exact")}               {Median(() => Timed(() => WayIn.Find(map, deepest, new HashSet<Guid>(), Minutes)), 15):0.00} ms");
var jobs = access.Where((_, i) => i % 9 == 0).Select(s => new Job(s, "F", "/f/1")).ToList();
var times = new StripTimes([], access.ToDictionary(s => s, s => ("Part", new StripEstimate(Minutes(s), null))));
Console.WriteLine($"the whole answer, with {jobs.Count} findings about               {Median(() => Timed(() => ReachRule.Of(map, deepest, new HashSet<Guid>(), times, jobs)), 15):0.00} ms");
Console.WriteLine($"what closing a cover buries                          {Median(() => Timed(() => map.BuriedBy(access[0], off)), 15):0.00} ms");
var all = access.Select((s, i) => (s, (int?)i)).ToList();
var plan = ReassemblyRule.Of(map, all, Minutes);
Console.WriteLine($"the order of {plan.Steps.Count:N0} parts                            {Median(() => Timed(() => ReassemblyRule.Of(map, all, Minutes)), 15):0.0} ms");
return taken > 0 && plan.Impossible.Count == 0 ? 0 : 1;

static (AccessMap Map, Guid Deepest, List<Guid> Slots) Tangled()
{
    static Guid Id(int n) => new(n, 0, 0, new byte[8]);
    var places = new List<PlaceNode>();
    var slots = new List<Guid>();
    var conditions = new List<Precedence>();
    for (var a = 0; a < 500; a++)
    {
        places.Add(new PlaceNode(Id(100_000 + a), a == 0 ? null : Id(100_000 + ((a - 1) / 8)), $"Assembly {a}", PlaceKind.Assembly));
        for (var k = 0; k < 4; k++)
        {
            var slot = Id((a * 4) + k);
            slots.Add(slot);
            places.Add(new PlaceNode(slot, Id(100_000 + a), $"Part {a}.{k}", PlaceKind.Slot));
            if (k > 0)
            {
                conditions.Add(new Precedence { FirstSlotId = Id((a * 4) + k - 1), ThenId = slot });
            }
        }
    }

    // Forty places with a short way through one part and a long one through two; the first ten lie one behind the other.
    for (var g = 0; g < 40; g++)
    {
        var then = Id(((g * 12) + 12) * 4);
        conditions.Add(new Precedence { FirstSlotId = Id((g * 12 * 4) + 3), ThenId = then, Way = 1 });
        conditions.Add(new Precedence { FirstSlotId = Id(((g * 12) + 5) * 4), ThenId = then, Way = 2 });
        conditions.Add(new Precedence { FirstSlotId = Id(((g * 12) + 7) * 4), ThenId = then, Way = 2 });
        if (g < 10)
        {
            conditions.Add(new Precedence { FirstSlotId = then, ThenId = Id((((g + 1) * 12) * 4) + 3) });
        }
    }

    // The deepest part wants all forty off, so that forty choices are weighed at once.
    var deepest = Id(1999);
    conditions.AddRange(Enumerable.Range(0, 40).Select(g => new Precedence { FirstSlotId = Id(((g * 12) + 12) * 4), ThenId = deepest }));
    return (new AccessMap(places, conditions), deepest, slots);
}
