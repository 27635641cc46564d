using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Log;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Data.Log;
using OilTag.Data.People;

namespace OilTag.Data.Planning;

/// <summary>People are called out for a day, and answer; damage that may come to light is noted. The log names nobody by name.</summary>
public sealed class CallWrites(OilTagDb db, Recorder recorder)
{
    /// <summary>Calls people out. For a step, holders of its skills are asked for, and it is done on that day and no other.</summary>
    public Task<Recorded> CallAsync(Guid key, Guid personId, string? what, Guid? operationId, LocalDate? on, LocalTime? from, LocalTime? until, string? wanted, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (n, found) = CallOutRule.Check(what, on, from, until, wanted, today);
        var problems = found.ToList();
        var step = operationId is { } id ? await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.Id == id && o.DoneAt == null && k.ClosedAt == null select o).SingleOrDefaultAsync(ct) : null;
        if (operationId is not null && step is null)
        {
            problems.Add(new Problem("Step", "That step is done, or its package is closed. Choose another."));
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var call = new CallOut { OperationId = operationId, What = what!.Trim(), On = on!.Value, From = from!.Value, Until = until!.Value, Wanted = n, Skills = step?.Needs.Skills ?? [], AskedById = personId, AskedAt = recorder.Now };
        db.CallOuts.Add(call);
        if (step is not null)
        {
            step.Needs = step.Needs with { OnDay = on.Value.ToDateOnly() };
            db.Entry(step).Property(o => o.Needs).IsModified = true;
        }

        recorder.Say(ShedLog.Called(call.On, call.What), packageId: step?.PackageId);
        return Recorded.To($"/plan/calls/{call.Id}");
    }, ct);

    /// <summary>Calls it off; a step that was tied to the day is free again.</summary>
    public Task<Recorded> CallOffAsync(Guid key, Guid personId, Guid id, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from call_outs where id = {id} for update", ct);
        var call = await db.CallOuts.SingleAsync(c => c.Id == id, ct);
        if (call.EndedAt is not null)
        {
            return Recorded.Refused("It was called off already.");
        }

        call.EndedAt = recorder.Now;
        var step = await db.Operations.SingleOrDefaultAsync(o => o.Id == call.OperationId, ct);
        if (step is { DoneAt: null } && step.Needs.OnDay == call.On.ToDateOnly())
        {
            step.Needs = step.Needs with { OnDay = null };
            db.Entry(step).Property(o => o.Needs).IsModified = true;
        }

        recorder.Say($"called off {LogWords.Day(call.On)}: {call.What.TrimEnd('.')}.", packageId: step?.PackageId);
        return Recorded.To("/plan/calls");
    }, ct);

    /// <summary>Somebody answers, or a lead writes down what they said.</summary>
    public Task<Recorded> AnswerAsync(Guid key, Guid personId, Guid id, Guid who, CallAnswer? answer, LocalDate today, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        await db.Database.ExecuteSqlAsync($"select 1 from call_outs where id = {id} for update", ct);
        var call = await db.CallOuts.SingleAsync(c => c.Id == id, ct);
        if (call.EndedAt is not null || call.On < today)
        {
            return Recorded.Refused(call.EndedAt is not null ? "It was called off." : "That day is past.");
        }

        if (answer is not { } said || !Enum.IsDefined(said))
        {
            return Recorded.Refused("Choose yes, perhaps or no.");
        }

        if (!await PeopleQuery.Team(db).AnyAsync(p => p.Id == who, ct))
        {
            return Recorded.Refused("Choose somebody of the team.", "Who");
        }

        var reply = await db.CallReplies.SingleOrDefaultAsync(r => r.CallOutId == id && r.PersonId == who, ct);
        if (reply is null)
        {
            db.CallReplies.Add(reply = new CallReply { CallOutId = id, PersonId = who });
        }

        (reply.Answer, reply.RecordedById, reply.At) = (said, personId, recorder.Now);
        recorder.Say(ShedLog.Answered(call.On), after: new { who, answer = said.ToString() });
        return Recorded.To($"/plan/calls/{id}");
    }, ct);

    /// <summary>Notes damage that may come to light in a place.</summary>
    /// <param name="step">The step that shows it, as in 64.3; empty for none.</param>
    public Task<Recorded> ExpectAsync(Guid key, Guid personId, Guid place, string? what, string? percent, string? hours, string? skill, string? step, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var (chance, range, found) = HiddenDamageRule.Check(what, percent, hours);
        var problems = found.ToList();
        var at = await db.Places.AsNoTracking().SingleOrDefaultAsync(p => p.Id == place, ct);
        if (at is null)
        {
            problems.Add(new Problem("Place", "Choose the assembly."));
        }

        var wanted = (skill ?? string.Empty).Trim();
        if (wanted.Length > 0 && !await db.Authorisations.AnyAsync(a => a.Skill == wanted, ct))
        {
            problems.Add(new Problem("Skill", "Choose a skill from the list, or none."));
        }

        Guid? after = null;
        if (!string.IsNullOrWhiteSpace(step))
        {
            var parts = step.Trim().Split('.');
            var (package, order) = parts.Length == 2 ? (ShedRule.Whole(parts[0], 1, int.MaxValue), ShedRule.Whole(parts[1], 1, int.MaxValue)) : (null, null);
            after = package is null || order is null ? null : await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.Number == package && o.Order == order && o.DoneAt == null && k.ClosedAt == null select (Guid?)o.Id).SingleOrDefaultAsync(ct);
            if (after is null)
            {
                problems.Add(new Problem("Step", "Type package and step of an open step, as in 64.3, or leave it empty."));
            }
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var damage = new HiddenDamage { PlaceId = place, What = what!.Trim(), Percent = chance, Low = range.Low, Likely = range.Likely, High = range.High, Skill = wanted, AfterId = after, ById = personId, At = recorder.Now };
        db.HiddenDamages.Add(damage);
        recorder.Say(ShedLog.Expects(chance, at!.FullName, damage.What), at.MachineId, at.Id);
        return Recorded.To("/plan/damage");
    }, ct);

    /// <summary>It came to light, or it is ruled out: the plan does not count it any more.</summary>
    public Task<Recorded> SettleAsync(Guid key, Guid personId, Guid id, bool found, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        if (await db.HiddenDamages.SingleOrDefaultAsync(d => d.Id == id && d.EndedAt == null, ct) is not { } damage)
        {
            return Recorded.Refused("That is settled already.");
        }

        damage.EndedAt = recorder.Now;
        var at = await db.Places.AsNoTracking().SingleAsync(p => p.Id == damage.PlaceId, ct);
        recorder.Say(found ? $"found at {at.FullName} what was expected: {damage.What.TrimEnd('.')}." : $"ruled out at {at.FullName}: {damage.What.TrimEnd('.')}.", at.MachineId, at.Id);
        return Recorded.To(found ? $"/survey/new?place={damage.PlaceId}" : "/plan/damage");
    }, ct);

}
