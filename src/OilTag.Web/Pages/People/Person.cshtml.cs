using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.People;

/// <summary>One person: what they may do and until when, who granted it, and when they are away.</summary>
public sealed class PersonModel(OilTagDb db, Me me, ShedClock clock, PeopleWrites writes, DayWrites days) : FormPage
{
    public Person Person { get; private set; } = null!;

    public IReadOnlyList<(Authorisation Skill, string By)> Skills { get; private set; } = [];

    public IReadOnlyList<Absence> Away { get; private set; } = [];

    public IReadOnlyList<string> Known { get; private set; } = [];

    [BindProperty]
    public string? Skill { get; set; }

    /// <summary>The kind of machine for which it holds; null for every kind.</summary>
    [BindProperty]
    public MachineKind? Kind { get; set; }

    [BindProperty]
    public DateOnly? HeldFrom { get; set; }

    [BindProperty]
    public bool Learning { get; set; }

    [BindProperty]
    public DateOnly? Until { get; set; }

    [BindProperty]
    public DateOnly? AwayFrom { get; set; }

    [BindProperty]
    public DateOnly? AwayUntil { get; set; }

    [BindProperty]
    public bool Minor { get; set; }

    [BindProperty]
    public bool NeverAlone { get; set; }

    /// <summary>What they like: letters of machines and skills.</summary>
    public IReadOnlySet<string> Likes { get; private set; } = new HashSet<string>();

    public IReadOnlyList<(string Letter, string Name)> Machines { get; private set; } = [];

    /// <summary>The name, typed once more to take it out.</summary>
    [BindProperty]
    public string? Typed { get; set; }

    /// <summary>A person says themselves when they are away; a lead says it of anybody.</summary>
    public bool MaySayAway => me.CanLead || (me.CanRecord && Person is not null && me.Id == Person.Id);

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct) => await LoadAsync(id, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostGrantAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.GrantAsync(Key, me.Id, id, Skill, Kind, Learning, ToDate(HeldFrom), ToDate(Until), clock.Today, ct));

    public Task<IActionResult> OnPostEndAsync(Guid id, Guid authorisation, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.EndAsync(Key, me.Id, id, authorisation, ct));

    public Task<IActionResult> OnPostAwayAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead || (me.CanRecord && me.Id == id), () => LoadAsync(id, ct), () => writes.AwayAsync(Key, me.Id, id, ToDate(AwayFrom), ToDate(AwayUntil), clock.Today, ct));

    public Task<IActionResult> OnPostBackAsync(Guid id, Guid absence, CancellationToken ct) => WriteAsync(me.CanLead || (me.CanRecord && me.Id == id), () => LoadAsync(id, ct), () => writes.BackAsync(Key, me.Id, id, absence, ct));

    public Task<IActionResult> OnPostMarkAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.MarkAsync(Key, me.Id, id, Minor, NeverAlone, ct));

    public Task<IActionResult> OnPostLikesAsync(Guid id, List<string> likes, CancellationToken ct) => WriteAsync(me.CanLead || (me.CanRecord && me.Id == id), () => LoadAsync(id, ct), () => days.WishAsync(Key, me.Id, id, [.. likes.OfType<string>()], ct));

    public Task<IActionResult> OnPostNameAsync(Guid id, CancellationToken ct) => WriteAsync(me.IsKeeper, () => LoadAsync(id, ct), () => writes.TakeNameOutAsync(Key, me.Id, id, Typed, ct));

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (await db.People.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id && !p.IsShop, ct) is not { } person)
        {
            return false;
        }

        Person = person;
        var rows = await (from a in db.Authorisations join p in db.People on a.GrantedById equals p.Id into ps from p in ps.DefaultIfEmpty() where a.PersonId == id && a.EndedAt == null orderby a.Learning, a.Skill select new { a, By = (string?)p.Name }).AsNoTracking().ToListAsync(ct);
        Skills = [.. rows.Select(r => (r.a, r.By ?? "somebody"))];
        var today = clock.Today;
        Away = !me.CanRecord ? [] : await db.Absences.AsNoTracking().Where(a => a.PersonId == id && !a.Cancelled && a.Until >= today).OrderBy(a => a.From).ToListAsync(ct);
        Likes = (await (from w in db.Wishes join m in db.Machines on w.MachineId equals m.Id into ms from m in ms.DefaultIfEmpty() where w.PersonId == id && w.EndedAt == null select m == null ? w.Skill : m.Letter).ToListAsync(ct)).ToHashSet(StringComparer.Ordinal);
        Machines = [.. (await db.Machines.OrderBy(m => m.Bay).Select(m => new { m.Letter, m.Name }).ToListAsync(ct)).Select(m => (m.Letter, m.Name))];
        Known = await db.Authorisations.Select(a => a.Skill).Distinct().OrderBy(s => s).ToListAsync(ct);
        return true;
    }
}
