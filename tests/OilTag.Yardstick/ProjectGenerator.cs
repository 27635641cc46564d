using System.Globalization;
using System.Text;
using OilTag.Core.Planning;

namespace OilTag.Yardstick;

/// <summary>How hard a random project is.</summary>
/// <param name="Complexity">Arrows of the network a job, 1.5 to 2.1.</param>
/// <param name="Factor">Share of the resources that a job takes, 0.25 to 1.</param>
/// <param name="Strength">0: as scarce as can be; 1: the earliest schedule fits.</param>
public sealed record Tightness(double Complexity, double Factor, double Strength);

/// <summary>
/// Seeded random projects of the usual design in the literature of project scheduling: network complexity, resource factor and resource strength are
/// set, everything else is drawn (Kolisch, Sprecher and Drexl 1995 describe the three measures).
/// </summary>
public static class ProjectGenerator
{
    private const int Resources = 4;

    /// <summary>The mix of the stored instances: in half of them all resources are scarce and most jobs want each of them, the others run from tight to easy.</summary>
    public static Tightness Mixed(int number, int jobs)
    {
        double[] complexity = [1.5, 1.8, 2.1];
        double[] strength = jobs >= 100 ? [0.1, 0.3, 0.2, 0.5] : [0.2, 0.5, 0.25, 0.8];
        double[] factor = number % 2 == 0 ? [1.0, 0.75] : [0.5, 0.75, 1.0, 0.25];
        return new Tightness(complexity[number % 3], factor[(number / 4) % factor.Length], strength[number % 4]);
    }

    /// <summary>A project with a first and a last job without duration.</summary>
    public static Project Make(int jobs, Tightness how, int seed)
    {
        var dice = new Random(seed);
        var n = jobs + 2;
        var after = Network(dice, n, how.Complexity);
        var durations = Enumerable.Range(0, n).Select(j => j == 0 || j == n - 1 ? 0 : 1 + dice.Next(10)).ToArray();
        var demands = Enumerable.Range(0, n).Select(_ => new int[Resources]).ToArray();
        for (var j = 1; j < n - 1; j++)
        {
            var takes = Enumerable.Range(0, Resources).Where(_ => dice.NextDouble() < how.Factor).ToList();
            if (takes.Count == 0)
            {
                takes.Add(dice.Next(Resources));
            }

            foreach (var r in takes)
            {
                demands[j][r] = 1 + dice.Next(10);
            }
        }

        var boundless = new Project(durations, demands, [.. Enumerable.Repeat(30_000, Resources)], after);
        var heads = boundless.Heads();
        var capacities = new int[Resources];
        for (var r = 0; r < Resources; r++)
        {
            var least = demands.Max(d => d[r]);
            var peak = heads.Distinct().Max(t => Enumerable.Range(0, n).Where(j => heads[j] <= t && t < heads[j] + durations[j]).Sum(j => demands[j][r]));
            capacities[r] = Math.Max(1, least + (int)Math.Round(how.Strength * (Math.Max(peak, least) - least), MidpointRounding.AwayFromZero));
        }

        return new Project(durations, demands, capacities, after);
    }

    /// <summary>The project in the text format that <see cref="ProjectFile"/> reads.</summary>
    public static string Write(Project project, string comment)
    {
        ArgumentNullException.ThrowIfNull(project);
        var text = new StringBuilder();
        var stars = new string('*', 72) + "\n";
        void Line(string s) => text.Append(CultureInfo.InvariantCulture, $"{s}\n");
        text.Append(stars);
        Line($"file with basedata            : {comment}");
        text.Append(stars);
        Line("projects                      :  1");
        Line($"jobs (incl. supersource/sink ):  {project.Count}");
        Line($"horizon                       :  {project.Durations.Sum()}");
        Line("RESOURCES");
        Line($"  - renewable                 :  {project.Capacities.Length}   R");
        Line("  - nonrenewable              :  0   N");
        Line("  - doubly constrained        :  0   D");
        text.Append(stars);
        Line("PRECEDENCE RELATIONS:");
        Line("jobnr.    #modes  #successors   successors");
        for (var j = 0; j < project.Count; j++)
        {
            Line($"{j + 1,4}        1     {project.Successors[j].Length,4}        {string.Join(' ', project.Successors[j].Select(s => $"{s + 1,4}"))}".TrimEnd());
        }

        text.Append(stars);
        Line("REQUESTS/DURATIONS:");
        Line("jobnr. mode duration  " + string.Join("  ", Enumerable.Range(1, project.Capacities.Length).Select(r => $"R {r}")));
        Line(new string('-', 72));
        for (var j = 0; j < project.Count; j++)
        {
            Line($"{j + 1,4}      1  {project.Durations[j],4}    {string.Join(' ', project.Demands[j].Select(d => $"{d,4}"))}");
        }

        text.Append(stars);
        Line("RESOURCEAVAILABILITIES:");
        Line("  " + string.Join("  ", Enumerable.Range(1, project.Capacities.Length).Select(r => $"R {r}")));
        Line(string.Join(' ', project.Capacities.Select(c => $"{c,5}")));
        text.Append(stars);
        return text.ToString();
    }

    // Each job follows and is followed by one at least; then arrows are added that say nothing yet said, until there are enough.
    private static int[][] Network(Random dice, int n, double complexity)
    {
        var after = Enumerable.Range(0, n).Select(_ => new HashSet<int>()).ToArray();
        var reach = Enumerable.Range(0, n).Select(_ => new HashSet<int>()).ToArray();
        var arrows = 0;
        bool Add(int a, int b)
        {
            if (reach[a].Contains(b))
            {
                return false;
            }

            after[a].Add(b);
            arrows++;
            for (var x = 0; x <= a; x++)
            {
                if (x == a || reach[x].Contains(a))
                {
                    reach[x].Add(b);
                    reach[x].UnionWith(reach[b]);
                }
            }

            return true;
        }

        var starts = Math.Max(3, n / 12);
        for (var j = 1 + starts; j < n - 1; j++)
        {
            Add(1 + dice.Next(j - 1), j);
        }

        var ends = n - 2 - starts;
        for (var j = 1; j < ends; j++)
        {
            if (after[j].Count == 0)
            {
                Add(j, j + 1 + dice.Next(n - 2 - j));
            }
        }

        for (var k = 0; k < 400 * n && arrows < complexity * n; k++)
        {
            var a = 1 + dice.Next(n - 3);
            var b = a + 1 + dice.Next(Math.Min(n - 2 - a, Math.Max(4, n / 3)));
            if (after[a].Count < 3 && !Enumerable.Range(1, a).Any(x => x != a && after[x].Contains(b) && reach[x].Contains(a)))
            {
                Add(a, b);
            }
        }

        for (var j = 1; j < n - 1; j++)
        {
            if (!Enumerable.Range(1, n - 2).Any(x => after[x].Contains(j)))
            {
                after[0].Add(j);
            }

            if (after[j].Count == 0)
            {
                after[j].Add(n - 1);
            }
        }

        return [.. after.Select(a => a.Order().ToArray())];
    }
}
