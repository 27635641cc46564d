using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Service;

namespace OilTag.Data.Service;

/// <summary>A task with how it stands.</summary>
/// <param name="Task">The task.</param>
/// <param name="Place">Where.</param>
/// <param name="Last">When it was last done; null for never.</param>
/// <param name="Stand">How it stands.</param>
public sealed record TaskLine(ServiceTask Task, string Place, ServiceDone? Last, DueStand Stand);

/// <summary>A recheck with how it stands.</summary>
/// <param name="Recheck">The recheck.</param>
/// <param name="Place">Where.</param>
/// <param name="Package">Number of the package from which it comes; null for none.</param>
/// <param name="Stand">How it stands.</param>
public sealed record RecheckLine(Recheck Recheck, string Place, int? Package, DueStand Stand);

/// <summary>What is due on machines.</summary>
/// <param name="Tasks">Service tasks that stand, the worst first.</param>
/// <param name="Rechecks">Rechecks that are open, the worst first.</param>
/// <param name="Uses">What the machines did, the newest first; taken back ones too.</param>
public sealed record ServiceFacts(IReadOnlyList<TaskLine> Tasks, IReadOnlyList<RecheckLine> Rechecks, IReadOnlyList<MachineUse> Uses)
{
    /// <summary>What stops the release of a run, as sentences: what is overdue, and what is due before it.</summary>
    /// <param name="kind">Run or move.</param>
    public IReadOnlyList<string> Against(UseKind kind) =>
    [
        .. Tasks.Where(t => t.Stand.State == DueState.Overdue || (t.Stand.State == DueState.Due && (kind == UseKind.Run ? t.Task.BeforeRun
            || t.Task.EveryDays is not null : t.Task.BeforeMove)))
            .Where(t => kind == UseKind.Run || t.Task.BeforeMove)
            .Select(t => $"Service: {t.Task.What}, {t.Place}, {t.Stand.Words}."),
        .. Rechecks.Where(r => r.Stand.State is DueState.Due or DueState.Overdue).Select(r =>
            $"Recheck: {r.Recheck.What}, {r.Place}, {r.Stand.Words}."),
    ];
}

/// <summary>Loads service tasks, rechecks and uses in a fixed number of commands.</summary>
public static class ServiceQuery
{
    /// <param name="machine">One machine; null for all.</param>
    public static async Task<ServiceFacts> LoadAsync(OilTagDb db, Guid? machine, LocalDate today, DateTimeZone zone, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var tasks = await (
            from t in db.ServiceTasks
            join p in db.Places on t.PlaceId equals p.Id
            where t.EndedAt == null && (machine == null || t.MachineId == machine)
            orderby t.Id
            select new
            {
                t,
                p.Name,
                p.Hand,
                p.Position,
                Done = db.ServicesDone.Where(d => d.TaskId == t.Id
                && d.TakenBackAt == null).OrderByDescending(d => d.On).ThenByDescending(d =>
                d.At).Take(1).ToList()
            }).AsNoTracking().ToListAsync(ct);
        var rechecks = await (
            from r in db.Rechecks
            join p in db.Places on r.PlaceId equals p.Id
            where r.EndedAt == null && (machine == null || r.MachineId == machine)
            orderby r.Id
            select new
            {
                r,
                p.Name,
                p.Hand,
                p.Position,
                Package = db.Packages.Where(k => k.Id == r.PackageId).Select(k =>
                (int?)k.Number).FirstOrDefault()
            }).AsNoTracking().ToListAsync(ct);
        var uses = await db.MachineUses.AsNoTracking().Where(u => machine == null || u.MachineId == machine).OrderByDescending(u =>
            u.On).ThenByDescending(u => u.At).ToListAsync(ct);
        var by = uses.ToLookup(u => u.MachineId);
        return new ServiceFacts(
            [.. tasks.Select(x => new TaskLine(x.t, PlaceNames.Full(x.Name, x.Hand, x.Position), x.Done.FirstOrDefault(),
                ServiceRule.Of(x.t, x.Done, by[x.t.MachineId], today, x.t.At.InZone(zone).Date)))
                .OrderByDescending(l => l.Stand.State).ThenBy(l => l.Stand.NextOn ?? LocalDate.MaxIsoValue).ThenBy(l => l.Task.What,
                    StringComparer.OrdinalIgnoreCase)],
            [.. rechecks.Select(x => new RecheckLine(x.r, PlaceNames.Full(x.Name, x.Hand, x.Position), x.Package, ServiceRule.Of(x.r,
                by[x.r.MachineId], today))).OrderByDescending(l => l.Stand.State).ThenBy(l => l.Recheck.At)],
            uses);
    }
}
