using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Setup;

namespace OilTag.Web.Pages.Account;

/// <summary>Signs people in; offers the demo people as buttons in demo mode only.</summary>
[AllowAnonymous]
[EnableRateLimiting("sign-in")]
public sealed class SignInModel(OilTagDb db, SignInManager<Data.People.Account> signIn, UserManager<Data.People.Account> users, OilTagSettings settings) : PageModel
{
    public sealed record DemoPerson(string SignIn, string Name, string Role, string Skills);

    public IReadOnlyList<DemoPerson> Demo { get; private set; } = [];

    public string Museum => settings.Museum;

    public string? Problem { get; private set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? ReturnUrl { get; set; }

    public async Task OnGetAsync(CancellationToken ct) => await LoadAsync(ct);

    public async Task<IActionResult> OnPostAsync(CancellationToken ct)
    {
        if (string.IsNullOrWhiteSpace(Name) || string.IsNullOrEmpty(Password) || Name.Length > 100 || Password.Length > 200)
        {
            return await RefuseAsync("Type your sign-in name and your password.", ct);
        }

        var result = await signIn.PasswordSignInAsync(Name.Trim(), Password, isPersistent: false, lockoutOnFailure: true);
        if (result.Succeeded)
        {
            return LocalRedirect(Back());
        }

        return await RefuseAsync(
            result.IsLockedOut
                ? "Too many tries. This sign-in is locked for 15 minutes; the keeper can open it sooner."
                : "Name and password do not match. Try again; after five tries it is locked for 15 minutes.", ct);
    }

    public async Task<IActionResult> OnPostDemoAsync(string person, CancellationToken ct)
    {
        if (!settings.Demo)
        {
            return NotFound();
        }

        var account = await users.FindByNameAsync(person ?? string.Empty);
        if (account is null)
        {
            return await RefuseAsync("That person is not in the demo.", ct);
        }

        await signIn.SignInAsync(account, isPersistent: false);
        return LocalRedirect(Back());
    }

    private string Back() => Url.IsLocalUrl(ReturnUrl) ? ReturnUrl! : "/";

    private async Task<PageResult> RefuseAsync(string problem, CancellationToken ct)
    {
        Problem = problem;
        Password = null;
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        await LoadAsync(ct);
        return Page();
    }

    private async Task LoadAsync(CancellationToken ct)
    {
        if (settings.Demo)
        {
            Demo = await (
                from a in db.Users
                join p in db.People on a.PersonId equals p.Id
                join ur in db.UserRoles on a.Id equals ur.UserId
                join r in db.Roles on ur.RoleId equals r.Id
                orderby r.Name == "lead" ? 0 : r.Name == "inspector" ? 1 : r.Name == "keeper" ? 2 : r.Name == "helper" ? 3 : 4, p.Name
                select new DemoPerson(a.UserName!, p.Name, r.Name!, p.Skills)).ToListAsync(ct);
        }
    }
}
