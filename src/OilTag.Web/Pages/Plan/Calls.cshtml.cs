using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>Days for which people are called out, and a new call.</summary>
public sealed class CallsModel(OilTagDb db, Me me, ShedClock clock, CallWrites writes) : FormPage
{
    public IReadOnlyList<(CallOut Call, int Yes, int Perhaps, int No)> Coming { get; private set; } = [];

    /// <summary>Steps that many hands are wanted for.</summary>
    public IReadOnlyList<SelectListItem> Steps { get; private set; } = [];

    [BindProperty]
    public string? What { get; set; }

    [BindProperty(SupportsGet = true)]
    public Guid? Step { get; set; }

    [BindProperty]
    public DateOnly? On { get; set; }

    [BindProperty]
    public TimeOnly? From { get; set; } = new(9, 30);

    [BindProperty]
    public TimeOnly? Until { get; set; } = new(13, 0);

    [BindProperty]
    public string? Wanted { get; set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(ct),
        () => writes.CallAsync(Key, me.Id, What, Step, ToDate(On), ToTime(From), ToTime(Until), Wanted, clock.Today, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var today = clock.Today;
        var calls = await db.CallOuts.AsNoTracking().Where(c => c.EndedAt == null && c.On >= today).OrderBy(c => c.On).ToListAsync(ct);
        var ids = calls.Select(c => c.Id).ToList();
        var replies = (await db.CallReplies.AsNoTracking().Where(r => ids.Contains(r.CallOutId)).Select(r => new { r.CallOutId, r.Answer }).ToListAsync(ct)).ToLookup(r => r.CallOutId, r => r.Answer);
        Coming = [.. calls.Select(c => (c, replies[c.Id].Count(a => a == CallAnswer.Yes), replies[c.Id].Count(a => a == CallAnswer.Perhaps), replies[c.Id].Count(a => a == CallAnswer.No)))];
        var steps = await (from o in db.Operations join k in db.Packages on o.PackageId equals k.Id join m in db.Machines on k.MachineId equals m.Id where o.DoneAt == null && k.ClosedAt == null orderby k.Number, o.Order select new { o.Id, o.Name, o.Needs, o.Order, k.Number, k.Title, m.Letter }).AsNoTracking().ToListAsync(ct);
        Steps = [new SelectListItem("For the day as a whole", string.Empty), .. steps.Where(s => s.Needs.MinCrew > 1 || s.Needs.OnDay is not null || s.Id == Step).Select(s => new SelectListItem($"{s.Letter} {s.Number}.{s.Order} {s.Title}: {s.Name}", s.Id.ToString()))];
        return true;
    }
}
