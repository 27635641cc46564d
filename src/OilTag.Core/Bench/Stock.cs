using System.Globalization;
using NodaTime;
using NodaTime.Text;
using OilTag.Core.Measures;

namespace OilTag.Core.Bench;

/// <summary>When stock runs out, what practice saves, and what a chain of estimates comes to.</summary>
public static class Stock
{
    private const double MostDays = 36_600;

    /// <summary>The calculators.</summary>
    public static IReadOnlyList<Calculator> All { get; } =
    [
        new("use-up", BenchTopic.Stock, "When it runs out", "The day on which stock is used up, and when to order.", [new BenchField("stock", "How much is there?", Hint: "38"), new BenchField("use", "How much is used in a week?", Hint: "2.6"), new BenchField("from", "Counted from which day?", Hint: "2027-03-01"), new BenchField("lead", "How many weeks does it take to come?", "3"), new BenchField("safety", "How much is kept for safety?", "0")], RunOut),
        new("use-up-sessions", BenchTopic.Stock, "Runs out in which session", "For what is used only when people work.", [new BenchField("stock", "How much is there?", Hint: "1400"), new BenchField("use", "How much is used in a session?", Hint: "520")], Sessions),
        new("learning", BenchTopic.Stock, "What practice saves", "Hours for a batch when each doubling takes less.", [new BenchField("first", "How long did the first take?", Hint: "20 h."), new BenchField("rate", "What does a doubling leave, in 100?", "85"), new BenchField("pieces", "How many pieces?", Hint: "8")], Learning),
        new("path", BenchTopic.Stock, "A chain of estimates", "When a row of jobs is done, and how sure that is.", [new BenchField("low", "At best, one after the other?", Hint: "In days: 2; 4; 1"), new BenchField("likely", "Likely?", Hint: "3; 6; 2"), new BenchField("high", "At worst?", Hint: "6; 10; 3")], Chain),
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
        return new Reckoning(false).OfNumber("during", "Runs out during session", whole + 1).OfNumber("whole", "Whole sessions", whole).Step($"{Reckoning.N(stock)}/{Reckoning.N(use)} = {Reckoning.N(stock / use)}").Done("Steady use");
    }

    private static BenchAnswer Learning(Asked asked)
    {
        var first = asked.Si("first", Quantity.Duration);
        var rate = asked.Value("rate", 50, 100, "Type what a doubling leaves, from 50 to 100.");
        var pieces = asked.Value("pieces", 1, 10_000, "Type a whole number of pieces up to 10 000.");
        if (asked.Good && (first <= 0 || pieces != Math.Floor(pieces)))
        {
            asked.No(first <= 0 ? "first" : "pieces", first <= 0 ? "Type more than nought." : "Type a whole number of pieces up to 10 000.");
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

        if (!asked.Good)
        {
            return BenchAnswer.Refused([]);
        }

        var mean = Enumerable.Range(0, low.Count).Sum(i => (low[i] + (4 * likely[i]) + high[i]) / 6);
        var sigma = Math.Sqrt(Enumerable.Range(0, low.Count).Sum(i => Math.Pow((high[i] - low[i]) / 6, 2)));
        return new Reckoning(false).OfDays("mean", "On average", mean).OfDays("p80", "In eight cases of ten", mean + (0.8416 * sigma)).OfDays("p90", "In nine of ten", mean + (1.2816 * sigma)).OfDays("deviation", "Standard deviation", sigma)
            .Step("mean = (a + 4 m + b)/6, variance = ((b − a)/6)², added up along the chain").Step("percentile = mean + z · σ, z = 0.8416 and 1.2816")
            .Done("PERT; normal sum", "Percentiles are only as good as the estimates; where chains meet, the true chance is lower.");
    }
}
