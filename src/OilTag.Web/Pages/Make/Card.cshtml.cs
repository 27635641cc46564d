using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>One route card: counts per stage and hand, moved by one tap.</summary>
public sealed class CardModel(OilTagDb db, Me me, CardWrites writes) : FormPage
{
    public RouteCard Card { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public int PackageNumber { get; private set; }

    public bool Closed { get; private set; }

    public int? TagNumber { get; private set; }

    public IReadOnlyList<Stage> Stages { get; private set; } = [];

    public IReadOnlyDictionary<(Guid Stage, Hand Hand), int> Counts { get; private set; } = new Dictionary<(Guid, Hand), int>();

    public IReadOnlyList<Hand> Hands => Card.Handed ? [Hand.Left, Hand.Right] : [Hand.Left];

    [BindProperty]
    public Guid StageId { get; set; }

    [BindProperty]
    public Hand Hand { get; set; }

    [BindProperty]
    public int Pieces { get; set; }

    [BindProperty]
    public int Seen { get; set; }

    public int CountOf(Stage s, Hand h) => Counts.GetValueOrDefault((s.Id, h));

    public int Wanted(Hand h) => h == Hand.Right ? Card.Right : Card.Left;

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public async Task<IActionResult> OnPostMoveAsync(int number, CancellationToken ct)
    {
        if (!me.CanRecord)
        {
            return Forbid();
        }

        var outcome = await db.RouteCards.AnyAsync(c => c.Number == number, ct)
            ? await writes.MoveAsync(Key, me.Id, number, StageId, Hand, Pieces, Seen, ct)
            : null;
        if (outcome is null)
        {
            return NotFound();
        }

        var quick = Request.Headers.ContainsKey("HX-Request");
        if (outcome.Ok && !quick)
        {
            return Redirect(outcome.Result!);
        }

        if (!outcome.Ok)
        {
            Show(outcome);
        }

        await InOneMomentAsync(() => LoadAsync(number, ct));
        return quick ? Partial("_Counts", this) : Page();
    }

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        var found = await (
            from c in db.RouteCards.AsNoTracking().Include(c => c.Stages)
            join k in db.Packages on c.PackageId equals k.Id
            join m in db.Machines on k.MachineId equals m.Id
            join p in db.Places on k.PlaceId equals p.Id
            where c.Number == number
            select new { c, m, p, k.Number, Closed = k.ClosedAt != null, Tag = db.Tags.Where(t => t.Id == k.TagId).Select(t => (int?)t.Number).FirstOrDefault() }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Card, Machine, Place, PackageNumber, Closed, TagNumber) = (found.c, found.m, found.p, found.Number, found.Closed, found.Tag);
        Stages = [.. Card.Stages.OrderBy(s => s.Order)];
        var ids = Stages.Select(s => s.Id).ToList();
        var rows = await db.StageMoves.Where(m => ids.Contains(m.StageId)).GroupBy(m => new { m.StageId, m.Hand }).Select(g => new { g.Key.StageId, g.Key.Hand, Count = g.Sum(m => m.Pieces) }).ToListAsync(ct);
        Counts = rows.ToDictionary(r => (r.StageId, r.Hand), r => r.Count);
        return true;
    }
}
