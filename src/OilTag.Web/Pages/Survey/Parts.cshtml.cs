using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Stores;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Survey;

/// <summary>The first parts list of a machine: certain, likely, cannot tell.</summary>
public sealed class PartsModel(OilTagDb db, Me me, ShedClock clock, ConditionWrites writes) : MachineSurveyPage(db)
{
    public override string Address => "/survey/parts";

    public IReadOnlyList<WantedPart> Lines { get; private set; } = [];

    /// <summary>Names of what is wanted by itself, in capitals: these end here.</summary>
    public IReadOnlySet<string> Demanded { get; private set; } = new HashSet<string>();

    [BindProperty]
    public string? What { get; set; }

    [BindProperty]
    public DemandEnd? End { get; set; }

    public async Task<IActionResult> OnGetAsync(CancellationToken ct) => await LoadAsync(ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostEndAsync(CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(ct), () => writes.EndAsync(Key, me.Id, Machine.Id, What, End, ct));

    private async Task<bool> LoadAsync(CancellationToken ct)
    {
        if (!await LoadMachineAsync(ct))
        {
            return false;
        }

        Lines = await ConditionQuery.PartsAsync(Db, Machine, clock.Today, ct);
        Demanded = (await Db.Demands.Where(d => d.MachineId == Machine.Id && d.End == null).Select(d => d.What).Distinct().ToListAsync(ct)).Select(w => w.ToUpperInvariant()).ToHashSet();
        return true;
    }
}
