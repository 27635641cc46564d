using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>The second step of signing in: a code from the phone, with recovery codes for when the phone is lost.</summary>
public sealed class SecondModel(OilTagDb db, Me me, AccountWrites writes, SignIns signIns) : FormPage
{
    /// <summary>True when it is asked.</summary>
    public bool On { get; private set; }

    /// <summary>The secret that is being set up, in groups of four; empty when none is.</summary>
    public string Secret { get; private set; } = string.Empty;

    /// <summary>The same as an address for an authenticator.</summary>
    public string Address { get; private set; } = string.Empty;

    /// <summary>Recovery codes that are left.</summary>
    public int Left { get; private set; }

    /// <summary>New recovery codes, shown this once.</summary>
    public IReadOnlyList<string> Codes { get; private set; } = [];

    [BindProperty]
    public string? Code { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : Forbid();

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.MayHaveSecond, () => LoadAsync(ct),
        () => writes.BeginSecondAsync(Key, me.Id, ct));

    public Task<IActionResult> OnPostConfirmAsync(CancellationToken ct) => CodesAsync(() => writes.ConfirmSecondAsync(Key, me.Id, Code,
        me.From, ct), ct);

    public Task<IActionResult> OnPostCodesAsync(CancellationToken ct) => CodesAsync(() => writes.RenewCodesAsync(Key, me.Id, ct), ct);

    public Task<IActionResult> OnPostOffAsync(CancellationToken ct) => WriteAsync(true, () => LoadAsync(ct),
        () => writes.DropSecondAsync(Key, me.Id, Password, me.From, ct), () => Password = null);

    private Task<IActionResult> CodesAsync(Func<Task<(Data.Log.Recorded Outcome, IReadOnlyList<string> Codes)>> write,
        CancellationToken ct) => ShowOnceAsync(
        me.MayHaveSecond,
        () => LoadAsync(ct),
        async () =>
        {
            (var outcome, Codes) = await write();
            return outcome;
        },
        () => Codes.Count > 0);

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var id = me.Id;
        var account = await db.Users.AsNoTracking().SingleAsync(a => a.PersonId == id, ct);
        On = account.Second.Length > 0;
        Left = await db.RecoveryCodes.CountAsync(c => c.AccountId == account.Id && c.UsedAt == null, ct);
        (Secret, Address) = (string.Empty, string.Empty);
        if (account.SecondNext.Length > 0)
        {
            var secret = signIns.Second(account.SecondNext);
            Secret = string.Join(' ', secret.Chunk(4).Select(c => new string(c)));
            Address = $"otpauth://totp/Oil%20Tag:{Uri.EscapeDataString(account.UserName!)}?secret={secret}&issuer=Oil%20Tag";
            Response.Headers.CacheControl = "no-store";
        }

        return me.MayHaveSecond || On;
    }
}
