using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.People;
using OilTag.Core.Service;
using OilTag.Data.Log;

namespace OilTag.Data.Service;

/// <summary>A recheck as it is typed.</summary>
/// <param name="What">What is looked at.</param>
/// <param name="PlaceId">Where.</param>
/// <param name="On">Day.</param>
/// <param name="AfterHours">Running hours.</param>
/// <param name="AfterUse">Use.</param>
public sealed record RecheckEntry(string? What, Guid? PlaceId, LocalDate? On, string? AfterHours, UseKind? AfterUse);

/// <summary>Service tasks, what machines did, and rechecks.</summary>
public sealed class ServiceWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Sets a task, or changes one.</summary>
    /// <param name="id">The task that is changed; null for a new one.</param>
    public Task<Recorded> SetAsync(Guid key, Guid personId, string letter, Guid? id, ServiceEntry e, uint version, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var machineId = await MachineAsync(letter, ct);
        var (read, problems) = ServiceRule.Read(e);
        if (read is not null && !await db.Places.AnyAsync(p => p.Id == read.PlaceId && p.MachineId == machineId, ct))
        {
            problems = [.. problems, new Problem("PlaceId", "Choose a place of this machine.")];
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var task = id is null ? new ServiceTask { MachineId = machineId, What = read!.What, At = recorder.Now }
            : await db.ServiceTasks.SingleOrDefaultAsync(t => t.Id == id && t.MachineId == machineId && t.EndedAt == null, ct);
        if (task is null)
        {
            return Recorded.Changed;
        }

        if (id is null)
        {
            db.ServiceTasks.Add(task);
        }
        else
        {
            db.Entry(task).Property(t => t.Version).OriginalValue = version;
        }

        (task.What, task.PlaceId, task.With, task.Amount, task.ById) = (read!.What, read.PlaceId, read.With, read.Amount, personId);
        (task.EveryDays, task.EveryHours, task.EveryDistance) = (read.EveryDays, read.EveryHours, read.EveryDistance);
        (task.BeforeRun, task.BeforeMove, task.AfterFirstRun) = (read.BeforeRun, read.BeforeMove, read.AfterFirstRun);
        recorder.Say($"{(id is null ? "set" : "changed")} the service “{task.What}”, {ServiceRule.Often(task)}.", machineId, task.PlaceId);
        return Recorded.To($"/machines/{letter}/service");
    }, ct);

    /// <summary>Ends a task that is not due any more.</summary>
    public Task<Recorded> EndAsync(Guid key, Guid personId, string letter, Guid id, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var machineId = await MachineAsync(letter, ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "EndWhy", why, "Say why it is ended.", 200);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (await db.ServiceTasks.SingleOrDefaultAsync(t => t.Id == id && t.MachineId == machineId && t.EndedAt == null,
            ct) is not { } task)
        {
            return Recorded.Changed;
        }

        (task.EndedAt, task.EndedWhy) = (recorder.Now, reason);
        recorder.Say($"ended the service “{task.What}”: {reason.TrimEnd('.')}.", machineId, task.PlaceId);
        return Recorded.To($"/machines/{letter}/service");
    }, ct);

    /// <summary>A task was done. Minutes that it took are hours given on the machine.</summary>
    /// <param name="seen">When it was last done, as the page showed it: done meanwhile by somebody else is not done twice.</param>
    public Task<Recorded> DoneAsync(Guid key, Guid personId, Guid id, Guid? seen, string? note, string? minutes, LocalDate today,
        string back, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from service_tasks where id = {id} for update", ct);
        var task = await db.ServiceTasks.AsNoTracking().SingleOrDefaultAsync(t => t.Id == id && t.EndedAt == null, ct);
        var last = await db.ServicesDone.Where(d => d.TaskId == id && d.TakenBackAt == null).OrderByDescending(d =>
            d.On).ThenByDescending(d => d.At).Select(d => (Guid?)d.Id).FirstOrDefaultAsync(ct);
        if (task is null || last != seen)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var words = TextRules.Optional(problems, "Note", note, 200);
        var took = 0;
        if (!string.IsNullOrWhiteSpace(minutes) && (!int.TryParse(minutes.Trim(), System.Globalization.NumberStyles.None, null, out took)
            || took is < 1 or > 1440))
        {
            problems.Add(new Problem("Minutes", "Type the minutes as a whole number, such as 20, or leave them empty."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.ServicesDone.Add(new ServiceDone { TaskId = id, On = today, Note = words, ById = personId, At = recorder.Now });
        if (took > 0)
        {
            db.Hours.Add(new HoursEntry
            {
                MachineId = task.MachineId,
                PersonId = personId,
                On = today,
                Minutes = took,
                Note = task.What,
                RecordedById = personId,
                At = recorder.Now
            });
        }

        recorder.Say($"did the service “{task.What}”{(words.Length > 0 ? $": {words.TrimEnd('.')}" : string.Empty)}{(took > 0 ? $", {took} min" : string.Empty)}.", task.MachineId, task.PlaceId);
        return Recorded.To(back);
    }, ct);

    /// <summary>A task was not done after all.</summary>
    public Task<Recorded> NotDoneAsync(Guid key, Guid personId, bool lead, Guid doneId, string? why, string back, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "BackWhy", why, "Say why it is taken back.", 200);
        if (await db.ServicesDone.SingleOrDefaultAsync(d => d.Id == doneId && d.TakenBackAt == null, ct) is not { } done)
        {
            return Recorded.Changed;
        }

        if (!lead && done.ById != personId)
        {
            problems.Add(new Problem(string.Empty, "Somebody else did it. They take it back, or a lead does."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (done.TakenBackAt, done.TakenBackById, done.TakenBackWhy) = (recorder.Now, personId, reason);
        var task = await db.ServiceTasks.AsNoTracking().SingleAsync(t => t.Id == done.TaskId, ct);
        recorder.Say($"took back that the service “{task.What}” is done: {reason.TrimEnd('.')}.", task.MachineId, task.PlaceId);
        return Recorded.To(back);
    }, ct);

    /// <summary>A machine was run, moved or heated.</summary>
    public Task<Recorded> UseAsync(Guid key, Guid personId, string letter, UseKind kind, LocalDate? on, string? hours, string? distance,
        string? note, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var machineId = await MachineAsync(letter, ct);
        var (h, far, words, problems) = ServiceRule.CheckUse(kind, on, hours, distance, note, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.MachineUses.Add(new MachineUse
        {
            MachineId = machineId,
            Kind = kind,
            On = on!.Value,
            Hours = h,
            Distance = far,
            Note = words,
            ById = personId,
            At = recorder.Now
        });
        var amount = string.Join(", ", new[] { h > 0 ? $"{h.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture)} h"
            : string.Empty, far?.Entered ?? string.Empty }.Where(w => w.Length > 0));
        recorder.Say($"wrote down a {ServiceRule.Word(kind)} on {LogWords.Day(on.Value)}{(amount.Length > 0 ? $", {amount}" : string.Empty)}{(words.Length > 0 ? $": {words.TrimEnd('.')}" : string.Empty)}.", machineId);
        return Recorded.To($"/machines/{letter}/service");
    }, ct);

    /// <summary>A use was written down wrongly.</summary>
    public Task<Recorded> NotUsedAsync(Guid key, Guid personId, bool lead, string letter, Guid useId, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var machineId = await MachineAsync(letter, ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "BackWhy", why, "Say why it is taken back.", 200);
        if (await db.MachineUses.SingleOrDefaultAsync(u => u.Id == useId && u.MachineId == machineId && u.TakenBackAt == null,
            ct) is not { } use)
        {
            return Recorded.Changed;
        }

        if (!lead && use.ById != personId)
        {
            problems.Add(new Problem(string.Empty, "Somebody else wrote it down. They take it back, or a lead does."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (use.TakenBackAt, use.TakenBackById, use.TakenBackWhy) = (recorder.Now, personId, reason);
        recorder.Say($"took back the {ServiceRule.Word(use.Kind)} of {LogWords.Day(use.On)}: {reason.TrimEnd('.')}.", machineId);
        return Recorded.To($"/machines/{letter}/service");
    }, ct);

    /// <summary>Asks for something to be looked at again.</summary>
    /// <param name="number">The package from which it comes; null for none.</param>
    public Task<Recorded> AgainAsync(Guid key, Guid personId, string letter, int? number, RecheckEntry e, LocalDate today, string back,
        CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var machineId = await MachineAsync(letter, ct);
        var (what, hours, problems) = ServiceRule.CheckRecheck(e.What, e.PlaceId, e.On, e.AfterHours, e.AfterUse, today);
        if (e.PlaceId is { } p && !await db.Places.AnyAsync(x => x.Id == p && x.MachineId == machineId, ct))
        {
            problems = [.. problems, new Problem("RecheckPlace", "Choose a place of this machine.")];
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var packageId = await db.Packages.Where(k => k.Number == number && k.MachineId == machineId).Select(k =>
            (Guid?)k.Id).SingleOrDefaultAsync(ct);
        db.Rechecks.Add(new Recheck
        {
            MachineId = machineId,
            PlaceId = e.PlaceId!.Value,
            PackageId = packageId,
            What = what,
            DueOn = e.On,
            AfterHours = hours,
            AfterUse = e.AfterUse,
            ById = personId,
            At = recorder.Now
        });
        recorder.Say($"asks for “{what}” to be looked at again.", machineId, e.PlaceId, packageId: packageId);
        return Recorded.To(back);
    }, ct);

    /// <summary>A recheck was done, or is given up by a lead.</summary>
    public Task<Recorded> CheckedAsync(Guid key, Guid personId, bool lead, Guid id, bool giveUp, string? found, string back,
        CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var words = TextRules.Need(problems, "Found", found, giveUp ? "Say why it is given up." : "Say what you found, such as all within.",
            300);
        if (giveUp && !lead)
        {
            problems.Add(new Problem("Found", "A lead gives a recheck up."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (await db.Rechecks.SingleOrDefaultAsync(r => r.Id == id && r.EndedAt == null, ct) is not { } recheck)
        {
            return Recorded.Changed;
        }

        (recheck.EndedAt, recheck.EndedById, recheck.Found, recheck.GivenUp) = (recorder.Now, personId, words, giveUp);
        recorder.Say($"{(giveUp ? "gave up the recheck" : "looked again at")} “{recheck.What}”: {words.TrimEnd('.')}.", recheck.MachineId,
            recheck.PlaceId, packageId: recheck.PackageId);
        return Recorded.To(back);
    }, ct);

    private Task<Guid> MachineAsync(string letter, CancellationToken ct) =>
        db.Machines.Where(m => m.Letter == letter).Select(m => m.Id).SingleAsync(ct);
}
