using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>What was promised, what moved since, and because of what.</summary>
public sealed class PromisesModel(OilTagDb db, PlanLoader plans, ShedClock clock, Me me, PlanWrites writes) : FormPage
{
    /// <summary>A promise with why its dates moved, as far as that was worked out.</summary>
    public sealed record Promise(KeptPlan Kept, string By, ReadyPlan Plan, KeptPlan? Asked, IReadOnlyList<Slip>? Slips, PlanInput? Then);

    public ReadyPlan? Present { get; private set; }

    public IReadOnlyList<Promise> Promises { get; private set; } = [];

    [BindProperty]
    public string? Name { get; set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.PromiseAsync(Key, me.Id, Name, clock.Today, ct));

    public Task<IActionResult> OnPostWhyAsync(Guid promise, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.WhyMovedAsync(Key, me.Id, promise, clock.Today, ct));

    /// <summary>A name for what a part of a slip is about.</summary>
    public static string About(string id, PlanInput then, PlanInput was) =>
        Step(then, id) ?? Step(was, id) ?? then.Demands.FirstOrDefault(d => d.Id == id)?.What ?? then.People.FirstOrDefault(p => p.Id == id)?.Name ?? "something that is not there any more";

    private static string? Step(PlanInput plan, string id) => plan.Operations.FirstOrDefault(o => o.Id == id) is { } o ? $"{plan.Packages.First(p => p.Id == o.Package).Title}: {o.Name}" : null;

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Present = (await plans.PresentAsync(ct)).Plan;
        var kept = await db.Plans.AsNoTracking().Where(p => p.Kind == KeptPlanKind.Promised).OrderByDescending(p => p.AskedAt).Take(6).ToListAsync(ct);
        var asked = (await db.Plans.AsNoTracking().Where(p => p.Kind == KeptPlanKind.Slipped).ToListAsync(ct)).ToDictionary(p => JsonSerializer.Deserialize<Guid>(p.Changes, PlanJson.Options));
        var ids = kept.Select(k => k.AskedById).OfType<Guid>().ToHashSet();
        var names = await db.People.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        Promises = [.. kept.Select(k =>
        {
            var why = asked.GetValueOrDefault(k.Id);
            var done = why?.State == KeptPlanState.Done;
            return new Promise(k, k.AskedById is { } by ? names.GetValueOrDefault(by, "somebody") : "somebody", PlanLoader.Read(k), why, done ? JsonSerializer.Deserialize<IReadOnlyList<Slip>>(why!.Result, PlanJson.Options) : null, done ? PlanJson.Read(why!.Input).Plan : null);
        })];
        return true;
    }
}
