using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>Wires, hoses, pipes, rods and cables of a machine that cross several places.</summary>
public sealed class RunsModel(OilTagDb db, AccessLoader accesses, Me me, RunWrites writes) : StripMachinePage(db)
{
    /// <summary>Rows in which a run's places are chosen, in order.</summary>
    public const int PlaceRows = 6;

    public Access Access { get; private set; } = null!;

    public IReadOnlyList<(Run Run, string By)> Runs { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    /// <summary>A run whose form is filled in, by name.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Edit { get; set; }

    [BindProperty]
    public string? RunName { get; set; }

    [BindProperty]
    public ConnectionKind RunKind { get; set; }

    [BindProperty]
    public string? Ends { get; set; }

    [BindProperty]
    public RunState State { get; set; }

    [BindProperty]
    public List<Guid?> Crosses { get; set; } = [];

    [BindProperty]
    public int? UndoMinutes { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        if (Runs.FirstOrDefault(r => r.Run.Name == Edit).Run is { } run)
        {
            (RunName, RunKind, Ends, State, Crosses, UndoMinutes) = (run.Name, run.Kind, run.Ends, run.State, [.. run.Places.Select(p => (Guid?)p)], run.UndoMinutes);
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(string letter, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(letter, ct), () => writes.SetAsync(Key, me.Id, Machine.Letter, RunName, RunKind, Ends, State, [.. Crosses.OfType<Guid>().Where(c => c != Guid.Empty)], UndoMinutes, ct));

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (!await LoadMachineAsync(letter, ct))
        {
            return false;
        }

        Access = (await accesses.LoadAsync(Machine.Id, ct)).Access;
        var rows = await (from r in Db.Runs.AsNoTracking() join p in Db.People on r.ById equals p.Id where r.MachineId == Machine.Id orderby r.Name select new { r, p.Name }).ToListAsync(ct);
        Runs = [.. rows.Select(r => (r.r, r.Name))];
        Places = [new SelectListItem("Nothing", string.Empty), .. Access.Choices()];
        return true;
    }
}
