using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Web.Drawings;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>How a machine is drawn: one of the side views that ship, or a picture of the team's own with regions drawn over it.</summary>
public sealed class OutlineModel(OilTagDb db, Me me, OutlineWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    public Outline? Own { get; private set; }

    /// <summary>The side view that is chosen; null for blocks and for a picture of the team's own.</summary>
    public SideView? View { get; private set; }

    public IReadOnlyList<Place> Assemblies { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Choices { get; private set; } = [];

    [BindProperty]
    public string? Drawing { get; set; }

    /// <summary>Regions of the side view, each with the assembly beside it in <see cref="Places"/>.</summary>
    [BindProperty]
    public List<string?> Regions { get; set; } = [];

    [BindProperty]
    public List<Guid?> Places { get; set; } = [];

    [BindProperty]
    public Guid? PlaceId { get; set; }

    [BindProperty]
    public string? Corners { get; set; }

    [BindProperty]
    public int Erase { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    /// <summary>Name of an assembly.</summary>
    public string NameOf(Guid id) => Assemblies.FirstOrDefault(a => a.Id == id)?.FullName ?? "an assembly that is not there any more";

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!me.CanLead)
        {
            return Forbid();
        }

        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        Take();
        return Page();
    }

    private void Take() => (Drawing, Version) = (Machine.Drawing, Own?.Version ?? 0);

    public Task<IActionResult> OnPostChooseAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.ChooseAsync(Key, me.Id, Machine.Letter, Drawing, [.. SideViews.All.Select(v => v.Key)], ct), () => Version = Own?.Version ?? 0);

    public Task<IActionResult> OnPostTieAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.TieAsync(Key, me.Id, Machine.Letter, [.. Regions.Select((r, i) => (r ?? string.Empty, Places.ElementAtOrDefault(i)))], [.. View?.Regions.Keys ?? []], ct), Take);

    public Task<IActionResult> OnPostBringAsync(string letter, IFormFile? file, CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(letter, ct),
        async () => file is { Length: > Core.Survey.PhotoRule.LargestFile } ? Recorded.Refused("The file is larger than 25 MB. Send a smaller one.", "File") : await writes.BringAsync(Key, me.Id, Machine.Letter, file is { Length: > 0 } ? await FileBytes.ReadAsync(file, ct) : null, ct),
        Take);

    public Task<IActionResult> OnPostDrawAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.DrawAsync(Key, me.Id, Machine.Letter, PlaceId, Corners, Version, ct), () => (Drawing, Version) = (Machine.Drawing, Own?.Version ?? 0));

    public Task<IActionResult> OnPostEraseAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.EraseAsync(Key, me.Id, Machine.Letter, Erase, Version, ct), Take);

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter.ToUpper(), ct) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        Own = await db.Outlines.AsNoTracking().SingleOrDefaultAsync(o => o.MachineId == machine.Id, ct);
        View = SideViews.Find(machine.Drawing);
        Assemblies = await db.Places.AsNoTracking().Where(p => p.MachineId == machine.Id && p.Kind == PlaceKind.Assembly).OrderBy(p => p.Order).ToListAsync(ct);
        Choices = [new SelectListItem("Nothing", string.Empty), .. Assemblies.OrderBy(a => a.FullName, StringComparer.CurrentCulture).Select(a => new SelectListItem(a.FullName, a.Id.ToString()))];
        return true;
    }
}
