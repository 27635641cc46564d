using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Planning;
using OilTag.Data.Log;

namespace OilTag.Data.Planning;

/// <summary>Tools that measure and their calibration.</summary>
public sealed class ToolWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Lists a tool, or changes one: a new calibration is the usual reason.</summary>
    /// <param name="id">The tool that is changed; null for a new one.</param>
    public Task<Recorded> SetAsync(Guid key, Guid personId, Guid? id, ToolEntry e, uint version, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var (read, problems) = ToolRule.Read(e, today);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (await db.MeasuringTools.AnyAsync(t => t.Name.ToLower() == read!.Name.ToLower() && t.EndedAt == null && t.Id != id, ct))
        {
            return Recorded.Refused("A tool with that name is listed already.", "Name");
        }

        if (id is null)
        {
            db.MeasuringTools.Add(read!);
        }
        else if (await db.MeasuringTools.SingleOrDefaultAsync(t => t.Id == id && t.EndedAt == null, ct) is { } tool)
        {
            db.Entry(tool).Property(t => t.Version).OriginalValue = version;
            (tool.Name, tool.Quantity, tool.Low, tool.High, tool.Until, tool.Paper) = (read!.Name, read.Quantity, read.Low, read.High,
                read.Until, read.Paper);
        }
        else
        {
            return Recorded.Changed;
        }

        recorder.Say($"{(id is null ? "listed" : "changed")} the tool {read!.Name}, {(read.Until is { } until ? $"in calibration until {LogWords.Day(until)}" : "without a calibration on record")}.");
        return Recorded.To("/plan/tools");
    }, ct);

    /// <summary>Takes a tool out of use.</summary>
    public Task<Recorded> EndAsync(Guid key, Guid personId, Guid id, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "EndWhy", why, "Say why it is out of use.", 200);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (await db.MeasuringTools.SingleOrDefaultAsync(t => t.Id == id && t.EndedAt == null, ct) is not { } tool)
        {
            return Recorded.Changed;
        }

        (tool.EndedAt, tool.EndedWhy) = (recorder.Now, reason);
        recorder.Say($"took the tool {tool.Name} out of use: {reason.TrimEnd('.')}.");
        return Recorded.To("/plan/tools");
    }, ct);
}
