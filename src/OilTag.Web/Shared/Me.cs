using System.Security.Claims;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Setup;

namespace OilTag.Web.Shared;

/// <summary>Policies of the pages.</summary>
public static class Policies
{
    /// <summary>Everybody but visitors.</summary>
    public const string Record = "record";

    /// <summary>Keepers.</summary>
    public const string Keep = "keep";
}

/// <summary>Who is asking.</summary>
public sealed class Me(IHttpContextAccessor http, OilTagDb db)
{
    private ClaimsPrincipal User => http.HttpContext!.User;

    public bool SignedIn => User.Identity?.IsAuthenticated == true;

    public Guid Id => Guid.Parse(User.FindFirstValue(SignInCookie.PersonId)!);

    public string Name => User.FindFirstValue(SignInCookie.PersonName) ?? string.Empty;

    /// <summary>The sign-in that is used.</summary>
    public Guid SignInId => Guid.Parse(User.FindFirstValue(SignInCookie.SignInId)!);

    /// <summary>Where the request comes from, for counting tries.</summary>
    public TryFrom From => SignInCookie.From(http.HttpContext!);

    public bool CanRecord => Roles.All.Any(r => r != Roles.Visitor && User.IsInRole(r));

    public bool CanLead => User.IsInRole(Roles.Lead) || User.IsInRole(Roles.Keeper);

    public bool IsKeeper => User.IsInRole(Roles.Keeper);

    /// <summary>True on the shed's tablet: a signature asks for a PIN there.</summary>
    public bool IsShared => User.HasClaim(SignInCookie.Shared, "yes");

    /// <summary>Whether they may sign here as themselves; on the shed's tablet a signature asks for a PIN instead.</summary>
    public bool IsInspector => !IsShared && User.IsInRole(Roles.Inspector);

    /// <summary>True for those whose sign-in is worth a second step.</summary>
    public bool MayHaveSecond => IsKeeper || IsInspector;

    /// <summary>Asks once more as the signature is written, for whoever is signed in on a device of their own.</summary>
    public async Task<bool> IsInspectorNowAsync(CancellationToken ct) => !IsShared && await IsInspectorNowAsync(Id, ct);

    /// <summary>Asks once more as the signature is written: it counts only with a role that holds now.</summary>
    public Task<bool> IsInspectorNowAsync(Guid id, CancellationToken ct) =>
        (from a in db.Users join ur in db.UserRoles on a.Id equals ur.UserId join r in db.Roles on ur.RoleId equals r.Id where a.PersonId == id && r.Name == Roles.Inspector select r.Id).AnyAsync(ct);
}

/// <summary>The museum's own date and time.</summary>
public sealed class ShedClock(IClock clock, OilTagSettings settings)
{
    public DateTimeZone Zone => settings.Zone;

    public LocalDate Today => Now.Date;

    public LocalDateTime Now => Local(clock.GetCurrentInstant());

    public LocalDateTime Local(Instant at) => at.InZone(settings.Zone).LocalDateTime;
}
