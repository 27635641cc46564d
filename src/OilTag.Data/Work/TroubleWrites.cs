using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Work;

/// <summary>An attempt as it is typed.</summary>
/// <param name="What">On what.</param>
/// <param name="Trouble">What is wrong with it.</param>
/// <param name="Way">What was tried.</param>
/// <param name="Medium">With what.</param>
/// <param name="Hours">Hours.</param>
/// <param name="End">What came of it.</param>
/// <param name="Note">What is worth knowing.</param>
public sealed record AttemptEntry(string? What, Trouble Trouble, AttemptWay? Way, string? Medium, string? Hours, AttemptEnd? End,
    string? Note);

/// <summary>What is locked, what was tried on stuck parts, and what we damaged ourselves, at a package.</summary>
public sealed class TroubleWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Writes down something that must be locked before the package closes.</summary>
    public Task<Recorded> LockAsync(Guid key, Guid personId, int number, string? what, LockWay way, string? count, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await PackageWrites.LockAsync(db, number, ct);
        var (words, n, problems) = LockRule.Check(what, count);
        if (!Enum.IsDefined(way))
        {
            problems = [.. problems, new Problem("LockWay", "Choose how it is locked.")];
        }

        if (package.ClosedAt is not null)
        {
            problems = [.. problems, new Problem(string.Empty, "The package is closed.")];
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Lockings.Add(new Locking { PackageId = package.Id, What = words, Way = way, Count = n, ById = personId, At = recorder.Now });
        recorder.Say($"wants {n} × {words} locked by {LockRule.Words(way)} before package {number} closes.", package.MachineId,
            package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}/care#locked");
    }, ct);

    /// <summary>Says how many are locked by now.</summary>
    public Task<Recorded> LockedAsync(Guid key, Guid personId, int number, Guid id, string? count, CancellationToken ct) =>
        ChangeLockAsync(key, personId, number, id, (package, locking) =>
    {
        var (n, problems) = LockRule.Locked(locking, count);
        if (problems.Count > 0)
        {
            return problems;
        }

        (locking.Locked, locking.LockedById, locking.LockedAt) = (n, personId, recorder.Now);
        recorder.Say($"locked {n} of {locking.Count} {locking.What} by {LockRule.Words(locking.Way)}.", package.MachineId, package.PlaceId,
            package.TagId, package.Id);
        return [];
    }, ct);

    /// <summary>A lead leaves the rest unlocked, with a reason.</summary>
    public Task<Recorded> UnlockedAsync(Guid key, Guid personId, int number, Guid id, string? why, CancellationToken ct) =>
        ChangeLockAsync(key, personId, number, id, (package, locking) =>
    {
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "LockWithout", why, "Say why it stays unlocked.", 200);
        if (problems.Count == 0)
        {
            locking.WithoutWhy = reason;
            recorder.Say($"leaves {locking.Count - locking.Locked} of {locking.Count} {locking.What} unlocked: {reason.TrimEnd('.')}.",
                package.MachineId, package.PlaceId, package.TagId, package.Id);
        }

        return problems;
    }, ct);

    /// <summary>Keeps what was tried on a part that does not come.</summary>
    public Task<Recorded> TryAsync(Guid key, Guid personId, int number, AttemptEntry e, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await db.Packages.AsNoTracking().SingleAsync(k => k.Number == number, ct);
        var (what, medium, hours, note, checks) = AttemptRule.Check(e.What, e.Medium, e.Hours, e.Note);
        var problems = checks.ToList();
        if (!Enum.IsDefined(e.Trouble))
        {
            problems.Add(new Problem("Trouble", "Say what is wrong with it."));
        }

        if (e.Way is not { } way || !Enum.IsDefined(way))
        {
            problems.Add(new Problem("TriedWay", "Choose what was tried."));
        }

        if (e.End is not { } end || !Enum.IsDefined(end))
        {
            problems.Add(new Problem("TriedEnd", "Say what came of it."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Attempts.Add(new Attempt
        {
            MachineId = package.MachineId,
            PlaceId = package.PlaceId,
            PackageId = package.Id,
            What = what,
            Trouble = e.Trouble,
            Way = e.Way!.Value,
            Medium = medium,
            Hours = hours,
            End = e.End!.Value,
            Note = note,
            ById = personId,
            At = recorder.Now,
        });
        recorder.Say($"tried on {what}: {AttemptRule.Words(e.Way.Value)}{(medium.Length > 0 ? $" with {medium}" : string.Empty)}, {hours.ToString("0.##", CultureInfo.InvariantCulture)} h; {AttemptRule.Words(e.End.Value)}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}/care#tried");
    }, ct);

    /// <summary>Strikes an attempt that was written down wrongly.</summary>
    public Task<Recorded> StrikeAsync(Guid key, Guid personId, bool lead, int number, Guid attemptId, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await db.Packages.AsNoTracking().SingleAsync(k => k.Number == number, ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "StrikeWhy", why, "Say what was wrong with it.", 200);
        if (await db.Attempts.SingleOrDefaultAsync(a => a.Id == attemptId && a.PackageId == package.Id,
            ct) is not { StruckAt: null } attempt)
        {
            return Recorded.Changed;
        }

        if (!lead && attempt.ById != personId)
        {
            problems.Add(new Problem(string.Empty, "Somebody else wrote it down. They strike it, or a lead does."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (attempt.StruckAt, attempt.StruckById, attempt.StruckWhy) = (recorder.Now, personId, reason);
        recorder.Say($"struck what was tried on {attempt.What}: {reason.TrimEnd('.')}.", package.MachineId, package.PlaceId, package.TagId,
            package.Id);
        return Recorded.To($"/w/{number}/care#tried");
    }, ct);

    /// <summary>We damaged it ourselves: a finding at once, in one tap; words can follow.</summary>
    public Task<Recorded> DamagedAsync(Guid key, Guid personId, int number, string? what, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await db.Packages.AsNoTracking().Include(k => k.Operations).SingleAsync(k => k.Number == number, ct);
        var problems = new List<Problem>();
        var words = TextRules.Optional(problems, "Damaged", what, 300);
        if (package.ClosedAt is not null)
        {
            problems.Add(new Problem("Damaged", "The package is closed. Log a finding at the place instead."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var step = package.Operations.Where(o => o.DoneAt is null && !o.Hold).MinBy(o => o.Order);
        var finding = new Finding
        {
            MachineId = package.MachineId,
            PlaceId = package.PlaceId,
            TagId = package.TagId,
            FoundById = personId,
            FoundAt = recorder.Now,
            Origin = Origin.ByUs,
            What = $"Damaged by us{(step is null ? string.Empty : $" at “{step.Name}”")}, package {number.ToString(CultureInfo.InvariantCulture)}{(words.Length > 0 ? $": {words}" : ". Somebody adds what")}",
            Evidence = Evidence.Seen,
        };
        db.Findings.Add(finding);
        await db.SaveChangesAsync(ct);
        recorder.Say($"damaged something in package {number}: F{finding.Number}.", package.MachineId, package.PlaceId, package.TagId,
            package.Id);
        return Recorded.To($"/f/{finding.Number}");
    }, ct);

    private Task<Recorded> ChangeLockAsync(Guid key, Guid personId, int number, Guid id, Func<WorkPackage, Locking,
        IReadOnlyList<Problem>> change, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await PackageWrites.LockAsync(db, number, ct);
        if (package.ClosedAt is not null || await db.Lockings.SingleOrDefaultAsync(l => l.Id == id && l.PackageId == package.Id,
            ct) is not { } locking)
        {
            return Recorded.Changed;
        }

        return change(package, locking) is { Count: > 0 } problems ? Recorded.Refused(problems) : Recorded.To($"/w/{number}/care#locked");
    }, ct);
}
