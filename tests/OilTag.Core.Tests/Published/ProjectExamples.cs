using OilTag.Core.Planning;

namespace OilTag.Core.Tests.Published;

/// <summary>Worked examples of the reference book, section “Planning statistics”, computed when it was written, and rules of the standard textbooks.</summary>
public sealed class ProjectExamples
{
    internal static Project Make(params (string Name, int Duration, string After, int[] Wants)[] jobs)
    {
        var at = jobs.Select((j, i) => (j.Name, i)).ToDictionary(j => j.Name, j => j.i);
        var next = jobs.Select(_ => new List<int>()).ToArray();
        for (var i = 0; i < jobs.Length; i++)
        {
            foreach (var before in jobs[i].After.Split(' ', StringSplitOptions.RemoveEmptyEntries))
            {
                next[at[before]].Add(i);
            }
        }

        var resources = jobs[0].Wants.Length;
        return new Project([.. jobs.Select(j => j.Duration)], [.. jobs.Select(j => j.Wants)], resources == 0 ? [] : [3, 1], [.. next.Select(n => n.ToArray())]);
    }

    /// <summary>Refit of a motor launch, days: duration 31, critical A-C-E-G-J-K-L; the whole table.</summary>
    [Fact]
    public void Critical_path_of_the_motor_launch()
    {
        var launch = Make(
            ("A", 3, "", []), ("B", 2, "A", []), ("C", 6, "A", []), ("D", 15, "B", []), ("E", 10, "C", []), ("F", 7, "B", []),
            ("G", 6, "E", []), ("H", 5, "C", []), ("I", 4, "G", []), ("J", 3, "D F G", []), ("K", 2, "H J", []), ("L", 1, "I K", []));
        launch.CriticalLength.ShouldBe(31);
        var table = new[]
        {
            new JobTimes(0, 3, 0, 3, 0, 0), new JobTimes(3, 5, 8, 10, 5, 0), new JobTimes(3, 9, 3, 9, 0, 0), new JobTimes(5, 20, 10, 25, 5, 5),
            new JobTimes(9, 19, 9, 19, 0, 0), new JobTimes(5, 12, 18, 25, 13, 13), new JobTimes(19, 25, 19, 25, 0, 0), new JobTimes(9, 14, 23, 28, 14, 14),
            new JobTimes(25, 29, 26, 30, 1, 1), new JobTimes(25, 28, 25, 28, 0, 0), new JobTimes(28, 30, 28, 30, 0, 0), new JobTimes(30, 31, 30, 31, 0, 0),
        };
        CriticalPath.Of(launch).ShouldBe(table);
        string.Concat(CriticalPath.Of(launch).Select((t, i) => t.Critical ? "ABCDEFGHIJKL"[i].ToString() : string.Empty)).ShouldBe("ACEGJKL");
        ProjectSolver.Solve(launch).Makespan.ShouldBe(31);
    }

    internal static Project TractionEngine() => Make(
        ("A", 3, "", [2, 0]), ("B", 5, "A", [1, 0]), ("C", 4, "A", [2, 0]), ("D", 5, "A", [2, 1]), ("E", 4, "B", [1, 1]),
        ("F", 6, "C", [1, 0]), ("G", 4, "D", [1, 0]), ("H", 5, "E F", [2, 0]), ("I", 2, "G H", [1, 0]));

    /// <summary>Traction-engine overhaul, weeks, 3 fitters and 1 welder: 20 without limits, 23 with them (proven twice), 19 as the bound by fitter-weeks.</summary>
    [Fact]
    public void Resource_limits_of_the_traction_engine()
    {
        var engine = TractionEngine();
        engine.CriticalLength.ShouldBe(20);
        Enumerable.Range(0, engine.Count).Sum(j => engine.Durations[j] * engine.Demands[j][0]).ShouldBe(55);
        var found = ProjectSolver.Solve(engine);
        found.Makespan.ShouldBe(23);
        engine.WhyNot(found.Starts).ShouldBeNull();

        // The best starts of the book are feasible by the same check, and a week less is not claimed.
        engine.WhyNot([0, 3, 3, 7, 12, 8, 12, 16, 21]).ShouldBeNull();
        found.LowerBound.ShouldBeLessThanOrEqualTo(23);
    }

    /// <summary>PERT path (2,3,6), (4,6,10), (1,2,3): mean 11.67, variance 1.556; P80 12.72, P90 13.27. Triangular: P80 13.65.</summary>
    [Fact]
    public void Percentiles_of_the_three_point_path()
    {
        (double Low, double Likely, double High)[] path = [(2, 3, 6), (4, 6, 10), (1, 2, 3)];
        var mean = path.Sum(p => ThreePoint.PertMean(p.Low, p.Likely, p.High));
        var variance = path.Sum(p => ThreePoint.PertVariance(p.Low, p.High));
        mean.ShouldBe(11.67, 0.005);
        variance.ShouldBe(1.556, 0.0005);
        ThreePoint.Percentile(mean, variance, 0.8).ShouldBe(12.72, 0.005);
        ThreePoint.Percentile(mean, variance, 0.9).ShouldBe(13.27, 0.005);
        ThreePoint.Percentile(37.0 / 3, 2.4444, 0.8).ShouldBe(13.65, 0.005);
    }
}
