using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>A new package: what, where, what for, and its steps as people write them.</summary>
public sealed class NewModel(OilTagDb db, Me me, ShedClock clock, StepWrites writes) : LinesPage(db)
{
    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    /// <summary>The machine; null until one is chosen.</summary>
    public Machine? Machine { get; private set; }

    /// <summary>The place when it is known already.</summary>
    public Place? Place { get; private set; }

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    public IReadOnlyList<SelectListItem> Milestones { get; private set; } = [];

    public IReadOnlyList<SetView> Sets { get; private set; } = [];

    /// <summary>Findings that it is for.</summary>
    public IReadOnlyList<(int Number, string What)> For { get; private set; } = [];

    /// <summary>Sets shown before the rest folds.</summary>
    public const int FewSets = 5;

    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    [BindProperty(SupportsGet = true, Name = "place")]
    public Guid? PlaceId { get; set; }

    [BindProperty(SupportsGet = true, Name = "tag")]
    public int? Tag { get; set; }

    [BindProperty(SupportsGet = true, Name = "f")]
    public IReadOnlyList<int> Findings { get; set; } = [];

    [BindProperty(SupportsGet = true, Name = "milestone")]
    public Guid? Milestone { get; set; }

    /// <summary>Starting steps, by name.</summary>
    [BindProperty(SupportsGet = true, Name = "from")]
    public string? From { get; set; }

    /// <summary>A package whose steps are used again.</summary>
    [BindProperty(SupportsGet = true, Name = "like")]
    public int? Like { get; set; }

    /// <summary>True for the other hand than that package's.</summary>
    [BindProperty(SupportsGet = true, Name = "other")]
    public bool OtherHand { get; set; }

    /// <summary>For how many positions.</summary>
    [BindProperty(SupportsGet = true, Name = "times")]
    public int? Times { get; set; }

    [BindProperty]
    public string? Title { get; set; }

    [BindProperty]
    public string? Purpose { get; set; }

    /// <summary>The set whose key was pressed.</summary>
    [BindProperty]
    public string? Choose { get; set; }

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

        if (Like is { } number && await Db.Packages.AsNoTracking().Include(k => k.Operations).SingleOrDefaultAsync(k => k.Number == number,
            ct) is { } like)
        {
            Lines = StepWrites.LinesOf(like, await StepQuery.WordsAsync(Db, steps: false, ct));
            Lines = OtherHand ? StartingSteps.OtherHand(Lines) : Lines;
            Title = OtherHand ? StartingSteps.OtherHand(like.Title) : like.Title;
            From = like.StartedFrom;
        }
        else if (From is not null)
        {
            await UseAsync(From, ct);
        }

        await ReadLinesAsync(ct);
        return Page();
    }

    public Task<IActionResult> OnPostReadAsync(CancellationToken ct) =>
        ShowAsync(me.CanLead, () => LoadAsync(ct), () => ReadLinesAsync(ct));

    public Task<IActionResult> OnPostAnswerAsync(CancellationToken ct) => ShowAsync(me.CanLead, () => LoadAsync(ct), () => AnswerAsync(ct));

    public Task<IActionResult> OnPostStartAsync(CancellationToken ct) => ShowAsync(
        me.CanLead,
        () => LoadAsync(ct),
        async () =>
        {
            await UseAsync(Choose, ct);
            ModelState.Remove(nameof(Lines));
            await ReadLinesAsync(ct);
        });

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanLead,
        async () =>
        {
            var there = await LoadAsync(ct);
            await ReadLinesAsync(ct);
            return there;
        },
        () => writes.OpenAsync(Key, me.Id, new NewPackage(Letter, PlaceId, Tag, Findings, Milestone, Title, Purpose, Lines, From),
            clock.Today, ct));

    // Starting steps fill an empty field; else they are added at its end.
    private async Task UseAsync(string? name, CancellationToken ct)
    {
        if (await StepQuery.SetAsync(Db, name, ct) is not { } set)
        {
            return;
        }

        var lines = set.Lines;
        if (Times is > 1 and <= 200)
        {
            var words = await StepQuery.WordsAsync(Db, steps: false, ct);
            lines = StepText.Write(StartingSteps.Times(StepText.Read(lines, words).Steps, Times.Value), words);
        }

        var empty = string.IsNullOrWhiteSpace(Lines);
        Lines = empty ? lines : Lines!.TrimEnd() + "\n" + lines;
        From = empty || string.IsNullOrEmpty(From) ? set.Name : From;
    }

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Machines = await Db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        var tag = Tag is { } n ? await Db.Tags.AsNoTracking().SingleOrDefaultAsync(t => t.Number == n, ct) : null;
        var findings = Findings.Count == 0 ? [] : await Db.Findings.AsNoTracking().Where(f => Findings.Contains(f.Number)).OrderBy(f =>
            f.Number).ToListAsync(ct);
        if ((Tag is not null && tag is null) || findings.Count != Findings.Distinct().Count())
        {
            return false;
        }

        For = [.. findings.Select(f => (f.Number, f.What))];
        PlaceId ??= tag?.SlotId ?? (findings.Select(f => f.PlaceId).Distinct().ToList() is [var one] ? one : null);
        Place = PlaceId is { } id ? await Db.Places.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, ct) : null;
        var machine = Place?.MachineId ?? tag?.MachineId ?? findings.FirstOrDefault()?.MachineId;
        Machine = Machines.FirstOrDefault(m => m.Id == machine) ?? Machines.FirstOrDefault(m => m.Letter == Letter);
        Letter = Machine?.Letter ?? Letter;
        Places = Machine is null || Place is { Kind: PlaceKind.Slot } ? []
            : [new SelectListItem("The whole machine", string.Empty), .. await PlacesAsync(Machine.Id, ct)];
        Milestones = [new SelectListItem("None", string.Empty), .. await MilestoneChoices.OfAsync(Db, Machine?.Id, ct)];
        Sets = await StepQuery.SetsAsync(Db, ct);
        return true;
    }

    private async Task<IEnumerable<SelectListItem>> PlacesAsync(Guid machine, CancellationToken ct)
    {
        var tree = await PlaceWrites.TreeAsync(Db, machine, ct);
        var assemblies = await Db.Places.AsNoTracking().Where(p => p.MachineId == machine && p.Kind == PlaceKind.Assembly).OrderBy(p =>
            p.Order).ToListAsync(ct);
        return assemblies.Select(p => (Path: string.Join(" › ", tree.PathUp(p.Id).Reverse().Select(x => x.Name)), p)).OrderBy(x => x.Path,
            StringComparer.Ordinal).Select(x => new SelectListItem(x.p.Hand == Hand.None ? x.Path : x.Path + (x.p.Hand == Hand.Left
            ? ", left" : ", right"), x.p.Id.ToString()));
    }
}
