using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Core.Stores;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Make;
using OilTag.Data.Planning;

namespace OilTag.Data.Work;

/// <summary>Loads what the state of packages is worked out from. It is kept in memory until something is recorded, or the session or the day ends.</summary>
public sealed class StandLoader(DateTimeZone zone)
{
    private volatile Kept? last;

    /// <summary>What the state of packages is worked out from, as of a moment.</summary>
    public async Task<ShedStand> LoadAsync(OilTagDb db, LocalDateTime now, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var stamp = await db.Database.SqlQuery<long>($"select version as \"Value\" from record_stamp").SingleAsync(ct);
        if (last is not { } kept || kept.Stamp != stamp || kept.Stand.Now.Date != now.Date || now >= kept.Stand.SessionEnds
            || now < kept.Stand.Now)
        {
            last = kept = new Kept(stamp, await StandQuery.LoadAsync(db, now, zone, ct));
        }

        return kept.Stand with { Now = now };
    }

    private sealed record Kept(long Stamp, ShedStand Stand);
}

/// <summary>Loads what the state of packages is worked out from, in a fixed number of commands.</summary>
public static class StandQuery
{
    /// <summary>The chance from which on somebody is expected.</summary>
    private const double Likely = 0.5;

    public static async Task<ShedStand> LoadAsync(OilTagDb db, LocalDateTime now, DateTimeZone zone, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var plan = await PlanQuery.LoadAsync(db, now.Date, zone, ct);
        var session = plan.Sessions.Where(s => s.On > now.Date || (s.On == now.Date && s.Until > now.TimeOfDay)).OrderBy(s =>
            s.On).ThenBy(s => s.From).ThenBy(s => s.Site, StringComparer.Ordinal).FirstOrDefault();
        var there = session is null ? [] : plan.People.Where(p => PlanCalendar.Chance(p, session) >= Likely).ToList();
        var skills = there.SelectMany(p => p.Skills.Where(s => s.Until is null || s.Until >= session!.On).Select(s =>
            s.Skill).Append(p.Name)).GroupBy(s => s, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.Count(),
            StringComparer.Ordinal);
        var demands = await db.Demands.AsNoTracking().Where(d => d.End == null).OrderBy(d => d.Id).ToListAsync(ct);
        var openSteps = await (
            from o in db.Operations
            join k in db.Packages on o.PackageId equals k.Id
            where o.DoneAt == null && k.ClosedAt == null
            select new { o.Id, k.Number, o.Order, o.Name }).ToListAsync(ct);
        var asked = await db.Questions.Where(q => q.BlocksId != null && q.AnsweredAt == null).Select(q => q.BlocksId!.Value)
            .Union(db.Consents.Where(c => c.Agreed == null).Select(c => c.PackageId)).ToListAsync(ct);
        var board = await db.DayBoards.AsNoTracking().SingleOrDefaultAsync(b => b.On == now.Date, ct);
        return new ShedStand
        {
            Now = now,
            Local = i => i.InZone(zone).LocalDateTime,
            NextSession = session?.On,
            SessionEnds = session is null ? null : session.On + session.Until,
            Expected = skills,
            Things = plan.Things.Where(t => t.Count > 0).ToDictionary(t => t.Name, t => PlanCalendar.Units(t, now.Date),
                StringComparer.Ordinal),
            Demands = demands.ToDictionary(d => d.Id, d => Stand(d)),
            OpenSteps = openSteps.ToDictionary(o => o.Id, o => $"{o.Number}.{o.Order} {o.Name}"),
            Asked = asked.ToHashSet(),
            Fixtures = (await MakingWrites.HeldUpAsync(db, ct)).ToDictionary(g => g.Key, g => (IReadOnlyList<string>)[.. g]),
            Names = await db.People.Select(p => new { p.Id, p.Name }).ToDictionaryAsync(p => p.Id, p => p.Name, ct),
            Booked = (await (from h in db.Hours join k in db.Packages on h.PackageId equals (Guid?)k.Id where k.ClosedAt == null select k.Id).Distinct().ToListAsync(ct)).ToHashSet(),
            Dry = board?.Dry,
            Degrees = board?.Degrees,
            Inspecting = PlanQuery.Inspecting,
        };
    }

    private static DemandStand Stand(Demand d) => new(
        d.Quantity > 1 ? $"{d.Quantity} × {d.What}" : d.What,
        d.OrderedOn,
        d.OrderedOn is { } on && d.Lead is { } lead ? on.PlusDays((int)Math.Ceiling(lead.Likely)) : null);
}
