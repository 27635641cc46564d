using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>The first piece of each kind: readings against the drawing, and whether others may follow.</summary>
public sealed class FirstModel(OilTagDb db, Me me, CardWrites writes) : CardPage(db)
{
    public IReadOnlyList<CardReading> Readings { get; private set; } = [];

    [BindProperty]
    public Guid StageId { get; set; }

    [BindProperty]
    public string? Line { get; set; }

    [BindProperty]
    public bool Passed { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public Guid Dimension { get; set; }

    [BindProperty]
    public string? Value { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), async () => await writes.InspectAsync(Key, me.Id, await me.IsInspectorNowAsync(ct), number, StageId, LineOf(Line).Item, LineOf(Line).Hand, Passed, Note, ct));

    public Task<IActionResult> OnPostReadAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.ReadAsync(Key, me.Id, number, Dimension, LineOf(Line).Item, LineOf(Line).Hand, Value, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Readings = await Db.CardReadings.AsNoTracking().Where(r => r.RouteCardId == Card.Id).OrderBy(r => r.At).ToListAsync(ct);
        return true;
    }
}
