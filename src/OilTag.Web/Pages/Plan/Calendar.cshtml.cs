using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>A day of the drawn calendar.</summary>
/// <param name="On">The day.</param>
/// <param name="Sessions">Its sessions.</param>
/// <param name="Why">Why it is closed or special; empty for a usual day.</param>
/// <param name="Closed">True when a session of the week does not take place.</param>
public sealed record CalendarDay(LocalDate On, IReadOnlyList<PlanSession> Sessions, string Why, bool Closed);

/// <summary>When and where people come: sessions of the week, closures, special sessions, sites, and what the group has agreed on.</summary>
public sealed class CalendarModel(OilTagDb db, Me me, ShedClock clock, ShedWrites writes) : FormPage
{
    /// <summary>Months that are drawn at once.</summary>
    public const int Months = 3;

    public IReadOnlyList<SessionPattern> Sessions { get; private set; } = [];

    public IReadOnlyList<CalendarChange> Changes { get; private set; } = [];

    public IReadOnlyList<Site> Sites { get; private set; } = [];

    /// <summary>Sites with a name; none when everything is done in the shed.</summary>
    public IReadOnlyList<SelectListItem> Where { get; private set; } = [];

    public LocalDate First { get; private set; }

    /// <summary>First day of the months that are drawn.</summary>
    [BindProperty(SupportsGet = true)]
    public DateOnly? From { get; set; }

    [BindProperty]
    public IsoDayOfWeek SessionDay { get; set; } = IsoDayOfWeek.Saturday;

    [BindProperty]
    public TimeOnly? SessionFrom { get; set; }

    [BindProperty]
    public TimeOnly? SessionUntil { get; set; }

    [BindProperty]
    public string? SessionSite { get; set; }

    [BindProperty]
    public string? Site { get; set; }

    [BindProperty]
    public bool Open { get; set; }

    [BindProperty]
    public DateOnly? ChangeFrom { get; set; }

    [BindProperty]
    public DateOnly? ChangeUntil { get; set; }

    [BindProperty]
    public TimeOnly? Opens { get; set; }

    [BindProperty]
    public TimeOnly? Closes { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    [BindProperty]
    public string? SiteName { get; set; }

    [BindProperty]
    public string? Weather { get; set; }

    [BindProperty]
    public string? OpenLimit { get; set; }

    [BindProperty]
    public TimeOnly? BreakAt { get; set; }

    [BindProperty]
    public string? BreakMinutes { get; set; }

    [BindProperty]
    public string? FloorPounds { get; set; }

    public async Task OnGetAsync(CancellationToken ct)
    {
        await LoadAsync(ct);
        var agreed = await db.Settings.AsNoTracking().SingleOrDefaultAsync(ct) ?? new ShedSettings();
        OpenLimit = agreed.OpenLimit?.ToString(System.Globalization.CultureInfo.InvariantCulture);
        BreakAt = agreed.BreakAt?.ToTimeOnly();
        BreakMinutes = agreed.BreakMinutes.ToString(System.Globalization.CultureInfo.InvariantCulture);
        FloorPounds = agreed.FloorPence > 0 ? (agreed.FloorPence / 100m).ToString("0.00", System.Globalization.CultureInfo.InvariantCulture) : null;
    }

    public Task<IActionResult> OnPostSessionAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.AddSessionAsync(Key, me.Id, SessionDay, ToTime(SessionFrom), ToTime(SessionUntil), SessionSite, ct));

    public Task<IActionResult> OnPostEndAsync(Guid session, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.EndSessionAsync(Key, me.Id, session, ct));

    public Task<IActionResult> OnPostChangeAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.ChangeAsync(Key, me.Id, ToDate(ChangeFrom), ToDate(ChangeUntil), Open, ToTime(Opens), ToTime(Closes), Why, Site, clock.Today, ct));

    public Task<IActionResult> OnPostUndoAsync(Guid change, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.UndoChangeAsync(Key, me.Id, change, ct));

    public Task<IActionResult> OnPostSiteAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.SetSiteAsync(Key, me.Id, SiteName, Weather, ct));

    public Task<IActionResult> OnPostAgreeAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.AgreeAsync(Key, me.Id, OpenLimit, ToTime(BreakAt), BreakMinutes, FloorPounds, ct));

    /// <summary>The weeks of a month, Monday first; null for days of the months beside it.</summary>
    public IReadOnlyList<IReadOnlyList<CalendarDay?>> Weeks(LocalDate month)
    {
        var weeks = new List<IReadOnlyList<CalendarDay?>>();
        for (var monday = month.PlusDays(1 - (int)month.DayOfWeek); monday < month.PlusMonths(1); monday = monday.PlusDays(7))
        {
            weeks.Add([.. Enumerable.Range(0, 7).Select(d => monday.PlusDays(d)).Select(d => d.Month == month.Month && d.Year == month.Year ? Day(d) : null)]);
        }

        return weeks;
    }

    private CalendarDay Day(LocalDate day)
    {
        var sessions = SessionCalendar.On(day, Sessions, Changes);
        var own = Changes.Where(c => c.From <= day && day <= c.Until).ToList();
        return new CalendarDay(day, sessions, own.Count > 0 ? own[0].Why : string.Empty, own.Exists(c => c.Opens is null) && Sessions.Any(s => s.Day == day.DayOfWeek && sessions.All(x => x.Site != s.Site)));
    }

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var today = clock.Today;
        var asked = From is { } f ? LocalDate.FromDateOnly(f) : today;
        asked = asked < today.PlusYears(-1) || asked > today.PlusYears(4) ? today : asked;
        First = new LocalDate(asked.Year, asked.Month, 1);
        Sessions = [.. (await db.SessionPatterns.AsNoTracking().ToListAsync(ct)).OrderBy(s => s.Site, StringComparer.Ordinal).ThenBy(s => s.Day).ThenBy(s => s.From)];
        Changes = await db.CalendarChanges.AsNoTracking().Where(c => !c.Cancelled && c.Until >= First).OrderBy(c => c.From).ToListAsync(ct);
        Sites = await db.Sites.AsNoTracking().OrderBy(s => s.Name).ToListAsync(ct);
        Where = Sites.Any(s => s.Name.Length > 0) ? [new SelectListItem("The shed", string.Empty), .. Sites.Where(s => s.Name.Length > 0).Select(s => new SelectListItem(s.Name, s.Name))] : [];
        return true;
    }
}
