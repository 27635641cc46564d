using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.Stores;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.Make;

namespace OilTag.Data.Work;

/// <summary>The form that says what a package serves and what it waits on.</summary>
public sealed record PackageEdit(Guid? MilestoneId, string? WaitingOn, Guid? WaitingForId, string? EstimatePounds, uint Version);

/// <summary>Steps, signatures, costs and the closing of packages.</summary>
public sealed class PackageWrites(OilTagDb db, Recorder recorder)
{
    public Task<Recorded> StepDoneAsync(Guid key, Guid personId, int number, Guid operationId, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(number, ct);
        if (package.Operations.Find(o => o.Id == operationId) is not { } step)
        {
            return Recorded.Changed;
        }

        if (PackageRules.WhyNotFinish(package, step) is { } why)
        {
            return Recorded.Refused(why);
        }

        if ((await MakingWrites.HeldUpAsync(db, ct))[package.Id].FirstOrDefault() is { } held)
        {
            return Recorded.Refused(held);
        }

        step.DoneAt = recorder.Now;
        step.DoneById = personId;
        recorder.Say(WorkLog.Finished(step.Name, number), package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Why this person cannot sign this hold point.</summary>
    public static async Task<IReadOnlyList<Problem>> WhyNotSignAsync(OilTagDb db, WorkPackage package, Operation hold, Guid personId, bool isInspector, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(package);
        ArgumentNullException.ThrowIfNull(hold);
        var worked = package.Operations.Exists(o => !o.Hold && o.DoneById == personId)
            || await db.Hours.AnyAsync(h => h.PackageId == package.Id && h.PersonId == personId, ct)
            || await (from m in db.StageMoves join s in db.Stages on m.StageId equals s.Id join c in db.RouteCards on s.RouteCardId equals c.Id where c.PackageId == package.Id && m.ById == personId && m.Kind != MoveKind.Shop select m.Id).AnyAsync(ct);
        return PackageRules.WhyNotSign(
            isInspector,
            worked,
            [.. package.Operations.Where(o => o.Order < hold.Order && o.DoneAt is null).OrderBy(o => o.Order).Select(o => o.Name)],
            hold.DoneAt is not null,
            package.ClosedAt is not null);
    }

    /// <param name="isInspector">Whether the database, not the cookie, says that they are an inspector.</param>
    public Task<Recorded> SignAsync(Guid key, Guid personId, bool isInspector, int number, Guid operationId, string? note, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(number, ct);
        if (package.Operations.Find(o => o.Id == operationId && o.Hold) is not { } hold)
        {
            return Recorded.Changed;
        }

        var problems = (await WhyNotSignAsync(db, package, hold, personId, isInspector, ct)).ToList();
        var words = TextRules.Need(problems, "Note", note, "Say what you inspected and what you found.", 500);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.SignOffs.Add(new SignOff { OperationId = hold.Id, ById = personId, At = recorder.Now, Note = words });
        hold.DoneAt = recorder.Now;
        hold.DoneById = personId;
        recorder.Say(WorkLog.Lifted(hold.Name, number, words), package.MachineId, package.PlaceId, package.TagId, package.Id);
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

        return PackageRules.WhyNotClose(
            [.. package.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order).Select(o => (o.Name, o.Hold))],
            unfinished,
            package.WaitingOn,
            package.ClosedAt is not null);
    }

    public Task<Recorded> CloseAsync(Guid key, Guid personId, int number, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(number, ct);
        var problems = await WhyNotCloseAsync(db, package, ct);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        package.ClosedAt = recorder.Now;
        package.ClosedById = personId;
        recorder.Say(WorkLog.Closed(number, package.Title), package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    public Task<Recorded> EditAsync(Guid key, Guid personId, int number, PackageEdit e, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await db.Packages.SingleAsync(p => p.Number == number, ct);
        var problems = new List<Problem>();
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
        object Snapshot() => new { package.MilestoneId, package.WaitingOn, package.WaitingForId, package.EstimatePence };
        var before = Snapshot();
        var was = package.WaitingOn;
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

    public Task<Recorded> SpendAsync(Guid key, Guid personId, int number, string? what, string? pounds, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
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
    public Task<Recorded> PlaceInPlanAsync(Guid key, Guid personId, int number, bool opens, string? takesAway, LocalDate? notBefore, string? undoneBy, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(number, ct);
        if (package.ClosedAt is not null)
        {
            return Recorded.Refused("The package is closed.");
        }

        var (gone, numbers, found) = PackageRules.CheckPlace(takesAway, notBefore, undoneBy, number, today);
        var problems = found.ToList();
        var others = await db.Packages.AsNoTracking().Where(p => numbers.Contains(p.Number) && p.ClosedAt == null).ToDictionaryAsync(p => p.Number, p => p.Id, ct);
        problems.AddRange(numbers.Where(n => !others.ContainsKey(n)).Select(n => new Problem("UndoneBy", $"There is no open package {n}.")));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        object Snapshot() => new { package.Opens, package.TakesAway, NotBefore = package.NotBefore?.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture), package.UndoneBy };
        var before = Snapshot();
        (package.Opens, package.TakesAway, package.NotBefore, package.UndoneBy) = (opens, gone, notBefore, [.. numbers.Select(n => others[n])]);
        recorder.Say(notBefore is { } day ? $"put package {number} off to {LogWords.Day(day)}." : $"said how package {number} lies in the plan.", package.MachineId, package.PlaceId, package.TagId, package.Id, before, Snapshot());
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>What a step needs besides hours, and what has to come before it can start.</summary>
    public Task<Recorded> NeedsAsync(Guid key, Guid personId, int number, Guid operationId, NeedsEntry entry, DemandEntry demand, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await LockAsync(number, ct);
        if (package.Operations.Find(o => o.Id == operationId) is not { } step)
        {
            return Recorded.Changed;
        }

        if (package.ClosedAt is not null || step.DoneAt is not null)
        {
            return Recorded.Refused(package.ClosedAt is not null ? "The package is closed." : $"“{step.Name}” is done already.");
        }

        var open = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.DoneAt == null && k.ClosedAt == null select new { o.Id, o.Order, k.Number, o.PackageId }).ToListAsync(ct);
        var (needs, found) = NeedsRule.Check(entry, today, (p, s) => open.FirstOrDefault(o => o.Number == p && o.Order == s)?.Id, step.Needs);
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
        if (problems.Count == 0 && await CircleAsync(step, needs.After, ct) is { Length: > 0 } circle)
        {
            problems.Add(new Problem("After", $"Then they would wait for each other in a circle: {circle}."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (read is not null)
        {
            var wanted = new Demand { MachineId = package.MachineId, PlaceId = package.PlaceId, TagId = package.TagId, What = read.What, Quantity = read.Quantity, Source = DemandSource.Package, At = recorder.Now, Lead = read.Lead, Enquiry = read.Enquiry };
            db.Demands.Add(wanted);
            needs = needs with { Demands = [.. needs.Demands, wanted.Id] };
        }

        var before = step.Needs;
        step.Needs = needs;
        db.Entry(step).Property(o => o.Needs).IsModified = true;
        recorder.Say($"said what “{step.Name}” of package {number} needs{(read is null ? string.Empty : $": {read.What} among it")}.", package.MachineId, package.PlaceId, package.TagId, package.Id, before, needs);
        return Recorded.To($"/w/{number}/needs/{step.Order}");
    }, ct);

    /// <summary>Something was ordered.</summary>
    public Task<Recorded> OrderedAsync(Guid key, Guid personId, Guid demandId, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from demands where id = {demandId} for update", ct);
        if (await db.Demands.SingleOrDefaultAsync(d => d.Id == demandId, ct) is not { } demand)
        {
            return Recorded.Refused("There is no such demand. Load the plan again.");
        }

        if (demand.OrderedOn is not null || demand.End is not null)
        {
            return Recorded.Refused(demand.End is not null ? $"{demand.What} is not wanted any more." : $"{demand.What} is ordered already.");
        }

        demand.OrderedOn = today;
        recorder.Say(WorkLog.Ordered(demand.Quantity, demand.What), demand.MachineId, demand.PlaceId, demand.TagId);
        return Recorded.To("/plan#orders");
    }, ct);

    // The steps that would wait for each other, in words; empty when none would.
    private async Task<string> CircleAsync(Operation step, IReadOnlyList<Guid> after, CancellationToken ct)
    {
        if (after.Count == 0)
        {
            return string.Empty;
        }

        var open = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.DoneAt == null && k.ClosedAt == null orderby k.Number, o.Order select new { o, k.Number }).AsNoTracking().ToListAsync(ct);
        var at = open.Select((x, i) => (x.o.Id, i)).ToDictionary(x => x.Id, x => x.i);
        var next = open.Select(_ => new List<int>()).ToArray();
        for (var i = 0; i < open.Count; i++)
        {
            if (i > 0 && open[i - 1].o.PackageId == open[i].o.PackageId)
            {
                next[i - 1].Add(i);
            }

            foreach (var a in (open[i].o.Id == step.Id ? after : open[i].o.Needs.After).Where(at.ContainsKey))
            {
                next[at[a]].Add(i);
            }
        }

        return string.Join(" → ", Core.Planning.Project.Circle([.. next.Select(x => x.ToArray())]).Select(i => $"{open[i].o.Name} ({open[i].Number}.{open[i].o.Order})"));
    }

    private async Task<WorkPackage> LockAsync(int number, CancellationToken ct)
    {
        await db.Database.ExecuteSqlAsync($"select 1 from packages where number = {number} for update", ct);
        return await db.Packages.Include(p => p.Operations).SingleAsync(p => p.Number == number, ct);
    }
}
