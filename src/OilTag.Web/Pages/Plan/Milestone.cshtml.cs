using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>One milestone: how likely, when, and how that was worked out; what it needs.</summary>
public sealed class MilestoneModel(OilTagDb db, WorkshopLoader workshop, PlanLoader plans, ShedClock clock, Me me, PlanWrites writes, MilestoneWrites milestones) : FormPage
{
    public Milestone Milestone { get; private set; } = null!;

    public string Countdown { get; private set; } = string.Empty;

    public IReadOnlyList<(Machine Machine, Forecast Forecast)> Shares { get; private set; } = [];

    public IReadOnlyList<(PackageFacts Package, Machine Machine)> Packages { get; private set; } = [];

    public Totals Totals { get; private set; } = null!;

    /// <summary>What the runs of the plan say of it; null while the plan does not know it.</summary>
    public SimulatedMilestone? Runs { get; private set; }

    /// <summary>What fixes its date, what would give most first, in words, with what it would give.</summary>
    public IReadOnlyList<(string What, string Gives)> Causes { get; private set; } = [];

    [BindProperty]
    public int InTen { get; set; } = 8;

    [BindProperty]
    public MilestoneForm Form { get; set; } = new();

    [BindProperty]
    public string? MovedWhy { get; set; }

    [BindProperty]
    public string? EndWhy { get; set; }

    [BindProperty]
    public bool Reached { get; set; }

    public IReadOnlyList<SelectListItem> Machines { get; private set; } = [];

    /// <summary>What is still between, besides the packages that are tied to it, when it is about a machine.</summary>
    public IReadOnlyList<(string What, string Href)> Between { get; private set; } = [];

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken ct)
    {
        if (!await LoadAsync(id, ct))
        {
            return NotFound();
        }

        Fill();
        return Page();
    }

    public Task<IActionResult> OnPostChangeAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => milestones.ChangeAsync(Key, me.Id, id, Form.Entry(MovedWhy), clock.Today, ct));

    public Task<IActionResult> OnPostSplitAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => milestones.SplitAsync(Key, me.Id, id, ct), Fill);

    public Task<IActionResult> OnPostEndAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => milestones.EndAsync(Key, me.Id, id, Reached, EndWhy, ct), Fill);

    private void Fill() => Form = MilestoneForm.Of(Milestone);

    /// <summary>Asks for the smallest changes that bring it to a chance.</summary>
    public Task<IActionResult> OnPostAsync(Guid id, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(id, ct), () => writes.AdviseAsync(Key, me.Id, id, InTen, clock.Today, ct), Fill);

    private async Task<bool> LoadAsync(Guid id, CancellationToken ct)
    {
        var shop = await workshop.LoadAsync(clock.Today, ct: ct);
        if (shop.Milestones.FirstOrDefault(m => m.Id == id) is not { } milestone)
        {
            return false;
        }

        Milestone = milestone;
        var plan = (await plans.PresentAsync(ct)).Plan;
        Runs = plan?.Milestone(id);
        Causes = plan is null ? [] : [.. plan.Result.Causes.Where(c => c.Milestone == PlanQuery.Id(id)).Select(c => (c.Words(plan.Input), c.Gives()))];
        Countdown = shop.Calendar.Count(clock.Today, milestone.On);
        var mine = shop.Packages.Where(p => p.MilestoneId == id).ToList();
        Totals = Totals.Of(mine, await WorkshopQuery.ClosedTotalsAsync(db, db.Packages.Where(k => k.MilestoneId == id), ct));
        Packages = [.. mine.OrderBy(p => p.WaitingOn.Length > 0 ? 0 : 1).ThenByDescending(p => p.Remaining.Likely).Select(p => (p, shop.Machines.First(m => m.Id == p.MachineId)))];
        Machines = [new SelectListItem("Packages alone", string.Empty), .. shop.Machines.Select(m => new SelectListItem(m.Name, m.Id.ToString()))];
        Between = milestone.MachineId is { } of && shop.Machines.FirstOrDefault(m => m.Id == of) is { } machine ? await BetweenAsync(shop, machine, id, ct) : [];
        Shares = [.. shop.Machines.Where(m => mine.Exists(p => p.MachineId == m.Id)).Select(m => (m, shop.Forecast(milestone, m.Id)))];
        return true;
    }

    private async Task<IReadOnlyList<(string What, string Href)>> BetweenAsync(Workshop shop, Machine machine, Guid id, CancellationToken ct)
    {
        var off = shop.Tags.Count(t => t.MachineId == machine.Id);
        var undecided = await db.Findings.Where(f => f.MachineId == machine.Id).CountAsync(FindingQuery.IsOpen(clock.Today), ct);
        var others = shop.Packages.Count(p => p.MachineId == machine.Id && p.MilestoneId != id);
        (int Count, string One, string Many, string Href)[] all =
        [
            (off, "part off", "parts off", $"/strip?m={machine.Letter}"),
            (undecided, "finding that nobody decided about", "findings that nobody decided about", $"/survey?m={machine.Letter}"),
            (others, "open package that is not tied to it", "open packages that are not tied to it", $"/work?m={machine.Letter}"),
        ];
        return [.. all.Where(x => x.Count > 0).Select(x => (Say.Count(x.Count, x.One, x.Many), x.Href))];
    }
}

/// <summary>A milestone in the fields of a form.</summary>
public sealed class MilestoneForm
{
    public string? MilestoneName { get; set; }

    public DateOnly? MilestoneOn { get; set; }

    public bool MilestoneFixed { get; set; }

    public string? MilestoneWeight { get; set; }

    public string? MilestoneWhy { get; set; }

    public Guid? MilestoneMachine { get; set; }

    public string? FitFor { get; set; }

    public MilestoneEntry Entry(string? movedWhy = null) => new(MilestoneName, MilestoneOn is { } d ? LocalDate.FromDateOnly(d) : null, MilestoneFixed, MilestoneWeight, MilestoneWhy, MilestoneMachine, FitFor, movedWhy);

    public static MilestoneForm Of(Milestone m)
    {
        ArgumentNullException.ThrowIfNull(m);
        return new MilestoneForm
        {
            MilestoneName = m.Name,
            MilestoneOn = m.On.ToDateOnly(),
            MilestoneFixed = m.Fixed,
            MilestoneWeight = m.Weight.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture),
            MilestoneWhy = m.Why,
            MilestoneMachine = m.MachineId,
            FitFor = m.FitFor,
        };
    }
}
