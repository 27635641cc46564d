using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Strip;

/// <summary>A page about one machine, found by its letter.</summary>
public abstract class StripMachinePage(OilTagDb db) : FormPage
{
    public Machine Machine { get; private set; } = null!;

    protected OilTagDb Db => db;

    protected async Task<bool> LoadMachineAsync(string letter, CancellationToken ct)
    {
        if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter.ToUpper(), ct) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        return true;
    }
}
