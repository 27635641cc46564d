using NodaTime;
using OilTag.Data.People;

namespace OilTag.Web.Setup;

/// <summary>How often a minute one address may come here. Counted in the database, so that any number of nodes has one limit.</summary>
/// <param name="what">What is counted.</param>
[AttributeUsage(AttributeTargets.Class)]
public sealed class LimitedAttribute(string what) : Attribute
{
    /// <summary>Tries to sign in, and everything else that takes a secret that somebody types.</summary>
    public const string SignIn = "sign-in";

    /// <summary>What outside shops ask by their links.</summary>
    public const string Shop = "shop";

    public string What { get; } = what;
}

/// <summary>Refuses what comes too often.</summary>
public sealed class Limits(RequestDelegate next)
{
    public async Task InvokeAsync(HttpContext http, OilTagSettings settings, SignIns signIns)
    {
        ArgumentNullException.ThrowIfNull(http);
        ArgumentNullException.ThrowIfNull(settings);
        ArgumentNullException.ThrowIfNull(signIns);
        if (http.GetEndpoint()?.Metadata.GetMetadata<LimitedAttribute>() is not { } limited || (limited.What == LimitedAttribute.SignIn && !HttpMethods.IsPost(http.Request.Method)))
        {
            await next(http);
            return;
        }

        var most = limited.What == LimitedAttribute.Shop ? settings.ShopRequestsAMinute : settings.SignInsAMinute;
        if (await signIns.CountAsync($"{limited.What} {SignInCookie.Address(http)}", Duration.FromMinutes(1), http.RequestAborted) > most)
        {
            http.Response.Headers.RetryAfter = "60";
            http.Response.StatusCode = StatusCodes.Status429TooManyRequests;
            return;
        }

        await next(http);
    }
}
