using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data.Log;

namespace OilTag.Data.Strip;

/// <summary>Trial assemblies: begun, checked, ended.</summary>
public sealed class TrialWrites(OilTagDb db, Recorder recorder)
{
    private static string Page(string letter, int number) => $"/machines/{letter}/trials/{number.ToString(CultureInfo.InvariantCulture)}";

    /// <summary>Begins one. A machine has one trial at a time, so that it is plain which one a part is in for.</summary>
    public Task<Recorded> BeginAsync(Guid key, Guid personId, string letter, Guid? placeId, string? checks, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var m = await db.Machines.AsNoTracking().SingleAsync(x => x.Letter == letter, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {m.Id} for update", ct);
        var problems = new List<Problem>();
        var place = await db.Places.AsNoTracking().FirstOrDefaultAsync(p => p.Id == placeId && p.MachineId == m.Id, ct);
        if (place is not { Kind: PlaceKind.Assembly })
        {
            problems.Add(new Problem("PlaceId", "Choose the assembly that is tried."));
        }

        var (lines, problem) = TrialRule.Read(checks);
        if (problem is not null)
        {
            problems.Add(problem);
        }

        if (await db.Trials.Where(t => t.MachineId == m.Id && t.EndedAt == null).Select(t => (int?)t.Number).FirstOrDefaultAsync(ct) is { } going)
        {
            problems.Add(new Problem(string.Empty, $"Trial {going} goes on. End it first."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var number = (await db.Trials.Where(t => t.MachineId == m.Id).MaxAsync(t => (int?)t.Number, ct) ?? 0) + 1;
        db.Trials.Add(new TrialAssembly { MachineId = m.Id, Number = number, PlaceId = place!.Id, Checks = [.. lines.Select(l => new TrialCheck(l, string.Empty, null))], StartedAt = recorder.Now, ById = personId });
        recorder.Say(StripLog.BeganTrial(number, place.FullName, lines.Count), m.Id, place.Id);
        return Recorded.To(Page(letter, number));
    }, ct);

    /// <summary>Records one check.</summary>
    public Task<Recorded> CheckAsync(Guid key, Guid personId, string letter, int number, int check, string? reading, bool? good, uint version, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var t = await FindAsync(letter, number, ct);
        if (t.EndedAt is not null)
        {
            return Recorded.Refused($"Trial {number} has ended.");
        }

        if (check < 0 || check >= t.Checks.Count)
        {
            return Recorded.Refused("There is no such check.");
        }

        var problems = new List<Problem>();
        var read = TextRules.Optional(problems, $"Reading-{check}", reading, 160);
        if (good is null)
        {
            problems.Add(new Problem($"Reading-{check}", "Say whether it is as wanted."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        db.Entry(t).Property(x => x.Version).OriginalValue = version;
        var before = t.Checks[check];
        t.Checks = [.. t.Checks.Select((c, i) => i == check ? c with { Reading = read, Good = good } : c)];
        recorder.Say(StripLog.Checked(number, before.What, good!.Value, read), t.MachineId, t.PlaceId, before: before, after: t.Checks[check]);
        return Recorded.To(Page(letter, number));
    }, ct);

    /// <summary>Ends it: what is in for it comes out, and what it has not proven is kept.</summary>
    public Task<Recorded> EndAsync(Guid key, Guid personId, string letter, int number, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var t = await FindAsync(letter, number, ct);
        await db.Database.ExecuteSqlAsync($"select 1 from machines where id = {t.MachineId} for update", ct);
        await db.Entry(t).ReloadAsync(ct);
        if (t.EndedAt is not null)
        {
            return Recorded.Refused($"Trial {number} has ended.");
        }

        t.NotProven = TrialRule.NotProven(t.Checks, await NeverInAsync(db, t, await AccessQuery.LoadAsync(db, t.MachineId, ct), ct));
        t.EndedAt = recorder.Now;
        var fittings = await db.Fittings.Where(f => f.TrialId == t.Id && f.Until == null).ToListAsync(ct);
        foreach (var f in fittings)
        {
            f.Until = recorder.Now;
        }

        recorder.Say($"ended trial {number}: {fittings.Count} {(fittings.Count == 1 ? "part" : "parts")} out again, {t.NotProven.Count} {(t.NotProven.Count == 1 ? "thing" : "things")} not proven.", t.MachineId, t.PlaceId);
        return Recorded.To(Page(letter, number));
    }, ct);

    /// <summary>Slots of the tried assembly that were empty all the time, by name.</summary>
    public static async Task<IReadOnlyList<string>> NeverInAsync(OilTagDb db, TrialAssembly trial, Access access, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(trial);
        ArgumentNullException.ThrowIfNull(access);
        var within = access.Tree.Within(trial.PlaceId);
        var wasIn = (await db.Fittings.Where(f => f.TrialId == trial.Id).Select(f => f.SlotId).Distinct().ToListAsync(ct)).ToHashSet();
        return [.. access.Off.Where(s => within.Contains(s) && !wasIn.Contains(s)).OrderBy(access.Map.OrderOf).Select(access.Name)];
    }

    private async Task<TrialAssembly> FindAsync(string letter, int number, CancellationToken ct) =>
        await (from t in db.Trials join m in db.Machines on t.MachineId equals m.Id where m.Letter == letter && t.Number == number select t).SingleAsync(ct);
}
