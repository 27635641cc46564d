using Microsoft.AspNetCore.Mvc.Filters;
using OilTag.Data;

namespace OilTag.Web.Setup;

/// <summary>A page or list that is only read shows the record as it was at one moment.</summary>
public sealed class ReadInOneMoment : IAsyncResourceFilter, IEndpointFilter
{
    public async Task OnResourceExecutionAsync(ResourceExecutingContext context, ResourceExecutionDelegate next)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(next);
        var http = context.HttpContext;
        await using var moment = HttpMethods.IsGet(http.Request.Method) && http.User.Identity?.IsAuthenticated == true ? await MomentAsync(http) : null;
        await next();
    }

    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(next);
        await using var moment = await MomentAsync(context.HttpContext);
        return await next(context);
    }

    private static Task<IAsyncDisposable> MomentAsync(HttpContext http) => http.RequestServices.GetRequiredService<OilTagDb>().MomentAsync(http.RequestAborted);
}
