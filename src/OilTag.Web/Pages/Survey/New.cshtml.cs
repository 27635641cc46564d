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
    public Origin Origin { get; set; }

    /// <summary>What was drawn over the photo.</summary>
    [BindProperty]
    public string? Marks { get; set; }

    /// <summary>The matrix survey whose cell is logged.</summary>
    [BindProperty(SupportsGet = true, Name = "matrix")]
    public int? MatrixNumber { get; set; }

    /// <summary>The check point whose last reading is logged.</summary>
    [BindProperty(SupportsGet = true, Name = "point")]
    public int? PointNumber { get; set; }

    /// <summary>Findings that are at the place already.</summary>
    public IReadOnlyList<(int Number, string What)> AlsoHere { get; private set; } = [];

    /// <summary>Where it was found, as typed: a tag number or a part of a name. Asked when the page was not opened at a place.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Where { get; set; }

    /// <summary>Places that fit what was typed.</summary>
    public IReadOnlyList<(Guid Id, string Words)> Places { get; private set; } = [];

    private Guid? TagId { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        if (HasPlace)
        {
            await TakeFromSheetAsync(ct);
        }

        return Page();
    }

    /// <summary>The places that fit what is being typed.</summary>
    public async Task<IActionResult> OnGetWhereAsync(CancellationToken ct) => Partial("_Where", await FitAsync(ct));

    public Task<IActionResult> OnPostAsync(IFormFile? photo, CancellationToken ct) => WriteAsync(true, () => LoadAsync(ct), () => LogAsync(photo, ct));

    private async Task<Recorded> LogAsync(IFormFile? photo, CancellationToken ct)
    {
        if (!HasPlace)
        {
            return Recorded.Refused(Places.Count > 1 ? "More than one place is called so. Choose one of them." : string.IsNullOrWhiteSpace(Where) ? "Say where it was found." : "No place is called so, and no tag has that number.", "Where");
        }

        var (kept, wrong) = await PhotoUpload.ReadAsync(photo, null, Marks, ct);
        return wrong is not null ? Recorded.Refused([wrong]) : await writes.LogAsync(Key, me.Id, Place.Id, TagId, Entry, Evidence, Origin, kept, ct);
    }

    // The cell of a survey sheet fills the form; the person only says what it looks like.
    private async Task TakeFromSheetAsync(CancellationToken ct)
    {
        var at = (Cell ?? string.Empty).Split('-');
        if (MatrixNumber is { } matrix && at.Length == 2 && int.TryParse(at[0], out var position) && int.TryParse(at[1], out var check))
        {
            await TakeFromMatrixAsync(matrix, position, check, ct);
            return;
        }

        if (PointNumber is { } point)
        {
            await TakeFromPointAsync(point, ct);
            return;
        }

        if (at.Length != 2 || !int.TryParse(at[0], out var row) || !int.TryParse(at[1], out var column)
            || await Db.Sheets.AsNoTracking().SingleOrDefaultAsync(s => s.Number == SheetNumber && s.PlaceId == Place.Id, ct) is not { } sheet || !sheet.Has(row, column))
        {
            return;
        }

        var readings = await Db.Readings.AsNoTracking().Where(r => r.SheetId == sheet.Id && r.Row == row && r.Column == column && r.Mark == CellMark.Measured).ToListAsync(ct);

        // What was measured comes before what was only said, however bad that would be.
        var known = readings.Exists(r => !r.Evidence.IsOnlySaid()) ? readings.FindAll(r => !r.Evidence.IsOnlySaid()) : readings;
        var worst = VerdictRule.Shrinks(sheet.Feature) ? known.MinBy(r => r.Si) : known.MaxBy(r => r.Si);
        Evidence = worst?.Evidence ?? Evidence;
        var region = sheet.RegionAt(row, column);
        var limit = region?.LimitFor(Holds.Standard);
        What = $"{sheet.Title}, {sheet.NameOf(row, column)} (survey S{sheet.Number}): ";
        (Feature, Reading, Nominal, Limit) = (sheet.Feature, worst is null ? null : Whole(worst.Text, sheet.UnitSymbol), region?.Nominal?.Text, limit?.Text);
        LimitFor = limit is null ? null : Holds.Standard;
    }

    private async Task TakeFromMatrixAsync(int number, int position, int check, CancellationToken ct)
    {
        if (await Db.Matrices.AsNoTracking().SingleOrDefaultAsync(s => s.Number == number, ct) is not { } m || !m.Has(position, check)
            || await Db.MatrixCells.AsNoTracking().SingleOrDefaultAsync(c => c.MatrixId == m.Id && c.Position == position && c.Check == check, ct) is not { } cell)
        {
            return;
        }

        What = $"{m.NameOf(position, check)} (survey S{m.Number}): {(cell.Note.Length > 0 ? cell.Note : cell.Mark == CellMark.Measured ? string.Empty : MatrixRules.Word(cell.Mark).ToLowerInvariant())}";
        Cause = m.Causes.FirstOrDefault(c => position >= c.From && position <= c.To)?.Words;
        Evidence = cell.Evidence;
        if (cell.Reading is { Unit.Quantity: Core.Measures.Quantity.Length } reading && m.Checks[check - 1].Measured is { } limits)
        {
            // Which way it wears shows in the limit that it has.
            var above = limits.High is not null && (limits.Low is null || limits.Nominal is null || reading.Si >= limits.Nominal.Si);
            (Feature, Reading, Nominal, Limit) = (above ? Core.Survey.Feature.Bore : Core.Survey.Feature.Shaft, cell.ReadingTo is { } to ? $"{reading.Text} to {to.Text}" : reading.Text, limits.Nominal?.Text, (above ? limits.High : limits.Low)?.Text);
            LimitFor = limits.For ?? Holds.Standard;
        }
    }

    private async Task TakeFromPointAsync(int number, CancellationToken ct)
    {
        if (await Db.Points.AsNoTracking().SingleOrDefaultAsync(p => p.Number == number && p.PlaceId == Place.Id, ct) is not { } point
            || await Db.PointReadings.AsNoTracking().Where(r => r.PointId == point.Id).OrderByDescending(r => r.On).ThenByDescending(r => r.At).ThenByDescending(r => r.Minutes).FirstOrDefaultAsync(ct) is not { } last)
        {
            return;
        }

        What = $"{point.Title}: {PointModel.Text(last)}{(point.Limits.Words.Length > 0 ? $", allowed {point.Limits.Words}" : string.Empty)} (check point C{point.Number})";
        Evidence = last.Evidence;
    }

    private static string Whole(string text, string unit) => double.TryParse(text, System.Globalization.CultureInfo.InvariantCulture, out _) ? $"{text} {unit}" : text;

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (TagNumber is null && PlaceId is null)
        {
            Places = await FitAsync(ct);
            if (Places.Count != 1)
            {
                return true;
            }

            PlaceId = Places[0].Id;
        }

        // A number that was typed is a tag's; the finding then hangs on the tag.
        var number = TagNumber ?? (int.TryParse(Where, out var typed) ? typed : null);
        var tag = number is { } n ? await Db.Tags.AsNoTracking().SingleOrDefaultAsync(t => t.Number == n, ct) : null;
        TagId = tag?.Id;
        if (!await LoadPlaceAsync(tag?.SlotId ?? PlaceId, ct))
        {
            return false;
        }

        AlsoHere = await FindingQuery.AtPlaceAsync(Db, Place.Id, null, ct);
        return true;
    }

    private async Task<IReadOnlyList<(Guid Id, string Words)>> FitAsync(CancellationToken ct)
    {
        var typed = (Where ?? string.Empty).Trim();
        if (typed.Length is 0 or > 60)
        {
            return [];
        }

        var places = Db.Places.AsNoTracking();
        if (int.TryParse(typed, out var n))
        {
            places = places.Where(p => Db.Tags.Any(t => t.Number == n && t.SlotId == p.Id));
        }
        else
        {
            var like = OilTagDb.Containing(typed);
            places = places.Where(p => EF.Functions.ILike(p.Name, like));
        }

        var found = await (from p in places join m in Db.Machines on p.MachineId equals m.Id orderby m.Bay, p.Name, p.Position, p.Hand select new { p, m.Letter, Under = Db.Places.Where(x => x.Id == p.ParentId).Select(x => x.Name).FirstOrDefault() }).Take(12).ToListAsync(ct);
        return [.. found.Select(x => (x.p.Id, $"{x.Letter} {x.p.FullName}{(x.Under is null ? string.Empty : ", " + x.Under)}"))];
    }
}
