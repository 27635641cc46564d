using NodaTime;

namespace OilTag.Data.Setup;

/// <summary>The time zone of the shed, as OilTag__TimeZone names it.</summary>
public static class ShedZone
{
    private const string Usual = "Europe/London";

    /// <summary>The zone of a name, and the sentence when there is none of that name. Without a name it is Europe/London.</summary>
    /// <param name="name">A name of the time zone database.</param>
    public static (DateTimeZone Zone, string? Wrong) Find(string? name)
    {
        var wanted = string.IsNullOrWhiteSpace(name) ? Usual : name.Trim();
        return DateTimeZoneProviders.Tzdb.GetZoneOrNull(wanted) is { } zone
            ? (zone, null)
            : (DateTimeZoneProviders.Tzdb[Usual], $"OilTag__TimeZone names no time zone: {wanted}. Use a name such as Europe/London.");
    }
}
