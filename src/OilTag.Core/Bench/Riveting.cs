using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Tables;

namespace OilTag.Core.Bench;

/// <summary>
/// Solid rivets. L = G + 1.5·D, edge distance 2·D (countersunk 2.5·D), pitch 3·D: AC 43.13-1B and the FAA airframe handbook, recalled. Heads of countersunk rivets from memory. Shear of 2117 rivets from 30 ksi on the nominal diameter.
/// </summary>
public static class Riveting
{
    private static readonly IReadOnlyList<(int Dash, string Drill, double Hole, double Head)> Sizes = DataTable.Of("rivets", r => (int.Parse(r[0], System.Globalization.CultureInfo.InvariantCulture), r[2], DataTable.Number(r[3]), DataTable.Number(r[4]) * Unit.Inch.Factor));

    private static readonly BenchChoice[] Dashes = [.. Sizes.Select(s => new BenchChoice(s.Dash.ToString(System.Globalization.CultureInfo.InvariantCulture), $"-{s.Dash}, {s.Dash}/32 in"))];

    private static readonly BenchChoice[] Heads = [new("universal", "universal or round"), new("countersunk", "countersunk")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new(
            "rivet",
            BenchTopic.Riveting,
            "Length of a rivet",
            "Which length for this stack, which drill, and how near the edge.",
            [new BenchField("stack", "Which sheets?", Hint: "0.040 + 0.032 in, 1.6 + 1.2 mm; the one under the head first."), new BenchField("dash", "Which diameter?", "4", Choices: Dashes), new BenchField("head", "Which head?", "universal", Choices: Heads), new BenchField("edge", "How far from the edge?", Hint: "Centre to edge. Empty when it is not to be checked.", Needed: false), new BenchField("pitch", "Which pitch?", Hint: "Centre to centre. Empty when it is not to be checked.", Needed: false)],
            Length),
        new(
            "rivet-seam",
            BenchTopic.Riveting,
            "Rivets in a seam",
            "How many, how far apart, and how many to order.",
            [new BenchField("length", "How long is the seam?", Hint: "36 in."), new BenchField("edge", "How far is the first from the end?", Hint: "0.30 in."), new BenchField("most", "How far apart at most?", Hint: "0.75 in."), new BenchField("rows", "How many rows?", "1"), new BenchField("dash", "Which diameter?", "4", Choices: Dashes)],
            Seam),
        new(
            "rivet-splice",
            BenchTopic.Riveting,
            "Rivets beside a damaged length",
            "How many each side of it, in the handbook form for 2024 skin.",
            [new BenchField("length", "How long is the damage?", Hint: "Across the load: 3 in."), new BenchField("thickness", "How thick is the sheet?", Hint: "0.032 in."), new BenchField("dash", "Which diameter of 2117 rivet?", "4", Choices: Dashes), new BenchField("bearing", "What does the sheet bear at one rivet?", Hint: "From approved data: 500 lbf.")],
            Splice),
        new(
            "hot-rivet",
            BenchTopic.Riveting,
            "Stock for a hot rivet",
            "How long the shank must be to fill the hole and form a button head.",
            [new BenchField("diameter", "Which diameter?", Hint: "3/4 in."), new BenchField("hole", "Which hole?", Hint: "13/16 in, usually 1/16 over."), new BenchField("grip", "How thick is the stack?", Hint: "1 1/4 in.")],
            Hot),
    ];

    private static (int Dash, string Drill, double Hole, double Head) Size(Asked asked)
    {
        var dash = asked.Choice("dash", Dashes);
        return Sizes.FirstOrDefault(s => s.Dash.ToString(System.Globalization.CultureInfo.InvariantCulture) == dash);
    }

    private static BenchAnswer Length(Asked asked)
    {
        var stack = asked.List("stack", Quantity.Length, 1, 8, "Type the sheets with a plus between them, such as 0.040 + 0.032 in.");
        var size = Size(asked);
        var head = asked.Choice("head", Heads);
        var edge = asked.Optional("edge", Quantity.Length)?.Si;
        var pitch = asked.Optional("pitch", Quantity.Length)?.Si;
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? true);
        var d = size.Dash / 32.0 * Unit.Inch.Factor;
        var times = head == "countersunk" ? 2.5 : 2;
        if (edge < times * d * (1 - 1e-9))
        {
            asked.No("edge", $"A -{size.Dash} rivet needs {r.Length(times * d)}, {Reckoning.N(times)} diameters, from its centre to the edge. Edge distance is the one rule that cannot be repaired.");
        }

        // The height of a head of 100 degrees follows from its width.
        var deep = (size.Head - d) / (2 * Math.Tan(50 * Math.PI / 180));
        if (head == "countersunk" && stack.Count > 0 && deep > stack[0] * (1 + 1e-9))
        {
            asked.No("head", $"The head of a -{size.Dash} is {r.Length(deep)} high, deeper than the top sheet: dimple it instead, or take a smaller rivet.");
        }

        if (pitch < 3 * d * (1 - 1e-9))
        {
            asked.No("pitch", $"A -{size.Dash} rivet needs {r.Length(3 * d)}, 3 diameters, to the next.");
        }

        var grip = stack.Sum();
        var wanted = grip + (1.5 * d);
        var sixteenth = Unit.Inch.Factor / 16;
        var length = (int)Math.Floor((wanted / sixteenth) + 0.5 + 1e-9);
        if (length > 64)
        {
            asked.No("stack", "This holds for stacks up to 3 in.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var stands = ((length * sixteenth) - grip) / d;
        return r.Figure("length", "Rivet", length * sixteenth, "m", $"-{size.Dash}-{length}, {r.Length(length * sixteenth)}").OfLength("wanted", "Wanted length", wanted).OfNumber("protrusion", "Stands out", stands, " D")
            .Figure("hole", "Hole", size.Hole * Unit.Inch.Factor, "m", $"{size.Drill}, {r.Length(size.Hole * Unit.Inch.Factor)}").OfLength("headWidth", "Shop head, wide", 1.5 * d).OfLength("headHeight", "Shop head, high", 0.5 * d).OfLength("leastEdge", "Least edge distance", times * d).OfLength("leastPitch", "Least pitch", 3 * d)
            .Step($"L = G + 1.5 · D = {r.Short(grip)} + 1.5 · {r.Short(d)} = {r.Short(wanted)}, the nearest sixteenth of an inch is {length}/16")
            .Step($"protrusion = (L − G)/D = {Reckoning.N(stands)}; 1.25 to 1.75 is good")
            .Step($"A rivet is about three times as thick as the thicker sheet: 3 · {r.Short(stack.Max())} = {r.Short(3 * stack.Max())}")
            .Warn(stands is < 1.25 - 1e-9 or > 1.75 + 1e-9, "The nearest length stands out too little or too much for a good head: try another in scrap first.")
            .Warn(edge > 4 * d * (1 + 1e-9), "More than 4 diameters from the edge the sheet may curl.")
            .Draw(FastenerSketches.Rivet(r, stack, d, size.Hole * Unit.Inch.Factor, length * sixteenth, edge ?? times * d, head == "countersunk"))
            .Done("AC 43.13-1B and FAA airframe handbook, recalled; head widths common practice", "Eye and ear protection.", "A pattern of unknown origin is no evidence of strength; primary structure of an airworthy aircraft needs approved data.");
    }

    private static BenchAnswer Seam(Asked asked)
    {
        var length = asked.Length("length");
        var edge = asked.Length("edge");
        var most = asked.Length("most");
        var rows = asked.Whole("rows", 1, 6, "Type a whole number of rows, 1 to 6.");
        var size = Size(asked);
        if (asked.Good && length < 2 * edge)
        {
            asked.No("length", "The seam is shorter than its two edge distances.");
        }

        if (asked.Good && (length - (2 * edge)) / most > 100_000)
        {
            asked.No("most", "That would be more than 100 000 rivets in a row.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? true);
        var d = size.Dash / 32.0 * Unit.Inch.Factor;
        var gaps = (int)Math.Ceiling(((length - (2 * edge)) / most) - 1e-9);
        var each = gaps + 1;
        var pitch = gaps == 0 ? 0 : (length - (2 * edge)) / gaps;
        if (gaps > 0 && pitch < 3 * d * (1 - 1e-9))
        {
            asked.No("most", $"Spread evenly they stand {r.Length(pitch)} apart; a -{size.Dash} rivet needs {r.Length(3 * d)}.");
            return BenchAnswer.Refused([]);
        }

        if (edge < 2 * d * (1 - 1e-9))
        {
            asked.No("edge", $"A -{size.Dash} rivet needs {r.Length(2 * d)} to the edge.");
            return BenchAnswer.Refused([]);
        }

        var all = each * rows;
        var order = Math.Ceiling((all * 1.1 / 10) - 1e-9) * 10;
        return r.OfNumber("each", "In a row", each).OfLength("pitch", "Pitch", pitch).OfNumber("total", "In all rows", all).OfNumber("order", "To order", order)
            .Step($"n = ⌈(L − 2 e)/p⌉ + 1 = ⌈({r.Short(length)} − 2 · {r.Short(edge)})/{r.Short(most)}⌉ + 1 = {each}")
            .Step($"spread evenly: p = (L − 2 e)/(n − 1) = {r.Short(pitch)}")
            .Step($"order = {Reckoning.N(all)} and a tenth more, up to the next ten = {Reckoning.N(order)}: common practice")
            .Draw(FastenerSketches.Seam(r, length, edge, pitch, each, (int)rows, d))
            .Done("AC 43.13-1B and FAA airframe handbook, recalled", "Rows stand about three quarters of the pitch apart, at least 2.5 diameters.");
    }

    private static BenchAnswer Splice(Asked asked)
    {
        var length = asked.Length("length");
        var thickness = asked.Length("thickness");
        var size = Size(asked);
        var bearing = asked.Load("bearing");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? true);
        var d = size.Dash / 32.0 * Unit.Inch.Factor;
        var shear = 30 * BoltGrade.Ksi * Math.PI / 4 * d * d;
        var weaker = Math.Min(shear, bearing);
        var exact = length * thickness * 75 * BoltGrade.Ksi / weaker;
        var n = Math.Ceiling(exact - 1e-9);
        return r.OfNumber("each", "Rivets each side", n).OfNumber("exact", "Before rounding up", exact).OfForce("shear", "Shear of one", shear)
            .Step($"S = 30 ksi · π/4 · D² = {r.Force(shear)}")
            .Step($"n = L · T · 75 ksi / min(S, B) = {r.Short(length)} · {r.Short(thickness)} · 75 ksi / {r.Force(weaker)} = {Reckoning.N(exact)}, so {Reckoning.N(n)}")
            .Draw(FastenerSketches.Splice(r, length, d, (int)Math.Min(n, 400)))
            .Done("FAA airframe handbook, form for 2024 skin, recalled; shear stress of driven 2117 from memory", "A structural repair of an airworthy aircraft needs approved data.", "Never mix alloys to make up strength.");
    }

    private static BenchAnswer Hot(Asked asked)
    {
        var d = asked.Length("diameter");
        var hole = asked.Length("hole");
        var grip = asked.Length("grip");
        if (asked.Good && hole < d)
        {
            asked.No("hole", "The hole is smaller than the rivet.");
        }

        if (asked.Good && hole > 1.25 * d)
        {
            asked.No("hole", "The hole is more than a quarter over the rivet: it cannot be filled.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial ?? true);
        var length = (grip * Math.Pow(hole / d, 2)) + (1.43 * d);
        return r.OfLength("length", "Shank", length).OfLength("headWidth", "Driven head, wide", 1.75 * d).OfLength("headHeight", "Driven head, high", 0.75 * d)
            .Step($"L = G · (Dh/D)² + 1.43 · D = {r.Short(grip)} · ({r.Short(hole)}/{r.Short(d)})² + 1.43 · {r.Short(d)} = {r.Short(length)}")
            .Step("A button of 1.75 D by 0.75 D holds the metal of 1.43 D of shank (spherical cap, computed).")
            .Draw(FastenerSketches.Hot(r, d, hole, grip, length))
            .Done("Volume of hole and head; head shape from memory", "Drive from bright orange, not over about 1065 °C (1950 °F), and stop below about 540 °C (1000 °F): from memory.", "Boiler riveting is for authorised repairers only.");
    }
}
