using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>The steps of a package, written anew: added, renamed, split, joined, moved, removed, estimated.</summary>
public sealed class StepsModel(OilTagDb db, Me me, StepWrites writes) : LinesPage(db)
{
    public WorkPackage Package { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    /// <summary>Changes so far, newest first, with who made them.</summary>
    public IReadOnlyList<(PackageRevision Revision, string By)> Revisions { get; private set; } = [];

    [BindProperty]
    public string? Why { get; set; }

    /// <summary>The number of the steps that the form showed.</summary>
    [BindProperty]
    public int Seen { get; set; }

    public override int Before => Done.Count();

    public IEnumerable<Operation> Done => Package.Operations.Where(o => o.DoneAt is not null).OrderBy(o => o.Order);

    public async Task<IActionResult> OnGetAsync(int number, bool fields, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        await FillAsync(ct);
        ByFields = fields;
        return Page();
    }

    public Task<IActionResult> OnPostReadAsync(int number, CancellationToken ct) =>
        ShowAsync(me.CanLead, () => LoadAsync(number, ct), () => ReadLinesAsync(ct));

    public Task<IActionResult> OnPostAnswerAsync(int number, CancellationToken ct) =>
        ShowAsync(me.CanLead, () => LoadAsync(number, ct), () => AnswerAsync(ct));

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(
        me.CanLead,
        async () =>
        {
            if (!await LoadAsync(number, ct))
            {
                return false;
            }

            await ReadLinesAsync(ct);
            return true;
        },
        () => writes.ChangeAsync(Key, me.Id, number, Lines, Why, Seen, ct),
        () => Seen = Stale ? Package.Revision : Seen);

    public Task<IActionResult> OnPostFieldsAsync(int number, CancellationToken ct) => WriteAsync(
        me.CanLead,
        async () =>
        {
            ByFields = true;
            return await LoadAsync(number, ct);
        },
        async () =>
        {
            if (await FromFieldsAsync(ct) is { } problem)
            {
                return Recorded.Refused([problem]);
            }

            return await writes.ChangeAsync(Key, me.Id, number, Lines, Why, Seen, ct);
        },
        () => Seen = Stale ? Package.Revision : Seen);

    private async Task FillAsync(CancellationToken ct)
    {
        var open = Package.Operations.Where(o => o.DoneAt is null).OrderBy(o => o.Order).ToList();
        var words = await StepQuery.WordsAsync(Db, open.Exists(o => o.Needs.After.Count > 0), ct);
        Lines = StepText.Write(open.Select(o => StepChange.Typed(o, true)), words);
        Seen = Package.Revision;
        await ReadLinesAsync(ct);
    }

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (await Db.Packages.AsNoTracking().Include(k => k.Operations).SingleOrDefaultAsync(k => k.Number == number,
            ct) is not { } package)
        {
            return false;
        }

        Package = package;
        Machine = await Db.Machines.AsNoTracking().SingleAsync(m => m.Id == package.MachineId, ct);
        var revisions = await (from r in Db.PackageRevisions.AsNoTracking() join p in Db.People on r.ById equals p.Id where r.PackageId == package.Id orderby r.Number descending select new { r, p.Name }).ToListAsync(ct);
        Revisions = [.. revisions.Select(x => (x.r, x.Name))];
        return true;
    }
}
