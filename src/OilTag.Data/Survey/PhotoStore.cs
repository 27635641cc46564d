using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Data.Setup;
using SkiaSharp;

namespace OilTag.Data.Survey;

/// <summary>A picture that has been checked and cleaned.</summary>
/// <param name="Bytes">The file without metadata, turned upright.</param>
/// <param name="Small">A small JPEG for lists.</param>
/// <param name="ContentType">image/jpeg or image/png.</param>
/// <param name="Width">Width as shown.</param>
/// <param name="Height">Height as shown.</param>
public sealed record CleanPicture(byte[] Bytes, byte[] Small, string ContentType, int Width, int Height);

/// <summary>Checks pictures by decoding them and keeps them in the photo folder.</summary>
public class PhotoStore(string folder)
{
    private const int SmallEdge = 640;

    private const int ProbeBytes = 64 * 1024;

    // One picture is decoded at a time: a large one takes a few hundred megabytes for a moment.
    private static readonly SemaphoreSlim OneAtATime = new(1);

    public string Folder { get; } = folder;

    /// <summary>Writes a file as large as a small photo, and says in a sentence what is wrong when that does not work.</summary>
    public string? WhyNotWritable()
    {
        try
        {
            var probe = Path.Combine(Folder, ".write-check-" + Guid.NewGuid().ToString("N"));
            WriteAsync(probe, new byte[ProbeBytes], CancellationToken.None).GetAwaiter().GetResult();
            File.Delete(probe);
            return null;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return FullDisk.Is(e)
                ? $"The disk with the photo folder {Folder} is full. Make room on it, or set Photos__Folder to a folder on another disk."
                : $"The photo folder {Folder} cannot be written: {e.Message} Make it writable for the user that runs Oil Tag, or set Photos__Folder to another folder.";
        }
    }

    /// <summary>Bytes that are free on the disk of the folder.</summary>
    public long BytesFree() => new DriveInfo(Path.GetFullPath(Folder)).AvailableFreeSpace;

    /// <summary>Decodes, turns upright and cleans a picture, or says what is wrong with the file.</summary>
    public static async Task<(CleanPicture? Picture, Problem? Problem)> CleanAsync(byte[] file, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(file);
        if (PhotoRule.CheckSize(file.Length) is { } size)
        {
            return (null, size);
        }

        if (PhotoRule.WithoutMetadata(file) is not { } stripped)
        {
            return (null, PhotoRule.NotAPicture);
        }

        await OneAtATime.WaitAsync(ct);
        try
        {
            return Decode(file, stripped);
        }
        finally
        {
            OneAtATime.Release();
        }
    }

    public async Task SaveAsync(Guid id, CleanPicture picture, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(picture);
        await WriteAsync(PathOf(id, small: true), picture.Small, ct);
        await WriteAsync(PathOf(id, small: false), picture.Bytes, ct);
    }

    public void Remove(Guid id)
    {
        Drop(PathOf(id, small: true));
        Drop(PathOf(id, small: false));
    }

    /// <summary>Keeps a file that is shown as it is: a paper, or the picture of a machine.</summary>
    public Task SavePaperAsync(Guid id, byte[] file, CancellationToken ct) => WriteAsync(PaperPath(id), file, ct);

    public void RemovePaper(Guid id)
    {
        Drop(PreviewPath(id));
        Drop(PaperPath(id));
    }

    public string PaperPath(Guid id) => Path.Combine(Folder, id.ToString("N") + ".paper");

    /// <summary>Where the picture of a paper's first page is kept once somebody has looked at it.</summary>
    public string PreviewPath(Guid id) => Path.Combine(Folder, id.ToString("N") + ".page");

    public string PathOf(Guid id, bool small) => Path.Combine(Folder, id.ToString("N") + (small ? ".small" : ".full"));

    /// <summary>Opens a file for writing.</summary>
    protected virtual FileStream Create(string path) => new(path, FileMode.Create, FileAccess.Write, FileShare.None);

    // The folder itself may be what is missing.
    private static void Drop(string path)
    {
        if (File.Exists(path))
        {
            File.Delete(path);
        }
    }

    // Whole or not at all, and on the disk before the record says that it is there.
    private async Task WriteAsync(string path, byte[] bytes, CancellationToken ct)
    {
        Directory.CreateDirectory(Folder);
        var part = path + ".part";
        try
        {
            await using (var to = Create(part))
            {
                await to.WriteAsync(bytes, ct);
                to.Flush(flushToDisk: true);
            }

            File.Move(part, path, overwrite: true);
        }
        catch
        {
            Drop(part);
            throw;
        }
    }

    private static (CleanPicture? Picture, Problem? Problem) Decode(byte[] file, byte[] stripped)
    {
        using var data = SKData.CreateCopy(file);
        using var codec = SKCodec.Create(data);
        if (codec is null)
        {
            return (null, PhotoRule.NotAPicture);
        }

        var info = codec.Info;
        if (info.Width < 1 || info.Height < 1 || (long)info.Width * info.Height > PhotoRule.LargestPicture)
        {
            return (null, new Problem("Photo", $"The photo has {info.Width} × {info.Height} points; that is more than can be shown. Send a smaller one."));
        }

        var jpeg = PhotoRule.Kind(file) == PictureKind.Jpeg;
        var upright = codec.EncodedOrigin == SKEncodedOrigin.TopLeft;

        // An upright picture only has to be read for the small one, and can be read at a fraction of its size.
        var scale = Math.Min(1f, (float)SmallEdge * 2 / Math.Max(info.Width, info.Height));
        var size = upright ? codec.GetScaledDimensions(scale) : new SKSizeI(info.Width, info.Height);
        using var bitmap = new SKBitmap(new SKImageInfo(size.Width, size.Height, SKColorType.Rgba8888, SKAlphaType.Premul));
        if (codec.GetPixels(bitmap.Info, bitmap.GetPixels()) != SKCodecResult.Success)
        {
            return (null, new Problem("Photo", "The photo is cut short or damaged. Take it again or send it once more."));
        }

        using var turned = upright ? null : Turn(bitmap, codec.EncodedOrigin);
        var shown = turned ?? bitmap;
        var smallScale = Math.Min(1f, (float)SmallEdge / Math.Max(shown.Width, shown.Height));
        using var small = shown.Resize(new SKImageInfo(Math.Max(1, (int)(shown.Width * smallScale)), Math.Max(1, (int)(shown.Height * smallScale))), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using var smallData = small.Encode(SKEncodedImageFormat.Jpeg, 82);
        using var fullData = turned?.Encode(jpeg ? SKEncodedImageFormat.Jpeg : SKEncodedImageFormat.Png, 95);
        return (
            new CleanPicture(
                fullData?.ToArray() ?? stripped,
                smallData.ToArray(),
                jpeg ? "image/jpeg" : "image/png",
                turned?.Width ?? info.Width,
                turned?.Height ?? info.Height),
            null);
    }

    private static SKBitmap Turn(SKBitmap b, SKEncodedOrigin origin)
    {
        var swapped = origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var result = new SKBitmap(swapped ? b.Height : b.Width, swapped ? b.Width : b.Height);
        using var canvas = new SKCanvas(result);
        float w = b.Width, h = b.Height;
        canvas.SetMatrix(origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
            _ => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
        });
        using var image = SKImage.FromBitmap(b);
        canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKFilterMode.Nearest));
        return result;
    }
}
