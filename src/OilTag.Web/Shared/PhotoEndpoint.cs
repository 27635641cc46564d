using System.Text;
using Microsoft.EntityFrameworkCore;
using OilTag.Data;
using OilTag.Data.Survey;
using OilTag.Web.Drawings;

namespace OilTag.Web.Shared;

/// <summary>Serves photos to people who are signed in.</summary>
public static class PhotoEndpoint
{
    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/photos/{id:guid}", async (Guid id, bool? small, OilTagDb db, PhotoStore photos, HttpContext http, CancellationToken ct) =>
    {
        var type = await db.Photos.Where(p => p.Id == id).Select(p => p.ContentType).SingleOrDefaultAsync(ct);
        var path = photos.PathOf(id, small == true);
        if (type is null || !File.Exists(path))
        {
            return Results.NotFound();
        }

        // A photo never changes; another photo has another id.
        http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return Results.File(path, small == true ? "image/jpeg" : type);
    });
        app.MapGet("/photos/{id:guid}.svg", async (Guid id, OilTagDb db, PhotoStore photos, CancellationToken ct) =>
            await db.Photos.AsNoTracking().SingleOrDefaultAsync(p => p.Id == id, ct) is { } photo && File.Exists(photos.PathOf(id, false))
                ? Results.File(Encoding.UTF8.GetBytes(PhotoDrawing.File(photo, await File.ReadAllBytesAsync(photos.PathOf(id, false), ct))), "image/svg+xml", "photo.svg")
                : Results.NotFound());
    }
}
