using System.Globalization;
using Microsoft.EntityFrameworkCore;
using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Data.Log;

namespace OilTag.Data.Survey;

/// <summary>Photos of findings and of cells of surveys, and what is drawn over them.</summary>
public sealed class PhotoWrites(OilTagDb db, Recorder recorder, PhotoStore photos)
{
    private sealed record Target(Guid? FindingId, Guid? CellId, Guid MachineId, Guid PlaceId, Guid? TagId, string What, string Page);

    /// <summary>Adds a photo to a finding.</summary>
    /// <param name="marks">What is drawn over it, as the page sent it; empty for nothing.</param>
    public Task<Recorded> AddToFindingAsync(Guid key, Guid personId, int number, byte[] file, string? caption, string? marks, CancellationToken ct) => AddAsync(key, personId, file, caption, marks, async () =>
    {
        var f = await db.Findings.AsNoTracking().SingleAsync(x => x.Number == number, ct);
        return new Target(f.Id, null, f.MachineId, f.PlaceId, f.TagId, $"finding F{number.ToString(CultureInfo.InvariantCulture)}", $"/f/{number.ToString(CultureInfo.InvariantCulture)}");
    }, ct);

    /// <summary>Adds a photo to a cell of a matrix survey that is filled already.</summary>
    public Task<Recorded> AddToCellAsync(Guid key, Guid personId, Guid matrixId, int position, int check, byte[] file, CancellationToken ct) => AddAsync(key, personId, file, null, null, async () =>
    {
        var m = await db.Matrices.AsNoTracking().SingleAsync(x => x.Id == matrixId, ct);
        var cell = await db.MatrixCells.AsNoTracking().SingleAsync(c => c.MatrixId == matrixId && c.Position == position && c.Check == check, ct);
        return new Target(null, cell.Id, m.MachineId, m.PlaceId, null, $"{m.NameOf(position, check)} of survey S{m.Number.ToString(CultureInfo.InvariantCulture)}", $"/s/{m.Number.ToString(CultureInfo.InvariantCulture)}/matrix");
    }, ct);

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

    private async Task<Recorded> AddAsync(Guid key, Guid personId, byte[] file, string? caption, string? marks, Func<Task<Target>> find, CancellationToken ct)
    {
        var (picture, problem) = await PhotoStore.CleanAsync(file, ct);
        if (picture is null)
        {
            return Recorded.Refused([problem!]);
        }

        var id = Guid.CreateVersion7();
        var kept = false;
        try
        {
            var outcome = await recorder.RecordAsync(key, personId, async () =>
            {
                var problems = new List<Problem>();
                var words = TextRules.Optional(problems, "Caption", caption, 200);
                var (drawn, wrong) = PhotoMarks.Read(marks, picture.Width, picture.Height);
                if (wrong is not null)
                {
                    problems.Add(wrong);
                }

                if (problems.Count > 0)
                {
                    return Recorded.Refused(problems);
                }

                var to = await find();
                await photos.SaveAsync(id, picture, ct);
                db.Photos.Add(new Photo { Id = id, FindingId = to.FindingId, CellId = to.CellId, ContentType = picture.ContentType, Width = picture.Width, Height = picture.Height, Caption = words, Marks = drawn, ById = personId, At = recorder.Now });
                recorder.Say($"added a photo to {to.What}.", to.MachineId, to.PlaceId, to.TagId);
                return Recorded.To(to.Page);
            }, ct);
            kept = outcome.Ok && await db.Photos.AnyAsync(p => p.Id == id, ct);
            return outcome;
        }
        finally
        {
            if (!kept)
            {
                photos.Remove(id);
            }
        }
    }
}
