using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Log;

namespace OilTag.Data.Log;

/// <summary>The shed's diary: lines that people write into the log in their own words.</summary>
public sealed class DiaryWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Longest line in characters.</summary>
    public const int Longest = 400;

    /// <summary>Writes a line.</summary>
    /// <param name="key">Key of the form.</param>
    /// <param name="personId">Who writes.</param>
    /// <param name="text">The line.</param>
    /// <param name="machineId">The machine that it is about; null for the shed.</param>
    /// <param name="ct">Ends it.</param>
    public Task<Recorded> WriteAsync(Guid key, Guid personId, string? text, Guid? machineId, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        var problems = new List<Problem>();
        var line = TextRules.Need(problems, "Line", text, "Write what is worth knowing a year from now.", Longest);
        var letter = machineId is { } id ? await db.Machines.Where(m => m.Id == id).Select(m => m.Letter).SingleOrDefaultAsync(ct) : null;
        if (machineId is not null && letter is null)
        {
            problems.Add(new Problem("About", "That machine is not here."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        recorder.Say(LogWords.Diary(line), machineId);
        return Recorded.To(letter is null ? "/log" : $"/log?m={letter}");
    }, ct);
}
