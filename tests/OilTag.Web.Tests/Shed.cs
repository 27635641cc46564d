using System.Net;
using AngleSharp;
using AngleSharp.Html.Dom;
using AngleSharp.Html.Parser;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using OilTag.Data;
using OilTag.Data.Planning;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>The application on a copy of the demo, for one test class.</summary>
public class Shed : IAsyncLifetime
{
    private WebApplicationFactory<Program>? factory;

    public TestDatabase Database { get; private set; } = null!;

    public string PhotoFolder { get; } = Directory.CreateTempSubdirectory("oiltag-photos").FullName;

    public IServiceProvider Services => factory!.Services;

    protected virtual bool Demo => true;

    protected virtual bool PlainHttp => true;

    /// <summary>The clock of the application.</summary>
    public HandClock Clock { get; } = new();

    /// <summary>Host and port of the thickness gauge; empty when there is none.</summary>
    protected virtual string Gauge => string.Empty;

    /// <summary>Host and port of the load cells; empty when there are none.</summary>
    protected virtual string Cells => string.Empty;

    /// <summary>Host and port of the digital level; empty when there is none.</summary>
    protected virtual string Level => string.Empty;

    protected virtual string Wrench => string.Empty;

    public virtual async ValueTask InitializeAsync()
    {
        Database = await DatabaseAsync();
        factory = new WebApplicationFactory<Program>().WithWebHostBuilder(Configure);
        _ = factory.Server;
    }

    protected virtual Task<TestDatabase> DatabaseAsync() => TestDatabase.CloneAsync();

    protected void Configure(IWebHostBuilder b)
    {
        b.UseEnvironment("Development");
        b.UseSetting("OilTag:OwnerConnection", Database.Owner);
        b.UseSetting("OilTag:AppConnection", Database.App);
        b.UseSetting("OilTag:Demo", Demo ? "true" : "false");
        b.UseSetting("OilTag:PlainHttp", PlainHttp ? "true" : "false");
        b.UseSetting("OilTag:Quiet", "true");
        b.UseSetting("OilTag:SignInsAMinute", "1000");
        b.UseSetting("Photos:Folder", PhotoFolder);
        b.UseSetting("Instruments:Gauge", Gauge);
        b.UseSetting("Instruments:Cells", Cells);
        b.UseSetting("Instruments:Level", Level);
        b.UseSetting("Instruments:Wrench", Wrench);
        b.ConfigureTestServices(s => s.AddSingleton<NodaTime.IClock>(Clock));
        ConfigureMore(b);
    }

    /// <summary>What a shed of its own kind sets besides.</summary>
    protected virtual void ConfigureMore(IWebHostBuilder b)
    {
    }

    /// <summary>Another node of the same shed: the same database and photos, a process of its own in all but name.</summary>
    public WebApplicationFactory<Program> Node(Action<IWebHostBuilder>? more = null) => new WebApplicationFactory<Program>().WithWebHostBuilder(b =>
    {
        Configure(b);
        more?.Invoke(b);
    });

    /// <summary>A browser without scripts, signed in as one of the demo people, or as nobody.</summary>
    public Task<Visitor> AsAsync(string? person) => AsAsync(person, factory!);

    /// <summary>The same on one of several nodes.</summary>
    public async Task<Visitor> AsAsync(string? person, WebApplicationFactory<Program> node)
    {
        ArgumentNullException.ThrowIfNull(node);
        var visitor = new Visitor(node.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false, BaseAddress = new Uri(PlainHttp ? "http://localhost" : "https://localhost") }));
        if (person is not null)
        {
            await visitor.GetAsync("/sign-in");
            (await visitor.PostAsync("/sign-in?handler=Demo", ("person", person))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        }

        return visitor;
    }

    public async Task<T> AskAsync<T>(Func<OilTagDb, Task<T>> question)
    {
        await using var scope = Services.CreateAsyncScope();
        return await question(scope.ServiceProvider.GetRequiredService<OilTagDb>());
    }

    /// <summary>An open tag of a machine with nothing against it: off, on a shelf, without findings or packages.</summary>
    public Task<int> FreeTagAsync(string letter, int skip = 0) => AskAsync(db => (
        from t in db.Tags
        join m in db.Machines on t.MachineId equals m.Id
        where m.Letter == letter && t.End == null && !db.Findings.Any(f => f.TagId == t.Id) && !db.Packages.Any(k => k.TagId == t.Id)
            && db.Custodies.Any(c => c.TagId == t.Id && c.Until == null && c.Kind == Core.Strip.CustodyKind.Shelf)
            && !db.Precedences.Any(p => p.FirstSlotId == t.SlotId || p.ThenId == t.SlotId)
        orderby t.Number
        select t.Number).Skip(skip).FirstAsync());

    /// <summary>Has the present plan worked out, and names one of its operations.</summary>
    public async Task<string> PlanAsync()
    {
        var maker = new PlanMaker(Services.GetRequiredService<IDbContextFactory<OilTagDb>>(), Clock, Services.GetRequiredService<OilTagSettings>().Zone);
        await maker.AskAsync(default);
        while (await maker.WorkAsync(default))
        {
        }

        return (await Services.GetRequiredService<PlanLoader>().PresentAsync(default)).Plan!.Input.Operations[0].Id;
    }

    public virtual async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        if (factory is not null)
        {
            await factory.DisposeAsync();
        }

        await Database.DisposeAsync();
        Directory.Delete(PhotoFolder, recursive: true);
    }
}

/// <summary>
/// The clock of all tests: it begins at one moment, whatever the day is, and goes on by a millisecond at each look so that what is
/// recorded later is later. A test may stand it still.
/// </summary>
public sealed class HandClock : NodaTime.IClock
{
    /// <summary>The moment at which every test begins: a Thursday at noon.</summary>
    public static readonly NodaTime.Instant Start = NodaTime.Instant.FromUtc(2026, 11, 26, 12, 0);

    public static readonly NodaTime.DateTimeZone Zone = NodaTime.DateTimeZoneProviders.Tzdb["Europe/London"];

    private long looks;

    private NodaTime.Instant? still;

    /// <summary>The day of every test.</summary>
    public static NodaTime.LocalDate Today => Start.InZone(Zone).Date;

    public NodaTime.LocalDateTime Now => GetCurrentInstant().InZone(Zone).LocalDateTime;

    public NodaTime.Instant GetCurrentInstant() => still ?? Start + NodaTime.Duration.FromMilliseconds(Interlocked.Increment(ref looks));

    /// <summary>Stands it still at a time of today.</summary>
    public void Set(int hour, int minute) => still = Zone.AtLeniently(Today.At(new NodaTime.LocalTime(hour, minute))).ToInstant();

    /// <summary>A day so many days from today, as a form sends it.</summary>
    public static string Day(int days) => Today.PlusDays(days).ToString("uuuu-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
}

/// <summary>A browser without scripts: keeps cookies, reads pages, fills forms.</summary>
public sealed class Visitor(HttpClient client) : IDisposable
{
    private static readonly HtmlParser Parser = new();

    public HttpClient Client => client;

    /// <summary>The page that was read last.</summary>
    public IHtmlDocument Page { get; private set; } = null!;

    public string Html { get; private set; } = string.Empty;

    public async Task<HttpResponseMessage> GetAsync(string path)
    {
        var response = await client.GetAsync(path);
        await ReadAsync(response);
        return response;
    }

    /// <summary>Reads a page, follows redirects, and expects it to be there.</summary>
    public async Task OpenAsync(string path)
    {
        var response = await GetAsync(path);
        for (var i = 0; i < 3 && response.Headers.Location is { } to; i++)
        {
            response = await GetAsync(to.ToString());
        }

        response.StatusCode.ShouldBe(HttpStatusCode.OK, path);
    }

    /// <summary>Sends a form with the token of the page that was read last, and a fresh key.</summary>
    public Task<HttpResponseMessage> PostAsync(string path, params (string Name, string? Value)[] fields) => SendAsync(path, Guid.CreateVersion7(), fields);

    public async Task<HttpResponseMessage> SendAsync(string path, Guid key, params (string Name, string? Value)[] fields)
    {
        var all = fields.Where(f => f.Value is not null).Select(f => KeyValuePair.Create(f.Name, f.Value!)).ToList();
        all.Add(KeyValuePair.Create("key", key.ToString()));
        all.Add(KeyValuePair.Create("__RequestVerificationToken", Token));
        var response = await client.PostAsync(path, new FormUrlEncodedContent(all));
        await ReadAsync(response);
        return response;
    }

    public Task<HttpResponseMessage> UploadAsync(string path, string fileName, byte[] file, params (string Name, string Value)[] fields) => UploadAsAsync("photo", path, fileName, file, fields);

    public async Task<HttpResponseMessage> UploadAsAsync(string field, string path, string fileName, byte[] file, params (string Name, string Value)[] fields)
    {
        using var content = new MultipartFormDataContent();
        foreach (var (name, value) in fields)
        {
            content.Add(new StringContent(value), name);
        }

        content.Add(new StringContent(Guid.CreateVersion7().ToString()), "key");
        content.Add(new StringContent(Token), "__RequestVerificationToken");
        content.Add(new ByteArrayContent(file), field, fileName);
        var response = await client.PostAsync(path, content);
        await ReadAsync(response);
        return response;
    }

    public string Token => Page.QuerySelector("input[name=__RequestVerificationToken]")?.GetAttribute("value") ?? Page.Body?.GetAttribute("data-rt") ?? string.Empty;

    /// <summary>The sentence beside a field, or an empty string.</summary>
    public string Beside(string field) => Page.QuerySelector($"[name='{field}']")?.Closest(".fl")?.QuerySelector(".say")?.TextContent.Trim() ?? string.Empty;

    /// <summary>What a field shows.</summary>
    public string Typed(string field) => Page.QuerySelector($"[name='{field}']") switch
    {
        IHtmlTextAreaElement t => t.Value,
        IHtmlSelectElement s => s.Value ?? string.Empty,
        IHtmlInputElement { Type: "radio" } => Page.QuerySelector($"input[name='{field}']:checked")?.GetAttribute("value") ?? string.Empty,
        IHtmlInputElement i => i.Value,
        _ => string.Empty,
    };

    /// <summary>The words of the page, with plain blanks.</summary>
    public string Text => (Page.Body?.TextContent ?? string.Empty).Replace('\u00A0', ' ');

    public void Dispose() => client.Dispose();

    private async Task ReadAsync(HttpResponseMessage response)
    {
        Html = await response.Content.ReadAsStringAsync();
        if (response.Content.Headers.ContentType?.MediaType == "text/html")
        {
            Page = Parser.ParseDocument(Html);
        }
    }
}

/// <summary>The folder that the code lies in.</summary>
public static class Checkout
{
    public static string Root { get; } = Find();

    private static string Find()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(at.FullName, "OilTag.slnx")))
        {
            at = at.Parent!;
        }

        return at.FullName;
    }
}
