using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using OilTag.Core.People;
using OilTag.Core.Today;
using OilTag.Data;
using OilTag.Data.People;

namespace OilTag.Web.Shared;

/// <summary>What is kept about one person by name, as a file for them alone.</summary>
public sealed record OwnFile(string Name, string Skills, bool Minor, bool NeverAlone, IReadOnlyList<OwnSkill> MayDo, IReadOnlyList<OwnAway> Away, IReadOnlyList<OwnVisit> Visits, IReadOnlyList<HoursLine> Hours, IReadOnlyList<OwnLine> Log);

/// <summary>A skill or authorisation.</summary>
public sealed record OwnSkill(string Skill, bool Learning, LocalDate? Until, Instant GrantedAt, Instant? EndedAt);

/// <summary>Days away.</summary>
public sealed record OwnAway(LocalDate From, LocalDate Until, bool Cancelled);

/// <summary>A line of the sign-in book.</summary>
public sealed record OwnVisit(LocalDate On, LocalTime Arrived, LocalTime Until, LocalTime? Left);

/// <summary>A line that they wrote in the log.</summary>
public sealed record OwnLine(Instant At, string Sentence);

/// <summary>Serves it.</summary>
public static class OwnData
{
    private static readonly JsonSerializerOptions Json = new JsonSerializerOptions(JsonSerializerDefaults.Web) { WriteIndented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping }.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    public static void Map(IEndpointRouteBuilder app) => app.MapGet("/me/data.json", async (OilTagDb db, Me me, ShedClock clock, CancellationToken ct) =>
    {
        var id = me.Id;
        var p = await db.People.AsNoTracking().SingleAsync(x => x.Id == id, ct);
        var file = new OwnFile(
            p.Name,
            p.Skills,
            p.Minor,
            p.NeverAlone,
            await db.Authorisations.Where(a => a.PersonId == id).OrderBy(a => a.GrantedAt).Select(a => new OwnSkill(a.Skill, a.Learning, a.Until, a.GrantedAt, a.EndedAt)).ToListAsync(ct),
            await db.Absences.Where(a => a.PersonId == id).OrderBy(a => a.From).Select(a => new OwnAway(a.From, a.Until, a.Cancelled)).ToListAsync(ct),
            await db.Visits.Where(v => v.PersonId == id).OrderBy(v => v.On).Select(v => new OwnVisit(v.On, v.Arrived, v.Until, v.Left)).ToListAsync(ct),
            await InKindQuery.HoursAsync(db, clock.Today.PlusYears(-200), clock.Today, id, ct),
            await db.LogEntries.Where(l => l.PersonId == id).OrderBy(l => l.Id).Select(l => new OwnLine(l.At, l.Sentence)).ToListAsync(ct));
        return Results.File(Encoding.UTF8.GetBytes(JsonSerializer.Serialize(file, Json)), "application/json", "my-data.json");
    });
}
