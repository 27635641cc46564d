using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>A photo that has been checked and is to be kept.</summary>
/// <param name="Caption">What it shows, as typed.</param>
/// <param name="Marks">What is drawn over it, as the page sent it; empty for nothing.</param>
public sealed record NewPhoto(CleanPicture Picture, string? Caption = null, string? Marks = null);

/// <summary>Photos of findings and of cells of surveys, and what is drawn over them.</summary>
public sealed class PhotoWrites(OilTagDb db, Recorder recorder, PhotoStore photos)
{
    /// <summary>Adds a photo to a finding.</summary>
    public Task<Recorded> AddToFindingAsync(Guid key, Guid personId, int number, NewPhoto photo, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        return await KeepAsync(photo, f, ct) is { } refused ? refused : Recorded.To($"/f/{number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Keeps a photo of a finding within the write that is running; why not, or null.</summary>
    public Task<Recorded?> KeepAsync(NewPhoto photo, Finding f, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(f);
        return KeepAsync(photo, f.Id, null, $"finding F{f.Number.ToString(CultureInfo.InvariantCulture)}", f.MachineId, f.PlaceId, f.TagId, ct);
    }

    /// <summary>Keeps a photo of a cell of a matrix survey within the write that is running; why not, or null.</summary>
    public Task<Recorded?> KeepAsync(NewPhoto photo, SurveyMatrix m, MatrixCell cell, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(m);
        ArgumentNullException.ThrowIfNull(cell);
        return KeepAsync(photo, null, cell.Id, $"{m.NameOf(cell.Position, cell.Check)} of survey S{m.Number.ToString(CultureInfo.InvariantCulture)}", m.MachineId, m.PlaceId, null, ct);
    }

    /// <summary>Replaces what is drawn over a photo.</summary>
    /// <param name="seen">Version of the photo that the page showed.</param>
    public Task<Recorded> MarkAsync(Guid key, Guid personId, Guid id, string? marks, uint seen, CancellationToken ct) => recorder.RecordAsync(key, personId, async () =>
    {
        var photo = await db.Photos.SingleAsync(p => p.Id == id, ct);
        var (read, problem) = PhotoMarks.Read(marks, photo.Width, photo.Height);
        if (problem is not null)
        {
            return Recorded.Refused([problem]);
        }

        db.Entry(photo).Property(p => p.Version).OriginalValue = seen;
        var before = PhotoMarks.Words(photo.Marks);
        photo.Marks = read;
        var f = photo.FindingId is { } finding ? await db.Findings.AsNoTracking().SingleAsync(x => x.Id == finding, ct) : null;
        var page = f is not null ? $"/f/{f.Number.ToString(CultureInfo.InvariantCulture)}" : $"/photos/{id}/mark";
        recorder.Say($"marked a photo{(f is null ? string.Empty : $" of finding F{f.Number.ToString(CultureInfo.InvariantCulture)}")}.", f?.MachineId, f?.PlaceId, f?.TagId, before: before, after: PhotoMarks.Words(read));
        return Recorded.To(page);
    }, ct);

    private async Task<Recorded?> KeepAsync(NewPhoto photo, Guid? findingId, Guid? cellId, string what, Guid machineId, Guid placeId, Guid? tagId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(photo);
        var picture = photo.Picture;
        var problems = new List<Problem>();
        var words = TextRules.Optional(problems, "Caption", photo.Caption, 200);
        var (drawn, wrong) = PhotoMarks.Read(photo.Marks, picture.Width, picture.Height);
        if (wrong is not null)
        {
            problems.Add(wrong);
        }

        if (problems.Count > 0)
        {
            return Recorded.Refused(problems);
        }

        var id = Guid.CreateVersion7();
        recorder.Undo(() => photos.Remove(id));
        await photos.SaveAsync(id, picture, ct);
        db.Photos.Add(new Photo { Id = id, FindingId = findingId, CellId = cellId, ContentType = picture.ContentType, Width = picture.Width, Height = picture.Height, Caption = words, Marks = drawn, ById = recorder.PersonId, At = recorder.Now });
        recorder.Say($"added a photo to {what}.", machineId, placeId, tagId);
        return null;
    }
}
