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
            return picture;
        }

        await OneAtATime.WaitAsync(ct);
        try
        {
            if (File.Exists(picture))
            {
                return picture;
            }

            var made = $"{picture}.{Guid.NewGuid():N}";
            try
            {
                if (await DrawAsync(files.PaperPath(id), made, ct) && File.Exists(made + ".png"))
                {
                    File.Move(made + ".png", picture, overwrite: true);
                    return picture;
                }

                return null;
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

    private static async Task<bool> DrawAsync(string from, string to, CancellationToken ct)
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
            // The program is not on this machine: the file is there, its preview is not.
            return false;
        }

        try
        {
            await program.WaitForExitAsync(limit.Token);
            return program.ExitCode == 0;
        }
        catch (OperationCanceledException)
        {
            program.Kill(entireProcessTree: true);
            ct.ThrowIfCancellationRequested();
            return false;
        }
    }
}
