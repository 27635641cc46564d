using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>What if: changes that are tried on a copy of the plan.</summary>
public sealed class TryModel(OilTagDb db, PlanLoader plans, ShedClock clock, Me me, PlanWrites writes) : FormPage
{
    public ReadyPlan? Plan { get; private set; }

    public IReadOnlyList<KeptPlan> Kept { get; private set; } = [];

    public IReadOnlyDictionary<Guid, string> Names { get; private set; } = new Dictionary<Guid, string>();

    [BindProperty(SupportsGet = true)]
    public string Kind { get; set; } = ChangeRule.Kinds[0].Kind;

    /// <summary>The tried plan on top of which the change is made.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? On { get; set; }

    [BindProperty]
    public string? Day { get; set; } = nameof(IsoDayOfWeek.Sunday);

    [BindProperty]
    public string? From { get; set; } = "10:00";

    [BindProperty]
    public string? Until { get; set; } = "16:00";

    [BindProperty]
    public DateOnly? Date { get; set; }

    [BindProperty]
    public string? Person { get; set; }

    [BindProperty]
    public string? Skill { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Package { get; set; }

    [BindProperty]
    public string? Hours { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Demand { get; set; }

    [BindProperty]
    public string? Weeks { get; set; }

    [BindProperty]
    public string? Machine { get; set; }

    [BindProperty]
    public string? Standing { get; set; } = nameof(MachineStanding.Leaving);

    [BindProperty]
    public string? Milestone { get; set; }

    [BindProperty]
    public string? Weight { get; set; } = "2";

    public IEnumerable<SelectListItem> Milestones => Plan!.Input.Milestones.Where(m => m.Packages.Count > 0).Select(m => new SelectListItem($"{m.Name}, counts {m.Weight.ToString("0.#", System.Globalization.CultureInfo.InvariantCulture)} now", m.Id));

    public IEnumerable<SelectListItem> Packages =>
        Plan!.Input.Packages.OrderBy(p => p.Machine)
            .ThenBy(p => p.Title)
            .Select(
                p => new SelectListItem($"{p.Machine} {p.Title}{(p.Id.Contains(':', StringComparison.Ordinal) ? string.Empty : $", package {p.Id}")}", p.Id));

    public IEnumerable<SelectListItem> People => Plan!.Input.People.OrderBy(p => p.Name).Select(p => new SelectListItem(p.Name, p.Id));

    public IEnumerable<SelectListItem> Skills => Plan!.Input.Operations.SelectMany(o => o.Skills).Select(s => s.Skill).Distinct().Order().Select(s => new SelectListItem(s, s));

    public IEnumerable<SelectListItem> Demands => Plan!.Input.Demands.OrderBy(d => d.What).Select(d => new SelectListItem($"{d.What}, now {Say.Number(d.Lead.Likely / 7)} weeks", d.Id));

    public IEnumerable<SelectListItem> Machines => Plan!.Input.Machines.Select(m => new SelectListItem(m.Name, m.Id));

    public Task OnGetAsync(CancellationToken ct) => LoadAsync(ct);

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanLead,
        () => LoadAsync(ct),
        () => writes.TryAsync(
            Key,
            me.Id,
            new ChangeEntry { Kind = Kind, Day = Day, From = From, Until = Until, On = ToDate(Date), Person = Person, Skill = Skill, Package = Package, Hours = Hours, Demand = Demand, Weeks = Weeks, Machine = Machine, Standing = Standing, Milestone = Milestone, Weight = Weight },
            On,
            clock.Today,
            ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (!ChangeRule.Kinds.Any(k => k.Kind == Kind))
        {
            Kind = ChangeRule.Kinds[0].Kind;
        }

        Plan = (await plans.PresentAsync(ct)).Plan;
        Kept = await db.Plans.AsNoTracking().Where(p => p.Kind == KeptPlanKind.Tried || p.Kind == KeptPlanKind.Advised).OrderByDescending(p => p.AskedAt)
            .Select(p => new KeptPlan { Id = p.Id, Kind = p.Kind, State = p.State, Name = p.Name, AskedById = p.AskedById, AskedAt = p.AskedAt, Progress = p.Progress }).ToListAsync(ct);
        var ids = Kept.Select(k => k.AskedById).OfType<Guid>().ToHashSet();
        Names = await db.People.Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }
}
