using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Setup;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>Chooses a password by a keeper's link: the first one, or a new one.</summary>
[AllowAnonymous]
[Limited(LimitedAttribute.SignIn)]
public sealed class JoinModel(OilTagDb db, IClock clock, AccountWrites writes, OilTagSettings settings) : FormPage
{
    private Data.People.Account account = null!;

    public string PersonName { get; private set; } = string.Empty;

    public string SignInName => account.UserName!;

    public string Museum => settings.Museum;

    public string Secret { get; private set; } = string.Empty;

    [BindProperty]
    public string? Password { get; set; }

    [BindProperty]
    public string? Again { get; set; }

    /// <summary>The whole address of a link, to send to somebody.</summary>
    public static string Address(HttpRequest request, string secret)
    {
        ArgumentNullException.ThrowIfNull(request);
        return $"{request.Scheme}://{request.Host}/join/{secret}";
    }

    public async Task<IActionResult> OnGetAsync(string secret, CancellationToken ct) => await LoadAsync(secret, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(string secret, CancellationToken ct) =>
        WriteAsync(true, () => LoadAsync(secret, ct), () => writes.ChooseAsync(Key, account, secret, Password, Again, ct),
            () => (Password, Again) = (null, null));

    private async Task<bool> LoadAsync(string secret, CancellationToken ct)
    {
        Response.Headers.CacheControl = "no-store";
        Response.Headers["Referrer-Policy"] = "no-referrer";
        if (await writes.OfLinkAsync(secret, clock.GetCurrentInstant(), ct) is not { } found)
        {
            return false;
        }

        account = found;
        Secret = secret;
        PersonName = await db.People.Where(p => p.Id == found.PersonId).Select(p => p.Name).SingleAsync(ct);
        return true;
    }
}
