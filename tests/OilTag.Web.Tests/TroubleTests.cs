using System.Net;
using System.Net.Sockets;
using System.Text;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using OilTag.Data.Setup;
using OilTag.Data.Survey;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>The database away, a disk that is full, a table that is locked: a sentence, what was typed, and nothing half recorded.</summary>
public sealed class TroubleTests
{
    private static CancellationToken Ct => TestContext.Current.CancellationToken;

    /// <summary>A shed whose database is reached through a line that can be cut.</summary>
    private sealed class CutShed : Shed
    {
        private readonly Line line = new(new NpgsqlConnectionStringBuilder(TestDatabase.Server));

        protected override void ConfigureMore(IWebHostBuilder b)
        {
            ArgumentNullException.ThrowIfNull(b);
            b.UseSetting("OilTag:AppConnection", new NpgsqlConnectionStringBuilder(Database.App) { Host = "127.0.0.1", Port = line.Port }.ConnectionString);
        }

        public void Cut() => line.Cut();

        public void Mend() => line.Open();

        public override async ValueTask DisposeAsync()
        {
            line.Cut();
            await base.DisposeAsync();
        }
    }

    // Passes bytes on between the application and the database until it is cut.
    private sealed class Line
    {
        private readonly NpgsqlConnectionStringBuilder server;
        private TcpListener? listener;
        private List<TcpClient> open = [];

        public Line(NpgsqlConnectionStringBuilder server)
        {
            this.server = server;
            Open();
        }

        public int Port { get; private set; }

        public void Open()
        {
            listener = new TcpListener(IPAddress.Loopback, Port);
            listener.Start();
            Port = ((IPEndPoint)listener.LocalEndpoint).Port;
            _ = AcceptAsync(listener);
        }

        public void Cut()
        {
            listener?.Stop();
            listener = null;
            lock (this)
            {
                open.ForEach(c => c.Dispose());
                open = [];
            }
        }

        private async Task AcceptAsync(TcpListener from)
        {
            try
            {
                while (true)
                {
                    var here = await from.AcceptTcpClientAsync();
                    var there = new TcpClient();
                    await there.ConnectAsync(server.Host!, server.Port);
                    lock (this)
                    {
                        open.AddRange([here, there]);
                    }

                    _ = PassAsync(here, there);
                    _ = PassAsync(there, here);
                }
            }
            catch (Exception e) when (e is SocketException or ObjectDisposedException)
            {
            }
        }

        private static async Task PassAsync(TcpClient from, TcpClient to)
        {
            try
            {
                await from.GetStream().CopyToAsync(to.GetStream());
            }
            catch (Exception e) when (e is IOException or ObjectDisposedException or InvalidOperationException)
            {
            }
        }
    }

    [Fact]
    public async Task With_the_database_away_there_is_a_sentence_and_what_was_typed_is_sent_again_with_one_key()
    {
        await using var shed = new CutShed();
        await shed.InitializeAsync();
        using var tobit = await shed.AsAsync("tobit");
        await tobit.OpenAsync("/today/hours");
        var package = await shed.AskAsync(db => db.Packages.Where(k => k.ClosedAt == null).OrderBy(k => k.Number).Select(k => k.Number).FirstAsync(Ct));
        var key = Guid.CreateVersion7();
        shed.Cut();
        var read = await tobit.GetAsync("/log?m=G");
        read.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        read.Headers.RetryAfter!.Delta.ShouldBe(TimeSpan.FromSeconds(10));
        tobit.Page.QuerySelector("h1")!.TextContent.ShouldBe("The record is out of reach");
        tobit.Page.QuerySelector("a.act")!.GetAttribute("href").ShouldBe("/log?m=G");
        (await tobit.Client.GetAsync("/app.css", Ct)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await tobit.GetAsync("/health/live")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await tobit.GetAsync("/health")).StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        tobit.Html.ShouldContain("does not answer");

        // The token is that of the page that was open before.
        shed.Mend();
        await tobit.OpenAsync("/today/hours");
        shed.Cut();
        (await tobit.SendAsync("/today/hours", key, ("job", package.ToString(System.Globalization.CultureInfo.InvariantCulture)), ("Hours", "2"), ("On", HandClock.Day(-1)), ("Note", "let in the \"doubler\" & <filed> it"))).StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        tobit.Text.ShouldContain("Your typing is still there");
        var form = tobit.Page.QuerySelector("form")!;
        form.GetAttribute("action").ShouldBe("/today/hours");
        var fields = form.QuerySelectorAll("input[type=hidden]").Select(i => KeyValuePair.Create(i.GetAttribute("name")!, i.GetAttribute("value")!)).ToList();
        fields.Single(f => f.Key == "Note").Value.ShouldBe("let in the \"doubler\" & <filed> it");
        Guid.Parse(fields.Single(f => f.Key == "key").Value).ShouldBe(key);

        // The same for a part of a page: what is there stays there.
        using var request = new HttpRequestMessage(HttpMethod.Get, "/today?handler=Seen");
        request.Headers.Add("HX-Request", "true");
        var part = await tobit.Client.SendAsync(request, Ct);
        part.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        part.Headers.GetValues("HX-Reswap").Single().ShouldBe("none");
        (await part.Content.ReadAsStringAsync(Ct)).ShouldStartWith("<p role=\"alert\">The database does not answer just now.");

        shed.Mend();
        var before = await shed.Database.ScalarAsync<long>("select count(*) from hours");
        for (var i = 0; i < 2; i++)
        {
            using var again = new FormUrlEncodedContent(fields);
            var recorded = await tobit.Client.PostAsync("/today/hours", again, Ct);
            recorded.StatusCode.ShouldBe(HttpStatusCode.Redirect, await recorded.Content.ReadAsStringAsync(Ct));
        }

        (await shed.Database.ScalarAsync<long>("select count(*) from hours")).ShouldBe(before + 1);
    }

    /// <summary>A shed whose photos go to a disk that is full when a test says so: the kernel itself refuses.</summary>
    public sealed class FullShed : Shed
    {
        public Full Photos { get; private set; } = null!;

        protected override void ConfigureMore(IWebHostBuilder b) => b.ConfigureTestServices(s => s.AddSingleton<PhotoStore>(Photos = new Full(PhotoFolder)));
    }

    public sealed class Full(string folder) : PhotoStore(folder)
    {
        public bool IsFull { get; set; }

        protected override FileStream Create(string path) => IsFull ? new FileStream("/dev/full", FileMode.Open, FileAccess.Write) : base.Create(path);
    }

    public static TheoryData<string> Files => ["finding", "photo", "cell", "paper", "evidence", "outline"];

    [Theory]
    [MemberData(nameof(Files))]
    public async Task On_a_full_disk_neither_the_file_nor_its_record_is_kept_and_the_disk_is_said_to_be_full(string what)
    {
        await using var shed = new FullShed();
        await shed.InitializeAsync();
        using var una = await shed.AsAsync("una");
        var tag = await shed.FreeTagAsync("M");
        var picture = Pictures.Jpeg(320, 200);
        Task<HttpResponseMessage> SendAsync() => what switch
        {
            "finding" => una.UploadAsync($"/survey/new?tag={tag}", "photo.jpg", picture, ("What", "cracked at the flange"), ("Evidence", "Seen"), ("Origin", "ByStripping")),
            "photo" => una.UploadAsync("/f/1?handler=Photo", "photo.jpg", picture, ("Caption", "pitting")),
            "cell" => una.UploadAsync("/s/6/matrix/1-1", "photo.jpg", picture, ("Mark", "Bad"), ("Note", "split"), ("Loaded", HandClock.Start.ToString())),
            "paper" => una.UploadAsAsync("file", $"/t/{tag}?handler=Paper", "cert.pdf", Pictures.Pdf(), ("PaperKind", "Certificate"), ("Title", "Certificate 12 of the foundry")),
            "evidence" => una.UploadAsAsync("file", "/r/9/evidence", "sheet.pdf", Pictures.Pdf(), ("Kind", "Drawing"), ("Title", "Sheet 12")),
            _ => una.UploadAsAsync("file", "/machines/B/outline?handler=Bring", "car.svg", Encoding.UTF8.GetBytes("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 200 100\"><rect width=\"200\" height=\"100\"/></svg>")),
        };
        Task<string> CountsAsync() => shed.Database.ScalarAsync<string>("select (select count(*) from findings) || ' ' || (select count(*) from photos) || ' ' || (select count(*) from papers) || ' ' || (select count(*) from card_files) || ' ' || (select count(*) from outlines) || ' ' || (select count(*) from log_entries) || ' ' || (select count(*) from matrix_cells)");
        await una.OpenAsync(what == "cell" ? "/s/6/matrix/1-1" : "/me");
        var before = await CountsAsync();
        shed.Photos.IsFull = true;
        (await SendAsync()).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, una.Text);
        (una.Page.QuerySelector(".err")?.TextContent ?? una.Text).ShouldContain(FullDisk.Sentence);
        (await CountsAsync()).ShouldBe(before);
        Directory.EnumerateFileSystemEntries(shed.PhotoFolder).ShouldBeEmpty();
        if (what == "finding")
        {
            una.Typed("What").ShouldBe("cracked at the flange");
        }

        (await una.GetAsync("/health")).StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        una.Html.ShouldContain("cannot be written");
        shed.Photos.IsFull = false;
        (await una.GetAsync("/health")).StatusCode.ShouldBe(HttpStatusCode.OK);
        una.Html.ShouldContain(" GB left");

        // The database's own disk may be the one that is full.
        await shed.Database.RunAsync("create function no_room() returns trigger language plpgsql as $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$; create trigger no_room before insert on log_entries for each row execute function no_room()", asOwner: true);
        await una.OpenAsync(what == "cell" ? "/s/6/matrix/1-1" : "/me");
        (await SendAsync()).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, una.Text);
        (una.Page.QuerySelector(".err")?.TextContent ?? una.Text).ShouldContain(FullDisk.Sentence);
        (await CountsAsync()).ShouldBe(before);
        Directory.EnumerateFileSystemEntries(shed.PhotoFolder).ShouldBeEmpty();
        await shed.Database.RunAsync("drop trigger no_room on log_entries", asOwner: true);

        // With room again the same is recorded, file and all.
        await una.OpenAsync(what == "cell" ? "/s/6/matrix/1-1" : "/me");
        (await SendAsync()).StatusCode.ShouldBe(HttpStatusCode.Redirect, una.Text);
        (await CountsAsync()).ShouldNotBe(before);
        Directory.EnumerateFiles(shed.PhotoFolder).ShouldNotBeEmpty();
    }

    [Fact]
    public async Task A_table_that_is_locked_does_not_stop_the_pages_that_do_not_need_it()
    {
        await using var shed = new Shed();
        await shed.InitializeAsync();
        using var una = await shed.AsAsync("una");
        await una.OpenAsync("/c/1");
        await una.OpenAsync("/log");
        await using var holder = new NpgsqlConnection(shed.Database.Owner + ";Pooling=false");
        await holder.OpenAsync(Ct);
        await using var held = await holder.BeginTransactionAsync(Ct);
        await using (var take = new NpgsqlCommand("lock table check_points in access exclusive mode", holder))
        {
            await take.ExecuteNonQueryAsync(Ct);
        }

        // More than there are connections: each waits a while, then gets a sentence.
        var stuck = Enumerable.Range(0, 150).Select(_ => una.Client.GetAsync("/c/1", Ct)).ToList();
        var others = Enumerable.Range(0, 20).Select(_ => una.Client.GetAsync("/log", Ct)).ToList();
        foreach (var answer in await Task.WhenAll(others))
        {
            answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        foreach (var answer in await Task.WhenAll(stuck))
        {
            answer.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
            answer.Headers.RetryAfter.ShouldNotBeNull();
        }

        (await (await stuck[0]).Content.ReadAsStringAsync(Ct)).ShouldContain("Somebody else is at it");
        await held.RollbackAsync(Ct);
        (await una.GetAsync("/c/1")).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("55P03", 503, true)]
    [InlineData("57014", 503, true)]
    [InlineData("57P01", 503, true)]
    [InlineData("08006", 503, true)]
    [InlineData("53300", 503, true)]
    [InlineData("53100", 507, true)]
    [InlineData("22021", 400, false)]
    [InlineData("22003", 400, false)]
    [InlineData("23505", 500, true)]
    public void What_the_database_says_is_said_in_words(string state, int status, bool again)
    {
        var trouble = Trouble.Of(new InvalidOperationException("outer", new PostgresException("in the database", "ERROR", "ERROR", state)));
        trouble.Status.ShouldBe(status);
        trouble.Again.ShouldBe(again);
        trouble.Words.ShouldNotContain("in the database");
    }
}
