using System.Globalization;
using NodaTime;
using OilTag.Core.Log;

namespace OilTag.Core.Work;

/// <summary>How a package stands. It is worked out from the record and never set.</summary>
public enum PackageState
{
    /// <summary>It has no steps yet, or a step that comes next has no hours.</summary>
    Draft,

    /// <summary>Nothing of what comes next can be done; the reasons say why.</summary>
    Waiting,

    /// <summary>Something can be done and nobody has begun.</summary>
    Ready,

    /// <summary>Somebody has begun and something can be done.</summary>
    InWork,

    /// <summary>Work stops at a hold.</summary>
    Held,

    /// <summary>All is done; it is not closed.</summary>
    Complete,

    /// <summary>Closed.</summary>
    Closed,

    /// <summary>Given up, with a reason.</summary>
    Cancelled,
}

/// <summary>Why something cannot be done now, in the order in which it is said.</summary>
public enum StandKind
{
    /// <summary>Somebody wrote down what it is stuck on.</summary>
    Stuck,

    /// <summary>A question or a consent is open.</summary>
    Decision,

    /// <summary>A part is not here.</summary>
    Part,

    /// <summary>A tool, jack, bay or bench is not here.</summary>
    Tool,

    /// <summary>A fixture does not hold, or a piece is held up.</summary>
    Fixture,

    /// <summary>Nobody with the skill is expected at the next session.</summary>
    Skill,

    /// <summary>A step of another package comes first.</summary>
    Step,

    /// <summary>It still cures.</summary>
    Cure,

    /// <summary>The weather or the temperature does not suit.</summary>
    Weather,

    /// <summary>It is put off to a day.</summary>
    Day,

    /// <summary>A hold is not lifted.</summary>
    Hold,

    /// <summary>Hours are missing.</summary>
    Hours,
}

/// <summary>Something that stands between a package and its next step.</summary>
/// <param name="Kind">What kind of thing.</param>
/// <param name="What">What would be right, such as <c>40 rivets, 5/32 snap head</c>.</param>
/// <param name="Detail">Why it is not, who sees to it, and when.</param>
/// <param name="Step">The step that it stops; null for all of them.</param>
/// <param name="DemandId">The demand, if it is one.</param>
public sealed record PackageReason(StandKind Kind, string What, string Detail, Operation? Step = null, Guid? DemandId = null);

/// <summary>A demand as a step sees it.</summary>
/// <param name="What">What, with its number.</param>
/// <param name="Ordered">Day on which it was ordered; null when it is not.</param>
/// <param name="Expected">Likely day on which it is here; null when nobody can say.</param>
public sealed record DemandStand(string What, LocalDate? Ordered, LocalDate? Expected);

/// <summary>What the state of packages is worked out from, besides the packages.</summary>
public sealed record ShedStand
{
    /// <summary>Today and now.</summary>
    public required LocalDateTime Now { get; init; }

    /// <summary>A moment as the clock of the shed shows it.</summary>
    public required Func<Instant, LocalDateTime> Local { get; init; }

    /// <summary>The next session, today's if there is one; null when there is none.</summary>
    public LocalDate? NextSession { get; init; }

    /// <summary>The moment at which that session ends and another is the next; null when none comes.</summary>
    public LocalDateTime? SessionEnds { get; init; }

    /// <summary>How many holders of each skill come to it as likely as not; a person's name counts as a skill of their own.</summary>
    public IReadOnlyDictionary<string, int> Expected { get; init; } = new Dictionary<string, int>();

    /// <summary>How many of each tool, jack, bay or bench are here.</summary>
    public IReadOnlyDictionary<string, int> Things { get; init; } = new Dictionary<string, int>();

    /// <summary>Demands that have not come, by id.</summary>
    public IReadOnlyDictionary<Guid, DemandStand> Demands { get; init; } = new Dictionary<Guid, DemandStand>();

    /// <summary>Open steps of all packages, as in <c>64.3 Ream the holes</c>, by id.</summary>
    public IReadOnlyDictionary<Guid, string> OpenSteps { get; init; } = new Dictionary<Guid, string>();

    /// <summary>Packages that wait for the answer to a question or for a consent.</summary>
    public IReadOnlySet<Guid> Asked { get; init; } = new HashSet<Guid>();

    /// <summary>Fixtures that do not hold, by package.</summary>
    public IReadOnlyDictionary<Guid, IReadOnlyList<string>> Fixtures { get; init; } = new Dictionary<Guid, IReadOnlyList<string>>();

    /// <summary>First names, by person.</summary>
    public IReadOnlyDictionary<Guid, string> Names { get; init; } = new Dictionary<Guid, string>();

    /// <summary>Packages on which hours are booked.</summary>
    public IReadOnlySet<Guid> Booked { get; init; } = new HashSet<Guid>();

    /// <summary>True when it is dry today; null while nobody has said.</summary>
    public bool? Dry { get; init; }

    /// <summary>Temperature today, °C; null while nobody has said.</summary>
    public double? Degrees { get; init; }

    /// <summary>The skill that a hold wants.</summary>
    public string Inspecting { get; init; } = "lifting holds";
}

/// <summary>How a package stands, and what would make it ready.</summary>
/// <param name="State">How it stands.</param>
/// <param name="Reasons">What stands between it and its next steps; those that stop all of them first.</param>
/// <param name="Next">The open steps that come next.</param>
public sealed record PackageStand(PackageState State, IReadOnlyList<PackageReason> Reasons, IReadOnlyList<Operation> Next)
{
    /// <summary>The word for a state.</summary>
    /// <param name="state">The state.</param>
    public static string Word(PackageState state) => state switch
    {
        PackageState.Draft => "draft",
        PackageState.Waiting => "waiting",
        PackageState.Ready => "ready",
        PackageState.InWork => "in work",
        PackageState.Held => "held",
        PackageState.Complete => "complete",
        PackageState.Closed => "closed",
        _ => "cancelled",
    };

    /// <summary>Works out how a package stands.</summary>
    /// <param name="package">The package with its steps.</param>
    /// <param name="shed">The shed.</param>
    public static PackageStand Of(WorkPackage package, ShedStand shed)
    {
        ArgumentNullException.ThrowIfNull(package);
        ArgumentNullException.ThrowIfNull(shed);
        if (package.ClosedAt is not null)
        {
            return new PackageStand(package.CancelledWhy.Length > 0 ? PackageState.Cancelled : PackageState.Closed, [], []);
        }

        var next = StepOrder.Next(package.Operations);
        if (package.Operations.Count == 0)
        {
            return new PackageStand(PackageState.Draft, [new PackageReason(StandKind.Hours, "Steps", "Nobody has written any down.")], []);
        }

        var all = OfAll(package, shed).ToList();
        if (next.Count == 0)
        {
            return new PackageStand(PackageState.Complete, all, []);
        }

        var own = next.ToDictionary(o => o.Id, o => OfStep(package, o, shed).ToList());
        var reasons = all.Concat(own.Values.SelectMany(r => r)).OrderBy(r => r.Kind).ToList();
        var begun = shed.Booked.Contains(package.Id) || package.Operations.Exists(o => o.DoneAt is not null);
        var state = next[0].Hold ? PackageState.Held
            : all.Count > 0 || own.Values.All(r => r.Exists(x => x.Kind != StandKind.Hours)) ? PackageState.Waiting
            : !begun && own.Values.All(r => r.Count > 0) ? PackageState.Draft
            : begun ? PackageState.InWork
            : PackageState.Ready;
        return new PackageStand(state, reasons, next);
    }

    private static IEnumerable<PackageReason> OfAll(WorkPackage package, ShedStand shed)
    {
        var today = shed.Now.Date;
        if (package.WaitingOn.Length > 0)
        {
            yield return new PackageReason(shed.Asked.Contains(package.Id) ? StandKind.Decision : StandKind.Stuck, package.WaitingOn,
                Joined(package.WaitingForId is { } who && shed.Names.TryGetValue(who, out var name) ? name : "Nobody in particular",
                package.WaitingSince is { } since ? $"since {LogWords.Day(since)}" : string.Empty));
        }

        foreach (var fixture in shed.Fixtures.GetValueOrDefault(package.Id) ?? [])
        {
            yield return new PackageReason(StandKind.Fixture, "Its fixture", fixture);
        }

        if (package.NotBefore is { } day && day > today)
        {
            yield return new PackageReason(StandKind.Day, $"Put off to {LogWords.Day(day)}", "Somebody chose the day.");
        }
    }

    private static IEnumerable<PackageReason> OfStep(WorkPackage package, Operation step, ShedStand shed)
    {
        var needs = step.Needs;
        var today = shed.Now.Date;
        foreach (var demand in needs.Demands.Where(shed.Demands.ContainsKey).Select(d => (Id: d, Stand: shed.Demands[d])))
        {
            yield return new PackageReason(StandKind.Part, demand.Stand.What, demand.Stand.Ordered is null ? "It is not ordered."
                : demand.Stand.Expected is { } here ? here < today ? $"It was expected on {LogWords.Day(here)}."
                : $"It is expected on {LogWords.Day(here)}." : "Nobody has said when it comes.", step, demand.Id);
        }

        foreach (var thing in needs.Equipment)
        {
            var here = shed.Things.GetValueOrDefault(thing.Thing);
            if (here < thing.Count)
            {
                yield return new PackageReason(StandKind.Tool, thing.Count > 1 ? $"{thing.Count} × {thing.Thing}" : thing.Thing,
                    shed.Things.ContainsKey(thing.Thing) ? here == 0 ? "It is away today." : $"{here} of {thing.Count} are here today."
                    : "The shed has none on its list.", step);
            }
        }

        foreach (var skill in step.Hold ? [new Planning.SkillNeed(shed.Inspecting)] : needs.Skills)
        {
            if (shed.Expected.GetValueOrDefault(skill.Skill) < skill.Count)
            {
                yield return new PackageReason(StandKind.Skill, step.Hold ? "An inspector" : shed.Names.Values.Contains(skill.Skill)
                    ? skill.Skill : skill.Count > 1 ? $"{skill.Count} people for {skill.Skill}" : $"Somebody for {skill.Skill}",
                    shed.NextSession is { } on ? $"Not expected at the session of {LogWords.Day(on)}." : "There is no session to come.",
                    step);
            }
        }

        foreach (var first in needs.After.Where(shed.OpenSteps.ContainsKey))
        {
            yield return new PackageReason(StandKind.Step, shed.OpenSteps[first], "It comes first.", step);
        }

        if (CuredAt(package, step, shed.Local) is { } cured && cured > shed.Now)
        {
            yield return new PackageReason(StandKind.Cure, "Cured" + (needs.CureOver is { } over
                ? $" over {over.ToString("0.##", CultureInfo.InvariantCulture)} °C" : string.Empty),
                $"Until {Clock(cured, today)} at the latest.", step);
        }

        if (needs.Dry && shed.Dry == false)
        {
            yield return new PackageReason(StandKind.Weather, "A dry day", "It is wet today.", step);
        }

        if (needs.WarmerThan is { } cold && shed.Degrees < cold)
        {
            yield return new PackageReason(StandKind.Weather, $"Over {cold.ToString("0.##", CultureInfo.InvariantCulture)} °C",
                $"It is {shed.Degrees?.ToString("0.##", CultureInfo.InvariantCulture)} °C today.", step);
        }

        if (needs.ColderThan is { } warm && shed.Degrees > warm)
        {
            yield return new PackageReason(StandKind.Weather, $"Under {warm.ToString("0.##", CultureInfo.InvariantCulture)} °C",
                $"It is {shed.Degrees?.ToString("0.##", CultureInfo.InvariantCulture)} °C today.", step);
        }

        if (needs.OnDay is { } only && LocalDate.FromDateOnly(only) > today)
        {
            yield return new PackageReason(StandKind.Day, $"Only on {LogWords.Day(LocalDate.FromDateOnly(only))}",
                "Somebody chose the day.", step);
        }

        if (step.High <= 0 && needs.Elapsed is null)
        {
            yield return new PackageReason(StandKind.Hours, "Hours of the step",
                "Nobody has estimated it; it counts as unknown, not as nothing.", step);
        }
    }

    /// <summary>When the cure before a step is over at the latest; null when there is none or what cures is not done.</summary>
    /// <param name="package">The package.</param>
    /// <param name="step">The step.</param>
    /// <param name="local">A moment as the clock of the shed shows it.</param>
    public static LocalDateTime? CuredAt(WorkPackage package, Operation step, Func<Instant, LocalDateTime> local)
    {
        ArgumentNullException.ThrowIfNull(package);
        ArgumentNullException.ThrowIfNull(step);
        ArgumentNullException.ThrowIfNull(local);
        if (step.Needs.Cure is not { } cure)
        {
            return null;
        }

        var groups = StepOrder.Groups(package.Operations);
        var at = groups.Select((g, i) => (g, i)).First(x => x.g.Contains(step)).i;
        return at == 0 || groups[at - 1].Any(o => o.DoneAt is null) ? null
            : local(groups[at - 1].Max(o => o.DoneAt!.Value).Plus(Duration.FromHours(cure.High * 24)));
    }

    private static string Clock(LocalDateTime at, LocalDate today)
    {
        var time = at.ToString("HH:mm", CultureInfo.InvariantCulture);
        return at.Date == today ? $"{time} today" : at.Date == today.PlusDays(1) ? $"{time} tomorrow"
            : $"{time} on {LogWords.Day(at.Date)}";
    }

    private static string Joined(string a, string b) => b.Length == 0 ? a + "." : $"{a}, {b}.";
}
