using OilTag.Core.Planning;
using OilTag.Core.Tests.Published;
using OilTag.Yardstick;

namespace OilTag.Core.Tests.Planning;

public sealed class ProjectTests
{
    private static readonly string Small = ProjectGenerator.Write(ProjectExamples.TractionEngine(), "worked example");

    private static Project Random(int seed, int jobs) => ProjectGenerator.Make(jobs, ProjectGenerator.Mixed(seed, jobs), seed);

    [Fact]
    public void A_project_is_read_back_as_it_was_written()
    {
        for (var seed = 0; seed < 20; seed++)
        {
            var made = Random(seed, 10 + (seed * 3));
            var (read, problem) = ProjectFile.Read(ProjectGenerator.Write(made, "x"));
            problem.ShouldBeNull();
            read!.Durations.ShouldBe(made.Durations);
            read.Capacities.ShouldBe(made.Capacities);
            for (var j = 0; j < made.Count; j++)
            {
                read.Successors[j].ShouldBe(made.Successors[j]);
                read.Demands[j].ShouldBe(made.Demands[j]);
            }
        }
    }

    [Theory]
    [InlineData("jobs (incl. supersource/sink ):  9", "jobs (incl. supersource/sink ):  nine", 5, "“nine” is not a number of jobs")]
    [InlineData("  - nonrenewable              :  0   N", "  - nonrenewable              :  2   N", 9, "Only renewable")]
    [InlineData("   1        1        3           2    3    4", "   1        1        3           2    3", 14, "3 jobs should follow, 2 are named.")]
    [InlineData("   1        1        3           2    3    4", "   1        1        3           2    3   14", 14, "Job 14 is not one of the 9 jobs.")]
    [InlineData("   1        1        3           2    3    4", "   1        2        3           2    3    4", 14, "can be done in 2 ways")]
    [InlineData("   9        1        0", "   8        1        0", 22, "Job 8 is named a second time.")]
    [InlineData("   2      1     5       1    0", "   2      1     5       1", 28, "4 numbers stand here")]
    [InlineData("   2      1     5       1    0", "   2      1     5       1    x", 28, "“x” is not a whole number.")]
    [InlineData("   2      1     5       1    0", "   2      1    -5       1    0", 28, "out of its range")]
    [InlineData("   2      1     5       1    0", "   2      1     5       4    0", 0, "Job 2 wants 4 of resource 1; there are 3, so it is never feasible.")]
    [InlineData("    3     1", "    3", 39, "1 availabilities stand here for 2 resources.")]
    [InlineData("   9        1        0", "   9        1        1           1", 0, "follow each other in a circle")]
    public void A_wrong_file_gets_the_line_and_the_reason(string instead, string stands, int line, string reason)
    {
        Small.ShouldContain(instead);
        var (project, problem) = ProjectFile.Read(Small.Replace(instead, stands, StringComparison.Ordinal));
        project.ShouldBeNull();
        problem!.Sentence.ShouldContain(reason);
        problem.Line.ShouldBe(line);
    }

    [Fact]
    public void A_file_without_its_sections_is_refused()
    {
        foreach (var text in new[] { "", "hello", "jobs : 3", Small[..Small.IndexOf("REQUESTS", StringComparison.Ordinal)], Small[..Small.IndexOf("RESOURCEAVAIL", StringComparison.Ordinal)] })
        {
            var (project, problem) = ProjectFile.Read(text);
            project.ShouldBeNull();
            problem!.Sentence.Length.ShouldBeGreaterThan(10);
        }
    }

    /// <summary>A circle is named by its members.</summary>
    [Fact]
    public void A_circle_is_named()
    {
        Project.Circle([[1], [2], [1, 3], []]).ShouldBe([1, 2]);
        Project.Circle([[1], [2], []]).ShouldBeEmpty();
        Should.Throw<ArgumentException>(() => new Project([1, 1], [[], []], [], [[1], [0]])).Message.ShouldContain("Jobs 1, 2 follow each other in a circle");
    }

    /// <summary>Against a general constraint solver that proves the optimum.</summary>
    [Fact]
    public void Small_projects_are_as_short_as_the_exact_solver_proves()
    {
        var longer = 0;
        for (var seed = 0; seed < 40; seed++)
        {
            var project = Random(seed, 12);
            var exact = ExactProject.Exactly(project, 60);
            exact.Proven.ShouldBeTrue();
            var found = ProjectSolver.Solve(project, schedules: 3000);
            project.WhyNot(found.Starts).ShouldBeNull();
            found.LowerBound.ShouldBeLessThanOrEqualTo(exact.Makespan);
            found.Makespan.ShouldBeGreaterThanOrEqualTo(exact.Makespan);
            longer += found.Makespan - exact.Makespan;
        }

        longer.ShouldBe(0);
    }

    /// <summary>The stored instances and what the exact solver found for them in a minute; a few of each size, so that it stays quick.</summary>
    [Fact]
    public void Random_projects_of_every_size_are_valid_and_the_same_each_time()
    {
        for (var seed = 0; seed < 60; seed++)
        {
            var project = Random(seed, new[] { 5, 30, 60, 120 }[seed % 4]);
            var found = ProjectSolver.Solve(project, seed, schedules: 400);
            project.WhyNot(found.Starts).ShouldBeNull();
            found.Makespan.ShouldBe(Enumerable.Range(0, project.Count).Max(j => found.Starts[j] + project.Durations[j]));
            found.Makespan.ShouldBeGreaterThanOrEqualTo(project.LowerBound);
            var again = ProjectSolver.Solve(project, seed, schedules: 400);
            again.Starts.ShouldBe(found.Starts);
        }
    }

    [Fact]
    public void More_than_four_resources_are_held()
    {
        for (var seed = 0; seed < 20; seed++)
        {
            var four = Random(seed, 30);
            var dice = new Random(seed);
            var demands = four.Demands.Select(d => (int[])[.. d, .. d.Reverse().Select(x => x == 0 ? 0 : 1 + dice.Next(3)), 1]).ToList();
            var six = new Project(four.Durations, demands, [.. four.Capacities, .. four.Capacities.Select(_ => 4), 2], four.Successors);
            var found = ProjectSolver.Solve(six, schedules: 500);
            six.WhyNot(found.Starts).ShouldBeNull();
            found.Makespan.ShouldBeGreaterThanOrEqualTo(ExactProject.Exactly(six, 2).Bound);
        }
    }

    [Fact]
    public void Projects_without_jobs_without_limits_and_with_long_jobs_are_planned()
    {
        ProjectSolver.Solve(new Project([], [], [], [])).Makespan.ShouldBe(0);
        ProjectSolver.Solve(new Project([0, 0], [[], []], [], [[1], []])).Makespan.ShouldBe(0);
        ProjectSolver.Solve(new Project([4000, 3000, 2], [[1], [1], [0]], [1], [[], [], []])).Makespan.ShouldBe(7000);
    }

    /// <summary>The check itself: each rule, broken on purpose, is found.</summary>
    [Fact]
    public void A_wrong_schedule_is_found()
    {
        var engine = ProjectExamples.TractionEngine();
        int[] good = [0, 3, 3, 7, 12, 8, 12, 16, 21];
        engine.WhyNot(good).ShouldBeNull();
        engine.WhyNot([.. good.Select((s, j) => j == 8 ? 20 : s)])!.ShouldContain("before job 8 has finished");
        engine.WhyNot([.. good.Select((s, j) => j == 3 ? 4 : s)])!.ShouldContain("is wanted 5 times; there are 3");
        engine.WhyNot([-1, .. good[1..]])!.ShouldContain("before the beginning");
        engine.WhyNot([0])!.ShouldContain("1 starts for 9 jobs");
    }
}
