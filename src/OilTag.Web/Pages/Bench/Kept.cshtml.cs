using Microsoft.AspNetCore.Mvc;
using OilTag.Data;
using OilTag.Data.Bench;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Bench;

/// <summary>All kept answers, those first that no longer fit.</summary>
public sealed class KeptModel(OilTagDb db, Me me, KeptWrites writes) : FormPage
{
    public IReadOnlyList<KeptView> All { get; private set; } = [];

    [BindProperty]
    public Guid Id { get; set; }

    [BindProperty]
    public string? Back { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostLetGoAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.LetGoAsync(Key, me.Id, Id, Url.IsLocalUrl(Back) ? Back! : "/bench/kept", ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        All = await KeptQuery.AllAsync(db, ct);
        return true;
    }
}
