using System.Text;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;

namespace OilTag.Web.Shared;

/// <summary>Sessions, milestones, windows and order-by days as iCalendar, behind a private link that each person makes and can make anew. No names of people are in it.</summary>
public static class CalendarFeed
{
    /// <summary>Weeks of sessions that are in it.</summary>
    public const int Weeks = 26;

    public static void Map(IEndpointRouteBuilder app) => app.MapGet("/calendar/{key}.ics", async (string key, OilTagDb db, PlanLoader plans, ShedClock clock, CancellationToken ct) =>
    {
        if (key.Length != 40 || !await db.People.AnyAsync(p => p.FeedKey == key, ct))
        {
            return Results.NotFound();
        }

        var weekly = await db.SessionPatterns.AsNoTracking().ToListAsync(ct);
        var today = clock.Today;
        var changes = await db.CalendarChanges.AsNoTracking().Where(c => !c.Cancelled && c.Until >= today).ToListAsync(ct);
        var milestones = await db.Milestones.AsNoTracking().Where(m => m.On >= today).OrderBy(m => m.On).ToListAsync(ct);
        var machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var sessions = Enumerable.Range(0, Weeks * 7).SelectMany(d => SessionCalendar.On(today.PlusDays(d), weekly, changes));
        var calendar = new Calendar { ProductId = "-//Oil Tag//Calendar//EN" };
        calendar.AddProperty("X-WR-CALNAME", "The shed");

        // The rules of the zone go with it: not every calendar knows the name.
        calendar.AddTimeZone(VTimeZone.FromDateTimeZone(clock.Zone.Id, today.PlusYears(-1).ToDateTimeUnspecified(), false));
        foreach (var s in sessions)
        {
            var why = changes.Find(c => c.From <= s.On && s.On <= c.Until && c.Opens is not null)?.Why;
            calendar.Events.Add(new CalendarEvent { Uid = $"session-{s.On:uuuu-MM-dd}-{s.From:HHmm}@oiltag", Summary = why is null ? "The shed is open" : $"The shed is open: {why}", DtStart = At(s.On, s.From, clock.Zone), DtEnd = At(s.On, s.Until, clock.Zone) });
        }

        foreach (var m in milestones)
        {
            calendar.Events.Add(AllDay($"milestone-{m.Id:N}", m.Name + (m.Fixed ? ", a date that cannot move" : string.Empty), m.On, m.On));
        }

        foreach (var m in machines)
        {
            foreach (var w in m.Windows.Where(w => w.Until >= today.ToDateOnly()))
            {
                calendar.Events.Add(AllDay($"window-{m.Letter}-{w.From:yyyyMMdd}", $"{m.Name} is whole: {w.Why}", LocalDate.FromDateOnly(w.From), LocalDate.FromDateOnly(w.Until)));
            }
        }

        if ((await plans.PresentAsync(ct)).Plan is { } plan)
        {
            var what = plan.Input.Demands.ToDictionary(d => d.Id, d => d.What, StringComparer.Ordinal);
            foreach (var o in plan.Result.OrderBy.Where(o => o.On is not null))
            {
                calendar.Events.Add(AllDay($"order-{o.Demand}", o.Overdue ? $"Order now: {what[o.Demand]}" : $"Last day to order: {what[o.Demand]}", o.Overdue ? today : o.On!.Value, o.Overdue ? today : o.On!.Value));
            }
        }

        return Results.Text(new CalendarSerializer().SerializeToString(calendar)!, "text/calendar", Encoding.UTF8);
    }).AllowAnonymous();

    private static CalDateTime At(LocalDate on, LocalTime at, DateTimeZone zone) => new(on.Year, on.Month, on.Day, at.Hour, at.Minute, 0, zone.Id);

    // The end of a day-long entry is the day after its last.
    private static CalendarEvent AllDay(string id, string words, LocalDate from, LocalDate until) =>
        new() { Uid = id + "@oiltag", Summary = words, DtStart = new CalDateTime(from.Year, from.Month, from.Day), DtEnd = new CalDateTime(until.PlusDays(1).Year, until.PlusDays(1).Month, until.PlusDays(1).Day) };
}
