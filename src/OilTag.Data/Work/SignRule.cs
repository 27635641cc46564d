using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Core.Work;
using OilTag.Data.Planning;

namespace OilTag.Data.Work;

/// <summary>Who may sign for a package: an inspector with an authorisation for this kind of machine on that day, who did not do the work and is of age.</summary>
public static class SignRule
{
    /// <summary>True when somebody worked at a package.</summary>
    public static async Task<bool> WorkedAsync(OilTagDb db, WorkPackage package, Guid personId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(package);
        return package.Operations.Exists(o => !o.Hold && o.DoneById == personId)
            || await db.Hours.AnyAsync(h => h.PackageId == package.Id && h.PersonId == personId, ct)
            || await db.StepReadings.AnyAsync(r => r.ById == personId && db.Operations.Any(o => o.Id == r.OperationId
                && o.PackageId == package.Id), ct)
            || await db.TorqueReadings.AnyAsync(r => r.ById == personId
                && db.BoltGroups.Any(g => g.Id == r.GroupId && db.Operations.Any(o => o.Id == g.OperationId && o.PackageId == package.Id)),
                ct)
            || await (from m in db.StageMoves join s in db.Stages on m.StageId equals s.Id join c in db.RouteCards on s.RouteCardId equals c.Id where c.PackageId == package.Id && m.ById == personId && m.Kind != MoveKind.Shop select m.Id).AnyAsync(ct);
    }

    /// <summary>Why somebody cannot sign for a package; empty when they can.</summary>
    /// <param name="hold">The hold that is lifted; null for a concession.</param>
    public static async Task<IReadOnlyList<Problem>> WhyNotAsync(OilTagDb db, WorkPackage package, Guid personId, bool isInspector,
        LocalDate today, CancellationToken ct, Operation? hold = null)
    {
        ArgumentNullException.ThrowIfNull(db);
        ArgumentNullException.ThrowIfNull(package);
        var person = await (from p in db.People
                            where p.Id == personId
                            select new
                            {
                                p.Minor,
                                Kind = db.Machines.Where(m => m.Id == package.MachineId).Select(m => m.Kind).First(),
                                Held = db.Authorisations.Where(a => a.PersonId == personId && a.EndedAt == null).ToList(),
                            }).AsNoTracking().SingleAsync(ct);
        var problems = PackageRules.WhyNotSign(
            isInspector,
            await WorkedAsync(db, package, personId, ct),
            hold is null ? [] : [.. package.Operations.Where(o => o.Order < hold.Order && o.DoneAt is null).OrderBy(o =>
                o.Order).Select(o => o.Name)],
            hold?.DoneAt is not null,
            package.ClosedAt is not null,
            person.Minor).ToList();
        if (isInspector)
        {
            foreach (var work in (hold?.Needs.Skills.Select(s => s.Skill) ?? []).Prepend(PlanQuery.Inspecting).Distinct())
            {
                if (AuthorisationRule.WhyNotCovered(person.Held, work, person.Kind, today) is { } why)
                {
                    problems.Add(new Problem(string.Empty, why));
                }
            }
        }

        return problems;
    }
}
