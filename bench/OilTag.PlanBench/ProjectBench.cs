using System.Diagnostics;
using System.Globalization;
using OilTag.Core.Planning;

namespace OilTag.PlanBench;

/// <summary>The engine against the stored results of the exact solver.</summary>
internal static class ProjectBench
{
    private static readonly Dictionary<int, double> Allowed = new() { [30] = 0.3, [60] = 0.6, [120] = 1.5 };

    public static int Run(string folder, double share)
    {
        var known = Instances.Known(folder);
        Console.WriteLine("jobs  instances  proven by CP-SAT  proven here  shorter  equal  longer  mean gap %  worst gap %  median s  longest s  median schedules");
        foreach (var size in Instances.Sizes)
        {
            var gaps = new List<double>();
            var seconds = new List<double>();
            var tried = new List<int>();
            var (proven, here) = (0, 0);
            foreach (var name in Instances.Names(folder).Where(n => n.StartsWith($"p{size}-", StringComparison.Ordinal) && known.ContainsKey(n)))
            {
                var project = Instances.Read(folder, name);
                var clock = Stopwatch.StartNew();
                var found = ProjectSolver.Solve(project, 1, TimeSpan.FromSeconds(Allowed[size] * share));
                seconds.Add(clock.Elapsed.TotalSeconds);
                if (project.WhyNot(found.Starts) is { } wrong)
                {
                    throw new InvalidOperationException($"{name}: {wrong}");
                }

                tried.Add(found.Tried);
                gaps.Add(100.0 * (found.Makespan - known[name].Makespan) / known[name].Makespan);
                proven += known[name].Proven ? 1 : 0;
                here += found.LowerBound == found.Makespan ? 1 : 0;
                if (Environment.GetEnvironmentVariable("EACH") is not null)
                {
                    Console.WriteLine($"{name} {found.Makespan} {known[name].Makespan} bound {known[name].Bound} {gaps[^1]:0.00} {found.Tried}");
                }
            }

            if (gaps.Count == 0)
            {
                continue;
            }

            double Median(IEnumerable<double> of) => of.Order().ElementAt(gaps.Count / 2);
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{size,4}  {gaps.Count,9}  {proven,16}  {here,11}  {gaps.Count(g => g < 0),7}  {gaps.Count(g => g == 0),5}  {gaps.Count(g => g > 0),6}  {gaps.Average(),10:0.000}  {gaps.Max(),11:0.00}  {Median(seconds),8:0.00}  {seconds.Max(),9:0.00}  {Median(tried.Select(t => (double)t)),16:N0}"));
        }

        return 0;
    }
}
