using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data.Machines;
using OilTag.Data.Make;
using OilTag.Data.People;
using OilTag.Data.Planning;

namespace OilTag.Data.Today;

/// <summary>Somebody of the team, with the chance that they come on this day of the week.</summary>
public sealed record TeamMember(Guid Id, string Name, string Words, bool Minor, double Chance);

/// <summary>A step of the day with what its strip and its slip show.</summary>
public sealed record DayStep(Guid Id, string Name, int Order, int Package, string Title, string Letter, string Tin, string Place, int? Tag, bool Hold);

/// <summary>A step that somebody worked at and signs out from.</summary>
/// <param name="Step">The step.</param>
/// <param name="Minutes">Minutes at it.</param>
/// <param name="Expected">Hours that it then still wants as far as the record can tell.</param>
/// <param name="Done">True when it is done.</param>
public sealed record SignOutStep(DayStep Step, int Minutes, double Expected, bool Done);

/// <summary>The day as it stands.</summary>
public sealed record DayFacts
{
    public required LocalDate On { get; init; }

    public required LocalTime Now { get; init; }

    public required OpenHours Hours { get; init; }

    /// <summary>Where people can come today, and when: the shed always, other sites when they have a session.</summary>
    public required IReadOnlyDictionary<string, OpenHours> Sites { get; init; }

    /// <summary>A word that is another when anything on the board is.</summary>
    public string Token => Convert.ToHexString(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(string.Join('|', Visits.Select(v => $"{v.Id:N}{v.Until}{v.Left}").Concat(Jobs.Select(j => $"{j.Id:N}{j.PersonId:N}{j.OperationId:N}{j.From}{j.Until}{j.ByLead}")).Append(Board.Version.ToString(System.Globalization.CultureInfo.InvariantCulture))))))[..16];

    /// <summary>When the shed opens next after today; null when it never does.</summary>
    public LocalDate? NextSession { get; init; }

    public required IReadOnlyList<TeamMember> Team { get; init; }

    /// <summary>The team as the plan knows it.</summary>
    public required IReadOnlyList<PlanPerson> Known { get; init; }

    /// <summary>Visits of the day, and older ones that nobody signed out.</summary>
    public required IReadOnlyList<Visit> Visits { get; init; }

    public required IReadOnlyList<DayJob> Jobs { get; init; }

    public required DayBoard Board { get; init; }

    /// <summary>Steps that are ready or on the board, by id.</summary>
    public required IReadOnlyDictionary<Guid, DayStep> Steps { get; init; }

    /// <summary>Who is there and what is ready, without what stays.</summary>
    public required DayInput Input { get; init; }

    /// <summary>The board as it was handed out.</summary>
    public DayPlan AsGiven => new([.. Jobs.Select(j => new DayStretch(Id(j.PersonId), j.OperationId is { } id ? Id(id) : null, j.From, j.Until, j.ByLead))], [], []);

    public IEnumerable<Visit> Here => Visits.Where(v => v.On == On && v.Left is null);

    /// <summary>Visits of earlier days that nobody signed out.</summary>
    public IEnumerable<Visit> Forgotten => Visits.Where(v => v.On < On);

    public static string Id(Guid id) => PlanQuery.Id(id);
}

/// <summary>What the day is worked out from that only changes when something is recorded.</summary>
/// <param name="Input">What is open, and who comes.</param>
/// <param name="Words">What each of the team does, in words.</param>
/// <param name="InARow">Packages on which each was in the last sessions, and in how many in a row.</param>
/// <param name="Steps">Open steps with their words.</param>
/// <param name="Agreed">What the group has agreed on; null while it has not.</param>
/// <param name="HeldUp">Packages that wait for a fixture.</param>
/// <param name="Scarcity">What only few can do, and how seldom they come.</param>
internal sealed record DayBasis(
    PlanInput Input,
    IReadOnlyDictionary<Guid, string> Words,
    IReadOnlyDictionary<Guid, Dictionary<string, int>> InARow,
    IReadOnlyDictionary<Guid, DayStep> Steps,
    ShedSettings? Agreed,
    IReadOnlySet<string> HeldUp,
    DayScarcity Scarcity);

/// <summary>Loads the day for pages that only read. What only changes when something is recorded is kept in memory until then.</summary>
public sealed class DayLoader(PlanLoader plans, DateTimeZone zone)
{
    private volatile Kept? last;

    public async Task<(DayFacts Day, ReadyPlan? Plan)> LoadAsync(OilTagDb db, LocalDateTime at, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var stamp = await db.Database.SqlQuery<long>($"select version as \"Value\" from record_stamp").SingleAsync(ct);
        if (last is not { } kept || kept.Stamp != stamp || kept.On != at.Date)
        {
            last = kept = new Kept(stamp, at.Date, await DayQuery.BasisAsync(db, at.Date, zone, ct));
        }

        var plan = (await plans.PresentAsync(ct)).Plan;
        return (await DayQuery.LoadAsync(db, kept.Basis, plan, at, ct), plan);
    }

    private sealed record Kept(long Stamp, LocalDate On, DayBasis Basis);
}

/// <summary>Loads the day in a fixed number of commands.</summary>
public static class DayQuery
{
    /// <summary>Days of the past that are looked at for what somebody did last.</summary>
    private const int RecentDays = 60;

    /// <param name="db">The record.</param>
    /// <param name="plan">The newest plan; null while there is none.</param>
    /// <param name="at">Today and now.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task<DayFacts> LoadAsync(OilTagDb db, ReadyPlan? plan, LocalDateTime at, DateTimeZone zone, CancellationToken ct) => await LoadAsync(db, await BasisAsync(db, at.Date, zone, ct), plan, at, ct);

    /// <summary>The day on a basis that was loaded before.</summary>
    internal static async Task<DayFacts> LoadAsync(OilTagDb db, DayBasis basis, ReadyPlan? plan, LocalDateTime at, CancellationToken ct)
    {
        var today = at.Date;
        var now = new LocalTime(at.Hour, at.Minute);
        var input = basis.Input;
        var visits = await db.Visits.AsNoTracking().Where(v => v.On == today || (v.Left == null && v.On < today)).OrderBy(v => v.On).ThenBy(v => v.Arrived).ThenBy(v => v.PersonId).ThenBy(v => v.Id).ToListAsync(ct);
        var jobs = await db.DayJobs.AsNoTracking().Where(j => j.On == today).OrderBy(j => j.From).ThenBy(j => j.PersonId).ThenBy(j => j.Id).ToListAsync(ct);
        var board = await db.DayBoards.AsNoTracking().SingleOrDefaultAsync(b => b.On == today, ct) ?? new DayBoard { On = today };
        var wishes = await (from w in db.Wishes join m in db.Machines on w.MachineId equals m.Id into ms from m in ms.DefaultIfEmpty() where w.EndedAt == null orderby w.PersonId, w.Id select new { w.PersonId, Word = m == null ? w.Skill : m.Letter }).ToListAsync(ct);
        var sessions = input.Sessions.Where(s => s.On == today).OrderBy(s => s.Site, StringComparer.Ordinal).ThenBy(s => s.From).ToList();
        OpenHours Hours(List<PlanSession> own) => own.Find(s => s.Until > now) is { } open ? new OpenHours(open.From, open.Until, true) : own.Count > 0 ? new OpenHours(own[^1].From, own[^1].Until, true) : OpenHours.Other;
        var open = sessions.Select(s => s.Site).Append(string.Empty).Distinct(StringComparer.Ordinal).ToDictionary(s => s, s => Hours(sessions.FindAll(x => x.Site == s)), StringComparer.Ordinal);

        // The board goes by the shed, or by the other site when only that has a session.
        var hours = open[string.Empty].InCalendar || sessions.Count == 0 ? open[string.Empty] : open[sessions[0].Site];
        var sites = sessions.Select(s => s.Site).Concat(visits.Where(v => v.On == today).Select(v => v.Site)).Append(string.Empty).ToHashSet(StringComparer.Ordinal);
        var ready = Ready(input, today, board, sites, basis.HeldUp);

        // What was finished today is not among the open steps any more.
        var steps = basis.Steps;
        if (jobs.Select(j => j.OperationId).OfType<Guid>().Where(id => !steps.ContainsKey(id)).ToHashSet() is { Count: > 0 } more)
        {
            steps = steps.Concat(await StepsAsync(db, db.Operations.Where(o => more.Contains(o.Id)), ct)).ToDictionary();
        }

        var people = input.People.ToDictionary(p => p.Id, StringComparer.Ordinal);
        return new DayFacts
        {
            On = today,
            Now = now,
            Hours = hours,
            Sites = open,
            NextSession = input.Sessions.FirstOrDefault(s => s.On > today)?.On,
            Team = [.. input.People.Select(p => new TeamMember(Guid.ParseExact(p.Id, "N"), p.Name, basis.Words.GetValueOrDefault(Guid.ParseExact(p.Id, "N"), string.Empty), p.Minor, p.Attendance.FirstOrDefault(a => a.Day == today.DayOfWeek)?.Chance ?? 0))],
            Known = input.People,
            Visits = visits,
            Jobs = jobs,
            Board = board,
            Steps = steps,
            Input = new DayInput
            {
                On = today,
                Now = now < hours.From ? hours.From : now,
                Break = DayBreak.Of(hours.From, hours.Until, basis.Agreed),
                People = [.. visits.Where(v => v.On == today && v.Left is null && people.ContainsKey(PlanQuery.Id(v.PersonId))).Select(v =>
                {
                    return ToDay(people[PlanQuery.Id(v.PersonId)], today, v.Arrived, v.Until, v.Site) with
                    {
                        Likes = [.. wishes.Where(w => w.PersonId == v.PersonId).Select(w => w.Word)],
                        InARow = basis.InARow.GetValueOrDefault(v.PersonId) ?? [],
                        Comes = basis.Scarcity.Comes(people[PlanQuery.Id(v.PersonId)], v.Site),
                    };
                })],
                Operations = [.. ready.Select(o => ToDay(o, input, plan, basis.Scarcity))],
                Holders = input.People.SelectMany(p => p.Skills.Where(s => s.Until is null || s.Until >= today).Select(s => (s.Skill, p.Name))).GroupBy(x => x.Skill, x => x.Name, StringComparer.Ordinal).ToDictionary(g => g.Key, g => (IReadOnlyList<string>)[.. g.Distinct().Order(StringComparer.Ordinal)], StringComparer.Ordinal),
                Things = input.Things.ToDictionary(t => t.Id, t => Math.Max(0, t.Count - (t.Out ?? []).Where(x => x.When.Has(today)).Sum(x => x.Count)), StringComparer.Ordinal),
            },
        };
    }

    /// <summary>What only changes when something is recorded.</summary>
    internal static async Task<DayBasis> BasisAsync(OilTagDb db, LocalDate today, DateTimeZone zone, CancellationToken ct)
    {
        var input = await PlanQuery.LoadAsync(db, today, zone, ct);
        var words = await PeopleQuery.Team(db).Select(p => new { p.Id, p.Skills }).ToDictionaryAsync(p => p.Id, p => p.Skills, ct);
        var since = today.PlusDays(-RecentDays);
        var worked = await (from h in db.Hours join k in db.Packages on h.PackageId equals (Guid?)k.Id where h.On >= since && h.On < today select new { h.PersonId, h.On, k.Number }).Distinct().ToListAsync(ct);
        return new DayBasis(
            input,
            words,
            worked.GroupBy(w => w.PersonId).ToDictionary(g => g.Key, g => InARow(g.Select(w => (w.On, Package: w.Number.ToString(System.Globalization.CultureInfo.InvariantCulture))))),
            await StepsAsync(db, from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.DoneAt == null && k.ClosedAt == null select o, ct),
            await db.Settings.AsNoTracking().SingleOrDefaultAsync(ct),
            (await MakingWrites.HeldUpAsync(db, ct)).Select(g => PlanQuery.Id(g.Key)).ToHashSet(StringComparer.Ordinal),
            new DayScarcity(input));
    }

    /// <summary>Somebody of the team as the day's work sees them, whether or not they are there; null for somebody else.</summary>
    public static DayPerson? Person(DayFacts day, Guid id)
    {
        ArgumentNullException.ThrowIfNull(day);
        return day.Input.People.FirstOrDefault(p => p.Id == DayFacts.Id(id))
            ?? (day.Known.FirstOrDefault(p => p.Id == DayFacts.Id(id)) is { } known ? ToDay(known, day.On, day.Now, VisitRule.UsualUntil(day.Now, day.Hours), string.Empty) : null);
    }

    private static DayPerson ToDay(PlanPerson p, LocalDate today, LocalTime from, LocalTime until, string site) => new()
    {
        Id = p.Id,
        Name = p.Name,
        From = from,
        Until = until,
        Site = site,
        Skills = [.. p.Skills.Where(s => s.Until is null || s.Until >= today).Select(s => s.Skill)],
        Learns = p.Learns,
        Minor = p.Minor,
        NeverAlone = p.NeverAlone,
    };

    /// <summary>What somebody worked at until they leave, with what each step then still wants, and the minutes that are on record for that day already.</summary>
    public static async Task<(IReadOnlyList<SignOutStep> Steps, int Booked)> WorkedAsync(OilTagDb db, Visit visit, LocalTime leaves, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(visit);
        var jobs = await db.DayJobs.AsNoTracking().Where(j => j.On == visit.On && j.PersonId == visit.PersonId).OrderBy(j => j.From).ToListAsync(ct);
        var worked = SignOutRule.Worked(jobs, visit.Arrived, leaves);
        var onRecord = await db.Hours.Where(h => h.PersonId == visit.PersonId && h.On == visit.On).SumAsync(h => (int?)h.Minutes, ct) ?? 0;
        var ids = worked.Select(w => w.Operation).ToList();
        var steps = await StepsAsync(db, db.Operations.Where(o => ids.Contains(o.Id)), ct);
        var all = await (from o in db.Operations where db.Operations.Any(x => ids.Contains(x.Id) && x.PackageId == o.PackageId) orderby o.Order select o).AsNoTracking().ToListAsync(ct);
        var packages = all.Select(o => o.PackageId).Distinct().ToList();
        var said = await WorkshopQuery.SaidAsync(db, db.Packages.Where(k => packages.Contains(k.Id)), ct);
        var booked = await db.Hours.Where(h => packages.Contains(h.PackageId!.Value)).GroupBy(h => h.PackageId!.Value).Select(g => new { g.Key, Minutes = g.Sum(h => h.Minutes) }).ToDictionaryAsync(g => g.Key, g => g.Minutes, ct);
        var left = packages.SelectMany(k => all.Where(o => o.PackageId == k).Zip(WorkshopQuery.Remaining([.. all.Where(o => o.PackageId == k)], said.Where(s => s.PackageId == k), booked.GetValueOrDefault(k)))).ToDictionary(x => x.First.Id, x => x.Second.Likely);
        var done = all.Where(o => o.DoneAt is not null).Select(o => o.Id).ToHashSet();
        return ([.. worked.Where(w => steps.ContainsKey(w.Operation)).Select(w => new SignOutStep(steps[w.Operation], w.Minutes, Math.Max(0.5, left.GetValueOrDefault(w.Operation) - (w.Minutes / 60.0)), done.Contains(w.Operation)))], onRecord);
    }

    /// <summary>Steps with the words that a strip needs.</summary>
    public static async Task<IReadOnlyDictionary<Guid, DayStep>> StepsAsync(OilTagDb db, IQueryable<Operation> which, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (
            from o in which
            join k in db.Packages on o.PackageId equals k.Id
            join m in db.Machines on k.MachineId equals m.Id
            join p in db.Places on k.PlaceId equals p.Id
            select new { o.Id, o.Name, o.Order, o.Hold, k.Number, k.Title, m.Letter, m.Tin, Place = p.Name, p.Hand, p.Position, Tag = db.Tags.Where(t => t.Id == k.TagId).Select(t => (int?)t.Number).FirstOrDefault() }).ToListAsync(ct);
        return rows.ToDictionary(r => r.Id, r => new DayStep(r.Id, r.Name, r.Order, r.Number, r.Title, r.Letter, r.Tin, PlaceNames.Full(r.Place, r.Hand, r.Position), r.Tag, r.Hold));
    }

    // What can be done today: nothing before it is open but steps that can be done today too, its material is there, its machine may be worked on, the weather allows it.
    private static List<PlanOperation> Ready(PlanInput input, LocalDate today, DayBoard board, HashSet<string> sites, IReadOnlySet<string> heldUp)
    {
        var packages = input.Packages.ToDictionary(p => p.Id, StringComparer.Ordinal);
        var shut = input.Machines.Where(m => (m.Windows ?? []).Any(w => w.When.Has(today))).Select(m => m.Id).ToHashSet(StringComparer.Ordinal);
        var perhaps = input.Operations.Where(o => o.Chance < 1).Select(o => o.Id).ToHashSet(StringComparer.Ordinal);
        var can = new Dictionary<string, PlanOperation>(StringComparer.Ordinal);
        var inOrder = input.Operations.ToList();
        for (var before = -1; before < can.Count;)
        {
            before = can.Count;
            foreach (var o in inOrder)
            {
                var k = packages[o.Package];
                var may = o.Elapsed.High <= 0 && o.Hours.Likely > 0 && o.Chance >= 1 && (o.OnDay is null || o.OnDay == today) && sites.Contains(o.Site) && o.Demands.Count == 0
                    && !heldUp.Contains(k.Id) && !shut.Contains(k.Machine) && (k.NotBefore is null || k.NotBefore <= today)
                    && (!o.Dry || board.Dry == true) && ((o.WarmerThan is null && o.ColderThan is null) || (board.Degrees is { } d && (o.WarmerThan is null || d >= o.WarmerThan) && (o.ColderThan is null || d <= o.ColderThan)));
                if (may && o.After.All(a => perhaps.Contains(a.Operation) || (can.ContainsKey(a.Operation) && (a.Lag?.High ?? 0) <= 0)))
                {
                    can.TryAdd(o.Id, o);
                }
            }
        }

        return [.. inOrder.Where(o => can.ContainsKey(o.Id))];
    }

    private static DayOperation ToDay(PlanOperation o, PlanInput input, ReadyPlan? plan, DayScarcity scarcity)
    {
        var k = input.Packages.First(p => p.Id == o.Package);
        var milestone = input.Milestones.FirstOrDefault(m => m.Packages.Contains(k.Id));
        var at = plan is null ? -1 : plan.Position(o.Id);
        var next = input.Operations.FirstOrDefault(x => x.Package == o.Package && x.After.Any(a => a.Operation == o.Id));
        var (skill, scarce) = scarcity.Of(o);
        return new DayOperation
        {
            Id = o.Id,
            Name = o.Name,
            Package = o.Package,
            Title = k.Title,
            Machine = k.Machine,
            Site = o.Site,
            Minutes = Math.Max(DayPlanner.Shortest, (int)Math.Ceiling(o.Hours.Likely * 60)),
            MinCrew = o.MinCrew,
            MaxCrew = o.MaxCrew,
            Skills = o.Skills,
            Things = o.Things,
            AdultsOnly = o.AdultsOnly,
            InOneGo = o.InOneGo,
            After = [.. o.After.Select(a => a.Operation)],
            NotBy = o.NotBy,
            ScarceSkill = skill,
            Scarce = scarce,
            Bars = scarcity.Bars(o),
            Critical = at < 0 ? 0 : plan!.Result.Forecast?.Operations[at].Critical ?? 0,
            Latest = milestone is null ? null : at < 0 ? milestone.On : plan!.Result.Schedule.Operations[at].Latest,
            Milestone = milestone?.Name ?? string.Empty,
            Next = next?.Name ?? string.Empty,
        };
    }

    // On which packages somebody was on each of their last days, counted back from the last.
    private static Dictionary<string, int> InARow(IEnumerable<(LocalDate On, string Package)> worked)
    {
        var days = worked.GroupBy(w => w.On, w => w.Package).OrderByDescending(g => g.Key).Select(g => g.ToHashSet(StringComparer.Ordinal)).ToList();
        return days.Count == 0 ? [] : days[0].ToDictionary(k => k, k => days.TakeWhile(d => d.Contains(k)).Count(), StringComparer.Ordinal);
    }
}
