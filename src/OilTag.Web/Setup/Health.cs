using System.Globalization;
using System.Text.Json;
using Microsoft.Extensions.Diagnostics.HealthChecks;
using OilTag.Data;
using OilTag.Data.Survey;

namespace OilTag.Web.Setup;

/// <summary>The database answers.</summary>
public sealed class DatabaseCheck(OilTagDb db) : IHealthCheck
{
    public async Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        try
        {
            return await db.Database.CanConnectAsync(cancellationToken) ? HealthCheckResult.Healthy("answers") : HealthCheckResult.Unhealthy("does not answer");
        }
        catch (Npgsql.NpgsqlException)
        {
            return HealthCheckResult.Unhealthy("does not answer");
        }
    }

    /// <summary>Writes which part is well and which is not, without a word about the inside.</summary>
    public static Task WriteAsync(HttpContext c, HealthReport report)
    {
        ArgumentNullException.ThrowIfNull(c);
        ArgumentNullException.ThrowIfNull(report);
        c.Response.ContentType = "application/json";
        return c.Response.WriteAsync(JsonSerializer.Serialize(new { status = report.Status.ToString(), parts = report.Entries.ToDictionary(e => e.Key, e => e.Value.Description) }));
    }
}

/// <summary>Photos can be written, and how much room is left for them.</summary>
public sealed class PhotoFolderCheck(PhotoStore photos) : IHealthCheck
{
    /// <summary>Room at which it is said to be getting short: some hundred photos.</summary>
    public const long Short = 1024L * 1024 * 1024;

    public Task<HealthCheckResult> CheckHealthAsync(HealthCheckContext context, CancellationToken cancellationToken = default)
    {
        if (photos.WhyNotWritable() is not null)
        {
            return Task.FromResult(HealthCheckResult.Unhealthy("cannot be written"));
        }

        var free = photos.BytesFree();
        var words = string.Create(CultureInfo.InvariantCulture, $"can be written, {free / 1e9:0.0} GB left");
        return Task.FromResult(free < Short ? HealthCheckResult.Degraded(words) : HealthCheckResult.Healthy(words));
    }
}

/// <summary>Everything comes from this host, nothing inline.</summary>
public sealed class SecurityHeaders(RequestDelegate next)
{
    public const string Policy = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob:; font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

    public Task InvokeAsync(HttpContext c)
    {
        ArgumentNullException.ThrowIfNull(c);
        var h = c.Response.Headers;
        h.ContentSecurityPolicy = Policy;
        h.XContentTypeOptions = "nosniff";
        h["Referrer-Policy"] = "same-origin";
        h["Permissions-Policy"] = "camera=(self), geolocation=(), microphone=()";
        h["Cross-Origin-Opener-Policy"] = "same-origin";
        if (c.Request.Path.StartsWithSegments("/fonts"))
        {
            // The folder carries the version of the fonts, so a new one has another address.
            c.Response.OnStarting(() =>
            {
                c.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
                return Task.CompletedTask;
            });
        }

        return next(c);
    }
}
