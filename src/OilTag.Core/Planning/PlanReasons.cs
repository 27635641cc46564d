using System.Globalization;
using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>One link of the chain that fixes a date.</summary>
/// <param name="About">Operation that the link is about.</param>
/// <param name="From">When it starts; null when it never does.</param>
/// <param name="Until">When it is done; null when it never is.</param>
/// <param name="Sentence">Why it starts then.</param>
public sealed record ReasonLink(string About, LocalDateTime? From, LocalDateTime? Until, string Sentence);

/// <summary>Why an operation is done when it is: the chain of reasons, in words.</summary>
public static class PlanReasons
{
    /// <summary>The chain, the operation itself first, then what made it wait, and so on back to today.</summary>
    /// <param name="input">What was planned.</param>
    /// <param name="schedule">The plan.</param>
    /// <param name="operation">Id of the operation.</param>
    public static IReadOnlyList<ReasonLink> Of(PlanInput input, PlanSchedule schedule, string operation)
    {
        ArgumentNullException.ThrowIfNull(input);
        ArgumentNullException.ThrowIfNull(schedule);
        var planned = schedule.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal);
        var named = input.Operations.ToDictionary(o => o.Id, StringComparer.Ordinal);
        var links = new List<ReasonLink>();
        var seen = new HashSet<string>(StringComparer.Ordinal);
        for (var id = operation; id is not null && planned.TryGetValue(id, out var o) && seen.Add(id);)
        {
            var sentence = Sentence(input, schedule, named, planned, o);
            links.Add(
                new ReasonLink(id, o.Start, o.Finish, o.AsEstimated is { } sooner ? $"{sentence} If all took what was estimated it would be {Day(sooner, input.Today)}; luck makes it later in half of the runs." : sentence));
            id = o.Reason is ReasonKind.Follows or ReasonKind.Hands or ReasonKind.Thing ? o.ReasonId : o.Reason == ReasonKind.Turn ? LastOf(input, planned, o.ReasonId) : null;
        }

        return links;
    }

    /// <summary>A day as the shed says it: "Sat 14 March 2027", without the year in the year of the plan.</summary>
    internal static string Day(LocalDate day, LocalDate today) =>
        day.ToString(day.Year == today.Year ? "ddd d MMMM" : "ddd d MMMM yyyy", CultureInfo.GetCultureInfo("en-GB"));

    /// <summary>Where a package would rest that should not, as a sentence.</summary>
    internal static string Rest(UnsafeRest rest, PlanInput input)
    {
        var title = input.Packages.First(p => p.Id == rest.Package).Title;
        var where = rest.At is { } at ? $"lies at “{at}”" : "lies as it is now";
        var may = (rest.Before, rest.After) switch
        {
            ({ } b, { } a) => $"It may rest after “{b}” or after “{a}”.",
            ({ } b, null) => $"It may rest after “{b}”, or when it is done.",
            (null, { } a) => $"It may rest after “{a}”.",
            _ => "It may rest when it is done.",
        };
        return $"{title} {where} from {Day(rest.From, input.Today)} to {Day(rest.Until, input.Today)}, when nobody comes. {may}";
    }

    private static string? LastOf(PlanInput input, Dictionary<string, ScheduledOperation> planned, string? package) =>
        input.Operations.Where(o => o.Package == package).OrderByDescending(o => planned[o.Id].Finish is null).ThenByDescending(o => planned[o.Id].Finish).FirstOrDefault()?.Id;

    private static string Sentence(PlanInput input, PlanSchedule schedule, Dictionary<string, PlanOperation> named, Dictionary<string, ScheduledOperation> planned, ScheduledOperation o)
    {
        var operation = named[o.Id];
        var title = input.Packages.First(p => p.Id == operation.Package).Title;
        var name = $"{operation.Name} ({title})";
        if (o.Start is not { } start)
        {
            return schedule.Problems.FirstOrDefault(p => p.About == o.Id)?.Sentence
                ?? (o.Reason == ReasonKind.Follows && o.ReasonId is { } before ? $"{name} waits for {named[before].Name}, which does not get done." : $"{name} does not get done within the planned weeks.");
        }

        var on = Day(start.Date, input.Today);
        string Other(string id) => $"{named[id].Name} ({input.Packages.First(p => p.Id == named[id].Package).Title})";
        return o.Reason switch
        {
            ReasonKind.Follows => Waited(operation, named[o.ReasonId!], planned[o.ReasonId!], start, on, name, Other(o.ReasonId!), input.Today),
            ReasonKind.Demand => $"{name} waits for {input.Demands.First(d => d.Id == o.ReasonId).What} until {on}.",
            ReasonKind.PutOff => $"{name} is put off to {on}.",
            ReasonKind.Window => $"{name} starts on {on}, when {input.Machines.First(m => m.Id == input.Packages.First(p => p.Id == operation.Package).Machine).Name} no longer has to be whole.",
            ReasonKind.Turn => $"{name} waits its turn until {on}: {input.Packages.First(p => p.Id == o.ReasonId).Title} is done first, so that no more are open at once.",
            ReasonKind.Hands => $"{name} waits until {on} for {Hands(input, operation, planned[o.ReasonId!])}: {Other(o.ReasonId!)} comes first.",
            ReasonKind.Absent => o.ReasonId is { } skill ? $"{name} waits until {on}. {PlanCauses.Holders(input, skill)}." : $"{name} waits until {on} for hands, who are not there before.",
            ReasonKind.Thing => o.ReasonId is { } user ? $"{name} waits until {on} for {Things(input, operation, named[user])}: {Other(user)} has it first." : $"{name} waits until {on} for {string.Join(" and ", operation.Things.Select(t => input.Things.First(x => x.Id == t.Thing).Name))}, away until then.",
            ReasonKind.Weather => $"{name} waits until {on} for {(operation.Dry ? "a dry time of year" : operation.WarmerThan is { } w ? $"{w.ToString(CultureInfo.InvariantCulture)} °C" : "the cold")}.",
            ReasonKind.OnDay => $"{name} is set for {on}.",
            ReasonKind.TooShort => $"{name} cannot be interrupted and waits until {on} for a session that is long enough.",
            _ => $"{name} starts {(start.Date == input.Today ? "today" : $"on {on}, the first session for it")}.",
        };
    }

    private static string Waited(PlanOperation operation, PlanOperation before, ScheduledOperation done, LocalDateTime start, string on, string name, string other, LocalDate today)
    {
        var lag = operation.After.First(a => a.Operation == before.Id).Lag;
        if (before.Elapsed.High > 0)
        {
            return $"{name} waits for {other} until {Day(done.Finish!.Value.Date, today)}.";
        }

        return lag is { High: > 0 }
            ? $"{name} waits until {on}: {other} is done on {Day(done.Finish!.Value.Date, today)} and must stand {lag.Mean.ToString("0.#", CultureInfo.InvariantCulture)} days."
            : $"{name} follows {other}, done on {Day(done.Finish!.Value.Date, today)}{(done.Finish.Value.Date == start.Date ? string.Empty : $"; the next session for it is {on}")}.";
    }

    // Whom both want: the skill that the two share, else hands.
    private static string Hands(PlanInput input, PlanOperation operation, ScheduledOperation other)
    {
        foreach (var need in operation.Skills)
        {
            var holders = input.People.Where(p => p.Skills.Any(s => s.Skill == need.Skill)).ToList();
            if (holders.Count > 0 && other.Stretches.SelectMany(s => s.People).Any(id => holders.Exists(h => h.Id == id)))
            {
                return Holders(input, need.Skill);
            }
        }

        return "hands";
    }

    private static string Holders(PlanInput input, string skill)
    {
        var holders = input.People.Where(p => p.Skills.Any(s => s.Skill == skill)).ToList();
        return holders.Count == 1 ? $"{holders[0].Name}, the only one who holds “{skill}”" : $"somebody who holds “{skill}” ({holders.Count} do)";
    }

    private static string Things(PlanInput input, PlanOperation operation, PlanOperation other)
    {
        var shared = operation.Things.Select(t => t.Thing).Intersect(other.Things.Select(t => t.Thing), StringComparer.Ordinal).ToList();
        return string.Join(" and ", (shared.Count > 0 ? shared : operation.Things.Select(t => t.Thing)).Select(t => "the " + input.Things.First(x => x.Id == t).Name));
    }
}
