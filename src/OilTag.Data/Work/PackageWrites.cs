using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Stores;
using OilTag.Core.Strip;
using OilTag.Core.Torque;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.Make;
using OilTag.Data.Torque;

namespace OilTag.Data.Work;

/// <summary>The form that says what a package serves and what it waits on.</summary>
public sealed record PackageEdit(string? Title, string? Purpose, Guid? MilestoneId, string? WaitingOn, Guid? WaitingForId,
    string? EstimatePounds, uint Version);

/// <summary>Steps, signatures, costs and the closing of packages.</summary>
public sealed class PackageWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Why a step cannot be ticked off as done, as a sentence: a hold before it, a fixture that does not hold, readings that are missing or beyond; null when it can.</summary>
    public static async Task<string?> WhyNotFinishAsync(OilTagDb db, WorkPackage package, Operation step, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(package);
        ArgumentNullException.ThrowIfNull(step);
        if ((PackageRules.WhyNotFinish(package, step) ?? (await MakingWrites.HeldUpAsync(db, ct))[package.Id].FirstOrDefault()) is { } why)
        {
            return why;
        }

        if (await KitWrites.WhyNotBeginAsync(db, step, ct) is { } kit)
        {
            return kit;
        }

        if (await TorqueQuery.AtAsync(db, step.Id, tracked: false, ct) is { } bolts
            && TorqueStand.WhyNot(bolts.Group, bolts.Stand) is { } pulls)
        {
            return pulls;
        }

        var taken = step.Readings.Count == 0 ? [] : await db.StepReadings.AsNoTracking().Where(r =>
            r.OperationId == step.Id).ToListAsync(ct);
        return ReadingRule.WhyNot(ReadingRule.Places(step.Readings, taken)) is { } readings
            ? $"“{step.Name}” cannot be finished: {readings}" : null;
    }

    /// <summary>What a step still waits for; null when all of it is here.</summary>
    public static async Task<string?> MissingAsync(OilTagDb db, Operation step, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(step);
        var wanted = step.Needs.Demands;
        return wanted.Count == 0 ? null : await db.Demands.Where(d => wanted.Contains(d.Id) && d.End == null).OrderBy(d => d.Id).Select(d =>
            d.What).FirstOrDefaultAsync(ct);
    }

    /// <summary>Says that a step is done. Its readings are taken and within, and what it waits for is here, or a lead says why not.</summary>
    /// <param name="lead">True for leads and keepers.</param>
    /// <param name="without">A lead's reason for doing it without what is still wanted; null for none.</param>
    public Task<Recorded> StepDoneAsync(Guid key, Guid personId, int number, Guid operationId, bool lead, string? without,
        CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        if (package.Operations.Find(o => o.Id == operationId) is not { } step)
        {
            return Recorded.Changed;
        }

        if (await WhyNotFinishAsync(db, package, step, ct) is { } why)
        {
            return Recorded.Refused(why);
        }

        if (await MissingAsync(db, step, ct) is { } missing)
        {
            var reason = (without ?? string.Empty).Trim();
            if (!lead || reason.Length is 0 or > 300)
            {
                return Recorded.Refused(lead ? $"{missing} is still wanted for it. Say that it is here, or why the step is done without it."
                    : $"{missing} is still wanted for “{step.Name}”. Say that it is here, or ask a lead.", "Without");
            }

            recorder.Say($"finished “{step.Name}” of package {number} without {missing}: {reason.TrimEnd('.')}.", package.MachineId,
                package.PlaceId, package.TagId, package.Id);
        }

        step.DoneAt = recorder.Now;
        step.DoneById = personId;
        recorder.Say(WorkLog.Finished(step.Name, number), package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Why this person cannot sign this hold point.</summary>
    public static async Task<IReadOnlyList<Problem>> WhyNotSignAsync(OilTagDb db, WorkPackage package, Operation hold, Guid personId,
        bool isInspector, LocalDate today, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(package);
        ArgumentNullException.ThrowIfNull(hold);
        return await SignRule.WhyNotAsync(db, package, personId, isInspector, today, ct, hold);
    }

    /// <param name="isInspector">Whether the database, not the cookie, says that they are an inspector.</param>
    public Task<Recorded> SignAsync(Guid key, Guid personId, bool isInspector, int number, Guid operationId, string? note, LocalDate today,
        CancellationToken ct, bool byPin = false) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        if (package.Operations.Find(o => o.Id == operationId && o.Hold) is not { } hold)
        {
            return Recorded.Changed;
        }

        var problems = (await WhyNotSignAsync(db, package, hold, personId, isInspector, today, ct)).ToList();
        var words = TextRules.Need(problems, "Note", note, "Say what you inspected and what you found.", 500);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.SignOffs.Add(new SignOff { OperationId = hold.Id, ById = personId, At = recorder.Now, Note = words, ByPin = byPin });
        hold.DoneAt = recorder.Now;
        hold.DoneById = personId;
        recorder.Say(WorkLog.Lifted(hold.Name, number, words) + (byPin ? " Signed on the shed’s tablet with a PIN." : string.Empty),
            package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Why a package cannot be closed.</summary>
    public static async Task<IReadOnlyList<Problem>> WhyNotCloseAsync(OilTagDb db, WorkPackage package, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(package);
        var cards = await db.RouteCards.AsNoTracking().Include(c => c.Stages).Where(c => c.PackageId == package.Id).ToListAsync(ct);
        var counts = cards.Count > 0 ? await CardWrites.CountsAsync(db, [.. cards.Select(c => c.Id)], ct) : [];
        var unfinished = cards.Sum(c => StageCounts.Unfinished(c, counts));

        var locks = (await db.Lockings.AsNoTracking().Where(l => l.PackageId == package.Id).OrderBy(l =>
            l.Id).ToListAsync(ct)).Select(LockRule.WhyNot).OfType<string>();
        var tools = await db.TemporaryItems.Where(t => t.PlaceId == package.PlaceId && t.Kind == TemporaryKind.Tool
            && t.OutAt == null).OrderBy(t => t.InAt).Select(t => t.What).ToListAsync(ct);
        var open = PackageRules.WhyNotClose(
            [.. package.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order).Select(o => (o.Name, o.Hold))],
            unfinished,
            package.WaitingOn,
            package.ClosedAt is not null,
            await WantedAsync(db, package, ct));
        return [.. open, .. locks.Select(l => new Problem(string.Empty, l)),
            .. tools.Select(t => new Problem(string.Empty, $"{t} went in and is not out."))];
    }

    private static async Task<List<string>> WantedAsync(OilTagDb db, WorkPackage package, CancellationToken ct)
    {
        var ids = package.Operations.SelectMany(o => o.Needs.Demands).ToList();
        return ids.Count == 0 ? [] : await db.Demands.Where(d => ids.Contains(d.Id) && d.End == null).OrderBy(d => d.Id).Select(d =>
            d.What).ToListAsync(ct);
    }

    /// <param name="without">A lead's reason for closing it although something is still wanted for it; null for none.</param>
    public Task<Recorded> CloseAsync(Guid key, Guid personId, int number, string? without, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        var problems = await WhyNotCloseAsync(db, package, ct);
        var reason = TextRules.Optional([], "Without", without, 300);
        if (problems.Any(p => p.Field != PackageRules.Wanted) || (problems.Count > 0 && reason.Length == 0))
        {
            return Recorded.Refused(problems);
        }

        if (problems.Count > 0)
        {
            recorder.Say($"closes package {number} although something is still wanted for it: {reason.TrimEnd('.')}.", package.MachineId,
                package.PlaceId, package.TagId, package.Id);
        }

        package.ClosedAt = recorder.Now;
        package.ClosedById = personId;
        recorder.Say(WorkLog.Closed(number, package.Title), package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Gives a package up, with its reason. Findings that it was to clear are open again; what was not ordered for it is not wanted any more.</summary>
    public Task<Recorded> CancelAsync(Guid key, Guid personId, int number, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "CancelWhy", why, "Say why it is given up; somebody will ask.", 500);
        if (package.ClosedAt is not null)
        {
            problems.Add(new Problem("CancelWhy", "It is closed already."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        await GiveUpAsync(package, reason, ct);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Takes the decision about a finding back while nothing was done on its package: the finding is open again, and the package is given up.</summary>
    public Task<Recorded> TakeBackAsync(Guid key, Guid personId, int findingNumber, Guid? seen, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var finding = await db.Findings.AsNoTracking().SingleAsync(f => f.Number == findingNumber, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from findings where id = {finding.Id} for update", ct);
        var decision = await db.Decisions.SingleOrDefaultAsync(d => d.FindingId == finding.Id && !d.Replaced, ct);
        if (decision is null || decision.Id != seen)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "BackWhy", why, "Say why it is taken back.", 500);
        var packages = await Survey.FindingQuery.PackagesOf(db, finding.Id).Where(k => k.ClosedAt == null).OrderBy(k =>
            k.Number).ToListAsync(ct);
        foreach (var k in packages)
        {
            await db.Database.ExecuteSqlAsync($"select 1 from packages where id = {k.Id} for update", ct);
            if (await DoneAsync(k.Id, ct) is { } done)
            {
                problems.Add(new Problem("BackWhy", $"Package {k.Number} has begun: {done}. Cancel the package instead, with its reason."));
            }
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        decision.Replaced = true;
        recorder.Say($"took the decision about F{findingNumber} back: {reason.TrimEnd('.')}. It is open again.", finding.MachineId,
            finding.PlaceId, finding.TagId);
        foreach (var k in packages)
        {
            await GiveUpAsync(await LockAsync(db, k.Number, ct), reason, ct);
        }

        return Recorded.To($"/f/{findingNumber}");
    }, ct);

    /// <summary>Opens a package again that was closed or given up.</summary>
    public Task<Recorded> ReopenAsync(Guid key, Guid personId, int number, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "ReopenWhy", why, "Say why it is opened again.", 500);
        if (package.ClosedAt is null)
        {
            problems.Add(new Problem("ReopenWhy", "It is open already."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (package.ClosedAt, package.ClosedById, package.CancelledWhy) = (null, null, string.Empty);
        recorder.Say($"opened package {number} again: {reason.TrimEnd('.')}.", package.MachineId, package.PlaceId, package.TagId,
            package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Says that a step is not done after all. What was signed after it is void, in sight of all, and asked for again.</summary>
    public Task<Recorded> UndoAsync(Guid key, Guid personId, int number, Guid operationId, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "UndoWhy", why, "Say why it is not done after all.", 500);
        if (package.Operations.Find(o => o.Id == operationId) is not { DoneAt: not null } step)
        {
            return Recorded.Changed;
        }

        if (package.ClosedAt is not null)
        {
            problems.Add(new Problem("UndoWhy", "The package is closed. Open it again first."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var holds = package.Operations.Where(o => o.Hold && o.DoneAt is not null && (o.Id == step.Id || o.Order > step.Order)).OrderBy(o =>
            o.Order).ToList();
        var ids = holds.ConvertAll(o => o.Id);
        foreach (var sign in await db.SignOffs.Where(s => ids.Contains(s.OperationId)
            && !db.SignOffVoids.Any(v => v.SignOffId == s.Id)).Select(s => s.Id).ToListAsync(ct))
        {
            db.SignOffVoids.Add(new SignOffVoid { SignOffId = sign, ById = personId, At = recorder.Now, Why = reason });
        }

        foreach (var again in holds.Append(step))
        {
            (again.DoneAt, again.DoneById) = (null, null);
        }

        package.Revision++;
        var changes = new List<string> { $"“{step.Name}” is not done after all" };
        changes.AddRange(holds.Where(h => h.Id != step.Id).Select(h => $"the signature at “{h.Name}” is void"));
        db.PackageRevisions.Add(new PackageRevision
        {
            PackageId = package.Id,
            Number = package.Revision,
            Changes = changes,
            Why = reason,
            ById = personId,
            At = recorder.Now
        });
        recorder.Say($"took back that “{step.Name}” of package {number} is done: {reason.TrimEnd('.')}.{string.Concat(holds.Where(h => h.Id != step.Id).Select(h => $" The signature at “{h.Name}” is void."))}", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    // What was done on a package, in words; null when nothing was.
    private async Task<string?> DoneAsync(Guid packageId, CancellationToken ct) =>
        await db.Hours.AnyAsync(h => h.PackageId == packageId, ct) ? "hours are booked"
        : await db.Operations.AnyAsync(o => o.PackageId == packageId && o.DoneAt != null, ct) ? "a step is done"
        : await db.Costs.AnyAsync(c => c.PackageId == packageId, ct) ? "money is spent"
        : await db.StepReadings.AnyAsync(r => db.Operations.Any(o => o.Id == r.OperationId && o.PackageId == packageId), ct)
            ? "readings are taken"
        : await db.TorqueReadings.AnyAsync(r => db.BoltGroups.Any(g => g.Id == r.GroupId
            && db.Operations.Any(o => o.Id == g.OperationId && o.PackageId == packageId)), ct) ? "bolts are pulled"
        : await (from m in db.StageMoves join s in db.Stages on m.StageId equals s.Id join c in db.RouteCards on s.RouteCardId equals c.Id where c.PackageId == packageId select m.Id).AnyAsync(ct) ? "pieces are counted on its route card"
        : null;

    private async Task GiveUpAsync(WorkPackage package, string reason, CancellationToken ct)
    {
        (package.ClosedAt, package.ClosedById, package.CancelledWhy) = (recorder.Now, recorder.PersonId, reason);
        (package.WaitingOn, package.WaitingForId, package.WaitingSince) = (string.Empty, null, null);
        var open = package.Operations.Where(o => o.DoneAt is null).Select(o => (Guid?)o.Id).ToList();
        await db.DayJobs.Where(j => open.Contains(j.OperationId) && !j.Confirmed).ExecuteDeleteAsync(ct);
        var wanted = package.Operations.SelectMany(o => o.Needs.Demands).ToList();
        foreach (var demand in await db.Demands.Where(d => wanted.Contains(d.Id) && d.End == null && d.OrderedOn == null).ToListAsync(ct))
        {
            (demand.End, demand.EndedAt, demand.EndedById) = (DemandEnd.NotNeeded, recorder.Now, recorder.PersonId);
        }

        recorder.Say($"cancelled package {package.Number}, {package.Title}: {reason.TrimEnd('.')}.", package.MachineId, package.PlaceId,
            package.TagId, package.Id);
        var findings = await db.Findings.Where(f => f.Id == package.FindingId
            || db.Decisions.Any(d => d.FindingId == f.Id && !d.Replaced && d.PackageId == package.Id)).OrderBy(f =>
            f.Number).ToListAsync(ct);
        foreach (var f in findings)
        {
            if (await db.Decisions.SingleOrDefaultAsync(d => d.FindingId == f.Id && !d.Replaced, ct) is { } decision)
            {
                decision.Replaced = true;
                recorder.Say($"F{f.Number} is open again, because package {package.Number} was cancelled.", f.MachineId, f.PlaceId, f.TagId,
                    package.Id);
            }
        }
    }

    public Task<Recorded> EditAsync(Guid key, Guid personId, int number, PackageEdit e, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await db.Packages.SingleAsync(p => p.Number == number, ct);
        var problems = new List<Problem>();
        var title = e.Title is null ? package.Title : TextRules.Need(problems, "Title", e.Title, "Say what is done.",
            PackageRules.LongestTitle);
        var purpose = e.Purpose is null ? package.Purpose : TextRules.Optional(problems, "Purpose", e.Purpose, PackageRules.LongestPurpose);
        var waiting = TextRules.Optional(problems, "WaitingOn", e.WaitingOn, 120);
        long pence = 0;
        if (!string.IsNullOrWhiteSpace(e.EstimatePounds) && e.EstimatePounds.Trim() is not "0")
        {
            var (value, wrong) = PackageRules.CheckCost("estimate", e.EstimatePounds);
            problems.AddRange(wrong.Select(w => w with { Field = "EstimatePounds" }));
            pence = value ?? 0;
        }

        if (package.ClosedAt is not null)
        {
            problems.Add(new Problem(string.Empty, "The package is closed."));
        }

        if (waiting != package.WaitingOn && await db.Consents.AnyAsync(c => c.PackageId == package.Id && c.Agreed == null, ct))
        {
            problems.Add(new Problem("WaitingOn", "It waits for the owner's consent. Record the reply at the finding; then it goes on."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(package).Property(p => p.Version).OriginalValue = e.Version;
        object Snapshot() => new
        {
            package.Title,
            package.Purpose,
            package.MilestoneId,
            package.WaitingOn,
            package.WaitingForId,
            package.EstimatePence
        };
        var before = Snapshot();
        var was = package.WaitingOn;
        (package.Title, package.Purpose) = (title, purpose);
        package.MilestoneId = e.MilestoneId;
        package.WaitingOn = waiting;
        package.WaitingForId = waiting.Length > 0 ? e.WaitingForId : null;
        package.WaitingSince = waiting.Length == 0 ? null : waiting == was ? package.WaitingSince : today;
        package.EstimatePence = pence;
        db.Entry(package).Property(p => p.WaitingOn).IsModified = true;
        var sentence = (was, waiting) switch
        {
            ({ Length: > 0 }, { Length: 0 }) => $"freed package {number}: it no longer waits on {was}.",
            (_, { Length: > 0 }) when was != waiting => WorkLog.Stuck(number, waiting),
            _ => $"changed what package {number} serves.",
        };
        recorder.Say(sentence, package.MachineId, package.PlaceId, package.TagId, package.Id, before, Snapshot());
        return Recorded.To($"/w/{number}");
    }, ct);

    public Task<Recorded> SpendAsync(Guid key, Guid personId, int number, string? what, string? pounds, LocalDate today,
        CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (pence, problems) = PackageRules.CheckCost(what, pounds);
        if (pence is null)
        {
            return Recorded.Refused(problems);
        }

        var package = await db.Packages.AsNoTracking().SingleAsync(p => p.Number == number, ct);
        db.Costs.Add(new Cost { PackageId = package.Id, What = what!.Trim(), Pence = pence.Value, On = today, ById = personId });
        recorder.Say(WorkLog.Spent(pence.Value, what.Trim(), number), package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>How a package lies in the plan: whether it opens its machine, what it takes away, from when on it may be begun, and what will undo it.</summary>
    public Task<Recorded> PlaceInPlanAsync(Guid key, Guid personId, int number, bool opens, string? takesAway, LocalDate? notBefore,
        string? undoneBy, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        if (package.ClosedAt is not null)
        {
            return Recorded.Refused("The package is closed.");
        }

        var (gone, numbers, found) = PackageRules.CheckPlace(takesAway, notBefore, undoneBy, number, today);
        var problems = found.ToList();
        var others = await db.Packages.AsNoTracking().Where(p => numbers.Contains(p.Number) && p.ClosedAt == null).ToDictionaryAsync(p =>
            p.Number, p => p.Id, ct);
        problems.AddRange(numbers.Where(n => !others.ContainsKey(n)).Select(n =>
            new Problem("UndoneBy", $"There is no open package {n}.")));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        object Snapshot() => new
        {
            package.Opens,
            package.TakesAway,
            NotBefore = package.NotBefore?.ToString("uuuu-MM-dd",
            CultureInfo.InvariantCulture),
            package.UndoneBy
        };
        var before = Snapshot();
        (package.Opens, package.TakesAway, package.NotBefore, package.UndoneBy) = (opens, gone, notBefore,
            [.. numbers.Select(n => others[n])]);
        recorder.Say(notBefore is { } day ? $"put package {number} off to {LogWords.Day(day)}."
            : $"said how package {number} lies in the plan.", package.MachineId, package.PlaceId, package.TagId, package.Id, before,
            Snapshot());
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>What a step needs besides hours, and what has to come before it can start.</summary>
    public Task<Recorded> NeedsAsync(Guid key, Guid personId, int number, Guid operationId, NeedsEntry entry, DemandEntry demand,
        LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(db, number, ct);
        if (package.Operations.Find(o => o.Id == operationId) is not { } step)
        {
            return Recorded.Changed;
        }

        if (package.ClosedAt is not null || step.DoneAt is not null)
        {
            return Recorded.Refused(package.ClosedAt is not null ? "The package is closed." : $"“{step.Name}” is done already.");
        }

        var open = await (from o in db.Operations
                          join k in db.Packages on o.PackageId equals k.Id
                          where o.DoneAt == null
            && k.ClosedAt == null
                          select new { o.Id, o.Order, k.Number, o.PackageId }).ToListAsync(ct);
        var (needs, found) = NeedsRule.Check(entry, today, (p, s) => open.FirstOrDefault(o => o.Number == p && o.Order == s)?.Id,
            step.Needs);
        var problems = found.ToList();
        if (needs.After.Any(a => open.Exists(o => o.Id == a && o.PackageId == package.Id)))
        {
            problems.Add(new Problem("After", "Steps of this package follow each other anyhow. Name steps of other packages."));
        }

        if (needs.Site.Length > 0 && !await db.Sites.AnyAsync(x => x.Name == needs.Site, ct))
        {
            problems.Add(new Problem("Site", "Choose a site from the list."));
        }

        var read = DemandRule.Check(demand, problems);
        if (problems.Count == 0 && await CircleAsync(db, package, ct, step, needs.After) is { Length: > 0 } circle)
        {
            problems.Add(new Problem("After", $"Then they would wait for each other in a circle: {circle}."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (read is not null)
        {
            var wanted = new Demand
            {
                MachineId = package.MachineId,
                PlaceId = package.PlaceId,
                TagId = package.TagId,
                What = read.What,
                Quantity = read.Quantity,
                Source = DemandSource.Package,
                At = recorder.Now,
                Lead = read.Lead,
                Enquiry = read.Enquiry
            };
            db.Demands.Add(wanted);
            needs = needs with { Demands = [.. needs.Demands, wanted.Id] };
        }

        var before = step.Needs;
        step.Needs = needs;
        db.Entry(step).Property(o => o.Needs).IsModified = true;
        recorder.Say($"said what “{step.Name}” of package {number} needs{(read is null ? string.Empty : $": {read.What} among it")}.",
            package.MachineId, package.PlaceId, package.TagId, package.Id, before, needs);
        return Recorded.To($"/w/{number}/needs/{step.Order}");
    }, ct);

    /// <summary>Something was ordered.</summary>
    public Task<Recorded> OrderedAsync(Guid key, Guid personId, Guid demandId, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from demands where id = {demandId} for update", ct);
        if (await db.Demands.SingleOrDefaultAsync(d => d.Id == demandId, ct) is not { } demand)
        {
            return Recorded.Refused("There is no such demand. Load the plan again.");
        }

        if (demand.OrderedOn is not null || demand.End is not null)
        {
            return Recorded.Refused(demand.End is not null ? $"{demand.What} is not wanted any more."
                : $"{demand.What} is ordered already.");
        }

        demand.OrderedOn = today;
        recorder.Say(WorkLog.Ordered(demand.Quantity, demand.What), demand.MachineId, demand.PlaceId, demand.TagId);
        return Recorded.To("/plan#orders");
    }, ct);

    /// <summary>The steps that would wait for each other if a package were as it is in memory, in words; empty when none would.</summary>
    /// <param name="db">The record.</param>
    /// <param name="package">The package with its steps.</param>
    /// <param name="ct">Ends it.</param>
    /// <param name="step">A step of it that would follow others than it does; null for none.</param>
    /// <param name="after">What that step would follow.</param>
    internal static async Task<string> CircleAsync(OilTagDb db, WorkPackage package, CancellationToken ct, Operation? step = null,
        IReadOnlyList<Guid>? after = null)
    {
        var own = package.Operations.Where(o => o.DoneAt is null).ToList();
        IReadOnlyList<Guid> After(Operation o) => o.Id == step?.Id ? after ?? [] : o.Needs.After;
        if (own.TrueForAll(o => After(o).Count == 0))
        {
            return string.Empty;
        }

        var others = await (from o in db.Operations
                            join k in db.Packages on o.PackageId equals k.Id
                            where o.DoneAt == null
            && k.ClosedAt == null && k.Id != package.Id
                            select new { o, k.Number }).AsNoTracking().ToListAsync(ct);
        var open = others.ConvertAll(x => (Step: x.o, x.Number)).Concat(own.Select(o => (Step: o, package.Number))).OrderBy(x =>
            x.Number).ThenBy(x => x.Step.Order).ToList();
        var at = open.Select((x, i) => (x.Step.Id, i)).ToDictionary(x => x.Id, x => x.i);
        var next = open.Select(_ => new List<int>()).ToArray();
        foreach (var steps in open.GroupBy(x => x.Number))
        {
            IReadOnlyList<Operation> before = [];
            foreach (var group in StepOrder.Groups(steps.Select(x => x.Step)))
            {
                foreach (var o in group)
                {
                    foreach (var first in before.Select(b => b.Id).Concat(After(o)).Where(at.ContainsKey))
                    {
                        next[at[first]].Add(at[o.Id]);
                    }
                }

                before = group;
            }
        }

        return string.Join(" → ", Core.Planning.Project.Circle([.. next.Select(x => x.ToArray())]).Select(i =>
            $"{open[i].Step.Name} ({open[i].Number}.{open[i].Step.Order})"));
    }

    /// <summary>A package with its steps; nobody else writes it until this write ends.</summary>
    internal static async Task<WorkPackage> LockAsync(OilTagDb db, int number, CancellationToken ct)
    {
        await db.Database.ExecuteSqlAsync($"select 1 from packages where number = {number} for update", ct);
        return await db.Packages.Include(p => p.Operations).SingleAsync(p => p.Number == number, ct);
    }

    /// <summary>The locked package with one of its steps; the step is null when it went meanwhile.</summary>
    internal static async Task<(WorkPackage Package, Operation? Step)> StepAsync(OilTagDb db, int number, Guid operationId, CancellationToken ct)
    {
        var package = await LockAsync(db, number, ct);
        return (package, package.Operations.Find(o => o.Id == operationId));
    }
}
