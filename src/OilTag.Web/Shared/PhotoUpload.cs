namespace OilTag.Web.Shared;

/// <summary>Limits of an upload. The body may be larger than a photo, so that a photo that is too large still gets its sentence.</summary>
public static class PhotoUpload
{
    public const long BodyLimit = 64L * 1024 * 1024;
}
