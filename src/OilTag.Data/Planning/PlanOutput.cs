using NodaTime;
using NodaTime.Text;
using OilTag.Core.Planning;

namespace OilTag.Data.Planning;

/// <summary>A worked-out plan as it is exported: dates and times as text, chances between 0 and 1.</summary>
public sealed record PlanOutput(IReadOnlyList<PlanOutputMilestone> Milestones, IReadOnlyList<PlanOutputOperation> Operations, IReadOnlyList<PlanProblem> Problems, double DaysWithoutLimits, IReadOnlyList<OrderBy>? OrderBy, PlanOutputRuns? Simulation)
{
    public static PlanOutput Of(PlanSchedule schedule, PlanForecast? forecast, IReadOnlyList<OrderBy>? orderBy)
    {
        ArgumentNullException.ThrowIfNull(schedule);
        static string? Time(LocalDateTime? t) => t is { } x ? LocalDateTimePattern.CreateWithInvariantCulture("uuuu'-'MM'-'dd'T'HH':'mm").Format(x) : null;
        return new PlanOutput(
            [.. schedule.Milestones.Select((m, i) => new PlanOutputMilestone(m.Id, m.Finish, m.Last, forecast is null ? null : PlanOutputChance.Of(forecast.Milestones[i])))],
            [.. schedule.Operations.Select((o, i) => new PlanOutputOperation(
                o.Id,
                Time(o.Start),
                Time(o.Finish),
                o.Latest,
                o.Reason,
                o.ReasonId,
                forecast?.Operations[i].Critical,
                forecast?.Operations[i].Even,
                forecast?.Operations[i].Safe,
                [.. o.Stretches.Select(s => new PlanOutputStretch(Time(s.On.At(s.From))!, Time(s.On.At(s.Until))!, s.Site, s.People, [.. s.Things.Select(t => $"{t.Thing} {t.Number}")]))]))],
            schedule.Problems,
            Math.Round(schedule.DaysWithoutLimits, 2),
            orderBy,
            forecast is null ? null : new PlanOutputRuns(forecast.Runs, forecast.Seed, [.. forecast.Windows.Select(w => new PlanOutputWindow(w.Machine, w.Window.When.From, w.Window.When.Until, w.Window.Why, w.Chance))]));
    }
}

public sealed record PlanOutputMilestone(string Id, LocalDate? Finish, string? LastOperation, PlanOutputChance? Simulation);

/// <summary>p50, p80 and p90 each with the 95 % interval that the number of runs leaves.</summary>
public sealed record PlanOutputChance(double Chance, double ChanceError, SimulatedDay P50, SimulatedDay P80, SimulatedDay P90, IReadOnlyList<Driver> Drivers)
{
    public static PlanOutputChance Of(SimulatedMilestone m)
    {
        ArgumentNullException.ThrowIfNull(m);
        return new PlanOutputChance(m.Chance, m.ChanceError, m.Even, m.Safe, m.Surer, m.Drivers);
    }
}

public sealed record PlanOutputOperation(string Id, string? Start, string? Finish, LocalDate Latest, ReasonKind Reason, string? ReasonId, double? Critical, LocalDate? P50, LocalDate? P80, IReadOnlyList<PlanOutputStretch> Stretches);

public sealed record PlanOutputStretch(string From, string Until, string Site, IReadOnlyList<string> People, IReadOnlyList<string> Things);

public sealed record PlanOutputWindow(string Machine, LocalDate From, LocalDate Until, string Why, double Chance);

public sealed record PlanOutputRuns(int Runs, int Seed, IReadOnlyList<PlanOutputWindow> Windows);
