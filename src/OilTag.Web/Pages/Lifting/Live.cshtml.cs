using Microsoft.AspNetCore.Mvc;
using OilTag.Core;
using OilTag.Data;
using OilTag.Data.Lifting;
using OilTag.Data.Log;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Lifting;

/// <summary>The lift while it goes on: what the cells show against their limits, the next step, and a stop that nobody overlooks.</summary>
public sealed class LiveModel(OilTagDb db, Me me, ShedClock clock, LoadCells cells, LiftWrites writes) : LiftPage(db, me, clock)
{
    public bool MayClear { get; private set; }

    /// <summary>Why there are no readings; null when there are.</summary>
    public string? NoCells { get; private set; }

    public bool HasCells => cells.Set && Plan.Supports.Any(s => s.Cell > 0);

    /// <summary>What is read by eye, one a support.</summary>
    [BindProperty]
    public List<string?> Typed { get; set; } = [];

    [BindProperty]
    public int Step { get; set; }

    [BindProperty]
    public Guid StopId { get; set; }

    [BindProperty]
    public string? ClearNote { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await ShowAsync(number, ct) ? Page() : NotFound();

    /// <summary>Reads the cells. A page that asks by itself gets the new figures and nothing else.</summary>
    public async Task<IActionResult> OnPostReadAsync(int number, CancellationToken ct)
    {
        if (!Me.CanRecord)
        {
            return Forbid();
        }

        if (!await InOneMomentAsync(() => ShowAsync(number, ct)))
        {
            return NotFound();
        }

        var (kilograms, sentence) = Plan.SignedAt is null ? ([], "Nothing is lifted before the plan is signed.") : await cells.ReadAsync([.. Result.Loads.Select(l => (l.Support.Cell, l.Kilograms))], ct);
        NoCells = sentence;
        if (sentence is null)
        {
            Show(await writes.ReadAsync(Guid.CreateVersion7(), Me.Id, number, kilograms, ct));
            Response.StatusCode = StatusCodes.Status200OK;
            await InOneMomentAsync(() => ShowAsync(number, ct));
        }

        return Request.Headers.ContainsKey("HX-Request") ? Partial("_Cells", this) : Page();
    }

    public Task<IActionResult> OnPostTypedAsync(int number, CancellationToken ct) => WriteAsync(Me.CanRecord, () => ShowAsync(number, ct), async () =>
    {
        List<double?> all = [];
        var problems = new List<Problem>();
        foreach (var (support, i) in Plan.Supports.Select((s, i) => (s, i)))
        {
            var text = Typed.ElementAtOrDefault(i);
            var read = string.IsNullOrWhiteSpace(text) ? default : OilTag.Core.Measures.SignedReader.Read(text, OilTag.Core.Measures.Quantity.Mass);
            if (read.Refusal is { } no)
            {
                problems.Add(new Problem("Typed", $"{support.Name}: {no}"));
            }

            all.Add(read.Si);
        }

        return problems.Count > 0 ? Recorded.Refused(problems) : all.TrueForAll(a => a is null) ? Recorded.Refused("Type what at least one gauge shows.", "Typed") : await writes.ReadAsync(Key, Me.Id, number, all, ct);
    });

    public Task<IActionResult> OnPostStepAsync(int number, CancellationToken ct) => WriteAsync(Me.CanRecord, () => ShowAsync(number, ct), () => writes.StepAsync(Key, Me.Id, number, Step, ct));

    public Task<IActionResult> OnPostClearAsync(int number, CancellationToken ct) => WriteAsync(Me.CanRecord, () => ShowAsync(number, ct), async () => await writes.ClearAsync(Key, Me.Id, await MaySignAsync(ct), number, StopId, ClearNote, ct));

    private async Task<bool> ShowAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return false;
        }

        MayClear = Stop is not null && Me.CanRecord && await MaySignAsync(ct);
        return true;
    }
}
