using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Strip;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>A page about one place and what is before or behind it.</summary>
public abstract class StripPlacePage(OilTagDb db, AccessLoader accesses) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public Access Access { get; private set; } = null!;

    /// <summary>Numbers of the open tags by slot.</summary>
    public IReadOnlyDictionary<Guid, int> Numbers { get; private set; } = new Dictionary<Guid, int>();

    protected OilTagDb Db => db;

    protected AccessLoader Accesses => accesses;

    protected async Task<bool> LoadPlaceAsync(Guid id, CancellationToken ct)
    {
        if (await PlaceWrites.FindAsync(db, id, ct) is not { } found)
        {
            return false;
        }

        (Place, Machine) = found;
        Access = (await accesses.LoadAsync(Machine.Id, ct)).Access;
        var machine = Machine.Id;
        Numbers = await db.Tags.Where(t => t.MachineId == machine && t.End == null).Select(t => new { t.SlotId, t.Number }).ToDictionaryAsync(t => t.SlotId, t => t.Number, ct);
        return true;
    }
}
