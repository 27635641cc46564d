using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Reflection;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using OilTag.Core.Machines;
using OilTag.Data;
using OilTag.Data.Setup;
using OilTag.Demo;
using OilTag.Web.Setup;

namespace OilTag.Web.Tests;

/// <summary>What is wrong at the start is said in a sentence with a next step.</summary>
public sealed class StartUpTests
{
    private static readonly string Photos = Directory.CreateTempSubdirectory("oiltag-start").FullName;

    [Fact]
    public async Task No_database_named() =>
        (await StartUp.PrepareAsync(TestDatabase.Settings(string.Empty, string.Empty, Photos)))!.ShouldBe("No database is named. Set OilTag__OwnerConnection and OilTag__AppConnection, or start it with ./oiltag start.");

    [Fact]
    public async Task Nothing_answers_at_the_port()
    {
        var free = new TcpListener(IPAddress.Loopback, 0);
        free.Start();
        var port = ((IPEndPoint)free.LocalEndpoint).Port;
        free.Stop();
        var nowhere = $"Host=127.0.0.1;Port={port};Database=oiltag;Username=x;Password=y;Timeout=2";
        var said = (await StartUp.PrepareAsync(TestDatabase.Settings(nowhere, nowhere, Photos)))!;
        said.ShouldStartWith($"The database oiltag at 127.0.0.1:{port} does not answer:");
        said.ShouldEndWith("Check that PostgreSQL runs there and that user and password are right.");
    }

    [Fact]
    public async Task A_wrong_password()
    {
        var wrong = new NpgsqlConnectionStringBuilder(TestDatabase.Server) { Database = "postgres", Password = "not-it" }.ConnectionString;
        var said = (await StartUp.PrepareAsync(TestDatabase.Settings(wrong, wrong, Photos)))!;
        said.ShouldContain("does not answer");
        said.ShouldNotContain("not-it");
    }

    [Fact]
    public async Task Migrations_are_missing_and_nobody_may_apply_them()
    {
        await using var empty = await TestDatabase.EmptyAsync();
        var said = (await StartUp.PrepareAsync(TestDatabase.Settings(string.Empty, empty.Owner, Photos, demo: false)))!;
        said.ShouldContain("The database lacks");
        said.ShouldContain("OilTag__OwnerConnection");
    }

    [Fact]
    public async Task The_photo_folder_cannot_be_written()
    {
        var said = (await StartUp.PrepareAsync(TestDatabase.Settings("x", "x", "/dev/null/photos")))!;
        said.ShouldStartWith("The photo folder /dev/null/photos cannot be written:");
        said.ShouldContain("Photos__Folder");
    }

    [Fact]
    public async Task The_port_is_taken()
    {
        await using var database = await TestDatabase.CloneAsync();
        var taken = new TcpListener(IPAddress.Loopback, 0);
        taken.Start();
        using var process = new Process { StartInfo = new ProcessStartInfo("dotnet", [typeof(Program).Assembly.Location]) { RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false } };
        foreach (var (name, value) in new[]
        {
            ("OilTag__OwnerConnection", database.Owner), ("OilTag__AppConnection", database.App), ("Photos__Folder", Photos), ("OilTag__Quiet", "true"), ("ASPNETCORE_URLS", $"http://127.0.0.1:{((IPEndPoint)taken.LocalEndpoint).Port}"),
        })
        {
            process.StartInfo.Environment[name] = value;
        }

        process.Start();
        var said = await process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        taken.Stop();
        process.ExitCode.ShouldBe(1);
        said.ShouldContain("Its address is taken");
    }

    [Fact]
    public async Task The_whole_log_holds_no_secret()
    {
        await using var database = await TestDatabase.CloneAsync();
        var free = new TcpListener(IPAddress.Loopback, 0);
        free.Start();
        var address = $"http://127.0.0.1:{((IPEndPoint)free.LocalEndpoint).Port}";
        free.Stop();
        using var process = new Process { StartInfo = new ProcessStartInfo("dotnet", [typeof(Program).Assembly.Location]) { RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false } };
        foreach (var (name, value) in new[] { ("OilTag__AppConnection", database.App), ("Photos__Folder", Photos), ("OilTag__PlainHttp", "true"), ("ASPNETCORE_URLS", address) })
        {
            process.StartInfo.Environment[name] = value;
        }

        process.Start();
        var asks = 0;
        List<string> secrets = ["quite-a-wrong-password", "a lamp under the stairs", "another lamp altogether", DemoStory.Password, new NpgsqlConnectionStringBuilder(database.App).Password!];
        var output = process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        var errors = process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        try
        {
            using var visitor = new Visitor(new HttpClient(new HttpClientHandler { AllowAutoRedirect = false }) { BaseAddress = new Uri(address) });
            for (var i = 0; ; i++)
            {
                try
                {
                    await visitor.GetAsync("/sign-in");
                    break;
                }
                catch (HttpRequestException) when (i < 200)
                {
                    await Task.Delay(100, TestContext.Current.CancellationToken);
                }
            }

            await visitor.PostAsync("/sign-in", ("Name", "una"), ("Password", "quite-a-wrong-password"));
            visitor.Text.ShouldContain("do not match");
            var signedIn = await visitor.PostAsync("/sign-in", ("Name", "una"), ("Password", DemoStory.Password));
            signedIn.StatusCode.ShouldBe(HttpStatusCode.Redirect);
            secrets.AddRange(signedIn.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0].Split('=')[1]));
            await visitor.OpenAsync("/r/9/edit");
            await database.RunAsync("update stages set shop = 'Crag End Platers' where id = (select s.id from stages s join route_cards c on c.id = s.route_card_id where c.number = 9 order by s.step limit 1)", asOwner: true);
            await visitor.PostAsync("/r/9/shop", ("LinkShop", "Crag End Platers"), ("LinkDays", "30"));
            var shop = visitor.Page.QuerySelector(".secret")!.TextContent.Trim()[^40..];
            await visitor.PostAsync("/me?handler=Feed");
            await visitor.OpenAsync("/me");
            var feed = new Uri(visitor.Page.QuerySelector("code.val")!.TextContent).AbsolutePath;
            secrets.AddRange([visitor.Token, shop, feed[10..50]]);
            await visitor.PostAsync("/me?handler=Out");
            await visitor.GetAsync("/sign-in");
            await visitor.PostAsync("/sign-in", ("Name", "hesper"), ("Password", DemoStory.Password));
            await visitor.OpenAsync("/keep");
            await visitor.PostAsync("/keep?handler=Person", ("PersonName", "Wenna Tull"), ("SignIn", "wenna"), ("Roles", "helper"));
            var join = new Uri(visitor.Page.QuerySelector(".secret")!.TextContent).AbsolutePath;
            await visitor.OpenAsync("/me/second");
            await visitor.PostAsync("/me/second");
            await visitor.OpenAsync("/me/second");
            secrets.AddRange([join[6..], visitor.Page.QuerySelector("code.val")!.TextContent.Replace(" ", string.Empty, StringComparison.Ordinal)]);

            // Every address with a secret in it, well and badly asked, as often as it takes to be refused.
            for (var i = 0; i < 70; i++)
            {
                foreach (var asked in new[] { $"/shop/{shop}", $"/shop/{shop}/{Guid.CreateVersion7()}", $"/shop/{shop}/none/such", feed, feed + "?x=1", join, $"/x/../shop/{shop}", $"/./shop//{shop}", $"/SHOP/{shop.ToUpperInvariant()}" })
                {
                    using var answer = await visitor.Client.GetAsync(asked, TestContext.Current.CancellationToken);
                    asks++;
                }
            }

            await visitor.PostAsync(join, ("Password", "a lamp under the stairs"), ("Again", "another lamp altogether"));
            await database.RunAsync("alter table check_points rename to hidden_points", asOwner: true);
            (await visitor.GetAsync("/c/1")).StatusCode.ShouldBe(HttpStatusCode.InternalServerError);
        }
        finally
        {
            process.Kill();
        }

        var said = await output + await errors;
        asks.ShouldBe(630);
        said.Split('\n').Length.ShouldBeGreaterThan(asks);
        said.ShouldContain("/shop/…");
        said.ShouldContain("/calendar/…");
        said.ShouldContain("/join/…");
        said.ShouldContain("A page broke");
        secrets.Count.ShouldBeGreaterThan(6);
        foreach (var secret in secrets)
        {
            secret.Length.ShouldBeGreaterThan(11);
            said.Contains(secret, StringComparison.OrdinalIgnoreCase).ShouldBeFalse($"the log holds {secret}");
        }
    }

    [Fact]
    public async Task Preparing_twice_and_by_two_at_once_is_harmless()
    {
        await using var empty = await TestDatabase.EmptyAsync();
        await Task.WhenAll(Database.PrepareAsync(empty.Owner, empty.App, TestContext.Current.CancellationToken), Database.PrepareAsync(empty.Owner, empty.App, TestContext.Current.CancellationToken));
        await Database.PrepareAsync(empty.Owner, empty.App, TestContext.Current.CancellationToken);
        (await StartUp.PrepareAsync(TestDatabase.Settings(string.Empty, empty.App, Photos, demo: false))).ShouldBeNull();
    }

    [Fact]
    public async Task The_first_keeper_of_a_real_installation_can_be_made()
    {
        await using var empty = await TestDatabase.EmptyAsync();
        var settings = TestDatabase.Settings(empty.Owner, empty.App, Photos, demo: false);
        (await StartUp.PrepareAsync(settings)).ShouldBeNull();
        (await StartUp.AddKeeperAsync(settings, "Anwen Post", "anwen", "a-long-enough-one")).ShouldBe("Anwen Post can sign in as anwen.");
        (await empty.ScalarAsync<string>("select r.name from accounts a join account_roles ar on ar.user_id = a.id join roles r on r.id = ar.role_id where a.user_name = 'anwen'")).ShouldBe("keeper");
        (await empty.ScalarAsync<string>("select password_hash from accounts where user_name = 'anwen'")).ShouldNotContain("enough");
    }
}

/// <summary>Backup writes one file; restore brings it back into an empty database with nothing lost.</summary>
public sealed class BackupTests(Shed shed) : IClassFixture<Shed>
{
    [Fact]
    public async Task Nothing_is_lost_between_a_backup_and_its_restore()
    {
        using var dilys = await shed.AsAsync("dilys");
        var number = await shed.AskAsync(db => db.Findings.Select(f => f.Number).FirstAsync());
        await dilys.OpenAsync($"/f/{number}");
        (await dilys.UploadAsync($"/f/{number}?handler=Photo", "photo.jpg", Pictures.Jpeg(200, 120))).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        var root = Checkout.Root;
        var run = Path.Combine(root, ".run", "test");
        var photos = Path.Combine(run, "photos", shed.Database.Name);
        Directory.CreateDirectory(photos);
        foreach (var file in Directory.GetFiles(shed.PhotoFolder))
        {
            File.Copy(file, Path.Combine(photos, Path.GetFileName(file)));
        }

        // What waits to be taken in, and what is being written, is not part of the record.
        Directory.CreateDirectory(Path.Combine(photos, "imports"));
        await File.WriteAllTextAsync(Path.Combine(photos, "imports", "waiting"), "a machine", TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(Path.Combine(photos, "half.part"), "half a photo", TestContext.Current.CancellationToken);
        var restored = shed.Database.Name + "_back";
        var backup = Path.Combine(Path.GetTempPath(), shed.Database.Name + ".backup");
        try
        {
            await OilTagAsync(root, run, "backup", backup);
            File.GetUnixFileMode(backup).ShouldBe(UnixFileMode.UserRead | UnixFileMode.UserWrite);
            await OilTagAsync(root, run, "restore", backup, restored);
            var before = await FingerprintsAsync(TestDatabase.Connection(shed.Database.Name, owner: true));
            var after = await FingerprintsAsync(TestDatabase.Connection(restored, owner: true));
            before.Count.ShouldBeGreaterThan(30);
            before["log_entries"].Rows.ShouldBeGreaterThan(1000);
            after.ShouldBe(before);
            foreach (var file in Directory.GetFiles(shed.PhotoFolder))
            {
                (await File.ReadAllBytesAsync(Path.Combine(run, "photos", restored, Path.GetFileName(file)), TestContext.Current.CancellationToken)).ShouldBe(await File.ReadAllBytesAsync(file, TestContext.Current.CancellationToken));
            }

            Directory.GetFileSystemEntries(Path.Combine(run, "photos", restored)).Length.ShouldBe(Directory.GetFiles(shed.PhotoFolder).Length);

            // Roles and grants are not in a backup; the next start gives them again, and numbers go on where they were.
            (await StartUp.PrepareAsync(TestDatabase.Settings(TestDatabase.Connection(restored, owner: true), TestDatabase.Connection(restored, owner: false), shed.PhotoFolder))).ShouldBeNull();
            await using var connection = new NpgsqlConnection(TestDatabase.Connection(restored, owner: false) + ";Pooling=false");
            await connection.OpenAsync(TestContext.Current.CancellationToken);
            await using var change = new NpgsqlCommand("delete from log_entries", connection);
            (await Should.ThrowAsync<PostgresException>(() => change.ExecuteNonQueryAsync(TestContext.Current.CancellationToken))).SqlState.ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
            await using var next = new NpgsqlCommand("select nextval('tag_no') > (select max(number) from tags)", connection);
            (await next.ExecuteScalarAsync(TestContext.Current.CancellationToken)).ShouldBe(true);

            (await Should.ThrowAsync<InvalidOperationException>(() => OilTagAsync(root, run, "restore", backup, restored))).Message.ShouldContain("is not empty");
            (await Should.ThrowAsync<InvalidOperationException>(() => OilTagAsync(root, run, "backup", backup))).Message.ShouldContain("is there already");
            (await Should.ThrowAsync<InvalidOperationException>(() => OilTagAsync(root, run, "restore", Path.Combine(root, "README.md"), "other"))).Message.ShouldContain("is not a backup");
        }
        finally
        {
            File.Delete(backup);
            await shed.Database.RunAsync($"drop database if exists {restored} with (force)", asOwner: true);
            Directory.Delete(photos, recursive: true);
            if (Directory.Exists(Path.Combine(run, "photos", restored)))
            {
                Directory.Delete(Path.Combine(run, "photos", restored), recursive: true);
            }
        }
    }

    private async Task OilTagAsync(string root, string run, params string[] arguments)
    {
        using var process = new Process { StartInfo = new ProcessStartInfo(Path.Combine(root, "oiltag"), arguments) { RedirectStandardError = true, RedirectStandardOutput = true, UseShellExecute = false, WorkingDirectory = root } };
        process.StartInfo.Environment["OILTAG_RUN"] = run;
        process.StartInfo.Environment["OILTAG_DB"] = shed.Database.Name;
        process.Start();
        var output = process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        var error = await process.StandardError.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        if (process.ExitCode != 0)
        {
            throw new InvalidOperationException(error + await output);
        }
    }

    /// <summary>Rows and a hash over all of them for every table and sequence.</summary>
    private static async Task<Dictionary<string, (long Rows, string Hash)>> FingerprintsAsync(string connection)
    {
        await using var c = new NpgsqlConnection(connection + ";Pooling=false");
        await c.OpenAsync();
        var names = new List<(string Name, bool Table)>();
        await using (var list = new NpgsqlCommand("select relname::text, relkind = 'r' from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'S') order by 1", c))
        await using (var reader = await list.ExecuteReaderAsync())
        {
            while (await reader.ReadAsync())
            {
                names.Add((reader.GetString(0), reader.GetBoolean(1)));
            }
        }

        var result = new Dictionary<string, (long, string)>();
        foreach (var (name, table) in names)
        {
            await using var hash = new NpgsqlCommand(table ? $"select count(*), coalesce(md5(string_agg(t::text, '|' order by t::text)), '') from \"{name}\" t" : $"select last_value, is_called::text from \"{name}\"", c);
            await using var reader = await hash.ExecuteReaderAsync();
            await reader.ReadAsync();
            result[name] = (reader.GetInt64(0), reader.GetString(1));
        }

        return result;
    }
}

/// <summary>Dependencies point inwards: pages to data to core; the core knows units, dates and maths alone.</summary>
public sealed class ArchitectureTests
{
    private static IEnumerable<string> References(Assembly a) => a.GetReferencedAssemblies().Select(r => r.Name!);

    [Fact]
    public void The_core_depends_on_nothing_but_units_dates_and_maths() =>
        References(typeof(PlaceTree).Assembly).Where(r => !r.StartsWith("System", StringComparison.Ordinal) && r is not ("NodaTime" or "UnitsNet" or "MathNet.Numerics" or "netstandard")).ShouldBeEmpty();

    [Fact]
    public void The_core_reads_no_clock_no_file_and_no_chance_of_its_own()
    {
        var source = Directory.GetFiles(Path.Combine(Source(), "OilTag.Core"), "*.cs", SearchOption.AllDirectories).Where(f => !f.Contains("/obj/", StringComparison.Ordinal)).Select(f => (f, Text: File.ReadAllText(f))).ToList();
        source.Count.ShouldBeGreaterThan(20);
        foreach (var forbidden in new[] { "DateTime.", "System" + "Clock", "new Random()", "Random.Shared", "File.", "HttpClient", "Environment." })
        {
            source.Where(s => s.Text.Contains(forbidden, StringComparison.Ordinal)).Select(s => s.f).ShouldBeEmpty(forbidden);
        }
    }

    [Fact]
    public void The_machines_clock_and_the_zone_of_Greenwich_are_read_where_the_programs_begin_and_nowhere_else()
    {
        string[] begins = ["src/OilTag.Web/Program.cs", "src/OilTag.Worker/Program.cs", "src/OilTag.Demo/Program.cs"];
        string[] forbidden = ["System" + "Clock", "DateTime." + "UtcNow", "DateTime." + "Now", "DateTime." + "Today", "DateTimeOffset." + "UtcNow", "DateTimeOffset." + "Now", "InUtc" + "()", "time zone " + "'UTC'", "now" + "()", "current_" + "date"];
        var files = new[] { "src", "tests" }
            .SelectMany(d => Directory.EnumerateFiles(Path.Combine(Checkout.Root, d), "*", SearchOption.AllDirectories))
            .Where(f => Path.GetExtension(f) is ".cs" or ".cshtml" or ".sql")
            .Select(f => Path.GetRelativePath(Checkout.Root, f).Replace('\\', '/'))
            .Where(f => !f.Contains("/obj/", StringComparison.Ordinal) && !f.Contains("/bin/", StringComparison.Ordinal) && !f.Contains("/node_modules/", StringComparison.Ordinal))
            .ToList();
        files.Count.ShouldBeGreaterThan(500);
        files.ShouldContain(begins[0]);
        files.Except(begins)
            .SelectMany(f => forbidden.Where(File.ReadAllText(Path.Combine(Checkout.Root, f)).Contains).Select(w => f + ": " + w))
            .ShouldBeEmpty();
    }

    [Fact]
    public void Data_does_not_know_the_pages() => References(typeof(OilTagDb).Assembly).ShouldNotContain("OilTag.Web");

    [Fact]
    public void Nothing_that_ships_knows_the_demo() =>
        new[] { typeof(PlaceTree).Assembly, typeof(OilTagDb).Assembly, typeof(Program).Assembly }.SelectMany(References).ShouldNotContain("OilTag.Demo");

    [Fact]
    public void Every_subject_folder_of_data_and_pages_is_a_subject_of_the_core()
    {
        string[] Folders(string path) => [.. Directory.GetDirectories(Path.Combine(Source(), path)).Select(d => Path.GetFileName(d)!)];
        var core = Folders("OilTag.Core");
        Folders("OilTag.Data").Except(["Migrations", "Setup", "bin", "obj"]).Except(core).ShouldBeEmpty();
        Folders("OilTag.Web/Pages").Except(["Shared", "Account", "Today", "Plan"]).Except(core).ShouldBeEmpty();
    }

    private static string Source()
    {
        var at = new DirectoryInfo(AppContext.BaseDirectory);
        while (!Directory.Exists(Path.Combine(at.FullName, "src", "OilTag.Core")))
        {
            at = at.Parent!;
        }

        return Path.Combine(at.FullName, "src");
    }
}
