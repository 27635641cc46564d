using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;

namespace OilTag.Web.Pages.Make;

/// <summary>All open route cards: what is where, and what has nothing to work on.</summary>
public sealed class IndexModel(OilTagDb db) : PageModel
{
    public sealed record Row(RouteCard Card, Machine Machine, string Place, IReadOnlyList<StageStand> Stand)
    {
        /// <summary>Pieces that are not finished.</summary>
        public int Left => Stand.Count > 1 ? Stand[^2].Wanted - Stand[^2].Reached : 0;
    }

    public IReadOnlyList<Row> Rows { get; private set; } = [];

    public async Task OnGetAsync(CancellationToken ct)
    {
        var cards = await (
            from c in db.RouteCards.AsNoTracking().Include(c => c.Stages)
            join k in db.Packages on c.PackageId equals k.Id
            join m in db.Machines on k.MachineId equals m.Id
            join p in db.Places on k.PlaceId equals p.Id
            where k.ClosedAt == null
            orderby m.Bay, c.Number
            select new { c, m, p }).ToListAsync(ct);
        var counts = (await CardWrites.CountsAsync(db, [.. cards.Select(c => c.c.Id)], ct)).ToLookup(c => c.StageId);
        var stages = cards.SelectMany(c => c.c.Stages).Where(s => s.FirstOff).Select(s => s.Id).ToList();
        var inspections = (await db.FirstOffs.AsNoTracking().Where(f => stages.Contains(f.StageId)).ToListAsync(ct)).ToLookup(f => f.StageId);
        // What an inspector holds up stands first, then what is still made, then what only waits to be fitted.
        Rows = [.. cards.Select(x => new Row(x.c, x.m, x.p.FullName, StageCounts.Stand(x.c, [.. x.c.Stages.SelectMany(s => counts[s.Id])], [.. x.c.Stages.SelectMany(s => inspections[s.Id])]))).OrderBy(r => r.Stand.Any(s => s.Held) ? 0 : r.Left > 0 ? 1 : 2)];
    }
}
