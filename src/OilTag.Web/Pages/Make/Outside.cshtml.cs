using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Machines;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Data;
using OilTag.Data.Log;
using OilTag.Data.Make;
using OilTag.Web.Setup;
using OilTag.Web.Shared;

namespace OilTag.Web.Pages.Make;

/// <summary>What an outside shop sees by its private link: one route card, and no other page.</summary>
[AllowAnonymous]
[Limited(LimitedAttribute.Shop)]
public sealed class OutsideModel(OilTagDb db, IClock clock, CardWrites writes) : CardPage(db)
{
    public ShopLink Link { get; private set; } = null!;

    public string Address { get; private set; } = string.Empty;

    public IReadOnlyList<CardFile> Files { get; private set; } = [];

    public IReadOnlyList<ShopNote> Notes { get; private set; } = [];

    [BindProperty]
    public Guid StageId { get; set; }

    [BindProperty]
    public int Item { get; set; }

    [BindProperty]
    public Hand Hand { get; set; }

    [BindProperty]
    public int Pieces { get; set; }

    [BindProperty]
    public int Seen { get; set; }

    [BindProperty]
    public Guid? Answers { get; set; }

    [BindProperty]
    public string? Text { get; set; }

    public async Task<IActionResult> OnGetAsync(string secret, CancellationToken ct)
    {
        NeverKept();
        if (!await LoadAsync(secret, ct))
        {
            return NotFound();
        }

        var now = clock.GetCurrentInstant();
        await Db.ShopLinks.Where(l => l.Id == Link.Id).ExecuteUpdateAsync(u => u.SetProperty(l => l.Opened, l => l.Opened + 1).SetProperty(l => l.OpenedAt, now), ct);
        return Page();
    }

    public Task<IActionResult> OnPostAsync(string secret, CancellationToken ct) => DoAsync(secret, () => writes.ReportAsync(Key, Link, StageId, Item, Hand, Pieces, Seen, ct), ct);

    public Task<IActionResult> OnPostSayAsync(string secret, CancellationToken ct) => DoAsync(secret, () => writes.ShopSaysAsync(Key, Link, Answers, Text, ct), ct);

    private Task<IActionResult> DoAsync(string secret, Func<Task<Recorded>> write, CancellationToken ct)
    {
        NeverKept();
        return WriteAsync(true, () => LoadAsync(secret, ct), async () =>
        {
            var outcome = await write();
            return outcome.Ok ? outcome with { Result = $"/shop/{secret}" } : outcome;
        });
    }

    // A private address goes to nobody: not into a cache, not along to another site.
    private void NeverKept()
    {
        Response.Headers.CacheControl = "no-store";
        Response.Headers["Referrer-Policy"] = "no-referrer";
        Response.Headers["X-Robots-Tag"] = "noindex";
    }

    private async Task<bool> LoadAsync(string secret, CancellationToken ct)
    {
        var hash = LinkSecret.HashOf(secret);
        var found = await (from l in Db.ShopLinks.AsNoTracking() join c in Db.RouteCards on l.RouteCardId equals c.Id where l.Hash == hash select new { l, c.Number }).SingleOrDefaultAsync(ct);
        if (found is null || !ShopLinkRule.Holds(found.l, clock.GetCurrentInstant()) || !await LoadCardAsync(found.Number, ct))
        {
            return false;
        }

        (Link, Address) = (found.l, secret);
        Files = await Db.CardFiles.AsNoTracking().Where(f => f.RouteCardId == Card.Id).ToListAsync(ct);
        Notes = await Db.ShopNotes.AsNoTracking().Where(n => n.RouteCardId == Card.Id && n.Shop == Link.Shop).OrderBy(n => n.At).ToListAsync(ct);
        return true;
    }
}
