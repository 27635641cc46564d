using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Core.Make;
using OilTag.Core.People;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Setup;

namespace OilTag.Web.Shared;

/// <summary>Serves papers of parts, and pictures of machines, to people who are signed in.</summary>
public static class PaperEndpoint
{
    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/papers/{id:guid}", async (Guid id, OilTagDb db, PhotoStore files, HttpContext http, CancellationToken ct) =>
        {
            var paper = await db.Papers.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, ct);
            if (paper is null || !File.Exists(files.PaperPath(id)))
            {
                return Results.NotFound();
            }

            // A paper comes from outside: it is saved, never run beside the pages.
            http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'";
            return Results.File(files.PaperPath(id), paper.ContentType, $"paper-{id.ToString("N")[..8]}.{PaperRule.Extension(paper.ContentType)}");
        });
        app.MapGet("/drawings/{id:guid}", async (Guid id, OilTagDb db, PhotoStore files, HttpContext http, CancellationToken ct) =>
            Drawing(await db.CardFiles.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id, ct), files, http));
        app.MapGet("/drawings/{id:guid}/page.png", async (Guid id, OilTagDb db, PhotoStore files, HttpContext http, CancellationToken ct) =>
            await FirstPageAsync(await db.CardFiles.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id, ct), files, http, ct));
        app.MapGet("/shop/{secret:length(40)}/{id:guid}", async (string secret, Guid id, OilTagDb db, PhotoStore files, IClock clock, HttpContext http, CancellationToken ct) =>
            Drawing(await OfShopAsync(secret, id, db, clock, ct), files, http)).AllowAnonymous().WithMetadata(new LimitedAttribute(LimitedAttribute.Shop));
        app.MapGet("/shop/{secret:length(40)}/{id:guid}/page.png", async (string secret, Guid id, OilTagDb db, PhotoStore files, IClock clock, HttpContext http, CancellationToken ct) =>
            await FirstPageAsync(await OfShopAsync(secret, id, db, clock, ct), files, http, ct)).AllowAnonymous().WithMetadata(new LimitedAttribute(LimitedAttribute.Shop));
        app.MapGet("/outlines/{id:guid}", async (Guid id, OilTagDb db, PhotoStore files, HttpContext http, CancellationToken ct) =>
        {
            var type = await db.Outlines.Where(o => o.Id == id).Select(o => o.ContentType).SingleOrDefaultAsync(ct);
            if (type is null || !File.Exists(files.PaperPath(id)))
            {
                return Results.NotFound();
            }

            http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'; style-src 'unsafe-inline'";
            http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
            return Results.File(files.PaperPath(id), type);
        });
    }

    // A shop opens the files of its own card, while its link holds.
    private static async Task<CardFile?> OfShopAsync(string secret, Guid id, OilTagDb db, IClock clock, CancellationToken ct)
    {
        var hash = LinkSecret.HashOf(secret);
        var link = await db.ShopLinks.AsNoTracking().SingleOrDefaultAsync(l => l.Hash == hash, ct);
        return link is null || !ShopLinkRule.Holds(link, clock.GetCurrentInstant()) ? null : await db.CardFiles.AsNoTracking().SingleOrDefaultAsync(f => f.Id == id && f.RouteCardId == link.RouteCardId, ct);
    }

    private static async Task<IResult> FirstPageAsync(CardFile? file, PhotoStore files, HttpContext http, CancellationToken ct)
    {
        if (file is not { ContentType: "application/pdf" } || !File.Exists(files.PaperPath(file.Id)) || await PdfPage.OfAsync(files, file.Id, ct) is not { } page)
        {
            return Results.NotFound();
        }

        http.Response.Headers.CacheControl = "private, no-store";
        return Results.File(page, "image/png");
    }

    // It comes from outside: a picture is shown, everything else is saved, nothing is run beside the pages.
    private static IResult Drawing(CardFile? file, PhotoStore files, HttpContext http)
    {
        if (file is null || !File.Exists(files.PaperPath(file.Id)))
        {
            return Results.NotFound();
        }

        http.Response.Headers.ContentSecurityPolicy = "sandbox; default-src 'none'";
        http.Response.Headers.CacheControl = "private, no-store";
        return Results.File(files.PaperPath(file.Id), file.ContentType, file.ContentType is "image/jpeg" or "image/png" ? null : $"drawing-{file.Id.ToString("N")[..8]}.{PaperRule.Extension(file.ContentType)}");
    }
}
