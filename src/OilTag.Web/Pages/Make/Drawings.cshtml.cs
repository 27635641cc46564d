using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Pages.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>The drawing register of a machine.</summary>
public sealed class DrawingsModel(OilTagDb db, Me me, MakingWrites writes) : StripMachinePage(db)
{
    public IReadOnlyList<(DrawingEntry Entry, string Place, string By)> Lines { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    /// <summary>The entry that is changed; null for a new one.</summary>
    [BindProperty(SupportsGet = true, Name = "edit")]
    public Guid? Edit { get; set; }

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public Guid? DrawingPlace { get; set; }

    [BindProperty]
    public string? DrawingNumber { get; set; }

    [BindProperty]
    public string? Sheet { get; set; }

    [BindProperty]
    public string? Revision { get; set; }

    [BindProperty]
    public string? DrawingTitle { get; set; }

    [BindProperty]
    public DrawingState? State { get; set; } = DrawingState.Missing;

    [BindProperty]
    public string? Where { get; set; }

    [BindProperty]
    public string? Conflict { get; set; }

    [BindProperty]
    public string? Decision { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        if (Lines.FirstOrDefault(l => l.Entry.Id == Edit).Entry is { } e)
        {
            (Seen, DrawingPlace, DrawingNumber, Sheet, Revision, DrawingTitle, State) = (e.Version, e.PlaceId, e.Number, e.Sheet, e.Revision, e.Title, e.State);
            (Where, Conflict, Decision) = (e.Where, e.Conflict, e.Decision);
        }
        else
        {
            Edit = null;
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(string letter, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(letter, ct), () => writes.DrawingAsync(Key, me.Id, me.CanLead || me.IsInspector, Machine.Id, Edit, Seen, new DrawingLine(DrawingPlace, DrawingNumber, Sheet, Revision, DrawingTitle, State, Where, Conflict, Decision), ct));

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return false;
        }

        var rows = await (from d in Db.Drawings.AsNoTracking() join p in Db.Places on d.PlaceId equals p.Id into ps from p in ps.DefaultIfEmpty() join who in Db.People on d.ById equals who.Id where d.MachineId == Machine.Id orderby d.Number, d.Sheet select new { d, p, who.Name }).ToListAsync(ct);
        Lines = [.. rows.Select(r => (r.d, r.p?.FullName ?? string.Empty, r.Name)).OrderByDescending(l => DrawingRule.Open(l.d) is not null)];
        Places = [new SelectListItem("All of the machine", string.Empty), .. (await Db.Places.AsNoTracking().Where(p => p.MachineId == Machine.Id && p.Kind == PlaceKind.Assembly).ToListAsync(ct)).OrderBy(p => p.FullName, StringComparer.OrdinalIgnoreCase).Select(p => new SelectListItem(p.FullName, p.Id.ToString()))];
        return true;
    }
}
