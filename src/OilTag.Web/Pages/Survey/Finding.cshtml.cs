using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Cautions;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Bench;
using OilTag.Data.Log;
using OilTag.Data.Machines;
using OilTag.Data.Survey;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>One finding: reading and verdict, photos, and the decision about it.</summary>
[RequestSizeLimit(PhotoUpload.BodyLimit)]
public sealed class FindingModel(OilTagDb db, Me me, ShedClock clock, FindingWrites writes, PhotoWrites photos, PackageWrites packages) : FormPage
{
    public Finding Finding { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public int? TagNumber { get; private set; }

    public string FoundBy { get; private set; } = string.Empty;

    public VerdictResult Verdict { get; private set; } = null!;

    public IReadOnlyList<Photo> Photos { get; private set; } = [];

    public IReadOnlyList<(Decision Decision, string By)> Decisions { get; private set; } = [];

    public IReadOnlyList<(int Number, string Title, string State, string WaitingOn)> Packages { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Milestones { get; private set; } = [];

    public IReadOnlyList<Caution> Cautions { get; private set; } = [];

    /// <summary>Answers of the bench that are kept with it.</summary>
    public IReadOnlyList<KeptView> Kept { get; private set; } = [];

    /// <summary>Other findings at the same place.</summary>
    public IReadOnlyList<(int Number, string What)> AlsoHere { get; private set; } = [];

    /// <summary>The next older finding of the machine that nobody has decided about.</summary>
    public int? NextOpen { get; private set; }

    /// <summary>Options compared; null when none is written down.</summary>
    public OptionComparison? Options { get; private set; }

    /// <summary>The milestone that the machine works for, and the weeks until it.</summary>
    public (string Name, double Weeks)? Next { get; private set; }

    /// <summary>Leads and keepers decide; an inspector may give a concession.</summary>
    public bool MayDecide => me.CanLead || me.IsInspector;

    /// <summary>True when a decision has come back because its day or milestone has passed.</summary>
    public bool BackAgain { get; private set; }

    public Decision? Current => Decisions.FirstOrDefault(d => !d.Decision.Replaced).Decision;

    /// <summary>What is settled on: a way, or the id of an option that was compared. One of them, never both.</summary>
    [BindProperty(Name = "Disposition")]
    public string? Way { get; set; }

    public Disposition? Disposition => Enum.TryParse<Disposition>(Way, out var d) && Enum.IsDefined(d) ? d : null;

    /// <summary>The option that is settled on, when options were compared.</summary>
    public Guid? Option => Guid.TryParse(Way, out var id) ? id : null;

    /// <summary>What is made or got, when it is not the place itself.</summary>
    [BindProperty]
    public string? What { get; set; }

    /// <summary>Starting steps of the package, by name.</summary>
    [BindProperty]
    public string? StartFrom { get; set; }

    [BindProperty]
    public string? BackWhy { get; set; }

    /// <summary>Ways to start its package.</summary>
    public IReadOnlyList<SelectListItem> Starts { get; private set; } = [];

    [BindProperty]
    public DateOnly? ReturnOn { get; set; }

    [BindProperty]
    public Guid? ReturnAfter { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    [BindProperty]
    public int Left { get; set; } = 1;

    [BindProperty]
    public int Right { get; set; }

    [BindProperty]
    public Guid? Milestone { get; set; }

    [BindProperty]
    public Guid? Seen { get; set; }

    [BindProperty]
    public string? Caption { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct)
    {
        if (!await LoadAsync(number, ct))
        {
            return NotFound();
        }

        Seen = Current?.Id;
        if (Place.Hand != Hand.None)
        {
            (Left, Right) = (1, 1);
        }

        // Only a milestone that this machine works for is offered by itself.
        Milestone = Guid.TryParse(Milestones.FirstOrDefault(x => x.Selected)?.Value, out var first) ? first : null;
        return Page();
    }

    public Task<IActionResult> OnPostDecideAsync(int number, CancellationToken ct) => WriteAsync(
        MayDecide,
        () => LoadAsync(number, ct),
        () => writes.DecideAsync(
            Key, me.Id, number, new DecisionEntry(Disposition, Why, Left, Right, Milestone, Seen, Option, ToDate(ReturnOn), ReturnAfter, What, StartFrom), me.CanLead, me.IsInspector || me.IsKeeper, clock.Today, ct),
        () => Seen = Stale ? Current?.Id : Seen);

    public Task<IActionResult> OnPostTakeBackAsync(int number, CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(number, ct),
        () => packages.TakeBackAsync(Key, me.Id, number, Seen, BackWhy, ct),
        () => Seen = Stale ? Current?.Id : Seen);

    public Task<IActionResult> OnPostPhotoAsync(int number, IFormFile? photo, CancellationToken ct) => WriteAsync(
        me.CanRecord,
        () => LoadAsync(number, ct),
        async () =>
        {
            var (kept, wrong) = await PhotoUpload.ReadAsync(photo, Caption, null, ct);
            return wrong is not null ? Recorded.Refused([wrong])
                : kept is null ? Recorded.Refused("Choose a photo first.", "Photo")
                : await photos.AddToFindingAsync(Key, me.Id, number, kept, ct);
        },
        () => Seen = Current?.Id);

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var open = FindingQuery.IsOpen(clock.Today);
        var found = await (
            from f in db.Findings.AsNoTracking()
            join p in db.Places on f.PlaceId equals p.Id
            join m in db.Machines on f.MachineId equals m.Id
            join who in db.People on f.FoundById equals who.Id
            join t in db.Tags on f.TagId equals t.Id into ts
            from t in ts.DefaultIfEmpty()
            where f.Number == number
            select new { f, p, m, Who = who.Name, Tag = (int?)t.Number, HasKept = db.KeptAnswers.Any(k => k.FindingId == f.Id), Next = db.Findings.Where(x => x.MachineId == f.MachineId && x.Number < number).Where(open).Max(x => (int?)x.Number) }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Finding, Place, Machine, FoundBy, TagNumber, NextOpen) = (found.f, found.p, found.m, found.Who, found.Tag, found.Next);
        var tree = await PlaceWrites.TreeAsync(db, Machine.Id, ct);
        var (standard, setBy) = tree.StandardAt(Place.Id, Machine.Standard, Machine.Name);
        Verdict = VerdictRule.Judge(Finding, standard, setBy);
        Photos = await db.Photos.AsNoTracking().Where(x => x.FindingId == Finding.Id).OrderBy(x => x.At).ToListAsync(ct);
        var decisions = await (from d in db.Decisions.AsNoTracking() join who in db.People on d.ById equals who.Id where d.FindingId == Finding.Id orderby d.At descending select new { d, who.Name }).ToListAsync(ct);
        Decisions = [.. decisions.Select(d => (d.d, d.Name))];
        var opened = await FindingQuery.PackagesOf(db, Finding.Id).OrderBy(k => k.Number).Select(k => new { k.Number, k.Title, Closed = k.ClosedAt != null, Cancelled = k.CancelledWhy != string.Empty, k.WaitingOn }).ToListAsync(ct);
        Packages = [.. opened.Select(k => (k.Number, k.Title, k.Cancelled ? "cancelled" : k.Closed ? "closed" : "open", k.WaitingOn))];
        Milestones = [new SelectListItem("None", string.Empty), .. await MilestoneChoices.OfAsync(db, Machine.Id, ct)];
        Starts = me.CanLead ? [new SelectListItem("As usual for the decision", string.Empty), .. (await StepQuery.SetNamesAsync(db, ct)).Select(s => new SelectListItem($"{s.Name}, {s.Words}", s.Name))] : [];
        Kept = found.HasKept ? await KeptQuery.OfFindingAsync(db, Finding.Id, ct) : [];
        AlsoHere = await FindingQuery.AtPlaceAsync(db, Place.Id, Finding.Id, ct);
        BackAgain = Finding.Decided is not null && Finding.DecidedOn(clock.Today) is null;
        (Options, Next) = await OptionQuery.CompareAsync(db, Finding, Machine, Verdict, standard, clock.Today, ct);
        Cautions = CautionRules.At(Machine.Kind, Machine.Year, [.. tree.PathUp(Place.Id).Select(n => n.Name)], Place.Name, Finding.What, Finding.Cause);
        return true;
    }
}
