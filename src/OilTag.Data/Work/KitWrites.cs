using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Work;
using OilTag.Data.Log;

namespace OilTag.Data.Work;

/// <summary>What lies ready before a step is begun, and a lead's reason for beginning it all the same.</summary>
public sealed class KitWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Why a step is not begun yet, in a sentence; null when all that it names lies ready or a lead let it begin.</summary>
    public static async Task<string?> WhyNotBeginAsync(OilTagDb db, Operation step, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(step);
        return step.Kit.Count == 0 || step.BegunWithout.Length > 0
            ? null
            : KitRule.WhyNot(step, await db.LaidOut.AsNoTracking().Where(l => l.OperationId == step.Id).ToListAsync(ct));
    }

    /// <summary>A lead lets a step begin although something does not lie ready.</summary>
    public Task<Recorded> BeginWithoutAsync(Guid key, Guid personId, int number, Guid operationId, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var package = await PackageWrites.LockAsync(db, number, ct);
        if (package.ClosedAt is not null || package.Operations.Find(o => o.Id == operationId && o.DoneAt is null) is not { } step)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "BeginWhy", why, "Say why it is begun without it.", 200);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        step.BegunWithout = reason;
        recorder.Say($"lets “{step.Name}” of package {number} begin although not everything lies ready: {reason.TrimEnd('.')}.",
            package.MachineId, package.PlaceId, package.TagId, package.Id);
        return Recorded.To($"/w/{number}");
    }, ct);
}
