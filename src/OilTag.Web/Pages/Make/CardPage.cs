using Microsoft.EntityFrameworkCore;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>What every page of a route card shows.</summary>
public abstract class CardPage(OilTagDb db) : FormPage
{
    public RouteCard Card { get; private set; } = null!;

    public Machine Machine { get; private set; } = null!;

    public Place Place { get; private set; } = null!;

    public int PackageNumber { get; private set; }

    public bool Closed { get; private set; }

    /// <summary>True when an answer of the bench is kept with it.</summary>
    protected bool HasKept { get; private set; }

    public int? TagNumber { get; private set; }

    public int? SplitFrom { get; private set; }

    public IReadOnlyList<Stage> Stages { get; private set; } = [];

    public IReadOnlyList<StageCount> Counts { get; private set; } = [];

    public IReadOnlyList<FirstOff> Inspections { get; private set; } = [];

    public IReadOnlyList<StageStand> Stand { get; private set; } = [];

    protected OilTagDb Db { get; } = db;

    /// <summary>Pieces of a kind that reached a stage.</summary>
    public int CountOf(Stage s, CardLine l) => Counts.Where(c => c.StageId == s.Id && c.Item == l.Item && c.Hand == l.Hand).Sum(c => c.Pieces);

    /// <summary>Kinds of pieces to choose from, as a form sends them.</summary>
    public IEnumerable<Microsoft.AspNetCore.Mvc.Rendering.SelectListItem> LineChoices => Card.Lines.Select(l => new Microsoft.AspNetCore.Mvc.Rendering.SelectListItem(CardWords.Of(Card, l) is { Length: > 0 } w ? char.ToUpperInvariant(w[0]) + w[1..] : Card.Part, $"{l.Item}-{l.Hand}"));

    /// <summary>A kind of piece as a form sends it; one that is on no card when it cannot be read.</summary>
    protected static (int Item, Hand Hand) LineOf(string? text)
    {
        var parts = (text ?? string.Empty).Split('-');
        return parts.Length == 2 && int.TryParse(parts[0], System.Globalization.NumberStyles.None, System.Globalization.CultureInfo.InvariantCulture, out var item) && Enum.TryParse<Hand>(parts[1], out var hand) ? (item, hand) : (-1, Hand.None);
    }

    /// <summary>Loads the card; false when there is none.</summary>
    protected async Task<bool> LoadCardAsync(int number, CancellationToken ct)
    {
        var found = await (
            from c in Db.RouteCards.AsNoTracking().Include(c => c.Stages)
            join k in Db.Packages on c.PackageId equals k.Id
            join m in Db.Machines on k.MachineId equals m.Id
            join p in Db.Places on k.PlaceId equals p.Id
            where c.Number == number
            select new { c, m, p, k.Number, HasKept = Db.KeptAnswers.Any(a => a.RouteCardId == c.Id), Closed = k.ClosedAt != null, Tag = Db.Tags.Where(t => t.Id == k.TagId).Select(t => (int?)t.Number).FirstOrDefault(), From = Db.RouteCards.Where(x => x.Id == c.SplitFromId).Select(x => (int?)x.Number).FirstOrDefault() }).SingleOrDefaultAsync(ct);
        if (found is null)
        {
            return false;
        }

        (Card, Machine, Place, PackageNumber, Closed, TagNumber, SplitFrom) = (found.c, found.m, found.p, found.Number, found.Closed, found.Tag, found.From);
        HasKept = found.HasKept;
        Stages = [.. Card.Stages.OrderBy(s => s.Order)];
        Counts = await CardWrites.CountsAsync(Db, [Card.Id], ct);
        var ids = Stages.Select(s => s.Id).ToList();
        Inspections = await Db.FirstOffs.AsNoTracking().Where(f => ids.Contains(f.StageId)).OrderBy(f => f.At).ToListAsync(ct);
        Stand = StageCounts.Stand(Card, Counts, Inspections);
        return true;
    }
}
