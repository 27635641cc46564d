using System.Diagnostics;
using System.Globalization;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Data.Planning;
using OilTag.Yardstick;

namespace OilTag.PlanBench;

/// <summary>How far the answers of one record differ when the search is begun with another seed.</summary>
internal static class StableBench
{
    private const int Runs = 4000;
    private const int Seeds = 10;

    /// <summary>The plan of a file, then twelve generated sheds.</summary>
    /// <param name="file">A plan file.</param>
    /// <param name="sheds">How many generated sheds.</param>
    public static int Run(string file, int sheds)
    {
        var (plan, problem) = PlanJson.Read(File.ReadAllText(file));
        if (plan is null)
        {
            Console.Error.WriteLine(problem);
            return 2;
        }

        Console.WriteLine("shed        milestone               weight   least    most  spread  order-by days apart  plan ms");
        One("file", plan);
        for (var i = 0; i < sheds; i++)
        {
            One($"shed {i}", RandomShed.Make(new ShedSize { Machines = 2 + (i % 4), Operations = 60 + (20 * i), People = 10 + i, OpenLimit = i % 3 == 0 ? 2 : null, OwnWork = i % 2 == 1 }, 100 + i));
        }

        return 0;
    }

    private static void One(string name, PlanInput input)
    {
        var chances = new List<IReadOnlyList<double>>();
        var windows = new List<IReadOnlyList<double>>();
        var days = new List<Dictionary<string, int>>();
        var times = new List<double>();
        for (var seed = 1; seed <= Seeds; seed++)
        {
            var clock = Stopwatch.StartNew();
            var planner = new Planner(input, seed);
            times.Add(clock.Elapsed.TotalMilliseconds);
            var forecast = PlanSimulation.Run(planner, Runs, seed);
            chances.Add([.. forecast.Milestones.Select(m => m.Chance)]);
            windows.Add([.. forecast.Windows.Select(m => m.Chance)]);
            days.Add(OrderByRule.Of(planner, seed: seed).Where(o => o.Slack is not null).ToDictionary(o => o.Demand, o => o.Slack!.Value, StringComparer.Ordinal));
        }

        var apart = days.SelectMany(d => d.Keys).Distinct(StringComparer.Ordinal).Select(k => days.Where(d => d.ContainsKey(k)).Select(d => d[k]).ToList()).Where(d => d.Count == Seeds).Select(d => d.Max() - d.Min()).Order().ToList();
        var most = apart.Count == 0 ? "-" : string.Create(CultureInfo.InvariantCulture, $"{apart[apart.Count / 2]} median, {apart[^1]} most");
        foreach (var (m, k) in input.Milestones.Select((m, k) => (m, k)))
        {
            Line(name, m.Name, m.Weight * (m.Fixed ? 3 : 1), [.. chances.Select(c => c[k])], most, times);
        }

        for (var w = 0; w < windows[0].Count; w++)
        {
            Line(name, "window " + (w + 1).ToString(CultureInfo.InvariantCulture), 1, [.. windows.Select(c => c[w])], most, times);
        }
    }

    private static void Line(string shed, string name, double weight, IReadOnlyList<double> chances, string most, List<double> times) =>
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{shed,-10}  {name,-22}  {weight,6:0.#}  {chances.Min(),6:0.000}  {chances.Max(),6:0.000}  {chances.Max() - chances.Min(),6:0.000}  {most,-22}  {times.Order().ElementAt(times.Count / 2),6:0}"));
}
