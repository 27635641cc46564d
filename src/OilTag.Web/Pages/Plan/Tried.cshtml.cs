using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>A tried plan beside the present one, or advice.</summary>
public sealed class TriedModel(OilTagDb db, PlanLoader plans, ShedClock clock, Me me, PlanWrites writes) : FormPage
{
    public KeptPlan Kept { get; private set; } = null!;

    public ReadyPlan? Present { get; private set; }

    /// <summary>The changed plan; null for advice and until it is worked out.</summary>
    public PlanInput? Input { get; private set; }

    public TriedResult? Result { get; private set; }

    public Advice? Advice { get; private set; }

    public IReadOnlyList<string> Changes { get; private set; } = [];

    /// <summary>Operations that move most, with the day on which they end now and then.</summary>
    public IReadOnlyList<(PlanOperation Operation, string Title, LocalDate? Now, LocalDate? Then)> Moved { get; private set; } = [];

    public PlanSheet? Sheet { get; private set; }

    public IReadOnlyDictionary<string, Machine> Machines { get; private set; } = new Dictionary<string, Machine>(StringComparer.Ordinal);

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct) => await LoadAsync(id, ct) ? Page() : NotFound();

    /// <summary>The page's state while it is worked out: nothing to draw anew until it is done.</summary>
    public async Task<IActionResult> OnGetStateAsync(Guid id, CancellationToken ct)
    {
        var state = await db.Plans.Where(p => p.Id == id).Select(p => new { p.State, p.Progress }).SingleOrDefaultAsync(ct);
        if (state is null)
        {
            return NotFound();
        }

        if (state.State is KeptPlanState.Done or KeptPlanState.Failed)
        {
            Response.Headers["HX-Refresh"] = "true";
        }

        return new NoContentResult();
    }

    public Task<IActionResult> OnPostDropAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.DropAsync(Key, me.Id, id, ct));

    public Task<IActionResult> OnPostTakeAsync(Guid id, int suggestion, bool enough, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.TakeAsync(Key, me.Id, id, suggestion, enough, clock.Today, ct));

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (await db.Plans.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id && (p.Kind == KeptPlanKind.Tried || p.Kind == KeptPlanKind.Advised), ct) is not { } kept)
        {
            return false;
        }

        Kept = kept;
        Present = (await plans.PresentAsync(ct)).Plan;
        if (kept.State != KeptPlanState.Done)
        {
            return true;
        }

        if (kept.Kind == KeptPlanKind.Advised)
        {
            Advice = JsonSerializer.Deserialize<Advice>(kept.Result, PlanJson.Options);
            Input = PlanJson.Read(kept.Input).Plan;
            return true;
        }

        Input = PlanJson.Read(kept.Input).Plan!;
        Result = JsonSerializer.Deserialize<TriedResult>(kept.Result, PlanJson.Options)!;
        Changes = [.. JsonSerializer.Deserialize<IReadOnlyList<PlanChange>>(kept.Changes, PlanJson.Options)!.Select(c => c.Words(Input))];
        Machines = await db.Machines.AsNoTracking().ToDictionaryAsync(m => m.Letter, StringComparer.Ordinal, ct);
        Sheet = PlanSheet.Of(Input, Result.Schedule, Result.Forecast, [], clock.Today.PlusDays(-3), 32 * 7, SheetBy.Machine, null, Present?.Result.Schedule);
        if (Present is { } now)
        {
            var titles = Input.Packages.ToDictionary(p => p.Id, p => p.Title, StringComparer.Ordinal);
            Moved = [.. Input.Operations.Zip(Result.Schedule.Operations)
                .Select(x => (x.First, Title: titles[x.First.Package], Now: now.Position(x.First.Id) is >= 0 and var at ? now.Result.Schedule.Operations[at].Finish?.Date : null, Then: x.Second.Finish?.Date))
                .Where(x => x.Now != x.Then)
                .OrderByDescending(x => x.Now is { } a && x.Then is { } b ? Math.Abs(Period.DaysBetween(a, b)) : int.MaxValue)
                .Take(12)];
        }

        return true;
    }
}
