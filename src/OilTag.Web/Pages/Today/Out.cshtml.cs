using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>Somebody goes home: the hours of their jobs are confirmed, in one tap when the board is right.</summary>
public sealed class OutModel(OilTagDb db, ShedClock clock, Me me, DayWrites writes) : FormPage
{
    /// <summary>One job to confirm.</summary>
    public sealed record Line(DayStep Step, string Hours, string? Left, double Expected, bool Done);

    public Visit Visit { get; private set; } = null!;

    public string Name { get; private set; } = string.Empty;

    public LocalTime Leaves { get; private set; }

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    /// <summary>Minutes that are on record for that day already.</summary>
    public int Booked { get; private set; }

    [BindProperty]
    public string? Went { get; set; }

    [BindProperty]
    public List<Guid> Operation { get; set; } = [];

    [BindProperty]
    public List<string?> Hours { get; set; } = [];

    [BindProperty]
    public List<string?> Left { get; set; } = [];

    public string FirstName => Name.Split(' ')[0];

    public bool Forgotten => Visit.On < clock.Today;

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct) =>
        await LoadAsync(id, ct) ? Visit.Left is null ? Page() : Redirect($"/today?gone={id}") : NotFound();

    public Task<IActionResult> OnPostAsync(Guid id, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(id, ct),
        () => writes.SignOutAsync(Key, me.Id, id, Went, [.. Operation.Select((o, i) => new SignOutEntry(o, Hours.ElementAtOrDefault(i), Left.ElementAtOrDefault(i)))], clock.Now, ct));

    /// <summary>They stay longer after all.</summary>
    public Task<IActionResult> OnPostStayAsync(Guid id, string? until, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.StayAsync(Key, me.Id, id, until, clock.Now, ct));

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (await db.Visits.AsNoTracking().SingleOrDefaultAsync(v => v.Id == id, ct) is not { } visit)
        {
            return false;
        }

        Visit = visit;
        Name = await db.People.Where(p => p.Id == visit.PersonId).Select(p => p.Name).SingleAsync(ct);
        Leaves = VisitRule.Leaves(visit, Went, clock.Now).Leaves;
        (var worked, Booked) = await DayQuery.WorkedAsync(db, visit, Leaves, ct);
        Lines = [.. worked.Select(w =>
        {
            var i = Operation.IndexOf(w.Step.Id);
            return new Line(w.Step, i >= 0 ? Hours.ElementAtOrDefault(i) ?? string.Empty : Typed(w.Minutes), i >= 0 ? Left.ElementAtOrDefault(i) : null, w.Expected, w.Done);
        })];
        return true;
    }

    private static string Typed(int minutes) => string.Create(System.Globalization.CultureInfo.InvariantCulture, $"{minutes / 60}:{minutes % 60:00}");
}
