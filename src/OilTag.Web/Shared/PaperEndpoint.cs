using Microsoft.EntityFrameworkCore;
using OilTag.Core.Strip;
using OilTag.Data;
using OilTag.Data.Survey;

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
}
