using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>One person's account, as the keeper looks after it.</summary>
[Authorize(Policy = Policies.Keep)]
public sealed class PersonModel(OilTagDb db, IClock clock, Me me, AccountWrites writes) : FormPage
{
    public Core.People.Person Person { get; private set; } = null!;

    /// <summary>The account; null for somebody who cannot sign in.</summary>
    public Data.People.Account? Account { get; private set; }

    public IReadOnlyList<string> Held { get; private set; } = [];

    public IReadOnlyList<SignIn> SignIns { get; private set; } = [];

    /// <summary>Until when a link that was given and not used holds.</summary>
    public Instant? LinkUntil { get; private set; }

    /// <summary>A link that was made just now; it is shown this once.</summary>
    public string? Link { get; private set; }

    [BindProperty]
    public new string? SignIn { get; set; }

    [BindProperty]
    public List<string> Roles { get; set; } = [];

    /// <summary>What the ticks show: what was ticked and refused, otherwise what they do.</summary>
    public IReadOnlyList<string> Ticked => Problems.Count > 0 ? Roles : Held;

    public async Task<IActionResult> OnGetAsync(Guid who, CancellationToken ct) => await LoadAsync(who, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostInAsync(Guid who, CancellationToken ct) => GiveAsync(who,
        () => writes.LetInAsync(Key, me.Id, who, SignIn, Roles, ct), ct);

    public Task<IActionResult> OnPostLinkAsync(Guid who, CancellationToken ct) => GiveAsync(who,
        () => writes.LinkAsync(Key, me.Id, who, ct), ct);

    public Task<IActionResult> OnPostTakeBackAsync(Guid who, CancellationToken ct) => RunAsync(who,
        () => writes.TakeBackAsync(Key, me.Id, who, ct), ct);

    public Task<IActionResult> OnPostRolesAsync(Guid who, CancellationToken ct) => RunAsync(who,
        () => writes.RolesAsync(Key, me.Id, who, Roles, ct), ct);

    public Task<IActionResult> OnPostUnlockAsync(Guid who, CancellationToken ct) => RunAsync(who,
        () => writes.UnlockAsync(Key, me.Id, who, ct), ct);

    public Task<IActionResult> OnPostSecondAsync(Guid who, CancellationToken ct) => RunAsync(who,
        () => writes.SecondOffAsync(Key, me.Id, who, ct), ct);

    public Task<IActionResult> OnPostOutAsync(Guid who, Guid signIn, CancellationToken ct) => RunAsync(who,
        () => writes.EndSignInAsync(Key, me.Id, who, signIn, $"/keep/accounts/{who}", ct), ct);

    public Task<IActionResult> OnPostSharedAsync(Guid who, Guid signIn, bool shared, CancellationToken ct) => RunAsync(who,
        () => writes.SharedAsync(Key, me.Id, who, signIn, shared, ct), ct);

    public Task<IActionResult> OnPostEndAsync(Guid who, CancellationToken ct) => RunAsync(who, () => writes.EndAsync(Key, me.Id, who, ct),
        ct);

    public Task<IActionResult> OnPostReopenAsync(Guid who, CancellationToken ct) => RunAsync(who,
        () => writes.ReopenAsync(Key, me.Id, who, ct), ct);

    private Task<IActionResult> RunAsync(Guid who, Func<Task<Data.Log.Recorded>> write, CancellationToken ct) => WriteAsync(true,
        () => LoadAsync(who, ct), write);

    private Task<IActionResult> GiveAsync(Guid who, Func<Task<WithSecret>> write, CancellationToken ct) => ShowOnceAsync(
        true,
        () => LoadAsync(who, ct),
        async () =>
        {
            var (outcome, secret) = await write();
            Link = secret is null ? null : JoinModel.Address(Request, secret);
            return outcome;
        },
        () => Link is not null);

    private async Task<bool> LoadAsync(Guid who, CancellationToken ct)
    {
        if (await db.People.AsNoTracking().SingleOrDefaultAsync(p => p.Id == who && p.RemovedAt == null && !p.IsShop, ct) is not { } person)
        {
            return false;
        }

        Person = person;
        Account = await db.Users.AsNoTracking().SingleOrDefaultAsync(a => a.PersonId == who, ct);
        if (Account is { } account)
        {
            var now = clock.GetCurrentInstant();
            Held = [.. (await (from ur in db.UserRoles join r in db.Roles on ur.RoleId equals r.Id where ur.UserId == account.Id select r.Name!).ToListAsync(ct)).Order(StringComparer.Ordinal)];
            SignIns = await db.SignIns.AsNoTracking().Where(s => s.AccountId == account.Id && s.EndedAt == null && s.Until > now).OrderByDescending(s => s.SeenAt).ToListAsync(ct);
            LinkUntil = await db.AccountLinks.Where(l => l.AccountId == account.Id && l.UsedAt == null && l.EndedAt == null && l.Until > now).Select(l => (Instant?)l.Until).MaxAsync(ct);
        }

        return true;
    }
}
