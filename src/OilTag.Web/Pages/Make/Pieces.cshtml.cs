using Microsoft.AspNetCore.Mvc;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>Pieces that are followed singly: where each is, moved by one tap.</summary>
public sealed class PiecesModel(OilTagDb db, Me me, CardWrites writes) : CardPage(db)
{
    public IReadOnlyList<Piece> Pieces { get; private set; } = [];

    [BindProperty]
    public int Piece { get; set; }

    [BindProperty]
    public int Item { get; set; }

    [BindProperty]
    public Hand Hand { get; set; }

    [BindProperty]
    public int Reached { get; set; }

    [BindProperty]
    public bool Forward { get; set; }

    [BindProperty]
    public string? Why { get; set; }

    /// <summary>Pieces of a kind that still may be started.</summary>
    public int ToStart(CardLine l) => Math.Max(0, l.Wanted - CountOf(Stages[0], l));

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.PieceAsync(Key, me.Id, number, Piece, Item, Hand, Reached, Forward, ct));

    public Task<IActionResult> OnPostScrapAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.ScrapPieceAsync(Key, me.Id, number, Piece, Why, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Pieces = await CardWrites.PiecesAsync(Db, Card.Id, Stages, ct);
        return true;
    }
}
