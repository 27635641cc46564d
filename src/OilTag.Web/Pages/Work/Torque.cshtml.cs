using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Measures;
using OilTag.Core.Planning;
using OilTag.Core.Service;
using OilTag.Core.Torque;
using OilTag.Core.Work;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Torque;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Work;

/// <summary>Bolts of a step, pulled one after the other in their order and passes; and the form that sets the group.</summary>
public sealed class TorqueModel(OilTagDb db, Me me, ShedClock clock, TorqueWrites writes, Signer signer, TorqueWrench wrench) : FormPage
{
    private static readonly Unit NewtonMetre = Unit.NewtonMetre;

    public WorkPackage Package { get; private set; } = null!;

    public Operation Step { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    /// <summary>The group with its readings; null while there is none.</summary>
    public BoltsAt? At { get; private set; }

    /// <summary>Wrenches and whether each may be used for the group today.</summary>
    public IReadOnlyList<(MeasuringTool Tool, string? WhyNot)> Tools { get; private set; } = [];

    public MeasuringTool? Tool { get; private set; }

    /// <summary>Why the wrench does not do; null when it does or none is asked for.</summary>
    public string? ToolWhyNot { get; private set; }

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    public IReadOnlyList<(Guid Id, string Name)> Signers { get; private set; } = [];

    /// <summary>True when a wrench is set up that sends.</summary>
    public bool HasWrench => wrench.Set;

    /// <summary>What the wrench shows just now, in the SI unit; null when nothing.</summary>
    public double? Live { get; private set; }

    /// <summary>What the wrench cannot say, in a sentence; null when it can.</summary>
    public string? WrenchSays { get; private set; }

    [BindProperty(SupportsGet = true)]
    public bool Wrench { get; set; }

    /// <summary>True when the group is set or changed.</summary>
    [BindProperty(SupportsGet = true)]
    public bool Set { get; set; }

    /// <summary>The bolt whose readings are shown, by its number; null for the last ones.</summary>
    [BindProperty(SupportsGet = true)]
    public int? Bolt { get; set; }

    [BindProperty]
    public int Pass { get; set; }

    /// <summary>The number that is chalked on the bolt that was pulled.</summary>
    [BindProperty]
    public int Turned { get; set; }

    [BindProperty]
    public string? Pull { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    [BindProperty]
    public Guid ReadingId { get; set; }

    [BindProperty]
    public string? StrikeWhy { get; set; }

    [BindProperty]
    public bool Accept { get; set; }

    [BindProperty]
    public string? AcceptWhy { get; set; }

    [BindProperty]
    public Guid? Who { get; set; }

    [BindProperty]
    public string? Pin { get; set; }

    [BindProperty]
    public Guid? ToolId { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public string? Noun { get; set; }

    [BindProperty]
    public BoltShape Shape { get; set; }

    [BindProperty]
    public string? Count { get; set; }

    [BindProperty]
    public string? Points { get; set; }

    /// <summary>The photo under own points.</summary>
    [BindProperty]
    public Guid? PhotoId { get; set; }

    /// <summary>Photos of findings at its place, the newest first.</summary>
    public IReadOnlyList<(Guid Id, string Caption)> Photos { get; private set; } = [];

    /// <summary>The photo under the points with its size in pixels; null for none.</summary>
    public (Guid Id, int Width, int Height)? Photo { get; private set; }

    [BindProperty]
    public string? Across { get; set; }

    [BindProperty]
    public string? Mark { get; set; }

    [BindProperty]
    public string? Sequence { get; set; }

    [BindProperty]
    public string? Full { get; set; }

    [BindProperty]
    public string? Within { get; set; }

    [BindProperty]
    public string? Passes { get; set; }

    [BindProperty]
    public string? Threads { get; set; }

    [BindProperty]
    public string? Source { get; set; }

    [BindProperty]
    public UseKind? Again { get; set; }

    [BindProperty]
    public string? AgainHours { get; set; }

    [BindProperty]
    public LockWay? LockedBy { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public bool CanPull => me.CanRecord && Package.ClosedAt is null && Step.DoneAt is null;

    public async Task<IActionResult> OnGetAsync(int number, int order, CancellationToken ct)
    {
        if (!await LoadAsync(number, order, ct))
        {
            return NotFound();
        }

        if (At is { } at && Set)
        {
            Take(at.Group);
        }

        return Page();
    }

    public Task<IActionResult> OnPostSetAsync(int number, int order, CancellationToken ct) =>
        RunAsync(me.CanLead, number, order, () => writes.SetAsync(
        Key, me.Id, number, Step.Id, new BoltGroupEntry(Name, Noun, Shape, Count, Points, Across, Mark, Sequence, Full, Within, Passes,
            Threads, Source, ToolId, Again, AgainHours, LockedBy, PhotoId), Version, clock.Today, ct), ct, () => Set = true);

    public Task<IActionResult> OnPostPullAsync(int number, int order, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, order, () => writes.PullAsync(Key, me.Id, number, Step.Id, new PullEntry(Pass, Turned, Pull, false,
            Why), clock.Today, ct), ct);

    /// <summary>Waits for one whole pull of the wrench and keeps it.</summary>
    public Task<IActionResult> OnPostWrenchAsync(int number, int order, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, order, async () =>
    {
        if (At is not { Stand.Done: false } at || Target is not { } target)
        {
            return Recorded.Changed;
        }

        var answer = await wrench.PullAsync(target.Si, ct);
        Live = answer.NewtonMetres;
        return answer.NewtonMetres is { } nm ? await SentAsync(number, at, nm, ct) : Recorded.Refused(answer.Sentence!, "Pull");
    }, ct);

    /// <summary>One reading while somebody pulls; when they let go it is kept by itself and the page goes on.</summary>
    public async Task<IActionResult> OnPostLiveAsync(int number, int order, CancellationToken ct)
    {
        if (!me.CanRecord)
        {
            return Forbid();
        }

        if (!await LoadAsync(number, order, ct))
        {
            return NotFound();
        }

        if (At is not { Stand.Done: false } at || Target is not { } target || at.Stand.Over is not null || ToolWhyNot is not null)
        {
            return Leave(number, order);
        }

        var answer = await wrench.ReadAsync(target.Si, ct);
        (Live, WrenchSays) = (answer.NewtonMetres, answer.Sentence);
        if (answer is not { LetGo: true, NewtonMetres: { } nm })
        {
            return Partial("_Pull", this);
        }

        var kept = await SentAsync(number, at, nm, ct);
        if (kept.Ok || kept.Stale)
        {
            return Leave(number, order);
        }

        WrenchSays = kept.Problems[0].Sentence;
        return Partial("_Pull", this);
    }

    public Task<IActionResult> OnPostStrikeAsync(int number, int order, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, order, () => writes.StrikeAsync(Key, me.Id, me.CanLead, number, Step.Id, ReadingId, StrikeWhy, ct),
            ct);

    public Task<IActionResult> OnPostAskAsync(int number, int order, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, order, () => writes.AskAsync(Key, me.Id, number, Step.Id, ReadingId, ct), ct);

    public Task<IActionResult> OnPostAnswerAsync(int number, int order, CancellationToken ct) =>
        RunAsync(signer.MayTry, number, order, () => signer.SignAsync(
        Who, Pin, (who, inspector, _) => writes.AnswerAsync(Key, who, inspector, number, Step.Id, ReadingId, Accept, AcceptWhy, clock.Today,
            ct), ct), ct);

    public Task<IActionResult> OnPostToolAsync(int number, int order, CancellationToken ct) =>
        RunAsync(me.CanRecord, number, order, () => writes.ToolAsync(Key, me.Id, number, Step.Id, ToolId, clock.Today, ct), ct);

    /// <summary>What is wanted now; null when all is done.</summary>
    public Measure? Target => At is { Stand.Done: false } at ? TorqueRule.Wanted(at.Group, at.Stand.Pass).Target : null;

    /// <summary>Which readings are listed, newest first.</summary>
    public IReadOnlyList<TorqueReading> Listed => At is { } at
        ? [.. at.Readings.Where(r => Bolt is { } n ? r.Number == n : r.Pass == Math.Min(at.Stand.Pass,
            at.Group.Passes.Count)).OrderByDescending(r => r.At).ThenByDescending(r => r.Id).Take(14)]
        : [];

    /// <summary>The newest pull that counts; null when there is none.</summary>
    public TorqueReading? Last => At?.Readings.Where(r => r.StruckAt is null).OrderBy(r => r.At).ThenBy(r => r.Id).LastOrDefault();

    private Task<Recorded> SentAsync(int number, BoltsAt at, double newtonMetres, CancellationToken ct) => writes.PullAsync(
        Key,
        me.Id,
        number,
        Step.Id,
        new PullEntry(at.Stand.Pass, at.Stand.Number, MeasureFormat.In(newtonMetres, at.Group.Full.Unit), true, null),
        clock.Today,
        ct);

    private EmptyResult Leave(int number, int order)
    {
        Response.Headers["HX-Redirect"] = string.Create(CultureInfo.InvariantCulture, $"/w/{number}/{order}/torque?wrench=true");
        return new EmptyResult();
    }

    private Task<IActionResult> RunAsync(bool allowed, int number, int order, Func<Task<Recorded>> write, CancellationToken ct,
        Action? again = null) =>
        WriteAsync(allowed, () => LoadAsync(number, order, ct), write, again);

    private void Take(BoltGroup g)
    {
        (Name, Noun, Shape, Mark, Threads, Source, ToolId, Again, LockedBy, Version) = (g.Name, g.Noun, g.Shape, g.Mark, g.Threads,
            g.Source, g.ToolId, g.Again, g.LockedBy, g.Version);
        Count = g.Shape switch
        {
            BoltShape.Rows => string.Join(' ', g.Rows),
            BoltShape.Mains or BoltShape.Rods =>
            (g.Count / 2).ToString(CultureInfo.InvariantCulture),
            _ => g.Count.ToString(CultureInfo.InvariantCulture)
        };
        Points = string.Join('\n', g.Points.Select(p => string.Create(CultureInfo.InvariantCulture,
            $"{(p.X + 1) * 50:0.#} {(p.Y + 1) * 50:0.#}")));
        PhotoId = g.PhotoId;
        (Across, Full, Within) = (g.Across?.Entered, g.Full.Entered, g.Within.Entered);
        Sequence = g.BooksOrder ? string.Join(' ', g.Order) : null;
        Passes = string.Join(' ', g.Passes.Select(p => p.Degrees is { } d ? string.Create(CultureInfo.InvariantCulture, $"+{d:0.#}°")
            : p.Share.ToString("0.#", CultureInfo.InvariantCulture)));
        AgainHours = g.AgainHours?.ToString("0.#", CultureInfo.InvariantCulture);
    }

    private async Task<bool> LoadAsync(int number, int order, CancellationToken ct)
    {
        var package = await db.Packages.AsNoTracking().Include(k => k.Operations).SingleOrDefaultAsync(k => k.Number == number, ct);
        if (package?.Operations.Find(o => o.Order == order) is not { Hold: false } step)
        {
            return false;
        }

        (Package, Step) = (package, step);
        Machine = await db.Machines.AsNoTracking().SingleAsync(m => m.Id == package.MachineId, ct);
        At = await TorqueQuery.AtAsync(db, step.Id, tracked: false, ct);
        var tools = await db.MeasuringTools.AsNoTracking().Where(t => t.Quantity == Quantity.Torque && t.EndedAt == null).OrderBy(t =>
            t.Name).ToListAsync(ct);
        Tools = [.. tools.Select(t => (t, At is { } at ? TorqueRule.WhyNotTool(at.Group, t, clock.Today) : ToolRule.WhyNot(t,
            clock.Today)))];
        Tool = tools.Find(t => t.Id == At?.Group.ToolId);
        ToolWhyNot = At is { Stand.Done: false } group && group.Group.Passes[group.Stand.Pass - 1].Degrees is null
            ? TorqueRule.WhyNotTool(group.Group, Tool, clock.Today) : null;
        if (At is null || Set)
        {
            var photos = await (from p in db.Photos
                                join f in db.Findings on p.FindingId equals f.Id
                                where f.PlaceId == package.PlaceId
                || f.TagId == package.TagId && f.TagId != null
                                orderby p.At descending
                                select new
                                {
                                    p.Id,
                                    p.Caption,
                                    f.Number
                                }).Take(8).ToListAsync(ct);
            Photos = [.. photos.Select(p => (p.Id, p.Caption.Length > 0 ? p.Caption : $"Photo of F{p.Number}"))];
        }

        if (At?.Group.PhotoId is { } photo)
        {
            var size = await db.Photos.Where(p => p.Id == photo).Select(p => new { p.Width, p.Height }).SingleAsync(ct);
            Photo = (photo, size.Width, size.Height);
        }

        Signers = await signer.WhoAsync(ct);
        var ids = At?.Readings.Select(r => r.ById).Append(At.Group.ById).Distinct().ToList() ?? [];
        Names = ids.Count == 0 ? Names : await db.People.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }

    /// <summary>A torque in the other unit, rounded as a wrench reads.</summary>
    public static string Other(Measure m)
    {
        ArgumentNullException.ThrowIfNull(m);
        return m.Unit.Quantity != Quantity.Torque ? string.Empty
            : m.Unit == NewtonMetre ? Drawings.TorqueDrawing.Number(m.Si, Unit.PoundFoot) + "\u00A0lb ft"
            : Drawings.TorqueDrawing.Number(m.Si, NewtonMetre) + "\u00A0N m";
    }

    /// <summary>Wrenches that may be used today, for a choice.</summary>
    public IReadOnlyList<SelectListItem> ToolChoices => [new SelectListItem("None yet", string.Empty), .. Tools.Where(t =>
        t.WhyNot is null).Select(t => new SelectListItem(t.Tool.Name, t.Tool.Id.ToString()))];
}
