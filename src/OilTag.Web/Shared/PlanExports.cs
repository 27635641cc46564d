using System.Text;
using System.Text.Json;
using OilTag.Data.Planning;

namespace OilTag.Web.Shared;

/// <summary>A plan as it is exported.</summary>
public sealed record PlanExport(PlanFile Plan, PlanOutput Result);

/// <summary>The present plan in open formats: what was planned, which is a plan file, and what came of it. It says who is away and who is under 18, so it is not for visitors. The list is among the other lists, as CSV.</summary>
public static class PlanExports
{
    public static void Map(IEndpointRouteBuilder app) => app.MapGet("/plan.json", async (PlanLoader plans, CancellationToken ct) =>
        (await plans.PresentAsync(ct)).Plan is not { } plan
            ? Results.NotFound()
            : Results.Text(JsonSerializer.Serialize(new PlanExport(PlanFile.Of(plan.Input), PlanOutput.Of(plan.Result.Schedule, plan.Result.Forecast, plan.Result.OrderBy)), PlanJson.Options), "application/json", Encoding.UTF8)).RequireAuthorization(Policies.Record);
}
