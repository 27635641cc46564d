using System.Diagnostics;
using OilTag.Core.Today;
using OilTag.Yardstick;

namespace OilTag.PlanBench;

/// <summary>Times the day's work for many people and steps, and compares its first crews with those of the exact solver.</summary>
public static class DayBench
{
    public static int Run()
    {
        foreach (var (people, operations) in new[] { (10, 40), (20, 75), (40, 150) })
        {
            var times = new List<double>();
            double ours = 0, best = 0;
            var proven = 0;
            const int days = 15;
            for (var seed = 0; seed < days; seed++)
            {
                var day = RandomDay.Make(people, operations, seed);
                DayPlanner.Plan(day);
                var clock = Stopwatch.StartNew();
                DayPlanner.Plan(day);
                times.Add(clock.Elapsed.TotalMilliseconds);
                var problem = DayPlanner.Opening(day);
                var (exact, sure) = ExactCrews.Solve(problem, 20);
                proven += sure ? 1 : 0;
                ours += problem.Value(CrewSearch.Solve(problem));
                best += problem.Value(exact);
            }

            times.Sort();
            Console.WriteLine(FormattableString.Invariant($"{people,3} people {operations,4} steps: median {times[days / 2]:0} ms, longest {times[^1]:0} ms; first crews {100 * (best - ours) / best:0.00} % below the exact solver's ({proven} of {days} proven)"));
        }

        return 0;
    }
}
