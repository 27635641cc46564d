using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Survey;
using OilTag.Data;
using OilTag.Data.Machines;

namespace OilTag.Web.Pages.Survey;

/// <summary>The verdict on what is being typed, before it is logged. Records nothing.</summary>
public sealed class VerdictPreviewModel(OilTagDb db) : PageModel
{
    public VerdictResult? Result { get; private set; }

    public string? Problem { get; private set; }

    public async Task<IActionResult> OnGetAsync(FindingEntry entry, Guid place, CancellationToken ct)
    {
        if (string.IsNullOrWhiteSpace(entry.Reading) || entry.Feature is null)
        {
            return Page();
        }

        var at = await (from p in db.Places join m in db.Machines on p.MachineId equals m.Id where p.Id == place select m).AsNoTracking().SingleOrDefaultAsync(ct);
        if (at is null)
        {
            return NotFound();
        }

        var check = FindingRule.Check(entry with { What = "typed" });
        Problem = check.Problems.Count > 0 ? check.Problems[0].Sentence : null;
        if (Problem is null)
        {
            var (standard, setBy) = await PlaceWrites.StandardAtAsync(db, place, at, ct);
            Result = VerdictRule.Judge(entry.Feature, check.Reading, check.ReadingTo, check.Nominal, check.Limit, entry.LimitFor, standard, setBy);
        }

        return Page();
    }
}
