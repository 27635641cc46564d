using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Lifting;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Lifting;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Lifting;

/// <summary>Writes a plan of a lift: a new one, one from an older one, or changes to one that is not signed.</summary>
public sealed class EditModel(OilTagDb db, Me me, LiftWrites writes) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    /// <summary>Number of the plan that is changed; null for a new one.</summary>
    public int? Number { get; private set; }

    public bool Signed { get; private set; }

    [BindProperty]
    public uint Seen { get; set; }

    [BindProperty]
    public string? LiftTitle { get; set; }

    [BindProperty]
    public string? Masses { get; set; }

    [BindProperty]
    public string? Fuel { get; set; }

    [BindProperty]
    public string? Supports { get; set; }

    [BindProperty]
    public string? Dynamic { get; set; } = "1.1";

    [BindProperty]
    public string? Margin { get; set; } = "25";

    [BindProperty]
    public string? Floor { get; set; }

    [BindProperty]
    public string? People { get; set; }

    [BindProperty]
    public string? Steps { get; set; }

    [BindProperty]
    public string? Stops { get; set; } = "Anybody calls stop\nA jack leaks, leans or sinks\nA load cell passes its limit\nSomebody is under it";

    private LiftEntry Entry => new(LiftTitle, Masses, Fuel, Supports, Dynamic, Margin, Floor, People, Steps, Stops);

    public async Task<IActionResult> OnGetAsync(int? number, string? m, int? from, CancellationToken ct)
    {
        if (!me.CanRecord)
        {
            return Forbid();
        }

        if (!await LoadAsync(number, m, ct))
        {
            return NotFound();
        }

        if (await db.Lifts.AsNoTracking().SingleOrDefaultAsync(l => l.Number == (number ?? from), ct) is { } plan)
        {
            string Lines(IEnumerable<string> all) => string.Join('\n', all);
            string N(double v) => v.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture);
            (Seen, LiftTitle, Masses, Fuel, Supports, Dynamic, Margin, Floor) = (number is null ? 0 : plan.Version, plan.Title, Lines(plan.Masses.Select(x => x.Text)), plan.Fuel, Lines(plan.Supports.Select(x => x.Text)), N(plan.Dynamic), N(plan.Margin), plan.Floor);
            (People, Steps, Stops) = (Lines(plan.People), Lines(plan.Steps), Lines(plan.Stops));
        }

        return Page();
    }

    public Task<IActionResult> OnPostAsync(int? number, string? m, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, m, ct), () => writes.SaveAsync(Key, me.Id, number, Machine.Id, Seen, Entry, ct));

    private async Task<bool> LoadAsync(int? number, string? letter, CancellationToken ct)
    {
        Number = number;
        if (number is { } n)
        {
            if (await (from l in db.Lifts join x in db.Machines on l.MachineId equals x.Id where l.Number == n select new { x, Signed = l.SignedAt != null }).AsNoTracking().SingleOrDefaultAsync(ct) is not { } found)
            {
                return false;
            }

            (Machine, Signed) = (found.x, found.Signed);
            return true;
        }

        if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(x => x.Letter == (letter ?? string.Empty).ToUpper(), ct) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        return true;
    }
}
