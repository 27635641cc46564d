using System.Net;
using Microsoft.AspNetCore.HttpOverrides;

namespace OilTag.Web.Setup;

/// <summary>Whose word is taken for where a request comes from: nobody's, but of the proxies that the settings name.</summary>
public static class Proxies
{
    /// <summary>Why the proxies that are set cannot be used; null when they can.</summary>
    public static string? WhyNot(IReadOnlyList<string> proxies) =>
        proxies.FirstOrDefault(p => !IPAddress.TryParse(p, out _) && !System.Net.IPNetwork.TryParse(p, out _)) is { } wrong
            ? $"OilTag__Proxies names “{wrong}”, which is no address such as 10.0.0.5 and no network such as 10.0.0.0/24."
            : null;

    public static void Configure(ForwardedHeadersOptions o, OilTagSettings settings)
    {
        ArgumentNullException.ThrowIfNull(o);
        ArgumentNullException.ThrowIfNull(settings);
        o.ForwardedHeaders = settings.Proxies.Count == 0 ? ForwardedHeaders.None : ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
        o.KnownProxies.Clear();
        o.KnownIPNetworks.Clear();
        foreach (var p in settings.Proxies)
        {
            if (IPAddress.TryParse(p, out var address))
            {
                o.KnownProxies.Add(address);
            }
            else if (System.Net.IPNetwork.TryParse(p, out var network))
            {
                o.KnownIPNetworks.Add(network);
            }
        }
    }
}
