using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Opens a diagnosis at a place.</summary>
public sealed class NewDiagnosisModel(OilTagDb db, Me me, DiagnosisWrites writes) : PlanPage(db)
{
    [BindProperty]
    public string? Symptom { get; set; }

    [BindProperty]
    public string? Suspects { get; set; }

    public IReadOnlyList<(int Number, string Symptom)> Here { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => !me.CanRecord ? Forbid() : await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(ct), () => writes.OpenAsync(Key, me.Id, PlaceId, Symptom, Suspects, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (!await LoadPlaceAsync(ct))
        {
            return false;
        }

        Here = [.. (await Db.Diagnoses.Where(d => d.PlaceId == PlaceId).OrderByDescending(d => d.Number).Take(5).Select(d => new { d.Number, d.Symptom }).ToListAsync(ct)).Select(d => (d.Number, d.Symptom))];
        return true;
    }
}
