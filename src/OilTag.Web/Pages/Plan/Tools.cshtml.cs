using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Measures;
using OilTag.Core.Planning;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Plan;

/// <summary>Tools that measure: what each reads, and until when it may be trusted.</summary>
public sealed class ToolsModel(OilTagDb db, Me me, ShedClock clock, ToolWrites writes) : FormPage
{
    public IReadOnlyList<MeasuringTool> Tools { get; private set; } = [];

    /// <summary>The tool that is changed; null for a new one.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Tool { get; set; }

    [BindProperty]
    public string? Name { get; set; }

    [BindProperty]
    public Quantity Quantity { get; set; } = Quantity.Torque;

    [BindProperty]
    public string? Low { get; set; }

    [BindProperty]
    public string? High { get; set; }

    [BindProperty]
    public DateOnly? Until { get; set; }

    [BindProperty]
    public string? Paper { get; set; }

    [BindProperty]
    public string? EndWhy { get; set; }

    [BindProperty]
    public uint Version { get; set; }

    public static IReadOnlyList<SelectListItem> Quantities => [.. ToolRule.Measured.Select(q => new SelectListItem(q.ToString(),
        q.ToString()))];

    public async Task OnGetAsync(CancellationToken ct)
    {
        await LoadAsync(ct);
        if (Tools.FirstOrDefault(t => t.Id == Tool && t.EndedAt is null) is { } t)
        {
            (Name, Quantity, Low, High, Paper, Version) = (t.Name, t.Quantity, t.Low?.Entered, t.High?.Entered, t.Paper, t.Version);
            Until = t.Until?.ToDateOnly();
        }
    }

    public Task<IActionResult> OnPostAsync(CancellationToken ct) => WriteAsync(
        me.CanLead, () => LoadAsync(ct), () => writes.SetAsync(Key, me.Id, Tool, new ToolEntry(Name, Quantity, Low, High, ToDate(Until),
            Paper), Version, clock.Today, ct));

    public Task<IActionResult> OnPostEndAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () =>
        writes.EndAsync(Key, me.Id, Tool ?? Guid.Empty, EndWhy, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        Tools = await db.MeasuringTools.AsNoTracking().OrderBy(t => t.EndedAt != null).ThenBy(t => t.Until).ThenBy(t =>
            t.Name).ToListAsync(ct);
        return true;
    }
}
