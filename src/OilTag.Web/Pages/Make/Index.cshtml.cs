using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data;

namespace OilTag.Web.Pages.Make;

/// <summary>All open route cards with their counts.</summary>
public sealed class IndexModel(OilTagDb db) : PageModel
{
    public sealed record Row(RouteCard Card, Machine Machine, int Package, string Place, IReadOnlyList<(string Name, int Count)> Reached)
    {
        public int Wanted => Card.Left + Card.Right;

        public string Next => Reached.FirstOrDefault(r => r.Count < Wanted) is { Name: { } n } ? n : "all fitted";
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
            select new { c, m, k.Number, p }).ToListAsync(ct);
        var ids = cards.SelectMany(c => c.c.Stages).Select(s => s.Id).ToList();
        var counts = await db.StageMoves.Where(x => ids.Contains(x.StageId)).GroupBy(x => x.StageId).Select(g => new { g.Key, Count = g.Sum(x => x.Pieces) }).ToDictionaryAsync(x => x.Key, x => x.Count, ct);
        Rows = [.. cards.Select(c => new Row(c.c, c.m, c.Number, c.p.FullName, [.. c.c.Stages.OrderBy(s => s.Order).Select(s => (s.Name, counts.GetValueOrDefault(s.Id)))]))];
    }
}
