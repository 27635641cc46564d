using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>The matched sets of a machine.</summary>
public sealed class SetsModel(OilTagDb db, Me me, SetWrites writes) : StripMachinePage(db)
{
    public IReadOnlyList<(MatchedSet Set, IReadOnlyList<SetMember> Members)> Sets { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Slots { get; private set; } = [];

    [BindProperty]
    public string? SetName { get; set; }

    [BindProperty]
    public string? How { get; set; }

    [BindProperty(Name = "Slots")]
    public List<Guid> Chosen { get; set; } = [];

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct) => await LoadAsync(letter, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.MakeAsync(Key, me.Id, Machine.Letter, SetName, How, [.. Chosen.Where(c => c != Guid.Empty)], ct));

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return false;
        }

        Sets = await SetWrites.OfSlotAsync(Db, Machine.Id, null, ct);
        var rows = await (from s in Db.Places.AsNoTracking() join a in Db.Places on s.ParentId equals a.Id where s.MachineId == Machine.Id && s.Kind == PlaceKind.Slot orderby a.Order, s.Order select new { s, Assembly = a }).ToListAsync(ct);
        Slots = [new SelectListItem("Choose", string.Empty), .. rows.Select(r => new SelectListItem($"{r.Assembly.FullName} › {r.s.FullName}", r.s.Id.ToString()))];
        return true;
    }
}
