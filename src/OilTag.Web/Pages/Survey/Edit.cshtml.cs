using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Corrects a finding; what it said before stays in the log.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class EditModel(OilTagDb db, Me me, FindingWrites writes) : FindingForm(db)
{
    public Finding Finding { get; private set; } = null!;

    [BindProperty]
    public uint Version { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        (What, Cause, Evidence, Feature, Reading, Nominal, Limit, LimitFor, Version) = (Finding.What, Finding.Cause, Finding.Evidence, Finding.Feature, Finding.ReadingText, Finding.Nominal?.Text, Finding.Limit?.Text, Finding.LimitFor, Finding.Version);
        return Page();
    }

    // After a change by somebody else the next press is meant for what is there now.
    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(
        true,
        () => LoadAsync(number, ct),
        () => writes.EditAsync(Key, me.Id, number, Entry, Evidence, Version, ct),
        () => Version = Stale ? Finding.Version : Version);

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (await Db.Findings.AsNoTracking().SingleOrDefaultAsync(x => x.Number == number, ct) is not { } f)
        {
            return false;
        }

        Finding = f;
        return await LoadPlaceAsync(f.PlaceId, ct);
    }
}
