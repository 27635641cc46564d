using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Make;
using OilTag.Data;
using OilTag.Data.Make;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>Links that were given to outside shops, and what they say.</summary>
public sealed class ShopModel(OilTagDb db, Me me, IClock clock, CardWrites writes) : CardPage(db)
{
    public IReadOnlyList<ShopLink> Links { get; private set; } = [];

    public IReadOnlyList<ShopNote> Notes { get; private set; } = [];

    public Instant Now { get; } = clock.GetCurrentInstant();

    /// <summary>The secret of a link that was made just now; it is shown this once.</summary>
    public string? Secret { get; private set; }

    [BindProperty]
    public string? LinkShop { get; set; }

    [BindProperty]
    public string? LinkDays { get; set; }

    [BindProperty]
    public Guid? Link { get; set; }

    [BindProperty]
    public string? AskShop { get; set; }

    [BindProperty]
    public string? Ask { get; set; }

    public async Task<IActionResult> OnGetAsync(int number, CancellationToken ct) => await LoadAsync(number, ct) ? Page() : NotFound();

    public Task<IActionResult> OnPostAsync(int number, CancellationToken ct) => ShowOnceAsync(
        me.CanLead,
        () => LoadAsync(number, ct),
        async () =>
        {
            (var outcome, Secret) = await writes.GiveLinkAsync(Key, me.Id, number, LinkShop, LinkDays, ct);
            return outcome;
        },
        () => Secret is not null);

    public Task<IActionResult> OnPostRevokeAsync(int number, CancellationToken ct) => WriteAsync(me.CanLead, () => LoadAsync(number, ct), () => writes.RevokeAsync(Key, me.Id, number, Link, ct));

    public Task<IActionResult> OnPostAskAsync(int number, CancellationToken ct) => WriteAsync(me.CanRecord, () => LoadAsync(number, ct), () => writes.AskShopAsync(Key, me.Id, number, AskShop, Ask, ct));

    private async Task<bool> LoadAsync(int number, CancellationToken ct)
    {
        if (!await LoadCardAsync(number, ct))
        {
            return false;
        }

        Links = await Db.ShopLinks.AsNoTracking().Where(l => l.RouteCardId == Card.Id).OrderByDescending(l => l.At).ToListAsync(ct);
        Notes = await Db.ShopNotes.AsNoTracking().Where(n => n.RouteCardId == Card.Id).OrderBy(n => n.At).ToListAsync(ct);
        return true;
    }
}
