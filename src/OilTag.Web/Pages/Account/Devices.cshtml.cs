using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>Where somebody is signed in, and the way to end it there.</summary>
public sealed class DevicesModel(OilTagDb db, IClock clock, Me me, AccountWrites writes) : FormPage
{
    public IReadOnlyList<SignIn> All { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct) => await LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(Guid signIn, CancellationToken ct) => WriteAsync(true, () => LoadAsync(ct),
        () => writes.EndSignInAsync(Key, me.Id, me.Id, signIn, "/me/sign-ins", ct));

    public Task<IActionResult> OnPostOthersAsync(CancellationToken ct) => WriteAsync(true, () => LoadAsync(ct),
        () => writes.EndOthersAsync(Key, me.Id, me.SignInId, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var (now, id) = (clock.GetCurrentInstant(), me.Id);
        All = await (from s in db.SignIns.AsNoTracking() join a in db.Users on s.AccountId equals a.Id where a.PersonId == id && s.EndedAt == null && s.Until > now orderby s.SeenAt descending select s).ToListAsync(ct);
        return true;
    }
}
