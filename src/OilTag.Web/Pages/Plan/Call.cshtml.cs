using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.People;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>One of the team with what they answered.</summary>
/// <param name="Person">Who.</param>
/// <param name="Answer">What they said; null while they have not.</param>
/// <param name="Skills">Skills that are wanted and that they hold on that day.</param>
/// <param name="Chance">How likely they come, when they have not said: as often as on such days; nought when they are away.</param>
public sealed record CallLine(Person Person, CallAnswer? Answer, IReadOnlyList<string> Skills, double Chance);

/// <summary>One call: who comes, and how sure it is that enough do. Not for visitors, because it says who is away.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class CallModel(OilTagDb db, Me me, ShedClock clock, PlanLoader plans, CallWrites writes) : FormPage
{
    public CallOut Call { get; private set; } = null!;

    public IReadOnlyList<CallLine> Lines { get; private set; } = [];

    /// <summary>The step, with its package.</summary>
    public (int Package, int Order, string Name)? Step { get; private set; }

    /// <summary>Chance that enough come of those who have answered, and when those who have not come as often as usual.</summary>
    public (double Answered, double All) Enough { get; private set; }

    public bool Open => Call.EndedAt is null && Call.On >= clock.Today;

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct) => await LoadAsync(id, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(Guid id, Guid who, CallAnswer? answer, CancellationToken ct) => WriteAsync(me.CanLead || (me.CanRecord && who == me.Id), () => LoadAsync(id, ct), () => writes.AnswerAsync(Key, me.Id, id, who, answer, clock.Today, ct));

    public Task<IActionResult> OnPostOffAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.CallOffAsync(Key, me.Id, id, ct));

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (await db.CallOuts.AsNoTracking().SingleOrDefaultAsync(c => c.Id == id, ct) is not { } call)
        {
            return false;
        }

        Call = call;
        var step = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where o.Id == call.OperationId select new { k.Number, o.Order, o.Name }).SingleOrDefaultAsync(ct);
        Step = step is null ? null : (step.Number, step.Order, step.Name);
        var wanted = call.Skills.Select(s => s.Skill).ToList();
        var team = await PeopleQuery.Team(db).AsNoTracking().OrderBy(p => p.Name).ToListAsync(ct);
        var held = (await db.Authorisations.AsNoTracking().Where(a => a.EndedAt == null && !a.Learning && wanted.Contains(a.Skill) && (a.Until == null || a.Until >= call.On)).ToListAsync(ct)).ToLookup(a => a.PersonId, a => a.Skill);
        var replies = await db.CallReplies.AsNoTracking().Where(r => r.CallOutId == id).ToDictionaryAsync(r => r.PersonId, r => r.Answer, ct);
        var input = (await plans.PresentAsync(ct)).Plan?.Input;
        Lines = [.. team.Select(p => new CallLine(p, replies.TryGetValue(p.Id, out var a) ? a : null, [.. held[p.Id]], Usual(input, p.Id, call)))];
        double Sure(bool all) => CallOutRule.Enough([.. Lines.Select(l => new CalledPerson(l.Answer is { } said ? CallOutRule.Chance(said) : all ? l.Chance : 0, [.. l.Skills]))], call.Wanted, call.Skills);
        Enough = (Sure(false), Sure(true));
        return true;
    }

    private static double Usual(PlanInput? input, Guid person, CallOut call)
    {
        var p = input?.People.FirstOrDefault(p => p.Id == PlanQuery.Id(person));
        return p is null || p.Away.Any(a => a.Has(call.On)) ? 0 : p.Attendance.FirstOrDefault(a => a.Day == call.On.DayOfWeek && a.Site.Length == 0)?.Chance ?? p.OtherDays;
    }
}
