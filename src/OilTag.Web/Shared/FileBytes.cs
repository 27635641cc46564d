namespace OilTag.Web.Shared;

/// <summary>Reads an uploaded file whole; its size is checked before.</summary>
public static class FileBytes
{
    public static async Task<byte[]> ReadAsync(IFormFile file, CancellationToken ct)
    {
        ArgumentNullException.ThrowIfNull(file);
        using var buffer = new MemoryStream((int)file.Length);
        await file.CopyToAsync(buffer, ct);
        return buffer.ToArray();
    }
}
