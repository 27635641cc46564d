using System.Net.Sockets;
using System.Text;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.Net.Http.Headers;
using Npgsql;
using OilTag.Data.Setup;

namespace OilTag.Web.Setup;

/// <summary>What is said of a trouble.</summary>
/// <param name="Status">HTTP status.</param>
/// <param name="Head">In a few words.</param>
/// <param name="Words">What it means and what to do.</param>
/// <param name="Again">True when the same request may go well in a moment.</param>
public sealed record Trouble(int Status, string Head, string Words, bool Again)
{
    private const string Kept = "Nothing was recorded, and nothing of yours is lost.";

    /// <summary>What a failure means to whoever asked.</summary>
    public static Trouble Of(Exception e)
    {
        ArgumentNullException.ThrowIfNull(e);
        for (Exception? at = e; at is not null; at = at.InnerException)
        {
            switch (at)
            {
                case PostgresException { SqlState: PostgresErrorCodes.LockNotAvailable or PostgresErrorCodes.QueryCanceled or PostgresErrorCodes.DeadlockDetected or PostgresErrorCodes.SerializationFailure }:
                    return new(StatusCodes.Status503ServiceUnavailable, "Somebody else is at it", $"What you asked for is held by a longer piece of work, such as a backup being brought back. {Kept} Wait a moment, then try again.", true);
                case PostgresException { SqlState: PostgresErrorCodes.CharacterNotInRepertoire or PostgresErrorCodes.UntranslatableCharacter or PostgresErrorCodes.NumericValueOutOfRange or PostgresErrorCodes.DatetimeFieldOverflow }:
                    return new(StatusCodes.Status400BadRequest, "Not like that", $"There is a sign, a number or a day in it that cannot be kept. {Kept} Go back and type it another way.", false);
                case PostgresException { SqlState: var s } when s.StartsWith("57P", StringComparison.Ordinal) || s.StartsWith("08", StringComparison.Ordinal) || s == PostgresErrorCodes.TooManyConnections:
                case NpgsqlException { IsTransient: true } and not PostgresException:
                case SocketException or TimeoutException:
                    return new(StatusCodes.Status503ServiceUnavailable, "The record is out of reach", $"The database does not answer just now. {Kept} Wait a moment, then try again; if it goes on, tell the keeper.", true);
                case BadHttpRequestException { StatusCode: var status }:
                    return status == StatusCodes.Status413PayloadTooLarge
                        ? new(status, "Too large", $"The file is larger than is taken here. {Kept} Send a smaller one.", false)
                        : new(status, "Not like that", $"The request was cut short, or is not one that this address takes. {Kept}", false);
                case AntiforgeryValidationException or InvalidDataException or DecoderFallbackException:
                    return new(StatusCodes.Status400BadRequest, "Not like that", $"The form was not whole, or not written as a browser writes it. {Kept} Go back, load the page again, and send it once more.", false);
            }
        }

        return FullDisk.Is(e)
            ? new(StatusCodes.Status507InsufficientStorage, "The disk is full", FullDisk.Sentence, true)
            : new(StatusCodes.Status500InternalServerError, "Something broke", "It is our fault, and it is written down. Nothing of yours was half recorded. Try again in a moment.", true);
    }
}

/// <summary>
/// Answers in place of a page that broke, without the database and without anything that could break with it. What somebody typed is in the answer, with a key that
/// sends it again.
/// </summary>
public sealed class Troubles(ILogger<Troubles> log) : IExceptionHandler
{
    private const int Patience = 10;

    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        ArgumentNullException.ThrowIfNull(httpContext);
        var trouble = Trouble.Of(exception);
        if (trouble.Status == StatusCodes.Status500InternalServerError)
        {
            log.LogError(exception, "A page broke");
        }
        else
        {
            log.LogWarning("Answered {Status}: {Why}", trouble.Status, (exception.InnerException ?? exception).Message);
        }

        httpContext.Response.StatusCode = trouble.Status;
        httpContext.Response.ContentType = "text/html; charset=utf-8";
        httpContext.Response.Headers.CacheControl = "no-store";
        if (trouble.Again)
        {
            httpContext.Response.Headers.RetryAfter = Patience.ToString(System.Globalization.CultureInfo.InvariantCulture);
        }

        var typed = trouble.Again && HttpMethods.IsPost(httpContext.Request.Method) ? await TypedAsync(httpContext.Request, cancellationToken) : null;
        await httpContext.Response.WriteAsync(httpContext.Request.Headers.ContainsKey("HX-Request") ? Part(httpContext, trouble) : Page(httpContext.Request, trouble, typed), cancellationToken);
        return true;
    }

    /// <summary>Refuses what came without TLS where TLS is wanted: the cookies would not be sent.</summary>
    public static async Task WantTlsAsync(HttpContext http, RequestDelegate next)
    {
        ArgumentNullException.ThrowIfNull(http);
        ArgumentNullException.ThrowIfNull(next);
        if (http.Request.IsHttps || http.Request.Path.StartsWithSegments("/health"))
        {
            await next(http);
            return;
        }

        http.Response.StatusCode = StatusCodes.Status400BadRequest;
        http.Response.ContentType = "text/html; charset=utf-8";
        await http.Response.WriteAsync(Page(http.Request, new Trouble(http.Response.StatusCode, "Open it with https", "This shed is reached by https:// only. If a proxy in front of it does that, the keeper names the proxy in the settings.", false), null));
    }

    /// <summary>Refuses a form in another encoding than that of the pages.</summary>
    public static async Task WantUtf8Async(HttpContext http, RequestDelegate next)
    {
        ArgumentNullException.ThrowIfNull(http);
        ArgumentNullException.ThrowIfNull(next);
        if (!MediaTypeHeaderValue.TryParse(http.Request.ContentType, out var type) || !type.Charset.HasValue || type.Charset.Equals("utf-8", StringComparison.OrdinalIgnoreCase))
        {
            await next(http);
            return;
        }

        http.Response.StatusCode = StatusCodes.Status415UnsupportedMediaType;
        http.Response.ContentType = "text/html; charset=utf-8";
        await http.Response.WriteAsync(Page(http.Request, new Trouble(http.Response.StatusCode, "Not like that", "The form came in another encoding than that of the page. Nothing was recorded. Go back, load the page again, and send it once more.", false), null));
    }

    // Files cannot be put into a page; everything else can.
    private static async Task<(IReadOnlyList<KeyValuePair<string, string>> Values, bool Files)?> TypedAsync(HttpRequest request, CancellationToken ct)
    {
        try
        {
            if (!request.HasFormContentType)
            {
                return null;
            }

            var form = await request.ReadFormAsync(ct);
            return ([.. form.SelectMany(f => f.Value.Select(v => KeyValuePair.Create(f.Key, v ?? string.Empty)))], form.Files.Count > 0);
        }
        catch (Exception e) when (e is InvalidDataException or BadHttpRequestException or IOException)
        {
            return null;
        }
    }

    // A part of a page is not swapped for a sentence: what is there stays, and the sentence stands in it.
    private static string Part(HttpContext http, Trouble t)
    {
        http.Response.Headers["HX-Reswap"] = "none";
        return $"<p role=\"alert\">{Text(t.Words)}</p>";
    }

    private static string Page(HttpRequest request, Trouble t, (IReadOnlyList<KeyValuePair<string, string>> Values, bool Files)? typed)
    {
        var page = new StringBuilder();
        page.Append("<!doctype html>\n<html lang=\"en-GB\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width,initial-scale=1\">")
            .Append("<title>").Append(Text(t.Head)).Append(" · Oil Tag</title><link rel=\"icon\" href=\"/icon.svg\" type=\"image/svg+xml\"><link rel=\"stylesheet\" href=\"/app.css\"></head>")
            .Append("<body><main class=\"sheet\" id=\"sheet\"><div class=\"headline\"><h1>").Append(Text(t.Head)).Append("</h1><p>").Append(Text(t.Words)).Append("</p></div><div class=\"body stack\">");
        if (typed is { } f)
        {
            page.Append("<p>Your typing is still there").Append(f.Files ? "; the photo or file is chosen again on the page before." : ".").Append("</p>")
                .Append("<form method=\"post\" action=\"").Append(Text(request.PathBase + request.Path + request.QueryString)).Append("\">");
            foreach (var (name, value) in f.Values)
            {
                page.Append("<input type=\"hidden\" name=\"").Append(Text(name)).Append("\" value=\"").Append(Text(value)).Append("\">");
            }

            page.Append("<button class=\"act\">Send it again</button></form>");
        }
        else if (t.Again && HttpMethods.IsGet(request.Method))
        {
            page.Append("<p class=\"acts\"><a class=\"act\" href=\"").Append(Text(request.PathBase + request.Path + request.QueryString)).Append("\">Try again</a></p>");
        }
        else
        {
            page.Append("<p class=\"acts\"><a class=\"act\" href=\"/\">To the shed</a></p>");
        }

        return page.Append("</div></main></body></html>\n").ToString();
    }

    private static string Text(string text) => HtmlEncoder.Default.Encode(text);
}
