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
public sealed class SlipModel(OilTagDb db, PlanLoader plans, ShedClock clock) : PageModel
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
        var job = await db.DayJobs.AsNoTracking().SingleOrDefaultAsync(j => j.Id == id, ct);
        if (job?.OperationId is not { } operation)
        {
            return NotFound();
        }

        Job = job;
        Step = (await DayQuery.StepsAsync(db, [operation], ct))[operation];
        Name = await db.People.Where(p => p.Id == job.PersonId).Select(p => p.Name).SingleAsync(ct);
        Beside = await (from j in db.DayJobs join p in db.People on j.PersonId equals p.Id where j.On == job.On && j.OperationId == operation && j.PersonId != job.PersonId && j.From < job.Until && job.From < j.Until select p.Name).Distinct().ToListAsync(ct);
        var package = await db.Packages.AsNoTracking().Include(k => k.Operations).SingleAsync(k => k.Number == Step.Package, ct);
        var step = package.Operations.Single(o => o.Id == operation);
        Needs = step.Needs;
        Done = step.DoneAt is not null;
        var next = package.Operations.Where(o => o.Order > step.Order && o.DoneAt is null).MinBy(o => o.Order);
        Hold = next is { Hold: true } ? next.Name : string.Empty;
        Machine = await db.Machines.AsNoTracking().SingleAsync(m => m.Id == package.MachineId, ct);
        var found = package.FindingId is { } f ? await db.Findings.Where(x => x.Id == f).Select(x => x.What).SingleAsync(ct) : string.Empty;
        var path = (await PlaceWrites.TreeAsync(db, Machine.Id, ct)).PathUp(package.PlaceId);
        Cautions = CautionRules.At(Machine.Kind, Machine.Year, [.. path.Select(n => n.Name)], [package.Title, Step.Place, found, step.Name]);
        var place = package.PlaceId;
        var parts = await (
            from t in db.Tags
            join s in db.Places on t.SlotId equals s.Id
            join p in db.Parts on t.PartId equals p.Id
            join c in db.Custodies on t.Id equals c.TagId
            where c.Until == null && t.End == null && (t.Id == package.TagId || s.ParentId == place || s.Id == place)
            orderby t.Id == package.TagId ? 0 : 1, t.Number
            select new Part(t.Number, p.Name, c.Kind, c.Where)).Take(24).ToListAsync(ct);
        Parts = parts;
        Readings = await db.Points.AsNoTracking().Where(p => p.PlaceId == place).OrderBy(p => p.Number).Take(12).ToListAsync(ct);
        var plan = (await plans.PresentAsync(ct)).Plan;
        var day = await DayQuery.LoadAsync(db, plan, clock.Now, ct);
        Why = day.Input.Operations.FirstOrDefault(o => o.Id == DayFacts.Id(operation)) is { } ready ? DayWords.Why(ready, day.On) : string.Empty;
        return Page();
    }
}
