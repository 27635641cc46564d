using Microsoft.EntityFrameworkCore;
using OilTag.Core.Torque;

namespace OilTag.Data.Torque;

/// <summary>A group of bolts with what was read at it.</summary>
/// <param name="Group">The group.</param>
/// <param name="Readings">Every reading, struck ones too.</param>
/// <param name="Stand">How far it is.</param>
public sealed record BoltsAt(BoltGroup Group, IReadOnlyList<TorqueReading> Readings, TorqueStand Stand);

/// <summary>Groups of bolts at steps, in one command.</summary>
public static class TorqueQuery
{
    /// <summary>The group at a step; null when it has none.</summary>
    public static async Task<BoltsAt?> AtAsync(OilTagDb db, Guid operationId, bool tracked, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(db);
        var rows = db.BoltGroups.Where(g => g.OperationId == operationId);
        var found = await (tracked ? rows : rows.AsNoTracking())
            .Select(g => new { g, Readings = db.TorqueReadings.Where(r => r.GroupId == g.Id).ToList() })
            .SingleOrDefaultAsync(ct);
        return found is null ? null : new BoltsAt(found.g, found.Readings, TorqueStand.Of(found.g, found.Readings));
    }
}
