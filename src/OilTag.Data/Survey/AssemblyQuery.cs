using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Core.Work;

namespace OilTag.Data.Survey;

/// <summary>An assembly of a machine that holds no other assembly.</summary>
/// <param name="Id">Place.</param>
/// <param name="Name">Its name in full.</param>
/// <param name="Stand">What is known of it.</param>
public sealed record AssemblyRow(Guid Id, string Name, AssemblyStand Stand);

/// <summary>The assemblies of a machine, and what they still want.</summary>
/// <param name="Rows">In their order.</param>
/// <param name="Worn">What a worn one takes, and where that comes from.</param>
public sealed record AssemblyFacts(IReadOnlyList<AssemblyRow> Rows, (HoursRange Hours, string Source) Worn)
{
    /// <summary>What they want beyond what is on record.</summary>
    public AssemblyRest Rest => AssemblyRule.Rest(Rows.Select(r => r.Stand), Worn);
}

/// <summary>Reads how bad assemblies are, and what those of ours took.</summary>
public static class AssemblyQuery
{
    /// <param name="db">The record.</param>
    /// <param name="machineId">Machine.</param>
    /// <param name="ct">Ends it.</param>
    public static async Task<AssemblyFacts> LoadAsync(OilTagDb db, Guid machineId, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);

        // Somebody looked where something was found, taken off or planned.
        var places = await db.Places.AsNoTracking().Where(p => p.Kind == PlaceKind.Assembly).OrderBy(p => p.Order).ThenBy(p => p.Id).Select(p => new
        {
            p.Id,
            p.MachineId,
            p.ParentId,
            p.Name,
            p.Hand,
            p.Position,
            p.Condition,
            Looked = db.Places.Any(
                c => (c.Id == p.Id || c.ParentId == p.Id) && (db.Findings.Any(f => f.PlaceId == c.Id) || db.Tags.Any(t => t.SlotId == c.Id) || db.Packages.Any(k => k.PlaceId == c.Id))),
        }).ToListAsync(ct);
        var worked = await (
            from k in db.Packages
            join p in db.Places on k.PlaceId equals p.Id
            where k.CancelledWhy == string.Empty
            select new { Id = p.Kind == PlaceKind.Assembly ? p.Id : p.ParentId ?? p.Id, Hours = k.Operations.Sum(o => o.Likely) }).ToListAsync(ct);
        var hours = worked.GroupBy(w => w.Id).ToDictionary(g => g.Key, g => g.Sum(w => w.Hours));

        // An assembly of assemblies is judged by those in it.
        var parents = places.Select(p => p.ParentId).ToHashSet();
        places.RemoveAll(p => parents.Contains(p.Id));
        return new AssemblyFacts(
            [.. places.Where(p => p.MachineId == machineId).Select(p => new AssemblyRow(p.Id, PlaceNames.Full(p.Name, p.Hand, p.Position), new AssemblyStand(p.Condition, p.Looked, hours.GetValueOrDefault(p.Id))))],
            AssemblyRule.Worn([.. places.Where(p => p.Looked).Select(p => (p.Condition, hours.GetValueOrDefault(p.Id)))]));
    }
}
