using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.People;
using OilTag.Data.Work;
using OilTag.Web.Reports;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>The job sheet on A4, to be written on beside the work, and the page on which it is typed in again.</summary>
public sealed class SheetModel(OilTagDb db, Me me, ShedClock clock, ReadingWrites writes) : FormPage
{
    /// <summary>Most boxes for readings of a step on the sheet; more go on the back.</summary>
    public const int MostBoxes = 40;

    /// <summary>What stands on the sheet.</summary>
    public JobSheetFacts Facts { get; private set; } = null!;

    public WorkPackage Package => Facts.Package;

    public Machine Machine => Facts.Machine;

    public IReadOnlyList<SelectListItem> People { get; private set; } = [];

    /// <summary>What changed since the sheet that is typed in was printed.</summary>
    public IReadOnlyList<string> Since { get; private set; } = [];

    /// <summary>True on the page on which it is typed in.</summary>
    public bool Typing { get; private set; }

    public IEnumerable<Operation> Open => Package.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order);

    /// <summary>The number of the steps on the sheet that came back, as it was typed or read by the camera: 4, 63-4 or OT W63-4.</summary>
    [BindProperty(SupportsGet = true, Name = "sheet")]
    public string? SheetText { get; set; }

    /// <summary>The number of the steps on the sheet; 0 when it is no sheet of this package.</summary>
    public int Sheet => JobSheet.Revision(SheetText, Package.Number);

    [BindProperty]
    public Guid? Who { get; set; }

    [BindProperty]
    public bool Compared { get; set; }

    [BindProperty]
    public IReadOnlyList<SheetField> Rows { get; set; } = [];

    public async Task<IActionResult> OnGetAsync(int number, bool type, CancellationToken ct)
    {
        Typing = type;
        return await LoadAsync(number, ct) ? Page() : NotFound();
    }

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct)
    {
        Typing = true;
        return WriteAsync(
            me.CanRecord,
            () => LoadAsync(number, ct),
            () => writes.SheetAsync(Key, me.Id, number, Sheet, Compared, Who,
                [.. Rows.Select(r => new SheetRow(r.Step, r.Done, r.Readings ?? [], r.Way, r.Pulls ?? []))], ct));
    }

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (await JobSheet.LoadAsync(db, number, clock.Today, ct) is not { } facts)
        {
            return false;
        }

        Facts = facts;
        SheetText ??= Package.Revision.ToString(CultureInfo.InvariantCulture);
        if (Typing)
        {
            People = [new SelectListItem("Choose", string.Empty), .. await PeopleQuery.Team(db).OrderBy(p => p.Name).Select(p =>
                new SelectListItem(p.Name, p.Id.ToString())).ToListAsync(ct)];
            var sheet = Sheet;
            var since = await db.PackageRevisions.AsNoTracking().Where(r => r.PackageId == Package.Id && r.Number > sheet).OrderBy(r =>
                r.Number).ToListAsync(ct);
            Since = [.. since.SelectMany(r => r.Changes)];
        }

        return true;
    }
}

/// <summary>A step of the sheet as it is typed in.</summary>
public sealed class SheetField
{
    public Guid Step { get; set; }

    public bool Done { get; set; }

    /// <summary>Readings as typed; null where the step wants none. A list that is there already would not be filled.</summary>
    public IReadOnlyList<string?>? Readings { get; set; }

    public ReadingWay Way { get; set; }

    /// <summary>What stands in the boxes of bolts, a pass each; null where the step has none.</summary>
    public IReadOnlyList<string?>? Pulls { get; set; }
}
