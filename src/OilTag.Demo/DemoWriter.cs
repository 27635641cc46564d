using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Core.Today;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Data.Today;

namespace OilTag.Demo;

/// <summary>Writes the story into an empty database, and opens the day.</summary>
public static class DemoWriter
{
    // Who has come today, and until when at the latest.
    private static readonly (string Name, int Until)[] Come = [("Tobit Crane", 16), ("Dilys Marrack", 16), ("Nell Garrow", 16),
        ("Ansel Rudge", 13), ("Wilf Stannard", 12), ("Maud Kestle", 15)];

    /// <summary>Writes the story when the database has no machine; does nothing otherwise.</summary>
    /// <param name="db">The database, as its owner.</param>
    /// <param name="record">The story as of today.</param>
    /// <param name="now">Today and now in the shed.</param>
    /// <param name="zone">The zone of the shed.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task<bool> WriteAsync(OilTagDb db, DemoRecord record, LocalDateTime now, DateTimeZone zone,
        CancellationToken ct = default)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(record);
        if (await db.Machines.AnyAsync(ct))
        {
            return false;
        }

        await using var transaction = await db.Database.BeginTransactionAsync(ct);
        await TableCopy.WriteAsync(db, [.. record.Rows, .. record.Log], ct);
        var from = Open(db, record, now);
        await db.SaveChangesAsync(ct);
        await HandOutAsync(db, now.Date.At(from), zone, ct);
        await db.SaveChangesAsync(ct);
        await db.Database.ExecuteSqlRawAsync(
            """
            select setval('tag_no', (select max(number) from (select number from tags union all select number from tray_items) n));
            select setval('finding_no', (select max(number) from findings));
            select setval('package_no', (select max(number) from packages));
            select setval('card_no', (select max(number) from route_cards));
            select setval('sheet_no', (select max(number) from (select number from survey_sheets union all select number from survey_matrices union all select number from rigging_checks) n));
            select setval('lift_no', (select max(number) from lifts));
            select setval('question_no', (select max(number) from questions));
            select setval('diagnosis_no', (select max(number) from diagnoses));
            select setval('store_no', (select max(number) from store_places));
            select setval('point_no', (select max(number) from check_points));
            """, ct);
        await transaction.CommitAsync(ct);

        // The planner of the database knows the tables from the first page on, not from some minutes later.
        await db.Database.ExecuteSqlRawAsync("analyze", ct);
        return true;
    }

    // There is always a shed at work: on a day without a session, and at an hour outside one, people were called.
    private static LocalTime Open(OilTagDb db, DemoRecord record, LocalDateTime now)
    {
        var session = record.Of<SessionPattern>().SingleOrDefault(s => s.Day == now.DayOfWeek);
        var (from, until) = session is null ? (new LocalTime(10, 0), new LocalTime(16, 0)) : (session.From, session.Until);
        if (session is null || now.TimeOfDay < from || now.TimeOfDay >= until)
        {
            from = now.TimeOfDay < from ? new LocalTime(now.Hour, 0) : from;
            until = now.TimeOfDay >= until ? LateEnd(now.Hour) : until;
            db.CalendarChanges.Add(new CalendarChange
            {
                From = now.Date,
                Until = now.Date,
                Opens = from,
                Closes = until,
                Why = session is null ? "Called work day" : "Longer than usual",
            });
        }

        var people = record.Of<Person>().ToDictionary(p => p.Name, p => p.Id);
        foreach (var (name, leaves) in Come)
        {
            var planned = new LocalTime(leaves, 0);
            db.Visits.Add(new Visit
            {
                PersonId = people[name],
                On = now.Date,
                Arrived = from,
                Until = planned > from && planned > now.TimeOfDay && planned < until ? planned : until,
                RecordedById = people["Una Thorsby"],
            });
        }

        return from;
    }

    // Some two hours more, but no longer than till midnight.
    private static LocalTime LateEnd(int hour) => hour < 21 ? new LocalTime(hour + 3, 0) : new LocalTime(23, 59);

    // The day's work as it is handed out when the shed opens, with a plan worked out on the spot.
    private static async Task HandOutAsync(OilTagDb db, LocalDateTime at, DateTimeZone zone, CancellationToken ct)
    {
        var planner = new Planner(await PlanQuery.LoadAsync(db, at.Date, zone, ct));
        var forecast = planner.Stopped ? null : PlanSimulation.Run(planner, 200, ct: ct);
        var plan = new ReadyPlan(Guid.Empty, 0, default, 0, planner.Input,
            new PlanResult(planner.Schedule(forecast), forecast, []));
        await DayWork.PlaceAsync(db, plan, at, zone, afresh: true, ct);
    }
}
