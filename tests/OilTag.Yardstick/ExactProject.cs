using Google.OrTools.Sat;
using OilTag.Core.Planning;

namespace OilTag.Yardstick;

/// <summary>What the exact solver found.</summary>
/// <param name="Makespan">Length of the best schedule.</param>
/// <param name="Bound">Length that it proved no schedule goes below.</param>
/// <param name="Seconds">Time it took.</param>
public sealed record ExactResult(int Makespan, int Bound, double Seconds)
{
    /// <summary>True when the schedule is proven to be the shortest.</summary>
    public bool Proven => Makespan == Bound;
}

/// <summary>The same projects solved by CP-SAT, a general constraint solver, as a yardstick.</summary>
public static class ExactProject
{
    /// <summary>As far as it comes in the time; for measurements.</summary>
    public static ExactResult? Within(Project project, double seconds) =>
        Solve(project, FormattableString.Invariant($"max_time_in_seconds:{seconds} num_workers:2 random_seed:1"));

    /// <summary>As far as it comes in an amount of work that is the same on every machine; for tests.</summary>
    public static ExactResult Exactly(Project project, double work) =>
        Solve(project, FormattableString.Invariant($"max_deterministic_time:{work} num_workers:1 random_seed:1"))
            ?? throw new InvalidOperationException("The exact solver found no schedule at all.");

    private static ExactResult? Solve(Project project, string limits)
    {
        ArgumentNullException.ThrowIfNull(project);
        var model = new CpModel();
        var horizon = project.Durations.Sum();
        var intervals = new List<IntervalVar>();
        var starts = new List<IntVar>();
        for (var j = 0; j < project.Count; j++)
        {
            var start = model.NewIntVar(0, horizon, "");
            starts.Add(start);
            intervals.Add(model.NewFixedSizeIntervalVar(start, project.Durations[j], ""));
        }

        for (var j = 0; j < project.Count; j++)
        {
            foreach (var s in project.Successors[j])
            {
                model.Add(starts[s] >= starts[j] + project.Durations[j]);
            }
        }

        for (var r = 0; r < project.Capacities.Length; r++)
        {
            var use = model.AddCumulative(project.Capacities[r]);
            for (var j = 0; j < project.Count; j++)
            {
                if (project.Demands[j][r] > 0 && project.Durations[j] > 0)
                {
                    use.AddDemand(intervals[j], project.Demands[j][r]);
                }
            }
        }

        var makespan = model.NewIntVar(project.LowerBound, horizon, "");
        for (var j = 0; j < project.Count; j++)
        {
            model.Add(makespan >= starts[j] + project.Durations[j]);
        }

        model.Minimize(makespan);
        var solver = new CpSolver { StringParameters = limits };
        var status = solver.Solve(model);
        return status is CpSolverStatus.Optimal or CpSolverStatus.Feasible
            ? new ExactResult((int)solver.Value(makespan), (int)Math.Ceiling(solver.BestObjectiveBound - 1e-6), solver.WallTime())
            : null;
    }
}
