using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A photo with arrows, circles and words drawn over it.</summary>
public sealed class MarkModel(OilTagDb db, Me me, PhotoWrites writes) : FormPage
{
    public Photo Photo { get; private set; } = null!;

    /// <summary>What it is a photo of.</summary>
    public string Of { get; private set; } = string.Empty;

    /// <summary>The page of that.</summary>
    public string Back { get; private set; } = string.Empty;

    [BindProperty]
    public string? Marks { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadAsync(id, ct))
        {
            return NotFound();
        }

        (Marks, Version) = (PhotoMarks.Words(Photo.Marks), Photo.Version);
        return Page();
    }

    public Task<IActionResult> OnPostAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(id, ct), () => writes.MarkAsync(Key, me.Id, id, Marks, Version, ct), () => Version = Stale ? Photo.Version : Version);

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        if (await db.Photos.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, ct) is not { } photo)
        {
            return false;
        }

        Photo = photo;
        if (photo.FindingId is { } finding)
        {
            var number = await db.Findings.Where(f => f.Id == finding).Select(f => f.Number).SingleAsync(ct);
            (Of, Back) = ($"finding F{number}", $"/f/{number}");
        }
        else
        {
            var cell = await (from c in db.MatrixCells.AsNoTracking() join m in db.Matrices on c.MatrixId equals m.Id where c.Id == photo.CellId select new { c.Position, c.Check, m }).SingleAsync(ct);
            (Of, Back) = (cell.m.NameOf(cell.Position, cell.Check), $"/s/{cell.m.Number}/matrix");
        }

        return true;
    }
}
