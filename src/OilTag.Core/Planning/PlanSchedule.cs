using NodaTime;

namespace OilTag.Core.Planning;

/// <summary>A stretch of work in one session.</summary>
/// <param name="On">Day.</param>
/// <param name="From">From.</param>
/// <param name="Until">Until.</param>
/// <param name="Site">Where.</param>
/// <param name="People">Who, by id.</param>
/// <param name="Things">What is used: which thing, and which one of its kind from 1.</param>
public sealed record WorkStretch(LocalDate On, LocalTime From, LocalTime Until, string Site, IReadOnlyList<string> People, IReadOnlyList<ThingUse> Things)
{
    /// <summary>Hours of all who are there, those among them who are only there so that nobody is alone.</summary>
    public double PersonHours => People.Count * SessionCalendar.MinutesBetween(From, Until) / 60.0;
}

/// <summary>One unit of a thing that is used.</summary>
/// <param name="Thing">Thing.</param>
/// <param name="Number">Which one of its kind, from 1.</param>
public sealed record ThingUse(string Thing, int Number);

/// <summary>What fixed when something starts.</summary>
public enum ReasonKind
{
    /// <summary>It can start at once.</summary>
    AtOnce,

    /// <summary>Another operation had to be finished.</summary>
    Follows,

    /// <summary>Something that was ordered, or is to be, had to come.</summary>
    Demand,

    /// <summary>It was put off to a day.</summary>
    PutOff,

    /// <summary>The machine had to be whole.</summary>
    Window,

    /// <summary>No more packages may be open at once on its assembly.</summary>
    Turn,

    /// <summary>Who is wanted was at another operation.</summary>
    Hands,

    /// <summary>Who is wanted was not there.</summary>
    Absent,

    /// <summary>A tool, jack, bay or bench was in use or away.</summary>
    Thing,

    /// <summary>The weather did not allow it.</summary>
    Weather,

    /// <summary>It can only be done on its day.</summary>
    OnDay,

    /// <summary>It cannot be interrupted and the sessions before were too short.</summary>
    TooShort,

    /// <summary>It can never be done as the plan stands.</summary>
    Never,
}

/// <summary>When an operation is done, and what fixed it.</summary>
public sealed record ScheduledOperation
{
    /// <summary>Operation.</summary>
    public required string Id { get; init; }

    /// <summary>When it starts; null when it cannot be done within the planned weeks.</summary>
    public LocalDateTime? Start { get; init; }

    /// <summary>When it is done; null when it cannot be done within the planned weeks.</summary>
    public LocalDateTime? Finish { get; init; }

    /// <summary>Day on which it would start if everything took what it does on the mean; null when it is that of <see cref="Start"/>, or never.</summary>
    public LocalDate? AsEstimated { get; init; }

    /// <summary>Day on which it has to start at the latest so that no milestone is later than it has to be.</summary>
    public required LocalDate Latest { get; init; }

    /// <summary>Session by session; empty for what takes only time.</summary>
    public required IReadOnlyList<WorkStretch> Stretches { get; init; }

    /// <summary>What fixed its start.</summary>
    public required ReasonKind Reason { get; init; }

    /// <summary>The operation, demand, skill, thing or package that fixed it; null when there is none.</summary>
    public string? ReasonId { get; init; }
}

/// <summary>When a milestone is met in the plan.</summary>
/// <param name="Id">Milestone.</param>
/// <param name="Finish">Day on which all that it needs is done; null when that is not within the planned weeks.</param>
/// <param name="Last">The operation that is done last; null when it needs none.</param>
public sealed record ScheduledMilestone(string Id, LocalDate? Finish, string? Last);

/// <summary>A plan by expected values: means of hours and days, everybody as often as they usually come; or one that begins each thing where half of the runs have begun it.</summary>
public sealed record PlanSchedule
{
    /// <summary>Operations in the order of the input.</summary>
    public required IReadOnlyList<ScheduledOperation> Operations { get; init; }

    /// <summary>Milestones in the order of the input.</summary>
    public required IReadOnlyList<ScheduledMilestone> Milestones { get; init; }

    /// <summary>What is wrong or cannot be; the plan leaves out what it is about.</summary>
    public required IReadOnlyList<PlanProblem> Problems { get; init; }

    /// <summary>Longest chain of what follows what, in days from today, if hands and things did not count; beside the plan's own length it tells what they cost.</summary>
    public required double DaysWithoutLimits { get; init; }
}
