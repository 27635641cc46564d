using Microsoft.AspNetCore.Mvc;
using NodaTime;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>The checks of a matrix survey with their limits, and the causes that are suspected.</summary>
public sealed class ChecksModel(OilTagDb db, Me me, IClock time, MatrixWrites writes) : MatrixPage(db, me, time)
{
    private const int Spare = 3;

    /// <summary>Lines as they are shown; the last ones are empty.</summary>
    [BindProperty(Name = "Checks")]
    public List<MatrixCheckEntry> Lines { get; set; } = [];

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public int CauseFrom { get; set; } = 1;

    [BindProperty]
    public int CauseTo { get; set; } = 1;

    [BindProperty]
    public string? CauseWords { get; set; }

    [BindProperty]
    public int Index { get; set; }

    /// <summary>Checks as lines of a form, with some empty ones behind them.</summary>
    public static List<MatrixCheckEntry> LinesOf(IEnumerable<MatrixCheck> checks) =>
        [.. checks.Select(c => new MatrixCheckEntry { Name = c.Name, Look = c.Look, Unit = c.Measured?.UnitSymbol, Nominal = c.Measured?.Nominal?.Text, Low = c.Measured?.Low?.Text, High = c.Measured?.High?.Text, For = c.Measured?.For }), .. Enumerable.Repeat(new MatrixCheckEntry(), Spare)];

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!Me.CanRecord)
        {
            return Forbid();
        }

        return await ShowAsync(ct) ? Page() : NotFound();
    }

    public Task<IActionResult> OnPostChecksAsync(CancellationToken ct) => WriteAsync(Me.CanRecord, () => ShowAsync(ct), () => writes.ChecksAsync(Key, Me.Id, Number, Seen, Lines, ct));

    public Task<IActionResult> OnPostCauseAsync(CancellationToken ct) => WriteAsync(Me.CanRecord, () => ShowAsync(ct), () => writes.AddCauseAsync(Key, Me.Id, Number, Seen, CauseFrom, CauseTo, CauseWords, ct));

    public Task<IActionResult> OnPostDropAsync(CancellationToken ct) => WriteAsync(Me.CanRecord, () => ShowAsync(ct), () => writes.DropCauseAsync(Key, Me.Id, Number, Seen, Index, ct));

    private async Task<bool> ShowAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return false;
        }

        if (Lines.Count == 0)
        {
            Lines = LinesOf(Matrix.Checks);
        }

        return true;
    }
}
