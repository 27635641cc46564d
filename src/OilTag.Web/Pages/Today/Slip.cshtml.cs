using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Strip;
using OilTag.Core.Survey;
using OilTag.Core.Today;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Data.Today;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Today;

/// <summary>The slip of one job: what is done, with what caution, which parts and where they are, which tools, what to read.</summary>
public sealed class SlipModel(OilTagDb db, DayLoader days, ShedClock clock) : PageModel
{
    /// <summary>A tag that the job is about.</summary>
    public sealed record Part(int Number, string Name, CustodyKind Kind, string Where);

    public DayJob Job { get; private set; } = null!;

    public DayStep Step { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public string Name { get; private set; } = string.Empty;

    public IReadOnlyList<string> Beside { get; private set; } = [];

    public string Why { get; private set; } = string.Empty;

    public OperationNeeds Needs { get; private set; } = OperationNeeds.Plain;

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    public IReadOnlyList<Part> Parts { get; private set; } = [];

    public IReadOnlyList<CheckPoint> Readings { get; private set; } = [];

    /// <summary>The hold that work stops at after this step; empty when there is none.</summary>
    public string Hold { get; private set; } = string.Empty;

    public bool Done { get; private set; }

    [BindProperty(SupportsGet = true)]
    public bool Print { get; set; }

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        var found = await (
            from j in db.DayJobs.AsNoTracking()
            join o in db.Operations on j.OperationId equals o.Id
            join k in db.Packages.Include(k => k.Operations) on o.PackageId equals k.Id
            join m in db.Machines on k.MachineId equals m.Id
            join p in db.People on j.PersonId equals p.Id
            where j.Id == id
            select new { j, k, m, p.Name, What = db.Findings.Where(f => f.Id == k.FindingId).Select(f => f.What).FirstOrDefault() }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return NotFound();
        }

        var (job, package, operation) = (found.j, found.k, found.j.OperationId!.Value);
        (Job, Machine, Name) = (job, found.m, found.Name);
        Step = (await DayQuery.StepsAsync(db, db.Operations.Where(o => o.Id == operation), ct))[operation];
        var step = package.Operations.Single(o => o.Id == operation);
        Needs = step.Needs;
        Done = step.DoneAt is not null;
        var next = package.Operations.Where(o => o.Order > step.Order && o.DoneAt is null).MinBy(o => o.Order);
        Hold = next is { Hold: true } ? next.Name : string.Empty;
        var tree = await PlaceWrites.TreeAsync(db, Machine.Id, ct);
        var path = tree.PathUp(package.PlaceId);
        Cautions = CautionRules.At(Machine.Kind, Machine.Year, [.. path.Select(n => n.Name)], [package.Title, Step.Place, found.What, step.Name]);
        var place = package.PlaceId;
        var within = tree.Within(place);
        var parts = await (
            from t in db.Tags
            join s in db.Places on t.SlotId equals s.Id
            join p in db.Parts on t.PartId equals p.Id
            join c in db.Custodies on t.Id equals c.TagId
            where c.Until == null && t.End == null && (t.Id == package.TagId || within.Contains(s.Id))
            orderby t.Id == package.TagId ? 0 : 1, t.Number
            select new Part(t.Number, p.Name, c.Kind, c.Where)).Take(24).ToListAsync(ct);
        Parts = parts;
        Readings = await db.Points.AsNoTracking().Where(p => p.PlaceId == place).OrderBy(p => p.Number).Take(12).ToListAsync(ct);
        var (day, _) = await days.LoadAsync(db, clock.Now, ct);
        var names = day.Team.ToDictionary(p => p.Id, p => p.Name);
        Beside = [.. day.Jobs.Where(j => j.OperationId == operation && j.PersonId != job.PersonId && j.On == job.On && j.From < job.Until && job.From < j.Until).Select(j => names.GetValueOrDefault(j.PersonId, "somebody")).Distinct()];
        Why = day.Input.Operations.FirstOrDefault(o => o.Id == DayFacts.Id(operation)) is { } ready ? DayWords.Why(ready, day.On) : string.Empty;
        return Page();
    }
}
