using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Data.Machines;

namespace OilTag.Data.Planning;

/// <summary>Makes the input of a plan from the record, in a fixed number of commands.</summary>
public static class PlanQuery
{
    /// <summary>Skill that a hold point wants.</summary>
    public const string Inspecting = "lifting holds";

    /// <summary>Weeks of the past from which attendance is learned.</summary>
    public const int AttendanceWeeks = 52;

    /// <summary>What a wait is taken for when nobody has said how long it takes. The page says so wherever it counts.</summary>
    public static readonly DaysRange UnknownWait = DaysRange.Weeks(1, 3, 10);

    /// <summary>Prefix of the id of a wait that the plan put in for a package that is stuck.</summary>
    public const string WaitId = "wait:";

    /// <summary>Prefix of the id of the rest of a cure.</summary>
    public const string CureId = "cure:";

    public static async Task<PlanInput> LoadAsync(OilTagDb db, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var packages = await db.Packages.AsNoTracking().Where(k => k.ClosedAt == null).OrderBy(k => k.Number).ToListAsync(ct);
        var operations = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null orderby k.Number, o.Order select o).AsNoTracking().ToListAsync(ct);
        var booked = await (from h in db.Hours join k in db.Packages on h.PackageId equals k.Id where k.ClosedAt == null group h by h.PackageId into g select new { g.Key, Minutes = g.Sum(h => h.Minutes) }).ToDictionaryAsync(g => g.Key, g => g.Minutes, ct);
        var said = await WorkshopQuery.SaidAsync(db, db.Packages.Where(k => k.ClosedAt == null), ct);
        var assemblies = await (from k in db.Packages join p in db.Places on k.PlaceId equals p.Id where k.ClosedAt == null select new { k.Id, Assembly = p.Kind == PlaceKind.Assembly ? p.Id : p.ParentId ?? p.Id }).ToDictionaryAsync(x => x.Id, x => x.Assembly, ct);
        var demands = await db.Demands.AsNoTracking().Where(d => d.End == null && (d.Lead != null || d.OrderedOn != null)).OrderBy(d => d.Id).ToListAsync(ct);
        var milestones = await db.Milestones.AsNoTracking().OrderBy(m => m.On).ToListAsync(ct);
        var equipment = await db.Equipment.AsNoTracking().OrderBy(e => e.Name).ToListAsync(ct);
        var people = await PeopleAsync(db, today, ct);
        var sessions = await SessionsAsync(db, today, ct);

        var of = operations.ToLookup(o => o.PackageId);
        var open = operations.Where(o => o.DoneAt is null).ToList();
        var openIds = open.Select(o => o.Id).ToHashSet();
        var demandIds = demands.Select(d => d.Id).ToHashSet();
        var planned = new List<PlanOperation>();
        foreach (var k in packages)
        {
            var steps = of[k.Id].Where(o => o.DoneAt is null).ToList();
            if (steps.Count == 0)
            {
                continue;
            }

            // The hours still to do, as everywhere else, step by step.
            var left = WorkshopQuery.Remaining([.. of[k.Id]], said.Where(x => x.PackageId == k.Id), booked.GetValueOrDefault(k.Id)).Zip(of[k.Id]).ToDictionary(x => x.Second.Id, x => x.First);
            var last = (string?)null;
            if (k.WaitingOn.Length > 0)
            {
                last = WaitId + k.Number;
                planned.Add(new PlanOperation { Id = last, Package = Number(k), Name = "Waits on " + k.WaitingOn, Elapsed = UnknownWait, Assumed = true });
            }

            // What the last finished step still has to cure.
            if (of[k.Id].Where(o => o.DoneAt is not null && o.Order < steps[0].Order).MaxBy(o => o.Order) is { DoneAt: { } done } && steps[0].Needs.Cure is { } cure && Cures(done, cure, today) is { } days)
            {
                last = CureId + k.Number;
                planned.Add(new PlanOperation { Id = last, Package = Number(k), Name = "Cures", Elapsed = days });
            }

            foreach (var o in steps)
            {
                var needs = o.Needs;
                var after = needs.After.Where(openIds.Contains).Select(a => new Follows(Id(a))).ToList();
                if (last is not null)
                {
                    after.Insert(0, new Follows(last, last.StartsWith(CureId, StringComparison.Ordinal) ? null : needs.Cure));
                }

                planned.Add(new PlanOperation
                {
                    Id = Id(o.Id),
                    Package = Number(k),
                    Name = o.Name,
                    Hours = needs.Elapsed is null ? left[o.Id] : HoursRange.None,
                    Elapsed = needs.Elapsed ?? DaysRange.None,
                    Chance = needs.Chance,
                    MinCrew = o.Hold ? 1 : needs.MinCrew,
                    MaxCrew = o.Hold ? 1 : Math.Max(needs.MinCrew, needs.MaxCrew),
                    Skills = o.Hold ? [new SkillNeed(Inspecting)] : needs.Skills,
                    Things = needs.Equipment,
                    Site = needs.Site,
                    Dry = needs.Dry,
                    WarmerThan = needs.WarmerThan,
                    ColderThan = needs.ColderThan,
                    InOneGo = needs.InOneGo,
                    AdultsOnly = needs.AdultsOnly,
                    OnDay = needs.OnDay is { } day ? LocalDate.FromDateOnly(day) : null,
                    After = after,
                    Demands = [.. needs.Demands.Where(demandIds.Contains).Select(Id)],
                });
                last = Id(o.Id);
            }
        }

        // What a step names and the shed does not have is there nought times, so that the plan says so and leaves the step out.
        var things = equipment.Select(e => new PlanThing(e.Name, e.Name, e.Count, [.. e.Out.Select(x => new ThingOut(x.Count, Span(x.From, x.Until)))])).ToList();
        things.AddRange(planned.SelectMany(o => o.Things).Select(t => t.Thing).Distinct(StringComparer.Ordinal).Where(t => things.TrueForAll(x => x.Id != t)).ToList().Select(t => new PlanThing(t, t, 0)));
        var withSteps = planned.Select(o => o.Package).ToHashSet(StringComparer.Ordinal);
        return new PlanInput
        {
            Today = today,
            Sessions = sessions,
            People = people,
            Things = things,
            Machines = [.. machines.Select(m => new PlanMachine(m.Letter, m.Name, m.Standing, [.. m.Windows.Select(w => new PlanWindow(Span(w.From, w.Until), w.Why))]))],
            Packages = [.. packages.Where(k => withSteps.Contains(Number(k))).Select(k => new PlanPackage
            {
                Id = Number(k),
                Machine = machines.First(m => m.Id == k.MachineId).Letter,
                Title = k.Title,
                Assembly = Id(assemblies[k.Id]),
                Opens = k.Opens,
                Started = booked.ContainsKey(k.Id) || of[k.Id].Any(o => o.DoneAt is not null),
                NotBefore = k.NotBefore,
                TakesAway = k.TakesAway,
            })],
            Operations = planned,
            Demands = [.. demands.Select(d => new PlanDemand { Id = Id(d.Id), What = d.Quantity > 1 ? $"{d.Quantity} × {d.What}" : d.What, Enquiry = d.Enquiry ?? DaysRange.None, Lead = d.Lead ?? DaysRange.None, Ordered = d.OrderedOn })],
            Milestones = [.. milestones.Select(m => new PlanMilestone { Id = Id(m.Id), Name = m.Name, On = m.On, Fixed = m.Fixed, Packages = [.. packages.Where(k => k.MilestoneId == m.Id && withSteps.Contains(Number(k))).Select(Number)] })],
        };
    }

    // The days of a cure that are still to come, or null when it is over whichever way.
    private static DaysRange? Cures(Instant done, DaysRange cure, LocalDate today)
    {
        var gone = Period.DaysBetween(done.InUtc().Date, today);
        return cure.High <= gone ? null : new DaysRange(Math.Max(0, cure.Low - gone), Math.Max(0, cure.Likely - gone), cure.High - gone);
    }

    /// <summary>An id as the plan has it.</summary>
    public static string Id(Guid id) => id.ToString("N");

    // A package goes by its number, so that a plan that is exported can be read.
    private static string Number(WorkPackage package) => package.Number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static DaySpan Span(DateOnly from, DateOnly until) => new(LocalDate.FromDateOnly(from), LocalDate.FromDateOnly(until));

    // Everybody but visitors, with the chance of coming on each day of the week learned from the days on which the record knows them to have been there.
    private static async Task<List<PlanPerson>> PeopleAsync(OilTagDb db, LocalDate today, CancellationToken ct)
    {
        var people = await (
            from p in db.People
            join a in db.Users on p.Id equals a.PersonId
            join ur in db.UserRoles on a.Id equals ur.UserId
            join r in db.Roles on ur.RoleId equals r.Id
            where r.Name != Roles.Visitor
            orderby p.Id
            select new { p.Id, p.Name, p.Minor, p.NeverAlone, Role = r.Name }).AsNoTracking().ToListAsync(ct);
        var skills = await db.Authorisations.AsNoTracking().Where(a => a.EndedAt == null).ToListAsync(ct);
        var away = await db.Absences.AsNoTracking().Where(a => !a.Cancelled && a.Until >= today).ToListAsync(ct);
        var from = today.PlusWeeks(-AttendanceWeeks);

        // The sign-in book, hours and signatures all say that somebody was there.
        var came = await db.Database.SqlQuery<Came>($"""
            select person_id, day from visits where day >= {from} and day < {today}
            union
            select person_id, day from hours where day >= {from} and day < {today}
            union
            select by_id, (at at time zone 'UTC')::date from sign_offs where at >= {from.AtMidnight().InUtc().ToInstant()}
            """).ToListAsync(ct);
        var days = came.ToLookup(c => c.PersonId, c => c.Day);
        var weekly = await db.SessionPatterns.AsNoTracking().Select(s => s.Day).Distinct().ToListAsync(ct);
        return [.. people.GroupBy(p => p.Id).Select(g =>
        {
            var p = g.First();
            var since = days[p.Id].DefaultIfEmpty(today).Min();
            var attendance = weekly.Select(day =>
            {
                var sessions = Enumerable.Range(0, Period.DaysBetween(since, today)).Count(d => since.PlusDays(d).DayOfWeek == day);
                var there = days[p.Id].Distinct().Count(d => d.DayOfWeek == day);
                return new PlanAttendance(day, AttendanceRule.Chance(Math.Min(there, sessions), sessions));
            }).ToList();
            return new PlanPerson
            {
                Id = Id(p.Id),
                Name = p.Name,
                Minor = p.Minor,
                NeverAlone = p.NeverAlone,
                Skills = [.. skills.Where(s => s.PersonId == p.Id && !s.Learning).Select(s => new PlanSkill(s.Skill, s.Until)), .. g.Any(r => r.Role == Roles.Inspector) ? [new PlanSkill(Inspecting)] : Array.Empty<PlanSkill>()],
                Learns = [.. skills.Where(s => s.PersonId == p.Id && s.Learning).Select(s => s.Skill)],
                Attendance = attendance,
                OtherDays = attendance.Count == 0 ? 0 : attendance.Average(a => a.Chance),
                Away = [.. away.Where(a => a.PersonId == p.Id).Select(a => new DaySpan(a.From, a.Until))],
            };
        })];
    }

    private sealed record Came(Guid PersonId, LocalDate Day);

    private static async Task<List<PlanSession>> SessionsAsync(OilTagDb db, LocalDate today, CancellationToken ct)
    {
        var weekly = await db.SessionPatterns.AsNoTracking().ToListAsync(ct);
        var changes = await db.CalendarChanges.AsNoTracking().Where(c => !c.Cancelled && c.Until >= today).ToListAsync(ct);
        return [.. Enumerable.Range(0, PlanInput.UsualWeeks * 7).SelectMany(d => SessionCalendar.On(today.PlusDays(d), weekly, changes))];
    }
}
