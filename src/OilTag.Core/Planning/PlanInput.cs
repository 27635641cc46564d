using NodaTime;
using OilTag.Core.Work;

namespace OilTag.Core.Planning;

/// <summary>
/// Everything that a plan is worked out from, as one immutable value: the same input and seed give the same plan. Hours are person-hours, spans are
/// calendar days; what has been done is not in it. Ids are any words, unique among their kind.
/// </summary>
public sealed record PlanInput
{
    /// <summary>Weeks that are planned when nothing else is said: three years.</summary>
    public const int UsualWeeks = 156;

    /// <summary>Day on which the plan begins. Sessions of that day count.</summary>
    public required LocalDate Today { get; init; }

    /// <summary>Sites, where the weather matters; a site that is only named by sessions need not stand here.</summary>
    public IReadOnlyList<PlanSite> Sites { get; init; } = [];

    /// <summary>The days and evenings on which people come, from today on.</summary>
    public required IReadOnlyList<PlanSession> Sessions { get; init; }

    /// <summary>Who comes.</summary>
    public required IReadOnlyList<PlanPerson> People { get; init; }

    /// <summary>Tools, jacks, bays and benches of which there are only so many.</summary>
    public IReadOnlyList<PlanThing> Things { get; init; } = [];

    /// <summary>Machines.</summary>
    public required IReadOnlyList<PlanMachine> Machines { get; init; }

    /// <summary>Open packages.</summary>
    public required IReadOnlyList<PlanPackage> Packages { get; init; }

    /// <summary>What is still to do in them.</summary>
    public required IReadOnlyList<PlanOperation> Operations { get; init; }

    /// <summary>What has to come before some of it can start.</summary>
    public IReadOnlyList<PlanDemand> Demands { get; init; } = [];

    /// <summary>Dated aims.</summary>
    public required IReadOnlyList<PlanMilestone> Milestones { get; init; }

    /// <summary>Most packages that are open at once on one assembly; null for no limit.</summary>
    public int? OpenLimit { get; init; }
}

/// <summary>A number of calendar days as a range, such as a lead time or a cure.</summary>
/// <param name="Low">If all goes well.</param>
/// <param name="Likely">Most likely.</param>
/// <param name="High">If it goes badly.</param>
public sealed record DaysRange(double Low, double Likely, double High)
{
    /// <summary>No time.</summary>
    public static readonly DaysRange None = new(0, 0, 0);

    /// <summary>Mean of the triangular distribution over the range.</summary>
    public double Mean => (Low + Likely + High) / 3;

    /// <summary>A span that is known.</summary>
    public static DaysRange Exactly(double days) => new(days, days, days);

    /// <summary>A range that was given in weeks.</summary>
    public static DaysRange Weeks(double low, double likely, double high) => new(low * 7, likely * 7, high * 7);
}

/// <summary>Days from one to another, both included.</summary>
/// <param name="From">First day.</param>
/// <param name="Until">Last day.</param>
public sealed record DaySpan(LocalDate From, LocalDate Until)
{
    /// <summary>True when the day lies within.</summary>
    public bool Has(LocalDate day) => From <= day && day <= Until;
}

/// <summary>A site where people work.</summary>
/// <param name="Name">Its name, as sessions give it.</param>
/// <param name="Months">Its weather in each of the twelve months; empty when it does not matter.</param>
public sealed record PlanSite(string Name, IReadOnlyList<MonthWeather> Months);

/// <summary>The weather to expect on a day of a month.</summary>
/// <param name="Dry">Chance that it is dry enough to work outdoors, 0 to 1.</param>
/// <param name="Degrees">Mean temperature while people are there, °C.</param>
/// <param name="Spread">Standard deviation of that temperature between days, °C.</param>
public sealed record MonthWeather(double Dry, double Degrees, double Spread);

/// <summary>An evening or day on which people come.</summary>
/// <param name="On">Day.</param>
/// <param name="From">From.</param>
/// <param name="Until">Until, later on the same day.</param>
/// <param name="Site">Where.</param>
public sealed record PlanSession(LocalDate On, LocalTime From, LocalTime Until, string Site = "")
{
    /// <summary>How long it is, minutes.</summary>
    public int Minutes => SessionCalendar.MinutesBetween(From, Until);

    /// <summary>True for a day, false for an evening.</summary>
    public bool IsDay => SessionCalendar.IsLong(From, Until);
}

/// <summary>Somebody who comes.</summary>
public sealed record PlanPerson
{
    /// <summary>Identity.</summary>
    public required string Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Skills and authorisations held.</summary>
    public IReadOnlyList<PlanSkill> Skills { get; init; } = [];

    /// <summary>Skills that they are learning; they may help a holder.</summary>
    public IReadOnlyList<string> Learns { get; init; } = [];

    /// <summary>On which days of the week they come, and how likely.</summary>
    public IReadOnlyList<PlanAttendance> Attendance { get; init; } = [];

    /// <summary>Chance of coming to a session on another day, such as a special weekend.</summary>
    public double OtherDays { get; init; }

    /// <summary>What they answered for single days; stands above the pattern.</summary>
    public IReadOnlyList<PlanReply> Replies { get; init; } = [];

    /// <summary>Days on which they are away.</summary>
    public IReadOnlyList<DaySpan> Away { get; init; } = [];

    /// <summary>True for somebody under 18: works beside an adult, and not on what is for adults only.</summary>
    public bool Minor { get; init; }

    /// <summary>True for an adult who may not work alone.</summary>
    public bool NeverAlone { get; init; }
}

/// <summary>A skill or authorisation that a person holds.</summary>
/// <param name="Skill">Which.</param>
/// <param name="Until">Last day on which it holds; null when it does not expire.</param>
public sealed record PlanSkill(string Skill, LocalDate? Until = null);

/// <summary>How likely somebody comes on a day of the week.</summary>
/// <param name="Day">Day.</param>
/// <param name="Chance">0 to 1.</param>
/// <param name="Site">Where.</param>
public sealed record PlanAttendance(IsoDayOfWeek Day, double Chance, string Site = "");

/// <summary>An answer to a call-out.</summary>
/// <param name="On">Day.</param>
/// <param name="Chance">0 to 1: what yes, perhaps and no are worth.</param>
public sealed record PlanReply(LocalDate On, double Chance);

/// <summary>A kind of tool, jack, bay or bench.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Count">How many there are.</param>
/// <param name="Out">When some of them are away for repair, calibration or another use.</param>
public sealed record PlanThing(string Id, string Name, int Count, IReadOnlyList<ThingOut>? Out = null);

/// <summary>Some of a kind of thing are not there.</summary>
/// <param name="Count">How many.</param>
/// <param name="When">When.</param>
public sealed record ThingOut(int Count, DaySpan When);

/// <summary>How a machine stands among the others.</summary>
public enum MachineStanding
{
    /// <summary>It is worked on.</summary>
    Active,

    /// <summary>It is worked on when the others leave hours over.</summary>
    Filler,

    /// <summary>Its turn comes when the active ones have what they need.</summary>
    Queued,

    /// <summary>It has to leave, so its work comes first.</summary>
    Leaving,
}

/// <summary>A machine.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Standing">How it stands among the others.</param>
/// <param name="Windows">When it must be whole and out of the shop.</param>
public sealed record PlanMachine(string Id, string Name, MachineStanding Standing = MachineStanding.Active, IReadOnlyList<PlanWindow>? Windows = null);

/// <summary>Days on which a machine must be whole: nobody works on it, and no package that opens it may lie across them.</summary>
/// <param name="When">Which days.</param>
/// <param name="Why">Why, such as "running weekend".</param>
public sealed record PlanWindow(DaySpan When, string Why);

/// <summary>An open package.</summary>
public sealed record PlanPackage
{
    /// <summary>Identity.</summary>
    public required string Id { get; init; }

    /// <summary>Machine.</summary>
    public required string Machine { get; init; }

    /// <summary>What is done.</summary>
    public required string Title { get; init; }

    /// <summary>Assembly, for the limit on open packages.</summary>
    public string Assembly { get; init; } = string.Empty;

    /// <summary>True when the machine is not whole from its first operation to its last.</summary>
    public bool Opens { get; init; }

    /// <summary>True when it has been begun.</summary>
    public bool Started { get; init; }

    /// <summary>True when it may rest as it lies now, untouched for weeks.</summary>
    public bool RestsSafely { get; init; } = true;

    /// <summary>Day before which it is not begun, such as one that was put off to next winter.</summary>
    public LocalDate? NotBefore { get; init; }

    /// <summary>Packages that will undo part of this work.</summary>
    public IReadOnlyList<string> UndoneBy { get; init; } = [];

    /// <summary>What does not work from its first operation to its last: water, brakes, a place to live.</summary>
    public IReadOnlyList<string> TakesAway { get; init; } = [];
}

/// <summary>A step that is still to do. It takes either hands (hours, crew) or only time (elapsed).</summary>
public sealed record PlanOperation
{
    /// <summary>Identity.</summary>
    public required string Id { get; init; }

    /// <summary>Package.</summary>
    public required string Package { get; init; }

    /// <summary>What is done.</summary>
    public required string Name { get; init; }

    /// <summary>Person-hours still to do.</summary>
    public HoursRange Hours { get; init; } = HoursRange.None;

    /// <summary>Time that passes without hands: plating, blasting, a cure. None for work.</summary>
    public DaysRange Elapsed { get; init; } = DaysRange.None;

    /// <summary>What its hours were guessed like, such as the name of the step; empty when they are its own. A first guess is wrong for all of its like together.</summary>
    public string Like { get; init; } = string.Empty;

    /// <summary>True when nobody has said how long it takes and the plan takes a range for it.</summary>
    public bool Assumed { get; init; }

    /// <summary>Chance that it is needed at all; below 1 for damage that is not yet found.</summary>
    public double Chance { get; init; } = 1;

    /// <summary>Fewest people.</summary>
    public int MinCrew { get; init; } = 1;

    /// <summary>Most people that can work on it at once.</summary>
    public int MaxCrew { get; init; } = 1;

    /// <summary>Skills that must be there, each by that many holders; the rest of the crew may learn.</summary>
    public IReadOnlyList<SkillNeed> Skills { get; init; } = [];

    /// <summary>Tools, jacks, bays and benches.</summary>
    public IReadOnlyList<ThingNeed> Things { get; init; } = [];

    /// <summary>Where.</summary>
    public string Site { get; init; } = string.Empty;

    /// <summary>True for work outdoors that needs a dry day.</summary>
    public bool Dry { get; init; }

    /// <summary>Coldest at which it may be done, °C.</summary>
    public double? WarmerThan { get; init; }

    /// <summary>Warmest at which it may be done, °C.</summary>
    public double? ColderThan { get; init; }

    /// <summary>True when it must be begun and ended in one session.</summary>
    public bool InOneGo { get; init; }

    /// <summary>True for what minors may not do.</summary>
    public bool AdultsOnly { get; init; }

    /// <summary>People who may not do it, such as those whose own work it inspects.</summary>
    public IReadOnlyList<string> NotBy { get; init; } = [];

    /// <summary>True when the package may rest for weeks once this is done: covered, drained, propped.</summary>
    public bool SafeStop { get; init; }

    /// <summary>The only day on which it can be done, such as a heavy lift for which people are called out.</summary>
    public LocalDate? OnDay { get; init; }

    /// <summary>What must be done before it.</summary>
    public IReadOnlyList<Follows> After { get; init; } = [];

    /// <summary>Demands that must have come.</summary>
    public IReadOnlyList<string> Demands { get; init; } = [];

    /// <summary>The name of a step without its numbers and its hand: those that have it in common are guessed alike.</summary>
    /// <param name="name">Name of a step, such as "Drill clamp block 3, left".</param>
    /// <returns>Words in small letters, such as "drill clamp block"; empty when the name has no letter.</returns>
    public static string LikeOf(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        var words = new string(
            [.. name.Select(c => char.IsLetter(c) ? char.ToLowerInvariant(c) : ' ')]).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        return string.Join(' ', words.Where(w => w is not ("left" or "right" or "l" or "r" or "no")));
    }
}

/// <summary>Something is only begun when something else is done.</summary>
/// <param name="Operation">The operation that comes first.</param>
/// <param name="Lag">Time that must pass between, such as a paint's cure.</param>
public sealed record Follows(string Operation, DaysRange? Lag = null);

/// <summary>A skill that must be there.</summary>
/// <param name="Skill">Which.</param>
/// <param name="Count">How many holders.</param>
public sealed record SkillNeed(string Skill, int Count = 1);

/// <summary>A thing that must be there.</summary>
/// <param name="Thing">Which.</param>
/// <param name="Count">How many.</param>
public sealed record ThingNeed(string Thing, int Count = 1);

/// <summary>Something that has to come from outside.</summary>
public sealed record PlanDemand
{
    /// <summary>Identity.</summary>
    public required string Id { get; init; }

    /// <summary>What.</summary>
    public required string What { get; init; }

    /// <summary>Time from asking to ordering.</summary>
    public DaysRange Enquiry { get; init; } = DaysRange.None;

    /// <summary>Time from the order until it is here.</summary>
    public DaysRange Lead { get; init; } = DaysRange.None;

    /// <summary>Day on which it was ordered; null when it is not ordered yet.</summary>
    public LocalDate? Ordered { get; init; }
}

/// <summary>A dated aim.</summary>
public sealed record PlanMilestone
{
    /// <summary>Identity.</summary>
    public required string Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Wanted date: it is met when everything is done on that day or before.</summary>
    public required LocalDate On { get; init; }

    /// <summary>True when the date cannot move.</summary>
    public bool Fixed { get; init; }

    /// <summary>1 for the usual weight; 2 counts a day late twice.</summary>
    public double Weight { get; init; } = 1;

    /// <summary>Packages that it needs.</summary>
    public required IReadOnlyList<string> Packages { get; init; }
}
