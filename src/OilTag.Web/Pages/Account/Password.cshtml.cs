using Microsoft.AspNetCore.Mvc;
using OilTag.Data.People;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Account;

/// <summary>Changes one's own password, with the old one.</summary>
public sealed class PasswordModel(Me me, AccountWrites writes) : FormPage
{
    [BindProperty]
    public string? Old { get; set; }

    [BindProperty]
    public string? Password { get; set; }

    [BindProperty]
    public string? Again { get; set; }

    public void OnGet()
    {
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        true, () => Task.FromResult(true), () => writes.PasswordAsync(Key, me.Id, Old, Password, Again, me.SignInId, me.From,
            ct), () => (Old, Password, Again) = (null, null, null));
}
