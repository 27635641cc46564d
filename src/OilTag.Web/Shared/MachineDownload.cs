using Microsoft.EntityFrameworkCore;
using NodaTime;
using OilTag.Data;
using OilTag.Data.Machines;
using OilTag.Data.Survey;

namespace OilTag.Web.Shared;

/// <summary>A whole machine as one file, for another shed or for the shelf.</summary>
public static class MachineDownload
{
    public static void Map(IEndpointRouteBuilder app)
    {
        app.MapGet("/machines/{letter:alpha:length(1)}/export.zip", async (string letter, OilTagDb db, PhotoStore files, IClock clock, Me me, CancellationToken ct) =>
        {
            if (!me.CanLead)
            {
                return Results.Forbid();
            }

            MachineFile file;
            await using (await db.MomentAsync(ct))
            {
                if (await db.Machines.AsNoTracking().SingleOrDefaultAsync(m => m.Letter == letter.ToUpper(), ct) is not { } machine)
                {
                    return Results.NotFound();
                }

                file = await MachineExport.LoadAsync(db, machine, clock.GetCurrentInstant(), ct);
            }

            // Written to disk first, so that a machine with ten years of photos takes no memory; the file goes when it is sent.
            var path = Path.Combine(Path.GetTempPath(), "oiltag-" + Guid.NewGuid().ToString("N") + ".zip");
            var stream = new FileStream(path, FileMode.CreateNew, FileAccess.ReadWrite, FileShare.None, 81920, FileOptions.DeleteOnClose | FileOptions.Asynchronous);
            await MachineExport.WriteAsync(file, files, stream, ct);
            stream.Position = 0;
            return Results.File(stream, "application/zip", $"{file.Machine.Letter}-{string.Concat(file.Machine.Name.ToLowerInvariant().Where(char.IsAsciiLetterOrDigit))}.zip");
        });
    }
}
