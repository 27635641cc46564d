using System.Diagnostics;
using System.Globalization;
using OilTag.Core.Planning;
using OilTag.Yardstick;

namespace OilTag.PlanBench;

/// <summary>Times the plan of large sheds.</summary>
internal static class ShedBench
{
    public static int Check(int count)
    {
        var (bad, bars, begun) = (0, 0, 0);
        for (var seed = 0; seed < count; seed++)
        {
            var dice = new Random(seed);
            var size = new ShedSize { Machines = 1 + dice.Next(4), Operations = 10 + dice.Next(70), People = 6 + dice.Next(12), Sites = 1 + (seed % 4 == 0 ? 1 : 0), OpenLimit = seed % 3 == 0 ? 1 + dice.Next(2) : null, OwnWork = seed % 2 == 1 };
            var input = RandomShed.Make(size, seed);
            var planner = new Planner(input, passes: 12);
            var plan = planner.Schedule();
            bars += input.Operations.Count(o => o.NotBy.Count > 0);
            begun += input.Packages.Count(
                p => p is { Started: true, Opens: true } && input.Machines.First(m => m.Id == p.Machine).Windows is { Count: > 0 });

            // By expected values, and as it is drawn.
            foreach (var w in ScheduleValidator.Wrong(input, plan).Concat(ScheduleValidator.Wrong(input, planner.Schedule(PlanSimulation.Run(planner, 64)))).Take(3))
            {
                Console.WriteLine($"seed {seed}: {w}");
                bad++;
            }

            if (seed < 3)
            {
                foreach (var p in plan.Problems)
                {
                    Console.WriteLine($"   {seed} {p.About}: {p.Sentence}");
                }
            }
        }

        Console.WriteLine(
            $"{count} sheds, {2 * count} plans, {bars} operations that somebody is barred from, {begun} begun packages that meet windows: {bad} faults");
        return bad == 0 ? 0 : 1;
    }

    /// <summary>Times sheds of the given numbers of operations.</summary>
    public static int Run(IReadOnlyList<int> sizes)
    {
        Console.WriteLine("operations  sessions  people  plan ms  1,000 runs s  10,000 runs s  MB");
        foreach (var operations in sizes)
        {
            var input = RandomShed.Make(new ShedSize { Machines = 12, Operations = operations, People = 80, Weeks = 156, Skills = 14, Demands = operations / 20 }, 7);
            _ = new Planner(input, passes: 12);
            var plan = Median(() => new Planner(input), out var planner);
            var thousand = Median(() => PlanSimulation.Run(planner, 1000), out _);
            var clock = Stopwatch.StartNew();
            var forecast = PlanSimulation.Run(planner, 10_000);
            var ten = clock.Elapsed.TotalSeconds;
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{operations,10}  {input.Sessions.Count,8}  {input.People.Count,6}  {plan * 1000,7:0}  {thousand,12:0.00}  {ten,13:0.00}  {Process.GetCurrentProcess().PeakWorkingSet64 / 1e6,3:0}"));
            if (operations == 2000)
            {
                foreach (var m in forecast.Milestones.Take(4))
                {
                    Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"    {m.Id}: {m.Chance:0.00} ± {m.ChanceError:0.000}, {m.Even.On} {m.Safe.On}, {m.Drivers.Count} drivers"));
                }
            }
        }

        return 0;
    }

    private static double Median<T>(Func<T> work, out T result)
    {
        var times = new List<double>();
        result = default!;
        for (var i = 0; i < 5; i++)
        {
            var clock = Stopwatch.StartNew();
            result = work();
            times.Add(clock.Elapsed.TotalSeconds);
        }

        return times.Order().ElementAt(2);
    }
}
