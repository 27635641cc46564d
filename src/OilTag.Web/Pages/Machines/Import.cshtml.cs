using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using OilTag.Data.Machines;
using OilTag.Data.Log;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>A machine from a file: first what would happen, then all of it or nothing.</summary>
[Authorize(Policy = Policies.Keep)]
[RequestSizeLimit(Largest)]
[RequestFormLimits(MultipartBodyLengthLimit = Largest)]
public sealed class ImportModel(Me me, ShedClock clock, MachineImport import, ImportStore imports) : FormPage
{
    /// <summary>Largest file in bytes: 4 GB, ten years of photos.</summary>
    public const long Largest = 4L * 1024 * 1024 * 1024;

    /// <summary>The file that waits; null before one was brought.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Id { get; set; }

    [BindProperty]
    public string? Letter { get; set; }

    public ImportPlan? Plan { get; private set; }

    /// <summary>Day on which the file was written.</summary>
    public NodaTime.LocalDate Written => clock.Local(Plan!.File.Written).Date;

    /// <summary>Why the file cannot even be looked into; null when it can.</summary>
    public string? Refused { get; private set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        Letter = Plan?.Letter;
        return Page();
    }

    public Task<IActionResult> OnPostAsync(IFormFile? file, CancellationToken ct) => WriteAsync(me.IsKeeper, () => Task.FromResult(true), async () =>
    {
        if (file is not { Length: > 0 })
        {
            return Recorded.Refused("Choose the file: a zip that was exported from Oil Tag.", "File");
        }

        await using var from = file.OpenReadStream();
        return await imports.KeepAsync(from, id => $"/machines/import/{id}", ct);
    });

    public Task<IActionResult> OnPostTakeAsync(CancellationToken ct) => WriteAsync(me.IsKeeper, () => LoadAsync(ct), async () =>
    {
        if (Id is not { } id || imports.Open(id) is not { } file)
        {
            return Recorded.Refused("The file is gone. Bring it again.", "File");
        }

        var outcome = await import.TakeAsync(Key, me.Id, file, Letter, ct);
        if (outcome.Ok)
        {
            imports.Drop(id);
        }

        return outcome;
    });

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (Id is not { } id)
        {
            return true;
        }

        if (imports.Open(id) is not { } file)
        {
            return false;
        }

        (Plan, Refused) = await import.PlanAsync(file, ct);
        return true;
    }
}
