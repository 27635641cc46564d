using Microsoft.AspNetCore.Mvc.RazorPages;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Data.Planning;

namespace OilTag.Web.Pages.Plan;

/// <summary>Every operation of the plan in order of its start: what the drawing shows, for those who read it or print it.</summary>
public sealed class ListModel(PlanLoader plans) : PageModel
{
    public ReadyPlan? Plan { get; private set; }

    /// <summary>Operations with the share of the runs in which they fix the date of a milestone; null when it was not simulated. What cannot be planned stands last.</summary>
    public IReadOnlyList<(ScheduledOperation Operation, double? Critical)> Rows { get; private set; } = [];

    public IReadOnlyDictionary<string, PlanOperation> Operations { get; private set; } = new Dictionary<string, PlanOperation>(StringComparer.Ordinal);

    public IReadOnlyDictionary<string, PlanPackage> Packages { get; private set; } = new Dictionary<string, PlanPackage>(StringComparer.Ordinal);

    public async Task OnGetAsync(CancellationToken ct)
    {
        Plan = (await plans.PresentAsync(ct)).Plan;
        if (Plan is null)
        {
            return;
        }

        Rows =
        [
            .. Plan.Result.Schedule.Operations
                .Select((o, i) => (Operation: o, Critical: Plan.Result.Forecast?.Operations[i].Critical))
                .OrderBy(x => x.Operation.Start ?? LocalDateTime.MaxIsoValue),
        ];
        Operations = Plan.Input.Operations.ToDictionary(o => o.Id);
        Packages = Plan.Input.Packages.ToDictionary(p => p.Id);
    }
}
