using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Machines;

/// <summary>How a machine's team decides: what is done with what is still good, and what counts more.</summary>
public sealed class PolicyModel(OilTagDb db, Me me, PlaceWrites writes) : FormPage
{
    [BindProperty(SupportsGet = true)]
    public string Letter { get; set; } = string.Empty;

    [BindProperty]
    public RepairPolicy Policy { get; set; }

    [BindProperty]
    public Approach Approach { get; set; }

    [BindProperty]
    public string? Hour { get; set; }

    public Machine Machine { get; private set; } = null!;

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

        (Policy, Approach, Hour) = (Machine.Policy, Machine.Approach, (Machine.HourPence / 100m).ToString("0.##", CultureInfo.InvariantCulture));
        return Page();
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.SetPolicyAsync(Key, me.Id, Machine.Id, Policy, Approach, Hour, ct));

    private async Task<bool> LoadAsync(CancellationToken ct) => (Machine = (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == Letter, ct))!) is not null;
}
