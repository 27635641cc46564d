using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Lifting;
using OilTag.Data.Log;

namespace OilTag.Data.Lifting;

/// <summary>A plan of a lift as it is typed; lists are one a line.</summary>
public sealed record LiftEntry(string? Title, string? Masses, string? Fuel, string? Supports, string? Dynamic, string? Margin, string? Floor, string? People, string? Steps, string? Stops);

/// <summary>Everything that is recorded on lifts.</summary>
public sealed class LiftWrites(OilTagDb db, Recorder recorder)
{
    private const int MostLines = 40;

    /// <summary>Writes a new plan, or changes one that is not signed yet.</summary>
    /// <param name="number">Number of the plan; null for a new one.</param>
    /// <param name="machineId">Machine of a new one.</param>
    /// <param name="version">Version of the plan when the form was loaded.</param>
    public Task<Recorded> SaveAsync(Guid key, Guid personId, int? number, Guid machineId, uint version, LiftEntry e, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(e);
        var plan = number is { } n ? await LockAsync(n, ct) : null;
        if (number is not null && (plan is null || plan.Version != version))
        {
            return Recorded.Changed;
        }

        if (plan?.SignedAt is not null)
        {
            return Recorded.Refused("It is signed, and what is signed stands. Write a new plan from it.");
        }

        var problems = new List<Problem>();
        var title = TextRules.Need(problems, "LiftTitle", e.Title, "Say what is lifted, and why.", 120);
        var masses = LiftRule.Masses(e.Masses, problems);
        var supports = LiftRule.Supports(e.Supports, problems);
        var fuel = TextRules.Optional(problems, "Fuel", e.Fuel, 200);
        var floor = TextRules.Optional(problems, "Floor", e.Floor, 200);
        double Value(string field, string? text, double least, double most, string sentence)
        {
            if (TextRules.Number(text) is { } v && (double)v >= least && (double)v <= most)
            {
                return (double)v;
            }

            problems.Add(new Problem(field, sentence));
            return least;
        }

        var dynamic = Value("Dynamic", e.Dynamic, 1, 3, "Type a factor from 1 to 3: 1.1 for slow hydraulic jacks, 1.25 for a crane.");
        var margin = Value("Margin", e.Margin, 0, 100, "Type from 0 to 100.");
        IReadOnlyList<string> Lines(string field, string? text)
        {
            var all = (text ?? string.Empty).Split('\n', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);
            if (all.Length > MostLines || Array.Exists(all, l => l.Length > 200))
            {
                problems.Add(new Problem(field, $"At most {MostLines} lines of 200 characters."));
            }

            return all;
        }

        var (people, steps, stops) = (Lines("People", e.People), Lines("Steps", e.Steps), Lines("Stops", e.Stops));
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var isNew = plan is null;
        plan ??= new LiftPlan { MachineId = machineId, Title = title, ById = personId, At = recorder.Now };
        var before = isNew ? null : new { plan.Title, plan.Masses, plan.Supports, plan.Dynamic, plan.Margin, plan.Floor, plan.People, plan.Steps, plan.Stops };
        (plan.Title, plan.Masses, plan.Fuel, plan.Supports, plan.Dynamic, plan.Margin, plan.Floor, plan.People, plan.Steps, plan.Stops) = (title, masses, fuel, supports, dynamic, margin, floor, people, steps, stops);
        if (isNew)
        {
            db.Lifts.Add(plan);
            await db.SaveChangesAsync(ct);
        }

        recorder.Say(LiftLog.Wrote(plan.Number, title, !isNew), plan.MachineId, before: before);
        return Recorded.To($"/lifts/{plan.Number}");
    }, ct);

    /// <summary>Signs a plan. Nothing is lifted before, and nothing of it is changed afterwards.</summary>
    /// <param name="may">True for somebody who is cleared to sign lifts now.</param>
    public Task<Recorded> SignAsync(Guid key, Guid personId, bool may, int number, uint version, string? note, string? over, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await LockAsync(number, ct) is not { } plan || plan.Version != version)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "Note", note, "Write down what you looked at: floor, jacks, cribs, people, fuel.", 300);
        if (!may)
        {
            problems.Add(new Problem(string.Empty, "A lift supervisor or an inspector signs. Ask a lead to write down who is cleared for it."));
        }

        if (plan.SignedAt is not null)
        {
            problems.Add(new Problem(string.Empty, "It is signed already."));
        }

        var work = LiftRule.Work(plan);
        problems.AddRange(work.WhyNot.Select(w => new Problem(string.Empty, w)));

        // A support that is planned beyond its working share is signed with a reason, or not at all.
        var beyond = work.Loads.FirstOrDefault(l => l.Use > 100 * (1 + 1e-9));
        var why = beyond is null ? string.Empty : TextRules.Need(problems, "Over", over, $"{beyond.Support.Name} is planned beyond its working share. Say why it is lifted so all the same.", 200);
        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        said = why.Length > 0 ? $"{said.TrimEnd('.')}. Beyond the working share: {why}" : said;
        (plan.SignedById, plan.SignedAt, plan.SignedNote) = (personId, recorder.Now, said);
        recorder.Say(LiftLog.Signed(number, said), plan.MachineId);
        return Recorded.To($"/lifts/{number}");
    }, ct);

    /// <summary>Keeps what the cells show, and stops everybody when one passes its limit.</summary>
    /// <param name="kilograms">Under each support, null where nothing is known.</param>
    public Task<Recorded> ReadAsync(Guid key, Guid personId, int number, IReadOnlyList<double?> kilograms, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        ArgumentNullException.ThrowIfNull(kilograms);
        if (await LockAsync(number, ct) is not { } plan || plan.Supports.Count != kilograms.Count)
        {
            return Recorded.Changed;
        }

        if (plan.SignedAt is null)
        {
            return Recorded.Refused("Nothing is lifted before the plan is signed.");
        }

        db.LiftReadings.Add(new LiftReading { PlanId = plan.Id, Kilograms = kilograms, ById = personId, At = recorder.Now });
        var result = LiftRule.Work(plan);
        if (LiftRule.Over(result, kilograms) is { } over && !await db.LiftStops.AnyAsync(s => s.PlanId == plan.Id && s.ClearedAt == null, ct))
        {
            db.LiftStops.Add(new LiftStop { PlanId = plan.Id, Support = over, Kilograms = kilograms[over]!.Value, Limit = result.Loads[over].Limit, At = recorder.Now });
            recorder.Say(string.Create(CultureInfo.InvariantCulture, $"stopped lift {number}: {plan.Supports[over].Name} showed {kilograms[over]:0} kg, its limit is {result.Loads[over].Limit:0} kg."), plan.MachineId);
        }

        return Recorded.To($"/lifts/{number}/live");
    }, ct);

    /// <summary>The next step is done. While everybody stands still none is.</summary>
    /// <param name="step">Its order, from 1.</param>
    public Task<Recorded> StepAsync(Guid key, Guid personId, int number, int step, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await LockAsync(number, ct) is not { } plan || step != plan.Done.Count + 1 || step > plan.Steps.Count)
        {
            return Recorded.Changed;
        }

        if (plan.SignedAt is null)
        {
            return Recorded.Refused("Nothing is lifted before the plan is signed.");
        }

        if (await db.LiftStops.AnyAsync(s => s.PlanId == plan.Id && s.ClearedAt == null, ct))
        {
            return Recorded.Refused("Everybody stands still: a cell passed its limit. A lift supervisor says when it goes on.");
        }

        plan.Done = [.. plan.Done, new LiftStep(personId, recorder.Now)];
        recorder.Say($"lift {number}, step {step}: {plan.Steps[step - 1].TrimEnd('.')}.", plan.MachineId);
        return Recorded.To($"/lifts/{number}/live");
    }, ct);

    /// <summary>Lets it go on after a stop.</summary>
    /// <param name="may">True for somebody who is cleared to sign lifts now.</param>
    public Task<Recorded> ClearAsync(Guid key, Guid personId, bool may, int number, Guid stopId, string? note, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await LockAsync(number, ct) is not { } plan || await db.LiftStops.SingleOrDefaultAsync(s => s.Id == stopId && s.PlanId == plan.Id && s.ClearedAt == null, ct) is not { } stop)
        {
            return Recorded.Changed;
        }

        var problems = new List<Problem>();
        var said = TextRules.Need(problems, "ClearNote", note, "Say what was found, and why it may go on.", 300);
        if (!may)
        {
            problems.Add(new Problem("ClearNote", "A lift supervisor or an inspector says when it goes on."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        (stop.ClearedById, stop.ClearedAt, stop.ClearedNote) = (personId, recorder.Now, said);
        recorder.Say($"let lift {number} go on: {said.TrimEnd('.')}.", plan.MachineId);
        return Recorded.To($"/lifts/{number}/live");
    }, ct);

    /// <summary>True when somebody holds what signing lifts takes: an authorisation with “lift” in its name that holds on the day.</summary>
    public static Task<bool> IsSupervisorAsync(OilTagDb db, Guid person, NodaTime.LocalDate today, CancellationToken ct) =>
        db.Authorisations.AnyAsync(a => a.PersonId == person && a.EndedAt == null && !a.Learning && EF.Functions.ILike(a.Skill, "%lift%") && (a.Until == null || a.Until >= today), ct);

    private async Task<LiftPlan?> LockAsync(int number, CancellationToken ct)
    {
        await db.Database.ExecuteSqlAsync($"select 1 from lifts where number = {number} for update", ct);
        return await db.Lifts.SingleOrDefaultAsync(l => l.Number == number, ct);
    }
}
