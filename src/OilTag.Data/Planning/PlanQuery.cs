using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Strip;
using OilTag.Core.Work;
using OilTag.Data.Machines;
using OilTag.Data.People;
using OilTag.Data.Strip;

namespace OilTag.Data.Planning;

/// <summary>Makes the input of a plan from the record, in a fixed number of commands.</summary>
public static class PlanQuery
{
    /// <summary>Skill that a hold point wants.</summary>
    public const string Inspecting = AuthorisationRule.LiftingHolds;

    /// <summary>Weeks of the past from which attendance is learned.</summary>
    public const int AttendanceWeeks = 52;

    /// <summary>What a wait is taken for when nobody has said how long it takes. The page says so wherever it counts.</summary>
    public static readonly DaysRange UnknownWait = DaysRange.Weeks(1, 3, 10);

    /// <summary>What a step is taken for that nobody has estimated: an hour to two days of work. The page says so wherever it counts.</summary>
    public static readonly HoursRange UnknownHours = WhatIsLeft.UnknownStep;

    /// <summary>Prefix of the id of a wait that the plan put in for a package that is stuck.</summary>
    public const string WaitId = "wait:";

    /// <summary>Prefix of the id of damage that nobody has found yet, as a package and as its one step.</summary>
    public const string DamageId = "damage:";

    /// <summary>Prefix of the id of the rest of a cure.</summary>
    public const string CureId = "cure:";

    /// <summary>Prefix of the id of the wait for a part that is not in the shed, or of the search for one that is not found.</summary>
    public const string BackId = "back:";

    /// <summary>Prefix of the id of what is left of a machine besides its packages, as a package and its steps; the letter follows, and for a step what it is.</summary>
    public const string LeftId = "left:";

    /// <summary>What looking for a part that is not found is taken for. The page says so wherever it counts.</summary>
    public static readonly HoursRange LookFor = new(0.5, 2, 8);

    public static async Task<PlanInput> LoadAsync(OilTagDb db, LocalDate today, DateTimeZone zone, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var packages = await db.Packages.AsNoTracking().Where(k => k.ClosedAt == null).OrderBy(k => k.Number).ToListAsync(ct);
        var operations = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null orderby k.Number, o.Order select o).AsNoTracking().ToListAsync(ct);
        var booked = await (from h in db.Hours join k in db.Packages on h.PackageId equals (Guid?)k.Id where k.ClosedAt == null group h by k.Id into g select new { g.Key, Minutes = g.Sum(h => h.Minutes) }).ToDictionaryAsync(g => g.Key, g => g.Minutes, ct);
        var said = await WorkshopQuery.SaidAsync(db, db.Packages.Where(k => k.ClosedAt == null), ct);
        var assemblies = await (from k in db.Packages join p in db.Places on k.PlaceId equals p.Id where k.ClosedAt == null select new { k.Id, Assembly = p.Kind == PlaceKind.Assembly ? p.Id : p.ParentId ?? p.Id }).ToDictionaryAsync(x => x.Id, x => x.Assembly, ct);
        var named = operations.Where(o => o.DoneAt is null).SelectMany(o => o.Needs.Demands).ToHashSet();
        var demands = (await db.Demands.AsNoTracking().Where(d => d.End == null).OrderBy(d => d.Id).ToListAsync(ct)).Where(d => d.Lead is not null || d.OrderedOn is not null || named.Contains(d.Id)).ToList();
        var elsewhere = await (
            from k in db.Packages
            join c in db.Custodies on k.TagId equals (Guid?)c.TagId
            where k.ClosedAt == null && c.Until == null && (c.Kind == CustodyKind.Away || c.Kind == CustodyKind.Person || c.Kind == CustodyKind.Lent || c.Kind == CustodyKind.NotFound)
            select new { k.Id, c.Kind, c.Where, c.DueBack }).ToDictionaryAsync(x => x.Id, ct);
        var milestones = await db.Milestones.AsNoTracking().Where(m => m.EndedAt == null).OrderBy(m => m.On).ThenBy(m => m.Id).ToListAsync(ct);
        var equipment = await db.Equipment.AsNoTracking().OrderBy(e => e.Name).ThenBy(e => e.Id).ToListAsync(ct);
        var settings = await db.Settings.AsNoTracking().SingleOrDefaultAsync(ct);
        var damage = await (from s in db.HiddenDamages join p in db.Places on s.PlaceId equals p.Id where s.EndedAt == null orderby s.Id select new { Damage = s, p.MachineId, Place = p.Name, p.Hand, p.Position, Assembly = p.Kind == PlaceKind.Assembly ? p.Id : p.ParentId ?? p.Id }).AsNoTracking().ToListAsync(ct);
        var calls = await db.CallOuts.AsNoTracking().Where(c => c.EndedAt == null && c.On >= today).OrderBy(c => c.On).ThenBy(c => c.Id).ToListAsync(ct);
        var sessions = await SessionsAsync(db, today, calls, ct);
        var people = await PeopleAsync(db, today, zone, calls, ct);

        // Whose own work a hold point inspects: they do not lift it.
        var inspected = db.Packages.Where(k => k.ClosedAt == null && k.Operations.Any(o => o.Hold && o.DoneAt == null)).Select(k => k.Id);
        var team = people.Select(p => p.Id).ToHashSet(StringComparer.Ordinal);
        var worked = (await db.Hours.Where(h => inspected.Contains(h.PackageId!.Value)).Select(h => new { PackageId = h.PackageId!.Value, By = h.PersonId })
            .Union(db.Operations.Where(o => inspected.Contains(o.PackageId) && !o.Hold && o.DoneById != null).Select(o => new { o.PackageId, By = o.DoneById!.Value }))
            .ToListAsync(ct)).Select(w => (w.PackageId, By: Id(w.By))).Where(w => team.Contains(w.By)).OrderBy(w => w.By, StringComparer.Ordinal).ToLookup(w => w.PackageId, w => w.By);

        var of = operations.ToLookup(o => o.PackageId);
        var open = operations.Where(o => o.DoneAt is null).ToList();
        var openIds = open.Select(o => o.Id).ToHashSet();
        var demandIds = demands.Select(d => d.Id).ToHashSet();

        // What our own jobs have taught is no first guess any more.
        var names = open.Select(o => o.Name).ToHashSet();
        var taught = (await db.Operations.Where(o => o.DoneAt != null && names.Contains(o.Name) && db.Hours.Any(h => h.OperationId == o.Id)).GroupBy(o => o.Name).Where(g => g.Count() >= PastHours.Fewest).Select(g => g.Key).ToListAsync(ct)).ToHashSet(StringComparer.Ordinal);
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
            var last = new List<string>();
            var first = steps.Where(o => o.Order == steps[0].Order).ToList();
            if (elsewhere.GetValueOrDefault(k.Id) is { } gone && !first.Exists(o => o.Needs.Elapsed is not null))
            {
                // The part has to be here, or found, before anybody can work on it; where its next step is done away, it is where it should be.
                last = [BackId + k.Number];
                planned.Add(gone.Kind == CustodyKind.NotFound
                    ? new PlanOperation { Id = last[0], Package = Number(k), Name = $"Look for the part, last seen at {gone.Where}", Hours = LookFor, MaxCrew = 2, Assumed = true }
                    : new PlanOperation { Id = last[0], Package = Number(k), Name = $"The part comes back from {gone.Where}", Elapsed = Back(gone.DueBack, today), Assumed = gone.DueBack is not { } due || due < today });
            }
            else if (k.WaitingOn.Length > 0)
            {
                last = [WaitId + k.Number];
                planned.Add(new PlanOperation { Id = last[0], Package = Number(k), Name = "Waits on " + k.WaitingOn, Elapsed = UnknownWait, Assumed = true });
            }

            // What the last finished step still has to cure.
            if (of[k.Id].Where(o => o.DoneAt is not null && o.Order < steps[0].Order).MaxBy(o => o.Order) is { DoneAt: { } done } && steps[0].Needs.Cure is { } cure && Cures(done.InZone(zone).Date, cure, today) is { } days)
            {
                last = [CureId + k.Number];
                planned.Add(new PlanOperation { Id = last[0], Package = Number(k), Name = "Cures", Elapsed = days });
            }

            // Steps that are done side by side follow the same ones; what comes next waits for all of them.
            foreach (var group in StepOrder.Groups(of[k.Id]).Select(g => g.Where(o => o.DoneAt is null).ToList()).Where(g => g.Count > 0))
            {
                group.ForEach(Plan);
                last = [.. group.Select(o => Id(o.Id))];
            }

            void Plan(Operation o)
            {
                var needs = o.Needs;
                var after = needs.After.Where(openIds.Contains).Select(a => new Follows(Id(a))).ToList();
                after.InsertRange(0, last.Select(l => new Follows(l, l.StartsWith(CureId, StringComparison.Ordinal) ? null : needs.Cure)));
                var unknown = o.High <= 0 && needs.Elapsed is null && !o.Hold && o.Left is null;

                planned.Add(new PlanOperation
                {
                    Id = Id(o.Id),
                    Package = Number(k),
                    Name = o.Name,
                    Hours = unknown ? UnknownHours : needs.Elapsed is null ? left[o.Id] : HoursRange.None,
                    Assumed = unknown,
                    Like = unknown
                        ? "nobody has said"
                        : taught.Contains(o.Name) || needs.Elapsed is not null
                        ? string.Empty
                        : PlanOperation.LikeOf(o.Name),
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
                    NotBy = o.Hold ? [.. worked[k.Id].Order(StringComparer.Ordinal)] : [],
                    SafeStop = needs.SafeStop,
                    OnDay = needs.OnDay is { } day ? LocalDate.FromDateOnly(day) : null,
                    After = after,
                    Demands = [.. needs.Demands.Where(demandIds.Contains).Select(Id)],
                });
            }
        }

        // Damage that may come to light is a package of one step: what follows the step that shows it waits until it is put right.
        foreach (var s in damage.Select(s => s.Damage))
        {
            var id = DamageId + Id(s.Id);
            var shown = s.AfterId is { } after && openIds.Contains(after) ? Id(after) : null;
            if (shown is not null)
            {
                planned = [.. planned.Select(o => o.After.Any(a => a.Operation == shown) ? o with { After = [.. o.After, new Follows(id)] } : o)];
            }

            planned.Add(new PlanOperation
            {
                Id = id,
                Package = id,
                Name = "Put right what comes to light",
                Hours = new HoursRange(s.Low, s.Likely, s.High),
                Chance = s.Percent / 100.0,
                MaxCrew = 2,
                Skills = s.Skill.Length > 0 ? [new SkillNeed(s.Skill)] : [],
                After = shown is null ? [] : [new Follows(shown)],
            });
        }

        // A milestone that is about a machine needs what is off, undecided and not seen of it too.
        var rest = new List<(Milestone Milestone, PlanPackage Package)>();
        foreach (var m in milestones.Where(m => m.MachineId is not null).DistinctBy(m => m.MachineId))
        {
            var machine = machines.First(x => x.Id == m.MachineId);
            var own = packages.Where(k => k.MachineId == machine.Id && k.MilestoneId == m.Id).ToLookup(k => assemblies[k.Id], Number);
            var steps = await RestAsync(db, machine, own, planned, today, ct);
            planned.AddRange(steps);
            if (steps.Count > 0)
            {
                rest.Add((m, new PlanPackage { Id = LeftId + machine.Letter, Machine = machine.Letter, Title = $"What is left of {machine.Name} besides its packages", Started = true }));
            }
        }

        // Somebody who is named is a skill that one person has.
        var skills = planned.SelectMany(o => o.Skills).Select(s => s.Skill).ToHashSet(StringComparer.Ordinal);
        people = [.. people.Select(p => skills.Contains(p.Name) ? p with { Skills = [.. p.Skills, new PlanSkill(p.Name)] } : p)];

        // What a step names and the shed does not have is there nought times, so that the plan says so and leaves the step out.
        var things = equipment.Select(e => new PlanThing(e.Name, e.Name, e.Count, [.. e.Out.Select(x => new ThingOut(x.Count, Span(x.From, x.Until)))])).ToList();
        things.AddRange(planned.SelectMany(o => o.Things).Select(t => t.Thing).Distinct(StringComparer.Ordinal).Where(t => things.TrueForAll(x => x.Id != t)).ToList().Select(t => new PlanThing(t, t, 0)));
        var withSteps = planned.Select(o => o.Package).ToHashSet(StringComparer.Ordinal);
        return new PlanInput
        {
            Today = today,
            Sites = [.. (await db.Sites.AsNoTracking().OrderBy(s => s.Name).ToListAsync(ct)).Where(s => s.Months.Count > 0).Select(s => new PlanSite(s.Name, s.Months))],
            OpenLimit = settings?.OpenLimit,
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
                RestsSafely = Rests(of[k.Id]),
                NotBefore = k.NotBefore,
                UndoneBy = [.. k.UndoneBy.Select(u => packages.Find(x => x.Id == u)).Where(u => u is not null && withSteps.Contains(Number(u))).Select(u => Number(u!))],
                TakesAway = k.TakesAway,
            }).Concat(damage.Select(s => new PlanPackage
            {
                Id = DamageId + Id(s.Damage.Id),
                Machine = machines.First(m => m.Id == s.MachineId).Letter,
                Title = $"{char.ToUpperInvariant(s.Damage.What[0])}{s.Damage.What[1..]}, not found yet ({PlaceNames.Full(s.Place, s.Hand, s.Position)})",
                Assembly = Id(s.Assembly),
                Started = true,
            })).Concat(rest.Select(r => r.Package))],
            Operations = planned,
            Demands = [.. demands.Select(d => new PlanDemand { Id = Id(d.Id), What = (d.Quantity > 1 ? $"{d.Quantity} × {d.What}" : d.What) + (d.Lead is null && d.OrderedOn is null ? " (how long it takes is assumed)" : string.Empty), Enquiry = d.Enquiry ?? DaysRange.None, Lead = d.Lead ?? (d.OrderedOn is null ? UnknownWait : DaysRange.None), Ordered = d.OrderedOn })],
            Milestones = [.. milestones.Select(m => new PlanMilestone { Id = Id(m.Id), Name = m.Name, On = m.On, Fixed = m.Fixed, Weight = m.Weight, Packages = [.. packages.Where(k => k.MilestoneId == m.Id && withSteps.Contains(Number(k))).Select(Number), .. damage.Where(s => Serves(s.Damage, s.Assembly) == m.Id).Select(s => DamageId + Id(s.Damage.Id)), .. rest.Where(r => r.Milestone.Id == m.Id).Select(r => r.Package.Id)] })],
        };

        // Damage counts for the milestone of the package that shows it, else for the first that wants work on its assembly.
        Guid? Serves(HiddenDamage s, Guid assembly) =>
            (operations.Find(o => o.Id == s.AfterId) is { } shows ? packages.Find(k => k.Id == shows.PackageId)?.MilestoneId : null)
            ?? milestones.Find(m => packages.Exists(k => k.MilestoneId == m.Id && assemblies[k.Id] == assembly))?.Id;
    }

    // What is left of a machine besides its packages, as steps: what findings may want and what nobody has seen, what is to be looked at again, and putting back
    // what is off, assembly by assembly, each when the packages that work on it are done.
    private static async Task<List<PlanOperation>> RestAsync(OilTagDb db, Machine machine, ILookup<Guid, string> packages, List<PlanOperation> planned, LocalDate today, CancellationToken ct)
    {
        var access = await AccessQuery.LoadAsync(db, machine.Id, ct);
        var facts = await LeftQuery.LoadAsync(db, machine.Id, access, today, ct);
        var of = WhatIsLeft.Of(facts with { Packages = [], StepsWithoutHours = 0, Damage = [] }).Rows.ToDictionary(r => r.Kind);
        var steps = new List<PlanOperation>();
        void Add(string what, string name, HoursRange hours, bool assumed, IReadOnlyList<Follows> after) => steps.Add(new PlanOperation
        {
            Id = $"{LeftId}{machine.Letter}:{what}",
            Package = LeftId + machine.Letter,
            Name = name,
            Hours = hours,
            Like = what is "findings" or "unseen" or "again" or "papers" ? string.Empty : "putting back",
            MaxCrew = 2,
            Assumed = assumed,
            After = after,
        });
        foreach (var (kind, what, name) in new[] { (LeftKind.Findings, "findings", "What the undecided findings want"), (LeftKind.NotFound, "unseen", "What is in assemblies that nobody has looked at"), (LeftKind.Rechecks, "again", "What is to be looked at again"), (LeftKind.Papers, "papers", "Papers, tests and trials") })
        {
            if (of.GetValueOrDefault(kind) is { } row)
            {
                Add(what, name, row.Hours, row.Assumed, []);
            }
        }

        var before = steps.Where(s => !s.Id.EndsWith(":again", StringComparison.Ordinal)).Select(s => new Follows(s.Id)).ToList();
        var last = planned.GroupBy(o => o.Package, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.Last().Id, StringComparer.Ordinal);
        foreach (var g in access.Off.GroupBy(s => access.Map.Find(s)?.ParentId ?? s).OrderBy(g => access.Map.OrderOf(g.Key)))
        {
            var times = g.Select(access.Times.Of).ToList();
            var back = WhatIsLeft.Of(new LeftFacts { Packages = [], Findings = [], Damage = [], Off = [.. times.Select(t => new OffPart(t.Minutes * Math.Max(1, t.People), t.Assumed))] }).Rows[0];
            Add(Id(g.Key), $"Put back what is off of {access.Name(g.Key)}", back.Hours, back.Assumed, [.. before, .. packages[g.Key].Where(last.ContainsKey).Select(k => new Follows(last[k]))]);
        }

        return steps;
    }

    // When a part that is elsewhere is here: on its day, or half as long again and a week; not said, or past, is not known. An assumption.
    private static DaysRange Back(LocalDate? due, LocalDate today) =>
        due is { } day && day >= today && Period.DaysBetween(today, day) is var n ? new DaysRange(n, n, (n * 1.5) + 7) : UnknownWait;

    // A package that names steps after which it may rest does so when the last that was done is one of them, or none was.
    private static bool Rests(IEnumerable<Operation> steps)
    {
        var own = steps.ToList();
        return !own.Exists(o => o.Needs.SafeStop) || own.Where(o => o.DoneAt is not null).MaxBy(o => o.Order)?.Needs.SafeStop != false;
    }

    // The days of a cure that are still to come, or null when it is over whichever way.
    private static DaysRange? Cures(LocalDate done, DaysRange cure, LocalDate today)
    {
        var gone = Period.DaysBetween(done, today);
        return cure.High <= gone ? null : new DaysRange(Math.Max(0, cure.Low - gone), Math.Max(0, cure.Likely - gone), cure.High - gone);
    }

    /// <summary>An id as the plan has it.</summary>
    public static string Id(Guid id) => id.ToString("N");

    // A package goes by its number, so that a plan that is exported can be read.
    private static string Number(WorkPackage package) => package.Number.ToString(System.Globalization.CultureInfo.InvariantCulture);

    private static DaySpan Span(DateOnly from, DateOnly until) => new(LocalDate.FromDateOnly(from), LocalDate.FromDateOnly(until));

    // The team, with the chance of coming on each day of the week learned from the days on which the record knows them to have been there.
    private static async Task<List<PlanPerson>> PeopleAsync(OilTagDb db, LocalDate today, DateTimeZone zone, List<CallOut> calls, CancellationToken ct)
    {
        var inspectors = PeopleQuery.Holding(db, Roles.Inspector).Select(p => p.Id);
        var people = await PeopleQuery.Team(db).OrderBy(p => p.Id).Select(p => new { p.Id, p.Name, p.Minor, p.NeverAlone, Inspects = inspectors.Contains(p.Id) }).ToListAsync(ct);
        var skills = await db.Authorisations.AsNoTracking().Where(a => a.EndedAt == null).OrderBy(a => a.Skill).ThenBy(a => a.Id).ToListAsync(ct);
        var from = today.PlusWeeks(-AttendanceWeeks);
        var absences = await db.Absences.AsNoTracking().Where(a => !a.Cancelled && a.Until >= from).OrderBy(a => a.From).ThenBy(a => a.Id).ToListAsync(ct);
        var away = absences.FindAll(a => a.Until >= today);
        var replies = calls.Count == 0 ? [] : await db.CallReplies.AsNoTracking().Where(r => calls.Select(c => c.Id).Contains(r.CallOutId)).OrderBy(r => r.Id).ToListAsync(ct);

        // The sign-in book, hours and signatures all say that somebody was there; only the book says where.
        var came = await db.Database.SqlQuery<Came>($"""
            select person_id, day, site from visits where day >= {from} and day < {today}
            union
            select person_id, day, null from hours where day >= {from} and day < {today}
            union
            select by_id, (at at time zone {zone.Id})::date, null from sign_offs
            where at >= {from.AtStartOfDayInZone(zone).ToInstant()} and at < {today.AtStartOfDayInZone(zone).ToInstant()}
            """).ToListAsync(ct);
        var days = came.ToLookup(c => c.PersonId);
        var closed = await db.CalendarChanges.AsNoTracking().Where(c => !c.Cancelled && c.Opens == null && c.Until >= from && c.From < today).Select(c => new { c.Site, c.From, c.Until }).ToListAsync(ct);
        var weekly = (await db.SessionPatterns.AsNoTracking().Select(s => new { s.Day, s.Site }).Distinct().ToListAsync(ct)).OrderBy(w => w.Site, StringComparer.Ordinal).ThenBy(w => w.Day).ToList();
        return [.. people.Select(p =>
        {
            var own = days[p.Id].ToList();
            var booked = own.Where(c => c.Site is not null).Select(c => c.Day).ToHashSet();
            var since = own.Select(c => c.Day).DefaultIfEmpty(today).Min();
            var gone = absences.FindAll(a => a.PersonId == p.Id);
            var attendance = weekly.Select(w =>
            {
                // A day on which the shed was closed, or for which they had said that they are away, says nothing about how often they come.
                var sessions = Enumerable.Range(0, Period.DaysBetween(since, today)).Select(since.PlusDays)
                    .Count(d => d.DayOfWeek == w.Day && !closed.Exists(c => c.Site == w.Site && c.From <= d && d <= c.Until) && !gone.Exists(a => a.From <= d && d <= a.Until));
                var there = own.Where(c => c.Day.DayOfWeek == w.Day && (c.Site is { } site ? site == w.Site : w.Site.Length == 0 && !booked.Contains(c.Day))).Select(c => c.Day).Distinct().Count();
                return new PlanAttendance(w.Day, AttendanceRule.Chance(Math.Min(there, sessions), sessions), w.Site);
            }).ToList();
            return new PlanPerson
            {
                Id = Id(p.Id),
                Name = p.Name,
                Minor = p.Minor,
                NeverAlone = p.NeverAlone,
                Skills = [.. skills.Where(s => s.PersonId == p.Id && !s.Learning && (p.Inspects || s.Skill != Inspecting)).Select(s => new PlanSkill(s.Skill, s.Until))],
                Learns = [.. skills.Where(s => s.PersonId == p.Id && s.Learning).Select(s => s.Skill)],
                Attendance = attendance,
                OtherDays = attendance.Count == 0 ? 0 : attendance.Where(a => a.Site.Length == 0).Select(a => a.Chance).DefaultIfEmpty(0).Average(),
                Replies = [.. calls.GroupBy(c => c.On).Select(g => (g.Key, Reply: replies.Where(r => r.PersonId == p.Id && g.Any(c => c.Id == r.CallOutId)).MaxBy(r => r.At))).Where(x => x.Reply is not null).Select(x => new PlanReply(x.Key, CallOutRule.Chance(x.Reply!.Answer)))],
                Away = [.. away.Where(a => a.PersonId == p.Id).Select(a => new DaySpan(a.From, a.Until))],
            };
        })];
    }

    private sealed record Came(Guid PersonId, LocalDate Day, string? Site);

    // The hours for which people are called out are a session, whatever the calendar says.
    private static async Task<List<PlanSession>> SessionsAsync(OilTagDb db, LocalDate today, List<CallOut> calls, CancellationToken ct)
    {
        var weekly = await db.SessionPatterns.AsNoTracking().OrderBy(s => s.Day).ThenBy(s => s.From).ThenBy(s => s.Id).ToListAsync(ct);
        var changes = await db.CalendarChanges.AsNoTracking().Where(c => !c.Cancelled && c.Until >= today).OrderBy(c => c.From).ThenBy(c => c.Id).ToListAsync(ct);
        var called = calls.ToLookup(c => c.On);
        return [.. Enumerable.Range(0, PlanInput.UsualWeeks * 7).Select(d => today.PlusDays(d)).SelectMany(day =>
        {
            var sessions = SessionCalendar.On(day, weekly, changes);
            var more = called[day].Where(c => !sessions.Any(s => s.Site.Length == 0 && s.From < c.Until && c.From < s.Until)).ToList();
            return more.Count == 0 ? sessions : [.. sessions.Append(new PlanSession(day, more.Min(c => c.From), more.Max(c => c.Until))).OrderBy(s => s.Site, StringComparer.Ordinal).ThenBy(s => s.From)];
        })];
    }
}
