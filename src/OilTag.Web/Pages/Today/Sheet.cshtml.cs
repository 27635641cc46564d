using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>The day on one sheet of paper: one line a job, with a box to tick.</summary>
public sealed class SheetModel(OilTagDb db, DayLoader days, ShedClock clock) : PageModel
{
    public DayFacts Day { get; private set; } = null!;

    public async Task OnGetAsync(CancellationToken ct) => (Day, _) = await days.LoadAsync(db, clock.Now, ct);
}
