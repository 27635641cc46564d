using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>Edits a breakdown quickly: choose a line, then act on it.</summary>
public sealed class BreakdownModel(OilTagDb db, Me me, BreakdownWrites writes) : FormPage
{
    /// <summary>Lines on one sheet.</summary>
    public const int PageSize = 300;

    public Machine Machine { get; private set; } = null!;

    public IReadOnlyList<(Place Place, int Depth, int Below)> Lines { get; private set; } = [];

    public Place? Chosen { get; private set; }

    public IReadOnlyList<SelectListItem> Assemblies { get; private set; } = [];

    [BindProperty(SupportsGet = true, Name = "at")]
    public Guid? At { get; set; }

    [BindProperty(SupportsGet = true, Name = "sheet")]
    public int Sheet { get; set; } = 1;

    /// <summary>True when the starting breakdown of its kind is to be filled in.</summary>
    [BindProperty(SupportsGet = true, Name = "start")]
    public bool Start { get; set; }

    [BindProperty]
    public string? Text { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public int Step { get; set; }

    [BindProperty]
    public Guid? Under { get; set; }

    [BindProperty]
    public int? Times { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public int Sheets => Math.Max(1, (Lines.Count + PageSize - 1) / PageSize);

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        Text = Start ? StartingBreakdowns.For(Machine.Kind) : null;
        Name = Chosen?.Name;
        Version = Chosen?.Version ?? 0;
        Under = Chosen?.ParentId;
        return Page();
    }

    private Task<IActionResult> DoAsync(string letter, Func<string, Task<Data.Log.Recorded>> write, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => write(Machine.Letter), () =>
    {
        Version = Stale ? Chosen?.Version ?? 0 : Version;
        Name ??= Chosen?.Name;
    });

    public Task<IActionResult> OnPostPasteAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.PasteAsync(Key, me.Id, l, At, Text, ct), ct);

    public Task<IActionResult> OnPostRenameAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.RenameAsync(Key, me.Id, l, At ?? Guid.Empty, Name, Version, ct), ct);

    public Task<IActionResult> OnPostMoveAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.MoveAsync(Key, me.Id, l, At ?? Guid.Empty, Step, Under, ct), ct);

    public Task<IActionResult> OnPostMirrorAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.MirrorAsync(Key, me.Id, l, At ?? Guid.Empty, ct), ct);

    public Task<IActionResult> OnPostMultiplyAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.MultiplyAsync(Key, me.Id, l, At ?? Guid.Empty, Times, ct), ct);

    public Task<IActionResult> OnPostRemoveAsync(string letter, CancellationToken ct) => DoAsync(letter, l => writes.RemoveAsync(Key, me.Id, l, At ?? Guid.Empty, ct), ct);

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter.ToUpper(), ct) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        var places = await db.Places.AsNoTracking().Where(p => p.MachineId == machine.Id).ToListAsync(ct);
        var children = places.OrderBy(p => p.Order).ThenBy(p => p.Id).ToLookup(p => p.ParentId);
        var lines = new List<(Place, int, int)>();
        void Walk(Guid? parent, int depth)
        {
            foreach (var p in children[parent])
            {
                lines.Add((p, depth, children[p.Id].Count()));
                if (depth < 20)
                {
                    Walk(p.Id, depth + 1);
                }
            }
        }

        Walk(null, 0);
        Lines = lines;
        Chosen = places.Find(p => p.Id == At);
        At = Chosen?.Id;
        Sheet = Math.Clamp(At is { } at && Sheet == 1 ? (lines.FindIndex(l => l.Item1.Id == at) / PageSize) + 1 : Sheet, 1, Sheets);
        Assemblies = [new SelectListItem("At the top of the machine", string.Empty), .. lines.Where(l => l.Item1.Kind == PlaceKind.Assembly).Select(l => new SelectListItem(new string('\u2003', l.Item2) + l.Item1.FullName, l.Item1.Id.ToString()))];
        return true;
    }
}
