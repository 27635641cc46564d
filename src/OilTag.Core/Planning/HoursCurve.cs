using NodaTime;
using OilTag.Core.Machines;

namespace OilTag.Core.Planning;

/// <summary>Person-hours of one day.</summary>
/// <param name="Day">Day.</param>
/// <param name="Hours">Person-hours.</param>
public sealed record DayHours(LocalDate Day, double Hours);

/// <summary>Hours that were done and hours that are planned, day by day: what the curve of a project is drawn from.</summary>
/// <param name="Done">Done, in order.</param>
/// <param name="Planned">Planned, in order.</param>
public sealed record HoursCurve(IReadOnlyList<DayHours> Done, IReadOnlyList<DayHours> Planned)
{
    /// <summary>Hours done.</summary>
    public double DoneHours => Done.Sum(d => d.Hours);

    /// <summary>Hours planned.</summary>
    public double PlannedHours => Planned.Sum(d => d.Hours);

    /// <summary>The curve of what was worked and what a plan has people work.</summary>
    /// <param name="worked">Days worked.</param>
    /// <param name="schedule">The plan; null when there is none.</param>
    public static HoursCurve Of(IEnumerable<WorkedDay> worked, PlanSchedule? schedule)
    {
        ArgumentNullException.ThrowIfNull(worked);
        return new HoursCurve(
            [.. worked.GroupBy(w => w.On).OrderBy(g => g.Key).Select(g => new DayHours(g.Key, g.Sum(w => w.Minutes) / 60.0))],
            [.. (schedule?.Operations ?? []).SelectMany(o => o.Stretches).GroupBy(s => s.On).OrderBy(g => g.Key).Select(g => new DayHours(g.Key, g.Sum(s => s.PersonHours)))]);
    }
}
