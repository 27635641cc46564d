using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Data.Planning;

/// <summary>A plan that was worked out, with what it was worked out from and how old it is.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Stamp">The record's stamp that it was worked out at.</param>
/// <param name="DoneAt">When it was done.</param>
/// <param name="TookMs">How long it took.</param>
/// <param name="Input">What was planned.</param>
/// <param name="Result">The plan.</param>
public sealed record ReadyPlan(Guid Id, long Stamp, Instant DoneAt, int TookMs, PlanInput Input, PlanResult Result)
{
    private readonly Dictionary<string, int> at = Input.Operations.Select((o, i) => (o.Id, i)).ToDictionary(x => x.Id, x => x.i, StringComparer.Ordinal);

    /// <summary>Where an operation stands in the plan; -1 when it was not there when it was worked out.</summary>
    public int Position(string operation) => at.GetValueOrDefault(operation, -1);

    /// <summary>What the runs say of a milestone; null when it was not simulated.</summary>
    public SimulatedMilestone? Milestone(Guid id) => Result.Forecast?.Milestones.FirstOrDefault(m => m.Id == PlanQuery.Id(id));
}

/// <summary>How far the next present plan is.</summary>
/// <param name="Wanted">True when something was recorded since the last one.</param>
/// <param name="Progress">Share that is done; null while no worker is at it.</param>
/// <param name="Failed">Why the last try failed; null when it did not.</param>
public sealed record NextPlan(bool Wanted, double? Progress, string? Failed);

/// <summary>Reads the newest plan that is worked out. What was read is kept in memory until there is a newer one.</summary>
public sealed class PlanLoader(IDbContextFactory<OilTagDb> contexts)
{
    private volatile ReadyPlan? last;

    /// <summary>The newest present plan, or null while there is none, and how far the next one is.</summary>
    public async Task<(ReadyPlan? Plan, NextPlan Next)> PresentAsync(CancellationToken ct)
    {
        await using var db = await contexts.CreateDbContextAsync(ct);
        var rows = await db.Database.SqlQuery<Head>(
            $"""
            select p.id, p.state, p.stamp, p.progress, p.why, s.version from record_stamp s
            left join lateral (select * from plans where kind = 'Present' order by asked_at desc limit 4) p on true
            order by p.asked_at desc nulls last
            """).ToListAsync(ct);
        var done = rows.FirstOrDefault(r => r.State == nameof(KeptPlanState.Done));
        var running = rows.FirstOrDefault(r => r.State is nameof(KeptPlanState.Running) or nameof(KeptPlanState.Waiting));
        var failed = rows[0].State == nameof(KeptPlanState.Failed) ? rows[0].Why : null;
        var next = new NextPlan(done is null || done.Stamp < rows[0].Version || running is not null, running?.State == nameof(KeptPlanState.Running) ? running.Progress : null, failed);
        if (done?.Id is not { } id)
        {
            return (null, next);
        }

        if (last is { } kept && kept.Id == id)
        {
            return (kept, next);
        }

        var plan = await db.Plans.AsNoTracking().FirstOrDefaultAsync(p => p.Id == id, ct);
        return plan is null ? (last, next) : (last = Read(plan), next);
    }

    /// <summary>A kept plan as values.</summary>
    public static ReadyPlan Read(KeptPlan plan)
    {
        ArgumentNullException.ThrowIfNull(plan);
        var input = PlanJson.Read(plan.Input).Plan ?? throw new InvalidOperationException("A kept plan cannot be read.");
        return new ReadyPlan(plan.Id, plan.Stamp, plan.DoneAt ?? plan.AskedAt, plan.TookMs, input, JsonSerializer.Deserialize<PlanResult>(plan.Result, PlanJson.Options)!);
    }

    private sealed record Head(Guid? Id, string? State, long? Stamp, double? Progress, string? Why, long Version);
}
