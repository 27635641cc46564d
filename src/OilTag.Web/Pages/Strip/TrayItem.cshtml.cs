using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>One part that nobody knows, with what is missing and may be it.</summary>
public sealed class TrayItemModel(OilTagDb db, Me me, TrayWrites writes) : FormPage
{
    public TrayItem Item { get; private set; } = null!;

    public string By { get; private set; } = string.Empty;

    public IReadOnlyDictionary<Guid, Machine> Machines { get; private set; } = new Dictionary<Guid, Machine>();

    public IReadOnlyList<Candidate> Candidates { get; private set; } = [];

    /// <summary>How many places lack their part.</summary>
    public int Missing { get; private set; }

    [BindProperty]
    public Guid SlotId { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    [BindProperty]
    public string? GoneWhy { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostKnownAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.KnownAsync(Key, me.Id, number, SlotId, Why, ct));

    public Task<IActionResult> OnPostGoAsync(int number, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => writes.LetGoAsync(Key, me.Id, number, GoneWhy, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (await (from t in db.TrayItems.AsNoTracking() join p in db.People on t.ById equals p.Id where t.Number == number select new { t, p.Name }).SingleOrDefaultAsync(ct) is not { } found)
        {
            return false;
        }

        (Item, By) = (found.t, found.Name);
        Machines = await db.Machines.AsNoTracking().ToDictionaryAsync(m => m.Id, ct);
        var missing = await TrayWrites.MissingAsync(db, null, ct);
        Missing = missing.Count;
        Candidates = TrayRule.Candidates(Item, missing);
        return true;
    }
}
