using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>One cell of a matrix survey, filled with large keys at the machine; then the next empty one.</summary>
[RequestSizeLimit(PhotoUpload.BodyLimit)]
public sealed class CellModel(OilTagDb db, Me me, IClock time, MatrixWrites writes) : MatrixPage(db, me, time)
{
    [BindProperty(SupportsGet = true)]
    public int Position { get; set; }

    [BindProperty(SupportsGet = true)]
    public int Check { get; set; }

    [BindProperty]
    public CellMark? Mark { get; set; }

    [BindProperty]
    public string? Reading { get; set; }

    [BindProperty]
    public Evidence Evidence { get; set; } = Evidence.Seen;

    [BindProperty]
    public string? Note { get; set; }

    /// <summary>Go on to the next empty cell afterwards.</summary>
    [BindProperty]
    public bool On { get; set; }

    public string By { get; private set; } = string.Empty;

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadCellAsync(ct))
        {
            return NotFound();
        }

        if (Analysis.At(Position, Check)?.Cell is { } cell)
        {
            Mark = cell.Mark == CellMark.Measured ? null : cell.Mark;
            Reading = cell.Reading is null ? null : cell.ReadingTo is null ? cell.Reading.Text : $"{cell.Reading.Text} to {cell.ReadingTo.Text}";
            (Evidence, Note) = (cell.Evidence, cell.Note);
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(IFormFile? photo, CancellationToken ct) => WriteAsync(Me.CanRecord, () => LoadCellAsync(ct), () => SaveAsync(photo, ct));

    private async Task<Recorded> SaveAsync(IFormFile? photo, CancellationToken ct)
    {
        if (LoadedAt is not { } loaded)
        {
            return TooOld;
        }

        var (kept, wrong) = await PhotoUpload.ReadAsync(photo, null, null, ct);
        if (wrong is not null)
        {
            return Recorded.Refused([wrong]);
        }

        if (Mark is null && string.IsNullOrWhiteSpace(Reading))
        {
            return Recorded.Refused(Matrix.Checks[Check - 1].Measured is null ? "Say what it is like." : "Say what it is like, or what you measured.", "Mark");
        }

        // The same words as in the table: mark, reading, how it is known.
        var known = Evidence.IsOnlySaid() || (Evidence == Evidence.Felt && string.IsNullOrWhiteSpace(Reading)) ? Evidence.ToString() : string.Empty;
        var text = string.Join(' ', new[] { Mark is { } m ? MatrixRules.Write(m, null, null, Evidence.Seen) : string.Empty, (Reading ?? string.Empty).Trim(), known }.Where(x => x.Length > 0));
        var next = On && NextAfter(Position, Check) is { } n ? $"/s/{Number}/matrix/{n.Position}-{n.Check}" : null;
        var outcome = await writes.FillAsync(Key, Me.Id, Number, loaded, [(Position, Check, text, Note ?? string.Empty)], next, ct, kept);
        return outcome.Ok ? outcome : outcome with { Problems = [.. outcome.Problems.Select(p => p.Field == MatrixWrites.Field(Position, Check) ? p with { Field = string.IsNullOrWhiteSpace(Reading) ? "Mark" : "Reading" } : p)] };
    }

    private async Task<bool> LoadCellAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct) || !Matrix.Has(Position, Check))
        {
            return false;
        }

        By = Analysis.At(Position, Check) is { } cell ? await Db.People.Where(p => p.Id == cell.Cell.ById).Select(p => p.Name).SingleAsync(ct) : string.Empty;
        return true;
    }
}
