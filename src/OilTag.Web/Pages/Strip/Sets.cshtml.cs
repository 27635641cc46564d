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
public sealed class SetsModel(OilTagDb db, Me me, SetWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

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
        if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter.ToUpper(), ct) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        Sets = await SetWrites.OfSlotAsync(db, machine.Id, null, ct);
        var rows = await (from s in db.Places.AsNoTracking() join a in db.Places on s.ParentId equals a.Id where s.MachineId == machine.Id && s.Kind == PlaceKind.Slot orderby a.Order, s.Order select new { s, Assembly = a }).ToListAsync(ct);
        Slots = [new SelectListItem("Choose", string.Empty), .. rows.Select(r => new SelectListItem($"{r.Assembly.FullName} › {r.s.FullName}", r.s.Id.ToString()))];
        return true;
    }
}
