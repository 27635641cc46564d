using Microsoft.AspNetCore.Mvc;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data.Machines;
using OilTag.Data.Planning;
using OilTag.Data.Work;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>The plan over time, what to order by when, how sure each milestone is, and what cannot be.</summary>
public sealed class IndexModel(WorkshopLoader workshop, PlanLoader plans, ShedClock clock, Me me, PackageWrites writes) : FormPage
{
    /// <summary>Weeks that can be looked at at once; nought for one day.</summary>
    public static readonly IReadOnlyList<(int Weeks, string Words)> Zooms = [(0, "A day"), (1, "A week"), (6, "6 weeks"), (16, "16 weeks"), (32, "32 weeks"), (52, "A year"), (156, "3 years")];

    /// <summary>The pages of what a plan is made of, the plan first.</summary>
    public static readonly IReadOnlyList<(string Path, string Words)> MadeOf = [("/plan", "Plan"), ("/plan/calendar", "Calendar"), ("/plan/machines", "Machines"), ("/plan/equipment", "Equipment"), ("/plan/tools", "Tools that measure"), ("/plan/calls", "Call-outs"), ("/plan/damage", "Not found yet")];

    [BindProperty(SupportsGet = true)]
    public int Weeks { get; set; } = 32;

    [BindProperty(SupportsGet = true)]
    public SheetBy By { get; set; }

    [BindProperty(SupportsGet = true)]
    public string? Skill { get; set; }

    [BindProperty(SupportsGet = true)]
    public DateOnly? From { get; set; }

    [BindProperty(SupportsGet = true)]
    public Guid? Seen { get; set; }

    public Workshop Shop { get; private set; } = null!;

    public ReadyPlan? Plan { get; private set; }

    public NextPlan Next { get; private set; } = null!;

    public PlanSheet? Sheet { get; private set; }

    public LocalDate Start { get; private set; }

    public IReadOnlyDictionary<string, Machine> Machines { get; private set; } = new Dictionary<string, Machine>(StringComparer.Ordinal);

    public Task OnGetAsync(CancellationToken ct) => ShowAsync(ct);

    /// <summary>Somebody has ordered something today.</summary>
    public Task<IActionResult> OnPostOrderedAsync(Guid demand, CancellationToken ct) => WriteAsync(me.CanLead, () => ShowAsync(ct), () => writes.OrderedAsync(Key, me.Id, demand, clock.Today, ct));

    private async Task<bool> ShowAsync(CancellationToken ct)
    {
        await LoadAsync(ct);
        if (!Zooms.Any(z => z.Weeks == Weeks))
        {
            Weeks = 32;
        }

        var today = clock.Today;
        var asked = From is { } f ? LocalDate.FromDateOnly(f) : today;
        Start = asked < today.PlusWeeks(-1) || asked > today.PlusYears(3) ? today : asked;
        if (Weeks > 1 && Start == today)
        {
            // A little of what is past, so that today's line stands clear.
            Start = today.PlusDays(-(Weeks / 16) - 1);
        }

        if (Weeks == 0 && From is null && Plan?.Input.Sessions.FirstOrDefault(s => s.On >= today) is { } session)
        {
            Start = session.On;
        }

        Sheet = Plan is null ? null : PlanSheet.Of(Plan.Input, Plan.Result.Schedule, Plan.Result.Forecast, Plan.Result.OrderBy, Start, Math.Max(1, Weeks * 7), By, Skill);
        return true;
    }

    /// <summary>How old the plan is; nothing while that has not changed.</summary>
    public async Task<IActionResult> OnGetAgeAsync(string? said, CancellationToken ct)
    {
        (Plan, Next) = await plans.PresentAsync(ct);
        return said == Said ? new NoContentResult() : Partial("_Age", this);
    }

    /// <summary>Everything that the line about the plan's age says, as one word: while it is the same there is nothing to draw anew.</summary>
    public string Said => $"{Plan?.Id:N}-{(Plan is null ? string.Empty : Ago(Plan.DoneAt))}-{Next.Wanted}-{Next.Progress:0.00}-{Next.Failed}";

    /// <summary>Where Earlier and Later lead: half a sheet on, or the session before or after.</summary>
    public LocalDate Beside(bool later)
    {
        var sessions = Plan!.Input.Sessions;
        return Weeks > 0 ? Start.PlusDays((later ? 1 : -1) * Weeks * 7 / 2)
            : (later ? sessions.FirstOrDefault(s => s.On > Start) : sessions.LastOrDefault(s => s.On < Start))?.On ?? Start;
    }

    /// <summary>Hours of the last half year and of the plan.</summary>
    public HoursCurve Hours => HoursCurve.Of(Shop.Worked, Plan?.Result.Schedule);

    /// <summary>What is begun on a machine within four weeks, with its package.</summary>
    public IReadOnlyList<(LocalDate When, string What, string Package)> Coming(string machine)
    {
        if (Plan is null)
        {
            return [];
        }

        var own = Plan.Input.Packages.Where(p => p.Machine == machine).ToDictionary(p => p.Id, StringComparer.Ordinal);
        return [.. Plan.Input.Operations.Zip(Plan.Result.Schedule.Operations)
            .Where(x => own.ContainsKey(x.First.Package) && x.Second.Stretches.Count > 0 && x.Second.Stretches[0].On < clock.Today.PlusWeeks(4))
            .OrderBy(x => x.Second.Start)
            .Select(x => (x.Second.Stretches[0].On, $"{x.First.Name}: {own[x.First.Package].Title}", x.First.Package))
            .Take(8)];
    }

    private async Task LoadAsync(CancellationToken ct)
    {
        (Plan, Next) = await plans.PresentAsync(ct);
        Shop = await workshop.LoadAsync(clock.Today, ct: ct);
        Machines = Shop.Machines.ToDictionary(m => m.Letter, StringComparer.Ordinal);
    }

    /// <summary>"12 minutes ago", from a moment of the past.</summary>
    public string Ago(Instant at)
    {
        var minutes = (int)(clock.Now - clock.Local(at)).ToDuration().TotalMinutes;
        return minutes switch { < 1 => "just now", 1 => "1 minute ago", < 60 => $"{minutes} minutes ago", < 120 => "an hour ago", < 48 * 60 => $"{minutes / 60} hours ago", _ => $"{minutes / 1440} days ago" };
    }
}
