using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>What stock weighs and costs. Mass = density · section · length; densities from memory.</summary>
internal static class StockWeights
{
    private sealed record Material(string Key, string Words, double Density);

    private static readonly IReadOnlyList<Material> Materials = DataTable.Of("stock", r => new Material(r[0], r[1], DataTable.Number(r[2]) * 1000));

    private static readonly IReadOnlyList<BenchChoice> Choices = [.. Materials.Select(m => new BenchChoice(m.Key, m.Words))];

    private static readonly IReadOnlyList<BenchChoice> Sections = [new("none", "do not weigh it"), new("round", "round"), new("square", "square"), new("hexagon", "hexagon"), new("flat", "flat"), new("tube", "round tube")];

    private static readonly IReadOnlyList<BenchChoice> PricesOfBars = [new("each", "a bar"), new("metre", "a metre"), new("kilogram", "a kilogram")];

    private static readonly IReadOnlyList<BenchChoice> PricesOfSheets = [new("each", "a sheet"), new("metre", "a square metre"), new("kilogram", "a kilogram")];

    /// <summary>What is asked of bars beside their lengths.</summary>
    public static IReadOnlyList<BenchField> OfBars { get; } =
    [
        new("section", "Which section?", "none", Choices: Sections), new("across", "How large across?", Hint: "Diameter, across flats, or width.", Needed: false), new("thick", "How thick?", Hint: "A flat, or the wall of a tube.", Needed: false),
        new("material", "Which material?", "steel", Choices: Choices), new("price", "What does it cost, pounds?", Hint: "Empty when you do not know.", Needed: false), new("per", "That is the price of", "each", Choices: PricesOfBars),
    ];

    /// <summary>What is asked of sheets beside their sizes.</summary>
    public static IReadOnlyList<BenchField> OfSheets { get; } =
    [
        new("thick", "How thick is it?", Hint: "1.2 mm, 0.048 in. Empty to leave out its weight.", Needed: false), new("material", "Which material?", "steel", Choices: Choices),
        new("price", "What does it cost, pounds?", Hint: "Empty when you do not know.", Needed: false), new("per", "That is the price of", "each", Choices: PricesOfSheets),
    ];

    /// <summary>Reads section, material and price of bars; what is wrong is said beside its field.</summary>
    /// <returns>Adds weight and cost of so many bars of a length, metres, of which so many metres become parts.</returns>
    public static Action<Reckoning, int, double, double> ReadBars(Asked asked)
    {
        var section = asked.Choice("section", Sections);
        var material = asked.Pick("material", Materials, m => m.Key);
        var pounds = Price(asked, PricesOfBars, weighed: section != "none", "section", "Choose the section: a price by the kilogram needs the weight.");
        if (section is null or "none")
        {
            return (r, bars, bar, _) => Cost(r, pounds, bars, bars * bar, null);
        }

        var across = asked.Length("across");
        var thick = section is "flat" or "tube" ? asked.Length("thick") : 0;
        if (asked.Good && section == "tube" && thick >= across / 2)
        {
            asked.No("thick", "The wall must be less than half of the tube.");
        }

        if (asked.Good && section == "flat" && thick > across)
        {
            asked.No("thick", "The thickness is the smaller size of a flat. Are the two swapped?");
        }

        var (area, formula) = section switch
        {
            "round" => (Math.PI * across * across / 4, "π · d²/4"),
            "square" => (across * across, "a²"),
            "hexagon" => (Math.Sqrt(3) / 2 * across * across, "√3/2 · a²"),
            "flat" => (across * thick, "w · t"),
            _ => (Math.PI * (across - thick) * thick, "π · (d − t) · t"),
        };
        return (r, bars, bar, net) =>
        {
            var mass = bars * bar * area * material!.Density;
            r.OfMass("mass", "Weight to buy", mass).OfMass("netMass", "Weight of the finished parts", net * area * material.Density)
                .Step($"A = {formula} = {r.Area(area)}; m = ρ · A · L, ρ = {Reckoning.N(material.Density / 1000)} g/cm³ for {material.Words} = {r.Mass(mass)}");
            Cost(r, pounds, bars, bars * bar, mass);
        };
    }

    /// <summary>Reads thickness, material and price of sheets; what is wrong is said beside its field.</summary>
    /// <returns>Adds weight and cost of so many sheets of an area, square metres, of which a share from 0 to 1 becomes blanks.</returns>
    public static Action<Reckoning, int, double, double> ReadSheets(Asked asked)
    {
        var thick = asked.Optional("thick", Quantity.Length)?.Si;
        var material = asked.Pick("material", Materials, m => m.Key);
        var pounds = Price(asked, PricesOfSheets, weighed: asked.Has("thick"), "thick", "Type the thickness: a price by the kilogram needs the weight.");
        return (r, sheets, area, used) =>
        {
            double? mass = null;
            if (thick is { } t)
            {
                mass = sheets * area * t * material!.Density;
                r.OfMass("mass", "Weight to buy", mass.Value).OfMass("sheetMass", "Weight of one sheet", mass.Value / sheets).OfMass("netMass", "Weight of the blanks", mass.Value * used)
                    .Step($"m = ρ · w · h · t · n, ρ = {Reckoning.N(material.Density / 1000)} g/cm³ for {material.Words}, t = {r.Short(t)} = {r.Mass(mass.Value)}");
            }

            Cost(r, pounds, sheets, sheets * area, mass);
        };
    }

    private static (double Pounds, string Per)? Price(Asked asked, IReadOnlyList<BenchChoice> prices, bool weighed, string field, string sentence)
    {
        var per = asked.Choice("per", prices);
        if (!asked.Has("price"))
        {
            return null;
        }

        var pounds = asked.Value("price", 0, 1e6, "Type pounds, 0 or more.");
        if (per == "kilogram" && !weighed)
        {
            asked.No(field, sentence);
        }

        return (pounds, per ?? string.Empty);
    }

    private static void Cost(Reckoning r, (double Pounds, string Per)? price, int pieces, double size, double? mass)
    {
        if (price is not var (pounds, per))
        {
            return;
        }

        var n = per switch { "each" => pieces, "metre" => size, _ => mass ?? 0 };
        r.Figure("cost", "Cost", n * pounds, string.Empty, Reckoning.Pounds(n * pounds)).Step($"{Reckoning.N(n)} · {Reckoning.Pounds(pounds)} = {Reckoning.Pounds(n * pounds)}");
    }
}
