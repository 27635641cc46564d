using Microsoft.AspNetCore.Mvc;
using OilTag.Data;
using OilTag.Data.Lifting;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Lifting;

/// <summary>One plan of a lift: what each support bears, who signed, and why nobody may yet.</summary>
public sealed class LiftModel(OilTagDb db, Me me, ShedClock clock, LiftWrites writes) : LiftPage(db, me, clock)
{
    public bool MaySign { get; private set; }

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await ShowAsync(number, ct))
        {
            return NotFound();
        }

        Seen = Plan.Version;
        return Page();
    }

    [BindProperty]
    public string? Over { get; set; }

    public Task<IActionResult> OnPostSignAsync(int number, CancellationToken ct) => WriteAsync(Me.CanRecord, () => ShowAsync(number, ct), async () => await writes.SignAsync(Key, Me.Id, await MaySignAsync(ct), number, Seen, Note, Over, ct), () => Seen = Stale ? Plan.Version : Seen);

    private async Task<bool> ShowAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return false;
        }

        MaySign = Me.CanRecord && await MaySignAsync(ct);
        return true;
    }
}
