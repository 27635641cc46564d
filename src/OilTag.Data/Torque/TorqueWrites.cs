using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Planning;
using OilTag.Core.Service;
using OilTag.Core.Torque;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.Work;

namespace OilTag.Data.Torque;

/// <summary>One pull as it is typed or sent.</summary>
/// <param name="Pass">Pass, from 1.</param>
/// <param name="Number">Place in the order, from 1.</param>
/// <param name="Text">What the wrench said.</param>
/// <param name="Sent">True when the wrench sent it.</param>
/// <param name="Why">Why it is done out of order; empty when it is the next.</param>
public sealed record PullEntry(int Pass, int Number, string? Text, bool Sent, string? Why);

/// <summary>Groups of bolts at steps: set, pulled in order and passes, taken back, left as they are by an inspector.</summary>
public sealed class TorqueWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Sets the group of a step. While pulls are on record only the wrench can be another one.</summary>
    public Task<Recorded> SetAsync(Guid key, Guid personId, int number, Guid operationId, BoltGroupEntry e, uint version, LocalDate today,
        CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (package, step) = await PackageWrites.StepAsync(db, number, operationId, ct);
        if (step is null || step.Hold)
        {
            return Recorded.Changed;
        }

        var (read, problems) = TorqueRule.Read(e);
        var all = problems.ToList();
        if (package.ClosedAt is not null || step.DoneAt is not null)
        {
            all.Add(new Problem(string.Empty, "The step is done."));
        }

        if (e.ToolId is { } chosen && await db.MeasuringTools.AsNoTracking().SingleOrDefaultAsync(t => t.Id == chosen, ct) is var tool
            && read is not null
            && TorqueRule.WhyNotTool(read, tool, today) is { } why)
        {
            all.Add(new Problem("ToolId", why));
        }

        var at = await TorqueQuery.AtAsync(db, operationId, tracked: true, ct);
        if (at is not null && at.Readings.Any(r => r.StruckAt is null))
        {
            all.Add(new Problem(string.Empty, "Pulls are on record for it. Take them back first, or choose another wrench on its page."));
        }

        if (e.PhotoId is { } photo && !await db.Photos.AnyAsync(x => x.Id == photo && db.Findings.Any(f => f.Id == x.FindingId
            && f.MachineId == package.MachineId), ct))
        {
            all.Add(new Problem("PhotoId", "Choose a photo of this machine."));
        }

        if (all.Count > 0)
        {
            return Recorded.Refused(all);
        }

        var group = at?.Group;
        if (group is null)
        {
            group = new BoltGroup
            {
                OperationId = operationId,
                Name = read!.Name,
                Full = read.Full,
                Within = read.Within,
                Threads = read.Threads,
                Source = read.Source
            };
            db.BoltGroups.Add(group);
        }
        else
        {
            db.Entry(group).Property(g => g.Version).OriginalValue = version;
        }

        Fill(group, read!);
        (group.ById, group.At) = (personId, recorder.Now);
        recorder.Say($"set {group.Count} {Plural(group)} of {group.Name} to {group.Full.Entered} at “{step.Name}”, {group.Threads}, from {group.Source.TrimEnd('.')}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>Chooses the wrench.</summary>
    public Task<Recorded> ToolAsync(Guid key, Guid personId, int number, Guid operationId, Guid? toolId, LocalDate today,
        CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (package, step) = await PackageWrites.StepAsync(db, number, operationId, ct);
        if (step is null || await TorqueQuery.AtAsync(db, operationId, tracked: true, ct) is not { } at)
        {
            return Recorded.Changed;
        }

        var tool = await db.MeasuringTools.AsNoTracking().SingleOrDefaultAsync(t => t.Id == toolId, ct);
        if (TorqueRule.WhyNotTool(at.Group, tool, today) is { } why)
        {
            return Recorded.Refused(why, "ToolId");
        }

        at.Group.ToolId = tool!.Id;
        recorder.Say($"took {tool.Name} for {at.Group.Name}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>Keeps a pull. One that is short is not kept; one that is over stops the order until somebody deals with it.</summary>
    public Task<Recorded> PullAsync(Guid key, Guid personId, int number, Guid operationId, PullEntry e, LocalDate today,
        CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (package, step) = await PackageWrites.StepAsync(db, number, operationId, ct);
        if (step is null || await TorqueQuery.AtAsync(db, operationId, tracked: true, ct) is not { } at || at.Stand.Done
            || e.Pass != at.Stand.Pass || e.Number < 1 || e.Number > at.Group.Count)
        {
            return Recorded.Changed;
        }

        var group = at.Group;
        if (PackageRules.WhyNotFinish(package, step) is { } not)
        {
            return Recorded.Refused(not, "Pull");
        }

        if (await KitWrites.WhyNotBeginAsync(db, step, ct) is { } short_)
        {
            return Recorded.Refused(short_, "Pull");
        }

        if (at.Readings.Any(r => r.StruckAt is null && r.Pass == e.Pass && r.Number == e.Number && (r.Within || r.AcceptedAt is not null)))
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var why = string.Empty;
        if (e.Number != at.Stand.Number)
        {
            why = at.Stand.Over is null
                ? TextRules.Need(problems, "Why", e.Why, $"{group.Noun} {at.Stand.Number} comes next. Say why this one is done before it.",
                    200)
                : string.Empty;
            if (at.Stand.Over is { } stops)
            {
                problems.Add(new Problem("Pull", $"{Capital(group.Noun)} {stops.Number} is over. Slacken it first."));
            }
        }

        var tool = await db.MeasuringTools.AsNoTracking().SingleOrDefaultAsync(t => t.Id == group.ToolId, ct);
        if (group.Passes[e.Pass - 1].Degrees is null && TorqueRule.WhyNotTool(group, tool, today) is { } wrong)
        {
            problems.Add(new Problem("ToolId", wrong));
        }

        var check = TorqueRule.Judge(group, e.Pass, e.Number, e.Text);
        if (check.Value is null || check.End == TorqueEnd.Short)
        {
            problems.Add(new Problem("Pull", check.Sentence));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        // What was over is struck by the pull that follows it.
        Strike(at.Readings.Where(r => r.StruckAt is null && r.Pass == e.Pass && r.Number == e.Number), personId,
            "slackened and pulled again");
        await db.SaveChangesAsync(ct);
        var reading = new TorqueReading
        {
            GroupId = group.Id,
            Pass = e.Pass,
            Number = e.Number,
            Value = check.Value!,
            Within = check.End == TorqueEnd.Within,
            Tool = tool?.Name ?? string.Empty,
            Sent = e.Sent,
            OutOfOrder = why,
            ById = personId,
            At = recorder.Now,
        };
        db.TorqueReadings.Add(reading);
        if (!reading.Within)
        {
            recorder.Say($"pulled {group.Noun} {e.Number} of {group.Name} to {check.Value!.Entered} in pass {e.Pass}: {check.Sentence}",
                package.MachineId, package.PlaceId, package.TagId, package.Id);
        }

        await FollowAsync(db, recorder, package, group, TorqueStand.Of(group, [.. at.Readings, reading]), ct);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>Takes the last pull back, or strikes one that was not read right.</summary>
    public Task<Recorded> StrikeAsync(Guid key, Guid personId, bool lead, int number, Guid operationId, Guid readingId, string? why,
        CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (package, step) = await PackageWrites.StepAsync(db, number, operationId, ct);
        if (step is null || await TorqueQuery.AtAsync(db, operationId, tracked: true, ct) is not { } at
            || at.Readings.FirstOrDefault(r => r.Id == readingId) is not { StruckAt: null } reading)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "StrikeWhy", why, "Say why it is struck.", 200);
        if (step.DoneAt is not null || package.ClosedAt is not null)
        {
            problems.Add(new Problem("StrikeWhy", "The step is done. A lead says that it is not done after all."));
        }

        if (!lead && reading.ById != personId)
        {
            problems.Add(new Problem(string.Empty, "Somebody else pulled it. They take it back, or a lead does."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        Strike([reading], personId, reason);
        recorder.Say($"struck {at.Group.Noun} {reading.Number} of {at.Group.Name}, pass {reading.Pass}, {reading.Value.Entered}: {reason.TrimEnd('.')}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>Asks an inspector to leave a pull that is over as it is.</summary>
    public Task<Recorded> AskAsync(Guid key, Guid personId, int number, Guid operationId, Guid readingId, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (package, step) = await PackageWrites.StepAsync(db, number, operationId, ct);
        if (step is null || await TorqueQuery.AtAsync(db, operationId, tracked: true, ct) is not { Stand.Over: { } over } at
            || over.Id != readingId || over.AskedAt is not null)
        {
            return Recorded.Changed;
        }

        over.AskedAt = recorder.Now;
        recorder.Say($"asks to leave {at.Group.Noun} {over.Number} of {at.Group.Name} at {over.Value.Entered}.", package.MachineId,
            package.PlaceId, package.TagId, package.Id);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>An inspector who did not do the work says whether a pull that is over may stay.</summary>
    public Task<Recorded> AnswerAsync(Guid key, Guid personId, bool isInspector, int number, Guid operationId, Guid readingId, bool accept,
        string? why, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (package, step) = await PackageWrites.StepAsync(db, number, operationId, ct);
        if (step is null || await TorqueQuery.AtAsync(db, operationId, tracked: true,
            ct) is not { Stand.Over: { AskedAt: not null } over } at || over.Id != readingId)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "AcceptWhy", why, accept ? "Say why it may stay so." : "Say why it may not stay so.", 300);
        problems.AddRange((await SignRule.WhyNotAsync(db, package, personId, isInspector, today, ct)).Select(p =>
            p with { Field = "AcceptWhy" }));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (accept)
        {
            (over.AcceptedAt, over.AcceptedById, over.AcceptedWhy) = (recorder.Now, personId, reason);
        }
        else
        {
            over.AskedAt = null;
        }

        recorder.Say($"{(accept ? "accepted" : "refused")} {at.Group.Noun} {over.Number} of {at.Group.Name} at {over.Value.Entered}: {reason.TrimEnd('.')}.", package.MachineId, package.PlaceId, package.TagId, package.Id);
        await FollowAsync(db, recorder, package, at.Group, TorqueStand.Of(at.Group, at.Readings), ct);
        return Recorded.To(Page(number, step));
    }, ct);

    /// <summary>After the last pull of the last pass: what they are locked by and when they are looked at again are written down by themselves.</summary>
    internal static async Task FollowAsync(OilTagDb db, Recorder recorder, WorkPackage package, BoltGroup group, TorqueStand stand,
        CancellationToken ct)
    {
        if (!stand.Done)
        {
            return;
        }

        recorder.Say($"pulled {group.Count} {Plural(group)} of {group.Name} to {group.Full.Entered} in {group.Passes.Count} passes.",
            package.MachineId, package.PlaceId, package.TagId, package.Id);
        var what = $"Torque of {group.Name}: {group.Full.Entered}, {group.Threads}";
        if ((group.Again is not null || group.AgainHours is not null) && !await db.Rechecks.AnyAsync(r => r.PackageId == package.Id
            && r.What == what && r.EndedAt == null, ct))
        {
            db.Rechecks.Add(new Recheck
            {
                MachineId = package.MachineId,
                PlaceId = package.PlaceId,
                PackageId = package.Id,
                What = what,
                AfterUse = group.Again,
                AfterHours = group.AgainHours,
                ById = recorder.PersonId,
                At = recorder.Now
            });
            recorder.Say($"{what}: it is looked at again {Followed(group)}.", package.MachineId, package.PlaceId, package.TagId,
                package.Id);
        }

        if (group.LockedBy is { } way && !await db.Lockings.AnyAsync(l => l.PackageId == package.Id && l.What == group.Name && l.Way == way,
            ct))
        {
            db.Lockings.Add(new Locking
            {
                PackageId = package.Id,
                What = group.Name,
                Way = way,
                Count = group.Count,
                ById = recorder.PersonId,
                At = recorder.Now
            });
        }
    }

    /// <summary>After what a group is looked at again, in words; empty for nothing.</summary>
    public static string Followed(BoltGroup group)
    {
        ArgumentNullException.ThrowIfNull(group);
        var words = new List<string>();
        if (group.Again is { } use)
        {
            words.Add($"after the next {ServiceRule.Word(use)}");
        }

        if (group.AgainHours is { } hours)
        {
            words.Add($"after {hours.ToString("0.#", CultureInfo.InvariantCulture)} running hours");
        }

        return string.Join(" and ", words);
    }

    private void Strike(IEnumerable<TorqueReading> readings, Guid by, string why)
    {
        foreach (var r in readings)
        {
            (r.StruckAt, r.StruckById, r.StruckWhy) = (recorder.Now, by, why);
        }
    }

    private static void Fill(BoltGroup to, BoltGroup from)
    {
        (to.Name, to.Noun, to.Shape, to.Count, to.Rows, to.Points, to.PhotoId) = (from.Name, from.Noun, from.Shape, from.Count, from.Rows,
            from.Points, from.PhotoId);
        (to.Across, to.Mark, to.Order, to.BooksOrder) = (from.Across, from.Mark, from.Order, from.BooksOrder);
        (to.Full, to.Within, to.Passes, to.Threads, to.Source, to.ToolId) = (from.Full, from.Within, from.Passes, from.Threads, from.Source,
            from.ToolId);
        (to.Again, to.AgainHours, to.LockedBy) = (from.Again, from.AgainHours, from.LockedBy);
    }

    private static string Plural(BoltGroup g) => g.Noun + "s";

    private static string Capital(string s) => char.ToUpperInvariant(s[0]) + s[1..];

    private static string Page(int number, Operation step) => string.Create(CultureInfo.InvariantCulture,
        $"/w/{number}/{step.Order}/torque");
}
