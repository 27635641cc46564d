using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Service;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Service;
using OilTag.Data.Strip;
using OilTag.Web.Pages.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Service;

/// <summary>The service of a machine: what is due, what is looked at again, and what the machine did.</summary>
public sealed class MachineModel(OilTagDb db, Me me, ShedClock clock, AccessLoader accesses, ServiceWrites writes) : FormPage
{
    private const int Shown = 12;

    public Machine Machine { get; private set; } = null!;

    public ServiceFacts Facts { get; private set; } = null!;

    public IReadOnlyList<SelectListItem> Places { get; private set; } = [];

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    /// <summary>The newest uses.</summary>
    public IEnumerable<MachineUse> Uses => Facts.Uses.Take(Shown);

    /// <summary>The task that is changed; null for a new one.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Change { get; set; }

    [BindProperty]
    public Guid Id { get; set; }

    [BindProperty]
    public Guid? Seen { get; set; }

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public Guid? PlaceId { get; set; }

    [BindProperty]
    public string? With { get; set; }

    [BindProperty]
    public string? Amount { get; set; }

    [BindProperty]
    public string? EveryDays { get; set; }

    [BindProperty]
    public string? EveryHours { get; set; }

    [BindProperty]
    public string? EveryDistance { get; set; }

    [BindProperty]
    public bool BeforeRun { get; set; }

    [BindProperty]
    public bool BeforeMove { get; set; }

    [BindProperty]
    public bool AfterFirstRun { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    [BindProperty]
    public string? EndWhy { get; set; }

    [BindProperty]
    public string? BackWhy { get; set; }

    [BindProperty]
    public string? Note { get; set; }

    [BindProperty]
    public string? Minutes { get; set; }

    [BindProperty]
    public UseKind UseKind { get; set; }

    [BindProperty]
    public DateOnly? UseOn { get; set; }

    [BindProperty]
    public string? UseHours { get; set; }

    [BindProperty]
    public string? UseDistance { get; set; }

    [BindProperty]
    public string? UseNote { get; set; }

    [BindProperty]
    public string? Recheck { get; set; }

    [BindProperty]
    public Guid? RecheckPlace { get; set; }

    [BindProperty]
    public DateOnly? RecheckOn { get; set; }

    [BindProperty]
    public string? AfterHours { get; set; }

    [BindProperty]
    public UseKind? AfterUse { get; set; }

    [BindProperty]
    public string? Found { get; set; }

    [BindProperty]
    public bool GiveUp { get; set; }

    private string Here => $"/machines/{Machine.Letter}/service";

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        UseOn = clock.Today.ToDateOnly();
        if (Facts.Tasks.FirstOrDefault(t => t.Task.Id == Change)?.Task is { } t)
        {
            (What, PlaceId, With, Amount, BeforeRun, BeforeMove, AfterFirstRun, Version) = (t.What, t.PlaceId, t.With, t.Amount,
                t.BeforeRun, t.BeforeMove, t.AfterFirstRun, t.Version);
            (EveryDays, EveryHours, EveryDistance) = (t.EveryDays?.ToString(CultureInfo.InvariantCulture),
                t.EveryHours?.ToString("0.#", CultureInfo.InvariantCulture), t.EveryDistance?.Entered);
        }

        return Page();
    }

    public Task<IActionResult> OnPostSetAsync(string letter, CancellationToken ct) => RunAsync(me.CanLead, letter, () => writes.SetAsync(
        Key, me.Id, Machine.Letter, Change, new ServiceEntry(What, PlaceId, With, Amount, EveryDays, EveryHours, EveryDistance, BeforeRun,
            BeforeMove, AfterFirstRun), Version, ct), ct);

    public Task<IActionResult> OnPostEndAsync(string letter, CancellationToken ct) =>
        RunAsync(me.CanLead, letter, () => writes.EndAsync(Key, me.Id, Machine.Letter, Change ?? Guid.Empty, EndWhy, ct), ct);

    public Task<IActionResult> OnPostDoneAsync(string letter, CancellationToken ct) =>
        RunAsync(me.CanRecord, letter, () => writes.DoneAsync(Key, me.Id, Id, Seen, Note, Minutes, clock.Today, Here, ct), ct);

    public Task<IActionResult> OnPostNotDoneAsync(string letter, CancellationToken ct) =>
        RunAsync(me.CanRecord, letter, () => writes.NotDoneAsync(Key, me.Id, me.CanLead, Id, BackWhy, Here, ct), ct);

    public Task<IActionResult> OnPostUseAsync(string letter, CancellationToken ct) =>
        RunAsync(me.CanRecord, letter, () => writes.UseAsync(Key, me.Id, Machine.Letter, UseKind, ToDate(UseOn), UseHours, UseDistance,
            UseNote, clock.Today, ct), ct);

    public Task<IActionResult> OnPostNotUsedAsync(string letter, CancellationToken ct) =>
        RunAsync(me.CanRecord, letter, () => writes.NotUsedAsync(Key, me.Id, me.CanLead, Machine.Letter, Id, BackWhy, ct), ct);

    public Task<IActionResult> OnPostAgainAsync(string letter, CancellationToken ct) =>
        RunAsync(me.CanRecord, letter, () => writes.AgainAsync(Key, me.Id, Machine.Letter, null, new RecheckEntry(Recheck, RecheckPlace,
            ToDate(RecheckOn), AfterHours, AfterUse), clock.Today, Here, ct), ct);

    public Task<IActionResult> OnPostCheckedAsync(string letter, CancellationToken ct) =>
        RunAsync(me.CanRecord, letter, () => writes.CheckedAsync(Key, me.Id, me.CanLead, Id, GiveUp, Found, Here, ct), ct);

    private Task<IActionResult> RunAsync(bool allowed, string letter, Func<Task<Recorded>> write, CancellationToken ct) =>
        WriteAsync(allowed, () => LoadAsync(letter, ct), write, () => UseOn ??= clock.Today.ToDateOnly());

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter.ToUpper(), ct) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        Facts = await ServiceQuery.LoadAsync(db, machine.Id, clock.Today, clock.Zone, ct);
        var ids = Facts.Uses.Take(Shown).Select(u => u.ById).Concat(Facts.Tasks.Select(t =>
            t.Last?.ById).OfType<Guid>()).Distinct().ToList();
        Names = ids.Count == 0 ? Names : await db.People.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        Places = [new SelectListItem("Choose", string.Empty), .. (await accesses.LoadAsync(machine.Id, ct)).Access.Choices()];
        return true;
    }
}
