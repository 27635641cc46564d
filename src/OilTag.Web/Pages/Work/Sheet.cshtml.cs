using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.People;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>The job sheet on A4, to be written on beside the work, and the page on which it is typed in again.</summary>
public sealed class SheetModel(OilTagDb db, Me me, ReadingWrites writes) : FormPage
{
    /// <summary>Most boxes for readings of a step on the sheet; more go on the back.</summary>
    public const int MostBoxes = 40;

    public WorkPackage Package { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public string Place { get; private set; } = string.Empty;

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    /// <summary>Tags of its parts with where they lie.</summary>
    public IReadOnlyList<(int Number, string Name, string Where)> Tags { get; private set; } = [];

    public int? FindingNumber { get; private set; }

    public int? CardNumber { get; private set; }

    public IReadOnlyList<SelectListItem> People { get; private set; } = [];

    /// <summary>What changed since the sheet that is typed in was printed.</summary>
    public IReadOnlyList<string> Since { get; private set; } = [];

    /// <summary>True on the page on which it is typed in.</summary>
    public bool Typing { get; private set; }

    public IEnumerable<Operation> Open => Package.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order);

    /// <summary>The number of the steps on the sheet that came back.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Sheet { get; set; }

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
            () => writes.SheetAsync(Key, me.Id, number, Sheet ?? 0, Compared, Who, [.. Rows.Select(r => new SheetRow(r.Step, r.Done, r.Readings ?? [], r.Way))], ct));
    }

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (
            from k in db.Packages.AsNoTracking().Include(k => k.Operations)
            join p in db.Places on k.PlaceId equals p.Id
            join m in db.Machines on k.MachineId equals m.Id
            where k.Number == number
            select new { k, p, m, Finding = db.Findings.Where(f => f.Id == k.FindingId).Select(f => (int?)f.Number).FirstOrDefault(), Card = db.RouteCards.Where(c => c.PackageId == k.Id).Select(c => (int?)c.Number).FirstOrDefault() }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Package, Machine, Place, FindingNumber, CardNumber) = (found.k, found.m, found.p.FullName, found.Finding, found.Card);
        Sheet ??= Package.Revision;
        var path = (await PlaceWrites.TreeAsync(db, Machine.Id, ct)).PathUp(found.p.Id).Select(n => n.Name).ToList();
        Cautions = CautionRules.At(Machine.Kind, Machine.Year, path, [Package.Title, found.p.Name, .. Open.SelectMany(o => new[] { o.Name, o.Note })]);
        var tag = Package.TagId;
        var place = found.p.Id;
        var tags = await (
            from t in db.Tags
            join s in db.Places on t.SlotId equals s.Id
            join c in db.Custodies.Where(c => c.Until == null) on t.Id equals c.TagId into cs
            from c in cs.DefaultIfEmpty()
            where t.End == null && (t.Id == tag || t.SlotId == place)
            orderby t.Number
            select new { t.Number, s.Name, s.Hand, s.Position, Where = (string?)c.Where }).Take(12).ToListAsync(ct);
        Tags = [.. tags.Select(t => (t.Number, PlaceNames.Full(t.Name, t.Hand, t.Position), t.Where ?? string.Empty))];
        if (Typing)
        {
            People = [new SelectListItem("Choose", string.Empty), .. await PeopleQuery.Team(db).OrderBy(p => p.Name).Select(p => new SelectListItem(p.Name, p.Id.ToString())).ToListAsync(ct)];
            var since = await db.PackageRevisions.AsNoTracking().Where(r => r.PackageId == Package.Id && r.Number > Sheet).OrderBy(r => r.Number).ToListAsync(ct);
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
}
