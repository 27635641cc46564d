using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>Chooses the PIN with which somebody signs on the shed's tablet.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class PinModel(OilTagDb db, Me me, AccountWrites writes) : FormPage
{
    public bool Has { get; private set; }

    [BindProperty]
    public string? Old { get; set; }

    [BindProperty]
    public string? Pin { get; set; }

    [BindProperty]
    public string? PinAgain { get; set; }

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        true, () => LoadAsync(ct), () => writes.PinAsync(Key, me.Id, Old, Pin, PinAgain, me.From, ct), () =>
            (Old, Pin, PinAgain) = (null, null, null));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var id = me.Id;
        Has = await db.Users.AnyAsync(a => a.PersonId == id && a.PinHash != string.Empty, ct);
        return true;
    }
}
