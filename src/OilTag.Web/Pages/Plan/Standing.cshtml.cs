using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>How one machine stands among the others, what it takes of the shed, and when it must be whole.</summary>
public sealed class StandingModel(OilTagDb db, Me me, ShedClock clock, ShedWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    [BindProperty]
    public MachineStanding Standing { get; set; }

    [BindProperty]
    public string? Floor { get; set; }

    [BindProperty]
    public string? KeepHours { get; set; }

    [BindProperty]
    public DateOnly? WindowFrom { get; set; }

    [BindProperty]
    public DateOnly? WindowUntil { get; set; }

    [BindProperty]
    public string? WindowWhy { get; set; }

    public async Task<IActionResult> OnGetAsync(string letter, CancellationToken ct)
    {
        if (!await LoadAsync(letter, ct))
        {
            return NotFound();
        }

        Fill();
        return Page();
    }

    public Task<IActionResult> OnPostAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.SetStandingAsync(Key, me.Id, letter, Standing, Floor, KeepHours, ct));

    public Task<IActionResult> OnPostWindowAsync(string letter, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.AddWindowAsync(Key, me.Id, letter, ToDate(WindowFrom), ToDate(WindowUntil), WindowWhy, clock.Today, ct), Fill);

    public Task<IActionResult> OnPostDropAsync(string letter, DateOnly from, string? why, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(letter, ct), () => writes.DropWindowAsync(Key, me.Id, letter, from, why, ct), Fill);

    private void Fill()
    {
        Standing = Machine.Standing;
        Floor = Machine.Floor?.ToString("0.##", System.Globalization.CultureInfo.InvariantCulture);
        KeepHours = Machine.KeepMinutes is { } k ? (k / 60m).ToString("0.##", System.Globalization.CultureInfo.InvariantCulture) : null;
    }

    private async Task<bool> LoadAsync(string letter, CancellationToken ct)
    {
        if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter, ct) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        return true;
    }
}
