using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
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

/// <summary>Puts the person's id and name into the cookie, beside the roles.</summary>
public sealed class AccountClaims(UserManager<Account> users, RoleManager<IdentityRole<Guid>> roles, IOptions<IdentityOptions> options, OilTagDb db)
    : UserClaimsPrincipalFactory<Account, IdentityRole<Guid>>(users, roles, options)
{
    public const string PersonId = "person";
    public const string PersonName = "person_name";

    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Account user)
    {
        ArgumentNullException.ThrowIfNull(user);
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new Claim(PersonId, user.PersonId.ToString()));
        identity.AddClaim(new Claim(PersonName, await db.People.Where(p => p.Id == user.PersonId).Select(p => p.Name).SingleAsync()));
        return identity;
    }
}

/// <summary>Who is asking.</summary>
public sealed class Me(IHttpContextAccessor http, OilTagDb db)
{
    private ClaimsPrincipal User => http.HttpContext!.User;

    public bool SignedIn => User.Identity?.IsAuthenticated == true;

    public Guid Id => Guid.Parse(User.FindFirstValue(AccountClaims.PersonId)!);

    public string Name => User.FindFirstValue(AccountClaims.PersonName) ?? string.Empty;

    public bool CanRecord => Roles.All.Any(r => r != Roles.Visitor && User.IsInRole(r));

    public bool CanLead => User.IsInRole(Roles.Lead) || User.IsInRole(Roles.Keeper);

    public bool IsKeeper => User.IsInRole(Roles.Keeper);

    public bool IsInspector => User.IsInRole(Roles.Inspector);

    /// <summary>Asks the database, not the cookie: a signature counts only with a role that holds now.</summary>
    public Task<bool> IsInspectorNowAsync(CancellationToken ct)
    {
        var id = Id;
        return (from a in db.Users join ur in db.UserRoles on a.Id equals ur.UserId join r in db.Roles on ur.RoleId equals r.Id where a.PersonId == id && r.Name == Roles.Inspector select r.Id).AnyAsync(ct);
    }
}

/// <summary>The museum's own date and time.</summary>
public sealed class ShedClock(IClock clock, OilTagSettings settings)
{
    public DateTimeZone Zone => settings.Zone;

    public LocalDate Today => Now.Date;

    public LocalDateTime Now => Local(clock.GetCurrentInstant());

    public LocalDateTime Local(Instant at) => at.InZone(settings.Zone).LocalDateTime;
}
