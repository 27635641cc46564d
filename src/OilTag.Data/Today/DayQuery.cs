using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data.People;
using OilTag.Data.Planning;

namespace OilTag.Data.Today;

/// <summary>Somebody of the team, with the chance that they come on this day of the week.</summary>
public sealed record TeamMember(Guid Id, string Name, string Words, bool Minor, double Chance);

/// <summary>A step of the day with what its strip and its slip show.</summary>
public sealed record DayStep(Guid Id, string Name, int Order, int Package, string Title, string Letter, string Tin, string Place, int? Tag, bool Hold);

/// <summary>The day as it stands.</summary>
public sealed record DayFacts
{
    public required LocalDate On { get; init; }

    public required LocalTime Now { get; init; }

    public required OpenHours Hours { get; init; }

    /// <summary>When the shed opens next after today; null when it never does.</summary>
    public LocalDate? NextSession { get; init; }

    public required IReadOnlyList<TeamMember> Team { get; init; }

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
/// <param name="Inspected">Whose own work each hold would inspect.</param>
/// <param name="Steps">Open steps with their words.</param>
internal sealed record DayBasis(PlanInput Input, IReadOnlyDictionary<Guid, string> Words, IReadOnlyDictionary<Guid, Dictionary<string, int>> InARow, ILookup<string, string> Inspected, IReadOnlyDictionary<Guid, DayStep> Steps);

/// <summary>Loads the day for pages that only read. What only changes when something is recorded is kept in memory until then.</summary>
public sealed class DayLoader(PlanLoader plans)
{
    private volatile Kept? last;

    public async Task<(DayFacts Day, ReadyPlan? Plan)> LoadAsync(OilTagDb db, LocalDateTime at, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var stamp = await db.Database.SqlQuery<long>($"select version as \"Value\" from record_stamp").SingleAsync(ct);
        if (last is not { } kept || kept.Stamp != stamp || kept.On != at.Date)
        {
            last = kept = new Kept(stamp, at.Date, await DayQuery.BasisAsync(db, at.Date, ct));
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
    public static async Task<DayFacts> LoadAsync(OilTagDb db, ReadyPlan? plan, LocalDateTime at, CancellationToken ct) => await LoadAsync(db, await BasisAsync(db, at.Date, ct), plan, at, ct);

    /// <summary>The day on a basis that was loaded before.</summary>
    internal static async Task<DayFacts> LoadAsync(OilTagDb db, DayBasis basis, ReadyPlan? plan, LocalDateTime at, CancellationToken ct)
    {
        var today = at.Date;
        var now = new LocalTime(at.Hour, at.Minute);
        var input = basis.Input;
        var visits = await db.Visits.AsNoTracking().Where(v => v.On == today || (v.Left == null && v.On < today)).OrderBy(v => v.On).ThenBy(v => v.Arrived).ThenBy(v => v.Id).ToListAsync(ct);
        var jobs = await db.DayJobs.AsNoTracking().Where(j => j.On == today).OrderBy(j => j.From).ThenBy(j => j.Id).ToListAsync(ct);
        var board = await db.DayBoards.AsNoTracking().SingleOrDefaultAsync(b => b.On == today, ct) ?? new DayBoard { On = today };
        var wishes = await (from w in db.Wishes join m in db.Machines on w.MachineId equals m.Id into ms from m in ms.DefaultIfEmpty() where w.EndedAt == null select new { w.PersonId, Word = m == null ? w.Skill : m.Letter }).ToListAsync(ct);
        var sessions = input.Sessions.Where(s => s.On == today).ToList();
        var hours = sessions.Find(s => s.Until > now) is { } open ? new OpenHours(open.From, open.Until, true) : sessions.Count > 0 ? new OpenHours(sessions[^1].From, sessions[^1].Until, true) : OpenHours.Other;
        var ready = Ready(input, today, board);

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
            NextSession = input.Sessions.FirstOrDefault(s => s.On > today)?.On,
            Team = [.. input.People.Select(p => new TeamMember(Guid.ParseExact(p.Id, "N"), p.Name, basis.Words.GetValueOrDefault(Guid.ParseExact(p.Id, "N"), string.Empty), p.Minor, p.Attendance.FirstOrDefault(a => a.Day == today.DayOfWeek)?.Chance ?? 0))],
            Visits = visits,
            Jobs = jobs,
            Board = board,
            Steps = steps,
            Input = new DayInput
            {
                On = today,
                Now = now < hours.From ? hours.From : now,
                Break = DayBreak.Of(hours.From, hours.Until),
                People = [.. visits.Where(v => v.On == today && v.Left is null && people.ContainsKey(PlanQuery.Id(v.PersonId))).Select(v =>
                {
                    var p = people[PlanQuery.Id(v.PersonId)];
                    return new DayPerson
                    {
                        Id = p.Id,
                        Name = p.Name,
                        From = v.Arrived,
                        Until = v.Until,
                        Skills = [.. p.Skills.Where(s => s.Until is null || s.Until >= today).Select(s => s.Skill)],
                        Learns = p.Learns,
                        Minor = p.Minor,
                        NeverAlone = p.NeverAlone,
                        Likes = [.. wishes.Where(w => w.PersonId == v.PersonId).Select(w => w.Word)],
                        InARow = basis.InARow.GetValueOrDefault(v.PersonId) ?? [],
                    };
                })],
                Operations = [.. ready.Select(o => ToDay(o, input, plan, basis.Inspected, today))],
                Things = input.Things.ToDictionary(t => t.Id, t => Math.Max(0, t.Count - (t.Out ?? []).Where(x => x.When.Has(today)).Sum(x => x.Count)), StringComparer.Ordinal),
            },
        };
    }

    /// <summary>What only changes when something is recorded.</summary>
    internal static async Task<DayBasis> BasisAsync(OilTagDb db, LocalDate today, CancellationToken ct)
    {
        var input = await PlanQuery.LoadAsync(db, today, ct);
        var words = await PeopleQuery.Team(db).Select(p => new { p.Id, p.Skills }).ToDictionaryAsync(p => p.Id, p => p.Skills, ct);
        var since = today.PlusDays(-RecentDays);
        var worked = await (from h in db.Hours join k in db.Packages on h.PackageId equals k.Id where h.On >= since && h.On < today select new { h.PersonId, h.On, k.Number }).Distinct().ToListAsync(ct);
        var holds = from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.Hold && o.DoneAt == null && k.ClosedAt == null select new { o.Id, o.PackageId };
        var did = await (from o in holds join h in db.Hours on o.PackageId equals h.PackageId select new { o.Id, By = h.PersonId })
            .Union(from o in holds join x in db.Operations on o.PackageId equals x.PackageId where !x.Hold && x.DoneById != null select new { o.Id, By = x.DoneById!.Value })
            .ToListAsync(ct);
        return new DayBasis(
            input,
            words,
            worked.GroupBy(w => w.PersonId).ToDictionary(g => g.Key, g => InARow(g.Select(w => (w.On, Package: w.Number.ToString(System.Globalization.CultureInfo.InvariantCulture))))),
            did.ToLookup(x => PlanQuery.Id(x.Id), x => PlanQuery.Id(x.By), StringComparer.Ordinal),
            await StepsAsync(db, from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.DoneAt == null && k.ClosedAt == null select o, ct));
    }

    /// <summary>Somebody of the team who need not be there, as the day's work sees them.</summary>
    public static async Task<DayPerson> PersonAsync(OilTagDb db, DayFacts day, Guid id, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(day);
        if (day.Input.People.FirstOrDefault(p => p.Id == DayFacts.Id(id)) is { } here)
        {
            return here;
        }

        var person = await db.People.AsNoTracking().SingleAsync(p => p.Id == id, ct);
        var skills = await db.Authorisations.AsNoTracking().Where(a => a.PersonId == id && a.EndedAt == null && (a.Until == null || a.Until >= day.On)).ToListAsync(ct);
        return new DayPerson
        {
            Id = DayFacts.Id(id),
            Name = person.Name,
            From = day.Now,
            Until = VisitRule.UsualUntil(day.Now, day.Hours),
            Skills = [.. skills.Where(s => !s.Learning).Select(s => s.Skill)],
            Learns = [.. skills.Where(s => s.Learning).Select(s => s.Skill)],
            Minor = person.Minor,
            NeverAlone = person.NeverAlone,
        };
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
    private static List<PlanOperation> Ready(PlanInput input, LocalDate today, DayBoard board)
    {
        var packages = input.Packages.ToDictionary(p => p.Id, StringComparer.Ordinal);
        var shut = input.Machines.Where(m => (m.Windows ?? []).Any(w => w.When.Has(today))).Select(m => m.Id).ToHashSet(StringComparer.Ordinal);
        var can = new Dictionary<string, PlanOperation>(StringComparer.Ordinal);
        var inOrder = input.Operations.ToList();
        for (var before = -1; before < can.Count;)
        {
            before = can.Count;
            foreach (var o in inOrder)
            {
                var k = packages[o.Package];
                var may = o.Elapsed.High <= 0 && o.Hours.Likely > 0 && o.Chance >= 1 && (o.OnDay is null || o.OnDay == today) && o.Site.Length == 0 && o.Demands.Count == 0
                    && !shut.Contains(k.Machine) && (k.NotBefore is null || k.NotBefore <= today)
                    && (!o.Dry || board.Dry == true) && ((o.WarmerThan is null && o.ColderThan is null) || (board.Degrees is { } d && (o.WarmerThan is null || d >= o.WarmerThan) && (o.ColderThan is null || d <= o.ColderThan)));
                if (may && o.After.All(a => can.ContainsKey(a.Operation) && (a.Lag?.High ?? 0) <= 0))
                {
                    can.TryAdd(o.Id, o);
                }
            }
        }

        return [.. inOrder.Where(o => can.ContainsKey(o.Id))];
    }

    private static DayOperation ToDay(PlanOperation o, PlanInput input, ReadyPlan? plan, ILookup<string, string> inspected, LocalDate today)
    {
        var k = input.Packages.First(p => p.Id == o.Package);
        var milestone = input.Milestones.FirstOrDefault(m => m.Packages.Contains(k.Id));
        var at = plan is null ? -1 : plan.Position(o.Id);
        var next = input.Operations.FirstOrDefault(x => x.Package == o.Package && x.After.Any(a => a.Operation == o.Id));
        return new DayOperation
        {
            Id = o.Id,
            Name = o.Name,
            Package = o.Package,
            Title = k.Title,
            Machine = k.Machine,
            Minutes = Math.Max(DayPlanner.Shortest, (int)Math.Ceiling(o.Hours.Likely * 60)),
            MinCrew = o.MinCrew,
            MaxCrew = o.MaxCrew,
            Skills = o.Skills,
            Things = o.Things,
            AdultsOnly = o.AdultsOnly,
            InOneGo = o.InOneGo,
            After = [.. o.After.Select(a => a.Operation)],
            NotBy = [.. inspected[o.Id]],
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
