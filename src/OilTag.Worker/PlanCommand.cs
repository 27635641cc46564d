using System.Globalization;
using System.Text.Json;
using OilTag.Core.Planning;
using OilTag.Data.Planning;

namespace OilTag.Worker;

/// <summary>
/// <c>plan FILE [--simulate N] [--seed S] [--seconds T]</c>: plans a file and prints JSON on standard output and nothing else. What is wrong goes to
/// standard error, with exit code 2.
/// </summary>
internal static class PlanCommand
{
    private static readonly JsonSerializerOptions Output = new(PlanJson.Options) { WriteIndented = false };

    private sealed record Options(string File, int? Simulate, int Seed, double? Seconds);

    public static int Run(string[] args)
    {
        if (Parse(args, out var wrong) is not { } options)
        {
            Console.Error.WriteLine(wrong);
            Console.Error.WriteLine("usage: oiltag plan FILE [--simulate N] [--seed S] [--seconds T]");
            return 2;
        }

        string text;
        try
        {
            var info = new FileInfo(options.File);
            if (!info.Exists)
            {
                Console.Error.WriteLine($"{options.File} is not there.");
                return 2;
            }

            if (info.Length > PlanJson.Largest)
            {
                Console.Error.WriteLine($"{options.File} has {info.Length / 1024 / 1024} MB; up to {PlanJson.Largest / 1024 / 1024} MB are read.");
                return 2;
            }

            text = File.ReadAllText(options.File);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine($"{options.File} cannot be read: {e.Message}");
            return 2;
        }

        return ProjectFile.Looks(text) || options.File.EndsWith(".sm", StringComparison.OrdinalIgnoreCase) ? Project(text, options) : Shed(text, options);
    }

    private static Options? Parse(string[] args, out string wrong)
    {
        wrong = string.Empty;
        string? file = null;
        int? simulate = null;
        var seed = 1;
        double? seconds = null;
        for (var i = 0; i < args.Length; i++)
        {
            var value = i + 1 < args.Length ? args[i + 1] : string.Empty;
            switch (args[i])
            {
                case "--simulate" when int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var n) && n is >= 1 and <= PlanSimulation.MostRuns:
                    simulate = n;
                    i++;
                    break;
                case "--seed" when int.TryParse(value, NumberStyles.None, CultureInfo.InvariantCulture, out var s):
                    seed = s;
                    i++;
                    break;
                case "--seconds" when double.TryParse(value, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var t) && t is > 0 and <= 86_400:
                    seconds = t;
                    i++;
                    break;
                case "--simulate":
                    wrong = $"--simulate wants a number of runs from 1 to {PlanSimulation.MostRuns:N0}.";
                    return null;
                case "--seed":
                    wrong = "--seed wants a whole number from 0.";
                    return null;
                case "--seconds":
                    wrong = "--seconds wants a number above 0, such as 1.5.";
                    return null;
                case var other when other.StartsWith("--", StringComparison.Ordinal) || file is not null:
                    wrong = $"“{other}” is not known here.";
                    return null;
                default:
                    file = args[i];
                    break;
            }
        }

        wrong = file is null ? "No file is named." : string.Empty;
        return file is null ? null : new Options(file, simulate, seed, seconds);
    }

    private static int Project(string text, Options options)
    {
        var (project, problem) = ProjectFile.Read(text);
        if (project is null)
        {
            Console.Error.WriteLine($"{options.File}: {problem}");
            return 2;
        }

        var found = ProjectSolver.Solve(project, options.Seed, options.Seconds is { } t ? TimeSpan.FromSeconds(t) : null);
        var starts = found.Starts.Select((s, j) => (j, s)).ToDictionary(x => (x.j + 1).ToString(CultureInfo.InvariantCulture), x => x.s);

        var result = new Dictionary<string, object>(StringComparer.Ordinal) { ["makespan"] = found.Makespan, ["starts"] = starts };
        if (options.Simulate is { } runs)
        {
            // Durations in this format are fixed, so that every percentile is the makespan itself.
            result["simulation"] = new Dictionary<string, int>(StringComparer.Ordinal) { ["runs"] = runs, ["seed"] = options.Seed, ["p50"] = found.Makespan, ["p80"] = found.Makespan, ["p90"] = found.Makespan };
        }

        Print(result);
        return 0;
    }

    private static int Shed(string text, Options options)
    {
        var (input, problem) = PlanJson.Read(text);
        if (input is null)
        {
            Console.Error.WriteLine($"{options.File}: {problem}");
            return 2;
        }

        var planner = new Planner(input, options.Seed, null, options.Seconds is { } t ? TimeSpan.FromSeconds(t) : null);
        if (planner.Stopped)
        {
            foreach (var p in planner.Problems)
            {
                Console.Error.WriteLine($"{options.File}: {p.Sentence}");
            }

            return 2;
        }

        var forecast = options.Simulate is { } runs ? PlanSimulation.Run(planner, runs, options.Seed) : null;
        var schedule = planner.Schedule(forecast);
        var orderBy = options.Simulate is { } n ? OrderByRule.Of(planner, runs: Math.Min(n, OrderByRule.UsualRuns), seed: options.Seed) : null;
        Print(PlanOutput.Of(schedule, forecast, orderBy));
        return 0;
    }

    private static void Print<T>(T result) => Console.Out.WriteLine(JsonSerializer.Serialize(result, Output));
}
