using System.Globalization;
using OilTag.Core.Work;

namespace OilTag.Core.Survey;

/// <summary>How bad an assembly is, as somebody judges it before it is apart.</summary>
public enum AssemblyCondition
{
    /// <summary>Works, or would; cleaning and looking.</summary>
    Sound,

    /// <summary>Worn as its age says.</summary>
    Worn,

    /// <summary>Seized, corroded or cracked in places.</summary>
    Bad,

    /// <summary>Little of it can be used again.</summary>
    Wreck,

    /// <summary>Not there.</summary>
    Missing,
}

/// <summary>An assembly of which it is asked what it still wants.</summary>
/// <param name="Condition">How bad somebody judges it; null when nobody has said.</param>
/// <param name="Looked">True when something was found in it, taken off it or planned for it.</param>
/// <param name="OnRecord">Person-hours that its packages take, done or not.</param>
public sealed record AssemblyStand(AssemblyCondition? Condition, bool Looked, double OnRecord);

/// <summary>What assemblies still want beyond what is on record of them.</summary>
/// <param name="Count">Assemblies that want more.</param>
/// <param name="Hours">Person-hours, all of them together: a guess is wrong for all of them together.</param>
/// <param name="Source">Where that comes from, in words without a full stop.</param>
public sealed record AssemblyRest(int Count, HoursRange Hours, string Source)
{
    /// <summary>Nothing.</summary>
    public static readonly AssemblyRest None = new(0, HoursRange.None, string.Empty);
}

/// <summary>
/// What an assembly wants that nobody has had apart, by how bad it is: as many times what a worn one took us as a worn one stands for. A wreck is not judged by
/// the rate of sound machines. The multiples are from memory (common practice); how much a worn one takes is this team's own record where there is enough of it.
/// </summary>
public static class AssemblyRule
{
    /// <summary>Fewest assemblies of our own from which it is learned what a worn one takes.</summary>
    public const int Fewest = 3;

    /// <summary>Person-hours of a worn assembly while our own are too few. An assumption, shown as one.</summary>
    public static readonly HoursRange AssumedWorn = new(8, 24, 80);

    /// <summary>Pounds that an hour of work brings with it in material and shops while our own jobs are too few. An assumption, shown as one.</summary>
    public static readonly HoursRange AssumedPounds = new(2, 8, 30);

    /// <summary>
    /// How many times what a worn assembly takes one in this condition does: at least, likely, at most. One that nobody judged or looked at is taken for half a
    /// worn one, as the worst are opened first.
    /// </summary>
    /// <param name="condition">How bad it is; null when nobody has said.</param>
    public static HoursRange Times(AssemblyCondition? condition) => condition switch
    {
        AssemblyCondition.Sound => new HoursRange(0.1, 0.3, 0.8),
        AssemblyCondition.Worn => new HoursRange(0.5, 1, 2),
        AssemblyCondition.Bad => new HoursRange(1, 2.5, 5),
        AssemblyCondition.Wreck => new HoursRange(2, 5, 10),
        AssemblyCondition.Missing => new HoursRange(2, 6, 15),
        _ => new HoursRange(0, 0.5, 2),
    };

    /// <summary>What a worn assembly takes.</summary>
    /// <param name="known">Assemblies of our own that were looked at: condition, and hours on record, nought for those that wanted no work.</param>
    /// <returns>Hours, and from how many, in words.</returns>
    public static (HoursRange Hours, string Source) Worn(IReadOnlyCollection<(AssemblyCondition? Condition, double Hours)> known)
    {
        ArgumentNullException.ThrowIfNull(known);
        if (known.Count < Fewest || known.Sum(k => k.Hours) <= 0)
        {
            return (AssumedWorn, string.Create(CultureInfo.InvariantCulture, $"{AssumedWorn.Low} to {AssumedWorn.High} h, likely {AssumedWorn.Likely}, assumed for a worn one, as {(known.Count == 0 ? "none" : $"only {known.Count}")} of ours {(known.Count == 1 ? "is" : "are")} on record"));
        }

        var likely = known.Sum(k => k.Hours) / known.Sum(k => Times(k.Condition ?? AssemblyCondition.Worn).Likely);
        var hours = new HoursRange(likely / 1.5, likely, likely * 1.5);
        return (hours, string.Create(CultureInfo.InvariantCulture, $"a worn one takes about {likely:0.#} h, two thirds to one and a half times that, from {known.Count} assemblies of ours"));
    }

    /// <summary>What assemblies want beyond what is on record of them. Those that somebody looked at and nobody judged stand by their record alone.</summary>
    /// <param name="assemblies">Assemblies.</param>
    /// <param name="worn">What a worn one takes, and where that comes from.</param>
    public static AssemblyRest Rest(IEnumerable<AssemblyStand> assemblies, (HoursRange Hours, string Source) worn)
    {
        ArgumentNullException.ThrowIfNull(assemblies);
        var (hours, count, names) = (HoursRange.None, 0, new SortedDictionary<int, (string Name, int Count)>());
        foreach (var a in assemblies.Where(a => a.Condition is not null || !a.Looked))
        {
            var times = Times(a.Condition);
            var rest = new HoursRange(
                Math.Max(0, (times.Low * worn.Hours.Low) - a.OnRecord),
                Math.Max(0, (times.Likely * worn.Hours.Likely) - a.OnRecord),
                Math.Max(0, (times.High * worn.Hours.High) - a.OnRecord));
            if (rest.High <= 0)
            {
                continue;
            }

            (hours, count) = (hours + rest, count + 1);
            var at = a.Condition is { } c ? (int)c : int.MaxValue;
            names[at] = (a.Condition is { } said ? Word(said) : "not looked at", names.GetValueOrDefault(at).Count + 1);
        }

        return count == 0
            ? AssemblyRest.None
            : new AssemblyRest(
                count,
                hours,
                $"assemblies nobody has had apart: {string.Join(", ", names.Values.Select(n => string.Create(CultureInfo.InvariantCulture, $"{n.Count} {n.Name}")))}; {worn.Source}");
    }

    /// <summary>What an hour of work brings with it in pounds.</summary>
    /// <param name="jobs">Jobs of ours with hours and pounds on record, both above nought.</param>
    public static (HoursRange Pounds, string Source) PoundsAnHour(IReadOnlyCollection<(double Hours, double Pounds)> jobs)
    {
        ArgumentNullException.ThrowIfNull(jobs);
        if (jobs.Count < Fewest)
        {
            return (AssumedPounds, string.Create(CultureInfo.InvariantCulture, $"£{AssumedPounds.Low} to £{AssumedPounds.High}, likely £{AssumedPounds.Likely}, assumed for each hour, as {(jobs.Count == 0 ? "no job" : $"only {jobs.Count}")} of ours has both on record"));
        }

        var likely = jobs.Sum(j => j.Pounds) / jobs.Sum(j => j.Hours);
        return (new HoursRange(likely / 2, likely, likely * 2), string.Create(CultureInfo.InvariantCulture, $"about £{likely:0.##} for each hour, half to twice that, from {jobs.Count} jobs of ours"));
    }

    /// <summary>A condition in words.</summary>
    public static string Word(AssemblyCondition condition) => condition switch
    {
        AssemblyCondition.Sound => "sound",
        AssemblyCondition.Worn => "worn",
        AssemblyCondition.Bad => "bad",
        AssemblyCondition.Wreck => "a wreck",
        _ => "missing",
    };
}
