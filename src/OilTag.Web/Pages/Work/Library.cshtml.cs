using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>The library of starting steps: what the group keeps, and what ships with Oil Tag.</summary>
public sealed class LibraryModel(OilTagDb db, Me me, StepWrites writes) : FormPage
{
    public IReadOnlyList<SetView> Sets { get; private set; } = [];

    /// <summary>The set that is looked at or changed; null for a new one.</summary>
    public StepSet? Set { get; private set; }

    [BindProperty(SupportsGet = true, Name = "set")]
    public Guid? SetId { get; set; }

    /// <summary>A package whose steps are kept.</summary>
    [BindProperty(SupportsGet = true, Name = "keep")]
    public int? Keep { get; set; }

    /// <summary>A set that ships with Oil Tag and is to be changed.</summary>
    [BindProperty(SupportsGet = true, Name = "from")]
    public string? From { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? About { get; set; }

    [BindProperty]
    public string? Lines { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public bool Writing => me.CanLead && (Set is not null || Keep is not null || From is not null || Problems.Count > 0);

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        if (Set is not null)
        {
            (Name, About, Lines, Version) = (Set.Name, Set.Words, Set.Lines, Set.Version);
        }
        else if (Keep is { } number && await db.Packages.AsNoTracking().Include(k => k.Operations).SingleOrDefaultAsync(k =>
            k.Number == number, ct) is { } package)
        {
            (Name, Lines) = (package.StartedFrom.Length > 0 ? package.StartedFrom : null,
                StepWrites.LinesOf(package, await StepQuery.WordsAsync(db, steps: false, ct)));
        }
        else if (StartingSteps.Named(From) is { } shipped)
        {
            (Name, About, Lines) = (shipped.Name, shipped.Words, shipped.Lines);
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanLead, () => LoadAsync(ct), () => writes.KeepSetAsync(Key, me.Id, SetId, Name, About, Lines, Version, ct), () =>
            Version = Stale ? Set?.Version ?? 0 : Version);

    public Task<IActionResult> OnPostEndAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () =>
        writes.EndSetAsync(Key, me.Id, SetId ?? Guid.Empty, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Sets = await StepQuery.SetsAsync(db, ct);
        Set = SetId is { } id ? await db.StepSets.AsNoTracking().SingleOrDefaultAsync(s => s.Id == id, ct) : null;
        return SetId is null || Set is not null;
    }
}
