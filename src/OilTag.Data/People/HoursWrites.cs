using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.People;

/// <summary>Hours of people on packages.</summary>
public sealed class HoursWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>What a person has booked on a day.</summary>
    public static Task<List<BookedHours>> BookedAsync(OilTagDb db, Guid personId, LocalDate day, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return (
            from h in db.Hours
            join k in db.Packages on h.PackageId equals (Guid?)k.Id into ks
            from k in ks.DefaultIfEmpty()
            where h.PersonId == personId && h.On == day
            select new BookedHours(h.From, h.Minutes, k == null ? h.Note : k.Title)).ToListAsync(ct);
    }

    /// <summary>Books hours of a person on a package, or on a machine without one.</summary>
    /// <param name="job">Number of the package, or the letter of the machine.</param>
    public Task<Recorded> LogAsync(Guid key, Guid personId, string? job, string? hours, string? from, LocalDate? on, string? note, (LocalDate Today, LocalTime? Time) now, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        // Two entries of one person wait for each other, so that both cannot pass the overlap check.
        await db.Database.ExecuteSqlAsync($"select 1 from people where id = {personId} for update", ct);
        var check = HoursRule.Check(hours, from, on, now, on is { } day ? await BookedAsync(db, personId, day, ct) : [], note);
        var problems = check.Problems.ToList();
        var words = (note ?? string.Empty).Trim();
        var package = int.TryParse(job, out var n) ? await db.Packages.AsNoTracking().SingleOrDefaultAsync(p => p.Number == n, ct) : null;
        var machine = package is null && job is { Length: 1 } ? await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == job, ct) : null;
        if (package is null && machine is null)
        {
            problems.Add(new OilTag.Core.Problem("Package", "Choose the job."));
        }
        else if (package is { ClosedAt: not null })
        {
            problems.Add(new OilTag.Core.Problem("Package", $"Package {package.Number} is closed. Choose an open one."));
        }
        else if (package is null && words.Length == 0)
        {
            problems.Add(new OilTag.Core.Problem("Note", "Say what you did: there is no package that says it."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Hours.Add(new HoursEntry { MachineId = package?.MachineId ?? machine!.Id, PackageId = package?.Id, PersonId = personId, On = on!.Value, From = check.From, Minutes = check.Minutes, Note = words, RecordedById = personId, At = recorder.Now });
        if (package is not null)
        {
            recorder.Say(WorkLog.Worked(check.Minutes, package.Number, package.Title), package.MachineId, package.PlaceId, package.TagId, package.Id);
        }
        else
        {
            recorder.Say($"worked {HoursRule.Words(check.Minutes)} without a package: {words}.", machine!.Id);
        }

        return Recorded.To($"/today/hours?logged={job}&minutes={check.Minutes}");
    }, ct);
}
