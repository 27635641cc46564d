using System.Net;
using System.Net.Sockets;
using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.StaticAssets;
using OilTag.Core.People;
using OilTag.Data.People;

namespace OilTag.Web.Setup;

/// <summary>
/// The cookie of a sign-in. It names the sign-in and nothing else that counts: who that is, what they may do and whether it still holds is asked of the record at
/// every request, so that what a keeper takes back is taken back at once on every node.
/// </summary>
public static class SignInCookie
{
    public const string Scheme = CookieAuthenticationDefaults.AuthenticationScheme;

    public const string PersonId = "person";

    public const string PersonName = "person_name";

    public const string SignInId = "sign_in";

    public const string Shared = "shared";

    private const string DeviceCookie = "oiltag-device";

    /// <summary>Sets the cookie up.</summary>
    public static void Configure(CookieAuthenticationOptions o, OilTagSettings settings)
    {
        ArgumentNullException.ThrowIfNull(o);
        ArgumentNullException.ThrowIfNull(settings);
        o.Cookie.Name = "oiltag";
        o.Cookie.HttpOnly = true;
        o.Cookie.SameSite = SameSiteMode.Lax;
        o.Cookie.SecurePolicy = settings.PlainHttp ? CookieSecurePolicy.SameAsRequest : CookieSecurePolicy.Always;
        o.ExpireTimeSpan = SignInRule.Holds.ToTimeSpan();
        o.SlidingExpiration = true;
        o.LoginPath = "/sign-in";
        o.AccessDeniedPath = "/not-allowed";
        o.Events.OnValidatePrincipal = ValidateAsync;
        o.Events.OnRedirectToLogin = c => Answer(c, StatusCodes.Status401Unauthorized);
        o.Events.OnRedirectToAccessDenied = c => Answer(c, StatusCodes.Status403Forbidden);
    }

    /// <summary>Where a request comes from, for counting tries.</summary>
    public static TryFrom From(HttpContext http)
    {
        ArgumentNullException.ThrowIfNull(http);
        return new TryFrom(
            Guid.TryParseExact(http.Request.Cookies[DeviceCookie], "N", out var device) ? device : null,
            Address(http),
            SignInRule.Device(http.Request.Headers.UserAgent.ToString()));
    }

    /// <summary>The address that tries are counted by. Of the newer kind its first half, because whoever has one has the whole of the other half.</summary>
    public static string Address(HttpContext http)
    {
        ArgumentNullException.ThrowIfNull(http);
        return http.Connection.RemoteIpAddress switch
        {
            null => "unknown",
            { IsIPv4MappedToIPv6: true } a => a.MapToIPv4().ToString(),
            { AddressFamily: AddressFamily.InterNetworkV6 } a => new IPAddress([.. a.GetAddressBytes()[..8], .. new byte[8]]).ToString(),
            var a => a.ToString(),
        };
    }

    /// <summary>Signs an account in on the browser that asks.</summary>
    public static async Task SignInAsync(HttpContext http, SignIns signIns, Account account, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(http);
        ArgumentNullException.ThrowIfNull(signIns);
        ArgumentNullException.ThrowIfNull(account);
        var signIn = await signIns.BeginAsync(account, From(http), ct);
        http.Response.Cookies.Append(DeviceCookie, signIn.DeviceId.ToString("N"), new CookieOptions { HttpOnly = true, SameSite = SameSiteMode.Lax, Secure = http.Request.IsHttps, MaxAge = TimeSpan.FromDays(365), IsEssential = true });
        await http.SignInAsync(Scheme, new ClaimsPrincipal(new ClaimsIdentity([new Claim(ClaimTypes.NameIdentifier, account.Id.ToString()), new Claim(SignInId, signIn.Id.ToString())], Scheme)));
    }

    private static async Task ValidateAsync(CookieValidatePrincipalContext c)
    {
        // Styles, scripts and the word how well it is are for everybody, and are served while the database is away.
        if (c.HttpContext.GetEndpoint()?.Metadata.GetMetadata<StaticAssetDescriptor>() is not null || c.HttpContext.Request.Path.StartsWithSegments("/health"))
        {
            c.RejectPrincipal();
            return;
        }

        if (!Guid.TryParse(c.Principal?.FindFirstValue(SignInId), out var id) || await c.HttpContext.RequestServices.GetRequiredService<SignIns>().FindAsync(id, c.HttpContext.RequestAborted) is not { } known)
        {
            c.RejectPrincipal();
            await c.HttpContext.SignOutAsync(Scheme);
            return;
        }

        List<Claim> claims =
        [
            new(ClaimTypes.NameIdentifier, known.AccountId.ToString()), new(SignInId, id.ToString()), new(PersonId, known.PersonId.ToString()), new(PersonName, known.Name), .. known.Shared ? [new Claim(Shared, "yes")] : Array.Empty<Claim>(),
            .. known.Roles.Split(',', StringSplitOptions.RemoveEmptyEntries).Select(r => new Claim(ClaimTypes.Role, r)),
        ];
        c.ReplacePrincipal(new ClaimsPrincipal(new ClaimsIdentity(claims, Scheme)));
    }

    // A redirect inside an htmx request would swap the whole sign-in page into a list.
    private static Task Answer(RedirectContext<CookieAuthenticationOptions> c, int status)
    {
        if (c.Request.Headers.ContainsKey("HX-Request"))
        {
            c.Response.StatusCode = status;
            c.Response.Headers["HX-Redirect"] = c.RedirectUri;
        }
        else
        {
            c.Response.Redirect(c.RedirectUri);
        }

        return Task.CompletedTask;
    }
}
