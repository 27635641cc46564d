using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Work;

namespace OilTag.Core.Tests.Planning;

/// <summary>Small sheds whose plans can be worked out by hand: one machine, one session every Saturday from 10:00 to 16:00, people who always come.</summary>
internal static class SmallShed
{
    /// <summary>A Monday.</summary>
    public static readonly LocalDate FirstDay = new(2031, 3, 3);

    public static readonly LocalDate FirstSaturday = new(2031, 3, 8);

    public static CancellationToken Ct => TestContext.Current.CancellationToken;

    public static PlanOperation Job(string id, double hours, string after = "", int crew = 1, string? skill = null, string package = "k") => new()
    {
        Id = id,
        Package = package,
        Name = "Work " + id,
        Hours = new HoursRange(hours, hours, hours),
        MinCrew = crew,
        MaxCrew = crew,
        Skills = skill is null ? [] : [new SkillNeed(skill)],
        After = [.. after.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(a => new Follows(a))],
    };

    public static PlanOperation Wait(string id, double days, string after = "", string package = "k") => new()
    {
        Id = id,
        Package = package,
        Name = "Wait " + id,
        Elapsed = DaysRange.Exactly(days),
        After = [.. after.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(a => new Follows(a))],
    };

    public static PlanPerson Person(string id, params string[] skills) => new()
    {
        Id = id,
        Name = id,
        Skills = [.. skills.Select(s => new PlanSkill(s))],
        Attendance = [new PlanAttendance(IsoDayOfWeek.Saturday, 1)],
    };

    public static IReadOnlyList<PlanSession> Saturdays(int weeks) => [.. Enumerable.Range(0, weeks).Select(w => new PlanSession(FirstSaturday.PlusWeeks(w), new LocalTime(10, 0), new LocalTime(16, 0)))];

    public static PlanInput Of(IReadOnlyList<PlanOperation> operations, IReadOnlyList<PlanPerson>? people = null, IReadOnlyList<PlanDemand>? demands = null, int weeks = 60, int due = 10)
    {
        var packages = operations.Select(o => o.Package).Distinct(StringComparer.Ordinal).ToList();
        return new PlanInput
        {
            Today = FirstDay,
            Sessions = Saturdays(weeks),
            People = people ?? [Person("Una")],
            Machines = [new PlanMachine("M", "Machine")],
            Packages = [.. packages.Select(k => new PlanPackage { Id = k, Machine = "M", Title = "Package " + k })],
            Operations = operations,
            Demands = demands ?? [],
            Milestones = [new PlanMilestone { Id = "aim", Name = "Aim", On = FirstSaturday.PlusWeeks(due - 1), Packages = packages }],
        };
    }

    public static PlanSchedule Plan(PlanInput input) => new Planner(input).Schedule();

    public static ScheduledOperation At(this PlanSchedule plan, string id) => plan.Operations.First(o => o.Id == id);

    public static LocalDateTime Saturday(int week, int hour, int minute = 0) => FirstSaturday.PlusWeeks(week).At(new LocalTime(hour, minute));
}
