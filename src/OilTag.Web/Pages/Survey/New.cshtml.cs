using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>Logs a finding on a tagged part or at a place, with a photo if there is one.</summary>
[Authorize(Policy = Policies.Record)]
[RequestSizeLimit(PhotoUpload.BodyLimit)]
public sealed class NewModel(OilTagDb db, Me me, FindingWrites writes) : FindingForm(db)
{
    [BindProperty(SupportsGet = true, Name = "tag")]
    public int? TagNumber { get; set; }

    [BindProperty(SupportsGet = true, Name = "place")]
    public Guid? PlaceId { get; set; }

    /// <summary>The survey sheet whose cell is logged, and the cell as row and column.</summary>
    [BindProperty(SupportsGet = true, Name = "sheet")]
    public int? SheetNumber { get; set; }

    [BindProperty(SupportsGet = true, Name = "cell")]
    public string? Cell { get; set; }

    [BindProperty]
    public Evidence Evidence { get; set; } = Evidence.Seen;

    [BindProperty]
    public Origin Origin { get; set; }

    /// <summary>Second key, for the photo that comes with the form.</summary>
    [BindProperty]
    public Guid PhotoKey { get; set; }

    /// <summary>Findings that are at the place already.</summary>
    public IReadOnlyList<(int Number, string What)> AlsoHere { get; private set; } = [];

    private Guid? TagId { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        await TakeFromSheetAsync(ct);
        return Page();
    }

    public Task<IActionResult> OnPostAsync(IFormFile? photo, CancellationToken ct) => WriteAsync(true, () => LoadAsync(ct), () => LogAsync(photo, ct));

    private async Task<Recorded> LogAsync(IFormFile? photo, CancellationToken ct)
    {
        byte[]? file = null;
        if (photo is { Length: > 0 })
        {
            // Checked before the finding is written, so that a bad photo never leaves half of it behind.
            if (PhotoRule.CheckSize(photo.Length) is { } size)
            {
                return Recorded.Refused([size]);
            }

            file = await FileBytes.ReadAsync(photo, ct);
            if ((await PhotoStore.CleanAsync(file, ct)).Problem is { } problem)
            {
                return Recorded.Refused([problem]);
            }
        }

        var outcome = await writes.LogAsync(Key, me.Id, Place.Id, TagId, Entry, Evidence, Origin, ct);
        if (outcome.Ok && file is not null)
        {
            var number = int.Parse(outcome.Result!.Split('/')[^1], System.Globalization.CultureInfo.InvariantCulture);
            await writes.AddPhotoAsync(PhotoKey, me.Id, number, file, null, ct);
        }

        return outcome;
    }

    // The cell of a survey sheet fills the form; the person only says what it looks like.
    private async Task TakeFromSheetAsync(CancellationToken ct)
    {
        var at = (Cell ?? string.Empty).Split('-');
        if (at.Length != 2 || !int.TryParse(at[0], out var row) || !int.TryParse(at[1], out var column)
            || await Db.Sheets.AsNoTracking().SingleOrDefaultAsync(s => s.Number == SheetNumber && s.PlaceId == Place.Id, ct) is not { } sheet || !sheet.Has(row, column))
        {
            return;
        }

        var readings = await Db.Readings.AsNoTracking().Where(r => r.SheetId == sheet.Id && r.Row == row && r.Column == column && r.Mark == CellMark.Measured).ToListAsync(ct);
        var worst = VerdictRule.Shrinks(sheet.Feature) ? readings.MinBy(r => r.Si) : readings.MaxBy(r => r.Si);
        var region = sheet.RegionAt(row, column);
        var limit = region?.LimitFor(Holds.Standard);
        What = $"{sheet.Title}, {sheet.NameOf(row, column)} (survey S{sheet.Number}): ";
        (Feature, Reading, Nominal, Limit) = (sheet.Feature, worst is null ? null : Whole(worst.Text, sheet.UnitSymbol), region?.Nominal?.Text, limit?.Text);
        LimitFor = limit is null ? null : Holds.Standard;
    }

    private static string Whole(string text, string unit) => double.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out _) ? $"{text} {unit}" : text;

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        var tag = TagNumber is { } n ? await Db.Tags.AsNoTracking().SingleOrDefaultAsync(t => t.Number == n, ct) : null;
        TagId = tag?.Id;
        if (!await LoadPlaceAsync(tag?.SlotId ?? PlaceId, ct))
        {
            return false;
        }

        AlsoHere = await FindingQuery.AtPlaceAsync(Db, Place.Id, null, ct);
        return true;
    }
}
