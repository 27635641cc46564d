using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Setup;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>Who is signed in, what they may do, what they worked, and the way out.</summary>
public sealed class MeModel(OilTagDb db, Me me, ShedClock clock, PeopleWrites people, SignIns signIns) : FormPage
{
    public IReadOnlyList<string> RoleNames { get; private set; } = [];

    public int MinutesInAll { get; private set; }

    public int MinutesThisYear { get; private set; }

    /// <summary>The private link to the calendar; null while there is none.</summary>
    public string? Feed { get; private set; }

    /// <summary>True when a second step is asked at signing in.</summary>
    public bool Second { get; private set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    /// <summary>Makes the private link, or a new one in its place.</summary>
    public Task<IActionResult> OnPostFeedAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct),
        () => people.FeedAsync(Key, me.Id, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var id = me.Id;
        RoleNames = [.. Core.People.Roles.All.Where(User.IsInRole)];
        var newYear = new NodaTime.LocalDate(clock.Today.Year, 1, 1);
        MinutesInAll = await db.Hours.Where(h => h.PersonId == id).SumAsync(h => (int?)h.Minutes, ct) ?? 0;
        MinutesThisYear = await db.Hours.Where(h => h.PersonId == id && h.On >= newYear).SumAsync(h => (int?)h.Minutes, ct) ?? 0;
        Second = await db.Users.AnyAsync(a => a.PersonId == id && a.Second != string.Empty, ct);
        var key = await db.People.Where(p => p.Id == id).Select(p => p.FeedKey).SingleAsync(ct);
        Feed = key.Length > 0 ? $"{Request.Scheme}://{Request.Host}/calendar/{key}.ics" : null;
        return true;
    }

    /// <summary>Ends the sign-in, and with it every copy of its cookie.</summary>
    public async Task<IActionResult> OnPostOutAsync(CancellationToken ct)
    {
        await signIns.EndAsync(me.SignInId, ct);
        await HttpContext.SignOutAsync(SignInCookie.Scheme);
        return Redirect("/sign-in");
    }
}
