using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A template of matrix surveys, as a form.</summary>
public sealed class TemplateModel(OilTagDb db, Me me, MatrixWrites writes) : FormPage
{
    /// <summary>Its id, or <c>new</c>.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Id { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public MachineKind? Kind { get; set; }

    [BindProperty]
    public string? PositionsAre { get; set; }

    [BindProperty]
    public string? Positions { get; set; }

    [BindProperty(Name = "Checks")]
    public List<MatrixCheckEntry> Lines { get; set; } = [];

    [BindProperty]
    public bool Retired { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public bool IsNew => string.Equals(Id, "new", StringComparison.Ordinal);

    private uint Theirs { get; set; }

    public static string KindWord(MachineKind? kind) => kind switch
    {
        null => "Any machine",
        MachineKind.SteamLocomotive => "Steam locomotive",
        MachineKind.Carriage => "Carriage or lift",
        MachineKind.Other => "Something else",
        _ => kind.Value.ToString(),
    };

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!me.CanLead)
        {
            return Forbid();
        }

        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        if (IsNew)
        {
            Lines = ChecksModel.LinesOf([]);
        }
        else
        {
            var t = await db.Templates.AsNoTracking().SingleAsync(x => x.Id == Guid.Parse(Id!), ct);
            (Name, Kind, PositionsAre, Positions, Lines, Retired, Version) = (t.Name, t.Kind, t.PositionsAre, t.Positions, ChecksModel.LinesOf(t.Checks), t.Retired, t.Version);
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(ct),
        () => writes.TemplateAsync(Key, me.Id, IsNew ? null : Guid.Parse(Id!), Version, new TemplateEntry(Name, Kind, PositionsAre, Positions, Lines, Retired), ct),
        () => Version = Stale ? Theirs : Version);

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (IsNew)
        {
            return true;
        }

        Theirs = Guid.TryParse(Id, out var id) ? await db.Templates.Where(t => t.Id == id).Select(t => t.Version).SingleOrDefaultAsync(ct) : 0;
        return Theirs != 0;
    }
}
