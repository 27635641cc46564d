using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>Wires, hoses, pipes, rods and cables that cross places.</summary>
public sealed class RunWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Records a run, or what is now so of one that is known by its name.</summary>
    /// <param name="places">Places that it crosses, from one end to the other.</param>
    public Task<Recorded> SetAsync(Guid key, Guid personId, string letter, string? name, ConnectionKind kind, string? ends, RunState state, IReadOnlyList<Guid> places, int? undoMinutes, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Letter == letter, ct);
        var known = (await db.Places.Where(p => p.MachineId == m.Id).Select(p => p.Id).ToListAsync(ct)).ToHashSet();
        var crossed = places.Distinct().ToList();
        var problems = RunRule.Check(name, ends, crossed, known, undoMinutes);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var n = name!.Trim();
        var run = await db.Runs.FirstOrDefaultAsync(r => r.MachineId == m.Id && r.Name == n, ct);
        var before = run is null ? null : new { run.State, run.Ends, run.Places, run.UndoMinutes };
        if (run is null)
        {
            run = new Run { MachineId = m.Id, Name = n, Kind = kind };
            db.Runs.Add(run);
        }

        (run.Ends, run.State, run.Places, run.UndoMinutes, run.At, run.ById) = ((ends ?? string.Empty).Trim(), state, crossed, undoMinutes, recorder.Now, personId);
        recorder.Say(StripLog.Run(run.Kind, n, state, crossed.Count), m.Id, crossed[0], before: before, after: new { run.State, run.Ends, run.Places, run.UndoMinutes });
        return Recorded.To($"/machines/{letter}/runs");
    }, ct);
}
