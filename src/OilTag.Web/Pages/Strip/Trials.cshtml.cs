using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>The trial assemblies of a machine, and the form that begins one.</summary>
public sealed class TrialsModel(OilTagDb db, Me me, TrialWrites writes) : StripMachinePage(db)
{
    public IReadOnlyList<(TrialAssembly Trial, string Place, string By)> Trials { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Assemblies { get; private set; } = [];

    [BindProperty]
    public Guid? PlaceId { get; set; }

    [BindProperty]
    public string? Checks { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        Checks = string.Join('\n', TrialRule.Usual);
        return await LoadAsync(letter, ct) ? Page() : NotFound();
    }

    public Task<IActionResult> OnPostAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.BeginAsync(Key, me.Id, Machine.Letter, PlaceId, Checks, ct));

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return false;
        }

        var tree = await PlaceWrites.TreeAsync(Db, Machine.Id, ct);
        var rows = await (from t in Db.Trials.AsNoTracking() join p in Db.People on t.ById equals p.Id join s in Db.Places on t.PlaceId equals s.Id where t.MachineId == Machine.Id orderby t.Number descending select new { t, p.Name, s }).ToListAsync(ct);
        Trials = [.. rows.Select(r => (r.t, r.s.FullName, r.Name))];
        var places = await Db.Places.AsNoTracking().Where(p => p.MachineId == Machine.Id && p.Kind == PlaceKind.Assembly).OrderBy(p => p.Order).ToListAsync(ct);
        Assemblies = [new SelectListItem("Choose", string.Empty), .. places.Select(p => new SelectListItem(string.Join(" › ", tree.PathUp(p.Id).Reverse().Select(n => n.Name)), p.Id.ToString())).OrderBy(i => i.Text, StringComparer.CurrentCulture)];
        return true;
    }
}
