using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Machines;
using OilTag.Data.Log;

namespace OilTag.Data.Planning;

/// <summary>A milestone as it is typed.</summary>
/// <param name="Name">What it is.</param>
/// <param name="On">The wanted day.</param>
/// <param name="Fixed">True when it cannot move.</param>
/// <param name="Weight">How much a day late counts, as typed.</param>
/// <param name="Why">Why that day.</param>
/// <param name="MachineId">The machine that is whole or fit for a use by then; null when only packages count.</param>
/// <param name="FitFor">What it is fit for; empty for whole.</param>
/// <param name="MovedWhy">Why it is moved; needed when the day is another.</param>
public sealed record MilestoneEntry(string? Name, LocalDate? On, bool Fixed, string? Weight, string? Why, Guid? MachineId, string? FitFor,
    string? MovedWhy = null);

/// <summary>Milestones: set, moved with a reason, split by machine, reached or given up.</summary>
public sealed class MilestoneWrites(OilTagDb db, Recorder recorder)
{
    public Task<Recorded> SetAsync(Guid key, Guid personId, MilestoneEntry e, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        if (await CheckAsync(e, today, ct) is { Count: > 0 } problems)
        {
            return Recorded.Refused(problems);
        }

        var milestone = new Milestone { Name = e.Name!.Trim() };
        Fill(milestone, e);
        db.Milestones.Add(milestone);
        recorder.Say($"set the milestone {milestone.Name} on {LogWords.Day(milestone.On)}.", e.MachineId);
        return Recorded.To($"/plan/{milestone.Id}");
    }, ct);

    /// <summary>Changes a milestone. Moving it says why, and that is kept with it.</summary>
    public Task<Recorded> ChangeAsync(Guid key, Guid personId, Guid id, MilestoneEntry e, LocalDate today, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from milestones where id = {id} for update", ct);
        if (await db.Milestones.SingleOrDefaultAsync(m => m.Id == id && m.EndedAt == null, ct) is not { } milestone)
        {
            return Recorded.Changed;
        }

        var moved = e.On is { } on && on != milestone.On;
        var problems = await CheckAsync(e, moved ? today : milestone.On.PlusDays(-1), ct);
        var why = moved ? TextRules.Need(problems, "MovedWhy", e.MovedWhy, "Say why it is moved; it is kept with the milestone.", 200)
            : string.Empty;
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        object Snapshot() => new
        {
            milestone.Name,
            On = LogWords.Day(milestone.On),
            milestone.Fixed,
            milestone.Weight,
            milestone.Why,
            milestone.FitFor
        };
        var before = Snapshot();
        var was = milestone.On;
        if (moved)
        {
            var by = await db.People.Where(p => p.Id == personId).Select(p => p.Name).SingleAsync(ct);
            milestone.Moves = [.. milestone.Moves, new MilestoneMove(was.ToDateOnly(), e.On!.Value.ToDateOnly(), why, by,
                today.ToDateOnly())];
        }

        Fill(milestone, e);
        recorder.Say(moved ? $"moved the milestone {milestone.Name} from {LogWords.Day(was)} to {LogWords.Day(milestone.On)}: {why.TrimEnd('.')}." : $"changed the milestone {milestone.Name}.", milestone.MachineId, before: before, after: Snapshot());
        return Recorded.To($"/plan/{id}");
    }, ct);

    /// <summary>Makes a milestone of its own for each machine that works for it, on the same day.</summary>
    public Task<Recorded> SplitAsync(Guid key, Guid personId, Guid id, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from milestones where id = {id} for update", ct);
        if (await db.Milestones.SingleOrDefaultAsync(m => m.Id == id && m.EndedAt == null, ct) is not { } milestone)
        {
            return Recorded.Changed;
        }

        var packages = await db.Packages.Where(k => k.MilestoneId == id && k.ClosedAt == null).ToListAsync(ct);
        var machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var mine = machines.Where(m => packages.Exists(k => k.MachineId == m.Id)).ToList();
        if (mine.Count < 2)
        {
            return Recorded.Refused("Fewer than two machines work for it. There is nothing to split.", "Split");
        }

        // The first machine keeps the milestone, so that what points to it still does.
        foreach (var machine in mine.Skip(1))
        {
            var part = new Milestone
            {
                Name = Named(milestone.Name, machine.Name),
                On = milestone.On,
                Fixed = milestone.Fixed,
                Weight = milestone.Weight,
                Why = milestone.Why
            };
            db.Milestones.Add(part);
            foreach (var k in packages.Where(k => k.MachineId == machine.Id))
            {
                k.MilestoneId = part.Id;
            }

            recorder.Say($"split the milestone {milestone.Name}: {part.Name} on {LogWords.Day(part.On)}.", machine.Id);
        }

        var name = milestone.Name;
        milestone.Name = Named(name, mine[0].Name);
        recorder.Say($"split the milestone {name}: {milestone.Name} on {LogWords.Day(milestone.On)}.", mine[0].Id);
        return Recorded.To($"/plan/{id}");
    }, ct);

    /// <summary>Ends a milestone: reached, or given up. Its packages serve none from then on.</summary>
    /// <param name="reached">True when it was reached.</param>
    public Task<Recorded> EndAsync(Guid key, Guid personId, Guid id, bool reached, string? why, CancellationToken ct) =>
        recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from milestones where id = {id} for update", ct);
        var problems = new List<Problem>();
        var reason = TextRules.Need(problems, "EndWhy", why, reached ? "Say how it went, in a few words." : "Say why it is given up.", 200);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        if (await db.Milestones.SingleOrDefaultAsync(m => m.Id == id && m.EndedAt == null, ct) is not { } milestone)
        {
            return Recorded.Changed;
        }

        milestone.EndedAt = recorder.Now;
        foreach (var k in await db.Packages.Where(k => k.MilestoneId == id && k.ClosedAt == null).ToListAsync(ct))
        {
            k.MilestoneId = null;
        }

        recorder.Say($"{(reached ? "reached" : "gave up")} the milestone {milestone.Name} of {LogWords.Day(milestone.On)}: {reason.TrimEnd('.')}.", milestone.MachineId);
        return Recorded.To("/plan/milestones");
    }, ct);

    private static string Named(string name, string machine)
    {
        var both = $"{name}, {machine}";
        return both.Length <= 60 ? both : both[..60].TrimEnd();
    }

    private static void Fill(Milestone m, MilestoneEntry e)
    {
        (m.Name, m.On, m.Fixed, m.Weight, m.Why) = (e.Name!.Trim(), e.On!.Value, e.Fixed, KeeperRules.Weight(e.Weight) ?? 1,
            (e.Why ?? string.Empty).Trim());
        (m.MachineId, m.FitFor) = (e.MachineId, e.MachineId is null ? string.Empty : (e.FitFor ?? string.Empty).Trim());
    }

    private async Task<List<Problem>> CheckAsync(MilestoneEntry e, LocalDate after, CancellationToken ct)
    {
        var problems = KeeperRules.CheckMilestone(e.Name, e.On, e.Weight, e.Why, after).ToList();
        TextRules.Optional(problems, "FitFor", e.FitFor, 80);
        if (e.MachineId is { } machine && !await db.Machines.AnyAsync(m => m.Id == machine, ct))
        {
            problems.Add(new Problem("MilestoneMachine", "Choose a machine from the list."));
        }

        return problems;
    }
}
