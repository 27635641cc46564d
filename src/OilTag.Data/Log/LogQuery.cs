using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Log;
using OilTag.Core.People;

namespace OilTag.Data.Log;

/// <summary>One line of the record with who did it.</summary>
public sealed record StoryLine(long Id, Instant At, string Name, string Sentence, int? TagNumber, int? PackageNumber, string? Before,
    string? After);

/// <summary>Reads the log.</summary>
public static class LogQuery
{
    /// <summary>How much of what was there before and after a page shows: a line that filled ten thousand cells has megabytes of it. The CSV has all.</summary>
    public const int Shown = 600;

    /// <summary>The life of one tag, from the first line to the last.</summary>
    public static async Task<IReadOnlyList<StoryLine>> OfTagAsync(OilTagDb db, Guid tagId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await Lines(db).Where(l => l.TagId == tagId).OrderBy(l => l.Id).Take(500).Select(l =>
            new StoryLine(l.Id, l.At, l.Name, l.Sentence, null, l.PackageNumber, l.Before, l.After)).ToListAsync(ct);
    }

    /// <summary>The steps of one package.</summary>
    public static async Task<IReadOnlyList<StoryLine>> OfPackageAsync(OilTagDb db, Guid packageId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await Lines(db).Where(l => l.PackageId == packageId).OrderByDescending(l => l.Id).Take(60).Select(l =>
            new StoryLine(l.Id, l.At, l.Name, l.Sentence, l.TagNumber, null, l.Before, l.After)).ToListAsync(ct);
    }

    /// <summary>A sheet of the log, newest first, before a line or from the top.</summary>
    /// <param name="all">False for a visitor, who does not read who is away and with whom somebody works, nor what changed about people.</param>
    public static async Task<IReadOnlyList<StoryLine>> SheetAsync(OilTagDb db, Guid? machineId, long? before, int most, bool all,
        CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return await Lines(db, all)
            .Where(l => (machineId == null || l.MachineId == machineId) && (before == null || l.Id < before))
            .OrderByDescending(l => l.Id).Take(most)
            .Select(l => new StoryLine(l.Id, l.At, l.Name, l.Sentence, l.TagNumber, l.PackageNumber, l.Before, l.After)).ToListAsync(ct);
    }

    /// <summary>The lines that somebody may read.</summary>
    /// <param name="all">False for a visitor.</param>
    public static IQueryable<LogEntry> Readable(OilTagDb db, bool all)
    {
        ArgumentNullException.ThrowIfNull(db);
        var lines = db.LogEntries.AsNoTracking();
        return all ? lines : PeopleLog.NotForVisitors.Aggregate(lines, (rest, beginning) =>
            rest.Where(l => !l.Sentence.StartsWith(beginning)));
    }

    private static IQueryable<Row> Lines(OilTagDb db, bool all = true) =>
        from l in Readable(db, all)
        join p in db.People on l.PersonId equals p.Id
        join t in db.Tags on l.TagId equals t.Id into ts
        from t in ts.DefaultIfEmpty()
        join k in db.Packages on l.PackageId equals k.Id into ks
        from k in ks.DefaultIfEmpty()
        select new Row
        {
            Id = l.Id,
            At = l.At,
            Name = p.Name,
            Sentence = l.Sentence,
            MachineId = l.MachineId,
            TagId = l.TagId,
            PackageId = l.PackageId,
            TagNumber = (int?)t.Number,
            PackageNumber = (int?)k.Number,
            Before = all || l.MachineId != null
            ? OilTagDb.Beginning(l.Before, Shown) : null,
            After = all || l.MachineId != null ? OilTagDb.Beginning(l.After, Shown) : null
        };

    private sealed class Row
    {
        public long Id { get; init; }

        public Instant At { get; init; }

        public required string Name { get; init; }

        public required string Sentence { get; init; }

        public Guid? MachineId { get; init; }

        public Guid? TagId { get; init; }

        public Guid? PackageId { get; init; }

        public int? TagNumber { get; init; }

        public int? PackageNumber { get; init; }

        public string? Before { get; init; }

        public string? After { get; init; }
    }
}
