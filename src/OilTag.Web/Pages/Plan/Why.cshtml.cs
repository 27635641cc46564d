using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using OilTag.Core.Planning;
using OilTag.Data.Planning;

namespace OilTag.Web.Pages.Plan;

/// <summary>Why an operation is planned when it is: the chain of reasons.</summary>
public sealed class WhyModel(PlanLoader plans) : PageModel
{
    public PlanOperation Operation { get; private set; } = null!;

    public PlanPackage Package { get; private set; } = null!;

    public IReadOnlyList<ReasonLink> Links { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(string id, CancellationToken ct)
    {
        var (plan, _) = await plans.PresentAsync(ct);
        if (plan?.Input.Operations.FirstOrDefault(o => o.Id == id) is not { } operation)
        {
            return NotFound();
        }

        Operation = operation;
        Package = plan.Input.Packages.First(p => p.Id == operation.Package);
        Links = PlanReasons.Of(plan.Input, plan.Result.Schedule, id);
        return Page();
    }
}
