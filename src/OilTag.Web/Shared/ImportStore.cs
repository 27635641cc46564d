using NodaTime;

namespace OilTag.Web.Shared;

/// <summary>Files that wait between their preview and the word that they are to be taken. A day later they are gone.</summary>
public sealed class ImportStore(string folder, IClock clock)
{
    private readonly string folder = Path.Combine(folder, "imports");

    public Task<Guid> KeepAsync(byte[] file, CancellationToken ct) => KeepAsync(new MemoryStream(file), ct);

    public async Task<Guid> KeepAsync(Stream file, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(file);
        Directory.CreateDirectory(folder);
        var dayAgo = (clock.GetCurrentInstant() - Duration.FromDays(1)).ToDateTimeUtc();
        foreach (var old in Directory.EnumerateFiles(folder).Where(f => File.GetLastWriteTimeUtc(f) < dayAgo))
        {
            File.Delete(old);
        }

        var id = Guid.CreateVersion7();
        await using var to = File.Create(PathOf(id));
        await file.CopyToAsync(to, ct);
        return id;
    }

    /// <summary>The file, or null when it was taken already or is too old.</summary>
    public async Task<byte[]?> ReadAsync(Guid id, CancellationToken ct) => File.Exists(PathOf(id)) ? await File.ReadAllBytesAsync(PathOf(id), ct) : null;

    /// <summary>The file to read from, or null when it was taken already or is too old.</summary>
    public FileStream? Open(Guid id) => File.Exists(PathOf(id)) ? File.OpenRead(PathOf(id)) : null;

    public void Drop(Guid id) => File.Delete(PathOf(id));

    private string PathOf(Guid id) => Path.Combine(folder, id.ToString("N"));
}
