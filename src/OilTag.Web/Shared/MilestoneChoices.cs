using Microsoft.AspNetCore.Mvc.Rendering;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;

namespace OilTag.Web.Shared;

/// <summary>The milestones that a package can serve.</summary>
public static class MilestoneChoices
{
    /// <summary>Wanted milestones; those of the machine first, the next one on top.</summary>
    public static async Task<IReadOnlyList<SelectListItem>> OfAsync(OilTagDb db, Guid? machineId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var all = await db.Milestones.AsNoTracking().Where(m => m.EndedAt == null).OrderBy(m => m.On).ThenBy(m => m.Id)
            .Select(m => new { m.Id, m.Name, Own = machineId != null && (m.MachineId == machineId || db.Packages.Any(k => k.MachineId == machineId && k.MilestoneId == m.Id)) }).ToListAsync(ct);
        return [.. all.OrderBy(m => m.Own ? 0 : 1).Select(m => new SelectListItem(m.Own || machineId is null ? m.Name : m.Name + " (of other machines so far)", m.Id.ToString(), m.Own))];
    }
}
