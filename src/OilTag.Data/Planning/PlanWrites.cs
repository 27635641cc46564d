using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Planning;
using OilTag.Data.Log;

namespace OilTag.Data.Planning;

/// <summary>Plans that are tried, kept, dropped and promised. A worker works them out; nothing of the record changes by them.</summary>
public sealed class PlanWrites(OilTagDb db, Recorder recorder, PlanLoader plans)
{
    /// <summary>Tried plans and advice that are kept at once.</summary>
    public const int Most = 40;

    /// <summary>Tries a change, alone or on top of those of another tried plan.</summary>
    public Task<Recorded> TryAsync(Guid key, Guid personId, ChangeEntry entry, Guid? onTopOf, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if ((await plans.PresentAsync(ct)).Plan is not { } present)
        {
            return Recorded.Refused("There is no plan yet to change. A worker makes it.");
        }

        var (change, problems) = ChangeRule.Read(entry, present.Input);
        if (change is null)
        {
            return Recorded.Refused(problems);
        }

        var under = onTopOf is { } id ? await db.Plans.AsNoTracking().Where(p => p.Id == id && p.Kind == KeptPlanKind.Tried).Select(p => p.Changes).SingleOrDefaultAsync(ct) : null;
        IReadOnlyList<PlanChange> changes = under is null ? [change] : [.. JsonSerializer.Deserialize<IReadOnlyList<PlanChange>>(under, PlanJson.Options)!, change];
        return await AskAsync(personId, KeptPlanKind.Tried, string.Join("; ", changes.Select(c => c.Words(present.Input))), JsonSerializer.Serialize(changes, PlanJson.Options), today, ct);
    }, ct);

    /// <summary>Tries the changes of a suggestion.</summary>
    public Task<Recorded> TakeAsync(Guid key, Guid personId, Guid advice, int suggestion, bool enough, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var kept = await db.Plans.AsNoTracking().SingleOrDefaultAsync(p => p.Id == advice && p.Kind == KeptPlanKind.Advised && p.State == KeptPlanState.Done, ct);
        var given = kept is null ? null : JsonSerializer.Deserialize<Advice>(kept.Result, PlanJson.Options);
        var list = enough ? given?.Enough : given?.Best;
        if ((await plans.PresentAsync(ct)).Plan is not { } present || list is null || suggestion < 0 || suggestion >= list.Count)
        {
            return Recorded.Refused("That suggestion is not there any more.");
        }

        return await AskAsync(personId, KeptPlanKind.Tried, string.Join("; ", list[suggestion].Changes.Select(c => c.Words(present.Input))), JsonSerializer.Serialize(list[suggestion].Changes, PlanJson.Options), today, ct);
    }, ct);

    /// <summary>Asks what would bring a milestone to a chance.</summary>
    /// <param name="inTen">Wanted chance in tenths, 1 to 10.</param>
    public Task<Recorded> AdviseAsync(Guid key, Guid personId, Guid milestone, int inTen, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var stone = (await plans.PresentAsync(ct)).Plan?.Input.Milestones.FirstOrDefault(m => m.Id == PlanQuery.Id(milestone));
        return stone is null ? Recorded.Refused("The plan does not know that milestone yet. It is worked out anew in a moment.")
            : inTen is < 1 or > 9 ? Recorded.Refused("Choose a chance between 1 and 9 in 10; nothing is certain.", "InTen")
            : await AskAsync(personId, KeptPlanKind.Advised, $"{stone.Name} to {inTen} in 10", JsonSerializer.Serialize(new AdviceAsked(stone.Id, inTen / 10.0), PlanJson.Options), today, ct);
    }, ct);

    /// <summary>Keeps the present plan as what was promised.</summary>
    public Task<Recorded> PromiseAsync(Guid key, Guid personId, string? name, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Name", name, "Say to whom or when it was promised, such as “to the members, spring letter”.", 120);
        var present = (await plans.PresentAsync(ct)).Plan;
        if (present is null)
        {
            problems.Add(new Problem(string.Empty, "There is no plan yet to promise."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var kept = await db.Plans.AsNoTracking().SingleAsync(p => p.Id == present!.Id, ct);
        db.Plans.Add(new KeptPlan { Kind = KeptPlanKind.Promised, State = KeptPlanState.Done, Stamp = kept.Stamp, Day = kept.Day, Name = said, AskedById = personId, AskedAt = recorder.Now, DoneAt = kept.DoneAt, Progress = 1, TookMs = kept.TookMs, Input = kept.Input, Result = kept.Result });
        recorder.Say($"promised the dates of the plan: {said.TrimEnd('.')}.");
        return Recorded.To("/plan/promises");
    }, ct);

    /// <summary>Asks why the dates moved since a promise.</summary>
    public Task<Recorded> WhyMovedAsync(Guid key, Guid personId, Guid promise, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (!await db.Plans.AnyAsync(p => p.Id == promise && p.Kind == KeptPlanKind.Promised, ct))
        {
            return Recorded.Refused("That promise is not on record.");
        }

        await AskAsync(personId, KeptPlanKind.Slipped, string.Empty, JsonSerializer.Serialize(promise, PlanJson.Options), today, ct);
        return Recorded.To("/plan/promises");
    }, ct);

    /// <summary>Drops a tried plan or advice; what was promised stays.</summary>
    public Task<Recorded> DropAsync(Guid key, Guid personId, Guid id, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var gone = await db.Plans.Where(p => p.Id == id && (p.Kind == KeptPlanKind.Tried || p.Kind == KeptPlanKind.Advised)).ExecuteDeleteAsync(ct);
        return gone > 0 ? Recorded.To("/plan/try") : Recorded.Refused("It was dropped already.");
    }, ct);

    private async Task<Recorded> AskAsync(Guid personId, KeptPlanKind kind, string name, string changes, LocalDate today, CancellationToken ct)
    {
        if (await db.Plans.CountAsync(p => p.Kind == KeptPlanKind.Tried || p.Kind == KeptPlanKind.Advised, ct) >= Most)
        {
            return Recorded.Refused($"{Most} tries are kept. Drop some first.");
        }

        if (kind == KeptPlanKind.Slipped)
        {
            await db.Plans.Where(p => p.Kind == kind && p.Changes == changes).ExecuteDeleteAsync(ct);
        }

        var plan = new KeptPlan { Kind = kind, State = KeptPlanState.Waiting, Day = today, Name = name.Length > 120 ? name[..119] + "…" : name, Changes = changes, AskedById = personId, AskedAt = recorder.Now };
        db.Plans.Add(plan);
        return Recorded.To($"/plan/try/{plan.Id}");
    }
}
