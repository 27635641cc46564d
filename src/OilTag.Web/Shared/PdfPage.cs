using System.Diagnostics;
using OilTag.Data.Survey;

namespace OilTag.Web.Shared;

/// <summary>
/// The first page of a PDF as a picture. A program of its own draws it, with limits of time, memory and size, so that a hostile file harms nothing
/// but its own preview; the picture is kept beside the file.
/// </summary>
public static class PdfPage
{
    private const int LongestEdge = 1400;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);
    private static readonly SemaphoreSlim OneAtATime = new(1);

    /// <summary>Path of the picture of a kept PDF; null when it cannot be drawn.</summary>
    public static async Task<string?> OfAsync(PhotoStore files, Guid id, CancellationToken ct)
    {
        var picture = files.PreviewPath(id);
        if (File.Exists(picture))
        {
            return Kept(picture);
        }

        await OneAtATime.WaitAsync(ct);
        try
        {
            if (File.Exists(picture))
            {
                return Kept(picture);
            }

            var made = $"{picture}.{Guid.NewGuid():N}";
            try
            {
                if (await DrawAsync(files.PaperPath(id), made, ct) is not { } drawn)
                {
                    return null;
                }

                // What cannot be drawn is not tried again at each look: an empty file stands for it.
                if (!drawn || !File.Exists(made + ".png"))
                {
                    await File.WriteAllBytesAsync(made + ".png", [], ct);
                }

                File.Move(made + ".png", picture, overwrite: true);
                return Kept(picture);
            }
            finally
            {
                File.Delete(made + ".png");
            }
        }
        finally
        {
            OneAtATime.Release();
        }
    }

    private static string? Kept(string picture) => new FileInfo(picture).Length > 0 ? picture : null;

    // Whether it was drawn; null when the program is not on this machine.
    private static async Task<bool?> DrawAsync(string from, string to, CancellationToken ct)
    {
        using var program = new Process
        {
            StartInfo = new ProcessStartInfo("prlimit", ["--cpu=15", "--as=1500000000", "--fsize=30000000", "pdftoppm", "-q", "-png", "-singlefile", "-f", "1", "-l", "1", "-scale-to", $"{LongestEdge}", from, to])
            {
                UseShellExecute = false,
                RedirectStandardError = true,
                RedirectStandardOutput = true,
            },
        };
        using var limit = CancellationTokenSource.CreateLinkedTokenSource(ct);
        limit.CancelAfter(Patience);
        try
        {
            program.Start();
        }
        catch (System.ComponentModel.Win32Exception)
        {
            return null;
        }

        try
        {
            await program.WaitForExitAsync(limit.Token);
            return program.ExitCode switch
            {
                0 => true,
                126 or 127 => null,
                _ => false,
            };
        }
        catch (OperationCanceledException)
        {
            program.Kill(entireProcessTree: true);
            ct.ThrowIfCancellationRequested();
            return false;
        }
    }
}
