using System.Diagnostics;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Planning;

namespace OilTag.Data.Planning;

/// <summary>
/// Works plans out and keeps them for pages to read. One who works at a plan says so every few seconds; a plan whose worker has gone quiet is taken up
/// by another. As many as wanted may run against one database.
/// </summary>
public sealed class PlanMaker(IDbContextFactory<OilTagDb> contexts, IClock clock, DateTimeZone zone)
{
    /// <summary>Runs of the simulation.</summary>
    public const int Runs = 8000;

    /// <summary>Present plans that are kept; older ones are removed.</summary>
    public const int KeptPresent = 20;

    /// <summary>After so long without a word from its worker a plan is taken up by another.</summary>
    public static readonly Duration Quiet = Duration.FromSeconds(30);

    private static readonly JsonSerializerOptions Output = new(PlanJson.Options) { WriteIndented = false };

    /// <summary>Asks for a new present plan when something was recorded, or a day has begun, since the last one. True when one was asked for.</summary>
    public async Task<bool> AskAsync(CancellationToken ct)
    {
        await using var db = await contexts.CreateDbContextAsync(ct);
        var today = clock.GetCurrentInstant().InZone(zone).Date;
        var now = clock.GetCurrentInstant();
        return await db.Database.ExecuteSqlAsync(
            $"""
            insert into plans (id, kind, state, stamp, day, name, asked_at, progress, took_ms, input, result, why)
            select {Guid.CreateVersion7()}, 'Present', 'Waiting', s.version, {today}, '', {now}, 0, 0, '', '', ''
            from record_stamp s
            where not exists (select 1 from plans p where p.kind = 'Present' and p.state <> 'Failed' and p.stamp >= s.version and p.day = {today})
              and not exists (select 1 from plans p where p.kind = 'Present' and p.state = 'Waiting')
              and not exists (select 1 from plans p where p.kind = 'Present' and p.state = 'Failed' and p.stamp >= s.version and p.day = {today} and p.asked_at > {now.Minus(Duration.FromMinutes(5))})
              and exists (select 1 from machines)
            """, ct) > 0;
    }

    /// <summary>Works out the plan that waits longest. False when none waits.</summary>
    public async Task<bool> WorkAsync(CancellationToken ct)
    {
        await using var db = await contexts.CreateDbContextAsync(ct);
        var now = clock.GetCurrentInstant();
        var quiet = now.Minus(Quiet);
        var id = (await db.Database.SqlQuery<Guid>(
            $"""
            update plans set state = 'Running', beat_at = {now}, progress = 0
            where id = (select id from plans where state = 'Waiting' or (state = 'Running' and beat_at < {quiet}) order by asked_at for update skip locked limit 1)
            returning id as "Value"
            """).ToListAsync(ct)).FirstOrDefault();
        if (id == Guid.Empty)
        {
            return false;
        }

        var clockwork = Stopwatch.StartNew();
        var plan = await db.Plans.SingleAsync(p => p.Id == id, ct);
        try
        {
            PlanInput input;
            if (plan.Input.Length == 0)
            {
                await using var moment = await db.MomentAsync(ct);
                plan.Stamp = await db.Database.SqlQuery<long>($"select version as \"Value\" from record_stamp").SingleAsync(ct);
                plan.Day = now.InZone(zone).Date;
                input = await PlanQuery.LoadAsync(db, plan.Day, zone, ct);
            }
            else
            {
                input = PlanJson.Read(plan.Input).Plan ?? throw new InvalidOperationException("The kept input cannot be read.");
            }

            plan.Input = JsonSerializer.Serialize(PlanFile.Of(input), Output);
            var beat = Stopwatch.StartNew();
            var gate = new Lock();
            void Say(double from, double until, double share)
            {
                lock (gate)
                {
                    if (beat.ElapsedMilliseconds < 700)
                    {
                        return;
                    }

                    beat.Restart();
                }

                // A word from a worker thread, on a connection of its own.
                using var say = contexts.CreateDbContext();
                say.Database.ExecuteSql($"update plans set progress = {from + ((until - from) * share)}, beat_at = {clock.GetCurrentInstant()} where id = {id}");
            }

            var policy = await PolicyAsync(db, ct);
            plan.Result = plan.Kind switch
            {
                KeptPlanKind.Tried => Tried(plan, input, policy, ct),
                KeptPlanKind.Advised => Advised(plan, input, policy, share => Say(0, 1, share), ct),
                KeptPlanKind.Slipped => await SlippedAsync(db, plan, input, ct),
                _ => Present(input, policy, Say, ct),
            };
            plan.State = KeptPlanState.Done;
        }
        catch (Exception e) when (e is not OperationCanceledException)
        {
            plan.State = KeptPlanState.Failed;
            plan.Why = e.Message;
        }

        plan.Progress = 1;
        plan.TookMs = (int)clockwork.ElapsedMilliseconds;
        plan.DoneAt = clock.GetCurrentInstant();
        plan.BeatAt = plan.DoneAt;
        await db.SaveChangesAsync(ct);
        await db.Database.ExecuteSqlAsync($"delete from plans where kind = 'Present' and id not in (select id from plans where kind = 'Present' order by asked_at desc limit {KeptPresent})", ct);
        return true;
    }

    // The order of work of the newest present plan; null when there is none.
    private static async Task<IReadOnlyList<string>?> PolicyAsync(OilTagDb db, CancellationToken ct)
    {
        var result = await db.Plans.Where(p => p.Kind == KeptPlanKind.Present && p.State == KeptPlanState.Done).OrderByDescending(p => p.AskedAt).Select(p => p.Result).FirstOrDefaultAsync(ct);
        return result is null ? null : JsonSerializer.Deserialize<PlanResult>(result, PlanJson.Options)!.Policy is { Count: > 0 } policy ? policy : null;
    }

    private static string Present(PlanInput input, IReadOnlyList<string>? policy, Action<double, double, double> say, CancellationToken ct)
    {
        var planner = new Planner(input, before: policy);
        var forecast = planner.Stopped ? null : PlanSimulation.Run(planner, Runs, 1, share => say(0.1, 0.5, share), ct);
        var schedule = planner.Schedule(forecast);
        var orderBy = OrderByRule.Of(planner, progress: share => say(0.5, 0.8, share), ct: ct);
        var causes = forecast is null ? [] : PlanCauses.Of(planner, forecast, ct: ct);
        return JsonSerializer.Serialize(new PlanResult(schedule, forecast, orderBy) { Policy = planner.Policy, Causes = causes }, Output);
    }

    // The kept input becomes that of the changed plan, so that it can be drawn.
    private static string Tried(KeptPlan plan, PlanInput input, IReadOnlyList<string>? policy, CancellationToken ct)
    {
        var changes = JsonSerializer.Deserialize<IReadOnlyList<PlanChange>>(plan.Changes, PlanJson.Options)!;
        var compared = PlanCompare.Of(input, changes, Runs, policy: policy, ct: ct);
        plan.Input = JsonSerializer.Serialize(PlanFile.Of(compared.Plan), Output);
        return JsonSerializer.Serialize(new TriedResult(compared.Schedule, compared.Forecast, compared.Milestones, compared.KeptAsWas), Output);
    }

    private static string Advised(KeptPlan plan, PlanInput input, IReadOnlyList<string>? policy, Action<double> say, CancellationToken ct)
    {
        var asked = JsonSerializer.Deserialize<AdviceAsked>(plan.Changes, PlanJson.Options)!;
        return JsonSerializer.Serialize(
            PlanAdvice.Of(input, asked.Milestone, asked.Wanted, shown: Runs, policy: policy, progress: say, ct: ct),
            Output);
    }

    private static async Task<string> SlippedAsync(OilTagDb db, KeptPlan plan, PlanInput input, CancellationToken ct)
    {
        var of = JsonSerializer.Deserialize<Guid>(plan.Changes, PlanJson.Options);
        var promise = await db.Plans.AsNoTracking().SingleAsync(p => p.Id == of && p.Kind == KeptPlanKind.Promised, ct);
        return JsonSerializer.Serialize(PlanSlip.Explain(PlanJson.Read(promise.Input).Plan!, input), Output);
    }
}
