using OilTag.Core;
using OilTag.Core.Survey;
using OilTag.Data.Survey;

namespace OilTag.Web.Shared;

/// <summary>Limits of an upload. The body may be larger than a photo, so that a photo that is too large still gets its sentence.</summary>
public static class PhotoUpload
{
    public const long BodyLimit = 64L * 1024 * 1024;

    /// <summary>Reads and checks a photo that comes with a form, before anything is written.</summary>
    /// <returns>The photo, or null when none was chosen; a problem when it is no photo that can be kept.</returns>
    public static async Task<(NewPhoto? Photo, Problem? Problem)> ReadAsync(IFormFile? photo, string? caption, string? marks, CancellationToken ct)
    {
        if (photo is null)
        {
            return (null, null);
        }

        if (PhotoRule.CheckSize(photo.Length) is { } size)
        {
            return (null, size);
        }

        var (picture, problem) = await PhotoStore.CleanAsync(await FileBytes.ReadAsync(photo, ct), ct);
        return picture is null ? (null, problem) : (new NewPhoto(picture, caption, marks), null);
    }
}
