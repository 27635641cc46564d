using Microsoft.AspNetCore.Mvc;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Today;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Data.Service;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>Who is here, who does what, what waits, and what could be done but not today.</summary>
public sealed class IndexModel(OilTagDb db, WorkshopLoader workshop, DayLoader days, ShedClock clock, Me me, DayWrites writes, ServiceWrites services) : FormPage
{
    /// <summary>One column of the board, minutes.</summary>
    public const int Column = 10;

    public DayFacts Day { get; private set; } = null!;

    public Workshop Shop { get; private set; } = null!;

    /// <summary>Service and rechecks that are due, the worst first.</summary>
    public ServiceFacts Service { get; private set; } = null!;

    [BindProperty]
    public Guid ServiceId { get; set; }

    [BindProperty]
    public Guid? ServiceSeen { get; set; }

    [BindProperty]
    public string? Found { get; set; }

    public ReadyPlan? Plan { get; private set; }

    /// <summary>Who was signed in or given something just now.</summary>
    [BindProperty(SupportsGet = true, Name = "p")]
    public Guid? Person { get; set; }

    /// <summary>The visit that was ended just now.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Gone { get; set; }

    [BindProperty]
    public string? Until { get; set; }

    /// <summary>Where the tablet stands: who is signed in on it works there.</summary>
    [BindProperty(SupportsGet = true, Name = "site")]
    public string? Site { get; set; }

    [BindProperty]
    public string? Degrees { get; set; }

    [BindProperty]
    public string? Dry { get; set; }

    [BindProperty]
    public bool LetGo { get; set; }

    [BindProperty]
    public int Seen { get; set; }

    /// <summary>First and last hour of the board.</summary>
    public (int From, int Until) Span { get; private set; }

    public IReadOnlyList<NotToday> NotToday { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        await LoadAsync(ct);
        Degrees = Day.Board.Degrees?.ToString(System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>Tells a page that is open elsewhere to load itself again when the board is another by now.</summary>
    public async Task<IActionResult> OnGetSeenAsync(string? token, CancellationToken ct)
    {
        var (day, _) = await days.LoadAsync(db, clock.Now, ct);
        if (day.Token != token)
        {
            Response.Headers["HX-Refresh"] = "true";
        }

        return new NoContentResult();
    }

    /// <summary>Rows with those who work together one under the other as far as that goes; whoever is reading comes first.</summary>
    public IReadOnlyList<Visit> Rows(Guid reader)
    {
        var waiting = Day.Here.OrderByDescending(v => v.PersonId == reader).ToList();
        var crews = Day.Jobs.Where(j => j.OperationId is not null).ToLookup(j => j.PersonId);
        var rows = new List<Visit>();
        while (waiting.Count > 0)
        {
            var next = rows.Count == 0 ? waiting[0] : waiting.MaxBy(v => crews[v.PersonId].Sum(j => crews[rows[^1].PersonId].Where(o => Together(j, o)).Sum(o => SessionCalendar.MinutesBetween(j.From > o.From ? j.From : o.From, j.Until < o.Until ? j.Until : o.Until))))!;
            waiting.Remove(next);
            rows.Add(next);
        }

        return rows;
    }

    /// <summary>True for two jobs at one step at the same time.</summary>
    public static bool Together(DayJob a, DayJob b)
    {
        ArgumentNullException.ThrowIfNull(a);
        ArgumentNullException.ThrowIfNull(b);
        return a.OperationId is not null && a.OperationId == b.OperationId && a.From < b.Until && b.From < a.Until;
    }

    public Task<IActionResult> OnPostSignInAsync(Guid who, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.SignInAsync(Key, me.Id, who, Until, Site, clock.Now, ct));

    public Task<IActionResult> OnPostServiceAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => services.DoneAsync(Key, me.Id, ServiceId, ServiceSeen, null, null, clock.Today, "/today#due", ct));

    public Task<IActionResult> OnPostCheckedAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => services.CheckedAsync(Key, me.Id, me.CanLead, ServiceId, false, Found, "/today#due", ct));

    public Task<IActionResult> OnPostFinishedAsync(Guid job, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.FinishedAsync(Key, me.Id, job, clock.Now, ct));

    public Task<IActionResult> OnPostAgainAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.AgainAsync(Key, me.Id, LetGo, Dry switch { "yes" => true, "no" => false, _ => null }, Degrees, Seen, clock.Now, ct));

    public Task<IActionResult> OnPostMoveAsync(Guid job, Guid to, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.MoveAsync(Key, me.Id, job, to, Seen, clock.Now, ct));

    public Task<IActionResult> OnPostSwapAsync(Guid job, Guid other, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.SwapAsync(Key, me.Id, job, other, Seen, clock.Now, ct));

    /// <summary>The column in which a time falls, from 1.</summary>
    public int ColumnOf(LocalTime time) => Math.Max(0, ((time.Hour - Span.From) * 60) + time.Minute) / Column + 1;

    /// <summary>When a step that is not done today comes in the plan, and who does it then.</summary>
    public (LocalDate On, string Who)? Later(string operation)
    {
        var at = Plan?.Position(operation) ?? -1;
        var stretch = at < 0 ? null : Plan!.Result.Schedule.Operations[at].Stretches.FirstOrDefault(s => s.On > Day.On);
        return stretch is null ? null : (stretch.On, Day.Team.FirstOrDefault(p => DayFacts.Id(p.Id) == stretch.People.FirstOrDefault())?.Name.Split(' ')[0] ?? string.Empty);
    }

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        (Day, Plan) = await days.LoadAsync(db, clock.Now, ct);
        Shop = await workshop.LoadAsync(clock.Today, ct: ct);
        var times = Day.Here.SelectMany(v => new[] { v.Arrived, v.Until }).Concat(Day.Jobs.Select(j => j.Until)).Append(Day.Hours.From).Append(Day.Hours.Until).ToList();
        Span = (times.Min().Hour, Math.Min(24, times.Max().Minute > 0 ? times.Max().Hour + 1 : times.Max().Hour));
        Service = await ServiceQuery.LoadAsync(db, null, clock.Today, clock.Zone, ct);
        NotToday = Day.Input.People.Count == 0 ? [] : DayWords.Left(Day.Input, Day.AsGiven);
        return true;
    }
}
