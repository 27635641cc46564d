using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.People;

/// <summary>Who can do what: skills with who holds and who learns them, and who is away.</summary>
public sealed class IndexModel(OilTagDb db, ShedClock clock) : PageModel
{
    public IReadOnlyList<(Person Person, IReadOnlyList<Authorisation> Skills, Absence? Away)> People { get; private set; } = [];

    /// <summary>Skills that open work wants, with how many hold them.</summary>
    public IReadOnlyList<(string Skill, int Hold)> Scarce { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        var today = clock.Today;
        var people = await PeopleQuery.Team(db).AsNoTracking().ToListAsync(ct);
        var skills = (await db.Authorisations.AsNoTracking().Where(a => a.EndedAt == null).OrderBy(a => a.Skill).ToListAsync(ct)).ToLookup(a => a.PersonId);
        var away = (await db.Absences.AsNoTracking().Where(a => !a.Cancelled && a.Until >= today).OrderBy(a => a.From).ToListAsync(ct)).ToLookup(a => a.PersonId);
        People = [.. people.OrderBy(p => p.Name, StringComparer.Ordinal).Select(p => (p, (IReadOnlyList<Authorisation>)[.. skills[p.Id]], away[p.Id].FirstOrDefault()))];
        var needs = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id where k.ClosedAt == null && o.DoneAt == null select o.Needs).AsNoTracking().ToListAsync(ct);
        var holders = skills.SelectMany(s => s).Where(a => !a.Learning && !(a.Until < today)).ToLookup(a => a.Skill, StringComparer.Ordinal);
        Scarce = [.. needs.SelectMany(n => n.Skills).Select(s => s.Skill).Distinct(StringComparer.Ordinal).Select(s => (s, holders[s].Count())).Where(s => s.Item2 <= 1).OrderBy(s => s.Item2).ThenBy(s => s.s, StringComparer.Ordinal)];
    }
}
