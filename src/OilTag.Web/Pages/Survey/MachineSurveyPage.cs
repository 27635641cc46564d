using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>A page about the condition of one machine at a time, the first one when none was chosen.</summary>
public abstract class MachineSurveyPage(OilTagDb db) : FormPage
{
    [BindProperty(SupportsGet = true, Name = "m")]
    public string? Letter { get; set; }

    /// <summary>The address of the page, for links to other machines.</summary>
    public abstract string Address { get; }

    public IReadOnlyList<Machine> Machines { get; private set; } = [];

    public Machine Machine { get; private set; } = null!;

    protected OilTagDb Db => db;

    protected async Task<bool> LoadMachineAsync(CancellationToken ct)
    {
        Machines = await db.Machines.AsNoTracking().OrderBy(m => m.Bay).ToListAsync(ct);
        if ((Letter is null ? Machines.FirstOrDefault() : Machines.FirstOrDefault(m => m.Letter == Letter)) is not { } machine)
        {
            return false;
        }

        Machine = machine;
        return true;
    }
}
