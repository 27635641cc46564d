using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.People;

/// <summary>Hours of all, and what they are worth in kind at the rates that the group has set.</summary>
public sealed class HoursModel(OilTagDb db, Me me, ShedClock clock, PeopleWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public DateOnly? Since { get; set; }

    [BindProperty(SupportsGet = true)]
    public DateOnly? To { get; set; }

    public IReadOnlyList<HoursLine> Lines { get; private set; } = [];

    public InKindClaim Claim { get; private set; } = new([], 0, []);

    public IReadOnlyList<HourRate> Rates { get; private set; } = [];

    public IReadOnlyList<string> Known { get; private set; } = [];

    [BindProperty]
    public string? Pounds { get; set; }

    [BindProperty]
    public string? Skill { get; set; }

    [BindProperty]
    public DateOnly? From { get; set; }

    [BindProperty]
    public string? Source { get; set; }

    public LocalDate First { get; private set; }

    public LocalDate Last { get; private set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.IsKeeper, () => LoadAsync(ct), () => writes.RateAsync(Key, me.Id, Skill, Pounds, ToDate(From), Source, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Last = To is { } t ? LocalDate.FromDateOnly(t) : clock.Today;
        First = Since is { } s ? LocalDate.FromDateOnly(s) : Last.PlusYears(-1).PlusDays(1);
        Lines = await InKindQuery.HoursAsync(db, First, Last, null, ct);
        Claim = await InKindQuery.ClaimAsync(db, Lines, ct);
        Rates = await db.HourRates.AsNoTracking().OrderBy(r => r.Skill).ThenByDescending(r => r.From).ThenByDescending(r => r.At).ToListAsync(ct);
        Known = await db.Authorisations.Select(a => a.Skill).Distinct().OrderBy(s => s).ToListAsync(ct);
        return true;
    }
}
