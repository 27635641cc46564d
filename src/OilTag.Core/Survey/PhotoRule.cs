namespace OilTag.Core.Survey;

/// <summary>The kinds of picture that are kept.</summary>
public enum PictureKind
{
    /// <summary>Not a picture that is kept.</summary>
    Unknown,

    /// <summary>JPEG.</summary>
    Jpeg,

    /// <summary>PNG.</summary>
    Png,
}

/// <summary>Checks a picture file and takes out what it says about where and by whom it was taken. The pixels are not touched.</summary>
public static class PhotoRule
{
    /// <summary>The largest file that is taken, in bytes: 25 MB.</summary>
    public const long LargestFile = 25L * 1024 * 1024;

    /// <summary>The largest picture that is decoded, in pixels: 100 million.</summary>
    public const long LargestPicture = 100_000_000;

    /// <summary>The sentence for a file that is too large.</summary>
    public static Problem? CheckSize(long bytes) => bytes switch
    {
        <= 0 => new Problem("Photo", "The file is empty. Take the photo again."),
        > LargestFile => new Problem("Photo", $"The photo is {bytes / 1024.0 / 1024:0} MB; {LargestFile / 1024 / 1024} MB fit. Send a smaller one."),
        _ => null,
    };

    /// <summary>The sentence for a file that is not a picture that can be shown.</summary>
    public static Problem NotAPicture { get; } = new("Photo", "That file is not a photo that can be opened. Use a JPEG or PNG picture.");

    /// <summary>What the first bytes say the file is.</summary>
    public static PictureKind Kind(ReadOnlySpan<byte> file) =>
        file.Length > 4 && file[0] == 0xFF && file[1] == 0xD8 && file[2] == 0xFF ? PictureKind.Jpeg
        : file.Length > 8 && file[..8].SequenceEqual<byte>([0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]) ? PictureKind.Png
        : PictureKind.Unknown;

    /// <summary>
    /// The same picture without its metadata: place, time, camera and comments go; colour information stays. Returns null when the file is cut short.
    /// </summary>
    public static byte[]? WithoutMetadata(ReadOnlySpan<byte> file) => Kind(file) switch
    {
        PictureKind.Jpeg => StripJpeg(file),
        PictureKind.Png => StripPng(file),
        _ => null,
    };

    private static byte[]? StripJpeg(ReadOnlySpan<byte> f)
    {
        using var result = new MemoryStream(f.Length);
        result.Write(f[..2]);
        var i = 2;
        while (i + 4 <= f.Length)
        {
            if (f[i] != 0xFF)
            {
                return null;
            }

            var marker = f[i + 1];
            if (marker == 0xFF)
            {
                i++;
                continue;
            }

            // From the first scan on there is no metadata segment that readers look at; the rest is picture up to the end marker.
            if (marker == 0xDA)
            {
                var end = f[i..].LastIndexOf<byte>([0xFF, 0xD9]);
                if (end < 0)
                {
                    return null;
                }

                result.Write(f.Slice(i, end + 2));
                return result.ToArray();
            }

            var length = (f[i + 2] << 8) + f[i + 3];
            if (length < 2 || i + 2 + length > f.Length)
            {
                return null;
            }

            // Kept: JFIF (APP0), colour profile (APP2 with its name), Adobe colour transform (APP14) and everything that is not APPn or a comment.
            var segment = f.Slice(i, 2 + length);
            var isProfile = marker == 0xE2 && segment.Length > 15 && segment.Slice(4, 11).SequenceEqual("ICC_PROFILE"u8);
            if (marker is not (>= 0xE0 and <= 0xEF or 0xFE) || marker is 0xE0 or 0xEE || isProfile)
            {
                result.Write(segment);
            }

            i += 2 + length;
        }

        return null;
    }

    private static byte[]? StripPng(ReadOnlySpan<byte> f)
    {
        using var result = new MemoryStream(f.Length);
        result.Write(f[..8]);
        var i = 8;
        while (i + 12 <= f.Length)
        {
            var length = (uint)((f[i] << 24) | (f[i + 1] << 16) | (f[i + 2] << 8) | f[i + 3]);
            if (length > f.Length - i - 12)
            {
                return null;
            }

            var chunk = f.Slice(i, 12 + (int)length);
            var type = chunk.Slice(4, 4);

            // Upper-case first letter: needed to show the picture. Of the others only those about colour stay.
            if (type[0] is >= (byte)'A' and <= (byte)'Z' || type.SequenceEqual("tRNS"u8) || type.SequenceEqual("gAMA"u8) || type.SequenceEqual("sRGB"u8) || type.SequenceEqual("cHRM"u8) || type.SequenceEqual("iCCP"u8))
            {
                result.Write(chunk);
            }

            if (type.SequenceEqual("IEND"u8))
            {
                return result.ToArray();
            }

            i += chunk.Length;
        }

        return null;
    }
}
