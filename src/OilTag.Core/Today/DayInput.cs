using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Core.Today;

/// <summary>Who is there, what is ready, and what stays as it is: all that the day's work is worked out from. The same input gives the same answer.</summary>
public sealed record DayInput
{
    /// <summary>Day.</summary>
    public required LocalDate On { get; init; }

    /// <summary>From when on it is worked out.</summary>
    public required LocalTime Now { get; init; }

    /// <summary>When nobody is given work, such as dinner; null for none.</summary>
    public DayBreak? Break { get; init; }

    /// <summary>Who is there, or will be.</summary>
    public required IReadOnlyList<DayPerson> People { get; init; }

    /// <summary>What is ready, or will be when another of them is done.</summary>
    public required IReadOnlyList<DayOperation> Operations { get; init; }

    /// <summary>How many there are today of each tool, jack, bay or bench.</summary>
    public IReadOnlyDictionary<string, int> Things { get; init; } = new Dictionary<string, int>();

    /// <summary>Who of the team holds a skill today, by name, here or not.</summary>
    public IReadOnlyDictionary<string, IReadOnlyList<string>> Holders { get; init; } = new Dictionary<string, IReadOnlyList<string>>();

    /// <summary>Stretches that stay: what a lead chose, and what was handed out and still can be done.</summary>
    public IReadOnlyList<DayStretch> Kept { get; init; } = [];

    /// <summary>Why the turn of a step has not come by a time: what stands before it, and until when somebody is on that; null when it has.</summary>
    /// <param name="step">The step.</param>
    /// <param name="at">When it would be begun.</param>
    /// <param name="given">The jobs of the day.</param>
    public (DayOperation Before, LocalTime? Until)? Awaits(DayOperation step, LocalTime at, IReadOnlyCollection<DayStretch> given)
    {
        ArgumentNullException.ThrowIfNull(step);
        foreach (var before in Operations.Where(o => step.After.Contains(o.Id)))
        {
            var until = given.Where(g => g.Operation == before.Id).Select(g => (LocalTime?)g.Until).Max();
            if (until is null || until > at)
            {
                return (before, until);
            }
        }

        return null;
    }
}

/// <summary>When nobody is given work.</summary>
/// <param name="From">From.</param>
/// <param name="Until">Until.</param>
public sealed record DayBreak(LocalTime From, LocalTime Until)
{
    /// <summary>The break of a day as the group has agreed on it, or half an hour in the middle (common practice); none in an evening.</summary>
    /// <param name="from">When the shed opens.</param>
    /// <param name="until">When it closes.</param>
    /// <param name="agreed">What the group has agreed on; null for what is usual.</param>
    public static DayBreak? Of(LocalTime from, LocalTime until, ShedSettings? agreed = null)
    {
        var minutes = agreed?.BreakMinutes ?? 30;
        if (!SessionCalendar.IsLong(from, until) || minutes == 0)
        {
            return null;
        }

        if (agreed?.BreakAt is { } at)
        {
            return from <= at && SessionCalendar.MinutesBetween(from, at) + minutes <= SessionCalendar.MinutesBetween(from, until) ? new DayBreak(at, at.PlusMinutes(minutes)) : null;
        }

        var middle = from.PlusMinutes(SessionCalendar.MinutesBetween(from, until) / 2);
        var start = new LocalTime(middle.Hour, middle.Minute < 30 ? 0 : 30);
        return new DayBreak(start, start.PlusMinutes(minutes));
    }
}

/// <summary>Somebody who is there.</summary>
public sealed record DayPerson
{
    /// <summary>Identity.</summary>
    public required string Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>From when.</summary>
    public required LocalTime From { get; init; }

    /// <summary>Until when.</summary>
    public required LocalTime Until { get; init; }

    /// <summary>Where; empty for the shed itself.</summary>
    public string Site { get; init; } = string.Empty;

    /// <summary>Skills and authorisations that hold today.</summary>
    public IReadOnlyCollection<string> Skills { get; init; } = [];

    /// <summary>Skills that they learn.</summary>
    public IReadOnlyCollection<string> Learns { get; init; } = [];

    /// <summary>True for somebody under 18.</summary>
    public bool Minor { get; init; }

    /// <summary>True for an adult who may not work alone.</summary>
    public bool NeverAlone { get; init; }

    /// <summary>Machines and skills that they like.</summary>
    public IReadOnlyCollection<string> Likes { get; init; } = [];

    /// <summary>To which share of the sessions of the next weeks they come, 0 to 1.</summary>
    public double Comes { get; init; } = 1;

    /// <summary>Packages on which they were in the last sessions, and in how many in a row.</summary>
    public IReadOnlyDictionary<string, int> InARow { get; init; } = new Dictionary<string, int>();
}

/// <summary>A step that can be done today.</summary>
public sealed record DayOperation
{
    /// <summary>Identity.</summary>
    public required string Id { get; init; }

    /// <summary>What is done.</summary>
    public required string Name { get; init; }

    /// <summary>Package.</summary>
    public required string Package { get; init; }

    /// <summary>Title of the package.</summary>
    public required string Title { get; init; }

    /// <summary>Machine.</summary>
    public required string Machine { get; init; }

    /// <summary>Where it is done; empty for the shed itself.</summary>
    public string Site { get; init; } = string.Empty;

    /// <summary>Person-minutes still to do, more than nothing.</summary>
    public required int Minutes { get; init; }

    /// <summary>Fewest people.</summary>
    public int MinCrew { get; init; } = 1;

    /// <summary>Most people.</summary>
    public int MaxCrew { get; init; } = 1;

    /// <summary>Skills of which holders must be there.</summary>
    public IReadOnlyList<SkillNeed> Skills { get; init; } = [];

    /// <summary>Tools, jacks, bays and benches.</summary>
    public IReadOnlyList<ThingNeed> Things { get; init; } = [];

    /// <summary>True for what minors may not do.</summary>
    public bool AdultsOnly { get; init; }

    /// <summary>True when it is begun only if it can be ended on the same day.</summary>
    public bool InOneGo { get; init; }

    /// <summary>Steps of this list that must be done first.</summary>
    public IReadOnlyList<string> After { get; init; } = [];

    /// <summary>Who may not do it, such as those whose own work it inspects.</summary>
    public IReadOnlyCollection<string> NotBy { get; init; } = [];

    /// <summary>Share of the runs of the plan in which it fixes the date of a milestone, 0 to 1.</summary>
    public double Critical { get; init; }

    /// <summary>The skill it wants that is hardest to come by; empty when it wants none.</summary>
    public string ScarceSkill { get; init; } = string.Empty;

    /// <summary>How scarce that is, 0 to 1, see <see cref="DayScarcity"/>.</summary>
    public double Scarce { get; init; }

    /// <summary>Who could not lift a hold any more that hardly anybody else can, if they worked on it.</summary>
    public IReadOnlyCollection<string> Bars { get; init; } = [];

    /// <summary>Day on which it has to start at the latest; null when no milestone needs it.</summary>
    public LocalDate? Latest { get; init; }

    /// <summary>The milestone that it holds up; empty when there is none.</summary>
    public string Milestone { get; init; } = string.Empty;

    /// <summary>What can be done when it is done; empty for the last step of a package.</summary>
    public string Next { get; init; } = string.Empty;
}

/// <summary>One person at one job.</summary>
/// <param name="Person">Who.</param>
/// <param name="Operation">Step; null when they are left to themselves.</param>
/// <param name="From">From.</param>
/// <param name="Until">Until.</param>
/// <param name="ByLead">True when a lead chose it.</param>
/// <param name="Works">False for a lead's choice that lacks something: it stands, and nothing is done.</param>
public sealed record DayStretch(string Person, string? Operation, LocalTime From, LocalTime Until, bool ByLead = false, bool Works = true);

/// <summary>The day's work.</summary>
/// <param name="Stretches">Who does what, by person and time.</param>
/// <param name="MinutesLeft">Person-minutes that each step still wants at the end, in the order of the input.</param>
/// <param name="Problems">Choices of a lead that cannot be worked as they are: the step, and why.</param>
public sealed record DayPlan(IReadOnlyList<DayStretch> Stretches, IReadOnlyList<int> MinutesLeft, IReadOnlyList<Problem> Problems);
