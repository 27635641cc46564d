using Google.OrTools.Sat;
using OilTag.Core.Today;

namespace OilTag.Yardstick;

/// <summary>The crews of one moment found by CP-SAT, a general constraint solver, as a yardstick.</summary>
public static class ExactCrews
{
    /// <summary>Step of each person, -1 for none, and whether it is proven that no other crews are worth more.</summary>
    public static (int[] At, bool Proven) Solve(CrewProblem m, double seconds)
    {
        ArgumentNullException.ThrowIfNull(m);
        var model = new CpModel();
        var x = new BoolVar[m.People, m.Steps];
        var open = Enumerable.Range(0, m.Steps).Select(o => model.NewBoolVar("")).ToArray();
        var sum = LinearExpr.NewBuilder();
        for (var p = 0; p < m.People; p++)
        {
            for (var o = 0; o < m.Steps; o++)
            {
                x[p, o] = model.NewBoolVar("");
                if (m.Points[p][o] == 0 || m.Stays[p] == CrewProblem.Busy || (m.Stays[p] >= 0 && m.Stays[p] != o))
                {
                    model.Add(x[p, o] == 0);
                }
                else if (m.Stays[p] == o)
                {
                    model.Add(x[p, o] == 1);
                }

                sum.AddTerm(x[p, o], m.Points[p][o]);
            }

            model.AddAtMostOne(Enumerable.Range(0, m.Steps).Select(o => x[p, o]));
        }

        for (var o = 0; o < m.Steps; o++)
        {
            var all = LinearExpr.Sum(Enumerable.Range(0, m.People).Select(p => x[p, o]));
            model.Add(all >= LinearExpr.Term(open[o], m.Min[o]));
            model.Add(all <= LinearExpr.Term(open[o], m.Max[o]));
            foreach (var (skill, count) in m.Skills[o])
            {
                model.Add(LinearExpr.Sum(Enumerable.Range(0, m.People).Where(p => m.Holds[p][skill]).Select(p => x[p, o])) >= LinearExpr.Term(open[o], count));
            }

            model.Add(LinearExpr.Sum(Enumerable.Range(0, m.People).Where(p => !m.Minor[p]).Select(p => x[p, o])) >= open[o]);
            for (var p = 0; p < m.People; p++)
            {
                if (m.NeverAlone[p])
                {
                    model.Add(all >= LinearExpr.Term(x[p, o], 2));
                }
            }
        }

        for (var k = 0; k < m.Available.Length; k++)
        {
            model.Add(LinearExpr.Sum(Enumerable.Range(0, m.Steps).SelectMany(o => m.Things[o].Where(t => t.Thing == k).Select(t => LinearExpr.Term(open[o], t.Count)))) <= m.Available[k]);
        }

        model.Maximize(sum);
        var solver = new CpSolver { StringParameters = FormattableString.Invariant($"max_time_in_seconds:{seconds} num_workers:1 random_seed:1") };
        var status = solver.Solve(model);
        var at = Enumerable.Range(0, m.People).Select(p => status is CpSolverStatus.Optimal or CpSolverStatus.Feasible ? Enumerable.Range(0, m.Steps).FirstOrDefault(o => solver.BooleanValue(x[p, o]), -1) : -1).ToArray();
        return (at, status == CpSolverStatus.Optimal);
    }
}
