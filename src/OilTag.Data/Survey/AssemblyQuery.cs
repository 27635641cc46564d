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
        var places = await db.Places.AsNoTracking().Where(p => p.MachineId == machineId && p.Kind == PlaceKind.Assembly).OrderBy(p => p.Order).ThenBy(p => p.Id)
            .Select(p => new { p.Id, p.ParentId, p.Name, p.Hand, p.Position, p.Condition }).ToListAsync(ct);

        // Somebody looked where something was found, taken off or planned.
        var touched = await db.Findings.Where(f => f.MachineId == machineId).Select(f => f.PlaceId)
            .Union(db.Tags.Where(t => t.MachineId == machineId).Select(t => t.SlotId))
            .Union(db.Packages.Where(k => k.MachineId == machineId).Select(k => k.PlaceId))
            .Join(db.Places, id => id, p => p.Id, (_, p) => p.Kind == PlaceKind.Assembly ? p.Id : p.ParentId).Distinct().ToListAsync(ct);
        var worked = await (
            from k in db.Packages
            join p in db.Places on k.PlaceId equals p.Id
            join a in db.Places on (p.Kind == PlaceKind.Assembly ? p.Id : p.ParentId) equals (Guid?)a.Id
            where k.CancelledWhy == string.Empty
            select new { a.Id, a.Condition, Hours = k.Operations.Sum(o => o.Likely) }).ToListAsync(ct);
        var taken = worked.GroupBy(w => w.Id).Select(g => (g.Key, g.First().Condition, Hours: g.Sum(w => w.Hours))).Where(g => g.Hours > 0).ToList();
        var hours = taken.ToDictionary(g => g.Key, g => g.Hours);
        var looked = touched.OfType<Guid>().ToHashSet();
        var parents = places.Select(p => p.ParentId).ToHashSet();
        return new AssemblyFacts(
            [.. places.Where(p => !parents.Contains(p.Id)).Select(p => new AssemblyRow(p.Id, PlaceNames.Full(p.Name, p.Hand, p.Position), new AssemblyStand(p.Condition, looked.Contains(p.Id), hours.GetValueOrDefault(p.Id))))],
            AssemblyRule.Worn([.. taken.Select(g => (g.Condition, g.Hours))]));
    }
}
