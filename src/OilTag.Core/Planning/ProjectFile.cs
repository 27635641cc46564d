using System.Globalization;

namespace OilTag.Core.Planning;

/// <summary>What is wrong with a plan file.</summary>
/// <param name="Line">Line in the file, from 1; nought when it is about the whole file.</param>
/// <param name="Sentence">The reason.</param>
public sealed record FileProblem(int Line, string Sentence)
{
    /// <summary>"line 7: the reason".</summary>
    public override string ToString() => Line > 0 ? $"line {Line}: {Sentence}" : Sentence;
}

/// <summary>
/// Reads a project in the plain text format of the public project-scheduling library, single mode: sections for jobs and their successors, durations
/// and resource demands, and resource availabilities. Jobs are numbered from 1 in the file.
/// </summary>
public static class ProjectFile
{
    /// <summary>Most jobs that are read.</summary>
    public const int MostJobs = 20_000;

    /// <summary>Most resources that are read.</summary>
    public const int MostResources = 64;

    private enum Section
    {
        Head,
        Successors,
        Demands,
        Capacities,
        Other,
    }

    /// <summary>True when a text looks like a file of this format.</summary>
    public static bool Looks(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return text.Contains("PRECEDENCE RELATIONS", StringComparison.OrdinalIgnoreCase) || text.Contains("REQUESTS/DURATIONS", StringComparison.OrdinalIgnoreCase);
    }

    /// <summary>Reads a project.</summary>
    /// <param name="text">The file.</param>
    /// <returns>The project, or the line and the reason why it is none.</returns>
    public static (Project? Project, FileProblem? Problem) Read(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        (Project?, FileProblem?) No(int line, string sentence) => (null, new FileProblem(line, sentence));
        var lines = text.ReplaceLineEndings("\n").Split('\n');
        var section = Section.Head;
        int jobs = 0, resources = -1;
        int[][]? successors = null;
        int[]? durations = null;
        int[][]? demands = null;
        int[]? capacities = null;
        for (var i = 0; i < lines.Length; i++)
        {
            var line = lines[i].Trim();
            var number = i + 1;
            if (line.Length == 0 || line.All(c => c is '*' or '-' or '='))
            {
                continue;
            }

            if (Heading(line) is { } next)
            {
                section = next;
                continue;
            }

            if (section == Section.Head && Field(line) is var (name, value))
            {
                if (name.StartsWith("jobs", StringComparison.OrdinalIgnoreCase))
                {
                    if (!Whole(value, out jobs) || jobs is < 1 or > MostJobs)
                    {
                        return No(number, $"“{Short(value)}” is not a number of jobs from 1 to {MostJobs:N0}.");
                    }

                    successors = new int[jobs][];
                    durations = new int[jobs];
                    demands = new int[jobs][];
                }
                else if (name.EndsWith("renewable", StringComparison.OrdinalIgnoreCase) && !name.Contains("non", StringComparison.OrdinalIgnoreCase))
                {
                    if (!Whole(value, out resources) || resources is < 0 or > MostResources)
                    {
                        return No(number, $"“{Short(value)}” is not a number of resources from 0 to {MostResources}.");
                    }
                }
                else if ((name.Contains("nonrenewable", StringComparison.OrdinalIgnoreCase) || name.Contains("doubly", StringComparison.OrdinalIgnoreCase)) && Whole(value, out var others) && others > 0)
                {
                    return No(number, "Only renewable resources are read here.");
                }

                continue;
            }

            if (!char.IsAsciiDigit(line[0]) && line[0] != '-')
            {
                continue;
            }

            if (section is Section.Head or Section.Other)
            {
                continue;
            }

            if (jobs == 0 || resources < 0)
            {
                return No(number, "The head of the file has to say first how many jobs and renewable resources there are.");
            }

            var words = line.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);
            var read = new int[words.Length];
            for (var w = 0; w < words.Length; w++)
            {
                if (!Whole(words[w], out read[w]))
                {
                    return No(number, $"“{Short(words[w])}” is not a whole number.");
                }
            }

            if (section == Section.Capacities)
            {
                if (capacities is not null)
                {
                    return No(number, "There is a second line of availabilities.");
                }

                if (read.Length != resources)
                {
                    return No(number, $"{read.Length} availabilities stand here for {resources} resources.");
                }

                if (Array.Find(read, c => c is < 0 or > short.MaxValue) is var bad && bad != 0)
                {
                    return No(number, $"A resource has {bad} units; 0 to 32,767 can be read.");
                }

                capacities = read;
                continue;
            }

            if (read[0] < 1 || read[0] > jobs)
            {
                return No(number, $"Job {read[0]} is not one of the {jobs} jobs.");
            }

            var job = read[0] - 1;
            if (section == Section.Successors)
            {
                if (read.Length < 3 || read.Length != 3 + read[2])
                {
                    return No(number, read.Length < 3 ? "A job's number, its modes and how many follow it are wanted here." : $"{read[2]} jobs should follow, {read.Length - 3} are named.");
                }

                if (read[1] != 1)
                {
                    return No(number, $"Job {read[0]} can be done in {read[1]} ways; only one way a job is read here.");
                }

                if (successors![job] is not null)
                {
                    return No(number, $"Job {read[0]} is named a second time.");
                }

                foreach (var s in read.Skip(3))
                {
                    if (s < 1 || s > jobs)
                    {
                        return No(number, $"Job {s} is not one of the {jobs} jobs.");
                    }
                }

                successors[job] = [.. read.Skip(3).Select(s => s - 1)];
            }
            else
            {
                if (read.Length != 3 + resources)
                {
                    return No(number, $"A job's number, its mode, its duration and {resources} demands are wanted here; {read.Length} numbers stand here.");
                }

                if (read[1] != 1)
                {
                    return No(number, $"This is way {read[1]} of job {read[0]}; only one way a job is read here.");
                }

                if (demands![job] is not null)
                {
                    return No(number, $"Job {read[0]} is named a second time.");
                }

                if (read[2] is < 0 or > 100_000 || read.Skip(3).Any(d => d is < 0 or > short.MaxValue))
                {
                    return No(number, "A duration (0 to 100,000) or a demand (0 to 32,767) is out of its range.");
                }

                durations![job] = read[2];
                demands[job] = read[3..];
            }
        }

        if (jobs == 0 || resources < 0)
        {
            return No(0, "The file does not say how many jobs and renewable resources there are.");
        }

        for (var j = 0; j < jobs; j++)
        {
            if (successors![j] is null || demands![j] is null)
            {
                return No(0, $"Job {j + 1} is missing among {(successors[j] is null ? "what follows what" : "durations and demands")}.");
            }
        }

        if (capacities is null)
        {
            return resources == 0 ? Make([]) : No(0, "The resource availabilities are missing.");
        }

        return Make(capacities);

        (Project?, FileProblem?) Make(int[] units)
        {
            try
            {
                return (new Project(durations!, demands!, units, successors!), null);
            }
            catch (ArgumentException e)
            {
                return No(0, e.Message.Split(" (Parameter", StringSplitOptions.None)[0]);
            }
        }
    }

    private static Section? Heading(string line)
    {
        bool Has(string s) => line.StartsWith(s, StringComparison.OrdinalIgnoreCase);
        return Has("PRECEDENCE RELATIONS") ? Section.Successors
            : Has("REQUESTS/DURATIONS") ? Section.Demands
            : Has("RESOURCEAVAILABILITIES") || Has("RESOURCE AVAILABILITIES") ? Section.Capacities
            : Has("PROJECT INFORMATION") ? Section.Other
            : null;
    }

    private static (string Name, string Value)? Field(string line)
    {
        var at = line.IndexOf(':', StringComparison.Ordinal);
        return at < 0 ? null : (line[..at].TrimStart('-', ' ').Trim(), line[(at + 1)..].Trim().Split(' ')[0]);
    }

    private static bool Whole(string text, out int value) => int.TryParse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out value);

    private static string Short(string text) => text.Length <= 20 ? text : text[..20] + "…";
}
