using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Setup;

namespace OilTag.Web.Pages.Account;

/// <summary>Signs people in, in one step or two; offers the demo people as buttons in demo mode only.</summary>
[AllowAnonymous]
[Limited(LimitedAttribute.SignIn)]
public sealed class SignInModel(OilTagDb db, SignIns signIns, OilTagSettings settings) : PageModel
{
    public sealed record DemoPerson(string SignIn, string Name, string Role, string Skills);

    public IReadOnlyList<DemoPerson> Demo { get; private set; } = [];

    public string Museum => settings.Museum;

    public string? Problem { get; private set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    /// <summary>What the first step led to the second with; null in the first.</summary>
    [BindProperty]
    public string? Ticket { get; set; }

    [BindProperty]
    public string? Code { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? ReturnUrl { get; set; }

    /// <summary>True just after somebody chose a password.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Chosen { get; set; }

    public async Task OnGetAsync(CancellationToken ct) => await LoadAsync(ct);

    public async Task<IActionResult> OnPostAsync(CancellationToken ct)
    {
        Ticket = null;
        if (string.IsNullOrWhiteSpace(Name) || string.IsNullOrEmpty(Password) || Name.Length > 100 || Password.Length > 200)
        {
            return await RefuseAsync("Type your sign-in name and your password.", ct);
        }

        return await AnswerAsync(await signIns.TryAsync(Name, Password, SignInCookie.From(HttpContext), ct),
            "Name and password do not match. Try again.", ct);
    }

    public async Task<IActionResult> OnPostCodeAsync(CancellationToken ct) =>
        await AnswerAsync(await signIns.TryCodeAsync(Ticket, Code, SignInCookie.From(HttpContext), ct),
            "That code does not fit. Type the six digits that your phone shows now, or one of your recovery codes.", ct);

    public async Task<IActionResult> OnPostDemoAsync(string? person, CancellationToken ct)
    {
        if (!settings.Demo)
        {
            return NotFound();
        }

        var normal = (person ?? string.Empty).ToUpperInvariant();
        if (await db.Users.AsNoTracking().SingleOrDefaultAsync(a => a.NormalizedUserName == normal && a.EndedAt == null,
            ct) is not { } account)
        {
            return await RefuseAsync("That person is not in the demo.", ct);
        }

        await SignInCookie.SignInAsync(HttpContext, signIns, account, ct);
        return LocalRedirect(Back());
    }

    private async Task<IActionResult> AnswerAsync(Tried tried, string wrong, CancellationToken ct)
    {
        switch (tried.End)
        {
            case TryEnd.In:
                await SignInCookie.SignInAsync(HttpContext, signIns, tried.Account!, ct);
                return LocalRedirect(Back());
            case TryEnd.Second:
                Ticket = signIns.Ticket(tried.Account!);
                ModelState.Clear();
                Response.Headers.CacheControl = "no-store";
                return Page();
            case TryEnd.Late:
                Ticket = null;
                return await RefuseAsync("That took too long. Begin again with your name and password.", ct);
            case TryEnd.Waits:
                return await RefuseAsync("Too many tries from here. Wait a quarter of an hour, then try again; the keeper can open it sooner.", ct);
            default:
                return await RefuseAsync(wrong, ct);
        }
    }

    private string Back() => Url.IsLocalUrl(ReturnUrl) ? ReturnUrl! : "/";

    private async Task<PageResult> RefuseAsync(string problem, CancellationToken ct)
    {
        Problem = problem;
        (Password, Code) = (null, null);
        Response.StatusCode = StatusCodes.Status422UnprocessableEntity;
        ModelState.Clear();
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
                where a.EndedAt == null
                orderby r.Name == "lead" ? 0 : r.Name == "inspector" ? 1 : r.Name == "keeper" ? 2 : r.Name == "helper" ? 3 : 4, p.Name
                select new DemoPerson(a.UserName!, p.Name, r.Name!, p.Skills)).ToListAsync(ct);
        }
    }
}
