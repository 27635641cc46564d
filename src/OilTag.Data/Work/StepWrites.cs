using System.Globalization;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Cautions;
using OilTag.Core.Stores;
using OilTag.Core.Survey;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Work;

/// <summary>A package as somebody plans it.</summary>
/// <param name="Letter">Machine.</param>
/// <param name="PlaceId">Place; null for the whole machine.</param>
/// <param name="Tag">Number of a tag, or null.</param>
/// <param name="Findings">Numbers of the findings that it clears.</param>
/// <param name="MilestoneId">Milestone that it serves, or null.</param>
/// <param name="Title">What is done.</param>
/// <param name="Purpose">What it is for.</param>
/// <param name="Lines">Steps as they are written.</param>
/// <param name="StartedFrom">The starting steps that it began with; empty for none.</param>
public sealed record NewPackage(string? Letter, Guid? PlaceId, int? Tag, IReadOnlyList<int> Findings, Guid? MilestoneId, string? Title,
    string? Purpose, string? Lines, string? StartedFrom);

/// <summary>Opens packages, changes their steps, and keeps the library of starting steps.</summary>
public sealed class StepWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Longest text of steps.</summary>
    public const int LongestLines = 40_000;

    /// <summary>Opens a package that somebody planned. Findings that it is for and that nobody has decided about are decided with it.</summary>
    public Task<Recorded> OpenAsync(Guid key, Guid personId, NewPackage e, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var title = TextRules.Need(problems, "Title", e.Title, "Say what is done, such as fit a new keel strip.",
            PackageRules.LongestTitle);
        var purpose = TextRules.Optional(problems, "Purpose", e.Purpose, PackageRules.LongestPurpose);
        var lines = TextRules.Optional(problems, "Lines", e.Lines, LongestLines);
        var tag = e.Tag is { } n ? await db.Tags.AsNoTracking().SingleOrDefaultAsync(t => t.Number == n, ct) : null;
        if (e.Tag is not null && tag is null)
        {
            problems.Add(new Problem("Tag", $"There is no tag {e.Tag}."));
        }

        var findings = await db.Findings.Where(f => e.Findings.Contains(f.Number)).OrderBy(f => f.Number).ToListAsync(ct);
        if (findings.Count != e.Findings.Distinct().Count())
        {
            problems.Add(new Problem("Findings", "One of the findings is not there. Check their numbers."));
        }

        var machine = await MachineAsync(e, tag?.MachineId ?? findings.FirstOrDefault()?.MachineId, ct);
        if (machine is null)
        {
            problems.Add(new Problem("Machine", "Choose the machine."));
        }
        else if (findings.Exists(f => f.MachineId != machine) || (tag is not null && tag.MachineId != machine))
        {
            problems.Add(new Problem("Findings", "They are not all of one machine. Open a package for each machine."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var place = e.PlaceId ?? tag?.SlotId ?? findings.FirstOrDefault()?.PlaceId;
        var at = place is { } p
            ? await db.Places.AsNoTracking().SingleOrDefaultAsync(x => x.Id == p && x.MachineId == machine, ct)
            : await db.Places.AsNoTracking().Where(x => x.MachineId == machine && x.ParentId == null).OrderBy(x =>
                x.Order).FirstOrDefaultAsync(ct);
        if (at is null)
        {
            return Recorded.Refused("That place is not on this machine. Choose it again.", "PlaceId");
        }

        if (findings.Count > 0 && purpose.Length == 0)
        {
            return Recorded.Refused("Say what it is for; it is kept as the reason of the decision.", "Purpose");
        }

        var ids = findings.ConvertAll(f => f.Id);
        await db.Database.ExecuteSqlAsync($"select 1 from findings where id = any({ids}) order by id for update", ct);
        if (await (from d in db.Decisions
                   join f in db.Findings on d.FindingId equals f.Id
                   where ids.Contains(f.Id) && !d.Replaced
            && (f.OpensOn == null || f.OpensOn > today)
                   select f.Number).FirstOrDefaultAsync(ct) is > 0 and var settled)
        {
            return Recorded.Refused($"F{settled} is decided already. Leave it out, or take its decision back first.", "Findings");
        }

        var (read, _) = await StepQuery.ReadAsync(db, lines, ct);
        var change = StepChange.Of([], Fresh(read), new HashSet<Guid>());
        if (change.Problems.Count > 0)
        {
            return Recorded.Refused(change.Problems);
        }

        if (e.MilestoneId is { } stone && !await db.Milestones.AnyAsync(m => m.Id == stone && m.EndedAt == null, ct))
        {
            return Recorded.Refused("That milestone is not there any more. Choose another.", "Milestone");
        }

        var package = new WorkPackage
        {
            MachineId = machine!.Value,
            PlaceId = at.Id,
            Title = title,
            Purpose = purpose,
            FindingId = findings.Count == 1 ? findings[0].Id : null,
            TagId = tag?.Id ?? (findings.Select(f => f.TagId).Distinct().ToList() is [{ } one] ? one : null),
            MilestoneId = e.MilestoneId,
            StartedFrom = (await StepQuery.SetAsync(db, e.StartedFrom, ct))?.Name ?? string.Empty,
            OpenedAt = recorder.Now,
            Operations = [.. change.Fates.Select(f => StepChange.Make(f.Typed, f.Order))],
        };
        db.Packages.Add(package);
        await db.SaveChangesAsync(ct);
        recorder.Say(WorkLog.Opened(package.Number, package.Title), package.MachineId, at.Id, package.TagId, package.Id);
        foreach (var old in await db.Decisions.Where(d => ids.Contains(d.FindingId) && !d.Replaced).ToListAsync(ct))
        {
            old.Replaced = true;
        }

        await db.SaveChangesAsync(ct);
        foreach (var f in findings)
        {
            db.Decisions.Add(new Decision
            {
                FindingId = f.Id,
                Disposition = Disposition.Repair,
                Why = purpose,
                PackageId = findings.Count > 1 ? package.Id : null,
                ById = personId,
                At = recorder.Now
            });
            recorder.Say(SurveyLog.Settled(f.Number, Disposition.Repair, string.Empty, purpose), f.MachineId, f.PlaceId, f.TagId,
                package.Id);
        }

        return Recorded.To($"/w/{package.Number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Changes the open steps of a package: adds, renames, splits, joins, moves, removes, estimates.</summary>
    /// <param name="seen">The number of the steps that the form showed.</param>
    /// <param name="why">Why; needed when something changes that somebody has worked at.</param>
    public Task<Recorded> ChangeAsync(Guid key, Guid personId, int number, string? lines, string? why, int seen, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await PackageWrites.LockAsync(db, number, ct);
        if (package.Revision != seen)
        {
            return Recorded.Changed;
        }

        if (package.ClosedAt is not null)
        {
            return Recorded.Refused("The package is closed.");
        }

        var problems = new List<Problem>();
        var text = TextRules.Optional(problems, "Lines", lines, LongestLines);
        var reason = TextRules.Optional(problems, "Why", why, 500);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var (read, words) = await StepQuery.ReadAsync(db, text, ct);
        var change = StepChange.Of(package.Operations, read, await BegunAsync(package.Id, ct));
        if (change.Problems.Count > 0)
        {
            return Recorded.Refused(change.Problems);
        }

        if (change.Changes.Count == 0)
        {
            return Recorded.Refused("Nothing is different yet.", "Lines");
        }

        if (change.Begun.Count > 0 && reason.Length == 0)
        {
            return Recorded.Refused($"Somebody has worked at “{change.Begun[0]}”. Say why it changes.", "Why");
        }

        if (await KeptAsync(change.Removed, ct) is { } kept)
        {
            return Recorded.Refused(kept, "Lines");
        }

        await RemoveAsync(package, change.Removed, ct);
        foreach (var (existing, typed, order) in change.Fates)
        {
            if (existing is null)
            {
                package.Operations.Add(StepChange.Make(typed, order));
                continue;
            }

            var hours = StepChange.Hours(existing, typed.Hours);
            (existing.Order, existing.Name, existing.Hold, existing.Beside, existing.Note, existing.Readings, existing.Kit) = (order,
                typed.Name, typed.Hold, typed.Beside, typed.Note, typed.Readings, typed.Kit);
            (existing.Low, existing.Likely, existing.High) = (hours.Low, hours.Likely, hours.High);
            existing.Needs = StepChange.Needs(existing.Needs, typed.Needs, a => words.NameOf(a) is not null);
        }

        var at = 0;
        foreach (var done in package.Operations.Where(o => o.DoneAt is not null).OrderBy(o => o.Order).ToList())
        {
            done.Order = ++at;
        }

        if (await PackageWrites.CircleAsync(db, package, ct) is { Length: > 0 } circle)
        {
            return Recorded.Refused($"Then steps would wait for each other in a circle: {circle}.", "Lines");
        }

        package.Revision++;
        db.PackageRevisions.Add(new PackageRevision
        {
            PackageId = package.Id,
            Number = package.Revision,
            Changes = change.Changes,
            Why = reason,
            ById = personId,
            At = recorder.Now
        });
        recorder.Say($"changed the steps of package {number}: {Told(change.Changes)}.{(reason.Length > 0 ? $" Why: {reason.TrimEnd('.')}." : string.Empty)}", package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Says how many of something that a step names lie ready. What is short becomes wanted at once, if a lead says so.</summary>
    public Task<Recorded> LayOutAsync(Guid key, Guid personId, int number, Guid operationId, string? what, int here,
        CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var package = await PackageWrites.LockAsync(db, number, ct);
        if (package.ClosedAt is not null || package.Operations.Find(o => o.Id == operationId && o.DoneAt is null) is not { } step
            || step.Kit.FirstOrDefault(i => i.What == what) is not { } item)
        {
            return Recorded.Changed;
        }

        if (here < 0 || here > 100_000)
        {
            return Recorded.Refused("Count what lies there: nought or more.", "Here");
        }

        var laid = await db.LaidOut.SingleOrDefaultAsync(l => l.OperationId == step.Id && l.What == item.What, ct);
        if (laid is null)
        {
            db.LaidOut.Add(laid = new LaidOut { OperationId = step.Id, What = item.What });
        }

        (laid.Here, laid.ById, laid.At) = (here, personId, recorder.Now);
        var missing = item.Count - here;
        var open = step.Needs.Demands;
        if (missing > 0 && !await db.Demands.AnyAsync(d => open.Contains(d.Id) && d.End == null && d.What == item.What, ct))
        {
            var demand = new Demand
            {
                MachineId = package.MachineId,
                PlaceId = package.PlaceId,
                TagId = package.TagId,
                What = item.What,
                Quantity = missing,
                Source = DemandSource.Package,
                At = recorder.Now
            };
            db.Demands.Add(demand);
            step.Needs = step.Needs with { Demands = [.. step.Needs.Demands, demand.Id] };
            db.Entry(step).Property(o => o.Needs).IsModified = true;
        }

        recorder.Say(missing <= 0 ? $"laid out {item.What} for “{step.Name}” of package {number}."
            : $"laid out {here} of {item.Count} {item.What} for “{step.Name}” of package {number}; the rest is wanted.", package.MachineId,
            package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}#laid");
    }, ct);

    /// <summary>Somebody has read cautions at a step.</summary>
    public Task<Recorded> ReadCautionsAsync(Guid key, Guid personId, int number, Guid operationId, IReadOnlyList<int> cautions,
        CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var found = await (from o in db.Operations
                           join k in db.Packages on o.PackageId equals k.Id
                           where o.Id == operationId
            && k.Number == number
                           select new { o.Name, k.Id, k.MachineId, k.PlaceId, k.TagId }).SingleOrDefaultAsync(ct);
        if (found is null || cautions.Count == 0 || cautions.Any(c => c < 1 || c > CautionRules.Count))
        {
            return Recorded.Changed;
        }

        var read = await db.CautionReads.Where(c => c.OperationId == operationId && c.ById == personId).Select(c =>
            c.Caution).ToListAsync(ct);
        var now = cautions.Distinct().Except(read).Order().ToList();
        db.CautionReads.AddRange(now.Select(c => new CautionRead
        {
            OperationId = operationId,
            Caution = c,
            ById = personId,
            At = recorder.Now
        }));
        if (now.Count > 0)
        {
            recorder.Say($"read the cautions at “{found.Name}” of package {number}: {string.Join(", ", now.Select(c => CautionRules.Hazard(c).ToLowerInvariant()))}.", found.MachineId, found.PlaceId, found.TagId, found.Id);
        }

        return Recorded.To($"/w/{number}");
    }, ct);

    /// <summary>Keeps steps in the library for the next time.</summary>
    /// <param name="id">The set that is changed, or null for a new one.</param>
    public Task<Recorded> KeepSetAsync(Guid key, Guid personId, Guid? id, string? name, string? words, string? lines, uint version,
        CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var called = TextRules.Need(problems, "Name", name, "Give it a name, such as riveted skin.", 80);
        var about = TextRules.Optional(problems, "Words", words, 120);
        var text = TextRules.Need(problems, "Lines", lines, "Write its steps, one a line.", LongestLines);
        var lower = called.ToLowerInvariant();
        if (problems.Count == 0 && await db.StepSets.AnyAsync(s => s.EndedAt == null && s.Id != id && s.Name.ToLower() == lower, ct))
        {
            problems.Add(new Problem("Name", $"There are starting steps “{called}” already. Change those, or choose another name."));
        }

        if (problems.Count == 0 && StepText.Read(text, StepWords.None).Steps.Count > StepText.MostSteps)
        {
            problems.Add(new Problem("Lines", $"{StepText.MostSteps} steps fit."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        // In the library nothing is a step of a package, so no number stands before a line.
        var clean = StepText.Write(StepText.Read(text, StepWords.None).Steps.Select(s => s with { Was = null }), StepWords.None);
        if (id is null)
        {
            db.StepSets.Add(new StepSet { Name = called, Words = about, Lines = clean, ById = personId, At = recorder.Now });
            recorder.Say($"kept the starting steps “{called}”.");
            return Recorded.To("/work/library");
        }

        if (await db.StepSets.SingleOrDefaultAsync(s => s.Id == id && s.EndedAt == null, ct) is not { } set)
        {
            return Recorded.Refused("Somebody took these starting steps out of the library. Keep them anew.");
        }

        db.Entry(set).Property(s => s.Version).OriginalValue = version;
        var before = new { set.Name, set.Words, set.Lines };
        (set.Name, set.Words, set.Lines) = (called, about, clean);
        db.Entry(set).Property(s => s.Name).IsModified = true;
        recorder.Say($"changed the starting steps “{called}”.", before: before, after: new { set.Name, set.Words, set.Lines });
        return Recorded.To("/work/library");
    }, ct);

    /// <summary>Takes a set of the group's own out of the library. Packages that began with it stay as they are.</summary>
    public Task<Recorded> EndSetAsync(Guid key, Guid personId, Guid id, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.StepSets.SingleOrDefaultAsync(s => s.Id == id && s.EndedAt == null, ct) is not { } set)
        {
            return Recorded.Refused("It is out of the library already.");
        }

        set.EndedAt = recorder.Now;
        recorder.Say($"took the starting steps “{set.Name}” out of the library.");
        return Recorded.To("/work/library");
    }, ct);

    /// <summary>Lines of a package as they are kept for the next time: without numbers, done steps too.</summary>
    public static string LinesOf(WorkPackage package, StepWords words)
    {
        ArgumentNullException.ThrowIfNull(package);
        return StepText.Write(package.Operations.OrderBy(o => o.Order).Select(o =>
            StepChange.Typed(o, false) with { Needs = o.Needs with { After = [], OnDay = null, Demands = [] } }), words);
    }

    // Numbers before the lines of a new package are those of the list that was pasted.
    private static ReadSteps Fresh(ReadSteps read) => read with { Steps = [.. read.Steps.Select(s => s with { Was = null })] };

    private async Task<Guid?> MachineAsync(NewPackage e, Guid? known, CancellationToken ct) =>
        string.IsNullOrEmpty(e.Letter) ? known : await db.Machines.Where(m => m.Letter == e.Letter).Select(m =>
            (Guid?)m.Id).SingleOrDefaultAsync(ct);

    // Open steps that somebody worked at: hours are booked on them, or readings were taken.
    private async Task<HashSet<Guid>> BegunAsync(Guid packageId, CancellationToken ct) =>
        [.. await db.Operations.Where(o => o.PackageId == packageId && o.DoneAt == null
        && (db.Hours.Any(h => h.OperationId == o.Id) || db.StepReadings.Any(r => r.OperationId == o.Id)
            || db.TorqueReadings.Any(r => db.BoltGroups.Any(g => g.Id == r.GroupId && g.OperationId == o.Id)))).Select(o =>
            o.Id).ToListAsync(ct)];

    // What holds on to a step that is to be taken out, in words.
    private async Task<string?> KeptAsync(IReadOnlyList<Operation> removed, CancellationToken ct)
    {
        var ids = removed.Select(o => o.Id).ToList();
        if (ids.Count == 0)
        {
            return null;
        }

        var kept = await db.KeptAnswers.Where(k => k.OperationId != null && ids.Contains(k.OperationId.Value)).Select(k =>
            k.OperationId).FirstOrDefaultAsync(ct);
        var called = kept is null ? await db.CallOuts.Where(c => c.OperationId != null && ids.Contains(c.OperationId.Value)).Select(c =>
            c.OperationId).FirstOrDefaultAsync(ct) : null;
        var name = removed.FirstOrDefault(o => o.Id == (kept ?? called))?.Name;
        return name is null ? null
            : kept is not null ? $"Something that was worked out on the bench is kept with “{name}”. Keep its line, or take that away first."
            : $"People were called out for “{name}”. Keep its line, or end the call first.";
    }

    private async Task RemoveAsync(WorkPackage package, IReadOnlyList<Operation> removed, CancellationToken ct)
    {
        var ids = removed.Select(o => o.Id).ToList();
        if (ids.Count == 0)
        {
            return;
        }

        await db.DayJobs.Where(j => j.OperationId != null && ids.Contains(j.OperationId.Value)).ExecuteDeleteAsync(ct);
        await db.CautionReads.Where(c => ids.Contains(c.OperationId)).ExecuteDeleteAsync(ct);
        await db.BoltGroups.Where(g => ids.Contains(g.OperationId)).ExecuteDeleteAsync(ct);
        await db.HiddenDamages.Where(s => s.AfterId != null && ids.Contains(s.AfterId.Value)).ExecuteUpdateAsync(u =>
            u.SetProperty(s => s.AfterId, (Guid?)null), ct);
        foreach (var step in removed)
        {
            package.Operations.Remove(step);
            db.Operations.Remove(step);
        }
    }

    private static string Told(IReadOnlyList<string> changes) =>
        changes.Count <= 4 ? string.Join("; ", changes) : string.Join("; ", changes.Take(3)) + $"; and {changes.Count - 3} more";
}
