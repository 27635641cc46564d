using System.Globalization;
using System.IO.Compression;
using System.Text.RegularExpressions;

namespace OilTag.Data.Machines;

/// <summary>
/// Opens a zip that came from outside: only the names that an export has, only as much as is expected of them, counted while it is unpacked and not as the zip
/// says. Nothing is unpacked to a path that the zip names.
/// </summary>
public sealed partial class MachineZip : IDisposable
{
    /// <summary>Most bytes of <c>machine.json</c>.</summary>
    public const long LargestJson = 200L * 1024 * 1024;

    /// <summary>Bytes of <c>machine.json</c> that are taken whatever they were packed into.</summary>
    private const long SmallJson = 4L * 1024 * 1024;

    /// <summary>How many times larger than packed a larger one may be. A record packs to a tenth or a twentieth.</summary>
    private const int LargestRatio = 60;

    /// <summary>Most bytes of one photo or paper.</summary>
    public const long LargestFile = 26L * 1024 * 1024;

    /// <summary>Most files in one zip.</summary>
    public const int MostFiles = 100_000;

    private readonly ZipArchive zip;
    private readonly Dictionary<string, ZipArchiveEntry> entries;

    private MachineZip(ZipArchive zip, Dictionary<string, ZipArchiveEntry> entries)
    {
        this.zip = zip;
        this.entries = entries;
    }

    /// <summary>Names of the photos and papers in it.</summary>
    public IReadOnlyCollection<string> Names => entries.Keys;

    /// <summary>Opens it, or says in a sentence why it is refused.</summary>
    /// <param name="file">The file; it belongs to the zip from here on.</param>
    public static (MachineZip? Zip, string? Why) Open(Stream file)
    {
        ArgumentNullException.ThrowIfNull(file);
        ZipArchive? opened = null;
        try
        {
            opened = new ZipArchive(file, ZipArchiveMode.Read);
            if (opened.Entries.Count > MostFiles)
            {
                opened.Dispose();
                return (null, $"The zip holds more than {MostFiles.ToString("N0", CultureInfo.GetCultureInfo("en-GB"))} files.");
            }

            var found = new Dictionary<string, ZipArchiveEntry>(StringComparer.Ordinal);
            foreach (var e in opened.Entries)
            {
                if (!Allowed().IsMatch(e.FullName) || !found.TryAdd(e.FullName, e))
                {
                    opened.Dispose();
                    return (null, $"The zip holds “{Short(e.FullName)}”, which no export of a machine has, or has it twice. Nothing was taken from it.");
                }
            }

            if (!found.ContainsKey(MachineFile.Entry))
            {
                opened.Dispose();
                return (null, $"There is no {MachineFile.Entry} in the zip, so it is no export of a machine.");
            }

            return (new MachineZip(opened, found), null);
        }
        catch (InvalidDataException)
        {
            opened?.Dispose();
            file.Dispose();
            return (null, "That is no whole zip file. It may have been cut short on its way; send it again.");
        }
    }

    /// <summary>Opens <c>machine.json</c>; what comes out is counted.</summary>
    public Stream OpenJson()
    {
        var entry = entries[MachineFile.Entry];
        return new LimitedStream(entry.Open(), Math.Min(LargestJson, Math.Max(SmallJson, entry.CompressedLength * LargestRatio)));
    }

    /// <summary>Reads a photo or paper; null when it is not there.</summary>
    /// <exception cref="InvalidDataException">It is damaged, or larger than any that is kept.</exception>
    public byte[]? Read(string name)
    {
        if (!entries.TryGetValue(name, out var entry))
        {
            return null;
        }

        using var limited = new LimitedStream(entry.Open(), LargestFile);
        using var to = new MemoryStream();
        limited.CopyTo(to);
        return to.ToArray();
    }

    public void Dispose() => zip.Dispose();

    private static string Short(string name) => new([.. (name.Length > 60 ? name[..60] : name).Select(c => char.IsControl(c) ? '?' : c)]);

    [GeneratedRegex(@"^(machine\.json|photos/[0-9a-f]{32}\.(jpg|png)|papers/[0-9a-f]{32}\.(pdf|jpg|png)|drawings/[0-9a-f]{32}\.(pdf|jpg|png|stl|dxf)|outlines/[0-9a-f]{32}\.(svg|jpg|png))\z", RegexOptions.CultureInvariant | RegexOptions.ExplicitCapture, matchTimeoutMilliseconds: 1000)]
    private static partial Regex Allowed();

    // What comes out is counted here, whatever the zip says of itself.
    private sealed class LimitedStream(Stream from, long most) : Stream
    {
        private long left = most;

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position
        {
            get => throw new NotSupportedException();
            set => throw new NotSupportedException();
        }

        public override int Read(byte[] buffer, int offset, int count)
        {
            var n = from.Read(buffer, offset, count);
            left -= n;
            return left < 0 ? throw new InvalidDataException("It is larger than it may be.") : n;
        }

        protected override void Dispose(bool disposing)
        {
            if (disposing)
            {
                from.Dispose();
            }

            base.Dispose(disposing);
        }

        public override void Flush() => throw new NotSupportedException();

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();
    }
}
