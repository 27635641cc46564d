using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Corrects a finding; what it said before stays in the log.</summary>
[Authorize(Policy = Policies.Record)]
public sealed class EditModel(OilTagDb db, Me me, FindingWrites writes) : FindingForm
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

        (What, Cause, Feature, Reading, Nominal, Limit, LimitFor, Version) = (Finding.What, Finding.Cause, Finding.Feature, Finding.Reading?.Text, Finding.Nominal?.Text, Finding.Limit?.Text, Finding.LimitFor, Finding.Version);
        return Page();
    }

    public async Task<IActionResult> OnPostAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        if (Unreadable())
        {
            Show(Problems);
            return Page();
        }

        var outcome = await writes.EditAsync(Key, me.Id, number, Entry, Version, ct);
        if (outcome.Ok)
        {
            return Redirect(outcome.Result!);
        }

        Show(outcome);
        if (Stale)
        {
            Version = Finding.Version;
        }

        return Page();
    }

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var f = await db.Findings.AsNoTracking().SingleOrDefaultAsync(x => x.Number == number, ct);
        if (f is null)
        {
            return false;
        }

        Finding = f;
        Place = await db.Places.AsNoTracking().SingleAsync(p => p.Id == f.PlaceId, ct);
        Machine = await db.Machines.AsNoTracking().SingleAsync(m => m.Id == f.MachineId, ct);
        Holds = (await PlaceWrites.TreeAsync(db, Machine.Id, ct)).StandardAt(Place.Id, Machine.Standard, Machine.Name);
        return true;
    }
}
