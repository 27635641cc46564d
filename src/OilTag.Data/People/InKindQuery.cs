using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;

namespace OilTag.Data.People;

/// <summary>One entry of hours with what a claim needs of it.</summary>
public sealed record HoursLine(Guid PersonId, string Name, LocalDate On, LocalTime? From, int Minutes, string Letter, int? Package, string Title, string Step, string Skill);

/// <summary>Hours for totals, claims and a person's own record.</summary>
public static class InKindQuery
{
    /// <summary>Hours from one day to another, of all or of one person, in the order of days.</summary>
    public static async Task<IReadOnlyList<HoursLine>> HoursAsync(OilTagDb db, LocalDate from, LocalDate until, Guid? person, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = await (
            from h in db.Hours
            join p in db.People on h.PersonId equals p.Id
            join m in db.Machines on h.MachineId equals m.Id
            join k in db.Packages on h.PackageId equals (Guid?)k.Id into ks
            from k in ks.DefaultIfEmpty()
            join o in db.Operations on h.OperationId equals o.Id into os
            from o in os.DefaultIfEmpty()
            where h.On >= @from && h.On <= until && (person == null || h.PersonId == person)
            orderby h.On, p.Name, h.From, h.Id
            select new { h.PersonId, p.Name, h.On, h.From, h.Minutes, m.Letter, Number = k == null ? (int?)null : k.Number, Title = k == null ? h.Note : k.Title, Step = o == null ? null : o.Name, Needs = o == null ? null : o.Needs }).AsNoTracking().ToListAsync(ct);
        return [.. rows.Select(r => new HoursLine(r.PersonId, r.Name, r.On, r.From, r.Minutes, r.Letter, r.Number, r.Title, r.Step ?? string.Empty, r.Needs is { Skills.Count: > 0 } n ? n.Skills[0].Skill : string.Empty))];
    }

    /// <summary>What such hours are worth at the rates that the group has set.</summary>
    public static async Task<InKindClaim> ClaimAsync(OilTagDb db, IReadOnlyList<HoursLine> hours, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        return InKindRule.Work([.. hours.Select(h => new ClaimedHours(h.Name, h.On, h.From, h.Minutes, h.Skill))], await db.HourRates.AsNoTracking().ToListAsync(ct));
    }
}
