using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>What the pages that plan a survey at a place share.</summary>
public abstract class PlanPage(OilTagDb db) : FormPage
{
    [BindProperty(SupportsGet = true, Name = "place")]
    public Guid PlaceId { get; set; }

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    protected OilTagDb Db => db;

    protected async Task<bool> LoadPlaceAsync(CancellationToken ct)
    {
        if (await PlaceWrites.FindAsync(db, PlaceId, ct) is not { } found)
        {
            return false;
        }

        (Place, Machine) = found;
        return true;
    }
}

/// <summary>Plans a survey of positions × checks from a template.</summary>
public sealed class PlanMatrixModel(OilTagDb db, Me me, ShedClock clock, MatrixWrites writes) : PlanPage(db)
{
    [BindProperty]
    public Guid? Template { get; set; }

    [BindProperty]
    public string? Title { get; set; }

    [BindProperty]
    public string? PositionsAre { get; set; }

    [BindProperty]
    public string? Positions { get; set; }

    public IReadOnlyList<SurveyTemplate> Templates { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(CancellationToken ct)
    {
        if (!me.CanRecord)
        {
            return Forbid();
        }

        if (!await LoadAsync(ct))
        {
            return NotFound();
        }

        var first = Templates.FirstOrDefault();
        (Template, Title, PositionsAre, Positions) = (first?.Id, Place.FullName, first?.PositionsAre, first?.Positions);
        return Page();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanRecord, () => LoadAsync(ct), () => writes.PlanAsync(Key, me.Id, PlaceId, Template, Title, PositionsAre, Positions, clock.Today, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (!await LoadPlaceAsync(ct))
        {
            return false;
        }

        // Those for this kind of machine first.
        Templates = [.. (await Db.Templates.AsNoTracking().Where(t => !t.Retired && (t.Kind == null || t.Kind == Machine.Kind)).ToListAsync(ct)).OrderBy(t => t.Kind is null).ThenBy(t => t.Name, StringComparer.Ordinal)];
        return true;
    }
}
