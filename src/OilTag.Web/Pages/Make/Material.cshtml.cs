using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>What came in, what was cut from it, and who agreed to another material.</summary>
public sealed class MaterialModel(OilTagDb db, Me me, CardWrites writes) : CardPage(db)
{
    private IReadOnlyDictionary<Guid, string> names = new Dictionary<Guid, string>();

    public IReadOnlyList<MaterialLot> Lots { get; private set; } = [];

    public IReadOnlyList<MaterialCut> Cuts { get; private set; } = [];

    public int Scrapped { get; private set; }

    [BindProperty]
    public Guid? LotId { get; set; }

    [BindProperty]
    public string? CutPieces { get; set; }

    [BindProperty]
    public string? Substitution { get; set; }

    [BindProperty]
    public Guid? Cut { get; set; }

    [BindProperty]
    public string? Specification { get; set; }

    [BindProperty]
    public string? Form { get; set; }

    [BindProperty]
    public string? Heat { get; set; }

    [BindProperty]
    public string? Certificate { get; set; }

    [BindProperty]
    public string? Supplier { get; set; }

    /// <summary>Pieces that are cut.</summary>
    public int Done => Cuts.Sum(x => x.Pieces);

    /// <summary>Pieces that have to be cut in all, with those for scrapped ones.</summary>
    public int Wanted => Card.Left + Card.Right + Scrapped;

    /// <summary>What the bench is asked: pieces that are not cut yet, and their size by the card for the fields that take it, where it is known.</summary>
    public string Asked(params string[] sizes)
    {
        var left = Math.Max(1, Wanted - Done);
        var known = sizes.Zip(new[] { Card.Size.Length, Card.Size.Width }).Where(s => s.Second > 0).Select(s => FormattableString.Invariant($"&{s.First}={s.Second * 1000:0.###}+mm"));
        return FormattableString.Invariant($"?for=R{Card.Number}&pieces={left}{string.Concat(known)}");
    }

    public string NameOf(Guid person) => names.GetValueOrDefault(person, "somebody");

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.TakeInAsync(Key, me.Id, number, Specification, Form, Heat, Certificate, Supplier, ct));

    public Task<IActionResult> OnPostCutAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.CutAsync(Key, me.Id, number, LotId, CutPieces, Substitution, ct));

    public Task<IActionResult> OnPostAgreeAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), async () => await writes.AgreeAsync(Key, me.Id, await me.IsInspectorNowAsync(ct), number, Cut, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Lots = await Db.MaterialLots.AsNoTracking().Where(l => l.MachineId == Machine.Id).OrderByDescending(l => l.At).ToListAsync(ct);
        Cuts = await Db.MaterialCuts.AsNoTracking().Where(x => x.RouteCardId == Card.Id).OrderBy(x => x.At).ToListAsync(ct);
        Scrapped = await CardWrites.ScrappedAsync(Db, Stages[0].Id, ct);
        var people = Cuts.SelectMany(x => new[] { x.ById, x.AgreedById ?? x.ById }).Distinct().ToList();
        names = await Db.People.Where(p => people.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Name, ct);
        return true;
    }
}
