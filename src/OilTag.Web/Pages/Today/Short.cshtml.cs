using Microsoft.AspNetCore.Mvc;
using OilTag.Core.Today;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>What somebody can do who has only a little time.</summary>
public sealed class ShortModel(OilTagDb db, DayLoader days, ShedClock clock, Me me, DayWrites writes) : FormPage
{
    public DayFacts Day { get; private set; } = null!;

    public TeamMember? Who { get; private set; }

    public IReadOnlyList<ShortJob> Jobs { get; private set; } = [];

    [BindProperty(SupportsGet = true)]
    public int Minutes { get; set; } = 40;

    [BindProperty(SupportsGet = true, Name = "p")]
    public Guid? Person { get; set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(Guid operation, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.TakeAsync(Key, me.Id, Who?.Id ?? Guid.Empty, operation, Minutes, clock.Now, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Minutes = Math.Clamp(Minutes, VisitRule.Shortest, 240);
        (Day, _) = await days.LoadAsync(db, clock.Now, ct);
        Who = Day.Team.FirstOrDefault(p => p.Id == (Person ?? me.Id)) ?? (Day.Team.Count > 0 ? Day.Team[0] : null);
        if (Who is null)
        {
            return true;
        }

        Jobs = [.. ShortJobs.For(Day.Input with { Now = Day.Now }, Day.AsGiven, DayQuery.Person(Day, Who.Id)!, Minutes).Take(12)];
        return true;
    }
}
