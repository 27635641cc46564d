using OilTag.Core.Bench.Sketches;
using OilTag.Core.Make;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>How much material to buy, whether a part fits a machine, and whether to make or buy it.</summary>
public static class Cutting
{
    private const string Counted = "Type a whole number from 1 to 500.";

    private static readonly IReadOnlyList<BenchChoice> Grain = [new("turn", "They may lie either way"), new("keep", "The grain must run along the sheet")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("bars", BenchTopic.Stock, "Bars for blanks", "How many bars to buy, what they weigh and cost, and what to cut from which.", [new BenchField("lengths", "Which finished lengths?", Hint: "One of each kind: 120 mm; 3 1/2 in."), new BenchField("pieces", "How many of each?", Hint: "As many numbers: 8; 4."), new BenchField("bar", "How long is a bar?", Hint: "3 m."), new BenchField("kerf", "How wide is a saw cut?", "3 mm"), new BenchField("allowance", "What is added to each for facing?", "3 mm"), new BenchField("grip", "What is lost of each bar?", "0 mm", "In the chuck, or its rough end."), .. StockWeights.OfBars], Bars),
        new("sheets", BenchTopic.Stock, "Sheets for blanks", "How many sheets to buy, what they weigh and cost, and how blanks lie on them.", [new BenchField("widths", "How wide are they?", Hint: "One of each kind, finished: 300 mm; 120 mm."), new BenchField("heights", "How high?", Hint: "200 mm; 80 mm."), new BenchField("pieces", "How many of each?", Hint: "4; 10."), new BenchField("width", "How wide is a sheet?", Hint: "2 m."), new BenchField("height", "How high is a sheet?", Hint: "1 m."), new BenchField("gap", "Gap between two for the cut?", "3 mm"), new BenchField("allowance", "What is added on each edge?", "0 mm"), new BenchField("grain", "Which way may they lie?", "turn", Choices: Grain), .. StockWeights.OfSheets], Sheets),
        new("make-or-buy", BenchTopic.Stock, "Make, buy, or a later pattern", "From how many pieces on making pays, and when they are there.", [new BenchField("pieces", "How many pieces?", Hint: "8"), new BenchField("tooling", "What do pattern and tools cost, pounds?", "0"), new BenchField("machines", "How many machines does that tooling serve?", "1", "Its cost is shared among them."), new BenchField("setup", "What does setting up cost, pounds?", "0"), new BenchField("make", "What does a piece cost to make, pounds?", Hint: "Material and outside work."), new BenchField("makeWeeks", "In how many weeks is it made?", Hint: "6"), new BenchField("buy", "What does a bought one cost, pounds?", Hint: "Empty when there is none to buy.", Needed: false), new BenchField("buyWeeks", "In how many weeks does that come?", Hint: "12", Needed: false), new BenchField("need", "In how many weeks is it needed?", Hint: "By the plan.", Needed: false)], MakeOrBuy),
        new("machine-fit", BenchTopic.Stock, "Does it fit our machine", "Swing, length between centres and weight against the part.", [new BenchField("diameter", "Largest diameter of the part?", Hint: "410 mm."), new BenchField("length", "How long is it?", Hint: "1.2 m."), new BenchField("mass", "How heavy is it?", Hint: "85 kg."), new BenchField("swing", "Swing over the bed?", Hint: "The largest diameter that clears it."), new BenchField("saddle", "Swing over the saddle?", Hint: "Where the tool must pass beneath."), new BenchField("between", "Length between centres?", Hint: "1.5 m."), new BenchField("most", "Most that it carries?", Hint: "250 kg.")], Fit),
    ];

    private static IReadOnlyList<int> Counts(Asked asked, int kinds)
    {
        var counts = asked.Numbers("pieces", 60, "Type whole numbers with a semicolon between them, one for each kind.");
        if (!asked.Good)
        {
            return [];
        }

        if (counts.Count != kinds || counts.Any(c => c < 1 || c != Math.Floor(c)) || counts.Sum() > Blanks.Most)
        {
            asked.No("pieces", $"Type a whole number for each kind, 1 or more, {Blanks.Most} in all at most.");
        }

        return [.. counts.Select(c => (int)c)];
    }

    private static BenchAnswer Bars(Asked asked)
    {
        var lengths = asked.List("lengths", Quantity.Length, 1, 60, "Type up to sixty lengths with a semicolon between them.");
        var counts = Counts(asked, lengths.Count);
        var bar = asked.Length("bar");
        var (kerf, allowance, grip) = (asked.Offset("kerf"), asked.Offset("allowance"), asked.Offset("grip"));
        foreach (var (field, value) in new[] { ("kerf", kerf), ("allowance", allowance), ("grip", grip) })
        {
            if (asked.Good && value < 0)
            {
                asked.No(field, "Type nought or more.");
            }
        }

        var weigh = StockWeights.ReadBars(asked);
        var all = asked.Good ? Blanks.FromBars(lengths.SelectMany((l, i) => Enumerable.Repeat(l, counts[i])), bar, kerf, allowance, grip) : null;
        if (asked.Good && all is null)
        {
            asked.No("bar", "The longest piece does not fit on a bar.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial == true);
        var net = lengths.Select((l, i) => l * counts[i]).Sum();
        r.OfNumber("bars", "Bars to buy", all!.Count).OfLength("net", "Finished length in them", net).OfNumber("used", "Share that becomes parts", 100 * net / (all.Count * bar), " in 100").OfLength("left", "Longest piece left", all.Max(b => b.Left));
        weigh(r, all.Count, bar, net);
        foreach (var (same, n) in all.GroupBy(b => string.Join(" + ", b.Lengths.Select(r.Short))).Select(g => (g, g.Count())).Take(12))
        {
            r.Step($"{n} × ({same.Key}), {r.Short(same.First().Left)} left");
        }

        return r.Step($"each piece + {r.Short(allowance)}, {r.Short(kerf)} a cut, {r.Short(grip)} lost of each bar").Draw(PlaceSketches.Bars(r, [.. all.GroupBy(b => string.Join("+", b.Lengths)).Select(g => (g.Count(), g.First().Lengths)).Take(12)], bar, kerf)).Done("First fit decreasing: at most 11/9 of the fewest bars and 6/9 of one (Dósa, 2007)", "Buy one piece more than you need where the first may be spoilt.");
    }

    private static BenchAnswer Sheets(Asked asked)
    {
        var widths = asked.List("widths", Quantity.Length, 1, 60, "Type up to sixty widths with a semicolon between them.");
        var heights = asked.List("heights", Quantity.Length, 1, 60, "Type as many heights as widths.");
        if (asked.Good && widths.Count != heights.Count)
        {
            asked.No("heights", "Type as many heights as widths.");
        }

        var counts = Counts(asked, widths.Count);
        var (width, height) = (asked.Length("width"), asked.Length("height"));
        var (gap, allowance) = (asked.Offset("gap"), asked.Offset("allowance"));
        var grain = asked.Choice("grain", Grain);
        if (asked.Good && (gap < 0 || allowance < 0))
        {
            asked.No(gap < 0 ? "gap" : "allowance", "Type nought or more.");
        }

        var weigh = StockWeights.ReadSheets(asked);
        var layout = asked.Good ? Blanks.OnSheets(widths.Select((w, i) => new Blank(((char)('A' + (i % 26))).ToString(), w + (2 * allowance), heights[i] + (2 * allowance), counts[i])), width, height, gap, grain == "turn") : null;
        if (asked.Good && layout is null)
        {
            asked.No("width", grain == "turn" ? "One of them is larger than a sheet." : "One of them is larger than a sheet the way its grain must run.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var r = new Reckoning(asked.Imperial == true);
        r.OfNumber("sheets", "Sheets to buy", layout!.Sheets).OfNumber("used", "Share that becomes blanks", 100 * layout.Used, " in 100").OfNumber("least", "Fewest by area alone", layout.Least);
        weigh(r, layout.Sheets, width * height, layout.Used);
        foreach (var sheet in layout.Placed.GroupBy(p => p.Sheet).Take(4))
        {
            r.Step($"sheet {sheet.Key}: {string.Join(", ", sheet.Take(12).Select(p => $"{p.Name} at {r.Short(p.X)} | {r.Short(p.Y)}"))}{(sheet.Count() > 12 ? $" and {sheet.Count() - 12} more" : string.Empty)}");
        }

        return r.Draw(PlaceSketches.Sheets(r, [.. layout.Placed.Where(p => p.Sheet == 1).Select(p => (p.Name, p.X, p.Y, p.Width, p.Height))], width, height)).Done("Maximal rectangles, best short side fit (Jylänki, 2010)", "From the left and the lower edge. Bends across the grain crack less: check the direction before cutting.");
    }

    private static BenchAnswer MakeOrBuy(Asked asked)
    {
        const string Pounds = "Type pounds, 0 or more.";
        var pieces = asked.Whole("pieces", 1, 500, Counted);
        var machines = asked.Whole("machines", 1, 50, "Type a whole number of machines from 1 to 50.");
        var (tooling, setup) = (asked.Value("tooling", 0, 1e7, Pounds), asked.Value("setup", 0, 1e7, Pounds));
        var fixedCost = (tooling / machines) + setup;
        var make = asked.Value("make", 0, 1e7, Pounds);
        var weeks = asked.Value("makeWeeks", 0, 520, "Type the weeks, from 0 to 520.");
        var sold = asked.Has("buy");
        var buy = sold ? asked.Value("buy", 0, 1e7, Pounds) : 0;
        var buyWeeks = sold ? asked.Value("buyWeeks", 0, 520, "Type the weeks, from 0 to 520.") : 0;
        double? need = asked.Has("need") ? asked.Value("need", 0, 520, "Type the weeks, from 0 to 520.") : null;
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var (made, bought) = (fixedCost + (pieces * make), pieces * buy);
        var (inTimeMade, inTimeBought) = (need is null || weeks <= need, sold && (need is null || buyWeeks <= need));
        var better = !sold || (inTimeMade && (!inTimeBought || made <= bought)) ? "Make" : !inTimeMade && !inTimeBought ? weeks <= buyWeeks ? "Make: neither comes in time" : "Buy: neither comes in time" : "Buy";
        var r = new Reckoning(false);
        r.Figure("make", better, made, string.Empty, $"{Reckoning.Pounds(made)} made{(sold ? $", {Reckoning.Pounds(bought)} bought" : string.Empty)}");
        if (sold)
        {
            r.OfNumber("buy", "Bought, pounds", bought);
            r.Figure("even", "Making pays from", buy > make ? Math.Ceiling((fixedCost / (buy - make)) - 1e-9) : -1, string.Empty, buy > make ? $"{Math.Max(1, Math.Ceiling((fixedCost / (buy - make)) - 1e-9)):0} pieces on" : "no number of pieces");
        }

        return r.Warn(!inTimeMade, $"Made, it comes after {Reckoning.N(weeks)} weeks and is needed in {Reckoning.N(need ?? 0)}.").Warn(sold && !inTimeBought, $"Bought, it comes after {Reckoning.N(buyWeeks)} weeks and is needed in {Reckoning.N(need ?? 0)}.")
            .Step($"made = tooling/machines + set-up + n · piece = {Reckoning.N(tooling)}/{Reckoning.N(machines)} + {Reckoning.N(setup)} + {Reckoning.N(pieces)} · {Reckoning.N(make)} = {Reckoning.N(made)}").Step(sold ? $"bought = {Reckoning.N(pieces)} · {Reckoning.N(buy)} = {Reckoning.N(bought)}" : "nothing to buy is known")
            .Draw(Costs(pieces, fixedCost, make, sold, buy))
            .Done("Break-even of a fixed cost", "Volunteers’ hours are not money here. A bought part is not a finished part: overhaul, fit-up and a check of its clearances come on top.", "Originality is for the group to weigh.");
    }

    private static BenchAnswer Fit(Asked asked)
    {
        var (diameter, length, mass) = (asked.Length("diameter"), asked.Length("length"), asked.Si("mass", Quantity.Mass));
        var (swing, saddle, between, most) = (asked.Length("swing"), asked.Length("saddle"), asked.Length("between"), asked.Si("most", Quantity.Mass));
        if (asked.Good && saddle > swing)
        {
            asked.No("saddle", "The swing over the saddle is never larger than that over the bed. Are the two swapped?");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        const double Same = 1e-9;
        var r = new Reckoning(asked.Imperial == true);
        List<string> no = [];
        if (diameter > swing + Same)
        {
            no.Add($"it is {r.Short(diameter - swing)} too large for the bed");
        }

        if (length > between + Same)
        {
            no.Add($"it is {r.Short(length - between)} too long");
        }

        if (mass > most + Same)
        {
            no.Add("it is too heavy");
        }

        return r.Figure("fits", no.Count == 0 ? "It fits" : "It does not fit", no.Count == 0 ? 1 : 0, string.Empty, no.Count == 0 ? diameter > saddle + Same ? "but not past the saddle" : "past the saddle as well" : string.Join(", ", no))
            .OfLength("room", "Room over the bed, each side", (swing - diameter) / 2).OfLength("along", "Room along", between - length)
            .Warn(no.Count == 0 && diameter > saddle + Same, "The saddle cannot pass under it: only what lies beyond its end can be turned.").Warn(mass > 0.8 * most && mass <= most + Same, "More than 80 in 100 of what the machine carries.")
            .Step($"{r.Short(diameter)} against {r.Short(swing)} over the bed and {r.Short(saddle)} over the saddle; {r.Short(length)} against {r.Short(between)}").Draw(PlaceSketches.Lathe(r, diameter, length, swing, saddle, between)).Done("Sizes of the machine’s plate", "Chuck, steady and tailstock take of the length between centres. A heavy or unbalanced part is turned by somebody cleared for it.");
    }

    private static Sketch Costs(double pieces, double once, double make, bool sold, double buy)
    {
        List<(SketchStroke, IReadOnlyList<(double X, double Y)>, string)> lines = [(SketchStroke.Edge, [(0, once), (1.5 * pieces, once + (1.5 * pieces * make))], "made")];
        if (sold)
        {
            lines.Add((SketchStroke.Hidden, [(0, 0), (1.5 * pieces, 1.5 * pieces * buy)], "bought"));
        }

        return Plain.Graph("Cost against the number of pieces, made and bought.", "pieces", "£", lines, (pieces, once + (pieces * make), $"{Reckoning.N(pieces)} made"));
    }
}
