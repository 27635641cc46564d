using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>How a package lies in the plan: whether it opens its machine, what it takes away, from when on it may be begun, what will undo it, and where it may rest.</summary>
public sealed class InPlanModel(OilTagDb db, Me me, ShedClock clock, PlanLoader plans, PackageWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    public WorkPackage Package { get; private set; } = null!;

    /// <summary>Open steps with when the plan does them.</summary>
    public IReadOnlyList<(Operation Step, ScheduledOperation? Planned)> Steps { get; private set; } = [];

    /// <summary>What the plan says of it that cannot be, or that it would rest where it should not.</summary>
    public IReadOnlyList<string> Says { get; private set; } = [];

    [BindProperty]
    public bool Opens { get; set; }

    [BindProperty]
    public string? TakesAway { get; set; }

    [BindProperty]
    public DateOnly? NotBefore { get; set; }

    [BindProperty]
    public string? UndoneBy { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        (Opens, NotBefore) = (Package.Opens, Package.NotBefore?.ToDateOnly());
        TakesAway = string.Join('\n', Package.TakesAway);
        var undo = Package.UndoneBy;
        UndoneBy = undo.Count == 0 ? null : string.Join(' ', await db.Packages.Where(p => undo.Contains(p.Id)
            && p.ClosedAt == null).OrderBy(p => p.Number).Select(p => p.Number).ToListAsync(ct));
        return Page();
    }

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) =>
        WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => writes.PlaceInPlanAsync(Key, me.Id, number, Opens, TakesAway,
        ToDate(NotBefore), UndoneBy, clock.Today, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (await db.Packages.AsNoTracking().Include(p => p.Operations).SingleOrDefaultAsync(p => p.Number == number,
            ct) is not { } package)
        {
            return false;
        }

        Package = package;
        Machine = await db.Machines.AsNoTracking().SingleAsync(m => m.Id == package.MachineId, ct);
        var plan = (await plans.PresentAsync(ct)).Plan;
        var own = package.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order).ToList();
        Steps = [.. own.Select(o => (o, plan?.Position(PlanQuery.Id(o.Id)) is >= 0 and var at ? plan.Result.Schedule.Operations[at]
            : null))];
        var about = own.Select(o =>
            PlanQuery.Id(o.Id)).Append(number.ToString(System.Globalization.CultureInfo.InvariantCulture)).ToHashSet(StringComparer.Ordinal);
        Says = [.. plan?.Result.Schedule.Problems.Where(p => about.Contains(p.About)).Select(p => p.Sentence) ?? []];
        return true;
    }
}
