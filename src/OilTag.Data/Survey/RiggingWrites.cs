using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>A rigging check as it is typed; stations and adjusters are one a line.</summary>
public sealed record RiggingEntry(string? Title, string? Levelled, string? Stations, string? Adjusters);

/// <summary>Everything that is recorded on rigging checks.</summary>
public sealed class RiggingWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Begins a check at a place, or changes one. Stations of a check that was read are not changed: their readings would stand for something else.</summary>
    /// <param name="number">Number of the check; null for a new one.</param>
    /// <param name="placeId">Place of a new one.</param>
    /// <param name="version">Version of the check when the form was loaded.</param>
    public Task<Recorded> SaveAsync(Guid key, Guid personId, int? number, Guid placeId, uint version, RiggingEntry e, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(e);
        var check = number is { } n ? await db.RiggingChecks.SingleOrDefaultAsync(c => c.Number == n, ct) : null;
        if (number is not null && (check is null || check.Version != version))
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var title = TextRules.Need(problems, "CheckTitle", e.Title, "Say what is checked.", 120);
        var levelled = TextRules.Optional(problems, "Levelled", e.Levelled, 300);
        var stations = RiggingRule.Stations(e.Stations, problems);
        var adjusters = RiggingRule.Adjusters(e.Adjusters, stations, problems);
        if (check is not null && !check.Stations.Select(s => s.Text).SequenceEqual(stations.Select(s => s.Text)) && await db.RigReadings.AnyAsync(r => r.CheckId == check.Id, ct))
        {
            problems.Add(new Problem("Stations", "They were read already. Begin a new check for other stations; this one keeps what was read."));
        }

        var machine = check?.MachineId ?? await db.Places.Where(p => p.Id == placeId).Select(p => (Guid?)p.MachineId).SingleOrDefaultAsync(ct);
        if (machine is null)
        {
            problems.Add(new Problem(string.Empty, "Choose the place first."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var isNew = check is null;
        check ??= new RiggingCheck { MachineId = machine!.Value, PlaceId = placeId, Title = title, ById = personId, At = recorder.Now };
        var before = isNew ? null : new { check.Title, check.Levelled, Adjusters = check.Adjusters.Select(a => a.Text) };
        (check.Title, check.Levelled, check.Stations, check.Adjusters) = (title, levelled, stations, adjusters);
        if (isNew)
        {
            db.RiggingChecks.Add(check);
            await db.SaveChangesAsync(ct);
        }

        recorder.Say(SurveyLog.Rigging(check.Number, title, !isNew), check.MachineId, check.PlaceId, before: before);
        return Recorded.To($"/g/{check.Number}");
    }, ct);

    /// <summary>Keeps readings, those that were typed only. A later one stands for an earlier one.</summary>
    /// <param name="typed">What was typed, by index of the station.</param>
    /// <param name="fromLevel">True when it came from the digital level.</param>
    public Task<Recorded> ReadAsync(Guid key, Guid personId, int number, IReadOnlyList<string?> typed, bool fromLevel, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(typed);
        if (await db.RiggingChecks.AsNoTracking().SingleOrDefaultAsync(c => c.Number == number, ct) is not { } check || typed.Count > check.Stations.Count)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var read = 0;
        for (var i = 0; i < typed.Count; i++)
        {
            if (string.IsNullOrWhiteSpace(typed[i]))
            {
                continue;
            }

            var (value, refusal) = RiggingRule.Reading(check.Stations[i], typed[i]);
            if (value is not { } v)
            {
                problems.Add(new Problem($"Read{i}", refusal!));
                continue;
            }

            read++;
            db.RigReadings.Add(new RigReading { CheckId = check.Id, Station = i, Value = v, Text = typed[i]!.Trim(), FromLevel = fromLevel, ById = personId, At = recorder.Now });
        }

        if (read == 0 && problems.Count == 0)
        {
            problems.Add(new Problem(string.Empty, "Type at least one reading."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        recorder.Say(SurveyLog.Rigging(number, read, fromLevel), check.MachineId, check.PlaceId);
        return Recorded.To($"/g/{number}");
    }, ct);

    /// <summary>The latest reading of each station.</summary>
    public static async Task<IReadOnlyDictionary<int, RigReading>> LatestAsync(OilTagDb db, Guid checkId, CancellationToken ct) =>
        (await db.RigReadings.AsNoTracking().Where(r => r.CheckId == checkId).OrderBy(r => r.At).ThenBy(r => r.Id).ToListAsync(ct)).GroupBy(r => r.Station).ToDictionary(g => g.Key, g => g.Last());
}
