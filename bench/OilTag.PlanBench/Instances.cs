using System.Text.Json;
using OilTag.Core.Planning;
using OilTag.Yardstick;

namespace OilTag.PlanBench;

/// <summary>The stored projects, and what the exact solver found for each.</summary>
internal static class Instances
{
    public const int EachSize = 40;

    public static readonly int[] Sizes = [30, 60, 120];

    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    public static int Make(string folder)
    {
        foreach (var size in Sizes)
        {
            for (var i = 0; i < EachSize; i++)
            {
                var seed = (size * 1000) + i;
                File.WriteAllText(Path.Combine(folder, $"p{size}-{i + 1:00}.sm"), ProjectGenerator.Write(ProjectGenerator.Make(size, ProjectGenerator.Mixed(i, size), seed), $"seed {seed}"));
            }
        }

        return 0;
    }

    public static Dictionary<string, ExactResult> Known(string folder)
    {
        var file = Path.Combine(folder, "exact.json");
        return File.Exists(file) ? JsonSerializer.Deserialize<Dictionary<string, ExactResult>>(File.ReadAllText(file), Json)! : [];
    }

    public static Project Read(string folder, string name) => ProjectFile.Read(File.ReadAllText(Path.Combine(folder, name + ".sm"))).Project!;

    public static IEnumerable<string> Names(string folder) => Directory.GetFiles(folder, "*.sm").Select(f => Path.GetFileNameWithoutExtension(f)!).Order(StringComparer.Ordinal);

    public static int Exact(string folder, double seconds)
    {
        var known = Known(folder);
        foreach (var name in Names(folder).OrderBy(n => n.Length).ThenBy(n => n, StringComparer.Ordinal).Where(n => !known.ContainsKey(n)))
        {
            var result = ExactProject.Within(Read(folder, name), seconds);
            if (result is null)
            {
                Console.Error.WriteLine($"{name}: nothing found");
                continue;
            }

            known[name] = result with { Seconds = Math.Round(result.Seconds, 1) };
            File.WriteAllText(Path.Combine(folder, "exact.json"), JsonSerializer.Serialize(known.OrderBy(k => k.Key, StringComparer.Ordinal).ToDictionary(k => k.Key, k => k.Value), Json) + "\n");
            Console.WriteLine($"{name} {result.Makespan} {result.Bound} {result.Seconds:0.0}");
        }

        return 0;
    }
}
