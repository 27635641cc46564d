using System.Globalization;
using NodaTime;
using NodaTime.Text;
using OilTag.Core.Bench.Sketches;
using OilTag.Core.Measures;
using OilTag.Core.Planning;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Core.Bench;

/// <summary>When stock runs out, what practice saves, and what a chain of estimates comes to.</summary>
public static class Stock
{
    private const double MostDays = 36_600;

    private static readonly IReadOnlyList<BenchChoice> Shapes = [new("pert", "the likely one counts four times (PERT)"), new("triangle", "all three alike (triangle)")];

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("use-up", BenchTopic.Stock, "When it runs out", "The day on which stock is used up, and when to order.", [new BenchField("stock", "How much is there?", Hint: "38"), new BenchField("use", "How much is used in a week?", Hint: "2.6"), new BenchField("from", "Counted from which day?", Hint: "2027-03-01"), new BenchField("lead", "How many weeks does it take to come?", "3"), new BenchField("safety", "How much is kept for safety?", "0")], RunOut),
        new("use-up-sessions", BenchTopic.Stock, "Runs out in which session", "For what is used only when people work.", [new BenchField("stock", "How much is there?", Hint: "1400"), new BenchField("use", "How much is used in a session?", Hint: "520")], Sessions),
        new("learning", BenchTopic.Stock, "What practice saves", "Hours for a batch when each doubling takes less.", [new BenchField("first", "How long did the first take?", Hint: "20 h."), new BenchField("rate", "What does a doubling leave, in 100?", "85"), new BenchField("pieces", "How many pieces?", Hint: "8")], Learning),
        new("path", BenchTopic.Stock, "A chain of estimates", "When a row of jobs is done, and how sure that is.", [new BenchField("low", "At best, one after the other?", Hint: "In days: 2; 4; 1"), new BenchField("likely", "Likely?", Hint: "3; 6; 2"), new BenchField("high", "At worst?", Hint: "6; 10; 3"), new BenchField("shape", "How are they taken?", "pert", Choices: Shapes), new BenchField("by", "Within how many days should it be done?", Hint: "Empty to leave it out.", Needed: false)], Chain),
        new("donor", BenchTopic.Stock, "Does a donor machine pay", "Its break-even price from the parts it would give.", [new BenchField("price", "What does it cost, pounds?", Hint: "2500"), new BenchField("carriage", "Carriage, pounds?", "0"), new BenchField("hours", "Hours to strip it?", "0"), new BenchField("rate", "What does an hour count for, pounds?", "0"), new BenchField("storage", "Storage, pounds?", "0"), new BenchField("resale", "What does the rest fetch, pounds?", "0"), new BenchField("values", "What do the wanted parts cost otherwise, pounds?", Hint: "900; 1400; 650"), new BenchField("chances", "How likely is each usable, in 100?", Hint: "90; 60; 80, in the same order.")], Donor),
        new("contingency", BenchTopic.Stock, "Hours in reserve", "What a reserve adds to a base of hours.", [new BenchField("base", "How many hours?", Hint: "420"), new BenchField("share", "Which reserve, in 100?", "15")], Contingency),
    ];

    private static BenchAnswer RunOut(Asked asked)
    {
        var stock = asked.Value("stock", 0, 1e9, "Type how much there is, 0 or more.");
        var use = asked.Value("use", 1e-6, 1e9, "Type how much is used in a week, more than 0.");
        var lead = asked.Value("lead", 0, 520, "Type the weeks, from 0 to 520.");
        var safety = asked.Value("safety", 0, 1e9, "Type how much is kept, 0 or more.");
        var from = LocalDatePattern.Iso.Parse(asked.Text("from"));
        if (!from.Success || from.Value.Year is < 1900 or > 2200)
        {
            asked.No("from", "Type the day as year, month, day, such as 2027-03-01.");
        }

        var days = stock / (use / 7);
        if (asked.Good && days > MostDays)
        {
            asked.No("use", "It lasts more than a hundred years.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        string Day(double after) => from.Value.PlusDays((int)Math.Floor(after + 1e-9)).ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
        var order = (lead * use) + safety;
        var until = Math.Max(0, (stock - order) / (use / 7));
        return new Reckoning(false).Figure("days", "Runs out", Math.Floor(days + 1e-9), "days", Day(days)).OfNumber("order", "Order when no more is left than", order).Figure("orderDays", "That is", Math.Floor(until + 1e-9), "days", stock <= order ? "now" : Day(until))
            .Step($"{Reckoning.N(stock)}/({Reckoning.N(use)}/7) = {Reckoning.N(days)} days").Step($"order at lead · use + safety = {Reckoning.N(lead)} · {Reckoning.N(use)} + {Reckoning.N(safety)} = {Reckoning.N(order)}")
            .Draw(Plain.Graph("The stock by the day, when to order, and when it is gone.", "days", "stock", [(SketchStroke.Edge, [(0, stock), (days, 0)], string.Empty)], (until, Math.Min(order, stock), "order")))
            .Done("Steady use");
    }

    private static BenchAnswer Sessions(Asked asked)
    {
        var stock = asked.Value("stock", 0, 1e9, "Type how much there is, 0 or more.");
        var use = asked.Value("use", 1e-6, 1e9, "Type how much is used in a session, more than 0.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var whole = Math.Floor((stock / use) + 1e-9);
        return new Reckoning(false).OfNumber("during", "Runs out during session", whole + 1).OfNumber("whole", "Whole sessions", whole).Step($"{Reckoning.N(stock)}/{Reckoning.N(use)} = {Reckoning.N(stock / use)}").Draw(Plain.Graph("The stock from session to session.", "sessions", "stock", [(SketchStroke.Edge, [(0, stock), (stock / use, 0)], string.Empty)], (whole, stock - (whole * use), $"after {Reckoning.N(whole)}"))).Done("Steady use");
    }

    private static BenchAnswer Learning(Asked asked)
    {
        var first = asked.Si("first", Quantity.Duration);
        var rate = asked.Value("rate", 50, 100, "Type what a doubling leaves, from 50 to 100.");
        var pieces = asked.Whole("pieces", 1, 10_000, "Type a whole number of pieces up to 10 000.");
        if (asked.Good && first <= 0)
        {
            asked.No("first", "Type more than nought.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var power = Math.Log2(rate / 100);
        double Of(int n) => first * Math.Pow(n, power);
        var all = Enumerable.Range(1, (int)pieces).Sum(Of);
        string H(double s) => $"{Reckoning.N(s / 3600)} h";
        return new Reckoning(false).Figure("total", "All of them", all, "s", H(all)).Figure("last", "The last", Of((int)pieces), "s", H(Of((int)pieces))).Figure("mean", "On average", all / pieces, "s", H(all / pieces))
            .Step($"T(n) = T1 · n^log2({Reckoning.N(rate / 100)}); the {Reckoning.N(pieces)}th takes {H(Of((int)pieces))}").Step($"Σ = {H(all)}")
            .Draw(Plain.Graph("Hours for each piece, one after the other.", "pieces", "hours", [(SketchStroke.Edge, [.. Enumerable.Range(0, 60).Select(i => 1 + ((pieces - 1) * i / 59)).Select(n => (n, first / 3600 * Math.Pow(n, power)))], string.Empty)], (pieces, Of((int)pieces) / 3600, H(Of((int)pieces)))))
            .Done("Learning curve");
    }

    private static BenchAnswer Chain(Asked asked)
    {
        const string How = "Type up to forty numbers of days with a semicolon between them, such as 2; 4; 1.";
        var low = asked.Numbers("low", 40, How);
        var likely = asked.Numbers("likely", 40, How);
        var high = asked.Numbers("high", 40, How);
        if (asked.Good && (low.Count != likely.Count || low.Count != high.Count))
        {
            asked.No("high", "Type as many times in each of the three.");
        }

        if (asked.Good && Enumerable.Range(0, low.Count).Any(i => low[i] > likely[i] || likely[i] > high[i]))
        {
            asked.No("likely", "The likely time lies between the best and the worst.");
        }

        var triangle = asked.Choice("shape", Shapes) == "triangle";
        var by = asked.Has("by") ? asked.Number("by", 0, 1e6, "Type days, 0 or more.") : null;
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var (mean, variance) = (0.0, 0.0);
        for (var i = 0; i < low.Count; i++)
        {
            var range = new HoursRange(low[i], likely[i], high[i]);
            mean += triangle ? range.Mean : ThreePoint.PertMean(low[i], likely[i], high[i]);
            variance += triangle ? range.Variance : ThreePoint.PertVariance(low[i], high[i]);
        }

        var (eight, nine) = (ThreePoint.Percentile(mean, variance, 0.8), ThreePoint.Percentile(mean, variance, 0.9));
        var r = new Reckoning(false).OfDays("mean", "On average", mean).OfDays("p80", "In eight cases of ten", eight).OfDays("p90", "In nine of ten", nine).OfDays("deviation", "Standard deviation", Math.Sqrt(variance));
        if (by is { } days)
        {
            // Estimates without any spread are there on their day, or not.
            r.OfNumber("chance", $"Done within {Reckoning.N(days)} days", variance > 0 ? 100 * MathNet.Numerics.Distributions.Normal.CDF(mean, Math.Sqrt(variance), days) : days >= mean ? 100 : 0, " in 100");
        }

        return r.Step($"{(triangle ? "mean = (a + m + b)/3, variance = (a² + m² + b² − ab − am − bm)/18" : "mean = (a + 4 m + b)/6, variance = ((b − a)/6)²")}, added up along the chain = {Reckoning.N(mean)} and {Reckoning.N(variance)}").Step("percentile = mean + z · σ, z = 0.8416 and 1.2816")
            .Draw(Plain.Scale("Days: on average, in eight of ten cases, in nine of ten.", (0, "start", false), (mean, $"average {Reckoning.N(mean)}", true), (eight, $"8 of 10: {Reckoning.N(eight)}", false), (nine, $"9 of 10: {Reckoning.N(nine)}", false)))
            .Done(triangle ? "Triangular distribution; normal sum" : "PERT; normal sum", "Percentiles are only as good as the estimates; where chains meet, the true chance is lower.");
    }

    private static BenchAnswer Donor(Asked asked)
    {
        const string Pounds = "Type pounds, 0 or more.";
        long Pence(string field) => (long)Math.Round(asked.Value(field, 0, 1e7, Pounds) * 100);
        var (price, carriage, storage, resale) = (Pence("price"), Pence("carriage"), Pence("storage"), Pence("resale"));
        var hours = asked.Value("hours", 0, 1e5, "Type the hours, 0 or more.");
        var rate = asked.Value("rate", 0, 1000, "Type pounds for an hour, from 0 to 1000.");
        var values = asked.Numbers("values", DonorRule.Most, "Type pounds with a semicolon between them.");
        var chances = asked.Numbers("chances", DonorRule.Most, "Type a chance in 100 for each part, with a semicolon between them.");
        if (asked.Good && (values.Count != chances.Count || chances.Any(c => c > 100)))
        {
            asked.No("chances", values.Count != chances.Count ? $"There are {values.Count} parts and {chances.Count} chances." : "A chance is from 0 to 100.");
        }

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var of = DonorRule.Work(new DonorMachine(price, carriage, hours, (int)Math.Round(rate * 100), storage, resale), [.. values.Select((v, i) => new DonorPart($"part {i + 1}", (long)Math.Round(v * 100), chances[i] / 100))]);
        string M(long pence) => (pence < 0 ? "−£" : "£") + Math.Abs(pence / 100.0).ToString("N2", CultureInfo.InvariantCulture);
        var r = new Reckoning(false).Figure("even", "Break-even price", of.BreakEvenPence / 100.0, string.Empty, M(of.BreakEvenPence)).Figure("net", "Costs in the end", of.NetPence / 100.0, string.Empty, M(of.NetPence)).Figure("worth", "Its parts are worth", of.WorthPence / 100.0, string.Empty, M(of.WorthPence))
            .Figure("gain", of.Pays ? "It gains" : "It loses", (of.WorthPence - of.NetPence) / 100.0, string.Empty, M(Math.Abs(of.WorthPence - of.NetPence)));
        foreach (var step in of.Working.Steps)
        {
            r.Step(step);
        }

        return r.Draw(Plain.Bars("What it costs in the end against what its parts are worth.", [(Math.Max(0, of.NetPence), $"costs {M(of.NetPence)}", !of.Pays), (of.WorthPence, $"parts {M(of.WorthPence)}", false)])).Done(of.Working.Source, [.. of.Working.Cautions]);
    }

    private static BenchAnswer Contingency(Asked asked)
    {
        var hours = asked.Value("base", 0.01, 1e7, "Type the hours, more than 0.");
        var share = asked.Value("share", 0, 200, "Type the reserve from 0 to 200.");
        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var reserve = hours * share / 100;
        return new Reckoning(false).Figure("all", "Hours with the reserve", (hours + reserve) * 3600, "s", $"{Reckoning.N(hours + reserve)} h").Figure("reserve", "Reserve", reserve * 3600, "s", $"{Reckoning.N(reserve)} h")
            .Step($"{Reckoning.N(hours)} h · {Reckoning.N(share)}/100 = {Reckoning.N(reserve)} h")
            .Draw(Plain.Bars("Base and reserve.", [(hours, $"base {Reckoning.N(hours)} h", false), (reserve, $"reserve {Reckoning.N(reserve)} h", false), (hours + reserve, $"together {Reckoning.N(hours + reserve)} h", false)]))
            .Done("Common practice", "One reserve, said once: never on top of another.");
    }
}
