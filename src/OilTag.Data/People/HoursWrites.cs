using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.People;

/// <summary>Hours of people on packages.</summary>
public sealed class HoursWrites(OilTagDb db, Recorder recorder)
{
    public Task<Recorded> LogAsync(Guid key, Guid personId, int? packageNumber, string? hours, string? from, LocalDate? on, string? note, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        // Two entries of one person wait for each other, so that both cannot pass the overlap check.
        await db.Database.ExecuteSqlAsync($"select 1 from people where id = {personId} for update", ct);
        var booked = on is { } day
            ? await (from h in db.Hours join k in db.Packages on h.PackageId equals k.Id where h.PersonId == personId && h.On == day select new BookedHours(h.From, h.Minutes, k.Title)).ToListAsync(ct)
            : [];
        var check = HoursRule.Check(hours, from, on, today, booked, note);
        var problems = check.Problems.ToList();
        var package = packageNumber is { } n ? await db.Packages.AsNoTracking().SingleOrDefaultAsync(p => p.Number == n, ct) : null;
        if (package is null)
        {
            problems.Add(new OilTag.Core.Problem("Package", "Choose the job."));
        }
        else if (package.ClosedAt is not null)
        {
            problems.Add(new OilTag.Core.Problem("Package", $"Package {package.Number} is closed. Choose an open one."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Hours.Add(new HoursEntry { PackageId = package!.Id, PersonId = personId, On = on!.Value, From = check.From, Minutes = check.Minutes, Note = (note ?? string.Empty).Trim(), RecordedById = personId, At = recorder.Now });
        recorder.Say(WorkLog.Worked(check.Minutes, package.Number, package.Title), package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/today/hours?logged={package.Number}&minutes={check.Minutes}");
    }, ct);
}
