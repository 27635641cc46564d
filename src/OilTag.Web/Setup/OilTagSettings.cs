using NodaTime;
using Npgsql;
using OilTag.Data.Setup;

namespace OilTag.Web.Setup;

/// <summary>What an installation sets, by environment variable or appsettings.</summary>
public sealed record OilTagSettings
{
    /// <summary>Connection of the role that owns the tables and migrates them.</summary>
    public required string OwnerConnection { get; init; }

    /// <summary>Connection of the role that serves pages; owns nothing.</summary>
    public required string AppConnection { get; init; }

    public required string PhotoFolder { get; init; }

    /// <summary>True when the demo people are offered on the sign-in page.</summary>
    public bool Demo { get; init; }

    /// <summary>True when it is served without TLS, as on one's own machine.</summary>
    public bool PlainHttp { get; init; }

    public int SignInsAMinute { get; init; } = 20;

    /// <summary>How often a minute one address may ask by a private link of an outside shop.</summary>
    public int ShopRequestsAMinute { get; init; } = 60;

    /// <summary>Addresses and networks of proxies whose word is taken for where a request comes from and whether it came by https; empty for none.</summary>
    public IReadOnlyList<string> Proxies { get; init; } = [];

    public required DateTimeZone Zone { get; init; }

    /// <summary>Why the time zone that is set cannot be used; null when it can.</summary>
    public string? WrongZone { get; init; }

    /// <summary>Host and port of the thickness gauge; empty when there is none.</summary>
    public string Gauge { get; init; } = string.Empty;

    /// <summary>Host and port of the box of the load cells; empty for none.</summary>
    public string Cells { get; init; } = string.Empty;

    /// <summary>Host and port of the digital level; empty for none.</summary>
    public string Level { get; init; } = string.Empty;

    /// <summary>Host and port of the torque wrench; empty for none.</summary>
    public string Wrench { get; init; } = string.Empty;

    public string Museum { get; init; } = string.Empty;

    /// <summary>
    /// Statements that come again and again are planned once a connection; no session state is ever set, so none is reset. A wait for somebody else's lock ends after
    /// three seconds and a statement after a minute, so that what is locked does not take the connections of everything else.
    /// </summary>
    private static string Prepared(string connection) => connection.Length == 0
        ? connection
        : new NpgsqlConnectionStringBuilder(connection) { MaxAutoPrepare = 120, AutoPrepareMinUsages = 2, NoResetOnClose = true, Timeout = 10, Options = "-c lock_timeout=3s -c statement_timeout=60s" }.ConnectionString;

    public static OilTagSettings From(IConfiguration c)
    {
        var (zone, wrong) = ShedZone.Find(c["OilTag:TimeZone"]);
        return new OilTagSettings
        {
            OwnerConnection = c["OilTag:OwnerConnection"] ?? string.Empty,
            AppConnection = Prepared(c["OilTag:AppConnection"] ?? string.Empty),
            PhotoFolder = c["Photos:Folder"] ?? Path.Combine(AppContext.BaseDirectory, "photos"),
            Demo = c.GetValue("OilTag:Demo", false),
            PlainHttp = c.GetValue("OilTag:PlainHttp", false),
            SignInsAMinute = c.GetValue("OilTag:SignInsAMinute", 20),
            ShopRequestsAMinute = c.GetValue("OilTag:ShopRequestsAMinute", 60),
            Proxies = (c["OilTag:Proxies"] ?? string.Empty).Split([',', ' '], StringSplitOptions.RemoveEmptyEntries),
            Zone = zone,
            WrongZone = wrong,
            Gauge = c["Instruments:Gauge"] ?? string.Empty,
            Cells = c["Instruments:Cells"] ?? string.Empty,
            Level = c["Instruments:Level"] ?? string.Empty,
            Wrench = c["Instruments:Wrench"] ?? string.Empty,
            Museum = c["OilTag:Museum"] ?? (c.GetValue("OilTag:Demo", false) ? "Skerry Point Transport Trust" : string.Empty),
        };
    }
}
