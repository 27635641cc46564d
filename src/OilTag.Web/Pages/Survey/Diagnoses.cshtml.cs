using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Survey;
using OilTag.Data;

namespace OilTag.Web.Pages.Survey;

/// <summary>All diagnoses, the open ones first.</summary>
public sealed class DiagnosesModel(OilTagDb db) : PageModel
{
    private const int Most = 200;

    public sealed record Line(Diagnosis Diagnosis, string Place, string Letter, string Tin);

    public IReadOnlyList<Line> Lines { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        var rows = await (from d in db.Diagnoses.AsNoTracking() join p in db.Places on d.PlaceId equals p.Id join m in db.Machines on d.MachineId equals m.Id orderby d.ClosedAt != null, d.Number descending select new { d, p, m.Letter, m.Tin }).Take(Most).ToListAsync(ct);
        Lines = [.. rows.Select(r => new Line(r.d, r.p.FullName, r.Letter, r.Tin))];
    }
}
