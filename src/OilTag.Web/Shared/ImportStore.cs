using NodaTime;
using OilTag.Data.Log;
using OilTag.Data.Setup;

namespace OilTag.Web.Shared;

/// <summary>Files that wait between their preview and the word that they are to be taken. A day later they are gone.</summary>
public sealed class ImportStore(string folder, IClock clock)
{
    /// <summary>Most bytes that wait at once.</summary>
    public const long MostBytes = 8L * 1024 * 1024 * 1024;

    private readonly string folder = Path.Combine(folder, "imports");

    /// <summary>Keeps a file, or says why there is no room for it.</summary>
    /// <param name="page">The page that previews what waits under an id.</param>
    public Task<Recorded> KeepAsync(byte[] file, Func<Guid, string> page, CancellationToken ct) => KeepAsync(new MemoryStream(file), page, ct);

    /// <summary>Keeps a file, or says why there is no room for it.</summary>
    /// <param name="page">The page that previews what waits under an id.</param>
    public async Task<Recorded> KeepAsync(Stream file, Func<Guid, string> page, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(file);
        ArgumentNullException.ThrowIfNull(page);
        Directory.CreateDirectory(folder);
        var dayAgo = (clock.GetCurrentInstant() - Duration.FromDays(1)).ToDateTimeUtc();
        var waiting = new DirectoryInfo(folder).GetFiles();
        foreach (var old in waiting.Where(f => f.LastWriteTimeUtc < dayAgo))
        {
            old.Delete();
        }

        if (waiting.Where(f => f.LastWriteTimeUtc >= dayAgo).Sum(f => f.Length) + file.Length > MostBytes)
        {
            return Recorded.Refused("Too many files wait already to be taken. Take one of them, or wait a day.", "File");
        }

        var id = Guid.CreateVersion7();
        try
        {
            await using var to = File.Create(PathOf(id));
            await file.CopyToAsync(to, ct);
            return Recorded.To(page(id));
        }
        catch (IOException e) when (FullDisk.Is(e))
        {
            Drop(id);
            return Recorded.Refused(FullDisk.Sentence, "File");
        }
    }

    /// <summary>The file, or null when it was taken already or is too old.</summary>
    public async Task<byte[]?> ReadAsync(Guid id, CancellationToken ct) => File.Exists(PathOf(id)) ? await File.ReadAllBytesAsync(PathOf(id), ct) : null;

    /// <summary>The file to read from, or null when it was taken already or is too old.</summary>
    public FileStream? Open(Guid id) => File.Exists(PathOf(id)) ? File.OpenRead(PathOf(id)) : null;

    public void Drop(Guid id) => File.Delete(PathOf(id));

    private string PathOf(Guid id) => Path.Combine(folder, id.ToString("N"));
}
