using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>Check points and their readings.</summary>
public sealed class PointWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Sets up a check point at a place.</summary>
    public Task<Recorded> AddAsync(Guid key, Guid personId, Guid placeId, PointPlan plan, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (point, problems) = PointRules.Check(plan);
        if (point is not { } p)
        {
            return Recorded.Refused(problems);
        }

        var place = await db.Places.AsNoTracking().SingleAsync(x => x.Id == placeId, ct);
        var made = new CheckPoint { MachineId = place.MachineId, PlaceId = placeId, Title = p.Title, How = p.How, Limits = p.Limits, Repeatability = p.Repeatability, ById = personId, At = recorder.Now };
        db.Points.Add(made);
        await db.SaveChangesAsync(ct);
        recorder.Say(SurveyLog.SetUp(made, place.FullName), place.MachineId, placeId);
        return Recorded.To(Page(made.Number));
    }, ct);

    /// <summary>Changes title, way and limits of a check point.</summary>
    /// <param name="seen">Its version that the form showed.</param>
    public Task<Recorded> EditAsync(Guid key, Guid personId, int number, PointPlan plan, uint seen, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (point, found) = PointRules.Check(plan);
        var problems = found.ToList();
        var old = await db.Points.SingleAsync(x => x.Number == number, ct);
        if (point is { } fits && fits.Limits.Unit.Quantity != old.Limits.Unit.Quantity)
        {
            problems.Add(new Problem("Unit", "It was measured in another quantity before. Set up a check point of its own for that."));
        }

        if (point is not { } p || problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(old).Property(x => x.Version).OriginalValue = seen;
        object Now() => new { old.Title, old.How, Nominal = old.Limits.Nominal?.Text, Limits = old.Limits.Words, old.Limits.For };
        var before = Now();
        (old.Title, old.How, old.Limits, old.Repeatability) = (p.Title, p.How, p.Limits, p.Repeatability);
        db.Entry(old).Property(x => x.Title).IsModified = true;
        recorder.Say($"changed check point C{number}.", old.MachineId, old.PlaceId, before: before, after: Now());
        return Recorded.To(Page(number));
    }, ct);

    /// <summary>Records one reading, or a series over minutes.</summary>
    public Task<Recorded> ReadAsync(Guid key, Guid personId, int number, string? text, LocalDate? on, Evidence evidence, string? note, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var point = await db.Points.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        var (readings, found) = PointRules.Read(point.Limits, text);
        var problems = found.ToList();
        var words = TextRules.Optional(problems, "Note", note, 200);
        if (on is null || on > today || on < new LocalDate(1900, 1, 1))
        {
            problems.Add(new Problem("On", on > today ? "That day is not there yet." : "Say on which day it was measured."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        Guid? run = readings.Count > 1 ? Guid.CreateVersion7() : null;
        db.PointReadings.AddRange(readings.Select(r => new PointReading { PointId = point.Id, On = on!.Value, Minutes = r.Minutes, RunId = run, Value = r.Value, ValueTo = r.To, Evidence = FindingRule.Known(true, evidence), Note = words, ById = personId, At = recorder.Now }));
        recorder.Say(SurveyLog.Read(number, point.Title, [.. readings.Select(r => r.Value.Text + (r.To is { } to ? " to " + to.Text : string.Empty))], evidence), point.MachineId, point.PlaceId);
        return Recorded.To(Page(number));
    }, ct);

    private static string Page(int number) => "/c/" + number.ToString(CultureInfo.InvariantCulture);
}
