using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>Who is signed in, what they may do, what they worked, and the way out.</summary>
public sealed class MeModel(OilTagDb db, Me me, ShedClock clock, SignInManager<Data.People.Account> signIn) : PageModel
{
    public IReadOnlyList<string> RoleNames { get; private set; } = [];

    public int MinutesInAll { get; private set; }

    public int MinutesThisYear { get; private set; }

    public async Task OnGetAsync(CancellationToken ct)
    {
        var id = me.Id;
        RoleNames = [.. Core.People.Roles.All.Where(User.IsInRole)];
        var newYear = new NodaTime.LocalDate(clock.Today.Year, 1, 1);
        MinutesInAll = await db.Hours.Where(h => h.PersonId == id).SumAsync(h => (int?)h.Minutes, ct) ?? 0;
        MinutesThisYear = await db.Hours.Where(h => h.PersonId == id && h.On >= newYear).SumAsync(h => (int?)h.Minutes, ct) ?? 0;
    }

    public async Task<IActionResult> OnPostOutAsync()
    {
        await signIn.SignOutAsync();
        return Redirect("/sign-in");
    }
}
